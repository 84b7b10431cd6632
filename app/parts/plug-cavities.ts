import type { Build } from '~/core/build/schema';
import type { Derived } from '~/core/derive/derive';
import { deviceEnd, plugEnd } from '~/core/ends/ends';
import { placeName } from '~/core/loom/names';
import { meetingsOf, type Half } from '~/core/loom/plug-face';
import { labelOf } from '~/core/netlist/label';
import type { Wire } from '~/core/netlist/netlist';
import { otherEnd } from '~/core/netlist/wires';
import { shortLabel } from '~/core/netlist/short';
import type { FaceCavity } from './face-cavity';
import { markOf } from './marks';

type Shown = Pick<Derived, 'net' | 'progress'>;

const stateOf = (progress: Derived['progress'], { id }: Wire): FaceCavity['state'] =>
  progress.wrongWires.has(id) ? 'wrong' : progress.proved.has(id) ? 'proved' : 'wired';
const spokenState = (state: FaceCavity['state']): string =>
  state === 'proved' ? ', proved' : state === 'wrong' ? ', reads wrong' : '';

const empty = (cavity: number, written: string, plug: string): FaceCavity => ({
  cavity,
  pinId: written,
  text: '',
  spoken: `${plug} ${written}, free`,
  mark: null,
  state: 'empty',
  locked: false,
  movable: null,
});

/** The cavities of one half of a plug in the loom. */
export function plugCavities(build: Build, { net, progress }: Shown, id: string, half: Half): FaceCavity[] {
  const plug = build.tree.nodes[id]!.plug!;
  const name = placeName(build, id);
  const byCavity = new Map(meetingsOf(build, net, id).map((one) => [one.cavity, one]));
  return Array.from({ length: plug.cavities }, (_, i): FaceCavity => {
    const cavity = i + 1;
    const meeting = byCavity.get(cavity);
    if (!meeting) return empty(cavity, String(cavity), name);
    const wire = meeting[half];
    const far = labelOf(net, otherEnd(wire, plugEnd(id, cavity)));
    const state = stateOf(progress, wire);
    return {
      cavity,
      pinId: String(cavity),
      text: shortLabel(far),
      spoken: `${name} ${cavity}, to ${far}, ${wire.colour}${spokenState(state)}`,
      mark: markOf(build, wire.signal),
      state,
      locked: false,
      movable: meeting.whole,
    };
  });
}

/** The cavities of a device's plug; none where nobody has drawn it. */
export function deviceCavities(build: Build, { net, progress }: Shown, deviceId: string): FaceCavity[] {
  const known = net.deviceOf.get(deviceId);
  const face = known?.kind.face;
  if (!known || !face) return [];
  const terminals = new Map(Object.entries(face.cavities).map(([terminal, cavity]) => [cavity, terminal]));
  const first = face.first ?? 1;
  const count = face.rows.reduce((sum, row) => sum + row, 0);
  return Array.from({ length: count }, (_, i): FaceCavity => {
    const cavity = first + i;
    const terminal = terminals.get(cavity);
    const { label } = known.device;
    if (terminal === undefined) return empty(cavity, String(cavity), label);
    const end = deviceEnd(deviceId, terminal);
    const [wire] = net.wiresAt.get(end) ?? [];
    const name = known.kind.terminals.find((one) => one.id === terminal)?.name ?? '';
    const state = wire ? stateOf(progress, wire) : 'empty';
    return {
      cavity,
      pinId: terminal,
      text: shortLabel(name),
      spoken: `${label} ${terminal}, ${name}${wire ? `, to ${labelOf(net, otherEnd(wire, end))}, ${wire.colour}` : ', free'}${spokenState(state)}`,
      mark: wire ? markOf(build, wire.signal) : null,
      state,
      locked: false,
      movable: null,
    };
  });
}
