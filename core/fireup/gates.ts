import type { Build } from '../build/schema';
import { hasRole } from '../devices/kind';
import { pinsOfKind } from '../ecu/ecu';
import { crankedVolts } from '../circuit/battery';
import { meterVolts } from '../circuit/reading';
import { scenarioOf } from '../circuit/scenario';
import { solveCircuit, solveIn, type Solution } from '../circuit/solve';
import { ecuEnd, groundEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import type { Progress } from '../prove/verdict';
import { checkFacts, offsetConfirmed, stands } from '../prove/evidence';
import type { Finding } from '../rules/rule';
import { offsetCycle, offsetWords } from '../trigger/offset-words';
import { CRANKING_RPM } from '../trigger/speed';
import { pulseHertz } from '../wheels/wheel';
import { plural } from '../units/format';
import {
  auto,
  confirm,
  insideChecks,
  outputChecks,
  reading,
  sensorChecks,
  voltsCheck,
  type Draft,
  type GateCheck,
} from './checks';
import { busOhmsChecks, busVoltsChecks } from './buses';
import { bankChecks, haltChecks, holdChecks, switchChecks } from './switches';
import { gateOfFinding, namesOf, shutBy, standingOf, wrongOf } from './findings';

export interface Gate {
  readonly id: string;
  readonly title: string;
  readonly aim: string;
  readonly cautions: readonly string[];
  readonly checks: readonly GateCheck[];
  readonly blockers: readonly string[];
  readonly status: 'passed' | 'open' | 'shut';
}

interface GateDraft {
  readonly id: string;
  readonly title: string;
  readonly aim: string;
  readonly cautions: readonly string[];
  readonly checks: readonly Draft[];
}

function drafts(
  build: Build,
  net: Netlist,
  progress: Progress,
  findings: readonly Finding[],
  keyOn: Solution,
): GateDraft[] {
  const stops = standingOf(findings, 'stop');
  const wrong = wrongOf(findings);
  const at = (end: EndKey) => meterVolts(keyOn, end, groundEnd('battery'));
  const pin = (kind: 'permanent' | 'switched' | 'supply-5v') => pinsOfKind(build.ecu, kind);
  // What is read before the key is turned is told so.
  const off = pin('permanent').length > 0 ? solveIn(keyOn.ir, scenarioOf(build, net, 'key-off')) : null;
  const driveByWire = net.devices.some(({ kind }) => hasRole(kind, 'pedal'));
  const { crankWheel } = build.trigger;
  return [
    {
      id: 'bench',
      title: 'Bench done',
      aim: 'The loom is what the plan says.',
      cautions: [
        'Battery disconnected before any pin is moved.',
        'Airbag circuits are never probed, cut or tapped. Stop, and a licensed workshop.',
      ],
      checks: [
        auto(
          'wires',
          `${progress.proved.size} of ${plural(progress.wires, 'wire')} proved`,
          progress.proved.size === progress.wires,
          'Sheet 6 lists what is left.',
        ),
        auto(
          'readings',
          'No reading stands wrong',
          wrong === 0,
          `${plural(wrong, 'reading')} on sheet 6 not right: mend the wire and read it again, or set the finding aside.`,
        ),
        auto(
          'stops',
          'No finding says stop',
          stops.length === 0,
          `${plural(stops.length, 'finding')} of severity stop: ${namesOf(stops)}.`,
        ),
        confirm('locks', 'Every terminal pulled, every lock closed, every empty cavity plugged'),
        confirm('route', 'Loom clear of exhaust, belts and sharp edges, and tied'),
      ],
    },
    {
      id: 'battery',
      title: 'Battery on',
      aim: 'Power where it belongs and nowhere else.',
      cautions: [
        'Coils unplugged: a wrong dwell edge or a reversed feed overheats them at once.',
        'Battery in the cabin vented and fastened.',
      ],
      checks: [
        ...busOhmsChecks(build),
        confirm('coils-off', 'All coils and injectors unplugged'),
        reading(
          'drain',
          'Current with the key off, in series with the battery',
          'A',
          0,
          0.08,
          'More than 0.08 A: pull fuses one by one until it falls.',
        ),
        ...pin('permanent').flatMap((one) =>
          voltsCheck(
            `permanent-${one.id}`,
            `Permanent feed at ${one.id}`,
            off && meterVolts(off, ecuEnd(one.id), groundEnd('battery')),
            0.5,
            'With the key off.',
          ),
        ),
      ],
    },
    {
      id: 'key',
      title: 'Key on',
      aim: 'The ECU wakes and talks.',
      cautions: ['Late in the day is no time for power: leave it until the morning, with fresh eyes.'],
      checks: [
        ...pin('switched').flatMap((one) =>
          voltsCheck(
            `switched-${one.id}`,
            `Switched feed at ${one.id}`,
            at(ecuEnd(one.id)),
            0.5,
            'Under load, with the ECU plugged in.',
          ),
        ),
        ...pin('supply-5v')
          .filter((one) => net.nodeOf.has(ecuEnd(one.id)))
          .flatMap((one) =>
            voltsCheck(
              `five-${one.id}`,
              `5 V supply at ${one.id}`,
              at(ecuEnd(one.id)),
              0.1,
              'Low: a sensor shorts it. Unplug one after the other.',
            ),
          ),
        ...busVoltsChecks(build),
        confirm('talks', 'The tuning computer talks to the ECU; only one tool is connected'),
      ],
    },
    {
      id: 'sensors',
      title: 'Sensors sane',
      aim: 'Every sensor reads what this place and weather say it must.',
      cautions: driveByWire ? ['Drive-by-wire: first motion with hands clear and the plausibility checks active.'] : [],
      checks: [
        ...sensorChecks(build, net, at),
        ...insideChecks(build, net),
        ...switchChecks(build, net, at),
        ...(driveByWire
          ? [confirm('pedal', 'Pedal and throttle tracks agree over the whole travel; no fault is stored')]
          : []),
      ],
    },
    {
      id: 'outputs',
      title: 'Outputs tested',
      aim: 'Each output moves its own part, by the output order of this ECU.',
      cautions: [
        'No spark tests near fuel vapour.',
        'Moving belts and fans: hands, leads and sleeves clear.',
        'Ignition secondary voltage can stop a heart: never hold a lead.',
      ],
      checks: outputChecks(build, net),
    },
    {
      id: 'cranking',
      title: 'Cranking in sync',
      aim: 'The ECU knows its angle, every turn.',
      cautions: [
        'Out of gear, wheels chocked. On stands, never on a jack.',
        'Fuel pump fuse out, injectors unplugged, spark plugs out.',
        'Safety switches (clutch, neutral, stand, tilt) are wired, never defeated.',
      ],
      checks: [
        reading(
          'rpm',
          'Speed the ECU shows',
          'rpm',
          120,
          450,
          crankWheel
            ? `At ${CRANKING_RPM} rpm the crank signal is ${pulseHertz(crankWheel, CRANKING_RPM).toFixed(0)} Hz.`
            : '',
        ),
        reading(
          'losses',
          'Sync losses counted over ten turns',
          'losses',
          0,
          0,
          'The first and last turn do not count.',
        ),
        reading(
          'volts',
          'Battery while cranking',
          'V',
          Math.max(9, build.ecu.minVolts),
          12.6,
          `About ${crankedVolts(build).toFixed(1)} V are usual of a full battery of ${build.power.batteryAh} Ah here. This ECU holds to ${build.ecu.minVolts} V.`,
        ),
        confirm('oil', 'Oil pressure rises'),
        ...holdChecks(build, net),
      ],
    },
    {
      id: 'timing',
      title: 'Timing read',
      aim: 'The light agrees with the ECU.',
      cautions: ['Light, leads and hair clear of belts and fan.', 'Fuel still off.'],
      checks: [
        auto(
          'light',
          `Offset ${offsetWords(build)} of ${offsetCycle(build)}° seen with the light`,
          offsetConfirmed(build),
          `Lock the timing at ${build.trigger.lockDegrees}°, crank, read the mark, and enter it below.`,
        ),
        confirm('stroke', 'Cylinder 1 is on compression when its coil fires'),
      ],
    },
    {
      id: 'first-fire',
      title: 'First fire',
      aim: 'It runs, and you know it is safe to let it.',
      cautions: [
        'Fuel under pressure: extinguisher at hand, no leak at the rail before cranking.',
        'Exhaust gas indoors kills: doors open, extraction on.',
        'Emission, noise and roadworthiness rules are local; licensed practice decides.',
      ],
      checks: [
        confirm('leaks', 'Fuel pressure up, every joint dry'),
        confirm('extinguisher', 'Extinguisher within reach, a second person at the key'),
        reading('oil-time', 'Seconds until oil pressure stood', 's', 0, 10, 'No pressure after 10 s: stop the engine.'),
        confirm('again', 'Timing read again at idle and at 3,000 rpm, no drift'),
        confirm('stops', 'Key off stops engine and pump'),
        ...haltChecks(build, net),
        ...bankChecks(build, net),
      ],
    },
  ];
}

function settle(build: Build, gateId: string, draft: Draft): GateCheck {
  const confirmation = build.fireup[gateId]?.[draft.id] ?? null;
  const fallen = confirmation !== null && !stands(confirmation.on, checkFacts(build, gateId, draft.id));
  const base = {
    id: draft.id,
    text: draft.text,
    hint: draft.hint,
    kind: draft.kind,
    unit: '',
    low: null,
    high: null,
    confirmation,
    fallen,
  };
  if (draft.kind === 'auto') return { ...base, met: draft.met };
  if (draft.kind === 'confirm') return { ...base, met: confirmation !== null && !fallen };
  const value = confirmation?.value ?? null;
  return {
    ...base,
    unit: draft.unit,
    low: draft.low,
    high: draft.high,
    met: !fallen && value !== null && value >= draft.low && value <= draft.high,
  };
}

/** What is to be mended, or set aside with a reason, before this gate can pass: by name. */
const fixChecks = (gateId: string, findings: readonly Finding[]): Draft[] =>
  standingOf(findings, 'fix')
    .filter((finding) => gateOfFinding(finding) === gateId)
    .map((finding) =>
      auto(
        `fix-${finding.id}`,
        `${finding.rule} ${finding.title}`,
        false,
        `${finding.detail} Mend it, or set it aside with a reason.`,
      ),
    );

/**
 * The ladder of gates towards a running engine. A gate is shut while the one before it has not passed, while a stop
 * finding stands, or while a wire is unproved; findings to fix are checks of the gate they concern; what was confirmed stays recorded all the same.
 * `keyOn`: the circuit with the key on, where it is solved already.
 */
export function gatesOf(
  build: Build,
  net: Netlist,
  progress: Progress,
  findings: readonly Finding[],
  keyOn: Solution = solveCircuit(build, net, 'key-on'),
): Gate[] {
  const standing = shutBy(net, progress, findings);
  let before: Gate | null = null;
  return drafts(build, net, progress, findings, keyOn).map((draft): Gate => {
    const checks = [...fixChecks(draft.id, findings), ...draft.checks].map((check) => settle(build, draft.id, check));
    const blockers: string[] = [...standing];
    if (before && before.status !== 'passed') blockers.push(`'${before.title}' has not passed`);
    const status = blockers.length > 0 ? 'shut' : checks.every((check) => check.met) ? 'passed' : 'open';
    before = { id: draft.id, title: draft.title, aim: draft.aim, cautions: draft.cautions, checks, blockers, status };
    return before;
  });
}
