import { styled } from 'styled-components';
import { cycleDegrees, cycleEvents, type Engine, type OutputOrder } from '~/core/engine/engine';
import { outputsFor, rowsOf, workWords, type OutputKind } from '~/core/engine/outputs';
import type { EventSettings } from '~/core/engine/engine';
import type { OutputUse } from '~/core/trigger/outputs';
import { color, type } from '../../ui/theme';

/** Parts of a span that fall into [0, cycle): a span over the end shows at both ends. */
function wrapSpan(from: number, to: number, cycle: number): { from: number; width: number }[] {
  const width = Math.min(to - from, cycle);
  const start = ((from % cycle) + cycle) % cycle;
  if (start + width <= cycle) return [{ from: start, width }];
  return [
    { from: start, width: cycle - start },
    { from: 0, width: start + width - cycle },
  ];
}

/** Outputs that work a cylinder where every wire is right: one number where coils and injectors agree on it. */
function meantFor(engine: Engine, order: OutputOrder, cylinder: number): string {
  const of = (use: OutputKind) =>
    Array.from({ length: rowsOf(engine, use) }, (_, at) => at + 1)
      .map((row) => outputsFor(engine, order, use, [cylinder], row)[0])
      .join('+');
  const batch = engine.injection === 'batch' || engine.injection === 'none';
  const coils = engine.ignition === 'distributor' ? null : of('ignition');
  const injectors = batch ? null : of('injector');
  if (coils !== null && injectors !== null && coils !== injectors) return `ign ${coils}, inj ${injectors}`;
  const both = coils ?? injectors;
  return both === null ? 'all at once' : `out ${both}`;
}

/** 720 degrees of events: what happens at each cylinder, and which output does it by school and by wire. */
export function EventChart({
  engine,
  order,
  uses,
  settings,
}: {
  engine: Engine;
  order: OutputOrder;
  uses: readonly OutputUse[];
  settings: EventSettings;
}) {
  const cycle = cycleDegrees(engine);
  const rows = cycleEvents(engine, settings);
  const ticks = Array.from({ length: engine.cylinders + 1 }, (_, i) => (i * cycle) / engine.cylinders);
  const percent = (degrees: number) => `${(100 * degrees) / cycle}%`;
  return (
    <Chart role="group" aria-label={`Events over ${cycle} degrees`}>
      {rows.map((row) => {
        const mine = uses.filter((use) => use.wiredTo.cylinders.includes(row.cylinder));
        const wrong = mine.filter((use) => !use.right);
        return (
          <Row key={row.cylinder}>
            <span>
              {engine.kind === 'rotary' ? 'rotor' : 'cyl'} {row.cylinder}
            </span>
            <Track>
              {row.sparks.flatMap((spark) =>
                wrapSpan(spark.from, spark.to, cycle).map((span) => (
                  <Bar
                    key={`s${spark.row} ${span.from}`}
                    title={`coil of ${workWords(engine, 'ignition', { cylinders: [row.cylinder], row: spark.row })} charges`}
                    data-second={spark.row === 2}
                    style={{
                      left: percent(span.from),
                      width: percent(span.width),
                      top: spark.row === 2 ? 12 : 4,
                      background: color.pencil,
                    }}
                  />
                )),
              )}
              {row.injection &&
                wrapSpan(row.injection.from, row.injection.to, cycle).map((span) => (
                  <Bar
                    key={`i${span.from}`}
                    title={`injector ${row.cylinder} open`}
                    style={{
                      left: percent(span.from),
                      width: percent(span.width),
                      bottom: 4,
                      background: color.selection,
                    }}
                  />
                ))}
              <Tdc data-tdc={row.tdc} style={{ left: percent(row.tdc) }} />
            </Track>
            <Out data-wrong={wrong.length > 0}>
              {wrong.length > 0
                ? wrong
                    .map(
                      (use) =>
                        `${use.kind === 'injector' ? 'inj' : 'ign'} ${use.output} → ${engine.kind === 'rotary' ? 'rotor' : 'cyl'} ${use.means ? use.means.cylinders.join('+') : '–'}`,
                    )
                    .join(', ')
                : meantFor(engine, order, row.cylinder)}
            </Out>
          </Row>
        );
      })}
      <Row aria-hidden>
        <span />
        <Axis>
          {ticks.map((tick) => (
            <span key={tick} data-tick={tick} style={{ left: percent(tick) }}>
              {Math.round(tick)}°
            </span>
          ))}
        </Axis>
        <span />
      </Row>
      <Legend>
        <b style={{ color: color.pencil }}>coil charging</b> <b style={{ color: color.selection }}>injector open</b>{' '}
        <b style={{ color: color.proved }}>TDC of compression</b>
      </Legend>
    </Chart>
  );
}

/** One grid for bars and axis: however long the last column gets, a degree stands above its own figure. */
const Chart = styled.div`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) minmax(66px, auto);
  column-gap: 10px;
`;
const Row = styled.div`
  display: grid;
  grid-column: 1 / -1;
  grid-template-columns: subgrid;
  align-items: center;
  white-space: nowrap;
`;
const Track = styled.div`
  position: relative;
  height: 34px;
  border-bottom: 1px solid ${color.rule};
`;
const Bar = styled.span`
  position: absolute;
  height: 11px;
  border-radius: 3px;
  min-width: 3px;
  &[data-second='true'] {
    height: 4px;
  }
`;
const Tdc = styled.span`
  position: absolute;
  top: 1px;
  bottom: 1px;
  width: 3px;
  margin-left: -1.5px;
  background: ${color.proved};
`;
const Out = styled.span`
  font-family: ${type.mono};
  &[data-wrong='true'] {
    color: ${color.stop};
    font-weight: 700;
    font-size: ${type.small};
  }
`;
const Axis = styled.span`
  position: relative;
  height: 22px;
  font-size: ${type.small};
  color: ${color.soft};
  span {
    position: absolute;
    translate: -50% 2px;
  }
`;
const Legend = styled.p`
  grid-column: 1 / -1;
  font-size: ${type.small};
  padding-left: 58px;
  b {
    margin-right: 12px;
  }
`;
