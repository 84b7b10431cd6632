import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { patterns, tints, type Mark } from '~/core/build/schema';
import { signalClassNames, type SignalClass } from '~/core/wire/colours';
import { useBuild } from '../../build/context';
import { defaultMark, markGround, markOf } from '../../parts/marks';
import { Button } from '../../ui/button';
import { Dialog } from '../../ui/dialog';
import { Select } from '../../ui/select';
import { Small, VisuallyHidden } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { color } from '../../ui/theme';

const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ123456789'].map((letter) => ({ id: letter, name: letter }));
const named = <T extends string>(list: readonly T[]) => list.map((id) => ({ id, name: id }));

/** A person's own letters, tints and patterns for classes of signal: they go with the build, and print. */
export function MarksDialog({ onClose }: { onClose: () => void }) {
  const { build, edit } = useBuild();
  const set = (signal: SignalClass, change: Partial<Mark>) =>
    edit(call('setMark', { signal, mark: { ...markOf(build, signal), ...change } }));
  return (
    <Dialog title="Letters and colours" isOpen onClose={onClose} wide>
      <Small>State and class are never told by colour alone: the letter always stands beside it.</Small>
      <TableScroll aria-label="Marks by class">
        <Table>
          <thead>
            <tr>
              <th scope="col">Class</th>
              <th scope="col">Letter</th>
              <th scope="col">Tint</th>
              <th scope="col">Pattern</th>
              <th scope="col">Looks</th>
              <th scope="col">
                <VisuallyHidden>Mark</VisuallyHidden>
              </th>
            </tr>
          </thead>
          <tbody>
            {signalClassNames.map((signal) => {
              const mark = markOf(build, signal);
              return (
                <tr key={signal}>
                  <th scope="row">{signal}</th>
                  <td>
                    <Select
                      label={`Letter of ${signal}`}
                      hideLabel
                      choices={letters}
                      value={mark.letter}
                      onChange={(letter) => set(signal, { letter })}
                    />
                  </td>
                  <td>
                    <Select
                      label={`Tint of ${signal}`}
                      hideLabel
                      choices={named(tints)}
                      value={mark.tint}
                      onChange={(tint) => set(signal, { tint: tint as Mark['tint'] })}
                    />
                  </td>
                  <td>
                    <Select
                      label={`Pattern of ${signal}`}
                      hideLabel
                      choices={named(patterns)}
                      value={mark.pattern}
                      onChange={(pattern) => set(signal, { pattern: pattern as Mark['pattern'] })}
                    />
                  </td>
                  <td>
                    <Swatch style={{ background: markGround(mark) }}>{mark.letter}</Swatch>
                  </td>
                  <td>
                    {JSON.stringify(mark) !== JSON.stringify(defaultMark(signal)) && (
                      <Button weight="quiet" onPress={() => edit(call('setMark', { signal, mark: null }))}>
                        As it was
                      </Button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Table>
      </TableScroll>
    </Dialog>
  );
}

const Swatch = styled.span`
  display: inline-grid;
  place-items: center;
  width: 44px;
  height: 34px;
  border: 1.2px solid ${color.ink};
  border-radius: 8px;
`;
