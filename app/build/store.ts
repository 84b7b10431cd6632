import { derive, stepsOf, type Derived } from '~/core/derive/derive';
import type { Build } from '~/core/build/schema';
import { endKey, readEnd } from '~/core/ends/ends';
import type { Selection } from '~/core/netlist/run';
import type { Beside } from '~/core/rules/beside';
import type { Session, SessionView } from '../storage/session';
import { BesideTask } from './beside';
import { inSlices, pause } from './slices';
import { Teller } from './teller';
import type { Told } from './tracked';
import type { TypingKeeper } from './typing';

/** What a sheet can read of a build. */
export interface BuildState {
  readonly build: Build;
  readonly view: SessionView;
  readonly derived: Derived;
  /** Selection lives as long as the tab, never in the file. */
  readonly selection: Selection | null;
  /** Text is being typed that is not on the device yet. */
  readonly typing: boolean;
}

/** What is derived may break on a build it does not expect: whoever draws it says so, and the build opens all the same. */
function soundly<T>(read: () => T, otherwise: T): T {
  try {
    return read();
  } catch {
    return otherwise;
  }
}

/** Runs once what is drawn has been painted; a page nobody sees draws nothing, and is not waited for. */
function afterPaint(run: () => void): void {
  if (typeof requestAnimationFrame === 'undefined' || document.hidden) setTimeout(run, 0);
  // A frame's own work comes first, then its paint, then what was asked for within it: no frame waits for it.
  else requestAnimationFrame(() => void pause().then(run));
}

/** What is derived, told once the edit it follows from has been drawn. */
class Later extends Teller {
  private waits = false;
  constructor(
    private derived: Derived,
    private readonly newest: () => Derived,
  ) {
    super();
  }
  readonly now = (): Derived => this.derived;
  follow(): void {
    if (this.waits || this.newest() === this.derived) return;
    this.waits = true;
    afterPaint(() => void this.catchUp());
  }
  /** The next edit ends what is worked out for the one before it. */
  private async catchUp(): Promise<void> {
    let wanted: Derived;
    do {
      wanted = this.newest();
      await inSlices(stepsOf(wanted), () => wanted === this.newest());
    } while (wanted !== this.newest());
    this.waits = false;
    this.derived = wanted;
    this.tell();
  }
}

/** A run to look at from the start: the first need that has its pin. */
function firstRun({ build, derived }: Pick<BuildState, 'build' | 'derived'>): Selection | null {
  const need = soundly(() => derived.net.needs.find((one) => build.assignments[one.id] !== undefined), undefined);
  return need ? { type: 'need', needId: need.id } : null;
}

/** Brings together what is told of one open build: its session, what is typed, what is selected, and what a solver says beside. */
export class BuildStore extends Teller implements Told<BuildState> {
  private state: BuildState;
  private beside: { readonly build: Build; readonly said: Beside } | null = null;
  private readonly task: BesideTask;
  /** For what stands beside the work: no key press waits for the rules or the circuit. */
  readonly later: Later;

  constructor(
    readonly session: Session,
    readonly keeper: TypingKeeper,
  ) {
    super();
    const view = session.snapshot();
    const [{ build }, derived] = [view, derive(view.build)];
    this.state = { build, view, derived, selection: firstRun({ build, derived }), typing: keeper.typing() };
    this.later = new Later(derived, () => this.state.derived);
    this.task = new BesideTask(
      (of, said) => {
        this.beside = { build: of, said };
        this.follow();
      },
      (sentence) => session.tell(sentence),
    );
  }

  readonly now = (): BuildState => this.state;
  readonly select = (selection: Selection | null): void => this.set({ selection });
  /** Selects the end that an address names; one that no wire lands on is left alone. */
  readonly lookAt = (text: string | null): void => {
    const ref = text === null ? null : readEnd(text);
    const end = ref && endKey(ref);
    if (end && this.state.derived.net.nodeOf.has(end)) this.select({ type: 'end', end });
  };

  /** Follows the session until it is called back. */
  open(): () => void {
    const ends = [this.session.subscribe(() => this.follow()), this.keeper.subscribe(() => this.follow())];
    this.follow();
    this.askBeside();
    return () => {
      for (const end of ends) end();
      this.task.cancel();
    };
  }

  private follow(): void {
    const view = this.session.snapshot();
    const { build } = view;
    const isOther = build !== this.state.build;
    const beside = this.beside?.build === build ? this.beside.said : null;
    this.set({ build, view, derived: derive(build, beside), typing: this.keeper.typing() });
    if (isOther) this.askBeside();
  }

  private askBeside(): void {
    const { build, derived } = this.state;
    this.task.ask(build, () => soundly(() => derived.waits, false));
  }

  private set(part: Partial<BuildState>): void {
    this.state = { ...this.state, ...part };
    this.tell();
    this.later.follow();
  }
}
