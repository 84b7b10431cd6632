import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { hasRole } from '~/core/devices/kind';
import {
  SPEED_TOLERANCE,
  gaugeReads,
  hertzAt,
  movedFactor,
  pulsesPerKm,
  pulsesPerWheelTurn,
  rolledMetres,
  type Gear,
  type Sensed,
  type SpeedChain,
  type SpeedGauge,
  type Tyre,
} from '~/core/speed/chain';
import { KM_PER_MILE } from '~/core/units/convert';
import { plural } from '~/core/units/format';
import { readQuantity } from '~/core/units/units';
import { readMeasure } from '~/core/units/workshop';
import { useBuild } from '../../build/context';
import { LengthField } from '../../parts/length-field';
import { MeasureField } from '../../parts/scale-field';
import { SheetFrame } from '../../parts/sheet-frame';
import { Button } from '../../ui/button';
import { Checkbox, Segmented } from '../../ui/choice';
import { useEdited } from '../../ui/edited';
import { NumberField } from '../../ui/number-field';
import { Table, TableScroll } from '../../ui/table';
import { Heading, Row, Small, Soft, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { at, color, shape, space, type } from '../../ui/theme';

/** A usual start: a sensor of four pulses on the gearbox output, a common final drive and tyre (common practice). */
const usual: SpeedChain = {
  pulsesPerTurn: 4,
  gears: [{ name: 'Final drive', wheelSide: 4.1, sensorSide: 1 }],
  tyre: { by: 'size', widthMm: 205, aspect: 55, rimInches: 16 },
  before: null,
  gauges: [],
};
/** Where the sheet shows what a pin counts, km/h. */
const SHOWN_KMH = [10, 50, 100, 200];
/** An old cable turns a thousand times a mile; many electric gauges want four thousand pulses (common practice). */
const CABLE_PER_KM = 1000 / KM_PER_MILE;
const USUAL_GAUGE_PER_KM = Math.round((4000 / KM_PER_MILE) * 100) / 100;
const MOST_GEARS = 6;
const MOST_GAUGES = 8;

function freeGaugeId(gauges: readonly SpeedGauge[]): string {
  let number = 1;
  while (gauges.some(({ id }) => id === `gauge-${number}`)) number += 1;
  return `gauge-${number}`;
}

function NameField({ label, name, onChange }: { label: string; name: string; onChange: (name: string) => void }) {
  const [text, setText] = useEdited(name);
  return (
    <TextField
      label={label}
      hideLabel
      value={text}
      onChange={setText}
      maxLength={40}
      onBlur={() => text.trim() !== '' && text !== name && onChange(text.trim())}
    />
  );
}

/** Where a sensor reads: pulses of its shaft, and the gears from there to the wheel. */
function Reads({ title, sensed, onChange }: { title: string; sensed: Sensed; onChange: (sensed: Sensed) => void }) {
  const setGear = (index: number, gear: Gear | null) =>
    onChange({
      ...sensed,
      gears: sensed.gears.flatMap((one, i) => (i === index ? (gear ? [gear] : []) : [one])),
    });
  return (
    <Stack $gap={2}>
      <Heading>{title}</Heading>
      <div style={{ maxWidth: 220 }}>
        <NumberField
          label="Pulses a turn of its shaft"
          value={sensed.pulsesPerTurn}
          minValue={0.1}
          maxValue={500}
          onChange={(pulsesPerTurn) => pulsesPerTurn !== null && onChange({ ...sensed, pulsesPerTurn })}
        />
      </div>
      {sensed.gears.length > 0 && (
        <TableScroll aria-label={`Gears, ${title}`}>
          <Table data-dense="true">
            <thead>
              <tr>
                <th scope="col">from the sensor to the wheel</th>
                <th scope="col">wheel’s side</th>
                <th scope="col">sensor’s side</th>
                <th scope="col">
                  <Hidden>remove</Hidden>
                </th>
              </tr>
            </thead>
            <tbody>
              {sensed.gears.map((gear, index) => (
                <tr key={index}>
                  <td>
                    <NameField
                      label={`Name of gear ${index + 1}, ${title}`}
                      name={gear.name}
                      onChange={(name) => setGear(index, { ...gear, name })}
                    />
                  </td>
                  <td>
                    <NumberField
                      label={`${gear.name}, wheel’s side, ${title}`}
                      hideLabel
                      value={gear.wheelSide}
                      minValue={0.01}
                      maxValue={200}
                      onChange={(wheelSide) => wheelSide !== null && setGear(index, { ...gear, wheelSide })}
                    />
                  </td>
                  <td>
                    <NumberField
                      label={`${gear.name}, sensor’s side, ${title}`}
                      hideLabel
                      value={gear.sensorSide}
                      minValue={0.01}
                      maxValue={200}
                      onChange={(sensorSide) => sensorSide !== null && setGear(index, { ...gear, sensorSide })}
                    />
                  </td>
                  <td>
                    <OnScreen>
                      <Button
                        weight="quiet"
                        aria-label={`Remove ${gear.name}, ${title}`}
                        onPress={() => setGear(index, null)}
                      >
                        Remove
                      </Button>
                    </OnScreen>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </TableScroll>
      )}
      <Small>
        {sensed.gears.length === 0
          ? 'It reads the wheel itself.'
          : 'Teeth, or the ratio and 1. A final drive of 41 to 10 is 41 on the wheel’s side; a speedometer drive of 6 to 21 is 6.'}
      </Small>
      <Row>
        <Button
          isDisabled={sensed.gears.length >= MOST_GEARS}
          onPress={() =>
            onChange({
              ...sensed,
              gears: [
                ...sensed.gears,
                sensed.gears.length === 0
                  ? { name: 'Final drive', wheelSide: 4.1, sensorSide: 1 }
                  : { name: `Gear ${sensed.gears.length + 1}`, wheelSide: 1, sensorSide: 1 },
              ],
            })
          }
        >
          Add a pair of gears
        </Button>
      </Row>
    </Stack>
  );
}

function TyreForm({ tyre, onChange }: { tyre: Tyre; onChange: (tyre: Tyre) => void }) {
  const { units } = useBuild().build;
  return (
    <Stack $gap={2}>
      <Heading>Tyre of the driven wheel</Heading>
      <Segmented
        label="Known by"
        choices={[
          { id: 'size', name: 'its size' },
          { id: 'rolled', name: 'rolling it' },
        ]}
        value={tyre.by}
        onChange={(by) =>
          onChange(
            by === 'size'
              ? { by, widthMm: 205, aspect: 55, rimInches: 16 }
              : { by: 'rolled', metres: Math.round(rolledMetres(tyre) * 1000) / 1000 },
          )
        }
      />
      {tyre.by === 'size' ? (
        <TyreRow>
          <NumberField
            label="Width"
            unit="mm"
            value={tyre.widthMm}
            minValue={50}
            maxValue={500}
            onChange={(widthMm) => widthMm !== null && onChange({ ...tyre, widthMm })}
          />
          <NumberField
            label="Height"
            unit="%"
            value={tyre.aspect}
            minValue={15}
            maxValue={100}
            onChange={(aspect) => aspect !== null && onChange({ ...tyre, aspect })}
          />
          <NumberField
            label="Rim"
            unit="in"
            value={tyre.rimInches}
            minValue={4}
            maxValue={30}
            onChange={(rimInches) => rimInches !== null && onChange({ ...tyre, rimInches })}
          />
        </TyreRow>
      ) : (
        <div style={{ maxWidth: 220 }}>
          <LengthField
            label="One turn of the wheel"
            units={units}
            value={tyre.metres}
            minValue={0.2}
            maxValue={8}
            onChange={(metres) => onChange({ by: 'rolled', metres })}
          />
        </div>
      )}
      <Small>
        {tyre.by === 'size'
          ? `Rolls about ${rolledMetres(tyre).toFixed(3)} m a turn: 3.05 times its diameter, as the load flattens it.`
          : 'Chalk on the tyre and the floor, one turn pushed straight, the car loaded as it is driven.'}
      </Small>
    </Stack>
  );
}

function Gauges({ chain, onChange }: { chain: SpeedChain; onChange: (chain: SpeedChain) => void }) {
  const { build } = useBuild();
  const set = (id: string, gauge: SpeedGauge | null) =>
    onChange({
      ...chain,
      gauges: chain.gauges.flatMap((one) => (one.id === id ? (gauge ? [gauge] : []) : [one])),
    });
  return (
    <Stack $gap={2}>
      <Heading>What each gauge must get</Heading>
      {chain.gauges.map((gauge) => {
        const { given, factor } = gaugeReads(chain, gauge);
        const right = Math.abs(factor - 1) <= SPEED_TOLERANCE;
        return (
          <GaugeBox key={gauge.id}>
            <GaugeRow>
              <NameField
                label={`Name of ${gauge.name}`}
                name={gauge.name}
                onChange={(name) => set(gauge.id, { ...gauge, name })}
              />
              <MeasureField
                label={`${gauge.name} wants`}
                hideLabel
                measure="distance-pulses"
                units={build.units}
                value={gauge.pulsesPerKm}
                minValue={1}
                maxValue={1e6}
                onChange={(wanted) => wanted !== null && set(gauge.id, { ...gauge, pulsesPerKm: wanted })}
              />
              <OnScreen>
                <Button weight="quiet" aria-label={`Remove ${gauge.name}`} onPress={() => set(gauge.id, null)}>
                  Remove
                </Button>
              </OnScreen>
            </GaugeRow>
            <Row>
              <Segmented
                label={`${gauge.name} is fed by`}
                hideLabel
                choices={[
                  { id: 'ecu', name: 'the ECU' },
                  { id: 'sensor', name: 'the sensor' },
                ]}
                value={gauge.fedBy}
                onChange={(fedBy) => set(gauge.id, { ...gauge, fedBy })}
              />
              <Small>feeds it</Small>
            </Row>
            <Small>
              {gauge.fedBy === 'ecu'
                ? `Set the ECU’s output to ${readMeasure('distance-pulses', gauge.pulsesPerKm, build)}: ${hertzAt(gauge.pulsesPerKm, 100).toFixed(0)} Hz at ${readQuantity('road-speed', 100, build)}.`
                : right
                  ? `Gets ${readMeasure('distance-pulses', given, build)}: right.`
                  : `Gets ${readMeasure('distance-pulses', given, build)}, so it reads ${factor.toFixed(2)} times the speed.`}
            </Small>
          </GaugeBox>
        );
      })}
      {chain.gauges.length === 0 && (
        <Small>
          None yet. A speedometer’s own figure stands on its dial or in its manual, often as pulses or turns a mile; an
          old cable drive turns {readMeasure('distance-pulses', CABLE_PER_KM, build)} or so.
        </Small>
      )}
      <Row>
        <Button
          isDisabled={chain.gauges.length >= MOST_GAUGES}
          onPress={() =>
            onChange({
              ...chain,
              gauges: [
                ...chain.gauges,
                {
                  id: freeGaugeId(chain.gauges),
                  name: chain.gauges.length === 0 ? 'Speedometer' : `Gauge ${chain.gauges.length + 1}`,
                  pulsesPerKm: USUAL_GAUGE_PER_KM,
                  fedBy: 'ecu',
                },
              ],
            })
          }
        >
          Add a gauge
        </Button>
      </Row>
    </Stack>
  );
}

function Told({ chain }: { chain: SpeedChain }) {
  const { build } = useBuild();
  const perKm = pulsesPerKm(chain, chain.tyre);
  const moved = movedFactor(chain);
  return (
    <Stack $gap={3}>
      <Heading>What the ECU must be told</Heading>
      <Big>
        <span>
          {perKm.toFixed(0)} <Soft>pulses a km</Soft>
        </span>
        <span>
          {(perKm * KM_PER_MILE).toFixed(0)} <Soft>a mile</Soft>
        </span>
      </Big>
      <Small>
        {pulsesPerWheelTurn(chain).toFixed(2)} pulses a turn of the wheel, {rolledMetres(chain.tyre).toFixed(3)} m a
        turn. Give the ECU whichever of these it asks for.
      </Small>
      <Table data-dense="true">
        <thead>
          <tr>
            <th scope="col">at</th>
            {SHOWN_KMH.map((kmh) => (
              <th key={kmh} scope="col" className="figure">
                {readQuantity('road-speed', kmh, build)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">sensor</th>
            {SHOWN_KMH.map((kmh) => (
              <td key={kmh} className="figure">
                {hertzAt(perKm, kmh).toFixed(0)} Hz
              </td>
            ))}
          </tr>
        </tbody>
      </Table>
      {moved !== null && (
        <Moved data-same={Math.abs(moved - 1) <= SPEED_TOLERANCE}>
          <strong>{moved.toFixed(2)} times</strong>
          <span>
            as many pulses as before it moved. A gauge left on its wire then shows{' '}
            {readQuantity('road-speed', 8 * moved, build)} at {readQuantity('road-speed', 8, build)}.
          </span>
        </Moved>
      )}
    </Stack>
  );
}

/** From the speed sensor to the road, and to every gauge. */
export function RoadSpeed() {
  const { build, edit } = useBuild();
  const { speed } = build;
  const set = (next: SpeedChain | null) => edit(call('setSpeed', { speed: next }));
  const sensor = build.devices.find(({ kindId }) => build.kinds[kindId] && hasRole(build.kinds[kindId], 'speed'));
  return (
    <SheetFrame
      summary={
        speed ? (
          <>
            {pulsesPerKm(speed, speed.tyre).toFixed(0)} pulses a km, {plural(speed.gauges.length, 'gauge')}.
            <br />
            <Soft>{sensor ? `Counted from ${sensor.label}.` : 'No speed sensor is on the list of devices.'}</Soft>
          </>
        ) : (
          <Soft>How the speed sensor is geared has not been told.</Soft>
        )
      }
    >
      {speed === null ? (
        <Stack $gap={3}>
          <p>
            Pulses a kilometre follow from the teeth the sensor counts, the gears between it and the wheel, and the
            tyre. Tell them once: the ECU’s setting, each gauge’s pulses and what a moved sensor does follow.
          </p>
          <Row>
            <Button weight="act" onPress={() => set(usual)}>
              Tell the gears and the tyre
            </Button>
          </Row>
        </Stack>
      ) : (
        <Columns>
          <Stack $gap={5}>
            <Reads title="Where the sensor reads" sensed={speed} onChange={(sensed) => set({ ...speed, ...sensed })} />
            <TyreForm tyre={speed.tyre} onChange={(tyre) => set({ ...speed, tyre })} />
            <Stack $gap={2}>
              <Checkbox
                isSelected={speed.before !== null}
                onChange={(isOn) =>
                  set({
                    ...speed,
                    before: isOn ? { pulsesPerTurn: speed.pulsesPerTurn, gears: speed.gears } : null,
                  })
                }
              >
                It has moved to another shaft or gearbox
              </Checkbox>
              {speed.before && (
                <Reads
                  title="Where it read before"
                  sensed={speed.before}
                  onChange={(before) => set({ ...speed, before })}
                />
              )}
            </Stack>
          </Stack>
          <Stack $gap={5}>
            <Told chain={speed} />
            <Gauges chain={speed} onChange={set} />
            <OnScreen>
              <Button weight="quiet" onPress={() => set(null)}>
                Forget the gears and the tyre
              </Button>
            </OnScreen>
          </Stack>
        </Columns>
      )}
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  gap: ${space[5]} ${space[6]};
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const OnScreen = styled.div`
  ${at.print} {
    display: none;
  }
`;
const TyreRow = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 120px));
  gap: ${space[3]};
`;
const GaugeBox = styled.div`
  display: grid;
  gap: ${space[1]};
  padding-bottom: ${space[2]};
  border-bottom: 1px solid ${color.rule};
`;
const GaugeRow = styled.div`
  display: grid;
  grid-template-columns: minmax(110px, 1fr) minmax(150px, 190px) auto;
  align-items: center;
  gap: ${space[2]};
  ${at.phone} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
`;
const Big = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 0 ${space[5]};
  font-size: ${type.title};
  font-weight: 700;
`;
const Moved = styled.p`
  display: grid;
  gap: 2px;
  padding: ${space[2]} ${space[3]};
  border-left: 3px solid ${color.pencil};
  border-radius: ${shape.radius};
  background: ${color.sheet};
  &[data-same='true'] {
    border-color: ${color.proved};
  }
`;
const Hidden = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
`;
