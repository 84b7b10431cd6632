import { useSyncExternalStore } from 'react';

/** A hook that follows a media query; false while the page is served. */
function mediaHook(query: string): () => boolean {
  const subscribe = (tell: () => void) => {
    const list = window.matchMedia(query);
    list.addEventListener('change', tell);
    return () => list.removeEventListener('change', tell);
  };
  return () =>
    useSyncExternalStore(
      subscribe,
      () => window.matchMedia(query).matches,
      () => false,
    );
}

/** True on a phone's width. */
export const useNarrow = mediaHook('(max-width: 699px)');
/** True where a finger points: rows are taller. */
export const useCoarse = mediaHook('(pointer: coarse)');

/** What brings the page on show into sight on narrow glass: in the frame that lays the page out anyway, not before it. */
export function inNextFrame(run: () => void): () => void {
  const frame = requestAnimationFrame(run);
  return () => cancelAnimationFrame(frame);
}
