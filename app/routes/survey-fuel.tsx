import { FuelSpark } from '../sheets/survey/fuel-spark';

export default function FuelSparkRoute() {
  return <FuelSpark />;
}
