import type { Build } from '../build/schema';
import { BATTERY, endOf, endType, fuseEnd, partAt, partEnd, relayEnd, type EndKey, type PartId } from '../ends/ends';
import { pulsesOfCoils, type FittedCoil, type PulsedAmps } from './coil-feed';
import type { FeedPlan } from './feed-plan';
import { broughtFeeds, keyFeeds } from './key';
import { portsOfPart } from '../topology/parts';
import { deviceLoads, ecuLoads, type Load } from './loads';
import { betweenSources } from './rings';
import type { PlannedLink } from './propose';

/** Winding of a plug-in relay, 60 to 120 ohms (common practice), and the volts its draw is counted at. */
export const RELAY_WINDING_OHMS = 90;
const WINDING_VOLTS = 13;
export const WINDING_AMPS = WINDING_VOLTS / RELAY_WINDING_OHMS;

/** One step from a source towards the loads: along a wire, or through a part. */
export interface Step {
  readonly from: EndKey;
  readonly to: EndKey;
  readonly link: PlannedLink | null;
  readonly part: PartId | null;
}

/** What flows at a place with everything on. */
export type Flow = PulsedAmps;

/** A place that current is drawn at: a load, or the winding of a relay. */
export interface Draw {
  readonly end: EndKey;
  readonly name: string;
  readonly load: Load | null;
}

/**
 * How the current runs from the sources to the loads, with everything on. A wire that closes a ring, or lies beside another, is
 * taken to carry all that either way could: when one opens the other has it.
 */
export interface Flows {
  /** Steps from a source on, each after the one it hangs on. */
  readonly steps: readonly Step[];
  /** The step that leads to an end. */
  readonly into: ReadonlyMap<EndKey, Step>;
  /** The fuse that stands before an end, nearest first; null: nothing protects it. */
  readonly fuseBefore: ReadonlyMap<EndKey, PartId | null>;
  readonly at: ReadonlyMap<EndKey, Flow>;
  readonly through: ReadonlyMap<string, Flow>;
  readonly draws: readonly Draw[];
  /** Loads that no source reaches. */
  readonly unfed: readonly Load[];
  readonly sources: readonly EndKey[];
  /** Wires and parts on a way between two batteries, by their id, with what they carry at the worst, amperes. */
  readonly between: ReadonlyMap<string, number>;
}

/** Every load of a build, by its end. */
const loadsByEnd = (build: Build): Map<EndKey, Load> =>
  new Map(
    [
      ...deviceLoads(build).map(({ load }) => load),
      ...ecuLoads(build, 'permanent'),
      ...ecuLoads(build, 'switched'),
    ].map((load) => [load.end, load]),
  );

/** Ends power enters the plan at: batteries, feeds of the car, the key, and the plug that brings the key. */
function sourcesOf(build: Build, plan: FeedPlan): EndKey[] {
  const { run, start } = keyFeeds(build);
  const own = [...plan.parts.values()].flatMap(({ part, name }) =>
    part.kind === 'battery' || part.kind === 'tap' ? [partEnd(part.kind, name)] : [],
  );
  return [...new Set([BATTERY, ...own, run, start, ...broughtFeeds(build).map(({ end }) => end)])];
}

/** Ways through the parts of a plan that current takes towards the loads. */
export function through(plan: FeedPlan): Step[] {
  return [...plan.parts.values()].flatMap(({ id, name, part }): Step[] => {
    const both = (one: EndKey, other: EndKey): Step[] => [
      { from: one, to: other, link: null, part: id },
      { from: other, to: one, link: null, part: id },
    ];
    switch (part.kind) {
      case 'fuse':
        return both(fuseEnd(name, 1), fuseEnd(name, 2));
      case 'relay':
        return [
          ...both(relayEnd(name, '30'), relayEnd(name, '87')),
          ...(part.contact === 'change-over' ? both(relayEnd(name, '30'), relayEnd(name, '87a')) : []),
        ];
      case 'switch':
        return [
          ...both(partEnd('switch', name, '1'), partEnd('switch', name, '2')),
          ...(part.poles === 2 ? both(partEnd('switch', name, '3'), partEnd('switch', name, '4')) : []),
        ];
      case 'button':
      case 'resistor':
        return both(partEnd(part.kind, name, '1'), partEnd(part.kind, name, '2'));
      case 'diode':
        return [{ from: partEnd('diode', name, 'a'), to: partEnd('diode', name, 'k'), link: null, part: id }];
      default:
        return [];
    }
  });
}

/** A load, a winding or a ground ends the way. */
function endsTheWay(end: EndKey, sources: ReadonlySet<EndKey>): boolean {
  const ref = endOf(end);
  if (ref.of === 'ecu') return true;
  if (ref.of === 'device') return !sources.has(end);
  if (ref.kind === 'ground' || ref.kind === 'shield') return true;
  return ref.kind === 'relay' && (ref.port === '85' || ref.port === '86');
}

interface Sum {
  mean: number;
  /** By how much what is drawn strays from its mean, squared. */
  square: number;
  peak: number;
  coils: FittedCoil[];
}

function addTo(sum: Sum, mean: number, square: number, peak: number): void {
  sum.mean += mean;
  sum.square += square;
  sum.peak += peak;
}

/** Steps by where they begin: over each link both ways, then those through parts as they are told. */
export function stepsFrom(links: readonly PlannedLink[], inner: Iterable<Step>): ReadonlyMap<EndKey, readonly Step[]> {
  const next = new Map<EndKey, Step[]>();
  const add = (step: Step) => {
    const at = next.get(step.from);
    if (at) at.push(step);
    else next.set(step.from, [step]);
  };
  for (const link of links) {
    add({ from: link.from, to: link.to, link, part: null });
    add({ from: link.to, to: link.from, link, part: null });
  }
  for (const step of inner) add(step);
  return next;
}

/**
 * Walks the plan from its sources, each end once, and adds up what the loads behind each place draw. Linear in wires and parts,
 * safe on rings.
 */
export function flowsOf(build: Build, plan: FeedPlan): Flows {
  const loads = loadsByEnd(build);
  const sources = sourcesOf(build, plan);
  const isSource = new Set(sources);
  const next = stepsFrom(
    plan.links.filter(({ role }) => role !== 'return'),
    through(plan),
  );

  const into = new Map<EndKey, Step>();
  const fuseBefore = new Map<EndKey, PartId | null>();
  const steps: Step[] = [];
  const queue: EndKey[] = [];
  const seen = new Set<EndKey>();
  for (const source of sources) {
    if (seen.has(source)) continue;
    seen.add(source);
    fuseBefore.set(source, null);
    queue.push(source);
    for (let head = queue.length - 1; head < queue.length; head += 1) {
      const end = queue[head]!;
      if (end !== source && endsTheWay(end, isSource)) continue;
      for (const step of next.get(end) ?? []) {
        if (seen.has(step.to) || (isSource.has(step.to) && step.to !== source)) continue;
        seen.add(step.to);
        into.set(step.to, step);
        const fuse = step.part !== null && endType(step.to) === 'fuse' ? step.part : null;
        fuseBefore.set(step.to, fuse ?? fuseBefore.get(end) ?? null);
        steps.push(step);
        queue.push(step.to);
      }
    }
  }

  const sums = new Map<EndKey, Sum>();
  const sumAt = (end: EndKey): Sum => {
    const known = sums.get(end);
    if (known) return known;
    const fresh: Sum = { mean: 0, square: 0, peak: 0, coils: [] };
    sums.set(end, fresh);
    return fresh;
  };
  const draws: Draw[] = [];
  for (const { to } of steps) {
    const load = loads.get(to);
    const ref = endOf(to);
    if (load) {
      draws.push({ end: to, name: load.name, load });
      const sum = sumAt(to);
      if (load.coil) sum.coils.push(load.coil);
      else addTo(sum, load.amps, load.rms * load.rms - load.amps * load.amps, load.peak);
    } else if (ref.of === 'part' && ref.kind === 'relay' && (ref.port === '85' || ref.port === '86')) {
      draws.push({ end: to, name: plan.parts.get(partAt(to)!)?.part.name ?? ref.part, load: null });
      addTo(sumAt(to), WINDING_AMPS, 0, WINDING_AMPS);
    }
  }
  for (let i = steps.length - 1; i >= 0; i -= 1) {
    const { from, to } = steps[i]!;
    const below = sums.get(to);
    if (!below) continue;
    const above = sumAt(from);
    addTo(above, below.mean, below.square, below.peak);
    above.coils.push(...below.coils);
  }
  const flow = flowing(build);
  const at = new Map([...sums].map(([end, sum]) => [end, flow(sum)]));
  /** Whether an end is fed by way of another. */
  const isBehind = (end: EndKey, before: EndKey): boolean => {
    for (let step = into.get(end); step; step = into.get(step.from)) if (step.from === before) return true;
    return false;
  };
  // What lies beside a way carries what is behind its end when that opens; what closes a ring either place behind it, the larger.
  const across = (from: EndKey, to: EndKey, one: Flow, other: Flow): Flow => {
    if (isBehind(to, from)) return other;
    if (isBehind(from, to)) return one;
    return one.rms >= other.rms ? one : other;
  };
  const carried = new Map<string, Flow>();
  for (const { link, to } of steps) if (link) carried.set(link.id, at.get(to) ?? NOTHING);
  for (const { id, from, to } of plan.links)
    if (!carried.has(id) && (seen.has(from) || seen.has(to))) {
      const [one, other] = [at.get(from) ?? NOTHING, at.get(to) ?? NOTHING];
      carried.set(id, seen.has(from) && seen.has(to) ? across(from, to, one, other) : NOTHING);
    }
  // What runs between two batteries that are joined hangs on their volts, not on what is behind.
  const drawn = new Map(draws.map(({ end, load }) => [end, load?.rms ?? WINDING_AMPS]));
  const between = betweenSources(build, plan, through(plan), drawn);
  for (const [id, amps] of between) {
    const worst: Flow = { mean: amps, rms: amps, peak: amps };
    const part = plan.parts.get(id as PartId);
    if (part === undefined) {
      if (carried.has(id) && carried.get(id)!.rms < amps) carried.set(id, worst);
      continue;
    }
    for (const port of portsOfPart(part.part)) {
      const end = partEnd(part.part.kind, part.name, port);
      if (at.has(end) || into.has(end)) at.set(end, (at.get(end)?.rms ?? 0) < amps ? worst : at.get(end)!);
    }
  }
  const unfed = [...loads.values()].filter(({ end }) => !into.has(end));
  return { steps, into, fuseBefore, at, through: carried, draws, unfed, sources, between };
}

const NOTHING: Flow = { mean: 0, rms: 0, peak: 0 };

/** The figures of a sum of loads: coils by their pulses over a cycle, which are worked out once, the rest as it is drawn. */
function flowing(build: Build): (sum: Sum) => Flow {
  const pulses = pulsesOfCoils(build);
  return ({ mean, square, peak, coils }) => {
    const coiled = coils.length === 0 ? NOTHING : pulses(coils);
    const whole = mean + coiled.mean;
    // Pulses that know nothing of each other: what they stray from their means adds up by its squares.
    const strays = square + coiled.rms * coiled.rms - coiled.mean * coiled.mean;
    return { mean: whole, rms: Math.sqrt(whole * whole + strays), peak: peak + coiled.peak };
  };
}

/** The steps from a source to an end, the source's first. */
export function wayTo({ into }: Pick<Flows, 'into'>, end: EndKey): Step[] {
  const way: Step[] = [];
  for (let step = into.get(end); step; step = into.get(step.from)) way.push(step);
  return way.reverse();
}
