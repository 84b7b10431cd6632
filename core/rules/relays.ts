import { call } from '../edits';
import { ecuEnd, partAt, relayEnd, type EndKey } from '../ends/ends';

import { pinsOfKind } from '../ecu/ecu';
import { carries } from '../power/contact';
import { wayTo } from '../power/flow';

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
