import { call } from '../edits';
import { groupBy } from '../data/group';
import { withId } from '../data/with-id';
import { BATTERY, ecuEnd, endType, groundEnd, partAt, type EndKey, type EndType } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import { MOST_RINGS } from '../power/propose';
import { labelOf } from '../netlist/label';
import { leadsOf } from '../loom/leads';
import { segmentName } from '../loom/names';
import { reusedWires } from '../loom/reuse';
import { listWords, plural } from '../units/format';
import { readLength, readMeasure } from '../units/workshop';
import type { Hit, Rule } from './rule';

/** Ends that one wire lands on: a blade, or a part in the line. */
const blades: ReadonlySet<EndType> = new Set(['fuse', 'relay', 'resistor', 'diode', 'button']);
/** Bolts: of one's own each is one bolt; the block and the body have as many as are drilled, and a bar is made for many. */
const isBolt = (net: Netlist, end: EndKey): boolean =>
  endType(end) === 'battery' ||
  endType(end) === 'switch' ||
  end === groundEnd('battery') ||
  (endType(end) === 'ground' && withId(net.parts, partAt(end)!) !== undefined);

/** What of a loom that was there goes on, and what keeps it whole. */
export const keepRules: Rule[] = [
  {
    id: 'LO-16',
    family: 'Loom',
    severity: 'fix',
    title: 'Too many rings under one bolt',
    source: 'Four ring terminals under one bolt at the most, one wire on a blade; common practice',
    sheet: 'feeds',
    check: ({ build, net }) => {
      const ends = groupBy(
        net.wires.flatMap(({ from, to }) => [from, to]),
        (end) => end,
      );
      const stacked = build.power.joints === 'stacked';
      return [...ends].flatMap(([end, all]): Hit[] => {
        const isBlade = blades.has(endType(end));
        if (all.length <= (isBlade ? 1 : MOST_RINGS) || !(isBlade || isBolt(net, end))) return [];
        const wires = net.power.plan.links.filter(({ from, to }) => from === end || to === end);
        const bar = endType(end) === 'battery' || endType(end) === 'switch';
        const ours = wires.every(({ proposed }) => proposed) && (end === BATTERY || isBlade);
        return [
          {
            at: end,
            title: isBlade ? 'Two wires on one blade' : undefined,
            where: { type: 'end', end },
            detail: isBlade
              ? `${plural(all.length, 'wire')} lie on ${labelOf(net, end)}: a blade takes one terminal, and one terminal one wire. Join them at a splice beside it.`
              : `${plural(all.length, 'ring')} lie under ${labelOf(net, end)}: the uppermost hardly touch. ${bar ? 'Lead one cable to a bar, and the rest from there.' : 'Merge returns in a splice, or set a second bolt.'}`,
            remedy:
              stacked && ours
                ? { label: 'Join them as proposed today', calls: [call('setPower', { joints: 'apart' })] }
                : wires.length > 1 && (bar || isBlade)
                  ? { label: bar ? 'Put in a bar' : 'Put in a splice', calls: [call('spreadEnd', { end })] }
                  : undefined,
          },
        ];
      });
    },
  },
  {
    id: 'LO-17',
    family: 'Loom',
    severity: 'fix',
    title: 'Lead shorter than its route',
    source: 'Route and slack against the lead that came with the ECU',
    sheet: 'loom',
    check: ({ build, net }) => {
      const short = (leadsOf(build, net) ?? []).filter(({ fate }) => fate === 'short');
      if (short.length === 0) return [];
      const worst = short.reduce((most, one) => (one.metres > most.metres ? one : most));
      return [
        {
          at: '',
          where: { type: 'end', end: ecuEnd(worst.pinId) },
          detail: `${plural(short.length, 'lead')} of ${readLength(build.loom.leadMetres!, build)} ${short.length === 1 ? 'is' : 'are'} too short: ${listWords(short.slice(0, 4).map(({ pinId }) => pinId))}${short.length > 4 ? ' and more' : ''}, the worst by ${readLength(worst.metres, build)} on the way to ${worst.to}. Extend them in the cabin, or take a longer loom.`,
        },
      ];
    },
  },
  {
    id: 'LO-18',
    family: 'Loom',
    severity: 'fix',
    title: 'Hole with a bare edge',
    source: 'A loom through sheet metal goes through a grommet or a plug on the wall; common practice',
    sheet: 'loom',
    check: ({ build }) =>
      Object.entries(build.tree.segments).flatMap(([id, { hole }]): Hit[] =>
        !hole || hole.grommet
          ? []
          : [
              {
                at: id,
                detail: `From ${segmentName(build, id)} the loom passes a hole of ${readMeasure('diameter', hole.millimetres, build)} without a grommet: its edge saws through sleeve and insulation.`,
                remedy: {
                  label: 'A grommet is in it',
                  calls: [call('setSegment', { segment: id, changes: { hole: { ...hole, grommet: true } } })],
                },
              },
            ],
      ),
  },
  {
    id: 'LO-19',
    family: 'Loom',
    severity: 'fix',
    title: 'Worn donor wire used again',
    source: 'A wire is used again only while its insulation bends and its copper is bright; common practice',
    sheet: 'loom',
    check: ({ build, net }) =>
      [...reusedWires(build, net).values()].flatMap(({ donor, wire, worn }): Hit[] =>
        worn
          ? [
              {
                at: wire.id,
                where: { type: 'wire', wireId: wire.id },
                detail: `${donor.connector} ${donor.cavity} goes on to ${donor.moveTo}, and was found ${[donor.condition, donor.note].filter(Boolean).join(', ')}: cut it back to sound wire, or make it anew.`,
              },
            ]
          : [],
      ),
  },
];
