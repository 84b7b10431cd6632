import type { Netlist } from '../netlist/netlist';
import type { Changes } from './changes';
import type { Drive } from './drive';
import type { Fault } from './faults';
import type { CircuitIR } from './ir';
import type { Branches } from './network';
import { TEST_DUTY, pulsedOf } from './pulsed';
import type { Scenario } from './scenario';
import { Told, solveIn, type Solution } from './solve';

/** What a meter shows of outputs that come in pulses: the mean over time of what stands within one and between two. */
class Mean extends Told implements Solution {
  readonly ir: CircuitIR;
  readonly scenario: Scenario;
  readonly changes: Changes;
  readonly drive: Drive;
  readonly branches: Branches;

  constructor(
    private readonly between: Solution,
    private readonly within: Solution,
  ) {
    super();
    const { ir, scenario, changes, drive, branches } = between;
    this.ir = ir;
    this.scenario = scenario;
    this.changes = changes;
    this.drive = drive;
    this.branches = branches;
  }
  at(node: number): number {
    return (1 - TEST_DUTY) * this.between.at(node) + TEST_DUTY * this.within.at(node);
  }
  /** A meter is held mostly between two pulses. */
  behind(i: number, j: number): number {
    return this.between.behind(i, j);
  }
  transfer(i: number, j: number, branch: number): number {
    return this.between.transfer(i, j, branch);
  }
  strays(i: number, j: number): number {
    return Math.max(this.between.strays(i, j), this.within.strays(i, j));
  }
  fuseAmps(fuse: number): number {
    return Math.max(this.between.fuseAmps(fuse), this.within.fuseAmps(fuse));
  }
  get voltages(): Float64Array {
    return this.between.voltages.map((_, node) => this.at(node));
  }
  get settled(): boolean {
    return this.between.settled && this.within.settled;
  }
  get residual(): number {
    return Math.max(this.between.residual, this.within.residual);
  }
  get conditioning(): number {
    return Math.min(this.between.conditioning, this.within.conditioning);
  }
}

/** What a meter shows of two solutions of one circuit, of which the second stands within the pulses of a test. */
export const meanOf = (between: Solution, within: Solution): Solution => new Mean(between, within);

/**
 * A circuit as a meter shows it, and as it stands within a pulse; the latter null where no output comes in pulses. Those of
 * injectors and coils do in their tests: what is on for longer burns.
 */
export function solveAsShown(
  net: Netlist,
  ir: CircuitIR,
  scenario: Scenario,
  fault: Fault | null = null,
): { readonly shown: Solution; readonly within: Solution | null } {
  const within = solveIn(ir, scenario, fault);
  const pulsed = pulsedOf(net, scenario.driven);
  if (scenario.engine !== 'still' || pulsed.size === 0) return { shown: within, within: null };
  const driven = new Set([...scenario.driven].filter((pin) => !pulsed.has(pin)));
  return { shown: meanOf(solveIn(ir, { ...scenario, driven }, fault), within), within };
}
