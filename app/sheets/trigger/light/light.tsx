import { Suspense, lazy, useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/build/edits';
import { cycleDegrees } from '~/core/engine/engine';
import { triggerSensor } from '~/core/trigger/fit';
import { readLights, shownAt, type LightLog, type Verdict } from '~/core/trigger/light';
import { offsetConventions } from '~/core/trigger/offset';
import { formatDegrees, plural } from '~/core/units/format';
import { wrapSigned } from '~/core/units/convert';
import { useBuild } from '../../../build/context';
import { localTime } from '../../../parts/dates';
import { Button } from '../../../ui/button';
import { Checkbox, Segmented } from '../../../ui/choice';
import { NumberField } from '../../../ui/number-field';
import { FigureField } from '../../../ui/text-field';
import { Callout, FieldGrid, Heading, Row, ScreenOnly, Small, Soft, Stack, type Tone } from '../../../ui/text';
import { Table, TableScroll } from '../../../ui/table';
import { at, color, space } from '../../../ui/theme';
import { TriggerFrame } from '../trigger-frame';
import { WheelDrawing } from '../wheel-drawing';

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
  const log = readLights(trigger.readings, {
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
    <TriggerFrame
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
            {log
              ? `${plural(trigger.readings.length, 'reading')} in the log.`
              : 'Read the light at two speeds or more.'}
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
            {log ? <Verdicts log={log} /> : <HowTo />}
            <AtTdc log={log} />
          </Pair>
          {log && <Chart log={log} maxRpm={engine.maxRpm} cycle={cycle} />}
          {log && <Log log={log} />}
        </Main>
        <WaysPlace>
          <Ways cycle={cycle} log={log} />
        </WaysPlace>
      </Columns>
    </TriggerFrame>
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
  const { build, edit } = useBuild();
  const { trigger } = build;
  const [seen, setSeen] = useState<number | null>(null);
  const [rpm, setRpm] = useState<number | null>(250);
  const note = () => {
    if (seen === null || rpm === null) return;
    edit(call('readLight', { at: new Date().toISOString(), rpm, seenDegrees: seen, keepOffset: true }));
    setSeen(null);
  };
  return (
    <Stack $gap={2}>
      <Heading>Read the light</Heading>
      <FieldGrid $min={110}>
        <NumberField
          label="Offset in use"
          unit="°"
          value={trigger.offsetDegrees}
          minValue={0}
          maxValue={cycleDegrees(build.engine) - 0.1}
          onChange={(value) => value !== null && edit(call('setTrigger', { offsetDegrees: value }))}
        />
        <Segmented
          label="Locked at"
          choices={[
            { id: '0', name: '0°' },
            { id: '10', name: '10°' },
          ]}
          value={String(trigger.lockDegrees) as '0' | '10'}
          onChange={(id) => edit(call('setTrigger', { lockDegrees: id === '0' ? 0 : 10 }))}
        />
        <FigureField key={trigger.readings.length} label="Light shows" unit="° BTDC" onChange={setSeen} />
        <NumberField label="at a speed of" unit="rpm" value={rpm} minValue={0} maxValue={20000} onChange={setRpm} />
      </FieldGrid>
      <Row>
        <Button weight="pencil" isDisabled={seen === null || rpm === null} onPress={note}>
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

function Chart({ log, maxRpm, cycle }: { log: LightLog; maxRpm: number; cycle: number }) {
  const { build } = useBuild();
  const inUse = build.trigger.offsetDegrees;
  // Early is positive: what the light shows more than the lock, with the offset now in use.
  const early = (asks: number) => wrapSigned(asks - inUse, cycle);
  const used = log.points.filter(({ rest }) => rest !== null);
  const slope = log.delay ? (-log.delay.microseconds * 6) / 1e6 : 0;
  const zero = early(log.offset) - (log.delay?.sure ? slope * Math.min(...used.map(({ rpm }) => rpm)) : 0);
  const ends = [0, Math.max(1000, ...used.map(({ rpm }) => rpm)) * 1.1];
  const line = ends.map((rpm) => ({ rpm, error: zero + (log.delay?.sure ? slope * rpm : 0) }));
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

function Log({ log }: { log: LightLog }) {
  const { build, edit } = useBuild();
  const { readings } = build.trigger;
  return (
    <Stack $gap={2}>
      <Row $gap={3} style={{ justifyContent: 'space-between' }}>
        <strong>
          {plural(readings.length, 'reading')}
          {log.scatter !== null && `, scatter ${log.scatter.toFixed(1)}°`}
        </strong>
        <ScreenOnly>
          <Button weight="quiet" onPress={() => edit(call('clearLights', {}))}>
            Start a new log
          </Button>
        </ScreenOnly>
      </Row>
      <TableScroll aria-label="Log of the light">
        <Table>
          <thead>
            <tr>
              <th scope="col">read</th>
              <th scope="col" className="figure">
                rpm
              </th>
              <th scope="col" className="figure">
                locked
              </th>
              <th scope="col" className="figure">
                shows
              </th>
              <th scope="col" className="figure">
                offset then
              </th>
              <th scope="col" className="figure">
                asks for
              </th>
              <th scope="col" className="figure">
                off the line
              </th>
              <th scope="col" aria-label="Strike" />
            </tr>
          </thead>
          <tbody>
            {log.points.map((point, index) => (
              <tr key={`${readings[index]?.at} ${index}`}>
                <td style={{ whiteSpace: 'nowrap' }}>{readings[index] ? localTime(readings[index].at) : ''}</td>
                <td className="figure">{Math.round(point.rpm)}</td>
                <td className="figure">{point.commandedDegrees}°</td>
                <td className="figure">{formatDegrees(point.seenDegrees)}</td>
                <td className="figure">{formatDegrees(point.oldOffset)}</td>
                <td className="figure">
                  <strong>
                    {formatDegrees(offsetConventions(point.asks, cycleDegrees(build.engine) as 360 | 720).beforeTdc)}
                  </strong>
                </td>
                <td className="figure">{point.rest === null ? 'apart' : formatDegrees(point.rest)}</td>
                <td>
                  <ScreenOnly>
                    <Button
                      weight="quiet"
                      aria-label={`Strike reading ${index + 1}`}
                      onPress={() => edit(call('dropLight', { index }))}
                    >
                      strike
                    </Button>
                  </ScreenOnly>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </TableScroll>
    </Stack>
  );
}

/** The same angle as ECUs count it, and what either school's light must show. */
function Ways({ cycle, log }: { cycle: 360 | 720; log: LightLog | null }) {
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

/** The wheel as it stands at TDC, turned to how the engine stands before one's eyes. */
function AtTdc({ log }: { log: LightLog | null }) {
  const { build } = useBuild();
  const { trigger } = build;
  const [clock, setClock] = useState(3);
  const [mirrored, setMirrored] = useState(false);
  if (!trigger.crankWheel) return <Small>Choose the crank wheel first; then it is drawn here at TDC.</Small>;
  const last = log?.points[log.points.length - 1];
  return (
    <Stack $gap={2}>
      <Heading>Cylinder 1 at TDC</Heading>
      <WheelDrawing
        wheel={trigger.crankWheel}
        cam={null}
        offsetDegrees={trigger.offsetDegrees}
        sensor={triggerSensor(build, 'crank')?.sensor ?? null}
        sensorAt={(clock % 12) * 30}
        mirrored={mirrored}
        marks
        seen={last && Math.abs(last.seenDegrees) < 90 ? last.seenDegrees : null}
        large
      />
      <ScreenOnly>
        <FieldGrid $min={120}>
          <NumberField
            label="Sensor sits at"
            unit="o'clock"
            value={clock}
            minValue={1}
            maxValue={12}
            onChange={(value) => value !== null && setClock(value)}
          />
        </FieldGrid>
        <Checkbox isSelected={mirrored} onChange={setMirrored}>
          seen from the other end
        </Checkbox>
      </ScreenOnly>
      <Small>
        Turning {mirrored ? 'counterclockwise' : 'clockwise'}. Tooth 1, the first after the gap, passed the sensor{' '}
        {formatDegrees(trigger.offsetDegrees % 360)} before TDC
        {trigger.offsetDegrees >= 360 ? ', one turn and more ago' : ''}. Dashed on the pulley: where the light last saw
        it.
      </Small>
    </Stack>
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
    display: block;
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
  height: 230px;
  ${at.print} {
    break-inside: avoid;
  }
`;
