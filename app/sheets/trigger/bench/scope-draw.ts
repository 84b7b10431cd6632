import { indexAt } from '~/core/trigger/capture/capture';
import { causeWords, type Loss } from '~/core/trigger/decoder';
import { between, rangeOf } from '~/core/trigger/view';
import type { BenchView } from '../../../workers/trigger.worker';

/** Inks of the scope, read from the theme when it is drawn. */
export interface Inks {
  readonly ink: string;
  /** What lies behind all. */
  readonly ground: string;
  readonly soft: string;
  readonly rule: string;
  readonly crank: string;
  readonly cam: string;
  readonly gap: string;
  readonly loss: string;
  readonly tdc: string;
  readonly font: string;
}

export interface ScopeSpan {
  /** Left and right edge: seconds, or crank degrees on the angle axis. */
  readonly from: number;
  readonly to: number;
  readonly axis: 'time' | 'angle';
}

export interface Overlay {
  /** Crank degrees on the capture's own count, with length. */
  readonly from: number;
  readonly to: number;
  readonly kind: 'spark' | 'injection' | 'tdc';
}

const TOP = 22;
const FOOT = 22;

const tables = new WeakMap<BenchView, { seconds: Float64Array; degrees: Float64Array }>();

/** Seconds and crank degrees of the pulses that belong to a tooth. */
function table(view: BenchView) {
  const known = tables.get(view);
  if (known) return known;
  const { pulses, degrees } = view.reading.match;
  const keep = (_: number, i: number) => !Number.isNaN(degrees[i]);
  const made = { seconds: pulses.filter(keep), degrees: degrees.filter(keep) };
  tables.set(view, made);
  return made;
}

/** Maps between the axis and seconds: straight on the time axis, along the teeth on the angle axis. */
export function axisOf(view: BenchView, axis: ScopeSpan['axis']) {
  if (axis === 'time') return { seconds: (value: number) => value, value: (seconds: number) => seconds };
  const { seconds: time, degrees } = table(view);
  return {
    seconds: (value: number) => between(degrees, time, value),
    value: (seconds: number) => between(time, degrees, seconds),
  };
}

const niceStep = (span: number, most: number): number => {
  const rough = span / most;
  const power = 10 ** Math.floor(Math.log10(rough));
  return [1, 2, 5, 10].map((one) => one * power).find((one) => one >= rough) ?? rough;
};

/** Angles are counted in twelfths and quarters of a turn. */
const angleSteps = [1, 2, 5, 10, 15, 30, 45, 90, 180, 360, 720, 1440, 3600, 7200];

export function drawScope(
  pen: CanvasRenderingContext2D,
  size: { readonly width: number; readonly height: number },
  view: BenchView,
  span: ScopeSpan,
  inks: Inks,
  options: { readonly ghost: boolean; readonly overlays: readonly Overlay[]; readonly losses: readonly Loss[] },
): void {
  const { width, height } = size;
  const { match } = view.reading;
  const axis = axisOf(view, span.axis);
  const x = (value: number) => ((value - span.from) / (span.to - span.from)) * width;
  const xAt = (seconds: number) => x(axis.value(seconds));
  pen.clearRect(0, 0, width, height);
  pen.font = `12px ${inks.font}`;
  pen.textBaseline = 'middle';
  const tracks = [match.crank, ...(match.cam ? [match.cam] : [])];
  const room = height - TOP - FOOT;
  const crankRoom = tracks.length === 2 ? room * 0.66 : room;

  // Grid and axis.
  const steps = span.axis === 'time' ? null : (angleSteps.find((one) => (span.to - span.from) / one <= 9) ?? 7200);
  const step = steps ?? niceStep(span.to - span.from, 8);
  pen.strokeStyle = inks.rule;
  pen.fillStyle = inks.soft;
  pen.lineWidth = 1;
  pen.textAlign = 'center';
  for (let value = Math.ceil(span.from / step) * step; value <= span.to; value += step) {
    const at = Math.round(x(value)) + 0.5;
    pen.beginPath();
    pen.moveTo(at, TOP);
    pen.lineTo(at, height - FOOT);
    pen.stroke();
    const label =
      span.axis === 'angle'
        ? `${Math.round(value)}°`
        : span.to - span.from < 0.2
          ? `${(value * 1000).toFixed(step < 0.001 ? 1 : 0)} ms`
          : `${value.toFixed(step < 0.1 ? 2 : 1)} s`;
    if (at > 22 && at < width - 22) pen.fillText(label, at, height - FOOT / 2);
  }

  // Gaps of the wheel, shaded where they fall.
  const { pulses, teeth, degrees } = match;
  const [low, high] = [axis.seconds(span.from), axis.seconds(span.to)];
  const first = Math.max(1, firstAfter(pulses, low) - 1);
  const last = Math.min(pulses.length - 1, firstAfter(pulses, high) + 1);
  const place = match.best.wheel.places;
  const pitch = place === null ? 0 : (360 / place) * (match.best.wheel.shaft === 'cam' ? 2 : 1);
  for (let i = first; i <= last; i += 1) {
    const wide = degrees[i] - degrees[i - 1];
    if (!(pitch > 0 && wide > pitch * 1.5)) continue;
    pen.fillStyle = inks.gap;
    pen.globalAlpha = 0.16;
    const [from, to] = [xAt(pulses[i - 1]), xAt(pulses[i])];
    pen.fillRect(from, TOP, Math.max(1, to - from), crankRoom);
    pen.globalAlpha = 1;
  }

  // The ideal pattern behind the capture.
  const perPixel = (last - first) / width;
  if (options.ghost && perPixel < 0.25) {
    const top = TOP + crankRoom * 0.1;
    const foot = TOP + crankRoom * 0.9;
    pen.strokeStyle = inks.soft;
    pen.globalAlpha = 0.55;
    pen.setLineDash([3, 3]);
    pen.beginPath();
    for (let i = first; i <= last; i += 1) {
      if (teeth[i] < 0 || Number.isNaN(degrees[i])) continue;
      const own = idealWidth(view, teeth[i]);
      const centre = match.crank.reads !== 'crossings' ? degrees[i] + own / 2 : degrees[i];
      const [from, to] = [axisX(view, span, x, centre - own / 2), axisX(view, span, x, centre + own / 2)];
      pen.moveTo(from, foot);
      pen.lineTo(from, top);
      pen.lineTo(to, top);
      pen.lineTo(to, foot);
    }
    pen.stroke();
    pen.setLineDash([]);
    pen.globalAlpha = 1;
  }

  // The traces.
  tracks.forEach((track, row) => {
    const top = TOP + (row === 0 ? 0 : crankRoom + 6);
    const tall = row === 0 ? crankRoom - 4 : room - crankRoom - 6;
    const { values } = track.channel;
    const pyramid = view.pyramids[track.index];
    const data = view.capture.channels[track.index]?.values ?? values;
    // What was recorded is drawn, at its own range: that of a mended signal is another.
    const [least, most] = rangeOf(data, pyramid, 0, data.length);
    const scale = (tall - 6) / Math.max(1e-9, most - least);
    const y = (value: number) => top + tall - 3 - (value - least) * scale;
    pen.strokeStyle = row === 0 ? inks.crank : inks.cam;
    pen.lineWidth = 1.4;
    pen.beginPath();
    const indexOf = (pixel: number) =>
      indexAt(view.capture.time, axis.seconds(span.from + ((span.to - span.from) * pixel) / width));
    const samples = indexOf(width) - indexOf(0);
    if (samples < width * 2) {
      const [from, to] = [Math.max(0, Math.floor(indexOf(0))), Math.min(data.length - 1, Math.ceil(indexOf(width)))];
      for (let i = from; i <= to; i += 1) {
        const px = xAt(secondsOfSample(view, i));
        if (i === from) pen.moveTo(px, y(data[i]));
        else pen.lineTo(px, y(data[i]));
      }
    } else {
      let before = Math.floor(indexOf(0));
      for (let pixel = 0; pixel < width; pixel += 1) {
        const next = Math.max(before + 1, Math.floor(indexOf(pixel + 1)));
        const [down, up] = rangeOf(data, pyramid, before, next);
        if (down <= up) {
          pen.moveTo(pixel + 0.5, y(up));
          pen.lineTo(pixel + 0.5, Math.max(y(down), y(up) + 1));
        }
        before = next;
      }
    }
    pen.stroke();
  });

  // Tooth numbers, where there is room.
  pen.fillStyle = inks.ink;
  pen.textAlign = 'center';
  const spacing = width / Math.max(1, last - first);
  for (let i = first; i <= last; i += 1) {
    if (teeth[i] < 0) continue;
    const number = teeth[i] + 1;
    const shown = spacing > 22 || (spacing > 6 && number % 10 === 1) || (spacing > 0.8 && number === 1);
    if (shown) pen.fillText(String(number), xAt(pulses[i]), TOP + crankRoom - 7);
  }

  // What the engine does then.
  for (const overlay of options.overlays) {
    const [from, to] = [axisX(view, span, x, overlay.from), axisX(view, span, x, overlay.to)];
    if (to < 0 || from > width) continue;
    pen.fillStyle = overlay.kind === 'spark' ? inks.gap : overlay.kind === 'injection' ? inks.crank : inks.tdc;
    if (overlay.kind === 'tdc') pen.fillRect(from - 1, 0, 2, TOP - 4);
    else pen.fillRect(from, overlay.kind === 'spark' ? 2 : 11, Math.max(2, to - from), 6);
  }

  // Losses over everything.
  pen.textAlign = 'left';
  let free = Number.NEGATIVE_INFINITY;
  for (const loss of options.losses) {
    const at = Math.round(xAt(loss.seconds)) + 0.5;
    if (at < 0 || at > width) continue;
    pen.strokeStyle = inks.loss;
    pen.lineWidth = 1.6;
    pen.beginPath();
    pen.moveTo(at, TOP - 4);
    pen.lineTo(at, height - FOOT);
    pen.stroke();
    const label = causeWords[loss.cause];
    const long = pen.measureText(label).width;
    if (at > free && at + long + 6 < width) {
      // On a ground of its own: close pulses leave no line of words to read.
      pen.fillStyle = inks.ground;
      pen.fillRect(at + 2, TOP - 3, long + 6, 15);
      pen.fillStyle = inks.loss;
      pen.fillText(label, at + 5, TOP + 8);
      free = at + long + 12;
    }
  }
}

const axisX = (view: BenchView, span: ScopeSpan, x: (value: number) => number, degrees: number): number =>
  x(span.axis === 'angle' ? degrees : axisOf(view, 'angle').seconds(degrees));

function firstAfter(values: Float64Array, value: number): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle] <= value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Width of a tooth on the crank, degrees. */
function idealWidth(view: BenchView, tooth: number): number {
  const { wheel } = view.reading.match.best;
  const rises = wheel.edges.flatMap((edge, i) => (edge.level === 1 ? [i] : []));
  const rise = rises[tooth % rises.length];
  const next = wheel.edges[(rise + 1) % wheel.edges.length];
  return ((next.degrees - wheel.edges[rise].degrees + 360) % 360) * (wheel.shaft === 'cam' ? 2 : 1);
}

function secondsOfSample(view: BenchView, index: number): number {
  const { index: anchors, seconds } = view.capture.time;
  return between(anchors, seconds, index);
}
