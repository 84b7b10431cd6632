import { withId } from '../data/with-id';
import type { Need } from '../netlist/needs';
import { call } from '../edits';
import { trait } from '../devices/kind';
import { firedTogether, rowsOf, workOf, workWords } from '../engine/outputs';
import { serve } from '../ecu/ask';
import { injectorFigures, meanInjector } from '../engine/fuel';
import { BURN_MILLISECONDS, eventDegrees, sparkedEngine } from '../power/spark';
import { fitTrigger } from '../trigger/fit';
import { outputUses } from '../trigger/outputs';
import { preferredOhms } from '../units/eseries';
import { formatOhms, listWords, plural } from '../units/format';
import { readMeasure } from '../units/workshop';
import type { Rule } from './rule';

/** Parts on one output that the engine works at different times: no output is right for all of them. */
const workedApart = (need: Need): boolean => need.joined.length > 0 && need.outputs?.length === 0;

export const orderRules: Rule[] = [
  {
    id: 'OE-1',
    family: 'Order',
    severity: 'stop',
    title: 'Output works the wrong cylinder',
    source: "ECU maker's output numbering; common practice",
    sheet: 'allot',
    check: ({ build, net }) => {
      // A shared coil under a spark each has no right output at all: OE-13 says so, with the way out.
      const apart = new Set(net.needs.filter(workedApart).map(({ id }) => id));
      const wrong = outputUses(build, net.needs).filter(
        ({ right, wiredTo, needId }) =>
          !right && !apart.has(needId) && (build.engine.ignition !== 'direct' || wiredTo.cylinders.length === 1),
      );
      if (wrong.length === 0) return [];
      const school =
        build.outputOrder === 'in-turn'
          ? `fires its outputs in turn, so they follow ${build.engine.firingOrder.join('-')}`
          : 'numbers its outputs by cylinder';
      const shown = wrong
        .slice(0, 3)
        .map(
          (use) =>
            `${use.kind} output ${use.output} is wired to ${workWords(build.engine, use.kind, use.wiredTo)}, meant for ${workWords(build.engine, use.kind, use.means)}`,
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
      const interval = eventDegrees(sparkedEngine(build), serves) / (build.engine.maxRpm * 0.006);
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
        const { engine } = build;
        if (type === 'injector' && engine.injection === 'none') return [];
        if (type === 'coil' && engine.ignition === 'distributor') return [];
        const use = type === 'coil' ? 'ignition' : 'injector';
        const fitted = devices.filter(({ kind }) => trait(kind, type));
        const rows = rowsOf(engine, use);
        const served = (row: number, cylinder: number) =>
          fitted.filter(({ device }) => device.row === row && device.serves.includes(cylinder)).length;
        // What names no cylinder is told by its own finding; a part of a row there is not serves nothing.
        const places = Array.from({ length: rows }, (_, at) => at + 1).flatMap((row) =>
          engine.firingOrder.map((cylinder) => ({ row, cylinder, count: served(row, cylinder) })),
        );
        const words = (some: typeof places) =>
          [...new Set(some.map(({ row }) => row))]
            .map((row) =>
              workWords(engine, use, {
                cylinders: some.filter((one) => one.row === row).map(({ cylinder }) => cylinder),
                row,
              }),
            )
            .join('; ');
        const without = places.filter(({ count }) => count === 0);
        const twice = places.filter(({ count }) => count > 1);
        const beyond = fitted.filter(
          ({ device }) => device.row > rows || device.serves.some((cylinder) => cylinder > engine.cylinders),
        );
        const found = [];
        if (without.length > 0)
          found.push({
            at: type,
            severity: fitted.length === 0 ? ('fix' as const) : ('stop' as const),
            title: `Cylinder without ${type}`,
            detail:
              fitted.length === 0
                ? `No ${type} is on the list yet; ${plural(places.length, 'place')} for one.`
                : `No ${type} serves ${words(without)}.`,
          });
        if (twice.length > 0)
          found.push({
            at: `${type} twice`,
            title: `More than one ${type} for a cylinder`,
            detail: `More than one ${type} serves ${words(twice)}. ${
              rows === 1
                ? `If there are two ${type === 'coil' ? 'plugs a chamber' : 'injectors a cylinder'}, say so of the engine.`
                : 'Name for each which of the two it is.'
            }`,
            where: {
              type: 'device' as const,
              deviceId: fitted.filter(
                ({ device }) => device.row === twice[0]!.row && device.serves.includes(twice[0]!.cylinder),
              )[1]!.device.id,
            },
          });
        for (const { device } of beyond)
          found.push({
            at: device.id,
            title: `More ${type}s than cylinders`,
            detail: `${device.label} serves ${workWords(engine, use, { cylinders: device.serves, row: 1 })}${device.row > rows ? `, as the second ${type} of it` : ''}; this engine has ${plural(engine.cylinders, 'cylinder')} with ${rows === 1 ? 'one' : 'two'} each.`,
            where: { type: 'device' as const, deviceId: device.id },
          });
        return found;
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
    id: 'OE-14',
    family: 'Order',
    severity: 'stop',
    title: 'On one output, and not worked together',
    source: 'Firing angles: one output works all that hangs on it at one time',
    sheet: 'allot',
    check: ({ build, net }) =>
      net.needs.filter(workedApart).map((need) => {
        const work = workOf(need.ask)!;
        const pairs = build.engine.injection === 'sequential' && work === 'injector';
        const inPairs = { ...build.engine, injection: 'semi-sequential' as const };
        const meet =
          pairs && firedTogether(inPairs, work).some((set) => need.serves.every((cylinder) => set.includes(cylinder)));
        return {
          at: need.id,
          where: { type: 'need' as const, needId: need.id },
          detail: `${need.label} hang on one output, and ${build.engine.name} works them at different times${pairs ? ': sequential injection opens each alone' : ''}.`,
          remedy: meet
            ? { label: 'Inject in pairs', calls: [call('setEngine', { engine: inPairs })] }
            : {
                label: 'Give each an output of its own',
                calls: need.joined.map(({ id }) => call('joinOutput', { needId: id, leadId: null })),
              },
        };
      }),
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
        const work = workOf(need.ask);
        if (work === null || need.outputs === null || output === undefined) return [];
        const last = build.engine.cylinders * rowsOf(build.engine, work);
        if (output <= last) return [];
        return [
          {
            at: need.id,
            where: { type: 'need' as const, needId: need.id },
            detail: `${need.label} is on output ${output}; an engine of ${plural(build.engine.cylinders, 'cylinder')}${last > build.engine.cylinders ? ' with two each' : ''} uses outputs 1 to ${last}, so it never fires.`,
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
      const figures = injectorFigures(build.engine, build.fuel, meanInjector(fitted, build.fuel), fitted.length);
      if (figures.duty <= build.fuel.maxDuty) return [];
      return [
        {
          at: '',
          detail: `${readMeasure('power', build.fuel.powerKw, build)} ask for ${readMeasure('flow', figures.requiredCcPerMinute, build)} each; these give ${readMeasure('flow', figures.flowCcPerMinute, build)} at the rail's pressure, so they would be open ${(figures.duty * 100).toFixed(0)} % of the time, ${(build.fuel.maxDuty * 100).toFixed(0)} % is the limit. They feed ${readMeasure('power', figures.powerKw, build)}.`,
          remedy:
            figures.powerKw >= 1
              ? {
                  label: `Aim for ${readMeasure('power', Math.floor(figures.powerKw), build)}`,
                  calls: [call('setFuel', { powerKw: Math.floor(figures.powerKw) })],
                }
              : undefined,
        },
      ];
    },
  },
];
