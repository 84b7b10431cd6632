import { colourCodes, type ColourCode } from '../wire/colours';

/*
 * Three families of colour codes stand on wiring diagrams and in workshop lists: by English letters, with L for blue because B
 * is black; by German letters; and IEC 60757. Some tokens mean different colours in each ('GR', 'BR', 'BL'), so a list is read
 * by the family that most of its colours belong to. Letters of the first two are common practice.
 */
export const colourWritings = ['iec', 'english', 'german'] as const;
export type ColourWriting = (typeof colourWritings)[number];

/** Whole words, in the languages of the pinout reader; understood in every family. */
const words: Readonly<Record<string, ColourCode>> = {
  black: 'BK',
  brown: 'BN',
  red: 'RD',
  orange: 'OG',
  yellow: 'YE',
  green: 'GN',
  blue: 'BU',
  violet: 'VT',
  purple: 'VT',
  grey: 'GY',
  gray: 'GY',
  slate: 'GY',
  white: 'WH',
  pink: 'PK',
  turquoise: 'TQ',
  sky: 'BU',
  lime: 'GN',
  tan: 'BN',
  beige: 'BN',
  schwarz: 'BK',
  braun: 'BN',
  rot: 'RD',
  gelb: 'YE',
  grün: 'GN',
  gruen: 'GN',
  blau: 'BU',
  violett: 'VT',
  lila: 'VT',
  grau: 'GY',
  weiß: 'WH',
  weiss: 'WH',
  rosa: 'PK',
  türkis: 'TQ',
  tuerkis: 'TQ',
  noir: 'BK',
  brun: 'BN',
  marron: 'BN',
  rouge: 'RD',
  jaune: 'YE',
  vert: 'GN',
  bleu: 'BU',
  gris: 'GY',
  blanc: 'WH',
  rose: 'PK',
  negro: 'BK',
  rojo: 'RD',
  naranja: 'OG',
  amarillo: 'YE',
  verde: 'GN',
  azul: 'BU',
  violeta: 'VT',
  blanco: 'WH',
  nero: 'BK',
  marrone: 'BN',
  rosso: 'RD',
  arancione: 'OG',
  giallo: 'YE',
  blu: 'BU',
  viola: 'VT',
  grigio: 'GY',
  bianco: 'WH',
};

const english: Readonly<Record<string, ColourCode>> = {
  B: 'BK',
  BLK: 'BK',
  W: 'WH',
  WHT: 'WH',
  R: 'RD',
  RED: 'RD',
  G: 'GN',
  GRN: 'GN',
  LG: 'GN',
  DG: 'GN',
  Y: 'YE',
  YEL: 'YE',
  L: 'BU',
  BLU: 'BU',
  SB: 'BU',
  LB: 'BU',
  DB: 'BU',
  O: 'OG',
  OR: 'OG',
  ORN: 'OG',
  BR: 'BN',
  BRN: 'BN',
  GR: 'GY',
  GRY: 'GY',
  P: 'PK',
  PNK: 'PK',
  V: 'VT',
  VIO: 'VT',
  PU: 'VT',
  PPL: 'VT',
  T: 'BN',
  BE: 'BN',
};
const german: Readonly<Record<string, ColourCode>> = {
  SW: 'BK',
  WS: 'WH',
  RT: 'RD',
  GN: 'GN',
  GE: 'YE',
  BL: 'BU',
  BR: 'BN',
  GR: 'GY',
  VI: 'VT',
  LI: 'VT',
  RS: 'PK',
  RO: 'PK',
  OR: 'OG',
  TK: 'TQ',
  HBL: 'BU',
  DBL: 'BU',
  HGN: 'GN',
};
const iec: Readonly<Record<string, ColourCode>> = Object.fromEntries(colourCodes.map((code) => [code, code]));
const tokens: Readonly<Record<ColourWriting, Readonly<Record<string, ColourCode>>>> = { iec, english, german };

/** Single letters that mean one colour only, whoever writes them: understood in IEC lists too. */
const plain: Readonly<Record<string, ColourCode>> = { R: 'RD', Y: 'YE', W: 'WH', O: 'OG', P: 'PK', V: 'VT' };

const shades = /\b(light|dark|pale|lt|dk|hell|dunkel|clair|fonc[ée]|claro|oscuro|chiaro|scuro)\b\.?/gi;

const own = (table: Readonly<Record<string, ColourCode>>, key: string): ColourCode | undefined =>
  Object.hasOwn(table, key) ? table[key] : undefined;

/** Base and stripe as written, at most two; null when there are none or more. */
function partsOf(text: string): string[] | null {
  const parts = text
    .replace(shades, ' ')
    .split(/[/\-+,|]|\bwith\b|\bstripe\b|\bmit\b|\s+/i)
    .map((part) => part.trim())
    .filter(Boolean);
  return parts.length === 0 || parts.length > 2 ? null : parts;
}

const codeOf = (part: string, writing: ColourWriting): ColourCode | undefined =>
  own(words, part.toLowerCase()) ??
  own(tokens[writing], part.toUpperCase()) ??
  (writing === 'iec' ? own(plain, part.toUpperCase()) : undefined);

/** Two letters written as one word: `BW` is black with white where letters are English. */
const grown = (parts: readonly string[], writing: ColourWriting): readonly string[] =>
  writing === 'english' &&
  parts.length === 1 &&
  /^[A-Z]{2}$/i.test(parts[0]!) &&
  codeOf(parts[0]!, writing) === undefined
    ? [...parts[0]!]
    : parts;

/**
 * IEC 60757 letters of a colour as people write it: `green/yellow`, `GN-YE`, `light blue`, or `G/L` where letters are English.
 * The first is the base, the second the stripe. Null when it cannot be told for sure.
 */
export function colourLetters(text: string, writing: ColourWriting = 'iec'): string | null {
  const parts = partsOf(text);
  if (!parts) return null;
  const codes = grown(parts, writing).map((part) => codeOf(part, writing) ?? null);
  return codes.every((code) => code !== null) ? codes.join('/') : null;
}

export interface WritingFound {
  readonly writing: ColourWriting;
  /** Colours that this family understands, of those that are written in letters. */
  readonly understood: number;
  readonly of: number;
}

/**
 * The family a list is written in, by what occurs: the one that understands most of the colours written in letters, and of equals
 * the first of IEC, English, German. Words are left out: they are the same in all.
 */
export function writingOf(colours: readonly string[]): WritingFound {
  const lettered = colours.filter((text) => {
    const parts = partsOf(text);
    return parts !== null && parts.some((part) => own(words, part.toLowerCase()) === undefined);
  });
  const found = colourWritings.map((writing) => ({
    writing,
    of: lettered.length,
    understood: lettered.filter((text) => colourLetters(text, writing) !== null).length,
  }));
  return found.reduce((best, one) => (one.understood > best.understood ? one : best));
}
