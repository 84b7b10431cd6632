import { createContext, useCallback, useContext, useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import type { ReactNode } from 'react';
import { useNavigate, useParams, useSearchParams, useSubmit } from 'react-router';
import type { Derived } from '~/core/derive/derive';
import type { EditCall } from '~/core/edits';
import type { Selection } from '~/core/netlist/run';
import type { SheetId } from '~/core/rules/rule';
import { asJson } from '../json-request';
import { buildRequests, type BuildAction } from '../storage/actions';
import type { Session } from '../storage/session';
import type { TypedTexts } from '../storage/typed';
import { TypingContext } from '../ui/typed';
import { BuildStore, type BuildState } from './store';
import { Tracked } from './tracked';
import { TypingKeeper } from './typing';

/** What a sheet can do to a build; the same functions as long as it is open. */
interface BuildActions {
  readonly select: (selection: Selection | null) => void;
  /** `asked`: what the sheet is asked for, as an address has it. */
  readonly goTo: (sheet: SheetId, asked?: string) => void;
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
}
/** What every sheet works on. */
export type BuildContextValue = BuildState & BuildActions;

/** Of these, each property counts by itself. */
const WITHIN = ['build', 'view', 'derived', 'derived.net'];

const StoreContext = createContext<BuildStore | null>(null);
const ActionsContext = createContext<BuildActions | null>(null);

/**
 * The build on show and what can be done to it. A component is drawn again only when something it has read is another value;
 * of the build, its wires and what is derived each property counts by itself. The build read here stands for the real one in
 * every computation, but is not the same object.
 */
export function useBuild(): BuildContextValue {
  const store = useContext(StoreContext);
  const actions = useContext(ActionsContext);
  if (!store || !actions) throw new Error('useBuild outside a build');
  const [tracked] = useState(() => new Tracked<BuildState>(store, WITHIN));
  const state = useSyncExternalStore(store.subscribe, tracked.snapshot, tracked.snapshot);
  return useMemo(
    () => Object.defineProperties({ ...actions } as BuildContextValue, Object.getOwnPropertyDescriptors(state)),
    [actions, state],
  );
}

/** Of what is derived, the counts of findings and the parts of the proof count one by one. */
const WITHIN_LATER = ['counts', 'progress'];

function useLaterStore() {
  const store = useContext(StoreContext);
  if (!store) throw new Error('useLater outside a build');
  return store.later;
}

/**
 * What is derived of the build, with the build itself, for what stands beside the work: findings, the run, how far the sheets
 * are. It follows an edit once that has been painted, so that no key press waits for the rules or the circuit; as with
 * `useBuild`, a component is drawn again only when something it has read is another value.
 */
export function useLater(): Derived {
  const later = useLaterStore();
  const [tracked] = useState(() => new Tracked<Derived>(later, WITHIN_LATER));
  return useSyncExternalStore(later.subscribe, tracked.snapshot, tracked.snapshot);
}

/** Another value after every edit, once what follows from it is worked out. */
export function useEachLater(): unknown {
  const later = useLaterStore();
  return useSyncExternalStore(later.subscribe, later.now, later.now);
}

/** Keeps what is being typed, also when the page goes. */
function useLeaving({ session, keeper }: BuildStore): void {
  useEffect(() => {
    const leave = () => keeper.leave(session.leave());
    const hide = () => document.visibilityState === 'hidden' && keeper.leave();
    window.addEventListener('pagehide', leave);
    document.addEventListener('visibilitychange', hide);
    return () => {
      window.removeEventListener('pagehide', leave);
      document.removeEventListener('visibilitychange', hide);
      keeper.leave();
    };
  }, [keeper, session]);
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
  const [store] = useState(() => new BuildStore(session, new TypingKeeper(session, typed)));
  useEffect(() => store.open(), [store]);
  useLeaving(store);
  const [asked] = useSearchParams();
  const end = asked.get('end');
  useEffect(() => store.lookAt(end), [store, end]);
  const submit = useSubmit();
  const navigate = useNavigate();
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
  const actions = useMemo(
    (): BuildActions => ({
      select: store.select,
      goTo: (sheet, asked = '') => void navigate(`/build/${buildId}/${sheet}${asked}`),
      edit: (...calls) => send({ intent: 'edit', calls }),
      undo: () => send({ intent: 'undo' }),
      redo: () => send({ intent: 'redo' }),
      dismiss: () => session.dismiss(),
      retry: () => session.retry(),
      takeOver: () => void session.takeOver(),
      asideText: () => session.asideText(),
      dropAside: () => void session.dropAside(),
    }),
    [send, session, store, navigate, buildId],
  );
  return (
    <TypingContext value={store.keeper}>
      <StoreContext value={store}>
        <ActionsContext value={actions}>{children}</ActionsContext>
      </StoreContext>
    </TypingContext>
  );
}
