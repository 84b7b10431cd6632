import type { Build } from '../build/schema';
import type { System } from '../devices/kind';
import { withId } from '../data/with-id';
import { ecuEnd, endOf, fuseEnd, partId, portOf, readPart, spliceEnd, type EndKey } from '../ends/ends';
import { pinsOfKind } from '../ecu/ecu';
import { cavitySquareMm } from '../ecu/face';
import type { PartOf } from '../topology/parts';
import { withContacts, type ContactSetBy } from './contact';
import type { FeedPlan } from './feed-plan';
import { wayTo, type Flow, type Flows, type Step } from './flow';
import { MOTOR_DROP, type Load } from './loads';
import { windingEnds, type FeedRole } from './propose';
import type { FuseRush } from './inrush';
import type { WireSetBy } from './runs';
import type { Drop, FuseSetBy, Hop, Sizes } from './sizes';
import { surroundingsIn, type Census } from './census';
import { carriedAmps, sizeFor } from '../wire/wire';

export interface CircuitRelay {
  readonly name: string;
  readonly control: PartOf<'relay'>['control'];
  readonly suppressed: boolean;
  readonly reversed: boolean;
  readonly contactAmps: number;
  readonly contactSetBy: ContactSetBy;
  /** The winding terminal that goes to the driver. */
  readonly driverTerminal: '85' | '86';
  readonly supplyTerminal: '85' | '86';
}

/** One section of the plan: a fuse and what it protects. */
export interface Circuit {
  readonly id: string;
  readonly role: FeedRole;
  readonly name: string;
  readonly system: System;
  /** Where it draws from: a battery or another post of it, the key, a feed of the car, or another feed. */
  readonly source: 'battery' | 'key' | 'tap' | 'main' | 'nothing';
  /** The feed its fuse hangs on; null where that is a source. */
  readonly upstream: string | null;
  /** The first relay behind its fuse. */
  readonly relay: CircuitRelay | null;
  readonly loads: readonly Load[];
  readonly limitVolts: number;
  /** What flows through the fuse with everything on. */
  readonly flow: Flow;
  /** Coils hang on it: what warms the fuse is more than the mean. */
  readonly pulsed: Flow | null;
  /** What warms wire and fuse, amperes: the root mean square. */
  readonly loadAmps: number;
  readonly fuseAmps: number;
  readonly fuseByPerson: boolean;
  readonly fuseSetBy: FuseSetBy;
  /** The worst that is switched on behind its fuse; null where nothing takes more than it always does. */
  readonly rush: FuseRush | null;
  readonly squareMm: number;
  readonly squareByPerson: boolean;
  /** Wires of the trunk's run whose own size was set by hand, and rules. */
  readonly ownSizes: readonly string[];
  readonly squareSetBy: WireSetBy;
  /** The thinnest wire behind the splice that leads to a load: it too must outlast the fuse. */
  readonly branchSquareMm: number;
  /** Amperes the trunk carries in its bundle and ambient. */
  readonly carriesAmps: number;
  readonly branchCarriesAmps: number;
  readonly lengthMetres: number;
  readonly fuseDistanceMetres: number;
  /** Volts lost on the whole way from the source to the worst load, copper at 60 °C, contacts in. */
  readonly dropVolts: number;
  readonly worstLoad: string;
  /** Where most of it is lost. */
  readonly worstHop: Hop | null;
  /** The way back that is nearest to its limit, or furthest over it; null: what hangs on it returns by no wire. */
  readonly back: ReturnDrop | null;
}

/** One wire of the way back from a load, with what is lost on it. */
export interface ReturnHop {
  readonly wireId: string;
  readonly from: EndKey;
  readonly to: EndKey;
  readonly volts: number;
}
/** What the way back from a load to its bolt costs, volts. */
export interface ReturnDrop {
  readonly name: string;
  readonly volts: number;
  readonly limitVolts: number;
  readonly hops: readonly ReturnHop[];
}

/** The plan of feeds with everything that follows from it. */
export interface Sections {
  readonly plan: FeedPlan;
  readonly flows: Flows;
  readonly sizes: Sizes;
  /** Loaded wires of each piece of the tree. */
  readonly census: Census;
  readonly circuits: readonly Circuit[];
  readonly boxes: Build['feeds']['boxes'];
  /** Loads that no source reaches. */
  readonly unfed: readonly Load[];
}

/** True where the ECU's own feed would be thicker than its terminals take: its fuse is then a fuse of its own. */
export function wantsEcuFuse(build: Build, plan: FeedPlan, sizes: Sizes): boolean {
  const main = plan.feeds.find(({ role }) => role === 'main');
  if (main && sizes.fuses.get(partId('fuse', main.id))?.byPerson) return false;
  return pinsOfKind(build.ecu, 'switched').some((pin) => {
    const connector = withId(build.ecu.connectors, pin.connector);
    const wire = [...sizes.links.values()].find(({ to }) => to === ecuEnd(pin.id));
    if (!connector || !wire || wire.byPerson || wire.fuse !== partId('fuse', 'main')) return false;
    return wire.squareMm > cavitySquareMm(connector, pin.cavity);
  });
}

/** Sections of a plan with its figures. `returns`: the way back of what is fed, by the load's end. */
export function sectioned(
  build: Build,
  bare: FeedPlan,
  flows: Flows,
  sizes: Sizes,
  census: Census,
  returns: ReadonlyMap<EndKey, ReturnDrop>,
): Sections {
  const plan = withContacts(bare, sizes.relays);
  const aroundIn = surroundingsIn(build, census);
  const circuits = plan.feeds.map(({ id, role, name, system }): Circuit => {
    const fuse = partId('fuse', id);
    const { amps, byPerson, setBy, flow, rush } = sizes.fuses.get(fuse)!;
    const inSection = (end: EndKey) => flows.fuseBefore.get(end) === fuse;
    const draws = flows.draws.filter(({ end }) => inSection(end));
    const loads = draws.flatMap(({ load }) => load ?? []);
    const behind = sizes.drops.filter(({ draw }) => inSection(draw.end));
    const worst = behind.reduce<Drop | null>(
      (most, drop) => (most === null || drop.volts - drop.limitVolts > most.volts - most.limitVolts ? drop : most),
      null,
    );
    const into = flows.into.get(fuseEnd(id, 1)) ?? flows.into.get(fuseEnd(id, 2));
    const own = flows.steps.filter(({ from, link }) => link && flows.fuseBefore.get(from) === fuse);
    const trunk = trunkOf(own, id) ?? into;
    const around = aroundIn(trunk?.link?.route);
    const trunkWire = trunk?.link && sizes.links.get(trunk.link.id);
    const branches = own
      .filter((step) => step !== trunk && (loads.some(({ end }) => end === step.to) || step.link!.role === 'branch'))
      .map(({ link }) => sizes.links.get(link!.id)!.squareMm);
    const squareMm = trunkWire?.squareMm ?? sizeFor(amps, around);
    const branchSquareMm = branches.length > 0 ? Math.min(...branches) : squareMm;
    const back = loads
      .flatMap(({ end }) => returns.get(end) ?? [])
      .reduce<ReturnDrop | null>(
        (most, one) => (most && most.volts - most.limitVolts >= one.volts - one.limitVolts ? most : one),
        null,
      );
    const hop = worst?.hops.reduce<Hop | null>((most, one) => (most && most.volts >= one.volts ? most : one), null);
    return {
      id,
      role,
      name,
      system,
      ...sourceOf(flows, id),
      relay: relayOf(plan, flows, sizes, id),
      loads,
      limitVolts: worst?.limitVolts ?? Math.min(MOTOR_DROP, ...loads.map(({ limitVolts }) => limitVolts)),
      flow,
      pulsed: flow.peak > flow.mean ? flow : null,
      loadAmps: flow.rms,
      fuseAmps: amps,
      fuseByPerson: byPerson,
      fuseSetBy: setBy,
      rush,
      squareMm,
      squareByPerson: trunkWire?.byPerson ?? false,
      ownSizes: trunkWire?.ownSizes ?? [],
      squareSetBy: trunkWire?.setBy ?? 'strength',
      branchSquareMm,
      carriesAmps: carriedAmps(squareMm, around),
      branchCarriesAmps: carriedAmps(branchSquareMm, around),
      lengthMetres: trunk?.link?.metres ?? 0,
      fuseDistanceMetres: into?.link?.metres ?? 0,
      dropVolts: worst?.volts ?? 0,
      worstLoad: worst?.draw.name ?? name,
      worstHop: hop ?? null,
      back,
    };
  });
  return { plan, flows, sizes, census, circuits, boxes: build.feeds.boxes, unfed: flows.unfed };
}

/** The wire that leaves the box: to the splice of the feed, or to its only load. */
const trunkOf = (own: readonly Step[], id: string): Step | undefined =>
  own.find(({ link }) => link!.role === 'trunk') ??
  own.find(({ to }) => to === spliceEnd(id)) ??
  own.find(({ link }) => link!.role !== 'jumper' && link!.role !== 'winding') ??
  own[0];

/** Where the way to a fuse begins, and the feed it passes last. */
function sourceOf(flows: Flows, id: string): Pick<Circuit, 'source' | 'upstream'> {
  const end = fuseEnd(id, 1);
  const way = wayTo(flows, flows.into.has(end) ? end : fuseEnd(id, 2));
  const [first] = way;
  if (!first) return { source: 'nothing', upstream: null };
  const before = flows.fuseBefore.get(end);
  const upstream = before && before !== partId('fuse', id) ? readPart(before)!.name : null;
  if (upstream) return { source: 'main', upstream };
  const ref = endOf(first.from);
  if (ref.of === 'part' && ref.kind === 'battery') return { source: 'battery', upstream: null };
  return { source: ref.of === 'part' && ref.kind === 'tap' ? 'tap' : 'key', upstream: null };
}

function relayOf(plan: FeedPlan, flows: Flows, sizes: Sizes, id: string): CircuitRelay | null {
  const fuse = partId('fuse', id);
  const step = flows.steps.find(
    ({ part, from }) =>
      part !== null && plan.parts.get(part)?.part.kind === 'relay' && flows.fuseBefore.get(from) === fuse,
  );
  const planned = step && plan.parts.get(step.part!);
  if (planned?.part.kind !== 'relay') return null;
  const { part: relay, name } = planned;
  const { supply, driver } = windingEnds(name, relay);
  return {
    name,
    control: relay.control,
    suppressed: relay.suppression === 'diode',
    reversed: relay.reversed,
    contactAmps: relay.contactAmps,
    contactSetBy: sizes.relays.get(step!.part!)!.setBy,
    driverTerminal: portOf(driver) as '85' | '86',
    supplyTerminal: portOf(supply) as '85' | '86',
  };
}

/** Loads behind the contact of each relay, by the relay's name. */
export function loadsByRelay({ plan, flows }: Pick<Sections, 'plan' | 'flows'>): Map<string, Load[]> {
  const found = new Map<string, Load[]>();
  for (const { end, load } of flows.draws)
    for (const { part } of load ? wayTo(flows, end) : []) {
      const planned = part && plan.parts.get(part);
      if (!planned || planned.part.kind !== 'relay') continue;
      const at = found.get(planned.name);
      if (at) at.push(load!);
      else found.set(planned.name, [load!]);
    }
  return found;
}
