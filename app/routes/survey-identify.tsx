import { catalog } from '~/catalog';
import { Identify } from '../sheets/survey/identify';
import { withOwnWheels } from '../storage/library';
import type { Route } from './+types/survey-identify';

export const clientLoader = () => withOwnWheels({ wheels: catalog.wheels, kinds: catalog.kinds });
clientLoader.hydrate = true as const;
export const shouldRevalidate = () => false;

export default function IdentifyRoute({ loaderData }: Route.ComponentProps) {
  return <Identify wheels={loaderData.wheels} kinds={loaderData.kinds} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
