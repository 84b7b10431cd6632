import type { Build } from '../build/schema';
import type { Netlist } from '../netlist/netlist';
import { changesOf, type Changes } from './changes';
import { compile } from './compile';
import { driveAt, isSameDrive, restingDrive, type Drive } from './drive';
import type { Fault } from './faults';
import type { CircuitIR } from './ir';
import { Network, type Branches, type Factor } from './network';
import { scenarioOf, type Scenario } from './scenario';
import type { CircuitState } from './states';
import { valueOf } from './values';
import { watchesOf, type Watched, type Watches } from './watch';

/** Rounds of relays, diodes, filaments and the ECU's supply before the answer is taken as it stands. */
const MAX_ROUNDS = 24;

/** A circuit solved in a scenario, under at most one fault. */
export interface Solution {
  readonly ir: CircuitIR;
  readonly scenario: Scenario;
  readonly changes: Changes;
  readonly drive: Drive;
  /** Volts of a node by its number, against battery negative; of -1 nothing. */
  at(node: number): number;
  /** Ohms between two nodes with every source at rest. */
  behind(i: number, j: number): number;
  /** What an ampere more through a branch, from its first node to its second, makes between two nodes, volts. */
  transfer(i: number, j: number, branch: number): number;
  /** How far the volts between two nodes usually stray, by what each part of the circuit does. */
  strays(i: number, j: number): number;
  /** Volts of every node. */
  readonly voltages: Float64Array;
  readonly closedRelays: ReadonlySet<string>;
  /** Fuses that what flows has opened. */
  readonly blownFuses: ReadonlySet<string>;
  readonly ecuPowered: boolean;
  /** What runs through a fuse by its number, or ran through it as it opened, amperes. */
  fuseAmps(fuse: number): number;
  /** False when relays, diodes or filaments did not settle within the rounds there are. */
  readonly settled: boolean;
  /** The most that flows into a node and not out of it, amperes: what the solver's digits left. */
  readonly residual: number;
  /** Smallest over largest pivot of the network it was solved from. */
  readonly conditioning: number;
  /** Siemens and volts of each branch, its changes in. */
  readonly branches: Branches;
}

/** What an ampere between two nodes makes at every node. */
export class Column {
  /** Its volts between what is watched of its round, once they were asked for. */
  watched: Watched | null = null;
  private known: number | null = null;
  constructor(
    private readonly network: Network,
    private readonly unit: Float64Array,
    readonly volts: Float64Array,
  ) {}
  /** What of it does not add up, amperes: asked for where it is added to a solution. */
  get residual(): number {
    return (this.known ??= largest(this.network.unbalanced(this.volts, this.unit)));
  }
}

const largest = (sums: Float64Array): number => {
  let most = 0;
  for (let node = 0; node < sums.length; node += 1) {
    const size = Math.abs(sums[node]!);
    if (size > most) most = size;
  }
  return most;
};
const named = <T extends { readonly name: string }>(all: readonly T[], on: Uint8Array): ReadonlySet<string> =>
  new Set(all.flatMap(({ name }, at) => (on[at] === 1 ? [name] : [])));

/** What both kinds of solutions tell of what stands how. */
export abstract class Told {
  abstract readonly ir: CircuitIR;
  abstract readonly drive: Drive;
  get closedRelays(): ReadonlySet<string> {
    return named(this.ir.relays, this.drive.relays);
  }
  get blownFuses(): ReadonlySet<string> {
    return named(this.ir.fuses, this.drive.fuses);
  }
  get ecuPowered(): boolean {
    return this.drive.powered;
  }
}

/** One round of a solution: the network as the round before left it, its volts, and what then stands how. */
export class Round {
  readonly factor: Factor;
  readonly voltages: Float64Array;
  /** The same probes are held to many faults. */
  private readonly columns = new Map<number, Column>();
  private known: number | null = null;
  private seen: Watches | null = null;

  constructor(
    readonly network: Network,
    readonly before: Drive,
  ) {
    this.factor = network.factor();
    this.voltages = this.factor.solve(network.currents());
  }
  at(node: number): number {
    return node < 0 ? 0 : this.voltages[node]!;
  }
  get residual(): number {
    return (this.known ??= largest(this.network.unbalanced(this.voltages)));
  }
  /** What must hold for it to lead to `after`, which is always the same. */
  watches(ir: CircuitIR, scenario: Scenario, after: Drive): Watches {
    return (this.seen ??= watchesOf(ir, scenario, this.before, after, this.voltages));
  }
  /** Not to be written to. */
  column(i: number, j: number): Column {
    const { size } = this.network;
    const key = (i + 1) * (size + 1) + j + 1;
    const known = this.columns.get(key);
    if (known) return known;
    const unit = new Float64Array(size);
    if (i >= 0) unit[i]! += 1;
    if (j >= 0) unit[j]! -= 1;
    const column = new Column(this.network, unit, this.factor.solve(unit));
    this.columns.set(key, column);
    return column;
  }
}

/** How far each branch usually strays: a share of its ohms, and so many volts. */
interface Tolerances {
  readonly spread: Float64Array;
  readonly strays: Float64Array;
}

/** A circuit solved anew. */
export class Solved extends Told implements Solution {
  private readonly last: Round;
  private loose: Tolerances | null = null;

  constructor(
    readonly ir: CircuitIR,
    readonly scenario: Scenario,
    readonly changes: Changes,
    /** Round by round from everything at rest; at least one. */
    readonly rounds: readonly Round[],
    readonly drive: Drive,
    readonly settled: boolean,
  ) {
    super();
    this.last = rounds[rounds.length - 1]!;
  }
  at(node: number): number {
    return this.last.at(node);
  }
  behind(i: number, j: number): number {
    const { volts } = this.last.column(i, j);
    return (i < 0 ? 0 : volts[i]!) - (j < 0 ? 0 : volts[j]!);
  }
  transfer(i: number, j: number, branch: number): number {
    const { volts } = this.last.column(i, j);
    const at = (node: number) => (node < 0 ? 0 : volts[node]!);
    // What is drawn leaves the first node and comes in at the second; by reciprocity that is the column of the two nodes there.
    return at(this.ir.ends[2 * branch + 1]!) - at(this.ir.ends[2 * branch]!);
  }
  /**
   * A branch that is off by a share of its ohms moves the volts between two nodes by that share of its current, times what an ampere
   * between those nodes leaves across it (reciprocity); a source that is off pushes so much more. Parts stray by themselves: by
   * the root of their squares.
   */
  strays(i: number, j: number): number {
    const { ends, siemens, volts } = this.branches;
    const { spread, strays } = this.tolerances;
    const column = this.last.column(i, j).volts;
    let squares = 0;
    for (let branch = 0; branch < spread.length; branch += 1) {
      const a = ends[2 * branch]!;
      const b = ends[2 * branch + 1]!;
      const across = (a < 0 ? 0 : column[a]!) - (b < 0 ? 0 : column[b]!);
      const amps = (this.at(a) - this.at(b) - volts[branch]!) * siemens[branch]!;
      squares += (across * amps * spread[branch]!) ** 2 + (across * siemens[branch]! * strays[branch]!) ** 2;
    }
    return Math.sqrt(squares);
  }
  private get tolerances(): Tolerances {
    if (this.loose) return this.loose;
    const { ir, scenario, changes } = this;
    const spread = new Float64Array(ir.laws.length);
    const strays = new Float64Array(ir.laws.length);
    ir.laws.forEach((law, branch) => {
      const value = valueOf(ir, law, scenario, this.last.before, changes.stuck.pin);
      spread[branch] = value.spread;
      strays[branch] = value.strays;
    });
    // What a fault sets is as it is said.
    for (const { branch } of changes.set) spread[branch] = 0;
    this.loose = { spread, strays };
    return this.loose;
  }
  fuseAmps(fuse: number): number {
    const { i, j, ohms } = this.ir.fuses[fuse]!;
    // As long as it was whole; of one that is gone from the start nothing ran.
    const round = this.rounds.findLast(({ before }) => before.fuses[fuse] === 0)!;
    return this.changes.stuck.fuse === fuse ? 0 : Math.abs(round.at(i) - round.at(j)) / ohms;
  }
  get network(): Network {
    return this.last.network;
  }
  get voltages(): Float64Array {
    return this.last.voltages;
  }
  get branches(): Branches {
    return this.network.branches;
  }
  get conditioning(): number {
    return this.last.factor.conditioning;
  }
  get residual(): number {
    return this.last.residual;
  }
}

/** What a round starts from: every branch by its law, with nothing found yet, and those that come with a fault. */
function started(ir: CircuitIR, scenario: Scenario, changes: Changes, drive: Drive): Branches {
  const own = ir.laws.length;
  const count = own + changes.extra.length;
  const ends = new Int32Array(2 * count);
  ends.set(ir.ends);
  const branches = { ends, siemens: new Float64Array(count), volts: new Float64Array(count) };
  put(branches, ir, scenario, changes, drive, ir.laws.keys());
  changes.extra.forEach(({ i, j, ohms }, at) => {
    ends.set([i, j], 2 * (own + at));
    branches.siemens[own + at] = 1 / ohms;
  });
  return branches;
}

/** Fills in what some branches measure. */
function put(
  { siemens, volts }: Branches,
  ir: CircuitIR,
  scenario: Scenario,
  { stuck }: Changes,
  drive: Drive,
  which: Iterable<number>,
): void {
  for (const branch of which) {
    const value = valueOf(ir, ir.laws[branch]!, scenario, drive, stuck.pin);
    siemens[branch] = 1 / value.ohms;
    volts[branch] = value.volts;
  }
}

/** The same with what moves as it was found, and what the fault makes of it. */
function refilled(ir: CircuitIR, scenario: Scenario, changes: Changes, drive: Drive, first: Branches): Branches {
  const branches = { ends: first.ends, siemens: first.siemens.slice(), volts: first.volts.slice() };
  put(branches, ir, scenario, changes, drive, ir.moving);
  changeSet(branches, changes);
  return branches;
}

/** Branches that a fault sets measure what it says, with nothing behind them. */
export function changeSet({ siemens, volts }: Branches, { set }: Changes): void {
  for (const { branch, ohms } of set) {
    siemens[branch] = 1 / ohms;
    volts[branch] = 0;
  }
}

/**
 * A compiled circuit in a scenario, under at most one fault. Relays, diodes, fuses, filaments, limits and the ECU's own supply are
 * settled by repeated solution, at most 24 rounds: `settled` tells whether they did. Setting faults leave the circuit as it is.
 */
export function solveIn(ir: CircuitIR, scenario: Scenario, fault: Fault | null = null): Solved {
  const changes = changesOf(ir, fault);
  let drive = restingDrive(ir);
  const first = started(ir, scenario, changes, drive);
  const rounds: Round[] = [];
  for (;;) {
    const round = new Round(new Network(ir.nodes, refilled(ir, scenario, changes, drive, first)), drive);
    rounds.push(round);
    drive = driveAt(ir, scenario, round.before, changes.stuck, (node) => round.at(node));
    const settled = isSameDrive(drive, round.before);
    if (settled || rounds.length === MAX_ROUNDS) return new Solved(ir, scenario, changes, rounds, drive, settled);
  }
}

/**
 * A build's circuit in a state of the car.
 *
 * @param pins Outputs the ECU drives while outputs are driven at all; null: those that are on in such a state.
 * @param charge How full the battery is, 0 to 1.
 */
export function solveCircuit(
  build: Build,
  net: Netlist,
  state: CircuitState,
  fault: Fault | null = null,
  pins: ReadonlySet<string> | null = null,
  charge = 1,
): Solved {
  return solveIn(compile(build, net), scenarioOf(build, net, state, { driven: pins, charge }), fault);
}
