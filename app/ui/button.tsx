import type { Ref } from 'react';
import { Button as AriaButton, type ButtonProps } from 'react-aria-components/Button';
import { css, styled } from 'styled-components';
import { color, shape, space, type } from './theme';

/** `act` is the one next step, `plain` any other, `quiet` a step within a line of text. */
export type Weight = 'act' | 'plain' | 'quiet' | 'pencil';

const weights = {
  act: css`
    background: ${color.ink};
    border-color: ${color.ink};
    color: ${color.onInk};
    &[data-hovered] {
      background: color-mix(in srgb, ${color.ink} 86%, ${color.sheet});
    }
  `,
  plain: css`
    &[data-hovered] {
      background: ${color.raised};
    }
  `,
  pencil: css`
    border-color: ${color.pencil};
    color: ${color.pencil};
    &[data-hovered] {
      background: ${color.raised};
    }
  `,
  quiet: css`
    border-color: transparent;
    background: none;
    padding-inline: 0;
    min-height: 28px;
    text-align: left;
    text-decoration: underline;
    text-underline-offset: 3px;
    &[data-hovered] {
      color: ${color.selection};
    }
  `,
};

export const buttonLook = css<{ $weight?: Weight }>`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: ${space[2]};
  min-height: 38px;
  padding: ${space[1]} ${space[4]};
  border: ${shape.line} solid ${color.ink};
  border-radius: ${shape.radius};
  background: ${color.sheet};
  color: ${color.ink};
  font-size: ${type.body};
  line-height: 1.2;
  text-align: center;
  text-decoration: none;
  cursor: pointer;
  ${({ $weight = 'plain' }) => weights[$weight]}
  &[data-disabled] {
    opacity: 0.5;
    cursor: default;
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
  }
  @media print {
    /* Tools are left out; a quiet button carries a name and prints as words. */
    ${({ $weight = 'plain' }) => ($weight === 'quiet' ? 'text-decoration: none; min-height: 0;' : 'display: none;')}
  }
`;

const Look = styled(AriaButton)<{ $weight?: Weight }>`
  ${buttonLook}
`;

export function Button({
  weight = 'plain',
  ...props
}: ButtonProps & { weight?: Weight; ref?: Ref<HTMLButtonElement> }) {
  return <Look $weight={weight} {...props} />;
}
