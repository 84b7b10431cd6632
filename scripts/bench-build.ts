import { catalog, entry } from '~/catalog';
import type { Build } from '~/core/build/schema';
import { isFixedPin, type EcuDefinition } from '~/core/ecu/ecu';
import { applyEdit, call } from '~/core/edits';
import { createBuild } from '~/core/edits/create';
import { netlist } from '~/core/netlist/netlist';

/** An ECU of `pins` pins made of the largest catalog ECU over and over, and `needs` needs upon it. */
export function largeBuild(needs: number, pins: number): Build {
  const base = catalog.ecus.find((one) => one.id === 'orrery-94')!;
  const plain = base.pins.filter((pin) => !isFixedPin(pin) && !pin.abilities[0].pair);
  const letters = 'ABCDEFGH';
  const share = Math.ceil(pins / letters.length);
  const made: EcuDefinition = {
    ...base,
    connectors: [...letters].map((id) => ({
      id,
      rows: [40, 40, 40].map((row) => Math.min(row, share)),
      maxSquareMm: 2.5,
      sealed: false,
    })),
    groups: [],
    pins: Array.from({ length: pins }, (_, i) => {
      const connector = letters[Math.floor(i / share)];
      const cavity = (i % share) + 1;
      // Kinds of pin mixed, so that a small ECU has some of each.
      return { ...plain[(i * 29) % plain.length], id: `${connector}${cavity}`, connector, cavity };
    }),
  };
  let build = createBuild({
    id: 'bench',
    now: '2026-01-01T00:00:00.000Z',
    name: 'bench',
    vehicle: '',
    engine: catalog.engines[0],
    ecu: made,
  });
  // Single needs in the shares a large engine has them; every one can be served.
  const mix = {
    'injector-high': 6,
    'coil-igniter': 6,
    'boost-solenoid': 4,
    'launch-button': 4,
    'oil-pressure': 5,
    'speed-hall': 2,
    'clt-ntc': 1,
  };
  const cycle = Object.entries(mix).flatMap(([id, share]) => Array.from({ length: share }, () => id));
  for (const id of Object.keys(mix)) {
    const result = applyEdit(build, 'addDevice', call('addDevice', { kind: entry(catalog.kinds, id) }).args);
    if (!result.ok) throw new Error(result.problem.sentence);
    build = result.value.build;
  }
  const models = new Map(build.devices.map((device) => [device.kindId, device]));
  const devices = Array.from({ length: needs }, (_, i) => {
    const device = models.get(cycle[i % cycle.length])!;
    return { ...device, id: `${device.kindId}-${i + 1}`, label: `${device.label} ${i + 1}` };
  });
  return { ...build, devices };
}

/** 250 devices on a 300-pin ECU, all but a few of their needs placed: open needs are what costs most. */
export function largePlaced(): Build {
  const bare = largeBuild(250, 300);
  // Supplies and grounds, which the solver's rows do without, on a connector of their own.
  const fixed = catalog.ecus.find((one) => one.id === 'orrery-94')!.pins.filter(isFixedPin);
  const connector = { id: 'P', rows: [fixed.length], maxSquareMm: 6, sealed: false };
  const build: Build = {
    ...bare,
    ecu: {
      ...bare.ecu,
      connectors: [...bare.ecu.connectors, connector],
      pins: [...bare.ecu.pins, ...fixed.map((pin, i) => ({ ...pin, id: `P${i + 1}`, connector: 'P', cavity: i + 1 }))],
    },
  };
  const placed = applyEdit(build, 'allotAll', call('allotAll', { keep: 'most' }).args);
  if (!placed.ok) throw new Error(placed.problem.sentence);
  const { assignments } = placed.value.build;
  const kept = netlist(build).needs.filter((need) => assignments[need.id] !== undefined);
  return {
    ...placed.value.build,
    name: 'Bench build',
    assignments: Object.fromEntries(kept.slice(0, 237).map((need) => [need.id, assignments[need.id]])),
  };
}
