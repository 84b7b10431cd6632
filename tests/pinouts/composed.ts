import { seeded } from '~/core/trigger/synth';
import type { Style } from './draw';
import { languages, type Language } from './words';

/*
 * Styles put together by seed out of independent choices: how plug and cavity are written, how the page is laid out, what stands
 * above and below, and the language. Of odd seeds only the total has ever been looked at; they also draw the
 * late words.
 */
type Write = (plug: string, cavity: number) => string;

/** Plug and cavity as one piece, for plugs of a letter, of a letter and a figure, or of a figure. */
const writings: readonly { readonly name: string; readonly plugs: readonly string[]; readonly write: Write }[] = [
  { name: 'A12', plugs: ['A', 'B'], write: (plug, cavity) => `${plug}${cavity}` },
  { name: 'A-12', plugs: ['A', 'B'], write: (plug, cavity) => `${plug}-${cavity}` },
  { name: 'P1-12', plugs: ['P1', 'P2'], write: (plug, cavity) => `${plug}-${cavity}` },
  { name: 'P1/12', plugs: ['P1', 'P2'], write: (plug, cavity) => `${plug}/${cavity}` },
  { name: 'P1.12', plugs: ['P1', 'P2'], write: (plug, cavity) => `${plug}.${cavity}` },
  { name: 'P1:12', plugs: ['P1', 'P2'], write: (plug, cavity) => `${plug}:${cavity}` },
  { name: 'P1_12', plugs: ['P1', 'P2'], write: (plug, cavity) => `${plug}_${cavity}` },
  { name: 'P1 / 12', plugs: ['P1', 'P2'], write: (plug, cavity) => `${plug} / ${cavity}` },
  { name: 'P1[12]', plugs: ['P1', 'P2'], write: (plug, cavity) => `${plug}[${cavity}]` },
  { name: 'A(12)', plugs: ['A', 'B'], write: (plug, cavity) => `${plug}(${cavity})` },
  { name: '(2) 12', plugs: ['1', '2'], write: (plug, cavity) => `(${plug}) ${cavity}` },
  { name: '2-12', plugs: ['1', '2'], write: (plug, cavity) => `${plug}-${cavity}` },
  { name: '12 of B', plugs: ['A', 'B'], write: (plug, cavity) => `${cavity} of ${plug}` },
  { name: '12/B', plugs: ['A', 'B'], write: (plug, cavity) => `${cavity}/${plug}` },
  { name: 'pin 12 (B)', plugs: ['A', 'B'], write: (plug, cavity) => `pin ${cavity} (${plug})` },
  { name: 'plug B pin 12', plugs: ['A', 'B'], write: (plug, cavity) => `plug ${plug} pin ${cavity}` },
];

type Lay = (place: string, words: string, detail: string, lead: string, at: number) => string;
const layouts: readonly { readonly name: string; readonly head?: string; readonly lay: Lay }[] = [
  { name: 'tabs', head: 'Pin\tFunction', lay: (place, words) => `${place}\t${words}` },
  {
    name: 'tabs with colour',
    head: 'Pin\tFunction\tColour',
    lay: (place, words, _, lead) => `${place}\t${words}\t${lead}`,
  },
  { name: 'tabs, function first', head: 'Function\tPin', lay: (place, words) => `${words}\t${place}` },
  { name: 'tabs, colour between', lay: (place, words, _, lead) => `${place}\t${lead}\t${words}` },
  {
    name: 'bars',
    head: '| Pin | Function | Rating |',
    lay: (place, words, detail) => `| ${place} | ${words} | ${detail} |`,
  },
  { name: 'semicolons', head: 'Pin;Function;Rating', lay: (place, words, detail) => `${place};${words};${detail}` },
  { name: 'quoted', head: '"Pin","Function"', lay: (place, words) => `"${place}","${words}"` },
  {
    name: 'runs of spaces',
    lay: (place, words, detail) => `${place.padEnd(18)}${words.padEnd(48)}${detail}`.trimEnd(),
  },
  { name: 'colon', lay: (place, words) => `${place}: ${words}` },
  { name: 'dash', lay: (place, words) => `${place} - ${words}` },
  { name: 'equals', lay: (place, words) => `${place} = ${words}` },
  { name: 'arrow', lay: (place, words) => `${place} → ${words}` },
  { name: 'blank', lay: (place, words) => `${place} ${words}` },
  { name: 'bullet', lay: (place, words) => `• ${place}: ${words}` },
  { name: 'counted', lay: (place, words, _, __, at) => `${at}) ${place} ${words}` },
  { name: 'led by points', lay: (place, words) => `${words} ${'.'.repeat(Math.max(4, 50 - words.length))} ${place}` },
  { name: 'two lines', lay: (place, words) => `${place}\n${words}` },
  { name: 'behind a colon', lay: (place, words) => `${words}: ${place}` },
];
const titles = ['', 'Pinout of the control unit', 'Connector view from the wire side\n', 'Rev. C, page 1 of 2'];
const feet = ['', 'All outputs are protected.', '\nSee the manual for wire sizes.', 'page 2'];

/** The style of a seed. */
export function composedStyle(seed: number): Style {
  const random = seeded(seed * 15_485_863 + 17);
  const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;
  const writing = pick(writings);
  const layout = pick(layouts);
  const language = pick(Object.keys(languages) as Language[]);
  const headed = layout.head !== undefined && random() < 0.5;
  const [title, foot] = [pick(titles), pick(feet)];
  return {
    name: `${writing.name}, ${layout.name}${headed ? ', headed' : ''}${title ? ', titled' : ''}`,
    ...(seed % 2 === 1 ? { late: true as const } : {}),
    language,
    plugs: [writing.plugs],
    text: ({ plugs }) => {
      let at = 0;
      const rows = plugs.flatMap(({ name, rows: own }) =>
        own.map((row) => {
          at += 1;
          return layout.lay(writing.write(name, row.cavity), row.words, row.detail, row.lead, at);
        }),
      );
      return [title, headed ? layout.head! : '', ...rows, foot].filter((line) => line !== '').join('\n');
    },
  };
}
