import { memo } from 'react';
import { IoSheet } from '../sheets/allot/io-sheet';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(IoSheet);

export default function IoSheetRoute() {
  return <Sheet />;
}
