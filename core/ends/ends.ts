/**
 * An end is a place a wire can land. `EndRef` says what it is; `EndKey` is how it is written where it must be a name: keys of
 * maps, ids of wires and of tests, files. Keys are made and read in this file only; nothing else knows how they are spelled.
 */
export type PartKind =
  | 'fuse'
  | 'relay'
  | 'switch'
  | 'button'
  | 'resistor'
  | 'diode'
  | 'splice'
  | 'busbar'
  | 'ground'
  | 'battery'
  | 'tap'
  | 'key'
  | 'shield'
  /** A plug in the loom that parts its wires: its port is a cavity, in which both halves meet. */
  | 'plug';

export type EndRef =
  | { readonly of: 'ecu'; readonly pin: string }
  | { readonly of: 'device'; readonly device: string; readonly terminal: string }
  /** A part of the feeds: `port` is its terminal, or '' where it has but one. */
  | { readonly of: 'part'; readonly kind: PartKind; readonly part: string; readonly port: string };

declare const written: unique symbol;
export type EndKey = string & { readonly [written]: 'end' };

/** What names a part of the plan of feeds: an end of it without its port. Made by `partId` only. */
export type PartId = string & { readonly [written]: 'end' | 'part' };

export type RelayTerminal = '30' | '87' | '87a' | '85' | '86';

/** How the kinds of parts are written, and whether a port follows the name. */
const spelled: Readonly<Record<PartKind, { readonly prefix: string; readonly ports: boolean }>> = {
  fuse: { prefix: 'fuse', ports: true },
  relay: { prefix: 'relay', ports: true },
  switch: { prefix: 'switch', ports: true },
  button: { prefix: 'button', ports: true },
  resistor: { prefix: 'res', ports: true },
  diode: { prefix: 'diode', ports: true },
  splice: { prefix: 'splice', ports: false },
  busbar: { prefix: 'bar', ports: false },
  ground: { prefix: 'gnd', ports: false },
  battery: { prefix: 'bat', ports: false },
  /** A feed of the car that the loom draws from. */
  tap: { prefix: 'tap', ports: false },
  key: { prefix: 'key', ports: false },
  shield: { prefix: 'shield', ports: false },
  plug: { prefix: 'plug', ports: true },
};
const partOf = new Map(
  (Object.keys(spelled) as PartKind[]).map((kind) => [spelled[kind].prefix, { kind, ports: spelled[kind].ports }]),
);

const write = (text: string): EndKey => text as EndKey;

export function endKey(ref: EndRef): EndKey {
  if (ref.of === 'ecu') return write(`ecu:${ref.pin}`);
  if (ref.of === 'device') return write(`dev:${ref.device}.${ref.terminal}`);
  const { prefix, ports } = spelled[ref.kind];
  return write(ports ? `${prefix}:${ref.part}.${ref.port}` : `${prefix}:${ref.part}`);
}

/** What a text names as an end, or null: for what comes from outside, such as a command line. */
export function readEnd(text: string): EndRef | null {
  const colon = text.indexOf(':');
  if (colon < 0) return null;
  const [prefix, rest] = [text.slice(0, colon), text.slice(colon + 1)];
  if (prefix === 'ecu') return rest === '' ? null : { of: 'ecu', pin: rest };
  const part = partOf.get(prefix);
  if (part && !part.ports) return { of: 'part', kind: part.kind, part: rest, port: '' };
  if (!part && prefix !== 'dev') return null;
  const dot = rest.lastIndexOf('.');
  if (dot < 1) return null;
  const [name, port] = [rest.slice(0, dot), rest.slice(dot + 1)];
  return part ? { of: 'part', kind: part.kind, part: name, port } : { of: 'device', device: name, terminal: port };
}

/** What keys name, once read: the same few thousand are asked for with every edit. */
const read = new Map<EndKey, EndRef>();
const MOST_READ = 50_000;

/** What a key names. A key that names nothing is a bug: keys are made by `endKey` only. */
export function endOf(key: EndKey): EndRef {
  const known = read.get(key);
  if (known) return known;
  const ref = readEnd(key);
  if (!ref) throw new Error(`not an end: ${key}`);
  if (read.size >= MOST_READ) read.clear();
  read.set(key, ref);
  return ref;
}

export const ecuEnd = (pinId: string): EndKey => endKey({ of: 'ecu', pin: pinId });
export const deviceEnd = (deviceId: string, terminalId: string): EndKey =>
  endKey({ of: 'device', device: deviceId, terminal: terminalId });
const part = (kind: PartKind, name: string, port = ''): EndKey => endKey({ of: 'part', kind, part: name, port });
/** The end of a part: of one that has ports, at that port. */
export const partEnd = part;
export const partId = (kind: PartKind, name: string): PartId => `${spelled[kind].prefix}:${name}` as PartId;
/** Whether the ends of such a part are ports of it. */
export const hasPorts = (kind: PartKind): boolean => spelled[kind].ports;
/** What a part's id names, or null: for what comes from outside. */
export function readPart(text: string): { readonly kind: PartKind; readonly name: string } | null {
  const colon = text.indexOf(':');
  const known = partOf.get(text.slice(0, colon));
  return colon < 1 || !known || colon === text.length - 1 ? null : { kind: known.kind, name: text.slice(colon + 1) };
}
/** The part an end is a place of, or null. */
export function partAt(key: EndKey): PartId | null {
  const ref = endOf(key);
  return ref.of === 'part' ? partId(ref.kind, ref.part) : null;
}
/** A terminal of a device as needs, sensors and shared pins are named after it. */
export const terminalId = (deviceId: string, terminal: string): string => `${deviceId}.${terminal}`;
export const fuseEnd = (circuitId: string, side: 1 | 2): EndKey => part('fuse', circuitId, String(side));
export const relayEnd = (circuitId: string, terminal: RelayTerminal): EndKey => part('relay', circuitId, terminal);
export const spliceEnd = (name: string): EndKey => part('splice', name);
export const groundEnd = (place: string): EndKey => part('ground', place);
/** The far end of a cable's shield, by the device the cable goes to. */
export const shieldEnd = (deviceId: string): EndKey => part('shield', deviceId);
export const BATTERY: EndKey = part('battery', '+');
/** A cavity of a plug in the loom, by the plug's place in the tree. */
export const plugEnd = (plug: string, cavity: number): EndKey => part('plug', plug, String(cavity));
/** The battery's own posts, before the clamps: no wire of the loom lands there, but a probe does. */
export const PLUS_POST: EndKey = part('battery', 'post');
export const MINUS_POST: EndKey = part('ground', 'post');
/** Where the heavy cables end: at the starter, at the alternator, and on its case. No wire of the loom lands there, but a probe does. */
export const STARTER_STUD: EndKey = part('battery', 'starter');
export const ALTERNATOR_STUD: EndKey = part('battery', 'alternator');
export const ALTERNATOR_CASE: EndKey = part('ground', 'alternator');
/** DIN 72552: 15 is live with the key in run, 50 while it starts. */
export const KEY_RUN: EndKey = part('key', '15');
export const KEY_START: EndKey = part('key', '50');

/** The pin an end is, or null. */
export function pinAt(key: EndKey): string | null {
  const ref = endOf(key);
  return ref.of === 'ecu' ? ref.pin : null;
}
/** The device whose terminal an end is, or null. */
export function deviceAt(key: EndKey): string | null {
  const ref = endOf(key);
  return ref.of === 'device' ? ref.device : null;
}
/** What an end is a place of: a pin of the ECU, a terminal of a device, or a kind of part. */
export type EndType = 'ecu' | 'device' | PartKind;
export function endType(key: EndKey): EndType {
  const ref = endOf(key);
  return ref.of === 'part' ? ref.kind : ref.of;
}
/** The terminal or side of what an end is a place of; '' where it has but one. */
export function portOf(key: EndKey): string {
  const ref = endOf(key);
  return ref.of === 'device' ? ref.terminal : ref.of === 'part' ? ref.port : '';
}
/** Battery, key, feeds of the car and grounds: where a run ends, and a walk through copper must not go on. */
export function isSink(key: EndKey): boolean {
  const type = endType(key);
  return type === 'ground' || type === 'battery' || type === 'key' || type === 'tap';
}

/**
 * A wire is known by its two ends, in a fixed order: a changed end makes a new wire. Of several between the same two ends each
 * further one has its number.
 */
export const wireId = (from: EndKey, to: EndKey, number = 1): string =>
  `${from < to ? `${from}~${to}` : `${to}~${from}`}${number > 1 ? `#${number}` : ''}`;
/** The two ends a wire's id names, or null where it names none. */
export function endsOfWire(id: string): readonly [EndKey, EndKey] | null {
  const ends = id.replace(/#\d+$/, '').split('~');
  if (ends.length !== 2) return null;
  const [one, other] = ends.map(readEnd);
  return one && other ? [endKey(one), endKey(other)] : null;
}

/**
 * The far end of a wire as the bench notes it, once its terminal is clicked in there and pulled; what sits in the ECU is noted by
 * the wire alone.
 */
export const pinnedAt = (wire: string, end: EndKey): string => `${wire}@${end}`;
/** Whether a note of the bench is of a far end. */
export const isFarPin = (note: string): boolean => note.includes('@');

/** A device as a whole, as photographs name what they show. */
export const aboutDevice = (deviceId: string): string => `dev:${deviceId}`;
/** The device that is named so, or null. */
export const deviceNamed = (about: string): string | null =>
  about.startsWith('dev:') ? about.slice('dev:'.length) : null;
