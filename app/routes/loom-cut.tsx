import { memo } from 'react';
import { CutList } from '../sheets/loom/cut-list';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(CutList);

export default function CutRoute() {
  return <Sheet />;
}
