import type { Build } from '../build/schema';
import { BATTERY, KEY_RUN, KEY_START, endType, partEnd, type EndKey } from '../ends/ends';
import type { PartOf } from '../topology/parts';
import { battery, insideOhms, restingVolts, type Cell } from './battery-figures';
import type { FeedPlan } from './feed-plan';
import type { Step } from './flow';
import { fuseFor, fuseOhms } from './fuse';
import { laidMetres } from './length';
import { RELAY_CONTACT_OHMS, switchOhms, terminalOhms } from './contact-ohms';
import { surroundings } from './census';
import { sizeFor, wireOhms } from '../wire/wire';

/*
 * What runs between two batteries that are joined: not by what hangs behind, but by how far their volts stand apart. Solved as
 * volts behind resistances (Kirchhoff), in each state in which one of them is flat while the others are full, with the engine
 * still and with what charges at work: the latter is also the start by a helping car. Each takes in by its plain inside, as in
 * the first minutes. Left out: what a starter draws through the link while it turns, some seconds.
 */

/** The battery the car has, so full. */
export const ownCell = ({ power, site }: Pick<Build, 'power' | 'site'>, charge: number): Cell => ({
  ampereHours: power.batteryAh,
  celsius: site.ambientCelsius,
  charge,
});

/** A battery beside it, by what is known of it: full, and as warm as the place, where nobody has said. */
export const besideCell = (
  { site }: Pick<Build, 'site'>,
  {
    ampereHours,
    charge = 1,
    celsius = site.ambientCelsius,
  }: Pick<PartOf<'battery'>, 'ampereHours' | 'charge' | 'celsius'>,
): Cell => ({ ampereHours, charge, celsius });

/** How full one is that is called flat. */
const FLAT = 0.15;
/** A contact of the key, and a feed of the car, ohms (common practice). */
const KEY_OHMS = 0.03;
/** Sizes are tried again so often at the most: each only grows, through a series of a dozen. */
const MOST_TRIES = 14;

/** A wire or a part between two places, with what it measures. */
interface Edge {
  readonly key: string;
  readonly a: number;
  readonly b: number;
  ohms: number;
}

/** Ends by number; places that lead nowhere but to one other fall away, with what they draw. */
class Core {
  readonly index = new Map<EndKey, number>();
  readonly edges: Edge[] = [];
  node(end: EndKey): number {
    const known = this.index.get(end) ?? this.index.size;
    this.index.set(end, known);
    return known;
  }
  /** Edges that stand on a way between two sources. */
  between(sources: readonly number[], draws: Float64Array): Edge[] {
    const count = this.index.size;
    const degree = new Int32Array(count);
    for (const { a, b } of this.edges) {
      degree[a]! += 1;
      degree[b]! += 1;
    }
    const isSource = new Set(sources);
    const left = new Set(this.edges);
    for (let again = true; again;) {
      again = false;
      for (const edge of left) {
        const [leaf, other] =
          degree[edge.a] === 1 && !isSource.has(edge.a)
            ? [edge.a, edge.b]
            : degree[edge.b] === 1 && !isSource.has(edge.b)
              ? [edge.b, edge.a]
              : [-1, -1];
        if (leaf < 0) continue;
        left.delete(edge);
        degree[edge.a]! -= 1;
        degree[edge.b]! -= 1;
        draws[other]! += draws[leaf]!;
        draws[leaf] = 0;
        again = true;
      }
    }
    return [...left];
  }
}

/** Volts of the places by Gauss's elimination with the largest pivot: a few places remain of any plan. */
function solved(size: number, edges: readonly Edge[], sources: readonly Source[], draws: Float64Array): Float64Array {
  const rows = Array.from({ length: size }, () => new Float64Array(size + 1));
  const leak = 1e-9;
  rows.forEach((row, at) => {
    row[at] = leak;
    row[size] = -draws[at]!;
  });
  for (const { a, b, ohms } of edges) {
    rows[a]![a]! += 1 / ohms;
    rows[b]![b]! += 1 / ohms;
    rows[a]![b]! -= 1 / ohms;
    rows[b]![a]! -= 1 / ohms;
  }
  for (const { at, volts, ohms } of sources) {
    rows[at]![at]! += 1 / ohms;
    rows[at]![size]! += volts / ohms;
  }
  for (let step = 0; step < size; step += 1) {
    let best = step;
    for (let row = step + 1; row < size; row += 1)
      if (Math.abs(rows[row]![step]!) > Math.abs(rows[best]![step]!)) best = row;
    [rows[step], rows[best]] = [rows[best]!, rows[step]!];
    for (let row = step + 1; row < size; row += 1) {
      const times = rows[row]![step]! / rows[step]![step]!;
      if (times !== 0) for (let at = step; at <= size; at += 1) rows[row]![at]! -= times * rows[step]![at]!;
    }
  }
  const volts = new Float64Array(size);
  for (let step = size - 1; step >= 0; step -= 1) {
    let sum = rows[step]![size]!;
    for (let at = step + 1; at < size; at += 1) sum -= rows[step]![at]! * volts[at]!;
    volts[step] = sum / rows[step]![step]!;
  }
  return volts;
}
interface Source {
  readonly at: number;
  readonly volts: number;
  readonly ohms: number;
}

/** What each wire and part between two batteries carries at its worst, amperes, by its id. Empty where nothing joins any. */
export function betweenSources(
  build: Build,
  plan: FeedPlan,
  through: readonly Step[],
  drawn: ReadonlyMap<EndKey, number>,
): ReadonlyMap<string, number> {
  const found = new Map<string, number>();
  const beside = [...plan.parts.values()].flatMap(({ part, name }) =>
    part.kind === 'battery' ? [{ end: partEnd('battery', name), cell: besideCell(build, part) }] : [],
  );
  if (beside.length === 0) return found;
  const core = new Core();
  const cells = [{ end: BATTERY, cell: ownCell(build, 1) }, ...beside].map(({ end, cell }) => ({
    at: core.node(end),
    cell,
  }));
  const squares = new Map<string, number>();
  const links = plan.links.filter(({ from, to }) => endType(from) !== 'ground' && endType(to) !== 'ground');
  const linkOhms = (link: (typeof links)[number]) =>
    wireOhms(squares.get(link.id)!, laidMetres(link, build.loom.slackMetres)) + terminalOhms(link.from, link.to);
  for (const link of links) {
    squares.set(link.id, build.loom.wires[link.id]?.squareMm ?? sizeFor(0, surroundings(build)));
    core.edges.push({ key: link.id, a: core.node(link.from), b: core.node(link.to), ohms: linkOhms(link) });
  }
  const seen = new Set<string>();
  for (const { from, to, part } of through) {
    const key = `${part} ${[from, to].sort().join()}`;
    if (part === null || seen.has(key)) continue;
    seen.add(key);
    const own = plan.parts.get(part)!.part;
    const ohms =
      own.kind === 'switch'
        ? switchOhms(own.amps)
        : own.kind === 'resistor'
          ? own.ohms
          : own.kind === 'fuse'
            ? fuseOhms(own.amps ?? 100)
            : RELAY_CONTACT_OHMS;
    core.edges.push({ key: part, a: core.node(from), b: core.node(to), ohms });
  }
  for (const end of [
    KEY_RUN,
    KEY_START,
    ...[...plan.parts.values()].flatMap(({ part, name }) => (part.kind === 'tap' ? [partEnd('tap', name)] : [])),
  ])
    core.edges.push({ key: end, a: core.node(end), b: cells[0]!.at, ohms: KEY_OHMS });
  const draws = new Float64Array(core.index.size);
  for (const [end, amps] of drawn) {
    const at = core.index.get(end);
    if (at !== undefined) draws[at]! += amps;
  }
  const edges = core.between(
    cells.map(({ at }) => at),
    draws,
  );
  if (edges.length === 0) return found;
  // What remains, numbered anew.
  const places = new Map<number, number>();
  const place = (node: number): number => {
    const known = places.get(node) ?? places.size;
    places.set(node, known);
    return known;
  };
  const kept = edges.map((edge) => ({ ...edge, a: place(edge.a), b: place(edge.b) }));
  const sources = cells.filter(({ at }) => places.has(at));
  const hangs = new Float64Array(places.size);
  for (const [node, at] of places) hangs[at] = draws[node]!;
  const still = new Float64Array(places.size);
  const charges = build.power.charging !== 'none';
  const states = [null, ...sources.keys()].flatMap((flat) =>
    (charges ? [false, true] : [false]).map((isCharged) =>
      sources.map(({ at, cell }, one): Source => {
        const charge = one === flat ? FLAT : cell.charge;
        return isCharged && one === 0
          ? { at: places.get(at)!, volts: battery.charging.value, ohms: battery.regulated.value }
          : {
              at: places.get(at)!,
              volts: restingVolts(charge),
              ohms: insideOhms(cell.ampereHours, cell.celsius, charge),
            };
      }),
    ),
  );
  const byId = new Map(links.map((link) => [link.id, link]));
  for (let round = 0; round < MOST_TRIES; round += 1) {
    for (const state of states)
      for (const hanging of [still, hangs]) {
        const volts = solved(places.size, kept, state, hanging);
        for (const { key, a, b, ohms } of kept)
          found.set(key, Math.max(found.get(key) ?? 0, Math.abs(volts[a]! - volts[b]!) / ohms));
      }
    let grew = false;
    for (const edge of kept) {
      const link = byId.get(edge.key);
      if (!link || build.loom.wires[link.id]?.squareMm !== undefined) continue;
      const amps = found.get(link.id)!;
      const next = sizeFor(fuseFor(amps) ?? amps, surroundings(build));
      if (next <= squares.get(link.id)!) continue;
      squares.set(link.id, next);
      edge.ohms = linkOhms(link);
      grew = true;
    }
    if (!grew) break;
  }
  return found;
}
