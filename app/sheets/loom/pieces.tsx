import { memo, useMemo } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { allFigures, coveringWords, loomGrams, type SegmentFigures } from '~/core/loom/bundles';
import { segmentName } from '~/core/loom/names';
import { noiseOf, loudWords } from '~/core/loom/noise';
import { zones, type Zone } from '~/core/tree/tree';
import type { Build } from '~/core/build/schema';
import { plural } from '~/core/units/format';
import { readQuantity } from '~/core/units/units';
import { readLength, readMeasure } from '~/core/units/workshop';
import { useBuild } from '../../build/context';
import { LengthField } from '../../parts/length-field';
import { SheetFrame } from '../../parts/sheet-frame';
import { Checkbox } from '../../ui/choice';
import { Select } from '../../ui/select';
import { Heading, Soft, Stack, VisuallyHidden } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { NoTree } from './no-tree';
import { zoneWords } from './piece-panel';

const PieceRow = memo(function PieceRow({ figures, build }: { figures: SegmentFigures; build: Build }) {
  const { edit } = useBuild();
  const { id, segment, wires, hottest } = figures;
  const name = segmentName(build, id);
  return (
    <tr>
      <th scope="row">{name}</th>
      <td data-label="length">
        <Short>
          <LengthField
            label={`Length of ${name}`}
            hideLabel
            units={build.units}
            value={segment.metres}
            minValue={0}
            maxValue={30}
            onChange={(metres) => edit(call('setSegment', { segment: id, changes: { metres } }))}
          />
        </Short>
      </td>
      <td data-label="measured">
        <Checkbox
          isSelected={segment.measured}
          onChange={(measured) => edit(call('setSegment', { segment: id, changes: { measured } }))}
        >
          <VisuallyHidden>{name} is measured</VisuallyHidden>
        </Checkbox>
      </td>
      <td data-label="runs through">
        <Select
          label={`${name} runs through`}
          hideLabel
          choices={zones.map((zone) => ({ id: zone, name: zoneWords[zone] }))}
          value={segment.zone}
          onChange={(zone) => edit(call('setSegment', { segment: id, changes: { zone: zone as Zone, celsius: null } }))}
        />
      </td>
      <td className="figure" data-label="wires">
        {wires.length}
      </td>
      <td data-roomy className="figure" data-label="bare">
        {readMeasure('thickness', figures.bareMillimetres, build)}
      </td>
      <td className="figure" data-label="covered">
        {readMeasure('thickness', figures.millimetres, build)}
      </td>
      <td data-roomy data-label="covering">
        {coveringWords[figures.covering]}
        {figures.sleeveMillimetres === null ? '' : ` ${readMeasure('thickness', figures.sleeveMillimetres, build)}`}
      </td>
      <td className="figure" data-label="hole">
        {segment.hole ? readMeasure('diameter', segment.hole.millimetres, build) : '–'}
      </td>
      <td data-roomy className="figure" data-label="weight">
        {readMeasure('weight', figures.grams, build)}
      </td>
      <td className="figure" data-label="warmest">
        {hottest ? readQuantity('temperature', hottest.celsius, build) : '–'}
      </td>
    </tr>
  );
});

/** Every piece of the tree as a row, to be measured one after the other. */
export function Pieces() {
  const { build, derived } = useBuild();
  const { net } = derived;
  const figures = useMemo(() => allFigures(build, net), [build, net]);
  const noise = useMemo(() => noiseOf(build, net), [build, net]);
  const drawn = figures.filter(({ segment }) => !segment.measured).length;
  if (figures.length === 0) return <NoTree />;
  return (
    <SheetFrame
      summary={
        <>
          {plural(figures.length, 'piece')}, {readMeasure('weight', loomGrams(net), build)} of wire.
          <br />
          <Soft>{drawn === 0 ? 'All of them measured.' : `${drawn} only drawn: measure them with a string.`}</Soft>
        </>
      }
    >
      <Stack $gap={5}>
        <TableScroll aria-label="Pieces of the loom">
          <Table data-dense="true" data-stacked="true">
            <thead>
              <tr>
                <th scope="col">from and to</th>
                <th scope="col">length</th>
                <th scope="col">measured</th>
                <th scope="col">runs through</th>
                <th scope="col" className="figure">
                  wires
                </th>
                <th data-roomy scope="col" className="figure">
                  bare
                </th>
                <th scope="col" className="figure">
                  covered
                </th>
                <th data-roomy scope="col">
                  covering
                </th>
                <th scope="col" className="figure">
                  hole
                </th>
                <th data-roomy scope="col" className="figure">
                  weight
                </th>
                <th scope="col" className="figure">
                  warmest
                </th>
              </tr>
            </thead>
            <tbody>
              {figures.map((one) => (
                <PieceRow key={one.id} figures={one} build={build} />
              ))}
            </tbody>
          </Table>
        </TableScroll>
        {noise.length > 0 && (
          <Stack $gap={2}>
            <Heading>What the trigger and knock cables hear</Heading>
            <TableScroll aria-label="Trigger and knock cables beside what switches hard">
              <Table data-stacked="true">
                <thead>
                  <tr>
                    <th scope="col">cable</th>
                    <th scope="col">beside</th>
                    <th scope="col" className="figure">
                      in one bundle
                    </th>
                    <th scope="col" className="figure">
                      within {readMeasure('thickness', 100, build)}
                    </th>
                    <th scope="col">most of it</th>
                  </tr>
                </thead>
                <tbody>
                  {noise.map((one) => (
                    <tr key={`${one.deviceId} ${one.loud}`}>
                      <th scope="row">
                        {one.label}
                        {one.screened ? '' : ', bare'}
                      </th>
                      <td data-label="beside">{loudWords[one.loud]}</td>
                      <td className="figure" data-label="in one bundle">
                        {readLength(one.bundledMetres, build)}
                      </td>
                      <td className="figure" data-label="near">
                        {readLength(one.besideMetres, build)}
                      </td>
                      <td data-label="most of it">{segmentName(build, one.segment)}</td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            </TableScroll>
          </Stack>
        )}
      </Stack>
    </SheetFrame>
  );
}

const Short = styled.div`
  width: 104px;
`;
