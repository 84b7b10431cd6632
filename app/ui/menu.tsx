import { ChevronDown } from 'lucide-react';
import { Menu as AriaMenu, MenuItem, MenuTrigger, Popover } from 'react-aria-components';
import { styled } from 'styled-components';
import { Button, type Weight } from './button';
import { optionLook, popoverLook } from './field-look';
import { color, type } from './theme';

export interface MenuChoice {
  readonly id: string;
  readonly name: string;
  readonly note?: string;
}

/** A button that opens a list of things to do. */
export function Menu({
  label,
  choices,
  onChoose,
  weight = 'plain',
}: {
  label: string;
  choices: readonly MenuChoice[];
  onChoose: (id: string) => void;
  weight?: Weight;
}) {
  return (
    <MenuTrigger>
      <Button weight={weight}>
        {label} <ChevronDown size={15} aria-hidden />
      </Button>
      <Box placement="bottom end">
        <List aria-label={label} onAction={(key) => onChoose(String(key))}>
          {choices.map(({ id, name, note }) => (
            <Item key={id} id={id} textValue={name}>
              <span>{name}</span>
              {note && <Note>{note}</Note>}
            </Item>
          ))}
        </List>
      </Box>
    </MenuTrigger>
  );
}

const Box = styled(Popover)`
  ${popoverLook}
  max-width: min(340px, 92vw);
`;
const List = styled(AriaMenu)`
  outline: none;
  overflow: auto;
`;
const Item = styled(MenuItem)`
  ${optionLook}
`;
const Note = styled.span`
  display: block;
  color: ${color.soft};
  font-size: ${type.small};
  font-weight: 400;
`;
