import { FilePlus2, FolderOpen } from 'lucide-react';
import { lazy, Suspense, useEffect, useRef, useState, type RefObject } from 'react';
import { FileTrigger } from 'react-aria-components/FileTrigger';
import { Link, useFetcher, useNavigate, useRouteLoaderData } from 'react-router';
import { styled } from 'styled-components';
import { adoptTrash, lookInBin } from '../storage/bin';
import { database } from '../storage/database';
import type { ImportPreview } from '../storage/garage';
import type { GarageAnswer } from '../storage/garage-actions';
import { listCards } from '../storage/cards';
import { usage } from '../storage/room';
import { Card, type Send } from '../parts/build-card';
import { Bin, Room, Unsaved } from '../parts/garage-keeping';
import { NewVersion, useOffline } from '../parts/new-version';
import { PlainHead, PlainPage, PlainSheet } from '../parts/plain-page';
import { Button, buttonLook, type Weight } from '../ui/button';
import { Bad, Heading, Row, Small, Soft, Stack } from '../ui/text';
import { applyTheme, color, currentTheme, space } from '../ui/theme';
import type { loader as rootLoader } from '../root';
import type { Route } from './+types/garage';

const DEMO_FLAG = 'gonyx-demos-loaded';
/** Whether this device was given the demos before; true where it cannot be known. */
function hadDemos(): boolean {
  try {
    return localStorage.getItem(DEMO_FLAG) !== null;
  } catch {
    // Storage turned off: nothing would stay anyway.
    return true;
  }
}
function noteDemos(): void {
  try {
    localStorage.setItem(DEMO_FLAG, 'yes');
  } catch {
    // They are loaded again into an empty garage next time, which does no harm.
  }
}

export async function clientLoader() {
  const db = database();
  await adoptTrash(db);
  const [cards, bin, room] = await Promise.all([listCards(db), lookInBin(db, new Date()), usage()]);
  return { cards, bin, room };
}
clientLoader.hydrate = true as const;

export async function clientAction({ request }: Route.ClientActionArgs): Promise<GarageAnswer> {
  const { garageAction } = await import('../storage/garage-actions');
  return garageAction(await request.formData());
}

/** Dialogs come when they are opened: the garage itself stays light. */
const ImportDialog = lazy(() => import('../parts/garage-dialogs').then((all) => ({ default: all.ImportDialog })));

/** A demo may be opened once an answer; a deletion or a new name leaves the keyboard where the next step is. */
function useAnswer(answer: GarageAnswer | undefined, idle: boolean, undo: RefObject<HTMLButtonElement | null>): void {
  const navigate = useNavigate();
  const answered = useRef<GarageAnswer | null>(null);
  useEffect(() => {
    if (!idle || !answer || answered.current === answer) return;
    answered.current = answer;
    if (!('done' in answer)) return;
    if (answer.done === 'open' && answer.id) void navigate(`/build/${answer.id}/survey`);
    else if (answer.done === 'demos') noteDemos();
    else if (answer.undo) undo.current?.focus({ preventScroll: true });
    else if (answer.focus) document.getElementById(`build-${answer.focus}`)?.focus();
  }, [idle, answer, navigate, undo]);
}

/** What the last button did or could not do, always in sight: a garage may be many screens long. */
function Said({
  answer,
  importProblem,
  send,
  undo,
}: {
  answer: GarageAnswer | undefined;
  importProblem: string | null;
  send: Send;
  undo: RefObject<HTMLButtonElement | null>;
}) {
  const told = answer && 'done' in answer && answer.done !== 'open' && answer.done !== 'demos' ? answer : null;
  const forGood = answer && 'problem' in answer ? answer.forGood : undefined;
  return (
    <SaidBox role="status" aria-live="polite">
      {importProblem && <Bad>{importProblem}</Bad>}
      {answer && 'problem' in answer && (
        <Bad>
          {answer.problem.sentence}{' '}
          {forGood && (
            <Button weight="quiet" onPress={() => send({ intent: 'purge', ...forGood })}>
              Delete {forGood.name} for good
            </Button>
          )}
        </Bad>
      )}
      {told && (
        <Told>
          {told.done}{' '}
          {told.undo && (
            <Button ref={undo} weight="quiet" onPress={() => send({ intent: 'restore', id: told.undo! })}>
              Undo
            </Button>
          )}
        </Told>
      )}
    </SaidBox>
  );
}

export default function Garage({ loaderData }: Route.ComponentProps) {
  const { cards, bin, room } = loaderData;
  const served = useRouteLoaderData<typeof rootLoader>('root');
  const demos = served?.demos ?? [];
  const { notKept } = useOffline();
  const fetcher = useFetcher<GarageAnswer>();
  const [preview, setPreview] = useState<ImportPreview | null>(null);
  const [importProblem, setImportProblem] = useState<string | null>(null);
  const undo = useRef<HTMLButtonElement>(null);
  const answer = fetcher.data;
  const send: Send = (fields) => void fetcher.submit(fields, { method: 'post' });
  useAnswer(answer, fetcher.state === 'idle', undo);
  const wanting = (served?.loadDemos ?? false) && cards.length === 0;
  const asked = useRef(false);
  useEffect(() => {
    if (!wanting || asked.current || hadDemos()) return;
    asked.current = true;
    const form = new FormData();
    form.set('intent', 'load-demos');
    for (const { id } of served?.demos ?? []) form.append('id', id);
    void fetcher.submit(form, { method: 'post' });
  }, [wanting, served, fetcher]);
  const onFile = async (file: File | undefined) => {
    if (!file) return;
    const { previewImport } = await import('../storage/garage');
    const result = await previewImport(file);
    setImportProblem(result.ok ? null : result.problem.sentence);
    setPreview(result.ok ? result.value : null);
  };
  return (
    <PlainPage>
      <title>Garage · Gonyx</title>
      <PlainSheet>
        <PlainHead>
          <div>
            <Brand>Gonyx</Brand>
            <Soft>Wire it, prove it, start it: a standalone ECU on your engine.</Soft>
          </div>
          <Row>
            <ActLink to="/new">
              <FilePlus2 size={18} aria-hidden /> New build
            </ActLink>
            <FileTrigger
              acceptedFileTypes={['.json', '.zip', 'application/json', 'application/zip']}
              onSelect={(files) => void onFile(files?.[0])}
            >
              <Button>
                <FolderOpen size={18} aria-hidden /> Import a file
              </Button>
            </FileTrigger>
            <PlainLink to="/library/ecus">ECUs</PlainLink>
            <PlainLink to="/library">Library of kinds</PlainLink>
            <Button weight="quiet" onPress={() => applyTheme(currentTheme() === 'night' ? 'paper' : 'night')}>
              Paper or night
            </Button>
          </Row>
        </PlainHead>
        <Said answer={answer} importProblem={importProblem} send={send} undo={undo} />
        <NewVersion />
        <Unsaved />
        <Stack $gap={3}>
          <Heading>Your builds</Heading>
          {cards.length === 0 && fetcher.state !== 'idle' ? (
            <Soft>One moment…</Soft>
          ) : cards.length === 0 ? (
            <Empty>
              <p>
                No build on this device yet. Start one: pick the engine and the ECU, add what is on the engine, and
                Gonyx lays out the rest. Or open a demo below and look around; it is yours to change.
              </p>
            </Empty>
          ) : (
            <ul>
              {cards.map((card) => (
                <Card key={card.id} card={card} send={send} />
              ))}
            </ul>
          )}
        </Stack>
        <Bin bin={bin} send={send} />
        <Stack $gap={3}>
          <Heading>Demo builds</Heading>
          <Demos>
            {demos.map((demo) => (
              <li key={demo.id}>
                <strong>{demo.name}</strong>
                <Soft>{demo.vehicle}</Soft>
                <Small>
                  {demo.ecu}, {demo.devices} devices. All made up.
                </Small>
                <fetcher.Form method="post">
                  <input type="hidden" name="intent" value="demo" />
                  <input type="hidden" name="id" value={demo.id} />
                  <Button type="submit">Open this demo</Button>
                </fetcher.Form>
              </li>
            ))}
          </Demos>
        </Stack>
        <Small>
          Builds stay in this browser. They leave it only in files you export. Licensed practice and local rules decide
          over anything this tool says; airbag circuits are never part of the work. <Room room={room} send={send} />
          {notKept && ` Without its server this version will not start here: ${notKept}.`}
        </Small>
      </PlainSheet>
      {preview && (
        <Suspense>
          <ImportDialog preview={preview} onClose={() => setPreview(null)} />
        </Suspense>
      )}
    </PlainPage>
  );
}

export function HydrateFallback() {
  return (
    <PlainPage aria-busy="true">
      <PlainSheet>
        <PlainHead>
          <div>
            <Brand>Gonyx</Brand>
            <Soft>Wire it, prove it, start it: a standalone ECU on your engine.</Soft>
          </div>
        </PlainHead>
        <Heading>Your builds</Heading>
      </PlainSheet>
    </PlainPage>
  );
}

const Brand = styled.h1`
  font-size: 34px;
  font-weight: 700;
  letter-spacing: -0.01em;
`;
const ActLink = styled(Link)<{ $weight?: Weight }>`
  ${buttonLook}
  background: ${color.ink};
  color: ${color.onInk};
`;
const PlainLink = styled(Link)`
  padding: ${space[1]} ${space[2]};
`;
const Demos = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 360px), 1fr));
  gap: ${space[5]};
  li {
    display: grid;
    gap: ${space[1]};
    justify-items: start;
  }
  button {
    margin-top: ${space[2]};
  }
`;
const Empty = styled.div`
  max-width: var(--measure);
`;
const SaidBox = styled.div`
  position: sticky;
  top: 0;
  z-index: 2;
`;
const Told = styled.p`
  padding: ${space[2]} ${space[3]};
  background: ${color.selectionWash};
`;
