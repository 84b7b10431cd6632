import { Pinning } from '../sheets/allot/pinning';

export default function PinningRoute() {
  return <Pinning />;
}
