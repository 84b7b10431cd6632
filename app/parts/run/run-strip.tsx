import { ChevronUp } from 'lucide-react';
import { memo, useContext, useMemo, useState, useSyncExternalStore } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { expectRun, type RunExpectation } from '~/core/prove/expect';
import { endType, type EndKey, type EndType } from '~/core/ends/ends';
import { runOf, type Hop, type Run } from '~/core/netlist/run';
import { labelOf } from '~/core/netlist/label';
import type { SheetId } from '~/core/rules/rule';
import { formatOhms } from '~/core/units/format';
import { useBuild, useLater } from '../../build/context';
import { Soft, VisuallyHidden } from '../../ui/text';
import { at, color, shape, space } from '../../ui/theme';
import { SlotsContext } from '../shell/slots';
import { useStable } from '../../ui/use-stable';
import { HopBox, HopRow, type HopState } from './hops';

const homeSheet: Record<EndType, SheetId> = {
  ecu: 'allot',
  device: 'survey',
  fuse: 'feeds',
  relay: 'feeds',
  ground: 'feeds',
  battery: 'feeds',
  key: 'feeds',
  splice: 'loom',
  shield: 'loom',
  plug: 'loom',
  switch: 'feeds',
  button: 'feeds',
  resistor: 'feeds',
  diode: 'feeds',
  busbar: 'feeds',
  tap: 'feeds',
};
const when = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' }).format(
    new Date(iso),
  );

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
              {when(measured.at)}, leads {formatOhms(build.prove.leadOhms)} taken off.{' '}
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
  const { shown, readIn } = useContext(SlotsContext);
  const state = useSyncExternalStore(readIn.subscribe, readIn.now, readIn.now);
  const showing = useSyncExternalStore(shown.subscribe, shown.now, shown.now);
  const selection = showing ?? chosen;
  const [open, setOpen] = useState(false);
  const run = useMemo(() => (selection ? runOf(net, selection) : null), [net, selection]);
  // Only a run on show asks for a circuit that is solved.
  const expectation = useMemo(
    () => (run ? expectRun(derived.build, derived.net, derived.tests, run, state?.solution ?? derived.keyOn) : null),
    [derived, run, state],
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
  const go = useStable((hop: Hop) => {
    select({ type: 'end', end: hop.end });
    goTo(homeSheet[endType(hop.end)]);
  });
  const title = run ? `The run of ${run.title}` : 'The run';
  const hint = selection
    ? 'This has no wire yet: place it on a pin first.'
    : 'Select a pin, a wire, a device or a reading anywhere: its whole run is drawn here.';
  const hops =
    run && expectation
      ? run.hops.map((hop, index) => ({
          hop,
          volts: expectation.volts[index],
          readIn: state?.words ?? 'key on',
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
