import { BATTERY, KEY_RUN, KEY_START, deviceAt, fuseEnd, groundEnd, partEnd, relayEnd } from '../ends/ends';
import type { Build } from '../build/schema';
import type { Netlist } from '../netlist/netlist';
import { RELAY_WINDING_OHMS } from '../power/flow';
import { opensWithin } from '../power/fuse';
import { BUTTON_OHMS, DIODE_VOLTS, fuseOhms, switchOhms } from '../power/sizes';
import type { Branching } from './branching';
import { OPEN_OHMS, parts, spreads } from './figures';
import type { CircuitIR, DiodeIR, FuseIR, RelayIR } from './ir';
import type { Probe } from './nodes';
import { pulsesReturn } from './pulses-return';

/** Resistance of a diode that conducts, ohms: small beside all it stands in. */
const DIODE_OHMS = 0.02;
/** A resistor across a winding that takes its kick, ohms (common practice: 180 to 1000). */
const SUPPRESSOR_OHMS = 680;
/** A meter is held about so long: what ISO 8820-3 lets a fuse take no longer for has opened it by then. */
const HELD_SECONDS = 5;

export type PartsIR = Pick<CircuitIR, 'relays' | 'fuses'>;

/** What stands in the plan of feeds, the key's contacts, and what coils and injectors draw behind it. */
export function compileParts(branching: Branching, build: Build, net: Netlist, diodes: DiodeIR[]): PartsIR {
  const relays: RelayIR[] = [];
  const fuses: FuseIR[] = [];
  const ratings = new Map(net.circuits.map(({ id, fuseAmps }) => [id, fuseAmps]));
  const node = (name: Probe) => branching.node(name);
  const diode = (id: string, anode: Probe, cathode: Probe) => {
    const law = { is: 'diode', diode: diodes.length } as const;
    diodes.push({
      id,
      i: node(anode),
      j: node(cathode),
      volts: DIODE_VOLTS,
      ohms: DIODE_OHMS,
      when: 'always',
    });
    branching.add(anode, cathode, law);
  };
  branching.add(KEY_RUN, BATTERY, { is: 'key', live: 'run' });
  branching.add(KEY_START, BATTERY, { is: 'key', live: 'start' });
  for (const { id, name, part } of net.parts) {
    const [one, other] = [partEnd(part.kind, name, '1'), partEnd(part.kind, name, '2')];
    switch (part.kind) {
      case 'fuse': {
        const amps = ratings.get(name)!;
        const [from, to] = [fuseEnd(name, 1), fuseEnd(name, 2)];
        fuses.push({
          name,
          i: node(from),
          j: node(to),
          branch: branching.add(from, to, { is: 'fuse', fuse: fuses.length }),
          ohms: fuseOhms(amps),
          opensVolts: opensWithin(HELD_SECONDS) * amps * fuseOhms(amps),
        });
        break;
      }
      case 'relay': {
        const [minus, plus] = [relayEnd(name, '85'), relayEnd(name, '86')];
        const common = relayEnd(name, '30');
        const contact = (to: '87' | '87a', closedWhen: boolean) =>
          branching.add(common, relayEnd(name, to), { is: 'contact', relay: relays.length, closedWhen });
        const winding = branching.ohms(minus, plus, RELAY_WINDING_OHMS, spreads.winding.value);
        if (part.suppression === 'resistor') branching.ohms(minus, plus, SUPPRESSOR_OHMS, spreads.marked.value);
        // Inside a relay it leads from 85 to 86, so that the winding's kick ends in it.
        if (part.suppression === 'diode') diode(id, minus, plus);
        const made = contact('87', true);
        if (part.contact === 'change-over') contact('87a', false);
        relays.push({ name, i: node(plus), j: node(minus), winding, contact: made });
        break;
      }
      case 'diode':
        diode(id, partEnd('diode', name, 'a'), partEnd('diode', name, 'k'));
        break;
      case 'switch':
        branching.ohms(
          one,
          other,
          part.resting === 'closed' ? switchOhms(part.amps) : OPEN_OHMS,
          spreads.contact.value,
        );
        break;
      case 'button':
        branching.add(one, other, { is: 'button', ohms: BUTTON_OHMS });
        break;
      case 'resistor':
        branching.ohms(one, other, part.ohms, spreads.marked.value);
        break;
      case 'ground':
        branching.ohms(
          partEnd('ground', name),
          groundEnd(part.on === 'body' ? 'chassis' : 'head'),
          parts.mounted.value,
          parts.mounted.spread,
        );
        break;
      case 'tap':
        branching.add(partEnd('tap', name), BATTERY, { is: 'key', live: part.live });
        break;
      case 'battery':
        branching.add(partEnd('battery', name), groundEnd('battery'), { is: 'battery', clampOhms: 0 });
        break;
      default:
        break;
    }
  }
  for (const { end, load } of net.power.flows.draws) {
    const known = net.deviceOf.get(deviceAt(end) ?? '');
    if (!load || !known || load.amps <= 0) continue;
    const returns = pulsesReturn(build, known);
    if (returns !== null) branching.add(end, returns, { is: 'mean', amps: load.amps });
  }
  return { relays, fuses };
}
