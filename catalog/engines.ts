import type { Engine } from '~/core/engine/engine';

/** Engines by geometry; no maker's engine is meant. */
const engine = (
  partial: Pick<Engine, 'name' | 'cylinders' | 'firingOrder' | 'displacementCc' | 'maxRpm'> & Partial<Engine>,
): Engine => ({
  kind: 'four-stroke',
  firingAngles: null,
  aspiration: 'atmospheric',
  boostKpa: 0,
  ignition: 'direct',
  injection: 'sequential',
  ...partial,
});

export const engines: readonly Engine[] = [
  engine({ name: 'Inline four, 2.0 l', cylinders: 4, firingOrder: [1, 3, 4, 2], displacementCc: 1998, maxRpm: 7200 }),
  engine({
    name: 'Inline five turbo, 2.3 l',
    cylinders: 5,
    firingOrder: [1, 2, 4, 5, 3],
    displacementCc: 2310,
    maxRpm: 7200,
    aspiration: 'boosted',
    boostKpa: 140,
  }),
  engine({
    name: 'Inline six, 2.8 l',
    cylinders: 6,
    firingOrder: [1, 5, 3, 6, 2, 4],
    displacementCc: 2790,
    maxRpm: 6800,
  }),
  engine({
    name: 'V8 of 90°, 5.0 l',
    cylinders: 8,
    firingOrder: [1, 8, 4, 3, 6, 5, 7, 2],
    displacementCc: 4990,
    maxRpm: 6500,
  }),
  engine({
    name: 'Parallel twin, 270° crank, 0.8 l',
    cylinders: 2,
    firingOrder: [1, 2],
    firingAngles: [0, 270],
    displacementCc: 790,
    maxRpm: 5200,
    injection: 'semi-sequential',
  }),
  engine({
    name: 'Two-rotor, 1.3 l',
    kind: 'rotary',
    cylinders: 2,
    firingOrder: [1, 2],
    displacementCc: 1308,
    maxRpm: 8500,
  }),
];
