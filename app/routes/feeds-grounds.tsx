import { memo } from 'react';
import { GroundPlan } from '../sheets/feeds/grounds';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(GroundPlan);

export default function GroundPlanRoute() {
  return <Sheet />;
}
