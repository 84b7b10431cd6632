import type { Build } from '../build/schema';
import { circuitShapes, coilsTogether, type CircuitShape } from './circuits';
import type { PulsedAmps } from './coil-feed';
import { fuseFor, fuseRatings } from './fuse';
import { carriedAmps, sizeFor, sizeForDrop, seriesSizes, wireOhms, type Surroundings } from '../wire/wire';

/** A circuit with its figures: load, fuse, wire and drop. */
export interface Circuit extends CircuitShape {
  /** Where it is drawn in pulses: what warms the fuse is more than the mean of its loads. */
  readonly pulsed: PulsedAmps | null;
  /** What warms wire and fuse, amperes: the mean, or where it is drawn in pulses their root mean square. */
  readonly loadAmps: number;
  readonly fuseAmps: number;
  readonly fuseByPerson: boolean;
  readonly squareMm: number;
  readonly squareByPerson: boolean;
  /** Size of each branch behind the splice: it too must outlast the fuse. */
  readonly branchSquareMm: number;
  /** Amperes the trunk carries in its bundle and ambient. */
  readonly carriesAmps: number;
  readonly branchCarriesAmps: number;
  readonly lengthMetres: number;
  readonly fuseDistanceMetres: number;
  /** Volts lost from the source to the worst load, copper at 60 °C, contacts in. */
  readonly dropVolts: number;
  readonly worstLoad: string;
}

/** Contact resistance of one crimped and mated signal terminal, and of a power terminal, ohms (common practice). */
export const CONTACT_OHMS = 0.005;
export const POWER_CONTACT_OHMS = 0.001;
/** A ring terminal bolted on clean metal, ohms (common practice: 0.1 to 0.3 milliohms). */
export const LUG_OHMS = 0.0002;
/** A closed relay contact, ohms (common practice). */
export const RELAY_CONTACT_OHMS = 0.003;
/** Copper temperature for drop figures: a loaded loom under a bonnet (common practice). */
export const LOADED_CELSIUS = 60;
/** Volts lost across a blade fuse at its rating (common practice: about 0.1 V). */
const FUSE_VOLTS = 0.1;
/** Winding of a plug-in relay, 60 to 120 ohms (common practice), and the volts its draw is counted at. */
export const RELAY_WINDING_OHMS = 90;
const WINDING_VOLTS = 13;

/** The resistance of a blade fuse falls as its rating grows. */
export const fuseOhms = (ratingAmps: number): number => FUSE_VOLTS / ratingAmps;

/** Smallest feed that is laid at all, for its strength (common practice). */
const LEAST_SQUARE_MM = 0.5;
/** Metres where nothing is said: a trunk to several loads, a trunk to one, a branch behind the splice, fuse to source (common practice). */
const TRUNK_METRES = 1;
const LONE_METRES = 0.5;
const BRANCH_METRES = 0.2;
export const FUSE_METRES = 0.2;
/** Contacts a feed passes: source, fuse in and out, relay in and out, load (by counting). */
const CONTACTS = 6;
/** Above this a size is not raised unasked: shorten or split the circuit (common practice). */
const MOST_SQUARE_MM = 10;
/** Loaded circuits side by side in the power branch: 3 is common practice for a small loom. */
const BUNCHED = 3;
/** Share of the drop a branch may use up (common practice). */
const BRANCH_SHARE = 0.5;
/** Hottest air the power branch is laid in; exhaust zones are for heat sleeves, not for feeds (common practice). */
const POWER_BRANCH_CELSIUS = 60;

export const surroundings = (build: Build): Surroundings => ({
  loadedCircuits: BUNCHED,
  ambientCelsius: Math.min(build.loom.zoneCelsius, POWER_BRANCH_CELSIUS),
  wireCelsius: build.loom.wireCelsius,
  series: build.loom.series,
});

function sizeCircuit(build: Build, shape: CircuitShape, downstreamAmps: number): Circuit {
  const around = surroundings(build);
  const pulsed = shape.role === 'coils' ? coilsTogether(build) : null;
  const pulses = pulsed === null ? 0 : Math.max(0, pulsed.rms - pulsed.mean);
  const loadAmps = shape.loads.reduce((sum, load) => sum + load.amps, 0) + pulses + downstreamAmps;
  const fuseAmps = shape.choice.fuseAmps ?? fuseFor(loadAmps) ?? fuseRatings[fuseRatings.length - 1]!;
  const lengthMetres =
    shape.choice.lengthMetres ??
    (shape.loads.length > 1 ? TRUNK_METRES : Math.max(LONE_METRES, shape.loads[0]!.branchMetres));
  const fuseDistanceMetres = shape.choice.fuseDistanceMetres ?? FUSE_METRES;
  // A lone load hangs straight on the trunk; several hang on branches behind a splice.
  const branchOf = (metres: number) => (shape.loads.length > 1 ? Math.max(BRANCH_METRES, metres) : 0);
  // A branch must outlast the fuse, and may lose a part of the limit; a thick trunk cannot make up for a thin branch.
  const branchSquareMm = Math.max(
    sizeFor(fuseAmps, around, LEAST_SQUARE_MM),
    ...shape.loads.map(
      (load) =>
        sizeForDrop(
          load.amps,
          branchOf(load.branchMetres),
          shape.limitVolts * BRANCH_SHARE,
          around.series,
          LOADED_CELSIUS,
        ) ?? LEAST_SQUARE_MM,
    ),
  );
  const fixedOhms = fuseOhms(fuseAmps) + (shape.relay ? RELAY_CONTACT_OHMS : 0) + CONTACTS * POWER_CONTACT_OHMS;
  const dropAt = (squareMm: number) => {
    const shared = (wireOhms(squareMm, lengthMetres + fuseDistanceMetres, LOADED_CELSIUS) + fixedOhms) * loadAmps;
    let worst = { volts: shared, name: shape.name };
    for (const load of shape.loads) {
      const volts = shared + wireOhms(branchSquareMm, branchOf(load.branchMetres), LOADED_CELSIUS) * load.amps;
      if (volts > worst.volts) worst = { volts, name: load.name };
    }
    return worst;
  };
  const byDrop = sizeForDrop(loadAmps, lengthMetres, shape.limitVolts / 2, around.series, LOADED_CELSIUS);
  let squareMm =
    shape.choice.squareMm ?? Math.max(sizeFor(fuseAmps, around, LEAST_SQUARE_MM), byDrop ?? LEAST_SQUARE_MM);
  if (shape.choice.squareMm === undefined) {
    // One or two sizes up mends what branches and contacts add; beyond that the person must shorten or split.
    for (const size of seriesSizes(around.series))
      if (size.squareMm > squareMm && size.squareMm <= MOST_SQUARE_MM && dropAt(squareMm).volts > shape.limitVolts)
        squareMm = size.squareMm;
  }
  const drop = dropAt(squareMm);
  return {
    ...shape,
    pulsed,
    loadAmps,
    fuseAmps,
    fuseByPerson: shape.choice.fuseAmps !== undefined,
    squareMm,
    squareByPerson: shape.choice.squareMm !== undefined,
    branchSquareMm,
    carriesAmps: carriedAmps(squareMm, around),
    branchCarriesAmps: carriedAmps(branchSquareMm, around),
    lengthMetres,
    fuseDistanceMetres,
    dropVolts: drop.volts,
    worstLoad: drop.name,
  };
}

/** Sizes every circuit of a build. Circuits fed by the main relay count towards its load. */
export function circuitsOf(build: Build): Circuit[] {
  const shapes = circuitShapes(build);
  const windingAmps = WINDING_VOLTS / RELAY_WINDING_OHMS;
  const onMain = shapes.filter((shape) => shape.source === 'main');
  const windings = shapes.filter(
    (shape) => shape.relay && shape.role !== 'main' && shape.relay.control !== 'key-run',
  ).length;
  const downstream = onMain.reduce((sum, shape) => sum + shape.loads.reduce((all, load) => all + load.amps, 0), 0);
  return shapes.map((shape) =>
    sizeCircuit(build, shape, shape.role === 'main' ? downstream + windings * windingAmps : 0),
  );
}
