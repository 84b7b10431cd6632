import { terminalId } from '../ends/ends';
import { groupBy } from '../data/group';
import { withId } from '../data/with-id';
import { applyEdit, call, type EditCall } from '../edits';
import { proposedJoins } from '../edits/joins';
import type { Build } from '../build/schema';
import { trait, type DeviceKind } from '../devices/kind';
import { kindWord } from '../ecu/ask';
import { isFixedPin, pinsOfKind, type EcuDefinition } from '../ecu/ecu';
import { destinationOf } from '../build/destination';
import { needsOf, separateNeeds, type Need } from '../netlist/needs';
import { folded } from '../netlist/joined';
import { listWords, plural } from '../units/format';
import { bestServed, conflictsOf, type Conflict } from '../allot/conflict';
import { isCrimped } from '../allot/in-place';

/** What may be called in when the ECU alone does not do. */
export interface Help {
  readonly kinds: readonly DeviceKind[];
  readonly ecus: readonly EcuDefinition[];
}

export interface WayOut {
  readonly code:
    | 'move'
    | 'unlock'
    | 'lift-never'
    | 'key-feed'
    | 'pull-up'
    | 'join'
    | 'on-off'
    | 'relay'
    | 'can-module'
    | 'next-ecu'
    | 'leave-out';
  readonly label: string;
  /** What it costs and what to mind, in a sentence. */
  readonly detail: string;
  readonly calls: readonly EditCall[];
  /** Needs served more than now. */
  readonly gains: number;
  readonly servesAll: boolean;
  /** Placed needs that move, and how many of those are crimped. */
  readonly moved: number;
  readonly recrimped: number;
  /** What they are ranked by: bench work, in rough hours of it (common practice). */
  readonly cost: number;
}

type Candidate = Pick<WayOut, 'code' | 'label' | 'detail' | 'calls'> & {
  readonly effort: number;
  /** Candidates with one key change needs that can stand for one another: what one gains, each does. */
  readonly alike?: string;
};

const REALLOT = call('allotAll', { keep: 'most' });

/** Loads a plain switch can work as well: those that are not regulated by their duty. */
const onOff = (need: Need): boolean => need.ask.kind === 'low-side' && (need.ask.hz ?? 0) > 0;

function terminalOf(build: Build, need: Need) {
  const device = withId(build.devices, need.deviceId);
  const kind = device && build.kinds[device.kindId];
  const terminal = kind?.terminals.find((one) => need.id === terminalId(device!.id, one.id));
  return device && kind && terminal ? { device, kind, terminal } : null;
}

const rewire = (
  build: Build,
  need: Need,
  destination: Parameters<typeof destinationOf>[1]['destination'],
): EditCall[] => {
  const at = terminalOf(build, need);
  return at ? [call('setDestination', { deviceId: at.device.id, terminalId: at.terminal.id, destination })] : [];
};

function simpler(build: Build, need: Need): Candidate[] {
  const found: Candidate[] = [];
  const at = terminalOf(build, need);
  if (!at) return found;
  if (onOff(need))
    found.push({
      code: 'on-off',
      label: `Switch ${need.label} on and off only`,
      detail: 'It is no longer regulated: right for a fan or a pump, wrong for a boost or idle valve.',
      calls: rewire(build, need, { to: 'pin', ask: { ...need.ask, hz: 0 } }),
      effort: 2,
    });
  if (need.ask.kind === 'analog' && need.ask.pullUp === true)
    found.push({
      code: 'pull-up',
      label: `Fit a pull-up resistor outside for ${need.label}`,
      detail: '2490 Ω from the signal to the 5 V supply, then a plain analog input does. Set the ECU to that resistor.',
      calls: [
        ...rewire(build, need, { to: 'pin', ask: { ...need.ask, pullUp: false } }),
        call('setPullUp', { deviceId: at.device.id, ohms: 2490 }),
      ],
      effort: 1.5,
    });
  // A load switched by the ECU becomes a load of a relay, whose winding the ECU switches.
  const feed = at.kind.terminals.find((terminal) => destinationOf(at.device, terminal).to === 'feed');
  const fed = feed && destinationOf(at.device, feed);
  if (need.ask.kind === 'low-side' && !onOff(need) && feed && fed?.to === 'feed' && fed.feed !== 'own')
    found.push({
      code: 'relay',
      label: `Put a relay between for ${need.label}`,
      detail: `The pin then carries a relay winding of 0.2 A instead of ${need.ask.amps ?? 0} A; the load gets a fuse and a feed of its own.`,
      calls: [
        call('setDestination', {
          deviceId: at.device.id,
          terminalId: feed.id,
          destination: { to: 'feed', feed: 'own', amps: fed.amps },
        }),
        ...rewire(build, need, { to: 'ground', place: 'chassis' }),
      ],
      effort: 2,
    });
  return found;
}

/** Slow signals a module on the bus can carry for the ECU. */
const slow = (need: Need): boolean =>
  need.deviceId !== null &&
  need.pair === null &&
  (need.ask.kind === 'analog' || need.ask.kind === 'switch' || (need.ask.kind === 'low-side' && !need.ask.hz));

/** Moves a need of the conflict onto a module: one that is fitted with channels left, or a new one. */
function byModule(build: Build, need: Need, kinds: readonly DeviceKind[]): Candidate[] {
  if (!slow(need)) return [];
  const fitted = build.devices.flatMap((device) => {
    const kind = build.kinds[device.kindId];
    return kind && trait(kind, 'module') ? [{ device, kind }] : [];
  });
  const channelsOf = (kind: DeviceKind) => trait(kind, 'module')?.channels ?? [];
  const offered = kinds.filter((kind) => trait(kind, 'module'));
  const fits = (channel: ReturnType<typeof channelsOf>[number]) =>
    channel.kind === need.ask.kind && (need.ask.amps ?? 0) <= (channel.maxAmps ?? Infinity);
  const free = fitted.flatMap(({ device, kind }) =>
    channelsOf(kind)
      .filter(fits)
      .filter((channel) => {
        const terminal = kind.terminals.find((one) => one.id === channel.terminal);
        return terminal && destinationOf(device, terminal).to === 'nothing';
      })
      .map((channel) => ({ device, channel })),
  )[0];
  const line = `m-${need.id}`
    .toLowerCase()
    .replace(/[^a-z0-9-]/g, '-')
    .slice(0, 24);
  const join = (deviceId: string, terminalId: string): EditCall[] => [
    ...rewire(build, need, { to: 'line', line }),
    call('setDestination', { deviceId, terminalId, destination: { to: 'line', line } }),
  ];
  if (free)
    return [
      {
        code: 'can-module',
        label: `Move ${need.label} to ${free.device.label}`,
        detail: `Its channel ${free.channel.terminal} is free. The signal then arrives over the bus, some milliseconds late.`,
        calls: join(free.device.id, free.channel.terminal),
        effort: 2,
      },
    ];
  const kind = offered.find((one) => channelsOf(one).some(fits));
  if (!kind) return [];
  const taken = new Set(build.devices.map((device) => device.id));
  let number = 1;
  while (taken.has(`${kind.id}-${number}`)) number += 1;
  const id = `${kind.id}-${number}`;
  return [
    {
      code: 'can-module',
      label: `Add a CAN module and move ${need.label} to it`,
      detail: `${kind.name}: it takes a CAN pair, a feed and a ground, and leaves channels for more. Not for injection, ignition or triggers.`,
      calls: [call('addDevice', { kind }), ...join(id, channelsOf(kind).find(fits)!.terminal)],
      effort: 8,
    },
  ];
}

function candidates(build: Build, conflict: Conflict, needs: readonly Need[], help: Help): Candidate[] {
  const members = needs.filter((need) => conflict.needs.includes(need.id) || conflict.more.includes(need.id));
  const found: Candidate[] = [];
  for (const need of members.filter(({ id }) => conflict.locked.includes(id)))
    found.push({
      code: 'unlock',
      label: `Unlock ${need.label} on ${build.assignments[need.id]}`,
      detail: 'Only your lock holds it there.',
      calls: [call('lock', { needId: need.id, locked: false })],
      effort: 0.5,
    });
  const able = new Set(conflict.pins);
  for (const { needId, pinId } of conflict.never ? build.never : [])
    if (needId === null || conflict.needs.includes(needId) || able.has(pinId))
      found.push({
        code: 'lift-never',
        label: `Let ${pinId} be used${needId === null ? '' : ` for ${withId(needs, needId)?.label ?? needId}`}`,
        detail: "You marked it 'never here'.",
        calls: [call('setNever', { needId, pinId, never: false })],
        effort: 0.5,
      });
  if (conflict.needs.includes('relay-coils.85'))
    found.push({
      code: 'key-feed',
      label: 'Feed the coils by the key',
      detail:
        'The relay then follows the ignition switch and needs no output. The ECU can no longer take the coils away.',
      calls: [call('setCircuit', { circuitId: 'coils', choice: { switchedBy: 'key' } })],
      effort: 1,
    });
  found.push(...together(build, members));
  // What protects people is neither rewired nor left out: other needs of the conflict make room for it.
  const free = members.filter((need) => need.protection === null);
  for (const need of free) {
    const key = alikeKey(build, need);
    const own = [...simpler(build, need), ...byModule(build, need, help.kinds), ...without(build, need)];
    found.push(...own.map((one) => (key === undefined ? one : { ...one, alike: `${one.code} ${key}` })));
  }
  return found;
}

/** Several injectors or coils that are worked together, on one output each set. */
function together(build: Build, members: readonly Need[]): Candidate[] {
  const kinds = new Set(members.map(({ ask }) => ask.kind));
  const joins = proposedJoins(build).filter(({ needId }) => members.some(({ id }) => id === needId));
  const [join] = joins;
  if (!join) return [];
  const joined = { ...build.joined, ...Object.fromEntries(joins.map(({ needId, leadId }) => [needId, leadId])) };
  const sets = folded({ joined }, separateNeeds(build)).filter(
    (need) => need.joined.length > 0 && kinds.has(need.ask.kind),
  );
  return [
    {
      code: 'join',
      label: `Put ${listWords(sets.slice(0, 4).map(({ label }) => label))} on one output each`,
      detail: 'The ECU works them together anyway: one wire leaves its cavity, and a splice behind it leads to each.',
      calls: joins.map((one) => call('joinOutput', one)),
      effort: 1.2,
    },
  ];
}

/** The last way of all. */
function without(build: Build, need: Need): Candidate[] {
  const calls = rewire(build, need, { to: 'nothing' });
  return calls.length === 0
    ? []
    : [
        {
          code: 'leave-out',
          label: `Leave ${need.label} out`,
          detail: 'The terminal stays bare; what it measured or moved is gone.',
          calls,
          effort: 40,
        },
      ];
}

/** Needs with one key are the same to the solver but for their names, so that either may stand for the other. */
function alikeKey(build: Build, need: Need): string | undefined {
  const at = terminalOf(build, need);
  if (!at || need.pair !== null || build.locked.includes(need.id)) return undefined;
  if (build.never.some(({ needId }) => needId === need.id)) return undefined;
  return JSON.stringify([at.kind.id, at.terminal.id, at.device.overrides, need.ask]);
}

/** The smallest ECU that serves all, if one does: moving to it means pinning everything again. */
function nextEcu(build: Build, ecus: readonly EcuDefinition[], needs: readonly Need[]): Candidate | null {
  const bigger = [...ecus]
    .filter((ecu) => ecu.id !== build.ecu.id)
    .sort((one, other) => one.pins.length - other.pins.length || one.id.localeCompare(other.id));
  for (const ecu of bigger) {
    // Every need takes a pin of its own: what has too few need not be tried.
    if (ecu.pins.filter((pin) => !isFixedPin(pin)).length < needs.length) continue;
    const moved = applyEdit(build, 'chooseEcu', { ecu });
    if (!moved.ok) continue;
    const there = needsOf(moved.value.build);
    if (bestServed(moved.value.build, there).size < there.length) continue;
    return {
      code: 'next-ecu',
      label: `Change to ${ecu.model}`,
      detail: `${plural(ecu.pins.length, 'cavity', 'cavities')}, ${plural(pinsOfKind(ecu, 'injector').length, kindWord('injector'))}; every wire at the ECU is pinned anew.`,
      calls: [call('chooseEcu', { ecu })],
      effort: 24,
    };
  }
  return null;
}

function tried(build: Build, needs: readonly Need[], served: number, candidate: Candidate): WayOut | null {
  let next = build;
  for (const { name, args } of candidate.calls) {
    const result = applyEdit(next, name, args);
    if (!result.ok) return null;
    next = result.value.build;
  }
  const after = needsOf(next);
  const placed = bestServed(next, after);
  const open = after.length - placed.size;
  const gains = needs.length - served - open;
  if (gains <= 0) return null;
  const moved = needs.filter((need) => {
    const before = build.assignments[need.id];
    return before !== undefined && after.some(({ id }) => id === need.id) && placed.get(need.id) !== before;
  });
  const recrimped = moved.filter((need) => isCrimped(build, need, build.assignments[need.id]!)).length;
  const { effort, ...rest } = candidate;
  return {
    ...rest,
    calls: [...candidate.calls, REALLOT],
    gains,
    servesAll: open === 0,
    moved: moved.length,
    recrimped,
    cost: effort + 0.05 * (moved.length - recrimped) + 0.5 * recrimped,
  };
}

/** Ways told of those that differ by name only. */
const TOLD_ALIKE = 3;

export interface Explained {
  readonly conflict: Conflict;
  /** Ways that gain something, cheapest first; of those that differ by name only, the cheapest. */
  readonly ways: readonly WayOut[];
  /** Further ways like one of these but for the name, none of them cheaper than it. */
  readonly more: number;
}

const cheapest = (ways: readonly WayOut[]): WayOut[] =>
  [...ways].sort(
    (one, other) => one.cost - other.cost || other.gains - one.gains || one.label.localeCompare(other.label),
  );

/** Tries candidates by the solver on the changed build; of those alike no more than it takes to know the cheapest. */
function explained(
  build: Build,
  conflict: Conflict,
  needs: readonly Need[],
  served: number,
  offered: readonly Candidate[],
): Explained {
  const ways: WayOut[] = [];
  let more = 0;
  for (const [, group] of groupBy(offered, (one) => one.alike ?? one.label)) {
    const found: WayOut[] = [];
    for (const candidate of group) {
      // No way costs less than its effort: those that cost no more cannot be beaten.
      if (found.filter(({ cost }) => cost <= candidate.effort).length >= TOLD_ALIKE) break;
      const way = tried(build, needs, served, candidate);
      if (way) found.push(way);
      // What one gains, each of its kind does.
      else if (candidate.alike !== undefined) break;
    }
    const told = cheapest(found).slice(0, TOLD_ALIKE);
    ways.push(...told);
    if (told.length > 0) more += group.length - told.length;
  }
  return { conflict, ways: cheapest(ways), more };
}

/**
 * For each reason why needs cannot all be served the ways out of it, cheapest first; ways that gain nothing are left out.
 * Null when `onProgress` stopped it. `conflicts` are those of the build, or some of them.
 */
export function explain(
  build: Build,
  help: Help,
  onProgress: (done: number, of: number) => boolean = () => false,
  needs: readonly Need[] = needsOf(build),
  reasons: readonly Conflict[] = conflictsOf(build, needs),
): Explained[] | null {
  if (reasons.length === 0) return [];
  const served = bestServed(build, needs).size;
  const ecu = nextEcu(build, help.ecus, needs);
  const found: Explained[] = [];
  for (const [index, conflict] of reasons.entries()) {
    if (onProgress(index, reasons.length)) return null;
    found.push(
      explained(build, conflict, needs, served, [...candidates(build, conflict, needs, help), ...(ecu ? [ecu] : [])]),
    );
  }
  return found;
}

/** The ways out of one conflict. */
export const waysOut = (build: Build, conflict: Conflict, help: Help): readonly WayOut[] =>
  explain(build, help, undefined, undefined, [conflict])![0]!.ways;
