import { withId } from '../data/with-id';
import { compareVariants } from '../devices/variants';
import { serve } from '../ecu/ask';
import { terminalId } from '../ends/ends';
import { needsOf } from '../netlist/needs';
import { z } from 'zod';
import { bodyKind, bodyKindId, isBodyPlug } from '../body/signals';
import { faceMiss } from '../devices/face';
import { bodyCavitySchema, kindSchema, sensorsIn, tachometerDrives, type DeviceKind } from '../devices/kind';
import { fail, ok, type Result } from '../problem';
import { sensorFacts } from '../prove/evidence';
import { speedSchema } from '../speed/chain';
import { checkedCurveSchema } from '../devices/curve';
import { inSentence } from '../units/format';
import { sensorReadingSchema, type Build, type Device } from '../build/schema';
import { edit, noDevice } from './edit';
import { dropStale } from './stale';

const label = (build: Build, deviceId: string) => withId(build.devices, deviceId)?.label ?? 'device';

/** Keeps of a device what a changed kind still has: overrides and settings of terminals that are gone fall away. */
function fitted(device: Device, kind: DeviceKind): Device {
  const terminals = new Set(kind.terminals.map((terminal) => terminal.id));
  const signals = new Set(sensorsIn(kind).map((sensor) => sensor.terminal));
  return {
    ...device,
    kindId: kind.id,
    overrides: Object.fromEntries(Object.entries(device.overrides).filter(([id]) => terminals.has(id))),
    ecuCurves: Object.fromEntries(Object.entries(device.ecuCurves).filter(([id]) => signals.has(id))),
    terminalsConfirmed: false,
  };
}

/** Pins and locks of a part that is taken for another: each goes with what the terminal is for, not with its number. */
function carried(
  build: Build,
  deviceId: string,
  from: DeviceKind,
  to: DeviceKind,
): Pick<Build, 'assignments' | 'locked' | 'shared' | 'joined'> {
  const ids = new Map(
    compareVariants(from, to).rows.flatMap((row) =>
      row.from && row.to ? [[terminalId(deviceId, row.from.id), terminalId(deviceId, row.to.id)] as const] : [],
    ),
  );
  const own = new Set(from.terminals.map(({ id }) => terminalId(deviceId, id)));
  const moved = (record: Readonly<Record<string, string>>) =>
    Object.fromEntries(
      Object.entries(record).flatMap(([id, pin]) =>
        own.has(id) ? (ids.has(id) ? [[ids.get(id)!, pin]] : []) : [[id, pin]],
      ),
    );
  return {
    assignments: moved(build.assignments),
    shared: moved(build.shared),
    joined: Object.fromEntries(
      Object.entries(moved(build.joined)).flatMap(([id, lead]) =>
        own.has(lead) ? (ids.has(lead) ? [[id, ids.get(lead)!]] : []) : [[id, lead]],
      ),
    ),
    locked: build.locked.flatMap((id) => (own.has(id) ? (ids.get(id) ?? []) : id)),
  };
}

const pruned = (build: Build): Build => {
  const used = new Set(build.devices.map((device) => device.kindId));
  return { ...build, kinds: Object.fromEntries(Object.entries(build.kinds).filter(([id]) => used.has(id))) };
};

function sensorOf(build: Build, sensorId: string) {
  const dot = sensorId.lastIndexOf('.');
  const device = withId(build.devices, sensorId.slice(0, dot));
  const kind = device && build.kinds[device.kindId];
  return kind && sensorsIn(kind).some((one) => one.terminal === sensorId.slice(dot + 1)) ? device : null;
}

/** Plugs of the car, the parts' own data, and what was read of them. */
export const partEdits = {
  setBodyPlug: edit(
    z.object({
      /** Null makes a new plug. */
      deviceId: z.string().nullable(),
      name: z.string().trim().min(1).max(60),
      cavities: z.array(bodyCavitySchema).min(1).max(80),
      pulsesPerTurn: z.number().positive().max(12),
      drive: z.enum(tachometerDrives),
      branchMetres: z.number().min(0).max(30).optional(),
    }),
    ({ deviceId, name }) => (deviceId === null ? `Add ${inSentence(name)}` : `Change ${inSentence(name)}`),
    (build, { deviceId, name, cavities, pulsesPerTurn, drive, branchMetres }): Result<Build> => {
      const seen = new Set<string>();
      for (const [index, { cavity }] of cavities.entries()) {
        if (seen.has(cavity))
          return fail('duplicate', `cavities[${index}]`, `Row ${index + 1}: cavity ${cavity} is on this plug already.`);
        seen.add(cavity);
      }
      const taken = new Set(build.devices.map((device) => device.id));
      let number = 1;
      while (taken.has(`body-${number}`)) number += 1;
      const id = deviceId ?? `body-${number}`;
      const before = withId(build.devices, deviceId);
      if (deviceId !== null && (!before || !isBodyPlug(before, build.kinds[before.kindId]))) return noDevice(deviceId);
      const made = bodyKind(bodyKindId(id), name, cavities, { pulsesPerTurn, drive });
      const face = before && build.kinds[before.kindId]?.face;
      const fits =
        face !== undefined &&
        faceMiss(
          face,
          made.terminals.map((terminal) => terminal.id),
        ) === null;
      const kind = fits ? { ...made, face } : made;
      const device: Device = before
        ? { ...fitted(before, kind), label: name, branchMetres: branchMetres ?? before.branchMetres }
        : {
            id,
            kindId: kind.id,
            label: name,
            serves: [],
            row: 1,
            bank: null,
            branchMetres: branchMetres ?? 0.9,
            terminalsConfirmed: false,
            shield: 'none',
            overrides: {},
            labelled: false,
            pullUpOhms: null,
            leadWire: 'copper',
            ecuCurves: {},
          };
      const devices = before ? build.devices.map((one) => (one.id === id ? device : one)) : [...build.devices, device];
      if (devices.length > 300) return fail('too-many', 'devices', 'A build holds at most 300 devices.');
      return ok(dropStale({ ...build, kinds: { ...build.kinds, [kind.id]: kind }, devices }));
    },
  ),
  editKind: edit(
    z.object({ kind: kindSchema }),
    ({ kind }) => `Change the data of ${inSentence(kind.name)}`,
    (build, { kind }) => {
      const present = build.kinds[kind.id];
      if (!present) return fail('no-kind', 'kind.id', `No device of this build is a ${inSentence(kind.name)}.`);
      const before = JSON.stringify(present.terminals);
      const same = before === JSON.stringify(kind.terminals);
      const devices = same
        ? build.devices
        : build.devices.map((device) => (device.kindId === kind.id ? fitted(device, kind) : device));
      return ok(dropStale({ ...build, kinds: { ...build.kinds, [kind.id]: kind }, devices }));
    },
  ),
  changeKind: edit(
    z.object({ deviceId: z.string(), kind: kindSchema }),
    ({ deviceId, kind }, build) => `${label(build, deviceId)} is a ${inSentence(kind.name)}`,
    (build, { deviceId, kind }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      const before = build.kinds[device.kindId];
      const next = dropStale(
        pruned({
          ...build,
          kinds: { ...build.kinds, [kind.id]: kind },
          devices: build.devices.map((one) => (one.id === deviceId ? fitted(device, kind) : one)),
          ...(before ? carried(build, deviceId, before, kind) : {}),
        }),
      );
      // What the pin cannot be for the other part is left open.
      const misfits = new Set(
        needsOf(next).flatMap((need) => {
          const pin = withId(next.ecu.pins, next.assignments[need.id]);
          return need.deviceId === deviceId && pin && serve(pin, need.ask).miss ? [need.id] : [];
        }),
      );
      return ok({
        ...next,
        assignments: Object.fromEntries(Object.entries(next.assignments).filter(([id]) => !misfits.has(id))),
        locked: next.locked.filter((id) => !misfits.has(id)),
      });
    },
  ),
  /** How the speed sensor is geared to the road, and what each gauge wants; null: not told. */
  setSpeed: edit(
    z.object({ speed: speedSchema.nullable() }),
    ({ speed }) => (speed === null ? 'Forget the speed gears' : 'Change the speed gears'),
    (build, { speed }) => ok({ ...build, speed }),
  ),
  setPullUp: edit(
    z.object({ deviceId: z.string(), ohms: z.number().positive().max(1e6).nullable() }),
    ({ deviceId, ohms }, build) => `${ohms === null ? 'Remove' : 'Fit'} a pull-up at ${label(build, deviceId)}`,
    (build, { deviceId, ohms }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      return ok({
        ...build,
        devices: build.devices.map((one) => (one.id === deviceId ? { ...one, pullUpOhms: ohms } : one)),
      });
    },
  ),
  setEcuCurve: edit(
    z.object({
      sensorId: z.string(),
      /** Null: the ECU is set to the part's own calibration. */
      setting: z.object({ name: z.string().min(1).max(60), curve: checkedCurveSchema }).nullable(),
    }),
    ({ setting }) => (setting ? `The ECU is set to ${inSentence(setting.name)}` : 'The ECU is set to the part'),
    (build, { sensorId, setting }) => {
      const device = sensorOf(build, sensorId);
      if (!device) return fail('no-sensor', 'sensorId', `There is no sensor ${sensorId} in this build.`);
      const terminal = sensorId.slice(device.id.length + 1);
      const ecuCurves = { ...device.ecuCurves };
      if (setting) ecuCurves[terminal] = setting;
      else delete ecuCurves[terminal];
      return ok({
        ...build,
        devices: build.devices.map((one) => (one.id === device.id ? { ...one, ecuCurves } : one)),
      });
    },
  ),
  recordSensing: edit(
    z.object({ sensorId: z.string(), reading: sensorReadingSchema.omit({ on: true }).nullable() }),
    ({ sensorId, reading }, build) =>
      `${reading ? 'Read' : 'Forget the reading of'} ${label(build, sensorId.slice(0, sensorId.lastIndexOf('.')))}`,
    (build, { sensorId, reading }) => {
      if (!sensorOf(build, sensorId))
        return fail('no-sensor', 'sensorId', `There is no sensor ${sensorId} in this build.`);
      if (reading && reading.atPin === null && reading.shown === null)
        return fail('empty', 'reading', 'Give what the meter reads at the pin, or what the ECU shows.');
      const readings = { ...build.sensing.readings };
      if (reading) readings[sensorId] = { ...reading, on: sensorFacts(build, sensorId) };
      else delete readings[sensorId];
      return ok({ ...build, sensing: { readings } });
    },
  ),
};
