/** Damages files as cables, editors and people do. Seeded, so that a file that breaks something can be made again. */
export type Random = () => number;

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)];
const below = (random: Random, most: number): number => Math.floor(random() * most);

/** Values that are valid JSON and seldom what was meant. */
const ODD: readonly unknown[] = [
  null,
  true,
  '',
  'constructor',
  '__proto__',
  'toString',
  '..',
  'a/b|c',
  'x'.repeat(300),
  -1,
  0,
  1e300,
  -1e300,
  0.1,
  1e-12,
  [],
  {},
  [null],
  { id: 'x' },
];

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/** One change somewhere in a JSON value: replaced, removed, doubled, renamed or moved. */
function damageJson(root: Json, random: Random): Json {
  const copy = structuredClone(root);
  let node: Json = copy;
  for (let depth = 0; depth < 12; depth += 1) {
    if (typeof node !== 'object' || node === null) return copy;
    const keys: string[] = Object.keys(node);
    if (keys.length === 0) return copy;
    const key = pick(random, keys);
    const holder = node as Record<string, Json>;
    const child: Json = holder[key];
    if ((typeof child === 'object' && child !== null && random() < 0.8) || depth === 0) {
      node = child;
      continue;
    }
    const way = below(random, 5);
    if (way === 0) holder[key] = pick(random, ODD) as Json;
    else if (way === 1) {
      if (Array.isArray(node)) node.splice(Number(key), 1);
      else delete holder[key];
    } else if (way === 2 && Array.isArray(node)) node.push(child);
    else if (way === 3 && !Array.isArray(node)) {
      delete holder[key];
      holder[pick(random, ['constructor', '__proto__ ', `${key} `, 'x'])] = child;
    } else
      holder[key] = typeof child === 'number' ? child * pick(random, [-1, 1000, 1e-6]) : (pick(random, ODD) as Json);
    return copy;
  }
  return copy;
}

/** Bytes changed, cut out, doubled or strewn in. */
export function damageBytes(bytes: Uint8Array, random: Random): Uint8Array {
  const at = below(random, Math.max(1, bytes.length));
  const length = 1 + below(random, 40);
  switch (below(random, 6)) {
    case 0:
      return bytes.slice(0, at);
    case 1:
      return new Uint8Array([...bytes.subarray(0, at), ...bytes.subarray(at + length)]);
    case 2:
      return new Uint8Array([...bytes.subarray(0, at), ...bytes.subarray(at, at + length), ...bytes.subarray(at)]);
    case 3: {
      const copy = bytes.slice();
      for (let i = at; i < Math.min(bytes.length, at + length); i += 1) copy[i] = below(random, 256);
      return copy;
    }
    case 4: {
      const copy = bytes.slice();
      for (let i = 0; i < 8; i += 1) copy[below(random, copy.length)] ^= 1 << below(random, 8);
      return copy;
    }
    default:
      return bytes.subarray(at);
  }
}

const encoder = new TextEncoder();
const JUNK = ['\0', '\uFEFF', '\r', ';', '\t', '"', 'NaN', '-', '1e999', '{', '\u202E', 'ä', ',,,,', '\n\n'];

/** Text with a line, a cell or a sign changed. */
export function damageText(text: string, random: Random): string {
  const lines = text.split('\n');
  const at = below(random, lines.length);
  switch (below(random, 5)) {
    case 0:
      lines.splice(at, 1 + below(random, 3));
      break;
    case 1:
      lines.splice(at, 0, lines[below(random, lines.length)]);
      break;
    case 2: {
      const place = below(random, lines[at].length + 1);
      lines[at] = lines[at].slice(0, place) + pick(random, JUNK) + lines[at].slice(place);
      break;
    }
    case 3:
      lines[at] = lines[at].replace(/[\d.]+/, () => pick(random, ['', '-5', '1e308', 'x', '0,0,0']));
      break;
    default:
      return text.replaceAll('\n', pick(random, ['\r', '\r\n', ' ']));
  }
  return lines.join('\n');
}

/** A damaged copy of a file, in the way its kind is usually damaged or byte by byte. */
export function damage(bytes: Uint8Array, kind: 'json' | 'text' | 'bytes', random: Random): Uint8Array {
  if (kind === 'bytes' || random() < 0.3) return damageBytes(bytes, random);
  const text = new TextDecoder().decode(bytes);
  if (kind === 'text') return encoder.encode(damageText(text, random));
  let value = JSON.parse(text) as Json;
  const times = 1 + below(random, 3);
  for (let i = 0; i < times; i += 1) value = damageJson(value, random);
  return encoder.encode(JSON.stringify(value));
}
