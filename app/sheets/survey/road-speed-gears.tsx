import { styled } from 'styled-components';
import {
  MOST_GEARS,
  ROLLED_PER_DIAMETER,
  rolledMetres,
  usualFinalDrive,
  usualTyre,
  type Gear,
  type Sensed,
  type Tyre,
} from '~/core/speed/chain';
import { readMeasure } from '~/core/units/workshop';
import { useBuild } from '../../build/context';
import { MeasureField } from '../../parts/scale-field';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { Table, TableScroll } from '../../ui/table';
import { Heading, OnScreen, Row, Small, Stack, VisuallyHidden } from '../../ui/text';
import { space } from '../../ui/theme';
import { NameField } from './name-field';

/** Where a sensor reads: pulses of its shaft, and the gears from there to the wheel. */
export function Reads({
  title,
  sensed,
  onChange,
}: {
  title: string;
  sensed: Sensed;
  onChange: (sensed: Sensed) => void;
}) {
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
                  <VisuallyHidden>remove</VisuallyHidden>
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
                  ? usualFinalDrive
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

/** The tyre, by what stands on its wall or by rolling it. */
export function TyreForm({ tyre, onChange }: { tyre: Tyre; onChange: (tyre: Tyre) => void }) {
  const { build } = useBuild();
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
          onChange(by === 'size' ? usualTyre : { by: 'rolled', metres: Math.round(rolledMetres(tyre) * 1000) / 1000 })
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
          <MeasureField
            label="One turn of the wheel"
            measure="rolled"
            units={build.units}
            value={tyre.metres}
            minValue={0.2}
            maxValue={8}
            onChange={(metres) => metres !== null && onChange({ by: 'rolled', metres })}
          />
        </div>
      )}
      <Small>
        {tyre.by === 'size'
          ? `Rolls about ${readMeasure('rolled', rolledMetres(tyre), build)} a turn: ${ROLLED_PER_DIAMETER} times its diameter, as the load flattens it.`
          : 'Chalk on the tyre and the floor, one turn pushed straight, the car loaded as it is driven.'}
      </Small>
    </Stack>
  );
}

const TyreRow = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 120px));
  gap: ${space[3]};
`;
