import { altitudeOfKpa } from '../sensing/atmosphere';
import { RELAY_CONTACT_OHMS } from '../power/contact-ohms';
import { isTested, undroppedOhms, type Drive } from './drive';
import { behind, pinValue, plain, railValue, told, type Value } from './ecu-pins';
import { regulator, type Source } from './battery';
import { OPEN_OHMS, alternator, battery, inside, parts, spreads } from './figures';
import type { CircuitIR, Law } from './ir';
import { internalsAtRest } from './rest';
import { isThere, type Scenario } from './scenario';

/** A branch that is not there. */
const NOTHING: Value = plain(Infinity, 0);
/** One that leads nothing to speak of; how little is nobody's concern. */
const OPEN: Value = plain(OPEN_OHMS, 0);
/** Volts behind a resistance, of which so much is told elsewhere. */
const sourced = ({ volts, ohms, spread, strays }: Source, elsewhere = 0): Value => ({
  volts,
  ohms: ohms - elsewhere,
  spread,
  strays,
});

/** Amperes of a starter are known no better (common practice, as they are from memory). */
const STARTER_SPREAD = 0.3;

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
const isLive = ({ key }: Scenario, live: 'always' | 'accessory' | 'run' | 'start'): boolean => {
  switch (live) {
    case 'always':
      return true;
    case 'accessory':
      return key === 'acc' || key === 'run';
    case 'run':
      return key === 'run' || key === 'start';
    case 'start':
      return key === 'start';
  }
};

/** What one branch measures in a scenario, with relays, diodes, fuses, filaments and the ECU as `drive` has them. */
export function valueOf(ir: CircuitIR, law: Law, scenario: Scenario, drive: Drive, dead: number): Value {
  const { source, engine, plugged } = scenario;
  const { powered } = drive;
  switch (law.is) {
    case 'ohms':
      return plain(law.ohms, law.spread);
    case 'plugged':
      return plugged ? plain(law.ohms, law.spread) : NOTHING;
    case 'battery': {
      const cell = source && scenario.batteries[law.battery];
      if (!cell) return NOTHING;
      return sourced(drive.charging[law.battery] === 1 ? { ...cell, ohms: cell.takesOhms } : cell, law.clampOhms);
    }
    case 'alternator':
      return source && engine === 'running' ? sourced(regulator) : NOTHING;
    case 'switch':
      return law.restsClosed !== scenario.thrown.has(law.name) ? plain(law.ohms, spreads.contact.value) : OPEN;
    case 'key':
      if (source === null) return NOTHING;
      return isLive(scenario, law.live) ? told(parts.key) : OPEN;
    case 'button':
      // Pressed to start, and only then.
      return scenario.key === 'start' ? plain(law.ohms, spreads.contact.value) : OPEN;
    case 'starter':
      return source && engine === 'cranking' ? plain(law.ohms, STARTER_SPREAD) : NOTHING;
    case 'charged':
      return engine === 'running' ? behind(battery.charging, alternator.lampOut) : NOTHING;
    case 'mean':
      return source && engine === 'running' ? plain(source.volts / law.amps, spreads.load.value) : NOTHING;
    case 'load':
      // Without the battery a meter finds it at rest; while the engine is still what the ECU works is on for its test.
      return source === null || (law.worked && engine === 'still')
        ? plain(law.ohms, spreads.winding.value)
        : plain(law.workingOhms, spreads.load.value);
    case 'sensor':
      return plain(sensorOhms(ir, scenario)[law.rest]![law.share], spreads.sensor.value);
    case 'fuse':
      return drive.fuses[law.fuse] ? OPEN : plain(ir.fuses[law.fuse]!.ohms, spreads.fuse.value);
    case 'contact':
      return (drive.relays[law.relay] === 1) === law.closedWhen
        ? plain(RELAY_CONTACT_OHMS, spreads.contact.value)
        : OPEN;
    case 'diode': {
      const diode = ir.diodes[law.diode]!;
      if (!isThere(diode, scenario)) return NOTHING;
      if (!drive.diodes[law.diode]) return OPEN;
      return { volts: diode.volts, ohms: diode.ohms, spread: spreads.load.value, strays: spreads.diode.value };
    }
    case 'filament': {
      const { coldOhms, litOhms } = ir.filaments[law.filament]!;
      if (source === null) return plain(coldOhms, spreads.load.value);
      // As warm as the last solution found it; lit where none was made yet.
      return plain(drive.filaments[law.filament]! || (litOhms ?? coldOhms), spreads.load.value);
    }
    case 'primary': {
      const coil = ir.coils[law.coil]!;
      if (source && isTested(ir, scenario, drive, dead, coil))
        return plain(drive.coils[law.coil]! || undroppedOhms(coil, source.volts), spreads.load.value);
      return law.restOhms === null ? NOTHING : plain(law.restOhms, spreads.winding.value);
    }
    case 'channel':
      return source && isTested(ir, scenario, drive, dead, law) ? told(inside.ignitionDriverOn) : NOTHING;
    case 'rail':
      return plugged ? railValue(powered, drive.fiveLimits) : NOTHING;
    case 'pin': {
      if (!plugged) return NOTHING;
      const limiting = drive.limits[law.pin] === 1;
      return pinValue(ir.pins[law.pin]!, law.pin, { scenario, powered, dead }, limiting, ir.ecu.ownOhms);
    }
    case 'pull-up':
      return plugged ? plain(law.ohms, spreads.marked.value) : NOTHING;
  }
}
