import type { DeviceKind, Trait } from '~/core/devices/kind';
import { feed, ground, kind, line, lowSide, mounted, pin, resistor, role, t } from './make';

const button = (
  id: string,
  name: string,
  note: string,
  system: DeviceKind['system'],
  traits: Trait[] = [],
): DeviceKind =>
  kind({
    id,
    name,
    system,
    note,
    terminals: [t('1', 'signal', pin({ kind: 'switch' })), t('2', 'ground', ground('chassis'))],
    internals: [resistor('1', '2', 1e8)],
    traits,
  });

const onCan = (
  id: string,
  name: string,
  note: string,
  amps: number,
  kilobits: number,
  terminated: boolean,
): DeviceKind =>
  kind({
    id,
    name,
    system: 'Bus and dash',
    note,
    terminals: [
      t('1', 'feed', feed('key', amps)),
      t('2', 'ground', ground('chassis')),
      t('3', 'CAN H', pin({ kind: 'can', side: 'plus' }, 'can')),
      t('4', 'CAN L', pin({ kind: 'can', side: 'minus' }, 'can')),
    ],
    internals: [resistor('1', '2', 15), ...(terminated ? [resistor('3', '4', 120)] : [])],
    traits: [{ type: 'can', kilobits, terminated }],
    twisted: true,
  });

/** Eight inputs and four outputs on the bus; every channel is bare until something is wired to it. */
const withChannels = (module: DeviceKind): DeviceKind => ({
  ...module,
  terminals: [
    ...module.terminals,
    ...[1, 2, 3, 4].map((n) => t(`A${n}`, `analog ${n}`, { to: 'nothing' })),
    ...[1, 2, 3, 4].map((n) => t(`S${n}`, `switch ${n}`, { to: 'nothing' })),
    ...[1, 2, 3, 4].map((n) => t(`O${n}`, `output ${n}`, { to: 'nothing' })),
  ],
  traits: [
    ...module.traits,
    {
      type: 'module',
      channels: [
        ...[1, 2, 3, 4].map((n) => ({ terminal: `A${n}`, kind: 'analog' as const })),
        ...[1, 2, 3, 4].map((n) => ({ terminal: `S${n}`, kind: 'switch' as const })),
        ...[1, 2, 3, 4].map((n) => ({ terminal: `O${n}`, kind: 'low-side' as const, maxAmps: 2 })),
      ],
    },
  ],
});

const relay = (id: string, name: string, suppressed: boolean): DeviceKind =>
  kind({
    id,
    name,
    system: 'Start and charge',
    note: suppressed
      ? 'A diode across its winding: 86 to the supply, 85 to the driver, never the other way round (DIN 72552).'
      : 'No diode: the driver must stand the kick of the winding. 85 and 86 either way round (DIN 72552).',
    terminals: [
      t('30', 'supply', feed('permanent', 10)),
      t('87', 'switched out', line('switched-1')),
      t('86', 'winding, supply', feed('main', 0.15)),
      t('85', 'winding, driver', lowSide(0.2)),
    ],
    internals: [resistor('85', '86', 90)],
    traits: [{ type: 'relay-load', suppressed }],
  });

const gauge = (
  id: string,
  name: string,
  note: string,
  drive: 'low-side' | 'logic',
  pulsesPerTurn: number,
): DeviceKind =>
  kind({
    id,
    name,
    system: 'Bus and dash',
    note,
    terminals: [
      t('1', 'feed', feed('key', 0.2)),
      t('2', 'ground', ground('chassis')),
      t('3', 'signal', lowSide(0.05, 300)),
    ],
    internals: [resistor('1', '2', 120), resistor('1', '3', 10000)],
    traits: [{ type: 'tachometer', pulsesPerTurn, drive }, role('tachometer')],
  });

export const carKinds: readonly DeviceKind[] = [
  kind({
    id: 'speedometer',
    name: 'Speedometer, electric',
    system: 'Bus and dash',
    note: 'Counts pulses an output of the ECU gives: tell on the page Road speed how many it wants.',
    terminals: [
      t('1', 'feed', feed('key', 0.1)),
      t('2', 'ground', ground('chassis')),
      t('3', 'signal', lowSide(0.05, 1000)),
    ],
    internals: [resistor('1', '2', 130), resistor('1', '3', 10000)],
    traits: [role('speedometer')],
  }),
  button('launch-button', 'Launch button', 'Closes to ground.', 'Driver'),
  button('map-switch', 'Map switch', 'Closes to ground.', 'Driver'),
  button('neutral-switch', 'Neutral switch', 'Interlock for starting. Wired, never bridged.', 'Start and charge', [
    role('neutral-switch'),
  ]),
  button('brake-switch', 'Brake switch', 'For drive-by-wire plausibility. Wired, never bridged.', 'Driver', [
    role('brake-switch'),
  ]),
  button('clutch-switch', 'Clutch switch', 'Interlock for starting. Wired, never bridged.', 'Start and charge', [
    role('clutch-switch'),
  ]),
  button(
    'kill-switch',
    'Kill switch, to ground',
    'Closes to ground to stop the engine, at the handlebar, the helm or outside the car. Wired, never bridged.',
    'Start and charge',
    [role('kill-switch')],
  ),
  button(
    'stand-switch',
    'Side stand switch',
    'Interlock for starting: closes to ground with the stand up. Wired, never bridged.',
    'Start and charge',
    [role('stand-switch')],
  ),
  button(
    'tilt-switch',
    'Tilt switch',
    'Closes to ground when the machine lies on its side, and stops pump and engine. Upright as marked. Wired, never bridged.',
    'Start and charge',
    [role('tilt-switch')],
  ),
  button(
    'start-button',
    'Start button',
    'Closes to ground; the ECU drives the starter relay only with the interlock met.',
    'Start and charge',
    [role('start-button')],
  ),
  kind({
    id: 'reverse-switch',
    name: 'Reverse switch on the gearbox',
    system: 'Driver',
    note: 'Feeds the reverse light from the key feed.',
    terminals: [t('1', 'feed', feed('key', 4)), t('2', 'light', line('reverse-light'))],
    internals: [resistor('1', '2', 1e8)],
    traits: [role('reverse-switch')],
  }),
  kind({
    id: 'starter',
    name: 'Starter solenoid',
    system: 'Start and charge',
    note: 'Terminal 50 by relay; the heavy cable is not part of this loom.',
    terminals: [t('50', 'solenoid', feed('own', 8)), t('31', 'body', mounted())],
    internals: [resistor('50', '31', 1.4)],
    traits: [role('starter')],
  }),
  kind({
    id: 'alternator',
    name: 'Alternator lamp terminal',
    system: 'Start and charge',
    note: 'Excited through the warning lamp or about 470 Ω from the key feed.',
    terminals: [t('L', 'lamp', feed('key', 0.2)), t('B-', 'body', mounted())],
    internals: [resistor('L', 'B-', 470)],
    traits: [role('alternator')],
  }),
  kind({
    id: 'battery-switch',
    name: 'Battery changeover switch, 1, 2, both',
    system: 'Start and charge',
    note: 'Its heavy cables are not part of this loom. Never turned through off with the engine running: the alternator would lose its battery, and the ECU what holds its volts.',
    terminals: [t('F', 'field contact, unused', { to: 'nothing' })],
  }),
  relay('relay-plain', 'Relay, four terminals, no diode', false),
  relay('relay-diode', 'Relay, four terminals, with diode', true),
  kind({
    id: 'steering-pump',
    name: 'Electric steering pump, enable line',
    system: 'Start and charge',
    note: 'Its heavy feed is a cable of its own; the loom gives it the key feed and an enable to ground.',
    terminals: [t('1', 'key', feed('key', 0.5)), t('2', 'enable', lowSide(0.1)), t('3', 'ground', ground('chassis'))],
    internals: [resistor('1', '3', 500)],
  }),
  gauge('tachometer', 'Tachometer, driven to ground', 'Pull-up inside the gauge. Two pulses a turn.', 'low-side', 2),
  gauge('tachometer-logic', 'Tachometer, 5 V logic', 'Wants a clean 5 V square wave.', 'logic', 2),
  kind({
    id: 'warning-lamp',
    name: 'Warning lamp, 1.2 W',
    system: 'Bus and dash',
    note: 'Fed by the key, taken to ground by the ECU. Cold it measures a tenth of what it is when it is lit.',
    terminals: [t('1', 'feed', feed('key', 0.1)), t('2', 'switched', lowSide(0.15))],
    internals: [resistor('1', '2', 12)],
    traits: [role('lamp')],
  }),
  kind({
    id: 'shift-light',
    name: 'Shift light, LED',
    system: 'Bus and dash',
    note: 'Fed by the key, taken to ground by the ECU.',
    terminals: [t('1', 'feed', feed('key', 0.02)), t('2', 'switched', lowSide(0.05))],
    internals: [resistor('1', '2', 680)],
  }),
  withChannels(
    onCan(
      'can-io-module',
      'CAN input and output module',
      'Takes slow signals for an ECU that has run out of pins: eight inputs, four on/off outputs. Own feed and ground.',
      6,
      500,
      false,
    ),
  ),
  onCan(
    'can-dash',
    'Dash on CAN, 500 kbit/s',
    'Twisted pair; this dash carries one of the two 120 Ω terminations.',
    1,
    500,
    true,
  ),
  onCan(
    'can-dash-fast',
    'Dash on CAN, 1 Mbit/s',
    'Twisted pair; carries one of the two 120 Ω terminations.',
    1,
    1000,
    true,
  ),
  onCan(
    'can-io',
    'Input and output box on CAN',
    'More inputs where pins run out; no termination inside.',
    1,
    500,
    false,
  ),
  onCan('can-logger', 'Logger on CAN', 'Listens only; no termination inside.', 0.3, 500, false),
  onCan('can-keypad', 'Keypad on CAN', 'Buttons over the bus; no termination inside.', 0.2, 500, false),
];
