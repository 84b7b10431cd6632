import { useState } from 'react';
import { Form } from 'react-aria-components';
import { useNavigate } from 'react-router';
import { styled } from 'styled-components';
import type { ImportPreview } from '../storage/garage';
import { Button } from '../ui/button';
import { Dialog, DialogActions } from '../ui/dialog';
import { TextField } from '../ui/text-field';
import { Small, Soft, Stack } from '../ui/text';
import { color, space } from '../ui/theme';

export function RenameDialog({
  name: start,
  onRename,
  onClose,
}: {
  name: string;
  onRename: (name: string) => void;
  onClose: () => void;
}) {
  const [name, setName] = useState(start);
  return (
    <Dialog title="Rename the build" isOpen onClose={onClose}>
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() !== '') onRename(name.trim());
        }}
      >
        <TextField label="Name" value={name} onChange={setName} autoFocus maxLength={80} />
        <DialogActions>
          <Button weight="act" type="submit" isDisabled={name.trim() === ''}>
            Rename
          </Button>
        </DialogActions>
      </Form>
    </Dialog>
  );
}

export function ImportDialog({ preview, onClose }: { preview: ImportPreview; onClose: () => void }) {
  const { build } = preview;
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);
  const keep = async () => {
    const { keepBuild } = await import('../storage/garage');
    const kept = await keepBuild(build, preview.photos);
    if (kept.ok) void navigate(`/build/${kept.value}/survey`);
    else setProblem(kept.problem.sentence);
  };
  return (
    <Dialog title="Import this build?" isOpen onClose={onClose}>
      <Stack $gap={2}>
        <p>
          <strong>{build.name}</strong>
          {build.vehicle && <Soft>, {build.vehicle}</Soft>}
        </p>
        <p>
          {build.engine.name} on {build.ecu.model}. {build.devices.length} devices,{' '}
          {Object.keys(build.assignments).length} pins placed, {Object.keys(build.prove.readings).length} readings,{' '}
          {build.revisions.length} revisions, {preview.photos.size} photographs.
          {preview.missingPhotos > 0 && ` ${preview.missingPhotos} more photographs are not in this file.`}
        </p>
        <Small>
          {preview.fileName}, {(preview.bytes / 1000).toFixed(0)} kB. It is kept beside the builds you have; none is
          overwritten.
        </Small>
        {problem && <Bad role="alert">{problem}</Bad>}
      </Stack>
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button weight="act" onPress={() => void keep()}>
          Import
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const Bad = styled.p`
  padding: ${space[2]} ${space[3]};
  border-left: 4px solid ${color.stop};
  color: ${color.stop};
`;
