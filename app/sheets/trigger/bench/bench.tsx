import { wrap } from 'comlink';
import { useMemo, useState } from 'react';
import { DropZone, FileTrigger } from 'react-aria-components';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { cycleDegrees, cycleEvents } from '~/core/engine/engine';
import { sampleRate } from '~/core/trigger/capture/capture';
import type { CaptureFormat } from '~/core/trigger/capture/read';
import type { Wheel } from '~/core/wheels/wheel';
import { plural } from '~/core/units/format';
import type { DemoCapture } from '~/demo/captures';
import { useBuild } from '../../../build/context';
import { download } from '../../../storage/files';
import { Button } from '../../../ui/button';
import { Checkbox } from '../../../ui/choice';
import { Select } from '../../../ui/select';
import { Callout, Heading, Row, ScreenOnly, Small, Soft, Stack } from '../../../ui/text';
import { at, color, shape, space } from '../../../ui/theme';
import { answerOf } from '../../../workers/answer';
import type { BenchRequest, BenchView, TriggerApi } from '../../../workers/trigger.worker';
import { SheetFrame } from '../../../parts/sheet-frame';
import { EcuSettings, LossStory, SignalStory, WheelRanking } from './findings';
import { Learn } from './learn';
import { Scope } from './scope';
import type { Overlay } from './scope-draw';
import { Simulate } from './simulate';
import { useBench } from './use-bench';

const types: Record<CaptureFormat, string> = { csv: 'text/csv', vcd: 'text/plain', wav: 'audio/wav' };
/** Likelihood from which a story is told in the headline. */
const TOLD = 0.5;

/** A capture on the bench: which wheel, which way round, what an ECU makes of it, and why sync is lost. */
export function Bench({ wheels, demos }: { wheels: readonly Wheel[]; demos: readonly DemoCapture[] }) {
  const { build, edit } = useBuild();
  const request = (more: Partial<BenchRequest> = {}): BenchRequest => ({
    wheels,
    build: {
      ecu: build.ecu,
      engine: build.engine,
      trigger: build.trigger,
      devices: build.devices,
      kinds: build.kinds,
    },
    ...more,
  });
  const { view, busy, progress, problem, notKept, run, cancel } = useBench(build.id, request());
  const [simulating, setSimulating] = useState(false);
  const [otherTurn, setOtherTurn] = useState(false);
  const open = (files: readonly File[]) => {
    const [file] = files;
    if (file) run((api, onProgress) => api.read(file, request(), onProgress));
  };
  const overlays = useMemo(() => (view ? overlaysOf(view, build, otherTurn) : []), [view, build, otherTurn]);
  const write = async (format: CaptureFormat) => {
    if (!view) return;
    const worker = new Worker(new URL('../../../workers/trigger.worker.ts', import.meta.url), { type: 'module' });
    try {
      const rate = Math.round(sampleRate(view.capture));
      const bytes = await answerOf(worker, wrap<TriggerApi>(worker).write(view.capture, format, rate));
      download(
        `${view.name.replace(/[^\w-]+/g, '-').replace(/\.\w+$/, '')}.${format}`,
        types[format],
        new Uint8Array(bytes),
      );
    } finally {
      worker.terminate();
    }
  };
  const match = view?.reading.match;
  const told = view?.reading.suspicions.find(({ likelihood }) => likelihood >= TOLD);
  return (
    <SheetFrame
      summary={
        <span role="status">
          {busy ? (
            `Reading, ${Math.round(progress * 100)} %.`
          ) : match ? (
            <>
              {seenWords(match)}.
              <br />
              {match.polarity === 'reversed' ? (
                <strong style={{ color: color.stop }}>The leads of the crank sensor are swapped.</strong>
              ) : view.reading.decoding.losses.length > 0 ? (
                <strong style={{ color: color.pencil }}>
                  {plural(view.reading.decoding.losses.length, 'sync loss', 'sync losses')}
                  {told ? `, ${told.when}` : ''}.
                </strong>
              ) : (
                <Soft>{leadsWords(match)}, no sync loss.</Soft>
              )}
            </>
          ) : (
            <>
              What do crank and cam really send?
              <br />
              <Soft>Open a capture of both while cranking.</Soft>
            </>
          )}
        </span>
      }
      actions={
        busy ? (
          <Button onPress={cancel}>Cancel</Button>
        ) : (
          <>
            <FileTrigger onSelect={(files) => open(files ? [...files] : [])}>
              <Button weight="act">Open a capture</Button>
            </FileTrigger>
            <Button onPress={() => setSimulating(true)}>Simulate</Button>
          </>
        )
      }
    >
      <Drop
        aria-label="Drop a capture here"
        getDropOperation={() => 'copy'}
        onDrop={(event) => {
          const file = event.items.find((item) => item.kind === 'file');
          if (file) void file.getFile().then((got) => open([got]));
        }}
      >
        {problem && (
          <Callout $tone="stop" role="alert">
            {problem} {view && 'The capture before it stays.'}
          </Callout>
        )}
        {notKept && <Callout $tone="fix">{notKept}</Callout>}
        {!view || !match ? (
          <Stack $gap={4}>
            <Empty>
              <Heading>Put a capture on the bench</Heading>
              <p>
                A text of samples from a scope or logger (CSV, any separator), a value change dump (VCD) or a sound file
                (WAV). Two turns of the cam are enough. Drop the file here.
              </p>
              <Small>
                To record one: fuel and injectors off, coils unplugged, plugs out, gearbox out of gear, hands clear of
                belts and fans. Probe crank signal and cam signal against sensor ground, and crank for five seconds.
              </Small>
            </Empty>
            <Stack $gap={2}>
              <Heading>Or look at one that is made up</Heading>
              <Demos>
                {demos.map((demo) => (
                  <li key={demo.id}>
                    <Button
                      weight="quiet"
                      isDisabled={busy}
                      onPress={() =>
                        run((api, onProgress) => api.simulate(demo.name, demo.spec, demo.seed, request(), onProgress))
                      }
                    >
                      {demo.name}
                    </Button>
                    <Small>{demo.about}</Small>
                  </li>
                ))}
              </Demos>
            </Stack>
          </Stack>
        ) : (
          <Columns>
            <Stack $gap={3}>
              <Row $gap={3}>
                <strong>{view.name}</strong>
                <Small>
                  {Math.round(match.rpm.mean)} rpm, {Math.round(match.rpm.min)} to {Math.round(match.rpm.max)} ·{' '}
                  {view.capture.count.toLocaleString('en')} samples
                </Small>
              </Row>
              {view.reading.disagreements.map(({ what, sentence, wheel }) => (
                <Callout $tone="stop" key={what}>
                  <Row $gap={3}>
                    <span>{sentence}</span>
                    {wheel && (
                      <Button
                        weight="pencil"
                        onPress={() => edit(call('setWheel', { shaft: what === 'cam wheel' ? 'cam' : 'crank', wheel }))}
                      >
                        Take the wheel of the capture
                      </Button>
                    )}
                  </Row>
                </Callout>
              ))}
              <Scope view={view} losses={view.reading.decoding.losses} overlays={overlays} />
              {match.camFit?.tellsPhase && cycleDegrees(build.engine) === 720 && (
                <ScreenOnly>
                  <Row $gap={3}>
                    <Checkbox isSelected={otherTurn} onChange={setOtherTurn}>
                      plan on the other turn
                    </Checkbox>
                    <Small>A capture cannot say which turn is cylinder 1's compression; the timing light does.</Small>
                  </Row>
                </ScreenOnly>
              )}
              <SignalStory view={view} />
              <LossStory view={view} />
              <Channels
                view={view}
                onChoose={(crank, cam) =>
                  run((api, onProgress) => api.again(view.name, view.capture, request({ crank, cam }), onProgress))
                }
              />
              <details>
                <summary>What was understood of the file</summary>
                <ul>
                  {[...view.capture.notes, ...match.notes].map((note) => (
                    <li key={note}>{note}</li>
                  ))}
                </ul>
              </details>
              <ScreenOnly>
                <Row $gap={3}>
                  <Small>Save as</Small>
                  {(['csv', 'vcd', 'wav'] as const).map((format) => (
                    <Button key={format} weight="quiet" onPress={() => void write(format)}>
                      {format.toUpperCase()}
                    </Button>
                  ))}
                  <Small>· Look at:</Small>
                  {demos.map((demo) => (
                    <Button
                      key={demo.id}
                      weight="quiet"
                      isDisabled={busy}
                      onPress={() =>
                        run((api, onProgress) => api.simulate(demo.name, demo.spec, demo.seed, request(), onProgress))
                      }
                    >
                      {demo.name}
                    </Button>
                  ))}
                </Row>
              </ScreenOnly>
            </Stack>
            <Stack $gap={4}>
              <WheelRanking view={view} />
              <ScreenOnly>
                <Learn view={view} />
              </ScreenOnly>
              <EcuSettings view={view} model={build.ecu.model} />
            </Stack>
          </Columns>
        )}
      </Drop>
      {simulating && (
        <Simulate
          wheels={wheels}
          trigger={build.trigger}
          engine={build.engine}
          onClose={() => setSimulating(false)}
          onRun={(name, spec, seed) => run((api, onProgress) => api.simulate(name, spec, seed, request(), onProgress))}
        />
      )}
    </SheetFrame>
  );
}

/** What can be said of the wheel, in a few words. */
const seenWords = ({ best, verdict }: NonNullable<BenchView['reading']['match']>): string =>
  verdict.kind === 'this'
    ? best.wheel.name
    : verdict.kind === 'one-of'
      ? `Perhaps ${best.wheel.name.toLowerCase()}`
      : 'No wheel of the library';

/** Which way round the sensor's leads are, where the signal tells it. */
const leadsWords = ({ polarity, leadsTold }: NonNullable<BenchView['reading']['match']>): string =>
  polarity === 'square' ? 'Square' : leadsTold ? 'Leads right' : 'Leads not told';

/** Which channel is which, and how good each is; changed by hand when names mislead. */
function Channels({ view, onChoose }: { view: BenchView; onChoose: (crank: string, cam: string | null) => void }) {
  const { crank, cam } = view.reading.match;
  const choices = view.capture.channels.map(({ name }, at) => ({ id: String(at + 1), name }));
  const words = ({ channel, shape, quality, showsVolts }: typeof crank) => {
    if (channel.oneEdge) return 'one edge of each tooth: no volts, no widths';
    const volts = (places: number) => quality.volts.map((value) => value.toFixed(places)).join(' to ');
    return shape.kind === 'vr'
      ? `VR, ${showsVolts ? `${volts(2)} V lobes` : 'volts not in the file'}, ${quality.margin.toFixed(1)} × the noise floor`
      : `square, ${showsVolts ? `${volts(1)} V` : 'levels only'}, high ${Math.round((quality.duty ?? 0) * 100)} % of the time`;
  };
  return (
    <Pair>
      <div>
        <Select
          label="Crank channel"
          choices={choices}
          value={String(crank.index + 1)}
          onChange={(id) => onChoose(id, cam && String(cam.index + 1) !== id ? String(cam.index + 1) : null)}
        />
        <Small>{words(crank)}</Small>
      </div>
      <div>
        <Select
          label="Cam channel"
          choices={[{ id: 'none', name: 'none' }, ...choices]}
          value={cam ? String(cam.index + 1) : 'none'}
          onChange={(id) => onChoose(String(crank.index + 1), id === 'none' ? null : id)}
        />
        <Small>{cam ? words(cam) : 'no cam signal'}</Small>
      </div>
    </Pair>
  );
}

/** Spark, injection and TDC along the capture, from the build's own offset and events. */
function overlaysOf(view: BenchView, build: ReturnType<typeof useBuild>['build'], otherTurn: boolean): Overlay[] {
  const { engine, trigger } = build;
  const cycle = cycleDegrees(engine);
  const { degrees, camFit } = view.reading.match;
  const known = [...degrees].filter((one) => !Number.isNaN(one));
  if (known.length < 2) return [];
  const [from, to] = [known[0], known[known.length - 1]];
  // Without the cam the turn is a guess: only TDC of both turns is shown.
  const rows = cycleEvents(engine, {
    rpm: view.reading.match.rpm.mean,
    dwellMilliseconds: trigger.dwellMilliseconds,
    injectionMilliseconds: trigger.injectionMilliseconds,
    advanceDegrees: trigger.lockDegrees,
  });
  const all: Overlay[] = [];
  for (let base = Math.floor(from / cycle) - 2; base * cycle < to; base += 1)
    for (const row of rows) {
      const zero = base * cycle + trigger.offsetDegrees + (otherTurn ? 360 : 0);
      all.push({ kind: 'tdc', from: zero + row.tdc, to: zero + row.tdc });
      if (!camFit?.tellsPhase) continue;
      for (const spark of row.sparks) all.push({ kind: 'spark', from: zero + spark.from, to: zero + spark.to });
      if (row.injection) all.push({ kind: 'injection', from: zero + row.injection.from, to: zero + row.injection.to });
    }
  return all.filter((one) => one.to >= from && one.from <= to);
}

const Drop = styled(DropZone)`
  min-height: 60vh;
  outline: none;
  &[data-drop-target] {
    box-shadow: inset 0 0 0 3px ${color.selection};
  }
`;
const Empty = styled.section`
  display: grid;
  gap: ${space[3]};
  padding: ${space[5]};
  border: ${shape.line} dashed ${color.soft};
  border-radius: ${shape.radius};
  max-width: 720px;
`;
const Demos = styled.ul`
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: ${space[4]};
  li {
    display: grid;
    gap: 2px;
    justify-items: start;
  }
`;
const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 260px;
  gap: ${space[5]};
  align-items: start;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: ${space[4]};
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
