import { Check, X } from 'lucide-react';
import { memo } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { isSame } from '~/core/data/keep-same';
import { withId } from '~/core/data/with-id';
import { endOf, endType, portOf } from '~/core/ends/ends';
import { labelOf } from '~/core/netlist/label';
import type { Hop } from '~/core/netlist/run';
import { readLength } from '~/core/units/workshop';
import { readSize, shortSize } from '~/core/wire/size';
import { readingWords, type Reading } from '~/core/circuit/reading';
import { formatOhms } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { Soft } from '../../ui/text';
import { color, shape, space, type } from '../../ui/theme';
import { WireLine, WireMark } from '../wire-mark';

export type HopState = 'right' | 'wrong' | null;

const StateMark = ({ state }: { state: HopState }) => (
  <>
    {state === 'right' && <Check size={15} aria-label="proved" style={{ color: color.proved }} />}
    {state === 'wrong' && <X size={15} aria-label="read wrong" style={{ color: color.stop }} />}
  </>
);

/** What stands at a hop, in two short lines. */
function useHopWords(hop: Hop, volts: Reading | null, readIn: string) {
  const { build, derived } = useBuild();
  const ref = endOf(hop.end);
  const pin = ref.of === 'ecu' ? withId(build.ecu.pins, ref.pin) : undefined;
  return {
    label: labelOf(derived.net, hop.end),
    place: pin?.label ?? (endType(hop.end) === 'splice' ? 'joint' : portOf(hop.end)),
    volts: volts !== null ? `${readingWords(volts)} ${readIn}` : null,
  };
}

export interface HopProps {
  readonly hop: Hop;
  readonly volts: Reading | null;
  /** The state of the car those are read in. */
  readonly readIn: string;
  readonly selected: boolean;
  readonly state: HopState;
  readonly onGo: (hop: Hop) => void;
}

/** A hop as it stands in the strip, drawn again only when it says something else. */
export const HopBox = memo(function HopBox({ hop, volts, readIn, selected, state, onGo }: HopProps) {
  const { build } = useBuild();
  const words = useHopWords(hop, volts, readIn);
  return (
    <>
      <Box data-selected={selected} onPress={() => onGo(hop)}>
        <strong>
          {words.label}
          <StateMark state={state} />
        </strong>
        <Soft>{volts !== null ? words.volts : words.place}</Soft>
      </Box>
      {hop.next &&
        ('wire' in hop.next ? (
          <WireBox>
            <span>
              {hop.next.wire.colour} {shortSize(hop.next.wire.squareMm, build)}
            </span>
            <WireLine
              colour={hop.next.wire.colour}
              dashed={hop.next.wire.shield === 'ecu-end' || hop.next.wire.shield === 'both-ends'}
            />
            <Soft>
              {readLength(hop.next.wire.lengthMetres, build)} · {formatOhms(hop.next.wire.ohms)}
            </Soft>
          </WireBox>
        ) : (
          <Through>{hop.next.through}</Through>
        ))}
    </>
  );
}, isSame);

/** The same hop in the drawer, where there is room for all of it. */
export function HopRow({ hop, volts, readIn, selected, state, onGo }: HopProps) {
  const { build } = useBuild();
  const words = useHopWords(hop, volts, readIn);
  return (
    <li>
      <Row data-selected={selected} onPress={() => onGo(hop)}>
        <strong>
          {words.label} <StateMark state={state} />
        </strong>
        <span>{words.place}</span>
        <span>{words.volts}</span>
      </Row>
      {hop.next &&
        ('wire' in hop.next ? (
          <Between>
            <WireMark colour={hop.next.wire.colour} /> {readSize(hop.next.wire.squareMm, build)} ·{' '}
            {readLength(hop.next.wire.lengthMetres, build)} · {formatOhms(hop.next.wire.ohms)}
          </Between>
        ) : (
          <Between>through {hop.next.through}</Between>
        ))}
    </li>
  );
}

const Box = styled(AriaButton)`
  display: grid;
  justify-items: center;
  align-content: center;
  flex: none;
  min-width: 84px;
  max-width: 170px;
  height: 46px;
  padding: 1px ${space[2]};
  border: ${shape.line} solid ${color.ink};
  border-radius: ${shape.radius};
  background: ${color.sheet};
  font-size: 12px;
  line-height: 1.3;
  cursor: pointer;
  strong,
  span {
    max-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  strong {
    font-size: ${type.small};
  }
  strong svg {
    translate: 2px 2px;
  }
  &[data-selected='true'] {
    border-color: ${color.selection};
    box-shadow: 0 0 0 1.5px ${color.selection};
  }
  &[data-hovered] {
    background: ${color.raised};
  }
`;
const WireBox = styled.div`
  display: grid;
  justify-items: center;
  align-content: center;
  min-width: 104px;
  flex: none;
  font-size: 12px;
  line-height: 1.2;
  white-space: nowrap;
  & > span:first-child {
    font-weight: 700;
  }
`;
const Through = styled.div`
  align-self: center;
  flex: none;
  padding: 0 ${space[2]};
  font-size: 12px;
  color: ${color.soft};
  border-block: ${shape.line} dashed ${color.soft};
`;
const Row = styled(AriaButton)`
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr) minmax(0, 170px);
  gap: ${space[3]};
  width: 100%;
  max-width: 640px;
  min-height: 32px;
  align-items: center;
  padding: 2px ${space[3]};
  border: ${shape.hair} solid ${color.ink};
  border-radius: ${shape.radius};
  background: none;
  text-align: left;
  cursor: pointer;
  &[data-selected='true'] {
    border-color: ${color.selection};
    box-shadow: 0 0 0 1px ${color.selection};
  }
  &[data-hovered] {
    background: ${color.raised};
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
  }
`;
const Between = styled.div`
  margin-left: ${space[5]};
  padding: 2px ${space[3]};
  border-left: 3px solid ${color.ink};
  color: ${color.soft};
`;
