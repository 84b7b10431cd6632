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
  const register = () =>
    // Without it the app still works while the server is there.
    navigator.serviceWorker.register('/sw.js').catch((error: unknown) => {
      console.warn('offline use is not available:', error); // eslint-disable-line no-console
    });
  if (document.readyState === 'complete') void register();
  else window.addEventListener('load', () => void register());
}
