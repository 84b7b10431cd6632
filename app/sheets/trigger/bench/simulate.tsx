import { useState } from 'react';
import type { Build } from '~/core/build/schema';
import { cycleDegrees } from '~/core/engine/engine';
import { CRANKING_RPM } from '~/core/trigger/speed';
import {
  faultPresets,
  faultsOf,
  RISES_TO,
  SIMULATED_RATE,
  speedAs,
  type FaultPreset,
  type Pace,
} from '~/core/trigger/presets';
import type { Sensor, SynthSpec } from '~/core/trigger/synth';
import { primary } from '~/core/trigger/trials';
import type { Wheel } from '~/core/wheels/wheel';
import { Button } from '../../../ui/button';
import { Segmented } from '../../../ui/choice';
import { Dialog, DialogActions } from '../../../ui/dialog';
import { NumberField } from '../../../ui/number-field';
import { Select } from '../../../ui/select';
import { FieldGrid, Small } from '../../../ui/text';

const sensors = [
  { id: 'vr', name: 'VR' },
  { id: 'hall', name: 'Hall' },
  { id: 'optical', name: 'optical' },
] as const;
const speeds = [
  { id: 'cranking', name: 'cranking' },
  { id: 'constant', name: 'steady' },
  { id: 'rising', name: 'rising' },
] as const;

/** Figures of a simulation, as they stand in the dialog. */
const usual = {
  rpm: CRANKING_RPM,
  ripple: 28,
  seconds: 3,
  start: 0.2,
  stop: 0,
  gap: 100,
  runOut: 0,
  pullUp: 5,
  noise: 10,
  jitter: 0,
  seed: 1,
};
type Figures = typeof usual;

/** Signals of any wheel at any speed, with something wrong if wanted: to see what right, or wrong, looks like. */
export function Simulate({
  wheels,
  trigger,
  engine,
  onClose,
  onRun,
}: {
  wheels: readonly Wheel[];
  trigger: Build['trigger'];
  engine: Build['engine'];
  onClose: () => void;
  onRun: (name: string, spec: Omit<SynthSpec, 'random'>, seed: number) => void;
}) {
  const [crank, setCrank] = useState(trigger.crankWheel?.id ?? '60-2');
  const [cam, setCam] = useState(trigger.camWheel?.id ?? 'none');
  const [sensor, setSensor] = useState<Sensor['type']>('vr');
  const [camSensor, setCamSensor] = useState<Sensor['type']>('hall');
  const [pace, setPace] = useState<Pace['kind']>('cranking');
  const [figures, setFigures] = useState<Figures>({ ...usual, ripple: Math.round(trigger.ripple * 100) });
  const [fault, setFault] = useState<FaultPreset>('none');
  const cycle = cycleDegrees(engine) as 360 | 720;
  const all = [
    ...wheels,
    ...[trigger.crankWheel, trigger.camWheel].filter(
      (one): one is Wheel => one !== null && !wheels.some(({ id }) => id === one.id),
    ),
  ];
  const choices = (crankSide: boolean) =>
    all.filter((wheel) => primary(wheel) === crankSide).map(({ id, name }) => ({ id, name }));
  const wheel = all.find(({ id }) => id === crank)!;
  const square = sensor !== 'vr';
  const speed = speedAs(
    {
      kind: pace,
      rpm: figures.rpm,
      ripple: figures.ripple / 100,
      startSeconds: figures.start,
      stopSeconds: figures.stop,
    },
    engine,
  );
  const run = () => {
    const wrong = faultsOf(fault, engine.cylinders, cycle);
    onRun(
      `Simulated: ${wheel.name}`,
      {
        crank: wheel,
        cam: all.find(({ id }) => id === cam) ?? null,
        camDegrees: 130,
        speed,
        seconds: figures.seconds,
        sampleRate: SIMULATED_RATE,
        crankSensor: square
          ? { type: sensor, pullUpVolts: figures.pullUp }
          : { type: sensor, gapShare: figures.gap / 100, runOut: figures.runOut / 100 },
        camSensor: { type: camSensor },
        faults: {
          noiseVolts: figures.noise / 1000,
          ...(figures.jitter > 0 ? { jitter: figures.jitter / 100 } : {}),
          ...wrong,
        },
      },
      figures.seed,
    );
    onClose();
  };
  const field = (name: keyof Figures, label: string, unit: string | undefined, least: number, most: number) => (
    <NumberField
      label={label}
      unit={unit}
      value={figures[name]}
      minValue={least}
      maxValue={most}
      onChange={(value) => value !== null && setFigures({ ...figures, [name]: value })}
    />
  );
  return (
    <Dialog title="Simulate a capture" isOpen wide onClose={onClose}>
      <FieldGrid $min={260}>
        <Select label="On the crank" choices={choices(true)} value={crank} onChange={setCrank} />
        <Select
          label="On the cam"
          choices={[
            { id: 'none', name: wheel.tracks ? `Its second track: ${wheel.tracks[0].name}` : 'No cam signal' },
            ...choices(false),
          ]}
          value={cam}
          onChange={setCam}
        />
        <Select
          label="What is wrong"
          choices={[...faultPresets]}
          value={fault}
          onChange={(id) => setFault(id as FaultPreset)}
        />
        <Segmented label="Crank sensor" choices={[...sensors]} value={sensor} onChange={setSensor} />
        <Segmented label="Cam sensor" choices={[...sensors]} value={camSensor} onChange={setCamSensor} />
        <Segmented label="The engine is" choices={[...speeds]} value={pace} onChange={setPace} />
      </FieldGrid>
      <FieldGrid $min={120}>
        {field('rpm', pace === 'rising' ? `Speed, rising ${RISES_TO}-fold` : 'Speed', 'rpm', 30, 2000)}
        {pace === 'cranking' && field('ripple', 'Swing in a turn', '%', 0, 80)}
        {field('seconds', 'It lasts', 's', 0.5, 10)}
        {pace === 'cranking' && field('start', 'Spins up in', 's', 0, 3)}
        {pace === 'cranking' && field('stop', 'Comes to rest in', 's', 0, 3)}
        {square ? field('pullUp', 'Pull-up to', 'V', 1, 15) : field('gap', 'Air gap, of the usual', '%', 20, 500)}
        {!square && field('runOut', 'Wheel out of true', '%', 0, 90)}
        {field('noise', 'Noise', 'mV', 0, 2000)}
        {field('jitter', 'Play of the teeth', '%', 0, 20)}
        {field('seed', 'Seed', undefined, 1, 9999)}
      </FieldGrid>
      <Small>
        Twice the air gap leaves a quarter of a VR signal. What is wrong may set a noise of its own. The same seed gives
        the same signals again.
      </Small>
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button weight="act" onPress={run}>
          Simulate
        </Button>
      </DialogActions>
    </Dialog>
  );
}
