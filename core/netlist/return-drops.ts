import type { Build } from '../build/schema';
import { deviceAt, ecuEnd, endType, pinAt, type EndKey } from '../ends/ends';
import { surroundings } from '../power/census';
import { terminalOhms } from '../power/contact-ohms';
import type { Draw, Flows, Step } from '../power/flow';
import type { ReturnDrop } from '../power/plan';
import { mostAt, raise, type Chain } from '../power/runs';
import { LOADED_CELSIUS } from '../power/sizes';
import { wireOhms } from '../wire/wire';
import { allDrafts, type Drafts } from './drafts';
import { groundPins } from './ground-pins';
import type { Counted } from './power-plan';
import { otherEnd, type Unsized } from './wires';

/** A way back from a load: its wires in order, what is drawn there, and what it may lose. */
interface Back {
  readonly draw: Draw;
  readonly limit: number;
  readonly way: readonly Unsized[];
}

/** Wires by the ends they land on. */
function wiresAt(wires: readonly Unsized[]): ReadonlyMap<EndKey, readonly Unsized[]> {
  const at = new Map<EndKey, Unsized[]>();
  for (const wire of wires)
    for (const end of [wire.from, wire.to]) {
      const there = at.get(end);
      if (there) there.push(wire);
      else at.set(end, [wire]);
    }
  return at;
}

/** The shortest way along these wires from an end to one where it may stop; empty where there is none. */
function wayFrom(
  start: EndKey,
  at: ReadonlyMap<EndKey, readonly Unsized[]>,
  stops: (end: EndKey) => boolean,
): readonly Unsized[] {
  const came = new Map<EndKey, Unsized | null>([[start, null]]);
  const queue = [start];
  for (const end of queue) {
    if (end !== start && stops(end)) {
      const way: Unsized[] = [];
      for (let step = end; came.get(step); step = otherEnd(came.get(step)!, step)) way.push(came.get(step)!);
      return way.reverse();
    }
    for (const wire of at.get(end) ?? []) {
      const next = otherEnd(wire, end);
      if (came.has(next)) continue;
      came.set(next, wire);
      queue.push(next);
    }
  }
  return [];
}

/**
 * The way back of every load that has one in the loom: by its own ground to a bolt, or along its output's wire to the ECU, whose own
 * grounds are ways of their own; the block, the body and what stands inside the ECU are no wires (the circuit tells them). Each
 * wire that loses a way its volts is raised a size, and again, as feeds are.
 *
 * @returns What each way loses, volts, by the end of its load, and the wires as they were raised.
 */
export function returnsOf(
  build: Build,
  { draws }: Pick<Flows, 'draws'>,
  { drafts, metres }: Counted,
): { readonly drops: ReadonlyMap<EndKey, ReturnDrop>; readonly drafts: Drafts } {
  const all = allDrafts(drafts);
  const grounds = all.filter(({ signal }) => signal === 'ground');
  const outputs = all.filter(({ signal }) => signal === 'injector' || signal === 'ignition' || signal === 'output');
  const [groundsAt, outputsAt] = [wiresAt(grounds), wiresAt(outputs)];
  const isBolt = (end: EndKey) => endType(end) === 'ground';
  const isPin = (end: EndKey) => pinAt(end) !== null;
  const ecuWays = groundPins(build).power.map(({ id }) => wayFrom(ecuEnd(id), groundsAt, isBolt));
  const ends = new Map<string, EndKey[]>();
  for (const end of [...groundsAt.keys(), ...outputsAt.keys()]) {
    const device = deviceAt(end);
    if (device !== null) ends.set(device, [...(ends.get(device) ?? []), end]);
  }
  const backs = draws.flatMap((draw): Back[] => {
    if (!draw.load) return [];
    const own = draw.load.groundVolts;
    if (pinAt(draw.end) !== null) return ecuWays.flatMap((way) => (way.length > 0 ? [{ draw, limit: own, way }] : []));
    const of = ends.get(deviceAt(draw.end) ?? '') ?? [];
    const bolted = of.map((end) => wayFrom(end, groundsAt, isBolt)).find((way) => way.length > 0);
    if (bolted) return [{ draw, limit: own, way: bolted }];
    const driven = of.map((end) => wayFrom(end, outputsAt, isPin)).find((way) => way.length > 0);
    return driven ? [{ draw, limit: draw.load.limitVolts, way: driven }] : [];
  });
  const chains = new Map<string, Chain>();
  const steps = new Map<string, Step>();
  for (const wire of new Set(backs.flatMap(({ way }) => way))) {
    const { id, from, to } = wire;
    const link = { id, from, to, metres: metres.get(id)!, role: 'return', feed: null, proposed: true } as const;
    const step: Step = { from, to, link, part: null };
    steps.set(id, step);
    chains.set(id, {
      steps: [step],
      squareMm: wire.squareMm,
      setBy: 'PW-1',
      fixed: wire.byPerson,
      ownSizes: [],
      most: Math.min(mostAt(build, from), mostAt(build, to)),
      metres: link.metres,
    });
  }
  const byId = new Map(all.map((wire) => [wire.id, wire]));
  const rms = ({ link }: Step) => byId.get(link!.id)!.drawnAmps;
  const ohms = ({ link, from, to }: Step, squareMm: number) =>
    wireOhms(squareMm, link!.metres, LOADED_CELSIUS) + terminalOhms(from, to);
  const lost = (step: Step) => rms(step) * ohms(step, chains.get(step.link!.id)!.squareMm);
  const loads = backs.map(({ draw, limit, way }) => ({ draw, limit, way: way.map(({ id }) => steps.get(id)!) }));
  raise(loads, chains, lost, ohms, rms, surroundings(build));
  const drops = new Map<EndKey, ReturnDrop>();
  for (const { draw, limit, way } of loads) {
    const hops = way.map((step) => ({ wireId: step.link!.id, from: step.from, to: step.to, volts: lost(step) }));
    const drop = { name: draw.name, limitVolts: limit, hops, volts: hops.reduce((sum, { volts }) => sum + volts, 0) };
    const known = drops.get(draw.end);
    if (!known || known.volts - known.limitVolts < drop.volts - drop.limitVolts) drops.set(draw.end, drop);
  }
  const raised = (wire: Unsized): Unsized => {
    const squareMm = chains.get(wire.id)?.squareMm ?? wire.squareMm;
    return squareMm === wire.squareMm ? wire : { ...wire, squareMm };
  };
  return {
    drops,
    drafts: {
      before: drafts.before.map(raised),
      returns: new Map([...drafts.returns].map(([id, wire]) => [id, raised(wire)])),
      after: drafts.after.map(raised),
    },
  };
}
