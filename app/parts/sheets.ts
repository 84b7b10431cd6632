import type { SheetId } from '~/core/rules/rule';

export interface SheetInfo {
  readonly id: SheetId;
  readonly number: number;
  readonly title: string;
  readonly question: string;
}

export const sheetList: readonly SheetInfo[] = [
  { id: 'survey', number: 1, title: 'Survey', question: 'What have I got?' },
  { id: 'allot', number: 2, title: 'Allot', question: 'Which pin does what?' },
  { id: 'trigger', number: 3, title: 'Trigger', question: 'Which wheel, and what offset?' },
  { id: 'feeds', number: 4, title: 'Feeds', question: 'What powers and grounds it?' },
  { id: 'loom', number: 5, title: 'Loom', question: 'How long, how thick, in what order?' },
  { id: 'prove', number: 6, title: 'Prove', question: 'Is every wire where the plan says?' },
  { id: 'fire-up', number: 7, title: 'Fire up', question: 'Is the next step safe?' },
  { id: 'trace', number: 8, title: 'Trace', question: 'What is wrong, and what to measure next?' },
  { id: 'book', number: 9, title: 'Book', question: 'What did I build?' },
];

export const sheetInfo = (id: SheetId): SheetInfo => sheetList.find((sheet) => sheet.id === id)!;
