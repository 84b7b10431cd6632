import { call } from '../edits';
import { hasRole, sensorsIn, type SensorTrait } from '../devices/kind';
import { destinationOf } from '../build/destination';
import { standingReading, pinRead } from '../prove/evidence';
import { curveOf } from '../devices/curve';
import { ecuCurveOf, judgeSensor } from '../sensing/judge';
import { pullUpsAt, restSignal, sensorsOf, settingError, signalToPin, valueAtPin } from '../sensing/sensor';
import { copperLeadError } from '../devices/type-k';
import { formatOhms, listWords, plural } from '../units/format';
import { readQuantity, readStep } from '../units/units';
import type { Rule } from './rule';
import { readMeasure } from '../units/workshop';

/** Two tracks are tied by one of two laws: their volts add up, or one is a fixed share of the other. */
function trackLaw(one: SensorTrait, other: SensorTrait): 'sum' | 'ratio' | null {
  const [a, b] = [curveOf(one.curve), curveOf(other.curve)];
  const pairs = [0, 25, 50, 75, 100].map((percent) => [a.signalOf(percent), b.signalOf(percent)] as const);
  if (pairs.some(([x, y]) => x === null || y === null)) return null;
  const spread = (values: number[]) => Math.max(...values) - Math.min(...values);
  if (spread(pairs.map(([x, y]) => x! + y!)) < 0.15) return 'sum';
  const ratios = pairs.map(([x, y]) => x! / y!);
  return spread(ratios) < 0.05 * ratios[0]! ? 'ratio' : null;
}

/** Rules of the Sensors family that follow from calibrations and key-on readings. */
export const calibrationRules: Rule[] = [
  {
    id: 'SE-8',
    family: 'Sensors',
    severity: 'fix',
    title: 'ECU set to another calibration',
    source: "Both calibrations over the part's range",
    sheet: 'survey',
    check: ({ build, net }) =>
      sensorsOf(build, net).flatMap((at) => {
        const setting = ecuCurveOf(at);
        if (!setting) return [];
        const error = settingError(build.site, at, setting.curve);
        if (Math.abs(error.worst) <= 0.01 * (at.sensor.most - at.sensor.least)) return [];
        const { quantity } = at.sensor;
        return [
          {
            at: at.id,
            where: { type: 'device' as const, deviceId: at.device.id },
            detail: `${at.label}: the ECU is set to ${setting.name}, so it is off by ${signed(readStep(quantity, error.worst, build))} at ${readQuantity(quantity, error.worstAt, build)}${error.atRest === null ? '' : `, and ${signed(readStep(quantity, error.atRest, build))} at key-on`}. A plausible, wrong figure.`,
            remedy: {
              label: 'The ECU is set to the part now',
              calls: [call('setEcuCurve', { sensorId: at.id, setting: null })],
            },
          },
        ];
      }),
  },
  {
    id: 'SE-9',
    family: 'Sensors',
    severity: 'fix',
    title: 'Two pull-ups on one sensor',
    source: 'V = Vref R/(R + Rp) with both resistors side by side',
    sheet: 'survey',
    check: ({ build, net }) =>
      sensorsOf(build, net).flatMap((at) => {
        const { inside, outside } = pullUpsAt(at);
        if (at.sensor.signal !== 'ohms' || at.pin === null || inside === null || outside === null) return [];
        const signal = restSignal(build.site, at.kind, at.sensor);
        const atPin = signal === null ? null : signalToPin(at, signal);
        const shown = atPin === null ? null : valueAtPin({ sensor: at.sensor, pullUpOhms: inside }, atPin);
        return [
          {
            at: at.id,
            where: { type: 'device' as const, deviceId: at.device.id },
            detail: `${at.label}: ${formatOhms(inside)} in the ECU and ${formatOhms(outside)} outside make ${formatOhms(at.pullUpOhms)}${shown === null ? '' : `; at ${readQuantity('temperature', build.site.ambientCelsius, build)} the ECU shows ${readQuantity('temperature', shown, build)}`}.`,
            remedy: {
              label: 'Remove the outside one',
              calls: [call('setPullUp', { deviceId: at.device.id, ohms: null })],
            },
          },
        ];
      }),
  },
  {
    id: 'SE-10',
    family: 'Sensors',
    severity: 'fix',
    title: 'Key-on reading not right',
    source: "The part's calibration at this altitude and ambient (ISO 2533)",
    sheet: 'survey',
    check: ({ build, net, library }) =>
      sensorsOf(build, net).flatMap((at) => {
        const reading = standingReading(build, at.id);
        if (!reading) return [];
        const judged = judgeSensor(build, at, reading, library);
        if (!['wrong', 'unexplained', 'doubtful'].includes(judged.verdict)) return [];
        const [first] = judged.causes;
        const doubtful = judged.verdict === 'doubtful';
        return [
          {
            at: at.id,
            severity: doubtful ? ('note' as const) : undefined,
            title: doubtful ? 'Key-on reading right, but not sure' : undefined,
            where: { type: 'device' as const, deviceId: at.device.id },
            detail: `${at.label}: ${judged.sentence}${first ? ` ${doubtful ? 'It could as well be' : 'Most likely'}: ${first.sentence}` : ''}`,
            remedy:
              first && first.metres !== null
                ? {
                    label: `Set the altitude to ${readMeasure('altitude', first.metres, build)}`,
                    calls: [
                      call('setSite', {
                        altitudeMetres: first.metres,
                        ambientCelsius: build.site.ambientCelsius,
                      }),
                    ],
                  }
                : undefined,
          },
        ];
      }),
  },
  {
    id: 'SE-14',
    family: 'Sensors',
    severity: 'note',
    title: 'Key-on reading taken before the wire changed',
    source: 'A reading belongs to the pin, the wire and the part it was taken on',
    sheet: 'survey',
    check: ({ build, net }) =>
      sensorsOf(build, net).flatMap((at) => {
        const reading = build.sensing.readings[at.id];
        if (!reading || standingReading(build, at.id)) return [];
        return [
          {
            at: at.id,
            where: { type: 'device' as const, deviceId: at.device.id },
            detail: `${at.label}: read ${takenWords(reading.on, at.id)}, now ${at.pin ? `on ${at.pin.id}` : 'without a pin'}. Read it again.`,
            remedy: {
              label: 'Forget the old reading',
              calls: [call('recordSensing', { sensorId: at.id, reading: null })],
            },
          },
        ];
      }),
  },
  {
    id: 'SE-11',
    family: 'Sensors',
    severity: 'fix',
    title: 'Copper in a thermocouple lead',
    source: 'ITS-90 type K (NIST Monograph 175): copper from a warm plug makes no voltage',
    sheet: 'survey',
    check: ({ build, devices }) =>
      devices.flatMap(({ device, kind }) => {
        if (!hasRole(kind, 'thermocouple') || device.leadWire === 'type-k') return [];
        const error = copperLeadError(800, build.site.ambientCelsius + 60, build.site.ambientCelsius);
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label}: with its plug ${readStep('temperature', 60, build)} warmer than the ECU, ${readQuantity('temperature', 800, build)} reads ${readStep('temperature', Math.abs(error), build)} low. Type K wire and terminals all the way.`,
            remedy: {
              label: 'Use type K wire',
              calls: [call('editDevice', { deviceId: device.id, leadWire: 'type-k' })],
            },
          },
        ];
      }),
  },
  {
    id: 'SE-12',
    family: 'Sensors',
    severity: 'stop',
    title: 'Drive-by-wire tracks without a law',
    source: 'Two tracks: volts add up, or one is a fixed share of the other; common practice',
    sheet: 'survey',
    check: ({ devices }) =>
      devices.flatMap(({ device, kind }) => {
        const motor = kind.terminals.some(
          (terminal) => terminal.destination.to === 'pin' && terminal.destination.ask.kind === 'half-bridge',
        );
        if (!hasRole(kind, 'pedal') && !(hasRole(kind, 'throttle') && motor)) return [];
        const tracks = sensorsIn(kind).filter((sensor) => sensor.quantity === 'position');
        const law = tracks.length >= 2 ? trackLaw(tracks[0]!, tracks[1]!) : null;
        if (law !== null) return [];
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail:
              tracks.length < 2
                ? `${device.label} has ${plural(tracks.length, 'calibrated track')}: the ECU has nothing to compare, and a stuck track is not seen.`
                : `The two tracks of ${device.label} neither add up to one voltage nor keep one ratio: a plausibility check cannot hold.`,
          },
        ];
      }),
  },
  {
    id: 'SE-13',
    family: 'Sensors',
    severity: 'note',
    title: 'Sensor terminal order not confirmed',
    source: 'Variants exist with supply and ground changed over; common practice',
    sheet: 'survey',
    check: ({ devices }) => {
      const open = devices.filter(
        ({ device, kind }) =>
          !device.terminalsConfirmed &&
          sensorsIn(kind).length > 0 &&
          kind.terminals.some((terminal) => destinationOf(device, terminal).to === 'supply-5v'),
      );
      if (open.length === 0) return [];
      return [
        {
          at: '',
          where: { type: 'device', deviceId: open[0]!.device.id },
          detail: `${listWords(open.slice(0, 4).map(({ device }) => device.label))}${open.length > 4 ? ` and ${open.length - 4} more` : ''}: read supply, ground and signal off the part in hand before power is put on it.`,
        },
      ];
    },
  },
];

/** `on B9`, from what a reading was taken on; another part where the pin is the same. */
const takenWords = (on: readonly string[], sensorId: string): string => {
  const pin = pinRead(on, sensorId);
  return pin === null ? 'without a pin' : `on ${pin}, or on another part`;
};

const signed = (text: string): string => (text.startsWith('-') ? text.replace('-', '−') : `+${text}`);
