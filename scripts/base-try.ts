import { writeFileSync } from 'node:fs';
import { demoBuilds } from '../demo';
import { needsOf } from '../core/netlist/needs';
import { netlist } from '../core/netlist/netlist';
const tag = process.argv[2];
for (const b of typeof demoBuilds === 'function' ? (demoBuilds as any)() : demoBuilds) {
  const n = netlist(b);
  writeFileSync(
    `/tmp/net-${tag}-${b.id}.json`,
    JSON.stringify({ needs: needsOf(b), circuits: n.circuits, wires: n.wires, nodes: n.nodes }, null, 1),
  );
  console.log(
    b.id,
    n.wires.length,
    n.circuits
      .map(
        (c: any) =>
          `${c.id}:${c.loadAmps.toFixed(2)}A/${c.fuseAmps}/${c.squareMm}/${c.branchSquareMm} ${c.dropVolts.toFixed(3)} of ${c.limitVolts} ${c.worstHop ? c.worstHop.from + '>' + c.worstHop.to + ' ' + c.worstHop.volts.toFixed(3) : ''}`,
      )
      .join('\n  '),
  );
}
