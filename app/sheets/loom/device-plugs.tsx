import { useMemo } from 'react';
import { call } from '~/core/edits';
import { deviceEnds } from '~/core/loom/far-ends';
import { plural } from '~/core/units/format';
import { readSize } from '~/core/wire/size';
import { useBuild } from '../../build/context';
import { WireMark } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { Checkbox } from '../../ui/choice';
import { Chunks } from '../../ui/chunks';
import { Heading, Small, Stack, VisuallyHidden } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';

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

/** Terminals at the far ends, plug by plug: what is clicked in there. */
export function DevicePlugs() {
  const { build, derived, selection, select } = useBuild();
  const { net } = derived;
  const ends = useMemo(() => deviceEnds(build, net), [build, net]);
  const done = ends.filter((one) => one.done).length;
  if (ends.length === 0) return null;
  return (
    <Stack $gap={2}>
      <Heading>Plugs of the devices</Heading>
      <Small>
        {done} of {plural(ends.length, 'terminal')} clicked in and pulled. Look at the part in hand for which cavity is
        which: variants have them the other way round.
      </Small>
      <TableScroll aria-label="Plugs of the devices">
        <Table data-dense="true" data-stacked="true">
          <thead>
            <tr>
              <th scope="col">plug</th>
              <th scope="col">terminal</th>
              <th scope="col">wire</th>
              <th scope="col">comes from</th>
              <th scope="col">clicked, pulled</th>
            </tr>
          </thead>
          <Chunks items={ends} rowPixels={34} columns={5} as="tbody">
            {({ note, end, wire, plug, terminal, from, done: isDone }) => (
              <tr key={note} data-selected={selection?.type === 'end' && selection.end === end}>
                <th scope="row">
                  <Button weight="quiet" onPress={() => select({ type: 'end', end })}>
                    {plug}
                  </Button>
                </th>
                <td data-label="terminal">{terminal}</td>
                <td>
                  <WireMark colour={wire.colour} size={readSize(wire.squareMm, build)} />
                </td>
                <td data-label="comes from">{from}</td>
                <td data-label="clicked, pulled">
                  <Clicked note={note} done={isDone} name={`${plug} ${terminal}`} />
                </td>
              </tr>
            )}
          </Chunks>
        </Table>
      </TableScroll>
    </Stack>
  );
}
