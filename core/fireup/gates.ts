import { withId } from '../data/with-id';
import type { Build, Confirmation } from '../build/schema';
import { hasRole, sensorsIn, trait } from '../devices/kind';
import { pinsOfKind } from '../ecu/ecu';
import { cycleDegrees } from '../engine/engine';
import { solveCircuit, voltsBetween, type Solution } from '../circuit/model';
import { deviceAt, ecuEnd, groundEnd, type EndKey, terminalId } from '../ends/ends';
import type { Need } from '../netlist/needs';
import type { Netlist } from '../netlist/netlist';
import type { Progress } from '../prove/verdict';
import { checkIdOf } from '../prove/check-id';
import { checkFacts, offsetConfirmed, standingReading, stands } from '../prove/evidence';
import type { Finding } from '../rules/rule';
import { standardBarometerKpa } from '../sensing/atmosphere';
import { outputUses } from '../trigger/outputs';
import { CRANKING_RPM } from '../trigger/speed';
import { pulseHertz } from '../wheels/wheel';
import { plural } from '../units/format';
import { gateOfFinding, namesOf, shutBy, standingOf, wrongOf } from './findings';
import { readQuantity } from '../units/units';

/** One proof within a gate. */
export interface GateCheck {
  readonly id: string;
  readonly text: string;
  readonly kind: 'auto' | 'confirm' | 'reading';
  readonly unit: string;
  /** Band called right, for readings. */
  readonly low: number | null;
  readonly high: number | null;
  /** Met now: by the plan itself, or by a confirmation whose value lies in the band. */
  readonly met: boolean;
  readonly confirmation: Confirmation | null;
  /** It was confirmed on another wire, pin, part or wheel: that confirmation does not count any more. */
  readonly fallen: boolean;
  /** What to look for, or why it is not met. */
  readonly hint: string;
}

export interface Gate {
  readonly id: string;
  readonly title: string;
  readonly aim: string;
  readonly cautions: readonly string[];
  readonly checks: readonly GateCheck[];
  readonly blockers: readonly string[];
  readonly status: 'passed' | 'open' | 'shut';
}

type Draft = Pick<GateCheck, 'id' | 'text' | 'hint'> &
  ({ kind: 'confirm' } | { kind: 'auto'; met: boolean } | { kind: 'reading'; unit: string; low: number; high: number });

interface GateDraft {
  readonly id: string;
  readonly title: string;
  readonly aim: string;
  readonly cautions: readonly string[];
  readonly checks: readonly Draft[];
}

const confirm = (id: string, text: string, hint = ''): Draft => ({ id, kind: 'confirm', text, hint });
const auto = (id: string, text: string, met: boolean, hint: string): Draft => ({ id, kind: 'auto', text, met, hint });
const reading = (id: string, text: string, unit: string, low: number, high: number, hint = ''): Draft => ({
  id,
  kind: 'reading',
  text,
  unit,
  low,
  high,
  hint,
});
const round = (value: number) => Math.round(value * 100) / 100;

function voltsCheck(id: string, text: string, volts: number | null, tolerance: number, hint: string): Draft[] {
  if (volts === null) return [];
  return [reading(id, text, 'V', round(Math.max(0, volts - tolerance)), round(volts + tolerance), hint)];
}

/** Volts a key-on reading may be off: weather, a soaked engine, a meter (common practice). */
const SENSOR_TOLERANCE = 0.3;

/** Key-on readings of every analog sensor, from the circuit at this altitude and ambient. */
function sensorChecks(build: Build, net: Netlist, keyOn: (end: EndKey) => number | null): Draft[] {
  const barometer = standardBarometerKpa(build.site.altitudeMetres);
  return net.needs.flatMap((need): Draft[] => {
    const pinId = build.assignments[need.id];
    if (!pinId || need.ask.kind !== 'analog') return [];
    const volts = keyOn(ecuEnd(pinId));
    const device = net.deviceOf.get(need.deviceId ?? '');
    // The hint is about this signal: a part may carry a pressure on one pin and a temperature on another.
    const measures =
      device && sensorsIn(device.kind).find(({ terminal }) => need.id === terminalId(device.device.id, terminal));
    const pressure = measures?.quantity === 'pressure' ? trait(device!.kind, 'pressure') : null;
    const hint =
      pressure?.measures === 'manifold' && pressure.reference === 'absolute'
        ? `Must read the barometer, ${readQuantity('pressure', barometer, build)} at ${build.site.altitudeMetres} m. About 0 is a gauge sensor or the wrong scale.`
        : measures?.quantity === 'temperature'
          ? `Must read the air around it, ${readQuantity('temperature', build.site.ambientCelsius, build)}.`
          : 'Steady, and no jump when the loom is moved.';
    const read = standingReading(build, need.id)?.atPin ?? null;
    // Read on sheet 1 already: nothing is entered twice.
    if (volts !== null && read !== null)
      return [
        auto(
          checkIdOf({ of: 'sensor', needId: need.id }),
          `${need.label} on ${pinId}: ${read} V read with the key on, ${volts.toFixed(2)} V expected`,
          Math.abs(read - volts) <= SENSOR_TOLERANCE,
          hint,
        ),
      ];
    return voltsCheck(
      checkIdOf({ of: 'sensor', needId: need.id }),
      `${need.label} on ${pinId}`,
      volts,
      SENSOR_TOLERANCE,
      hint,
    );
  });
}

/** What switching a relay sets in motion, by what hangs on it. */
function relayHint(net: Netlist, need: Need): string {
  const circuit = withId(net.circuits, need.winding);
  const fed = new Set(circuit?.loads.flatMap(({ end }) => deviceAt(end) ?? []));
  const feeds = (role: Parameters<typeof hasRole>[1]) =>
    net.devices.some(({ device, kind }) => fed.has(device.id) && hasRole(kind, role));
  if (feeds('starter'))
    return 'It cranks the engine: out of gear, wheels chocked, plugs out, fuel and coils off. Test first that clutch or neutral switch holds it back.';
  if (feeds('fan')) return 'Hands and leads clear of belts and blades: a fan starts without warning.';
  if (feeds('pump')) return 'Fuel under pressure: look along every joint first, extinguisher at hand, no flame.';
  return `Listen for the click, and look whether what hangs on it comes alive: ${circuit?.name ?? need.label}.`;
}

function outputChecks(build: Build, net: Netlist): Draft[] {
  const uses = outputUses(build, net.needs).map((use) =>
    confirm(
      checkIdOf({ of: 'output', pinId: use.pinId }),
      `${use.kind === 'injector' ? 'Injection' : 'Ignition'} output ${use.output} works cylinder ${use.means ?? '–'}`,
      use.kind === 'injector'
        ? 'Fuel rail empty: listen for the click at that cylinder.'
        : 'Plug in this coil only, its spark plug held to the block, away from vapour.',
    ),
  );
  const relays = net.needs
    .filter((need) => need.winding !== null && build.assignments[need.id])
    .map((need) =>
      confirm(
        checkIdOf({ of: 'relay', needId: need.id }),
        `${need.label} on ${build.assignments[need.id]} switches`,
        relayHint(net, need),
      ),
    );
  return [...uses, ...relays];
}

function drafts(
  build: Build,
  net: Netlist,
  progress: Progress,
  findings: readonly Finding[],
  keyOn: Solution,
): GateDraft[] {
  const stops = standingOf(findings, 'stop');
  const wrong = wrongOf(findings);
  const at = (end: EndKey) => voltsBetween(keyOn, end, groundEnd('battery'));
  const pin = (kind: 'permanent' | 'switched' | 'supply-5v') => pinsOfKind(build.ecu, kind);
  const driveByWire = net.devices.some(({ kind }) => hasRole(kind, 'pedal'));
  const { crankWheel } = build.trigger;
  return [
    {
      id: 'bench',
      title: 'Bench done',
      aim: 'The loom is what the plan says.',
      cautions: [
        'Battery disconnected before any pin is moved.',
        'Airbag circuits are never probed, cut or tapped. Stop, and a licensed workshop.',
      ],
      checks: [
        auto(
          'wires',
          `${progress.proved.size} of ${plural(progress.wires, 'wire')} proved`,
          progress.proved.size === progress.wires,
          'Sheet 6 lists what is left.',
        ),
        auto(
          'readings',
          'No reading stands wrong',
          wrong === 0,
          `${plural(wrong, 'reading')} on sheet 6 not right: mend the wire and read it again, or set the finding aside.`,
        ),
        auto(
          'stops',
          'No finding says stop',
          stops.length === 0,
          `${plural(stops.length, 'finding')} of severity stop: ${namesOf(stops)}.`,
        ),
        confirm('locks', 'Every terminal pulled, every lock closed, every empty cavity plugged'),
        confirm('route', 'Loom clear of exhaust, belts and sharp edges, and tied'),
      ],
    },
    {
      id: 'battery',
      title: 'Battery on',
      aim: 'Power where it belongs and nowhere else.',
      cautions: [
        'Coils unplugged: a wrong dwell edge or a reversed feed overheats them at once.',
        'Battery in the cabin vented and fastened.',
      ],
      checks: [
        confirm('coils-off', 'All coils and injectors unplugged'),
        reading(
          'drain',
          'Current with the key off, in series with the battery',
          'A',
          0,
          0.08,
          'More than 0.08 A: pull fuses one by one until it falls.',
        ),
        ...pin('permanent').flatMap((one) =>
          voltsCheck(
            `permanent-${one.id}`,
            `Permanent feed at ${one.id}`,
            at(ecuEnd(one.id)),
            0.5,
            'With the key off.',
          ),
        ),
      ],
    },
    {
      id: 'key',
      title: 'Key on',
      aim: 'The ECU wakes and talks.',
      cautions: ['Stop when tired: mistakes made then are the hardest to find.'],
      checks: [
        ...pin('switched').flatMap((one) =>
          voltsCheck(
            `switched-${one.id}`,
            `Switched feed at ${one.id}`,
            at(ecuEnd(one.id)),
            0.5,
            'Under load, with the ECU plugged in.',
          ),
        ),
        ...pin('supply-5v')
          .filter((one) => net.nodeOf.has(ecuEnd(one.id)))
          .flatMap((one) =>
            voltsCheck(
              `five-${one.id}`,
              `5 V supply at ${one.id}`,
              at(ecuEnd(one.id)),
              0.1,
              'Low: a sensor shorts it. Unplug one after the other.',
            ),
          ),
        confirm('talks', 'The tuning computer talks to the ECU; only one tool is connected'),
      ],
    },
    {
      id: 'sensors',
      title: 'Sensors sane',
      aim: 'Every sensor reads what this place and weather say it must.',
      cautions: driveByWire ? ['Drive-by-wire: first motion with hands clear and the plausibility checks active.'] : [],
      checks: [
        ...sensorChecks(build, net, at),
        ...(driveByWire
          ? [confirm('pedal', 'Pedal and throttle tracks agree over the whole travel; no fault is stored')]
          : []),
      ],
    },
    {
      id: 'outputs',
      title: 'Outputs tested',
      aim: 'Each output moves its own part, by the output order of this ECU.',
      cautions: [
        'No spark tests near fuel vapour.',
        'Moving belts and fans: hands, leads and sleeves clear.',
        'Ignition secondary voltage can stop a heart: never hold a lead.',
      ],
      checks: outputChecks(build, net),
    },
    {
      id: 'cranking',
      title: 'Cranking in sync',
      aim: 'The ECU knows its angle, every turn.',
      cautions: [
        'Out of gear, wheels chocked. On stands, never on a jack.',
        'Fuel pump fuse out, injectors unplugged, spark plugs out.',
        'Safety switches (clutch, neutral, stand, tilt) are wired, never defeated.',
      ],
      checks: [
        reading(
          'rpm',
          'Speed the ECU shows',
          'rpm',
          120,
          450,
          crankWheel
            ? `At ${CRANKING_RPM} rpm the crank signal is ${pulseHertz(crankWheel, CRANKING_RPM).toFixed(0)} Hz.`
            : '',
        ),
        reading(
          'losses',
          'Sync losses counted over ten turns',
          'losses',
          0,
          0,
          'The first and last turn do not count.',
        ),
        reading(
          'volts',
          'Battery while cranking',
          'V',
          Math.max(9, build.ecu.minVolts),
          12.6,
          `This ECU holds to ${build.ecu.minVolts} V.`,
        ),
        confirm('oil', 'Oil pressure rises'),
      ],
    },
    {
      id: 'timing',
      title: 'Timing read',
      aim: 'The light agrees with the ECU.',
      cautions: ['Light, leads and hair clear of belts and fan.', 'Fuel still off.'],
      checks: [
        auto(
          'light',
          `Offset ${build.trigger.offsetDegrees.toFixed(1)}° of ${cycleDegrees(build.engine)}° seen with the light`,
          offsetConfirmed(build),
          `Lock the timing at ${build.trigger.lockDegrees}°, crank, read the mark, and enter it below.`,
        ),
        confirm('stroke', 'Cylinder 1 is on compression when its coil fires'),
      ],
    },
    {
      id: 'first-fire',
      title: 'First fire',
      aim: 'It runs, and you know it is safe to let it.',
      cautions: [
        'Fuel under pressure: extinguisher at hand, no leak at the rail before cranking.',
        'Exhaust gas indoors kills: doors open, extraction on.',
        'Emission, noise and roadworthiness rules are local; licensed practice decides.',
      ],
      checks: [
        confirm('leaks', 'Fuel pressure up, every joint dry'),
        confirm('extinguisher', 'Extinguisher within reach, a second person at the key'),
        reading('oil-time', 'Seconds until oil pressure stood', 's', 0, 10, 'No pressure after 10 s: stop the engine.'),
        confirm('again', 'Timing read again at idle and at 3,000 rpm, no drift'),
        confirm('stops', 'Key off stops engine and pump'),
      ],
    },
  ];
}

function settle(build: Build, gateId: string, draft: Draft): GateCheck {
  const confirmation = build.fireup[gateId]?.[draft.id] ?? null;
  const fallen = confirmation !== null && !stands(confirmation.on, checkFacts(build, gateId, draft.id));
  const base = {
    id: draft.id,
    text: draft.text,
    hint: draft.hint,
    kind: draft.kind,
    unit: '',
    low: null,
    high: null,
    confirmation,
    fallen,
  };
  if (draft.kind === 'auto') return { ...base, met: draft.met };
  if (draft.kind === 'confirm') return { ...base, met: confirmation !== null && !fallen };
  const value = confirmation?.value ?? null;
  return {
    ...base,
    unit: draft.unit,
    low: draft.low,
    high: draft.high,
    met: !fallen && value !== null && value >= draft.low && value <= draft.high,
  };
}

/** What is to be mended, or set aside with a reason, before this gate can pass: by name. */
const fixChecks = (gateId: string, findings: readonly Finding[]): Draft[] =>
  standingOf(findings, 'fix')
    .filter((finding) => gateOfFinding(finding) === gateId)
    .map((finding) =>
      auto(
        `fix-${finding.id}`,
        `${finding.rule} ${finding.title}`,
        false,
        `${finding.detail} Mend it, or set it aside with a reason.`,
      ),
    );

/**
 * The ladder of gates towards a running engine. A gate is shut while the one before it has not passed, while a stop
 * finding stands, or while a wire is unproved; findings to fix are checks of the gate they concern; what was confirmed stays recorded all the same.
 * `keyOn`: the circuit with the key on, where it is solved already.
 */
export function gatesOf(
  build: Build,
  net: Netlist,
  progress: Progress,
  findings: readonly Finding[],
  keyOn: Solution = solveCircuit(build, net, 'key-on'),
): Gate[] {
  const standing = shutBy(net, progress, findings);
  let before: Gate | null = null;
  return drafts(build, net, progress, findings, keyOn).map((draft): Gate => {
    const checks = [...fixChecks(draft.id, findings), ...draft.checks].map((check) => settle(build, draft.id, check));
    const blockers: string[] = [...standing];
    if (before && before.status !== 'passed') blockers.push(`'${before.title}' has not passed`);
    const status = blockers.length > 0 ? 'shut' : checks.every((check) => check.met) ? 'passed' : 'open';
    before = { id: draft.id, title: draft.title, aim: draft.aim, cautions: draft.cautions, checks, blockers, status };
    return before;
  });
}
