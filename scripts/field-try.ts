import { catalog } from '~/catalog';
import { match } from '~/core/trigger/match';
import { fieldCapture } from '../tests/other-engine';
import { fieldCases } from '../tests/field-captures';
const count = Number(process.argv[2] ?? 200), first = Number(process.argv[3] ?? 1);
const verbose = process.argv[4] === 'v';
let right = 0; let honest = 0; let lie = 0; let sure95 = [0,0]; const t0 = performance.now(); let tm = 0;
const by: Record<string, [number, number]> = {};
for (const c of fieldCases(count, catalog.wheels, first)) {
  const capture = fieldCapture(c.spec);
  const t1 = performance.now();
  const found = match(capture, { wheels: catalog.wheels });
  tm += performance.now() - t1;
  const id = found.ok ? found.value.best.wheel.id : 'nothing';
  const good = id === c.spec.wheel.id;
  const v: any = found.ok ? (found.value as any).verdict : null;
  by[c.class] ??= [0, 0]; by[c.class][1] += 1;
  if (good) { right += 1; by[c.class][0] += 1; }
  const kind = v?.kind ?? 'none'; if (!good && kind === 'this') lie += 1; if (kind !== 'this') honest += 1; if (v && v.kind==='this' && v.odds[0].odds>.95) { sure95[1]+=1; if (good) sure95[0]+=1; }
  if (verbose && (!good || kind !== 'this')) console.log(c.name, '->', id, found.ok ? found.value.best.score.toFixed(3) + ' ' + found.value.rpm.mean.toFixed(0) + ' of ' + c.spec.rpm.toFixed(0) : '', v ? v.kind+' '+v.odds.map((o: any)=>o.wheel.id+' '+o.odds.toFixed(3)).join(', ')+' none '+v.noneOdds.toFixed(3)+' '+v.reason : '');
}
console.log('not sure', honest, 'wrong but sure', lie, 'sure95', sure95, 'right', right, 'of', count, JSON.stringify(by), 'match ms', (tm / count).toFixed(0), 'all ms', ((performance.now() - t0)/count).toFixed(0));
console.log((globalThis as any).ST);
