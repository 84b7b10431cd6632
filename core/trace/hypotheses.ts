import { withId } from '../data/with-id';
import type { Build } from '../build/schema';
import { faultId, joints, type Fault, type Joint } from '../circuit/faults';
import { trait } from '../devices/kind';
import { pinsOfKind } from '../ecu/ecu';
import { groundPins } from '../netlist/ground-pins';
import { destinationOf } from '../build/destination';
import { wayTo, type Step } from '../power/flow';
import {
  ALTERNATOR_STUD,
  BATTERY,
  STARTER_STUD,
  deviceAt,
  deviceEnd,
  ecuEnd,
  endOf,
  endType,
  fuseEnd,
  groundEnd,
  partId,
  pinAt,
  readPart,
  relayEnd,
  type EndKey,
  type PartId,
} from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';
import { runOf } from '../netlist/run';
import { triggerSensor } from '../trigger/fit';
import { twinsOf } from '../netlist/twins';
import type { Symptom } from './symptoms';

export interface Hypothesis {
  readonly id: string;
  readonly fault: Fault;
  /** The same fault, less and more of it: how bad a contact is nobody knows before. Empty where it is one thing. */
  readonly degrees: readonly Fault[];
  readonly title: string;
  /** Place to look at. */
  readonly where: EndKey | null;
  /** Relative weight before any reading (common practice: fuses and grounds first). */
  readonly prior: number;
  /** True when the fault lies in the device or a setting, so that the symptom follows of itself. */
  readonly direct: boolean;
}

/** Everything a symptom can hang on: ends and wires of its supply, ground, signal and relay. */
export interface Cone {
  readonly seeds: readonly EndKey[];
  readonly ends: readonly EndKey[];
  readonly wires: readonly Wire[];
  /** Fuses and relays it passes. */
  readonly parts: readonly PartId[];
}

function seedsOf(build: Build, net: Netlist, symptom: Symptom): EndKey[] {
  const terminals = (deviceId: string) =>
    (net.deviceOf.get(deviceId)?.kind.terminals ?? []).map((terminal) => deviceEnd(deviceId, terminal.id));
  const grounds = groundPins(build).power.map((pin) => ecuEnd(pin.id));
  const ownFeeds = [...pinsOfKind(build.ecu, 'switched'), ...pinsOfKind(build.ecu, 'permanent')].map((pin) =>
    ecuEnd(pin.id),
  );
  if (symptom.type === 'ecu-dead') return [...ownFeeds, ...grounds];
  if (symptom.type === 'no-sync')
    return (['crank', 'cam'] as const).flatMap((shaft) => {
      const sensor = triggerSensor(build, shaft);
      return sensor ? terminals(sensor.device.id) : [];
    });
  return symptom.deviceId ? terminals(symptom.deviceId) : [];
}

export function coneOf(build: Build, net: Netlist, symptom: Symptom): Cone {
  const seeds = seedsOf(build, net, symptom);
  const queue = [...seeds];
  const seen = new Set<EndKey>();
  const ends = new Set<EndKey>();
  const wires = new Map<string, Wire>();
  const parts = new Set<PartId>();
  while (queue.length > 0) {
    const seed = queue.shift()!;
    if (seen.has(seed)) continue;
    seen.add(seed);
    const run = runOf(net, { type: 'end', end: seed });
    if (!run) continue;
    for (const wire of run.wires) wires.set(wire.id, wire);
    for (const hop of run.hops) {
      ends.add(hop.end);
      const ref = endOf(hop.end);
      if (ref.of !== 'part' || (ref.kind !== 'fuse' && ref.kind !== 'relay')) continue;
      parts.add(partId(ref.kind, ref.part));
      // A relay hangs on what pulls it in, and on what feeds that.
      if (ref.kind === 'relay')
        queue.push(...(['30', '85', '86', '87'] as const).map((port) => relayEnd(ref.part, port)));
    }
  }
  // The whole way from the source to what is fed: a run through a splice may end at another load of it.
  for (const end of [...ends]) for (const step of wayTo(net.power.flows, end)) follow(step);
  function follow({ from, to, link, part }: Step): void {
    ends.add(from);
    ends.add(to);
    if (part !== null && (endType(to) === 'fuse' || endType(to) === 'relay')) parts.add(part);
    if (link === null) return;
    const whole = net.wireById.get(link.id);
    for (const wire of whole ? [whole] : net.wires.filter(({ cutOf }) => cutOf === link.id)) {
      wires.set(wire.id, wire);
      ends.add(wire.from);
      ends.add(wire.to);
    }
  }
  return { seeds, ends: [...ends], wires: [...wires.values()], parts: [...parts] };
}

/** How bad a contact may be, ohms: from one that warms to one that hardly holds. Between two of them readings are drawn straight. */
const CONTACT_SCALE = [0.05, 0.1, 0.2, 0.4, 0.7, 1.2, 2, 4, 10, 40];
/** The same of a bolted joint that carries everything. */
const JOINT_SCALE = [0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.4, 0.8, 1.6, 4];
const jointWords: Readonly<Record<Joint, string>> = {
  'battery-plus': 'Battery clamp corroded or loose, plus',
  'battery-minus': 'Battery clamp corroded or loose, minus',
  strap: 'Engine strap loose or corroded',
  body: 'Battery to body: strap or bolt loose or corroded',
  'starter-cable': 'Cable of the starter, or a ring of it, loose or corroded',
  'alternator-cable': 'Cable of the alternator, or a ring of it, loose or corroded',
};

/** A wire that no fuse protects is not found shorted by a meter: it has burnt. */
const BURNT = 0.01;

function wireHypotheses(net: Netlist, wire: Wire): Hypothesis[] {
  const title = `${labelOf(net, wire.from)} to ${labelOf(net, wire.to)}`;
  const ground = wire.signal === 'ground';
  const bare = net.power.sizes.links.get(wire.id)?.fuse === null;
  const hypothesis = (fault: Fault, words: string, prior: number): Hypothesis => ({
    id: faultId(fault),
    fault,
    title: words,
    where: wire.to,
    prior,
    direct: false,
    degrees: fault.type === 'resistive' ? CONTACT_SCALE.map((ohms) => ({ ...fault, ohms })) : [],
  });
  return [
    hypothesis(
      { type: 'open', wireId: wire.id },
      ground ? `Ground missing: ${title}` : `Wire open: ${title}`,
      ground ? 2 : 1,
    ),
    hypothesis({ type: 'resistive', wireId: wire.id, ohms: 10 }, `Bad contact: ${title}`, ground ? 1 : 0.5),
    ...(ground
      ? []
      : [
          hypothesis({ type: 'short-to-ground', wireId: wire.id }, `Shorted to the body: ${title}`, bare ? BURNT : 0.3),
        ]),
  ];
}

/** Signal wires of devices whose plugs fit each other: each pair may be crossed. */
function crossedHypotheses(build: Build, net: Netlist, deviceId: string): Hypothesis[] {
  const mine = net.deviceOf.get(deviceId);
  const twins = twinsOf(build.engine, net.devices).find((group) => group.some(({ device }) => device.id === deviceId));
  if (!mine || !twins) return [];
  const signal = (id: string) => net.wires.find((wire) => wire.needId !== null && wire.deviceId === id);
  const own = signal(deviceId);
  return twins.flatMap(({ device }): Hypothesis[] => {
    const other = signal(device.id);
    if (device.id === deviceId || !own || !other) return [];
    const fault: Fault = { type: 'crossed', wireIds: [own.id, other.id] };
    const labelled = device.labelled && mine.device.labelled;
    return [
      {
        id: faultId(fault),
        fault,
        title: `Plugs crossed: ${mine.device.label} and ${device.label}`,
        where: other.to,
        degrees: [],
        prior: labelled ? 0.2 : 1,
        direct: true,
      },
    ];
  });
}

/** Other parts on the ECU's 5 V, where one of these hangs on it too: a short in any of them takes the volts of all. */
function fiveVoltNeighbours(net: Netlist, ids: readonly string[]): Netlist['devices'] {
  const onFive = net.devices.filter(({ device, kind }) =>
    kind.terminals.some((terminal) => destinationOf(device, terminal).to === 'supply-5v'),
  );
  return onFive.some(({ device }) => ids.includes(device.id))
    ? onFive.filter(({ device }) => !ids.includes(device.id))
    : [];
}

/** Every fault worth considering for a symptom, with its prior. */
export function hypothesesFor(build: Build, net: Netlist, symptom: Symptom, cone: Cone): Hypothesis[] {
  const found: Hypothesis[] = cone.wires.flatMap((wire) => wireHypotheses(net, wire));
  const add = (fault: Fault, title: string, where: EndKey | null, prior: number, direct = false) =>
    found.push({ id: faultId(fault), fault, degrees: [], title, where, prior, direct });
  // What every current of the car runs through: measured first, and forgotten first.
  for (const joint of joints)
    found.push({
      id: `poor-joint:${joint}`,
      fault: { type: 'poor-joint', joint, ohms: JOINT_SCALE[4]! },
      degrees: JOINT_SCALE.map((ohms) => ({ type: 'poor-joint', joint, ohms })),
      title: jointWords[joint],
      where:
        joint === 'battery-plus'
          ? BATTERY
          : joint === 'starter-cable'
            ? STARTER_STUD
            : joint === 'alternator-cable'
              ? ALTERNATOR_STUD
              : groundEnd(joint === 'strap' ? 'head' : joint === 'body' ? 'chassis' : 'battery'),
      prior: 0.8,
      direct: false,
    });
  for (const id of cone.parts) {
    const { kind, name: circuitId } = readPart(id)!;
    const called = withId(net.parts, id)?.part.name ?? circuitId;
    if (kind === 'fuse') {
      const amps = withId(net.circuits, circuitId)?.fuseAmps;
      add({ type: 'blown-fuse', circuitId }, `${called} fuse blown, ${amps} A`, fuseEnd(circuitId, 2), 3);
      continue;
    }
    add(
      { type: 'relay-stuck-open', circuitId },
      `${called} relay: contact does not close`,
      relayEnd(circuitId, '87'),
      0.8,
    );
    add({ type: 'relay-winding-open', circuitId }, `${called} relay: winding open`, relayEnd(circuitId, '86'), 0.4);
  }
  for (const end of cone.ends) {
    const pinId = pinAt(end);
    if (pinId === null) continue;
    const cavity = net.cavityOf.get(pinId);
    const need = withId(net.needs, cavity?.needId);
    if (!need) continue;
    const drives = ['injector', 'low-side', 'ignition-logic', 'ignition-driver', 'half-bridge'].includes(need.ask.kind);
    if (drives)
      add(
        { type: 'not-driven', pinId },
        `${pinId} is not driven: function not set, or an interlock not satisfied`,
        end,
        2,
      );
    if (need.ask.pullUp || need.ask.kind === 'hall')
      add({ type: 'no-pull-up', pinId }, `Pull-up at ${pinId} missing or turned off`, end, 1);
  }
  const devices = new Set(cone.seeds.flatMap((end) => deviceAt(end) ?? []));
  for (const deviceId of devices) {
    const { device } = net.deviceOf.get(deviceId)!;
    add(
      { type: 'device-open', deviceId },
      `${device.label} itself is open`,
      cone.seeds.find((end) => deviceAt(end) === deviceId)!,
      0.8,
      true,
    );
    add(
      { type: 'device-shorted', deviceId },
      `${device.label} itself is shorted`,
      cone.seeds.find((end) => deviceAt(end) === deviceId)!,
      0.3,
      true,
    );
    found.push(...crossedHypotheses(build, net, deviceId));
  }
  for (const { device } of fiveVoltNeighbours(net, [...devices]))
    add(
      { type: 'supply-shorted', deviceId: device.id },
      `5 V pulled down by ${device.label}: shorted inside`,
      deviceEnd(device.id, net.deviceOf.get(device.id)!.kind.terminals[0]!.id),
      0.2,
    );
  if (symptom.type === 'no-sync') {
    const crank = triggerSensor(build, 'crank');
    add(
      { type: 'setting', setting: 'wrong-wheel' },
      'The ECU is set to another wheel than the one fitted',
      null,
      3,
      true,
    );
    if (crank && trait(crank.kind, 'trigger')?.sensor === 'vr')
      add(
        { type: 'setting', setting: 'leads-swapped' },
        'VR leads swapped: the zero crossing used is the wrong one',
        null,
        crank.device.terminalsConfirmed ? 0.7 : 2,
        true,
      );
    add({ type: 'setting', setting: 'wrong-edge' }, 'Trigger edge set the wrong way', null, 1, true);
  }
  return [...new Map(found.map((one) => [one.id, one])).values()];
}
