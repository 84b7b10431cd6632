/**
 * An end is a place a wire can land, as one string:
 * `ecu:A13`, `dev:coil-3.C`, `fuse:main.1`, `relay:main.87`, `splice:main`, `gnd:head`, `bat:+`, `key:15`.
 */
export type End = string;
export type EndType = 'ecu' | 'dev' | 'fuse' | 'relay' | 'splice' | 'gnd' | 'bat' | 'key';

export const ecuEnd = (pinId: string): End => `ecu:${pinId}`;
export const deviceEnd = (deviceId: string, terminalId: string): End => `dev:${deviceId}.${terminalId}`;
export const fuseEnd = (circuitId: string, side: 1 | 2): End => `fuse:${circuitId}.${side}`;
export const relayEnd = (circuitId: string, terminal: '30' | '87' | '85' | '86'): End =>
  `relay:${circuitId}.${terminal}`;
export const spliceEnd = (name: string): End => `splice:${name}`;
export const groundEnd = (place: string): End => `gnd:${place}`;
export const BATTERY: End = 'bat:+';
export const KEY_RUN: End = 'key:15';
export const KEY_START: End = 'key:50';

export interface ParsedEnd {
  readonly type: EndType;
  /** Pin, device, circuit, splice or place name. */
  readonly owner: string;
  /** Terminal within the owner, or ''. */
  readonly terminal: string;
}

export function parseEnd(end: End): ParsedEnd {
  const colon = end.indexOf(':');
  const type = end.slice(0, colon) as EndType;
  const rest = end.slice(colon + 1);
  const dot = type === 'dev' || type === 'fuse' || type === 'relay' ? rest.lastIndexOf('.') : -1;
  return dot < 0
    ? { type, owner: rest, terminal: '' }
    : { type, owner: rest.slice(0, dot), terminal: rest.slice(dot + 1) };
}

/** A wire is known by its two ends, in a fixed order: a changed end makes a new wire. */
export const wireId = (from: End, to: End): string => (from < to ? `${from}~${to}` : `${to}~${from}`);
