import { useState } from 'react';
import type { Faults, SynthSpec } from '~/core/trigger/synth';
import type { Wheel } from '~/core/trigger/wheel';
import type { Build } from '~/core/build/schema';
import { Button } from '../../../ui/button';
import { Checkbox, Segmented } from '../../../ui/choice';
import { Dialog, DialogActions } from '../../../ui/dialog';
import { NumberField } from '../../../ui/number-field';
import { Select } from '../../../ui/select';
import { FieldGrid, Row, Small } from '../../../ui/text';

const faultChoices = [
  { id: 'none', name: 'nothing' },
  { id: 'noise', name: 'noise on the line' },
  { id: 'coils', name: 'spikes of the coils' },
  { id: 'missing', name: 'a tooth broken off' },
  { id: 'bent', name: 'a bent tooth' },
  { id: 'swapped', name: 'VR leads swapped' },
  { id: 'crossed', name: 'crank and cam crossed' },
  { id: 'low', name: 'a wide air gap' },
  { id: 'pull-up', name: 'no pull-up' },
] as const;
type FaultChoice = (typeof faultChoices)[number]['id'];

const faultsOf = (choice: FaultChoice, cylinders: number): Faults => {
  switch (choice) {
    case 'noise':
      return { noiseVolts: 0.15 };
    case 'coils':
      return {
        coilSpikes: {
          volts: 7,
          atDegrees: Array.from({ length: cylinders }, (_, i) => 10 + (i * 720) / cylinders),
          share: 0.5,
        },
      };
    case 'missing':
      return { missingTooth: 7 };
    case 'bent':
      return { bentTooth: { tooth: 7, degrees: 2 } };
    case 'swapped':
      return { swappedLeads: true };
    case 'crossed':
      return { crossed: true };
    case 'low':
      return { amplitude: 0.05, noiseVolts: 0.02 };
    case 'pull-up':
      return { droppedPullUp: true };
    default:
      return {};
  }
};

/** Signals of any wheel at any speed, with something wrong if wanted: to see what right, or wrong, looks like. */
export function Simulate({
  wheels,
  trigger,
  cylinders,
  onClose,
  onRun,
}: {
  wheels: readonly Wheel[];
  trigger: Build['trigger'];
  cylinders: number;
  onClose: () => void;
  onRun: (name: string, spec: Omit<SynthSpec, 'random'>, seed: number) => void;
}) {
  const [crank, setCrank] = useState(trigger.crankWheel?.id ?? '60-2');
  const [cam, setCam] = useState(trigger.camWheel?.id ?? 'none');
  const [sensor, setSensor] = useState<'vr' | 'hall'>('vr');
  const [rising, setRising] = useState(false);
  const [rpm, setRpm] = useState(250);
  const [ripple, setRipple] = useState(Math.round(trigger.ripple * 100));
  const [fault, setFault] = useState<FaultChoice>('none');
  const [seed, setSeed] = useState(1);
  const all = [
    ...wheels,
    ...[trigger.crankWheel, trigger.camWheel].filter(
      (one): one is Wheel => one !== null && !wheels.some(({ id }) => id === one.id),
    ),
  ];
  const choices = (cams: boolean) =>
    all
      .filter(({ shaft, family }) => (shaft === 'cam' && family !== 'distributor' && family !== 'slot-disc') === cams)
      .map(({ id, name }) => ({ id, name }));
  const run = () => {
    const wheel = all.find(({ id }) => id === crank)!;
    onRun(
      `Simulated: ${wheel.name}`,
      {
        crank: wheel,
        cam: all.find(({ id }) => id === cam) ?? null,
        camDegrees: 130,
        speed: rising
          ? { type: 'rising', fromRpm: rpm, toRpm: rpm * 8 }
          : { type: 'cranking', rpm, ripple: ripple / 100, events: cylinders / 2, startSeconds: 0.2 },
        seconds: 3,
        sampleRate: 100_000,
        crankSensor: { type: sensor },
        camSensor: { type: 'hall' },
        faults: { noiseVolts: 0.01, ...faultsOf(fault, cylinders) },
      },
      seed,
    );
    onClose();
  };
  return (
    <Dialog title="Simulate a capture" isOpen onClose={onClose}>
      <Select label="On the crank" choices={choices(false)} value={crank} onChange={setCrank} />
      <Select
        label="On the cam"
        choices={[{ id: 'none', name: 'No cam signal' }, ...choices(true)]}
        value={cam}
        onChange={setCam}
      />
      <Row $gap={4}>
        <Segmented
          label="Crank sensor"
          choices={[
            { id: 'vr', name: 'VR' },
            { id: 'hall', name: 'Hall' },
          ]}
          value={sensor}
          onChange={setSensor}
        />
        <Checkbox isSelected={rising} onChange={setRising}>
          speed rises
        </Checkbox>
      </Row>
      <FieldGrid $min={120}>
        <NumberField
          label="Speed"
          unit="rpm"
          value={rpm}
          minValue={30}
          maxValue={2000}
          onChange={(value) => value !== null && setRpm(value)}
        />
        <NumberField
          label="Swing in a turn"
          unit="%"
          value={ripple}
          minValue={0}
          maxValue={80}
          onChange={(value) => value !== null && setRipple(value)}
        />
        <NumberField
          label="Seed"
          value={seed}
          minValue={1}
          maxValue={9999}
          onChange={(value) => value !== null && setSeed(value)}
        />
      </FieldGrid>
      <Select
        label="What is wrong"
        choices={[...faultChoices]}
        value={fault}
        onChange={(id) => setFault(id as FaultChoice)}
      />
      <Small>The same seed gives the same signals again.</Small>
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button weight="act" onPress={run}>
          Simulate
        </Button>
      </DialogActions>
    </Dialog>
  );
}
