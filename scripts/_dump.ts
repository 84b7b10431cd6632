import { writeFileSync } from 'node:fs';
import { demoBuilds } from '~/demo';
import { netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import { solveCircuit } from '~/core/circuit/solve';
import { groundShifts } from '~/core/circuit/ground-shift';
import { crankedBy } from '~/core/circuit/battery';
const out: any = {};
for (const build of demoBuilds()) {
  const net = netlist(build);
  out[build.id] = {
    findings: findingsOf(build, net).map((f) => `${f.severity} ${f.id}: ${f.detail}`),
    wires: Object.fromEntries(
      net.wires.map((w) => [w.id, `${w.squareMm} ${w.lengthMetres} ${w.amps.toFixed(3)} ${w.ohms.toFixed(5)}`]),
    ),
    circuits: net.circuits.map(
      (c) => `${c.id} ${c.fuseAmps}A ${c.squareMm} ${c.dropVolts.toFixed(3)}/${c.limitVolts} ${c.loadAmps.toFixed(2)}`,
    ),
    shifts: groundShifts(build, net, solveCircuit(build, net, 'running')).map(
      (s) => `${s.id} ${(1000 * s.shiftVolts).toFixed(1)}`,
    ),
    cranked: (() => {
      try {
        return crankedBy(build);
      } catch (e) {
        return String(e);
      }
    })(),
  };
}
writeFileSync(process.argv[2]!, JSON.stringify(out, null, 1));
