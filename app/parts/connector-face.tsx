import { Check, Lock } from 'lucide-react';
import { useRef, type KeyboardEvent } from 'react';
import { Button as AriaButton, DropZone } from 'react-aria-components';
import { styled } from 'styled-components';
import type { Connector } from '~/core/ecu/ecu';
import { cavityPlace } from '~/core/ecu/face';
import { signalClasses, type SignalClass } from '~/core/netlist/colours';
import { VisuallyHidden } from '../ui/text';
import { at, color, shape, type } from '../ui/theme';

/** What one cavity of a face shows. */
export interface FaceCavity {
  readonly cavity: number;
  readonly pinId: string;
  readonly text: string;
  /** Spoken in full. */
  readonly spoken: string;
  readonly signal: SignalClass | null;
  readonly state: 'empty' | 'wired' | 'proved';
  readonly locked: boolean;
}

export type FaceSide = 'wire' | 'mating';
export const NEED_TYPE = 'gonyx-need';

interface Props {
  readonly connector: Connector;
  readonly cavities: readonly FaceCavity[];
  readonly side: FaceSide;
  readonly selected: ReadonlySet<string>;
  /** Cavities of the moving probe, marked apart from the one held. */
  readonly touched?: ReadonlySet<string>;
  /** Pins that could take what is in hand; null when nothing is. */
  readonly able: ReadonlySet<string> | null;
  readonly onPress: (pinId: string) => void;
  readonly onDropNeed?: (pinId: string, needId: string) => void;
  readonly small?: boolean;
}

/** Moves focus over the grid by arrow keys: one tab stop for a whole face. */
function useGridKeys(connector: Connector, mirrored: boolean) {
  const root = useRef<HTMLDivElement>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    const now = (document.activeElement as HTMLElement | null)?.closest<HTMLElement>('[data-cavity]')?.dataset.cavity;
    if (now === undefined || !event.key.startsWith('Arrow')) return;
    const { row, place } = cavityPlace(connector, Number(now));
    const step = mirrored ? -1 : 1;
    const target = {
      ArrowLeft: { row, place: place - step },
      ArrowRight: { row, place: place + step },
      ArrowUp: { row: row - 1, place },
      ArrowDown: { row: row + 1, place },
    }[event.key];
    if (!target || target.row < 1 || target.row > connector.rows.length) return;
    const bounded = Math.min(Math.max(1, target.place), connector.rows[target.row - 1]);
    const cavity = connector.rows.slice(0, target.row - 1).reduce((sum, count) => sum + count, 0) + bounded;
    const found = root.current?.querySelector<HTMLElement>(`[data-cavity="${cavity}"] button[data-face]`);
    if (!found) return;
    event.preventDefault();
    event.stopPropagation();
    found.focus();
  };
  return { root, onKeyDown };
}

/** A connector drawn to its rows, from the wire side or mirrored from the mating side. */
export function ConnectorFace({
  connector,
  cavities,
  side,
  selected,
  touched,
  able,
  onPress,
  onDropNeed,
  small = false,
}: Props) {
  const mirrored = side === 'mating';
  const columns = Math.max(...connector.rows);
  const { root, onKeyDown } = useGridKeys(connector, mirrored);
  return (
    <Housing
      ref={root}
      onKeyDownCapture={onKeyDown}
      role="group"
      aria-label={`Connector ${connector.id}, ${side} side`}
      $small={small}
    >
      {connector.rows.map((count, rowIndex) => {
        const start = connector.rows.slice(0, rowIndex).reduce((sum, one) => sum + one, 0);
        const row = cavities.slice(start, start + count);
        return (
          <FaceRow
            key={rowIndex}
            style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`, direction: mirrored ? 'rtl' : 'ltr' }}
          >
            {row.map((cavity) => {
              const canTake = able === null ? undefined : able.has(cavity.pinId);
              const button = (
                <Cell
                  data-face
                  aria-pressed={selected.has(cavity.pinId)}
                  data-selected={selected.has(cavity.pinId)}
                  data-touched={touched?.has(cavity.pinId)}
                  data-state={cavity.state}
                  data-able={canTake}
                  data-empty={cavity.state === 'empty'}
                  style={
                    cavity.signal &&
                    cavity.state !== 'empty' &&
                    !(small && (selected.has(cavity.pinId) || touched?.has(cavity.pinId) || cavity.state === 'proved'))
                      ? { background: `var(--class-${cavity.signal})` }
                      : undefined
                  }
                  onPress={() => onPress(cavity.pinId)}
                  $small={small}
                >
                  <VisuallyHidden>{cavity.spoken}</VisuallyHidden>
                  <Top aria-hidden>
                    <span>{cavity.cavity}</span>
                    {!small && cavity.locked && <Lock size={11} aria-hidden />}
                    {!small && (
                      <Letter>{cavity.signal && cavity.state !== 'empty' ? signalClasses[cavity.signal] : ''}</Letter>
                    )}
                  </Top>
                  {!small && <Text aria-hidden>{cavity.text}</Text>}
                  {!small && (
                    <Marks aria-hidden>
                      {cavity.state === 'proved' && (
                        <Check size={14} aria-hidden strokeWidth={3} style={{ color: color.proved }} />
                      )}
                    </Marks>
                  )}
                </Cell>
              );
              return (
                <Slot key={cavity.pinId} data-cavity={cavity.cavity} style={{ direction: 'ltr' }}>
                  {onDropNeed ? (
                    <Drop
                      aria-label={`Place on ${cavity.pinId}`}
                      getDropOperation={(types) => (types.has(NEED_TYPE) ? 'move' : 'cancel')}
                      onDrop={(event) => {
                        for (const item of event.items)
                          if (item.kind === 'text' && item.types.has(NEED_TYPE))
                            void item.getText(NEED_TYPE).then((needId) => onDropNeed(cavity.pinId, needId));
                      }}
                    >
                      {button}
                    </Drop>
                  ) : (
                    button
                  )}
                </Slot>
              );
            })}
          </FaceRow>
        );
      })}
      <Key aria-hidden viewBox="0 0 120 14" preserveAspectRatio="none" $mirrored={mirrored}>
        <path
          d="M0 0 L20 12 H100 L120 0"
          fill="var(--housing)"
          stroke="currentColor"
          strokeWidth="1.5"
          vectorEffect="non-scaling-stroke"
        />
      </Key>
    </Housing>
  );
}

const Housing = styled.div<{ $small: boolean }>`
  position: relative;
  display: grid;
  gap: ${({ $small }) => ($small ? '4px' : '3px')};
  padding: ${({ $small }) => ($small ? '8px' : '10px')};
  margin-bottom: 14px;
  background: var(--housing);
  border: ${shape.line} solid ${color.ink};
  border-radius: 3px;
  min-width: 0;
  ${at.narrow} {
    padding: 6px;
  }
`;
const Key = styled.svg<{ $mirrored: boolean }>`
  position: absolute;
  bottom: -12px;
  ${({ $mirrored }) => ($mirrored ? 'right: 42%' : 'left: 42%')};
  width: 80px;
  height: 12px;
  color: ${color.ink};
`;
const FaceRow = styled.div`
  display: grid;
  gap: 3px;
`;
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
const Cell = styled(AriaButton)<{ $small: boolean }>`
  position: relative;
  display: grid;
  grid-template-rows: auto 1fr;
  align-content: space-between;
  width: 100%;
  height: ${({ $small }) => ($small ? '28px' : '50px')};
  padding: 2px 3px;
  border: 1.2px solid ${color.ink};
  border-radius: 8px;
  background: ${color.sheet};
  font-size: ${type.small};
  line-height: 1.15;
  text-align: left;
  cursor: pointer;
  &[data-empty='true'] {
    border: 1.5px dashed ${color.soft};
    color: ${color.soft};
  }
  &[data-able='false'] {
    opacity: 0.38;
  }
  &[data-able='true'] {
    box-shadow: 0 0 0 2px ${color.pencil};
  }
  &[data-selected='true'] {
    border: 2.5px solid ${color.selection};
    font-weight: 700;
    padding: 1px 2px;
  }
  &[data-hovered] {
    filter: brightness(0.97);
  }
  ${({ $small }) =>
    $small &&
    `
    grid-template-rows: 1fr; place-items: center; padding: 0;
    &[data-state='proved'] { background: var(--proved-wash); }
    &[data-selected='true'] { background: var(--pencil); color: var(--on-ink); border-color: var(--ink); }
    &[data-touched='true'] { background: var(--selection); color: var(--on-ink); font-weight: 700; }
  `}
  ${at.narrow} {
    padding: 1px 2px;
  }
`;
const Top = styled.span`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 2px;
  padding: 0 2px;
  ${at.narrow} {
    flex-direction: column;
    gap: 0;
    svg {
      display: none;
    }
  }
`;
const Letter = styled.span`
  font-size: 12px;
`;
const Text = styled.span`
  font-size: 12px;
  overflow: hidden;
  line-height: 1.12;
  white-space: pre;
  letter-spacing: -0.02em;
  text-align: center;
  ${at.narrow} {
    display: none;
  }
`;
const Marks = styled.span`
  position: absolute;
  right: 2px;
  bottom: 0;
  display: inline-flex;
  align-items: center;
`;
