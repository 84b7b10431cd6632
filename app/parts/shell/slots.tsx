import { createContext } from 'react';
import type { Solution } from '~/core/circuit/solve';
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

/** A state of the car a sheet reads its circuit in, with its name in a word or two. */
export interface ReadIn {
  readonly solution: Solution;
  readonly words: string;
}

/** The state the run strip reads its volts in: told by the sheet on show; null: with the key on, as sheets stand. */
export class StateOnShow extends Teller {
  private state: ReadIn | null = null;

  readonly now = (): ReadIn | null => this.state;
  readonly set = (state: ReadIn | null): void => {
    this.state = state;
    this.tell();
  };
}

/** Places of the shell that a sheet fills; null until the shell is drawn. */
export interface Slots {
  readonly verdict: HTMLElement | null;
  readonly tools: HTMLElement | null;
  readonly shown: RunOnShow;
  readonly readIn: StateOnShow;
}
export const SlotsContext = createContext<Slots>({
  verdict: null,
  tools: null,
  shown: new RunOnShow(),
  readIn: new StateOnShow(),
});
