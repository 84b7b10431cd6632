import { call } from '~/core/build/edits';
import { parseBuild } from '~/core/build/parse';
import type { Problem } from '~/core/problem';
import { database } from './database';
import { duplicateBuild, keepBuild } from './garage';
import { discardBuild, restoreBuild } from './persist';
import { closeSession, openSession } from './session';

export type GarageAnswer = { done: string; id?: string; undoable?: boolean } | { problem: Problem };

/** A demo build from the server, or from what is kept offline. */
async function fetchDemo(id: string) {
  const response = await fetch(`/demo/${id}`);
  if (!response.ok)
    return {
      ok: false,
      problem: {
        code: 'no-demo',
        path: '',
        sentence: 'The demo build could not be fetched: start the server again, or work without it.',
      },
    } as const;
  return parseBuild(await response.text());
}

/** Loads demos into an empty garage; one that cannot be had is left out. */
export async function loadDemos(ids: readonly string[]): Promise<void> {
  for (const id of ids) {
    const build = await fetchDemo(id);
    if (build.ok) await keepBuild(build.value);
  }
}

/** What the garage's buttons ask for. */
export async function garageAction(form: FormData): Promise<GarageAnswer> {
  const id = String(form.get('id') ?? '');
  const name = String(form.get('name') ?? '');
  switch (form.get('intent')) {
    case 'demo': {
      const build = await fetchDemo(id);
      if (!build.ok) return { problem: build.problem };
      const kept = await keepBuild(build.value);
      return kept.ok ? { done: 'open', id: kept.value } : { problem: kept.problem };
    }
    case 'duplicate': {
      const kept = await duplicateBuild(id);
      return kept.ok ? { done: 'A copy was made.' } : { problem: kept.problem };
    }
    case 'rename': {
      const session = await openSession(id);
      if (!session.ok) return { problem: session.problem };
      const result = await session.value.edit([call('renameBuild', { name })]);
      if (!result.ok) return { problem: result.problem };
      await session.value.settled();
      return { done: 'Renamed.' };
    }
    case 'delete': {
      await closeSession(id);
      await discardBuild(database(), id);
      return { done: `${name} was deleted.`, id, undoable: true };
    }
    case 'restore': {
      const restored = await restoreBuild(database(), id);
      return restored.ok ? { done: 'It is back.' } : { problem: restored.problem };
    }
    default:
      return { problem: { code: 'intent', path: 'intent', sentence: 'The garage does not know that.' } };
  }
}
