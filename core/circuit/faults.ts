import { deviceAt, type EndKey } from '../ends/ends';
import type { Probe } from './nodes';

/** Bolted joints of the car that no wire of the loom is: the battery's clamps, the engine's strap, the body's. */
export const joints = ['battery-plus', 'battery-minus', 'strap', 'body', 'starter-cable', 'alternator-cable'] as const;
export type Joint = (typeof joints)[number];

/** One thing wrong, as a change of the circuit or of a setting. */
export type Fault =
  | { readonly type: 'open'; readonly wireId: string }
  | { readonly type: 'resistive'; readonly wireId: string; readonly ohms: number }
  | { readonly type: 'short-to-ground'; readonly wireId: string }
  | { readonly type: 'crossed'; readonly wireIds: readonly [string, string] }
  | { readonly type: 'poor-joint'; readonly joint: Joint; readonly ohms: number }
  | { readonly type: 'blown-fuse'; readonly circuitId: string }
  | { readonly type: 'relay-stuck-open'; readonly circuitId: string }
  | { readonly type: 'relay-winding-open'; readonly circuitId: string }
  | { readonly type: 'not-driven'; readonly pinId: string }
  | { readonly type: 'device-open'; readonly deviceId: string }
  | { readonly type: 'device-shorted'; readonly deviceId: string }
  /** A sensor shorted within itself from its supply to its ground: it takes the volts of all that share them. */
  | { readonly type: 'supply-shorted'; readonly deviceId: string }
  | { readonly type: 'no-pull-up'; readonly pinId: string }
  | { readonly type: 'setting'; readonly setting: 'wrong-wheel' | 'leads-swapped' | 'wrong-edge' | 'output-order' };

export function faultId(fault: Fault): string {
  switch (fault.type) {
    case 'open':
    case 'resistive':
    case 'short-to-ground':
      return `${fault.type}:${fault.wireId}`;
    case 'poor-joint':
      return `poor-joint:${fault.joint}`;
    case 'crossed':
      return `crossed:${fault.wireIds.join('&')}`;
    case 'blown-fuse':
    case 'relay-stuck-open':
    case 'relay-winding-open':
      return `${fault.type}:${fault.circuitId}`;
    case 'not-driven':
    case 'no-pull-up':
      return `${fault.type}:${fault.pinId}`;
    case 'device-open':
    case 'device-shorted':
    case 'supply-shorted':
      return `${fault.type}:${fault.deviceId}`;
    case 'setting':
      return `setting:${fault.setting}`;
  }
}

/** Reads a fault as `faultId` writes it; a bad contact with its ohms after an @. Null where the text names none. */
export function readFault(text: string): Fault | null {
  const colon = text.indexOf(':');
  const [type, rest] = [text.slice(0, colon), text.slice(colon + 1)];
  if (colon < 1 || rest === '') return null;
  switch (type) {
    case 'open':
    case 'short-to-ground':
      return { type, wireId: rest };
    case 'resistive': {
      const at = rest.lastIndexOf('@');
      const ohms = Number(rest.slice(at + 1));
      return at > 0 && ohms > 0 && Number.isFinite(ohms) ? { type, wireId: rest.slice(0, at), ohms } : null;
    }
    case 'poor-joint': {
      const [name, value] = rest.split('@');
      const joint = joints.find((one) => one === name);
      const ohms = Number(value);
      return joint && ohms > 0 && Number.isFinite(ohms) ? { type, joint, ohms } : null;
    }
    case 'crossed': {
      const [one, other] = rest.split('&');
      return one && other ? { type, wireIds: [one, other] } : null;
    }
    case 'blown-fuse':
    case 'relay-stuck-open':
    case 'relay-winding-open':
      return { type, circuitId: rest };
    case 'not-driven':
    case 'no-pull-up':
      return { type, pinId: rest };
    case 'device-open':
    case 'device-shorted':
    case 'supply-shorted':
      return { type, deviceId: rest };
    default:
      return null;
  }
}

/** The two wires of a crossed pair with their device ends exchanged. */
export function crossedEnds(a: { from: Probe; to: Probe }, b: { from: Probe; to: Probe }) {
  const deviceFirst = (wire: { from: Probe; to: Probe }) => deviceAt(wire.from as EndKey) !== null;
  const far = (wire: { from: Probe; to: Probe }) => (deviceFirst(wire) ? wire.from : wire.to);
  const near = (wire: { from: Probe; to: Probe }) => (deviceFirst(wire) ? wire.to : wire.from);
  return [
    { from: near(a), to: far(b) },
    { from: near(b), to: far(a) },
  ] as const;
}
