import { withId } from '../data/with-id';
import type { Build } from '../build/schema';
import { askWords } from '../ecu/ask';
import { groupBy } from '../data/group';
import { labelsOf } from '../loom/labels';
import { reusedWords } from '../loom/reuse';
import { cutList } from '../loom/loom';
import { ecuEnd } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';
import { runOf } from '../netlist/run';
import { toCsv } from '../data/csv';
import { METRES_PER_FOOT } from '../units/convert';
import { gaugeOf, gaugeWords } from '../wire/size';

/** Columns of sizes and lengths, named by the unit that stands in them: millimetres squared and metres, or gauges and feet. */
function columnsOf(build: Build) {
  const inch = build.units.workshop === 'inch';
  return {
    headings: inch ? (['AWG', 'feet'] as const) : (['mm2', 'metres'] as const),
    size: (squareMm: number) => {
      const gauge = inch ? gaugeOf(squareMm) : null;
      return gauge === null ? squareMm : gaugeWords(gauge);
    },
    length: (metres: number) => Number((inch ? metres / METRES_PER_FOOT : metres).toFixed(2)),
  };
}

/** The pin list: one row a cavity, used or not. */
export function pinListCsv(build: Build, net: Netlist): string {
  const { headings, size, length } = columnsOf(build);
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
      wire ? size(wire.squareMm) : null,
      run ? length(run.lengthMetres) : null,
      build.locked.includes(needId ?? '') ? 'locked' : '',
    ];
  });
  return toCsv(['cavity', 'ECU function', 'serves', 'asks for', 'runs to', 'colour', ...headings, 'note'], rows);
}

/** The cut list: one row a wire, with all that is needed to make it. */
export function cutListCsv(build: Build, net: Netlist): string {
  const { headings, size, length } = columnsOf(build);
  const labels = groupBy(
    labelsOf(build, net).filter(({ end }) => end !== 'plug'),
    ({ about }) => about,
  );
  return toCsv(
    [
      ...['from', 'to', headings[0], 'colour', headings[1], 'cable', 'loom', 'way'],
      ...['end at from', 'end at to', 'label at from', 'label at to', 'heat-shrink mm', 'donor'],
    ],
    cutList(build, net).map((line) => {
      const [from, to] = labels.get(line.wireId) ?? [];
      return [
        line.from,
        line.to,
        size(line.squareMm),
        line.colour,
        length(line.lengthMetres),
        line.cable,
        line.loom,
        line.way,
        line.ends[0],
        line.ends[1],
        from?.text ?? '',
        to?.text ?? '',
        from?.shrinkMillimetres ?? null,
        line.reused ? reusedWords(line.reused) : '',
      ];
    }),
  );
}
