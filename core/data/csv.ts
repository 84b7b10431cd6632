import Papa from 'papaparse';

/**
 * A cell that a spreadsheet would take for a formula gets a leading apostrophe (common practice; OWASP 'CSV Injection').
 * Plain numbers such as -3.5 stay numbers.
 */
export function neutralise(cell: string | number | null): string | number {
  if (cell === null) return '';
  if (typeof cell === 'number') return cell;
  return /^[=+\-@\t\r]/.test(cell) && !/^-?\d+(\.\d+)?$/.test(cell) ? `'${cell}` : cell;
}

/** RFC 4180 text: comma separated, CRLF lines, cells quoted where needed and neutralised. */
export function toCsv(header: readonly string[], rows: readonly (readonly (string | number | null)[])[]): string {
  return Papa.unparse([header.map(neutralise), ...rows.map((row) => row.map(neutralise))], { newline: '\r\n' });
}
