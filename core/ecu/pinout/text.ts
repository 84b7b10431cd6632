import type { Ability, AbilityKind } from '../ecu';

const kindTexts: Record<AbilityKind, string> = {
  injector: 'injector',
  'ignition-logic': 'ignition logic',
  'ignition-driver': 'ignition driver',
  'low-side': 'low-side',
  'high-side': 'high-side',
  'half-bridge': 'half-bridge motor',
  stepper: 'stepper',
  analog: 'analog',
  switch: 'switch input',
  frequency: 'frequency',
  vr: 'VR',
  hall: 'hall',
  knock: 'knock',
  wideband: 'wideband cell',
  thermocouple: 'thermocouple',
  can: 'CAN',
  'supply-5v': '5 V',
  'supply-out': 'supply out',
  'sensor-ground': 'sensor ground',
  'power-ground': 'power ground',
  shield: 'shield',
  permanent: 'permanent supply',
  switched: 'switched supply',
  'main-relay': 'main relay',
};

const signOf = (at: Ability['side']): string => (at === 'plus' ? ' +' : at === 'minus' ? ' -' : '');

/** An ability in words that `proposeFrom` reads back: what a CSV of a definition holds. */
export function abilityText(ability: Ability): string {
  const name: string[] = [kindTexts[ability.kind]];
  // Crank and cam each have a first pair: the name tells which.
  if (ability.kind === 'vr' && /cam/i.test(ability.pair ?? '')) name.push('cam');
  if (ability.kind === 'vr' && ability.pair === undefined) name.push('single-ended');
  if (ability.drive === 'peak-hold') name.push('peak and hold');
  if (ability.output !== undefined) name.push(String(ability.output));
  if (ability.kind === 'stepper') name.push(`${ability.phase ?? 'a'}${signOf(ability.side).trim()}`);
  else if (ability.kind === 'wideband') name.push(ability.cell ?? 'reference', ability.pair?.replace(/^.*-/, '') ?? '');
  else if (ability.pair !== undefined) name.push(`${ability.pair.replace(/^.*-/, '')}${signOf(ability.side)}`);
  const figures: string[] = [name.filter((part) => part !== '').join(' ')];
  if (ability.volts !== undefined) figures.push(`${ability.volts} V`);
  if (ability.fromVolts !== undefined && ability.toVolts !== undefined)
    figures.push(`${ability.fromVolts}-${ability.toVolts} V`);
  if (ability.maxAmps !== undefined) figures.push(`${ability.maxAmps} A`);
  if (ability.holdAmps !== undefined) figures.push(`hold ${ability.holdAmps} A`);
  const switches = ability.kind === 'low-side' || ability.kind === 'high-side';
  if (ability.maxHz !== undefined && ability.maxHz > 0) figures.push(`${ability.maxHz} Hz`);
  else if (switches) figures.push(ability.maxHz === undefined ? 'PWM' : 'on/off');
  if (ability.minOhms !== undefined) figures.push(`${ability.minOhms} Ω`);
  if (ability.pullUpOhms !== undefined)
    figures.push(`pull-up ${ability.pullUpOhms} Ω${ability.pullUpSwitchable ? ' switchable' : ''}`);
  if (ability.thresholdVolts !== undefined) figures.push(`threshold ${ability.thresholdVolts} V`);
  return figures.join(', ');
}
export const abilitiesText = (abilities: readonly Ability[]): string => abilities.map(abilityText).join('; ');
