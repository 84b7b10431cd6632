import type { Build } from '../build/schema';
import { BATTERY, endType, partAt, partEnd, type EndKey } from '../ends/ends';
import { carriedAmps, wireOhms } from '../wire/wire';
import { battery, insideOhms, type Cell } from './battery-figures';
import { surroundingsIn, type Census } from './census';
import type { FeedPlan } from './feed-plan';
import { stepsFrom, through, type Flows, type Step } from './flow';
import { laidMetres } from './length';
import type { PlannedLink } from './propose';
import { besideCell, ownCell } from './rings';
import type { Sizes } from './sizes';

/*
 * What hangs on a source before anything protects it: from each source a walk along wires, bars and switches up to the first fuse
 * on every way. Its length, its thinnest wire, what that carries, and what it would take rubbed through at its end.
 */
export interface BareRun {
  readonly source: EndKey;
  /** The fuse, the load, the other source or the bolt it leads to. */
  readonly to: EndKey;
  readonly meets: 'fuse' | 'load' | 'source' | 'nothing';
  readonly links: readonly PlannedLink[];
  /** Switches, contacts and bars on the way. */
  readonly passes: readonly EndKey[];
  /** Metres in all, and of what is thinner than a cable of the starting circuit. */
  readonly metres: number;
  readonly thinMetres: number;
  readonly thinnestMm: number;
  readonly thinnest: PlannedLink;
  readonly carriesAmps: number;
  /** Shorted at its end, from a full battery, amperes: by its inside and the copper at 20 °C. */
  readonly shortedAmps: number;
}

/** A wire so thick is a cable of the starting circuit, which nobody fuses (common practice: 16 mm² and up). */
export const CABLE_SQUARE_MM = 16;

/** Sources whose current nothing has limited: batteries, and feeds of the car that nobody fused. */
function sourcesOf(build: Build, plan: FeedPlan): { readonly end: EndKey; readonly cell: Cell }[] {
  const full = ownCell(build, 1);
  return [
    { end: BATTERY, cell: full },
    ...[...plan.parts.values()].flatMap(({ part, name }) =>
      part.kind === 'battery'
        ? [{ end: partEnd('battery', name), cell: besideCell(build, part) }]
        : part.kind === 'tap' && !part.fused
          ? [{ end: partEnd('tap', name), cell: full }]
          : [],
    ),
  ];
}

/** Every run from a source to the first protection on its way. O(sources · wires). */
export function bareRuns(
  build: Build,
  plan: FeedPlan,
  { draws }: Pick<Flows, 'draws'>,
  { links: sizes }: Pick<Sizes, 'links'>,
  census: Census,
): BareRun[] {
  const sources = sourcesOf(build, plan);
  const isSource = new Set(sources.map(({ end }) => end));
  const loads = new Set(draws.map(({ end }) => end));
  const around = surroundingsIn(build, census);
  const next = stepsFrom(
    plan.links.filter(({ id, role }) => role !== 'return' && sizes.has(id)),
    [...through(plan)].filter(({ from }) => endType(from) !== 'fuse'),
  );
  return sources.flatMap(({ end: source, cell }) => {
    const found: BareRun[] = [];
    const came = new Map<EndKey, Step | null>([[source, null]]);
    const told = (to: EndKey, meets: BareRun['meets']) => {
      const steps: Step[] = [];
      for (let step = came.get(to); step; step = came.get(step.from)) steps.push(step);
      const links = steps.flatMap(({ link }) => link ?? []).reverse();
      if (links.length === 0) return;
      const size = ({ id }: PlannedLink) => sizes.get(id)!.squareMm;
      const thinnest = links.reduce((least, link) => (size(link) < size(least) ? link : least));
      const slack = build.loom.slackMetres;
      const ohms = links.reduce((sum, link) => sum + wireOhms(size(link), laidMetres(link, slack)), 0);
      found.push({
        source,
        to,
        meets,
        links,
        passes: steps
          .map(({ from }) => from)
          .filter((end) => end !== source && endType(end) !== 'splice')
          .reverse(),
        metres: links.reduce((sum, { metres }) => sum + metres, 0),
        thinMetres: links.reduce((sum, link) => sum + (size(link) < CABLE_SQUARE_MM ? link.metres : 0), 0),
        thinnest,
        thinnestMm: size(thinnest),
        carriesAmps: carriedAmps(size(thinnest), around(thinnest.route)),
        shortedAmps: battery.off.value / (insideOhms(cell.ampereHours, cell.celsius, cell.charge) + ohms),
      });
    };
    const queue = [source];
    for (const end of queue) {
      const type = endType(end);
      if (end !== source) {
        if (type === 'fuse') {
          told(end, 'fuse');
          continue;
        }
        if (isSource.has(end)) {
          told(end, 'source');
          continue;
        }
        if (loads.has(end)) {
          told(end, 'load');
          continue;
        }
      }
      let goesOn = false;
      for (const step of next.get(end) ?? []) {
        if (came.has(step.to)) continue;
        came.set(step.to, step);
        queue.push(step.to);
        goesOn = true;
      }
      if (!goesOn && end !== source && partAt(end) !== null && type !== 'splice') told(end, 'nothing');
    }
    return found;
  });
}
