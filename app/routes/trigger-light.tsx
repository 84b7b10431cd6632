import { Light } from '../sheets/trigger/light/light';

export default function TriggerLightRoute() {
  return <Light />;
}
