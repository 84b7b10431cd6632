import { parseArgs } from 'node:util';
import type { Build } from '~/core/build/schema';
import { readFault, type Fault } from '~/core/circuit/faults';
import { voltsBetween, wireAmps } from '~/core/circuit/reading';
import { type CircuitState, circuitStates, stateWords } from '~/core/circuit/states';
import { solveCircuit } from '~/core/circuit/solve';
import { TEST_DUTY, meanVolts, pulsedOf } from '~/core/circuit/pulsed';
import { groundEnd, partId, type EndKey } from '~/core/ends/ends';
import { spiceDeck } from '~/core/formats/spice';
import { netlist, type Netlist } from '~/core/netlist/netlist';
import { fail } from '~/core/problem';
import { answer, textAnswer, withBuild, type Command } from './command';

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
        ({ id, name, upstream, source, flow, fuseAmps, fuseSetBy, rush, loads, dropVolts, limitVolts, worstLoad }) => ({
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

export const solve: Command = ([path, ...rest]) =>
  withBuild(path, (build) => {
    const { values } = parseArgs({
      args: [...rest],
      options: {
        state: { type: 'string', default: 'key-on' },
        drive: { type: 'string' },
        charge: { type: 'string', default: '1' },
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
        `--fault ${values.fault} names no fault of this build: write one as open:WIRE, resistive:WIRE@OHMS, short-to-ground:WIRE, crossed:WIRE&WIRE, poor-joint:JOINT@OHMS (battery-plus, battery-minus, strap, body), blown-fuse:FUSE, relay-stuck-open:RELAY, relay-winding-open:RELAY, not-driven:PIN, no-pull-up:PIN, device-open:DEVICE or device-shorted:DEVICE.`,
      );
    const charge = Number(values.charge);
    if (!(charge >= 0 && charge <= 1))
      return fail('usage', '--charge', '--charge is how full the battery is, from 0 to 1.');
    const solution = solveCircuit(build, net, state, fault, driven, charge);
    if (values.spice)
      return textAnswer(spiceDeck(solution.network, `${build.name}, ${stateWords[state]}`, groundEnd('battery')));
    const ends = [...net.nodeOf.keys()].sort();
    const volts = Object.fromEntries(ends.map((end) => [end, voltsBetween(solution, end, groundEnd('battery'))]));
    const amps = Object.fromEntries(wireAmps(solution, net));
    return answer({
      state,
      volts,
      amps,
      // The name it had once; scripts read it.
      approximateAmps: amps,
      closedRelays: [...solution.closedRelays],
      blownFuses: [...solution.blownFuses],
      settled: solution.settled,
      ...pulsedAnswer(build, net, state, driven, fault, volts),
    });
  });

/** Of outputs that their test pulses what a meter shows: the mean of what stands within a pulse and between two. */
function pulsedAnswer(
  build: Build,
  net: Netlist,
  state: CircuitState,
  driven: ReadonlySet<string> | null,
  fault: Fault | null,
  within: Readonly<Record<string, number | null>>,
): object {
  const pulsed = state === 'outputs-on' && driven ? pulsedOf(net, driven) : new Set<string>();
  if (pulsed.size === 0) return {};
  const between = solveCircuit(build, net, state, fault, new Set([...driven!].filter((pin) => !pulsed.has(pin))));
  const mean = Object.entries(within).map(([end, volts]) => [
    end,
    meanVolts(voltsBetween(between, end as EndKey, groundEnd('battery')), volts),
  ]);
  return { pulsed: [...pulsed], duty: TEST_DUTY, meanVolts: Object.fromEntries(mean) };
}
