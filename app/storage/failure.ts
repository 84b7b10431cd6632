import { ZodError } from 'zod';
import type { Problem } from '~/core/problem';

/** A full device told apart from a refused one. The browser's own words for it differ. */
export const isFull = (error: unknown): boolean =>
  error instanceof DOMException && (error.name === 'QuotaExceededError' || /quota|full/i.test(error.message));

/** A fault of our own, which the browser has nothing to do with. */
const isBug = (error: unknown): boolean =>
  [TypeError, ReferenceError, RangeError, SyntaxError, ZodError].some((kind) => error instanceof kind);

/** The first line of what went wrong. */
export const messageOf = (error: unknown): string =>
  (error instanceof Error ? error.message : String(error)).split('\n')[0].slice(0, 200);

/** What a failed write of an open build means to the person. */
export function saveProblem(error: unknown): Problem {
  const still = 'It is still here in memory: export it now.';
  if (isFull(error))
    return { code: 'quota', path: '', sentence: `This device has no room left for the build. ${still}` };
  if (isBug(error))
    return {
      code: 'bug',
      path: '',
      sentence: `Gonyx itself failed to store the build: please report '${messageOf(error)}'. ${still}`,
    };
  return {
    code: 'storage',
    path: '',
    sentence: `The browser refused to store the build (private window, or storage turned off). ${still}`,
  };
}

/** What a failed write means where nothing but the request is lost. */
export function refusedProblem(error: unknown, what: string): Problem {
  if (isFull(error))
    return { code: 'quota', path: '', sentence: `${what}: this device has no room left. Nothing was changed.` };
  if (isBug(error))
    return {
      code: 'bug',
      path: '',
      sentence: `${what}: Gonyx itself failed at it, please report '${messageOf(error)}'. Nothing was changed.`,
    };
  return { code: 'storage', path: '', sentence: `${what}: the browser refused to store it. Nothing was changed.` };
}
