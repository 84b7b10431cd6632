import type { ReactNode } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import { styled } from 'styled-components';
import { popoverLook } from './field-look';
import { color, shape, space, type } from './theme';

const TermButton = styled(Button)`
  border: 0;
  padding: 0;
  background: none;
  font: inherit;
  color: inherit;
  border-bottom: ${shape.line} dotted ${color.soft};
  cursor: help;
  @media print {
    border: 0;
  }
`;
const TermBox = styled(Popover)`
  ${popoverLook}
  max-width: 300px;
  padding: ${space[3]};
  font-size: ${type.small};
`;
const TermBody = styled(Dialog)`
  outline: none;
`;

/** A word of the trade with its meaning one tap away. */
export function Term({ children, meaning }: { children: ReactNode; meaning: string }) {
  return (
    <DialogTrigger>
      <TermButton>{children}</TermButton>
      <TermBox>
        <TermBody aria-label="Meaning">{meaning}</TermBody>
      </TermBox>
    </DialogTrigger>
  );
}
