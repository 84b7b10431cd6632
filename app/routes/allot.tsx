import { catalog } from '~/catalog';
import { Allot } from '../sheets/allot/allot';
import { ownEcus, ownKinds } from '../storage/library';
import type { Route } from './+types/allot';

export const loader = () => ({ ecus: catalog.ecus, kinds: catalog.kinds });
/** The person's own stand before the catalog's. */
export async function clientLoader({ serverLoader }: Route.ClientLoaderArgs) {
  const [served, kinds, ecus] = await Promise.all([serverLoader(), ownKinds(), ownEcus()]);
  return { ecus: [...ecus, ...served.ecus], kinds: [...kinds, ...served.kinds] };
}
clientLoader.hydrate = true as const;

/** The catalog does not change while the app is open. */
export const shouldRevalidate = () => false;

export default function AllotRoute({ loaderData }: Route.ComponentProps) {
  return <Allot help={loaderData} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
