import type { History, Step } from '~/core/build/history';
import type { Build } from '~/core/build/schema';
import type { BuildCard, Database, Head, JournalEntry, Snapshot } from './database';
import { entryKey, stepKey } from './read';

/** What a save knows of the device: what is there already, and what may go once the snapshot is written. */
export interface SaveState {
  readonly keys: ReadonlyMap<Step, Head>;
  readonly stored: ReadonlySet<Step>;
  /** Entries of the journal the build contains. */
  readonly contained: readonly { readonly key: string; readonly head: Head }[];
  /** Steps that are in their store and that no history names any more. */
  readonly forgotten: readonly Head[];
}

export const writeJournal = (db: Pick<Database, 'journal'>, id: string, entry: JournalEntry): Promise<JournalEntry> =>
  db.journal.setItem(entryKey(id, entry), entry);

/**
 * Writes a build whole: the steps it names, then the snapshot, then its card; then what it contains leaves the journal. Every
 * prefix of these writes opens as the state before or the state after (docs/decisions/0012).
 */
export async function writeSnapshot(
  db: Pick<Database, 'steps' | 'snapshots' | 'cards' | 'journal'>,
  build: Build,
  history: History,
  head: Head,
  state: SaveState,
  card: BuildCard,
): Promise<void> {
  const { id } = build;
  const named = (steps: readonly Step[]) => steps.flatMap((step) => state.keys.get(step) ?? []);
  for (const step of [...history.done, ...history.undone]) {
    const key = state.keys.get(step);
    if (key && !state.stored.has(step)) await db.steps.setItem(stepKey(id, key), step);
  }
  const snapshot: Snapshot = {
    ...head,
    build,
    savedAt: card.changedAt,
    done: named(history.done),
    undone: named(history.undone),
    taken: state.contained.map((one) => one.head),
  };
  await db.snapshots.setItem(id, snapshot);
  await db.cards.setItem(id, card);
  for (const { key } of state.contained) await db.journal.removeItem(key);
  for (const key of state.forgotten) await db.steps.removeItem(stepKey(id, key));
}

/** A share of wires proved that could not be worked out is left as it was. */
export function cardOf(build: Build, provedShare: number, changedAt: string): BuildCard {
  return {
    id: build.id,
    name: build.name,
    vehicle: build.vehicle,
    engine: build.engine.name,
    ecu: build.ecu.model,
    changedAt,
    devices: build.devices.length,
    provedShare,
  };
}
