import type { BodyCavity, BodySignalId, DeviceKind, Destination, Internal, Terminal, Trait } from '../devices/kind';
import type { Device } from '../build/schema';

/** What a wire of the car's own loom can be, and how it joins the engine loom. */
export interface BodySignal {
  readonly id: BodySignalId;
  readonly name: string;
  readonly note: string;
  /** Where its cavity goes in the engine loom; null is left alone. */
  readonly destination: Destination | null;
  /** Ohms from the cavity to a point of the car, on the car's side of the plug (common practice). */
  readonly inside: { readonly to: '@15' | '@50' | '@31'; readonly ohms: number } | null;
}

const output = (hz = 0): Destination => ({ to: 'pin', ask: { kind: 'low-side', amps: 0.3, hz } });
const input: Destination = { to: 'pin', ask: { kind: 'switch' } };
const line = (name: string): Destination => ({ to: 'line', line: name });

export const bodySignals: readonly BodySignal[] = [
  {
    id: 'key-feed',
    name: 'Key feed (run)',
    note: 'Live with the key in run and while cranking (15 in DIN 72552). The key circuits start here.',
    destination: { to: 'source', source: 'key-run' },
    inside: { to: '@15', ohms: 0.02 },
  },
  {
    id: 'start-signal',
    name: 'Start signal',
    note: 'Live while the key is turned to start (50 in DIN 72552).',
    destination: { to: 'source', source: 'key-start' },
    inside: { to: '@50', ohms: 0.02 },
  },
  {
    id: 'oil-lamp',
    name: 'Oil warning lamp',
    note: 'Fed in the dash; the oil switch on the engine takes it to ground.',
    destination: line('oil-lamp'),
    inside: { to: '@15', ohms: 65 },
  },
  {
    id: 'charge-lamp',
    name: 'Charge warning lamp',
    note: 'Fed in the dash; the alternator takes it to ground and is excited through it. No lamp: about 470 Ω.',
    destination: line('charge-lamp'),
    inside: { to: '@15', ohms: 65 },
  },
  {
    id: 'engine-lamp',
    name: 'Engine warning lamp',
    note: 'Fed in the dash; an ECU output takes it to ground.',
    destination: output(),
    inside: { to: '@15', ohms: 65 },
  },
  {
    id: 'tachometer',
    name: 'Tachometer',
    note: 'Count the pulses it wants a turn, and how it is driven, before it is wired.',
    destination: output(300),
    inside: { to: '@15', ohms: 10000 },
  },
  {
    id: 'temperature-gauge',
    name: 'Temperature gauge',
    note: 'Needs its own sender: sharing the ECU sensor makes both read wrong.',
    destination: line('temperature-gauge'),
    inside: { to: '@15', ohms: 120 },
  },
  {
    id: 'oil-gauge',
    name: 'Oil pressure gauge',
    note: 'Needs its own sender.',
    destination: line('oil-gauge'),
    inside: { to: '@15', ohms: 120 },
  },
  {
    id: 'speedometer',
    name: 'Speedometer',
    note: 'Driven by the ECU, or straight by the speed sensor.',
    destination: output(1000),
    inside: { to: '@15', ohms: 10000 },
  },
  {
    id: 'speed-from-car',
    name: 'Speed signal from the car',
    note: 'Pulses the car gives: an input of the ECU.',
    destination: { to: 'pin', ask: { kind: 'frequency', hz: 1000 } },
    inside: { to: '@31', ohms: 10000 },
  },
  {
    id: 'reverse-light',
    name: 'Reverse light',
    note: 'The switch on the gearbox feeds it.',
    destination: line('reverse-light'),
    inside: { to: '@31', ohms: 7 },
  },
  {
    id: 'air-conditioning',
    name: 'Air conditioning request',
    note: 'Asks for higher idle and the compressor: an input of the ECU.',
    destination: input,
    inside: { to: '@31', ohms: 100000 },
  },
  {
    id: 'clutch-switch',
    name: 'Clutch switch',
    note: 'Interlock for starting. Wired, never bridged.',
    destination: input,
    inside: { to: '@31', ohms: 1e8 },
  },
  {
    id: 'neutral-switch',
    name: 'Neutral switch',
    note: 'Interlock for starting. Wired, never bridged.',
    destination: input,
    inside: { to: '@31', ohms: 1e8 },
  },
  {
    id: 'brake-switch',
    name: 'Brake switch',
    note: 'For drive-by-wire plausibility and launch control.',
    destination: input,
    inside: { to: '@31', ohms: 1e8 },
  },
  {
    id: 'immobiliser',
    name: 'Immobiliser',
    note: 'Belongs to the car. A standalone ECU does not answer it: note what it still guards.',
    destination: null,
    inside: null,
  },
  {
    id: 'ground',
    name: 'Body ground',
    note: "The car's body.",
    destination: { to: 'ground', place: 'chassis' },
    inside: null,
  },
  { id: 'not-used', name: 'Not used', note: 'Left alone, end sealed.', destination: null, inside: null },
  {
    id: 'unknown',
    name: 'Not known yet',
    note: 'A mystery until it is measured. Never guess a wire.',
    destination: null,
    inside: null,
  },
];

export const bodySignal = (id: BodySignalId): BodySignal => bodySignals.find((signal) => signal.id === id)!;

/** Id of the device kind a body plug carries: its own, one for each plug. */
export const bodyKindId = (deviceId: string): string => `plug-${deviceId}`.slice(0, 40);

const terminalName = (cavity: BodyCavity): string => bodySignal(cavity.signal).name.slice(0, 40);

/** The device kind of a plug of the car, from its cavities. Cavities that are left alone have a terminal that goes nowhere. */
export function bodyKind(
  id: string,
  name: string,
  cavities: readonly BodyCavity[],
  tachometer: { pulsesPerTurn: number; drive: 'low-side' | 'logic' | 'coil-negative' },
): DeviceKind {
  const terminals = cavities.map((cavity): Terminal => ({
    id: cavity.cavity,
    name: terminalName(cavity),
    destination: destinationFor(cavity, tachometer.drive) ?? { to: 'nothing' },
  }));
  const internals = cavities.flatMap((cavity): Internal[] => {
    const { inside } = bodySignal(cavity.signal);
    return inside ? [{ type: 'resistor', from: cavity.cavity, to: inside.to, ohms: inside.ohms }] : [];
  });
  const has = (signal: BodySignalId) => cavities.some((cavity) => cavity.signal === signal);
  const role = (name: Extract<Trait, { type: 'role' }>['role']): Trait => ({ type: 'role', role: name });
  return {
    id,
    name,
    system: 'Body plug',
    note: 'A plug of the car, as found. Its own wires are in the car; the engine loom ends at its cavities.',
    terminals,
    internals,
    traits: [
      { type: 'body', cavities: [...cavities] },
      ...(has('tachometer') ? [{ type: 'tachometer', ...tachometer } as const, role('tachometer')] : []),
      ...(has('clutch-switch') ? [role('clutch-switch')] : []),
      ...(has('neutral-switch') ? [role('neutral-switch')] : []),
    ],
    perCylinder: false,
    shielded: false,
    twisted: false,
    twinRisk: false,
  };
}

function destinationFor(cavity: BodyCavity, drive: 'low-side' | 'logic' | 'coil-negative'): Destination | null {
  if (cavity.signal !== 'tachometer') return bodySignal(cavity.signal).destination;
  // A gauge that listens to a coil's negative is not an ECU output: its line waits for a coil or an adapter.
  return drive === 'coil-negative' ? line('tachometer') : output(300);
}

/** Wires of the car that nobody has named yet. */
export const unknownCavities = (kind: DeviceKind): BodyCavity[] =>
  kind.traits.flatMap((one) =>
    one.type === 'body' ? one.cavities.filter((cavity) => cavity.signal === 'unknown') : [],
  );

export const isBodyPlug = (device: Device, kind: DeviceKind | undefined): boolean =>
  kind !== undefined && kind.id === bodyKindId(device.id) && kind.traits.some((one) => one.type === 'body');
