import type { Build } from '~/core/build/schema';
import { applyEdit, call, type EditCall } from '~/core/edits';
import type { EndKey } from '~/core/ends/ends';
import { powerPlan } from '~/core/power/plan';
import { formatAmps, formatVolts } from '~/core/units/format';
import { readSize } from '~/core/wire/size';

export const hangCalls = (ends: readonly EndKey[], from: EndKey): EditCall[] =>
  ends.map((end) => call('hangLoad', { end, from }));

/** What the feed would be with these loads on it: its fuse, its wire, and the volts its worst load would lose. */
export function ifHung(build: Build, ends: readonly EndKey[], from: EndKey): string {
  let next = build;
  for (const { name, args } of hangCalls(ends, from)) {
    const result = applyEdit(next, name, args);
    if (!result.ok) return result.problem.sentence;
    next = result.value.build;
  }
  const { circuits, sizes } = powerPlan(next);
  const feed = circuits.find(({ loads }) => loads.some(({ end }) => end === ends[0]));
  const drop = sizes.drops.find(({ draw }) => draw.end === ends[0]);
  if (!feed) return 'No fuse would protect it.';
  const lost = drop ? `, ${formatVolts(drop.volts)} of ${formatVolts(drop.limitVolts)} lost` : '';
  return `${formatAmps(feed.loadAmps)} through ${feed.fuseAmps} A and ${readSize(feed.squareMm, build)}${lost}`;
}
