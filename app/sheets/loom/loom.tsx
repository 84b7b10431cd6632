import { memo, useMemo } from 'react';
import { styled } from 'styled-components';
import type { Device } from '~/core/build/schema';
import { call } from '~/core/edits';
import { cutListCsv } from '~/core/formats/lists';
import { trunkOf } from '~/core/loom/bundles';
import { cutList, cutTotals, type CutLine } from '~/core/loom/loom';
import type { Netlist, Wire } from '~/core/netlist/netlist';
import type { Selection } from '~/core/netlist/run';
import { plural } from '~/core/units/format';
import type { Units } from '~/core/units/units';
import { readLength, readMeasure, readSpool } from '~/core/units/workshop';
import { readSize } from '~/core/wire/size';
import { useBuild } from '../../build/context';
import { QuantityField } from '../../parts/quantity-field';
import { ShortName } from '../../parts/short-name';
import { FindingMark } from '../../parts/findings/finding-mark';
import { SheetFrame } from '../../parts/sheet-frame';
import { WireMark } from '../../parts/wire-mark';
import { download, fileName } from '../../storage/files';
import { Button } from '../../ui/button';
import { Chunks } from '../../ui/chunks';
import { Select } from '../../ui/select';
import { FieldGrid, Heading, Small, Soft, Stack } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { at, color, space } from '../../ui/theme';
import { LengthField } from '../../parts/length-field';
import { MeasureField } from '../../parts/scale-field';
import { CrossSection } from './cross-section';
import { Segmented } from '../../ui/choice';

const joiningNotes = {
  crimp: 'Crimped splice: quick and sure with the right tool; needs the right barrel for the sum of sizes.',
  'solder-sleeve': 'Solder sleeve: joins and seals in one heat; look for a full flow all round.',
  'solder-and-shrink': 'Solder and heat-shrink: cheap and slim; stiff beside the joint, so support it there.',
} as const;

function Choices() {
  const { build, edit } = useBuild();
  const { loom } = build;
  return (
    <Stack $gap={3}>
      <Heading>How it is made</Heading>
      <FieldGrid $min={130}>
        <Select
          label="Order of work"
          choices={[
            { id: 'powers-first', name: 'Powers first' },
            { id: 'engine-side-first', name: 'Engine first' },
            { id: 'shortest-first', name: 'Shortest first' },
          ]}
          value={loom.orderOfWork}
          onChange={(id) => edit(call('setLoom', { orderOfWork: id as typeof loom.orderOfWork }))}
        />
        <Select
          label="Covering"
          choices={[
            { id: 'tape', name: 'Tape' },
            { id: 'conduit', name: 'Conduit' },
            { id: 'braid', name: 'Braid' },
            { id: 'sealed', name: 'Sealed', note: 'nothing can be added later' },
          ]}
          value={loom.covering}
          onChange={(id) => edit(call('setLoom', { covering: id as typeof loom.covering }))}
        />
        <Select
          label="Joining"
          choices={[
            { id: 'crimp', name: 'Crimped' },
            { id: 'solder-sleeve', name: 'Solder sleeve' },
            { id: 'solder-and-shrink', name: 'Soldered' },
          ]}
          value={loom.joining}
          onChange={(id) => edit(call('setLoom', { joining: id as typeof loom.joining }))}
        />
        <Select
          label="Origin"
          choices={[
            { id: 'new', name: 'New wire' },
            { id: 'stripped-donor', name: 'Donor loom' },
            { id: 'adapter', name: 'Adapter' },
            { id: 'flying-lead', name: 'Flying leads' },
          ]}
          value={loom.origin}
          onChange={(id) => edit(call('setLoom', { origin: id as typeof loom.origin }))}
        />
        <Segmented
          label="Wire on the shelf"
          choices={[
            { id: 'metric', name: 'mm²' },
            { id: 'awg', name: 'AWG' },
          ]}
          value={loom.series}
          onChange={(series) => edit(call('setLoom', { series }))}
        />
        <LengthField
          label="Slack on each wire"
          units={build.units}
          value={loom.slackMetres}
          minValue={0}
          maxValue={2}
          onChange={(slackMetres) => edit(call('setLoom', { slackMetres }))}
        />
        <MeasureField
          label="Hole it goes through"
          measure="diameter"
          units={build.units}
          value={loom.holeMillimetres}
          minValue={5}
          maxValue={200}
          onChange={(value) => value !== null && edit(call('setLoom', { holeMillimetres: value }))}
        />
        <QuantityField
          quantity="temperature"
          units={build.units}
          label="Hottest zone"
          value={loom.zoneCelsius}
          minValue={-40}
          maxValue={250}
          onChange={(value) => value !== null && edit(call('setLoom', { zoneCelsius: value }))}
        />
        <QuantityField
          quantity="temperature"
          units={build.units}
          label="Insulation rated"
          value={loom.wireCelsius}
          minValue={60}
          maxValue={250}
          onChange={(value) => value !== null && edit(call('setLoom', { wireCelsius: value }))}
        />
      </FieldGrid>
      <Small>{joiningNotes[loom.joining]}</Small>
    </Stack>
  );
}

const BranchRow = memo(function BranchRow({
  device,
  isKnown,
  units,
}: {
  device: Device;
  isKnown: boolean;
  units: Units;
}) {
  const { edit, select } = useBuild();
  return (
    <Branch>
      <Button weight="quiet" isDisabled={!isKnown} onPress={() => select({ type: 'device', deviceId: device.id })}>
        <ShortName label={device.label} />
      </Button>
      <FindingMark thing={{ type: 'device', deviceId: device.id }} />
      <LengthField
        label={`Branch of ${device.label}`}
        hideLabel
        units={units}
        value={device.branchMetres}
        minValue={0}
        maxValue={30}
        onChange={(branchMetres) => edit(call('editDevice', { deviceId: device.id, branchMetres }))}
      />
    </Branch>
  );
});

function Branches() {
  const { build } = useBuild();
  const { devices, kinds, units } = build;
  return (
    <Stack $gap={2}>
      <Heading>Branches</Heading>
      <Small>From the ECU plug to the device, along the route.</Small>
      <div role="list">
        <Chunks items={devices} rowPixels={36} as="div">
          {(device) => (
            <BranchRow key={device.id} device={device} isKnown={kinds[device.kindId] !== undefined} units={units} />
          )}
        </Chunks>
      </div>
    </Stack>
  );
}

/** One wire of the cut list; its figures come one by one, so that it is drawn again only for another figure. */
const CutRow = memo(function CutRow({
  number,
  wireId,
  from,
  to,
  size,
  colour,
  length,
  chosen,
  onChoose,
}: Pick<CutLine, 'wireId' | 'from' | 'to' | 'colour'> & {
  number: number;
  /** Size and length in the person's units. */
  size: string;
  length: string;
  chosen: boolean;
  onChoose: (selection: Selection) => void;
}) {
  return (
    <tr data-pressable="true" data-selected={chosen} onClick={() => onChoose({ type: 'wire', wireId })}>
      <td className="figure">
        <Pick
          aria-label={`Wire ${number}: ${from} to ${to}`}
          aria-pressed={chosen}
          onClick={() => onChoose({ type: 'wire', wireId })}
        >
          {number}
        </Pick>
      </td>
      <td className="name">
        <ShortName label={from} />
      </td>
      <td className="name">
        <ShortName label={to} /> <FindingMark thing={{ type: 'wire', wireId }} />
      </td>
      <td className="figure" data-label="size">
        {size}
      </td>
      <td>
        <WireMark colour={colour} />
      </td>
      <td className="figure">{length}</td>
    </tr>
  );
});

/** Wires of what is selected, to be found in the trunk. */
function wiresOf(net: Netlist, selection: Selection | null): ReadonlySet<string> {
  if (selection === null) return new Set();
  if (selection.type === 'wire') return new Set([selection.wireId]);
  if (selection.type === 'end') return new Set(net.wiresAt.get(selection.end)?.map(({ id }) => id));
  const isOf = ({ needId, deviceId }: Wire) =>
    selection.type === 'need' ? needId === selection.needId : deviceId === selection.deviceId;
  return new Set(net.wires.filter(isOf).map(({ id }) => id));
}

export function Loom() {
  const { build, derived, selection, select } = useBuild();
  const lines = useMemo(() => cutList(build, derived.net), [build, derived.net]);
  const totals = useMemo(() => cutTotals(lines), [lines]);
  const metres = totals.reduce((sum, total) => sum + total.metres, 0);
  const trunk = useMemo(() => trunkOf(build, derived.net), [build, derived.net]);
  const found = useMemo(() => wiresOf(derived.net, selection), [derived.net, selection]);
  return (
    <SheetFrame
      summary={
        <>
          {plural(lines.length, 'wire')}, {readLength(metres, build)} to cut.
          <br />
          <Soft>
            Trunk at the ECU about {readMeasure('thickness', trunk.millimetres, build)}, hole{' '}
            {readMeasure('diameter', build.loom.holeMillimetres, build)}.
          </Soft>
        </>
      }
      actions={
        <Button
          isDisabled={lines.length === 0}
          onPress={() =>
            download(fileName(`${build.name} cut list`, 'csv'), 'text/csv', cutListCsv(build, derived.net))
          }
        >
          Cut list as CSV
        </Button>
      }
    >
      <Columns>
        <Stack $gap={4}>
          <Choices />
          <CrossSection trunk={trunk} holeMillimetres={build.loom.holeMillimetres} units={build.units} chosen={found} />
          <Stack $gap={2}>
            <Heading>Wire to buy</Heading>
            <Table>
              <tbody>
                {totals.map((total) => (
                  <tr key={`${total.squareMm} ${total.colour}`}>
                    <td className="figure">{readSize(total.squareMm, build)}</td>
                    <td>
                      <WireMark colour={total.colour} />
                    </td>
                    <td className="figure">{readSpool(total.metres, build)}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Stack>
          <Branches />
        </Stack>
        <Stack $gap={2}>
          <Heading>Cut list</Heading>
          {lines.length === 0 ? (
            <p>
              No wire yet. <Soft>Place needs on sheet 2 and the list writes itself.</Soft>
            </p>
          ) : (
            <TableScroll aria-label="Cut list">
              <Table data-dense="true" data-stacked="true">
                <thead>
                  <tr>
                    <th scope="col">#</th>
                    <th scope="col">from</th>
                    <th scope="col">to</th>
                    <th scope="col" className="figure">
                      size
                    </th>
                    <th scope="col">colour</th>
                    <th scope="col" className="figure">
                      length
                    </th>
                  </tr>
                </thead>
                <Chunks items={lines} rowPixels={29} columns={6} as="tbody">
                  {(line, index) => (
                    <CutRow
                      key={line.wireId}
                      number={index + 1}
                      wireId={line.wireId}
                      from={line.from}
                      to={line.to}
                      colour={line.colour}
                      size={readSize(line.squareMm, build)}
                      length={readLength(line.lengthMetres, build)}
                      chosen={selection?.type === 'wire' && selection.wireId === line.wireId}
                      onChoose={select}
                    />
                  )}
                </Chunks>
              </Table>
            </TableScroll>
          )}
        </Stack>
      </Columns>
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: 290px minmax(0, 1fr);
  gap: ${space[5]};
  ${at.narrow} {
    grid-template-columns: 1fr;
  }
  ${at.print} {
    grid-template-columns: 1fr;
  }
`;
const Branch = styled.div.attrs({ role: 'listitem' })`
  display: grid;
  grid-template-columns: 1fr auto 110px;
  & > :last-child {
    grid-column: 3;
  }
  gap: ${space[2]};
  align-items: center;
  padding: 1px 0;
  & > button {
    justify-content: start;
    text-align: left;
  }
`;
const Pick = styled.button`
  border: 0;
  background: none;
  padding: 0;
  min-width: 24px;
  min-height: 24px;
  padding-inline: 0;
  color: ${color.soft};
  cursor: pointer;
`;
