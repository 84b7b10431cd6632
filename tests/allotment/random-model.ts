import { endNamed } from '../ends';
import type { Ask } from '~/core/ecu/ask';
import type { Pin } from '~/core/ecu/ecu';
import type { Limit, Model, Row } from '~/core/allot/model';
import type { Need } from '~/core/netlist/needs';

/** Small seeded generator (Park and Miller, 1988): a failing seed can be run again. */
export function generator(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 48271) % 2147483647;
    return state / 2147483647;
  };
}

const speeds = [30, 200, 1000];

/** A made-up assignment with pairs, timers, budgets and either-or; costs are small integers, minor costs none. */
export function randomModel(seed: number, most: { rows: number; pins: number }): Model {
  const random = generator(seed);
  const pick = (limit: number) => Math.floor(random() * limit);
  const count = 4 + pick(most.pins - 3);
  const pins = Array.from({ length: count }, (_, i) => ({
    id: `A${i + 1}`,
    connector: 'A',
    cavity: i + 1,
    label: `Pin ${i + 1}`,
    abilities: [{ kind: 'low-side' }],
  })) as Pin[];
  const need = (name: string, pair: string | null): Need => {
    const ask: Ask = { kind: 'low-side', amps: [0.5, 1, 2][pick(3)], hz: random() < 0.5 ? speeds[pick(3)] : 0 };
    return {
      id: name,
      label: name,
      winding: null,
      system: 'Driver',
      end: endNamed(`dev:${name}.1`),
      ask,
      deviceId: name,
      pair,
      serves: [],
      row: 1,
      outputs: null,
      protection: null,
      joined: [],
    };
  };
  const rows: Row[] = [];
  const start = [0];
  const column: number[] = [];
  const cost: number[] = [];
  const members = new Map<number, Int32Array>();
  const share = 0.15 + random() * 0.5;
  for (let row = 0, rowCount = 1 + pick(most.rows); row < rowCount; row += 1) {
    const paired = random() < 0.2;
    rows.push({ needs: paired ? [need(`n${row}a`, `p${row}`), need(`n${row}b`, `p${row}`)] : [need(`n${row}`, null)] });
    for (let pin = 0; pin < count - (paired ? 1 : 0); pin += 1) {
      if (random() > share) continue;
      if (paired) members.set(column.length, Int32Array.from([pin, pin + 1]));
      column.push(pin);
      cost.push(pick(100));
    }
    start.push(column.length);
  }
  const some = () => new Set(Array.from({ length: 2 + pick(4) }, () => pick(count)));
  const limits: Limit[] = [];
  if (random() < 0.6)
    limits.push({ type: 'timer', name: 'timer', pins: some(), hz: random() < 0.2 ? speeds[pick(3)] : null });
  if (random() < 0.6) limits.push({ type: 'budget', name: 'budget', pins: some(), amps: 1 + pick(4) });
  if (random() < 0.6) {
    const all = [...some()];
    const at = 1 + pick(all.length - 1 || 1);
    const [one, other] = [new Set(all.slice(0, at)), new Set(all.slice(at))];
    limits.push({ type: 'either', name: 'either', sides: random() < 0.2 ? [one] : [one, other], shut: false });
    const last = limits[limits.length - 1];
    if (last.type === 'either' && last.sides.length === 1) limits[limits.length - 1] = { ...last, shut: true };
  }
  return {
    pins,
    rows,
    start: Int32Array.from(start),
    column: Int32Array.from(column),
    cost: Float64Array.from(cost),
    minor: new Float64Array(cost.length),
    members,
    limits,
    fixed: new Map(),
    whole: true,
  };
}

export const edgePins = (model: Model, edge: number): number[] => [
  ...(model.members.get(edge) ?? [model.column[edge]]),
];
export const rowOfEdge = (model: Model, edge: number): number => model.start.findIndex((end) => end > edge) - 1;

/** Everything a set of edges breaks, in words; empty when it keeps every limit. Written apart from the solver. */
export function broken(model: Model, edges: readonly number[]): string[] {
  const wrong: string[] = [];
  const uses = edges.flatMap((edge) => {
    const { needs } = model.rows[rowOfEdge(model, edge)];
    return edgePins(model, edge).map((pin, i) => ({ pin, ask: needs[i].ask }));
  });
  if (new Set(uses.map(({ pin }) => pin)).size < uses.length) wrong.push('a pin used twice');
  for (const limit of model.limits) {
    if (limit.type === 'timer') {
      const running = uses.filter(({ pin, ask }) => limit.pins.has(pin) && (ask.hz ?? 0) > 0).map(({ ask }) => ask.hz!);
      if (new Set([...running, ...(limit.hz === null ? [] : [limit.hz])]).size > 1) wrong.push('two frequencies');
    } else if (limit.type === 'budget') {
      const amps = uses.filter(({ pin }) => limit.pins.has(pin)).reduce((sum, { ask }) => sum + ask.amps!, 0);
      if (amps > limit.amps + 1e-9) wrong.push('over budget');
    } else {
      const sides = limit.sides.filter((side) => uses.some(({ pin }) => side.has(pin))).length;
      if (sides > (limit.shut ? 0 : 1)) wrong.push('both sides');
    }
  }
  return wrong;
}

/** The same problem in the text format for linear programs (CPLEX LP): one binary for each edge. */
export function asLinearProgram(model: Model, unserved: number): string {
  const edges = [...model.column.keys()];
  const x = (edge: number) => `x${edge}`;
  const objective: string[] = [];
  const rules: string[] = [];
  const binaries: string[] = edges.map(x);
  model.rows.forEach((row, r) => {
    const own = edges.filter((edge) => edge >= model.start[r] && edge < model.start[r + 1]);
    objective.push(`${unserved * row.needs.length} u${r}`, ...own.map((edge) => `${model.cost[edge]} ${x(edge)}`));
    rules.push(`${[...own.map(x), `u${r}`].join(' + ')} = 1`);
    binaries.push(`u${r}`);
  });
  const byPin = new Map<number, number[]>();
  for (const edge of edges) for (const pin of edgePins(model, edge)) byPin.set(pin, [...(byPin.get(pin) ?? []), edge]);
  for (const list of byPin.values()) if (list.length > 1) rules.push(`${list.map(x).join(' + ')} <= 1`);
  const touches = (edge: number, pins: ReadonlySet<number>) => edgePins(model, edge).some((pin) => pins.has(pin));
  model.limits.forEach((limit, g) => {
    if (limit.type === 'timer') {
      const found = new Set<number>();
      for (const edge of edges) {
        const { needs } = model.rows[rowOfEdge(model, edge)];
        edgePins(model, edge).forEach((pin, i) => {
          const hz = needs[i].ask.hz ?? 0;
          if (!limit.pins.has(pin) || hz === 0) return;
          found.add(hz);
          rules.push(`${x(edge)} - y${g}h${hz} <= 0`);
        });
      }
      if (found.size === 0) return;
      rules.push(`${[...found].map((hz) => `y${g}h${hz}`).join(' + ')} <= 1`);
      for (const hz of found) {
        binaries.push(`y${g}h${hz}`);
        if (limit.hz !== null && hz !== limit.hz) rules.push(`y${g}h${hz} = 0`);
      }
    } else if (limit.type === 'budget') {
      const parts = edges.flatMap((edge) => {
        const { needs } = model.rows[rowOfEdge(model, edge)];
        const amps = edgePins(model, edge).reduce(
          (sum, pin, i) => sum + (limit.pins.has(pin) ? needs[i].ask.amps! : 0),
          0,
        );
        return amps > 0 ? [`${amps} ${x(edge)}`] : [];
      });
      if (parts.length > 0) rules.push(`${parts.join(' + ')} <= ${limit.amps}`);
    } else {
      limit.sides.forEach((side, s) => {
        const list = edges.filter((edge) => touches(edge, side));
        for (const edge of list) rules.push(`${x(edge)} - z${g}s${s} <= 0`);
        binaries.push(`z${g}s${s}`);
      });
      rules.push(`${limit.sides.map((_, s) => `z${g}s${s}`).join(' + ')} <= ${limit.shut ? 0 : 1}`);
    }
  });
  const wrap = (terms: readonly string[]) =>
    terms.map((term, i) => (i > 0 && i % 12 === 0 ? `\n  ${term}` : term)).join(' + ');
  return `Minimize\n obj: ${wrap(objective)}\nSubject To\n${rules.map((rule, i) => ` r${i}: ${rule}`).join('\n')}\nBinary\n ${binaries.join('\n ')}\nEnd\n`;
}
