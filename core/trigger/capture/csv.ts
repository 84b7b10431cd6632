import { plural } from '../../units/format';
import { fail, ok, type Result } from '../../problem';
import { TimeLine, evenTime, joined, type Capture, type CaptureReader, type TimeBase } from './capture';
import { asSteps } from './steps';
import { cellsOf, endOfLine, layoutOf, leftOut, type CsvLayout } from './layout';

/** Bytes looked at before the rows are read. */
const LOOK = 1 << 16;
/** Rows stored at a time; a multiple of GROUP. */
const BLOCK = 1 << 18;
/** While times run evenly only every so many-th is read; one that is off sends the reader back to the group's start. */
const GROUP = 256;
/** A file that keeps sending the reader back is read time by time. */
const PATIENCE = 12;
/** Share of a printed tick within which times of uneven rows lie on one line. */
const EXACT = 0.01;
const LINE_MOST = 1 << 16;
const [LF, CR, SPACE, PLUS, MINUS, ZERO, E_LARGE, E_SMALL] = [10, 13, 32, 43, 45, 48, 69, 101];
const powers = Float64Array.from({ length: 25 }, (_, places) => 10 ** -places);

/**
 * Reads a text of samples in one pass over its bytes: figures are built digit by digit, nothing is cut into strings.
 * Cost: one step a byte; the times of evenly sampled rows are stepped over and proved once a group.
 */
class CsvReader implements CaptureReader {
  private look: Uint8Array[] = [];
  private looked = 0;
  private layout: CsvLayout | null = null;
  private carry = new Uint8Array(0);
  private line: TimeLine | null = null;
  private blocks: Float32Array[][] = [];
  private current: Float32Array[] = [];
  private count = 0;
  /** Number of the line being read, from 1. */
  private lineNumber = 1;
  private bad = 0;
  private firstBad = 0;
  private missing = 0;
  private rewinds = 0;
  /** Rows up to this one are read time by time. */
  private careUntil = -1;
  /** Value of one unit of the last decimal place, by channel (16 each) and decimals. */
  private scaled = new Float64Array(0);
  /** Bytes of the last time's text, 0 when it may not be stepped over. */
  private timeLength = 0;
  private lastSeconds = Number.NEGATIVE_INFINITY;
  private failure: Result<never> | null = null;

  push(bytes: Uint8Array): Result<null> {
    if (this.failure) return this.failure;
    if (this.layout) return this.rows(bytes);
    this.look.push(bytes.slice());
    this.looked += bytes.length;
    return this.looked < LOOK ? ok(null) : this.start(false);
  }

  finish(): Result<Capture> {
    if (this.failure) return this.failure;
    if (!this.layout) {
      const started = this.start(true);
      if (!started.ok) return started;
    }
    if (this.carry.length > 0) {
      const last = new Uint8Array(this.carry.length + 1);
      last.set(this.carry);
      last[this.carry.length] = LF;
      this.carry = new Uint8Array(0);
      const read = this.lines(last, 0, last.length);
      if (!read.ok) return read;
    }
    const layout = this.layout!;
    if (this.count < 2)
      return fail('too-short', '', `The file has ${plural(this.count, 'row')} of figures: too few for a capture.`);
    if (this.bad > this.count)
      return fail(
        'not-capture',
        `line ${this.firstBad}`,
        `Most lines are no rows of figures, the first is line ${this.firstBad}.`,
      );
    const channels = layout.columns.map(({ name, unit }, at) => ({
      name,
      unit,
      values: joined(this.blocks, at, this.count, BLOCK),
    }));
    const time: TimeBase = layout.timeColumn === null ? evenTime(this.count, layout.step) : this.line!.finish();
    const rows: Capture = { format: 'csv', channels, time, count: this.count, notes: layout.notes };
    const read = layout.uneven ? asSteps(rows, layout.resolution) : rows;
    // Between two changes nothing is missing.
    const holes = read === rows ? (this.line?.holes ?? []) : [];
    const { missing, bad, firstBad } = this;
    return ok({ ...read, holes, notes: [...read.notes, ...leftOut({ gaps: holes.length, missing, bad, firstBad })] });
  }

  private start(whole: boolean): Result<null> {
    const bytes = new Uint8Array(this.looked);
    this.look.reduce((at, piece) => (bytes.set(piece, at), at + piece.length), 0);
    this.look = [];
    // Large pieces bring more than is needed to tell the columns; the time it takes would show.
    const seen = bytes.subarray(0, LOOK);
    const layout = layoutOf(new TextDecoder('utf-8').decode(seen), whole && seen.length === bytes.length);
    if (!layout.ok) return (this.failure = layout);
    this.layout = layout.value;
    const { step, resolution, uneven } = layout.value;
    // Uneven rows are read time by time: two that happen to lie as far apart as the last say nothing of those between.
    if (uneven) this.careUntil = Number.POSITIVE_INFINITY;
    this.line = new TimeLine(step, uneven ? EXACT * resolution : Math.max(step * 0.02, resolution * 1.01));
    this.scaled = Float64Array.from(
      { length: layout.value.columns.length * 16 },
      (_, i) => layout.value.columns[i >> 4]!.scale * powers[i & 15]!,
    );
    let at = 0;
    for (let skipped = 0; skipped < layout.value.headLines; skipped += 1) {
      const end = endOfLine(bytes, at);
      at = end + 1;
      this.lineNumber += 1;
    }
    return this.rows(bytes.subarray(at));
  }

  /** A piece: the line cut by its start is put together first, the one cut by its end waits. */
  private rows(bytes: Uint8Array): Result<null> {
    let from = 0;
    if (this.carry.length > 0) {
      const end = bytes.indexOf(LF);
      const upTo = end < 0 ? bytes.length : end + 1;
      const joined = new Uint8Array(this.carry.length + upTo);
      joined.set(this.carry);
      joined.set(bytes.subarray(0, upTo), this.carry.length);
      if (joined.length > LINE_MOST)
        return (this.failure = fail(
          'long-line',
          `line ${this.lineNumber}`,
          `Line ${this.lineNumber} does not end: this is not a capture.`,
        ));
      if (end < 0) {
        this.carry = joined;
        return ok(null);
      }
      this.carry = new Uint8Array(0);
      const read = this.lines(joined, 0, joined.length);
      if (!read.ok) return (this.failure = read);
      from = upTo;
    }
    const last = bytes.lastIndexOf(LF);
    if (last < from) {
      this.carry = bytes.slice(from);
      return ok(null);
    }
    this.carry = bytes.slice(last + 1);
    const read = this.lines(bytes, from, last + 1);
    return read.ok ? read : (this.failure = read);
  }

  private grow(): void {
    this.current = this.layout!.columns.map(() => new Float32Array(BLOCK));
    this.blocks.push(this.current);
  }

  /** Whole lines, `bytes[to - 1]` being the end of one. */
  private lines(bytes: Uint8Array, from: number, to: number): Result<null> {
    const layout = this.layout!;
    const { cells, timeColumn, timeScale } = layout;
    const delimiter = layout.delimiter.charCodeAt(0);
    const decimal = layout.decimal.charCodeAt(0);
    const slots = new Int8Array(cells).fill(-1);
    layout.columns.forEach((column, slot) => (slots[column.at] = slot));
    const scales = layout.columns.map(({ scale }) => scale);
    const plain = delimiter !== SPACE;
    const line = this.line!;
    let at = from;
    let count = this.count;
    let groupAt = -1;
    let groupCount = 0;
    let before = { line: 0, bad: 0, missing: 0, seconds: 0 };
    // Rows whose time was stepped over since the last that was proved.
    let unproved = 0;
    let back = false;
    for (;;) {
      if (back || (at >= to && unproved > 0)) {
        // Somewhere in this group the time may not be even: read it again, time by time.
        this.careUntil = groupCount + GROUP - 1;
        at = groupAt;
        count = groupCount;
        this.lineNumber = before.line;
        this.bad = before.bad;
        this.missing = before.missing;
        this.lastSeconds = before.seconds;
        this.timeLength = 0;
        unproved = 0;
        if (back) this.rewinds += 1;
        if (this.rewinds > PATIENCE) this.careUntil = Number.POSITIVE_INFINITY;
        back = false;
      }
      if (at >= to) break;
      const place = count % BLOCK;
      if (place === 0 && count === this.blocks.length * BLOCK) this.grow();
      const current = this.current;
      const rowAt = at;
      let whole = true;
      let seconds = Number.NaN;
      // The time of a row whose neighbours were even is stepped over; the last of a group is read and proves the rest.
      const inGroup = count % GROUP;
      if (inGroup === 0) {
        groupAt = at;
        groupCount = count;
        before = { line: this.lineNumber, bad: this.bad, missing: this.missing, seconds: this.lastSeconds };
      }
      const stepping = plain && timeColumn === 0 && groupAt >= 0 && count > this.careUntil;
      if (stepping && this.timeLength > 0 && inGroup !== 0 && inGroup !== GROUP - 1) {
        const rows = this.stepRows(bytes, at, to, place, GROUP - 1 - inGroup, slots);
        if (rows > 0) {
          at = this.steppedTo;
          count += rows;
          this.lineNumber += rows;
          unproved += rows;
          continue;
        }
      }
      for (let cell = 0; cell < cells; cell += 1) {
        let byte = bytes[at]!;
        let negative = false;
        while (byte === SPACE && plain) byte = bytes[(at += 1)]!;
        if (byte === MINUS || byte === PLUS) {
          negative = byte === MINUS;
          byte = bytes[(at += 1)]!;
        }
        let digits = (byte - ZERO) >>> 0;
        if (digits > 9) {
          whole = false;
          break;
        }
        let value = digits;
        byte = bytes[(at += 1)]!;
        while ((digits = (byte - ZERO) >>> 0) <= 9) {
          value = value * 10 + digits;
          byte = bytes[(at += 1)]!;
        }
        if (byte === decimal) {
          const point = at;
          byte = bytes[(at += 1)]!;
          while ((digits = (byte - ZERO) >>> 0) <= 9) {
            value = value * 10 + digits;
            byte = bytes[(at += 1)]!;
          }
          value *= powers[Math.min(24, at - point - 1)]!;
        }
        if (byte === E_LARGE || byte === E_SMALL) {
          byte = bytes[(at += 1)]!;
          const down = byte === MINUS;
          if (down || byte === PLUS) byte = bytes[(at += 1)]!;
          let exponent = 0;
          while ((digits = (byte - ZERO) >>> 0) <= 9) {
            exponent = exponent * 10 + digits;
            byte = bytes[(at += 1)]!;
          }
          value *= down ? 1 / 10 ** Math.min(300, exponent) : 10 ** Math.min(300, exponent);
        }
        while (byte === SPACE && plain) byte = bytes[(at += 1)]!;
        if (byte === delimiter) {
          if (cell === cells - 1) {
            whole = false;
            break;
          }
          at += 1;
        } else if (byte === LF || byte === CR) {
          if (cell !== cells - 1) {
            whole = false;
            break;
          }
        } else {
          whole = false;
          break;
        }
        if (negative) value = -value;
        const slot = slots[cell]!;
        if (slot >= 0) current[slot]![place] = value * scales[slot]!;
        else if (cell === timeColumn) {
          seconds = value * timeScale;
          this.timeLength = at - 1 - rowAt;
        }
      }
      if (whole) {
        if (bytes[at] === CR) at += 1;
        at += 1;
      } else {
        // Signs, exponents, quotes, spaces, missing or too many cells: the slow way, for this row only.
        const end = endOfLine(bytes, rowAt);
        const text = new TextDecoder('utf-8').decode(bytes.subarray(rowAt, end));
        at = end + 1;
        this.timeLength = 0;
        const read = this.slowRow(text, current, place);
        if (read === null) {
          this.lineNumber += 1;
          continue;
        }
        seconds = read;
      }
      this.lineNumber += 1;
      if (timeColumn !== null && !Number.isNaN(seconds)) {
        if (seconds < this.lastSeconds && stepping) {
          back = true;
          continue;
        }
        if (seconds < this.lastSeconds) {
          this.count = count;
          return fail(
            'time-runs-back',
            `line ${this.lineNumber - 1}`,
            `The time runs back in line ${this.lineNumber - 1}: the file seems to hold two captures, one after the other.`,
          );
        }
        if (!stepping) line.add(count, seconds);
        else if (line.follows(count, seconds)) {
          if (inGroup === GROUP - 1) line.add(count, seconds);
          unproved = 0;
        } else {
          back = true;
          continue;
        }
        this.lastSeconds = seconds;
      }
      count += 1;
    }
    this.count = count;
    return ok(null);
  }

  private steppedTo = 0;
  /** Rows of plain figures whose times are as long as the last one's: how many were read, up to `most`. */
  private stepRows(bytes: Uint8Array, from: number, to: number, place: number, most: number, slots: Int8Array): number {
    const layout = this.layout!;
    const { cells } = layout;
    const delimiter = layout.delimiter.charCodeAt(0);
    const decimal = layout.decimal.charCodeAt(0);
    const step = this.timeLength;
    const current = this.current;
    const scaled = this.scaled;
    const last = cells - 1;
    let rows = 0;
    let at = from;
    while (rows < most && at < to && bytes[at + step] === delimiter) {
      let next = at + step + 1;
      let cell = 1;
      for (; cell < cells; cell += 1) {
        let byte = bytes[next]!;
        let negative = false;
        if (byte === MINUS) {
          negative = true;
          byte = bytes[++next]!;
        }
        const start = next;
        let value = (byte - ZERO) | 0;
        if (value < 0 || value > 9) break;
        let digit = ((byte = bytes[++next]!) - ZERO) | 0;
        while (digit >= 0 && digit <= 9) {
          value = (Math.imul(value, 10) + digit) | 0;
          digit = ((byte = bytes[++next]!) - ZERO) | 0;
        }
        let places = 0;
        if (byte === decimal) {
          const point = next;
          digit = ((byte = bytes[++next]!) - ZERO) | 0;
          while (digit >= 0 && digit <= 9) {
            value = (Math.imul(value, 10) + digit) | 0;
            digit = ((byte = bytes[++next]!) - ZERO) | 0;
          }
          places = next - point - 1;
        }
        // Nine digits and a point fit 31 bits; more are for the general way.
        if (next - start > 10) break;
        if (cell === last) {
          if (byte !== LF && (byte !== CR || bytes[next + 1] !== LF)) break;
          next += byte === LF ? 1 : 2;
        } else {
          if (byte !== delimiter) break;
          next += 1;
        }
        const slot = slots[cell]!;
        if (slot >= 0) current[slot]![place] = (negative ? -value : value) * scaled[slot * 16 + places]!;
      }
      if (cell < cells) break;
      at = next;
      rows += 1;
      place += 1;
    }
    this.steppedTo = at;
    return rows;
  }

  /** A row with anything but plain figures in it. Its seconds; NaN when stepped over; null when it is no row. */
  private slowRow(text: string, current: readonly Float32Array[], place: number): number | null {
    const layout = this.layout!;
    if (text.trim() === '') return null;
    const read = cellsOf(layout, text);
    if (!read) {
      this.bad += 1;
      if (this.firstBad === 0) this.firstBad = this.lineNumber;
      return null;
    }
    const { seconds, values } = read;
    values.forEach((value, slot) => {
      if (Number.isNaN(value)) this.missing += 1;
      current[slot]![place] = value * layout.columns[slot]!.scale;
    });
    return seconds * layout.timeScale;
  }
}

export const csvReader = (): CaptureReader => new CsvReader();
