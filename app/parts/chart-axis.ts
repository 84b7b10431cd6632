import type { Tints } from './tints';

/** A straight scale of a chart in the theme's colours. */
export const chartAxis = (tints: Tints, title: string) => ({
  type: 'linear' as const,
  title: { display: true, text: title, color: tints.soft, font: { family: tints.font, size: 13 } },
  ticks: { color: tints.soft, font: { family: tints.font, size: 12 }, maxRotation: 0, maxTicksLimit: 9 },
  grid: { color: tints.rule, lineWidth: 0.6 },
  border: { color: tints.ink },
});
