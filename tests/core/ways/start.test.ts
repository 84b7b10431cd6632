import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { startBuild } from '~/core/edits/starter';
import { needsOf } from '~/core/netlist/needs';
import { fitsAtStart, type StartAnswers } from '~/core/ways/start';
import type { Engine } from '~/core/engine/engine';

const { ecus, engines, kinds } = catalog;
const answers = (engine: Engine): StartAnswers => ({ vehicle: '', engine, kinds, withUsual: true });

describe('a new build tried on every ECU', () => {
  test.each(engines.map((engine) => [engine.name, engine] as const))(
    '%s: every ECU answers for all its needs',
    (_, engine) => {
      const fits = fitsAtStart(answers(engine), ecus);
      if (!fits.ok) throw new Error(fits.problem.sentence);
      expect(fits.value.map(({ ecuId }) => ecuId)).toEqual(ecus.map(({ id }) => id));
      for (const [i, fit] of fits.value.entries()) {
        const build = startBuild({
          ...answers(engine),
          name: 'x',
          ecu: ecus[i],
          id: 'x',
          now: '2026-01-01T00:00:00.000Z',
        });
        if (!build.ok) throw new Error(build.problem.sentence);
        expect(fit.needs).toBe(needsOf(build.value).length);
        expect(fit.fits).toBe(fit.served === fit.needs);
        // No pin twice, and none that the ECU has not.
        const pins = fit.assignments.map(({ pinId }) => pinId);
        expect(new Set(pins).size).toBe(pins.length);
        const own = new Set(ecus[i].pins.map(({ id }) => id));
        expect(pins.every((pin) => own.has(pin))).toBe(true);
        if (!fit.fits) expect(fit.reasons.length).toBeGreaterThan(0);
      }
    },
  );
  test('twelve cylinders with a coil each do not fit the smallest, and it says why', () => {
    const most: Engine = {
      ...engines[0],
      cylinders: 12,
      firingOrder: Array.from({ length: 12 }, (_, i) => i + 1),
      firingAngles: null,
    };
    const fits = fitsAtStart(answers(most), ecus);
    if (!fits.ok) throw new Error(fits.problem.sentence);
    const smallest = fits.value.reduce((one, other) => (other.pins < one.pins ? other : one));
    expect(smallest.fits).toBe(false);
    expect(smallest.reasons.join(' ')).toMatch(/inject|coil|ignit/i);
  });
  test('it can be stopped', () => expect(fitsAtStart(answers(engines[0]), ecus, () => true).ok).toBe(false));
});
