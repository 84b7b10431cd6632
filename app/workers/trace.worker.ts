import { expose } from 'comlink';
import type { Build, TraceCase } from '~/core/build/schema';
import { netlist } from '~/core/netlist/netlist';
import { traceFaults, type TraceAnswer, type TraceProgress } from '~/core/trace/trace';

/** Solves the faults of a case off the page's thread. Cancelled by ending the worker. */
const api = {
  trace(build: Build, one: Pick<TraceCase, 'symptomId' | 'readings'>, onProgress: TraceProgress): TraceAnswer | null {
    return traceFaults(build, netlist(build), one, onProgress);
  },
};
export type TraceApi = typeof api;
expose(api);
