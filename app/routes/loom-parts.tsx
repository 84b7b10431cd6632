import { memo } from 'react';
import { PartsToBuy } from '../sheets/loom/parts';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(PartsToBuy);

export default function PartsRoute() {
  return <Sheet />;
}
