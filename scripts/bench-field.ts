import { catalog } from '~/catalog';
import { match } from '~/core/trigger/match';
import { fieldCapture } from '../tests/other-engine';
import { crankedCapture } from '../tests/crank-engine';
import { crankedCases, outcomeOf } from '../tests/cranked-captures';
import { fieldCases } from '../tests/field-captures';
import { otherCapture } from '../tests/other-synth';
import { stressCases } from '../tests/stress-captures';

/** Captures of the whole run: cranking drawn by other formulas than core's. */
export const FIELD_COUNT = 1000;

/** The matching was mended on seeds below 2000: the bench keeps to others. */
const FIRST_SEED = 5001;

/** Right, honest (the true wheel among those named, or 'cannot tell') and wrong but sure, with how far the odds hold. */
export function fieldReport(count = FIELD_COUNT): string {
  let [right, honest, sure] = [0, 0, 0];
  const said = { all: 0, right: 0 };
  const wrong: string[] = [];
  const milliseconds: number[] = [];
  for (const { name, spec } of fieldCases(count, catalog.wheels, FIRST_SEED)) {
    const capture = fieldCapture(spec);
    const start = performance.now();
    const found = match(capture, { wheels: catalog.wheels });
    milliseconds.push(performance.now() - start);
    if (!found.ok) {
      honest += 1;
      continue;
    }
    const { best, verdict } = found.value;
    const own = best.wheel.id === spec.wheel.id;
    if (verdict.kind === 'this' && verdict.odds[0].odds >= 0.95) {
      said.all += 1;
      if (own) said.right += 1;
    }
    if (verdict.kind === 'this' && own) right += 1;
    else if (verdict.kind === 'none' || verdict.odds.some(({ wheel }) => wheel.id === spec.wheel.id)) honest += 1;
    else {
      if (verdict.kind === 'this') sure += 1;
      wrong.push(`  ${name}: told as ${best.wheel.id}${verdict.kind === 'this' ? ', and sure' : ''}`);
    }
  }
  milliseconds.sort((one, other) => one - other);
  const share = (part: number, whole = count) => `${((100 * part) / Math.max(1, whole)).toFixed(1)} %`;
  return [
    `cranking drawn by other formulas: right ${right} (${share(right)}), honest ${honest}, wrong but sure ${sure} of ${count}`,
    `  said with 95 % and more: ${said.right} of ${said.all} right (${share(said.right, said.all)}); ${milliseconds[count >> 1].toFixed(0)} ms a capture`,
    ...wrong,
  ].join('\n');
}

/** Every wheel of the library clean, with pulses lost, with some added, and hard cases: how many of each are right. */
export function stressReport(): string {
  const sums = new Map<string, { right: number; all: number; milliseconds: number }>();
  const wrong: string[] = [];
  for (const { class: kind, at, wheel, spec } of stressCases(catalog.wheels)) {
    const capture = otherCapture(spec);
    const start = performance.now();
    const found = match(capture, { wheels: catalog.wheels });
    const sum = sums.get(kind) ?? { right: 0, all: 0, milliseconds: 0 };
    const right = found.ok && found.value.best.wheel.id === wheel.id;
    sums.set(kind, {
      right: sum.right + (right ? 1 : 0),
      all: sum.all + 1,
      milliseconds: sum.milliseconds + performance.now() - start,
    });
    if (!right)
      wrong.push(
        `  ${kind}, ${wheel.id}, case ${at}: ${found.ok ? `told as ${found.value.best.wheel.id}` : 'not read'}`,
      );
  }
  const all = [...sums].map(
    ([kind, { right, all: count, milliseconds }]) =>
      `${kind} ${right} of ${count} (${(milliseconds / count).toFixed(0)} ms)`,
  );
  return [`stress, made another way: ${all.join(', ')}`, ...wrong].join('\n');
}

/** Captures of an engine with inertia, gas and a starter; the matching was mended on seeds below 10 000. */
export const CRANKED_COUNT = Number(process.env.GONYX_CRANKED ?? 300);
const CRANKED_FIRST = 50_001;
/** Bounds of said odds that are held against how often they were right. */
const SAID = [0.5, 0.9, 0.95, 0.975, 1];

/** The third make: right, honest, wrong but sure; and what was said against what was found. */
export function crankedReport(count = CRANKED_COUNT): string {
  const sums = { right: 0, honest: 0, wrong: 0 };
  const said = SAID.map(() => ({ all: 0, right: 0 }));
  const wrong: string[] = [];
  const milliseconds: number[] = [];
  for (const one of crankedCases(count, catalog.wheels, CRANKED_FIRST)) {
    const { capture } = crankedCapture(one.spec);
    const start = performance.now();
    const found = match(capture, { wheels: catalog.wheels });
    milliseconds.push(performance.now() - start);
    const outcome = outcomeOf(one, found);
    sums[outcome] += 1;
    if (found.ok && found.value.verdict.kind === 'this') {
      const { odds } = found.value.verdict.odds[0];
      const bin = said[SAID.findIndex((most) => odds <= most)];
      bin.all += 1;
      if (outcome === 'right') bin.right += 1;
      else wrong.push(`  ${one.name}: told as ${found.value.best.wheel.id}, ${odds.toFixed(3)}`);
    }
  }
  milliseconds.sort((one, other) => one - other);
  const drawn = said.flatMap(({ all, right }, at) =>
    all === 0 ? [] : [`up to ${SAID[at]}: ${right} of ${all} right (${((100 * right) / all).toFixed(1)} %)`],
  );
  return [
    `cranking by an engine with inertia, gas and starter: right ${sums.right}, honest ${sums.honest}, wrong but sure ${sums.wrong} of ${count}; ${milliseconds[count >> 1].toFixed(0)} ms a capture`,
    `  said against found: ${drawn.join('; ')}`,
    ...wrong,
  ].join('\n');
}
