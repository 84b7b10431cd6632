import { wheels } from '~/catalog/wheels';
import { synth, seeded } from '~/core/trigger/synth';
import { match } from '~/core/trigger/match';
const w=wheels.find(w=>w.id==='36-1')!, cam=wheels.find(w=>w.id==='cam-1')!;
const random=seeded(5);
const s = synth({crank:w, cam, camDegrees: 100, startDegrees: 50, speed:{type:'cranking', rpm:250, ripple: 0.4, events:2}, seconds:2, sampleRate: 40000, crankSensor:{type:'vr'}, camSensor:{type:'hall'}, faults:{jitter:.03, lost:.02}, random});
const m=match(s.capture,{wheels}); if(m.ok){ console.log(m.value.camFit, m.value.events, s.injected.map(i=>[i.fault,i.seconds]), m.value.events.map(e=>m.value.pulses[e.pulse])); }
