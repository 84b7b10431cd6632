import { useEffect, useMemo, useRef, useState } from 'react';
import {
  Cell,
  Column,
  Row as GridRow,
  Table as GridTable,
  TableBody,
  TableHeader,
  Checkbox as AriaCheckbox,
  type Selection,
} from 'react-aria-components';
import { styled } from 'styled-components';
import { draftPinId, removePins, setAbilities, setPins, type DraftPin, type EcuDraft } from '~/core/ecu/draft';
import { type Ability } from '~/core/ecu/ecu';
import { abilitiesText } from '~/core/ecu/pinout/text';
import { plural } from '~/core/units/format';
import { Button } from '../../ui/button';
import { Checkbox } from '../../ui/choice';
import { Heading, Row, Small, Soft, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { at, color, shape, space, type } from '../../ui/theme';
import { AbilityForm, isNumbered } from './ability-form';

const confidenceWords = { sure: 'read', likely: 'likely', guess: 'guess', none: 'not understood' } as const;

/** Numbers count on, and sides of pairs change over, when one ability is given to several pins. */
function forPin(ability: Ability, index: number, count: number): Ability {
  const own = { ...ability };
  if (isNumbered(own.kind) && own.output !== undefined) own.output = Math.min(24, own.output + index);
  if (count === 2 && own.side !== undefined && index === 1) own.side = own.side === 'plus' ? 'minus' : 'plus';
  return own;
}

/** Every cavity with what it was read as; several at once are set right. */
export function PinGrid({
  draft,
  chosen,
  onChoose,
  onChange,
}: {
  draft: EcuDraft;
  chosen: ReadonlySet<string>;
  onChoose: (ids: ReadonlySet<string>) => void;
  onChange: (draft: EcuDraft) => void;
}) {
  const scroll = useRef<HTMLDivElement>(null);
  const [unsure, setUnsure] = useState(false);
  const [start] = chosen;
  // Chosen from the margin: bring the first of them into sight.
  useEffect(() => {
    scroll.current?.querySelector('tr[data-selected]')?.scrollIntoView({ block: 'nearest' });
  }, [start]);
  const [text, setText] = useState('');
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const rows = useMemo(
    () =>
      draft.pins.map((pin) => ({
        pin,
        id: draftPinId(pin),
        can: abilitiesText(pin.abilities),
      })),
    [draft.pins],
  );
  const shown = rows.filter(
    ({ pin, id, can }) =>
      (!unsure || (!pin.checked && pin.confidence !== 'sure') || pin.abilities.length === 0) &&
      words.every((word) => `${id} ${pin.label} ${can}`.toLowerCase().includes(word)),
  );
  const select = (keys: Selection) =>
    onChoose(keys === 'all' ? new Set(shown.map(({ id }) => id)) : new Set([...keys].map(String)));
  return (
    <Stack $gap={3}>
      <Row>
        <div style={{ width: 240 }}>
          <TextField
            label="Search pins"
            hideLabel
            value={text}
            onChange={setText}
            passing
            placeholder="Search: injector, B12"
          />
        </div>
        <Checkbox isSelected={unsure} onChange={setUnsure}>
          only what is not sure
        </Checkbox>
        <Small>{plural(shown.length, 'cavity', 'cavities')}. Tick several to set them at once.</Small>
      </Row>
      <Split>
        <Scroll ref={scroll}>
          <Grid
            aria-label="Pins of the ECU"
            selectionMode="multiple"
            selectedKeys={chosen as Set<string>}
            onSelectionChange={select}
          >
            <TableHeader>
              <Column width={36}>
                <Tick slot="selection" />
              </Column>
              <Column isRowHeader>Pin</Column>
              <Column>Label</Column>
              <Column>Can be</Column>
              <Column className="trust">Read as</Column>
            </TableHeader>
            <TableBody items={shown} renderEmptyState={() => <Small>No cavity matches.</Small>}>
              {({ pin, id, can }) => (
                <GridRow id={id} textValue={`${id} ${pin.label}`}>
                  <Cell>
                    <Tick slot="selection" />
                  </Cell>
                  <Cell className="wire">{id}</Cell>
                  <Cell>{pin.label}</Cell>
                  <Cell>
                    {can || <Soft>nothing yet</Soft>}
                    <InCell>
                      <br />
                      <TrustOf pin={pin} />
                    </InCell>
                    {pin.why !== '' && !pin.checked && (
                      <>
                        <br />
                        <Small>{pin.why}</Small>
                      </>
                    )}
                  </Cell>
                  <Cell className="trust">
                    <TrustOf pin={pin} />
                  </Cell>
                </GridRow>
              )}
            </TableBody>
          </Grid>
        </Scroll>
        <SetPanel key={[...chosen].join(' ')} draft={draft} chosen={chosen} onChange={onChange} onChoose={onChoose} />
      </Split>
    </Stack>
  );
}

const TrustOf = ({ pin }: { pin: DraftPin }) => (
  <Trust data-trust={pin.checked ? 'checked' : pin.confidence}>
    {pin.checked ? '✓ looked at' : confidenceWords[pin.confidence]}
  </Trust>
);

/** What to make of the pins that are ticked. */
function SetPanel({
  draft,
  chosen,
  onChange,
  onChoose,
}: {
  draft: EcuDraft;
  chosen: ReadonlySet<string>;
  onChange: (draft: EcuDraft) => void;
  onChoose: (ids: ReadonlySet<string>) => void;
}) {
  const pins = draft.pins.filter((pin) => chosen.has(draftPinId(pin)));
  const [first] = pins as [DraftPin?];
  const [ability, setAbility] = useState<Ability>(first?.abilities[0] ?? { kind: 'low-side', maxHz: 0 });
  if (!first)
    return (
      <Panel>
        <Heading>Set pins</Heading>
        <Small>
          Tick one cavity or several. What is set here counts as looked at. Numbers count on from pin to pin; two pins
          of a pair get plus and minus.
        </Small>
      </Panel>
    );
  const give = (make: (before: DraftPin, own: Ability) => Ability[]) =>
    onChange(setAbilities(draft, chosen, (before, index) => make(before, forPin(ability, index, pins.length))));
  const single = pins.length === 1;
  return (
    <Panel aria-label="Set pins">
      <Heading>{single ? draftPinId(first) : plural(pins.length, 'cavity', 'cavities')}</Heading>
      {single && (
        <TextField
          label="Label"
          value={first.label}
          maxLength={40}
          onChange={(label) => onChange(setPins(draft, chosen, { label }))}
        />
      )}
      {single && (
        <TextField
          label="Colour of its flying lead"
          value={first.lead}
          maxLength={24}
          hint="letters such as GN/YE; empty for none"
          onChange={(lead) => onChange(setPins(draft, chosen, { lead }))}
        />
      )}
      {single && first.abilities.length > 0 && (
        <ul>
          {first.abilities.map((one, index) => (
            <li key={index}>
              <Row $gap={2}>
                <span>
                  {index === 0 ? '' : 'or '}
                  {abilitiesText([one])}
                </span>
                <Button
                  weight="quiet"
                  aria-label={`Remove ${abilitiesText([one])}`}
                  onPress={() =>
                    onChange(setAbilities(draft, chosen, (before) => before.abilities.filter((_, i) => i !== index)))
                  }
                >
                  remove
                </Button>
              </Row>
            </li>
          ))}
        </ul>
      )}
      <AbilityForm value={ability} onChange={setAbility} />
      <Row $gap={2}>
        <Button weight="act" onPress={() => give((_, own) => [own])}>
          {single ? 'It is this' : 'They are this'}
        </Button>
        <Button
          onPress={() =>
            give((before, own) => [...before.abilities.filter((one) => one.kind !== own.kind), own].slice(0, 8))
          }
        >
          Can also be this
        </Button>
      </Row>
      <Row $gap={3}>
        <Button weight="quiet" onPress={() => onChange(setPins(draft, chosen, { checked: true, why: '' }))}>
          {single ? 'Right as read' : 'All right as read'}
        </Button>
        <Button
          weight="quiet"
          onPress={() => {
            onChange(removePins(draft, chosen));
            onChoose(new Set());
          }}
        >
          Leave {single ? 'it' : 'them'} out
        </Button>
      </Row>
    </Panel>
  );
}

function Tick({ slot }: { slot: string }) {
  return (
    <Box slot={slot}>
      {({ isSelected, isIndeterminate }) => <span aria-hidden>{isSelected ? '✓' : isIndeterminate ? '–' : ''}</span>}
    </Box>
  );
}

const Split = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(250px, 34%);
  gap: ${space[4]};
  align-items: start;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
    & > :last-child {
      order: -1;
    }
  }
`;
const Scroll = styled.div`
  max-height: 60vh;
  overflow: auto;
  border-block: ${shape.hair} solid ${color.rule};
`;
const Grid = styled(GridTable)`
  border-collapse: collapse;
  width: 100%;
  outline: none;
  th,
  td,
  [role='columnheader'],
  [role='gridcell'],
  [role='rowheader'] {
    padding: ${space[1]} ${space[2]} ${space[1]} 0;
    text-align: left;
    vertical-align: baseline;
    border-bottom: ${shape.hair} solid ${color.rule};
  }
  thead th {
    position: sticky;
    top: 0;
    background: ${color.sheet};
    color: ${color.soft};
    font-size: ${type.small};
    font-weight: 400;
  }
  .wire {
    font-family: ${type.mono};
    font-weight: 700;
    white-space: nowrap;
  }
  ${at.narrow} {
    .trust {
      display: none;
    }
  }
  tr[data-selected] > * {
    background: ${color.selectionWash};
  }
  tr {
    cursor: pointer;
  }
  tr[data-focus-visible] {
    outline: 2.5px solid ${color.selection};
    outline-offset: -2px;
  }
`;
const Box = styled(AriaCheckbox)`
  position: relative;
  display: inline-grid;
  place-items: center;
  width: 22px;
  height: 22px;
  border: 1.4px solid ${color.ink};
  border-radius: 4px;
  cursor: pointer;
  &[data-selected] {
    background: ${color.selection};
    color: ${color.onInk};
  }
  @media (pointer: coarse) {
    width: 32px;
    height: 32px;
  }
`;
/** The column's words within the cell before it, where there is no room for a column. */
const InCell = styled.span`
  display: none;
  ${at.narrow} {
    display: inline;
  }
`;
const Trust = styled.span`
  white-space: nowrap;
  &[data-trust='guess'],
  &[data-trust='none'] {
    color: ${color.pencil};
    font-weight: 700;
  }
  &[data-trust='likely'] {
    color: ${color.fix};
  }
  &[data-trust='checked'] {
    color: ${color.proved};
  }
`;
const Panel = styled.section`
  display: grid;
  gap: ${space[3]};
  padding: ${space[3]};
  background: ${color.raised};
  border-left: 3px solid ${color.selection};
`;
