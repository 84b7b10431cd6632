import { withId } from '../data/with-id';
import { z } from 'zod';
import { destinationSchema, hasRole, kindSchema, trait } from '../devices/kind';
import { freeLabel, shortKindName } from '../devices/name';
import { ecuSchema } from '../ecu/ecu';
import { engineSchema } from '../engine/engine';
import { windingOwner } from '../netlist/needs';
import { fail, ok } from '../problem';
import { inSentence } from '../units/format';
import { deviceSchema, type Build, type Device } from '../build/schema';
import { deviceEnd } from '../ends/ends';
import { edit, noDevice } from './edit';
import { withoutWiresTo } from './feed-wires';
import { placeLabel, placesWithout } from './places';
import { dropStale } from './stale';

const replaceDevice = (build: Build, device: Device): Build => ({
  ...build,
  devices: build.devices.map((one) => (one.id === device.id ? device : one)),
});

function freeId(build: Build, kindId: string): string {
  const taken = new Set(build.devices.map((device) => device.id));
  // The need of a relay's winding is named after its circuit, and a circuit after its device: no device is called so as well.
  const windings = new Set([...taken].map(windingOwner));
  let number = 1;
  const id = () => `${kindId}-${number}`;
  while (taken.has(id()) || windings.has(id()) || taken.has(windingOwner(id()))) number += 1;
  return id();
}

/** Default branch length by system, metres: an engine bay with the ECU behind the bulkhead (common practice). */
const branchDefaults: Record<string, number> = { Driver: 0.8, 'Bus and dash': 0.9, 'Start and charge': 1.6 };

export const surveyEdits = {
  renameBuild: edit(
    z.object({
      name: z.string().trim().min(1).max(80),
      vehicle: z.string().max(120).optional(),
      notes: z.string().max(4000).optional(),
    }),
    () => 'Name the build',
    (build, args) =>
      ok({ ...build, name: args.name, vehicle: args.vehicle ?? build.vehicle, notes: args.notes ?? build.notes }),
  ),
  setEngine: edit(
    z.object({ engine: engineSchema }),
    () => 'Change the engine',
    (build, { engine }) => ok(dropStale({ ...build, engine })),
  ),
  setSite: edit(
    z.object({ altitudeMetres: z.number().min(-430).max(6000), ambientCelsius: z.number().min(-40).max(60) }),
    () => 'Set altitude and ambient',
    (build, site) => ok({ ...build, site }),
  ),
  chooseEcu: edit(
    z.object({ ecu: ecuSchema }),
    ({ ecu }) => `Choose ${ecu.model}`,
    (build, { ecu }) =>
      ok(
        dropStale({
          ...build,
          ecu,
          outputOrder: ecu.outputOrder,
          assignments: {},
          locked: [],
          never: [],
          shared: {},
          groundUse: {},
          joined: {},
        }),
      ),
  ),
  addDevice: edit(
    z.object({
      kind: kindSchema,
      label: z.string().min(1).max(60).optional(),
      /** One for each cylinder that has none. */
      perCylinder: z.boolean().optional(),
      branchMetres: z.number().min(0).max(30).optional(),
    }),
    ({ kind }) => `Add ${inSentence(kind.name)}`,
    (build, { kind, label, perCylinder, branchMetres }) => {
      const places = perCylinder ? placesWithout(build, kind) : [{ serves: [], row: 1 as const }];
      if (places.length === 0)
        return trait(kind, 'coil') &&
          trait(kind, 'coil')!.serves > 1 &&
          !build.devices.some((one) => one.kindId === kind.id)
          ? fail('no-pairs', 'kind', 'No two cylinders of this engine fire 360° apart, so none can share a coil.')
          : fail('none-missing', 'kind', `Every cylinder has its ${inSentence(kind.name)} already.`);
      let next: Build = { ...build, kinds: { ...build.kinds, [kind.id]: kind } };
      const taken = new Set(build.devices.map((device) => device.label));
      for (const place of places) {
        const base = label ?? shortKindName(kind.name);
        const device: Device = {
          id: freeId(next, kind.id),
          kindId: kind.id,
          label: (perCylinder
            ? `${base} ${placeLabel(build.engine, kind, place)}`
            : label
              ? base
              : freeLabel(base, taken)
          ).slice(0, 60),
          ...place,
          bank: null,
          branchMetres: branchMetres ?? branchDefaults[kind.system] ?? 1.5 + (place.serves[0] ?? 0) * 0.1,
          terminalsConfirmed: false,
          shield: kind.shielded ? 'ecu-end' : 'none',
          overrides: {},
          labelled: false,
          pullUpOhms: null,
          leadWire: hasRole(kind, 'thermocouple') ? 'type-k' : 'copper',
          ecuCurves: {},
        };
        next = { ...next, devices: [...next.devices, device] };
      }
      if (next.devices.length > 300) return fail('too-many', 'devices', 'A build holds at most 300 devices.');
      return ok(next);
    },
  ),
  editDevice: edit(
    z.object({
      deviceId: z.string(),
      label: deviceSchema.shape.label.optional(),
      serves: deviceSchema.shape.serves.optional(),
      row: deviceSchema.shape.row.optional(),
      bank: deviceSchema.shape.bank.optional(),
      branchMetres: deviceSchema.shape.branchMetres.optional(),
      terminalsConfirmed: z.boolean().optional(),
      shield: deviceSchema.shape.shield.optional(),
      labelled: z.boolean().optional(),
      leadWire: deviceSchema.shape.leadWire.optional(),
    }),
    (args, build) => `Change ${withId(build.devices, args.deviceId)?.label ?? 'device'}`,
    (build, { deviceId, ...fields }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      if (fields.serves?.some((cylinder) => cylinder > build.engine.cylinders))
        return fail('range', 'serves', `The cylinder must be from 1 to ${build.engine.cylinders}.`);
      const serves = [...new Set(fields.serves ?? device.serves)].sort((one, other) => one - other);
      return ok(replaceDevice(build, { ...device, ...fields, serves }));
    },
  ),
  setDestination: edit(
    z.object({ deviceId: z.string(), terminalId: z.string(), destination: destinationSchema.nullable() }),
    (args, build) => `Rewire ${withId(build.devices, args.deviceId)?.label ?? 'device'} ${args.terminalId}`,
    (build, { deviceId, terminalId, destination }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      if (!build.kinds[device.kindId]?.terminals.some((terminal) => terminal.id === terminalId))
        return fail('no-terminal', 'terminalId', `${device.label} has no terminal ${terminalId}.`);
      const overrides = { ...device.overrides };
      if (destination === null) delete overrides[terminalId];
      else overrides[terminalId] = destination;
      const next = replaceDevice(build, { ...device, overrides });
      // A feed that was wired by hand and is none any more is not left hanging.
      const feeds =
        destination === null || destination.to === 'feed' || destination.to === 'ground'
          ? build.feeds
          : withoutWiresTo(build.feeds, deviceEnd(deviceId, terminalId));
      return ok(dropStale({ ...next, feeds }));
    },
  ),
  removeDevice: edit(
    z.object({ deviceId: z.string() }),
    (args, build) => `Remove ${withId(build.devices, args.deviceId)?.label ?? 'device'}`,
    (build, { deviceId }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      const devices = build.devices.filter((one) => one.id !== deviceId);
      const used = new Set(devices.map((one) => one.kindId));
      const kinds = Object.fromEntries(Object.entries(build.kinds).filter(([kindId]) => used.has(kindId)));
      return ok(dropStale({ ...build, devices, kinds }));
    },
  ),
};
