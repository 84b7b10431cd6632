import { withId } from '../data/with-id';
import type { Netlist } from '../netlist/netlist';
import { fateOf, type FuseFate } from '../power/fuse';
import { formatAmps } from '../units/format';
import type { Solution } from './solve';

/** A fuse of a solved circuit that does not simply carry what runs through it. */
export interface FuseStory {
  readonly name: string;
  readonly rating: number;
  /** What runs through it, or ran through it until it opened, amperes. */
  readonly amps: number;
  readonly fate: Exclude<FuseFate, { is: 'carries' }>;
}

/** Fuses that open with what runs through them, or may, by the limits of ISO 8820-3. */
export function fuseStories(solution: Solution): FuseStory[] {
  return solution.ir.fuses.flatMap(({ name, amps: rating }, number): FuseStory[] => {
    const amps = solution.fuseAmps(number);
    const fate = fateOf(rating, amps);
    return fate.is === 'carries' ? [] : [{ name, rating, amps, fate }];
  });
}

const seconds = (value: number): string => `${value < 1 ? Number(value.toFixed(2)) : Math.round(value)}`;
/** Such a fuse in words: what runs through it, and when it opens. */
export function storyWords(net: Pick<Netlist, 'circuits'>, { name, rating, amps, fate }: FuseStory): string {
  const called = `${withId(net.circuits, name)?.name ?? name} fuse of ${rating} A: ${formatAmps(amps)} run through it`;
  return fate.is === 'opens'
    ? `${called}, it opens in ${seconds(fate.least)} to ${seconds(fate.most)} s`
    : `${called}, it may open, in ${seconds(fate.least)} s at the soonest, or carry them for good`;
}
