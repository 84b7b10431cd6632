import { catalog, entry } from '~/catalog';
import { createBuild } from '~/core/edits/create';
import { call, type EditCall } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { play } from './script';

const kind = (id: string) => entry(catalog.kinds, id);
const add = (id: string, label: string, branchMetres: number, perCylinder = false): EditCall =>
  call('addDevice', { kind: kind(id), label, branchMetres, perCylinder });

/** The works locomotive: a 270-degree twin with a 24-1 wheel and no cam, on the 26-cavity ECU. All made up. */
export function twin(): Build {
  const engine = catalog.engines.find((one) => one.cylinders === 2 && one.firingAngles !== null)!;
  const empty = createBuild({
    id: 'demo-twin',
    now: '2026-10-02T15:10:00.000Z',
    name: 'Brindle Quarry locomotive, parallel twin',
    vehicle: 'Narrow-gauge works locomotive no. 4',
    engine: { ...engine, name: 'Parallel twin 0.8 l, 270° crank' },
    ecu: entry(catalog.ecus, 'orrery-26'),
  });
  return play(empty, [
    add('crank-hall', 'Crank sensor', 1.1),
    add('injector-high', 'Injector', 0.9, true),
    add('coil-igniter', 'Coil', 0.9, true),
    add('fuel-pump', 'Fuel pump', 1.8),
    add('throttle-cable', 'Throttle position', 0.8),
    add('map-1bar', 'Manifold pressure', 0.7),
    add('iat-ntc', 'Intake air', 0.9),
    add('clt-ntc', 'Coolant', 1.0),
    add('fan', 'Fan', 1.4),
    add('alternator', 'Alternator', 1.2),
    call('setWheel', { shaft: 'crank', wheel: entry(catalog.wheels, '24-1') }),
    call('setTrigger', {
      offsetDegrees: 96,
      ripple: 0.2,
      chartRpm: 2400,
      dwellMilliseconds: 2.8,
      injectionMilliseconds: 5,
      advanceDegrees: 18,
    }),
    call('allotAll', { keep: 'locked' }),
  ]);
}
