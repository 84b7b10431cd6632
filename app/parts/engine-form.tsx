import { useState } from 'react';
import { engineSchema, type Engine } from '~/core/engine/engine';
import { ordersAll, proposedOrder } from '~/core/engine/propose';
import { pathText } from '~/core/data/zod-problem';
import { defaultUnits, type Units } from '~/core/units/units';
import { FieldGrid, Stack } from '../ui/text';
import { Segmented } from '../ui/choice';
import { NumberField } from '../ui/number-field';
import { Select } from '../ui/select';
import { TextField } from '../ui/text-field';
import { QuantityField } from './quantity-field';

/** The form's own state: text as typed, turned into an engine only when it is whole. */
export interface EngineDraft {
  readonly name: string;
  readonly kind: Engine['kind'];
  readonly cylinders: number | null;
  readonly firingOrder: string;
  readonly firingAngles: string;
  readonly aspiration: Engine['aspiration'];
  readonly boostKpa: number | null;
  readonly maxRpm: number | null;
  readonly displacementCc: number | null;
  readonly ignition: Engine['ignition'];
  readonly injection: Engine['injection'];
  readonly plugs: Engine['plugs'];
  readonly trailingDegrees: number | null;
  readonly injectors: Engine['injectors'];
}

export const draftOf = (engine: Engine): EngineDraft => ({
  ...engine,
  firingOrder: engine.firingOrder.join('-'),
  firingAngles: engine.firingAngles?.join(', ') ?? '',
});

const numbersIn = (text: string): number[] =>
  text
    .split(/[^0-9.]+/)
    .filter(Boolean)
    .map(Number);

/** Another count of cylinders takes a firing order of its own, and even angles, until the person gives theirs. */
const orderFor = (kind: Engine['kind'], cylinders: number | null, order: string): Partial<EngineDraft> =>
  cylinders === null || cylinders < 1 || cylinders > 16 || ordersAll(numbersIn(order), cylinders)
    ? {}
    : { firingOrder: proposedOrder(kind, cylinders).join('-'), firingAngles: '' };

/** The engine a draft describes, or what is wrong by field. */
export function engineOf(draft: EngineDraft): { engine: Engine } | { errors: Record<string, string> } {
  const angles = numbersIn(draft.firingAngles);
  const parsed = engineSchema.safeParse({
    ...draft,
    firingOrder: numbersIn(draft.firingOrder),
    firingAngles: angles.length > 0 ? angles : null,
    boostKpa: draft.aspiration === 'boosted' ? draft.boostKpa : 0,
    trailingDegrees: draft.plugs === 2 ? draft.trailingDegrees : 0,
  });
  const boostless = draft.aspiration === 'boosted' && !(draft.boostKpa !== null && draft.boostKpa > 0);
  if (parsed.success && !boostless) return { engine: parsed.data };
  const ranges: Record<string, string> = {
    cylinders: 'from 1 to 16',
    boostKpa: 'from 0 to 500 kPa',
    maxRpm: 'from 500 to 20000 rpm',
    trailingDegrees: 'from 0 to 40°',
    displacementCc: 'from 20 to 20000 cc',
    name: 'a name of 1 to 80 characters',
    firingOrder: `each cylinder once, from 1 to ${draft.cylinders ?? '?'}, such as 1-3-4-2`,
    firingAngles: 'one angle for each cylinder, 0 to 719°, or nothing',
  };
  const errors: Record<string, string> = {};
  if (boostless) errors.boostKpa = 'Give the boost you want above the barometer: the manifold sensor is judged by it.';
  for (const issue of parsed.error?.issues ?? []) {
    const field = pathText(issue.path.slice(0, 1));
    errors[field] ??= ranges[field] ? `Give ${ranges[field]}.` : issue.message;
  }
  return { errors };
}

export function useEngineDraft(start: Engine) {
  const [draft, setDraft] = useState(() => draftOf(start));
  return { draft, setDraft, result: engineOf(draft) };
}

export function EngineForm({
  draft,
  onChange,
  errors,
  units = defaultUnits,
}: {
  draft: EngineDraft;
  units?: Units;
  onChange: (draft: EngineDraft) => void;
  errors: Record<string, string>;
}) {
  const set = (part: Partial<EngineDraft>) => onChange({ ...draft, ...part });
  return (
    <Stack $gap={4}>
      <FieldGrid $min={190}>
        <TextField label="What you call it" value={draft.name} onChange={(name) => set({ name })} error={errors.name} />
        <Select
          label="Kind"
          choices={[
            { id: 'four-stroke', name: 'Four-stroke' },
            { id: 'two-stroke', name: 'Two-stroke' },
            { id: 'rotary', name: 'Rotary' },
          ]}
          value={draft.kind}
          onChange={(id) => {
            const kind = id as Engine['kind'];
            set({ kind, ...orderFor(kind, draft.cylinders, draft.firingOrder) });
          }}
        />
        <NumberField
          label={draft.kind === 'rotary' ? 'Rotors' : 'Cylinders'}
          value={draft.cylinders}
          onChange={(cylinders) => set({ cylinders, ...orderFor(draft.kind, cylinders, draft.firingOrder) })}
          error={errors.cylinders}
          minValue={1}
          maxValue={16}
        />
        <TextField
          label="Firing order"
          value={draft.firingOrder}
          onChange={(firingOrder) => set({ firingOrder })}
          error={errors.firingOrder}
          placeholder="1-3-4-2"
        />
        <TextField
          label="Firing angles, if uneven"
          value={draft.firingAngles}
          onChange={(firingAngles) => set({ firingAngles })}
          error={errors.firingAngles}
          placeholder="even"
        />
        <NumberField
          label="Displacement"
          unit="cc"
          value={draft.displacementCc}
          onChange={(displacementCc) => set({ displacementCc })}
          error={errors.displacementCc}
        />
        <NumberField
          label="Highest speed"
          unit="rpm"
          value={draft.maxRpm}
          onChange={(maxRpm) => set({ maxRpm })}
          error={errors.maxRpm}
        />
      </FieldGrid>
      <FieldGrid $min={260}>
        <Segmented
          label="Air"
          choices={[
            { id: 'atmospheric', name: 'Atmospheric' },
            { id: 'boosted', name: 'Boosted' },
          ]}
          value={draft.aspiration}
          onChange={(aspiration) =>
            // No boost wanted is no figure: it is asked, not taken for nothing.
            set({ aspiration, boostKpa: aspiration === 'boosted' ? draft.boostKpa || null : draft.boostKpa })
          }
        />
        {draft.aspiration === 'boosted' && (
          <QuantityField
            quantity="pressure"
            units={units}
            label="Boost above the barometer"
            value={draft.boostKpa}
            onChange={(boostKpa) => set({ boostKpa })}
            error={errors.boostKpa}
            hint={draft.boostKpa ? undefined : 'How much do you want? The sensor is chosen by it.'}
          />
        )}
        <Segmented
          label="Ignition"
          choices={[
            { id: 'direct', name: 'Coil each' },
            { id: 'wasted', name: 'Wasted' },
            { id: 'distributor', name: 'Distributor' },
          ]}
          value={draft.ignition}
          onChange={(ignition) => set({ ignition })}
        />
        <Select
          label="Injection"
          choices={[
            { id: 'sequential', name: 'Sequential', note: 'needs a cam signal on a four-stroke' },
            { id: 'semi-sequential', name: 'In pairs' },
            { id: 'batch', name: 'Batch' },
            { id: 'none', name: 'None: carburettor' },
          ]}
          value={draft.injection}
          onChange={(injection) => set({ injection: injection as Engine['injection'] })}
        />
      </FieldGrid>
      <FieldGrid $min={190}>
        <Segmented
          label={draft.kind === 'rotary' ? 'Plugs a rotor' : 'Plugs a cylinder'}
          choices={[
            { id: '1', name: 'One' },
            { id: '2', name: 'Two' },
          ]}
          value={String(draft.plugs)}
          onChange={(id) => set({ plugs: id === '2' ? 2 : 1 })}
        />
        {draft.plugs === 2 && (
          <NumberField
            label={draft.kind === 'rotary' ? 'Trailing after leading' : 'Second plug after the first'}
            unit="°"
            value={draft.trailingDegrees}
            onChange={(trailingDegrees) => set({ trailingDegrees })}
            error={errors.trailingDegrees}
            minValue={0}
            maxValue={40}
          />
        )}
        {draft.injection !== 'none' && (
          <Segmented
            label={draft.kind === 'rotary' ? 'Injectors a rotor' : 'Injectors a cylinder'}
            choices={[
              { id: '1', name: 'One' },
              { id: '2', name: 'Two, staged' },
            ]}
            value={String(draft.injectors)}
            onChange={(id) => set({ injectors: id === '2' ? 2 : 1 })}
          />
        )}
      </FieldGrid>
    </Stack>
  );
}
