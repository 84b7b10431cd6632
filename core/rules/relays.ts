import { call } from '../edits';
import { stateWords } from '../circuit/states';
import { withId } from '../data/with-id';
import { ecuEnd, endType, partAt, partEnd, portOf, relayEnd, type EndKey, type PartId } from '../ends/ends';
import { labelOf } from '../netlist/label';

import { pinsOfKind } from '../ecu/ecu';
import { carries } from '../power/contact';
import { through, wayTo } from '../power/flow';
import { windingEnds } from '../power/propose';

import { formatAmps, listWords } from '../units/format';

import type { Hit, Rule, RuleContext } from './rule';

/** The way a load is fed, as names of the relays it passes. */
const relaysOn = ({ net }: Pick<RuleContext, 'net'>, end: EndKey) =>
  wayTo(net.power.flows, end).flatMap(({ part }) => {
    const planned = part === null ? undefined : net.power.plan.parts.get(part);
    return planned?.part.kind === 'relay' ? [{ name: planned.name, relay: planned.part }] : [];
  });

/** Relays: what pulls them in, and what they switch. */
export const relayRules: Rule[] = [
  {
    id: 'PW-6',
    family: 'Power',
    severity: 'stop',
    title: 'Suppressed relay reversed',
    source: 'DIN 72552: 86 supply, 85 driver when a diode is inside',
    sheet: 'feeds',
    check: ({ net }) =>
      net.parts.flatMap(({ name, part }) =>
        part.kind === 'relay' && part.suppression === 'diode' && part.reversed
          ? [
              {
                at: name,
                where: { type: 'end' as const, end: relayEnd(name, '86') },
                detail: `${part.name} relay has a diode inside; with 85 on the supply it shorts the driver the moment it switches.`,
                remedy: {
                  label: 'Wire 86 to supply',
                  calls: [call('setCircuit', { circuitId: name, choice: { winding: 'as-marked' } })],
                },
              },
            ]
          : [],
      ),
  },
  {
    id: 'PW-7',
    family: 'Power',
    severity: 'note',
    title: 'No flyback path on a relay',
    source: 'An inductive load needs a diode, a resistor or the driver’s clamp; common practice',
    sheet: 'feeds',
    check: ({ net }) => {
      const bare = net.parts.flatMap(({ name, part }) =>
        part.kind === 'relay' && part.control === 'key-run' && part.suppression === 'none'
          ? [{ name, title: part.name }]
          : [],
      );
      if (bare.length === 0) return [];
      return [
        {
          at: '',
          where: { type: 'end', end: relayEnd(bare[0]!.name, '85') },
          detail: `${listWords(bare.map(({ title }) => title))}: the key switches the winding and nothing takes its kick. Relays with a diode spare the key switch and the ECU.`,
          remedy: {
            label: 'Use relays with a diode',
            calls: bare.map(({ name }) =>
              call('setCircuit', { circuitId: name, choice: { relay: 'diode', winding: 'as-marked' } }),
            ),
          },
        },
      ];
    },
  },
  {
    id: 'PW-10',
    family: 'Power',
    severity: 'stop',
    title: 'Pump runs on with the engine stopped',
    source: 'A pump must stop when the engine stops; common practice, often law',
    sheet: 'feeds',
    check: ({ net }) =>
      net.power.flows.draws.flatMap(({ end, load }): Hit[] => {
        if (load?.feed !== 'pump') return [];
        const relays = relaysOn({ net }, end);
        if (relays.some(({ relay }) => relay.control === 'need' || relay.control === 'wired')) return [];
        const proposed = relays.find(({ name }) => name === 'pump');
        return [
          {
            at: end,
            where: { type: 'end', end: proposed ? relayEnd('pump', '85') : end },
            detail: `${load.name} follows the key: after a crash or a torn line it goes on pumping fuel. Let the ECU drive its relay.`,
            remedy: proposed && {
              label: 'Let the ECU switch it',
              calls: [call('setCircuit', { circuitId: 'pump', choice: { switchedBy: 'ecu' } })],
            },
          },
        ];
      }),
  },
  {
    id: 'PW-29',
    family: 'Power',
    severity: 'stop',
    title: 'A relay fed through its own contact',
    source: 'A winding must be live before its contact closes, and stay so after; by walking the plan',
    sheet: 'feeds',
    check: ({ net }) => {
      const { plan } = net.power;
      return net.parts.flatMap(({ id, name, part }): Hit[] => {
        if (part.kind !== 'relay') return [];
        const supply = windingEnds(name, part).supply;
        if (reaches(net, supply, () => true) && !reaches(net, supply, (one) => one !== id)) {
          // Without its own contact nothing feeds its winding: through the resting one it lets itself go, through the other it never comes.
          const byResting = reaches(net, supply, (one, to) => one !== id || portOf(to) === '87a');
          return [
            {
              at: name,
              where: { type: 'end', end: supply },
              detail: byResting
                ? `${part.name} relay: its winding is fed through its own resting contact 87a. It pulls in, cuts itself off and falls back, many times a second: it buzzes until it burns.`
                : `${part.name} relay: its winding is fed only through its own contact 87. Nothing pulls it in the first time.`,
            },
          ];
        }
        return [];
      });

      /** Whether a source reaches an end through parts that may be passed. */
      function reaches(
        { power: { flows } }: typeof net,
        end: EndKey,
        passes: (part: PartId, to: EndKey) => boolean,
      ): boolean {
        const next = new Map<EndKey, EndKey[]>();
        const add = (from: EndKey, to: EndKey) => next.set(from, [...(next.get(from) ?? []), to]);
        for (const link of plan.links) {
          if (link.role === 'return') continue;
          add(link.from, link.to);
          add(link.to, link.from);
        }
        for (const step of through(plan)) {
          const to = portOf(step.to) === '30' ? step.from : step.to;
          if (step.part !== null && passes(step.part, to)) add(step.from, step.to);
        }
        const seen = new Set<EndKey>(flows.sources);
        const queue = [...flows.sources];
        for (const at of queue)
          for (const to of next.get(at) ?? []) {
            if (seen.has(to)) continue;
            seen.add(to);
            // A winding and a ground end the way.
            const isEnd = endType(to) === 'ground' || (endType(to) === 'relay' && ['85', '86'].includes(portOf(to)));
            if (!isEnd || to === end) queue.push(to);
          }
        return seen.has(end);
      }
    },
  },
  {
    id: 'PW-30',
    family: 'Power',
    severity: 'fix',
    title: 'A relay that does not come to rest',
    source:
      'The circuit solved with the key on, cranking and running: a relay pulls in from 7.2 V on and falls under 3; common practice',
    sheet: 'feeds',
    check: ({ net, beside }) =>
      (beside?.buzzing ?? []).map(({ name, state }): Hit => ({
        at: name,
        where: { type: 'end', end: relayEnd(name, '86') },
        detail: `${withId(net.parts, partAt(relayEnd(name, '86')))?.part.name ?? name} relay, ${stateWords[state]}: what it switches pulls its own winding down, it lets go and pulls in again. It buzzes. Feed its winding from before its contact, or thicken what both hang on.`,
      })),
  },
  {
    id: 'PW-31',
    family: 'Power',
    severity: 'note',
    title: 'A feed without a length',
    source: 'A wire of the feeds is measured; by counting',
    sheet: 'feeds',
    check: ({ net }) => {
      const none = net.power.plan.links.filter(({ metres, route }) => metres === 0 && !route?.length);
      if (none.length === 0) return [];
      return [
        {
          at: '',
          where: { type: 'wire', wireId: none[0]!.id },
          detail: `${listWords(none.slice(0, 3).map(({ from, to }) => `${labelOf(net, from)} to ${labelOf(net, to)}`))}${none.length > 3 ? ' and more' : ''}: no length, so what it loses is counted for its slack only. Measure it with a string.`,
        },
      ];
    },
  },
  {
    id: 'PW-32',
    family: 'Power',
    severity: 'fix',
    title: 'The engine runs on with its master switch off',
    source:
      'What charges feeds the engine without a battery: a second contact of the switch stops it; common practice, often rules of racing',
    sheet: 'feeds',
    check: ({ build, net }) => {
      const { alternatorCable, charging } = build.power;
      if (charging === 'none') return [];
      return net.parts.flatMap(({ id, name, part }): Hit[] => {
        if (part.kind !== 'switch' || part.resting !== 'closed') return [];
        const before = wayTo(net.power.flows, alternatorCable.at).some((step) => step.part === id);
        const uses = [partEnd('switch', name, '3'), partEnd('switch', name, '4')];
        if (!before || uses.every((end) => net.nodeOf.has(end))) return [];
        return [
          {
            at: name,
            where: { type: 'end', end: partEnd('switch', name, '1') },
            detail: `${part.name}: the alternator’s cable lands behind it. Opened with the engine running it takes the battery away, and the alternator feeds ECU, pump and coils on: the engine does not stop, and its volts run wild. Lead the ECU’s feed through its second contact, 3 and 4.`,
          },
        ];
      });
    },
  },
  {
    id: 'PW-15',
    family: 'Power',
    severity: 'fix',
    title: 'Load above the relay’s contact',
    source:
      'Continuous load at most what the contact is marked with; motors take several times as much as they start; common practice',
    sheet: 'feeds',
    check: ({ net }) =>
      net.parts.flatMap(({ id, name, part }): Hit[] => {
        if (part.kind !== 'relay') return [];
        const loads = net.relayLoads.get(name) ?? [];
        const { flow } = net.power.sizes.relays.get(id)!;
        if (carries(part.contactAmps, flow)) return [];
        return [
          {
            at: name,
            where: { type: 'end', end: relayEnd(name, '87') },
            detail: `${part.name} relay: ${formatAmps(flow.rms)} through a contact of ${part.contactAmps} A, with ${listWords(loads.map((load) => load.name))} behind it. Its contact welds or burns: split the loads between two relays.`,
          },
        ];
      }),
  },
  {
    id: 'PW-16',
    family: 'Power',
    severity: 'stop',
    title: 'The ECU must wake the relay it hangs on',
    source: 'An output works when the ECU has its supply; by counting',
    sheet: 'feeds',
    check: ({ build, net }) => {
      const pins = pinsOfKind(build.ecu, 'switched').map(({ id }) => ecuEnd(id));
      const waking = pins.map((end) => relaysOn({ net }, end).filter(({ relay }) => relay.control === 'need'));
      if (pins.length === 0 || waking.some((relays) => relays.length === 0)) return [];
      const { name, relay } = waking[0]![0]!;
      return [
        {
          at: name,
          where: { type: 'end', end: relayEnd(name, '85') },
          detail: `${relay.name} relay feeds ${build.ecu.model}, and an output of the ECU is to pull it in: without its supply the ECU never wakes. Let the key pull it in.`,
          remedy: {
            label: 'Let the key pull it in',
            calls: [call('setFeedPart', { partId: partAt(relayEnd(name, '30'))!, changes: { control: 'key-run' } })],
          },
        },
      ];
    },
  },
];
