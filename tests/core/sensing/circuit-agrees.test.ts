import { endNamed } from '../../ends';
import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import type { Fault } from '~/core/circuit/faults';
import { voltsBetween } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { ECU_GROUND } from '~/core/circuit/nodes';
import { sensorsIn } from '~/core/devices/kind';
import { netlist } from '~/core/netlist/netlist';
import { expectation, judgeSensor } from '~/core/sensing/judge';
import { sensorsOf } from '~/core/sensing/sensor';
import { edited, emptyBuild } from '../../helpers';

/*
 * Two models of one thing, written apart: the circuit solver over the whole loom, and the sensor's own formula. They must
 * give the same volts at the pin, and what the solver says of a fault must be what the judge calls that fault.
 */
const placed = (id: string): Build => {
  const kind = catalog.kinds.find((one) => one.id === id)!;
  return edited(
    emptyBuild(4, 'orrery-94'),
    call('setSite', { altitudeMetres: 640, ambientCelsius: 12 }),
    call('addDevice', { kind }),
    call('allotAll', { keep: 'locked' }),
  );
};
const voltsAt = (build: Build, pinId: string, fault: Fault | null = null): number => {
  const solution = solveCircuit(build, netlist(build), 'key-on', fault);
  // Against the ECU's own ground, as its input measures.
  return voltsBetween(solution, endNamed(`ecu:${pinId}`), ECU_GROUND)!;
};
const read = (build: Build, at: ReturnType<typeof sensorsOf>[number], volts: number) =>
  judgeSensor(build, at, { atPin: Math.round(volts * 100) / 100, shown: null }, []);

/** Sensors at rest whose inside the circuit knows: a divider or a resistance at the signal's terminal. */
const known = catalog.kinds
  .filter((kind) => !kind.traits.some((one) => one.type === 'body'))
  .flatMap((kind) =>
    sensorsIn(kind)
      .filter(
        (sensor) =>
          (sensor.signal === 'volts' || sensor.signal === 'ohms') &&
          kind.internals.some((inside) =>
            inside.type === 'divider'
              ? inside.signal === sensor.terminal
              : sensor.signal === 'ohms' && (inside.from === sensor.terminal || inside.to === sensor.terminal),
          ),
      )
      .map((sensor) => [`${kind.id}.${sensor.terminal}`, kind.id, sensor.terminal] as const),
  );

describe.each(known)('%s', (_, kindId, terminal) => {
  const build = placed(kindId);
  const at = sensorsOf(build, netlist(build)).find((one) => one.id === `${kindId}-1.${terminal}`)!;
  const expected = expectation(build.site, at);
  const wire = netlist(build).wires.find((one) => one.needId === at.id)!;

  test('circuit and formula give the same volts at key-on', () => {
    if (!expected || expected.atPin === null) {
      // What depends on the person still lies outside of the fault bands at rest.
      const volts = voltsAt(build, at.pin!.id);
      expect(volts).toBeGreaterThan(at.sensor.faultBelow ?? -1);
      expect(volts).toBeLessThan(at.sensor.faultAbove ?? 6);
      return;
    }
    expect(Math.abs(voltsAt(build, at.pin!.id) - expected.atPin)).toBeLessThan(0.03);
    expect(read(build, at, voltsAt(build, at.pin!.id)).verdict).toBe('right');
  });
  test('an open signal wire is judged open', () => {
    const judged = read(build, at, voltsAt(build, at.pin!.id, { type: 'open', wireId: wire.id }));
    expect(judged.causes.map((cause) => cause.code)).toContain('open');
  });
  test('a signal wire on the body is judged shorted', () => {
    const judged = read(build, at, voltsAt(build, at.pin!.id, { type: 'short-to-ground', wireId: wire.id }));
    expect(judged.causes.map((cause) => cause.code)).toContain('short-low');
  });
});

test('many sensors are held against the circuit, of both kinds', () => {
  expect(known.length).toBeGreaterThan(25);
});

test('a missing pull-up is what the solver says it is', () => {
  const build = placed('clt-ntc-3k');
  const [at] = sensorsOf(build, netlist(build));
  const volts = voltsAt(build, at.pin!.id, { type: 'no-pull-up', pinId: at.pin!.id });
  expect(read(build, at, volts).causes.map((cause) => cause.code)).toContain('no-pull-up');
});

test('a second pull-up lifts the pin in both models alike', () => {
  const build = edited(placed('clt-ntc-3k'), call('setPullUp', { deviceId: 'clt-ntc-3k-1', ohms: 2490 }));
  const [at] = sensorsOf(build, netlist(build));
  expect(Math.abs(voltsAt(build, at.pin!.id) - expectation(build.site, at)!.atPin!)).toBeLessThan(0.03);
});
