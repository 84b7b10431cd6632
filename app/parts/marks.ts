import type { Build, Mark } from '~/core/build/schema';
import { signalClasses, type SignalClass } from '~/core/wire/colours';

/** Tints of the classes until the person chooses their own. */
const tints: Record<SignalClass, Mark['tint']> = {
  injector: 'sky',
  ignition: 'rose',
  output: 'olive',
  analog: 'mint',
  trigger: 'lilac',
  supply: 'blush',
  ground: 'slate',
  bus: 'teal',
};

export const defaultMark = (signal: SignalClass): Mark => ({
  letter: signalClasses[signal],
  tint: tints[signal],
  pattern: 'plain',
});
export const markOf = (build: Pick<Build, 'marks'>, signal: SignalClass): Mark =>
  build.marks[signal] ?? defaultMark(signal);

const hatches: Record<Mark['pattern'], string> = {
  plain: '',
  lines: 'repeating-linear-gradient(0deg, var(--hatch) 0 1px, transparent 1px 6px)',
  dots: 'radial-gradient(var(--hatch) 1.4px, transparent 1.6px) 0 0 / 7px 7px',
  grid: 'repeating-linear-gradient(0deg, var(--hatch) 0 1px, transparent 1px 7px), repeating-linear-gradient(90deg, var(--hatch) 0 1px, transparent 1px 7px)',
  slants: 'repeating-linear-gradient(45deg, var(--hatch) 0 1.2px, transparent 1.2px 6px)',
};
/** The ground of a marked cavity, as a CSS background. */
export const markGround = ({ tint, pattern }: Mark): string =>
  hatches[pattern] === '' ? `var(--tint-${tint})` : `${hatches[pattern]}, var(--tint-${tint})`;
