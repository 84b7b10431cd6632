import { z } from 'zod';

/**
 * One kind of difference for undo, journal, revisions and tabs: what was added, changed or removed, by path.
 * Values are plain JSON, so a difference survives storage. Arrays of equal length are compared place by place,
 * others are replaced whole: undo applies differences last in, first out, so that is exact.
 */
export const changeSchema = z.object({
  path: z.array(z.union([z.string(), z.number()])),
  /** Absent: added. */
  from: z.unknown().optional(),
  /** Absent: removed. */
  to: z.unknown().optional(),
});
export type Change = z.infer<typeof changeSchema>;

type Path = (string | number)[];

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Differences that turn `before` into `after`. Shared structure is skipped by reference. */
export function diff(before: unknown, after: unknown, path: Path = []): Change[] {
  if (Object.is(before, after)) return [];
  if (Array.isArray(before) && Array.isArray(after) && before.length === after.length)
    return before.flatMap((value, index) => diff(value, after[index], [...path, index]));
  if (isRecord(before) && isRecord(after)) {
    const keys = new Set([...Object.keys(before), ...Object.keys(after)]);
    return [...keys].flatMap((key): Change[] => {
      if (!(key in after)) return [{ path: [...path, key], from: before[key] }];
      if (!(key in before)) return [{ path: [...path, key], to: after[key] }];
      return diff(before[key], after[key], [...path, key]);
    });
  }
  if (JSON.stringify(before) === JSON.stringify(after)) return [];
  return [{ path, from: before, to: after }];
}

export const invert = (changes: readonly Change[]): Change[] =>
  [...changes].reverse().map(({ path, ...rest }) => ({
    path,
    ...('to' in rest ? { from: rest.to } : {}),
    ...('from' in rest ? { to: rest.from } : {}),
  }));

function applyOne(target: unknown, path: Path, depth: number, change: Change): unknown {
  if (depth === path.length) return change.to;
  const key = path[depth];
  if (Array.isArray(target)) {
    const copy = [...(target as unknown[])];
    copy[key as number] = applyOne(copy[key as number], path, depth + 1, change);
    return copy;
  }
  const copy: Record<string, unknown> = { ...(target as Record<string, unknown>) };
  if (depth === path.length - 1 && !('to' in change)) delete copy[key];
  else copy[key] = applyOne(copy[key], path, depth + 1, change);
  return copy;
}

/** Applies differences in order; the input is not touched. */
export const applyChanges = <T>(target: T, changes: readonly Change[]): T =>
  changes.reduce<unknown>((value, change) => applyOne(value, change.path, 0, change), target) as T;
