import { FieldError, Input, Label, Text } from 'react-aria-components';
import { styled } from 'styled-components';
import { boxLook, labelLook } from './field-look';
import { color, space, type } from './theme';

export const FieldLabel = styled(Label)`
  ${labelLook}
`;
export const ErrorText = styled(FieldError)`
  color: ${color.stop};
  font-size: ${type.small};
`;
export const Hint = styled(Text)`
  color: ${color.soft};
  font-size: ${type.small};
`;
export const Box = styled(Input)`
  ${boxLook}
`;
export const Unit = styled.span`
  color: ${color.soft};
  white-space: nowrap;
`;
export const FieldRow = styled.span`
  display: flex;
  align-items: center;
  gap: ${space[2]};
`;

export interface Common {
  label: string;
  /** The label is spoken, not shown: a heading or row names the field already. */
  hideLabel?: boolean;
  hint?: string;
  error?: string;
  /** A search or a filter: nobody misses what was typed here. */
  passing?: boolean;
}
