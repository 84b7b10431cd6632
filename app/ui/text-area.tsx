import { useRef } from 'react';
import { TextArea, TextField as AriaTextField, type TextFieldProps } from 'react-aria-components';
import { styled } from 'styled-components';
import { boxLook, fieldLook } from './field-look';
import { useTypedText } from './typed';
import { ErrorText, FieldLabel, Hint, type Common } from './field-parts';

const Root = styled(AriaTextField)`
  ${fieldLook}
`;
const Area = styled(TextArea)`
  ${boxLook}
  resize: vertical;
`;

/** Several lines of text. */
export function TextAreaField({
  label,
  hint,
  error,
  rows = 4,
  placeholder,
  passing,
  ...props
}: TextFieldProps & Common & { rows?: number; placeholder?: string }) {
  const box = useRef<HTMLTextAreaElement>(null);
  const typed = useTypedText(label, props, box, passing);
  return (
    <Root isInvalid={error !== undefined} {...props} {...typed}>
      <FieldLabel>{label}</FieldLabel>
      <Area ref={box} rows={rows} placeholder={placeholder} />
      {hint && <Hint slot="description">{hint}</Hint>}
      <ErrorText>{error}</ErrorText>
    </Root>
  );
}
