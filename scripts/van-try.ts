import { catalog } from '~/catalog';
import { judgeRows } from '~/core/trigger/both-edges';
import { costOf } from '~/core/trigger/judge-row';
import { chooseTracks, polarityOf, showsSides } from '~/core/trigger/tracks';
import { rowsOf } from '~/core/trigger/rows';
import { primary } from '~/core/trigger/trials';
import { seeded, synth } from '~/core/trigger/synth';
const wheel = (id: string) => catalog.wheels.find((w) => w.id === id)!;
for (const id of ['vane-8-wide']) for (const inverted of [false, true]) {
  const { capture } = synth({ crank: wheel(id), cam: null, startDegrees: inverted ? 200 : 0, speed: { type: 'cranking', rpm: 240, ripple: 0.4, events: 2 }, seconds: 2, faults: { jitter: 0.02 }, sampleRate: 40_000, crankSensor: { type: 'hall' }, random: seeded(9) });
  const ch = chooseTracks(capture); if (!ch.ok) throw 1; const { crank, cam } = ch.value;
  const rows = rowsOf(crank, polarityOf(crank).polarity);
  const near = judgeRows(rows, { library: catalog.wheels.filter(primary), square: showsSides(crank), cam, engines: [], onProgress: () => undefined });
  for (const j of near.slice(0, 6)) console.log(j.wheel.id.padEnd(14), j.direction, j.inverted, j.level, 'cost', costOf(j).toFixed(1), 'own', j.cost.toFixed(1), 'misfit', j.misfit.toFixed(1), 'events', j.alignment.events.length, 'fit', j.fit.toFixed(2), JSON.stringify(j.pace), j.ripple && `order ${j.ripple.order} amp ${j.ripple.amplitude.toFixed(3)} price ${j.ripple.price.toFixed(1)}`);
}
