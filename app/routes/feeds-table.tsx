import { memo } from 'react';
import { FeedTable } from '../sheets/feeds/table';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(FeedTable);

export default function FeedTableRoute() {
  return <Sheet />;
}
