import type { Build } from '../build/schema';
import { endType, type EndKey, type EndType, type PartId } from '../ends/ends';
import { celsiusOf } from '../tree/tree';
import { carriedAmps, groupingFactor, sizeFor, wireOhms, wireSize, type Surroundings } from '../wire/wire';
import { contactsOf, type SizedRelay } from './contact';
import type { FeedPlan } from './feed-plan';
import { wayTo, type Draw, type Flow, type Flows, type Step } from './flow';
import { fuseFor, fuseRatings } from './fuse';
import type { PlannedLink } from './propose';
import { outlasts, rushesOf, type FuseRush, type Rush } from './inrush';
import { chainsOf, LEAST_SQUARE_MM, NOTHING, raise, sizedBy, type Chain, type WireSetBy } from './runs';

/** Contact resistance of one crimped and mated signal terminal, and of a power terminal, ohms (common practice). */
export const CONTACT_OHMS = 0.005;
export const POWER_CONTACT_OHMS = 0.001;
/** A ring terminal bolted on clean metal, ohms (common practice: 0.1 to 0.3 milliohms). */
export const LUG_OHMS = 0.0002;
/** A closed relay contact, and that of a button, ohms (common practice). */
export const RELAY_CONTACT_OHMS = 0.003;
export const BUTTON_OHMS = 0.02;
/** Volts lost across a switch at what it is marked with (common practice: some tens of millivolts). */
const SWITCH_VOLTS = 0.05;
export const switchOhms = (ratingAmps: number): number => SWITCH_VOLTS / ratingAmps;
/** Copper temperature for drop figures: a loaded loom under a bonnet (common practice). */
export const LOADED_CELSIUS = 60;
/** Volts lost across a blade fuse at its rating, and across a diode that conducts (common practice: about 0.1 V, 0.7 V). */
const FUSE_VOLTS = 0.1;
export const DIODE_VOLTS = 0.7;

/** From so many ohms on a resistor is put into a wire to limit what flows: what it takes is no loss (common practice). */
const LIMITS_OHMS = 1;

/** The resistance of a blade fuse falls as its rating grows. */
export const fuseOhms = (ratingAmps: number): number => FUSE_VOLTS / ratingAmps;

/** Ends that are bolted, not plugged. */
const bolted: ReadonlySet<EndType> = new Set(['battery', 'busbar', 'switch']);
/** What both terminals of a wire of the feeds add to its copper, ohms. */
export const terminalOhms = (...ends: readonly EndKey[]): number =>
  ends.reduce((sum, end) => sum + (bolted.has(endType(end)) ? LUG_OHMS : POWER_CONTACT_OHMS), 0);

/** Loaded circuits side by side in the power branch: 3 is common practice for a small loom. */
const BUNCHED = 3;
/** Hottest air the power branch is laid in; exhaust zones are for heat sleeves, not for feeds (common practice). */
const POWER_BRANCH_CELSIUS = 60;

export const surroundings = (build: Build): Surroundings => ({
  loadedCircuits: BUNCHED,
  ambientCelsius: Math.min(build.loom.zoneCelsius, POWER_BRANCH_CELSIUS),
  wireCelsius: build.loom.wireCelsius,
  series: build.loom.series,
});

/** What asks for a fuse: the load for good, or what it takes as it is switched on. */
export type FuseSetBy = 'person' | 'PW-2' | 'PW-21';

/** A fuse of the plan with its figures. */
export interface SizedFuse {
  readonly amps: number;
  readonly byPerson: boolean;
  readonly setBy: FuseSetBy;
  readonly flow: Flow;
  /** The worst that is switched on behind it, on top of what runs; null where nothing takes more than it always does. */
  readonly rush: FuseRush | null;
}

/** A wire of the plan with its figures. */
export interface SizedLink {
  readonly id: string;
  readonly from: EndKey;
  readonly to: EndKey;
  readonly squareMm: number;
  readonly byPerson: boolean;
  /** Wires of its run whose own size was set by hand: the first of them rules, over what is chosen for the feed. */
  readonly ownSizes: readonly string[];
  readonly setBy: WireSetBy;
  readonly flow: Flow;
  /** Metres with the slack of the loom. */
  readonly metres: number;
  /** Amperes it carries in its bundle and heat. */
  readonly carriesAmps: number;
  /** The fuse before it, seen from its source; null: none. */
  readonly fuse: PartId | null;
  /** The fuse it is as thick as: the one before it, or of the short piece before a fuse the one it leads to. */
  readonly sizedBy: PartId | null;
}

/** One step of the way to a load, with what is lost on it. */
export interface Hop {
  readonly step: Step;
  readonly volts: number;
  /** Of a wire: as it is laid, and what each metre of it loses; else 0. */
  readonly metres: number;
  readonly voltsPerMetre: number;
}

/** What the way to a load costs. */
export interface Drop {
  readonly draw: Draw;
  readonly volts: number;
  readonly limitVolts: number;
  /** Each step of the way with what is lost on it. */
  readonly hops: readonly Hop[];
}

export interface Sizes {
  readonly links: ReadonlyMap<string, SizedLink>;
  /** Rating of each fuse of the plan, by its part. */
  readonly fuses: ReadonlyMap<PartId, SizedFuse>;
  /** Each relay with the contact it needs. */
  readonly relays: ReadonlyMap<PartId, SizedRelay>;
  readonly drops: readonly Drop[];
  /** What is switched on at once, and takes more than it always does as it is. */
  readonly rushes: readonly Rush[];
}

/** The smallest fuse that carries a load for good and outlasts what it takes as it is switched on; the largest where none does. */
function proposedFuse({ rms }: Flow, rush: FuseRush | null): number {
  const least = fuseFor(rms);
  const most = fuseRatings[fuseRatings.length - 1]!;
  return least === null ? most : (fuseRatings.find((rating) => rating >= least && outlasts(rating, rush)) ?? least);
}

/**
 * Sizes of a plan: fuses by what flows through them, wires by the fuse before them and by what is lost on the whole way from the
 * source to each load. Where a limit is passed, the run that gives most for its copper is raised a size, and again, until every
 * load has its volts or nothing may be raised any more. What a person chose stands.
 */
export function sizesOf(build: Build, plan: FeedPlan, flows: Flows): Sizes {
  const around = surroundings(build);
  const slack = build.loom.slackMetres;
  const flowThrough = (step: Step) => (step.link ? flows.through.get(step.link.id) : flows.at.get(step.to)) ?? NOTHING;

  const { rushes, fuses: rushAt } = rushesOf(plan, flows);
  const fuses = new Map<PartId, SizedFuse>();
  for (const { id, name, part } of plan.parts.values()) {
    if (part.kind !== 'fuse') continue;
    const step = flows.steps.find((one) => one.part === id);
    const flow = (step && flows.at.get(step.to)) ?? NOTHING;
    const chosen = build.power.circuits[name]?.fuseAmps ?? part.amps;
    const rush = rushAt.get(id) ?? null;
    const amps = chosen ?? proposedFuse(flow, rush);
    const setBy = chosen !== undefined ? 'person' : amps > (fuseFor(flow.rms) ?? amps) ? 'PW-21' : 'PW-2';
    fuses.set(id, { amps, byPerson: chosen !== undefined, setBy, flow, rush });
  }

  const aroundOf = surroundingsOf(build, plan, flows, fuses);
  const chainOf = chainsOf(build, flows, fuses, aroundOf);
  // What of a step stays as it is while sizes are tried.
  const stays = new Map(
    flows.steps.map((step) => [
      step,
      {
        rms: flowThrough(step).rms,
        ends: step.link ? terminalOhms(step.from, step.to) + 2 * POWER_CONTACT_OHMS * (step.link.cuts ?? 0) : 0,
      },
    ]),
  );
  const ohmsOf = (step: Step, squareMm: number): number => {
    if (step.link) return wireOhms(squareMm, laidMetres(step.link, slack), LOADED_CELSIUS) + stays.get(step)!.ends;
    const part = plan.parts.get(step.part!)!.part;
    switch (part.kind) {
      case 'fuse':
        return fuseOhms(fuses.get(step.part!)!.amps);
      case 'relay':
        return RELAY_CONTACT_OHMS;
      case 'resistor':
        return part.ohms < LIMITS_OHMS ? part.ohms : 0;
      case 'switch':
        return switchOhms(part.amps);
      case 'button':
        return BUTTON_OHMS;
      default:
        return 0;
    }
  };
  const lost = (step: Step): number =>
    stays.get(step)!.rms * ohmsOf(step, (step.link && chainOf.get(step.link.id)?.squareMm) ?? 1) +
    (step.part && plan.parts.get(step.part)?.part.kind === 'diode' ? DIODE_VOLTS : 0);

  const loads = flows.draws.flatMap((draw) =>
    draw.load ? [{ draw, limit: draw.load.limitVolts, way: wayTo(flows, draw.end) }] : [],
  );
  raise(loads, chainOf, lost, ohmsOf, (step) => stays.get(step)!.rms, around);

  const links = new Map<string, SizedLink>();
  for (const step of flows.steps) {
    if (!step.link) continue;
    const chain = chainOf.get(step.link.id)!;
    links.set(
      step.link.id,
      sizedLink(
        build,
        step.link,
        chain,
        flowThrough(step),
        flows.fuseBefore.get(step.from) ?? null,
        aroundOf(step.link),
      ),
    );
  }
  // A wire that closes a ring or lies beside another has no run of its own.
  for (const link of plan.links) {
    const flow = flows.through.get(link.id);
    if (links.has(link.id) || !flow) continue;
    const fuse = flows.fuseBefore.get(link.from) ?? flows.fuseBefore.get(link.to) ?? null;
    const rating = fuse ? fuses.get(fuse)!.amps : flow.rms;
    const chosen = build.loom.wires[link.id]?.squareMm;
    const squareMm = chosen ?? sizeFor(rating, aroundOf(link), LEAST_SQUARE_MM);
    links.set(
      link.id,
      sizedLink(
        build,
        link,
        {
          squareMm,
          fixed: chosen !== undefined,
          ownSizes: chosen === undefined ? [] : [link.id],
          setBy: chosen === undefined ? 'PW-1' : 'person',
        },
        flow,
        fuse,
        aroundOf(link),
      ),
    );
  }
  return {
    links,
    fuses,
    relays: contactsOf(build, plan, flows, rushes),
    rushes,
    drops: loads.map(({ draw, limit, way }) => {
      const hops = way.map((step): Hop => {
        const squareMm = step.link && chainOf.get(step.link.id)?.squareMm;
        return {
          step,
          volts: lost(step),
          metres: step.link ? laidMetres(step.link, slack) : 0,
          voltsPerMetre: squareMm ? stays.get(step)!.rms * wireOhms(squareMm, 1, LOADED_CELSIUS) : 0,
        };
      });
      return { draw, limitVolts: limit, hops, volts: hops.reduce((sum, { volts }) => sum + volts, 0) };
    }),
  };
}

/** Metres with the slack of each piece that plugs cut it into. */
export const laidMetres = ({ metres, cuts = 0 }: Pick<PlannedLink, 'metres' | 'cuts'>, slack: number): number =>
  metres + slack * (cuts + 1);

const sizedLink = (
  build: Build,
  link: PlannedLink,
  { squareMm, fixed, ownSizes, setBy }: Pick<Chain, 'squareMm' | 'fixed' | 'ownSizes' | 'setBy'>,
  flow: Flow,
  fuse: PartId | null,
  around: Surroundings,
): SizedLink => ({
  id: link.id,
  from: link.from,
  to: link.to,
  squareMm,
  byPerson: fixed,
  ownSizes,
  setBy,
  flow,
  metres: Math.round(laidMetres(link, build.loom.slackMetres) * 100) / 100,
  carriesAmps: carriedAmps(squareMm, around),
  fuse,
  sizedBy: sizedBy(link, fuse),
});

/** A wire that carries under so much of what it may in its group is no loaded one of it (IEC 60364-5-52, 523.5). */
export const COUNTED_FROM = 0.3;

/** How many of these shares of what a wire carries alone count as loaded: the bar falls as the group grows, so the count only rises. */
export function countLoaded(shares: readonly number[]): number {
  let count = 0;
  for (;;) {
    const least = COUNTED_FROM * groupingFactor(Math.max(1, count));
    const loaded = shares.filter((share) => share >= least).length;
    if (loaded <= count) return count;
    count = loaded;
  }
}

/** Room under the insulation's limit that a size is worked out with at the least (common practice). */
const LEAST_ROOM_CELSIUS = 20;

/**
 * What is round each wire: where the tree has it, the hottest piece it runs through and the piece in which most loaded wires lie
 * with it; elsewhere as usual in a small loom.
 */
function surroundingsOf(
  build: Build,
  plan: FeedPlan,
  flows: Flows,
  fuses: ReadonlyMap<PartId, { readonly amps: number }>,
): (link: PlannedLink) => Surroundings {
  const usual = surroundings(build);
  const { segments } = build.tree;
  const shares = new Map<string, number[]>();
  for (const { id, from, to, route } of plan.links) {
    const flow = flows.through.get(id);
    if (!route || route.length === 0 || !flow) continue;
    const fuse = flows.fuseBefore.get(from) ?? flows.fuseBefore.get(to) ?? null;
    const rating = fuse ? fuses.get(fuse)!.amps : flow.rms;
    const alone = { ...usual, loadedCircuits: 1 };
    const share = flow.rms / (wireSize(sizeFor(rating, alone, LEAST_SQUARE_MM))?.amps ?? Infinity);
    for (const segment of route) {
      const at = shares.get(segment);
      if (at) at.push(share);
      else shares.set(segment, [share]);
    }
  }
  const loaded = new Map([...shares].map(([segment, all]) => [segment, countLoaded(all)]));
  return ({ route = [] }) => {
    const pieces = route.flatMap((id) => segments[id] ?? []);
    if (pieces.length === 0) return usual;
    return {
      ...usual,
      loadedCircuits: Math.max(1, ...route.map((id) => loaded.get(id) ?? 1)),
      // Where it is hotter than the insulation stands no size helps: a rule says so (LO-2).
      ambientCelsius: Math.min(Math.max(...pieces.map(celsiusOf)), usual.wireCelsius - LEAST_ROOM_CELSIUS),
    };
  };
}
