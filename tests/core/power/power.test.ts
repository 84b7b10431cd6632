import { endNamed } from '../../ends';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { call } from '~/core/edits';
import { netlist } from '~/core/netlist/netlist';
import { averageCoilAmps, dwellCharge, primaryAmps, storedMillijoules } from '~/core/power/coil';
import { fuseFor, fuseRatings } from '~/core/power/fuse';
import { circuitsOf } from '~/core/netlist/power-plan';
import { surroundings } from '~/core/power/census';
import {
  heatFactor,
  carriedAmps,
  groupingFactor,
  sizeFor,
  sizeForDrop,
  wireOhms,
  seriesSizes,
  wireSeries,
} from '~/core/wire/wire';
import { trait } from '~/core/devices/kind';
import { atVolts } from '~/core/devices/volts-table';
import { coilFeedAmps } from '~/core/power/coil-feed';
import { demoBuild, ecu, edited, emptyBuild, engine, kind, twinBuild } from '../../helpers';

describe.each(wireSeries)('wire, %s', (series) => {
  const sizes = seriesSizes(series);
  test('thicker wire has less resistance and carries more', () => {
    const around = { loadedCircuits: 3, ambientCelsius: 60, wireCelsius: 125, series };
    for (let i = 1; i < sizes.length; i += 1) {
      expect(sizes[i].ohmsPerKm).toBeLessThan(sizes[i - 1].ohmsPerKm);
      expect(carriedAmps(sizes[i].squareMm, around)).toBeGreaterThan(carriedAmps(sizes[i - 1].squareMm, around));
    }
  });
  test('a size found for a current carries it, the next smaller does not', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 60, noNaN: true }),
        fc.integer({ min: 1, max: 20 }),
        (amps, loadedCircuits) => {
          const around = { loadedCircuits, ambientCelsius: 50, wireCelsius: 125, series };
          const size = sizeFor(amps, around);
          const index = sizes.findIndex((one) => one.squareMm === size);
          if (carriedAmps(size, around) < amps) expect(index).toBe(sizes.length - 1);
          else if (index > 0) expect(carriedAmps(sizes[index - 1].squareMm, around)).toBeLessThan(amps);
        },
      ),
    );
  });
  test('drop sizes keep the limit or give up', () => {
    const size = sizeForDrop(16, 3, 0.25, series)!;
    expect(16 * wireOhms(size, 3)).toBeLessThanOrEqual(0.25);
    expect(sizeForDrop(500, 30, 0.01, series)).toBeNull();
  });
  test('limits of the factors', () => {
    expect(groupingFactor(1)).toBe(1);
    expect(groupingFactor(40)).toBe(0.38);
    // The amperes are told for a conductor at 105 °C in air of 30: other insulation has the root of its own rise over that of 75 K.
    expect(heatFactor(105, 105)).toBe(0);
    expect(heatFactor(105, 30)).toBe(1);
    expect(heatFactor(85, 30)).toBeCloseTo(Math.sqrt(55 / 75), 12);
    expect(heatFactor(70, 50)).toBeCloseTo(Math.sqrt(20 / 75), 12);
    expect(heatFactor(125, 30)).toBeCloseTo(Math.sqrt(95 / 75), 12);
  });
});

describe('coil', () => {
  const coil = { primaryOhms: 0.55, inductanceMillihenry: 3.2 };
  test('a dwell of 3 ms by hand', () => {
    // tau = 3.2 mH / 0.55 ohms = 5.818 ms; 1 - e^(-3/5.818) = 1 - e^(-0.51563) = 0.40289; of 13.5 / 0.55 = 24.545 A: 9.889 A.
    expect(primaryAmps(coil, 13.5, 3)).toBeCloseTo(9.889, 2);
    // Half of 3.2 mH times 9.889 A squared: 156.5 mJ.
    expect(storedMillijoules(coil, 13.5, 3)).toBeCloseTo(156.5, 0);
    // The charge: 24.545 A x (3 ms - 5.818 ms x 0.40289) = 16.10 mAs; at sixty sparks a second 0.966 A.
    expect(dwellCharge(coil, 13.5, 3)).toBeCloseTo(16.1, 1);
    expect(averageCoilAmps(coil, 13.5, 3, 60)).toBeCloseTo(0.966, 2);
  });
  test('current rises towards V/R and its integral is the charge', () => {
    expect(primaryAmps(coil, 13.5, 1000)).toBeCloseTo(13.5 / 0.55, 6);
    let sum = 0;
    const step = 0.001;
    for (let t = step / 2; t < 3; t += step) sum += primaryAmps(coil, 13.5, t) * step;
    expect(dwellCharge(coil, 13.5, 3)).toBeCloseTo(sum, 4);
  });
});

describe('circuits', () => {
  test.each([demoBuild(), twinBuild(), emptyBuild()].map((build) => [build.name, build] as const))(
    '%s: derived figures satisfy their own rules',
    (_, build) => {
      for (const circuit of circuitsOf(build)) {
        expect(circuit.fuseAmps * 0.8).toBeGreaterThanOrEqual(circuit.loadAmps - 1e-9);
        expect(circuit.carriesAmps).toBeGreaterThanOrEqual(circuit.fuseAmps);
        if (circuit.loads.length > 1) expect(circuit.branchCarriesAmps).toBeGreaterThanOrEqual(circuit.fuseAmps);
        expect(circuit.dropVolts).toBeLessThanOrEqual(circuit.limitVolts);
      }
    },
  );
  test('the main feed carries the injectors where they hang behind it, and their volts are told from the battery on', () => {
    const shared = edited(demoBuild(), call('setCircuit', { circuitId: 'injectors', choice: { feed: 'shared' } }));
    const of = (build: ReturnType<typeof demoBuild>, id: string) => circuitsOf(build).find((one) => one.id === id)!;
    const [main, injectors] = [of(shared, 'main'), of(shared, 'injectors')];
    expect(main.flow.mean).toBeCloseTo(of(demoBuild(), 'main').flow.mean + injectors.flow.mean, 6);
    // Pulses that know nothing of each other: squares of what they stray from their means add up.
    const strays = ({ flow }: typeof main) => flow.rms ** 2 - flow.mean ** 2;
    expect(strays(main)).toBeCloseTo(strays(of(demoBuild(), 'main')) + strays(injectors), 6);
    expect(injectors).toMatchObject({ upstream: 'main', source: 'main', relay: null });
    expect(injectors.dropVolts).toBeGreaterThan(0.2);
    expect(of(demoBuild(), 'injectors')).toMatchObject({ upstream: null, source: 'battery' });
  });
  test('schools: pump and coils by key or ECU, starting by key or button', () => {
    const control = (build: ReturnType<typeof demoBuild>, id: string) =>
      circuitsOf(build).find((one) => one.id === id)!.relay!.control;
    expect(control(demoBuild(), 'pump')).toBe('need');
    expect(
      control(edited(demoBuild(), call('setCircuit', { circuitId: 'pump', choice: { switchedBy: 'key' } })), 'pump'),
    ).toBe('key-run');
    expect(control(demoBuild(), 'coils')).toBe('key-run');
    expect(
      control(edited(demoBuild(), call('setCircuit', { circuitId: 'coils', choice: { switchedBy: 'ecu' } })), 'coils'),
    ).toBe('need');
    expect(control(edited(demoBuild(), call('setPower', { starting: 'key' })), 'starter-1')).toBe('key-start');
    const large = edited(emptyBuild(4, 'orrery-94'), call('addDevice', { kind: kind('coil-igniter') }));
    expect(control(large, 'main')).toBe('main-relay-pin');
    expect(control(large, 'coils')).toBe('main-relay-pin');
    // Two windings on one driver pin: one wire to a splice, a branch to each.
    expect(netlist(large).nodeOf.get(endNamed('ecu:A32'))!.ends).toEqual([
      'ecu:A32',
      'relay:coils.85',
      'relay:main.85',
      'splice:A32',
    ]);
    expect(ecu('orrery-94').pins.find((pin) => pin.id === 'A32')!.label).toBe('Main relay');
  });
  test('a load beyond the largest fuse takes the largest and is found by rule', () => {
    expect(fuseFor(70)).toBeNull();
    expect(fuseFor(64)).toBe(80);
    expect(fuseRatings[fuseRatings.length - 1]).toBe(80);
  });
  test('surroundings never take a power branch through the exhaust zone', () => {
    expect(surroundings({ ...demoBuild(), loom: { ...demoBuild().loom, zoneCelsius: 200 } }).ambientCelsius).toBe(60);
  });
});

describe('what a coil feed carries', () => {
  const coil = trait(kind('coil-igniter'), 'coil')!;
  const four = { ...demoBuild().engine, ...engine(4), maxRpm: 6000 };
  const each = engine(4).firingOrder.map((cylinder) => ({ coil, serves: [cylinder], row: 1 }));
  test('mean and RMS of one coil are those of the closed forms', () => {
    const dwell = atVolts(coil.dwell, 13.5)!;
    const tau = coil.inductanceMillihenry / coil.primaryOhms;
    const full = 13.5 / coil.primaryOhms;
    const fade = (times: number) => 1 - Math.exp((-times * dwell) / tau);
    // Charge of a ramp, and the integral of its square: i² = I²(1 - 2 exp(-t/tau) + exp(-2t/tau)); 50 events a second at 6000 rpm.
    const square = full ** 2 * (dwell - 2 * tau * fade(1) + (tau / 2) * fade(2));
    const found = coilFeedAmps({ ...four, ignition: 'direct' }, each.slice(0, 1), 13.5, 6000);
    expect(found.mean).toBeCloseTo((dwellCharge(coil, 13.5, dwell) / 1000) * 50, 2);
    expect(found.rms).toBeCloseTo(Math.sqrt((square / 1000) * 50), 1);
    expect(found.peak / primaryAmps(coil, 13.5, dwell)).toBeCloseTo(1, 1);
  });
  test('four singles that spark every turn draw twice what they draw once a cycle: two charge at a time', () => {
    const once = coilFeedAmps({ ...four, ignition: 'direct' }, each, 13.5, 6000);
    const turns = coilFeedAmps({ ...four, ignition: 'wasted' }, each, 13.5, 6000);
    expect(turns.mean / once.mean).toBeCloseTo(2, 2);
    expect(turns.rms / once.rms).toBeCloseTo(2, 2);
    expect(turns.peak / once.peak).toBeCloseTo(2, 2);
    expect(once.rms).toBeGreaterThan(once.mean);
  });
  test('a distributor charges one coil for every firing, its dwell cut to the room between them', () => {
    const one = coilFeedAmps({ ...four, ignition: 'distributor' }, [{ coil, serves: [], row: 1 }], 13.5, 9000);
    const room = 180 / (9000 * 0.006) - 1;
    expect(room).toBeLessThan(atVolts(coil.dwell, 13.5)!);
    expect(one.mean).toBeCloseTo((dwellCharge(coil, 13.5, room) / 1000) * 300, 1);
    expect(one.peak).toBeLessThan(primaryAmps(coil, 13.5, atVolts(coil.dwell, 13.5)!));
  });
  test('the fuse of the feed is chosen by what warms it', () => {
    const build = demoBuild();
    const feed = circuitsOf(build).find(({ role }) => role === 'coils')!;
    expect(feed.loadAmps).toBeCloseTo(feed.pulsed!.rms, 4);
    expect(feed.fuseAmps * 0.8).toBeGreaterThanOrEqual(feed.pulsed!.rms);
  });
});
