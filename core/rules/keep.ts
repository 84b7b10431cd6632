import { call } from '../edits';
import { groupBy } from '../data/group';
import { withId } from '../data/with-id';
import { ecuEnd, endType, partAt } from '../ends/ends';
import { labelOf } from '../netlist/label';
import { leadsOf } from '../loom/leads';
import { segmentName } from '../loom/names';
import { reusedWires } from '../loom/reuse';
import { listWords, plural } from '../units/format';
import { readLength, readMeasure } from '../units/workshop';
import type { Hit, Rule } from './rule';

const MOST_RINGS = 4;

/** What of a loom that was there goes on, and what keeps it whole. */
export const keepRules: Rule[] = [
  {
    id: 'LO-16',
    family: 'Loom',
    severity: 'fix',
    title: 'Too many rings under one bolt',
    source: 'Four ring terminals under one bolt at the most; common practice',
    sheet: 'feeds',
    check: ({ net }) => {
      const rings = groupBy(
        net.wires.flatMap(({ from, to }) => [from, to]).filter((end) => endType(end) === 'ground'),
        (end) => end,
      );
      return [...rings].flatMap(([end, all]): Hit[] =>
        // A bolt of one's own is one bolt; the block and the body have as many as are drilled.
        all.length <= MOST_RINGS || !withId(net.parts, partAt(end)!)
          ? []
          : [
              {
                at: end,
                where: { type: 'end', end },
                detail: `${plural(all.length, 'ring')} lie under ${labelOf(net, end)}: the uppermost hardly touch. Merge returns in a splice, or set a second bolt.`,
              },
            ],
      );
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
