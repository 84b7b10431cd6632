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
import { labelsCsv, labelsText, partsCsv } from '~/core/formats/loom-lists';
import {
  bundleOf,
  gramsPerMetre,
  hottestIn,
  loadedIn,
  pullingOf,
  segmentFigures,
  sleeveFor,
  warmAmps,
  wiresBySegment,
} from '~/core/loom/bundles';
import { cuttingPlan } from '~/core/loom/cutting';
import { donorConnectors, oldUses, repinFactory } from '~/core/loom/factory-plug';
import { leadsOf } from '~/core/loom/leads';
import { donorColour, reusedWires } from '~/core/loom/reuse';
import { cutList } from '~/core/loom/loom';
import { loomOfWire, subLooms } from '~/core/loom/sub-looms';
import { labelsOf, shrinkFor, unknownFields } from '~/core/loom/labels';
import { besideMetres, noiseOf } from '~/core/loom/noise';
import { orderOf, partsToBuy, stillToOrder } from '~/core/loom/parts';
import { meetingsOf, repinSteps } from '~/core/loom/plug-face';
import { cuttingOf } from '~/core/loom/shelf';
import { addressMiss, tagsOf } from '~/core/loom/tags';
import { netlist, type Wire } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import { noTree } from '~/core/tree/tree';
import { pellworth } from '~/demo/pellworth';
import { edited } from '../../helpers';

const estate = pellworth();
const net = netlist(estate);
const wire = (squareMm: number, amps: number): Wire => ({ ...net.wires[0]!, squareMm, amps });

describe('bundles', () => {
  test('seven equal wires lie in three diameters; the covering adds its share', () => {
    // Lay 1-6 (common practice); 0.5 mm² is 1.6 mm over its insulation.
    const seven = bundleOf(
      Array.from({ length: 7 }, () => wire(0.5, 0)),
      'braid',
    );
    expect(seven.bareMillimetres).toBeCloseTo(4.8, 2);
    expect(seven.millimetres).toBeCloseTo(4.8 * 1.15, 2);
    // A braid is drawn over it with a tenth to spare: 5.28 mm, the next is 6.
    expect(sleeveFor('braid', seven.bareMillimetres)).toBe(6);
    expect(sleeveFor('tape', 4.8)).toBeNull();
  });
  test('a metre of 1 mm²: 8.89 g of copper, and its insulation', () => {
    // Over all 2.1 mm: 3.46 mm², less 1 of copper, at 1.4 g/cm³ is 3.45 g.
    expect(gramsPerMetre(1)).toBeCloseTo(8.89 + 3.45, 1);
  });
  test('wires that carry under 30 % of what they may in their group do not count (IEC 60364-5-52, 523.5)', () => {
    // 1.5 mm² carries 21 A alone. Three at 15 A count; ten at 1 A, 4.8 %, do not: 0.3 x 0.7 = 21 % is the bar of three.
    const few = [...Array.from({ length: 3 }, () => wire(1.5, 15)), ...Array.from({ length: 10 }, () => wire(1.5, 1))];
    expect(loadedIn(few)).toBe(3);
    // Of twenty at 3 A, 14 %: under the bar of one, so none counts.
    expect(loadedIn(Array.from({ length: 20 }, () => wire(1.5, 3)))).toBe(0);
  });
  test('the warmest by hand: 15 A on 1.5 mm², three of them', () => {
    // Full load of three: 21 x 0.7 = 14.7 A for 75 K; (15 / 14.7)² x 75 = 78.1 K over 60 °C.
    const hottest = hottestIn(
      Array.from({ length: 3 }, () => wire(1.5, 15)),
      60,
    )!;
    expect(hottest.celsius).toBeCloseTo(138.1, 0);
  });
  test('what has to pass a hole: from the side whose plugs are small, a plug in the loom ends it', () => {
    const holed = edited(pellworth({ tree: false }), call('proposeTree', { vehicle: 'car', engine: 'front' }));
    const pulling = pullingOf(holed, netlist(holed), 'wall')!;
    expect(pulling.fromA.some(({ name }) => name.startsWith(holed.ecu.model))).toBe(true);
    expect(pulling.fromB.map(({ name }) => name)).toContain('Crank sensor');
    const plugged = edited(
      holed,
      call('plugSegment', { segment: 'trunk', metres: 0.2, name: 'Inner', shell: 'in-line' }),
      call('setPlug', { node: 'plug', changes: { bareMillimetres: 31 } }),
    );
    const short = pullingOf(plugged, netlist(plugged), 'wall')!;
    expect(short.fromA.find(({ name }) => name === 'Inner')).toMatchObject({ millimetres: 31, isGuess: false });
    expect(short.fromA.some(({ name }) => name.startsWith(holed.ecu.model))).toBe(false);
    expect(pullingOf(holed, net, 'trunk')).toBeNull();
  });
  test('figures of a piece hold together', () => {
    const wires = wiresBySegment(net).get('coils')!;
    const figures = segmentFigures(estate, 'coils', wires, warmAmps(net));
    expect(figures.covering).toBe('braid');
    expect(figures.grams).toBeCloseTo(
      estate.tree.segments.coils!.metres * wires.reduce((sum, { squareMm }) => sum + gramsPerMetre(squareMm), 0),
      9,
    );
  });
});

describe('noise', () => {
  const at = (x: number, y: number) => ({ kind: 'branch' as const, name: '', at: { x, y }, holds: [] });
  const piece = (a: string, b: string) => ({ a, b, metres: 1, measured: true, zone: 'engine' as const });
  test('metres of a piece within 100 mm of another on the plan; pieces that meet are not asked', () => {
    const tree = {
      ...noTree,
      nodes: { a: at(0, 0), b: at(1, 0), c: at(0, 0.05), d: at(0.5, 0.05), e: at(0, 0.5), f: at(1, 0.5) },
      segments: { one: piece('a', 'b'), near: piece('c', 'd'), far: piece('e', 'f'), on: piece('b', 'd') },
    };
    // Half of it lies beside, and 0.087 m beyond the end of the other are within 100 mm of that end: sqrt(0.1² - 0.05²).
    expect(besideMetres(tree, 'one', 'near')).toBeCloseTo(0.587, 1);
    expect(besideMetres(tree, 'one', 'far')).toBe(0);
    expect(besideMetres(tree, 'one', 'on')).toBe(0);
  });
  test('a crank cable tied to the coils is told, and led by another way it is clear', () => {
    const beside = edited(estate, call('standAt', { thing: 'dev:crank-vr-1', node: 'coils' }));
    const found = noiseOf(beside, netlist(beside)).find(
      ({ deviceId, loud }) => deviceId === 'crank-vr-1' && loud === 'coil',
    )!;
    // The tail behind the coil plug, where the sparks are made.
    expect(found.bundledMetres).toBeCloseTo(estate.tree.segments['coils-b']!.metres, 2);
    expect(noiseOf(estate, net).some(({ deviceId, loud }) => deviceId === 'crank-vr-1' && loud === 'coil')).toBe(false);
  });
});

describe('cutting', () => {
  const lengths = fc.array(fc.integer({ min: 1, max: 300 }), { maxLength: 40 });
  test('never cuts more than there is, cuts every piece once, and begins no fewer spools than the bound', () => {
    fc.assert(
      fc.property(lengths, fc.array(fc.integer({ min: 1, max: 400 }), { maxLength: 6 }), (wanted, shelf) => {
        const pieces = wanted.map((tenths, i) => ({ id: `w${i}`, metres: tenths / 10 }));
        const stock = shelf.map((tenths, i) => ({ id: `s${i}`, metres: tenths / 10 }));
        const plan = cuttingPlan(pieces, stock, 25);
        for (const { metres, pieces: cut, left } of plan.cuts) {
          const sum = cut.reduce((all, one) => all + one.metres, 0);
          expect(sum).toBeLessThanOrEqual(metres + 1e-6);
          expect(left).toBeCloseTo(metres - sum, 6);
        }
        const all = [...plan.cuts.flatMap((one) => one.pieces), ...plan.tooLong].map(({ id }) => id).sort();
        expect(all).toEqual(pieces.map(({ id }) => id).sort());
        for (const { metres } of plan.tooLong) expect(metres).toBeGreaterThan(25);
        expect(plan.bought).toBeGreaterThanOrEqual(plan.boundBought);
        // Best fit, decreasing: 11/9 of the best and four at the most (D. S. Johnson 1973), where nothing is on the shelf.
        if (stock.length === 0) expect(plan.bought).toBeLessThanOrEqual(2 * plan.boundBought + 1);
      }),
    );
  });
  test('by hand: leftovers of 4 and 3 m take 2.5 + 1.5 and 3, one spool the rest', () => {
    const plan = cuttingPlan(
      [2.5, 1.5, 3, 10].map((metres, i) => ({ id: String(i), metres })),
      [
        { id: 'four', metres: 4 },
        { id: 'three', metres: 3 },
      ],
      25,
    );
    expect(plan.cuts.map(({ stockId, pieces, left }) => [stockId, pieces.map(({ metres }) => metres), left])).toEqual([
      ['four', [2.5, 1.5], 0],
      ['three', [3], 0],
      [null, [10], 15],
    ]);
    expect([plan.bought, plan.boundBought]).toEqual([1, 1]);
  });
  test('what was cut leaves its leftovers on the shelf, and the next loom takes them', () => {
    const cut = edited(estate, call('cutFromShelf', {}));
    const before = cuttingOf(estate, net).reduce((sum, { plan }) => sum + plan.bought, 0);
    expect(cut.stores.spools).toHaveLength(before);
    const metres = cut.stores.spools.reduce((sum, spool) => sum + spool.metres, 0);
    const used = net.wires.reduce((sum, { lengthMetres }) => sum + lengthMetres, 0);
    expect(metres).toBeCloseTo(before * estate.stores.spoolMetres - used, 0);
    // A second loom begins a new spool only of what the first used more than half of.
    expect(cuttingOf(cut, net).reduce((sum, { plan }) => sum + plan.bought, 0)).toBeLessThan(before / 10);
  });
});

describe('labels', () => {
  test('one at either end of every wire and on every plug; each begins with where it sits', () => {
    const labels = labelsOf(estate, net);
    expect(labels.filter(({ end }) => end !== 'plug')).toHaveLength(2 * net.wires.length);
    const crank = labels.filter(({ about }) => about === 'ecu:B1~plug:wall-plug.60');
    expect(crank.map(({ text }) => text.replace(/^\d+ /, ''))).toEqual(['B1 > Wall plug · 60', 'Wall plug · 60 > B1']);
    expect(labels.some(({ text }) => text === 'Wall plug, other half')).toBe(true);
    for (const { text } of labels) expect(text).not.toMatch(/[\n\u00ad{}]/);
  });
  test('heat-shrink goes over the wire with a quarter to spare; the label is as long as its text', () => {
    // 0.35 mm² is 1.3 mm: 1.63, the next bore is 2.4. 6 mm² is 4.3: 5.4, the next is 6.4.
    expect([shrinkFor(1.3), shrinkFor(4.3)]).toEqual([2.4, 6.4]);
    const [one] = labelsOf(estate, net);
    expect(one!.flatMillimetres).toBeCloseTo((Math.PI * one!.shrinkMillimetres) / 2, 1);
    const longer = edited(estate, call('setLoom', { label: '{number} {from} > {to} {function} {colour} {size}' }));
    expect(labelsOf(longer, net)[0]!.lengthMillimetres).toBeGreaterThan(one!.lengthMillimetres);
  });
  test('a field no label has is named', () => {
    expect(unknownFields('{number} {form} {to}')).toEqual(['form']);
  });
  test('as a table and as plain text, every label once', () => {
    const labels = labelsOf(estate, net);
    expect(labelsCsv(estate, net).trim().split('\n')).toHaveLength(labels.length + 1);
    expect(
      labelsText(estate, net)
        .split('\n')
        .filter((line) => line !== '' && !line.startsWith('#')),
    ).toHaveLength(labels.length);
  });
});

describe('parts to buy', () => {
  const lines = partsToBuy(estate, net);
  test('a terminal for each end of each wire, but where it is spliced', () => {
    const ends = net.wires.flatMap(({ from, to }) => [from, to]).filter((end) => !end.startsWith('splice:'));
    const bare = ends.filter((end) => /^(shield|key|tap|res|diode|button):/.test(end));
    const counted = lines
      .filter(({ group }) => group === 'Terminals' || group === 'Rings')
      .reduce((sum, { needed }) => sum + needed, 0);
    expect(counted).toBe(ends.length - bare.length);
  });
  test('one in ten more, and two at the least; plugs as many as there are', () => {
    for (const { group, needed, toBuy, unit } of lines) {
      if (group === 'Plugs') expect(toBuy).toBe(needed);
      else if (unit === 'piece') expect(toBuy).toBe(needed + Math.max(2, Math.ceil(needed * 0.1)));
      else expect(toBuy).toBeGreaterThanOrEqual(needed);
    }
    expect(lines.find(({ name }) => name.startsWith('Wall plug, both halves'))).toMatchObject({ needed: 1, toBuy: 1 });
    // 66 cavities, 62 wires: four blanks in either half of a sealed plug.
    expect(lines.find(({ name }) => name === 'Blank, Wall plug')).toMatchObject({ needed: 8 });
  });
  test('wire by colour and size is what the cut list has', () => {
    const metres = lines.filter(({ group }) => group === 'Wire').reduce((sum, { needed }) => sum + needed, 0);
    expect(metres).toBeCloseTo(
      net.wires.reduce((sum, { lengthMetres }) => sum + lengthMetres, 0),
      1,
    );
  });
  test('what is still to be ordered, and what it costs, by hand', () => {
    // 66 to buy: 20 here, 30 ordered of which 12 came: 16 are missing, at 0.42.
    const line = { ...lines[0]!, key: 'one', toBuy: 66 };
    const noted = { have: 20, ordered: 30, arrived: 12, price: 0.42, supplier: '' };
    expect(stillToOrder(line, noted)).toBe(16);
    expect(stillToOrder(line, { ...noted, ordered: 0, arrived: 50 })).toBe(0);
    const build = { stores: { ...estate.stores, parts: { one: noted } } };
    const { open, cost } = orderOf(build, [line, { ...line, key: 'other', toBuy: 0 }]);
    expect([open, Math.round(cost * 100)]).toEqual([1, 672]);
  });
  test('sizes are read as the workshop reads them, everywhere', () => {
    const inch = edited(pellworth(), call('setUnits', { workshop: 'inch' }), call('setLoom', { series: 'awg' }));
    const after = netlist(inch);
    expect(cutListCsv(inch, after)).not.toMatch(/mm²/);
    expect(cutList(inch, after)[0]!.ends.join(' ')).not.toContain('mm²');
  });
  test('what is here and on order goes out with it', () => {
    const [first] = lines;
    const noted = edited(
      estate,
      call('setBought', { key: first!.key, changes: { have: 1, price: 12.5, supplier: 'connector shop' } }),
    );
    expect(partsCsv(noted, net)).toMatch(/,1,0,0,12\.5,connector shop/);
  });
});

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

describe('sub-looms and the cut list', () => {
  test('the looms a tree falls into at its plugs: every piece in one, every wire of one', () => {
    const looms = subLooms(estate);
    expect(looms.map(({ name }) => name)).toEqual(['ECU loom', 'behind Wall plug and Coil plug', 'behind Coil plug']);
    expect(looms.flatMap(({ segments }) => [...segments]).sort()).toEqual(Object.keys(estate.tree.segments).sort());
    const lines = cutList(estate, net);
    expect(new Set(lines.map(({ loom }) => loom))).toEqual(new Set(looms.map(({ name }) => name)));
    // Of a wire that is parted in both plugs a piece is of each.
    const trigger = lines.filter(({ wireId }) => net.wireById.get(wireId)!.cutOf === 'dev:coil-igniter-3.C~ecu:A13');
    expect(trigger.map(({ loom }) => loom).sort()).toEqual([...looms.map(({ name }) => name)].sort());
    expect(subLooms(pellworth({ tree: false }))).toEqual([]);
  });
  test('the cut list covers the netlist exactly, with its way, its terminals and both labels', () => {
    const lines = cutList(estate, net);
    expect(lines.map(({ wireId }) => wireId).sort()).toEqual(net.wires.map(({ id }) => id).sort());
    const line = lines.find(({ wireId }) => net.wireById.get(wireId)!.from === 'ecu:A13')!;
    expect(line).toMatchObject({
      way: 'Orrery 48 > cabin branch > Wall plug',
      ends: [
        expect.stringMatching(/^terminal A 0\.35 mm², seal$/),
        expect.stringMatching(/^terminal Wall plug 0\.35 mm², seal$/),
      ],
    });
    const [head, ...rows] = cutListCsv(estate, net).trim().split('\r\n');
    expect(head).toContain('label at from,label at to,heat-shrink mm,donor');
    expect(rows).toHaveLength(lines.length);
  });
  test('leads against their routes: short, cut off, or parked with jumpers to be had', () => {
    const kit = {
      ...edited(estate, call('setLoom', { origin: 'flying-lead', leadMetres: 1 })),
      ecu: { ...estate.ecu, pins: estate.ecu.pins.map((pin) => ({ ...pin, lead: { colour: 'WH' } })) },
    };
    const leads = leadsOf(kit, netlist(kit))!;
    expect(leads).toHaveLength(kit.ecu.pins.length);
    for (const { fate, neededMetres, metres } of leads) {
      if (neededMetres === null) expect([fate, metres]).toEqual(['park', 1]);
      else expect(fate === 'short' ? neededMetres - metres : neededMetres + metres).toBeCloseTo(1, 9);
    }
    // 0.2 m to the wall plug from the cabin branch, 0.4 to that, 0.1 of slack: 0.7; what is cut off does for a jumper.
    expect(leads.find(({ pinId }) => pinId === 'A13')).toMatchObject({ fate: 'cut', metres: 0.3, jumpers: 1 });
    expect(leadsOf(estate, net)).toBeNull();
  });
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
