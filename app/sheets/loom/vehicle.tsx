import { memo } from 'react';
import type { Layout } from '~/core/loom/regions';
import { onPlan } from '~/core/drawing/plan';
import type { Vehicle } from '~/core/tree/tree';
import { color } from '../../ui/theme';

/** Corners and bends of an outline, in shares of the vehicle's length and width: M to, L straight to, C bent to. */
const outlines: Readonly<Record<Vehicle, string>> = {
  car: 'M.01 .22C.06 .02 .2 0 .3 0L.8 0C.95 0 .985 .08 .995 .25L.995 .75C.985 .92 .95 1 .8 1L.3 1C.2 1 .06 .98 .01 .78Z',
  motorcycle:
    'M0 .45C.15 .2 .3 .12 .45 .12L.75 .12C.9 .15 1 .35 1 .5C1 .65 .9 .85 .75 .88L.45 .88C.3 .88 .15 .8 0 .55Z',
  boat: 'M0 .5C.12 .2 .3 .03 .5 .01L.97 .01C.99 .01 1 .05 1 .1L1 .9C1 .95 .99 .99 .97 .99L.5 .99C.3 .97 .12 .8 0 .5Z',
  kart: 'M.08 .2L.9 .2L.98 .35L.98 .65L.9 .8L.08 .8L.02 .5Z',
  stationary: 'M.02 .03L.98 .03L.98 .97L.02 .97Z',
};
/** Wheels as boxes: left, top, length, width. */
const wheels: Readonly<Record<Vehicle, readonly (readonly [x: number, y: number, w: number, h: number])[]>> = {
  car: [
    [0.09, 0.02, 0.12, 0.07],
    [0.09, 0.91, 0.12, 0.07],
    [0.77, 0.02, 0.12, 0.07],
    [0.77, 0.91, 0.12, 0.07],
  ],
  motorcycle: [
    [0, 0.46, 0.13, 0.08],
    [0.87, 0.46, 0.13, 0.08],
  ],
  boat: [],
  kart: [
    [0.05, 0.05, 0.14, 0.12],
    [0.05, 0.83, 0.14, 0.12],
    [0.78, 0.05, 0.16, 0.14],
    [0.78, 0.81, 0.16, 0.14],
  ],
  stationary: [],
};
const wallWords: Readonly<Record<Vehicle, string>> = {
  car: 'firewall',
  motorcycle: '',
  boat: 'bulkhead',
  kart: '',
  stationary: '',
};

/** The outline of a vehicle seen from above, its wheels, its engine and the wall before it. */
export const VehicleOutline = memo(function VehicleOutline({
  vehicle,
  layout: { length, width, engine, wall },
  scale,
}: {
  vehicle: Vehicle;
  layout: Layout;
  scale: number;
}) {
  const at = (x: number, y: number) => onPlan({ x: x * length, y: y * width }, scale);
  const path = outlines[vehicle].replace(/(-?[\d.]+) (-?[\d.]+)/g, (_, x: string, y: string) => {
    const point = at(Number(x), Number(y));
    return `${point.x.toFixed(1)} ${point.y.toFixed(1)} `;
  });
  const box = onPlan(engine, scale);
  const top = at(0, 0).y;
  const bottom = at(0, 1).y;
  const wallX = wall === null ? null : onPlan({ x: wall, y: 0 }, scale).x;
  return (
    <g aria-hidden>
      <path d={path} fill={color.paper} fillOpacity="0.55" stroke={color.rule} strokeWidth="2" />
      {wheels[vehicle].map(([x, y, w, h]) => (
        <rect
          key={`${x} ${y}`}
          {...at(x, y)}
          width={w * length * scale}
          height={h * width * scale}
          rx="9"
          fill={color.raised}
          stroke={color.rule}
        />
      ))}
      <rect
        {...box}
        width={engine.width * scale}
        height={engine.height * scale}
        rx="12"
        fill={color.raised}
        stroke={color.rule}
      />
      <text x={box.x + 10} y={box.y + engine.height * scale - 10} fontSize="12" fill={color.soft}>
        engine
      </text>
      {wallX !== null && (
        <>
          <path d={`M${wallX} ${top + 6}V${bottom - 6}`} stroke={color.rule} strokeWidth="3" />
          <text x={wallX + 7} y={bottom - 12} fontSize="12" fill={color.soft}>
            {wallWords[vehicle]}
          </text>
        </>
      )}
    </g>
  );
});
