import { catalog } from '~/catalog';
import { judge, refine } from '~/core/trigger/judge';
import { fitRipple } from '~/core/trigger/ripple';
import { patternOf } from '~/core/trigger/pattern';
import { chooseTracks, polarityOf } from '~/core/trigger/tracks';
import { rowsOf } from '~/core/trigger/rows';
import { engines, fieldCapture } from '../tests/other-engine';
const w = (id: string) => catalog.wheels.find((x) => x.id === id)!;
const cap = fieldCapture({ cam: null, sensor: 'hall', seed: 5, rpm: 220, seconds: 2.4, samples: 25, tops: engines.single, swing: 0.3, jitter: 0.005, wheel: w('30-2') });
const ch = chooseTracks(cap); if (!ch.ok) throw 1;
const [row] = rowsOf(ch.value.crank, polarityOf(ch.value.crank).polarity);
for (const id of ['30-2', '60-2-2']) { const p = patternOf(w(id), 'rise');
  const j = judge(p, row.pulses, row.from, row.to, row.clock);
  const f = fitRipple(row.pulses.subarray(row.from, row.to), j.degrees);
  console.log(id, 'judge', j.cost.toFixed(1), JSON.stringify(j.pace), j.alignment.events.length, 'fit', f && [f.order, f.rest, f.price, f.cost, f.amplitude]);
  const r = refine(j, p, row.pulses, row.from, row.to, row.clock);
  console.log('refined', r.cost.toFixed(1), JSON.stringify(r.pace), r.fit, r.ripple?.order, r.ripple?.price, r.ripple?.amplitude);
}
