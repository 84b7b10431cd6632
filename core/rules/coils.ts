import { isIgnition } from '../ecu/ecu';
import { igniterOf } from '../build/direct-lines';
import { withId } from '../data/with-id';
import { call } from '../edits';
import { trait } from '../devices/kind';
import { atVolts } from '../devices/volts-table';
import { firingAngleByCylinder } from '../engine/engine';
import { setsOfTurn } from '../engine/outputs';
import { primaryAmps } from '../power/coil';
import { fitTrigger } from '../trigger/fit';
import { formatAmps, listWords, plural } from '../units/format';
import type { Rule } from './rule';

/** Coils: whom they serve, who switches them, and what they draw. */
export const coilRules: Rule[] = [
  {
    id: 'OE-3',
    family: 'Order',
    severity: 'stop',
    title: 'Coil shared by cylinders that do not pair',
    source: 'Firing angles: a coil of two towers needs two cylinders 360° apart',
    sheet: 'survey',
    check: ({ build, devices }) => {
      const sets = setsOfTurn(build.engine);
      const angles = firingAngleByCylinder(build.engine);
      return devices.flatMap(({ device, kind }) => {
        const towers = trait(kind, 'coil')?.serves ?? 1;
        if (towers === 1 || build.engine.ignition === 'distributor') return [];
        const at = { at: device.id, where: { type: 'device', deviceId: device.id } as const };
        const free = sets.filter(
          (set) =>
            set.length === towers &&
            !devices.some(
              (one) =>
                one.device.id !== device.id &&
                trait(one.kind, 'coil') !== null &&
                one.device.row === device.row &&
                one.device.serves.some((cylinder) => set.includes(cylinder)),
            ),
        );
        // The set of a cylinder it has already, else the first that has no coil.
        const pair = free.find((set) => device.serves.some((one) => set.includes(one))) ?? free[0];
        const remedy = pair && {
          label: `It serves ${listWords([...pair].sort((one, other) => one - other).map(String))}`,
          calls: [call('editDevice', { deviceId: device.id, serves: pair })],
        };
        if (device.serves.length !== towers)
          return [
            {
              ...at,
              title: 'Coil without its cylinders',
              detail: `${device.label} has ${plural(towers, 'tower')}, and ${device.serves.length === 0 ? 'no cylinder is' : `${plural(device.serves.length, 'cylinder is', 'cylinders are')}`} named for them: its output cannot be chosen.`,
              remedy,
            },
          ];
        if (sets.some((set) => device.serves.every((cylinder) => set.includes(cylinder)))) return [];
        const fires = device.serves.map((cylinder) => `${cylinder} at ${(angles.get(cylinder) ?? 0).toFixed(0)}°`);
        return [
          {
            ...at,
            detail: `${device.label} sparks in both its cylinders at once, and they fire apart: ${listWords(fires)}. Two that share a coil fire 360° apart.`,
            remedy,
          },
        ];
      });
    },
  },
  {
    id: 'OE-4',
    family: 'Order',
    severity: 'stop',
    title: 'Igniter missing or doubled',
    source: 'Coil terminals: common practice',
    sheet: 'allot',
    check: ({ build, net, devices }) =>
      devices.flatMap(({ device, kind }) => {
        const coil = trait(kind, 'coil');
        const need = net.needsOf.get(device.id)?.find((one) => isIgnition(one.ask.kind));
        if (!coil || !need) return [];
        const pin = withId(build.ecu.pins, build.assignments[need.id]);
        const able = pin ? [pin] : build.ecu.pins;
        const hasDriver = able.some((one) => one.abilities.some((ability) => ability.kind === 'ignition-driver'));
        const hasLogic = able.some((one) => one.abilities.some((ability) => ability.kind === 'ignition-logic'));
        const where = { type: 'device', deviceId: device.id } as const;
        if (!coil.igniter && !hasDriver)
          return [
            {
              at: device.id,
              where,
              detail: `${device.label} has no igniter and ${pin ? pin.id : build.ecu.model} gives a logic signal only: nothing switches its primary. Fit an igniter module or a coil with one.`,
            },
          ];
        if (coil.igniter && !hasLogic)
          return [
            {
              at: device.id,
              where,
              detail: `${device.label} has its own igniter and would hang on a coil driver: it needs a logic output.`,
            },
          ];
        return [];
      }),
  },
  {
    id: 'OE-11',
    family: 'Order',
    severity: 'fix',
    title: 'Coil draws more than its driver stands',
    source: 'i = (V/R)(1 − exp(−tR/L)) against the driver; RL step response',
    sheet: 'survey',
    check: ({ build, net, devices }) =>
      devices.flatMap(({ device, kind }) => {
        const coil = trait(kind, 'coil');
        if (!coil || coil.igniter) return [];
        const dwell = atVolts(coil.dwell, 13.5)!;
        const amps = primaryAmps(coil, 13.5, dwell);
        const need = net.needsOf.get(device.id)?.[0];
        const pin = withId(build.ecu.pins, need ? build.assignments[need.id] : undefined);
        const module = igniterOf(build, { device, kind });
        // Those that hang on one driver draw through it together.
        const all = module ? amps : amps * (1 + (need?.joined.length ?? 0));
        const limit = module
          ? trait(module.kind, 'igniter')!.maxAmps
          : pin?.abilities.find((ability) => ability.kind === 'ignition-driver')?.maxAmps;
        if (limit === undefined || all <= limit) return [];
        const name = module ? module.device.label : pin!.id;
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${all > amps ? `${need!.label} reach ${formatAmps(all)} together` : `${device.label} reaches ${formatAmps(amps)}`} after ${dwell} ms at 13.5 V; ${name} stands ${formatAmps(limit)}. Shorten the dwell, or use another driver.`,
          },
        ];
      }),
  },
  {
    id: 'OE-12',
    family: 'Order',
    severity: 'fix',
    title: 'A spark each without phase',
    source: 'Four-stroke cycle geometry: a crank signal alone repeats every 360°',
    sheet: 'trigger',
    check: ({ build, devices }) => {
      const { engine } = build;
      const fit = fitTrigger(build.ecu, engine, build.trigger.crankWheel, build.trigger.camWheel);
      if (engine.ignition !== 'direct' || engine.kind !== 'four-stroke' || fit.knows !== 'angle') return [];
      if (!devices.some(({ kind }) => trait(kind, 'coil'))) return [];
      return [
        {
          at: '',
          detail: `The crank alone does not tell compression from exhaust, so ${engine.cylinders === 1 ? 'the coil fires every turn: it works twice as often, and is fed and given dwell for that' : 'the coils fire every turn, each twice a cycle'}.`,
          remedy: {
            label: 'Spark every turn',
            calls: [call('setEngine', { engine: { ...engine, ignition: 'wasted' } })],
          },
        },
      ];
    },
  },
  {
    id: 'OE-13',
    family: 'Order',
    severity: 'stop',
    title: 'Shared coils, and a spark for each cylinder asked',
    source: 'A coil of two towers sparks in both its cylinders at once; common practice',
    sheet: 'survey',
    check: ({ build, devices }) => {
      const shared = devices.filter(({ kind }) => (trait(kind, 'coil')?.serves ?? 1) > 1);
      if (build.engine.ignition !== 'direct' || shared.length === 0) return [];
      return [
        {
          at: '',
          where: { type: 'device', deviceId: shared[0]!.device.id },
          detail: `${listWords(shared.slice(0, 3).map(({ device }) => device.label))} ${shared.length === 1 ? 'serves' : 'serve'} two cylinders each; set to a coil each, the ECU would fire ${shared.length === 1 ? 'it' : 'them'} for one of the two only.`,
          remedy: {
            label: 'Spark every turn',
            calls: [call('setEngine', { engine: { ...build.engine, ignition: 'wasted' } })],
          },
        },
      ];
    },
  },
];
