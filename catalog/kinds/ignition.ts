import type { DeviceKind, Terminal } from '~/core/devices/kind';
import { sparkLine } from '~/core/devices/spark-line';
import { feed, ground, kind, line, pin, resistor, t, volts } from './make';

const dwell = volts([8, 6.4], [10, 4.5], [12, 3.5], [13.5, 3], [15, 2.6]);

/** A module that switches coils without igniters: logic in, coil negative out, one line for each channel. */
function igniter(channels: number): DeviceKind {
  const numbers = Array.from({ length: channels }, (_, i) => i + 1);
  const terminals: Terminal[] = [
    t('S', 'supply', feed('coils', 0.1)),
    t('G', 'ground', ground('head')),
    ...numbers.map((n) => t(`I${n}`, `logic in ${n}`, pin({ kind: 'ignition-logic' }))),
    ...numbers.map((n) => t(`O${n}`, `coil out ${n}`, line(sparkLine(n)))),
  ];
  return kind({
    id: `igniter-${channels}`,
    name: channels === 1 ? 'Igniter module, one channel' : `Igniter module, ${channels} channels`,
    system: 'Ignition',
    note: 'Switches coils that have no igniter. Its ground carries the whole primary current: to the engine block, short and alone.',
    terminals,
    internals: [resistor('S', 'G', 2200), ...numbers.map((n) => resistor(`I${n}`, 'G', 5600))],
    traits: [
      {
        type: 'igniter',
        channels: numbers.map((n) => ({ input: `I${n}`, output: `O${n}` })),
        maxAmps: 10,
      },
    ],
  });
}

export const ignitionKinds: readonly DeviceKind[] = [
  kind({
    id: 'coil-igniter',
    name: 'Coil with igniter, four terminals',
    system: 'Ignition',
    note: 'Logic trigger. Both grounds to the engine, never to the sensor ground.',
    terminals: [
      t('A', 'feed', feed('coils', 2)),
      t('B', 'power ground', ground('head')),
      t('C', 'logic trigger', pin({ kind: 'ignition-logic' })),
      t('D', 'secondary ground', ground('head')),
    ],
    internals: [resistor('A', 'B', 4700), resistor('C', 'B', 5600)],
    traits: [{ type: 'coil', igniter: true, primaryOhms: 0.55, inductanceMillihenry: 3.2, dwell, serves: 1 }],
    perCylinder: true,
    twinRisk: true,
  }),
  kind({
    id: 'coil-igniter-3',
    name: 'Coil with igniter, three terminals',
    system: 'Ignition',
    note: 'Feed, ground, logic trigger. The one ground carries primary and secondary current.',
    terminals: [
      t('1', 'logic trigger', pin({ kind: 'ignition-logic' })),
      t('2', 'ground', ground('head')),
      t('3', 'feed', feed('coils', 2)),
    ],
    internals: [resistor('3', '2', 4700), resistor('1', '2', 5600)],
    traits: [
      {
        type: 'coil',
        igniter: true,
        primaryOhms: 0.6,
        inductanceMillihenry: 2.6,
        dwell: volts([8, 5], [10, 3.6], [12, 2.8], [13.5, 2.4], [15, 2.1]),
        serves: 1,
      },
    ],
    perCylinder: true,
    twinRisk: true,
  }),
  kind({
    id: 'coil-bare',
    name: 'Coil without igniter, two terminals',
    system: 'Ignition',
    note: 'Its primary current goes through the driver: in the ECU or in an igniter module.',
    terminals: [t('1', 'switched', pin({ kind: 'ignition-driver', amps: 7 })), t('2', 'feed', feed('coils', 2.5))],
    internals: [resistor('1', '2', 0.6)],
    traits: [
      {
        type: 'coil',
        igniter: false,
        primaryOhms: 0.6,
        inductanceMillihenry: 3.6,
        dwell: volts([8, 7], [10, 4.9], [12, 3.8], [13.5, 3.2], [15, 2.8]),
        serves: 1,
      },
    ],
    perCylinder: true,
    twinRisk: true,
  }),
  kind({
    id: 'coil-wasted-bare',
    name: 'Wasted-spark coil, two towers, no igniter',
    system: 'Ignition',
    note: 'Fires two cylinders 360° apart, one of them into its exhaust: name both on it.',
    terminals: [t('1', 'switched', pin({ kind: 'ignition-driver', amps: 8 })), t('2', 'feed', feed('coils', 3))],
    internals: [resistor('1', '2', 0.5)],
    traits: [
      {
        type: 'coil',
        igniter: false,
        primaryOhms: 0.5,
        inductanceMillihenry: 3.4,
        dwell: volts([8, 6.2], [10, 4.4], [12, 3.4], [13.5, 2.9], [15, 2.5]),
        serves: 2,
      },
    ],
    perCylinder: true,
    twinRisk: true,
  }),
  kind({
    id: 'coil-wasted-igniter',
    name: 'Wasted-spark coil, two towers, with igniter',
    system: 'Ignition',
    note: 'Fires two cylinders 360° apart by a logic trigger, one of them into its exhaust: name both on it.',
    terminals: [
      t('1', 'logic trigger', pin({ kind: 'ignition-logic' })),
      t('2', 'ground', ground('head')),
      t('3', 'feed', feed('coils', 3)),
    ],
    internals: [resistor('3', '2', 4700), resistor('1', '2', 5600)],
    traits: [{ type: 'coil', igniter: true, primaryOhms: 0.5, inductanceMillihenry: 3.0, dwell, serves: 2 }],
    perCylinder: true,
    twinRisk: true,
  }),
  kind({
    id: 'coil-distributor',
    name: 'Coil for a distributor, no igniter',
    system: 'Ignition',
    note: 'One coil for every cylinder: dwell must fit between all firings.',
    terminals: [t('1', 'switched', pin({ kind: 'ignition-driver', amps: 7 })), t('15', 'feed', feed('coils', 4))],
    internals: [resistor('1', '15', 0.7)],
    traits: [
      {
        type: 'coil',
        igniter: false,
        primaryOhms: 0.7,
        inductanceMillihenry: 5.2,
        dwell: volts([8, 8], [10, 6], [12, 4.6], [13.5, 4], [15, 3.5]),
        serves: 4,
      },
    ],
  }),
  igniter(1),
  igniter(2),
  igniter(3),
  igniter(4),
  igniter(6),
  igniter(8),
];
