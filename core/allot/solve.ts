import { assign, type Assigned, type SparseProblem } from './assignment';
import { MINOR, WEIGHT, pulses, type Limit, type Model } from './model';

/*
 * Branch and bound over the assignment. The assignment alone ignores what ties pins together (pairs that overlap, timers,
 * budgets, either-or); its cost is a lower bound. Where its answer breaks a tie, the node is split so that every answer
 * that keeps the tie is in one of the children, and none is in two. Parts of the plan that share no pin and no tie are
 * solved one by one. Source: A. H. Land and A. G. Doig, "An automatic method of solving discrete programming problems",
 * Econometrica 28 (1960). Exact while `nodeLimit` is not reached; then the best found so far is given, marked unproven.
 */
export interface Solved {
  /** Edge of each row of the model, or -1. */
  readonly edgeOf: Int32Array;
  readonly cost: number;
  readonly minor: number;
  readonly proven: boolean;
  readonly nodes: number;
}
export interface SolveOptions {
  readonly nodeLimit?: number;
  /** Called with rows settled and rows in all; return true to stop. */
  readonly onProgress?: (done: number, of: number) => boolean;
}
export const NODE_LIMIT = 20_000;

/** Pins an edge of the model stands for, one for each need of its row. */
export const pinsOfEdge = (model: Model, edge: number): readonly number[] | Int32Array =>
  model.members.get(edge) ?? [model.column[edge]!];

/** Limits that can matter at all: some pin is left, and for a timer two frequencies or one that is fixed. */
const ties = (model: Model): readonly Limit[] =>
  model.limits.filter((limit) =>
    limit.type === 'either' ? limit.sides.some((side) => side.size > 0) : limit.pins.size > 0,
  );

/** Rows that share pins or limits, as lists of row numbers in order. */
function parts(model: Model, limits: readonly Limit[]): number[][] {
  const parent = Int32Array.from({ length: model.pins.length }, (_, i) => i);
  const find = (pin: number): number => {
    let root = pin;
    while (parent[root] !== root) root = parent[root]!;
    while (parent[pin] !== root) [parent[pin], pin] = [root, parent[pin]!];
    return root;
  };
  const join = (pins: Iterable<number>) => {
    let first = -1;
    for (const pin of pins) {
      if (first < 0) first = find(pin);
      else parent[find(pin)] = first;
    }
  };
  const firstPin = model.rows.map((row, at) => {
    const [from, to] = [model.start[at]!, model.start[at + 1]!];
    if (from === to) return -1;
    const first = model.column[from]!;
    const wide = row.needs.length > 1;
    let root = find(first);
    for (let edge = from; edge < to; edge += 1) {
      // Rows that ask alike have joined the same pins before: most are with the first already.
      if (parent[model.column[edge]!] !== root) parent[find(model.column[edge]!)] = root = find(root);
      if (wide) for (const pin of pinsOfEdge(model, edge)) parent[find(pin)] = root = find(root);
    }
    return first;
  });
  for (const limit of limits) join(limit.type === 'either' ? limit.sides.flatMap((side) => [...side]) : limit.pins);
  const byRoot = new Map<number, number[]>();
  firstPin.forEach((pin, row) => {
    if (pin < 0) return;
    const root = find(pin);
    const list = byRoot.get(root);
    if (list) list.push(row);
    else byRoot.set(root, [row]);
  });
  return [...byRoot.values()];
}

/** What it costs to leave a row unserved; of equals the later one is left. */
export const leaving = (model: Model, row: number): { cost: number; minor: number } => ({
  cost: model.rows[row]!.needs.length * WEIGHT.unserved,
  minor: (model.rows.length - row) * MINOR.away,
});

/** One part as an assignment of its own; `edges` leads back to the model. */
interface Part {
  readonly model: Model;
  readonly rows: readonly number[];
  readonly problem: SparseProblem;
  readonly edges: Int32Array;
  readonly rowOfEdge: Int32Array;
  readonly limits: readonly Limit[];
}

function partOf(model: Model, rows: readonly number[], limits: readonly Limit[]): Part {
  const start = new Int32Array(rows.length + 1);
  rows.forEach((row, i) => (start[i + 1] = start[i]! + model.start[row + 1]! - model.start[row]!));
  const edges = new Int32Array(start[rows.length]!);
  const rowOfEdge = new Int32Array(edges.length);
  /** Column of each pin of the model here, or -1. */
  const local = new Int32Array(model.pins.length).fill(-1);
  let columns = 0;
  const column = new Int32Array(edges.length);
  /** 1 for pins an edge of these rows stands on. */
  const seen = new Uint8Array(model.pins.length);
  rows.forEach((row, i) => {
    const wide = model.rows[row]!.needs.length > 1;
    for (let k = 0; k < start[i + 1]! - start[i]!; k += 1) {
      const edge = model.start[row]! + k;
      const at = start[i]! + k;
      edges[at] = edge;
      rowOfEdge[at] = i;
      const pin = model.column[edge]!;
      if (local[pin]! < 0) {
        local[pin] = columns;
        columns += 1;
      }
      column[at] = local[pin]!;
      seen[pin] = 1;
      if (wide) for (const one of pinsOfEdge(model, edge)) seen[one] = 1;
    }
  });
  const touches = (limit: Limit) =>
    (limit.type === 'either' ? limit.sides : [limit.pins]).some((pins) => [...pins].some((pin) => seen[pin] === 1));
  return {
    model,
    rows,
    edges,
    rowOfEdge,
    limits: limits.filter(touches),
    problem: {
      rows: rows.length,
      columns,
      start,
      column,
      cost: Float64Array.from(edges, (edge) => model.cost[edge]!),
      minor: Float64Array.from(edges, (edge) => model.minor[edge]!),
      leave: Float64Array.from(rows, (row) => leaving(model, row).cost),
      leaveMinor: Float64Array.from(rows, (row) => leaving(model, row).minor),
    },
  };
}

/** Amperes and frequencies the needs of a row bring to these pins by an edge; null when the edge does not touch them. */
function onPins(part: Part, at: number, pins: ReadonlySet<number>): { amps: number; speeds: readonly number[] } | null {
  const edge = part.edges[at]!;
  const { needs } = part.model.rows[part.rows[part.rowOfEdge[at]!]!]!;
  let [amps, hit] = [0, false];
  const speeds: number[] = [];
  const list = pinsOfEdge(part.model, edge);
  for (let i = 0; i < list.length; i += 1) {
    if (!pins.has(list[i]!)) continue;
    hit = true;
    const { ask } = needs[i]!;
    amps += ask.amps ?? 0;
    if (pulses(ask)) speeds.push(ask.hz!);
  }
  return hit ? { amps, speeds } : null;
}

type Bar = (at: number) => boolean;

/** Splits a node whose answer breaks a tie: for each child, the edges it bars. Null when nothing is broken. */
function split(part: Part, answer: Assigned): Bar[] | null {
  const taken = [...answer.edgeOf].filter((at) => at >= 0);
  const overlap = overlapping(part, taken);
  if (overlap) return overlap;
  for (const limit of part.limits) {
    if (limit.type === 'timer') {
      const speeds = new Set(limit.hz === null ? [] : [limit.hz]);
      for (const at of taken) for (const hz of onPins(part, at, limit.pins)?.speeds ?? []) speeds.add(hz);
      if (speeds.size < 2) continue;
      const possible = new Set<number>(limit.hz === null ? [] : [limit.hz]);
      if (limit.hz === null)
        for (let at = 0; at < part.edges.length; at += 1)
          for (const hz of onPins(part, at, limit.pins)?.speeds ?? []) possible.add(hz);
      return [...possible].map(
        (hz): Bar =>
          (at) =>
            onPins(part, at, limit.pins)?.speeds.some((other) => other !== hz) ?? false,
      );
    }
    if (limit.type === 'budget') {
      const uses = taken
        .flatMap((at) => {
          const use = onPins(part, at, limit.pins);
          return use && use.amps > 0 ? [{ at, amps: use.amps }] : [];
        })
        .sort((one, other) => other.amps - one.amps || one.at - other.at);
      const cover: typeof uses = [];
      let sum = 0;
      for (const use of uses) {
        if (sum > limit.amps + 1e-9) break;
        cover.push(use);
        sum += use.amps;
      }
      if (sum <= limit.amps + 1e-9) continue;
      // In the i-th child row i weighs less on these pins than here, and the rows before it as much: a pair may have one
      // foot on them only.
      return cover.map((own, i): Bar => {
        const before = new Map(cover.slice(0, i).map(({ at, amps }) => [part.rowOfEdge[at], amps]));
        return (at) => {
          const weight = onPins(part, at, limit.pins)?.amps ?? 0;
          if (part.rowOfEdge[at] === part.rowOfEdge[own.at]) return weight >= own.amps;
          const asMuch = before.get(part.rowOfEdge[at]);
          return asMuch !== undefined && weight < asMuch;
        };
      });
    }
    if (limit.type === 'either') {
      const used = limit.sides.filter((side) => taken.some((at) => onPins(part, at, side)));
      if (used.length < (limit.shut ? 1 : 2)) continue;
      const open: (ReadonlySet<number> | null)[] = limit.shut ? [null] : [...limit.sides];
      return open.map(
        (side): Bar =>
          (at) =>
            limit.sides.some((other) => other !== side && onPins(part, at, other) !== null),
      );
    }
  }
  return null;
}

/** Two rows on one pin, which only edges of several pins can bring about. */
function overlapping(part: Part, taken: readonly number[]): Bar[] | null {
  const holder = new Map<number, number>();
  for (const at of taken)
    for (const pin of pinsOfEdge(part.model, part.edges[at]!)) {
      const other = holder.get(pin);
      if (other === undefined) {
        holder.set(pin, at);
        continue;
      }
      const wide = part.model.members.has(part.edges[at]!) ? at : other;
      const pins = new Set(pinsOfEdge(part.model, part.edges[wide]!));
      return [
        (one) =>
          part.rowOfEdge[one] === part.rowOfEdge[wide]
            ? one !== wide
            : [...pinsOfEdge(part.model, part.edges[one]!)].some((own) => pins.has(own)),
        (one) => one === wide,
      ];
    }
  return null;
}

const less = (one: Pick<Assigned, 'cost' | 'minor'>, other: Pick<Assigned, 'cost' | 'minor'>): boolean =>
  one.cost < other.cost || (one.cost === other.cost && one.minor < other.minor);

const unserved = (part: Part): Assigned => ({
  edgeOf: new Int32Array(part.rows.length).fill(-1),
  cost: part.problem.leave.reduce((sum, one) => sum + one, 0),
  minor: part.problem.leaveMinor.reduce((sum, one) => sum + one, 0),
});

function solvePart(part: Part, nodeLimit: number): { best: Assigned; proven: boolean; nodes: number } {
  let best: Assigned | null = null;
  let nodes = 0;
  let proven = true;
  const walk = (answer: Assigned, barred: Uint8Array | null) => {
    if (best && !less(answer, best)) return;
    const children = split(part, answer);
    if (!children) {
      best = answer;
      return;
    }
    if (nodes >= nodeLimit) {
      proven = false;
      if (best) return;
    }
    const solved = children.map((bar) => {
      const next = barred ? Uint8Array.from(barred) : new Uint8Array(part.edges.length);
      for (let at = 0; at < next.length; at += 1) if (next[at] === 0 && bar(at)) next[at] = 1;
      nodes += 1;
      return { next, answer: assign(part.problem, next) };
    });
    solved.sort((one, other) => one.answer.cost - other.answer.cost || one.answer.minor - other.answer.minor);
    for (const one of solved) walk(one.answer, one.next);
  };
  const root = assign(part.problem);
  walk(root, null);
  // Every node leads to an answer: at the worst all of its rows are left. Without one, leave them.
  return { best: best ?? unserved(part), proven, nodes };
}

/** Serves as many rows as can be, at the least cost. Null when stopped. */
export function solve(model: Model, options: SolveOptions = {}): Solved | null {
  const limits = ties(model);
  const edgeOf = new Int32Array(model.rows.length).fill(-1);
  let [cost, minor, nodes, done] = [0, 0, 0, 0];
  let proven = model.whole;
  const list = parts(model, limits);
  const reached = new Set(list.flat());
  model.rows.forEach((_, i) => {
    if (reached.has(i)) return;
    cost += leaving(model, i).cost;
    minor += leaving(model, i).minor;
  });
  for (const rows of list) {
    if (options.onProgress?.(done, model.rows.length)) return null;
    const part = partOf(model, rows, limits);
    const solved = solvePart(part, options.nodeLimit ?? NODE_LIMIT);
    solved.best.edgeOf.forEach((at, i) => (edgeOf[rows[i]!] = at < 0 ? -1 : part.edges[at]!));
    cost += solved.best.cost;
    minor += solved.best.minor;
    nodes += solved.nodes;
    proven &&= solved.proven;
    done += rows.length;
  }
  options.onProgress?.(done, model.rows.length);
  return { edgeOf, cost, minor, proven, nodes };
}

/** Pins of the needs that are served, settled ones among them. */
export function placements(model: Model, solved: Pick<Solved, 'edgeOf'>): Map<string, string> {
  const placed = new Map([...model.fixed].map(([needId, pin]) => [needId, pin.id]));
  model.rows.forEach((row, i) => {
    const edge = solved.edgeOf[i]!;
    if (edge < 0) return;
    const pins = pinsOfEdge(model, edge);
    // Fewer pins than needs: what has none goes elsewhere, as a VR return does to the sensor ground.
    pins.forEach((pin, k) => placed.set(row.needs[k]!.id, model.pins[pin]!.id));
  });
  return placed;
}
