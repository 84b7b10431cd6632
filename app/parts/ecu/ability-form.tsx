import { kindWord } from '~/core/ecu/ask';
import { abilityKinds, pairedKinds, type Ability, type AbilityKind } from '~/core/ecu/ecu';
import { Checkbox, Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { FieldGrid } from '../../ui/text';
import { TextField } from '../../ui/text-field';

type Field =
  | 'amps'
  | 'catches'
  | 'hold'
  | 'hz'
  | 'ohms'
  | 'volts'
  | 'range'
  | 'pullUp'
  | 'threshold'
  | 'side'
  | 'phase'
  | 'cell'
  | 'drive';

/** What can be said of each kind; pairs and numbers are asked beside it. */
const fields: Record<AbilityKind, readonly Field[]> = {
  injector: ['drive', 'amps', 'hold', 'ohms', 'catches'],
  'ignition-logic': ['volts'],
  'ignition-driver': ['amps'],
  'low-side': ['amps', 'hz', 'catches'],
  'high-side': ['amps', 'hz'],
  'half-bridge': ['amps', 'side'],
  stepper: ['amps', 'phase', 'side'],
  analog: ['range', 'pullUp'],
  switch: ['pullUp'],
  frequency: ['hz', 'pullUp', 'threshold'],
  vr: ['side'],
  hall: ['hz', 'pullUp', 'threshold'],
  knock: [],
  wideband: ['cell'],
  thermocouple: ['side'],
  can: ['side'],
  'supply-5v': ['amps'],
  'supply-out': ['volts', 'amps'],
  'sensor-ground': [],
  'power-ground': ['amps'],
  shield: [],
  permanent: [],
  switched: [],
  'main-relay': ['amps'],
};
export const isNumbered = (kind: AbilityKind): boolean =>
  kind === 'injector' || kind === 'ignition-logic' || kind === 'ignition-driver';

/** One ability and its figures; an empty field says that the figure is not known. */
export function AbilityForm({ value, onChange }: { value: Ability; onChange: (ability: Ability) => void }) {
  const has = (field: Field) => fields[value.kind].includes(field);
  const set = (change: Partial<Ability>) => {
    const next: Ability = { ...value, ...change };
    for (const key of Object.keys(next) as (keyof Ability)[]) if (next[key] === undefined) delete next[key];
    onChange(next);
  };
  const figure = (
    label: string,
    unit: string,
    key:
      | 'maxAmps'
      | 'holdAmps'
      | 'maxHz'
      | 'minOhms'
      | 'volts'
      | 'fromVolts'
      | 'toVolts'
      | 'pullUpOhms'
      | 'thresholdVolts',
    least: number,
    most: number,
    hint?: string,
  ) => (
    <NumberField
      label={label}
      unit={unit}
      hint={hint}
      value={value[key] ?? null}
      minValue={least}
      maxValue={most}
      onChange={(figureValue) => set({ [key]: figureValue ?? undefined })}
    />
  );
  return (
    <FieldGrid $min={132}>
      <Select
        label="Can be"
        choices={abilityKinds.map((kind) => ({ id: kind, name: kindWord(kind) }))}
        value={value.kind}
        onChange={(kind) => onChange({ kind: kind as AbilityKind })}
      />
      {has('drive') && (
        <Select
          label="Driver"
          choices={[
            { id: 'saturated', name: 'saturated' },
            { id: 'peak-hold', name: 'peak and hold' },
          ]}
          value={value.drive ?? 'saturated'}
          onChange={(drive) => set({ drive: drive === 'peak-hold' ? 'peak-hold' : undefined })}
        />
      )}
      {has('amps') && figure(value.drive === 'peak-hold' ? 'Peak' : 'Current', 'A', 'maxAmps', 0.01, 60)}
      {has('hold') && value.drive === 'peak-hold' && figure('Hold', 'A', 'holdAmps', 0.01, 20)}
      {has('ohms') && figure('Least load', 'Ω', 'minOhms', 0.1, 100)}
      {has('hz') && figure('To', 'Hz', 'maxHz', 0, 100000, value.kind.endsWith('side') ? '0 is on/off' : undefined)}
      {has('volts') && figure('Level', 'V', 'volts', 1, 60)}
      {has('range') && figure('From', 'V', 'fromVolts', -60, 60)}
      {has('range') && figure('To', 'V', 'toVolts', -60, 60)}
      {has('pullUp') && figure('Pull-up', 'Ω', 'pullUpOhms', 1, 1_000_000, 'empty: none')}
      {has('pullUp') && value.pullUpOhms !== undefined && (
        <Checkbox
          isSelected={value.pullUpSwitchable ?? false}
          onChange={(on) => set({ pullUpSwitchable: on ? true : undefined })}
        >
          can be turned off
        </Checkbox>
      )}
      {has('catches') && (
        <Checkbox isSelected={value.catches ?? false} onChange={(on) => set({ catches: on ? true : undefined })}>
          flyback diode inside, to the ECU’s supply
        </Checkbox>
      )}
      {has('threshold') && figure('Switches at', 'V', 'thresholdVolts', 0, 20)}
      {pairedKinds.has(value.kind) && (
        <TextField
          label="Pair or set"
          value={value.pair ?? ''}
          maxLength={20}
          onChange={(pair) => set({ pair: pair.trim() === '' ? undefined : pair.trim() })}
          hint="same name for its partners"
        />
      )}
      {has('phase') && (
        <Segmented
          label="Winding"
          choices={[
            { id: 'a', name: 'a' },
            { id: 'b', name: 'b' },
          ]}
          value={value.phase ?? 'a'}
          onChange={(phase) => set({ phase })}
        />
      )}
      {has('side') && (
        <Segmented
          label={value.kind === 'can' ? 'High or low' : 'Side'}
          choices={[
            { id: 'plus', name: value.kind === 'can' ? 'H' : '+' },
            { id: 'minus', name: value.kind === 'can' ? 'L' : '–' },
          ]}
          value={value.side ?? 'plus'}
          onChange={(side) => set({ side })}
        />
      )}
      {has('cell') && (
        <Select
          label="Wire of the cell"
          choices={[
            { id: 'pump', name: 'pump cell' },
            { id: 'reference', name: 'reference cell' },
            { id: 'ground', name: 'cell ground' },
          ]}
          value={value.cell ?? 'pump'}
          onChange={(cell) => set({ cell: cell as Ability['cell'] })}
        />
      )}
      {isNumbered(value.kind) && (
        <NumberField
          label="Number"
          value={value.output ?? null}
          minValue={1}
          maxValue={24}
          onChange={(output) => set({ output: output ?? undefined })}
          hint="counts on over several pins"
        />
      )}
    </FieldGrid>
  );
}
