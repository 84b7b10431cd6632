import { styled } from 'styled-components';
import { causeWords, stateWords } from '~/core/trigger/decoder';
import { wiresConcerned } from '~/core/trigger/concerned';
import type { Suspicion } from '~/core/trigger/diagnose';
import type { Figure } from '~/core/trigger/settings';
import type { BenchView } from '../../../workers/trigger.worker';
import { Table } from '../../../ui/table';
import { Heading, Row, Small, Soft, Stack } from '../../../ui/text';
import { useBuild } from '../../../build/context';
import { Button } from '../../../ui/button';
import { color, space } from '../../../ui/theme';

const percent = (share: number) => `${Math.round(share * 100)} %`;

/** The wheels in question, the best first, each with why it stands where it does. */
export function WheelRanking({ view }: { view: BenchView }) {
  const { candidates, best, verdict, teeth, camFit } = view.reading.match;
  const first = teeth.find((tooth) => tooth >= 0);
  const odds = new Map(verdict.odds.map((one) => [one.wheel.id, one.odds]));
  const shown = candidates.filter(({ wheel }, at) => at < 4 || odds.has(wheel.id)).slice(0, 5);
  return (
    <Stack $gap={2}>
      <Heading>Which wheel is it?</Heading>
      <Said $kind={verdict.kind}>
        <strong>
          {verdict.kind === 'this'
            ? `✓ ${best.wheel.name}`
            : verdict.kind === 'one-of'
              ? `? One of ${Math.max(2, verdict.odds.length + (verdict.noneOdds >= NAMED ? 1 : 0))}`
              : '✗ None that I know'}
        </strong>
        <Small>{verdict.reason}</Small>
        {verdict.repeats && verdict.repeats !== verdict.reason && <Small>{verdict.repeats}</Small>}
      </Said>
      <Ranking aria-label="Wheels by their odds">
        {shown.map(({ wheel, reason }, at) => {
          const own = odds.get(wheel.id) ?? 0;
          return (
            <li key={wheel.id} data-best={at === 0 && verdict.kind !== 'none'}>
              <span>{wheel.name}</span>
              <Bar aria-hidden>
                <i style={{ width: `${Math.round(own * 100)}%` }} />
              </Bar>
              <Small>
                <b>{oddsWords(own)}</b> · {reason}
              </Small>
            </li>
          );
        })}
        {verdict.noneOdds >= NAMED && (
          <li data-best={verdict.kind === 'none'}>
            <span>A wheel that is not in the library</span>
            <Bar aria-hidden>
              <i style={{ width: `${Math.round(verdict.noneOdds * 100)}%` }} />
            </Bar>
            <Small>
              <b>{oddsWords(verdict.noneOdds)}</b> · draw it on the board, or learn it from this capture
            </Small>
          </li>
        )}
      </Ranking>
      <Small>
        {best.direction === null
          ? 'It looks the same both ways round.'
          : best.direction === 'forward'
            ? 'It turns as it is drawn.'
            : 'It turns the other way than it is drawn.'}{' '}
        {first !== undefined && `The capture starts at tooth ${first + 1}.`}{' '}
        {camFit?.edges[0] &&
          `First cam edge ${Math.round(camFit.edges[0].degrees)}° after tooth 1${camFit.tellsPhase ? '; it tells the two turns apart.' : '; it does not tell the two turns apart.'}`}
      </Small>
    </Stack>
  );
}

/** Odds from which a wheel that is not in the library is named beside the others. */
const NAMED = 0.02;

/** Odds in words that do not promise more than they hold. */
const oddsWords = (odds: number): string =>
  odds > 0.99 ? 'over 99 %' : odds < 0.01 ? 'under 1 %' : `${Math.round(odds * 100)} %`;

function FigureRow({ figure }: { figure: Figure }) {
  return (
    <tr>
      <td>
        {figure.name}
        <br />
        <Small>{figure.why}</Small>
      </td>
      <td className="figure">
        <strong style={{ color: figure.right ? color.proved : color.stop }}>
          {figure.right ? '✓' : '✗'} {figure.value} {figure.unit}
        </strong>
        <br />
        <Small>
          {figure.should} {figure.limit} {figure.unit}
        </Small>
      </td>
    </tr>
  );
}

/** What this ECU makes of the capture, how to set it, and the room there is. */
export function EcuSettings({ view, model }: { view: BenchView; model: string }) {
  const { ecu } = view.reading;
  if (!ecu) return null;
  return (
    <Stack $gap={2}>
      <Heading>{model}</Heading>
      <p>
        <strong style={{ color: ecu.fit.decodes ? color.proved : color.stop }}>
          {ecu.fit.decodes
            ? ecu.fit.knows === 'cycle'
              ? '✓ decodes it, full cycle'
              : '✓ decodes it, angle only'
            : '✗ does not decode it'}
        </strong>
        {!ecu.fit.decodes && <> {ecu.fit.reason}</>}
      </p>
      <Table aria-label="Settings of the trigger input">
        <tbody>
          {ecu.settings.map(({ name, value, why }) => (
            <tr key={name}>
              <td>
                {name}
                <br />
                <Small>{why}</Small>
              </td>
              <td className="figure" style={{ whiteSpace: 'normal' }}>
                {value}
              </td>
            </tr>
          ))}
          {ecu.figures.map((figure) => (
            <FigureRow key={figure.name} figure={figure} />
          ))}
        </tbody>
      </Table>
    </Stack>
  );
}

/** The build's own wires behind a suspicion; a press shows the run at the foot of the sheet. */
function Wires({ concerns }: { concerns: Suspicion['concerns'] }) {
  const { build, derived, select } = useBuild();
  const wires = wiresConcerned(build, derived.net, concerns);
  if (wires.length === 0) return null;
  return (
    <Row $gap={2}>
      <Small>Wires:</Small>
      {wires.slice(0, 6).map(({ wire, label }) => (
        <Button key={wire.id} weight="quiet" onPress={() => select({ type: 'wire', wireId: wire.id })}>
          {label}
        </Button>
      ))}
      {wires.length > 6 && <Small>and {wires.length - 6} more</Small>}
    </Row>
  );
}

/** What is wrong with the signals themselves, whatever an ECU makes of them. */
export function SignalStory({ view }: { view: BenchView }) {
  const { signalFaults, match } = view.reading;
  return (
    <Stack $gap={2}>
      <Heading>The signals themselves</Heading>
      {signalFaults.length === 0 && match.crank.channel.oneEdge ? (
        <p>The file holds times of teeth only: there is no signal in it to judge. Look at the line with a scope.</p>
      ) : signalFaults.length === 0 ? (
        <p>
          <strong style={{ color: color.proved }}>✓ Nothing wrong with them.</strong>
        </p>
      ) : (
        <ol>
          {signalFaults.map((fault) => (
            <Story key={`${fault.id} ${fault.title}`}>
              <b>{fault.title}</b>
              <Small>{fault.evidence}.</Small>
              <span>{fault.remedy}</span>
              <Wires concerns={fault.concerns} />
            </Story>
          ))}
        </ol>
      )}
    </Stack>
  );
}

/** States of the decoder stand-in, its losses, and what they are most likely from. */
export function LossStory({ view }: { view: BenchView }) {
  const { decoding, suspicions } = view.reading;
  const { losses, toAngle, toFull, states } = decoding;
  const reached = states.reduce(
    (best, { state }) => (state === 'full' || (state === 'angle' && best !== 'full') ? state : best),
    states[0]?.state ?? 'silent',
  );
  return (
    <Stack $gap={2}>
      <Heading>How an ECU would take it</Heading>
      <p>
        Reached: <strong>{stateWords[reached]}</strong>. {toAngle !== null && `Angle after ${toAngle.toFixed(2)} s`}
        {toFull !== null && `, cycle after ${toFull.toFixed(2)} s`}
        {toAngle !== null && '.'}
      </p>
      {losses.length === 0 ? (
        <p>
          <strong style={{ color: color.proved }}>✓ No sync loss.</strong>
        </p>
      ) : (
        <>
          <ol>
            {suspicions
              .slice(0, 3)
              .filter(({ likelihood }, i) => i === 0 || likelihood >= 0.01)
              .map((one) => (
                <Story key={one.story}>
                  <b>
                    {percent(one.likelihood)} {one.title}
                  </b>
                  <Small>{one.evidence}.</Small>
                  <span>{one.remedy}</span>
                  <Wires concerns={one.concerns} />
                </Story>
              ))}
          </ol>
          <Table aria-label="Sync losses">
            <thead>
              <tr>
                <th scope="col" className="figure">
                  at
                </th>
                <th scope="col" className="figure">
                  angle
                </th>
                <th scope="col" className="figure">
                  rpm
                </th>
                <th scope="col">cause</th>
              </tr>
            </thead>
            <tbody>
              {losses.slice(0, 12).map((loss) => (
                <tr key={loss.seconds}>
                  <td className="figure">{loss.seconds.toFixed(3)} s</td>
                  <td className="figure">{Math.round(loss.angle)}°</td>
                  <td className="figure">{Math.round(loss.rpm)}</td>
                  <td>{causeWords[loss.cause]}</td>
                </tr>
              ))}
            </tbody>
          </Table>
          {losses.length > 12 && <Soft>and {losses.length - 12} more</Soft>}
        </>
      )}
    </Stack>
  );
}

const Ranking = styled.ol`
  display: grid;
  gap: ${space[3]};
  list-style: none;
  padding: 0;
  li {
    display: grid;
    gap: 3px;
  }
  li[data-best='true'] > span {
    font-weight: 700;
  }
  li[data-best='true'] i {
    background: ${color.proved};
  }
`;
const Said = styled.div<{ $kind: 'this' | 'one-of' | 'none' }>`
  display: grid;
  gap: ${space[1]};
  padding: ${space[2]} ${space[3]};
  border-left: 3px solid
    ${({ $kind }) => ($kind === 'this' ? color.proved : $kind === 'one-of' ? color.fix : color.stop)};
`;
const Bar = styled.span`
  display: block;
  height: 5px;
  border-radius: 3px;
  background: ${color.raised};
  i {
    display: block;
    height: 100%;
    border-radius: 3px;
    background: ${color.soft};
  }
`;
const Story = styled.li`
  display: grid;
  gap: 2px;
  padding: ${space[1]} 0 ${space[1]} ${space[3]};
  border-left: 3px solid ${color.stop};
  list-style: none;
  margin-bottom: ${space[2]};
`;
