import {
  evenWheel,
  listedWheel,
  missingToothWheel,
  multiGapWheel,
  widthCodedWheel,
  withTrack,
  type Wheel,
} from '~/core/wheels/wheel';

const narrow = (angles: readonly number[], width: number) => angles.map((at) => ({ at, width }));

/** Places and missing teeth of the plain missing-tooth wheels; ids are N-M. */
const plain = [
  [60, 2],
  [36, 1],
  [36, 2],
  [4, 1],
  [6, 1],
  [8, 1],
  [12, 1],
  [12, 2],
  [12, 3],
  [18, 1],
  [20, 1],
  [22, 1],
  [24, 1],
  [24, 2],
  [30, 1],
  [30, 2],
  [32, 2],
  [40, 1],
  [44, 2],
  [48, 1],
  [48, 2],
  [60, 1],
  [120, 2],
] as const;

const slots = evenWheel('slots-360', 'Disc of 360 slots on the cam', 'cam', 'slot-disc', 360);
/** Slots of a disc's second track: `widths` in degrees, one a slot, evenly apart. */
const secondTrack = (widths: readonly number[]) =>
  listedWheel(
    'second',
    'second track',
    'cam',
    'cam-windows',
    widths.map((width, place) => ({ at: (place * 360) / widths.length, width })),
  );

/** Wheels by geometry. Ids of plain missing-tooth wheels are N-M. Angles are of the wheel's own shaft, made up by kind. */
export const wheels: readonly Wheel[] = [
  ...plain.map(([places, missing]) => missingToothWheel(places, missing)),
  ...[1, 2, 3, 4, 6, 8, 12, 24, 36].map((places) => missingToothWheel(places, 0)),
  multiGapWheel('36-2-2-2', '36 places, three gaps of two', 36, [
    [13, 2],
    [16, 2],
    [34, 2],
  ]),
  multiGapWheel('36-2-1', '36 places, one gap of two and one of one', 36, [
    [17, 1],
    [34, 2],
  ]),
  multiGapWheel('60-2-2', '60 places, two gaps of two, opposite', 60, [
    [28, 2],
    [58, 2],
  ]),
  multiGapWheel('24-1-1', '24 places, two gaps of one, a third of a turn apart', 24, [
    [15, 1],
    [23, 1],
  ]),
  multiGapWheel('36-1-2-3', '36 places, gaps of one, two and three', 36, [
    [10, 1],
    [21, 2],
    [33, 3],
  ]),
  listedWheel(
    'uneven-70-110',
    'Four teeth a turn, 70° and 110° apart in turn',
    'crank',
    'uneven',
    narrow([0, 70, 180, 250], 10),
  ),
  listedWheel('uneven-3', 'Three teeth a turn, 60°, 120° and 180° apart', 'crank', 'uneven', narrow([0, 60, 180], 12)),
  listedWheel(
    'uneven-5',
    'Four teeth and a fifth close behind one',
    'crank',
    'uneven',
    narrow([0, 30, 90, 180, 270], 10),
  ),
  listedWheel(
    'uneven-12-1',
    'Twelve teeth and one between two of them',
    'crank',
    'uneven',
    narrow([0, 15, 30, 60, 90, 120, 150, 180, 210, 240, 270, 300, 330], 5),
  ),
  widthCodedWheel(
    'coded-6',
    'Six slots, ends equal, four narrow and two wide',
    'crank',
    'width-coded',
    [18, 18, 36, 18, 36, 36],
  ),
  widthCodedWheel(
    'coded-24',
    '24 slots, ends equal, wide and narrow in a code',
    'crank',
    'width-coded',
    [...'000011011010111110001101'].map((sign) => (sign === '1' ? 9 : 4)),
  ),
  widthCodedWheel('vane-4-wide', 'Distributor, four vanes, one wide', 'cam', 'distributor', [45, 45, 45, 65]),
  widthCodedWheel(
    'vane-6-narrow',
    'Distributor, six vanes, one narrow',
    'cam',
    'distributor',
    [30, 30, 30, 30, 30, 15],
  ),
  widthCodedWheel(
    'vane-8-wide',
    'Distributor, eight vanes, one wide',
    'cam',
    'distributor',
    [20, 20, 20, 20, 20, 20, 20, 32],
  ),
  slots,
  withTrack(
    'disc-360-4',
    'Disc of 360 slots and four more, one wide',
    slots,
    'four slots, one wide',
    secondTrack([24, 8, 8, 8]),
  ),
  withTrack(
    'disc-360-6',
    'Disc of 360 slots and six more, three widths',
    slots,
    'six slots, three widths',
    secondTrack([24, 8, 16, 8, 16, 8]),
  ),
  listedWheel('cam-1', 'One tooth a cycle', 'cam', 'cam-windows', narrow([40], 20)),
  listedWheel('cam-2-uneven', 'Two teeth a cycle, 120° apart', 'cam', 'cam-windows', narrow([0, 120], 20)),
  listedWheel('cam-3-minus-1', 'Four places, one missing', 'cam', 'cam-windows', narrow([0, 90, 180], 20)),
  listedWheel(
    'cam-4-plus-1',
    'Four windows a cycle and one more',
    'cam',
    'cam-windows',
    narrow([0, 30, 90, 180, 270], 20),
  ),
  listedWheel(
    'cam-5-plus-1',
    'Five teeth a cycle and one more',
    'cam',
    'cam-windows',
    narrow([0, 24, 72, 144, 216, 288], 14),
  ),
  listedWheel(
    'cam-6-plus-1',
    'Six teeth a cycle and one more',
    'cam',
    'cam-windows',
    narrow([0, 20, 60, 120, 180, 240, 300], 12),
  ),
  listedWheel('cam-4-window', 'Four windows, two wide and two narrow', 'cam', 'cam-windows', [
    { at: 0, width: 70 },
    { at: 90, width: 35 },
    { at: 180, width: 35 },
    { at: 270, width: 70 },
  ]),
  listedWheel(
    'cam-3-phaser',
    'Three teeth for a phaser, 100°, 120° and 140° apart',
    'cam',
    'cam-windows',
    narrow([0, 100, 220], 16),
  ),
  listedWheel('cam-2-window', 'Two windows, one wide and one narrow', 'cam', 'cam-windows', [
    { at: 0, width: 120 },
    { at: 180, width: 50 },
  ]),
  listedWheel('cam-half-moon', 'Half-moon: one level a crank turn', 'cam', 'half-moon', [{ at: 0, width: 180 }]),
];
