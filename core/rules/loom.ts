import { call } from '../edits';
import { cavitySquareMm } from '../ecu/face';
import { ecuEnd, endOf, endType, pinAt, portOf, type EndKey } from '../ends/ends';
import { judgedMillimetres, trunkWires } from '../loom/bundles';
import { endPlace } from '../loom/end-places';
import { placeName } from '../loom/names';
import { labelOf } from '../netlist/label';
import { spareCount, sparesOf } from '../allot/spares';
import { readLength, readMeasure } from '../units/workshop';
import { readSize } from '../wire/size';
import { inSentence, listWords, plural } from '../units/format';
import { readQuantity } from '../units/units';
import { twinsOf } from '../netlist/twins';
import { keepRules } from './keep';
import { hasTree, holesPassed, tooHot, treeRules } from './tree';
import type { Rule } from './rule';

/** Slack that lets a terminal be cut off and crimped again, metres (common practice). */
const USUAL_SLACK_METRES = 0.1;

export const loomRules: Rule[] = [
  {
    id: 'LO-1',
    family: 'Loom',
    severity: 'fix',
    title: 'Bundle thicker than its hole',
    source: 'Circles laid round the thickest; covering by common practice',
    sheet: 'loom',
    check: ({ build, net }) => {
      if (hasTree(build)) return holesPassed(build, net);
      const trunk = judgedMillimetres(trunkWires(net), build.loom.covering);
      return trunk <= build.loom.holeMillimetres
        ? []
        : [
            {
              at: '',
              detail: `The trunk is about ${readMeasure('thickness', trunk, build)} in its covering; the hole is ${readMeasure('diameter', build.loom.holeMillimetres, build)}.`,
            },
          ];
    },
  },
  {
    id: 'LO-2',
    family: 'Loom',
    severity: 'stop',
    title: 'Insulation under the zone temperature',
    source: 'Insulation class against ambient; common practice',
    sheet: 'loom',
    check: ({ build }) =>
      hasTree(build)
        ? tooHot(build)
        : build.loom.wireCelsius > build.loom.zoneCelsius
          ? []
          : [
              {
                at: '',
                detail: `The loom runs through ${readQuantity('temperature', build.loom.zoneCelsius, build)}; its insulation is rated ${readQuantity('temperature', build.loom.wireCelsius, build)}.`,
                remedy:
                  build.loom.zoneCelsius < 150
                    ? {
                        label: `Use ${readQuantity('temperature', 150, build)} wire`,
                        calls: [call('setLoom', { wireCelsius: 150 })],
                      }
                    : undefined,
              },
            ],
  },
  {
    id: 'LO-3',
    family: 'Loom',
    severity: 'fix',
    title: 'Sealed sleeve with nothing spare',
    source: 'Nothing can be added to a sealed sleeve; common practice',
    sheet: 'loom',
    check: ({ build }) => {
      const isSealed =
        build.loom.covering === 'sealed' ||
        Object.values(build.tree.segments).some(({ covering }) => covering === 'sealed');
      if (!isSealed) return [];
      const wanted = Object.values(build.reserve).reduce((sum, count) => sum + count, 0);
      const spare = spareCount(sparesOf(build));
      if (wanted > 0 && spare >= wanted) return [];
      return [
        {
          at: '',
          detail: `A sealed sleeve is closed once: lay spare wires first. ${plural(spare, 'cavity', 'cavities')} free, ${wanted} asked to keep.`,
          remedy:
            spare > 0
              ? {
                  label: `Keep ${Math.min(2, spare)} spare`,
                  calls: [call('setReserve', { kind: 'any', count: Math.min(2, spare) })],
                }
              : undefined,
        },
      ];
    },
  },
  {
    id: 'LO-4',
    family: 'Loom',
    severity: 'note',
    title: 'Same colour and size twice in one connector',
    source: 'Crossed at the bench sooner or later; common practice',
    sheet: 'loom',
    check: ({ build, net }) => {
      const seen = new Map<string, Set<EndKey>>();
      const connectorOf = new Map(build.ecu.pins.map((pin) => [pin.id, pin.connector]));
      for (const wire of net.wires) {
        if (wire.signal === 'ground') continue;
        for (const end of [wire.from, wire.to]) {
          const ref = endOf(end);
          const plug =
            ref.of === 'ecu'
              ? `Connector ${connectorOf.get(ref.pin)} of ${build.ecu.model}`
              : ref.of === 'part' && ref.kind === 'plug'
                ? placeName(build, ref.part)
                : null;
          if (plug === null) continue;
          const key = `${plug}|${wire.colour}|${wire.squareMm}`;
          // Both halves of a wire meet in one cavity.
          seen.set(key, (seen.get(key) ?? new Set()).add(end));
        }
      }
      return [...seen].flatMap(([key, pins]) => {
        if (pins.size < 2) return [];
        const [plug, colour, size] = key.split('|');
        const cavities = [...pins].map((end) => pinAt(end) ?? portOf(end));
        return [
          {
            at: key,
            where: { type: 'end' as const, end: [...pins][0]! },
            detail: `${plug}: ${listWords(cavities)} are all ${colour} ${readSize(Number(size), build)}. Change one, or label both ends.`,
          },
        ];
      });
    },
  },
  {
    id: 'LO-5',
    family: 'Loom',
    severity: 'note',
    title: 'Blank plugs missing',
    source: 'Plug every empty cavity of a sealed connector; common practice',
    sheet: 'loom',
    check: ({ build, net }) => {
      if (build.loom.blanksFitted) return [];
      const sealed = new Set(
        build.ecu.connectors.filter((connector) => connector.sealed).map((connector) => connector.id),
      );
      const empty = net.cavities
        .filter(({ pin }) => sealed.has(pin.connector) && !net.wiresAt.has(ecuEnd(pin.id)))
        .map(({ pin }) => pin.id);
      if (empty.length === 0) return [];
      return [
        {
          at: '',
          detail: `${plural(empty.length, 'empty cavity', 'empty cavities')} in a sealed connector: ${listWords(empty.slice(0, 6))}${empty.length > 6 ? ' and more' : ''}. Each needs a blank plug.`,
          remedy: { label: 'Blanks are fitted', calls: [call('setLoom', { blanksFitted: true })] },
        },
      ];
    },
  },
  {
    id: 'LO-6',
    family: 'Loom',
    severity: 'stop',
    title: 'Wire too thick for the terminal',
    source: "Crimp range of the connector's terminals",
    sheet: 'loom',
    check: ({ build, net }) =>
      net.wires.flatMap((wire) =>
        [wire.from, wire.to].flatMap((end) => {
          // Plugs of the loom have a rule of their own.
          const place = endType(end) === 'plug' ? null : endPlace(build, net, end);
          const most = place ? cavitySquareMm(place.connector, place.cavity) : Infinity;
          if (wire.squareMm <= most) return [];
          return [
            {
              at: wire.id,
              where: { type: 'wire' as const, wireId: wire.id },
              detail: `${labelOf(net, end)} takes up to ${readSize(most, build)}; its wire is ${readSize(wire.squareMm, build)}. Step down at a splice close to the plug.`,
            },
          ];
        }),
      ),
  },
  {
    id: 'LO-7',
    family: 'Loom',
    severity: 'note',
    title: 'No service slack',
    source: 'Length = route + slack + termination; common practice',
    sheet: 'loom',
    check: ({ build }) =>
      build.loom.slackMetres >= 0.05
        ? []
        : [
            {
              at: '',
              detail: `${readLength(build.loom.slackMetres, build)} of slack: no terminal can ever be cut off and crimped again.`,
              remedy: {
                label: `Allow ${readLength(USUAL_SLACK_METRES, build)}`,
                calls: [call('setLoom', { slackMetres: USUAL_SLACK_METRES })],
              },
            },
          ],
  },
  {
    id: 'LO-8',
    family: 'Loom',
    severity: 'fix',
    title: 'Twin connectors unlabelled',
    source: 'Identical plugs within reach are crossed sooner or later; common practice',
    sheet: 'loom',
    check: ({ build, devices }) =>
      twinsOf(build.engine, devices).flatMap((group) => {
        const bare = group.filter(({ device }) => !device.labelled);
        if (bare.length === 0) return [];
        return [
          {
            at: group[0]!.kind.id,
            where: { type: 'device' as const, deviceId: bare[0]!.device.id },
            detail: `${plural(group.length, 'plug')} of one kind (${inSentence(group[0]!.kind.name)}) fit each other: label both halves, key them, or cut the branches to different lengths.`,
            remedy: {
              label: 'They are labelled',
              calls: bare.map(({ device }) => call('editDevice', { deviceId: device.id, labelled: true })),
            },
          },
        ];
      }),
  },
  ...treeRules,
  ...keepRules,
];
