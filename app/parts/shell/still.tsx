import { useContext, useState, type ReactNode } from 'react';
import { UNSAFE_DataRouterStateContext, UNSAFE_RouteContext } from 'react-router';

/**
 * What stands below is drawn anew only when another page is on show, or the same one anew. The router hands down a new object
 * for the same place with every step of every request, and each link and page would be drawn again, twice for every edit.
 */
export function Still({ children }: { children: ReactNode }) {
  const place = useContext(UNSAFE_RouteContext);
  const state = useContext(UNSAFE_DataRouterStateContext);
  const of = [state?.location, state?.matches, state?.errors, state?.revalidation, state?.renderFallback];
  const [last, setLast] = useState({ place, of });
  const isSame = of.every((one, i) => one === last.of[i]);
  if (!isSame) setLast({ place, of });
  return <UNSAFE_RouteContext value={isSame ? last.place : place}>{children}</UNSAFE_RouteContext>;
}
