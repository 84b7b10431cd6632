import { withId } from '../data/with-id';
import {
  BATTERY,
  KEY_RUN,
  KEY_START,
  deviceAt,
  endOf,
  endType,
  partAt,
  partEnd,
  pinAt,
  spliceEnd,
  type EndKey,
  type EndType,
} from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';
import type { Step } from '../power/flow';
import type { PlannedPart } from '../power/propose';

/* What stands in the drawing of the feeds, and what hangs on what: the tree that is laid out. */

export type DrawnKind = 'source' | 'fuse' | 'relay' | 'inline' | 'joint' | 'load' | 'windings';

/** So many alike on one joint are drawn as one. */
const MOST_ALIKE = 3;

export interface Draft {
  readonly id: string;
  readonly kind: DrawnKind;
  readonly part: PlannedPart | null;
  readonly end: EndKey;
  readonly name: string;
  readonly members: EndKey[];
  readonly kindId: string | null;
  /** It stands for all that hangs behind a fuse. */
  readonly isLane: boolean;
  readonly links: Step[];
  /** Wires on the way here that are not drawn by themselves. */
  readonly through: Step[];
  parent: Draft | null;
  readonly children: Draft[];
  column: number;
  row: number;
}

const inline: ReadonlySet<EndType> = new Set(['switch', 'button', 'resistor', 'diode']);

function kindOf(end: EndKey, isSource: boolean): DrawnKind {
  if (isSource) return 'source';
  const type = endType(end);
  if (type === 'fuse' || type === 'relay') return type;
  if (inline.has(type)) return 'inline';
  return type === 'splice' || type === 'busbar' || type === 'ground' ? 'joint' : 'load';
}

/** What a source is called on the drawing. */
function sourceName(net: Netlist, end: EndKey): string {
  if (end === BATTERY) return 'Battery';
  if (end === KEY_START || end === spliceEnd('key-start')) return 'Key, start';
  return end === KEY_RUN || end === spliceEnd('key-run') ? 'Key, run' : labelOf(net, end);
}

/** The side of a part that its load is on. */
function outOf({ name, part }: PlannedPart): EndKey {
  if (part.kind === 'fuse' || inline.has(part.kind)) return partEnd(part.kind, name, part.kind === 'diode' ? 'k' : '2');
  return part.kind === 'relay' ? partEnd('relay', name, '87') : partEnd(part.kind, name);
}

export class Sketch {
  readonly roots: Draft[] = [];
  readonly byId = new Map<string, Draft>();
  readonly skipped = new Set<string>();

  constructor(
    private readonly net: Netlist,
    /** Groups that are drawn apart. */
    private readonly open: ReadonlySet<string>,
  ) {}

  add(id: string, end: EndKey, kind: DrawnKind, parent: Draft | null, link: Step | null): Draft {
    const partId = kind === 'load' || kind === 'windings' || kind === 'source' ? null : partAt(end);
    const part = partId === null ? null : (withId(this.net.parts, partId) ?? null);
    const device = this.net.deviceOf.get(deviceAt(end) ?? '');
    const own = kind === 'load' ? (device?.device.label ?? (pinAt(end) ? `ECU ${pinAt(end)}` : null)) : null;
    const draft: Draft = {
      id,
      kind,
      part,
      end: part ? outOf(part) : end,
      name: own ?? part?.part.name ?? (kind === 'source' ? sourceName(this.net, end) : labelOf(this.net, end)),
      members: kind === 'load' || kind === 'windings' ? [end] : [],
      kindId: device?.kind.id ?? null,
      isLane: false,
      links: link ? [link] : [],
      through: [],
      parent,
      children: [],
      column: 0,
      row: 0,
    };
    this.byId.set(id, draft);
    (parent ? parent.children : this.roots).push(draft);
    return draft;
  }

  /** Draws what hangs on a joint where the joint was. */
  skip(joint: Draft): void {
    const { parent, children } = joint;
    for (const child of children) {
      child.parent = parent;
      child.through.push(...joint.links, ...joint.through);
    }
    parent!.children.splice(parent!.children.indexOf(joint), 1, ...children);
    this.byId.delete(joint.id);
    this.skipped.add(joint.id);
  }

  /** The place a leaf is drawn at: with those alike on the same joint where there are many. */
  leaf(end: EndKey, parent: Draft, step: Step, alike: number): void {
    const winding = endType(end) === 'relay';
    const kindId = this.net.deviceOf.get(deviceAt(end) ?? '')?.kind.id;
    const group = winding ? `windings ${parent.id}` : `${kindId} ${parent.id}`;
    if (alike < (winding ? 2 : MOST_ALIKE) || this.open.has(group)) {
      this.add(end, end, winding ? 'windings' : 'load', parent, step);
      return;
    }
    const known = this.byId.get(group);
    if (known) {
      known.members.push(end);
      known.links.push(step);
    } else this.add(group, end, winding ? 'windings' : 'load', parent, step);
  }
}

/** What a leaf counts as alike by. */
const likeness = (net: Netlist, end: EndKey): string =>
  endType(end) === 'relay' ? 'winding' : (net.deviceOf.get(deviceAt(end) ?? '')?.kind.id ?? end);

/** The tree of the plan: parts and sources as nodes, loads and windings as leaves. */
export function sketch(net: Netlist, open: ReadonlySet<string>): Sketch {
  const { flows, plan } = net.power;
  const made = new Sketch(net, open);
  const idOf = (end: EndKey): string => {
    const ref = endOf(end);
    return ref.of === 'part' && ref.kind !== 'key' && ref.kind !== 'battery' && ref.kind !== 'tap' ? partAt(end)! : end;
  };
  const leaves = new Set(flows.draws.map(({ end }) => end));
  const alike = new Map<string, number>();
  const key = (step: Step) => `${idOf(step.from)} ${likeness(net, step.to)}`;
  for (const step of flows.steps) if (leaves.has(step.to)) alike.set(key(step), (alike.get(key(step)) ?? 0) + 1);
  const sources = new Set(flows.sources);
  for (const step of flows.steps) {
    if (sources.has(step.from) && !made.byId.has(idOf(step.from)))
      made.add(idOf(step.from), step.from, 'source', null, null);
    const parent = made.byId.get(idOf(step.from));
    if (!parent || idOf(step.to) === parent.id || endType(step.to) === 'ground') continue;
    if (leaves.has(step.to)) made.leaf(step.to, parent, step, alike.get(key(step))!);
    else if (!made.byId.has(idOf(step.to))) made.add(idOf(step.to), step.to, kindOf(step.to, false), parent, step);
  }
  // A joint that only windings hang on, drawn as one, says nothing.
  for (const joint of [...made.byId.values()])
    if (joint.kind === 'joint' && joint.parent && joint.children.length === 1 && joint.children[0]!.kind === 'windings')
      made.skip(joint);
  // What nothing feeds stands below the rest.
  for (const planned of plan.parts.values())
    if (
      planned.part.kind !== 'ground' &&
      !made.byId.has(planned.id) &&
      !made.skipped.has(planned.id) &&
      !made.byId.has(partEnd(planned.part.kind, planned.name))
    )
      made.add(planned.id, outOf(planned), kindOf(outOf(planned), false), null, null);
  for (const { end } of flows.unfed) made.add(end, end, 'load', null, null);
  return made;
}

/** What stands behind a thing of the drawing, however far. */
const behind = ({ children }: Draft): Draft[] => children.flatMap((child) => [child, ...behind(child)]);

/** Draws what hangs behind a fuse as one load, where its lane is folded. */
export function fold({ byId }: Sketch, folded: ReadonlySet<string>): void {
  for (const id of folded) {
    const fuse = byId.get(id);
    const all = fuse ? behind(fuse) : [];
    const loads = all.filter(({ kind }) => kind === 'load');
    const [first] = loads;
    if (!fuse || !first || all.length < 2) continue;
    for (const one of all) byId.delete(one.id);
    const lane: Draft = {
      ...first,
      isLane: true,
      members: loads.flatMap(({ members }) => members),
      links: [...fuse.children[0]!.links],
      through: [],
      parent: fuse,
      children: [],
    };
    byId.set(lane.id, lane);
    fuse.children.splice(0, fuse.children.length, lane);
  }
}
