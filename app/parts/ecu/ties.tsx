import { useState } from 'react';
import { styled } from 'styled-components';
import { type EcuDraft } from '~/core/ecu/draft';
import { pinIdOf, wheelFamilies, type Decoder, type PinGroup, type WheelFamily } from '~/core/ecu/ecu';
import { placesOf } from '~/core/ecu/pinout/read';
import type { Units } from '~/core/units/units';
import { Button } from '../../ui/button';
import { Checkbox, Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { FieldGrid, Heading, Row, Small, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { color, shape, space } from '../../ui/theme';
import { QuantityField } from '../quantity-field';

const groupNames: Record<PinGroup['type'], string> = {
  timer: 'one frequency for all',
  budget: 'a current together',
  either: 'either this or that',
};
const familyNames: Record<WheelFamily, string> = {
  'missing-tooth': 'missing teeth',
  even: 'even teeth',
  distributor: 'distributor vanes',
  uneven: 'uneven teeth',
  'multi-gap': 'several gaps',
  'half-moon': 'half moon',
  'width-coded': 'teeth told by width',
  'slot-disc': 'slotted disc on the cam',
  'cam-windows': 'cam windows',
};

/** Pin names in a text: `A1, A3, B5-B8`. */
const pinsIn = (text: string): string[] => [
  ...new Set(
    text
      .split(/[,;\s]+(?!\s*(?:to|-))/)
      .flatMap((part) => placesOf(part))
      .map(({ connector, cavity }) => pinIdOf(connector || 'A', cavity)),
  ),
];

const sidesOf = (group: PinGroup): string =>
  group.type === 'either' ? group.sides.map((side) => side.join(', ')).join(' | ') : group.pins.join(', ');

/** What ties pins together, how outputs are numbered, what the ECU decodes, and its own figures. */
export function Ties({
  draft,
  units,
  onChange,
}: {
  draft: EcuDraft;
  units: Units;
  onChange: (draft: EcuDraft) => void;
}) {
  const setGroup = (index: number, group: PinGroup | null) =>
    onChange({ ...draft, groups: draft.groups.flatMap((one, i) => (i === index ? (group ? [group] : []) : [one])) });
  const setDecoder = (family: WheelFamily, change: Partial<Decoder> | null) => {
    const before = draft.decoders.find((one) => one.family === family);
    const rest = draft.decoders.filter((one) => one.family !== family);
    const plain: Decoder = {
      family,
      minPlaces: 1,
      maxPlaces: 120,
      maxMissing: family === 'missing-tooth' ? 4 : family === 'multi-gap' ? 8 : 0,
      needsCam: family === 'even',
    };
    onChange({ ...draft, decoders: change === null ? rest : [...rest, { ...plain, ...before, ...change }] });
  };
  return (
    <Stack $gap={5}>
      <Stack $gap={3}>
        <Heading>The ECU itself</Heading>
        <FieldGrid $min={160}>
          <TextField
            label="Maker"
            value={draft.maker}
            maxLength={60}
            onChange={(maker) => onChange({ ...draft, maker })}
          />
          <TextField
            label="Where this comes from"
            value={draft.note ?? ''}
            maxLength={400}
            onChange={(note) => onChange({ ...draft, note })}
            hint="manual, page, your own measuring"
          />
          <NumberField
            label="Power grounds it asks for"
            value={draft.groundsAsked}
            minValue={1}
            maxValue={12}
            onChange={(groundsAsked) =>
              groundsAsked !== null && onChange({ ...draft, groundsAsked: Math.round(groundsAsked) })
            }
          />
          <QuantityField
            label="Own manifold sensor, to"
            quantity="pressure"
            units={units}
            value={draft.inside?.manifoldKpa ?? null}
            minValue={80}
            maxValue={700}
            onChange={(most) => {
              const { manifoldKpa: _, ...rest } = draft.inside ?? {};
              onChange({ ...draft, inside: most === null ? rest : { ...rest, manifoldKpa: most } });
            }}
          />
          <NumberField
            label="Runs down to"
            unit="V"
            value={draft.minVolts}
            minValue={4}
            maxValue={12}
            onChange={(minVolts) => minVolts !== null && onChange({ ...draft, minVolts })}
          />
          <NumberField
            label="Draws by itself"
            unit="A"
            value={draft.ownAmps}
            minValue={0.05}
            maxValue={20}
            onChange={(ownAmps) => ownAmps !== null && onChange({ ...draft, ownAmps })}
          />
          <NumberField
            label="Gap threshold"
            value={draft.gapThreshold}
            minValue={1.05}
            maxValue={10}
            onChange={(gapThreshold) => gapThreshold !== null && onChange({ ...draft, gapThreshold })}
            hint="ratio of tooth times it takes for a gap"
          />
        </FieldGrid>
        <Segmented
          label="Output 1 means"
          choices={[
            { id: 'by-cylinder', name: 'cylinder 1' },
            { id: 'in-turn', name: 'the first to fire' },
          ]}
          value={draft.outputOrder}
          onChange={(outputOrder) => onChange({ ...draft, outputOrder })}
        />
      </Stack>
      <Stack $gap={3}>
        <Heading>Pins that are tied together</Heading>
        {draft.groups.length === 0 && (
          <Small>
            None. Outputs of one timer pulse at one frequency; supplies may share a current; some inputs exclude others.
          </Small>
        )}
        {draft.groups.map((group, index) => (
          <GroupRow key={index} group={group} onChange={(next) => setGroup(index, next)} />
        ))}
        <Row $gap={2}>
          {(['timer', 'budget', 'either'] as const).map((kind) => (
            <Button
              key={kind}
              onPress={() => {
                const pins = draft.pins.slice(0, 2).map((pin) => pinIdOf(pin.connector, pin.cavity));
                const name = `${groupNames[kind]} ${draft.groups.length + 1}`;
                const group: PinGroup =
                  kind === 'timer'
                    ? { type: kind, name, pins }
                    : kind === 'budget'
                      ? { type: kind, name, pins, amps: 1 }
                      : { type: kind, name, sides: pins.map((pin) => [pin]) };
                onChange({ ...draft, groups: [...draft.groups, group] });
              }}
              isDisabled={draft.pins.length < 2}
            >
              Add: {groupNames[kind]}
            </Button>
          ))}
        </Row>
      </Stack>
      <Stack $gap={3}>
        <Heading>Wheels it decodes</Heading>
        {wheelFamilies.map((family) => {
          const decoder = draft.decoders.find((one) => one.family === family);
          return (
            <Line key={family}>
              <Checkbox isSelected={decoder !== undefined} onChange={(on) => setDecoder(family, on ? {} : null)}>
                {familyNames[family]}
              </Checkbox>
              {decoder && (
                <>
                  <NumberField
                    label={`${familyNames[family]}: places from`}
                    hideLabel
                    value={decoder.minPlaces}
                    minValue={1}
                    maxValue={400}
                    onChange={(minPlaces) => minPlaces !== null && setDecoder(family, { minPlaces })}
                    style={{ width: 80 }}
                  />
                  <span>to</span>
                  <NumberField
                    label={`${familyNames[family]}: places to`}
                    hideLabel
                    value={decoder.maxPlaces}
                    minValue={1}
                    maxValue={400}
                    onChange={(maxPlaces) => maxPlaces !== null && setDecoder(family, { maxPlaces })}
                    style={{ width: 80 }}
                  />
                  <span>places, up to</span>
                  <NumberField
                    label={`${familyNames[family]}: missing`}
                    hideLabel
                    value={decoder.maxMissing}
                    minValue={0}
                    maxValue={10}
                    onChange={(maxMissing) => maxMissing !== null && setDecoder(family, { maxMissing })}
                    style={{ width: 70 }}
                  />
                  <span>missing</span>
                  <Checkbox isSelected={decoder.needsCam} onChange={(needsCam) => setDecoder(family, { needsCam })}>
                    needs a cam signal
                  </Checkbox>
                </>
              )}
            </Line>
          );
        })}
      </Stack>
    </Stack>
  );
}

function GroupRow({ group, onChange }: { group: PinGroup; onChange: (group: PinGroup | null) => void }) {
  const [text, setText] = useState(sidesOf(group));
  const take = (typed: string) => {
    setText(typed);
    if (group.type === 'either') {
      const sides = typed
        .split('|')
        .map(pinsIn)
        .filter((side) => side.length > 0);
      if (sides.length >= 2 && sides.length <= 6) onChange({ ...group, sides });
    } else {
      const pins = pinsIn(typed);
      if (pins.length > 0) onChange({ ...group, pins });
    }
  };
  const understood = group.type === 'either' ? group.sides.flat().length : group.pins.length;
  return (
    <Line>
      <strong>{groupNames[group.type]}</strong>
      <TextField
        label="Name of the group"
        hideLabel
        value={group.name}
        maxLength={40}
        onChange={(name) => name !== '' && onChange({ ...group, name })}
      />
      <TextField
        label="Its pins"
        hideLabel
        value={text}
        onChange={take}
        placeholder={group.type === 'either' ? 'A1, A2 | A3' : 'A1, A2, A5-A8'}
      />
      {group.type === 'budget' && (
        <NumberField
          label="Amperes together"
          hideLabel
          unit="A"
          value={group.amps}
          minValue={0.01}
          maxValue={200}
          onChange={(amps) => amps !== null && onChange({ ...group, amps })}
          style={{ width: 100 }}
        />
      )}
      <Small>{understood} pins</Small>
      <Button weight="quiet" onPress={() => onChange(null)}>
        remove
      </Button>
    </Line>
  );
}

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${space[2]} ${space[3]};
  padding-bottom: ${space[2]};
  border-bottom: ${shape.hair} solid ${color.rule};
`;
