import type { Build } from '../build/schema';
import type { EndKey, PartId } from '../ends/ends';
import { carriedAmps, sizeFor, wireOhms, type Surroundings } from '../wire/wire';
import { surroundings, surroundingsIn, type Carrier, type Census } from './census';
import { BUTTON_OHMS, POWER_CONTACT_OHMS, RELAY_CONTACT_OHMS, switchOhms, terminalOhms } from './contact-ohms';
import { laidMetres } from './length';
import { contactsOf, type SizedRelay } from './contact';
import type { FeedPlan } from './feed-plan';
import { wayTo, type Draw, type Flow, type Flows, type Step } from './flow';
import { fuseFor, fuseOhms, fuseRatings } from './fuse';
import type { PlannedLink } from './propose';
import { outlasts, rushesOf, type FuseRush, type Rush } from './inrush';
import { chainsOf, LEAST_SQUARE_MM, NOTHING, raise, sizedBy, type Chain, type WireSetBy } from './runs';

/** Copper temperature for drop figures: a loaded loom under a bonnet (common practice). */
export const LOADED_CELSIUS = 60;
/** Volts lost across a diode that conducts (common practice: about 0.7 V). */
export const DIODE_VOLTS = 0.7;

/** From so many ohms on a resistor is put into a wire to limit what flows: what it takes is no loss (common practice). */
const LIMITS_OHMS = 1;

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

/** Fuses of a plan with what flows through each. */
export interface Fuses {
  readonly rated: ReadonlyMap<PartId, SizedFuse>;
  readonly rushes: readonly Rush[];
}

/** Each fuse of a plan by what flows through it, and by what is switched on behind it; what a person chose stands. */
export function fusesOf(build: Build, plan: FeedPlan, flows: Flows): Fuses {
  const { rushes, fuses: rushAt } = rushesOf(plan, flows);
  const rated = new Map<PartId, SizedFuse>();
  for (const { id, name, part } of plan.parts.values()) {
    if (part.kind !== 'fuse') continue;
    const step = flows.steps.find((one) => one.part === id);
    const flow = (step && flows.at.get(step.to)) ?? NOTHING;
    const chosen = build.power.circuits[name]?.fuseAmps ?? part.amps;
    const rush = rushAt.get(id) ?? null;
    const amps = chosen ?? proposedFuse(flow, rush);
    const setBy = chosen !== undefined ? 'person' : amps > (fuseFor(flow.rms) ?? amps) ? 'PW-21' : 'PW-2';
    rated.set(id, { amps, byPerson: chosen !== undefined, setBy, flow, rush });
  }
  return { rated, rushes };
}

/** The wires of the plan as they count in the pieces they lie in: a starter turns while nothing else is loaded for good. */
export function carriersOf(flows: Flows, links: readonly PlannedLink[], { rated }: Fuses): Carrier[] {
  const brief = new Set<string>();
  for (const { end, load } of flows.draws)
    if (load?.brief)
      for (const { link } of wayTo(flows, end))
        if (link && flows.through.get(link.id)?.rms === load.rms) brief.add(link.id);
  return links.flatMap(({ id, from, to, route }): Carrier[] => {
    const flow = flows.through.get(id);
    if (!route || route.length === 0 || !flow) return [];
    const fuse = flows.fuseBefore.get(from) ?? flows.fuseBefore.get(to) ?? null;
    const asks = fuse ? rated.get(fuse)!.amps : flow.rms;
    return [{ warmAmps: brief.has(id) ? 0 : flow.rms, asks, least: LEAST_SQUARE_MM, route }];
  });
}

/**
 * Sizes of a plan: fuses by what flows through them, wires by the fuse before them and by what is lost on the whole way from the
 * source to each load. Where a limit is passed, the run that gives most for its copper is raised a size, and again, until every
 * load has its volts or nothing may be raised any more. What a person chose stands.
 */
export function sizesOf(
  build: Build,
  plan: FeedPlan,
  flows: Flows,
  { rated: fuses, rushes }: Fuses,
  census: Census,
): Sizes {
  const around = surroundings(build);
  const slack = build.loom.slackMetres;
  const flowThrough = (step: Step) => (step.link ? flows.through.get(step.link.id) : flows.at.get(step.to)) ?? NOTHING;
  const aroundIn = surroundingsIn(build, census);
  const aroundOf = ({ route }: PlannedLink) => aroundIn(route);
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
