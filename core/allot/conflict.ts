import type { Build } from '../build/schema';
import { askWords, missSentence, serve, type Ask } from '../ecu/ask';
import { isFixedPin, pinsOfGroup, type PinGroup } from '../ecu/ecu';
import { needsOf, type Need } from '../netlist/needs';
import { groupBy } from '../data/group';
import { listWords, plural, withArticle } from '../units/format';
import { unitsOf } from './spares';
import { barredPins, modelOf, pulses, type Model, type ModelOptions } from './model';
import { pinsOfEdge, placements, solve } from './solve';

/** A set of needs that cannot all be served though every smaller part of it can, in words. */
export interface Conflict {
  /** Needs, in the order of the build. Leaving out any one of them makes the rest possible. */
  readonly needs: readonly string[];
  /** Other needs without a pin for the same reason: each of them could stand for one of the set. */
  readonly more: readonly string[];
  /** Pins that could take at least one of them. */
  readonly pins: readonly string[];
  /** Locked needs among them. */
  readonly locked: readonly string[];
  /** Groups of the ECU without which they could be served. */
  readonly groups: readonly string[];
  /** True when 'never here' is part of the reason. */
  readonly never: boolean;
  readonly sentence: string;
}

/** True when all these needs can be served together, locked ones where they are. */
function feasible(
  build: Build,
  all: readonly Need[],
  ids: ReadonlySet<string>,
  options: Pick<ModelOptions, 'without' | 'ignoreNever'> = {},
): boolean {
  const model = modelOf(build, { keep: 'locked', only: ids, locksAsRows: true, ...options }, all);
  // Cheap first: a row without any pin.
  if (model.rows.some((_, row) => model.start[row] === model.start[row + 1])) return false;
  const solved = solve(model);
  return solved!.edgeOf.every((edge) => edge >= 0);
}

const sameAsk = (one: Need, other: Need): boolean => JSON.stringify(one.ask) === JSON.stringify(other.ask);

/** `PWM outputs of 30 Hz or more` */
function manyWords(ask: Ask): string {
  const words = askWords(ask);
  const at = words.search(/ (of|with|without) /);
  const [head, tail] = at < 0 ? [words, ''] : [words.slice(0, at), words.slice(at)];
  return `${head}${head.endsWith('s') ? '' : 's'}${tail}`;
}

/** What belongs together is a pair of two wires, or a set of more. */
const unitWord = (kind: Ask['kind']): string => (kind === 'stepper' || kind === 'wideband' ? 'set' : 'pair');

function sentenceOf(
  build: Build,
  members: readonly Need[],
  pins: readonly string[],
  groups: readonly PinGroup[],
  locked: readonly Need[],
  never: boolean,
): string {
  const parts: string[] = [];
  const byAsk = new Map<string, Need[]>();
  for (const need of members) {
    const key = askWords(need.ask);
    byAsk.set(key, [...(byAsk.get(key) ?? []), need]);
  }
  if (members.length === 1 || (pins.length === 0 && new Set(members.map(({ pair }) => pair)).size === 1)) {
    const need = members[0]!;
    if (pins.length === 0) {
      const near = build.ecu.pins
        .map((pin) => ({ pin, served: serve(pin, need.ask) }))
        .find(({ served }) => served.miss && served.miss.code !== 'kind');
      const hint = near?.served.miss ? `: ${near.pin.id} ${missSentence(near.served.miss, need.ask)}` : '';
      return need.pair === null
        ? `No pin is ${withArticle(askWords(need.ask))}${hint}.`
        : `This ECU has no ${askWords(need.ask)}${hint}.`;
    }
    parts.push(`${need.label} could only go to ${listWords(pins)}.`);
  } else if (byAsk.size === 1) {
    // What works by pairs is counted by pairs, on both sides.
    const paired = members.every(({ pair }) => pair !== null);
    const asking = paired ? new Set(members.map(({ pair }) => pair)).size : members.length;
    const able = paired
      ? plural(unitsOf(build.ecu, members[0]!.ask.kind, pins), unitWord(members[0]!.ask.kind))
      : plural(pins.length, 'pin');
    parts.push(
      `${plural(asking, paired ? 'device' : 'need')} ask for ${manyWords(members[0]!.ask)}; only ${able} can: ${listWords(pins)}.`,
    );
  } else
    parts.push(
      `${plural(members.length, 'need')} compete for ${plural(pins.length, 'pin')} (${listWords(pins)}): ${listWords(
        [...byAsk.values()].map(
          (own) => `${own.length} for ${own.length === 1 ? askWords(own[0]!.ask) : manyWords(own[0]!.ask)}`,
        ),
      )}.`,
    );
  for (const group of groups) {
    if (group.type === 'timer') {
      const speeds = members.filter((need) => pulses(need.ask)).map((need) => `${need.label} ${need.ask.hz} Hz`);
      parts.push(`${group.name} (${listWords(group.pins)}) runs at one frequency: ${listWords(speeds)}.`);
    } else if (group.type === 'budget')
      parts.push(
        `${group.name} (${listWords(group.pins)}) carries ${group.amps} A together; ${members.reduce((sum, { ask }) => sum + (ask.amps ?? 0), 0).toFixed(1)} A are asked.`,
      );
    else parts.push(`${group.name}: ${group.sides.map((side) => listWords(side)).join(' or ')}, not both.`);
  }
  if (locked.length > 3) parts.push(`${locked.length} of them are locked where they are.`);
  else if (locked.length > 0)
    parts.push(`${listWords(locked.map((need) => `${need.label} is locked on ${build.assignments[need.id]}`))}.`);
  if (never) parts.push("A pin that would do is marked 'never here'.");
  return parts.join(' ');
}

/** The whole pair of each need, so that half a pair is never left. */
const withPairs = (all: readonly Need[], ids: ReadonlySet<string>): Set<string> => {
  const pairs = new Set(all.flatMap((need) => (ids.has(need.id) && need.pair !== null ? [need.pair] : [])));
  return new Set(
    all.filter((need) => ids.has(need.id) || (need.pair !== null && pairs.has(need.pair))).map(({ id }) => id),
  );
};

/** Groups of the ECU without which the set could be served: each that would do alone, else those that must go together. */
function freeing(build: Build, all: readonly Need[], ids: ReadonlySet<string>): PinGroup[] {
  const { groups } = build.ecu;
  const served = (gone: readonly PinGroup[]) =>
    feasible(build, all, ids, { without: new Set(gone.map((group) => group.name)) });
  const alone = groups.filter((group) => served([group]));
  if (alone.length > 0 || groups.length < 2 || !served(groups)) return alone;
  let kept = [...groups];
  for (const group of groups) {
    const without = kept.filter((one) => one !== group);
    if (served(without)) kept = without;
  }
  return kept;
}

function describe(
  build: Build,
  all: readonly Need[],
  ids: ReadonlySet<string>,
  moreIds: ReadonlySet<string>,
): Conflict {
  const members = all.filter((need) => ids.has(need.id) || moreIds.has(need.id));
  const pins = pinsFor(build, all, ids);
  const groups = freeing(build, all, ids);
  const locked = members.filter((need) => build.locked.includes(need.id));
  const byNever = build.never.length > 0 && feasible(build, all, ids, { ignoreNever: true });
  return {
    needs: members.filter((need) => ids.has(need.id)).map((need) => need.id),
    more: [...moreIds],
    pins,
    locked: locked.map((need) => need.id),
    groups: groups.map((group) => group.name),
    never: byNever,
    sentence: sentenceOf(build, members, pins, groups, locked, byNever),
  };
}

/** Pins that could take at least one of these needs, those locked for others left out. */
function pinsFor(build: Build, all: readonly Need[], ids: ReadonlySet<string>): string[] {
  const members = all.filter((need) => ids.has(need.id));
  const never = barredPins(build);
  const lockedPins = new Set(build.locked.flatMap((id) => (ids.has(id) ? [] : (build.assignments[id] ?? []))));
  return build.ecu.pins
    .filter(
      (pin) =>
        !isFixedPin(pin) &&
        !never(null, pin.id) &&
        !lockedPins.has(pin.id) &&
        members.some((need) => serve(pin, need.ask).ability && !never(need.id, pin.id)),
    )
    .map((pin) => pin.id);
}

/**
 * Leaves needs out one by one as long as the rest stays impossible: what remains is minimal, by the exact solver.
 * Pairs count as one. O(needs of the set) solutions of at most that size.
 */
function minimal(
  build: Build,
  all: readonly Need[],
  start: ReadonlySet<string>,
  own: ReadonlySet<string>,
): Set<string> {
  let kept = withPairs(all, start);
  const units = new Map<string, string[]>();
  for (const need of all)
    if (kept.has(need.id)) units.set(need.pair ?? need.id, [...(units.get(need.pair ?? need.id) ?? []), need.id]);
  // The ones that are asked about are left out last: what remains speaks of them if anything does.
  const order = [...units.values()].sort((one, other) => Number(own.has(one[0]!)) - Number(own.has(other[0]!)));
  for (const unit of order) {
    const without = new Set([...kept].filter((id) => !unit.includes(id)));
    if (without.size > 0 && !feasible(build, all, without)) kept = without;
  }
  return kept;
}

const isSame = (one: ReadonlySet<string>, other: ReadonlySet<string>): boolean =>
  one.size === other.size && [...one].every((id) => other.has(id));

/**
 * Why some needs have no pin: a minimal set that holds them. Others may be impossible by themselves, such as locks that overdraw
 * a budget; those are set aside, and where nothing else stands in the way they are the reason.
 */
function reasonFor(
  build: Build,
  all: readonly Need[],
  start: ReadonlySet<string>,
  own: ReadonlySet<string>,
): Set<string> {
  let rest = new Set([...start, ...own]);
  for (;;) {
    const ids = minimal(build, all, rest, own);
    if ([...ids].some((id) => own.has(id))) return ids;
    rest = new Set([...rest].filter((id) => !ids.has(id)));
    if (feasible(build, all, withPairs(all, rest))) return ids;
  }
}

/**
 * Where nothing but single needs and pins is involved: needs reached from an open one by alternating paths. They outnumber
 * the pins they can go to by exactly one, and each of them could give its pin to the open one, so the set is minimal
 * (P. Hall, "On representatives of subsets", J. London Math. Soc. 10, 1935). Null when a pair or a group has a say.
 */
function alternating(model: Model, edgeOf: Int32Array, row: number): Set<string> | null {
  const holder = new Map<number, number>();
  edgeOf.forEach((edge, own) => {
    if (edge >= 0) for (const pin of pinsOfEdge(model, edge)) holder.set(pin, own);
  });
  const tied = new Set(
    model.limits.flatMap((limit) =>
      limit.type === 'either' ? limit.sides.flatMap((side) => [...side]) : [...limit.pins],
    ),
  );
  const rows = [row];
  const seen = new Set(rows);
  for (let head = 0; head < rows.length; head += 1) {
    if (model.rows[rows[head]!]!.needs[0]!.pair !== null) return null;
    for (let edge = model.start[rows[head]!]!; edge < model.start[rows[head]! + 1]!; edge += 1) {
      const pin = model.column[edge]!;
      if (tied.has(pin)) return null;
      const other = holder.get(pin);
      if (other === undefined) return null;
      if (seen.has(other)) continue;
      seen.add(other);
      rows.push(other);
    }
  }
  return new Set(rows.map((one) => model.rows[one]!.needs[0]!.id));
}

/** Needs that can be reached from one by pins both could use: where its conflict must lie. */
function around(build: Build, all: readonly Need[], from: Need): Set<string> {
  const able = new Map(
    all.map((need) => [need.id, build.ecu.pins.filter((pin) => serve(pin, need.ask).ability).map((pin) => pin.id)]),
  );
  const byPin = new Map<string, string[]>();
  for (const [id, pins] of able) for (const pin of pins) byPin.set(pin, [...(byPin.get(pin) ?? []), id]);
  const partners = groupBy(
    all.filter((need) => need.pair !== null),
    (need) => need.pair!,
  );
  const pairOf = new Map(all.map((need) => [need.id, need.pair]));
  const tied = new Map<string, string[]>();
  for (const group of build.ecu.groups)
    for (const pin of pinsOfGroup(group)) tied.set(pin, [...(tied.get(pin) ?? []), ...pinsOfGroup(group)]);
  const locked = new Set(build.locked);
  const lockedOn = groupBy(
    [...locked].filter((id) => build.assignments[id] !== undefined),
    (id) => build.assignments[id],
  );
  const reached = new Set([from.id]);
  const queue = [from.id];
  const seen = new Set<string>();
  const reach = (id: string) => {
    if (reached.has(id)) return;
    reached.add(id);
    queue.push(id);
  };
  const visit = (pin: string) => {
    if (seen.has(pin)) return;
    seen.add(pin);
    for (const id of byPin.get(pin) ?? []) reach(id);
    // A locked need holds its pin though it may not be able to serve it.
    for (const id of lockedOn.get(pin) ?? []) reach(id);
    for (const other of tied.get(pin) ?? []) visit(other);
  };
  for (let head = 0; head < queue.length; head += 1) {
    const id = queue[head]!;
    for (const pin of able.get(id) ?? []) visit(pin);
    if (locked.has(id) && build.assignments[id] !== undefined) visit(build.assignments[id]);
    // A pair is placed together: what stands in the way of the one half stands in the way of both.
    const pair = pairOf.get(id) ?? null;
    if (pair !== null) for (const other of partners.get(pair) ?? []) reach(other.id);
  }
  return reached;
}

/**
 * Every separate reason why the needs of a build cannot all be served, each as a minimal set. Locked needs stay; placed ones
 * are thought of as free to move. Empty when all can be served.
 */
export function conflictsOf(build: Build, all: readonly Need[] = needsOf(build)): Conflict[] {
  const model = modelOf(build, { keep: 'locked', locksAsRows: true }, all);
  const solved = solve(model)!;
  const open = [...model.rows.keys()].filter((row) => solved.edgeOf[row]! < 0);
  const lost = new Set(open.flatMap((row) => model.rows[row]!.needs.map((need) => need.id)));
  const found: { ids: Set<string>; more: Set<string>; key: string }[] = [];
  const byId = new Map(all.map((need) => [need.id, need]));
  for (const row of open) {
    const { needs } = model.rows[row]!;
    // One that asks the same as a single need of a set is in the same bind.
    const alike = found.find(({ ids }) =>
      [...ids].some(
        (id) =>
          byId.get(id)!.pair === null &&
          needs[0]!.pair === null &&
          sameAsk(byId.get(id)!, needs[0]!) &&
          !build.locked.includes(id),
      ),
    );
    if (alike) {
      alike.more.add(needs[0]!.id);
      continue;
    }
    const direct = alternating(model, solved.edgeOf, row);
    if (direct) {
      const key = pinsFor(build, all, direct).join(' ');
      const same = found.find((one) => one.key === key && key !== '');
      if (same) same.more.add(needs[0]!.id);
      else found.push({ ids: direct, more: new Set(), key });
      continue;
    }
    explain(needs, lost);
  }
  // With the locks where they are, more may be without a pin than when a lock that cannot serve is thought of as open.
  const kept = modelOf(build, { keep: 'locked' }, all);
  const placed = placements(kept, solve(kept)!);
  const told = () => new Set(found.flatMap(({ ids, more }) => [...ids, ...more]));
  const without = all.filter((need) => !placed.has(need.id) && !kept.fixed.has(need.id));
  // A lock that cannot serve is no row that could be given up: it is a reason, with the other half of its pair.
  const held = withPairs(all, new Set(build.locked));
  const absent = new Set(without.flatMap(({ id }) => (held.has(id) ? [] : [id])));
  for (const need of without) if (!told().has(need.id)) explain([need], absent);
  return found.map(({ ids, more }) => describe(build, all, ids, more));

  function explain(needs: readonly Need[], absent: ReadonlySet<string>): void {
    const near = around(build, all, needs[0]!);
    const start = new Set(all.flatMap(({ id }) => (near.has(id) && !absent.has(id) ? [id] : [])));
    for (const need of needs) start.add(need.id);
    const own = withPairs(all, new Set(needs.map(({ id }) => id)));
    const reason = reasonFor(build, all, start, own);
    const key = pinsFor(build, all, reason).join(' ');
    const same = found.find((one) => (one.key === key && key !== '') || isSame(one.ids, reason));
    const entry = same ?? { ids: reason, more: new Set<string>(), key };
    if (!same) found.push(entry);
    for (const id of own) if (!entry.ids.has(id)) entry.more.add(id);
  }
}

/** Placements that serve as many as can be with everything but locks free to move. */
export function bestServed(build: Build, all: readonly Need[] = needsOf(build)): Map<string, string> {
  const model = modelOf(build, { keep: 'most' }, all);
  return placements(model, solve(model)!);
}
