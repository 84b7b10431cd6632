import { memo } from 'react';
import { Loom } from '../sheets/loom/loom';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Loom);

export default function LoomRoute() {
  return <Sheet />;
}
