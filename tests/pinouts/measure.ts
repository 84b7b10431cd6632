import { pinIdOf } from '~/core/ecu/ecu';
import { readPinout } from '~/core/ecu/pinout/read';
import { drawPinout, type Style } from './draw';

/** What reading of drawn texts came to: counts of cavities. */
export interface Measure {
  cavities: number;
  found: number;
  kinds: number;
  /** Read outright, and wrong: another kind, a cavity that is not there, or one that is empty. */
  sureWrong: number;
  texts: number;
  /** Texts of which less than half was found, without a word that they were not understood. */
  lostQuietly: string[];
}
export const nothing = (): Measure => ({ cavities: 0, found: 0, kinds: 0, sureWrong: 0, texts: 0, lostQuietly: [] });

/** Reads one text as a person would, who joins two blocks where asked, and adds what became of it. */
export function measure(style: Style, seed: number, to: Measure): void {
  const { text, wants, empty } = drawPinout(style, seed);
  let result = readPinout(text);
  if (result.ok && result.value.blocks?.joined) result = readPinout(result.value.blocks.joined);
  to.texts += 1;
  to.cavities += wants.size + empty.size;
  if (!result.ok) return;
  const { pins, empty: blanks, doubt } = result.value;
  const byId = new Map(pins.map((pin) => [pinIdOf(pin.connector, pin.cavity), pin]));
  let found = 0;
  for (const [id, want] of wants) {
    const pin = byId.get(id);
    if (!pin) continue;
    found += 1;
    const [first] = pin.abilities;
    const more = first ? (first.output ?? first.side) : undefined;
    const got = first ? `${first.kind}${more === undefined ? '' : ` ${more}`}` : 'nothing';
    if (got === want || (!want.includes(' ') && got.split(' ')[0] === want)) to.kinds += 1;
    else if (pin.confidence === 'sure') to.sureWrong += 1;
  }
  for (const id of empty) {
    if (blanks.includes(id)) to.kinds += 1;
    if (blanks.includes(id) || byId.has(id)) found += 1;
    if (byId.get(id)?.confidence === 'sure') to.sureWrong += 1;
  }
  for (const [id, pin] of byId) if (!wants.has(id) && !empty.has(id) && pin.confidence === 'sure') to.sureWrong += 1;
  to.found += found;
  if (found < (wants.size + empty.size) / 2 && doubt === '') to.lostQuietly.push(`${style.name}, seed ${seed}`);
}
