import { createContext } from 'react';
import type { Selection } from '~/core/netlist/run';

/** What the run strip shows besides the selection: told by the sheet on show, heard by the strip alone. */
export class Shown {
  private selection: Selection | null = null;
  private readonly listeners = new Set<() => void>();

  readonly now = (): Selection | null => this.selection;
  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly set = (selection: Selection | null): void => {
    if (JSON.stringify(selection) === JSON.stringify(this.selection)) return;
    this.selection = selection;
    for (const listener of this.listeners) listener();
  };
}

/** Places of the shell that a sheet fills; null until the shell is drawn. */
export interface Slots {
  readonly verdict: HTMLElement | null;
  readonly tools: HTMLElement | null;
  readonly shown: Shown;
}
export const SlotsContext = createContext<Slots>({ verdict: null, tools: null, shown: new Shown() });
