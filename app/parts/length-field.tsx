import type { ComponentProps } from 'react';
import { lengthMetres, readLength } from '~/core/units/workshop';
import type { Units } from '~/core/units/units';
import { NumberField } from '../ui/number-field';
import { ParsedField } from './parsed-field';

/** Rounding of typed inches: a tenth of a millimetre is no length of a wire. */
const STEPS_PER_METRE = 1e4;

/** A length of wire in metres, or typed and read in feet and inches. */
export function LengthField({
  units,
  value,
  minValue,
  maxValue,
  onChange,
  ...props
}: {
  units: Units;
  label: string;
  hideLabel?: boolean;
  hint?: string;
  value: number;
  minValue: number;
  maxValue: number;
  onChange: (metres: number) => void;
} & Pick<ComponentProps<typeof NumberField>, 'isDisabled'>) {
  if (units.workshop === 'metric')
    return (
      <NumberField
        {...props}
        unit="m"
        value={value}
        minValue={minValue}
        maxValue={maxValue}
        onChange={(metres) => metres !== null && onChange(metres)}
      />
    );
  const words = (metres: number) => readLength(metres, { units });
  return (
    <ParsedField
      {...props}
      shown={words(value)}
      parse={(text) => {
        const metres = lengthMetres(text, units);
        if (metres === null || metres < minValue || metres > maxValue) return null;
        return Math.round(metres * STEPS_PER_METRE) / STEPS_PER_METRE;
      }}
      onEnter={onChange}
      wrong={`Write it as 4 ft 11 in, ${words(minValue)} to ${words(maxValue)}.`}
    />
  );
}
