import type { PlannedPart } from './propose';
import type { Sections } from './plan';

/** Fuses and relays of a box, relays last, as they stand in rows of their own; of no box: what stands in none. */
export function inBox({ plan }: Pick<Sections, 'plan'>, box: string | undefined): PlannedPart[] {
  const inside = [...plan.parts.values()].filter(
    ({ part }) => (part.kind === 'fuse' || part.kind === 'relay') && part.box === box,
  );
  const isRelay = ({ part }: PlannedPart) => Number(part.kind === 'relay');
  return inside.sort((one, other) => isRelay(one) - isRelay(other));
}

/** What a box draws with everything on, amperes: its fuses that hang on no other fuse of it. */
export function boxAmps(power: Pick<Sections, 'plan' | 'circuits'>, box: string): number {
  const fuses = new Set(inBox(power, box).flatMap(({ part, name }) => (part.kind === 'fuse' ? [name] : [])));
  return power.circuits
    .filter(({ id, upstream }) => fuses.has(id) && (upstream === null || !fuses.has(upstream)))
    .reduce((sum, { loadAmps }) => sum + loadAmps, 0);
}
