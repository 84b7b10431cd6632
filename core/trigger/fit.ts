import type { Build } from '../build/schema';
import { trait } from '../devices/kind';
import type { EcuDefinition } from '../ecu/ecu';
import type { Engine } from '../engine/engine';
import { setsOfTurn } from '../engine/outputs';
import { millisecondsPerDegree } from '../units/convert';
import { camWheelOf, tellsPhase, toothIntervals, type Wheel } from '../wheels/wheel';

export interface TriggerFit {
  readonly decodes: boolean;
  /** Why, in a sentence. */
  readonly reason: string;
  /** What the ECU then knows: nothing, the crank angle, or the place in the full cycle. */
  readonly knows: 'nothing' | 'angle' | 'cycle';
  readonly injection: 'none' | 'batch' | 'semi-sequential' | 'sequential';
  readonly ignition: 'none' | 'distributor' | 'wasted' | 'direct';
}

/** Whether this ECU decodes these wheels, and what it may then do on this engine (domain: no phase, no sequential). */
export function fitTrigger(ecu: EcuDefinition, engine: Engine, crank: Wheel | null, chosen: Wheel | null): TriggerFit {
  const cam = camWheelOf({ crankWheel: crank, camWheel: chosen });
  const none = { decodes: false, knows: 'nothing', injection: 'none', ignition: 'none' } as const;
  if (!crank) return { ...none, reason: 'No crank wheel is chosen.' };
  const places = crank.places ?? toothIntervals(crank).length;
  const family = ecu.decoders.filter((decoder) => decoder.family === crank.family);
  if (family.length === 0) return { ...none, reason: `${ecu.model} has no decoder for ${crank.name}.` };
  const decoder = family.find(
    (one) => places >= one.minPlaces && places <= one.maxPlaces && crank.missing <= one.maxMissing,
  );
  if (!decoder) {
    const one = family[0]!;
    return {
      ...none,
      reason: `${ecu.model} takes ${one.minPlaces} to ${one.maxPlaces} places with up to ${one.maxMissing} missing; this wheel has ${places} with ${crank.missing}.`,
    };
  }
  if ((decoder.needsCam || crank.family === 'even') && !cam)
    return { ...none, reason: 'Even teeth alone have no reference: this wheel needs a cam signal.' };
  const phase = tellsPhase(engine, crank, cam);
  if (phase)
    return {
      decodes: true,
      reason: `${ecu.model} decodes ${crank.name} and knows the place in the whole cycle.`,
      knows: 'cycle',
      injection: 'sequential',
      ignition: 'direct',
    };
  // Every engine can spark every turn, by pairs or by a coil each; a distributor that has no pairs stays one.
  const shared = setsOfTurn(engine).some(({ length }) => length > 1);
  return {
    decodes: true,
    reason: `${ecu.model} decodes ${crank.name}; without a cam signal it knows the crank angle but not the stroke.`,
    knows: 'angle',
    injection: 'semi-sequential',
    ignition: shared || engine.ignition !== 'distributor' ? 'wasted' : 'distributor',
  };
}

export interface GapMargin {
  /** Longest tooth interval over the common one. */
  readonly gapRatio: number;
  /** A gap may look as short as this at the ripple. */
  readonly shortestGap: number;
  /** A plain tooth may look as long as this. */
  readonly longestTooth: number;
  /** shortestGap / longestTooth: above 1 a threshold exists. */
  readonly margin: number;
  readonly threshold: number;
  readonly thresholdFits: boolean;
}

/** Smallest margin called safe (common practice). */
export const SAFE_MARGIN = 1.2;

/**
 * Gap margin while cranking: a threshold must hold between 1 + r and (M + 1) / (1 + r), r the speed ripple
 * (domain: 20-40 %). Null for wheels without a gap.
 */
export function gapMargin(wheel: Wheel, ripple: number, threshold: number): GapMargin | null {
  if (wheel.missing === 0) return null;
  const intervals = toothIntervals(wheel);
  const pitch = Math.min(...intervals);
  const gapRatio = Math.max(...intervals) / pitch;
  const shortestGap = gapRatio / (1 + ripple);
  const longestTooth = 1 + ripple;
  return {
    gapRatio,
    shortestGap,
    longestTooth,
    margin: shortestGap / longestTooth,
    threshold,
    thresholdFits: threshold > longestTooth && threshold < shortestGap,
  };
}

/** Time of the shortest tooth at a speed, microseconds: the filter must stay under a third of it (domain). */
export const shortestToothMicroseconds = (wheel: Wheel, crankRpm: number): number => {
  const perDegree = millisecondsPerDegree(crankRpm) * 1000 * (wheel.shaft === 'cam' ? 2 : 1);
  return Math.min(...toothIntervals(wheel)) * perDegree;
};

/** The trigger sensors of a build by shaft. */
export function triggerSensor(build: Build, shaft: 'crank' | 'cam') {
  for (const device of build.devices) {
    const kind = build.kinds[device.kindId];
    const found = kind && trait(kind, 'trigger');
    if (found && found.shaft === shaft) return { device, kind, sensor: found.sensor };
  }
  return null;
}
