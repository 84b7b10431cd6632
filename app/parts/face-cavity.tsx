import { Ban, Check, CheckCheck, Lock, X } from 'lucide-react';
import { memo } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import type { Mark } from '~/core/build/schema';
import { VisuallyHidden } from '../ui/text';
import { at, color, type } from '../ui/theme';
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

export type FaceSize = 'small' | 'usual' | 'large';

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
export const Cavity = memo(
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

export const heights: Record<FaceSize, string> = { small: '28px', usual: '50px', large: '78px' };
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
