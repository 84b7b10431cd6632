import { memo } from 'react';
import { Labels } from '../sheets/loom/labels';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Labels);

export default function LabelsRoute() {
  return <Sheet />;
}
