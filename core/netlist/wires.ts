import type { Build, Device } from '../build/schema';
import { CONTACT_OHMS, surroundings, terminalOhms, type SizedLink } from '../power/sizes';
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
  /** Current it is sized for, amperes. */
  readonly amps: number;
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
/** The largest size that is chosen unasked for a wire at the ECU: no cavity takes more (common practice). */
const MOST_SQUARE_MM = 6;

/** A size that is laid as a habit, in the series of the loom. */
export const usualSize = (build: Build, squareMm: number): number => inSeries(squareMm, build.loom.series);
/** The size a wire at the ECU takes for its current. */
export const mostSizeFor = (build: Build, amps: number): number =>
  Math.min(usualSize(build, MOST_SQUARE_MM), sizeFor(amps, surroundings(build)));

/** What a wire measures from end to end: its copper at 20 °C and its two terminals, ohms. */
export const endToEndOhms = ({ ohms, from, to, circuitId }: Wire): number =>
  ohms + (circuitId === null ? 2 * CONTACT_OHMS : terminalOhms(from, to));

/** A wire before the tree says how long it is. */
export type Draft = Omit<Wire, 'lengthMetres' | 'ohms' | 'route' | 'cutOf'> & Run;

type Given = Partial<
  Pick<Draft, 'amps' | 'squareMm' | 'needId' | 'circuitId' | 'deviceId' | 'cable' | 'shield' | 'local' | 'fixed'>
> &
  Pick<Draft, 'colour' | 'signal' | 'metres'>;

/** Collects wires, each once, with size and colour as chosen or derived. */
export class WireList {
  readonly drafts: Draft[] = [];
  private readonly taken = new Set<string>();
  private readonly sizes = new Map<number, number>();

  private readonly loom: Build['loom'];

  constructor(private readonly build: Build) {
    this.loom = build.loom;
  }

  /** `local`: how long it is hangs on no route. */
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
      squareMm: choice.squareMm ?? wire.squareMm ?? this.sizeOf(amps),
      colour: choice.colour ?? wire.colour,
      metres: wire.metres,
      local: wire.local ?? false,
      fixed: wire.fixed ?? false,
      amps,
      signal: wire.signal,
      needId: wire.needId ?? null,
      circuitId: wire.circuitId ?? null,
      deviceId: wire.deviceId ?? null,
      cable: wire.cable ?? null,
      shield: wire.shield ?? null,
    });
  }

  /** A wire of the plan of feeds, with the figures it has there: its length is the route's already. */
  addPlanned(link: SizedLink, cuts: number, wire: Pick<Wire, 'colour' | 'signal' | 'circuitId' | 'deviceId'>): void {
    if (this.taken.has(link.id)) return;
    this.taken.add(link.id);
    this.drafts.push({
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
    });
  }

  /** Most wires carry one of a few currents. */
  private sizeOf(amps: number): number {
    const known = this.sizes.get(amps) ?? mostSizeFor(this.build, amps);
    this.sizes.set(amps, known);
    return known;
  }
}
