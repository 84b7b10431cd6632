import { catalog } from '~/catalog';
import { Survey } from '../sheets/survey/survey';
import { withOwn } from '../storage/library';
import type { Route } from './+types/survey';

/** The person's own kinds stand before the catalog's. */
export const clientLoader = () => withOwn(catalog);
clientLoader.hydrate = true as const;

/** The catalog does not change while the app is open. */
export const shouldRevalidate = () => false;

export default function SurveyRoute({ loaderData }: Route.ComponentProps) {
  return <Survey ecus={loaderData.ecus} kinds={loaderData.kinds} own={loaderData.own} />;
}

/** The layout's own skeleton stands in until the build is read. */
export const HydrateFallback = () => null;
