import { catalog } from '~/catalog';
import { Survey } from '../sheets/survey/survey';
import type { Route } from './+types/survey';

export const loader = () => ({ ecus: catalog.ecus, kinds: catalog.kinds });
/** The catalog does not change while the app is open. */
export const shouldRevalidate = () => false;

export default function SurveyRoute({ loaderData }: Route.ComponentProps) {
  return <Survey ecus={loaderData.ecus} kinds={loaderData.kinds} />;
}
