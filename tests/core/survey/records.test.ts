import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { emptySurvey, totalsOf } from '~/core/survey/records';
import {
  fromShown,
  inUnit,
  readQuantity,
  readStep,
  scaleOf,
  toShown,
  quantities,
  unitsSchema,
  fuels,
} from '~/core/units/units';
import { decade, preferredOhms } from '~/core/units/eseries';
import { injectorFigures, requiredFlow, dutyOf, fuelDemand, bsfcOn } from '~/core/engine/fuel';
import { coilFigures, eventDegrees } from '~/core/power/spark';
import { atVolts } from '~/core/devices/volts-table';
import { trait } from '~/core/devices/kind';
import { demoBuild, engine, kind } from '../../helpers';

test('totals: hours by day, cost by item, what is not known stays apart', () => {
  const part = (id: string, count: number, costEach: number | null, state: 'to-order' | 'here' = 'here') => ({
    id,
    item: id,
    from: '',
    count,
    costEach,
    state,
  });
  const totals = totalsOf({
    ...emptySurvey,
    hours: [
      { id: 'a', day: '2026-03-02', hours: 1.5, what: '' },
      { id: 'b', day: '2026-03-01', hours: 2, what: '' },
      { id: 'c', day: '2026-03-02', hours: 0.25, what: '' },
    ],
    parts: [part('p', 3, 0.1), part('q', 2, null, 'to-order'), part('r', 1, 19.995)],
    questions: [
      { id: 'q', text: 'x', to: '', askedOn: '2026-03-01', answer: '', answeredOn: null, about: '' },
      { id: 'r', text: 'y', to: '', askedOn: '2026-03-01', answer: 'z', answeredOn: '2026-03-02', about: '' },
    ],
  });
  expect(totals).toEqual({
    hours: 3.75,
    hoursByDay: [
      { day: '2026-03-01', hours: 2 },
      { day: '2026-03-02', hours: 1.75 },
    ],
    cost: 20.3,
    costUnknown: 1,
    openQuestions: 1,
    toOrder: 1,
  });
});

describe('units', () => {
  const all = unitsSchema.shape.pressure.options.flatMap((pressure) =>
    unitsSchema.shape.temperature.options.flatMap((temperature) =>
      unitsSchema.shape.mixture.options.flatMap((mixture) =>
        unitsSchema.shape.workshop.options.map((workshop) => ({ pressure, temperature, mixture, workshop })),
      ),
    ),
  );
  test('property: every unit of every quantity goes there and back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...all),
        fc.constantFrom(...quantities),
        fc.constantFrom(...fuels),
        fc.double({ min: -500, max: 5000, noNaN: true }),
        (units, quantity, fuel, value) => {
          const scale = scaleOf(quantity, units, fuel);
          return Math.abs(fromShown(scale, toShown(scale, value)) - value) < 1e-9 * (1 + Math.abs(value));
        },
      ),
    );
  });
  const reader = (
    pressure: 'psi' | 'kPa' | 'bar' | 'inHg',
    mixture: 'AFR' | 'lambda' = 'lambda',
    fuel: (typeof fuels)[number] = 'petrol',
  ) => ({
    units: { pressure, temperature: 'F', mixture, workshop: 'metric' } as const,
    fuel: { fuel },
  });
  test('as they are read', () => {
    expect(readQuantity('pressure', 101.325, reader('psi'))).toBe('14.7 psi');
    expect(readQuantity('pressure', 101.325, reader('inHg'))).toBe('29.9 inHg');
    expect(readQuantity('pressure', 101.325, reader('bar'))).toBe('1.013 bar');
    expect(readQuantity('temperature', 26.8, reader('kPa'))).toBe('80.2 °F');
    expect(readStep('temperature', 10, reader('kPa'))).toBe('18.0 °F');
    expect(readQuantity('mixture', 1, reader('kPa', 'AFR'))).toBe('14.7 AFR');
    expect(readQuantity('mixture', 1, reader('kPa', 'AFR', 'e85'))).toBe('9.8 AFR');
    expect(readQuantity('mixture', 1, reader('kPa', 'AFR', 'methanol'))).toBe('6.4 AFR');
    expect(inUnit(scaleOf('pressure', reader('kPa').units, 'petrol'), -0.01)).toBe('0.0 kPa');
  });
});

describe('injectors', () => {
  const data = { fuel: 'petrol', railKpa: 300, bsfc: 310, powerKw: 200, maxDuty: 0.85 } as const;
  const injector = trait(kind('injector-high'), 'injector')!;
  test('what is required and what they feed are the same law, read both ways', () => {
    const flow = requiredFlow(data, 4);
    const just = injectorFigures(engine(4), data, { ...injector, flowCcPerMinute: flow, dead: [] }, 4);
    expect(just.duty).toBeCloseTo(0.85, 9);
    expect(just.powerKw).toBeCloseTo(200, 6);
  });
  test('dead time takes its share, and batch injection pays it twice', () => {
    const once = injectorFigures(engine(4), data, injector, 4);
    const twice = injectorFigures({ ...engine(4), injection: 'batch' }, data, injector, 4);
    expect(once.duty).toBeGreaterThan(injectorFigures(engine(4), data, { ...injector, dead: [] }, 4).duty);
    expect(twice.duty).toBeGreaterThan(once.duty);
    expect(dutyOf(engine(4), once.pulseMilliseconds, engine(4).maxRpm)).toBeCloseTo(once.duty, 9);
  });
  test('a fuel of less heat needs more of it', () => {
    expect(bsfcOn('methanol', 310) / 310).toBeCloseTo(43 / 19.9, 9);
    expect(fuelDemand({ ...data, fuel: 'methanol', bsfc: bsfcOn('methanol', 310) })).toBeGreaterThan(
      1.9 * fuelDemand(data),
    );
  });
});

describe('coils', () => {
  const coil = trait(kind('coil-igniter'), 'coil')!;
  test('dwell between the rows of its table, the end rows beyond them', () => {
    expect([atVolts(coil.dwell, 6), atVolts(coil.dwell, 11), atVolts(coil.dwell, 20), atVolts([], 12)]).toEqual([
      6.4,
      4,
      2.6,
      null,
    ]);
  });
  test('the speed it fits to is where dwell and burn fill the interval', () => {
    const figures = coilFigures(demoBuild().engine, coil);
    const interval = eventDegrees(demoBuild().engine, 1) / (figures.fitsToRpm * 0.006);
    expect(interval).toBeCloseTo(atVolts(coil.dwell, 13.5)! + 1, 9);
    expect(figures.rows.map((row) => row.volts)).toEqual([8, 10, 12, 13.5, 15]);
  });
  test('one coil for every cylinder has the shortest interval', () => {
    const distributor = { ...engine(8), ignition: 'distributor' as const };
    expect(eventDegrees(distributor, 8)).toBe(90);
    expect(coilFigures(distributor, coil).roomMilliseconds).toBeLessThan(coilFigures(engine(8), coil).roomMilliseconds);
  });
});

test('preferred values are never under when asked so', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.01, max: 1e6, noNaN: true }),
      fc.constantFrom(6, 12, 24, 48, 96, 192 as const),
      (ohms, series) => {
        const up = preferredOhms(ohms, series as 24, 'at-least');
        return up >= ohms * (1 - 1e-9) && up <= ohms * (decade(series as 24)[1] + 0.55);
      },
    ),
  );
  expect(() => preferredOhms(0)).toThrow(RangeError);
});
