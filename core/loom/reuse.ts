import type { Build } from '../build/schema';
import { colourLetters, writingOf } from '../donor/colours';
import { donorList } from '../donor/sort';
import { isRestraint, type DonorWire } from '../donor/wire';
import { ecuEnd } from '../ends/ends';
import type { Netlist, Wire } from '../netlist/netlist';
import { sizeSquareMm } from '../wire/size';

/** A wire of the donor loom that is moved to a pin of the ECU and goes on as a wire of this loom. */
export interface Reused {
  readonly donor: DonorWire;
  readonly wire: Wire;
  /** What it is, where its list can be read: IEC 60757 letters, square millimetres. */
  readonly colour: string | null;
  readonly squareMm: number | null;
  /** The plan has it in another colour or size. */
  readonly differs: boolean;
  /** Its insulation or copper is not to be trusted, by the words of its list. */
  readonly worn: boolean;
}

/** Words of a condition that say a wire has had its day, where none takes them back (common practice). */
const WORN =
  /(?<!\b(?:not|no|never|nothing) )\b(brittle|cracked|chafed|cut|bare|burnt|burned|melted|corroded|corrosion|green|hard|stiff|swollen|oily|nicked|broken)\b/i;

/** Colour of a donor wire in IEC 60757 letters, by the writing of its list; null where it cannot be told. */
export function donorColour({ survey }: Pick<Build, 'survey'>, text: string): string | null {
  const writing =
    survey.colours === 'auto'
      ? writingOf(Object.values(survey.donor).map(({ colour }) => colour)).writing
      : survey.colours;
  return colourLetters(text, writing);
}

/** Donor wires that live on, by the wire of this loom they are. A restraint wire is never one. */
export function reusedWires(build: Build, net: Netlist): ReadonlyMap<string, Reused> {
  const reused = new Map<string, Reused>();
  for (const donor of donorList(build.survey.donor)) {
    if (donor.decision !== 'move' || isRestraint(donor)) continue;
    const [wire] = net.wiresAt.get(ecuEnd(donor.moveTo.trim().toUpperCase())) ?? [];
    if (!wire || reused.has(wire.id)) continue;
    const colour = donorColour(build, donor.colour);
    const squareMm = sizeSquareMm(donor.size);
    reused.set(wire.id, {
      donor,
      wire,
      colour,
      squareMm,
      differs: (colour !== null && colour !== wire.colour) || (squareMm !== null && squareMm !== wire.squareMm),
      worn: WORN.test(donor.condition),
    });
  }
  return reused;
}

/** `GN/YE of F12 1, good`: where it comes from and how it was found. */
export const reusedWords = ({ donor: { colour, connector, cavity, condition } }: Reused): string =>
  [`${colour} of ${connector} ${cavity}`.trim(), condition].filter(Boolean).join(', ');
