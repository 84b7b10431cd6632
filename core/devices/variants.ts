import { sensorsIn, trait, type Destination, type DeviceKind, type Terminal, type Trait } from './kind';

/** What a terminal is for, whatever its number: by where it goes. */
function purposeOf({ destination }: Terminal): string {
  switch (destination.to) {
    case 'pin': {
      const { kind, side, cell, phase } = destination.ask;
      return ['pin', kind, side, cell, phase].filter((part) => part !== undefined).join(' ');
    }
    case 'supply-5v':
      return '5 V supply';
    case 'feed':
      return 'feed';
    case 'ground':
    case 'mounted':
    case 'sensor-ground':
      return 'ground';
    default:
      return destination.to;
  }
}

/** Two terminals of two kinds that do the same; one of them missing where the other kind has none. */
export interface VariantRow {
  readonly from: Terminal | null;
  readonly to: Terminal | null;
  /** The wire stays in its cavity. */
  readonly same: boolean;
}

export interface VariantDifference {
  readonly rows: readonly VariantRow[];
  /** Cavities to change at the plug, by the numbers on the parts: what sits in `from` goes to `to`. */
  readonly moves: readonly { readonly from: string; readonly to: string }[];
  /** Terminals of the other part that get a wire of their own, and wires that are left over. */
  readonly adds: readonly Terminal[];
  readonly leaves: readonly Terminal[];
  /** Terminals that are fed or returned otherwise: another supply, a pull-up, another ground. */
  readonly otherwise: readonly { readonly terminal: Terminal; readonly was: Destination }[];
  /** True when the plug of one fits the other and no wire has to move. */
  readonly exchangeable: boolean;
}

const sameDestination = (one: Destination, other: Destination): boolean => {
  const plain = ({ ...rest }: Record<string, unknown>) =>
    JSON.stringify({ ...rest, amps: undefined, milliamps: undefined });
  return plain(one) === plain(other);
};

/**
 * Two parts side by side: terminals matched by what they are for, then by name, then in order; and the steps from one to the
 * other at a plug that is already crimped.
 */
export function compareVariants(from: DeviceKind, to: DeviceKind): VariantDifference {
  const left = new Set(to.terminals);
  const match = new Map<Terminal, Terminal>();
  const passes: ((own: Terminal, other: Terminal) => boolean)[] = [
    (own, other) => own.name === other.name && purposeOf(own) === purposeOf(other),
    (own, other) => purposeOf(own) === purposeOf(other) && own.id === other.id,
    (own, other) => purposeOf(own) === purposeOf(other),
    // A supply stays a supply, be it of 5 or of 12 volts.
    (own, other) => own.name === other.name && purposeOf(own) !== 'pin' && purposeOf(other) !== 'pin',
  ];
  for (const fits of passes)
    for (const own of from.terminals) {
      if (match.has(own)) continue;
      const other = [...left].find((one) => fits(own, one));
      if (!other) continue;
      match.set(own, other);
      left.delete(other);
    }
  const rows: VariantRow[] = [
    ...from.terminals.map((own) => {
      const other = match.get(own) ?? null;
      return { from: own, to: other, same: other !== null && other.id === own.id };
    }),
    ...[...left].map((other) => ({ from: null, to: other, same: false })),
  ];
  const moves = rows.flatMap(({ from: own, to: other }) =>
    own && other && own.id !== other.id ? [{ from: own.id, to: other.id }] : [],
  );
  const adds = rows.flatMap(({ from: own, to: other }) => (own === null && other ? [other] : []));
  const leaves = rows.flatMap(({ from: own, to: other }) => (other === null && own ? [own] : []));
  const otherwise = rows.flatMap(({ from: own, to: other }) =>
    own && other && !sameDestination(own.destination, other.destination)
      ? [{ terminal: other, was: own.destination }]
      : [],
  );
  return {
    rows,
    moves,
    adds,
    leaves,
    otherwise,
    exchangeable: moves.length + adds.length + leaves.length + otherwise.length === 0,
  };
}

/** Traits that make two parts the same sort of thing: a pressure sensor of the manifold, a crank sensor, a coil. */
const sortOf = (kind: DeviceKind): string => {
  const said = (one: Trait): string => {
    switch (one.type) {
      case 'role':
        return `role ${one.role}`;
      case 'pressure':
        return `pressure ${one.measures}`;
      case 'sensor':
        return `sensor ${one.quantity}`;
      case 'trigger':
        return `trigger ${one.shaft}`;
      default:
        return one.type;
    }
  };
  return `${kind.system}: ${[...new Set(kind.traits.map(said))].sort().join(', ')}`;
};

/** Other kinds a part in hand may turn out to be, nearest first: of one sort, with as many terminals before others. */
export function variantsOf(kind: DeviceKind, library: readonly DeviceKind[]): DeviceKind[] {
  const steps = (other: DeviceKind) => {
    const { moves, adds, leaves } = compareVariants(kind, other);
    return moves.length + 3 * (adds.length + leaves.length);
  };
  return [...new Map(library.map((one) => [one.id, one])).values()]
    .filter((one) => one.id !== kind.id && kind.traits.length > 0 && sortOf(one) === sortOf(kind))
    .map((one) => ({ one, far: steps(one) }))
    .sort((a, b) => a.far - b.far || (a.one.name < b.one.name ? -1 : 1))
    .map(({ one }) => one);
}

/** What differs beside the terminals, in words: range, calibration, resistance. */
export function otherDifferences(from: DeviceKind, to: DeviceKind): string[] {
  const lines: string[] = [];
  const [a, b] = [sensorsIn(from), sensorsIn(to)];
  a.forEach((sensor, i) => {
    const other = b[i];
    if (!other || JSON.stringify(sensor) === JSON.stringify({ ...other, terminal: sensor.terminal })) return;
    lines.push('Another calibration: choose its table in the ECU.');
  });
  const [own, next] = [trait(from, 'trigger'), trait(to, 'trigger')];
  if (own && next && own.sensor !== next.sensor)
    lines.push(
      `${next.sensor === 'vr' ? 'A winding' : 'A switched output'} in place of ${own.sensor === 'vr' ? 'a winding' : 'a switched one'}: another input of the ECU.`,
    );
  const [coil, otherCoil] = [trait(from, 'coil'), trait(to, 'coil')];
  if (coil && otherCoil && (coil.igniter !== otherCoil.igniter || coil.primaryOhms !== otherCoil.primaryOhms))
    lines.push('Another primary: set its dwell anew.');
  const [injector, otherInjector] = [trait(from, 'injector'), trait(to, 'injector')];
  if (injector && otherInjector && injector.ohms !== otherInjector.ohms)
    lines.push(
      `${otherInjector.ohms} Ω in place of ${injector.ohms} Ω: look at its driver, its flow and its dead time.`,
    );
  return [...new Set(lines)];
}
