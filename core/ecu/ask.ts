import { z } from 'zod';
import { abilityKinds, type Ability, type Pin } from './ecu';

/** What a device terminal asks of an ECU pin. */
export const askSchema = z.object({
  kind: z.enum(abilityKinds),
  amps: z.number().min(0).max(60).optional(),
  /** Lowest pin frequency that will do, hertz. */
  hz: z.number().min(0).max(100000).optional(),
  /** Load resistance, ohms (injectors). */
  ohms: z.number().positive().max(1000).optional(),
  /** True: a pull-up must be there. False: none may be on. Absent: either. */
  pullUp: z.boolean().optional(),
  side: z.enum(['plus', 'minus']).optional(),
  cell: z.enum(['pump', 'reference', 'ground']).optional(),
  /** Winding of a stepper motor. */
  phase: z.enum(['a', 'b']).optional(),
  /** Level a logic input wants, or a supply out, volts; absent: 5 V or either. */
  volts: z.number().positive().max(60).optional(),
});
export type Ask = z.infer<typeof askSchema>;
/** What is asked of a pin: of one terminal, or of several that hang on it in parallel. */
export type Wanted = Ask & {
  /** Ohms of all the injectors on one output together. */
  readonly parallelOhms?: number;
};

/** Why a pin does not serve, as data; words are made by `missSentence`. */
export type Miss =
  | { code: 'kind' }
  | { code: 'amps'; asked: number; limit: number }
  | { code: 'hz'; asked: number; limit: number }
  | { code: 'ohms'; asked: number; limit: number; together?: true }
  | { code: 'pull-up'; wanted: boolean }
  | { code: 'side' }
  | { code: 'volts'; asked: number; level: number };

function missOf(ability: Ability, ask: Wanted): Miss | null {
  if (ability.kind !== ask.kind) return { code: 'kind' };
  if (ask.amps !== undefined && ability.maxAmps !== undefined && ask.amps > ability.maxAmps)
    return { code: 'amps', asked: ask.amps, limit: ability.maxAmps };
  if (ask.hz !== undefined && ability.maxHz !== undefined && ask.hz > ability.maxHz)
    return { code: 'hz', asked: ask.hz, limit: ability.maxHz };
  if (ask.ohms !== undefined && ability.minOhms !== undefined && ask.ohms < ability.minOhms)
    return { code: 'ohms', asked: ask.ohms, limit: ability.minOhms };
  // Where the driver's amperes are known they decide over several in parallel; else its ohms do.
  if (
    ask.parallelOhms !== undefined &&
    ability.maxAmps === undefined &&
    ability.minOhms !== undefined &&
    ask.parallelOhms < ability.minOhms
  )
    return { code: 'ohms', asked: ask.parallelOhms, limit: ability.minOhms, together: true };
  if (ask.volts !== undefined && ability.volts !== undefined && Math.abs(ask.volts - ability.volts) > 0.5)
    return { code: 'volts', asked: ask.volts, level: ability.volts };
  if (ask.pullUp === true && ability.pullUpOhms === undefined) return { code: 'pull-up', wanted: true };
  if (ask.pullUp === false && ability.pullUpOhms !== undefined && !ability.pullUpSwitchable)
    return { code: 'pull-up', wanted: false };
  // An input of one pin takes the signal; the return of that winding goes to the sensor ground.
  if (ask.kind === 'vr' && ask.side === 'minus' && ability.pair === undefined) return { code: 'side' };
  if (ask.side !== undefined && ability.side !== undefined && ask.side !== ability.side) return { code: 'side' };
  if (ask.cell !== undefined && ability.cell !== undefined && ask.cell !== ability.cell) return { code: 'side' };
  if (ask.phase !== undefined && ability.phase !== undefined && ask.phase !== ability.phase) return { code: 'side' };
  return null;
}

/** The first ability of the pin that serves the ask (of the pair named, if one is), or the nearest miss. */
export function serve(
  pin: Pick<Pin, 'abilities'>,
  ask: Wanted,
  pair?: string,
): { ability: Ability; miss: null } | { ability: null; miss: Miss } {
  let nearest: Miss = { code: 'kind' };
  for (const ability of pin.abilities) {
    if (pair !== undefined && ability.pair !== pair) continue;
    const miss = missOf(ability, ask);
    if (miss === null) return { ability, miss: null };
    if (miss.code !== 'kind') nearest = miss;
  }
  return { ability: null, miss: nearest };
}

const kindWords: Record<Ask['kind'], string> = {
  injector: 'injector driver',
  'ignition-logic': 'logic ignition output',
  'ignition-driver': 'coil driver',
  'low-side': 'low-side output',
  'high-side': 'high-side output',
  'half-bridge': 'half-bridge pair',
  stepper: 'stepper output',
  analog: 'analog input',
  switch: 'switch input',
  frequency: 'frequency input',
  vr: 'VR pair',
  hall: 'square-wave trigger input',
  knock: 'knock input',
  wideband: 'wideband cell input',
  thermocouple: 'thermocouple pair',
  can: 'CAN pair',
  'supply-5v': '5 V supply',
  'supply-out': 'supply out',
  'sensor-ground': 'sensor ground',
  'power-ground': 'power ground',
  shield: 'shield',
  permanent: 'permanent supply',
  switched: 'switched supply',
  'main-relay': 'main relay output',
};
export const kindWord = (kind: Ask['kind']): string => kindWords[kind];

/** The ask in words: `low-side output above 30 Hz`. */
export function askWords(ask: Ask): string {
  if (ask.kind === 'low-side' && ask.hz) return `PWM output of ${ask.hz} Hz or more`;
  if (ask.kind === 'analog' && ask.pullUp) return 'analog input with pull-up';
  if (ask.kind === 'analog' && ask.pullUp === false) return 'analog input without pull-up';
  return kindWords[ask.kind];
}

export function missSentence(miss: Miss, ask: Ask): string {
  switch (miss.code) {
    case 'kind':
      return `is no ${kindWords[ask.kind]}`;
    case 'amps':
      return `carries ${miss.limit} A, ${miss.asked} A are asked`;
    case 'hz':
      return miss.limit === 0
        ? `switches on and off only, ${miss.asked} Hz are asked`
        : `reaches ${miss.limit} Hz, ${miss.asked} Hz are asked`;
    case 'ohms':
      return `stands ${miss.limit} Ω and more, ${miss.together ? 'the injectors together have' : 'the injector has'} ${miss.asked} Ω`;
    case 'pull-up':
      return miss.wanted ? 'has no pull-up' : 'has a fixed pull-up';
    case 'side':
      return 'is the other side of its pair';
    case 'volts':
      return `is at ${miss.level} V, ${miss.asked} V are asked`;
  }
}
