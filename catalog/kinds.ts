import type { DeviceKind, Destination, Internal, Terminal, Trait } from '~/core/devices/kind';
import type { Ask } from '~/core/ecu/ask';

/** Device kinds, named by kind and geometry. Values are invented, within what the trade calls usual. */

const t = (id: string, name: string, destination: Destination): Terminal => ({ id, name, destination });
const pin = (ask: Ask, pair?: string): Destination => (pair ? { to: 'pin', ask, pair } : { to: 'pin', ask });
const five = (milliamps = 10, bank = 0): Destination => ({ to: 'supply-5v', milliamps, bank });
const sensorGround = (bank = 0): Destination => ({ to: 'sensor-ground', bank });
const feed = (name: Extract<Destination, { to: 'feed' }>['feed'], amps: number): Destination => ({
  to: 'feed',
  feed: name,
  amps,
});
const ground = (place: Extract<Destination, { to: 'ground' }>['place']): Destination => ({ to: 'ground', place });
const resistor = (from: string, to: string, ohms: number): Internal => ({ type: 'resistor', from, to, ohms });
const divider = (supply: string, groundId: string, signal: string, ratio: number, ohms = 1000): Internal => ({
  type: 'divider',
  supply,
  ground: groundId,
  signal,
  ratio,
  ohms,
});
const role = (name: Extract<Trait, { type: 'role' }>['role']): Trait => ({ type: 'role', role: name });

function kind(
  base: Pick<DeviceKind, 'id' | 'name' | 'system' | 'note' | 'terminals'> & Partial<DeviceKind>,
): DeviceKind {
  return { internals: [], traits: [], perCylinder: false, shielded: false, twisted: false, twinRisk: false, ...base };
}

const pressure = (
  id: string,
  name: string,
  system: DeviceKind['system'],
  measures: 'manifold' | 'fuel' | 'oil',
  minKpa: number,
  maxKpa: number,
  reference: 'absolute' | 'gauge',
): DeviceKind =>
  kind({
    id,
    name,
    system,
    note: `Ratiometric 0.5 to 4.5 V over ${minKpa} to ${maxKpa} kPa ${reference}.`,
    terminals: [
      t('1', 'supply', five(8)),
      t('2', 'ground', sensorGround()),
      t('3', 'signal', pin({ kind: 'analog', pullUp: false })),
    ],
    internals: [divider('1', '2', '3', 0.3)],
    traits: [{ type: 'pressure', measures, minKpa, maxKpa, reference }],
  });

const ntc = (id: string, name: string, ohmsAt20: number, beta: number): DeviceKind =>
  kind({
    id,
    name,
    system: 'Cooling',
    note: `NTC thermistor, ${ohmsAt20} Ω at 20 °C; needs a pull-up; no polarity.`,
    terminals: [t('1', 'signal', pin({ kind: 'analog', pullUp: true })), t('2', 'return', sensorGround())],
    internals: [resistor('1', '2', ohmsAt20)],
    traits: [{ type: 'ntc', ohmsAt20, beta }],
    twinRisk: true,
  });

export const kinds: readonly DeviceKind[] = [
  kind({
    id: 'crank-vr',
    name: 'Crank sensor, VR two-wire',
    system: 'Trigger',
    note: 'No supply; amplitude grows with speed; polarity matters. Twisted pair in a shield earthed at the ECU.',
    terminals: [
      t('1', 'signal +', pin({ kind: 'vr', side: 'plus' }, 'vr')),
      t('2', 'signal –', pin({ kind: 'vr', side: 'minus' }, 'vr')),
    ],
    internals: [resistor('1', '2', 860)],
    traits: [{ type: 'trigger', shaft: 'crank', sensor: 'vr' }],
    shielded: true,
    twisted: true,
  }),
  kind({
    id: 'crank-hall',
    name: 'Crank sensor, Hall three-wire',
    system: 'Trigger',
    note: 'Open collector: pulls down only, needs a pull-up. Terminal order varies between variants.',
    terminals: [t('1', 'supply', five(15)), t('2', 'ground', sensorGround()), t('3', 'signal', pin({ kind: 'hall' }))],
    internals: [resistor('1', '2', 600)],
    traits: [{ type: 'trigger', shaft: 'crank', sensor: 'hall' }],
    shielded: true,
  }),
  kind({
    id: 'cam-hall',
    name: 'Cam sensor, Hall three-wire',
    system: 'Trigger',
    note: 'Open collector: pulls down only, needs a pull-up.',
    terminals: [t('1', 'supply', five(15)), t('2', 'ground', sensorGround()), t('3', 'signal', pin({ kind: 'hall' }))],
    internals: [resistor('1', '2', 600)],
    traits: [{ type: 'trigger', shaft: 'cam', sensor: 'hall' }],
    shielded: true,
  }),
  kind({
    id: 'injector-high',
    name: 'Injector, high impedance',
    system: 'Fuel',
    note: 'Saturated driver; feed and switched negative, no polarity.',
    terminals: [t('1', 'feed', feed('injectors', 1)), t('2', 'switched', pin({ kind: 'injector', amps: 1.1 }))],
    internals: [resistor('1', '2', 12.5)],
    traits: [{ type: 'injector', ohms: 12.5, flowCcPerMinute: 640, deadMilliseconds: 0.95 }],
    perCylinder: true,
    twinRisk: true,
  }),
  kind({
    id: 'injector-low',
    name: 'Injector, low impedance',
    system: 'Fuel',
    note: 'Needs a peak-and-hold driver or a ballast resistor.',
    terminals: [t('1', 'feed', feed('injectors', 2)), t('2', 'switched', pin({ kind: 'injector', amps: 2 }))],
    internals: [resistor('1', '2', 2.4)],
    traits: [{ type: 'injector', ohms: 2.4, flowCcPerMinute: 1050, deadMilliseconds: null }],
    perCylinder: true,
    twinRisk: true,
  }),
  kind({
    id: 'fuel-pump',
    name: 'Fuel pump, 12 A',
    system: 'Fuel',
    note: 'Own relay, driven by the ECU so that it stops with the engine.',
    terminals: [t('1', 'feed', feed('pump', 12)), t('2', 'ground', ground('chassis'))],
    internals: [resistor('1', '2', 1.1)],
    traits: [role('pump')],
  }),
  pressure('fuel-pressure', 'Fuel pressure sensor, 10 bar', 'Fuel', 'fuel', 0, 1000, 'gauge'),
  kind({
    id: 'flex-fuel',
    name: 'Fuel composition sensor',
    system: 'Fuel',
    note: '50 to 150 Hz for 0 to 100 % ethanol; pulse width tells the temperature.',
    terminals: [
      t('1', 'supply', feed('main', 0.1)),
      t('2', 'ground', sensorGround()),
      t('3', 'signal', pin({ kind: 'frequency', hz: 200 })),
    ],
    internals: [resistor('1', '2', 180)],
  }),
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
    traits: [
      { type: 'coil', igniter: true, primaryOhms: 0.55, inductanceMillihenry: 3.2, dwellMilliseconds: 3, serves: 1 },
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
      { type: 'coil', igniter: false, primaryOhms: 0.6, inductanceMillihenry: 3.6, dwellMilliseconds: 3.2, serves: 1 },
    ],
    perCylinder: true,
    twinRisk: true,
  }),
  kind({
    id: 'throttle-motor',
    name: 'Throttle body, motor and two tracks',
    system: 'Air and throttle',
    note: 'Motor on a half-bridge pair; two tracks that must agree.',
    terminals: [
      t('1', 'motor +', pin({ kind: 'half-bridge', side: 'plus', amps: 4 }, 'motor')),
      t('2', 'motor –', pin({ kind: 'half-bridge', side: 'minus', amps: 4 }, 'motor')),
      t('3', 'supply', five(12, 0)),
      t('4', 'ground', sensorGround(0)),
      t('5', 'track 1', pin({ kind: 'analog', pullUp: false })),
      t('6', 'track 2', pin({ kind: 'analog', pullUp: false })),
    ],
    internals: [resistor('1', '2', 2.2), divider('3', '4', '5', 0.16), divider('3', '4', '6', 0.84)],
    traits: [role('throttle')],
  }),
  kind({
    id: 'throttle-cable',
    name: 'Throttle position sensor, cable throttle',
    system: 'Air and throttle',
    note: 'Closed about 0.4 to 0.9 V, open about 3.8 to 4.6 V.',
    terminals: [
      t('1', 'supply', five(6)),
      t('2', 'ground', sensorGround()),
      t('3', 'signal', pin({ kind: 'analog', pullUp: false })),
    ],
    internals: [resistor('1', '2', 5000), divider('1', '2', '3', 0.13, 1500)],
    traits: [role('throttle')],
  }),
  kind({
    id: 'pedal',
    name: 'Pedal with two tracks',
    system: 'Air and throttle',
    note: 'Two independent tracks, separate supplies and grounds.',
    terminals: [
      t('1', 'supply 1', five(10, 0)),
      t('2', 'ground 1', sensorGround(0)),
      t('3', 'track 1', pin({ kind: 'analog', pullUp: false })),
      t('4', 'supply 2', five(10, 1)),
      t('5', 'ground 2', sensorGround(1)),
      t('6', 'track 2', pin({ kind: 'analog', pullUp: false })),
    ],
    internals: [divider('1', '2', '3', 0.16), divider('4', '5', '6', 0.08)],
    traits: [role('pedal')],
  }),
  pressure('map-3bar', 'Manifold pressure sensor, 3 bar absolute', 'Air and throttle', 'manifold', 20, 300, 'absolute'),
  pressure('map-1bar', 'Manifold pressure sensor, 1 bar absolute', 'Air and throttle', 'manifold', 10, 110, 'absolute'),
  kind({ ...ntc('iat-ntc', 'Intake air temperature, NTC', 2500, 3450), system: 'Air and throttle', twinRisk: false }),
  kind({
    id: 'boost-solenoid',
    name: 'Boost solenoid, three-port',
    system: 'Air and throttle',
    note: 'PWM about 30 Hz, low side.',
    terminals: [t('1', 'feed', feed('main', 0.5)), t('2', 'switched', pin({ kind: 'low-side', amps: 0.6, hz: 30 }))],
    internals: [resistor('1', '2', 24)],
  }),
  kind({ ...ntc('clt-ntc', 'Coolant temperature, NTC', 2500, 3450), twinRisk: false }),
  kind({
    id: 'fan',
    name: 'Radiator fan, 16 A',
    system: 'Cooling',
    note: 'Own relay and fuse for each fan.',
    terminals: [t('1', 'feed', feed('own', 16)), t('2', 'ground', ground('chassis'))],
    internals: [resistor('1', '2', 0.8)],
    traits: [role('fan')],
    twinRisk: true,
  }),
  pressure('oil-pressure', 'Oil pressure sensor, 10 bar', 'Oil and knock', 'oil', 0, 1000, 'gauge'),
  kind({
    id: 'knock',
    name: 'Knock sensor, flat response',
    system: 'Oil and knock',
    note: 'Shielded; bolt torque matters.',
    terminals: [t('1', 'signal', pin({ kind: 'knock' })), t('2', 'return', sensorGround())],
    internals: [resistor('1', '2', 1e6)],
    traits: [role('knock')],
    shielded: true,
    twisted: true,
  }),
  kind({
    id: 'wideband-volts',
    name: 'Wideband controller, 0-5 V output',
    system: 'Exhaust',
    note: 'Heater feed switched, heater ground to the power ground, signal ground to the ECU.',
    terminals: [
      t('1', 'feed', feed('main', 2)),
      t('2', 'heater ground', ground('head')),
      t('3', 'signal', pin({ kind: 'analog', pullUp: false })),
      t('4', 'signal ground', sensorGround(1)),
    ],
    internals: [resistor('1', '2', 60), resistor('3', '4', 100)],
    traits: [{ type: 'wideband', route: 'volts' }],
  }),
  kind({
    id: 'speed-hall',
    name: 'Speed sensor, Hall',
    system: 'Driver',
    note: 'Pulses per kilometre follow the shaft it sits on.',
    terminals: [
      t('1', 'supply', feed('main', 0.05)),
      t('2', 'ground', sensorGround(1)),
      t('3', 'signal', pin({ kind: 'frequency', hz: 1000 })),
    ],
    internals: [resistor('1', '2', 800)],
    traits: [role('speed')],
  }),
  kind({
    id: 'launch-button',
    name: 'Launch button',
    system: 'Driver',
    note: 'Closes to ground.',
    terminals: [t('1', 'signal', pin({ kind: 'switch' })), t('2', 'ground', ground('chassis'))],
    internals: [resistor('1', '2', 1e8)],
  }),
  kind({
    id: 'clutch-switch',
    name: 'Clutch switch',
    system: 'Start and charge',
    note: 'Interlock for starting. Wired, never bridged.',
    terminals: [t('1', 'signal', pin({ kind: 'switch' })), t('2', 'ground', ground('chassis'))],
    internals: [resistor('1', '2', 1e8)],
    traits: [role('clutch-switch')],
  }),
  kind({
    id: 'start-button',
    name: 'Start button',
    system: 'Start and charge',
    note: 'Closes to ground; the ECU drives the starter relay only with the interlock met.',
    terminals: [t('1', 'signal', pin({ kind: 'switch' })), t('2', 'ground', ground('chassis'))],
    internals: [resistor('1', '2', 1e8)],
    traits: [role('start-button')],
  }),
  kind({
    id: 'starter',
    name: 'Starter solenoid',
    system: 'Start and charge',
    note: 'Terminal 50 by relay; the heavy cable is not part of this loom.',
    terminals: [t('50', 'solenoid', feed('own', 8)), t('31', 'body', ground('head'))],
    internals: [resistor('50', '31', 1.4)],
    traits: [role('starter')],
  }),
  kind({
    id: 'alternator',
    name: 'Alternator lamp terminal',
    system: 'Start and charge',
    note: 'Excited through the warning lamp or about 470 Ω from the key feed.',
    terminals: [t('L', 'lamp', feed('key', 0.2)), t('B-', 'body', ground('head'))],
    internals: [resistor('L', 'B-', 470)],
    traits: [role('alternator')],
  }),
  kind({
    id: 'can-dash',
    name: 'Dash on CAN, 500 kbit/s',
    system: 'Bus and dash',
    note: 'Twisted pair; this dash carries one of the two 120 Ω terminations.',
    terminals: [
      t('1', 'feed', feed('key', 1)),
      t('2', 'ground', ground('chassis')),
      t('3', 'CAN H', pin({ kind: 'can', side: 'plus' }, 'can')),
      t('4', 'CAN L', pin({ kind: 'can', side: 'minus' }, 'can')),
    ],
    internals: [resistor('1', '2', 15), resistor('3', '4', 120)],
    traits: [{ type: 'can', kilobits: 500, terminated: true }],
    twisted: true,
  }),
];
