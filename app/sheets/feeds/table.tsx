import { Fragment, memo } from 'react';
import { endOf, fuseEnd, relayEnd } from '~/core/ends/ends';
import type { Circuit } from '~/core/power/plan';
import { runningAmps } from '~/core/power/total';
import { readSize } from '~/core/wire/size';
import { formatAmps, formatVolts, plural } from '~/core/units/format';
import { readQuantity, type Units } from '~/core/units/units';
import type { Selection } from '~/core/netlist/run';
import { useBuild } from '../../build/context';
import { FindingMark } from '../../parts/findings/finding-mark';
import { SheetFrame } from '../../parts/sheet-frame';
import { Button } from '../../ui/button';
import { OnScreen, Small, Soft, Stack } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { color } from '../../ui/theme';
import { AddToFeeds } from './add-part';
import { CircuitDetail } from './circuit-detail';
import { TablePaste } from './table-paste';

const controlWords = {
  need: 'an ECU output',
  'main-relay-pin': 'the ECU',
  'key-run': 'the key',
  'key-start': 'the key at start',
  wired: 'its own wires',
} as const;

const sourceWords = {
  battery: 'direct',
  main: 'behind another feed',
  key: 'from the key',
  tap: 'from the car',
  nothing: 'fed by nothing',
} as const;

/** What is found of a feed's own parts. */
const CircuitMarks = ({ circuit }: { circuit: Circuit }) => (
  <>
    {[fuseEnd(circuit.id, 1), relayEnd(circuit.id, '85'), relayEnd(circuit.id, '86')].map((end) => (
      <FindingMark key={end} thing={{ type: 'end', end }} />
    ))}
  </>
);

/** One feed; drawn again only for other figures of its own. */
const CircuitRows = memo(function CircuitRows({
  circuit,
  units,
  open,
  onOpen,
}: {
  circuit: Circuit;
  units: Units;
  open: boolean;
  onOpen: (selection: Selection | null) => void;
}) {
  const press = () => onOpen(open ? null : { type: 'end', end: fuseEnd(circuit.id, 2) });
  const over = circuit.dropVolts > circuit.limitVolts;
  const burns =
    circuit.fuseAmps > Math.min(circuit.carriesAmps, circuit.loads.length > 1 ? circuit.branchCarriesAmps : Infinity);
  return (
    <Fragment>
      <tr data-pressable="true" data-selected={open} onClick={press}>
        <th scope="row">
          <Button weight="quiet" aria-expanded={open} onPress={press}>
            {circuit.name}
          </Button>
          <CircuitMarks circuit={circuit} />
        </th>
        <td>{circuit.relay ? `relay by ${controlWords[circuit.relay.control]}` : sourceWords[circuit.source]}</td>
        <td className="figure" data-label="load">
          {formatAmps(circuit.loadAmps)}
        </td>
        <td className="figure" data-label="fuse">
          <strong style={burns ? { color: color.stop } : undefined}>{circuit.fuseAmps} A</strong>
          {circuit.fuseByPerson && <Soft> yours</Soft>}
        </td>
        <td className="figure" data-label="wire">
          {readSize(circuit.squareMm, { units })}
          {circuit.squareByPerson && <Soft> yours</Soft>}
        </td>
        <td className="figure" data-label="carries">
          {formatAmps(circuit.carriesAmps)}
        </td>
        <td className="figure" data-label="drop">
          <strong style={over ? { color: color.fix } : undefined}>{formatVolts(circuit.dropVolts)}</strong>
          <Soft> of {formatVolts(circuit.limitVolts)}</Soft>
        </td>
      </tr>
      {open && (
        <tr>
          <td colSpan={7}>
            <CircuitDetail circuit={circuit} />
          </td>
        </tr>
      )}
    </Fragment>
  );
});

export function FeedTable() {
  const { build, derived, selection, select } = useBuild();
  const { circuits } = derived.net;
  const chosen = selection?.type === 'end' ? endOf(selection.end) : null;
  const open = chosen?.of === 'part' && (chosen.kind === 'fuse' || chosen.kind === 'relay') ? chosen.part : null;
  const total = runningAmps(derived.net);
  return (
    <SheetFrame
      actions={<AddToFeeds />}
      summary={
        <>
          {plural(circuits.length, 'feed')}, {formatAmps(total)} with everything on.
          <br />
          <Soft>Press a feed to change its fuse, wire or relay.</Soft>
        </>
      }
    >
      <Stack $gap={5}>
        {circuits.length === 0 ? (
          <p>
            Nothing to feed yet. <Soft>Devices on sheet 1 bring their feeds with them.</Soft>
          </p>
        ) : (
          <TableScroll aria-label="Feeds">
            <Table data-stacked="true">
              <thead>
                <tr>
                  <th scope="col">Feed</th>
                  <th scope="col">switched by</th>
                  <th scope="col" className="figure">
                    load
                  </th>
                  <th scope="col" className="figure">
                    fuse
                  </th>
                  <th scope="col" className="figure">
                    wire
                  </th>
                  <th scope="col" className="figure">
                    carries
                  </th>
                  <th scope="col" className="figure">
                    drop
                  </th>
                </tr>
              </thead>
              <tbody>
                {circuits.map((circuit) => (
                  <CircuitRows
                    key={circuit.id}
                    circuit={circuit}
                    units={build.units}
                    open={open === circuit.id}
                    onOpen={select}
                  />
                ))}
              </tbody>
            </Table>
          </TableScroll>
        )}
        <OnScreen as="div">
          <TablePaste />
        </OnScreen>
        <Small>
          Fuse at most what the wire carries in its bundle and heat, load at most 80 % of the fuse. Copper by IEC 60228
          at {readQuantity('temperature', 60, build)}, bunching by IEC 60364-5-52. Disconnect the battery before you
          touch any of it.
        </Small>
      </Stack>
    </SheetFrame>
  );
}
