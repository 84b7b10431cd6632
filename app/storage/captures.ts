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

/** Captures leave this much of the device's room to builds, bytes: many builds and their photographs. */
const ROOM_FOR_BUILDS = 100_000_000;

/** Room left on the device, bytes; null where the browser does not tell. */
async function roomLeft(): Promise<number | null> {
  if (typeof navigator === 'undefined' || !('storage' in navigator)) return null;
  const { quota, usage } = await navigator.storage.estimate();
  return quota === undefined || usage === undefined ? null : quota - usage;
}

const tooLarge = (name: string) =>
  fail('too-large', name, `${name} is too large to be kept on this device: open its file again next time.`);
const noRoom = (name: string) =>
  fail('storage', name, `There is no room on this device to keep ${name}: open its file again next time.`);

/**
 * Keeps the last capture of a build in place of the one before. The one before stays when the browser refuses. Captures of
 * builds that are in the garage no more make room, and no capture takes the room builds are saved in.
 */
export async function keepCapture(
  buildId: string,
  kept: KeptCapture,
  db: Pick<Database, 'captures' | 'snapshots'> = database(),
  room: () => Promise<number | null> = roomLeft,
): Promise<Result<null>> {
  const bytes = bytesOf(kept.capture);
  if (bytes > MOST_KEPT_BYTES) return tooLarge(kept.name);
  try {
    const builds = new Set(await db.snapshots.keys());
    const gone = (await db.captures.keys()).filter((id) => id !== buildId && !builds.has(id));
    for (const id of gone) await db.captures.removeItem(id);
    const left = await room();
    if (left !== null && left - bytes < ROOM_FOR_BUILDS) return noRoom(kept.name);
    await db.captures.setItem(buildId, kept);
    return ok(null);
  } catch {
    return noRoom(kept.name);
  }
}

/** Forgets every kept capture, and tells how many there were: each can be opened from its file again. */
export async function dropCaptures(db: Pick<Database, 'captures'>): Promise<number> {
  const keys = await db.captures.keys();
  for (const key of keys) await db.captures.removeItem(key);
  return keys.length;
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
