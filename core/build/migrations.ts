import { fail, ok, type Result } from '../problem';
import { calibrations } from './migrations/1-calibrations';
import { allotment } from './migrations/2-allot';
import { tracks } from './migrations/3-tracks';
import { evidence } from './migrations/4-evidence';
import { serves } from './migrations/5-serves';
import { grounds } from './migrations/6-grounds';
import { joins } from './migrations/7-joins';
import { feeds } from './migrations/8-feeds';
import { tree } from './migrations/9-tree';
import { cables } from './migrations/10-cables';
import type { Migration } from './migrations/migration';
import { BUILD_SCHEMA_VERSION } from './schema';

/** Version 1 is the first; later steps are appended here, each with a fixture in tests/core/build/fixtures/. */
export const migrations: readonly Migration[] = [
  calibrations,
  allotment,
  tracks,
  evidence,
  serves,
  grounds,
  joins,
  feeds,
  tree,
  cables,
];

/** Throws when the chain has a gap, a duplicate or a missing step: a bug, found at start-up. */
export function checkChain(steps: readonly Migration[], version: number): void {
  for (let from = 1; from < version; from += 1) {
    const count = steps.filter((step) => step.from === from).length;
    if (count !== 1) throw new Error(`migration chain: ${count} steps from version ${from}, expected one`);
  }
  if (steps.length !== version - 1) throw new Error(`migration chain: ${steps.length} steps for version ${version}`);
}
checkChain(migrations, BUILD_SCHEMA_VERSION);

/** Raises a parsed file to `version`, on a copy. A newer file is refused, unharmed. */
export function raise(
  file: Record<string, unknown>,
  steps: readonly Migration[] = migrations,
  version: number = BUILD_SCHEMA_VERSION,
): Result<Record<string, unknown>> {
  const found = file.schemaVersion;
  if (typeof found !== 'number' || !Number.isInteger(found) || found < 1)
    return fail('not-a-build', 'schemaVersion', 'This is not a Gonyx build: it has no schemaVersion.');
  if (found > version)
    return fail(
      'too-new',
      'schemaVersion',
      `This build is version ${found}; this Gonyx reads up to version ${version}. Nothing was changed.`,
    );
  let current = structuredClone(file);
  for (let at = found; at < version; at += 1) {
    const step = steps.find((candidate) => candidate.from === at);
    if (!step) throw new Error(`migration chain: no step from version ${at}`);
    current = { ...step.migrate(current), schemaVersion: at + 1 };
  }
  return ok(current);
}
