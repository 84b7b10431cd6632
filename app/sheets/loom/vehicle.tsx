import { memo } from 'react';
import type { Layout } from '~/core/loom/regions';
import { onPlan } from '~/core/drawing/plan';
import type { Vehicle } from '~/core/tree/tree';
import { color } from '../../ui/theme';

/** Corners and bends of an outline, in shares of the vehicle's length and width: M to, L straight to, C bent to. */
const outlines: Readonly<Record<Vehicle, string>> = {
  car: 'M.01 .22C.06 .02 .2 0 .3 0L.8 0C.95 0 .985 .08 .995 .25L.995 .75C.985 .92 .95 1 .8 1L.3 1C.2 1 .06 .98 .01 .78Z',
  // From the side: tank and seat above, the engine between the wheels.
  motorcycle:
    'M.06 .14C.16 .02 .3 .01 .42 .04L.6 .08C.75 .04 .9 .06 .99 .16L.97 .3L.84 .4L.8 .86C.7 .97 .34 .97 .24 .86L.16 .5Z',
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
  motorcycle: [],
  boat: [],
  kart: [
    [0.05, 0.05, 0.14, 0.12],
    [0.05, 0.83, 0.14, 0.12],
    [0.78, 0.05, 0.16, 0.14],
    [0.78, 0.81, 0.16, 0.14],
  ],
  stationary: [],
};
/** Wheels seen from the side: middle, and radius in shares of the height. */
const rounds: Partial<Record<Vehicle, readonly (readonly [x: number, y: number, r: number])[]>> = {
  motorcycle: [
    [0.11, 0.78, 0.22],
    [0.9, 0.78, 0.22],
  ],
};
const wallWords: Readonly<Record<Vehicle, string>> = {
  car: 'firewall',
  motorcycle: '',
  boat: 'bulkhead',
  kart: '',
  stationary: '',
};

/** The outline of a vehicle seen from above (what runs on two wheels: from the side), its wheels, its engine and the wall before it. */
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
      {rounds[vehicle]?.map(([x, y, r]) => (
        <g key={`${x} ${y}`} fill="none" stroke={color.rule}>
          <circle cx={at(x, y).x} cy={at(x, y).y} r={r * width * scale} strokeWidth="7" />
          <circle cx={at(x, y).x} cy={at(x, y).y} r={r * width * scale * 0.18} strokeWidth="2" />
        </g>
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
