import { withId } from '../data/with-id';
import { call } from '../edits';
import { endOf, endType, fuseEnd, partAt, partEnd } from '../ends/ends';
import { labelOf } from '../netlist/label';

import { wayTo } from '../power/flow';
import { CONTINUOUS_SHARE, fuseFor } from '../power/fuse';
import { FUSE_METRES } from '../power/propose';
import { FUSE_NEAR_METRES } from '../power/runs';
import { surroundings, type SizedLink } from '../power/sizes';
import { carriedAmps } from '../wire/wire';
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

/** Windings as they are proposed today: each behind a small fuse. */
const behindFuse: Hit['remedy'] = {
  label: 'Feed windings behind a fuse',
  calls: [call('setCircuit', { circuitId: 'windings', choice: { feed: 'own' } })],
};

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
    source: 'Feeds 0.3 V, motors 0.5 V, from the source to the load; common practice; copper IEC 60228 at 60 °C',
    sheet: 'feeds',
    check: (context) =>
      context.net.circuits.flatMap((circuit): Hit[] => {
        if (circuit.dropVolts <= circuit.limitVolts + CLOSE) return [];
        const hop = circuit.worstHop;
        const remedy = spare(context, circuit);
        const most = hop
          ? ` Most of it, ${formatVolts(hop.volts)}, between ${labelOf(context.net, hop.step.from)} and ${labelOf(context.net, hop.step.to)}.`
          : '';
        return [
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
    id: 'PW-4',
    family: 'Power',
    severity: 'fix',
    title: 'Fuse far from its source',
    source: 'Close to its source; common practice',
    sheet: 'feeds',
    check: ({ build, net }) =>
      net.circuits.flatMap((circuit) =>
        // Behind another fuse that one protects it, and the wire is sized for it.
        circuit.fuseDistanceMetres <= FUSE_NEAR_METRES || circuit.upstream !== null
          ? []
          : [
              {
                at: circuit.id,
                where: { type: 'end' as const, end: fuseEnd(circuit.id, 1) },
                detail: `${circuit.name}: ${readLength(circuit.fuseDistanceMetres, build)} of wire before the fuse has no protection at all.`,
                // Where the tree says so, the box has to be moved.
                remedy:
                  build.power.circuits[circuit.id]?.fuseDistanceMetres === undefined
                    ? undefined
                    : {
                        label: `Move it to ${readLength(FUSE_METRES, build)}`,
                        calls: [call('deriveCircuit', { circuitId: circuit.id, fields: ['fuseDistanceMetres'] })],
                      },
              },
            ],
      ),
  },
  {
    id: 'PW-14',
    family: 'Power',
    severity: 'fix',
    title: 'Wire without a fuse',
    source:
      'Every wire from a source is protected by something it can stand; starter and alternator cables are exempt; common practice',
    sheet: 'feeds',
    check: ({ build, net }) => {
      const { plan, sizes, flows } = net.power;
      const bare = [...sizes.links.values()].filter(({ from, to, fuse }) => {
        if (fuse !== null || endType(to) === 'fuse' || endType(from) === 'fuse') return false;
        // A way that a fuse ends somewhere ahead is short by rule PW-4; this is about what is drawn without one.
        const [first] = wayTo(flows, to);
        const source = first ? endOf(first.from) : null;
        const tap = source?.of === 'part' && source.kind === 'tap' ? plan.parts.get(partAt(first!.from)!)?.part : null;
        return tap?.kind === 'tap' ? !tap.fused : true;
      });
      const heavy = bare.filter(({ to }) => ['switch', 'busbar'].includes(endType(to)));
      const told = bare.filter((link) => !heavy.includes(link));
      const byKey = told.filter(({ to }) => {
        const [first] = wayTo(flows, to);
        return first !== undefined && endType(first.from) !== 'battery';
      });
      const hits = told.flatMap((link): Hit[] => {
        if (byKey.includes(link)) return [];
        const shared =
          plan.links.some(({ id, proposed }) => id === link.id && proposed) &&
          build.power.circuits.windings?.feed === 'shared';
        return [
          {
            at: link.id,
            where: { type: 'end', end: link.to },
            detail: `${labelOf(net, link.to)} hangs on the battery by ${readSize(link.squareMm, build)} that no fuse protects: rubbed through it burns.`,
            remedy: shared ? behindFuse : undefined,
          },
        ];
      });
      const [first] = byKey;
      if (first)
        hits.push({
          at: 'key',
          severity: 'note',
          title: 'Protected by the car’s own fuse only',
          where: { type: 'wire', wireId: first.id },
          detail: `${listWords(byKey.map(({ to }) => labelOf(net, to)))}: on the key without a fuse of the loom. The car’s own fuse before the key must not be above ${formatAmps(Math.min(...byKey.map(({ carriesAmps }) => carriesAmps)))}, which is what the thinnest of them carries.`,
          remedy: build.power.circuits.windings?.feed === 'shared' ? behindFuse : undefined,
        });
      return hits;
    },
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
    id: 'PW-18',
    family: 'Power',
    severity: 'fix',
    title: 'Return thinner than its load asks',
    source: 'Ampacity common practice; IEC 60364-5-52 grouping',
    sheet: 'feeds',
    check: ({ build, net }) => {
      const around = surroundings(build);
      return net.wires.flatMap((wire): Hit[] => {
        if (wire.signal !== 'ground' || wire.amps <= carriedAmps(wire.squareMm, around) + CLOSE) return [];
        const chosen = build.loom.wires[wire.id]?.squareMm !== undefined;
        return [
          {
            at: wire.id,
            where: { type: 'wire', wireId: wire.id },
            detail: `${labelOf(net, wire.from)} to ${labelOf(net, wire.to)}: ${formatAmps(wire.amps)} return through ${readSize(wire.squareMm, build)}, which carries ${formatAmps(carriedAmps(wire.squareMm, around))}.`,
            remedy: chosen
              ? { label: 'Derive the wire', calls: [call('setWire', { wireId: wire.id, squareMm: null })] }
              : undefined,
          },
        ];
      });
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
