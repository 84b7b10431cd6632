import type { EcuDefinition } from '../ecu/ecu';
import type { Engine } from '../engine/engine';
import { BATTERY } from '../ends/ends';
import { emptySurvey } from '../survey/records';
import { noFeeds } from '../topology/parts';
import { USUAL_LABEL } from '../loom/labels';
import { noTree } from '../tree/tree';
import { defaultUnits, type Units } from '../units/units';
import { BUILD_SCHEMA_VERSION, type Build } from '../build/schema';

/**
 * How much of a four-stroke's air an engine of the same displacement breathes (common practice): a rotor's chambers are all
 * filled in the turns a piston needs for half of its own; a two-stroke draws every turn and loses about a third.
 */
const breathes = { 'four-stroke': 1, 'two-stroke': 1.4, rotary: 2 } as const;
/** A power to start from until the person gives theirs: about 50 kW a litre, more with boost (common practice). */
const startingPower = (engine: Engine): number =>
  Math.max(5, Math.round((engine.displacementCc / 1000) * 50 * breathes[engine.kind] * (1 + engine.boostKpa / 100)));

/** An empty build around an engine and an ECU. `id` and `now` (ISO 8601) come from the caller: core has no clock. */
export function createBuild(args: {
  id: string;
  now: string;
  name: string;
  vehicle: string;
  engine: Engine;
  ecu: EcuDefinition;
  units?: Units;
}): Build {
  return {
    schemaVersion: BUILD_SCHEMA_VERSION,
    id: args.id,
    name: args.name,
    vehicle: args.vehicle,
    notes: '',
    createdAt: args.now,
    engine: args.engine,
    ecu: args.ecu,
    kinds: {},
    devices: [],
    buses: [],
    outputOrder: args.ecu.outputOrder,
    assignments: {},
    locked: [],
    trigger: {
      crankWheel: null,
      camWheel: null,
      offsetDegrees: 0,
      offsetWay: { counts: 'tooth-to-tdc', range: 'up' },
      offsetConfirmed: false,
      readings: [],
      lockDegrees: 0,
      ripple: 0.3,
      chartRpm: Math.round(args.engine.maxRpm / 2 / 100) * 100,
      dwellMilliseconds: 3,
      injectionMilliseconds: 6,
      advanceDegrees: 20,
    },
    power: {
      circuits: {},
      ecuGround: 'head',
      groundMetres: { battery: 1.8, head: 1.2, chassis: 0.6 },
      strapSquareMm: 25,
      strapMetres: 0.6,
      starterCable: { squareMm: 25, metres: 1.2, at: BATTERY },
      alternatorCable: { squareMm: 16, metres: 1.5, at: BATTERY },
      joints: 'apart',
      starting: 'key',
      charging: 'alternator',
      batteryAh: 45,
    },
    loom: {
      slackMetres: 0.1,
      covering: 'tape',
      origin: 'new',
      joining: 'crimp',
      holeMillimetres: 38,
      zoneCelsius: 105,
      wireCelsius: 125,
      series: args.units?.workshop === 'inch' ? 'awg' : 'metric',
      blanksFitted: false,
      orderOfWork: 'powers-first',
      label: USUAL_LABEL,
      wires: {},
    },
    site: { altitudeMetres: 0, ambientCelsius: 20 },
    reserve: {},
    never: [],
    shared: {},
    groundUse: {},
    joined: {},
    feeds: noFeeds,
    tree: noTree,
    fuel: { fuel: 'petrol', railKpa: 300, bsfc: 310, powerKw: startingPower(args.engine), maxDuty: 0.85 },
    speed: null,
    units: args.units ?? defaultUnits,
    stores: { spools: [], spoolMetres: 25, parts: {} },
    survey: emptySurvey,
    sensing: { readings: {} },
    pinning: { order: 'connector', done: {} },
    marks: {},
    prove: { leadOhms: 0.1, by: '', readings: {} },
    fireup: {},
    aside: {},
    cases: [],
    revisions: [],
  };
}
