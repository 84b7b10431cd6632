import { useMemo, useState } from 'react';
import { call } from '~/core/edits';
import type { DeviceKind } from '~/core/devices/kind';
import type { Curve } from '~/core/devices/curve';
import { ecuCurveOf, othersOf } from '~/core/sensing/judge';
import { pullUpsAt, settingError, type SensorAt } from '~/core/sensing/sensor';
import { formatOhms, plural } from '~/core/units/format';
import { readQuantity, readStep, readerScale } from '~/core/units/units';
import { useBuild } from '../../build/context';
import { CurveForm } from '../../parts/curve-form';
import { curveWords } from '../../parts/curve-words';
import { Button } from '../../ui/button';
import { Dialog } from '../../ui/dialog';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { Callout, Heading, Small, Soft, Stack } from '../../ui/text';

const PART = 'part';

const titles: Record<Curve['method'], string> = {
  linear: 'A straight line through two points.',
  table: 'A table.',
  'steinhart-hart': 'Steinhart-Hart through three points.',
  beta: 'One point and beta.',
  'type-k': 'Thermocouple.',
};

/** The part's calibration, what the ECU is set to, and the pull-ups the signal sees. */
export function Settings({ sensor, library }: { sensor: SensorAt; library: readonly DeviceKind[] }) {
  const { build, edit } = useBuild();
  const [editing, setEditing] = useState(false);
  const { sensor: trait, kind, device } = sensor;
  const scale = readerScale(trait.quantity, build);
  const others = useMemo(() => othersOf(sensor, library), [sensor, library]);
  const setting = ecuCurveOf(sensor);
  const error = setting ? settingError(build.site, sensor, setting.curve) : null;
  const pulls = pullUpsAt(sensor);
  const keepCurve = (curve: Curve) => {
    edit(
      call('editKind', {
        kind: { ...kind, traits: kind.traits.map((one) => (one === trait ? { ...trait, curve } : one)) },
      }),
    );
    setEditing(false);
  };
  const shared = build.devices.filter((one) => one.kindId === kind.id).length;
  return (
    <Stack $gap={3}>
      <Heading>Calibration</Heading>
      <p>
        {titles[trait.curve.method]} <Soft>{curveWords(trait.curve, trait.quantity, trait.signal, build)}</Soft>{' '}
        <Button weight="quiet" onPress={() => setEditing(true)}>
          Change it
        </Button>
      </p>
      <Select
        label="The ECU is set to"
        choices={[
          { id: PART, name: 'the calibration of this part' },
          ...(setting && !others.some((one) => one.name === setting.name)
            ? [{ id: setting.name, name: setting.name }]
            : []),
          ...others.map((one) => ({ id: one.name, name: one.name })),
        ]}
        value={setting?.name ?? PART}
        onChange={(id) => {
          const other = others.find((one) => one.name === id);
          edit(
            call('setEcuCurve', {
              sensorId: sensor.id,
              setting: id === PART || !other ? null : { name: other.name.slice(0, 60), curve: other.sensor.curve },
            }),
          );
        }}
      />
      {error && (
        <Callout $tone={Math.abs(error.worst) > 0.01 * (trait.most - trait.least) ? 'fix' : 'note'}>
          <span>
            It would show {readStep(trait.quantity, error.worst, build)} too much at{' '}
            {readQuantity(trait.quantity, error.worstAt, build)}
            {error.atRest !== null && `, and ${readStep(trait.quantity, error.atRest, build)} at key-on`}.
          </span>
        </Callout>
      )}
      {trait.signal === 'ohms' && (
        <Stack $gap={2}>
          <p>
            Pull-up{' '}
            {pulls.inside === null
              ? sensor.pin
                ? `none on ${sensor.pin.id}`
                : 'none on this ECU'
              : `${formatOhms(pulls.inside)} in the ECU${sensor.assumed ? ', taken from its first input that has one' : ` on ${sensor.pin!.id}`}`}
            {pulls.outside !== null && `, ${formatOhms(pulls.outside)} outside`}.
          </p>
          <NumberField
            label="Resistor fitted outside, to 5 V"
            unit="Ω"
            value={pulls.outside}
            minValue={1}
            maxValue={1000000}
            hint="Empty for none. 2.2 to 4.7 kΩ suits most thermistors."
            onChange={(ohms) => edit(call('setPullUp', { deviceId: device.id, ohms }))}
          />
        </Stack>
      )}
      {editing && (
        <Dialog title={`Calibration: ${kind.name}`} isOpen onClose={() => setEditing(false)}>
          {shared > 1 && <Small>{plural(shared, 'device')} of this build share it.</Small>}
          <CurveForm
            start={trait.curve}
            signal={trait.signal}
            scale={scale}
            isTemperature={trait.quantity === 'temperature'}
            onKeep={keepCurve}
          />
        </Dialog>
      )}
    </Stack>
  );
}
