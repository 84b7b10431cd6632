import { styled } from 'styled-components';
import { nothingFound, type HandAnswer, type HandFindings } from '~/core/trigger/hand';
import { plural } from '~/core/units/format';
import { Button } from '../../../ui/button';
import { Segmented } from '../../../ui/choice';
import { NumberField } from '../../../ui/number-field';
import { Table } from '../../../ui/table';
import { Callout, FieldGrid, Heading, Row, Small, Stack } from '../../../ui/text';
import { space } from '../../../ui/theme';

/** What was counted and measured without a recorder, and what follows from it. */
export function ByHand({
  found,
  answer,
  onChange,
}: {
  found: HandFindings;
  answer: HandAnswer;
  onChange: (found: HandFindings) => void;
}) {
  const set = (part: Partial<HandFindings>) => onChange({ ...found, ...part });
  const count = (key: 'teeth' | 'gap' | 'gaps', label: string, unit: string, most: number) => (
    <NumberField
      label={label}
      unit={unit}
      value={found[key]}
      minValue={0}
      maxValue={most}
      onChange={(value) => set({ [key]: value === null ? null : Math.round(value) })}
    />
  );
  const figure = (key: 'crankHertz' | 'camHertz' | 'rpm', label: string, unit: string, most: number) => (
    <NumberField
      label={label}
      unit={unit}
      value={found[key]}
      minValue={0}
      maxValue={most}
      onChange={(value) => set({ [key]: value })}
    />
  );
  const two = [found.crankHertz, found.camHertz, found.rpm].filter((one) => one !== null).length >= 2;
  const empty = Object.values(found).every((one) => one === null);
  return (
    <Stack $gap={3}>
      <Stack $gap={2}>
        <Row $gap={3} style={{ justifyContent: 'space-between' }}>
          <Heading style={{ border: 'none' }}>What did you count?</Heading>
          <Button weight="quiet" isDisabled={empty} onPress={() => onChange(nothingFound)}>
            Clear
          </Button>
        </Row>
        <FieldGrid $min={104}>
          {count('teeth', 'Teeth there', 'a turn', 400)}
          {count('gap', 'Missing in a gap', 'teeth', 20)}
          {count('gaps', 'Gaps', 'a turn', 12)}
          {figure('rpm', 'Speed', 'rpm', 20000)}
          {figure('crankHertz', 'Crank signal', 'Hz', 100000)}
          {figure('camHertz', 'Cam signal', 'Hz', 100000)}
        </FieldGrid>
        <Segmented
          label="Wires of the crank sensor"
          choices={[
            { id: 'none', name: 'not seen' },
            { id: '2', name: 'two' },
            { id: '3', name: 'three' },
          ]}
          value={found.wires === null ? 'none' : found.wires === 2 ? '2' : '3'}
          onChange={(id) => set({ wires: id === 'none' ? null : id === '2' ? 2 : 3 })}
        />
        {answer.sensor && <Small>{answer.sensor}</Small>}
      </Stack>
      {answer.next && (
        <Callout $tone="pencil">
          <strong>Look at this next</strong>
          <span>{answer.next}</span>
        </Callout>
      )}
      {two && (
        <Stack $gap={2}>
          <Heading>
            {answer.ratio === null ? 'What the readings stand for' : `Crank to cam, ${answer.ratio.toFixed(2)} to 1`}
          </Heading>
          {answer.guesses.length === 0 ? (
            <p>No count of teeth with up to twelve cam pulses gives these readings: read them at the same speed.</p>
          ) : (
            <Table aria-label="What the readings may be">
              <thead>
                <tr>
                  <th scope="col">crank</th>
                  <th scope="col">cam</th>
                  <th scope="col" className="figure">
                    off by
                  </th>
                  <th scope="col" className="figure">
                    at
                  </th>
                </tr>
              </thead>
              <tbody>
                {answer.guesses.map((guess) => (
                  <tr key={`${guess.crankPerTurn} ${guess.camPerCycle}`}>
                    <td>{guess.crankPerTurn === null ? 'not read' : `${guess.crankPerTurn} a turn`}</td>
                    <td>{guess.camPerCycle === null ? 'not read' : `${plural(guess.camPerCycle, 'pulse')} a cycle`}</td>
                    <td className="figure">
                      {guess.ratio !== null && `${guess.ratio.toFixed(2)} `}
                      <Off>{(guess.off * 100).toFixed(1)} %</Off>
                    </td>
                    <td className="figure">{Math.round(guess.rpm)} rpm</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          )}
        </Stack>
      )}
    </Stack>
  );
}

const Off = styled.span`
  opacity: 0.75;
  padding-left: ${space[1]};
`;
