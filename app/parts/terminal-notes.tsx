import { useState } from 'react';
import { call, type EditArgs } from '~/core/edits';
import { crimpHeight, noNotes, type TerminalNotes } from '~/core/ecu/terminal';
import { readMeasure } from '~/core/units/workshop';
import { readSize } from '~/core/wire/size';
import { useBuild } from '../build/context';
import { Button } from '../ui/button';
import { Dialog } from '../ui/dialog';
import { KeptOrLeft } from './kept-or-left';
import { FieldGrid, Row, Small, Soft, Stack } from '../ui/text';
import { TextField } from '../ui/text-field';
import { MeasureField } from './scale-field';
import { SizeField } from './size-field';

const MOST_CRIMPS = 12;
/** Sizes that are offered in turn, mm². */
const USUAL_SIZES = [0.35, 0.5, 0.75, 1, 1.5, 2.5, 4, 6] as const;

/** What to set and to measure while this wire is crimped; nothing where its maker's data were not put in. */
export function CrimpLine({ notes, squareMm }: { notes: TerminalNotes | undefined; squareMm: number }) {
  const { build } = useBuild();
  if (!notes) return null;
  const height = crimpHeight(notes, squareMm);
  const parts = [
    notes.name,
    notes.stripMillimetres === null ? '' : `strip ${readMeasure('thickness', notes.stripMillimetres, build)}`,
    height === null
      ? notes.crimps.length > 0
        ? `no crimp height known for ${readSize(squareMm, build)}`
        : ''
      : `crimp ${readMeasure('crimp', height, build)} high`,
    notes.tool,
  ].filter(Boolean);
  return <span>{parts.join(' · ')}</span>;
}

type Which = Pick<EditArgs<'setTerminal'>, 'plug' | 'id'>;

/** Opens the data of the terminal that a plug takes. */
export function TerminalButton({ plug, id, name, notes }: Which & { name: string; notes: TerminalNotes | undefined }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button weight="quiet" onPress={() => setOpen(true)}>
        {notes ? 'Terminal data' : 'Add terminal data'}
      </Button>
      {isOpen && <TerminalDialog plug={plug} id={id} name={name} notes={notes} onClose={() => setOpen(false)} />}
    </>
  );
}

function TerminalDialog({
  plug,
  id,
  name,
  notes,
  onClose,
}: Which & { name: string; notes: TerminalNotes | undefined; onClose: () => void }) {
  const { build, edit } = useBuild();
  const [draft, setDraft] = useState<TerminalNotes>(notes ?? noNotes);
  const set = (changes: Partial<TerminalNotes>) => setDraft({ ...draft, ...changes });
  const setCrimp = (index: number, change: Partial<TerminalNotes['crimps'][number]> | null) =>
    set({ crimps: draft.crimps.flatMap((one, i) => (i === index ? (change ? [{ ...one, ...change }] : []) : [one])) });
  const free = USUAL_SIZES.find((size) => draft.crimps.every(({ squareMm }) => squareMm !== size));
  const twice = draft.crimps.find((one, i) => draft.crimps.findIndex(({ squareMm }) => squareMm === one.squareMm) < i);
  return (
    <Dialog title={`Terminal of ${name}`} isOpen onClose={onClose}>
      <Small>From the data sheet of the terminal in hand. Pinning mode then says it beside each wire.</Small>
      <FieldGrid $min={150}>
        <TextField
          label="Terminal"
          value={draft.name}
          maxLength={60}
          hint="its name or number on the bag"
          onChange={(text) => set({ name: text })}
        />
        <MeasureField
          label="Strip"
          measure="thickness"
          units={build.units}
          value={draft.stripMillimetres}
          minValue={0.5}
          maxValue={30}
          onChange={(stripMillimetres) => set({ stripMillimetres })}
        />
        <TextField
          label="Tool"
          value={draft.tool}
          maxLength={80}
          hint="pliers and nest"
          onChange={(tool) => set({ tool })}
        />
      </FieldGrid>
      <Stack $gap={2} role="group" aria-label="Crimp heights">
        <Soft>Height of the crimp, measured over the conductor</Soft>
        {draft.crimps.map(({ squareMm, heightMillimetres }, index) => (
          <Row key={index} $gap={3}>
            <SizeField
              label="Wire"
              units={build.units}
              value={squareMm}
              minValue={0.05}
              maxValue={95}
              onChange={(size) => setCrimp(index, { squareMm: size })}
            />
            <MeasureField
              label="Height"
              measure="crimp"
              units={build.units}
              value={heightMillimetres}
              minValue={0.1}
              maxValue={20}
              onChange={(height) => height !== null && setCrimp(index, { heightMillimetres: height })}
            />
            <Button weight="quiet" onPress={() => setCrimp(index, null)}>
              remove
            </Button>
          </Row>
        ))}
        {twice && <Small role="alert">{readSize(twice.squareMm, build)} is listed twice.</Small>}
        <Button
          weight="quiet"
          isDisabled={free === undefined || draft.crimps.length >= MOST_CRIMPS}
          onPress={() =>
            free !== undefined && set({ crimps: [...draft.crimps, { squareMm: free, heightMillimetres: 1 }] })
          }
        >
          Add a wire size
        </Button>
      </Stack>
      <KeptOrLeft
        canKeep={twice === undefined}
        canForget={notes !== undefined}
        onEnd={(end) => edit(call('setTerminal', { plug, id, terminal: end === 'keep' ? draft : null }))}
        onClose={onClose}
      />
    </Dialog>
  );
}
