import { catalog, entry } from '~/catalog';
import type { Build } from '~/core/build/schema';
import { sparkLine } from '~/core/devices/spark-line';
import { call, type EditCall } from '~/core/edits';
import { createBuild } from '~/core/edits/create';
import { launchEcu } from './launch-ecu';
import { play } from './script';

const kind = (id: string) => entry(catalog.kinds, id);
const add = (id: string, label: string, branchMetres: number, perCylinder = false): EditCall =>
  call('addDevice', { kind: kind(id), label, branchMetres, perCylinder });

const engineSide: EditCall[] = [
  add('crank-vr', 'Crank sensor', 1.4),
  add('injector-high', 'Injector', 1.6, true),
  add('fuel-pump', 'Fuel pump', 2.6),
  add('fuel-pressure', 'Fuel pressure', 1.5),
  add('coil-wasted-bare', 'Double coil', 1.5, true),
  add('igniter-3', 'Igniter module', 0.9),
  add('throttle-motor', 'Throttle', 1.5),
  add('manifold-hose', 'Manifold hose', 1.2),
  add('iat-ntc', 'Intake air', 1.5),
  add('clt-ntc', 'Coolant', 1.6),
  add('oil-pressure', 'Oil pressure', 1.7),
  add('oil-temperature', 'Oil temperature', 1.7),
  add('knock-one-wire', 'Knock left', 1.5),
  add('knock-one-wire', 'Knock right', 1.5),
  add('wideband-can', 'Wideband', 2.2),
  add('starter', 'Starter', 1.8),
  add('alternator', 'Alternator', 1.4),
  add('battery-switch', 'Battery switch', 1.6),
];
const helmSide: EditCall[] = [
  add('pedal', 'Throttle lever', 3.4),
  add('can-dash', 'Helm dash', 3.6),
  add('start-button', 'Start button', 3.5),
  add('neutral-switch', 'Neutral switch', 2.8),
  add('kill-switch', 'Kill cord', 3.5),
  call('setBodyPlug', {
    deviceId: null,
    name: 'Helm plug',
    cavities: [
      { cavity: '1', colour: 'VT', signal: 'key-feed', note: '' },
      { cavity: '2', colour: 'BN/WH', signal: 'charge-lamp', note: '' },
      { cavity: '3', colour: 'BK', signal: 'ground', note: '' },
    ],
    pulsesPerTurn: 2,
    drive: 'low-side',
    branchMetres: 3.2,
  }),
  call('setDestination', {
    deviceId: 'alternator-1',
    terminalId: 'L',
    destination: { to: 'line', line: 'charge-lamp' },
  }),
];
const coils: EditCall[] = [1, 2, 3].map((n) =>
  call('setDestination', {
    deviceId: `coil-wasted-bare-${n}`,
    terminalId: '1',
    destination: { to: 'line', line: sparkLine(n) },
  }),
);
const sides: EditCall[] = [
  call('editDevice', { deviceId: 'knock-one-wire-1', bank: 1, labelled: true }),
  call('editDevice', { deviceId: 'knock-one-wire-2', bank: 2, labelled: true }),
];

/** The second battery, joined to the first by a cable that is fused at both ends. */
const houseBattery: EditCall[] = [
  call('addFeedPart', { part: { kind: 'battery', name: 'House battery', ampereHours: 110 }, name: 'house' }),
  call('addFeedPart', { part: { kind: 'fuse', name: 'Battery link', amps: 125 }, name: 'link' }),
  call('addFeedPart', { part: { kind: 'fuse', name: 'Battery link, house', amps: 125 }, name: 'link-house' }),
  call('linkFeed', { from: 'bat:+', to: 'fuse:link.1', metres: 0.2 }),
  call('linkFeed', { from: 'fuse:link.2', to: 'fuse:link-house.1', metres: 1.4 }),
  call('linkFeed', { from: 'fuse:link-house.2', to: 'bat:house', metres: 0.2 }),
];

/** The harbour launch: a 60-degree V6 on shared coils, one bus, a lever by wire, started by the ECU. All made up. */
export function launch(): Build {
  const { ...geometry } = catalog.engines.find(({ name }) => name.startsWith('V6 of 60'))!;
  const empty = createBuild({
    id: 'demo-launch',
    now: '2026-11-14T07:45:00.000Z',
    name: 'Harbour launch, V6 on shared coils',
    vehicle: 'Pilot launch of nine metres, two batteries',
    engine: {
      ...geometry,
      name: 'V6 of 60°, 3.2 l, marine',
      ignition: 'wasted',
      injection: 'semi-sequential',
      maxRpm: 4800,
    },
    ecu: launchEcu,
  });
  return play(empty, [
    ...engineSide,
    ...helmSide,
    ...coils,
    ...sides,
    call('setPower', {
      starting: 'button',
      ecuGround: 'battery',
      groundMetres: { battery: 2.4, head: 1.1, chassis: 1 },
      batteryAh: 90,
    }),
    ...houseBattery,
    call('setLoom', { covering: 'sealed', holeMillimetres: 45 }),
    call('setWheel', { shaft: 'crank', wheel: entry(catalog.wheels, '32-2') }),
    call('setTrigger', {
      offsetDegrees: 67.5,
      lockDegrees: 0,
      ripple: 0.25,
      chartRpm: 2600,
      dwellMilliseconds: 3.4,
      injectionMilliseconds: 5,
      advanceDegrees: 18,
    }),
    call('allotAll', { keep: 'locked' }),
  ]);
}
