import type { Capture, Channel } from '~/core/trigger/capture/capture';
import { fail, ok, type Result } from '~/core/problem';
import { database, type Database } from './database';

/** The capture on a build's bench, as it is kept: what was read of it is worked out again. */
export interface KeptCapture {
  readonly name: string;
  readonly capture: Capture;
}

/** Samples of larger captures are not kept on the device, bytes. */
export const MOST_KEPT_BYTES = 200_000_000;

const bytesOf = ({ channels, time }: Capture): number =>
  channels.reduce((sum, { values }) => sum + values.byteLength, 0) + time.index.byteLength + time.seconds.byteLength;

/**
 * Keeps the last capture of a build in place of the one before. The one before stays when the browser refuses. Captures of
 * builds that are in the garage no more make room.
 */
export async function keepCapture(
  buildId: string,
  kept: KeptCapture,
  db: Pick<Database, 'captures' | 'snapshots'> = database(),
): Promise<Result<null>> {
  if (bytesOf(kept.capture) > MOST_KEPT_BYTES)
    return fail(
      'too-large',
      kept.name,
      `${kept.name} is too large to be kept on this device: open its file again next time.`,
    );
  try {
    const builds = new Set(await db.snapshots.keys());
    const gone = (await db.captures.keys()).filter((id) => id !== buildId && !builds.has(id));
    for (const id of gone) await db.captures.removeItem(id);
    await db.captures.setItem(buildId, kept);
    return ok(null);
  } catch {
    return fail(
      'storage',
      kept.name,
      `There is no room on this device to keep ${kept.name}: open its file again next time.`,
    );
  }
}

/** Also of arrays that come from another window or worker, whose constructors are others. */
const isArray = (value: unknown, name: 'Float32Array' | 'Float64Array'): boolean =>
  Object.prototype.toString.call(value) === `[object ${name}]`;
const isChannel = (value: unknown): value is Channel => {
  const channel = value as Partial<Channel> | null;
  return (
    typeof channel?.name === 'string' && typeof channel.unit === 'string' && isArray(channel.values, 'Float32Array')
  );
};

/** A capture that is whole: a write cut short, or of another version, is none. */
export function isKeptCapture(value: unknown): value is KeptCapture {
  const { name, capture } = (value ?? {}) as Partial<KeptCapture>;
  return (
    typeof name === 'string' &&
    typeof capture?.count === 'number' &&
    Array.isArray(capture.notes) &&
    isArray(capture.time?.index, 'Float64Array') &&
    isArray(capture.time?.seconds, 'Float64Array') &&
    Array.isArray(capture.channels) &&
    capture.channels.length > 0 &&
    capture.channels.every((channel) => isChannel(channel) && channel.values.length === capture.count)
  );
}

/** The capture kept for a build; null when there is none that can be read. */
export async function readCaptureOf(
  buildId: string,
  db: Pick<Database, 'captures'> = database(),
): Promise<KeptCapture | null> {
  try {
    const value = await db.captures.getItem<unknown>(buildId);
    return isKeptCapture(value) ? value : null;
  } catch {
    // A store that cannot be opened keeps nothing; the bench says so when it is written to.
    return null;
  }
}
