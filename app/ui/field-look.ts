import { css } from 'styled-components';
import { at, color, shape, space, type } from './theme';

export const fieldLook = css`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: ${space[1]};
  align-content: start;
  min-width: 0;
`;
export const labelLook = css`
  font-size: ${type.small};
  color: ${color.soft};
`;
export const boxLook = css`
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
  /* On paper a field is what stands in it, over a line to write on. */
  ${at.print} {
    width: auto;
    min-height: 0;
    padding: 0;
    border-width: 0 0 1px;
    border-color: ${color.rule};
    border-radius: 0;
    background: none;
    field-sizing: content;
    min-width: 4ch;
    & > svg {
      display: none;
    }
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
