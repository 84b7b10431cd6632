import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { call } from '~/core/edits';
import { layBoard } from '~/core/loom/board';
import { bundleOf, judgedMillimetres, wiresBySegment } from '~/core/loom/bundles';
import { cuttingPlan } from '~/core/loom/cutting';
import { packCircles } from '~/core/loom/packing';
import { partsToBuy } from '~/core/loom/parts';
import { netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import { pellworth } from '~/demo/pellworth';
import { demoBuild, edited, emptyBuild, kind } from '../helpers';

describe('packing', () => {
  /**
   * Diameters of the smallest circle known about N equal ones, in theirs: R. L. Graham, B. D. Lubachevsky, K. J. Nurmela and
   * P. R. J. Östergård, Dense packings of congruent circles in a circle, Discrete Mathematics 181 (1998), from memory.
   */
  const best: readonly (readonly [number, number])[] = [
    [7, 3],
    [10, 3.813],
    [12, 4.0296],
    [13, 4.2361],
    [14, 4.3284],
    [15, 4.5214],
    [16, 4.6154],
    [17, 4.792],
    [18, 4.8637],
    [19, 4.8637],
    [20, 5.1223],
  ];
  test.each(best)('%i equal wires within 3 %% of the closest lay known, %f diameters', (count, diameters) => {
    const { diameter, circles } = packCircles(Array.from({ length: count }, () => 1));
    expect(diameter).toBeLessThanOrEqual(diameters * 1.03);
    expect(diameter).toBeGreaterThanOrEqual(diameters * 0.9999);
    for (const [i, one] of circles.entries())
      for (const other of circles.slice(i + 1))
        expect(Math.hypot(one.x - other.x, one.y - other.y)).toBeGreaterThanOrEqual(1 - 1e-3);
  });
  test('over 1.2 d sqrt(N) by no more than 3 %, and a hole is judged by no more than that rule', () => {
    const [wire] = netlist(demoBuild()).wires;
    for (let count = 7; count <= 40; count += 1) {
      const rule = 1.2 * Math.sqrt(count);
      expect(packCircles(Array.from({ length: count }, () => 1)).diameter).toBeLessThanOrEqual(rule * 1.03);
      const wires = Array.from({ length: count }, () => ({ ...wire!, squareMm: 1 }));
      // 2.1 mm over the insulation.
      expect(judgedMillimetres(wires, 'none')).toBeLessThanOrEqual(rule * 2.1 + 1e-9);
      expect(judgedMillimetres(wires, 'none')).toBeLessThanOrEqual(bundleOf(wires, 'none').millimetres);
    }
  });
});

describe('cutting', () => {
  /** Fewest spools by trying every way: each length into each bin that has room, or a new one. */
  function fewest(lengths: readonly number[], spool: number): number {
    let best = lengths.length;
    const search = (next: number, left: readonly number[]): void => {
      if (left.length >= best) return;
      if (next === lengths.length) {
        best = left.length;
        return;
      }
      const length = lengths[next]!;
      left.forEach((rest, bin) => {
        if (rest >= length)
          search(
            next + 1,
            left.map((one, at) => (at === bin ? one - length : one)),
          );
      });
      search(next + 1, [...left, spool - length]);
    };
    search(0, []);
    return best;
  }
  test('as few spools as trying every way finds, up to nine lengths', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 50, max: 900 }), { minLength: 1, maxLength: 9 }), (centimetres) => {
        const plan = cuttingPlan(
          centimetres.map((length, i) => ({ id: String(i), metres: length / 100 })),
          [],
          10,
        );
        expect(plan.bought).toBe(fewest(centimetres, 1000));
        expect(plan.boundBought).toBe(plan.bought);
      }),
      { numRuns: 200 },
    );
  });
  test('spools that were cut up to the end are put together again', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.integer({ min: 1, max: 100 }), { minLength: 2, maxLength: 5 }), {
          minLength: 2,
          maxLength: 7,
        }),
        (shares) => {
          const pieces = shares.flatMap((spool, at) => {
            const sum = spool.reduce((all, one) => all + one, 0);
            const cuts = spool.slice(0, -1).map((one) => Math.max(1, Math.floor((1000 * one) / sum)));
            return [...cuts, 1000 - cuts.reduce((all, one) => all + one, 0)].map((length, i) => ({
              id: `${at}-${i}`,
              metres: length / 100,
            }));
          });
          const plan = cuttingPlan(pieces, [], 10);
          expect(plan.boundBought).toBeGreaterThanOrEqual(shares.length);
          expect(plan.bought).toBeLessThanOrEqual(shares.length + 1);
          if (plan.bought > shares.length) expect(plan.boundBought).toBeLessThan(plan.bought);
        },
      ),
      { numRuns: 60 },
    );
  });
  test('first fit would take four: 6, 5, 5, 4, 4, 3, 3 metres from spools of 10 are three', () => {
    const plan = cuttingPlan(
      [6, 5, 5, 4, 4, 3, 3].map((metres, i) => ({ id: String(i), metres })),
      [],
      10,
    );
    // 6 + 4, 5 + 5, 4 + 3 + 3.
    expect([plan.bought, plan.boundBought]).toEqual([3, 3]);
  });
});

describe('a ring on the board', () => {
  const estate = pellworth();
  test.each([0.2, 1, 9])('closed by %d m, the trunk stays, and the piece with fewest wires lies open', (metres) => {
    const ring = edited(estate, call('joinTreeNodes', { a: 'rear', b: 'battery', metres }));
    const net = netlist(ring);
    const board = layBoard(ring, net, { width: 3000, height: 2000 });
    const open = board.problems.flatMap((problem) => (problem.code === 'ring' ? [problem.segment] : []));
    expect(open).toHaveLength(1);
    const wires = wiresBySegment(net);
    const drawn = board.lines.map(({ segment }) => segment);
    expect(drawn).toContain('trunk');
    expect(drawn).not.toContain(open[0]);
    // Nothing that is drawn on the way round it carries fewer.
    const count = (id: string) => wires.get(id)?.length ?? 0;
    expect(count(open[0]!)).toBeLessThanOrEqual(Math.min(count('trunk'), count('wall')));
  });
});

describe('parts to buy', () => {
  test('every part of the feeds: the resistor of the charge lamp, switch, bars, fuses in the line, rings by their stud', () => {
    const build = edited(
      demoBuild(),
      call('fitMasterSwitch', { amps: 300 }),
      call('addFeedPart', { part: { kind: 'diode', name: 'Wake diode' }, name: 'wake' }),
      call('insertInFeed', {
        linkId: 'dev:flex-fuel-1.1~splice:main',
        part: { kind: 'fuse', name: 'Flex fuse', amps: 3 },
      }),
    );
    const lines = partsToBuy(build, netlist(build));
    const named = (words: RegExp) => lines.filter(({ name }) => words.test(name));
    // 470 ohm at 14.5 V are 0.45 W: one of 1 W stands twice that.
    const charged = edited(emptyBuild(4), call('addDevice', { kind: kind('alternator') }));
    const resistors = partsToBuy(charged, netlist(charged)).filter(({ name }) => /^Resistor/.test(name));
    expect(resistors.map(({ name }) => name)).toEqual(['Resistor 470 Ω, 1 W, for the charge lamp']);
    expect(named(/^Master switch, 300 A, with a second contact$/)).toHaveLength(1);
    expect(named(/^Busbar with cover, \d+ studs$/).length).toBeGreaterThan(0);
    expect(named(/^Diode, 3 A$/)).toHaveLength(1);
    expect(named(/^Fuse holder, in line, sealed$/)).toHaveLength(1);
    expect(named(/^Ring terminal, M6$/).length).toBeGreaterThan(0);
    expect(named(/^Ring terminal, M8$/).length).toBeGreaterThan(0);
  });
});

describe('rings and blades', () => {
  const stacked = edited(demoBuild(), call('setPower', { joints: 'stacked' }));
  const found = (build: typeof stacked) => findingsOf(build).filter(({ rule }) => rule === 'LO-16');
  test('eight rings on the plus post are told of a loom that was built so, and mended by what is proposed today', () => {
    const [post] = found(stacked).filter(({ id }) => id === 'LO-16:bat:+');
    expect(post!.detail).toMatch(/^8 rings lie under battery positive/);
    expect(found(edited(stacked, ...post!.remedy!.calls))).toEqual([]);
    expect(found(demoBuild())).toEqual([]);
  });
  test('two wires on blade 30 are told, whoever put them there, and a splice mends it', () => {
    const two = edited(demoBuild(), call('linkFeed', { from: 'relay:fan-1.30', to: 'dev:flex-fuel-1.1' }));
    const [blade] = found(two);
    expect(blade!.detail).toMatch(/^2 wires lie on Fan 1 relay · 30/);
    const mended = edited(two, ...blade!.remedy!.calls);
    expect(found(mended)).toEqual([]);
    expect(findingsOf(mended).filter(({ rule }) => rule === 'PW-17')).toEqual([]);
  });
});
