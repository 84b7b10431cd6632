import { describe, expect, test } from '@jest/globals';
import { compile } from '~/core/circuit/compile';
import { meterVolts, voltsBetween } from '~/core/circuit/reading';
import { scenarioOf } from '~/core/circuit/scenario';
import { solveIn } from '~/core/circuit/solve';
import { circuitStates } from '~/core/circuit/states';
import { updated } from '~/core/circuit/update';
import { sensorsIn } from '~/core/devices/kind';
import { call } from '~/core/edits';
import { ecuEnd, groundEnd } from '~/core/ends/ends';
import { netlist } from '~/core/netlist/netlist';
import { demoBuild, edited, emptyBuild, kind } from '../../helpers';

const build = demoBuild();
const net = netlist(build);
const ir = compile(build, net);
const minus = groundEnd('battery');

describe('a circuit compiled once', () => {
  test('is the very same for the same build, and another for another', () => {
    expect(compile(build, net)).toBe(ir);
    const colder = edited(build, call('setSite', { altitudeMetres: 0, ambientCelsius: -10 }));
    expect(compile(colder, net)).not.toBe(ir);
  });
  test('is plain data: what crosses to a worker solves the same', () => {
    const crossed = structuredClone(ir);
    for (const state of circuitStates) {
      const scenario = scenarioOf(build, net, state);
      const [here, there] = [solveIn(ir, scenario), solveIn(crossed, structuredClone(scenario))];
      expect([...there.voltages]).toEqual([...here.voltages]);
    }
  });
  test('leaves digits enough: what does not add up is under a microampere', () => {
    for (const state of circuitStates) {
      const solution = solveIn(ir, scenarioOf(build, net, state));
      expect(solution.residual).toBeLessThan(1e-6);
      expect(solution.conditioning).toBeGreaterThan(0);
    }
  });
});

describe('a scenario of one’s own', () => {
  test('the battery on and the ECU off its plugs: its feed is at the plug, and nothing draws there', () => {
    const plugged = scenarioOf(build, net, 'key-on');
    const solution = solveIn(ir, { ...plugged, plugged: false });
    expect(solution.ecuPowered).toBe(false);
    // The permanent feed is live at its cavity, less than a tenth of a volt from the battery.
    const feed = build.ecu.pins.find(({ abilities }) => abilities[0].kind === 'permanent')!;
    const shown = meterVolts(solution, ecuEnd(feed.id), minus)!;
    expect(shown).toBeGreaterThan(12);
    expect(voltsBetween(solution, ecuEnd(feed.id), minus)! - shown).toBeLessThan(1e-3);
  });
  test('a manifold sensor at 40 kPa: what its curve says, by hand', () => {
    const car = edited(
      emptyBuild(4, 'orrery-94'),
      call('addDevice', { kind: kind('map-3bar') }),
      call('allotAll', { keep: 'placed' }),
    );
    const own = netlist(car);
    const [sensor] = sensorsIn(kind('map-3bar'));
    const signal = car.assignments[`map-3bar-1.${sensor.terminal}`];
    const read = (kpa: number | null) => {
      const solution = solveIn(compile(car, own), scenarioOf(car, own, 'running', { kpa }));
      return voltsBetween(solution, ecuEnd(signal), minus)!;
    };
    // 0.5 V at 20 kPa and 4.5 at 300: 0.5 + 4 x 20 / 280 = 0.786.
    expect(read(40)).toBeCloseTo(0.786, 1);
    expect(read(200)).toBeCloseTo(0.5 + (4 * 180) / 280, 1);
    expect(read(null)).toBeGreaterThan(read(40));
  });
  test('a cold NTC has more volts under its pull-up', () => {
    const clt = build.assignments['clt-ntc-1.1'];
    const read = (celsius: number) =>
      voltsBetween(solveIn(ir, scenarioOf(build, net, 'key-on', { celsius })), ecuEnd(clt), minus)!;
    expect(read(-20)).toBeGreaterThan(read(20) + 0.5);
    expect(read(90)).toBeLessThan(read(20) - 1);
  });
  test('exactly the outputs that are named are driven, and only where any are', () => {
    const [one, other] = Object.values(build.assignments);
    const driven = new Set([one, other]);
    expect(scenarioOf(build, net, 'outputs-on', { driven }).driven).toEqual(driven);
    expect(scenarioOf(build, net, 'key-on', { driven }).driven.size).toBe(0);
    expect(scenarioOf(build, net, 'cranking').key).toBe('start');
    expect(scenarioOf(build, net, 'unplugged')).toMatchObject({ source: null, plugged: false, key: 'off' });
  });
  test('no fault is taken from a solution that has one already', () => {
    const [wire] = net.wires;
    const faulty = solveIn(ir, scenarioOf(build, net, 'key-on'), { type: 'resistive', wireId: wire.id, ohms: 2 });
    expect(updated(faulty, { type: 'open', wireId: wire.id })).toBeNull();
  });
});
