import { demoBuilds } from '~/demo';
import type { Route } from './+types/demo';

/** A demo build as a file, for the garage and for anyone who asks. */
export function loader({ params }: Route.LoaderArgs) {
  const build = demoBuilds().find((one) => one.id === params.demoId);
  if (!build) throw new Response('There is no such demo build.', { status: 404 });
  return Response.json(build, { headers: { 'Cache-Control': 'no-cache' } });
}
