import { describe, expect, test } from '@jest/globals';
import { applyEdit, call, edits, type EditName } from '~/core/build/edits';
import { buildSchema, type Build } from '~/core/build/schema';
import { demoBuild, ecu, edited, emptyBuild, kind, wheel } from '../../helpers';

const at = '2026-03-01T10:00:00.000Z';
const reading = { value: 0.2, at, by: 'AB', note: '', title: 'A1 to Injector 1 · 2' };
const demo = () => demoBuild();
const withCase = () => edited(demo(), call('openCase', { id: 'case-1', symptomId: 'ecu-dead', at }));

/** One taken call of each edit; the test walks the registry and fails on an edit without one. */
const taken: Record<EditName, { on?: () => Build; args: unknown }> = {
  renameBuild: { args: { name: 'Other' } },
  setEngine: { args: { engine: { ...demo().engine, maxRpm: 6500 } } },
  setSite: { args: { altitudeMetres: 1200, ambientCelsius: 5 } },
  chooseEcu: { args: { ecu: ecu('orrery-94') } },
  addDevice: { args: { kind: kind('fan') } },
  editDevice: { args: { deviceId: 'fan-1', branchMetres: 3 } },
  setDestination: { args: { deviceId: 'clt-ntc-1', terminalId: '2', destination: { to: 'ground', place: 'chassis' } } },
  removeDevice: { args: { deviceId: 'fan-1' } },
  setOutputOrder: { args: { outputOrder: 'in-turn' } },
  assign: { args: { needId: 'relay-fan-1.85', pinId: 'A8' } },
  unassign: { args: { needId: 'relay-fan-1.85' } },
  lock: { args: { needId: 'relay-fan-1.85', locked: true } },
  allotAll: { on: () => edited(demo(), call('unassign', { needId: 'relay-fan-1.85' })), args: { keep: 'placed' } },
  setReserve: { args: { reserve: 4 } },
  setWheel: { args: { shaft: 'crank', wheel: wheel('36-1') } },
  setTrigger: { args: { offsetDegrees: 90 } },
  readLight: { args: { at, rpm: 250, seenDegrees: 14 } },
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
    expect(refused(demo(), 'editDevice', { deviceId: 'coil-igniter-1', cylinder: 6 })).toMatch(/1 to 5/);
    expect(refused(demo(), 'addDevice', { kind: kind('coil-igniter'), perCylinder: true })).toMatch(/has its/);
    expect(refused(demo(), 'setWire', { wireId: 'x', colour: 'PURPLE' })).toMatch(/IEC 60757/);
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
  expect(build.devices.map((device) => [device.label, device.cylinder])).toEqual([
    ['Injector, high impedance 1', 1],
    ['Injector, high impedance 2', 2],
    ['Injector, high impedance 3', 3],
    ['Injector, high impedance 4', 4],
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
