import { Button as AriaButton, Tooltip } from 'react-aria-components';
import { styled } from 'styled-components';
import { popoverLook } from '../../ui/field-look';
import { at, color, shape, space, type } from '../../ui/theme';

export const IconButton = styled(AriaButton)`
  display: grid;
  place-items: center;
  width: 34px;
  height: 34px;
  flex: none;
  border: 0;
  border-radius: ${shape.radius};
  background: none;
  cursor: pointer;
  &[data-hovered] {
    background: ${color.raised};
  }
  &[data-disabled] {
    color: ${color.rule};
    cursor: default;
  }
  @media (pointer: coarse) {
    width: ${shape.target};
    height: ${shape.target};
  }
  ${at.narrow} {
    width: ${shape.target};
    height: ${shape.target};
  }
  ${at.print} {
    display: none;
  }
`;
export const Tip = styled(Tooltip)`
  ${popoverLook}
  padding: ${space[1]} ${space[2]};
  font-size: ${type.small};
`;
