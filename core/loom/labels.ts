import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { pinAt } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';
import { tagOf } from '../netlist/short';
import { readSize } from '../wire/size';
import { outerMillimetres } from './bundles';
import { cutList } from './loom';

/** What a template may name, each between braces. */
export const labelFields = ['number', 'from', 'to', 'function', 'colour', 'size'] as const;
export type LabelField = (typeof labelFields)[number];
export const USUAL_LABEL = '{number} {from} > {to}';

/** What a template names that no label has; empty: it is right. */
export const unknownFields = (template: string): string[] =>
  [...template.matchAll(/\{([^{}]*)\}/g)].flatMap(([, name]) =>
    (labelFields as readonly string[]).includes(name!) ? [] : [name!],
  );

export interface Label {
  /** The wire, or the plug, it is for. */
  readonly about: string;
  /** Which end of a wire it is slid on. */
  readonly end: 'from' | 'to' | 'plug';
  readonly text: string;
  /** Bore of the heat-shrink as supplied, mm: it goes over the wire and its terminal. */
  readonly shrinkMillimetres: number;
  /** Width of the printed tube laid flat, mm. */
  readonly flatMillimetres: number;
  readonly lengthMillimetres: number;
}

/** Bores that printable heat-shrink is sold in, 2:1, mm (common practice: sixteenths of an inch). */
const SHRINK = [1.6, 2.4, 3.2, 4.8, 6.4, 9.5, 12.7, 19, 25.4] as const;
/** It is slid on with room to spare, and must still shrink on to the wire: to half (common practice). */
const ROOM = 1.25;
export const shrinkFor = (outer: number): number =>
  SHRINK.find((bore) => bore >= outer * ROOM) ?? SHRINK[SHRINK.length - 1]!;

/** A tube laid flat is half its circumference wide; letters as high as fit, and about half as wide (common practice). */
const LETTER_SHARE = 0.62;
const MARGIN_MILLIMETRES = 4;
const LEAST_MILLIMETRES = 15;
const MOST_LETTER_MILLIMETRES = 2.6;

export const letterMillimetres = (flat: number): number => Math.min(MOST_LETTER_MILLIMETRES, flat * LETTER_SHARE);
function sized(about: string, end: Label['end'], text: string, outer: number): Label {
  const bore = shrinkFor(outer);
  const flat = (Math.PI * bore) / 2;
  const letters = text.length * letterMillimetres(flat) * LETTER_SHARE;
  return {
    about,
    end,
    text,
    shrinkMillimetres: bore,
    flatMillimetres: Math.round(flat * 10) / 10,
    lengthMillimetres: Math.max(LEAST_MILLIMETRES, Math.round(letters + 2 * MARGIN_MILLIMETRES)),
  };
}

function functionOf(net: Netlist, wire: Wire): string {
  const need = withId(net.needs, wire.needId ?? undefined);
  if (need) return need.label;
  return (wire.circuitId === null ? undefined : net.names.circuits.get(wire.circuitId)) ?? wire.signal;
}

/** A label's text by the template. At either end it begins with what it is at: what is read is where it belongs. */
function textOf(build: Build, net: Netlist, wire: Wire, number: number, end: 'from' | 'to'): string {
  const [here, there] = end === 'from' ? [wire.from, wire.to] : [wire.to, wire.from];
  const short = (at: typeof here) => pinAt(at) ?? tagOf(labelOf(net, at));
  const values: Readonly<Record<LabelField, string>> = {
    number: String(number),
    from: short(here),
    to: short(there),
    function: tagOf(functionOf(net, wire)),
    colour: wire.colour,
    size: readSize(wire.squareMm, build),
  };
  return build.loom.label.replace(/\{(\w+)\}/g, (whole, name: string) => values[name as LabelField] ?? whole);
}

/** Labels of both ends of every wire, in the order it is cut, and one for each plug. */
export function labelsOf(build: Build, net: Netlist): Label[] {
  const lines = cutList(build, net);
  const wires = lines.flatMap(({ wireId }, at): Label[] => {
    const wire = net.wireById.get(wireId)!;
    const outer = outerMillimetres(wire.squareMm);
    return (['from', 'to'] as const).map((end) => sized(wireId, end, textOf(build, net, wire, at + 1, end), outer));
  });
  const plugs = [
    ...build.devices.map(({ id, label }) => ({ id, label })),
    ...build.ecu.connectors.map(({ id }) => ({ id, label: `${build.ecu.model} ${id}` })),
    ...Object.entries(build.tree.nodes).flatMap(([id, { plug, name }]) =>
      plug
        ? [
            { id, label: `${name || id}, ECU half` },
            { id, label: `${name || id}, other half` },
          ]
        : [],
    ),
  ];
  return [...wires, ...plugs.map(({ id, label }) => sized(id, 'plug', label, PLUG_CABLE_MILLIMETRES))];
}
/** The tail behind a plug, over which its label is slid (common practice). */
const PLUG_CABLE_MILLIMETRES = 6;
