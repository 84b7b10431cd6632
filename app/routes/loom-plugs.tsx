import { memo } from 'react';
import { Plugs } from '../sheets/loom/plugs';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Plugs);

export default function PlugsRoute() {
  return <Sheet />;
}
