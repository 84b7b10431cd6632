import { memo } from 'react';
import { catalog } from '~/catalog';
import { Sensing } from '../sheets/survey/sensing';
import { ownKinds } from '../storage/library';
import type { Route } from './+types/survey-sensing';

export const shouldRevalidate = () => false;

/** Calibrations that may explain a reading: the person's own first, then the catalog's. */
export const clientLoader = async () => ({ library: [...(await ownKinds()), ...catalog.kinds] });
clientLoader.hydrate = true as const;

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Sensing);

export default function SensingRoute({ loaderData }: Route.ComponentProps) {
  return <Sheet library={loaderData.library} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
