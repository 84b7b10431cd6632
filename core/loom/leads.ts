import type { Build } from '../build/schema';
import { ecuEnd } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';

/** What becomes of a lead that came with the ECU. */
export interface Lead {
  readonly pinId: string;
  readonly colour: string;
  /** How long its wire has to be, slack included; null: the cavity serves nothing. */
  readonly neededMetres: number | null;
  /** Where it goes; '' for nowhere. */
  readonly to: string;
  /** Pulled out or parked, cut to length, or too short. */
  readonly fate: 'park' | 'cut' | 'short';
  /** What is cut off, or missing, metres. */
  readonly metres: number;
  /** A cut-off or parked piece that would do for a jumper of the feeds. */
  readonly jumpers: number;
}

/** The shortest piece that is worth keeping for a jumper, metres (common practice). */
const JUMPER_METRES = 0.3;

/** Each lead of a loom that came with the ECU against its route. Null: the loom has none, or nobody has said how long they are. */
export function leadsOf(build: Build, net: Netlist): Lead[] | null {
  const { leadMetres, origin } = build.loom;
  if (origin !== 'flying-lead' || leadMetres === undefined) return null;
  return build.ecu.pins.flatMap((pin): Lead[] => {
    if (!pin.lead) return [];
    const [wire] = net.wiresAt.get(ecuEnd(pin.id)) ?? [];
    const colour = pin.lead.colour;
    if (!wire)
      return [
        {
          pinId: pin.id,
          colour,
          neededMetres: null,
          to: '',
          fate: 'park',
          metres: leadMetres,
          jumpers: Math.floor(leadMetres / JUMPER_METRES),
        },
      ];
    const over = leadMetres - wire.lengthMetres;
    return [
      {
        pinId: pin.id,
        colour,
        neededMetres: wire.lengthMetres,
        to: labelOf(net, wire.from === ecuEnd(pin.id) ? wire.to : wire.from),
        fate: over < 0 ? 'short' : 'cut',
        metres: Math.abs(Math.round(over * 100) / 100),
        jumpers: over < 0 ? 0 : Math.floor(over / JUMPER_METRES),
      },
    ];
  });
}
