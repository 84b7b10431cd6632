import Papa from 'papaparse';
import type { Build } from '../build/schema';
import { askWords } from '../ecu/ask';
import { ecuEnd } from '../ends/ends';
import { labelOf } from '../netlist/label';
import { farOf } from '../netlist/whole';
import type { Netlist } from '../netlist/netlist';
import { neutralise } from '../data/csv';
import type { Progress } from '../prove/verdict';
import { inPlace } from './in-place';
import { natural } from '../data/natural';
import { METRES_PER_FOOT } from '../units/convert';
import { shortSize } from '../wire/size';

export const ioOrders = ['pin', 'device', 'branch'] as const;
export type IoOrder = (typeof ioOrders)[number];

/** One cavity of the ECU on the sheet people print and tick. */
export interface IoRow {
  readonly pinId: string;
  readonly connector: string;
  readonly cavity: number;
  readonly ecuLabel: string;
  /** What it serves, `free` or `feeds`. */
  readonly serves: string;
  readonly device: string;
  /** Far end of the wire. */
  readonly to: string;
  readonly asks: string;
  readonly colour: string;
  readonly squareMm: number | null;
  readonly metres: number | null;
  readonly crimped: boolean;
  readonly proved: boolean;
  /** What a reading found wrong; '' for nothing. */
  readonly wrong: string;
}

/** Every cavity with a pin behind it, spare ones too, in the order asked. Spares come last when sorted by device or branch. */
export function ioRows(
  build: Build,
  net: Netlist,
  progress: Pick<Progress, 'proved' | 'wrongWires'>,
  order: IoOrder,
): IoRow[] {
  const { proved, wrongWires } = progress;
  const devices = new Map(build.devices.map((device) => [device.id, device]));
  const needs = new Map(net.needs.map((need) => [need.id, need]));
  const rows = net.cavities.map(({ pin, needId }): IoRow => {
    const [wire] = net.wiresAt.get(ecuEnd(pin.id)) ?? [];
    const need = needId === null ? undefined : needs.get(needId);
    const device = wire?.deviceId ? devices.get(wire.deviceId) : undefined;
    return {
      pinId: pin.id,
      connector: pin.connector,
      cavity: pin.cavity,
      ecuLabel: pin.label,
      serves: need?.label ?? (wire ? 'feeds and grounds' : 'free'),
      device: device?.label ?? (need || wire ? 'Feeds and relays' : ''),
      to: wire ? labelOf(net, farOf(net, wire, ecuEnd(pin.id))) : '',
      asks: need ? askWords(need.ask) : '',
      colour: wire?.colour ?? '',
      squareMm: wire?.squareMm ?? null,
      metres: wire?.lengthMetres ?? null,
      crimped: wire !== undefined && !wrongWires.has(wire.id) && inPlace(build, wire.from, wire.to),
      proved: wire !== undefined && !wrongWires.has(wire.id) && proved.has(wire.id),
      wrong: (wire && wrongWires.get(wire.id)) ?? '',
    };
  });
  const byPin = (one: IoRow, other: IoRow) => natural(one.connector, other.connector) || one.cavity - other.cavity;
  const free = (row: IoRow) => (row.to === '' ? 1 : 0);
  return rows.sort((one, other) => {
    if (order === 'device') return free(one) - free(other) || natural(one.device, other.device) || byPin(one, other);
    if (order === 'branch')
      return free(one) - free(other) || (one.metres ?? 0) - (other.metres ?? 0) || byPin(one, other);
    return byPin(one, other);
  });
}

/** Columns of sizes and lengths are named by the unit that stands in them. */
const headingsOf = ({ units }: Pick<Build, 'units'>) => [
  'pin',
  'ECU label',
  'serves',
  'device',
  'to',
  'asks for',
  'colour',
  units.workshop === 'inch' ? 'size' : 'size mm²',
  units.workshop === 'inch' ? 'length ft' : 'length m',
  'crimped',
  'proved',
];
function cellsOf(row: IoRow, reader: Pick<Build, 'units'>): string[] {
  const inch = reader.units.workshop === 'inch';
  const metres = row.metres ?? 0;
  return [
    row.pinId,
    row.ecuLabel,
    row.serves,
    row.device,
    row.to,
    row.asks,
    row.colour,
    row.squareMm === null ? '' : inch ? shortSize(row.squareMm, reader) : String(row.squareMm),
    row.metres === null ? '' : (inch ? metres / METRES_PER_FOOT : metres).toFixed(2),
    row.crimped ? 'yes' : '',
    row.wrong !== '' ? 'wrong' : row.proved ? 'yes' : '',
  ];
}

/** As a CSV file (RFC 4180). */
export const ioCsv = (rows: readonly IoRow[], reader: Pick<Build, 'units'>): string =>
  Papa.unparse([headingsOf(reader), ...rows.map((row) => cellsOf(row, reader).map(neutralise))], { newline: '\r\n' });

/** For the clipboard: a spreadsheet pastes it into cells. */
export const ioTsv = (rows: readonly IoRow[], reader: Pick<Build, 'units'>): string =>
  [
    headingsOf(reader),
    ...rows.map((row) => cellsOf(row, reader).map((cell) => String(neutralise(cell.replace(/\s+/g, ' '))))),
  ]
    .map((cells) => cells.join('\t'))
    .join('\n');
