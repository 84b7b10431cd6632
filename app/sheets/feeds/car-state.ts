import { useMemo, useState } from 'react';
import type { Build } from '~/core/build/schema';
import { drivenIn, meterVolts, solveCircuit, wireAmps, type CircuitState, type Solution } from '~/core/circuit/model';
import { BATTERY, groundEnd, type EndKey } from '~/core/ends/ends';
import { ecuVolts, standingDays } from '~/core/circuit/standing';
import { formatVolts, plural } from '~/core/units/format';
import type { Netlist } from '~/core/netlist/netlist';
import { useLater } from '../../build/context';

/** What the car is doing, as a person would say it. */
export const carStates = ['key-off', 'key-on', 'prime', 'cranking', 'running'] as const;
export type CarState = (typeof carStates)[number];

/** An output that can be driven by its test: a relay's winding, or a part of its own. */
export interface Drivable {
  readonly pinId: string;
  readonly name: string;
}

/** What is read at the plan in one state. */
export interface CarReading {
  readonly solution: Solution;
  readonly volts: (end: EndKey) => number | null;
  readonly amps: ReadonlyMap<string, number>;
  /** What leaves the battery, and its volts. */
  readonly total: number;
  readonly battery: number | null;
  /** What this state asks of the battery and the ECU, in words; empty where it asks nothing. */
  readonly note: string;
}

const drivable = (build: Build, net: Netlist): Drivable[] =>
  net.needs.flatMap((need) => {
    const pinId = build.assignments[need.id];
    const works = need.winding !== null || need.ask.kind === 'low-side' || need.ask.kind === 'high-side';
    return pinId !== undefined && works ? [{ pinId, name: need.label.replace(/ relay$/, '') }] : [];
  });

/** With the key on and an output driven by hand it is a test of that output. */
const solvedState = (state: CarState, driven: ReadonlySet<string>): CircuitState =>
  state === 'key-on' && driven.size > 0 ? 'outputs-on' : state;

/** What a state asks of the battery and the ECU. */
function noteOf(build: Build, solution: Solution, state: CarState, total: number): string {
  if (state === 'key-off') {
    const days = standingDays(build, total);
    return Number.isFinite(days)
      ? `; standing, half of ${build.power.batteryAh} Ah is gone in ${plural(Math.floor(days), 'day')}`
      : '';
  }
  const volts = state === 'cranking' ? ecuVolts(build, solution) : null;
  return volts === null ? '' : `; the ECU has ${formatVolts(volts)} and works from ${formatVolts(build.ecu.minVolts)}`;
}

function read(build: Build, net: Netlist, state: CarState, driven: ReadonlySet<string>): CarReading {
  const solution = solveCircuit(build, net, solvedState(state, driven), null, driven);
  const amps = wireAmps(solution, net);
  const minus = groundEnd('battery');
  const battery = meterVolts(solution, BATTERY, minus);
  const total = net.wires.reduce(
    (sum, { id, from, to }) => sum + (from === BATTERY ? amps.get(id)! : to === BATTERY ? -amps.get(id)! : 0),
    0,
  );
  return {
    note: noteOf(build, solution, state, total),
    solution,
    amps,
    total,
    battery,
    volts: (end) => (net.nodeOf.has(end) ? meterVolts(solution, end, minus) : null),
  };
}

/** The state the drawing is read in, chosen by the person; its figures follow an edit once that is drawn. */
export function useCarState() {
  const { build, net } = useLater();
  const [state, setState] = useState<CarState>('running');
  /** Outputs the person ticked, by the state they were ticked in. */
  const [ticked, setTicked] = useState<ReadonlyMap<CarState, ReadonlySet<string>>>(new Map());
  const outputs = useMemo(() => drivable(build, net), [build, net]);
  const driven = useMemo(
    () => ticked.get(state) ?? (state === 'key-off' || state === 'key-on' ? NONE : drivenIn(net, state)) ?? NONE,
    [ticked, state, net],
  );
  const reading = useMemo(() => read(build, net, state, driven), [build, net, state, driven]);
  const drive = (pinId: string, on: boolean) => {
    const next = new Set(driven);
    if (on) next.add(pinId);
    else next.delete(pinId);
    setTicked(new Map(ticked).set(state, next));
  };
  return { state, setState, outputs, driven, drive, reading };
}

const NONE: ReadonlySet<string> = new Set();
