import { curveOf } from '../devices/curve';
import { formatOhms } from '../units/format';
import { unplugged, type Case, type Hypothesis } from './hypothesis';
import { pinUnit, pulledUpOhms, pulledUpVolts, valueAtPin } from './sensor';

/** Pull-ups that stand in ECUs, and resistors that lie in workshops, ohms (common practice). */
const RESISTORS = [680, 1000, 1500, 2000, 2200, 2490, 2700, 3000, 3300, 3900, 4700, 5600, 6800, 8200, 10000];
const USUAL = new Set([1000, 2200, 2490, 4700, 10000]);
/** A wet or green plug between two terminals, ohms (from memory). */
const LEAKS = [1000, 2200, 4700, 10000, 22000, 47000];

/** Resistors beside a resistive sensor: a second pull-up, another one in the ECU, a wet plug. */
export function resistorCauses(one: Case): Hypothesis[] {
  const { at, expected, follows, inside, pinSigma, right, valueSigma } = one;
  const found: Hypothesis[] = [];
  if (at.sensor.signal !== 'ohms' || at.pullUpOhms === null) return found;
  const ohms = curveOf(at.sensor.curve).signalOf(expected.value);
  // An outside resistor the build knows of is part of what is expected; the others are mistakes.
  if (ohms !== null && at.pullUpOhms !== null) {
    for (const extra of RESISTORS) {
      const both = (at.pullUpOhms * extra) / (at.pullUpOhms + extra);
      found.push({
        code: 'second-pull-up',
        family: 'second-pull-up',
        weight: USUAL.has(extra) ? 0.6 : 0.1,
        sentence: `Two pull-ups: a resistor of about ${formatOhms(extra)} lifts the pin beside the ${formatOhms(at.pullUpOhms)} that are known.`,
        check: `Unplugged and key off, measure pin to 5 V: about ${formatOhms(both)} instead of ${formatOhms(at.pullUpOhms)} means a second resistor.`,
        pin: { at: pulledUpVolts(ohms, both), sigma: pinSigma },
        shows: follows(pulledUpVolts(ohms, both)),
      });
    }
    for (const own of RESISTORS) {
      if (inside === null || Math.abs(own - inside) < 0.04 * inside) continue;
      const { pullUpOhms: outside } = at.device;
      const total = outside === null ? own : (own * outside) / (own + outside);
      found.push({
        code: 'ecu-pull-up',
        family: 'ecu-pull-up',
        weight: USUAL.has(own) ? 0.2 : 0.04,
        sentence: `The pull-up in the ECU is about ${formatOhms(own)}, not ${formatOhms(inside)}: then the ECU may well show the right figure.`,
        check: `Unplugged and key on, load the pin with a known resistor: ${formatOhms(own)} to ground must halve 5 V.`,
        pin: { at: pulledUpVolts(ohms, total), sigma: pinSigma },
        // The ECU knows its own resistor, or is set to the one the definition names.
        shows: (pin) =>
          pin === null
            ? null
            : { at: valueAtPin({ sensor: at.sensor, pullUpOhms: total }, pin) ?? Number.NaN, sigma: valueSigma },
      });
    }
  }
  const held = right === null ? null : pulledUpOhms(right, at.pullUpOhms);
  if (held !== null && pinUnit(at.sensor) === 'V')
    for (const leak of LEAKS) {
      const gives = pulledUpVolts((held * leak) / (held + leak), at.pullUpOhms);
      found.push({
        code: 'wet-plug',
        family: 'wet-plug',
        weight: 0.2,
        sentence: `A wet or dirty plug: about ${formatOhms(leak)} lie across its terminals.`,
        check: `${unplugged}: under 5 V with nothing on it is the plug or the wire. Dry it, clean it, look for green.`,
        pin: { at: gives, sigma: pinSigma },
        shows: follows(gives),
      });
    }
  return found;
}
