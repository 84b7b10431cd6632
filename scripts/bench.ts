import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import loadHighs from 'highs';
import Papa from 'papaparse';
import { catalog } from '~/catalog';
import { allot } from '~/core/allot/allot';
import { conflictsOf } from '~/core/allot/conflict';
import { MINOR, modelOf } from '~/core/allot/model';
import { solve } from '~/core/allot/solve';
import { explain } from '~/core/ways/ways';
import type { Fault } from '~/core/circuit/faults';
import { solveCircuit } from '~/core/circuit/solve';
import { updated } from '~/core/circuit/update';
import { drawFeeds } from '~/core/drawing/feeds';
import { drawGrounds } from '~/core/drawing/grounds';
import type { Build } from '~/core/build/schema';
import { derive } from '~/core/derive/derive';
import { applyEdit, call } from '~/core/edits';
import { layBoard } from '~/core/loom/board';
import { allFigures, outerMillimetres, wiresBySegment } from '~/core/loom/bundles';
import { packCircles } from '~/core/loom/packing';
import { powerPlan } from '~/core/netlist/power-plan';
import { allWires, filterWires, sortWires } from '~/core/donor/sort';
import { readTable, wiresFrom } from '~/core/donor/table';
import { netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import { judgeSensor } from '~/core/sensing/judge';
import { sensorsOf } from '~/core/sensing/sensor';
import { traceFaults } from '~/core/trace/trace';
import { pellworth } from '~/demo/pellworth';
import { largeBuild, largePlaced } from './bench-build';
import { editReport, editRows } from './bench-edit';
import { crankedReport, fieldReport, stressReport } from './bench-field';
import { confusion, triggerRows } from './bench-trigger';
import { asLinearProgram } from '../tests/allotment/random-model';

/** A donor table as a spreadsheet gives it. */
const donorTable = (wires: number): string =>
  [
    'connector\tcavity\tcolour\tsize\tfunction\tsplice',
    ...Array.from(
      { length: wires },
      (_, i) => `F${i % 40}\t${Math.floor(i / 40) + 1}\tGN/YE\t0.75\tsensor ${i}\tS${i % 25}`,
    ),
  ].join('\n');

/** `npm run bench`: medians, and ratios against a reference timed in the same run. `-- --json` prints an array. */
interface Row {
  readonly name: string;
  readonly median: number;
  readonly unit: string;
  readonly reference?: string;
  readonly ratio?: number;
}

const middle = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** Median milliseconds of `runs` runs after warm-up; with a reference, both in turn so that the machine's mood hits both. */
function time(runs: number, work: () => unknown, reference?: () => unknown): { median: number; other: number } {
  const [mine, theirs]: [number[], number[]] = [[], []];
  for (let i = 0; i < Math.min(20, runs); i += 1) work();
  reference?.();
  for (let i = 0; i < runs; i += 1) {
    let start = performance.now();
    work();
    mine.push(performance.now() - start);
    if (!reference) continue;
    start = performance.now();
    reference();
    theirs.push(performance.now() - start);
  }
  return { median: middle(mine), other: theirs.length > 0 ? middle(theirs) : 0 };
}

/** Gzipped kilobytes of script the first route asks for: entry, root and garage with everything they import. */
function firstRouteKilobytes(): number | null {
  const root = path.resolve(import.meta.dirname, '..');
  if (
    !existsSync(path.join(root, 'build/client/.vite/manifest.json')) &&
    !existsSync(path.join(root, 'build/client/assets'))
  )
    return null;
  const server = path.join(root, 'build/server/index.js');
  const html = execFileSync(
    process.execPath,
    [
      '--input-type=module',
      '-e',
      `const { createApp } = await import(${JSON.stringify(path.join(root, 'scripts/serve.mjs'))}); const app = await createApp(); const s = app.listen(0, '127.0.0.1', async () => { const r = await fetch('http://127.0.0.1:' + s.address().port + '/'); process.stdout.write(await r.text()); process.exit(0); });`,
    ],
    { encoding: 'utf8', maxBuffer: 1 << 26 },
  );
  if (!existsSync(server)) return null;
  const seen = new Set<string>();
  const queue = [...html.matchAll(/\/assets\/[\w.-]+\.js/g)]
    .map((match) => match[0])
    .filter(
      (file) =>
        !/\/(?:survey|allot|trigger|feeds|loom|prove|fire-up|trace|book|new|library|build|build-index|missing)-/.test(
          file,
        ) && !/manifest-/.test(file),
    );
  let bytes = 0;
  while (queue.length > 0) {
    const file = queue.pop()!;
    if (seen.has(file)) continue;
    seen.add(file);
    const full = path.join(root, 'build/client', file);
    if (!existsSync(full)) continue;
    const text = readFileSync(full, 'utf8');
    bytes += gzipSync(text).length;
    for (const match of text.matchAll(/(?:from|import)\s*"\.\/([\w.-]+\.js)"/g)) queue.push(`/assets/${match[1]}`);
  }
  return bytes / 1000;
}

const rows: Row[] = [];
const demo = pellworth();
const net = netlist(demo);
const netTime = time(200, () => netlist(demo));
rows.push({ name: 'netlist, demo build', median: netTime.median, unit: 'ms' });
const both = time(200, () => {
  const one = netlist(demo);
  return findingsOf(demo, one);
});
rows.push({
  name: 'netlist and all rules, demo build',
  median: both.median,
  unit: 'ms',
  reference: '16 ms frame',
  ratio: both.median / 16,
});
const circuit = time(100, () => solveCircuit(demo, net, 'key-on'));
rows.push({ name: 'circuit, one state, demo build', median: circuit.median, unit: 'ms' });
const power = time(60, () => powerPlan(demo));
rows.push({ name: 'plan of feeds with its currents and sizes, demo build', median: power.median, unit: 'ms' });
const drawn = time(60, () => drawFeeds(net));
rows.push({ name: 'layout of the drawing of the feeds, demo build', median: drawn.median, unit: 'ms' });
const grounded = time(60, () => drawGrounds(demo, net));
rows.push({ name: 'layout of the drawing of the grounds, demo build', median: grounded.median, unit: 'ms' });
for (const count of [60, 300]) {
  // What was packed a moment ago is remembered: each bundle is another.
  let other = 0;
  const sizes = [1.3, 1.3, 1.3, 1.6, 1.9, 2.4, 3];
  const packed = time(20, () => {
    other += 1e-6;
    return packCircles(Array.from({ length: count }, (_, i) => sizes[i % sizes.length] + other));
  });
  rows.push({ name: `bundle of ${count} wires laid`, median: packed.median, unit: 'ms' });
}
{
  // The loom of 250 devices in a tree: routes and wires, every bundle, the board; then one piece measured, which changes some of it.
  const laid = [
    call('proposeTree', { vehicle: 'car', engine: 'front' }),
    call('plugSegment', { segment: 'wall', metres: 0.1, name: 'Wall', shell: 'bulkhead', cavities: 200 }),
  ].reduce((build, { name, args }) => {
    const done = applyEdit(build, name, args);
    if (!done.ok) throw new Error(done.problem.sentence);
    return done.value.build;
  }, largePlaced());
  let step = 0;
  const measured = (metres: number): Build => ({
    ...laid,
    tree: { ...laid.tree, segments: { ...laid.tree.segments, top: { ...laid.tree.segments.top!, metres } } },
  });
  const routes = time(12, () => netlist(measured(0.3 + 0.001 * (step += 1))));
  rows.push({ name: 'netlist with routes, 250 devices in a tree', median: routes.median, unit: 'ms' });
  const loom = netlist(laid);
  const bundles = time(12, () => allFigures(laid, loom).map(({ bareMillimetres }) => bareMillimetres));
  rows.push({ name: 'bundles of all pieces, 250 devices, packed before', median: bundles.median, unit: 'ms' });
  // What was packed a moment ago is remembered: each time all bundles are others.
  const pieces = [...wiresBySegment(loom).values()].map((wires) =>
    wires.map(({ squareMm }) => outerMillimetres(squareMm)),
  );
  let shift = 0;
  const first = time(12, () => {
    shift += 1e-6;
    return pieces.map((diameters) => packCircles(diameters.map((diameter) => diameter + shift)));
  });
  rows.push({ name: 'bundles of all pieces, 250 devices, packed anew', median: first.median, unit: 'ms' });
  const edited = time(12, () => {
    const build = measured(0.3 + 0.001 * (step += 1));
    allFigures(build, derive(build).net);
  });
  rows.push({ name: 'a piece measured, to the figures of all pieces, 250 devices', median: edited.median, unit: 'ms' });
  const board = time(6, () => layBoard(laid, loom, { width: 4000, height: 2400 }));
  rows.push({
    name: 'board at 1:1, 250 devices',
    median: board.median,
    unit: 'ms',
    reference: '2 s',
    ratio: board.median / 2000,
  });
}
{
  // Five thousand bad contacts in one state, by update and, of every hundredth, anew.
  const base = solveCircuit(demo, net, 'key-on');
  const faults = Array.from({ length: 5000 }, (_, i): Fault => ({
    type: 'resistive',
    wireId: net.wires[i % net.wires.length].id,
    ohms: 0.1 + i / 1000,
  }));
  const quick = time(3, () => faults.forEach((fault) => updated(base, fault))).median;
  const slow =
    time(3, () => faults.forEach((fault, i) => i % 100 === 0 && solveCircuit(demo, net, 'key-on', fault))).median * 100;
  rows.push({
    name: '5,000 bad contacts by update, demo build',
    median: quick,
    unit: 'ms',
    reference: `solving each anew, ${slow.toFixed(0)} ms`,
    ratio: quick / slow,
  });
}
{
  // The loom from fifty wires to a thousand: plan, currents, sizes and one state solved, by the wire.
  const grown = [20, 800].map((count) => {
    const build = largeBuild(count, Math.max(60, count));
    const own = netlist(build);
    const { median } = time(count > 100 ? 7 : 40, () => {
      powerPlan(build);
      solveCircuit(build, own, 'key-on');
    });
    return { wires: own.wires.length, median, perWire: median / own.wires.length };
  });
  rows.push({
    name: `plan of feeds and one state, ${grown[1].wires} wires`,
    median: grown[1].median,
    unit: 'ms',
    reference: `by the wire, of ${grown[0].wires} wires`,
    ratio: grown[1].perWire / grown[0].perWire,
  });
}
const traced = time(5, () => traceFaults(demo, net, { symptomId: 'dead:fan-1', readings: [] }));
rows.push({ name: 'trace, all faults of one symptom', median: traced.median, unit: 'ms' });

const sensors = sensorsOf(demo, net);
const judged = time(50, () => sensors.map((at) => judgeSensor(demo, at, { atPin: 0.1, shown: null }, catalog.kinds)));
rows.push({
  name: `judging ${sensors.length} readings against ${catalog.kinds.length} kinds`,
  median: judged.median,
  unit: 'ms',
});
const donorText = donorTable(400);
const read = time(
  30,
  () => {
    const table = readTable(donorText);
    return table.ok ? wiresFrom(table.value, table.value.uses) : null;
  },
  () => Papa.parse(donorText, { delimiter: '\t' }),
);
rows.push({
  name: 'donor table, 400 wires read and checked',
  median: read.median,
  unit: 'ms',
  reference: 'papaparse alone',
  ratio: read.median / read.other,
});
const donorRaw = readTable(donorText);
const donorWires = donorRaw.ok ? wiresFrom(donorRaw.value, donorRaw.value.uses).wires : [];
const sorted = time(50, () => sortWires(filterWires(donorWires, { ...allWires, text: 'sensor 3' }), 'function'));
rows.push({ name: 'donor list, 400 wires filtered and sorted', median: sorted.median, unit: 'ms' });

const large = largeBuild(200, 300);
const largeModel = modelOf(large, { keep: 'locked' });
// The general-purpose solver gets the same needs, pins and limits, and is spared the finer weights.
const program = asLinearProgram(
  { ...largeModel, cost: largeModel.minor.map((minor) => Math.floor(minor / MINOR.versatile)) },
  10_000,
);
const highs = await loadHighs();
const solver = time(
  9,
  () => solve(largeModel),
  () => highs.solve(program),
);
// Like for like: both solvers start from the problem already stated.
rows.push({
  name: 'solver alone, 200 needs x 300 pins',
  median: solver.median,
  unit: 'ms',
  reference: 'HiGHS 1.15 solving the same',
  ratio: solver.median / solver.other,
});
rows.push({
  name: 'allot, 200 needs x 300 pins, from the build to the plan',
  median: time(15, () => allot(large, { keep: 'locked' })).median,
  unit: 'ms',
});
let half: number | null = null;
for (const [needs, pins] of [
  [33, 50],
  [67, 100],
  [133, 200],
  [267, 400],
  [400, 600],
  [533, 800],
] as const) {
  const build = largeBuild(needs, pins);
  const { median } = time(7, () => allot(build, { keep: 'locked', explain: false }));
  rows.push({
    name: `allot, ${needs} needs x ${pins} pins`,
    median,
    unit: 'ms',
    ...(half === null ? {} : { reference: 'the row above', ratio: median / half }),
  });
  half = median;
}
const placedLarge = largePlaced();
rows.push(
  {
    name: 'allot, 250 devices on 300 pins with 237 needs placed, from the build to the plan',
    median: time(9, () => allot(placedLarge, { keep: 'most', explain: false })).median,
    unit: 'ms',
  },
  {
    name: 'why not, the same: conflicts and every way out tried',
    median: time(3, () => explain(placedLarge, { kinds: catalog.kinds, ecus: catalog.ecus })).median,
    unit: 'ms',
  },
);
const short = largeBuild(120, 80);
rows.push({
  name: 'why not: minimal conflicts, 120 needs x 80 pins',
  median: time(5, () => conflictsOf(short)).median,
  unit: 'ms',
});
rows.push(...triggerRows());
const kilobytes = firstRouteKilobytes();
if (kilobytes !== null)
  rows.push({
    name: 'first route, script gzipped',
    median: kilobytes,
    unit: 'kB',
    reference: '250 kB budget',
    ratio: kilobytes / 250,
  });
else process.stderr.write('first route: no build of the app\n');

// The whole edit, in a real browser on the built app.
const edits = await editRows();
if (process.argv.includes('--json')) {
  process.stdout.write(`${JSON.stringify([...rows, ...edits.map((edit) => ({ unit: 'ms', ...edit }))], null, 2)}\n`);
} else {
  const cells = rows.map((row) => [
    row.name,
    `${row.median.toFixed(2)} ${row.unit}`,
    row.reference ? `${row.ratio!.toFixed(3)} of ${row.reference}` : '',
  ]);
  const width = [0, 1, 2].map((column) => Math.max(...cells.map((line) => line[column].length)));
  for (const line of cells)
    process.stdout.write(`${line[0].padEnd(width[0])}  ${line[1].padStart(width[1])}  ${line[2]}\n`);
  process.stdout.write(`\n${editReport(edits)}\n`);
  process.stdout.write(`\n${confusion()}\n`);
  process.stdout.write(`\n${fieldReport()}\n\n${crankedReport()}\n\n${stressReport()}\n`);
}
