import type { Build } from '../build/schema';
import { remember } from '../data/remember';
import type { Pin } from '../ecu/ecu';
import { inEnglish } from '../ecu/pinout/glossary';
import type { Need } from '../netlist/needs';

/*
 * What the words of a pin speak of. A maker who writes 'Fuel pump relay' beside a cavity means the fuel pump relay: among
 * pins that can do the same, that one is taken, and others keep clear of it. Terms are the trade's general ones (common
 * practice). A phrase is taken out of the text once it is understood, so that 'fuel pump' is no longer just a pump.
 */
const topics: readonly (readonly [string, RegExp])[] = [
  ['fuel pump', /\b(fuel|petrol|lift|gas) ?pumps?\b|\bfp\b/g],
  ['fuel pressure', /\bfuel (rail )?press(ure)?\b/g],
  ['fuel level', /\bfuel (level|gauge|sender)\b/g],
  ['fuel temperature', /\bfuel temp(erature)?\b/g],
  ['fuel composition', /\bflex([ -]?fuel)?\b|\bethanol\b|\bfuel composition\b/g],
  ['oil pressure', /\boil press(ure)?\b/g],
  ['oil temperature', /\b(oil|gearbox( oil)?) temp(erature)?\b/g],
  ['exhaust temperature', /\begt\b|\bexhaust (gas )?temp(erature)?\b|\bthermocouple\b/g],
  ['coolant temperature', /\b(coolant|water|engine) temp(erature)?\b|\bclt\b|\bect\b|\bcoolant\b/g],
  ['air temperature', /\b(intake |inlet |manifold |charge )?air temp(erature)?\b|\biat\b|\bmat\b|\bact\b/g],
  ['water pump', /\b(water|coolant) pump\b/g],
  ['fan', /\bfans?\b/g],
  ['tachometer', /\btach(o(meter)?)?\b|\brev counter\b|\brpm out(put)?\b/g],
  ['idle', /\bidle\b|\biac\b|\bisc\b|\biscv\b/g],
  ['boost', /\bboost\b|\bwastegate\b/g],
  ['cam phaser', /\bvvt\b|\bphaser\b|\bcam (control|solenoid|phaser)\b/g],
  ['engine lamp', /\bcheck engine\b|\bmil\b|\bcel\b|\b(engine|warning) (lamp|light)\b/g],
  ['shift light', /\bshift (light|lamp)\b/g],
  ['air conditioning', /\ba\/?c\b|\bair con(ditioning)?\b|\bcompressor\b/g],
  ['main relay', /\b(main|ecu|efi) relay\b/g],
  ['start button', /\bstart (button|signal|request|switch)\b/g],
  ['starter', /\bstarter\b|\bstart relay\b|\bcrank(ing)? relay\b/g],
  ['alternator', /\balternator\b|\bcharge (control|lamp)\b/g],
  ['purge', /\bpurge\b|\bcanister\b|\bevap\b/g],
  ['nitrous', /\bnitrous\b/g],
  ['pedal', /\b(accelerator )?pedal\b|\bapps?\b|\bpps\b/g],
  ['throttle', /\btps\b|\bthrottle\b/g],
  ['manifold pressure', /\bmap\b|\bmanifold\b/g],
  ['barometer', /\bbaro(meter|metric)?\b/g],
  ['air mass', /\bmaf\b|\bair ?(mass|flow)\b/g],
  ['turbine speed', /\bturbo(charger)? speed\b/g],
  ['vehicle speed', /\b(vehicle|road|wheel) speed\b|\bvss\b|\bspeed\b/g],
  ['clutch', /\bclutch\b/g],
  ['brake', /\bbrake\b/g],
  ['neutral', /\bneutral\b/g],
  ['launch', /\blaunch\b/g],
  ['reverse', /\breverse (switch|light)\b/g],
  ['crank', /\bcrank(shaft)?\b|\bckp\b/g],
  ['cam', /\bcam(shaft)?\b|\bcmp\b|\bsync\b|\bhome\b/g],
  ['knock', /\bknock\b/g],
  ['lambda', /\blambda\b|\bo2\b|\boxygen\b|\bwideband\b|\bnarrow-?band\b|\bafr\b/g],
  ['steering', /\b(power )?steering\b/g],
];

/** Topics of a text, by their place in the list above. */
export function topicsIn(text: string): readonly string[] {
  let rest = inEnglish(text).toLowerCase();
  const found: string[] = [];
  for (const [name, pattern] of topics) {
    const next = rest.replace(pattern, ' ; ');
    if (next === rest) continue;
    found.push(name);
    rest = next;
  }
  return found;
}

const remembered = remember(topicsIn);

/** How far the words of a pin fit a need: 0 it is named there, 1 the pin is named after nothing, 2 after something else. */
export type WordMiss = 0 | 1 | 2;

export function wordMiss(pinLabel: string, needWords: string): WordMiss {
  const named = remembered(pinLabel);
  if (named.length === 0) return 1;
  const asked = remembered(needWords);
  return named.some((topic) => asked.includes(topic)) ? 0 : 2;
}

/** What a need is called, by its label and by the kind of its device. */
export function needWords(build: Build): (need: Need) => string {
  const nameOf = new Map(build.devices.map((device) => [device.id, build.kinds[device.kindId]?.name ?? '']));
  return (need) => `${need.label}, ${need.deviceId === null ? '' : (nameOf.get(need.deviceId) ?? '')}`;
}

/** The same for the pins of a model, by their place: first for a need, then for each pin. */
export function wordsOf(build: Build, pins: readonly Pin[]): (need: Need) => (pin: number) => WordMiss {
  const wordsFor = needWords(build);
  const named = pins.map((pin) => remembered(pin.label));
  return (need) => {
    const own = remembered(wordsFor(need));
    return (pin) => (named[pin]!.length === 0 ? 1 : named[pin]!.some((topic) => own.includes(topic)) ? 0 : 2);
  };
}
