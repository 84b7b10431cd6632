import type { EcuDefinition } from '../ecu/ecu';
import type { Engine } from '../engine/engine';
import type { DecoderSettings } from './decoder';
import { crossingNoiseDegrees, edgeSeconds } from './edge-speed';
import { fitTrigger, gapMargin, SAFE_MARGIN, shortestToothMicroseconds, type TriggerFit } from './fit';
import type { Match } from './match';
import type { CamFit } from './cam';
import { showsSides } from './tracks';
import { listedWheel, mirrored, teethPerTurn, type Wheel } from '../wheels/wheel';

/** One line of what to set in the ECU, in words any ECU has. */
export interface Setting {
  readonly name: string;
  readonly value: string;
  readonly why: string;
}

export interface Figure {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly limit: number;
  /** 'over' when the value must be above the limit. */
  readonly should: 'over' | 'under';
  readonly right: boolean;
  readonly why: string;
}

/** Speeds of an arming table (common practice: slow cranking to the red line). */
const ARMING_RPM = [100, 200, 400, 800, 1600, 3200, 6400];
/** A lobe is armed at this share of its height at the speed (common practice: a third). */
const ARMING_SHARE = 1 / 3;
const WINDOW_LEAST = 20;
/** Share of the shortest tooth an edge may take, and degrees noise may move a crossing (common practice). */
const EDGE_SHARE = 0.25;
const CROSSING_MOST = 0.5;

/** Volts to arm at, by speed: a third of the height the capture shows there, never into the noise. */
export function armingFor(match: Match): { rpm: number; volts: number }[] {
  const { quality, shape } = match.crank;
  if (quality.voltsPer100Hertz === null) return [];
  const perRpm = ((quality.voltsPer100Hertz / 100) * teethOfTurn(match)) / 60;
  const floor = Math.max(3 * shape.noise, 0.02);
  return ARMING_RPM.map((rpm) => ({ rpm, volts: Math.max(floor, ARMING_SHARE * perRpm * rpm) }));
}

const teethOfTurn = ({ best }: Match): number => teethPerTurn(best.wheel) / (best.wheel.shaft === 'cam' ? 2 : 1);

/** How a decoder has to be set for this capture. */
export function decoderFor(
  match: Match,
  ecu: Pick<EcuDefinition, 'gapThreshold'> | null,
  maxRpm: number,
): DecoderSettings {
  const { edge, best, camFit, cam } = match;
  const camEdge: 0 | 1 = cam && !showsSides(cam) ? 0 : 1;
  const coarse = 360 / Math.max(1, teethOfTurn(match));
  const edges = camFit?.edges.filter(({ level }) => level === camEdge) ?? [];
  return {
    wheel: best.direction === 'reverse' ? mirrored(best.wheel) : best.wheel,
    edge,
    inverted: best.inverted,
    // A capture says nothing of other speeds: the decoder arms at a third of what it saw, sinking with speed.
    arming: armingFor(match),
    filterMicroseconds: shortestToothMicroseconds(best.wheel, maxRpm) / 3,
    gapThreshold: ecu?.gapThreshold ?? 1.5,
    cam:
      camFit && camFit.tellsPhase && edges.length > 0
        ? {
            degrees: edges.map(({ degrees }) => degrees),
            windowDegrees: Math.max(WINDOW_LEAST, coarse * 0.4),
            edge: camEdge,
          }
        : null,
  };
}

export interface CaptureFit {
  readonly fit: TriggerFit;
  readonly settings: readonly Setting[];
  readonly figures: readonly Figure[];
}

const round = (value: number, places = 0) => Number(value.toFixed(places));

/** A cam the library lacks, as its pulses stand: enough to ask whether it tells the turns apart. */
function seenCam({ edges, pulsesPerCycle }: CamFit): Wheel {
  const pulses = edges.filter(({ level }) => level === 0).map(({ degrees }) => Math.min(359, degrees / 2));
  const apart = Math.min(...pulses.slice(1).map((at, i) => at - pulses[i]!), 2);
  const teeth = pulses.map((at) => ({ at, width: Math.min(apart, 360 - at) / 2 }));
  return listedWheel('cam-seen', `${pulsesPerCycle} pulses a cycle, as seen`, 'cam', 'cam-windows', teeth);
}

/** Whether this ECU decodes what the capture shows, how to set it, and how much room there is. */
export function ecuFit(match: Match, ecu: EcuDefinition, engine: Engine): CaptureFit {
  const { best, camFit, polarity, crank, ripple, edge } = match;
  const { wheel } = best;
  const fit = fitTrigger(ecu, engine, wheel, camFit && (camFit.wheel ?? seenCam(camFit)));
  const square = polarity === 'square';
  const settings: Setting[] = [];
  const say = (name: string, value: string, why: string) => settings.push({ name, value, why });
  if (wheel.places !== null && wheel.missing > 0) {
    say('Teeth, with the missing ones', String(wheel.places), `${teethPerTurn(wheel)} are there`);
    say('Missing', String(wheel.missing), match.gaps.length > 1 ? `in ${match.gaps.length} gaps` : 'in one gap');
  } else say('Teeth', String(teethPerTurn(wheel)), wheel.shaft === 'cam' ? 'a turn of the cam' : 'a turn of the crank');
  say(
    'Sensor',
    crank.levels ? 'not in the file' : square ? 'square signal' : 'VR, two wires',
    crank.levels
      ? 'it holds edges: what kind of sensor made them, and at how many volts, it does not say'
      : !crank.showsVolts
        ? 'how many volts the file does not say'
        : square
          ? `${round(crank.shape.low, 1)} V to ${round(crank.shape.high, 1)} V`
          : `${round(crank.quality.volts[0], 2)} V to ${round(crank.quality.volts[1], 2)} V at the lobes`,
  );
  say(
    'Edge',
    crank.channel.oneEdge
      ? 'the one the log was taken by'
      : polarity === 'reversed'
        ? 'rising, or swap the two leads'
        : edge,
    crank.channel.oneEdge
      ? 'it holds one edge of each tooth'
      : square
        ? 'either edge serves where all teeth are alike'
        : 'the steep crossing of the signal',
  );
  if (square && crank.showsVolts)
    say('Pull-up', crank.shape.high > 3 ? 'is there' : 'needed', `the signal rises to ${round(crank.shape.high, 1)} V`);
  const arming = armingFor(match);
  if (arming.length > 0 && crank.showsVolts)
    say(
      'Arming',
      arming
        .slice(0, 5)
        .map(({ rpm, volts }) => `${rpm} rpm ${round(volts, 2)} V`)
        .join(', '),
      'a third of the lobe at each speed',
    );
  say(
    'Reference tooth',
    wheel.missing > 0 ? 'first after the gap' : camFit ? 'first after the cam edge' : 'none',
    'the offset counts from it',
  );
  if (camFit) {
    const level = match.cam && !showsSides(match.cam) ? 0 : 1;
    const angles = camFit.edges.filter((one) => one.level === level).map(({ degrees }) => `${Math.round(degrees)}°`);
    say(
      'Cam edge',
      `${level === 1 ? 'rising' : 'falling'} at ${angles.join(', ')}`,
      `${camFit.pulsesPerCycle} a cycle, counted from the reference tooth`,
    );
  }
  const shortest = shortestToothMicroseconds(wheel, engine.maxRpm);
  say(
    'Filter, at most',
    `${round(shortest / 3)} µs`,
    `a third of the shortest tooth, ${round(shortest)} µs at ${engine.maxRpm} rpm`,
  );
  const figures: Figure[] = [];
  const margin = gapMargin(wheel, ripple, ecu.gapThreshold);
  if (margin) {
    figures.push({
      name: `gap margin at ${Math.round(ripple * 100)} % swing`,
      value: round(margin.margin, 2),
      unit: '',
      limit: SAFE_MARGIN,
      should: 'over',
      right: margin.margin >= SAFE_MARGIN,
      why: 'the gap at its shortest over a tooth at its longest',
    });
    figures.push({
      name: 'threshold of this ECU',
      value: ecu.gapThreshold,
      unit: '',
      limit: round(margin.shortestGap, 2),
      should: 'under',
      right: margin.thresholdFits,
      why: `must lie between ${round(margin.longestTooth, 2)} and ${round(margin.shortestGap, 2)}`,
    });
  }
  const { margin: height } = crank.quality;
  figures.push({
    name: square ? 'levels apart against 2.5 V' : 'weakest lobe against the noise floor',
    value: round(height, 1),
    unit: '×',
    limit: 1.5,
    should: 'over',
    right: height >= 1.5,
    why: square ? 'an input needs clear levels' : 'below 1 a tooth is lost',
  });
  const rise = edgeSeconds(crank);
  if (rise !== null)
    figures.push({
      name: `edge against the shortest tooth at ${engine.maxRpm} rpm`,
      value: round(rise * 1e6),
      unit: 'µs',
      limit: round(shortest * EDGE_SHARE),
      should: 'under',
      right: rise * 1e6 <= shortest * EDGE_SHARE,
      why: 'a slow edge eats the tooth: a stronger pull-up, less capacitance, or a recorder too slow to tell',
    });
  const shaken = crossingNoiseDegrees(crank, match.rpm.mean);
  if (shaken !== null)
    figures.push({
      name: 'noise moves the crossing by',
      value: round(shaken, 2),
      unit: '°',
      limit: CROSSING_MOST,
      should: 'under',
      right: shaken <= CROSSING_MOST,
      why: `at ${round(match.rpm.mean)} rpm; less when it turns faster`,
    });
  return { fit, settings, figures };
}
