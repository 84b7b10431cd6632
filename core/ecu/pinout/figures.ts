/** Figures found in a piece of text. */
export interface Figures {
  readonly amps?: number;
  readonly hz?: number;
  readonly ohms?: number;
  readonly volts?: number;
  readonly range?: readonly [number, number];
}

/** A figure with a point or a comma. */
export const number = (text: string): number => Number(text.replace(',', '.'));

/** Amperes, hertz, ohms and volts, in the ways people write them: `2 A`, `500mA`, `1kHz`, `4k7`, `2.49 kΩ`, `0-5 V`. */
export function figuresIn(text: string): Figures {
  const amps = /(\d+(?:[.,]\d+)?)\s*(m?)A(?:mps?|mperes?)?\b/.exec(text) ?? /(\d+(?:[.,]\d+)?)\s*(m?)amp/i.exec(text);
  const hz = /(\d+(?:[.,]\d+)?)\s*(k?)Hz\b/i.exec(text);
  const written = /\b(\d+)k(\d+)\b/i.exec(text);
  const ohms =
    /(\d+(?:[.,]\d+)?)\s*(k?)\s*(?:Ω|Ω|ohms?\b|R\b)/i.exec(text) ?? /\b(\d+(?:[.,]\d+)?)(k)\b(?!\s*Hz)/i.exec(text);
  const range = /(-?\d+(?:[.,]\d+)?)\s*(?:-|–|to|\.\.)\s*(\d+(?:[.,]\d+)?)\s*V(?:olts?)?\b/i.exec(text);
  const volts = range ? null : /(\d+(?:[.,]\d+)?)\s*V(?:olts?)?\b/i.exec(text);
  return {
    ...(amps ? { amps: number(amps[1]!) / (amps[2] ? 1000 : 1) } : {}),
    ...(hz ? { hz: number(hz[1]!) * (hz[2] ? 1000 : 1) } : {}),
    ...(written
      ? { ohms: Number(`${written[1]}.${written[2]}`) * 1000 }
      : ohms
        ? { ohms: number(ohms[1]!) * (ohms[2] ? 1000 : 1) }
        : {}),
    ...(range ? { range: [number(range[1]!), number(range[2]!)] as const } : {}),
    ...(volts ? { volts: number(volts[1]!) } : {}),
  };
}
