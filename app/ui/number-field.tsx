import { NumberField as AriaNumberField, type NumberFieldProps } from 'react-aria-components';
import { styled } from 'styled-components';
import { fieldLook } from './field-look';
import { Box, ErrorText, FieldLabel, FieldRow, Hint, Unit, type Common } from './field-parts';

const NumberRoot = styled(AriaNumberField)`
  ${fieldLook}
`;

/** A number with its unit. Empty is `null`, never NaN. */
export function NumberField({
  label,
  hideLabel = false,
  unit,
  hint,
  error,
  onChange,
  value,
  ...props
}: Omit<NumberFieldProps, 'onChange' | 'value'> &
  Common & { unit?: string; value?: number | null; onChange?: (value: number | null) => void }) {
  return (
    <NumberRoot
      aria-label={hideLabel ? label : undefined}
      isInvalid={error !== undefined}
      formatOptions={{ maximumFractionDigits: 3, useGrouping: false }}
      value={value ?? Number.NaN}
      onChange={(next) => onChange?.(Number.isNaN(next) ? null : next)}
      {...props}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <FieldRow>
        <Box />
        {unit && <Unit>{unit}</Unit>}
      </FieldRow>
      {hint && <Hint slot="description">{hint}</Hint>}
      <ErrorText>{error}</ErrorText>
    </NumberRoot>
  );
}
