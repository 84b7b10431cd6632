import { useCallback, useMemo, useState } from 'react';
import type { Build } from '~/core/build/schema';
import { starterAmps } from '~/core/circuit/battery';
import { charges, type Charge } from '~/core/circuit/figures';
import { drivable, readCar, type CarReading, type CarState, type Drivable } from '~/core/circuit/car';
import { drivenIn } from '~/core/circuit/scenario';
import { ecuVolts, standingDays } from '~/core/circuit/standing';
import { sameAsBefore } from '~/core/data/keep-same';
import { fuseStories, storyWords } from '~/core/circuit/fuse-fates';
import type { Netlist } from '~/core/netlist/netlist';
import { ALTERNATOR_AT_IDLE } from '~/core/power/total';
import { formatAmps, formatVolts, plural } from '~/core/units/format';
import { readQuantity } from '~/core/units/units';
import { useBuild } from '../../build/context';

/** What a state asks of the battery, the ECU and the fuses, in words; empty where it asks nothing. */
function noteOf(build: Build, net: Netlist, { solution, total, pulse }: CarReading, state: CarState): string {
  const notes: string[] = [];
  if (pulse !== null) notes.push(`the mean of a test in pulses, ${formatAmps(pulse)} within one`);
  if (state === 'key-off') {
    const days = standingDays(build, total);
    if (Number.isFinite(days))
      notes.push(`standing, half of ${build.power.batteryAh} Ah is gone in ${plural(Math.floor(days), 'day')}`);
  }
  const volts = state === 'cranking' ? ecuVolts(build, solution) : null;
  if (state === 'cranking')
    notes.push(
      `the starter takes about ${starterAmps(build)} A at ${readQuantity('temperature', build.site.ambientCelsius, build)}`,
    );
  if (volts !== null) notes.push(`the ECU has ${formatVolts(volts)} and works from ${formatVolts(build.ecu.minVolts)}`);
  const rated = build.power.alternatorAmps;
  if (state === 'running' && rated !== undefined && build.power.charging !== 'none')
    notes.push(`of ${rated} A the alternator is marked with, about ${formatAmps(ALTERNATOR_AT_IDLE * rated)} at idle`);
  for (const story of fuseStories(solution)) notes.push(storyWords(net, story));
  if (!solution.settled) notes.push('a relay never settles here');
  return notes.map((note) => `; ${note}`).join('');
}

/** The state the drawing is read in, chosen by the person; its figures are painted with the edit they follow from. */
export function useCarState() {
  // The very build of the wires: what is compiled of it serves everyone.
  const { build, net } = useBuild().derived;
  const [state, setState] = useState<CarState>('running');
  const [charge, setCharge] = useState<Charge>('full');
  /** Outputs the person ticked, by the state they were ticked in. */
  const [ticked, setTicked] = useState<ReadonlyMap<CarState, ReadonlySet<string>>>(new Map());
  const [sameOutputs] = useState(() => sameAsBefore<Drivable>(({ pinId }) => pinId));
  const outputs = useMemo(() => sameOutputs(drivable(build, net)), [sameOutputs, build, net]);
  const [sameUsual] = useState(() => sameAsBefore<string>((pin) => pin));
  /** What is on in such a state where nobody says otherwise. */
  const usual = useMemo(
    () =>
      sameUsual([
        ...(state === 'key-off' || state === 'accessory' || state === 'key-on' ? NONE : (drivenIn(net, state) ?? NONE)),
      ]),
    [sameUsual, state, net],
  );
  const driven = useMemo(() => ticked.get(state) ?? new Set(usual), [ticked, state, usual]);
  /** Switches of the plan that a person has thrown, by name. */
  const [thrown, setThrown] = useState<ReadonlySet<string>>(NONE);
  const switches = useMemo(
    () =>
      net.parts.flatMap(({ name, part }) =>
        part.kind === 'switch' ? [{ name, title: part.name, rests: part.resting }] : [],
      ),
    [net.parts],
  );
  const reading = useMemo(
    () => readCar(build, net, state, driven, charges[charge], thrown),
    [build, net, state, driven, charge, thrown],
  );
  const note = useMemo(() => noteOf(build, net, reading, state), [build, net, reading, state]);
  const tick = useCallback(
    (pins: Iterable<string>) => setTicked((before) => new Map(before).set(state, new Set(pins))),
    [state],
  );
  return {
    state,
    setState,
    charge,
    setCharge,
    outputs,
    usual,
    driven,
    tick,
    switches,
    thrown,
    setThrown,
    reading,
    note,
  };
}

const NONE: ReadonlySet<string> = new Set();
