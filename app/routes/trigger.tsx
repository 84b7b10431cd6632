import { catalog } from '~/catalog';
import { Trigger } from '../sheets/trigger/trigger';
import type { Route } from './+types/trigger';

export const loader = () => ({ wheels: catalog.wheels });
export const shouldRevalidate = () => false;

export default function TriggerRoute({ loaderData }: Route.ComponentProps) {
  return <Trigger wheels={loaderData.wheels} />;
}
