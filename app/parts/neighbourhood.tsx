import { Check, CheckCheck, X } from 'lucide-react';
import { memo } from 'react';
import { styled } from 'styled-components';
import { isSame } from '~/core/data/keep-same';
import { cavityPlace, faceOf } from '~/core/ecu/face';
import type { Connector } from '~/core/ecu/ecu';
import { VisuallyHidden } from '../ui/text';
import { color, shape, space, type } from '../ui/theme';
import type { FaceSide } from './connector-face';
import type { FaceCavity } from './face-cavity';

/** Cavities to either side that are drawn: three hands' breadths of a connector. */
const AROUND = 2;

interface Seen {
  readonly cavity: number;
  /** Columns from the cavity in hand, halves for staggered rows; to the right is more. */
  readonly across: number;
  /** Rows from it; down is more. */
  readonly down: number;
}

/** Cavities about one, as they lie on the face: two to either side, one row up and down. */
export function around(connector: Connector, cavity: number, side: FaceSide): Seen[] {
  const own = cavityPlace(connector, cavity);
  const shift = (row: number) => (connector.staggered && row % 2 === 0 ? 0.5 : 0);
  return faceOf(connector).flatMap((one) => {
    const across = one.place + shift(one.row) - own.place - shift(own.row);
    const down = one.row - own.row;
    if (Math.abs(across) > AROUND + 0.5 || Math.abs(down) > 1) return [];
    return [{ cavity: one.cavity, across: side === 'mating' ? -across : across, down }];
  });
}

/**
 * The cavity in hand with those about it, large enough to be read at arm's length. Where it lies on the whole face is told
 * by the little map beside it.
 */
export const Neighbourhood = memo(function Neighbourhood({
  connector,
  cavity,
  cavities,
  side,
  touched,
  name,
  onPress,
}: {
  connector: Connector;
  cavity: number;
  cavities: readonly FaceCavity[];
  side: FaceSide;
  /** Pin of the moving probe. */
  touched?: string;
  /** What the plug is called; absent: the connector's own letter. */
  name?: string;
  onPress: (pinId: string) => void;
}) {
  const byNumber = new Map(cavities.map((one) => [one.cavity, one]));
  const seen = around(connector, cavity, side);
  const rows = [...new Set(seen.map(({ down }) => down))].sort((one, other) => one - other);
  const { row, place } = cavityPlace(connector, cavity);
  // Staggered rows reach half a cavity to either side.
  const first = connector.staggered ? 2 : 1;
  const longest = Math.max(...connector.rows);
  return (
    <Frame role="group" aria-label={`About cavity ${cavity} of ${name ?? `connector ${connector.id}`}, ${side} side`}>
      <Rows>
        {rows.map((down) => (
          <Line key={down} style={{ gridTemplateColumns: `repeat(${connector.staggered ? 12 : 10}, minmax(0, 1fr))` }}>
            {seen
              .filter((one) => one.down === down)
              .map(({ cavity: number, across }) => {
                const there = byNumber.get(number);
                const own = number === cavity;
                const state = there?.state ?? 'empty';
                return (
                  <Cell
                    key={number}
                    type="button"
                    disabled={!there}
                    data-own={own}
                    data-touched={there !== undefined && there.pinId === touched}
                    data-state={state}
                    style={{ gridRow: 1, gridColumn: `${Math.round((across + AROUND) * 2) + first} / span 2` }}
                    onClick={() => there && onPress(there.pinId)}
                  >
                    <VisuallyHidden>{there?.spoken ?? `${number}: no pin behind it`}</VisuallyHidden>
                    <Number aria-hidden>{there?.pinId ?? number}</Number>
                    <Words aria-hidden>{there?.text ?? ''}</Words>
                    <Mark aria-hidden>
                      {state === 'proved' && <CheckCheck size={15} strokeWidth={2.6} color={color.proved} />}
                      {state === 'crimped' && <Check size={13} strokeWidth={3} />}
                      {state === 'wrong' && <X size={16} strokeWidth={3} color={color.stop} />}
                    </Mark>
                  </Cell>
                );
              })}
          </Line>
        ))}
      </Rows>
      <Plan aria-hidden viewBox={`0 0 ${longest * 4 + 4} ${connector.rows.length * 5 + 3}`}>
        <rect x="0.5" y="0.5" width={longest * 4 + 3} height={connector.rows.length * 5 + 2} rx="1.5" />
        {faceOf(connector).map((one) => {
          const at = one.place + (connector.staggered && one.row % 2 === 0 ? 0.5 : 0);
          const x = (side === 'mating' ? longest + 1 - at : at) * 4;
          const here = one.row === row && one.place === place;
          return <circle key={one.cavity} cx={x} cy={one.row * 5 - 1} r={here ? 2 : 1} data-here={here} />;
        })}
      </Plan>
    </Frame>
  );
}, isSame);

const Frame = styled.div`
  display: grid;
  gap: ${space[2]};
  max-width: 460px;
`;
const Rows = styled.div`
  display: grid;
  gap: 4px;
  padding: ${space[2]};
  background: var(--housing);
  border: ${shape.line} solid ${color.ink};
  border-radius: 3px;
  overflow: hidden;
`;
const Line = styled.div`
  display: grid;
  gap: 3px;
`;
const Cell = styled.button`
  position: relative;
  height: 58px;
  min-width: 0;
  padding: 3px 2px;
  display: grid;
  grid-template-rows: auto 1fr;
  justify-items: center;
  border: 1.2px solid ${color.ink};
  border-radius: 8px;
  background: ${color.sheet};
  color: ${color.ink};
  line-height: 1.1;
  cursor: pointer;
  &:disabled {
    border-color: ${color.rule};
    color: ${color.soft};
    cursor: default;
  }
  &[data-state='empty'] {
    border-style: dashed;
    color: ${color.soft};
  }
  &[data-state='proved'] {
    background: var(--proved-wash);
  }
  &[data-state='wrong'] {
    border: 2.5px solid ${color.stop};
  }
  &[data-own='true'] {
    background: ${color.pencil};
    border: 2.5px solid ${color.ink};
    color: ${color.onInk};
    svg {
      stroke: ${color.onInk};
    }
  }
  &[data-touched='true'] {
    background: ${color.selection};
    color: ${color.onInk};
  }
`;
const Number = styled.span`
  font-family: ${type.mono};
  font-weight: 700;
  font-size: 17px;
`;
const Words = styled.span`
  font-size: 12px;
  line-height: 1.02;
  white-space: pre-line;
  overflow-wrap: anywhere;
  overflow: hidden;
  max-width: 100%;
  text-align: center;
`;
const Mark = styled.span`
  position: absolute;
  right: 1px;
  bottom: -1px;
`;
const Plan = styled.svg`
  height: 34px;
  justify-self: start;
  rect {
    fill: none;
    stroke: ${color.soft};
    stroke-width: 0.6;
  }
  circle {
    fill: ${color.rule};
  }
  circle[data-here='true'] {
    fill: ${color.pencil};
  }
`;
