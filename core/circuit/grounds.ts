import type { Build } from '../build/schema';
import { groundEnd } from '../ends/ends';
import { strapOhms } from './battery';
import { parts } from './figures';
import { voltsBetween } from './reading';
import type { Solution } from './solve';
import { ecuReturnAmps } from '../netlist/ecu-return';
import { groundPins } from '../netlist/ground-pins';
import type { Netlist } from '../netlist/netlist';
import { CONTACT_OHMS, LOADED_CELSIUS, LUG_OHMS } from '../power/sizes';
import { wireOhms } from '../wire/wire';

export interface GroundFigure {
  readonly place: 'battery' | 'head';
  /** Return current of the ECU's own outputs, amperes. */
  readonly amps: number;
  readonly ohms: number;
  readonly shiftVolts: number;
  /** The shift as an error of a 0-5 V manifold signal whose sensor is grounded elsewhere, kPa on a 300 kPa span. */
  readonly errorKpa: number;
}

/** A ground wire of the ECU, and its metres where nothing else is said (common practice). */
const GROUND_SQUARE_MM = 1.5;
const GROUND_METRES = 1;
/** A manifold sensor of 300 kPa runs over 4 V, from 0.5 to 4.5 (common practice). */
const MANIFOLD_KPA = 300;
const MANIFOLD_VOLTS = 4;

/**
 * Ground shift of both schools: the ECU's return current times the resistance it shares (its ground wires in parallel,
 * and at the head also the engine strap, which carries the coils' and motors' return as well).
 */
export function groundFigures(
  build: Build,
  groundWires: number,
  ecuReturnAmps: number,
  strapAmps: number,
): GroundFigure[] {
  const wires = Math.max(1, groundWires);
  const strap = wireOhms(build.power.strapSquareMm, build.power.strapMetres, LOADED_CELSIUS) + 2 * LUG_OHMS;
  return (['battery', 'head'] as const).map((place) => {
    const ohms =
      (wireOhms(GROUND_SQUARE_MM, build.power.groundMetres[place] ?? GROUND_METRES, LOADED_CELSIUS) +
        CONTACT_OHMS +
        LUG_OHMS) /
      wires;
    const shared = place === 'head' ? strap * (strapAmps + ecuReturnAmps) : 0;
    const shiftVolts = ohms * ecuReturnAmps + shared;
    return { place, amps: ecuReturnAmps, ohms, shiftVolts, errorKpa: (shiftVolts / MANIFOLD_VOLTS) * MANIFOLD_KPA };
  });
}

/** Both schools for this build: the ECU's return current from its placed outputs, the strap shared with the coils. */
export function groundSchools(build: Build, net: Netlist): GroundFigure[] {
  const coils = net.circuits.find((circuit) => circuit.role === 'coils')?.loadAmps ?? 0;
  return groundFigures(build, groundPins(build).power.length, ecuReturnAmps(build, net.needs), coils);
}

/** What runs to the battery's negative post through the strap and through the body, in a solved state, amperes. */
export function jointAmps(build: Build, solution: Solution): { readonly strap: number; readonly body: number } {
  const above = (place: 'head' | 'chassis') => voltsBetween(solution, groundEnd(place), groundEnd('battery')) ?? 0;
  return { strap: above('head') / strapOhms(build), body: above('chassis') / parts.bodyToBattery.value };
}
