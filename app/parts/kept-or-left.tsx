import { Button } from '../ui/button';
import { DialogActions } from '../ui/dialog';

/** How a dialog ends whose draft is kept, left, or what was kept before forgotten. */
export function KeptOrLeft({
  canKeep,
  canForget,
  onEnd,
  onClose,
}: {
  canKeep: boolean;
  canForget: boolean;
  /** Kept, or forgotten. */
  onEnd: (end: 'keep' | 'forget') => void;
  onClose: () => void;
}) {
  const end = (how: 'keep' | 'forget') => () => {
    onEnd(how);
    onClose();
  };
  return (
    <DialogActions>
      {canForget && (
        <Button weight="quiet" onPress={end('forget')}>
          Forget it
        </Button>
      )}
      <Button weight="quiet" onPress={onClose}>
        Cancel
      </Button>
      <Button weight="act" isDisabled={!canKeep} onPress={end('keep')}>
        Keep
      </Button>
    </DialogActions>
  );
}
