import type { Column } from '../columns';

/** A word or phrase as a pattern, and the English term the reader knows; `~` stands for any ending of the word. */
export type Term = readonly [pattern: string, english: string];

/**
 * What a language brings to a page: terms of the trade, and the small words that hold a list together. All are patterns
 * (common practice: general technical vocabulary). Longer phrases are understood before their parts, whatever the language.
 */
export interface LanguageWords {
  readonly terms: readonly Term[];
  /** Words that say nothing of a pin, once the terms around them are English. */
  readonly fillers: string;
  /** What is written where nothing is connected. */
  readonly empty: string;
  readonly plug: string;
  readonly pin: string;
  /** `14 of P2`. */
  readonly of: string;
  /** `A1 to A4`. */
  readonly to: string;
  /** `A1 and A2`. */
  readonly and: string;
  /** `Pin 4 is ...`. */
  readonly is: string;
  /** Heads of columns. */
  readonly heads: Partial<Readonly<Record<Column, string>>>;
}
