import type { DeviceKind } from '../devices/kind';
import type { Ability } from '../ecu/ecu';
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
  /** Where a wire that bites through its sleeve lands. */
  readonly body: number;
}

/** What a branch measures in a scenario. Ohms of parts, `spread` the share they usually stray by, volts from its second node to its first. */
export type Law =
  | { readonly is: 'ohms'; readonly ohms: number; readonly spread: number }
  /** There while the ECU hangs on its plugs. */
  | { readonly is: 'plugged'; readonly ohms: number; readonly spread: number }
  | { readonly is: 'battery'; readonly clampOhms: number }
  | { readonly is: 'key'; readonly live: 'always' | 'run' | 'start' }
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
  /** Volts across it from which on what runs through it opens it. */
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
