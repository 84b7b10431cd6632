import { catalog } from '~/catalog';
import { judgeRows } from '~/core/trigger/both-edges';
import { costOf } from '~/core/trigger/judge-row';
import { primary } from '~/core/trigger/trials';
import { chooseTracks, polarityOf, showsSides } from '~/core/trigger/tracks';
import { align } from '~/core/trigger/align';
import { patternOf } from '~/core/trigger/pattern';
import { rowsOf } from '~/core/trigger/rows';
import { fieldCapture } from '~/tests/other-engine';
import { fieldCases } from '~/tests/field-captures';
for (const n of process.argv.slice(2).map(Number)) {
const c = fieldCases(1, catalog.wheels, n)[0];
console.log(c.name);
const cap = fieldCapture(c.spec);
const ch = chooseTracks(cap); if (!ch.ok) throw 1;
const { crank, cam } = ch.value;
const rows = rowsOf(crank, polarityOf(crank).polarity);
console.log('pulses', rows.map((r) => r.pulses.length + '/' + r.all.length), 'clock', rows[0].clock, polarityOf(crank), crank.reads, JSON.stringify(crank.shape));

  const row = rows[0]; 
  for (const w of catalog.wheels.filter((w) => w.id === c.spec.wheel.id || w.id === (process.env.W ?? '30-1'))) { const p = patternOf(w, 'centre');
  for (const [slope, play] of [[0.003,0.012],[0.01, 0.035],[0.01, 0.01]]) for (const n of [200, 500]) {
    const a = align(p, row.pulses, row.from, Math.min(row.to,row.from+n), { slope, play, clock: row.clock });
    console.log(w.id, n, slope, play, a.cost.toFixed(1), a.events.length, a.events.slice(0,8).map((e)=>e.kind+e.pulse+'@'+e.tooth).join(' '));
  }}
if (process.env.STEPS) { const row = rows[0]; console.log([...row.pulses].slice(1,120).map((t,i)=>((t-row.pulses[i])*1e3).toFixed(2)).join(' ')); }
}
