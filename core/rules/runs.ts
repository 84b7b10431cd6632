import { call } from '../edits';
import { groupBy } from '../data/group';
import { withId } from '../data/with-id';
import { endOf, endType, fuseEnd, partAt, readPart, type EndKey } from '../ends/ends';
import { segmentName } from '../loom/names';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';
import type { Build } from '../build/schema';
import { CABLE_SQUARE_MM, bareRuns, type BareRun } from '../power/bare-runs';
import { inPiece, surroundings, surroundingsIn } from '../power/census';
import { wayTo } from '../power/flow';
import { FUSE_METRES } from '../power/propose';
import { FUSE_NEAR_METRES } from '../power/runs';
import { formatAmps, listWords, plural } from '../units/format';
import { readQuantity } from '../units/units';
import { readLength } from '../units/workshop';
import { readSize } from '../wire/size';
import { carriedAmps, conductorCelsius } from '../wire/wire';
import type { Hit, Rule, RuleContext } from './rule';

const CLOSE = 1e-9;

/** Windings as they are proposed today: each behind a small fuse. */
const behindFuse: Hit['remedy'] = {
  label: 'Feed windings behind a fuse',
  calls: [call('setCircuit', { circuitId: 'windings', choice: { feed: 'own' } })],
};
/** Bars, bolts, switches and joints: current goes on from there. */
const isOnTheWay = (end: EndKey): boolean =>
  ['switch', 'busbar', 'splice', 'relay', 'button', 'resistor', 'diode', 'battery'].includes(endType(end));

const runsOf = ({ build, net }: Pick<RuleContext, 'build' | 'net'>): BareRun[] => {
  const { plan, flows, sizes, census } = net.power;
  return bareRuns(build, plan, flows, sizes, census);
};
/** The piece of a run that most of it is. */
const longest = ({ links }: BareRun) => links.reduce((most, link) => (link.metres > most.metres ? link : most));

/** What current passes on its way: the part, not the side of it. */
const passedName = (net: Netlist, end: EndKey): string =>
  withId(net.parts, partAt(end)!)?.part.name ?? labelOf(net, end);

/** Long runs that end in a fuse, or in something that is no load, by the wire that is most of each. */
function farRuns(context: RuleContext): Hit[] {
  const { build, net } = context;
  const far = runsOf(context).filter(
    (run) => (run.meets === 'fuse' || run.meets === 'nothing') && run.thinMetres > FUSE_NEAR_METRES + CLOSE,
  );
  return [...groupBy(far, (run) => longest(run).id)].map(([id, runs]): Hit => {
    const worst = runs.reduce((most, run) => (run.metres > most.metres ? run : most));
    const ends = [...new Set(runs.map(({ to, meets }) => (meets === 'fuse' ? readPart(partAt(to)!)!.name : '')))];
    const alone = ends.length === 1 && ends[0] !== '' ? withId(net.circuits, ends[0]) : undefined;
    const own = alone !== undefined && endType(longest(worst).to) === 'fuse';
    const names = runs.map(({ to }) => labelOf(net, to).replace(/ fuse, .*$/, ' fuse'));
    const ahead = own
      ? `${alone.name}: ${readLength(worst.metres, build)} of wire before the fuse`
      : `${readLength(worst.metres, build)} of ${readSize(worst.thinnestMm, build)} from ${labelOf(net, worst.source)}${worst.passes.length > 0 ? ` by ${listWords([...new Set(worst.passes.map((end) => passedName(net, end)))].slice(0, 2))}` : ''} to ${listWords([...new Set(names)].slice(0, 3))}${names.length > 3 ? ' and more' : ''}`;
    return {
      at: own ? alone.id : id,
      where: own ? { type: 'end', end: fuseEnd(alone.id, 1) } : { type: 'wire', wireId: worst.thinnest.id },
      detail: `${ahead} ${own ? 'has' : 'have'} no protection at all: rubbed through it takes about ${formatAmps(worst.shortedAmps)}, and it carries ${formatAmps(worst.carriesAmps)}.`,
      // Where the tree says so, the box has to be moved.
      remedy:
        !own || build.power.circuits[alone.id]?.fuseDistanceMetres === undefined
          ? undefined
          : {
              label: `Move it to ${readLength(FUSE_METRES, build)}`,
              calls: [call('deriveCircuit', { circuitId: alone.id, fields: ['fuseDistanceMetres'] })],
            },
    };
  });
}

/** The hottest a wire gets where it lies, at what its protection lets through; null where it stands that. */
function overheated(
  build: Build,
  net: Netlist,
  wire: Wire,
): { readonly celsius: number; readonly at: string | null } | null {
  const { census } = net.power;
  const known = wire.route.filter((id) => build.tree.segments[id] !== undefined);
  const places =
    known.length === 0
      ? [{ at: null, around: surroundings(build) }]
      : known.map((at) => ({ at, around: inPiece(build, census, at) }));
  let worst: { celsius: number; at: string | null } | null = null;
  for (const { at, around } of places) {
    const celsius = conductorCelsius(wire.squareMm, wire.lets, around);
    // Air that is as hot by itself is another rule's (LO-2).
    if (around.ambientCelsius >= build.loom.wireCelsius || celsius <= build.loom.wireCelsius + 0.5) continue;
    if (worst === null || celsius > worst.celsius) worst = { celsius, at };
  }
  return worst;
}

/** Insulation that wire is sold in, °C (classes of ISO 6722-1). */
const insulationClasses = [85, 105, 125, 150, 175, 200] as const;

/** Wires by where they get hottest: what is laid side by side is told once. */
function tooWarm({ build, net }: RuleContext): Hit[] {
  const hot = net.wires.flatMap((wire) => {
    const found = overheated(build, net, wire);
    return found ? [{ wire, ...found }] : [];
  });
  return [...groupBy(hot, ({ at }) => at ?? '')].map(([at, all]): Hit => {
    const { wire, celsius } = all.reduce((most, one) => (one.celsius > most.celsius ? one : most));
    const own = all.map((one) => one.wire.id).filter((id) => build.loom.wires[id]?.squareMm !== undefined);
    const next = insulationClasses.find((one) => one >= celsius);
    const degrees = (value: number) => readQuantity('temperature', Math.min(value, 999), build);
    return {
      at: at === '' ? 'loom' : at,
      where: { type: 'wire', wireId: wire.id },
      detail: `${labelOf(net, wire.from)} to ${labelOf(net, wire.to)}${at === '' ? '' : `, from ${segmentName(build, at)}`}: at the ${formatAmps(wire.lets)} its protection lets through ${readSize(wire.squareMm, build)} gets to ${degrees(celsius)}; its insulation stands ${degrees(build.loom.wireCelsius)}.${all.length > 1 ? ` So do ${plural(all.length - 1, 'more wire')} there.` : ''}`,
      remedy:
        own.length > 0
          ? { label: 'Derive the wire', calls: own.map((wireId) => call('setWire', { wireId, squareMm: null })) }
          : next !== undefined
            ? { label: `Use ${degrees(next)} wire`, calls: [call('setLoom', { wireCelsius: next })] }
            : undefined,
    };
  });
}

/** Runs from a source to the first protection, and wires against their own heat. */
export const runRules: Rule[] = [
  {
    id: 'PW-4',
    family: 'Power',
    severity: 'fix',
    title: 'Fuse far from its source',
    source: 'Half a metre from the source to the first fuse, whatever lies between; common practice',
    sheet: 'feeds',
    check: farRuns,
  },
  {
    id: 'PW-14',
    family: 'Power',
    severity: 'fix',
    title: 'Wire without a fuse',
    source: 'Every wire from a source is protected by something it can stand; common practice',
    sheet: 'feeds',
    check: ({ build, net }) => {
      const { plan, sizes, flows } = net.power;
      const bare = [...sizes.links.values()].filter(({ from, to, fuse }) => {
        // Bars and switches are no load, and a way that a fuse ends ahead is PW-4's: this is about what is drawn without one.
        if (fuse !== null || [from, to].some((end) => endType(end) === 'fuse') || isOnTheWay(to)) return false;
        const [first] = wayTo(flows, to);
        const source = first ? endOf(first.from) : null;
        const tap = source?.of === 'part' && source.kind === 'tap' ? plan.parts.get(partAt(first!.from)!)?.part : null;
        return tap?.kind === 'tap' ? !tap.fused : true;
      });
      const byKey = bare.filter(({ to }) => {
        const [first] = wayTo(flows, to);
        return first !== undefined && endType(first.from) !== 'battery';
      });
      const hits = bare.flatMap((link): Hit[] => {
        if (byKey.includes(link)) return [];
        const shared =
          plan.links.some(({ id, proposed }) => id === link.id && proposed) &&
          build.power.circuits.windings?.feed === 'shared';
        return [
          {
            at: link.id,
            where: { type: 'end', end: link.to },
            detail: `${labelOf(net, link.to)} hangs on the battery by ${readSize(link.squareMm, build)} that no fuse protects: rubbed through it burns.`,
            remedy: shared ? behindFuse : undefined,
          },
        ];
      });
      const [first] = byKey;
      if (first)
        hits.push({
          at: 'key',
          severity: 'note',
          title: 'Protected by the car’s own fuse only',
          where: { type: 'wire', wireId: first.id },
          detail: `${listWords(byKey.map(({ to }) => labelOf(net, to)))}: on the key without a fuse of the loom. The car’s own fuse before the key must not be above ${formatAmps(Math.min(...byKey.map(({ carriesAmps }) => carriesAmps)))}, which is what the thinnest of them carries.`,
          remedy: build.power.circuits.windings?.feed === 'shared' ? behindFuse : undefined,
        });
      return hits;
    },
  },
  {
    id: 'PW-18',
    family: 'Power',
    severity: 'fix',
    title: 'Return thinner than its load asks',
    source: 'Ampacity common practice; IEC 60364-5-52 grouping',
    sheet: 'feeds',
    check: ({ build, net }) => {
      const around = surroundingsIn(build, net.power.census);
      return net.wires.flatMap((wire): Hit[] => {
        if (wire.signal !== 'ground' || wire.amps <= carriedAmps(wire.squareMm, around(wire.route)) + CLOSE) return [];
        const chosen = build.loom.wires[wire.id]?.squareMm !== undefined;
        return [
          {
            at: wire.id,
            where: { type: 'wire', wireId: wire.id },
            detail: `${labelOf(net, wire.from)} to ${labelOf(net, wire.to)}: ${formatAmps(wire.amps)} return through ${readSize(wire.squareMm, build)}, which carries ${formatAmps(carriedAmps(wire.squareMm, around(wire.route)))}.`,
            remedy: chosen
              ? { label: 'Derive the wire', calls: [call('setWire', { wireId: wire.id, squareMm: null })] }
              : undefined,
          },
        ];
      });
    },
  },
  {
    id: 'PW-26',
    family: 'Power',
    severity: 'fix',
    title: 'Wire hotter than its insulation',
    source:
      'Rise by the square of the current, 75 K at what a size carries alone; IEC 60364-5-52 grouping; insulation by ISO 6722-1',
    sheet: 'feeds',
    check: tooWarm,
  },
  {
    id: 'PW-27',
    family: 'Power',
    severity: 'fix',
    title: 'Batteries joined without a fuse at each end',
    source: 'Either battery feeds a short on the link between them; common practice',
    sheet: 'feeds',
    check: (context) => {
      const { build, net } = context;
      const { between } = net.power.flows;
      // A cable of the link is exempt from PW-4 by its size, but not from a fuse: what it leads to gives as much as what it comes from.
      const open = runsOf(context).filter(
        ({ meets, metres, links }) =>
          (meets === 'source' || (meets === 'fuse' && metres > FUSE_NEAR_METRES + CLOSE)) &&
          links.some(({ id }) => between.has(id)),
      );
      return [...groupBy(open, (run) => (run.meets === 'source' ? run.thinnest.id : run.source))].map(
        ([id, [run]]): Hit => {
          const across = Math.max(...run!.links.map((link) => between.get(link.id) ?? 0));
          const long = `${readLength(run!.metres, build)} of ${readSize(run!.thinnestMm, build)}`;
          const near = `A fuse within ${readLength(FUSE_NEAR_METRES, build)} of each battery.`;
          return {
            at: id,
            where: { type: 'end', end: run!.meets === 'source' ? run!.to : run!.source },
            detail:
              run!.meets === 'source'
                ? `${labelOf(net, run!.source)} and ${labelOf(net, run!.to)} are joined by ${long} that no fuse parts: with one flat about ${formatAmps(across)} run through it, rubbed through about ${formatAmps(run!.shortedAmps)} from either side. ${near}`
                : `From ${labelOf(net, run!.source)} it is ${long} to the first fuse of the way to the other battery: rubbed through about ${formatAmps(run!.shortedAmps)} from there. ${near}`,
          };
        },
      );
    },
  },
  {
    id: 'PW-28',
    family: 'Power',
    severity: 'note',
    title: 'Cables nobody fuses',
    source: `Starter, alternator and battery cables from ${CABLE_SQUARE_MM} mm² on have no fuse, by practice: led clear, and booted at both ends`,
    sheet: 'feeds',
    check: (context) => {
      const { build, net } = context;
      const { starterCable, alternatorCable, charging } = build.power;
      const cable = (name: string, { metres, squareMm }: typeof starterCable) =>
        `${name} ${readLength(metres, build)} of ${readSize(squareMm, build)}`;
      const runs = runsOf(context).filter(({ metres, thinMetres }) => metres - thinMetres > FUSE_NEAR_METRES);
      const longestRun = runs.reduce<BareRun | null>(
        (most, run) => (most && most.metres >= run.metres ? most : run),
        null,
      );
      if (
        longestRun === null &&
        starterCable.metres <= LONG_CABLE_METRES &&
        alternatorCable.metres <= LONG_CABLE_METRES
      )
        return [];
      return [
        {
          at: '',
          where: longestRun ? { type: 'wire', wireId: longestRun.thinnest.id } : undefined,
          detail: `No fuse stands before ${listWords([
            cable('the starter’s', starterCable),
            ...(charging === 'none' ? [] : [cable('the alternator’s', alternatorCable)]),
            ...(longestRun
              ? [
                  `${readLength(longestRun.metres, build)} of ${readSize(longestRun.thinnestMm, build)} to ${labelOf(net, longestRun.to)}`,
                ]
              : []),
          ])}: rubbed through they burn. Lead them clear of edges and exhaust, clip them every ${readLength(CLIP_METRES, build)}, boot both ends.`,
        },
      ];
    },
  },
];
/** From one clip of a cable to the next (common practice). */
const CLIP_METRES = 0.3;
/** Battery and starter in one bay need no more (common practice). */
const LONG_CABLE_METRES = 2;
