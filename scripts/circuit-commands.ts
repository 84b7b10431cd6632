import { parseArgs } from 'node:util';
import { compile } from '~/core/circuit/compile';
import { joints, readFault, type Fault } from '~/core/circuit/faults';
import { fuseStories } from '~/core/circuit/fuse-fates';
import type { CircuitIR } from '~/core/circuit/ir';
import { scenarioOf, type Scenario } from '~/core/circuit/scenario';
import { readVolts, voltsBetween, wireAmps } from '~/core/circuit/reading';
import { circuitStates, stateWords } from '~/core/circuit/states';
import { solveIn } from '~/core/circuit/solve';
import { TEST_DUTY, pulsedOf } from '~/core/circuit/pulsed';
import { solveAsShown } from '~/core/circuit/pulses';
import {
  ALTERNATOR_CASE,
  ALTERNATOR_STUD,
  BATTERY,
  MINUS_POST,
  PLUS_POST,
  STARTER_STUD,
  groundEnd,
  partId,
  type EndKey,
} from '~/core/ends/ends';
import { spiceDeck } from '~/core/formats/spice';
import { netlist, type Netlist } from '~/core/netlist/netlist';
import { fail } from '~/core/problem';
import { answer, joinNegative, textAnswer, withBuild, type Command } from './command';

/** Whether a fault is at something this build has. */
function isIn(net: Netlist, fault: Fault): boolean {
  if ('wireId' in fault) return net.wireById.has(fault.wireId);
  if (fault.type === 'crossed') return fault.wireIds.every((id) => net.wireById.has(id));
  if ('pinId' in fault) return net.cavityOf.has(fault.pinId);
  if ('deviceId' in fault) return net.deviceOf.has(fault.deviceId);
  if (fault.type === 'setting') return false;
  if (fault.type === 'poor-joint') return true;
  const kind = fault.type === 'blown-fuse' ? 'fuse' : 'relay';
  return net.parts.some(({ id }) => id === partId(kind, fault.circuitId));
}

export const feeds: Command = ([path]) =>
  withBuild(path, (build) => {
    const { power } = netlist(build);
    const { plan, sizes, circuits, unfed } = power;
    return answer({
      parts: [...plan.parts.values()].map(({ id, part, proposed }) => ({
        id,
        ...part,
        ...(part.kind === 'relay' ? { setBy: sizes.relays.get(id)?.setBy } : {}),
        ...(part.kind === 'fuse' ? { amps: sizes.fuses.get(id)?.amps } : {}),
        proposed,
      })),
      links: plan.links.map(({ id, from, to, metres, proposed }) => {
        const sized = sizes.links.get(id);
        return {
          id,
          from,
          to,
          metres,
          squareMm: sized?.squareMm ?? null,
          carriesAmps: sized?.carriesAmps ?? null,
          amps: sized?.flow ?? null,
          setBy: sized?.setBy ?? null,
          fuse: sized?.fuse ?? null,
          proposed,
        };
      }),
      sections: circuits.map(
        ({
          id,
          name,
          upstream,
          source,
          flow,
          fuseAmps,
          fuseSetBy,
          rush,
          loads,
          dropVolts,
          limitVolts,
          worstLoad,
          back,
        }) => ({
          id,
          name,
          source,
          upstream,
          amps: flow,
          fuseAmps,
          setBy: fuseSetBy,
          inrush: rush && { amps: rush.amps, seconds: rush.seconds },
          loads: loads.map(({ end, name: load, amps }) => ({ end, name: load, amps })),
          dropVolts,
          limitVolts,
          worstLoad,
          back: back && { name: back.name, volts: back.volts, limitVolts: back.limitVolts, hops: back.hops },
        }),
      ),
      drops: sizes.drops.map(({ draw, volts, limitVolts, hops }) => ({
        end: draw.end,
        name: draw.name,
        volts,
        limitVolts,
        hops: hops.map(({ step, volts: lost }) => ({ from: step.from, to: step.to, volts: lost })),
      })),
      unfed: unfed.map(({ end, name }) => ({ end, name })),
    });
  });

/** Places of the car that no wire of the loom need land on: posts, studs, block and body. */
const places = [
  PLUS_POST,
  MINUS_POST,
  BATTERY,
  STARTER_STUD,
  ALTERNATOR_STUD,
  ALTERNATOR_CASE,
  groundEnd('head'),
  groundEnd('chassis'),
];

/** What --celsius and --kpa may be: air, coolant and oil, and pressures that manifold sensors know. */
const LEAST_CELSIUS = -50;
const MOST_CELSIUS = 200;
const LEAST_KPA = 5;
const MOST_KPA = 1000;

export const solve: Command = ([path, ...rest]) =>
  withBuild(path, (build) => {
    const { values } = parseArgs({
      args: joinNegative(rest),
      options: {
        state: { type: 'string', default: 'key-on' },
        drive: { type: 'string' },
        charge: { type: 'string', default: '1' },
        throw: { type: 'string' },
        celsius: { type: 'string' },
        kpa: { type: 'string' },
        'off-plug': { type: 'boolean', default: false },
        fault: { type: 'string' },
        spice: { type: 'boolean', default: false },
      },
    });
    const state = circuitStates.find((one) => one === values.state);
    if (!state) return fail('usage', '--state', `--state must be one of ${circuitStates.join(', ')}.`);
    const net = netlist(build);
    const driven = values.drive === undefined ? null : new Set(values.drive.split(',').filter((pin) => pin !== ''));
    const stranger = [...(driven ?? [])].find((id) => !build.ecu.pins.some((pin) => pin.id === id));
    if (stranger !== undefined) return fail('usage', '--drive', `${build.ecu.model} has no cavity ${stranger}.`);
    const fault = values.fault === undefined ? null : readFault(values.fault);
    const missing = values.fault !== undefined && (fault === null || !isIn(net, fault));
    if (missing)
      return fail(
        'usage',
        '--fault',
        `--fault ${values.fault} names no fault of this build: write one as open:WIRE, resistive:WIRE@OHMS, short-to-ground:WIRE, crossed:WIRE&WIRE, poor-joint:JOINT@OHMS (${joints.join(', ')}), blown-fuse:FUSE, relay-stuck-open:RELAY, relay-winding-open:RELAY, not-driven:PIN, no-pull-up:PIN, device-open:DEVICE, device-shorted:DEVICE or supply-shorted:DEVICE.`,
      );
    const charge = Number(values.charge);
    if (!(charge >= 0 && charge <= 1))
      return fail('usage', '--charge', '--charge is how full the battery is, from 0 to 1.');
    const air = (name: 'celsius' | 'kpa') => (values[name] === undefined ? null : Number(values[name]));
    const [celsius, kpa] = [air('celsius'), air('kpa')];
    if (celsius !== null && !(celsius >= LEAST_CELSIUS && celsius <= MOST_CELSIUS))
      return fail(
        'usage',
        '--celsius',
        `--celsius is what sensors stand in, from ${LEAST_CELSIUS} to ${MOST_CELSIUS}.`,
      );
    if (kpa !== null && !(kpa >= LEAST_KPA && kpa <= MOST_KPA))
      return fail('usage', '--kpa', `--kpa is the pressure at absolute sensors, from ${LEAST_KPA} to ${MOST_KPA}.`);
    const thrown = new Set((values.throw ?? '').split(',').filter((name) => name !== ''));
    const noSwitch = [...thrown].find(
      (name) => !net.parts.some(({ part, name: own }) => part.kind === 'switch' && own === name),
    );
    if (noSwitch !== undefined)
      return fail('usage', '--throw', `--throw ${noSwitch} names no switch of the feeds of this build.`);
    const usual = scenarioOf(build, net, state, { driven, charge, thrown, celsius, kpa });
    const scenario = values['off-plug'] ? { ...usual, plugged: false } : usual;
    const ir = compile(build, net);
    const solution = solveIn(ir, scenario, fault);
    if (values.spice)
      return textAnswer(spiceDeck(solution.network, `${build.name}, ${stateWords[state]}`, groundEnd('battery')));
    const ends = [...net.nodeOf.keys()].sort();
    const volts = Object.fromEntries(ends.map((end) => [end, voltsBetween(solution, end, groundEnd('battery'))]));
    const strays = Object.fromEntries(
      ends.map((end) => [end, readVolts(solution, end, groundEnd('battery'))?.strays ?? null]),
    );
    const amps = Object.fromEntries(wireAmps(solution, net));
    return answer({
      state,
      volts,
      strays,
      amps,
      // The name it had once; scripts read it.
      approximateAmps: amps,
      closedRelays: [...solution.closedRelays],
      blownFuses: [...solution.blownFuses],
      fuses: fuseStories(solution).map(({ name, rating, amps: through, fate }) => ({
        name,
        rating,
        amps: through,
        ...fate,
      })),
      places: Object.fromEntries(
        places.flatMap((end) => {
          const at = voltsBetween(solution, end, groundEnd('battery'));
          return at === null ? [] : [[end, at]];
        }),
      ),
      settled: solution.settled,
      residualAmps: solution.residual,
      conditioning: solution.conditioning,
      ...pulsedAnswer(net, ir, scenario, fault, volts),
    });
  });

/** Of outputs that their test pulses what a meter shows: the mean of what stands within a pulse and between two. */
function pulsedAnswer(
  net: Netlist,
  ir: CircuitIR,
  scenario: Scenario,
  fault: Fault | null,
  volts: Readonly<Record<string, number | null>>,
): object {
  const { shown, within } = solveAsShown(net, ir, scenario, fault);
  if (within === null) return {};
  return {
    pulsed: [...pulsedOf(net, scenario.driven)],
    duty: TEST_DUTY,
    meanVolts: Object.fromEntries(
      Object.keys(volts).map((end) => [end, voltsBetween(shown, end as EndKey, groundEnd('battery'))]),
    ),
  };
}
