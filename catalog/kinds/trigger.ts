import type { DeviceKind } from '~/core/devices/kind';
import { feed, five, kind, pin, resistor, sensorGround, t } from './make';

const square = (id: string, name: string, shaft: 'crank' | 'cam', supply: '5 V' | '12 V', note: string): DeviceKind =>
  kind({
    id,
    name,
    system: 'Trigger',
    note,
    terminals: [
      t('1', 'supply', supply === '5 V' ? five(15) : feed('main', 0.03)),
      t('2', 'ground', sensorGround()),
      t('3', 'signal', pin({ kind: 'hall' })),
    ],
    internals: [resistor('1', '2', supply === '5 V' ? 600 : 1500)],
    traits: [{ type: 'trigger', shaft, sensor: 'hall' }],
    shielded: true,
  });

const variableReluctance = (id: string, name: string, shaft: 'crank' | 'cam', ohms: number): DeviceKind =>
  kind({
    id,
    name,
    system: 'Trigger',
    note: 'No supply; amplitude grows with speed; polarity matters. Twisted pair in a shield earthed at the ECU.',
    terminals: [
      t('1', 'signal +', pin({ kind: 'vr', side: 'plus' }, 'vr')),
      t('2', 'signal –', pin({ kind: 'vr', side: 'minus' }, 'vr')),
    ],
    internals: [resistor('1', '2', ohms)],
    traits: [{ type: 'trigger', shaft, sensor: 'vr' }],
    shielded: true,
    twisted: true,
  });

export const triggerKinds: readonly DeviceKind[] = [
  variableReluctance('crank-vr', 'Crank sensor, VR two-wire', 'crank', 860),
  square(
    'crank-hall',
    'Crank sensor, Hall three-wire',
    'crank',
    '5 V',
    'Open collector: pulls down only, needs a pull-up. Terminal order varies between variants.',
  ),
  square(
    'crank-hall-12v',
    'Crank sensor, Hall on 12 V',
    'crank',
    '12 V',
    'Supply 12 V, output open collector: pull it up to 5 V at the ECU, never to 12 V.',
  ),
  square(
    'crank-mr',
    'Crank sensor, magneto-resistive',
    'crank',
    '5 V',
    'Reads a magnet ring; square output down to standstill. Some count both directions: check the pulse width.',
  ),
  square('cam-hall', 'Cam sensor, Hall three-wire', 'cam', '5 V', 'Open collector: pulls down only, needs a pull-up.'),
  variableReluctance('cam-vr', 'Cam sensor, VR two-wire', 'cam', 620),
  square(
    'cam-hall-12v',
    'Cam sensor, Hall on 12 V',
    'cam',
    '12 V',
    'Supply 12 V, output open collector: pull it up to 5 V at the ECU, never to 12 V.',
  ),
  kind({
    id: 'cam-phaser-plug',
    name: 'Cam sensor and phaser in one plug',
    system: 'Trigger',
    note: 'Five terminals: a Hall sensor, and the oil valve of the cam phaser.',
    terminals: [
      t('1', 'supply', five(15)),
      t('2', 'ground', sensorGround()),
      t('3', 'signal', pin({ kind: 'hall' })),
      t('4', 'valve feed', feed('main', 0.8)),
      t('5', 'valve switched', pin({ kind: 'low-side', amps: 1.2, hz: 200 })),
    ],
    internals: [resistor('1', '2', 600), resistor('4', '5', 7.4)],
    traits: [{ type: 'trigger', shaft: 'cam', sensor: 'hall' }],
    shielded: true,
  }),
  kind({
    id: 'distributor-optical',
    name: 'Optical distributor, two tracks',
    system: 'Trigger',
    note: 'Slotted disc: a fine track for angle, a coarse one by cylinder. Both outputs need pull-ups.',
    terminals: [
      t('1', 'supply', feed('main', 0.08)),
      t('2', 'ground', sensorGround()),
      t('3', 'fine track', pin({ kind: 'hall' })),
      t('4', 'cylinder track', pin({ kind: 'hall' })),
    ],
    internals: [resistor('1', '2', 900)],
    traits: [{ type: 'trigger', shaft: 'crank', sensor: 'hall' }],
    shielded: true,
  }),
  kind({
    id: 'distributor-hall',
    name: 'Distributor, Hall vane',
    system: 'Trigger',
    note: 'One vane a cylinder; turns at half speed. Supply 12 V, output open collector.',
    terminals: [
      t('1', 'supply', feed('main', 0.03)),
      t('2', 'ground', sensorGround()),
      t('3', 'signal', pin({ kind: 'hall' })),
    ],
    internals: [resistor('1', '2', 1500)],
    traits: [{ type: 'trigger', shaft: 'crank', sensor: 'hall' }],
  }),
];
