import { catalog } from '~/catalog';
import { match } from '~/core/trigger/match';
import { primary } from '~/core/trigger/trials';
import { trackOf, type Wheel } from '~/core/trigger/wheel';
import { otherCapture, type OtherSpec } from '../tests/other-synth';
const { wheels } = catalog; const wheel = (id: string) => wheels.find((w) => w.id === id)!;
const squareOnly = ({ family }: Wheel) => ['width-coded', 'distributor', 'slot-disc'].includes(family);
const sparse = ({ edges }: Wheel) => edges.length <= 8;
const stress = { ripple: 0.4, jitter: 0.03, noise: 0.01 } as const;
const shapes = ['sine', 'flux', 'edges', 'hall', 'hall-low'] as const;
const orders = [2, 1.5, 3, 2.5];
function specOf(own: Wheel, at: number, more: Partial<OtherSpec>): OtherSpec {
  const shape = squareOnly(own) ? 'hall' : shapes[at % shapes.length];
  return { wheel: own, cam: own.family === 'distributor' ? null : (trackOf(own, 1) ?? wheel('cam-1')), shape, seed: at + 1, rpm: 190 + 20 * (at % 5), seconds: sparse(own) ? 3 : 2.2, sampleRate: own.family === 'slot-disc' ? 150_000 : 40_000, order: orders[at % orders.length], phase: 77 * at, ...more };
}
const own = wheels.filter(primary);
const only = process.argv[2]; const pick = process.argv[3];
const cases: [string, Wheel, OtherSpec][] = [];
own.forEach((one, at) => {
  cases.push(['clean', one, specOf(one, at, { ripple: 0.1, noise: 0.005, reversed: at % 2 === 1 })]);
  cases.push(['lost', one, specOf(one, at, { ...stress, lost: 0.02 })]);
  const shape = at % 2 === 0 || squareOnly(one) || one.missing === 0 ? 'hall' : 'edges';
  cases.push(['added', one, specOf(one, at, { ...stress, added: 0.02, shape })]);
});
for (const id of ['60-2', '36-1', '24-1', '12-1']) cases.push(['single80', wheel(id), specOf(wheel(id), 3, { ripple: 0.8, order: 0.5 })]);
for (let seed = 1; seed <= 10; seed += 1) cases.push(['even12', wheel('12-even'), specOf(wheel('12-even'), seed, { ...stress, lost: 0.02, shape: 'hall', seconds: 3 })]);
for (const id of ['60-2', '36-1', '36-2-2-2', '12-1', '24-2']) for (const seed of [1, 2, 3, 4]) cases.push(['two', wheel(id), specOf(wheel(id), seed, { ripple: 0.3, seconds: (2.1 * 120) / 250, rpm: 250, seed })]);

import { judgeRows } from '~/core/trigger/both-edges';
import { costOf } from '~/core/trigger/judge-row';
import { chooseTracks, polarityOf, showsSides } from '~/core/trigger/tracks';
import { rowsOf } from '~/core/trigger/rows';
for (const [name, one, spec] of cases) {
  if (name !== only || one.id !== pick) continue;
  const cap = otherCapture(spec);
  const ch = chooseTracks(cap); if (!ch.ok) throw 1;
  const { crank, cam } = ch.value;
  const rows = rowsOf(crank, polarityOf(crank).polarity);
  console.log(name, one.id, spec.shape, 'order', spec.order, 'pulses', rows.map((r) => r.pulses.length + '/' + r.all.length), 'clock', rows[0].clock, polarityOf(crank), crank.reads, JSON.stringify(crank.shape));
  const near = judgeRows(rows, { library: wheels.filter(primary), square: showsSides(crank), cam, engines: [], onProgress: () => undefined });
  for (const j of near.filter((j, i) => i < 4 || j.wheel.id === one.id || (j.pattern.length > 1 && i < 12))) {
    console.log(j.wheel.id.padEnd(14), j.direction, j.inverted, j.level, 'cost', costOf(j).toFixed(1), 'own', j.cost.toFixed(1), 'stray', j.stray, 'misfit', j.misfit.toFixed(1), 'events', j.alignment.events.length, 'fit', j.fit.toFixed(2), JSON.stringify(j.pace), j.alignment.cost.toFixed(0), j.ripple && `order ${j.ripple.order} amp ${j.ripple.amplitude.toFixed(3)} price ${j.ripple.price.toFixed(1)}`, 'round', j.round);
    if (process.env.EV) console.log(JSON.stringify(j.alignment.events.slice(0, 12)), [...j.alignment.teeth.slice(0, 80)].join(' '));
  }
  if (process.env.STEPS) { const row = rows[0]; console.log([...row.pulses].slice(1,120).map((t,i)=>((t-row.pulses[i])*1e3).toFixed(2)).join(' ')); }
}
