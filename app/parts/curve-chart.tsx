import {
  Chart,
  Filler,
  Legend,
  LineController,
  LineElement,
  LinearScale,
  PointElement,
  ScatterController,
  Tooltip,
  type ChartOptions,
  type Plugin,
} from 'chart.js';
import { Chart as ReactChart } from 'react-chartjs-2';
import { chartAxis } from './chart-axis';
import { useTints, type Tints } from './tints';

Chart.register(LineController, ScatterController, LineElement, PointElement, LinearScale, Filler, Legend, Tooltip);

export interface CurveChartData {
  /** The calibration: value of the quantity against what the pin sees. */
  readonly points: readonly { readonly value: number; readonly reading: number }[];
  /** What the ECU is set to, when that is another curve. */
  readonly setting: readonly { readonly value: number; readonly reading: number }[];
  readonly expected: { readonly value: number; readonly reading: number } | null;
  readonly measured: { readonly value: number; readonly reading: number } | null;
  readonly faultBelow: number | null;
  readonly faultAbove: number | null;
  readonly readingRange: readonly [number, number];
  readonly valueTitle: string;
  readonly readingTitle: string;
  /** Which way round: what the pin sees over the value, or the value over what the pin sees. */
  readonly way: 'reading-over-value' | 'value-over-reading';
}

/** Shades the readings that no whole sensor gives, and says so. */
const faultBands = (data: CurveChartData, tints: Tints): Plugin => ({
  id: 'fault-bands',
  beforeDatasetsDraw(chart) {
    const { ctx, chartArea } = chart;
    const along = data.way === 'reading-over-value' ? chart.scales.y : chart.scales.x;
    const band = (from: number, to: number) => {
      if (to <= from) return;
      const [a, b] = [along.getPixelForValue(from), along.getPixelForValue(to)];
      const box =
        data.way === 'reading-over-value'
          ? ([chartArea.left, Math.min(a, b), chartArea.width, Math.abs(b - a)] as const)
          : ([Math.min(a, b), chartArea.top, Math.abs(b - a), chartArea.height] as const);
      ctx.save();
      ctx.globalAlpha = 0.12;
      ctx.fillStyle = tints.stop;
      ctx.fillRect(...box);
      ctx.globalAlpha = 1;
      ctx.fillStyle = tints.stop;
      ctx.font = `12px ${tints.font}`;
      // The word stands beside the band: most bands are thinner than a line of text.
      const middle = (chartArea.left + chartArea.right) / 2 - 14;
      if (data.way === 'reading-over-value')
        ctx.fillText('fault', middle, box[1] > chartArea.top + 2 ? box[1] - 4 : box[1] + box[3] + 13);
      else if (box[0] > chartArea.left + 2) ctx.fillText('fault', box[0] - 32, chartArea.bottom - 8);
      else ctx.fillText('fault', box[0] + box[2] + 4, chartArea.top + 14);
      ctx.restore();
    };
    const [least, most] = data.readingRange;
    if (data.faultBelow !== null) band(least, Math.max(least, data.faultBelow));
    if (data.faultAbove !== null) band(Math.min(most, data.faultAbove), most);
  },
});

/** A sensor's calibration as a chart, both ways. The table beside it says the same in figures. */
export default function CurveChart({ data, label }: { data: CurveChartData; label: string }) {
  const tints = useTints();
  const swap = data.way === 'value-over-reading';
  const at = (point: { value: number; reading: number }) =>
    swap ? { x: point.reading, y: point.value } : { x: point.value, y: point.reading };
  const axis = (title: string, isReading: boolean) => {
    const plain = chartAxis(tints, title);
    return {
      ...plain,
      // Figures as they are: no thousands set apart.
      ticks: { ...plain.ticks, callback: (value: number | string) => String(value) },
      ...(isReading ? { min: data.readingRange[0], max: data.readingRange[1] } : {}),
    };
  };
  const options: ChartOptions = {
    responsive: true,
    maintainAspectRatio: false,
    animation: false,
    interaction: { mode: 'nearest', intersect: false, axis: 'x' },
    scales: {
      x: axis(swap ? data.readingTitle : data.valueTitle, swap),
      y: axis(swap ? data.valueTitle : data.readingTitle, !swap),
    },
    plugins: {
      legend: {
        labels: {
          color: tints.ink,
          font: { family: tints.font, size: 12 },
          usePointStyle: true,
          boxHeight: 8,
          boxWidth: 18,
        },
        position: 'top',
        align: 'end',
      },
      tooltip: {
        callbacks: {
          title: () => '',
          label: (item) =>
            `${swap ? data.readingTitle : data.valueTitle} ${item.parsed.x?.toFixed(2)}: ${item.parsed.y?.toFixed(2)}`,
        },
      },
    },
  };
  const spot = (name: string, point: { value: number; reading: number }, tint: string, pointStyle: string) => ({
    type: 'scatter' as const,
    label: name,
    data: [at(point)],
    pointStyle,
    pointRadius: 7,
    borderColor: tint,
    backgroundColor: tint,
    borderWidth: 2,
  });
  return (
    <ReactChart
      // Chart.js reads its plugins once: another way round or another theme is another chart.
      key={`${data.way} ${data.faultBelow} ${data.faultAbove} ${data.readingRange.join()} ${tints.stop}`}
      type="line"
      role="img"
      aria-label={label}
      options={options}
      plugins={[faultBands(data, tints)]}
      data={{
        datasets: [
          {
            type: 'line',
            label: 'the part',
            data: data.points.map(at),
            pointStyle: 'line' as const,
            borderColor: tints.selection,
            backgroundColor: tints.selection,
            borderWidth: 2.5,
            pointRadius: 0,
          },
          ...(data.setting.length > 0
            ? [
                {
                  type: 'line' as const,
                  label: 'the ECU as set',
                  data: data.setting.map(at),
                  pointStyle: 'line' as const,
                  borderColor: tints.pencil,
                  backgroundColor: tints.pencil,
                  borderWidth: 2,
                  borderDash: [6, 4],
                  pointRadius: 0,
                },
              ]
            : []),
          ...(data.expected ? [spot('key-on, expected', data.expected, tints.ink, 'rectRot')] : []),
          ...(data.measured ? [spot('measured', data.measured, tints.pencil, 'crossRot')] : []),
        ],
      }}
    />
  );
}
