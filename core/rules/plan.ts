import { withId } from '../data/with-id';
import { ecuEnd } from '../ends/ends';
import { freeFits, isFreeToTake } from '../allot/free';
import type { Build } from '../build/schema';
import type { Netlist } from '../netlist/netlist';
import { MOST_TOLD } from './beside';
import { shortfalls, shortfallWords } from '../allot/spares';
import { call } from '../edits';
import { missSentence, serve } from '../ecu/ask';
import type { Pin } from '../ecu/ecu';
import type { Need } from '../netlist/needs';
import type { VerdictCode } from '../prove/verdict';
import { listWords, plural } from '../units/format';
import type { Hit, Rule } from './rule';

const wrongTitles: Record<VerdictCode, string> = {
  right: '',
  open: 'Wire reads open',
  high: 'Wire reads too high',
  joined: 'Two wires are joined',
  leak: 'Leak between two wires',
  'below-leads': 'Reading below the meter leads',
  'no-load': 'Nothing flowed in a test under load',
  'wrong-cylinder': 'Output works another cylinder',
};

/** What is plain of an open need without solving anything; the rest comes. */
function plainlyOpen(build: Build, net: Netlist, need: Need): Hit {
  const fits = freeFits(build, need, net.needs);
  const sure = fits.find((pinId) => isFreeToTake(build.ecu, need, pinId));
  return {
    at: need.id,
    title: `${need.label} has no pin`,
    detail:
      sure !== undefined
        ? `Not placed yet: ${listWords(fits)} would do.`
        : fits.length > 0
          ? `Not placed yet: ${listWords(fits)} might do; what their pairs and groups allow is being worked out.`
          : 'No free pin can be it; whether others could make room is being worked out.',
    where: { type: 'need', needId: need.id },
    remedy:
      sure === undefined
        ? undefined
        : { label: `Place it on ${fits[0]}`, calls: [call('assign', { needId: need.id, pinId: fits[0]! })] },
    waits: true,
  };
}

export const planRules: Rule[] = [
  {
    id: 'PL-12',
    family: 'Plan',
    severity: 'stop',
    title: 'Reading on sheet 6 not right',
    source: 'A reading stands until the wire reads right; common practice',
    sheet: 'prove',
    check: ({ build, proof }) => {
      if (Object.keys(build.prove.readings).length === 0) return [];
      return proof().wrongReadings.map(({ test, verdict, wireIds }) => ({
        at: test.id,
        title: wrongTitles[verdict.code],
        severity: ['high', 'leak', 'below-leads'].includes(verdict.code) ? ('fix' as const) : undefined,
        detail: `${test.title}: ${verdict.sentence}`,
        where: wireIds[0] === undefined ? { type: 'end', end: test.hold } : { type: 'wire', wireId: wireIds[0] },
      }));
    },
  },
  {
    id: 'PL-1',
    family: 'Plan',
    severity: 'stop',
    title: 'Need without a pin',
    source: "Capabilities of the ECU's pins",
    sheet: 'allot',
    check: ({ build, net, beside }) => {
      const open = net.needs.filter((need) => build.assignments[need.id] === undefined);
      if (open.length === 0) return [];
      if (open.length > MOST_TOLD)
        return [
          {
            at: '',
            title: `${open.length} needs without a pin`,
            detail: `${listWords(open.slice(0, 3).map((need) => need.label))} and ${open.length - 3} more are not placed yet.`,
            where: { type: 'need', needId: open[0]!.id },
            remedy: { label: 'Allot the rest', calls: [call('allotAll', { keep: 'placed' })] },
          },
        ];
      return open.map((need) => {
        const why = beside?.open[need.id];
        if (!why) return plainlyOpen(build, net, need);
        return {
          at: need.id,
          title: `${need.label} has no pin`,
          detail: why.reason,
          where: { type: 'need' as const, needId: need.id },
          remedy:
            why.fits.length > 0 && need.pair === null
              ? {
                  label: `Place it on ${why.fits[0]}`,
                  calls: [call('assign', { needId: need.id, pinId: why.fits[0]! })],
                }
              : why.conflict === null
                ? { label: 'Make room for it', calls: [call('allotAll', { keep: 'most' })] }
                : undefined,
        };
      });
    },
  },
  {
    id: 'PL-2',
    family: 'Plan',
    severity: 'stop',
    title: 'Pin cannot serve its need',
    source: "Capabilities of the ECU's pins",
    sheet: 'allot',
    check: ({ build, net }) =>
      net.needs.flatMap((need) => {
        const pinId = build.assignments[need.id];
        if (pinId === undefined) return [];
        const pin = withId(build.ecu.pins, pinId);
        const miss = pin ? serve(pin, need.ask).miss : null;
        if (pin && !miss) return [];
        return [
          {
            at: need.id,
            where: { type: 'need' as const, needId: need.id },
            detail: pin
              ? `${need.label}: ${pin.id} ${missSentence(miss!, need.ask)}.`
              : `${need.label} is on ${pinId}, which ${build.ecu.model} does not have.`,
            remedy: {
              label: `Free ${pinId}`,
              calls: [call('lock', { needId: need.id, locked: false }), call('unassign', { needId: need.id })],
            },
          },
        ];
      }),
  },
  {
    id: 'PL-3',
    family: 'Plan',
    severity: 'stop',
    title: 'Pin used twice',
    source: 'One cavity, one terminal',
    sheet: 'allot',
    check: ({ build, net }) => {
      const holders = new Map<string, string[]>();
      for (const need of net.needs) {
        const pinId = build.assignments[need.id];
        if (pinId !== undefined) holders.set(pinId, [...(holders.get(pinId) ?? []), need.id]);
      }
      return [...holders].flatMap(([pinId, ids]) => {
        if (ids.length < 2) return [];
        const labels = ids.map((id) => withId(net.needs, id)!.label);
        return [
          {
            at: pinId,
            where: { type: 'end' as const, end: ecuEnd(pinId) },
            detail: `${pinId} is planned for ${listWords(labels)}.`,
            remedy: { label: `Keep ${labels[0]}`, calls: ids.slice(1).map((needId) => call('unassign', { needId })) },
          },
        ];
      });
    },
  },
  {
    id: 'PL-4',
    family: 'Plan',
    severity: 'stop',
    title: 'Pair split',
    source: 'A half-bridge or differential input works as a pair only',
    sheet: 'allot',
    check: ({ build, net }) => {
      const groups = new Map<string, (typeof net.needs)[number][]>();
      for (const need of net.needs) if (need.pair) groups.set(need.pair, [...(groups.get(need.pair) ?? []), need]);
      return [...groups].flatMap(([pair, needs]) => {
        const pins = needs.map((need) => withId(build.ecu.pins, build.assignments[need.id]));
        const pairAt = (pin: Pin, need: Need) => serve(pin, need.ask).ability?.pair ?? pin.id;
        if (pins.some((pin) => !pin) || new Set(pins.map((pin, i) => pairAt(pin!, needs[i]!))).size === 1) return [];
        return [
          {
            at: pair,
            where: { type: 'need' as const, needId: needs[0]!.id },
            detail: `${listWords(needs.map((need) => need.label))} belong on one pair of the ECU; they are on ${listWords(pins.map((pin) => pin!.id))}.`,
            remedy: {
              label: 'Allot them anew',
              calls: [
                ...needs.map((need) => call('unassign', { needId: need.id })),
                call('allotAll', { keep: 'placed' }),
              ],
            },
          },
        ];
      });
    },
  },
  {
    id: 'PL-5',
    family: 'Plan',
    severity: 'note',
    title: 'Fewer spares than you asked for',
    source: "The builder's own wish",
    sheet: 'allot',
    check: ({ build, net }) => {
      const short = shortfalls(build, net.needs);
      return short.length === 0 ? [] : [{ at: '', detail: `${shortfallWords(short)}.` }];
    },
  },
  {
    id: 'PL-6',
    family: 'Plan',
    severity: 'fix',
    title: 'Wire changed since it was proved',
    source: 'A changed end makes a new wire, and no wire is taken on trust: common practice',
    sheet: 'prove',
    check: ({ build, proof }) => {
      if (Object.keys(build.prove.readings).length === 0) return [];
      const { fallen } = proof();
      if (fallen.length === 0) return [];
      return [
        {
          at: '',
          detail: `${plural(fallen.length, 'reading belongs', 'readings belong')} to a wire that is no longer in the plan: ${listWords(fallen.slice(0, 3).map(({ reading }) => reading.title))}${fallen.length > 3 ? ' and more' : ''}. Test the new wires.`,
          remedy: {
            label: 'Drop the old readings',
            calls: [call('clearReading', { testIds: fallen.map(({ testId }) => testId) })],
          },
        },
      ];
    },
  },
];
