import type { DeviceKind } from '~/core/devices/kind';
import { airKinds } from './kinds/air';
import { carKinds } from './kinds/car';
import { engineKinds } from './kinds/engine';
import { fuelKinds } from './kinds/fuel';
import { ignitionKinds } from './kinds/ignition';
import { triggerKinds } from './kinds/trigger';

/** Device kinds, named by kind and geometry. Values are invented, within what the trade calls usual. */
export const kinds: readonly DeviceKind[] = [
  ...triggerKinds,
  ...fuelKinds,
  ...ignitionKinds,
  ...airKinds,
  ...engineKinds,
  ...carKinds,
];
