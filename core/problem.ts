/**
 * What a person can cause is returned as data, never thrown: a code for programs, a place, and one plain sentence.
 * Exceptions are kept for bugs.
 */
export interface Problem {
  /** Stable, machine-readable, kebab-case. */
  readonly code: string;
  /** Where: a JSON path such as `devices[3].label`, a line, or a cavity. Empty when the whole input is meant. */
  readonly path: string;
  /** One sentence a person can act on, naming the place and the permitted range. */
  readonly sentence: string;
}

export type Failure = { readonly ok: false; readonly problem: Problem };
export type Result<T> = { readonly ok: true; readonly value: T } | Failure;

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });

export const fail = (code: string, path: string, sentence: string): Failure => ({
  ok: false,
  problem: { code, path, sentence },
});
