import type { Ability } from '../ecu';
import { figuresIn, rules, type Confidence, type Figures, type Reading } from './terms';

export type { Confidence } from './terms';

export interface Proposal {
  readonly abilities: readonly Ability[];
  readonly confidence: Confidence;
  /** What it was read from, and what was not told; one short sentence or ''. */
  readonly why: string;
}

const emptyWords =
  /^\s*(-+|–|n\/?c|not (used|connected|fitted)|unused|no connect(ion)?|reserved|do not connect|blank|empty|plugged|spare|none|nil|\.+)?\s*$/i;
/** True for text that says that nothing is there. */
export const saysEmpty = (text: string): boolean => emptyWords.test(text);

/** A pull-up that is named without its ohms is a guess, and says so. */
function assumed(reading: Reading, figures: Figures): Reading {
  const { pullUpOhms } = reading.ability;
  if (pullUpOhms === undefined || figures.ohms !== undefined || reading.confidence === 'guess') return reading;
  return {
    ...reading,
    confidence: 'guess',
    why: `Pull-up not told: ${pullUpOhms} Ω assumed. Put in the right figure.`,
  };
}

function readClause(text: string): Reading | null {
  const figures = figuresIn(text);
  for (const rule of rules) {
    if (rule.not?.test(text)) continue;
    const match = rule.test.exec(text);
    if (match) return assumed(rule.read(text, match, figures), figures);
  }
  return null;
}

const order: readonly Confidence[] = ['sure', 'likely', 'guess', 'none'];
export const weaker = (one: Confidence, other: Confidence): Confidence =>
  order.indexOf(one) > order.indexOf(other) ? one : other;

/** Clauses that name different uses of one pin: `Injector 6 or output, 2 A`, `INJ5 / GPO5`, `alternatively ...`. */
function clauses(text: string): string[] {
  const parts = text
    .split(/\s*;\s*|\s+or\s+(?!not)|\s*\b(?:also|alt(?:ernate(?:ly)?|ernatively)?\.?|optionally)\b:?\s*/i)
    .filter((part) => part.trim() !== '');
  return parts.flatMap((part) => {
    const halves = part.split(/\s*\/\s*/);
    // A stroke parts two uses only when each side stands by itself.
    return halves.length === 2 && halves.every((half) => half.length > 2 && readClause(half) !== null)
      ? halves
      : [part];
  });
}

/**
 * Abilities proposed for one pin from its label and function text. The label is believed first; figures may stand in either.
 * Never throws; text that says nothing gives no ability and the confidence 'none'.
 */
export function proposeFrom(label: string, text = ''): Proposal {
  if (saysEmpty(label) && saysEmpty(text)) return { abilities: [], confidence: 'none', why: 'Nothing is said of it.' };
  // A label such as 'B7' or 'PIN 12' says nothing; one such as 'INJ 3' says it all.
  const whole = [label, text].filter((part) => !saysEmpty(part)).join(', ');
  const found: Ability[] = [];
  let confidence: Confidence = 'none';
  const why: string[] = [];
  for (const clause of clauses(whole)) {
    const reading = readClause(clause);
    if (!reading) continue;
    const same = found.findIndex((one) => one.kind === reading.ability.kind && one.pair === reading.ability.pair);
    if (same >= 0) {
      found[same] = { ...reading.ability, ...found[same] };
      continue;
    }
    if (found.length >= 8) break;
    found.push(reading.ability);
    confidence = confidence === 'none' ? reading.confidence : weaker(confidence, reading.confidence);
    if (reading.why !== '') why.push(reading.why);
  }
  return {
    abilities: found,
    confidence,
    why: found.length === 0 ? 'Not understood: choose what it can be.' : [...new Set(why)].join(' '),
  };
}
