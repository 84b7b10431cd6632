import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { buildSchema } from '~/core/build/schema';
import { packBundle } from '~/core/formats/bundle';
import { runCommand } from '~/scripts/commands';
import { pellworth } from '~/demo/pellworth';
import { demoBuild, edited } from '../helpers';
import { call } from '~/core/edits';

const folder = mkdtempSync(path.join(tmpdir(), 'gonyx-'));
const file = (name: string, text: string) => {
  const full = path.join(folder, name);
  writeFileSync(full, text);
  return full;
};

interface Ran {
  code: number;
  out: string;
  err: string;
}
/** As a shell starts it: once for each way it can end. */
const started = (...args: string[]): Promise<Ran> =>
  new Promise((resolve) => {
    const env = { ...process.env, NODE_OPTIONS: '' };
    execFile('node_modules/.bin/tsx', ['scripts/gonyx.ts', ...args], { env, maxBuffer: 1 << 26 }, (error, out, err) =>
      resolve({ code: typeof error?.code === 'number' ? error.code : 0, out, err }),
    );
  });

/** The same commands within this process, for all the rest. */
const gonyx = (...args: string[]): Ran => {
  const { code, out, err } = runCommand(args);
  return { code, out: typeof out === 'string' ? out : new TextDecoder().decode(out), err };
};

const good = file('good.json', JSON.stringify(demoBuild()));
const stopped = file(
  'stopped.json',
  JSON.stringify(edited(demoBuild(), call('setOutputOrder', { outputOrder: 'in-turn' }))),
);
const zipped = path.join(folder, 'build.gonyx.zip');
writeFileSync(zipped, packBundle(demoBuild(), new Map()));
const misread = file(
  'misread.json',
  JSON.stringify(
    edited(
      demoBuild(),
      call('recordSensing', {
        sensorId: 'map-3bar-1.3',
        reading: { atPin: 0, shown: null, at: '2026-03-01T10:00:00.000Z', by: '' },
      }),
    ),
  ),
);
const broken = file('broken.json', JSON.stringify(demoBuild()).slice(0, 5000));
const impossible = file(
  'impossible.json',
  JSON.stringify({ ...edited(demoBuild(), call('addDevice', { kind: demoBuild().kinds.knock })) }),
);

describe('the command line', () => {
  let results: Record<string, Ran>;
  beforeAll(() => {
    const runs: Record<string, string[]> = {
      check: ['check', good],
      stopped: ['check', stopped],
      allot: ['allot', good],
      impossible: ['allot', impossible],
      zipped: ['check', zipped],
      sense: ['sense', good],
      senseWrong: ['sense', misread],
      netlist: ['netlist', good],
      prove: ['prove', good],
      offset: ['trigger', 'offset', '--old', '84', '--commanded', '10', '--seen', '-14', '--sign', '-1'],
      solve: ['solve', good, '--state', 'key-on'],
      solveOff: ['solve', good, '--state', 'key-on', '--off-plug'],
      solveCold: ['solve', good, '--state', 'key-on', '--celsius', '-20'],
      solveIced: ['solve', good, '--celsius', '-300'],
      trace: [
        'trace',
        good,
        file(
          'readings.json',
          JSON.stringify({ symptom: 'dead:fan-1', readings: [{ testId: 'v|outputs-on|fuse:fan-1.2', value: 0.1 }] }),
        ),
      ],
      demo: ['demo', 'twin'],
      broken: ['check', broken],
      missing: ['check', path.join(folder, 'none.json')],
      unknown: ['fly'],
      badOffset: ['trigger', 'offset', '--old', 'x', '--commanded', '10', '--seen', '1'],
      badState: ['solve', good, '--state', 'flying'],
      badOption: ['solve', good, '--nonsense'],
      nullReadings: ['trace', good, file('null.json', '{"symptom":"dead:fan-1","readings":null}')],
      oddId: ['check', file('odd.json', JSON.stringify({ ...demoBuild(), id: '..' }))],
    };
    results = Object.fromEntries(Object.entries(runs).map(([name, args]) => [name, gonyx(...args)]));
  }, 120_000);
  const json = <T>(name: string) => JSON.parse(results[name].out) as T;

  test('ends in a shell as it does here: done, stop findings, bad input', async () => {
    const [done, stop, bad] = await Promise.all([
      started('check', good),
      started('check', stopped),
      started('check', broken),
    ]);
    expect([done, stop, bad]).toEqual([results.check, results.stopped, results.broken]);
    expect([done.code, stop.code, bad.code]).toEqual([0, 1, 2]);
  }, 60_000);
  test('a fault of our own is exit 3, with its trace', () => {
    // A file name that is no text: nothing a person can type.
    const { code, out, err } = runCommand(['check', Symbol('x') as unknown as string]);
    expect([code, out]).toEqual([3, '']);
    expect(err).toMatch(/Gonyx itself failed/);
  });
  test('check: findings and counts; exit 1 only on stop', () => {
    expect(results.check.code).toBe(0);
    expect(json<{ counts: { stop: number } }>('check').counts.stop).toBe(0);
    expect(results.stopped.code).toBe(1);
    expect(
      json<{ findings: { id: string; severity: string; title: string; detail: string }[] }>('stopped').findings[0],
    ).toMatchObject({ id: 'OE-1', severity: 'stop' });
  });
  test('allot: solved, or infeasible with an explanation and exit 1', () => {
    expect(results.allot.code).toBe(0);
    expect(json<{ status: string; assignments: unknown[] }>('allot')).toMatchObject({ status: 'solved' });
    expect(json<{ assignments: unknown[] }>('allot').assignments).toHaveLength(38);
    expect(results.impossible.code).toBe(1);
    expect(json<{ status: string; explanation: { reason: string }[] }>('impossible').explanation[0].reason).toMatch(
      /knock/,
    );
  });
  test('netlist, prove, solve and trace answer in JSON', () => {
    expect(json<{ wires: unknown[] }>('netlist').wires.length).toBeGreaterThan(100);
    expect(json<{ tests: unknown[]; probeMoves: number }>('prove').tests.length).toBeGreaterThan(200);
    const solved = json<{ volts: Record<string, number>; strays: Record<string, number>; residualAmps: number }>(
      'solve',
    );
    expect(solved.volts['ecu:A24']).toBeGreaterThan(12);
    expect(solved.strays['ecu:A24']).toBeGreaterThan(0.1);
    expect(solved.residualAmps).toBeLessThan(1e-6);
    const clt = demoBuild().assignments['clt-ntc-1.1'];
    const other = (name: string) => json<{ volts: Record<string, number> }>(name).volts[`ecu:${clt}`];
    // Off its plugs nothing holds the sensors' ground: what is fed with 12 V lifts it, and all that hangs on it.
    expect(other('solveOff')).toBeGreaterThan(10);
    // In the frost it is pulled higher.
    expect(other('solveCold')).toBeGreaterThan(solved.volts[`ecu:${clt}`] + 0.3);
    expect(results.solveIced).toMatchObject({ code: 2, err: expect.stringContaining('--celsius') });
    expect(json<{ candidates: { fault: string }[] }>('trace').candidates[0].fault).toMatch(
      /^blown-fuse:fan-1|^open:bat/,
    );
  });
  test('trigger offset takes negative figures', () => {
    expect(json<{ newDegrees: number; conventions: object }>('offset')).toMatchObject({
      newDegrees: 60,
      errorDegrees: 24,
    });
  });
  test('demo prints a whole build', () => {
    expect(buildSchema.safeParse(json('demo')).success).toBe(true);
  });
  test.each(['broken', 'missing', 'unknown', 'badOffset', 'badState', 'badOption', 'nullReadings', 'oddId'])(
    '%s: exit 2, one sentence, nothing on standard output',
    (name) => {
      expect(results[name].code).toBe(2);
      expect(results[name].out).toBe('');
      expect(results[name].err.trim().split('\n')).toHaveLength(1);
    },
  );
  test('the sentence names the place', () => {
    expect(results.broken.err).toMatch(/broken\.json: .*line \d+/);
    expect(results.badOffset.err).toMatch(/--old must be a number of degrees, not 'x'/);
    expect(results.nullReadings.err).toMatch(/null\.json: readings must be a list in square brackets\./);
    expect(results.oddId.err).toMatch(/odd\.json: id must be 1 to 120 letters, digits, hyphens or underscores\./);
  });

  test('a build in its archive is read like its JSON', () => {
    expect(results.zipped).toEqual(results.check);
  });
  test('sense tells each calibrated signal, and exits 1 for a reading that is wrong', () => {
    const { sensors } = JSON.parse(results.sense.out) as {
      sensors: { id: string; expected: { atPin: number } | null }[];
    };
    expect(results.sense.code).toBe(0);
    expect(sensors.find((one) => one.id === 'map-3bar-1.3')!.expected!.atPin).toBeCloseTo(1.593, 3);
    expect(results.senseWrong.code).toBe(1);
    expect(results.senseWrong.out).toContain('"no-supply"');
  });
});

describe('trigger: captures', () => {
  const synth = (...more: string[]) => gonyx('trigger', 'synth', '--cam', 'cam-1', '--seconds', '1.5', ...more);
  test('made, matched and decoded', async () => {
    const made = synth('--pattern', '36-1', '--sensor', 'hall', '--ripple', '0.2');
    expect(made.code).toBe(0);
    expect(made.out.split('\n')[0]).toBe('Time (s),crank (V),cam (V)');
    const capture = file('made.csv', made.out);
    const [matched, decoded] = [
      gonyx('trigger', 'match', capture),
      gonyx('trigger', 'decode', capture, '--build', good),
    ];
    expect(matched.code).toBe(0);
    const answer = JSON.parse(matched.out) as {
      best: { patternId: string; crank: object; cam: object; polarity: string };
      runnerUp: { reason: string };
      syncLosses: unknown[];
    };
    expect(answer.best).toMatchObject({
      patternId: '36-1',
      crank: { channel: 'crank', places: 36, missing: 1, pulsesPerRev: 35, gaps: [2] },
      cam: { channel: 'cam', pulsesPerCycle: 1 },
      polarity: 'square',
    });
    expect(answer.runnerUp.reason).not.toBe('');
    expect(answer.syncLosses).toEqual([]);
    const said = JSON.parse(decoded.out) as {
      patternId: string;
      syncLosses: unknown[];
      ecu: { decodes: boolean };
      notes: string[];
    };
    expect(said).toMatchObject({ patternId: '36-1', syncLosses: [], ecu: { decodes: true } });
    expect(said.notes.join(' ')).toMatch(
      /The build says 60 places, 2 missing; the capture shows 36 places, 1 missing\./,
    );
  });
  test('a dump of swapped leads', async () => {
    const made = synth('--pattern', '60-2', '--swapped', '--format', 'vcd');
    const { out } = gonyx('trigger', 'match', file('made.vcd', made.out));
    expect(JSON.parse(out)).toMatchObject({ best: { patternId: '60-2', polarity: 'reversed' } });
  });
  test.each([
    [['match', '/nowhere.csv'], /^\/nowhere\.csv cannot be read/],
    [
      ['match', file('prose.csv', 'no capture\nat all\n')],
      /prose\.csv: No rows of figures were found; line 1 reads 'no capture'/,
    ],
    [['synth', '--pattern', 'square-root'], /knows no wheel 'square-root'/],
    [['synth', '--pattern', '60-2', '--rpm', 'fast'], /--rpm must be a number from 1 to 20000, not 'fast'/],
    [['guess'], /trigger knows match, decode, synth and offset, not 'guess'/],
  ])('%j is refused with its reason', async (words, says) => {
    const { code, err } = gonyx('trigger', ...words);
    expect(code).toBe(2);
    expect(err).toMatch(says);
  });
});

describe('the loom in files', () => {
  const laid = file('laid.json', JSON.stringify(pellworth()));
  test('cutlist has every wire of the netlist, bundle every piece of the tree', () => {
    const { wires } = JSON.parse(gonyx('netlist', laid).out) as { wires: { id: string }[] };
    const cut = JSON.parse(gonyx('cutlist', laid).out) as {
      wires: { wireId: string; cutOf: string | null }[];
      cutting: { bought: number; boundBought: number }[];
    };
    expect(cut.wires.map(({ wireId }) => wireId).sort()).toEqual(wires.map(({ id }) => id).sort());
    expect(cut.wires.filter(({ cutOf }) => cutOf !== null).length).toBeGreaterThan(100);
    for (const { bought, boundBought } of cut.cutting) expect(bought).toBeGreaterThanOrEqual(boundBought);
    const { pieces } = JSON.parse(gonyx('bundle', laid).out) as { pieces: { id: string; wires: string[] }[] };
    expect(pieces.map(({ id }) => id).sort()).toEqual(Object.keys(pellworth().tree.segments).sort());
    expect(pieces.find(({ id }) => id === 'trunk')!.wires.length).toBeGreaterThan(50);
  });
  test('labels and parts', () => {
    const { labels } = JSON.parse(gonyx('labels', laid).out) as { labels: unknown[] };
    expect(gonyx('labels', laid, '--format', 'csv').out.trim().split('\n')).toHaveLength(labels.length + 1);
    expect(gonyx('labels', laid, '--format', 'text').out).toMatch(/^# heat-shrink 2\.4 mm\n/);
    expect(gonyx('labels', laid, '--format', 'odt')).toMatchObject({
      code: 2,
      err: '--format is json, csv or text.\n',
    });
    const { parts } = JSON.parse(gonyx('parts', laid).out) as { parts: { group: string }[] };
    expect(new Set(parts.map(({ group }) => group)).size).toBe(8);
  });
  test('formboard as SVG and DXF; a board too small is said, and exits 1', () => {
    expect(gonyx('formboard', laid).out).toMatch(/^<svg .*width="2400mm"/);
    expect(gonyx('formboard', laid, '--format', 'dxf').out).toContain('LWPOLYLINE');
    expect(gonyx('formboard', laid, '--board', '600x400').code).toBe(1);
    expect(gonyx('formboard', laid, '--board', 'wide')).toMatchObject({
      code: 2,
      err: expect.stringMatching(/2400x1200/),
    });
    expect(gonyx('formboard', good)).toMatchObject({
      code: 2,
      err: expect.stringMatching(/does not lie in a tree yet/),
    });
    expect(gonyx('formboard', laid, '--format', 'pdf', '--paper', 'A5')).toMatchObject({ code: 2 });
  });
  test('formboard as PDF, from a shell', async () => {
    const { code, out } = await started('formboard', laid, '--format', 'pdf', '--paper', 'A3');
    expect([code, out.slice(0, 5)]).toEqual([0, '%PDF-']);
  }, 60_000);
});
