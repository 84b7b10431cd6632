import { Feeds } from '../sheets/feeds/feeds';

export default function FeedsRoute() {
  return <Feeds />;
}
