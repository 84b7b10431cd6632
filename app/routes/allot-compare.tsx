import { memo } from 'react';
import { catalog } from '~/catalog';
import { Compare } from '../sheets/allot/compare';
import { withOwn } from '../storage/library';
import type { Route } from './+types/allot-compare';

export const clientLoader = () => withOwn(catalog);
clientLoader.hydrate = true as const;

/** The catalog does not change while the app is open. */
export const shouldRevalidate = () => false;

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Compare);

export default function CompareRoute({ loaderData }: Route.ComponentProps) {
  return <Sheet help={loaderData} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
