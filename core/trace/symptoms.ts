import { withId } from '../data/with-id';
import { hasRole, trait } from '../devices/kind';
import { deviceAt } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';

export interface Symptom {
  readonly id: string;
  readonly title: string;
  readonly type: 'ecu-dead' | 'no-sync' | 'dead' | 'wrong-reading' | 'no-change';
  readonly deviceId: string | null;
}

/** What can be seen to go wrong on this build: the ECU, the trigger, each thing that should work, each sensor. */
export function symptomsOf(net: Netlist): Symptom[] {
  const general: Symptom[] = [
    { id: 'ecu-dead', title: 'The ECU does not wake', type: 'ecu-dead', deviceId: null },
    { id: 'no-sync', title: 'It cranks, but the ECU shows no speed or loses sync', type: 'no-sync', deviceId: null },
  ];
  const devices = net.devices.flatMap(({ device, kind }): Symptom[] => {
    const needs = net.needsOf.get(device.id) ?? [];
    const feeds = kind.terminals.some((terminal) => terminal.destination.to === 'feed');
    if (trait(kind, 'trigger')) return [];
    if (trait(kind, 'coil'))
      return [{ id: `dead:${device.id}`, title: `No spark: ${device.label}`, type: 'dead', deviceId: device.id }];
    if (trait(kind, 'injector'))
      return [{ id: `dead:${device.id}`, title: `No fuel: ${device.label}`, type: 'dead', deviceId: device.id }];
    if (needs.some((need) => need.ask.kind === 'analog') && !trait(kind, 'wideband'))
      return [
        { id: `wrong:${device.id}`, title: `${device.label} reads wrong`, type: 'wrong-reading', deviceId: device.id },
      ];
    if (needs.some((need) => need.ask.kind === 'switch'))
      return [
        {
          id: `still:${device.id}`,
          title: `${device.label}: the ECU sees no change`,
          type: 'no-change',
          deviceId: device.id,
        },
      ];
    if (!feeds && needs.some(({ ask }) => ask.kind === 'frequency' || ask.kind === 'vr' || ask.kind === 'knock'))
      return [
        {
          id: `wrong:${device.id}`,
          title: `${device.label} shows nothing`,
          type: 'wrong-reading',
          deviceId: device.id,
        },
      ];
    if (feeds || hasRole(kind, 'starter'))
      return [{ id: `dead:${device.id}`, title: `${device.label} does not work`, type: 'dead', deviceId: device.id }];
    return [];
  });
  return [...general, ...devices];
}

/** The symptom that a failed check of a gate speaks of; null where it is for the person to say. */
export function symptomOfCheck(net: Netlist, gateId: string, checkId: string): string | null {
  const symptoms = symptomsOf(net);
  const of = (deviceId: string | null | undefined) =>
    symptoms.find((one) => deviceId && one.deviceId === deviceId)?.id ?? null;
  const needId = /^(?:sensor|closed|halt|relay)-(.*)$/.exec(checkId)?.[1];
  if (needId !== undefined) {
    const need = withId(net.needs, needId);
    const [load] = net.relayLoads.get(need?.winding ?? '') ?? [];
    return of(need?.deviceId ?? (load && deviceAt(load.end)));
  }
  const pinId = /^output-(.*)$/.exec(checkId)?.[1];
  if (pinId !== undefined) {
    const cavity = net.cavityOf.get(pinId);
    return of(withId(net.needs, cavity?.needId)?.deviceId);
  }
  if (gateId === 'cranking' && (checkId === 'rpm' || checkId === 'losses')) return 'no-sync';
  return gateId === 'battery' || gateId === 'key' || gateId === 'cranking' ? 'ecu-dead' : null;
}
