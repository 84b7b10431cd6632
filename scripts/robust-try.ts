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
const sums: Record<string, [number, number, number]> = {};
for (const [name, one, spec] of cases) {
  if (only && only !== 'all' && name !== only) continue;
  if (pick && one.id !== pick) continue;
  const cap = otherCapture(spec);
  const t = performance.now(); const f = match(cap, { wheels }); const ms = performance.now() - t;
  const id = f.ok ? f.value.best.wheel.id : 'nothing';
  const s = (sums[name] ??= [0, 0, 0]); s[1] += 1; s[2] += ms; if (id === one.id) s[0] += 1;
  if (id !== one.id || ms > 2500) console.log(name, one.id, '->', id, f.ok ? f.value.best.score.toFixed(2) : '', ms.toFixed(0), 'ms', spec.shape);
}
console.log(Object.entries(sums).map(([k, [r, n, ms]]) => `${k} ${r}/${n} ${(ms / n).toFixed(0)} ms`).join('; '));
for (const [k,[n,ms,a,b]] of Object.entries((globalThis as any).ST ?? {}) as any) console.log(k.padEnd(50), n, ms.toFixed(0)+' ms', 'alive', (a/b).toFixed(1), 'us per alive', (1000*ms/a).toFixed(2));
