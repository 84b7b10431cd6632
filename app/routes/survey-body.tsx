import { Body } from '../sheets/survey/body';

export default function BodyRoute() {
  return <Body />;
}
