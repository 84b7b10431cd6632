import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { call } from '~/core/edits';
import { sensorsIn } from '~/core/devices/kind';
import { netlist } from '~/core/netlist/netlist';
import { curveOf } from '~/core/devices/curve';
import { expectation, judgeSensor, othersOf } from '~/core/sensing/judge';
import { sensorsOf, settingError, valueAtPin } from '~/core/sensing/sensor';
import { edited, emptyBuild } from '../../helpers';

/*
 * Every part with every other calibration of its sort in the ECU: the expensive mistake. The volts are right, the figure is
 * not, and the judge must name the calibration that makes it, or one that cannot be told from it at this reading.
 */
const kinds = catalog.kinds.filter((kind) =>
  sensorsIn(kind).some(
    (sensor) => ['pressure', 'temperature'].includes(sensor.quantity) && sensor.signal !== 'millivolts',
  ),
);

const site = { altitudeMetres: 640, ambientCelsius: 12 };

describe.each(kinds.map((kind) => [kind.id, kind] as const))('%s', (_, kind) => {
  const build = edited(
    emptyBuild(4, 'orrery-94'),
    call('setSite', site),
    call('addDevice', { kind }),
    call('allotAll', { keep: 'locked' }),
  );
  const own = sensorsOf(build, netlist(build));

  test('with its own calibration in the ECU, every reading the part makes is right', () => {
    for (const at of own) {
      const expected = expectation(build.site, at);
      if (!expected || expected.atPin === null) continue;
      const shown = valueAtPin(at, expected.atPin)!;
      const judged = judgeSensor(build, at, { atPin: expected.atPin, shown }, catalog.kinds);
      expect([at.id, judged.verdict, judged.advice]).toEqual([at.id, 'right', '']);
    }
  });

  test('with another, the wrong setting is told from the wires and named', () => {
    for (const at of own) {
      const expected = expectation(build.site, at);
      if (!expected || expected.atPin === null) continue;
      for (const other of othersOf(at, catalog.kinds)) {
        const shown = valueAtPin({ sensor: other.sensor, pullUpOhms: at.pullUpOhms }, expected.atPin);
        if (shown === null) continue;
        const judged = judgeSensor(build, at, { atPin: expected.atPin, shown }, catalog.kinds);
        if (judged.verdict === 'right') {
          // Too near to tell at this reading: then the two differ by less than the part's own tolerance here.
          expect(Math.abs(shown - valueAtPin(at, expected.atPin)!)).toBeLessThanOrEqual(expected.tolerance);
          continue;
        }
        if (judged.verdict !== 'doubtful') expect(judged.sentence).toContain("the ECU's setting is not");
        const named = judged.causes.filter((cause) => cause.code === 'ecu-calibration');
        // The list is short: when several calibrations give this figure, the nearest ones stand in it.
        const asGood = named.every((cause) => cause.distance <= 1);
        expect([other.name, named.length > 0 || judged.causes.length === 5, asGood]).toEqual([other.name, true, true]);
      }
    }
  });

  test('the error of another setting is nothing where the curves meet, and grows where they part', () => {
    for (const at of own) {
      expect(Math.abs(settingError(build.site, at, at.sensor.curve).worst)).toBeLessThan(
        1e-6 * (at.sensor.most - at.sensor.least),
      );
      if (at.sensor.signal !== 'volts' || at.sensor.curve.method !== 'linear') continue;
      const [low, high] = at.sensor.curve.points;
      const shifted = { ...at.sensor.curve, points: [low, { ...high, value: high.value * 1.1 }] };
      const error = settingError(build.site, at, shifted);
      expect(error.worst).toBeCloseTo(curveOf(shifted).valueOf(high.signal)! - high.value, 6);
      expect(error.worstAt).toBeCloseTo(high.value, 6);
    }
  });
});
