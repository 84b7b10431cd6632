/** What the car is doing when a meter is held to it. */
export const circuitStates = [
  'unplugged',
  'key-off',
  'accessory',
  'key-on',
  'prime',
  'outputs-on',
  'start',
  'cranking',
  'running',
] as const;
export type CircuitState = (typeof circuitStates)[number];

export const stateWords: Record<CircuitState, string> = {
  unplugged: 'battery off, ECU unplugged',
  'key-off': 'key off',
  accessory: 'key at accessories',
  'key-on': 'key on, engine still',
  prime: 'key on, pump priming',
  'outputs-on': 'key on, output driven by its test',
  start: 'key held at start, engine still',
  cranking: 'cranking',
  running: 'running',
};
