import { memo } from 'react';
import { Pieces } from '../sheets/loom/pieces';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Pieces);

export default function PiecesRoute() {
  return <Sheet />;
}
