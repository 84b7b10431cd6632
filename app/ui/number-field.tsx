import { useRef, useState } from 'react';
import { NumberField as AriaNumberField, type NumberFieldProps } from 'react-aria-components';
import { styled } from 'styled-components';
import { fieldLook } from './field-look';
import { useTyped } from './typed';
import { Box, ErrorText, FieldLabel, FieldRow, Hint, Unit, type Common } from './field-parts';

const NumberRoot = styled(AriaNumberField)`
  ${fieldLook}
`;

const rangeWords = (least: number | undefined, most: number | undefined, unit: string): string =>
  least !== undefined && most !== undefined
    ? `Give ${least} to ${most}${unit}.`
    : least !== undefined
      ? `Give ${least}${unit} or more.`
      : `Give at most ${most}${unit}.`;

interface Props extends Omit<NumberFieldProps, 'onChange' | 'value' | 'minValue' | 'maxValue' | 'step'>, Common {
  unit?: string;
  value?: number | null;
  minValue?: number;
  maxValue?: number;
  onChange?: (value: number | null) => void;
}

/**
 * A number with its unit. Empty is `null`, never NaN. A value out of range is not taken and not bent: it stays in sight
 * with the range beside it. Nothing is rounded to a step.
 */
export function NumberField({
  label,
  hideLabel = false,
  unit,
  hint,
  error,
  onChange,
  value,
  minValue,
  maxValue,
  passing,
  ...props
}: Props) {
  const [outside, setOutside] = useState<number | null>(null);
  const change = (next: number) => {
    if (
      !Number.isNaN(next) &&
      ((minValue !== undefined && next < minValue) || (maxValue !== undefined && next > maxValue))
    ) {
      setOutside(next);
      return;
    }
    setOutside(null);
    onChange?.(Number.isNaN(next) ? null : next);
  };
  const shown = value === null || value === undefined ? '' : String(value);
  const box = useRef<HTMLInputElement>(null);
  const typed = useTyped(label, shown, box, passing);
  const said = outside === null ? error : rangeWords(minValue, maxValue, unit ? ` ${unit}` : '');
  return (
    <NumberRoot
      aria-label={hideLabel ? label : undefined}
      isInvalid={said !== undefined}
      formatOptions={{ maximumFractionDigits: 3, useGrouping: false }}
      value={outside ?? value ?? Number.NaN}
      onChange={change}
      {...props}
      onBlur={(event) => {
        props.onBlur?.(event);
        typed.onLeave();
      }}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <FieldRow>
        <Box ref={box} onInput={(event) => typed.onText(event.currentTarget.value)} />
        {unit && <Unit>{unit}</Unit>}
      </FieldRow>
      {hint && <Hint slot="description">{hint}</Hint>}
      <ErrorText>{said}</ErrorText>
    </NumberRoot>
  );
}
