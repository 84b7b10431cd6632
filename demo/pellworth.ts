import { catalog, entry } from '~/catalog';
import { createBuild } from '~/core/edits/create';
import { call, type EditCall } from '~/core/edits';
import type { Build, Reading } from '~/core/build/schema';
import { partId } from '~/core/ends/ends';
import { netlist } from '~/core/netlist/netlist';
import { proveTests } from '~/core/prove/tests';
import { donorLoom } from './donor';
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

/** What hangs on the car itself: one plug at the bulkhead, and the two senders its dash wants. */
const body: EditCall[] = [
  call('setBodyPlug', {
    deviceId: null,
    name: 'Bulkhead plug',
    cavities: [
      { cavity: '1', colour: 'BK/YE', signal: 'key-feed', note: '' },
      { cavity: '2', colour: 'BU', signal: 'oil-lamp', note: '' },
      { cavity: '3', colour: 'BU/BK', signal: 'charge-lamp', note: '' },
      { cavity: '4', colour: 'YE/VT', signal: 'temperature-gauge', note: '' },
      { cavity: '5', colour: 'WH/BK', signal: 'reverse-light', note: '' },
      { cavity: '6', colour: 'BN', signal: 'ground', note: '' },
      { cavity: '7', colour: 'PK', signal: 'unknown', note: '5 V with the key on' },
    ],
    pulsesPerTurn: 2.5,
    drive: 'low-side',
    branchMetres: 0.7,
  }),
  add('oil-switch', 'Oil switch', 2.0),
  add('gauge-sender-temperature', 'Gauge sender', 1.6),
  add('reverse-switch', 'Reverse switch', 2.4),
  call('setDestination', {
    deviceId: 'alternator-1',
    terminalId: 'L',
    destination: { to: 'line', line: 'charge-lamp' },
  }),
];

const day = (date: number) => `2026-09-${String(date).padStart(2, '0')}`;
/** What was found and noted on the way. */
const found: EditCall[] = [
  donorLoom(),
  call('setIdentify', {
    crankPlace: 'flywheel',
    crankWires: 2,
    crankOhms: 860,
    crankGap: 'one',
    crankTeeth: 58,
    crankGapWidth: 2,
    camTerminals: '3',
    camShape: 'one',
    camTeeth: 1,
    coilCount: 5,
    coilTowers: 1,
    coilTerminals: 4,
    injectorCount: 5,
    injectorOhms: 12.5,
    headMarks: 'cast 5H-7 beside the filler',
    blockMarks: 'stamped 23 and a triangle',
  }),
  call('putQuestion', {
    question: {
      id: 'q-1',
      text: 'Which cavity of the coil plug is the logic trigger?',
      to: 'the coil supplier',
      askedOn: day(1),
      answer: 'C, third from the key. B and D are both ground.',
      answeredOn: day(3),
      about: '',
    },
  }),
  call('putQuestion', {
    question: {
      id: 'q-2',
      text: 'What is the pink wire at the bulkhead plug, cavity 7?',
      to: '',
      askedOn: day(4),
      answer: '',
      answeredOn: null,
      about: '',
    },
  }),
  call('putPart', {
    part: {
      id: 'p-1',
      item: 'Sealed terminals, 0.5 to 1 mm²',
      from: 'connector shop',
      count: 80,
      costEach: 0.42,
      state: 'here',
    },
  }),
  call('putPart', {
    part: { id: 'p-2', item: 'Blank plugs', from: 'connector shop', count: 12, costEach: 0.2, state: 'ordered' },
  }),
  call('putPart', {
    part: { id: 'p-3', item: 'Shielded pair, 3 m', from: '', count: 1, costEach: null, state: 'to-order' },
  }),
  call('putHours', { entry: { id: 'h-1', day: day(1), hours: 3.5, what: 'de-loomed, listed the plugs' } }),
  call('putHours', { entry: { id: 'h-2', day: day(3), hours: 2, what: 'counted teeth, measured sensors' } }),
  call('putHours', { entry: { id: 'h-3', day: day(5), hours: 4.5, what: 'first bench session' } }),
  call('setFuel', { powerKw: 235, bsfc: 330 }),
];
/** Plugs as they were drawn with the part in hand, and what the bag of the coils' terminals says. */
const faces: EditCall[] = [
  call('setFace', {
    kindId: 'crank-vr',
    face: { rows: [2], maxSquareMm: 1, sealed: true, cavities: { 1: 1, 2: 2 }, keys: [{ edge: 'top', at: 0.5 }] },
  }),
  call('setFace', {
    kindId: 'coil-igniter',
    face: {
      rows: [4],
      numbering: { from: 'top-right', along: 'rows', turning: false },
      maxSquareMm: 2.5,
      sealed: true,
      cavities: { A: 1, B: 2, C: 3, D: 4 },
      keys: [{ edge: 'top', at: 0.25 }],
    },
  }),
  call('setTerminal', {
    plug: 'kind',
    id: 'coil-igniter',
    terminal: {
      name: 'tin, 2.8 mm',
      stripMillimetres: 4.5,
      tool: 'ratchet pliers, nest 2',
      crimps: [
        { squareMm: 0.35, heightMillimetres: 0.95 },
        { squareMm: 0.75, heightMillimetres: 1.15 },
        { squareMm: 1.5, heightMillimetres: 1.4 },
      ],
    },
  }),
];
/** The box in the engine bay; the rest hangs in sockets of their own. */
const frontBox: EditCall[] = [
  call('addFeedBox', { box: { name: 'Front box', place: 'left inner wing', columns: 6 }, name: 'front' }),
  ...['main', 'coils', 'injectors', 'pump', 'fan-1', 'fan-2'].flatMap((name) =>
    [partId('fuse', name), partId('relay', name)].map((id) =>
      call('setFeedPart', { partId: id, changes: { box: 'front' } }),
    ),
  ),
];
/** Key-on readings of the first evening: two right, and a coolant sensor the ECU knows by another table. */
const readings: EditCall[] = [
  call('recordSensing', {
    sensorId: 'map-3bar-1.3',
    reading: { atPin: 1.61, shown: 97.2, at: minutesAfter(200), by: 'MP' },
  }),
  call('recordSensing', {
    sensorId: 'iat-ntc-1.1',
    reading: { atPin: 2.61, shown: 18.4, at: minutesAfter(203), by: 'MP' },
  }),
];

/** The loom as it lies in the car: the trunk measured with a string, a plug on the wall, and the coils as a loom of their own. */
const laid: EditCall[] = [
  call('proposeTree', { vehicle: 'car', engine: 'front' }),
  ...(
    [
      ['trunk', 0.4],
      ['wall', 0.45],
      ['box', 0.55],
      ['battery', 0.2],
      ['top', 0.26],
      ['coils', 0.52],
      ['injectors', 0.5],
    ] as const
  ).map(([segment, metres]) => call('setSegment', { segment, changes: { metres } })),
  call('plugSegment', { segment: 'wall', metres: 0.2, name: 'Wall plug', shell: 'bulkhead', id: 'wall-plug' }),
  call('plugSegment', { segment: 'coils', metres: 0.12, name: 'Coil plug', shell: 'in-line', id: 'coil-plug' }),
  call('setPlug', { node: 'wall-plug', changes: { shellMillimetres: 46, bareMillimetres: 34 } }),
  call('setSegment', { segment: 'coils', changes: { covering: 'braid' } }),
];

/** Readings of a first bench session: most of connector A, one of them a bad crimp. */
function benchSession(build: Build): EditCall[] {
  const tests = proveTests(build, netlist(build)).filter((test) => test.kind !== 'order' && /^ecu:A\d/.test(test.hold));
  const poor = tests.filter((test) => test.kind === 'continuity')[9];
  return tests.slice(0, 58).map((test, index) => {
    const value =
      test.kind === 'isolation'
        ? null
        : Math.round(((test.expected ?? 0) + build.prove.leadOhms + (test === poor ? 3.4 : 0.02 * (index % 4))) * 100) /
          100;
    const reading: Reading = { value, at: minutesAfter(index), by: 'MP', note: '', title: test.title };
    return call('recordReading', { testId: test.id, reading });
  });
}

/**
 * The hill-climb estate: nearly every pin of the 48-cavity ECU in use, first bench session done. All made up.
 *
 * @param tree Whether its loom is laid in the car, or has one typed length for each device.
 */
export function pellworth({ tree = true }: { readonly tree?: boolean } = {}): Build {
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
    ...body,
    ...found,
    ...faces,
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
    call('setReserve', { kind: 'any', count: 2 }),
    ...frontBox,
    ...(tree ? laid : []),
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
  return play(play(revised, benchSession(revised)), readings);
}
