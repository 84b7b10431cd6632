import type { EcuDefinition } from '../ecu/ecu';
import type { IdentifyAnswers } from '../survey/records';
import { missingToothWheel, teethPerTurn, toothIntervals, type Wheel } from '../wheels/wheel';

/** Questions that take part in narrowing; free notes do not. */
export type QuestionId = Exclude<keyof IdentifyAnswers, 'sensorColour' | 'headMarks' | 'blockMarks'>;

/** What a candidate would answer: one of a few values, or a figure within a span. */
export type Expectation =
  { readonly oneOf: readonly (string | number)[] } | { readonly from: number; readonly to: number };

export const topics = ['crank-wheel', 'crank-sensor', 'cam', 'cam-wheel', 'coils', 'injectors'] as const;
export type Topic = (typeof topics)[number];
export const topicTitles: Record<Topic, string> = {
  'crank-wheel': 'Crank wheel',
  'crank-sensor': 'Crank sensor',
  cam: 'Cam sensor',
  'cam-wheel': 'Cam wheel',
  coils: 'Coils',
  injectors: 'Injectors',
};

/** One thing it could be, with what it would answer to each question it knows of. */
export interface Candidate {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly expects: Partial<Record<QuestionId, Expectation>>;
}

const oneOf = (...values: (string | number)[]): Expectation => ({ oneOf: values });
const span = (from: number, to: number): Expectation => ({ from, to });

/** The gap of a wheel as an eye sees it: how many, and how many tooth places each leaves out. */
export function gapOf(wheel: Wheel): { gap: 'none' | 'one' | 'several' | 'uneven'; widths: number[] } {
  if (wheel.places === null) return { gap: 'uneven', widths: [] };
  const pitch = 360 / wheel.places;
  const widths = toothIntervals(wheel)
    .map((interval) => Math.round(interval / pitch) - 1)
    .filter((width) => width > 0);
  return { gap: widths.length === 0 ? 'none' : widths.length === 1 ? 'one' : 'several', widths: [...new Set(widths)] };
}

function crankWheel(wheel: Wheel): Candidate {
  const { gap, widths } = gapOf(wheel);
  return {
    id: wheel.id,
    name: wheel.name,
    note: `${teethPerTurn(wheel)} teeth to count`,
    expects: {
      crankTeeth: oneOf(teethPerTurn(wheel)),
      crankGap: oneOf(gap),
      ...(widths.length > 0 ? { crankGapWidth: oneOf(...widths) } : {}),
      crankPlace:
        wheel.family === 'distributor' ? oneOf('distributor') : oneOf('pulley', 'flywheel', 'block', 'distributor'),
    },
  };
}

/** Share of a turn one tooth must take to look like half a moon. */
const HALF_MOON = 0.35;

function camWheel(wheel: Wheel): Candidate {
  const teeth = teethPerTurn(wheel);
  const rise = wheel.edges.findIndex((edge) => edge.level === 1);
  const fall = wheel.edges[(rise + 1) % wheel.edges.length]!;
  const wide = ((fall.degrees - wheel.edges[rise]!.degrees + 360) % 360) / 360;
  const shape = teeth > 1 ? 'windows' : wide > HALF_MOON ? 'half' : 'one';
  return {
    id: wheel.id,
    name: wheel.name,
    note: teeth === 1 ? 'one tooth or window to count' : `${teeth} teeth or windows to count`,
    expects: { camTeeth: oneOf(teeth), camShape: oneOf(shape), camTerminals: oneOf('2', '3', '5') },
  };
}

/** A wheel no library lists, made from a tooth count and one gap: 35 teeth and one place missing is 36-1. */
export function countedWheel(answers: IdentifyAnswers): Wheel | null {
  const { crankTeeth, crankGap, crankGapWidth } = answers;
  if (crankTeeth === null) return null;
  if (crankGap === 'none') return missingToothWheel(crankTeeth, 0);
  if (crankGap === 'one' && crankGapWidth !== null && crankTeeth + crankGapWidth <= 400)
    return missingToothWheel(crankTeeth + crankGapWidth, crankGapWidth);
  return null;
}

/*
 * What the parts would answer (common practice): two wires and some hundred ohms are a coil of wire, so VR; three wires
 * are a supplied square-wave sensor, or a VR with a shield braid, which still shows ohms between two of them.
 */
const sensors: readonly Candidate[] = [
  {
    id: 'vr',
    name: 'VR, two wires',
    note: 'a coil round a magnet: no supply, polarity matters',
    expects: {
      crankWires: oneOf(2),
      crankOhms: span(150, 2500),
      crankPlace: oneOf('pulley', 'flywheel', 'block', 'distributor'),
    },
  },
  {
    id: 'vr-shielded',
    name: 'VR with a shield, three wires',
    note: 'the third wire is the braid: it shows no ohms to the others',
    expects: { crankWires: oneOf(3), crankOhms: span(150, 2500), crankPlace: oneOf('pulley', 'flywheel', 'block') },
  },
  {
    id: 'hall',
    name: 'Hall or magneto-resistive, three wires',
    note: 'supply, ground, signal; no steady ohms between any two',
    expects: {
      crankWires: oneOf(3),
      crankOhms: span(3000, 1e7),
      crankPlace: oneOf('pulley', 'flywheel', 'block', 'distributor'),
    },
  },
  {
    id: 'optical',
    name: 'Optical distributor, four wires',
    note: 'slotted disc: one fine track, one track by cylinder',
    expects: { crankWires: oneOf(4), crankOhms: span(3000, 1e7), crankPlace: oneOf('distributor') },
  },
];

const cams: readonly Candidate[] = [
  {
    id: 'none',
    name: 'No cam signal',
    note: 'wasted spark, and injection in pairs or together',
    expects: { camTerminals: oneOf('none') },
  },
  { id: 'cam-vr', name: 'Cam sensor, VR', note: 'two terminals', expects: { camTerminals: oneOf('2') } },
  { id: 'cam-hall', name: 'Cam sensor, Hall', note: 'three terminals', expects: { camTerminals: oneOf('3') } },
  {
    id: 'cam-phaser',
    name: 'Cam sensor and cam phaser in one plug',
    note: 'five terminals: three of the sensor, two of the solenoid',
    expects: { camTerminals: oneOf('5') },
  },
];

/** Coils by count and terminals; `cylinders` fixes how many there must be. */
function coils(cylinders: number): Candidate[] {
  const pairs = Math.ceil(cylinders / 2);
  return [
    {
      id: 'distributor',
      name: 'One coil and a distributor',
      note: 'two terminals, one tower',
      expects: { coilCount: oneOf(1), coilTerminals: oneOf(2, 3, 4), coilTowers: oneOf(1) },
    },
    {
      id: 'coil-bare',
      name: 'A coil for each cylinder, no igniter',
      note: 'two terminals: feed and switched negative; needs coil drivers or a module',
      expects: { coilCount: oneOf(cylinders), coilTerminals: oneOf(2), coilTowers: oneOf(1) },
    },
    {
      id: 'coil-igniter',
      name: 'A coil for each cylinder, igniter inside',
      note: 'three to five terminals: a logic output each',
      expects: { coilCount: oneOf(cylinders), coilTerminals: oneOf(3, 4, 5), coilTowers: oneOf(1) },
    },
    {
      id: 'wasted-bare',
      name: 'Coils of two towers, no igniter',
      note: 'two terminals each: wasted spark by coil drivers',
      expects: { coilCount: oneOf(pairs), coilTerminals: oneOf(2), coilTowers: oneOf(2) },
    },
    {
      id: 'wasted-igniter',
      name: 'Coils of two towers, igniter inside',
      note: 'three or four terminals each: wasted spark by logic outputs',
      expects: { coilCount: oneOf(pairs), coilTerminals: oneOf(3, 4), coilTowers: oneOf(2) },
    },
    {
      id: 'pack-bare',
      name: 'One pack of wasted coils, no igniter',
      note: 'one feed and one switched negative for each pair',
      expects: { coilCount: oneOf(1), coilTerminals: oneOf(pairs + 1), coilTowers: oneOf(cylinders) },
    },
    {
      id: 'pack-igniter',
      name: 'One pack of wasted coils, igniter inside',
      note: 'feed, ground and one logic trigger for each pair',
      expects: { coilCount: oneOf(1), coilTerminals: oneOf(pairs + 2), coilTowers: oneOf(cylinders) },
    },
  ];
}

/** Classes by resistance (common practice: high 10-16 ohm, low 1.5-5 ohm). */
const injectors: readonly Candidate[] = [
  {
    id: 'none',
    name: 'No injectors',
    note: 'carburettors',
    expects: { injectorCount: oneOf(0), injectorOhms: oneOf('nothing to measure') },
  },
  {
    id: 'high',
    name: 'High impedance',
    note: '10 to 16 Ω: saturated drivers',
    expects: { injectorOhms: span(9.5, 18), injectorCount: span(1, 24) },
  },
  {
    id: 'low',
    name: 'Low impedance',
    note: '1.5 to 5 Ω: peak-and-hold drivers, or a ballast resistor',
    expects: { injectorOhms: span(1.2, 5.5), injectorCount: span(1, 24) },
  },
];

/** Everything it could be, before a single answer. Wheels the ECU can decode come first. */
export function candidatesOf(
  wheels: readonly Wheel[],
  cylinders: number,
  answers: IdentifyAnswers,
  ecu: Pick<EcuDefinition, 'decoders'> | null = null,
): Record<Topic, Candidate[]> {
  const crank = wheels.filter((wheel) => wheel.shaft === 'crank');
  const counted = countedWheel(answers);
  const all = counted && !crank.some((wheel) => wheel.id === counted.id) ? [...crank, counted] : crank;
  const decodes = (wheel: Wheel) => ecu?.decoders.some((decoder) => decoder.family === wheel.family) ?? false;
  return {
    'crank-wheel': [...all].sort((one, other) => Number(decodes(other)) - Number(decodes(one))).map(crankWheel),
    'crank-sensor': [...sensors],
    cam: [...cams],
    'cam-wheel': [
      {
        id: 'no-cam-wheel',
        name: 'None',
        note: 'nothing on the cam for a sensor to see',
        expects: {
          camTerminals: oneOf('none'),
          camTeeth: oneOf('nothing to count'),
          camShape: oneOf('nothing to see'),
        },
      },
      ...wheels
        .filter(({ shaft, family }) => shaft === 'cam' && family !== 'distributor' && family !== 'slot-disc')
        .map(camWheel),
    ],
    coils: coils(cylinders),
    injectors: [...injectors],
  };
}
