import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { findingsOf } from '~/core/rules';
import { describeWheel } from '~/core/trigger/describe';
import { parseWheelFile, wheelFile } from '~/core/trigger/file';
import { fitTrigger } from '~/core/trigger/fit';
import { match } from '~/core/trigger/match';
import { seeded, synth } from '~/core/trigger/synth';
import { draftOf, wheelOfDraft } from '~/core/trigger/teeth';
import { camWheelOf, mirrored, teethPerTurn, trackOf, wheelSchema } from '~/core/wheels/wheel';
import { demoBuild, wheel } from '../../helpers';

const discs = catalog.wheels.filter(({ tracks }) => tracks);

test('the library has wheels of several tracks', () => expect(discs.length).toBeGreaterThanOrEqual(2));

describe.each(discs.map((one) => [one.id, one] as const))('%s, a wheel of two tracks', (id, disc) => {
  const track = trackOf(disc, 1)!;
  test('is whole, mirrored twice is itself, and its track is a wheel', () => {
    expect(wheelSchema.safeParse(disc).success).toBe(true);
    expect(wheelSchema.safeParse(track).success).toBe(true);
    expect(wheelSchema.safeParse(mirrored(disc)).success).toBe(true);
    expect(trackOf(mirrored(mirrored(disc)), 1)!.edges.length).toBe(track.edges.length);
    expect(trackOf(disc, 2)).toBeNull();
    expect(describeWheel(disc)).toMatch(/and a further track: (four|six) slots/);
    const [edge] = disc.tracks![0].edges;
    const wrong = { ...disc, tracks: [{ name: 'x', edges: [edge, edge] }] };
    expect(wheelSchema.safeParse(wrong).error?.issues[0].path).toEqual(['tracks', 0, 'edges', 1]);
  });
  test('gives both signals by itself, and comes back with its track', () => {
    for (const seed of [1, 2]) {
      const random = seeded(seed);
      const { capture } = synth({
        crank: disc,
        cam: null,
        startDegrees: random() * 720,
        speed: { type: 'cranking', rpm: 220, ripple: 0.3, events: 2 },
        seconds: 1.5,
        sampleRate: 100_000,
        crankSensor: { type: 'optical' },
        camSensor: { type: 'optical' },
        random,
      });
      expect(capture.channels).toHaveLength(2);
      const found = match(capture, { wheels: catalog.wheels });
      if (!found.ok) throw new Error(found.problem.sentence);
      expect(found.value.best.wheel.id).toBe(id);
      expect(found.value.camFit?.wheel?.id).toBe(track.id);
    }
  });
  test('tells the whole cycle without a cam wheel of its own', () => {
    const build = demoBuild();
    const decoder = { family: 'slot-disc' as const, minPlaces: 1, maxPlaces: 400, maxMissing: 0, needsCam: true };
    const ecu = { ...build.ecu, decoders: [decoder] };
    expect(fitTrigger(ecu, build.engine, disc, null)).toMatchObject({ decodes: true, knows: 'cycle' });
    expect(fitTrigger(ecu, build.engine, { ...disc, tracks: undefined }, null)).toMatchObject({ decodes: false });
    expect(camWheelOf({ crankWheel: disc, camWheel: null })?.id).toBe(track.id);
    expect(camWheelOf({ crankWheel: disc, camWheel: wheel('cam-1') })?.id).toBe('cam-1');
    expect(camWheelOf({ crankWheel: wheel('60-2'), camWheel: null })).toBeNull();
  });
  test('without a sensor for its second track it is a finding', () => {
    const build = demoBuild();
    const devices = build.devices.filter(({ kindId }) => !kindId.includes('cam'));
    const of = (crankWheel: typeof disc) =>
      findingsOf({ ...build, devices, trigger: { ...build.trigger, crankWheel, camWheel: null } })
        .filter(({ detail }) => detail.includes('no cam sensor'))
        .map(({ detail }) => detail);
    expect(of(disc)).toEqual(['A cam wheel is chosen, but no cam sensor is on the list.']);
    expect(of(wheel('60-2'))).toEqual([]);
  });
  test('lies on the drawing board and comes off it again; a file keeps it', () => {
    const draft = draftOf(disc, { id: 'own-1', name: 'mine', from: '' });
    const made = wheelOfDraft(draft);
    if (!made.ok) throw new Error(made.problem.sentence);
    expect(made.value.family).toBe('slot-disc');
    expect(teethPerTurn(trackOf(made.value, 1)!)).toBe(teethPerTurn(track));
    expect(wheelOfDraft({ ...draft, second: [] })).toMatchObject({
      ok: false,
      problem: { sentence: 'Second track: A wheel needs at least one tooth.' },
    });
    const one = wheelOfDraft({ ...draft, second: null });
    expect(one.ok && one.value.tracks).toBe(undefined);
    const text = wheelFile([made.value]);
    expect(JSON.parse(text)).toMatchObject({ version: 2 });
    expect(parseWheelFile(text)).toEqual({ ok: true, value: [made.value] });
    expect(JSON.parse(wheelFile([wheel('60-2')]))).toMatchObject({ version: 1 });
  });
});
