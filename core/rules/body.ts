import { sparkChannel } from '../devices/spark-line';
import { call } from '../edits';
import { donorList, splitSplices } from '../donor/sort';
import { isRestraint } from '../donor/wire';
import { hasRole, sensorsIn, trait } from '../devices/kind';
import { destinationOf } from '../build/destination';
import { groupBy } from '../data/group';
import { listWords, plural } from '../units/format';
import { cycleDegrees } from '../engine/engine';
import { unknownCavities } from '../body/signals';
import type { Rule, RuleContext } from './rule';

interface LineEnd {
  readonly line: string;
  readonly deviceId: string;
  readonly label: string;
  readonly terminalId: string;
  readonly sensor: boolean;
  /** A sender that works a gauge. */
  readonly sender: boolean;
}

function lineEnds({ devices }: RuleContext): Map<string, LineEnd[]> {
  const ends = devices.flatMap(({ device, kind }) =>
    kind.terminals.flatMap((terminal): LineEnd[] => {
      const destination = destinationOf(device, terminal);
      return destination.to === 'line'
        ? [
            {
              line: destination.line,
              deviceId: device.id,
              label: device.label,
              terminalId: terminal.id,
              sensor: sensorsIn(kind).some((sensor) => sensor.terminal === terminal.id),
              sender: hasRole(kind, 'gauge-sender'),
            },
          ]
        : [];
    }),
  );
  return groupBy(ends, (end) => end.line);
}

/** What is missing at the other end of a well-known line. */
const otherEnd: Record<string, string> = {
  'oil-lamp': 'an oil pressure switch takes the lamp to ground',
  'charge-lamp': "the alternator's lamp terminal belongs there, or about 470 Ω to the key feed",
  'temperature-gauge': 'the gauge needs a sender of its own',
  'oil-gauge': 'the gauge needs a sender of its own',
  'reverse-light': 'the reverse switch on the gearbox feeds it',
  tachometer: 'a gauge on the coil negative needs a coil without igniter, or an adapter',
};

/** Rules of the Bus and body family about the car's own plugs and the donor loom. */
export const bodyRules: Rule[] = [
  {
    id: 'BB-7',
    family: 'Bus and body',
    severity: 'fix',
    title: 'Line with one end only',
    source: 'Counting',
    sheet: 'survey',
    check: (context) =>
      [...lineEnds(context).values()].flatMap((ends) => {
        const [end] = ends;
        if (!end || ends.length > 1) return [];
        const spark = sparkChannel(end.line) !== null;
        const alternator = context.devices.find(({ kind }) => hasRole(kind, 'alternator'));
        const lamp = alternator?.kind.terminals.find((terminal) => terminal.destination.to === 'feed');
        return [
          {
            at: end.line,
            severity: spark ? ('stop' as const) : ('fix' as const),
            where: { type: 'device' as const, deviceId: end.deviceId },
            detail: `${end.label} ${end.terminalId} is the only end of the line ${end.line.replace(/-/g, ' ')}: ${
              spark
                ? 'no coil, or no igniter channel, stands at the other'
                : end.sender
                  ? 'no gauge stands at the other; name the cavity of the body plug that leads to it'
                  : (otherEnd[end.line] ?? 'nothing stands at the other')
            }.`,
            remedy:
              end.line === 'charge-lamp' && alternator && lamp
                ? {
                    label: `Take ${alternator.device.label} through the lamp`,
                    calls: [
                      call('setDestination', {
                        deviceId: alternator.device.id,
                        terminalId: lamp.id,
                        destination: { to: 'line', line: 'charge-lamp' },
                      }),
                    ],
                  }
                : undefined,
          },
        ];
      }),
  },
  {
    id: 'BB-8',
    family: 'Bus and body',
    severity: 'stop',
    title: 'Gauge hangs on an ECU sensor',
    source: 'The gauge feeds current through the sensor: both read wrong; common practice',
    sheet: 'survey',
    check: (context) =>
      [...lineEnds(context).values()].flatMap((ends) => {
        const shared = ends.find((end) => end.sensor);
        const gauge = ends.find((end) => end !== shared);
        if (!shared || !gauge) return [];
        return [
          {
            at: shared.line,
            where: { type: 'device' as const, deviceId: shared.deviceId },
            detail: `${shared.label} is joined to ${gauge.label}: give the gauge a sender of its own.`,
            remedy: {
              label: `Give ${shared.label} back to the ECU`,
              calls: [
                call('setDestination', { deviceId: shared.deviceId, terminalId: shared.terminalId, destination: null }),
              ],
            },
          },
        ];
      }),
  },
  {
    id: 'BB-9',
    family: 'Bus and body',
    severity: 'fix',
    title: 'Tachometer and output do not match',
    source: 'Events of all cylinders in a turn against the pulses the gauge wants; common practice',
    sheet: 'survey',
    check: ({ build, devices }) =>
      devices.flatMap(({ device, kind }) => {
        const gauge = trait(kind, 'tachometer');
        if (!gauge) return [];
        const where = { type: 'device' as const, deviceId: device.id };
        const events = (build.engine.cylinders * 360) / cycleDegrees(build.engine);
        const hits = [];
        if (gauge.drive !== 'low-side')
          hits.push({
            at: `${device.id}.drive`,
            where,
            detail:
              gauge.drive === 'coil-negative'
                ? `${device.label} listens for the kick of a coil's negative: an ECU output does not give it. Fit an adapter, or change its input.`
                : `${device.label} wants a 5 V square wave: a low-side output needs a pull-up to 5 V beside it.`,
          });
        if (Math.abs(gauge.pulsesPerTurn - events) > 0.01)
          hits.push({
            at: `${device.id}.pulses`,
            severity: 'note' as const,
            where,
            detail: `${device.label} wants ${gauge.pulsesPerTurn} pulses a turn, this engine fires ${events} times: set the output to ${gauge.pulsesPerTurn}, or it reads ${(events / gauge.pulsesPerTurn).toFixed(2)} times the speed.`,
          });
        return hits;
      }),
  },
  {
    id: 'BB-10',
    family: 'Bus and body',
    severity: 'note',
    title: 'Restraint wires in the donor loom',
    source: 'Restraint systems belong to a licensed workshop; local rules decide',
    sheet: 'survey',
    check: ({ build }) => {
      const restraint = donorList(build.survey.donor).filter(isRestraint);
      if (restraint.length === 0) return [];
      const decided = restraint.filter((wire) => wire.decision !== 'open');
      const names = listWords(restraint.slice(0, 3).map((wire) => `${wire.connector} ${wire.cavity}`.trim()));
      if (decided.length > 0)
        return [
          {
            at: 'decided',
            severity: 'stop' as const,
            title: 'Restraint wire in the work list',
            detail: `${names} carries a decision. Stop: airbag circuits are never probed, cut or tapped.`,
            remedy: {
              label: 'Take the decision back',
              calls: [call('editDonorWires', { ids: decided.map((wire) => wire.id), fields: { decision: 'open' } })],
            },
          },
        ];
      return [
        {
          at: '',
          detail: `${plural(restraint.length, 'wire')} (${names}${restraint.length > 3 ? ', …' : ''}) locked: never probed, cut or tapped. A licensed workshop takes them.`,
        },
      ];
    },
  },
  {
    id: 'BB-11',
    family: 'Bus and body',
    severity: 'note',
    title: 'Immobiliser still in the car',
    source: 'A standalone ECU does not answer it; local rules decide',
    sheet: 'survey',
    check: ({ devices }) =>
      devices.flatMap(({ device, kind }) =>
        trait(kind, 'body')?.cavities.some((cavity) => cavity.signal === 'immobiliser')
          ? [
              {
                at: device.id,
                where: { type: 'device' as const, deviceId: device.id },
                detail: `${device.label} carries an immobiliser line: find out whether it also holds back the starter or the pump, and what local rules ask for.`,
              },
            ]
          : [],
      ),
  },
  {
    id: 'BB-12',
    family: 'Bus and body',
    severity: 'note',
    title: 'Body wire nobody has named',
    source: 'Counting',
    sheet: 'survey',
    check: ({ devices }) =>
      devices.flatMap(({ device, kind }) => {
        const unknown = unknownCavities(kind);
        if (unknown.length === 0) return [];
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label}: ${plural(unknown.length, 'cavity', 'cavities')} not known yet (${listWords(unknown.slice(0, 4).map(({ cavity }) => cavity))}). Measure before you join one.`,
          },
        ];
      }),
  },
  {
    id: 'BB-13',
    family: 'Bus and body',
    severity: 'note',
    title: 'Splice with wires that stay and wires that go',
    source: 'Counting',
    sheet: 'survey',
    check: ({ build }) =>
      splitSplices(donorList(build.survey.donor)).map(({ splice, stay, go }) => ({
        at: splice,
        detail: `Donor splice ${splice}: ${plural(stay.length, 'wire')} stay, ${plural(go.length, 'wire')} go. Open the joint, or what stays loses its feed.`,
      })),
  },
  {
    id: 'BB-14',
    family: 'Bus and body',
    severity: 'fix',
    title: 'Two donor wires move to one cavity',
    source: 'One cavity takes one wire',
    sheet: 'survey',
    check: ({ build }) => {
      const moving = donorList(build.survey.donor).filter((wire) => wire.decision === 'move' && wire.moveTo.trim());
      return [...groupBy(moving, (wire) => wire.moveTo.trim().toLowerCase()).values()].flatMap((wires) =>
        wires.length < 2
          ? []
          : [
              {
                at: wires[0]!.moveTo.trim().toLowerCase(),
                detail: `${listWords(wires.map((wire) => `${wire.connector} ${wire.cavity}`.trim()))} all move to ${wires[0]!.moveTo.trim()}.`,
              },
            ],
      );
    },
  },
  {
    id: 'BB-15',
    family: 'Bus and body',
    severity: 'fix',
    title: 'Alternator lamp terminal left bare',
    source: 'Through the warning lamp, or about 470 Ω to the switched feed; common practice',
    sheet: 'survey',
    check: ({ devices }) =>
      devices.flatMap(({ device, kind }) =>
        hasRole(kind, 'alternator') &&
        kind.terminals.some(
          (terminal) => terminal.destination.to === 'feed' && destinationOf(device, terminal).to === 'nothing',
        )
          ? [
              {
                at: device.id,
                where: { type: 'device' as const, deviceId: device.id },
                detail: `${device.label} gets no exciting current, so it may never start to charge.`,
              },
            ]
          : [],
      ),
  },
];
