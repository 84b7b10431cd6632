/*
 * The checks of a gate that are about one sensor, switch (`closed`: while it is; `halt`: what it must stop), output or relay: their ids are kept in the document. They are written and
 * read here and nowhere else.
 */
export type CheckAbout =
  | { readonly of: 'sensor' | 'closed' | 'halt' | 'relay'; readonly needId: string }
  | { readonly of: 'output'; readonly pinId: string };

const SHAPE = /^(sensor|closed|halt|relay|output)-(.+)$/s;

export const checkIdOf = (about: CheckAbout): string =>
  about.of === 'output' ? `output-${about.pinId}` : `${about.of}-${about.needId}`;

/** What a check is about; null for one that is about its gate as a whole. */
export function checkAbout(checkId: string): CheckAbout | null {
  const [, of, id] = SHAPE.exec(checkId) ?? [];
  if (of === undefined || id === undefined) return null;
  return of === 'output' ? { of, pinId: id } : { of: of as 'sensor' | 'closed' | 'halt' | 'relay', needId: id };
}
