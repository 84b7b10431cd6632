import { proxy, wrap } from 'comlink';
import { useEffect, useState } from 'react';
import type { Build, TraceCase } from '~/core/build/schema';
import type { TraceAnswer } from '~/core/trace/trace';
import { answerOf } from '../../workers/answer';
import type { TraceApi } from '../../workers/trace.worker';

export interface TraceState {
  readonly answer: TraceAnswer | null;
  /** Share of the hypotheses solved, 0 to 1; null when idle. */
  readonly progress: number | null;
  readonly failure: string | null;
}

/** Runs the trace in a worker whenever the case or the plan changes; a newer question ends the older worker. */
export function useTrace(build: Build, one: TraceCase | null): TraceState {
  const [state, setState] = useState<TraceState & { for: TraceCase | null }>({
    answer: null,
    progress: null,
    failure: null,
    for: null,
  });
  useEffect(() => {
    if (!one) return;
    const worker = new Worker(new URL('../../workers/trace.worker.ts', import.meta.url), { type: 'module' });
    const api = wrap<TraceApi>(worker);
    let live = true;
    const onProgress = proxy((done: number, of: number) => {
      if (live) setState((now) => ({ ...now, progress: of === 0 ? 1 : done / of }));
    });
    answerOf(worker, api.trace(build, { symptomId: one.symptomId, readings: one.readings }, onProgress)).then(
      (answer) => live && setState({ answer, progress: null, failure: null, for: one }),
      (error: unknown) =>
        live &&
        setState({
          answer: null,
          progress: null,
          failure: error instanceof Error ? error.message : String(error),
          for: one,
        }),
    );
    return () => {
      live = false;
      worker.terminate();
    };
  }, [build, one]);
  // An answer to another case is no answer.
  const fits = state.for !== null && one !== null && state.for.id === one.id;
  return fits ? state : { answer: null, progress: one ? (state.progress ?? 0) : null, failure: null };
}
