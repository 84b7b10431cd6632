import { terminalId } from '../ends/ends';
import type { Build, Device } from '../build/schema';
import { sensorsIn, trait, type DeviceKind, type SensorTrait } from '../devices/kind';
import { serve } from '../ecu/ask';
import type { Pin } from '../ecu/ecu';
import type { Netlist } from '../netlist/netlist';
import { standardBarometerKpa } from './atmosphere';
import { curveOf, type Curve, type PreparedCurve } from '../devices/curve';

/** The ECU's own reference for sensors, volts (common practice). */
export const REFERENCE_VOLTS = 5;

/** A signal of a device as the ECU meets it. */
export interface SensorAt {
  /** Same as the need's: device and terminal. */
  readonly id: string;
  readonly label: string;
  readonly device: Device;
  readonly kind: DeviceKind;
  readonly sensor: SensorTrait;
  readonly pin: Pin | null;
  /** Ohms to 5 V that the signal sees, all pull-ups together; null when there is none. */
  readonly pullUpOhms: number | null;
  /** The pull-up inside the ECU alone, ohms; null for none. */
  readonly insideOhms: number | null;
  /** The pin is not chosen yet: the pull-up is that of this ECU's first input that has one. */
  readonly assumed: boolean;
}

const parallel = (one: number | null, other: number | null): number | null =>
  one === null ? other : other === null ? one : (one * other) / (one + other);

function pullUpOf(build: Build, sensor: SensorTrait, pin: Pin | null): number | null {
  const ask = { kind: 'analog', pullUp: sensor.signal === 'ohms' } as const;
  if (pin) {
    const ability = serve(pin, ask).ability ?? pin.abilities.find((one) => one.kind === 'analog');
    if (ability?.pullUpOhms === undefined) return null;
    return sensor.signal === 'ohms' || !ability.pullUpSwitchable ? ability.pullUpOhms : null;
  }
  if (sensor.signal !== 'ohms') return null;
  for (const other of build.ecu.pins) {
    const { ability } = serve(other, ask);
    if (ability?.pullUpOhms !== undefined) return ability.pullUpOhms;
  }
  return null;
}

/** The pull-up inside the ECU and the one outside, ohms; null for none. */
export const pullUpsAt = (at: SensorAt): { inside: number | null; outside: number | null } => ({
  inside: at.insideOhms,
  outside: at.device.pullUpOhms,
});

/** Every calibrated signal of a build, in the order of its devices. */
export function sensorsOf(build: Build, net: Netlist): SensorAt[] {
  const pins = new Map(build.ecu.pins.map((pin) => [pin.id, pin]));
  return net.devices.flatMap(({ device, kind }) => {
    const all = sensorsIn(kind);
    return all.map((sensor): SensorAt => {
      const id = terminalId(device.id, sensor.terminal);
      const pin = pins.get(build.assignments[id] ?? '') ?? null;
      const name = kind.terminals.find((terminal) => terminal.id === sensor.terminal)?.name;
      const insideOhms = pullUpOf(build, sensor, pin);
      return {
        id,
        label: all.length > 1 ? `${device.label}, ${name}` : device.label,
        device,
        kind,
        sensor,
        pin,
        pullUpOhms: parallel(insideOhms, device.pullUpOhms),
        insideOhms,
        assumed: pin === null,
      };
    });
  });
}

/** Unit of what is seen at the pin: a resistor is read as volts under its pull-up. */
export const pinUnit = (sensor: Pick<SensorTrait, 'signal'>): 'V' | 'Hz' | 'mV' =>
  sensor.signal === 'hertz' ? 'Hz' : sensor.signal === 'millivolts' ? 'mV' : 'V';

/** Volts under a pull-up: V = Vref R / (R + Rp). */
export const pulledUpVolts = (ohms: number, pullUpOhms: number, reference = REFERENCE_VOLTS): number =>
  (reference * ohms) / (ohms + pullUpOhms);
/** Ohms that make these volts; null at or beyond the reference. */
export const pulledUpOhms = (volts: number, pullUpOhms: number, reference = REFERENCE_VOLTS): number | null =>
  volts > 0 && volts < reference ? (pullUpOhms * volts) / (reference - volts) : null;

/** From the signal of the part to what the pin sees, and back. */
export function signalToPin(at: Pick<SensorAt, 'sensor' | 'pullUpOhms'>, signal: number): number | null {
  if (at.sensor.signal !== 'ohms') return signal;
  return at.pullUpOhms === null ? null : pulledUpVolts(signal, at.pullUpOhms);
}
export function pinToSignal(at: Pick<SensorAt, 'sensor' | 'pullUpOhms'>, reading: number): number | null {
  if (at.sensor.signal !== 'ohms') return reading;
  return at.pullUpOhms === null ? null : pulledUpOhms(reading, at.pullUpOhms);
}

/** What the pin sees at a value of the quantity; null when the curve or the pull-up cannot tell. */
export function pinReading(
  at: Pick<SensorAt, 'sensor' | 'pullUpOhms'>,
  value: number,
  curve: PreparedCurve = curveOf(at.sensor.curve),
): number | null {
  const signal = curve.signalOf(value);
  return signal === null ? null : signalToPin(at, signal);
}
/** The value an ECU with this curve makes of what its pin sees. */
export function valueAtPin(
  at: Pick<SensorAt, 'sensor' | 'pullUpOhms'>,
  reading: number,
  curve: PreparedCurve = curveOf(at.sensor.curve),
): number | null {
  const signal = pinToSignal(at, reading);
  return signal === null ? null : curve.valueOf(signal);
}

/** What an ECU shows of a pin at its end stop: it holds at the ends of the range. */
export function clampedValue(at: Pick<SensorAt, 'sensor' | 'pullUpOhms'>, reading: number): number | null {
  const value = valueAtPin(at, reading);
  const { least, most, signal } = at.sensor;
  if (value !== null) return Math.min(most, Math.max(least, value));
  if (signal === 'ohms') return reading <= 0 ? most : least;
  const [low, high] = [pinReading(at, least), pinReading(at, most)];
  if (low === null || high === null) return null;
  return Math.abs(reading - low) < Math.abs(reading - high) ? least : most;
}

/**
 * What the quantity is with the key on and the engine cold and still: the barometer for an absolute pressure, nothing
 * for a gauge, ambient for a temperature. Null when that depends on the person (throttle, fuel) or on the engine.
 */
export function restValue(site: Build['site'], kind: DeviceKind, sensor: SensorTrait): number | null {
  if (sensor.quantity === 'temperature') return site.ambientCelsius;
  if (sensor.quantity !== 'pressure') return null;
  // A pressure that nobody has said to be absolute or gauge has no value to expect.
  const reference = trait(kind, 'pressure')?.reference;
  if (reference === undefined) return null;
  return reference === 'absolute' ? standardBarometerKpa(site.altitudeMetres) : 0;
}

const clamp = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));

/** The part's own signal at rest, held within its range; null when nobody can know it. */
export function restSignal(site: Build['site'], kind: DeviceKind, sensor: SensorTrait): number | null {
  const value = restValue(site, kind, sensor);
  return value === null ? null : curveOf(sensor.curve).signalOf(clamp(value, sensor.least, sensor.most));
}

/** Points of the chart: value of the quantity against what the pin sees, `count` of them over the range. */
export function chartPoints(
  at: SensorAt,
  count = 61,
  curve: Curve = at.sensor.curve,
): { value: number; reading: number }[] {
  const prepared = curveOf(curve);
  const { least, most } = at.sensor;
  return Array.from({ length: count }, (_, i) => least + ((most - least) * i) / (count - 1)).flatMap((value) => {
    const reading = pinReading(at, value, prepared);
    return reading === null ? [] : [{ value, reading }];
  });
}

export interface CurveDifference {
  /** Largest departure over the part's range, in the quantity's own unit, with its sign. */
  readonly worst: number;
  readonly worstAt: number;
  /** Departure at the key-on value; null when that is not known. */
  readonly atRest: number | null;
}

/** What the ECU would show too much (or too little) when it is set to another curve than the part has. */
export function settingError(site: Build['site'], at: SensorAt, setting: Curve): CurveDifference {
  const [part, other] = [curveOf(at.sensor.curve), curveOf(setting)];
  const errorAt = (value: number): number | null => {
    const reading = pinReading(at, value, part);
    const shown = reading === null ? null : valueAtPin(at, reading, other);
    return shown === null ? null : shown - value;
  };
  const { least, most } = at.sensor;
  let worst = { error: 0, value: least };
  for (let i = 0; i <= 60; i += 1) {
    const value = least + ((most - least) * i) / 60;
    const error = errorAt(value);
    if (error !== null && Math.abs(error) > Math.abs(worst.error)) worst = { error, value };
  }
  const rest = restValue(site, at.kind, at.sensor);
  return { worst: worst.error, worstAt: worst.value, atRest: rest === null ? null : errorAt(clamp(rest, least, most)) };
}
