import { useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { donorList } from '~/core/donor/sort';
import {
  delimiterWord,
  fieldHeadings,
  readTable,
  tableFields,
  wiresFrom,
  type ColumnUse,
  type RawTable,
} from '~/core/donor/table';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Select } from '../../ui/select';
import { Table, TableScroll } from '../../ui/table';
import { Callout, Small, Stack } from '../../ui/text';
import { TextAreaField } from '../../ui/text-area';
import { space } from '../../ui/theme';

const choices = [
  ...tableFields.map((field) => ({ id: field as string, name: fieldHeadings[field] })),
  { id: 'keep', name: 'keep under its own heading' },
  { id: 'skip', name: 'leave out' },
];

/** What was understood, column by column and line by line, before anything is written. */
function Preview({
  table,
  uses,
  onUses,
  replace,
}: {
  table: RawTable;
  uses: readonly ColumnUse[];
  onUses: (uses: ColumnUse[]) => void;
  replace: boolean;
}) {
  const { build } = useBuild();
  const { wires, issues } = useMemo(
    () => wiresFrom(table, uses, replace ? [] : donorList(build.survey.donor)),
    [table, uses, replace, build.survey.donor],
  );
  const stops = issues.filter((issue) => issue.severity === 'stop');
  const notes = issues.filter((issue) => issue.severity === 'note');
  return (
    <Stack $gap={3}>
      <p role="status">
        <strong>{plural(wires.length, 'wire')}</strong> separated by {delimiterWord(table.delimiter)},{' '}
        {table.hasHeading ? 'the first line names the columns.' : 'no heading line: columns are taken in order.'}
      </p>
      <TableScroll aria-label="Columns found" style={{ maxHeight: '38vh', overflow: 'auto' }}>
        <Table>
          <thead>
            <tr>
              <th scope="col">Column</th>
              <th scope="col">First cells</th>
              <th scope="col">Taken as</th>
            </tr>
          </thead>
          <tbody>
            {table.headings.map((heading, index) => (
              <tr key={`${index} ${heading}`}>
                <th scope="row">{heading}</th>
                <td>
                  <Cells>
                    {table.rows
                      .slice(0, 3)
                      .map((row) => row.cells[index] || '–')
                      .join(' · ')}
                  </Cells>
                </td>
                <td style={{ minWidth: 190 }}>
                  <Select
                    label={`Column ${heading} is`}
                    hideLabel
                    choices={choices}
                    value={uses[index]}
                    onChange={(id) => {
                      const next = [...uses];
                      // A field can be one column only: the other gives way.
                      const before = next.indexOf(id as ColumnUse);
                      if (before >= 0 && id !== 'keep' && id !== 'skip') next[before] = 'keep';
                      next[index] = id as ColumnUse;
                      onUses(next);
                    }}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </TableScroll>
      {stops.length > 0 && (
        <Callout $tone="stop" role="alert">
          <strong>
            {stops.length === 1 ? '1 line cannot be kept as it is' : `${stops.length} lines cannot be kept as they are`}
            ; nothing is written until this is mended.
          </strong>
          {stops.slice(0, 6).map((issue) => (
            <span key={issue.sentence}>{issue.sentence}</span>
          ))}
        </Callout>
      )}
      {notes.length > 0 && (
        <Callout $tone="note">
          <strong>{plural(notes.length, 'remark')}</strong>
          {notes.slice(0, 5).map((issue) => (
            <span key={issue.sentence}>{issue.sentence}</span>
          ))}
          {notes.length > 5 && <Small>and {notes.length - 5} more</Small>}
        </Callout>
      )}
    </Stack>
  );
}

export function DonorImport({ start, onClose }: { start: string; onClose: () => void }) {
  const { build, edit } = useBuild();
  const [text, setText] = useState(start);
  const [replace, setReplace] = useState<'add' | 'replace'>('add');
  const read = useMemo(() => (text.trim() === '' ? null : readTable(text)), [text]);
  const [chosen, setChosen] = useState<{ text: string; uses: ColumnUse[] } | null>(null);
  const table = read?.ok ? read.value : null;
  const uses = chosen && chosen.text === text ? chosen.uses : (table?.uses ?? []);
  const existing = donorList(build.survey.donor);
  const bringIn = () => {
    if (!table) return;
    const stamp = crypto.randomUUID().slice(0, 8);
    const result = wiresFrom(table, uses, replace === 'replace' ? [] : existing, (index) => `${stamp}-${index}`);
    if (result.issues.some((issue) => issue.severity === 'stop')) return;
    edit(call('addDonorWires', { wires: [...result.wires], replace: replace === 'replace' }));
    onClose();
  };
  const blocked =
    !table ||
    wiresFrom(table, uses, replace === 'replace' ? [] : existing).issues.some((issue) => issue.severity === 'stop');
  return (
    <Dialog title="Bring in donor wires" isOpen onClose={onClose} wide>
      <TextAreaField
        label="Paste rows from a spreadsheet, or the text of a CSV file"
        value={text}
        onChange={setText}
        rows={table ? 3 : 8}
        autoFocus
        placeholder={'connector\tcavity\tcolour\tsize\tfunction\nF12\t1\tGN/YE\t0.75\tCoolant sensor'}
      />
      {read && !read.ok && (
        <Callout $tone="stop" role="alert">
          {read.problem.sentence}
        </Callout>
      )}
      {table && (
        <>
          <Preview
            table={table}
            uses={uses}
            onUses={(next) => setChosen({ text, uses: next })}
            replace={replace === 'replace'}
          />
          {existing.length > 0 && (
            <Segmented
              label={`There are ${plural(existing.length, 'wire')} on the list`}
              choices={[
                { id: 'add', name: 'add to them' },
                { id: 'replace', name: 'take their place' },
              ]}
              value={replace}
              onChange={setReplace}
            />
          )}
        </>
      )}
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button weight="act" isDisabled={blocked} onPress={bringIn}>
          {table ? `Bring in ${plural(table.rows.length, 'wire')}` : 'Bring in'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const Cells = styled.span`
  display: block;
  max-width: 340px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding-right: ${space[3]};
`;
