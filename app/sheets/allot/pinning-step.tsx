import { deviceEnd, ecuEnd, endOf, plugEnd, type EndKey } from '~/core/ends/ends';
import { useState } from 'react';
import { styled } from 'styled-components';
import { cavityHelp, placeHelp, type CavityHelp, type PinStep } from '~/core/allot/pinning';
import { withId } from '~/core/data/with-id';
import type { EndPlace } from '~/core/loom/end-places';
import { halfWords } from '~/core/loom/plug-face';
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
import { Callout, Mono, Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';

/** One cavity in hand: where it is, which wire, how it is crimped. */
export function PinningStep({
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
