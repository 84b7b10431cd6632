import { defaultUnits, unitsSchema, type Units } from '~/core/units/units';

const KEY = 'gonyx-units';

/** Units this person chose last: what a new build starts with. */
export function lastUnits(): Units {
  try {
    return unitsSchema.safeParse(JSON.parse(localStorage.getItem(KEY) ?? 'null')).data ?? defaultUnits;
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
}
