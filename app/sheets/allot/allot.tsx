import { withId } from '~/core/data/with-id';
import { useEffect, useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { spareCount, sparesOf, spareWords, shortfalls, shortfallWords } from '~/core/allot/spares';
import { barredPins, type Keep } from '~/core/allot/model';
import type { Help } from '~/core/ways/ways';
import { call } from '~/core/edits';
import { kindWord, serve } from '~/core/ecu/ask';
import type { EcuDefinition, Pin } from '~/core/ecu/ecu';
import { ecuEnd, pinAt } from '~/core/ends/ends';
import { signalClassNames } from '~/core/wire/colours';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { ConnectorFace, type FaceSide } from '../../parts/connector-face';
import { useFaceCavities } from '../../parts/face-cavities';
import { markOf } from '../../parts/marks';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Heading, Kbd, OnScreen, Row, Small, Soft, Stack } from '../../ui/text';
import { at, color, space } from '../../ui/theme';
import { useStable } from '../../ui/use-stable';
import { SheetFrame } from '../../parts/sheet-frame';
import { MarksDialog } from './marks-dialog';
import { NeedList } from './need-list';
import { PinCard } from './pin-card';
import { ReserveDialog } from './reserve-dialog';
import { useAllotTask } from '../../parts/use-allot';
import { WhyNot } from './why-not';
import { readSize } from '~/core/wire/size';
import { SideChoice } from '../../parts/side-choice';

const keepWords: Record<Keep, string> = {
  placed: 'Allot the rest',
  most: 'Allot, moving what must move',
  locked: 'Allot all anew',
};

/** Solves off the page's thread, then writes the plan as one step. */
function useAllotment(keep: Keep) {
  const { build, edit } = useBuild();
  return useAllotTask(
    (api, onProgress) => api.allot(build, keep, onProgress),
    ({ assignments, shared }) =>
      edit(
        call('placeAll', {
          assignments: Object.fromEntries(assignments.map(({ needId, pinId }) => [needId, pinId])),
          shared: { ...shared },
          label: keepWords[keep],
        }),
      ),
  );
}

/** Letters of the list of spares that fit the head; a longer one is counted there, and told in full below. */
const MOST_LETTERS = 64;
const spareSummary = (spares: ReturnType<typeof sparesOf>): string => {
  const words = spareWords(spares) || 'Nothing';
  return words.length > MOST_LETTERS ? plural(spareCount(spares), 'pin') : words;
};

/** Rows of cavities that stand one above the other without scrolling; more connectors than that are tabs. */
const MOST_ROWS = 5;
const fits = (connectors: EcuDefinition['connectors']): boolean =>
  connectors.reduce((rows, connector) => rows + connector.rows.length, 0) <= MOST_ROWS;

export function Allot({ help }: { help: Help }) {
  const { build, derived, selection, select, edit } = useBuild();
  const [inHand, setInHand] = useState<string | null>(null);
  const [side, setSide] = useState<FaceSide>('wire');
  const [picked, setPicked] = useState<{ readonly zoom: string; readonly pin: string | undefined } | null>(null);
  const [dialog, setDialog] = useState<'why' | 'spares' | 'marks' | null>(null);
  const faces = useFaceCavities();
  const { needs } = derived.net;
  const need = withId(needs, inHand) ?? null;
  const placed = needs.filter((one) => build.assignments[one.id] !== undefined).length;
  const open = needs.length - placed;
  const rest = useAllotment(open > 0 ? 'placed' : 'locked');
  const able = useMemo(() => {
    if (!need) return null;
    const never = barredPins(build);
    const held = new Set(build.locked.filter((id) => id !== need.id).map((id) => build.assignments[id]));
    const can = (pin: Pin) => serve(pin, need.ask).ability && !held.has(pin.id) && !never(need.id, pin.id);
    return new Set(build.ecu.pins.filter(can).map((pin) => pin.id));
  }, [need, build]);
  const spares = sparesOf(build, needs);
  const short = shortfalls(build, needs);

  const selectedPins = useMemo(() => {
    if (!selection) return new Set<string>();
    if (selection.type === 'need') return new Set([build.assignments[selection.needId]].filter(Boolean));
    if (selection.type === 'end') {
      const pinId = pinAt(selection.end);
      if (pinId !== null) return new Set([pinId]);
      return new Set(derived.net.nodeOf.get(selection.end)?.ends.flatMap((end) => pinAt(end) ?? []));
    }
    if (selection.type === 'device')
      return new Set(
        needs.filter((one) => one.deviceId === selection.deviceId).map((one) => build.assignments[one.id]),
      );
    const wire = derived.net.wireById.get(selection.wireId);
    return new Set(wire ? [wire.from, wire.to].flatMap((end) => pinAt(end) ?? []) : []);
  }, [selection, build.assignments, derived.net, needs]);

  const take = useStable((needId: string | null) => {
    setInHand(needId);
    if (needId) select({ type: 'need', needId });
  });
  const put = useStable((pinId: string, needId: string) => {
    if (build.assignments[needId] !== pinId) edit(call('assign', { needId, pinId }));
    select({ type: 'end', end: ecuEnd(pinId) });
    setInHand(null);
  });
  // A browser ends a drag whose page changes while it starts: the rings are drawn a frame later.
  const lift = useStable((needId: string) => void requestAnimationFrame(() => setInHand(needId)));
  const letGo = useStable(() => setInHand(null));
  const moves = useMemo(() => ({ onLift: lift, onDrop: put, onEnd: letGo }), [lift, put, letGo]);
  const press = (pinId: string) => {
    if (need && able?.has(pinId) && build.assignments[need.id] !== pinId) put(pinId, need.id);
    else {
      setInHand(null);
      select({ type: 'end', end: ecuEnd(pinId) });
    }
  };

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.key === 'Escape') setInHand(null);
      // The letter acts only while a face has the focus.
      if (event.key.toLowerCase() === 'f' && !event.ctrlKey && !event.metaKey && target.hasAttribute('data-face'))
        setSide((now) => (now === 'wire' ? 'mating' : 'wire'));
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  const [cardPin] = selectedPins;
  // A tab that was picked stays until the selection goes to another connector.
  const ofPin = withId(build.ecu.pins, cardPin)?.connector;
  const stays = picked && (picked.zoom === 'all' || picked.pin === cardPin || picked.zoom === ofPin);
  const zoom = stays ? picked.zoom : fits(build.ecu.connectors) ? 'all' : (ofPin ?? build.ecu.connectors[0].id);
  // While a need is carried, a tab says how many cavities would take it.
  const tab = ({ id }: { id: string }) => {
    const takes = able ? build.ecu.pins.filter((pin) => pin.connector === id && able.has(pin.id)).length : 0;
    return { id, name: able && zoom !== 'all' ? `${id}, ${takes} fit` : id };
  };
  const shownConnectors = build.ecu.connectors.filter((connector) => zoom === 'all' || connector.id === zoom);
  const large = shownConnectors.length === 1 && Math.max(...shownConnectors[0].rows) <= 12;
  return (
    <SheetFrame
      summary={
        <span role="status">
          {placed} of {plural(needs.length, 'need')} placed.
          <br />
          {rest.failure ? (
            <strong style={{ color: color.stop }}>The solver stopped: {rest.failure}</strong>
          ) : open > 0 ? (
            <strong style={{ color: color.pencil }}>{open} open.</strong>
          ) : (
            <Soft>{spareSummary(spares)} spare.</Soft>
          )}
        </span>
      }
      actions={
        <>
          {rest.busy ? (
            <Button onPress={rest.cancel}>Cancel, {Math.round(rest.progress * 100)} %</Button>
          ) : (
            <Button weight={open > 0 ? 'act' : 'plain'} onPress={rest.run}>
              {keepWords[open > 0 ? 'placed' : 'locked']}
            </Button>
          )}
          <Button isDisabled={open === 0} onPress={() => setDialog('why')}>
            Why not?
          </Button>
        </>
      }
    >
      <Columns>
        <NeedColumn>
          {needs.length === 0 ? (
            <p>
              No need yet. <Soft>Add devices on sheet 1; their terminals ask for pins here.</Soft>
            </p>
          ) : (
            <NeedList inHand={inHand} onTake={take} onLift={lift} onLetGo={letGo} />
          )}
        </NeedColumn>
        {cardPin && <PinCard pinId={cardPin} side={side} onTake={take} />}
        <Stack $gap={3} style={{ gridArea: 'faces' }}>
          <Tools>
            <SideChoice value={side} onChange={setSide} />
            {build.ecu.connectors.length > 1 && (
              <Segmented
                label="Connector"
                hideLabel
                choices={[{ id: 'all', name: 'all' }, ...build.ecu.connectors.map(tab)]}
                value={zoom}
                onChange={(to) => setPicked({ zoom: to, pin: cardPin })}
              />
            )}
            <Hint>
              {need ? (
                <>
                  <strong>{need.label}</strong>: pick a ringed cavity. <Kbd>Esc</Kbd>
                </>
              ) : (
                <>
                  Drag a need here. <Kbd>F</Kbd> flips.
                </>
              )}
            </Hint>
          </Tools>
          {shownConnectors.map((connector) => (
            <Stack key={connector.id} $gap={1}>
              <Row $gap={3} style={{ justifyContent: 'space-between' }}>
                <strong>
                  {connector.id} <Soft style={{ fontWeight: 400 }}>{connector.name}</Soft>
                </strong>
                <Small>
                  {side} side{side === 'mating' ? ', mirrored' : ''} · up to {readSize(connector.maxSquareMm, build)}
                  {connector.large ? `, large ${readSize(connector.large.maxSquareMm, build)}` : ''}
                  {connector.sealed ? ' · sealed' : ''}
                </Small>
              </Row>
              <ConnectorFace
                connector={connector}
                cavities={faces.get(connector.id) ?? []}
                side={side}
                selected={selectedPins}
                able={able}
                onPress={press}
                moves={moves}
                size={large ? 'large' : 'usual'}
              />
            </Stack>
          ))}
          <Legend>
            {signalClassNames.map((signal) => (
              <span key={signal}>
                <b>{markOf(build, signal).letter}</b> {signal}
              </span>
            ))}
            <span>✓ clicked and pulled</span>
            <span>✓✓ proved</span>
            <OnScreen>
              <Button weight="quiet" onPress={() => setDialog('marks')}>
                Letters and colours
              </Button>
            </OnScreen>
          </Legend>
          <Stack $gap={1}>
            <Row $gap={3} style={{ justifyContent: 'space-between' }}>
              <Heading>Spare</Heading>
              <OnScreen>
                <Button weight="quiet" onPress={() => setDialog('spares')}>
                  Spares to keep
                </Button>
              </OnScreen>
            </Row>
            <p>
              {spareCount(spares) === 0
                ? 'No pin is free.'
                : spares
                    .map(({ kind, pins }) => `${plural(pins.length, kindWord(kind))} (${pins.join(', ')})`)
                    .join(' · ')}
            </p>
            {short.length > 0 && <Small>You asked for more: {shortfallWords(short)}.</Small>}
          </Stack>
        </Stack>
      </Columns>
      {dialog === 'why' && <WhyNot help={help} onClose={() => setDialog(null)} />}
      {dialog === 'spares' && <ReserveDialog onClose={() => setDialog(null)} />}
      {dialog === 'marks' && <MarksDialog onClose={() => setDialog(null)} />}
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template: 'list faces' minmax(0, 1fr) 'list card' auto / 276px minmax(0, 1fr);
  column-gap: ${space[4]};
  /* List, card and faces scroll by themselves: the faces stand still under the hand that picks a cavity. */
  && {
    flex: 1 1 0;
  }
  min-height: 420px;
  & > * {
    min-height: 0;
    overflow: auto;
  }
  ${at.tablet} {
    grid-template: 'faces' 'card' 'list' / minmax(0, 1fr);
    row-gap: ${space[4]};
    && {
      flex: none;
    }
    & > * {
      overflow: visible;
    }
  }
  ${at.print} {
    /* The faces take the width of the paper: their labels need it. */
    grid-template: 'faces' 'card' 'list' / minmax(0, 1fr);
    row-gap: ${space[4]};
    & > * {
      overflow: visible;
    }
  }
`;
const Tools = styled(Row)`
  gap: ${space[2]} ${space[4]};
  ${at.print} {
    display: none;
  }
`;
/** One line whatever is in hand: the faces must not move while a need is carried over them. */
const Hint = styled(Small)`
  flex: 1 1 0;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
`;
const NeedColumn = styled.div`
  grid-area: list;
  padding-right: ${space[3]};
  border-right: 1px solid ${color.rule};
  ${at.tablet} {
    border: 0;
    padding: 0;
  }
  ${at.print} {
    border: 0;
    padding: 0;
  }
`;
const Legend = styled.p`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 9px;
  font-size: 12px;
  color: ${color.soft};
  b {
    color: ${color.ink};
  }
`;
