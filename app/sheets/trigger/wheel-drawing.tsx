import { styled } from 'styled-components';
import type { Wheel } from '~/core/trigger/wheel';
import { color } from '../../ui/theme';

const SIZE = 240;
const CENTRE = SIZE / 2;

const point = (degrees: number, radius: number) => {
  const angle = ((degrees - 90) * Math.PI) / 180;
  return `${(CENTRE + radius * Math.cos(angle)).toFixed(2)} ${(CENTRE + radius * Math.sin(angle)).toFixed(2)}`;
};

/**
 * Outline of a wheel that turns clockwise, its angle 0 drawn at `zero` degrees. Edges are listed as they pass the sensor,
 * so later ones lie behind, counterclockwise.
 */
function outline(wheel: Wheel, zero: number, low: number, high: number): string {
  const at = (degrees: number) => zero - degrees;
  const arc = (from: number, to: number, radius: number) =>
    `A ${radius} ${radius} 0 ${to - from > 180 ? 1 : 0} 0 ${point(at(to), radius)}`;
  const { edges } = wheel;
  const parts = [`M ${point(at(edges[0].degrees), edges[0].level === 1 ? low : high)}`];
  edges.forEach((edge, index) => {
    const radius = edge.level === 1 ? high : low;
    const next = index + 1 < edges.length ? edges[index + 1].degrees : edges[0].degrees + 360;
    parts.push(`L ${point(at(edge.degrees), radius)}`, arc(edge.degrees, next, radius));
  });
  return `${parts.join(' ')} Z`;
}

/**
 * The crank wheel as it stands at TDC 1: the sensor on the right, tooth 1 (first after the gap) still to come or gone by,
 * the offset as the arc between them.
 */
export function WheelDrawing({
  wheel,
  cam,
  offsetDegrees,
  sensor,
}: {
  wheel: Wheel;
  cam: Wheel | null;
  offsetDegrees: number;
  sensor: 'vr' | 'hall' | null;
}) {
  // The wheel turns clockwise. `offset` crank degrees after tooth 1 passed the sensor, cylinder 1 is at TDC.
  const sensorAt = 90;
  const crankTurn = offsetDegrees % 360;
  const toothOne = sensorAt + crankTurn;
  const large = crankTurn > 180 ? 1 : 0;
  return (
    <Figure>
      <svg
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        role="img"
        aria-label={`${wheel.name}, drawn with cylinder 1 at top dead centre; tooth 1 passed the ${sensor ?? ''} sensor ${crankTurn.toFixed(1)} degrees before`}
      >
        <path d={outline(wheel, toothOne, 84, 96)} fill={color.raised} stroke={color.ink} strokeWidth="1.2" />
        <circle cx={CENTRE} cy={CENTRE} r="24" fill={color.sheet} stroke={color.ink} strokeWidth="1.2" />
        <text x={CENTRE} y={CENTRE + 4} textAnchor="middle" fontSize="12" fill={color.ink}>
          {wheel.id.length <= 8 ? wheel.id : 'crank'}
        </text>
        {cam && (
          <path d={outline(cam, 0, 34, 41)} fill="none" stroke={color.soft} strokeWidth="1" strokeDasharray="3 2" />
        )}
        <line x1={CENTRE} y1="4" x2={CENTRE} y2="22" stroke={color.proved} strokeWidth="3" />
        <text x={CENTRE + 7} y="14" fontSize="12" fill={color.proved}>
          TDC 1
        </text>
        <rect
          x={CENTRE + 99}
          y={CENTRE - 10}
          width="20"
          height="20"
          rx="3"
          fill={color.selectionWash}
          stroke={color.selection}
          strokeWidth="1.5"
        />
        <text x={SIZE - 2} y={CENTRE + 24} textAnchor="end" fontSize="12" fill={color.selection}>
          {sensor === 'vr' ? 'VR' : sensor === 'hall' ? 'Hall' : 'sensor'}
        </text>
        <path
          d={`M ${point(sensorAt, 60)} A 60 60 0 ${large} 1 ${point(toothOne, 60)}`}
          fill="none"
          stroke={color.pencil}
          strokeWidth="1.6"
        />
        <path
          d={`M ${CENTRE} ${CENTRE} L ${point(toothOne, 104)}`}
          stroke={color.pencil}
          strokeWidth="1"
          strokeDasharray="3 3"
        />
        <text
          x={point(toothOne, 111).split(' ')[0]}
          y={point(toothOne, 111).split(' ')[1]}
          fontSize="12"
          textAnchor="middle"
          fill={color.pencil}
        >
          1
        </text>
        <text
          x={point(sensorAt + crankTurn / 2, 46).split(' ')[0]}
          y={point(sensorAt + crankTurn / 2, 46).split(' ')[1]}
          fontSize="13"
          fontWeight="700"
          textAnchor="middle"
          fill={color.pencil}
        >
          {crankTurn.toFixed(0)}°
        </text>
      </svg>
    </Figure>
  );
}

const Figure = styled.figure`
  max-width: 236px;
  margin-inline: auto;
  svg {
    width: 100%;
    height: auto;
    overflow: visible;
  }
`;
