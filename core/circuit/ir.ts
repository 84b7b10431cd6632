import type { DeviceKind, TraitOf } from '../devices/kind';
import type { Ability } from '../ecu/ecu';
import type { FittedCoil } from '../power/coil-feed';
import type { Nodes } from './nodes';

/**
 * A build's circuit in integers, compiled once for a build value: every branch it can have in any state, with the law that says
 * what it measures in one. Plain data: it crosses to workers. A scenario fills in values (values.ts), a fault changes some
 * of them (faults.ts), and what touches what stays as it is, so that the order of elimination does too.
 */
export interface CircuitIR {
  readonly nodes: Nodes;
  /** Both nodes of each branch, one after the other; -1 is the reference. */
  readonly ends: Int32Array;
  readonly laws: readonly Law[];
  /** Branches whose values hang on what the last round found. */
  readonly moving: Int32Array;
  /** Branch of each wire by its id, and of the joints that no wire is. */
  readonly wires: ReadonlyMap<string, number>;
  readonly joints: ReadonlyMap<string, number>;
  readonly relays: readonly RelayIR[];
  readonly fuses: readonly FuseIR[];
  readonly diodes: readonly DiodeIR[];
  readonly filaments: readonly FilamentIR[];
  readonly coils: readonly CoilIR[];
  /** Batteries, the car's own first. */
  readonly batteries: readonly BatteryIR[];
  readonly devices: ReadonlyMap<string, readonly InsideIR[]>;
  readonly rests: readonly RestIR[];
  readonly pins: readonly PinIR[];
  /** Pins that hold their current somewhere, with their node and the volts from the ECU's ground from which on they do. */
  readonly drivers: readonly { readonly pin: number; readonly node: number; readonly holdsVolts: number }[];
  readonly ecu: {
    readonly ground: number;
    readonly five: number;
    /** Its feeds, and the least volts it works from. */
    readonly feeds: readonly number[];
    readonly minVolts: number;
    /** What it is to each of its feeds, ohms. */
    readonly ownOhms: number;
  };
  /** What a running engine draws in pulses, by the branch of its mean. */
  readonly pulsed: readonly PulsedIR[];
  /** Where a wire that bites through its sleeve lands. */
  readonly body: number;
}

/** What a branch measures in a scenario. Ohms of parts, `spread` the share they usually stray by, volts from its second node to its first. */
export type Law =
  | { readonly is: 'ohms'; readonly ohms: number; readonly spread: number }
  /** There while the ECU hangs on its plugs. */
  | { readonly is: 'plugged'; readonly ohms: number; readonly spread: number }
  | { readonly is: 'battery'; readonly battery: number; readonly clampOhms: number }
  /** What charges, at the studs of the alternator. */
  | { readonly is: 'alternator' }
  | { readonly is: 'key'; readonly live: 'always' | 'accessory' | 'run' | 'start' }
  /** A switch of the car: as it rests, or thrown. */
  | { readonly is: 'switch'; readonly name: string; readonly ohms: number; readonly restsClosed: boolean }
  | { readonly is: 'button'; readonly ohms: number }
  | { readonly is: 'starter'; readonly ohms: number }
  /** The lamp terminal of an alternator that charges. */
  | { readonly is: 'charged' }
  /** Coils and injectors of a running engine by what they draw on the mean. */
  | { readonly is: 'mean'; readonly amps: number }
  /** A part at rest, and at work; what the ECU works in pulses is driven in full by its test. */
  | { readonly is: 'load'; readonly ohms: number; readonly workingOhms: number; readonly worked: boolean }
  /** Inside a sensor: all of it, or its track to the supply or to the ground. */
  | { readonly is: 'sensor'; readonly rest: number; readonly share: 'whole' | 'supply' | 'ground' }
  | { readonly is: 'fuse'; readonly fuse: number }
  | { readonly is: 'contact'; readonly relay: number; readonly closedWhen: boolean }
  | { readonly is: 'diode'; readonly diode: number }
  | { readonly is: 'filament'; readonly filament: number }
  /** The primary of a coil: what it is at rest, if anything, and while its output is tested what its current over a dwell makes of it. */
  | { readonly is: 'primary'; readonly coil: number; readonly restOhms: number | null }
  /** Within an igniter: there while the output that works it is driven. */
  | { readonly is: 'channel'; readonly pin: number }
  | { readonly is: 'rail' }
  | { readonly is: 'pin'; readonly pin: number }
  | { readonly is: 'pull-up'; readonly ohms: number };

export interface RelayIR {
  readonly name: string;
  /** Nodes of its winding, and its branches. */
  readonly i: number;
  readonly j: number;
  readonly winding: number;
  readonly contact: number;
}
export interface FuseIR {
  readonly name: string;
  readonly i: number;
  readonly j: number;
  readonly branch: number;
  readonly ohms: number;
  readonly amps: number;
  /** Volts across it from which on what runs through it opens it in time. */
  readonly opensVolts: number;
}
/** A diode, or what conducts like one: from its first node to its second, at its volts and more. */
export interface DiodeIR {
  readonly id: string;
  readonly i: number;
  readonly j: number;
  readonly volts: number;
  readonly ohms: number;
  /** When it is there: the regulator of an alternator conducts with the key on and the engine not running, what is in the ECU while that hangs on its plugs. */
  readonly when: 'always' | 'resting' | 'plugged';
}
export interface FilamentIR {
  readonly deviceId: string;
  readonly i: number;
  readonly j: number;
  readonly coldOhms: number;
  /** At the volts of a running car; null where it is told to draw nothing. */
  readonly litOhms: number | null;
  readonly litVolts: number;
}
/** A coil's primary, between its nodes, and the number of the pin that works it; -1 for none. */
export interface CoilIR {
  readonly i: number;
  readonly j: number;
  readonly pin: number;
  readonly coil: TraitOf<'coil'>;
}
/** A battery by its name in the plan, with the nodes of its posts, plus first. */
export interface BatteryIR {
  readonly name: string;
  readonly i: number;
  readonly j: number;
}
/** A coil or an injector that draws in pulses: its mean and its peak, amperes, and its coil where it is one. */
export interface PulsedIR {
  readonly branch: number;
  readonly mean: number;
  readonly peak: number;
  readonly coil: FittedCoil | null;
}
/** A branch inside a device. */
export interface InsideIR {
  readonly branch: number;
  readonly share: 'whole' | 'supply' | 'ground';
}
/** What of a kind a sensor's branch is read from. */
export interface RestIR {
  readonly kind: DeviceKind;
  readonly internal: number;
}
export interface PinIR {
  readonly id: string;
  /** The ability it is used by now. */
  readonly ability: Ability;
  readonly node: number;
  /** Branch of its pull-up; -1 where it has none. */
  readonly pullUp: number;
  readonly branch: number;
}
