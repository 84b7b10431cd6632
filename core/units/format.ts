/** Figures as people read them: a unit always, three significant figures, no false precision. */

const trim = (text: string): string => (text.includes('.') ? text.replace(/\.?0+$/, '') : text);

/** The least a hand meter shows, ohms. */
const LEAST_SHOWN = 0.01;
/** Ohms with a fitting prefix; `null` is an open line. */
export function formatOhms(ohms: number | null): string {
  if (ohms === null || !Number.isFinite(ohms)) return 'open line';
  if (ohms >= 1e6) return `${trim((ohms / 1e6).toFixed(2))} MΩ`;
  if (ohms >= 1e3) return `${trim((ohms / 1e3).toFixed(2))} kΩ`;
  if (ohms >= 100) return `${ohms.toFixed(0)} Ω`;
  // Less than a hand meter can show is no figure.
  if (ohms > 0 && ohms < LEAST_SHOWN) return `under ${LEAST_SHOWN} Ω`;
  return `${ohms >= 10 ? ohms.toFixed(1) : ohms.toFixed(2)} Ω`;
}

/** Volts; below 0.2 V in millivolts, as a meter shows them. */
export function formatVolts(volts: number): string {
  if (Math.abs(volts) < 0.0005) return '0 V';
  if (Math.abs(volts) < 0.2) return `${(volts * 1000).toFixed(0)} mV`;
  return `${volts.toFixed(2)} V`;
}

/** Small volts as they are told of grounds: thousandths with the minus sign of print, and how far they may be off where that is known. */
export function formatMillivolts(volts: number, strays: number | null = null): string {
  const thousandths = 1000 * volts;
  const decimals = Math.abs(thousandths) < FEW_MILLIVOLTS ? 1 : 0;
  const shown = thousandths
    .toFixed(decimals)
    .replace(/^-(?=0(\.0)?$)/, '')
    .replace('-', '−');
  return strays === null ? `${shown} mV` : `${shown} ± ${Math.max(0.1, 1000 * strays).toFixed(decimals)} mV`;
}
/** Under so many a decimal is told too. */
const FEW_MILLIVOLTS = 10;

export const formatAmps = (amps: number): string =>
  amps < 0.2 ? `${(amps * 1000).toFixed(0)} mA` : `${amps < 10 ? trim(amps.toFixed(2)) : amps.toFixed(1)} A`;

export const formatDegrees = (degrees: number): string => `${degrees.toFixed(1)}°`;

/** Joins words as a list: `a, b and c`. */
export function listWords(words: readonly string[]): string {
  if (words.length < 2) return words.join('');
  return `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}`;
}

/** A name within a sentence: its first letter small, abbreviations and units left alone. */
export const inSentence = (name: string): string =>
  /^[A-Z][a-z]/.test(name) ? name[0]!.toLowerCase() + name.slice(1) : name;

/** `a knock input`, `an injector driver`. */
export const withArticle = (words: string): string => `${/^[aeiou]/i.test(words) ? 'an' : 'a'} ${words}`;

/** `1 wire`, `3 wires`. */
export const plural = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;
