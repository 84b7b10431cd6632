import { useEffect, useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { sparesOf, spareWords, whyOpen } from '~/core/allot/allot';
import { call } from '~/core/build/edits';
import { askWords, kindWord, serve } from '~/core/ecu/ask';
import { cavityPlace } from '~/core/ecu/face';
import { ecuEnd, parseEnd } from '~/core/netlist/ends';
import { signalClasses } from '~/core/netlist/colours';
import { formatAmps, formatOhms, listWords, plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { ConnectorFace, type FaceSide } from '../../parts/connector-face';
import { useFaceCavities } from '../../parts/face-cavities';
import { SheetFrame } from '../../parts/sheet-frame';
import { WireMark } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { Dialog } from '../../ui/dialog';
import { Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { Callout, Heading, Kbd, Mono, Row, Small, Soft, Stack } from '../../ui/text';
import { at, color, space } from '../../ui/theme';
import { NeedList } from './need-list';

function PinCard({ pinId }: { pinId: string }) {
  const { build, derived, edit } = useBuild();
  const pin = build.ecu.pins.find((one) => one.id === pinId);
  const cavity = derived.net.cavities.find((one) => one.pin.id === pinId);
  if (!pin || !cavity) return null;
  const connector = build.ecu.connectors.find((one) => one.id === pin.connector)!;
  const { row, place } = cavityPlace(connector, pin.cavity);
  const wire = derived.net.wiresAt.get(ecuEnd(pinId))?.[0];
  const need = derived.net.needs.find((one) => one.id === cavity.needId);
  const locked = need ? build.locked.includes(need.id) : false;
  return (
    <Card aria-label={`Pin ${pinId}`}>
      <Row $gap={3}>
        <Mono style={{ fontSize: 22 }}>{pinId}</Mono>
        <span>
          {pin.label}
          <br />
          <Soft>
            row {row}, {place} from the left, wire side
          </Soft>
        </span>
        {wire && <WireMark colour={wire.colour} squareMm={wire.squareMm} />}
      </Row>
      <Small>
        Can be{' '}
        {listWords(
          pin.abilities.map((ability) =>
            [
              kindWord(ability.kind),
              ability.output ? `number ${ability.output}` : '',
              ability.maxAmps ? `to ${formatAmps(ability.maxAmps)}` : '',
              ability.maxHz ? `to ${ability.maxHz} Hz` : '',
              ability.pullUpOhms
                ? `pull-up ${formatOhms(ability.pullUpOhms)}${ability.pullUpSwitchable ? ', switchable' : ''}`
                : '',
            ]
              .filter(Boolean)
              .join(' '),
          ),
        )}
        .
      </Small>
      <Row $gap={3}>
        <span>
          {need ? (
            <>
              Serves <strong>{need.label}</strong>, which asks for {askWords(need.ask)}.
            </>
          ) : wire ? (
            'Wired by the feeds.'
          ) : (
            'Free.'
          )}
        </span>
        {need && (
          <Button weight="quiet" onPress={() => edit(call('lock', { needId: need.id, locked: !locked }))}>
            {locked ? 'Unlock' : 'Lock'}
          </Button>
        )}
        {need && !locked && (
          <Button weight="quiet" onPress={() => edit(call('unassign', { needId: need.id }))}>
            Free the pin
          </Button>
        )}
      </Row>
    </Card>
  );
}

function WhyNot({ onClose }: { onClose: () => void }) {
  const { build, derived } = useBuild();
  const open = derived.net.needs.filter((need) => build.assignments[need.id] === undefined);
  return (
    <Dialog title="Why not?" isOpen onClose={onClose}>
      {open.length === 0 && <p>Every need has its pin.</p>}
      <Stack as="ul" $gap={4}>
        {open.map((need) => {
          const why = whyOpen(build, need.id)!;
          const rivals = why.rivals
            .filter((id) => id !== need.id)
            .map((id) => derived.net.needs.find((one) => one.id === id)!.label);
          return (
            <li key={need.id}>
              <Callout $tone="pencil">
                <strong>{need.label}</strong>
                <span>{why.reason}</span>
                {rivals.length > 0 && <Small>They are held by {listWords(rivals)}.</Small>}
              </Callout>
            </li>
          );
        })}
      </Stack>
    </Dialog>
  );
}

export function Allot() {
  const { build, derived, edit, selection, select } = useBuild();
  const [inHand, setInHand] = useState<string | null>(null);
  const [side, setSide] = useState<FaceSide>('wire');
  const [whyNot, setWhyNot] = useState(false);
  const faces = useFaceCavities();
  const { needs } = derived.net;
  const need = needs.find((one) => one.id === inHand) ?? null;
  const placed = needs.filter((one) => build.assignments[one.id] !== undefined).length;
  const open = needs.length - placed;
  const able = useMemo(
    () => (need ? new Set(build.ecu.pins.filter((pin) => serve(pin, need.ask).ability).map((pin) => pin.id)) : null),
    [need, build.ecu],
  );
  const spares = sparesOf(build);
  const spareCount = spares.reduce((sum, one) => sum + one.pins.length, 0);

  const selectedPins = useMemo(() => {
    if (!selection) return new Set<string>();
    if (selection.type === 'need') return new Set([build.assignments[selection.needId]].filter(Boolean));
    if (selection.type === 'end') {
      const parsed = parseEnd(selection.end);
      if (parsed.type === 'ecu') return new Set([parsed.owner]);
      return new Set(
        derived.net.nodeOf
          .get(selection.end)
          ?.ends.filter((end) => end.startsWith('ecu:'))
          .map((end) => end.slice(4)),
      );
    }
    if (selection.type === 'device')
      return new Set(
        needs.filter((one) => one.deviceId === selection.deviceId).map((one) => build.assignments[one.id]),
      );
    const wire = derived.net.wireById.get(selection.wireId);
    return new Set(wire ? [wire.from, wire.to].filter((end) => end.startsWith('ecu:')).map((end) => end.slice(4)) : []);
  }, [selection, build.assignments, derived.net, needs]);

  const take = (needId: string | null) => {
    setInHand(needId);
    if (needId) select({ type: 'need', needId });
  };
  const put = (pinId: string, needId: string) => {
    edit(call('assign', { needId, pinId }));
    select({ type: 'end', end: ecuEnd(pinId) });
    setInHand(null);
  };
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
  return (
    <SheetFrame
      sheet="allot"
      summary={
        <span role="status">
          {placed} of {plural(needs.length, 'need')} placed.
          <br />
          {open > 0 ? (
            <strong style={{ color: color.pencil }}>{open} open.</strong>
          ) : (
            <Soft>{spareWords(spares) || 'Nothing'} spare.</Soft>
          )}
        </span>
      }
      actions={
        <>
          {open > 0 ? (
            <Button weight="act" onPress={() => edit(call('allotAll', { keep: 'placed' }))}>
              Allot the rest
            </Button>
          ) : (
            <Button onPress={() => edit(call('allotAll', { keep: 'locked' }))}>Allot all anew</Button>
          )}
          <Button isDisabled={open === 0} onPress={() => setWhyNot(true)}>
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
            <NeedList inHand={inHand} onTake={take} />
          )}
        </NeedColumn>
        <Stack $gap={3}>
          <Row $gap={2} style={{ justifyContent: 'space-between' }}>
            <Segmented
              label="Side"
              hideLabel
              choices={[
                { id: 'wire', name: 'wire side' },
                { id: 'mating', name: 'mating side' },
              ]}
              value={side}
              onChange={setSide}
            />
            <Small>
              {need ? (
                <>
                  <strong>{need.label}</strong> in hand: pick a ringed cavity. <Kbd>Esc</Kbd> drops it.
                </>
              ) : (
                <>
                  Drag a need here, or press both. <Kbd>F</Kbd> flips.
                </>
              )}
            </Small>
          </Row>
          {build.ecu.connectors.map((connector) => (
            <Stack key={connector.id} $gap={1}>
              <Row $gap={3} style={{ justifyContent: 'space-between' }}>
                <strong>{connector.id}</strong>
                <Small>
                  {side} side{side === 'mating' ? ', mirrored' : ''} · up to {connector.maxSquareMm} mm²
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
                onDropNeed={put}
              />
            </Stack>
          ))}
          <Legend>
            {Object.entries(signalClasses).map(([name, letter]) => (
              <span key={name}>
                <b>{letter}</b> {name}
              </span>
            ))}
            <span>✓ proved</span>
          </Legend>
          {cardPin && <PinCard pinId={cardPin} />}
          <Row $gap={4} style={{ alignItems: 'end' }}>
            <Stack $gap={1} style={{ flex: '1 1 240px' }}>
              <Heading>Spare</Heading>
              <p>
                {spareCount === 0
                  ? 'No pin is free.'
                  : spares
                      .map(({ kind, pins }) => `${plural(pins.length, kindWord(kind))} (${pins.join(', ')})`)
                      .join(' · ')}
              </p>
            </Stack>
            <NumberField
              label="Keep for later"
              unit="pins"
              value={build.reserve}
              minValue={0}
              maxValue={40}
              onChange={(value) => value !== null && edit(call('setReserve', { reserve: value }))}
              style={{ width: 130 }}
            />
          </Row>
        </Stack>
      </Columns>
      {whyNot && <WhyNot onClose={() => setWhyNot(false)} />}
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  gap: ${space[4]};
  height: 100%;
  min-height: 0;
  ${at.tablet} {
    grid-template-columns: 220px minmax(0, 1fr);
  }
  ${at.narrow} {
    grid-template-columns: 1fr;
    height: auto;
    & > :last-child {
      order: -1;
    }
  }
  ${at.print} {
    height: auto;
    grid-template-columns: 230px 1fr;
  }
  & > * {
    min-height: 0;
  }
`;
const NeedColumn = styled.div`
  overflow: auto;
  padding-right: ${space[3]};
  border-right: 1px solid ${color.rule};
  ${at.narrow} {
    border: 0;
    padding: 0;
    overflow: visible;
  }
  ${at.print} {
    overflow: visible;
  }
`;
const Legend = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 9px;
  font-size: 12px;
  color: ${color.soft};
  b {
    color: ${color.ink};
  }
`;
const Card = styled.section`
  display: grid;
  gap: ${space[1]};
  padding: ${space[2]} ${space[3]};
  border-left: 3px solid ${color.selection};
  background: ${color.raised};
`;
