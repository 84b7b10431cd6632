import { parseBuild } from '~/core/build/parse';
import type { Build } from '~/core/build/schema';
import { emptyHistory } from '~/core/build/history';
import { ok, type Problem, type Result } from '~/core/problem';
import { database } from './database';
import { derive } from './derived';
import { cardOf, readBuild, writeSnapshot } from './persist';

export const newId = (): string => crypto.randomUUID();

/** Stores a build as a new one. An id in use is never overwritten: the copy gets its own. */
export async function keepBuild(build: Build): Promise<Result<string>> {
  const db = database();
  const taken = (await db.snapshots.getItem(build.id)) !== null;
  const kept = taken ? { ...build, id: newId() } : build;
  const { progress } = derive(kept);
  const savedAt = new Date().toISOString();
  try {
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
  return keepBuild({ ...read.value.build, id: newId(), name: `${read.value.build.name.slice(0, 72)} (copy)` });
}

export async function readForExport(id: string): Promise<Result<Build>> {
  const read = await readBuild(database(), id);
  return read.ok ? ok(read.value.build) : read;
}

/** What an import would bring, before anything is written. */
export interface ImportPreview {
  readonly build: Build;
  readonly fileName: string;
  readonly bytes: number;
}

export async function previewImport(file: File): Promise<Result<ImportPreview>> {
  // Only the size is believed before the text is read.
  if (file.size > 20_000_000)
    return {
      ok: false,
      problem: {
        code: 'too-large',
        path: '',
        sentence: `${file.name} is larger than 20 MB: it is not a Gonyx build. Nothing was changed.`,
      },
    };
  const parsed = parseBuild(await file.text());
  if (!parsed.ok)
    return {
      ok: false,
      problem: { ...parsed.problem, sentence: `${file.name}: ${parsed.problem.sentence} Nothing was changed.` },
    };
  return ok({ build: parsed.value, fileName: file.name, bytes: file.size });
}
