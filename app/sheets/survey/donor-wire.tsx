import { useState } from 'react';
import { colourLetters } from '~/core/donor/colours';
import { call } from '~/core/edits';
import {
  decisions,
  decisionWords,
  groupWords,
  donorGroups,
  isRestraint,
  type Decision,
  type DonorGroup,
  type DonorWire,
} from '~/core/donor/wire';
import { ecuEnd } from '~/core/ends/ends';
import { readSize, sizeSquareMm } from '~/core/wire/size';
import { wireSize } from '~/core/wire/wire';
import { useBuild } from '../../build/context';
import { useColourWriting } from './colour-writing';
import { today } from '../../parts/dates';
import { Photos } from '../../parts/photos';
import { Button } from '../../ui/button';
import { Checkbox, Segmented } from '../../ui/choice';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Callout, FieldGrid, Row, Small, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';

type Draft = Pick<
  DonorWire,
  | 'connector'
  | 'cavity'
  | 'colour'
  | 'size'
  | 'function'
  | 'condition'
  | 'splice'
  | 'moveTo'
  | 'note'
  | 'decision'
  | 'group'
  | 'restraint'
>;
const fields: {
  id: Exclude<keyof Draft, 'decision' | 'group' | 'restraint' | 'moveTo' | 'note'>;
  label: string;
  most: number;
}[] = [
  { id: 'connector', label: 'Connector', most: 40 },
  { id: 'cavity', label: 'Cavity', most: 12 },
  { id: 'colour', label: 'Colour and stripe', most: 30 },
  { id: 'size', label: 'Size', most: 20 },
  { id: 'function', label: 'Function', most: 120 },
  { id: 'condition', label: 'Condition', most: 60 },
  { id: 'splice', label: 'Splice', most: 40 },
];

/** One donor wire, everything that is known of it. */
export function DonorWireDialog({ wire, onClose }: { wire: DonorWire; onClose: () => void }) {
  const { build, edit, derived } = useBuild();
  const [draft, setDraft] = useState<Draft>(wire);
  const locked = isRestraint({ ...wire, ...draft });
  const { writing } = useColourWriting();
  const letters = colourLetters(draft.colour, writing);
  const metric = sizeSquareMm(draft.size);
  const square = metric !== null && wireSize(metric) ? metric : null;
  const planned =
    draft.decision === 'move' ? derived.net.wiresAt.get(ecuEnd(draft.moveTo.trim().toUpperCase()))?.[0] : undefined;
  const set = (part: Partial<Draft>) => setDraft({ ...draft, ...part });
  const keep = () => {
    const changed = Object.fromEntries(
      (Object.keys(draft) as (keyof Draft)[]).filter((key) => draft[key] !== wire[key]).map((key) => [key, draft[key]]),
    );
    if (Object.keys(changed).length > 0) {
      const { decision, ...rest } = changed as Partial<Draft>;
      edit(
        call('editDonorWires', {
          ids: [wire.id],
          fields: locked || decision === undefined ? rest : { ...rest, decision },
        }),
      );
    }
    onClose();
  };
  const ask = () => {
    edit(
      call('putQuestion', {
        question: {
          id: crypto.randomUUID(),
          text: `What is the ${wire.colour || 'unmarked'} wire at ${wire.connector} ${wire.cavity}?`,
          to: '',
          askedOn: today(),
          answer: '',
          answeredOn: null,
          about: `donor:${wire.connector} ${wire.cavity}`.slice(0, 80),
        },
      }),
    );
    onClose();
  };
  return (
    <Dialog title={`${wire.connector} ${wire.cavity}`.trim() || 'Donor wire'} isOpen onClose={onClose} wide>
      {locked && (
        <Callout $tone="stop" role="alert">
          <strong>Restraint system: stop.</strong>
          <span>
            This wire is never probed, cut or tapped. Leave it whole and take the car to a licensed workshop. No
            decision can be made on it here.
          </span>
        </Callout>
      )}
      {!locked && (
        <Stack $gap={3}>
          <Segmented
            label="Decision"
            choices={decisions.map((id) => ({ id, name: decisionWords[id] }))}
            value={draft.decision}
            onChange={(decision: Decision) => set({ decision })}
          />
          {draft.decision === 'move' && (
            <TextField
              label="Moves to cavity"
              value={draft.moveTo}
              onChange={(moveTo) => set({ moveTo })}
              maxLength={40}
              hint="An ECU cavity such as B12, or a plug and its cavity"
            />
          )}
          <Segmented
            label="Side"
            choices={donorGroups.map((id) => ({ id, name: groupWords[id] }))}
            value={draft.group}
            onChange={(group: DonorGroup) => set({ group })}
          />
        </Stack>
      )}
      <FieldGrid $min={170}>
        {fields.map((field) => (
          <TextField
            key={field.id}
            label={field.label}
            value={draft[field.id]}
            onChange={(value) => set({ [field.id]: value })}
            maxLength={field.most}
            hint={
              field.id === 'colour' && draft.colour && colourLetters(draft.colour, writing)
                ? `letters ${colourLetters(draft.colour, writing)}`
                : undefined
            }
          />
        ))}
      </FieldGrid>
      <TextField label="Note" value={draft.note} onChange={(note) => set({ note })} maxLength={200} />
      <Checkbox isSelected={draft.restraint} onChange={(restraint) => set({ restraint })}>
        Part of a restraint system (airbag, belt tensioner): lock it
      </Checkbox>
      {Object.keys(wire.extra).length > 0 && (
        <Small>
          From the sheet:{' '}
          {Object.entries(wire.extra)
            .map(([name, value]) => `${name} ${value}`)
            .join(' · ')}
        </Small>
      )}
      {wire.connector.trim() !== '' && (
        <Photos about={`donor:${wire.connector.trim().toLowerCase()}`.slice(0, 80)} label={`plug ${wire.connector}`} />
      )}
      {planned && letters && !locked && (
        <Row>
          <Button
            onPress={() =>
              edit(call('setWire', { wireId: planned.id, colour: letters, ...(square ? { squareMm: square } : {}) }))
            }
          >
            Plan the wire at {draft.moveTo.trim().toUpperCase()} as {letters}
            {square ? `, ${readSize(square, build)}` : ''}
          </Button>
          <Small>
            It is {planned.colour}, {readSize(planned.squareMm, build)} in the plan now.
          </Small>
        </Row>
      )}
      <DialogActions>
        <Button weight="quiet" onPress={ask}>
          Note a question about it
        </Button>
        <Button onPress={onClose}>Leave it</Button>
        <Button weight="act" onPress={keep}>
          Keep changes
        </Button>
      </DialogActions>
    </Dialog>
  );
}
