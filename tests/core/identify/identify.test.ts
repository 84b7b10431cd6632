import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { candidatesOf, countedWheel, gapOf, topics } from '~/core/identify/candidates';
import { identify, questions } from '~/core/identify/identify';
import { identifySchema, noAnswers, type IdentifyAnswers } from '~/core/survey/records';
import { ecu, wheel } from '../../helpers';

const run = (part: Partial<IdentifyAnswers>, cylinders = 4) =>
  identify({ ...noAnswers, ...part }, catalog.wheels, cylinders, ecu('orrery-48'));
const topic = (part: Partial<IdentifyAnswers>, name: (typeof topics)[number], cylinders = 4) =>
  run(part, cylinders).find((one) => one.topic === name)!;

test('without an answer nothing is settled, and each topic names what would settle most', () => {
  for (const result of run({})) {
    expect(result.settled).toBeNull();
    expect(result.next!.leaves).toBeLessThan(result.open.length);
  }
});

/** Found alone; or, where another wheel has the same count, open beside it with nothing against it: the bench then tells. */
function settledOrTied(result: ReturnType<typeof topic>, id: string): void {
  if (result.settled) {
    expect(result.settled.candidate.id).toBe(id);
    return;
  }
  const clear = result.open.filter(({ near }) => near.length === 0).map(({ candidate }) => candidate.id);
  expect(clear).toContain(id);
  expect(clear.length).toBeGreaterThan(1);
  expect(clear.length).toBeLessThanOrEqual(3);
}

describe('the crank wheel', () => {
  test.each(catalog.wheels.filter((one) => one.shaft === 'crank').map((one) => [one.id, one] as const))(
    '%s is found by its own count and gap',
    (id, one) => {
      const { gap, widths } = gapOf(one);
      const teeth = one.edges.filter((edge) => edge.level === 1).length;
      const result = topic({ crankTeeth: teeth, crankGap: gap, crankGapWidth: widths[0] ?? null }, 'crank-wheel');
      settledOrTied(result, id);
    },
  );
  test('one tooth off stays possible, and says to count again', () => {
    const result = topic({ crankTeeth: 57, crankGap: 'one', crankGapWidth: 2 }, 'crank-wheel');
    expect(result.open.map((one) => one.candidate.id)).toEqual(['59-2', '60-2']);
    expect(result.open[1].near[0]).toMatch(/57 teeth counted, 58 expected/);
  });
  test('a wheel no list knows is made of the count', () => {
    expect(countedWheel({ ...noAnswers, crankTeeth: 29, crankGap: 'one', crankGapWidth: 1 })?.id).toBe('30-1');
    expect(topic({ crankTeeth: 29, crankGap: 'one', crankGapWidth: 1 }, 'crank-wheel').settled?.candidate.id).toBe(
      '30-1',
    );
    expect(countedWheel({ ...noAnswers, crankTeeth: 400, crankGap: 'one', crankGapWidth: 8 })).toBeNull();
  });
  test('what is out says which answer put it out', () => {
    const result = topic({ crankGap: 'none' }, 'crank-wheel');
    expect(result.ranked.find((one) => one.candidate.id === '60-2')!.out).toMatch(
      /gap seen none, all even; one gap would fit/,
    );
  });
  test('wheels this ECU decodes come first', () => {
    const { 'crank-wheel': list } = candidatesOf(catalog.wheels, 4, noAnswers, ecu('orrery-48'));
    const families = new Set(ecu('orrery-48').decoders.map(({ family }) => family));
    expect(families.has(wheel(list[0].id).family)).toBe(true);
    expect(families.has(wheel(list[list.length - 1].id).family)).toBe(false);
  });
});

describe('sensors, coils, injectors', () => {
  test.each([
    [{ crankWires: 2 }, 'vr'],
    [{ crankWires: 3, crankOhms: 780 }, 'vr-shielded'],
    [{ crankWires: 3, crankOhms: 1000000 }, 'hall'],
    [{ crankWires: 4 }, 'optical'],
  ])('%j is %s', (answers, id) => expect(topic(answers, 'crank-sensor').settled?.candidate.id).toBe(id));
  test('three wires alone leave two, and ohms tell them apart', () => {
    const result = topic({ crankWires: 3 }, 'crank-sensor');
    expect(result.open.map((one) => one.candidate.id)).toEqual(['vr-shielded', 'hall']);
    expect(result.next!.question.id).toBe('crankOhms');
  });
  test.each([
    ['none', 'none'],
    ['2', 'cam-vr'],
    ['3', 'cam-hall'],
    ['5', 'cam-phaser'],
  ] as const)('cam plug of %s terminals', (terminals, id) =>
    expect(topic({ camTerminals: terminals }, 'cam').settled?.candidate.id).toBe(id),
  );
  test.each([
    [{ coilCount: 4, coilTerminals: 2, coilTowers: 1 }, 4, 'coil-bare'],
    [{ coilCount: 4, coilTerminals: 4, coilTowers: 1 }, 4, 'coil-igniter'],
    [{ coilCount: 2, coilTerminals: 2, coilTowers: 2 }, 4, 'wasted-bare'],
    [{ coilCount: 1, coilTerminals: 4, coilTowers: 4 }, 4, 'pack-igniter'],
    [{ coilCount: 1, coilTerminals: 4, coilTowers: 6 }, 6, 'pack-bare'],
    [{ coilCount: 1, coilTerminals: 2, coilTowers: 1 }, 8, 'distributor'],
  ])('%j on %d cylinders is %s', (answers, cylinders, id) =>
    expect(topic(answers, 'coils', cylinders).settled?.candidate.id).toBe(id),
  );
  test.each([
    [{ injectorOhms: 12.5 }, 'high'],
    [{ injectorOhms: 2.4 }, 'low'],
    [{ injectorCount: 0 }, 'none'],
  ])('%j is %s', (answers, id) => expect(topic(answers, 'injectors').settled?.candidate.id).toBe(id));
  test('7 ohms fits neither class: nothing is made up', () => {
    const result = topic({ injectorOhms: 7.2, injectorCount: 4 }, 'injectors');
    expect(result.settled).toBeNull();
    expect(result.open).toEqual([]);
  });
});

test('answers that contradict each other leave nothing, and say so', () => {
  expect(topic({ crankWires: 2, crankOhms: 1000000 }, 'crank-sensor').open).toEqual([]);
});

test('every question belongs to an answer of the build and tells something apart', () => {
  const fields = Object.keys(identifySchema.shape);
  for (const question of questions) {
    expect(fields).toContain(question.id);
    expect(question.how.length).toBeGreaterThan(15);
    const candidates = candidatesOf(catalog.wheels, 4, noAnswers);
    expect(topics.some((name) => candidates[name].some((candidate) => candidate.expects[question.id]))).toBe(true);
  }
});

describe('the cam wheel', () => {
  test.each(
    catalog.wheels
      .filter(({ shaft, family }) => shaft === 'cam' && family !== 'distributor' && family !== 'slot-disc')
      .map((one) => [one.id, one] as const),
  )('%s by what the torch sees', (id, one) => {
    const teeth = one.edges.filter((edge) => edge.level === 1).length;
    const shape = id === 'cam-half-moon' ? 'half' : teeth === 1 ? 'one' : 'windows';
    settledOrTied(topic({ camShape: shape, camTeeth: teeth }, 'cam-wheel'), id);
  });
  test('no plug, no wheel', () => {
    expect(topic({ camTerminals: 'none' }, 'cam-wheel').settled?.candidate.id).toBe('no-cam-wheel');
  });
});
