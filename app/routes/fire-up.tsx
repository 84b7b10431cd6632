import { FireUp } from '../sheets/fire-up/fire-up';

export default function FireUpRoute() {
  return <FireUp />;
}
