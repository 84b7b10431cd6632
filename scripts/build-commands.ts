import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { catalog } from '~/catalog';
import { zodProblem } from '~/core/data/zod-problem';
import { applyEdit, edits } from '~/core/edits';
import { answersSchema, startBuild } from '~/core/edits/starter';
import { buildIdSchema, type Build } from '~/core/build/schema';
import { fail, ok, type Failure, type Result } from '~/core/problem';

/** What a file may take from the catalog by name, instead of writing it out: `{ "$kind": "fan" }`. */
const shelves: Readonly<Record<string, (name: string) => unknown>> = {
  $kind: (name) => catalog.kinds.find(({ id }) => id === name),
  $wheel: (name) => catalog.wheels.find(({ id }) => id === name),
  $ecu: (name) => catalog.ecus.find(({ id }) => id === name),
  $engine: (name) => catalog.engines.find((one) => one.name === name),
};

/** A value with everything taken from the catalog written out. `place` is where it stands in the file. */
function takeFromCatalog(value: unknown, place: string): Result<unknown> {
  if (typeof value !== 'object' || value === null) return ok(value);
  const keys = Object.keys(value);
  const [only] = keys;
  if (keys.length === 1 && Object.hasOwn(shelves, only)) {
    const name: unknown = (value as Record<string, unknown>)[only];
    const found = typeof name === 'string' ? shelves[only](name) : undefined;
    return found === undefined
      ? fail('not-in-catalog', place, `${place}: the catalog has no ${only.slice(1)} called ${JSON.stringify(name)}.`)
      : ok(found);
  }
  const made: [string, unknown][] = [];
  for (const [key, inner] of Object.entries(value)) {
    const at = Array.isArray(value) ? `${place}[${key}]` : place === '' ? key : `${place}.${key}`;
    const taken = takeFromCatalog(inner, at);
    if (!taken.ok) return taken;
    made.push([key, taken.value]);
  }
  return ok(Array.isArray(value) ? made.map(([, inner]) => inner) : Object.fromEntries(made));
}

function readJson(text: string): Result<unknown> {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return fail('not-json', '', 'The file is not readable JSON: it may be cut short.');
  }
  return takeFromCatalog(data, '');
}

const fileSchema = answersSchema.extend({
  vehicle: answersSchema.shape.vehicle.default(''),
  kinds: answersSchema.shape.kinds.default(() => [...catalog.kinds]),
  withUsual: z.boolean().default(true),
  /** Given, the same file makes the same build. */
  id: buildIdSchema.optional(),
  createdAt: z.iso.datetime().optional(),
});

/** A build from the answers of 'New build'. */
export function newBuild(text: string): Result<Build> {
  const data = readJson(text);
  if (!data.ok) return data;
  const answers = fileSchema.safeParse(data.value);
  if (!answers.success) return { ok: false, problem: zodProblem(answers.error, 'invalid-answers') };
  const { id = randomUUID(), createdAt = new Date().toISOString(), ...rest } = answers.data;
  return startBuild({ ...rest, id, now: createdAt });
}

const editsSchema = z.array(z.object({ name: z.string(), args: z.unknown() }));

const placed = (failed: Failure, place: string): Failure => ({
  ok: false,
  problem: { ...failed.problem, path: place, sentence: `${place}: ${failed.problem.sentence}` },
});

/** Named edits applied one after the other; the first that cannot be done is told by its place, and nothing is printed. */
export function editBuild(build: Build, text: string): Result<Build> {
  const data = readJson(text);
  if (!data.ok) return data;
  const list = editsSchema.safeParse(data.value);
  if (!list.success) return { ok: false, problem: zodProblem(list.error, 'invalid-edits') };
  let current = build;
  for (const [at, { name, args }] of list.data.entries()) {
    const result = applyEdit(current, name, args);
    if (!result.ok) return placed(result, `[${at}] ${name}`);
    current = result.value.build;
  }
  return ok(current);
}

/** Every edit by name, with the JSON Schema (2020-12) of its arguments. */
export const listEdits = (): { name: string; args: unknown }[] =>
  Object.entries(edits).map(([name, one]) => ({ name, args: z.toJSONSchema(one.args, { io: 'input' }) }));
