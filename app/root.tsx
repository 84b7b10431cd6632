import '@fontsource/b612/latin-400.css';
import '@fontsource/b612/latin-700.css';
import '@fontsource/b612-mono/latin-400.css';
import '@fontsource/b612-mono/latin-700.css';
import '@fontsource/fira-sans/greek-400.css';
import '@fontsource/fira-sans/greek-700.css';
import './ui/brackets.css';
import { useEffect, type ReactNode } from 'react';
import { I18nProvider } from 'react-aria-components/I18nProvider';
import {
  isRouteErrorResponse,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useLocation,
  useNavigation,
  useRouteLoaderData,
} from 'react-router';
import { styled } from 'styled-components';
import type { Route } from './+types/root';
import { demoBuilds } from '~/demo';
import { useNonce } from './nonce';
import { arriveAt, guardUnload } from './storage/whereabouts';
import { themeFromCookie, type ThemeName } from './ui/theme';
import { useFocusKeeper } from './ui/focus-keeper';
import { GlobalStyle } from './ui/global-style';

/** What the demo builds are called: short, so that every page may know it. */
const demos = demoBuilds().map((build) => ({
  id: build.id,
  name: build.name,
  vehicle: build.vehicle,
  ecu: build.ecu.model,
  devices: build.devices.length,
}));

export function loader({ request }: Route.LoaderArgs) {
  return {
    theme: themeFromCookie(request.headers.get('cookie')),
    demos,
    /** Started by the demo command: an empty garage is filled with the demos. */
    loadDemos: process.env.GONYX_DEMO === '1',
  };
}
/** This belongs to the first page; later navigations keep it, also without a server. */
export const shouldRevalidate = () => false;

export const meta: Route.MetaFunction = () => [
  { title: 'Gonyx' },
  { name: 'description', content: 'Wire, prove and start an engine on a standalone ECU' },
];

export function Layout({ children }: { children: ReactNode }) {
  const data = useRouteLoaderData<typeof loader>('root');
  const theme: ThemeName | undefined = data?.theme;
  const nonce = useNonce();
  return (
    <html lang="en" data-theme={theme} suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta property="csp-nonce" nonce={nonce} content="" suppressHydrationWarning />
        <link rel="icon" href="/mark.svg" type="image/svg+xml" />
        <Meta />
        <Links nonce={nonce} />
      </head>
      <body>
        <GlobalStyle />
        {children}
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

/** Tells the stores which build is on show, so that one that was left lays its pen down. */
function useWhereabouts(): void {
  const { pathname } = useLocation();
  const { state } = useNavigation();
  const buildId = /^\/build\/([^/]+)/.exec(pathname)?.[1] ?? null;
  useEffect(() => {
    if (state === 'idle') arriveAt(buildId === null ? null : decodeURIComponent(buildId));
  }, [state, buildId]);
  useEffect(() => guardUnload(), []);
}

export default function Root() {
  useWhereabouts();
  useFocusKeeper();
  useEffect(() => {
    // Tests and print wait for this: from here on the page answers.
    document.documentElement.dataset.ready = 'true';
  }, []);
  return (
    <I18nProvider locale="en-US">
      {/* Links are the router's own. React Aria's RouterProvider would draw every button and row anew with every request. */}
      <Outlet />
    </I18nProvider>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const text = isRouteErrorResponse(error)
    ? `${error.status} ${error.statusText}`
    : error instanceof Error
      ? error.message
      : 'Unknown error';
  return (
    <Problem>
      <h1>This page broke</h1>
      <p>{text}</p>
      <p>
        Your builds are kept on this device. <a href="/">Go to the garage</a>
      </p>
    </Problem>
  );
}

const Problem = styled.main`
  max-width: var(--measure);
  margin: var(--space-6) auto;
  padding: var(--space-4);
`;
