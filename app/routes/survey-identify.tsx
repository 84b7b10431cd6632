import { catalog } from '~/catalog';
import { Identify } from '../sheets/survey/identify';
import type { Route } from './+types/survey-identify';

export const loader = () => ({ wheels: catalog.wheels, kinds: catalog.kinds });
export const shouldRevalidate = () => false;

export default function IdentifyRoute({ loaderData }: Route.ComponentProps) {
  return <Identify wheels={loaderData.wheels} kinds={loaderData.kinds} />;
}
