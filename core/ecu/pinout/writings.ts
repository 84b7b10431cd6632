import { LONGEST, type Line } from './cells';
import { wordsFor } from './glossary';
import type { Spot } from './places';

/** One way to write plug and cavity of a pin together. */
export interface Writing {
  readonly name: string;
  /** Where one starts and ends within a line, without groups. */
  readonly source: string;
  /** Reads a piece that is such a writing and nothing else. */
  readonly read: (piece: string) => Spot | null;
}

const plugWord = `(?:${wordsFor('plug')})`;
const pinWord = `(?:${wordsFor('pin')})`;
const ofWord = `(?:${wordsFor('of')})`;
const lettered = '[A-Z]{1,3}\\d{0,2}';
const plug = `(?:${lettered}|\\d{1,2})`;
/** A number that is a figure with a unit stands for no cavity. */
const cavity = '\\d{1,3}(?![\\dA-Za-z]|[.,]\\d|\\s*(?:V|volts?|m?A|k?Hz|k?Ω|k?ohms?|mm|bar|kPa|%|°)(?![A-Za-zÀ-ž]))';

/** Plugs that the text only numbers get a letter, as a pin id starts with one. */
const plugName = (name: string): string => (/^\d/.test(name) ? `X${name}` : name.toUpperCase());

const made = (name: string, shape: string, first: 'plug' | 'cavity'): Writing => {
  const whole = new RegExp(`^${shape.replace('PLUG', `(${plug})`).replace('CAV', `(${cavity})`)}$`, 'i');
  return {
    name,
    source: shape.replace('PLUG', plug).replace('CAV', cavity),
    read: (piece) => {
      const match = whole.exec(piece.trim());
      if (!match) return null;
      const [one, other] = [match[1]!, match[2]!];
      const [own, at] = first === 'plug' ? [one, other] : [other, one];
      return { connector: plugName(own), cavity: Number(at) };
    },
  };
};

/** Words of a plug or a pin need a blank or a sign behind them where a letter follows. */
const aside = (word: string): string => `(?:${word}(?![A-Za-z])\\s*)`;
const shapes: readonly Writing[] = [
  ...['/', '\\.', ':', '_', '-'].map((sign) =>
    made(
      `plug ${sign.replace('\\', '')} cavity`,
      `${aside(plugWord)}?PLUG\\s{0,2}${sign}\\s{0,2}${aside(pinWord)}?CAV`,
      'plug',
    ),
  ),
  made('plug [cavity]', `${aside(plugWord)}?PLUG\\s?[[(]\\s?CAV\\s?[\\])]`, 'plug'),
  made('(plug) cavity', `[[(]${aside(plugWord)}?PLUG[\\])]\\s?${aside(pinWord)}?CAV`, 'plug'),
  made('cavity of plug', `${aside(pinWord)}?CAV\\s+${ofWord}\\s+${aside(plugWord)}?PLUG`, 'cavity'),
  made('pin cavity, plug', `${aside(pinWord)}CAV\\s?,?\\s?${ofWord}?\\s?${aside(plugWord)}PLUG`, 'cavity'),
  made('cavity (plug)', `${aside(pinWord)}?CAV\\s?,?\\s?[[(]${aside(plugWord)}?PLUG[\\])]`, 'cavity'),
  made('cavity / plug', `${aside(pinWord)}?CAV\\s?[/@]\\s?PLUG`, 'cavity'),
  made('plug, pin cavity', `${aside(plugWord)}?PLUG[\\s,:-]*${aside(pinWord)}CAV`, 'plug'),
];

/** A piece stands by itself: no letter or digit touches it. */
const standing = (source: string): string => `(?<![A-Za-z0-9])(?:${source})(?![A-Za-z0-9])`;

/** Finds places of one writing in a line, from the left. */
export const finderOf = (source: string): RegExp => new RegExp(standing(source), 'gi');

/**
 * Writings that a text may use: they stand on a good part of its lines, name few plugs, and seldom the same pin twice. Which of
 * them it is, reading decides. O(characters).
 */
export function writingsIn(lines: readonly Line[], text: string): Writing[] {
  const full = lines.filter(({ cells }) => cells.some((cell) => cell.text !== ''));
  return shapes.filter((writing) => {
    const finder = finderOf(writing.source);
    const found = full.flatMap((line) => {
      finder.lastIndex = 0;
      const match = line.to - line.from > LONGEST ? null : finder.exec(text.slice(line.from, line.to));
      const spot = match && writing.read(match[0]);
      return spot ? [spot] : [];
    });
    if (found.length < Math.max(3, 0.3 * full.length)) return false;
    const plugs = new Set(found.map(({ connector }) => connector));
    const pins = new Set(found.map((spot) => `${spot.connector}/${spot.cavity}`));
    return plugs.size <= Math.max(2, found.length / 3) && pins.size >= 0.6 * found.length;
  });
}
