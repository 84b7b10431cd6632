import type { Build } from '../build/schema';
import { kindWord } from '../ecu/ask';
import { isFixedPin, pairedKinds, type AbilityKind, type EcuDefinition } from '../ecu/ecu';
import { needsOf, type Need } from '../netlist/needs';
import { listWords, plural } from '../units/format';
import { barredPins } from './model';

export interface Spare {
  readonly kind: AbilityKind;
  readonly pins: readonly string[];
  /** What they amount to: pins, or whole pairs for what works by pairs only. */
  readonly count: number;
}

/** Pins no need holds, by what they are first of all. Pins the person bars altogether are not counted. */
export function sparesOf(build: Build, needs: readonly Need[] = needsOf(build)): Spare[] {
  const valid = new Set(needs.map((need) => need.id));
  const taken = new Set(
    Object.entries(build.assignments).flatMap(([needId, pinId]) => (valid.has(needId) ? [pinId] : [])),
  );
  const never = barredPins(build);
  const kinds = new Map<AbilityKind, string[]>();
  for (const pin of build.ecu.pins) {
    if (isFixedPin(pin) || taken.has(pin.id) || never(null, pin.id)) continue;
    const { kind } = pin.abilities[0]!;
    kinds.set(kind, [...(kinds.get(kind) ?? []), pin.id]);
  }
  return [...kinds].map(([kind, pins]) => ({ kind, pins, count: unitsOf(build.ecu, kind, pins) }));
}

/** Pins, or for paired kinds the pairs of which every member is among them: half a pair is no spare. */
export function unitsOf(ecu: EcuDefinition, kind: AbilityKind, pins: Iterable<string>): number {
  const free = new Set(pins);
  if (!pairedKinds.has(kind)) return free.size;
  const members = new Map<string, string[]>();
  for (const pin of ecu.pins)
    for (const ability of pin.abilities)
      if (ability.kind === kind && ability.pair !== undefined)
        members.set(ability.pair, [...(members.get(ability.pair) ?? []), pin.id]);
  return [...members.values()].filter((ids) => ids.every((id) => free.has(id))).length;
}

export const spareCount = (spares: readonly Spare[]): number => spares.reduce((sum, { pins }) => sum + pins.length, 0);

/** `1 logic ignition output, 2 switch inputs` */
export const spareWords = (spares: readonly Spare[]): string =>
  spares.flatMap(({ kind, count }) => (count > 0 ? [plural(count, kindWord(kind))] : [])).join(', ');

export interface Shortfall {
  readonly kind: AbilityKind | 'any';
  readonly asked: number;
  readonly left: number;
}

/**
 * Where the spares fall short of what the person wants kept. A kind counts every free pin that can be it, as an alternate
 * too; a pin is counted for each kind it can be.
 */
export function shortfalls(build: Build, needs: readonly Need[] = needsOf(build)): Shortfall[] {
  const free = new Set(sparesOf(build, needs).flatMap(({ pins }) => pins));
  return Object.entries(build.reserve).flatMap(([key, asked]) => {
    const kind = key as AbilityKind | 'any';
    const left =
      kind === 'any'
        ? free.size
        : unitsOf(
            build.ecu,
            kind,
            build.ecu.pins
              .filter((pin) => free.has(pin.id) && pin.abilities.some((ability) => ability.kind === kind))
              .map((pin) => pin.id),
          );
    return left < asked ? [{ kind, asked, left }] : [];
  });
}

export const shortfallWords = (list: readonly Shortfall[]): string =>
  listWords(
    list.map(({ kind, asked, left }) =>
      kind === 'any'
        ? `${plural(asked, 'spare')} asked, ${left} left`
        : `${plural(asked, kindWord(kind))} asked, ${left} left`,
    ),
  );
