import { wrapDegrees } from '../units/convert';
import { listWords } from '../units/format';
import { cycleDegrees, firingAngleByCylinder, type Engine, type OutputOrder } from './engine';

/** What an output works: the coils or the injectors. */
export type OutputKind = 'ignition' | 'injector';

/** What an ask for a pin works, where it works a cylinder. */
export const workOf = (ask: { readonly kind: string }): OutputKind | null =>
  ask.kind === 'injector'
    ? 'injector'
    : ask.kind === 'ignition-logic' || ask.kind === 'ignition-driver'
      ? 'ignition'
      : null;

/** Angles nearer than this are one firing. */
const SAME_DEGREES = 1e-6;
/** Crank degrees of one turn. */
const TURN = 360;

/**
 * Cylinders the ECU works at one and the same time, each set in firing order, sets by their first firing.
 *
 * Whole cycle known (a coil each, sequential): cylinders that fire at the same angle. Angle of the turn alone (wasted
 * spark, injection in pairs): cylinders 360 degrees apart as well, so that a coil of theirs sparks in one of them and
 * into the exhaust of the other. Distributor and batch: all of them. (Four-stroke geometry; common practice.)
 *
 * @returns Sets of cylinder numbers: a partition of the engine's cylinders.
 */
export function firedTogether(engine: Engine, use: OutputKind): number[][] {
  const mode = use === 'ignition' ? engine.ignition : engine.injection;
  if (mode === 'distributor' || mode === 'batch' || mode === 'none') return [[...engine.firingOrder]];
  const whole = mode === 'direct' || mode === 'sequential';
  const span = whole ? cycleDegrees(engine) : TURN;
  const angles = firingAngleByCylinder(engine);
  const sets: { angle: number; cylinders: number[] }[] = [];
  for (const cylinder of engine.firingOrder) {
    const angle = wrapDegrees(angles.get(cylinder)!, span);
    const near = (one: number) => {
      const apart = wrapDegrees(one - angle, span);
      return Math.min(apart, span - apart) < SAME_DEGREES;
    };
    const set = sets.find((one) => near(one.angle));
    if (set) set.cylinders.push(cylinder);
    else sets.push({ angle, cylinders: [cylinder] });
  }
  return sets.map(({ cylinders }) => cylinders);
}

/** Cylinders that can share a coil: those at the top of a turn together. Of an engine where none do, each stands alone. */
export const setsOfTurn = (engine: Engine): number[][] => firedTogether({ ...engine, ignition: 'wasted' }, 'ignition');

/** Plugs of each chamber, or injectors of each cylinder: how many rows of outputs there are. */
export const rowsOf = (engine: Engine, use: OutputKind): number =>
  use === 'ignition' ? engine.plugs : engine.injectors;

/** What one output works: which cylinders, and which of their plugs or injectors (1 leading or primary, 2 trailing or secondary). */
export interface Worked {
  readonly cylinders: readonly number[];
  readonly row: number;
}

/**
 * What the ECU works when it fires output `output` (1-based), by the school of its maker; null past the last.
 *
 * By cylinder: output n belongs to cylinder n, and to all that are worked with it. In turn: output n belongs to the
 * n-th set to fire; past the last set they come round again, as they do for single coils fired in pairs. A second plug
 * or injector takes the numbers after the last cylinder's (common practice for both schools).
 */
export function workedBy(engine: Engine, school: OutputOrder, use: OutputKind, output: number): Worked | null {
  const count = engine.cylinders;
  if (!Number.isInteger(output) || output < 1 || output > count * rowsOf(engine, use)) return null;
  const row = Math.ceil(output / count);
  const place = (output - 1) % count;
  const sets = firedTogether(engine, use);
  const cylinders = school === 'in-turn' ? sets[place % sets.length]! : sets.find((set) => set.includes(place + 1))!;
  return { cylinders, row };
}

/**
 * Outputs that work these cylinders and no others of another time, lowest first; empty when they are not worked together.
 *
 * @param cylinders Served by one coil or injector: one cylinder, or a set worked together.
 * @param row Which plug or injector of theirs, from 1.
 */
export function outputsFor(
  engine: Engine,
  school: OutputOrder,
  use: OutputKind,
  cylinders: readonly number[],
  row: number,
): number[] {
  if (cylinders.length === 0 || row > rowsOf(engine, use)) return [];
  const found: number[] = [];
  const first = (row - 1) * engine.cylinders + 1;
  for (let output = first; output < first + engine.cylinders; output += 1) {
    const worked = workedBy(engine, school, use, output)!;
    if (cylinders.every((one) => worked.cylinders.includes(one))) found.push(output);
  }
  // A coil of several towers in turn: as many outputs as there are sets, and none comes round.
  return cylinders.length > 1 && school === 'in-turn' ? found.slice(0, 1) : found;
}

/** Crank degrees between two events of one coil or injector: once a cycle, or every turn where the stroke is not told apart. */
export function eventSpan(engine: Engine, use: OutputKind): number {
  const mode = use === 'ignition' ? engine.ignition : engine.injection;
  return mode === 'direct' || mode === 'sequential' ? cycleDegrees(engine) : TURN;
}

/** Which plug or injector of a cylinder is meant, in words; empty where there is but one. */
export function rowWords(engine: Engine, use: OutputKind, row: number): string {
  if (rowsOf(engine, use) === 1) return '';
  if (use === 'injector') return row === 1 ? 'primary' : 'secondary';
  if (engine.kind === 'rotary') return row === 1 ? 'leading' : 'trailing';
  return row === 1 ? 'first plug' : 'second plug';
}

/** What is worked, in words: `cylinder 4`, `cylinders 1 and 6`, `rotor 2, trailing`; `none` past the last. */
export function workWords(engine: Engine, use: OutputKind, worked: Worked | null): string {
  if (!worked || worked.cylinders.length === 0) return 'none';
  const chamber = engine.kind === 'rotary' ? 'rotor' : 'cylinder';
  const which = [...worked.cylinders].sort((one, other) => one - other).map(String);
  const row = rowWords(engine, use, worked.row);
  return `${chamber}${which.length > 1 ? 's' : ''} ${listWords(which)}${row === '' ? '' : `, ${row}`}`;
}
