import { useState, type ReactNode } from 'react';
import type { EngineAnswers } from '~/core/edits/follow';
import { banksFor, type BankNumbering, type Lying } from '~/core/engine/banks';
import type { Engine } from '~/core/engine/engine';
import { oddFireAngles } from '~/core/engine/propose';
import { defaultUnits, type Units } from '~/core/units/units';
import { FieldGrid, Row, Stack } from '../ui/text';
import { Segmented } from '../ui/choice';
import { NumberField } from '../ui/number-field';
import { Select } from '../ui/select';
import { TextField } from '../ui/text-field';
import {
  anglesOf,
  banksOfDraft,
  banksText,
  draftOf,
  engineOf,
  laidAnew,
  USUAL_VEE,
  veeOf,
  type EngineDraft,
  type Firing,
} from './engine-draft';
import { QuantityField } from './quantity-field';
import { MeasureField } from './scale-field';

export function useEngineDraft(start: Engine, units: Units) {
  const [draft, setDraft] = useState(() => draftOf(start));
  return { draft, setDraft, result: engineOf(draft, units) };
}

/** The questions in the order people know the answers. @param more What is asked besides the engine, in its place. */
export function EngineForm({
  draft,
  onChange,
  errors,
  more,
  units = defaultUnits,
}: {
  draft: EngineDraft;
  more?: ReactNode;
  units?: Units;
  onChange: (draft: EngineDraft) => void;
  errors: Record<string, string>;
}) {
  const set = (part: Partial<EngineDraft>) => onChange({ ...draft, ...part });
  const lay = (part: Partial<EngineDraft>) => onChange(laidAnew(draft, part));
  const rotary = draft.kind === 'rotary';
  const laidOut = !rotary && draft.lying !== 'inline';
  const byVee = laidOut && draft.lying === 'vee' && oddFireAngles(draft.cylinders ?? 0, veeOf(draft)) !== null;
  return (
    <Stack $gap={4}>
      <FieldGrid $min={150}>
        <Select
          label="Kind"
          choices={[
            { id: 'four-stroke', name: 'Four-stroke' },
            { id: 'two-stroke', name: 'Two-stroke' },
            { id: 'rotary', name: 'Rotary' },
          ]}
          value={draft.kind}
          onChange={(id) => lay({ kind: id as Engine['kind'] })}
        />
        <NumberField
          label={rotary ? 'Rotors' : 'Cylinders'}
          value={draft.cylinders}
          onChange={(cylinders) => lay({ cylinders })}
          error={errors.cylinders}
          minValue={1}
          maxValue={16}
        />
        {!rotary && (
          <Select
            label="They lie"
            choices={[
              { id: 'inline', name: 'in one row' },
              { id: 'vee', name: 'in a V' },
              { id: 'flat', name: 'flat, two by two' },
            ]}
            value={draft.lying}
            onChange={(id) =>
              lay({ lying: id as Lying, bankDegrees: id === 'vee' ? (draft.bankDegrees ?? USUAL_VEE) : null })
            }
          />
        )}
        {!rotary && draft.lying === 'vee' && (
          <NumberField
            label="Angle of the V"
            unit="°"
            value={draft.bankDegrees}
            onChange={(bankDegrees) => set({ bankDegrees })}
            error={errors.bankDegrees}
            minValue={1}
            maxValue={179}
          />
        )}
        {laidOut && (
          <Select
            label="Numbered"
            choices={(['odd-even', 'halves'] as const)
              .map((numbering) => ({
                id: numbering as string,
                name: banksText(banksFor(draft.cylinders ?? 0, numbering)),
              }))
              .concat({ id: 'own', name: 'otherwise' })}
            value={draft.numbering ?? 'own'}
            onChange={(id) =>
              lay({ numbering: id === 'own' ? null : (id as BankNumbering), banks: banksText(banksOfDraft(draft)) })
            }
          />
        )}
        {laidOut && draft.numbering === null && (
          <TextField
            label="Banks, front first"
            value={draft.banks}
            onChange={(banks) => set({ banks })}
            error={errors.banks}
            placeholder="1-3-5 / 2-4-6"
          />
        )}
      </FieldGrid>
      <FieldGrid $min={150}>
        <TextField
          label="Firing order"
          value={draft.firingOrder}
          onChange={(firingOrder) => set({ firingOrder })}
          error={errors.firingOrder}
          placeholder="1-3-4-2"
        />
        <Select
          label="Fires"
          choices={[
            { id: 'even', name: 'evenly' },
            ...(byVee || draft.firing === 'by-vee' ? [{ id: 'by-vee', name: 'by the angle of the V' }] : []),
            { id: 'typed', name: 'at angles of its own' },
          ]}
          value={draft.firing}
          onChange={(id) =>
            set({ firing: id as Firing, firingAngles: anglesOf(draft)?.join(', ') ?? draft.firingAngles })
          }
        />
        {draft.firing === 'typed' && (
          <TextField
            label="Firing angles"
            value={draft.firingAngles}
            onChange={(firingAngles) => set({ firingAngles })}
            error={errors.firingAngles}
            placeholder="0, 270"
          />
        )}
      </FieldGrid>
      <FieldGrid $min={150}>
        <Segmented
          label={rotary ? 'Plugs a rotor' : 'Plugs a cylinder'}
          choices={[
            { id: '1', name: 'One' },
            { id: '2', name: 'Two' },
          ]}
          value={String(draft.plugs)}
          onChange={(id) => set({ plugs: id === '2' ? 2 : 1 })}
        />
        {draft.plugs === 2 && (
          <NumberField
            label={rotary ? 'Trailing after leading' : 'Second after first'}
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
            label={rotary ? 'Injectors a rotor' : 'Injectors a cylinder'}
            choices={[
              { id: '1', name: 'One' },
              { id: '2', name: 'Two' },
            ]}
            value={String(draft.injectors)}
            onChange={(id) => set({ injectors: id === '2' ? 2 : 1 })}
          />
        )}
      </FieldGrid>
      <FieldGrid $min={256}>
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
      {more}
      <FieldGrid $min={150}>
        <TextField label="What you call it" value={draft.name} onChange={(name) => set({ name })} error={errors.name} />
        <MeasureField
          label="Displacement"
          measure="displacement"
          units={units}
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
      <FieldGrid $min={210}>
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
      </FieldGrid>
    </Stack>
  );
}

/** What is asked besides the engine itself: how the stroke is told, how it is started and charged. */
export type MoreAnswers = Omit<EngineAnswers, 'engine'>;

export function MoreForm({ answers, onChange }: { answers: MoreAnswers; onChange: (answers: MoreAnswers) => void }) {
  const set = (part: Partial<MoreAnswers>) => onChange({ ...answers, ...part });
  return (
    <Row $gap={4}>
      <Segmented
        label="Phase"
        choices={[
          { id: 'cam', name: 'cam sensor' },
          { id: 'none', name: 'none' },
        ]}
        value={answers.phase ? 'cam' : 'none'}
        onChange={(id) => set({ phase: id === 'cam' })}
      />
      <Segmented
        label="Starting"
        choices={[
          { id: 'key', name: 'key' },
          { id: 'button', name: 'button' },
        ]}
        value={answers.starting}
        onChange={(starting) => set({ starting })}
      />
      <Segmented
        label="Charging"
        choices={[
          { id: 'alternator', name: 'alternator' },
          { id: 'none', name: 'none' },
        ]}
        value={answers.charging}
        onChange={(charging) => set({ charging })}
      />
    </Row>
  );
}
