import { BUNDLE_LIMITS, readBundle } from '~/core/formats/bundle';
import type { Build } from '~/core/build/schema';
import { emptyHistory } from '~/core/build/history';
import { ok, type Result } from '~/core/problem';
import { database } from './database';
import { refusedProblem } from './failure';
import { takePen } from './pen';
import { readPhotos, writePhotos } from './photos';
import { readBuild } from './read';
import { askToStay } from './room';
import { cardFor } from './saver';
import { writeSnapshot } from './write';

export const newId = (): string => crypto.randomUUID();

/**
 * Stores a build as a new one: photographs first, then the build, then its card. An id in use, in the bin or being written by
 * another tab is never written over: the copy gets its own.
 */
export async function keepBuild(
  build: Build,
  photos: ReadonlyMap<string, Uint8Array> = new Map(),
  own = true,
  refused = 'The build was not stored',
): Promise<Result<string>> {
  const db = database();
  try {
    const pen = await takePen(build.id);
    try {
      const taken =
        pen === null || (await db.snapshots.getItem(build.id)) !== null || (await db.bin.getItem(build.id)) !== null;
      const kept = taken ? { ...build, id: newId() } : build;
      const card = await cardFor(db, kept, new Date().toISOString());
      await writePhotos(db, kept, photos);
      const nothing = { keys: new Map(), stored: new Set<never>(), contained: [], forgotten: [] };
      await writeSnapshot(db, kept, emptyHistory, { writer: newId(), sequence: 0 }, nothing, card);
      if (own) void askToStay();
      return ok(kept.id);
    } finally {
      pen?.release();
    }
  } catch (error) {
    return { ok: false, problem: refusedProblem(error, refused) };
  }
}

export async function duplicateBuild(id: string): Promise<Result<string>> {
  const read = await readBuild(database(), id);
  if (!read.ok) return read;
  const { photos } = await readPhotos(database(), read.value.build);
  return keepBuild({ ...read.value.build, id: newId(), name: `${read.value.build.name.slice(0, 72)} (copy)` }, photos);
}

export async function readForExport(id: string): Promise<Result<Build>> {
  const read = await readBuild(database(), id);
  return read.ok ? ok(read.value.build) : read;
}

/** What an import would bring, before anything is written. */
export interface ImportPreview {
  readonly build: Build;
  readonly photos: ReadonlyMap<string, Uint8Array>;
  /** Photographs the build names and the file does not carry. */
  readonly missingPhotos: number;
  readonly fileName: string;
  readonly bytes: number;
}

/** Some sentences say already that nothing was changed: once is enough. */
const withoutPromise = (sentence: string): string => sentence.replace(/ Nothing was changed\.$/, '');

export async function previewImport(file: File): Promise<Result<ImportPreview>> {
  // Only the size is believed before the text is read.
  if (file.size > BUNDLE_LIMITS.bytes)
    return {
      ok: false,
      problem: {
        code: 'too-large',
        path: '',
        sentence: `${file.name} is larger than ${BUNDLE_LIMITS.bytes / 1e6} MB: it is not a Gonyx build. Nothing was changed.`,
      },
    };
  const parsed = readBundle(new Uint8Array(await file.arrayBuffer()), { standIn: newId() });
  if (!parsed.ok)
    return {
      ok: false,
      problem: {
        ...parsed.problem,
        sentence: `${file.name}: ${withoutPromise(parsed.problem.sentence)} Nothing was changed.`,
      },
    };
  const { build, photos, missing } = parsed.value;
  return ok({ build, photos, missingPhotos: missing.length, fileName: file.name, bytes: file.size });
}
