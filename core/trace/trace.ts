import { withId } from '../data/with-id';
import type { Build, TraceCase } from '../build/schema';
import type { DeviceKind } from '../devices/kind';
import { faultId, type Fault } from '../circuit/faults';
import { CLOSED_CONTACT_OHMS, OPEN_CONTACT_OHMS } from '../circuit/figures';
import { updated } from '../circuit/update';
import { pulsedOf } from '../circuit/pulsed';
import { meanOf } from '../circuit/pulses';
import { meterVolts, ohmsBetween, readVolts, readingWords, voltsBetween, type Reading } from '../circuit/reading';
import type { CircuitState } from '../circuit/states';
import { type Solution, solveCircuit } from '../circuit/solve';
import { deviceAt, ecuEnd, pinAt, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import { teethPerTurn } from '../wheels/wheel';
import { formatOhms, formatVolts } from '../units/format';
import { coneOf, hypothesesFor, type Hypothesis } from './hypotheses';
import { symptomsOf, type Symptom } from './symptoms';
import { stateOf, testsFor, type TraceTest } from './tests';

/**
 * Fault tracing by Bayes' rule: prior by experience, likelihood of each reading from the circuit solved with the fault
 * in it. Readings are taken as independent given the fault; a flat hypothesis stands for what the model does not hold.
 */
export interface Candidate {
  readonly id: string;
  readonly title: string;
  readonly where: EndKey | null;
  readonly probability: number;
  /** One sentence a reading: what this fault predicts against what was measured. */
  readonly evidence: readonly {
    readonly sentence: string;
    /** Null: a loom without any fault reads the same, so it says nothing. */
    readonly agrees: boolean | null;
  }[];
  /** The untaken test that best tells it from the next candidate. */
  readonly tellApart: { readonly test: TraceTest; readonly here: string; readonly next: string } | null;
}

export interface NextTest {
  readonly test: TraceTest;
  /** Expected information, bits. */
  readonly bits: number;
  readonly expectedHealthy: string;
}

export interface TraceAnswer {
  readonly symptom: Symptom;
  readonly candidates: readonly Candidate[];
  readonly next: readonly NextTest[];
  readonly tests: readonly TraceTest[];
  readonly solved: number;
}

/** A prediction: a number, null for an open line, or undefined when the model cannot say. */
type Predicted = number | null | undefined;

const NOT_HELD = 'not-in-the-model';
/** Weight of 'something else', and how likely it makes any reading. */
const ELSE_PRIOR = 0.5;
const ELSE_LIKELIHOOD = 0.15;
/** Of a wire held by both its ends all that can be wrong is considered: something else hardly makes it read so. */
const ELSE_AT_WIRE = 0.02;
const elseLikelihood = ({ id }: Pick<TraceTest, 'id'>): number =>
  id.startsWith('r|') && id.includes('~') ? ELSE_AT_WIRE : ELSE_LIKELIHOOD;
/** A fault that would not cause the symptom keeps this share of its prior: symptoms are misread. */
const UNEXPLAINED = 0.02;
/** How often a reading is something else altogether: a slipped probe, another terminal (common practice: one in some hundreds). */
const FLOOR = 0.004;
/** Ohms of a wire held by both its ends are hardly ever. */
const OHMS_FLOOR = 0.0002;

/** Spread of an honest reading: meter, contact and part tolerance (common practice). */
function spread(mode: TraceTest['mode'], value: number): number {
  if (mode === 'volts') return Math.max(0.2, 0.06 * Math.abs(value));
  if (mode === 'ohms') return Math.max(0.3, 0.12 * Math.abs(value));
  return 0.3;
}

function likelihood(mode: TraceTest['mode'], predicted: Predicted, measured: number | null): number {
  if (predicted === undefined) return ELSE_LIKELIHOOD;
  const floor = mode === 'ohms' ? OHMS_FLOOR : FLOOR;
  if (predicted === null || measured === null) return predicted === measured ? 0.9 : floor;
  const z = (measured - predicted) / spread(mode, predicted);
  return Math.max(floor, 0.9 * Math.exp(-0.5 * z * z));
}

const words = (test: TraceTest, value: Predicted): string => {
  if (value === undefined) return 'anything';
  if (test.mode === 'volts') return value === null ? 'no reading' : formatVolts(value);
  if (test.mode === 'ohms') return formatOhms(value);
  if (test.mode === 'answer') return value === 1 ? 'yes' : 'no';
  return `${value} teeth`;
};

/** Volts of a pulse differ from their mean by so much before it is worth a word. */
const PULSE_VOLTS = 0.3;
/** What a sound loom shows; of a pulsed test the mean, as a meter has it, and what a pulse goes to. */
function healthyWords(test: TraceTest, value: Predicted, within: number | null, reading: Reading | null): string {
  const shown = reading ? readingWords(reading) : words(test, value);
  if (within === null || typeof value !== 'number' || Math.abs(within - value) < PULSE_VOLTS) return shown;
  return `${shown} on the mean, ${formatVolts(within)} within a pulse`;
}

/**
 * Pins the ECU drives while the thing is tested: its own output, and the windings of the relays that feed it. Nothing else
 * is on, so that its volts are told against a battery that nothing else pulls down.
 */
export function drivenFor(build: Build, net: Netlist, symptom: Symptom): ReadonlySet<string> {
  const { deviceId } = symptom;
  const feeding = new Set(
    [...net.relayLoads].flatMap(([name, loads]) =>
      deviceId !== null && loads.some(({ end }) => deviceAt(end) === deviceId) ? [name] : [],
    ),
  );
  const own = deviceId === null ? [] : (net.needsOf.get(deviceId) ?? []);
  const windings = net.needs.filter(({ winding }) => winding !== null && feeding.has(winding));
  return new Set([...own, ...windings].flatMap(({ id }) => build.assignments[id] ?? []));
}

/** A valve, a coil, a motor that is left so much of its volts still answers (common practice). */
const WORKS_SHARE = 0.6;

/** Solves each fault once a state and remembers it. */
class Bench {
  private readonly solutions = new Map<string, Solution>();
  solved = 0;

  constructor(
    private readonly build: Build,
    private readonly net: Netlist,
    /** The outputs that are driven while one is tested. */
    private readonly driven: ReadonlySet<string>,
    /** Terminals of the part that is looked at, and the state in which it should work. */
    private readonly seeds: readonly EndKey[],
    private readonly state: CircuitState,
  ) {
    const pulsed = pulsedOf(net, driven);
    this.between = pulsed.size === 0 ? null : new Set([...driven].filter((pin) => !pulsed.has(pin)));
  }

  /** What is driven between two pulses of the test; null where nothing is pulsed. */
  private readonly between: ReadonlySet<string> | null;

  private solution(fault: Fault | null, state: CircuitState, driven = this.driven): Solution {
    const phase = driven === this.driven ? '' : ' between';
    const key = `${state}${phase}|${fault ? `${faultId(fault)} ${'ohms' in fault ? fault.ohms : ''}` : ''}`;
    const known = this.solutions.get(key);
    if (known) return known;
    const healthy = fault === null ? null : this.solution(null, state, driven);
    const solution =
      (healthy && fault && updated(healthy, fault)) ?? solveCircuit(this.build, this.net, state, fault, driven);
    this.solutions.set(key, solution);
    this.solved += 1;
    return solution;
  }

  /** What a meter shows of it: of a test in pulses the mean. */
  private shown(fault: Fault | null, state: CircuitState): Solution {
    const within = this.solution(fault, state);
    if (this.between === null || state !== 'outputs-on') return within;
    return meanOf(this.solution(fault, state, this.between), within);
  }

  /** What stands there within a pulse of the test of a sound loom; null where nothing is pulsed. */
  within(test: TraceTest): number | null {
    if (this.between === null || test.mode !== 'volts' || test.state !== 'outputs-on') return null;
    return meterVolts(this.solution(null, test.state), test.plus, test.minus);
  }

  /** What a voltmeter shows of a sound loom, with how far it may be off. */
  sound(test: TraceTest): Reading | null {
    return test.mode === 'volts' ? readVolts(this.shown(null, test.state), test.plus, test.minus) : null;
  }

  /** The two terminals of the part that its work stands between, in a sound loom, and the volts there. */
  private working(): { plus: EndKey; minus: EndKey; volts: number } | null {
    let best: { plus: EndKey; minus: EndKey; volts: number } | null = null;
    for (const plus of this.seeds)
      for (const minus of this.seeds) {
        const volts = plus === minus ? null : voltsBetween(this.solution(null, this.state), plus, minus);
        if (volts !== null && volts > (best?.volts ?? 0)) best = { plus, minus, volts };
      }
    return best;
  }
  /** Whether the part still works under a fault: it is left most of its volts while its output is driven. */
  private works(fault: Fault | null): boolean {
    const across = this.working();
    if (across === null || fault === null) return true;
    const volts = voltsBetween(this.solution(fault, this.state), across.plus, across.minus) ?? 0;
    return volts >= WORKS_SHARE * across.volts;
  }

  /** What a test shows under a fault; of one that comes in degrees under this one. */
  predict(test: TraceTest, hypothesis: Hypothesis | null, degree: Fault | undefined = hypothesis?.fault): Predicted {
    const fault = degree;
    const inCircuit = fault && fault.type !== 'setting' ? fault : null;
    switch (test.mode) {
      case 'volts':
        return meterVolts(this.shown(inCircuit, test.state), test.plus, test.minus);
      case 'ohms':
        return ohmsBetween(this.solution(inCircuit, test.state), test.plus, test.minus);
      case 'count': {
        const wheel = this.build.trigger.crankWheel;
        if (!wheel || (fault?.type === 'setting' && fault.setting === 'wrong-wheel')) return undefined;
        return teethPerTurn(wheel);
      }
      case 'answer':
        if (test.id === 'a|swap-leads') return fault?.type === 'setting' && fault.setting === 'leads-swapped' ? 1 : 0;
        if (test.id === 'a|swap-edge') return fault?.type === 'setting' && fault.setting === 'wrong-edge' ? 1 : 0;
        if (hypothesis === null) return 1;
        if (fault?.type === 'crossed' || fault?.type === 'not-driven' || hypothesis.direct) return 0;
        return this.works(inCircuit) ? 1 : 0;
    }
  }
}

/** Whether a fault makes the symptom show: judged by the device's own terminals, or the ECU's waking. */
function explains(
  bench: Bench,
  hypothesis: Hypothesis,
  degree: Fault,
  symptom: Symptom,
  probes: readonly TraceTest[],
): boolean {
  if (hypothesis.direct) return true;
  return probes.some((probe) => {
    const [healthy, faulty] = [bench.predict(probe, null), bench.predict(probe, hypothesis, degree)];
    if (healthy === undefined || faulty === undefined || healthy === faulty) return false;
    if (healthy === null || faulty === null) return true;
    const share = symptom.type === 'wrong-reading' ? 0.04 : 0.12;
    return Math.abs(healthy - faulty) > Math.max(probe.mode === 'volts' ? 0.12 : 0.5, share * Math.abs(healthy));
  });
}

/** Bits a test is expected to give: entropy of its outcomes, faults with like predictions counted as one outcome. */
function informationOf(test: TraceTest, predictions: readonly Predicted[], weights: readonly number[]): number {
  const clusters: { value: Predicted; weight: number }[] = [];
  predictions.forEach((value, i) => {
    const home = clusters.find(
      (cluster) =>
        cluster.value === value ||
        (typeof cluster.value === 'number' &&
          typeof value === 'number' &&
          Math.abs(cluster.value - value) <= 2 * spread(test.mode, cluster.value)),
    );
    if (home) home.weight += weights[i]!;
    else clusters.push({ value, weight: weights[i]! });
  });
  return clusters.reduce((bits, { weight }) => (weight > 0 ? bits - weight * Math.log2(weight) : bits), 0);
}

function probesFor(symptom: Symptom, tests: readonly TraceTest[], seeds: readonly string[], net: Netlist): TraceTest[] {
  const volts = tests.filter((test) => test.mode === 'volts');
  if (symptom.type === 'wrong-reading' || symptom.type === 'no-change') {
    const needs = (net.needsOf.get(symptom.deviceId ?? '') ?? []).map((need) => need.id);
    const pins = new Set(
      net.cavities.filter((cavity) => cavity.needId && needs.includes(cavity.needId)).map(({ pin }) => ecuEnd(pin.id)),
    );
    return volts.filter((test) => pins.has(test.plus));
  }
  const own = volts.filter((test) => seeds.includes(test.plus));
  return symptom.type === 'no-sync'
    ? [
        ...own,
        ...tests.filter((test) => test.mode === 'ohms' && pinAt(test.plus) !== null && pinAt(test.minus) !== null),
      ]
    : own;
}

/** The loom with one switch held closed: only then do an open wire and a good one read apart. */
function heldClosed(net: Netlist, deviceId: string | null): Netlist {
  const close = (kind: DeviceKind): DeviceKind => ({
    ...kind,
    internals: kind.internals.map((one) =>
      one.type === 'resistor' && one.ohms >= OPEN_CONTACT_OHMS ? { ...one, ohms: CLOSED_CONTACT_OHMS } : one,
    ),
  });
  return {
    ...net,
    devices: net.devices.map((one) => (one.device.id === deviceId ? { ...one, kind: close(one.kind) } : one)),
  };
}

/** Share of what the plan does not hold that leaves its readings as they should be: a mechanical cause, a setting. */
const HEALTHY_SHARE = 0.5;

/** Whether two predictions could not be told apart by a meter. */
function alike(mode: TraceTest['mode'], one: Predicted, other: Predicted): boolean {
  if (typeof one !== 'number' || typeof other !== 'number') return one === other;
  return Math.abs(one - other) <= spread(mode, other);
}

const HALF = 1 / 2;
/** Places looked at between two degrees of a fault. */
const BETWEEN = 6;
/** A place on the scale of a fault: a share of the way from one degree to the next. */
interface Place {
  readonly fault: Fault;
  readonly between: { readonly fault: Fault } | null;
  readonly share: number;
}
/** Every place of a fault's scale that is looked at; of one that is one thing that one. */
function scaleOf({ fault, degrees }: Hypothesis): Place[] {
  if (degrees.length === 0) return [{ fault, between: null, share: 0 }];
  return degrees.flatMap((degree, at): Place[] => {
    const next = degrees[at + 1];
    return next === undefined
      ? [{ fault: degree, between: null, share: 0 }]
      : Array.from({ length: BETWEEN }, (_, step) => ({
          fault: degree,
          between: { fault: next },
          share: step / BETWEEN,
        }));
  });
}
/** The degree a share of the way between two, on a scale of ratios. */
function degreeAt(one: Fault, other: Fault, share: number): Fault {
  if (!('ohms' in one) || !('ohms' in other)) return one;
  return { ...one, ohms: Number((one.ohms * (other.ohms / one.ohms) ** share).toPrecision(2)) };
}
/** What is predicted between two degrees: drawn straight where both are figures, else as the nearer has it. */
const drawn = (one: Predicted, other: Predicted, share: number): Predicted =>
  typeof one === 'number' && typeof other === 'number' ? one + (other - one) * share : share < HALF ? one : other;

/** A fault with how bad it is, once readings say so. */
function titleOf({ title, degrees }: Hypothesis, degree: Fault, readings: number): string {
  if (degrees.length === 0 || readings === 0 || !('ohms' in degree)) return title;
  return `${title}, about ${formatOhms(degree.ohms)}`;
}

export interface TraceProgress {
  (done: number, of: number): void;
}

/** Ranks the faults behind a symptom against the readings taken. `null` for a symptom this build does not have. */
export function traceFaults(
  build: Build,
  net: Netlist,
  one: Pick<TraceCase, 'symptomId' | 'readings'>,
  onProgress: TraceProgress = () => {},
): TraceAnswer | null {
  const symptom = symptomsOf(net).find((candidate) => candidate.id === one.symptomId);
  if (!symptom) return null;
  const cone = coneOf(build, net, symptom);
  const tests = testsFor(build, net, symptom, cone);
  const hypotheses = hypothesesFor(build, net, symptom, cone);
  const bench = new Bench(
    build,
    symptom.type === 'no-change' ? heldClosed(net, symptom.deviceId) : net,
    drivenFor(build, net, symptom),
    cone.seeds,
    stateOf(build, net, symptom),
  );
  const probes = probesFor(symptom, tests, cone.seeds, net);
  const taken = one.readings.flatMap((reading) => {
    const test = withId(tests, reading.testId);
    return test ? [{ test, value: reading.value }] : [];
  });
  const weighed = hypotheses.map((hypothesis, index) => {
    onProgress(index, hypotheses.length);
    // How bad it is nobody knows before: every share of the scale is as likely, and the readings say which it is.
    const each = scaleOf(hypothesis).map(({ fault, share, between }) => {
      const [here, there] = [fault, between?.fault ?? fault];
      const own = explains(bench, hypothesis, share < HALF ? here : there, symptom, probes);
      return {
        degree: degreeAt(here, there, share),
        weight: taken.reduce(
          (product, { test, value }) =>
            product *
            likelihood(
              test.mode,
              drawn(bench.predict(test, hypothesis, here), bench.predict(test, hypothesis, there), share),
              value,
            ),
          own ? 1 : UNEXPLAINED,
        ),
      };
    });
    const best = each.reduce((most, one) => (one.weight > most.weight ? one : most));
    const weight = (hypothesis.prior * each.reduce((sum, one) => sum + one.weight, 0)) / each.length;
    return {
      hypothesis: { ...hypothesis, fault: best.degree, title: titleOf(hypothesis, best.degree, taken.length) },
      weight,
    };
  });
  // What the plan does not hold leaves the loom as it is, or does anything at all.
  const asHealthy = taken.reduce(
    (product, { test, value }) => product * likelihood(test.mode, bench.predict(test, null), value),
    1,
  );
  const elseWeight =
    ELSE_PRIOR *
    (HEALTHY_SHARE * asHealthy +
      (1 - HEALTHY_SHARE) * taken.reduce((product, { test }) => product * elseLikelihood(test), 1));
  const total = weighed.reduce((sum, { weight }) => sum + weight, elseWeight);
  const ranked = weighed
    .map(({ hypothesis, weight }) => ({ hypothesis, probability: weight / total }))
    .sort((a, b) => b.probability - a.probability);
  const lively = ranked.filter(({ probability }) => probability > 0.002).slice(0, 40);
  const untaken = tests.filter((test) => !taken.some((reading) => reading.test.id === test.id));
  const table = untaken.map((test) => ({
    test,
    predictions: lively.map(({ hypothesis }) => bench.predict(test, hypothesis)),
  }));
  const mass = lively.reduce((sum, { probability }) => sum + probability, 0) || 1;
  const weights = lively.map(({ probability }) => probability / mass);
  const next = table
    .map(({ test, predictions }) => ({
      test,
      bits: informationOf(test, predictions, weights),
      expectedHealthy: healthyWords(test, bench.predict(test, null), bench.within(test), bench.sound(test)),
    }))
    .filter(({ bits }) => bits > 0.02)
    .sort((a, b) => b.bits / Math.sqrt(b.test.minutes) - a.bits / Math.sqrt(a.test.minutes))
    .slice(0, 6);

  const tellApart = (index: number): Candidate['tellApart'] => {
    let best: { score: number; found: NonNullable<Candidate['tellApart']> } | null = null;
    if (index + 1 >= lively.length) return null;
    for (const { test, predictions } of table) {
      const [a, b] = [predictions[index], predictions[index + 1]];
      if (a === undefined || b === undefined || a === b) continue;
      const apart =
        a === null || b === null ? 10 : Math.abs(a - b) / spread(test.mode, Math.max(Math.abs(a), Math.abs(b)) / 2);
      const score = Math.min(10, apart) / Math.sqrt(test.minutes);
      if (apart >= 2 && (!best || score > best.score))
        best = { score, found: { test, here: words(test, a), next: words(test, b) } };
    }
    return best?.found ?? null;
  };

  const candidates: Candidate[] = lively.slice(0, 12).map(({ hypothesis, probability }, index) => ({
    id: hypothesis.id,
    title: hypothesis.title,
    where: hypothesis.where,
    probability,
    evidence: taken.map(({ test, value }) => {
      const predicted = bench.predict(test, hypothesis);
      const healthy = bench.predict(test, null);
      const agreed = likelihood(test.mode, predicted, value) > 0.1;
      const agrees = agreed && alike(test.mode, predicted, healthy) ? null : agreed;
      return {
        agrees,
        sentence: `${test.title}: this fault gives ${words(test, predicted)}, measured ${words(test, value)}.`,
      };
    }),
    tellApart: tellApart(index),
  }));
  const elseShare = elseWeight / total;
  const withElse = [
    ...candidates,
    {
      id: NOT_HELD,
      title: 'Something this plan does not hold: a part, a setting, a mechanical cause',
      where: null,
      probability: elseShare,
      evidence: [],
      tellApart: null,
    },
  ].sort((a, b) => b.probability - a.probability);
  onProgress(hypotheses.length, hypotheses.length);
  return { symptom, candidates: withElse, next, tests, solved: bench.solved };
}
