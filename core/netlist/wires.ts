import type { Build, Device } from '../build/schema';
import { surroundingsIn, type Carrier, type Census } from '../power/census';
import { CONTACT_OHMS, isBolted, terminalOhms } from '../power/contact-ohms';
import type { SizedLink } from '../power/sizes';
import { inSeries, sizeFor } from '../wire/wire';
import type { Run } from '../tree/lay';
import type { SignalClass } from '../wire/colours';
import { wireId, type EndKey } from '../ends/ends';

/** One piece of wire between two ends. Identity is its ends; colour and size may change without losing it. */
export interface Wire {
  readonly id: string;
  readonly from: EndKey;
  readonly to: EndKey;
  readonly squareMm: number;
  readonly colour: string;
  readonly lengthMetres: number;
  /** Copper only, at 20 °C. */
  readonly ohms: number;
  /** Current it carries with everything on, amperes. */
  readonly amps: number;
  /** What its protection lets through: what it must stand, amperes. */
  readonly lets: number;
  readonly signal: SignalClass;
  readonly needId: string | null;
  readonly circuitId: string | null;
  readonly deviceId: string | null;
  /** Wires of one twisted or shielded cable share this name. */
  readonly cable: string | null;
  readonly shield: Device['shield'] | null;
  /** Pieces of the tree it lies in, from its first end; none where the tree does not say. */
  readonly route: readonly string[];
  /** The wire it would be without the plugs that part it; null: nothing does. */
  readonly cutOf: string | null;
}

/** The end of a wire that is not this one. */
export const otherEnd = ({ from, to }: Pick<Wire, 'from' | 'to'>, end: EndKey): EndKey => (from === end ? to : from);

/** What wires of one purpose have in common. */
export type Look = Pick<Wire, 'colour' | 'signal'>;

/** Metres from the ECU plug to a splice: reachable behind the plug, out of the bend (common practice). */
export const SPLICE_METRES = 0.3;
/** A power ground of the ECU: its share of what injectors and outputs send through it, amperes (common practice). */
export const POWER_GROUND_AMPS = 5;
/** What a signal wire carries where nothing is said, amperes: a pull-up or an input draws less (common practice). */
const SIGNAL_AMPS = 0.02;
/** A size that is laid as a habit, in the series of the loom. */
export const usualSize = (build: Build, squareMm: number): number => inSeries(squareMm, build.loom.series);
/** What a wire measures from end to end: its copper at 20 °C and its two terminals, ohms. */
export const endToEndOhms = ({ ohms, from, to, circuitId }: Wire): number =>
  ohms + (circuitId === null && !isBolted(from) && !isBolted(to) ? 2 * CONTACT_OHMS : terminalOhms(from, to));

/** A wire before the tree says how long it is. */
export type Draft = Omit<Wire, 'lengthMetres' | 'ohms' | 'route' | 'cutOf'> & Run;

/** A wire that is no feed, before it has a size: what it is asked for by, and the least it is laid with for its strength. */
export interface Unsized extends Draft {
  readonly warmAmps: number;
  /** What it loses its volts by, amperes: of a ground that is counted with more than comes back that. */
  readonly drawnAmps: number;
  readonly least: number;
  readonly byPerson: boolean;
}

type Given = Partial<
  Pick<Draft, 'amps' | 'lets' | 'needId' | 'circuitId' | 'deviceId' | 'cable' | 'shield' | 'local' | 'fixed'>
> &
  Partial<Pick<Unsized, 'least'>> &
  Pick<Draft, 'colour' | 'signal' | 'metres'> & {
    /** The share of its current that warms it for good; all of it where nothing is said. */
    readonly warm?: number;
    /** What it really carries, amperes, where that is not what it is counted with. */
    readonly drawn?: number;
  };

/** Collects wires, each once, with colour and size as chosen; what nobody chose is sized once all lie beside each other. */
export class WireList {
  readonly drafts: Unsized[] = [];
  private readonly taken = new Set<string>();

  private readonly loom: Build['loom'];

  constructor(
    build: Build,
    /** Wires that stand already, by their id. */
    taken: Iterable<string> = [],
  ) {
    this.loom = build.loom;
    for (const id of taken) this.taken.add(id);
  }

  /** A wire of this id stands elsewhere. */
  take(id: string): void {
    this.taken.add(id);
  }

  /** `local`: how long it is hangs on no route. `lets`: what its protection lets through, where that is more than it carries. */
  add(from: EndKey, to: EndKey, wire: Given): void {
    const id = wireId(from, to);
    if (this.taken.has(id)) return;
    this.taken.add(id);
    const choice = this.loom.wires[id] ?? {};
    const amps = wire.amps ?? SIGNAL_AMPS;
    this.drafts.push({
      id,
      from,
      to,
      squareMm: choice.squareMm ?? 0,
      byPerson: choice.squareMm !== undefined,
      colour: choice.colour ?? wire.colour,
      metres: wire.metres,
      local: wire.local ?? false,
      fixed: wire.fixed ?? false,
      amps,
      lets: Math.max(amps, wire.lets ?? 0),
      warmAmps: amps * (wire.warm ?? 1),
      drawnAmps: wire.drawn ?? amps * (wire.warm ?? 1),
      least: wire.least ?? 0,
      signal: wire.signal,
      needId: wire.needId ?? null,
      circuitId: wire.circuitId ?? null,
      deviceId: wire.deviceId ?? null,
      cable: wire.cable ?? null,
      shield: wire.shield ?? null,
    });
  }

  /** A wire of the plan of feeds, with the figures it has there: its length is the route's already. */
  planned(
    link: SizedLink,
    lets: number,
    cuts: number,
    wire: Pick<Wire, 'colour' | 'signal' | 'circuitId' | 'deviceId'>,
  ): Draft | null {
    if (this.taken.has(link.id)) return null;
    this.taken.add(link.id);
    return {
      lets,
      signal: wire.signal,
      circuitId: wire.circuitId,
      deviceId: wire.deviceId,
      id: link.id,
      from: link.from,
      to: link.to,
      squareMm: link.squareMm,
      colour: this.loom.wires[link.id]?.colour ?? wire.colour,
      metres: link.metres - this.loom.slackMetres * (cuts + 1),
      local: false,
      fixed: true,
      amps: link.flow.rms,
      needId: null,
      cable: null,
      shield: null,
    };
  }
}

/** Wires that are no feeds as they count in the pieces they lie in. */
export const carrierOf = (
  { warmAmps, lets, least }: Pick<Unsized, 'warmAmps' | 'lets' | 'least'>,
  route: readonly string[],
): Carrier => ({ warmAmps, asks: lets, least, route });

/** A size for each wire nobody chose one of: by what its protection lets through in the pieces it lies in; none is capped. */
export function sizedIn(
  build: Build,
  census: Census,
  wires: readonly Unsized[],
  routeOf: (id: string) => readonly string[] | undefined,
): Map<string, number> {
  const around = surroundingsIn(build, census);
  return new Map(
    wires.map(({ id, byPerson, squareMm, lets, least }) => [
      id,
      byPerson ? squareMm : sizeFor(lets, around(routeOf(id)), least),
    ]),
  );
}
