import type { Build } from '../build/schema';
import { deviceEnd, ecuEnd, plugEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import { placeName } from './names';
import { halfWords, halves, meetingsOf } from './plug-face';

/** A tag on a plug: a phone that reads it opens the run of its first wire. */
export interface Tag {
  readonly id: string;
  readonly name: string;
  /** What the plug is, or which half. */
  readonly note: string;
  readonly end: EndKey;
  readonly url: string;
}

/** Why an address cannot stand on tags, in words; null: it can. */
export function addressMiss(address: string): string | null {
  if (!URL.canParse(address)) return 'That is no address such as http://192.0.2.7:4300.';
  const { protocol } = new URL(address);
  return protocol === 'http:' || protocol === 'https:' ? null : 'The address has to begin with http:// or https://.';
}

/** Tags of every plug that a wire is in, by the address a phone finds Gonyx at. None where that cannot be one. */
export function tagsOf(build: Build, net: Netlist): Tag[] {
  const address = build.loom.tags ?? '';
  if (addressMiss(address) !== null) return [];
  const base = address.replace(/\/+$/, '');
  const tag = (id: string, name: string, note: string, end: EndKey | undefined): Tag[] =>
    end === undefined
      ? []
      : [{ id, name, note, end, url: `${base}/build/${build.id}/loom/plugs?end=${encodeURIComponent(end)}` }];
  const first = (ends: readonly EndKey[]) => ends.find((end) => net.wiresAt.has(end));
  return [
    ...build.ecu.connectors.flatMap(({ id, name }) =>
      tag(
        `ecu ${id}`,
        `${build.ecu.model} ${id}`,
        name ?? '',
        first(build.ecu.pins.flatMap((pin) => (pin.connector === id ? ecuEnd(pin.id) : []))),
      ),
    ),
    ...Object.entries(build.tree.nodes).flatMap(([id, { plug }]) => {
      const [meeting] = plug ? meetingsOf(build, net, id) : [];
      return meeting
        ? halves.flatMap((half) =>
            tag(`plug ${id} ${half}`, placeName(build, id), halfWords[half], plugEnd(id, meeting.cavity)),
          )
        : [];
    }),
    ...net.devices.flatMap(({ device, kind }) => {
      const end = first(kind.terminals.map((terminal) => deviceEnd(device.id, terminal.id)));
      return tag(`device ${device.id}`, device.label, kind.name, end);
    }),
  ];
}
