import { memo } from 'react';
import { FuelSpark } from '../sheets/survey/fuel-spark';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(FuelSpark);

export default function FuelSparkRoute() {
  return <Sheet />;
}
