import { withId } from '../data/with-id';
import { call } from '../edits';
import { trait } from '../devices/kind';
import { serve } from '../ecu/ask';
import { offsetConfirmed } from '../prove/evidence';
import { listWords } from '../units/format';
import { SAFE_MARGIN, fitTrigger, gapMargin } from '../trigger/fit';
import { camWheelOf } from '../wheels/wheel';
import { offsetWords } from '../trigger/offset-words';
import type { Rule } from './rule';

export const triggerRules: Rule[] = [
  {
    id: 'TR-1',
    family: 'Trigger',
    severity: 'stop',
    title: 'This ECU does not decode the wheel',
    source: "ECU maker's list of decoders",
    sheet: 'trigger',
    check: ({ build }) => {
      const fit = fitTrigger(build.ecu, build.engine, build.trigger.crankWheel, build.trigger.camWheel);
      return fit.decodes
        ? []
        : [
            {
              at: '',
              detail: fit.reason,
              title: build.trigger.crankWheel ? undefined : 'No crank wheel chosen',
              severity: build.trigger.crankWheel ? 'stop' : 'fix',
            },
          ];
    },
  },
  {
    id: 'TR-2',
    family: 'Trigger',
    severity: 'stop',
    title: 'Sensor type and input do not match',
    source: 'VR gives an alternating voltage, Hall a switched level; common practice',
    sheet: 'allot',
    check: ({ build, net, devices }) =>
      devices.flatMap(({ device, kind }) => {
        const trigger = trait(kind, 'trigger');
        if (!trigger) return [];
        // A phaser in the same plug is no part of the question.
        const needs = net.needs.filter(
          (need) => need.deviceId === device.id && ['vr', 'hall', 'frequency'].includes(need.ask.kind),
        );
        const able = needs.every((need) => build.ecu.pins.some((pin) => serve(pin, need.ask).ability));
        if (able) return [];
        const sensor = trigger.sensor === 'vr' ? 'a two-wire VR sensor' : 'a three-wire square-wave sensor';
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `${device.label} is ${sensor}; ${build.ecu.model} has no ${trigger.sensor === 'vr' ? 'VR pair: fit a conditioner or a Hall sensor' : 'square-wave trigger input'}.`,
          },
        ];
      }),
  },
  {
    id: 'TR-3',
    family: 'Trigger',
    severity: 'stop',
    title: 'Square-wave sensor without pull-up',
    source: 'Open-collector output; common practice',
    sheet: 'trigger',
    check: ({ build, net, devices }) =>
      devices.flatMap(({ device, kind }) => {
        if (trait(kind, 'trigger')?.sensor !== 'hall') return [];
        return net.needs
          .filter((need) => need.deviceId === device.id && (need.ask.kind === 'hall' || need.ask.kind === 'frequency'))
          .flatMap((need) => {
            const pin = withId(build.ecu.pins, build.assignments[need.id]);
            const ability = pin && serve(pin, need.ask).ability;
            if (!ability || ability.pullUpOhms !== undefined || device.pullUpOhms !== null) return [];
            return [
              {
                at: need.id,
                where: { type: 'need' as const, needId: need.id },
                detail: `${device.label} only pulls its signal down; ${pin.id} has no pull-up, so the level never rises. Fit 1 to 4.7 kΩ to 5 V at the ECU.`,
              },
            ];
          });
      }),
  },
  {
    id: 'TR-4',
    family: 'Trigger',
    severity: 'fix',
    title: 'Shield earthed wrongly',
    source: 'One end only, the ECU’s; common practice',
    sheet: 'trigger',
    check: ({ devices }) =>
      devices.flatMap(({ device, kind }) => {
        if (!trait(kind, 'trigger') || !kind.shielded || device.shield === 'ecu-end') return [];
        const why =
          device.shield === 'none'
            ? 'has no shield: coil noise gets in'
            : 'is earthed at both ends: ground current flows through the shield';
        return [
          {
            at: device.id,
            where: { type: 'device' as const, deviceId: device.id },
            detail: `The cable of ${device.label} ${why}.`,
            remedy: {
              label: 'Shield at the ECU end',
              calls: [call('editDevice', { deviceId: device.id, shield: 'ecu-end' })],
            },
          },
        ];
      }),
  },
  {
    id: 'TR-5',
    family: 'Trigger',
    severity: 'fix',
    title: 'Terminal order not confirmed',
    source: 'Variants of one sensor exist with reversed terminals; common practice',
    sheet: 'survey',
    check: ({ devices }) => {
      const open = devices.filter(({ device, kind }) => trait(kind, 'trigger') && !device.terminalsConfirmed);
      if (open.length === 0) return [];
      const has = (sensor: 'vr' | 'hall') => open.some(({ kind }) => trait(kind, 'trigger')?.sensor === sensor);
      const swapped = [
        ...(has('vr') ? ['Swapped VR leads split the gap and scatter the timing.'] : []),
        ...(has('hall')
          ? ['A square-wave sensor with supply and ground swapped gives no signal and may die of it.']
          : []),
      ];
      return [
        {
          at: '',
          where: { type: 'device', deviceId: open[0]!.device.id },
          detail: `${listWords(open.map(({ device }) => device.label))}: read the terminals off the part in hand, not off its family. ${swapped.join(' ')}`,
          remedy: {
            label: 'I have read them',
            calls: open.map(({ device }) => call('editDevice', { deviceId: device.id, terminalsConfirmed: true })),
          },
        },
      ];
    },
  },
  {
    id: 'TR-6',
    family: 'Trigger',
    severity: 'note',
    title: 'Offset not confirmed by light',
    source: 'Always check with the light, whatever a table says; common practice',
    sheet: 'trigger',
    check: ({ build }) =>
      build.trigger.crankWheel && !offsetConfirmed(build)
        ? [
            {
              at: '',
              detail: `The offset of ${offsetWords(build)} has not been seen with a timing light.`,
            },
          ]
        : [],
  },
  {
    id: 'TR-7',
    family: 'Trigger',
    severity: 'fix',
    title: 'Gap margin too small while cranking',
    source: 'Threshold between 1 + r and (M + 1)/(1 + r); ripple 20-40 % is common practice',
    sheet: 'trigger',
    check: ({ build }) => {
      const wheel = build.trigger.crankWheel;
      const margin = wheel && gapMargin(wheel, build.trigger.ripple, build.ecu.gapThreshold);
      if (!margin || (margin.margin >= SAFE_MARGIN && margin.thresholdFits)) return [];
      const ripple = `${(build.trigger.ripple * 100).toFixed(0)} %`;
      return [
        {
          at: '',
          detail: margin.thresholdFits
            ? `At ${ripple} ripple the gap is only ${margin.margin.toFixed(2)} times the longest tooth; ${SAFE_MARGIN} is wanted. Plugs out and a full battery make the crank turn more evenly.`
            : `This ECU calls a gap at ${margin.threshold} times the tooth before; at ${ripple} ripple it must lie between ${margin.longestTooth.toFixed(2)} and ${margin.shortestGap.toFixed(2)}.`,
        },
      ];
    },
  },
  {
    id: 'TR-8',
    family: 'Trigger',
    severity: 'stop',
    title: 'Wheel without a sensor',
    source: 'Counting',
    sheet: 'survey',
    check: ({ build, devices }) =>
      (['crank', 'cam'] as const).flatMap((shaft) => {
        const wheel = shaft === 'crank' ? build.trigger.crankWheel : camWheelOf(build.trigger);
        const fitted = devices.filter(({ kind }) => trait(kind, 'trigger')?.shaft === shaft);
        if (wheel && fitted.length === 0)
          return [{ at: shaft, detail: `A ${shaft} wheel is chosen, but no ${shaft} sensor is on the list.` }];
        return [];
      }),
  },
];
