import { z } from 'zod';

/** Wire sizes a crimp height is known for. */
export const MOST_CRIMPS = 12;

/**
 * What its maker says of a terminal that is crimped: given by the person from the data sheet of the terminal in hand. How long the
 * bare end is, how high the crimp stands for each wire, and with what it is made.
 */
export const terminalNotesSchema = z.object({
  name: z.string().max(60),
  /** Bare end, mm; null: not known. */
  stripMillimetres: z.number().positive().max(30).nullable(),
  tool: z.string().max(80),
  /** Height of the crimp over the conductor, by wire size. */
  crimps: z
    .array(
      z.object({
        squareMm: z.number().positive().max(95),
        heightMillimetres: z.number().positive().max(20),
      }),
    )
    .max(MOST_CRIMPS)
    .superRefine((rows, context) => {
      rows.forEach(({ squareMm }, index) => {
        if (rows.findIndex((one) => one.squareMm === squareMm) < index)
          context.addIssue({ code: 'custom', path: [index, 'squareMm'], message: 'is listed twice' });
      });
    }),
});
export type TerminalNotes = z.infer<typeof terminalNotesSchema>;

export const noNotes: TerminalNotes = { name: '', stripMillimetres: null, tool: '', crimps: [] };
export const isBare = ({ name, stripMillimetres, tool, crimps }: TerminalNotes): boolean =>
  name === '' && stripMillimetres === null && tool === '' && crimps.length === 0;

/** Height of the crimp for a wire; null where the maker gives none for that size. */
export const crimpHeight = ({ crimps }: TerminalNotes, squareMm: number): number | null =>
  crimps.find((one) => one.squareMm === squareMm)?.heightMillimetres ?? null;
