import { altitudeOfKpa } from '../sensing/atmosphere';
import { RELAY_CONTACT_OHMS } from '../power/sizes';
import type { Drive } from './drive';
import { pinValue, plain, railValue, type Value } from './ecu-pins';
import { OPEN_OHMS, alternator, battery, parts } from './figures';
import type { CircuitIR, Law } from './ir';
import { internalsAtRest } from './rest';
import { isResting, type Scenario } from './scenario';

/** A branch that is not there. */
const NOTHING: Value = plain(Infinity);

/** Ohms of each sensor's branch in the air it stands in, as they were last asked for. */
const restsOf = new WeakMap<CircuitIR, { readonly air: string; readonly shares: readonly RestOhms[] }>();
type RestOhms = Readonly<Record<'whole' | 'supply' | 'ground', number>>;

function sensorOhms(ir: CircuitIR, { celsius, kpa }: Scenario): readonly RestOhms[] {
  const air = `${celsius} ${kpa}`;
  const known = restsOf.get(ir);
  if (known?.air === air) return known.shares;
  const site = { ambientCelsius: celsius, altitudeMetres: altitudeOfKpa(kpa) };
  const shares = ir.rests.map(({ kind, internal }): RestOhms => {
    const one = internalsAtRest(site, kind)[internal]!;
    return one.type === 'divider'
      ? { whole: one.ohms, supply: one.ohms / one.ratio, ground: one.ohms / (1 - one.ratio) }
      : { whole: one.ohms, supply: one.ohms, ground: one.ohms };
  });
  restsOf.set(ir, { air, shares });
  return shares;
}

/** Whether a contact of the key, or a feed of the car, is live. */
const isLive = ({ key }: Scenario, live: 'always' | 'run' | 'start'): boolean =>
  live === 'always' || (live === 'run' ? key !== 'off' : key === 'start');

/** What one branch measures in a scenario, with relays, diodes, fuses, filaments and the ECU as `drive` has them. */
export function valueOf(ir: CircuitIR, law: Law, scenario: Scenario, drive: Drive, dead: number): Value {
  const { source, engine, plugged } = scenario;
  const { powered } = drive;
  switch (law.is) {
    case 'ohms':
      return plain(law.ohms);
    case 'plugged':
      return plugged ? plain(law.ohms) : NOTHING;
    case 'battery':
      return source ? { volts: source.volts, ohms: source.ohms - law.clampOhms } : NOTHING;
    case 'key':
      if (source === null) return NOTHING;
      return plain(isLive(scenario, law.live) ? parts.key.value : OPEN_OHMS);
    case 'button':
      // Pressed to start, and only then.
      return plain(engine === 'cranking' ? law.ohms : OPEN_OHMS);
    case 'starter':
      return source && engine === 'cranking' ? plain(law.ohms) : NOTHING;
    case 'charged':
      return engine === 'running' ? { volts: battery.charging.value, ohms: alternator.lampOut.value } : NOTHING;
    case 'mean':
      return source && engine === 'running' ? plain(source.volts / law.amps) : NOTHING;
    case 'load':
      // Without the battery a meter finds it at rest; while the engine is still what the ECU works is on for its test.
      return plain(source === null || (law.worked && engine === 'still') ? law.ohms : law.workingOhms);
    case 'sensor':
      return plain(sensorOhms(ir, scenario)[law.rest]![law.share]);
    case 'fuse':
      return plain(drive.fuses[law.fuse] ? OPEN_OHMS : ir.fuses[law.fuse]!.ohms);
    case 'contact':
      return plain((drive.relays[law.relay] === 1) === law.closedWhen ? RELAY_CONTACT_OHMS : OPEN_OHMS);
    case 'diode': {
      const { volts, ohms, resting } = ir.diodes[law.diode]!;
      if (resting && !isResting(scenario)) return NOTHING;
      return drive.diodes[law.diode] ? { volts, ohms } : plain(OPEN_OHMS);
    }
    case 'filament': {
      const { coldOhms, litOhms } = ir.filaments[law.filament]!;
      if (source === null) return plain(coldOhms);
      // As warm as the last solution found it; lit where none was made yet.
      return plain(drive.filaments[law.filament]! || (litOhms ?? coldOhms));
    }
    case 'rail':
      return plugged ? railValue(powered, drive.fiveLimits) : NOTHING;
    case 'pin': {
      if (!plugged) return NOTHING;
      const limiting = drive.limits[law.pin] === 1;
      return pinValue(ir.pins[law.pin]!, law.pin, { scenario, powered, dead }, limiting, ir.ecu.ownOhms);
    }
    case 'pull-up':
      return plugged ? plain(law.ohms) : NOTHING;
  }
}
