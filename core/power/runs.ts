import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { trait } from '../devices/kind';
import { cavitySquareMm } from '../ecu/face';
import { deviceAt, endOf, endType, partAt, pinAt, portOf, type EndKey, type PartId } from '../ends/ends';
import { inSeries, seriesSizes, sizeFor, type Surroundings } from '../wire/wire';
import { wayTo, type Draw, type Flow, type Flows, type Step } from './flow';
import type { PlannedLink } from './propose';

/** What asks for a size that is proposed: the fuse before it, the volts lost on the way, or its own strength. */
export type WireSetBy = 'person' | 'PW-1' | 'PW-3' | 'strength';

/** Smallest feed that is laid at all, for its strength, and the smallest to a winding (common practice). */
export const LEAST_SQUARE_MM = 0.5;
const LEAST_WINDING_SQUARE_MM = 0.35;
/** Above this a size is not raised unasked: shorten or split the circuit (common practice). */
const MOST_SQUARE_MM = 10;
/** The cable to a master switch or a busbar carries all of it (common practice: 16 to 50). */
const MOST_CABLE_SQUARE_MM = 50;

/** Wires of one run between two places that branch, which are cut from one spool: of one size. */
export interface Chain {
  readonly steps: Step[];
  squareMm: number;
  setBy: WireSetBy;
  fixed: boolean;
  ownSizes: readonly string[];
  most: number;
  metres: number;
}

export const NOTHING: Flow = { mean: 0, rms: 0, peak: 0 };

/** The most a plug of an injector or a coil takes (common practice). */
const MOST_PLUG_SQUARE_MM = 1.5;

/** The most a wire to this end may have: its terminal takes no more. */
export function mostAt(build: Build, end: EndKey): number {
  const device = withId(build.devices, deviceAt(end));
  const kind = device && build.kinds[device.kindId];
  if (endType(end) === 'switch' || endType(end) === 'busbar') return MOST_CABLE_SQUARE_MM;
  if (kind && (trait(kind, 'coil') || trait(kind, 'injector'))) return MOST_PLUG_SQUARE_MM;
  const pin = withId(build.ecu.pins, pinAt(end));
  const connector = withId(build.ecu.connectors, pin?.connector);
  return pin && connector ? cavitySquareMm(connector, pin.cavity) : MOST_SQUARE_MM;
}

const isWinding = ({ to, link }: Step): boolean =>
  link?.role === 'winding' || (endOf(to).of === 'part' && (portOf(to) === '85' || portOf(to) === '86'));

/** A fuse further than this from its source leaves unprotected wire, metres (common practice: close to its source). */
export const FUSE_NEAR_METRES = 0.5;
/** The short piece before a fuse is as thick as what is behind it; a long one behind another fuse is that one's. */
export function sizedBy({ to, metres }: Pick<PlannedLink, 'to' | 'metres'>, before: PartId | null): PartId | null {
  const ahead = endType(to) === 'fuse' ? partAt(to) : null;
  return ahead !== null && (before === null || metres <= FUSE_NEAR_METRES) ? ahead : before;
}

/** The cable from the battery to a bar that all fuses hang on (common practice: 16 to 35 mm²). */
const BAR_SQUARE_MM = 25;
/** Wires on the way to where the starter's or the alternator's cable lands: no thinner than those. */
function cablesOf({ power }: Build, flows: Flows): ReadonlyMap<string, number> {
  const found = new Map<string, number>();
  for (const { at, squareMm } of [power.starterCable, ...(power.charging === 'none' ? [] : [power.alternatorCable])])
    for (const { link } of wayTo(flows, at))
      if (link) found.set(link.id, Math.max(found.get(link.id) ?? 0, Math.min(squareMm, MOST_CABLE_SQUARE_MM)));
  return found;
}

/** Runs between two places that branch, each at the least size its fuse allows, by the wires they are of. */
export function chainsOf(
  build: Build,
  flows: Flows,
  fuses: ReadonlyMap<PartId, { readonly amps: number }>,
  aroundOf: (link: PlannedLink) => Surroundings,
): Map<string, Chain> {
  // A winding that hangs beside does not part a run.
  const branches = new Map<EndKey, number>();
  for (const step of flows.steps) if (!isWinding(step)) branches.set(step.from, (branches.get(step.from) ?? 0) + 1);
  const heavy = cablesOf(build, flows);
  const chainOf = new Map<string, Chain>();
  const chainInto = new Map<EndKey, Chain | null>();
  const found: Chain[] = [];
  for (const step of flows.steps) {
    const before = chainInto.get(step.from) ?? null;
    const goesOn = before !== null && !isWinding(step) && (branches.get(step.from) ?? 0) === 1;
    if (!step.link) {
      chainInto.set(step.to, goesOn ? before : null);
      continue;
    }
    const chain: Chain = goesOn
      ? before
      : {
          steps: [],
          squareMm: 0,
          setBy: 'strength',
          fixed: false,
          ownSizes: [],
          most: MOST_CABLE_SQUARE_MM,
          metres: 0,
        };
    if (!goesOn) found.push(chain);
    chain.most = Math.min(chain.most, mostAt(build, step.to));
    chain.metres += step.link.metres;
    chain.steps.push(step);
    chainOf.set(step.link.id, chain);
    chainInto.set(step.to, chain);
  }
  for (const chain of found) {
    const names = new Set(chain.steps.flatMap(({ link }) => (link?.feed ? [link.feed] : [])));
    const trunk = chain.steps.some(
      ({ link }) => link?.role === 'trunk' || link?.role === 'jumper' || link?.role === 'source',
    );
    const chosen = [...names].flatMap((name) => (trunk ? (build.power.circuits[name]?.squareMm ?? []) : []));
    chain.ownSizes = chain.steps.flatMap(({ link }) =>
      build.loom.wires[link!.id]?.squareMm === undefined ? [] : [link!.id],
    );
    const byWire = chain.ownSizes.map((id) => build.loom.wires[id]!.squareMm!);
    const winding = chain.steps.every(isWinding);
    const bar = chain.steps.some(({ from, to }) =>
      [from, to].every((end) => endType(end) === 'battery' || endType(end) === 'busbar'),
    );
    const least = chain.steps.map((step) => {
      const fuse = sizedBy({ to: step.to, metres: step.link!.metres }, flows.fuseBefore.get(step.from) ?? null);
      const flow = flows.through.get(step.link!.id) ?? NOTHING;
      const amps = fuse ? fuses.get(fuse)!.amps : flow.rms;
      const cable = heavy.get(step.link!.id) ?? (bar && fuse === null ? BAR_SQUARE_MM : 0);
      return Math.max(
        sizeFor(amps, aroundOf(step.link!), winding ? LEAST_WINDING_SQUARE_MM : LEAST_SQUARE_MM),
        cable > 0 ? inSeries(cable, build.loom.series) : 0,
      );
    });
    chain.squareMm = byWire[0] ?? chosen[0] ?? Math.max(...least);
    chain.fixed = byWire.length > 0 || chosen.length > 0;
    const strength = winding ? LEAST_WINDING_SQUARE_MM : LEAST_SQUARE_MM;
    chain.setBy = chain.fixed ? 'person' : chain.squareMm > strength ? 'PW-1' : 'strength';
  }
  return chainOf;
}

/** Sizes are raised at most so many times in all: every run once through the series. */
const MOST_ROUNDS = 1000;

/**
 * Raises runs until every load has its volts or nothing may be raised any more: each time the one that saves the worst load most for
 * its copper.
 */
export function raise(
  loads: readonly { readonly draw: Draw; readonly limit: number; readonly way: readonly Step[] }[],
  chainOf: ReadonlyMap<string, Chain>,
  lost: (step: Step) => number,
  ohmsOf: (step: Step, squareMm: number) => number,
  rmsOf: (step: Step) => number,
  around: Surroundings,
): void {
  const sizes = seriesSizes(around.series).map(({ squareMm }) => squareMm);
  const above = (squareMm: number) => sizes.find((one) => one > squareMm);
  const given = new Set<number>();
  const overOf = ({ limit, way }: (typeof loads)[number]) => way.reduce((sum, step) => sum + lost(step), 0) - limit;
  const over = loads.map(overOf);
  // Loads that a run leads to: only what they lose changes when it is raised.
  const behind = new Map<Chain, Set<number>>();
  loads.forEach(({ way }, at) => {
    for (const { link } of way) {
      const chain = link && chainOf.get(link.id);
      if (chain) behind.set(chain, (behind.get(chain) ?? new Set()).add(at));
    }
  });
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    let worst = -1;
    let most = 1e-9;
    for (let at = 0; at < over.length; at += 1) {
      const volts = over[at]!;
      if (volts <= most || given.has(at)) continue;
      worst = at;
      most = volts;
    }
    if (worst < 0) return;
    const chains = new Set(loads[worst]!.way.flatMap(({ link }) => (link ? (chainOf.get(link.id) ?? []) : [])));
    let best: { chain: Chain; next: number; gain: number } | null = null;
    for (const chain of chains) {
      const next = above(chain.squareMm);
      if (chain.fixed || next === undefined || next > chain.most) continue;
      let saved = 0;
      for (const step of chain.steps) saved += rmsOf(step) * (ohmsOf(step, chain.squareMm) - ohmsOf(step, next));
      const gain = saved / ((next - chain.squareMm) * chain.metres);
      if (saved > 0 && (best === null || gain > best.gain)) best = { chain, next, gain };
    }
    if (!best) {
      given.add(worst);
      continue;
    }
    Object.assign(best.chain, { squareMm: best.next, setBy: 'PW-3' });
    for (const at of behind.get(best.chain) ?? []) over[at] = overOf(loads[at]!);
  }
}
