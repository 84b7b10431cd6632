import { useRef } from 'react';
import { z } from 'zod';
import { Link, redirect, useFetcher, useSubmit } from 'react-router';
import { draftSchema } from '~/core/ecu/draft';
import { ecuSchema } from '~/core/ecu/ecu';
import { EcuEditor } from '../parts/ecu/editor';
import { PlainHead, PlainPage, PlainSheet } from '../parts/plain-page';
import { Newest, asJson, jsonRequest } from '../json-request';
import { refusedProblem } from '../storage/failure';
import { dropDraft, ecuDraft, keepDraft, keepOwnEcu } from '../storage/library';
import { lastUnits } from '../storage/units';
import { Callout, Soft } from '../ui/text';
import type { Route } from './+types/library-ecu';

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  const draft = await ecuDraft(params.draftId);
  if (!draft)
    throw new Response('There is no such definition on this device.', {
      status: 404,
      statusText: 'There is no such definition on this device.',
    });
  return { draft, units: lastUnits() };
}
clientLoader.hydrate = true as const;
/** The page holds the draft while it is open; the store only follows. */
export const shouldRevalidate = () => false;

const requests = jsonRequest(
  z.discriminatedUnion('intent', [
    z.object({ intent: z.literal('draft'), draft: draftSchema, number: z.int() }),
    z.object({ intent: z.literal('save'), ecu: ecuSchema }),
  ]),
);
/** A draft replaces the one before it. */
const drafts = new Newest();

export async function clientAction({ request }: Route.ClientActionArgs) {
  const action = await requests.read(request);
  try {
    if (action.intent === 'draft') {
      if (drafts.take(action.number)) await keepDraft(action.draft);
      return { ok: true as const };
    }
    // The definition first: if the second step is cut off, only a finished draft is left over.
    await keepOwnEcu(action.ecu);
    await dropDraft(action.ecu.id);
  } catch (error) {
    const { sentence } = refusedProblem(error, 'The definition was not kept');
    return { problem: `${sentence} Change something to try again.` };
  }
  return redirect('/library/ecus');
}

export default function EcuRoute({ loaderData }: Route.ComponentProps) {
  const fetcher = useFetcher<typeof clientAction>();
  const submit = useSubmit();
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const answer = fetcher.data;
  return (
    <PlainPage>
      <title>ECU definition · Gonyx</title>
      <PlainSheet $width={1480}>
        <PlainHead>
          <div>
            <h1>ECU definition</h1>
            <Soft>What each pin can really do: every plan, check and sheet follows it.</Soft>
          </div>
          <Link to="/library/ecus">All ECUs</Link>
        </PlainHead>
        {answer && 'problem' in answer && <Callout $tone="stop">{answer.problem}</Callout>}
        <EcuEditor
          start={loaderData.draft}
          units={loaderData.units}
          onDraft={(draft) => {
            // Keys come fast: the last of a burst is written.
            clearTimeout(timer.current);
            timer.current = setTimeout(
              () => void fetcher.submit(requests.write({ intent: 'draft', draft, number: drafts.ask() }), asJson),
              250,
            );
          }}
          onSave={(ecu) => {
            clearTimeout(timer.current);
            void submit(requests.write({ intent: 'save', ecu }), asJson);
          }}
        />
      </PlainSheet>
    </PlainPage>
  );
}

export function HydrateFallback() {
  return (
    <PlainPage aria-busy="true">
      <PlainSheet $width={1480}>
        <PlainHead>
          <h1>ECU definition</h1>
        </PlainHead>
      </PlainSheet>
    </PlainPage>
  );
}
