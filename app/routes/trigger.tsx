import { memo } from 'react';
import { catalog } from '~/catalog';
import { Trigger } from '../sheets/trigger/trigger';
import { withOwnWheels } from '../storage/library';
import type { Route } from './+types/trigger';

export const clientLoader = () => withOwnWheels({ wheels: catalog.wheels });
clientLoader.hydrate = true as const;
/** The catalog does not change while the app is open. */
export const shouldRevalidate = () => false;

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Trigger);

export default function TriggerRoute({ loaderData }: Route.ComponentProps) {
  return <Sheet wheels={loaderData.wheels} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
