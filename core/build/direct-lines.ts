import { trait, type DeviceKind } from '../devices/kind';
import { destinationOf } from './destination';
import type { Build, Device } from './schema';

/** A device with what it is. */
export interface Known {
  readonly device: Device;
  readonly kind: DeviceKind;
}

/** Lines that lead straight from a device to another, the ECU left out; `only`: of these terminals. */
export const linesOf = ({ device, kind }: Known, only: (terminalId: string) => boolean = () => true): Set<string> =>
  new Set(
    kind.terminals.flatMap((terminal) => {
      const far = destinationOf(device, terminal);
      return far.to === 'line' && only(terminal.id) ? [far.line] : [];
    }),
  );

/** Devices of known kind at the far end of these lines. */
const atLines = (build: Build, from: Device, lines: ReadonlySet<string>): Known[] =>
  lines.size === 0
    ? []
    : build.devices.flatMap((device): Known[] => {
        const kind = build.kinds[device.kindId];
        if (!kind || device.id === from.id) return [];
        return [...linesOf({ device, kind })].some((line) => lines.has(line)) ? [{ device, kind }] : [];
      });

/** The igniter module a coil's primary hangs on; null: it has none, or its igniter is inside. */
export const igniterOf = (build: Build, coil: Known): Known | null =>
  atLines(build, coil.device, linesOf(coil)).find(({ kind }) => trait(kind, 'igniter')) ?? null;

/** Coils on the outputs of an igniter module; `input`: of the one channel that is worked by that terminal. */
export function coilsBehind(build: Build, module: Known, input: string | null = null): Known[] {
  const outputs = new Set(
    trait(module.kind, 'igniter')?.channels.flatMap((one) =>
      input === null || one.input === input ? [one.output] : [],
    ),
  );
  const lines = linesOf(module, (id) => outputs.has(id));
  return atLines(build, module.device, lines).filter(({ kind }) => trait(kind, 'coil'));
}
