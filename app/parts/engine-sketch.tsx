import { styled } from 'styled-components';
import { banksOf, lyingOf } from '~/core/engine/banks';
import { asksPhase, cycleDegrees, firingAngleByCylinder, type Engine, type OutputOrder } from '~/core/engine/engine';
import { firedTogether, outputsFor, rowsOf, type OutputKind } from '~/core/engine/outputs';
import { injectionNames, letterAt } from '~/core/netlist/revisions';
import { plural } from '~/core/units/format';
import { Small } from '../ui/text';
import { color, type } from '../ui/theme';

/** What sparks it, as sheet 1 says it. */
export function coilWords(engine: Engine): string {
  if (engine.ignition === 'direct') return 'a coil each';
  if (engine.ignition === 'wasted') return 'wasted spark';
  return 'a distributor';
}

/** Measures of the drawing, in its own units: a cylinder's column, its bore, the lines under it, the words before them. */
const COLUMN = 38;
const BORE = 14;
const LINE = 19;
const MARGIN = 44;
const TOP = 22;
const MARK = 15;

interface Row {
  readonly words: string;
  readonly use: OutputKind;
  readonly row: number;
}

/** Lines under a bore: its coils, its injectors, each with the output that works it. */
function linesOf(engine: Engine): Row[] {
  const rows = (use: OutputKind, words: readonly [string, string]) =>
    Array.from({ length: rowsOf(engine, use) }, (_, at) => ({
      use,
      row: at + 1,
      words: rowsOf(engine, use) === 1 ? words[0] : `${words[0]} ${at + 1}`,
    }));
  return [
    ...rows('ignition', ['coil', 'coils']),
    ...(engine.injection === 'none' ? [] : rows('injector', ['inj.', 'injectors'])),
  ];
}

/**
 * The engine from above, as it was described: bores by bank from the front, each with its firing angle, its coils and injectors,
 * and the outputs that work them. Those that share one carry its letter.
 *
 * @param school What an output's number means on the ECU that is chosen.
 * @param coils Of the usual parts; null: none are laid down.
 */
export function EngineSketch({ engine, school, coils }: { engine: Engine; school: OutputOrder; coils: number | null }) {
  const cycle = cycleDegrees(engine);
  const angles = firingAngleByCylinder(engine);
  const banks = engine.kind === 'rotary' ? [engine.firingOrder.toSorted((a, b) => a - b)] : banksOf(engine);
  const lines = linesOf(engine);
  const height = TOP + 2 * BORE + 8 + lines.length * LINE + 14;
  const columns = Math.max(...banks.map(({ length }) => length));
  const first = engine.firingOrder[0];
  const lying = lyingOf(engine);
  const words = `${engine.cylinders} ${engine.kind === 'rotary' ? 'rotors' : 'cylinders'} over ${cycle}°: ${engine.firingOrder.map((cylinder) => `${cylinder} at ${round(angles.get(cylinder)!)}°`).join(', ')}`;
  return (
    <Figure>
      <svg
        viewBox={`0 0 ${MARGIN + columns * COLUMN + 4} ${banks.length * height}`}
        style={{ maxWidth: Math.max(220, (MARGIN + columns * COLUMN) * 1.25) }}
        role="img"
        aria-label={words}
      >
        {banks.map((bank, at) => (
          <g key={at} transform={`translate(0 ${at * height})`}>
            <line
              x1={MARGIN + 4}
              x2={MARGIN + bank.length * COLUMN - 4}
              y1={TOP + BORE}
              y2={TOP + BORE}
              className="row"
            />
            {banks.length > 1 && (
              <text x={0} y={TOP + BORE} className="small" textAnchor="start">
                bank {at + 1}
              </text>
            )}
            {lines.map((line, n) => (
              <text key={n} x={0} y={lineAt(n)} className="small" textAnchor="start">
                {line.words}
              </text>
            ))}
            {bank.map((cylinder, n) => (
              <g key={cylinder} transform={`translate(${MARGIN + (n + 0.5) * COLUMN} 0)`}>
                <text y={10} className="small">
                  {round(angles.get(cylinder)!)}°
                </text>
                <circle cy={TOP + BORE} r={BORE} className={cylinder === first ? 'bore first' : 'bore'} />
                {Array.from({ length: engine.plugs }, (_, plug) => (
                  <circle
                    key={plug}
                    cx={engine.plugs === 1 ? 0 : (plug - 0.5) * 9}
                    cy={TOP + BORE - 9}
                    r={1.8}
                    className={cylinder === first ? 'plug first' : 'plug'}
                  />
                ))}
                <text y={TOP + BORE + 2} className={cylinder === first ? 'number first' : 'number'}>
                  {cylinder}
                </text>
                {lines.map((line, at2) => (
                  <Mark key={at2} engine={engine} school={school} line={line} cylinder={cylinder} y={lineAt(at2)} />
                ))}
              </g>
            ))}
          </g>
        ))}
      </svg>
      <Small as="figcaption">
        {lying === 'vee' && engine.kind !== 'rotary'
          ? `A V of ${engine.bankDegrees}°. `
          : lying === 'flat'
            ? 'Two banks, flat. '
            : ''}
        Fires {engine.firingOrder.join('-')}, {coilWords(engine)}
        {coils === null ? '' : ` (${plural(coils, 'coil')})`},{' '}
        {engine.injection === 'none' ? 'no injection' : `injected ${injectionNames[engine.injection]}`}, to{' '}
        {engine.maxRpm} rpm. Figures beside coil and injector are outputs of the ECU. A crank wheel
        {asksPhase(engine) ? ' and one on the cam' : ', no cam needed'}.
      </Small>
    </Figure>
  );
}

const lineAt = (n: number): number => TOP + 2 * BORE + 10 + (n + 0.5) * LINE;
const round = (degrees: number): string => String(Math.round(degrees * 10) / 10);

/** One coil or injector of a cylinder: the letter of those it shares with, and its lowest output. */
function Mark({
  engine,
  school,
  line,
  cylinder,
  y,
}: {
  engine: Engine;
  school: OutputOrder;
  line: Row;
  cylinder: number;
  y: number;
}) {
  const sets = firedTogether(engine, line.use);
  const at = sets.findIndex((set) => set.includes(cylinder));
  const shared = sets[at]!.length > 1;
  const [output] = outputsFor(engine, school, line.use, [cylinder], line.row);
  return (
    <g transform={`translate(${-MARK / 2} ${y})`} className={line.use}>
      {line.use === 'ignition' ? (
        <rect x={-MARK / 2} y={-MARK / 2} width={MARK} height={MARK} rx={2.5} />
      ) : (
        <path d={`M${-MARK / 2} ${-MARK / 2}H${MARK / 2}V${MARK / 4}L0 ${MARK / 2}L${-MARK / 2} ${MARK / 4}Z`} />
      )}
      {shared && <text className="letter">{letterAt(at)}</text>}
      {output !== undefined && (
        <text x={MARK / 2 + 3} textAnchor="start" className="output">
          {output}
        </text>
      )}
    </g>
  );
}

const Figure = styled.figure`
  display: grid;
  gap: 4px;
  justify-items: start;
  svg {
    width: 100%;
  }
  .row {
    stroke: ${color.rule};
    stroke-width: 6;
    stroke-linecap: round;
  }
  .ignition rect {
    fill: ${color.sheet};
    stroke: ${color.pencil};
    stroke-width: 1.5;
  }
  .injector path {
    fill: ${color.sheet};
    stroke: ${color.ink};
    stroke-width: 1.2;
  }
  .letter {
    font: 700 9px ${type.mono};
  }
  .output {
    font: 10px ${type.mono};
    fill: ${color.soft};
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
  .plug {
    fill: ${color.ink};
  }
  .plug.first {
    fill: ${color.onInk};
  }
  text {
    dominant-baseline: central;
    fill: ${color.ink};
  }
  text:not([text-anchor]) {
    text-anchor: middle;
  }
  .number {
    font: 700 13px ${type.mono};
  }
  .number.first {
    fill: ${color.onInk};
  }
  .small {
    font-size: 10.5px;
    fill: ${color.soft};
  }
`;
