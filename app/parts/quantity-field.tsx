import type { ComponentProps } from 'react';
import { scaleOf, type Fuel, type Quantity, type Units } from '~/core/units/units';
import { ScaleField } from './scale-field';

/** A number field for what a sensor stands for, in the unit the person reads. */
export const QuantityField = ({
  quantity,
  units,
  fuel = 'petrol',
  ...props
}: Omit<ComponentProps<typeof ScaleField>, 'scale'> & { quantity: Quantity; units: Units; fuel?: Fuel }) => (
  <ScaleField scale={scaleOf(quantity, units, fuel)} {...props} />
);
