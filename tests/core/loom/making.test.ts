import { countLoaded } from '~/core/power/census';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { call } from '~/core/edits';
import { cutListCsv } from '~/core/formats/lists';
import { labelsCsv, labelsText, partsCsv } from '~/core/formats/loom-lists';
import {
  bundleOf,
  gramsPerMetre,
  hottestIn,
  pullingOf,
  segmentFigures,
  sleeveFor,
  warmAmps,
  wiresBySegment,
} from '~/core/loom/bundles';
import { cuttingPlan } from '~/core/loom/cutting';
import { leadsOf } from '~/core/loom/leads';
import { cutList } from '~/core/loom/loom';
import { subLooms } from '~/core/loom/sub-looms';
import { labelsOf, shrinkFor, unknownFields } from '~/core/loom/labels';
import { besideMetres, noiseOf } from '~/core/loom/noise';
import { orderOf, partsToBuy, stillToOrder } from '~/core/loom/parts';
import { cuttingOf } from '~/core/loom/shelf';
import { netlist, type Wire } from '~/core/netlist/netlist';
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
    const share = ({ amps }: { amps: number }) => amps / 21;
    const few = [...Array.from({ length: 3 }, () => wire(1.5, 15)), ...Array.from({ length: 10 }, () => wire(1.5, 1))];
    expect(countLoaded(few.map(share))).toBe(3);
    // Of twenty at 3 A, 14 %: under the bar of one, so none counts.
    expect(countLoaded(Array.from({ length: 20 }, () => share(wire(1.5, 3))))).toBe(0);
  });
  test('the warmest by hand: 15 A on 1.5 mm², three of them', () => {
    // Full load of three: 21 x 0.7 = 14.7 A for 75 K; (15 / 14.7)² x 75 = 78.1 K over 60 °C.
    const hottest = hottestIn(
      Array.from({ length: 3 }, () => wire(1.5, 15)),
      { loadedCircuits: 3, ambientCelsius: 60 },
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
    const figures = segmentFigures(estate, net, 'coils', wires, warmAmps(net));
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
  test('a crank cable tied to the coils is told; in the trunk the feed of coils and starter lies beside it', () => {
    const beside = edited(estate, call('standAt', { thing: 'dev:crank-vr-1', node: 'coils' }));
    const found = noiseOf(beside, netlist(beside)).find(
      ({ deviceId, loud }) => deviceId === 'crank-vr-1' && loud === 'coil',
    )!;
    // With the coils' feed from the wall to their plug, 0.2 + 0.25 + 0.26 + 0.12 m, and the tail where the sparks are made, 0.4 m.
    expect(found.bundledMetres).toBeCloseTo(1.23, 9);
    // As it is laid: from the wall to the branch, 0.2 + 0.25 m, with the feed of the coils and the starter's.
    const own = noiseOf(estate, net).filter(({ deviceId }) => deviceId === 'crank-vr-1');
    expect(own.find(({ loud }) => loud === 'coil')!.bundledMetres).toBeCloseTo(0.45, 9);
    expect(own.find(({ loud }) => loud === 'machine')!.bundledMetres).toBeCloseTo(0.45, 9);
    // What only tells a coil when to spark switches nothing.
    expect(own.some(({ segment, loud }) => loud === 'coil' && segment === 'trunk')).toBe(false);
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
