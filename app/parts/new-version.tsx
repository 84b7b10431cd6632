import { useSyncExternalStore } from 'react';
import { styled } from 'styled-components';
import { loadNewVersion, offlineState, subscribeOffline, type OfflineState } from '../offline';
import { Button } from '../ui/button';
import { color, space } from '../ui/theme';

const NOTHING: OfflineState = { waiting: false, notKept: null };
export const useOffline = (): OfflineState => useSyncExternalStore(subscribeOffline, offlineState, () => NOTHING);

/** A newer Gonyx waits until the person says so: what is open goes on with the files it was made of. */
export function NewVersion() {
  const { waiting } = useOffline();
  if (!waiting) return null;
  return (
    <Line>
      <span>
        A new version of Gonyx is on this device. It is loaded when the last tab is closed, or now: nothing is lost.
      </span>
      <Button weight="quiet" onPress={loadNewVersion}>
        Load it now
      </Button>
    </Line>
  );
}

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: ${space[1]} ${space[3]};
  padding: ${space[1]} ${space[3]};
  background: ${color.selectionWash};
`;
