import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Result } from '~/core/problem';
import type { BenchView, TriggerApi } from '../../../workers/trigger.worker';

interface State {
  readonly busy: boolean;
  readonly progress: number;
  readonly problem: string | null;
}

/** The last capture of each build, kept while the tab lives: leaving the page does not lose it. */
const kept = new Map<string, BenchView>();

type Work = (api: Remote<TriggerApi>, onProgress: (share: number) => void) => Promise<Result<BenchView>>;

/** Reads captures in a worker, one at a time; a failed or cancelled one leaves the capture before it on the bench. */
export function useBench(buildId: string) {
  const [view, setView] = useState<BenchView | null>(() => kept.get(buildId) ?? null);
  const [state, setState] = useState<State>({ busy: false, progress: 0, problem: null });
  const worker = useRef<Worker | null>(null);
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
  }, []);
  useEffect(() => stop, [stop]);
  const run = useCallback(
    (work: Work) => {
      stop();
      const own = new Worker(new URL('../../../workers/trigger.worker.ts', import.meta.url), { type: 'module' });
      worker.current = own;
      setState({ busy: true, progress: 0, problem: null });
      const live = () => worker.current === own;
      const end = (problem: string | null) => {
        stop();
        setState({ busy: false, progress: 1, problem });
      };
      work(
        wrap<TriggerApi>(own),
        proxy((progress: number) => {
          if (live()) setState((now) => ({ ...now, progress }));
        }),
      ).then(
        (result) => {
          if (!live()) return;
          if (!result.ok) return end(result.problem.sentence);
          kept.set(buildId, result.value);
          setView(result.value);
          end(null);
        },
        (error: unknown) => {
          if (live()) end(`The reader stopped: ${error instanceof Error ? error.message : String(error)}`);
        },
      );
    },
    [buildId, stop],
  );
  const cancel = () => {
    stop();
    setState({ busy: false, progress: 0, problem: null });
  };
  return { view, ...state, run, cancel };
}
