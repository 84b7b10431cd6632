import type { Build, Confirmation } from '../build/schema';
import { hasRole, sensorsIn, trait } from '../devices/kind';
import { deviceAt, ecuEnd, terminalId, type EndKey } from '../ends/ends';
import type { Need } from '../netlist/needs';
import type { Netlist } from '../netlist/netlist';
import { checkIdOf } from '../prove/check-id';
import { standingReading } from '../prove/evidence';
import { standardBarometerKpa } from '../sensing/atmosphere';
import { expectation } from '../sensing/judge';
import { pinUnit, sensorsOf } from '../sensing/sensor';
import { meantWords, outputUses } from '../trigger/outputs';
import { readQuantity } from '../units/units';
import { readMeasure } from '../units/workshop';

/** One proof within a gate. */
export interface GateCheck {
  readonly id: string;
  readonly text: string;
  readonly kind: 'auto' | 'confirm' | 'reading';
  readonly unit: string;
  /** Band called right, for readings. */
  readonly low: number | null;
  readonly high: number | null;
  /** Met now: by the plan itself, or by a confirmation whose value lies in the band. */
  readonly met: boolean;
  readonly confirmation: Confirmation | null;
  /** It was confirmed on another wire, pin, part or wheel: that confirmation does not count any more. */
  readonly fallen: boolean;
  /** What to look for, or why it is not met. */
  readonly hint: string;
}

/** A check before it is known whether it was confirmed. */
export type Draft = Pick<GateCheck, 'id' | 'text' | 'hint'> &
  ({ kind: 'confirm' } | { kind: 'auto'; met: boolean } | { kind: 'reading'; unit: string; low: number; high: number });

export const confirm = (id: string, text: string, hint = ''): Draft => ({ id, kind: 'confirm', text, hint });
export const auto = (id: string, text: string, met: boolean, hint: string): Draft => ({
  id,
  kind: 'auto',
  text,
  met,
  hint,
});
export const reading = (id: string, text: string, unit: string, low: number, high: number, hint = ''): Draft => ({
  id,
  kind: 'reading',
  text,
  unit,
  low,
  high,
  hint,
});
const round = (value: number) => Math.round(value * 100) / 100;

export function voltsCheck(id: string, text: string, volts: number | null, tolerance: number, hint: string): Draft[] {
  if (volts === null) return [];
  return [reading(id, text, 'V', round(Math.max(0, volts - tolerance)), round(volts + tolerance), hint)];
}

/** Volts a key-on reading may be off where nobody can say what the part should read: a meter, a supply (common practice). */
const SENSOR_TOLERANCE = 0.3;

/** Key-on readings of every analog sensor, from the circuit at this altitude and ambient. */
export function sensorChecks(build: Build, net: Netlist, keyOn: (end: EndKey) => number | null): Draft[] {
  const barometer = standardBarometerKpa(build.site.altitudeMetres);
  const sensors = new Map(sensorsOf(build, net).map((at) => [at.id, at]));
  return net.needs.flatMap((need): Draft[] => {
    const pinId = build.assignments[need.id];
    if (!pinId || need.ask.kind !== 'analog') return [];
    // The part's own band where it is known, as sheet 1 judges by: one reading is never right there and wrong here.
    const at = sensors.get(need.id);
    const expected = at && pinUnit(at.sensor) === 'V' ? expectation(build.site, at) : null;
    const volts = expected?.atPin ?? keyOn(ecuEnd(pinId));
    const tolerance = expected && expected.atPin !== null ? expected.pinTolerance : SENSOR_TOLERANCE;
    const device = net.deviceOf.get(need.deviceId ?? '');
    // The hint is about this signal: a part may carry a pressure on one pin and a temperature on another.
    const measures =
      device && sensorsIn(device.kind).find(({ terminal }) => need.id === terminalId(device.device.id, terminal));
    const pressure = measures?.quantity === 'pressure' ? trait(device!.kind, 'pressure') : null;
    const hint =
      pressure?.measures === 'manifold' && pressure.reference === 'absolute'
        ? `Must read the barometer, ${readQuantity('pressure', barometer, build)} at ${readMeasure('altitude', build.site.altitudeMetres, build)}. About 0 is a gauge sensor or the wrong scale.`
        : measures?.quantity === 'temperature'
          ? `Must read the air around it, ${readQuantity('temperature', build.site.ambientCelsius, build)}.`
          : 'Steady, and no jump when the loom is moved.';
    const read = standingReading(build, need.id)?.atPin ?? null;
    // Read on sheet 1 already: nothing is entered twice.
    if (volts !== null && read !== null)
      return [
        auto(
          checkIdOf({ of: 'sensor', needId: need.id }),
          `${need.label} on ${pinId}: ${read} V read with the key on, ${volts.toFixed(2)} V expected`,
          Math.abs(read - volts) <= tolerance,
          hint,
        ),
      ];
    return voltsCheck(
      checkIdOf({ of: 'sensor', needId: need.id }),
      `${need.label} on ${pinId}`,
      volts,
      tolerance,
      hint,
    );
  });
}

/** What switching a relay sets in motion, by what hangs on it. */
function relayHint(net: Netlist, need: Need): string {
  const loads = net.relayLoads.get(need.winding ?? '') ?? [];
  const fed = new Set(loads.flatMap(({ end }) => deviceAt(end) ?? []));
  const feeds = (role: Parameters<typeof hasRole>[1]) =>
    net.devices.some(({ device, kind }) => fed.has(device.id) && hasRole(kind, role));
  if (feeds('starter'))
    return 'It cranks the engine: out of gear, wheels chocked, plugs out, fuel and coils off. Test first that clutch or neutral switch holds it back.';
  if (feeds('fan')) return 'Hands and leads clear of belts and blades: a fan starts without warning.';
  if (feeds('pump')) return 'Fuel under pressure: look along every joint first, extinguisher at hand, no flame.';
  return `Listen for the click, and look whether what hangs on it comes alive: ${need.label}.`;
}

export function outputChecks(build: Build, net: Netlist): Draft[] {
  const uses = outputUses(build, net.needs).map((use) =>
    confirm(
      checkIdOf({ of: 'output', pinId: use.pinId }),
      `${use.kind === 'injector' ? 'Injection' : 'Ignition'} output ${use.output} works ${meantWords(build.engine, use)}`,
      use.kind === 'injector'
        ? 'Fuel rail empty: listen for the click at that cylinder.'
        : 'Plug in this coil only, its spark plug held to the block, away from vapour.',
    ),
  );
  const relays = net.needs
    .filter((need) => need.winding !== null && build.assignments[need.id])
    .map((need) =>
      confirm(
        checkIdOf({ of: 'relay', needId: need.id }),
        `${need.label} on ${build.assignments[need.id]} switches`,
        relayHint(net, need),
      ),
    );
  return [...uses, ...relays];
}

/** A barometer strays about 3 kPa with the weather, a sensor 1.5 % of its range (common practice). */
const WEATHER_KPA = 3;
const SENSOR_SHARE = 0.015;

/** The sensors within the ECU's case: with the key on and the engine still both show the barometer. */
export function insideChecks(build: Build, net: Netlist): Draft[] {
  const { inside } = build.ecu;
  const barometer = standardBarometerKpa(build.site.altitudeMetres);
  const check = (id: string, title: string, most: number, hint: string) => {
    const off = WEATHER_KPA + SENSOR_SHARE * most;
    const words = `${readQuantity('pressure', barometer - off, build)} to ${readQuantity('pressure', barometer + off, build)}`;
    return reading(id, title, 'kPa', round(barometer - off), round(barometer + off), `${words}. ${hint}`);
  };
  const hose = net.devices.some(({ kind }) => hasRole(kind, 'manifold-hose'));
  return [
    ...(inside?.manifoldKpa !== undefined && hose
      ? [
          check(
            'inside-manifold',
            "The ECU's own manifold sensor",
            inside.manifoldKpa,
            'Then draw at the hose: the figure must fall, and hold while the hose is closed by a thumb.',
          ),
        ]
      : []),
    ...(inside?.barometer
      ? [check('inside-barometer', "The ECU's own barometer", barometer, 'Its case must breathe.')]
      : []),
  ];
}
