import type { Build } from '../build/schema';
import { triggerSensor } from './fit';
import type { Match } from './match';
import { samePattern, patternOf } from './pattern';
import type { Track } from './tracks';
import { camWheelOf, type Wheel } from '../wheels/wheel';

/** A choice of the build that a capture speaks against, with what both say. */
export interface Disagreement {
  readonly what: 'crank wheel' | 'cam wheel' | 'crank sensor' | 'cam sensor' | 'polarity' | 'edge';
  readonly build: string;
  readonly capture: string;
  /** Both in one sentence, with what to do. */
  readonly sentence: string;
  /** Wheel to take instead, where that mends it. */
  readonly wheel: Wheel | null;
}

type Chosen = Pick<Build, 'trigger'> & Partial<Pick<Build, 'devices' | 'kinds'>>;

const sameWheel = (one: Wheel, other: Wheel): boolean =>
  one.id === other.id || (one.shaft === other.shaft && samePattern(patternOf(one, 'rise'), patternOf(other, 'rise')));

/** What a track says its sensor is: a square signal has no winding. */
const seenKind = ({ shape }: Track): 'vr' | 'hall' | null =>
  shape.kind === 'square' ? 'hall' : shape.kind === 'vr' ? 'vr' : null;
const kindWords = { vr: 'a VR sensor (two wires)', hall: 'a square signal (Hall or optical, three wires)' } as const;

/** Whether the other edge would not do: a VR signal's is shallow and wanders; a square one's may not tell the wheel. */
const edgeMatters = ({ crank, best }: Match): boolean =>
  crank.shape.kind === 'vr'
    ? crank.reads !== 'lobes'
    : !samePattern(patternOf(best.wheel, 'rise'), patternOf(best.wheel, 'fall'));

/**
 * Where a capture and the build say different things: wheel, cam, kind of sensor, edge, and which way round the leads are. Only
 * what the capture is sure of speaks against a choice.
 */
export function disagreements(found: Match, { trigger, devices, kinds }: Chosen): Disagreement[] {
  const out: Disagreement[] = [];
  const { best, verdict, crank, cam, camFit, polarity } = found;
  const chosen = trigger.crankWheel;
  const maybe = verdict.odds.some(({ wheel, odds }) => chosen && odds > 0.02 && sameWheel(wheel, chosen));
  if (chosen && verdict.kind !== 'none' && !maybe && !sameWheel(chosen, best.wheel)) {
    const wheel = verdict.kind === 'this' ? best.wheel : null;
    out.push({
      what: 'crank wheel',
      build: chosen.name,
      capture: best.wheel.name,
      sentence: `The build says ${chosen.name}; the capture shows ${wheel ? best.wheel.name : verdict.odds.map((one) => one.wheel.name).join(' or ')}.`,
      wheel,
    });
  }
  const camChosen = camWheelOf(trigger);
  if (camChosen && camFit?.wheel && verdict.kind === 'this' && !sameWheel(camChosen, camFit.wheel))
    out.push({
      what: 'cam wheel',
      build: camChosen.name,
      capture: camFit.wheel.name,
      sentence: `The build says ${camChosen.name} on the cam; the capture shows ${camFit.wheel.name}.`,
      wheel: camFit.wheel,
    });
  if (devices && kinds)
    for (const [shaft, track] of [
      ['crank', crank],
      ['cam', cam],
    ] as const) {
      const sensor = triggerSensor({ devices, kinds } as Build, shaft);
      // Levels are square whatever sensor made them.
      const seen = track && (track.levels ? null : seenKind(track));
      if (!sensor || !seen || sensor.sensor === seen) continue;
      out.push({
        what: `${shaft} sensor`,
        build: kindWords[sensor.sensor],
        capture: kindWords[seen],
        sentence: `The build has ${kindWords[sensor.sensor]} on the ${shaft}; the capture shows ${kindWords[seen]}. Look at the sensor in hand and count its wires.`,
        wheel: null,
      });
    }
  const edge = trigger.crankEdge ?? null;
  if (edge && edge !== found.edge && !crank.channel.oneEdge && edgeMatters(found))
    out.push({
      what: 'edge',
      build: `${edge} edge`,
      capture: `${found.edge} edge`,
      sentence: `The build says the ECU takes the ${edge} edge; the capture is told by the ${found.edge} one. Set the ECU to ${found.edge}${
        crank.shape.kind === 'vr' ? ', or change the two leads at one end' : ''
      }; then look at the offset again.`,
      wheel: null,
    });
  // An ECU that is set to the other edge takes swapped leads as they are.
  if (polarity === 'reversed' && crank.reads !== 'lobes' && edge !== found.edge)
    out.push({
      what: 'polarity',
      build: 'leads as the pins are named',
      capture: 'leads the other way round',
      sentence:
        'The build has the crank sensor with its leads as the pins are named; the capture shows them the other way round. Change the two cavities at one end, not at both.',
      wheel: null,
    });
  return out;
}
