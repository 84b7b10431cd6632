import { startTransition, StrictMode } from 'react';
import { hydrateRoot } from 'react-dom/client';
import { HydratedRouter } from 'react-router/dom';

startTransition(() => {
  hydrateRoot(
    document,
    <StrictMode>
      <HydratedRouter />
    </StrictMode>,
  );
});

if (import.meta.env.PROD && 'serviceWorker' in navigator) {
  window.addEventListener('load', () => {
    // Without it the app still works while the server is there; the sheet says nothing about it.
    navigator.serviceWorker.register('/sw.js').catch((error: unknown) => {
      console.warn('offline use is not available:', error); // eslint-disable-line no-console
    });
  });
}
