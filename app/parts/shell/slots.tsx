import { createContext } from 'react';
import type { Selection } from '~/core/netlist/run';
import { Teller } from '../../build/teller';

/** What the run strip shows besides the selection: told by the sheet on show, heard by the strip alone. */
export class RunOnShow extends Teller {
  private selection: Selection | null = null;

  readonly now = (): Selection | null => this.selection;
  readonly set = (selection: Selection | null): void => {
    if (JSON.stringify(selection) === JSON.stringify(this.selection)) return;
    this.selection = selection;
    this.tell();
  };
}

/** Places of the shell that a sheet fills; null until the shell is drawn. */
export interface Slots {
  readonly verdict: HTMLElement | null;
  readonly tools: HTMLElement | null;
  readonly shown: RunOnShow;
}
export const SlotsContext = createContext<Slots>({ verdict: null, tools: null, shown: new RunOnShow() });
