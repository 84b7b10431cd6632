import { expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { sheetProgress } from '~/core/derive/sheets';
import type { Build } from '~/core/build/schema';
import { startBuild } from '~/core/edits/starter';
import { gatesOf } from '~/core/fireup/gates';
import { netlist } from '~/core/netlist/netlist';
import { proveTests } from '~/core/prove/tests';
import { progressOf } from '~/core/prove/verdict';
import { findingsOf } from '~/core/rules';
import { catalog } from '~/catalog';
import { demoBuild, edited, emptyBuild } from '../../helpers';

function shares(build: Build) {
  const net = netlist(build);
  const findings = findingsOf(build, net);
  const progress = progressOf(build, net, proveTests(build, net));
  return sheetProgress(build, net, findings, progress, () => gatesOf(build, net, progress, findings));
}

test('the spine fills as sheets get done, always within 0 and 1', () => {
  const [empty, demo] = [shares(emptyBuild()), shares(demoBuild())];
  expect(empty.survey).toBe(0);
  expect(demo.allot).toBe(1);
  expect(demo.prove).toBeGreaterThan(0.1);
  expect(demo.book).toBe(1);
  expect(shares(edited(demoBuild(), call('setReserve', { kind: 'any', count: 5 }))).book).toBe(0.5);
  for (const share of [...Object.values(empty), ...Object.values(demo)]) {
    expect(share).toBeGreaterThanOrEqual(0);
    expect(share).toBeLessThanOrEqual(1);
  }
});

test.each(catalog.ecus.flatMap((one) => catalog.engines.map((other) => [one.model, other.name, one, other] as const)))(
  '%s and %s: the usual parts make a build',
  (_, __, one, other) => {
    const made = startBuild({
      id: 'x',
      now: '2026-01-01T00:00:00.000Z',
      name: 'x',
      vehicle: '',
      engine: other,
      ecu: one,
      kinds: catalog.kinds,
      withUsual: true,
    });
    if (!made.ok) throw new Error(made.problem.sentence);
    expect(made.value.devices.length).toBeGreaterThan(other.cylinders);
    expect(findingsOf(made.value).some((finding) => finding.rule === 'TR-2' || finding.rule === 'SE-3')).toBe(false);
  },
);
