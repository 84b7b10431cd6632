import { memo } from 'react';
import { Drawing } from '../sheets/feeds/drawing';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Drawing);

export default function DrawingRoute() {
  return <Sheet />;
}
