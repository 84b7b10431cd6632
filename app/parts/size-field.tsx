import { readSize, sizeSquareMm } from '~/core/wire/size';
import type { Units } from '~/core/units/units';
import { NumberField } from '../ui/number-field';
import { ParsedField } from './parsed-field';

/** A wire size in square millimetres, or typed and read as a gauge. */
export function SizeField({
  units,
  value,
  minValue,
  maxValue,
  onChange,
  ...props
}: {
  units: Units;
  label: string;
  value: number;
  minValue: number;
  maxValue: number;
  onChange: (squareMm: number) => void;
}) {
  if (units.workshop === 'metric')
    return (
      <NumberField
        {...props}
        unit="mm²"
        value={value}
        minValue={minValue}
        maxValue={maxValue}
        onChange={(squareMm) => squareMm !== null && onChange(squareMm)}
      />
    );
  return (
    <ParsedField
      {...props}
      shown={readSize(value, { units })}
      parse={(text) => {
        // A bare number is a gauge here.
        const squareMm = sizeSquareMm(/^\d{1,2}(\/0)?$/.test(text.trim()) ? `${text.trim()} AWG` : text);
        return squareMm !== null && squareMm >= minValue && squareMm <= maxValue ? squareMm : null;
      }}
      onEnter={onChange}
      wrong={`Write it as 18 AWG, or 0.75 mm², up to ${readSize(maxValue, { units })}.`}
    />
  );
}
