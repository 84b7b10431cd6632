import { pinIdOf } from '~/core/ecu/ecu';
import { seeded } from '~/core/trigger/synth';
import { functions, languages, lateWords, type FunctionKey, type Language } from './words';

/*
 * Pinouts as people have them, drawn by seed: what is in the ECU, how its cavities are written, how the page is laid out, in which
 * language, and what a copy did to it. Shares nothing with the reader but the names of kinds. Styles of `kept: false` are
 * not looked at while the reader is worked on; they also draw words that no other style draws.
 */
type Random = () => number;

export interface Row {
  readonly cavity: number;
  readonly words: string;
  readonly detail: string;
  readonly lead: string;
  readonly want: string;
}
interface Plug {
  readonly name: string;
  readonly rows: readonly Row[];
}
export interface Page {
  readonly plugs: readonly Plug[];
  readonly random: Random;
  readonly pick: <T>(all: readonly T[]) => T;
}
export interface Style {
  readonly name: string;
  /** Draws words that were written after the others could be read. */
  readonly late?: true;
  readonly language: Language;
  /** Names of the plugs that may be drawn; '' is one plug that the text does not name. */
  readonly plugs: readonly (readonly string[])[];
  readonly text: (page: Page) => string;
  /** Grounds and outputs of a kind in a row, for ranges and doubles. */
  readonly runs?: boolean;
  /** Two blocks that a person must join. */
  readonly joins?: boolean;
}

const COLOURS = ['BK', 'RD', 'GN', 'BU', 'YE', 'WH', 'BN', 'OG', 'GY', 'VT'];
const order: readonly (readonly [FunctionKey, number])[] = [
  ['inj', 8],
  ['ign', 8],
  ['low', 6],
  ['high', 3],
  ['analog', 5],
  ['knock', 2],
];
const singles: readonly FunctionKey[] = [
  'pump',
  'fan',
  'tacho',
  'idle',
  'boost',
  'tps',
  'map',
  'clt',
  'iat',
  'oil',
  'cam',
  'speed',
  'five',
  'permanent',
  'switched',
  'mainRelay',
  'clutch',
];

function drawPage(style: Style, seed: number): Page {
  const random = seeded(seed * 7919 + style.name.length * 104_729 + 3);
  const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;
  const words = languages[style.language];
  const say = (key: FunctionKey, n: number): string => {
    const late = style.late ? lateWords[style.language]?.[key] : undefined;
    return pick(late ?? words[key]).replace('{n}', String(n));
  };
  const list: { key: FunctionKey; n: number }[] = [];
  for (const [key, most] of order) {
    const count = 1 + Math.floor(random() * most);
    for (let n = 1; n <= count; n += 1) list.push({ key, n });
  }
  for (const key of singles) if (random() < 0.75) list.push({ key, n: 0 });
  if (random() < 0.7) for (const key of ['crankPlus', 'crankMinus'] as const) list.push({ key, n: 0 });
  if (random() < 0.7) for (const key of ['canHigh', 'canLow'] as const) list.push({ key, n: 0 });
  for (let i = 0; i < 2 + Math.floor(random() * 2); i += 1) list.push({ key: 'powerGround', n: 0 });
  for (let i = 0; i < 1 + Math.floor(random() * 2); i += 1) list.push({ key: 'sensorGround', n: 0 });
  for (let i = 0; i < Math.floor(random() * 4); i += 1) list.push({ key: 'empty', n: 0 });
  // Half of the ECUs have their functions in a row, half in any order.
  if (!style.runs && random() < 0.5) list.sort(() => random() - 0.5);
  const names = pick(style.plugs);
  const share = Math.ceil(list.length / names.length);
  const plugs = names.map((name, at): Plug => ({
    name,
    rows: list.slice(at * share, (at + 1) * share).map(({ key, n }, i): Row => {
      const output = key === 'inj' || key === 'ign' ? ` ${n}` : '';
      return {
        cavity: i + 1,
        words: say(key, n),
        detail: key === 'inj' || key === 'low' ? pick(['2 A', '1.5 A', '3 A']) : key === 'analog' ? '0-5 V' : '',
        lead: pick(COLOURS),
        want: functions[key] === 'empty' ? 'empty' : `${functions[key]}${output}`,
      };
    }),
  }));
  return { plugs, random, pick };
}

/** A drawn text with what must be found in it. */
export interface DrawnPinout {
  readonly text: string;
  readonly wants: ReadonlyMap<string, string>;
  readonly empty: ReadonlySet<string>;
}
/** The name a plug has where the text only numbers it, or does not name it. */
const plugId = (name: string): string => (name === '' ? 'A' : /^\d/.test(name) ? `X${name}` : name.toUpperCase());

export function drawPinout(style: Style, seed: number): DrawnPinout {
  const page = drawPage(style, seed);
  const all = page.plugs.flatMap(({ name, rows }) =>
    rows.map((row) => [pinIdOf(plugId(name), row.cavity), row.want] as const),
  );
  return {
    text: style.text(page),
    wants: new Map(all.filter(([, want]) => want !== 'empty')),
    empty: new Set(all.flatMap(([id, want]) => (want === 'empty' ? [id] : []))),
  };
}
