import { useMemo } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { endOf, pinnedAt, plugEnd } from '~/core/ends/ends';
import type { DonorWire } from '~/core/donor/wire';
import { donorConnectors, oldUses, repinFactory } from '~/core/loom/factory-plug';
import { placeName } from '~/core/loom/names';
import { passingWires } from '~/core/loom/plug';
import { halfWords, halves, meetingsOf, plugConnector, repinSteps, type Meeting } from '~/core/loom/plug-face';
import { labelOf } from '~/core/netlist/label';
import type { Wire } from '~/core/netlist/netlist';
import { otherEnd } from '~/core/netlist/wires';
import { MOST_COLUMNS } from '~/core/tree/tree';
import { plural } from '~/core/units/format';
import { readLength } from '~/core/units/workshop';
import { readSize } from '~/core/wire/size';
import { useBuild } from '../../build/context';
import { ConnectorFace } from '../../parts/connector-face';
import { plugCavities } from '../../parts/plug-cavities';
import { MeasureField } from '../../parts/scale-field';
import { SheetFrame } from '../../parts/sheet-frame';
import { SizeField } from '../../parts/size-field';
import { WireMark } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { Checkbox, Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { FieldGrid, Heading, Row, ScreenOnly, Small, Soft, Stack } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { at, space } from '../../ui/theme';
import { TerminalButton } from '../../parts/terminal-notes';
import { Clicked, DevicePlugs } from './device-plugs';

const NEW = '';
const MOST_CAVITIES = 200;
const shellWords = { 'in-line': 'in the line', bulkhead: 'on the wall' } as const;

const oldWords = (wire: DonorWire | undefined): string =>
  wire ? [wire.colour, wire.function, wire.condition].filter(Boolean).join(', ') : '';

function PlugView({ id }: { id: string }) {
  const { build, derived, selection, select, edit } = useBuild();
  const { net } = derived;
  const plug = build.tree.nodes[id]!.plug!;
  const name = placeName(build, id);
  const connector = plugConnector(plug);
  const meetings = useMemo(() => meetingsOf(build, net, id), [build, net, id]);
  const passing = useMemo(() => passingWires(build, net, id), [build, net, id]);
  const left = passing.filter((wire) => plug.wires[wire.id] === undefined).length;
  const ref = selection?.type === 'end' ? endOf(selection.end) : null;
  const chosen = ref?.of === 'part' && ref.kind === 'plug' && ref.part === id ? Number(ref.port) : null;
  const held = meetings.find(({ cavity }) => cavity === chosen) ?? null;
  const byCavity = new Map(meetings.map((one) => [one.cavity, one]));
  const set = (changes: Parameters<typeof call<'setPlug'>>[1]['changes']) =>
    edit(call('setPlug', { node: id, changes }));
  const move = (wireId: string, cavity: number | null) => edit(call('setCavity', { node: id, wireId, cavity }));
  const moves = {
    onLift: () => undefined,
    onEnd: () => undefined,
    onDrop: (cavity: string, wireId: string) => move(wireId, Number(cavity)),
  };
  const donors = useMemo(() => donorConnectors(build), [build]);
  const earlier = build.revisions[build.revisions.length - 1];
  const was = earlier?.plan.tree.nodes[id]?.plug?.wires;
  const steps = was ? repinSteps(was, plug.wires) : [];
  return (
    <Stack $gap={4} as="section" id={id} aria-label={name}>
      <Heading>
        {name}, {shellWords[plug.shell]}, {plural(plug.cavities, 'cavity', 'cavities')}
      </Heading>
      <ScreenOnly>
        <FieldGrid $min={120}>
          <NumberField
            label="Cavities"
            value={plug.cavities}
            minValue={1}
            maxValue={MOST_CAVITIES}
            onChange={(cavities) => cavities !== null && set({ cavities })}
          />
          <NumberField
            label="Columns"
            value={plug.columns}
            minValue={1}
            maxValue={MOST_COLUMNS}
            onChange={(columns) => columns !== null && set({ columns })}
          />
          <SizeField
            label="Terminals take"
            units={build.units}
            value={plug.squareMm}
            minValue={0.2}
            maxValue={95}
            onChange={(squareMm) => set({ squareMm })}
          />
          <MeasureField
            label="Across, shell on"
            measure="diameter"
            units={build.units}
            value={plug.shellMillimetres}
            minValue={2}
            maxValue={300}
            onChange={(shellMillimetres) => set({ shellMillimetres })}
          />
          <MeasureField
            label="Across, shell off"
            measure="diameter"
            units={build.units}
            value={plug.bareMillimetres}
            minValue={2}
            maxValue={300}
            onChange={(bareMillimetres) => set({ bareMillimetres })}
          />
          <Segmented
            label="It sits"
            choices={[
              { id: 'in-line', name: 'line' },
              { id: 'bulkhead', name: 'wall' },
            ]}
            value={plug.shell}
            onChange={(shell) => set({ shell })}
          />
        </FieldGrid>
        <Row $gap={4} style={{ marginTop: 8 }}>
          <Checkbox isSelected={plug.sealed} onChange={(sealed) => set({ sealed })}>
            Sealed
          </Checkbox>
          <Checkbox isSelected={plug.apart === true} onChange={(apart) => set({ apart })}>
            Each half is proved by itself
          </Checkbox>
          {donors.length > 0 && (
            <Select
              label="It was"
              choices={[
                { id: NEW, name: 'a new plug' },
                ...donors.map((connector) => ({ id: connector, name: connector, note: 'of the donor loom' })),
              ]}
              value={plug.was ?? NEW}
              onChange={(was) => edit(call('setFactoryPlug', { node: id, was: was === NEW ? null : was }))}
            />
          )}
          <TerminalButton plug="loom" id={id} name={name} notes={plug.terminal} />
          {left > 0 && (
            <Button weight="pencil" onPress={() => edit(call('allotPlug', { node: id, anew: false }))}>
              Give {plural(left, 'wire')} a cavity
            </Button>
          )}
          <Button weight="quiet" onPress={() => edit(call('allotPlug', { node: id, anew: true }))}>
            Allot it anew
          </Button>
        </Row>
      </ScreenOnly>
      <Faces>
        {halves.map((half) => (
          <Stack key={half} $gap={1}>
            <Small>
              {halfWords[half]}, looked at from its wires
              {half === 'far' ? ': left and right are changed' : ''}
            </Small>
            <FaceScroll>
              <div style={{ minWidth: plug.columns * CELL }}>
                <ConnectorFace
                  connector={connector}
                  cavities={plugCavities(build, derived, id, half)}
                  name={`${name}, ${halfWords[half]}`}
                  side={half === 'near' ? 'wire' : 'mating'}
                  selected={new Set(chosen === null ? [] : [String(chosen)])}
                  able={null}
                  onPress={(cavity) => select({ type: 'end', end: plugEnd(id, Number(cavity)) })}
                  moves={moves}
                />
              </div>
            </FaceScroll>
          </Stack>
        ))}
      </Faces>
      <ScreenOnly>
        <Row $gap={4}>
          {held ? (
            <>
              <span>
                Cavity {held.cavity}: {labelOf(net, otherEnd(held.near, plugEnd(id, held.cavity)))} to{' '}
                {labelOf(net, otherEnd(held.far, plugEnd(id, held.cavity)))}
              </span>
              <Select
                label="Move it to"
                choices={Array.from({ length: plug.cavities }, (_, i) => ({
                  id: String(i + 1),
                  name: String(i + 1),
                  note: byCavity.has(i + 1) ? 'changes places' : 'free',
                }))}
                value={String(held.cavity)}
                onChange={(cavity) => move(held.whole, Number(cavity))}
              />
              <Button weight="quiet" onPress={() => move(held.whole, null)}>
                Lead it past
              </Button>
            </>
          ) : (
            <Soft>Press a cavity, or drag a wire to another one: two that want one change places.</Soft>
          )}
        </Row>
      </ScreenOnly>
      {steps.length > 0 && (
        <Stack $gap={1}>
          <Heading>Re-pinning since revision {earlier!.letter}</Heading>
          <ol>
            {steps.map(({ whole, from, to }, i) => (
              <li key={`${whole} ${i}`}>
                {from === null ? 'New' : `Pull ${from}`}
                {to === null ? ', hold it aside or take it out' : `, push it into ${to}`}
              </li>
            ))}
          </ol>
        </Stack>
      )}
      <Factory id={id} />
      <Cavities id={id} meetings={meetings} />
    </Stack>
  );
}

/** A plug the car or the engine had: what comes out of it, and what moves from one cavity to another. */
function Factory({ id }: { id: string }) {
  const { build, derived } = useBuild();
  const plug = build.tree.nodes[id]!.plug!;
  const steps = useMemo(() => repinFactory(build, derived.net, id), [build, derived.net, id]);
  if (plug.was === undefined || steps.length === 0) return null;
  return (
    <Stack $gap={1}>
      <Heading>From the old {plug.was}</Heading>
      <ol>
        {steps.map(({ wire, from, to }) => (
          <li key={from}>
            {to === null ? `Take ${from} out` : `Move ${from} to ${to}`}: {wire.colour} {wire.function}
          </li>
        ))}
      </ol>
    </Stack>
  );
}

/** The plug's own table, for the bench: what meets in each cavity. */
function Cavities({ id, meetings }: { id: string; meetings: readonly Meeting[] }) {
  const { build, derived } = useBuild();
  const { net } = derived;
  const old = useMemo(() => oldUses(build, id), [build, id]);
  const half = (wire: Wire, cavity: number, which: string) => {
    const note = pinnedAt(wire.id, plugEnd(id, cavity));
    return (
      <>
        <td data-label={which}>{labelOf(net, otherEnd(wire, plugEnd(id, cavity)))}</td>
        <td>
          <WireMark colour={wire.colour} size={readSize(wire.squareMm, build)} />
        </td>
        <td data-roomy className="figure" data-label="length">
          {readLength(wire.lengthMetres, build)}
        </td>
        <td data-label="clicked, pulled">
          <Clicked
            note={note}
            done={build.pinning.done[note] !== undefined}
            name={`${placeName(build, id)} ${cavity}, ${which},`}
          />
        </td>
      </>
    );
  };
  return (
    <TableScroll aria-label={`Cavities of ${placeName(build, id)}`}>
      <Table data-dense="true" data-stacked="true">
        <thead>
          <tr>
            <th scope="col" className="figure">
              cavity
            </th>
            {old.size > 0 && <th scope="col">it was</th>}
            <th scope="col">ECU’s half, from</th>
            <th scope="col">wire</th>
            <th data-roomy scope="col" className="figure">
              length
            </th>
            <th scope="col">in</th>
            <th scope="col">other half, to</th>
            <th scope="col">wire</th>
            <th data-roomy scope="col" className="figure">
              length
            </th>
            <th scope="col">in</th>
          </tr>
        </thead>
        <tbody>
          {meetings.map(({ cavity, near, far }) => (
            <tr key={cavity}>
              <th scope="row" className="figure">
                {cavity}
              </th>
              {old.size > 0 && (
                <td data-label="it was">
                  <Small>{oldWords(old.get(cavity))}</Small>
                </td>
              )}
              {half(near, cavity, 'ECU’s half')}
              {half(far, cavity, 'other half')}
            </tr>
          ))}
        </tbody>
      </Table>
    </TableScroll>
  );
}

/** Plugs of the loom: both halves, their cavities, what to re-pin. */
export function Plugs() {
  const { build, derived } = useBuild();
  const { nodes } = build.tree;
  const plugs = Object.keys(nodes).filter((id) => nodes[id]!.plug);
  const parted = plugs.reduce((sum, id) => sum + meetingsOf(build, derived.net, id).length, 0);
  return (
    <SheetFrame
      summary={
        <>
          {plural(plugs.length, 'plug')} in the loom.
          <br />
          <Soft>{plural(parted, 'wire')} parted in them.</Soft>
        </>
      }
    >
      <Stack $gap={5}>
        {plugs.length === 0 && (
          <p>
            No plug in the loom itself.{' '}
            <Soft>On the plan press a piece and put one in it: every wire that passes is parted.</Soft>
          </p>
        )}
        {plugs.map((id) => (
          <PlugView key={id} id={id} />
        ))}
        <DevicePlugs />
      </Stack>
    </SheetFrame>
  );
}

/** A cavity is as wide as a finger can press; a face that is wider than the glass is moved along. */
const CELL = 29;
const FaceScroll = styled.div`
  overflow-x: auto;
`;
const Faces = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: ${space[4]};
  ${at.tablet} {
    grid-template-columns: 1fr;
  }
`;
