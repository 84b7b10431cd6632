import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { planOf, type Build } from '~/core/build/schema';
import { parseBuild } from '~/core/build/parse';
import { differenceInWords } from '~/core/netlist/revisions';
import { voltsBetween } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { applyEdit, call } from '~/core/edits';
import { BATTERY, deviceEnd, endKey, groundEnd, partEnd, readEnd, relayEnd, wireId } from '~/core/ends/ends';
import { netlist } from '~/core/netlist/netlist';
import { needsOf } from '~/core/netlist/needs';
import { runOf } from '~/core/netlist/run';
import { feedPlan } from '~/core/power/feed-plan';
import { coilFeedAmps } from '~/core/power/coil-feed';
import { flowsOf } from '~/core/power/flow';
import { boxAmps, inBox } from '~/core/power/boxes';
import { ifHung } from '~/core/ways/hang';
import { powerPlan } from '~/core/netlist/power-plan';
import type { Circuit } from '~/core/power/plan';
import { surroundings } from '~/core/power/census';
import { LUG_OHMS, POWER_CONTACT_OHMS, RELAY_CONTACT_OHMS } from '~/core/power/contact-ohms';
import { fuseOhms } from '~/core/power/fuse';
import { LOADED_CELSIUS } from '~/core/power/sizes';
import { sparkedEngine } from '~/core/power/spark';
import { proveTests } from '~/core/prove/tests';
import { findingsOf } from '~/core/rules';
import { carriedAmps, wireOhms } from '~/core/wire/wire';
import { demoBuild, edited, twinBuild } from '../../helpers';

const demo = demoBuild();
const end = (text: string) => endKey(readEnd(text)!);
const circuit = (build: Build, id: string): Circuit => powerPlan(build).circuits.find((one) => one.id === id)!;
const ids = (build: Build) => netlist(build).wires.map(({ id }) => id);
const refused = (build: Build, name: string, args: unknown) => {
  const result = applyEdit(build, name, args);
  return result.ok ? 'was taken' : result.problem.sentence;
};
/** The twin as it is proposed, with nothing decided. */
const plainTwin = (): Build => edited(twinBuild(), call('proposeFeeds', {}));
const powerStops = (build: Build) =>
  findingsOf(build).filter(({ rule, severity }) => /^PW/.test(rule) && severity !== 'note');

describe('what is proposed', () => {
  test.each([demo, twinBuild()].map((build) => [build.name, build] as const))(
    '%s breaks no rule of its own',
    (_, build) => {
      expect(powerStops(build).map(({ id }) => id)).toEqual([]);
    },
  );
  test('what flows out of the sources is what all loads and windings draw', () => {
    const flows = flowsOf(demo, feedPlan(demo));
    const out = flows.sources.reduce((sum, source) => sum + (flows.at.get(source)?.mean ?? 0), 0);
    const drawn = flows.draws.reduce((sum, { load }) => sum + (load ? (load.coil ? 0 : load.amps) : 13 / 90), 0);
    const coils = flows.draws.flatMap(({ load }) => load?.coil ?? []);
    const pulses = coilFeedAmps(sparkedEngine(demo), coils, 13.5, demo.engine.maxRpm);
    expect(out).toBeCloseTo(drawn + pulses.mean, 6);
    expect(flows.unfed).toEqual([]);
  });
  test('the drop of the pump, by hand: every piece of the way from the post to its terminal', () => {
    const plan = powerPlan(demo);
    const pump = circuit(demo, 'pump');
    const slack = demo.loom.slackMetres;
    const wires = [0.2, 0.35, pump.lengthMetres].map((metres) =>
      wireOhms(pump.squareMm, metres + slack, LOADED_CELSIUS),
    );
    // Three wires with two contacts each, one of them the ring on the bar, the fuse, the relay's contact; 12 A through all of them.
    const ohms =
      wires.reduce((sum, one) => sum + one + 2 * POWER_CONTACT_OHMS, 0) -
      (POWER_CONTACT_OHMS - LUG_OHMS) +
      fuseOhms(pump.fuseAmps) +
      RELAY_CONTACT_OHMS;
    // The cable to the bar, 25 mm² of 0.1 m and its slack with a ring at either end, carries what all feeds draw.
    const all = plan.flows.through.get(wireId(BATTERY, partEnd('busbar', 'plus')))!.rms;
    const bar = wireOhms(25, 0.1 + slack, LOADED_CELSIUS) + 2 * LUG_OHMS;
    expect(pump.dropVolts).toBeCloseTo(12 * ohms + all * bar, 9);
    expect(pump.dropVolts).toBeLessThanOrEqual(0.5);
    expect(plan.sizes.drops.find(({ draw }) => draw.end === deviceEnd('fuel-pump-1', '1'))!.volts).toBe(pump.dropVolts);
  });
  test('no smaller size of the pump’s run would do', () => {
    const pump = circuit(demo, 'pump');
    const thinner = edited(
      demo,
      call('setCircuit', { circuitId: 'pump', choice: { squareMm: pump.squareMm === 6 ? 4 : 2.5 } }),
    );
    expect(circuit(thinner, 'pump').dropVolts).toBeGreaterThan(0.5);
  });
  test('an ECU whose terminals would not take the wire of the main fuse has a fuse of its own', () => {
    const tight: Build = {
      ...demo,
      ecu: { ...demo.ecu, connectors: demo.ecu.connectors.map((one) => ({ ...one, maxSquareMm: 0.5 })) },
      power: { ...demo.power, circuits: { injectors: { feed: 'shared' } } },
    };
    expect(circuit(tight, 'main').fuseAmps).toBeGreaterThan(7.5);
    expect(circuit(tight, 'ecu')).toMatchObject({ upstream: 'main', fuseAmps: 3 });
    expect(findingsOf(tight).filter(({ rule, detail }) => rule === 'LO-6' && /A10/.test(detail))).toEqual([]);
  });
});

describe('what a person decides', () => {
  test('a load hung on another relay: one fuse and one output less, the rest of the loom untouched', () => {
    const build = edited(demo, call('hangLoad', { end: 'dev:fan-2.1', from: 'relay:fan-1.87' }));
    expect(circuit(build, 'fan-1').loads.map(({ name }) => name)).toEqual(['Fan 1', 'Fan 2']);
    expect(circuit(build, 'fan-1')).toMatchObject({ loadAmps: 32, fuseAmps: 40 });
    expect(circuit(build, 'fan-2')).toBeUndefined();
    expect(needsOf(build).some(({ id }) => id === 'relay-fan-2.85')).toBe(false);
    const gone = ids(demo).filter((id) => !ids(build).includes(id));
    expect(gone.every((id) => /fan-2/.test(id))).toBe(true);
    // 32 A for good ask for a contact of 40 A; four times as much as both start, 128 A, for one that makes 3 x 70.
    expect(circuit(build, 'fan-1').relay).toMatchObject({ contactAmps: 70, contactSetBy: 'PW-21' });
    expect(circuit(demo, 'fan-1').relay).toMatchObject({ contactAmps: 30, contactSetBy: 'usual' });
    expect(powerStops(build)).toEqual([]);
    // A usual one carries less than both draw, and makes less than both take as they start.
    const small = edited(build, call('setFeedPart', { partId: 'relay:fan-1', changes: { contactAmps: 30 } }));
    expect(powerStops(small).map(({ rule }) => rule)).toEqual(['PW-15', 'PW-21']);
    expect(circuit(small, 'fan-1').relay).toMatchObject({ contactAmps: 30, contactSetBy: 'person' });
    // What was decided is no longer proposed, and comes back with the proposal.
    const again = ids(edited(build, call('proposeFeeds', {})));
    expect(ids(demo).filter((id) => !again.includes(id))).toEqual(['ecu:A8~relay:fan-2.85']);
  });
  test('a load split off again has a relay of its own, and hangs on nothing twice', () => {
    const shared = edited(demo, call('hangLoad', { end: 'dev:fan-2.1', from: 'relay:fan-1.87' }));
    const split = edited(
      shared,
      call('splitFeed', { ends: ['dev:fan-2.1'], name: 'rear', title: 'Rear fan', control: 'need' }),
    );
    expect(circuit(split, 'rear')).toMatchObject({ loadAmps: 16, fuseAmps: 20, source: 'battery' });
    expect(circuit(split, 'fan-1').loadAmps).toBe(16);
    expect(needsOf(split).some(({ id }) => id === 'relay-rear.85')).toBe(true);
    expect(netlist(split).wiresAt.get(end('dev:fan-2.1'))).toHaveLength(1);
    expect(powerStops(split)).toEqual([]);
  });
  test('a part put into a wire cuts it; taken out, the wire is whole again', () => {
    const id = 'dev:fan-1.1~relay:fan-1.87';
    const cut = edited(
      demo,
      call('insertInFeed', {
        linkId: id,
        part: { kind: 'switch', name: 'Isolator', amps: 30, resting: 'closed' },
        name: 'iso',
      }),
    );
    expect(ids(cut)).toEqual(expect.arrayContaining(['relay:fan-1.87~switch:iso.1', 'dev:fan-1.1~switch:iso.2']));
    expect(ids(cut)).not.toContain(id);
    const lengths = netlist(cut).wires.filter(({ id: one }) => /switch:iso/.test(one));
    const before = netlist(demo).wireById.get(id)!;
    // Each half has its own slack.
    expect(lengths.reduce((sum, wire) => sum + wire.lengthMetres, 0)).toBeCloseTo(
      before.lengthMetres + demo.loom.slackMetres,
      6,
    );
    const whole = edited(cut, call('removeFeedPart', { partId: 'switch:iso' }));
    expect(ids(whole)).toEqual(expect.arrayContaining([id]));
    expect(netlist(whole).parts.map((part) => part.id)).not.toContain('switch:iso');
  });
  test('a feed of the car pulls in a relay, and nothing of the loom’s own does', () => {
    const build = edited(
      demo,
      call('addFeedPart', {
        part: { kind: 'tap', name: 'Pump feed of the car', live: 'run', amps: 15, fused: true },
        name: 'car',
      }),
      call('hangLoad', { end: 'dev:fuel-pump-1.1', from: 'tap:car' }),
    );
    // It follows the key then: that is told, and mended by an output.
    expect(powerStops(build).map(({ rule }) => rule)).toEqual(['PW-10']);
    const solution = solveCircuit(build, netlist(build), 'key-on');
    expect(voltsBetween(solution, deviceEnd('fuel-pump-1', '1'), groundEnd('battery'))!).toBeGreaterThan(11);
    expect(
      voltsBetween(
        solveCircuit(build, netlist(build), 'key-off'),
        deviceEnd('fuel-pump-1', '1'),
        groundEnd('battery'),
      )!,
    ).toBeLessThan(0.5);
  });
  test('behind a master switch everything hangs on its busbar', () => {
    const build = edited(demo, call('fitMasterSwitch', { amps: 300 }));
    const net = netlist(build);
    expect(net.wires.filter(({ from, to }) => from === BATTERY || to === BATTERY).map(({ id }) => id)).toEqual([
      'bat:+~switch:master.1',
    ]);
    // The cable's and the switch's volts come on top for every load: the coils' run, at its thickest, has no more to give.
    const stops = powerStops(build).map(({ id }) => id);
    expect(stops.filter((id) => id !== 'PW-3:coils')).toEqual(['PW-32:master']);
    const off = edited(build, call('setFeedPart', { partId: 'switch:master', changes: { resting: 'open' } }));
    expect(solveCircuit(off, netlist(off), 'key-on').ecuPowered).toBe(false);
    expect(solveCircuit(build, net, 'key-on').ecuPowered).toBe(true);
  });
  test('a return is taken to another bolt and back', () => {
    const moved = edited(demo, call('moveReturn', { end: 'dev:fan-1.2', to: 'gnd:battery' }));
    expect(ids(moved)).toContain('dev:fan-1.2~gnd:battery');
    expect(ids(moved)).not.toContain('dev:fan-1.2~gnd:chassis');
    const back = edited(moved, call('moveReturn', { end: 'dev:fan-1.2', to: 'gnd:chassis' }));
    expect(ids(back).sort()).toEqual(ids(demo).sort());
  });
  test('three returns merged into one: what it carries is all of theirs, and its size follows', () => {
    const coils = ['dev:coil-igniter-1.D', 'dev:coil-igniter-2.D', 'dev:coil-igniter-3.D'];
    const merged = edited(
      demo,
      call('addFeedPart', { part: { kind: 'splice', name: 'Coil grounds' }, name: 'coil-grounds' }),
      ...coils.map((at) => call('moveReturn', { end: at, to: 'splice:coil-grounds' })),
      call('linkFeed', { from: 'splice:coil-grounds', to: 'gnd:head', metres: 0.4 }),
    );
    const wires = netlist(merged).wires;
    const joined = wires.find(({ id }) => id === 'gnd:head~splice:coil-grounds')!;
    const each = wires.filter(({ to, from }) => to === 'splice:coil-grounds' && coils.includes(from));
    expect(each).toHaveLength(3);
    expect(joined.amps).toBeCloseTo(
      each.reduce((sum, { amps }) => sum + amps, 0),
      9,
    );
    // One alone is as strong as the fuse before its coil asks; all three together ask no less.
    expect(joined.squareMm).toBeGreaterThanOrEqual(each[0].squareMm);
    expect(carriedAmps(joined.squareMm, surroundings(merged))).toBeGreaterThanOrEqual(joined.amps);
    expect(carriedAmps(0.35, surroundings(merged))).toBeLessThan(joined.amps);
    expect(joined).toMatchObject({ signal: 'ground', colour: 'BK' });
    expect(powerStops(merged)).toEqual([]);
  });
  test('what was measured beside a change stands, and what was cut does not', () => {
    const tests = proveTests(demo, netlist(demo)).filter(({ kind }) => kind === 'continuity');
    const readings = Object.fromEntries(
      tests.map(({ id, expected, title }) => [
        id,
        { value: expected, at: '2026-03-01T10:00:00.000Z', by: 'A', note: '', title },
      ]),
    );
    const proved: Build = { ...demo, prove: { ...demo.prove, readings } };
    const build = edited(
      proved,
      call('insertInFeed', {
        linkId: 'dev:fan-1.1~relay:fan-1.87',
        part: { kind: 'splice', name: 'Fan splice' },
        name: 'fans',
      }),
      call('hangLoad', { end: 'dev:fan-2.1', from: 'splice:fans' }),
    );
    const now = new Set(proveTests(build, netlist(build)).map(({ id }) => id));
    const lost = Object.keys(readings).filter((id) => build.prove.readings[id] === undefined || !now.has(id));
    expect(lost.length).toBeGreaterThan(0);
    expect(lost.every((id) => /fan-[12]/.test(id))).toBe(true);
  });
  test('two wires side by side have names of their own, and a ring ends every walk', () => {
    const build = edited(
      demo,
      call('linkFeed', { from: 'relay:main.87', to: 'splice:main', metres: 1 }),
      call('linkFeed', { from: 'splice:main', to: 'splice:key', metres: 1 }),
      call('linkFeed', { from: 'splice:coils', to: 'splice:key', metres: 1 }),
    );
    const net = netlist(build);
    expect(net.wireById.has('relay:main.87~splice:main#2')).toBe(true);
    const [one, other] = ['relay:main.87~splice:main', 'relay:main.87~splice:main#2'].map((id) =>
      net.power.flows.through.get(id)!,
    );
    expect(other).toEqual(one);
    expect(solveCircuit(build, net, 'key-on').settled).toBe(true);
    for (const node of net.nodes)
      for (const at of node.ends) expect(() => runOf(net, { type: 'end', end: at })).not.toThrow();
    expect(proveTests(build, net).length).toBeGreaterThan(100);
  });
});

describe('what is refused, in a sentence', () => {
  test.each([
    ['linkFeed', { from: 'relay:main.85', to: 'relay:main.86' }, /bridge/],
    ['linkFeed', { from: 'fuse:main.1', to: 'fuse:main.2' }, /bridge/],
    ['linkFeed', { from: 'splice:main', to: 'splice:main' }, /two ends/],
    ['linkFeed', { from: 'splice:nowhere', to: 'dev:fan-1.1' }, /no part splice:nowhere/],
    ['linkFeed', { from: 'relay:main.87a', to: 'dev:fan-1.1' }, /has no terminal 87a; it has 30, 87, 85, 86/],
    ['linkFeed', { from: 'ecu:Z9', to: 'dev:fan-1.1' }, /has no cavity Z9/],
    ['hangLoad', { end: 'dev:fan-1.1', from: 'gnd:chassis' }, /Nothing can be fed from chassis ground/],
    ['hangLoad', { end: 'fuse:main.1', from: 'splice:main' }, /hangs on .* itself/],
    [
      'insertInFeed',
      { linkId: 'gnd:chassis~relay:main.85', part: { kind: 'fuse', name: 'Wrong' } },
      /A fuse does not go into a return/,
    ],
    [
      'insertInFeed',
      { linkId: 'dev:fan-1.1~relay:fan-1.87', part: { kind: 'busbar', name: 'Bar' } },
      /does not go into a wire/,
    ],
    ['setFeedPart', { partId: 'relay:main', changes: { contactAmps: -3 } }, /contactAmps/],
    ['setFeedPart', { partId: 'fuse:main', changes: { box: 'attic' } }, /no box attic/],
    ['removeFeedPart', { partId: 'relay:ghost' }, /no part relay:ghost/],
    ['moveReturn', { end: 'dev:fan-1.2', to: 'fuse:main.1' }, /neither a bolt nor a splice/],
  ] as const)('%s %o', (name, args, sentence) => {
    expect(refused(demo, name, args)).toMatch(sentence);
  });
});

/** Edits that a hand might make, in any order, on whatever is there. */
function randomEdit(build: Build, kind: number, a: number, b: number): Build {
  const plan = feedPlan(build);
  const pick = <T>(list: readonly T[], at: number): T | undefined => list[at % Math.max(1, list.length)];
  const outlets = [...plan.parts.values()].flatMap(({ id, part }) =>
    part.kind === 'fuse'
      ? [`${id}.2`]
      : part.kind === 'relay'
        ? [`${id}.87`]
        : part.kind === 'splice' || part.kind === 'busbar'
          ? [String(id)]
          : [],
  );
  const loads = flowsOf(build, plan).draws.map(({ end: at }) => at);
  const link = pick(plan.links, a);
  const part = pick([...plan.parts.keys()], a);
  const args: readonly [string, unknown][] = [
    ['hangLoad', { end: pick(loads, a), from: pick(outlets, b) }],
    [
      'insertInFeed',
      {
        linkId: link?.id,
        part: pick(
          [
            { kind: 'splice', name: 'S' },
            { kind: 'resistor', name: 'R', ohms: 0.5 },
            { kind: 'diode', name: 'D' },
            { kind: 'fuse', name: 'F' },
          ],
          b,
        ),
      },
    ],
    ['removeFeedPart', { partId: part }],
    ['linkFeed', { from: pick(outlets, a), to: pick(outlets, b), metres: 0.5 }],
    ['unlinkFeed', { linkId: link?.id }],
    ['splitFeed', { ends: [pick(loads, a)], name: 'own', title: 'Own', control: pick([null, 'need', 'key-run'], b) }],
    ['fitMasterSwitch', { amps: 200 }],
  ];
  const [name, given] = args[kind % args.length]!;
  const result = applyEdit(build, name, given);
  return result.ok ? result.value.build : build;
}

test('any run of edits leaves a plan that can be wired, solved, drawn from and undone to the proposal', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(6), fc.nat(400), fc.nat(400)), { minLength: 1, maxLength: 12 }), (steps) => {
      const build = steps.reduce((now, [kind, a, b]) => randomEdit(now, kind, a, b), twinBuild());
      const net = netlist(build);
      const { flows, sizes } = net.power;
      for (const flow of flows.through.values()) expect(flow.rms).toBeGreaterThanOrEqual(flow.mean - 1e-9);
      for (const { volts } of sizes.drops) expect(Number.isFinite(volts)).toBe(true);
      // Every wire has its own name, and two ends that are there.
      expect(new Set(net.wires.map(({ id }) => id)).size).toBe(net.wires.length);
      const solution = solveCircuit(build, net, 'key-on');
      for (const volts of solution.voltages) expect(Math.abs(volts)).toBeLessThan(20);
      findingsOf(build, net);
      const again = applyEdit(build, 'proposeFeeds', {});
      // Pins of relays that were taken out are free; all else is wired as it was.
      const wired = again.ok ? ids(again.value.build) : [];
      expect(ids(plainTwin()).filter((id) => !wired.includes(id) && !/^ecu:.*~relay:/.test(id))).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('a longer way costs more volts, and a thicker wire fewer', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.5, max: 8, noNaN: true }),
      fc.double({ min: 0.1, max: 4, noNaN: true }),
      (metres, more) => {
        const at = (lengthMetres: number, squareMm: number) =>
          circuit(edited(demo, call('setCircuit', { circuitId: 'fan-1', choice: { lengthMetres, squareMm } })), 'fan-1')
            .dropVolts;
        expect(at(metres + more, 4)).toBeGreaterThan(at(metres, 4));
        expect(at(metres, 6)).toBeLessThan(at(metres, 4));
      },
    ),
    { numRuns: 20 },
  );
});

test('what a file may not hold is named by its place', () => {
  const wrong = (feeds: Partial<Build['feeds']>) => {
    const parsed = parseBuild(JSON.stringify({ ...demo, feeds: { ...demo.feeds, ...feeds } }));
    return parsed.ok ? 'was taken' : parsed.problem.sentence;
  };
  expect(wrong({})).toBe('was taken');
  expect(wrong({ parts: { 'relay:x': { kind: 'splice', name: 'X' } } })).toMatch(
    /relay:x.*names a relay and holds a splice/,
  );
  expect(wrong({ parts: { nonsense: { kind: 'splice', name: 'X' } } })).toMatch(/nonsense.*no name of a part/);
  expect(wrong({ links: { 'bat:+~gnd:head': { from: BATTERY, to: end('splice:main') } } })).toMatch(
    /not the name of a wire/,
  );
  expect(wrong({ links: { nowhere: null } })).toMatch(/no name of a wire/);
});

test('a revision tells a feed that came and one that went', () => {
  const before = planOf(demo);
  const build = edited(demo, call('hangLoad', { end: 'dev:fan-2.1', from: 'relay:fan-1.87' }));
  const words = differenceInWords(build, before, planOf(build));
  expect(words).toEqual(expect.arrayContaining(['Fan 2: its fuse is gone.', 'Fan 1: fuse 20 A became 40 A.']));
  expect(differenceInWords(demo, planOf(build), before)).toContain('Fan 2: a fuse of its own, 20 A.');
});

test('a box draws what its fuses draw, those behind another of its own counted once; hanging a load there is told before it is done', () => {
  const shared = edited(demo, call('setCircuit', { circuitId: 'injectors', choice: { feed: 'shared' } }));
  const { power } = netlist(shared);
  // Main with the injectors behind it, coils, pump and two fans.
  const sum = ['main', 'coils', 'pump', 'fan-1', 'fan-2'].reduce((all, id) => all + circuit(shared, id).loadAmps, 0);
  expect(boxAmps(power, 'front')).toBeCloseTo(sum, 9);
  expect(inBox(power, 'front').map(({ part }) => part.kind)).toEqual([
    ...Array<string>(6).fill('fuse'),
    ...Array<string>(5).fill('relay'),
  ]);
  const told = ifHung(demo, [deviceEnd('fan-2', '1')], relayEnd('fan-1', '87'));
  const done = edited(demo, call('hangLoad', { end: 'dev:fan-2.1', from: 'relay:fan-1.87' }));
  expect(told.ok && told.value.feed).toMatchObject({
    loadAmps: 32,
    fuseAmps: 40,
    squareMm: circuit(done, 'fan-1').squareMm,
  });
  const refusedToo = ifHung(demo, [end('fuse:main.1')], end('splice:main'));
  expect(!refusedToo.ok && refusedToo.problem.sentence).toMatch(/itself/);
});
