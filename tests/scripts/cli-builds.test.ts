import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { z } from 'zod';
import { buildSchema, type Build } from '~/core/build/schema';
import { edits } from '~/core/edits';
import { runCommand } from '~/scripts/commands';
import { twinBuild } from '../helpers';

const folder = mkdtempSync(path.join(tmpdir(), 'gonyx-'));
let files = 0;
const file = (content: unknown) => {
  files += 1;
  const full = path.join(folder, `${files}.json`);
  writeFileSync(full, typeof content === 'string' ? content : JSON.stringify(content));
  return full;
};
const gonyx = (...words: string[]) => {
  const { code, out, err } = runCommand(words);
  return { code, out: typeof out === 'string' ? out : new TextDecoder().decode(out), err };
};
const built = (ran: { out: string; err: string }): Build => {
  expect(ran.err).toBe('');
  return buildSchema.parse(JSON.parse(ran.out));
};

const twin = twinBuild();
const answers = {
  id: twin.id,
  createdAt: twin.createdAt,
  name: twin.name,
  vehicle: twin.vehicle,
  engine: twin.engine,
  ecu: { $ecu: 'orrery-26' },
  withUsual: false,
};
const device = (kind: string, label: string, branchMetres: number, perCylinder = false) => ({
  name: 'addDevice',
  args: { kind: { $kind: kind }, label, branchMetres, perCylinder },
});
/** Everything a person does to lay out the works locomotive, as a file. */
const work = [
  device('crank-hall', 'Crank sensor', 1.1),
  device('injector-high', 'Injector', 0.9, true),
  device('coil-igniter', 'Coil', 0.9, true),
  device('fuel-pump', 'Fuel pump', 1.8),
  device('throttle-cable', 'Throttle position', 0.8),
  device('map-1bar', 'Manifold pressure', 0.7),
  device('iat-ntc', 'Intake air', 0.9),
  device('clt-ntc', 'Coolant', 1.0),
  device('fan', 'Fan', 1.4),
  device('alternator', 'Alternator', 1.2),
  { name: 'setWheel', args: { shaft: 'crank', wheel: { $wheel: '24-1' } } },
  {
    name: 'setTrigger',
    args: {
      offsetDegrees: 96,
      ripple: 0.2,
      chartRpm: 2400,
      dwellMilliseconds: 2.8,
      injectionMilliseconds: 5,
      advanceDegrees: 18,
    },
  },
  { name: 'allotAll', args: { keep: 'locked' } },
];

describe('new and edit', () => {
  test('drive a whole build: the same answers and edits make the same build as by hand', () => {
    const empty = gonyx('new', file(answers));
    expect(empty.code).toBe(0);
    expect(built(empty).devices).toEqual([]);
    const done = gonyx('edit', file(empty.out), file(work));
    expect(done.code).toBe(0);
    expect(built(done)).toEqual(twin);
    // Then as a person goes on: prove a wire, fill in who and what, and look what stands in the way.
    const { tests } = JSON.parse(gonyx('prove', file(done.out)).out) as { tests: { id: string; expected: number }[] };
    const at = '2026-10-03T08:00:00.000Z';
    const proved = gonyx(
      'edit',
      file(done.out),
      file([
        {
          name: 'recordReading',
          args: { testId: tests[0].id, reading: { value: tests[0].expected, at, by: 'HB', note: '', title: '' } },
        },
      ]),
    );
    expect(Object.keys(built(proved).prove.readings)).toEqual([tests[0].id]);
    expect([0, 1]).toContain(gonyx('check', file(proved.out)).code);
  });
  test('with the usual parts, an engine of the catalog by name, and an id of its own', () => {
    const ran = gonyx(
      'new',
      file({ name: 'Shed project', engine: { $engine: 'Inline four, 2.0 l' }, ecu: { $ecu: 'orrery-48' } }),
    );
    const made = built(ran);
    expect(made.devices.length).toBeGreaterThan(8);
    expect(made.id).toMatch(/^[0-9a-f-]{36}$/);
  });
  test.each([
    ['{ "name": ', 'The file is not readable JSON'],
    [{ name: 'x' }, 'engine must be'],
    [{ ...answers, ecu: { $ecu: 'no-such' } }, 'ecu: the catalog has no ecu called "no-such".'],
    [{ ...answers, id: 'a/b' }, 'id must be 1 to 120 letters'],
  ])('refuse answers %#: one sentence with the place', (content, sentence) => {
    const ran = gonyx('new', file(content));
    expect([ran.code, ran.out]).toEqual([2, '']);
    expect(ran.err).toContain(sentence);
    expect(ran.err.trim().split('\n')).toHaveLength(1);
  });
  test.each([
    [{ name: 'renameBuild' }, 'must be a list'],
    [[{ args: {} }], '[0].name must be a text'],
    [[work[0], { name: 'no-such', args: {} }], '[1] no-such: There is no change called no-such.'],
    [[work[0], { name: 'renameBuild', args: { name: 3 } }], '[1] renameBuild: name must be a text'],
    [[work[0], { name: 'removeDevice', args: { deviceId: 'gone' } }], '[1] removeDevice: There is no device gone'],
    [[device('no-such', 'x', 1)], '[0].args.kind: the catalog has no kind called "no-such".'],
  ])('refuse edits %#: the place is told, and no half of a build is printed', (content, sentence) => {
    const ran = gonyx('edit', file(twin), file(content));
    expect([ran.code, ran.out]).toEqual([2, '']);
    expect(ran.err).toContain(sentence);
  });
  test('--list names every edit there is, with the schema of its arguments', () => {
    const ran = gonyx('edit', '--list');
    const listed = JSON.parse(ran.out) as { name: string; args: { $schema?: string; type?: string } }[];
    expect(listed.map(({ name }) => name)).toEqual(Object.keys(edits));
    for (const { name, args } of listed) {
      expect([name, args.$schema]).toEqual([name, 'https://json-schema.org/draft/2020-12/schema']);
      // A schema that says nothing would let everything pass.
      expect([name, Object.keys(args).length]).not.toEqual([name, 1]);
    }
    const rename = listed.find(({ name }) => name === 'renameBuild')!.args as { required?: string[] };
    expect(rename.required).toContain('name');
    expect(z.toJSONSchema(edits.renameBuild.args, { io: 'input' })).toEqual(rename);
  });
});
