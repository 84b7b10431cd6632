import { withId } from '../data/with-id';
import type { Build } from '../build/schema';
import { askWords } from '../ecu/ask';
import { cutList } from '../loom/loom';
import { ecuEnd } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';
import { runOf } from '../netlist/run';
import { toCsv } from '../data/csv';

/** The pin list: one row a cavity, used or not. */
export function pinListCsv(build: Build, net: Netlist): string {
  const rows = net.cavities.map(({ pin, needId, label }) => {
    const run = runOf(net, { type: 'end', end: ecuEnd(pin.id) });
    const need = withId(net.needs, needId);
    const wire = run?.wires[0];
    return [
      pin.id,
      pin.label,
      label || (run ? labelOf(net, run.hops[run.hops.length - 1]!.end) : ''),
      need ? askWords(need.ask) : '',
      run
        ? run.hops
            .slice(1)
            .map((hop) => labelOf(net, hop.end))
            .join(' > ')
        : '',
      wire?.colour ?? '',
      wire?.squareMm ?? null,
      run ? Number(run.lengthMetres.toFixed(2)) : null,
      build.locked.includes(needId ?? '') ? 'locked' : '',
    ];
  });
  return toCsv(['cavity', 'ECU function', 'serves', 'asks for', 'runs to', 'colour', 'mm2', 'metres', 'note'], rows);
}

/** The cut list: one row a wire. */
export const cutListCsv = (build: Build, net: Netlist): string =>
  toCsv(
    ['from', 'to', 'mm2', 'colour', 'metres', 'cable'],
    cutList(build, net).map((line) => [line.from, line.to, line.squareMm, line.colour, line.lengthMetres, line.cable]),
  );
