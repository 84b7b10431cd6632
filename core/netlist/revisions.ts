import { withId } from '../data/with-id';
import { netlist, type Netlist } from './netlist';
import { groundPins, isSharedGround, type GroundPins } from './ground-pins';
import { needsOf } from './needs';
import { listWords, plural } from '../units/format';
import { readLength, readMeasure } from '../units/workshop';
import { readQuantity, type Reader } from '../units/units';
import { readSize } from '../wire/size';
import { trait } from '../devices/kind';
import { workWords } from '../engine/outputs';
import { planOf, type Build, type Bus, type Plan } from '../build/schema';
import { membersOf } from './bus';

/** A, B, ... Z, AA, AB, ... */
export function letterAt(index: number): string {
  const letter = String.fromCharCode(65 + (index % 26));
  return index < 26 ? letter : letterAt(Math.floor(index / 26) - 1) + letter;
}
export const nextLetter = (build: Build): string => letterAt(build.revisions.length);
/** The letter the sheet shows: of the last revision saved, or '-' before the first. */
export const currentLetter = (build: Build): string => build.revisions[build.revisions.length - 1]?.letter ?? '–';

export const revise = (build: Build, note: string, at: string): Build => ({
  ...build,
  revisions: [...build.revisions, { letter: nextLetter(build), at, note, plan: planOf(build) }],
});

const withPlan = (build: Build, plan: Plan): Build => ({ ...build, ...plan });

function named<T>(before: ReadonlyMap<string, T>, after: ReadonlyMap<string, T>) {
  return {
    added: [...after].filter(([key]) => !before.has(key)),
    removed: [...before].filter(([key]) => !after.has(key)),
    both: [...after].flatMap(([key, value]) => (before.has(key) ? [{ key, from: before.get(key)!, to: value }] : [])),
  };
}

const kindNames = { 'four-stroke': 'four-stroke', 'two-stroke': 'two-stroke', rotary: 'rotary' } as const;
const ignitionNames = { distributor: 'a distributor', wasted: 'a spark every turn', direct: 'a coil each' } as const;
export const injectionNames = {
  none: 'none',
  batch: 'all together',
  'semi-sequential': 'in pairs',
  sequential: 'one by one',
} as const;

/** What changed in the engine, a sentence a fact. */
export function engineDifference(old: Plan['engine'], now: Plan['engine'], reader: Reader): string[] {
  const rows: [keyof Plan['engine'], string, (engine: Plan['engine']) => string][] = [
    ['name', 'Engine', (one) => one.name],
    ['kind', 'Engine kind', (one) => kindNames[one.kind]],
    ['cylinders', now.kind === 'rotary' ? 'Rotors' : 'Cylinders', (one) => String(one.cylinders)],
    ['firingOrder', 'Firing order', (one) => one.firingOrder.join('-')],
    [
      'firingAngles',
      'Firing angles',
      (one) => (one.firingAngles === null ? 'even' : one.firingAngles.map((angle) => `${angle}°`).join(' ')),
    ],
    ['aspiration', 'Breathing', (one) => one.aspiration],
    ['boostKpa', 'Boost wanted', (one) => readQuantity('pressure', one.boostKpa, reader)],
    ['maxRpm', 'Top speed', (one) => `${one.maxRpm} rpm`],
    ['displacementCc', 'Displacement', (one) => readMeasure('displacement', one.displacementCc, reader)],
    ['ignition', 'Ignition', (one) => ignitionNames[one.ignition]],
    ['injection', 'Injection', (one) => injectionNames[one.injection]],
    ['plugs', 'Plugs of each chamber', (one) => String(one.plugs)],
    ['trailingDegrees', 'Second plug', (one) => `${one.trailingDegrees}° after the first`],
    ['injectors', 'Injectors of each cylinder', (one) => String(one.injectors)],
  ];
  return rows.flatMap(([key, name, words]) =>
    JSON.stringify(old[key]) === JSON.stringify(now[key]) ? [] : [`${name}: ${words(old)} became ${words(now)}.`],
  );
}

/** Whom a part serves: the whole engine, or its cylinders, and which of two it is. */
function placeWords({ engine, kinds }: Plan, { kindId, serves, row }: Plan['devices'][number]): string {
  if (serves.length === 0) return 'no cylinder by name';
  const kind = kinds[kindId];
  return workWords(engine, kind && trait(kind, 'injector') ? 'injector' : 'ignition', { cylinders: serves, row });
}

/** What a ground pin is wired as, in words. */
const groundWords = (grounds: GroundPins, pinId: string): string =>
  isSharedGround(grounds, pinId)
    ? 'for the ECU and the sensors'
    : withId(grounds.sensor, pinId)
      ? 'for the sensors'
      : 'for the ECU';

const busWords = (plan: Plan, bus: Bus): string =>
  `${bus.kilobits} kbit/s with ${listWords(membersOf(plan, bus).map(({ device }) => device.label))}`;

/** Looms of plans that revisions keep: those never change. */
const looms = new WeakMap<Plan, Netlist>();
/** The loom of a plan a revision keeps, derived once. */
export function loomOf(build: Build, plan: Plan): Netlist {
  const known = looms.get(plan) ?? netlist(withPlan(build, plan));
  looms.set(plan, known);
  return known;
}

/** What changed between two plans of a build, in words, most important first. `netOf`: the loom of each, where it is known. */
export function differenceInWords(
  build: Build,
  before: Plan,
  after: Plan,
  netOf: (plan: Plan) => Netlist = (plan) => loomOf(build, plan),
): string[] {
  const [old, now] = [withPlan(build, before), withPlan(build, after)];
  const lines: string[] = [];
  if (old.ecu.id !== now.ecu.id) lines.push(`ECU ${old.ecu.model} became ${now.ecu.model}.`);
  lines.push(...engineDifference(old.engine, now.engine, build));
  if (old.outputOrder !== now.outputOrder)
    lines.push(now.outputOrder === 'in-turn' ? 'Outputs now fire in turn.' : 'Outputs are now numbered by cylinder.');

  const devices = named(
    new Map(old.devices.map((one) => [one.id, one])),
    new Map(now.devices.map((one) => [one.id, one])),
  );
  for (const [, one] of devices.added) lines.push(`${one.label} was added.`);
  for (const [, one] of devices.removed) lines.push(`${one.label} was removed.`);
  for (const { from, to } of devices.both) {
    if (from.label !== to.label) lines.push(`${from.label} is now called ${to.label}.`);
    if (from.branchMetres !== to.branchMetres)
      lines.push(
        `${to.label}: branch ${readLength(from.branchMetres, build)} became ${readLength(to.branchMetres, build)}.`,
      );
    if (JSON.stringify(from.overrides) !== JSON.stringify(to.overrides))
      lines.push(`${to.label}: a terminal goes elsewhere.`);
    const places = [placeWords(old, from), placeWords(now, to)];
    if (places[0] !== places[1]) lines.push(`${to.label}: it serves ${places[1]} instead of ${places[0]}.`);
    if (from.shield !== to.shield) lines.push(`${to.label}: shield ${from.shield} became ${to.shield}.`);
  }

  const buses = named(new Map(old.buses.map((one) => [one.id, one])), new Map(now.buses.map((one) => [one.id, one])));
  for (const [, one] of buses.added) lines.push(`${one.name}: ${busWords(now, one)}.`);
  for (const [, one] of buses.removed) lines.push(`${one.name} was given up.`);
  for (const { from, to } of buses.both)
    if (busWords(old, from) !== busWords(now, to))
      lines.push(`${to.name}: ${busWords(old, from)} became ${busWords(now, to)}.`);

  const labels = new Map([...needsOf(old), ...needsOf(now)].map((need) => [need.id, need.label]));
  for (const [needId, label] of labels) {
    const [from, to] = [old.assignments[needId], now.assignments[needId]];
    if (from === to) continue;
    if (from === undefined) lines.push(`${label} was placed on ${to}.`);
    else if (to === undefined) lines.push(`${label} lost its pin ${from}.`);
    else lines.push(`${label} moved from ${from} to ${to}.`);
  }

  if (old.trigger.crankWheel?.id !== now.trigger.crankWheel?.id)
    lines.push(
      `Crank wheel ${old.trigger.crankWheel?.name ?? 'none'} became ${now.trigger.crankWheel?.name ?? 'none'}.`,
    );
  if (old.trigger.camWheel?.id !== now.trigger.camWheel?.id)
    lines.push(`Cam wheel ${old.trigger.camWheel?.name ?? 'none'} became ${now.trigger.camWheel?.name ?? 'none'}.`);
  if (old.trigger.offsetDegrees !== now.trigger.offsetDegrees)
    lines.push(`Offset ${old.trigger.offsetDegrees.toFixed(1)}° became ${now.trigger.offsetDegrees.toFixed(1)}°.`);

  const [oldNet, newNet] = [netOf(before), netOf(after)];
  const circuits = named(
    new Map(oldNet.circuits.map((one) => [one.id, one])),
    new Map(newNet.circuits.map((one) => [one.id, one])),
  );
  const isDevice = (id: string, list: readonly (readonly [string, unknown])[]) => list.some(([one]) => one === id);
  for (const [id, one] of circuits.added)
    if (!isDevice(id, devices.added)) lines.push(`${one.name}: a fuse of its own, ${one.fuseAmps} A.`);
  for (const [id, one] of circuits.removed)
    if (!isDevice(id, devices.removed)) lines.push(`${one.name}: its fuse is gone.`);
  for (const { from, to } of circuits.both) {
    if (from.fuseAmps !== to.fuseAmps) lines.push(`${to.name}: fuse ${from.fuseAmps} A became ${to.fuseAmps} A.`);
    if (from.squareMm !== to.squareMm)
      lines.push(`${to.name}: wire ${readSize(from.squareMm, build)} became ${readSize(to.squareMm, build)}.`);
  }
  const wires = named(oldNet.wireById, newNet.wireById);
  if (wires.added.length + wires.removed.length > 0)
    lines.push(
      `${plural(wires.added.length, 'wire is', 'wires are')} new, ${plural(wires.removed.length, 'wire is', 'wires are')} gone.`,
    );
  if (old.power.ecuGround !== now.power.ecuGround)
    lines.push(
      `ECU power ground moved to ${now.power.ecuGround === 'head' ? 'the engine block' : 'battery negative'}.`,
    );
  for (const pin of now.ecu.pins) {
    const [from, to] = [old, now].map((plan) => groundWords(groundPins(plan), pin.id));
    if (old.ecu.id === now.ecu.id && from !== to) lines.push(`Ground ${pin.id}: ${from} became ${to}.`);
  }
  return lines;
}
