import { memo } from 'react';
import { RoadSpeed } from '../sheets/survey/road-speed';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(RoadSpeed);

export default function RoadSpeedRoute() {
  return <Sheet />;
}
