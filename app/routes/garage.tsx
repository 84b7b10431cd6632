import { FilePlus2, FolderOpen } from 'lucide-react';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import { Link, useFetcher, useNavigate, useRevalidator } from 'react-router';
import { styled } from 'styled-components';
import { demoBuilds } from '~/demo';
import { database, type BuildCard } from '../storage/database';
import type { ImportPreview } from '../storage/garage';
import type { GarageAnswer } from '../storage/garage-actions';
import { listCards } from '../storage/cards';
import { PlainHead, PlainPage, PlainSheet } from '../parts/plain-page';
import { Button, buttonLook, type Weight } from '../ui/button';
import { Heading, Row, Small, Soft, Stack } from '../ui/text';
import { applyTheme, at, color, currentTheme, shape, space, type } from '../ui/theme';
import type { Route } from './+types/garage';

export function loader() {
  return {
    demos: demoBuilds().map((build) => ({
      id: build.id,
      name: build.name,
      vehicle: build.vehicle,
      ecu: build.ecu.model,
      devices: build.devices.length,
    })),
    loadDemos: process.env.GONYX_DEMO === '1',
  };
}

const DEMO_FLAG = 'gonyx-demos-loaded';

export async function clientLoader({ serverLoader }: Route.ClientLoaderArgs) {
  const served = await serverLoader();
  let cards = await listCards(database());
  if (served.loadDemos && cards.length === 0 && localStorage.getItem(DEMO_FLAG) === null) {
    const { loadDemos } = await import('../storage/garage-actions');
    await loadDemos(served.demos.map((demo) => demo.id));
    localStorage.setItem(DEMO_FLAG, 'yes');
    cards = await listCards(database());
  }
  return { ...served, cards };
}
clientLoader.hydrate = true as const;

export async function clientAction({ request }: Route.ClientActionArgs): Promise<GarageAnswer> {
  const { garageAction } = await import('../storage/garage-actions');
  return garageAction(await request.formData());
}

/** Dialogs come when they are opened: the garage itself stays light. */
const RenameDialog = lazy(() => import('../parts/garage-dialogs').then((all) => ({ default: all.RenameDialog })));
const ImportDialog = lazy(() => import('../parts/garage-dialogs').then((all) => ({ default: all.ImportDialog })));

const day = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));

function Card({ card, send }: { card: BuildCard; send: (fields: Record<string, string>) => void }) {
  const [renaming, setRenaming] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const onExport = async () => {
    const [{ readForExport }, { exportBuild }] = await Promise.all([
      import('../storage/garage'),
      import('../storage/export'),
    ]);
    const build = await readForExport(card.id);
    setProblem(build.ok ? await exportBuild(build.value) : build.problem.sentence);
  };
  return (
    <CardRow>
      <div>
        <CardLink to={`/build/${card.id}/survey`}>{card.name}</CardLink>
        <Soft>{card.vehicle || 'no vehicle named'}</Soft>
        {problem && <Bad role="alert">{problem}</Bad>}
      </div>
      <div>
        {card.ecu}
        <br />
        <Soft>{card.engine}</Soft>
      </div>
      <div>
        <Bar aria-hidden>
          <span style={{ width: `${Math.round(card.provedShare * 100)}%` }} />
        </Bar>
        <Small>
          {Math.round(card.provedShare * 100)} % of wires proved, {card.devices} devices
        </Small>
        <br />
        <Small>changed {day(card.changedAt)}</Small>
      </div>
      <Row $gap={3}>
        <Button weight="quiet" onPress={() => setRenaming(true)} aria-label={`Rename ${card.name}`}>
          Rename
        </Button>
        <Button
          weight="quiet"
          onPress={() => send({ intent: 'duplicate', id: card.id })}
          aria-label={`Duplicate ${card.name}`}
        >
          Duplicate
        </Button>
        <Button weight="quiet" onPress={() => void onExport()} aria-label={`Export ${card.name}`}>
          Export
        </Button>
        <Button
          weight="quiet"
          onPress={() => send({ intent: 'delete', id: card.id, name: card.name })}
          aria-label={`Delete ${card.name}`}
        >
          Delete
        </Button>
      </Row>
      {renaming && (
        <Suspense>
          <RenameDialog
            name={card.name}
            onRename={(name) => {
              send({ intent: 'rename', id: card.id, name });
              setRenaming(false);
            }}
            onClose={() => setRenaming(false)}
          />
        </Suspense>
      )}
    </CardRow>
  );
}

export default function Garage({ loaderData }: Route.ComponentProps) {
  const { cards, demos } = loaderData;
  const fetcher = useFetcher<GarageAnswer>();
  const navigate = useNavigate();
  const revalidator = useRevalidator();
  const [preview, setPreview] = useState<ImportPreview | null>(null);
  const [importProblem, setImportProblem] = useState<string | null>(null);
  const opened = useRef<string | null>(null);
  const answer = fetcher.data;
  const send = (fields: Record<string, string>) => void fetcher.submit(fields, { method: 'post' });
  useEffect(() => {
    if (
      fetcher.state !== 'idle' ||
      !answer ||
      !('done' in answer) ||
      answer.done !== 'open' ||
      !answer.id ||
      opened.current === answer.id
    )
      return;
    opened.current = answer.id;
    void navigate(`/build/${answer.id}/survey`);
  }, [fetcher.state, answer, navigate]);
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
        <div role="status" aria-live="polite">
          {importProblem && <Bad>{importProblem}</Bad>}
          {answer && 'problem' in answer && <Bad>{answer.problem.sentence}</Bad>}
          {answer && 'done' in answer && answer.done !== 'open' && (
            <Told>
              {answer.done}{' '}
              {answer.undoable && answer.id && (
                <Button weight="quiet" onPress={() => send({ intent: 'restore', id: answer.id! })}>
                  Undo
                </Button>
              )}
            </Told>
          )}
        </div>
        <Stack $gap={3}>
          <Heading>Your builds</Heading>
          {cards.length === 0 ? (
            <Empty>
              <p>
                No build on this device yet. Start one: pick the engine and the ECU, add what is on the engine, and
                Gonyx lays out the rest. Or open a demo below and look around; it is yours to change.
              </p>
            </Empty>
          ) : (
            <ul>
              {cards.map((card) => (
                <Card key={`${card.id} ${card.name}`} card={card} send={send} />
              ))}
            </ul>
          )}
        </Stack>
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
          over anything this tool says; airbag circuits are never part of the work.
          {revalidator.state === 'loading' && ' …'}
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
const CardRow = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 2.2fr) minmax(0, 1.4fr) minmax(0, 1.4fr) auto;
  gap: ${space[2]} ${space[5]};
  align-items: center;
  padding: ${space[3]} 0;
  border-bottom: ${shape.hair} solid ${color.rule};
  & > div:first-child {
    display: grid;
  }
  ${at.tablet} {
    grid-template-columns: 1fr 1fr;
  }
  ${at.narrow} {
    grid-template-columns: 1fr;
  }
`;
const CardLink = styled(Link)`
  font-size: ${type.lead};
  font-weight: 700;
  text-decoration: none;
  &:hover {
    text-decoration: underline;
  }
`;
const Bar = styled.span`
  display: block;
  height: 6px;
  border-radius: 3px;
  background: ${color.raised};
  border: ${shape.hair} solid ${color.rule};
  overflow: hidden;
  span {
    display: block;
    height: 100%;
    background: ${color.proved};
  }
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
const Told = styled.p`
  padding: ${space[2]} ${space[3]};
  background: ${color.selectionWash};
`;
const Bad = styled.p`
  padding: ${space[2]} ${space[3]};
  border-left: 4px solid ${color.stop};
  color: ${color.stop};
`;
