import { cycleDegrees } from '~/core/engine/engine';
import { TOOTH_TO_TDC, newOffset, offsetConventions } from '~/core/trigger/offset';
import { formatDegrees } from '~/core/units/format';
import { offsetConfirmed } from '~/core/prove/evidence';
import { useBuild } from '../build/context';
import { Button } from '../ui/button';
import { LightFields, useLightReading } from './light-fields';
import { Term } from '../ui/term';
import { Heading, Small, Stack } from '../ui/text';
import { Table } from '../ui/table';
import { color } from '../ui/theme';

/** The offset in every convention, and the light that moves it. Used on sheets 3 and 7. */
export function OffsetPanel() {
  const { build } = useBuild();
  const { trigger } = build;
  const cycle = cycleDegrees(build.engine) as 360 | 720;
  const all = offsetConventions(trigger.offsetDegrees, cycle);
  const { reading, change, whole, take } = useLightReading();
  const { seen } = reading;
  const answer =
    seen === null
      ? null
      : newOffset({
          oldDegrees: trigger.offsetDegrees,
          commandedDegrees: trigger.lockDegrees,
          seenDegrees: seen,
          cycleDegrees: cycle,
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
      <Table>
        <tbody>
          <tr>
            <th scope="row">after the gap, before TDC</th>
            <td className="figure">
              <strong>{formatDegrees(all.beforeTdc)}</strong>
            </td>
          </tr>
          <tr>
            <td>counted from TDC on</td>
            <td className="figure">{formatDegrees(all.afterTdc)}</td>
          </tr>
          <tr>
            <td>
              –{cycle / 2} to {cycle / 2}
            </td>
            <td className="figure">{formatDegrees(all.signed)}</td>
          </tr>
          <tr>
            <td>the same, other sign</td>
            <td className="figure">{formatDegrees(all.signedOpposite)}</td>
          </tr>
        </tbody>
      </Table>
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
              offset <strong>{formatDegrees(answer.newDegrees)}</strong>
            </>
          )}
        </p>
      )}
      <Button
        weight={answer && !answer.phaseWrong ? 'pencil' : 'plain'}
        isDisabled={!whole || (answer?.phaseWrong ?? false)}
        onPress={() => take(false)}
      >
        {answer && !agrees ? `Use ${formatDegrees(answer.newDegrees)} and read the light again` : 'Record this reading'}
      </Button>
      <Small>
        {offsetConfirmed(build) ? 'Confirmed by light.' : 'Not confirmed by light yet.'}{' '}
        {last && `Last read: ${last.seenDegrees}° at ${last.rpm} rpm, locked at ${last.commandedDegrees}°.`} Fuel off,
        plugs out, hands and leads clear of belts.
      </Small>
    </Stack>
  );
}
