import { fromShown, scaleOf, toShown, type Fuel, type Quantity, type Units } from '~/core/units/units';
import { NumberField } from '../ui/number-field';

/** A number field in the unit the person reads; what comes out is in Gonyx' own unit. */
export function QuantityField({
  quantity,
  units,
  fuel = 'petrol',
  value,
  onChange,
  minValue,
  maxValue,
  ...props
}: {
  quantity: Quantity;
  units: Units;
  fuel?: Fuel;
  label: string;
  hideLabel?: boolean;
  hint?: string;
  error?: string;
  value: number | null;
  minValue?: number;
  maxValue?: number;
  onChange: (value: number | null) => void;
}) {
  const scale = scaleOf(quantity, units, fuel);
  const digits = 10 ** (scale.decimals + 1);
  const show = (inside: number) => Math.round(toShown(scale, inside) * digits) / digits;
  return (
    <NumberField
      {...props}
      unit={scale.unit}
      value={value === null ? null : show(value)}
      minValue={minValue === undefined ? undefined : show(minValue)}
      maxValue={maxValue === undefined ? undefined : show(maxValue)}
      onChange={(shown) => onChange(shown === null ? null : fromShown(scale, shown))}
    />
  );
}
