import type { Build } from '../build/schema';
import { serve, type Ask } from '../ecu/ask';
import { isFixedPin, type Ability, type Pin, type PinGroup } from '../ecu/ecu';
import { ecuEnd, wireId, type End } from '../netlist/ends';
import { needsOf, type Need } from '../netlist/needs';

/** What stays where it is: `locked` only what is locked; `most` may move the rest but seldom; `placed` all that fits. */
export type Keep = 'locked' | 'most' | 'placed';

/**
 * Costs in order of weight, each above all sums of those below it (up to 600 pins). First number: needs left unserved,
 * crimped cavities given up, outputs that belong to another cylinder, placements changed. Second: versatile pins used for
 * what a plain one could do, needs away from the connector of their device, and the order along the pins.
 */
export const WEIGHT = { unserved: 2 ** 30, crimped: 2 ** 20, output: 2 ** 10, move: 1 } as const;
export const MINOR = { versatile: 2 ** 38, away: 2 ** 28 } as const;
/** Highest step of versatility told apart. */
const MOST_VERSATILE = 15;

/** A row of the assignment: one need, or all needs of a pair, which are placed together. */
export interface Row {
  readonly needs: readonly Need[];
}

export type Limit =
  | { readonly type: 'timer'; readonly name: string; readonly pins: ReadonlySet<number>; readonly hz: number | null }
  | { readonly type: 'budget'; readonly name: string; readonly pins: ReadonlySet<number>; readonly amps: number }
  /** `shut`: another side is in use already, so none of these may be. */
  | {
      readonly type: 'either';
      readonly name: string;
      readonly sides: readonly ReadonlySet<number>[];
      readonly shut: boolean;
    };

export interface Model {
  /** Pins that may still be given, in the order of the definition. */
  readonly pins: readonly Pin[];
  readonly rows: readonly Row[];
  /** Edges by row, as in the assignment. */
  readonly start: Int32Array;
  /** First pin of the edge; a paired row's others are in `members`. */
  readonly column: Int32Array;
  readonly cost: Float64Array;
  readonly minor: Float64Array;
  /** Pins of an edge of a paired row, one for each need of the row. */
  readonly members: ReadonlyMap<number, Int32Array>;
  readonly limits: readonly Limit[];
  /** Needs whose pin is settled beforehand. */
  readonly fixed: ReadonlyMap<string, Pin>;
}

export const pulses = ({ kind, hz }: Ask): boolean =>
  (kind === 'low-side' || kind === 'high-side' || kind === 'half-bridge') && (hz ?? 0) > 0;

/** True when a wire between these ends sits in its cavities: clicked and pulled, or measured end to end. */
export const inPlace = (build: Pick<Build, 'pinning' | 'prove'>, from: End, to: End): boolean =>
  build.pinning.done[wireId(from, to)] !== undefined ||
  build.prove.readings[`c|${from}|${to}`] !== undefined ||
  build.prove.readings[`c|${to}|${from}`] !== undefined;

/** True when this need's wire sits in this cavity. */
export const isCrimped = (build: Build, need: Need, pinId: string): boolean => inPlace(build, ecuEnd(pinId), need.end);

/** How much a pin is wasted on an ask: 0 for a pin that can be nothing else. */
function versatility(pin: Pin, ability: Ability, ask: Ask): number {
  let steps = (pin.abilities.length - 1) * 2 + pin.abilities.indexOf(ability) * 2;
  // A pull-up is kept for those who ask for one, fast and strong outputs for those who need them.
  if (ask.kind === 'analog' && ask.pullUp !== true && ability.pullUpOhms !== undefined) steps += 2;
  if ((ability.maxHz ?? 0) > (ask.hz ?? 0) && ask.kind === 'low-side') steps += 1;
  if (ask.kind === 'low-side' && (ability.maxAmps ?? 0) > 2.5 * Math.max(0.2, ask.amps ?? 0)) steps += 1;
  return Math.min(MOST_VERSATILE, steps);
}

interface Offer {
  readonly pin: number;
  readonly ability: Ability;
  readonly versatile: number;
}

/** Pins that serve an ask, worked out once for each different ask and each different pin. */
function offers(pins: readonly Pin[]): (ask: Ask, pair?: string) => readonly Offer[] {
  const shapes = new Map<string, number>();
  const examples: Pin[] = [];
  const shapeOf = pins.map((pin) => {
    const key = JSON.stringify(pin.abilities);
    const known = shapes.get(key);
    if (known !== undefined) return known;
    shapes.set(key, examples.length);
    examples.push(pin);
    return examples.length - 1;
  });
  const found = new Map<string, readonly Offer[]>();
  return (ask, pair) => {
    const key = `${JSON.stringify(ask)}${pair ?? ''}`;
    const before = found.get(key);
    if (before) return before;
    const served = examples.map((pin) => {
      const { ability } = serve(pin, ask, pair);
      return ability && { ability, versatile: versatility(pin, ability, ask) };
    });
    const list = pins.flatMap((_, pin) => {
      const one = served[shapeOf[pin]];
      return one ? [{ pin, ...one }] : [];
    });
    found.set(key, list);
    return list;
  };
}

/** The connector where most needs of a device could live: of its fixed pins first, then by what is offered. */
function homes(
  pins: readonly Pin[],
  fixed: ReadonlyMap<string, Pin>,
  needs: readonly Need[],
  offered: (ask: Ask) => readonly Offer[],
): Map<string, string> {
  const byDevice = new Map<string, Need[]>();
  for (const need of needs)
    if (need.deviceId) byDevice.set(need.deviceId, [...(byDevice.get(need.deviceId) ?? []), need]);
  const connectors = [...new Set(pins.map((pin) => pin.connector))];
  const able = new Map<Ask['kind'] | string, Set<string>>();
  const connectorsFor = (ask: Ask): Set<string> => {
    const key = JSON.stringify(ask);
    const known = able.get(key);
    if (known) return known;
    const set = new Set(offered(ask).map(({ pin }) => pins[pin].connector));
    able.set(key, set);
    return set;
  };
  const home = new Map<string, string>();
  for (const [deviceId, own] of byDevice) {
    if (own.length < 2) continue;
    const votes = new Map<string, number>(connectors.map((id) => [id, 0]));
    for (const need of own) {
      const pin = fixed.get(need.id);
      if (pin) votes.set(pin.connector, (votes.get(pin.connector) ?? 0) + 4);
      else for (const id of connectorsFor(need.ask)) votes.set(id, (votes.get(id) ?? 0) + 1);
    }
    const [best] = [...votes].reduce((most, one) => (one[1] > most[1] ? one : most));
    home.set(deviceId, best);
  }
  return home;
}

const outputMiss = (need: Need, ability: Ability): boolean =>
  need.output !== null && ability.output !== undefined && ability.output !== need.output;

/** Sets of pins a pair of needs could be put on: every pair of the ECU that has an able pin for each. */
function pairChoices(
  row: Row,
  pins: readonly Pin[],
  offered: (ask: Ask, pair?: string) => readonly Offer[],
): { pins: number[]; versatile: number }[] {
  const names = new Set(
    offered(row.needs[0].ask).flatMap(({ pin }) => pins[pin].abilities.flatMap(({ pair }) => pair ?? [])),
  );
  return [...names].flatMap((name) => {
    const lists = row.needs.map((need) => offered(need.ask, name));
    // Members are few: the first way to give each need a pin of its own, found by trying in order.
    const chosen: Offer[] = [];
    const settle = (index: number): boolean => {
      if (index === lists.length) return true;
      return lists[index].some((offer) => {
        if (chosen.some((one) => one.pin === offer.pin)) return false;
        chosen.push(offer);
        if (settle(index + 1)) return true;
        chosen.pop();
        return false;
      });
    };
    if (!settle(0)) return [];
    return [
      { pins: chosen.map(({ pin }) => pin), versatile: chosen.reduce((sum, { versatile }) => sum + versatile, 0) },
    ];
  });
}

/** Placements that stay: locked ones, and with `placed` every one that still fits, whole pairs only. */
function settled(
  build: Build,
  needs: readonly Need[],
  pinById: ReadonlyMap<string, Pin>,
  keep: Keep,
): Map<string, Pin> {
  const locked = new Set(build.locked);
  const fixed = new Map<string, Pin>();
  const taken = new Set<string>();
  const barred = barredPins(build);
  const take = (need: Need, pin: Pin) => {
    fixed.set(need.id, pin);
    taken.add(pin.id);
  };
  for (const need of needs) {
    const pin = pinById.get(build.assignments[need.id] ?? '');
    if (pin && locked.has(need.id) && !taken.has(pin.id)) take(need, pin);
  }
  if (keep !== 'placed') return fixed;
  const pairs = new Map<string, string | null>();
  const pairAt = (need: Need): string | undefined => {
    const pin = pinById.get(build.assignments[need.id] ?? '');
    return pin && serve(pin, need.ask).ability?.pair;
  };
  for (const need of needs)
    if (need.pair !== null) {
      const at = pairAt(need) ?? null;
      pairs.set(need.pair, pairs.has(need.pair) && pairs.get(need.pair) !== at ? null : at);
    }
  for (const need of needs) {
    const pin = pinById.get(build.assignments[need.id] ?? '');
    if (!pin || fixed.has(need.id) || taken.has(pin.id) || serve(pin, need.ask).miss) continue;
    if (need.pair !== null && pairs.get(need.pair) === null) continue;
    if (barred(null, pin.id) || barred(need.id, pin.id)) continue;
    take(need, pin);
  }
  return fixed;
}

/** 'Never here', as a question. */
export function barredPins(build: Build): (needId: string | null, pinId: string) => boolean {
  const set = new Set(build.never.map(({ needId, pinId }) => `${needId ?? ''} ${pinId}`));
  return (needId, pinId) => set.has(`${needId ?? ''} ${pinId}`);
}

/** Groups of the ECU on the pins that are left, less what fixed needs already use of them. */
function limitsOf(
  groups: readonly PinGroup[],
  index: ReadonlyMap<string, number>,
  fixed: ReadonlyMap<string, Pin>,
  needs: ReadonlyMap<string, Need>,
): Limit[] {
  const usedBy = new Map([...fixed].map(([needId, pin]) => [pin.id, needs.get(needId)!] as const));
  const left = (ids: readonly string[]) => new Set(ids.flatMap((id) => index.get(id) ?? []));
  return groups.flatMap((group): Limit[] => {
    if (group.type === 'timer') {
      const running = group.pins.map((id) => usedBy.get(id)).find((need) => need && pulses(need.ask));
      return [{ type: 'timer', name: group.name, pins: left(group.pins), hz: running?.ask.hz ?? null }];
    }
    if (group.type === 'budget') {
      const spent = group.pins.reduce((sum, id) => sum + (usedBy.get(id)?.ask.amps ?? 0), 0);
      return [{ type: 'budget', name: group.name, pins: left(group.pins), amps: group.amps - spent }];
    }
    const held = group.sides.findIndex((side) => side.some((id) => usedBy.has(id)));
    const sides = group.sides.map(left).filter((_, i) => i !== held);
    return [{ type: 'either', name: group.name, sides, shut: held >= 0 }];
  });
}

export interface ModelOptions {
  readonly keep: Keep;
  /** Only these needs; absent: all. */
  readonly only?: ReadonlySet<string>;
  /** Locked needs become rows with one pin to go to, so that they can be part of an explanation. */
  readonly locksAsRows?: boolean;
  /** Groups of the ECU that are looked away from. */
  readonly without?: ReadonlySet<string>;
  readonly ignoreNever?: boolean;
  /** Connector where a device should live, over the one worked out. */
  readonly homes?: ReadonlyMap<string, string>;
}

/** The assignment that a build asks for. O(different asks x different pins + edges). */
export function modelOf(build: Build, options: ModelOptions, all: readonly Need[] = needsOf(build)): Model {
  const needs = options.only ? all.filter((need) => options.only!.has(need.id)) : all;
  const everyPin = build.ecu.pins.filter((pin) => !isFixedPin(pin));
  const pinById = new Map(everyPin.map((pin) => [pin.id, pin]));
  const fixed = options.locksAsRows ? new Map<string, Pin>() : settled(build, needs, pinById, options.keep);
  const never = options.ignoreNever ? () => false : barredPins(build);
  const taken = new Set([...fixed.values()].map((pin) => pin.id));
  const locked = new Set(options.locksAsRows ? build.locked : []);
  const pins = everyPin.filter(
    (pin) =>
      !taken.has(pin.id) &&
      (!never(null, pin.id) || (locked.size > 0 && build.locked.some((id) => build.assignments[id] === pin.id))),
  );
  const index = new Map(pins.map((pin, i) => [pin.id, i]));
  const offered = offers(pins);

  const grouped = new Map<string, Need[]>();
  const rows: Row[] = [];
  for (const need of needs) {
    if (fixed.has(need.id)) continue;
    const group = need.pair === null ? undefined : grouped.get(need.pair);
    if (group) group.push(need);
    else {
      const own = [need];
      rows.push({ needs: own });
      if (need.pair !== null) grouped.set(need.pair, own);
    }
  }
  const home = new Map([...homes(pins, fixed, needs, offered), ...(options.homes ?? [])]);
  const start = new Int32Array(rows.length + 1);
  const columns: number[] = [];
  const costs: number[] = [];
  const minors: number[] = [];
  const members = new Map<number, Int32Array>();
  const price = (need: Need, rank: number, pin: number, ability: Ability, versatile: number): [number, number] => {
    const id = pins[pin].id;
    const present = build.assignments[need.id];
    let cost = outputMiss(need, ability) ? WEIGHT.output : 0;
    if (present !== undefined && present !== id) {
      if (isCrimped(build, need, present)) cost += WEIGHT.crimped;
      if (options.keep !== 'locked') cost += WEIGHT.move;
    }
    const wanted = need.deviceId === null ? undefined : home.get(need.deviceId);
    const away = wanted !== undefined && wanted !== pins[pin].connector ? MINOR.away : 0;
    return [cost, versatile * MINOR.versatile + away + (pin + 1) * (rows.length - rank)];
  };
  const add = (row: number, at: readonly number[], cost: number, minor: number) => {
    if (at.length > 1) members.set(columns.length, Int32Array.from(at));
    columns.push(at[0]);
    costs.push(cost);
    minors.push(minor);
    start[row + 1] += 1;
  };
  rows.forEach((row, rank) => {
    if (row.needs.some((need) => locked.has(need.id))) {
      const at = row.needs.map((need) => index.get(build.assignments[need.id] ?? ''));
      if (at.every((pin) => pin !== undefined)) add(rank, at as number[], 0, 0);
      return;
    }
    if (row.needs[0].pair === null) {
      const [need] = row.needs;
      for (const { pin, ability, versatile } of offered(need.ask)) {
        if (never(need.id, pins[pin].id)) continue;
        const [cost, minor] = price(need, rank, pin, ability, versatile);
        add(rank, [pin], cost, minor);
      }
      return;
    }
    for (const choice of pairChoices(row, pins, offered)) {
      if (row.needs.some((need, i) => never(need.id, pins[choice.pins[i]].id))) continue;
      let [cost, minor] = [0, 0];
      row.needs.forEach((need, i) => {
        const pin = choice.pins[i];
        const { ability } = serve(pins[pin], need.ask);
        const [one, two] = price(need, rank, pin, ability!, 0);
        cost += one;
        minor += two;
      });
      add(rank, choice.pins, cost, minor + Math.min(MOST_VERSATILE, choice.versatile) * MINOR.versatile);
    }
  });
  for (let row = 0; row < rows.length; row += 1) start[row + 1] += start[row];
  const byId = new Map(needs.map((need) => [need.id, need]));
  return {
    pins,
    rows,
    start,
    column: Int32Array.from(columns),
    cost: Float64Array.from(costs),
    minor: Float64Array.from(minors),
    members,
    limits: limitsOf(
      build.ecu.groups.filter((group) => !options.without?.has(group.name)),
      index,
      fixed,
      byId,
    ),
    fixed,
  };
}
