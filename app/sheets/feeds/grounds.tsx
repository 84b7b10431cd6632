import { labelOf } from '~/core/netlist/label';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { pinsOfKind } from '~/core/ecu/ecu';
import { deviceAt, ecuEnd, endType, groundEnd } from '~/core/ends/ends';
import { groundPins } from '~/core/netlist/ground-pins';
import { groundSchools } from '~/core/circuit/grounds';
import { formatAmps, formatVolts, plural } from '~/core/units/format';
import { readQuantity } from '~/core/units/units';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { Term } from '../../ui/term';
import { FieldGrid, Heading, Small, Stack } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { at, space } from '../../ui/theme';
import { readSize } from '~/core/wire/size';
import { readLength } from '~/core/units/workshop';
import { LengthField } from '../../parts/length-field';

export function Grounds() {
  const { build, derived, edit, select } = useBuild();
  const { power: powerPins, sensor: sensorPins, either } = groundPins(build);
  // Where the sensors have no pin of their own, the one they share is the person's choice.
  const own = pinsOfKind(build.ecu, 'sensor-ground').length > 0;
  const choosing = either.length > 0 || own ? either : powerPins;
  const figures = groundSchools(build, derived.net);
  const places = (['battery', 'head', 'chassis'] as const).map((place) => ({
    place,
    ends: derived.net.nodeOf.get(groundEnd(place))?.ends.filter((end) => endType(end) !== 'ground') ?? [],
  }));
  return (
    <Two>
      <Stack $gap={2}>
        <Heading>
          <Term meaning="Where the ECU's own power ground wires end. Both ways are in use; the figures show what each costs.">
            ECU power ground
          </Term>
        </Heading>
        <Segmented
          label="ECU power ground"
          hideLabel
          choices={[
            { id: 'battery', name: 'battery negative' },
            { id: 'head', name: 'engine block' },
          ]}
          value={build.power.ecuGround}
          onChange={(ecuGround) => edit(call('setPower', { ecuGround }))}
        />
        <TableScroll aria-label="Ground shift of both schools">
          <Table>
            <thead>
              <tr>
                <th scope="col">School</th>
                <th scope="col" className="figure">
                  return
                </th>
                <th scope="col" className="figure">
                  shift
                </th>
                <th scope="col" className="figure">
                  3 bar sensor
                </th>
              </tr>
            </thead>
            <tbody>
              {figures.map((figure) => (
                <tr key={figure.place} data-selected={figure.place === build.power.ecuGround}>
                  <th scope="row">{figure.place === 'battery' ? 'battery negative' : 'engine block'}</th>
                  <td className="figure">{formatAmps(figure.amps)}</td>
                  <td className="figure">{formatVolts(figure.shiftVolts)}</td>
                  <td className="figure">{readQuantity('pressure', figure.errorKpa, build)} off</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </TableScroll>
        <Small>
          {plural(powerPins.length, 'ECU ground')} ({powerPins.map((pin) => pin.id).join(', ')}), the ECU asks for{' '}
          {build.ecu.groundsAsked}. At the block the strap, {readSize(build.power.strapSquareMm, build)} of{' '}
          {readLength(build.power.strapMetres, build)}, is shared with the coils.
        </Small>
        {choosing.length > 0 && (
          <GroundUses>
            {choosing.map((pin) => {
              const [forEcu, forSensors] = [powerPins.includes(pin), sensorPins.includes(pin)];
              return (
                <Select
                  key={pin.id}
                  label={`${pin.label}, ${pin.id}`}
                  choices={[
                    { id: 'ecu', name: 'for the ECU' },
                    ...(either.includes(pin) ? [{ id: 'sensors', name: 'for the sensors' }] : []),
                    { id: 'both', name: 'for both' },
                  ]}
                  value={forEcu && forSensors ? 'both' : forEcu ? 'ecu' : 'sensors'}
                  onChange={(id) =>
                    edit(call('setGroundUse', { pinId: pin.id, use: id as 'ecu' | 'sensors' | 'both' }))
                  }
                />
              );
            })}
          </GroundUses>
        )}
        <FieldGrid $min={120}>
          <LengthField
            label="To battery negative"
            units={build.units}
            value={build.power.groundMetres.battery}
            minValue={0}
            maxValue={30}
            onChange={(battery) => edit(call('setPower', { groundMetres: { ...build.power.groundMetres, battery } }))}
          />
          <LengthField
            label="To the block"
            units={build.units}
            value={build.power.groundMetres.head}
            minValue={0}
            maxValue={30}
            onChange={(head) => edit(call('setPower', { groundMetres: { ...build.power.groundMetres, head } }))}
          />
          <LengthField
            label="Engine strap"
            units={build.units}
            value={build.power.strapMetres}
            minValue={0.1}
            maxValue={30}
            onChange={(strapMetres) => edit(call('setPower', { strapMetres }))}
          />
        </FieldGrid>
      </Stack>
      <Stack $gap={2}>
        <Heading>What returns where</Heading>
        <ul>
          {places.map(({ place, ends }) => (
            <Place key={place}>
              <Button
                weight="quiet"
                onPress={() => select({ type: 'end', end: groundEnd(place) })}
                isDisabled={ends.length === 0}
              >
                {place === 'battery' ? 'Battery negative' : place === 'head' ? 'Engine block' : 'Chassis'}
              </Button>
              <Small>{ends.length === 0 ? 'nothing' : ends.map((end) => labelOf(derived.net, end)).join(', ')}</Small>
            </Place>
          ))}
          {sensorPins.map((pin) => {
            const ends = derived.net.nodeOf.get(ecuEnd(pin.id))?.ends.filter((end) => deviceAt(end) !== null) ?? [];
            return (
              <Place key={pin.id}>
                <Button
                  weight="quiet"
                  isDisabled={ends.length === 0}
                  onPress={() => select({ type: 'end', end: ecuEnd(pin.id) })}
                >
                  {pin.label}, {pin.id}
                </Button>
                <Small>{ends.length === 0 ? 'nothing' : ends.map((end) => labelOf(derived.net, end)).join(', ')}</Small>
              </Place>
            );
          })}
        </ul>
      </Stack>
    </Two>
  );
}

const Two = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: ${space[5]};
  ${at.tablet} {
    grid-template-columns: 1fr;
  }
`;
const GroundUses = styled(FieldGrid).attrs({ $min: 140 })``;
const Place = styled.li`
  display: grid;
  justify-items: start;
  padding-bottom: ${space[1]};
  button {
    text-align: left;
    font-weight: 700;
  }
`;
