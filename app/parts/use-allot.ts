import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import { answerOf } from '../workers/answer';
import type { AllotApi } from '../workers/allot.worker';

export interface AllotTask<T> {
  readonly busy: boolean;
  /** Share done, 0 to 1. */
  readonly progress: number;
  readonly answer: T | null;
  readonly failure: string | null;
  readonly run: () => void;
  readonly cancel: () => void;
}

type Work<T> = (api: Remote<AllotApi>, onProgress: (done: number, of: number) => void) => Promise<T>;

/** One job for the pin plan's worker at a time; a newer run or leaving the page ends the older. */
export function useAllotTask<T>(work: Work<T>, onDone?: (answer: T) => void): AllotTask<T> {
  const [state, setState] = useState<{ busy: boolean; progress: number; answer: T | null; failure: string | null }>({
    busy: false,
    progress: 0,
    answer: null,
    failure: null,
  });
  const worker = useRef<Worker | null>(null);
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
  }, []);
  useEffect(() => stop, [stop]);
  const run = () => {
    stop();
    const own = new Worker(new URL('../workers/allot.worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    setState({ busy: true, progress: 0, answer: null, failure: null });
    const live = () => worker.current === own;
    const onProgress = proxy((done: number, of: number) => {
      if (live()) setState((now) => ({ ...now, progress: of === 0 ? 1 : done / of }));
    });
    answerOf(own, work(wrap<AllotApi>(own), onProgress)).then(
      (answer) => {
        if (!live()) return;
        stop();
        setState({ busy: false, progress: 1, answer, failure: null });
        onDone?.(answer);
      },
      (error: unknown) => {
        if (!live()) return;
        stop();
        setState({
          busy: false,
          progress: 0,
          answer: null,
          failure: error instanceof Error ? error.message : String(error),
        });
      },
    );
  };
  const cancel = () => {
    stop();
    setState((now) => ({ ...now, busy: false }));
  };
  return { ...state, run, cancel };
}
