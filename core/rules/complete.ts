import { hasRole, pressureRange, sensorsIn, thermistorIn, trait, type DeviceKind } from '../devices/kind';
import type { Engine } from '../engine/engine';
import { listWords } from '../units/format';
import type { Rule } from './rule';

interface Part {
  readonly words: string;
  readonly is: (kind: DeviceKind) => boolean;
  /** Whether this engine cannot do without; absent: every one. */
  readonly of?: (engine: Engine) => boolean;
}

const injected = ({ injection }: Engine) => injection !== 'none';
const measuresLoad = (kind: DeviceKind) =>
  pressureRange(kind)?.measures === 'manifold' ||
  hasRole(kind, 'throttle') ||
  hasRole(kind, 'air-mass') ||
  hasRole(kind, 'manifold-hose');

/** What an engine needs for its first fire, and what can wait until it runs (common practice). */
const first: readonly Part[] = [
  { words: 'a crank sensor or another trigger reference', is: (kind) => trait(kind, 'trigger') !== null },
  { words: 'a load sensor: manifold pressure, throttle or air mass', is: measuresLoad, of: injected },
  {
    words: 'a coolant or head temperature sensor',
    is: (kind) => thermistorIn(kind) !== null && kind.system === 'Cooling',
    of: injected,
  },
  { words: 'a fuel pump', is: (kind) => hasRole(kind, 'pump'), of: injected },
];
const later: readonly Part[] = [
  {
    words: 'air temperature',
    is: (kind) => thermistorIn(kind) !== null && kind.system === 'Air and throttle',
    of: injected,
  },
  {
    words: 'an oxygen sensor to tune by',
    is: (kind) =>
      kind.system === 'Exhaust' &&
      (trait(kind, 'wideband') !== null || sensorsIn(kind).some(({ quantity }) => quantity === 'mixture')),
  },
];

export const completeRules: Rule[] = [
  {
    id: 'PL-13',
    family: 'Plan',
    severity: 'fix',
    title: 'Not whole enough for a first fire',
    source: 'A reference, load, temperature, spark and fuel: common practice',
    sheet: 'survey',
    check: ({ build, devices }) => {
      // A list that is only begun is not told what it lacks.
      if (devices.length === 0) return [];
      const lacks = (parts: readonly Part[]) =>
        parts.filter(({ is, of }) => (of?.(build.engine) ?? true) && !devices.some(({ kind }) => is(kind)));
      const [now, wait] = [lacks(first), lacks(later)];
      if (now.length === 0) return [];
      const inside = build.ecu.inside?.manifoldKpa;
      const hose =
        inside !== undefined && !devices.some(({ kind }) => measuresLoad(kind))
          ? ` ${build.ecu.model} has a manifold sensor inside: a hose to it will do.`
          : '';
      const waiting = wait.length === 0 ? '' : ` ${listWords(wait.map(({ words }) => words))} can wait until it runs.`;
      return [
        {
          at: '',
          detail:
            `The list has no ${listWords(now.map(({ words }) => words.replace(/^an? /, '')))}.${hose}${waiting}`.replace(
              /\. ([a-z])/,
              (_, letter: string) => `. ${letter.toUpperCase()}`,
            ),
        },
      ];
    },
  },
];
