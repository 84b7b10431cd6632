import { useMemo } from 'react';
import { call } from '~/core/edits';
import { colourWritings, writingOf, type ColourWriting } from '~/core/donor/colours';
import { useBuild } from '../../build/context';
import { Select } from '../../ui/select';

const names: Record<ColourWriting, string> = {
  iec: 'IEC letters: BK, BU, GN/YE',
  english: 'English letters: B, L, G/Y',
  german: 'German letters: sw, bl, gn/ge',
};

/** How the colours of the donor's list are written: as the person says, or by what occurs in it. */
export function useColourWriting(): { writing: ColourWriting; understood: number; of: number } {
  const { build } = useBuild();
  const { donor, colours } = build.survey;
  const found = useMemo(() => writingOf(Object.values(donor).map((wire) => wire.colour)), [donor]);
  return colours === 'auto' ? found : { ...found, writing: colours };
}

/** Tells which family of codes the list was taken for, and lets the person switch it. */
export function ColourWritingField() {
  const { build, edit } = useBuild();
  const { donor, colours } = build.survey;
  const found = useMemo(() => writingOf(Object.values(donor).map((wire) => wire.colour)), [donor]);
  return (
    <Select
      label="Colours are written in"
      choices={[
        {
          id: 'auto',
          name: `as found: ${names[found.writing].split(':')[0]}`,
          note: found.of === 0 ? 'no letters in this list' : `${found.understood} of ${found.of} understood`,
        },
        ...colourWritings.map((id) => ({ id, name: names[id] })),
      ]}
      value={colours}
      onChange={(id) => edit(call('setColourWriting', { colours: id as typeof colours }))}
    />
  );
}
