import { listedWheel, missingToothWheel, multiGapWheel, type Wheel } from '~/core/trigger/wheel';

const oneTooth = (shaft: 'cam', at: number, width: number) =>
  listedWheel('cam-1', 'One tooth a cycle', shaft, 'cam-windows', [{ at, width }]);

/** Wheels by geometry. Ids of plain missing-tooth wheels are N-M. */
export const wheels: readonly Wheel[] = [
  missingToothWheel(60, 2),
  missingToothWheel(36, 1),
  missingToothWheel(36, 2),
  missingToothWheel(24, 1),
  missingToothWheel(12, 1),
  missingToothWheel(4, 0),
  multiGapWheel('36-2-2-2', '36 places, three gaps of two', 36, [
    [13, 2],
    [16, 2],
    [34, 2],
  ]),
  listedWheel('uneven-70-110', 'Two teeth a turn, 70° and 110° apart in turn', 'crank', 'uneven', [
    { at: 0, width: 10 },
    { at: 70, width: 10 },
    { at: 180, width: 10 },
    { at: 250, width: 10 },
  ]),
  oneTooth('cam', 40, 20),
  listedWheel('cam-4-plus-1', 'Four windows a cycle and one more', 'cam', 'cam-windows', [
    { at: 0, width: 20 },
    { at: 30, width: 20 },
    { at: 90, width: 20 },
    { at: 180, width: 20 },
    { at: 270, width: 20 },
  ]),
  listedWheel('cam-half-moon', 'Half-moon: one level a crank turn', 'cam', 'half-moon', [{ at: 0, width: 180 }]),
];
