import { useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { groupBy } from '~/core/data/group';
import { faceConnector } from '~/core/devices/face';
import { call } from '~/core/edits';
import { deviceEnd, endOf } from '~/core/ends/ends';
import { deviceEnds, type FarEnd } from '~/core/loom/far-ends';
import type { Netlist } from '~/core/netlist/netlist';
import { plural } from '~/core/units/format';
import { readSize } from '~/core/wire/size';
import { useBuild } from '../../build/context';
import { ConnectorFace } from '../../parts/connector-face';
import { FaceDialog } from '../../parts/face-dialog';
import { deviceCavities } from '../../parts/plug-cavities';
import { TerminalButton } from '../../parts/terminal-notes';
import { WireMark } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { Checkbox } from '../../ui/choice';
import { Chunks } from '../../ui/chunks';
import { Heading, Row, ScreenOnly, Small, Soft, Stack, VisuallyHidden } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { at, color, shape, space } from '../../ui/theme';

/** A tick for a terminal that was clicked into its cavity and pulled. */
export function Clicked({ note, done, name }: { note: string; done: boolean; name: string }) {
  const { build, edit } = useBuild();
  return (
    <Checkbox
      isSelected={done}
      onChange={(on) =>
        edit(
          on
            ? call('crimp', { wireIds: [note], at: new Date().toISOString(), by: build.prove.by })
            : call('uncrimp', { wireIds: [note] }),
        )
      }
    >
      <VisuallyHidden>{name} clicked in and pulled</VisuallyHidden>
    </Checkbox>
  );
}

/** One plug: its face where it was drawn, and its terminals to tick. */
function DevicePlug({ known: { device, kind }, ends }: { known: Netlist['devices'][number]; ends: readonly FarEnd[] }) {
  const { build, derived, selection, select } = useBuild();
  const [isDrawing, setDrawing] = useState(false);
  const chosen = selection?.type === 'end' ? endOf(selection.end) : null;
  const held = chosen?.of === 'device' && chosen.device === device.id ? chosen.terminal : null;
  const width = kind.face ? Math.max(...kind.face.rows) * CELL : 0;
  return (
    <Plug aria-label={`Plug of ${device.label}`}>
      <Stack $gap={1}>
        <strong>{device.label}</strong>
        <Small>{kind.name}</Small>
        {kind.face && (
          <div style={{ width, maxWidth: '100%' }}>
            <ConnectorFace
              connector={faceConnector(kind.face)}
              cavities={deviceCavities(build, derived, device.id)}
              side="wire"
              selected={new Set(held === null ? [] : [held])}
              able={null}
              onPress={(terminal) =>
                kind.face!.cavities[terminal] !== undefined &&
                select({ type: 'end', end: deviceEnd(device.id, terminal) })
              }
              name={`Plug of ${device.label}`}
            />
          </div>
        )}
        <ScreenOnly>
          <Row $gap={2}>
            <Button weight="quiet" onPress={() => setDrawing(true)}>
              {kind.face ? 'Change its face' : 'Draw its face'}
            </Button>
            {kind.face && <TerminalButton plug="kind" id={kind.id} name={kind.name} notes={kind.face.terminal} />}
          </Row>
        </ScreenOnly>
        {isDrawing && <FaceDialog kind={kind} onClose={() => setDrawing(false)} />}
      </Stack>
      <TableScroll aria-label={`Terminals of ${device.label}`}>
        <Table data-dense="true" data-stacked="true">
          <thead>
            <tr>
              <th scope="col">terminal</th>
              <th scope="col">wire</th>
              <th scope="col">comes from</th>
              <th scope="col">in</th>
            </tr>
          </thead>
          <tbody>
            {ends.map(({ note, end, wire, terminal, from, done }) => (
              <tr key={note} data-selected={selection?.type === 'end' && selection.end === end}>
                <th scope="row">
                  <Button weight="quiet" onPress={() => select({ type: 'end', end })}>
                    {terminal} {kind.terminals.find((one) => one.id === terminal)?.name}
                  </Button>
                </th>
                <td>
                  <WireMark colour={wire.colour} size={readSize(wire.squareMm, build)} />
                </td>
                <td data-label="comes from">{from}</td>
                <td data-label="clicked, pulled">
                  <Clicked note={note} done={done} name={`${device.label} ${terminal}`} />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </TableScroll>
    </Plug>
  );
}

/** Terminals at the far ends, plug by plug: what is clicked in there. */
export function DevicePlugs() {
  const { build, derived } = useBuild();
  const { net } = derived;
  const ends = useMemo(() => deviceEnds(build, net), [build, net]);
  const plugs = useMemo(
    () =>
      [...groupBy(ends, ({ end }) => deviceOf(end))].flatMap(([id, own]) => {
        const known = net.deviceOf.get(id);
        return known ? [{ id, known, own }] : [];
      }),
    [ends, net],
  );
  const done = ends.filter((one) => one.done).length;
  const drawn = plugs.filter(({ known }) => known.kind.face).length;
  if (ends.length === 0) return null;
  return (
    <Stack $gap={3}>
      <Heading>Plugs of the devices</Heading>
      <Small>
        {done} of {plural(ends.length, 'terminal')} clicked in and pulled.{' '}
        <Soft>
          {drawn === plugs.length
            ? 'Every plug is drawn as it was seen in the hand.'
            : `${plural(plugs.length - drawn, 'plug is', 'plugs are')} not drawn yet: look at the part in hand for which cavity is which. Variants have them the other way round.`}
        </Soft>
      </Small>
      <Chunks items={plugs} rowPixels={150} as="div">
        {({ id, known, own }) => <DevicePlug key={id} known={known} ends={own} />}
      </Chunks>
    </Stack>
  );
}
const deviceOf = (end: FarEnd['end']): string => {
  const ref = endOf(end);
  return ref.of === 'device' ? ref.device : '';
};

/** Wide enough for a terminal's name. */
const CELL = 62;
const Plug = styled.section`
  display: grid;
  grid-template-columns: minmax(180px, 300px) minmax(0, 1fr);
  gap: ${space[3]};
  align-items: start;
  padding-block: ${space[3]};
  border-top: ${shape.hair} solid ${color.rule};
  break-inside: avoid;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
