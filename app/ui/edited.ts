import { useState } from 'react';

/** A value while it is being edited: begins with the kept one, and follows it when that changes by being entered or undone. */
export function useEdited<T extends string | number | null>(kept: T): [T, (next: T) => void] {
  const [state, setState] = useState({ kept, now: kept });
  if (state.kept !== kept) setState({ kept, now: kept });
  return [state.kept === kept ? state.now : kept, (now) => setState({ kept, now })];
}
