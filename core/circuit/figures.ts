import { amps, ohms, volts, type Figure } from '../power/battery-figures';

export { battery, type Figure } from '../power/battery-figures';

/*
 * The numbers the circuit model rests on, each with where it is from. A figure marked 'common practice' is what parts of that
 * kind usually measure; one marked 'from memory' has not been held against a printed source. What a build or an ECU states
 * itself (pull-ups, volts of an output, wire sizes) is not here.
 */
const SWITCH = 'common practice: on-resistance of an automotive power switch with its track and pin, 0.1 to 0.3 Ω';
const IDLE_OUTPUT = 'common practice: an output at rest leaks microamperes at 12 V';

/** What the machines are bolted by. */
export const machines = {
  case: ohms(0.0005, 0.8, 'common practice: the case of an alternator on its brackets, two bolted faces'),
} as const satisfies Record<string, Figure>;

/** How full a battery is said to be. */
export const charges = { full: 1, half: 0.5, 'nearly flat': 0.15 } as const;
export type Charge = keyof typeof charges;

/** Parts of the loom and the body. */
export const parts = {
  pullIn: volts(7.2, 1, 'common practice: a 12 V relay pulls in above about 60 % of its nominal volts'),
  dropOut: volts(3, 1.5, 'common practice: a 12 V relay holds down to 10 to 40 % of its nominal volts'),
  key: ohms(0.03, 0.7, 'common practice: a key contact that has been used, with its plug'),
  bodyToBattery: ohms(0.006, 0.7, 'common practice: body sheet, strap and two bolted joints'),
  mounted: ohms(0.01, 0.7, 'common practice: a threaded body or a bolted flange on clean metal'),
  shortToBody: ohms(0.05, 0.9, 'common practice: a chafed wire that bites into painted sheet'),
  shortedPart: ohms(0.5, 0.8, 'common practice: a winding shorted within itself keeps its leads'),
  shortedSensor: ohms(1, 0.8, 'common practice: a track shorted within the sensor keeps its leads'),
} as const satisfies Record<string, Figure>;

/** The lamp terminal of an alternator: its regulator draws the lamp down while it rests, and lets it out once it charges. */
export const alternator = {
  resting: volts(1.2, 0.5, 'common practice: 1 to 2 V at the lamp terminal with the key on and the engine still'),
  field: ohms(4, 0.25, 'common practice: field winding behind the regulator, 3 to 5 Ω'),
  lampOut: ohms(10, 0.5, 'common practice: the lamp terminal of a charging alternator stands at the battery’s volts'),
} as const satisfies Record<string, Figure>;

/** A driver holds its current at so many times what it is marked with (common practice: half as much again). */
export const DRIVER_LIMIT_TIMES = 1.5;

/** What the ECU is inside, from its pin to its own ground. */
export const inside = {
  powerGround: ohms(0.002, 0.6, 'common practice: pin and board track of a power ground'),
  sensorGround: ohms(0.005, 0.6, 'common practice: pin and board track of a signal ground'),
  supplyTrack: ohms(0.05, 0.5, 'common practice: pin, board track and protection of a 5 V supply'),
  supplyOpen: volts(5, 0.05, 'common practice: ratiometric sensors are supplied with 5 V'),
  supplySource: ohms(
    0.1,
    0.6,
    'common practice: a regulator holds 5 V within some tens of millivolts at 100 mA and more',
  ),
  supplyLimit: amps(
    0.5,
    0.3,
    'common practice: a 5 V supply for sensors gives some hundreds of milliamperes and no more',
  ),
  supplyOff: ohms(1000, 0.7, 'common practice: the 5 V rail bleeds into the board when it is off'),
  permanent: ohms(4000, 0.6, 'common practice: some milliamperes of standing current'),
  catchVolts: volts(0.8, 0.15, 'common practice: a silicon diode that carries an ampere or less'),
  catchOhms: ohms(0.1, 0.6, 'common practice: such a diode with its board track'),
  ownVolts: volts(12.4, 0.2, 'common practice: the draw of an ECU is told at a rested battery with the key on'),
  lowSideOn: ohms(0.15, 0.6, SWITCH),
  mainRelayOn: ohms(0.3, 0.5, SWITCH),
  ignitionDriverOn: ohms(0.2, 0.4, 'common practice: a coil driver drops 1 to 1.5 V at 6 to 8 A'),
  outputOff: ohms(1e7, 0.9, IDLE_OUTPUT),
  logicHigh: volts(5, 0.3, 'common practice: igniters are driven at 5 V logic'),
  logicSource: ohms(100, 0.5, 'common practice: series resistor of a logic output'),
  logicOff: ohms(1000, 0.7, 'common practice: a logic output pulls its line down at rest'),
  bridgeHigh: volts(6, 1, 'common practice: a half bridge at half duty shows half the battery to a meter'),
  bridgeLow: volts(0.05, 0.03, SWITCH),
  bridgeSource: ohms(0.2, 0.6, SWITCH),
  bridgeOff: ohms(10_000, 0.8, IDLE_OUTPUT),
  stepperOff: ohms(10_000, 0.8, IDLE_OUTPUT),
  supplyOutVolts: volts(12, 0.3, 'common practice: a switched supply output passes the battery on'),
  supplyOutSource: ohms(0.3, 0.6, SWITCH),
  supplyOutOff: ohms(10_000, 0.8, IDLE_OUTPUT),
  highSideOff: ohms(47_000, 0.5, 'common practice: pull-down across a high-side output for open-load detection'),
  vr: ohms(50_000, 0.5, 'common practice: input resistance of a VR conditioner to ground'),
  vrPair: ohms(10_000, 0.5, 'common practice: input resistance across a differential VR conditioner'),
  input: ohms(1e6, 0.5, 'common practice: input of an analog-digital converter with its filter'),
  canRecessive: volts(2.5, 0.3, 'ISO 11898-2: recessive bus voltage, nominal 2.5 V'),
  canInput: ohms(15_000, 0.6, 'ISO 11898-2: internal resistance of a node, 5 to 50 kΩ single-ended (from memory)'),
  canTermination: ohms(120, 0.02, 'ISO 11898-2: termination, nominal 120 Ω'),
} as const satisfies Record<string, Figure>;

/** The meter that is held to the loom. */
export const meter = {
  volts: ohms(1e7, 0.1, 'common practice: input resistance of a digital meter on its volts ranges'),
  digit: volts(0.02, 0.01, 'common practice: and two of its last digits'),
  openAbove: ohms(2e6, 0.5, 'common practice: the highest range of a plain meter shows no more'),
} as const satisfies Record<string, Figure>;

/** A contact that stands open has more, and one that is closed about so much, ohms (common practice). */
export const OPEN_CONTACT_OHMS = 1e6;
export const CLOSED_CONTACT_OHMS = 0.1;

/** What stands for an open line in the solution: large beside all else, small enough for the solver's digits. */
export const OPEN_OHMS = 1e9;

/** How far what a build states itself usually strays, as shares of its ohms. */
export const spreads = {
  wire: { value: 0.2, source: 'common practice: copper gains 0.4 % a degree; lengths by string, crimps as they come' },
  joint: { value: 0.6, source: 'common practice: a bolted joint is what its surfaces are' },
  fuse: { value: 0.3, source: 'common practice: blade fuses of one rating, their clips in' },
  contact: { value: 0.7, source: 'common practice: a relay contact from new to used' },
  winding: { value: 0.1, source: 'common practice: windings are wound to a tenth, and warm up' },
  marked: { value: 0.05, source: 'common practice: resistors of 5 %' },
  load: { value: 0.15, source: 'common practice: motors, heaters and filaments by what they are marked with' },
  sensor: { value: 0.05, source: 'common practice: sensors within some per cent of their curve' },
  meter: { value: 0.005, source: 'common practice: a plain digital meter on its volts ranges, 0.5 % of what it shows' },
  diode: { value: 0.15, source: 'common practice: volts of a diode that conducts, by its current and warmth' },
} as const satisfies Record<string, { readonly value: number; readonly source: string }>;
