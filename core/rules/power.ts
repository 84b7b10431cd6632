import { withId } from '../data/with-id';
import { terminalId } from '../ends/ends';
import { call } from '../edits';
import { hasRole, trait } from '../devices/kind';
import { groundPins } from '../netlist/ground-pins';
import { serve } from '../ecu/ask';
import { destinationOf } from '../build/destination';
import { RELAY_WINDING_OHMS } from '../power/flow';
import { runningAmps } from '../power/total';
import { formatAmps, plural } from '../units/format';
import type { Rule } from './rule';

/** Share of a battery that may be used before spark and injection suffer (common practice). */
const USED_SHARE = 0.8;

/** Outputs, grounds, coils and charging. */
export const powerRules: Rule[] = [
  {
    id: 'PW-5',
    family: 'Power',
    severity: 'stop',
    title: 'Output over its current limit',
    source: "ECU maker's limit; relay winding 90 Ω at 13 V",
    sheet: 'allot',
    check: ({ build, net }) =>
      net.needs.flatMap((need) => {
        const pin = withId(build.ecu.pins, build.assignments[need.id]);
        if (!pin) return [];
        const winding = need.winding !== null ? 13 / RELAY_WINDING_OHMS : 0;
        const amps = Math.max(need.ask.amps ?? 0, winding);
        const limits = pin.abilities
          .filter((ability) => ability.kind === need.ask.kind)
          .flatMap((ability) => ability.maxAmps ?? []);
        if (limits.length === 0 || amps <= Math.max(...limits)) return [];
        return [
          {
            at: need.id,
            where: { type: 'need' as const, needId: need.id },
            detail: `${need.label} draws ${formatAmps(amps)}; ${pin.id} stands ${formatAmps(Math.max(...limits))}.`,
          },
        ];
      }),
  },
  {
    id: 'PW-8',
    family: 'Power',
    severity: 'stop',
    title: 'Fewer grounds than the ECU asks for',
    source: "ECU maker's ground count",
    sheet: 'feeds',
    check: ({ build }) => {
      const count = groundPins(build).power.length;
      return count >= build.ecu.groundsAsked
        ? []
        : [
            {
              at: '',
              detail: `${build.ecu.model} asks for ${build.ecu.groundsAsked} power grounds; ${plural(count, 'pin')} ${count === 1 ? 'is' : 'are'} wired as one.`,
            },
          ];
    },
  },
  {
    id: 'PW-9',
    family: 'Power',
    severity: 'stop',
    title: 'Igniter ground shared with the sensors',
    source: 'Coil current in a shared return; common practice',
    sheet: 'feeds',
    check: ({ devices }) =>
      devices.flatMap(({ device, kind }) => {
        // A coil with its igniter, or the module that switches coils without one.
        if (!trait(kind, 'coil') && !trait(kind, 'igniter')) return [];
        return kind.terminals.flatMap((terminal) =>
          destinationOf(device, terminal).to === 'sensor-ground'
            ? [
                {
                  at: terminalId(device.id, terminal.id),
                  where: { type: 'device' as const, deviceId: device.id },
                  detail: `${device.label} returns its primary current through the ECU's sensor ground: every spark lands in every reading and in the crank signal.`,
                  remedy: {
                    label: 'Ground it at the engine block',
                    calls: [
                      call('setDestination', {
                        deviceId: device.id,
                        terminalId: terminal.id,
                        destination: { to: 'ground', place: 'head' },
                      }),
                    ],
                  },
                },
              ]
            : [],
        );
      }),
  },
  {
    id: 'PW-11',
    family: 'Power',
    severity: 'note',
    title: 'Alternator lamp path missing',
    source: 'Through the warning lamp, or about 470 Ω to the switched feed; common practice',
    sheet: 'survey',
    check: ({ build, devices }) =>
      build.power.charging === 'none' || devices.some(({ kind }) => hasRole(kind, 'alternator'))
        ? []
        : [
            {
              at: '',
              detail:
                'No alternator on the list: its lamp terminal needs the warning lamp, or about 470 Ω to the switched feed, to start charging. An engine that charges nothing is told so on sheet 1.',
            },
          ],
  },
  {
    id: 'PW-12',
    family: 'Power',
    severity: 'stop',
    title: 'Coil hangs on a supply without a ground',
    source: 'A coil with igniter needs its ground at the engine; common practice',
    sheet: 'survey',
    check: ({ build, net, devices }) =>
      devices.flatMap(({ device, kind }) => {
        const coil = trait(kind, 'coil');
        if (!coil?.igniter) return [];
        const grounded = kind.terminals.some((terminal) =>
          ['ground', 'sensor-ground'].includes(destinationOf(device, terminal).to),
        );
        const fed = kind.terminals.some((terminal) => destinationOf(device, terminal).to === 'feed');
        const need = net.needsOf.get(device.id)?.[0];
        const served = need && build.ecu.pins.some((pin) => serve(pin, need.ask).ability);
        if (!served || (grounded && fed)) return [];
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label} has no ${grounded ? 'feed' : 'ground'} in the plan: it cannot spark.`,
          },
        ];
      }),
  },
  {
    id: 'PW-13',
    family: 'Power',
    severity: 'note',
    title: 'Nothing charges the battery',
    source: 'Capacity × depth / current; four fifths of it used, without Peukert’s loss: common practice',
    sheet: 'feeds',
    check: ({ build, net, devices }) => {
      if (build.power.charging !== 'none') return [];
      const charger = devices.find(({ kind }) => hasRole(kind, 'alternator'));
      const amps = runningAmps(net);
      const minutes = Math.floor(((build.power.batteryAh * USED_SHARE) / amps) * 60);
      return [
        charger
          ? {
              at: '',
              severity: 'fix' as const,
              title: 'An alternator, and nothing charges',
              where: { type: 'device' as const, deviceId: charger.device.id },
              detail: `Sheet 1 says that nothing charges the battery, and ${charger.device.label} is on the list.`,
              remedy: { label: 'It charges', calls: [call('setPower', { charging: 'alternator' })] },
            }
          : {
              at: '',
              detail: `With everything on, ${formatAmps(amps)} of a ${build.power.batteryAh} Ah battery: ${minutes < 120 ? `${minutes} minutes` : `${(minutes / 60).toFixed(1)} hours`} until four fifths are gone. Then spark and injectors weaken first.`,
            },
      ];
    },
  },
];
