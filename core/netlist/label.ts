import { ALTERNATOR_STUD, PLUS_POST, STARTER_STUD, endOf, partId, type EndKey, type PartId } from '../ends/ends';

/** What devices and circuits are called, by id: what the words for an end are made of. */
export interface Names {
  readonly devices: ReadonlyMap<string, string>;
  readonly circuits: ReadonlyMap<string, string>;
  readonly parts: ReadonlyMap<PartId, string>;
}

const placeWords: Readonly<Record<string, string>> = {
  battery: 'battery negative',
  head: 'engine block',
  chassis: 'chassis ground',
  post: 'minus post of the battery',
  alternator: 'case of the alternator',
};

/** An end in words, also one that no wire lands on any more. */
export function labelOf({ names }: { readonly names: Names }, end: EndKey): string {
  const ref = endOf(end);
  if (ref.of === 'ecu') return ref.pin;
  if (ref.of === 'device') return `${names.devices.get(ref.device) ?? ref.device} · ${ref.terminal}`;
  const own = names.parts.get(partId(ref.kind, ref.part));
  const name = own ?? names.circuits.get(ref.part);
  switch (ref.kind) {
    case 'fuse':
      return `${name ?? ref.part} fuse, ${ref.port === '1' ? 'source side' : 'load side'}`;
    case 'relay':
      return `${name ?? ref.part} relay · ${ref.port}`;
    case 'splice':
      return name === undefined ? `Splice ${ref.part.replace(/^line-/, '').replace(/-/g, ' ')}` : `${name} splice`;
    case 'ground':
      return placeWords[ref.part] ?? own ?? ref.part;
    case 'shield':
      return `${names.devices.get(ref.part) ?? ref.part} · shield`;
    case 'battery':
      if (end === PLUS_POST) return 'plus post of the battery';
      if (end === STARTER_STUD) return 'plus stud of the starter';
      if (end === ALTERNATOR_STUD) return 'plus stud of the alternator';
      return own === undefined ? 'battery positive' : `${own}, positive`;
    case 'switch':
    case 'button':
    case 'resistor':
    case 'diode':
      return `${own ?? ref.part} · ${ref.port}`;
    case 'busbar':
    case 'tap':
      return own ?? ref.part;
    case 'plug':
      return `${own ?? ref.part} · ${ref.port}`;
    case 'key':
      return ref.part === '15' ? 'key, run' : 'key, start';
  }
}
