import { useMemo, useState } from 'react';
import { call } from '~/core/edits';
import type { Device } from '~/core/build/schema';
import type { DeviceKind, Terminal } from '~/core/devices/kind';
import { compareVariants, otherDifferences, variantsOf } from '~/core/devices/variants';
import { listWords } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { destinationWords } from '../../parts/destination-words';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Select } from '../../ui/select';
import { Table, TableScroll } from '../../ui/table';
import { Small, Stack } from '../../ui/text';

/** What is done at the plug for one pair of terminals. */
const step = (from: Terminal | null, to: Terminal | null, same: boolean): string =>
  same
    ? 'stays where it is'
    : from && to
      ? `move ${from.id} to ${to.id}`
      : to
        ? `new wire in ${to.id}`
        : `take ${from!.id} out and insulate it`;

/** Two variants of one part side by side, terminal by terminal, and the way from the plug of one to that of the other. */
export function Variants({
  device,
  kind,
  kinds,
  onClose,
}: {
  device: Device;
  kind: DeviceKind;
  kinds: readonly DeviceKind[];
  onClose: () => void;
}) {
  const { edit } = useBuild();
  const others = useMemo(() => variantsOf(kind, kinds), [kind, kinds]);
  const [chosen, setChosen] = useState(others[0]?.id ?? null);
  const other = others.find(({ id }) => id === chosen);
  const difference = other && compareVariants(kind, other);
  const notes = other ? otherDifferences(kind, other) : [];
  return (
    <Dialog title={`Variants: ${device.label}`} isOpen onClose={onClose} wide>
      {!other || !difference ? (
        <Small>No other part of this sort is in the catalog or in your library.</Small>
      ) : (
        <Stack $gap={3}>
          <Select
            label="Against"
            choices={others.map(({ id, name }) => ({ id, name }))}
            value={chosen}
            onChange={setChosen}
          />
          <TableScroll aria-label="Terminals of both">
            <Table data-wrapped="true">
              <thead>
                <tr>
                  <th scope="col">{kind.name}</th>
                  <th scope="col">{other.name}</th>
                </tr>
              </thead>
              <tbody>
                {difference.rows.map(({ from, to, same }, at) => (
                  <tr key={at}>
                    <td>{from ? `${from.id} ${from.name}: ${destinationWords(from.destination)}` : '–'}</td>
                    <td>
                      {to ? `${to.id} ${to.name}: ${destinationWords(to.destination)}` : '–'}
                      <Small as="div">{step(from, to, same)}</Small>
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </TableScroll>
          {difference.exchangeable ? (
            <Small>Terminal for terminal the same: one plugs in for the other.</Small>
          ) : (
            difference.moves.length > 0 && (
              <Small>
                Re-pin {listWords(difference.moves.map(({ from, to }) => `${from} to ${to}`))} at the plug; or an
                adapter: plug of the {kind.name.toLowerCase()} on one end,{' '}
                {listWords(difference.moves.map(({ from, to }) => `${from}–${to}`))}, and that of the other on the far
                end.
              </Small>
            )
          )}
          {difference.otherwise.map(({ terminal, was }) => (
            <Small key={terminal.id}>
              {terminal.id} {terminal.name}: {destinationWords(terminal.destination)}, not {destinationWords(was)}.
            </Small>
          ))}
          {notes.map((note) => (
            <Small key={note}>{note}</Small>
          ))}
        </Stack>
      )}
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        {other && (
          <Button
            weight="act"
            onPress={() => {
              edit(
                call('changeKind', { deviceId: device.id, kind: other }),
                call('editDevice', { deviceId: device.id, terminalsConfirmed: true }),
              );
              onClose();
            }}
          >
            This is the part in hand
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
