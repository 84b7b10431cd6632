import { labelOf } from '~/core/netlist/label';
import { Fragment, memo } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { endOf, fuseEnd, relayEnd, type EndKey } from '~/core/ends/ends';
import { fuseRatings, openingSeconds } from '~/core/power/fuse';
import type { Circuit } from '~/core/power/plan';
import { readSize } from '~/core/wire/size';
import { seriesSizes } from '~/core/wire/wire';
import { formatAmps, formatVolts, plural } from '~/core/units/format';
import { readQuantity, type Units } from '~/core/units/units';
import type { Selection } from '~/core/netlist/run';
import { useBuild } from '../../build/context';
import { FindingMark } from '../../parts/findings/finding-mark';
import { SheetFrame } from '../../parts/sheet-frame';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { FieldGrid, Row, Small, Soft, Stack } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { color, space } from '../../ui/theme';
import { Grounds } from './grounds';
import { LengthField } from '../../parts/length-field';

const controlWords = {
  need: 'an ECU output',
  'main-relay-pin': 'the ECU',
  'key-run': 'the key',
  'key-start': 'the key at start',
  wired: 'its own wires',
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
        <td>
          {circuit.relay
            ? `relay by ${controlWords[circuit.relay.control]}`
            : circuit.source === 'main'
              ? 'from the main relay'
              : circuit.source === 'key'
                ? 'from the key'
                : 'direct'}
        </td>
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

function CircuitDetail({ circuit }: { circuit: Circuit }) {
  const { build, edit, derived, select } = useBuild();
  // The size in use stays to be seen when it is of the other series.
  const sizes = [...new Set([...seriesSizes(build.loom.series).map((size) => size.squareMm), circuit.squareMm])].sort(
    (one, other) => one - other,
  );
  const set = (choice: Parameters<typeof call<'setCircuit'>>[1]['choice']) =>
    edit(call('setCircuit', { circuitId: circuit.id, choice }));
  const derive = (field: 'squareMm' | 'fuseAmps') =>
    edit(call('deriveCircuit', { circuitId: circuit.id, fields: [field] }));
  const opens = openingSeconds(circuit.fuseAmps, circuit.fuseAmps * 2);
  const relay = circuit.relay;
  const far = (end: EndKey) => {
    const wire = derived.net.wiresAt.get(end)?.[0];
    return wire ? labelOf(derived.net, wire.from === end ? wire.to : wire.from) : 'no pin yet';
  };
  return (
    <Detail>
      <FieldGrid $min={150}>
        <Select
          label="Fuse"
          choices={[
            { id: 'auto', name: 'derived' },
            ...fuseRatings.map((rating) => ({ id: String(rating), name: `${rating} A` })),
          ]}
          value={circuit.fuseByPerson ? String(circuit.fuseAmps) : 'auto'}
          onChange={(id) => (id === 'auto' ? derive('fuseAmps') : set({ fuseAmps: Number(id) }))}
        />
        <Select
          label="Trunk wire"
          choices={[
            { id: 'auto', name: 'derived' },
            ...sizes.map((squareMm) => ({ id: String(squareMm), name: readSize(squareMm, build) })),
          ]}
          value={circuit.squareByPerson ? String(circuit.squareMm) : 'auto'}
          onChange={(id) => (id === 'auto' ? derive('squareMm') : set({ squareMm: Number(id) }))}
        />
        <LengthField
          label="Trunk length"
          units={build.units}
          value={circuit.lengthMetres}
          minValue={0}
          maxValue={30}
          onChange={(lengthMetres) => set({ lengthMetres })}
        />
        <LengthField
          label="Fuse from its source"
          units={build.units}
          value={circuit.fuseDistanceMetres}
          minValue={0}
          maxValue={30}
          onChange={(fuseDistanceMetres) => set({ fuseDistanceMetres })}
        />
      </FieldGrid>
      {relay && (
        <Row $gap={4}>
          <Segmented
            label="Relay"
            choices={[
              { id: 'plain', name: 'plain' },
              { id: 'diode', name: 'with diode' },
            ]}
            value={relay.suppressed ? 'diode' : 'plain'}
            onChange={(id) => set({ relay: id })}
          />
          <Segmented
            label="Winding"
            choices={[
              { id: 'as-marked', name: '86 supply, 85 driver' },
              { id: 'reversed', name: 'reversed' },
            ]}
            value={relay.reversed ? 'reversed' : 'as-marked'}
            onChange={(id) => set({ winding: id })}
          />
          {(circuit.role === 'pump' || circuit.role === 'coils') && (
            <Segmented
              label="Switched by"
              choices={[
                { id: 'ecu', name: 'ECU' },
                { id: 'key', name: 'key' },
              ]}
              value={relay.control === 'key-run' ? 'key' : 'ecu'}
              onChange={(id) => set({ switchedBy: id })}
            />
          )}
        </Row>
      )}
      {relay && (
        <Row $gap={3}>
          {(['30', '87', '85', '86'] as const).map((terminal) => (
            <Button
              key={terminal}
              weight="quiet"
              onPress={() => select({ type: 'end', end: relayEnd(circuit.id, terminal) })}
            >
              {terminal}: {far(relayEnd(circuit.id, terminal))}
            </Button>
          ))}
        </Row>
      )}
      <Small>
        Feeds {circuit.loads.map((load) => `${load.name} ${formatAmps(load.amps)}`).join(', ')}.{' '}
        {circuit.pulsed &&
          `In pulses, at top speed: mean ${formatAmps(circuit.pulsed.mean)}, ${formatAmps(circuit.pulsed.rms)} RMS, ${formatAmps(circuit.pulsed.peak)} at the peak. `}
        {circuit.loads.length > 1 &&
          `Branches ${readSize(circuit.branchSquareMm, build)}, carrying ${formatAmps(circuit.branchCarriesAmps)}. `}
        {opens &&
          `A ${circuit.fuseAmps} A blade fuse opens at twice its rating within ${opens.least} to ${opens.most} s (ISO 8820-3).`}
      </Small>
    </Detail>
  );
}

export function Feeds() {
  const { build, derived, selection, select } = useBuild();
  const { circuits } = derived.net;
  const chosen = selection?.type === 'end' ? endOf(selection.end) : null;
  const open = chosen?.of === 'part' && (chosen.kind === 'fuse' || chosen.kind === 'relay') ? chosen.part : null;
  const total = circuits
    .filter((circuit) => circuit.source === 'battery')
    .reduce((sum, circuit) => sum + circuit.loadAmps, 0);
  return (
    <SheetFrame
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
        <Grounds />
        <Small>
          Fuse at most what the wire carries in its bundle and heat, load at most 80 % of the fuse. Copper by IEC 60228
          at {readQuantity('temperature', 60, build)}, bunching by IEC 60364-5-52. Disconnect the battery before you
          touch any of it.
        </Small>
      </Stack>
    </SheetFrame>
  );
}

const Detail = styled(Stack)`
  padding: ${space[3]};
  background: ${color.raised};
`;
