import { parseArgs } from 'node:util';
import { z } from 'zod';
import { catalog } from '~/catalog';
import { allot } from '~/core/allot/allot';
import { compareEcus } from '~/core/ways/compare';
import { spareWords } from '~/core/allot/spares';
import { explain } from '~/core/ways/ways';
import { zodProblem } from '~/core/data/zod-problem';

import type { EcuDefinition } from '~/core/ecu/ecu';
import { parseEcuFile } from '~/core/ecu/file';
import { netlist } from '~/core/netlist/netlist';

import { fail, ok, type Result } from '~/core/problem';
import { standingReading } from '~/core/prove/evidence';
import { probeMoves, proveTests } from '~/core/prove/tests';
import { countFindings, findingsOf } from '~/core/rules';
import { expectation, judgeSensor } from '~/core/sensing/judge';
import { pinUnit, sensorsOf } from '~/core/sensing/sensor';
import { traceFaults } from '~/core/trace/trace';
import { newOffset } from '~/core/trigger/offset';
import { demoBuilds } from '~/demo';
import { editBuild, listEdits, newBuild } from './build-commands';
import { feeds, solve } from './circuit-commands';
import { bundle, cutlist, formboard, labels, parts } from './loom-commands';
import { answer, joinNegative, named, readText, withBuild, type Answer, type Command } from './command';
import { triggerCommand } from './trigger';

const sense: Command = ([path]) =>
  withBuild(path, (build) => {
    const sensors = sensorsOf(build, netlist(build)).map((at) => {
      const expected = expectation(build.site, at);
      const reading = standingReading(build, at.id);
      const judged = reading
        ? judgeSensor(build, at, reading, [...Object.values(build.kinds), ...catalog.kinds])
        : null;
      return {
        id: at.id,
        label: at.label,
        pinId: at.pin?.id ?? null,
        quantity: at.sensor.quantity,
        pinUnit: pinUnit(at.sensor),
        expected,
        pullUpOhms: at.pullUpOhms,
        judged: judged && {
          verdict: judged.verdict,
          sentence: judged.sentence,
          causes: judged.causes.map(({ code }) => code),
          explained: judged.causes.map(({ code, sentence, check: next, odds }) => ({
            code,
            sentence,
            check: next,
            odds: Math.round(odds * 1000) / 1000,
          })),
        },
      };
    });
    return answer({ sensors }, sensors.some((one) => one.judged?.verdict === 'wrong') ? 1 : 0);
  });

const check: Command = ([path]) =>
  withBuild(path, (build) => {
    const findings = findingsOf(build, netlist(build), catalog.kinds);
    const counts = countFindings(findings);
    const rows = findings.map(({ id, severity, title, detail, source, where, aside }) => ({
      id,
      severity,
      title,
      detail,
      source,
      where,
      setAside: aside && { by: aside.by, reason: aside.reason, at: aside.at },
    }));
    return answer({ findings: rows, counts }, counts.stop > 0 ? 1 : 0);
  });

const allotCommand: Command = ([path, ...rest]) =>
  withBuild(path, (build) => {
    const { values } = parseArgs({
      args: [...rest],
      options: {
        anew: { type: 'boolean', default: false },
        most: { type: 'boolean', default: false },
        ways: { type: 'boolean', default: false },
        compare: { type: 'boolean', default: false },
        ecu: { type: 'string', multiple: true, default: [] },
      },
    });
    const own: EcuDefinition[] = [];
    for (const file of values.ecu) {
      const text = readText(file, 'ECU definition');
      if (!text.ok) return text;
      const read = parseEcuFile(text.value);
      if (!read.ok) return { ok: false, problem: { ...read.problem, sentence: `${file}: ${read.problem.sentence}` } };
      own.push(...read.value);
    }
    const ecus = [...own, ...catalog.ecus];
    if (values.compare) {
      const fits = compareEcus(build, ecus)!;
      return answer({ ecus: fits }, fits.some((fit) => fit.fits) ? 0 : 1);
    }
    const found = allot(build, { keep: values.anew ? 'locked' : values.most ? 'most' : 'placed' });
    const ways = values.ways
      ? explain(build, { kinds: catalog.kinds, ecus }, undefined, undefined, found.conflicts)!
      : null;
    const explanation = found.conflicts.map((conflict, i) => ({
      reason: conflict.sentence,
      needs: conflict.needs,
      more: conflict.more,
      pins: conflict.pins,
      locked: conflict.locked,
      groups: conflict.groups,
      ...(ways && {
        ways: ways[i].ways.map(({ code, label, detail, gains, servesAll, moved, cost }) => ({
          code,
          label,
          detail,
          gains,
          servesAll,
          moved,
          cost,
        })),
        moreWays: ways[i].more,
      }),
    }));
    const output = {
      status: found.status,
      assignments: found.assignments,
      spares: found.spares,
      moved: found.moved,
      recrimped: found.recrimped,
      shared: found.shared,
      proven: found.proven,
      ...(found.unserved.length > 0 ? { unserved: found.unserved, explanation } : {}),
    };
    process.stderr.write(`spare: ${spareWords(found.spares) || 'none'}\n`);
    return answer(output, found.status === 'solved' ? 0 : 1);
  });

const netlistCommand: Command = ([path]) =>
  withBuild(path, (build) => {
    const { wires, nodes } = netlist(build);
    return answer({ wires, nodes });
  });

const prove: Command = ([path]) =>
  withBuild(path, (build) => {
    const net = netlist(build);
    const tests = proveTests(build, net);
    return answer({ tests, wires: net.wires.length, probeMoves: probeMoves(tests) });
  });

/** What was measured: the symptom, and a value for each test taken, null for an open line. */
const readingsSchema = z.object({
  symptom: z.string().max(200),
  readings: z
    .array(z.object({ testId: z.string().max(200), value: z.number().nullable() }))
    .max(1000)
    .default([]),
});

const trace: Command = ([path, readingsPath]) =>
  withBuild(path, (build) => {
    const text = readText(readingsPath, 'readings file');
    if (!text.ok) return text;
    let data: unknown;
    try {
      data = JSON.parse(text.value);
    } catch {
      return fail('not-json', readingsPath, `${readingsPath} is not readable JSON.`);
    }
    const parsed = readingsSchema.safeParse(data);
    if (!parsed.success) {
      const problem = zodProblem(parsed.error, 'readings');
      return { ok: false, problem: { ...problem, sentence: `${readingsPath}: ${problem.sentence}` } };
    }
    const { symptom, readings } = parsed.data;
    const found = traceFaults(build, netlist(build), {
      symptomId: symptom,
      readings: readings.map((one) => ({ ...one, at: '' })),
    });
    if (!found)
      return fail(
        'no-symptom',
        `${readingsPath} symptom`,
        `${readingsPath}: symptom ${symptom} does not exist on this build.`,
      );
    return answer({
      candidates: found.candidates.map((one) => ({
        fault: one.id,
        title: one.title,
        where: one.where,
        probability: one.probability,
        evidence: one.evidence,
      })),
      next: found.next.map(({ test, bits }) => ({ test: test.id, title: test.title, bits, minutes: test.minutes })),
    });
  });

function degrees(values: Record<string, string | undefined>, name: string, fallback?: number): Result<number> {
  const text = values[name];
  if (text === undefined)
    return fallback === undefined
      ? fail('usage', `--${name}`, `--${name} is missing: give it in degrees.`)
      : ok(fallback);
  const value = Number(text);
  return Number.isFinite(value) && text.trim() !== ''
    ? ok(value)
    : fail('usage', `--${name}`, `--${name} must be a number of degrees, not '${text}'.`);
}

function offset(words: readonly string[]): Result<Answer> {
  const options = {
    old: { type: 'string' },
    commanded: { type: 'string' },
    seen: { type: 'string' },
    cycle: { type: 'string' },
    sign: { type: 'string' },
  } as const;
  const { values } = parseArgs({ args: joinNegative(words), options });
  const [old, commanded, seen] = [degrees(values, 'old'), degrees(values, 'commanded'), degrees(values, 'seen')];
  for (const value of [old, commanded, seen]) if (!value.ok) return value;
  const cycle = values.cycle ?? '720';
  if (cycle !== '720' && cycle !== '360') return fail('usage', '--cycle', '--cycle must be 720 or 360.');
  const sign = values.sign ?? '1';
  if (sign !== '1' && sign !== '-1') return fail('usage', '--sign', '--sign must be 1 or -1.');
  const get = (result: Result<number>) => (result.ok ? result.value : 0);
  return answer(
    newOffset({
      oldDegrees: get(old),
      commandedDegrees: get(commanded),
      seenDegrees: get(seen),
      cycleDegrees: cycle === '720' ? 720 : 360,
      sign: sign === '1' ? 1 : -1,
    }),
  );
}

const trigger: Command = (words) => triggerCommand(words, withBuild, offset);

const newCommand: Command = ([path]) => {
  const text = readText(path, 'file of answers');
  if (!text.ok) return text;
  const made = newBuild(text.value);
  return made.ok ? answer(made.value) : named(path, made);
};

const editCommand: Command = ([path, edits]) =>
  path === '--list'
    ? answer(listEdits())
    : withBuild(path, (build) => {
        const text = readText(edits, 'file of edits');
        if (!text.ok) return text;
        const edited = editBuild(build, text.value);
        return edited.ok ? answer(edited.value) : named(edits, edited);
      });

const demo: Command = ([id]) => {
  const build = demoBuilds().find((one) => one.id === id || one.id === `demo-${id}`);
  return build ? answer(build) : fail('usage', 'demo', `demo knows pellworth and twin, not '${id ?? ''}'.`);
};

const commands: Record<string, Command> = {
  new: newCommand,
  edit: editCommand,
  check,
  allot: allotCommand,
  netlist: netlistCommand,
  prove,
  sense,
  solve,
  feeds,
  trace,
  trigger,
  cutlist,
  bundle,
  labels,
  parts,
  formboard,
  demo,
};

function run(words: readonly string[]): Result<Answer> {
  const [name = '', ...rest] = words;
  if (!Object.hasOwn(commands, name))
    return fail('usage', '', `Say one of: ${Object.keys(commands).join(', ')}. See docs/cli.md.`);
  try {
    return commands[name](rest);
  } catch (error) {
    // parseArgs throws on unknown options; anything else is a bug and must show its trace.
    const { code, message } = error as { code?: unknown; message?: unknown };
    if (typeof code === 'string' && code.startsWith('ERR_PARSE_ARGS')) return fail('usage', name, String(message));
    throw error;
  }
}

/** Exit 1 means stop findings and 2 bad input: a bug of ours is neither, and keeps its trace. */
export const BUG = 3;
export function failedWords(error: unknown): string {
  const trace = error instanceof Error ? (error.stack ?? error.message) : String(error);
  return `Gonyx itself failed at this: please report it with the file. ${trace}\n`;
}

/** What a command leaves behind: its exit code, and what goes to standard output and standard error. */
export interface Ended {
  readonly code: number;
  readonly out: string | Uint8Array;
  readonly err: string;
  /** What goes to standard output once it is made. */
  readonly later?: () => Promise<Uint8Array>;
}

/** Runs one command, words as on the command line. Never throws. */
export function runCommand(words: readonly string[]): Ended {
  try {
    const result = run(words);
    if (!result.ok) return { code: 2, out: '', err: `${result.problem.sentence}\n` };
    return {
      code: result.value.exit,
      out: result.value.later ? '' : (result.value.bytes ?? `${JSON.stringify(result.value.output, null, 2)}\n`),
      err: '',
      later: result.value.later,
    };
  } catch (error) {
    return { code: BUG, out: '', err: failedWords(error) };
  }
}
