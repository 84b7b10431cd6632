import { wrap } from 'comlink';
import type { Build } from '~/core/build/schema';
import type { Beside } from '~/core/rules/beside';
import type { BesideApi } from '../workers/beside.worker';
import { answerOf } from '../workers/answer';

/** A solver is not asked while the person is still at it. */
const PAUSE_MILLISECONDS = 200;

/** Asks a worker what the rules leave to a solver, for one build value at a time: the next edit ends it. */
export class BesideTask {
  private timer: ReturnType<typeof setTimeout> | null = null;
  private worker: Worker | null = null;

  constructor(
    private readonly onAnswer: (build: Build, beside: Beside) => void,
    private readonly onFailure: (sentence: string) => void,
  ) {}

  /** @param isAsked Whether anything waits for it: looked at after the pause, when the rules have been run for the sheet. */
  ask(build: Build, isAsked: () => boolean): void {
    this.cancel();
    this.timer = setTimeout(() => isAsked() && this.start(build), PAUSE_MILLISECONDS);
  }

  cancel(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    this.worker?.terminate();
    this.worker = null;
  }

  private start(build: Build): void {
    const worker = new Worker(new URL('../workers/beside.worker.ts', import.meta.url), { type: 'module' });
    this.worker = worker;
    const live = () => this.worker === worker;
    answerOf(worker, wrap<BesideApi>(worker).beside(build)).then(
      (beside) => {
        if (!live()) return;
        this.cancel();
        this.onAnswer(build, beside);
      },
      (error: unknown) => {
        if (!live()) return;
        this.cancel();
        this.onFailure(
          `What the open needs wait for could not be worked out: ${error instanceof Error ? error.message : String(error)}.`,
        );
      },
    );
  }
}
