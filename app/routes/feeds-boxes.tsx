import { memo } from 'react';
import { Boxes } from '../sheets/feeds/boxes';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Boxes);

export default function BoxesRoute() {
  return <Sheet />;
}
