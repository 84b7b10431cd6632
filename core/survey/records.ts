import { z } from 'zod';
import { colourWritings } from '../donor/colours';
import { donorWireSchema } from '../donor/wire';

const id = z.string().min(1).max(60);
const day = z.iso.date();

/** A question for a supplier, or for oneself, with its answer. */
export const questionSchema = z.object({
  id,
  text: z.string().trim().min(1).max(400),
  to: z.string().max(80),
  askedOn: day,
  answer: z.string().max(1000),
  answeredOn: day.nullable(),
  /** Donor wire or device it is about, or ''. */
  about: z.string().max(80),
});
export type Question = z.infer<typeof questionSchema>;

export const partStates = ['to-order', 'ordered', 'here'] as const;
/** A part to buy, by item. */
export const partSchema = z.object({
  id,
  item: z.string().trim().min(1).max(160),
  from: z.string().max(80),
  count: z.number().positive().max(10_000),
  /** For one, in the build's currency; null is not known yet. */
  costEach: z.number().min(0).max(1_000_000).nullable(),
  state: z.enum(partStates),
});
export type Part = z.infer<typeof partSchema>;

export const hoursSchema = z.object({
  id,
  day,
  hours: z.number().positive().max(24),
  what: z.string().max(160),
});
export type Hours = z.infer<typeof hoursSchema>;

/** A photograph's line in the build; the picture itself is kept beside it, under this id. */
export const photoSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,60}$/, 'must be lower-case letters, digits and hyphens'),
  /** A device as a whole (core/ends), `donor:<connector>`, or '' for the car as a whole. */
  about: z.string().max(80),
  caption: z.string().max(200),
  takenAt: z.iso.datetime(),
  type: z.enum(['image/jpeg', 'image/png', 'image/webp']),
  width: z.int().min(1).max(20_000),
  height: z.int().min(1).max(20_000),
  bytes: z.int().min(1).max(20_000_000),
});
export type Photo = z.infer<typeof photoSchema>;

/** What a person saw with a torch; null is not looked at yet. */
export const identifySchema = z.object({
  crankPlace: z.enum(['pulley', 'flywheel', 'block', 'distributor', 'none']).nullable(),
  crankTeeth: z.int().min(1).max(400).nullable(),
  crankGap: z.enum(['none', 'one', 'several', 'uneven']).nullable(),
  crankGapWidth: z.int().min(1).max(8).nullable(),
  crankWires: z.int().min(2).max(4).nullable(),
  crankOhms: z.number().min(0).max(1e7).nullable(),
  camTerminals: z.enum(['none', '2', '3', '5']).nullable(),
  camTeeth: z.int().min(1).max(60).nullable(),
  camShape: z.enum(['one', 'half', 'windows']).nullable(),
  coilCount: z.int().min(1).max(16).nullable(),
  coilTerminals: z.int().min(2).max(6).nullable(),
  coilTowers: z.int().min(1).max(8).nullable(),
  injectorCount: z.int().min(0).max(24).nullable(),
  injectorOhms: z.number().min(0).max(10_000).nullable(),
  sensorColour: z.string().max(60),
  headMarks: z.string().max(200),
  blockMarks: z.string().max(200),
});
export type IdentifyAnswers = z.infer<typeof identifySchema>;
export const noAnswers: IdentifyAnswers = {
  crankPlace: null,
  crankTeeth: null,
  crankGap: null,
  crankGapWidth: null,
  crankWires: null,
  crankOhms: null,
  camTerminals: null,
  camTeeth: null,
  camShape: null,
  coilCount: null,
  coilTerminals: null,
  coilTowers: null,
  injectorCount: null,
  injectorOhms: null,
  sensorColour: '',
  headMarks: '',
  blockMarks: '',
};

export const surveySchema = z.object({
  identify: identifySchema,
  donor: z.record(z.string(), donorWireSchema),
  /** Family of colour codes the donor's list is written in; `auto` goes by what occurs in it. */
  colours: z.enum(['auto', ...colourWritings]),
  questions: z.array(questionSchema).max(300),
  parts: z.array(partSchema).max(600),
  hours: z.array(hoursSchema).max(1000),
  /** ISO 4217 code of the costs. */
  currency: z.string().regex(/^[A-Z]{3}$/, 'must be a currency of three capital letters, such as EUR'),
  photos: z.array(photoSchema).max(200),
});
export type SurveyRecords = z.infer<typeof surveySchema>;
export const emptySurvey: SurveyRecords = {
  identify: noAnswers,
  donor: {},
  colours: 'auto',
  questions: [],
  parts: [],
  hours: [],
  currency: 'EUR',
  photos: [],
};

export interface Totals {
  readonly hours: number;
  readonly hoursByDay: readonly { readonly day: string; readonly hours: number }[];
  /** Sum of every part whose cost is known. */
  readonly cost: number;
  readonly costUnknown: number;
  readonly openQuestions: number;
  readonly toOrder: number;
}

/** What the work has cost so far; sums are rounded to the cent once, at the end. */
export function totalsOf(survey: SurveyRecords): Totals {
  const days = new Map<string, number>();
  for (const entry of survey.hours) days.set(entry.day, (days.get(entry.day) ?? 0) + entry.hours);
  const known = survey.parts.filter((part) => part.costEach !== null);
  return {
    hours: round(survey.hours.reduce((sum, entry) => sum + entry.hours, 0)),
    hoursByDay: [...days]
      .sort(([one], [other]) => (one < other ? -1 : 1))
      .map(([d, hours]) => ({ day: d, hours: round(hours) })),
    cost: round(known.reduce((sum, part) => sum + part.count * part.costEach!, 0)),
    costUnknown: survey.parts.length - known.length,
    openQuestions: survey.questions.filter((question) => question.answeredOn === null).length,
    toOrder: survey.parts.filter((part) => part.state === 'to-order').length,
  };
}
const round = (value: number) => Math.round(value * 100) / 100;
