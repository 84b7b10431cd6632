import { withId } from '~/core/data/with-id';
import { styled } from 'styled-components';
import { isCrimped } from '~/core/allot/in-place';
import { barredPins } from '~/core/allot/model';
import { cavityHelp } from '~/core/allot/pinning';
import { call } from '~/core/edits';
import { askWords, kindWord, serve } from '~/core/ecu/ask';
import { isFixedPin, pinsOfGroup, type Ability, type PinGroup } from '~/core/ecu/ecu';
import { ecuEnd } from '~/core/ends/ends';
import { formatAmps, formatOhms, listWords } from '~/core/units/format';
import { useBuild } from '../../build/context';
import type { FaceSide } from '../../parts/connector-face';
import { FindingMark } from '../../parts/findings/finding-mark';
import { WireMark } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { Mono, Row, Small } from '../../ui/text';
import { at, color, space } from '../../ui/theme';
import { readSize, shortSize } from '~/core/wire/size';

const abilityWords = (ability: Ability): string =>
  [
    kindWord(ability.kind),
    ability.output ? `number ${ability.output}` : '',
    ability.drive === 'peak-hold' ? 'peak and hold' : '',
    ability.volts ? `${ability.volts} V` : '',
    ability.maxAmps ? `to ${formatAmps(ability.maxAmps)}` : '',
    ability.maxHz ? `to ${ability.maxHz} Hz` : ability.maxHz === 0 ? 'on/off' : '',
    ability.minOhms ? `${formatOhms(ability.minOhms)} and more` : '',
    ability.fromVolts !== undefined && ability.toVolts !== undefined
      ? `${ability.fromVolts} to ${ability.toVolts} V`
      : '',
    ability.thresholdVolts !== undefined ? `switches at ${ability.thresholdVolts} V` : '',
    ability.pullUpOhms
      ? `pull-up ${formatOhms(ability.pullUpOhms)}${ability.pullUpSwitchable ? ', switchable' : ''}`
      : '',
    ability.pair ? `(${ability.pair}${ability.side ? `, ${ability.side}` : ''})` : '',
  ]
    .filter(Boolean)
    .join(' ');

const groupWords = (group: PinGroup): string =>
  group.type === 'timer'
    ? `${group.name}: one frequency for ${listWords(group.pins)}`
    : group.type === 'budget'
      ? `${group.name}: ${formatAmps(group.amps)} together on ${listWords(group.pins)}`
      : `${group.name}: ${group.sides.map((side) => listWords(side)).join(' or ')}, not both`;

/** Everything about one pin: where it is, what it can be, what it does, what else could live here. */
export function PinCard({ pinId, side, onTake }: { pinId: string; side: FaceSide; onTake: (needId: string) => void }) {
  const { build, derived, edit, select } = useBuild();
  const { net } = derived;
  const pin = withId(build.ecu.pins, pinId);
  const cavity = net.cavityOf.get(pinId);
  const connector = withId(build.ecu.connectors, pin?.connector);
  if (!pin || !cavity || !connector) return null;
  const help = cavityHelp(net, pin, connector, side);
  const [wire] = net.wiresAt.get(ecuEnd(pinId)) ?? [];
  const need = withId(net.needs, cavity.needId);
  const locked = need ? build.locked.includes(need.id) : false;
  const never = barredPins(build);
  const barred = never(null, pinId);
  const groups = build.ecu.groups.filter((group) => pinsOfGroup(group).includes(pinId));
  const used = new Set(net.needs.flatMap((one) => build.assignments[one.id] ?? []));
  const elsewhere = need
    ? build.ecu.pins.filter(
        (one) => one.id !== pinId && !used.has(one.id) && !never(null, one.id) && serve(one, need.ask).ability,
      )
    : [];
  const others = net.needs.filter((one) => one.id !== need?.id && one.pair === null && serve(pin, one.ask).ability);
  const crimped = need && isCrimped(build, need, pinId);
  const place = (needId: string, at: string) => {
    edit(call('assign', { needId, pinId: at }));
    select({ type: 'end', end: ecuEnd(at) });
  };
  return (
    <Card aria-label={`Pin ${pinId}`}>
      <Half>
        <Row $gap={3}>
          <Mono style={{ fontSize: 22 }}>{pinId}</Mono>
          <span>{pin.label}</span>
          {wire && <WireMark colour={wire.colour} size={shortSize(wire.squareMm, build)} />}
          <FindingMark thing={{ type: 'end', end: ecuEnd(pinId) }} />
        </Row>
        <Small>{help.counting}</Small>
        <Row $gap={3}>
          <span>
            {need ? (
              <>
                Serves <strong>{need.label}</strong>.{crimped && ' Clicked and pulled.'}
              </>
            ) : wire ? (
              'Wired by the feeds.'
            ) : barred ? (
              'You keep this cavity empty.'
            ) : (
              'Free.'
            )}
          </span>
          {need && !locked && (
            <Button weight="quiet" onPress={() => onTake(need.id)}>
              Take in hand
            </Button>
          )}
          {need && (
            <Button weight="quiet" onPress={() => edit(call('lock', { needId: need.id, locked: !locked }))}>
              {locked ? 'Unlock' : 'Must be here'}
            </Button>
          )}
          {need && !locked && (
            <Button weight="quiet" onPress={() => edit(call('unassign', { needId: need.id }))}>
              Free it
            </Button>
          )}
          {need && !locked && (
            <Button weight="quiet" onPress={() => edit(call('setNever', { needId: need.id, pinId, never: true }))}>
              Never here
            </Button>
          )}
          {!isFixedPin(pin) && !need && (
            <Button weight="quiet" onPress={() => edit(call('setNever', { needId: null, pinId, never: !barred }))}>
              {barred ? 'Use it again' : 'Keep it empty'}
            </Button>
          )}
          {build.never
            .filter((one) => one.pinId === pinId && one.needId !== null)
            .map((one) => (
              <Button
                key={one.needId}
                weight="quiet"
                onPress={() => edit(call('setNever', { needId: one.needId, pinId, never: false }))}
              >
                Allow {withId(net.needs, one.needId)?.label ?? one.needId} again
              </Button>
            ))}
        </Row>
      </Half>
      <Half>
        {need && (
          <Small>
            {need.label} asks for {askWords(need.ask)}.
          </Small>
        )}
        <Small>
          {help.beside.map(({ side: where, pinId: id, holds }) => (
            <span key={where}>
              {where} <b>{id}</b> {holds}
              {' · '}
            </span>
          ))}
          takes {readSize(help.largestSquareMm, build)}
        </Small>
        <Small>
          Can be {pin.abilities.map(abilityWords).join('; or ')}.
          {groups.length > 0 && ` ${groups.map(groupWords).join('. ')}.`}
        </Small>
        {need && elsewhere.length > 0 && (
          <Row $gap={2}>
            <Small>It could also live on</Small>
            {elsewhere.slice(0, 8).map((one) => (
              <Button key={one.id} weight="quiet" isDisabled={locked} onPress={() => place(need.id, one.id)}>
                {one.id}
              </Button>
            ))}
            {elsewhere.length > 8 && <Small>and {elsewhere.length - 8} more</Small>}
          </Row>
        )}
        {others.length > 0 && !barred && (
          <Row $gap={2}>
            <Small>Could live here:</Small>
            {others.slice(0, 6).map((one) => (
              <Button key={one.id} weight="quiet" isDisabled={locked} onPress={() => place(one.id, pinId)}>
                {one.label}
                {build.assignments[one.id] ? ` (${build.assignments[one.id]})` : ' (open)'}
              </Button>
            ))}
            {others.length > 6 && <Small>and {others.length - 6} more</Small>}
          </Row>
        )}
      </Half>
    </Card>
  );
}

const Half = styled.div`
  display: grid;
  gap: 2px;
  align-content: start;
  min-width: 0;
`;
const Card = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
  gap: 0 ${space[5]};
  padding: ${space[2]} ${space[3]};
  border-left: 3px solid ${color.selection};
  background: ${color.raised};
  grid-area: card;
  max-height: 236px;
  & button {
    min-height: 26px;
  }
  ${at.tablet} {
    max-height: none;
    & button {
      min-height: 36px;
    }
  }
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
  ${at.print} {
    display: none;
  }
`;
