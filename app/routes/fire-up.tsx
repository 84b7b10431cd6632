import { memo } from 'react';
import { FireUp } from '../sheets/fire-up/fire-up';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(FireUp);

export default function FireUpRoute() {
  return <Sheet />;
}
