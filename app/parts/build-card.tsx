import { lazy, Suspense, useState } from 'react';
import { Link } from 'react-router';
import { styled } from 'styled-components';
import { plural } from '~/core/units/format';
import type { BuildCard } from '../storage/database';
import { Button } from '../ui/button';
import { Bad, Row, Small, Soft, VisuallyHidden } from '../ui/text';
import { at, color, shape, space, type } from '../ui/theme';
import { sheetList } from './sheets';

const RenameDialog = lazy(() => import('./garage-dialogs').then((all) => ({ default: all.RenameDialog })));

const day = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));

/** What a card asks of the garage. */
export type Send = (fields: Record<string, string>) => void;

export function Card({ card, send }: { card: BuildCard; send: Send }) {
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
        <CardLink id={`build-${card.id}`} to={`/build/${encodeURIComponent(card.id)}/survey`}>
          {card.name}
        </CardLink>
        <Soft>{card.vehicle || 'no vehicle named'}</Soft>
        {problem && <Bad role="alert">{problem}</Bad>}
      </div>
      <div>
        {card.ecu}
        <br />
        <Soft>{card.engine}</Soft>
      </div>
      <Stand card={card} />
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

/** What a person looks for when they come back: how far each sheet is, what is wrong, what is next. */
function Stand({ card }: { card: BuildCard }) {
  const { standing } = card;
  const last = <Small>last worked on {day(card.changedAt)}</Small>;
  if (!standing)
    return (
      <div>
        <Small>Open it once, and it says here where it stands.</Small>
        <br />
        {last}
      </div>
    );
  const { stops, fixes } = standing;
  return (
    <StandBox>
      <Levels role="list" aria-label={`How far each sheet of ${card.name} is`}>
        {sheetList.map((sheet, i) => (
          <Level key={sheet.id} role="listitem" title={`${sheet.title}, ${Math.round(standing.sheets[i] * 100)} %`}>
            <VisuallyHidden>
              {sheet.title} {Math.round(standing.sheets[i] * 100)} %
            </VisuallyHidden>
            <span aria-hidden style={{ height: `${Math.round(standing.sheets[i] * 100)}%` }} />
          </Level>
        ))}
      </Levels>
      <Wrong data-stop={stops > 0}>
        {stops + fixes === 0
          ? 'nothing wrong'
          : [stops > 0 && plural(stops, 'stop'), fixes > 0 && `${fixes} to fix`]
              .filter((one) => one !== false)
              .join(', ')}
      </Wrong>
      <NextLink to={`/build/${encodeURIComponent(card.id)}/${standing.nextSheet}`}>{standing.next}</NextLink>
      {last}
    </StandBox>
  );
}

const CardRow = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1.9fr) minmax(0, 1.3fr) minmax(0, 2fr) auto;
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
const StandBox = styled.div`
  display: grid;
  grid-template-columns: auto 1fr;
  align-items: center;
  gap: 2px ${space[2]};
  & > :nth-child(n + 3) {
    grid-column: 1 / -1;
    justify-self: start;
  }
`;
/** The spine, laid flat: a level for each sheet. */
const Levels = styled.div`
  display: flex;
  align-items: center;
  gap: 3px;
`;
const Level = styled.span`
  display: flex;
  align-items: flex-end;
  width: 17px;
  height: 19px;
  padding: 1.5px;
  border: 1.5px solid ${color.ink};
  border-radius: 4px;
  & > span:last-child {
    width: 100%;
    border-radius: 1px;
    background: ${color.ink};
  }
`;
const Wrong = styled(Small)`
  white-space: nowrap;
  &[data-stop='true'] {
    color: ${color.stop};
    font-weight: 700;
  }
`;
const NextLink = styled(Link)`
  font-weight: 700;
  text-decoration-color: ${color.pencil};
  &:hover {
    color: ${color.selection};
  }
`;
