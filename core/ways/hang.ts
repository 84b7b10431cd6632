import type { Build } from '../build/schema';
import { applyEdit, call, type EditCall } from '../edits';
import type { EndKey } from '../ends/ends';
import { ok, type Result } from '../problem';
import { powerPlan } from '../netlist/power-plan';
import type { Circuit } from '../power/plan';
import type { Drop } from '../power/sizes';

export const hangCalls = (ends: readonly EndKey[], from: EndKey): EditCall[] =>
  ends.map((end) => call('hangLoad', { end, from }));

/** What a feed would be with loads hung on it: its section, null where no fuse would stand before them, and the first one's way. */
export interface IfHung {
  readonly feed: Circuit | null;
  readonly drop: Drop | null;
}

export function ifHung(build: Build, ends: readonly EndKey[], from: EndKey): Result<IfHung> {
  let next = build;
  for (const { name, args } of hangCalls(ends, from)) {
    const result = applyEdit(next, name, args);
    if (!result.ok) return result;
    next = result.value.build;
  }
  const { circuits, sizes } = powerPlan(next);
  return ok({
    feed: circuits.find(({ loads }) => loads.some(({ end }) => end === ends[0])) ?? null,
    drop: sizes.drops.find(({ draw }) => draw.end === ends[0]) ?? null,
  });
}
