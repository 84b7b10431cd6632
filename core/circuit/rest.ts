import type { Build } from '../build/schema';
import { sensorsIn, type DeviceKind, type Internal } from '../devices/kind';
import { REFERENCE_VOLTS, restSignal } from '../sensing/sensor';

/**
 * A device's inside at rest at this build's altitude and ambient: resistive sensors take their value at ambient,
 * ratiometric ones the ratio that belongs to the barometer, or to nothing for a gauge.
 */
export function internalsAtRest(site: Build['site'], kind: DeviceKind): Internal[] {
  const sensors = sensorsIn(kind);
  if (sensors.length === 0) return kind.internals;
  return kind.internals.map((internal) => {
    if (internal.type === 'resistor') {
      const sensor = sensors.find(
        (one) => one.signal === 'ohms' && (one.terminal === internal.from || one.terminal === internal.to),
      );
      const ohms = sensor ? restSignal(site, kind, sensor) : null;
      return ohms === null ? internal : { ...internal, ohms };
    }
    const sensor = sensors.find((one) => one.signal === 'volts' && one.terminal === internal.signal);
    const volts = sensor ? restSignal(site, kind, sensor) : null;
    const ratio = volts === null ? null : volts / REFERENCE_VOLTS;
    return ratio === null || !(ratio > 0 && ratio < 1) ? internal : { ...internal, ratio };
  });
}
