import { useCallback, useLayoutEffect, useRef } from 'react';

/** The same function for as long as its component lives, which does what the last drawing said. For handlers only. */
export function useStable<A extends unknown[]>(act: (...args: A) => void): (...args: A) => void {
  const last = useRef(act);
  useLayoutEffect(() => {
    last.current = act;
  });
  return useCallback((...args: A) => last.current(...args), []);
}
