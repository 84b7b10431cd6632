import { redirect } from 'react-router';
import type { Route } from './+types/build-index';

export const clientLoader = ({ params }: Route.ClientLoaderArgs) => redirect(`/build/${params.buildId}/survey`);
clientLoader.hydrate = true as const;
export const HydrateFallback = () => null;
export default function BuildIndex() {
  return null;
}
