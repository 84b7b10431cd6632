import type { Problem } from '~/core/problem';

/** A full device told apart from a refused one. The browser's own words for it differ. */
export const isFull = (error: unknown): boolean =>
  error instanceof DOMException && (error.name === 'QuotaExceededError' || /quota|full/i.test(error.message));

/** What a failed write of an open build means to the person. */
export function saveProblem(error: unknown): Problem {
  return isFull(error)
    ? {
        code: 'quota',
        path: '',
        sentence: 'This device has no room left for the build. It is still here in memory: export it now.',
      }
    : {
        code: 'storage',
        path: '',
        sentence:
          'The browser refused to store the build (private window, or storage turned off). It is still here in memory: export it now.',
      };
}

/** What a failed write means where nothing but the request is lost. */
export function refusedProblem(error: unknown, what: string): Problem {
  return isFull(error)
    ? { code: 'quota', path: '', sentence: `${what}: this device has no room left. Nothing was changed.` }
    : { code: 'storage', path: '', sentence: `${what}: the browser refused to store it. Nothing was changed.` };
}
