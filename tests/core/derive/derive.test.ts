import { describe, expect, test } from '@jest/globals';
import { derive, stepsOf } from '~/core/derive/derive';
import { sheetProgress } from '~/core/derive/sheets';
import { Stage } from '~/core/derive/stage';
import { call, type EditCall } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { gatesOf } from '~/core/fireup/gates';
import { netlist } from '~/core/netlist/netlist';
import { proveTests } from '~/core/prove/tests';
import { progressOf } from '~/core/prove/verdict';
import { findingsOf } from '~/core/rules';
import { besideOf } from '~/core/rules/beside';
import { seeded } from '~/core/trigger/synth';
import { catalog } from '~/catalog';
import { demoBuild, edited, emptyBuild, twinBuild } from '../../helpers';

/** Everything that is derived, with no memory of any build before. */
function afresh(build: Build) {
  const net = netlist(build);
  const tests = proveTests(build, net);
  const progress = progressOf(build, net, tests);
  const findings = findingsOf(build, net, [], null);
  const gates = gatesOf(build, net, progress, findings);
  return { net, tests, progress, findings, gates, fill: sheetProgress(build, net, findings, progress, () => gates) };
}
function remembered(build: Build) {
  const { net, tests, progress, findings, gates, fill } = derive(build);
  return { net, tests, progress, findings, gates, fill };
}

describe('a stage', () => {
  interface Pair {
    readonly one: number;
    readonly other: number;
  }
  const counted = (compute: (pair: Pair) => unknown) => {
    let runs = 0;
    const stage = new Stage<{ pair: Pair }, unknown>(({ pair }) => {
      runs += 1;
      return compute(pair);
    });
    return (pair: Pair) => ({ value: stage.of({ pair }), runs });
  };
  test('is done again only when what it read has changed', () => {
    const ask = counted(({ one }) => one * 2);
    expect(ask({ one: 1, other: 1 })).toEqual({ value: 2, runs: 1 });
    expect(ask({ one: 1, other: 2 })).toEqual({ value: 2, runs: 1 });
    expect(ask({ one: 3, other: 2 })).toEqual({ value: 6, runs: 2 });
  });
  test('that asks for all there is hangs on all of it', () => {
    for (const all of [
      (pair: Pair) => Object.keys(pair),
      (pair: Pair) => ({ ...pair }),
      (pair: Pair) => JSON.stringify(pair),
    ]) {
      const ask = counted(all);
      ask({ one: 1, other: 1 });
      expect(ask({ one: 1, other: 2 })).toEqual({ value: all({ one: 1, other: 2 }), runs: 2 });
    }
  });
  test('that asks whether something is there hangs on it', () => {
    const ask = counted((pair) => 'one' in pair);
    ask({ one: 1, other: 1 });
    expect(ask({ one: 2, other: 1 }).runs).toBe(2);
    expect(ask({ one: 2, other: 5 }).runs).toBe(2);
  });
  test('that fails is tried again', () => {
    const ask = counted(({ one, other }) => {
      if (one > other) throw new Error('too much');
      return one;
    });
    expect(() => ask({ one: 2, other: 1 })).toThrow('too much');
    expect(ask({ one: 2, other: 3 }).value).toBe(2);
  });
});

/** Edits of every sheet, by number; some are refused, as a person's are. */
function someEdit(build: Build, random: () => number): EditCall {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const { needs, wires } = netlist(build);
  const tests = proveTests(build, netlist(build));
  const at = '2026-03-01T10:00:00.000Z';
  return pick<() => EditCall>([
    () => call('renameBuild', { name: `Name ${random()}` }),
    () => call('setSite', { altitudeMetres: Math.floor(random() * 2000), ambientCelsius: 20 }),
    () => call('addDevice', { kind: pick(catalog.kinds) }),
    () => call('removeDevice', { deviceId: pick(build.devices).id }),
    () => call('assign', { needId: pick(needs).id, pinId: pick(build.ecu.pins).id }),
    () => call('unassign', { needId: pick(needs).id }),
    () => call('allotAll', { keep: 'placed' }),
    () => call('lock', { needId: pick(needs).id, locked: random() < 0.5 }),
    () => call('setReserve', { kind: 'any', count: Math.floor(random() * 9) }),
    () => call('setLoom', { slackMetres: 0.1 + random() / 4 }),
    () => call('crimp', { wireIds: [pick(wires).id], at, by: 'AB' }),
    () => call('setPower', { strapMetres: 0.2 + random() }),
    () =>
      call('recordReading', {
        testId: pick(tests).id,
        reading: { value: pick([0.1, 0.3, null, 12]), title: 'A reading', at, by: 'AB', note: '', ends: null } as never,
      }),
  ])();
}

describe('what is derived of an edited build', () => {
  test('is the very same where the edit changed nothing: what is drawn of it stays drawn', () => {
    const build = { ...demoBuild(), id: 'kept-same' };
    const before = derive(build);
    const lists = ({ net, tests, findings }: typeof before) => ({
      wires: net.wires,
      nodes: net.nodes,
      cavities: net.cavities,
      needs: net.needs,
      tests,
      findings,
    });
    const were = lists(before);
    const [need] = before.net.needs.filter((one) => one.pair === null && build.assignments[one.id] !== undefined);
    const now = lists(derive(edited(build, call('unassign', { needId: need.id }))));
    for (const name of Object.keys(were) as (keyof typeof were)[]) {
      const old = new Set<unknown>(were[name]);
      const fresh = (now[name] as readonly unknown[]).filter((one) => !old.has(one));
      // A wire less: its cavity, its copper, what is to be measured round it, what is said of it.
      expect({ name, fresh: fresh.length <= 12 }).toEqual({ name, fresh: true });
    }
    expect(now.wires.length).toBeLessThan(were.wires.length);
  });
  test('keeps what a length has nothing to do with: copper, names and needs are the very same', () => {
    const build = { ...demoBuild(), id: 'kept-lists' };
    const before = derive(build).net;
    const now = derive({ ...build, loom: { ...build.loom, slackMetres: build.loom.slackMetres + 0.05 } }).net;
    expect(now.wires).not.toBe(before.wires);
    for (const name of ['nodes', 'nodeOf', 'cavities', 'cavityOf', 'needs', 'needsOf', 'deviceOf', 'names'] as const)
      expect({ name, kept: now[name] === before[name] }).toEqual({ name, kept: true });
    const [device] = build.devices;
    const renamed = derive(edited(build, call('editDevice', { deviceId: device.id, label: 'Other' }))).net;
    expect(renamed.names.devices.get(device.id)).toBe('Other');
    expect(renamed.names.parts).toBe(before.names.parts);
  });
  test('can be worked out a step at a time, and is then the same', () => {
    const build = { ...demoBuild(), id: 'in-steps' };
    const derived = derive(build);
    const steps = [...stepsOf(derived)].length;
    expect(steps).toBeGreaterThan(20);
    expect({ ...remembered(build) }).toEqual(afresh(build));
    // Left in the middle, it is gone on with by whoever reads it.
    const left = derive({ ...build, id: 'left-in-the-middle' });
    stepsOf(left).next();
    expect(left.findings).toEqual(findingsOf(left.build, left.net, [], null));
  });
  test('is the same as derived afresh, whatever came before', () => {
    const random = seeded(17);
    for (const start of [demoBuild(), twinBuild(), emptyBuild()]) {
      let build = start;
      const past: Build[] = [];
      let done = 0;
      for (let i = 0; i < 40; i += 1) {
        if (past.length > 0 && random() < 0.2) build = past[Math.floor(random() * past.length)];
        else if (build.devices.length === 0) build = edited(build, call('addDevice', { kind: catalog.kinds[0] }));
        else
          try {
            build = edited(build, someEdit(build, random));
            done += 1;
          } catch {
            continue;
          }
        past.push(build);
        // Parts are asked for in any order, and not all of them each time.
        if (random() < 0.3) expect(derive(build).fill).toEqual(afresh(build).fill);
        else expect(remembered(build)).toEqual(afresh(build));
      }
      expect(done).toBeGreaterThan(15);
    }
  });
  test('keeps what the edit does not touch, and is plain data', () => {
    const build = demoBuild();
    const before = remembered(build);
    expect(structuredClone(before.findings)).toEqual(before.findings);
    for (const part of Object.values(before)) expect(() => structuredClone(part)).not.toThrow();
    const renamed = remembered(edited(build, call('renameBuild', { name: 'Other' })));
    for (const part of ['net', 'tests', 'progress', 'findings', 'gates'] as const)
      expect(renamed[part]).toBe(before[part]);
    const site = remembered(edited(build, call('setSite', { altitudeMetres: 1500, ambientCelsius: 20 })));
    expect(site.net).toBe(before.net);
    expect(site.tests).toBe(before.tests);
  });
  test('what is proved is the very same while nothing else is proved, and another with a reading or a plan that takes one', () => {
    // A wrong reading says what it should have been: it is another with every length.
    const wrong = derive(demoBuild()).progress.wrongReadings.map(({ test: { id } }) => id);
    const build = edited(demoBuild(), call('clearReading', { testIds: wrong }));
    const { tests, progress } = derive(build);
    const longer = edited(build, call('setLoom', { slackMetres: build.loom.slackMetres + 0.5 }));
    expect(derive(longer).net).not.toBe(derive(build).net);
    expect(derive(longer).progress).toBe(progress);
    const { id, title, wireIds } = tests.find(
      ({ kind, wireIds: [one] }) => kind === 'continuity' && !progress.proved.has(one),
    )!;
    const reading = { value: 0.2, at: '2026-11-29T12:00:00.000Z', by: 'AB', note: '', title };
    const read = edited(longer, call('recordReading', { testId: id, reading }));
    expect(derive(read).progress).toEqual(progressOf(read, netlist(read), derive(read).tests));
    expect(derive(read).progress.proved).toEqual(new Set([...progress.proved, ...wireIds]));
    // Only where the reading was right does no wire read wrong: that part stays what it was.
    expect(derive(read).progress.wrongWires).toBe(progress.wrongWires);
    const other = edited(read, call('recordReading', { testId: id, reading: { ...reading, value: null } }));
    expect(derive(other).progress.wrongWires.has(wireIds[0])).toBe(true);
    expect(derive(other).progress.proved).toEqual(progress.proved);
  });
});

describe('what a solver says beside', () => {
  const open = edited(demoBuild(), call('unassign', { needId: 'clt-ntc-1.1' }));
  const told = (build: Build) => derive(build).findings.find(({ rule }) => rule === 'PL-1')!;
  test('is not waited for: the rule shows what is plain, and the reason when it has come', () => {
    expect(told(open)).toMatchObject({ waits: true, severity: 'stop', title: 'Coolant has no pin' });
    expect(derive(open).waits).toBe(true);
    const after = derive(open, besideOf(open));
    expect(after.waits).toBe(false);
    expect(after.findings).toEqual(findingsOf(open));
    expect(after.net).toBe(derive(open).net);
    // What is known of this very build stays known.
    expect(derive(open)).toBe(after);
  });
  test('and what is plain never contradicts it', () => {
    const random = seeded(5);
    for (let i = 0; i < 25; i += 1) {
      const needs = netlist(demoBuild())
        .needs.filter(({ id }) => !demoBuild().locked.includes(id) && random() < 0.08)
        .slice(0, 4);
      const build = edited(demoBuild(), ...needs.map(({ id }) => call('unassign', { needId: id })));
      const [plain, whole] = [null, besideOf(build)].map((beside) =>
        findingsOf(build, netlist(build), [], beside).filter(({ rule }) => rule === 'PL-1'),
      );
      expect(plain.map(({ id, title }) => [id, title])).toEqual(whole.map(({ id, title }) => [id, title]));
      for (const [at, finding] of plain.entries())
        if (finding.remedy) expect(whole[at]).toMatchObject({ detail: finding.detail, remedy: finding.remedy });
    }
  });
});
