import type { Build } from '../build/schema';
import type { CircuitState } from '../circuit/states';
import { stateWords } from '../circuit/states';
import { pulsedKinds } from '../circuit/pulsed';
import {
  BATTERY,
  ALTERNATOR_STUD,
  MINUS_POST,
  PLUS_POST,
  STARTER_STUD,
  ecuEnd,
  endType,
  fuseEnd,
  groundEnd,
  pinAt,
  readPart,
  relayEnd,
  type EndKey,
  type EndType,
} from '../ends/ends';
import { withId } from '../data/with-id';
import { hasRole } from '../devices/kind';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';
import { twinsOf } from '../netlist/twins';
import { triggerSensor } from '../trigger/fit';
import { teethPerTurn } from '../wheels/wheel';
import type { Cone } from './hypotheses';
import type { Symptom } from './symptoms';

export interface TraceTest {
  readonly id: string;
  readonly mode: 'volts' | 'ohms' | 'count' | 'answer';
  readonly state: CircuitState;
  readonly plus: EndKey;
  readonly minus: EndKey;
  readonly title: string;
  readonly how: string;
  readonly unit: string;
  /** Time to take it: access and unplugging (common practice). */
  readonly minutes: number;
}

const accessMinutes: Readonly<Record<EndType, number>> = {
  battery: 1,
  fuse: 1,
  relay: 2,
  device: 3,
  ecu: 4,
  ground: 2,
  key: 3,
  splice: 5,
  plug: 4,
  shield: 4,
  switch: 2,
  button: 2,
  resistor: 3,
  diode: 3,
  busbar: 1,
  tap: 2,
};

/** The state in which a symptom shows. */
export function stateOf(build: Build, net: Netlist, symptom: Symptom): CircuitState {
  if (symptom.type !== 'dead') return 'key-on';
  const kind = net.deviceOf.get(symptom.deviceId ?? '')?.kind;
  // No output works a starter that the key pulls in: it is looked at with the key held there.
  return kind && hasRole(kind, 'starter') && build.power.starting === 'key' ? 'start' : 'outputs-on';
}

/** Everything worth measuring for a symptom: volts along its runs, ohms through them, and what the eye can count. */
export function testsFor(build: Build, net: Netlist, symptom: Symptom, cone: Cone): TraceTest[] {
  const state = stateOf(build, net, symptom);
  const reference = groundEnd('battery');
  const pulsed =
    state === 'outputs-on' &&
    (net.needsOf.get(symptom.deviceId ?? '') ?? []).some(({ ask }) => pulsedKinds.has(ask.kind));
  const held =
    symptom.type === 'no-change'
      ? ', the switch held closed'
      : pulsed
        ? ', in short pulses: the meter shows their mean'
        : '';
  const tests: TraceTest[] = [];
  const minutes = (...ends: EndKey[]) => Math.max(...ends.map((end) => accessMinutes[endType(end)]));
  for (const end of cone.ends) {
    const type = endType(end);
    if (type === 'splice' || end === reference) continue;
    if (type !== 'ground')
      tests.push({
        id: `v|${state}|${end}`,
        mode: 'volts',
        state,
        plus: end,
        minus: reference,
        title: `Volts at ${labelOf(net, end)}`,
        how: `Black probe on battery negative, ${stateWords[state]}${held}.`,
        unit: 'V',
        minutes: minutes(end),
      });
  }
  for (const wire of cone.wires) {
    if ([wire.from, wire.to].some((end) => endType(end) === 'splice')) continue;
    tests.push({
      id: `r|${wire.id}`,
      mode: 'ohms',
      state: 'unplugged',
      plus: wire.from,
      minus: wire.to,
      title: `Ohms from ${labelOf(net, wire.from)} to ${labelOf(net, wire.to)}`,
      how: `Battery off, ECU unplugged${pulsed ? '' : held}.`,
      unit: 'Ω',
      minutes: minutes(wire.from, wire.to) + 2,
    });
  }
  for (const id of cone.parts) {
    const { kind, name } = readPart(id)!;
    const called = withId(net.parts, id)?.part.name ?? name;
    if (kind === 'relay')
      // A winding that is open is told from a contact that sticks by nothing else.
      tests.push({
        id: `r|${id}|winding`,
        mode: 'ohms',
        state: 'unplugged',
        plus: relayEnd(name, '86'),
        minus: relayEnd(name, '85'),
        title: `Ohms across 85 and 86 of the ${called} relay`,
        how: 'Battery off, ECU unplugged, probes on the winding.',
        unit: 'Ω',
        minutes: 3,
      });
    else
      tests.push({
        id: `r|${id}|body`,
        mode: 'ohms',
        state: 'unplugged',
        plus: fuseEnd(name, 2),
        minus: groundEnd('chassis'),
        title: `Ohms from the load side of the ${called} fuse to the body`,
        how: 'Battery off, ECU unplugged: what hangs there, or a short.',
        unit: 'Ω',
        minutes: 2,
      });
  }
  // What hangs on the same joint tells a branch from its trunk.
  for (const end of neighbours(net, cone))
    tests.push({
      id: `v|${state}|${end}`,
      mode: 'volts',
      state,
      plus: end,
      minus: reference,
      title: `Volts at ${labelOf(net, end)}, on the same joint`,
      how: `Black probe on battery negative, ${stateWords[state]}${held}.`,
      unit: 'V',
      minutes: minutes(end),
    });
  for (const [post, clamp] of [
    [PLUS_POST, BATTERY],
    [reference, MINUS_POST],
    [BATTERY, STARTER_STUD],
    ...(build.power.charging === 'none' ? [] : [[ALTERNATOR_STUD, BATTERY] as const]),
  ] as const)
    tests.push({
      id: `v|${state}|${post}|${clamp}`,
      mode: 'volts',
      state,
      plus: post,
      minus: clamp,
      title: `Volts from ${labelOf(net, post)} to ${post === PLUS_POST ? 'its clamp' : labelOf(net, clamp)}`,
      how: `One probe on the bare metal of each, ${stateWords[state]}${held}: a few millivolts at most.`,
      unit: 'V',
      minutes: 1,
    });
  for (const place of ['head', 'chassis'] as const)
    tests.push({
      id: `v|${state}|${groundEnd(place)}`,
      mode: 'volts',
      state,
      plus: groundEnd(place),
      minus: reference,
      title: `Volts from battery negative to the ${place === 'head' ? 'engine block' : 'body'}`,
      how: `Black probe on the battery’s minus clamp, ${stateWords[state]}${held}: a few millivolts at most.`,
      unit: 'V',
      minutes: 1,
    });
  const pins = cone.ends.filter((end) => pinAt(end) !== null);
  for (const [i, plus] of pins.entries())
    for (const minus of pins.slice(i + 1))
      tests.push({
        id: `r|${plus}|${minus}`,
        mode: 'ohms',
        state: 'unplugged',
        plus,
        minus,
        title: `Ohms between ${labelOf(net, plus)} and ${labelOf(net, minus)} at the ECU plug`,
        how: `Battery off, ECU unplugged, devices plugged in${pulsed ? '' : held}.`,
        unit: 'Ω',
        minutes: 4,
      });
  if (symptom.type === 'no-sync') tests.push(...triggerTests(build));
  const hasTwin = twinsOf(build.engine, net.devices).some((group) =>
    group.some(({ device }) => device.id === symptom.deviceId),
  );
  if (hasTwin)
    tests.push({
      id: `a|own-plug|${symptom.deviceId}`,
      mode: 'answer',
      state,
      plus: cone.seeds[0] ?? reference,
      minus: reference,
      title: 'Does its own output test work this part and no other?',
      how: 'Run the output test of this cylinder and watch which part answers.',
      unit: '',
      minutes: 2,
    });
  return [...new Map(tests.map((test) => [test.id, test])).values()];
}

/** A load or two on each joint of the cone that the cone itself does not reach. */
function neighbours(net: Netlist, cone: Cone): EndKey[] {
  const known = new Set(cone.ends);
  return cone.ends
    .filter((end) => endType(end) === 'splice')
    .flatMap((splice) =>
      (net.nodeOf.get(splice)?.ends ?? [])
        .filter((end) => endType(end) === 'device' && !known.has(end))
        .slice(0, MOST_NEIGHBOURS),
    );
}
const MOST_NEIGHBOURS = 2;

function triggerTests(build: Build): TraceTest[] {
  const sensor = triggerSensor(build, 'crank');
  const end = ecuEnd(build.ecu.pins[0]!.id);
  const ask = (id: string, mode: 'count' | 'answer', title: string, how: string, minutes: number): TraceTest => ({
    id,
    mode,
    state: 'cranking',
    plus: end,
    minus: groundEnd('battery'),
    title,
    how,
    unit: mode === 'count' ? 'teeth' : '',
    minutes,
  });
  return [
    ...(build.trigger.crankWheel
      ? [
          ask(
            'n|teeth',
            'count',
            'Teeth counted on the crank wheel',
            `Turn the crank by hand and count; the ECU is set to ${teethPerTurn(build.trigger.crankWheel)}.`,
            15,
          ),
        ]
      : []),
    ...(sensor?.sensor === 'vr'
      ? [
          ask(
            'a|swap-leads',
            'answer',
            'Does sync come with the two VR leads exchanged?',
            'Exchange them at the sensor plug, crank again.',
            10,
          ),
        ]
      : []),
    ask(
      'a|swap-edge',
      'answer',
      'Does sync come with the other edge chosen?',
      'Change the edge in the ECU, crank again.',
      3,
    ),
  ];
}
