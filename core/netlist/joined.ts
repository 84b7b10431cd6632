import type { Build } from '../build/schema';
import type { Wanted } from '../ecu/ask';
import type { EndKey } from '../ends/ends';
import type { Need } from './needs';

/*
 * Parts of one kind that hang on one output: injectors that an ECU of few outputs opens together, triggers of coils that
 * fire together, two solenoids. One need leads and has the pin; the others are its members. (Common practice.)
 */

/** A further terminal on the output of a need. */
export interface Member {
  /** What its need is called when it stands alone. */
  readonly id: string;
  readonly label: string;
  readonly end: EndKey;
  readonly deviceId: string;
}

/** Outputs that work what hangs on them together; an input, a pair or a relay's winding has a pin of its own. */
const joinable: ReadonlySet<Wanted['kind']> = new Set([
  'injector',
  'ignition-logic',
  'ignition-driver',
  'low-side',
  'high-side',
]);
export const canJoin = (need: Pick<Need, 'ask' | 'pair' | 'deviceId' | 'protection'>): boolean =>
  joinable.has(need.ask.kind) && need.pair === null && need.deviceId !== null && need.protection === null;
export const canShare = (one: Need, other: Need): boolean =>
  one.id !== other.id && canJoin(one) && canJoin(other) && one.ask.kind === other.ask.kind;

/** What the terminals ask of their output together: amperes add up, ohms stand in parallel. */
function askOfAll(asks: readonly Wanted[]): Wanted {
  const sum = (of: (ask: Wanted) => number | undefined) =>
    asks.reduce<number | undefined>((all, ask) => {
      const one = of(ask);
      return one === undefined ? all : (all ?? 0) + one;
    }, undefined);
  const most = (values: readonly (number | undefined)[]) =>
    values.reduce((all, one) => (one === undefined ? all : Math.max(all ?? one, one)), undefined);
  const [amps, siemens] = [sum((ask) => ask.amps), sum((ask) => ask.ohms && 1 / ask.ohms)];
  const ohms = asks.flatMap((ask) => ask.ohms ?? []);
  const hz = most(asks.map((ask) => ask.hz));
  return {
    ...asks[0]!,
    ...(amps === undefined ? {} : { amps: Math.round(amps * 1000) / 1000 }),
    ...(siemens === undefined ? {} : { ohms: Math.min(...ohms), parallelOhms: Math.round(100 / siemens) / 100 }),
    ...(hz === undefined ? {} : { hz }),
  };
}

/** `Injector 1 + 4`: what the names share is said once. */
function labelOfAll(labels: readonly string[]): string {
  const parts = labels.map((label) => /^(.*) (\S+)$/.exec(label));
  const [first] = parts;
  return first && parts.every((part) => part?.[1] === first[1])
    ? `${first[1]} ${parts.map((part) => part![2]).join(' + ')}`
    : labels.join(' + ');
}

function joinedNeed(lead: Need, others: readonly Need[]): Need {
  const all = [lead, ...others];
  const sameRow = others.every(({ row }) => row === lead.row);
  return {
    ...lead,
    label: labelOfAll(all.map(({ label }) => label)),
    ask: askOfAll(all.map(({ ask }) => ask)),
    serves: [...new Set(all.flatMap(({ serves }) => serves))].sort((one, other) => one - other),
    // What is right for each of them is right for all.
    outputs: all.some(({ outputs }) => outputs === null)
      ? null
      : sameRow
        ? lead.outputs!.filter((output) => others.every(({ outputs }) => outputs!.includes(output)))
        : [],
    joined: others.map(({ id, label, end, deviceId }) => ({ id, label, end, deviceId: deviceId! })),
  };
}

/** Needs with those that were joined on one output made one; a join that names nothing of the build is passed over. */
export function folded(build: Pick<Build, 'joined'>, needs: Need[]): Need[] {
  if (Object.keys(build.joined).length === 0) return needs;
  const byId = new Map(needs.map((need) => [need.id, need]));
  const leadOf = (need: Need): Need | null => {
    const lead = byId.get(build.joined[need.id] ?? '');
    return lead && !byId.has(build.joined[lead.id] ?? '') && canShare(need, lead) ? lead : null;
  };
  const members = new Map<Need, Need[]>();
  for (const need of needs) {
    const lead = leadOf(need);
    if (lead) members.set(lead, [...(members.get(lead) ?? []), need]);
  }
  return needs.flatMap((need) => {
    if (leadOf(need)) return [];
    const others = members.get(need);
    return others ? [joinedNeed(need, others)] : [need];
  });
}
