import { keepChoice, keptChoice } from './kept-choice';

/** Roles of colour, space and type. Components use these names only; the values live in global-style.ts. */
export const themeNames = ['paper', 'night'] as const;
export type ThemeName = (typeof themeNames)[number];

const COOKIE = 'gonyx-theme';

export function themeFromCookie(cookie: string | null): ThemeName | undefined {
  const value = keptChoice(COOKIE, cookie);
  return themeNames.find((name) => name === value);
}

/** Sets the theme at once and for the next visit. */
export function applyTheme(theme: ThemeName): void {
  document.documentElement.dataset.theme = theme;
  keepChoice(COOKIE, theme);
}

export function currentTheme(): ThemeName {
  const set = document.documentElement.dataset.theme;
  if (set === 'paper' || set === 'night') return set;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'paper';
}

const role = (name: string) => `var(--${name})`;
export const color = {
  paper: role('paper'),
  sheet: role('sheet'),
  raised: role('raised'),
  ink: role('ink'),
  soft: role('soft'),
  rule: role('rule'),
  pencil: role('pencil'),
  selection: role('selection'),
  selectionWash: role('selection-wash'),
  proved: role('proved'),
  provedWash: role('proved-wash'),
  fix: role('fix'),
  stop: role('stop'),
  onInk: role('on-ink'),
} as const;

export const space = {
  1: role('space-1'),
  2: role('space-2'),
  3: role('space-3'),
  4: role('space-4'),
  5: role('space-5'),
  6: role('space-6'),
} as const;
export const type = {
  small: role('type-small'),
  body: role('type-body'),
  lead: role('type-lead'),
  title: role('type-title'),
  figure: role('type-figure'),
  mono: role('font-mono'),
} as const;
export const shape = {
  radius: role('radius'),
  hair: role('hair'),
  line: role('line'),
  target: role('target'),
} as const;

/** Breakpoints: wide desk, tablet at the bench, phone at the car. */
export const at = {
  narrow: '@media (max-width: 699px)',
  /** The glass of a phone, never its print. */
  phone: '@media screen and (max-width: 699px)',
  tablet: '@media (max-width: 1099px)',
  print: '@media print',
} as const;
