import { hasRole, type DeviceKind } from '../devices/kind';
import { deviceAt } from '../ends/ends';
import { WINDING_AMPS, type Flows } from './flow';

/** A build's feeds with its devices by name. */
interface Fed {
  readonly power: { readonly flows: Flows };
  readonly deviceOf: ReadonlyMap<string, { readonly kind: DeviceKind }>;
}

/** Mean amperes while the engine runs, with everything on: all but what the starter's terminal draws. */
export const runningAmps = (net: Fed): number =>
  net.power.flows.draws.reduce((sum, { end, load }) => {
    const kind = net.deviceOf.get(deviceAt(end) ?? '')?.kind;
    return sum + (kind && hasRole(kind, 'starter') ? 0 : (load?.amps ?? WINDING_AMPS));
  }, 0);

/** Share of what an alternator is marked with that may be asked of it for good (common practice): heat and belt take the rest. */
export const ALTERNATOR_SHARE = 0.8;
/** What it gives while the engine idles, share of what it is marked with (common practice: 40 to 60 %). */
export const ALTERNATOR_AT_IDLE = 0.5;
/** Alternators are marked in steps of about so much, amperes (common practice). */
const RATING_STEP = 5;
/** The rating an alternator needs for a load, amperes: the next it would be marked with. */
export const alternatorFor = (amps: number): number => Math.ceil(amps / ALTERNATOR_SHARE / RATING_STEP) * RATING_STEP;
