import { natural } from '../data/natural';
import { groupBy } from '../data/group';
import { decisionWords, groupWords, isRestraint, type Decision, type DonorGroup, type DonorWire } from './wire';

/** The wires of a build in the order of their rows. */
export const donorList = (donor: Readonly<Record<string, DonorWire>>): DonorWire[] =>
  Object.values(donor).sort((one, other) => one.row - other.row);

export interface DonorFilter {
  /** Words that must all occur somewhere in the row. */
  readonly text: string;
  readonly decision: Decision | 'all';
  readonly group: DonorGroup | 'all';
}
export const allWires: DonorFilter = { text: '', decision: 'all', group: 'all' };

const rowText = (wire: DonorWire): string =>
  [
    wire.connector,
    wire.cavity,
    wire.colour,
    wire.size,
    wire.function,
    wire.condition,
    wire.splice,
    wire.moveTo,
    wire.note,
    decisionWords[wire.decision],
    groupWords[wire.group],
    ...Object.values(wire.extra),
  ]
    .join(' ')
    .toLowerCase();

/** Rows that hold every word of the text, with the decision and pile asked for. */
export function filterWires(wires: readonly DonorWire[], filter: DonorFilter): DonorWire[] {
  const asked = filter.text.toLowerCase().split(/\s+/).filter(Boolean);
  return wires.filter((wire) => {
    if (filter.decision !== 'all' && wire.decision !== filter.decision) return false;
    if (filter.group !== 'all' && wire.group !== filter.group) return false;
    if (asked.length === 0) return true;
    const text = rowText(wire);
    return asked.every((word) => text.includes(word));
  });
}

export const donorColumns = ['connector', 'cavity', 'colour', 'size', 'function', 'condition', 'splice'] as const;
export type SortColumn = (typeof donorColumns)[number] | 'row' | 'decision' | 'group';

/** Natural order, so that cavity 10 comes after 9; rows decide ties, so that a sort can be relied on. */

/** Sorted by a column; wires of one splice stay together behind the first of them. */
export function sortWires(
  wires: readonly DonorWire[],
  column: SortColumn,
  direction: 'ascending' | 'descending' = 'ascending',
): DonorWire[] {
  const sign = direction === 'ascending' ? 1 : -1;
  const key = (wire: DonorWire): string => String(wire[column]);
  const sorted = [...wires].sort((one, other) => {
    const first = column === 'row' ? one.row - other.row : natural(key(one), key(other));
    return first * sign || natural(one.cavity, other.cavity) || one.row - other.row;
  });
  return together(sorted);
}

/** Wires that share a splice directly behind one another, where the first of them stood. */
export function together(wires: readonly DonorWire[]): DonorWire[] {
  const bySplice = groupBy(
    wires.filter((wire) => spliceKey(wire) !== ''),
    spliceKey,
  );
  const done = new Set<string>();
  return wires.flatMap((wire) => {
    const splice = spliceKey(wire);
    if (splice === '') return [wire];
    if (done.has(splice)) return [];
    done.add(splice);
    return bySplice.get(splice)!;
  });
}

export const spliceKey = (wire: Pick<DonorWire, 'splice'>): string => wire.splice.trim().toLowerCase();

export interface DonorCounts {
  readonly total: number;
  readonly byDecision: Readonly<Record<Decision, number>>;
  readonly byGroup: Readonly<Record<DonorGroup, number>>;
  readonly restraint: number;
  /** Wires a hand still has to decide: open, and not locked. */
  readonly open: number;
}

export function countWires(wires: readonly DonorWire[]): DonorCounts {
  const byDecision: Record<Decision, number> = { open: 0, keep: 0, extend: 0, move: 0, remove: 0, mystery: 0 };
  const byGroup: Record<DonorGroup, number> = { none: 0, engine: 0, body: 0 };
  let restraint = 0;
  let open = 0;
  for (const wire of wires) {
    byDecision[wire.decision] += 1;
    byGroup[wire.group] += 1;
    if (isRestraint(wire)) restraint += 1;
    else if (wire.decision === 'open') open += 1;
  }
  return { total: wires.length, byDecision, byGroup, restraint, open };
}

/** Splices whose wires are to meet different ends: some stay, some go, so the joint must be opened. */
export function splitSplices(wires: readonly DonorWire[]): { splice: string; stay: DonorWire[]; go: DonorWire[] }[] {
  const groups = groupBy(
    wires.filter((wire) => spliceKey(wire) !== ''),
    spliceKey,
  );
  return [...groups.values()].flatMap((group) => {
    const go = group.filter((wire) => wire.decision === 'remove');
    const stay = group.filter((wire) => ['keep', 'extend', 'move'].includes(wire.decision));
    return go.length > 0 && stay.length > 0 ? [{ splice: group[0]!.splice.trim(), stay, go }] : [];
  });
}
