import { memo } from 'react';
import { Body } from '../sheets/survey/body';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Body);

export default function BodyRoute() {
  return <Sheet />;
}
