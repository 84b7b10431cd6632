import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { netlist } from '~/core/netlist/netlist';
import { wiresConcerned } from '~/core/trigger/concerned';
import { describeWheel, familyWords } from '~/core/trigger/describe';
import { crossingNoiseDegrees, edgeSeconds } from '~/core/trigger/edge-speed';
import { seeded, synth, type SynthSpec } from '~/core/trigger/synth';
import { trackOf } from '~/core/trigger/tracks';
import { demoBuild, emptyBuild, wheel } from '../../helpers';

describe('wires concerned', () => {
  const build = demoBuild();
  const net = netlist(build);
  test("the crank sensor's own wires, each once", () => {
    const wires = wiresConcerned(build, net, ['crank']);
    expect(wires.length).toBeGreaterThanOrEqual(2);
    expect(new Set(wires.map(({ wire: { id } }) => id)).size).toBe(wires.length);
    expect(wires.every(({ label }) => label.startsWith('Crank sensor'))).toBe(true);
  });
  test('grounds of the coils, and none of their other wires', () => {
    const wires = wiresConcerned(build, net, ['coil-ground']);
    expect(wires.length).toBeGreaterThan(0);
    for (const { wire: one } of wires) expect(`${one.from} ${one.to}`).toMatch(/gnd:|splice:/);
  });
  test('a build without sensors has none', () => {
    const empty = emptyBuild();
    expect(wiresConcerned(empty, netlist(empty), ['crank', 'cam', 'coil-ground'])).toEqual([]);
  });
});

describe('a wheel in words', () => {
  test.each([
    ['60-2', '58 teeth a turn of the crank, on 60 places, a gap of 2'],
    ['36-2-2-2', '30 teeth a turn of the crank, on 36 places, gaps of 2, 2, 2'],
    ['cam-1', '1 tooth a turn of the cam'],
    ['uneven-3', '3 teeth a turn of the crank, 60°, 120°, 180° apart'],
  ])('%s', (id, words) => expect(describeWheel(wheel(id))).toBe(words));
  test('every family has words', () => {
    for (const { family } of catalog.wheels) expect(familyWords(family)).toMatch(/[a-z]/);
  });
});

const track = (more: Partial<SynthSpec>) =>
  trackOf(
    synth({
      crank: wheel('36-1'),
      cam: null,
      speed: { type: 'constant', rpm: 300 },
      seconds: 1,
      sampleRate: 500_000,
      crankSensor: { type: 'hall' },
      random: seeded(2),
      ...more,
    }).capture,
    0,
  );

describe('speed of the edges', () => {
  test('a pull-up of one kilohm on ten nanofarads rises in 22 microseconds (2.2 RC, common practice)', () => {
    const seconds = edgeSeconds(track({}))!;
    expect(seconds).toBeGreaterThan(18e-6);
    expect(seconds).toBeLessThan(28e-6);
  });
  test('a slow recorder shows no more than its own step', () => {
    const slow = track({ sampleRate: 20_000 });
    expect(slow.step).toBeCloseTo(1 / 20_000, 9);
    expect(edgeSeconds(slow)!).toBeGreaterThanOrEqual(0.99 / 20_000);
  });
  test('noise moves the crossing of a VR signal in proportion, and less the steeper it is', () => {
    const at = (noiseVolts: number, rpm: number) =>
      crossingNoiseDegrees(
        track({ crankSensor: { type: 'vr' }, speed: { type: 'constant', rpm }, faults: { noiseVolts } }),
        rpm,
      )!;
    expect(at(0.02, 300) / at(0.01, 300)).toBeCloseTo(2, 0);
    expect(at(0.02, 1200)).toBeLessThan(at(0.02, 300));
    expect(edgeSeconds(track({ crankSensor: { type: 'vr' } }))).toBeNull();
    expect(crossingNoiseDegrees(track({}), 300)).toBeNull();
  });
});
