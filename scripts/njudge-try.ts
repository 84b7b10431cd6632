import { catalog } from '~/catalog';
import { judgeRows } from '~/core/trigger/both-edges';
import { costOf } from '~/core/trigger/judge-row';
import { primary } from '~/core/trigger/trials';
import { chooseTracks, polarityOf, showsSides } from '~/core/trigger/tracks';
import { judge, refine } from '~/core/trigger/judge';
import { fitRipple } from '~/core/trigger/ripple';
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
  for (const w of catalog.wheels.filter((w) => w.id === c.spec.wheel.id || w.id === (process.env.W ?? '60-2-2'))) { const p = patternOf(w, 'rise');
    const j = judge(p, row.pulses, row.from, row.to, row.clock);
    const f = fitRipple(row.pulses.subarray(row.from, row.to), j.degrees);
    console.log(w.id, 'judge', j.cost.toFixed(1), JSON.stringify(j.pace), 'fit', f && [f.order, f.rest, f.price, f.cost, f.swing.map((x)=>x.toFixed(3)).join(' ')]);
    const r = refine(j, p, row.pulses, row.from, row.to, row.clock);
    console.log('refined', r.cost.toFixed(1), JSON.stringify(r.pace), r.fit, r.ripple?.order, r.ripple?.swing.map((x)=>x.toFixed(3)).join(' '));
  }
if (process.env.STEPS) { const row = rows[0]; console.log([...row.pulses].slice(1,120).map((t,i)=>((t-row.pulses[i])*1e3).toFixed(2)).join(' ')); }
}
