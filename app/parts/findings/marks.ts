import { createContext, useCallback, useContext, useSyncExternalStore } from 'react';
import { Teller } from '../../build/teller';
import type { Selection } from '~/core/netlist/run';
import type { Finding } from '~/core/rules/rule';

/** One name for one thing, whatever it is. */
export const thingKey = (thing: Selection): string =>
  thing.type === 'end'
    ? `end ${thing.end}`
    : thing.type === 'wire'
      ? `wire ${thing.wireId}`
      : thing.type === 'need'
        ? `need ${thing.needId}`
        : `device ${thing.deviceId}`;

const NONE: readonly Finding[] = [];

/** Findings by the thing they are about, so that each stands as a mark at it; and which of them is opened. */
export class Marks extends Teller {
  private byThing: ReadonlyMap<string, readonly Finding[]> = new Map();
  private opened: string | null = null;
  /** Things with a mark on show, and how many of them. */
  private readonly shown = new Map<string, number>();

  /** What is found of a sheet; a thing of which the same is said keeps its list. */
  set(findings: readonly Finding[]): void {
    const made = new Map<string, Finding[]>();
    for (const finding of findings) {
      if (!finding.where) continue;
      const key = thingKey(finding.where);
      const list = made.get(key);
      if (list) list.push(finding);
      else made.set(key, [finding]);
    }
    const kept = new Map<string, readonly Finding[]>(made);
    for (const [key, list] of made) {
      const before = this.byThing.get(key);
      if (before && before.length === list.length && before.every((one, i) => one === list[i])) kept.set(key, before);
    }
    this.byThing = kept;
    this.tell();
  }
  readonly at = (key: string): readonly Finding[] => this.byThing.get(key) ?? NONE;

  readonly openedKey = (): string | null => this.opened;
  /** Opens the mark of a thing, or closes what is open. */
  open(key: string | null): void {
    if (key === this.opened) return;
    this.opened = key;
    this.tell();
  }

  /** A mark stands at a thing until it is called back. */
  show(key: string): () => void {
    this.shown.set(key, (this.shown.get(key) ?? 0) + 1);
    return () => {
      const left = (this.shown.get(key) ?? 1) - 1;
      if (left > 0) {
        this.shown.set(key, left);
        return;
      }
      this.shown.delete(key);
      // What is no longer there does not open by itself when it comes back.
      if (this.opened === key) this.open(null);
    };
  }
  has(key: string): boolean {
    return this.shown.has(key);
  }
}

export const MarksContext = createContext(new Marks());

/** What is found of one thing, and whether its mark is open. A component that asks is drawn again only when that changes. */
export function useMark(key: string): { marks: Marks; findings: readonly Finding[]; isOpen: boolean } {
  const marks = useContext(MarksContext);
  const findings = useSyncExternalStore(
    marks.subscribe,
    useCallback(() => marks.at(key), [marks, key]),
    () => NONE,
  );
  const isOpen = useSyncExternalStore(
    marks.subscribe,
    useCallback(() => marks.openedKey() === key, [marks, key]),
    () => false,
  );
  return { marks, findings, isOpen };
}
