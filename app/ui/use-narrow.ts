import { useSyncExternalStore } from 'react';

const query = '(max-width: 699px)';
const subscribe = (tell: () => void) => {
  const list = window.matchMedia(query);
  list.addEventListener('change', tell);
  return () => list.removeEventListener('change', tell);
};

/** True on a phone's width; false while the page is served. */
export const useNarrow = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => window.matchMedia(query).matches,
    () => false,
  );
