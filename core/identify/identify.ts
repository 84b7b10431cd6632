import type { EcuDefinition } from '../ecu/ecu';
import type { IdentifyAnswers } from '../survey/records';
import type { Wheel } from '../wheels/wheel';
import { candidatesOf, topics, type Candidate, type Expectation, type QuestionId, type Topic } from './candidates';

export interface Question {
  readonly id: QuestionId;
  readonly text: string;
  /** How to find out, with what. */
  readonly how: string;
  readonly tool: 'torch' | 'meter' | 'eyes';
  readonly topic: Topic;
  readonly answer:
    | { readonly type: 'count'; readonly least: number; readonly most: number }
    | { readonly type: 'ohms' }
    | { readonly type: 'choice'; readonly options: readonly { readonly id: string; readonly name: string }[] };
}

const count = (least: number, most: number) => ({ type: 'count', least, most }) as const;
const choice = (...options: [string, string][]) =>
  ({ type: 'choice', options: options.map(([id, name]) => ({ id, name })) }) as const;

/** In the order one goes round an engine. */
export const questions: readonly Question[] = [
  {
    id: 'crankPlace',
    text: 'Where does the crank sensor sit?',
    how: 'Follow the wires from the loom: front pulley, flywheel end, side of the block, or the distributor.',
    tool: 'torch',
    topic: 'crank-sensor',
    answer: choice(
      ['pulley', 'front pulley'],
      ['flywheel', 'flywheel end'],
      ['block', 'side of the block'],
      ['distributor', 'distributor'],
      ['none', 'there is none'],
    ),
  },
  {
    id: 'crankWires',
    text: 'How many wires leave the crank sensor?',
    how: 'Count conductors in its own plug; a bare braid counts as one.',
    tool: 'eyes',
    topic: 'crank-sensor',
    answer: count(2, 4),
  },
  {
    id: 'crankOhms',
    text: 'How many ohms between two of its terminals?',
    how: 'Unplugged, meter on 20 kΩ, every two of them in turn; give the lowest. No reading at all is 1000000.',
    tool: 'meter',
    topic: 'crank-sensor',
    answer: { type: 'ohms' },
  },
  {
    id: 'crankGap',
    text: 'Is there a gap in the teeth?',
    how: 'Mark a tooth with chalk, turn the crank by hand with the plugs out, and look at the spacing once round.',
    tool: 'torch',
    topic: 'crank-wheel',
    answer: choice(
      ['none', 'none, all even'],
      ['one', 'one gap'],
      ['several', 'several gaps'],
      ['uneven', 'uneven spacing'],
    ),
  },
  {
    id: 'crankTeeth',
    text: 'How many teeth in one turn?',
    how: 'Count from the chalk mark round to it again. Count twice: one tooth off is the usual slip.',
    tool: 'torch',
    topic: 'crank-wheel',
    answer: count(1, 400),
  },
  {
    id: 'crankGapWidth',
    text: 'How many teeth would fit in the gap?',
    how: 'Lay a strip with the pitch of the other teeth across it.',
    tool: 'torch',
    topic: 'crank-wheel',
    answer: count(1, 8),
  },
  {
    id: 'camTerminals',
    text: 'How many terminals has the cam plug?',
    how: 'At the head, by the cam ends. Two plugs of two and three are a sensor and a phaser apart.',
    tool: 'eyes',
    topic: 'cam',
    answer: choice(['none', 'no cam plug'], ['2', '2'], ['3', '3'], ['5', '5']),
  },
  {
    id: 'camShape',
    text: 'What does the cam sensor see?',
    how: 'Sensor out, torch in its hole, turn the engine by hand: one tooth, half a disc, or several windows.',
    tool: 'torch',
    topic: 'cam-wheel',
    answer: choice(['one', 'one tooth or window'], ['half', 'half a disc'], ['windows', 'several']),
  },
  {
    id: 'camTeeth',
    text: 'How many does it see in two turns of the crank?',
    how: 'Two turns of the crank are one of the cam: mark the pulley and count.',
    tool: 'torch',
    topic: 'cam-wheel',
    answer: count(1, 60),
  },
  {
    id: 'coilCount',
    text: 'How many coils are there?',
    how: 'A block with several towers is one.',
    tool: 'eyes',
    topic: 'coils',
    answer: count(1, 16),
  },
  {
    id: 'coilTowers',
    text: 'How many plugs does one coil serve?',
    how: 'Towers, or plug tops, of one coil.',
    tool: 'eyes',
    topic: 'coils',
    answer: count(1, 8),
  },
  {
    id: 'coilTerminals',
    text: 'How many terminals has one coil?',
    how: 'In its low-voltage plug.',
    tool: 'eyes',
    topic: 'coils',
    answer: count(2, 6),
  },
  {
    id: 'injectorCount',
    text: 'How many injectors are there?',
    how: 'None on a carburettor.',
    tool: 'eyes',
    topic: 'injectors',
    answer: count(0, 24),
  },
  {
    id: 'injectorOhms',
    text: 'How many ohms has one injector?',
    how: 'Unplugged, meter on 200 Ω, leads taken off the figure.',
    tool: 'meter',
    topic: 'injectors',
    answer: { type: 'ohms' },
  },
];

/** Fits, might (a count off by one), or does not. */
type Fit = 'fits' | 'near' | 'out';
const NEAR_COUNTS: ReadonlySet<QuestionId> = new Set(['crankTeeth']);

function fitOf(id: QuestionId, expectation: Expectation, answer: string | number): Fit {
  if ('from' in expectation) {
    const value = Number(answer);
    if (value >= expectation.from && value <= expectation.to) return 'fits';
    // A meter's leads, or a warm part: within a fifth it stays possible.
    return value >= expectation.from * 0.8 && value <= expectation.to * 1.2 ? 'near' : 'out';
  }
  if (expectation.oneOf.includes(answer)) return 'fits';
  const off = NEAR_COUNTS.has(id) && expectation.oneOf.some((one) => Math.abs(Number(one) - Number(answer)) === 1);
  return off ? 'near' : 'out';
}

const words = (id: QuestionId, answer: string | number): string => {
  const question = questions.find((one) => one.id === id);
  if (question?.answer.type === 'choice')
    return question.answer.options.find((option) => option.id === answer)?.name ?? String(answer);
  return question?.answer.type === 'ohms' ? `${answer} Ω` : String(answer);
};

const subject: Record<QuestionId, string> = {
  crankPlace: 'the sensor sits at the',
  crankWires: 'wires counted',
  crankOhms: 'measured',
  crankGap: 'gap seen',
  crankTeeth: 'teeth counted',
  crankGapWidth: 'teeth missing in the gap',
  camTerminals: 'terminals on the cam plug',
  camTeeth: 'cam teeth',
  camShape: 'cam shape',
  coilCount: 'coils counted',
  coilTowers: 'towers',
  coilTerminals: 'coil terminals',
  injectorCount: 'injectors counted',
  injectorOhms: 'measured',
};

export interface Ranked {
  readonly candidate: Candidate;
  /** Answers that fit, that are one off, and why it is out (null while it is in). */
  readonly fits: number;
  readonly near: readonly string[];
  readonly out: string | null;
}

export interface TopicResult {
  readonly topic: Topic;
  readonly ranked: readonly Ranked[];
  /** Still possible, best first. */
  readonly open: readonly Ranked[];
  readonly settled: Ranked | null;
  /** The unanswered question that leaves the fewest on average; null when none tells them apart. */
  readonly next: { readonly question: Question; readonly leaves: number } | null;
}

type Answered = readonly (readonly [QuestionId, string | number])[];

export function answeredOf(answers: IdentifyAnswers): Answered {
  return questions.flatMap(({ id }) => {
    const value = answers[id];
    return value === null ? [] : [[id, value] as const];
  });
}

function rank(candidate: Candidate, answered: Answered): Ranked {
  let fits = 0;
  const near: string[] = [];
  for (const [id, answer] of answered) {
    const expectation = candidate.expects[id];
    if (!expectation) continue;
    const fit = fitOf(id, expectation, answer);
    if (fit === 'fits') fits += 1;
    else if (fit === 'near') near.push(`${words(id, answer)} ${subject[id]}, ${expected(id, expectation)} expected`);
    else
      return {
        candidate,
        fits,
        near,
        out: `${subject[id]} ${words(id, answer)}; ${expected(id, expectation)} would fit`,
      };
  }
  return { candidate, fits, near, out: null };
}

const expected = (id: QuestionId, expectation: Expectation): string =>
  'from' in expectation
    ? expectation.to >= 1e6
      ? `${expectation.from} or more`
      : `${expectation.from} to ${expectation.to}`
    : expectation.oneOf.map((one) => words(id, one)).join(' or ');

/** A typical answer a candidate would give, to try a question out. */
const typical = (expectation: Expectation): string | number =>
  'from' in expectation
    ? (expectation.from + Math.min(expectation.to, expectation.from * 3)) / 2
    : expectation.oneOf[0]!;

/** How many candidates a question leaves on average, if each open one were the truth. */
function leavesOf(question: QuestionId, open: readonly Candidate[]): number {
  const total = open.reduce((sum, truth) => {
    const expectation = truth.expects[question];
    if (!expectation) return sum + open.length;
    const answer = typical(expectation);
    return (
      sum +
      open.filter((one) => !one.expects[question] || fitOf(question, one.expects[question], answer) !== 'out').length
    );
  }, 0);
  return total / open.length;
}

/** Narrows every topic by the answers, and names what would settle what is still open. Pure; a few hundred steps. */
export function identify(
  answers: IdentifyAnswers,
  wheels: readonly Wheel[],
  cylinders: number,
  ecu: Pick<EcuDefinition, 'decoders'> | null = null,
): TopicResult[] {
  const answered = answeredOf(answers);
  const known = new Set(answered.map(([id]) => id));
  const candidates = candidatesOf(wheels, cylinders, answers, ecu);
  return topics.map((topic) => {
    const ranked = candidates[topic].map((candidate) => rank(candidate, answered));
    const open = ranked
      .filter((one) => one.out === null)
      .sort((one, other) => one.near.length - other.near.length || other.fits - one.fits);
    const told = open.length > 0 && open[0]!.fits > 0;
    const alone = open.length === 1 || (open.length > 1 && open[0]!.near.length < open[1]!.near.length);
    const options = questions
      .filter((question) => !known.has(question.id) && open.some((one) => one.candidate.expects[question.id]))
      .map((question) => ({
        question,
        leaves: leavesOf(
          question.id,
          open.map((one) => one.candidate),
        ),
      }))
      .filter((option) => option.leaves < open.length - 1e-9)
      .sort((one, other) => one.leaves - other.leaves);
    return {
      topic,
      ranked,
      open,
      settled: told && alone ? open[0]! : null,
      next: open.length > 1 ? (options[0] ?? null) : null,
    };
  });
}
