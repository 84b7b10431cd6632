import type { Build } from '../build/schema';
import { toCsv } from '../data/csv';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';
import { readSize } from '../wire/size';
import { labelsOf } from '../loom/labels';
import { partsToBuy } from '../loom/parts';

/** Labels for a printer: what stands on each, how long, and on which heat-shrink. */
export const labelsCsv = (build: Build, net: Netlist): string =>
  toCsv(
    ['text', 'end', 'of', 'heat-shrink mm', 'length mm'],
    labelsOf(build, net).map(({ text, end, about, shrinkMillimetres, lengthMillimetres }) => {
      const wire = net.wireById.get(about);
      return [
        text,
        end,
        wire ? `${labelOf(net, wire.from)} to ${labelOf(net, wire.to)}` : text,
        shrinkMillimetres,
        lengthMillimetres,
      ];
    }),
  );

/** The same as plain text, a label to a line, those of one heat-shrink together. */
export function labelsText(build: Build, net: Netlist): string {
  const labels = labelsOf(build, net);
  const bores = [...new Set(labels.map(({ shrinkMillimetres }) => shrinkMillimetres))].sort(
    (one, other) => one - other,
  );
  return bores
    .map((bore) => {
      const own = labels.filter(({ shrinkMillimetres }) => shrinkMillimetres === bore);
      return [`# heat-shrink ${bore} mm`, ...own.map(({ text }) => text)].join('\n');
    })
    .join('\n\n')
    .concat('\n');
}

/** Parts to buy, with what is here and on order. */
export const partsCsv = (build: Build, net: Netlist): string =>
  toCsv(
    ['group', 'part', 'size', 'needed', 'with spares', 'unit', 'have', 'ordered', 'arrived', 'price each', 'from'],
    partsToBuy(build, net).map((line) => {
      const bought = build.stores.parts[line.key];
      return [
        line.group,
        line.name,
        line.squareMm !== null
          ? readSize(line.squareMm, build)
          : line.boreMillimetres === null
            ? ''
            : `${line.boreMillimetres} mm`,
        line.needed,
        line.toBuy,
        line.unit,
        bought?.have ?? 0,
        bought?.ordered ?? 0,
        bought?.arrived ?? 0,
        bought?.price ?? null,
        bought?.supplier ?? '',
      ];
    }),
  );
