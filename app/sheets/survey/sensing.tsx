import { lazy, Suspense, useMemo, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { systems, type DeviceKind } from '~/core/devices/kind';
import { curveOf } from '~/core/devices/curve';
import { ecuCurveOf, expectation, judgeSensor, valueUnit } from '~/core/sensing/judge';
import { chartPoints, pinReading, pinUnit, sensorsOf, valueAtPin, type SensorAt } from '~/core/sensing/sensor';
import { formatOhms, plural } from '~/core/units/format';
import { readQuantity, readerScale, toShown } from '~/core/units/units';
import { standingReading } from '~/core/prove/evidence';
import { useBuild } from '../../build/context';
import type { CurveChartData } from '../../parts/curve-chart';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { Table } from '../../ui/table';
import { Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';
import { useNarrow } from '../../ui/use-narrow';
import { Reading } from './sensing-reading';
import { Settings } from './sensing-settings';
import { SheetFrame } from '../../parts/sheet-frame';
import { readMeasure } from '~/core/units/workshop';

/** Only where it is shown, and only in the browser. */
const CurveChart = lazy(() => import('../../parts/curve-chart'));

function useChartData(sensor: SensorAt, way: CurveChartData['way']): CurveChartData {
  const { build } = useBuild();
  return useMemo(() => {
    const scale = readerScale(sensor.sensor.quantity, build);
    const unit = pinUnit(sensor.sensor);
    const shown = (points: { value: number; reading: number }[]) =>
      points.map((point) => ({ value: toShown(scale, point.value), reading: point.reading }));
    const setting = ecuCurveOf(sensor);
    const expected = expectation(build.site, sensor);
    const reading = standingReading(build, sensor.id);
    const measured = reading?.atPin ?? null;
    const measuredValue = measured === null ? null : (reading?.shown ?? valueAtPin(sensor, measured));
    const points = chartPoints(sensor);
    const top = points.reduce((most, point) => Math.max(most, point.reading), 0);
    return {
      points: shown(points),
      setting: setting ? shown(chartPoints(sensor, 61, setting.curve)) : [],
      expected:
        expected && expected.atPin !== null ? { value: toShown(scale, expected.value), reading: expected.atPin } : null,
      measured:
        measured !== null && measuredValue !== null
          ? { value: toShown(scale, measuredValue), reading: measured }
          : null,
      faultBelow: sensor.sensor.faultBelow,
      faultAbove: sensor.sensor.faultAbove,
      readingRange:
        unit === 'V' ? [0, 5] : [0, Math.ceil((Math.max(top, sensor.sensor.faultAbove ?? 0) * 1.1) / 10) * 10],
      valueTitle: scale.unit,
      readingTitle: `${unit} at the pin`,
      way,
    };
  }, [sensor, build, way]);
}

/** The same curve in figures, for print and for those who do not read charts. */
function Figures({ sensor }: { sensor: SensorAt }) {
  const { build } = useBuild();
  const { least, most, quantity } = sensor.sensor;
  const rows = Array.from({ length: 7 }, (_, i) => least + ((most - least) * i) / 6);
  const unit = pinUnit(sensor.sensor);
  const curve = curveOf(sensor.sensor.curve);
  return (
    <Table>
      <thead>
        <tr>
          <th scope="col">{valueUnit(sensor, build)}</th>
          {sensor.sensor.signal === 'ohms' && <th scope="col">resistance</th>}
          <th scope="col">at the pin</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((value) => {
          const reading = pinReading(sensor, value);
          const signal = sensor.sensor.signal === 'ohms' ? curve.signalOf(value) : null;
          return (
            <tr key={value}>
              <th scope="row">{readQuantity(quantity, value, build)}</th>
              {sensor.sensor.signal === 'ohms' && <td>{signal === null ? '–' : formatOhms(signal)}</td>}
              <td>{reading === null ? 'no pull-up' : `${reading.toFixed(unit === 'Hz' ? 0 : 2)} ${unit}`}</td>
            </tr>
          );
        })}
      </tbody>
    </Table>
  );
}

function SensorView({ sensor, library }: { sensor: SensorAt; library: readonly DeviceKind[] }) {
  const { build } = useBuild();
  const [way, setWay] = useState<CurveChartData['way']>('reading-over-value');
  const data = useChartData(sensor, way);
  const expected = expectation(build.site, sensor);
  const unit = pinUnit(sensor.sensor);
  const { quantity } = sensor.sensor;
  return (
    <Stack $gap={4}>
      <Top>
        <div>
          <Name>{sensor.label}</Name>
          <Soft>
            {sensor.kind.name}
            {sensor.pin ? `, on ${sensor.pin.id}` : ', no pin yet'}
          </Soft>
        </div>
        {expected ? (
          <Expect>
            <strong>{expected.atPin === null ? 'no reading' : `${expected.atPin.toFixed(2)} ${unit}`}</strong>
            <span>
              expected at key-on, ± {expected.pinTolerance.toFixed(2)} {unit}
            </span>
            <span>{readQuantity(quantity, expected.value, build)} here</span>
          </Expect>
        ) : (
          <Expect>
            <span style={{ maxWidth: 260 }}>
              {readQuantity(quantity, sensor.sensor.least, build)} to{' '}
              {readQuantity(quantity, sensor.sensor.most, build)}; what it shows at key-on depends on you
            </span>
          </Expect>
        )}
      </Top>
      <Halves>
        <Stack $gap={3}>
          <Segmented
            label="Chart"
            hideLabel
            choices={[
              { id: 'reading-over-value', name: `${unit} over ${data.valueTitle}` },
              { id: 'value-over-reading', name: `${data.valueTitle} over ${unit}` },
            ]}
            value={way}
            onChange={setWay}
          />
          <ChartBox>
            <Suspense fallback={<Soft>Drawing…</Soft>}>
              <CurveChart
                data={data}
                label={`Calibration of ${sensor.label}: ${unit} at the pin against ${data.valueTitle}. The table below gives the figures.`}
              />
            </Suspense>
          </ChartBox>
          <Figures sensor={sensor} />
        </Stack>
        <Stack $gap={4}>
          <Reading key={sensor.id} sensor={sensor} library={library} />
          <Settings sensor={sensor} library={library} />
        </Stack>
      </Halves>
    </Stack>
  );
}

export function Sensing({ library }: { library: readonly DeviceKind[] }) {
  const { build, derived, selection, select } = useBuild();
  const sensors = useMemo(() => sensorsOf(build, derived.net), [build, derived.net]);
  const [chosen, setChosen] = useState<string | null>(null);
  const narrow = useNarrow();
  const device =
    selection?.type === 'device'
      ? selection.deviceId
      : selection?.type === 'need'
        ? selection.needId.slice(0, selection.needId.lastIndexOf('.'))
        : null;
  const current =
    sensors.find((sensor) => sensor.id === chosen && (device === null || sensor.device.id === device)) ??
    sensors.find((sensor) => sensor.device.id === device) ??
    sensors[0];
  const pick = (id: string) => {
    setChosen(id);
    select({ type: 'need', needId: id });
  };
  const read = sensors.filter((sensor) => standingReading(build, sensor.id));
  const wrong = read.filter((sensor) =>
    ['wrong', 'unexplained'].includes(judgeSensor(build, sensor, standingReading(build, sensor.id)!, library).verdict),
  );
  return (
    <SheetFrame
      summary={
        <>
          {plural(sensors.length, 'calibrated signal')} at {readMeasure('altitude', build.site.altitudeMetres, build)}{' '}
          and {readQuantity('temperature', build.site.ambientCelsius, build)}.
          <br />
          <Soft>
            {read.length} read with the key on{wrong.length > 0 && `, ${wrong.length} not right`}.
          </Soft>
        </>
      }
    >
      {!current ? (
        <p>No calibrated sensor is on the list yet. Add sensors on the page Devices; each brings its curve.</p>
      ) : (
        <Columns>
          {narrow ? (
            <Select
              label="Sensor"
              choices={sensors.map((sensor) => ({ id: sensor.id, name: sensor.label, note: sensor.kind.name }))}
              value={current.id}
              onChange={pick}
            />
          ) : (
            <nav aria-label="Sensors">
              <List>
                {systems.map((system) => {
                  const group = sensors.filter((sensor) => sensor.kind.system === system);
                  if (group.length === 0) return null;
                  return (
                    <li key={system}>
                      <Small>{system}</Small>
                      <ul>
                        {group.map((sensor) => {
                          const expected = expectation(build.site, sensor);
                          const reading = standingReading(build, sensor.id);
                          const state = !reading ? '' : wrong.includes(sensor) ? '✗' : '✓';
                          return (
                            <li key={sensor.id}>
                              <Pick aria-current={sensor.id === current.id} onPress={() => pick(sensor.id)}>
                                <span>{sensor.label}</span>
                                <Soft>
                                  {expected && expected.atPin !== null
                                    ? `${expected.atPin.toFixed(2)} ${pinUnit(sensor.sensor)}`
                                    : '–'}
                                </Soft>
                                <State
                                  data-state={state}
                                  aria-label={state === '✓' ? 'right' : state === '✗' ? 'not right' : 'not read'}
                                >
                                  {state}
                                </State>
                              </Pick>
                            </li>
                          );
                        })}
                      </ul>
                    </li>
                  );
                })}
              </List>
            </nav>
          )}
          <SensorView key={current.id} sensor={current} library={library} />
        </Columns>
      )}
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: 228px minmax(0, 1fr);
  gap: ${space[5]};
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
  ${at.print} {
    display: block;
  }
`;
const List = styled.ul`
  display: grid;
  gap: ${space[3]};
  position: sticky;
  top: 0;
  ${at.narrow} {
    position: static;
  }
  ${at.print} {
    display: none;
  }
`;
const Pick = styled(AriaButton)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 16px;
  gap: ${space[2]};
  width: 100%;
  padding: 5px ${space[2]};
  border: 0;
  border-radius: ${shape.radius};
  background: none;
  text-align: left;
  cursor: pointer;
  & > :first-child {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &[data-hovered] {
    background: ${color.raised};
  }
  &[aria-current='true'] {
    background: ${color.selectionWash};
    font-weight: 700;
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
    align-items: center;
  }
`;
const State = styled.span`
  &[data-state='✓'] {
    color: ${color.proved};
  }
  &[data-state='✗'] {
    color: ${color.stop};
  }
`;
const Top = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: ${space[2]} ${space[5]};
  & > div {
    display: grid;
    align-content: start;
  }
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Name = styled.strong`
  font-size: ${type.lead};
`;
const Expect = styled.div`
  justify-items: end;
  text-align: right;
  font-size: ${type.small};
  color: ${color.soft};
  & > strong {
    font-size: ${type.lead};
    color: ${color.ink};
  }
  ${at.narrow} {
    justify-items: start;
    text-align: left;
  }
`;
const Halves = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
  gap: ${space[5]};
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const ChartBox = styled.div`
  position: relative;
  height: 280px;
  min-width: 0;
  ${at.print} {
    display: none;
  }
`;
