import { describe, expect, test } from '@jest/globals';
import type { Build } from '~/core/build/schema';
import { call } from '~/core/edits';
import { circuitsOf } from '~/core/netlist/power-plan';
import { changesWords, feedTable, readFeedTable } from '~/core/ways/feed-table';
import { applyEdit } from '~/core/edits';
import { demoBuild, edited } from '../../helpers';

const demo = demoBuild();
const circuits = circuitsOf(demo);
const inch: Build = { ...demo, units: { ...demo.units, workshop: 'inch' } };
const taken = (build: Build, text: string): Build => {
  const read = readFeedTable(text, circuitsOf(build), build);
  if (!read.ok) throw new Error(read.problem.sentence);
  return read.value.calls.reduce((now, { name, args }) => {
    const result = applyEdit(now, name, args);
    if (!result.ok) throw new Error(result.problem.sentence);
    return result.value.build;
  }, build);
};
const of = (build: Build, id: string) => circuitsOf(build).find((one) => one.id === id)!;

describe('the table of feeds out and back', () => {
  test.each([
    ['metric', demo],
    ['in feet and gauge', inch],
  ])('unchanged, %s, it changes nothing', (_, reader) => {
    const read = readFeedTable(feedTable(circuits, reader), circuits, reader);
    expect(read).toEqual({ ok: true, value: { calls: [], words: [] } });
    if (read.ok) expect(changesWords(read.value)).toMatch(/^Nothing/);
  });
  test('a fuse, a wire and a length are taken, told feed by feed', () => {
    const text = 'Feed,fuse A,wire mm²,trunk m\nFan 1,30,4,2.8\nFan 2,,,\n';
    const build = taken(demo, text);
    expect(of(build, 'fan-1')).toMatchObject({ fuseAmps: 30, fuseByPerson: true, squareMm: 4, lengthMetres: 2.8 });
    // The others stay as they were, but for what the bar they share loses.
    const { fuseAmps, squareMm, lengthMetres, ownSizes } = of(demo, 'fan-2');
    expect(of(build, 'fan-2')).toMatchObject({ fuseAmps, squareMm, lengthMetres, ownSizes });
    const read = readFeedTable(text, circuits, demo);
    expect(read.ok && read.value.words).toEqual(['Fan 1: fuse A 30, wire mm² 4, trunk m 2.8']);
  });
  test('feet and gauge by their headings', () => {
    const build = taken(demo, 'feed\twire\ttrunk ft\nFan 1\t12 AWG\t10');
    expect(of(build, 'fan-1').squareMm).toBeCloseTo(3.31, 2);
    expect(of(build, 'fan-1').lengthMetres).toBeCloseTo(3.048, 6);
  });
  test('derived takes the own figure again', () => {
    const own = edited(demo, call('setCircuit', { circuitId: 'fan-1', choice: { fuseAmps: 40, squareMm: 10 } }));
    const build = taken(own, 'feed\tfuse A\twire mm²\nFan 1\tderived\tderived');
    expect(of(build, 'fan-1')).toEqual(of(demo, 'fan-1'));
  });
  test.each([
    ['nothing named', '30\t4', /first row must name its columns/],
    ['a feed that is not there', 'feed\tfuse A\nFan 9\t30', /^Row 2: there is no feed 'Fan 9'/],
    ['a fuse nobody makes', 'feed\tfuse A\nFan 1\t33', /^Row 2, 'fuse A': '33' is not a rating of a blade fuse/],
    ['a word for a length', 'feed\ttrunk m\nFan 1\tlong', /^Row 2, 'trunk m': 'long' is not a length up to 30 m/],
    ['a wire of no size', 'feed\twire mm²\nFan 1\t0', /is not a wire size/],
  ])('%s is refused by its place, and nothing of it is taken', (_, text, sentence) => {
    const read = readFeedTable(text, circuits, demo);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.problem.sentence).toMatch(sentence);
  });
});
