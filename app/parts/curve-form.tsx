import { useState } from 'react';
import { prepareCurve, type Curve, type CurveMethod, type Point } from '~/core/devices/curve';
import { parsePoints } from '~/core/sensing/points';
import { betaOf } from '~/core/devices/thermistor';
import { fromShown, toShown, type UnitScale } from '~/core/units/units';
import { Button } from '../ui/button';
import { NumberField } from '../ui/number-field';
import { Select } from '../ui/select';
import { Callout, FieldGrid, Row, Small, Stack } from '../ui/text';
import { TextAreaField } from '../ui/text-area';

type Signal = 'volts' | 'ohms' | 'hertz' | 'millivolts';
export const signalUnits: Record<Signal, string> = { volts: 'V', ohms: 'Ω', hertz: 'Hz', millivolts: 'mV' };

const methodsFor = (signal: Signal, isTemperature: boolean): { id: CurveMethod; name: string; note: string }[] => [
  { id: 'linear', name: 'straight line, two points', note: 'ratiometric sensors, controllers' },
  { id: 'table', name: 'table', note: 'straight between its rows, nothing beyond them' },
  ...(signal === 'ohms' && isTemperature
    ? [
        { id: 'steinhart-hart' as const, name: 'thermistor, three points', note: 'Steinhart-Hart, exact at all three' },
        {
          id: 'beta' as const,
          name: 'thermistor, one point and beta',
          note: 'from two points, when no third is known',
        },
      ]
    : []),
  ...(signal === 'millivolts' ? [{ id: 'type-k' as const, name: 'thermocouple type K', note: 'ITS-90' }] : []),
];

interface Row {
  signal: number | null;
  value: number | null;
}
const rowsOf = (curve: Curve): Row[] =>
  'points' in curve
    ? curve.points.map((point) => ({ ...point }))
    : curve.method === 'beta'
      ? [{ signal: curve.ohms, value: curve.celsius }]
      : [];
const rowCount: Record<CurveMethod, number | null> = {
  linear: 2,
  table: null,
  'steinhart-hart': 3,
  beta: 1,
  'type-k': 0,
};

function fitRows(rows: readonly Row[], method: CurveMethod): Row[] {
  const count = rowCount[method];
  if (count === null)
    return rows.length >= 2 ? [...rows] : [...rows, ...Array<Row>(2 - rows.length).fill({ signal: null, value: null })];
  return Array.from({ length: count }, (_, i) => rows[i] ?? { signal: null, value: null });
}

/** The form's state as a curve, or why it is none yet. */
function curveFrom(
  method: CurveMethod,
  rows: readonly Row[],
  beta: number | null,
): { curve: Curve } | { problem: string } {
  const blank = rows.findIndex((row) => row.signal === null || row.value === null);
  if (blank >= 0) return { problem: `Row ${blank + 1} is not filled in.` };
  const points = rows as Point[];
  const curve: Curve =
    method === 'type-k'
      ? { method }
      : method === 'beta'
        ? { method, ohms: points[0].signal, celsius: points[0].value, beta: beta ?? 0 }
        : { method, points: [...points] };
  if (curve.method === 'beta' && !(curve.ohms > 0)) return { problem: 'Row 1: ohms must be above 0.' };
  if (curve.method === 'beta' && !(curve.beta >= 100 && curve.beta <= 20000))
    return { problem: 'Beta lies between 100 and 20000 K.' };
  const prepared = prepareCurve(curve);
  return prepared.ok ? { curve } : { problem: prepared.problem.sentence };
}

/** Enter a calibration: by points, a pasted table, or a law. What is wrong is said by row; nothing is kept until it is right. */
export function CurveForm({
  start,
  signal,
  scale,
  isTemperature,
  onKeep,
  keepLabel = 'Keep this calibration',
}: {
  start: Curve;
  signal: Signal;
  scale: UnitScale;
  isTemperature: boolean;
  onKeep: (curve: Curve) => void;
  keepLabel?: string;
}) {
  const [method, setMethod] = useState<CurveMethod>(start.method);
  const [rows, setRows] = useState<Row[]>(() => rowsOf(start));
  const [beta, setBeta] = useState<number | null>(start.method === 'beta' ? start.beta : 3450);
  const [paste, setPaste] = useState('');
  const [pasteProblem, setPasteProblem] = useState<string | null>(null);
  const result = curveFrom(method, rows, beta);
  const unit = signalUnits[signal];
  const digits = 10 ** (scale.decimals + 2);
  const setRow = (index: number, part: Partial<Row>) =>
    setRows(rows.map((row, i) => (i === index ? { ...row, ...part } : row)));
  const choose = (next: CurveMethod) => {
    if (
      next === 'beta' &&
      rows.length >= 2 &&
      rows[0].signal &&
      rows[1].signal &&
      rows[0].value !== null &&
      rows[1].value !== null
    )
      setBeta(
        Math.round(
          betaOf({ ohms: rows[0].signal, celsius: rows[0].value }, { ohms: rows[1].signal, celsius: rows[1].value }),
        ),
      );
    setMethod(next);
    setRows(fitRows(rows, next));
  };
  const take = () => {
    const parsed = parsePoints(paste, { ohms: signal === 'ohms' });
    setPasteProblem(parsed.ok ? null : parsed.problem.sentence);
    if (!parsed.ok) return;
    setMethod('table');
    setRows(parsed.value.map((point) => ({ signal: point.signal, value: fromShown(scale, point.value) })));
    setPaste('');
  };
  return (
    <Stack $gap={3}>
      <Select
        label="How it is known"
        choices={methodsFor(signal, isTemperature)}
        value={method}
        onChange={(id) => choose(id as CurveMethod)}
      />
      {rows.map((row, index) => (
        <FieldGrid key={index} $min={110}>
          <NumberField
            label={`Row ${index + 1}, signal`}
            unit={unit}
            value={row.signal}
            onChange={(value) => setRow(index, { signal: value })}
          />
          <NumberField
            label={`Row ${index + 1}, value`}
            unit={scale.unit}
            value={row.value === null ? null : Math.round(toShown(scale, row.value) * digits) / digits}
            onChange={(value) => setRow(index, { value: value === null ? null : fromShown(scale, value) })}
          />
        </FieldGrid>
      ))}
      {method === 'beta' && <NumberField label="Beta" unit="K" value={beta} onChange={setBeta} />}
      {method === 'table' && (
        <>
          <Row $gap={2}>
            <Button isDisabled={rows.length >= 64} onPress={() => setRows([...rows, { signal: null, value: null }])}>
              Add a row
            </Button>
            <Button isDisabled={rows.length <= 2} onPress={() => setRows(rows.slice(0, -1))}>
              Take the last off
            </Button>
          </Row>
          <TextAreaField
            label={`Or paste two columns: ${unit} and ${scale.unit}`}
            value={paste}
            onChange={setPaste}
            rows={3}
            error={pasteProblem ?? undefined}
          />
          {paste.trim() !== '' && <Button onPress={take}>Read these lines</Button>}
        </>
      )}
      {method === 'type-k' && (
        <Small>Reference function of ITS-90, cold junction at 0 °C, compensated in the ECU.</Small>
      )}
      {'problem' in result && (
        <Callout $tone="stop" role="alert">
          {result.problem}
        </Callout>
      )}
      <Row>
        <Button weight="act" isDisabled={'problem' in result} onPress={() => 'curve' in result && onKeep(result.curve)}>
          {keepLabel}
        </Button>
      </Row>
    </Stack>
  );
}
