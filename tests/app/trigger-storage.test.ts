import { beforeEach, describe, expect, test } from '@jest/globals';
import { MOST_KEPT_BYTES, isKeptCapture, keepCapture, readCaptureOf } from '~/app/storage/captures';
import {
  dropOwnWheel,
  dropWheelDraft,
  ecuDrafts,
  importWheels,
  keepOwnWheel,
  keepWheelDraft,
  ownWheels,
  wheelDraft,
} from '~/app/storage/library';
import { wheelFile } from '~/core/trigger/file';
import { seeded, synth } from '~/core/trigger/synth';
import { wheel } from '../helpers';
import { Store } from './store';

/** A store that keeps typed arrays as a browser's does. */
class ArrayStore extends Store {
  readonly held = new Map<string, unknown>();
  override getItem = async <T>(key: string) => (this.held.has(key) ? (structuredClone(this.held.get(key)) as T) : null);
  override setItem = async <T>(key: string, value: T) => {
    if (this.fail !== 'never') throw new DOMException('full', 'QuotaExceededError');
    this.held.set(key, structuredClone(value));
    return value;
  };
  override removeItem = async (key: string) => void this.held.delete(key);
  override keys = async () => [...this.held.keys()];
}

const { capture } = synth({
  crank: wheel('36-1'),
  cam: wheel('cam-1'),
  speed: { type: 'constant', rpm: 250 },
  seconds: 0.1,
  sampleRate: 10_000,
  crankSensor: { type: 'vr' },
  random: seeded(1),
});

describe('captures on the device', () => {
  let db: { captures: ArrayStore; snapshots: Store };
  beforeEach(async () => {
    db = { captures: new ArrayStore(), snapshots: new Store() };
    await db.snapshots.setItem('one', {});
    await db.snapshots.setItem('two', {});
  });

  test('the last of each build is kept and comes back sample for sample', async () => {
    await keepCapture('one', { name: 'before.csv', capture }, db);
    expect((await keepCapture('one', { name: 'start.csv', capture }, db)).ok).toBe(true);
    const kept = await readCaptureOf('one', db);
    expect(kept!.name).toBe('start.csv');
    expect(kept!.capture.channels[0].values).toEqual(capture.channels[0].values);
    expect(kept!.capture.time).toEqual(capture.time);
    expect(await readCaptureOf('two', db)).toBeNull();
  });

  test('a full device says so in a sentence and the one before stays', async () => {
    await keepCapture('one', { name: 'before.csv', capture }, db);
    db.captures.fail = 'quota';
    const refused = await keepCapture('one', { name: 'start.csv', capture }, db);
    expect(!refused.ok && refused.problem.sentence).toContain('no room on this device to keep start.csv');
    db.captures.fail = 'never';
    expect((await readCaptureOf('one', db))!.name).toBe('before.csv');
  });

  test('one too large is not kept, and told', async () => {
    const large = { ...capture, channels: [{ ...capture.channels[0], values: { byteLength: MOST_KEPT_BYTES + 1 } }] };
    const refused = await keepCapture('one', { name: 'huge.csv', capture: large as unknown as typeof capture }, db);
    expect(!refused.ok && refused.problem.code).toBe('too-large');
  });

  test('captures of builds that are gone make room', async () => {
    await keepCapture('two', { name: 'two.csv', capture }, db);
    await db.snapshots.removeItem('two');
    await keepCapture('one', { name: 'one.csv', capture }, db);
    expect(await db.captures.keys()).toEqual(['one']);
  });

  test.each([
    ['nothing', null],
    ['text', 'capture'],
    ['no channels', { name: 'x', capture: { ...capture, channels: [] } }],
    ['a channel cut short', { name: 'x', capture: { ...capture, count: capture.count + 1 } }],
    ['plain lists', { name: 'x', capture: { ...capture, time: { index: [0, 1], seconds: [0, 1] } } }],
  ])('%s is no capture', async (_, value) => {
    expect(isKeptCapture(value)).toBe(false);
    db.captures.held.set('one', value);
    expect(await readCaptureOf('one', db)).toBeNull();
  });
});

describe('own wheels', () => {
  let db: { wheels: Store; drafts: Store };
  beforeEach(() => {
    db = { wheels: new Store(), drafts: new Store() };
  });
  const own = { ...wheel('36-1'), id: 'own-1', name: 'Mine' };

  test('kept, listed by name, dropped; one that cannot be read does not hide the others', async () => {
    await keepOwnWheel(own, db);
    await keepOwnWheel({ ...own, id: 'own-2', name: 'Another' }, db);
    db.wheels.map.set('cut', '{"id":"cut"}');
    expect((await ownWheels(db)).map(({ name }) => name)).toEqual(['Another', 'Mine']);
    await dropOwnWheel('own-1', db);
    expect(await ownWheels(db)).toHaveLength(1);
    expect(db.wheels.map.has('cut')).toBe(true);
  });

  test('a file brings what is new; one id with another content gets its own', async () => {
    await keepOwnWheel(own, db);
    const taken = await importWheels(wheelFile([own, { ...own, name: 'Other' }, wheel('60-2')]), db);
    if (!taken.ok) throw new Error(taken.problem.sentence);
    expect(taken.value.same).toBe(1);
    expect(taken.value.fresh.map(({ id, name }) => [id, name])).toEqual([
      ['own-1-2', 'Other (imported)'],
      ['60-2', '60 places, 2 missing'],
    ]);
  });

  test.each([
    ['{"format":"gonyx-wh', 'may be cut short'],
    ['[1,2]', 'not a list of Gonyx wheels'],
    ['{"format":"gonyx-wheels","version":1,"wheels":[{"id":"x"}]}', 'wheels[0]'],
    [`"${'x'.repeat(5_000_001)}"`, 'larger than 5 MB'],
  ])('%.30s is refused in a sentence', async (text, sentence) => {
    const taken = await importWheels(text, db);
    expect(!taken.ok && `${taken.problem.sentence} ${taken.problem.path}`).toContain(sentence);
  });

  test('the wheel on the board is kept half done, apart from the ECUs in the making', async () => {
    const draft = {
      id: 'own-3',
      name: '',
      shaft: 'cam' as const,
      teeth: [{ at: 10, width: 4 }],
      second: null,
      from: '',
    };
    await keepWheelDraft(draft, db);
    expect(await wheelDraft(db)).toEqual(draft);
    expect(await ecuDrafts(db)).toEqual([]);
    await dropWheelDraft(db);
    expect(await wheelDraft(db)).toBeNull();
  });
});
