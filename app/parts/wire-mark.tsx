import { styled } from 'styled-components';
import { splitColour, type ColourCode } from '~/core/wire/colours';
import { color } from '../ui/theme';

/** Colours of insulation as they look; the letters (IEC 60757) always stand beside them. */
const insulation: Record<ColourCode, string> = {
  BK: '#17191b',
  BN: '#7a4a28',
  RD: '#c8202a',
  OG: '#e8791c',
  YE: '#f2c91d',
  GN: '#2f8a45',
  BU: '#2b66b1',
  VT: '#7a4aa0',
  GY: '#8b8f93',
  WH: '#f7f7f4',
  PK: '#eaa0b4',
  TQ: '#35aeb0',
};
/** Of the strands, where a wire is cut across. */
export const COPPER = '#c98a52';
export const insulationColour = (code: ColourCode): string => insulation[code];

/** A length of wire in its true colour with its stripe. */
export function WireLine({
  colour,
  length = '100%',
  dashed = false,
}: {
  colour: string;
  length?: string;
  dashed?: boolean;
}) {
  const { base, stripe } = splitColour(colour);
  return (
    <svg width={length} height="12" aria-hidden focusable="false" preserveAspectRatio="none">
      {dashed && <line x1="0" x2="100%" y1="6" y2="6" stroke={color.soft} strokeWidth="12" strokeDasharray="2 3" />}
      <line x1="0" x2="100%" y1="6" y2="6" stroke={color.ink} strokeWidth="8.5" />
      <line x1="0" x2="100%" y1="6" y2="6" stroke={insulation[base]} strokeWidth="6.5" />
      {stripe && <line x1="0" x2="100%" y1="6" y2="6" stroke={insulation[stripe]} strokeWidth="2.4" />}
    </svg>
  );
}

const Mark = styled.span`
  display: inline-flex;
  align-items: center;
  gap: 6px;
  vertical-align: middle;
  white-space: nowrap;
`;

/** Short swatch and letters, and its size in the person's units: `WH/BU 0.5 mm²`. */
export function WireMark({ colour, size }: { colour: string; size?: string }) {
  return (
    <Mark>
      <span style={{ width: 26, display: 'inline-flex' }}>
        <WireLine colour={colour} />
      </span>
      {colour}
      {size !== undefined && ` ${size}`}
    </Mark>
  );
}
