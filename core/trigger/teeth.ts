import { z } from 'zod';
import { fail, ok, type Result } from '../problem';
import { trackOf, wheelSchema, type Edge, type Wheel } from '../wheels/wheel';

/** A tooth as one counts and measures it: its leading edge and its width, degrees of the wheel's own shaft. */
export interface Tooth {
  readonly at: number;
  readonly width: number;
}

/** Narrowest tooth, and narrowest space between two, degrees. */
export const LEAST_DEGREES = 0.1;
/** What rounding may take from it. */
const SLACK = 5e-5;
/** Angles within this share of a place stand on it (common practice: what a protractor shows). */
const ON_PLACE = 0.06;
const MOST_PLACES = 240;
/** Share of the places that must bear a tooth; below it people call the wheel uneven. */
const LEAST_FILLED = 0.6;

const turned = (degrees: number): number => ((degrees % 360) + 360) % 360;
/** A hundred-thousandth of a degree: below it, figures are only the arithmetic's. */
const plain = (degrees: number): number => Number(turned(Number(degrees.toFixed(5))).toFixed(5));

/** Teeth of a wheel in the order they pass the sensor. A last tooth may reach over the end of the turn. */
export function teethOf({ edges }: Wheel): Tooth[] {
  return edges.flatMap((edge, i) =>
    edge.level === 1
      ? [{ at: edge.degrees, width: turned(edges[(i + 1) % edges.length]!.degrees - edge.degrees) || 360 }]
      : [],
  );
}

/** Space before each tooth, degrees; negative where two overlap. */
export const spaces = (teeth: readonly Tooth[]): number[] =>
  teeth.map((tooth, i) => {
    const before = teeth[(i + teeth.length - 1) % teeth.length]!;
    return tooth.at + (i === 0 ? 360 : 0) - before.at - before.width;
  });

/**
 * What kind of wheel these teeth make: places of equal pitch and how many are empty, or uneven.
 * `gaps` are the longest steps in places, for naming.
 */
export function kindOfTeeth(
  teeth: readonly Tooth[],
  shaft: Wheel['shaft'],
): { family: Wheel['family']; places: number | null; missing: number; gaps: number[] } {
  const cam = shaft === 'cam';
  const uneven = { places: null, missing: 0, gaps: [] };
  const [first] = teeth;
  if (first && teeth.length === 1)
    return first.width >= 120 && first.width <= 240
      ? { family: 'half-moon', ...uneven }
      : cam
        ? { family: 'cam-windows', ...uneven }
        : { family: 'even', places: 1, missing: 0, gaps: [] };
  const spread = (values: readonly number[]) => Math.max(...values) - Math.min(...values);
  const steps = (spot: (tooth: Tooth) => number) =>
    teeth.map((tooth, i) => turned(spot(teeth[(i + 1) % teeth.length]!) - spot(tooth)) || 360);
  const [rises, falls] = [steps(({ at }) => at), steps(({ at, width }) => at + width)];
  const widths = teeth.map(({ width }) => width);
  const onPlaces = placesOf(rises);
  const pitch = 360 / (onPlaces?.places ?? teeth.length);
  const coded = spread(widths) > 0.15 * pitch;
  if (coded && (spread(falls) < ON_PLACE * pitch || spread(rises) < ON_PLACE * pitch))
    return { family: cam ? (teeth.length > 3 ? 'distributor' : 'cam-windows') : 'width-coded', ...uneven };
  if (cam && (coded || !onPlaces || onPlaces.gaps.length > 0)) return { family: 'cam-windows', ...uneven };
  if (!onPlaces || coded) return { family: 'uneven', ...uneven };
  const { places, gaps } = onPlaces;
  const missing = places - teeth.length;
  const family = missing === 0 ? (cam ? 'cam-windows' : 'even') : gaps.length === 1 ? 'missing-tooth' : 'multi-gap';
  return { family, places, missing, gaps };
}

/** Equal places these steps fill, when most of the places bear a tooth; null otherwise. */
function placesOf(steps: readonly number[]): { places: number; gaps: number[] } | null {
  const least = Math.min(...steps);
  const places = Math.round(360 / least);
  if (places < steps.length || places > MOST_PLACES || places * LEAST_FILLED > steps.length) return null;
  const pitch = 360 / places;
  const counts = steps.map((step) => Math.round(step / pitch));
  if (steps.some((step, i) => counts[i]! < 1 || Math.abs(step - counts[i]! * pitch) > ON_PLACE * pitch)) return null;
  return { places, gaps: counts.filter((count) => count > 1) };
}

/**
 * A wheel of teeth in any order, named and classed. Fails with one sentence, naming the teeth, when two overlap or leave no
 * space between them.
 */
export function wheelOfTeeth(
  { id, name, shaft }: Pick<Wheel, 'id' | 'name' | 'shaft'>,
  unsorted: readonly Tooth[],
): Result<Wheel> {
  if (unsorted.length === 0) return fail('no-teeth', 'teeth', 'A wheel needs at least one tooth.');
  if (unsorted.length > 400) return fail('too-many-teeth', 'teeth', 'A wheel has at most 400 teeth.');
  const teeth = unsorted
    .map(({ at, width }) => ({ at: plain(at), width: Number(width.toFixed(5)) }))
    .sort((one, other) => one.at - other.at);
  for (const [i, { at, width }] of teeth.entries())
    if (!(width >= LEAST_DEGREES - SLACK && width <= 360 - LEAST_DEGREES + SLACK))
      return fail('bad-width', `teeth[${i}]`, `The tooth at ${at}° is ${width}° wide: a tooth is 0.1° to 359.9° wide.`);
  for (const [i, space] of spaces(teeth).entries())
    if (space < LEAST_DEGREES - SLACK) {
      const before = teeth[(i + teeth.length - 1) % teeth.length]!;
      return fail(
        'overlap',
        `teeth[${i}]`,
        `The tooth at ${before.at}° is ${before.width}° wide and runs into the one at ${teeth[i]!.at}°.`,
      );
    }
  const edges: Edge[] = teeth
    .flatMap(({ at, width }): Edge[] => [
      { degrees: at, level: 1 },
      { degrees: plain(at + width), level: 0 },
    ])
    .sort((one, other) => one.degrees - other.degrees);
  const { family, places, missing } = kindOfTeeth(teeth, shaft);
  const parsed = wheelSchema.safeParse({ id, name, shaft, family, places, missing, edges });
  return parsed.success
    ? ok(parsed.data)
    : fail('bad-wheel', 'name', name.trim() === '' ? 'The wheel needs a name.' : parsed.error.issues[0]!.message);
}

/** Places and missing ones to count teeth by: those that these make, or of a usual wheel where there are none. */
export function countedAs(teeth: readonly Tooth[], shaft: Wheel['shaft']): { places: number; missing: number } {
  if (teeth.length === 0) return { places: 36, missing: 1 };
  const { places, missing } = kindOfTeeth(teeth, shaft);
  return places === null ? { places: teeth.length, missing: 0 } : { places, missing };
}

/** N equal places with the last M empty; `share` of a place is tooth. */
export const countedTeeth = (places: number, missing: number, share = 0.5): Tooth[] =>
  Array.from({ length: places - missing }, (_, place) => ({
    at: (place * 360) / places,
    width: (share * 360) / places,
  }));

/** Most pieces a list may have. */
const MOST_PIECES = 800;

/**
 * Teeth from a list of angles as people write them: `0, 70, 180, 250` (leading edges, all `width` wide), `0-10; 70-80` (from
 * and to), or one a line. A comma between figures separates unless the list is separated by semicolons or lines, where
 * it is a decimal comma. One sentence names the piece that cannot be read.
 */
export function teethFromList(text: string, width: number): Result<Tooth[]> {
  const trimmed = text
    .trim()
    .replaceAll('°', ' ')
    .replace(/[^\S\n]*(?:-|–|\.\.|\bto\b)[^\S\n]*/g, '-');
  if (trimmed === '') return fail('no-teeth', 'list', 'The list is empty: write the angle of each tooth.');
  const lines = /[;\n]/.test(trimmed);
  const pieces = trimmed
    .split(lines ? /[;\n]+/ : /[\s,]+/)
    .map((piece) => piece.trim().replaceAll(',', '.'))
    .filter((piece) => piece !== '');
  if (pieces.length > MOST_PIECES)
    return fail('too-many-teeth', 'list', `The list has ${pieces.length} angles; a wheel has at most 400 teeth.`);
  const teeth: Tooth[] = [];
  for (const [i, piece] of pieces.entries()) {
    const span = /^(\d+(?:\.\d+)?)(?:-(\d+(?:\.\d+)?))?$/.exec(piece);
    if (!span) return fail('bad-angle', `list[${i}]`, `'${piece}', number ${i + 1} of the list, is no angle.`);
    const [from, to] = [Number(span[1]), span[2] === undefined ? null : Number(span[2])];
    if (from >= 360 || (to !== null && to > 720))
      return fail('bad-angle', `list[${i}]`, `${piece}, number ${i + 1} of the list, is past a turn of 360°.`);
    teeth.push({ at: from, width: to === null ? width : turned(to - from) });
  }
  return ok(teeth);
}

/** The list as it would be written: spans, one a tooth. */
export const listOfTeeth = (teeth: readonly Tooth[]): string =>
  teeth.map(({ at, width }) => `${plain(at)}-${plain(at + width)}`).join('; ');

/** Room for a tooth about an angle: from the end of the tooth before to the start of the next; null inside a tooth. */
export function roomAt(teeth: readonly Tooth[], degrees: number): { from: number; to: number } | null {
  if (teeth.length === 0) return { from: 0, to: 360 };
  const angle = turned(degrees);
  for (const [i, tooth] of teeth.entries()) {
    if (turned(angle - tooth.at) < tooth.width) return null;
    const end = tooth.at + tooth.width;
    const next = teeth[(i + 1) % teeth.length]!.at;
    const room = turned(next - end) || 360;
    if (turned(angle - end) < room) return { from: turned(end), to: turned(end) + room };
  }
  return null;
}

/** Puts a tooth of a width about an angle, made narrower where the space is; null where a tooth is already or no room is. */
export function withTooth(teeth: readonly Tooth[], degrees: number, width: number): Tooth[] | null {
  const room = roomAt(teeth, degrees);
  if (!room) return null;
  const [least, most] = [room.from + LEAST_DEGREES, room.to - LEAST_DEGREES];
  const wide = Math.min(width, most - least);
  if (wide < LEAST_DEGREES - SLACK) return null;
  const centre = room.from + turned(degrees - room.from);
  const at = Math.min(most - wide, Math.max(least, centre - wide / 2));
  return sorted([...teeth, { at: plain(at), width: Number(wide.toFixed(5)) }]);
}

export const withoutTooth = (teeth: readonly Tooth[], index: number): Tooth[] => teeth.filter((_, i) => i !== index);

/** Moves or widens a tooth as far as its neighbours let it. Returns the teeth, and where it is now. */
export function withChanged(
  teeth: readonly Tooth[],
  index: number,
  change: Partial<Tooth>,
): { teeth: Tooth[]; index: number } {
  const old = teeth[index]!;
  const others = withoutTooth(teeth, index);
  const middle = old.at + old.width / 2;
  const room = others.length === 0 ? { from: old.at - 180, to: old.at + 180 } : roomAt(others, middle);
  if (!room) return { teeth: [...teeth], index };
  const from = room.from + LEAST_DEGREES;
  const span = room.to - room.from - 2 * LEAST_DEGREES;
  const width = Math.min(Math.max(LEAST_DEGREES, change.width ?? old.width), span);
  let offset = turned((change.at ?? old.at) - from);
  // Just before the room is nearer than all the way round.
  if (offset > span && offset - span > 360 - offset) offset = 0;
  const at = plain(from + Math.min(offset, span - width));
  const changed = sorted([...others, { at, width: Number(width.toFixed(5)) }]);
  return { teeth: changed, index: changed.findIndex((tooth) => tooth.at === at) };
}

const sorted = (teeth: Tooth[]): Tooth[] => teeth.sort((one, other) => one.at - other.at);

/** A wheel on the drawing board: what its maker has so far, good or not. */
const draftTeeth = z.array(z.object({ at: z.number().min(0).lt(360), width: z.number().positive().max(360) })).max(400);

export const wheelDraftSchema = z.object({
  id: z.string().min(1).max(40),
  name: z.string().max(80),
  shaft: z.enum(['crank', 'cam']),
  teeth: draftTeeth,
  /** Teeth of a second track; null for a wheel of one. */
  second: draftTeeth.nullable().default(null),
  /** Where it comes from, in a sentence: counted, copied, learned from a capture. */
  from: z.string().max(400),
});
export type WheelDraft = z.infer<typeof wheelDraftSchema>;

/** The wheel a draft makes, with its second track; one sentence where it makes none. */
export function wheelOfDraft(draft: WheelDraft): Result<Wheel> {
  const first = wheelOfTeeth(draft, draft.teeth);
  if (!first.ok || draft.second === null) return first;
  const second = wheelOfTeeth({ ...draft, name: 'second track' }, draft.second);
  if (!second.ok)
    return { ok: false, problem: { ...second.problem, sentence: `Second track: ${second.problem.sentence}` } };
  const count = draft.second.length;
  return ok({
    ...first.value,
    // On the cam two tracks stand in for a crank wheel: the one gives the angle, the other the cycle.
    family: draft.shaft === 'cam' ? 'slot-disc' : first.value.family,
    tracks: [{ name: count === 1 ? 'one tooth' : `${count} teeth`, edges: second.value.edges }],
  });
}

/** A wheel laid back on the board. */
export const draftOf = (wheel: Wheel, { id, name, from }: Pick<WheelDraft, 'id' | 'name' | 'from'>): WheelDraft => {
  const second = trackOf(wheel, 1);
  return { id, name, from, shaft: wheel.shaft, teeth: teethOf(wheel), second: second && teethOf(second) };
};
