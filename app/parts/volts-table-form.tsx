import { useState } from 'react';
import { voltsTableSchema, type VoltsTable } from '~/core/devices/kind';
import { Button } from '../ui/button';
import { NumberField } from '../ui/number-field';
import { Callout, FieldGrid, Row, Small, Stack } from '../ui/text';

interface Draft {
  volts: number | null;
  milliseconds: number | null;
}

/** Milliseconds by battery volts, row by row. What is wrong is named by its row. */
export function VoltsTableForm({
  label,
  table,
  mayBeEmpty = false,
  onChange,
}: {
  label: string;
  table: VoltsTable;
  mayBeEmpty?: boolean;
  onChange: (table: VoltsTable, problem: string | null) => void;
}) {
  const [rows, setRows] = useState<Draft[]>(table);
  const [said, setSaid] = useState<string | null>(null);
  const set = (next: Draft[]) => {
    setRows(next);
    const blank = next.findIndex((row) => row.volts === null || row.milliseconds === null);
    const parsed = voltsTableSchema.safeParse(next);
    const problem =
      blank >= 0
        ? `Row ${blank + 1} is not filled in.`
        : !parsed.success
          ? `Row ${Number(parsed.error.issues[0].path[0]) + 1}: ${wordOf(String(parsed.error.issues[0].path[1] ?? ''))} ${parsed.error.issues[0].message}.`
          : next.length === 0 && !mayBeEmpty
            ? 'One row is needed at least.'
            : null;
    setSaid(problem);
    onChange(problem === null ? (next as VoltsTable) : table, problem);
  };
  return (
    <Stack $gap={2}>
      <strong>{label} by battery voltage</strong>
      {rows.length === 0 && <Small>Nothing known yet.</Small>}
      {rows.map((row, index) => (
        <FieldGrid key={index} $min={120}>
          <NumberField
            label={`${label} row ${index + 1}, battery`}
            unit="V"
            value={row.volts}
            onChange={(volts) => set(rows.map((one, i) => (i === index ? { ...one, volts } : one)))}
          />
          <NumberField
            label={`${label} row ${index + 1}, time`}
            unit="ms"
            value={row.milliseconds}
            onChange={(milliseconds) => set(rows.map((one, i) => (i === index ? { ...one, milliseconds } : one)))}
          />
        </FieldGrid>
      ))}
      {said && (
        <Callout $tone="stop" role="alert">
          {said}
        </Callout>
      )}
      <Row $gap={2}>
        <Button isDisabled={rows.length >= 24} onPress={() => set([...rows, { volts: null, milliseconds: null }])}>
          Add a row
        </Button>
        <Button isDisabled={rows.length === 0} onPress={() => set(rows.slice(0, -1))}>
          Take the last off
        </Button>
      </Row>
    </Stack>
  );
}

const wordOf = (field: string): string => (field === 'volts' ? 'battery volts' : 'time');
