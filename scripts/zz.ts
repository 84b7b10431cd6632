import { wheels } from '~/catalog/wheels';
import { synth, seeded } from '~/core/trigger/synth';
import { match } from '~/core/trigger/match';
const cam1 = wheels.find(w=>w.id==='cam-1')!;
let bad=0, n=0; const t0=performance.now();
const arg=process.argv[2]??'clean';
for (const w of wheels) for (const seed of [1,2,3]) for (const type of ['vr','hall'] as const) {
  const primary = w.shaft==='crank'||w.family==='distributor'||w.family==='slot-disc';
  if(type==='vr' && (w.family==='width-coded'||w.family==='distributor'||w.id==='slots-360')) continue;
  const crank = primary? w : wheels[1]; const cam = primary? (w.family==='distributor'? null: cam1) : w;
  const faults = arg==='hard'? {jitter:0.03, lost:0.02, added:0.0}: arg==='add'?{jitter:0.03, added:0.02}:{};
  const rev = seed===2&&type==='vr';
  const rpm=250; const cycles= 4; const seconds=cycles*120/rpm;
  const random=seeded(seed*77+w.id.length);
  const s = synth({crank, cam, camDegrees: random()*720, startDegrees: random()*720, speed:{type:'cranking', rpm, ripple: arg==="clean"?0:+(process.argv[3]??0.4), events:2}, seconds, sampleRate: w.id==='slots-360'?100000:40000, crankSensor:{type, reversed: rev}, camSensor:{type:'hall'}, faults, random});
  const m = match(s.capture,{wheels}); n++;
  if(!m.ok){ bad++; console.log(w.id,type,m.problem.sentence); continue; }
  const got = m.value.best.wheel.id, camId=m.value.camFit?.wheel?.id ?? null;
  const pol = m.value.polarity; const wantPol = type==='hall'?'square':rev?'reversed':'normal';
  const okk = got===crank.id && camId===(cam?.id??null) && pol===wantPol && Math.abs(m.value.rpm.mean-rpm)/rpm<0.12;
  if(!okk){bad++; console.log(w.id,type,seed,'->',got,camId,pol,m.value.best.score.toFixed(2),m.value.rpm.mean.toFixed(0), m.value.runnerUp?.wheel.id, m.value.events.length, m.value.notes.slice(1).join('|'));}
  else if(arg==='clean'&&m.value.events.length) console.log('events',w.id,type,m.value.events.length);
}
console.log(bad,'of',n, ((performance.now()-t0)/n).toFixed(1),'ms each');
