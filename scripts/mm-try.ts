import { catalog } from '~/catalog';
import { match } from '~/core/trigger/match';
import { seeded, synth } from '~/core/trigger/synth';
const wheel = (id: string) => catalog.wheels.find((w) => w.id === id)!;
for (let n = 0; n < 3; n += 1) for (const id of process.argv.slice(2)) {
const random = seeded(1 * 7919); const rpm = 190;
const t0 = performance.now();
const { capture } = synth({ crank: wheel(id), cam: wheel('cam-1'), camDegrees: random() * 720, startDegrees: random() * 720, speed: { type: 'constant', rpm }, seconds: (2.6 * 120) / rpm, sampleRate: 40000, crankSensor: { type: 'vr' }, camSensor: { type: 'hall' }, random });
const t1 = performance.now();
const f = match(capture, { wheels: catalog.wheels });
console.log(id, f.ok && f.value.best.wheel.id, 'synth', (t1 - t0).toFixed(0), 'match', (performance.now() - t1).toFixed(0));
}
for (const [k,[n,ms,a,b]] of Object.entries((globalThis as any).ST ?? {}) as any) console.log(k.padEnd(50), n, ms.toFixed(0)+' ms', 'alive', (a/b).toFixed(1), 'us per alive', (1000*ms/a).toFixed(2));
