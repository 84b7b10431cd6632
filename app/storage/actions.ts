import { z } from 'zod';
import { jsonRequest } from '../json-request';

/** An edit as it comes from a page: its name and arguments are checked when it is applied. */
const askedEditSchema = z.object({ name: z.string(), args: z.unknown() });
export type AskedEdit = Readonly<z.infer<typeof askedEditSchema>>;

const actionSchema = z.discriminatedUnion('intent', [
  z.object({ intent: z.literal('edit'), calls: z.array(askedEditSchema).readonly() }),
  z.object({ intent: z.literal('undo') }),
  z.object({ intent: z.literal('redo') }),
]);
export type BuildAction = z.infer<typeof actionSchema>;

/** What a page of a build sends to its action: what is asked, and its number among all that was asked (turns.ts). */
export const buildRequests = jsonRequest(z.object({ turn: z.int(), action: actionSchema }));
