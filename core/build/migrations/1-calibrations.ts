import type { Migration } from './migration';

/*
 * From version 1 to 2. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * Sensors get calibrations, coils and injectors tables over voltage, devices an outside pull-up and the ECU's settings;
 * the build gets fuel data, units, what was found on the engine, and key-on readings.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const number = (value: unknown, otherwise: number): number => (typeof value === 'number' ? value : otherwise);

function firstInternal(kind: Json, type: string): Json | undefined {
  return list(kind.internals).find((one): one is Json => isObject(one) && one.type === type);
}

function raiseTrait(kind: Json, old: unknown): unknown[] {
  if (!isObject(old)) return [old];
  switch (old.type) {
    case 'coil': {
      const { dwellMilliseconds, ...rest } = old;
      return [{ ...rest, dwell: [{ volts: 13.5, milliseconds: dwellMilliseconds }] }];
    }
    case 'injector': {
      const { deadMilliseconds, ...rest } = old;
      const dead = typeof deadMilliseconds === 'number' ? [{ volts: 13.5, milliseconds: deadMilliseconds }] : [];
      return [{ ...rest, atKpa: 300, dead }];
    }
    case 'ntc': {
      const inside = firstInternal(kind, 'resistor');
      const [low, high] = [-40, 150];
      return [
        {
          type: 'sensor',
          terminal: inside?.from ?? '1',
          quantity: 'temperature',
          signal: 'ohms',
          curve: { method: 'beta', ohms: old.ohmsAt20, celsius: 20, beta: old.beta },
          least: low,
          most: high,
          ratiometric: true,
          faultBelow: 0.05,
          faultAbove: 4.95,
        },
      ];
    }
    case 'pressure': {
      const { minKpa, maxKpa, ...rest } = old;
      const [least, most] = [number(minKpa, 0), number(maxKpa, 100)];
      return [
        rest,
        {
          type: 'sensor',
          terminal: firstInternal(kind, 'divider')?.signal ?? '3',
          quantity: 'pressure',
          signal: 'volts',
          curve: {
            method: 'linear',
            points: [
              { signal: 0.5, value: least },
              { signal: 4.5, value: most },
            ],
          },
          least,
          most,
          ratiometric: true,
          faultBelow: 0.25,
          faultAbove: 4.75,
        },
      ];
    }
    default:
      return [old];
  }
}

function raisePlan(plan: Json): Json {
  const kinds = isObject(plan.kinds) ? plan.kinds : {};
  const engine = isObject(plan.engine) ? plan.engine : {};
  const litres = number(engine.displacementCc, 2000) / 1000;
  return {
    ...plan,
    kinds: Object.fromEntries(
      Object.entries(kinds).map(([key, kind]) => [
        key,
        isObject(kind) ? { ...kind, traits: list(kind.traits).flatMap((trait) => raiseTrait(kind, trait)) } : kind,
      ]),
    ),
    devices: list(plan.devices).map((device) =>
      isObject(device) ? { ...device, pullUpOhms: null, leadWire: 'copper', ecuCurves: {} } : device,
    ),
    fuel: {
      fuel: 'petrol',
      railKpa: 300,
      bsfc: 310,
      powerKw: Math.max(5, Math.round(litres * 50 * (1 + number(engine.boostKpa, 0) / 100))),
      maxDuty: 0.85,
    },
  };
}

export const calibrations: Migration = {
  from: 1,
  name: 'calibrations',
  migrate: (file) => ({
    ...raisePlan(file),
    units: { pressure: 'kPa', temperature: 'C', mixture: 'lambda' },
    survey: {
      identify: {
        crankPlace: null,
        crankTeeth: null,
        crankGap: null,
        crankGapWidth: null,
        crankWires: null,
        crankOhms: null,
        camTerminals: null,
        camTeeth: null,
        camShape: null,
        coilCount: null,
        coilTerminals: null,
        coilTowers: null,
        injectorCount: null,
        injectorOhms: null,
        sensorColour: '',
        headMarks: '',
        blockMarks: '',
      },
      donor: {},
      questions: [],
      parts: [],
      hours: [],
      currency: 'EUR',
      photos: [],
    },
    sensing: { readings: {} },
    revisions: list(file.revisions).map((revision) =>
      isObject(revision) && isObject(revision.plan) ? { ...revision, plan: raisePlan(revision.plan) } : revision,
    ),
  }),
};
