import { isRouteErrorResponse, Link } from 'react-router';
import { styled } from 'styled-components';
import { catalog } from '~/catalog';
import type { DeviceKind } from '~/core/devices/kind';
import { BuildProvider, useBuild } from '../build/context';
import { inSlices } from '../build/slices';
import { Spine } from '../parts/spine';
import { Page } from '../parts/sheet-frame';
import { Desk, Shell } from '../parts/shell/shell';
import { Still } from '../parts/shell/still';
import { derive, explainWith, stepsOf } from '~/core/derive/derive';
import { buildRequests } from '../storage/actions';
import { ownKinds } from '../storage/library';
import { inSession, openSession } from '../storage/sessions';
import { readTyped } from '../storage/typed';
import { BIN_DAYS } from '../storage/whereabouts';
import { color, shape, space } from '../ui/theme';
import type { Route } from './+types/build';

/** Parts that may explain a reading. A build opens without them too: then only its own parts do. */
async function explaining(): Promise<readonly DeviceKind[]> {
  try {
    return [...(await ownKinds()), ...catalog.kinds];
  } catch {
    // The store cannot be read just now: the next visit of a build asks again.
    return catalog.kinds;
  }
}

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  const [opened, kinds, typed] = await Promise.all([
    openSession(params.buildId),
    explaining(),
    readTyped(params.buildId),
  ]);
  explainWith(kinds);
  if (!opened.ok) throw new Response(opened.problem.sentence, { status: 404, statusText: opened.problem.sentence });
  // In slices, before anything is drawn of it: drawing then finds it worked out.
  await inSlices(stepsOf(derive(opened.value.snapshot().build)));
  return { session: opened.value, typed };
}
clientLoader.hydrate = true as const;

/** The session tells its own changes: nothing to load again after an edit. */
export const shouldRevalidate = ({
  currentParams,
  nextParams,
}: {
  currentParams: { buildId?: string };
  nextParams: { buildId?: string };
}) => currentParams.buildId !== nextParams.buildId;

export async function clientAction({ request, params }: Route.ClientActionArgs) {
  const { turn, action } = await buildRequests.read(request);
  return inSession(params.buildId, (session) => session.answer(turn, action));
}

/** A build that was deleted while this tab had it open. */
function Gone({ why }: { why: string }) {
  return (
    <Desk>
      <span />
      <Page>
        <Blank>
          <h1>{why}</h1>
          <p>
            It is in the bin for {BIN_DAYS} days, unless it was deleted for good: <Link to="/">go to the garage</Link>{' '}
            to bring it back. It then opens here again.
          </p>
        </Blank>
      </Page>
    </Desk>
  );
}

function Opened() {
  const { view } = useBuild();
  return view.gone !== null ? <Gone why={view.gone} /> : <Shell />;
}

export default function BuildLayout({ loaderData, params }: Route.ComponentProps) {
  return (
    <BuildProvider key={params.buildId} session={loaderData.session} typed={loaderData.typed}>
      <Still>
        <Opened />
      </Still>
    </BuildProvider>
  );
}

/** The sheet before its build is read: same frame, no figures. */
export function HydrateFallback() {
  return (
    <Desk>
      <Spine fill={null} />
      <Page aria-busy="true">
        <Blank>
          <h1>Opening the build…</h1>
        </Blank>
      </Page>
    </Desk>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const known = isRouteErrorResponse(error);
  return (
    <Desk>
      <span />
      <Page>
        <Blank>
          <h1>{known ? 'This build cannot be opened' : 'This build broke'}</h1>
          <p>{known ? String(error.data) : error instanceof Error ? error.message : 'Unknown error'}</p>
          <p>
            Nothing was changed on this device. <Link to="/">Go to the garage</Link>
          </p>
        </Blank>
      </Page>
    </Desk>
  );
}

const Blank = styled.div`
  height: 100%;
  padding: ${space[5]};
  display: grid;
  gap: ${space[3]};
  align-content: start;
  background: ${color.sheet};
  border: ${shape.line} solid ${color.ink};
`;
