import { expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { currentLetter, differenceInWords, letterAt } from '~/core/netlist/revisions';
import { planOf } from '~/core/build/schema';
import { demoBuild, edited, kind, wheel } from '../../helpers';

test('letters go on after Z', () => {
  expect([0, 1, 25, 26, 27, 51, 52].map(letterAt)).toEqual(['A', 'B', 'Z', 'AA', 'AB', 'AZ', 'BA']);
  expect(currentLetter(demoBuild())).toBe('A');
});

test('the difference of two plans in words', () => {
  const before = demoBuild();
  const after = edited(
    before,
    call('assign', { needId: 'relay-fan-1.85', pinId: 'A8' }),
    call('removeDevice', { deviceId: 'flex-fuel-1' }),
    call('addDevice', { kind: kind('coil-bare'), label: 'Spare coil' }),
    call('editDevice', { deviceId: 'fan-2', branchMetres: 3.1 }),
    call('setWheel', { shaft: 'crank', wheel: wheel('36-1') }),
    call('setTrigger', { offsetDegrees: 80 }),
    call('setCircuit', { circuitId: 'pump', choice: { fuseAmps: 25 } }),
    call('setPower', { ecuGround: 'battery' }),
    call('setOutputOrder', { outputOrder: 'in-turn' }),
  );
  const lines = differenceInWords(after, planOf(before), planOf(after));
  for (const line of [
    'Outputs now fire in turn.',
    'Spare coil was added.',
    'Flex fuel was removed.',
    'Fan 2: branch 2.60 m became 3.10 m.',
    'Fan 1 relay moved from A7 to A8.',
    'Flex fuel lost its pin B19.',
    'Crank wheel 60 places, 2 missing became 36 places, 1 missing.',
    'Offset 84.0° became 80.0°.',
    'Fuel pump: fuse 15 A became 25 A.',
    'ECU power ground moved to battery negative.',
  ])
    expect(lines).toContain(line);
  expect(differenceInWords(before, planOf(before), planOf(before))).toEqual([]);
});
