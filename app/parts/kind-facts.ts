import { sensorsIn, trait, type DeviceKind } from '~/core/devices/kind';
import { curveOf } from '~/core/devices/curve';
import { formatOhms } from '~/core/units/format';
import { readQuantity, type Reader } from '~/core/units/units';
import { readMeasure } from '~/core/units/workshop';

/** What a kind is in figures, in the units of whoever reads: ranges, ohms, flow. */
export function kindFacts(kind: DeviceKind, reader: Reader): string[] {
  const pressure = trait(kind, 'pressure');
  const injector = trait(kind, 'injector');
  const coil = trait(kind, 'coil');
  const sensors = sensorsIn(kind).map((sensor) => {
    const span = `${readQuantity(sensor.quantity, sensor.least, reader)} to ${readQuantity(sensor.quantity, sensor.most, reader)}`;
    if (sensor.quantity === 'pressure' && pressure) return `${span} ${pressure.reference}`;
    if (sensor.signal !== 'ohms' || sensor.quantity !== 'temperature') return span;
    const ohms = curveOf(sensor.curve).signalOf(20);
    return ohms === null ? span : `${formatOhms(ohms)} at ${readQuantity('temperature', 20, reader)}, ${span}`;
  });
  return [
    ...sensors,
    ...(injector
      ? [
          `${formatOhms(injector.ohms)}, ${readMeasure('flow', injector.flowCcPerMinute, reader)} at ${readQuantity('pressure', injector.atKpa, reader)}`,
        ]
      : []),
    ...(coil ? [`${formatOhms(coil.primaryOhms)}, ${coil.inductanceMillihenry} mH`] : []),
  ];
}
