import type { VoltsTable } from './kind';

/** Milliseconds at a battery voltage: linear between rows, the end rows beyond them. Null for an empty table. */
export function atVolts(table: VoltsTable, volts: number): number | null {
  if (table.length === 0) return null;
  const after = table.findIndex((row) => row.volts >= volts);
  if (after === 0) return table[0]!.milliseconds;
  if (after < 0) return table[table.length - 1]!.milliseconds;
  const [from, to] = [table[after - 1]!, table[after]!];
  return from.milliseconds + ((to.milliseconds - from.milliseconds) * (volts - from.volts)) / (to.volts - from.volts);
}
