import type { Build } from '../build/schema';
import { call } from '../edits';
import { endType, plugEnd } from '../ends/ends';
import {
  coveringCelsius,
  coveringOf,
  coveringWords,
  pullingOf,
  segmentFigures,
  warmAmps,
  wiresBySegment,
} from '../loom/bundles';
import { HARMLESS_METRES, NEAR_METRES, loudWords, noiseOf, type Noise } from '../loom/noise';
import { placeName, segmentName } from '../loom/names';
import { passingWires } from '../loom/plug';
import { nowhere } from '../loom/propose-tree';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';
import { wholeWires } from '../netlist/whole';
import { hasRole } from '../devices/kind';
import { deviceThing, ECU_THING, placesOf } from '../tree/things';
import { celsiusOf } from '../tree/tree';
import { piecesOf, ringsOf, waysOf } from '../tree/ways';
import { groupBy } from '../data/group';
import { listWords, plural } from '../units/format';
import { readQuantity } from '../units/units';
import { readLength, readMeasure } from '../units/workshop';
import { readSize } from '../wire/size';
import type { Hit, Rule } from './rule';

/** A hose to a sensor within the ECU: longer, and the pressure comes late (common practice). */
const HOSE_METRES = 1;

export const hasTree = ({ tree }: Build): boolean => Object.keys(tree.nodes).length > 0;

/** Bundles that are thicker than the hole of their piece. */
export function holesPassed(build: Build, net: Netlist): Hit[] {
  const wires = wiresBySegment(net);
  const warm = warmAmps(net);
  return Object.entries(build.tree.segments).flatMap(([id, { hole }]): Hit[] => {
    if (!hole) return [];
    const { millimetres, fits } = segmentFigures(build, net, id, wires.get(id) ?? [], warm);
    if (fits !== false) return [];
    return [
      {
        at: id,
        detail: `From ${segmentName(build, id)} the bundle is about ${readMeasure('thickness', millimetres, build)} in its covering; the hole is ${readMeasure('diameter', hole.millimetres, build)}.`,
      },
    ];
  });
}

/** A zone is endured by what stands as much; insulation that stands this much more is proposed, °C (classes of ISO 6722-1). */
const insulationClasses = [85, 105, 125, 150, 175, 200, 225, 250] as const;

/** Pieces whose air is hotter than the insulation, or than what is drawn over it. */
export function tooHot(build: Build): Hit[] {
  const { segments } = build.tree;
  const at = (id: string) => readQuantity('temperature', celsiusOf(segments[id]!), build);
  const ids = Object.keys(segments);
  const bare = ids.filter((id) => celsiusOf(segments[id]!) >= build.loom.wireCelsius);
  const sleeves = ids.filter((id) => celsiusOf(segments[id]!) > coveringCelsius[coveringOf(build, segments[id]!)]);
  const hottest = Math.max(...bare.map((id) => celsiusOf(segments[id]!)));
  const next = insulationClasses.find((celsius) => celsius > hottest);
  return [
    ...bare.map((id): Hit => ({
      at: id,
      detail: `From ${segmentName(build, id)} it is ${at(id)}; the insulation is rated ${readQuantity('temperature', build.loom.wireCelsius, build)}.`,
      remedy:
        next === undefined
          ? undefined
          : {
              label: `Use ${readQuantity('temperature', next, build)} wire`,
              calls: [call('setLoom', { wireCelsius: next })],
            },
    })),
    ...sleeves
      .filter((id) => !bare.includes(id))
      .map((id): Hit => {
        const covering = coveringOf(build, segments[id]!);
        return {
          at: `${id} covering`,
          title: 'Covering under the zone temperature',
          severity: 'fix',
          detail: `From ${segmentName(build, id)} it is ${at(id)}; ${coveringWords[covering]} stands ${readQuantity('temperature', coveringCelsius[covering], build)}.`,
          remedy:
            celsiusOf(segments[id]!) <= coveringCelsius.braid
              ? {
                  label: 'Use braid there',
                  calls: [call('setSegment', { segment: id, changes: { covering: 'braid' } })],
                }
              : undefined,
        };
      }),
  ];
}

/** How far a cable runs with and beside what is loud, in words. */
function besideWords(build: Build, { loud, bundledMetres, besideMetres }: Noise): string {
  const with_ = bundledMetres > 0 ? `${readLength(bundledMetres, build)} in one bundle with` : '';
  const near =
    besideMetres > 0
      ? `${readLength(besideMetres, build)} within ${readMeasure('thickness', 1000 * NEAR_METRES, build)} of`
      : '';
  return `${[with_, near].filter(Boolean).join(' and ')} ${loudWords[loud]}`;
}

/** Splices that lie at one place make a lump (common practice: 40 mm apart). */
const STAGGER_MILLIMETRES = 40;
const MOST_SPLICES = 4;
const USUAL_SLACK_METRES = 0.1;

export const treeRules: Rule[] = [
  {
    id: 'LO-9',
    family: 'Loom',
    severity: 'fix',
    title: 'Trigger cable beside what switches hard',
    source: 'Trigger and knock 100 mm clear of coils, starter and alternator; common practice',
    sheet: 'loom',
    check: ({ build, net }) => {
      const told = noiseOf(build, net).filter(
        ({ loud, screened, bundledMetres, besideMetres }) =>
          // Injectors switch little beside a screened pair: the figure is told, and nothing asked.
          (loud !== 'injector' || !screened) && bundledMetres + besideMetres > HARMLESS_METRES,
      );
      // One cable, one finding, whatever lies beside it.
      return [...groupBy(told, ({ deviceId }) => deviceId)].map(([deviceId, all]): Hit => {
        const [worst] = all;
        const { label, segment, wire, better, screened } = worst!;
        return {
          at: deviceId,
          where: { type: 'device', deviceId },
          severity: screened ? 'note' : undefined,
          detail: `${label} runs ${listWords(all.map((one) => besideWords(build, one)))}, most of it from ${segmentName(build, segment)}. ${better === null ? 'Give it a way of its own.' : `By ${segmentName(build, better)} it is clear of ${all.length > 1 ? loudWords[worst!.loud] : 'them'}.`}`,
          remedy:
            better === null
              ? undefined
              : {
                  label: `Lead it by ${segmentName(build, better)}`,
                  calls: [...wholeWires(net).values()]
                    .filter(({ pieces: [one] }) => one!.cable !== null && one!.cable === wire.cable)
                    .map(({ id }) => id)
                    .concat(wire.cable === null ? [wire.cutOf ?? wire.id] : [])
                    .map((wireId) => call('leadWire', { wireId, segment: better })),
                },
        };
      });
    },
  },
  {
    id: 'LO-10',
    family: 'Loom',
    severity: 'fix',
    title: 'The tree is not whole',
    source: 'A wire follows a path between what it joins',
    sheet: 'loom',
    check: ({ build }) => {
      if (!hasTree(build)) return [];
      const { tree } = build;
      const apart = piecesOf(tree);
      const rest = nowhere(build);
      const places = placesOf(tree);
      const zero = Object.entries(tree.segments).filter(([, { metres }]) => metres === 0);
      const selfish = Object.entries(tree.segments).filter(([, { a, b }]) => a === b);
      return [
        ...(places.has(ECU_THING)
          ? []
          : [
              {
                at: 'ecu',
                title: 'The ECU stands nowhere',
                detail: 'No place of the tree holds the ECU: no wire of it has a route.',
              },
            ]),
        ...(rest.length === 0
          ? []
          : [
              {
                at: 'nowhere',
                title: `${plural(rest.length, 'device')} nowhere in the tree`,
                where: { type: 'device' as const, deviceId: rest[0]!.id },
                detail: `${listWords(rest.slice(0, 3).map(({ label }) => label))}${rest.length > 3 ? ` and ${rest.length - 3} more` : ''}: their wires are as long as their branches were typed, and lie in no bundle.`,
                remedy: { label: 'Place the rest', calls: [call('placeRest', {})] },
              },
            ]),
        ...apart.slice(1).map((piece) => ({
          at: `apart ${piece[0]}`,
          title: 'The tree lies in pieces',
          detail: `${listWords(piece.slice(0, 3).map((id) => placeName(build, id)))}${piece.length > 3 ? ' and more' : ''}: no piece leads there from the rest.`,
          remedy: {
            label: `Join ${placeName(build, piece[0]!)} to ${placeName(build, apart[0]![0]!)}`,
            calls: [call('joinTreeNodes', { a: apart[0]![0]!, b: piece[0]! })],
          },
        })),
        ...zero.map(([id]) => ({
          at: `zero ${id}`,
          title: 'A piece without a length',
          detail: `From ${segmentName(build, id)} it is 0 long: measure it with a string.`,
        })),
        ...selfish.map(([id]) => ({
          at: `self ${id}`,
          title: 'A piece that leads nowhere',
          detail: `Piece ${id} leads from ${placeName(build, tree.segments[id]!.a)} back to it.`,
          remedy: { label: 'Take it away', calls: [call('removeSegment', { segment: id })] },
        })),
        ...ringsOf(tree)
          .filter((id) => tree.segments[id]!.a !== tree.segments[id]!.b)
          .map((id) => ({
            at: `ring ${id}`,
            severity: 'note' as const,
            title: 'Two ways to one place',
            detail: `From ${segmentName(build, id)} a ring is closed: wires go the shorter way round unless they are led the other.`,
          })),
      ];
    },
  },
  {
    id: 'LO-11',
    family: 'Loom',
    severity: 'fix',
    title: 'Wires past a plug',
    source: 'Every wire that passes a plug is parted in a cavity of it',
    sheet: 'loom',
    check: ({ build, net }) =>
      Object.entries(build.tree.nodes).flatMap(([id, { plug }]): Hit[] => {
        if (!plug) return [];
        const passing = passingWires(build, net, id);
        const left = passing.filter((wire) => plug.wires[wire.id] === undefined);
        const free = plug.cavities - passing.length + left.length;
        const name = placeName(build, id);
        const thick = net.wires.filter(
          (wire) =>
            wire.cutOf !== null &&
            wire.squareMm > plug.squareMm &&
            plug.wires[wire.cutOf] !== undefined &&
            [wire.from, wire.to].includes(plugEnd(id, plug.wires[wire.cutOf]!)),
        );
        return [
          ...(left.length === 0
            ? []
            : [
                {
                  at: id,
                  title: left.length > free ? `${name} has too few cavities` : undefined,
                  detail:
                    left.length > free
                      ? `${plural(passing.length, 'wire')} pass ${name}, which has ${plug.cavities} cavities: ${left.length - free} find none. Take a larger plug, or a second one.`
                      : `${plural(left.length, 'wire')} pass${left.length === 1 ? 'es' : ''} ${name} without a cavity: it cannot be unplugged.`,
                  remedy:
                    left.length > free
                      ? undefined
                      : { label: 'Give them cavities', calls: [call('allotPlug', { node: id, anew: false })] },
                },
              ]),
          ...thick.map((wire) => ({
            at: `${id} ${wire.id}`,
            title: 'Wire too thick for the plug',
            where: { type: 'wire' as const, wireId: wire.id },
            detail: `${name} takes up to ${readSize(plug.squareMm, build)}; the wire from ${labelOf(net, wire.from)} to ${labelOf(net, wire.to)} is ${readSize(wire.squareMm, build)}.`,
            remedy: {
              label: `Terminals for ${readSize(wire.squareMm, build)}`,
              calls: [call('setPlug', { node: id, changes: { squareMm: wire.squareMm } })],
            },
          })),
        ];
      }),
  },
  {
    id: 'LO-12',
    family: 'Loom',
    severity: 'fix',
    title: 'No plug passes the hole',
    source: 'The largest plug that must pass against the hole; common practice',
    sheet: 'loom',
    check: ({ build, net }) =>
      Object.keys(build.tree.segments).flatMap((id): Hit[] => {
        const pulling = pullingOf(build, net, id);
        if (!pulling) return [];
        const sides = [pulling.fromA, pulling.fromB];
        // One side that passes is enough: the loom is pulled from there.
        if (sides.some((side) => side.every(({ millimetres }) => millimetres <= pulling.hole))) return [];
        const worst = sides.map((side) => side[0]!).sort((one, other) => one.millimetres - other.millimetres)[0]!;
        return [
          {
            at: id,
            detail: `From ${segmentName(build, id)} the hole is ${readMeasure('diameter', pulling.hole, build)}: from neither side everything passes. ${worst.name} is ${worst.isGuess ? 'about ' : ''}${readMeasure('diameter', worst.millimetres, build)} across. Pull it before that plug is on, or part the loom there with a plug.`,
          },
        ];
      }),
  },
  {
    id: 'LO-13',
    family: 'Loom',
    severity: 'note',
    title: 'Splices at one place',
    source: 'Splices 40 mm apart, or the bundle is a lump there; common practice',
    sheet: 'loom',
    check: ({ build, net }) => {
      const begins = net.wires.flatMap(({ from, to, route }) =>
        [
          { end: from, segment: route[0] },
          { end: to, segment: route[route.length - 1] },
        ].flatMap(({ end, segment }) => (endType(end) === 'splice' && segment !== undefined ? [{ end, segment }] : [])),
      );
      // A splice lies where its wires begin: at the place they all leave from, or within the piece they all go by.
      const lies = (segments: readonly string[]): string => {
        const ends = segments.flatMap((id) => [build.tree.segments[id]!.a, build.tree.segments[id]!.b]);
        const counted = [...groupBy(ends, (node) => node)].map(([node, all]) => ({ node, count: all.length }));
        const most = Math.max(...counted.map(({ count }) => count));
        const [only, other] = counted.filter(({ count }) => count === most);
        return other === undefined ? `at ${placeName(build, only!.node)}` : `from ${segmentName(build, segments[0]!)}`;
      };
      const at = [...groupBy(begins, ({ end }) => end)].map(([end, of]) => ({
        end,
        place: lies(of.map(({ segment }) => segment)),
      }));
      return [...groupBy(at, ({ place }) => place)].flatMap(([place, all]): Hit[] =>
        all.length <= MOST_SPLICES
          ? []
          : [
              {
                at: place,
                where: { type: 'end', end: all[0]!.end },
                detail: `${plural(all.length, 'splice')} lie ${place}: set each ${readMeasure('thickness', STAGGER_MILLIMETRES, build)} from the next.`,
              },
            ],
      );
    },
  },
  {
    id: 'LO-14',
    family: 'Loom',
    severity: 'fix',
    title: 'No slack at a moving part',
    source: 'Engine, gearbox and doors move: the wire between must not; common practice',
    sheet: 'loom',
    check: ({ build }) => {
      const moving = Object.entries(build.tree.segments).filter(([, { zone }]) => zone === 'moving');
      if (moving.length === 0 || build.loom.slackMetres >= USUAL_SLACK_METRES) return [];
      return [
        {
          at: '',
          detail: `From ${segmentName(build, moving[0]![0])} the loom follows what moves, with ${readLength(build.loom.slackMetres, build)} of slack.`,
          remedy: {
            label: `Allow ${readLength(USUAL_SLACK_METRES, build)}`,
            calls: [call('setLoom', { slackMetres: USUAL_SLACK_METRES })],
          },
        },
      ];
    },
  },
  {
    id: 'LO-15',
    family: 'Loom',
    severity: 'fix',
    title: 'The ECU stands badly',
    source: 'Dry, cool, within reach of its cable; common practice',
    sheet: 'loom',
    check: ({ build, devices }) => {
      const node = placesOf(build.tree).get(ECU_THING);
      const bad = Object.entries(build.tree.segments).filter(
        ([, { a, b, zone }]) => (a === node || b === node) && (zone === 'hot' || zone === 'moving' || zone === 'wet'),
      );
      // A hose is no wire, and stands in the tree only where somebody put it: else what was typed of it is its length.
      const hoses = devices.flatMap(({ device, kind }): Hit[] => {
        if (!hasRole(kind, 'manifold-hose')) return [];
        const place = placesOf(build.tree).get(deviceThing(device.id));
        const metres =
          node === undefined || place === undefined ? device.branchMetres : waysOf(build.tree).metres(node, place);
        return metres <= HOSE_METRES || metres === Infinity
          ? []
          : [
              {
                at: `hose ${device.id}`,
                where: { type: 'device', deviceId: device.id },
                detail: `The hose to the ECU's own pressure sensor is ${readLength(metres, build)} long: over ${readLength(HOSE_METRES, build)} the reading lags behind the throttle. Bring the ECU nearer, or fit a sensor at the manifold.`,
              },
            ];
      });
      if (node === undefined || bad.length === 0) return hoses;
      const [id, segment] = bad[0]!;
      return [
        ...hoses,
        {
          at: '',
          detail: `From ${segmentName(build, id)} the loom runs through ${segment.zone === 'hot' ? `${readQuantity('temperature', celsiusOf(segment), build)}` : segment.zone === 'wet' ? 'the wet' : 'what moves'}: the ECU stands in it. Put it where it is dry and cool, its lights in sight and the cable of a laptop within reach.`,
        },
      ];
    },
  },
];
