import { ChevronDown } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import {
  Button,
  Checkbox as AriaCheckbox,
  FieldError,
  Input,
  Label,
  ListBox,
  ListBoxItem,
  NumberField as AriaNumberField,
  Popover,
  Radio,
  RadioGroup,
  Select as AriaSelect,
  SelectValue,
  Text,
  TextField as AriaTextField,
  type NumberFieldProps,
  type TextFieldProps,
} from 'react-aria-components';
import { css, styled } from 'styled-components';
import { color, shape, space, type } from './theme';

const fieldLook = css`
  display: grid;
  gap: ${space[1]};
  align-content: start;
  min-width: 0;
`;
const labelLook = css`
  font-size: ${type.small};
  color: ${color.soft};
`;
const boxLook = css`
  width: 100%;
  min-height: 38px;
  padding: ${space[1]} ${space[3]};
  border: ${shape.hair} solid ${color.soft};
  border-radius: ${shape.radius};
  background: ${color.sheet};
  &[data-invalid] {
    border-color: ${color.stop};
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
  }
`;
const FieldLabel = styled(Label)`
  ${labelLook}
`;
const ErrorText = styled(FieldError)`
  color: ${color.stop};
  font-size: ${type.small};
`;
const Hint = styled(Text)`
  color: ${color.soft};
  font-size: ${type.small};
`;
const TextRoot = styled(AriaTextField)`
  ${fieldLook}
`;
const Box = styled(Input)`
  ${boxLook}
`;

interface Common {
  label: string;
  hint?: string;
  error?: string;
}

export function TextField({
  label,
  hint,
  error,
  placeholder,
  ...props
}: TextFieldProps & Common & { placeholder?: string }) {
  return (
    <TextRoot isInvalid={error !== undefined} {...props}>
      <FieldLabel>{label}</FieldLabel>
      <Box placeholder={placeholder} />
      {hint && <Hint slot="description">{hint}</Hint>}
      <ErrorText>{error}</ErrorText>
    </TextRoot>
  );
}

const NumberRoot = styled(AriaNumberField)`
  ${fieldLook}
`;
const Unit = styled.span`
  color: ${color.soft};
  white-space: nowrap;
`;
const Row = styled.span`
  display: flex;
  align-items: center;
  gap: ${space[2]};
`;

/** A number with its unit. Empty is `null`, never NaN. */
export function NumberField({
  label,
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
      isInvalid={error !== undefined}
      formatOptions={{ maximumFractionDigits: 3, useGrouping: false }}
      value={value ?? Number.NaN}
      onChange={(next) => onChange?.(Number.isNaN(next) ? null : next)}
      {...props}
    >
      <FieldLabel>{label}</FieldLabel>
      <Row>
        <Box />
        {unit && <Unit>{unit}</Unit>}
      </Row>
      {hint && <Hint slot="description">{hint}</Hint>}
      <ErrorText>{error}</ErrorText>
    </NumberRoot>
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
      <Row>
        <Box />
        {unit && <Unit>{unit}</Unit>}
      </Row>
    </TextRoot>
  );
}

const SelectRoot = styled(AriaSelect)`
  ${fieldLook}
`;
const SelectButton = styled(Button)`
  ${boxLook}
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: ${space[2]};
  text-align: left;
  cursor: pointer;
  & > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  & > svg {
    flex: none;
  }
`;
export const popoverLook = css`
  background: ${color.sheet};
  border: ${shape.line} solid ${color.ink};
  border-radius: ${shape.radius};
  box-shadow: 0 8px 24px rgb(0 0 0 / 0.18);
  max-height: 60vh;
  overflow: auto;
`;
const SelectPopover = styled(Popover)`
  ${popoverLook}
  min-width: var(--trigger-width);
`;
export const optionLook = css`
  padding: ${space[2]} ${space[3]};
  cursor: pointer;
  &[data-focused] {
    background: ${color.selectionWash};
    outline: none;
  }
  &[data-selected] {
    font-weight: 700;
  }
  &[data-disabled] {
    color: ${color.soft};
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
  }
`;
const Option = styled(ListBoxItem)`
  ${optionLook}
`;
const OptionNote = styled.span`
  display: block;
  color: ${color.soft};
  font-size: ${type.small};
  font-weight: 400;
`;

export interface Choice {
  id: string;
  name: string;
  note?: string;
}

export function Select({
  label,
  hint,
  choices,
  value,
  onChange,
  isDisabled,
}: Common & {
  choices: readonly Choice[];
  value: string | null;
  onChange: (id: string) => void;
  isDisabled?: boolean;
}) {
  return (
    <SelectRoot value={value} onChange={(key) => key !== null && onChange(String(key))} isDisabled={isDisabled}>
      <FieldLabel>{label}</FieldLabel>
      <SelectButton>
        <SelectValue>{({ defaultChildren, selectedText }) => selectedText ?? defaultChildren}</SelectValue>
        <ChevronDown size={16} aria-hidden />
      </SelectButton>
      {hint && <Hint slot="description">{hint}</Hint>}
      <SelectPopover>
        <ListBox items={choices}>
          {(choice) => (
            <Option id={choice.id} textValue={choice.name}>
              <Text slot="label">{choice.name}</Text>
              {choice.note && <OptionNote>{choice.note}</OptionNote>}
            </Option>
          )}
        </ListBox>
      </SelectPopover>
    </SelectRoot>
  );
}

const Segments = styled(RadioGroup)`
  ${fieldLook}
`;
const SegmentRow = styled.div`
  display: inline-flex;
  flex-wrap: wrap;
  border: ${shape.line} solid ${color.ink};
  border-radius: ${shape.radius};
  overflow: hidden;
  width: fit-content;
  max-width: 100%;
`;
const Segment = styled(Radio)`
  padding: ${space[1]} ${space[3]};
  min-height: 34px;
  display: inline-flex;
  align-items: center;
  cursor: pointer;
  &[data-selected] {
    background: ${color.ink};
    color: ${color.onInk};
  }
  &[data-focus-visible] {
    outline-offset: -3px;
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
  }
`;

/** A few ways to do a thing, all in sight. */
export function Segmented<T extends string>({
  label,
  hideLabel,
  choices,
  value,
  onChange,
}: {
  label: string;
  hideLabel?: boolean;
  choices: readonly { id: T; name: string }[];
  value: T;
  onChange: (id: T) => void;
}) {
  return (
    <Segments
      value={value}
      onChange={(next) => onChange(next as T)}
      orientation="horizontal"
      aria-label={hideLabel ? label : undefined}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <SegmentRow>
        {choices.map((choice) => (
          <Segment key={choice.id} value={choice.id}>
            {choice.name}
          </Segment>
        ))}
      </SegmentRow>
    </Segments>
  );
}

const Check = styled(AriaCheckbox)`
  display: flex;
  align-items: flex-start;
  gap: ${space[2]};
  cursor: pointer;
  min-height: 28px;
  &[data-disabled] {
    cursor: default;
    color: ${color.soft};
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
    align-items: center;
  }
`;
const CheckMark = styled.span`
  flex: none;
  width: 20px;
  height: 20px;
  margin-top: 1px;
  border: ${shape.line} solid currentColor;
  border-radius: 4px;
  display: grid;
  place-items: center;
  & > svg {
    width: 14px;
    height: 14px;
    stroke-width: 3;
  }
`;

export function Checkbox({
  children,
  isSelected,
  onChange,
  isDisabled,
}: {
  children: ReactNode;
  isSelected: boolean;
  onChange?: (value: boolean) => void;
  isDisabled?: boolean;
}) {
  return (
    <Check isSelected={isSelected} onChange={onChange} isDisabled={isDisabled}>
      {({ isSelected: on }) => (
        <>
          <CheckMark aria-hidden>
            {on && (
              <svg viewBox="0 0 16 16" fill="none" stroke="currentColor">
                <path d="M2 8l4 4 8-9" />
              </svg>
            )}
          </CheckMark>
          <span>{children}</span>
        </>
      )}
    </Check>
  );
}
