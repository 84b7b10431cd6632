import { memo } from 'react';
import { catalog } from '~/catalog';
import { Survey } from '../sheets/survey/survey';
import { withOwn } from '../storage/library';
import type { Route } from './+types/survey';

/** The person's own kinds stand before the catalog's. */
export const clientLoader = () => withOwn(catalog);
clientLoader.hydrate = true as const;

/** The catalog does not change while the app is open. */
export const shouldRevalidate = () => false;

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Survey);

export default function SurveyRoute({ loaderData }: Route.ComponentProps) {
  return <Sheet ecus={loaderData.ecus} kinds={loaderData.kinds} own={loaderData.own} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
