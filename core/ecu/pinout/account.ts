import type { Cell } from './cells';

/** What became of a piece of the pasted text. */
export type SpanUse = 'cavity' | 'label' | 'text' | 'lead' | 'connector' | 'heading' | 'empty' | 'note' | 'sign';

/** A piece of the text, what it was read as, and the cavities it speaks of. Spans lie end to end over the whole text. */
export interface Span {
  readonly from: number;
  readonly to: number;
  readonly use: SpanUse;
  readonly pins: readonly string[];
  /** `read as ...` or `left out: ...`, a short phrase. */
  readonly said: string;
}

/** Collects what pieces of a text were read as, and accounts for the rest. */
export class Account {
  private readonly spans: Span[] = [];

  add(cell: Pick<Cell, 'from' | 'to'>, use: SpanUse, said: string, pins: readonly string[] = []): void {
    if (cell.to > cell.from) this.spans.push({ from: cell.from, to: cell.to, use, said, pins });
  }

  /** Every character of the text, in order: what nothing claimed are signs and blanks between the columns. */
  of(text: string): Span[] {
    const all: Span[] = [];
    let at = 0;
    const sign = (to: number) => {
      if (to > at) all.push({ from: at, to, use: 'sign', pins: [], said: 'left out: parts cells or lines' });
    };
    for (const span of [...this.spans].sort((one, other) => one.from - other.from || one.to - other.to)) {
      const from = Math.max(at, span.from);
      if (span.to <= from) continue;
      sign(from);
      all.push({ ...span, from });
      at = span.to;
    }
    sign(text.length);
    return all;
  }
}
