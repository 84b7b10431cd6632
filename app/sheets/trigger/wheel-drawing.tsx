import { styled } from 'styled-components';
import type { Wheel } from '~/core/wheels/wheel';
import { color } from '../../ui/theme';
import { arcTo, outline, pointAt, spotAt, type Frame } from './wheel-path';

const SIZE = 240;
const CENTRE = SIZE / 2;
/** Inner ring that stands for the pulley with its marks. */
const PULLEY = 54;

/**
 * The crank wheel as it stands at TDC 1: the sensor where it sits, tooth 1 (first after the gap) gone by, the offset as the
 * arc between them; the pulley with its marks under the pointer, and where the light saw it.
 */
export function WheelDrawing({
  wheel,
  cam,
  offsetDegrees,
  sensor,
  sensorAt = 90,
  mirrored = false,
  marks = false,
  seen = null,
  large = false,
}: {
  wheel: Wheel;
  cam: Wheel | null;
  offsetDegrees: number;
  sensor: 'vr' | 'hall' | null;
  /** Clock angle of the sensor, 0 at the top. */
  sensorAt?: number;
  /** Seen from the other side: it turns counterclockwise. */
  mirrored?: boolean;
  /** Draw the pulley's marks for both schools of lock. */
  marks?: boolean;
  /** Degrees before TDC at which the light last showed the pulley. */
  seen?: number | null;
  large?: boolean;
}) {
  const frame: Frame = { centre: CENTRE, mirrored };
  // The wheel turns clockwise. `offset` crank degrees after tooth 1 passed the sensor, cylinder 1 is at TDC.
  const crankTurn = offsetDegrees % 360;
  const toothOne = sensorAt + crankTurn;
  const spot = (degrees: number, radius: number) => spotAt(frame, degrees, radius);
  const sensorSpot = spot(sensorAt, 109);
  const sensorWord = spot(sensorAt + (Math.sin((sensorAt * Math.PI) / 180) < -0.3 ? -13 : 13), 109);
  const one = spot(toothOne, 111);
  const middle = spot(sensorAt + crankTurn / 2, 72);
  return (
    <Figure $large={large}>
      <svg
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        role="img"
        aria-label={`${wheel.name}, drawn with cylinder 1 at top dead centre; tooth 1 passed the ${sensor ?? ''} sensor ${crankTurn.toFixed(1)} degrees before`}
      >
        <path
          d={outline(wheel.edges, toothOne, 84, 96, frame)}
          fill={color.raised}
          stroke={color.ink}
          strokeWidth="1.2"
        />
        {marks ? (
          <>
            <circle cx={CENTRE} cy={CENTRE} r={PULLEY} fill={color.sheet} stroke={color.ink} strokeWidth="1.2" />
            {[0, 10].map((degrees) => (
              <g key={degrees}>
                <path
                  d={`M ${pointAt(frame, degrees, PULLEY)} L ${pointAt(frame, degrees, PULLEY - 9)}`}
                  stroke={color.proved}
                  strokeWidth="2"
                />
                <text
                  {...spot(degrees === 0 ? -7 : 21, PULLEY - 15)}
                  fontSize="10"
                  textAnchor="middle"
                  fill={color.proved}
                >
                  {degrees}
                </text>
              </g>
            ))}
            {seen !== null && (
              <>
                <path
                  d={`M ${pointAt(frame, seen, PULLEY + 6)} L ${pointAt(frame, seen, PULLEY - 12)}`}
                  stroke={color.pencil}
                  strokeWidth="2"
                  strokeDasharray="3 2"
                />
                <text {...spot(seen + 9, PULLEY + 13)} dy="4" fontSize="11" textAnchor="middle" fill={color.pencil}>
                  {seen.toFixed(0)}°
                </text>
              </>
            )}
          </>
        ) : (
          <circle cx={CENTRE} cy={CENTRE} r="24" fill={color.sheet} stroke={color.ink} strokeWidth="1.2" />
        )}
        <text x={CENTRE} y={CENTRE + 4} textAnchor="middle" fontSize="12" fill={color.ink}>
          {marks ? 'pulley' : wheel.id.length <= 8 ? wheel.id : 'crank'}
        </text>
        {cam && !marks && (
          <path
            d={outline(cam.edges, 0, 34, 41, frame)}
            fill="none"
            stroke={color.soft}
            strokeWidth="1"
            strokeDasharray="3 2"
          />
        )}
        <line x1={CENTRE} y1="4" x2={CENTRE} y2="22" stroke={color.proved} strokeWidth="3" />
        <text
          x={CENTRE + (mirrored ? -7 : 7)}
          y="14"
          fontSize="12"
          textAnchor={mirrored ? 'end' : 'start'}
          fill={color.proved}
        >
          TDC 1
        </text>
        <rect
          x={sensorSpot.x - 10}
          y={sensorSpot.y - 10}
          width="20"
          height="20"
          rx="3"
          transform={`rotate(${mirrored ? -sensorAt : sensorAt} ${sensorSpot.x} ${sensorSpot.y})`}
          fill={color.selectionWash}
          stroke={color.selection}
          strokeWidth="1.5"
        />
        <text
          x={sensorWord.x}
          y={sensorWord.y + 4}
          textAnchor={sensorWord.x > CENTRE + 60 ? 'end' : sensorWord.x < CENTRE - 60 ? 'start' : 'middle'}
          dx={sensorWord.x > CENTRE + 60 ? 14 : sensorWord.x < CENTRE - 60 ? -14 : 0}
          fontSize="12"
          fill={color.selection}
        >
          {sensor === 'vr' ? 'VR' : sensor === 'hall' ? 'Hall' : 'sensor'}
        </text>
        <path
          d={`M ${pointAt(frame, sensorAt, marks ? 66 : 60)} ${arcTo(frame, sensorAt, toothOne, marks ? 66 : 60)}`}
          fill="none"
          stroke={color.pencil}
          strokeWidth="1.6"
        />
        <path
          d={`M ${pointAt(frame, toothOne, marks ? PULLEY : 0)} L ${pointAt(frame, toothOne, 104)}`}
          stroke={color.pencil}
          strokeWidth="1"
          strokeDasharray="3 3"
        />
        <text x={one.x} y={one.y + 4} fontSize="12" textAnchor="middle" fill={color.pencil}>
          1
        </text>
        <text
          x={marks ? middle.x : spot(sensorAt + crankTurn / 2, 46).x}
          y={(marks ? middle.y : spot(sensorAt + crankTurn / 2, 46).y) + 4}
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

const Figure = styled.figure<{ $large: boolean }>`
  max-width: ${({ $large }) => ($large ? 320 : 236)}px;
  margin-inline: auto;
  svg {
    width: 100%;
    height: auto;
    overflow: visible;
  }
`;
