import { curveOf } from '../devices/curve';
import { call } from '../edits';
import { hasRole, sensorsIn, trait, type DeviceKind } from '../devices/kind';
import { terminalId } from '../ends/ends';
import { serve } from '../ecu/ask';
import { withId } from '../data/with-id';
import { SPEED_TOLERANCE, gaugeReads, hertzAt, pulsesPerKm } from '../speed/chain';
import { readMeasure } from '../units/workshop';
import { readQuantity } from '../units/units';
import type { Hit, Rule } from './rule';

/** A road speed no car of a swap passes, km/h: what an input and an output must count up to (common practice). */
const TOP_KMH = 250;
/** Where two scales are compared, km/h. */
const AT_KMH = 100;
/** Volts, ohms and hertz beyond which a signal is a fault: this many times what the top of the range gives (common practice). */
const FAULT_SHARE = 1.2;

/** Terminals of a part that a speedometer takes its pulses by: its own, or the cavities of a body plug that lead to one. */
const speedometerTerminals = (kind: DeviceKind): string[] =>
  hasRole(kind, 'speedometer')
    ? kind.terminals.filter(({ destination }) => destination.to === 'pin').map(({ id }) => id)
    : (trait(kind, 'body')?.cavities ?? [])
        .filter(({ signal }) => signal === 'speedometer')
        .map(({ cavity }) => cavity);

const times = (factor: number): string => (factor >= 10 ? factor.toFixed(0) : factor.toFixed(2));

/** Road speed from the sensor to the gauges. */
export const speedRules: Rule[] = [
  {
    id: 'BB-17',
    family: 'Bus and body',
    severity: 'fix',
    title: 'Speed gauge does not get its pulses',
    source: 'Pulses a turn × gears × turns of the wheel a kilometre, against what the gauge wants: geometry',
    sheet: 'survey',
    check: ({ build, devices }) => {
      const { speed } = build;
      if (!speed) return [];
      const driven = devices.some(({ kind }) => speedometerTerminals(kind).length > 0);
      return speed.gauges.flatMap((gauge): Hit[] => {
        const { given, factor } = gaugeReads(speed, gauge);
        const fed = {
          ...speed,
          gauges: speed.gauges.map((one) => (one === gauge ? { ...one, fedBy: 'ecu' as const } : one)),
        };
        if (Math.abs(factor - 1) > SPEED_TOLERANCE)
          return [
            {
              at: gauge.id,
              detail: `${gauge.name} hangs on the speed sensor and gets ${readMeasure('distance-pulses', given, build)}; it wants ${readMeasure('distance-pulses', gauge.pulsesPerKm, build)}, so it reads ${times(factor)} times the speed: ${readQuantity('road-speed', AT_KMH / 2, build)} shows as ${readQuantity('road-speed', (AT_KMH / 2) * factor, build)}.`,
              remedy: {
                label: 'Feed it from an output of the ECU',
                calls: [call('setSpeed', { speed: fed })],
              },
            },
          ];
        if (gauge.fedBy === 'ecu' && !driven)
          return [
            {
              at: `${gauge.id}.wire`,
              severity: 'note' as const,
              title: 'Speed gauge without a wire',
              detail: `${gauge.name} is fed by the ECU, and no speedometer is on the list, nor a cavity of a body plug named so: no output is asked for it.`,
            },
          ];
        return [];
      });
    },
  },
  {
    id: 'BB-18',
    family: 'Bus and body',
    severity: 'fix',
    title: 'Speed sensor scaled for another shaft',
    source: 'Pulses a turn × gears × turns of the wheel a kilometre: geometry',
    sheet: 'survey',
    check: ({ build, devices }) => {
      const { speed } = build;
      if (!speed) return [];
      const right = hertzAt(pulsesPerKm(speed, speed.tyre), AT_KMH);
      return devices.flatMap(({ device, kind }) => {
        const sensor = sensorsIn(kind).find((one) => one.quantity === 'road-speed' && one.signal === 'hertz');
        const scaled = sensor && curveOf(sensor.curve).signalOf(AT_KMH);
        if (!sensor || !scaled || Math.abs(right / scaled - 1) <= SPEED_TOLERANCE) return [];
        const most = (right * sensor.most) / AT_KMH;
        const own = {
          ...sensor,
          curve: {
            method: 'linear' as const,
            points: [
              { signal: 0, value: 0 },
              { signal: most, value: sensor.most },
            ],
          },
          faultAbove: sensor.faultAbove === null ? null : most * FAULT_SHARE,
        };
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label} is scaled to ${scaled.toFixed(0)} Hz at ${readQuantity('road-speed', AT_KMH, build)}; its gears and tyre give ${right.toFixed(0)} Hz: the ECU would show ${times(right / scaled)} times the speed.`,
            remedy: {
              label: `Scale it to ${readMeasure('distance-pulses', pulsesPerKm(speed, speed.tyre), build)}`,
              calls: [
                call('editKind', { kind: { ...kind, traits: kind.traits.map((one) => (one === sensor ? own : one)) } }),
              ],
            },
          },
        ];
      });
    },
  },
  {
    id: 'BB-19',
    family: 'Bus and body',
    severity: 'fix',
    title: 'Speed pulses faster than the pin',
    source: "The ECU's definition; top speed is common practice",
    sheet: 'allot',
    check: ({ build, net, devices }) => {
      const { speed } = build;
      if (!speed) return [];
      const atTop = hertzAt(pulsesPerKm(speed, speed.tyre), TOP_KMH);
      const limitOf = (needId: string) => {
        const need = withId(net.needs, needId);
        const pin = need && withId(build.ecu.pins, build.assignments[need.id]);
        const limit = pin && serve(pin, need.ask).ability?.maxHz;
        return need && pin && limit !== undefined ? { need, pin, limit } : null;
      };
      const counted = devices
        .filter(({ kind }) => hasRole(kind, 'speed'))
        .flatMap(({ device }) => net.needsOf.get(device.id) ?? [])
        .map((need) => ({ needId: need.id, hertz: atTop, does: 'counts' }));
      const fastest = Math.max(0, ...speed.gauges.filter(({ fedBy }) => fedBy === 'ecu').map((one) => one.pulsesPerKm));
      const given = devices.flatMap(({ device, kind }) => {
        const ends = new Set(speedometerTerminals(kind).map((terminal) => terminalId(device.id, terminal)));
        return (net.needsOf.get(device.id) ?? [])
          .filter(({ id }) => ends.has(id))
          .map((need) => ({ needId: need.id, hertz: hertzAt(fastest, TOP_KMH), does: 'gives' }));
      });
      return [...counted, ...given].flatMap(({ needId, hertz, does }) => {
        const at = limitOf(needId);
        return at && hertz > at.limit
          ? [
              {
                at: needId,
                where: { type: 'need' as const, needId },
                detail: `${at.need.label} on ${at.pin.id} comes to ${hertz.toFixed(0)} Hz at ${readQuantity('road-speed', TOP_KMH, build)}; this pin ${does} up to ${at.limit} Hz.`,
              },
            ]
          : [];
      });
    },
  },
];
