import { terminalId } from '../ends/ends';
import type { Build, OffsetReading, SensorReading } from '../build/schema';
import { hasRole, trait } from '../devices/kind';
import { isIgnition, pinsOfKind } from '../ecu/ecu';
import { cycleDegrees } from '../engine/engine';
import { needsOf, type Need } from '../netlist/needs';
import { outputUses, type OutputUse } from '../trigger/outputs';
import { hashOf } from '../data/hash';
import { checkAbout } from './check-id';

/*
 * What a reading or a confirmation was taken on: wires, pins, parts, wheels, the ECU, as plain facts. It stands while each of
 * its facts is still one of the plan's; a plan that is changed back makes it stand again, as it is with proofs of wires.
 */
export type Fact = string;

/** Facts kept from older files may be fewer than those a fresh reading would carry: what was not kept is not asked for. */
export const stands = (taken: readonly Fact[], now: readonly Fact[]): boolean =>
  taken.every((fact) => now.includes(fact));

/** What an output was seen to work: the lowest of its cylinders stands for all that are worked with it. */
function workedFact({ right, wiredTo, means }: OutputUse): Fact {
  const worked = right ? wiredTo : means;
  return worked ? `cylinder ${Math.min(...worked.cylinders)}${worked.row === 1 ? '' : ', second'}` : 'cylinder null';
}

const NO_PIN = 'no pin';
const place = (build: Build, needId: string): Fact => `${needId} on ${build.assignments[needId] ?? NO_PIN}`;
/** The pin something was read on, from its facts; null where it had none. */
export function pinRead(taken: readonly Fact[], needId: string): string | null {
  const said = `${needId} on `;
  const pin = taken.find((fact) => fact.slice(0, said.length) === said)?.slice(said.length);
  return pin === undefined || pin === NO_PIN ? null : pin;
}

/** Facts under a key-on reading: its pin, and the part at the other end. */
export function sensorFacts(build: Build, sensorId: string): Fact[] {
  const device = build.devices.find(({ id, kindId }) =>
    build.kinds[kindId]?.terminals.some((terminal) => terminalId(id, terminal.id) === sensorId),
  );
  return [place(build, sensorId), ...(device ? [`part ${device.kindId}`] : [])];
}

/** The reading of a sensor while it stands; null when there is none, or when its wire or part has changed since. */
export function standingReading(build: Build, sensorId: string): SensorReading | null {
  const reading = build.sensing.readings[sensorId];
  return reading && stands(reading.on, sensorFacts(build, sensorId)) ? reading : null;
}

const wheelFact = (shaft: string, wheel: unknown): Fact => `${shaft} wheel ${wheel === null ? 'none' : hashOf(wheel)}`;

/** Facts under timing and sync: wheels, ECU, cycle, spark mode, and the pins of the crank and cam sensors. */
export function triggerFacts(build: Build, needs: readonly Need[] = needsOf(build)): Fact[] {
  const sensors = new Set(
    build.devices.filter((device) => trait(build.kinds[device.kindId]!, 'trigger')).map((device) => device.id),
  );
  return [
    `ECU ${build.ecu.id}`,
    wheelFact('crank', build.trigger.crankWheel),
    wheelFact('cam', build.trigger.camWheel),
    `cycle ${cycleDegrees(build.engine)}`,
    `spark ${build.engine.ignition}`,
    ...needs.filter((need) => sensors.has(need.deviceId ?? '')).map((need) => place(build, need.id)),
  ];
}

/** Readings of the timing light taken on these wheels and this ECU, in the order of the log. */
export function standingLights(build: Build): OffsetReading[] {
  const now = triggerFacts(build);
  return build.trigger.readings.filter((reading) => stands(reading.on, now));
}

/** True when the light has confirmed the offset as it is, on the wheels and the ECU of today. */
export function offsetConfirmed(build: Build): boolean {
  if (!build.trigger.offsetConfirmed) return false;
  const last = build.trigger.readings[build.trigger.readings.length - 1];
  return last === undefined || stands(last.on, triggerFacts(build));
}

/** Facts under a check of a gate; none where nothing of the plan can make it untrue. */
export function checkFacts(build: Build, gateId: string, checkId: string): Fact[] {
  const needs = needsOf(build);
  const about = checkAbout(checkId);
  const placesOf = (test: (need: Need) => boolean) => needs.filter(test).map((need) => place(build, need.id));
  const ofRole = (role: Parameters<typeof hasRole>[1]) => {
    const ids = new Set(
      build.devices.filter((device) => hasRole(build.kinds[device.kindId]!, role)).map((device) => device.id),
    );
    return (need: Need) => ids.has(need.deviceId ?? '');
  };
  switch (gateId) {
    case 'bench': {
      // A wire that moves opens a lock again.
      if (checkId !== 'locks') return [];
      const placed = Object.entries(build.assignments).sort(([one], [other]) => (one < other ? -1 : 1));
      return [`pins ${hashOf(placed)}`];
    }
    case 'battery':
    case 'key': {
      // A bus is read anew when its members change.
      const bus = build.buses.find(({ id }) => checkId.startsWith(`ohms-${id}`) || checkId.startsWith(`volts-${id}-`));
      return [`ECU ${build.ecu.id}`, ...(bus ? [`${bus.id} with ${bus.members.join(' ')}`] : [])];
    }
    case 'sensors': {
      if (about?.of === 'sensor' || about?.of === 'closed') return sensorFacts(build, about.needId);
      if (checkId.startsWith('inside-')) return [`ECU ${build.ecu.id}`];
      return placesOf((need) => ofRole('pedal')(need) || ofRole('throttle')(need));
    }
    case 'outputs': {
      if (about?.of === 'relay') return [place(build, about.needId)];
      const use = about?.of === 'output' && outputUses(build, needs).find((one) => one.pinId === about.pinId);
      return use ? [place(build, use.needId), workedFact(use)] : [];
    }
    case 'cranking':
      if (about?.of === 'halt') return sensorFacts(build, about.needId);
      return checkId === 'rpm' || checkId === 'losses' ? triggerFacts(build, needs) : [];
    case 'timing':
      return [
        ...triggerFacts(build, needs),
        ...placesOf(({ ask, serves }) => isIgnition(ask.kind) && serves.includes(1)),
      ];
    case 'first-fire': {
      if (checkId === 'again') return triggerFacts(build, needs);
      if (about?.of === 'halt') return sensorFacts(build, about.needId);
      if (checkId !== 'stops') return [];
      return [
        ...placesOf(({ winding }) => winding !== null),
        ...pinsOfKind(build.ecu, 'main-relay').map((pin) => `main relay on ${pin.id}`),
      ];
    }
    default:
      return [];
  }
}
