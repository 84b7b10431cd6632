import { fromShown, toShown, type UnitScale, type Units } from '~/core/units/units';
import { measureScale, type Measure } from '~/core/units/workshop';
import { NumberField } from '../ui/number-field';

interface FieldProps {
  label: string;
  hideLabel?: boolean;
  hint?: string;
  error?: string;
  value: number | null;
  minValue?: number;
  maxValue?: number;
  isDisabled?: boolean;
  onChange: (value: number | null) => void;
}

/** A number field in the unit the person reads; what comes out is in Gonyx' own unit. */
export function ScaleField({
  scale,
  value,
  onChange,
  minValue,
  maxValue,
  ...props
}: FieldProps & { scale: UnitScale }) {
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

/** A figure of the workshop: displacement, power, flow, a diameter. */
export const MeasureField = ({ measure, units, ...props }: FieldProps & { measure: Measure; units: Units }) => (
  <ScaleField scale={measureScale(measure, units)} {...props} />
);
