import { fail, type Result } from '~/core/problem';
import { database } from './database';
import { exportBuild } from './export';
import { isPenHeld } from './pen';
import { sweepPhotos } from './photos';
import { Session } from './session';
import { buildOnShow, onArrival, tellUnsavedBuilds } from './whereabouts';

const sessions = new Map<string, Promise<Result<Session>>>();
/** How often each build was asked for: one asked for again while it is being left stays open. */
const asked = new Map<string, number>();

/** Pictures nobody names any more go, unless another tab writes this build and may have just stored one. */
async function tidyPhotos(session: Session): Promise<void> {
  if (session.snapshot().following && (await isPenHeld(session.id))) return;
  const named = JSON.stringify([session.snapshot().build.survey.photos, session.steps()]);
  await sweepPhotos(database(), session.id, (id) => named.includes(id));
}

/** The session of a build, opened once a tab. Resolves when it is decided whether this tab writes. */
export function openSession(id: string): Promise<Result<Session>> {
  asked.set(id, (asked.get(id) ?? 0) + 1);
  const known = sessions.get(id);
  if (known) return known;
  const opening = Session.open(database(), id);
  sessions.set(id, opening);
  opening.then(
    (result) => {
      // A build that could not be opened is tried afresh next time.
      if (!result.ok) return void sessions.delete(id);
      result.value.subscribe(() => void tellUnsaved());
      // A picture that stays too long costs room, nothing else: a failed sweep is tried at the next opening.
      void tidyPhotos(result.value).catch(() => undefined);
    },
    () => sessions.delete(id),
  );
  return opening;
}

/**
 * Writes what is open, then closes a build's session and lays its pen down. A session whose last changes could not be saved
 * stays open: its memory is the only place they are in.
 */
export async function closeSession(id: string): Promise<'closed' | 'unsaved' | 'in use'> {
  const before = asked.get(id);
  const opened = await sessions.get(id)?.catch(() => null);
  if (!opened?.ok) return 'closed';
  const session = opened.value;
  await session.settled();
  if (session.unsaved) {
    await tellUnsaved();
    return 'unsaved';
  }
  if (asked.get(id) !== before) return 'in use';
  session.close();
  sessions.delete(id);
  return 'closed';
}

/** Closes a session whatever it holds: its build is being deleted. */
export async function dropSession(id: string): Promise<void> {
  const opened = await sessions.get(id)?.catch(() => null);
  sessions.delete(id);
  if (!opened?.ok) return;
  await opened.value.settled();
  opened.value.close();
  await tellUnsaved();
}

/** Every build but the one on show is left. */
async function leaveAllBut(id: string | null): Promise<void> {
  for (const open of [...sessions.keys()]) if (open !== id) await closeSession(open);
}

/**
 * Does one thing with a build, with the pen: in the session that is open, or in one opened for it, which asks other tabs for
 * the pen and lays it down again.
 */
export async function withPen<T>(id: string, act: (session: Session) => Promise<Result<T>>): Promise<Result<T>> {
  const known = await sessions.get(id)?.catch(() => null);
  if (known?.ok) {
    if (known.value.snapshot().following) await known.value.takeOver();
    return known.value.snapshot().following ? HELD : act(known.value);
  }
  const opened = await Session.open(database(), id, 'ask for it');
  if (!opened.ok) return opened;
  try {
    return opened.value.snapshot().following ? HELD : await act(opened.value);
  } finally {
    await opened.value.settled();
    opened.value.close();
  }
}
/** What is answered when another tab keeps the pen. */
export const HELD = fail(
  'pen',
  '',
  'Another tab is writing this build and did not let go: close it there, then try again. Nothing was changed.',
);

/** An edit of a build that may have just been left: its session is closed again when nobody looks at it. */
export async function inSession<T>(id: string, act: (session: Session) => Promise<Result<T>>): Promise<Result<T>> {
  const opened = await openSession(id);
  if (!opened.ok) return opened;
  const result = await act(opened.value);
  const shown = buildOnShow();
  if (shown !== undefined && shown !== id) await closeSession(id);
  return result;
}

/** Tells the garage and the browser which builds are in this tab's memory only. */
async function tellUnsaved(): Promise<void> {
  const all = await Promise.all([...sessions.values()].map((one) => one.catch(() => null)));
  const failed = all.flatMap((one) =>
    one?.ok && one.value.unsaved && one.value.snapshot().saveState === 'failed' ? [one.value] : [],
  );
  tellUnsavedBuilds(
    failed.map((session) => ({
      id: session.id,
      name: session.snapshot().build.name,
      retry: () => session.retry(),
      exportNow: () => void exportBuild(session.snapshot().build),
    })),
  );
}
onArrival((shown) => void leaveAllBut(shown));
