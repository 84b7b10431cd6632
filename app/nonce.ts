import { createContext, useContext } from 'react';

/** The one-time number that lets this page's own scripts and styles pass the content security policy. */
export function nonceOf(loadContext: unknown): string | undefined {
  const value = (loadContext as { nonce?: unknown } | undefined)?.nonce;
  return typeof value === 'string' ? value : undefined;
}

/** Known on the server only: it is written into the page's elements and never into its data. */
export const NonceContext = createContext<string | undefined>(undefined);
export const useNonce = () => useContext(NonceContext);
