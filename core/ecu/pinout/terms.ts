import type { Ability } from '../ecu';
import { number, type Figures } from './figures';
import {
  amps,
  guess,
  likely,
  output,
  outputNumber,
  pairName,
  pullUp,
  side,
  sideOf,
  sure,
  threshold,
  type Reading,
} from './reading';

/** A range of an input, which is no supply. */
const zeroToFive = /0\s*(-|–|to|\.\.)\s*5\s*v/i;
/** Words of parts that a ground may be for. */
const sensorWord = '(?:knock|tps|throttle( position)?|map|maf|clt|iat|ect|temp(erature)?|pedal|app|lambda|o2|pressure)';

interface Rule {
  readonly test: RegExp;
  readonly not?: RegExp;
  readonly read: (text: string, match: RegExpExecArray, figures: Figures) => Reading;
}

const temperature = /\b(temp(erature)?s?|pt\s?1000?|clt|ect|iat|act|mat|ntc|thermistor|coolant|air temp)\b/i;

/**
 * What words make of a pin, in the order they are tried: the plain names of things before what hangs on them. Terms are the
 * trade's general ones (common practice).
 */
export const rules: readonly Rule[] = [
  {
    test: /\b(shield(ing|s)?|screen(ing|s)?|cable screen)\b(?!\s*(wiper|wash|heat))/i,
    not: /\b(in|out)put\b|\bwind\s*screen\b|\bheated\b|\bshielded\b/i,
    read: () => sure({ kind: 'shield' }),
  },
  {
    test: /\b(sensor|signal|sig|analog(ue)?|5 ?v)[\s-]*(gnd|ground|earth|return|0 ?v)\b|\b(gnd|ground)[\s,-]*(sensors?|signal)\b|\b0 ?v[\s-]*(sensors?|signal)\b|\bs_?gnd(?![a-z])|\bgnd_?s(?![a-z])|\bagnd\b/i,
    read: () => sure({ kind: 'sensor-ground' }),
  },
  {
    test: /\bcan\s*-?(?:buss?)?\s*(\d|[ab])?\s*[-_ ]?\s*(hi(?:gh)?|h|\+|lo(?:w)?|l|-|–)(?![a-z])/i,
    read: (_, match) =>
      sure({
        kind: 'can',
        pair: `can-${match[1]?.toLowerCase() ?? 1}`,
        side: /^(h|\+)/i.test(match[2]!) ? 'plus' : 'minus',
      }),
  },
  {
    test: /\b(egt|thermocouple|type[\s-]?k)\b/i,
    not: zeroToFive,
    read: (text) => sure({ kind: 'thermocouple', pair: pairName('egt', text), ...side(text) }),
  },
  {
    test: new RegExp(
      `\\b${sensorWord}\\s*(sensors?\\s*)?(gnd|ground|earth|return)\\b|\\b(gnd|ground|earth)\\s*(for\\s*|of\\s*)?${sensorWord}\\b`,
      'i',
    ),
    read: () => likely({ kind: 'sensor-ground' }, 'The ground of a sensor.'),
  },
  {
    test: /^\s*(power |pwr )?(gnd|ground|earth) (for|of)\b/i,
    not: /\b(sensors?|signal)\b/i,
    read: (_, __, figures) => likely({ kind: 'power-ground', ...amps(figures) }, 'The ground of what it names.'),
  },
  {
    test: /\b(drives?|switch(es)?|sinks?|pulls?|works?)\b[^;]*\b(to|against) (ground|gnd|earth)\b|\d\s*A (max )?(to|against) (ground|gnd|earth)\b/i,
    not: /\binj\w*|\b(ign(ition)?|coil|spark|input)\b/i,
    read: (text, _, figures) => {
      const ability = output('low-side', text, figures);
      return ability.maxAmps === undefined ? likely(ability, 'Its current is not told.') : sure(ability);
    },
  },
  { test: /\bknock\b/i, not: /\b(gnd|ground|shield|screen|return)\b/i, read: () => sure({ kind: 'knock' }) },
  {
    test: /\b(main|ecu|efi|power|system)\s*relay\b|\brelay\s*\(?main\b/i,
    // What comes from the relay is a supply; what goes to it is the output.
    not: /\b(from|fed by|via|behind|switched by|through|out of|87|kl ?15|switched supply)\b|\+\s*1[24]\s*v\b/i,
    read: (_, __, figures) => sure({ kind: 'main-relay', ...amps(figures) }),
  },
  {
    test: /\bstepper\b/i,
    read: (text, _, figures) => {
      const winding = /\b([ab12])\s*_?\s*([+\-–12])?(?!\d)/i.exec(
        text.replace(/stepper(\s*motor)?(\s*\d(?=\s*[ab]))?/i, ''),
      );
      const phase = winding && /[b2]/i.test(winding[1]!) ? 'b' : 'a';
      const minus = winding ? /[-–2]/.test(winding[2] ?? '') : false;
      return likely(
        { kind: 'stepper', pair: 'stepper-1', phase, side: minus ? 'minus' : 'plus', ...amps(figures) },
        'Check which two pins are one winding.',
      );
    },
  },
  {
    test: /\b(h-?bridge|half-?bridge|dbw|etb|etc|e-?throttle|throttle (control )?motor|drive-?by-?wire|dc motor|motor)\b/i,
    not: /\b(position|pos|tps|sensor|pedal|track|signal|relay)\b(?!\s*itive)/i,
    read: (text, _, figures) => {
      const at =
        sideOf(text) ??
        (/\b(out(put)?\s*)?[b2]\b/i.test(text) ? 'minus' : /\b(out(put)?\s*)?[a1]\b/i.test(text) ? 'plus' : undefined);
      const motor =
        /(?:motor|bridge|dbw|etb)\s*(\d|[a-d](?=\s*[+\-–]|\s+(?:pos|neg|plus|minus)))/i
          .exec(text)?.[1]!
          .toLowerCase() ?? 'a';
      return likely(
        { kind: 'half-bridge', pair: `motor-${motor}`, ...(at ? { side: at } : {}), ...amps(figures) },
        at ? '' : 'Which side of the pair is not told.',
      );
    },
  },
  {
    test: /\b(wideband|wbo2?|wb|lambda|o2)\b.*\b(heater|heat)\b|\bheater\b.*\b(wideband|lambda|o2)\b|\blambda heater\b/i,
    read: (text, _, figures) =>
      likely(output('low-side', `${text} pwm`, figures), 'A heater wants a fast, strong output.'),
  },
  {
    test: /\b(wideband|wbo2?|wb|lambda|o2)\b.*\b(pump|ip|reference|nernst|ref|vs|un|cell|virtual|vm)\b|\bnernst\b/i,
    not: zeroToFive,
    read: (text) => ({
      ability: {
        kind: 'wideband',
        pair: pairName('cell', text),
        cell: /\b(pump(?! ground)|ip)\b/i.test(text)
          ? 'pump'
          : /\b(ground|gnd|virtual|vm)\b/i.test(text)
            ? 'ground'
            : 'reference',
      },
      confidence: 'likely',
      why: 'Check pump, reference and ground of the cell.',
    }),
  },
  {
    test: /\b(push[\s-]?pull|totem[\s-]?pole)\b/i,
    not: /\b(motor|bridge|stepper|dbw|etb)\b/i,
    read: (text, _, figures) =>
      /\b(ign(ition|iter)?|coil|spark)s?\b/i.test(text)
        ? sure({
            kind: 'ignition-logic',
            ...outputNumber(text),
            ...(figures.volts !== undefined && figures.volts <= 16 ? { volts: figures.volts } : {}),
          })
        : guess(output('low-side', text, figures), 'Push-pull: it gives plus and ground. Which does its load want?'),
  },
  {
    test: /\bsupply[\s-]?out\b|\b(8|9|10|12) ?v(olts?)?\s*(sensor\s*)?(out(put)?\b|supply out|sensor supply)/i,
    read: (_, __, figures) =>
      sure({ kind: 'supply-out', ...(figures.volts ? { volts: figures.volts } : {}), ...amps(figures) }),
  },
  {
    test: /(?<![-–.\d]\s?)(\+?\b5 ?v(olts?)?)\b(?!\s*(logic|ttl|level|trigger|pull))|\bv?ref\b|\bsensor supply\b|\bvcc\b/i,
    not: /\b(logic|ttl|ign(ition)?|coil|spark|analog(ue)?|input|\bin\b|pull[\s-]?up)\b|0\s*(-|–|to|\.\.|\/)\s*5 ?v/i,
    read: (_, __, figures) =>
      figures.amps
        ? sure({ kind: 'supply-5v', maxAmps: figures.amps })
        : likely({ kind: 'supply-5v' }, 'Its current is not told.'),
  },
  // What works a load from the plus side, in the words of its current.
  {
    test: /\b(sources?|sourcing)\b(?!\s*(of|code))|\b(switches|feeds|supplies|delivers)\s*(out\s*)?\+?\s*(1[24]\s*v|batt?(ery)?\b|plus|positive)|\bout(put)?s?\b[^;]*?(?<![-–.\d]\s?)\+?\b1[24]\s*v\b/i,
    not: /\b(logic|ttl|ign(ition)?|coil|spark|igniter|level|sinks?|low[\s-]?side|input|ground|gnd|inj\w*|sensor|relay)\b/i,
    read: (text, _, figures) =>
      /\b(sourc|high[\s-]?side)/i.test(text)
        ? sure(output('high-side', text, figures))
        : likely(output('high-side', text, figures), 'Read as an output that gives plus.'),
  },
  {
    test: /\b(start(er)?|crank(ing)?)[\s-]*(signal|request|sense|sig)\b|\b(kl\.?|terminal|klemme)\s*50\b|\bsignal\b.*\bstarter\b/i,
    not: /\b(out(put)?|relay|drive[rs]?|control)\b|\bcrank\s*(sensor|sig)/i,
    read: (text, _, figures) =>
      likely({ kind: 'switch', ...pullUp(text, figures) }, 'A signal of the starter: an input.'),
  },
  {
    test: /\b(permanent|constant|battery|batt|unswitched|always on|kl ?30|keep[\s-]?alive|b\+|vbat)\b|\bbat(tery)?\s*\+/i,
    not: /\b(ground|gnd|neg(ative)?|voltage sense|sense)\b/i,
    read: () => sure({ kind: 'permanent' }),
  },
  {
    test: /\b(switched|ignition switch|ign(ition)? ?(sw|feed|supply|power|12 ?v|on)|key(ed)?[\s-]?on|kl ?15|\+?1[24] ?v( in(put)?| supply| power| feed)?|main supply|ecu (supply|power)|power supply|supply in|v(cc|dd)? ?in)\b/i,
    not: /0\s*(-|–|to|\.\.)\s*5 ?v|\b(ground|gnd|relay(?!.*\b(from|87)\b)(?<!(from|via|behind|through)\b.*relay)|logic|output|out|(coil|ign(ition)?|spark)\s*\d|driver|level|low[\s-]?side|high[\s-]?side|injector)\b/i,
    // Beside the name of a load, a supply may as well be what feeds that load.
    read: (text) =>
      /\b(pump|fan|injectors?|coils?|relay|heater|solenoid|valve|sensors?)\b/i.test(text) &&
      !/\b(from|via|behind|87)\b/i.test(text)
        ? guess({ kind: 'switched' }, 'A supply named with a load: does it feed the ECU or that load?')
        : sure({ kind: 'switched' }),
  },
  {
    test: /\b(low[\s-]?imp|peak[\s-]?(and|&|n)[\s-]?hold|p&h)\b.*\binj|\binj(ector|ection)?s?\b.*(peak[\s-]?(and|&|n)[\s-]?hold|p&h)/i,
    read: (text, _, figures) => {
      const hold = /hold\D{0,4}(\d+(?:[.,]\d+)?)\s*A\b/i.exec(text);
      return sure({
        kind: 'injector',
        ...outputNumber(text),
        drive: 'peak-hold',
        ...amps(figures),
        ...(hold ? { holdAmps: number(hold[1]!) } : {}),
        ...(figures.ohms ? { minOhms: figures.ohms } : {}),
      });
    },
  },
  {
    test: /\binj(ector|ection)?s?[\s_-]*(out(put)?|driver|drive|bank)?[\s_#-]*\d*/i,
    not: /\b(water|methanol|alcohol)\b|\binj\w*\s+(pump|pressure|supply|12 ?v)\b/i,
    read: (text, _, figures) => {
      const ability: Ability = {
        kind: 'injector',
        ...outputNumber(text),
        ...amps(figures),
        ...(figures.ohms ? { minOhms: figures.ohms } : {}),
      };
      return ability.output === undefined || ability.maxAmps === undefined
        ? likely(ability, ability.output === undefined ? 'Its number is not told.' : 'Its current is not told.')
        : sure(ability);
    },
  },
  {
    test: /\b(ign(ition)?|coil|spark|igbt|est)s?[\s_-]*(out(put)?|driver|drive|trigger|logic)?[\s_#-]*\d*/i,
    // The coil of a relay is none of a spark plug.
    not: /\bign(ition)?\s*(switch|sw\b|on\b|input|sense|feed)|\brelay\b|\b(switch|solenoid|valve|pump|fan)\s+coil\b/i,
    read: (text, _, figures) => {
      const driver =
        /\b(igbt|driver|direct|dumb|built[\s-]?in igniter|internal igniter|primary)\b/i.test(text) ||
        (figures.amps ?? 0) >= 4;
      const both =
        driver &&
        /\b(logic|ttl|to igniter|external igniter)\b/i.test(text) &&
        !/\b(built[\s-]?in|internal|integrated)\b/i.test(text);
      if (both)
        return guess(
          { kind: 'ignition-logic', ...outputNumber(text) },
          'Called a driver and logic: a coil without an igniter would burn a logic output. Look it up.',
        );
      const told = driver || /\b(logic|ttl|5 ?v|12 ?v|trigger|igniter|smart)\b/i.test(text);
      const level = !driver && figures.volts !== undefined && figures.volts <= 16 ? { volts: figures.volts } : {};
      const ability: Ability = {
        kind: driver ? 'ignition-driver' : 'ignition-logic',
        ...outputNumber(text),
        ...(driver ? amps(figures) : level),
      };
      return told && ability.output !== undefined
        ? sure(ability)
        : likely(
            ability,
            told ? 'Its number is not told.' : 'Taken as logic level: a coil without an igniter would burn it.',
          );
    },
  },
  {
    test: /\b(vr|reluctor|inductive|variable reluctance)\b.*\b(single[\s-]?ended|one (pin|wire)|single (pin|wire|input))\b|\b(single[\s-]?ended|one[\s-](pin|wire)|single (pin|wire))\b.*\b(vr|reluctor|inductive)\b/i,
    read: () => sure({ kind: 'vr' }, 'Its return goes to the sensor ground.'),
  },
  {
    test: /\b(vr|reluctor|inductive|variable reluctance|magnetic|mag pick-?up)\b/i,
    read: (text) =>
      sure({ kind: 'vr', pair: pairName(/\bcam|cmp|sync\b/i.test(text) ? 'vr-cam' : 'vr', text), ...side(text) }),
  },
  {
    test: /\b(crank(shaft)?|cam(shaft)?|ckp|cmp|trigger|sync|home)\b\s*(sensor|signal|input|in)?\s*\d?\s*[(,:]?\s*([+\-–−](?!\s*\d)|pos(itive)?\b(?!ition)|neg(ative)?\b|(hi|lo|high|low)\b)/i,
    read: (text) =>
      likely(
        { kind: 'vr', pair: pairName(/\bcam|cmp|sync|home\b/i.test(text) ? 'vr-cam' : 'vr', text), ...side(text) },
        'A plus and a minus: read as a VR pair.',
      ),
  },
  {
    test: /\b(hall|digital trigger|trigger|crank(shaft)?|cam(shaft)?|ckp|cmp|sync|home|optical)\b/i,
    not: /\b(relay|out(put)?|solenoid|vvt|phaser|valve|launch|start)\b/i,
    read: (text, _, figures) => {
      const ability: Ability = {
        kind: 'hall',
        ...(figures.hz ? { maxHz: figures.hz } : {}),
        ...pullUp(text, figures),
        ...threshold(text),
      };
      return /\b(hall|digital|square|optical)\b/i.test(text)
        ? sure(ability)
        : likely(ability, 'Read as a square-wave trigger.');
    },
  },
  {
    test: /\b(switch(ed)? (in(put)?)?|switch|digital in(put)?|on\/off in(put)?|d\.?i\.?\s*\d|din\s*\d|logic in(put)?)\b/i,
    not: /\b(output|out|low[\s-]?side|high[\s-]?side|freq(uency)?)\b/i,
    read: (text, _, figures) => sure({ kind: 'switch', ...pullUp(text, figures) }),
  },
  {
    test: /\b(freq(uency)?|speed|vss|flex(ible)?[\s-]?fuel|ethanol|pulse in(put)?|counter|wheel speed)\b/i,
    not: /\b(out(put)?|pwm|idle|solenoid|valve|fan|motor)\b/i,
    read: (text, _, figures) => {
      const ability: Ability = {
        kind: 'frequency',
        ...(figures.hz ? { maxHz: figures.hz } : {}),
        ...pullUp(text, figures),
        ...threshold(text),
      };
      return /\bfreq/i.test(text) ? sure(ability) : likely(ability, 'A frequency by what hangs on it.');
    },
  },
  {
    test: temperature,
    not: /\b(out(put)?|fan|relay|0\s*-\s*5 ?v|gauge)\b/i,
    read: (text, _, figures) => {
      const told = {
        ...pullUp(text, figures),
        ...(figures.ohms && !/pull/i.test(text) ? { pullUpOhms: figures.ohms } : {}),
      };
      return told.pullUpOhms === undefined || (!figures.ohms && /pull/i.test(text))
        ? guess(
            { kind: 'analog', ...told, pullUpOhms: 2490 },
            'Pull-up not told: 2490 Ω assumed. Put in the right figure.',
          )
        : likely({ kind: 'analog', ...told }, '');
    },
  },
  {
    test: /\b(high[\s-]?side|hs\s*\d|hso|hs out(put)?|hs driver)\b/i,
    read: (text, _, figures) => sure(output('high-side', text, figures)),
  },
  {
    test: /\b(low[\s-]?side|ls\s*\d|lso|ls out(put)?|open[\s-]?(collector|drain)|gp(io|o|out)?\s*\d*|aux(iliary)?\s*(out(put)?)?|out(put)?s?\s*\d*|pwm|driver)\b/i,
    not: /\b(analog(ue)?|temp|input)\b/i,
    read: (text, _, figures) => {
      const ability = output('low-side', text, figures);
      return ability.maxAmps === undefined
        ? likely(ability, 'Its current is not told.')
        : ability.maxHz === undefined
          ? likely(ability, 'PWM, but the frequency is not told.')
          : sure(ability);
    },
  },
  {
    test: /\banalog(ue)?\b|\ban[\s_-]*v(olt(s|age)?)?[\s_-]*\d+\b|\ba\.?i\.?n?\s*\d+\b|\bav\s*\d+\b|\badc\s*\d*\b|\ban\s*\d+\b|\b0\s*(-|–|to|\.\.)\s*5 ?v/i,
    read: (text, _, figures) => {
      const [from, to] = figures.range ?? [undefined, undefined];
      return sure({
        kind: 'analog',
        ...(from === undefined || to === undefined ? {} : { fromVolts: from, toVolts: to }),
        ...pullUp(text, figures),
      });
    },
  },
  {
    test: /\b(fan|pump|solenoid|valve|purge|boost|wastegate|vvt|idle|iac|tacho(meter)?|mil|check engine|(shift|warning|engine|indicator|control) (light|led)|led|lamp|relay|clutch relay|a\/?c (clutch|compressor)|nitrous|alternator (control|field)|starter)\b/i,
    not: /\b(sensor|input|switch|request|pressure|temp|sense|position)\b/i,
    read: (text, _, figures) => likely(output('low-side', text, figures), 'An output by what hangs on it.'),
  },
  {
    test: /\b(tps|throttle|pedal|app|pps|map|manifold|baro(meter)?|maf|press(ure)?|position|level|potentiometer|o2|lambda|afr|wideband|sensor)\b/i,
    read: () => likely({ kind: 'analog' }, 'An analog input by what hangs on it.'),
  },
  // No function is named: what is said of direction, range, pull-up and current tells what it can be.
  {
    test: /\binput\b[^;]*\b\d+(?:[.,]\d+)?\s*k?Hz\b/i,
    read: (text, _, figures) =>
      likely(
        { kind: 'frequency', ...(figures.hz ? { maxHz: figures.hz } : {}), ...pullUp(text, figures) },
        'An input with a highest frequency.',
      ),
  },
  {
    test: /\binput\b[^;]*\bpull[\s-]?up|\bpull[\s-]?up/i,
    not: /\bout(put)?\b/i,
    read: (text, _, figures) =>
      guess({ kind: 'analog', ...pullUp(text, figures) }, 'An input with a pull-up: for a thermistor or a switch.'),
  },
  {
    test: /\b(button|clutch|brake|neutral|park|launch|request|start|pressed|interlock|stand|tilt)\b/i,
    read: (text, _, figures) =>
      likely({ kind: 'switch', ...pullUp(text, figures) }, 'A switch input by what hangs on it.'),
  },
  {
    test: /\b(power|pwr|main|engine|ecu|chassis|case|battery|driver|digital)?[\s-]*(gnd|ground|earth|neg(ative)?|0 ?v)\b|\bp\.?[\s-]?gnd\b|\bbat(tery)?\s*[-–]/i,
    read: (text, _, figures) => {
      const ability: Ability = { kind: 'power-ground', ...amps(figures) };
      return /\b(power|pwr|main|engine|chassis|battery|driver|p-?gnd)\b/i.test(text)
        ? sure(ability)
        : likely(ability, 'Ground: taken as a power ground.');
    },
  },
];
