import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { applyEdit, call } from '~/core/edits';
import { pinSteps, placeHelp, staleCrimps } from '~/core/allot/pinning';
import { buildSchema, pinningOrders } from '~/core/build/schema';
import { firstFace } from '~/core/devices/face';
import { crimpHeight } from '~/core/ecu/terminal';
import { deviceAt } from '~/core/ends/ends';
import { deviceEnds, plugEnds } from '~/core/loom/far-ends';
import { cutListCsv } from '~/core/formats/lists';
import { pullingOf } from '~/core/loom/bundles';
import { donorConnectors, oldUses, repinFactory } from '~/core/loom/factory-plug';
import { donorColour, reusedWires } from '~/core/loom/reuse';
import { loomOfWire, subLooms } from '~/core/loom/sub-looms';
import { partsToBuy } from '~/core/loom/parts';
import { meetingsOf, repinSteps } from '~/core/loom/plug-face';
import { addressMiss, tagsOf } from '~/core/loom/tags';
import { netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import { pellworth } from '~/demo/pellworth';
import { edited, kind } from '../../helpers';

const estate = pellworth();
const net = netlist(estate);

test('re-pinning: into what is free by then; a ring is opened by one held aside; the end is what was wanted', () => {
  expect(repinSteps({ a: 3, b: 5 }, { a: 7, b: 3 })).toEqual([
    { whole: 'a', from: 3, to: 7 },
    { whole: 'b', from: 5, to: 3 },
  ]);
  expect(repinSteps({ a: 1, b: 2 }, { a: 2, b: 1 })).toEqual([
    { whole: 'a', from: 1, to: null },
    { whole: 'b', from: 2, to: 1 },
    { whole: 'a', from: null, to: 2 },
  ]);
  const allotment = fc
    .uniqueArray(fc.integer({ min: 1, max: 12 }), { maxLength: 8 })
    .map((cavities) => Object.fromEntries(cavities.map((cavity, i) => [`w${i}`, cavity])));
  fc.assert(
    fc.property(allotment, allotment, (before, after) => {
      const at = new Map(Object.entries(before));
      for (const { whole, from, to } of repinSteps(before, after)) {
        expect(at.get(whole) ?? null).toBe(from);
        if (to === null) at.delete(whole);
        else {
          expect([...at.values()]).not.toContain(to);
          at.set(whole, to);
        }
      }
      expect(Object.fromEntries(at)).toEqual(after);
    }),
  );
});

describe('the far ends at the bench', () => {
  const ends = deviceEnds(estate, net);
  test('every terminal in the plug of a device, once, plug by plug', () => {
    const wanted = net.wires.flatMap(({ from, to }) => [from, to]).filter((end) => deviceAt(end) !== null);
    expect(ends.map(({ end }) => end).sort()).toEqual([...wanted].sort());
    expect(new Set(ends.map(({ note }) => note)).size).toBe(ends.length);
    const plugs = ends.map(({ plug }) => plug);
    expect(plugs.filter((plug, i) => plug !== plugs[i - 1])).toHaveLength(new Set(plugs).size);
  });
  test('one that is clicked in is noted by its end, and says nothing of the ECU’s side', () => {
    const far = ends.find(({ end }) => end === 'dev:crank-vr-1.1')!;
    const clicked = edited(estate, call('crimp', { wireIds: [far.note], at: '2026-09-06T10:00:00.000Z', by: 'MP' }));
    const after = netlist(clicked);
    expect(
      deviceEnds(clicked, after)
        .filter(({ done }) => done)
        .map(({ end }) => end),
    ).toEqual([far.end]);
    expect(pinSteps(clicked, after).filter(({ done }) => done)).toHaveLength(
      pinSteps(estate, net).filter(({ done }) => done).length,
    );
    expect(staleCrimps(clicked, after)).toEqual(staleCrimps(estate, net));
    const out = edited(clicked, call('uncrimp', { wireIds: [far.note] }));
    expect(deviceEnds(out, after).some(({ done }) => done)).toBe(false);
  });
});

test('a half is what hangs on one side of its plug: all of its wires are of one loom', () => {
  const looms = subLooms(estate);
  for (const id of ['wall-plug', 'coil-plug']) {
    const meetings = meetingsOf(estate, net, id);
    expect(meetings.length).toBeGreaterThan(10);
    const of = (half: 'near' | 'far') => new Set(meetings.map((one) => loomOfWire(looms, one[half], net)!.name));
    expect([...of('near')]).toEqual([id === 'wall-plug' ? 'ECU loom' : 'behind Wall plug and Coil plug']);
    expect(of('far').size).toBe(1);
    expect(of('far')).not.toEqual(of('near'));
  }
});

describe('pinning walks either end', () => {
  test('devices and halves of plugs: every terminal there once, in each order', () => {
    const far = (ends: 'devices' | 'plugs') =>
      pinningOrders.map((order) => pinSteps(estate, net, order, new Map(), ends).map(({ note }) => note));
    const devices = deviceEnds(estate, net).map(({ note }) => note);
    const plugs = plugEnds(estate, net).map(({ note }) => note);
    expect(plugs.length).toBeGreaterThan(60);
    for (const notes of far('devices')) expect([...notes].sort()).toEqual([...devices].sort());
    for (const notes of far('plugs')) expect([...notes].sort()).toEqual([...plugs].sort());
    expect(far('devices')[0]).toEqual(devices);
  });
  test('a half is counted with its own wires before the eyes: left and right change over', () => {
    const steps = pinSteps(estate, net, 'connector', new Map(), 'plugs').filter(({ plug }) => plug === 'Wall plug');
    const [near, far] = (['near', 'far'] as const).map((half) =>
      steps.find((step) => step.half === half && step.cavity === '2')!,
    );
    const seen = (step: (typeof steps)[number], side: 'wire' | 'mating') =>
      placeHelp(step.place!.connector, step.place!.cavity, side, step.half === 'far', (cavity) => ({
        written: String(cavity),
        holds: '',
      }));
    expect(seen(near!, 'wire').counting).toMatch(/second from the left, wire side$/);
    expect(seen(far!, 'wire').counting).toMatch(/second from the right, wire side$/);
    expect(seen(far!, 'mating').counting).toMatch(/second from the left, mating side$/);
    expect(seen(near!, 'wire').beside.find(({ side }) => side === 'left')!.pinId).toBe('1');
    expect(seen(far!, 'wire').beside.find(({ side }) => side === 'right')!.pinId).toBe('1');
  });
  test('a terminal that was read through is in place at both ends; a tick is not asked for', () => {
    const [step] = pinSteps(estate, net, 'connector', new Map(), 'devices').filter(({ measured }) => measured);
    expect(step).toMatchObject({ done: true });
    expect(estate.pinning.done[step!.note]).toBeUndefined();
  });
});

describe('the plug of a part', () => {
  const kind = estate.kinds['crank-vr']!;
  const bare = edited(estate, call('setFace', { kindId: kind.id, face: null }));
  const face = { ...firstFace(kind.terminals.map(({ id }) => id)), rows: [3] };
  const drawn = edited(estate, call('setFace', { kindId: kind.id, face }));
  const steps = (build: typeof estate) =>
    pinSteps(build, netlist(build), 'connector', new Map(), 'devices').filter(({ end }) =>
      end.startsWith('dev:crank-vr'),
    );

  test('once it is drawn its cavities are counted on, its seals and blanks bought', () => {
    expect(steps(bare).every(({ place }) => place === null)).toBe(true);
    expect(steps(drawn).map(({ place }) => place?.cavity)).toEqual([1, 2]);
    const lines = (build: typeof estate) => new Map(partsToBuy(build, netlist(build)).map((line) => [line.key, line]));
    expect(lines(bare).has(`Seals and blanks seal kind ${kind.id}`)).toBe(false);
    // Two wires and one empty cavity.
    expect(lines(drawn).get(`Seals and blanks seal kind ${kind.id}`)!.needed).toBe(2);
    expect(lines(drawn).get(`Seals and blanks blank kind ${kind.id}`)!.needed).toBe(1);
    expect(lines(drawn).get(`Plugs kind ${kind.id}`)!.name).toContain('3 ways');
  });
  test('what was measured across it is what has to pass a hole', () => {
    // No plug parts this loom: all of it is pulled through the wall.
    const whole = edited(
      pellworth({ tree: false }),
      call('proposeTree', { vehicle: 'car', engine: 'front' }),
      call('setSegment', { segment: 'wall', changes: { hole: { millimetres: 30, grommet: true } } }),
    );
    const passer = (build: typeof estate) => {
      const { fromA, fromB } = pullingOf(build, netlist(build), 'wall')!;
      return [...fromA, ...fromB].find(({ name }) => name === 'Crank sensor');
    };
    expect(passer(whole)).toMatchObject({ isGuess: true });
    const measured = edited(whole, call('setFace', { kindId: kind.id, face: { ...face, acrossMillimetres: 27 } }));
    expect(passer(measured)).toMatchObject({ millimetres: 27, isGuess: false });
  });
  test('a wire that its terminals do not take stops', () => {
    const thin = edited(estate, call('setFace', { kindId: kind.id, face: { ...face, maxSquareMm: 0.2 } }));
    const stops = findingsOf(thin).filter(
      ({ rule, detail }) => rule === 'LO-6' && detail.includes('takes up to 0.2 mm²'),
    );
    expect(stops.length).toBe(2);
    expect(findingsOf(drawn).some(({ rule }) => rule === 'LO-6')).toBe(false);
  });
  test.each([
    [{ ...face, cavities: { 9: 1 } }, 'terminal 9 does not exist'],
    [{ ...face, cavities: { 1: 7 } }, 'terminal 1 is in cavity 7, and there are 1 to 3'],
    [{ ...face, cavities: { 1: 2, 2: 2 } }, 'terminals 1 and 2 are both in cavity 2'],
  ])('a face that cannot be is named, and nothing is changed: %#', (wrong, words) => {
    const result = applyEdit(estate, 'setFace', { kindId: kind.id, face: wrong });
    expect(result.ok ? '' : result.problem.sentence).toContain(words);
  });
  test('a first face goes by the numbers of the terminals, else by their order', () => {
    expect(firstFace(['1', '2', '3'])).toMatchObject({ rows: [3], cavities: { 1: 1, 2: 2, 3: 3 } });
    expect(firstFace(['B', 'A'])).toMatchObject({ rows: [2], cavities: { B: 1, A: 2 } });
    expect(firstFace(Array.from({ length: 7 }, (_, i) => String(i + 1)))).toMatchObject({ rows: [4, 3] });
  });
  test('terminal data: strip, tool, and the crimp of just this wire', () => {
    const terminal = {
      name: 'bag 12',
      stripMillimetres: 4.5,
      tool: 'die B',
      crimps: [{ squareMm: 0.5, heightMillimetres: 1.05 }],
    };
    const noted = edited(drawn, call('setTerminal', { plug: 'kind', id: kind.id, terminal }));
    const connector = steps(noted)[0]!.place!.connector;
    expect(crimpHeight(connector.terminal!, 0.5)).toBe(1.05);
    expect(crimpHeight(connector.terminal!, 0.75)).toBeNull();
    // The same for the ECU's connectors and the loom's own plugs; a face that goes takes them along.
    const ecu = edited(estate, call('setTerminal', { plug: 'ecu', id: 'A', terminal }));
    expect(pinSteps(ecu, netlist(ecu)).find(({ plug }) => plug === 'A')!.place!.connector.terminal).toEqual(terminal);
    const plug = edited(estate, call('setTerminal', { plug: 'loom', id: 'wall-plug', terminal }));
    expect(plug.tree.nodes['wall-plug']!.plug!.terminal).toEqual(terminal);
    expect(
      edited(plug, call('setTerminal', { plug: 'loom', id: 'wall-plug', terminal: null })).tree.nodes['wall-plug']!
        .plug,
    ).toEqual(estate.tree.nodes['wall-plug']!.plug);
    expect(applyEdit(bare, 'setTerminal', { plug: 'kind', id: kind.id, terminal }).ok).toBe(false);
    expect(buildSchema.safeParse(noted).success).toBe(true);
  });
});

describe('a factory plug used again', () => {
  // The donor's coolant signal sat in cavity 1 of F12 and goes on to B10; F20 has two brittle wires that come out.
  const set = (was: string) => edited(estate, call('setFactoryPlug', { node: 'wall-plug', was }));
  const cavityOf = (pin: string) =>
    meetingsOf(estate, net, 'wall-plug').find(({ near, far }) =>
      [near, far].some(({ from, to }) => from === `ecu:${pin}` || to === `ecu:${pin}`),
    )!.cavity;

  test('each cavity tells what it was; a wire that lives on is moved, what is in the way comes out', () => {
    const build = set('F12');
    expect(oldUses(build, 'wall-plug').get(2)).toMatchObject({ colour: 'BN', function: 'Coolant sensor return' });
    expect(repinFactory(build, netlist(build), 'wall-plug')).toMatchObject([
      { from: 1, to: cavityOf('B10') },
      // Its cavity is taken by another wire now.
      { from: 2, to: null },
    ]);
    expect(repinFactory(estate, net, 'wall-plug')).toEqual([]);
  });
  test('a connector with a restraint wire in it is never offered, nor taken', () => {
    expect(donorConnectors(estate)).toContain('F12');
    expect(donorConnectors(estate)).not.toContain('Y1');
    const refused = applyEdit(estate, 'setFactoryPlug', { node: 'wall-plug', was: 'Y1' });
    expect(refused.ok ? '' : refused.problem.sentence).toContain('no connector Y1 that may be used again');
  });
});

describe('donor wires that live on', () => {
  test('keep their colour, size and condition, whoever wrote the list', () => {
    const [one] = [...reusedWires(estate, net).values()];
    expect(one).toMatchObject({ colour: 'GN/YE', squareMm: 0.75, differs: true, worn: false });
    expect(one!.wire.from === 'ecu:B10' || one!.wire.to === 'ecu:B10').toBe(true);
    const taken = edited(
      estate,
      call('setWire', { wireId: one!.wire.cutOf ?? one!.wire.id, colour: 'GN/YE', squareMm: 0.75 }),
    );
    expect([...reusedWires(taken, netlist(taken)).values()][0]).toMatchObject({ differs: false });
    expect(cutListCsv(estate, net)).toContain('"GN/YE of F12 1, good"');
    // English letters: G is green, Y yellow.
    const [id] = Object.keys(estate.survey.donor);
    const english = edited(estate, call('editDonorWires', { ids: [id!], fields: { colour: 'G/Y' } }));
    expect(donorColour({ survey: { ...english.survey, colours: 'english' } }, 'G/Y')).toBe('GN/YE');
  });
  test('a restraint wire is never one of them', () => {
    const donor = Object.values(estate.survey.donor)[0]!;
    const marked = {
      ...estate,
      survey: { ...estate.survey, donor: { ...estate.survey.donor, [donor.id]: { ...donor, restraint: true } } },
    };
    expect(reusedWires(marked, net).size).toBe(0);
  });
});

describe('tags', () => {
  const tagged = (tags: string) => edited(estate, call('setLoom', { tags }));
  test('are off until an address is given, and none stands on one that is no address', () => {
    expect(tagsOf(estate, net)).toEqual([]);
    expect(tagsOf(tagged('somewhere'), net)).toEqual([]);
    expect(addressMiss('ftp://192.0.2.7')).toMatch(/http/);
    expect(addressMiss('http://192.0.2.7:4300')).toBeNull();
  });
  test('one for each plug with a wire, both halves of those in the loom; each leads to an end that is there', () => {
    const tags = tagsOf(tagged('http://192.0.2.7:4300/'), net);
    expect(new Set(tags.map(({ id }) => id)).size).toBe(tags.length);
    expect(tags.filter(({ name }) => name === 'Wall plug').map(({ note }) => note)).toEqual([
      'ECU’s half',
      'other half',
    ]);
    for (const { url, end } of tags) {
      const asked = new URL(url);
      expect(asked.origin + asked.pathname).toBe(`http://192.0.2.7:4300/build/${estate.id}/loom/plugs`);
      expect(asked.searchParams.get('end')).toBe(end);
      expect(net.wiresAt.has(end)).toBe(true);
    }
  });
});

test('a hose to the ECU’s own sensor: 1.2 m lags, 0.8 m does not, as typed or by its way through the tree', () => {
  const added = edited(pellworth({ tree: false }), call('addDevice', { kind: kind('manifold-hose') }));
  const hosed = { ...added, ecu: { ...added.ecu, inside: { manifoldKpa: 400 } } };
  const { id } = hosed.devices.find(({ kindId }) => kindId === 'manifold-hose')!;
  const told = (build: typeof estate) =>
    findingsOf(build).flatMap(({ rule, detail }) => (rule === 'LO-15' && detail.includes('hose') ? detail : []));
  const typed = (branchMetres: number) => edited(hosed, call('editDevice', { deviceId: id, branchMetres }));
  expect(told(typed(1.2))).toEqual([expect.stringContaining('1.20 m long')]);
  expect(told(typed(0.8))).toEqual([]);
  // Stood at the end of the trunk it is as long as that, whatever was typed.
  const laid = edited(typed(0.8), call('proposeTree', { vehicle: 'car', engine: 'front' }));
  const { trunk } = laid.tree.segments;
  const stood = (metres: number) =>
    edited(
      laid,
      call('standAt', { node: trunk!.a === 'ecu' ? trunk!.b : trunk!.a, thing: `dev:${id}` }),
      call('setSegment', { segment: 'trunk', changes: { metres } }),
    );
  expect(told(stood(1.3))).toEqual([expect.stringContaining('1.30 m long')]);
  expect(told(stood(0.5))).toEqual([]);
});
test('a condition is taken at its word, and not at a word it takes back', () => {
  const [id] = Object.keys(estate.survey.donor);
  const worn = (condition: string, note = '') =>
    [
      ...reusedWires(edited(estate, call('editDonorWires', { ids: [id!], fields: { condition, note } })), net).values(),
    ][0]!.worn;
  expect([
    worn('brittle'),
    worn('a little corroded'),
    worn('good'),
    worn('not brittle'),
    worn('good', 'to the green plug'),
  ]).toEqual([true, true, false, false, false]);
});
