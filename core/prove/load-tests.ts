import type { Build } from '../build/schema';
import { strapOhms } from '../circuit/battery';
import { parts } from '../circuit/figures';
import { hasRole, trait } from '../devices/kind';
import { deviceAt, endOf, groundEnd, portOf, type EndKey } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';
import { endToEndOhms } from '../netlist/wires';
import { LOADED_CELSIUS } from '../power/sizes';
import { COPPER_PER_KELVIN } from '../wire/wire';
import type { ProveTest } from './prove-test';

/*
 * Tests under load: an ohmmeter tells milliohms from nothing no better than its leads, so a circuit of some amperes is proved by the
 * volts it loses while it carries them. What works by itself is switched on; what works in pulses gives its place to a lamp.
 */

/** From so many amperes on a circuit has a test under load (common practice). */
export const LOADED_FROM_AMPS = 3;
/** A bulb in the place of a load, at the volts of a battery at rest: of 55 W, and of 21 W where the load is small (common practice). */
const HEADLAMP = { amps: 4.4, words: 'a headlamp bulb of 55 W' };
const INDICATOR = { amps: 1.7, words: 'an indicator bulb of 21 W' };
/** What a meter and hands add, volts. */
const READ_VOLTS = 0.03;
/** A reading under half as much again is right. */
const TIMES = 1.5;
/** What of the ohms of warm copper is there cold. */
const COLD = 1 / (1 + COPPER_PER_KELVIN * (LOADED_CELSIUS - 20));

const limitOf = (expected: number, most: number): number =>
  Math.round(Math.max(expected + READ_VOLTS, Math.min(most, expected * TIMES + READ_VOLTS)) * 1000) / 1000;

/** Of each circuit that carries some amperes: the way out to its worst load, and the way back from it. */
export function loadTests(build: Build, net: Netlist): ProveTest[] {
  const { sizes, flows } = net.power;
  return net.circuits.flatMap((circuit): ProveTest[] => {
    if (circuit.loadAmps < LOADED_FROM_AMPS || circuit.source === 'nothing') return [];
    const own = new Set(circuit.loads.map(({ end }) => end));
    const drop = sizes.drops
      .filter(({ draw }) => own.has(draw.end) && deviceAt(draw.end) !== null)
      .reduce<(typeof sizes.drops)[number] | null>((most, one) => (most && most.volts >= one.volts ? most : one), null);
    const [first] = drop?.hops ?? [];
    const kind = drop && net.deviceOf.get(deviceAt(drop.draw.end) ?? '')?.kind;
    if (!drop || !first || !kind || hasRole(kind, 'starter')) return [];
    const load = drop.draw.load!;
    const pulsed = trait(kind, 'coil') !== null || trait(kind, 'injector') !== null || trait(kind, 'igniter') !== null;
    // What is plugged into the ECU as well is not switched on by hand: a lamp stands in for it too.
    const lamp = pulsed ? HEADLAMP : load.amps < LOADED_FROM_AMPS ? INDICATOR : null;
    const amps = lamp?.amps ?? load.amps;
    const out = drop.hops.reduce((sum, { step, volts, metres, voltsPerMetre }) => {
      const flow = (step.link ? flows.through.get(step.link.id) : flows.at.get(step.to))?.rms ?? 0;
      // A plan's figures are of warm copper; contacts, fuses and relays stay as they are.
      const copper = metres * voltsPerMetre;
      return flow > 0 ? sum + ((volts - copper + copper * COLD) / flow) * amps : sum;
    }, 0);
    const back = returnOf(build, net, drop.draw.end);
    const how = lamp
      ? `Key on, its relay pulled in. ${load.name} unplugged, ${lamp.words} from the feed in its plug to ${back !== null ? 'the ground beside it' : 'battery negative'}.`
      : `Key on, ${load.name} running by its output’s test, everything else off.`;
    const base = (hold: EndKey, touch: EndKey, expected: number, most: number): ProveTest => ({
      id: `d|${hold}|${touch}`,
      kind: 'load',
      hold,
      touch,
      title: `${labelOf(net, hold)} to ${labelOf(net, touch)} under load`,
      wireIds: [],
      unit: 'volts',
      expected,
      limit: limitOf(expected, lamp ? Infinity : most),
      load: { amps, how },
    });
    const tests = [base(first.step.from, drop.draw.end, out, circuit.limitVolts)];
    if (back) tests.push(base(back.from, groundEnd('battery'), back.ohms * amps, load.groundVolts));
    return tests;
  });
}

/** The ground terminal of the device a feed ends at, and the ohms from there to battery negative: its wires, then strap or body. */
function returnOf(build: Build, net: Netlist, fed: EndKey): { readonly from: EndKey; readonly ohms: number } | null {
  const device = deviceAt(fed);
  const wire = net.wires.find(
    ({ signal, from, to }) =>
      signal === 'ground' && [from, to].some((end) => deviceAt(end) === device && portOf(end) !== ''),
  );
  if (!wire) return null;
  const from = deviceAt(wire.from) === device ? wire.from : wire.to;
  const seen = new Set([from]);
  let [at, ohms] = [from, 0];
  for (;;) {
    const ref = endOf(at);
    if (ref.of === 'part' && ref.kind === 'ground') {
      const own = net.parts.find(({ name, part }) => part.kind === 'ground' && name === ref.part)?.part;
      const place = own?.kind === 'ground' ? (own.on === 'engine' ? 'head' : 'chassis') : ref.part;
      const joint = place === 'head' ? strapOhms(build) : place === 'chassis' ? parts.bodyToBattery.value : 0;
      return { from, ohms: ohms + joint };
    }
    const next = (net.wiresAt.get(at) ?? []).find(
      (one) => one.signal === 'ground' && !seen.has(one.from === at ? one.to : one.from),
    );
    if (!next) return null;
    at = next.from === at ? next.to : next.from;
    seen.add(at);
    ohms += endToEndOhms(next);
  }
}
