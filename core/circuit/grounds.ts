import type { Build } from '../build/schema';
import { groundEnd } from '../ends/ends';
import { strapOhms } from './battery';
import { parts } from './figures';
import { voltsBetween } from './reading';
import type { Solution } from './solve';

/** What runs to the battery's negative post through the strap and through the body, in a solved state, amperes. */
export function jointAmps(build: Build, solution: Solution): { readonly strap: number; readonly body: number } {
  const above = (place: 'head' | 'chassis') => voltsBetween(solution, groundEnd(place), groundEnd('battery')) ?? 0;
  return { strap: above('head') / strapOhms(build), body: above('chassis') / parts.bodyToBattery.value };
}
