import { useState } from 'react';
import { TextField as AriaTextField, type TextFieldProps } from 'react-aria-components';
import { styled } from 'styled-components';
import { fieldLook } from './field-look';
import { Box, ErrorText, FieldLabel, FieldRow, Hint, Unit, type Common } from './field-parts';

const TextRoot = styled(AriaTextField)`
  ${fieldLook}
`;

export function TextField({
  label,
  hideLabel = false,
  hint,
  error,
  placeholder,
  ...props
}: TextFieldProps & Common & { placeholder?: string }) {
  return (
    <TextRoot isInvalid={error !== undefined} aria-label={hideLabel ? label : undefined} {...props}>
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <Box placeholder={placeholder} />
      {hint && <Hint slot="description">{hint}</Hint>}
      <ErrorText>{error}</ErrorText>
    </TextRoot>
  );
}

const FIGURE = /^[-–]?\d{0,9}([.,]\d{0,4})?$/;

/** A reading as it is typed: every key counts at once, a comma is a point. Remount it (by key) to empty it. */
export function FigureField({
  label,
  hideLabel = false,
  unit,
  onChange,
}: {
  label: string;
  hideLabel?: boolean;
  unit?: string;
  onChange: (value: number | null) => void;
}) {
  const [text, setText] = useState('');
  const change = (next: string) => {
    if (!FIGURE.test(next)) return;
    setText(next);
    const value = Number(next.replace(',', '.').replace('–', '-'));
    onChange(next.trim() === '' || Number.isNaN(value) ? null : value);
  };
  return (
    <TextRoot value={text} onChange={change} inputMode="decimal" aria-label={hideLabel ? label : undefined}>
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <FieldRow>
        <Box />
        {unit && <Unit>{unit}</Unit>}
      </FieldRow>
    </TextRoot>
  );
}
