import { type ReactNode } from 'react';

import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import type { CarReading } from '~/core/circuit/car';
import type { DrawnNode } from '~/core/drawing/feeds';
import { type EndKey } from '~/core/ends/ends';
import { formatVolts } from '~/core/units/format';

import { VisuallyHidden } from '../../ui/text';
import { color, shape, space, type } from '../../ui/theme';

/** Signs of parts, drawn in a field of 48 by 18. */
const signs: Partial<Record<DrawnNode['kind'], ReactNode>> = {
  fuse: <path d="M2 9c7-12 15 12 22 0s15 12 22 0" fill="none" stroke="currentColor" strokeWidth="1.4" />,
  relay: (
    <g fill="none" stroke="currentColor" strokeWidth="1.4">
      <path d="M2 12h14l16-8M32 12h14" />
      <circle cx="16" cy="12" r="1.8" fill="currentColor" />
      <circle cx="32" cy="12" r="1.8" fill="currentColor" />
    </g>
  ),
};
const ClosedContact = () => (
  <g fill="none" stroke="currentColor" strokeWidth="1.4">
    <path d="M2 12h44" />
    <circle cx="16" cy="12" r="1.8" fill="currentColor" />
    <circle cx="32" cy="12" r="1.8" fill="currentColor" />
  </g>
);

const controlWords = {
  need: 'by ECU',
  'main-relay-pin': 'by ECU',
  'key-run': 'by key',
  'key-start': 'by start',
  wired: 'wired',
} as const;

/** What the drawing reads its figures from. */
export interface Figures {
  readonly reading: CarReading;
  readonly fuses: ReadonlyMap<string, number>;
  /** Pins that pull relays in, by the relay. */
  readonly pins: ReadonlyMap<string, string>;
  /** Loads that lose more volts than they may. */
  readonly poor: ReadonlySet<EndKey>;
}

/** What of them one thing shows, as it stands there: two that read alike look alike. */
export interface Shown {
  readonly volts: string;
  readonly fuse: string;
  readonly closed: boolean;
  readonly pin: string;
  readonly isPoor: boolean;
}
export function shownOf(node: DrawnNode, { reading, fuses, pins, poor }: Figures): Shown {
  const name = node.part?.name ?? '';
  const volts = node.kind === 'source' || node.kind === 'load' ? reading.volts(node.end) : null;
  return {
    volts: volts === null ? '' : formatVolts(volts),
    fuse: node.kind === 'fuse' ? `${fuses.get(name)} A` : '',
    closed: node.kind === 'relay' && reading.solution.closedRelays.has(name),
    pin: node.kind === 'relay' ? (pins.get(name) ?? '') : '',
    isPoor: node.kind === 'load' && node.members.some((end) => poor.has(end)),
  };
}

export interface FaceProps extends Shown {
  readonly node: DrawnNode;
  readonly isSelected: boolean;
  readonly onSelect: (node: DrawnNode) => void;
}

/** What a thing shows of itself. */
export function Face({ node, volts, fuse, closed, pin, isPoor, isSelected, onSelect }: FaceProps) {
  const press = () => onSelect(node);
  switch (node.kind) {
    case 'joint':
      return <Joint aria-label={`${node.name}, joint`} data-selected={isSelected} onPress={press} />;
    case 'fuse':
      return (
        <Part data-selected={isSelected} data-adrift={node.adrift} onPress={press}>
          <svg viewBox="0 0 48 18" width="48" height="14" aria-hidden>
            {signs.fuse}
          </svg>
          <VisuallyHidden>{node.name} fuse, </VisuallyHidden>
          <strong>{fuse}</strong>
        </Part>
      );
    case 'relay': {
      const relay = node.part?.part.kind === 'relay' ? node.part.part : null;
      const short = node.name.replace(/ feed$/, '');
      const by = pin !== '' ? `by ${pin}` : relay ? controlWords[relay.control] : '';
      return (
        <Part data-selected={isSelected} data-adrift={node.adrift} onPress={press}>
          <RelayTop>
            <span aria-hidden>30</span>
            <svg viewBox="0 0 48 18" width="48" height="16" aria-hidden>
              {closed ? <ClosedContact /> : signs.relay}
            </svg>
            <span aria-hidden>87</span>
          </RelayTop>
          <RelayFoot>
            <strong>{short}</strong>
            <VisuallyHidden>
              {node.name.slice(short.length)} relay, {closed ? 'closed' : 'open'},{' '}
            </VisuallyHidden>
            <By>{by}</By>
          </RelayFoot>
        </Part>
      );
    }
    case 'source':
      return (
        <Part data-selected={isSelected} onPress={press}>
          <strong>{node.name}</strong>
          <span>{volts}</span>
        </Part>
      );
    case 'inline':
      return (
        <Part data-selected={isSelected} data-adrift={node.adrift} onPress={press}>
          <strong>{node.name}</strong>
        </Part>
      );
    default:
      return (
        <Load data-selected={isSelected} data-adrift={node.adrift} onPress={press}>
          <span>{node.name}</span>
          {volts !== '' && <strong style={isPoor ? { color: color.fix } : undefined}>{volts}</strong>}
        </Load>
      );
  }
}

const Part = styled(Button)`
  display: grid;
  align-content: center;
  justify-items: center;
  width: 100%;
  height: 100%;
  padding: 0 ${space[1]};
  border: 1.5px solid ${color.ink};
  border-radius: ${shape.radius};
  background: ${color.sheet};
  color: ${color.ink};
  font-size: 13px;
  line-height: 1.15;
  cursor: pointer;
  &[data-hovered] {
    background: ${color.raised};
  }
  &[data-selected='true'] {
    border-color: ${color.selection};
    background: ${color.selectionWash};
    box-shadow: 0 0 0 1px ${color.selection};
  }
  &[data-adrift='true'] {
    border-style: dashed;
    border-color: ${color.stop};
  }
`;
const RelayTop = styled.span`
  display: flex;
  align-items: center;
  gap: 6px;
  color: ${color.soft};
  font-size: 12px;
  svg {
    color: ${color.ink};
  }
`;
const RelayFoot = styled.span`
  display: flex;
  justify-content: space-between;
  gap: 6px;
  width: 100%;
  white-space: nowrap;
  overflow: hidden;
  strong {
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;
const By = styled.span`
  flex: none;
  font-family: ${type.mono};
  font-size: 12px;
  color: ${color.selection};
`;
const Load = styled(Part)`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: ${space[2]};
  padding: 0 ${space[2]};
  text-align: left;
  & > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  & > strong {
    flex: none;
    font-variant-numeric: tabular-nums;
  }
`;
const Joint = styled(Button)`
  width: 12px;
  height: 12px;
  padding: 0;
  border: 0;
  border-radius: 50%;
  background: ${color.ink};
  cursor: pointer;
  /* What is pressed is larger than what is seen. */
  &::after {
    content: '';
    position: absolute;
    inset: -9px;
  }
  &[data-selected='true'] {
    background: ${color.selection};
    box-shadow: 0 0 0 3px ${color.selectionWash};
  }
`;
