import type { Build } from '../build/schema';
import { askWords, kindWord, missSentence, serve } from '../ecu/ask';
import { isFixedPin, type AbilityKind, type Pin } from '../ecu/ecu';
import { needsOf, type Need } from '../netlist/needs';
import { listWords, plural, withArticle } from '../units/format';
import { FORBIDDEN, assign } from './assignment';

export interface Unserved {
  readonly needId: string;
  /** One sentence: why no pin is left for it. */
  readonly reason: string;
  /** Needs that compete for the same pins, this one among them, and those pins: |needs| > |pins|. */
  readonly rivals: readonly string[];
  readonly pins: readonly string[];
}

export interface Spare {
  readonly kind: AbilityKind;
  readonly pins: readonly string[];
}

export interface Allotment {
  readonly status: 'solved' | 'infeasible';
  readonly assignments: readonly { readonly needId: string; readonly pinId: string }[];
  readonly unserved: readonly Unserved[];
  readonly spares: readonly Spare[];
}

export interface AllotOptions {
  /** `placed` keeps every placement that still fits; `locked` keeps only locked ones and may move the rest. */
  readonly keep: 'placed' | 'locked';
}

/** Costs in order of weight: another output's number, leaving the present pin, using a versatile pin. */
const COST = { otherOutput: 1000, move: 30, ability: 4, spread: 1 } as const;

function pairCost(need: Need, pin: Pin, present: string | undefined): number {
  const served = serve(pin, need.ask);
  if (served.ability === null) return FORBIDDEN;
  const { ability } = served;
  let cost = (pin.abilities.length - 1) * COST.ability + pin.abilities.indexOf(ability) * COST.ability;
  if (need.output !== null && ability.output !== undefined && ability.output !== need.output) cost += COST.otherOutput;
  if (present !== undefined && present !== pin.id) cost += COST.move;
  // An analog pin with a pull-up is kept for those who ask for one.
  if (need.ask.kind === 'analog' && need.ask.pullUp !== true && ability.pullUpOhms !== undefined) cost += COST.ability;
  // Strong or fast outputs are kept for needs that ask for it.
  if (need.ask.kind === 'low-side') cost += COST.spread * ((ability.maxHz ?? 0) > (need.ask.hz ?? 0) ? 2 : 0);
  return cost;
}

interface PairGroup {
  readonly needs: readonly Need[];
  readonly name: string;
}

/** Ways to put a paired group on a whole pair of free pins, cheapest first. */
function pairPlacements(group: PairGroup, free: readonly Pin[], present: Build['assignments']): Map<string, Pin>[] {
  const byPair = new Map<string, Pin[]>();
  for (const pin of free) if (pin.pair) byPair.set(pin.pair, [...(byPair.get(pin.pair) ?? []), pin]);
  const found: { cost: number; placement: Map<string, Pin> }[] = [];
  for (const pins of byPair.values()) {
    const cost = new Float64Array(group.needs.length * pins.length);
    group.needs.forEach((need, i) =>
      pins.forEach((pin, j) => (cost[i * pins.length + j] = pairCost(need, pin, present[need.id]))),
    );
    const solved = assign(cost, group.needs.length, pins.length);
    if (solved.columnOf.every((column) => column >= 0))
      found.push({
        cost: solved.total,
        placement: new Map(group.needs.map((need, i) => [need.id, pins[solved.columnOf[i]]])),
      });
  }
  return found.sort((a, b) => a.cost - b.cost).map((entry) => entry.placement);
}

/** Costs of needs on pins; needs that ask the same share their row, so that a large build is priced once an ask. */
function costMatrix(needs: readonly Need[], pins: readonly Pin[], present: Build['assignments']): Float64Array {
  const cost = new Float64Array(needs.length * pins.length);
  const rows = new Map<string, Float64Array>();
  needs.forEach((need, i) => {
    const key = `${JSON.stringify(need.ask)} ${need.output}`;
    const row = rows.get(key) ?? Float64Array.from(pins, (pin) => pairCost(need, pin, undefined));
    rows.set(key, row);
    cost.set(row, i * pins.length);
    if (present[need.id] === undefined) return;
    for (let j = 0; j < pins.length; j += 1)
      if (row[j] < FORBIDDEN && pins[j].id !== present[need.id]) cost[i * pins.length + j] += COST.move;
  });
  return cost;
}

/** Solves the single needs on the free pins. */
const placeSingles = (needs: readonly Need[], pins: readonly Pin[], present: Build['assignments']) =>
  assign(costMatrix(needs, pins, present), needs.length, pins.length);

interface Outcome {
  readonly placed: Map<string, Pin>;
  readonly unplaced: readonly Need[];
  readonly served: number;
  readonly total: number;
}

/** Tries pair placements depth first, at most `limit` leaves, and keeps the best: most needs served, then least cost. */
function search(
  groups: readonly PairGroup[],
  singles: readonly Need[],
  free: readonly Pin[],
  present: Build['assignments'],
  limit: number,
): Outcome {
  let best: Outcome | null = null;
  let leaves = 0;
  const walk = (
    index: number,
    left: readonly Pin[],
    placed: ReadonlyMap<string, Pin>,
    missing: readonly Need[],
    spent: number,
  ): void => {
    if (leaves >= limit) return;
    if (index === groups.length) {
      leaves += 1;
      const solved = placeSingles(singles, left, present);
      const all = new Map(placed);
      singles.forEach((need, i) => solved.columnOf[i] >= 0 && all.set(need.id, left[solved.columnOf[i]]));
      const unplaced = [...missing, ...singles.filter((need) => !all.has(need.id))];
      const outcome = { placed: all, unplaced, served: all.size, total: spent + solved.total };
      if (!best || outcome.served > best.served || (outcome.served === best.served && outcome.total < best.total))
        best = outcome;
      return;
    }
    const group = groups[index];
    const ways = pairPlacements(group, left, present);
    if (ways.length === 0) walk(index + 1, left, placed, [...missing, ...group.needs], spent);
    for (const way of ways) {
      const used = new Set([...way.values()].map((pin) => pin.id));
      const cost = group.needs.reduce((sum, need) => sum + pairCost(need, way.get(need.id)!, present[need.id]), 0);
      walk(
        index + 1,
        left.filter((pin) => !used.has(pin.id)),
        new Map([...placed, ...way]),
        missing,
        spent + cost,
      );
    }
  };
  walk(0, free, new Map(), [], 0);
  return best!;
}

/** Needs and pins reachable from an unserved need by alternating paths: a set that violates Hall's condition. */
function rivalsOf(
  need: Need,
  needs: readonly Need[],
  pins: readonly Pin[],
  placed: ReadonlyMap<string, Pin>,
): { rivals: Need[]; pins: Pin[] } {
  const holder = new Map([...placed].map(([needId, pin]) => [pin.id, needs.find((other) => other.id === needId)]));
  const rivals = [need];
  const seenPins = new Set<string>();
  const reached: Pin[] = [];
  for (let head = 0; head < rivals.length; head += 1)
    for (const pin of pins) {
      if (seenPins.has(pin.id) || serve(pin, rivals[head].ask).ability === null) continue;
      seenPins.add(pin.id);
      reached.push(pin);
      const holds = holder.get(pin.id);
      if (holds && !rivals.includes(holds)) rivals.push(holds);
    }
  return { rivals, pins: reached };
}

function reasonFor(
  need: Need,
  needs: readonly Need[],
  pins: readonly Pin[],
  placed: ReadonlyMap<string, Pin>,
): Unserved {
  if (need.pair !== null) {
    const whole = pins.filter((pin) => pin.pair && serve(pin, need.ask).ability);
    const reason =
      whole.length === 0
        ? `This ECU has no ${askWords(need.ask)}.`
        : `Every ${askWords(need.ask)} of this ECU is taken (${listWords(whole.map((pin) => pin.id))}).`;
    return { needId: need.id, reason, rivals: [need.id], pins: whole.map((pin) => pin.id) };
  }
  const { rivals, pins: able } = rivalsOf(need, needs, pins, placed);
  if (able.length === 0) {
    const near = pins
      .map((pin) => ({ pin, served: serve(pin, need.ask) }))
      .find(({ served }) => served.miss && served.miss.code !== 'kind');
    const hint = near?.served.miss ? `: ${near.pin.id} ${missSentence(near.served.miss, need.ask)}` : '';
    return {
      needId: need.id,
      reason: `No pin is ${withArticle(askWords(need.ask))}${hint}.`,
      rivals: [need.id],
      pins: [],
    };
  }
  const reason = `${plural(rivals.length, 'need')} ask for ${askWords(need.ask)} or the like; only ${plural(able.length, 'pin')} can: ${listWords(able.map((pin) => pin.id))}.`;
  return { needId: need.id, reason, rivals: rivals.map((rival) => rival.id), pins: able.map((pin) => pin.id) };
}

/** Pins no need holds, by what they are first of all. */
export function sparesOf(build: Build): Spare[] {
  const valid = new Set(needsOf(build).map((need) => need.id));
  const taken = new Set(
    Object.entries(build.assignments).flatMap(([needId, pinId]) => (valid.has(needId) ? [pinId] : [])),
  );
  const kinds = new Map<AbilityKind, string[]>();
  for (const pin of build.ecu.pins) {
    if (isFixedPin(pin) || taken.has(pin.id)) continue;
    const { kind } = pin.abilities[0];
    kinds.set(kind, [...(kinds.get(kind) ?? []), pin.id]);
  }
  return [...kinds].map(([kind, pins]) => ({ kind, pins }));
}

/** `1 logic ignition output, 2 switch inputs` */
export const spareWords = (spares: readonly Spare[]): string =>
  spares.map(({ kind, pins }) => plural(pins.length, kindWord(kind))).join(', ');

/**
 * Serves as many needs as the pins allow, at the least cost, pairs kept whole, locked needs left alone.
 * Exact while paired groups have at most `limit` placements together (2,000); deterministic always.
 */
export function allot(build: Build, options: AllotOptions): Allotment {
  const needs = needsOf(build);
  const pins = build.ecu.pins.filter((pin) => !isFixedPin(pin));
  const pinById = new Map(pins.map((pin) => [pin.id, pin]));
  const locked = new Set(build.locked);
  const kept = new Map<string, Pin>();
  const taken = new Set<string>();
  for (const need of needs) {
    const pin = pinById.get(build.assignments[need.id] ?? '');
    if (!pin || taken.has(pin.id)) continue;
    const stays = locked.has(need.id) || (options.keep === 'placed' && serve(pin, need.ask).ability !== null);
    if (!stays) continue;
    kept.set(need.id, pin);
    taken.add(pin.id);
  }
  const open = needs.filter((need) => !kept.has(need.id));
  const free = pins.filter((pin) => !taken.has(pin.id));
  const groups = new Map<string, Need[]>();
  for (const need of open) if (need.pair) groups.set(need.pair, [...(groups.get(need.pair) ?? []), need]);
  const outcome = search(
    [...groups].map(([name, members]) => ({ name, needs: members })),
    open.filter((need) => need.pair === null),
    free,
    build.assignments,
    2000,
  );
  const placed = new Map([...kept, ...outcome.placed]);
  const assignments = needs.flatMap((need) => {
    const pin = placed.get(need.id);
    return pin ? [{ needId: need.id, pinId: pin.id }] : [];
  });
  return {
    status: outcome.unplaced.length === 0 ? 'solved' : 'infeasible',
    assignments,
    unserved: outcome.unplaced.map((need) => reasonFor(need, needs, pins, placed)),
    spares: sparesOf({
      ...build,
      assignments: Object.fromEntries(assignments.map(({ needId, pinId }) => [needId, pinId])),
    }),
  };
}

/** Why a need has no pin now, without moving anything; `null` when it has one. */
export function whyOpen(build: Build, needId: string): Unserved | null {
  const needs = needsOf(build);
  const need = needs.find((candidate) => candidate.id === needId);
  if (!need || build.assignments[needId] !== undefined) return null;
  const pins = build.ecu.pins.filter((pin) => !isFixedPin(pin));
  const pinById = new Map(pins.map((pin) => [pin.id, pin]));
  const placed = new Map(
    needs.flatMap((other) => {
      const pin = pinById.get(build.assignments[other.id] ?? '');
      return pin ? [[other.id, pin] as const] : [];
    }),
  );
  const used = new Set([...placed.values()].map((pin) => pin.id));
  const fits = pins.filter((pin) => !used.has(pin.id) && serve(pin, need.ask).ability !== null);
  if (fits.length > 0)
    return {
      needId,
      reason: `Not placed yet: ${listWords(fits.map((pin) => pin.id))} would do.`,
      rivals: [needId],
      pins: fits.map((pin) => pin.id),
    };
  return reasonFor(need, needs, pins, placed);
}
