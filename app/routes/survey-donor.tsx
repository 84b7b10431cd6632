import { Donor } from '../sheets/survey/donor';

export default function DonorRoute() {
  return <Donor />;
}
