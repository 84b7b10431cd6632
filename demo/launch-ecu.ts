import { ecuSchema, pinIdOf, type Ability, type EcuDefinition } from '~/core/ecu/ecu';

/*
 * The ECU of the harbour launch: five equal grounds, a crank input of one pin, a pin for shields, a manifold sensor inside.
 * Its maker, its connectors and its pins are made up.
 */
type Spec = readonly [label: string, ...abilities: Ability[]];

const times = (count: number, make: (n: number) => Spec): Spec[] =>
  Array.from({ length: count }, (_, i) => make(i + 1));
const either: readonly Ability[] = [{ kind: 'power-ground', maxAmps: 10 }, { kind: 'sensor-ground' }];

const first: readonly Spec[] = [
  ...times(6, (n) => [`Injector drive ${n}`, { kind: 'injector', output: n, maxAmps: 2.5, minOhms: 9 }]),
  ...times(6, (n) => [`Spark ${n}`, { kind: 'ignition-logic', output: n }]),
  ...times(3, (n) => [`Switched ${n}`, { kind: 'low-side', maxAmps: 2, maxHz: 0 }]),
  ['Pulsed 1', { kind: 'low-side', maxAmps: 3, maxHz: 800 }],
  ['Drive +', { kind: 'half-bridge', pair: 'drive-1', side: 'plus', maxAmps: 7 }],
  ['Drive –', { kind: 'half-bridge', pair: 'drive-1', side: 'minus', maxAmps: 7 }],
  ...times(5, (n) => [`Ground ${n}`, ...either]),
  ['Battery', { kind: 'permanent' }],
  ['Ignition switched', { kind: 'switched' }],
  ['Relay, main', { kind: 'main-relay', maxAmps: 0.6 }],
  ['CAN high', { kind: 'can', pair: 'can-1', side: 'plus' }],
  ['CAN low', { kind: 'can', pair: 'can-1', side: 'minus' }],
  ['Shield', { kind: 'shield' }],
];
const second: readonly Spec[] = [
  ['Crank, reluctor', { kind: 'vr' }],
  ...times(2, (n) => [`Square ${n}`, { kind: 'hall', pullUpOhms: 2700, pullUpSwitchable: true, maxHz: 9000 }]),
  ...times(2, (n) => [`Knock in ${n}`, { kind: 'knock' }]),
  ...times(2, (n) => [`5 V ${n}`, { kind: 'supply-5v', maxAmps: 0.2 }]),
  ...times(3, (n) => [
    `Warmth ${n}`,
    { kind: 'analog', pullUpOhms: 2700, pullUpSwitchable: true },
    { kind: 'switch', pullUpOhms: 2700 },
  ]),
  ...times(7, (n) => [`Volts ${n}`, { kind: 'analog' }]),
  ...times(4, (n) => [`Contact ${n}`, { kind: 'switch', pullUpOhms: 4700 }]),
];

const pins = (connector: string, specs: readonly Spec[]) =>
  specs.map(([label, ...abilities], at) => ({
    id: pinIdOf(connector, at + 1),
    connector,
    cavity: at + 1,
    label,
    abilities,
  }));

export const launchEcu: EcuDefinition = ecuSchema.parse({
  id: 'skerry-51',
  maker: 'Skerry',
  model: 'Skerry 51',
  note: 'Made up for the harbour launch: no such ECU is sold.',
  outputOrder: 'in-turn',
  connectors: [
    {
      id: 'P1',
      name: 'power side',
      rows: [9, 8, 8, 7],
      maxSquareMm: 2.5,
      sealed: true,
      keys: [{ edge: 'left', at: 0.3 }],
    },
    {
      id: 'P2',
      name: 'sensor side',
      rows: [6, 6, 5, 5],
      maxSquareMm: 1,
      sealed: true,
      keys: [{ edge: 'right', at: 0.3 }],
    },
  ],
  pins: [...pins('P1', first), ...pins('P2', second)],
  groups: [
    { type: 'budget', name: 'contacts and pulse together', pins: ['P1-13', 'P1-14', 'P1-15', 'P1-16'], amps: 6 },
  ],
  decoders: [{ family: 'missing-tooth', minPlaces: 12, maxPlaces: 60, maxMissing: 2, needsCam: false }],
  groundsAsked: 2,
  inside: { manifoldKpa: 120, barometer: true },
  minVolts: 7,
  ownAmps: 0.7,
  gapThreshold: 1.5,
});
