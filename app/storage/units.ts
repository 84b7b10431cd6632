import { useSyncExternalStore } from 'react';
import { defaultUnits, unitsSchema, type Units } from '~/core/units/units';

const KEY = 'gonyx-units';
const listeners = new Set<() => void>();
/** What was parsed last, so that the same text is the same units. */
let known: { readonly text: string; readonly units: Units } | null = null;

/** Units this person chose last: what a new build starts with. */
export function lastUnits(): Units {
  try {
    const text = localStorage.getItem(KEY) ?? 'null';
    // A setting of today's that an older choice does not know stands at its default.
    if (known?.text !== text)
      known = { text, units: unitsSchema.safeParse({ ...defaultUnits, ...JSON.parse(text) }).data ?? defaultUnits };
    return known.units;
  } catch {
    // Storage turned off, or not ours: the defaults serve.
    return defaultUnits;
  }
}
export function rememberUnits(units: Units): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(units));
  } catch {
    // A convenience only; the build itself keeps its units.
  }
  for (const tell of listeners) tell();
}

function listen(tell: () => void): () => void {
  listeners.add(tell);
  return () => listeners.delete(tell);
}
/** The same for a page without a build; the server knows the defaults only. */
export const useLastUnits = (): Units => useSyncExternalStore(listen, lastUnits, () => defaultUnits);
