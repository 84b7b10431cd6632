import { serve, type Ask } from '../ecu/ask';
import type { Ability, Pin } from '../ecu/ecu';
import type { Need } from '../netlist/needs';

/** Ways to give the needs of a pair their pins that are looked at, over all pairs of the ECU; beyond, nothing is proven. */
const MOST_WAYS = 4000;

/** A pin that can serve, by its place in the model. */
export interface Offer {
  readonly pin: number;
  readonly ability: Ability;
  readonly versatile: number;
}

/** Pairs of the ECU on which a pin serves an ask; a pin that cannot serve it is on none. */
export const pairsAt = (pin: Pin, ask: Ask): Set<string> =>
  new Set(pin.abilities.flatMap(({ pair }) => (pair !== undefined && serve(pin, ask, pair).ability ? [pair] : [])));

/** What all sets hold. */
export const common = (sets: readonly ReadonlySet<string>[]): Set<string> =>
  sets.length === 0 ? new Set() : new Set([...sets[0]!].filter((one) => sets.every((set) => set.has(one))));

interface Way {
  readonly pair: string;
  readonly pins: readonly number[];
  readonly versatile: number;
}

/**
 * Every way to give the needs of a pair a pin each on one pair of the ECU, up to `MOST_WAYS`. Members are few (two to four),
 * so the ways are. `bound` are the pairs that the needs already settled allow; null when none is.
 */
export function pairWays(
  needs: readonly Need[],
  offersOn: (need: Need, pair: string) => readonly Offer[],
  names: ReadonlySet<string>,
  bound: ReadonlySet<string> | null,
): { ways: Way[]; whole: boolean } {
  const ways: Way[] = [];
  for (const pair of names) {
    if (bound && !bound.has(pair)) continue;
    const lists = needs.map((need) => offersOn(need, pair));
    const chosen: Offer[] = [];
    const settle = (index: number): boolean => {
      if (index === lists.length) {
        if (ways.length >= MOST_WAYS) return false;
        ways.push({
          pair,
          pins: chosen.map(({ pin }) => pin),
          versatile: chosen.reduce((sum, { versatile }) => sum + versatile, 0),
        });
        return true;
      }
      return lists[index]!.every((offer) => {
        if (chosen.some((one) => one.pin === offer.pin)) return true;
        chosen.push(offer);
        const going = settle(index + 1);
        chosen.pop();
        return going;
      });
    };
    if (!settle(0)) return { ways, whole: false };
  }
  return { ways, whole: true };
}
