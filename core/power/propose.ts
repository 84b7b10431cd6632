import type { Build, CircuitChoice } from '../build/schema';
import { withId } from '../data/with-id';
import { hasRole, type FeedName, type System } from '../devices/kind';
import { pinsOfKind } from '../ecu/ecu';
import {
  BATTERY,
  deviceAt,
  endType,
  fuseEnd,
  groundEnd,
  partAt,
  partEnd,
  partId,
  readPart,
  relayEnd,
  spliceEnd,
  wireId,
  type EndKey,
  type PartId,
} from '../ends/ends';
import { USUAL_CONTACT_AMPS, changed, type Part, type PartOf, type RelayControl } from '../topology/parts';
import { keyFeeds } from './key';
import { deviceLoads, ecuLoads, type DeviceLoad, type Load } from './loads';

/** What a feed is for: what asks for one by meaning asks for this, never for a name. */
export type FeedRole = 'permanent' | 'main' | 'coils' | 'injectors' | 'pump' | 'key' | 'windings' | 'ecu' | 'own';

/** What a wire of the plan is, seen from the source. */
export type LinkRole = 'source' | 'jumper' | 'trunk' | 'branch' | 'winding' | 'return' | 'own';

export interface PlannedPart {
  readonly id: PartId;
  readonly name: string;
  readonly part: Part;
  /** Nobody decided it yet. */
  readonly proposed: boolean;
}
export interface PlannedLink {
  /** What its wire is known by. */
  readonly id: string;
  readonly from: EndKey;
  readonly to: EndKey;
  readonly metres: number;
  readonly role: LinkRole;
  /** The feed it was proposed for. */
  readonly feed: string | null;
  readonly proposed: boolean;
  /** A person said how long it is. */
  readonly fixed?: boolean;
  /** Plugs of the loom that part it. */
  readonly cuts?: number;
  /** Pieces of the tree it lies in. */
  readonly route?: readonly string[];
}
/** One fuse with what is behind it, by the fuse's name. */
export interface PlannedFeed {
  readonly id: string;
  readonly role: FeedRole;
  readonly name: string;
  readonly system: System;
}

/** Parts and wires as they were proposed, by what they are known by. */
export interface Proposal {
  readonly parts: Map<PartId, PlannedPart>;
  readonly links: Map<string, PlannedLink>;
  readonly feeds: PlannedFeed[];
}

/** What a person decided about, which no proposal may do again. */
export interface Decided {
  /** Terminals of devices, pins and windings that were wired by hand. */
  readonly ends: ReadonlySet<EndKey>;
  /** Parts that something hangs on that was decided. */
  readonly parts: ReadonlySet<PartId>;
}

/** Metres where nothing is said: a trunk to several loads, a trunk to one, a branch behind the splice, fuse to source (common practice). */
const TRUNK_METRES = 1;
const LONE_METRES = 0.5;
const BRANCH_METRES = 0.2;
export const FUSE_METRES = 0.2;
/** Between neighbours of a box, and from the ECU plug to the box (common practice). */
export const JUMPER_METRES = 0.35;
export const TO_BOX_METRES = 0.8;
/** Rings that lie under one bolt at the most (common practice). */
export const MOST_RINGS = 4;
/** Feeds whose loads work by their volts. */
const AT_THE_POST: ReadonlySet<FeedRole> = new Set(['main', 'coils', 'injectors']);
/** The bar that feeds are hung on where the battery's post would take more rings than that, and the short cable to it. */
const PLUS_BAR = 'plus';
const BAR_METRES = 0.1;
/** What lets an alternator excite itself, and draws little while it rests, ohms (common practice: 100 to 500). */
export const CHARGE_OHMS = 470;
interface FeedSpec extends PlannedFeed {
  readonly source: EndKey;
  readonly control: RelayControl | null;
  readonly loads: readonly Load[];
  /** It ends in a splice even where one load hangs on it: feeds behind it do too. */
  readonly splice?: boolean;
}

/** From so many amperes on a thing that is always fed does not share the fuse of the ECU's memory (common practice). */
const APART_AMPS = 5;

/** The feeds of a build in the order they are wired: permanent, main, coils, injectors, pump, own relays, key. */
function feedSpecs(build: Build, free: (end: EndKey) => boolean, ecuFuse: boolean): FeedSpec[] {
  const uses = deviceLoads(build);
  const of = (feed: FeedName) =>
    uses.filter(({ load }) => load.feed === feed && free(load.end)).map(({ load }) => load);
  const choice = (id: string): CircuitChoice => build.power.circuits[id] ?? {};
  const isShared = (id: string) => choice(id).feed === 'shared';
  const own = (pins: 'permanent' | 'switched') => ecuLoads(build, pins).filter(({ end }) => free(end));
  const hasMainRelayPin = pinsOfKind(build.ecu, 'main-relay').length > 0;
  const byEcu: RelayControl = hasMainRelayPin ? 'main-relay-pin' : 'need';
  const coilSwitch = choice('coils').switchedBy ?? (hasMainRelayPin ? 'ecu' : 'key');
  const source = build.feeds.source ?? BATTERY;
  const main = spliceEnd('main');
  const charge: System = 'Start and charge';
  const spec = (
    role: FeedRole,
    name: string,
    system: System,
    from: EndKey,
    control: RelayControl | null,
    loads: readonly Load[],
    id: string = role,
  ): FeedSpec => ({ id, role, name, system, source: from, control, loads });
  const ownFeed = ({ device, kind, load }: DeviceLoad) => {
    const byKey = hasRole(kind, 'starter') && build.power.starting === 'key';
    return spec(
      'own',
      device.label,
      kind.system,
      source,
      byKey ? 'key-start' : 'need',
      free(load.end) ? [load] : [],
      device.id,
    );
  };
  // A memory hangs on a small fuse: what draws so much beside it has a fuse of its own.
  const apart = ({ load }: DeviceLoad) =>
    load.feed === 'permanent' && load.amps >= APART_AMPS && free(load.end) && own('permanent').length > 0;
  const heavy = uses.filter(apart);
  const beside = of('permanent').filter((load) => !heavy.some((one) => one.load === load));
  return [
    spec('permanent', 'Permanent feed', charge, source, null, [...own('permanent'), ...beside]),
    ...heavy.map(({ device, kind, load }) =>
      spec('own', device.label, kind.system, source, null, [load], `${device.id}-standing`),
    ),
    {
      ...spec('main', 'Main feed', charge, source, hasMainRelayPin ? 'main-relay-pin' : 'key-run', [
        ...(ecuFuse ? [] : own('switched')),
        ...of('main'),
      ]),
      splice: true,
    },
    isShared('coils')
      ? spec('coils', 'Coil feed', 'Ignition', main, null, of('coils'))
      : spec('coils', 'Coil feed', 'Ignition', source, coilSwitch === 'key' ? 'key-run' : byEcu, of('coils')),
    isShared('injectors')
      ? spec('injectors', 'Injector feed', 'Fuel', main, null, of('injectors'))
      : spec(
          'injectors',
          'Injector feed',
          'Fuel',
          source,
          hasMainRelayPin ? 'main-relay-pin' : 'key-run',
          of('injectors'),
        ),
    ...(ecuFuse ? [spec('ecu', 'ECU feed', charge, main, null, own('switched'))] : []),
    spec('pump', 'Fuel pump', 'Fuel', source, choice('pump').switchedBy === 'key' ? 'key-run' : 'need', of('pump')),
    ...uses.filter(({ load }) => load.feed === 'own').map(ownFeed),
    spec('key', 'Key feed', charge, keyFeeds(build).run, null, of('key')),
  ];
}

function relayFor(spec: FeedSpec, choice: CircuitChoice): PartOf<'relay'> {
  return {
    kind: 'relay',
    name: spec.name,
    contact: 'make',
    control: spec.control!,
    suppression: choice.relay === 'diode' ? 'diode' : 'none',
    reversed: choice.winding === 'reversed',
    // Until what hangs on it is known (contact.ts).
    contactAmps: USUAL_CONTACT_AMPS,
  };
}

/** Winding terminals of a relay: DIN 72552 has 86 at the supply; reversed, 85. */
export const windingEnds = (name: string, { reversed }: Pick<PartOf<'relay'>, 'reversed'>) => ({
  supply: relayEnd(name, reversed ? '85' : '86'),
  driver: relayEnd(name, reversed ? '86' : '85'),
});

/** The feed of windings that the ECU's main relay pin pulls in. */
const MAIN_WINDINGS = 'main-windings';

/** The supply side of a relay's winding. */
interface Winding {
  readonly end: EndKey;
  readonly name: string;
}

class Drafting {
  readonly parts = new Map<PartId, PlannedPart>();
  readonly links = new Map<string, PlannedLink>();
  /** Windings the ECU's outputs pull in, those its own main relay pin does, and those the key does. */
  readonly windings: Winding[] = [];
  readonly standing: Winding[] = [];
  readonly byKey: Winding[] = [];

  /** Windings without a fuse of their own, as they were wired once. */
  readonly sharesWindings: boolean;

  constructor(
    private readonly build: Build,
    private readonly decided: Decided,
  ) {
    this.sharesWindings = build.power.circuits.windings?.feed === 'shared';
  }

  part(end: EndKey, name: string, part: Part): void {
    const id = partAt(end)!;
    this.parts.set(id, { id, name, part, proposed: true });
  }
  link(from: EndKey, to: EndKey, role: LinkRole, metres: number, feed: string | null): void {
    const id = wireId(from, to);
    this.links.set(id, { id, from, to, metres, role, feed, proposed: true });
  }
  feed(spec: FeedSpec): void {
    const { id, loads } = spec;
    const choice = this.build.power.circuits[id] ?? {};
    this.part(fuseEnd(id, 1), id, { kind: 'fuse', name: spec.name, amps: choice.fuseAmps });
    this.link(spec.source, fuseEnd(id, 1), 'source', choice.fuseDistanceMetres ?? FUSE_METRES, id);
    let outlet = fuseEnd(id, 2);
    if (spec.control !== null) {
      const relay = this.overlaid(relayFor(spec, choice), id);
      this.part(relayEnd(id, '30'), id, relay);
      this.link(outlet, relayEnd(id, '30'), 'jumper', JUMPER_METRES, id);
      outlet = relayEnd(id, '87');
      this.winding(id, relay);
    }
    // What hung on it was hung elsewhere, and something else hangs here by hand.
    if (loads.length === 0 && !spec.splice && !this.decided.parts.has(partId('splice', id))) return;
    const alone = loads.length === 1 && !spec.splice;
    const metres =
      choice.lengthMetres ?? (loads.length > 1 ? TRUNK_METRES : Math.max(LONE_METRES, loads[0]?.branchMetres ?? 0));
    if (alone) {
      this.hang(outlet, loads[0]!, 'trunk', metres, id);
      return;
    }
    this.part(spliceEnd(id), id, { kind: 'splice', name: spec.name });
    this.link(outlet, spliceEnd(id), 'trunk', metres, id);
    for (const load of loads) this.hang(spliceEnd(id), load, 'branch', Math.max(BRANCH_METRES, load.branchMetres), id);
  }
  /** A load on its feed; the lamp terminal of an alternator behind a resistor, since its regulator draws it down at rest. */
  private hang(from: EndKey, { end }: Load, role: LinkRole, metres: number, feed: string): void {
    const charge = chargeResistor(this.build, end);
    const { parts, links } = this.build.feeds;
    if (charge === null || parts[charge.id] === null || links[wireId(from, end)] === null) {
      this.link(from, end, role, metres, feed);
      return;
    }
    this.part(charge.into, charge.name, { kind: 'resistor', name: 'Charge resistor', ohms: CHARGE_OHMS });
    // What a person wired at either side of it stays so.
    const byHand = Object.values(links).some((link) => link && (link.from === charge.into || link.to === charge.into));
    if (!byHand) this.link(from, charge.into, role, BRANCH_METRES, feed);
    if (!this.decided.ends.has(end)) this.link(charge.outOf, end, 'branch', metres, feed);
  }
  /** A relay that a person changed is wired as it is now. */
  private overlaid(relay: PartOf<'relay'>, name: string): PartOf<'relay'> {
    const own = this.build.feeds.parts[partId('relay', name)];
    return own?.kind === 'relay' ? own : changed(relay, this.build.feeds.changes[partId('relay', name)]);
  }
  /** What feeds the winding of a relay, and where the key pulls it in its ground. */
  winding(name: string, relay: PartOf<'relay'>): void {
    const { supply, driver } = windingEnds(name, relay);
    const free = (end: EndKey) => !this.decided.ends.has(end);
    const feeds = keyFeeds(this.build);
    if (relay.control === 'key-run' || relay.control === 'key-start') {
      if (free(supply) && relay.control === 'key-run') this.byKey.push({ end: supply, name });
      else if (free(supply)) this.link(feeds.start, supply, 'winding', TO_BOX_METRES, name);
      if (free(driver)) this.link(driver, groundEnd('chassis'), 'return', TO_BOX_METRES, name);
    } else if (relay.control === 'main-relay-pin') {
      // Live before the relay has pulled in: behind a fuse of the battery's, on no blade that has a wire already.
      const stacked = this.build.power.joints === 'stacked';
      if (free(supply) && !this.sharesWindings && !stacked) this.standing.push({ end: supply, name });
      else if (free(supply)) {
        const [from, metres] = this.sharesWindings ? [BATTERY, TO_BOX_METRES] : [relayEnd(name, '30'), JUMPER_METRES];
        this.link(from, supply, 'winding', metres, name);
      }
    } else if (relay.control === 'need' && free(supply)) this.windings.push({ end: supply, name });
  }
  /** Windings fed together through a small fuse, so that a thin wire serves them. */
  private feedTogether(feed: PlannedFeed, source: EndKey, windings: readonly Winding[], feeds: PlannedFeed[]): void {
    const { id, name } = feed;
    const choice = this.build.power.circuits[id] ?? {};
    feeds.push(feed);
    this.part(fuseEnd(id, 1), id, { kind: 'fuse', name, amps: choice.fuseAmps });
    this.link(source, fuseEnd(id, 1), 'source', choice.fuseDistanceMetres ?? FUSE_METRES, id);
    const several = windings.length > 1;
    if (several) {
      this.part(spliceEnd(id), id, { kind: 'splice', name });
      this.link(fuseEnd(id, 2), spliceEnd(id), 'trunk', choice.lengthMetres ?? JUMPER_METRES, id);
    }
    for (const { end } of windings)
      this.link(several ? spliceEnd(id) : fuseEnd(id, 2), end, 'winding', TO_BOX_METRES, id);
  }
  /** What feeds the windings: behind the main relay those of the ECU's outputs, from the key those it pulls in. */
  feedWindings(feeds: PlannedFeed[], post: EndKey): void {
    const main = spliceEnd('main');
    const source = this.parts.has(partAt(main)!) ? main : (this.build.feeds.source ?? BATTERY);
    const { run } = keyFeeds(this.build);
    const groups = [
      { id: 'wake', name: 'Key wake-up', source: run, windings: this.byKey },
      { id: 'windings', name: 'Relay windings', source, windings: this.windings },
      { id: MAIN_WINDINGS, name: 'Main windings', source: post, windings: this.standing },
    ] as const;
    for (const { id, name, source: from, windings } of groups)
      if (this.sharesWindings)
        for (const winding of windings) this.link(from, winding.end, 'winding', TO_BOX_METRES, winding.name);
      else if (windings.length > 0)
        this.feedTogether({ id, role: 'windings', name, system: 'Start and charge' }, from, windings, feeds);
  }
}

/** The resistor before an alternator's lamp terminal, as it is called and wired; null where the end is no such terminal. */
function chargeResistor(build: Build, end: EndKey) {
  const device = withId(build.devices, deviceAt(end));
  const kind = device && build.kinds[device.kindId];
  if (!kind || !hasRole(kind, 'alternator')) return null;
  const name = device.id;
  return {
    id: partId('resistor', name),
    name,
    into: partEnd('resistor', name, '1'),
    outOf: partEnd('resistor', name, '2'),
  };
}

/** Whether a load is fed by the proposal: nobody wired it, or only what lies behind its charge resistor. */
function isOpen(build: Build, { ends, parts }: Decided, end: EndKey): boolean {
  if (!ends.has(end)) return true;
  const charge = chargeResistor(build, end);
  return charge !== null && parts.has(charge.id) && build.feeds.parts[charge.id] === undefined;
}

/**
 * The plan of feeds as Gonyx proposes it for what nobody decided: a fuse for each feed, a relay where it is switched, a splice
 * where several loads hang on it. Windings hang behind small fuses of their own: those the ECU pulls in behind the main relay, those of the key
 * on its feed.
 *
 * @param ecuFuse The ECU has a fuse of its own: its terminals would not take the wire the main fuse asks for.
 */
export function proposal(build: Build, decided: Decided, ecuFuse: boolean): Proposal {
  const draft = new Drafting(build, decided);
  const specs = feedSpecs(build, (end) => isOpen(build, decided, end), ecuFuse);
  // What a person wired by hand may hang on a feed that has nothing of its own.
  const touched = ({ id }: FeedSpec) =>
    [partId('fuse', id), partId('relay', id), partId('splice', id)].some((part) => decided.parts.has(part));
  const behindMain = specs.some(
    ({ source, loads }) => endType(source) === 'splice' && source === spliceEnd('main') && loads.length > 0,
  );
  const wanted = specs.filter((spec) => spec.loads.length > 0 || touched(spec) || (spec.role === 'main' && behindMain));
  const atPost = wanted.filter(({ source }) => source === BATTERY);
  const taken = Object.values(build.feeds.links).filter(
    (link) => link && [link.from, link.to].includes(BATTERY),
  ).length;
  // The windings that the main relay pin pulls in have a fuse there as well.
  const standing = Number(
    wanted.some(({ control }) => control === 'main-relay-pin') && build.power.circuits.windings?.feed !== 'shared',
  );
  const isCrowded =
    build.power.joints === 'apart' && atPost.length > 0 && taken + atPost.length + standing > MOST_RINGS;
  const bar = partEnd('busbar', PLUS_BAR);
  // What may lose least on its way keeps a ring of its own; the rest hangs on the bar, whose cable is the last ring.
  const own = new Set(atPost.filter(({ role }) => AT_THE_POST.has(role)).slice(0, Math.max(0, MOST_RINGS - 1 - taken)));
  if (isCrowded) {
    draft.part(bar, PLUS_BAR, { kind: 'busbar', name: 'Plus busbar' });
    draft.link(BATTERY, bar, 'source', BAR_METRES, null);
  }
  for (const spec of wanted)
    draft.feed(isCrowded && spec.source === BATTERY && !own.has(spec) ? { ...spec, source: bar } : spec);
  // Relays of the person's own that an output of the ECU, its main relay pin or the key pulls in.
  for (const [id, part] of Object.entries(build.feeds.parts))
    if (part?.kind === 'relay' && !draft.parts.has(id as PartId)) draft.winding(readPart(id)!.name, part);
  const feeds: PlannedFeed[] = wanted.map(({ id, role, name, system }) => ({ id, role, name, system }));
  draft.feedWindings(feeds, isCrowded ? bar : (build.feeds.source ?? BATTERY));
  return { parts: draft.parts, links: draft.links, feeds };
}
