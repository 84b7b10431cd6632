import { useState } from 'react';
import { call } from '~/core/edits';
import type { Finding } from '~/core/rules/rule';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { TextField } from '../../ui/text-field';
import { Small, Stack } from '../../ui/text';
import { InitialsField, useInitials } from '../initials';

/** A finding left as it is, by initials and a sentence that will be read by whoever comes next. */
export function AsideDialog({ finding, onClose }: { finding: Finding; onClose: () => void }) {
  const { edit } = useBuild();
  const [by, setBy] = useInitials();
  const [reason, setReason] = useState(finding.before?.reason ?? '');
  const ready = by.trim() !== '' && reason.trim() !== '';
  const keep = () => {
    if (!ready) return;
    edit(
      call('setAside', {
        findingId: finding.id,
        rule: finding.rule,
        detail: finding.detail,
        by: by.trim(),
        reason: reason.trim(),
        at: new Date().toISOString(),
      }),
    );
    onClose();
  };
  return (
    <Dialog title={`Set ${finding.rule} aside`} isOpen onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <Stack $gap={4}>
          <div>
            <strong>{finding.title}</strong>
            <br />
            <Small>{finding.detail}</Small>
          </div>
          <TextField
            label="Why it may stay as it is"
            value={reason}
            onChange={setReason}
            maxLength={300}
            autoFocus
            placeholder="one sentence"
          />
          <InitialsField label="Who says so" by={by} onBy={setBy} />
          <Small>
            It stays in sight, is printed in the book with your reason, and stands again when its figures change.
          </Small>
          <DialogActions>
            <Button onPress={onClose}>Leave it standing</Button>
            <Button weight="act" type="submit" isDisabled={!ready}>
              Set aside
            </Button>
          </DialogActions>
        </Stack>
      </form>
    </Dialog>
  );
}
