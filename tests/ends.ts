import { endKey, readEnd, type EndKey } from '~/core/ends/ends';

/** An end as a test writes it; a text that names none fails the test. */
export function endNamed(text: string): EndKey {
  const ref = readEnd(text);
  if (!ref) throw new Error(`${text} names no end`);
  return endKey(ref);
}
