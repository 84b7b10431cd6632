import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { fuseEnd, relayEnd, terminalId } from '../ends/ends';
import { call } from '../edits';
import { hasRole, trait } from '../devices/kind';
import { groundPins } from '../netlist/ground-pins';
import { serve } from '../ecu/ask';
import { destinationOf } from '../build/destination';
import { CONTINUOUS_SHARE, fuseFor } from '../power/fuse';
import { RELAY_WINDING_OHMS } from '../power/flow';
import type { Circuit } from '../power/plan';
import { FUSE_METRES } from '../power/propose';
import { readLength } from '../units/workshop';
import { readSize } from '../wire/size';
import { formatAmps, formatVolts, listWords, plural } from '../units/format';
import type { Rule } from './rule';

/** A fuse further than this from its source leaves unprotected wire, metres (common practice: close to its source). */
const FUSE_NEAR_METRES = 0.5;

/** Share of a battery that may be used before spark and injection suffer (common practice). */
const USED_SHARE = 0.8;

/** What flows while the engine runs: every circuit but the starter's and what hangs on another's feed. */
const runningAmps = (build: Build, circuits: readonly Circuit[]): number =>
  circuits
    .filter(({ source, id }) => {
      const device = withId(build.devices, id);
      const kind = device && build.kinds[device.kindId];
      return source !== 'main' && !(kind && hasRole(kind, 'starter'));
    })
    .reduce((sum, { loadAmps }) => sum + loadAmps, 0);

export const powerRules: Rule[] = [
  {
    id: 'PW-1',
    family: 'Power',
    severity: 'stop',
    title: 'Fuse above what the wire carries',
    source: 'ISO 8820-3; IEC 60364-5-52 grouping; ampacity common practice',
    sheet: 'feeds',
    check: ({ build, net }) =>
      net.circuits.flatMap((circuit) => {
        const weakest = Math.min(circuit.carriesAmps, circuit.loads.length > 1 ? circuit.branchCarriesAmps : Infinity);
        if (circuit.fuseAmps <= weakest + 1e-9) return [];
        return [
          {
            at: circuit.id,
            where: { type: 'end' as const, end: fuseEnd(circuit.id, 1) },
            detail: `${circuit.name}: ${circuit.fuseAmps} A fuse, but ${readSize(circuit.squareMm, build)} carries ${formatAmps(weakest)} in this bundle and heat. The wire would burn before the fuse.`,
            remedy: {
              label: 'Derive fuse and wire',
              calls: [call('deriveCircuit', { circuitId: circuit.id, fields: ['squareMm', 'fuseAmps'] })],
            },
          },
        ];
      }),
  },
  {
    id: 'PW-2',
    family: 'Power',
    severity: 'fix',
    title: 'Load above 80 % of the fuse',
    source: 'Continuous load at most 80 % of rating; common practice',
    sheet: 'feeds',
    check: ({ net }) =>
      net.circuits.flatMap((circuit) => {
        if (circuit.loadAmps <= circuit.fuseAmps * CONTINUOUS_SHARE + 1e-9) return [];
        const rating = fuseFor(circuit.loadAmps);
        return [
          {
            at: circuit.id,
            where: { type: 'end' as const, end: fuseEnd(circuit.id, 1) },
            detail: `${circuit.name} draws ${formatAmps(circuit.loadAmps)} through a ${circuit.fuseAmps} A fuse, ${((100 * circuit.loadAmps) / circuit.fuseAmps).toFixed(0)} % of it.${rating === null ? ' No blade fuse is large enough: split the circuit.' : ''}`,
            remedy:
              rating === null
                ? undefined
                : {
                    label: `Fit ${rating} A`,
                    calls: [call('deriveCircuit', { circuitId: circuit.id, fields: ['fuseAmps', 'squareMm'] })],
                  },
          },
        ];
      }),
  },
  {
    id: 'PW-3',
    family: 'Power',
    severity: 'fix',
    title: 'Voltage drop over its limit',
    source: 'Feeds 0.3 V, motors 0.5 V; common practice; copper IEC 60228 at 60 °C',
    sheet: 'feeds',
    check: ({ net }) =>
      net.circuits.flatMap((circuit) =>
        circuit.dropVolts <= circuit.limitVolts + 1e-9
          ? []
          : [
              {
                at: circuit.id,
                where: { type: 'end' as const, end: circuit.loads[0]!.end },
                detail: `${circuit.name} loses ${formatVolts(circuit.dropVolts)} to ${circuit.worstLoad} at ${formatAmps(circuit.loadAmps)}; ${formatVolts(circuit.limitVolts)} is the limit.`,
                remedy: circuit.squareByPerson
                  ? {
                      label: 'Derive the wire',
                      calls: [call('deriveCircuit', { circuitId: circuit.id, fields: ['squareMm'] })],
                    }
                  : undefined,
              },
            ],
      ),
  },
  {
    id: 'PW-4',
    family: 'Power',
    severity: 'fix',
    title: 'Fuse far from its source',
    source: 'Close to its source; common practice',
    sheet: 'feeds',
    check: ({ build, net }) =>
      net.circuits.flatMap((circuit) =>
        circuit.fuseDistanceMetres <= FUSE_NEAR_METRES
          ? []
          : [
              {
                at: circuit.id,
                where: { type: 'end' as const, end: fuseEnd(circuit.id, 1) },
                detail: `${circuit.name}: ${readLength(circuit.fuseDistanceMetres, build)} of wire before the fuse has no protection at all.`,
                remedy: {
                  label: `Move it to ${readLength(FUSE_METRES, build)}`,
                  calls: [call('deriveCircuit', { circuitId: circuit.id, fields: ['fuseDistanceMetres'] })],
                },
              },
            ],
      ),
  },
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
    id: 'PW-6',
    family: 'Power',
    severity: 'stop',
    title: 'Suppressed relay reversed',
    source: 'DIN 72552: 86 supply, 85 driver when a diode is inside',
    sheet: 'feeds',
    check: ({ net }) =>
      net.circuits.flatMap((circuit) =>
        circuit.relay?.suppressed && circuit.relay.reversed
          ? [
              {
                at: circuit.id,
                where: { type: 'end' as const, end: relayEnd(circuit.id, '86') },
                detail: `${circuit.name} relay has a diode inside; with 85 on the supply it shorts the driver the moment it switches.`,
                remedy: {
                  label: 'Wire 86 to supply',
                  calls: [call('setCircuit', { circuitId: circuit.id, choice: { winding: 'as-marked' } })],
                },
              },
            ]
          : [],
      ),
  },
  {
    id: 'PW-7',
    family: 'Power',
    severity: 'note',
    title: 'No flyback path on a relay',
    source: 'An inductive load needs a diode, a resistor or the driver’s clamp; common practice',
    sheet: 'feeds',
    check: ({ net }) => {
      const bare = net.circuits.filter((circuit) => circuit.relay?.control === 'key-run' && !circuit.relay.suppressed);
      if (bare.length === 0) return [];
      return [
        {
          at: '',
          where: { type: 'end', end: relayEnd(bare[0]!.id, '85') },
          detail: `${listWords(bare.map((circuit) => circuit.name))}: the key switches the winding and nothing takes its kick. Relays with a diode spare the key switch and the ECU.`,
          remedy: {
            label: 'Use relays with a diode',
            calls: bare.map((circuit) =>
              call('setCircuit', { circuitId: circuit.id, choice: { relay: 'diode', winding: 'as-marked' } }),
            ),
          },
        },
      ];
    },
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
        if (!trait(kind, 'coil')) return [];
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
    id: 'PW-10',
    family: 'Power',
    severity: 'stop',
    title: 'Pump runs on with the engine stopped',
    source: 'A pump must stop when the engine stops; common practice, often law',
    sheet: 'feeds',
    check: ({ net }) =>
      net.circuits.flatMap((circuit) =>
        circuit.role === 'pump' && circuit.relay?.control !== 'need'
          ? [
              {
                at: '',
                where: { type: 'end' as const, end: relayEnd(circuit.id, '85') },
                detail:
                  'The pump follows the key: after a crash or a torn line it goes on pumping fuel. Let the ECU drive its relay.',
                remedy: {
                  label: 'Let the ECU switch it',
                  calls: [call('setCircuit', { circuitId: circuit.id, choice: { switchedBy: 'ecu' } })],
                },
              },
            ]
          : [],
      ),
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
      const amps = runningAmps(build, net.circuits);
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
