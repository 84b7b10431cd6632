import { call } from '~/core/edits';
import { sparesOf } from '~/core/allot/spares';
import { kindWord } from '~/core/ecu/ask';
import { isFixedPin, type AbilityKind } from '~/core/ecu/ecu';
import { useBuild } from '../../build/context';
import { Dialog } from '../../ui/dialog';
import { NumberField } from '../../ui/number-field';
import { Small } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';

/** Spares a person wants kept, by kind. A kind counts pins that can be it as an alternate too. */
export function ReserveDialog({ onClose }: { onClose: () => void }) {
  const { build, edit } = useBuild();
  const free = new Set(sparesOf(build).flatMap(({ pins }) => pins));
  const pins = build.ecu.pins.filter((pin) => !isFixedPin(pin));
  const kinds = [...new Set(pins.flatMap((pin) => pin.abilities.map(({ kind }) => kind)))];
  const rows: { kind: AbilityKind | 'any'; name: string; left: number }[] = [
    { kind: 'any', name: 'any pin at all', left: free.size },
    ...kinds.map((kind) => ({
      kind,
      name: kindWord(kind),
      left: pins.filter((pin) => free.has(pin.id) && pin.abilities.some((ability) => ability.kind === kind)).length,
    })),
  ];
  return (
    <Dialog title="Spares to keep" isOpen onClose={onClose}>
      <Small>A finding tells when the plan leaves fewer. One pin counts for every kind it can be.</Small>
      <TableScroll aria-label="Spares by kind">
        <Table>
          <thead>
            <tr>
              <th scope="col">Kind</th>
              <th scope="col" className="figure">
                free now
              </th>
              <th scope="col">keep</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ kind, name, left }) => (
              <tr key={kind}>
                <th scope="row">{name}</th>
                <td className="figure">{left}</td>
                <td>
                  <NumberField
                    label={`Keep of ${name}`}
                    hideLabel
                    value={build.reserve[kind] ?? 0}
                    minValue={0}
                    maxValue={40}
                    onChange={(count) => count !== null && edit(call('setReserve', { kind, count }))}
                    style={{ width: 90 }}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </TableScroll>
    </Dialog>
  );
}
