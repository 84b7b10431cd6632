import { useRef, useState } from 'react';
import { TextField as AriaTextField, type TextFieldProps } from 'react-aria-components';
import { styled } from 'styled-components';
import { fieldLook } from './field-look';
import { useTyped, useTypedText } from './typed';
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
  passing,
  ...props
}: TextFieldProps & Common & { placeholder?: string }) {
  const box = useRef<HTMLInputElement>(null);
  const typed = useTypedText(label, props, box, passing);
  return (
    <TextRoot isInvalid={error !== undefined} aria-label={hideLabel ? label : undefined} {...props} {...typed}>
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <Box ref={box} placeholder={placeholder} />
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
  const box = useRef<HTMLInputElement>(null);
  const typed = useTyped(label, text, box);
  const change = (next: string) => {
    if (!FIGURE.test(next)) return;
    typed.onText(next);
    setText(next);
    const value = Number(next.replace(',', '.').replace('–', '-'));
    onChange(next.trim() === '' || Number.isNaN(value) ? null : value);
  };
  return (
    <TextRoot value={text} onChange={change} inputMode="decimal" aria-label={hideLabel ? label : undefined}>
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <FieldRow>
        <Box ref={box} />
        {unit && <Unit>{unit}</Unit>}
      </FieldRow>
    </TextRoot>
  );
}
