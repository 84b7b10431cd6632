import { offsetConventions } from '~/core/trigger/offset';
import { shownAt, type LightLog } from '~/core/trigger/light';
import { wrapSigned } from '~/core/units/convert';
import { formatDegrees } from '~/core/units/format';
import { useBuild } from '../../../build/context';
import { Table } from '../../../ui/table';
import { Heading, Small, Stack } from '../../../ui/text';

/** The same angle as ECUs count it, and what either school's light must show. */
export function Ways({ cycle, log }: { cycle: 360 | 720; log: LightLog | null }) {
  const { build } = useBuild();
  const inUse = build.trigger.offsetDegrees;
  const now = offsetConventions(inUse, cycle);
  const asked = log && offsetConventions(log.offset, cycle);
  const rows: [string, number, number | undefined][] = [
    ['tooth, then TDC', now.beforeTdc, asked?.beforeTdc],
    ['TDC, then tooth', now.afterTdc, asked?.afterTdc],
    [`–${cycle / 2} to ${cycle / 2}`, now.signed, asked?.signed],
    ['the same, other sign', now.signedOpposite, asked?.signedOpposite],
  ];
  return (
    <>
      <Stack $gap={2}>
        <Heading>Ways of counting it</Heading>
        <Table aria-label="Ways of counting the offset">
          <thead>
            <tr>
              <th scope="col">from tooth 1 to TDC 1</th>
              <th scope="col" className="figure">
                in use
              </th>
              {asked && (
                <th scope="col" className="figure">
                  asked
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {rows.map(([name, used, wanted]) => (
              <tr key={name}>
                <td>{name}</td>
                <td className="figure">{formatDegrees(used)}</td>
                {wanted !== undefined && (
                  <td className="figure">
                    <strong>{formatDegrees(wanted)}</strong>
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </Table>
      </Stack>
      {log && (
        <Stack $gap={2}>
          <Heading>Either school of lock</Heading>
          <Table aria-label="What the light shows by either lock">
            <thead>
              <tr>
                <th scope="col">locked at</th>
                <th scope="col" className="figure">
                  shows now
                </th>
                <th scope="col" className="figure">
                  must show
                </th>
              </tr>
            </thead>
            <tbody>
              {[0, 10].map((lock) => (
                <tr key={lock} data-selected={lock === build.trigger.lockDegrees}>
                  <th scope="row">{lock}°</th>
                  <td className="figure">{formatDegrees(wrapSigned(shownAt(log.offset, inUse, lock), cycle))}</td>
                  <td className="figure">{lock}°</td>
                </tr>
              ))}
            </tbody>
          </Table>
          <Small>
            0° needs the TDC mark only; 10° needs a degreed pulley or a light that dials back. The offset they lead to
            is the same.
          </Small>
        </Stack>
      )}
    </>
  );
}
