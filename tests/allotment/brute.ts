import type { Build, Device } from '~/core/build/schema';
import type { DeviceKind, Terminal } from '~/core/devices/kind';
import type { Ask } from '~/core/ecu/ask';
import type { Ability, Pin, PinGroup } from '~/core/ecu/ecu';
import type { Need } from '~/core/netlist/needs';
import { emptyBuild } from '../helpers';
import { generator } from './random-model';

/*
 * Small builds made at random and served by trying everything. Written apart from the solver: it knows pins, asks and
 * groups, and nothing of models, rows or prices.
 */
const speeds = [30, 200];

function randomPins(random: () => number): Pin[] {
  const pick = (limit: number) => Math.floor(random() * limit);
  const pins: { abilities: Ability[] }[] = [];
  const low = (): Ability => ({ kind: 'low-side', maxAmps: [1, 2, 3][pick(3)], maxHz: [0, 100, 1000][pick(3)] });
  for (let i = 0, count = 2 + pick(3); i < count; i += 1)
    pins.push({ abilities: random() < 0.8 ? [low()] : [{ kind: 'analog' }] });
  for (let pair = 1, count = 1 + pick(2); pair <= count; pair += 1) {
    const name = `pair-${pair}`;
    const members = 2 + pick(2);
    for (let i = 0; i < members; i += 1) {
      const side = random() < 0.3 ? (i === 0 ? 'plus' : 'minus') : undefined;
      const half: Ability = { kind: 'half-bridge', pair: name, maxAmps: 6, ...(side ? { side } : {}) };
      pins.push({ abilities: random() < 0.5 ? [half, low()] : [half] });
    }
  }
  if (random() < 0.5)
    for (const cell of ['pump', 'reference', 'ground'] as const)
      pins.push({
        abilities: [
          { kind: 'wideband', pair: 'cell-1', ...(random() < 0.6 ? { cell } : {}) },
          ...(random() < 0.4 ? [low()] : []),
        ],
      });
  return pins.map(({ abilities }, i) => ({
    id: `A${i + 1}`,
    connector: 'A',
    cavity: i + 1,
    label: ['Output', 'Fuel pump relay', 'Fan', 'Spare'][pick(4)],
    abilities,
  }));
}

function randomDevice(random: () => number, number: number): { device: Device; kind: DeviceKind } {
  const pick = (limit: number) => Math.floor(random() * limit);
  const low = (): Ask => ({ kind: 'low-side', amps: [0.5, 1, 2][pick(3)], hz: random() < 0.5 ? speeds[pick(2)] : 0 });
  const t = (id: string, ask: Ask, pair?: string): Terminal => ({
    id,
    name: id,
    destination: { to: 'pin', ask, ...(pair ? { pair } : {}) },
  });
  const shape = random();
  const terminals =
    shape < 0.5
      ? [t('1', low())]
      : shape < 0.6
        ? [t('1', { kind: 'analog' })]
        : shape < 0.85
          ? (['plus', 'minus'] as const).map((side, i) =>
              t(`${i + 1}`, { kind: 'half-bridge', amps: 2, ...(random() < 0.4 ? { side } : {}) }, 'motor'),
            )
          : (['pump', 'reference', 'ground'] as const).map((cell, i) =>
              t(`${i + 1}`, { kind: 'wideband', ...(random() < 0.5 ? { cell } : {}) }, 'cell'),
            );
  const id = `thing-${number}`;
  return {
    kind: {
      id,
      name: 'Thing',
      system: 'Driver',
      note: '',
      terminals,
      internals: [],
      traits: [],
      perCylinder: false,
      shielded: false,
      twisted: false,
      twinRisk: false,
    },
    device: {
      id,
      kindId: id,
      label: `Thing ${number}`,
      serves: [],
      row: 1,
      bank: null,
      branchMetres: 1,
      terminalsConfirmed: true,
      shield: 'none',
      overrides: {},
      labelled: true,
      pullUpOhms: null,
      leadWire: 'copper',
      ecuCurves: {},
    },
  };
}

/** A build of up to `most` devices on a small made-up ECU, with groups, 'never here', hand placements and locks. */
export function randomBuild(seed: number, most = 5): Build {
  const random = generator(seed);
  const pick = (limit: number) => Math.floor(random() * limit);
  const base = emptyBuild();
  const pins = randomPins(random);
  const some = (count: number) => [...new Set(Array.from({ length: count }, () => pins[pick(pins.length)].id))];
  const groups: PinGroup[] = [];
  if (random() < 0.5) groups.push({ type: 'timer', name: 'timer', pins: some(4) });
  if (random() < 0.5) groups.push({ type: 'budget', name: 'budget', pins: some(5), amps: 1 + pick(4) });
  if (random() < 0.4) {
    const all = some(5);
    if (all.length > 1) groups.push({ type: 'either', name: 'either', sides: [all.slice(0, 1), all.slice(1)] });
  }
  const made = Array.from({ length: 1 + pick(most) }, (_, i) => randomDevice(random, i + 1));
  const needIds = made.flatMap(({ device, kind }) => kind.terminals.map((terminal) => `${device.id}.${terminal.id}`));
  const never = needIds.flatMap((id) =>
    random() < 0.25 ? [{ needId: random() < 0.8 ? id : null, pinId: pins[pick(pins.length)].id }] : [],
  );
  return {
    ...base,
    ecu: {
      ...base.ecu,
      connectors: [{ id: 'A', rows: [pins.length + 1], maxSquareMm: 2.5, sealed: false }],
      pins: [
        ...pins,
        {
          id: `A${pins.length + 1}`,
          connector: 'A',
          cavity: pins.length + 1,
          label: 'Ground',
          abilities: [{ kind: 'power-ground' }],
        },
      ],
      groups,
    },
    kinds: Object.fromEntries(made.map(({ kind }) => [kind.id, kind])),
    devices: made.map(({ device }) => device),
    never,
  };
}

/** The same with some needs put on pins that could serve them (`right`), or on any pin at all, some of them locked. */
export function placedAtRandom(build: Build, needs: readonly Need[], seed: number, right: boolean): Build {
  const random = generator(seed);
  const taken = new Set<string>();
  const assignments: Record<string, string> = {};
  for (const need of needs) {
    if (random() < 0.5) continue;
    const able = build.ecu.pins.filter((pin) => !right || (!taken.has(pin.id) && can(pin, need, null)));
    if (able.length === 0) continue;
    const pin = able[Math.floor(random() * able.length)];
    assignments[need.id] = pin.id;
    taken.add(pin.id);
  }
  return { ...build, assignments, locked: Object.keys(assignments).filter(() => random() < 0.5) };
}

const fits = (ability: Ability, { ask }: Need): boolean =>
  ability.kind === ask.kind &&
  (ask.amps ?? 0) <= (ability.maxAmps ?? Infinity) &&
  (ask.hz ?? 0) <= (ability.maxHz ?? Infinity) &&
  (!ask.side || !ability.side || ask.side === ability.side) &&
  (!ask.cell || !ability.cell || ask.cell === ability.cell);

/** Whether a pin can serve a need, on the pair named (null: on any or none). */
export const can = (pin: Pin, need: Need, pair: string | null): boolean =>
  pin.abilities.some((ability) => fits(ability, need) && (pair === null || ability.pair === pair));

/**
 * The most needs that can be served at once, pairs whole or not at all, and one way to do it. `held` gives needs that must
 * stay on a pin whatever it can do. Tries everything: small builds only.
 */
export function bruteServed(
  build: Build,
  needs: readonly Need[],
  held: ReadonlyMap<string, string>,
  /** Leave none of the held ones out. */
  must = false,
): number {
  const units = new Map<string, Need[]>();
  for (const need of needs) {
    const key = need.pair ?? need.id;
    units.set(key, [...(units.get(key) ?? []), need]);
  }
  const list = [...units.values()];
  const used = new Map<string, Need>();
  let best = -1;
  const barred = (need: Need, pinId: string) =>
    build.never.some((one) => one.pinId === pinId && (one.needId === null || one.needId === need.id));
  const keeps = (): boolean =>
    build.ecu.groups.every((group) => {
      const on = (ids: readonly string[]) => ids.flatMap((id) => used.get(id) ?? []);
      if (group.type === 'timer')
        return (
          new Set(on(group.pins).flatMap(({ ask }) => (ask.kind !== 'wideband' && ask.hz ? [ask.hz] : []))).size < 2
        );
      if (group.type === 'budget')
        return on(group.pins).reduce((sum, { ask }) => sum + (ask.amps ?? 0), 0) <= group.amps + 1e-9;
      return group.sides.filter((side) => on(side).length > 0).length < 2;
    });
  const place = (unit: readonly Need[], at: number, pair: string | null, then: () => void) => {
    if (at === unit.length) {
      if (keeps()) then();
      return;
    }
    const need = unit[at];
    const stuck = held.get(need.id);
    for (const pin of build.ecu.pins) {
      if (used.has(pin.id)) continue;
      if (stuck === undefined ? barred(need, pin.id) : pin.id !== stuck) continue;
      const whollyHeld = unit.every((one) => held.has(one.id));
      if (!whollyHeld && !can(pin, need, pair)) continue;
      used.set(pin.id, need);
      place(unit, at + 1, pair, then);
      used.delete(pin.id);
    }
  };
  const walk = (index: number, served: number) => {
    const left = list.slice(index).reduce((sum, unit) => sum + unit.length, 0);
    if (served + left <= best) return;
    if (index === list.length) {
      best = served;
      return;
    }
    const unit = list[index];
    const pairs: (string | null)[] =
      unit[0].pair === null
        ? [null]
        : [...new Set(build.ecu.pins.flatMap((pin) => pin.abilities.flatMap(({ pair }) => pair ?? [])))];
    for (const pair of unit.every((one) => held.has(one.id)) ? [null] : pairs)
      place(unit, 0, pair, () => walk(index + 1, served + unit.length));
    if (!must || !unit.some((one) => held.has(one.id))) walk(index + 1, served);
  };
  walk(0, 0);
  return best;
}
