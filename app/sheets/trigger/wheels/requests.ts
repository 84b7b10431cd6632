import { z } from 'zod';
import { wheelDraftSchema } from '~/core/trigger/teeth';
import { wheelSchema } from '~/core/wheels/wheel';
import { Newest, jsonRequest } from '../../../json-request';

/** What this sheet asks of its route. */
export const wheelRequests = jsonRequest(
  z.discriminatedUnion('intent', [
    z.object({ intent: z.literal('draft'), draft: wheelDraftSchema, number: z.int() }),
    z.object({ intent: z.literal('drop-draft') }),
    z.object({ intent: z.literal('keep'), wheels: z.array(wheelSchema), fromBoard: z.boolean().optional() }),
    z.object({ intent: z.literal('drop'), id: z.string() }),
  ]),
);
export type WheelsAction = Parameters<typeof wheelRequests.write>[0];
/** What is on the board replaces what was there at the stroke before. */
export const strokesOfBoard = new Newest();
