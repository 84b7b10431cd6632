import { styled } from 'styled-components';
import { at, color, shape, space, type } from './theme';

/** A heading within a sheet, with its rule. */
export const Heading = styled.h2`
  font-size: ${type.body};
  font-weight: 700;
  padding-bottom: ${space[1]};
  border-bottom: ${shape.hair} solid ${color.rule};
`;
export const Soft = styled.span`
  color: ${color.soft};
`;
export const Small = styled.span`
  font-size: ${type.small};
  color: ${color.soft};
`;
export const Mono = styled.span`
  font-family: ${type.mono};
  font-weight: 700;
`;
export const Kbd = styled.kbd`
  font-family: ${type.mono};
  font-size: ${type.small};
  padding: 0 ${space[1]};
  border: ${shape.hair} solid ${color.rule};
  border-radius: 3px;
  white-space: nowrap;
`;

const toneColors = {
  stop: color.stop,
  fix: color.fix,
  note: color.soft,
  proved: color.proved,
  pencil: color.pencil,
} as const;
export type Tone = keyof typeof toneColors;
export const toneColor = (tone: Tone) => toneColors[tone];

/** A marginal note: a coloured rule beside it, and its tone also in words. */
export const Callout = styled.div<{ $tone: Tone }>`
  border-left: 4px solid ${({ $tone }) => toneColor($tone)};
  padding: ${space[1]} 0 ${space[1]} ${space[3]};
  display: grid;
  gap: ${space[1]};
  justify-items: start;
`;

export const Stack = styled.div<{ $gap?: 1 | 2 | 3 | 4 | 5 }>`
  display: grid;
  gap: ${({ $gap = 3 }) => space[$gap]};
  align-content: start;
  min-width: 0;
  & > * {
    min-width: 0;
  }
  @media print {
    /* Grids do not break well over pages. */
    display: block;
    & > * + * {
      margin-top: ${({ $gap = 3 }) => space[$gap]};
    }
  }
`;
export const Row = styled.div<{ $gap?: 1 | 2 | 3 | 4 }>`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ $gap = 3 }) => space[$gap]};
`;
/** Fields side by side, as many as fit. */
export const FieldGrid = styled.div<{ $min?: number }>`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, ${({ $min = 150 }) => $min}px), 1fr));
  gap: ${space[3]};
  align-items: start;
`;

/** Tools: on the sheet, not on its print. */
export const ScreenOnly = styled.div`
  min-width: 0;
  @media print {
    display: none;
  }
`;

export const VisuallyHidden = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`;

/** A problem, told where it happened. */
export const Bad = styled.p`
  background: ${color.sheet};
  padding: ${space[2]} ${space[3]};
  border-left: 4px solid ${color.stop};
  color: ${color.stop};
`;
/** A tool or a setting that has no place on paper. */
export const OnScreen = styled.span`
  ${at.print} {
    display: none;
  }
`;
/** Two columns of a sheet, one below the other on a tablet. */
export const TwoColumns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  gap: ${space[5]} ${space[6]};
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
