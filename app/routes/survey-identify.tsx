import { memo } from 'react';
import { catalog } from '~/catalog';
import { Identify } from '../sheets/survey/identify';
import { withOwnWheels } from '../storage/library';
import type { Route } from './+types/survey-identify';

export const clientLoader = () => withOwnWheels({ wheels: catalog.wheels, kinds: catalog.kinds });
clientLoader.hydrate = true as const;
export const shouldRevalidate = () => false;

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Identify);

export default function IdentifyRoute({ loaderData }: Route.ComponentProps) {
  return <Sheet wheels={loaderData.wheels} kinds={loaderData.kinds} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
