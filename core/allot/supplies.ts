import { terminalId } from '../ends/ends';
import type { Build } from '../build/schema';
import { pinsOfKind } from '../ecu/ecu';
import { destinationOf } from '../build/destination';

/** A device terminal on a shared supply pin. */
export interface SupplyUser {
  /** `device.terminal` */
  readonly id: string;
  readonly deviceId: string;
  readonly bank: number;
  readonly amps: number;
}

/** Terminals that want the 5 V supply, in the order of the devices. */
export const supplyUsers = (build: Build): SupplyUser[] =>
  build.devices.flatMap((device) =>
    (build.kinds[device.kindId]?.terminals ?? []).flatMap((terminal) => {
      const destination = destinationOf(device, terminal);
      return destination.to === 'supply-5v'
        ? [
            {
              id: terminalId(device.id, terminal.id),
              deviceId: device.id,
              bank: destination.bank,
              amps: destination.milliamps / 1000,
            },
          ]
        : [];
    }),
  );

export interface SupplyPlan {
  /** False when no way keeps every budget. */
  readonly fits: boolean;
  /** Only what differs from the banks. */
  readonly shared: Readonly<Record<string, string>>;
  /** Amperes by pin. */
  readonly amps: Readonly<Record<string, number>>;
}

/** Share of a supply's current that is used where it can be helped (common practice). */
const HEADROOM = 0.9;
/** Placements tried before the best so far is taken; plans people make need a few dozen. */
const TRIES = 20_000;

/**
 * Spreads the 5 V terminals over the supply pins so that no pin and no group of pins is over its current, with the fewest
 * departures from the banks; two banks of one device never meet on one pin where the ECU has two. Depth first, dearest
 * terminal first, with the count of departures as the bound. When nothing fits, the banks stay as they are.
 */
export function allotSupplies(build: Build): SupplyPlan {
  const roomy = spread(build, HEADROOM);
  return roomy.fits ? roomy : spread(build, 1);
}

function spread(build: Build, share: number): SupplyPlan {
  const pins = pinsOfKind(build.ecu, 'supply-5v');
  const users = [...supplyUsers(build)].sort((one, other) => other.amps - one.amps);
  if (pins.length === 0) return { fits: users.length === 0, shared: {}, amps: {} };
  const limit = pins
    .map((pin) => pin.abilities.find(({ kind }) => kind === 'supply-5v')?.maxAmps ?? Infinity)
    .map((amps) => amps * share);
  const budgets = build.ecu.groups.flatMap((group) =>
    group.type === 'budget' && group.pins.some((id) => pins.some((pin) => pin.id === id))
      ? [{ amps: group.amps * share, member: pins.map((pin) => group.pins.includes(pin.id)) }]
      : [],
  );
  const load = pins.map(() => 0);
  const total = budgets.map(() => 0);
  const at = users.map(() => -1);
  const own = users.map((user) => user.bank % pins.length);
  let best: { moves: number; at: number[] } | null = null;
  let tries = 0;
  const over = 1e-9;
  const fits = (user: number, pin: number): boolean =>
    load[pin]! + users[user]!.amps <= limit[pin]! + over &&
    budgets.every(({ amps, member }, k) => !member[pin] || total[k]! + users[user]!.amps <= amps + over) &&
    users.every(
      (other, i) =>
        pins.length < 2 ||
        i >= user ||
        other.deviceId !== users[user]!.deviceId ||
        (other.bank === users[user]!.bank) === (at[i] === pin),
    );
  const put = (user: number, pin: number, sign: 1 | -1) => {
    load[pin]! += sign * users[user]!.amps;
    budgets.forEach(({ member }, k) => (total[k]! += member[pin] ? sign * users[user]!.amps : 0));
    at[user] = sign > 0 ? pin : -1;
  };
  const walk = (user: number, moves: number) => {
    if (tries >= TRIES || (best && moves >= best.moves)) return;
    if (user === users.length) {
      best = { moves, at: [...at] };
      return;
    }
    tries += 1;
    for (const pin of new Set([own[user]!, ...pins.keys()])) {
      if (!fits(user, pin)) continue;
      put(user, pin, 1);
      walk(user + 1, moves + (pin === own[user] ? 0 : 1));
      put(user, pin, -1);
    }
  };
  walk(0, 0);
  const found = best as { moves: number; at: number[] } | null;
  const chosen = found?.at ?? own;
  const amps: Record<string, number> = Object.fromEntries(pins.map((pin) => [pin.id, 0]));
  users.forEach((user, i) => (amps[pins[chosen[i]!]!.id]! += user.amps));
  return {
    fits: found !== null,
    shared: Object.fromEntries(
      users.flatMap((user, i) => (chosen[i] === own[i] ? [] : [[user.id, pins[chosen[i]!]!.id]])),
    ),
    amps,
  };
}
