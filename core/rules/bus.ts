import { terminalId } from '../ends/ends';
import { withId } from '../data/with-id';
import { call } from '../edits';
import { hasRole, holdRoles, trait } from '../devices/kind';
import { destinationOf } from '../build/destination';
import { busFigures, membersOf, stubOf } from '../netlist/bus';
import { listWords, plural } from '../units/format';
import type { Rule } from './rule';
import { readLength } from '../units/workshop';

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
    check: ({ build }) =>
      build.buses.flatMap((bus) => {
        const nodes = membersOf(build, bus);
        if (nodes.length === 0) return [];
        const { ends, ohms } = busFigures(build, bus);
        if (ends === 2) return [];
        return [
          {
            at: build.buses.length > 1 ? bus.id : '',
            where: { type: 'device', deviceId: nodes[0]!.device.id } as const,
            detail: `${bus.name}: the ECU and ${listWords(nodes.map(({ device }) => device.label))} make ${plural(ends, 'termination')}, ${ohms.toFixed(0)} Ω across the dead bus; exactly two, 60 Ω, are wanted${ends === 1 ? `: 120 Ω at ${nodes.at(-1)!.device.label}, the far end` : ''}.`,
          },
        ];
      }),
  },
  {
    id: 'BB-2',
    family: 'Bus and body',
    severity: 'stop',
    title: 'Two bit rates on one bus',
    source: 'ISO 11898-2: one bit rate per bus',
    sheet: 'survey',
    check: ({ build }) =>
      build.buses.flatMap((bus) => {
        const nodes = membersOf(build, bus).map(({ device, kind }) => ({
          label: device.label,
          kilobits: trait(kind, 'can')!.kilobits,
          id: device.id,
        }));
        const odd = nodes.find(({ kilobits }) => kilobits !== bus.kilobits);
        if (!odd) return [];
        return [
          {
            at: build.buses.length > 1 ? bus.id : '',
            where: { type: 'device', deviceId: odd.id } as const,
            detail: `${bus.name} runs at ${bus.kilobits} kbit/s; ${listWords(nodes.map((node) => `${node.label} speaks ${node.kilobits}`))}: ${odd.label} will not be heard, and disturbs the others.`,
          },
        ];
      }),
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
      if (devices.some(({ kind }) => holdRoles.some((role) => hasRole(kind, role)))) return [];
      return [
        {
          at: '',
          detail:
            'A push button drives the starter, and no clutch, neutral or stand switch is on the list: it can leap in gear.',
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
    title: 'CAN termination not at the end of the bus',
    source: 'ISO 11898-2: 120 Ω at the two ends of the trunk; stubs short, 0.3 m at 1 Mbit/s',
    sheet: 'survey',
    check: ({ build }) =>
      build.buses.flatMap((bus) => {
        const nodes = membersOf(build, bus);
        const limit = stubLimitMetres(bus.kilobits);
        return nodes.slice(0, -1).flatMap(({ device, kind }) => {
          if (!trait(kind, 'can')!.terminated) return [];
          const members = [...bus.members.filter((id) => id !== device.id), device.id];
          return [
            {
              at: device.id,
              where: { type: 'device' as const, deviceId: device.id },
              detail: `${device.label} ends ${bus.name} by its own 120 Ω, and ${nodes.at(-1)!.device.label} stands beyond it: the rest of the trunk is then a stub, of which ${readLength(limit, build)} is the limit at ${bus.kilobits} kbit/s.`,
              remedy: {
                label: `${device.label} is the last on the bus`,
                calls: [call('setBus', { bus: { ...bus, members } })],
              },
            },
          ];
        });
      }),
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
  {
    id: 'BB-16',
    family: 'Bus and body',
    severity: 'fix',
    title: 'Stub off the trunk too long',
    source: 'ISO 11898-2: 0.3 m at 1 Mbit/s, in proportion below (common practice)',
    sheet: 'survey',
    check: ({ build }) =>
      build.buses.flatMap((bus) => {
        const limit = stubLimitMetres(bus.kilobits);
        // The last member ends the trunk: it has no stub.
        return membersOf(build, bus)
          .slice(0, -1)
          .flatMap(({ device }) => {
            const stub = stubOf(bus, device.id);
            if (stub <= limit + 1e-9) return [];
            return [
              {
                at: device.id,
                where: { type: 'device' as const, deviceId: device.id },
                detail: `${device.label} hangs ${readLength(stub, build)} off the trunk of ${bus.name}; ${readLength(limit, build)} is the limit at ${bus.kilobits} kbit/s. Lead the trunk past it, in and out of its plug.`,
              },
            ];
          });
      }),
  },
];
