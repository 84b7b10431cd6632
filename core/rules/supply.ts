import { crankedBy, starterAmps, strapOhms } from '../circuit/battery';
import { call } from '../edits';
import { hasRole } from '../devices/kind';
import { withId } from '../data/with-id';
import { serve } from '../ecu/ask';
import { deviceAt, ecuEnd, endType, fuseEnd, partAt, partId, relayEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import { pinsOfKind } from '../ecu/ecu';
import { MAKES_TIMES, makes } from '../power/contact';
import { fuseRatings } from '../power/fuse';
import { outlasts } from '../power/inrush';
import { wayTo } from '../power/flow';
import { CHARGE_OHMS } from '../power/propose';
import { ALTERNATOR_AT_IDLE, ALTERNATOR_SHARE, alternatorFor, runningAmps } from '../power/total';
import { formatAmps, formatVolts, listWords } from '../units/format';
import { readQuantity } from '../units/units';
import type { Hit, Rule } from './rule';

/** What is asked of contacts and fuses as loads are switched on, and of what charges and starts. */
export const supplyRules: Rule[] = [
  {
    id: 'PW-21',
    family: 'Power',
    severity: 'fix',
    title: 'Inrush above what stands in its way',
    source: 'ISO 8820-3, middle of its limits; a contact makes 3 times its rating; inrush by kind: common practice',
    sheet: 'feeds',
    check: ({ net }) => {
      const { plan, sizes } = net.power;
      const hits: Hit[] = [];
      for (const { relay: name, loads, amps } of sizes.rushes) {
        const relay = name === null ? undefined : plan.parts.get(partId('relay', name))?.part;
        if (name === null || relay?.kind !== 'relay' || makes(relay.contactAmps, { amps })) continue;
        hits.push({
          at: name,
          where: { type: 'end', end: relayEnd(name, '87') },
          detail: `${relay.name} relay: ${listWords(loads.map((load) => load.name))} take about ${formatAmps(amps)} together as it pulls in, and its contact of ${relay.contactAmps} A makes ${formatAmps(MAKES_TIMES * relay.contactAmps)}. It welds: give each a relay of its own.`,
        });
      }
      for (const [part, fuse] of sizes.fuses) {
        const { rush } = fuse;
        const own = plan.parts.get(part);
        if (!rush || !own || outlasts(fuse.amps, rush)) continue;
        const larger = fuseRatings.find((rating) => rating > fuse.amps && outlasts(rating, rush));
        hits.push({
          at: own.name,
          where: { type: 'end', end: fuseEnd(own.name, 2) },
          detail: `${own.part.name}: ${listWords(rush.rush.loads.flatMap(({ name, inrush }) => (inrush ? [name] : [])))} ${rush.rush.loads.length === 1 ? 'takes' : 'take'} about ${formatAmps(rush.amps)} for ${rush.seconds} s as it is switched on, which a fuse of ${fuse.amps} A usually does not outlast.${larger === undefined ? '' : ` One of ${larger} A does.`}`,
          remedy:
            larger === undefined
              ? undefined
              : {
                  label: `Fit ${larger} A`,
                  calls: [call('setCircuit', { circuitId: own.name, choice: { fuseAmps: larger } })],
                },
        });
      }
      return hits;
    },
  },
  {
    id: 'PW-22',
    family: 'Power',
    severity: 'fix',
    title: 'Alternator smaller than the load',
    source: 'Load at most 80 % of what it is marked with; about half of it at idle; common practice',
    sheet: 'feeds',
    check: ({ build, net }) => {
      const rated = build.power.alternatorAmps;
      if (build.power.charging === 'none' || rated === undefined) return [];
      const amps = runningAmps(net);
      if (amps <= ALTERNATOR_SHARE * rated) return [];
      return [
        {
          at: '',
          detail: `With everything on ${formatAmps(amps)}, and an alternator of ${rated} A gives ${formatAmps(ALTERNATOR_SHARE * rated)} for good and about ${formatAmps(ALTERNATOR_AT_IDLE * rated)} at idle: the battery makes up the rest until it is flat. ${alternatorFor(amps)} A and more, or less on at a time.`,
        },
      ];
    },
  },
  {
    id: 'PW-23',
    family: 'Power',
    severity: 'fix',
    title: 'Too few volts for the ECU while cranking',
    source: 'Battery behind its inside, starter by displacement and cold: common practice; the maker’s least volts',
    sheet: 'feeds',
    check: ({ build, net }) => {
      if (net.power.circuits.length === 0) return [];
      const { amps, volts: post } = crankedBy(build);
      const pins = pinsOfKind(build.ecu, 'switched').map(({ id }) => ecuEnd(id));
      const lost = net.power.sizes.drops.flatMap(({ draw, volts: drop }) => (pins.includes(draw.end) ? [drop] : []));
      const ground = build.power.ecuGround === 'head' ? amps * strapOhms(build) : 0;
      const left = post - Math.min(...(lost.length > 0 ? lost : [0])) - ground;
      if (left >= build.ecu.minVolts) return [];
      return [
        {
          at: '',
          detail: `At ${readQuantity('temperature', build.site.ambientCelsius, build)} the starter takes about ${starterAmps(build)} A; a full battery of ${build.power.batteryAh} Ah then has ${formatVolts(post)}, the ECU ${formatVolts(left)}, and it works from ${formatVolts(build.ecu.minVolts)}: it drops out as the engine is cranked. A larger battery, a shorter or thicker feed.`,
        },
      ];
    },
  },
  {
    id: 'PW-24',
    family: 'Power',
    severity: 'fix',
    title: 'Alternator’s lamp terminal straight on the feed',
    source: 'Through the warning lamp, or about 470 Ω to the switched feed; common practice',
    sheet: 'feeds',
    check: ({ net }) =>
      net.power.flows.draws.flatMap(({ end, load }): Hit[] => {
        const at = net.deviceOf.get(deviceAt(end) ?? '');
        if (!load || !at || !hasRole(at.kind, 'alternator')) return [];
        const way = wayTo(net.power.flows, end);
        const limited = way.some(
          ({ part }) => part !== null && net.power.plan.parts.get(part)?.part.kind === 'resistor',
        );
        const last = [...way].reverse().find(({ link }) => link !== null)?.link;
        if (limited || !last) return [];
        return [
          {
            at: end,
            where: { type: 'end', end },
            detail: `${load.name}: its regulator at rest draws this terminal down to 1 or 2 V, and nothing stands in the way: amperes where tenths are meant.`,
            remedy: {
              label: `Put ${CHARGE_OHMS} Ω into its wire`,
              calls: [
                call('insertInFeed', {
                  linkId: last.id,
                  part: { kind: 'resistor', name: 'Charge resistor', ohms: CHARGE_OHMS },
                }),
              ],
            },
          },
        ];
      }),
  },
  {
    id: 'PW-25',
    family: 'Power',
    severity: 'fix',
    title: 'Output feeds the ECU with the key off',
    source: 'A flyback diode to the ECU’s supply asks for a load that is switched with it; common practice',
    sheet: 'feeds',
    check: ({ build, net }) =>
      net.needs.flatMap((need): Hit[] => {
        const pin = withId(build.ecu.pins, build.assignments[need.id]);
        if (!pin || !serve(pin, need.ask).ability?.catches) return [];
        const fed = net.power.flows.draws.filter(({ end }) =>
          need.winding === null ? deviceAt(end) === need.deviceId : partAt(end) === partId('relay', need.winding),
        );
        const live = fed.find(({ end }) => isAlwaysLive(net, end));
        if (!live) return [];
        return [
          {
            at: need.id,
            where: { type: 'end', end: need.end },
            detail: `${need.label} is fed with the key off, and ${pin.id} has a diode to the ECU's supply: through the load the ECU is fed backwards, stays half awake and may hold its relay. Hang it on a feed that goes off with the ECU.`,
          },
        ];
      }),
  },
];

/** Whether an end has the battery's volts whatever the key and the relays do. */
function isAlwaysLive({ power: { flows, plan } }: Netlist, end: EndKey): boolean {
  const way = wayTo(flows, end);
  const [first] = way;
  return (
    first !== undefined &&
    endType(first.from) === 'battery' &&
    way.every(({ part }) => {
      const kind = part === null ? null : plan.parts.get(part)?.part.kind;
      return kind !== 'relay' && kind !== 'switch' && kind !== 'button';
    })
  );
}
