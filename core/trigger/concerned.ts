import type { Build } from '../build/schema';
import { trait } from '../devices/kind';
import { destinationOf } from '../build/destination';
import { deviceEnd } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';
import type { Wire } from '../netlist/wires';
import type { Suspicion } from './diagnose';
import { triggerSensor } from './fit';

/** A wire a suspicion concerns, with words for it. */
export interface ConcernedWire {
  readonly wire: Wire;
  readonly concern: Suspicion['concerns'][number];
  readonly label: string;
}

/**
 * The build's own wires behind a suspicion: all of the crank or cam sensor's terminals, and the grounds of coils and
 * igniters. Empty where the build has no such device, or its pins are not allotted yet.
 */
export function wiresConcerned(
  build: Pick<Build, 'devices' | 'kinds'>,
  net: Netlist,
  concerns: Suspicion['concerns'],
): ConcernedWire[] {
  return concerns.flatMap((concern) => {
    const ends = concern === 'coil-ground' ? coilGrounds(build) : sensorEnds(build, concern);
    const seen = new Set<string>();
    return ends.flatMap((end) =>
      (net.wiresAt.get(end) ?? []).flatMap((wire): ConcernedWire[] => {
        if (seen.has(wire.id)) return [];
        seen.add(wire.id);
        return [{ wire, concern, label: labelOf(net, end) }];
      }),
    );
  });
}

function sensorEnds(build: Pick<Build, 'devices' | 'kinds'>, shaft: 'crank' | 'cam') {
  const found = triggerSensor(build as Build, shaft);
  return found ? found.kind.terminals.map((terminal) => deviceEnd(found.device.id, terminal.id)) : [];
}

function coilGrounds(build: Pick<Build, 'devices' | 'kinds'>) {
  return build.devices.flatMap((device) => {
    const kind = build.kinds[device.kindId];
    if (!kind || !(trait(kind, 'igniter') || trait(kind, 'coil'))) return [];
    return kind.terminals
      .filter((terminal) => destinationOf(device, terminal).to === 'ground')
      .map((terminal) => deviceEnd(device.id, terminal.id));
  });
}
