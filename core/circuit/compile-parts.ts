import { BATTERY, KEY_RUN, KEY_START, deviceAt, fuseEnd, groundEnd, partEnd, relayEnd } from '../ends/ends';
import type { Build } from '../build/schema';
import type { Netlist } from '../netlist/netlist';
import { RELAY_WINDING_OHMS } from '../power/flow';
import { OPENS_FROM, fuseOhms } from '../power/fuse';
import { BUTTON_OHMS, switchOhms } from '../power/contact-ohms';
import { DIODE_VOLTS } from '../power/sizes';
import type { Branching } from './branching';
import { parts, spreads } from './figures';
import type { BatteryIR, CircuitIR, DiodeIR, FuseIR, PulsedIR, RelayIR } from './ir';
import type { Probe } from './nodes';
import { pulsesReturn } from './pulses-return';

/** Resistance of a diode that conducts, ohms: small beside all it stands in. */
const DIODE_OHMS = 0.02;
/** A resistor across a winding that takes its kick, ohms (common practice: 180 to 1000). */
const SUPPRESSOR_OHMS = 680;

export type PartsIR = Pick<CircuitIR, 'relays' | 'fuses' | 'pulsed'>;

/** What stands in the plan of feeds, the key's contacts, and what coils and injectors draw behind it. */
export function compileParts(
  branching: Branching,
  build: Build,
  net: Netlist,
  diodes: DiodeIR[],
  batteries: BatteryIR[],
): PartsIR {
  const relays: RelayIR[] = [];
  const fuses: FuseIR[] = [];
  const pulsed: PulsedIR[] = [];
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
          amps,
          opensVolts: OPENS_FROM * amps * fuseOhms(amps),
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
        for (const [a, b] of part.poles === 2
          ? [[one, other], [partEnd('switch', name, '3'), partEnd('switch', name, '4')] as const]
          : [[one, other] as const])
          branching.add(a, b, {
            is: 'switch',
            name,
            ohms: switchOhms(part.amps),
            restsClosed: part.resting === 'closed',
          });
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
        branching.add(partEnd('battery', name), groundEnd('battery'), {
          is: 'battery',
          battery: batteries.length,
          clampOhms: 0,
        });
        batteries.push({
          name,
          i: branching.node(partEnd('battery', name)),
          j: branching.node(groundEnd('battery')),
        });
        break;
      default:
        break;
    }
  }
  for (const { end, load } of net.power.flows.draws) {
    const known = net.deviceOf.get(deviceAt(end) ?? '');
    if (!load || !known || load.amps <= 0) continue;
    const returns = pulsesReturn(build, known);
    if (returns === null) continue;
    const branch = branching.add(end, returns, { is: 'mean', amps: load.amps });
    if (branch >= 0) pulsed.push({ branch, mean: load.amps, peak: load.peak, coil: load.coil });
  }
  return { relays, fuses, pulsed };
}
