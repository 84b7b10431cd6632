import { memo } from 'react';
import { Light } from '../sheets/trigger/light/light';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Light);

export default function TriggerLightRoute() {
  return <Sheet />;
}
