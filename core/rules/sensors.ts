import { deviceAt, ecuEnd, spliceEnd, terminalId } from '../ends/ends';
import { call } from '../edits';
import { groupBy } from '../data/group';
import { hasRole, pressureRange, sensorsIn, trait, type DeviceKind } from '../devices/kind';
import { bankWords } from '../engine/banks';
import { bankOfDevice } from '../netlist/twins';
import { serve } from '../ecu/ask';
import { pinsOfKind } from '../ecu/ecu';
import { destinationOf, sharedPin } from '../build/destination';
import { groundedApart } from './beside';
import { groundPins, isSharedGround } from '../netlist/ground-pins';
import { asOne, wholeWires } from '../netlist/whole';
import { standardBarometerKpa } from '../sensing/atmosphere';
import { sensorsOf } from '../sensing/sensor';
import { readQuantity, readStep } from '../units/units';
import { formatAmps, formatMillivolts, formatOhms, formatVolts, listWords, plural } from '../units/format';
import type { Rule } from './rule';
import { readLength } from '../units/workshop';

/** Reserve over the highest pressure wanted (domain: 10 %). */
const RANGE_RESERVE = 1.1;
/** Pull-up of most temperature inputs (common practice). */
const USUAL_PULL_UP_OHMS = 2490;

/** Parts that belong to one bank of cylinders where there are two: oxygen, exhaust heat, knock, cam. */
const hasSide = (kind: DeviceKind): boolean =>
  trait(kind, 'wideband') !== null ||
  sensorsIn(kind).some(({ quantity }) => quantity === 'mixture') ||
  hasRole(kind, 'knock') ||
  trait(kind, 'trigger')?.shaft === 'cam';

export const sensorRules: Rule[] = [
  {
    id: 'SE-1',
    family: 'Sensors',
    severity: 'stop',
    title: 'Temperature sensor without pull-up',
    source: 'V = Vref R/(R + Rp): without Rp there is no reading',
    sheet: 'allot',
    check: ({ build, net }) => {
      const taken = new Set(Object.values(build.assignments));
      return sensorsOf(build, net).flatMap((at) => {
        // One signal of a part at a time: the pressure beside it has a pin of its own.
        if (at.sensor.quantity !== 'temperature' || at.sensor.signal !== 'ohms') return [];
        if (!at.pin || at.pullUpOhms !== null) return [];
        const free = build.ecu.pins.find(
          (pin) => !taken.has(pin.id) && serve(pin, { kind: 'analog', pullUp: true }).ability,
        );
        return [
          {
            at: at.id,
            where: { type: 'need' as const, needId: at.id },
            detail: `${at.label} is on ${at.pin.id}, which has no pull-up: the reading stays at the end stop.`,
            remedy: free
              ? { label: `Move it to ${free.id}`, calls: [call('assign', { needId: at.id, pinId: free.id })] }
              : {
                  label: `Fit ${formatOhms(USUAL_PULL_UP_OHMS)} outside`,
                  calls: [call('setPullUp', { deviceId: at.device.id, ohms: USUAL_PULL_UP_OHMS })],
                },
          },
        ];
      });
    },
  },
  {
    id: 'SE-2',
    family: 'Sensors',
    severity: 'fix',
    title: 'Sensor grounded to the body',
    source: 'Sensor grounds 10 mV; common practice',
    sheet: 'feeds',
    check: ({ build, devices, beside }) =>
      devices.flatMap(({ device, kind }) => {
        if (sensorsIn(kind).length === 0 && !trait(kind, 'trigger') && !hasRole(kind, 'throttle')) return [];
        return groundedApart(build, device).map((terminal) => {
          const destination = destinationOf(device, terminal);
          const place = destination.to === 'ground' && destination.place !== 'chassis' ? destination.place : 'body';
          const shift = beside?.shifts[device.id];
          const error = shift?.error ?? null;
          const figures = shift
            ? `: with the engine running its ground stands ${formatMillivolts(shift.shiftVolts)} above the ECU’s${error === null ? '' : `, and it reads ${readStep(shift.quantity, Math.abs(error), build)} wrong`}.`
            : ': what the loads draw shifts its reading.';
          return {
            at: terminalId(device.id, terminal.id),
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label} returns to the ${place}${figures}`,
            waits: beside === null,
            remedy: {
              label: 'Use the ECU sensor ground',
              calls: [call('setDestination', { deviceId: device.id, terminalId: terminal.id, destination: null })],
            },
          };
        });
      }),
  },
  {
    id: 'SE-3',
    family: 'Sensors',
    severity: 'stop',
    title: 'Manifold sensor under the boost target',
    source: 'absolute = barometer + boost, 10 % reserve; barometer by ISO 2533',
    sheet: 'survey',
    check: ({ build, devices }) => {
      const barometer = standardBarometerKpa(build.site.altitudeMetres);
      const needed = (barometer + build.engine.boostKpa) * RANGE_RESERVE;
      const read = (kpa: number) => readQuantity('pressure', kpa, build);
      return devices.flatMap(({ device, kind }) => {
        const inside = hasRole(kind, 'manifold-hose') ? build.ecu.inside?.manifoldKpa : undefined;
        const pressure =
          inside === undefined
            ? pressureRange(kind)
            : ({ measures: 'manifold', reference: 'absolute', least: 0, most: inside } as const);
        if (!pressure || pressure.measures !== 'manifold') return [];
        const where = { type: 'device' as const, deviceId: device.id };
        if (pressure.reference === 'gauge')
          return [
            {
              at: device.id,
              where,
              title: 'Manifold sensor reads gauge pressure',
              detail: `${device.label} reads zero at the barometer: the ECU wants absolute pressure, ${read(barometer)} at key-on here.`,
            },
          ];
        if (build.engine.aspiration === 'boosted' && build.engine.boostKpa === 0)
          return [
            {
              at: device.id,
              where,
              severity: 'fix' as const,
              title: 'Boost wanted is not told',
              detail: `${device.label} ends at ${read(pressure.most)}, which leaves ${read(Math.max(0, pressure.most / RANGE_RESERVE - barometer))} of boost with 10 % reserve. Say on sheet 1 how much is wanted.`,
            },
          ];
        if (build.engine.aspiration === 'boosted' && pressure.most < needed)
          return [
            {
              at: device.id,
              where,
              detail: `${device.label} ends at ${read(pressure.most)}; ${read(barometer)} and ${read(build.engine.boostKpa)} of boost with 10 % reserve is ${read(needed)}.`,
            },
          ];
        return [];
      });
    },
  },
  {
    id: 'SE-4',
    family: 'Sensors',
    severity: 'stop',
    title: '5 V supply over its budget',
    source: "ECU maker's limit; near the limit from 90 % (common practice)",
    sheet: 'feeds',
    check: ({ build, devices, beside }) => {
      const pins = pinsOfKind(build.ecu, 'supply-5v');
      const spread = beside?.supplies;
      return pins.flatMap((pin) => {
        const limit = pin.abilities.find((ability) => ability.kind === 'supply-5v')?.maxAmps;
        const users = devices.flatMap(({ device, kind }) =>
          kind.terminals.flatMap((terminal) => {
            const destination = destinationOf(device, terminal);
            return destination.to === 'supply-5v' &&
              sharedPin(build, pins, terminalId(device.id, terminal.id), destination.bank) === pin
              ? [{ device, amps: destination.milliamps / 1000 }]
              : [];
          }),
        );
        const amps = users.reduce((sum, user) => sum + user.amps, 0);
        if (limit === undefined || amps <= limit * 0.9) return [];
        const over = amps > limit;
        return [
          {
            at: pin.id,
            severity: over ? ('stop' as const) : ('fix' as const),
            title: over ? undefined : '5 V supply near its limit',
            where: { type: 'end' as const, end: ecuEnd(pin.id) },
            detail: `${formatAmps(amps)} of ${formatAmps(limit)} on ${pin.id}: ${listWords(users.map((user) => user.device.label))}.`,
            remedy:
              spread?.fits &&
              spread.amps[pin.id]! <= limit * 0.9 &&
              Object.entries(spread.shared).some(([id, to]) => build.shared[id] !== to)
                ? {
                    label: 'Spread them over the supplies',
                    calls: [call('setShared', { shared: { ...spread.shared } })],
                  }
                : undefined,
            waits: spread === undefined,
          },
        ];
      });
    },
  },
  {
    id: 'SE-5',
    family: 'Sensors',
    severity: 'fix',
    title: 'Both tracks on one supply',
    source: 'Drive-by-wire: separate supplies where possible; common practice',
    sheet: 'feeds',
    check: ({ build, devices }) => {
      const pins = pinsOfKind(build.ecu, 'supply-5v');
      const count = pins.length;
      return devices.flatMap(({ device, kind }) => {
        if (!hasRole(kind, 'pedal')) return [];
        const banks = kind.terminals.flatMap((terminal) => {
          const destination = destinationOf(device, terminal);
          return destination.to === 'supply-5v'
            ? [
                {
                  terminal,
                  destination,
                  pin:
                    count === 0 ? '' : sharedPin(build, pins, terminalId(device.id, terminal.id), destination.bank).id,
                },
              ]
            : [];
        });
        if (banks.length < 2 || new Set(banks.map((one) => one.pin)).size > 1) return [];
        const other = { ...banks[1]!.destination, bank: (banks[0]!.destination.bank + 1) % 4 };
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `Both tracks of ${device.label} hang on one 5 V supply: one broken wire takes both away at once.${count < 2 ? ' This ECU has only one.' : ''}`,
            remedy:
              count < 2
                ? undefined
                : {
                    label: 'Move track 2',
                    calls: [
                      call('setDestination', {
                        deviceId: device.id,
                        terminalId: banks[1]!.terminal.id,
                        destination: other,
                      }),
                    ],
                  },
          },
        ];
      });
    },
  },
  {
    id: 'SE-6',
    family: 'Sensors',
    severity: 'stop',
    title: 'Wideband heater fed or grounded wrongly',
    source: 'Heater ground to the power ground, heater feed switched; common practice',
    sheet: 'feeds',
    check: ({ devices }) =>
      devices.flatMap(({ device, kind }) => {
        if (!trait(kind, 'wideband')) return [];
        return kind.terminals.flatMap((terminal) => {
          const destination = destinationOf(device, terminal);
          const where = { type: 'device' as const, deviceId: device.id };
          const remedy = {
            label: 'Set it right',
            calls: [call('setDestination', { deviceId: device.id, terminalId: terminal.id, destination: null })],
          };
          if (destination.to === 'feed' && destination.feed === 'permanent')
            return [
              {
                at: `${device.id}.feed`,
                where,
                remedy,
                detail: `${device.label} is fed permanently: it heats with the engine off, drains the battery and cracks the sensor.`,
              },
            ];
          if (destination.to === 'sensor-ground' && terminal.destination.to === 'ground')
            return [
              {
                at: `${device.id}.ground`,
                where,
                remedy,
                detail: `The heater of ${device.label} returns through the sensor ground: about 1 A through it shifts every sensor.`,
              },
            ];
          return [];
        });
      }),
  },
  {
    id: 'SE-7',
    family: 'Sensors',
    severity: 'fix',
    title: 'Knock sensor unshielded',
    source: 'Shielded pair, shield at one end; common practice',
    sheet: 'loom',
    check: ({ devices }) =>
      devices.flatMap(({ device, kind }) =>
        hasRole(kind, 'knock') && device.shield !== 'ecu-end'
          ? [
              {
                at: device.id,
                where: { type: 'device' as const, deviceId: device.id },
                detail: `${device.label}: millivolts beside coil wires need a shield, earthed at the ECU end only.`,
                remedy: {
                  label: 'Shield at the ECU end',
                  calls: [call('editDevice', { deviceId: device.id, shield: 'ecu-end' })],
                },
              },
            ]
          : [],
      ),
  },
  {
    id: 'SE-15',
    family: 'Sensors',
    severity: 'note',
    title: "Sensors share a ground of the ECU's",
    source: "The ECU's current times the copper both share; sensor grounds 10 mV, common practice",
    sheet: 'feeds',
    check: ({ build, net }) => {
      const grounds = groundPins(build);
      return grounds.sensor.flatMap((pin) => {
        if (!isSharedGround(grounds, pin.id)) return [];
        const splice = spliceEnd(pin.id);
        const trunk = (net.wiresAt.get(ecuEnd(pin.id)) ?? [])
          .map((wire) => asOne(wholeWires(net).get(wire.cutOf ?? wire.id)!))
          .find((wire) => [wire.from, wire.to].includes(splice));
        const returning = (net.nodeOf.get(splice)?.ends ?? []).flatMap((end) => deviceAt(end) ?? []);
        if (!trunk || returning.length === 0) return [];
        const none = pinsOfKind(build.ecu, 'sensor-ground').length === 0;
        const count = plural(new Set(returning).size, 'sensor returns', 'sensors return');
        return [
          {
            at: pin.id,
            where: { type: 'end' as const, end: ecuEnd(pin.id) },
            // A definition without any is more often a gap in it than an ECU without one.
            severity: none ? ('fix' as const) : undefined,
            title: none ? 'ECU without a sensor ground' : undefined,
            detail: `${none ? `${build.ecu.model} lists no sensor-ground pin: look once more in its pinout. ` : ''}${count} to ${pin.id}, and so does the ECU's own current: ${formatVolts(trunk.amps * trunk.ohms)} at ${formatAmps(trunk.amps)} over the ${readLength(trunk.lengthMetres, build)} they share. Join them close behind the plug, never at the engine.`,
          },
        ];
      });
    },
  },
  {
    id: 'SE-16',
    family: 'Sensors',
    severity: 'fix',
    title: 'On which bank is not told',
    source: 'Crossed banks correct each other the wrong way; common practice',
    sheet: 'survey',
    check: ({ build, devices }) => {
      if (build.engine.banks.length < 2) return [];
      const sided = devices.filter(({ kind }) => hasSide(kind));
      return [...groupBy(sided, ({ kind }) => kind.id).values()].flatMap((group) => {
        const open = group.filter(({ device }) => bankOfDevice(build.engine, device) === null);
        if (group.length < 2 || open.length === 0) return [];
        return [
          {
            at: group[0]!.kind.id,
            where: { type: 'device' as const, deviceId: open[0]!.device.id },
            detail: `${listWords(open.map(({ device }) => device.label))}: say which bank ${open.length === 1 ? 'it stands' : 'each stands'} on (${build.engine.banks.map((_, i) => bankWords(build.engine, i + 1)).join('; ')}). Crossed, the ECU corrects one bank by the other.`,
          },
        ];
      });
    },
  },
  {
    id: 'SE-17',
    family: 'Sensors',
    severity: 'stop',
    title: 'A hose, and no sensor inside the ECU',
    source: "The ECU's definition",
    sheet: 'survey',
    check: ({ build, devices }) =>
      build.ecu.inside?.manifoldKpa !== undefined
        ? []
        : devices.flatMap(({ device, kind }) =>
            hasRole(kind, 'manifold-hose')
              ? [
                  {
                    at: device.id,
                    where: { type: 'device' as const, deviceId: device.id },
                    detail: `${device.label} leads to ${build.ecu.model}, which has no manifold sensor inside: fit one of its own, or say in the ECU's definition how far its own reads.`,
                    remedy: { label: 'Take the hose off', calls: [call('removeDevice', { deviceId: device.id })] },
                  },
                ]
              : [],
          ),
  },
];
