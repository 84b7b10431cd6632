import { useMemo, useState } from 'react';
import type { Build } from '~/core/build/schema';
import { labelOf } from '~/core/netlist/label';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { pinsOfKind } from '~/core/ecu/ecu';
import { endType, groundEnd, partEnd } from '~/core/ends/ends';
import { groundPins } from '~/core/netlist/ground-pins';
import { solveCircuit } from '~/core/circuit/solve';
import { groundSchool, otherSchool, type GroundSchool, type GroundShift } from '~/core/circuit/ground-shift';
import { stateWords } from '~/core/circuit/states';
import { formatAmps, formatMillivolts, plural } from '~/core/units/format';
import { readStep } from '~/core/units/units';
import { useBuild, useLater } from '../../build/context';
import { SheetFrame } from '../../parts/sheet-frame';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { Term } from '../../ui/term';
import { FieldGrid, Heading, Small, Soft, Stack } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { at, space } from '../../ui/theme';
import { ECU_THING, groundThing, placesOf } from '~/core/tree/things';
import { readSize } from '~/core/wire/size';
import { readLength } from '~/core/units/workshop';
import { LengthField } from '../../parts/length-field';
import { AddToFeeds } from './add-part';
import { GroundDrawing } from './ground-drawing';

type ShiftState = (typeof shiftStates)[number];

/** How far the ground of each sensor stands above the ECU's own, in the state chosen, with either school. */
function Shifts({ schools: [own, across] }: { schools: Schools }) {
  const { build } = useLater();
  const other = new Map(across.shifts.map((one) => [one.id, one]));
  const rows = own.shifts;
  const error = (shift: GroundShift | undefined) =>
    shift?.error === null || shift === undefined ? '–' : readStep(shift.quantity, Math.abs(shift.error), build);
  const millivolts = (shift: GroundShift | undefined) =>
    shift ? formatMillivolts(shift.shiftVolts, shift.strays) : '–';
  // Coils and injectors pulse: what a sensor shares with them is worst within a pulse.
  const pulses = ({ shiftVolts, peakVolts }: GroundShift) => Math.abs(peakVolts - shiftVolts) > PULSE_VOLTS;
  return (
    <Stack $gap={2}>
      <Heading>
        <Term meaning="Volts between a sensor's ground and the ground inside the ECU, which its inputs measure from. They are read as if they were signal.">
          Shift of each sensor
        </Term>
      </Heading>
      {rows.length === 0 ? (
        <Small>No sensor is wired yet.</Small>
      ) : (
        <TableScroll aria-label="Ground shift of each sensor">
          <Table data-stacked="true">
            <thead>
              <tr>
                <th scope="col">Sensor</th>
                <th scope="col" className="figure">
                  as wired
                </th>
                <th scope="col" className="figure">
                  read wrong by
                </th>
                <th scope="col" className="figure">
                  other school
                </th>
                <th scope="col" className="figure">
                  wrong by
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.id}>
                  <th scope="row">{row.label}</th>
                  <td className="figure" data-label="as wired">
                    {millivolts(row)}
                    {pulses(row) && (
                      <>
                        <br />
                        <Soft>{formatMillivolts(row.peakVolts)} at its peak</Soft>
                      </>
                    )}
                  </td>
                  <td className="figure" data-label="read wrong by">
                    {error(row)}
                  </td>
                  <td className="figure" data-label="other school">
                    {millivolts(other.get(row.id))}
                  </td>
                  <td className="figure" data-label="wrong by">
                    {error(other.get(row.id))}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </TableScroll>
      )}
    </Stack>
  );
}
/** A peak that is no further from the mean is not worth a word. */
const PULSE_VOLTS = 0.001;
/** The school the build follows, then the other. */
type Schools = readonly [own: GroundSchool, other: GroundSchool];
const shiftStates = ['key-on', 'cranking', 'running'] as const;

/** Where each return is bolted, to be taken elsewhere. */
function Returns() {
  const { build, derived, edit } = useBuild();
  const { net } = derived;
  const bolts = [
    ...(['battery', 'head', 'chassis'] as const).map((place) => groundEnd(place)),
    ...net.parts.flatMap(({ name, part }) => (part.kind === 'ground' ? [partEnd('ground', name)] : [])),
    ...net.parts.flatMap(({ name, part, proposed }) =>
      part.kind === 'splice' && !proposed ? [partEnd('splice', name)] : [],
    ),
  ];
  const rows = net.wires.filter(
    ({ signal, from, to }) =>
      signal === 'ground' && [from, to].some((end) => bolts.includes(end)) && !bolts.includes(from),
  );
  return (
    <Stack $gap={2}>
      <Heading>Returns</Heading>
      <TableScroll aria-label="Returns and their bolts">
        <Table data-stacked="true">
          <thead>
            <tr>
              <th scope="col">From</th>
              <th scope="col" className="figure">
                carries
              </th>
              <th scope="col" className="figure">
                wire
              </th>
              <th scope="col">bolted at</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ id, from, to, amps, squareMm }) => (
              <tr key={id}>
                <th scope="row">{labelOf(net, from)}</th>
                <td className="figure" data-label="carries">
                  {formatAmps(amps)}
                </td>
                <td className="figure" data-label="wire">
                  {readSize(squareMm, build)}
                </td>
                <td data-label="bolted at">
                  {endType(from) === 'device' ? (
                    <Select
                      label={`${labelOf(net, from)} bolted at`}
                      hideLabel
                      choices={bolts.map((bolt) => ({ id: bolt, name: labelOf(net, bolt) }))}
                      value={to}
                      onChange={(bolt) => edit(call('moveReturn', { end: from, to: bolt }))}
                    />
                  ) : (
                    labelOf(net, to)
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </TableScroll>
    </Stack>
  );
}

/** Grounds as a plan: where the ECU is grounded, who shares what, and what it does to the readings. */
export function GroundPlan() {
  const { build, derived } = useBuild();
  const later = useLater();
  const [state, setState] = useState<ShiftState>('running');
  const solution = useMemo(() => solveCircuit(later.build, later.net, state), [later.build, later.net, state]);
  const schools = useMemo<Schools>(
    () => [groundSchool(later.build, later.net, solution), otherSchool(later.build, state)],
    [later.build, later.net, solution, state],
  );
  const rings = derived.net.wires.filter(
    ({ from, to }) => endType(from) === 'ground' || endType(to) === 'ground',
  ).length;
  return (
    <SheetFrame
      summary={
        <>
          {plural(rings, 'ring')} on bolts, {plural(groundPins(build).power.length, 'power ground')} of the ECU.
          <br />
          <Soft>A return that is shared is a reading that moves.</Soft>
        </>
      }
      actions={<AddToFeeds />}
    >
      <Stack $gap={5}>
        <Stack $gap={2}>
          <Segmented
            label="The car is"
            choices={shiftStates.map((id) => ({ id, name: stateWords[id] }))}
            value={state}
            onChange={setState}
          />
          <GroundDrawing solution={solution} />
          <Small>
            Volts against battery negative; with the engine running the alternator stands at the block, which the
            strap’s current then draws below it. Of a sensor, how far its ground stands above the ECU’s and what that
            does to its reading. Drag a return to another bolt to move it there, or choose its bolt below. Disconnect
            the battery before you touch any of it.
          </Small>
        </Stack>
        <Two>
          <Grounds schools={schools} />
          <Shifts schools={schools} />
        </Two>
        <Returns />
      </Stack>
    </SheetFrame>
  );
}

function Grounds({ schools }: { schools: Schools }) {
  const { build, edit } = useBuild();
  const { power: powerPins, sensor: sensorPins, either } = groundPins(build);
  // Where the sensors have no pin of their own, the one they share is the person's choice.
  const own = pinsOfKind(build.ecu, 'sensor-ground').length > 0;
  const choosing = either.length > 0 || own ? either : powerPins;
  // Where the loom's tree has both ends it says how long these wires are.
  const places = placesOf(build.tree);
  const inTree = (place: string) => places.has(ECU_THING) && places.has(groundThing(place));
  const figures = [...schools].sort((one, other) => one.place.localeCompare(other.place));
  return (
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
        <Table data-stacked="true">
          <thead>
            <tr>
              <th scope="col">School</th>
              <th scope="col" className="figure">
                returns
              </th>
              <th scope="col" className="figure">
                <Term meaning="The ground inside the ECU above battery negative, in the state chosen above.">
                  ECU stands at
                </Term>
              </th>
              <th scope="col" className="figure">
                <Term meaning="What a manifold sensor of 3 bar would read too much if its ground were bolted to the engine block.">
                  3 bar sensor at the block
                </Term>
              </th>
            </tr>
          </thead>
          <tbody>
            {figures.map((figure) => (
              <tr key={figure.place} data-selected={figure.place === build.power.ecuGround}>
                <th scope="row">{figure.place === 'battery' ? 'battery negative' : 'engine block'}</th>
                <td className="figure" data-label="returns">
                  {formatAmps(figure.amps)}
                </td>
                <td className="figure" data-label="ECU stands at">
                  {formatMillivolts(figure.ecuVolts)}
                </td>
                <td className="figure" data-label="3 bar sensor at the block">
                  {readStep('pressure', figure.blockKpa, build)}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </TableScroll>
      <Small>
        {plural(powerPins.length, 'ECU ground')} ({powerPins.map((pin) => pin.id).join(', ')}), the ECU asks for{' '}
        {build.ecu.groundsAsked}. At the block the strap, {readSize(build.power.strapSquareMm, build)} of{' '}
        {readLength(build.power.strapMetres, build)}, is shared with the coils.
        {inTree('battery') && inTree('head')
          ? ' The two ways to a ground are as long as the loom’s tree has them.'
          : ''}
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
                onChange={(id) => edit(call('setGroundUse', { pinId: pin.id, use: id as 'ecu' | 'sensors' | 'both' }))}
              />
            );
          })}
        </GroundUses>
      )}
      <FieldGrid $min={140}>
        <LengthField
          label="To battery negative"
          units={build.units}
          value={build.power.groundMetres.battery}
          minValue={0}
          maxValue={30}
          isDisabled={inTree('battery')}
          onChange={(battery) => edit(call('setPower', { groundMetres: { ...build.power.groundMetres, battery } }))}
        />
        <LengthField
          label="To the block"
          units={build.units}
          value={build.power.groundMetres.head}
          minValue={0}
          maxValue={30}
          isDisabled={inTree('head')}
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
        <LengthField
          label="Starter cable"
          units={build.units}
          value={build.power.starterCable.metres}
          minValue={0.1}
          maxValue={30}
          onChange={(metres) => edit(call('setPower', { starterCable: { metres } }))}
        />
        <Select
          label="Starter cable size"
          choices={cableChoices(build, build.power.starterCable.squareMm)}
          value={String(build.power.starterCable.squareMm)}
          onChange={(id) => edit(call('setPower', { starterCable: { squareMm: Number(id) } }))}
        />
        {build.power.charging !== 'none' && (
          <>
            <LengthField
              label="Alternator cable"
              units={build.units}
              value={build.power.alternatorCable.metres}
              minValue={0.1}
              maxValue={30}
              onChange={(metres) => edit(call('setPower', { alternatorCable: { metres } }))}
            />
            <Select
              label="Alternator cable size"
              choices={cableChoices(build, build.power.alternatorCable.squareMm)}
              value={String(build.power.alternatorCable.squareMm)}
              onChange={(id) => edit(call('setPower', { alternatorCable: { squareMm: Number(id) } }))}
            />
          </>
        )}
      </FieldGrid>
    </Stack>
  );
}

/** Sizes that heavy cables are sold in, mm² (IEC 60228), with the one in use. */
const CABLES = [10, 16, 25, 35, 50, 70, 95];
const cableChoices = (build: Build, squareMm: number) =>
  [...new Set([...CABLES, squareMm])]
    .sort((one, other) => one - other)
    .map((size) => ({ id: String(size), name: readSize(size, build) }));

const Two = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: ${space[5]};
  ${at.tablet} {
    grid-template-columns: 1fr;
  }
`;
const GroundUses = styled(FieldGrid).attrs({ $min: 140 })``;
