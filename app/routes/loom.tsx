import { Loom } from '../sheets/loom/loom';

export default function LoomRoute() {
  return <Loom />;
}
