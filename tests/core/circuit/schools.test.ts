import { describe, expect, test } from '@jest/globals';
import type { Build } from '~/core/build/schema';
import { asManifoldKpa, groundSchool, otherSchool, type School } from '~/core/circuit/ground-shift';
import { solveCircuit } from '~/core/circuit/solve';
import { call } from '~/core/edits';
import { ecuEnd } from '~/core/ends/ends';
import { groundPins } from '~/core/netlist/ground-pins';
import { netlist } from '~/core/netlist/netlist';
import { demoBuild, edited } from '../../helpers';

const own = (build: Build) => {
  const net = netlist(build);
  return groundSchool(build, net, solveCircuit(build, net, 'running'));
};
const schools = (build: Build): Record<School, ReturnType<typeof own>> => {
  const both = [own(build), otherSchool(build, 'running')];
  return Object.fromEntries(both.map((one) => [one.place, one])) as Record<School, ReturnType<typeof own>>;
};

describe('both schools of grounding the ECU, solved', () => {
  const build = demoBuild();
  const { battery, head } = schools(build);
  test('the other school of a build is the own one of the other build', () => {
    const crossed = edited(
      build,
      call('setPower', { ecuGround: build.power.ecuGround === 'head' ? 'battery' : 'head' }),
    );
    expect(own(crossed)).toEqual(otherSchool(build, 'running'));
    expect(otherSchool(crossed, 'running')).toEqual(own(build));
  });
  test('by hand: the ECU stands above battery negative by what comes back along its own wires', () => {
    const at = edited(build, call('setPower', { ecuGround: 'battery' }));
    const pins = groundPins(at).power.map(({ id }) => ecuEnd(id));
    const wires = netlist(at).wires.filter(({ from, to }) => pins.includes(from) || pins.includes(to));
    expect(wires).toHaveLength(pins.length);
    // 13.3 mohm/m for 1.5 mm² and 7.98 for 2.5 (IEC 60228, class 5, at 20 °C); a mohm of contact at the pin, 0.2 at a bolted
    // ring, and 3 to 10 of its own on the ECU's board.
    const perMetre: Record<number, number> = { 1.5: 0.0133, 2.5: 0.00798 };
    const siemens = wires.reduce((sum, one) => sum + 1 / (perMetre[one.squareMm]! * one.lengthMetres + 0.0012), 0);
    expect(battery.ecuVolts).toBeGreaterThan(battery.amps / siemens);
    expect(battery.ecuVolts).toBeLessThan(1.35 * (battery.amps / siemens));
  });
  test('75 kPa a volt: a sensor of 3 bar over 0.5 to 4.5 V', () => {
    expect(asManifoldKpa(0.1)).toBeCloseTo(7.5, 9);
    for (const one of [battery, head]) expect(one.blockKpa).toBeCloseTo(one.blockVolts * 75, 9);
  });
  test('at the block the ECU and a sensor there stand together; at the battery the strap lies between them', () => {
    expect(Math.abs(head.blockVolts)).toBeLessThan(0.1);
    const long = schools(edited(build, call('setPower', { strapMetres: 8 })));
    // What charges stands at the engine: what the body takes comes back to the block through the strap, which draws the block, and
    // with it the ECU that is grounded there, below the battery by so much the more as the strap is longer.
    expect(head.ecuVolts).toBeLessThan(0.02);
    expect(long.head.ecuVolts).toBeLessThan(head.ecuVolts - 0.1);
    expect(long.head.blockVolts).toBeCloseTo(head.blockVolts, 2);
    // Grounded at the battery the ECU stays, and what stands at the block is read wrong.
    expect(long.battery.ecuVolts).toBeCloseTo(battery.ecuVolts, 2);
    expect(battery.blockVolts - long.battery.blockVolts).toBeGreaterThan(0.1);
  });
});
