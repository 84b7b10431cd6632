import { BUNDLE_LIMITS, readBundle } from '~/core/formats/bundle';
import type { Build } from '~/core/build/schema';
import { emptyHistory } from '~/core/build/history';
import { ok, type Problem, type Result } from '~/core/problem';
import { database } from './database';
import { derive } from './derived';
import { cardOf, readBuild, writeSnapshot } from './persist';
import { readPhotos, writePhotos } from './photos';

export const newId = (): string => crypto.randomUUID();

/** Stores a build as a new one. An id in use is never overwritten: the copy gets its own. */
export async function keepBuild(
  build: Build,
  photos: ReadonlyMap<string, Uint8Array> = new Map(),
): Promise<Result<string>> {
  const db = database();
  const taken = (await db.snapshots.getItem(build.id)) !== null;
  const kept = taken ? { ...build, id: newId() } : build;
  const { progress } = derive(kept);
  const savedAt = new Date().toISOString();
  try {
    await writePhotos(db, kept, photos);
    await writeSnapshot(
      db,
      { build: kept, history: emptyHistory, sequence: 0, savedAt },
      cardOf(kept, progress.wires ? progress.proved.size / progress.wires : 0, savedAt),
    );
  } catch {
    const problem: Problem = {
      code: 'storage',
      path: '',
      sentence: 'The browser refused to store the build: free some space or leave the private window, and try again.',
    };
    return { ok: false, problem };
  }
  return ok(kept.id);
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
  const parsed = readBundle(new Uint8Array(await file.arrayBuffer()));
  if (!parsed.ok)
    return {
      ok: false,
      problem: { ...parsed.problem, sentence: `${file.name}: ${parsed.problem.sentence} Nothing was changed.` },
    };
  const { build, photos, missing } = parsed.value;
  return ok({ build, photos, missingPhotos: missing.length, fileName: file.name, bytes: file.size });
}
