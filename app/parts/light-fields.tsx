import { useState } from 'react';
import { call } from '~/core/edits';
import { fromOwnWords, inOwnWords, offsetCycle, rangeOf } from '~/core/trigger/offset-words';
import { CRANKING_RPM } from '~/core/trigger/speed';
import { useBuild } from '../build/context';
import { Segmented } from '../ui/choice';
import { NumberField } from '../ui/number-field';
import { FigureField } from '../ui/text-field';
import { FieldGrid } from '../ui/text';

/** What the light shows and at which speed, as it is being noted. */
export interface LightSeen {
  readonly seen: number | null;
  readonly rpm: number | null;
  /** Which reading it is, so that the field is emptied by taking one and by nothing else. */
  readonly number: number;
}

/** A reading that is being taken; `take` records it, unless a figure is missing, and empties the field. */
export function useLightReading() {
  const { edit } = useBuild();
  const [reading, setReading] = useState<LightSeen>({ seen: null, rpm: CRANKING_RPM, number: 0 });
  const { seen, rpm } = reading;
  const change = (part: Partial<LightSeen>) => setReading((before) => ({ ...before, ...part }));
  const whole = seen !== null && rpm !== null;
  const take = (keepOffset: boolean) => {
    if (!whole) return;
    edit(call('readLight', { at: new Date().toISOString(), rpm, seenDegrees: seen, keepOffset }));
    setReading((before) => ({ seen: null, rpm, number: before.number + 1 }));
  };
  return { reading, change, whole, take };
}

/** Offset and lock as they stand in the ECU, and what the light shows with them. */
export function LightFields({
  reading,
  onChange,
}: {
  reading: LightSeen;
  onChange: (part: Partial<LightSeen>) => void;
}) {
  const { build, edit } = useBuild();
  const { trigger } = build;
  const cycle = offsetCycle(build);
  const [least, most] = rangeOf(trigger.offsetWay, cycle);
  return (
    <FieldGrid $min={110}>
      <NumberField
        label="Offset in use"
        unit="°"
        value={Math.round(inOwnWords(trigger.offsetDegrees, trigger.offsetWay, cycle) * 100) / 100}
        minValue={least}
        maxValue={most}
        onChange={(value) =>
          value !== null && edit(call('setTrigger', { offsetDegrees: fromOwnWords(value, trigger.offsetWay, cycle) }))
        }
      />
      <Segmented
        label="Lock timing at"
        choices={[
          { id: '0', name: '0°' },
          { id: '10', name: '10°' },
        ]}
        value={String(trigger.lockDegrees) as '0' | '10'}
        onChange={(id) => edit(call('setTrigger', { lockDegrees: id === '0' ? 0 : 10 }))}
      />
      <FigureField key={reading.number} label="Light shows" unit="° BTDC" onChange={(seen) => onChange({ seen })} />
      <NumberField
        label="at a speed of"
        unit="rpm"
        value={reading.rpm}
        minValue={0}
        maxValue={20000}
        onChange={(rpm) => onChange({ rpm })}
      />
    </FieldGrid>
  );
}
