import { ChevronDown } from 'lucide-react';
import { memo } from 'react';
import { Button, ListBox, ListBoxItem, Popover, Select as AriaSelect, SelectValue, Text } from 'react-aria-components';
import { styled } from 'styled-components';
import { boxLook, fieldLook, optionLook, popoverLook } from './field-look';
import { FieldLabel, Hint, type Common } from './field-parts';
import { color, space, type } from './theme';
import { useStable } from './use-stable';

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

interface SelectProps extends Common {
  choices: readonly Choice[];
  value: string | null;
  onChange: (id: string) => void;
  isDisabled?: boolean;
}

/** One of a list. The list is built whole, so it is not drawn again while it says the same. */
export function Select(props: SelectProps) {
  const onChange = useStable(props.onChange);
  return <Drawn {...props} onChange={onChange} />;
}

const alike = (one: SelectProps, other: SelectProps): boolean =>
  (['label', 'hideLabel', 'hint', 'value', 'onChange', 'isDisabled'] as const).every(
    (key) => one[key] === other[key],
  ) &&
  one.choices.length === other.choices.length &&
  one.choices.every(({ id, name, note }, i) => {
    const there = other.choices[i];
    return id === there.id && name === there.name && note === there.note;
  });

const Drawn = memo(function Drawn({
  label,
  hideLabel = false,
  hint,
  choices,
  value,
  onChange,
  isDisabled,
}: SelectProps) {
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
}, alike);
