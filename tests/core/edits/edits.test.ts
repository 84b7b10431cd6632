import { describe, expect, test } from '@jest/globals';
import { applyEdit, call, edits, type EditName } from '~/core/edits';
import { emptyHistory, record, redo, undo, type History } from '~/core/build/history';
import { buildSchema, type Build } from '~/core/build/schema';
import { demoBuild, donorWire, ecu, edited, emptyBuild, kind, wheel } from '../../helpers';

const at = '2026-03-01T10:00:00.000Z';
const reading = { value: 0.2, at, by: 'AB', note: '', title: 'A1 to Injector 1 · 2' };
const demo = () => demoBuild();
const withCase = () => edited(demo(), call('openCase', { id: 'case-1', symptomId: 'ecu-dead', at }));

const plug = {
  deviceId: null,
  name: 'Bulkhead plug',
  cavities: [{ cavity: '1', colour: 'GN', signal: 'oil-lamp' as const, note: '' }],
  pulsesPerTurn: 2.5,
  drive: 'low-side' as const,
};
const withDonor = () =>
  edited(demo(), call('addDonorWires', { wires: [donorWire({ id: 'w1' }), donorWire({ id: 'w2', row: 1 })] }));
const question = {
  id: 'q1',
  text: 'Which side is the feed?',
  to: 'supplier',
  askedOn: '2026-03-01',
  answer: '',
  answeredOn: null,
  about: '',
};
const part = { id: 'p1', item: 'Seals', from: 'shop', count: 40, costEach: 0.35, state: 'to-order' as const };
const entry = { id: 'h1', day: '2026-03-01', hours: 2.5, what: 'de-loomed' };
const photo = {
  id: 'photo-1',
  about: 'dev:crank-vr-1',
  caption: '',
  takenAt: at,
  type: 'image/jpeg' as const,
  width: 800,
  height: 600,
  bytes: 90000,
};

const treed = () => edited(demo(), call('proposeTree', { vehicle: 'car', engine: 'front' }));
const plugged = () => {
  const build = edited(
    treed(),
    call('plugSegment', { segment: 'wall', metres: 0.2, name: 'Bulkhead', shell: 'bulkhead' }),
  );
  // One cavity is told of by hand, so that allotting anew changes something.
  const [wireId] = Object.keys(build.tree.nodes.plug!.plug!.wires);
  return edited(build, call('setCavity', { node: 'plug', wireId: wireId!, cavity: null }));
};

/** One taken call of each edit; the test walks the registry and fails on an edit without one. */
const taken: Record<EditName, { on?: () => Build; args: unknown }> = {
  renameBuild: { args: { name: 'Other' } },
  setBus: { args: { bus: { id: 'can-1', name: 'Dash bus', kilobits: 500, members: ['can-dash-1'] } } },
  joinOutput: { args: { needId: 'injector-high-3.2', leadId: 'injector-high-2.2' } },
  setEngine: { args: { engine: { ...demo().engine, maxRpm: 6500 } } },
  setSite: { args: { altitudeMetres: 1200, ambientCelsius: 5 } },
  chooseEcu: { args: { ecu: ecu('orrery-94') } },
  addDevice: { args: { kind: kind('fan') } },
  editDevice: { args: { deviceId: 'fan-1', branchMetres: 3 } },
  setDestination: { args: { deviceId: 'clt-ntc-1', terminalId: '2', destination: { to: 'ground', place: 'chassis' } } },
  removeDevice: { args: { deviceId: 'fan-1' } },
  setUnits: { args: { pressure: 'psi', temperature: 'F' } },
  setFuel: { args: { powerKw: 220, fuel: 'e85' } },
  setIdentify: { args: { crankTeeth: 35 } },
  setColourWriting: { args: { colours: 'english' } },
  addDonorWires: { args: { wires: [donorWire({ id: 'w1' })] } },
  editDonorWires: { on: withDonor, args: { ids: ['w1', 'w2'], fields: { decision: 'keep', group: 'engine' } } },
  removeDonorWires: { on: withDonor, args: { ids: ['w2'] } },
  putQuestion: { args: { question } },
  removeQuestion: { on: () => edited(demo(), call('putQuestion', { question })), args: { id: 'q1' } },
  putPart: { args: { part } },
  removePart: { on: () => edited(demo(), call('putPart', { part })), args: { id: 'p1' } },
  putHours: { args: { entry } },
  removeHours: { on: () => edited(demo(), call('putHours', { entry })), args: { id: 'h1' } },
  setCurrency: { args: { currency: 'SEK' } },
  putPhoto: { args: { photo } },
  removePhoto: { on: () => edited(demo(), call('putPhoto', { photo })), args: { id: 'photo-1' } },
  setBodyPlug: { args: plug },
  editKind: { args: { kind: { ...kind('clt-ntc'), note: 'Measured on the bench.' } } },
  changeKind: { args: { deviceId: 'clt-ntc-1', kind: kind('clt-ntc-10k') } },
  setSpeed: {
    args: {
      speed: {
        pulsesPerTurn: 6,
        gears: [],
        tyre: { by: 'rolled', metres: 1.92 },
        before: null,
        gauges: [{ id: 'gauge-1', name: 'Speedometer', pulsesPerKm: 2485, fedBy: 'ecu' }],
      },
    },
  },
  setPullUp: { args: { deviceId: 'clt-ntc-1', ohms: 2200 } },
  setEcuCurve: {
    args: {
      sensorId: 'clt-ntc-1.1',
      setting: { name: 'other', curve: { method: 'beta', ohms: 2500, celsius: 25, beta: 3400 } },
    },
  },
  recordSensing: { args: { sensorId: 'clt-ntc-1.1', reading: { atPin: 2.5, shown: null, at, by: 'AB' } } },
  setOutputOrder: { args: { outputOrder: 'in-turn' } },
  assign: { args: { needId: 'relay-fan-1.85', pinId: 'A8' } },
  unassign: { args: { needId: 'relay-fan-1.85' } },
  lock: { args: { needId: 'relay-fan-1.85', locked: true } },
  allotAll: { on: () => edited(demo(), call('unassign', { needId: 'relay-fan-1.85' })), args: { keep: 'placed' } },
  setReserve: { args: { kind: 'any', count: 4 } },
  placeAll: {
    on: () => edited(demo(), call('unassign', { needId: 'relay-fan-1.85' })),
    args: { assignments: demo().assignments, shared: {}, label: 'Allot the rest' },
  },
  setNever: { args: { needId: null, pinId: 'A16', never: true } },
  setShared: { args: { shared: { 'map-3bar-1.1': 'B8' } } },
  setGroundUse: { args: { pinId: 'A21', use: 'both' } },
  crimp: { args: { wireIds: ['dev:coil-igniter-1.C~ecu:A11'], at, by: 'AB' } },
  uncrimp: {
    on: () => edited(demo(), call('crimp', { wireIds: ['dev:coil-igniter-1.C~ecu:A11'], at, by: 'AB' })),
    args: { wireIds: ['dev:coil-igniter-1.C~ecu:A11'] },
  },
  setFace: {
    args: { kindId: 'crank-vr', face: { rows: [2], maxSquareMm: 1.5, sealed: true, cavities: { 1: 2, 2: 1 } } },
  },
  setFactoryPlug: { on: plugged, args: { node: 'plug', was: 'F12' } },
  setTerminal: {
    args: {
      plug: 'ecu',
      id: 'A',
      terminal: { name: 'tin', stripMillimetres: 4, tool: '', crimps: [{ squareMm: 0.5, heightMillimetres: 1.1 }] },
    },
  },
  setPinningOrder: { args: { order: 'powers-first' } },
  setMark: { args: { signal: 'injector', mark: { letter: 'J', tint: 'amber', pattern: 'dots' } } },
  setWheel: { args: { shaft: 'crank', wheel: wheel('36-1') } },
  setTrigger: { args: { offsetDegrees: 90 } },
  readLight: { args: { at, rpm: 250, seenDegrees: 14 } },
  dropLight: {
    on: () => edited(demo(), call('readLight', { at, rpm: 250, seenDegrees: 14 })),
    args: { index: 0 },
  },
  clearLights: { on: () => edited(demo(), call('readLight', { at, rpm: 250, seenDegrees: 14 })), args: {} },
  addFeedPart: { args: { part: { kind: 'tap', name: 'Cigar socket', live: 'run', amps: 10, fused: true } } },
  setFeedPart: { args: { partId: 'relay:pump', changes: { name: 'Pump relay of the car', existing: true } } },
  removeFeedPart: { args: { partId: 'splice:key' } },
  linkFeed: { args: { from: 'splice:main', to: 'dev:fan-1.1', metres: 1 } },
  unlinkFeed: { args: { linkId: 'dev:fan-1.1~relay:fan-1.87' } },
  setFeedLink: { args: { linkId: 'dev:fan-1.1~relay:fan-1.87', metres: 3 } },
  forgetFeedLink: {
    on: () =>
      edited(
        demo(),
        call('hangLoad', { end: 'dev:flex-fuel-1.1', from: 'fuse:permanent.2' }),
        call('removeDevice', { deviceId: 'flex-fuel-1' }),
      ),
    args: { linkId: 'dev:flex-fuel-1.1~fuse:permanent.2' },
  },
  hangLoad: { args: { end: 'dev:fan-2.1', from: 'relay:fan-1.87' } },
  moveReturn: { args: { end: 'dev:fan-1.2', to: 'gnd:battery' } },
  insertInFeed: {
    args: {
      linkId: 'dev:fan-1.1~relay:fan-1.87',
      part: { kind: 'switch', name: 'Fan isolator', amps: 30, resting: 'closed' },
    },
  },
  splitFeed: { args: { ends: ['dev:flex-fuel-1.1'], name: 'flex', title: 'Flex sensor', control: null } },
  setFeedSource: {
    on: () => edited(demo(), call('addFeedPart', { part: { kind: 'busbar', name: 'Post' }, name: 'post' })),
    args: { end: 'bar:post' },
  },
  fitMasterSwitch: { args: { amps: 300 } },
  spreadEnd: {
    on: () => edited(demo(), call('setPower', { joints: 'stacked' })),
    args: { end: 'bat:+' },
  },
  addFeedBox: { args: { box: { name: 'Front box', place: 'left inner wing', columns: 4 } } },
  setFeedBox: {
    on: () => edited(demo(), call('addFeedBox', { box: { name: 'Front box', place: '', columns: 4 }, name: 'front' })),
    args: { name: 'front', changes: { place: 'behind the seat' } },
  },
  putSpool: { args: { spool: { id: 'red', colour: 'RD', squareMm: 2.5, metres: 12 } } },
  removeSpool: {
    on: () => edited(demo(), call('putSpool', { spool: { id: 'red', colour: 'RD', squareMm: 2.5, metres: 12 } })),
    args: { id: 'red' },
  },
  setSpoolLength: { args: { metres: 50 } },
  cutFromShelf: { args: {} },
  setBought: { args: { key: 'Plugs ecu A', changes: { have: 1, price: 34.5 } } },
  proposeTree: { args: { vehicle: 'car', engine: 'front' } },
  clearTree: { on: treed, args: {} },
  placeRest: { on: () => edited(treed(), call('addDevice', { kind: kind('clt-ntc') })), args: {} },
  setTreePlan: { on: treed, args: { vehicle: 'boat' } },
  addTreeNode: { on: treed, args: { kind: 'branch', name: 'Rail', at: { x: 1, y: 1 }, from: 'outside', metres: 0.3 } },
  setTreeNode: { on: treed, args: { node: 'rear', name: 'Tank', at: { x: 4, y: 1 } } },
  removeTreeNode: { on: treed, args: { node: 'rear' } },
  standAt: { on: treed, args: { thing: 'dev:fuel-pump-1', node: 'battery' } },
  joinTreeNodes: { on: treed, args: { a: 'rear', b: 'battery', metres: 0.4 } },
  setSegment: { on: treed, args: { segment: 'trunk', changes: { metres: 0.4, zone: 'hot', celsius: 160 } } },
  removeSegment: { on: treed, args: { segment: 'rear' } },
  branchSegment: { on: treed, args: { segment: 'wall', metres: 0.2, name: '' } },
  plugSegment: { on: treed, args: { segment: 'wall', metres: 0.2, name: 'Bulkhead', shell: 'bulkhead' } },
  setPlug: { on: plugged, args: { node: 'plug', changes: { sealed: false } } },
  allotPlug: { on: plugged, args: { node: 'plug', anew: true } },
  setCavity: { on: plugged, args: { node: 'plug', wireId: 'ecu:A1~dev:coil-igniter-1.C', cavity: 1 } },
  leadWire: { on: treed, args: { wireId: 'ecu:A1~dev:coil-igniter-1.C', segment: 'wall' } },
  removeFeedBox: {
    on: () => edited(demo(), call('addFeedBox', { box: { name: 'Front box', place: '', columns: 4 }, name: 'front' })),
    args: { name: 'front' },
  },
  proposeFeeds: {
    on: () => edited(demo(), call('hangLoad', { end: 'dev:fan-2.1', from: 'relay:fan-1.87' })),
    args: {},
  },
  setCircuit: { args: { circuitId: 'pump', choice: { fuseAmps: 20 } } },
  deriveCircuit: {
    on: () => edited(demo(), call('setCircuit', { circuitId: 'pump', choice: { fuseAmps: 20 } })),
    args: { circuitId: 'pump', fields: ['fuseAmps'] },
  },
  setPower: { args: { ecuGround: 'battery' } },
  setLoom: { args: { covering: 'braid' } },
  setWire: { args: { wireId: 'dev:coil-igniter-1.C~ecu:A11', colour: 'PK/BK' } },
  recordReading: { args: { testId: 'c|ecu:A20|dev:throttle-motor-1.2', reading } },
  clearReading: { args: { testIds: Object.keys(demo().prove.readings).slice(0, 1) } },
  setMeter: { args: { leadOhms: 0.2 } },
  confirmCheck: { args: { gateId: 'bench', checkId: 'route', confirmation: { at, by: 'AB', value: null } } },
  setAside: {
    args: { findingId: 'LO-7', rule: 'LO-7', by: 'AB', reason: 'Slack lies in the box.', at, detail: 'No slack.' },
  },
  takeUp: {
    on: () =>
      edited(
        demo(),
        call('setAside', { findingId: 'LO-7', rule: 'LO-7', by: 'AB', reason: 'Slack.', at, detail: 'No slack.' }),
      ),
    args: { findingId: 'LO-7' },
  },
  openCase: { args: { id: 'case-1', symptomId: 'ecu-dead', at } },
  addCaseReading: { on: withCase, args: { caseId: 'case-1', testId: 'v|key-on|bat:+', value: 12.4, at } },
  removeCaseReading: {
    on: () => edited(withCase(), call('addCaseReading', { caseId: 'case-1', testId: 'x', value: 1, at })),
    args: { caseId: 'case-1', testId: 'x' },
  },
  closeCase: { on: withCase, args: { caseId: 'case-1', faultId: 'f', title: 'Fuse blown', note: '', at } },
  saveRevision: { args: { note: 'second', at } },
};

describe.each(Object.keys(edits) as EditName[])('edit %s', (name) => {
  const { on = demo, args } = taken[name];
  test('changes the build, keeps it whole, and has a label', () => {
    const before = on();
    const frozen = JSON.stringify(before);
    const result = applyEdit(before, name, args);
    if (!result.ok) throw new Error(result.problem.sentence);
    expect(JSON.stringify(result.value.build)).not.toBe(frozen);
    expect(JSON.stringify(before)).toBe(frozen);
    expect(buildSchema.safeParse(result.value.build).error).toBeUndefined();
    expect(result.value.label.length).toBeGreaterThan(3);
  });
  test('is one step: undone it is as before, done again as after, also through JSON', () => {
    const before = on();
    const result = applyEdit(before, name, args);
    if (!result.ok) throw new Error(result.problem.sentence);
    const recorded = record(emptyHistory, result.value.label, before, result.value.build);
    const history = JSON.parse(JSON.stringify(recorded.history)) as History;
    const back = undo(result.value.build, history)!;
    expect(back.build).toEqual(before);
    expect(redo(back.build, back.history)!.build).toEqual(result.value.build);
  });
  test('refuses nonsense in a sentence', () => {
    const result = applyEdit(on(), name, { nonsense: true, deviceId: 7 });
    // An edit whose arguments are all optional takes an empty change.
    if (result.ok) expect(result.value.build).toEqual(on());
    else expect(result.problem.sentence).toMatch(/\.$/);
  });
});

const refused = (build: Build, name: string, args: unknown): string => {
  const result = applyEdit(build, name, args);
  if (result.ok) throw new Error('was taken');
  return result.problem.sentence;
};

describe('refusals', () => {
  test('say what is wrong and where', () => {
    expect(refused(demo(), 'toString', {})).toMatch(/no change called toString/);
    expect(refused(demo(), 'assign', { needId: 'clt-ntc-1.1', pinId: 'A1' })).toBe(
      'A1 is no analog input: Coolant cannot go there.',
    );
    expect(refused(demo(), 'assign', { needId: 'coil-igniter-1.C', pinId: 'A16' })).toMatch(/Coil 1 is locked on A11/);
    expect(refused(demo(), 'assign', { needId: 'boost-solenoid-1.2', pinId: 'A6' })).toMatch(/30 Hz are asked/);
    expect(refused(demo(), 'unassign', { needId: 'coil-igniter-1.C' })).toMatch(/unlock it first/);
    expect(refused(demo(), 'lock', { needId: 'no-such', locked: true })).toMatch(/has no pin to lock/);
    expect(refused(demo(), 'editDevice', { deviceId: 'coil-igniter-1', serves: [6] })).toMatch(/1 to 5/);
    expect(refused(demo(), 'addDevice', { kind: kind('coil-igniter'), perCylinder: true })).toMatch(/has its/);
    expect(refused(demo(), 'setWire', { wireId: 'x', colour: 'PURPLE' })).toMatch(/IEC 60757/);
    expect(refused(demo(), 'setBodyPlug', { ...plug, cavities: [...plug.cavities, ...plug.cavities] })).toMatch(
      /Row 2: cavity 1/,
    );
    expect(refused(demo(), 'setBodyPlug', { ...plug, deviceId: 'fan-1' })).toMatch(/no device fan-1/);
    expect(refused(demo(), 'editKind', { kind: kind('idle-stepper') })).toMatch(/No device of this build/);
    expect(refused(demo(), 'setEcuCurve', { sensorId: 'fan-1.1', setting: null })).toMatch(/no sensor fan-1.1/);
    expect(
      refused(demo(), 'recordSensing', { sensorId: 'clt-ntc-1.1', reading: { atPin: null, shown: null, at, by: '' } }),
    ).toMatch(/Give what the meter reads/);
    expect(refused(demo(), 'removeQuestion', { id: 'q9' })).toMatch(/no entry q9/);
    expect(refused(withDonor(), 'addDonorWires', { wires: [donorWire({ id: 'w1' })] })).toMatch(
      /w1 is on the list already/,
    );
    expect(refused(withDonor(), 'editDonorWires', { ids: ['w7'], fields: { note: '' } })).toMatch(/no donor wire w7/);
    expect(refused(demo(), 'setPullUp', { deviceId: 'clt-ntc-1', ohms: 0 })).toMatch(/ohms must be/);
    expect(refused(demo(), 'setSite', { altitudeMetres: 99999, ambientCelsius: 20 })).toMatch(/at most 6000/);
  });
});

describe('assigning', () => {
  test('to a taken pin swaps when both fit', () => {
    const build = edited(demo(), call('assign', { needId: 'relay-fan-1.85', pinId: 'A8' }));
    expect(build.assignments['relay-fan-1.85']).toBe('A8');
    expect(build.assignments['relay-fan-2.85']).toBe('A7');
  });
  test('to a pin whose holder cannot move leaves the holder open', () => {
    const build = edited(
      demo(),
      call('unassign', { needId: 'relay-fan-1.85' }),
      call('assign', { needId: 'relay-fan-1.85', pinId: 'A8' }),
    );
    expect(build.assignments['relay-fan-2.85']).toBeUndefined();
  });
});

test('removing a device takes its kind, pins and locks with it', () => {
  const build = edited(
    demo(),
    call('removeDevice', { deviceId: 'injector-high-1' }),
    call('removeDevice', { deviceId: 'flex-fuel-1' }),
  );
  expect(build.kinds['flex-fuel']).toBeUndefined();
  expect(build.kinds['injector-high']).toBeDefined();
  expect(build.assignments['injector-high-1.2']).toBeUndefined();
  expect(build.locked).not.toContain('injector-high-1.2');
});

test('one device for each cylinder, then none is missing', () => {
  const build = edited(emptyBuild(4), call('addDevice', { kind: kind('injector-high'), perCylinder: true }));
  expect(build.devices.map((device) => [device.label, device.serves])).toEqual([
    ['Injector 1', [1]],
    ['Injector 2', [2]],
    ['Injector 3', [3]],
    ['Injector 4', [4]],
  ]);
});

test('a light that agrees confirms; one that does not moves the offset', () => {
  const moved = edited(demo(), call('readLight', { at, rpm: 250, seenDegrees: 14 }));
  expect(moved.trigger.offsetDegrees).toBe(88);
  expect(moved.trigger.offsetConfirmed).toBe(false);
  const confirmed = edited(moved, call('readLight', { at, rpm: 250, seenDegrees: 10.4 }));
  expect(confirmed.trigger.offsetConfirmed).toBe(true);
  expect(confirmed.trigger.offsetDegrees).toBe(88);
  expect(edited(confirmed, call('setTrigger', { offsetDegrees: 81 })).trigger.offsetConfirmed).toBe(false);
});

test('a log at several speeds leaves the offset alone; striking the last reading falls back on the one before', () => {
  const start = demo().trigger.offsetDegrees;
  const noted = edited(demo(), call('readLight', { at, rpm: 250, seenDegrees: 14, keepOffset: true }));
  expect(noted.trigger.offsetDegrees).toBe(start);
  expect(noted.trigger.offsetConfirmed).toBe(false);
  const count = noted.trigger.readings.length;
  const lock = noted.trigger.lockDegrees;
  const agreed = edited(noted, call('readLight', { at, rpm: 900, seenDegrees: lock, keepOffset: true }));
  expect(agreed.trigger.offsetConfirmed).toBe(true);
  expect(edited(agreed, call('dropLight', { index: count - 1 })).trigger.offsetConfirmed).toBe(true);
  expect(edited(agreed, call('dropLight', { index: count })).trigger.offsetConfirmed).toBe(false);
  const none = applyEdit(agreed, 'dropLight', { index: count + 7 });
  expect(!none.ok && none.problem.sentence).toBe(`There is no reading number ${count + 8}.`);
});

describe('restraint wires', () => {
  const bag = donorWire({ id: 'r1', function: 'Airbag squib driver', decision: 'keep' });
  const build = edited(demo(), call('addDonorWires', { wires: [bag, donorWire({ id: 'w2', row: 1 })] }));
  test('come in without a decision and refuse one', () => {
    expect(build.survey.donor.r1.decision).toBe('open');
    expect(refused(build, 'editDonorWires', { ids: ['r1'], fields: { decision: 'remove' } })).toMatch(
      /licensed workshop/,
    );
  });
  test('are passed over among many, and cannot be freed by their words in the same step', () => {
    const many = edited(build, call('editDonorWires', { ids: ['r1', 'w2'], fields: { decision: 'keep' } }));
    expect([many.survey.donor.r1.decision, many.survey.donor.w2.decision]).toEqual(['open', 'keep']);
    expect(
      refused(build, 'editDonorWires', { ids: ['r1'], fields: { function: 'Coolant', decision: 'remove' } }),
    ).toMatch(/restraint/);
  });
  test('a mark locks a wire whose words say nothing, and takes its decision away', () => {
    const kept = edited(build, call('editDonorWires', { ids: ['w2'], fields: { decision: 'keep' } }));
    const marked = edited(kept, call('editDonorWires', { ids: ['w2'], fields: { restraint: true } }));
    expect(marked.survey.donor.w2.decision).toBe('open');
  });
});

test('a changed kind keeps what its terminals still have', () => {
  const build = edited(
    demo(),
    call('setDestination', { deviceId: 'clt-ntc-1', terminalId: '2', destination: { to: 'ground', place: 'head' } }),
    call('changeKind', { deviceId: 'clt-ntc-1', kind: kind('clt-ntc-5k') }),
  );
  const device = build.devices.find((one) => one.id === 'clt-ntc-1')!;
  expect(device.overrides['2']).toEqual({ to: 'ground', place: 'head' });
  expect(build.kinds['clt-ntc']).toBeUndefined();
  const other = edited(build, call('changeKind', { deviceId: 'clt-ntc-1', kind: kind('tmap-3bar') }));
  expect(other.assignments['clt-ntc-1.1']).toBeUndefined();
});
