import type { Build } from '../build/schema';
import { relayEnd, type PartId } from '../ends/ends';
import { USUAL_CONTACT_AMPS } from '../topology/parts';
import type { FeedPlan } from './feed-plan';
import type { Flow, Flows } from './flow';
import type { Rush } from './inrush';

/** What contacts of plug-in relays carry for good, amperes (common practice: 30 and 40 with blades of 6.3 mm, 70 with 9.5 mm). */
const LARGER = 40;
const LARGEST = 70;
export const contactRatings = [USUAL_CONTACT_AMPS, LARGER, LARGEST] as const;
/** A contact makes so many times what it carries for good, without welding (common practice, from memory). */
export const MAKES_TIMES = 3;

/** What asks for a contact: the load for good, what it takes as it is switched on, or that none is smaller. */
export type ContactSetBy = 'person' | 'PW-15' | 'PW-21' | 'usual';

/** A relay of the plan with the contact it needs. */
export interface SizedRelay {
  readonly contactAmps: number;
  readonly byPerson: boolean;
  readonly setBy: ContactSetBy;
  /** What its contact carries with everything on. */
  readonly flow: Flow;
  /** What is switched on behind it at once; null where nothing takes more than it always does. */
  readonly rush: Rush | null;
}

/** A load that is just what is marked is carried. */
const CLOSE = 1e-9;
export const carries = (contactAmps: number, { rms }: Flow): boolean => rms <= contactAmps + CLOSE;
export const makes = (contactAmps: number, rush: Pick<Rush, 'amps'> | null): boolean =>
  rush === null || rush.amps <= MAKES_TIMES * contactAmps;

const NOTHING: Flow = { mean: 0, rms: 0, peak: 0 };

/** Each relay with the smallest contact that carries and makes what hangs on it; the largest where none does. */
export function contactsOf(
  build: Build,
  plan: FeedPlan,
  flows: Flows,
  rushes: readonly Rush[],
): ReadonlyMap<PartId, SizedRelay> {
  const found = new Map<PartId, SizedRelay>();
  for (const { id, name, part, proposed } of plan.parts.values()) {
    if (part.kind !== 'relay') continue;
    const flow = flows.at.get(relayEnd(name, '87')) ?? NOTHING;
    const rush = rushes.find(({ relay }) => relay === name) ?? null;
    const byPerson = !proposed || build.feeds.changes[id]?.contactAmps !== undefined;
    const carrying = contactRatings.find((rating) => carries(rating, flow));
    const making = contactRatings.find((rating) => rating >= (carrying ?? Infinity) && makes(rating, rush));
    const least = making ?? carrying ?? contactRatings[contactRatings.length - 1]!;
    const reason = least === contactRatings[0] ? 'usual' : least === carrying ? 'PW-15' : 'PW-21';
    found.set(id, {
      contactAmps: byPerson ? part.contactAmps : least,
      byPerson,
      setBy: byPerson ? 'person' : reason,
      flow,
      rush,
    });
  }
  return found;
}

/** The plan with the contacts that were found for relays nobody chose. */
export function withContacts(plan: FeedPlan, relays: ReadonlyMap<PartId, SizedRelay>): FeedPlan {
  const parts = new Map(plan.parts);
  for (const [id, found] of plan.parts) {
    const contactAmps = relays.get(id)?.contactAmps;
    if (found.part.kind === 'relay' && contactAmps !== undefined && contactAmps !== found.part.contactAmps)
      parts.set(id, { ...found, part: { ...found.part, contactAmps } });
  }
  return { ...plan, parts };
}
