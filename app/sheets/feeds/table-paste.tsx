import { useState } from 'react';
import { changesWords, feedTable, readFeedTable } from '~/core/ways/feed-table';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Row, Small, Stack } from '../../ui/text';
import { TextAreaField } from '../../ui/text-area';

/** The table out to a spreadsheet, and back from it. */
export function TablePaste() {
  const { build, derived, edit } = useBuild();
  const { circuits } = derived.net;
  const [isOpen, setOpen] = useState(false);
  const [text, setText] = useState('');
  const [said, setSaid] = useState('');
  const read = text.trim() === '' ? null : readFeedTable(text, circuits, build);
  const copy = () =>
    navigator.clipboard.writeText(feedTable(circuits, build)).then(
      () => setSaid('Copied: paste it into a spreadsheet.'),
      () => setSaid('The browser refused the clipboard: select the table and copy it by hand.'),
    );
  const close = () => {
    setOpen(false);
    setText('');
  };
  return (
    <Row $gap={3}>
      <Button onPress={() => void copy()}>Copy table</Button>
      <Button onPress={() => setOpen(true)}>Paste table</Button>
      <Small role="status">{said || 'To a spreadsheet, and back from it.'}</Small>
      <Dialog title="Paste a table of feeds" isOpen={isOpen} onClose={close} wide>
        <Stack $gap={3}>
          <TextAreaField
            label="Table"
            hint="As it is copied here and changed in a spreadsheet: fuse, wire and lengths are read, an empty cell is left as it is, ‘derived’ takes Gonyx’ own figure again."
            rows={10}
            value={text}
            onChange={setText}
            error={read && !read.ok ? read.problem.sentence : undefined}
          />
          {read?.ok && (
            <div role="status">
              <strong>{changesWords(read.value)}</strong>
              <ul>
                {read.value.words.map((words) => (
                  <li key={words}>
                    <Small>{words}</Small>
                  </li>
                ))}
              </ul>
            </div>
          )}
        </Stack>
        <DialogActions>
          <Button onPress={close}>Cancel</Button>
          <Button
            weight="act"
            isDisabled={!read?.ok || read.value.calls.length === 0}
            onPress={() => {
              if (read?.ok) edit(...read.value.calls);
              close();
            }}
          >
            Take it
          </Button>
        </DialogActions>
      </Dialog>
    </Row>
  );
}
