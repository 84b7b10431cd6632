import { expose } from 'comlink';
import type { Build } from '~/core/build/schema';
import { besideOf, type Beside } from '~/core/rules/beside';

/** Works out what the rules leave to a solver. Cancelled by ending the worker. */
const api = {
  beside(build: Build): Beside {
    return besideOf(build);
  },
};
export type BesideApi = typeof api;
expose(api);
