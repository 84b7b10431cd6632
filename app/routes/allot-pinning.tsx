import { memo } from 'react';
import { Pinning } from '../sheets/allot/pinning';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Pinning);

export default function PinningRoute() {
  return <Sheet />;
}
