import type { Build } from '../build/schema';
import { busFigures, membersOf } from '../netlist/bus';
import { reading, type Draft } from './checks';

/** A dead bus may read this share off: a meter, two plugs, a termination of 1 % (common practice). */
const BUS_SHARE = 0.1;
/** A line at rest may read this far off while others talk (common practice: 2.2 to 2.8 V on a meter). */
const BUS_VOLTS = 0.4;
const liveBuses = (build: Build) => build.buses.filter((bus) => membersOf(build, bus).length > 0);

/** Ohms across each pair before there is power: two terminations make 60. */
export const busOhmsChecks = (build: Build): Draft[] =>
  liveBuses(build).map((bus) => {
    const { ohms, withoutEcu } = busFigures(build, bus);
    return reading(
      `ohms-${bus.id}`,
      `${bus.name}, high against low, battery off and all plugged in`,
      'Ω',
      Math.round(ohms * (1 - BUS_SHARE)),
      Math.round(ohms * (1 + BUS_SHARE)),
      `${ohms.toFixed(0)} Ω; with the ECU unplugged ${withoutEcu === null ? 'open' : `${withoutEcu.toFixed(0)} Ω`}. 120: one end is missing. 0: the lines touch.`,
    );
  });

/** Volts of both lines with the key on. */
export const busVoltsChecks = (build: Build): Draft[] =>
  liveBuses(build).flatMap((bus) =>
    (['high', 'low'] as const).map((line) =>
      reading(
        `volts-${bus.id}-${line}`,
        `${bus.name}, ${line} against ground`,
        'V',
        busFigures(build, bus).restVolts - BUS_VOLTS,
        busFigures(build, bus).restVolts + BUS_VOLTS,
        line === 'high' ? 'About 2.5 V at rest, a little more while it talks.' : 'About 2.5 V at rest, a little less.',
      ),
    ),
  );
