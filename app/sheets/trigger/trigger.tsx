import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { cycleDegrees } from '~/core/engine/engine';
import { SAFE_MARGIN, fitTrigger, gapMargin, shortestToothMicroseconds, triggerSensor } from '~/core/trigger/fit';
import { CRANKING_RPM } from '~/core/trigger/speed';
import { outputUses } from '~/core/trigger/outputs';
import { primary } from '~/core/trigger/trials';
import { camWheelOf, pulseHertz, teethPerCycle, type Wheel } from '~/core/wheels/wheel';
import { offsetConfirmed } from '~/core/prove/evidence';
import { useBuild } from '../../build/context';
import { OffsetPanel } from '../../parts/offset-panel';
import { Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { Term } from '../../ui/term';
import { FieldGrid, Heading, Row, Small, Soft, Stack } from '../../ui/text';
import { Table } from '../../ui/table';
import { at, color, space } from '../../ui/theme';
import { EventChart } from './event-chart';
import { SheetFrame } from '../../parts/sheet-frame';
import { WheelDrawing } from './wheel-drawing';

function Figures() {
  const { build, edit } = useBuild();
  const { trigger, ecu, engine } = build;
  const fit = fitTrigger(ecu, engine, trigger.crankWheel, trigger.camWheel);
  const crank = trigger.crankWheel;
  const margin = crank && gapMargin(crank, trigger.ripple, ecu.gapThreshold);
  const cam = camWheelOf(trigger);
  const ratio = crank && cam ? teethPerCycle(crank) / teethPerCycle(cam) : null;
  const sensor = triggerSensor(build, 'crank');
  return (
    <Stack $gap={2}>
      <Heading>This ECU</Heading>
      <Table>
        <tbody>
          <tr>
            <th scope="row">decodes it</th>
            <td className="figure">
              <strong style={{ color: fit.decodes ? color.proved : color.stop }}>
                {fit.decodes ? (fit.knows === 'cycle' ? '✓ yes, full cycle' : '✓ yes, angle only') : '✗ no'}
              </strong>
            </td>
          </tr>
          {fit.decodes && (
            <>
              <tr>
                <td>allows injection</td>
                <td className="figure">{fit.injection}</td>
              </tr>
              <tr>
                <td>allows ignition</td>
                <td className="figure">{fit.ignition}</td>
              </tr>
            </>
          )}
          {crank && (
            <>
              <tr>
                <td>sensor</td>
                <td className="figure">
                  {sensor ? (sensor.sensor === 'vr' ? 'VR, two wires' : 'Hall, three wires') : 'none on the list'}
                </td>
              </tr>
              <tr>
                <td>crank at {CRANKING_RPM} rpm</td>
                <td className="figure">{pulseHertz(crank, CRANKING_RPM).toFixed(0)} Hz</td>
              </tr>
              {ratio !== null && (
                <tr>
                  <td>crank to cam frequency</td>
                  <td className="figure">{ratio.toFixed(ratio % 1 === 0 ? 0 : 2)} to 1</td>
                </tr>
              )}
              <tr>
                <td>shortest tooth at {engine.maxRpm} rpm</td>
                <td className="figure">{shortestToothMicroseconds(crank, engine.maxRpm).toFixed(0)} µs</td>
              </tr>
              <tr>
                <td>filter under</td>
                <td className="figure">{(shortestToothMicroseconds(crank, engine.maxRpm) / 3).toFixed(0)} µs</td>
              </tr>
            </>
          )}
          {margin && (
            <tr>
              <td>
                <Term meaning="While cranking, compression slows and speeds the crank within a turn. The gap at its shortest must still be clearly longer than a plain tooth at its longest.">
                  gap margin
                </Term>{' '}
                at {(trigger.ripple * 100).toFixed(0)} %
              </td>
              <td className="figure">
                <strong
                  style={{ color: margin.margin >= SAFE_MARGIN && margin.thresholdFits ? color.proved : color.fix }}
                >
                  {margin.margin.toFixed(2)}
                </strong>{' '}
                of {SAFE_MARGIN}
              </td>
            </tr>
          )}
        </tbody>
      </Table>
      <div style={{ maxWidth: 160 }}>
        <NumberField
          label="Cranking ripple"
          unit="%"
          value={Math.round(trigger.ripple * 100)}
          minValue={0}
          maxValue={60}
          onChange={(value) => value !== null && edit(call('setTrigger', { ripple: value / 100 }))}
        />
      </div>
    </Stack>
  );
}

export function Trigger({ wheels }: { wheels: readonly Wheel[] }) {
  const { build, derived, edit } = useBuild();
  const { trigger, engine } = build;
  const fit = fitTrigger(build.ecu, engine, trigger.crankWheel, trigger.camWheel);
  const uses = outputUses(build, derived.net.needs);
  const wrong = uses.filter((use) => !use.right).length;
  const track = trigger.crankWheel?.tracks?.[0];
  const cam = camWheelOf(trigger);
  const pick = (shaft: 'crank' | 'cam') => [
    {
      id: 'none',
      name: shaft === 'crank' ? 'Not known yet' : track ? `Its second track: ${track.name}` : 'No cam signal',
    },
    ...[
      ...wheels,
      ...[trigger.crankWheel, trigger.camWheel].filter(
        (one): one is Wheel => one !== null && !wheels.some((wheel) => wheel.id === one.id),
      ),
    ]
      .filter((wheel) => (primary(wheel) ? 'crank' : 'cam') === shaft)
      .map((wheel) => ({ id: wheel.id, name: wheel.name })),
  ];
  const choose = (shaft: 'crank' | 'cam') => (id: string) =>
    edit(call('setWheel', { shaft, wheel: wheels.find((wheel) => wheel.id === id) ?? null }));
  const sensor = triggerSensor(build, 'crank');
  return (
    <SheetFrame
      summary={
        <span role="status">
          {trigger.crankWheel ? fit.reason : 'Choose the wheel on the crank; count its teeth if you are not sure.'}
          <br />
          {wrong > 0 ? (
            <strong style={{ color: color.stop }}>{wrong} outputs would work the wrong cylinder.</strong>
          ) : (
            <Soft>{offsetConfirmed(build) ? 'Offset confirmed by light.' : 'Offset not confirmed by light.'}</Soft>
          )}
        </span>
      }
    >
      <Columns>
        <Area $area="wheel">
          <Stack $gap={2}>
            <Heading>Wheels</Heading>
            <Select
              label="On the crank"
              choices={pick('crank')}
              value={trigger.crankWheel?.id ?? 'none'}
              onChange={choose('crank')}
            />
            <Select
              label="Edge the ECU is set to"
              choices={[
                { id: 'none', name: 'Not set yet' },
                { id: 'rising', name: 'Rising' },
                { id: 'falling', name: 'Falling' },
              ]}
              value={trigger.crankEdge ?? 'none'}
              onChange={(id) =>
                edit(call('setTrigger', { crankEdge: id === 'rising' || id === 'falling' ? id : null }))
              }
            />
            <Select
              label="On the cam"
              choices={pick('cam')}
              value={trigger.camWheel?.id ?? 'none'}
              onChange={choose('cam')}
            />
            {trigger.crankWheel && (
              <WheelDrawing
                wheel={trigger.crankWheel}
                cam={cam}
                offsetDegrees={trigger.offsetDegrees}
                sensor={sensor?.sensor ?? null}
              />
            )}
            {cam && trigger.crankWheel && (
              <Small>
                Cylinder 1 at TDC, turning clockwise. The dashed line is{' '}
                {trigger.camWheel ? 'the cam wheel' : 'the second track'}.
              </Small>
            )}
          </Stack>
        </Area>
        <Area $area="offset">
          <OffsetPanel />
        </Area>
        <Area $area="events">
          <Stack $gap={2}>
            <Row $gap={3} style={{ justifyContent: 'space-between' }}>
              <strong>{cycleDegrees(engine)}° of events</strong>
              <Segmented
                label="What output 1 means"
                hideLabel
                choices={[
                  { id: 'by-cylinder', name: 'numbered by cylinder' },
                  { id: 'in-turn', name: 'fire in turn' },
                ]}
                value={build.outputOrder}
                onChange={(outputOrder) => edit(call('setOutputOrder', { outputOrder }))}
              />
            </Row>
            <EventChart
              engine={engine}
              order={build.outputOrder}
              uses={uses}
              settings={{
                rpm: trigger.chartRpm,
                dwellMilliseconds: trigger.dwellMilliseconds,
                injectionMilliseconds: trigger.injectionMilliseconds,
                advanceDegrees: trigger.advanceDegrees,
              }}
            />
            <FieldGrid $min={104}>
              <NumberField
                label="At"
                unit="rpm"
                value={trigger.chartRpm}
                minValue={100}
                maxValue={20000}
                onChange={(value) => value !== null && edit(call('setTrigger', { chartRpm: value }))}
              />
              <NumberField
                label="Dwell"
                unit="ms"
                value={trigger.dwellMilliseconds}
                minValue={0.1}
                maxValue={20}
                onChange={(value) => value !== null && edit(call('setTrigger', { dwellMilliseconds: value }))}
              />
              <NumberField
                label="Injection"
                unit="ms"
                value={trigger.injectionMilliseconds}
                minValue={0.1}
                maxValue={40}
                onChange={(value) => value !== null && edit(call('setTrigger', { injectionMilliseconds: value }))}
              />
              <NumberField
                label="Spark, before TDC"
                unit="°"
                value={trigger.advanceDegrees}
                minValue={-20}
                maxValue={60}
                onChange={(value) => value !== null && edit(call('setTrigger', { advanceDegrees: value }))}
              />
            </FieldGrid>
          </Stack>
          <Figures />
        </Area>
      </Columns>
    </SheetFrame>
  );
}

const Area = styled(Stack).attrs({ $gap: 4 as const })<{ $area: 'wheel' | 'events' | 'offset' }>`
  grid-area: ${({ $area }) => $area};
`;
/** Wheel, events and offset side by side: what one changes shows in the others. */
const Columns = styled.div`
  display: grid;
  grid-template: 'wheel events offset' auto / 270px minmax(0, 1fr) 290px;
  gap: ${space[5]};
  ${at.tablet} {
    grid-template: 'wheel events' auto 'offset events' 1fr / 250px minmax(0, 1fr);
    gap: ${space[4]};
  }
  ${at.narrow} {
    grid-template: 'wheel' auto 'offset' auto 'events' auto / minmax(0, 1fr);
  }
  ${at.print} {
    grid-template: 'wheel events' auto 'offset events' 1fr / 250px minmax(0, 1fr);
  }
`;
