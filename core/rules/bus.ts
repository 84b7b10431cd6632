import { terminalId } from '../ends/ends';
import { withId } from '../data/with-id';
import { call } from '../edits';
import { hasRole, trait } from '../devices/kind';
import { destinationOf } from '../build/destination';
import { listWords } from '../units/format';
import type { Rule } from './rule';

/** Longest stub off a CAN trunk at a bit rate, metres: 0.3 m at 1 Mbit/s (ISO 11898-2), in proportion below. */
export const stubLimitMetres = (kilobits: number): number => 0.3 * (1000 / kilobits);

export const busRules: Rule[] = [
  {
    id: 'BB-1',
    family: 'Bus and body',
    severity: 'fix',
    title: 'CAN bus not terminated at both ends',
    source: 'ISO 11898-2: 120 Ω at both ends, 60 Ω across the dead bus',
    sheet: 'survey',
    check: ({ devices }) => {
      const nodes = devices.flatMap(({ device, kind }) => {
        const can = trait(kind, 'can');
        return can ? [{ device, can }] : [];
      });
      if (nodes.length === 0) return [];
      const ends = 1 + nodes.filter(({ can }) => can.terminated).length;
      if (ends === 2) return [];
      const ohms = 120 / ends;
      return [
        {
          at: '',
          where: { type: 'device', deviceId: nodes[0]!.device.id },
          detail: `The ECU and ${listWords(nodes.map(({ device }) => device.label))} make ${ends} terminations, ${ohms.toFixed(0)} Ω across the dead bus; exactly two, 60 Ω, are wanted.`,
        },
      ];
    },
  },
  {
    id: 'BB-2',
    family: 'Bus and body',
    severity: 'stop',
    title: 'Two bit rates on one bus',
    source: 'ISO 11898-2: one bit rate per bus',
    sheet: 'survey',
    check: ({ devices }) => {
      const nodes = devices.flatMap(({ device, kind }) => {
        const can = trait(kind, 'can');
        return can ? [{ label: device.label, kilobits: can.kilobits, id: device.id }] : [];
      });
      if (new Set(nodes.map((node) => node.kilobits)).size < 2) return [];
      return [
        {
          at: '',
          where: { type: 'device', deviceId: nodes[0]!.id },
          detail: `${listWords(nodes.map((node) => `${node.label} speaks ${node.kilobits} kbit/s`))}: on one pair neither will be heard.`,
        },
      ];
    },
  },
  {
    id: 'BB-3',
    family: 'Bus and body',
    severity: 'stop',
    title: 'Starter without interlock',
    source: 'Clutch or neutral must permit starting; common practice, often law',
    sheet: 'survey',
    check: ({ build, devices }) => {
      if (build.power.starting !== 'button' || !devices.some(({ kind }) => hasRole(kind, 'starter'))) return [];
      if (devices.some(({ kind }) => hasRole(kind, 'clutch-switch'))) return [];
      return [
        {
          at: '',
          detail:
            'A push button drives the starter and no clutch or neutral switch is on the list: the car can leap in gear.',
        },
      ];
    },
  },
  {
    id: 'BB-4',
    family: 'Bus and body',
    severity: 'stop',
    title: 'Push-button start without a button',
    source: 'Counting',
    sheet: 'survey',
    check: ({ build, devices }) =>
      build.power.starting === 'button' && !devices.some(({ kind }) => hasRole(kind, 'start-button'))
        ? [
            {
              at: '',
              detail: 'Starting is set to push button, but no start button is on the list.',
              remedy: { label: 'Start by key', calls: [call('setPower', { starting: 'key' })] },
            },
          ]
        : [],
  },
  {
    id: 'BB-5',
    family: 'Bus and body',
    severity: 'note',
    title: 'CAN branch longer than a stub',
    source: 'ISO 11898-2: stubs short, 0.3 m at 1 Mbit/s',
    sheet: 'loom',
    check: ({ devices }) => {
      const nodes = devices.filter(({ kind }) => trait(kind, 'can'));
      // One node and the ECU are the two ends of the trunk: only further nodes hang on stubs.
      if (nodes.length < 2) return [];
      return nodes.flatMap(({ device, kind }) => {
        const can = trait(kind, 'can')!;
        const limit = stubLimitMetres(can.kilobits);
        if (can.terminated || device.branchMetres <= limit) return [];
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label} hangs ${device.branchMetres} m off the trunk; ${limit.toFixed(1)} m is the limit at ${can.kilobits} kbit/s. Loop the trunk through it.`,
          },
        ];
      });
    },
  },
  {
    id: 'BB-6',
    family: 'Bus and body',
    severity: 'fix',
    title: 'Twisted pair split over two pairs',
    source: 'ISO 11898-2: one twisted pair',
    sheet: 'allot',
    check: ({ build, devices }) =>
      devices.flatMap(({ device, kind }) => {
        if (!trait(kind, 'can')) return [];
        const pins = kind.terminals
          .filter((terminal) => destinationOf(device, terminal).to === 'pin')
          .flatMap((terminal) => withId(build.ecu.pins, build.assignments[terminalId(device.id, terminal.id)]) ?? []);
        if (new Set(pins.map((pin) => pin.abilities.find(({ kind: can }) => can === 'can')?.pair ?? pin.id)).size < 2)
          return [];
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label} is on ${listWords(pins.map((pin) => pin.id))}, which belong to different CAN pairs.`,
          },
        ];
      }),
  },
];
