import { changesOf, noChanges, type Changes } from './changes';
import type { Drive, Stuck } from './drive';
import { pinValue } from './ecu-pins';
import type { Fault } from './faults';
import type { CircuitIR } from './ir';
import type { Branches } from './network';
import type { Scenario } from './scenario';
import { Solved, Told, changeSet, type Column, type Round, type Solution } from './solve';
import { stuckWatch, watched } from './watch';

/*
 * A fault changes one branch, or a few: G' = G + U D U^T, with a column e_i - e_j of U for each, and what their sources push. By
 * Sherman, Morrison and Woodbury (1950) V' = V + Z y, where Z = G^-1 U, (I + M D) w = U^T V + M dI with M = U^T Z, and
 * y = dI - D w. One column for a branch serves every degree of its fault, and a node's volts are worked out as they are asked for.
 * It is done for every round from everything at rest, so that what latches is not taken as still latched, and holds while relays,
 * diodes, fuses and the ECU do in each what they did; where one does not, or where digits cancel, the caller solves anew. Cost:
 * one solution for a branch and round, then linear in what switches and in the probes that are read.
 */

/** Branches an update may change: beyond them a new solution costs about the same. */
const MOST_RANK = 4;
/** A pivot under this much of what it was has lost its digits: an opened branch that alone held a node. */
const LEAST_PIVOT = 1e-7;
/** Currents that do not add up by more than this mean that digits were lost, amperes. */
const MOST_RESIDUAL = 1e-6;

/** A changed branch: its nodes, by how many siemens, and what its source pushes into the first more than before, amperes. */
export interface Perturbation {
  readonly i: number;
  readonly j: number;
  readonly siemens: number;
  readonly amps: number;
}

/** A branch that leads so much now, with so many volts behind it, against what it did; null where that is the same. */
function movedBranch(
  { ends, siemens, volts }: Branches,
  branch: number,
  lead: number,
  behind: number,
): Perturbation | null {
  const change = lead - siemens[branch]!;
  const amps = lead * behind - siemens[branch]! * volts[branch]!;
  return change === 0 && amps === 0 ? null : { i: ends[2 * branch]!, j: ends[2 * branch + 1]!, siemens: change, amps };
}

/** A pin that is driven no longer. */
function undriven({ ir, scenario }: Solved, { network, before }: Round, pin: number): Perturbation | null {
  if (!scenario.plugged) return null;
  const one = ir.pins[pin]!;
  const doing = { scenario, powered: before.powered, dead: pin };
  const { ohms, volts } = pinValue(one, pin, doing, before.limits[pin] === 1, ir.ecu.ownOhms);
  return movedBranch(network.branches, one.branch, 1 / ohms, volts);
}

/** What a fault changes of a round, branch by branch; what measures as before is left out. */
export function perturbations(base: Solved, round: Round, { set, extra, stuck }: Changes): Perturbation[] {
  const found: Perturbation[] = [];
  for (const { branch, ohms } of set) {
    const one = movedBranch(round.network.branches, branch, 1 / ohms, 0);
    if (one) found.push(one);
  }
  for (const { i, j, ohms } of extra) found.push({ i, j, siemens: 1 / ohms, amps: 0 });
  const dead = stuck.pin < 0 ? null : undriven(base, round, stuck.pin);
  if (dead) found.push(dead);
  return found;
}

/** Solves a few linear equations in place (Gauss with the largest pivot); null where they lose their digits. */
function solved(rows: readonly Float64Array[]): Float64Array | null {
  const n = rows.length;
  const order = [...rows];
  for (let step = 0; step < n; step += 1) {
    let best = step;
    for (let row = step + 1; row < n; row += 1)
      if (Math.abs(order[row]![step]!) > Math.abs(order[best]![step]!)) best = row;
    [order[step], order[best]] = [order[best]!, order[step]!];
    const pivot = order[step]![step]!;
    if (Math.abs(pivot) < LEAST_PIVOT) return null;
    for (let row = step + 1; row < n; row += 1) {
      const times = order[row]![step]! / pivot;
      if (times !== 0) for (let at = step; at <= n; at += 1) order[row]![at]! -= times * order[step]![at]!;
    }
  }
  const found = new Float64Array(n);
  for (let step = n - 1; step >= 0; step -= 1) {
    let sum = order[step]![n]!;
    for (let at = step + 1; at < n; at += 1) sum -= order[step]![at]! * found[at]!;
    found[step] = sum / order[step]![step]!;
  }
  return found;
}

const across = (v: Float64Array, i: number, j: number): number => (i < 0 ? 0 : v[i]!) - (j < 0 ? 0 : v[j]!);

/** How much of each column comes on top of a vector whose own differences are `own`; null where digits are lost. */
function shares(
  changed: readonly Perturbation[],
  columns: readonly Column[],
  own: Float64Array,
  pushed: boolean,
): Float64Array | null {
  const size = changed.length;
  if (size === 0) return new Float64Array(0);
  if (size === 1) {
    // Sherman and Morrison's own case, without equations.
    const { i, j, siemens, amps } = changed[0]!;
    const between = across(columns[0]!.volts, i, j);
    const pivot = 1 + between * siemens;
    if (Math.abs(pivot) < LEAST_PIVOT) return null;
    const push = pushed ? amps : 0;
    const share = new Float64Array(1);
    share[0] = push - (siemens * (own[0]! + between * push)) / pivot;
    return share;
  }
  const rows: Float64Array[] = [];
  for (let row = 0; row < size; row += 1) {
    const { i, j } = changed[row]!;
    const line = new Float64Array(size + 1);
    let right = own[row]!;
    for (let at = 0; at < size; at += 1) {
      const between = across(columns[at]!.volts, i, j);
      line[at] = (row === at ? 1 : 0) + between * changed[at]!.siemens;
      if (pushed) right += between * changed[at]!.amps;
    }
    line[size] = right;
    rows.push(line);
  }
  const more = solved(rows);
  if (more)
    for (let at = 0; at < size; at += 1) more[at] = (pushed ? changed[at]!.amps : 0) - changed[at]!.siemens * more[at]!;
  return more;
}

/** What stands between the nodes of each changed branch. */
function differences(v: Float64Array, changed: readonly Perturbation[]): Float64Array {
  const found = new Float64Array(changed.length);
  for (let at = 0; at < found.length; at += 1) found[at] = across(v, changed[at]!.i, changed[at]!.j);
  return found;
}

/** What a fault changes of a round, and how much of each column that brings. */
class Raised {
  constructor(
    private readonly round: Round,
    private readonly changed: readonly Perturbation[],
    readonly columns: readonly Column[],
    readonly more: Float64Array,
  ) {}
  private raised(v: Float64Array, more: Float64Array, node: number): number {
    if (node < 0) return 0;
    let sum = v[node]!;
    for (let one = 0; one < more.length; one += 1) sum += more[one]! * this.columns[one]!.volts[node]!;
    return sum;
  }
  at(node: number): number {
    return this.raised(this.round.voltages, this.more, node);
  }
  behind(i: number, j: number): number {
    const { volts } = this.round.column(i, j);
    const more = shares(this.changed, this.columns, differences(volts, this.changed), false)!;
    return this.raised(volts, more, i) - this.raised(volts, more, j);
  }
  /**
   * No more than: what the base and the columns leave, and what of each changed branch does not run as it should. Worked out from
   * what a column leaves once, so that it costs nothing for each degree of a fault.
   */
  get residual(): number {
    let most = this.round.residual;
    for (let one = 0; one < this.more.length; one += 1) {
      const { i, j, siemens, amps } = this.changed[one]!;
      const share = this.more[one]!;
      const runs = amps - siemens * (this.at(i) - this.at(j));
      most += Math.abs(share) * this.columns[one]!.residual + Math.abs(share - runs);
    }
    return most;
  }
}

/** A round under a fault; null where it changes more than a few branches, or where digits are lost. */
function raise(base: Solved, round: Round, changes: Changes): Raised | null {
  const changed = perturbations(base, round, changes);
  if (changed.length > MOST_RANK) return null;
  const columns: Column[] = [];
  for (const { i, j } of changed) columns.push(round.column(i, j));
  const more = shares(changed, columns, differences(round.voltages, changed), true);
  if (more === null) return null;
  const raised = new Raised(round, changed, columns, more);
  return raised.residual > MOST_RESIDUAL ? null : raised;
}

/** A solution made from another by what a fault changes. */
class Updated extends Told implements Solution {
  readonly settled = true;
  private known: Float64Array | null = null;

  constructor(
    private readonly base: Solved,
    readonly changes: Changes,
    private readonly raised: Raised,
  ) {
    super();
  }
  at(node: number): number {
    return this.raised.at(node);
  }
  behind(i: number, j: number): number {
    return this.raised.behind(i, j);
  }
  transfer(i: number, j: number, branch: number): number {
    return this.base.transfer(i, j, branch);
  }
  /** Those of the circuit without the fault: what is asked of a faulty one is its volts. */
  strays(i: number, j: number): number {
    return this.base.strays(i, j);
  }
  fuseAmps(fuse: number): number {
    const { i, j, ohms } = this.ir.fuses[fuse]!;
    if (this.changes.stuck.fuse === fuse) return 0;
    return this.drive.fuses[fuse] === 1 ? this.base.fuseAmps(fuse) : Math.abs(this.at(i) - this.at(j)) / ohms;
  }
  get ir(): CircuitIR {
    return this.base.ir;
  }
  get drive(): Drive {
    return this.base.drive;
  }
  get scenario(): Scenario {
    return this.base.scenario;
  }
  get conditioning(): number {
    return this.base.conditioning;
  }
  get residual(): number {
    return this.raised.residual;
  }
  get voltages(): Float64Array {
    return (this.known ??= Float64Array.from(this.base.voltages, (_, node) => this.at(node)));
  }
  get branches(): Branches {
    const { ends, siemens, volts } = this.base.branches;
    const own = { ends, siemens: siemens.slice(), volts: volts.slice() };
    changeSet(own, this.changes);
    return own;
  }
}

/** Whether under the fault a round leads where it led without it. */
function leadsOn(base: Solved, round: Round, after: Drive, raised: Raised, stuck: Stuck): boolean {
  if ((stuck.relay >= 0 && after.relays[stuck.relay] === 1) || (stuck.fuse >= 0 && after.fuses[stuck.fuse] === 1))
    return false;
  if (stuck.pin >= 0 && after.limits[stuck.pin] === 1) return false;
  const watches = round.watches(base.ir, base.scenario, after);
  const { least, under, now } = watches;
  const passed = stuckWatch(base.ir, watches, stuck);
  const { columns, more } = raised;
  let far = 0;
  for (let at = 0; at < columns.length; at += 1) {
    const column = columns[at]!;
    column.watched ??= watched(watches, column.volts);
    far += Math.abs(more[at]!) * column.watched.most;
  }
  // Most faults move nothing of it as far as the nearest bound.
  if (far < watches.margin) return true;
  for (let one = 0; one < least.length; one += 1) {
    let volts = now.volts[one]!;
    for (let at = 0; at < columns.length; at += 1) volts += more[at]! * columns[at]!.watched!.volts[one]!;
    if ((volts < least[one]! || volts >= under[one]!) && one !== passed) return false;
  }
  return true;
}

/**
 * The solution under a fault, from the one without it; null where the fault changes more than a few branches, where something
 * switches otherwise, or where digits are lost: solve anew then. Agrees with a new solution within a microvolt.
 */
export function updated(base: Solution, fault: Fault): Solution | null {
  if (!(base instanceof Solved) || !base.settled || base.changes !== noChanges) return null;
  const changes = changesOf(base.ir, fault);
  // A coil's primary, and the channel of an igniter, are more than the branch of the pin that works them.
  if (changes.stuck.pin >= 0 && base.ir.coils.some(({ pin }) => pin === changes.stuck.pin)) return null;
  let last: Raised | null = null;
  for (const [at, round] of base.rounds.entries()) {
    const raised = raise(base, round, changes);
    if (raised === null) return null;
    const after = base.rounds[at + 1]?.before ?? base.drive;
    if (!leadsOn(base, round, after, raised, changes.stuck)) return null;
    last = raised;
  }
  return last && new Updated(base, changes, last);
}
