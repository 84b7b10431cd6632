import type { Ability } from '../ecu';
import { number, type Figures } from './figures';

/** How far a proposal can be trusted: said outright, said by what hangs on it, or only guessed. */
export type Confidence = 'sure' | 'likely' | 'guess' | 'none';

/** What one clause was read as. */
export interface Reading {
  readonly ability: Ability;
  readonly confidence: Exclude<Confidence, 'none'>;
  readonly why: string;
}

export const sideOf = (text: string): 'plus' | 'minus' | undefined =>
  /\+|\bpos(itive)?\b|\bplus\b|\b(hi|high|h)\b/i.test(text)
    ? 'plus'
    : /[-–−](?!\d)|\bneg(ative)?\b|\bminus\b|\b(lo|low|l)\b/i.test(text)
      ? 'minus'
      : undefined;
/** First number that stands for an output, not for a figure with a unit. */
const numberIn = (text: string): number | undefined => {
  const found = /(?<!\d|\d[.,])#?(\d{1,2})(?!\d|[.,]\d|\s*(?:m?A\b|k?Hz|k?Ω|k?ohm|V\b|mm|k\d))/.exec(text);
  return found ? Number(found[1]) : undefined;
};
export const sure = (ability: Ability, why = ''): Reading => ({ ability, confidence: 'sure', why });
export const likely = (ability: Ability, why: string): Reading => ({ ability, confidence: 'likely', why });
export const guess = (ability: Ability, why: string): Reading => ({ ability, confidence: 'guess', why });

export const outputNumber = (text: string): Pick<Ability, 'output'> => {
  const output = numberIn(text);
  return output !== undefined && output >= 1 && output <= 24 ? { output } : {};
};
export const amps = (figures: Figures): Pick<Ability, 'maxAmps'> => (figures.amps ? { maxAmps: figures.amps } : {});
export const pairName = (base: string, text: string): string =>
  `${base}-${numberIn(text) ?? /\b([a-d])\b(?!\s*\/)/i.exec(text.replace(/[-+]/g, ' '))?.[1]!.toLowerCase() ?? 1}`;

export function pullUp(text: string, figures: Figures): Pick<Ability, 'pullUpOhms' | 'pullUpSwitchable'> {
  if (!/pull[\s-]?up/i.test(text) || /\b(no|without) pull/i.test(text)) return {};
  return {
    pullUpOhms: figures.ohms ?? 4700,
    ...(/switchable|selectable|programmable|can be turned off|software/i.test(text) ? { pullUpSwitchable: true } : {}),
  };
}

const pwmHz = (text: string, { hz }: Figures): number | undefined =>
  hz ?? (/\bpwm\b|pulse[\s-]?width|variable|proportional/i.test(text) ? undefined : 0);

export const output = (kind: 'low-side' | 'high-side', text: string, figures: Figures): Ability => {
  const maxHz = pwmHz(text, figures);
  return { kind, ...amps(figures), ...(maxHz === undefined ? {} : { maxHz }) };
};

export function side(text: string): Pick<Ability, 'side'> {
  const at = sideOf(text.replace(/\bhigh[\s-]?speed\b/i, ''));
  return at ? { side: at } : {};
}

export function threshold(text: string): Pick<Ability, 'thresholdVolts'> {
  const found = /(?:threshold|switches at)\s*(?:of\s*)?(\d+(?:[.,]\d+)?)\s*V\b/i.exec(text);
  return found ? { thresholdVolts: number(found[1]!) } : {};
}
