import { styled } from 'styled-components';
import type { Blocks } from '~/core/ecu/pinout/read';
import { plural } from '~/core/units/format';
import { Button } from '../../ui/button';
import { Table, TableScroll } from '../../ui/table';
import { Callout, Row } from '../../ui/text';
import { color, shape, space } from '../../ui/theme';

/** Columns of a page that were copied one below the other, side by side: one press lays them together, line by line. */
export function JoinBlocks({ blocks, onJoin }: { blocks: Blocks; onJoin: (text: string) => void }) {
  const { places, columns, joined } = blocks;
  const most = Math.max(places.length, ...columns.map((column) => column.length));
  const counts = [
    plural(places.length, 'cavity', 'cavities'),
    ...columns.map((column) => plural(column.length, 'line of words', 'lines of words')),
  ];
  return (
    <Callout $tone={joined === null ? 'stop' : 'fix'}>
      <strong>Cavities in one block, what they do in another</strong>
      <span>
        {joined === null
          ? `${counts.join(' against ')}: a line belongs to neither, or is missing. Set it right in the text above; here they stand as they would be joined.`
          : `${counts.join(', ')}. Does each line belong to the cavity beside it? Look at the first and the last.`}
      </span>
      <Side aria-label="The blocks side by side">
        <Table>
          <tbody>
            {Array.from({ length: most }, (_, i) => (
              <tr key={i}>
                <th scope="row">{places[i] ?? <Missing>no cavity</Missing>}</th>
                {columns.map((column, at) => (
                  <td key={at}>{column[i] ?? <Missing>no words</Missing>}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </Side>
      <Row>
        <Button weight="act" isDisabled={joined === null} onPress={() => joined !== null && onJoin(joined)}>
          Join them line by line
        </Button>
      </Row>
    </Callout>
  );
}

const Side = styled(TableScroll)`
  max-height: 15rem;
  overflow-y: auto;
  background: ${color.sheet};
  border: ${shape.hair} solid ${color.rule};
  padding: 0 ${space[3]};
  th {
    width: 6rem;
  }
`;
const Missing = styled.span`
  color: ${color.stop};
`;
