import { memo } from 'react';
import { Prove } from '../sheets/prove/prove';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Prove);

export default function ProveRoute() {
  return <Sheet />;
}
