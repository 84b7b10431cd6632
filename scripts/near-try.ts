import { catalog } from '~/catalog';
import { judgeRows } from '~/core/trigger/both-edges';
import { costOf } from '~/core/trigger/judge-row';
import { primary } from '~/core/trigger/trials';
import { chooseTracks, polarityOf, showsSides } from '~/core/trigger/tracks';
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
const near = judgeRows(rows, { library: catalog.wheels.filter(primary), square: showsSides(crank), cam, engines: [], onProgress: () => undefined });
for (const j of near.filter((j,i)=>i<6||j.wheel.id===c.spec.wheel.id||(j.pattern.length>1&&i<12))) {if(process.env.EV) console.log(JSON.stringify(j.alignment.events.slice(0,12)), [...j.alignment.teeth.slice(0,80)].join(' '));console.log(j.wheel.id.padEnd(14), j.direction, j.inverted, 'cost', costOf(j).toFixed(1), 'own', j.cost.toFixed(1), 'stray', j.stray, 'misfit', j.misfit.toFixed(1), 'events', j.alignment.events.length, 'fit', j.fit.toFixed(2), JSON.stringify(j.pace), j.ripple && `order ${j.ripple.order} amp ${j.ripple.amplitude.toFixed(3)}`, 'round', j.round);}
if (process.env.STEPS) { const row = rows[0]; console.log([...row.pulses].slice(1,120).map((t,i)=>((t-row.pulses[i])*1e3).toFixed(2)).join(' ')); }
}
