import { z } from 'zod';
import { connectorSchema, type Connector } from '../ecu/ecu';
import { cavityCount } from '../ecu/face';

/** The plug of a part as it is held in the hand: its rows, and which cavity each terminal sits in. */
export const deviceFaceSchema = connectorSchema.omit({ id: true, name: true }).extend({
  /** By the terminal's id. A terminal that is not named sits elsewhere, such as on a stud of its own. */
  cavities: z.record(z.string().max(6), z.int().min(1).max(400)),
  /** Its largest measure across, that has to pass a hole; absent: nobody has measured it. */
  acrossMillimetres: z.number().positive().max(300).optional(),
});
export type DeviceFace = z.infer<typeof deviceFaceSchema>;

/** What is wrong of a face for these terminals, in words; null: nothing. */
export function faceMiss(face: DeviceFace, terminals: readonly string[]): string | null {
  const first = face.first ?? 1;
  const last = first + cavityCount(face) - 1;
  const seen = new Map<number, string>();
  for (const [terminal, cavity] of Object.entries(face.cavities)) {
    if (!terminals.includes(terminal)) return `terminal ${terminal} does not exist`;
    if (cavity < first || cavity > last)
      return `terminal ${terminal} is in cavity ${cavity}, and there are ${first} to ${last}`;
    const other = seen.get(cavity);
    if (other !== undefined) return `terminals ${other} and ${terminal} are both in cavity ${cavity}`;
    seen.set(cavity, terminal);
  }
  return null;
}

const known = new WeakMap<DeviceFace, Connector>();
/** A face as a connector that can be drawn and counted on; the same one each time. */
export function faceConnector(face: DeviceFace): Connector {
  const before = known.get(face);
  if (before) return before;
  const { cavities: _cavities, acrossMillimetres: _across, ...rest } = face;
  const connector = { ...rest, id: 'P' };
  known.set(face, connector);
  return connector;
}

/** Ways in one row before a plug has two (common practice). */
const ONE_ROW = 6;
/** The largest wire of a sensor plug's terminals, mm² (common practice: of the 2.8 mm series, up to 2.5). */
const USUAL_SQUARE_MM = 2.5;

/**
 * A face to begin with where nobody has drawn one: terminals by their numbers where they have such, else in their order. It has
 * to be compared with the part in hand.
 *
 * @param terminals Those that take a wire: what is joined by the part's own body is in no cavity.
 */
export function firstFace(terminals: readonly string[]): DeviceFace {
  const numbers = terminals.map(Number);
  const numbered = numbers.every((one) => Number.isInteger(one) && one >= 1 && one <= terminals.length + 1);
  const count = Math.max(1, terminals.length, ...(numbered ? numbers : []));
  const rows = count <= ONE_ROW ? [count] : [Math.ceil(count / 2), Math.floor(count / 2)];
  return {
    rows,
    maxSquareMm: USUAL_SQUARE_MM,
    sealed: true,
    cavities: Object.fromEntries(terminals.map((id, i) => [id, numbered ? numbers[i]! : i + 1])),
  };
}
