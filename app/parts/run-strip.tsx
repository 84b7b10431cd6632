import { withId } from '~/core/data/with-id';
import { Check, ChevronUp, X } from 'lucide-react';
import { memo, useMemo, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { expectRun } from '~/core/prove/expect';
import { endOf, endType, portOf, type EndKey } from '~/core/ends/ends';
import { runOf, type Hop, type Selection } from '~/core/netlist/run';
import { labelOf } from '~/core/netlist/label';
import type { Wire } from '~/core/netlist/netlist';
import type { SheetId } from '~/core/rules/rule';
import { formatMetres, formatOhms, formatVolts } from '~/core/units/format';
import { useBuild, useLater } from '../build/context';
import { Soft } from '../ui/text';
import { at, color, shape, space, type } from '../ui/theme';
import { WireLine } from './wire-mark';

const homeSheet: Record<string, SheetId> = {
  ecu: 'allot',
  dev: 'survey',
  fuse: 'feeds',
  relay: 'feeds',
  gnd: 'feeds',
  bat: 'feeds',
  key: 'feeds',
  splice: 'loom',
};
const when = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' }).format(
    new Date(iso),
  );

function WireHop({ wire }: { wire: Wire }) {
  return (
    <WireBox>
      <span>
        {wire.colour} {wire.squareMm}
      </span>
      <WireLine colour={wire.colour} dashed={wire.shield === 'ecu-end' || wire.shield === 'both-ends'} />
      <Soft>
        {formatMetres(wire.lengthMetres)} · {formatOhms(wire.ohms)}
      </Soft>
    </WireBox>
  );
}

function HopBox({
  hop,
  volts,
  selected,
  state,
}: {
  hop: Hop;
  volts: number | null;
  selected: boolean;
  state: 'right' | 'wrong' | null;
}) {
  const { build, derived, select, goTo } = useBuild();
  const ref = endOf(hop.end);
  const label = labelOf(derived.net, hop.end);
  const pin = ref.of === 'ecu' ? withId(build.ecu.pins, ref.pin) : undefined;
  const note =
    pin?.label ??
    (volts !== null ? `${formatVolts(volts)} key on` : endType(hop.end) === 'splice' ? 'joint' : portOf(hop.end));
  return (
    <Box
      data-selected={selected}
      onPress={() => {
        select({ type: 'end', end: hop.end });
        goTo(homeSheet[endType(hop.end)]);
      }}
    >
      <strong>
        {label}
        {state === 'right' && <Check size={15} aria-label="proved" style={{ color: color.proved }} />}
        {state === 'wrong' && <X size={15} aria-label="read wrong" style={{ color: color.stop }} />}
      </strong>
      <Soft>{note}</Soft>
    </Box>
  );
}

/** The signature strip: the whole run of whatever is selected, hop by hop. On a phone it is a drawer. */
export const RunStrip = memo(function RunStrip({ showing }: { showing?: Selection }) {
  const { selection: chosen } = useBuild();
  const derived = useLater();
  const { build, net } = derived;
  const selection = showing ?? chosen;
  const [open, setOpen] = useState(false);
  const run = useMemo(() => (selection ? runOf(net, selection) : null), [net, selection]);
  // Only a run on show asks for a circuit that is solved.
  const expectation = useMemo(
    () => (run ? expectRun(derived.build, derived.net, derived.tests, run, derived.keyOn) : null),
    [derived, run],
  );
  const stateAt = (end: EndKey): 'right' | 'wrong' | null => {
    const wires = derived.net.wiresAt.get(end) ?? [];
    if (wires.some((wire) => run?.wires.includes(wire) && derived.progress.wrongWires.has(wire.id))) return 'wrong';
    const touching = derived.tests.filter(
      (test) =>
        test.kind === 'continuity' && (test.touch === end || test.hold === end) && build.prove.readings[test.id],
    );
    if (touching.length === 0) return null;
    return wires.every((wire) => derived.progress.proved.has(wire.id)) ? 'right' : null;
  };
  return (
    <Strip aria-label="The run" data-open={open}>
      <Handle onPress={() => setOpen(!open)} aria-expanded={open}>
        <ChevronUp size={16} aria-hidden />
        {run ? `The run of ${run.title}` : 'The run'}
      </Handle>
      <Body>
        <Title>{run ? `The run of ${run.title}` : 'The run'}</Title>
        {run && expectation ? (
          <>
            <Hops tabIndex={0} role="group" aria-label={`Run of ${run.title}, ${run.hops.length} hops`}>
              {run.hops.map((hop, index) => (
                <HopPair key={hop.end}>
                  <HopBox
                    hop={hop}
                    volts={expectation.keyOnVolts[index]}
                    selected={selection?.type === 'end' && selection.end === hop.end}
                    state={stateAt(hop.end)}
                  />
                  {hop.next &&
                    ('wire' in hop.next ? <WireHop wire={hop.next.wire} /> : <Through>{hop.next.through}</Through>)}
                </HopPair>
              ))}
            </Hops>
            <p>
              {expectation.test && (
                <>
                  Expect <strong>{formatOhms(expectation.test.expected)}</strong>{' '}
                  {expectation.test.touch === run.hops[run.hops.length - 1].end ||
                  expectation.test.hold === run.hops[run.hops.length - 1].end
                    ? 'end to end'
                    : 'on the first wire'}
                  , up to {formatOhms(expectation.test.limit)}.{' '}
                </>
              )}
              {expectation.measured ? (
                <>
                  Measured{' '}
                  <strong style={{ color: expectation.measured.right ? color.proved : color.stop }}>
                    {expectation.measured.beep ? 'a beep, no figure' : formatOhms(expectation.measured.ohms)}{' '}
                    {expectation.measured.right ? '✓' : '✗'}
                  </strong>{' '}
                  <Soft>
                    {when(expectation.measured.at)}, leads {formatOhms(build.prove.leadOhms)} taken off
                  </Soft>
                </>
              ) : (
                expectation.test && <Soft>Not measured yet.</Soft>
              )}
              {run.branches.length > 0 && (
                <Soft>
                  {' '}
                  Also joined:{' '}
                  {run.branches
                    .slice(0, 4)
                    .map((end) => labelOf(derived.net, end))
                    .join(', ')}
                  {run.branches.length > 4 ? ` and ${run.branches.length - 4} more` : ''}.
                </Soft>
              )}
            </p>
          </>
        ) : (
          <Soft>
            {selection
              ? 'This has no wire yet: place it on a pin first.'
              : 'Select a pin, a wire, a device or a reading anywhere: its whole run is drawn here.'}
          </Soft>
        )}
      </Body>
    </Strip>
  );
});

const Strip = styled.section`
  min-width: 0;
  ${at.narrow} {
    position: fixed;
    inset: auto 0 61px 0;
    z-index: 9;
    background: ${color.sheet};
    border-top: ${shape.line} solid ${color.ink};
    padding: 0 ${space[3]};
    &[data-open='false'] > div {
      display: none;
    }
  }
  ${at.print} {
    display: none;
  }
`;
const Handle = styled(AriaButton)`
  display: none;
  ${at.narrow} {
    display: flex;
    align-items: center;
    gap: ${space[2]};
    width: 100%;
    min-height: ${shape.target};
    border: 0;
    background: none;
    text-align: left;
    ${Strip}[data-open='true'] & svg {
      rotate: 180deg;
    }
  }
`;
const Body = styled.div`
  display: grid;
  gap: ${space[2]};
  min-width: 0;
  ${at.narrow} {
    padding-bottom: ${space[3]};
  }
`;
const Title = styled.h2`
  font-size: ${type.small};
  color: ${color.soft};
  ${at.narrow} {
    display: none;
  }
`;
const Hops = styled.div`
  display: flex;
  overflow-x: auto;
  padding: 3px 3px 6px;
`;
const HopPair = styled.div`
  display: flex;
  flex: none;
`;
const Box = styled(AriaButton)`
  display: grid;
  justify-items: center;
  align-content: center;
  min-width: 96px;
  max-width: 190px;
  min-height: 46px;
  padding: 3px ${space[3]};
  border: ${shape.line} solid ${color.ink};
  border-radius: ${shape.radius};
  background: ${color.sheet};
  font-size: ${type.small};
  line-height: 1.3;
  cursor: pointer;
  strong {
    display: inline-flex;
    align-items: center;
    gap: 3px;
    text-align: center;
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
  min-width: 118px;
  flex: none;
  font-size: ${type.small};
  line-height: 1.25;
  & > span:first-child {
    font-weight: 700;
  }
`;
const Through = styled.div`
  align-self: center;
  padding: 0 ${space[2]};
  font-size: ${type.small};
  color: ${color.soft};
  border-block: ${shape.line} dashed ${color.soft};
`;
