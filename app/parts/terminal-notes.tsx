import { useState } from 'react';
import { styled } from 'styled-components';
import { call, type EditArgs } from '~/core/edits';
import { crimpHeight, MOST_CRIMPS, noNotes, type TerminalNotes } from '~/core/ecu/terminal';
import { inSentence } from '~/core/units/format';
import { readMeasure } from '~/core/units/workshop';
import { readSize } from '~/core/wire/size';
import { useBuild } from '../build/context';
import { Button } from '../ui/button';
import { Dialog } from '../ui/dialog';
import { KeptOrLeft } from './kept-or-left';
import { FieldGrid, Small, Soft, Stack } from '../ui/text';
import { TextField } from '../ui/text-field';
import { space } from '../ui/theme';
import { MeasureField } from './scale-field';
import { SizeField } from './size-field';

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

/** A height that was not given yet is no height. */
type Draft = Omit<TerminalNotes, 'crimps'> & {
  readonly crimps: readonly { readonly squareMm: number; readonly heightMillimetres: number | null }[];
};

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
  const [draft, setDraft] = useState<Draft>(notes ?? noNotes);
  const set = (changes: Partial<Draft>) => setDraft({ ...draft, ...changes });
  const setCrimp = (index: number, change: Partial<Draft['crimps'][number]> | null) =>
    set({ crimps: draft.crimps.flatMap((one, i) => (i === index ? (change ? [{ ...one, ...change }] : []) : [one])) });
  const free = USUAL_SIZES.find((size) => draft.crimps.every(({ squareMm }) => squareMm !== size));
  const known = draft.crimps.flatMap(({ squareMm, heightMillimetres }) =>
    heightMillimetres === null ? [] : [{ squareMm, heightMillimetres }],
  );
  const twice = draft.crimps.find((one, i) => draft.crimps.findIndex(({ squareMm }) => squareMm === one.squareMm) < i);
  return (
    <Dialog title={`Terminal of ${inSentence(name)}`} isOpen onClose={onClose}>
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
          <CrimpRow key={index}>
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
              onChange={(height) => setCrimp(index, { heightMillimetres: height })}
            />
            <Button weight="quiet" onPress={() => setCrimp(index, null)}>
              remove
            </Button>
          </CrimpRow>
        ))}
        {twice && <Small role="alert">{readSize(twice.squareMm, build)} is listed twice.</Small>}
        <Button
          weight="quiet"
          isDisabled={free === undefined || draft.crimps.length >= MOST_CRIMPS}
          onPress={() =>
            free !== undefined && set({ crimps: [...draft.crimps, { squareMm: free, heightMillimetres: null }] })
          }
        >
          Add a wire size
        </Button>
      </Stack>
      <KeptOrLeft
        canKeep={twice === undefined && known.length === draft.crimps.length}
        canForget={notes !== undefined}
        onEnd={(end) =>
          edit(call('setTerminal', { plug, id, terminal: end === 'keep' ? { ...draft, crimps: known } : null }))
        }
        onClose={onClose}
      />
    </Dialog>
  );
}

const CrimpRow = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: ${space[3]};
  align-items: end;
`;
