import { Redo2, Undo2 } from 'lucide-react';
import { memo, useEffect } from 'react';
import { TooltipTrigger } from 'react-aria-components';
import { useBuild } from '../../build/context';
import { IconButton, Tip } from './icon-button';

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** A field that always has the focus, and nothing in it to undo: the sheet's own undo is meant. */
const isIdle = (target: EventTarget | null) =>
  target instanceof HTMLInputElement && target.dataset.undo === 'sheet' && target.value === '';

export const UndoButtons = memo(function UndoButtons() {
  const { view, undo, redo } = useBuild();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || (isTyping(event.target) && !isIdle(event.target))) return;
      const key = event.key.toLowerCase();
      if (key === 'z' && !event.shiftKey) {
        event.preventDefault();
        undo();
      } else if (key === 'y' || (key === 'z' && event.shiftKey)) {
        event.preventDefault();
        redo();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [undo, redo]);
  return (
    <>
      <TooltipTrigger delay={300}>
        <IconButton
          aria-label={view.undoLabel ? `Undo: ${view.undoLabel}` : 'Undo'}
          isDisabled={!view.undoLabel}
          onPress={undo}
        >
          <Undo2 size={19} aria-hidden />
        </IconButton>
        <Tip>Undo {view.undoLabel} (Ctrl Z)</Tip>
      </TooltipTrigger>
      <TooltipTrigger delay={300}>
        <IconButton
          aria-label={view.redoLabel ? `Do again: ${view.redoLabel}` : 'Do again'}
          isDisabled={!view.redoLabel}
          onPress={redo}
        >
          <Redo2 size={19} aria-hidden />
        </IconButton>
        <Tip>Do again {view.redoLabel} (Ctrl Y)</Tip>
      </TooltipTrigger>
    </>
  );
});
