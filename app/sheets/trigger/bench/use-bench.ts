import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Result } from '~/core/problem';
import { keepCapture, readCaptureOf, type KeptCapture } from '../../../storage/captures';
import { answerOf } from '../../../workers/answer';
import type { BenchRequest, BenchView, TriggerApi } from '../../../workers/trigger.worker';

interface State {
  readonly busy: boolean;
  readonly progress: number;
  readonly problem: string | null;
  /** Why the capture will not be here next time; null when it will. */
  readonly notKept: string | null;
}
const idle: State = { busy: false, progress: 0, problem: null, notKept: null };

/** The last capture of each build as it was understood, kept while the tab lives. */
const understood = new Map<string, BenchView>();

type Work = (api: Remote<TriggerApi>, onProgress: (share: number) => void) => Promise<Result<BenchView>>;

/**
 * Reads captures in a worker, one at a time; a failed or cancelled one leaves the capture before it on the bench. The last
 * one is kept on the device, and read anew when the page is opened again.
 */
export function useBench(buildId: string, request: BenchRequest) {
  const [view, setView] = useState<BenchView | null>(() => understood.get(buildId) ?? null);
  const [state, setState] = useState<State>(idle);
  const worker = useRef<Worker | null>(null);
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
  }, []);
  useEffect(() => stop, [stop]);
  const start = useCallback(
    (work: Work, keep: boolean) => {
      stop();
      const own = new Worker(new URL('../../../workers/trigger.worker.ts', import.meta.url), { type: 'module' });
      worker.current = own;
      setState({ ...idle, busy: true });
      const live = () => worker.current === own;
      const end = (problem: string | null) => {
        stop();
        setState({ ...idle, progress: 1, problem });
      };
      const onProgress = proxy((progress: number) => {
        if (live()) setState((now) => ({ ...now, progress }));
      });
      answerOf(own, work(wrap<TriggerApi>(own), onProgress)).then(
        (result) => {
          if (!live()) return;
          if (!result.ok) return end(result.problem.sentence);
          const { name, capture } = result.value;
          understood.set(buildId, result.value);
          setView(result.value);
          end(null);
          if (keep)
            void keepCapture(buildId, { name, capture }).then((kept) => {
              if (!kept.ok) setState((now) => ({ ...now, notKept: kept.problem.sentence }));
            });
        },
        (error: unknown) => {
          if (live()) end(`The reader stopped: ${error instanceof Error ? error.message : String(error)}`);
        },
      );
    },
    [buildId, stop],
  );
  // What was kept is read once, with the build as it is then.
  const asked = useRef(request);
  useEffect(() => {
    asked.current = request;
  });
  useEffect(() => {
    if (understood.has(buildId)) return;
    let gone = false;
    void readCaptureOf(buildId).then((kept: KeptCapture | null) => {
      if (gone || !kept || worker.current) return;
      start((api, onProgress) => api.again(kept.name, kept.capture, asked.current, onProgress), false);
    });
    return () => {
      gone = true;
    };
  }, [buildId, start]);
  const run = useCallback((work: Work) => start(work, true), [start]);
  const cancel = () => {
    stop();
    setState(idle);
  };
  return { view, ...state, run, cancel };
}
