import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useState,
  useSyncExternalStore,
  type ReactNode,
} from 'react';
import { useParams, useSubmit } from 'react-router';
import type { EditCall } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import type { Selection } from '~/core/netlist/run';
import { derive, type Derived } from '~/core/derive/derive';
import { asJson } from '../json-request';
import { buildRequests, type BuildAction } from '../storage/actions';
import type { Session, SessionView } from '../storage/session';
import type { TypedTexts } from '../storage/typed';
import { TypingContext } from '../ui/typed';
import { TypingKeeper } from './typing';

/** What every sheet works on. Selection lives as long as the tab, never in the file. */
export interface BuildContextValue {
  readonly build: Build;
  readonly view: SessionView;
  readonly derived: Derived;
  readonly selection: Selection | null;
  readonly select: (selection: Selection | null) => void;
  /** Sends edits to the route's action as one step. */
  readonly edit: (...calls: EditCall[]) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly dismiss: () => void;
  readonly retry: () => void;
  /** Takes the pen from the tab that writes. */
  readonly takeOver: () => void;
  /** Changes put aside, as a file's text, and dropped. */
  readonly asideText: () => Promise<string | null>;
  readonly dropAside: () => void;
  /** Text is being typed that is not on the device yet. */
  readonly typing: boolean;
}

const Context = createContext<BuildContextValue | null>(null);

export function useBuild(): BuildContextValue {
  const value = useContext(Context);
  if (!value) throw new Error('useBuild outside a build');
  return value;
}

/** A run to look at from the start: the first need that has its pin. */
function firstRun(session: Session): Selection | null {
  const { build } = session.snapshot();
  const need = derive(build).net.needs.find((one) => build.assignments[one.id] !== undefined);
  return need ? { type: 'need', needId: need.id } : null;
}

/** Keeps what is being typed, also when the page goes. */
function useTypingKeeper(session: Session, kept: TypedTexts): TypingKeeper {
  const [keeper] = useState(() => new TypingKeeper(session, kept));
  useEffect(() => {
    const leave = () => {
      session.catchUp();
      keeper.leave();
    };
    const hide = () => document.visibilityState === 'hidden' && keeper.leave();
    window.addEventListener('pagehide', leave);
    document.addEventListener('visibilitychange', hide);
    return () => {
      window.removeEventListener('pagehide', leave);
      document.removeEventListener('visibilitychange', hide);
      keeper.leave();
    };
  }, [keeper, session]);
  return keeper;
}

export function BuildProvider({
  session,
  typed,
  children,
}: {
  session: Session;
  /** Texts that were being typed when the build was last on show. */
  typed: TypedTexts;
  children: ReactNode;
}) {
  const view = useSyncExternalStore(session.subscribe, session.snapshot, session.snapshot);
  const keeper = useTypingKeeper(session, typed);
  const typing = useSyncExternalStore(keeper.subscribe, keeper.typing, keeper.typing);
  const [selection, select] = useState<Selection | null>(() => firstRun(session));
  const submit = useSubmit();
  const { buildId } = useParams();
  const send = useCallback(
    (action: BuildAction) =>
      void submit(buildRequests.write({ turn: session.ask(action), action }), {
        ...asJson,
        action: `/build/${buildId}`,
        navigate: false,
      }),
    [submit, session, buildId],
  );
  const value = useMemo<BuildContextValue>(
    () => ({
      build: view.build,
      view,
      derived: derive(view.build),
      selection,
      select,
      edit: (...calls) => send({ intent: 'edit', calls }),
      undo: () => send({ intent: 'undo' }),
      redo: () => send({ intent: 'redo' }),
      dismiss: () => session.dismiss(),
      retry: () => session.retry(),
      takeOver: () => void session.takeOver(),
      asideText: () => session.asideText(),
      dropAside: () => void session.dropAside(),
      typing,
    }),
    [view, selection, send, session, typing],
  );
  return (
    <TypingContext value={keeper}>
      <Context value={value}>{children}</Context>
    </TypingContext>
  );
}
