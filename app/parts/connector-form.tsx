import { useState } from 'react';
import { styled } from 'styled-components';
import { numberingSchema, type Connector, type Numbering } from '~/core/ecu/ecu';
import type { Units } from '~/core/units/units';
import { Button } from '../ui/button';
import { Checkbox } from '../ui/choice';
import { NumberField } from '../ui/number-field';
import { Select } from '../ui/select';
import { FieldGrid, Row, Small } from '../ui/text';
import { TextField } from '../ui/text-field';
import { color, shape, space } from '../ui/theme';
import { SizeField } from './size-field';

const plainNumbering: Numbering = { from: 'top-left', along: 'rows', turning: false };
const corners = numberingSchema.shape.from.options.map((id) => ({ id, name: id.replace('-', ' ') }));
const edges = ['bottom', 'top', 'left', 'right'] as const;

/** Numbers in a text: `10, 10, 8`. */
const numbersIn = (text: string): number[] => (text.match(/\d+/g) ?? []).map(Number);

/** How a connector looks, as seen from the wire side: rows, numbering, sizes, ribs. */
export function ConnectorFields({
  connector,
  units,
  onChange,
  named = false,
}: {
  connector: Connector;
  units: Units;
  onChange: (connector: Connector) => void;
  /** It may have words of the person's own. */
  named?: boolean;
}) {
  const [rows, setRows] = useState(connector.rows.join(', '));
  const [large, setLarge] = useState(connector.large?.cavities.join(', ') ?? '');
  const numbering = connector.numbering ?? plainNumbering;
  const number = (change: Partial<Numbering>) => onChange({ ...connector, numbering: { ...numbering, ...change } });
  const parsed = numbersIn(rows);
  const badRows = parsed.length === 0 || parsed.length > 10 || parsed.some((count) => count < 1 || count > 60);
  const largeSquareMm = connector.large?.maxSquareMm ?? 6;
  const setLargeCavities = (text: string, squareMm = largeSquareMm) => {
    setLarge(text);
    const { large: _, ...rest } = connector;
    const list = numbersIn(text).slice(0, 60);
    onChange(list.length === 0 ? rest : { ...rest, large: { cavities: list, maxSquareMm: squareMm } });
  };
  return (
    <>
      <FieldGrid $min={150}>
        {named && (
          <TextField
            label="Your words for it"
            value={connector.name ?? ''}
            maxLength={60}
            onChange={(name) => onChange({ ...connector, name })}
            hint="grey, towards the bulkhead"
          />
        )}
        <TextField
          label="Cavities per row, from the top"
          value={rows}
          onChange={(text) => {
            setRows(text);
            const counts = numbersIn(text);
            if (counts.length > 0 && counts.length <= 10 && counts.every((count) => count >= 1 && count <= 60))
              onChange({ ...connector, rows: counts });
          }}
          error={badRows ? 'One to ten numbers of 1 to 60, such as 10, 10, 8.' : undefined}
        />
        <NumberField
          label="First number"
          value={connector.first ?? 1}
          minValue={1}
          maxValue={400}
          onChange={(first) => first !== null && onChange({ ...connector, first })}
        />
        <Select
          label="Counting starts"
          choices={corners}
          value={numbering.from}
          onChange={(from) => number({ from: from as Numbering['from'] })}
        />
        <Select
          label="and runs along"
          choices={[
            { id: 'rows', name: 'rows' },
            { id: 'columns', name: 'columns' },
          ]}
          value={numbering.along}
          onChange={(along) => number({ along: along as Numbering['along'] })}
        />
        <SizeField
          label="Wire up to"
          units={units}
          value={connector.maxSquareMm}
          minValue={0.1}
          maxValue={16}
          onChange={(maxSquareMm) => onChange({ ...connector, maxSquareMm })}
        />
        <TextField
          label="Cavities with large terminals"
          value={large}
          onChange={(text) => setLargeCavities(text)}
          hint="numbers; empty for none"
        />
        {connector.large && (
          <SizeField
            label="Large: wire up to"
            units={units}
            value={largeSquareMm}
            minValue={0.1}
            maxValue={50}
            onChange={(squareMm) => setLargeCavities(large, squareMm)}
          />
        )}
      </FieldGrid>
      <Row>
        <Checkbox isSelected={numbering.turning} onChange={(turning) => number({ turning })}>
          every second line runs back
        </Checkbox>
        <Checkbox
          isSelected={connector.staggered ?? false}
          onChange={(staggered) => onChange({ ...connector, staggered })}
        >
          rows are staggered
        </Checkbox>
        <Checkbox isSelected={connector.sealed} onChange={(sealed) => onChange({ ...connector, sealed })}>
          sealed
        </Checkbox>
      </Row>
      <Row $gap={3}>
        <Small>Ribs of the housing:</Small>
        {(connector.keys ?? []).map((key, index) => {
          const set = (change: Partial<typeof key> | null) =>
            onChange({
              ...connector,
              keys: (connector.keys ?? []).flatMap((one, i) =>
                i === index ? (change ? [{ ...one, ...change }] : []) : [one],
              ),
            });
          return (
            <Rib key={index}>
              <Select
                label="Edge"
                hideLabel
                choices={edges.map((id) => ({ id, name: id }))}
                value={key.edge}
                onChange={(edge) => set({ edge: edge as typeof key.edge })}
              />
              <NumberField
                label="Place along the edge"
                hideLabel
                unit="%"
                value={Math.round(key.at * 100)}
                minValue={0}
                maxValue={100}
                onChange={(percent) => percent !== null && set({ at: percent / 100 })}
                style={{ width: 96 }}
              />
              <Button weight="quiet" onPress={() => set(null)}>
                remove
              </Button>
            </Rib>
          );
        })}
        <Button
          weight="quiet"
          isDisabled={(connector.keys?.length ?? 0) >= 8}
          onPress={() => onChange({ ...connector, keys: [...(connector.keys ?? []), { edge: 'bottom', at: 0.5 }] })}
        >
          Add a rib
        </Button>
      </Row>
    </>
  );
}

const Rib = styled.span`
  display: inline-flex;
  align-items: center;
  gap: ${space[2]};
  padding-right: ${space[2]};
  border-right: ${shape.hair} solid ${color.rule};
`;
