import { isIgnition } from '../ecu/ecu';
import { withId } from '../data/with-id';
import { call } from '../edits';
import { trait } from '../devices/kind';
import { firingAngleByCylinder, wastedPairs } from '../engine/engine';
import { serve } from '../ecu/ask';
import { destinationOf } from '../build/destination';
import { injectorFigures } from '../engine/fuel';
import { primaryAmps } from '../power/coil';
import { BURN_MILLISECONDS, eventDegrees } from '../power/spark';
import { atVolts } from '../devices/volts-table';
import { fitTrigger } from '../trigger/fit';
import { outputUses } from '../trigger/outputs';
import { preferredOhms } from '../units/eseries';
import { formatAmps, formatOhms, listWords, plural } from '../units/format';
import type { Rule } from './rule';

export const orderRules: Rule[] = [
  {
    id: 'OE-1',
    family: 'Order',
    severity: 'stop',
    title: 'Output works the wrong cylinder',
    source: "ECU maker's output numbering; common practice",
    sheet: 'allot',
    check: ({ build, net }) => {
      const wrong = outputUses(build, net.needs).filter((use) => !use.right);
      if (wrong.length === 0) return [];
      const school =
        build.outputOrder === 'in-turn'
          ? `fires its outputs in turn, so they follow ${build.engine.firingOrder.join('-')}`
          : 'numbers its outputs by cylinder';
      const shown = wrong
        .slice(0, 3)
        .map(
          (use) =>
            `${use.kind} output ${use.output} is wired to cylinder ${use.wiredTo}, meant for ${use.means ?? 'none'}`,
        );
      return [
        {
          at: '',
          detail: `This ECU ${school}: ${listWords(shown)}${wrong.length > 3 ? `, and ${wrong.length - 3} more` : ''}.`,
          where: { type: 'need', needId: wrong[0]!.needId },
          remedy: {
            label: wrong.some((use) => build.locked.includes(use.needId))
              ? 'Unlock them and allot by this order'
              : 'Allot by this order',
            calls: [
              ...wrong
                .filter((use) => build.locked.includes(use.needId))
                .map((use) => call('lock', { needId: use.needId, locked: false })),
              // Taken off their pins first: what is crimped would else be left where it is.
              ...wrong.map((use) => call('unassign', { needId: use.needId })),
              call('allotAll', { keep: 'locked' }),
            ],
          },
        },
      ];
    },
  },
  {
    id: 'OE-2',
    family: 'Order',
    severity: 'stop',
    title: 'Sequential without phase',
    source: 'Four-stroke cycle geometry: a crank signal alone repeats every 360°',
    sheet: 'trigger',
    check: ({ build }) => {
      const fit = fitTrigger(build.ecu, build.engine, build.trigger.crankWheel, build.trigger.camWheel);
      if (build.engine.injection !== 'sequential' || fit.knows !== 'angle') return [];
      return [
        {
          at: '',
          detail: 'Sequential injection needs the place in the full cycle, and there is no cam signal that tells it.',
          remedy: {
            label: 'Inject in pairs instead',
            calls: [call('setEngine', { engine: { ...build.engine, injection: 'semi-sequential' } })],
          },
        },
      ];
    },
  },
  {
    id: 'OE-3',
    family: 'Order',
    severity: 'stop',
    title: 'Wasted spark without pairs',
    source: 'Firing angles: a shared coil needs two cylinders 360° apart',
    sheet: 'survey',
    check: ({ build, devices }) => {
      const shared = devices.filter(({ kind }) => (trait(kind, 'coil')?.serves ?? 1) === 2);
      if ((build.engine.ignition !== 'wasted' && shared.length === 0) || wastedPairs(build.engine)) return [];
      const angles = [...firingAngleByCylinder(build.engine).values()].map((angle) => `${angle.toFixed(0)}°`);
      return [
        {
          at: '',
          detail: `No two cylinders fire 360° apart (they fire at ${listWords(angles)}), so none can share a coil.`,
        },
      ];
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
    id: 'OE-5',
    family: 'Order',
    severity: 'fix',
    title: 'Dwell does not fit at top speed',
    source: 'dwell ≤ event interval − burn time; burn 1 ms is common practice',
    sheet: 'trigger',
    check: ({ build, devices }) => {
      const coils = devices.flatMap(({ kind }) => trait(kind, 'coil') ?? []);
      if (coils.length === 0) return [];
      const serves = Math.max(...coils.map((coil) => coil.serves));
      const interval = eventDegrees(build.engine, serves) / (build.engine.maxRpm * 0.006);
      const room = interval - BURN_MILLISECONDS;
      const dwell = build.trigger.dwellMilliseconds;
      if (dwell <= room) return [];
      return [
        {
          at: '',
          detail: `At ${build.engine.maxRpm} rpm a coil's events are ${interval.toFixed(1)} ms apart; ${dwell} ms dwell leaves ${(interval - dwell).toFixed(1)} ms to burn, ${BURN_MILLISECONDS} ms is needed.`,
          remedy:
            room > 0.5
              ? {
                  label: `Use ${Math.floor(room * 10) / 10} ms`,
                  calls: [call('setTrigger', { dwellMilliseconds: Math.floor(room * 10) / 10 })],
                }
              : undefined,
        },
      ];
    },
  },
  {
    id: 'OE-6',
    family: 'Order',
    severity: 'stop',
    title: 'Cylinder without coil or injector',
    source: 'Counting',
    sheet: 'survey',
    check: ({ build, devices }) =>
      (['coil', 'injector'] as const).flatMap((type) => {
        if (type === 'injector' && build.engine.injection === 'none') return [];
        if (type === 'coil' && build.engine.ignition === 'distributor') return [];
        const fitted = devices.filter(({ kind }) => trait(kind, type));
        const serves =
          type === 'coil' ? fitted.reduce((sum, { kind }) => sum + trait(kind, 'coil')!.serves, 0) : fitted.length;
        if (serves === build.engine.cylinders) return [];
        const needed = build.engine.cylinders;
        return [
          {
            at: type,
            severity: serves === 0 ? ('fix' as const) : ('stop' as const),
            title: serves > needed ? `More ${type}s than cylinders` : `Cylinder without ${type}`,
            detail: `${plural(fitted.length, type)} ${fitted.length === 1 ? 'serves' : 'serve'} ${serves} of ${plural(needed, 'cylinder')}.`,
          },
        ];
      }),
  },
  {
    id: 'OE-7',
    family: 'Order',
    severity: 'stop',
    title: 'Low-impedance injector on a saturated driver',
    source: "Ohm's law at 13.5 V against the driver's limit",
    sheet: 'survey',
    check: ({ build, devices }) =>
      devices.flatMap(({ device, kind }) => {
        const injector = trait(kind, 'injector');
        if (!injector) return [];
        const drivers = build.ecu.pins.flatMap((pin) => pin.abilities.filter((ability) => ability.kind === 'injector'));
        if (drivers.length === 0 || drivers.some((driver) => (driver.minOhms ?? 0) <= injector.ohms)) return [];
        const least = Math.min(...drivers.map((driver) => driver.minOhms ?? 0));
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label} has ${formatOhms(injector.ohms)}, so ${(13.5 / injector.ohms).toFixed(1)} A at 13.5 V; these drivers stand ${formatOhms(least)} and more. A ballast resistor of ${formatOhms(preferredOhms(least - injector.ohms, 12, 'at-least'))} each (E12), or peak-and-hold drivers.`,
          },
        ];
      }),
  },
  {
    id: 'OE-8',
    family: 'Order',
    severity: 'note',
    title: 'Injector data missing',
    source: 'Dead time depends on battery voltage; common practice',
    sheet: 'survey',
    check: ({ devices }) => {
      const blank = devices.filter(({ kind }) => trait(kind, 'injector')?.dead.length === 0);
      if (blank.length === 0) return [];
      return [
        {
          at: '',
          where: { type: 'device', deviceId: blank[0]!.device.id },
          detail: `${listWords(blank.slice(0, 3).map(({ device }) => device.label))}: no dead time known, so fuel at idle and at low battery will be wrong.`,
        },
      ];
    },
  },
  {
    id: 'OE-9',
    family: 'Order',
    severity: 'stop',
    title: 'Output number past the last cylinder',
    source: "ECU maker's output numbering",
    sheet: 'allot',
    check: ({ build, net }) =>
      net.needs.flatMap((need) => {
        const pin = withId(build.ecu.pins, build.assignments[need.id]);
        const output = pin && serve(pin, need.ask).ability?.output;
        if (need.output === null || output === undefined || output <= build.engine.cylinders) return [];
        return [
          {
            at: need.id,
            where: { type: 'need' as const, needId: need.id },
            detail: `${need.label} is on output ${output}; an engine of ${plural(build.engine.cylinders, 'cylinder')} uses outputs 1 to ${build.engine.cylinders}, so it never fires.`,
          },
        ];
      }),
  },
  {
    id: 'OE-10',
    family: 'Order',
    severity: 'fix',
    title: 'Injectors too small for the power goal',
    source: 'power × BSFC / (count × duty); flow by the root of the pressure ratio (Bernoulli)',
    sheet: 'survey',
    check: ({ build, devices }) => {
      const fitted = devices.flatMap(({ kind }) => trait(kind, 'injector') ?? []);
      if (fitted.length === 0 || build.engine.injection === 'none') return [];
      const figures = injectorFigures(build.engine, build.fuel, fitted[0]!, fitted.length);
      if (figures.duty <= build.fuel.maxDuty) return [];
      return [
        {
          at: '',
          detail: `${build.fuel.powerKw} kW asks for ${figures.requiredCcPerMinute.toFixed(0)} cc/min each; these give ${figures.flowCcPerMinute.toFixed(0)} at the rail's pressure, so they would be open ${(figures.duty * 100).toFixed(0)} % of the time, ${(build.fuel.maxDuty * 100).toFixed(0)} % is the limit. They feed ${figures.powerKw.toFixed(0)} kW.`,
          remedy:
            figures.powerKw >= 1
              ? {
                  label: `Aim for ${Math.floor(figures.powerKw)} kW`,
                  calls: [call('setFuel', { powerKw: Math.floor(figures.powerKw) })],
                }
              : undefined,
        },
      ];
    },
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
        const line = kind.terminals.map((terminal) => destinationOf(device, terminal)).find((one) => one.to === 'line');
        const module =
          line?.to === 'line'
            ? devices.find((other) =>
                other.kind.terminals.some((terminal) => {
                  const far = destinationOf(other.device, terminal);
                  return trait(other.kind, 'igniter') && far.to === 'line' && far.line === line.line;
                }),
              )
            : undefined;
        const limit = module
          ? trait(module.kind, 'igniter')!.maxAmps
          : pin?.abilities.find((ability) => ability.kind === 'ignition-driver')?.maxAmps;
        if (limit === undefined || amps <= limit) return [];
        const name = module ? module.device.label : pin!.id;
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label} reaches ${formatAmps(amps)} after ${dwell} ms at 13.5 V; ${name} stands ${formatAmps(limit)}. Shorten the dwell, or use another driver.`,
          },
        ];
      }),
  },
];
