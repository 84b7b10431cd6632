import { withId } from '~/core/data/with-id';
import { Check, ChevronUp, X } from 'lucide-react';
import { memo, useContext, useMemo, useState, useSyncExternalStore } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { expectRun, type RunExpectation } from '~/core/prove/expect';
import { endOf, endType, portOf, type EndKey } from '~/core/ends/ends';
import { runOf, type Hop, type Run } from '~/core/netlist/run';
import { labelOf } from '~/core/netlist/label';
import type { SheetId } from '~/core/rules/rule';
import { formatMetres, formatOhms, formatVolts } from '~/core/units/format';
import { useBuild, useLater } from '../build/context';
import { Soft, VisuallyHidden } from '../ui/text';
import { at, color, shape, space, type } from '../ui/theme';
import { SlotsContext } from './shell/slots';
import { WireLine, WireMark } from './wire-mark';

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

type HopState = 'right' | 'wrong' | null;

const StateMark = ({ state }: { state: HopState }) => (
  <>
    {state === 'right' && <Check size={15} aria-label="proved" style={{ color: color.proved }} />}
    {state === 'wrong' && <X size={15} aria-label="read wrong" style={{ color: color.stop }} />}
  </>
);

/** What stands at a hop, in two short lines. */
function useHopWords(hop: Hop, volts: number | null) {
  const { build, derived } = useBuild();
  const ref = endOf(hop.end);
  const pin = ref.of === 'ecu' ? withId(build.ecu.pins, ref.pin) : undefined;
  return {
    label: labelOf(derived.net, hop.end),
    place: pin?.label ?? (endType(hop.end) === 'splice' ? 'joint' : portOf(hop.end)),
    volts: volts !== null ? `${formatVolts(volts)} key on` : null,
  };
}

interface HopProps {
  readonly hop: Hop;
  readonly volts: number | null;
  readonly selected: boolean;
  readonly state: HopState;
  readonly onGo: (hop: Hop) => void;
}

/** A hop as it stands in the strip. */
function HopBox({ hop, volts, selected, state, onGo }: HopProps) {
  const words = useHopWords(hop, volts);
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
              {hop.next.wire.colour} {hop.next.wire.squareMm}
            </span>
            <WireLine
              colour={hop.next.wire.colour}
              dashed={hop.next.wire.shield === 'ecu-end' || hop.next.wire.shield === 'both-ends'}
            />
            <Soft>
              {formatMetres(hop.next.wire.lengthMetres)} · {formatOhms(hop.next.wire.ohms)}
            </Soft>
          </WireBox>
        ) : (
          <Through>{hop.next.through}</Through>
        ))}
    </>
  );
}

/** The same hop in the drawer, where there is room for all of it. */
function HopRow({ hop, volts, selected, state, onGo }: HopProps) {
  const words = useHopWords(hop, volts);
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
            <WireMark colour={hop.next.wire.colour} /> {hop.next.wire.squareMm} mm² ·{' '}
            {formatMetres(hop.next.wire.lengthMetres)} · {formatOhms(hop.next.wire.ohms)}
          </Between>
        ) : (
          <Between>through {hop.next.through}</Between>
        ))}
    </li>
  );
}

/** What a reading of the whole run should be, and what it was. */
function Expectation({ run, expectation, brief }: { run: Run; expectation: RunExpectation; brief: boolean }) {
  const { build } = useBuild();
  const { test, measured } = expectation;
  const last = run.hops[run.hops.length - 1].end;
  return (
    <>
      {test && (
        <span>
          Expect <strong>{formatOhms(test.expected)}</strong>{' '}
          {test.touch === last || test.hold === last ? 'end to end' : 'on the first wire'}
          {!brief && `, up to ${formatOhms(test.limit)}`}.{' '}
        </span>
      )}
      {measured ? (
        <span>
          Measured{' '}
          <strong style={{ color: measured.right ? color.proved : color.stop }}>
            {measured.beep ? 'a beep, no figure' : formatOhms(measured.ohms)} {measured.right ? '✓' : '✗'}
          </strong>{' '}
          {!brief && (
            <Soft>
              {when(measured.at)}, leads {formatOhms(build.prove.leadOhms)} taken off
            </Soft>
          )}
        </span>
      ) : (
        test && <Soft>Not measured yet.</Soft>
      )}
    </>
  );
}

/** The signature strip: the whole run of whatever is selected, hop by hop; it opens upward for all of it. On a phone it is a drawer. */
export const RunStrip = memo(function RunStrip() {
  const { selection: chosen, select, goTo } = useBuild();
  const derived = useLater();
  const { build, net } = derived;
  const { shown } = useContext(SlotsContext);
  const showing = useSyncExternalStore(shown.subscribe, shown.now, shown.now);
  const selection = showing ?? chosen;
  const [open, setOpen] = useState(false);
  const run = useMemo(() => (selection ? runOf(net, selection) : null), [net, selection]);
  // Only a run on show asks for a circuit that is solved.
  const expectation = useMemo(
    () => (run ? expectRun(derived.build, derived.net, derived.tests, run, derived.keyOn) : null),
    [derived, run],
  );
  const stateAt = (end: EndKey): HopState => {
    const wires = derived.net.wiresAt.get(end) ?? [];
    if (wires.some((wire) => run?.wires.includes(wire) && derived.progress.wrongWires.has(wire.id))) return 'wrong';
    const touching = derived.tests.filter(
      (test) =>
        test.kind === 'continuity' && (test.touch === end || test.hold === end) && build.prove.readings[test.id],
    );
    if (touching.length === 0) return null;
    return wires.every((wire) => derived.progress.proved.has(wire.id)) ? 'right' : null;
  };
  const go = (hop: Hop) => {
    select({ type: 'end', end: hop.end });
    goTo(homeSheet[endType(hop.end)]);
  };
  const title = run ? `The run of ${run.title}` : 'The run';
  const hint = selection
    ? 'This has no wire yet: place it on a pin first.'
    : 'Select a pin, a wire, a device or a reading anywhere: its whole run is drawn here.';
  const hops =
    run && expectation
      ? run.hops.map((hop, index) => ({
          hop,
          volts: expectation.keyOnVolts[index],
          selected: selection?.type === 'end' && selection.end === hop.end,
          state: stateAt(hop.end),
          onGo: go,
        }))
      : null;
  return (
    <Strip aria-label="The run" data-open={open} onKeyDown={(event) => event.key === 'Escape' && setOpen(false)}>
      <Handle onPress={() => setOpen(!open)} aria-expanded={open} aria-label={title}>
        <ChevronUp size={17} aria-hidden />
        <span>{title}</span>
      </Handle>
      <VisuallyHidden as="h2">{title}</VisuallyHidden>
      {run && expectation && hops ? (
        <>
          <Hops
            tabIndex={0}
            role="group"
            aria-label={`Run of ${run.title}, ${run.hops.length} hops`}
            onWheel={({ currentTarget, deltaX, deltaY }) => {
              if (deltaX === 0) currentTarget.scrollLeft += deltaY;
            }}
          >
            {hops.map((hop) => (
              <HopBox key={hop.hop.end} {...hop} />
            ))}
          </Hops>
          <Expect>
            <Expectation run={run} expectation={expectation} brief />
          </Expect>
          {open && (
            <Drawer>
              <strong>{title}</strong>
              <ol aria-label="Hop by hop">
                {hops.map((hop) => (
                  <HopRow key={hop.hop.end} {...hop} />
                ))}
              </ol>
              <p>
                <Expectation run={run} expectation={expectation} brief={false} />
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
            </Drawer>
          )}
        </>
      ) : (
        <>
          <Hint>{hint}</Hint>
          {open && <Drawer>{hint}</Drawer>}
        </>
      )}
    </Strip>
  );
});

const Strip = styled.section`
  position: relative;
  display: flex;
  align-items: center;
  min-width: 0;
  ${at.narrow} {
    position: fixed;
    inset: auto 0 61px 0;
    z-index: 9;
    background: ${color.sheet};
    border-top: ${shape.line} solid ${color.ink};
    padding: 0 ${space[3]};
  }
  ${at.print} {
    display: none;
  }
`;
const Handle = styled(AriaButton)`
  display: grid;
  place-items: center;
  align-self: stretch;
  width: 30px;
  flex: none;
  border: 0;
  background: none;
  cursor: pointer;
  span {
    display: none;
  }
  svg {
    transition: rotate 0.15s;
  }
  &[data-hovered] {
    background: ${color.raised};
  }
  ${Strip}[data-open='true'] & svg {
    rotate: 180deg;
  }
  ${at.narrow} {
    display: flex;
    align-items: center;
    gap: ${space[2]};
    width: 100%;
    min-height: ${shape.target};
    text-align: left;
    span {
      display: block;
    }
  }
`;
const Hops = styled.div`
  display: flex;
  align-items: center;
  flex: 1;
  min-width: 0;
  padding: 3px;
  overflow-x: auto;
  overscroll-behavior: contain;
  scrollbar-width: thin;
  ${at.narrow} {
    display: none;
  }
`;
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
const Expect = styled.div`
  flex: none;
  display: grid;
  padding: 0 ${space[3]};
  line-height: 1.35;
  max-width: 200px;
  ${at.narrow} {
    display: none;
  }
`;
const Hint = styled(Soft)`
  padding: 0 ${space[3]};
  ${at.narrow} {
    display: none;
  }
`;
/** Opens upward over the work. */
const Drawer = styled.div`
  position: absolute;
  inset: auto 0 100% 0;
  z-index: 8;
  display: grid;
  gap: ${space[2]};
  max-height: min(60dvh, 480px);
  overflow: auto;
  overscroll-behavior: contain;
  padding: ${space[3]} ${space[4]};
  background: ${color.sheet};
  border-block-start: ${shape.line} solid ${color.ink};
  border-right: ${shape.line} solid ${color.ink};
  box-shadow: 0 -6px 18px rgb(0 0 0 / 0.14);
  ${at.narrow} {
    inset: auto 0 100% 0;
    border-right: 0;
  }
`;
const Row = styled(AriaButton)`
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr) 110px;
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
