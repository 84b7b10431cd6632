import { call } from '~/core/edits';
import { parseBuild } from '~/core/build/parse';
import { fail, ok, type Problem, type Result } from '~/core/problem';
import type { Build } from '~/core/build/schema';
import { binBuild, purgeBuild, restoreBuild } from './bin';
import { database } from './database';
import { refusedProblem } from './failure';
import { duplicateBuild, keepBuild } from './garage';
import { PenChannel, askPen } from './pen';
import { freeRoom } from './room';
import { HELD, dropSession, withPen } from './sessions';
import { BIN_DAYS } from './whereabouts';

/** What a button did: `undo` names a deletion that can be taken back, `focus` the build to stand on next. */
export type GarageAnswer =
  | { done: string; id?: string; undo?: string; focus?: string }
  | { problem: Problem; /** A build that can only be deleted for good. */ forGood?: { id: string; name: string } };

/** A demo build from the server, or from what is kept offline. */
async function fetchDemo(id: string): Promise<Result<Build>> {
  const gone = fail('no-demo', '', 'The demo build could not be fetched: start the server again, or work without it.');
  try {
    const response = await fetch(`/demo/${id}`);
    return response.ok ? parseBuild(await response.text()) : gone;
  } catch {
    // The server is away, and the demo was not kept offline.
    return gone;
  }
}

/** Loads the demos into an empty garage, each by itself; what could not be kept is told by name. */
async function loadDemos(ids: readonly string[]): Promise<GarageAnswer> {
  const missing: Problem[] = [];
  for (const id of ids) {
    const build = await fetchDemo(id);
    const kept = build.ok
      ? await keepBuild(build.value, new Map(), false, `${build.value.name} could not be kept`)
      : build;
    if (!kept.ok) missing.push(kept.problem);
  }
  if (missing.length === 0) return { done: 'demos' };
  const sentences = [...new Set(missing.map(({ sentence }) => sentence))];
  return { problem: { ...missing[0], sentence: sentences.join(' ') } };
}

/** Acts on a build nobody writes: its session here is closed, other tabs lay the pen down, and hear of it. */
async function onBuild(id: string, act: () => Promise<GarageAnswer>): Promise<GarageAnswer> {
  await dropSession(id);
  const pen = await askPen(id);
  if (!pen) return HELD;
  const channel = new PenChannel(id, () => undefined);
  try {
    const answer = await act();
    if ('done' in answer) channel.tell('binned');
    return answer;
  } finally {
    pen.release();
    channel.tell('released');
    channel.close();
  }
}

async function rename(id: string, name: string): Promise<GarageAnswer> {
  const result = await withPen(id, async (session) => {
    const edited = await session.edit([call('renameBuild', { name })]);
    if (!edited.ok) return edited;
    await session.settled();
    const { problem } = session.snapshot();
    return session.unsaved
      ? { ok: false as const, problem: { code: problem?.code ?? 'storage', path: '', sentence: NOT_RENAMED } }
      : ok(null);
  });
  return result.ok ? { done: `It is called ${name} now.`, focus: id } : { problem: result.problem };
}
const NOT_RENAMED =
  'The new name could not be stored: this device has no room, or the browser refused. Nothing was changed.';

const now = () => new Date().toISOString();

/** What the garage's buttons ask for. */
async function act(form: FormData): Promise<GarageAnswer> {
  const id = String(form.get('id') ?? '');
  const name = String(form.get('name') ?? '').trim();
  switch (form.get('intent')) {
    case 'demo': {
      const build = await fetchDemo(id);
      if (!build.ok) return { problem: build.problem };
      const kept = await keepBuild(build.value, new Map(), false);
      return kept.ok ? { done: 'open', id: kept.value } : { problem: kept.problem };
    }
    case 'load-demos':
      return loadDemos(form.getAll('id').map(String));
    case 'duplicate': {
      const kept = await duplicateBuild(id);
      return kept.ok ? { done: 'A copy was made.', focus: kept.value } : { problem: kept.problem };
    }
    case 'rename':
      return rename(id, name);
    case 'delete':
      return onBuild(id, async () => {
        const binned = await binBuild(database(), id, now());
        if (binned.ok) return { done: `${name} was deleted. It stays in the bin for ${BIN_DAYS} days.`, undo: id };
        return { problem: binned.problem, ...(binned.problem.code === 'bin-full' ? { forGood: { id, name } } : {}) };
      });
    case 'purge':
      return onBuild(id, async () => {
        await purgeBuild(database(), id, now());
        return { done: `${name} was deleted for good.` };
      });
    case 'restore': {
      const restored = await restoreBuild(database(), id);
      if (!restored.ok) return { problem: restored.problem };
      const channel = new PenChannel(id, () => undefined);
      channel.tell('saved');
      channel.close();
      return { done: 'It is back.', focus: id };
    }
    case 'free': {
      const { builds, captures, photos } = await freeRoom(database(), now());
      return {
        done: `Room was made: ${builds} deleted builds, ${captures} kept captures and ${photos} left-over photographs are gone.`,
      };
    }
    default:
      return { problem: { code: 'intent', path: 'intent', sentence: 'The garage does not know that.' } };
  }
}

/** What the garage's buttons ask for; a store that refuses is told, never thrown at the page. */
export async function garageAction(form: FormData): Promise<GarageAnswer> {
  try {
    return await act(form);
  } catch (error) {
    return { problem: refusedProblem(error, 'That could not be done') };
  }
}
