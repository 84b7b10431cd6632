import { catalog } from '~/catalog';
import { demoCaptures } from '~/demo/captures';
import { Bench } from '../sheets/trigger/bench/bench';
import type { Route } from './+types/trigger-bench';

export const loader = () => ({ wheels: catalog.wheels, demos: demoCaptures });
export const shouldRevalidate = () => false;

export default function TriggerBenchRoute({ loaderData }: Route.ComponentProps) {
  return <Bench wheels={loaderData.wheels} demos={loaderData.demos} />;
}
