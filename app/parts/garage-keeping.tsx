import { useSyncExternalStore } from 'react';
import { styled } from 'styled-components';
import type { BinRecord } from '../storage/database';
import { BIN_DAYS, subscribeUnsaved, unsavedBuilds } from '../storage/whereabouts';
import { Button } from '../ui/button';
import { Heading, Row, Small, Soft, Stack } from '../ui/text';
import { color, shape, space } from '../ui/theme';
import { dayOf } from './dates';

type Send = (fields: Record<string, string>) => void;
const NONE: ReturnType<typeof unsavedBuilds> = [];

/** Builds whose last changes could not be stored: they are in this tab's memory only. */
export function Unsaved() {
  const unsaved = useSyncExternalStore(subscribeUnsaved, unsavedBuilds, () => NONE);
  if (unsaved.length === 0) return null;
  return (
    <Warning role="alert">
      {unsaved.map(({ id, name, retry, exportNow }) => (
        <p key={id}>
          <strong>{name}: the last changes are not saved.</strong> They are in this tab only. Do not close it.{' '}
          <Button weight="quiet" onPress={exportNow}>
            Export now
          </Button>{' '}
          <Button weight="quiet" onPress={retry}>
            Try again
          </Button>
        </p>
      ))}
    </Warning>
  );
}

/** Deleted builds: brought back or deleted for good. Nothing to show, nothing there. */
export function Bin({ bin, send }: { bin: readonly BinRecord[]; send: Send }) {
  if (bin.length === 0) return null;
  return (
    <Stack $gap={3}>
      <Heading>Bin</Heading>
      <List>
        {bin.map(({ id, at, card }) => (
          <li key={id}>
            <span>
              <strong>{card?.name}</strong> <Soft>{card?.vehicle}</Soft>
              <br />
              <Small>
                deleted {dayOf(at)}, kept {BIN_DAYS} days
              </Small>
            </span>
            <Row $gap={3}>
              <Button
                weight="quiet"
                onPress={() => send({ intent: 'restore', id })}
                aria-label={`Bring back ${card?.name}`}
              >
                Bring back
              </Button>
              <Button
                weight="quiet"
                onPress={() => send({ intent: 'purge', id, name: card?.name ?? '' })}
                aria-label={`Delete ${card?.name} for good`}
              >
                Delete for good
              </Button>
            </Row>
          </li>
        ))}
      </List>
    </Stack>
  );
}

const megabytes = (bytes: number): string =>
  bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${Math.max(1, Math.round(bytes / 1e6))} MB`;

/** What Gonyx takes of the device, and how to make room. */
export function Room({ room, send }: { room: { used: number; quota: number } | null; send: Send }) {
  if (!room) return null;
  return (
    <>
      Gonyx takes {megabytes(room.used)} of the {megabytes(room.quota)} this browser allows.{' '}
      <Button weight="quiet" style={{ fontSize: 'inherit' }} onPress={() => send({ intent: 'free' })}>
        Make room
      </Button>{' '}
      empties the bin and forgets kept captures.
    </>
  );
}

const Warning = styled.div`
  padding: ${space[2]} ${space[3]};
  border-left: 4px solid ${color.stop};
  background: ${color.raised};
`;
const List = styled.ul`
  li {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: ${space[2]} ${space[5]};
    padding: ${space[2]} 0;
    border-bottom: ${shape.hair} solid ${color.rule};
  }
`;
