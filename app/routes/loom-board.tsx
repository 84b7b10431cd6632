import { memo } from 'react';
import { Formboard } from '../sheets/loom/board';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Formboard);

export default function BoardRoute() {
  return <Sheet />;
}
