import { z } from 'zod';
import type { Engine } from '../engine/engine';
import { wheelFamilies } from '../ecu/ecu';

/**
 * A wheel is a list of edges by angle on its own shaft, with the level after each edge.
 * Crank wheels turn 360 own degrees in 360 crank degrees, cam wheels in 720.
 */
export const edgeSchema = z.object({
  degrees: z.number().min(0).lt(360),
  level: z.union([z.literal(0), z.literal(1)]),
});
export type Edge = z.infer<typeof edgeSchema>;

/** Edges of one turn must rise in angle and change level each time. */
const checkEdges = (edges: readonly Edge[], path: (string | number)[], context: z.RefinementCtx) =>
  edges.forEach((edge, index) => {
    const before = edges[index - 1];
    if (before && (edge.degrees <= before.degrees || edge.level === before.level))
      context.addIssue({
        code: 'custom',
        path: [...path, index],
        message: 'edges must rise in angle and change level each time',
      });
  });

const edgesSchema = z.array(edgeSchema).min(2).max(1000);

export const wheelSchema = z
  .object({
    id: z.string().min(1).max(40),
    name: z.string().min(1).max(80),
    shaft: z.enum(['crank', 'cam']),
    family: z.enum(wheelFamilies),
    /** Equal tooth places of a turn; null for uneven wheels. */
    places: z.int().min(1).max(400).nullable(),
    missing: z.int().min(0).max(20),
    edges: edgesSchema,
    /** Further tracks of the same body, each read by a sensor of its own; their angles count from the same zero. */
    tracks: z
      .array(z.object({ name: z.string().min(1).max(80), edges: edgesSchema }))
      .min(1)
      .max(3)
      .optional(),
  })
  .superRefine((wheel, context) => {
    checkEdges(wheel.edges, ['edges'], context);
    wheel.tracks?.forEach((track, at) => checkEdges(track.edges, ['tracks', at, 'edges'], context));
  });
export type Wheel = z.infer<typeof wheelSchema>;

/** A further track as a wheel of its own: number 1 is the first beside the wheel's own edges. Null where there is none. */
export function trackOf(wheel: Wheel, number: number): Wheel | null {
  const track = wheel.tracks?.[number - 1];
  if (!track) return null;
  return {
    id: `${wheel.id}/${number + 1}`,
    name: `${wheel.name}: ${track.name}`,
    shaft: wheel.shaft,
    family: wheel.shaft === 'cam' ? 'cam-windows' : 'uneven',
    places: null,
    missing: 0,
    edges: track.edges,
  };
}

/** What tells the cycle: the cam wheel that was chosen, else the second track of the crank's own wheel. */
export const camWheelOf = (trigger: {
  readonly crankWheel: Wheel | null;
  readonly camWheel: Wheel | null;
}): Wheel | null => trigger.camWheel ?? (trigger.crankWheel && trackOf(trigger.crankWheel, 1));

/** Cam wheels that tell the two turns of a cycle apart: anything whose pattern does not repeat after half a cam turn. */
export function camTellsPhase(wheel: Wheel): boolean {
  const shifted = wheel.edges.map((edge) => ({ degrees: (edge.degrees + 180) % 360, level: edge.level }));
  const key = (edges: readonly { degrees: number; level: number }[]) =>
    edges
      .map((edge) => `${edge.degrees.toFixed(3)}:${edge.level}`)
      .sort()
      .join(' ');
  return key(wheel.edges) !== key(shifted);
}

/** Whether these wheels tell where the engine stands in its whole cycle. @param cam As `camWheelOf` has it. */
export const tellsPhase = ({ kind }: Pick<Engine, 'kind'>, crank: Wheel, cam: Wheel | null): boolean =>
  kind !== 'four-stroke' || crank.shaft === 'cam' || (cam !== null && camTellsPhase(cam));

/** Teeth (rising edges) in one turn of the wheel's own shaft. */
export const teethPerTurn = (wheel: Wheel): number => wheel.edges.filter((edge) => edge.level === 1).length;
/** Teeth in 720 crank degrees. */
export const teethPerCycle = (wheel: Wheel): number => teethPerTurn(wheel) * (wheel.shaft === 'crank' ? 2 : 1);

/** Pulse frequency in hertz at a crank speed: f = pulses per crank turn x rpm / 60. */
export const pulseHertz = (wheel: Wheel, crankRpm: number): number => (teethPerCycle(wheel) / 2) * (crankRpm / 60);

/** Intervals between successive rising edges, in own-shaft degrees, starting at the first tooth. */
export function toothIntervals(wheel: Wheel): number[] {
  const rises = wheel.edges.filter((edge) => edge.level === 1).map((edge) => edge.degrees);
  return rises.map((rise, i) => (i + 1 < rises.length ? rises[i + 1]! : rises[0]! + 360) - rise);
}

/** Teeth of equal pitch with some places left out: `missingAt` are place numbers from 0. Half a pitch high, half low. */
function placed(places: number, isMissing: (place: number) => boolean): Edge[] {
  const pitch = 360 / places;
  const edges: Edge[] = [];
  for (let place = 0; place < places; place += 1) {
    if (isMissing(place)) continue;
    edges.push({ degrees: place * pitch, level: 1 }, { degrees: (place + 0.5) * pitch, level: 0 });
  }
  return edges;
}

/** N places with the last M missing, so that tooth 1 is the first after the gap. Id is 'N-M'. */
export function missingToothWheel(places: number, missing: number, shaft: 'crank' | 'cam' = 'crank'): Wheel {
  return {
    id: missing > 0 ? `${places}-${missing}` : `${places}-even`,
    name: missing > 0 ? `${places} places, ${missing} missing` : `${places} even teeth`,
    shaft,
    family: missing > 0 ? 'missing-tooth' : 'even',
    places,
    missing,
    edges: placed(places, (place) => place >= places - missing),
  };
}

/** Several gaps: `gaps` lists runs of missing places, each `[first place, count]`. */
export function multiGapWheel(
  id: string,
  name: string,
  places: number,
  gaps: readonly (readonly [number, number])[],
): Wheel {
  const out = (place: number) => gaps.some(([first, count]) => place >= first && place < first + count);
  return {
    id,
    name,
    shaft: 'crank',
    family: 'multi-gap',
    places,
    missing: gaps.reduce((sum, [, count]) => sum + count, 0),
    edges: placed(places, out),
  };
}

/** Equal teeth whose number is known by another signal: distributor vanes and slotted discs turn with the cam. */
export function evenWheel(
  id: string,
  name: string,
  shaft: 'crank' | 'cam',
  family: Wheel['family'],
  places: number,
  share = 0.5,
): Wheel {
  const pitch = 360 / places;
  return {
    id,
    name,
    shaft,
    family,
    places,
    missing: 0,
    edges: Array.from({ length: places }, (_, place) => [
      { degrees: place * pitch, level: 1 as const },
      { degrees: (place + share) * pitch, level: 0 as const },
    ]).flat(),
  };
}

/** Teeth that all end at equal angles and differ in width: `widths` in degrees, one a tooth. */
export function widthCodedWheel(
  id: string,
  name: string,
  shaft: 'crank' | 'cam',
  family: Wheel['family'],
  widths: readonly number[],
): Wheel {
  const pitch = 360 / widths.length;
  return listedWheel(
    id,
    name,
    shaft,
    family,
    widths.map((width, place) => ({ at: (place + 1) * pitch - width - pitch / 10, width })),
  );
}

/** The same wheel turning the other way round. */
export function mirrored(wheel: Wheel): Wheel {
  const turned = (own: readonly Edge[]): Edge[] =>
    own
      .map((edge, at) => ({
        degrees: (360 - edge.degrees) % 360,
        // Seen backwards, what follows an edge is what was before it.
        level: own[(at + own.length - 1) % own.length]!.level,
      }))
      .sort((one, other) => one.degrees - other.degrees);
  const tracks = wheel.tracks?.map((track) => ({ ...track, edges: turned(track.edges) }));
  return { ...wheel, edges: turned(wheel.edges), ...(tracks ? { tracks } : {}) };
}

/** How often the wheel's pattern comes back within one turn: 1 for a wheel that tells its whole turn. */
export function repeats(wheel: Wheel): number {
  const known = counted.get(wheel);
  if (known !== undefined) return known;
  const found = countRepeats(wheel);
  counted.set(wheel, found);
  return found;
}
/** A wheel does not change; many ask it the same. */
const counted = new WeakMap<Wheel, number>();

function countRepeats({ edges }: Wheel): number {
  const same = (shift: number) =>
    edges.every((edge, at) => {
      const other = edges[(at + shift) % edges.length]!;
      const turned = (other.degrees - edge.degrees + 360) % 360;
      const first = (edges[shift]!.degrees - edges[0]!.degrees + 360) % 360;
      return other.level === edge.level && Math.abs(turned - first) < 1e-6;
    });
  for (let shift = 2; shift < edges.length; shift += 2)
    if (edges.length % shift === 0 && same(shift)) return edges.length / shift;
  return 1;
}

/** Teeth at listed angles, each `width` degrees wide. */
export function listedWheel(
  id: string,
  name: string,
  shaft: 'crank' | 'cam',
  family: Wheel['family'],
  teeth: readonly { readonly at: number; readonly width: number }[],
): Wheel {
  return {
    id,
    name,
    shaft,
    family,
    places: null,
    missing: 0,
    edges: teeth.flatMap(({ at, width }) => [
      { degrees: at, level: 1 as const },
      { degrees: at + width, level: 0 as const },
    ]),
  };
}

/** A wheel with a further track: the teeth of another, on the same body. */
export const withTrack = (id: string, name: string, wheel: Wheel, track: string, other: Wheel): Wheel => ({
  ...wheel,
  id,
  name,
  tracks: [...(wheel.tracks ?? []), { name: track, edges: other.edges }],
});
