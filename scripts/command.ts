import { readFileSync } from 'node:fs';
import type { Build } from '~/core/build/schema';
import { readBundle } from '~/core/formats/bundle';
import { fail, ok, type Failure, type Result } from '~/core/problem';

/** JSON on standard output, messages on standard error; exit 0 done, 1 stop findings or no solution, 2 bad input. */
export interface Answer {
  readonly output: unknown;
  readonly exit: 0 | 1;
  /** A file instead of JSON. */
  readonly bytes?: Uint8Array;
  /** A file that takes a while. */
  readonly later?: () => Promise<Uint8Array>;
}
export type Command = (words: readonly string[]) => Result<Answer>;

/** Words of a command line with numbers below zero joined to their options, which they would be taken for otherwise. */
export const joinNegative = (words: readonly string[]): string[] =>
  words.reduce<string[]>((list, word) => {
    const before = list[list.length - 1];
    return before !== undefined && /^--\w+$/.test(before) && /^-[\d.]/.test(word)
      ? [...list.slice(0, -1), `${before}=${word}`]
      : [...list, word];
  }, []);

export const textAnswer = (text: string): Result<Answer> =>
  ok({ output: null, exit: 0, bytes: new TextEncoder().encode(text) });
export const answer = (output: unknown, exit: 0 | 1 = 0): Result<Answer> => ok({ output, exit });

export function readBytes(path: string | undefined, what: string): Result<Uint8Array> {
  if (path === undefined) return fail('usage', '', `Name the ${what}, or - for standard input.`);
  try {
    return ok(new Uint8Array(readFileSync(path === '-' ? 0 : path)));
  } catch (error) {
    return fail(
      'unreadable',
      path,
      `${path} cannot be read: ${error instanceof Error ? error.message.split(',')[0] : String(error)}.`,
    );
  }
}

export function withBuild(path: string | undefined, use: (build: Build) => Result<Answer>): Result<Answer> {
  const bytes = readBytes(path, 'build file');
  if (!bytes.ok) return bytes;
  const read = readBundle(bytes.value);
  if (!read.ok) return { ok: false, problem: { ...read.problem, sentence: `${path}: ${read.problem.sentence}` } };
  return use(read.value.build);
}

export const named = (path: string | undefined, failed: Failure): Failure => ({
  ok: false,
  problem: { ...failed.problem, sentence: `${path ?? ''}: ${failed.problem.sentence}` },
});

export function readText(path: string | undefined, what: string): Result<string> {
  const bytes = readBytes(path, what);
  return bytes.ok ? ok(new TextDecoder().decode(bytes.value)) : bytes;
}
