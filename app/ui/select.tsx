import { ChevronDown } from 'lucide-react';
import { Button, ListBox, ListBoxItem, Popover, Select as AriaSelect, SelectValue, Text } from 'react-aria-components';
import { styled } from 'styled-components';
import { boxLook, fieldLook, optionLook, popoverLook } from './field-look';
import { FieldLabel, Hint, type Common } from './field-parts';
import { color, space, type } from './theme';

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
const SelectPopover = styled(Popover)`
  ${popoverLook}
  min-width: var(--trigger-width);
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
  hideLabel = false,
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
    <SelectRoot
      value={value}
      onChange={(key) => key !== null && onChange(String(key))}
      isDisabled={isDisabled}
      aria-label={hideLabel ? label : undefined}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
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
