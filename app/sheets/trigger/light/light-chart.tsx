import {
  Chart,
  Legend,
  LineController,
  LineElement,
  LinearScale,
  PointElement,
  ScatterController,
  Tooltip,
  type ChartOptions,
} from 'chart.js';
import { Chart as ReactChart } from 'react-chartjs-2';
import { chartAxis } from '../../../parts/chart-axis';
import { useTints } from '../../../parts/tints';

Chart.register(LineController, ScatterController, LineElement, PointElement, LinearScale, Legend, Tooltip);

export interface LightChartData {
  readonly points: readonly { readonly rpm: number; readonly error: number }[];
  /** Two ends of the line through them, seen less commanded over rpm. */
  readonly line: readonly { readonly rpm: number; readonly error: number }[];
  readonly maxRpm: number;
}

/** How far the light was from the lock, over the speed. The table beside it says the same in figures. */
export default function LightChart({ data, label }: { data: LightChartData; label: string }) {
  const tints = useTints();
  // An even number of degrees, so that the ends of the scale are ticks as well.
  const most = 2 * Math.ceil(Math.max(2, ...data.points.map(({ error }) => Math.abs(error) * 1.1)) / 2);
  const far = 500 * Math.ceil(Math.max(1000, ...data.points.map(({ rpm }) => rpm * 1.05)) / 500);
  const options: ChartOptions = {
    animation: false,
    maintainAspectRatio: false,
    scales: {
      x: { ...chartAxis(tints, 'rpm'), min: 0, max: far },
      y: { ...chartAxis(tints, 'early +, late –, °'), min: -most, max: most },
    },
    plugins: {
      legend: { display: false },
      tooltip: {
        callbacks: {
          title: () => '',
          label: (item) => `${item.parsed.x} rpm: ${item.parsed.y?.toFixed(1)}°`,
        },
      },
    },
  };
  const at = ({ rpm, error }: { rpm: number; error: number }) => ({ x: rpm, y: error });
  return (
    <ReactChart
      key={`${tints.stop} ${data.points.length}`}
      type="scatter"
      role="img"
      aria-label={label}
      options={options}
      data={{
        datasets: [
          {
            type: 'line',
            data: [at({ rpm: 0, error: 0 }), at({ rpm: data.maxRpm * 2, error: 0 })],
            borderColor: tints.proved,
            borderWidth: 1.5,
            pointRadius: 0,
          },
          {
            type: 'line',
            data: data.line.map(at),
            borderColor: tints.pencil,
            borderDash: [6, 4],
            borderWidth: 2,
            pointRadius: 0,
          },
          {
            type: 'scatter',
            data: data.points.map(at),
            pointStyle: 'crossRot',
            pointRadius: 8,
            borderWidth: 2.5,
            borderColor: tints.selection,
          },
        ],
      }}
    />
  );
}
