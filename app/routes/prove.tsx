import { Prove } from '../sheets/prove/prove';

export default function ProveRoute() {
  return <Prove />;
}
