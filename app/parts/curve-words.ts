import type { Curve } from '~/core/devices/curve';
import { formatOhms } from '~/core/units/format';
import { readQuantity, type Quantity, type Reader } from '~/core/units/units';

type Signal = 'volts' | 'ohms' | 'hertz' | 'millivolts';
const units: Record<Exclude<Signal, 'ohms'>, string> = { volts: 'V', hertz: 'Hz', millivolts: 'mV' };

/** A calibration in a line that can be typed into an ECU: `0.5 V → 20.0 kPa, 4.5 V → 300.0 kPa`. */
export function curveWords(curve: Curve, quantity: Quantity, signal: Signal, reader: Reader): string {
  const written = (value: number) => (signal === 'ohms' ? formatOhms(value) : `${value} ${units[signal]}`);
  switch (curve.method) {
    case 'linear':
    case 'steinhart-hart':
      return curve.points
        .map((point) => `${written(point.signal)} → ${readQuantity(quantity, point.value, reader)}`)
        .join(', ');
    case 'table':
      return `table of ${curve.points.length} rows, ${written(curve.points[0].signal)} to ${written(curve.points[curve.points.length - 1].signal)}`;
    case 'beta':
      return `${formatOhms(curve.ohms)} at ${readQuantity('temperature', curve.celsius, reader)}, beta ${curve.beta} K`;
    case 'type-k':
      return 'type K, ITS-90';
  }
}
