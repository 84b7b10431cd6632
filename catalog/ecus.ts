import type { Ability, Decoder, EcuDefinition, Pin } from '~/core/ecu/ecu';

/** Example ECUs of the invented maker Orrery. Abilities and limits are made up, within what the trade calls usual. */

interface PinSpec {
  readonly label: string;
  readonly abilities: readonly Ability[];
}

const injector = (output: number): PinSpec => ({
  label: `Injection ${output}`,
  abilities: [
    { kind: 'injector', output, maxAmps: 2, minOhms: 10 },
    { kind: 'low-side', maxAmps: 2, maxHz: 100 },
  ],
});
const ignitionLogic = (output: number): PinSpec => ({
  label: `Ignition ${output}`,
  abilities: [{ kind: 'ignition-logic', output }],
});
const ignitionDriver = (output: number): PinSpec => ({
  label: `Ignition ${output}`,
  abilities: [
    { kind: 'ignition-driver', output, maxAmps: 10 },
    { kind: 'ignition-logic', output },
  ],
});
const lowSide = (number: number, maxAmps: number, maxHz: number): PinSpec => ({
  label: maxHz > 0 ? `Output ${number} PWM` : `Output ${number}`,
  abilities: [{ kind: 'low-side', maxAmps, maxHz }],
});
/** Two half-bridge pairs of one driver can turn a stepper instead: `phase` says which winding. */
const halfBridge = (pair: string, side: 'plus' | 'minus', maxAmps: number, phase?: 'a' | 'b'): PinSpec => ({
  label: `Motor ${pair.slice(-1).toUpperCase()} ${side === 'plus' ? '+' : '–'}`,
  abilities: [
    { kind: 'half-bridge', pair, side, maxAmps },
    ...(phase ? [{ kind: 'stepper', pair: 'stepper-1', phase, side, maxAmps: 1 } as const] : []),
    { kind: 'low-side', maxAmps, maxHz: 1000 },
  ],
});
const analog = (number: number): PinSpec => ({
  label: `Analog ${number}`,
  abilities: [{ kind: 'analog' }, { kind: 'switch', pullUpOhms: 4700, pullUpSwitchable: true }],
});
const temperature = (number: number): PinSpec => ({
  label: `Temperature ${number}`,
  abilities: [
    { kind: 'analog', pullUpOhms: 2490, pullUpSwitchable: true },
    { kind: 'switch', pullUpOhms: 2490 },
  ],
});
const switchIn = (number: number): PinSpec => ({
  label: `Switch ${number}`,
  abilities: [{ kind: 'switch', pullUpOhms: 4700 }],
});
const frequency = (number: number): PinSpec => ({
  label: `Frequency ${number}`,
  abilities: [
    { kind: 'frequency', maxHz: 6000, pullUpOhms: 4700, pullUpSwitchable: true },
    { kind: 'switch', pullUpOhms: 4700 },
  ],
});
const hall = (number: number): PinSpec => ({
  label: `Trigger ${number}`,
  abilities: [
    { kind: 'hall', pullUpOhms: 2200, pullUpSwitchable: true, maxHz: 12000 },
    { kind: 'frequency', pullUpOhms: 2200, pullUpSwitchable: true, maxHz: 12000 },
  ],
});
const thermocouple = (pair: string, side: 'plus' | 'minus') =>
  one(`Thermocouple ${side === 'plus' ? '+' : '–'}`, { kind: 'thermocouple', pair, side });
const vr = (pair: string, side: 'plus' | 'minus'): PinSpec => ({
  label: `VR ${pair.slice(-1)} ${side === 'plus' ? '+' : '–'}`,
  abilities: [{ kind: 'vr', pair, side }],
});
const can = (pair: string, side: 'plus' | 'minus'): PinSpec => ({
  label: `CAN ${pair.slice(-1)} ${side === 'plus' ? 'H' : 'L'}`,
  abilities: [{ kind: 'can', pair, side }],
});
const one = (label: string, ability: Ability): PinSpec => ({ label, abilities: [ability] });
const knock = (number: number) => one(`Knock ${number}`, { kind: 'knock' });
const fiveVolts = (letter: string, maxAmps: number) => one(`5 V ${letter}`, { kind: 'supply-5v', maxAmps });
const sensorGround = (letter: string) => one(`Sensor ground ${letter}`, { kind: 'sensor-ground' });
const powerGround = (number: number) => one(`Power ground ${number}`, { kind: 'power-ground', maxAmps: 12 });
const permanent = one('Battery permanent', { kind: 'permanent' });
const switched = one('Supply switched', { kind: 'switched' });
const mainRelay = one('Main relay', { kind: 'main-relay', maxAmps: 0.5 });

const times = (count: number, make: (number: number) => PinSpec, from = 1): PinSpec[] =>
  Array.from({ length: count }, (_, i) => make(from + i));

const pinsOn = (connector: string, specs: readonly PinSpec[]): Pin[] =>
  specs.map((spec, index) => ({
    id: `${connector}${index + 1}`,
    connector,
    cavity: index + 1,
    label: spec.label,
    abilities: [...spec.abilities],
  }));

const decoder = (
  family: Decoder['family'],
  minPlaces: number,
  maxPlaces: number,
  maxMissing: number,
  needsCam = false,
): Decoder => ({ family, minPlaces, maxPlaces, maxMissing, needsCam });

const orrery26: EcuDefinition = {
  id: 'orrery-26',
  maker: 'Orrery',
  model: 'Orrery 26',
  outputOrder: 'in-turn',
  connectors: [{ id: 'A', rows: [8, 7, 7, 7], maxSquareMm: 1.5, sealed: false, keys: [{ edge: 'bottom', at: 0.3 }] }],
  pins: pinsOn('A', [
    ...times(4, injector),
    ...times(4, ignitionLogic),
    switched,
    ...times(2, (n) => lowSide(n, 1, 0)),
    lowSide(3, 2, 500),
    ...times(2, hall),
    ...times(2, temperature),
    ...times(4, analog),
    switchIn(1),
    switchIn(2),
    fiveVolts('a', 0.1),
    sensorGround('a'),
    powerGround(1),
    powerGround(2),
  ]),
  groups: [{ type: 'budget', name: '5 V supply', pins: ['A23'], amps: 0.1 }],
  decoders: [decoder('missing-tooth', 8, 60, 2), decoder('even', 2, 60, 0, true), decoder('distributor', 2, 8, 0)],
  groundsAsked: 2,
  minVolts: 7,
  ownAmps: 0.4,
  gapThreshold: 1.42,
};

const orrery48: EcuDefinition = {
  id: 'orrery-48',
  maker: 'Orrery',
  model: 'Orrery 48',
  outputOrder: 'by-cylinder',
  connectors: [
    { id: 'A', rows: [10, 10, 8], maxSquareMm: 2.5, sealed: true, keys: [{ edge: 'bottom', at: 0.46 }] },
    {
      id: 'B',
      rows: [10, 10],
      maxSquareMm: 1,
      sealed: true,
      keys: [
        { edge: 'bottom', at: 0.46 },
        { edge: 'left', at: 0.5 },
      ],
    },
  ],
  pins: [
    ...pinsOn('A', [
      ...times(5, injector),
      ...times(3, (n) => lowSide(n, 1.5, 0)),
      lowSide(4, 3, 1000),
      switched,
      ...times(6, ignitionLogic),
      injector(6),
      switchIn(1),
      halfBridge('motor-a', 'plus', 6),
      halfBridge('motor-a', 'minus', 6),
      ...times(3, powerGround),
      permanent,
      can('can-1', 'plus'),
      can('can-1', 'minus'),
      switchIn(2),
      switchIn(3),
    ]),
    ...pinsOn('B', [
      vr('vr-1', 'plus'),
      vr('vr-1', 'minus'),
      hall(1),
      knock(1),
      sensorGround('a'),
      sensorGround('b'),
      fiveVolts('a', 0.1),
      fiveVolts('b', 0.1),
      ...times(2, temperature),
      ...times(8, analog),
      ...times(2, frequency),
    ]),
  ],
  groups: [{ type: 'timer', name: 'motor timer', pins: ['A19', 'A20'] }],
  decoders: [
    decoder('missing-tooth', 8, 120, 4),
    decoder('even', 2, 60, 0, true),
    decoder('distributor', 2, 8, 0),
    decoder('multi-gap', 12, 60, 8, true),
  ],
  groundsAsked: 3,
  minVolts: 6.5,
  ownAmps: 0.8,
  gapThreshold: 1.6,
};

const orrery94: EcuDefinition = {
  id: 'orrery-94',
  maker: 'Orrery',
  model: 'Orrery 94',
  outputOrder: 'by-cylinder',
  connectors: [
    {
      id: 'A',
      rows: [10, 9, 9, 9],
      maxSquareMm: 2.5,
      sealed: true,
      keys: [{ edge: 'bottom', at: 0.2 }],
    },
    {
      id: 'B',
      rows: [10, 9, 9, 9],
      maxSquareMm: 1.5,
      sealed: true,
      keys: [{ edge: 'bottom', at: 0.7 }],
    },
    { id: 'C', rows: [8, 7, 7, 7], maxSquareMm: 1, sealed: true, keys: [{ edge: 'top', at: 0.5 }] },
  ],
  pins: [
    ...pinsOn('A', [
      ...times(12, injector),
      ...times(12, ignitionDriver),
      ...times(5, powerGround),
      permanent,
      switched,
      mainRelay,
      ...times(2, (n) => lowSide(n, 3, 1000)),
    ]),
    ...pinsOn('B', [
      halfBridge('motor-a', 'plus', 8, 'a'),
      halfBridge('motor-a', 'minus', 8, 'a'),
      halfBridge('motor-b', 'plus', 8, 'b'),
      halfBridge('motor-b', 'minus', 8, 'b'),
      ...times(6, (n) => lowSide(n, 3, 1000), 3),
      ...times(8, (n) => lowSide(n, 1.5, 0), 9),
      ...times(9, switchIn),
      ...times(3, analog, 6),
      can('can-1', 'plus'),
      can('can-1', 'minus'),
      can('can-2', 'plus'),
      can('can-2', 'minus'),
    ]),
    ...pinsOn('C', [
      vr('vr-1', 'plus'),
      vr('vr-1', 'minus'),
      ...times(3, hall),
      ...times(2, knock),
      one('Wideband pump cell', { kind: 'wideband', pair: 'cell-1', cell: 'pump' }),
      one('Wideband reference cell', { kind: 'wideband', pair: 'cell-1', cell: 'reference' }),
      one('Wideband cell ground', { kind: 'wideband', pair: 'cell-1', cell: 'ground' }),
      sensorGround('a'),
      sensorGround('b'),
      fiveVolts('a', 0.15),
      fiveVolts('b', 0.15),
      ...times(3, temperature),
      ...times(5, analog),
      thermocouple('egt-1', 'plus'),
      thermocouple('egt-1', 'minus'),
      ...times(2, frequency),
    ]),
  ],
  groups: [
    { type: 'timer', name: 'timer 1', pins: ['A33', 'A34', 'B5'] },
    { type: 'timer', name: 'timer 2', pins: ['B6', 'B7', 'B8', 'B9', 'B10'] },
    {
      type: 'budget',
      name: 'outputs 9 to 16 together',
      pins: ['B11', 'B12', 'B13', 'B14', 'B15', 'B16', 'B17', 'B18'],
      amps: 6,
    },
    { type: 'budget', name: '5 V a and b together', pins: ['C13', 'C14'], amps: 0.25 },
    { type: 'either', name: 'VR 1 or trigger 1', sides: [['C1', 'C2'], ['C3']] },
  ],
  decoders: [
    decoder('missing-tooth', 4, 240, 6),
    decoder('even', 2, 120, 0, true),
    decoder('distributor', 2, 12, 0),
    decoder('multi-gap', 12, 120, 10),
    decoder('uneven', 2, 24, 0),
    decoder('half-moon', 1, 2, 0),
  ],
  groundsAsked: 4,
  minVolts: 6,
  ownAmps: 1.5,
  gapThreshold: 1.6,
};

export const ecus: readonly EcuDefinition[] = [orrery26, orrery48, orrery94];
