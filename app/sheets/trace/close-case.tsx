import { useState } from 'react';
import { styled } from 'styled-components';
import type { Candidate } from '~/core/trace/trace';
import { Button } from '../../ui/button';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { at, color, shape, space } from '../../ui/theme';

/** A cause that no hypothesis names. */
const OTHER = 'something-else';

/** Always in sight while a case is open: which cause it was, and what was done about it. */
export function CloseCase({
  candidates,
  chosenId,
  onChoose,
  onClose,
}: {
  candidates: readonly Candidate[];
  chosenId: string | null;
  onChoose: (id: string | null) => void;
  onClose: (faultId: string, title: string, note: string) => void;
}) {
  const [note, setNote] = useState('');
  const other = { id: OTHER, title: 'Something else' };
  const choices = [...candidates.slice(0, 12), other];
  const chosen = choices.find((one) => one.id === chosenId) ?? null;
  return (
    <Closing aria-label="Close this case">
      <Select
        label="It was"
        choices={choices.map((one) => ({ id: one.id, name: one.title }))}
        value={chosen?.id ?? null}
        onChange={onChoose}
      />
      <TextField
        label="What mended it"
        value={note}
        onChange={setNote}
        maxLength={400}
        placeholder="crimp of A13 made anew"
      />
      <Button
        weight="act"
        isDisabled={chosen === null || (chosen.id === OTHER && note.trim() === '')}
        onPress={() => chosen && onClose(chosen.id, chosen.title, note.trim())}
      >
        Close the case
      </Button>
    </Closing>
  );
}

const Closing = styled.section`
  position: sticky;
  top: -12px;
  z-index: 2;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr) auto;
  gap: ${space[3]};
  align-items: end;
  padding: ${space[2]} 0;
  background: ${color.sheet};
  border-bottom: ${shape.hair} solid ${color.rule};
  ${at.narrow} {
    position: static;
    grid-template-columns: minmax(0, 1fr);
  }
`;
