import type { Ability, AbilityKind } from '../ecu';
import { inEnglish, wordsFor } from './glossary';
import { figuresIn, type Figures } from './figures';
import type { Confidence, Reading } from './reading';
import { rules } from './terms';

export type { Confidence } from './reading';

export interface Proposal {
  readonly abilities: readonly Ability[];
  readonly confidence: Confidence;
  /** What it was read from, and what was not told; one short sentence or ''. */
  readonly why: string;
}

const emptyWords = new RegExp(
  `^\\s*\\(?(-+|–|—|\\.+|…|${wordsFor('empty').replace(/~/g, '[^\\s]*')})?\\)?\\.?\\s*$`,
  'i',
);
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

/** `EGT1+` as `EGT 1 +`: tried where the words as written say nothing. */
const spaced = (text: string): string => text.replace(/([A-Za-z]{2,})(\d)/g, '$1 $2').replace(/(\d)([+-])/g, '$1 $2');

const readClause = (text: string): Reading | null => readWords(text) ?? readWords(spaced(text));

function readWords(text: string): Reading | null {
  const figures = figuresIn(text);
  for (const rule of rules) {
    if (rule.not?.test(text)) continue;
    const match = rule.test.exec(text);
    if (match) return checked(assumed(rule.read(text, match, figures), figures), text);
  }
  return null;
}

/** Figures of the text that no ability carries: told, so that the person can put them where they belong. */
function unusedFigures(text: string, abilities: readonly Ability[]): string[] {
  const { amps, hz, ohms } = figuresIn(text);
  const held = abilities.flatMap((one) => [one.maxAmps, one.holdAmps, one.maxHz, one.minOhms, one.pullUpOhms]);
  const left = [
    ...(amps !== undefined && !held.includes(amps) ? [`${amps} A`] : []),
    ...(hz !== undefined && !held.includes(hz) ? [`${hz} Hz`] : []),
    ...(ohms !== undefined && !held.includes(ohms) ? [`${ohms} Ω`] : []),
  ];
  return left.length === 0 ? [] : [`Not used: ${left.join(', ')}.`];
}

/** Which way a pin works: what it gives, what it takes, what feeds it. */
const ways: Readonly<Record<'out' | 'in', ReadonlySet<AbilityKind>>> = {
  out: new Set([
    'injector',
    'ignition-logic',
    'ignition-driver',
    'low-side',
    'high-side',
    'half-bridge',
    'stepper',
    'main-relay',
  ]),
  in: new Set(['analog', 'switch', 'frequency', 'vr', 'hall', 'knock', 'thermocouple']),
};

/** A reading whose kind works the other way than the words say is a guess, and says so. */
function checked(reading: Reading, text: string): Reading {
  const { kind } = reading.ability;
  const says = (word: RegExp) => word.test(text);
  const [out, into] = [says(/\boutputs?\b|\bout\b(?!\s*of)/i), says(/\binputs?\b/i)];
  if (out === into) return reading;
  const wrong = out ? ways.in.has(kind) || kind === 'permanent' : ways.out.has(kind);
  return wrong
    ? {
        ...reading,
        confidence: 'guess',
        why: `Read as ${kind}, though it is called an ${out ? 'output' : 'input'}. Which is it?`,
      }
    : reading;
}

/** A label and what stands beside it that work opposite ways: both are shown, and neither is believed. */
function disagreement(label: string, text: string): Proposal | null {
  if (saysEmpty(label) || saysEmpty(text)) return null;
  const [one, other] = [readClause(inEnglish(label)), readClause(inEnglish(text))];
  if (!one || !other) return null;
  const opposite =
    (ways.out.has(one.ability.kind) && ways.in.has(other.ability.kind)) ||
    (ways.in.has(one.ability.kind) && ways.out.has(other.ability.kind));
  return opposite
    ? {
        abilities: [one.ability, other.ability],
        confidence: 'guess',
        why: `'${label.slice(0, 40)}' reads as ${one.ability.kind}, what stands beside it as ${other.ability.kind}. Which is it?`,
      }
    : null;
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
/** A ground for the ECU or for the sensors, as the builder likes. */
const eitherGround =
  /\b(any|either|common|shared|universal)[\s-]*(gnd|ground|earth)s?\b|\b(power|pwr)\s*(or|and|\/|&|\+|,|;)\s*(sensor|signal|sig)[\s-]*(gnd|ground|earth)\b|\b(sensor|signal|sig)\s*(or|and|\/|&|\+|,|;)\s*(power|pwr)[\s-]*(gnd|ground|earth)\b/i;

export function proposeFrom(label: string, text = ''): Proposal {
  if (saysEmpty(label) && saysEmpty(text)) return { abilities: [], confidence: 'none', why: 'Nothing is said of it.' };
  // A label such as 'B7' or 'PIN 12' says nothing; one such as 'INJ 3' says it all.
  const said = [label, text].filter((part) => !saysEmpty(part)).join(', ');
  const whole = inEnglish(said);
  if (eitherGround.test(whole))
    return {
      abilities: [{ kind: 'power-ground' }, { kind: 'sensor-ground' }],
      confidence: 'sure',
      why: 'The ECU and the sensors may both return here.',
    };
  const opposite = disagreement(label, text);
  if (opposite) return opposite;
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
    why:
      found.length === 0
        ? 'Not understood: choose what it can be.'
        : [...new Set([...why, ...unusedFigures(whole, found)])].join(' '),
  };
}
