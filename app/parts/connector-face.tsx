import { Ban, Check, CheckCheck, Lock, X } from 'lucide-react';
import { memo, useRef, type CSSProperties, type KeyboardEvent } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import type { Mark } from '~/core/build/schema';
import type { Connector } from '~/core/ecu/ecu';
import { cavityAt, cavityPlace, faceOf } from '~/core/ecu/face';
import { VisuallyHidden } from '../ui/text';
import { at, color, shape, type } from '../ui/theme';
import { useStable } from '../ui/use-stable';
import { CavitySlot, type NeedMoves } from './cavity-slot';
import { markGround } from './marks';

/** What one cavity of a face shows. */
export interface FaceCavity {
  readonly cavity: number;
  readonly pinId: string;
  readonly text: string;
  /** Spoken in full. */
  readonly spoken: string;
  /** Letter, tint and pattern of its signal; null shows the bare cavity. */
  readonly mark: Mark | null;
  readonly state: 'empty' | 'wired' | 'crimped' | 'proved' | 'wrong';
  readonly locked: boolean;
  /** The need it serves, when that need may be carried to another cavity. */
  readonly movable?: string | null;
  /** Kept empty by the person. */
  readonly barred?: boolean;
}

export type FaceSide = 'wire' | 'mating';
export type FaceSize = 'small' | 'usual' | 'large';

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
  /** Needs may be carried between the list and the cavities. */
  readonly moves?: NeedMoves;
  readonly size?: FaceSize;
  /** A cavity without a pin behind it was pressed; absent: nothing can be put there. */
  readonly onPlug?: (cavity: number) => void;
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
    const cavity = cavityAt(connector, target.row, bounded);
    const found = root.current?.querySelector<HTMLElement>(`[data-cavity="${cavity}"] button[data-face]`);
    if (!found) return;
    event.preventDefault();
    event.stopPropagation();
    found.focus();
  };
  return { root, onKeyDown };
}

/** True when a cavity shows the same: its mark may be another object that says so. */
const isSameCavity = (one: FaceCavity, other: FaceCavity): boolean =>
  (Object.keys(one) as (keyof FaceCavity)[]).every(
    (key) => one[key] === other[key] || (key === 'mark' && JSON.stringify(one.mark) === JSON.stringify(other.mark)),
  );

interface CavityProps {
  readonly cavity: FaceCavity;
  readonly isSelected: boolean;
  readonly isTouched: boolean | undefined;
  /** Undefined while nothing is in hand. */
  readonly isAble: boolean | undefined;
  readonly isLarge: boolean;
  readonly size: FaceSize;
  readonly moves: NeedMoves | null;
  readonly onPress: (pinId: string) => void;
}

/** One cavity, drawn again only when it shows something else: a face may have hundreds. */
const Cavity = memo(
  function Cavity({ cavity, isSelected, isTouched, isAble, isLarge, size, moves, onPress }: CavityProps) {
    const small = size === 'small';
    const lit = isSelected || isTouched || cavity.state === 'proved' || cavity.state === 'wrong';
    return (
      <CavitySlot number={cavity.cavity} pinId={cavity.pinId} needId={cavity.movable ?? null} moves={moves}>
        <Cell
          data-face
          aria-pressed={isSelected}
          data-selected={isSelected}
          data-touched={isTouched}
          data-state={cavity.state}
          data-able={isAble}
          data-empty={cavity.state === 'empty'}
          data-large={isLarge}
          style={
            cavity.mark && cavity.state !== 'empty' && !(small && lit)
              ? { background: markGround(cavity.mark) }
              : undefined
          }
          onPress={() => onPress(cavity.pinId)}
          $size={size}
        >
          <VisuallyHidden>{cavity.spoken}</VisuallyHidden>
          <Top aria-hidden>
            <span>{cavity.cavity}</span>
            {!small && cavity.locked && <Lock size={11} aria-hidden />}
            {!small && cavity.barred && <Ban size={11} aria-hidden />}
            {!small && <Letter>{cavity.mark && cavity.state !== 'empty' ? cavity.mark.letter : ''}</Letter>}
          </Top>
          {!small && (
            <Text aria-hidden $size={size}>
              {cavity.text}
            </Text>
          )}
          {!small && (
            <Marks aria-hidden>
              {cavity.state === 'wrong' && <X size={16} aria-hidden strokeWidth={3} style={{ color: color.stop }} />}
              {cavity.state === 'crimped' && <Check size={13} aria-hidden strokeWidth={3} />}
              {cavity.state === 'proved' && (
                <CheckCheck size={15} aria-hidden strokeWidth={2.6} style={{ color: color.proved }} />
              )}
            </Marks>
          )}
        </Cell>
      </CavitySlot>
    );
  },
  (one, other) =>
    isSameCavity(one.cavity, other.cavity) &&
    (['isSelected', 'isTouched', 'isAble', 'isLarge', 'size', 'moves', 'onPress'] as const).every(
      (key) => one[key] === other[key],
    ),
);

/** A connector drawn to its geometry, from the wire side or mirrored from the mating side. */
export function ConnectorFace({
  connector,
  cavities,
  side,
  selected,
  touched,
  able,
  onPress,
  moves,
  size = 'usual',
  onPlug,
}: Props) {
  const press = useStable(onPress);
  const mirrored = side === 'mating';
  const small = size === 'small';
  const columns = Math.max(...connector.rows);
  const { root, onKeyDown } = useGridKeys(connector, mirrored);
  const byNumber = new Map(cavities.map((cavity) => [cavity.cavity, cavity]));
  const large = new Set(connector.large?.cavities);
  const rows = connector.rows.map((_, row) =>
    faceOf(connector)
      .filter((place) => place.row === row + 1)
      .sort((one, other) => one.place - other.place),
  );
  return (
    <Housing
      ref={root}
      onKeyDownCapture={onKeyDown}
      role="group"
      aria-label={`Connector ${connector.id}, ${side} side`}
      $small={small}
      style={{ '--columns': columns } as CSSProperties}
    >
      {rows.map((row, rowIndex) => (
        <FaceRow
          key={rowIndex}
          style={{
            gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
            direction: mirrored ? 'rtl' : 'ltr',
            paddingInlineStart: connector.staggered && rowIndex % 2 === 1 ? `${50 / columns}%` : undefined,
            paddingInlineEnd: connector.staggered && rowIndex % 2 === 0 ? `${50 / columns}%` : undefined,
          }}
        >
          {row.map(({ cavity: number }) => {
            const cavity = byNumber.get(number);
            if (!cavity)
              return (
                <Plug
                  key={number}
                  as={onPlug ? 'button' : 'div'}
                  type={onPlug ? 'button' : undefined}
                  onClick={onPlug ? () => onPlug(number) : undefined}
                  $size={size}
                  title={`Cavity ${number}: no pin behind it${onPlug ? '. Press to put one there' : ''}`}
                  aria-label={onPlug ? `Put a pin into cavity ${number}` : undefined}
                >
                  <span aria-hidden>{number}</span>
                </Plug>
              );
            return (
              <Cavity
                key={number}
                cavity={cavity}
                isSelected={selected.has(cavity.pinId)}
                isTouched={touched?.has(cavity.pinId)}
                isAble={able?.has(cavity.pinId)}
                isLarge={large.has(number)}
                size={size}
                moves={moves ?? null}
                onPress={press}
              />
            );
          })}
        </FaceRow>
      ))}
      {connector.keys?.map((key, index) => (
        <Rib
          key={index}
          aria-hidden
          $edge={key.edge}
          $at={mirrored && (key.edge === 'top' || key.edge === 'bottom') ? 1 - key.at : key.at}
          $mirrored={mirrored}
        />
      ))}
    </Housing>
  );
}

const Housing = styled.div<{ $small: boolean }>`
  position: relative;
  display: grid;
  gap: ${({ $small }) => ($small ? '4px' : '3px')};
  padding: ${({ $small }) => ($small ? '8px' : '10px')};
  margin-block: 8px 10px;
  background: var(--housing);
  border: ${shape.line} solid ${color.ink};
  border-radius: 3px;
  min-width: 0;
  ${at.narrow} {
    padding: 6px;
  }
  ${at.print} {
    break-inside: avoid;
    /* Letters as large as a cavity of this many to a row leaves room for. */
    --letters: min(11px, calc(150px / var(--columns)));
    padding: 6px;
  }
`;
/** A rib or notch of the housing, where it keeps the plug from going in the wrong way round. */
const Rib = styled.span<{ $edge: 'top' | 'bottom' | 'left' | 'right'; $at: number; $mirrored: boolean }>`
  position: absolute;
  background: var(--housing);
  border: ${shape.line} solid ${color.ink};
  ${({ $edge, $at, $mirrored }) => {
    const edge = $mirrored && $edge === 'left' ? 'right' : $mirrored && $edge === 'right' ? 'left' : $edge;
    const along = `calc(${Math.round($at * 100)}% - 30px)`;
    if (edge === 'top')
      return `left: ${along}; top: -10px; width: 60px; height: 10px; border-bottom: 0; border-radius: 5px 5px 0 0;`;
    if (edge === 'bottom')
      return `left: ${along}; bottom: -10px; width: 60px; height: 10px; border-top: 0; border-radius: 0 0 5px 5px;`;
    const across = `top: calc(${Math.round($at * 100)}% - 14px); width: 8px; height: 28px;`;
    return edge === 'left'
      ? `${across} left: -8px; border-right: 0; border-radius: 5px 0 0 5px;`
      : `${across} right: -8px; border-left: 0; border-radius: 0 5px 5px 0;`;
  }}
`;
const FaceRow = styled.div`
  display: grid;
  gap: 3px;
`;
const heights: Record<FaceSize, string> = { small: '28px', usual: '50px', large: '78px' };
const Plug = styled.div<{ $size: FaceSize; type?: 'button' }>`
  display: grid;
  place-items: center;
  height: ${({ $size }) => heights[$size]};
  min-width: 0;
  border: 1.2px solid ${color.rule};
  border-radius: 8px;
  color: ${color.soft};
  font-size: ${type.small};
  opacity: 0.7;
  background: none;
  &:is(button) {
    cursor: pointer;
    width: 100%;
    border-style: dashed;
  }
  &:is(button):hover {
    color: ${color.ink};
    border-color: ${color.pencil};
    opacity: 1;
  }
`;
const Cell = styled(AriaButton)<{ $size: FaceSize }>`
  position: relative;
  display: grid;
  grid-template-rows: auto 1fr;
  align-content: space-between;
  width: 100%;
  height: ${({ $size }) => heights[$size]};
  padding: 2px 3px;
  border: 1.2px solid ${color.ink};
  border-radius: 8px;
  background: ${color.sheet};
  color: ${color.ink};
  font-size: ${type.small};
  line-height: 1.15;
  text-align: left;
  cursor: pointer;
  &[data-large='true'] {
    border-width: 2.4px;
  }
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
  &[data-state='wrong'] {
    border: 2.5px solid ${color.stop};
    padding: 1px 2px;
  }
  &[data-selected='true'] {
    border: 2.5px solid ${color.selection};
    font-weight: 700;
    padding: 1px 2px;
  }
  &[data-hovered] {
    filter: brightness(0.97);
  }
  ${({ $size }) =>
    $size === 'small' &&
    `
    grid-template-rows: 1fr; place-items: center; padding: 0;
    &[data-state='proved'] { background: var(--proved-wash); }
    &[data-state='wrong'] { border: 2.5px solid var(--stop); color: var(--stop); font-weight: 700; }
    &[data-selected='true'] { background: var(--pencil); color: var(--on-ink); border-color: var(--ink); }
    &[data-touched='true'] { background: var(--selection); color: var(--on-ink); font-weight: 700; }
  `}
  ${at.narrow} {
    padding: 1px 2px;
  }
  ${at.print} {
    print-color-adjust: exact;
    height: auto;
    min-height: calc(var(--letters) * 5.4);
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
  ${at.print} {
    font-size: calc(var(--letters) * 1.1);
    svg {
      width: calc(var(--letters));
      height: calc(var(--letters));
    }
  }
`;
const Letter = styled.span`
  font-size: 12px;
  ${at.print} {
    font-size: var(--letters);
  }
`;
const Text = styled.span<{ $size: FaceSize }>`
  font-size: ${({ $size }) => ($size === 'large' ? '15px' : '12px')};
  overflow: hidden;
  line-height: 1.12;
  white-space: pre;
  letter-spacing: -0.02em;
  text-align: center;
  ${at.narrow} {
    display: none;
  }
  ${at.print} {
    display: block;
    font-size: var(--letters);
    letter-spacing: 0;
  }
`;
const Marks = styled.span`
  position: absolute;
  right: 2px;
  bottom: 0;
  display: inline-flex;
  align-items: center;
`;
