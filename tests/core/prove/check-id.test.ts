import { describe, expect, test } from '@jest/globals';
import { checkAbout, checkIdOf, type CheckAbout } from '~/core/prove/check-id';
import { pinRead, sensorFacts } from '~/core/prove/evidence';
import { sparkChannel, sparkLine } from '~/core/devices/spark-line';
import { call } from '~/core/edits';
import { needsOf } from '~/core/netlist/needs';
import { edited, emptyBuild, kind } from '../../helpers';

describe('names that are kept in the document', () => {
  test.each<CheckAbout>([
    { of: 'sensor', needId: 'map-3bar-1.3' },
    { of: 'relay', needId: 'relay-pump.85' },
    { of: 'output', pinId: 'A12' },
    // A device may be called as a check is.
    { of: 'sensor', needId: 'relay-box-1.2' },
    { of: 'output', pinId: 'sensor-1' },
  ])('%j comes back from its check', (about) => {
    expect(checkAbout(checkIdOf(about))).toEqual(about);
  });
  test('checks of a gate as a whole are about nothing', () => {
    for (const id of ['locks', 'pedal', 'rpm', 'sensor', 'relay-', 'outputs-1', '']) expect(checkAbout(id)).toBeNull();
  });
  test('lines of an igniter are told from lines that only begin like one', () => {
    expect([1, 8, 12].map((channel) => sparkChannel(sparkLine(channel)))).toEqual([1, 8, 12]);
    for (const line of ['spark', 'spark-', 'spark-1b', 'my-spark-1', 'oil-lamp']) expect(sparkChannel(line)).toBeNull();
  });
  test('the pin a sensor was read on, and the part by its own terminal: one id may begin like another', () => {
    const build = edited(
      emptyBuild(4, 'orrery-26'),
      call('addDevice', { kind: kind('oil-pressure') }),
      call('assign', { needId: 'oil-pressure-1.3', pinId: 'A15' }),
    );
    expect(pinRead(sensorFacts(build, 'oil-pressure-1.3'), 'oil-pressure-1.3')).toBe('A15');
    expect(pinRead(sensorFacts(build, 'oil-pressure-1.3'), 'oil-pressure-1')).toBeNull();
    expect(sensorFacts(build, 'oil-pressure-1.9')).toEqual(['oil-pressure-1.9 on no pin']);
  });
  test('no two needs have one id, whatever a kind of relay is called', () => {
    const fan = kind('fan');
    const solenoid = kind('boost-solenoid');
    const terminals = solenoid.terminals.map((one) => (one.destination.to === 'pin' ? { ...one, id: '85' } : one));
    const relay = { ...solenoid, id: 'relay-fan', name: 'Relay of a fan', terminals, internals: [], traits: [] };
    for (const kinds of [
      [fan, relay],
      [relay, fan],
      [relay, fan, relay, fan],
    ]) {
      const build = edited(emptyBuild(4, 'orrery-94'), ...kinds.map((one) => call('addDevice', { kind: one })));
      const ids = needsOf(build).map(({ id }) => id);
      expect(new Set(ids).size).toBe(ids.length);
      expect(ids.some((id) => /^relay-fan-\d\.85$/.test(id))).toBe(true);
    }
  });
});
