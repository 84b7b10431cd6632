import { catalog, entry } from '~/catalog';
import { createBuild } from '~/core/build/create';
import { call, type EditCall } from '~/core/build/edits';
import type { Build, Reading } from '~/core/build/schema';
import { netlist } from '~/core/netlist/netlist';
import { proveTests } from '~/core/prove/tests';
import { play } from './script';

const kind = (id: string) => entry(catalog.kinds, id);
const wheel = (id: string) => entry(catalog.wheels, id);
const add = (id: string, label: string, branchMetres: number, perCylinder = false): EditCall =>
  call('addDevice', { kind: kind(id), label, branchMetres, perCylinder });

const START = '2026-09-05T08:30:00.000Z';
const minutesAfter = (minutes: number) => new Date(Date.parse(START) + minutes * 60_000).toISOString();

const survey: EditCall[] = [
  add('crank-vr', 'Crank sensor', 2.1),
  add('cam-hall', 'Cam sensor', 1.7),
  add('injector-high', 'Injector', 1.6, true),
  add('fuel-pump', 'Fuel pump', 4.2),
  add('fuel-pressure', 'Fuel pressure', 1.5),
  add('flex-fuel', 'Flex fuel', 1.4),
  add('coil-igniter', 'Coil', 1.62, true),
  add('throttle-motor', 'Throttle', 1.4),
  add('pedal', 'Pedal', 0.9),
  add('map-3bar', 'Manifold pressure', 1.2),
  add('iat-ntc', 'Intake air', 1.8),
  add('boost-solenoid', 'Boost solenoid', 1.3),
  add('clt-ntc', 'Coolant', 1.5),
  add('fan', 'Fan 1', 2.4),
  add('fan', 'Fan 2', 2.6),
  add('oil-pressure', 'Oil pressure', 2.0),
  add('knock', 'Knock', 1.7),
  add('wideband-volts', 'Wideband', 2.2),
  add('speed-hall', 'Speed', 2.8),
  add('launch-button', 'Launch button', 0.8),
  add('clutch-switch', 'Clutch switch', 0.9),
  add('start-button', 'Start button', 0.8),
  add('starter', 'Starter', 2.3),
  add('alternator', 'Alternator', 1.9),
  add('can-dash', 'Dash', 0.9),
];

/** Readings of a first bench session: most of connector A, one of them a bad crimp. */
function benchSession(build: Build): EditCall[] {
  const tests = proveTests(build, netlist(build)).filter((test) => test.kind !== 'order' && /^ecu:A\d/.test(test.hold));
  const poor = tests.filter((test) => test.kind === 'continuity')[9];
  return tests.slice(0, 62).map((test, index) => {
    const value =
      test.kind === 'isolation'
        ? null
        : Math.round(((test.expected ?? 0) + build.prove.leadOhms + (test === poor ? 3.4 : 0.02 * (index % 4))) * 100) /
          100;
    const reading: Reading = { value, at: minutesAfter(index), by: 'MP', note: '', title: test.title };
    return call('recordReading', { testId: test.id, reading });
  });
}

/** The hill-climb estate: nearly every pin of the 48-cavity ECU in use, first bench session done. All made up. */
export function pellworth(): Build {
  const engine = entry(
    catalog.engines.map((one) => ({ ...one, id: one.name })),
    'Inline five turbo, 2.3 l',
  );
  const { id: _, ...geometry } = engine;
  const empty = createBuild({
    id: 'demo-pellworth',
    now: START,
    name: 'Pellworth estate, five-cylinder turbo',
    vehicle: '1968 Pellworth estate, hill climbs',
    engine: { ...geometry, name: 'Five-cylinder 2.3 l turbo' },
    ecu: entry(catalog.ecus, 'orrery-48'),
  });
  const planned = play(empty, [
    ...survey,
    call('setPower', { starting: 'button' }),
    call('setSite', { altitudeMetres: 410, ambientCelsius: 18 }),
    call('setWheel', { shaft: 'crank', wheel: wheel('60-2') }),
    call('setWheel', { shaft: 'cam', wheel: wheel('cam-1') }),
    call('setTrigger', {
      offsetDegrees: 84,
      lockDegrees: 10,
      ripple: 0.28,
      chartRpm: 3600,
      dwellMilliseconds: 3,
      injectionMilliseconds: 6.5,
      advanceDegrees: 22,
    }),
    call('allotAll', { keep: 'locked' }),
    call('setReserve', { reserve: 2 }),
  ]);
  const labelled = play(
    planned,
    planned.devices
      .filter((device) => device.kindId === 'coil-igniter' || device.kindId === 'injector-high')
      .map((device) => call('editDevice', { deviceId: device.id, labelled: true })),
  );
  const locked = play(
    labelled,
    Object.keys(labelled.assignments)
      .filter((needId) => needId.startsWith('injector-high') || needId.startsWith('coil-igniter'))
      .map((needId) => call('lock', { needId, locked: true })),
  );
  const revised = play(locked, [
    call('saveRevision', { note: 'Pin plan closed, loom on the board', at: minutesAfter(-60) }),
  ]);
  return play(revised, benchSession(revised));
}
