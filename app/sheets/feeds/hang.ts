import type { Build } from '~/core/build/schema';
import type { EndKey } from '~/core/ends/ends';
import { formatAmps, formatVolts } from '~/core/units/format';
import { ifHung } from '~/core/ways/hang';
import { readSize } from '~/core/wire/size';

/** What hanging these loads there would mean, in a line. */
export function hungWords(build: Build, ends: readonly EndKey[], from: EndKey): string {
  const result = ifHung(build, ends, from);
  if (!result.ok) return result.problem.sentence;
  const { feed, drop } = result.value;
  if (!feed) return 'No fuse would protect it.';
  const lost = drop ? `, ${formatVolts(drop.volts)} of ${formatVolts(drop.limitVolts)} lost` : '';
  return `${formatAmps(feed.loadAmps)} through ${feed.fuseAmps} A and ${readSize(feed.squareMm, build)}${lost}`;
}
