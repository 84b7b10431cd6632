import type { Build } from '../build/schema';
import { trait, type DeviceKind, type Internal } from '../devices/kind';
import { ntcOhms, ratiometricVolts, standardBarometerKpa } from '../sensing/sensing';

/**
 * A device's inside at rest at this build's altitude and ambient: NTCs take their value at ambient, absolute pressure
 * sensors read the barometer, gauge sensors read zero.
 */
export function internalsAtRest(site: Build['site'], kind: DeviceKind): Internal[] {
  const ntc = trait(kind, 'ntc');
  const pressure = trait(kind, 'pressure');
  return kind.internals.map((internal) => {
    if (internal.type === 'resistor' && ntc)
      return { ...internal, ohms: ntcOhms(ntc.ohmsAt20, ntc.beta, site.ambientCelsius) };
    if (internal.type === 'divider' && pressure) {
      const kpa = pressure.reference === 'absolute' ? standardBarometerKpa(site.altitudeMetres) : 0;
      const volts = ratiometricVolts(
        Math.max(pressure.minKpa, Math.min(pressure.maxKpa, kpa)),
        pressure.minKpa,
        pressure.maxKpa,
      );
      return { ...internal, ratio: volts / 5 };
    }
    return internal;
  });
}
