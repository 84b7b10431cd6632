import { deviceEnd, ecuEnd, endOf, plugEnd, type EndKey } from '~/core/ends/ends';
import { useState } from 'react';
import { styled } from 'styled-components';
import { cavityHelp, pinSteps, placeHelp, staleCrimps, type CavityHelp, type PinStep } from '~/core/allot/pinning';
import { call } from '~/core/edits';
import { pinningOrders, type PinningEnds, type PinningOrder } from '~/core/build/schema';
import { withId } from '~/core/data/with-id';
import type { EndPlace } from '~/core/loom/end-places';
import { halfWords } from '~/core/loom/plug-face';
import { plural } from '~/core/units/format';
import { readSize } from '~/core/wire/size';
import { useBuild } from '../../build/context';
import { ConnectorFace, type FaceSide } from '../../parts/connector-face';
import { useFaceCavities } from '../../parts/face-cavities';
import type { FaceCavity } from '../../parts/face-cavity';
import { FaceDialog } from '../../parts/face-dialog';
import { deviceCavities, plugCavities } from '../../parts/plug-cavities';
import { CrimpLine, TerminalButton } from '../../parts/terminal-notes';
import { WireLine, WireMark } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { Callout, Mono, Row, Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';
import { useNarrow } from '../../ui/use-narrow';
import { SheetFrame } from '../../parts/sheet-frame';
import { SideChoice } from '../../parts/side-choice';

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
          <Step
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

function Step({
  step,
  number,
  of,
  side,
  big,
  onDone,
  onUndo,
  onBack,
  onSkip,
}: {
  step: PinStep;
  number: number;
  of: number;
  side: FaceSide;
  big: boolean;
  onDone: () => void;
  onUndo: () => void;
  onBack?: () => void;
  onSkip?: () => void;
}) {
  const { build } = useBuild();
  const { wire, place, half } = step;
  const help = useHelp(step, side);
  const tooThick = help !== null && wire.squareMm > help.largestSquareMm;
  const inPlug = half === null ? step.plug : `${step.plug}, ${halfWords[half]}`;
  return (
    <Bench aria-label={`Cavity ${step.cavity}`}>
      <Stack $gap={2}>
        <Soft>
          {number} of {of} · {step.group}
        </Soft>
        <Figure>{step.cavity}</Figure>
        {endOf(step.end).of !== 'ecu' && <strong>{inPlug}</strong>}
        {help ? (
          <Counting>{help.counting}</Counting>
        ) : (
          <Small>Nobody has drawn this plug: the number is moulded beside the cavity.</Small>
        )}
        <WireBox>
          <WireLine colour={wire.colour} length="84px" />
          <Mono>{wire.colour}</Mono>
          <span>{readSize(wire.squareMm, build)}</span>
        </WireBox>
        <span>
          {half === null && endOf(step.end).of === 'ecu' ? 'to' : 'from'} <strong>{step.farLabel}</strong>
        </span>
        <Small>
          {[
            step.purpose,
            help &&
              `Terminal for up to ${readSize(help.largestSquareMm, build)}${place?.connector.sealed ? ', with its seal' : ''}`,
          ]
            .flatMap((part) => (part ? `${capital(part)}.` : []))
            .join(' ')}
        </Small>
        {place?.connector.terminal && (
          <Small>
            <CrimpLine notes={place.connector.terminal} squareMm={wire.squareMm} />
          </Small>
        )}
        {step.wrong !== '' && (
          <Callout $tone="stop">
            <strong>Sheet 6 read this wire wrong.</strong>
            <span>{step.wrong}</span>
          </Callout>
        )}
        {tooThick && (
          <Callout $tone="stop">
            This wire is too thick for the terminal: step down at a splice close to the plug.
          </Callout>
        )}
      </Stack>
      {place && help ? (
        <StepFace step={step} place={place} help={help} side={side} big={big} />
      ) : (
        <Undrawn step={step} />
      )}
      <Keys>
        <BigKey onPress={onBack} isDisabled={!onBack}>
          Back
        </BigKey>
        {step.done ? (
          <BigKey onPress={onUndo} isDisabled={step.measured}>
            {step.measured ? 'Measured in place' : 'Taken out again'}
          </BigKey>
        ) : (
          <BigKey weight="act" onPress={onDone}>
            Clicked and pulled
          </BigKey>
        )}
        <BigKey onPress={onSkip} isDisabled={!onSkip}>
          Skip
        </BigKey>
      </Keys>
    </Bench>
  );
}

/** Cavities of the plug a step is in, and the end behind each. */
function useCavities(step: PinStep): { cavities: readonly FaceCavity[]; endAt: (written: string) => EndKey } {
  const { build, derived } = useBuild();
  const faces = useFaceCavities();
  const ref = endOf(step.end);
  if (ref.of === 'ecu') return { cavities: faces.get(step.plug) ?? [], endAt: ecuEnd };
  if (ref.of === 'device')
    return {
      cavities: deviceCavities(build, derived, ref.device),
      endAt: (terminal) => deviceEnd(ref.device, terminal),
    };
  return {
    cavities: plugCavities(build, derived, ref.part, step.half ?? 'near'),
    endAt: (cavity) => plugEnd(ref.part, Number(cavity)),
  };
}

/** How to find the cavity with the plug in hand; null where nobody has drawn it. */
function useHelp(step: PinStep, side: FaceSide): CavityHelp | null {
  const { build, derived } = useBuild();
  const { cavities } = useCavities(step);
  const ref = endOf(step.end);
  if (!step.place) return null;
  const { connector, cavity } = step.place;
  const pin = ref.of === 'ecu' ? withId(build.ecu.pins, ref.pin) : undefined;
  if (pin) return cavityHelp(derived.net, pin, connector, side);
  return placeHelp(connector, cavity, side, step.half === 'far', (other) => {
    const there = cavities.find((one) => one.cavity === other);
    return { written: there?.pinId ?? String(other), holds: there?.text || 'empty' };
  });
}

function StepFace({
  step,
  place: { connector, written },
  help,
  side,
  big,
}: {
  step: PinStep;
  place: EndPlace;
  help: CavityHelp;
  side: FaceSide;
  big: boolean;
}) {
  const { derived, select } = useBuild();
  const { cavities, endAt } = useCavities(step);
  const ref = endOf(step.end);
  const ecu = ref.of === 'ecu';
  const name = ecu
    ? `Connector ${connector.id}`
    : step.half === null
      ? `Plug of ${step.plug}`
      : `${step.plug}, ${halfWords[step.half]}`;
  const mirrored = (side === 'mating') !== (step.half === 'far');
  const owner = ecu
    ? ({ plug: 'ecu', id: connector.id } as const)
    : ref.of === 'part'
      ? ({ plug: 'loom', id: ref.part } as const)
      : ({ plug: 'kind', id: derived.net.deviceOf.get(ref.device)?.kind.id ?? '' } as const);
  return (
    <FaceBox>
      <Small>
        {name}, {side} side{side === 'mating' ? ', mirrored' : ''}
      </Small>
      <div style={ecu ? undefined : { maxWidth: Math.max(...connector.rows) * CELL }}>
        <ConnectorFace
          connector={connector}
          cavities={cavities}
          side={mirrored ? 'mating' : 'wire'}
          selected={new Set([written])}
          able={null}
          onPress={(pinId) => select({ type: 'end', end: endAt(pinId) })}
          size={big ? 'usual' : 'small'}
          name={name}
        />
      </div>
      <Beside>
        {help.beside.map(({ side: where, pinId, holds }) => (
          <li key={where}>
            <Small>
              {where} <b>{pinId}</b> {holds}
            </Small>
          </li>
        ))}
      </Beside>
      <TerminalButton {...owner} name={name} notes={connector.terminal} />
    </FaceBox>
  );
}

/** A plug nobody has drawn: it can be drawn here, with the part in hand. */
function Undrawn({ step }: { step: PinStep }) {
  const { build, derived } = useBuild();
  const [isDrawing, setDrawing] = useState(false);
  const ref = endOf(step.end);
  const known = ref.of === 'device' ? derived.net.deviceOf.get(ref.device) : undefined;
  if (!known) return <FaceBox />;
  const { device, kind } = known;
  return (
    <FaceBox>
      <Stack $gap={2}>
        <Terminals aria-label={`Terminals of ${device.label}`}>
          {kind.terminals.map(({ id, name }) => {
            const end = deviceEnd(device.id, id);
            const wires = derived.net.wiresAt.get(end) ?? [];
            return (
              <li key={id} aria-current={end === step.end ? 'true' : undefined}>
                <Mono>{id}</Mono>
                <span>{name}</span>
                <span>
                  {wires.length === 0 && <Soft>no wire</Soft>}
                  {wires.map((wire) => (
                    <WireMark key={wire.id} colour={wire.colour} size={readSize(wire.squareMm, build)} />
                  ))}
                </span>
              </li>
            );
          })}
        </Terminals>
        <Soft>
          With the plug in hand, draw its face once: every part of this kind then shows the cavity to push into.
        </Soft>
        <span>
          <Button weight="pencil" onPress={() => setDrawing(true)}>
            Draw its face
          </Button>
        </span>
      </Stack>
      {isDrawing && <FaceDialog kind={kind} onClose={() => setDrawing(false)} />}
    </FaceBox>
  );
}
const CELL = 92;
const capital = (words: string): string => `${words.slice(0, 1).toUpperCase()}${words.slice(1)}`;

const Terminals = styled.ul.attrs({ role: 'list' })`
  max-width: 460px;
  li {
    display: grid;
    grid-template-columns: 52px minmax(0, 1fr) auto;
    gap: ${space[3]};
    align-items: center;
    min-height: 34px;
    padding-inline: ${space[2]};
    border-bottom: ${shape.hair} solid ${color.rule};
  }
  li[aria-current='true'] {
    background: ${color.selectionWash};
    font-weight: 700;
  }
`;

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
const Bench = styled.section`
  display: grid;
  grid-template-columns: minmax(220px, 300px) minmax(0, 1fr);
  gap: ${space[4]};
  max-width: 1060px;
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
    gap: ${space[2]};
  }
`;
const Figure = styled.strong`
  font-family: ${type.mono};
  font-size: 76px;
  line-height: 1;
  ${at.narrow} {
    font-size: 64px;
  }
`;
const Counting = styled.span`
  font-size: ${type.lead};
`;
const WireBox = styled.span`
  display: flex;
  align-items: center;
  gap: ${space[3]};
  font-size: 22px;
`;
const FaceBox = styled.div`
  min-width: 0;
`;
const Beside = styled.ul.attrs({ role: 'list' })`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 2px ${space[3]};
`;
const Keys = styled.div`
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: 1fr 2.4fr 1fr;
  gap: ${space[3]};
  ${at.narrow} {
    /* Above the run strip and the spine, which lie at the foot of a phone. */
    position: sticky;
    bottom: 104px;
    z-index: 1;
    background: ${color.sheet};
    padding-block: ${space[2]};
  }
  ${at.print} {
    display: none;
  }
`;
/** Keys for gloves: 64 px high. */
const BigKey = styled(Button)`
  min-height: 64px;
  font-size: 19px;
  padding-inline: ${space[2]};
`;
