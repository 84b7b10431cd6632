import { useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import { Link, redirect, useSubmit } from 'react-router';
import { styled } from 'styled-components';
import { z } from 'zod';
import { catalog } from '~/catalog';
import { draftOf, draftSchema, emptyDraft, pinoutCsv, type EcuDraft } from '~/core/ecu/draft';
import { ecuSchema, type EcuDefinition } from '~/core/ecu/ecu';
import { ecuFile } from '~/core/ecu/file';
import { plural } from '~/core/units/format';
import { PlainHead, PlainPage, PlainSheet } from '../parts/plain-page';
import { asJson, jsonRequest } from '../json-request';
import { refusedProblem } from '../storage/failure';
import { download, fileName } from '../storage/files';
import { dropDraft, dropOwnEcu, ecuDrafts, importEcus, keepDraft, keepOwnEcu, ownEcus } from '../storage/library';
import { Button } from '../ui/button';
import { Callout, Heading, Row, Small, Soft, Stack } from '../ui/text';
import { at, color, shape, space } from '../ui/theme';
import type { Route } from './+types/library-ecus';

export async function clientLoader() {
  const [own, drafts] = await Promise.all([ownEcus(), ecuDrafts()]);
  return { catalog: catalog.ecus, own, drafts };
}
clientLoader.hydrate = true as const;

const requests = jsonRequest(
  z.discriminatedUnion('intent', [
    z.object({ intent: z.literal('open'), draft: draftSchema }),
    z.object({ intent: z.literal('drop'), id: z.string() }),
    z.object({ intent: z.literal('drop-draft'), id: z.string() }),
    z.object({ intent: z.literal('keep'), ecus: z.array(ecuSchema) }),
  ]),
);
type EcusAction = Parameters<typeof requests.write>[0];

export async function clientAction({ request }: Route.ClientActionArgs) {
  const action = await requests.read(request);
  try {
    switch (action.intent) {
      case 'open': {
        await keepDraft(action.draft);
        return redirect(`/library/ecus/${action.draft.id}`);
      }
      case 'drop':
        await dropOwnEcu(action.id);
        return { done: 'Removed from the library. Builds that use it keep their own copy.' };
      case 'drop-draft':
        await dropDraft(action.id);
        return { done: 'The draft is thrown away.' };
      case 'keep':
        for (const ecu of action.ecus) await keepOwnEcu(ecu);
        return { done: `${plural(action.ecus.length, 'ECU')} kept in the library.` };
    }
  } catch (error) {
    return { problem: refusedProblem(error, 'The library was not changed').sentence };
  }
}

const freshId = () => `ecu-${crypto.randomUUID().slice(0, 8)}`;

export default function EcusRoute({ loaderData, actionData }: Route.ComponentProps) {
  const { own, drafts, catalog: listed } = loaderData;
  const submit = useSubmit();
  const [said, setSaid] = useState<{ tone: 'stop' | 'note'; text: string } | null>(null);
  const send = (action: EcusAction) => void submit(requests.write(action), asJson);
  const open = (draft: EcuDraft) => send({ intent: 'open', draft });
  const onFile = async (file: File | undefined) => {
    if (!file) return;
    const read = await importEcus(await file.text());
    if (!read.ok) {
      setSaid({ tone: 'stop', text: `${file.name}: ${read.problem.sentence} Nothing was changed.` });
      return;
    }
    setSaid({
      tone: 'note',
      text: `${file.name}: ${plural(read.value.fresh.length, 'new ECU')}, ${read.value.same} you have already.`,
    });
    if (read.value.fresh.length > 0) send({ intent: 'keep', ecus: read.value.fresh });
  };
  return (
    <PlainPage>
      <title>ECUs · Gonyx</title>
      <PlainSheet>
        <PlainHead>
          <div>
            <h1>ECUs</h1>
            <Soft>
              No maker's ECU is known to Gonyx: paste the pinout of yours once, and every build can use it.{' '}
              {listed.length} made-up examples stand in the catalog.
            </Soft>
          </div>
          <Row>
            <Button weight="act" onPress={() => open(emptyDraft(freshId()))}>
              New ECU
            </Button>
            <FileTrigger
              acceptedFileTypes={['.json', 'application/json']}
              onSelect={(files) => void onFile(files?.[0])}
            >
              <Button>Import ECUs</Button>
            </FileTrigger>
            <Button
              isDisabled={own.length === 0}
              onPress={() => download('own-ecus.gonyx-ecus.json', 'application/json', ecuFile(own))}
            >
              Export yours
            </Button>
            <Link to="/library">Kinds</Link>
            <Link to="/">Garage</Link>
          </Row>
        </PlainHead>
        <div role="status" aria-live="polite">
          {actionData && 'done' in actionData && <Small>{actionData.done}</Small>}
          {actionData && 'problem' in actionData && <Callout $tone="stop">{actionData.problem}</Callout>}
          {said && <Callout $tone={said.tone}>{said.text}</Callout>}
        </div>
        {drafts.length > 0 && (
          <Stack $gap={2}>
            <Heading>In the making</Heading>
            <ul>
              {drafts.map((draft) => (
                <EcuRow key={draft.id}>
                  <span>
                    <strong>{draft.model || 'Without a name'}</strong>
                    <br />
                    <Small>{plural(draft.pins.length, 'cavity', 'cavities')} so far</Small>
                  </span>
                  <Row $gap={3}>
                    <Link to={`/library/ecus/${draft.id}`}>Go on</Link>
                    <Button weight="quiet" onPress={() => send({ intent: 'drop-draft', id: draft.id })}>
                      Throw away
                    </Button>
                  </Row>
                </EcuRow>
              ))}
            </ul>
          </Stack>
        )}
        <Stack $gap={2}>
          <Heading>Your own</Heading>
          {own.length === 0 && <Small>None yet. Copy the pinout out of the manual and paste it into a new ECU.</Small>}
          <ul>
            {own.map((ecu) => (
              <EcuRow key={ecu.id}>
                <Described ecu={ecu} />
                <Row $gap={3}>
                  <Button weight="quiet" aria-label={`Edit ${ecu.model}`} onPress={() => open(draftOf(ecu))}>
                    Edit
                  </Button>
                  <Button
                    weight="quiet"
                    aria-label={`CSV of ${ecu.model}`}
                    onPress={() => download(fileName(ecu.model, 'csv'), 'text/csv', pinoutCsv(draftOf(ecu)))}
                  >
                    CSV
                  </Button>
                  <Button
                    weight="quiet"
                    aria-label={`Remove ${ecu.model}`}
                    onPress={() => send({ intent: 'drop', id: ecu.id })}
                  >
                    Remove
                  </Button>
                </Row>
              </EcuRow>
            ))}
          </ul>
        </Stack>
        <Stack $gap={2}>
          <Heading>Catalog</Heading>
          <ul>
            {listed.map((ecu) => (
              <EcuRow key={ecu.id}>
                <Described ecu={ecu} />
                <Row $gap={3}>
                  <Button
                    weight="quiet"
                    aria-label={`Copy and change ${ecu.model}`}
                    onPress={() => open({ ...draftOf(ecu), id: freshId(), model: `${ecu.model}, own` })}
                  >
                    Copy and change
                  </Button>
                  <Button
                    weight="quiet"
                    aria-label={`CSV of ${ecu.model}`}
                    onPress={() => download(fileName(ecu.model, 'csv'), 'text/csv', pinoutCsv(draftOf(ecu)))}
                  >
                    CSV
                  </Button>
                </Row>
              </EcuRow>
            ))}
          </ul>
        </Stack>
      </PlainSheet>
    </PlainPage>
  );
}

function Described({ ecu }: { ecu: EcuDefinition }) {
  const count = (kind: string) =>
    ecu.pins.filter((pin) => pin.abilities.some((ability) => ability.kind === kind)).length;
  return (
    <span>
      <strong>{ecu.model}</strong>
      <br />
      <Small>
        {plural(ecu.pins.length, 'cavity', 'cavities')} on {plural(ecu.connectors.length, 'connector')} ·{' '}
        {count('injector')} injectors,{' '}
        {count('ignition-logic') + count('ignition-driver') > 0 &&
          `${Math.max(count('ignition-logic'), count('ignition-driver'))} ignition, `}
        {count('analog')} analog, {count('low-side')} low-side
        {ecu.note ? ` · ${ecu.note}` : ''}
      </Small>
    </span>
  );
}

export function HydrateFallback() {
  return (
    <PlainPage aria-busy="true">
      <PlainSheet>
        <PlainHead>
          <h1>ECUs</h1>
        </PlainHead>
      </PlainSheet>
    </PlainPage>
  );
}

const EcuRow = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: ${space[4]};
  align-items: center;
  padding: ${space[2]} 0;
  border-bottom: ${shape.hair} solid ${color.rule};
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
    gap: ${space[1]};
    justify-items: start;
  }
`;
