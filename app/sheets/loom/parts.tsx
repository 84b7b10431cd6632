import { memo, useMemo } from 'react';
import { styled } from 'styled-components';
import type { Bought, Build } from '~/core/build/schema';
import { call } from '~/core/edits';
import { partsCsv } from '~/core/formats/loom-lists';
import { boughtOf, orderOf, partsToBuy, stillToOrder, type PartLine } from '~/core/loom/parts';
import { cuttingOf, cuttingSums } from '~/core/loom/shelf';
import { plural } from '~/core/units/format';
import { readLength, readMeasure } from '~/core/units/workshop';
import { readSize } from '~/core/wire/size';
import { useBuild, useLater } from '../../build/context';
import { LengthField } from '../../parts/length-field';
import { SheetFrame } from '../../parts/sheet-frame';
import { WireMark } from '../../parts/wire-mark';
import { download, fileName } from '../../storage/files';
import { Button } from '../../ui/button';
import { Chunks } from '../../ui/chunks';
import { NumberField } from '../../ui/number-field';
import { Heading, Row, Small, Soft, Stack } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { TextField } from '../../ui/text-field';
import { color, space } from '../../ui/theme';

const MOST = 100_000;
const PartRow = memo(function PartRow({ line, bought, build }: { line: PartLine; bought: Bought; build: Build }) {
  const { edit } = useBuild();
  const set = (changes: Partial<Bought>) => edit(call('setBought', { key: line.key, changes }));
  const size =
    line.squareMm !== null
      ? readSize(line.squareMm, build)
      : line.boreMillimetres !== null
        ? readMeasure('thickness', line.boreMillimetres, build)
        : '';
  const count = (value: number) => (line.unit === 'metre' ? readLength(value, build) : String(value));
  return (
    <tr>
      <th scope="row">{line.group === 'Wire' ? <WireMark colour={line.name} /> : line.name}</th>
      <td className="figure" data-label="size">
        {size}
      </td>
      <td data-roomy className="figure" data-label="needed">
        {count(line.needed)}
      </td>
      <td className="figure" data-label="with spares">
        {count(line.toBuy)}
      </td>
      {(['have', 'ordered', 'arrived'] as const).map((what) => (
        <td key={what} data-label={what}>
          <Few>
            <NumberField
              label={`${line.name} ${size}, ${what}`}
              hideLabel
              value={bought[what]}
              minValue={0}
              maxValue={MOST}
              onChange={(value) => value !== null && set({ [what]: value })}
            />
          </Few>
        </td>
      ))}
      <td className="figure" data-label="still to order">
        <strong>{stillToOrder(line, bought)}</strong>
      </td>
      <td data-roomy data-label="price each">
        <Few>
          <NumberField
            label={`${line.name} ${size}, price each`}
            hideLabel
            value={bought.price}
            minValue={0}
            maxValue={1e6}
            onChange={(price) => set({ price })}
          />
        </Few>
      </td>
      <td data-roomy data-label="from">
        <TextField
          label={`${line.name} ${size}, from`}
          hideLabel
          value={bought.supplier}
          maxLength={60}
          onChange={(supplier) => set({ supplier })}
        />
      </td>
    </tr>
  );
});

/** What each wire is cut from. */
function CuttingView() {
  const { build, edit } = useBuild();
  const later = useLater();
  const cutting = useMemo(() => cuttingOf(later.build, later.net), [later]);
  const { bought: spools, bound, tooLong } = cuttingSums(cutting);
  return (
    <Stack $gap={2}>
      <Heading>Cut from what</Heading>
      <Row $gap={4} style={{ alignItems: 'end' }}>
        <Few>
          <LengthField
            label="A spool is"
            units={build.units}
            value={build.stores.spoolMetres}
            minValue={1}
            maxValue={1000}
            onChange={(metres) => edit(call('setSpoolLength', { metres }))}
          />
        </Few>
        <span>
          {plural(spools, 'new spool')}, none needs fewer than {bound}.{' '}
          {tooLong > 0 && `${plural(tooLong, 'wire')} longer than a spool: join them or take longer spools.`}
        </span>
        <Button onPress={() => edit(call('cutFromShelf', {}))}>It is cut: leftovers to the shelf</Button>
      </Row>
      <TableScroll aria-label="What each wire is cut from">
        <Table data-dense="true" data-stacked="true">
          <thead>
            <tr>
              <th scope="col">wire</th>
              <th scope="col">from</th>
              <th scope="col">cut in this order</th>
              <th scope="col" className="figure">
                left
              </th>
            </tr>
          </thead>
          <Chunks
            items={cutting.flatMap(({ colour, squareMm, plan }) =>
              plan.cuts.map((cut, i) => ({ ...cut, colour, squareMm, i })),
            )}
            rowPixels={30}
            columns={4}
            as="tbody"
          >
            {({ colour, squareMm, stockId, metres, pieces, left, i }) => (
              <tr key={`${colour} ${squareMm} ${stockId ?? i}`}>
                <th scope="row">
                  <WireMark colour={colour} size={readSize(squareMm, build)} />
                </th>
                <td data-label="from">
                  {stockId === null ? 'a new spool' : 'the shelf'}, {readLength(metres, build)}
                </td>
                <td data-label="cut in this order">
                  {pieces.map((piece) => readLength(piece.metres, build)).join(', ')}
                </td>
                <td className="figure" data-label="left">
                  {readLength(left, build)}
                </td>
              </tr>
            )}
          </Chunks>
        </Table>
      </TableScroll>
      {build.stores.spools.length > 0 && (
        <Stack $gap={1}>
          <Heading>On the shelf</Heading>
          {build.stores.spools.map(({ id, colour, squareMm, metres }) => (
            <Row key={id} $gap={3}>
              <WireMark colour={colour} size={readSize(squareMm, build)} />
              <span>{readLength(metres, build)}</span>
              <Button weight="quiet" onPress={() => edit(call('removeSpool', { id }))}>
                Take it away
              </Button>
            </Row>
          ))}
        </Stack>
      )}
    </Stack>
  );
}

/** Everything that has to be bought, what of it is here, and what the wire is cut from. */
export function PartsToBuy() {
  const { build } = useBuild();
  const later = useLater();
  const lines = useMemo(() => partsToBuy(later.build, later.net), [later]);
  const rows = lines.flatMap((line, i): (PartLine | string)[] =>
    line.group === lines[i - 1]?.group ? [line] : [line.group, line],
  );
  const { open, cost } = orderOf(build, lines);
  return (
    <SheetFrame
      summary={
        <>
          {plural(lines.length, 'line')}, {open} still to order.
          <br />
          <Soft>{cost > 0 ? `${cost.toFixed(2)} for what is priced.` : 'Spares: one in ten, two at the least.'}</Soft>
        </>
      }
      actions={
        <Button
          onPress={() => download(fileName(`${build.name} parts`, 'csv'), 'text/csv', partsCsv(later.build, later.net))}
        >
          Parts as CSV
        </Button>
      }
    >
      <Stack $gap={5}>
        <TableScroll aria-label="Parts to buy">
          <Table data-dense="true" data-stacked="true">
            <thead>
              <tr>
                <th scope="col">part</th>
                <th scope="col" className="figure">
                  size
                </th>
                <th data-roomy scope="col" className="figure">
                  needed
                </th>
                <th scope="col" className="figure">
                  with spares
                </th>
                <th scope="col">have</th>
                <th scope="col">ordered</th>
                <th scope="col">arrived</th>
                <th scope="col" className="figure">
                  to order
                </th>
                <th data-roomy scope="col">
                  price
                </th>
                <th data-roomy scope="col">
                  from
                </th>
              </tr>
            </thead>
            <Chunks items={rows} rowPixels={42} columns={10} as="tbody">
              {(row) =>
                typeof row === 'string' ? (
                  <tr key={row}>
                    <Group colSpan={10} scope="rowgroup">
                      {row}
                    </Group>
                  </tr>
                ) : (
                  <PartRow key={row.key} line={row} bought={boughtOf(build, row)} build={build} />
                )
              }
            </Chunks>
          </Table>
        </TableScroll>
        <CuttingView />
        <Small>
          Seals, blanks and terminals of a part whose plug you have already are in the list as well: set them to have.
        </Small>
      </Stack>
    </SheetFrame>
  );
}

const Group = styled.th`
  text-align: left;
  padding-top: ${space[4]} !important;
  color: ${color.soft};
`;
const Few = styled.div`
  width: 92px;
`;
