/*
 * Search by what people say. Words are looked for at the beginnings of words first, so that 'oil' finds oil before coil; a phrase
 * that stands for the same thing finds it by any of its names (common practice: general terms of the trade).
 */
const same: readonly (readonly string[])[] = [
  [
    'electronic throttle',
    'drive by wire',
    'dbw',
    'e throttle',
    'throttle motor',
    'motor throttle',
    'electric throttle',
    'throttle body motor',
  ],
  [
    'coolant temperature',
    'water temperature',
    'engine temperature',
    'coolant sensor',
    'water temp',
    'coolant temp',
    'clt',
    'ect',
  ],
  ['air temperature', 'intake temperature', 'charge temperature', 'air temp', 'intake temp', 'iat'],
  ['manifold pressure', 'map sensor', 'boost sensor', 'intake pressure', 'vacuum sensor'],
  ['throttle position', 'tps'],
  ['pedal', 'accelerator', 'gas pedal'],
  ['crank sensor', 'crankshaft sensor', 'ckp', 'rpm sensor', 'engine speed sensor'],
  ['cam sensor', 'camshaft sensor', 'cmp', 'phase sensor'],
  ['oxygen sensor', 'lambda', 'o2 sensor', 'lambda sensor', 'wideband', 'narrow band', 'afr'],
  ['tachometer', 'rev counter', 'tacho', 'tach'],
  ['idle valve', 'idle control', 'iac', 'isc', 'idle stepper'],
  ['boost solenoid', 'boost control', 'wastegate solenoid', 'wastegate valve'],
  ['cam phaser', 'vvt', 'variable cam', 'cam control'],
  ['fuel composition', 'flex fuel', 'ethanol sensor'],
  ['speed sensor', 'vehicle speed', 'vss', 'wheel speed'],
  ['warning lamp', 'check engine', 'engine lamp', 'mil'],
  ['exhaust thermocouple', 'exhaust temperature', 'egt'],
  ['knock sensor', 'detonation sensor'],
  ['ignition coil', 'coil', 'spark coil', 'coil pack'],
  ['fuel injector', 'injector'],
  ['starter', 'starter motor', 'cranking motor'],
  ['alternator', 'generator', 'dynamo'],
  ['ground', 'earth'],
  ['air mass', 'maf', 'air flow meter', 'mass air flow'],
  ['canister purge', 'evap', 'carbon canister'],
  ['clutch switch', 'clutch pedal switch'],
  ['brake switch', 'brake light switch'],
  ['fan', 'cooling fan', 'radiator fan'],
];

/** Lower-case words with single blanks about them, so that a phrase can be looked for whole. */
const plain = (text: string): string =>
  ` ${text
    .toLowerCase()
    .normalize('NFC')
    .replace(/[^\p{L}\p{N}+]+/gu, ' ')
    .trim()} `;

/** How well a word fits a text: 0 a whole word, 1 the beginning of one, 5 within one; null not at all. */
function fitOf(word: string, text: string): number | null {
  if (text.includes(` ${word} `)) return 0;
  if (text.includes(` ${word}`)) return 1;
  return text.includes(word) ? 5 : null;
}

/** What is said beside a name, against the name itself; another word for it; its words side by side. */
const BESIDE = 2.5;
const OTHER_WORD = 2;
const TOGETHER = 1;
const LEADS = 0.25;

/** A way to read the query: words that must all fit, and how far it is from what was typed. */
interface Reading {
  readonly words: readonly string[];
  readonly distance: number;
  /** Phrase that is nearer where its words stand together; '' for none. */
  readonly phrase: string;
}

/** The query as typed, and with each phrase it holds said in its other ways. */
function readings(query: string): Reading[] {
  const typed = plain(query);
  const words = (text: string) => text.trim().split(' ').filter(Boolean);
  const list: Reading[] = [{ words: words(typed), distance: 0, phrase: typed.trim() }];
  for (const group of same) {
    // The longest phrase of the group that was typed: 'throttle motor' before 'throttle'.
    const said = [...group].sort((a, b) => b.length - a.length).find((phrase) => typed.includes(` ${phrase} `));
    if (said === undefined) continue;
    for (const other of group)
      if (other !== said)
        list.push({ words: words(typed.replace(` ${said} `, ` ${other} `)), distance: OTHER_WORD, phrase: other });
  }
  return list;
}

/** Distance of a text from a query, 0 the nearest; null where it does not fit at all. */
function distanceOf(list: readonly Reading[], name: string, more: string): number | null {
  const [own, rest] = [plain(name), plain(more)];
  let best: number | null = null;
  for (const { words, distance, phrase } of list) {
    // Of equals the one that begins with what was typed.
    const leads = words.length > 0 && own.startsWith(` ${words[0]}`);
    let sum = distance - (leads ? LEADS : 0) - (phrase !== '' && own.includes(` ${phrase} `) ? TOGETHER : 0);
    for (const word of words) {
      const inName = fitOf(word, own);
      // What is only said beside the name is further off than another word for the name.
      const beside = fitOf(word, rest);
      const fit = Math.min(inName ?? Infinity, beside === null ? Infinity : beside + BESIDE);
      sum += fit;
      if (sum === Infinity) break;
    }
    if (sum < (best ?? Infinity)) best = sum;
  }
  return best;
}

/**
 * Items that fit a query, nearest first, else in the order given; all of them for an empty query. `words` gives an item's name
 * and what else is said of it. O(items x words).
 */
export function find<T>(
  query: string,
  items: readonly T[],
  words: (item: T) => readonly [name: string, more: string],
): T[] {
  if (query.trim() === '') return [...items];
  const list = readings(query);
  return items
    .flatMap((item, order) => {
      const distance = distanceOf(list, ...words(item));
      return distance === null || distance === Infinity ? [] : [{ item, distance, order }];
    })
    .sort((one, other) => one.distance - other.distance || one.order - other.order)
    .map(({ item }) => item);
}
