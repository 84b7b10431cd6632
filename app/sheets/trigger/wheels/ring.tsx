import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { styled } from 'styled-components';
import type { Tooth } from '~/core/trigger/teeth';
import { color, shape, type } from '../../../ui/theme';
import { angleOf, arcTo, pointAt, type Frame } from '../wheel-path';

const SIZE = 390;
const CENTRE = SIZE / 2;
const [LOW, HIGH] = [126, 150];
const [OTHER_LOW, OTHER_HIGH] = [92, 108];
/** Teeth from which the other track is hinted at by a hatched ring. */
const FINE = 120;
/** Turning clockwise, later teeth lie behind: angles grow counterclockwise, as on the other drawings. */
const frame: Frame = { centre: CENTRE, mirrored: true };

/** A tooth as a block on the rim. */
const block = ({ at, width }: Tooth, low = LOW, high = HIGH): string =>
  [
    `M ${pointAt(frame, at, low)}`,
    `L ${pointAt(frame, at, high)}`,
    arcTo(frame, at, at + width, high),
    `L ${pointAt(frame, at + width, low)}`,
    arcTo(frame, at + width, at, low),
    'Z',
  ].join(' ');

/**
 * The rim of a wheel to draw on: a press on the rim puts a tooth, a drag moves one, arrows choose and move by keyboard.
 */
export function Ring({
  teeth,
  other,
  selected,
  snap,
  onSelect,
  onPut,
  onMove,
  onRemove,
}: {
  teeth: readonly Tooth[];
  /** Teeth of the track that is not on the board, drawn within. */
  other: readonly Tooth[];
  selected: number | null;
  /** Degrees that angles are rounded to. */
  snap: number;
  onSelect: (index: number | null) => void;
  onPut: (degrees: number) => void;
  onMove: (index: number, at: number) => void;
  onRemove: (index: number) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ index: number; grip: number } | null>(null);
  const [hover, setHover] = useState<number | null>(null);
  const snapped = (degrees: number) => (((Math.round(degrees / snap) * snap) % 360) + 360) % 360;
  const read = (event: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const scale = SIZE / box.width;
    const spot = { x: (event.clientX - box.left) * scale, y: (event.clientY - box.top) * scale };
    return { degrees: angleOf(frame, spot), radius: Math.hypot(spot.x - CENTRE, spot.y - CENTRE) };
  };
  const hit = (degrees: number) => teeth.findIndex(({ at, width }) => (((degrees - at) % 360) + 360) % 360 < width);
  const down = (event: PointerEvent) => {
    const { degrees, radius } = read(event);
    if (radius < LOW - 26 || radius > HIGH + 26) return onSelect(null);
    const index = hit(degrees);
    if (index < 0) return onPut(snapped(degrees));
    onSelect(index);
    svg.current!.setPointerCapture(event.pointerId);
    setDrag({ index, grip: degrees - teeth[index].at });
  };
  const move = (event: PointerEvent) => {
    const { degrees, radius } = read(event);
    setHover(radius > LOW - 26 && radius < HIGH + 26 ? snapped(degrees) : null);
    if (!drag || selected === null) return;
    const at = snapped(degrees - drag.grip);
    if (at !== teeth[selected]?.at) onMove(selected, at);
  };
  const keys = (event: KeyboardEvent) => {
    const step =
      event.key === 'ArrowRight' || event.key === 'ArrowUp'
        ? 1
        : event.key === 'ArrowLeft' || event.key === 'ArrowDown'
          ? -1
          : 0;
    if (step !== 0) {
      event.preventDefault();
      if (event.shiftKey && selected !== null) onMove(selected, snapped(teeth[selected].at + step * snap));
      else if (teeth.length > 0) onSelect(selected === null ? 0 : (selected + step + teeth.length) % teeth.length);
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && selected !== null) {
      event.preventDefault();
      onRemove(selected);
    } else if (event.key === 'Enter' || event.key === 'Insert') {
      event.preventDefault();
      // In the middle of the space behind the tooth in hand.
      const from = selected === null ? 0 : teeth[selected].at + teeth[selected].width;
      const next = selected === null || teeth.length === 0 ? 360 : teeth[(selected + 1) % teeth.length].at;
      const space = (((next - from) % 360) + 360) % 360 || 360;
      onPut(snapped(from + space / 2));
    } else if (event.key === 'Escape') onSelect(null);
  };
  const told = selected === null ? null : teeth[selected];
  return (
    <Board
      ref={svg}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      tabIndex={0}
      role="application"
      aria-label={`Rim of the wheel, ${teeth.length} ${teeth.length === 1 ? 'tooth' : 'teeth'}. ${told ? `Tooth ${selected! + 1} at ${told.at} degrees, ${told.width} wide. ` : ''}Arrows choose a tooth, Shift with arrows moves it, Enter puts one behind it, Delete removes it.`}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => setDrag(null)}
      onPointerLeave={() => setHover(null)}
      onKeyDown={keys}
    >
      <circle cx={CENTRE} cy={CENTRE} r={LOW} fill={color.raised} stroke={color.ink} strokeWidth="1.2" />
      <circle cx={CENTRE} cy={CENTRE} r={HIGH} fill="none" stroke={color.rule} strokeWidth="1" strokeDasharray="2 4" />
      {other.length > FINE && (
        <circle
          cx={CENTRE}
          cy={CENTRE}
          r={(OTHER_LOW + OTHER_HIGH) / 2}
          fill="none"
          stroke={color.rule}
          strokeWidth={OTHER_HIGH - OTHER_LOW}
          strokeDasharray="1 2"
        />
      )}
      {(other.length > FINE ? [] : other).map((tooth) => (
        <path
          key={tooth.at}
          d={block(tooth, OTHER_LOW, OTHER_HIGH)}
          fill="none"
          stroke={color.soft}
          strokeWidth="1"
          strokeDasharray="3 2"
        />
      ))}
      {Array.from({ length: 36 }, (_, i) => i * 10).map((degrees) => (
        <path
          key={degrees}
          d={`M ${pointAt(frame, degrees, HIGH + 4)} L ${pointAt(frame, degrees, HIGH + (degrees % 30 === 0 ? 10 : 7))}`}
          stroke={color.soft}
          strokeWidth={degrees % 30 === 0 ? 1.4 : 0.8}
        />
      ))}
      {(
        [
          [0, 'middle', 22],
          [90, 'end', 14],
          [180, 'middle', 22],
          [270, 'start', 14],
        ] as const
      ).map(([degrees, anchor, off]) => (
        <text
          key={degrees}
          x={pointAt(frame, degrees, HIGH + off).split(' ')[0]}
          y={pointAt(frame, degrees, HIGH + off).split(' ')[1]}
          dy="4"
          fontSize="12"
          textAnchor={anchor}
          fill={color.soft}
        >
          {degrees}°
        </text>
      ))}
      {teeth.map((tooth, index) => (
        <path
          key={`${tooth.at}`}
          d={block(tooth)}
          data-tooth={index + 1}
          fill={index === selected ? color.selection : color.ink}
          fillOpacity={index === selected ? 1 : 0.78}
          stroke={index === selected ? color.pencil : color.sheet}
          strokeWidth={index === selected ? 2.5 : 0.6}
        />
      ))}
      {hover !== null && !drag && (
        <path
          d={`M ${pointAt(frame, hover, LOW - 10)} L ${pointAt(frame, hover, HIGH + 4)}`}
          stroke={color.pencil}
          strokeWidth="1.5"
          strokeDasharray="3 2"
        />
      )}
      <text x={CENTRE} y={CENTRE - 8} textAnchor="middle" fontSize="26" fontWeight="700" fill={color.ink}>
        {hover !== null ? `${Number(hover.toFixed(2))}°` : teeth.length}
      </text>
      <text x={CENTRE} y={CENTRE + 16} textAnchor="middle" fontSize="13" fill={color.soft}>
        {hover !== null ? 'here' : teeth.length === 1 ? 'tooth' : 'teeth'}
      </text>
      <path
        d={`M ${pointAt(frame, 20, 92)} ${arcTo(frame, 20, -20, 92)} l -6.4 -6.4 m 6.4 6.4 l -9 0.8`}
        fill="none"
        stroke={color.soft}
        strokeWidth="1.4"
      />
      <text x={CENTRE} y={CENTRE - 74} textAnchor="middle" fontSize="11" fill={color.soft}>
        turns
      </text>
    </Board>
  );
}

const Board = styled.svg`
  width: 100%;
  max-width: 400px;
  height: auto;
  margin-inline: auto;
  display: block;
  touch-action: none;
  cursor: crosshair;
  user-select: none;
  font-family: ${type.mono};
  border-radius: ${shape.radius};
  &:focus-visible {
    outline: 3px solid ${color.selection};
    outline-offset: 2px;
  }
`;
