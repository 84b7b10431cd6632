import { useState } from 'react';
import { styled } from 'styled-components';
import { pinSteps, staleCrimps, type PinStep } from '~/core/allot/pinning';
import { call } from '~/core/edits';
import { pinningOrders, type PinningEnds, type PinningOrder } from '~/core/build/schema';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { type FaceSide } from '../../parts/connector-face';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { Callout, Row, Soft } from '../../ui/text';
import { at, color, shape, space } from '../../ui/theme';
import { useNarrow } from '../../ui/use-narrow';
import { SheetFrame } from '../../parts/sheet-frame';
import { SideChoice } from '../../parts/side-choice';
import { PinningStep } from './pinning-step';

const orderNames: Record<PinningOrder, string> = {
  connector: 'by connector and cavity',
  device: 'by device',
  branch: 'shortest branch first',
  'powers-first': 'powers and grounds first',
};

const endsNames: Record<PinningEnds, string> = { ecu: 'the ECU', devices: 'devices', plugs: 'in the loom' };

/** One cavity at a time, in the order chosen; stands where it was left. */
export function Pinning() {
  const { build, derived, edit, select } = useBuild();
  const { net } = derived;
  const [side, setSide] = useState<FaceSide>('wire');
  const [chosen, setChosen] = useState<string | null>(null);
  const narrow = useNarrow();
  const hasPlugs = Object.values(build.tree.nodes).some(({ plug }) => plug);
  const ends = build.pinning.ends ?? 'ecu';
  const walked = ends === 'plugs' && !hasPlugs ? 'ecu' : ends;
  const steps = pinSteps(build, net, build.pinning.order, derived.progress.wrongWires, walked);
  const stale = staleCrimps(build, net);
  const done = steps.filter((step) => step.done).length;
  // What reads wrong comes before what is not begun.
  const next = steps.find((step) => step.wrong !== '') ?? steps.find((step) => !step.done) ?? null;
  const step = steps.find((one) => one.note === chosen) ?? next;
  const index = step ? steps.indexOf(step) : -1;
  const go = (to: PinStep | undefined) => {
    setChosen(to?.note ?? null);
    if (to) select({ type: 'wire', wireId: to.wire.id });
  };
  const click = (one: PinStep) => {
    edit(call('crimp', { wireIds: [one.note], at: new Date().toISOString(), by: build.prove.by }));
    go(
      steps.slice(steps.indexOf(one) + 1).find((other) => !other.done) ??
        steps.find((other) => !other.done && other !== one),
    );
  };
  return (
    <SheetFrame
      summary={
        <span role="status">
          {done} of {plural(steps.length, 'wire')} clicked and pulled.
          <br />
          {walked === 'ecu' && stale.length > 0 ? (
            <strong style={{ color: color.pencil }}>{plural(stale.length, 'wire')} to take out first.</strong>
          ) : (
            <Soft>Battery disconnected?</Soft>
          )}
        </span>
      }
    >
      <Order>
        <Top>
          <Segmented
            label="Plugs of"
            choices={(['ecu', 'devices', ...(hasPlugs ? (['plugs'] as const) : [])] as const).map((id) => ({
              id,
              name: endsNames[id],
            }))}
            value={walked}
            onChange={(next) => {
              edit(call('setPinningOrder', { order: build.pinning.order, ends: next }));
              setChosen(null);
            }}
          />
          <Select
            label="Order of pinning"
            choices={pinningOrders.map((id) => ({ id, name: orderNames[id] }))}
            value={build.pinning.order}
            onChange={(order) => {
              edit(call('setPinningOrder', { order: order as PinningOrder }));
              setChosen(null);
            }}
          />
          <SideChoice value={side} onChange={setSide} label="You look at the" />
          <Progress
            role="progressbar"
            aria-label="Pinned"
            aria-valuenow={done}
            aria-valuemin={0}
            aria-valuemax={steps.length}
          >
            <span style={{ width: `${steps.length === 0 ? 0 : (100 * done) / steps.length}%` }} />
          </Progress>
        </Top>
        {walked === 'ecu' && stale.length > 0 && (
          <Callout $tone="pencil">
            {stale.map(({ wireId, pinId, was }) => (
              <Row key={wireId} $gap={2}>
                <span>
                  <b>{pinId}</b> holds a wire to {was} that is no longer planned.
                </span>
                <Button weight="quiet" onPress={() => edit(call('uncrimp', { wireIds: [wireId] }))}>
                  It is out
                </Button>
              </Row>
            ))}
          </Callout>
        )}
        {steps.length === 0 && (
          <p>
            {walked === 'ecu' ? 'No wire ends at the ECU yet.' : 'No wire ends there yet.'}{' '}
            <Soft>Allot the pins on the desk first.</Soft>
          </p>
        )}
        {steps.length > 0 && !step && (
          <Callout $tone="proved">
            <strong>Every cavity is clicked and pulled.</strong>
            <span>Close the locks of the connectors, plug the empty cavities, then prove every wire on sheet 6.</span>
          </Callout>
        )}
        {step && (
          <PinningStep
            step={step}
            number={index + 1}
            of={steps.length}
            side={side}
            big={!narrow}
            onDone={() => click(step)}
            onUndo={() => edit(call('uncrimp', { wireIds: [step.note] }))}
            onBack={index > 0 ? () => go(steps[index - 1]) : undefined}
            onSkip={index < steps.length - 1 ? () => go(steps[index + 1]) : undefined}
          />
        )}
      </Order>
    </SheetFrame>
  );
}

/** On a phone the cavity in hand comes first, how it is chosen after it. */
const Order = styled.div`
  display: flex;
  flex-direction: column;
  gap: ${space[4]};
  ${at.narrow} {
    & > :first-child {
      order: 9;
    }
  }
`;
const Top = styled(Row)`
  align-items: end;
  ${at.print} {
    display: none;
  }
`;
const Progress = styled.div`
  flex: 1 1 140px;
  height: 10px;
  border: ${shape.hair} solid ${color.ink};
  border-radius: 5px;
  overflow: hidden;
  margin-bottom: 12px;
  span {
    display: block;
    height: 100%;
    background: ${color.proved};
  }
`;
