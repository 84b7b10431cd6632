import { memo } from 'react';
import { Feeds } from '../sheets/feeds/feeds';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Feeds);

export default function FeedsRoute() {
  return <Sheet />;
}
