import { styled } from 'styled-components';
import { at, color, shape, space } from '../ui/theme';

/** A page outside of the builds: one sheet of paper, its head, its work. Garage, library and new build share it. */
export const PlainPage = styled.main`
  padding: ${space[4]};
  min-height: 100dvh;
  display: grid;
  ${at.narrow} {
    padding: ${space[2]};
  }
`;
export const PlainSheet = styled.div<{ $width?: number }>`
  width: min(100%, ${({ $width = 1180 }) => $width}px);
  margin-inline: auto;
  background: ${color.sheet};
  border: ${shape.line} solid ${color.ink};
  box-shadow:
    inset 0 0 0 5px ${color.sheet},
    inset 0 0 0 6px ${color.rule};
  padding: ${space[5]};
  display: grid;
  gap: ${space[5]};
  align-content: start;
  ${at.narrow} {
    padding: ${space[4]};
    box-shadow: none;
  }
`;
export const PlainHead = styled.header`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  justify-content: space-between;
  gap: ${space[3]};
  padding-bottom: ${space[3]};
  border-bottom: ${shape.line} solid ${color.ink};
`;
