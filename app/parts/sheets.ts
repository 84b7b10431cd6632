import type { SheetId } from '~/core/rules/rule';

/** A page of a sheet, with an address of its own. */
export interface SheetPage {
  readonly path: string;
  readonly name: string;
}

export interface SheetInfo {
  readonly id: SheetId;
  readonly number: number;
  readonly title: string;
  readonly question: string;
  /** Empty: the sheet is one page. */
  readonly pages: readonly SheetPage[];
}

const surveyPages = [
  { path: '', name: 'Devices' },
  { path: '/identify', name: 'Identify' },
  { path: '/donor', name: 'Donor loom' },
  { path: '/body', name: 'Body plugs' },
  { path: '/sensing', name: 'Sensing' },
  { path: '/fuel', name: 'Fuel and spark' },
  { path: '/speed', name: 'Road speed' },
  { path: '/notes', name: 'Notes' },
];
const allotPages = [
  { path: '', name: 'Desk' },
  { path: '/pinning', name: 'Pinning' },
  { path: '/io', name: 'I/O sheet' },
  { path: '/compare', name: 'Compare ECUs' },
];
const triggerPages = [
  { path: '', name: 'Wheel and offset' },
  { path: '/wheels', name: 'Wheels' },
  { path: '/bench', name: 'Bench' },
  { path: '/light', name: 'Timing light' },
];

const feedsPages = [
  { path: '', name: 'Drawing' },
  { path: '/boxes', name: 'Boxes' },
  { path: '/grounds', name: 'Grounds' },
  { path: '/table', name: 'Table' },
];

const loomPages = [
  { path: '', name: 'Plan' },
  { path: '/pieces', name: 'Pieces' },
  { path: '/plugs', name: 'Plugs' },
  { path: '/cut', name: 'Cut list' },
  { path: '/labels', name: 'Labels' },
  { path: '/board', name: 'Formboard' },
  { path: '/parts', name: 'Parts' },
];

export const sheetList: readonly SheetInfo[] = [
  { id: 'survey', number: 1, title: 'Survey', question: 'What have I got?', pages: surveyPages },
  { id: 'allot', number: 2, title: 'Allot', question: 'Which pin does what?', pages: allotPages },
  { id: 'trigger', number: 3, title: 'Trigger', question: 'Which wheel, and what offset?', pages: triggerPages },
  { id: 'feeds', number: 4, title: 'Feeds', question: 'What powers and grounds it?', pages: feedsPages },
  { id: 'loom', number: 5, title: 'Loom', question: 'How long, how thick, in what order?', pages: loomPages },
  { id: 'prove', number: 6, title: 'Prove', question: 'Is every wire where the plan says?', pages: [] },
  { id: 'fire-up', number: 7, title: 'Fire up', question: 'Is the next step safe?', pages: [] },
  { id: 'trace', number: 8, title: 'Trace', question: 'What is wrong, and what to measure next?', pages: [] },
  { id: 'book', number: 9, title: 'Book', question: 'What did I build?', pages: [] },
];

export const sheetInfo = (id: SheetId): SheetInfo => sheetList.find((sheet) => sheet.id === id)!;

/** The sheet an address shows; the first one on its way to a sheet. */
export const sheetAt = (pathname: string): SheetInfo =>
  sheetList.find(({ id }) => id === pathname.split('/')[3]) ?? sheetList[0];
