import { styled } from 'styled-components';
import { asksPhase, cycleDegrees, firingAngleByCylinder, type Engine } from '~/core/engine/engine';
import { firedTogether, rowsOf } from '~/core/engine/outputs';
import { injectionNames, letterAt } from '~/core/netlist/revisions';
import { plural } from '~/core/units/format';
import { Small } from '../ui/text';
import { color, type } from '../ui/theme';

/** How the plugs are fired, in words. */
export function coilWords(engine: Engine): string {
  if (engine.ignition === 'distributor') return 'one coil and a distributor';
  const each = engine.plugs === 2 ? 'a coil for each plug' : 'a coil each';
  if (engine.ignition === 'direct') return each;
  return firedTogether(engine, 'ignition').some((set) => set.length > 1) ? 'one coil for two' : `${each}, every turn`;
}

const [CENTRE, RING, BORE] = [110, 78, 17];
/** The wheels: on the crank, toothed; on the cam within it, where the cycle must be known. */
const [CRANK, CAM] = [40, 33];
/** Coils stand between the wheel and the bores, each at a cylinder it serves. */
const [COIL, COIL_SIDE] = [53, 11];
const at = (degrees: number, radius: number) => {
  const angle = ((degrees - 90) * Math.PI) / 180;
  return { x: CENTRE + radius * Math.cos(angle), y: CENTRE + radius * Math.sin(angle) };
};

/** A label stands clear of its bore: outwards to either side, centred above and below. */
const sideOf = (x: number) => (Math.abs(x - CENTRE) < RING / 4 ? 'middle' : x > CENTRE ? 'start' : 'end');

/** The engine as it was described: its cylinders round one cycle, each where it fires, in the order they do. @param coils Of the usual parts; null: none are laid down. */
export function EngineSketch({ engine, coils }: { engine: Engine; coils: number | null }) {
  const cycle = cycleDegrees(engine);
  const fires = [...firingAngleByCylinder(engine)].sort((one, other) => one[1] - other[1]);
  const bore = Math.min(BORE, (Math.PI * RING) / Math.max(1, fires.length) - 2);
  const words = `${engine.cylinders} cylinders over ${cycle}°: ${fires.map(([cylinder, angle]) => `${cylinder} at ${angle}°`).join(', ')}`;
  return (
    <Figure>
      <svg viewBox="-26 -6 272 232" role="img" aria-label={words}>
        <circle cx={CENTRE} cy={CENTRE} r={RING} className="ring" />
        {Array.from({ length: cycle / 90 }, (_, i) => {
          const [from, to] = [at((i * 90 * 360) / cycle, RING - 5), at((i * 90 * 360) / cycle, RING + 5)];
          return <line key={i} x1={from.x} y1={from.y} x2={to.x} y2={to.y} className="ring" />;
        })}
        {fires.map(([cylinder, angle], i) => {
          const { x, y } = at((angle * 360) / cycle, RING);
          const label = at((angle * 360) / cycle, RING + bore + 8);
          return (
            <g key={cylinder}>
              <circle cx={x} cy={y} r={bore} className={i === 0 ? 'bore first' : 'bore'} />
              <text x={x} y={y} className={i === 0 ? 'number first' : 'number'}>
                {cylinder}
              </text>
              {fires.length <= 8 && (
                <text x={label.x} y={label.y} className="angle" textAnchor={sideOf(label.x)}>
                  {angle}°
                </text>
              )}
            </g>
          );
        })}
        <Coils engine={engine} cycle={cycle} />
        <circle cx={CENTRE} cy={CENTRE} r={CRANK} className="wheel" />
        {asksPhase(engine) && <circle cx={CENTRE} cy={CENTRE} r={CAM} className="ring" strokeDasharray="30 4" />}
        <text x={CENTRE} y={CENTRE - 8} className="middle">
          {cycle}°
        </text>
        <text x={CENTRE} y={CENTRE + 11} className="small">
          {coils === null ? coilWords(engine) : plural(coils, 'coil')}
        </text>
      </svg>
      <Small as="figcaption">
        Fires {fires.map(([cylinder]) => cylinder).join('-')}, {coilWords(engine)},{' '}
        {engine.injection === 'none' ? 'no injection' : `injected ${injectionNames[engine.injection]}`}, to{' '}
        {engine.maxRpm} rpm. A crank wheel
        {asksPhase(engine) ? ' and one on the cam' : ', no cam needed'}.
      </Small>
    </Figure>
  );
}

/** Every plug's coil at its cylinder; those that share one carry the same letter. A distributor has none there. */
function Coils({ engine, cycle }: { engine: Engine; cycle: number }) {
  if (engine.ignition === 'distributor') return null;
  const angles = firingAngleByCylinder(engine);
  const sets = firedTogether(engine, 'ignition');
  const side = sets.length > LARGE ? COIL_SIDE - 3 : COIL_SIDE;
  return sets.flatMap((set, at) =>
    set.flatMap((cylinder) =>
      Array.from({ length: rowsOf(engine, 'ignition') }, (_, row) => {
        const apart = engine.plugs === 2 ? (row === 0 ? -side / 2 - 1 : side / 2 + 1) : 0;
        return (
          <g
            key={`${cylinder} ${row}`}
            transform={`translate(${CENTRE} ${CENTRE}) rotate(${(angles.get(cylinder)! * 360) / cycle}) translate(${apart} ${-COIL})`}
            className="coil"
          >
            <rect x={-side / 2} y={-side / 2} width={side} height={side} rx={2} />
            {set.length > 1 && (
              <text transform={`rotate(${(-angles.get(cylinder)! * 360) / cycle})`}>{letterAt(at)}</text>
            )}
          </g>
        );
      }),
    ),
  );
}
/** Coils past which they are drawn smaller. */
const LARGE = 10;

const Figure = styled.figure`
  display: grid;
  gap: 4px;
  justify-items: center;
  text-align: center;
  svg {
    width: 100%;
    max-width: 280px;
  }
  .ring {
    fill: none;
    stroke: ${color.rule};
    stroke-width: 1.5;
  }
  .wheel {
    fill: none;
    stroke: ${color.rule};
    stroke-width: 5;
    stroke-dasharray: 4 4;
  }
  .coil rect {
    fill: ${color.sheet};
    stroke: ${color.pencil};
    stroke-width: 1.5;
  }
  .coil text {
    font: 700 9px ${type.mono};
  }
  .bore {
    fill: ${color.sheet};
    stroke: ${color.ink};
    stroke-width: 1.8;
  }
  .bore.first {
    fill: ${color.pencil};
    stroke: ${color.pencil};
  }
  text {
    dominant-baseline: central;
    fill: ${color.ink};
  }
  text:not([text-anchor]) {
    text-anchor: middle;
  }
  .number {
    font: 700 15px ${type.mono};
  }
  .number.first {
    fill: ${color.onInk};
  }
  .angle,
  .small {
    font-size: 12px;
    fill: ${color.soft};
  }
  .middle {
    font-weight: 700;
    font-size: 17px;
  }
`;
