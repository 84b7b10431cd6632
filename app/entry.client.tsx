import { startTransition, StrictMode } from 'react';
import { hydrateRoot } from 'react-dom/client';
import { HydratedRouter } from 'react-router/dom';

/*
 * A page that is left while its data are on the way has its requests cancelled by the router; where a route had not begun to wait
 * for them, nobody listens to that. A cancelled request is what was asked for, not a failure. Nothing of Gonyx' own is cancelled
 * by signals, so no error of ours can hide here.
 */
window.addEventListener('unhandledrejection', (event) => {
  if (event.reason instanceof DOMException && event.reason.name === 'AbortError') event.preventDefault();
});

startTransition(() => {
  hydrateRoot(
    document,
    <StrictMode>
      <HydratedRouter />
    </StrictMode>,
  );
});

if (import.meta.env.PROD && 'serviceWorker' in navigator) {
  const register = () =>
    // Without it the app still works while the server is there.
    navigator.serviceWorker.register('/sw.js').catch((error: unknown) => {
      console.warn('offline use is not available:', error); // eslint-disable-line no-console
    });
  if (document.readyState === 'complete') void register();
  else window.addEventListener('load', () => void register());
}
