import { emptyHistory } from '~/core/build/history';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { readBuild, type OpenedBuild } from '~/app/storage/read';
import { cardFor } from '~/app/storage/saver';
import { Session } from '~/app/storage/session';
import { writeSnapshot } from '~/app/storage/write';
import { demoBuild } from '../helpers';
import { Device } from './store';

/** Small, so that it can be opened after every write of a long story. */
export const build: Build = {
  ...demoBuild(),
  id: 'b1',
  devices: demoBuild().devices.slice(0, 3),
  kinds: Object.fromEntries(
    Object.entries(demoBuild().kinds).filter(
      ([id]) =>
        id === 'fan' ||
        demoBuild()
          .devices.slice(0, 3)
          .some(({ kindId }) => kindId === id),
    ),
  ),
  assignments: {},
  cases: [],
  revisions: [],
};
export const AT = '2026-01-01T00:00:00.000Z';

/** A device and the sessions opened on it. */
export class Desk {
  device = new Device();
  private readonly opened: Session[] = [];

  async keep(one: Build = build, on: Device = this.device): Promise<void> {
    const nothing = { keys: new Map(), stored: new Set<never>(), contained: [], forgotten: [] };
    const card = await cardFor(on.db, one, AT);
    await writeSnapshot(on.db, one, emptyHistory, { writer: 'first', sequence: 0 }, nothing, card);
  }
  async open(on: Device = this.device, id = 'b1'): Promise<Session> {
    const session = await Session.open(on.db, id);
    if (!session.ok) throw new Error(session.problem.sentence);
    this.opened.push(session.value);
    return session.value;
  }
  async start(one: Build = build): Promise<Session> {
    await this.keep(one);
    return this.open(this.device, one.id);
  }
  async stored(on: Device = this.device): Promise<OpenedBuild> {
    const read = await readBuild(on.db, 'b1');
    if (!read.ok) throw new Error(read.problem.sentence);
    return read.value;
  }
  /** Everything closed, and a new device. */
  async clear(): Promise<void> {
    for (const session of this.opened.splice(0)) {
      this.device.failing = () => false;
      this.device.refuse('never');
      await session.settled();
      session.close();
    }
    this.device = new Device();
  }
}
export const rename = (name: string) => [call('renameBuild', { name })];
export const fan = (label: string) => [call('addDevice', { kind: demoBuild().kinds.fan, label })];
