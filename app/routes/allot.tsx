import { Allot } from '../sheets/allot/allot';

export default function AllotRoute() {
  return <Allot />;
}
