import { ecuEnd } from '~/core/ends/ends';
import { useState } from 'react';
import { styled } from 'styled-components';
import { ioCsv, ioOrders, ioRows, ioTsv, type IoOrder } from '~/core/allot/io-sheet';
import { useBuild } from '../../build/context';
import { download, fileName } from '../../storage/files';
import { WireMark } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Row, Small, Soft } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { at, color, space } from '../../ui/theme';
import { SheetFrame } from '../../parts/sheet-frame';
import { readLength } from '~/core/units/workshop';
import { shortSize } from '~/core/wire/size';

const orderNames: Record<IoOrder, string> = { pin: 'pin', device: 'device', branch: 'branch length' };

/** The list people print and tick: every cavity, what it serves, its wire, and blank boxes. */
export function IoSheet() {
  const { build, derived, select, selection } = useBuild();
  const inch = build.units.workshop === 'inch';
  const [order, setOrder] = useState<IoOrder>('pin');
  const [said, setSaid] = useState('');
  const rows = ioRows(build, derived.net, derived.progress, order);
  const wired = rows.filter((row) => row.to !== '').length;
  const copy = () =>
    navigator.clipboard.writeText(ioTsv(rows, build)).then(
      () => setSaid('Copied: paste it into a spreadsheet.'),
      () => setSaid('The browser refused the clipboard: use the CSV file.'),
    );
  return (
    <SheetFrame
      summary={
        <span role="status">
          {wired} of {rows.length} cavities wired.
          <br />
          <Soft>{said || 'Print it, tick it, tape it to the wing.'}</Soft>
        </span>
      }
      actions={
        <>
          <Button weight="act" onPress={() => window.print()}>
            Print
          </Button>
          <Button onPress={() => download(fileName(`${build.name} io`, 'csv'), 'text/csv', ioCsv(rows, build))}>
            CSV file
          </Button>
          <Button onPress={() => void copy()}>Copy table</Button>
        </>
      }
    >
      <Tools>
        <Segmented
          label="Sorted by"
          choices={ioOrders.map((id) => ({ id, name: orderNames[id] }))}
          value={order}
          onChange={setOrder}
        />
        <Small>A blank box is for the pen; ✓ is what Gonyx knows.</Small>
      </Tools>
      <TableScroll aria-label="I/O sheet">
        <Table data-stacked="true">
          <thead>
            <tr>
              <th scope="col">Pin</th>
              <th scope="col">ECU label</th>
              <th scope="col">Serves</th>
              <th scope="col">To</th>
              <th scope="col">{inch ? 'Wire' : 'Wire, mm²'}</th>
              <th scope="col" className="figure">
                Length
              </th>
              <th scope="col">Cut</th>
              <th scope="col">Crimped</th>
              <th scope="col">Pulled</th>
              <th scope="col">Proved</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr
                key={row.pinId}
                data-pressable
                data-selected={selection?.type === 'end' && selection.end === ecuEnd(row.pinId)}
                onClick={() => select({ type: 'end', end: ecuEnd(row.pinId) })}
              >
                <th scope="row" className="wire" data-inline>
                  {row.pinId}
                </th>
                <td>{row.ecuLabel}</td>
                <td>{row.serves === 'free' ? <Soft>free</Soft> : row.serves}</td>
                <td data-label={row.to === '' ? undefined : 'to'}>{row.to}</td>
                <td className="wire">
                  {row.squareMm === null ? (
                    ''
                  ) : (
                    <WireMark colour={row.colour} size={inch ? shortSize(row.squareMm, build) : String(row.squareMm)} />
                  )}
                </td>
                <td className="figure">{row.metres === null ? '' : readLength(row.metres, build)}</td>
                <Tick label="cut" wanted={row.to !== ''} done={false} />
                <Tick label="crimped" wanted={row.to !== ''} done={row.crimped} />
                <Tick label="pulled" wanted={row.to !== ''} done={row.crimped} />
                <Tick label="proved" wanted={row.to !== ''} done={row.proved} />
              </tr>
            ))}
          </tbody>
        </Table>
      </TableScroll>
    </SheetFrame>
  );
}

function Tick({ label, wanted, done }: { label: string; wanted: boolean; done: boolean }) {
  return (
    <TickCell data-label={wanted ? label : undefined}>
      {!wanted ? '' : done ? '✓' : <Box role="img" aria-label="not yet" />}
    </TickCell>
  );
}

const Tools = styled(Row)`
  align-items: end;
  justify-content: space-between;
  margin-bottom: ${space[3]};
  ${at.print} {
    display: none;
  }
`;
const TickCell = styled.td`
  text-align: center;
`;
const Box = styled.span`
  display: inline-block;
  width: 15px;
  height: 15px;
  border: 1.3px solid ${color.ink};
  border-radius: 2px;
  vertical-align: middle;
`;
