import { useState } from 'react';
import { triggerSensor } from '~/core/trigger/fit';
import type { LightLog } from '~/core/trigger/light';
import { formatDegrees } from '~/core/units/format';
import { useBuild } from '../../../build/context';
import { Checkbox } from '../../../ui/choice';
import { NumberField } from '../../../ui/number-field';
import { FieldGrid, Heading, ScreenOnly, Small, Stack } from '../../../ui/text';
import { WheelDrawing } from '../wheel-drawing';

/** The wheel as it stands at TDC, turned to how the engine stands before one's eyes. */
export function AtTdc({ log }: { log: LightLog | null }) {
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
        <Stack $gap={2}>
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
        </Stack>
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
