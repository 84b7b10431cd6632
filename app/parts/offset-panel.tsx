import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { cycleDegrees } from '~/core/engine/engine';
import { TOOTH_TO_TDC, newOffset } from '~/core/trigger/offset';
import { offsetCycle, offsetWords, turnSentence, type OffsetWay } from '~/core/trigger/offset-words';
import { formatDegrees } from '~/core/units/format';
import { offsetConfirmed } from '~/core/prove/evidence';
import { useBuild } from '../build/context';
import { Button } from '../ui/button';
import { LightFields, useLightReading } from './light-fields';
import { Select } from '../ui/select';
import { Term } from '../ui/term';
import { Heading, Small, Stack } from '../ui/text';
import { Table } from '../ui/table';
import { color, space } from '../ui/theme';

const WAYS: readonly OffsetWay[] = (['tooth-to-tdc', 'tdc-to-tooth'] as const).flatMap((counts) =>
  (['up', 'signed'] as const).map((range) => ({ counts, range })),
);

/** The offset in the ECU's own words and in every other way of counting, and the light that moves it. Used on sheets 3 and 7. */
export function OffsetPanel() {
  const { build, edit } = useBuild();
  const { trigger } = build;
  const cycle = offsetCycle(build);
  const way = trigger.offsetWay;
  const count = (part: Partial<OffsetWay>) => edit(call('setTrigger', { offsetWay: { ...way, ...part } }));
  const turn = turnSentence(build);
  const others = WAYS.filter((one) => one.counts !== way.counts || (one.range === 'up') !== (way.range === 'up')).map(
    (one) => ({
      words: `${one.counts === 'tooth-to-tdc' ? 'after the gap' : 'from TDC on'}, ${one.range === 'up' ? `0 to ${cycle}` : `–${cycle / 2} to ${cycle / 2}`}`,
      figure: offsetWords({ ecu: build.ecu, engine: build.engine, trigger: { ...trigger, offsetWay: one } }),
    }),
  );
  const { reading, change, whole, take } = useLightReading();
  const { seen } = reading;
  const answer =
    seen === null
      ? null
      : newOffset({
          oldDegrees: trigger.offsetDegrees,
          commandedDegrees: trigger.lockDegrees,
          seenDegrees: seen,
          cycleDegrees: cycleDegrees(build.engine) as 360 | 720,
          sign: TOOTH_TO_TDC,
        });
  const agrees = answer !== null && Math.abs(answer.errorDegrees) <= 1;
  const last = trigger.readings[trigger.readings.length - 1];
  return (
    <Stack $gap={2}>
      <Heading>
        <Term meaning="The angle between the ECU's reference tooth, the first after the gap, and TDC of cylinder 1's compression. ECUs count it differently; all ways of counting are shown.">
          Offset
        </Term>
        , tooth 1 to TDC 1
      </Heading>
      <Ways>
        <Select
          label="This ECU counts"
          choices={[
            { id: 'tooth-to-tdc', name: 'after the gap, on to TDC' },
            { id: 'tdc-to-tooth', name: 'from TDC on to the tooth' },
          ]}
          value={way.counts}
          onChange={(id) => count({ counts: id as OffsetWay['counts'] })}
        />
        <Select
          label="in a range of"
          choices={[
            { id: 'up', name: `0 to ${cycle}` },
            { id: 'signed', name: `–${cycle / 2} to ${cycle / 2}` },
            ...(cycle === 360 || way.range === 'wide' ? [{ id: 'wide', name: '–360 to 360' }] : []),
          ]}
          value={way.range}
          onChange={(id) => count({ range: id as OffsetWay['range'] })}
        />
      </Ways>
      <Table>
        <tbody>
          <tr data-selected>
            <th scope="row">in this ECU&rsquo;s words</th>
            <td className="figure">
              <strong>{offsetWords(build)}</strong>
            </td>
          </tr>
          {others.map(({ words, figure }) => (
            <tr key={words}>
              <td>{words}</td>
              <td className="figure">{figure}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {turn !== '' && <Small>{turn}</Small>}
      <LightFields reading={reading} onChange={change} />
      {answer && (
        <p role="status">
          {agrees ? (
            <strong style={{ color: color.proved }}>✓ The light agrees within 1°.</strong>
          ) : answer.phaseWrong ? (
            <strong style={{ color: color.stop }}>
              A full turn out: the phase of the cycle is wrong, not the offset. Look at the cam signal.
            </strong>
          ) : (
            <>
              {formatDegrees(Math.abs(answer.errorDegrees))} {answer.errorDegrees < 0 ? 'too early' : 'too late'}: new
              offset <strong>{offsetWords(build, answer.newDegrees)}</strong>
            </>
          )}
        </p>
      )}
      <Button
        weight={answer && !answer.phaseWrong ? 'pencil' : 'plain'}
        isDisabled={!whole || (answer?.phaseWrong ?? false)}
        onPress={() => take(false)}
      >
        {answer && !agrees
          ? `Use ${offsetWords(build, answer.newDegrees)} and read the light again`
          : 'Record this reading'}
      </Button>
      <Small>
        {offsetConfirmed(build) ? 'Confirmed by light.' : 'Not confirmed by light yet.'}{' '}
        {last && `Last read: ${last.seenDegrees}° at ${last.rpm} rpm, locked at ${last.commandedDegrees}°.`} Fuel off,
        plugs out, hands and leads clear of belts.
      </Small>
    </Stack>
  );
}

const Ways = styled.div`
  display: grid;
  gap: ${space[2]};
`;
