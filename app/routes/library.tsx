import { useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import { Link, useFetcher } from 'react-router';
import { styled } from 'styled-components';
import { z } from 'zod';
import { catalog } from '~/catalog';
import { kindSchema, systems, type DeviceKind } from '~/core/devices/kind';
import { find } from '~/core/search/find';
import { freeKindId, libraryFile } from '~/core/devices/library';
import { plural } from '~/core/units/format';
import { destinationWords } from '../parts/destination-words';
import { KindEditor } from '../parts/kind-editor';
import { asJson, jsonRequest } from '../json-request';
import { refusedProblem } from '../storage/failure';
import { download } from '../storage/files';
import { compareKinds, dropOwnKind, keepOwnKind, ownKinds } from '../storage/library';
import { lastUnits } from '../storage/units';
import { PlainHead, PlainPage, PlainSheet } from '../parts/plain-page';
import { Button } from '../ui/button';
import { Dialog, DialogActions } from '../ui/dialog';
import { TextField } from '../ui/text-field';
import { Callout, Heading, Row, Small, Soft, Stack } from '../ui/text';
import { at, color, shape, space } from '../ui/theme';
import type { Route } from './+types/library';

export const clientLoader = async () => ({ catalog: catalog.kinds, own: await ownKinds(), units: lastUnits() });
clientLoader.hydrate = true as const;

const requests = jsonRequest(
  z.discriminatedUnion('intent', [
    z.object({ intent: z.literal('keep'), kinds: z.array(kindSchema) }),
    z.object({ intent: z.literal('drop'), id: z.string() }),
  ]),
);
type LibraryAction = Parameters<typeof requests.write>[0];

export async function clientAction({
  request,
}: Route.ClientActionArgs): Promise<{ done: string } | { problem: string }> {
  const action = await requests.read(request);
  try {
    if (action.intent === 'drop') {
      await dropOwnKind(action.id);
      return { done: 'Removed from the library. Builds that use it keep their own copy.' };
    }
    for (const kind of action.kinds) await keepOwnKind(kind);
    return { done: `${plural(action.kinds.length, 'kind')} kept in the library.` };
  } catch (error) {
    return { problem: refusedProblem(error, 'The library was not changed').sentence };
  }
}

const blank = (taken: ReadonlySet<string>): DeviceKind => ({
  id: freeKindId('own kind', taken),
  name: '',
  system: 'Air and throttle',
  note: '',
  terminals: [
    { id: '1', name: 'signal', destination: { to: 'pin', ask: { kind: 'analog', pullUp: false } } },
    { id: '2', name: 'ground', destination: { to: 'sensor-ground', bank: 0 } },
  ],
  internals: [],
  traits: [],
  perCylinder: false,
  shielded: false,
  twisted: false,
  twinRisk: false,
});

type Compared = { fresh: DeviceKind[]; changed: DeviceKind[]; same: number; fileName: string };

export default function Library({ loaderData }: Route.ComponentProps) {
  const { own, catalog: listed, units } = loaderData;
  const fetcher = useFetcher<typeof clientAction>();
  const [text, setText] = useState('');
  const [editing, setEditing] = useState<{ kind: DeviceKind; isNew: boolean } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [compared, setCompared] = useState<Compared | null>(null);
  const send = (action: LibraryAction) => void fetcher.submit(requests.write(action), asJson);
  const taken = new Set([...own, ...listed].map((kind) => kind.id));
  const shown = find(text, listed, (kind) => [kind.name, `${kind.note} ${kind.system}`]);
  const keep = (kind: DeviceKind, isNew: boolean) => {
    const kept = isNew ? { ...kind, id: freeKindId(kind.name, taken) } : kind;
    send({ intent: 'keep', kinds: [kept] });
    setEditing(null);
  };
  const onFile = async (file: File | undefined) => {
    if (!file) return;
    const result = await compareKinds(await file.text());
    setProblem(result.ok ? null : `${file.name}: ${result.problem.sentence} Nothing was changed.`);
    setCompared(result.ok ? { ...result.value, fileName: file.name } : null);
  };
  const answer = fetcher.data;
  return (
    <PlainPage>
      <title>Library of kinds · Gonyx</title>
      <PlainSheet>
        <PlainHead>
          <div>
            <h1>Library of kinds</h1>
            <Soft>
              {plural(own.length, 'kind')} of your own, {listed.length} in the catalog. Yours are offered first, in
              every build.
            </Soft>
          </div>
          <Row>
            <Button weight="act" onPress={() => setEditing({ kind: blank(taken), isNew: true })}>
              New kind
            </Button>
            <FileTrigger
              acceptedFileTypes={['.json', 'application/json']}
              onSelect={(files) => void onFile(files?.[0])}
            >
              <Button>Import kinds</Button>
            </FileTrigger>
            <Button
              isDisabled={own.length === 0}
              onPress={() => download('own-kinds.gonyx-kinds.json', 'application/json', libraryFile(own))}
            >
              Export yours
            </Button>
            <Link to="/library/ecus">ECUs</Link>
            <Link to="/">Garage</Link>
          </Row>
        </PlainHead>
        <div role="status" aria-live="polite">
          {answer && 'done' in answer && <Small>{answer.done}</Small>}
          {problem && <Callout $tone="stop">{problem}</Callout>}
          {answer && 'problem' in answer && <Callout $tone="stop">{answer.problem}</Callout>}
        </div>
        <Stack $gap={2}>
          <Heading>Your own</Heading>
          {own.length === 0 && (
            <Small>
              None yet. Copy a kind of the catalog that is close to the part in your hand, and put its own terminals,
              ohms and calibration in.
            </Small>
          )}
          <ul>
            {own.map((kind) => (
              <KindRow key={kind.id}>
                <Described kind={kind} />
                <Row $gap={3}>
                  <Button
                    weight="quiet"
                    onPress={() => setEditing({ kind, isNew: false })}
                    aria-label={`Edit ${kind.name}`}
                  >
                    Edit
                  </Button>
                  <Button
                    weight="quiet"
                    onPress={() => send({ intent: 'drop', id: kind.id })}
                    aria-label={`Remove ${kind.name}`}
                  >
                    Remove
                  </Button>
                </Row>
              </KindRow>
            ))}
          </ul>
        </Stack>
        <Stack $gap={2}>
          <Heading>Catalog</Heading>
          <div style={{ maxWidth: 320 }}>
            <TextField label="Search" passing value={text} onChange={setText} placeholder="NTC, three wires, 7 bar" />
          </div>
          {systems.map((system) => {
            const group = shown.filter((kind) => kind.system === system);
            if (group.length === 0) return null;
            return (
              <section key={system} aria-label={system}>
                <Soft>{system}</Soft>
                <ul>
                  {group.map((kind) => (
                    <KindRow key={kind.id}>
                      <Described kind={kind} />
                      <Button
                        weight="quiet"
                        onPress={() =>
                          setEditing({ kind: { ...kind, name: `${kind.name.slice(0, 50)}, own` }, isNew: true })
                        }
                        aria-label={`Copy and change ${kind.name}`}
                      >
                        Copy and change
                      </Button>
                    </KindRow>
                  ))}
                </ul>
              </section>
            );
          })}
          {shown.length === 0 && <Small>No kind of that name.</Small>}
        </Stack>
      </PlainSheet>
      {editing && (
        <KindEditor
          title={editing.isNew ? 'A kind of your own' : editing.kind.name}
          start={editing.kind}
          units={units}
          onKeep={(kind) => keep(kind, editing.isNew)}
          onClose={() => setEditing(null)}
        />
      )}
      {compared && (
        <Dialog title="Import these kinds?" isOpen onClose={() => setCompared(null)}>
          <p>
            {compared.fileName}: {plural(compared.fresh.length, 'new kind')}, {compared.changed.length} that differ from
            yours, {compared.same} you have already.
          </p>
          {compared.changed.length > 0 && (
            <Small>Those that differ come in beside yours, under a name of their own; none is overwritten.</Small>
          )}
          <DialogActions>
            <Button onPress={() => setCompared(null)}>Leave it</Button>
            <Button
              weight="act"
              isDisabled={compared.fresh.length + compared.changed.length === 0}
              onPress={() => {
                const ids = new Set(taken);
                const beside = compared.changed.map((kind) => {
                  const id = freeKindId(kind.id, ids);
                  ids.add(id);
                  return { ...kind, id, name: `${kind.name.slice(0, 48)} (imported)` };
                });
                send({ intent: 'keep', kinds: [...compared.fresh, ...beside] });
                setCompared(null);
              }}
            >
              Import {compared.fresh.length + compared.changed.length}
            </Button>
          </DialogActions>
        </Dialog>
      )}
    </PlainPage>
  );
}

function Described({ kind }: { kind: DeviceKind }) {
  return (
    <span>
      <strong>{kind.name}</strong>
      <br />
      <Small>
        {kind.terminals
          .slice(0, 6)
          .map((terminal) => `${terminal.id} ${terminal.name} → ${destinationWords(terminal.destination)}`)
          .join(' · ')}
        {kind.terminals.length > 6 && ` · and ${kind.terminals.length - 6} more`}
      </Small>
    </span>
  );
}

export function HydrateFallback() {
  return (
    <PlainPage aria-busy="true">
      <PlainSheet>
        <PlainHead>
          <h1>Library of kinds</h1>
        </PlainHead>
      </PlainSheet>
    </PlainPage>
  );
}

const KindRow = styled.li`
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
