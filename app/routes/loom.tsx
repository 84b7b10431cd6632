import { memo } from 'react';
import { LoomPlan } from '../sheets/loom/plan';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(LoomPlan);

export default function LoomRoute() {
  return <Sheet />;
}
