import type { Pin } from '../ecu/ecu';

/** Colour letter codes of IEC 60757. */
export const colourCodes = ['BK', 'BN', 'RD', 'OG', 'YE', 'GN', 'BU', 'VT', 'GY', 'WH', 'PK', 'TQ'] as const;
export type ColourCode = (typeof colourCodes)[number];

/** Classes of signal, with the letter shown beside every colour. */
export const signalClasses = {
  injector: 'I',
  ignition: 'C',
  output: 'O',
  analog: 'A',
  trigger: 'T',
  supply: 'P',
  ground: 'G',
  bus: 'N',
} as const;
export type SignalClass = keyof typeof signalClasses;
export const signalClassNames = Object.keys(signalClasses) as [SignalClass, ...SignalClass[]];

export function classOfPin(pin: Pick<Pin, 'abilities'>): SignalClass {
  switch (pin.abilities[0]!.kind) {
    case 'injector':
      return 'injector';
    case 'ignition-logic':
    case 'ignition-driver':
      return 'ignition';
    case 'low-side':
    case 'high-side':
    case 'stepper':
    case 'half-bridge':
    case 'main-relay':
      return 'output';
    case 'vr':
    case 'hall':
    case 'frequency':
      return 'trigger';
    case 'can':
      return 'bus';
    case 'supply-5v':
    case 'supply-out':
    case 'permanent':
    case 'switched':
      return 'supply';
    case 'sensor-ground':
    case 'power-ground':
    case 'shield':
      return 'ground';
    case 'analog':
    case 'switch':
    case 'knock':
    case 'wideband':
    case 'thermocouple':
      return 'analog';
  }
}

/**
 * What wires are coloured by: signal classes, with supplies for sensors (5 V and the ECU's other supply pins) apart from those
 * at battery volts. Supplies of different volts never look alike.
 */
export type ColourFamily = SignalClass | 'sensor-supply';

/** Two base colours a family, so that a large ECU does not run out of stripes. */
const bases: Record<ColourFamily, readonly [ColourCode, ColourCode]> = {
  injector: ['GN', 'TQ'],
  ignition: ['WH', 'PK'],
  output: ['GY', 'PK'],
  analog: ['BU', 'TQ'],
  trigger: ['VT', 'PK'],
  supply: ['RD', 'WH'],
  'sensor-supply': ['OG', 'OG'],
  ground: ['BK', 'BN'],
  bus: ['YE', 'BN'],
};

const stripes: readonly ColourCode[] = ['BK', 'RD', 'YE', 'BU', 'GN', 'WH', 'BN', 'VT', 'GY', 'OG'];

/** Colour number `index` of a class: the plain base, then its stripes, then the second base. `GN`, `GN/BK`, ... */
export function classColour(signal: ColourFamily, index: number): string {
  const [first, second] = bases[signal];
  const usable = (base: ColourCode) => ['', ...stripes.filter((stripe) => stripe !== base)];
  const ofFirst = usable(first);
  if (index < ofFirst.length) return ofFirst[index] ? `${first}/${ofFirst[index]}` : first;
  const ofSecond = usable(second);
  const stripe = ofSecond[(index - ofFirst.length) % ofSecond.length];
  return stripe ? `${second}/${stripe}` : second;
}

/** The family of a pin's own wire. */
export const familyOfPin = (pin: Pick<Pin, 'abilities'>): ColourFamily =>
  ['supply-5v', 'supply-out'].includes(pin.abilities[0]!.kind) ? 'sensor-supply' : classOfPin(pin);

export const isColour = (text: string): boolean =>
  text.split('/').length <= 2 && text.split('/').every((code) => (colourCodes as readonly string[]).includes(code));

/** Base and stripe of a colour such as `WH/BU`. */
export function splitColour(colour: string): { base: ColourCode; stripe: ColourCode | null } {
  const [base, stripe] = colour.split('/') as [ColourCode, ColourCode?];
  return { base, stripe: stripe ?? null };
}
