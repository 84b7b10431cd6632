import { memo } from 'react';
import { Donor } from '../sheets/survey/donor';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Donor);

export default function DonorRoute() {
  return <Sheet />;
}
