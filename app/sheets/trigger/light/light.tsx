import { Suspense, lazy, useMemo } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { cycleDegrees } from '~/core/engine/engine';
import { earlyAt, readLights, type LightLog, type Verdict } from '~/core/trigger/light';
import { formatDegrees, plural } from '~/core/units/format';
import { wrapSigned } from '~/core/units/convert';
import { standingLights } from '~/core/prove/evidence';
import { useBuild } from '../../../build/context';
import { LightFields, useLightReading } from '../../../parts/light-fields';
import { Button } from '../../../ui/button';
import { Callout, Heading, Row, Small, Soft, Stack, type Tone } from '../../../ui/text';
import { at, color, space } from '../../../ui/theme';
import { SheetFrame } from '../../../parts/sheet-frame';
import { AtTdc } from './at-tdc';
import { Log } from './log';
import { Ways } from './ways';

const LightChart = lazy(() => import('./light-chart'));

const tones: Record<Verdict['tone'], Tone> = { right: 'proved', note: 'note', fix: 'fix', stop: 'stop' };
/** For the head of the sheet, where a whole sentence is too long. */
const headlines: Partial<Record<Verdict['id'], string>> = {
  phase: 'The phase is wrong, not the offset.',
  'phase-unsteady': 'The phase of the cycle is not steady.',
  'other-cylinder': "The light is a cylinder's distance out.",
  'wrong-sign': 'This ECU counts the other way.',
};
const marks: Record<Verdict['tone'], string> = { right: '✓', note: '·', fix: '!', stop: '✗' };

/** The timing light: a log at several speeds, what it says of offset, phase, sensor delay and scatter. */
export function Light() {
  const { build, edit } = useBuild();
  const { trigger, engine } = build;
  const cycle = cycleDegrees(engine) as 360 | 720;
  const standing = useMemo(() => standingLights(build), [build]);
  const older = trigger.readings.length - standing.length;
  const log = readLights(standing, {
    cycle,
    cylinders: engine.cylinders,
    maxRpm: engine.maxRpm,
    inUse: trigger.offsetDegrees,
  });
  const off = log ? wrapSigned(trigger.offsetDegrees - log.offset, cycle) : 0;
  const worst = log?.verdicts.find(({ tone }) => tone === 'stop') ?? null;
  // A wrong phase, lead or sign is put right first.
  const useful =
    !worst && Math.abs(off) > 0.3 && log?.verdicts.some(({ id }) => id === 'offset' || id === 'delay') === true;
  return (
    <SheetFrame
      summary={
        <span role="status">
          {worst ? (
            <strong style={{ color: color.stop }}>{headlines[worst.id] ?? worst.sentence}</strong>
          ) : log ? (
            `The light asks for ${formatDegrees(log.offset)}; ${formatDegrees(trigger.offsetDegrees)} is in use.`
          ) : (
            'Where does the spark really come?'
          )}
          <br />
          <Soft>
            {log ? `${plural(standing.length, 'reading')} in the log.` : 'Read the light at two speeds or more.'}
          </Soft>
        </span>
      }
      actions={
        useful && log ? (
          <Button
            weight="act"
            onPress={() => edit(call('setTrigger', { offsetDegrees: Number(log.offset.toFixed(1)) % cycle }))}
          >
            Use {formatDegrees(log.offset)}
          </Button>
        ) : undefined
      }
    >
      <Columns>
        <Entry />
        <Main>
          <Pair>
            <Stack $gap={4}>
              {log ? <Verdicts log={log} /> : <HowTo />}
              {log && <Chart log={log} maxRpm={engine.maxRpm} cycle={cycle} />}
            </Stack>
            <AtTdc log={log} />
          </Pair>
          {older > 0 && (
            <Callout $tone="pencil">
              {plural(older, 'reading was', 'readings were')} taken on another wheel, sensor pin or ECU: kept, and not
              counted.
            </Callout>
          )}
          {log && <Log log={log} readings={standing} />}
        </Main>
        <WaysPlace>
          <Ways cycle={cycle} log={log} />
        </WaysPlace>
      </Columns>
    </SheetFrame>
  );
}

function HowTo() {
  return (
    <Stack $gap={2}>
      <Heading>No reading yet</Heading>
      <p>
        Lock the timing in the ECU, hold an inductive light to the lead of cylinder 1 and crank. Note what the mark
        shows, then once more; when the engine runs, again at idle and near 3000 rpm.
      </p>
      <p>
        Readings at several speeds tell a wrong offset from a wrong phase, and a delay of the sensor from scatter; they
        find out an ECU that counts the other way.
      </p>
    </Stack>
  );
}

/** One reading as it is taken: lock, mark, speed. */
function Entry() {
  const { reading, change, whole, take } = useLightReading();
  return (
    <Stack $gap={2}>
      <Heading>Read the light</Heading>
      <LightFields reading={reading} onChange={change} />
      <Row>
        <Button weight="pencil" isDisabled={!whole} onPress={() => take(true)}>
          Note the reading
        </Button>
      </Row>
      <Small>
        Cranking: fuel and injectors off, plugs out, out of gear, hands and leads clear of belts and fan. Running:
        outside or with the exhaust led out. Noting leaves the offset as it is.
      </Small>
    </Stack>
  );
}

function Verdicts({ log }: { log: LightLog }) {
  return (
    <Stack $gap={2}>
      <Heading>What the log says</Heading>
      {log.verdicts.map((verdict) => (
        <Callout key={verdict.id} $tone={tones[verdict.tone]}>
          <strong>
            <span aria-hidden>{marks[verdict.tone]} </span>
            {verdict.sentence}
          </strong>
          <span>{verdict.next}</span>
        </Callout>
      ))}
    </Stack>
  );
}

function Chart({ log, maxRpm, cycle }: { log: LightLog; maxRpm: number; cycle: 360 | 720 }) {
  const { build } = useBuild();
  const inUse = build.trigger.offsetDegrees;
  // Early is positive: what the light shows more than the lock, with the offset now in use.
  const early = (asks: number) => wrapSigned(asks - inUse, cycle);
  const used = log.points.filter(({ rest }) => rest !== null);
  const ends = [0, Math.max(1000, ...used.map(({ rpm }) => rpm)) * 1.1];
  const line = ends.map((rpm) => ({ rpm, error: earlyAt(log, inUse, rpm, cycle) }));
  return (
    <Plot>
      <Suspense fallback={<Soft>The chart is drawn.</Soft>}>
        <LightChart
          label="Light against lock over speed"
          data={{ points: used.map(({ rpm, asks }) => ({ rpm, error: early(asks) })), line, maxRpm }}
        />
      </Suspense>
    </Plot>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template: auto 1fr / 270px minmax(0, 1fr);
  gap: ${space[4]} ${space[5]};
  align-items: start;
  ${at.tablet} {
    grid-template: auto 1fr / 250px minmax(0, 1fr);
    gap: ${space[4]};
  }
  ${at.narrow} {
    grid-template: none / minmax(0, 1fr);
  }
  ${at.print} {
    display: flex;
    flex-direction: column;
    align-items: stretch;
    gap: ${space[4]};
  }
`;
/** Beside the entry and what lies under it; on a phone between the two. */
const Main = styled(Stack).attrs({ $gap: 4 as const })`
  grid-area: 1 / 2 / span 2;
  ${at.narrow} {
    grid-area: auto;
  }
`;
const WaysPlace = styled(Stack).attrs({ $gap: 4 as const })`
  grid-column: 1;
`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 230px;
  gap: ${space[5]};
  align-items: start;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Plot = styled.div`
  height: 192px;
  ${at.print} {
    break-inside: avoid;
  }
`;
