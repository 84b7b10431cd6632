import { memo } from 'react';
import { catalog } from '~/catalog';
import { demoCaptures } from '~/demo/captures';
import { Bench } from '../sheets/trigger/bench/bench';
import { withOwnWheels } from '../storage/library';
import type { Route } from './+types/trigger-bench';

export const clientLoader = () => withOwnWheels({ wheels: catalog.wheels, demos: demoCaptures });
clientLoader.hydrate = true as const;
/** The catalog does not change while the app is open. */
export const shouldRevalidate = () => false;

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Bench);

export default function TriggerBenchRoute({ loaderData }: Route.ComponentProps) {
  return <Sheet wheels={loaderData.wheels} demos={loaderData.demos} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
