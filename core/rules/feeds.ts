import { withId } from '../data/with-id';
import { call } from '../edits';
import { fuseEnd, partAt, partEnd } from '../ends/ends';
import { labelOf } from '../netlist/label';

import { CONTINUOUS_SHARE, fuseFor } from '../power/fuse';
import type { SizedLink } from '../power/sizes';
import { readLength } from '../units/workshop';
import { readSize } from '../wire/size';
import { formatAmps, formatVolts, listWords, plural } from '../units/format';
import type { Circuit } from '../power/plan';
import type { Hit, Rule, RuleContext } from './rule';

const CLOSE = 1e-9;

/** Wires that a fuse does not protect: thinner than it asks. The short piece before a fuse counts as what is behind it. */
function overFused({ build, net }: RuleContext): Hit[] {
  const { links, fuses } = net.power.sizes;
  return net.circuits.flatMap((circuit): Hit[] => {
    const id = partAt(fuseEnd(circuit.id, 1))!;
    const thin = [...links.values()].filter(
      (link) => link.sizedBy === id && fuses.get(id)!.amps > link.carriesAmps + CLOSE,
    );
    const weakest = thin.reduce<SizedLink | null>(
      (least, one) => (least && least.carriesAmps <= one.carriesAmps ? least : one),
      null,
    );
    if (!weakest) return [];
    const chosen = thin
      .filter(({ byPerson }) => byPerson)
      .map((link) => link.id)
      .filter((one) => build.loom.wires[one]?.squareMm !== undefined);
    return [
      {
        at: circuit.id,
        where: { type: 'end', end: fuseEnd(circuit.id, 1) },
        detail: `${circuit.name}: ${circuit.fuseAmps} A fuse, but ${readSize(weakest.squareMm, build)} carries ${formatAmps(weakest.carriesAmps)} in this bundle and heat, on the way to ${labelOf(net, weakest.to)}. The wire would burn before the fuse.`,
        remedy: {
          label: 'Derive fuse and wire',
          calls: [
            call('deriveCircuit', { circuitId: circuit.id, fields: ['squareMm', 'fuseAmps'] }),
            ...chosen.map((wireId) => call('setWire', { wireId, squareMm: null })),
          ],
        },
      },
    ];
  });
}

/** Wires on the ways of what loses too much behind this fuse whose own size was set by hand. */
function setByHand({ net }: RuleContext, { loads }: Circuit): string[] {
  const { drops, links } = net.power.sizes;
  const poor = drops.filter(
    ({ draw, volts, limitVolts }) => volts > limitVolts + CLOSE && loads.some(({ end }) => end === draw.end),
  );
  const ids = poor.flatMap(({ hops }) =>
    hops.flatMap(({ step }) => (step.link && links.get(step.link.id)?.ownSizes) || []),
  );
  return [...new Set(ids)];
}

/** What would spare the volts: the sizes taken anew, or a way of its own from the battery. */
function spare(context: RuleContext, circuit: Circuit): Hit['remedy'] {
  const { build, net } = context;
  const wires = setByHand(context, circuit);
  if (circuit.squareByPerson || wires.length > 0)
    return {
      label: 'Derive the wire',
      calls: [
        ...(circuit.squareByPerson ? [call('deriveCircuit', { circuitId: circuit.id, fields: ['squareMm'] })] : []),
        ...wires.map((wireId) => call('setWire', { wireId, squareMm: null })),
      ],
    };
  const behindMain = build.power.circuits[circuit.id]?.feed === 'shared' && circuit.upstream !== null;
  if (behindMain && (circuit.role === 'injectors' || circuit.role === 'coils'))
    return {
      label: 'Give it a relay of its own',
      calls: [call('setCircuit', { circuitId: circuit.id, choice: { feed: 'own' } })],
    };
  const upstream = withId(net.circuits, circuit.upstream);
  return upstream?.squareByPerson ? spare(context, upstream) : undefined;
}

/** Shorter than this no wire of a feed is asked to be, metres. */
const LEAST_METRES = 0.3;
/** Where nothing is left to choose: how short the worst wire of the way would have to be. Empty where that would not do. */
function shorterWords({ build }: RuleContext, { dropVolts, limitVolts, worstHop }: Circuit): string {
  if (!worstHop || worstHop.voltsPerMetre === 0) return '';
  const metres = worstHop.metres - (dropVolts - limitVolts) / worstHop.voltsPerMetre;
  // Down to the figure that is shown: read off and laid, it holds.
  const shown = Math.floor(metres * 20) / 20;
  return shown < LEAST_METRES
    ? ''
    : ` No thicker wire is laid there unasked: ${readLength(shown, build)} of it instead of ${readLength(worstHop.metres, build)} would do.`;
}

/** What the way back loses over its limit, with where most of it goes, and what the whole loop loses. */
function groundSide({ build, net }: RuleContext, { id, name, dropVolts, back }: Circuit): Hit[] {
  if (!back || back.volts <= back.limitVolts + CLOSE) return [];
  const hop = back.hops.reduce((most, one) => (one.volts > most.volts ? one : most));
  const own = back.hops
    .map(({ wireId }) => wireId)
    .filter((wireId) => build.loom.wires[wireId]?.squareMm !== undefined);
  return [
    {
      at: `${id} back`,
      title: 'Voltage drop over its limit on the way back',
      where: { type: 'wire', wireId: hop.wireId },
      detail: `${name}: ${back.name} loses ${formatVolts(back.volts)} on its way back; ${formatVolts(back.limitVolts)} is the limit. Most of it, ${formatVolts(hop.volts)}, between ${labelOf(net, hop.from)} and ${labelOf(net, hop.to)}. With the feed that is ${formatVolts(dropVolts + back.volts)} of the loop.`,
      remedy:
        own.length > 0
          ? { label: 'Derive the wire', calls: own.map((wireId) => call('setWire', { wireId, squareMm: null })) }
          : undefined,
    },
  ];
}

/** What is behind the fuses: feeds, wires, returns and drops. */
export const feedRules: Rule[] = [
  {
    id: 'PW-1',
    family: 'Power',
    severity: 'stop',
    title: 'Fuse above what the wire carries',
    source: 'ISO 8820-3; IEC 60364-5-52 grouping; ampacity common practice',
    sheet: 'feeds',
    check: overFused,
  },
  {
    id: 'PW-2',
    family: 'Power',
    severity: 'fix',
    title: 'Load above 80 % of the fuse',
    source: 'Continuous load at most 80 % of rating; common practice',
    sheet: 'feeds',
    check: ({ net }) =>
      net.circuits.flatMap((circuit) => {
        if (circuit.loadAmps <= circuit.fuseAmps * CONTINUOUS_SHARE + CLOSE) return [];
        const rating = fuseFor(circuit.loadAmps);
        return [
          {
            at: circuit.id,
            where: { type: 'end' as const, end: fuseEnd(circuit.id, 1) },
            detail: `${circuit.name} draws ${formatAmps(circuit.loadAmps)} through a ${circuit.fuseAmps} A fuse, ${((100 * circuit.loadAmps) / circuit.fuseAmps).toFixed(0)} % of it.${rating === null ? ' No blade fuse is large enough: split the circuit.' : ''}`,
            remedy:
              rating === null
                ? undefined
                : {
                    label: `Fit ${rating} A`,
                    calls: [call('deriveCircuit', { circuitId: circuit.id, fields: ['fuseAmps', 'squareMm'] })],
                  },
          },
        ];
      }),
  },
  {
    id: 'PW-3',
    family: 'Power',
    severity: 'fix',
    title: 'Voltage drop over its limit',
    source:
      'Feeds 0.3 V, motors 0.5 V, from the source to the load; 0.1 and 0.2 V from there to its bolt; common practice; copper IEC 60228 at 60 °C',
    sheet: 'feeds',
    check: (context) =>
      context.net.circuits.flatMap((circuit): Hit[] => {
        const back = groundSide(context, circuit);
        if (circuit.dropVolts <= circuit.limitVolts + CLOSE) return back;
        const hop = circuit.worstHop;
        const remedy = spare(context, circuit);
        const most = hop
          ? ` Most of it, ${formatVolts(hop.volts)}, between ${labelOf(context.net, hop.step.from)} and ${labelOf(context.net, hop.step.to)}.`
          : '';
        return [
          ...back,
          {
            at: circuit.id,
            where: { type: 'end', end: fuseEnd(circuit.id, 1) },
            detail: `${circuit.name}: ${formatVolts(circuit.dropVolts)} are lost from the source to ${circuit.worstLoad} with everything on; ${formatVolts(circuit.limitVolts)} is the limit.${most}${remedy ? '' : shorterWords(context, circuit)}`,
            remedy,
          },
        ];
      }),
  },
  {
    id: 'PW-17',
    family: 'Power',
    severity: 'stop',
    title: 'Nothing feeds it',
    source: 'A load needs a way from a source; by counting',
    sheet: 'feeds',
    check: ({ net }) => {
      const { plan, flows, unfed } = net.power;
      const loads = unfed.map(({ end, name }): Hit => ({
        at: end,
        where: net.nodeOf.has(end) ? { type: 'end', end } : undefined,
        detail: `${name} has no way from any source: what it hung on was taken out.`,
        remedy: plan.parts.has(partAt(partEnd('splice', 'main'))!)
          ? {
              label: 'Hang it on the main feed',
              calls: [call('hangLoad', { end, from: partEnd('splice', 'main') })],
            }
          : undefined,
      }));
      const fuses = net.circuits.flatMap(({ id, name, source }): Hit[] =>
        source === 'nothing' && flows.into.get(fuseEnd(id, 1)) === undefined
          ? [
              {
                at: `fuse-${id}`,
                severity: 'fix',
                title: 'A fuse that nothing feeds',
                where: { type: 'end', end: fuseEnd(id, 1) },
                detail: `${name} fuse is wired to no source.`,
              },
            ]
          : [],
      );
      return [...loads, ...fuses];
    },
  },
  {
    id: 'PW-19',
    family: 'Power',
    severity: 'fix',
    title: 'More drawn from the car than it can give',
    source: 'What a feed of the car can still give, as it was told; by adding up',
    sheet: 'feeds',
    check: ({ net }) =>
      net.parts.flatMap(({ name, part }): Hit[] => {
        if (part.kind !== 'tap') return [];
        const end = partEnd('tap', name);
        const amps = net.power.flows.at.get(end)?.rms ?? 0;
        if (amps <= part.amps + CLOSE) return [];
        return [
          {
            at: name,
            where: net.nodeOf.has(end) ? { type: 'end', end } : undefined,
            detail: `${part.name} can still give ${formatAmps(part.amps)}; ${formatAmps(amps)} hang on it. Let it pull in a relay, and feed the load from the battery.`,
          },
        ];
      }),
  },
  {
    id: 'PW-20',
    family: 'Power',
    severity: 'note',
    title: 'Left over in the feeds',
    source: 'By counting',
    sheet: 'feeds',
    check: ({ build, net }) => {
      const wired = new Set(net.power.plan.links.flatMap(({ from, to }) => [partAt(from), partAt(to)]));
      const idle = net.parts.filter(({ id, proposed }) => !proposed && !wired.has(id));
      const { loose } = net.power.plan;
      const hits: Hit[] = idle.map(({ id, part }) => ({
        at: id,
        detail: `${part.name} stands in the plan with no wire on it.`,
        remedy: { label: 'Take it out', calls: [call('removeFeedPart', { partId: id })] },
      }));
      if (loose.length > 0)
        hits.push({
          at: 'loose',
          title: 'Wires that lead nowhere',
          detail: `${plural(loose.length, 'wire')} of the feeds ${loose.length === 1 ? 'leads' : 'lead'} to something that is not in the build any more: ${listWords(loose.slice(0, 3).map((id) => id.replace('~', ' to ')))}${loose.length > 3 ? ' and others' : ''}.`,
          remedy: {
            label: 'Forget them',
            calls: loose.filter((id) => build.feeds.links[id]).map((linkId) => call('forgetFeedLink', { linkId })),
          },
        });
      return hits;
    },
  },
];
