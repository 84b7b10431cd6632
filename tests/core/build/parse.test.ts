import { describe, expect, test } from '@jest/globals';
import { checkChain, raise } from '~/core/build/migrations';
import type { Migration } from '~/core/build/migrations/migration';
import { FILE_LIMITS, parseBuild, parseBuildData } from '~/core/build/parse';
import { BUILD_SCHEMA_VERSION } from '~/core/build/schema';
import { demoBuild, twinBuild } from '../../helpers';

const text = JSON.stringify(demoBuild());
const versionNow = `"schemaVersion":${BUILD_SCHEMA_VERSION}`;
const problemOf = (input: string) => {
  const result = parseBuild(input);
  if (result.ok) throw new Error('was taken');
  return result.problem;
};

describe('reading a build', () => {
  test.each([demoBuild(), twinBuild()].map((build) => [build.name, build] as const))(
    '%s comes back as it went',
    (_, build) => {
      const read = parseBuild(JSON.stringify(build));
      expect(read.ok && read.value).toEqual(build);
    },
  );
  test('a truncated file names the place', () => {
    const problem = problemOf(text.slice(0, text.length / 2));
    expect(problem.code).toBe('not-json');
    expect(problem.sentence).toMatch(/line \d+/);
  });
  test.each([
    ['empty', '', 'not-json'],
    ['a picture', '\u0089PNG\r\n', 'not-json'],
    ['foreign JSON', '{"name":"something"}', 'not-a-build'],
    ['a list', '[1,2]', 'not-a-build'],
    ['null', 'null', 'not-a-build'],
    ['a newer version', text.replace(versionNow, '"schemaVersion":99'), 'too-new'],
    ['version 0', text.replace(versionNow, '"schemaVersion":0'), 'not-a-build'],
    ['deep nesting', `{${versionNow},"a":${'['.repeat(40)}${']'.repeat(40)}}`, 'too-deep'],
    ['too large', ' '.repeat(FILE_LIMITS.bytes + 1), 'too-large'],
  ])('%s is refused in one sentence', (_, input, code) => {
    const problem = problemOf(input);
    expect(problem.code).toBe(code);
    expect(problem.sentence).toMatch(/^[A-Z].*\.$/);
  });
  test('a value out of range names its path and the range', () => {
    const build = JSON.parse(text) as ReturnType<typeof demoBuild>;
    build.devices[3].branchMetres = 99;
    const problem = problemOf(JSON.stringify(build));
    expect(problem.path).toBe('devices[3].branchMetres');
    expect(problem.sentence).toBe('devices[3].branchMetres must be at most 30.');
  });
  test('a device of an unknown kind, and two with one id, are named', () => {
    const unknown = structuredClone(demoBuild());
    unknown.devices[2].kindId = 'no-such-kind';
    expect(problemOf(JSON.stringify(unknown)).code).toBe('unknown-kind');
    // Names every object has are no kinds of the file.
    for (const kindId of ['constructor', 'toString', '__proto__']) {
      unknown.devices[2].kindId = kindId;
      expect(problemOf(JSON.stringify(unknown)).code).toBe('unknown-kind');
    }
    const twice = structuredClone(demoBuild());
    twice.devices[2].id = twice.devices[1].id;
    expect(problemOf(JSON.stringify(twice)).path).toBe('devices[2].id');
  });
  test.each(['linear', 'table', 'steinhart-hart'])(
    'a %s curve with too few points is refused, not stumbled over',
    (method) => {
      for (const points of [[], [{ signal: 1, value: 2 }]]) {
        const build = JSON.parse(text) as { kinds: Record<string, unknown> };
        const all = JSON.stringify(build).replaceAll(
          /"curve":\{"method":"(?:linear|table|steinhart-hart)","points":\[.*?\]/g,
          `"curve":{"method":"${method}","points":${JSON.stringify(points)}`,
        );
        expect(all).not.toBe(JSON.stringify(build));
        expect(problemOf(all).path).toMatch(/^kinds\..*curve/);
      }
    },
  );
  test('unknown fields do not survive', () => {
    const read = parseBuildData({ ...demoBuild(), surprise: 1 });
    expect(read.ok && 'surprise' in read.value).toBe(false);
  });
});

describe('migrations', () => {
  const chain: Migration[] = [
    { from: 1, name: 'add colour', migrate: (file) => ({ ...file, colour: 'red' }) },
    { from: 2, name: 'rename', migrate: ({ colour, ...rest }) => ({ ...rest, paint: colour }) },
  ];
  test('run step by step on a copy, from any version', () => {
    const file = { schemaVersion: 1, name: 'x' };
    expect(raise(file, chain, 3)).toEqual({ ok: true, value: { schemaVersion: 3, name: 'x', paint: 'red' } });
    expect(file).toEqual({ schemaVersion: 1, name: 'x' });
    expect(raise({ schemaVersion: 2, colour: 'blue' }, chain, 3)).toEqual({
      ok: true,
      value: { schemaVersion: 3, paint: 'blue' },
    });
  });
  test('a gap or a duplicate is found at start-up', () => {
    expect(() => checkChain(chain, 3)).not.toThrow();
    expect(() => checkChain(chain.slice(0, 1), 3)).toThrow(/from version 2/);
    expect(() => checkChain([chain[0], chain[0]], 3)).toThrow(/from version 1/);
  });
});

describe('the id of a build stands in addresses and in keys', () => {
  const odd = ['..', 'a/b', '?q', '#h', '%2e%2e', 'demo-pellworth|x', '', 'x'.repeat(121)];
  test.each(odd)('%j is refused, or takes what stands in for it', (id) => {
    const text = JSON.stringify({ ...demoBuild(), id });
    const refused = parseBuild(text);
    expect(!refused.ok && refused.problem.sentence).toBe(
      'id must be 1 to 120 letters, digits, hyphens or underscores.',
    );
    const given = parseBuild(text, { standIn: 'given-anew' });
    expect(given.ok && given.value.id).toBe('given-anew');
  });
  test('a good one is kept, also where something could stand in', () => {
    const read = parseBuild(JSON.stringify(demoBuild()), { standIn: 'given-anew' });
    expect(read.ok && read.value.id).toBe(demoBuild().id);
  });
});
