import type { Bought, Build } from '../build/schema';
import { groupBy } from '../data/group';
import { cavityCount } from '../ecu/face';
import { deviceEnd, endOf, endType, partEnd, pinAt, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import { formatOhms } from '../units/format';
import { readSize } from '../wire/size';
import { coveringWords, segmentFigures, warmAmps, wiresBySegment } from './bundles';
import { placeName } from './names';
import { meetingsOf } from './plug-face';

/** A line of what has to be bought. */
export interface PartLine {
  /** Stable, for what is on the shelf and on order. */
  readonly key: string;
  readonly group: (typeof partGroups)[number];
  readonly name: string;
  /** Exactly as many as the plan has, metres for what is sold by length. */
  readonly needed: number;
  /** With spares. */
  readonly toBuy: number;
  readonly unit: 'piece' | 'metre';
  /** Size of wire or sleeve the line is about, where it has one: square millimetres, or millimetres of bore. */
  readonly squareMm: number | null;
  readonly boreMillimetres: number | null;
}
export const partGroups = [
  'Plugs',
  'Terminals',
  'Seals and blanks',
  'Splices',
  'Rings',
  'Feeds',
  'Sleeves',
  'Wire',
] as const;

/** Terminals are spoilt: one in ten, and two at the least (common practice). */
const SPARE_SHARE = 0.1;
const LEAST_SPARE = 2;
const withSpares = (count: number): number => count + Math.max(LEAST_SPARE, Math.ceil(count * SPARE_SHARE));
/** Sleeves are cut to fit: one part in ten more. */
const SLEEVE_MORE = 1.1;

/** Everything the loom is made of, by what is bought. */
export function partsToBuy(build: Build, net: Netlist): PartLine[] {
  const lines = new Map<string, PartLine & { needed: number }>();
  const add = (
    group: PartLine['group'],
    key: string,
    name: string,
    needed: number,
    more: Partial<Pick<PartLine, 'unit' | 'squareMm' | 'boreMillimetres'>> = {},
  ) => {
    const known = lines.get(`${group} ${key}`);
    lines.set(`${group} ${key}`, {
      key: `${group} ${key}`,
      group,
      name,
      needed: (known?.needed ?? 0) + needed,
      toBuy: 0,
      unit: 'piece',
      squareMm: null,
      boreMillimetres: null,
      ...more,
    });
  };
  const connectorOf = new Map(build.ecu.pins.map((pin) => [pin.id, pin.connector]));
  const sealed = new Map(build.ecu.connectors.map((connector) => [connector.id, connector.sealed]));
  const terminal = (end: EndKey, squareMm: number) => {
    const ref = endOf(end);
    if (ref.of === 'ecu') {
      const connector = connectorOf.get(ref.pin) ?? '';
      add('Terminals', `ecu ${connector} ${squareMm}`, `${build.ecu.model} ${connector}`, 1, { squareMm });
      if (sealed.get(connector))
        add('Seals and blanks', `seal ecu ${connector}`, `Wire seal, ${build.ecu.model} ${connector}`, 1);
      return;
    }
    if (ref.of === 'device') {
      const kind = net.deviceOf.get(ref.device)?.kind;
      if (!kind) return;
      add('Terminals', `kind ${kind.id} ${squareMm}`, kind.name, 1, { squareMm });
      if (kind.face?.sealed) add('Seals and blanks', `seal kind ${kind.id}`, `Wire seal, ${kind.name}`, 1);
      return;
    }
    switch (ref.kind) {
      case 'plug': {
        const name = placeName(build, ref.part);
        add('Terminals', `plug ${ref.part} ${squareMm}`, `${name}, pins and sockets`, 1, { squareMm });
        if (build.tree.nodes[ref.part]?.plug?.sealed)
          add('Seals and blanks', `seal plug ${ref.part}`, `Wire seal, ${name}`, 1);
        break;
      }
      case 'ground':
      case 'battery':
      case 'busbar':
      case 'switch': {
        const stud = STUDS[ref.kind];
        add('Rings', `ring ${squareMm} M${stud}`, `Ring terminal, M${stud}`, 1, { squareMm });
        break;
      }
      case 'resistor':
      case 'diode':
      case 'button':
        add('Terminals', `in line ${squareMm}`, 'Butt crimps for parts in the line', 1, { squareMm });
        break;
      case 'fuse':
      case 'relay':
        add('Terminals', `holder ${squareMm}`, 'Holders of fuses and relays', 1, { squareMm });
        break;
      default:
        break;
    }
  };
  for (const wire of net.wires) for (const end of [wire.from, wire.to]) terminal(end, wire.squareMm);

  // Plugs: one for each device, both halves of those in the loom.
  for (const [kindId, of] of groupBy(net.devices, ({ kind }) => kind.id)) {
    const wired = of.filter(({ device }) =>
      net.wires.some(({ from, to }) => isOf(from, device.id) || isOf(to, device.id)),
    );
    const [first] = wired;
    if (!first) continue;
    const { name, face, terminals } = first.kind;
    const ways = face ? cavityCount(face) : terminals.length;
    add('Plugs', `kind ${kindId}`, `${name}, ${ways} ways`, wired.length);
    if (!face?.sealed) continue;
    const used = wired.map(
      ({ device }) => Object.keys(face.cavities).filter((id) => net.wiresAt.has(deviceEnd(device.id, id))).length,
    );
    const free = used.reduce((sum, count) => sum + ways - count, 0);
    if (free > 0) add('Seals and blanks', `blank kind ${kindId}`, `Blank, ${name}`, free);
  }
  for (const [id, { plug }] of Object.entries(build.tree.nodes)) {
    if (!plug) continue;
    add('Plugs', `plug ${id}`, `${placeName(build, id)}, both halves, ${plug.cavities} ways`, 1);
    const free = plug.cavities - meetingsOf(build, net, id).length;
    if (plug.sealed && free > 0)
      add('Seals and blanks', `blank plug ${id}`, `Blank, ${placeName(build, id)}`, 2 * free);
  }
  for (const connector of build.ecu.connectors) {
    add('Plugs', `ecu ${connector.id}`, `${build.ecu.model} ${connector.id}`, 1);
    const free = build.ecu.pins.filter(
      (pin) =>
        pin.connector === connector.id &&
        !net.wires.some(({ from, to }) => pinAt(from) === pin.id || pinAt(to) === pin.id),
    ).length;
    if (connector.sealed && free > 0)
      add('Seals and blanks', `blank ecu ${connector.id}`, `Blank, ${build.ecu.model} ${connector.id}`, free);
  }
  // Splices by all the copper that meets in them.
  const met = groupBy(
    net.wires.flatMap(({ from, to, squareMm }) =>
      [from, to].flatMap((end) => (endType(end) === 'splice' ? [{ end, squareMm }] : [])),
    ),
    ({ end }) => end,
  );
  for (const all of met.values()) {
    const sum = Math.round(all.reduce((total, { squareMm }) => total + squareMm, 0) * 100) / 100;
    const size = SPLICE_SIZES.find((most) => most >= sum) ?? sum;
    add('Splices', `splice ${size}`, `Splice for ${readSize(size, build)} together`, 1);
  }
  // Where boxes are named, what stands in none hangs in the line; else all stand in one that nobody named.
  const boxed = Object.keys(build.feeds.boxes).length > 0;
  const loose = new Set(
    net.parts.flatMap(({ id, part, proposed }) => (part.box === undefined && (boxed || !proposed) ? [id] : [])),
  );
  for (const { id, name, part } of net.parts) {
    if (part.existing) continue;
    const amps = net.circuits.find(({ id }) => id === name)?.fuseAmps;
    if (part.kind === 'fuse') add('Feeds', `fuse ${amps}`, `Fuse ${amps} A`, 1);
    if (part.kind === 'fuse' && part.box === undefined && loose.has(id))
      add('Feeds', 'holder in line', 'Fuse holder, in line, sealed', 1);
    if (part.kind === 'resistor') add('Feeds', `resistor ${part.ohms}`, resistorWords(name, part.ohms), 1);
    if (part.kind === 'diode') add('Feeds', 'diode', 'Diode, 3 A', 1);
    if (part.kind === 'button') add('Feeds', 'button', 'Push button, normally open', 1);
    if (part.kind === 'switch')
      add(
        'Feeds',
        `switch ${part.amps} ${part.poles ?? 1}`,
        `${part.name}, ${part.amps} A${part.poles === 2 ? ', with a second contact' : ''}`,
        1,
      );
    if (part.kind === 'busbar') {
      const studs = net.wiresAt.get(partEnd('busbar', name))?.length ?? 0;
      add('Feeds', `busbar ${studs}`, `Busbar with cover, ${studs} studs`, 1);
    }
    if (part.kind === 'battery') add('Feeds', `battery ${part.ampereHours}`, `${part.name}, ${part.ampereHours} Ah`, 1);
    if (part.kind === 'relay')
      add(
        'Feeds',
        `relay ${part.contact} ${part.suppression}`,
        `Relay, ${part.contact === 'make' ? 'make contact' : 'change-over'}${part.suppression === 'diode' ? ', diode inside' : part.suppression === 'resistor' ? ', resistor inside' : ''}`,
        1,
      );
  }
  const wires = wiresBySegment(net);
  const warm = warmAmps(net);
  for (const [id, segment] of Object.entries(build.tree.segments)) {
    const { covering, sleeveMillimetres } = segmentFigures(build, net, id, wires.get(id) ?? [], warm);
    if (covering === 'none' || (wires.get(id) ?? []).length === 0) continue;
    add('Sleeves', `${covering} ${sleeveMillimetres ?? ''}`, coveringWords[covering], segment.metres, {
      unit: 'metre',
      boreMillimetres: sleeveMillimetres,
    });
  }
  for (const { squareMm, colour, lengthMetres } of net.wires)
    add('Wire', `${colour} ${squareMm}`, colour, lengthMetres, { unit: 'metre', squareMm });
  return [...lines.values()]
    .map((line) => ({
      ...line,
      needed: Math.round(line.needed * 100) / 100,
      toBuy: bought(line),
    }))
    .sort(
      (one, other) =>
        partGroups.indexOf(one.group) - partGroups.indexOf(other.group) ||
        one.name.localeCompare(other.name) ||
        (one.squareMm ?? 0) - (other.squareMm ?? 0),
    );
}
const isOf = (end: EndKey, deviceId: string): boolean => {
  const ref = endOf(end);
  return ref.of === 'device' && ref.device === deviceId;
};
/** Studs that rings lie on, mm of thread (common practice: bars and switches M8, a battery's clamp and a body's bolt M8 and M6). */
const STUDS = { ground: 6, battery: 8, busbar: 6, switch: 8 } as const;
/** A resistor by what it takes: that of a charge lamp stands the battery's volts for good. */
function resistorWords(name: string, ohms: number): string {
  const watts = [0.25, 0.5, 1, 2, 5, 10, 25, 50].find((most) => most >= 2 * (RESTING_VOLTS ** 2 / ohms)) ?? 50;
  return `Resistor ${formatOhms(ohms)}, ${watts} W${name.startsWith('alternator') ? ', for the charge lamp' : ''}`;
}
/** What may stand across it with the key on. */
const RESTING_VOLTS = 14.5;
/** Barrels of crimped splices, by all the copper they take, mm² (common practice). */
const SPLICE_SIZES = [1, 2.5, 4, 6, 10, 16, 25] as const;

function bought({ group, needed }: Pick<PartLine, 'group' | 'needed'>): number {
  switch (group) {
    case 'Plugs':
      return needed;
    case 'Sleeves':
      return Math.ceil(needed * SLEEVE_MORE);
    case 'Wire':
      return Math.ceil(needed * SLEEVE_MORE);
    default:
      return withSpares(needed);
  }
}

const nothingYet: Bought = { have: 0, ordered: 0, arrived: 0, price: null, supplier: '' };
/** What is known of a line: nothing yet, where nobody has noted any. */
export const boughtOf = ({ stores }: Pick<Build, 'stores'>, { key }: Pick<PartLine, 'key'>): Bought =>
  stores.parts[key] ?? nothingYet;

/** What is still to be ordered of a line: what is here and on its way taken off. What has arrived was ordered before. */
export const stillToOrder = ({ toBuy }: Pick<PartLine, 'toBuy'>, { have, ordered, arrived }: Bought): number =>
  Math.max(0, Math.ceil(toBuy - have - Math.max(ordered, arrived)));

/** Lines that are not all ordered yet, and what those with a price will cost. */
export function orderOf(
  build: Pick<Build, 'stores'>,
  lines: readonly PartLine[],
): { readonly open: number; readonly cost: number } {
  const missing = lines.map((line) => ({
    count: stillToOrder(line, boughtOf(build, line)),
    price: boughtOf(build, line).price,
  }));
  return {
    open: missing.filter(({ count }) => count > 0).length,
    cost: missing.reduce((sum, { count, price }) => sum + count * (price ?? 0), 0),
  };
}
