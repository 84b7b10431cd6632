import { useEffect, useRef, type ReactNode } from 'react';
import { useDrag } from 'react-aria';
import { DropZone } from 'react-aria-components';
import { styled } from 'styled-components';
import { color } from '../ui/theme';

/** What a carried need is called while it is between its list and a cavity. */
export const NEED_TYPE = 'gonyx-need';
export const needItem = (needId: string) => ({ [NEED_TYPE]: needId, 'text/plain': needId });

export interface NeedMoves {
  readonly onLift: (needId: string) => void;
  readonly onDrop: (pinId: string, needId: string) => void;
  /** Carried and let go: on a cavity or beside one. */
  readonly onEnd: () => void;
}

/** The place of one cavity on a face: takes a carried need, and lets the one it serves be carried away. */
export function CavitySlot({
  number,
  pinId,
  needId,
  moves,
  children,
}: {
  number: number;
  pinId: string;
  needId: string | null;
  moves: NeedMoves | null;
  children: ReactNode;
}) {
  if (!moves)
    return (
      <Slot data-cavity={number} style={{ direction: 'ltr' }}>
        {children}
      </Slot>
    );
  const drop = (
    <Drop
      aria-label={`Place on ${pinId}`}
      getDropOperation={(types) => (types.has(NEED_TYPE) ? 'move' : 'cancel')}
      onDrop={(event) => {
        for (const item of event.items)
          if (item.kind === 'text' && item.types.has(NEED_TYPE))
            void item.getText(NEED_TYPE).then((carried) => moves.onDrop(pinId, carried));
      }}
    >
      {children}
    </Drop>
  );
  return needId === null ? (
    <Slot data-cavity={number} style={{ direction: 'ltr' }}>
      {drop}
    </Slot>
  ) : (
    <Carried number={number} needId={needId} moves={moves}>
      {drop}
    </Carried>
  );
}

/** By pointer; the keyboard's way is 'Take in hand' on the pin's card or the list. */
function Carried({
  number,
  needId,
  moves,
  children,
}: {
  number: number;
  needId: string;
  moves: NeedMoves;
  children: ReactNode;
}) {
  const end = useRef(moves.onEnd);
  useEffect(() => {
    end.current = moves.onEnd;
  });
  const { dragProps, isDragging } = useDrag({
    getItems: () => [needItem(needId)],
    getAllowedDropOperations: () => ['move'],
    hasDragButton: true,
    onDragStart: () => moves.onLift(needId),
    onDragEnd: () => end.current(),
  });
  return (
    <Slot {...dragProps} data-cavity={number} style={{ direction: 'ltr', opacity: isDragging ? 0.5 : undefined }}>
      {children}
    </Slot>
  );
}

const Slot = styled.div`
  min-width: 0;
`;
const Drop = styled(DropZone)`
  border-radius: 8px;
  outline: none;
  &[data-drop-target] {
    box-shadow: 0 0 0 3px ${color.selection};
  }
  &[data-focus-visible] {
    outline: 2.5px solid ${color.selection};
  }
`;
