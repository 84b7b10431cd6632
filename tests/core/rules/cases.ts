import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import type { BodySignalId, DeviceKind } from '~/core/devices/kind';
import type { Pin } from '~/core/ecu/ecu';
import { deviceEnd, partEnd } from '~/core/ends/ends';
import { missingToothWheel } from '~/core/wheels/wheel';
import { isQuiet } from '~/core/loom/noise';
import { placesOf } from '~/core/tree/things';
import { demoBuild, donorWire, edited, emptyBuild, kind, twinBuild, wheel } from '../../helpers';

const demo = demoBuild();
const withPair = (pin: Pin, pair: string): Pin => ({
  ...pin,
  abilities: pin.abilities.map((ability) => ({ ...ability, pair })),
});
const twoBatteries = edited(
  demo,
  call('addFeedPart', { part: { kind: 'battery', name: 'House battery', ampereHours: 100 }, name: 'house' }),
);
const fast = edited(demo, call('addDevice', { kind: kind('can-dash-fast') }));
const logged = edited(demo, call('addDevice', { kind: kind('can-logger') }));
const withTrait = (id: string, change: (traits: DeviceKind['traits']) => DeviceKind['traits']): Build => ({
  ...demo,
  kinds: { ...demo.kinds, [id]: { ...demo.kinds[id], traits: change(demo.kinds[id].traits) } },
});
const destination = (
  deviceId: string,
  terminalId: string,
  to: Parameters<typeof call<'setDestination'>>[1]['destination'],
) => edited(demo, call('setDestination', { deviceId, terminalId, destination: to }));
const placed = (assignments: Record<string, string>): Build => ({
  ...demo,
  assignments: { ...demo.assignments, ...assignments },
});
const ecuWith = (part: Partial<Build['ecu']>): Build => ({ ...demo, ecu: { ...demo.ecu, ...part } });

/** Four pulses on the gearbox output, 4.1 : 1, 205/55 R 16: 8510 a kilometre. */
const geared = ({
  pulsesPerTurn = 4,
  ...gauge
}: { pulsesPerTurn?: number } & Partial<{ fedBy: 'ecu' | 'sensor'; pulsesPerKm: number }>) =>
  call('setSpeed', {
    speed: {
      pulsesPerTurn,
      gears: [{ name: 'Final drive', wheelSide: 4.1, sensorSide: 1 }],
      tyre: { by: 'size', widthMm: 205, aspect: 55, rimInches: 16 },
      before: null,
      gauges: gauge.fedBy ? [{ id: 'g', name: 'Speedometer', pulsesPerKm: 2485, fedBy: 'ecu', ...gauge }] : [],
    },
  });
const treed = edited(demo, call('proposeTree', { vehicle: 'car', engine: 'front' }));
const plugged = edited(
  treed,
  call('plugSegment', { segment: 'wall', metres: 0.2, name: 'Bulkhead', shell: 'bulkhead' }),
);
const holed = (millimetres: number) =>
  edited(treed, call('setSegment', { segment: 'wall', changes: { hole: { millimetres, grommet: true } } }));
/** A loom that came with the ECU, every lead of it so long. */
/** Every driver to ground catches its load's kick by a diode to the ECU's supply. */
const caught: Build = {
  ...demo,
  ecu: {
    ...demo.ecu,
    pins: demo.ecu.pins.map((pin) => ({
      ...pin,
      abilities: pin.abilities.map((one) => (one.kind === 'low-side' ? { ...one, catches: true } : one)),
    })),
  },
};
/** The donor's coolant signal, in that condition, is moved to the pin of the sensor. */
const donorAt = (condition: string) => {
  const [donor] = Object.values(demo.survey.donor);
  return edited(
    demo,
    call('editDonorWires', {
      ids: [donor.id],
      fields: { condition, decision: 'move', moveTo: demo.assignments['clt-ntc-1.1']! },
    }),
  );
};
const leads = (leadMetres: number): Build => ({
  ...edited(demo, call('setLoom', { origin: 'flying-lead', leadMetres })),
  ecu: { ...demo.ecu, pins: demo.ecu.pins.map((pin) => ({ ...pin, lead: { colour: 'WH' } })) },
});
/** So many coil grounds brought to one bolt. */
const bolted = (count: number) =>
  edited(
    demo,
    call('addFeedPart', { part: { kind: 'ground', name: 'Head bolt', on: 'engine' }, name: 'bolt' }),
    ...Array.from({ length: count }, (_, i) =>
      call('moveReturn', {
        end: deviceEnd(`coil-igniter-${(i % 5) + 1}`, i < 5 ? 'B' : 'D'),
        to: partEnd('ground', 'bolt'),
      }),
    ),
  );
const joinedInjectors = (needId: string, leadId: string) => edited(demo, call('joinOutput', { needId, leadId }));

const plugWith = (...signals: BodySignalId[]) =>
  call('setBodyPlug', {
    deviceId: null,
    name: 'Bulkhead plug',
    cavities: signals.map((signal, index) => ({ cavity: String(index + 1), colour: '', signal, note: '' })),
    pulsesPerTurn: 2.5,
    drive: 'low-side',
  });
const donor = (...wires: Parameters<typeof donorWire>[0][]) => call('addDonorWires', { wires: wires.map(donorWire) });
const moved = donor({ id: 'w1', decision: 'move', moveTo: 'A4' }, { id: 'w2', row: 1, decision: 'move', moveTo: 'a4' });

const v6 = emptyBuild(6);
const banked = edited(
  v6,
  call('setEngine', {
    engine: {
      ...v6.engine,
      banks: [
        [1, 3, 5],
        [2, 4, 6],
      ],
      bankDegrees: 60,
    },
  }),
  call('addDevice', { kind: kind('wideband-volts') }),
  call('addDevice', { kind: kind('wideband-volts') }),
);

/** A build that breaks each rule, and one that keeps it where the demo itself does not. */
/** Trigger and knock on a plan of their own, away from the rest, each by a piece from the ECU that nothing else lies in. */
const apartFromLoud = ((): Build => {
  const places = placesOf(treed.tree);
  const ecuNode = places.get('ecu')!;
  const quiet = treed.devices.filter(({ kindId }) => isQuiet(treed.kinds[kindId]!));
  return quiet.reduce((build, { id }, at): Build => {
    const node = `quiet-${at}`;
    const nodes = Object.fromEntries(
      Object.entries(build.tree.nodes).map(([name, one]) => [
        name,
        { ...one, holds: one.holds.filter((thing) => thing !== `dev:${id}`) },
      ]),
    );
    return {
      ...build,
      tree: {
        ...build.tree,
        nodes: { ...nodes, [node]: { kind: 'tail', name: '', at: { x: 30, y: 30 + at }, holds: [`dev:${id}`] } },
        segments: {
          ...build.tree.segments,
          [node]: { a: ecuNode, b: node, metres: 1, measured: true, zone: 'engine' },
        },
      },
    };
  }, treed);
})();

export const cases: Record<string, { bad: Build; good?: Build }> = {
  'PL-1': { bad: edited(demo, call('unassign', { needId: 'clt-ntc-1.1' })) },
  'PL-2': { bad: placed({ 'clt-ntc-1.1': 'A18' }) },
  'PL-3': { bad: placed({ 'relay-fan-1.85': 'A8' }) },
  'PL-4': {
    bad: {
      ...demo,
      ecu: { ...demo.ecu, pins: demo.ecu.pins.map((pin) => (pin.id === 'B2' ? withPair(pin, 'vr-9') : pin)) },
    },
  },
  'PL-13': {
    bad: edited(
      demo,
      ...['clt-ntc-1', 'fuel-pump-1'].flatMap((deviceId) =>
        demo.devices.some(({ id }) => id === deviceId) ? [call('removeDevice', { deviceId })] : [],
      ),
    ),
  },
  'PW-21': {
    // 16 A run through a fuse of 20 A for good; 64 A as the fan starts do not pass one of 10 A.
    bad: edited(demo, call('setCircuit', { circuitId: 'fan-1', choice: { fuseAmps: 10 } })),
  },
  'PW-22': {
    bad: edited(demo, call('setPower', { alternatorAmps: 55 })),
    good: edited(demo, call('setPower', { alternatorAmps: 110 })),
  },
  'PW-23': {
    // A battery of a moped before a car's engine.
    bad: edited(demo, call('setPower', { batteryAh: 3 }), call('setSite', { ...demo.site, ambientCelsius: -30 })),
  },
  'PW-24': {
    bad: edited(twinBuild(), call('hangLoad', { end: 'dev:alternator-1.L', from: 'fuse:key.2' })),
    good: twinBuild(),
  },
  'PW-25': {
    bad: edited(caught, call('hangLoad', { end: 'dev:boost-solenoid-1.1', from: 'fuse:permanent.2' })),
    good: caught,
  },
  'PW-13': { bad: edited(demo, call('setPower', { charging: 'none' })) },
  'PL-5': { bad: demo, good: edited(demo, call('setReserve', { kind: 'any', count: 1 })) },
  'PL-7': {
    bad: {
      ...edited(
        emptyBuild(4, 'orrery-94'),
        call('addDevice', { kind: kind('boost-solenoid') }),
        call('addDevice', { kind: kind('idle-three-wire') }),
      ),
      assignments: { 'boost-solenoid-1.2': 'B6', 'idle-three-wire-1.1': 'B7' },
    },
    good: {
      ...edited(
        emptyBuild(4, 'orrery-94'),
        call('addDevice', { kind: kind('boost-solenoid') }),
        call('addDevice', { kind: kind('idle-three-wire') }),
      ),
      assignments: { 'boost-solenoid-1.2': 'B6', 'idle-three-wire-1.1': 'B5' },
    },
  },
  'PL-8': {
    bad: {
      ...demo,
      ecu: { ...demo.ecu, groups: [{ type: 'budget', name: 'outputs 1 to 3', pins: ['A6', 'A7', 'A8'], amps: 0.1 }] },
    },
    good: {
      ...demo,
      ecu: { ...demo.ecu, groups: [{ type: 'budget', name: 'outputs 1 to 3', pins: ['A6', 'A7', 'A8'], amps: 4 }] },
    },
  },
  'PL-9': {
    bad: {
      ...demo,
      ecu: { ...demo.ecu, groups: [{ type: 'either', name: 'VR or Hall', sides: [['B1', 'B2'], ['B3']] }] },
    },
    good: {
      ...demo,
      ecu: { ...demo.ecu, groups: [{ type: 'either', name: 'VR or spare', sides: [['B1', 'B2'], ['A16']] }] },
    },
  },
  'PL-10': {
    bad: { ...demo, never: [{ needId: null, pinId: demo.assignments['clt-ntc-1.1'] }] },
    good: { ...demo, never: [{ needId: 'clt-ntc-1.1', pinId: 'A16' }] },
  },
  'PL-11': {
    bad: edited(
      demo,
      call('crimp', { wireIds: ['dev:coil-igniter-1.C~ecu:A16'], at: '2026-03-01T10:00:00.000Z', by: 'AB' }),
    ),
    good: edited(
      demo,
      call('crimp', { wireIds: ['dev:coil-igniter-1.C~ecu:A11'], at: '2026-03-01T10:00:00.000Z', by: 'AB' }),
    ),
  },
  'PL-6': { bad: edited(demo, call('assign', { needId: 'relay-fan-1.85', pinId: 'A8' })) },
  'PL-12': {
    bad: edited(
      demo,
      call('recordReading', {
        testId: 'c|ecu:A11|dev:coil-igniter-1.C',
        reading: { value: null, at: '2026-03-01T10:00:00.000Z', by: 'AB', note: '', title: 'A11' },
      }),
    ),
    good: edited(
      emptyBuild(4),
      call('addDevice', { kind: kind('clt-ntc') }),
      call('allotAll', { keep: 'locked' }),
      call('recordReading', {
        testId: 'c|ecu:B9|dev:clt-ntc-1.1',
        reading: { value: 0.2, at: '2026-03-01T10:00:00.000Z', by: 'AB', note: '', title: 'B9' },
      }),
    ),
  },
  'SE-14': {
    bad: placed({
      'map-3bar-1.3': demo.assignments['oil-pressure-1.3'],
      'oil-pressure-1.3': demo.assignments['map-3bar-1.3'],
    }),
    good: demo,
  },
  'OE-1': { bad: edited(demo, call('setOutputOrder', { outputOrder: 'in-turn' })) },
  'OE-2': { bad: edited(demo, call('setWheel', { shaft: 'cam', wheel: null })) },
  'OE-3': {
    bad: edited(
      emptyBuild(4),
      call('addDevice', { kind: kind('coil-wasted-igniter'), perCylinder: true }),
      call('editDevice', { deviceId: 'coil-wasted-igniter-1', serves: [1, 3] }),
    ),
    good: edited(emptyBuild(4), call('addDevice', { kind: kind('coil-wasted-igniter'), perCylinder: true })),
  },
  'OE-4': {
    bad: edited(emptyBuild(4), call('addDevice', { kind: kind('coil-bare') })),
    good: edited(emptyBuild(4, 'orrery-94'), call('addDevice', { kind: kind('coil-bare') })),
  },
  'OE-5': { bad: edited(demo, call('setTrigger', { dwellMilliseconds: 18 })) },
  'OE-6': { bad: edited(demo, call('removeDevice', { deviceId: 'coil-igniter-3' })) },
  'OE-7': { bad: edited(emptyBuild(4), call('addDevice', { kind: kind('injector-low') })) },
  'OE-8': { bad: edited(emptyBuild(4), call('addDevice', { kind: kind('injector-low') })) },
  'OE-9': { bad: placed({ 'coil-igniter-1.C': 'A16' }) },
  'OE-14': {
    bad: joinedInjectors('injector-high-1.2', 'injector-high-2.2'),
    good: edited(
      joinedInjectors('injector-high-1.2', 'injector-high-2.2'),
      call('setEngine', { engine: { ...demo.engine, injection: 'batch' } }),
    ),
  },
  'OE-13': {
    bad: edited(emptyBuild(4), call('addDevice', { kind: kind('coil-wasted-igniter'), perCylinder: true })),
    good: edited(
      emptyBuild(4),
      call('addDevice', { kind: kind('coil-wasted-igniter'), perCylinder: true }),
      call('setEngine', { engine: { ...emptyBuild(4).engine, ignition: 'wasted' } }),
    ),
  },
  'OE-12': {
    bad: edited(demo, call('setWheel', { shaft: 'cam', wheel: null })),
    good: edited(
      demo,
      call('setWheel', { shaft: 'cam', wheel: null }),
      call('setEngine', { engine: { ...demo.engine, ignition: 'wasted' } }),
    ),
  },
  'TR-1': { bad: edited(demo, call('setWheel', { shaft: 'crank', wheel: missingToothWheel(240, 2) })) },
  'TR-2': { bad: edited(emptyBuild(4, 'orrery-26'), call('addDevice', { kind: kind('crank-vr') })) },
  'TR-3': {
    bad: ecuWith({
      pins: demo.ecu.pins.map((pin) => (pin.id === 'B3' ? { ...pin, abilities: [{ kind: 'hall' as const }] } : pin)),
    }),
  },
  'TR-4': { bad: edited(demo, call('editDevice', { deviceId: 'crank-vr-1', shield: 'both-ends' })) },
  'TR-5': {
    bad: demo,
    good: edited(
      demo,
      call('editDevice', { deviceId: 'crank-vr-1', terminalsConfirmed: true }),
      call('editDevice', { deviceId: 'cam-hall-1', terminalsConfirmed: true }),
    ),
  },
  'TR-6': {
    bad: demo,
    good: edited(demo, call('readLight', { at: '2026-03-01T10:00:00.000Z', rpm: 250, seenDegrees: 10 })),
  },
  'TR-7': {
    bad: edited(demo, call('setWheel', { shaft: 'crank', wheel: wheel('36-1') }), call('setTrigger', { ripple: 0.4 })),
  },
  'TR-8': { bad: edited(demo, call('removeDevice', { deviceId: 'cam-hall-1' })) },
  'SE-1': { bad: placed({ 'clt-ntc-1.1': 'B11' }) },
  'SE-2': { bad: destination('clt-ntc-1', '2', { to: 'ground', place: 'chassis' }) },
  'SE-3': { bad: edited(demo, call('setEngine', { engine: { ...demo.engine, boostKpa: 260 } })) },
  'SE-4': { bad: edited(demo, ...Array.from({ length: 8 }, () => call('addDevice', { kind: kind('oil-pressure') }))) },
  'SE-5': { bad: destination('pedal-1', '4', { to: 'supply-5v', milliamps: 10, bank: 0 }) },
  'SE-6': { bad: destination('wideband-volts-1', '1', { to: 'feed', feed: 'permanent', amps: 2 }) },
  'SE-7': { bad: edited(demo, call('editDevice', { deviceId: 'knock-1', shield: 'none' })) },
  'SE-15': {
    bad: {
      ...demo,
      ecu: {
        ...demo.ecu,
        pins: demo.ecu.pins.map((pin) =>
          pin.abilities[0].kind === 'sensor-ground' ? { ...pin, abilities: [{ kind: 'switch' as const }] } : pin,
        ),
      },
    },
  },
  'SE-16': {
    bad: banked,
    good: edited(
      banked,
      call('editDevice', { deviceId: 'wideband-volts-1', bank: 1 }),
      call('editDevice', { deviceId: 'wideband-volts-2', bank: 2 }),
    ),
  },
  'SE-17': {
    bad: edited(demo, call('addDevice', { kind: kind('manifold-hose') })),
    good: {
      ...edited(demo, call('addDevice', { kind: kind('manifold-hose') })),
      ecu: { ...demo.ecu, inside: { manifoldKpa: 400 } },
    },
  },
  'SE-8': {
    bad: edited(
      demo,
      call('setEcuCurve', {
        sensorId: 'map-3bar-1.3',
        setting: {
          name: '2.5 bar',
          curve: {
            method: 'linear',
            points: [
              { signal: 0.5, value: 20 },
              { signal: 4.5, value: 250 },
            ],
          },
        },
      }),
    ),
  },
  'SE-9': { bad: edited(demo, call('setPullUp', { deviceId: 'clt-ntc-1', ohms: 2490 })) },
  'SE-10': {
    bad: edited(
      demo,
      call('recordSensing', {
        sensorId: 'map-3bar-1.3',
        reading: { atPin: 0, shown: null, at: '2026-03-01T10:00:00.000Z', by: '' },
      }),
    ),
    good: edited(
      demo,
      call('recordSensing', {
        sensorId: 'map-3bar-1.3',
        reading: { atPin: 1.6, shown: 96, at: '2026-03-01T10:00:00.000Z', by: '' },
      }),
    ),
  },
  'SE-11': {
    bad: edited(
      emptyBuild(4, 'orrery-94'),
      call('addDevice', { kind: kind('egt-k') }),
      call('editDevice', { deviceId: 'egt-k-1', leadWire: 'copper' }),
    ),
    good: edited(emptyBuild(4, 'orrery-94'), call('addDevice', { kind: kind('egt-k') })),
  },
  'SE-12': {
    bad: withTrait('pedal', (traits) => traits.filter((one) => one.type !== 'sensor' || one.terminal !== '6')),
  },
  'SE-13': {
    bad: demo,
    good: edited(
      demo,
      ...demo.devices.map((device) => call('editDevice', { deviceId: device.id, terminalsConfirmed: true })),
    ),
  },
  'OE-10': {
    bad: edited(demo, call('setFuel', { powerKw: 900 })),
    good: edited(demo, call('setFuel', { powerKw: 200 })),
  },
  'OE-11': {
    bad: edited(
      emptyBuild(4),
      call('addDevice', {
        kind: {
          ...kind('igniter-1'),
          traits: [{ type: 'igniter', channels: [{ input: 'I1', output: 'O1' }], maxAmps: 4 }],
        },
      }),
      call('addDevice', { kind: kind('coil-bare') }),
      call('setDestination', {
        deviceId: 'coil-bare-1',
        terminalId: '1',
        destination: { to: 'line', line: 'spark-1' },
      }),
    ),
    good: edited(
      emptyBuild(4),
      call('addDevice', { kind: kind('igniter-1') }),
      call('addDevice', { kind: kind('coil-bare') }),
      call('setDestination', {
        deviceId: 'coil-bare-1',
        terminalId: '1',
        destination: { to: 'line', line: 'spark-1' },
      }),
    ),
  },
  'BB-7': {
    bad: edited(emptyBuild(4), call('addDevice', { kind: kind('alternator') }), plugWith('charge-lamp', 'oil-lamp')),
    good: edited(emptyBuild(4), plugWith('oil-lamp'), call('addDevice', { kind: kind('oil-switch') })),
  },
  'BB-8': {
    bad: edited(
      demo,
      plugWith('temperature-gauge'),
      call('setDestination', {
        deviceId: 'clt-ntc-1',
        terminalId: '1',
        destination: { to: 'line', line: 'temperature-gauge' },
      }),
    ),
    good: edited(demo, plugWith('temperature-gauge'), call('addDevice', { kind: kind('gauge-sender-temperature') })),
  },
  'BB-9': {
    bad: edited(demo, call('addDevice', { kind: kind('tachometer-logic') })),
    good: edited(demo, plugWith('tachometer')),
  },
  'BB-10': {
    bad: demo,
    good: edited(emptyBuild(4), donor({ id: 'w1', function: 'Airbox temperature', connector: 'Yellow plug' })),
  },
  'BB-11': { bad: edited(demo, plugWith('immobiliser')) },
  'BB-12': { bad: demo, good: edited(emptyBuild(4), plugWith('ground')) },
  'BB-13': {
    bad: edited(
      demo,
      donor({ id: 'w1', splice: 'S1', decision: 'keep' }, { id: 'w2', row: 1, splice: 's1 ', decision: 'remove' }),
    ),
    good: edited(
      demo,
      donor({ id: 'w1', splice: 'S1', decision: 'keep' }, { id: 'w2', row: 1, splice: 'S2', decision: 'remove' }),
    ),
  },
  'BB-14': { bad: edited(demo, moved) },
  'BB-15': { bad: destination('alternator-1', 'L', { to: 'nothing' }) },
  'PW-1': {
    bad: edited(
      demo,
      call('setCircuit', { circuitId: 'fan-1', choice: { fuseAmps: 40 } }),
      call('setCircuit', { circuitId: 'fan-1', choice: { squareMm: 1 } }),
    ),
  },
  'PW-2': { bad: edited(demo, call('setCircuit', { circuitId: 'pump', choice: { fuseAmps: 10 } })) },
  'PW-3': { bad: edited(demo, call('setCircuit', { circuitId: 'pump', choice: { squareMm: 1.5 } })) },
  'PW-4': { bad: edited(demo, call('setCircuit', { circuitId: 'main', choice: { fuseDistanceMetres: 1.5 } })) },
  'PW-5': {
    bad: ecuWith({
      pins: demo.ecu.pins.map((pin) =>
        pin.id === 'A9' ? { ...pin, abilities: [{ kind: 'low-side' as const, maxAmps: 0.3, maxHz: 1000 }] } : pin,
      ),
    }),
  },
  'PW-6': {
    bad: edited(demo, call('setCircuit', { circuitId: 'pump', choice: { relay: 'diode', winding: 'reversed' } })),
  },
  'PW-7': {
    bad: demo,
    good: edited(
      demo,
      call('setCircuit', { circuitId: 'main', choice: { relay: 'diode' } }),
      call('setCircuit', { circuitId: 'coils', choice: { relay: 'diode' } }),
      call('setCircuit', { circuitId: 'injectors', choice: { relay: 'diode' } }),
    ),
  },
  'PW-8': { bad: ecuWith({ groundsAsked: 4 }) },
  'PW-9': { bad: destination('coil-igniter-2', 'B', { to: 'sensor-ground', bank: 0 }) },
  'PW-10': { bad: edited(demo, call('setCircuit', { circuitId: 'pump', choice: { switchedBy: 'key' } })) },
  'PW-14': {
    bad: edited(demo, call('linkFeed', { from: 'bat:+', to: 'dev:flex-fuel-1.1' })),
  },
  'PW-15': {
    bad: edited(
      demo,
      call('hangLoad', { end: 'dev:fan-2.1', from: 'relay:fan-1.87' }),
      call('setFeedPart', { partId: 'relay:fan-1', changes: { contactAmps: 30 } }),
    ),
  },
  'PW-16': {
    bad: edited(demo, call('setFeedPart', { partId: 'relay:main', changes: { control: 'need' } })),
  },
  'PW-17': { bad: edited(demo, call('unlinkFeed', { linkId: 'dev:fan-1.1~relay:fan-1.87' })) },
  'PW-18': {
    bad: edited(demo, call('setWire', { wireId: 'dev:fan-1.2~gnd:chassis', squareMm: 0.5 })),
  },
  'PW-19': {
    bad: edited(
      demo,
      call('addFeedPart', {
        part: { kind: 'tap', name: 'Socket feed', live: 'run', amps: 5, fused: true },
        name: 'socket',
      }),
      call('hangLoad', { end: 'dev:fan-1.1', from: 'tap:socket' }),
    ),
    good: edited(
      demo,
      call('addFeedPart', {
        part: { kind: 'tap', name: 'Socket feed', live: 'run', amps: 20, fused: true },
        name: 'socket',
      }),
      call('hangLoad', { end: 'dev:fan-1.1', from: 'tap:socket' }),
    ),
  },
  'PW-26': { bad: edited(demo, call('setWire', { wireId: 'dev:fan-1.2~gnd:chassis', squareMm: 0.5 })) },
  'PW-27': {
    bad: edited(twoBatteries, call('linkFeed', { from: 'bat:+', to: 'bat:house', metres: 2 })),
    good: edited(
      twoBatteries,
      call('addFeedPart', { part: { kind: 'fuse', name: 'Link' }, name: 'near' }),
      call('addFeedPart', { part: { kind: 'fuse', name: 'Link, far end' }, name: 'far' }),
      call('linkFeed', { from: 'bat:+', to: 'fuse:near.1', metres: 0.2 }),
      call('linkFeed', { from: 'fuse:near.2', to: 'fuse:far.1', metres: 2 }),
      call('linkFeed', { from: 'fuse:far.2', to: 'bat:house', metres: 0.2 }),
    ),
  },
  'PW-28': { bad: edited(demo, call('setPower', { starterCable: { metres: 4 } })) },
  'PW-29': {
    bad: edited(
      demo,
      call('unlinkFeed', { linkId: 'relay:fan-1.86~splice:windings' }),
      call('linkFeed', { from: 'relay:fan-1.87', to: 'relay:fan-1.86' }),
    ),
  },
  'PW-30': {
    // Open, 12 V stand at 30 and pull the winding in; the fan of 0.8 ohm then leaves it 12 x 0.8 / 5.8 = 1.7 V, under the 3 that hold it.
    bad: edited(
      demo,
      call('insertInFeed', {
        linkId: 'fuse:fan-1.2~relay:fan-1.30',
        part: { kind: 'resistor', name: 'Bad joint', ohms: 5 },
      }),
      call('unlinkFeed', { linkId: 'relay:fan-1.86~splice:windings' }),
      call('linkFeed', { from: 'relay:fan-1.30', to: 'relay:fan-1.86' }),
    ),
  },
  'PW-31': { bad: edited(demo, call('setCircuit', { circuitId: 'fan-1', choice: { lengthMetres: 0 } })) },
  'PW-32': {
    bad: edited(demo, call('fitMasterSwitch', { amps: 300 })),
    good: edited(
      demo,
      call('fitMasterSwitch', { amps: 300 }),
      call('unlinkFeed', { linkId: 'fuse:key.2~splice:key' }),
      call('linkFeed', { from: 'fuse:key.2', to: 'switch:master.3' }),
      call('linkFeed', { from: 'switch:master.4', to: 'splice:key' }),
    ),
  },
  'PW-20': {
    bad: edited(demo, call('addFeedPart', { part: { kind: 'busbar', name: 'Post' } })),
  },
  'PW-11': { bad: edited(demo, call('removeDevice', { deviceId: 'alternator-1' })) },
  'PW-12': {
    bad: edited(
      demo,
      call('setDestination', { deviceId: 'coil-igniter-1', terminalId: 'B', destination: { to: 'nothing' } }),
      call('setDestination', { deviceId: 'coil-igniter-1', terminalId: 'D', destination: { to: 'nothing' } }),
    ),
  },
  'LO-1': { bad: edited(demo, call('setLoom', { holeMillimetres: 10 })) },
  'LO-2': { bad: edited(demo, call('setLoom', { zoneCelsius: 130, wireCelsius: 125 })) },
  'LO-3': {
    bad: edited(demo, call('setLoom', { covering: 'sealed' })),
    good: edited(demo, call('setLoom', { covering: 'sealed' }), call('setReserve', { kind: 'any', count: 1 })),
  },
  'LO-4': {
    bad: edited(
      demo,
      call('setWire', { wireId: 'dev:coil-igniter-1.C~ecu:A11', colour: 'WH/BK' }),
      call('setWire', { wireId: 'dev:coil-igniter-2.C~ecu:A12', colour: 'WH/BK' }),
    ),
  },
  'LO-5': { bad: demo, good: edited(demo, call('setLoom', { blanksFitted: true })) },
  'LO-6': { bad: edited(demo, call('setWire', { wireId: 'dev:coil-igniter-1.C~ecu:A11', squareMm: 4 })) },
  'LO-7': { bad: edited(demo, call('setLoom', { slackMetres: 0 })) },
  'LO-8': {
    bad: demo,
    good: edited(
      demo,
      call('editDevice', { deviceId: 'fan-1', labelled: true }),
      call('editDevice', { deviceId: 'fan-2', labelled: true }),
    ),
  },
  'LO-9': { bad: edited(treed, call('standAt', { thing: 'dev:crank-vr-1', node: 'coils' })), good: apartFromLoud },
  'LO-10': {
    bad: edited(treed, call('removeSegment', { segment: 'rear' })),
    good: treed,
  },
  'LO-11': {
    bad: edited(
      plugged,
      call('setCavity', { node: 'plug', wireId: Object.keys(plugged.tree.nodes.plug!.plug!.wires)[0]!, cavity: null }),
    ),
    good: plugged,
  },
  'LO-12': { bad: holed(12), good: holed(90) },
  'LO-13': {
    bad: edited(
      treed,
      ...['splice:coils', 'splice:injectors', 'splice:main', 'splice:key', 'splice:B5', 'splice:B6'].map((thing) =>
        call('standAt', { thing, node: 'outside' }),
      ),
    ),
    good: treed,
  },
  'LO-14': {
    bad: edited(treed, call('setLoom', { slackMetres: 0.06 })),
    good: treed,
  },
  'LO-15': { bad: edited(treed, call('setSegment', { segment: 'trunk', changes: { zone: 'wet' } })), good: treed },
  'LO-16': {
    bad: bolted(6),
    good: bolted(3),
  },
  'LO-17': {
    bad: leads(1.2),
    good: leads(6),
  },
  'LO-18': {
    bad: edited(treed, call('setSegment', { segment: 'wall', changes: { hole: { millimetres: 60, grommet: false } } })),
    good: edited(treed, call('setSegment', { segment: 'wall', changes: { hole: { millimetres: 60, grommet: true } } })),
  },
  'LO-19': {
    bad: donorAt('brittle'),
    good: donorAt('good'),
  },
  'BB-17': {
    bad: edited(demo, geared({ fedBy: 'sensor' })),
    good: edited(demo, geared({ fedBy: 'sensor', pulsesPerKm: 8510 })),
  },
  'BB-18': {
    bad: edited(demo, geared({})),
    good: edited(demo, geared({ pulsesPerTurn: 2.257 })),
  },
  'BB-19': {
    bad: edited(demo, geared({ pulsesPerTurn: 400 })),
    good: edited(demo, geared({})),
  },
  'BB-16': {
    bad: edited(
      logged,
      call('setBus', {
        bus: { ...logged.buses[0], members: ['can-logger-1', 'can-dash-1'], stubs: { 'can-logger-1': 1.4 } },
      }),
    ),
    good: edited(
      logged,
      call('setBus', {
        bus: { ...logged.buses[0], members: ['can-logger-1', 'can-dash-1'], stubs: { 'can-logger-1': 0.5 } },
      }),
    ),
  },
  'BB-1': { bad: withTrait('can-dash', () => [{ type: 'can', kilobits: 500, terminated: false }]) },
  'BB-2': {
    bad: edited(fast, call('setBus', { bus: { ...demo.buses[0], members: ['can-dash-1', 'can-dash-fast-1'] } })),
    good: fast,
  },
  'BB-3': { bad: edited(demo, call('removeDevice', { deviceId: 'clutch-switch-1' })) },
  'BB-4': { bad: edited(demo, call('removeDevice', { deviceId: 'start-button-1' })) },
  'BB-5': {
    bad: logged,
    good: edited(logged, call('setBus', { bus: { ...demo.buses[0], members: ['can-logger-1', 'can-dash-1'] } })),
  },
  'BB-6': {
    bad: {
      ...demo,
      ecu: { ...demo.ecu, pins: demo.ecu.pins.map((pin) => (pin.id === 'A26' ? withPair(pin, 'can-9') : pin)) },
    },
  },
};
