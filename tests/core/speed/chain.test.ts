import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { findingsOf } from '~/core/rules';
import {
  gaugeReads,
  hertzAt,
  movedFactor,
  pulsesPerKm,
  pulsesPerMile,
  rolledMetres,
  shaftTurns,
  tyreDiameter,
  type Gear,
  type SpeedChain,
} from '~/core/speed/chain';
import { call } from '~/core/edits';
import { curveOf } from '~/core/devices/curve';
import { sensorsIn } from '~/core/devices/kind';
import { needsOf } from '~/core/netlist/needs';
import { demoBuild, edited, kind } from '../../helpers';

const gear = (wheelSide: number, sensorSide: number): Gear => ({ name: 'Gear', wheelSide, sensorSide });
const chain = (part: Partial<SpeedChain> = {}): SpeedChain => ({
  pulsesPerTurn: 4,
  gears: [gear(41, 10)],
  tyre: { by: 'size', widthMm: 205, aspect: 55, rimInches: 16 },
  before: null,
  gauges: [],
  ...part,
});

describe('worked by hand', () => {
  test('a tyre 205/55 R 16 is 631.9 mm high and rolls 1.927 m', () => {
    // 16 × 25.4 = 406.4; 2 × 205 × 0.55 = 225.5.
    expect(tyreDiameter({ by: 'size', widthMm: 205, aspect: 55, rimInches: 16 })).toBeCloseTo(0.6319, 6);
    expect(rolledMetres(chain().tyre)).toBeCloseTo(1.9273, 4);
  });
  test('four pulses on the gearbox output, 41 to 10: 8509 a kilometre, 236 Hz at 100 km/h', () => {
    // 4 × 4.1 / 1.9273 × 1000.
    const perKm = pulsesPerKm(chain(), chain().tyre);
    expect(perKm).toBeCloseTo(8509.3, 0);
    expect(hertzAt(perKm, 100)).toBeCloseTo(236.4, 1);
    expect(pulsesPerMile(perKm)).toBeCloseTo(13694, -1);
  });
  test('a speedometer drive of 6 to 21 before a final drive of 41 to 10 turns 1.171 times for the wheel', () => {
    expect(shaftTurns([gear(6, 21), gear(41, 10)])).toBeCloseTo(1.1714, 4);
  });
  test('rolled by hand: a wheel of 2 m with one pulse gives 500 a kilometre', () => {
    expect(pulsesPerKm({ pulsesPerTurn: 1, gears: [] }, { by: 'rolled', metres: 2 })).toBe(500);
  });
  test('a sensor of another gearbox, 24 times the pulses: 5 mph shows as 120 (common practice)', () => {
    const moved = chain({
      pulsesPerTurn: 24,
      gears: [gear(4, 1)],
      before: { pulsesPerTurn: 4, gears: [] },
      gauges: [{ id: 'dial', name: 'Dial', pulsesPerKm: 2000, fedBy: 'sensor' }],
      tyre: { by: 'rolled', metres: 2 },
    });
    expect(movedFactor(moved)).toBe(24);
    const { factor } = gaugeReads(moved, moved.gauges[0]);
    expect(5 * factor).toBe(120);
    expect(gaugeReads({ ...moved }, { ...moved.gauges[0], fedBy: 'ecu' }).factor).toBe(1);
  });
});

test('property: gears in any order, and one pair undone by its mirror, give the same', () => {
  const pair = fc.record({
    name: fc.constant('Gear'),
    wheelSide: fc.integer({ min: 1, max: 60 }),
    sensorSide: fc.integer({ min: 1, max: 60 }),
  });
  fc.assert(
    fc.property(fc.array(pair, { maxLength: 4 }), pair, (gears, one) => {
      const mirror = { ...one, wheelSide: one.sensorSide, sensorSide: one.wheelSide };
      const turns = shaftTurns(gears);
      expect(shaftTurns([...gears].reverse()) / turns).toBeCloseTo(1, 9);
      expect(shaftTurns([one, ...gears, mirror]) / turns).toBeCloseTo(1, 9);
    }),
  );
});

describe('what the build is told', () => {
  const speeding = (speed: SpeedChain) => edited(demoBuild(), call('setSpeed', { speed }));
  const of = (id: string, build = demoBuild()) => findingsOf(build).filter((one) => one.rule === id);
  test('the remedy of a wrong scale makes the part’s curve that of its gears', () => {
    const build = speeding(chain());
    const [finding] = of('BB-18', build);
    const after = edited(build, ...finding.remedy!.calls);
    expect(of('BB-18', after)).toEqual([]);
    const [sensor] = Object.values(after.kinds).flatMap((kind) =>
      sensorsIn(kind).filter(({ quantity }) => quantity === 'road-speed'),
    );
    expect(curveOf(sensor.curve).signalOf(100)).toBeCloseTo(236.4, 1);
  });
  test('a gauge on the sensor’s wire is fed by the ECU instead, and then asks for an output of its own', () => {
    const build = speeding(chain({ gauges: [{ id: 'dial', name: 'Dial', pulsesPerKm: 2485, fedBy: 'sensor' }] }));
    const [finding] = of('BB-17', build);
    expect(finding.detail).toMatch(/reads 3\.42 times the speed: 50 km\/h shows as 171 km\/h/);
    const [left] = of('BB-17', edited(build, ...finding.remedy!.calls));
    expect(left).toMatchObject({ severity: 'note', title: 'Speed gauge without a wire' });
    const fitted = edited(build, ...finding.remedy!.calls, call('addDevice', { kind: kind('speedometer') }));
    expect(of('BB-17', fitted)).toEqual([]);
    // It asks for an output of its own that is fast enough.
    const need = needsOf(fitted).find(({ deviceId }) => deviceId === 'speedometer-1')!;
    expect(need.ask).toMatchObject({ kind: 'low-side', hz: 1000 });
  });
});
