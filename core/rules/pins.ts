import { ecuEnd } from '../ends/ends';
import { barredPins, pulses } from '../allot/model';
import { staleCrimps } from '../allot/pinning';
import { call } from '../edits';
import { formatAmps, listWords, plural } from '../units/format';
import type { Rule } from './rule';

/** What ties pins of an ECU together, and what the person said of single pins. */
export const pinRules: Rule[] = [
  {
    id: 'PL-7',
    family: 'Plan',
    severity: 'stop',
    title: 'One timer, two frequencies',
    source: "The ECU's own groups; outputs of one timer pulse at one frequency",
    sheet: 'allot',
    check: ({ build, net }) => {
      const holder = new Map(net.needs.map((need) => [build.assignments[need.id], need]));
      return build.ecu.groups.flatMap((group) => {
        if (group.type !== 'timer') return [];
        const running = group.pins.flatMap((id) => {
          const need = holder.get(id);
          return need && pulses(need.ask) ? [{ id, need }] : [];
        });
        if (new Set(running.map(({ need }) => need.ask.hz)).size < 2) return [];
        return [
          {
            at: group.name,
            where: { type: 'end' as const, end: ecuEnd(running[0]!.id) },
            detail: `${group.name}: ${listWords(running.map(({ id, need }) => `${need.label} on ${id} asks ${need.ask.hz} Hz`))}.`,
            remedy: {
              label: 'Allot them anew',
              calls: [
                ...running
                  .filter(({ need }) => !build.locked.includes(need.id))
                  .map(({ need }) => call('unassign', { needId: need.id })),
                call('allotAll', { keep: 'placed' }),
              ],
            },
          },
        ];
      });
    },
  },
  {
    id: 'PL-8',
    family: 'Plan',
    severity: 'stop',
    title: 'Group of pins over its current',
    source: "The ECU's own groups",
    sheet: 'allot',
    check: ({ build, net }) => {
      const holder = new Map(net.needs.map((need) => [build.assignments[need.id], need]));
      return build.ecu.groups.flatMap((group) => {
        if (group.type !== 'budget') return [];
        const users = group.pins.flatMap((id) => holder.get(id) ?? []);
        const amps = users.reduce((sum, { ask }) => sum + (ask.amps ?? 0), 0);
        if (amps <= group.amps + 1e-9) return [];
        return [
          {
            at: group.name,
            where: { type: 'end' as const, end: ecuEnd(group.pins[0]!) },
            detail: `${group.name} carries ${formatAmps(group.amps)} together; ${listWords(users.map((need) => need.label))} ask ${formatAmps(amps)}.`,
          },
        ];
      });
    },
  },
  {
    id: 'PL-9',
    family: 'Plan',
    severity: 'stop',
    title: 'Either this or that, not both',
    source: "The ECU's own groups",
    sheet: 'allot',
    check: ({ build, net }) => {
      const holder = new Map(net.needs.map((need) => [build.assignments[need.id], need]));
      return build.ecu.groups.flatMap((group) => {
        if (group.type !== 'either') return [];
        const used = group.sides.flatMap((side) => {
          const id = side.find((one) => holder.has(one));
          return id === undefined ? [] : [`${holder.get(id)!.label} on ${id}`];
        });
        if (used.length < 2) return [];
        return [
          {
            at: group.name,
            where: { type: 'end' as const, end: ecuEnd(group.sides[0]![0]!) },
            detail: `${group.name}: ${listWords(used)} exclude one another.`,
          },
        ];
      });
    },
  },
  {
    id: 'PL-10',
    family: 'Plan',
    severity: 'fix',
    title: "Placed where you said 'never'",
    source: "The builder's own wish",
    sheet: 'allot',
    check: ({ build, net }) => {
      const never = barredPins(build);
      return net.needs.flatMap((need) => {
        const pinId = build.assignments[need.id];
        if (pinId === undefined || !(never(null, pinId) || never(need.id, pinId))) return [];
        return [
          {
            at: need.id,
            where: { type: 'need' as const, needId: need.id },
            detail: `${need.label} is on ${pinId}, which you keep ${never(null, pinId) ? 'empty' : 'from it'}.`,
            remedy: {
              label: `Free ${pinId}`,
              calls: [call('lock', { needId: need.id, locked: false }), call('unassign', { needId: need.id })],
            },
          },
        ];
      });
    },
  },
  {
    id: 'PL-11',
    family: 'Plan',
    severity: 'fix',
    title: 'Crimped wire no longer planned',
    source: 'A changed end makes a new wire; what sits in the cavity is the old one',
    sheet: 'allot',
    check: ({ build, net }) => {
      const stale = staleCrimps(build, net);
      if (stale.length === 0) return [];
      return [
        {
          at: '',
          where: { type: 'end' as const, end: ecuEnd(stale[0]!.pinId) },
          detail: `${plural(stale.length, 'cavity', 'cavities')} ${stale.length === 1 ? 'holds' : 'hold'} a wire that was clicked in and is not in the plan any more: ${listWords(stale.slice(0, 4).map(({ pinId, was }) => `${pinId} (was to ${was})`))}${stale.length > 4 ? ' and more' : ''}. Take it out, or put the need back.`,
          remedy: {
            label: 'They are taken out',
            calls: [call('uncrimp', { wireIds: stale.map(({ wireId }) => wireId) })],
          },
        },
      ];
    },
  },
];
