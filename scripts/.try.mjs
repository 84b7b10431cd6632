// catalog/ecus.ts
var injector = (output2) => ({
  label: `Injection ${output2}`,
  abilities: [
    { kind: "injector", output: output2, maxAmps: 2, minOhms: 10 },
    { kind: "low-side", maxAmps: 2, maxHz: 100 }
  ]
});
var ignitionLogic = (output2) => ({
  label: `Ignition ${output2}`,
  abilities: [{ kind: "ignition-logic", output: output2 }]
});
var ignitionDriver = (output2) => ({
  label: `Ignition ${output2}`,
  abilities: [
    { kind: "ignition-driver", output: output2, maxAmps: 10 },
    { kind: "ignition-logic", output: output2 }
  ]
});
var lowSide = (number, maxAmps, maxHz) => ({
  label: maxHz > 0 ? `Output ${number} PWM` : `Output ${number}`,
  abilities: [{ kind: "low-side", maxAmps, maxHz }]
});
var halfBridge = (pair, side, maxAmps, phase) => ({
  label: `Motor ${pair.slice(-1).toUpperCase()} ${side === "plus" ? "+" : "\u2013"}`,
  abilities: [
    { kind: "half-bridge", pair, side, maxAmps },
    ...phase ? [{ kind: "stepper", pair: "stepper-1", phase, side, maxAmps: 1 }] : [],
    { kind: "low-side", maxAmps, maxHz: 1e3 }
  ]
});
var analog = (number) => ({
  label: `Analog ${number}`,
  abilities: [{ kind: "analog" }, { kind: "switch", pullUpOhms: 4700, pullUpSwitchable: true }]
});
var temperature = (number) => ({
  label: `Temperature ${number}`,
  abilities: [
    { kind: "analog", pullUpOhms: 2490, pullUpSwitchable: true },
    { kind: "switch", pullUpOhms: 2490 }
  ]
});
var switchIn = (number) => ({
  label: `Switch ${number}`,
  abilities: [{ kind: "switch", pullUpOhms: 4700 }]
});
var frequency = (number) => ({
  label: `Frequency ${number}`,
  abilities: [
    { kind: "frequency", maxHz: 6e3, pullUpOhms: 4700, pullUpSwitchable: true },
    { kind: "switch", pullUpOhms: 4700 }
  ]
});
var hall = (number) => ({
  label: `Trigger ${number}`,
  abilities: [
    { kind: "hall", pullUpOhms: 2200, pullUpSwitchable: true, maxHz: 12e3 },
    { kind: "frequency", pullUpOhms: 2200, pullUpSwitchable: true, maxHz: 12e3 }
  ]
});
var thermocouple = (pair, side) => one(`Thermocouple ${side === "plus" ? "+" : "\u2013"}`, { kind: "thermocouple", pair, side });
var vr = (pair, side) => ({
  label: `VR ${pair.slice(-1)} ${side === "plus" ? "+" : "\u2013"}`,
  abilities: [{ kind: "vr", pair, side }]
});
var can = (pair, side) => ({
  label: `CAN ${pair.slice(-1)} ${side === "plus" ? "H" : "L"}`,
  abilities: [{ kind: "can", pair, side }]
});
var one = (label2, ability) => ({ label: label2, abilities: [ability] });
var knock = (number) => one(`Knock ${number}`, { kind: "knock" });
var fiveVolts = (letter, maxAmps) => one(`5 V ${letter}`, { kind: "supply-5v", maxAmps });
var sensorGround = (letter) => one(`Sensor ground ${letter}`, { kind: "sensor-ground" });
var powerGround = (number) => one(`Power ground ${number}`, { kind: "power-ground", maxAmps: 12 });
var permanent = one("Battery permanent", { kind: "permanent" });
var switched = one("Supply switched", { kind: "switched" });
var mainRelay = one("Main relay", { kind: "main-relay", maxAmps: 0.5 });
var times = (count2, make, from = 1) => Array.from({ length: count2 }, (_, i) => make(from + i));
var pinsOn = (connector, specs) => specs.map((spec, index) => ({
  id: `${connector}${index + 1}`,
  connector,
  cavity: index + 1,
  label: spec.label,
  abilities: [...spec.abilities]
}));
var decoder = (family, minPlaces, maxPlaces, maxMissing, needsCam = false) => ({ family, minPlaces, maxPlaces, maxMissing, needsCam });
var orrery26 = {
  id: "orrery-26",
  maker: "Orrery",
  model: "Orrery 26",
  outputOrder: "in-turn",
  connectors: [{ id: "A", rows: [8, 7, 7, 7], maxSquareMm: 1.5, sealed: false, keys: [{ edge: "bottom", at: 0.3 }] }],
  pins: pinsOn("A", [
    ...times(4, injector),
    ...times(4, ignitionLogic),
    switched,
    ...times(2, (n) => lowSide(n, 1, 0)),
    lowSide(3, 2, 500),
    ...times(2, hall),
    ...times(2, temperature),
    ...times(4, analog),
    switchIn(1),
    switchIn(2),
    fiveVolts("a", 0.1),
    sensorGround("a"),
    powerGround(1),
    powerGround(2)
  ]),
  groups: [{ type: "budget", name: "5 V supply", pins: ["A23"], amps: 0.1 }],
  decoders: [decoder("missing-tooth", 8, 60, 2), decoder("even", 2, 60, 0, true), decoder("distributor", 2, 8, 0)],
  groundsAsked: 2,
  minVolts: 7,
  ownAmps: 0.4,
  gapThreshold: 1.42
};
var orrery48 = {
  id: "orrery-48",
  maker: "Orrery",
  model: "Orrery 48",
  outputOrder: "by-cylinder",
  connectors: [
    { id: "A", rows: [10, 10, 8], maxSquareMm: 2.5, sealed: true, keys: [{ edge: "bottom", at: 0.46 }] },
    {
      id: "B",
      rows: [10, 10],
      maxSquareMm: 1,
      sealed: true,
      keys: [
        { edge: "bottom", at: 0.46 },
        { edge: "left", at: 0.5 }
      ]
    }
  ],
  pins: [
    ...pinsOn("A", [
      ...times(5, injector),
      ...times(3, (n) => lowSide(n, 1.5, 0)),
      lowSide(4, 3, 1e3),
      switched,
      ...times(6, ignitionLogic),
      injector(6),
      switchIn(1),
      halfBridge("motor-a", "plus", 6),
      halfBridge("motor-a", "minus", 6),
      ...times(3, powerGround),
      permanent,
      can("can-1", "plus"),
      can("can-1", "minus"),
      switchIn(2),
      switchIn(3)
    ]),
    ...pinsOn("B", [
      vr("vr-1", "plus"),
      vr("vr-1", "minus"),
      hall(1),
      knock(1),
      sensorGround("a"),
      sensorGround("b"),
      fiveVolts("a", 0.1),
      fiveVolts("b", 0.1),
      ...times(2, temperature),
      ...times(8, analog),
      ...times(2, frequency)
    ])
  ],
  groups: [{ type: "timer", name: "motor timer", pins: ["A19", "A20"] }],
  decoders: [
    decoder("missing-tooth", 8, 120, 4),
    decoder("even", 2, 60, 0, true),
    decoder("distributor", 2, 8, 0),
    decoder("multi-gap", 12, 60, 8, true)
  ],
  groundsAsked: 3,
  minVolts: 6.5,
  ownAmps: 0.8,
  gapThreshold: 1.6
};
var orrery94 = {
  id: "orrery-94",
  maker: "Orrery",
  model: "Orrery 94",
  outputOrder: "by-cylinder",
  connectors: [
    {
      id: "A",
      rows: [10, 9, 9, 9],
      maxSquareMm: 2.5,
      sealed: true,
      keys: [{ edge: "bottom", at: 0.2 }]
    },
    {
      id: "B",
      rows: [10, 9, 9, 9],
      maxSquareMm: 1.5,
      sealed: true,
      keys: [{ edge: "bottom", at: 0.7 }]
    },
    { id: "C", rows: [8, 7, 7, 7], maxSquareMm: 1, sealed: true, keys: [{ edge: "top", at: 0.5 }] }
  ],
  pins: [
    ...pinsOn("A", [
      ...times(12, injector),
      ...times(12, ignitionDriver),
      ...times(5, powerGround),
      permanent,
      switched,
      mainRelay,
      ...times(2, (n) => lowSide(n, 3, 1e3))
    ]),
    ...pinsOn("B", [
      halfBridge("motor-a", "plus", 8, "a"),
      halfBridge("motor-a", "minus", 8, "a"),
      halfBridge("motor-b", "plus", 8, "b"),
      halfBridge("motor-b", "minus", 8, "b"),
      ...times(6, (n) => lowSide(n, 3, 1e3), 3),
      ...times(8, (n) => lowSide(n, 1.5, 0), 9),
      ...times(9, switchIn),
      ...times(3, analog, 6),
      can("can-1", "plus"),
      can("can-1", "minus"),
      can("can-2", "plus"),
      can("can-2", "minus")
    ]),
    ...pinsOn("C", [
      vr("vr-1", "plus"),
      vr("vr-1", "minus"),
      ...times(3, hall),
      ...times(2, knock),
      one("Wideband pump cell", { kind: "wideband", pair: "cell-1", cell: "pump" }),
      one("Wideband reference cell", { kind: "wideband", pair: "cell-1", cell: "reference" }),
      one("Wideband cell ground", { kind: "wideband", pair: "cell-1", cell: "ground" }),
      sensorGround("a"),
      sensorGround("b"),
      fiveVolts("a", 0.15),
      fiveVolts("b", 0.15),
      ...times(3, temperature),
      ...times(5, analog),
      thermocouple("egt-1", "plus"),
      thermocouple("egt-1", "minus"),
      ...times(2, frequency)
    ])
  ],
  groups: [
    { type: "timer", name: "timer 1", pins: ["A33", "A34", "B5"] },
    { type: "timer", name: "timer 2", pins: ["B6", "B7", "B8", "B9", "B10"] },
    {
      type: "budget",
      name: "outputs 9 to 16 together",
      pins: ["B11", "B12", "B13", "B14", "B15", "B16", "B17", "B18"],
      amps: 6
    },
    { type: "budget", name: "5 V a and b together", pins: ["C13", "C14"], amps: 0.25 },
    { type: "either", name: "VR 1 or trigger 1", sides: [["C1", "C2"], ["C3"]] }
  ],
  decoders: [
    decoder("missing-tooth", 4, 240, 6),
    decoder("even", 2, 120, 0, true),
    decoder("distributor", 2, 12, 0),
    decoder("multi-gap", 12, 120, 10),
    decoder("uneven", 2, 24, 0),
    decoder("half-moon", 1, 2, 0)
  ],
  groundsAsked: 4,
  minVolts: 6,
  ownAmps: 1.5,
  gapThreshold: 1.6
};
var ecus = [orrery26, orrery48, orrery94];

// core/engine/banks.ts
var count = (from, to) => Array.from({ length: to - from + 1 }, (_, i) => from + i);
var banksOf = ({ cylinders, banks }) => banks.length > 0 ? banks : [count(1, cylinders)];
function banksFor(cylinders, numbering) {
  if (cylinders < 2) return [];
  const half = Math.ceil(cylinders / 2);
  return numbering === "halves" ? [count(1, half), count(half + 1, cylinders)] : [count(1, cylinders).filter((one2) => one2 % 2 === 1), count(1, cylinders).filter((one2) => one2 % 2 === 0)];
}
var bankOf = (engine2, cylinder) => banksOf(engine2).findIndex((bank) => bank.includes(cylinder)) + 1;
function bankOfAll(engine2, cylinders) {
  const banks = new Set(cylinders.map((cylinder) => bankOf(engine2, cylinder)));
  return banks.size === 1 ? [...banks][0] : null;
}
var bankWords = (engine2, bank) => {
  const cylinders = banksOf(engine2)[bank - 1] ?? [];
  return `bank ${bank}, ${cylinders.length === 1 ? "cylinder" : "cylinders"} ${cylinders.join(", ")}`;
};

// catalog/engines.ts
var engine = (partial) => ({
  kind: "four-stroke",
  firingAngles: null,
  aspiration: "atmospheric",
  boostKpa: 0,
  ignition: "direct",
  injection: "sequential",
  plugs: 1,
  trailingDegrees: 0,
  injectors: 1,
  banks: [],
  bankDegrees: 0,
  ...partial
});
var engines = [
  engine({ name: "Inline four, 2.0 l", cylinders: 4, firingOrder: [1, 3, 4, 2], displacementCc: 1998, maxRpm: 7200 }),
  engine({
    name: "Inline five turbo, 2.3 l",
    cylinders: 5,
    firingOrder: [1, 2, 4, 5, 3],
    displacementCc: 2310,
    maxRpm: 7200,
    aspiration: "boosted",
    boostKpa: 140
  }),
  engine({
    name: "Inline six, 2.8 l",
    cylinders: 6,
    firingOrder: [1, 5, 3, 6, 2, 4],
    displacementCc: 2790,
    maxRpm: 6800
  }),
  engine({ name: "Inline three, 1.0 l", cylinders: 3, firingOrder: [1, 3, 2], displacementCc: 998, maxRpm: 6800 }),
  engine({
    name: "Flat four, 2.2 l",
    cylinders: 4,
    banks: banksFor(4, "odd-even"),
    bankDegrees: 180,
    firingOrder: [1, 3, 2, 4],
    displacementCc: 2210,
    maxRpm: 6600
  }),
  engine({
    name: "V6 of 60\xB0, 3.2 l",
    cylinders: 6,
    banks: banksFor(6, "odd-even"),
    bankDegrees: 60,
    firingOrder: [1, 2, 3, 4, 5, 6],
    displacementCc: 3190,
    maxRpm: 6600
  }),
  engine({
    name: "V6 of 90\xB0, odd-fire, 3.6 l",
    cylinders: 6,
    banks: banksFor(6, "odd-even"),
    bankDegrees: 90,
    firingOrder: [1, 6, 5, 4, 3, 2],
    firingAngles: [0, 90, 240, 330, 480, 570],
    displacementCc: 3580,
    maxRpm: 5600
  }),
  engine({
    name: "V8 of 90\xB0, 5.0 l",
    cylinders: 8,
    banks: banksFor(8, "odd-even"),
    bankDegrees: 90,
    firingOrder: [1, 8, 4, 3, 6, 5, 7, 2],
    displacementCc: 4990,
    maxRpm: 6500
  }),
  engine({
    name: "Parallel twin, 270\xB0 crank, 0.8 l",
    cylinders: 2,
    firingOrder: [1, 2],
    firingAngles: [0, 270],
    displacementCc: 790,
    maxRpm: 5200,
    ignition: "wasted",
    injection: "semi-sequential"
  }),
  engine({
    name: "V-twin of 45\xB0, odd-fire, 1.4 l",
    cylinders: 2,
    banks: banksFor(2, "odd-even"),
    bankDegrees: 45,
    firingOrder: [1, 2],
    firingAngles: [0, 315],
    displacementCc: 1390,
    maxRpm: 5600,
    ignition: "wasted",
    injection: "semi-sequential"
  }),
  engine({
    name: "Single, 0.45 l",
    cylinders: 1,
    firingOrder: [1],
    displacementCc: 448,
    maxRpm: 10500,
    ignition: "wasted",
    injection: "batch"
  }),
  engine({
    name: "Two-stroke twin, 0.5 l",
    kind: "two-stroke",
    cylinders: 2,
    firingOrder: [1, 2],
    displacementCc: 497,
    maxRpm: 9500,
    injection: "batch"
  }),
  engine({
    name: "Two-rotor, 1.3 l",
    kind: "rotary",
    cylinders: 2,
    firingOrder: [1, 2],
    displacementCc: 1308,
    maxRpm: 8500,
    plugs: 2,
    trailingDegrees: 10,
    injectors: 2
  }),
  engine({
    name: "Three-rotor, 2.0 l",
    kind: "rotary",
    cylinders: 3,
    firingOrder: [1, 2, 3],
    displacementCc: 1962,
    maxRpm: 8200,
    plugs: 2,
    trailingDegrees: 10,
    injectors: 2
  })
];

// catalog/kinds/make.ts
var t = (id3, name3, destination) => ({ id: id3, name: name3, destination });
var pin = (ask, pair) => pair ? { to: "pin", ask, pair } : { to: "pin", ask };
var analog2 = pin({ kind: "analog", pullUp: false });
var pulledUp = pin({ kind: "analog", pullUp: true });
var five = (milliamps = 10, bank = 0) => ({ to: "supply-5v", milliamps, bank });
var sensorGround2 = (bank = 0) => ({ to: "sensor-ground", bank });
var feed = (name3, amps2) => ({
  to: "feed",
  feed: name3,
  amps: amps2
});
var ground = (place3) => ({
  to: "ground",
  place: place3
});
var mounted = (place3 = "head") => ({
  to: "mounted",
  place: place3
});
var line = (name3) => ({ to: "line", line: name3 });
var lowSide2 = (amps2, hz = 0) => pin({ kind: "low-side", amps: amps2, hz });
var resistor = (from, to, ohms2) => ({ type: "resistor", from, to, ohms: ohms2 });
var divider = (supply, groundId, signal, ratio, ohms2 = 1e3) => ({
  type: "divider",
  supply,
  ground: groundId,
  signal,
  ratio,
  ohms: ohms2
});
var role = (name3) => ({ type: "role", role: name3 });
function kind(base) {
  return { internals: [], traits: [], perCylinder: false, shielded: false, twisted: false, twinRisk: false, ...base };
}
var sensor = (base) => ({
  type: "sensor",
  ratiometric: base.signal === "volts" || base.signal === "ohms",
  faultBelow: base.signal === "volts" ? 0.25 : base.signal === "ohms" ? 0.05 : null,
  faultAbove: base.signal === "volts" ? 4.75 : base.signal === "ohms" ? 4.95 : null,
  ...base
});
var points = (...pairs) => pairs.map(([signal, value]) => ({ signal, value }));
var linear = (...pairs) => ({
  method: "linear",
  points: points(...pairs)
});
var table = (...pairs) => ({ method: "table", points: points(...pairs) });
var volts = (...pairs) => pairs.map(([at, milliseconds]) => ({ volts: at, milliseconds }));
function pressure(id3, name3, system, measures, range, reference, [low, high] = [0.5, 4.5]) {
  const [least, most2] = range;
  return kind({
    id: id3,
    name: name3,
    system,
    note: `Ratiometric, ${low} to ${high} V. Three wires; variants have supply and ground changed over.`,
    terminals: [t("1", "supply", five(8)), t("2", "ground", sensorGround2()), t("3", "signal", analog2)],
    internals: [divider("1", "2", "3", 0.3)],
    traits: [
      { type: "pressure", measures, reference },
      sensor({
        terminal: "3",
        quantity: "pressure",
        signal: "volts",
        curve: linear([low, least], [high, most2]),
        least,
        most: most2
      })
    ]
  });
}
function ntc(id3, name3, system, curve2, note, [least, most2] = [-30, 140]) {
  return kind({
    id: id3,
    name: name3,
    system,
    note: `${note} Needs a pull-up; no polarity.`,
    terminals: [t("1", "signal", pulledUp), t("2", "return", sensorGround2())],
    internals: [resistor("1", "2", 2e3)],
    traits: [sensor({ terminal: "1", quantity: "temperature", signal: "ohms", curve: curve2, least, most: most2 })]
  });
}

// catalog/kinds/air.ts
var track = (terminal, closed, open) => sensor({
  terminal,
  quantity: "position",
  signal: "volts",
  curve: linear([closed, 0], [open, 100]),
  least: 0,
  most: 100
});
var solenoid = (id3, name3, note, amps2, hz, ohms2) => kind({
  id: id3,
  name: name3,
  system: "Air and throttle",
  note,
  terminals: [t("1", "feed", feed("main", amps2)), t("2", "switched", lowSide2(amps2, hz))],
  internals: [resistor("1", "2", ohms2)]
});
var airKinds = [
  kind({
    id: "throttle-motor",
    name: "Throttle body, motor and two tracks",
    system: "Air and throttle",
    note: "Motor on a half-bridge pair; two tracks whose volts add up to 5.",
    terminals: [
      t("1", "motor +", pin({ kind: "half-bridge", side: "plus", amps: 4 }, "motor")),
      t("2", "motor \u2013", pin({ kind: "half-bridge", side: "minus", amps: 4 }, "motor")),
      t("3", "supply", five(12, 0)),
      t("4", "ground", sensorGround2(0)),
      t("5", "track 1", analog2),
      t("6", "track 2", analog2)
    ],
    internals: [resistor("1", "2", 2.2), divider("3", "4", "5", 0.16), divider("3", "4", "6", 0.84)],
    traits: [role("throttle"), track("5", 0.7, 4.5), track("6", 4.3, 0.5)]
  }),
  kind({
    id: "throttle-cable",
    name: "Throttle position sensor, cable throttle",
    system: "Air and throttle",
    note: "Closed about 0.4 to 0.9 V, open about 3.8 to 4.6 V.",
    terminals: [t("1", "supply", five(6)), t("2", "ground", sensorGround2()), t("3", "signal", analog2)],
    internals: [resistor("1", "2", 5e3), divider("1", "2", "3", 0.13, 1500)],
    traits: [role("throttle"), track("3", 0.65, 4.2)]
  }),
  kind({
    id: "throttle-cable-reversed",
    name: "Throttle position sensor, reversed order",
    system: "Air and throttle",
    note: "The same body as its twin with supply and ground changed over: check the part in hand.",
    terminals: [t("1", "ground", sensorGround2()), t("2", "supply", five(6)), t("3", "signal", analog2)],
    internals: [resistor("1", "2", 5e3), divider("2", "1", "3", 0.13, 1500)],
    traits: [role("throttle"), track("3", 0.65, 4.2)]
  }),
  kind({
    id: "pedal",
    name: "Pedal with two tracks",
    system: "Air and throttle",
    note: "Two independent tracks, separate supplies and grounds; track 1 has twice the volts of track 2.",
    terminals: [
      t("1", "supply 1", five(10, 0)),
      t("2", "ground 1", sensorGround2(0)),
      t("3", "track 1", analog2),
      t("4", "supply 2", five(10, 1)),
      t("5", "ground 2", sensorGround2(1)),
      t("6", "track 2", analog2)
    ],
    internals: [divider("1", "2", "3", 0.16), divider("4", "5", "6", 0.08)],
    traits: [role("pedal"), track("3", 0.8, 4.2), track("6", 0.4, 2.1)]
  }),
  pressure(
    "map-1bar",
    "Manifold pressure sensor, 1 bar absolute",
    "Air and throttle",
    "manifold",
    [10, 110],
    "absolute"
  ),
  pressure(
    "map-1bar-wide",
    "Manifold pressure sensor, 1 bar absolute, 0.25 to 4.75 V",
    "Air and throttle",
    "manifold",
    [10, 115],
    "absolute",
    [0.25, 4.75]
  ),
  pressure(
    "map-2bar",
    "Manifold pressure sensor, 2 bar absolute",
    "Air and throttle",
    "manifold",
    [20, 200],
    "absolute"
  ),
  pressure(
    "map-2-5bar",
    "Manifold pressure sensor, 2.5 bar absolute",
    "Air and throttle",
    "manifold",
    [20, 250],
    "absolute",
    [0.4, 4.65]
  ),
  pressure(
    "map-3bar",
    "Manifold pressure sensor, 3 bar absolute",
    "Air and throttle",
    "manifold",
    [20, 300],
    "absolute"
  ),
  pressure(
    "map-3bar-zero",
    "Manifold pressure sensor, 3 bar absolute, from zero",
    "Air and throttle",
    "manifold",
    [0, 315],
    "absolute",
    [0, 5]
  ),
  pressure(
    "map-4bar",
    "Manifold pressure sensor, 4 bar absolute",
    "Air and throttle",
    "manifold",
    [20, 400],
    "absolute"
  ),
  pressure(
    "map-5bar",
    "Manifold pressure sensor, 5 bar absolute",
    "Air and throttle",
    "manifold",
    [50, 500],
    "absolute"
  ),
  kind({
    ...pressure(
      "tmap-3bar",
      "Pressure and air temperature in one, 3 bar",
      "Air and throttle",
      "manifold",
      [20, 300],
      "absolute"
    ),
    note: "Four terminals: ratiometric pressure, and an NTC that shares its ground.",
    terminals: [
      t("1", "ground", sensorGround2()),
      t("2", "temperature", pin({ kind: "analog", pullUp: true })),
      t("3", "supply", five(9)),
      t("4", "pressure", analog2)
    ],
    internals: [divider("3", "1", "4", 0.3), resistor("2", "1", 2e3)],
    traits: [
      { type: "pressure", measures: "manifold", reference: "absolute" },
      sensor({
        terminal: "4",
        quantity: "pressure",
        signal: "volts",
        curve: linear([0.4, 20], [4.65, 300]),
        least: 20,
        most: 300
      }),
      sensor({
        terminal: "2",
        quantity: "temperature",
        signal: "ohms",
        curve: { method: "steinhart-hart", points: points([9100, -10], [2060, 25], [322, 80]) },
        least: -30,
        most: 120
      })
    ]
  }),
  ntc(
    "iat-ntc",
    "Intake air temperature, NTC",
    "Air and throttle",
    { method: "beta", ohms: 2500, celsius: 20, beta: 3450 },
    "NTC thermistor."
  ),
  ntc(
    "iat-ntc-fast",
    "Intake air temperature, open element",
    "Air and throttle",
    { method: "steinhart-hart", points: points([9420, 0], [2057, 40], [362, 90]) },
    "NTC thermistor in an open cage: follows fast."
  ),
  kind({
    id: "manifold-hose",
    name: "Hose to the ECU's own manifold sensor",
    system: "Air and throttle",
    note: "For an ECU with the sensor inside: 4 mm vacuum hose, rising to the ECU so that no fuel runs in, with a restrictor where the signal shakes. No wire.",
    terminals: [t("H", "hose", { to: "nothing" })],
    traits: [role("manifold-hose")]
  }),
  kind({
    id: "air-mass-volts",
    name: "Air mass meter, 0-5 V",
    system: "Air and throttle",
    note: "Own 12 V feed; its output curve is its own, table in hand or it is guesswork.",
    terminals: [t("1", "feed", feed("main", 0.5)), t("2", "ground", sensorGround2(1)), t("3", "signal", analog2)],
    internals: [resistor("1", "2", 60), resistor("3", "2", 1e4)],
    traits: [role("air-mass")]
  }),
  solenoid("boost-solenoid", "Boost solenoid, three-port", "PWM about 30 Hz, low side.", 0.6, 30, 24),
  solenoid("boost-solenoid-four", "Boost solenoid, four-port", "PWM about 20 Hz, low side.", 0.9, 20, 15),
  solenoid("cam-phaser", "Cam phaser oil valve", "PWM about 200 Hz; needs a flyback path.", 1.2, 200, 7.4),
  solenoid("runner-valve", "Intake runner solenoid", "On or off, low side.", 0.5, 0, 28),
  solenoid("idle-two-wire", "Idle valve, two wires", "PWM about 100 Hz against a spring.", 1.2, 100, 9.5),
  kind({
    id: "idle-three-wire",
    name: "Idle valve, three wires",
    system: "Air and throttle",
    note: "Two windings that pull against each other: two PWM outputs, one the inverse of the other.",
    terminals: [t("1", "close", lowSide2(1, 100)), t("2", "feed", feed("main", 1)), t("3", "open", lowSide2(1, 100))],
    internals: [resistor("1", "2", 13), resistor("3", "2", 13)]
  }),
  kind({
    id: "idle-stepper",
    name: "Idle stepper, four wires",
    system: "Air and throttle",
    note: "Two windings on the four outputs of one stepper driver. Find the windings by ohms before you pin it.",
    terminals: [
      t("A", "winding 1 +", pin({ kind: "stepper", phase: "a", side: "plus", amps: 0.5 }, "motor")),
      t("B", "winding 1 \u2013", pin({ kind: "stepper", phase: "a", side: "minus", amps: 0.5 }, "motor")),
      t("C", "winding 2 +", pin({ kind: "stepper", phase: "b", side: "plus", amps: 0.5 }, "motor")),
      t("D", "winding 2 \u2013", pin({ kind: "stepper", phase: "b", side: "minus", amps: 0.5 }, "motor"))
    ],
    internals: [resistor("A", "B", 52), resistor("C", "D", 52)]
  }),
  kind({
    id: "turbo-speed",
    name: "Turbocharger speed sensor",
    system: "Air and throttle",
    note: "One pulse a blade, divided by eight inside; 6 blades.",
    terminals: [
      t("1", "supply", five(12)),
      t("2", "ground", sensorGround2(1)),
      t("3", "signal", pin({ kind: "frequency", hz: 3e3 }))
    ],
    internals: [resistor("1", "2", 700)],
    traits: [
      sensor({
        terminal: "3",
        quantity: "shaft-speed",
        signal: "hertz",
        curve: linear([0, 0], [2500, 2e5]),
        least: 0,
        most: 2e5,
        faultAbove: 2800
      })
    ]
  }),
  kind({
    id: "wastegate-position",
    name: "Wastegate position sensor",
    system: "Air and throttle",
    note: "Ratiometric; its end stops are learnt on the engine.",
    terminals: [t("1", "supply", five(8)), t("2", "ground", sensorGround2()), t("3", "signal", analog2)],
    internals: [divider("1", "2", "3", 0.72)],
    traits: [
      sensor({
        terminal: "3",
        quantity: "position",
        signal: "volts",
        curve: table([0.6, 100], [1.5, 74], [2.5, 45], [3.3, 18], [3.9, 0]),
        least: 0,
        most: 100
      })
    ]
  })
];

// catalog/kinds/car.ts
var button = (id3, name3, note, system, traits = []) => kind({
  id: id3,
  name: name3,
  system,
  note,
  terminals: [t("1", "signal", pin({ kind: "switch" })), t("2", "ground", ground("chassis"))],
  internals: [resistor("1", "2", 1e8)],
  traits
});
var onCan = (id3, name3, note, amps2, kilobits, terminated) => kind({
  id: id3,
  name: name3,
  system: "Bus and dash",
  note,
  terminals: [
    t("1", "feed", feed("key", amps2)),
    t("2", "ground", ground("chassis")),
    t("3", "CAN H", pin({ kind: "can", side: "plus" }, "can")),
    t("4", "CAN L", pin({ kind: "can", side: "minus" }, "can"))
  ],
  internals: [resistor("1", "2", 15), ...terminated ? [resistor("3", "4", 120)] : []],
  traits: [{ type: "can", kilobits, terminated }],
  twisted: true
});
var withChannels = (module) => ({
  ...module,
  terminals: [
    ...module.terminals,
    ...[1, 2, 3, 4].map((n) => t(`A${n}`, `analog ${n}`, { to: "nothing" })),
    ...[1, 2, 3, 4].map((n) => t(`S${n}`, `switch ${n}`, { to: "nothing" })),
    ...[1, 2, 3, 4].map((n) => t(`O${n}`, `output ${n}`, { to: "nothing" }))
  ],
  traits: [
    ...module.traits,
    {
      type: "module",
      channels: [
        ...[1, 2, 3, 4].map((n) => ({ terminal: `A${n}`, kind: "analog" })),
        ...[1, 2, 3, 4].map((n) => ({ terminal: `S${n}`, kind: "switch" })),
        ...[1, 2, 3, 4].map((n) => ({ terminal: `O${n}`, kind: "low-side", maxAmps: 2 }))
      ]
    }
  ]
});
var relay = (id3, name3, suppressed) => kind({
  id: id3,
  name: name3,
  system: "Start and charge",
  note: suppressed ? "A diode across its winding: 86 to the supply, 85 to the driver, never the other way round (DIN 72552)." : "No diode: the driver must stand the kick of the winding. 85 and 86 either way round (DIN 72552).",
  terminals: [
    t("30", "supply", feed("permanent", 10)),
    t("87", "switched out", line("switched-1")),
    t("86", "winding, supply", feed("main", 0.15)),
    t("85", "winding, driver", lowSide2(0.2))
  ],
  internals: [resistor("85", "86", 90)],
  traits: [{ type: "relay-load", suppressed }]
});
var gauge = (id3, name3, note, drive, pulsesPerTurn) => kind({
  id: id3,
  name: name3,
  system: "Bus and dash",
  note,
  terminals: [
    t("1", "feed", feed("key", 0.2)),
    t("2", "ground", ground("chassis")),
    t("3", "signal", lowSide2(0.05, 300))
  ],
  internals: [resistor("1", "2", 120), resistor("1", "3", 1e4)],
  traits: [{ type: "tachometer", pulsesPerTurn, drive }, role("tachometer")]
});
var carKinds = [
  kind({
    id: "speedometer",
    name: "Speedometer, electric",
    system: "Bus and dash",
    note: "Counts pulses an output of the ECU gives: tell on the page Road speed how many it wants.",
    terminals: [
      t("1", "feed", feed("key", 0.1)),
      t("2", "ground", ground("chassis")),
      t("3", "signal", lowSide2(0.05, 1e3))
    ],
    internals: [resistor("1", "2", 130), resistor("1", "3", 1e4)],
    traits: [role("speedometer")]
  }),
  button("launch-button", "Launch button", "Closes to ground.", "Driver"),
  button("map-switch", "Map switch", "Closes to ground.", "Driver"),
  button("neutral-switch", "Neutral switch", "Interlock for starting. Wired, never bridged.", "Start and charge", [
    role("neutral-switch")
  ]),
  button("brake-switch", "Brake switch", "For drive-by-wire plausibility. Wired, never bridged.", "Driver", [
    role("brake-switch")
  ]),
  button("clutch-switch", "Clutch switch", "Interlock for starting. Wired, never bridged.", "Start and charge", [
    role("clutch-switch")
  ]),
  button(
    "kill-switch",
    "Kill switch, to ground",
    "Closes to ground to stop the engine, at the handlebar, the helm or outside the car. Wired, never bridged.",
    "Start and charge",
    [role("kill-switch")]
  ),
  button(
    "stand-switch",
    "Side stand switch",
    "Interlock for starting: closes to ground with the stand up. Wired, never bridged.",
    "Start and charge",
    [role("stand-switch")]
  ),
  button(
    "tilt-switch",
    "Tilt switch",
    "Closes to ground when the machine lies on its side, and stops pump and engine. Upright as marked. Wired, never bridged.",
    "Start and charge",
    [role("tilt-switch")]
  ),
  button(
    "start-button",
    "Start button",
    "Closes to ground; the ECU drives the starter relay only with the interlock met.",
    "Start and charge",
    [role("start-button")]
  ),
  kind({
    id: "reverse-switch",
    name: "Reverse switch on the gearbox",
    system: "Driver",
    note: "Feeds the reverse light from the key feed.",
    terminals: [t("1", "feed", feed("key", 4)), t("2", "light", line("reverse-light"))],
    internals: [resistor("1", "2", 1e8)],
    traits: [role("reverse-switch")]
  }),
  kind({
    id: "starter",
    name: "Starter solenoid",
    system: "Start and charge",
    note: "Terminal 50 by relay; the heavy cable is not part of this loom.",
    terminals: [t("50", "solenoid", feed("own", 8)), t("31", "body", mounted())],
    internals: [resistor("50", "31", 1.4)],
    traits: [role("starter")]
  }),
  kind({
    id: "alternator",
    name: "Alternator lamp terminal",
    system: "Start and charge",
    note: "Excited through the warning lamp or about 470 \u03A9 from the key feed.",
    terminals: [t("L", "lamp", feed("key", 0.2)), t("B-", "body", mounted())],
    internals: [resistor("L", "B-", 470)],
    traits: [role("alternator")]
  }),
  kind({
    id: "battery-switch",
    name: "Battery changeover switch, 1, 2, both",
    system: "Start and charge",
    note: "Its heavy cables are not part of this loom. Never turned through off with the engine running: the alternator would lose its battery, and the ECU what holds its volts.",
    terminals: [t("F", "field contact, unused", { to: "nothing" })]
  }),
  relay("relay-plain", "Relay, four terminals, no diode", false),
  relay("relay-diode", "Relay, four terminals, with diode", true),
  kind({
    id: "steering-pump",
    name: "Electric steering pump, enable line",
    system: "Start and charge",
    note: "Its heavy feed is a cable of its own; the loom gives it the key feed and an enable to ground.",
    terminals: [t("1", "key", feed("key", 0.5)), t("2", "enable", lowSide2(0.1)), t("3", "ground", ground("chassis"))],
    internals: [resistor("1", "3", 500)]
  }),
  gauge("tachometer", "Tachometer, driven to ground", "Pull-up inside the gauge. Two pulses a turn.", "low-side", 2),
  gauge("tachometer-logic", "Tachometer, 5 V logic", "Wants a clean 5 V square wave.", "logic", 2),
  kind({
    id: "warning-lamp",
    name: "Warning lamp, 1.2 W",
    system: "Bus and dash",
    note: "Fed by the key, taken to ground by the ECU. Cold it measures a tenth of what it is when it is lit.",
    terminals: [t("1", "feed", feed("key", 0.1)), t("2", "switched", lowSide2(0.15))],
    internals: [resistor("1", "2", 12)],
    traits: [role("lamp")]
  }),
  kind({
    id: "shift-light",
    name: "Shift light, LED",
    system: "Bus and dash",
    note: "Fed by the key, taken to ground by the ECU.",
    terminals: [t("1", "feed", feed("key", 0.02)), t("2", "switched", lowSide2(0.05))],
    internals: [resistor("1", "2", 680)]
  }),
  withChannels(
    onCan(
      "can-io-module",
      "CAN input and output module",
      "Takes slow signals for an ECU that has run out of pins: eight inputs, four on/off outputs. Own feed and ground.",
      6,
      500,
      false
    )
  ),
  onCan(
    "can-dash",
    "Dash on CAN, 500 kbit/s",
    "Twisted pair; this dash carries one of the two 120 \u03A9 terminations.",
    1,
    500,
    true
  ),
  onCan(
    "can-dash-fast",
    "Dash on CAN, 1 Mbit/s",
    "Twisted pair; carries one of the two 120 \u03A9 terminations.",
    1,
    1e3,
    true
  ),
  onCan(
    "can-io",
    "Input and output box on CAN",
    "More inputs where pins run out; no termination inside.",
    1,
    500,
    false
  ),
  onCan("can-logger", "Logger on CAN", "Listens only; no termination inside.", 0.3, 500, false),
  onCan("can-keypad", "Keypad on CAN", "Buttons over the bus; no termination inside.", 0.2, 500, false)
];

// catalog/kinds/engine.ts
var fan = (id3, name3, amps2, ohms2) => kind({
  id: id3,
  name: name3,
  system: "Cooling",
  note: "Own relay and fuse for each fan.",
  terminals: [t("1", "feed", feed("own", amps2)), t("2", "ground", ground("chassis"))],
  internals: [resistor("1", "2", ohms2)],
  traits: [role("fan")],
  twinRisk: true
});
var knock2 = (id3, name3, note, terminals) => kind({
  id: id3,
  name: name3,
  system: "Oil and knock",
  note,
  terminals,
  internals: terminals.length > 1 ? [resistor("1", "2", 1e6)] : [],
  traits: [role("knock")],
  shielded: true,
  twisted: terminals.length > 1
});
var curve = (...pairs) => ({ method: "steinhart-hart", points: points(...pairs) });
var engineKinds = [
  ntc(
    "clt-ntc",
    "Coolant temperature, NTC",
    "Cooling",
    { method: "beta", ohms: 2500, celsius: 20, beta: 3450 },
    "NTC thermistor."
  ),
  ntc(
    "clt-ntc-10k",
    "Coolant temperature, NTC of 10 k\u03A9",
    "Cooling",
    curve([28400, 0], [8660, 25], [812, 90]),
    "NTC thermistor."
  ),
  ntc(
    "clt-ntc-3k",
    "Coolant temperature, NTC of 3 k\u03A9",
    "Cooling",
    curve([9850, -10], [2980, 20], [205, 95]),
    "NTC thermistor."
  ),
  ntc(
    "clt-ntc-5k",
    "Coolant temperature, NTC of 5 k\u03A9",
    "Cooling",
    curve([15080, 0], [4520, 25], [310, 100]),
    "NTC thermistor."
  ),
  fan("fan", "Radiator fan, 16 A", 16, 0.8),
  fan("fan-large", "Radiator fan, 25 A", 25, 0.5),
  kind({
    id: "water-pump",
    name: "Electric water pump, 8 A",
    system: "Cooling",
    note: "Own relay; runs on after the engine stops, so give it a feed that stays.",
    terminals: [t("1", "feed", feed("own", 8)), t("2", "ground", ground("chassis"))],
    internals: [resistor("1", "2", 1.6)]
  }),
  pressure("oil-pressure", "Oil pressure sensor, 10 bar", "Oil and knock", "oil", [0, 1e3], "gauge"),
  pressure("oil-pressure-7bar", "Oil pressure sensor, 7 bar", "Oil and knock", "oil", [0, 700], "gauge"),
  pressure("crankcase-pressure", "Crankcase pressure sensor, 1 bar", "Oil and knock", "other", [20, 120], "absolute"),
  ntc(
    "oil-temperature",
    "Oil temperature, NTC",
    "Oil and knock",
    curve([4520, 0], [780, 40], [58, 120]),
    "NTC thermistor.",
    [-10, 160]
  ),
  kind({
    id: "oil-switch",
    name: "Oil pressure switch, one terminal",
    system: "Oil and knock",
    note: "Closes to the engine without pressure: lights the lamp. Its body is its ground: no thread tape.",
    terminals: [t("1", "lamp", line("oil-lamp")), t("B", "body", mounted())],
    internals: [resistor("1", "B", 0.5)],
    traits: [role("oil-switch")]
  }),
  kind({
    id: "gauge-sender-temperature",
    name: "Gauge sender, temperature, one terminal",
    system: "Oil and knock",
    note: "For the dash gauge alone. The ECU has its own sensor.",
    terminals: [t("1", "gauge", line("temperature-gauge")), t("B", "body", mounted())],
    internals: [resistor("1", "B", 500)],
    traits: [role("gauge-sender")]
  }),
  kind({
    id: "gauge-sender-oil",
    name: "Gauge sender, oil pressure, one terminal",
    system: "Oil and knock",
    note: "For the dash gauge alone.",
    terminals: [t("1", "gauge", line("oil-gauge")), t("B", "body", mounted())],
    internals: [resistor("1", "B", 10)],
    traits: [role("gauge-sender")]
  }),
  knock2("knock", "Knock sensor, flat response", "Shielded; bolt torque matters.", [
    t("1", "signal", pin({ kind: "knock" })),
    t("2", "return", sensorGround2())
  ]),
  knock2(
    "knock-one-wire",
    "Knock sensor, tuned, one wire",
    "Tuned to one bore; its body is its return. Shield earthed at the ECU.",
    [t("1", "signal", pin({ kind: "knock" }))]
  ),
  kind({
    id: "wideband-volts",
    name: "Wideband controller, 0-5 V output",
    system: "Exhaust",
    note: "Heater feed switched, heater ground to the power ground, signal ground to the ECU.",
    terminals: [
      t("1", "feed", feed("main", 2)),
      t("2", "heater ground", ground("head")),
      t("3", "signal", analog2),
      t("4", "signal ground", sensorGround2(1))
    ],
    internals: [resistor("1", "2", 60), resistor("3", "4", 100)],
    traits: [
      { type: "wideband", route: "volts" },
      sensor({
        terminal: "3",
        quantity: "mixture",
        signal: "volts",
        curve: linear([0, 0.68], [5, 1.36]),
        least: 0.68,
        most: 1.36,
        ratiometric: false,
        faultBelow: null,
        faultAbove: null
      })
    ]
  }),
  kind({
    id: "wideband-can",
    name: "Wideband controller on CAN",
    system: "Exhaust",
    note: "No signal wire: heater feed switched, heater ground to the power ground, mixture over the bus.",
    terminals: [
      t("1", "feed", feed("main", 2)),
      t("2", "heater ground", ground("head")),
      t("3", "CAN H", pin({ kind: "can", side: "plus" }, "can")),
      t("4", "CAN L", pin({ kind: "can", side: "minus" }, "can"))
    ],
    internals: [resistor("1", "2", 60)],
    traits: [
      { type: "wideband", route: "can" },
      { type: "can", kilobits: 500, terminated: false }
    ],
    twisted: true
  }),
  kind({
    id: "wideband-cell",
    name: "Wideband sensor straight into the ECU",
    system: "Exhaust",
    note: "Pump cell, reference cell, trim and heater: for an ECU that has a wideband controller inside.",
    terminals: [
      t("1", "heater feed", feed("main", 2)),
      t("2", "heater switched", lowSide2(3, 100)),
      t("3", "pump cell", pin({ kind: "wideband", cell: "pump" }, "cell")),
      t("4", "reference cell", pin({ kind: "wideband", cell: "reference" }, "cell")),
      t("5", "cell ground", pin({ kind: "wideband", cell: "ground" }, "cell"))
    ],
    internals: [resistor("1", "2", 3.4)],
    traits: [{ type: "wideband", route: "cell" }]
  }),
  kind({
    id: "narrow-band",
    name: "Narrow-band oxygen sensor, four wires",
    system: "Exhaust",
    note: "Tells rich from lean near lambda 1 only. Bank 1 and bank 2 plugs fit each other.",
    terminals: [
      t("1", "heater feed", feed("main", 1)),
      t("2", "heater ground", ground("head")),
      t("3", "signal", analog2),
      t("4", "signal ground", sensorGround2(1))
    ],
    internals: [resistor("1", "2", 9)],
    traits: [
      sensor({
        terminal: "3",
        quantity: "mixture",
        signal: "volts",
        curve: table([0.05, 1.06], [0.12, 1.02], [0.45, 1], [0.78, 0.98], [0.88, 0.94]),
        least: 0.94,
        most: 1.06,
        ratiometric: false,
        faultBelow: null,
        faultAbove: 1.1
      })
    ],
    twinRisk: true
  }),
  kind({
    id: "egt-k",
    name: "Exhaust thermocouple, type K, bare pair",
    system: "Exhaust",
    note: "Type K wire and terminals all the way: copper in the lead makes it read low.",
    terminals: [
      t("+", "positive", pin({ kind: "thermocouple", side: "plus" }, "k")),
      t("-", "negative", pin({ kind: "thermocouple", side: "minus" }, "k"))
    ],
    internals: [resistor("+", "-", 3)],
    traits: [
      role("thermocouple"),
      sensor({
        terminal: "+",
        quantity: "temperature",
        signal: "millivolts",
        curve: { method: "type-k" },
        least: 0,
        most: 1100,
        ratiometric: false
      })
    ],
    twisted: true,
    twinRisk: true
  }),
  kind({
    id: "egt-amplifier",
    name: "Exhaust thermocouple with amplifier, 0-5 V",
    system: "Exhaust",
    note: "The box compensates the cold junction; keep it out of the heat.",
    terminals: [t("1", "supply", five(10, 1)), t("2", "ground", sensorGround2(1)), t("3", "signal", analog2)],
    internals: [resistor("1", "2", 600), resistor("3", "2", 1e4)],
    traits: [
      sensor({
        terminal: "3",
        quantity: "temperature",
        signal: "volts",
        curve: linear([0, 0], [5, 1250]),
        least: 0,
        most: 1250,
        ratiometric: false,
        faultBelow: null,
        faultAbove: 4.9
      })
    ]
  }),
  pressure(
    "exhaust-pressure",
    "Exhaust back pressure sensor, 5 bar absolute",
    "Exhaust",
    "other",
    [50, 500],
    "absolute"
  ),
  kind({
    id: "speed-hall",
    name: "Speed sensor, Hall",
    system: "Driver",
    note: "Pulses per kilometre follow the shaft it sits on.",
    terminals: [
      t("1", "supply", feed("main", 0.05)),
      t("2", "ground", sensorGround2(1)),
      t("3", "signal", pin({ kind: "frequency", hz: 1e3 }))
    ],
    internals: [resistor("1", "2", 800)],
    traits: [
      role("speed"),
      sensor({
        terminal: "3",
        quantity: "road-speed",
        signal: "hertz",
        curve: linear([0, 0], [400, 300]),
        least: 0,
        most: 300,
        faultAbove: 900
      })
    ]
  }),
  kind({
    id: "speed-vr",
    name: "Wheel speed sensor, VR",
    system: "Driver",
    note: "A VR pair: only an input with a conditioner counts it.",
    terminals: [
      t("1", "signal +", pin({ kind: "vr", side: "plus" }, "vr")),
      t("2", "signal \u2013", pin({ kind: "vr", side: "minus" }, "vr"))
    ],
    internals: [resistor("1", "2", 1100)],
    traits: [role("speed")],
    shielded: true,
    twisted: true
  }),
  kind({
    id: "brake-pressure",
    name: "Brake pressure sensor, 200 bar",
    system: "Driver",
    note: "Ratiometric, 0.5 to 4.5 V. Teed into the brake line by a licensed hand.",
    terminals: [t("1", "supply", five(8)), t("2", "ground", sensorGround2()), t("3", "signal", analog2)],
    internals: [],
    traits: [
      { type: "pressure", measures: "other", reference: "gauge" },
      sensor({
        terminal: "3",
        quantity: "pressure",
        signal: "volts",
        curve: linear([0.5, 0], [4.5, 2e4]),
        least: 0,
        most: 2e4
      })
    ]
  }),
  kind({
    id: "gearbox-temperature",
    sits: "gearbox",
    name: "Gearbox oil temperature, NTC",
    system: "Driver",
    note: "NTC thermistor; needs a pull-up; no polarity.",
    terminals: [t("1", "signal", pulledUp), t("2", "return", sensorGround2())],
    internals: [resistor("1", "2", 1500)],
    traits: [
      sensor({
        terminal: "1",
        quantity: "temperature",
        signal: "ohms",
        curve: curve([4520, 0], [780, 40], [58, 120]),
        least: -10,
        most: 150
      })
    ]
  })
];

// catalog/kinds/fuel.ts
function injector2(id3, name3, note, ohms2, flowCcPerMinute, dead) {
  return kind({
    id: id3,
    name: name3,
    system: "Fuel",
    note,
    terminals: [
      t("1", "feed", feed("injectors", ohms2 > 8 ? 1 : 2)),
      t("2", "switched", pin({ kind: "injector", amps: ohms2 > 8 ? 1.1 : 2 }))
    ],
    internals: [resistor("1", "2", ohms2)],
    traits: [{ type: "injector", ohms: ohms2, flowCcPerMinute, atKpa: 300, dead: volts(...dead) }],
    perCylinder: true,
    twinRisk: true
  });
}
var saturated = "Saturated driver; feed and switched negative, no polarity.";
var fuelKinds = [
  injector2("injector-high", "Injector, high impedance", saturated, 12.5, 640, [
    [8, 2.42],
    [10, 1.68],
    [12, 1.19],
    [13.5, 0.95],
    [15, 0.78]
  ]),
  injector2("injector-high-small", "Injector, high impedance, 240 cc", saturated, 14.5, 240, [
    [8, 2.1],
    [10, 1.45],
    [12, 1.02],
    [13.5, 0.82],
    [15, 0.68]
  ]),
  injector2("injector-high-large", "Injector, high impedance, 1000 cc", saturated, 12, 1e3, [
    [8, 2.75],
    [10, 1.92],
    [12, 1.34],
    [13.5, 1.06],
    [15, 0.87]
  ]),
  injector2(
    "injector-low",
    "Injector, low impedance",
    "Needs a peak-and-hold driver or a ballast resistor.",
    2.4,
    1050,
    []
  ),
  injector2(
    "injector-low-known",
    "Injector, low impedance, 720 cc",
    "Needs a peak-and-hold driver or a ballast resistor.",
    3.1,
    720,
    [
      [8, 1.6],
      [10, 1.12],
      [12, 0.82],
      [13.5, 0.66],
      [15, 0.55]
    ]
  ),
  kind({
    id: "fuel-pump",
    name: "Fuel pump, 12 A",
    system: "Fuel",
    note: "Own relay, driven by the ECU so that it stops with the engine.",
    terminals: [t("1", "feed", feed("pump", 12)), t("2", "ground", ground("chassis"))],
    internals: [resistor("1", "2", 1.1)],
    traits: [role("pump")]
  }),
  kind({
    id: "fuel-pump-lift",
    name: "Lift pump, 4 A",
    system: "Fuel",
    note: "Fills a swirl pot; on the pump feed, so that it stops with the engine.",
    terminals: [t("1", "feed", feed("pump", 4)), t("2", "ground", ground("chassis"))],
    internals: [resistor("1", "2", 3)],
    traits: [role("pump")]
  }),
  pressure("fuel-pressure", "Fuel pressure sensor, 10 bar", "Fuel", "fuel", [0, 1e3], "gauge"),
  pressure("fuel-pressure-7bar", "Fuel pressure sensor, 7 bar", "Fuel", "fuel", [0, 700], "gauge"),
  ntc(
    "fuel-temperature",
    "Fuel temperature, NTC",
    "Fuel",
    { method: "steinhart-hart", points: points([9400, -10], [1180, 40], [332, 80]) },
    "NTC in the rail or return.",
    [-20, 90]
  ),
  kind({
    id: "flex-fuel",
    name: "Fuel composition sensor",
    system: "Fuel",
    note: "50 to 150 Hz for 0 to 100 % ethanol; pulse width tells the temperature.",
    terminals: [
      t("1", "supply", feed("main", 0.1)),
      t("2", "ground", sensorGround2()),
      t("3", "signal", pin({ kind: "frequency", hz: 200 }))
    ],
    internals: [resistor("1", "2", 180)],
    traits: [
      sensor({
        terminal: "3",
        quantity: "ethanol",
        signal: "hertz",
        curve: linear([50, 0], [150, 100]),
        least: 0,
        most: 100,
        faultBelow: 45,
        faultAbove: 155
      })
    ]
  }),
  kind({
    id: "purge-valve",
    name: "Canister purge valve",
    system: "Fuel",
    note: "PWM about 15 Hz, low side.",
    terminals: [t("1", "feed", feed("main", 0.5)), t("2", "switched", lowSide2(0.6, 15))],
    internals: [resistor("1", "2", 26)]
  }),
  kind({
    id: "fuel-level",
    name: "Fuel level sender",
    system: "Fuel",
    note: "A float on a resistor: few ohms full, about a hundred empty. For a gauge or a pulled-up input, never for both.",
    terminals: [t("1", "signal", pin({ kind: "analog", pullUp: true })), t("2", "ground", sensorGround2(1))],
    internals: [resistor("1", "2", 60)],
    traits: [
      sensor({
        terminal: "1",
        quantity: "level",
        signal: "ohms",
        curve: linear([110, 0], [8, 100]),
        least: 0,
        most: 100,
        faultBelow: 5e-3
      })
    ]
  })
];

// core/devices/spark-line.ts
var NAME = /^spark-(\d+)$/;
var sparkLine = (channel) => `spark-${channel}`;
var sparkChannel = (line3) => {
  const found2 = NAME.exec(line3)?.[1];
  return found2 === void 0 ? null : Number(found2);
};

// catalog/kinds/ignition.ts
var dwell = volts([8, 6.4], [10, 4.5], [12, 3.5], [13.5, 3], [15, 2.6]);
function igniter(channels) {
  const numbers = Array.from({ length: channels }, (_, i) => i + 1);
  const terminals = [
    t("S", "supply", feed("coils", 0.1)),
    t("G", "ground", ground("head")),
    ...numbers.map((n) => t(`I${n}`, `logic in ${n}`, pin({ kind: "ignition-logic" }))),
    ...numbers.map((n) => t(`O${n}`, `coil out ${n}`, line(sparkLine(n))))
  ];
  return kind({
    id: `igniter-${channels}`,
    name: channels === 1 ? "Igniter module, one channel" : `Igniter module, ${channels} channels`,
    system: "Ignition",
    note: "Switches coils that have no igniter. Its ground carries the whole primary current: to the engine block, short and alone.",
    terminals,
    internals: [resistor("S", "G", 2200), ...numbers.map((n) => resistor(`I${n}`, "G", 5600))],
    traits: [
      {
        type: "igniter",
        channels: numbers.map((n) => ({ input: `I${n}`, output: `O${n}` })),
        maxAmps: 10
      }
    ]
  });
}
var ignitionKinds = [
  kind({
    id: "coil-igniter",
    name: "Coil with igniter, four terminals",
    system: "Ignition",
    note: "Logic trigger. Both grounds to the engine, never to the sensor ground.",
    terminals: [
      t("A", "feed", feed("coils", 2)),
      t("B", "power ground", ground("head")),
      t("C", "logic trigger", pin({ kind: "ignition-logic" })),
      t("D", "secondary ground", ground("head"))
    ],
    internals: [resistor("A", "B", 4700), resistor("C", "B", 5600)],
    traits: [{ type: "coil", igniter: true, primaryOhms: 0.55, inductanceMillihenry: 3.2, dwell, serves: 1 }],
    perCylinder: true,
    twinRisk: true
  }),
  kind({
    id: "coil-igniter-3",
    name: "Coil with igniter, three terminals",
    system: "Ignition",
    note: "Feed, ground, logic trigger. The one ground carries primary and secondary current.",
    terminals: [
      t("1", "logic trigger", pin({ kind: "ignition-logic" })),
      t("2", "ground", ground("head")),
      t("3", "feed", feed("coils", 2))
    ],
    internals: [resistor("3", "2", 4700), resistor("1", "2", 5600)],
    traits: [
      {
        type: "coil",
        igniter: true,
        primaryOhms: 0.6,
        inductanceMillihenry: 2.6,
        dwell: volts([8, 5], [10, 3.6], [12, 2.8], [13.5, 2.4], [15, 2.1]),
        serves: 1
      }
    ],
    perCylinder: true,
    twinRisk: true
  }),
  kind({
    id: "coil-bare",
    name: "Coil without igniter, two terminals",
    system: "Ignition",
    note: "Its primary current goes through the driver: in the ECU or in an igniter module.",
    terminals: [t("1", "switched", pin({ kind: "ignition-driver", amps: 7 })), t("2", "feed", feed("coils", 2.5))],
    internals: [resistor("1", "2", 0.6)],
    traits: [
      {
        type: "coil",
        igniter: false,
        primaryOhms: 0.6,
        inductanceMillihenry: 3.6,
        dwell: volts([8, 7], [10, 4.9], [12, 3.8], [13.5, 3.2], [15, 2.8]),
        serves: 1
      }
    ],
    perCylinder: true,
    twinRisk: true
  }),
  kind({
    id: "coil-wasted-bare",
    name: "Wasted-spark coil, two towers, no igniter",
    system: "Ignition",
    note: "Fires two cylinders 360\xB0 apart, one of them into its exhaust: name both on it.",
    terminals: [t("1", "switched", pin({ kind: "ignition-driver", amps: 8 })), t("2", "feed", feed("coils", 3))],
    internals: [resistor("1", "2", 0.5)],
    traits: [
      {
        type: "coil",
        igniter: false,
        primaryOhms: 0.5,
        inductanceMillihenry: 3.4,
        dwell: volts([8, 6.2], [10, 4.4], [12, 3.4], [13.5, 2.9], [15, 2.5]),
        serves: 2
      }
    ],
    perCylinder: true,
    twinRisk: true
  }),
  kind({
    id: "coil-wasted-igniter",
    name: "Wasted-spark coil, two towers, with igniter",
    system: "Ignition",
    note: "Fires two cylinders 360\xB0 apart by a logic trigger, one of them into its exhaust: name both on it.",
    terminals: [
      t("1", "logic trigger", pin({ kind: "ignition-logic" })),
      t("2", "ground", ground("head")),
      t("3", "feed", feed("coils", 3))
    ],
    internals: [resistor("3", "2", 4700), resistor("1", "2", 5600)],
    traits: [{ type: "coil", igniter: true, primaryOhms: 0.5, inductanceMillihenry: 3, dwell, serves: 2 }],
    perCylinder: true,
    twinRisk: true
  }),
  kind({
    id: "coil-distributor",
    name: "Coil for a distributor, no igniter",
    system: "Ignition",
    note: "One coil for every cylinder: dwell must fit between all firings.",
    terminals: [t("1", "switched", pin({ kind: "ignition-driver", amps: 7 })), t("15", "feed", feed("coils", 4))],
    internals: [resistor("1", "15", 0.7)],
    traits: [
      {
        type: "coil",
        igniter: false,
        primaryOhms: 0.7,
        inductanceMillihenry: 5.2,
        dwell: volts([8, 8], [10, 6], [12, 4.6], [13.5, 4], [15, 3.5]),
        serves: 4
      }
    ]
  }),
  igniter(1),
  igniter(2),
  igniter(3),
  igniter(4),
  igniter(6),
  igniter(8)
];

// catalog/kinds/trigger.ts
var square = (id3, name3, shaft, supply, note) => kind({
  id: id3,
  name: name3,
  system: "Trigger",
  note,
  terminals: [
    t("1", "supply", supply === "5 V" ? five(15) : feed("main", 0.03)),
    t("2", "ground", sensorGround2()),
    t("3", "signal", pin({ kind: "hall" }))
  ],
  internals: [resistor("1", "2", supply === "5 V" ? 600 : 1500)],
  traits: [{ type: "trigger", shaft, sensor: "hall" }],
  shielded: true
});
var variableReluctance = (id3, name3, shaft, ohms2) => kind({
  id: id3,
  name: name3,
  system: "Trigger",
  note: "No supply; amplitude grows with speed; polarity matters. Twisted pair in a shield earthed at the ECU.",
  terminals: [
    t("1", "signal +", pin({ kind: "vr", side: "plus" }, "vr")),
    t("2", "signal \u2013", pin({ kind: "vr", side: "minus" }, "vr"))
  ],
  internals: [resistor("1", "2", ohms2)],
  traits: [{ type: "trigger", shaft, sensor: "vr" }],
  shielded: true,
  twisted: true
});
var triggerKinds = [
  variableReluctance("crank-vr", "Crank sensor, VR two-wire", "crank", 860),
  square(
    "crank-hall",
    "Crank sensor, Hall three-wire",
    "crank",
    "5 V",
    "Open collector: pulls down only, needs a pull-up. Terminal order varies between variants."
  ),
  square(
    "crank-hall-12v",
    "Crank sensor, Hall on 12 V",
    "crank",
    "12 V",
    "Supply 12 V, output open collector: pull it up to 5 V at the ECU, never to 12 V."
  ),
  square(
    "crank-mr",
    "Crank sensor, magneto-resistive",
    "crank",
    "5 V",
    "Reads a magnet ring; square output down to standstill. Some count both directions: check the pulse width."
  ),
  square("cam-hall", "Cam sensor, Hall three-wire", "cam", "5 V", "Open collector: pulls down only, needs a pull-up."),
  variableReluctance("cam-vr", "Cam sensor, VR two-wire", "cam", 620),
  square(
    "cam-hall-12v",
    "Cam sensor, Hall on 12 V",
    "cam",
    "12 V",
    "Supply 12 V, output open collector: pull it up to 5 V at the ECU, never to 12 V."
  ),
  kind({
    id: "cam-phaser-plug",
    name: "Cam sensor and phaser in one plug",
    system: "Trigger",
    note: "Five terminals: a Hall sensor, and the oil valve of the cam phaser.",
    terminals: [
      t("1", "supply", five(15)),
      t("2", "ground", sensorGround2()),
      t("3", "signal", pin({ kind: "hall" })),
      t("4", "valve feed", feed("main", 0.8)),
      t("5", "valve switched", pin({ kind: "low-side", amps: 1.2, hz: 200 }))
    ],
    internals: [resistor("1", "2", 600), resistor("4", "5", 7.4)],
    traits: [{ type: "trigger", shaft: "cam", sensor: "hall" }],
    shielded: true
  }),
  kind({
    id: "distributor-optical",
    name: "Optical distributor, two tracks",
    system: "Trigger",
    note: "Slotted disc: a fine track for angle, a coarse one by cylinder. Both outputs need pull-ups.",
    terminals: [
      t("1", "supply", feed("main", 0.08)),
      t("2", "ground", sensorGround2()),
      t("3", "fine track", pin({ kind: "hall" })),
      t("4", "cylinder track", pin({ kind: "hall" }))
    ],
    internals: [resistor("1", "2", 900)],
    traits: [{ type: "trigger", shaft: "crank", sensor: "hall" }],
    shielded: true
  }),
  kind({
    id: "distributor-hall",
    name: "Distributor, Hall vane",
    system: "Trigger",
    note: "One vane a cylinder; turns at half speed. Supply 12 V, output open collector.",
    terminals: [
      t("1", "supply", feed("main", 0.03)),
      t("2", "ground", sensorGround2()),
      t("3", "signal", pin({ kind: "hall" }))
    ],
    internals: [resistor("1", "2", 1500)],
    traits: [{ type: "trigger", shaft: "crank", sensor: "hall" }]
  })
];

// catalog/kinds.ts
var kinds = [
  ...triggerKinds,
  ...fuelKinds,
  ...ignitionKinds,
  ...airKinds,
  ...engineKinds,
  ...carKinds
];

// core/wheels/wheel.ts
import { z as z3 } from "zod";

// core/ecu/ecu.ts
import { z as z2 } from "zod";

// core/ecu/terminal.ts
import { z } from "zod";
var MOST_CRIMPS = 12;
var terminalNotesSchema = z.object({
  name: z.string().max(60),
  /** Bare end, mm; null: not known. */
  stripMillimetres: z.number().positive().max(30).nullable(),
  tool: z.string().max(80),
  /** Height of the crimp over the conductor, by wire size. */
  crimps: z.array(
    z.object({
      squareMm: z.number().positive().max(95),
      heightMillimetres: z.number().positive().max(20)
    })
  ).max(MOST_CRIMPS).superRefine((rows, context) => {
    rows.forEach(({ squareMm }, index) => {
      if (rows.findIndex((one2) => one2.squareMm === squareMm) < index)
        context.addIssue({ code: "custom", path: [index, "squareMm"], message: "is listed twice" });
    });
  })
});
var isBare = ({ name: name3, stripMillimetres, tool, crimps }) => name3 === "" && stripMillimetres === null && tool === "" && crimps.length === 0;

// core/ecu/ecu.ts
var abilityKinds = [
  "injector",
  "ignition-logic",
  "ignition-driver",
  "low-side",
  "high-side",
  "half-bridge",
  "stepper",
  "analog",
  "switch",
  "frequency",
  "vr",
  "hall",
  "knock",
  "wideband",
  "thermocouple",
  "can",
  "supply-5v",
  "supply-out",
  "sensor-ground",
  "power-ground",
  "shield",
  "permanent",
  "switched",
  "main-relay"
];
var pairedKinds = /* @__PURE__ */ new Set([
  "half-bridge",
  "stepper",
  "vr",
  "wideband",
  "thermocouple",
  "can"
]);
var abilitySchema = z2.object({
  kind: z2.enum(abilityKinds),
  /** Number printed on the maker's label for injector and ignition outputs. */
  output: z2.int().min(1).max(24).optional(),
  /** Continuous current the pin stands, amperes. */
  maxAmps: z2.number().positive().max(60).optional(),
  /** Highest switching or counting frequency, hertz; 0 is on/off only. */
  maxHz: z2.number().min(0).max(1e5).optional(),
  /** Lowest load resistance an injector driver stands, ohms. */
  minOhms: z2.number().positive().max(100).optional(),
  /** How an injector driver works; absent: saturated. */
  drive: z2.enum(["saturated", "peak-hold"]).optional(),
  /** Holding current of a peak-and-hold driver, amperes; `maxAmps` is the peak. */
  holdAmps: z2.number().positive().max(20).optional(),
  /** A diode within the ECU leads from the pin to its switched supply and catches the load's kick; absent: it clamps by itself. */
  catches: z2.boolean().optional(),
  /** Level of a logic output, or of a supply out other than 5 V, volts. */
  volts: z2.number().positive().max(60).optional(),
  /** Range of an analog input, volts. */
  fromVolts: z2.number().min(-60).max(60).optional(),
  toVolts: z2.number().min(-60).max(60).optional(),
  /** Where a frequency or trigger input switches, volts. */
  thresholdVolts: z2.number().min(0).max(20).optional(),
  /** Pull-up to 5 V inside the ECU, ohms. */
  pullUpOhms: z2.number().positive().max(1e6).optional(),
  /** True when the pull-up can be turned off. */
  pullUpSwitchable: z2.boolean().optional(),
  /** Name of the pair or set (VR, CAN, half-bridge, stepper, wideband cell) whose member this is. */
  pair: z2.string().min(1).max(20).optional(),
  side: z2.enum(["plus", "minus"]).optional(),
  /** Which wire of a wideband cell this is. */
  cell: z2.enum(["pump", "reference", "ground"]).optional(),
  /** Winding of a stepper output. */
  phase: z2.enum(["a", "b"]).optional()
});
var pinIdShape = /^[A-Z](?:[A-Z0-9]{0,2}[A-Z]?[0-9]{1,3}|[A-Z0-9]{0,3}-[0-9]{1,3})$/;
var pinSchema = z2.object({
  id: z2.string().regex(pinIdShape, "must be a connector and a cavity number, such as A13 or J1-4"),
  connector: z2.string().regex(/^[A-Z][A-Z0-9]{0,3}$/, "must be a capital letter, with up to three more letters or digits"),
  cavity: z2.int().min(1).max(400),
  label: z2.string().min(1).max(40),
  abilities: z2.array(abilitySchema).min(1).max(8),
  /** Wire that comes with the ECU where it has a loom of its own: colour letters, and its size. */
  lead: z2.object({ colour: z2.string().min(2).max(12), squareMm: z2.number().positive().max(16).optional() }).optional()
});
var pinIdOf = (connector, cavity) => `${connector}${/[0-9]$/.test(connector) ? "-" : ""}${cavity}`;
var numberingSchema = z2.object({
  /** Corner of the first cavity, seen from the wire side. */
  from: z2.enum(["top-left", "top-right", "bottom-left", "bottom-right"]),
  along: z2.enum(["rows", "columns"]),
  /** Every second row or column runs back. */
  turning: z2.boolean()
});
var connectorSchema = z2.object({
  id: z2.string().regex(/^[A-Z][A-Z0-9]{0,3}$/, "a connector is up to four capital letters and digits, a letter first"),
  /** The person's own words for it: 'grey, toward the firewall'. */
  name: z2.string().max(60).optional(),
  /** Cavities per row, from the top, seen from the wire side. */
  rows: z2.array(z2.int().min(1).max(60)).min(1).max(10),
  /** Absent: rows from the top left. */
  numbering: numberingSchema.optional(),
  /** Number of its first cavity; absent: 1. */
  first: z2.int().min(1).max(400).optional(),
  /** Every second row stands half a cavity to the right. */
  staggered: z2.boolean().optional(),
  /** Largest bare wire its terminals take, square millimetres. */
  maxSquareMm: z2.number().positive().max(16),
  /** Cavities with larger terminals. */
  large: z2.object({ cavities: z2.array(z2.int().min(1)).max(60), maxSquareMm: z2.number().positive().max(50) }).optional(),
  /** Ribs and notches of the housing: edge, and place along it from 0 to 1, seen from the wire side. */
  keys: z2.array(z2.object({ edge: z2.enum(["top", "bottom", "left", "right"]), at: z2.number().min(0).max(1) })).max(8).optional(),
  sealed: z2.boolean(),
  /** Its terminal, as far as the person has its data. */
  terminal: terminalNotesSchema.optional()
});
var pinList = z2.array(z2.string().max(8)).min(1).max(100);
var groupSchema = z2.discriminatedUnion("type", [
  /** One timer: all that pulse on these pins pulse at one frequency. */
  z2.object({ type: z2.literal("timer"), name: z2.string().min(1).max(40), pins: pinList }),
  /** Together at most so many amperes. */
  z2.object({
    type: z2.literal("budget"),
    name: z2.string().min(1).max(40),
    pins: pinList,
    amps: z2.number().positive().max(200)
  }),
  /** Either this or that: pins of one side only may be used. */
  z2.object({ type: z2.literal("either"), name: z2.string().min(1).max(40), sides: z2.array(pinList).min(2).max(6) })
]);
var pinsOfGroup = (group) => group.type === "either" ? group.sides.flat() : group.pins;
var wheelFamilies = [
  "missing-tooth",
  "even",
  "distributor",
  "uneven",
  "multi-gap",
  "half-moon",
  "cam-windows",
  "width-coded",
  "slot-disc"
];
var decoderSchema = z2.object({
  family: z2.enum(wheelFamilies),
  /** Equal tooth places of a crank turn this decoder accepts. */
  minPlaces: z2.int().min(1).max(400),
  maxPlaces: z2.int().min(1).max(400),
  maxMissing: z2.int().min(0).max(10),
  needsCam: z2.boolean()
});
var ecuShape = z2.object({
  id: z2.string().min(1).max(60),
  maker: z2.string().max(60),
  model: z2.string().min(1).max(60),
  /** Where the definition comes from, in the person's words. */
  note: z2.string().max(400).optional(),
  outputOrder: z2.enum(["in-turn", "by-cylinder"]),
  connectors: z2.array(connectorSchema).min(1).max(12),
  pins: z2.array(pinSchema).min(4).max(600),
  groups: z2.array(groupSchema).max(60),
  decoders: z2.array(decoderSchema).max(20),
  /** Power ground wires the maker asks for. */
  groundsAsked: z2.int().min(1).max(12),
  /** Sensors within its case; absent: none. */
  inside: z2.object({
    /** Highest absolute pressure its own manifold sensor reads, kPa: a hose leads there. */
    manifoldKpa: z2.number().min(80).max(700).optional(),
    /** Reads the barometer by itself. */
    barometer: z2.boolean().optional()
  }).optional(),
  /** Lowest supply at which it still runs, volts (domain: often 6 to 8 V while cranking). */
  minVolts: z2.number().min(4).max(12),
  /** Own consumption without outputs, amperes. */
  ownAmps: z2.number().min(0.05).max(20),
  /** How far the ratio of successive tooth times may be off before the gap is missed: its fixed gap threshold. */
  gapThreshold: z2.number().min(1.05).max(10)
});
var ecuSchema = ecuShape.superRefine((ecu, context) => {
  const say = (path, message) => context.addIssue({ code: "custom", path, message });
  const seen = /* @__PURE__ */ new Set();
  const connectors = new Map(ecu.connectors.map((connector) => [connector.id, connector]));
  if (connectors.size < ecu.connectors.length) say(["connectors"], "two connectors have the same name");
  ecu.pins.forEach((pin2, index) => {
    if (seen.has(pin2.id)) say(["pins", index, "id"], `cavity ${pin2.id} is listed twice`);
    seen.add(pin2.id);
    const connector = connectors.get(pin2.connector);
    const first2 = connector?.first ?? 1;
    const count2 = connector?.rows.reduce((sum, row) => sum + row, 0) ?? 0;
    if (pin2.cavity < first2 || pin2.cavity >= first2 + count2 || pin2.id !== pinIdOf(pin2.connector, pin2.cavity))
      say(["pins", index, "cavity"], `cavity ${pin2.id} is not on a connector of this ECU`);
  });
  ecu.groups.forEach((group, index) => {
    const stray = pinsOfGroup(group).find((id3) => !seen.has(id3));
    if (stray !== void 0)
      say(["groups", index], `group ${group.name} names ${stray}, which is no cavity of this ECU`);
  });
  if (!ecu.pins.some((pin2) => pin2.abilities.some((ability) => ability.kind === "power-ground")))
    say(["pins"], "the ECU needs at least one power ground pin");
});
var fixedKinds = /* @__PURE__ */ new Set([
  "supply-5v",
  "sensor-ground",
  "power-ground",
  "shield",
  "permanent",
  "switched",
  "main-relay"
]);
var isIgnition = (kind3) => kind3 === "ignition-logic" || kind3 === "ignition-driver";
var isFixedPin = (pin2) => pin2.abilities.every((ability) => fixedKinds.has(ability.kind));
var pinsByKind = /* @__PURE__ */ new WeakMap();
function pinsOfKind(ecu, kind3) {
  const kinds2 = pinsByKind.get(ecu) ?? /* @__PURE__ */ new Map();
  pinsByKind.set(ecu, kinds2);
  const pins = kinds2.get(kind3) ?? ecu.pins.filter((pin2) => pin2.abilities.some((ability) => ability.kind === kind3));
  kinds2.set(kind3, pins);
  return pins;
}

// core/wheels/wheel.ts
var edgeSchema = z3.object({
  degrees: z3.number().min(0).lt(360),
  level: z3.union([z3.literal(0), z3.literal(1)])
});
var checkEdges = (edges, path, context) => edges.forEach((edge, index) => {
  const before = edges[index - 1];
  if (before && (edge.degrees <= before.degrees || edge.level === before.level))
    context.addIssue({
      code: "custom",
      path: [...path, index],
      message: "edges must rise in angle and change level each time"
    });
});
var edgesSchema = z3.array(edgeSchema).min(2).max(1e3);
var wheelSchema = z3.object({
  id: z3.string().min(1).max(40),
  name: z3.string().min(1).max(80),
  shaft: z3.enum(["crank", "cam"]),
  family: z3.enum(wheelFamilies),
  /** Equal tooth places of a turn; null for uneven wheels. */
  places: z3.int().min(1).max(400).nullable(),
  missing: z3.int().min(0).max(20),
  edges: edgesSchema,
  /** Further tracks of the same body, each read by a sensor of its own; their angles count from the same zero. */
  tracks: z3.array(z3.object({ name: z3.string().min(1).max(80), edges: edgesSchema })).min(1).max(3).optional()
}).superRefine((wheel2, context) => {
  checkEdges(wheel2.edges, ["edges"], context);
  wheel2.tracks?.forEach((track2, at) => checkEdges(track2.edges, ["tracks", at, "edges"], context));
});
function trackOf(wheel2, number) {
  const track2 = wheel2.tracks?.[number - 1];
  if (!track2) return null;
  return {
    id: `${wheel2.id}/${number + 1}`,
    name: `${wheel2.name}: ${track2.name}`,
    shaft: wheel2.shaft,
    family: wheel2.shaft === "cam" ? "cam-windows" : "uneven",
    places: null,
    missing: 0,
    edges: track2.edges
  };
}
var camWheelOf = (trigger) => trigger.camWheel ?? (trigger.crankWheel && trackOf(trigger.crankWheel, 1));
function camTellsPhase(wheel2) {
  const shifted = wheel2.edges.map((edge) => ({ degrees: (edge.degrees + 180) % 360, level: edge.level }));
  const key = (edges) => edges.map((edge) => `${edge.degrees.toFixed(3)}:${edge.level}`).sort().join(" ");
  return key(wheel2.edges) !== key(shifted);
}
var tellsPhase = ({ kind: kind3 }, crank, cam) => kind3 !== "four-stroke" || crank.shaft === "cam" || cam !== null && camTellsPhase(cam);
var teethPerTurn = (wheel2) => wheel2.edges.filter((edge) => edge.level === 1).length;
var teethPerCycle = (wheel2) => teethPerTurn(wheel2) * (wheel2.shaft === "crank" ? 2 : 1);
var pulseHertz = (wheel2, crankRpm) => teethPerCycle(wheel2) / 2 * (crankRpm / 60);
function toothIntervals(wheel2) {
  const rises = wheel2.edges.filter((edge) => edge.level === 1).map((edge) => edge.degrees);
  return rises.map((rise, i) => (i + 1 < rises.length ? rises[i + 1] : rises[0] + 360) - rise);
}
function placed(places, isMissing) {
  const pitch = 360 / places;
  const edges = [];
  for (let place3 = 0; place3 < places; place3 += 1) {
    if (isMissing(place3)) continue;
    edges.push({ degrees: place3 * pitch, level: 1 }, { degrees: (place3 + 0.5) * pitch, level: 0 });
  }
  return edges;
}
function missingToothWheel(places, missing, shaft = "crank") {
  return {
    id: missing > 0 ? `${places}-${missing}` : `${places}-even`,
    name: missing > 0 ? `${places} places, ${missing} missing` : `${places} even teeth`,
    shaft,
    family: missing > 0 ? "missing-tooth" : "even",
    places,
    missing,
    edges: placed(places, (place3) => place3 >= places - missing)
  };
}
function multiGapWheel(id3, name3, places, gaps2) {
  const out = (place3) => gaps2.some(([first2, count2]) => place3 >= first2 && place3 < first2 + count2);
  return {
    id: id3,
    name: name3,
    shaft: "crank",
    family: "multi-gap",
    places,
    missing: gaps2.reduce((sum, [, count2]) => sum + count2, 0),
    edges: placed(places, out)
  };
}
function evenWheel(id3, name3, shaft, family, places, share = 0.5) {
  const pitch = 360 / places;
  return {
    id: id3,
    name: name3,
    shaft,
    family,
    places,
    missing: 0,
    edges: Array.from({ length: places }, (_, place3) => [
      { degrees: place3 * pitch, level: 1 },
      { degrees: (place3 + share) * pitch, level: 0 }
    ]).flat()
  };
}
function widthCodedWheel(id3, name3, shaft, family, widths) {
  const pitch = 360 / widths.length;
  return listedWheel(
    id3,
    name3,
    shaft,
    family,
    widths.map((width, place3) => ({ at: (place3 + 1) * pitch - width - pitch / 10, width }))
  );
}
function listedWheel(id3, name3, shaft, family, teeth) {
  return {
    id: id3,
    name: name3,
    shaft,
    family,
    places: null,
    missing: 0,
    edges: teeth.flatMap(({ at, width }) => [
      { degrees: at, level: 1 },
      { degrees: at + width, level: 0 }
    ])
  };
}
var withTrack = (id3, name3, wheel2, track2, other) => ({
  ...wheel2,
  id: id3,
  name: name3,
  tracks: [...wheel2.tracks ?? [], { name: track2, edges: other.edges }]
});

// catalog/wheels.ts
var narrow = (angles, width) => angles.map((at) => ({ at, width }));
var plain = [
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
  [120, 2]
];
var slots = evenWheel("slots-360", "Disc of 360 slots on the cam", "cam", "slot-disc", 360);
var secondTrack = (widths) => listedWheel(
  "second",
  "second track",
  "cam",
  "cam-windows",
  widths.map((width, place3) => ({ at: place3 * 360 / widths.length, width }))
);
var wheels = [
  ...plain.map(([places, missing]) => missingToothWheel(places, missing)),
  ...[1, 2, 3, 4, 6, 8, 12, 24, 36].map((places) => missingToothWheel(places, 0)),
  multiGapWheel("36-2-2-2", "36 places, three gaps of two", 36, [
    [13, 2],
    [16, 2],
    [34, 2]
  ]),
  multiGapWheel("36-2-1", "36 places, one gap of two and one of one", 36, [
    [17, 1],
    [34, 2]
  ]),
  multiGapWheel("60-2-2", "60 places, two gaps of two, opposite", 60, [
    [28, 2],
    [58, 2]
  ]),
  multiGapWheel("24-1-1", "24 places, two gaps of one, a third of a turn apart", 24, [
    [15, 1],
    [23, 1]
  ]),
  multiGapWheel("36-1-2-3", "36 places, gaps of one, two and three", 36, [
    [10, 1],
    [21, 2],
    [33, 3]
  ]),
  listedWheel(
    "uneven-70-110",
    "Four teeth a turn, 70\xB0 and 110\xB0 apart in turn",
    "crank",
    "uneven",
    narrow([0, 70, 180, 250], 10)
  ),
  listedWheel("uneven-3", "Three teeth a turn, 60\xB0, 120\xB0 and 180\xB0 apart", "crank", "uneven", narrow([0, 60, 180], 12)),
  listedWheel(
    "uneven-5",
    "Four teeth and a fifth close behind one",
    "crank",
    "uneven",
    narrow([0, 30, 90, 180, 270], 10)
  ),
  listedWheel(
    "uneven-12-1",
    "Twelve teeth and one between two of them",
    "crank",
    "uneven",
    narrow([0, 15, 30, 60, 90, 120, 150, 180, 210, 240, 270, 300, 330], 5)
  ),
  widthCodedWheel(
    "coded-6",
    "Six slots, ends equal, four narrow and two wide",
    "crank",
    "width-coded",
    [18, 18, 36, 18, 36, 36]
  ),
  widthCodedWheel(
    "coded-24",
    "24 slots, ends equal, wide and narrow in a code",
    "crank",
    "width-coded",
    [..."000011011010111110001101"].map((sign) => sign === "1" ? 9 : 4)
  ),
  widthCodedWheel("vane-4-wide", "Distributor, four vanes, one wide", "cam", "distributor", [45, 45, 45, 65]),
  widthCodedWheel(
    "vane-6-narrow",
    "Distributor, six vanes, one narrow",
    "cam",
    "distributor",
    [30, 30, 30, 30, 30, 15]
  ),
  widthCodedWheel(
    "vane-8-wide",
    "Distributor, eight vanes, one wide",
    "cam",
    "distributor",
    [20, 20, 20, 20, 20, 20, 20, 32]
  ),
  slots,
  withTrack(
    "disc-360-4",
    "Disc of 360 slots and four more, one wide",
    slots,
    "four slots, one wide",
    secondTrack([24, 8, 8, 8])
  ),
  withTrack(
    "disc-360-6",
    "Disc of 360 slots and six more, three widths",
    slots,
    "six slots, three widths",
    secondTrack([24, 8, 16, 8, 16, 8])
  ),
  listedWheel("cam-1", "One tooth a cycle", "cam", "cam-windows", narrow([40], 20)),
  listedWheel("cam-2-uneven", "Two teeth a cycle, 120\xB0 apart", "cam", "cam-windows", narrow([0, 120], 20)),
  listedWheel("cam-3-minus-1", "Four places, one missing", "cam", "cam-windows", narrow([0, 90, 180], 20)),
  listedWheel(
    "cam-4-plus-1",
    "Four windows a cycle and one more",
    "cam",
    "cam-windows",
    narrow([0, 30, 90, 180, 270], 20)
  ),
  listedWheel(
    "cam-5-plus-1",
    "Five teeth a cycle and one more",
    "cam",
    "cam-windows",
    narrow([0, 24, 72, 144, 216, 288], 14)
  ),
  listedWheel(
    "cam-6-plus-1",
    "Six teeth a cycle and one more",
    "cam",
    "cam-windows",
    narrow([0, 20, 60, 120, 180, 240, 300], 12)
  ),
  listedWheel("cam-4-window", "Four windows, two wide and two narrow", "cam", "cam-windows", [
    { at: 0, width: 70 },
    { at: 90, width: 35 },
    { at: 180, width: 35 },
    { at: 270, width: 70 }
  ]),
  listedWheel(
    "cam-3-phaser",
    "Three teeth for a phaser, 100\xB0, 120\xB0 and 140\xB0 apart",
    "cam",
    "cam-windows",
    narrow([0, 100, 220], 16)
  ),
  listedWheel("cam-2-window", "Two windows, one wide and one narrow", "cam", "cam-windows", [
    { at: 0, width: 120 },
    { at: 180, width: 50 }
  ]),
  listedWheel("cam-half-moon", "Half-moon: one level a crank turn", "cam", "half-moon", [{ at: 0, width: 180 }])
];

// catalog/index.ts
var catalog = { ecus: [...ecus], kinds: [...kinds], wheels: [...wheels], engines: [...engines] };
function entry(list, id3) {
  const found2 = list.find((one2) => one2.id === id3);
  if (!found2) throw new Error(`catalog: no entry ${id3}`);
  return found2;
}

// core/problem.ts
var ok = (value) => ({ ok: true, value });
var fail = (code, path, sentence) => ({
  ok: false,
  problem: { code, path, sentence }
});

// core/data/zod-problem.ts
var pathText = (path) => path.map((part2, i) => typeof part2 === "number" ? `[${part2}]` : `${i > 0 ? "." : ""}${String(part2)}`).join("");
var EXPECTED = {
  string: "a text in quotes",
  number: "a number",
  int: "a whole number",
  boolean: "true or false",
  array: "a list in square brackets",
  tuple: "a list in square brackets",
  object: "a group of named values in braces",
  record: "a group of named values in braces",
  null: "null"
};
var FORMATS = {
  datetime: "must be a day and time such as 2026-03-01T10:00:00Z",
  date: "must be a day such as 2026-03-01"
};
var isZods = (message) => /^(Invalid|Too |Unrecognized|Expected)/.test(message);
function nearestOf(errors) {
  const depth = (issues) => Math.max(0, ...issues.map(({ path }) => path.length));
  const [best] = [...errors].sort((one2, other) => depth(other) - depth(one2) || one2.length - other.length);
  return best?.[0];
}
function issueSentence(issue) {
  const size = issue.code === "too_small" || issue.code === "too_big" ? issue.origin : "";
  const unit = size === "string" ? " characters" : size === "array" ? " entries" : "";
  switch (issue.code) {
    case "too_small":
      return isZods(issue.message) ? `must be ${issue.inclusive === false ? "more than" : "at least"} ${String(issue.minimum)}${unit}` : issue.message;
    case "too_big":
      return isZods(issue.message) ? `must be ${issue.inclusive === false ? "less than" : "at most"} ${String(issue.maximum)}${unit}` : issue.message;
    case "invalid_type":
      return `must be ${EXPECTED[issue.expected] ?? `a ${issue.expected}`}`;
    case "invalid_value":
      return `must be ${issue.values.length === 1 ? "" : "one of "}${issue.values.map(String).join(", ")}`;
    case "unrecognized_keys":
      return `holds ${issue.keys.slice(0, 3).join(", ")}, which does not belong there`;
    case "invalid_format":
      return isZods(issue.message) ? FORMATS[issue.format] ?? "is not written as it must be" : issue.message;
    default:
      return isZods(issue.message) ? "is not one of the things that can stand there" : issue.message;
  }
}
function tellingIssue(issue) {
  if (issue.code === "invalid_union") {
    const inner = nearestOf(issue.errors);
    if (inner) {
      const told2 = tellingIssue(inner);
      return { issue: told2.issue, path: [...issue.path, ...told2.path] };
    }
  }
  if (issue.code === "invalid_key" || issue.code === "invalid_element") {
    const [inner] = issue.issues;
    if (inner) return { issue: inner, path: issue.path };
  }
  return { issue, path: issue.path };
}
function zodProblem(error, code = "invalid") {
  const { issue, path: parts3 } = tellingIssue(error.issues[0]);
  const path = pathText(parts3);
  const more = error.issues.length > 1 ? ` (and ${error.issues.length - 1} more)` : "";
  return { code, path, sentence: `${path || "The input"} ${issueSentence(issue)}${more}.` };
}

// core/edits/edit.ts
var edit = (args, label2, apply) => ({
  args,
  label: label2,
  apply
});
function runEdit(one2, build, args) {
  const parsed = one2.args.safeParse(args);
  if (!parsed.success) return { ok: false, problem: zodProblem(parsed.error, "invalid-argument") };
  const result = one2.apply(build, parsed.data);
  return result.ok ? { ok: true, value: { build: result.value, label: one2.label(parsed.data, build) } } : result;
}
var noDevice = (id3) => fail("no-device", "deviceId", `There is no device ${id3} in this build.`);

// core/edits/buses.ts
import { z as z17 } from "zod";

// core/build/schema.ts
import { z as z16 } from "zod";

// core/devices/kind.ts
import { z as z8 } from "zod";

// core/ecu/ask.ts
import { z as z4 } from "zod";
var askSchema = z4.object({
  kind: z4.enum(abilityKinds),
  amps: z4.number().min(0).max(60).optional(),
  /** Lowest pin frequency that will do, hertz. */
  hz: z4.number().min(0).max(1e5).optional(),
  /** Load resistance, ohms (injectors). */
  ohms: z4.number().positive().max(1e3).optional(),
  /** True: a pull-up must be there. False: none may be on. Absent: either. */
  pullUp: z4.boolean().optional(),
  side: z4.enum(["plus", "minus"]).optional(),
  cell: z4.enum(["pump", "reference", "ground"]).optional(),
  /** Winding of a stepper motor. */
  phase: z4.enum(["a", "b"]).optional(),
  /** Level a logic input wants, or a supply out, volts; absent: 5 V or either. */
  volts: z4.number().positive().max(60).optional()
});
function missOf(ability, ask) {
  if (ability.kind !== ask.kind) return { code: "kind" };
  if (ask.amps !== void 0 && ability.maxAmps !== void 0 && ask.amps > ability.maxAmps)
    return { code: "amps", asked: ask.amps, limit: ability.maxAmps };
  if (ask.hz !== void 0 && ability.maxHz !== void 0 && ask.hz > ability.maxHz)
    return { code: "hz", asked: ask.hz, limit: ability.maxHz };
  if (ask.ohms !== void 0 && ability.minOhms !== void 0 && ask.ohms < ability.minOhms)
    return { code: "ohms", asked: ask.ohms, limit: ability.minOhms };
  if (ask.parallelOhms !== void 0 && ability.maxAmps === void 0 && ability.minOhms !== void 0 && ask.parallelOhms < ability.minOhms)
    return { code: "ohms", asked: ask.parallelOhms, limit: ability.minOhms, together: true };
  if (ask.volts !== void 0 && ability.volts !== void 0 && Math.abs(ask.volts - ability.volts) > 0.5)
    return { code: "volts", asked: ask.volts, level: ability.volts };
  if (ask.pullUp === true && ability.pullUpOhms === void 0) return { code: "pull-up", wanted: true };
  if (ask.pullUp === false && ability.pullUpOhms !== void 0 && !ability.pullUpSwitchable)
    return { code: "pull-up", wanted: false };
  if (ask.kind === "vr" && ask.side === "minus" && ability.pair === void 0) return { code: "side" };
  if (ask.side !== void 0 && ability.side !== void 0 && ask.side !== ability.side) return { code: "side" };
  if (ask.cell !== void 0 && ability.cell !== void 0 && ask.cell !== ability.cell) return { code: "side" };
  if (ask.phase !== void 0 && ability.phase !== void 0 && ask.phase !== ability.phase) return { code: "side" };
  return null;
}
function serve(pin2, ask, pair) {
  let nearest = { code: "kind" };
  for (const ability of pin2.abilities) {
    if (pair !== void 0 && ability.pair !== pair) continue;
    const miss = missOf(ability, ask);
    if (miss === null) return { ability, miss: null };
    if (miss.code !== "kind") nearest = miss;
  }
  return { ability: null, miss: nearest };
}
var kindWords = {
  injector: "injector driver",
  "ignition-logic": "logic ignition output",
  "ignition-driver": "coil driver",
  "low-side": "low-side output",
  "high-side": "high-side output",
  "half-bridge": "half-bridge pair",
  stepper: "stepper output",
  analog: "analog input",
  switch: "switch input",
  frequency: "frequency input",
  vr: "VR pair",
  hall: "square-wave trigger input",
  knock: "knock input",
  wideband: "wideband cell input",
  thermocouple: "thermocouple pair",
  can: "CAN pair",
  "supply-5v": "5 V supply",
  "supply-out": "supply out",
  "sensor-ground": "sensor ground",
  "power-ground": "power ground",
  shield: "shield",
  permanent: "permanent supply",
  switched: "switched supply",
  "main-relay": "main relay output"
};
var kindWord = (kind3) => kindWords[kind3];
function askWords(ask) {
  if (ask.kind === "low-side" && ask.hz) return `PWM output of ${ask.hz} Hz or more`;
  if (ask.kind === "analog" && ask.pullUp) return "analog input with pull-up";
  if (ask.kind === "analog" && ask.pullUp === false) return "analog input without pull-up";
  return kindWords[ask.kind];
}
function missSentence(miss, ask) {
  switch (miss.code) {
    case "kind":
      return `is no ${kindWords[ask.kind]}`;
    case "amps":
      return `carries ${miss.limit} A, ${miss.asked} A are asked`;
    case "hz":
      return miss.limit === 0 ? `switches on and off only, ${miss.asked} Hz are asked` : `reaches ${miss.limit} Hz, ${miss.asked} Hz are asked`;
    case "ohms":
      return `stands ${miss.limit} \u03A9 and more, ${miss.together ? "the injectors together have" : "the injector has"} ${miss.asked} \u03A9`;
    case "pull-up":
      return miss.wanted ? "has no pull-up" : "has a fixed pull-up";
    case "side":
      return "is the other side of its pair";
    case "volts":
      return `is at ${miss.level} V, ${miss.asked} V are asked`;
  }
}

// core/devices/curve.ts
import { z as z5 } from "zod";

// core/units/convert.ts
var KPA_PER_PSI = 6.894757293168;
var KPA_PER_BAR = 100;
var KPA_PER_INHG = 3.386389;
var KELVIN_OFFSET = 273.15;
var celsiusToFahrenheit = (celsius) => celsius * 1.8 + 32;
var celsiusToKelvin = (celsius) => celsius + KELVIN_OFFSET;
var wrapDegrees = (degrees2, span) => {
  const wrapped = degrees2 % span;
  return wrapped < 0 ? wrapped + span : wrapped;
};
var wrapSigned = (degrees2, span) => {
  const wrapped = wrapDegrees(degrees2, span);
  return wrapped > span / 2 ? wrapped - span : wrapped;
};
var METRES_PER_FOOT = 0.3048;
var MM_PER_INCH = 25.4;
var KM_PER_MILE = 1.609344;

// core/devices/thermistor.ts
function steinhartHart(points2) {
  if (points2.length !== 3) return fail("points", "", "Steinhart-Hart takes exactly three points.");
  for (const [row, point3] of points2.entries())
    if (!(point3.ohms > 0)) return fail("ohms", `points[${row}]`, `Point ${row + 1}: ohms must be above 0.`);
  const sorted = [...points2].sort((one2, other) => one2.celsius - other.celsius);
  for (const row of [0, 1])
    if (sorted[row].celsius === sorted[row + 1].celsius || sorted[row].ohms === sorted[row + 1].ohms)
      return fail("same", `points[${row}]`, "The three points need three temperatures and three resistances.");
  const [l1, l2, l3] = sorted.map((point3) => Math.log(point3.ohms));
  const [y1, y2, y3] = sorted.map((point3) => 1 / celsiusToKelvin(point3.celsius));
  const g2 = (y2 - y1) / (l2 - l1);
  const g3 = (y3 - y1) / (l3 - l1);
  const c = (g3 - g2) / (l3 - l2) / (l1 + l2 + l3);
  const b = g2 - c * (l1 * l1 + l1 * l2 + l2 * l2);
  const a = y1 - (b + l1 * l1 * c) * l1;
  const slopes = [l1, l2, l3, (l1 + l2) / 2, (l2 + l3) / 2].map((l) => b + 3 * c * l * l);
  if (!slopes.every((slope) => slope > 0) && !slopes.every((slope) => slope < 0))
    return fail("turns", "", "No thermistor runs through these three points: check that ohms fall or rise throughout.");
  return ok({ a, b, c });
}
function steinhartCelsius({ a, b, c }, ohms2) {
  const l = Math.log(ohms2);
  return 1 / (a + b * l + c * l ** 3) - KELVIN_OFFSET;
}
function steinhartOhms({ a, b, c }, celsius) {
  const y = 1 / celsiusToKelvin(celsius) - a;
  if (Math.abs(c) < 1e-18) return Math.exp(y / b);
  const p2 = b / c;
  const q = -y / c;
  const root = q * q / 4 + p2 * p2 * p2 / 27;
  if (root >= 0) {
    const s = Math.sqrt(root);
    return Math.exp(Math.cbrt(-q / 2 + s) + Math.cbrt(-q / 2 - s));
  }
  const r = 2 * Math.sqrt(-p2 / 3);
  const angle = Math.acos(3 * q / (2 * p2) * Math.sqrt(-3 / p2)) / 3;
  const roots = [0, 1, 2].map((k) => r * Math.cos(angle - 2 * Math.PI * k / 3));
  return Math.exp(roots.reduce((best, one2) => Math.abs(one2) < Math.abs(best) ? one2 : best));
}
var betaOhms = (reference, beta, celsius) => reference.ohms * Math.exp(beta * (1 / celsiusToKelvin(celsius) - 1 / celsiusToKelvin(reference.celsius)));
var betaCelsius = (reference, beta, ohms2) => 1 / (1 / celsiusToKelvin(reference.celsius) + Math.log(ohms2 / reference.ohms) / beta) - KELVIN_OFFSET;

// core/devices/type-k.ts
var below = [
  0,
  0.039450128025,
  23622373598e-15,
  -32858906784e-17,
  -49904828777e-19,
  -67509059173e-21,
  -57410327428e-23,
  -31088872894e-25,
  -10451609365e-27,
  -19889266878e-30,
  -16322697486e-33
];
var above = [
  -0.017600413686,
  0.038921204975,
  18558770032e-15,
  -99457592874e-18,
  31840945719e-20,
  -56072844889e-23,
  56075059059e-26,
  -32020720003e-29,
  97151147152e-33,
  -12104721275e-36
];
var [E0, E1, E2] = [0.1185976, -1183432e-10, 126.9686];
var TYPE_K_CELSIUS = { least: -270, most: 1372 };
var polynomial = (coefficients, x) => coefficients.reduceRight((sum, coefficient) => sum * x + coefficient, 0);
function typeKMillivolts(celsius) {
  if (!(celsius >= TYPE_K_CELSIUS.least && celsius <= TYPE_K_CELSIUS.most)) return Number.NaN;
  if (celsius < 0) return polynomial(below, celsius);
  return polynomial(above, celsius) + E0 * Math.exp(E1 * (celsius - E2) ** 2);
}
var HALVINGS = 40;
function typeKCelsius(millivolts) {
  let low = TYPE_K_CELSIUS.least;
  let high = TYPE_K_CELSIUS.most;
  if (!(millivolts >= typeKMillivolts(low) && millivolts <= typeKMillivolts(high))) return Number.NaN;
  for (let step = 0; step < HALVINGS; step += 1) {
    const middle = (low + high) / 2;
    if (typeKMillivolts(middle) < millivolts) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
function copperLeadError(celsius, plugCelsius, instrumentCelsius) {
  const seen = typeKMillivolts(celsius) - typeKMillivolts(plugCelsius) + typeKMillivolts(instrumentCelsius);
  return typeKCelsius(seen) - celsius;
}

// core/devices/curve.ts
var pointSchema = z5.object({ signal: z5.number(), value: z5.number() });
var curveSchema = z5.discriminatedUnion("method", [
  z5.object({ method: z5.literal("linear"), points: z5.array(pointSchema).length(2) }),
  z5.object({ method: z5.literal("table"), points: z5.array(pointSchema).min(2).max(64) }),
  /** Ohms and degrees Celsius. */
  z5.object({ method: z5.literal("steinhart-hart"), points: z5.array(pointSchema).length(3) }),
  z5.object({
    method: z5.literal("beta"),
    ohms: z5.number().positive(),
    celsius: z5.number().gt(-273),
    beta: z5.number().min(100).max(2e4)
  }),
  /** Millivolts and degrees Celsius, cold junction 0 °C. */
  z5.object({ method: z5.literal("type-k") })
]);
var finite = (value) => Number.isFinite(value) ? value : null;
function interpolate(points2, x) {
  const last = points2.length - 1;
  const slack = 1e-9 * (points2[last].x - points2[0].x);
  if (!(x >= points2[0].x - slack && x <= points2[last].x + slack)) return null;
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = low + high >> 1;
    if (points2[middle].x <= x) low = middle;
    else high = middle;
  }
  const [from, to] = [points2[low], points2[high]];
  return from.y + (to.y - from.y) * (x - from.x) / (to.x - from.x);
}
function checkTable(points2) {
  if (points2.length < 2) return fail("points", "points", "A table needs two rows or more.");
  const numbered2 = points2.map((point3, index) => ({ ...point3, row: index + 1 }));
  const sorted = [...numbered2].sort((one2, other) => one2.signal - other.signal);
  const direction = Math.sign(sorted[sorted.length - 1].value - sorted[0].value);
  for (let i = 1; i < sorted.length; i += 1) {
    const [before, after] = [sorted[i - 1], sorted[i]];
    if (before.signal === after.signal)
      return fail(
        "repeat",
        `points[${after.row - 1}]`,
        `Row ${after.row} repeats the signal ${after.signal} of row ${before.row}.`
      );
    if (Math.sign(after.value - before.value) !== direction || direction === 0)
      return fail(
        "monotonic",
        `points[${after.row - 1}]`,
        `Row ${Math.max(before.row, after.row)} turns back: from ${before.value} to ${after.value} while the table ${direction >= 0 ? "rises" : "falls"}. One signal would stand for two values.`
      );
  }
  return ok(sorted);
}
var thermistor = (sh) => ({
  valueOf: (ohms2) => ohms2 > 0 ? finite(steinhartCelsius(sh, ohms2)) : null,
  signalOf: (celsius) => finite(steinhartOhms(sh, celsius))
});
function prepareCurve(curve2) {
  switch (curve2.method) {
    case "linear": {
      const [one2, other] = curve2.points;
      if (!one2 || !other) return fail("points", "points", "A straight line needs two points.");
      if (one2.signal === other.signal) return fail("repeat", "points[1]", "Row 2 repeats the signal of row 1.");
      if (one2.value === other.value) return fail("monotonic", "points[1]", "Row 2 repeats the value of row 1.");
      const slope = (other.value - one2.value) / (other.signal - one2.signal);
      return ok({
        valueOf: (signal) => one2.value + (signal - one2.signal) * slope,
        signalOf: (value) => one2.signal + (value - one2.value) / slope
      });
    }
    case "table": {
      const checked = checkTable(curve2.points);
      if (!checked.ok) return checked;
      const forward = checked.value.map(({ signal, value }) => ({ x: signal, y: value }));
      const back = checked.value.map(({ signal, value }) => ({ x: value, y: signal })).sort((one2, other) => one2.x - other.x);
      return ok({
        valueOf: (signal) => interpolate(forward, signal),
        signalOf: (value) => interpolate(back, value)
      });
    }
    case "steinhart-hart": {
      const solved = steinhartHart(curve2.points.map(({ signal, value }) => ({ ohms: signal, celsius: value })));
      return solved.ok ? ok(thermistor(solved.value)) : solved;
    }
    case "beta":
      return ok({
        valueOf: (ohms2) => ohms2 > 0 ? finite(betaCelsius(curve2, curve2.beta, ohms2)) : null,
        signalOf: (celsius) => finite(betaOhms(curve2, curve2.beta, celsius))
      });
    case "type-k":
      return ok({
        valueOf: (millivolts) => finite(typeKCelsius(millivolts)),
        signalOf: (celsius) => celsius >= TYPE_K_CELSIUS.least && celsius <= TYPE_K_CELSIUS.most ? typeKMillivolts(celsius) : null
      });
  }
}
function curveOf(curve2) {
  const prepared = prepareCurve(curve2);
  if (!prepared.ok) throw new Error(prepared.problem.sentence);
  return prepared.value;
}
var checkedCurveSchema = curveSchema.superRefine((curve2, context) => {
  const prepared = prepareCurve(curve2);
  if (!prepared.ok) context.addIssue({ code: "custom", message: prepared.problem.sentence.replace(/\.$/, "") });
});

// core/devices/face.ts
import { z as z6 } from "zod";

// core/ecu/face.ts
var known = /* @__PURE__ */ new WeakMap();
function numbered({ rows, numbering }) {
  const { from, along, turning } = numbering ?? { from: "top-left", along: "rows", turning: false };
  const fromRight = from.endsWith("right");
  const fromBottom = from.startsWith("bottom");
  const columns = Math.max(...rows);
  const lines = along === "rows" ? rows.map((count2, row) => Array.from({ length: count2 }, (_, i) => ({ row: row + 1, place: i + 1 }))) : Array.from(
    { length: columns },
    (_, column) => rows.flatMap((count2, row) => column < count2 ? [{ row: row + 1, place: column + 1 }] : [])
  );
  const [linesBack, cellsBack] = along === "rows" ? [fromBottom, fromRight] : [fromRight, fromBottom];
  if (linesBack) lines.reverse();
  return lines.flatMap((line3, index) => cellsBack !== (turning && index % 2 === 1) ? [...line3].reverse() : line3);
}
function faceOf(connector) {
  const before = known.get(connector);
  if (before) return before;
  const first2 = connector.first ?? 1;
  const face = numbered(connector).map((at, index) => ({ cavity: first2 + index, ...at }));
  known.set(connector, face);
  return face;
}
var cavityCount = (connector) => connector.rows.reduce((sum, count2) => sum + count2, 0);
function cavityPlace(connector, cavity) {
  const at = faceOf(connector)[cavity - (connector.first ?? 1)];
  return at ? { row: at.row, place: at.place } : { row: connector.rows.length, place: cavity };
}
var cavityAt = (connector, row, place3) => faceOf(connector).find((at) => at.row === row && at.place === place3)?.cavity ?? null;
function neighbours(connector, cavity) {
  const { row, place: place3 } = cavityPlace(connector, cavity);
  return {
    left: cavityAt(connector, row, place3 - 1),
    right: cavityAt(connector, row, place3 + 1),
    above: cavityAt(connector, row - 1, place3),
    below: cavityAt(connector, row + 1, place3)
  };
}
var neighbourCavities = (connector, cavity) => Object.values(neighbours(connector, cavity)).filter((one2) => one2 !== null);
var cavitySquareMm = (connector, cavity) => connector.large?.cavities.includes(cavity) ? connector.large.maxSquareMm : connector.maxSquareMm;

// core/devices/face.ts
var deviceFaceSchema = connectorSchema.omit({ id: true, name: true }).extend({
  /** By the terminal's id. A terminal that is not named sits elsewhere, such as on a stud of its own. */
  cavities: z6.record(z6.string().max(6), z6.int().min(1).max(400)),
  /** Its largest measure across, that has to pass a hole; absent: nobody has measured it. */
  acrossMillimetres: z6.number().positive().max(300).optional()
});
function faceMiss(face, terminals) {
  const first2 = face.first ?? 1;
  const last = first2 + cavityCount(face) - 1;
  const seen = /* @__PURE__ */ new Map();
  for (const [terminal, cavity] of Object.entries(face.cavities)) {
    if (!terminals.includes(terminal)) return `terminal ${terminal} does not exist`;
    if (cavity < first2 || cavity > last)
      return `terminal ${terminal} is in cavity ${cavity}, and there are ${first2} to ${last}`;
    const other = seen.get(cavity);
    if (other !== void 0) return `terminals ${other} and ${terminal} are both in cavity ${cavity}`;
    seen.set(cavity, terminal);
  }
  return null;
}
var known2 = /* @__PURE__ */ new WeakMap();
function faceConnector(face) {
  const before = known2.get(face);
  if (before) return before;
  const { cavities: _cavities, acrossMillimetres: _across, ...rest } = face;
  const connector = { ...rest, id: "P" };
  known2.set(face, connector);
  return connector;
}

// core/units/units.ts
import { z as z7 } from "zod";
var quantities = [
  "pressure",
  "temperature",
  "position",
  "mixture",
  "ethanol",
  "road-speed",
  "shaft-speed",
  "level"
];
var fuels = ["petrol", "e85", "ethanol", "methanol"];
var stoichiometric = { petrol: 14.7, e85: 9.8, ethanol: 9, methanol: 6.4 };
var unitsSchema = z7.object({
  pressure: z7.enum(["kPa", "bar", "psi", "inHg"]),
  temperature: z7.enum(["C", "F"]),
  mixture: z7.enum(["lambda", "AFR"]),
  /** Lengths, wires, displacement, power and flow. */
  workshop: z7.enum(["metric", "inch"])
});
var defaultUnits = { pressure: "kPa", temperature: "C", mixture: "lambda", workshop: "metric" };
var pressures = {
  kPa: { unit: "kPa", factor: 1, shift: 0, decimals: 1 },
  bar: { unit: "bar", factor: 1 / KPA_PER_BAR, shift: 0, decimals: 3 },
  psi: { unit: "psi", factor: 1 / KPA_PER_PSI, shift: 0, decimals: 1 },
  inHg: { unit: "inHg", factor: 1 / KPA_PER_INHG, shift: 0, decimals: 1 }
};
var fixed = (unit, decimals) => ({ unit, factor: 1, shift: 0, decimals });
function scaleOf(quantity, units, fuel) {
  switch (quantity) {
    case "pressure":
      return pressures[units.pressure];
    case "temperature":
      return units.temperature === "C" ? fixed("\xB0C", 1) : { unit: "\xB0F", factor: 1.8, shift: celsiusToFahrenheit(0), decimals: 1 };
    case "mixture":
      return units.mixture === "lambda" ? fixed("\u03BB", 2) : { unit: "AFR", factor: stoichiometric[fuel], shift: 0, decimals: 1 };
    case "position":
    case "level":
    case "ethanol":
      return fixed("%", 1);
    case "road-speed":
      return units.workshop === "metric" ? fixed("km/h", 0) : { unit: "mph", factor: 1 / KM_PER_MILE, shift: 0, decimals: 0 };
    case "shaft-speed":
      return fixed("rpm", 0);
  }
}
var toShown = (scale2, inside2) => inside2 * scale2.factor + scale2.shift;
var stepScale = (scale2) => ({ ...scale2, shift: 0 });
var inUnit = (scale2, inside2) => {
  const text3 = toShown(scale2, inside2).toFixed(scale2.decimals);
  return `${Number(text3) === 0 ? 0 .toFixed(scale2.decimals) : text3} ${scale2.unit}`;
};
var readerScale = (quantity, reader) => scaleOf(quantity, reader.units, reader.fuel.fuel);
var readQuantity = (quantity, inside2, reader) => inUnit(readerScale(quantity, reader), inside2);
var readStep = (quantity, inside2, reader) => inUnit(stepScale(readerScale(quantity, reader)), inside2);

// core/devices/kind.ts
var systems = [
  "Trigger",
  "Fuel",
  "Ignition",
  "Air and throttle",
  "Cooling",
  "Oil and knock",
  "Exhaust",
  "Driver",
  "Bus and dash",
  "Start and charge",
  "Body plug"
];
var regions = [
  "intake",
  "coils",
  "injectors",
  "block",
  "exhaust",
  "gearbox",
  "front",
  "cabin",
  "rear"
];
var groundPlaces = ["battery", "head", "chassis"];
var feedNames = ["main", "coils", "injectors", "pump", "own", "key", "permanent"];
var destinationSchema = z8.discriminatedUnion("to", [
  z8.object({ to: z8.literal("pin"), ask: askSchema, pair: z8.string().max(12).optional() }),
  z8.object({ to: z8.literal("supply-5v"), milliamps: z8.number().min(0).max(500), bank: z8.int().min(0).max(3) }),
  z8.object({ to: z8.literal("sensor-ground"), bank: z8.int().min(0).max(3) }),
  z8.object({ to: z8.literal("feed"), feed: z8.enum(feedNames), amps: z8.number().min(0).max(300) }),
  z8.object({ to: z8.literal("ground"), place: z8.enum(groundPlaces) }),
  /** Through the part's own body to what it is bolted to: there is no wire. */
  z8.object({ to: z8.literal("mounted"), place: z8.enum(groundPlaces) }),
  /** A line of that name: every terminal that names it is joined, such as a lamp and the switch that lights it. */
  z8.object({
    to: z8.literal("line"),
    line: z8.string().regex(/^[a-z0-9-]{2,24}$/, "must be 2 to 24 lower-case letters, digits and hyphens")
  }),
  /** The car's own key switch arrives here: circuits of that feed start at this terminal. */
  z8.object({ to: z8.literal("source"), source: z8.enum(["key-run", "key-start"]) }),
  /** Left bare on purpose. */
  z8.object({ to: z8.literal("nothing") })
]);
var terminalSchema = z8.object({
  id: z8.string().regex(/^[A-Za-z0-9+-]{1,6}$/, "a terminal is up to six letters, digits, + or -"),
  name: z8.string().min(1).max(40),
  destination: destinationSchema
});
var carPoints = ["@15", "@50", "@30", "@31"];
var internalSchema = z8.discriminatedUnion("type", [
  z8.object({ type: z8.literal("resistor"), from: z8.string(), to: z8.string(), ohms: z8.number().positive() }),
  /** A ratiometric output at rest: `ratio` of the supply, through `ohms` source resistance. */
  z8.object({
    type: z8.literal("divider"),
    supply: z8.string(),
    ground: z8.string(),
    signal: z8.string(),
    ratio: z8.number().gt(0).lt(1),
    ohms: z8.number().positive()
  })
]);
var voltsTableSchema = z8.array(z8.object({ volts: z8.number().min(4).max(20), milliseconds: z8.number().positive().max(40) })).max(24).superRefine((rows, context) => {
  rows.forEach((row, index) => {
    if (index > 0 && row.volts <= rows[index - 1].volts)
      context.addIssue({ code: "custom", path: [index, "volts"], message: "must be above the row before it" });
  });
});
var tachometerDrives = ["low-side", "logic", "coil-negative"];
var bodySignalIds = [
  "key-feed",
  "start-signal",
  "oil-lamp",
  "charge-lamp",
  "engine-lamp",
  "tachometer",
  "temperature-gauge",
  "oil-gauge",
  "speedometer",
  "speed-from-car",
  "reverse-light",
  "air-conditioning",
  "clutch-switch",
  "neutral-switch",
  "brake-switch",
  "immobiliser",
  "ground",
  "not-used",
  "unknown"
];
var bodyCavitySchema = z8.object({
  cavity: z8.string().regex(/^[A-Za-z0-9]{1,4}$/, "a cavity is up to four letters or digits"),
  /** Colour of the car's wire, as written. */
  colour: z8.string().max(20),
  signal: z8.enum(bodySignalIds),
  note: z8.string().max(120)
});
var traitSchema = z8.discriminatedUnion("type", [
  z8.object({
    type: z8.literal("coil"),
    igniter: z8.boolean(),
    primaryOhms: z8.number().positive(),
    inductanceMillihenry: z8.number().positive(),
    /** Dwell the coil is meant for, by battery volts. */
    dwell: voltsTableSchema.min(1),
    /** Cylinders one coil serves: 1 direct, 2 wasted. */
    serves: z8.int().min(1).max(16)
  }),
  z8.object({
    type: z8.literal("injector"),
    ohms: z8.number().positive(),
    flowCcPerMinute: z8.number().positive(),
    /** Pressure across the injector at which that flow was measured, kPa. */
    atKpa: z8.number().positive().max(2e3),
    /** Opening less closing delay; empty when nobody knows it. */
    dead: voltsTableSchema
  }),
  z8.object({
    type: z8.literal("pressure"),
    measures: z8.enum(["manifold", "fuel", "oil", "other"]),
    reference: z8.enum(["absolute", "gauge"])
  }),
  /** A measured quantity and its calibration. */
  z8.object({
    type: z8.literal("sensor"),
    /** Terminal that carries the signal. */
    terminal: z8.string(),
    quantity: z8.enum(quantities),
    /** Unit of the signal: volts, ohms to the return, hertz, or millivolts. */
    signal: z8.enum(["volts", "ohms", "hertz", "millivolts"]),
    curve: checkedCurveSchema,
    /** Range of the quantity it measures, in Gonyx' own unit (kPa, °C, %, lambda, km/h, rpm). */
    least: z8.number(),
    most: z8.number(),
    /** Volts follow the 5 V supply. */
    ratiometric: z8.boolean(),
    /** A signal below or above these is a fault, in the signal's unit at the pin (volts for a resistor). */
    faultBelow: z8.number().nullable(),
    faultAbove: z8.number().nullable()
  }),
  z8.object({ type: z8.literal("trigger"), shaft: z8.enum(["crank", "cam"]), sensor: z8.enum(["vr", "hall"]) }),
  z8.object({ type: z8.literal("wideband"), route: z8.enum(["volts", "can", "cell"]) }),
  z8.object({ type: z8.literal("can"), kilobits: z8.int().min(10).max(1e3), terminated: z8.boolean() }),
  /** A module on the bus that takes signals for the ECU; each terminal is one channel. */
  z8.object({
    type: z8.literal("module"),
    channels: z8.array(
      z8.object({
        terminal: z8.string(),
        kind: z8.enum(["analog", "switch", "low-side"]),
        maxAmps: z8.number().positive().max(40).optional()
      })
    ).min(1).max(40)
  }),
  z8.object({ type: z8.literal("relay-load"), suppressed: z8.boolean() }),
  /** A module that switches coils: each logic input works the output beside it. */
  z8.object({
    type: z8.literal("igniter"),
    channels: z8.array(z8.object({ input: z8.string(), output: z8.string() })).min(1).max(8),
    maxAmps: z8.number().positive().max(40)
  }),
  z8.object({
    type: z8.literal("tachometer"),
    /** Pulses the gauge wants for one crank turn. */
    pulsesPerTurn: z8.number().positive().max(12),
    drive: z8.enum(tachometerDrives)
  }),
  /** A plug of the car: what each of its cavities is. */
  z8.object({ type: z8.literal("body"), cavities: z8.array(bodyCavitySchema).max(80) }),
  z8.object({
    type: z8.literal("role"),
    role: z8.enum([
      "pump",
      "fan",
      "starter",
      "start-button",
      "clutch-switch",
      "neutral-switch",
      "brake-switch",
      "kill-switch",
      "stand-switch",
      "tilt-switch",
      "oil-switch",
      "reverse-switch",
      "alternator",
      "knock",
      "pedal",
      "throttle",
      "air-mass",
      "manifold-hose",
      "tachometer",
      "speedometer",
      "speed",
      "gauge-sender",
      "thermocouple",
      "lamp"
    ])
  })
]);
function namedTerminals(trait2) {
  if (trait2.type === "sensor") return [trait2.terminal];
  if (trait2.type === "module") return trait2.channels.map(({ terminal }) => terminal);
  return trait2.type === "igniter" ? trait2.channels.flatMap(({ input: input2, output: output2 }) => [input2, output2]) : [];
}
var kindSchema = z8.object({
  id: z8.string().regex(/^[a-z0-9-]{2,40}$/, "must be 2 to 40 lower-case letters, digits and hyphens"),
  name: z8.string().min(1).max(60),
  system: z8.enum(systems),
  note: z8.string().max(300),
  terminals: z8.array(terminalSchema).min(1).max(80),
  internals: z8.array(internalSchema).max(80),
  traits: z8.array(traitSchema).max(8),
  /** One device per cylinder is offered when it is added. */
  perCylinder: z8.boolean(),
  shielded: z8.boolean(),
  twisted: z8.boolean(),
  /** Two parts of this kind have plugs that fit each other. */
  twinRisk: z8.boolean(),
  /** Where it sits; absent: where its role and its system usually do. */
  sits: z8.enum(regions).optional(),
  /** How its plug looks; absent: nobody has drawn it. */
  face: deviceFaceSchema.optional()
}).superRefine((kind3, context) => {
  const ids = new Set(kind3.terminals.map((terminal) => terminal.id));
  if (ids.size !== kind3.terminals.length)
    context.addIssue({ code: "custom", path: ["terminals"], message: "two terminals have the same name" });
  kind3.internals.forEach((internal, index) => {
    const named3 = internal.type === "resistor" ? [internal.from, internal.to] : [internal.supply, internal.ground, internal.signal];
    const missing = named3.find((name3) => !ids.has(name3) && !carPoints.includes(name3));
    if (missing !== void 0)
      context.addIssue({ code: "custom", path: ["internals", index], message: `terminal ${missing} does not exist` });
  });
  const miss = kind3.face ? faceMiss(kind3.face, [...ids]) : null;
  if (miss !== null) context.addIssue({ code: "custom", path: ["face"], message: miss });
  kind3.traits.forEach((trait2, index) => {
    const missing = namedTerminals(trait2).find((name3) => !ids.has(name3));
    if (missing !== void 0)
      context.addIssue({ code: "custom", path: ["traits", index], message: `terminal ${missing} does not exist` });
    if (trait2.type === "sensor" && trait2.least >= trait2.most)
      context.addIssue({ code: "custom", path: ["traits", index, "most"], message: "must be above the least" });
  });
});
function trait(kind3, type) {
  return kind3.traits.find((candidate) => candidate.type === type) ?? null;
}
var hasRole = (kind3, role2) => kind3.traits.some((candidate) => candidate.type === "role" && candidate.role === role2);
var sensorsIn = (kind3) => kind3.traits.filter((one2) => one2.type === "sensor");
var thermistorIn = (kind3) => sensorsIn(kind3).find((one2) => one2.quantity === "temperature" && one2.signal === "ohms") ?? null;
function pressureRange(kind3) {
  const pressure2 = trait(kind3, "pressure");
  const sensor2 = sensorsIn(kind3).find((one2) => one2.quantity === "pressure");
  return pressure2 && sensor2 ? { measures: pressure2.measures, reference: pressure2.reference, least: sensor2.least, most: sensor2.most } : null;
}
var interlockSignals = /* @__PURE__ */ new Set(["clutch-switch", "neutral-switch", "brake-switch"]);
var holdRoles = ["clutch-switch", "neutral-switch", "stand-switch"];
var haltRoles = ["kill-switch", "tilt-switch"];
var interlockRoles = [...holdRoles, ...haltRoles, "brake-switch"];
var interlockWords = /\b(clutch|neutral|brake|(?:side ?)?stand|tilt|roll ?over|kill|emergency|seat|dead ?man)\b/i;
function protectionOf(kind3, terminal) {
  const cavity = trait(kind3, "body")?.cavities.find((one2) => one2.cavity === terminal.id);
  if (cavity) return interlockSignals.has(cavity.signal) ? "interlock" : null;
  const tracks = sensorsIn(kind3).filter((one2) => one2.quantity === "position");
  if (hasRole(kind3, "pedal") || tracks.length > 1) return "redundancy";
  const roles = interlockRoles.some((role2) => hasRole(kind3, role2));
  const input2 = terminal.destination.to === "pin" && terminal.destination.ask.kind === "switch";
  return roles || input2 && interlockWords.test(`${kind3.name} ${terminal.name}`) ? "interlock" : null;
}

// core/engine/engine.ts
import { z as z9 } from "zod";
var MOST_BOOST_KPA = 500;
var [LEAST_CC, MOST_CC] = [20, 2e4];
var engineSchema = z9.object({
  name: z9.string().min(1).max(80),
  kind: z9.enum(["four-stroke", "two-stroke", "rotary"]),
  cylinders: z9.int().min(1).max(16),
  firingOrder: z9.array(z9.int().min(1).max(16)).min(1).max(16),
  /** Crank degrees of each firing, in firing order, from the first; null for evenly spaced. */
  firingAngles: z9.array(z9.number().min(0).lt(720)).max(16).nullable(),
  /** Cylinders of each bank, from the front; empty for one row. */
  banks: z9.array(z9.array(z9.int().min(1).max(16)).min(1).max(16)).max(4).default([]),
  /** Angle between two banks, degrees; 180 where they lie flat. */
  bankDegrees: z9.number().min(0).max(180).default(0),
  aspiration: z9.enum(["atmospheric", "boosted"]),
  /** Gauge pressure wanted above the barometer, kPa. */
  boostKpa: z9.number().min(0).max(MOST_BOOST_KPA),
  maxRpm: z9.int().min(500).max(2e4),
  displacementCc: z9.number().min(LEAST_CC).max(MOST_CC),
  ignition: z9.enum(["distributor", "wasted", "direct"]),
  injection: z9.enum(["none", "batch", "semi-sequential", "sequential"]),
  /** Plugs of each chamber: two of a rotor (leading and trailing) or of a twin-plug head. */
  plugs: z9.union([z9.literal(1), z9.literal(2)]).default(1),
  /** Crank degrees the second plug fires after the first. */
  trailingDegrees: z9.number().min(0).max(40).default(0),
  /** Injectors of each cylinder: two where they are staged. */
  injectors: z9.union([z9.literal(1), z9.literal(2)]).default(1)
}).superRefine((engine2, context) => {
  const sorted = [...engine2.firingOrder].sort((a, b) => a - b);
  const whole2 = sorted.length === engine2.cylinders && sorted.every((cylinder, index) => cylinder === index + 1);
  if (!whole2) {
    context.addIssue({
      code: "custom",
      path: ["firingOrder"],
      message: `the firing order must name each cylinder from 1 to ${engine2.cylinders} once`
    });
  }
  const laid2 = engine2.banks.flat().sort((a, b) => a - b);
  if (laid2.length > 0 && (laid2.length !== engine2.cylinders || laid2.some((cylinder, index) => cylinder !== index + 1)))
    context.addIssue({
      code: "custom",
      path: ["banks"],
      message: `the banks must hold each cylinder from 1 to ${engine2.cylinders} once`
    });
  if (engine2.firingAngles && engine2.firingAngles.length !== engine2.cylinders) {
    context.addIssue({
      code: "custom",
      path: ["firingAngles"],
      message: `give ${engine2.cylinders} firing angles, one for each cylinder, or none`
    });
  }
});
var cycleDegrees = (engine2) => engine2.kind === "four-stroke" ? 720 : 360;
function firingAngleByCylinder(engine2) {
  const interval = cycleDegrees(engine2) / engine2.cylinders;
  return new Map(
    engine2.firingOrder.map((cylinder, place3) => [cylinder, engine2.firingAngles?.[place3] ?? place3 * interval])
  );
}
function shortestFiringInterval(engine2) {
  const cycle = cycleDegrees(engine2);
  const angles = [...firingAngleByCylinder(engine2).values()].sort((a, b) => a - b);
  if (angles.length < 2) return cycle;
  return Math.min(...angles.map((angle, i) => wrapDegrees((angles[i + 1] ?? angles[0] + cycle) - angle, cycle)));
}

// core/engine/fuel-data.ts
import { z as z10 } from "zod";
var fuelDataSchema = z10.object({
  fuel: z10.enum(fuels),
  /** Rail pressure over the manifold's, kPa. */
  railKpa: z10.number().min(20).max(2e3),
  /** Brake specific fuel consumption, grams per kilowatt hour. */
  bsfc: z10.number().min(150).max(1500),
  /** Power at the crank that the injectors must feed, kilowatts. */
  powerKw: z10.number().min(1).max(3e3),
  /** Share of the cycle an injector may be open at most. */
  maxDuty: z10.number().min(0.3).max(1)
});

// core/wire/colours.ts
var colourCodes = ["BK", "BN", "RD", "OG", "YE", "GN", "BU", "VT", "GY", "WH", "PK", "TQ"];
var signalClasses = {
  injector: "I",
  ignition: "C",
  output: "O",
  analog: "A",
  trigger: "T",
  supply: "P",
  ground: "G",
  bus: "N"
};
var signalClassNames = Object.keys(signalClasses);
function classOfPin(pin2) {
  switch (pin2.abilities[0].kind) {
    case "injector":
      return "injector";
    case "ignition-logic":
    case "ignition-driver":
      return "ignition";
    case "low-side":
    case "high-side":
    case "stepper":
    case "half-bridge":
    case "main-relay":
      return "output";
    case "vr":
    case "hall":
    case "frequency":
      return "trigger";
    case "can":
      return "bus";
    case "supply-5v":
    case "supply-out":
    case "permanent":
    case "switched":
      return "supply";
    case "sensor-ground":
    case "power-ground":
    case "shield":
      return "ground";
    case "analog":
    case "switch":
    case "knock":
    case "wideband":
    case "thermocouple":
      return "analog";
  }
}
var bases = {
  injector: ["GN", "TQ"],
  ignition: ["WH", "PK"],
  output: ["GY", "PK"],
  analog: ["BU", "TQ"],
  trigger: ["VT", "PK"],
  supply: ["RD", "WH"],
  "sensor-supply": ["OG", "OG"],
  ground: ["BK", "BN"],
  bus: ["YE", "BN"]
};
var stripes = ["BK", "RD", "YE", "BU", "GN", "WH", "BN", "VT", "GY", "OG"];
function classColour(signal, index) {
  const [first2, second] = bases[signal];
  const usable = (base) => ["", ...stripes.filter((stripe2) => stripe2 !== base)];
  const ofFirst = usable(first2);
  if (index < ofFirst.length) return ofFirst[index] ? `${first2}/${ofFirst[index]}` : first2;
  const ofSecond = usable(second);
  const stripe = ofSecond[(index - ofFirst.length) % ofSecond.length];
  return stripe ? `${second}/${stripe}` : second;
}
var familyOfPin = (pin2) => ["supply-5v", "supply-out"].includes(pin2.abilities[0].kind) ? "sensor-supply" : classOfPin(pin2);
var isColour = (text3) => text3.split("/").length <= 2 && text3.split("/").every((code) => colourCodes.includes(code));

// core/survey/records.ts
import { z as z12 } from "zod";

// core/donor/colours.ts
var colourWritings = ["iec", "english", "german"];
var words = {
  black: "BK",
  brown: "BN",
  red: "RD",
  orange: "OG",
  yellow: "YE",
  green: "GN",
  blue: "BU",
  violet: "VT",
  purple: "VT",
  grey: "GY",
  gray: "GY",
  slate: "GY",
  white: "WH",
  pink: "PK",
  turquoise: "TQ",
  sky: "BU",
  lime: "GN",
  tan: "BN",
  beige: "BN",
  schwarz: "BK",
  braun: "BN",
  rot: "RD",
  gelb: "YE",
  gr\u00FCn: "GN",
  gruen: "GN",
  blau: "BU",
  violett: "VT",
  lila: "VT",
  grau: "GY",
  wei\u00DF: "WH",
  weiss: "WH",
  rosa: "PK",
  t\u00FCrkis: "TQ",
  tuerkis: "TQ",
  noir: "BK",
  brun: "BN",
  marron: "BN",
  rouge: "RD",
  jaune: "YE",
  vert: "GN",
  bleu: "BU",
  gris: "GY",
  blanc: "WH",
  rose: "PK",
  negro: "BK",
  rojo: "RD",
  naranja: "OG",
  amarillo: "YE",
  verde: "GN",
  azul: "BU",
  violeta: "VT",
  blanco: "WH",
  nero: "BK",
  marrone: "BN",
  rosso: "RD",
  arancione: "OG",
  giallo: "YE",
  blu: "BU",
  viola: "VT",
  grigio: "GY",
  bianco: "WH"
};
var english = {
  B: "BK",
  BLK: "BK",
  W: "WH",
  WHT: "WH",
  R: "RD",
  RED: "RD",
  G: "GN",
  GRN: "GN",
  LG: "GN",
  DG: "GN",
  Y: "YE",
  YEL: "YE",
  L: "BU",
  BLU: "BU",
  SB: "BU",
  LB: "BU",
  DB: "BU",
  O: "OG",
  OR: "OG",
  ORN: "OG",
  BR: "BN",
  BRN: "BN",
  GR: "GY",
  GRY: "GY",
  P: "PK",
  PNK: "PK",
  V: "VT",
  VIO: "VT",
  PU: "VT",
  PPL: "VT",
  T: "BN",
  BE: "BN"
};
var german = {
  SW: "BK",
  WS: "WH",
  RT: "RD",
  GN: "GN",
  GE: "YE",
  BL: "BU",
  BR: "BN",
  GR: "GY",
  VI: "VT",
  LI: "VT",
  RS: "PK",
  RO: "PK",
  OR: "OG",
  TK: "TQ",
  HBL: "BU",
  DBL: "BU",
  HGN: "GN"
};
var iec = Object.fromEntries(colourCodes.map((code) => [code, code]));
var tokens = { iec, english, german };
var plain2 = { R: "RD", Y: "YE", W: "WH", O: "OG", P: "PK", V: "VT" };
var shades = /\b(light|dark|pale|lt|dk|hell|dunkel|clair|fonc[ée]|claro|oscuro|chiaro|scuro)\b\.?/gi;
var own = (table2, key) => Object.hasOwn(table2, key) ? table2[key] : void 0;
function partsOf(text3) {
  const parts3 = text3.replace(shades, " ").split(/[/\-+,|]|\bwith\b|\bstripe\b|\bmit\b|\s+/i).map((part2) => part2.trim()).filter(Boolean);
  return parts3.length === 0 || parts3.length > 2 ? null : parts3;
}
var codeOf = (part2, writing) => own(words, part2.toLowerCase()) ?? own(tokens[writing], part2.toUpperCase()) ?? (writing === "iec" ? own(plain2, part2.toUpperCase()) : void 0);
var grown = (parts3, writing) => writing === "english" && parts3.length === 1 && /^[A-Z]{2}$/i.test(parts3[0]) && codeOf(parts3[0], writing) === void 0 ? [...parts3[0]] : parts3;
function colourLetters(text3, writing = "iec") {
  const parts3 = partsOf(text3);
  if (!parts3) return null;
  const codes = grown(parts3, writing).map((part2) => codeOf(part2, writing) ?? null);
  return codes.every((code) => code !== null) ? codes.join("/") : null;
}
function writingOf(colours) {
  const lettered = colours.filter((text3) => {
    const parts3 = partsOf(text3);
    return parts3 !== null && parts3.some((part2) => own(words, part2.toLowerCase()) === void 0);
  });
  const found2 = colourWritings.map((writing) => ({
    writing,
    of: lettered.length,
    understood: lettered.filter((text3) => colourLetters(text3, writing) !== null).length
  }));
  return found2.reduce((best, one2) => one2.understood > best.understood ? one2 : best);
}

// core/donor/wire.ts
import { z as z11 } from "zod";
var decisions = ["open", "keep", "extend", "move", "remove", "mystery"];
var donorGroups = ["none", "engine", "body"];
var donorWireSchema = z11.object({
  id: z11.string().min(1).max(40),
  /** Place in the list. */
  row: z11.int().min(0).max(1e5),
  connector: z11.string().max(40),
  cavity: z11.string().max(12),
  colour: z11.string().max(30),
  size: z11.string().max(20),
  function: z11.string().max(120),
  condition: z11.string().max(60),
  /** Name of the splice it joins, or ''. */
  splice: z11.string().max(40),
  decision: z11.enum(decisions),
  group: z11.enum(donorGroups),
  /** New cavity for a wire that moves. */
  moveTo: z11.string().max(40),
  note: z11.string().max(200),
  /** Marked by the person as part of a restraint system. */
  restraint: z11.boolean(),
  /** Columns of the sheet it came from that Gonyx has no name for: kept, and copied out again. */
  extra: z11.record(z11.string().max(40), z11.string().max(200))
});
var DONOR_LIMIT = 2e3;
var restraintWords = /\b(air ?bags?|srs|restraints?|pre-?tensioners?|squibs?|inflators?|curtain bags?|belt tensioners?|crash sensors?|impact sensors?|occupant|clock ?spring)\b/i;
var isRestraint = (wire) => wire.restraint || [wire.function, wire.connector, wire.note, wire.splice].some((text3) => restraintWords.test(text3));
var cavityKey = (wire) => `${wire.connector.trim().toLowerCase()}|${wire.cavity.trim().toLowerCase()}`;

// core/survey/records.ts
var id = z12.string().min(1).max(60);
var day = z12.iso.date();
var questionSchema = z12.object({
  id,
  text: z12.string().trim().min(1).max(400),
  to: z12.string().max(80),
  askedOn: day,
  answer: z12.string().max(1e3),
  answeredOn: day.nullable(),
  /** Donor wire or device it is about, or ''. */
  about: z12.string().max(80)
});
var partStates = ["to-order", "ordered", "here"];
var partSchema = z12.object({
  id,
  item: z12.string().trim().min(1).max(160),
  from: z12.string().max(80),
  count: z12.number().positive().max(1e4),
  /** For one, in the build's currency; null is not known yet. */
  costEach: z12.number().min(0).max(1e6).nullable(),
  state: z12.enum(partStates)
});
var hoursSchema = z12.object({
  id,
  day,
  hours: z12.number().positive().max(24),
  what: z12.string().max(160)
});
var photoSchema = z12.object({
  id: z12.string().regex(/^[a-z0-9-]{1,60}$/, "must be lower-case letters, digits and hyphens"),
  /** A device as a whole (core/ends), `donor:<connector>`, or '' for the car as a whole. */
  about: z12.string().max(80),
  caption: z12.string().max(200),
  takenAt: z12.iso.datetime(),
  type: z12.enum(["image/jpeg", "image/png", "image/webp"]),
  width: z12.int().min(1).max(2e4),
  height: z12.int().min(1).max(2e4),
  bytes: z12.int().min(1).max(2e7)
});
var identifySchema = z12.object({
  crankPlace: z12.enum(["pulley", "flywheel", "block", "distributor", "none"]).nullable(),
  crankTeeth: z12.int().min(1).max(400).nullable(),
  crankGap: z12.enum(["none", "one", "several", "uneven"]).nullable(),
  crankGapWidth: z12.int().min(1).max(8).nullable(),
  crankWires: z12.int().min(2).max(4).nullable(),
  crankOhms: z12.number().min(0).max(1e7).nullable(),
  camTerminals: z12.enum(["none", "2", "3", "5"]).nullable(),
  camTeeth: z12.int().min(1).max(60).nullable(),
  camShape: z12.enum(["one", "half", "windows"]).nullable(),
  coilCount: z12.int().min(1).max(16).nullable(),
  coilTerminals: z12.int().min(2).max(6).nullable(),
  coilTowers: z12.int().min(1).max(8).nullable(),
  injectorCount: z12.int().min(0).max(24).nullable(),
  injectorOhms: z12.number().min(0).max(1e4).nullable(),
  sensorColour: z12.string().max(60),
  headMarks: z12.string().max(200),
  blockMarks: z12.string().max(200)
});
var noAnswers = {
  crankPlace: null,
  crankTeeth: null,
  crankGap: null,
  crankGapWidth: null,
  crankWires: null,
  crankOhms: null,
  camTerminals: null,
  camTeeth: null,
  camShape: null,
  coilCount: null,
  coilTerminals: null,
  coilTowers: null,
  injectorCount: null,
  injectorOhms: null,
  sensorColour: "",
  headMarks: "",
  blockMarks: ""
};
var surveySchema = z12.object({
  identify: identifySchema,
  donor: z12.record(z12.string(), donorWireSchema),
  /** Family of colour codes the donor's list is written in; `auto` goes by what occurs in it. */
  colours: z12.enum(["auto", ...colourWritings]),
  questions: z12.array(questionSchema).max(300),
  parts: z12.array(partSchema).max(600),
  hours: z12.array(hoursSchema).max(1e3),
  /** ISO 4217 code of the costs. */
  currency: z12.string().regex(/^[A-Z]{3}$/, "must be a currency of three capital letters, such as EUR"),
  photos: z12.array(photoSchema).max(200)
});
var emptySurvey = {
  identify: noAnswers,
  donor: {},
  colours: "auto",
  questions: [],
  parts: [],
  hours: [],
  currency: "EUR",
  photos: []
};

// core/topology/parts.ts
import { z as z13 } from "zod";

// core/ends/ends.ts
var spelled = {
  fuse: { prefix: "fuse", ports: true },
  relay: { prefix: "relay", ports: true },
  switch: { prefix: "switch", ports: true },
  button: { prefix: "button", ports: true },
  resistor: { prefix: "res", ports: true },
  diode: { prefix: "diode", ports: true },
  splice: { prefix: "splice", ports: false },
  busbar: { prefix: "bar", ports: false },
  ground: { prefix: "gnd", ports: false },
  battery: { prefix: "bat", ports: false },
  /** A feed of the car that the loom draws from. */
  tap: { prefix: "tap", ports: false },
  key: { prefix: "key", ports: false },
  shield: { prefix: "shield", ports: false },
  plug: { prefix: "plug", ports: true }
};
var partOf = new Map(
  Object.keys(spelled).map((kind3) => [spelled[kind3].prefix, { kind: kind3, ports: spelled[kind3].ports }])
);
var write = (text3) => text3;
function endKey(ref) {
  if (ref.of === "ecu") return write(`ecu:${ref.pin}`);
  if (ref.of === "device") return write(`dev:${ref.device}.${ref.terminal}`);
  const { prefix, ports } = spelled[ref.kind];
  return write(ports ? `${prefix}:${ref.part}.${ref.port}` : `${prefix}:${ref.part}`);
}
function readEnd(text3) {
  const colon = text3.indexOf(":");
  if (colon < 0) return null;
  const [prefix, rest] = [text3.slice(0, colon), text3.slice(colon + 1)];
  if (prefix === "ecu") return rest === "" ? null : { of: "ecu", pin: rest };
  const part2 = partOf.get(prefix);
  if (part2 && !part2.ports) return { of: "part", kind: part2.kind, part: rest, port: "" };
  if (!part2 && prefix !== "dev") return null;
  const dot = rest.lastIndexOf(".");
  if (dot < 1) return null;
  const [name3, port] = [rest.slice(0, dot), rest.slice(dot + 1)];
  return part2 ? { of: "part", kind: part2.kind, part: name3, port } : { of: "device", device: name3, terminal: port };
}
var read = /* @__PURE__ */ new Map();
var MOST_READ = 5e4;
function endOf(key) {
  const known9 = read.get(key);
  if (known9) return known9;
  const ref = readEnd(key);
  if (!ref) throw new Error(`not an end: ${key}`);
  if (read.size >= MOST_READ) read.clear();
  read.set(key, ref);
  return ref;
}
var ecuEnd = (pinId) => endKey({ of: "ecu", pin: pinId });
var deviceEnd = (deviceId, terminalId2) => endKey({ of: "device", device: deviceId, terminal: terminalId2 });
var part = (kind3, name3, port = "") => endKey({ of: "part", kind: kind3, part: name3, port });
var partEnd = part;
var partId = (kind3, name3) => `${spelled[kind3].prefix}:${name3}`;
var hasPorts = (kind3) => spelled[kind3].ports;
function readPart(text3) {
  const colon = text3.indexOf(":");
  const known9 = partOf.get(text3.slice(0, colon));
  return colon < 1 || !known9 || colon === text3.length - 1 ? null : { kind: known9.kind, name: text3.slice(colon + 1) };
}
function partAt(key) {
  const ref = endOf(key);
  return ref.of === "part" ? partId(ref.kind, ref.part) : null;
}
var terminalId = (deviceId, terminal) => `${deviceId}.${terminal}`;
var fuseEnd = (circuitId, side) => part("fuse", circuitId, String(side));
var relayEnd = (circuitId, terminal) => part("relay", circuitId, terminal);
var spliceEnd = (name3) => part("splice", name3);
var groundEnd = (place3) => part("ground", place3);
var shieldEnd = (deviceId) => part("shield", deviceId);
var BATTERY = part("battery", "+");
var plugEnd = (plug, cavity) => part("plug", plug, String(cavity));
var PLUS_POST = part("battery", "post");
var MINUS_POST = part("ground", "post");
var KEY_RUN = part("key", "15");
var KEY_START = part("key", "50");
function pinAt(key) {
  const ref = endOf(key);
  return ref.of === "ecu" ? ref.pin : null;
}
function deviceAt(key) {
  const ref = endOf(key);
  return ref.of === "device" ? ref.device : null;
}
function endType(key) {
  const ref = endOf(key);
  return ref.of === "part" ? ref.kind : ref.of;
}
function portOf(key) {
  const ref = endOf(key);
  return ref.of === "device" ? ref.terminal : ref.of === "part" ? ref.port : "";
}
function isSink(key) {
  const type = endType(key);
  return type === "ground" || type === "battery" || type === "key" || type === "tap";
}
var wireId = (from, to, number = 1) => `${from < to ? `${from}~${to}` : `${to}~${from}`}${number > 1 ? `#${number}` : ""}`;
function endsOfWire(id3) {
  const ends2 = id3.replace(/#\d+$/, "").split("~");
  if (ends2.length !== 2) return null;
  const [one2, other] = ends2.map(readEnd);
  return one2 && other ? [endKey(one2), endKey(other)] : null;
}
var isFarPin = (note) => note.includes("@");
var aboutDevice = (deviceId) => `dev:${deviceId}`;
var deviceNamed = (about) => about.startsWith("dev:") ? about.slice("dev:".length) : null;

// core/topology/parts.ts
var text = (most2) => z13.string().max(most2);
var metres = z13.number().min(0).max(30);
var partName = z13.string().regex(/^[a-z0-9-]{1,60}$/, "must be lower-case letters, digits and hyphens");
var relayControls = ["need", "main-relay-pin", "key-run", "key-start", "wired"];
var common = {
  name: z13.string().trim().min(1).max(60),
  /** The box it stands in, by that box's name in the plan. */
  box: partName.optional(),
  /** It was in the car before: used, not bought. */
  existing: z13.boolean().optional()
};
var USUAL_CONTACT_AMPS = 30;
var partSchema2 = z13.discriminatedUnion("kind", [
  /** `amps`: its rating where a person chose it; else it is derived. */
  z13.object({ kind: z13.literal("fuse"), ...common, amps: z13.number().positive().max(500).optional() }),
  z13.object({
    kind: z13.literal("relay"),
    ...common,
    contact: z13.enum(["make", "change-over"]),
    control: z13.enum(relayControls),
    /** What takes the kick of its winding; with a diode inside 86 goes to the supply. */
    suppression: z13.enum(["none", "diode", "resistor"]),
    /** 85 on the supply, 86 to the driver. */
    reversed: z13.boolean(),
    /** What its contact carries for good, amperes. */
    contactAmps: z13.number().positive().max(500)
  }),
  z13.object({
    kind: z13.literal("switch"),
    ...common,
    amps: z13.number().positive().max(1e3),
    resting: z13.enum(["closed", "open"])
  }),
  z13.object({ kind: z13.literal("button"), ...common }),
  z13.object({ kind: z13.literal("resistor"), ...common, ohms: z13.number().min(1e-4).max(1e6) }),
  z13.object({ kind: z13.literal("diode"), ...common }),
  z13.object({ kind: z13.literal("splice"), ...common }),
  z13.object({ kind: z13.literal("busbar"), ...common }),
  /** A bolt of the car: on its body, or on the engine. */
  z13.object({ kind: z13.literal("ground"), ...common, on: z13.enum(["body", "engine"]) }),
  z13.object({ kind: z13.literal("battery"), ...common, ampereHours: z13.number().min(1).max(500) }),
  /** A feed the car has: when it is live, what it can still give, and whether it is fused where it comes from. */
  z13.object({
    kind: z13.literal("tap"),
    ...common,
    live: z13.enum(["always", "run", "start"]),
    amps: z13.number().positive().max(500),
    fused: z13.boolean()
  })
]);
var partChangesSchema = z13.object({
  name: common.name.optional(),
  box: partName.nullable().optional(),
  existing: z13.boolean().optional(),
  amps: z13.number().positive().max(500).optional(),
  contact: z13.enum(["make", "change-over"]).optional(),
  control: z13.enum(relayControls).optional(),
  suppression: z13.enum(["none", "diode", "resistor"]).optional(),
  reversed: z13.boolean().optional(),
  contactAmps: z13.number().positive().max(500).optional()
});
function changed(part2, changes) {
  if (changes === void 0) return part2;
  const { box, ...rest } = changes;
  const own2 = box === null ? {} : box === void 0 ? {} : { box };
  const parsed = partSchema2.safeParse({ ...part2, ...rest, ...own2 });
  return parsed.success ? parsed.data : part2;
}
var boxSchema = z13.object({
  name: z13.string().trim().min(1).max(60),
  place: text(80),
  /** Columns of its lid, for the drawing and the label. */
  columns: z13.int().min(1).max(12)
});
var end = z13.string().max(160).refine((value) => readEnd(value) !== null, "must name an end").transform((value) => endKey(readEnd(value)));
var linkSchema = z13.object({ from: end, to: end, metres: metres.optional() });
var MOST_PARTS = 300;
var MOST_LINKS = 600;
var MOST_BOXES = 20;
var fewer = (most2) => (record) => Object.keys(record).length <= most2;
var feedsSchema = z13.object({
  parts: z13.record(z13.string().max(80), partSchema2.nullable()).refine(fewer(MOST_PARTS), `at most ${MOST_PARTS} parts`),
  changes: z13.record(z13.string().max(80), partChangesSchema).refine(fewer(MOST_PARTS), `at most ${MOST_PARTS} changes`),
  links: z13.record(z13.string().max(330), linkSchema.nullable()).refine(fewer(MOST_LINKS), `at most ${MOST_LINKS} links`),
  boxes: z13.record(partName, boxSchema).refine(fewer(MOST_BOXES), `at most ${MOST_BOXES} boxes`),
  /** Where fuses that are proposed draw from; null: the battery's post. */
  source: end.nullable()
}).superRefine(({ parts: parts3, links }, context) => {
  const wrong = (path, message) => context.addIssue({ code: "custom", path, message });
  for (const [id3, part2] of Object.entries(parts3)) {
    const named3 = readPart(id3);
    if (named3 === null) wrong(["parts", id3], "is no name of a part");
    else if (part2 !== null && named3.kind !== part2.kind)
      wrong(["parts", id3], `names a ${named3.kind} and holds a ${part2.kind}`);
  }
  for (const [id3, link] of Object.entries(links)) {
    const ends2 = endsOfWire(id3);
    if (ends2 === null) wrong(["links", id3], "is no name of a wire");
    else if (link !== null && !(ends2.includes(link.from) && ends2.includes(link.to)))
      wrong(["links", id3], "is not the name of a wire between these two ends");
  }
});
var noFeeds = { parts: {}, changes: {}, links: {}, boxes: {}, source: null };
var portsOf = {
  fuse: ["1", "2"],
  relay: ["30", "87", "87a", "85", "86"],
  switch: ["1", "2"],
  button: ["1", "2"],
  resistor: ["1", "2"],
  diode: ["a", "k"],
  splice: [""],
  busbar: [""],
  ground: [""],
  battery: [""],
  tap: [""]
};
var portsOfPart = (part2) => part2.kind === "relay" && part2.contact === "make" ? portsOf.relay.filter((port) => port !== "87a") : portsOf[part2.kind];
var endsOfPart = (part2, name3) => portsOfPart(part2).map((port) => partEnd(part2.kind, name3, port));

// core/tree/tree.ts
import { z as z14 } from "zod";
var vehicles = ["car", "motorcycle", "boat", "kart", "stationary"];
var engineSeats = ["front", "middle", "rear"];
var nodeKinds = ["ecu", "branch", "plug", "splice", "box", "ground", "tail"];
var zones = ["cabin", "engine", "hot", "moving", "wet"];
var coverings = ["none", "tape", "conduit", "braid", "sealed"];
var usualCelsius = { cabin: 60, engine: 85, hot: 150, moving: 85, wet: 60 };
var name = z14.string().trim().max(60);
var treeId = z14.string().regex(/^[a-z0-9-]{1,40}$/, "must be lower-case letters, digits and hyphens");
var point = z14.object({ x: z14.number().min(-5).max(40), y: z14.number().min(-5).max(40) });
var MOST_CAVITIES = 200;
var MOST_COLUMNS = 60;
var plugSchema = z14.object({
  shell: z14.enum(["in-line", "bulkhead"]),
  cavities: z14.int().min(1).max(MOST_CAVITIES),
  /** Columns of its face. */
  columns: z14.int().min(1).max(MOST_COLUMNS),
  /** The largest wire its terminals take. */
  squareMm: z14.number().positive().max(95),
  sealed: z14.boolean(),
  /** Across its shell, and across its inside where the shell comes off, mm; null: nobody has measured it. */
  shellMillimetres: z14.number().positive().max(300).nullable(),
  bareMillimetres: z14.number().positive().max(300).nullable(),
  /** True: each half is proved by itself before they are put together (sheet 6). */
  apart: z14.boolean().optional(),
  terminal: terminalNotesSchema.optional(),
  /** The connector of the donor loom that it is: its cavities had wires and functions before. */
  was: z14.string().max(40).optional(),
  /** Cavity of each wire that passes it, by the wire as it would be uncut. */
  wires: z14.record(z14.string().max(400), z14.int().min(1).max(MOST_CAVITIES))
});
var nodeSchema = z14.object({
  kind: z14.enum(nodeKinds),
  name,
  at: point,
  /** What stands here (core/tree/things). */
  holds: z14.array(z14.string().max(160)).max(300),
  plug: plugSchema.optional()
});
var holeSchema = z14.object({ millimetres: z14.number().positive().max(300), grommet: z14.boolean() });
var segmentSchema = z14.object({
  a: treeId,
  b: treeId,
  metres: z14.number().min(0).max(30),
  /** Measured by a string, or only drawn. */
  measured: z14.boolean(),
  zone: z14.enum(zones),
  /** Where the zone's usual heat is not its own. */
  celsius: z14.number().min(-40).max(400).optional(),
  /** Absent: as the whole loom is. */
  covering: z14.enum(coverings).optional(),
  hole: holeSchema.optional()
});
var MOST_NODES = 400;
var MOST_SEGMENTS = 500;
var fewer2 = (most2) => (record) => Object.keys(record).length <= most2;
var treeSchema = z14.object({
  vehicle: z14.enum(vehicles),
  engine: z14.enum(engineSeats),
  nodes: z14.record(treeId, nodeSchema).refine(fewer2(MOST_NODES), `at most ${MOST_NODES} places`),
  segments: z14.record(treeId, segmentSchema).refine(fewer2(MOST_SEGMENTS), `at most ${MOST_SEGMENTS} pieces`),
  /** A piece that a wire goes by where there are two ways, by the wire as it would be uncut. */
  via: z14.record(z14.string().max(400), treeId)
}).superRefine(({ nodes, segments }, context) => {
  for (const [id3, { a, b }] of Object.entries(segments))
    for (const end2 of [a, b])
      if (nodes[end2] === void 0)
        context.addIssue({ code: "custom", path: ["segments", id3], message: `leads to ${end2}, which is no place` });
  for (const [id3, { kind: kind3, plug }] of Object.entries(nodes))
    if (kind3 === "plug" !== (plug !== void 0))
      context.addIssue({
        code: "custom",
        path: ["nodes", id3],
        message: "is a plug without one, or has one and is none"
      });
});
var noTree = { vehicle: "car", engine: "front", nodes: {}, segments: {}, via: {} };
var celsiusOf = ({ zone, celsius }) => celsius ?? usualCelsius[zone];

// core/wire/wire.ts
var COPPER_OHM_METRE = 17241e-12;
var COPPER_PER_KELVIN = 393e-5;
var wireSeries = ["metric", "awg"];
var iec2 = "IEC 60228 class 5";
var metricSizes = [
  {
    squareMm: 0.35,
    ohmsPerKm: 54.4,
    amps: 7,
    outerMm: 1.3,
    source: "from memory (ISO 6722-1 thin wall; IEC 60228 class 5 starts at 0.5)"
  },
  { squareMm: 0.5, ohmsPerKm: 39, amps: 11, outerMm: 1.6, source: iec2 },
  { squareMm: 0.75, ohmsPerKm: 26, amps: 14, outerMm: 1.9, source: iec2 },
  { squareMm: 1, ohmsPerKm: 19.5, amps: 16.5, outerMm: 2.1, source: iec2 },
  { squareMm: 1.5, ohmsPerKm: 13.3, amps: 21, outerMm: 2.4, source: iec2 },
  { squareMm: 2.5, ohmsPerKm: 7.98, amps: 29, outerMm: 3, source: iec2 },
  { squareMm: 4, ohmsPerKm: 4.95, amps: 39, outerMm: 3.7, source: iec2 },
  { squareMm: 6, ohmsPerKm: 3.3, amps: 50, outerMm: 4.3, source: iec2 },
  { squareMm: 10, ohmsPerKm: 1.91, amps: 70, outerMm: 6, source: iec2 },
  { squareMm: 16, ohmsPerKm: 1.21, amps: 94, outerMm: 7.2, source: iec2 },
  { squareMm: 25, ohmsPerKm: 0.78, amps: 130, outerMm: 8.7, source: iec2 },
  { squareMm: 35, ohmsPerKm: 0.554, amps: 160, outerMm: 10.4, source: iec2 },
  { squareMm: 50, ohmsPerKm: 0.386, amps: 200, outerMm: 12.2, source: iec2 }
];
var awgDiameterMm = (gauge2) => 0.127 * 92 ** ((36 - gauge2) / 39);
var awgSquareMm = (gauge2) => Math.PI / 4 * awgDiameterMm(gauge2) ** 2;
var LAY = 1.02;
var gauges = [22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0, -1];
function between(squareMm, of) {
  const at = Math.min(
    metricSizes.length - 2,
    Math.max(0, metricSizes.findIndex((size) => size.squareMm > squareMm) - 1)
  );
  const last = squareMm > metricSizes[metricSizes.length - 1].squareMm;
  const [one2, other] = last ? metricSizes.slice(-2) : metricSizes.slice(at, at + 2);
  const share = Math.log(squareMm / one2.squareMm) / Math.log(other.squareMm / one2.squareMm);
  return of(one2) * (of(other) / of(one2)) ** share;
}
var gaugeSizes = gauges.map((gauge2) => {
  const area = awgSquareMm(gauge2);
  return {
    squareMm: Math.round(area * 1e3) / 1e3,
    gauge: gauge2,
    ohmsPerKm: COPPER_OHM_METRE * 1e9 * LAY / area,
    amps: Math.round(between(area, ({ amps: amps2 }) => amps2) * 10) / 10,
    outerMm: Math.round(between(area, ({ outerMm }) => outerMm) * 10) / 10,
    source: "ASTM B258 (diameter), IEC 60028 (copper), 2 % for the lay; current as of the metric sizes beside it"
  };
});
var seriesSizes = (series) => series === "awg" ? gaugeSizes : metricSizes;
var byArea = new Map([...metricSizes, ...gaugeSizes].map((size) => [size.squareMm, size]));
var wireSize = (squareMm) => byArea.get(squareMm) ?? null;
var NEARLY = 0.85;
function inSeries(squareMm, series) {
  const sizes2 = seriesSizes(series);
  return (sizes2.find((size) => size.squareMm >= NEARLY * squareMm) ?? sizes2[sizes2.length - 1]).squareMm;
}
function wireOhms(squareMm, lengthMetres, celsius = 20) {
  const size = wireSize(squareMm);
  const perMetre = size ? size.ohmsPerKm / 1e3 : COPPER_OHM_METRE * 1e6 / squareMm;
  return perMetre * lengthMetres * (1 + COPPER_PER_KELVIN * (celsius - 20));
}
var grouping = [
  [1, 1],
  [2, 0.8],
  [3, 0.7],
  [4, 0.65],
  [5, 0.6],
  [6, 0.57],
  [7, 0.54],
  [8, 0.52],
  [9, 0.5],
  [12, 0.45],
  [16, 0.41],
  [20, 0.38]
];
var MOST_GROUPED = 0.38;
function groupingFactor(loadedCircuits) {
  return grouping.find(([count2]) => loadedCircuits <= count2)?.[1] ?? MOST_GROUPED;
}
function ambientFactor(maxCelsius, ambientCelsius, referenceCelsius = 30) {
  if (ambientCelsius >= maxCelsius) return 0;
  return Math.sqrt((maxCelsius - ambientCelsius) / (maxCelsius - referenceCelsius));
}
var shareIn = ({ loadedCircuits, wireCelsius, ambientCelsius }) => groupingFactor(loadedCircuits) * ambientFactor(wireCelsius, ambientCelsius);
function carriedAmps(squareMm, around2) {
  const size = wireSize(squareMm);
  if (!size) return 0;
  return size.amps * shareIn(around2);
}
function sizeFor(amps2, around2, atLeast = 0) {
  const sizes2 = seriesSizes(around2.series);
  const share = shareIn(around2);
  const found2 = sizes2.find((size) => size.squareMm >= atLeast && size.amps * share >= amps2);
  return (found2 ?? sizes2[sizes2.length - 1]).squareMm;
}

// core/speed/chain.ts
import { z as z15 } from "zod";
var MOST_GEARS = 6;
var MOST_GAUGES = 8;
var gearSchema = z15.object({
  name: z15.string().trim().min(1).max(40),
  /** Teeth on the shaft nearer the wheel (the crown wheel), or the ratio. */
  wheelSide: z15.number().positive().max(200),
  /** Teeth on the shaft nearer the sensor (the pinion), or 1. */
  sensorSide: z15.number().positive().max(200)
});
var sensedSchema = z15.object({
  /** Pulses of one turn of the shaft the sensor reads. */
  pulsesPerTurn: z15.number().positive().max(500),
  /** From the sensor to the wheel; none where it reads the wheel itself. */
  gears: z15.array(gearSchema).max(MOST_GEARS)
});
var tyreSchema = z15.discriminatedUnion("by", [
  z15.object({
    by: z15.literal("size"),
    widthMm: z15.number().min(50).max(500),
    /** Height of the side wall, percent of the width. */
    aspect: z15.number().min(15).max(100),
    rimInches: z15.number().min(4).max(30)
  }),
  /** Measured: chalk on the tyre and the floor, one turn. */
  z15.object({ by: z15.literal("rolled"), metres: z15.number().min(0.2).max(8) })
]);
var gaugeFeeds = ["ecu", "sensor"];
var gaugeSchema = z15.object({
  id: z15.string().regex(/^[a-z0-9-]{1,40}$/, "must be lower-case letters, digits and hyphens"),
  name: z15.string().trim().min(1).max(40),
  pulsesPerKm: z15.number().positive().max(1e6),
  fedBy: z15.enum(gaugeFeeds)
});
var speedSchema = sensedSchema.extend({
  tyre: tyreSchema,
  /** Where the sensor, or the one before it, stood when the gauges were right; null where nothing has moved. */
  before: sensedSchema.nullable(),
  gauges: z15.array(gaugeSchema).max(MOST_GAUGES)
});
var MM_PER_INCH2 = 25.4;
var ROLLED_PER_DIAMETER = 3.05;
var tyreDiameter = ({ widthMm, aspect, rimInches }) => (rimInches * MM_PER_INCH2 + 2 * widthMm * aspect / 100) / 1e3;
var rolledMetres = (tyre) => tyre.by === "rolled" ? tyre.metres : ROLLED_PER_DIAMETER * tyreDiameter(tyre);
var shaftTurns = (gears) => gears.reduce((turns, { wheelSide, sensorSide }) => turns * wheelSide / sensorSide, 1);
var pulsesPerWheelTurn = ({ pulsesPerTurn, gears }) => pulsesPerTurn * shaftTurns(gears);
var pulsesPerKm = (sensed, tyre) => pulsesPerWheelTurn(sensed) * 1e3 / rolledMetres(tyre);
var hertzAt = (perKm, kmh) => perKm * kmh / 3600;
var gaugeFactor = (given2, wanted) => given2 / wanted;
function gaugeReads(chain, gauge2) {
  const given2 = gauge2.fedBy === "ecu" ? gauge2.pulsesPerKm : pulsesPerKm(chain, chain.tyre);
  return { given: given2, factor: gaugeFactor(given2, gauge2.pulsesPerKm) };
}
var SPEED_TOLERANCE = 0.03;
var CABLE_PER_KM = 1e3 / KM_PER_MILE;
var USUAL_GAUGE_PER_KM = Math.round(4e3 / KM_PER_MILE * 100) / 100;

// core/build/schema.ts
var BUILD_SCHEMA_VERSION = 10;
var id2 = z16.string().min(1).max(120);
var buildIdSchema = z16.string().regex(/^[A-Za-z0-9][A-Za-z0-9_-]{0,119}$/, "must be 1 to 120 letters, digits, hyphens or underscores");
var text2 = (most2) => z16.string().max(most2);
var instant = z16.iso.datetime();
var metres2 = z16.number().min(0).max(30);
var takenOn = z16.array(z16.string().max(200)).max(60);
var deviceSchema = z16.object({
  id: z16.string().regex(/^[a-z0-9-]{1,60}$/, "must be lower-case letters, digits and hyphens"),
  kindId: z16.string(),
  label: z16.string().min(1).max(60),
  /** Cylinders it serves, rising: one, those that share it, or none where it serves the whole engine. */
  serves: z16.array(z16.int().min(1).max(16)).max(16),
  /** Which plug or injector of a cylinder: 1 leading or primary, 2 trailing or secondary. */
  row: z16.union([z16.literal(1), z16.literal(2)]),
  /** Bank of cylinders it stands on, where it serves none by name: an oxygen sensor, a cam sensor; null for the whole engine. */
  bank: z16.int().min(1).max(4).nullable(),
  /** Length of its branch from the ECU, metres. */
  branchMetres: metres2,
  /** The terminal order was read off the part in hand. */
  terminalsConfirmed: z16.boolean(),
  shield: z16.enum(["ecu-end", "both-ends", "none"]),
  /** Departures from the kind's own destinations, by terminal. */
  overrides: z16.record(z16.string(), destinationSchema),
  /** Both plugs of a twin carry a label. */
  labelled: z16.boolean(),
  /** Ohms of a resistor fitted outside, from the signal to 5 V; null for none. */
  pullUpOhms: z16.number().positive().max(1e6).nullable(),
  /** What its wires are made of: a thermocouple wants its own alloys all the way. */
  leadWire: z16.enum(["copper", "type-k"]),
  /** Calibrations the ECU is set to where they are not the part's own, by signal terminal. */
  ecuCurves: z16.record(z16.string(), z16.object({ name: z16.string().min(1).max(60), curve: checkedCurveSchema }))
});
var busSchema = z16.object({
  id: z16.string().regex(/^[a-z0-9-]{1,30}$/, "must be lower-case letters, digits and hyphens"),
  name: z16.string().trim().min(1).max(40),
  kilobits: z16.int().min(10).max(1e3),
  members: z16.array(z16.string()).max(100),
  /** Metres from the trunk to a member, where they were measured. */
  stubs: z16.record(z16.string(), z16.number().min(0).max(30)).optional()
});
var MOST_BUSES = 16;
var circuitChoiceSchema = z16.object({
  lengthMetres: metres2.optional(),
  squareMm: z16.number().positive().max(95).optional(),
  fuseAmps: z16.number().positive().max(200).optional(),
  fuseDistanceMetres: metres2.optional(),
  relay: z16.enum(["plain", "diode"]).optional(),
  /** DIN 72552: 86 to supply, 85 to the driver; `reversed` swaps them. */
  winding: z16.enum(["as-marked", "reversed"]).optional(),
  switchedBy: z16.enum(["ecu", "key"]).optional(),
  /** A way of its own from the battery (of the relay windings: a fuse of their own), or behind the main relay. */
  feed: z16.enum(["own", "shared"]).optional()
});
var readingSchema = z16.object({
  /** Measured value in the test's unit; null is an open line. */
  value: z16.number().min(0).max(1e9).nullable(),
  at: instant,
  by: text2(40),
  note: text2(200),
  /** What the wire was when it was measured, for the sentence when it changes. */
  title: text2(120)
});
var confirmationSchema = z16.object({
  at: instant,
  by: z16.string().min(1).max(40),
  value: z16.number().nullable(),
  on: takenOn
});
var offsetReadingSchema = z16.object({
  at: instant,
  rpm: z16.number().min(0).max(2e4),
  commandedDegrees: z16.number().min(-60).max(60),
  seenDegrees: z16.number().min(-720).max(720),
  oldOffset: z16.number(),
  newOffset: z16.number(),
  on: takenOn
});
var caseReadingSchema = z16.object({ testId: z16.string().max(200), value: z16.number().nullable(), at: instant });
var caseSchema = z16.object({
  id: id2,
  symptomId: z16.string().max(200),
  openedAt: instant,
  readings: z16.array(caseReadingSchema).max(200),
  closed: z16.object({ at: instant, faultId: z16.string().max(200), title: text2(200), note: text2(400) }).nullable()
});
var sensorReadingSchema = z16.object({
  /** Volts, hertz or millivolts at the pin; null when not measured. */
  atPin: z16.number().min(-1e3).max(1e6).nullable(),
  /** What the ECU shows, in Gonyx' own unit of the quantity; null when not read. */
  shown: z16.number().min(-1e6).max(1e6).nullable(),
  at: instant,
  by: text2(40),
  on: takenOn
});
var asideSchema = z16.object({
  rule: z16.string().max(20),
  by: z16.string().trim().min(1).max(40),
  reason: z16.string().trim().min(1).max(300),
  at: instant,
  detail: text2(2e3)
});
var planFields = {
  engine: engineSchema,
  ecu: ecuSchema,
  /** Definitions of every device kind in use, so that the file needs no catalog. */
  kinds: z16.record(z16.string(), kindSchema),
  devices: z16.array(deviceSchema).max(300),
  /** CAN buses, each on one pair of the ECU at one rate. */
  buses: z16.array(busSchema).max(MOST_BUSES),
  /** What an output's number means; starts as the ECU's own school. */
  outputOrder: z16.enum(["in-turn", "by-cylinder"]),
  /** Need id to pin id. */
  assignments: z16.record(z16.string(), z16.string()),
  /** Needs that hang on the output of another, by that other: injectors opened together, coils fired together. */
  joined: z16.record(z16.string(), z16.string()),
  /** Needs whose pin must not move (crimped, or the person's wish). */
  locked: z16.array(z16.string()).max(400),
  trigger: z16.object({
    crankWheel: wheelSchema.nullable(),
    camWheel: wheelSchema.nullable(),
    /** Edge of the crank signal the ECU is set to; not said while none is. */
    crankEdge: z16.enum(["rising", "falling"]).nullable().optional(),
    /** Crank degrees from the first tooth after the gap to TDC 1, 0 to cycle. */
    offsetDegrees: z16.number().min(0).lt(720),
    /** How the ECU names it: counted from the tooth on to TDC 1 or from TDC 1 on to the tooth; from 0 up, about 0, or -360 to 360. */
    offsetWay: z16.object({
      counts: z16.enum(["tooth-to-tdc", "tdc-to-tooth"]),
      range: z16.enum(["up", "signed", "wide"])
    }),
    offsetConfirmed: z16.boolean(),
    readings: z16.array(offsetReadingSchema).max(200),
    lockDegrees: z16.union([z16.literal(0), z16.literal(10)]),
    /** Speed variation within a cranking turn, as a share of the mean. */
    ripple: z16.number().min(0).max(0.6),
    /** For the event chart. */
    chartRpm: z16.int().min(100).max(2e4),
    dwellMilliseconds: z16.number().positive().max(20),
    injectionMilliseconds: z16.number().positive().max(40),
    advanceDegrees: z16.number().min(-20).max(60)
  }),
  power: z16.object({
    circuits: z16.record(z16.string(), circuitChoiceSchema),
    ecuGround: z16.enum(["battery", "head"]),
    groundMetres: z16.record(z16.enum(groundPlaces), metres2),
    strapSquareMm: z16.number().positive().max(95),
    strapMetres: metres2.refine((value) => value > 0, "a strap has a length"),
    starting: z16.enum(["key", "button"]),
    /** Whether the battery is charged by the engine, or lives on what it holds. */
    charging: z16.enum(["alternator", "none"]),
    /** Capacity of the battery, ampere-hours. */
    batteryAh: z16.number().min(1).max(500),
    /** What the alternator is marked with, amperes; absent: nobody has told. */
    alternatorAmps: z16.number().min(1).max(500).optional()
  }),
  /** What was decided of the plan of feeds; the rest is proposed. */
  feeds: feedsSchema,
  loom: z16.object({
    slackMetres: metres2,
    covering: z16.enum(["tape", "conduit", "braid", "sealed"]),
    origin: z16.enum(["new", "stripped-donor", "adapter", "flying-lead"]),
    joining: z16.enum(["crimp", "solder-sleeve", "solder-and-shrink"]),
    holeMillimetres: z16.number().positive().max(200),
    zoneCelsius: z16.number().min(-40).max(250),
    wireCelsius: z16.number().min(60).max(250),
    /** What wire is on the shelf: sizes are proposed from it. */
    series: z16.enum(wireSeries),
    blanksFitted: z16.boolean(),
    orderOfWork: z16.enum(["powers-first", "engine-side-first", "shortest-first"]),
    /** What stands on the labels of wires: words, and fields between braces (core/loom/labels). */
    label: z16.string().min(1).max(120),
    /** How long the leads are that came with the ECU; absent: nobody has said. */
    leadMetres: metres2.optional(),
    /** Where a phone finds Gonyx, for tags that lead to a run; absent or empty: there are no tags. */
    tags: z16.string().trim().max(200).optional(),
    wires: z16.record(
      z16.string(),
      z16.object({ squareMm: z16.number().positive().max(95).optional(), colour: z16.string().max(12).optional() })
    )
  }),
  /** The loom as it lies in the car: places, pieces between them, plugs. */
  tree: treeSchema,
  site: z16.object({
    altitudeMetres: z16.number().min(-430).max(6e3),
    ambientCelsius: z16.number().min(-40).max(60)
  }),
  /** Spares to keep, by kind of pin; `any` counts them all. */
  reserve: z16.partialRecord(z16.enum(["any", ...abilityKinds]), z16.int().min(0).max(40)),
  /** Pins that must stay empty (`needId` null) or must not take one need. */
  never: z16.array(z16.object({ needId: z16.string().max(120).nullable(), pinId: z16.string().max(8) })).max(400),
  /** Pin of a shared 5 V supply or sensor ground, by `device.terminal`; absent: by the terminal's bank. */
  shared: z16.record(z16.string(), z16.string()),
  /** What a ground pin that can be either is wired as, where the person decided; a power ground may be shared as well. */
  groundUse: z16.record(z16.string(), z16.enum(["ecu", "sensors", "both"])),
  fuel: fuelDataSchema,
  /** From the speed sensor to the road; null where it was not told. */
  speed: speedSchema.nullable()
};
var spoolSchema = z16.object({
  id: z16.string().regex(/^[a-z0-9-]{1,40}$/, "must be lower-case letters, digits and hyphens"),
  colour: z16.string().min(2).max(12),
  squareMm: z16.number().positive().max(95),
  metres: z16.number().min(0).max(5e3)
});
var boughtSchema = z16.object({
  have: z16.number().min(0).max(1e5),
  ordered: z16.number().min(0).max(1e5),
  arrived: z16.number().min(0).max(1e5),
  /** For one piece or metre, in the person's money. */
  price: z16.number().min(0).max(1e6).nullable(),
  supplier: z16.string().max(60)
});
var MOST_SPOOLS = 300;
var storesSchema = z16.object({
  spools: z16.array(spoolSchema).max(MOST_SPOOLS),
  /** How long a spool is that is bought. */
  spoolMetres: z16.number().min(1).max(1e3),
  /** By the line's key. */
  parts: z16.record(z16.string().max(160), boughtSchema)
});
var tints = ["sky", "rose", "olive", "mint", "lilac", "blush", "slate", "teal", "amber", "none"];
var patterns = ["plain", "lines", "dots", "grid", "slants"];
var markSchema = z16.object({
  letter: z16.string().regex(/^[A-Z0-9]{1,2}$/, "must be one or two capital letters or digits"),
  tint: z16.enum(tints),
  pattern: z16.enum(patterns)
});
var pinningOrders = ["connector", "device", "branch", "powers-first"];
var pinningEnds = ["ecu", "devices", "plugs"];
var planSchema = z16.object(planFields);
var revisionSchema = z16.object({
  letter: z16.string().regex(/^[A-Z]{1,2}$/, "must be one or two capital letters"),
  at: instant,
  note: text2(300),
  plan: planSchema
});
var buildSchema = z16.object({
  schemaVersion: z16.literal(BUILD_SCHEMA_VERSION),
  id: buildIdSchema,
  name: z16.string().trim().min(1).max(80),
  vehicle: text2(120),
  notes: text2(4e3),
  createdAt: instant,
  ...planFields,
  /** What pressures, temperatures and mixtures are read in, everywhere. */
  units: unitsSchema,
  /** What is on the shelf and on order. Not part of a revision. */
  stores: storesSchema,
  /** What was found: donor loom, questions, parts, hours, photographs. Not part of a revision. */
  survey: surveySchema,
  /** Key-on readings by device and signal terminal. */
  sensing: z16.object({ readings: z16.record(z16.string(), sensorReadingSchema) }),
  prove: z16.object({
    leadOhms: z16.number().min(0).max(5),
    by: text2(40),
    readings: z16.record(z16.string(), readingSchema)
  }),
  /** Cavities done at the bench, by wire: a changed end makes a new wire, and its crimp falls away visibly. */
  pinning: z16.object({
    order: z16.enum(pinningOrders),
    /** Absent: the ECU's. */
    ends: z16.enum(pinningEnds).optional(),
    done: z16.record(z16.string(), z16.object({ at: instant, by: text2(40) }))
  }),
  /** Own letters, tints and patterns of signal classes. */
  marks: z16.partialRecord(z16.enum(signalClassNames), markSchema),
  /** Gate id to check id to who confirmed it and when. */
  fireup: z16.record(z16.string(), z16.record(z16.string(), confirmationSchema)),
  /** Findings set aside, by the finding's id. */
  aside: z16.record(z16.string().max(200), asideSchema),
  cases: z16.array(caseSchema).max(100),
  revisions: z16.array(revisionSchema).max(52)
});
var planKeys = Object.keys(planFields);
function planOf(build) {
  return Object.fromEntries(planKeys.map((key) => [key, build[key]]));
}

// core/data/with-id.ts
var indexes = /* @__PURE__ */ new WeakMap();
function withId(list, id3) {
  if (id3 === null || id3 === void 0) return void 0;
  let index = indexes.get(list);
  if (!index) {
    const made = /* @__PURE__ */ new Map();
    for (const item of list) if (!made.has(item.id)) made.set(item.id, item);
    indexes.set(list, made);
    index = made;
  }
  return index.get(id3);
}

// core/build/destination.ts
var destinationOf = (device, terminal) => device.overrides[terminal.id] ?? terminal.destination;
var sharedPin = (build, pins, id3, bank) => withId(pins, build.shared[id3]) ?? pins[bank % pins.length];

// core/netlist/bus.ts
var busSides = ["plus", "minus"];
function busTerminal(device, kind3, side) {
  return kind3.terminals.find((terminal) => {
    const destination = destinationOf(device, terminal);
    return destination.to === "pin" && destination.ask.kind === "can" && destination.ask.side === side;
  }) ?? null;
}
var busOf = (build, deviceId) => build.buses.find(({ members }) => members.includes(deviceId)) ?? null;
function membersOf(build, bus2) {
  return bus2.members.flatMap((id3) => {
    const device = build.devices.find((one2) => one2.id === id3);
    const kind3 = device && build.kinds[device.kindId];
    return device && kind3 && trait(kind3, "can") ? [{ device, kind: kind3 }] : [];
  });
}
function leadsBus(build, deviceId) {
  const bus2 = busOf(build, deviceId);
  return bus2 === null || membersOf(build, bus2)[0]?.device.id === deviceId;
}
var STUB_METRES = 0.1;
var stubOf = (bus2, deviceId) => bus2.stubs?.[deviceId] ?? STUB_METRES;
var TERMINATION_OHMS = 120;
var RECESSIVE_VOLTS = 2.5;
function busFigures(build, bus2) {
  const others = membersOf(build, bus2).filter(({ kind: kind3 }) => trait(kind3, "can").terminated).length;
  return {
    ends: others + 1,
    ohms: TERMINATION_OHMS / (others + 1),
    withoutEcu: others === 0 ? null : TERMINATION_OHMS / others,
    restVolts: RECESSIVE_VOLTS
  };
}
function addBusLine(list, build, bus2, side, pinId, look) {
  const members = membersOf(build, bus2);
  let [from, reached] = [ecuEnd(pinId), 0];
  members.forEach(({ device, kind: kind3 }, at) => {
    const terminal = busTerminal(device, kind3, side);
    if (!terminal) return;
    const end2 = deviceEnd(device.id, terminal.id);
    const shared = { ...look, needId: at === 0 ? look.needId : null, cable: bus2.id, deviceId: device.id };
    const metres4 = at === 0 ? device.branchMetres : Math.abs(device.branchMetres - reached);
    reached = device.branchMetres;
    if (at === members.length - 1) {
      list.add(from, end2, { ...shared, metres: Math.max(STUB_METRES, metres4) });
      return;
    }
    const splice = spliceEnd(`${bus2.id}-${side}-${at + 1}`);
    const stub = stubOf(bus2, device.id);
    list.add(from, splice, { ...shared, metres: Math.max(STUB_METRES, metres4 - stub) });
    list.add(splice, end2, { ...shared, needId: null, metres: stub, local: true });
    from = splice;
  });
}

// core/edits/buses.ts
function speakers(build) {
  return new Map(
    build.devices.flatMap((device) => {
      const can3 = build.kinds[device.kindId] && trait(build.kinds[device.kindId], "can");
      return can3 ? [[device.id, can3.kilobits]] : [];
    })
  );
}
function freeBus(buses, kilobits) {
  let number = 1;
  while (buses.some(({ id: id3 }) => id3 === `can-${number}`)) number += 1;
  return { id: `can-${number}`, name: `CAN ${number}`, kilobits };
}
function joined(build) {
  const rates = speakers(build);
  const on = /* @__PURE__ */ new Set();
  let buses = build.buses.map((bus2) => ({
    ...bus2,
    members: bus2.members.filter((id3) => {
      const stays = rates.has(id3) && !on.has(id3);
      on.add(id3);
      return stays;
    })
  })).filter(({ members }) => members.length > 0);
  for (const [id3, kilobits] of rates) {
    if (on.has(id3)) continue;
    const bus2 = buses.find((one2) => one2.kilobits === kilobits) ?? (buses.length >= MOST_BUSES ? buses.at(-1) : void 0);
    buses = bus2 ? buses.map((one2) => one2 === bus2 ? { ...one2, members: [...one2.members, id3] } : one2) : [...buses, { ...freeBus(buses, kilobits), members: [id3] }];
  }
  return JSON.stringify(buses) === JSON.stringify(build.buses) ? build : { ...build, buses };
}
function carried(before, after) {
  const moved = /* @__PURE__ */ new Map();
  for (const bus2 of after.buses) {
    const old = before.buses.find(({ id: id3 }) => id3 === bus2.id);
    const [was, is] = [old && membersOf(before, old)[0], membersOf(after, bus2)[0]];
    if (!was || !is || was.device.id === is.device.id) continue;
    for (const side of busSides) {
      const [one2, other] = [busTerminal(was.device, was.kind, side), busTerminal(is.device, is.kind, side)];
      if (one2 && other) moved.set(terminalId(was.device.id, one2.id), terminalId(is.device.id, other.id));
    }
  }
  if (moved.size === 0) return after;
  const name3 = (id3) => moved.get(id3) ?? id3;
  return {
    ...after,
    // What was placed before is asked: the edit may have dropped it with the device already.
    assignments: {
      ...after.assignments,
      ...Object.fromEntries(
        [...moved].flatMap(([was, is]) => before.assignments[was] ? [[is, before.assignments[was]]] : [])
      )
    },
    locked: [...new Set([...after.locked, ...before.locked.filter((id3) => moved.has(id3))].map(name3))],
    never: after.never.map((one2) => one2.needId === null ? one2 : { ...one2, needId: name3(one2.needId) })
  };
}
function withBuses(before, after) {
  if (after.devices === before.devices && after.kinds === before.kinds && after.buses === before.buses) return after;
  return carried(before, joined(after));
}
var busEdits = {
  setBus: edit(
    z17.object({ bus: busSchema }),
    ({ bus: bus2 }) => `Change ${bus2.name}`,
    (build, { bus: bus2 }) => {
      const rates = speakers(build);
      const stranger = bus2.members.find((id3) => !rates.has(id3));
      if (stranger !== void 0)
        return fail("no-member", "bus.members", `${stranger} is no CAN device of this build.`);
      if (new Set(bus2.members).size !== bus2.members.length)
        return fail("twice", "bus.members", "A device stands once on its bus.");
      if (bus2.members.length === 0) return fail("empty", "bus.members", "A bus has a member at least.");
      const others = build.buses.filter(({ id: id3 }) => id3 !== bus2.id).map((one2) => ({ ...one2, members: one2.members.filter((id3) => !bus2.members.includes(id3)) })).filter(({ members }) => members.length > 0);
      const place3 = build.buses.findIndex(({ id: id3 }) => id3 === bus2.id);
      const buses = place3 < 0 ? [...others, bus2] : [...others.slice(0, place3), bus2, ...others.slice(place3)];
      if (buses.length > MOST_BUSES) return fail("too-many", "bus", `A build holds at most ${MOST_BUSES} buses.`);
      return ok({ ...build, buses });
    }
  )
};

// core/edits/faces.ts
import { z as z18 } from "zod";

// core/data/natural.ts
var collator = new Intl.Collator("en", { numeric: true, sensitivity: "base" });
var natural = (one2, other) => collator.compare(one2, other);

// core/data/group.ts
function groupBy(items, keyOf) {
  const groups = /* @__PURE__ */ new Map();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}

// core/donor/sort.ts
var donorList = (donor) => Object.values(donor).sort((one2, other) => one2.row - other.row);
var spliceKey = (wire) => wire.splice.trim().toLowerCase();
function splitSplices(wires) {
  const groups = groupBy(
    wires.filter((wire) => spliceKey(wire) !== ""),
    spliceKey
  );
  return [...groups.values()].flatMap((group) => {
    const go = group.filter((wire) => wire.decision === "remove");
    const stay = group.filter((wire) => ["keep", "extend", "move"].includes(wire.decision));
    return go.length > 0 && stay.length > 0 ? [{ splice: group[0].splice.trim(), stay, go }] : [];
  });
}

// core/tree/things.ts
var ECU_THING = "ecu";
var deviceThing = aboutDevice;
var deviceOfThing = deviceNamed;
var boxThing = (box) => `box:${box}`;
var LOOSE_BOX = boxThing("");
var BATTERY_THING = partId("battery", "+");
var KEY_THINGS = [partId("key", "15"), partId("key", "50")];
var groundThing = (place3) => partId("ground", place3);
var standsAlone = /* @__PURE__ */ new Set(["splice", "ground", "battery", "key"]);
function thingsOf(end2, boxOf) {
  const ref = endOf(end2);
  if (ref.of === "ecu") return [ECU_THING];
  if (ref.of === "device") return [aboutDevice(ref.device)];
  if (ref.kind === "shield") return [aboutDevice(ref.part)];
  const id3 = partAt(end2);
  if (id3 === groundThing("battery")) return [id3, BATTERY_THING];
  if (standsAlone.has(ref.kind)) return [id3];
  const box = boxOf(id3);
  return box === void 0 ? [id3, LOOSE_BOX] : [id3, boxThing(box), LOOSE_BOX];
}
function placesOf({ nodes }) {
  const places = /* @__PURE__ */ new Map();
  for (const [id3, { holds }] of Object.entries(nodes))
    for (const thing of holds) if (!places.has(thing)) places.set(thing, id3);
  return places;
}

// core/tree/ways.ts
var Ways = class {
  constructor(tree) {
    this.tree = tree;
    for (const id3 of Object.keys(tree.nodes)) this.edges.set(id3, []);
    for (const [segment, { a, b, metres: metres4 }] of Object.entries(tree.segments)) {
      this.edges.get(a).push({ segment, to: b, metres: metres4 });
      this.edges.get(b).push({ segment, to: a, metres: metres4 });
    }
  }
  tree;
  edges = /* @__PURE__ */ new Map();
  searches = /* @__PURE__ */ new Map();
  ways = /* @__PURE__ */ new Map();
  /** All places that are reached from one (Dijkstra). */
  search(start) {
    const known9 = this.searches.get(start);
    if (known9) return known9;
    const found2 = /* @__PURE__ */ new Map();
    const open = [{ metres: 0, node: start, by: null, from: start }];
    while (open.length > 0) {
      let least = 0;
      for (let i = 1; i < open.length; i += 1) if (open[i].metres < open[least].metres) least = i;
      const [{ metres: metres4, node, by, from }] = open.splice(least, 1);
      if (found2.has(node)) continue;
      found2.set(node, { metres: metres4, by, from });
      for (const edge of this.edges.get(node) ?? [])
        if (!found2.has(edge.to)) open.push({ metres: metres4 + edge.metres, node: edge.to, by: edge, from: node });
    }
    this.searches.set(start, found2);
    return found2;
  }
  /** Metres between two places; Infinity where no way leads. */
  metres(from, to) {
    return this.search(from).get(to)?.metres ?? Infinity;
  }
  way(from, to) {
    const key = `${from} ${to}`;
    const known9 = this.ways.get(key);
    if (known9 !== void 0) return known9;
    const search = this.search(from);
    const end2 = search.get(to);
    let made = null;
    if (end2) {
      const segments = [];
      const nodes = [to];
      for (let at = end2; at.by !== null; at = search.get(at.from)) {
        segments.push(at.by.segment);
        nodes.push(at.from);
      }
      made = { metres: end2.metres, segments: segments.reverse(), nodes: nodes.reverse() };
    }
    this.ways.set(key, made);
    return made;
  }
  /** The way by one piece, where there are two: to its nearer end, along it, and on. Null: it cannot be gone by. */
  by(from, to, via) {
    const piece2 = this.tree.segments[via];
    if (!piece2) return null;
    const along = (one2, other) => {
      const [before, after] = [this.way(from, one2), this.way(other, to)];
      if (!before || !after || before.segments.includes(via) || after.segments.includes(via)) return null;
      return {
        metres: before.metres + piece2.metres + after.metres,
        segments: [...before.segments, via, ...after.segments],
        nodes: [...before.nodes, ...after.nodes]
      };
    };
    const straight = this.way(from, to);
    if (straight?.segments.includes(via)) return straight;
    const both2 = [along(piece2.a, piece2.b), along(piece2.b, piece2.a)].filter((one2) => one2 !== null);
    return both2.sort((one2, other) => one2.metres - other.metres)[0] ?? null;
  }
};
var known3 = /* @__PURE__ */ new WeakMap();
function waysOf(tree) {
  const ways = known3.get(tree) ?? new Ways(tree);
  known3.set(tree, ways);
  return ways;
}
function piecesOf(tree) {
  const ways = waysOf(tree);
  const left = new Set(Object.keys(tree.nodes));
  const pieces = [];
  for (const start of left) {
    const piece2 = [...left].filter((node) => ways.metres(start, node) < Infinity);
    for (const node of piece2) left.delete(node);
    pieces.push(piece2);
  }
  return pieces.sort((one2, other) => other.length - one2.length);
}
function ringsOf(tree) {
  const parent = /* @__PURE__ */ new Map();
  const root = (node) => {
    let at = node;
    while ((parent.get(at) ?? at) !== at) at = parent.get(at);
    return at;
  };
  return Object.entries(tree.segments).flatMap(([id3, { a, b }]) => {
    const [one2, other] = [root(a), root(b)];
    if (one2 === other) return [id3];
    parent.set(one2, other);
    return [];
  });
}

// core/loom/plug-face.ts
var known4 = /* @__PURE__ */ new WeakMap();
function plugConnector(plug) {
  const before = known4.get(plug);
  if (before) return before;
  const rows = Array.from(
    { length: Math.ceil(plug.cavities / plug.columns) },
    (_, row) => Math.min(plug.columns, plug.cavities - row * plug.columns)
  );
  const connector = {
    id: "P",
    rows,
    maxSquareMm: plug.squareMm,
    sealed: plug.sealed,
    ...plug.terminal ? { terminal: plug.terminal } : {}
  };
  known4.set(plug, connector);
  return connector;
}
var halves = ["near", "far"];
var halfWords = { near: "ECU\u2019s half", far: "other half" };
function towardEcu({ tree }, node) {
  const ecu = placesOf(tree).get(ECU_THING);
  const way = ecu === void 0 ? null : waysOf(tree).way(ecu, node);
  return way?.segments[way.segments.length - 1] ?? Object.keys(tree.segments).find((id3) => tree.segments[id3].a === node || tree.segments[id3].b === node);
}
function meetingsOf(build, net, node) {
  const plug = build.tree.nodes[node]?.plug;
  if (!plug) return [];
  const side = towardEcu(build, node);
  const isNear = (wire, end2) => (wire.from === end2 ? wire.route[0] : wire.route[wire.route.length - 1]) === side;
  return Object.entries(plug.wires).flatMap(([whole2, cavity]) => {
    const end2 = plugEnd(node, cavity);
    const [one2, other] = net.wiresAt.get(end2) ?? [];
    if (!one2 || !other || one2.cutOf !== whole2) return [];
    const [near, far2] = isNear(other, end2) && !isNear(one2, end2) ? [other, one2] : [one2, other];
    return [{ cavity, whole: whole2, near, far: far2 }];
  }).sort((one2, other) => one2.cavity - other.cavity);
}

// core/wire/size.ts
var gaugeWords = (gauge2) => gauge2 < 1 ? `${1 - gauge2}/0` : String(gauge2);
var LEAST_SHARE = 0.85;
function gaugeOf(squareMm) {
  const found2 = seriesSizes("awg").find((size) => size.squareMm >= LEAST_SHARE * squareMm);
  return found2?.gauge ?? null;
}
function readSize(squareMm, { units }) {
  const listed = wireSize(squareMm);
  if (listed?.gauge !== void 0)
    return units.workshop === "inch" ? `${gaugeWords(listed.gauge)} AWG` : `${gaugeWords(listed.gauge)} AWG (${Number(squareMm.toFixed(2))} mm\xB2)`;
  const gauge2 = units.workshop === "inch" ? gaugeOf(squareMm) : null;
  return `${squareMm} mm\xB2${gauge2 === null ? "" : ` (${gaugeWords(gauge2)} AWG)`}`;
}
function sizeSquareMm(text3) {
  const clean = text3.trim().toLowerCase().replace(",", ".");
  const gauge2 = /^(?:awg\s*([1-4]\/0|\d{1,2})|([1-4]\/0|\d{1,2})\s*(?:awg|ga|gauge))$/.exec(clean);
  if (gauge2) {
    const said = gauge2[1] ?? gauge2[2];
    const number = said.endsWith("/0") ? 1 - Number(said[0]) : Number(said);
    return number <= 40 ? Math.round(awgSquareMm(number) * 1e3) / 1e3 : null;
  }
  const metric = /^(\d{1,3}(?:\.\d{1,3})?)\s*(?:mm(?:2|²|\^2)?|sqmm|qmm)?$/.exec(clean);
  const value = metric ? Number(metric[1]) : Number.NaN;
  return value > 0 && value <= 120 ? value : null;
}

// core/loom/reuse.ts
var WORN = /(?<!\b(?:not|no|never|nothing) )\b(brittle|cracked|chafed|cut|bare|burnt|burned|melted|corroded|corrosion|green|hard|stiff|swollen|oily|nicked|broken)\b/i;
function donorColour({ survey: survey2 }, text3) {
  const writing = survey2.colours === "auto" ? writingOf(Object.values(survey2.donor).map(({ colour }) => colour)).writing : survey2.colours;
  return colourLetters(text3, writing);
}
function reusedWires(build, net) {
  const reused = /* @__PURE__ */ new Map();
  for (const donor of donorList(build.survey.donor)) {
    if (donor.decision !== "move" || isRestraint(donor)) continue;
    const [wire] = net.wiresAt.get(ecuEnd(donor.moveTo.trim().toUpperCase())) ?? [];
    if (!wire || reused.has(wire.id)) continue;
    const colour = donorColour(build, donor.colour);
    const squareMm = sizeSquareMm(donor.size);
    reused.set(wire.id, {
      donor,
      wire,
      colour,
      squareMm,
      differs: colour !== null && colour !== wire.colour || squareMm !== null && squareMm !== wire.squareMm,
      worn: WORN.test(donor.condition)
    });
  }
  return reused;
}

// core/loom/factory-plug.ts
function donorConnectors({ survey: survey2 }) {
  const wires = donorList(survey2.donor);
  const names = new Map(wires.map(({ connector }) => [connector.trim().toLowerCase(), connector.trim()]));
  for (const wire of wires) if (isRestraint(wire)) names.delete(wire.connector.trim().toLowerCase());
  return [...names.values()].filter(Boolean).sort(natural);
}

// core/units/format.ts
var trim = (text3) => text3.includes(".") ? text3.replace(/\.?0+$/, "") : text3;
var LEAST_SHOWN = 0.01;
function formatOhms(ohms2) {
  if (ohms2 === null || !Number.isFinite(ohms2)) return "open line";
  if (ohms2 >= 1e6) return `${trim((ohms2 / 1e6).toFixed(2))} M\u03A9`;
  if (ohms2 >= 1e3) return `${trim((ohms2 / 1e3).toFixed(2))} k\u03A9`;
  if (ohms2 >= 100) return `${ohms2.toFixed(0)} \u03A9`;
  if (ohms2 > 0 && ohms2 < LEAST_SHOWN) return `under ${LEAST_SHOWN} \u03A9`;
  return `${ohms2 >= 10 ? ohms2.toFixed(1) : ohms2.toFixed(2)} \u03A9`;
}
function formatVolts(volts3) {
  if (Math.abs(volts3) < 5e-4) return "0 V";
  if (Math.abs(volts3) < 0.2) return `${(volts3 * 1e3).toFixed(0)} mV`;
  return `${volts3.toFixed(2)} V`;
}
function formatMillivolts(volts3, strays = null) {
  const thousandths = 1e3 * volts3;
  const decimals = Math.abs(thousandths) < FEW_MILLIVOLTS ? 1 : 0;
  const shown = thousandths.toFixed(decimals).replace(/^-(?=0(\.0)?$)/, "").replace("-", "\u2212");
  return strays === null ? `${shown} mV` : `${shown} \xB1 ${Math.max(0.1, 1e3 * strays).toFixed(decimals)} mV`;
}
var FEW_MILLIVOLTS = 10;
var formatAmps = (amps2) => amps2 < 0.2 ? `${(amps2 * 1e3).toFixed(0)} mA` : `${amps2 < 10 ? trim(amps2.toFixed(2)) : amps2.toFixed(1)} A`;
function listWords(words3) {
  if (words3.length < 2) return words3.join("");
  return `${words3.slice(0, -1).join(", ")} and ${words3[words3.length - 1]}`;
}
var inSentence = (name3) => /^[A-Z][a-z]/.test(name3) ? name3[0].toLowerCase() + name3.slice(1) : name3;
var withArticle = (words3) => `${/^[aeiou]/i.test(words3) ? "an" : "a"} ${words3}`;
var plural = (count2, one2, many = `${one2}s`) => `${count2} ${count2 === 1 ? one2 : many}`;

// core/edits/faces.ts
var faceEdits = {
  /** How the plug of a kind looks, and what sits where; null: nobody has drawn it. */
  setFace: edit(
    z18.object({ kindId: z18.string().max(40), face: deviceFaceSchema.nullable() }),
    ({ kindId, face }, build) => `${face ? "Draw" : "Forget"} the plug of ${inSentence(build.kinds[kindId]?.name ?? kindId)}`,
    (build, { kindId, face }) => {
      const kind3 = build.kinds[kindId];
      if (!kind3) return fail("no-kind", "kindId", `No device of this build is of kind ${kindId}.`);
      const { face: _, ...rest } = kind3;
      if (!face) return ok({ ...build, kinds: { ...build.kinds, [kindId]: rest } });
      const miss = faceMiss(
        face,
        kind3.terminals.map(({ id: id3 }) => id3)
      );
      return miss === null ? ok({ ...build, kinds: { ...build.kinds, [kindId]: { ...rest, face } } }) : fail("face", "face", `The plug of ${inSentence(kind3.name)}: ${miss}.`);
    }
  ),
  /** Data of the terminal that a connector of the ECU, a plug of the loom or the plug of a part takes; null forgets it. */
  setTerminal: edit(
    z18.object({
      plug: z18.enum(["ecu", "loom", "kind"]),
      /** The connector, the plug's place in the tree, or the kind. */
      id: z18.string().max(60),
      terminal: terminalNotesSchema.nullable()
    }),
    ({ plug, id: id3 }, build) => `Terminals of ${plug === "ecu" ? id3 : plug === "loom" ? inSentence(build.tree.nodes[id3]?.name || id3) : inSentence(build.kinds[id3]?.name ?? id3)}`,
    (build, { plug, id: id3, terminal }) => {
      const noted = ({ terminal: _, ...rest }) => terminal === null || isBare(terminal) ? rest : { ...rest, terminal };
      if (plug === "ecu") {
        if (!withId(build.ecu.connectors, id3))
          return fail("no-plug", "id", `${build.ecu.model} has no connector ${id3}.`);
        const connectors = build.ecu.connectors.map((one2) => one2.id === id3 ? noted(one2) : one2);
        return ok({ ...build, ecu: { ...build.ecu, connectors } });
      }
      if (plug === "loom") {
        const node = build.tree.nodes[id3];
        if (!node?.plug) return fail("no-plug", "id", `There is no plug ${id3} in the loom.`);
        const nodes = { ...build.tree.nodes, [id3]: { ...node, plug: noted(node.plug) } };
        return ok({ ...build, tree: { ...build.tree, nodes } });
      }
      const kind3 = build.kinds[id3];
      if (!kind3?.face)
        return fail("no-plug", "id", `Nobody has drawn the plug of ${inSentence(kind3?.name ?? id3)} yet.`);
      return ok({ ...build, kinds: { ...build.kinds, [id3]: { ...kind3, face: noted(kind3.face) } } });
    }
  ),
  /** The connector of the donor loom that a plug of the loom is; null: it is a new one. */
  setFactoryPlug: edit(
    z18.object({ node: treeId, was: z18.string().trim().min(1).max(40).nullable() }),
    ({ node, was }, build) => `${build.tree.nodes[node]?.name || "The plug"} is ${was === null ? "a new plug" : `the old ${was}`}`,
    (build, { node, was }) => {
      const place3 = build.tree.nodes[node];
      if (!place3?.plug) return fail("no-plug", "node", `There is no plug ${node} in the loom.`);
      if (was !== null && !donorConnectors(build).some((one2) => one2.toLowerCase() === was.toLowerCase()))
        return fail("no-plug", "was", `The donor loom has no connector ${was} that may be used again.`);
      const { was: _, ...plug } = place3.plug;
      const nodes = { ...build.tree.nodes, [node]: { ...place3, plug: was === null ? plug : { ...plug, was } } };
      return ok({ ...build, tree: { ...build.tree, nodes } });
    }
  )
};

// core/edits/feed-boxes.ts
import { z as z19 } from "zod";

// core/netlist/label.ts
var placeWords = {
  battery: "battery negative",
  head: "engine block",
  chassis: "chassis ground",
  post: "minus post of the battery"
};
function labelOf({ names }, end2) {
  const ref = endOf(end2);
  if (ref.of === "ecu") return ref.pin;
  if (ref.of === "device") return `${names.devices.get(ref.device) ?? ref.device} \xB7 ${ref.terminal}`;
  const own2 = names.parts.get(partId(ref.kind, ref.part));
  const name3 = own2 ?? names.circuits.get(ref.part);
  switch (ref.kind) {
    case "fuse":
      return `${name3 ?? ref.part} fuse, ${ref.port === "1" ? "source side" : "load side"}`;
    case "relay":
      return `${name3 ?? ref.part} relay \xB7 ${ref.port}`;
    case "splice":
      return name3 === void 0 ? `Splice ${ref.part.replace(/^line-/, "").replace(/-/g, " ")}` : `${name3} splice`;
    case "ground":
      return placeWords[ref.part] ?? own2 ?? ref.part;
    case "shield":
      return `${names.devices.get(ref.part) ?? ref.part} \xB7 shield`;
    case "battery":
      if (end2 === PLUS_POST) return "plus post of the battery";
      return own2 === void 0 ? "battery positive" : `${own2}, positive`;
    case "switch":
    case "button":
    case "resistor":
    case "diode":
      return `${own2 ?? ref.part} \xB7 ${ref.port}`;
    case "busbar":
    case "tap":
      return own2 ?? ref.part;
    case "plug":
      return `${own2 ?? ref.part} \xB7 ${ref.port}`;
    case "key":
      return ref.part === "15" ? "key, run" : "key, start";
  }
}

// core/tree/lay.ts
var AT_ONE_PLACE_METRES = 0.15;
var LEAST_METRES = 0.1;
var ROUNDING = 1e-6;
function spotsOf(tree, runs, boxOf) {
  const places = placesOf(tree);
  const ways = waysOf(tree);
  const spots2 = /* @__PURE__ */ new Map();
  const loose = /* @__PURE__ */ new Map();
  const asked = /* @__PURE__ */ new Set();
  for (const run of runs)
    for (const end2 of [run.from, run.to]) {
      loose.get(end2)?.push(run);
      if (asked.has(end2)) continue;
      asked.add(end2);
      const thing = thingsOf(end2, boxOf).find((one2) => places.has(one2));
      if (thing !== void 0) spots2.set(end2, { node: places.get(thing), off: 0 });
      else if (endType(end2) === "splice") loose.set(end2, [run]);
    }
  const far2 = (splice, run) => run.from === splice ? run.to : run.from;
  const settle2 = (place3) => {
    let some = false;
    for (const [splice, of] of loose) {
      const spot = place3(splice, of);
      if (spot === null) continue;
      spots2.set(splice, spot);
      loose.delete(splice);
      some = true;
    }
    return some;
  };
  const behind3 = (splice, of) => {
    const near = of.find((run) => run.local && spots2.get(far2(splice, run))?.off === 0);
    return near ? { node: spots2.get(far2(splice, near)).node, off: near.metres } : null;
  };
  const between2 = (splice, of) => {
    const at = of.flatMap((run) => spots2.get(far2(splice, run))?.node ?? []);
    if (at.length === 0) return null;
    let [best, least] = ["", Infinity];
    for (const node of Object.keys(tree.nodes)) {
      const sum = at.reduce((all, one2) => all + ways.metres(node, one2), 0);
      if (sum < least - ROUNDING) [best, least] = [node, sum];
    }
    return least < Infinity ? { node: best, off: 0 } : null;
  };
  while (settle2(behind3) || settle2(between2)) ;
  return spots2;
}
function layRuns(tree, runs, boxOf) {
  const laid2 = /* @__PURE__ */ new Map();
  if (Object.keys(tree.nodes).length === 0) return laid2;
  const spots2 = spotsOf(tree, runs, boxOf);
  const ways = waysOf(tree);
  for (const run of runs) {
    const [one2, other] = [spots2.get(run.from), spots2.get(run.to)];
    if (!one2 || !other) continue;
    const via = tree.via[run.id];
    const way = (via === void 0 ? null : ways.by(one2.node, other.node, via)) ?? ways.way(one2.node, other.node);
    if (!way) continue;
    if (run.local || one2.node === other.node) {
      const metres5 = run.local || run.fixed ? run.metres : Math.min(run.metres, AT_ONE_PLACE_METRES + Math.abs(one2.off - other.off));
      laid2.set(run.id, { metres: metres5, segments: [], nodes: [one2.node], reached: [0] });
      continue;
    }
    const metres4 = Math.max(LEAST_METRES, way.metres - one2.off - other.off);
    let at = -one2.off;
    const reached = way.nodes.map((_, i) => i === 0 ? at : at += tree.segments[way.segments[i - 1]].metres);
    laid2.set(run.id, { metres: run.fixed ? run.metres : metres4, segments: way.segments, nodes: way.nodes, reached });
  }
  return laid2;
}
function cutPieces(tree, id3, { metres: metres4, segments, nodes, reached }) {
  const whole2 = Math.max(LEAST_METRES, (reached[reached.length - 1] ?? 0) - (reached[0] ?? 0));
  const share = metres4 / whole2;
  const pieces = [];
  let [from, since] = [0, 0];
  for (let i = 1; i < nodes.length - 1; i += 1) {
    const cavity = tree.nodes[nodes[i]].plug?.wires[id3];
    if (cavity === void 0) continue;
    const at = Math.min(metres4, Math.max(0, reached[i] * share));
    pieces.push({
      metres: Math.max(LEAST_METRES, at - from),
      segments: segments.slice(since, i),
      into: { plug: nodes[i], cavity }
    });
    [from, since] = [at, i];
  }
  return [
    ...pieces,
    {
      metres: pieces.length === 0 ? metres4 : Math.max(LEAST_METRES, metres4 - from),
      segments: segments.slice(since),
      into: null
    }
  ];
}

// core/power/key.ts
function keyFeeds(build) {
  const feeds = { "key-run": KEY_RUN, "key-start": KEY_START };
  for (const { source } of broughtFeeds(build)) feeds[source] = spliceEnd(source);
  return { run: feeds["key-run"], start: feeds["key-start"] };
}
function broughtFeeds(build) {
  const found2 = /* @__PURE__ */ new Map();
  for (const device of build.devices)
    for (const terminal of build.kinds[device.kindId]?.terminals ?? []) {
      const destination = destinationOf(device, terminal);
      if (destination.to === "source" && !found2.has(destination.source))
        found2.set(destination.source, { source: destination.source, end: deviceEnd(device.id, terminal.id), device });
    }
  return [...found2.values()];
}

// core/engine/outputs.ts
var workOf = (ask) => ask.kind === "injector" ? "injector" : ask.kind === "ignition-logic" || ask.kind === "ignition-driver" ? "ignition" : null;
var SAME_DEGREES = 1e-6;
var TURN = 360;
function firedTogether(engine2, use) {
  const mode = use === "ignition" ? engine2.ignition : engine2.injection;
  if (mode === "distributor" || mode === "batch" || mode === "none") return [[...engine2.firingOrder]];
  const whole2 = mode === "direct" || mode === "sequential";
  const span = whole2 ? cycleDegrees(engine2) : TURN;
  const angles = firingAngleByCylinder(engine2);
  const sets = [];
  for (const cylinder of engine2.firingOrder) {
    const angle = wrapDegrees(angles.get(cylinder), span);
    const near = (one2) => {
      const apart2 = wrapDegrees(one2 - angle, span);
      return Math.min(apart2, span - apart2) < SAME_DEGREES;
    };
    const set = sets.find((one2) => near(one2.angle));
    if (set) set.cylinders.push(cylinder);
    else sets.push({ angle, cylinders: [cylinder] });
  }
  return sets.map(({ cylinders }) => cylinders);
}
var setsOfTurn = (engine2) => firedTogether({ ...engine2, ignition: "wasted" }, "ignition");
var rowsOf = (engine2, use) => use === "ignition" ? engine2.plugs : engine2.injectors;
function workedBy(engine2, school, use, output2) {
  const count2 = engine2.cylinders;
  if (!Number.isInteger(output2) || output2 < 1 || output2 > count2 * rowsOf(engine2, use)) return null;
  const row = Math.ceil(output2 / count2);
  const place3 = (output2 - 1) % count2;
  const sets = firedTogether(engine2, use);
  const cylinders = school === "in-turn" ? sets[place3 % sets.length] : sets.find((set) => set.includes(place3 + 1));
  return { cylinders, row };
}
function outputsFor(engine2, school, use, cylinders, row) {
  if (cylinders.length === 0 || row > rowsOf(engine2, use)) return [];
  const found2 = [];
  const first2 = (row - 1) * engine2.cylinders + 1;
  for (let output2 = first2; output2 < first2 + engine2.cylinders; output2 += 1) {
    const worked = workedBy(engine2, school, use, output2);
    if (cylinders.every((one2) => worked.cylinders.includes(one2))) found2.push(output2);
  }
  return cylinders.length > 1 && school === "in-turn" ? found2.slice(0, 1) : found2;
}
function eventSpan(engine2, use) {
  const mode = use === "ignition" ? engine2.ignition : engine2.injection;
  return mode === "direct" || mode === "sequential" ? cycleDegrees(engine2) : TURN;
}
function rowWords(engine2, use, row) {
  if (rowsOf(engine2, use) === 1) return "";
  if (use === "injector") return row === 1 ? "primary" : "secondary";
  if (engine2.kind === "rotary") return row === 1 ? "leading" : "trailing";
  return row === 1 ? "first plug" : "second plug";
}
function workWords(engine2, use, worked) {
  if (!worked || worked.cylinders.length === 0) return "none";
  const chamber = engine2.kind === "rotary" ? "rotor" : "cylinder";
  const which = [...worked.cylinders].sort((one2, other) => one2 - other).map(String);
  const row = rowWords(engine2, use, worked.row);
  return `${chamber}${which.length > 1 ? "s" : ""} ${listWords(which)}${row === "" ? "" : `, ${row}`}`;
}

// core/devices/volts-table.ts
function atVolts(table2, volts3) {
  if (table2.length === 0) return null;
  const after = table2.findIndex((row) => row.volts >= volts3);
  if (after === 0) return table2[0].milliseconds;
  if (after < 0) return table2[table2.length - 1].milliseconds;
  const [from, to] = [table2[after - 1], table2[after]];
  return from.milliseconds + (to.milliseconds - from.milliseconds) * (volts3 - from.volts) / (to.volts - from.volts);
}

// core/power/coil.ts
function primaryAmps(coil, volts3, milliseconds) {
  const tau = coil.inductanceMillihenry / coil.primaryOhms;
  return volts3 / coil.primaryOhms * (1 - Math.exp(-milliseconds / tau));
}

// core/power/spark.ts
var BURN_MILLISECONDS = 1;
function sparkedEngine({ engine: engine2, trigger }) {
  if (engine2.ignition !== "direct" || trigger.crankWheel === null) return engine2;
  return tellsPhase(engine2, trigger.crankWheel, camWheelOf(trigger)) ? engine2 : { ...engine2, ignition: "wasted" };
}
function eventDegrees(engine2, serves) {
  if (engine2.ignition === "distributor") return shortestFiringInterval(engine2);
  return eventSpan(serves > 1 ? { ...engine2, ignition: "wasted" } : engine2, "ignition");
}

// core/power/volts.ts
var CHARGING_VOLTS = 13.5;
var TOTAL_LOSS_VOLTS = 12.2;
var runningVolts = (build) => build.power.charging === "none" ? TOTAL_LOSS_VOLTS : CHARGING_VOLTS;

// core/power/coil-feed.ts
var STEPS_PER_TURN = 720;
var DEGREES_A_MILLISECOND = 6e-3;
var TURN2 = 360;
var HALF = 1 / 2;
function coilFeedAmps(engine2, coils, volts3, rpm) {
  const cycle = cycleDegrees(engine2);
  const steps3 = STEPS_PER_TURN * cycle / TURN2;
  const amps2 = new Float64Array(steps3);
  const degreesAStep = cycle / steps3;
  const rate = rpm * DEGREES_A_MILLISECOND;
  const angles = firingAngleByCylinder(engine2);
  for (const { coil, serves, row } of coils) {
    const span = eventSpan(
      coil.serves > 1 && engine2.ignition === "direct" ? { ...engine2, ignition: "wasted" } : engine2,
      "ignition"
    );
    const sparked = engine2.ignition === "distributor" ? [...angles.keys()] : serves.slice(0, 1);
    const first2 = sparked.length > 0 ? sparked.map((cylinder) => angles.get(cylinder) ?? 0) : [0];
    const repeats = engine2.ignition === "distributor" ? 1 : cycle / span;
    const room = Math.max(0, eventDegrees(engine2, coil.serves) / rate - BURN_MILLISECONDS);
    const dwell2 = Math.min(atVolts(coil.dwell, volts3) ?? 0, room);
    for (const angle of first2)
      for (let turn = 0; turn < repeats; turn += 1) {
        const spark = angle + turn * span + (row - 1) * engine2.trailingDegrees;
        const start = spark - dwell2 * rate;
        const middle = (step) => (step + HALF) * degreesAStep;
        for (let step = Math.ceil(start / degreesAStep - HALF); middle(step) < spark; step += 1) {
          const charged = (middle(step) - start) / rate;
          const at = Math.floor(wrapDegrees(middle(step), cycle) / degreesAStep) % steps3;
          amps2[at] += primaryAmps(coil, volts3, charged);
        }
      }
  }
  let [sum, squares, peak] = [0, 0, 0];
  for (const one2 of amps2) {
    sum += one2;
    squares += one2 * one2;
    if (one2 > peak) peak = one2;
  }
  return { mean: sum / steps3, rms: Math.sqrt(squares / steps3), peak };
}
var pulsesOf = /* @__PURE__ */ new WeakMap();
var coilNames = /* @__PURE__ */ new WeakMap();
var coilsNamed = 0;
function nameOf({ coil, serves, row }, alone) {
  const number = coilNames.get(coil) ?? (coilsNamed += 1);
  coilNames.set(coil, number);
  return alone ? `${number} ${serves.length} ${row}` : `${number} ${serves.join(",")} ${row}`;
}
function pulsesOfCoils(build) {
  const engine2 = sparkedEngine(build);
  const volts3 = runningVolts(build);
  const known9 = pulsesOf.get(build.engine) ?? /* @__PURE__ */ new Map();
  pulsesOf.set(build.engine, known9);
  return (coils) => {
    const names = coils.map((coil) => nameOf(coil, coils.length === 1)).sort();
    const key = `${engine2.ignition} ${volts3} ${names.join("; ")}`;
    const pulses2 = known9.get(key) ?? coilFeedAmps(engine2, coils, volts3, build.engine.maxRpm);
    known9.set(key, pulses2);
    return pulses2;
  };
}

// core/power/drawn.ts
var steady = (amps2) => ({ amps: amps2, rms: amps2, peak: amps2, inrush: null });
var FAN_TIMES = 4;
var FAN_SECONDS = 0.15;
var MOTOR_TIMES = 2.5;
var MOTOR_SECONDS = 0.1;
var LAMP_TIMES = 6;
var LAMP_SECONDS = 0.05;
var STARTER_TIMES = 3.5;
var STARTER_SECONDS = 0.1;
var rushes = {
  fan: { cause: "motor", times: FAN_TIMES, seconds: FAN_SECONDS },
  motor: { cause: "motor", times: MOTOR_TIMES, seconds: MOTOR_SECONDS },
  lamp: { cause: "filament", times: LAMP_TIMES, seconds: LAMP_SECONDS },
  starter: { cause: "plunger", times: STARTER_TIMES, seconds: STARTER_SECONDS }
};
var HEATER_SECONDS = 10;
var MOTOR_AMPS = 4;
var COLD_TIMES = 1.15;
function rushOf(kind3, feed2) {
  if (hasRole(kind3, "fan")) return rushes.fan;
  if (hasRole(kind3, "starter")) return rushes.starter;
  if (isLamp(kind3)) return rushes.lamp;
  if (hasRole(kind3, "pump")) return rushes.motor;
  return (feed2.feed === "own" || feed2.feed === "pump") && feed2.amps >= MOTOR_AMPS ? rushes.motor : null;
}
var isLamp = (kind3) => hasRole(kind3, "lamp") || hasRole(kind3, "reverse-switch");
function fedThrough(kind3, terminalId2) {
  let least = null;
  for (const one2 of kind3.internals)
    if (one2.type === "resistor" && (one2.from === terminalId2 || one2.to === terminalId2)) {
      if (least === null || one2.ohms < least.ohms) least = one2;
    }
  return least;
}
function isWorked(device, kind3, inside2) {
  return kind3.terminals.some(
    (terminal) => (terminal.id === inside2.from || terminal.id === inside2.to) && destinationOf(device, terminal).to === "pin"
  );
}
function drawnBy(build, device, kind3, terminalId2, feed2) {
  const volts3 = runningVolts(build);
  const coil = trait(kind3, "coil");
  if (coil) {
    const { mean, rms, peak } = pulsesOfCoils(build)([{ coil, serves: device.serves, row: device.row }]);
    return { amps: mean, rms, peak, inrush: null };
  }
  const injector3 = trait(kind3, "injector");
  if (injector3) return injectorDraw(build, injector3.ohms, volts3);
  const inside2 = fedThrough(kind3, terminalId2);
  const cold = inside2 ? volts3 / inside2.ohms : 0;
  const rush = rushOf(kind3, feed2);
  if (rush) {
    const { cause, seconds } = rush;
    return { ...steady(feed2.amps), inrush: { cause, seconds, amps: rush.times * feed2.amps } };
  }
  if (feed2.amps <= 0 || cold < COLD_TIMES * feed2.amps) return steady(feed2.amps);
  const inrush = isHeater(kind3) ? { cause: "heater", amps: cold, seconds: HEATER_SECONDS } : null;
  if (inside2 && isWorked(device, kind3, inside2))
    return { amps: feed2.amps, rms: Math.sqrt(feed2.amps * cold), peak: cold, inrush };
  return { ...steady(feed2.amps), inrush };
}
var isHeater = (kind3) => trait(kind3, "wideband") !== null || kind3.traits.some((one2) => one2.type === "sensor" && one2.quantity === "mixture");
var RATED_DUTY = 0.85;
var PEAK_AMPS = 4;
var HOLD_SHARE = 0.25;
var OPENING_MILLISECONDS = 1.2;
var RISE_MEAN = 0.55;
var RISE_SQUARE = 0.38;
var DEGREES_A_MILLISECOND2 = 6e-3;
var workedOf = /* @__PURE__ */ new WeakMap();
function workedBy2(ecu, ohms2) {
  const known9 = workedOf.get(ecu) ?? /* @__PURE__ */ new Map();
  workedOf.set(ecu, known9);
  const found2 = known9.get(ohms2) ?? findDriver(ecu, ohms2);
  known9.set(ohms2, found2);
  return found2;
}
function findDriver(ecu, ohms2) {
  const drivers = ecu.pins.flatMap(({ abilities }) => abilities.filter(({ kind: kind3 }) => kind3 === "injector"));
  const standing2 = drivers.filter((one2) => ohms2 >= (one2.minOhms ?? 0));
  const driver = standing2.find(({ drive }) => drive !== "peak-hold") ?? standing2[0] ?? drivers.find(({ drive }) => drive === "peak-hold") ?? null;
  if (driver !== null || drivers.length === 0) return { driver, ohms: ohms2 };
  return { driver, ohms: Math.max(ohms2, Math.min(...drivers.map(({ minOhms = 0 }) => minOhms))) };
}
function injectorDraw(build, ohms2, volts3) {
  const { driver, ohms: inAll } = workedBy2(build.ecu, ohms2);
  if (driver?.drive !== "peak-hold") {
    const full = volts3 / inAll;
    return { amps: full * RATED_DUTY, rms: full * Math.sqrt(RATED_DUTY), peak: full, inrush: null };
  }
  const peak = Math.min(driver.maxAmps ?? PEAK_AMPS, volts3 / ohms2);
  const hold = Math.min(peak, driver.holdAmps ?? HOLD_SHARE * peak);
  const period = eventSpan(build.engine, "injector") / (build.engine.maxRpm * DEGREES_A_MILLISECOND2);
  const opening = Math.min(RATED_DUTY, OPENING_MILLISECONDS / period);
  const held2 = RATED_DUTY - opening;
  return {
    amps: opening * RISE_MEAN * peak + held2 * hold,
    rms: Math.sqrt(opening * RISE_SQUARE * peak * peak + held2 * hold * hold),
    peak,
    inrush: null
  };
}

// core/power/loads.ts
var FEED_DROP = 0.3;
var MOTOR_DROP = 0.5;
var dropOf = (feed2) => feed2 === "pump" || feed2 === "own" ? MOTOR_DROP : FEED_DROP;
var PERMANENT_AMPS = 0.2;
var ECU_BRANCH_METRES = 0.4;
function deviceLoads(build) {
  return build.devices.flatMap((device) => {
    const kind3 = build.kinds[device.kindId];
    if (!kind3) return [];
    const coil = trait(kind3, "coil");
    return kind3.terminals.flatMap((terminal) => {
      const destination = destinationOf(device, terminal);
      if (destination.to !== "feed") return [];
      const load = {
        end: deviceEnd(device.id, terminal.id),
        name: device.label,
        ...drawnBy(build, device, kind3, terminal.id, destination),
        branchMetres: device.branchMetres,
        feed: destination.feed,
        coil: coil && { coil, serves: device.serves, row: device.row },
        limitVolts: dropOf(destination.feed)
      };
      return [{ device, kind: kind3, load }];
    });
  });
}
function ecuLoads(build, pins) {
  const feed2 = pins === "permanent" ? "permanent" : "main";
  const own2 = pinsOfKind(build.ecu, pins);
  const amps2 = pins === "permanent" ? PERMANENT_AMPS : build.ecu.ownAmps / own2.length;
  return own2.map((pin2) => ({
    end: ecuEnd(pin2.id),
    name: `ECU ${pin2.id}`,
    ...steady(amps2),
    branchMetres: ECU_BRANCH_METRES,
    feed: feed2,
    coil: null,
    limitVolts: dropOf(feed2)
  }));
}

// core/power/propose.ts
var TRUNK_METRES = 1;
var LONE_METRES = 0.5;
var BRANCH_METRES = 0.2;
var FUSE_METRES = 0.2;
var JUMPER_METRES = 0.35;
var TO_BOX_METRES = 0.8;
var CHARGE_OHMS = 470;
var APART_AMPS = 5;
function feedSpecs(build, free, ecuFuse) {
  const uses = deviceLoads(build);
  const of = (feed2) => uses.filter(({ load }) => load.feed === feed2 && free(load.end)).map(({ load }) => load);
  const choice = (id3) => build.power.circuits[id3] ?? {};
  const isShared = (id3) => choice(id3).feed === "shared";
  const own2 = (pins) => ecuLoads(build, pins).filter(({ end: end2 }) => free(end2));
  const hasMainRelayPin = pinsOfKind(build.ecu, "main-relay").length > 0;
  const byEcu = hasMainRelayPin ? "main-relay-pin" : "need";
  const coilSwitch = choice("coils").switchedBy ?? (hasMainRelayPin ? "ecu" : "key");
  const source = build.feeds.source ?? BATTERY;
  const main = spliceEnd("main");
  const charge = "Start and charge";
  const spec = (role2, name3, system, from, control, loads, id3 = role2) => ({ id: id3, role: role2, name: name3, system, source: from, control, loads });
  const ownFeed = ({ device, kind: kind3, load }) => {
    const byKey = hasRole(kind3, "starter") && build.power.starting === "key";
    return spec(
      "own",
      device.label,
      kind3.system,
      source,
      byKey ? "key-start" : "need",
      free(load.end) ? [load] : [],
      device.id
    );
  };
  const apart2 = ({ load }) => load.feed === "permanent" && load.amps >= APART_AMPS && free(load.end) && own2("permanent").length > 0;
  const heavy = uses.filter(apart2);
  const beside = of("permanent").filter((load) => !heavy.some((one2) => one2.load === load));
  return [
    spec("permanent", "Permanent feed", charge, source, null, [...own2("permanent"), ...beside]),
    ...heavy.map(
      ({ device, kind: kind3, load }) => spec("own", device.label, kind3.system, source, null, [load], `${device.id}-standing`)
    ),
    {
      ...spec("main", "Main feed", charge, source, hasMainRelayPin ? "main-relay-pin" : "key-run", [
        ...ecuFuse ? [] : own2("switched"),
        ...of("main")
      ]),
      splice: true
    },
    isShared("coils") ? spec("coils", "Coil feed", "Ignition", main, null, of("coils")) : spec("coils", "Coil feed", "Ignition", source, coilSwitch === "key" ? "key-run" : byEcu, of("coils")),
    isShared("injectors") ? spec("injectors", "Injector feed", "Fuel", main, null, of("injectors")) : spec(
      "injectors",
      "Injector feed",
      "Fuel",
      source,
      hasMainRelayPin ? "main-relay-pin" : "key-run",
      of("injectors")
    ),
    ...ecuFuse ? [spec("ecu", "ECU feed", charge, main, null, own2("switched"))] : [],
    spec("pump", "Fuel pump", "Fuel", source, choice("pump").switchedBy === "key" ? "key-run" : "need", of("pump")),
    ...uses.filter(({ load }) => load.feed === "own").map(ownFeed),
    spec("key", "Key feed", charge, keyFeeds(build).run, null, of("key"))
  ];
}
function relayFor(spec, choice) {
  return {
    kind: "relay",
    name: spec.name,
    contact: "make",
    control: spec.control,
    suppression: choice.relay === "diode" ? "diode" : "none",
    reversed: choice.winding === "reversed",
    // Until what hangs on it is known (contact.ts).
    contactAmps: USUAL_CONTACT_AMPS
  };
}
var windingEnds = (name3, { reversed }) => ({
  supply: relayEnd(name3, reversed ? "85" : "86"),
  driver: relayEnd(name3, reversed ? "86" : "85")
});
var Drafting = class {
  constructor(build, decided) {
    this.build = build;
    this.decided = decided;
    this.sharesWindings = build.power.circuits.windings?.feed === "shared";
  }
  build;
  decided;
  parts = /* @__PURE__ */ new Map();
  links = /* @__PURE__ */ new Map();
  /** Windings the ECU's outputs pull in, and those the key does. */
  windings = [];
  byKey = [];
  /** Windings without a fuse of their own, as they were wired once. */
  sharesWindings;
  part(end2, name3, part2) {
    const id3 = partAt(end2);
    this.parts.set(id3, { id: id3, name: name3, part: part2, proposed: true });
  }
  link(from, to, role2, metres4, feed2) {
    const id3 = wireId(from, to);
    this.links.set(id3, { id: id3, from, to, metres: metres4, role: role2, feed: feed2, proposed: true });
  }
  feed(spec) {
    const { id: id3, loads } = spec;
    const choice = this.build.power.circuits[id3] ?? {};
    this.part(fuseEnd(id3, 1), id3, { kind: "fuse", name: spec.name, amps: choice.fuseAmps });
    this.link(spec.source, fuseEnd(id3, 1), "source", choice.fuseDistanceMetres ?? FUSE_METRES, id3);
    let outlet = fuseEnd(id3, 2);
    if (spec.control !== null) {
      const relay2 = this.overlaid(relayFor(spec, choice), id3);
      this.part(relayEnd(id3, "30"), id3, relay2);
      this.link(outlet, relayEnd(id3, "30"), "jumper", JUMPER_METRES, id3);
      outlet = relayEnd(id3, "87");
      this.winding(id3, relay2);
    }
    if (loads.length === 0 && !spec.splice && !this.decided.parts.has(partId("splice", id3))) return;
    const alone = loads.length === 1 && !spec.splice;
    const metres4 = choice.lengthMetres ?? (loads.length > 1 ? TRUNK_METRES : Math.max(LONE_METRES, loads[0]?.branchMetres ?? 0));
    if (alone) {
      this.hang(outlet, loads[0], "trunk", metres4, id3);
      return;
    }
    this.part(spliceEnd(id3), id3, { kind: "splice", name: spec.name });
    this.link(outlet, spliceEnd(id3), "trunk", metres4, id3);
    for (const load of loads) this.hang(spliceEnd(id3), load, "branch", Math.max(BRANCH_METRES, load.branchMetres), id3);
  }
  /** A load on its feed; the lamp terminal of an alternator behind a resistor, since its regulator draws it down at rest. */
  hang(from, { end: end2 }, role2, metres4, feed2) {
    const charge = chargeResistor(this.build, end2);
    const { parts: parts3, links } = this.build.feeds;
    if (charge === null || parts3[charge.id] === null || links[wireId(from, end2)] === null) {
      this.link(from, end2, role2, metres4, feed2);
      return;
    }
    this.part(charge.into, charge.name, { kind: "resistor", name: "Charge resistor", ohms: CHARGE_OHMS });
    const byHand = Object.values(links).some((link) => link && (link.from === charge.into || link.to === charge.into));
    if (!byHand) this.link(from, charge.into, role2, BRANCH_METRES, feed2);
    if (!this.decided.ends.has(end2)) this.link(charge.outOf, end2, "branch", metres4, feed2);
  }
  /** A relay that a person changed is wired as it is now. */
  overlaid(relay2, name3) {
    const own2 = this.build.feeds.parts[partId("relay", name3)];
    return own2?.kind === "relay" ? own2 : changed(relay2, this.build.feeds.changes[partId("relay", name3)]);
  }
  /** What feeds the winding of a relay, and where the key pulls it in its ground. */
  winding(name3, relay2) {
    const { supply, driver } = windingEnds(name3, relay2);
    const free = (end2) => !this.decided.ends.has(end2);
    const feeds = keyFeeds(this.build);
    if (relay2.control === "key-run" || relay2.control === "key-start") {
      if (free(supply) && relay2.control === "key-run") this.byKey.push({ end: supply, name: name3 });
      else if (free(supply)) this.link(feeds.start, supply, "winding", TO_BOX_METRES, name3);
      if (free(driver)) this.link(driver, groundEnd("chassis"), "return", TO_BOX_METRES, name3);
    } else if (relay2.control === "main-relay-pin") {
      const [from, metres4] = this.sharesWindings ? [BATTERY, TO_BOX_METRES] : [relayEnd(name3, "30"), JUMPER_METRES];
      if (free(supply)) this.link(from, supply, "winding", metres4, name3);
    } else if (relay2.control === "need" && free(supply)) this.windings.push({ end: supply, name: name3 });
  }
  /** Windings fed together through a small fuse, so that a thin wire serves them. */
  feedTogether(feed2, source, windings, feeds) {
    const { id: id3, name: name3 } = feed2;
    const choice = this.build.power.circuits[id3] ?? {};
    feeds.push(feed2);
    this.part(fuseEnd(id3, 1), id3, { kind: "fuse", name: name3, amps: choice.fuseAmps });
    this.link(source, fuseEnd(id3, 1), "source", choice.fuseDistanceMetres ?? FUSE_METRES, id3);
    const several = windings.length > 1;
    if (several) {
      this.part(spliceEnd(id3), id3, { kind: "splice", name: name3 });
      this.link(fuseEnd(id3, 2), spliceEnd(id3), "trunk", choice.lengthMetres ?? JUMPER_METRES, id3);
    }
    for (const { end: end2 } of windings)
      this.link(several ? spliceEnd(id3) : fuseEnd(id3, 2), end2, "winding", TO_BOX_METRES, id3);
  }
  /** What feeds the windings: behind the main relay those of the ECU's outputs, from the key those it pulls in. */
  feedWindings(feeds) {
    const main = spliceEnd("main");
    const source = this.parts.has(partAt(main)) ? main : this.build.feeds.source ?? BATTERY;
    const { run } = keyFeeds(this.build);
    const groups = [
      { id: "wake", name: "Key wake-up", source: run, windings: this.byKey },
      { id: "windings", name: "Relay windings", source, windings: this.windings }
    ];
    for (const { id: id3, name: name3, source: from, windings } of groups)
      if (this.sharesWindings)
        for (const winding of windings) this.link(from, winding.end, "winding", TO_BOX_METRES, winding.name);
      else if (windings.length > 0)
        this.feedTogether({ id: id3, role: "windings", name: name3, system: "Start and charge" }, from, windings, feeds);
  }
};
function chargeResistor(build, end2) {
  const device = withId(build.devices, deviceAt(end2));
  const kind3 = device && build.kinds[device.kindId];
  if (!kind3 || !hasRole(kind3, "alternator")) return null;
  const name3 = device.id;
  return {
    id: partId("resistor", name3),
    name: name3,
    into: partEnd("resistor", name3, "1"),
    outOf: partEnd("resistor", name3, "2")
  };
}
function isOpen(build, { ends: ends2, parts: parts3 }, end2) {
  if (!ends2.has(end2)) return true;
  const charge = chargeResistor(build, end2);
  return charge !== null && parts3.has(charge.id) && build.feeds.parts[charge.id] === void 0;
}
function proposal(build, decided, ecuFuse) {
  const draft = new Drafting(build, decided);
  const specs = feedSpecs(build, (end2) => isOpen(build, decided, end2), ecuFuse);
  const touched = ({ id: id3 }) => [partId("fuse", id3), partId("relay", id3), partId("splice", id3)].some((part2) => decided.parts.has(part2));
  const behindMain = specs.some(
    ({ source, loads }) => endType(source) === "splice" && source === spliceEnd("main") && loads.length > 0
  );
  const wanted = specs.filter((spec) => spec.loads.length > 0 || touched(spec) || spec.role === "main" && behindMain);
  for (const spec of wanted) draft.feed(spec);
  for (const [id3, part2] of Object.entries(build.feeds.parts))
    if (part2?.kind === "relay" && !draft.parts.has(id3)) draft.winding(readPart(id3).name, part2);
  const feeds = wanted.map(({ id: id3, role: role2, name: name3, system }) => ({ id: id3, role: role2, name: name3, system }));
  draft.feedWindings(feeds);
  return { parts: draft.parts, links: draft.links, feeds };
}

// core/power/feed-plan.ts
var OWN_METRES = 0.5;
var given = /* @__PURE__ */ new Set([
  BATTERY,
  KEY_RUN,
  KEY_START,
  groundEnd("battery"),
  groundEnd("head"),
  groundEnd("chassis")
]);
function decidedOf({ feeds }) {
  const ends2 = /* @__PURE__ */ new Set();
  const parts3 = /* @__PURE__ */ new Set();
  for (const link of Object.values(feeds.links))
    for (const end2 of link ? [link.from, link.to] : []) {
      const { of } = endOf(end2);
      if (of !== "part") ends2.add(end2);
      else {
        if (endType(end2) === "relay" && (portOf(end2) === "85" || portOf(end2) === "86")) ends2.add(end2);
        parts3.add(partAt(end2));
      }
    }
  return { ends: ends2, parts: parts3 };
}
function isThere(build, parts3, end2) {
  if (given.has(end2)) return true;
  const ref = endOf(end2);
  if (ref.of === "ecu") return withId(build.ecu.pins, ref.pin) !== void 0;
  if (ref.of === "device") {
    const device = withId(build.devices, ref.device);
    const kind3 = device && build.kinds[device.kindId];
    return kind3?.terminals.some(({ id: id3 }) => id3 === ref.terminal) ?? false;
  }
  const found2 = parts3.get(partAt(end2));
  return found2 !== void 0 && portsOfPart(found2.part).includes(ref.port);
}
function feedPlan(build, ecuFuse = false) {
  const decided = decidedOf(build);
  const proposed = proposal(build, decided, ecuFuse);
  const { parts: parts3, links } = proposed;
  for (const [id3, part2] of Object.entries(build.feeds.parts)) {
    const read2 = readPart(id3);
    if (part2 === null) parts3.delete(id3);
    else parts3.set(id3, { id: id3, name: read2.name, part: part2, proposed: false });
  }
  for (const [id3, found2] of parts3)
    if (found2.proposed) parts3.set(id3, { ...found2, part: changed(found2.part, build.feeds.changes[id3]) });
  for (const [id3, link] of Object.entries(build.feeds.links)) {
    const was = links.get(id3);
    links.delete(id3);
    if (link === null) continue;
    const { from, to, metres: metres4 = was?.metres ?? OWN_METRES } = link;
    const fixed2 = link.metres !== void 0;
    links.set(id3, { id: id3, from, to, metres: metres4, role: was?.role ?? "own", feed: was?.feed ?? null, proposed: false, fixed: fixed2 });
  }
  const loose = [];
  const { run, start } = keyFeeds(build);
  const standing2 = [...links.values()].filter(({ id: id3, from, to, proposed: ours }) => {
    const stands2 = from !== to && [from, to].every((end2) => end2 === run || end2 === start || isThere(build, parts3, end2));
    if (!stands2 && !ours) loose.push(id3);
    return stands2;
  });
  const feeds = [
    ...proposed.feeds.filter(
      ({ id: id3 }) => [...parts3.values()].some(({ part: part2, name: name3 }) => part2.kind === "fuse" && name3 === id3)
    ),
    ...[...parts3.values()].flatMap(
      ({ part: part2, name: name3 }) => part2.kind === "fuse" && !proposed.feeds.some(({ id: id3 }) => id3 === name3) ? [{ id: name3, role: "own", name: part2.name, system: "Start and charge" }] : []
    )
  ];
  return { parts: parts3, links: inTree(build, parts3, standing2), feeds, loose };
}
var isSaid = ({ power }, { feed: feed2, role: role2 }) => {
  const choice = power.circuits[feed2 ?? ""];
  return role2 === "trunk" && choice?.lengthMetres !== void 0 || role2 === "source" && choice?.fuseDistanceMetres !== void 0;
};
function inTree(build, parts3, links) {
  const runs = links.map((link) => ({
    ...link,
    local: link.role === "jumper",
    fixed: link.fixed || isSaid(build, link)
  }));
  const laid2 = layRuns(build.tree, runs, (id3) => parts3.get(id3)?.part.box);
  return links.map((link) => {
    const at = laid2.get(link.id);
    if (!at) return link;
    const cuts = cutPieces(build.tree, link.id, at).length - 1;
    return { ...link, metres: at.metres, cuts, route: at.segments };
  });
}

// core/power/flow.ts
var RELAY_WINDING_OHMS = 90;
var WINDING_VOLTS = 13;
var WINDING_AMPS = WINDING_VOLTS / RELAY_WINDING_OHMS;
var loadsByEnd = (build) => new Map(
  [
    ...deviceLoads(build).map(({ load }) => load),
    ...ecuLoads(build, "permanent"),
    ...ecuLoads(build, "switched")
  ].map((load) => [load.end, load])
);
function sourcesOf(build, plan) {
  const { run, start } = keyFeeds(build);
  const own2 = [...plan.parts.values()].flatMap(
    ({ part: part2, name: name3 }) => part2.kind === "battery" || part2.kind === "tap" ? [partEnd(part2.kind, name3)] : []
  );
  return [.../* @__PURE__ */ new Set([BATTERY, ...own2, run, start, ...broughtFeeds(build).map(({ end: end2 }) => end2)])];
}
function through(plan) {
  return [...plan.parts.values()].flatMap(({ id: id3, name: name3, part: part2 }) => {
    const both2 = (one2, other) => [
      { from: one2, to: other, link: null, part: id3 },
      { from: other, to: one2, link: null, part: id3 }
    ];
    switch (part2.kind) {
      case "fuse":
        return both2(fuseEnd(name3, 1), fuseEnd(name3, 2));
      case "relay":
        return [
          ...both2(relayEnd(name3, "30"), relayEnd(name3, "87")),
          ...part2.contact === "change-over" ? both2(relayEnd(name3, "30"), relayEnd(name3, "87a")) : []
        ];
      case "switch":
      case "button":
      case "resistor":
        return both2(partEnd(part2.kind, name3, "1"), partEnd(part2.kind, name3, "2"));
      case "diode":
        return [{ from: partEnd("diode", name3, "a"), to: partEnd("diode", name3, "k"), link: null, part: id3 }];
      default:
        return [];
    }
  });
}
function endsTheWay(end2, sources) {
  const ref = endOf(end2);
  if (ref.of === "ecu") return true;
  if (ref.of === "device") return !sources.has(end2);
  if (ref.kind === "ground" || ref.kind === "shield") return true;
  return ref.kind === "relay" && (ref.port === "85" || ref.port === "86");
}
function addTo(sum, mean, square2, peak) {
  sum.mean += mean;
  sum.square += square2;
  sum.peak += peak;
}
function flowsOf(build, plan) {
  const loads = loadsByEnd(build);
  const sources = sourcesOf(build, plan);
  const isSource = new Set(sources);
  const next = /* @__PURE__ */ new Map();
  const add2 = (step) => {
    const at2 = next.get(step.from);
    if (at2) at2.push(step);
    else next.set(step.from, [step]);
  };
  for (const link of plan.links) {
    if (link.role === "return") continue;
    add2({ from: link.from, to: link.to, link, part: null });
    add2({ from: link.to, to: link.from, link, part: null });
  }
  for (const step of through(plan)) add2(step);
  const into = /* @__PURE__ */ new Map();
  const fuseBefore2 = /* @__PURE__ */ new Map();
  const steps3 = [];
  const queue = [];
  const seen = /* @__PURE__ */ new Set();
  for (const source of sources) {
    if (seen.has(source)) continue;
    seen.add(source);
    fuseBefore2.set(source, null);
    queue.push(source);
    for (let head = queue.length - 1; head < queue.length; head += 1) {
      const end2 = queue[head];
      if (end2 !== source && endsTheWay(end2, isSource)) continue;
      for (const step of next.get(end2) ?? []) {
        if (seen.has(step.to) || isSource.has(step.to) && step.to !== source) continue;
        seen.add(step.to);
        into.set(step.to, step);
        const fuse = step.part !== null && endType(step.to) === "fuse" ? step.part : null;
        fuseBefore2.set(step.to, fuse ?? fuseBefore2.get(end2) ?? null);
        steps3.push(step);
        queue.push(step.to);
      }
    }
  }
  const sums = /* @__PURE__ */ new Map();
  const sumAt = (end2) => {
    const known9 = sums.get(end2);
    if (known9) return known9;
    const fresh = { mean: 0, square: 0, peak: 0, coils: [] };
    sums.set(end2, fresh);
    return fresh;
  };
  const draws = [];
  for (const { to } of steps3) {
    const load = loads.get(to);
    const ref = endOf(to);
    if (load) {
      draws.push({ end: to, name: load.name, load });
      const sum = sumAt(to);
      if (load.coil) sum.coils.push(load.coil);
      else addTo(sum, load.amps, load.rms * load.rms - load.amps * load.amps, load.peak);
    } else if (ref.of === "part" && ref.kind === "relay" && (ref.port === "85" || ref.port === "86")) {
      draws.push({ end: to, name: plan.parts.get(partAt(to))?.part.name ?? ref.part, load: null });
      addTo(sumAt(to), WINDING_AMPS, 0, WINDING_AMPS);
    }
  }
  for (let i = steps3.length - 1; i >= 0; i -= 1) {
    const { from, to } = steps3[i];
    const below2 = sums.get(to);
    if (!below2) continue;
    const above2 = sumAt(from);
    addTo(above2, below2.mean, below2.square, below2.peak);
    above2.coils.push(...below2.coils);
  }
  const flow = flowing(build);
  const at = new Map([...sums].map(([end2, sum]) => [end2, flow(sum)]));
  const carried3 = /* @__PURE__ */ new Map();
  for (const { link, to } of steps3) if (link) carried3.set(link.id, at.get(to) ?? NOTHING);
  for (const { id: id3, from, to } of plan.links)
    if (!carried3.has(id3) && (seen.has(from) || seen.has(to))) {
      const [one2, other] = [at.get(from) ?? NOTHING, at.get(to) ?? NOTHING];
      carried3.set(id3, seen.has(from) && seen.has(to) ? smaller(one2, other) : NOTHING);
    }
  const unfed = [...loads.values()].filter(({ end: end2 }) => !into.has(end2));
  return { steps: steps3, into, fuseBefore: fuseBefore2, at, through: carried3, draws, unfed, sources };
}
var NOTHING = { mean: 0, rms: 0, peak: 0 };
var smaller = (one2, other) => one2.rms <= other.rms ? one2 : other;
function flowing(build) {
  const pulses2 = pulsesOfCoils(build);
  return ({ mean, square: square2, peak, coils }) => {
    const coiled = coils.length === 0 ? NOTHING : pulses2(coils);
    const whole2 = mean + coiled.mean;
    const strays = square2 + coiled.rms * coiled.rms - coiled.mean * coiled.mean;
    return { mean: whole2, rms: Math.sqrt(whole2 * whole2 + strays), peak: peak + coiled.peak };
  };
}
function wayTo({ into }, end2) {
  const way = [];
  for (let step = into.get(end2); step; step = into.get(step.from)) way.push(step);
  return way.reverse();
}

// core/edits/feed-wires.ts
var withFeeds = (build, feeds) => ({
  ...build,
  feeds: { ...build.feeds, ...feeds }
});
function called(build, end2) {
  const plan = feedPlan(build);
  const names = {
    devices: new Map(build.devices.map(({ id: id3, label: label2 }) => [id3, label2])),
    circuits: new Map(plan.feeds.map((feed2) => [feed2.id, feed2.name])),
    parts: new Map([...plan.parts.values()].map(({ id: id3, part: part2 }) => [id3, part2.name]))
  };
  return labelOf({ names }, end2);
}
var noPart = (id3) => fail("no-part", "partId", `There is no part ${id3} in the feeds of this build.`);
var noLink = (id3) => fail("no-link", "linkId", `There is no wire ${id3} in the feeds of this build.`);
function landing(build, plan, path, text3) {
  const ref = readEnd(text3);
  if (!ref) return fail("no-end", path, `${text3} names no end.`);
  const end2 = endKey(ref);
  if (ref.of === "ecu")
    return build.ecu.pins.some(({ id: id3 }) => id3 === ref.pin) ? ok(end2) : fail("no-pin", path, `${build.ecu.model} has no cavity ${ref.pin}.`);
  if (ref.of === "device") {
    const device = build.devices.find(({ id: id3 }) => id3 === ref.device);
    const terminals = device ? build.kinds[device.kindId]?.terminals ?? [] : [];
    return terminals.some(({ id: id3 }) => id3 === ref.terminal) ? ok(end2) : fail("no-terminal", path, `This build has no terminal ${ref.terminal} of ${device?.label ?? ref.device}.`);
  }
  if (ref.kind === "shield") return fail("no-end", path, "A shield is earthed with its device, not in the feeds.");
  const given2 = ["battery", "key", "ground"].includes(ref.kind);
  const part2 = plan.parts.get(partId(ref.kind, ref.part));
  if (part2) {
    const ports = portsOfPart(part2.part);
    return ports.includes(ref.port) ? ok(end2) : fail(
      "no-port",
      path,
      `${part2.part.name} has no terminal ${ref.port || "without a number"}; it has ${ports.join(", ")}.`
    );
  }
  const standing2 = given2 && ["+", "15", "50", "battery", "head", "chassis"].includes(ref.part);
  return standing2 || plan.links.some(({ from }) => from === end2) ? ok(end2) : fail("no-part", path, `There is no part ${partId(ref.kind, ref.part)} in the feeds of this build.`);
}
function linked(build, from, to, length) {
  if (from === to) return fail("same-end", "to", "A wire has two ends.");
  const [one2, other] = [partAt(from), partAt(to)];
  if (one2 !== null && one2 === other && hasPorts(endType(from)) && isAcross(from, to))
    return fail(
      "across-itself",
      "to",
      `A wire across ${called(build, from)} and ${called(build, to)} would bridge what is between them.`
    );
  const plan = feedPlan(build);
  const taken = /* @__PURE__ */ new Set([
    ...plan.links.map(({ id: id3 }) => id3),
    ...Object.keys(build.feeds.links).filter((id3) => build.feeds.links[id3])
  ]);
  let number = 1;
  while (taken.has(wireId(from, to, number))) number += 1;
  const links = {
    ...build.feeds.links,
    [wireId(from, to, number)]: { from, to, ...length === void 0 ? {} : { metres: length } }
  };
  return ok(withFeeds(build, { links }));
}
function isAcross(from, to) {
  const ports = [from, to].map((end2) => endOf(end2)).map((ref) => ref.of === "part" ? ref.port : "");
  const winding = (port) => port === "85" || port === "86";
  return endType(from) !== "relay" || ports.every(winding) || !ports.some(winding);
}
function unlinked(build, plan, id3) {
  const links = { ...build.feeds.links };
  delete links[id3];
  const after = withFeeds(build, { links });
  return plan.links.some((link) => link.id === id3) && feedPlan(after).links.some((link) => link.id === id3) ? withFeeds(build, { links: { ...links, [id3]: null } }) : after;
}
function freshName(plan, kind3, wanted) {
  if (wanted !== void 0 && !plan.parts.has(partId(kind3, wanted))) return wanted;
  const stem = wanted ?? kind3;
  let number = wanted === void 0 ? 1 : 2;
  while (plan.parts.has(partId(kind3, `${stem}-${number}`))) number += 1;
  return `${stem}-${number}`;
}
var withPart = (build, id3, part2) => withFeeds(build, { parts: { ...build.feeds.parts, [id3]: part2 } });
function supplyOf(plan, end2) {
  return plan.links.filter(({ from, to, role: role2 }) => role2 !== "return" && (to === end2 || from === end2)).map(({ id: id3 }) => id3);
}
function hung(build, end2, from) {
  const plan = feedPlan(build);
  const old = supplyOf(plan, end2);
  const length = plan.links.find(({ id: id3 }) => old.includes(id3))?.metres;
  let next = build;
  for (const id3 of old) next = unlinked(next, feedPlan(next), id3);
  const moved = linked(next, from, end2, length);
  if (!moved.ok) return moved;
  const links = Object.fromEntries(
    Object.entries(moved.value.feeds.links).filter(([id3, link]) => link !== null || !old.includes(id3))
  );
  return ok(withFeeds(moved.value, { links }));
}
var isOutlet = (end2) => {
  const ref = endOf(end2);
  return ref.of === "part" && !["ground", "shield"].includes(ref.kind) && ref.port !== "85" && ref.port !== "86";
};
function feedsItself(build, end2, from) {
  const flows = flowsOf(build, feedPlan(build));
  return wayTo(flows, from).some((step) => step.from === end2 || step.to === end2);
}
var withoutPart = (build, id3) => withFeeds(build, { parts: Object.fromEntries(Object.entries(build.feeds.parts).filter(([one2]) => one2 !== id3)) });
var goesAlong = /* @__PURE__ */ new Set(["fuse", "switch", "button", "resistor", "diode"]);
function withoutWiresTo(feeds, end2) {
  const [parts3, links] = [{ ...feeds.parts }, { ...feeds.links }];
  const at = (one2) => Object.entries(links).filter(([, link]) => link?.from === one2 || link?.to === one2);
  const leftover = [end2];
  for (let one2 = leftover.pop(); one2 !== void 0; one2 = leftover.pop())
    for (const [id3, link] of at(one2)) {
      delete links[id3];
      const far2 = link.from === one2 ? link.to : link.from;
      const ref = readEnd(far2);
      const own2 = ref?.of === "part" ? partId(ref.kind, ref.part) : null;
      const part2 = own2 === null ? null : parts3[own2] ?? null;
      if (own2 === null || part2 === null || !goesAlong.has(part2.kind) || at(far2).length > 0) continue;
      delete parts3[own2];
      if (ref?.of === "part") leftover.push(...endsOfPart(part2, ref.part));
    }
  return { ...feeds, parts: parts3, links };
}

// core/edits/feed-boxes.ts
var feedBoxEdits = {
  addFeedBox: edit(
    z19.object({ box: boxSchema, name: partName.optional() }),
    ({ box }) => `Add ${box.name}`,
    (build, { box, name: wanted }) => {
      let own2 = wanted ?? "box";
      for (let number = 2; build.feeds.boxes[own2] !== void 0; number += 1) own2 = `${wanted ?? "box"}-${number}`;
      return ok(withFeeds(build, { boxes: { ...build.feeds.boxes, [own2]: box } }));
    }
  ),
  setFeedBox: edit(
    z19.object({ name: partName, changes: boxSchema.partial() }),
    ({ name: id3 }, build) => `Change ${build.feeds.boxes[id3]?.name ?? id3}`,
    (build, { name: id3, changes }) => {
      const box = build.feeds.boxes[id3];
      if (!box) return fail("no-box", "name", `There is no box ${id3} in this build.`);
      return ok(withFeeds(build, { boxes: { ...build.feeds.boxes, [id3]: { ...box, ...changes } } }));
    }
  ),
  removeFeedBox: edit(
    z19.object({ name: partName }),
    ({ name: id3 }, build) => `Take ${build.feeds.boxes[id3]?.name ?? id3} away`,
    (build, { name: id3 }) => {
      if (!build.feeds.boxes[id3]) return fail("no-box", "name", `There is no box ${id3} in this build.`);
      const boxes = Object.fromEntries(Object.entries(build.feeds.boxes).filter(([one2]) => one2 !== id3));
      const without3 = (records) => Object.fromEntries(
        Object.entries(records).map(([one2, value]) => [
          one2,
          value?.box === id3 ? { ...value, box: void 0 } : value
        ])
      );
      const parts3 = without3(build.feeds.parts);
      const changes = without3(build.feeds.changes);
      return ok(withFeeds(build, { boxes, parts: parts3, changes }));
    }
  )
};

// core/edits/feeds.ts
import { z as z20 } from "zod";

// core/build/direct-lines.ts
var linesOf = ({ device, kind: kind3 }, only = () => true) => new Set(
  kind3.terminals.flatMap((terminal) => {
    const far2 = destinationOf(device, terminal);
    return far2.to === "line" && only(terminal.id) ? [far2.line] : [];
  })
);
var atLines = (build, from, lines) => lines.size === 0 ? [] : build.devices.flatMap((device) => {
  const kind3 = build.kinds[device.kindId];
  if (!kind3 || device.id === from.id) return [];
  return [...linesOf({ device, kind: kind3 })].some((line3) => lines.has(line3)) ? [{ device, kind: kind3 }] : [];
});
var igniterOf = (build, coil) => atLines(build, coil.device, linesOf(coil)).find(({ kind: kind3 }) => trait(kind3, "igniter")) ?? null;
function coilsBehind(build, module, input2 = null) {
  const outputs = new Set(
    trait(module.kind, "igniter")?.channels.flatMap(
      (one2) => input2 === null || one2.input === input2 ? [one2.output] : []
    )
  );
  const lines = linesOf(module, (id3) => outputs.has(id3));
  return atLines(build, module.device, lines).filter(({ kind: kind3 }) => trait(kind3, "coil"));
}

// core/netlist/joined.ts
var joinable = /* @__PURE__ */ new Set([
  "injector",
  "ignition-logic",
  "ignition-driver",
  "low-side",
  "high-side"
]);
var canJoin = (need) => joinable.has(need.ask.kind) && need.pair === null && need.deviceId !== null && need.protection === null;
var canShare = (one2, other) => one2.id !== other.id && canJoin(one2) && canJoin(other) && one2.ask.kind === other.ask.kind;
function askOfAll(asks) {
  const sum = (of) => asks.reduce((all, ask) => {
    const one2 = of(ask);
    return one2 === void 0 ? all : (all ?? 0) + one2;
  }, void 0);
  const most2 = (values) => values.reduce((all, one2) => one2 === void 0 ? all : Math.max(all ?? one2, one2), void 0);
  const [amps2, siemens] = [sum((ask) => ask.amps), sum((ask) => ask.ohms && 1 / ask.ohms)];
  const ohms2 = asks.flatMap((ask) => ask.ohms ?? []);
  const hz = most2(asks.map((ask) => ask.hz));
  return {
    ...asks[0],
    ...amps2 === void 0 ? {} : { amps: Math.round(amps2 * 1e3) / 1e3 },
    ...siemens === void 0 ? {} : { ohms: Math.min(...ohms2), parallelOhms: Math.round(100 / siemens) / 100 },
    ...hz === void 0 ? {} : { hz }
  };
}
function labelOfAll(labels) {
  const parts3 = labels.map((label2) => /^(.*) (\S+)$/.exec(label2));
  const [first2] = parts3;
  return first2 && parts3.every((part2) => part2?.[1] === first2[1]) ? `${first2[1]} ${parts3.map((part2) => part2[2]).join(" + ")}` : labels.join(" + ");
}
function joinedNeed(lead, others) {
  const all = [lead, ...others];
  const sameRow = others.every(({ row }) => row === lead.row);
  return {
    ...lead,
    label: labelOfAll(all.map(({ label: label2 }) => label2)),
    ask: askOfAll(all.map(({ ask }) => ask)),
    serves: [...new Set(all.flatMap(({ serves }) => serves))].sort((one2, other) => one2 - other),
    // What is right for each of them is right for all.
    outputs: all.some(({ outputs }) => outputs === null) ? null : sameRow ? lead.outputs.filter((output2) => others.every(({ outputs }) => outputs.includes(output2))) : [],
    joined: others.map(({ id: id3, label: label2, end: end2, deviceId }) => ({ id: id3, label: label2, end: end2, deviceId }))
  };
}
function folded(build, needs) {
  if (Object.keys(build.joined).length === 0) return needs;
  const byId = new Map(needs.map((need) => [need.id, need]));
  const leadOf = (need) => {
    const lead = byId.get(build.joined[need.id] ?? "");
    return lead && !byId.has(build.joined[lead.id] ?? "") && canShare(need, lead) ? lead : null;
  };
  const members = /* @__PURE__ */ new Map();
  for (const need of needs) {
    const lead = leadOf(need);
    if (lead) members.set(lead, [...members.get(lead) ?? [], need]);
  }
  return needs.flatMap((need) => {
    if (leadOf(need)) return [];
    const others = members.get(need);
    return others ? [joinedNeed(need, others)] : [need];
  });
}

// core/netlist/returns.ts
function returnsToGround(build, device, kind3, terminal) {
  const destination = destinationOf(device, terminal);
  if (destination.to !== "pin" || destination.ask.kind !== "vr" || destination.ask.side !== "minus") return false;
  const signal = kind3.terminals.find((one2) => {
    const other = destinationOf(device, one2);
    return other.to === "pin" && other.pair === destination.pair && other.ask.side === "plus";
  });
  const wanted = signal && destinationOf(device, signal);
  if (!signal || wanted?.to !== "pin") return false;
  const pin2 = withId(build.ecu.pins, build.assignments[terminalId(device.id, signal.id)]);
  const on = pin2 && serve(pin2, wanted.ask).ability;
  if (on) return on.pair === void 0;
  const inputs2 = pinsOfKind(build.ecu, "vr").flatMap((one2) => one2.abilities.filter(({ kind: can3 }) => can3 === "vr"));
  return inputs2.length > 0 && inputs2.every(({ pair }) => pair === void 0);
}
function returnBank(build, device, kind3, terminal) {
  const destination = destinationOf(device, terminal);
  if (destination.to === "sensor-ground") return destination.bank;
  return returnsToGround(build, device, kind3, terminal) ? 0 : null;
}

// core/netlist/needs.ts
var DRIVEN_WINDING_AMPS = 0.2;
function deviceNeeds(build, device, kind3) {
  const led = leadsBus(build, device.id);
  const wanting = kind3.terminals.filter((terminal) => {
    const destination = destinationOf(device, terminal);
    if (destination.to !== "pin" || returnsToGround(build, device, kind3, terminal)) return false;
    return led || destination.ask.kind !== "can";
  });
  const membersOfPair = /* @__PURE__ */ new Map();
  for (const terminal of wanting) {
    const destination = destinationOf(device, terminal);
    const pair = destination.to === "pin" ? destination.pair : void 0;
    if (pair !== void 0) membersOfPair.set(pair, (membersOfPair.get(pair) ?? 0) + 1);
  }
  return wanting.map((terminal) => {
    const destination = destinationOf(device, terminal);
    const injector3 = trait(kind3, "injector");
    const ask = injector3 && destination.ask.kind === "injector" ? { ...destination.ask, ohms: injector3.ohms } : destination.ask;
    const { serves, row } = device.serves.length > 0 ? device : coilsBehind(build, { device, kind: kind3 }, terminal.id)[0]?.device ?? device;
    const work = workOf(ask);
    return {
      id: terminalId(device.id, terminal.id),
      label: wanting.length > 1 ? `${device.label} ${terminal.name}` : device.label,
      system: kind3.system,
      end: deviceEnd(device.id, terminal.id),
      ask,
      deviceId: device.id,
      winding: null,
      // A VR signal whose return goes to ground stands alone.
      pair: destination.pair && !(destination.ask.kind === "vr" && membersOfPair.get(destination.pair) === 1) ? terminalId(device.id, destination.pair) : null,
      serves,
      row,
      outputs: work !== null && serves.length > 0 ? outputsFor(build.engine, build.outputOrder, work, serves, row) : null,
      protection: protectionOf(kind3, terminal),
      joined: []
    };
  });
}
var windingOwner = (circuitId) => `relay-${circuitId}`;
function separateNeeds(build) {
  const fromDevices = build.devices.flatMap((device) => {
    const kind3 = build.kinds[device.kindId];
    return kind3 ? deviceNeeds(build, device, kind3) : [];
  });
  const plan = feedPlan(build);
  const systems2 = new Map(plan.feeds.map(({ id: id3, system }) => [id3, system]));
  const fromRelays = [...plan.parts.values()].flatMap(
    ({ name: name3, part: part2 }) => part2.kind === "relay" && part2.control === "need" ? [
      {
        id: terminalId(windingOwner(name3), "85"),
        label: `${part2.name} relay`,
        system: systems2.get(name3) ?? "Start and charge",
        end: windingEnds(name3, part2).driver,
        ask: { kind: "low-side", amps: DRIVEN_WINDING_AMPS },
        deviceId: null,
        winding: name3,
        pair: null,
        serves: [],
        row: 1,
        outputs: null,
        protection: null,
        joined: []
      }
    ] : []
  );
  return [...fromDevices, ...fromRelays];
}
var needsOf = (build) => folded(build, separateNeeds(build));

// core/edits/stale.ts
function dropStale(build) {
  const needs = new Set(needsOf(build).map((need) => need.id));
  const stale = Object.keys(build.assignments).filter((id3) => !needs.has(id3));
  const locked = build.locked.filter((id3) => needs.has(id3));
  if (stale.length === 0 && locked.length === build.locked.length) return build;
  return {
    ...build,
    assignments: Object.fromEntries(Object.entries(build.assignments).filter(([id3]) => needs.has(id3))),
    locked
  };
}

// core/edits/feeds.ts
var name2 = z20.string().regex(/^[a-z0-9-]{1,60}$/, "must be lower-case letters, digits and hyphens");
var partText = z20.string().max(80);
var endText = z20.string().max(160);
var metres3 = z20.number().min(0).max(30);
var inWire = ["fuse", "switch", "button", "resistor", "diode", "splice"];
var feedEdits = {
  /** A part of its own, not wired yet. */
  addFeedPart: edit(
    z20.object({ part: partSchema2, name: name2.optional() }),
    ({ part: part2 }) => `Add ${part2.name} to the feeds`,
    (build, { part: part2, name: wanted }) => {
      const own2 = freshName(feedPlan(build), part2.kind, wanted);
      return ok(dropStale(withPart(build, partId(part2.kind, own2), part2)));
    }
  ),
  /** Changes what a part is. Of one that is proposed only what was said is decided; the rest follows the proposal. */
  setFeedPart: edit(
    z20.object({ partId: partText, changes: z20.record(z20.string().max(20), z20.unknown()) }),
    ({ partId: id3 }, build) => `Change ${feedPlan(build).parts.get(id3)?.part.name ?? id3}`,
    (build, { partId: id3, changes }) => {
      const found2 = feedPlan(build).parts.get(id3);
      if (!found2) return noPart(id3);
      const box = changes.box;
      if (typeof box === "string" && build.feeds.boxes[box] === void 0)
        return fail("no-box", "changes.box", `There is no box ${box} in this build.`);
      const given2 = Object.fromEntries(
        Object.entries(changes).filter(([, value]) => value !== null && value !== void 0)
      );
      const parsed = partSchema2.safeParse({ ...found2.part, ...given2, ...box === null ? { box: void 0 } : {} });
      if (!parsed.success) return { ok: false, problem: zodProblem(parsed.error, "invalid-part") };
      if (!found2.proposed) return ok(dropStale(withPart(build, found2.id, parsed.data)));
      const said = partChangesSchema.safeParse(given2);
      if (!said.success) return { ok: false, problem: zodProblem(said.error, "invalid-part") };
      const { box: was, ...before } = build.feeds.changes[found2.id] ?? {};
      const kept = box === void 0 && was !== void 0 ? { box: was } : {};
      const next = { ...before, ...kept, ...said.data };
      return ok(dropStale(withFeeds(build, { changes: { ...build.feeds.changes, [found2.id]: next } })));
    }
  ),
  /** Takes a part out. One in a single run is bridged; what hung on any other is fed by nothing until it is hung elsewhere. */
  removeFeedPart: edit(
    z20.object({ partId: partText }),
    ({ partId: id3 }, build) => `Take ${feedPlan(build).parts.get(id3)?.part.name ?? id3} out`,
    (build, { partId: id3 }) => {
      const plan = feedPlan(build);
      const found2 = plan.parts.get(id3);
      if (!found2) return noPart(id3);
      const ends2 = endsOfPart(found2.part, found2.name);
      const at = (end2) => plan.links.filter(({ from, to }) => from === end2 || to === end2);
      const run = ends2.length === 2 && found2.part.kind !== "fuse" ? ends2.map(at) : ends2.length === 1 ? [at(ends2[0])] : [];
      const far2 = run.flat().map(({ from, to }) => ends2.includes(from) ? to : from);
      const bridges = far2.length === 2 && run.every((links) => links.length === far2.length / run.length);
      let next = build;
      for (const link of ends2.flatMap(at)) next = unlinked(next, feedPlan(next), link.id);
      next = withPart(next, found2.id, null);
      if (!feedPlan(withoutPart(next, found2.id)).parts.has(found2.id)) next = withoutPart(next, found2.id);
      const again = (one2, other) => feedPlan(next).links.some(({ id: link }) => link === wireId(one2, other));
      if (!bridges || again(far2[0], far2[1])) return ok(dropStale(next));
      const length = run.flat().reduce((sum, link) => sum + link.metres, 0);
      const bridged = linked(next, far2[0], far2[1], Math.round(length * 100) / 100);
      return bridged.ok ? ok(dropStale(bridged.value)) : bridged;
    }
  ),
  linkFeed: edit(
    z20.object({ from: endText, to: endText, metres: metres3.optional() }),
    ({ from, to }) => `Wire ${from} to ${to}`,
    (build, { from, to, metres: length }) => {
      const plan = feedPlan(build);
      const [one2, other] = [landing(build, plan, "from", from), landing(build, plan, "to", to)];
      if (!one2.ok) return one2;
      if (!other.ok) return other;
      const next = linked(build, one2.value, other.value, length);
      return next.ok ? ok(dropStale(next.value)) : next;
    }
  ),
  unlinkFeed: edit(
    z20.object({ linkId: z20.string().max(330) }),
    ({ linkId }) => `Take the wire ${linkId.replace("~", " to ")} out`,
    (build, { linkId }) => {
      const plan = feedPlan(build);
      return plan.links.some(({ id: id3 }) => id3 === linkId) ? ok(dropStale(unlinked(build, plan, linkId))) : noLink(linkId);
    }
  ),
  /** Drops a wire of the document that leads to nothing any more. */
  forgetFeedLink: edit(
    z20.object({ linkId: z20.string().max(330) }),
    () => "Forget a wire that leads nowhere",
    (build, { linkId }) => {
      if (build.feeds.links[linkId] === void 0) return noLink(linkId);
      const links = Object.fromEntries(Object.entries(build.feeds.links).filter(([id3]) => id3 !== linkId));
      return ok(dropStale(withFeeds(build, { links })));
    }
  ),
  setFeedLink: edit(
    z20.object({ linkId: z20.string().max(330), metres: metres3 }),
    () => "Measure a wire of the feeds",
    (build, { linkId, metres: length }) => {
      const link = feedPlan(build).links.find(({ id: id3 }) => id3 === linkId);
      if (!link) return noLink(linkId);
      const { from, to } = link;
      return ok(withFeeds(build, { links: { ...build.feeds.links, [linkId]: { from, to, metres: length } } }));
    }
  ),
  /** Hangs a load, or the supply of a winding, on another fuse, relay, splice, busbar or source. */
  hangLoad: edit(
    z20.object({ end: endText, from: endText }),
    ({ end: end2, from }, build) => {
      const [one2, other] = [end2, from].map((text3) => readEnd(text3));
      return one2 && other ? `Hang ${called(build, endKey(one2))} on ${called(build, endKey(other))}` : "Hang a load elsewhere";
    },
    (build, { end: endName, from: fromName }) => {
      const plan = feedPlan(build);
      const [end2, from] = [landing(build, plan, "end", endName), landing(build, plan, "from", fromName)];
      if (!end2.ok) return end2;
      if (!from.ok) return from;
      if (!isOutlet(from.value))
        return fail("no-outlet", "from", `Nothing can be fed from ${called(build, from.value)}.`);
      if (feedsItself(build, end2.value, from.value))
        return fail(
          "feeds-itself",
          "from",
          `${called(build, from.value)} hangs on ${called(build, end2.value)} itself.`
        );
      const next = hung(build, end2.value, from.value);
      return next.ok ? ok(dropStale(next.value)) : next;
    }
  ),
  /** Takes a return to another bolt, or to a splice that several share. */
  moveReturn: edit(
    z20.object({ end: endText, to: endText }),
    ({ end: end2, to }, build) => {
      const [one2, other] = [end2, to].map((text3) => readEnd(text3));
      return one2 && other ? `Ground ${called(build, endKey(one2))} at ${called(build, endKey(other))}` : "Move a ground";
    },
    (build, { end: endName, to: toName }) => {
      const plan = feedPlan(build);
      const [end2, to] = [landing(build, plan, "end", endName), landing(build, plan, "to", toName)];
      if (!end2.ok) return end2;
      if (!to.ok) return to;
      if (endType(to.value) !== "ground" && endType(to.value) !== "splice")
        return fail("no-ground", "to", `${called(build, to.value)} is neither a bolt nor a splice of returns.`);
      const own2 = Object.entries(build.feeds.links).filter(
        ([, link]) => link?.from === end2.value || link?.to === end2.value
      );
      const links = Object.fromEntries(
        Object.entries(build.feeds.links).filter(([id3]) => !own2.some(([old]) => old === id3))
      );
      const next = linked(withFeeds(build, { links }), end2.value, to.value, own2[0]?.[1]?.metres);
      return next.ok ? ok(next.value) : next;
    }
  ),
  /** Cuts a wire and puts a part in: a fuse, a switch, a button, a resistor, a diode, or a splice for what is to hang there. */
  insertInFeed: edit(
    z20.object({ linkId: z20.string().max(330), part: partSchema2, name: name2.optional() }),
    ({ part: part2 }) => `Put ${part2.name} into a wire`,
    (build, { linkId, part: part2, name: wanted }) => {
      const plan = feedPlan(build);
      const link = plan.links.find(({ id: id3 }) => id3 === linkId);
      if (!link) return noLink(linkId);
      if (!inWire.includes(part2.kind))
        return fail(
          "not-in-a-wire",
          "part.kind",
          `A ${part2.kind} does not go into a wire; add it and wire its terminals.`
        );
      if (part2.kind === "fuse" && endType(link.to) === "ground")
        return fail(
          "fuse-in-ground",
          "linkId",
          "A fuse does not go into a return: when it opens, the load finds another way to the battery."
        );
      const own2 = freshName(plan, part2.kind, wanted);
      const ends2 = endsOfPart(part2, own2);
      const [into, out] = [ends2[0], ends2[ends2.length - 1]];
      const half = Math.round(link.metres / 2 * 100) / 100;
      let next = withPart(build, partId(part2.kind, own2), part2);
      const first2 = linked(next, link.from, into, half);
      if (!first2.ok) return first2;
      const second = linked(first2.value, out, link.to, Math.round((link.metres - half) * 100) / 100);
      if (!second.ok) return second;
      next = second.value;
      return ok(dropStale(unlinked(next, feedPlan(next), linkId)));
    }
  ),
  /** Gives loads a fuse of their own, and where it is asked for a relay, straight from the source. */
  splitFeed: edit(
    z20.object({
      ends: z20.array(endText).min(1).max(40),
      name: name2,
      title: z20.string().trim().min(1).max(60),
      control: z20.enum(["need", "main-relay-pin", "key-run", "key-start"]).nullable()
    }),
    ({ title }) => `Give ${title} a feed of its own`,
    (build, { ends: ends2, name: wanted, title, control }) => {
      const plan = feedPlan(build);
      let own2 = wanted;
      for (let number = 2; plan.parts.has(partId("fuse", own2)) || plan.parts.has(partId("relay", own2)); number += 1)
        own2 = `${wanted}-${number}`;
      const source = build.feeds.source ?? BATTERY;
      let next = withPart(build, partId("fuse", own2), { kind: "fuse", name: title });
      const steps3 = [[source, fuseEnd(own2, 1), FUSE_METRES]];
      let outlet = fuseEnd(own2, 2);
      if (control !== null) {
        next = withPart(next, partId("relay", own2), {
          kind: "relay",
          name: title,
          contact: "make",
          control,
          suppression: "none",
          reversed: false,
          contactAmps: USUAL_CONTACT_AMPS
        });
        steps3.push([outlet, relayEnd(own2, "30"), JUMPER_METRES]);
        outlet = relayEnd(own2, "87");
      }
      if (ends2.length > 1) {
        next = withPart(next, partId("splice", own2), { kind: "splice", name: title });
        steps3.push([outlet, spliceEnd(own2), 1]);
        outlet = spliceEnd(own2);
      }
      for (const [from, to, length] of steps3) {
        const wired = linked(next, from, to, length);
        if (!wired.ok) return wired;
        next = wired.value;
      }
      for (const text3 of ends2) {
        const end2 = landing(build, plan, "ends", text3);
        if (!end2.ok) return end2;
        const moved = hung(next, end2.value, outlet);
        if (!moved.ok) return moved;
        next = moved.value;
      }
      return ok(dropStale(next));
    }
  ),
  /** Where fuses that are proposed draw from: the battery's post, or a busbar behind a master switch. */
  setFeedSource: edit(
    z20.object({ end: endText.nullable() }),
    () => "Draw the feeds from elsewhere",
    (build, { end: end2 }) => {
      if (end2 === null) return ok(withFeeds(build, { source: null }));
      const found2 = landing(build, feedPlan(build), "end", end2);
      if (!found2.ok) return found2;
      return isOutlet(found2.value) ? ok(withFeeds(build, { source: found2.value === BATTERY ? null : found2.value })) : fail("no-outlet", "end", `Nothing can be fed from ${called(build, found2.value)}.`);
    }
  ),
  /** A master switch in the battery's feed: everything but the starter's cable then hangs behind it. */
  fitMasterSwitch: edit(
    z20.object({ amps: z20.number().positive().max(1e3) }),
    () => "Fit a master switch",
    (build, { amps: amps2 }) => {
      const plan = feedPlan(build);
      const own2 = freshName(plan, "switch", "master");
      const bar = freshName(plan, "busbar", own2);
      let next = withPart(build, partId("switch", own2), {
        kind: "switch",
        name: "Master switch",
        amps: amps2,
        resting: "closed"
      });
      next = withPart(next, partId("busbar", bar), { kind: "busbar", name: "Behind the master switch" });
      const source = build.feeds.source ?? BATTERY;
      const first2 = linked(next, source, partEnd("switch", own2, "1"), 0.3);
      if (!first2.ok) return first2;
      const second = linked(first2.value, partEnd("switch", own2, "2"), partEnd("busbar", bar), 0.3);
      return second.ok ? ok(withFeeds(second.value, { source: partEnd("busbar", bar) })) : second;
    }
  ),
  /** Forgets what was decided of the feeds and takes the proposal again; boxes stay. */
  proposeFeeds: edit(
    z20.strictObject({}),
    () => "Take the proposed feeds again",
    (build) => ok(dropStale(withFeeds(build, { parts: {}, changes: {}, links: {}, source: null })))
  )
};

// core/edits/found.ts
import { z as z21 } from "zod";
var withSurvey = (build, part2) => ({
  ...build,
  survey: { ...build.survey, ...part2 }
});
var put = (list, one2) => list.some((other) => other.id === one2.id) ? list.map((other) => other.id === one2.id ? one2 : other) : [...list, one2];
var without = (list, id3) => list.some((one2) => one2.id === id3) ? ok(list.filter((one2) => one2.id !== id3)) : fail("no-record", "id", `There is no entry ${id3} to remove.`);
var { id: _id, row: _row, decision: _decision, ...written } = donorWireSchema.shape;
var donorFields = z21.object({ ...written, decision: z21.enum(decisions), group: z21.enum(donorGroups) }).partial();
var idSchema = z21.string().min(1).max(60);
var idOnly = z21.object({ id: idSchema });
function lockedWire(before, after) {
  if (!isRestraint(after) && !isRestraint(before)) return null;
  const changed2 = after.decision !== before.decision || after.moveTo !== before.moveTo;
  return changed2 && after.decision !== "open" ? fail(
    "restraint",
    `donor.${before.id}`,
    `${before.connector} ${before.cavity} belongs to a restraint system: it is locked. Stop, and leave it to a licensed workshop.`
  ) : null;
}
var foundEdits = {
  setUnits: edit(
    unitsSchema.partial(),
    () => "Change units",
    (build, units) => ok({ ...build, units: { ...build.units, ...units } })
  ),
  setFuel: edit(
    fuelDataSchema.partial(),
    () => "Set fuel and power goal",
    (build, fuel) => ok({ ...build, fuel: { ...build.fuel, ...fuel } })
  ),
  setIdentify: edit(
    identifySchema.partial(),
    () => "Answer on the engine",
    (build, answers) => ok(withSurvey(build, { identify: { ...build.survey.identify, ...answers } }))
  ),
  setColourWriting: edit(
    z21.object({ colours: surveySchema.shape.colours }),
    () => "Say how colours are written",
    (build, { colours }) => ok(withSurvey(build, { colours }))
  ),
  addDonorWires: edit(
    z21.object({
      wires: z21.array(donorWireSchema).min(1).max(DONOR_LIMIT),
      /** Takes the place of the whole list. */
      replace: z21.boolean().optional()
    }),
    ({ wires }) => `Bring in ${plural(wires.length, "donor wire")}`,
    (build, { wires, replace }) => {
      const kept = replace ? {} : build.survey.donor;
      const donor = { ...kept };
      for (const wire of wires) {
        if (donor[wire.id])
          return fail("duplicate", `wires.${wire.id}`, `A donor wire ${wire.id} is on the list already.`);
        const locked = isRestraint(wire);
        donor[wire.id] = locked ? { ...wire, decision: "open", moveTo: "" } : wire;
      }
      if (Object.keys(donor).length > DONOR_LIMIT)
        return fail("too-many", "wires", `A donor loom holds at most ${DONOR_LIMIT} wires.`);
      return ok(withSurvey(build, { donor }));
    }
  ),
  editDonorWires: edit(
    z21.object({ ids: z21.array(z21.string()).min(1).max(DONOR_LIMIT), fields: donorFields }),
    ({ ids, fields }) => fields.decision ? `Decide ${plural(ids.length, "donor wire")}` : `Change ${plural(ids.length, "donor wire")}`,
    (build, { ids, fields }) => {
      const donor = { ...build.survey.donor };
      for (const id3 of ids) {
        const before = donor[id3];
        if (!before) return fail("no-wire", `donor.${id3}`, `There is no donor wire ${id3}.`);
        const after = { ...before, ...fields };
        const locked = lockedWire(before, after);
        if (locked && ids.length === 1) return locked;
        donor[id3] = locked ? before : isRestraint(after) ? { ...after, decision: "open", moveTo: "" } : after;
      }
      return ok(withSurvey(build, { donor }));
    }
  ),
  removeDonorWires: edit(
    z21.object({ ids: z21.array(z21.string()).min(1).max(DONOR_LIMIT) }),
    ({ ids }) => `Take ${plural(ids.length, "donor wire")} off the list`,
    (build, { ids }) => {
      const gone = new Set(ids);
      const donor = Object.fromEntries(Object.entries(build.survey.donor).filter(([id3]) => !gone.has(id3)));
      if (Object.keys(donor).length === Object.keys(build.survey.donor).length)
        return fail("no-wire", "ids", "None of these wires is on the list.");
      return ok(withSurvey(build, { donor }));
    }
  ),
  putQuestion: edit(
    z21.object({ question: questionSchema }),
    ({ question }) => question.answeredOn ? "Answer a question" : "Note a question",
    (build, { question }) => ok(withSurvey(build, { questions: put(build.survey.questions, question) }))
  ),
  removeQuestion: edit(
    idOnly,
    () => "Remove a question",
    (build, { id: id3 }) => {
      const questions = without(build.survey.questions, id3);
      return questions.ok ? ok(withSurvey(build, { questions: questions.value })) : questions;
    }
  ),
  putPart: edit(
    z21.object({ part: partSchema }),
    ({ part: part2 }) => `Note a part: ${part2.item}`,
    (build, { part: part2 }) => ok(withSurvey(build, { parts: put(build.survey.parts, part2) }))
  ),
  removePart: edit(
    idOnly,
    () => "Remove a part",
    (build, { id: id3 }) => {
      const parts3 = without(build.survey.parts, id3);
      return parts3.ok ? ok(withSurvey(build, { parts: parts3.value })) : parts3;
    }
  ),
  putHours: edit(
    z21.object({ entry: hoursSchema }),
    () => "Note hours",
    (build, { entry: entry2 }) => ok(withSurvey(build, { hours: put(build.survey.hours, entry2) }))
  ),
  removeHours: edit(
    idOnly,
    () => "Remove hours",
    (build, { id: id3 }) => {
      const hours = without(build.survey.hours, id3);
      return hours.ok ? ok(withSurvey(build, { hours: hours.value })) : hours;
    }
  ),
  setCurrency: edit(
    z21.object({ currency: z21.string().regex(/^[A-Z]{3}$/, "must be three capital letters, such as EUR") }),
    ({ currency }) => `Count in ${currency}`,
    (build, { currency }) => ok(withSurvey(build, { currency }))
  ),
  putPhoto: edit(
    z21.object({ photo: photoSchema }),
    () => "Keep a photograph",
    (build, { photo }) => {
      const photos = put(build.survey.photos, photo);
      if (photos.length > 200) return fail("too-many", "photo", "A build keeps at most 200 photographs.");
      return ok(withSurvey(build, { photos }));
    }
  ),
  removePhoto: edit(
    idOnly,
    () => "Remove a photograph",
    (build, { id: id3 }) => {
      const photos = without(build.survey.photos, id3);
      return photos.ok ? ok(withSurvey(build, { photos: photos.value })) : photos;
    }
  )
};

// core/edits/joins.ts
import { z as z22 } from "zod";

// core/prove/prove-test.ts
var SECOND_ROW = 100;
var answerOf = (cylinder, row) => cylinder + (row - 1) * SECOND_ROW;
var ISOLATED_OHMS = 1e6;
var continuityLimit = (expectedOhms) => Math.round((expectedOhms * 1.5 + 0.3) * 100) / 100;
var continuityId = (hold, touch) => `c|${hold}|${touch}`;

// core/edits/joins.ts
var MOST_JOINED = 8;
var groupOf = (joined2, leadId) => [
  leadId,
  ...Object.keys(joined2).filter((id3) => joined2[id3] === leadId)
];
function parted(build, needId) {
  const joined2 = { ...build.joined };
  const own2 = groupOf(joined2, needId).slice(1);
  delete joined2[needId];
  const [next, ...rest] = own2;
  if (next === void 0) return { ...build, joined: joined2 };
  delete joined2[next];
  for (const id3 of rest) joined2[id3] = next;
  const assignments = { ...build.assignments };
  const pin2 = assignments[needId];
  delete assignments[needId];
  if (pin2 !== void 0) assignments[next] = pin2;
  const name3 = (id3) => id3 === needId ? next : id3;
  return {
    ...build,
    joined: joined2,
    assignments,
    locked: build.locked.map(name3),
    never: build.never.map((one2) => one2.needId === needId ? { ...one2, needId: next } : one2)
  };
}
function unproved(before, after) {
  const ways = (build) => new Map(
    needsOf(build).flatMap((need) => {
      const pin2 = build.assignments[need.id];
      const way = need.joined.length > 0 ? "splice" : "straight";
      return pin2 === void 0 ? [] : [need, ...need.joined].map(({ end: end2 }) => [continuityId(ecuEnd(pin2), end2), way]);
    })
  );
  const [was, is] = [ways(before), ways(after)];
  const cut = Object.keys(after.prove.readings).filter((id3) => was.has(id3) && is.has(id3) && was.get(id3) !== is.get(id3));
  if (cut.length === 0) return after;
  const readings2 = Object.fromEntries(Object.entries(after.prove.readings).filter(([id3]) => !cut.includes(id3)));
  return { ...after, prove: { ...after.prove, readings: readings2 } };
}
function withJoins(before, after) {
  if (Object.keys(after.joined).length === 0) return after;
  if (after.devices === before.devices && after.kinds === before.kinds) return after;
  const needs = new Map(separateNeeds(after).map((need) => [need.id, need]));
  let next = after;
  for (const id3 of new Set(Object.values(after.joined))) {
    const lead = needs.get(id3);
    if (lead && canJoin(lead)) continue;
    const pin2 = before.assignments[id3];
    const assignments = pin2 === void 0 ? next.assignments : { ...next.assignments, [id3]: pin2 };
    const locked = before.locked.includes(id3) ? [.../* @__PURE__ */ new Set([...next.locked, id3])] : next.locked;
    next = parted({ ...next, assignments, locked }, id3);
  }
  for (const [id3, leadId] of Object.entries(next.joined)) {
    const [need, lead] = [needs.get(id3), needs.get(leadId)];
    if (!need || !lead || !canShare(need, lead)) next = parted(next, id3);
  }
  return unproved(before, next);
}
var joinEdits = {
  /** Hangs a need on the output of another; null gives it an output of its own again. */
  joinOutput: edit(
    z22.object({ needId: z22.string().max(120), leadId: z22.string().max(120).nullable() }),
    ({ needId, leadId }, build) => {
      const name3 = (id3) => separateNeeds(build).find((need) => need.id === id3)?.label ?? id3;
      return leadId === null ? `Give ${name3(needId)} an output of its own` : `Hang ${name3(needId)} on the output of ${name3(leadId)}`;
    },
    (build, { needId, leadId }) => {
      const needs = new Map(separateNeeds(build).map((need2) => [need2.id, need2]));
      const need = needs.get(needId);
      if (!need) return fail("no-need", "needId", `Nothing of this build asks for a pin as ${needId}.`);
      if (leadId === null) return ok(unproved(build, dropStale(parted(build, needId))));
      const wanted = needs.get(build.joined[leadId] ?? leadId);
      if (!wanted) return fail("no-need", "leadId", `Nothing of this build asks for a pin as ${leadId}.`);
      if (!canShare(need, wanted))
        return fail(
          "cannot-share",
          "leadId",
          wanted.id === need.id ? `${need.label} leads this output already.` : `${need.label} cannot share an output with ${wanted.label}: only outputs of one kind work several parts.`
        );
      const group = groupOf(build.joined, needId);
      if (group.length + groupOf(build.joined, wanted.id).length > MOST_JOINED)
        return fail("too-many", "leadId", `One output holds at most ${MOST_JOINED} parts.`);
      const joined2 = { ...build.joined, ...Object.fromEntries(group.map((id3) => [id3, wanted.id])) };
      const pin2 = build.assignments[wanted.id] ?? build.assignments[needId];
      const assignments = pin2 === void 0 ? build.assignments : { ...build.assignments, [wanted.id]: pin2 };
      return ok(unproved(build, dropStale({ ...build, joined: joined2, assignments })));
    }
  )
};

// core/devices/variants.ts
function purposeOf({ destination }) {
  switch (destination.to) {
    case "pin": {
      const { kind: kind3, side, cell, phase } = destination.ask;
      return ["pin", kind3, side, cell, phase].filter((part2) => part2 !== void 0).join(" ");
    }
    case "supply-5v":
      return "5 V supply";
    case "feed":
      return "feed";
    case "ground":
    case "mounted":
    case "sensor-ground":
      return "ground";
    default:
      return destination.to;
  }
}
var sameDestination = (one2, other) => {
  const plain4 = ({ ...rest }) => JSON.stringify({ ...rest, amps: void 0, milliamps: void 0 });
  return plain4(one2) === plain4(other);
};
function compareVariants(from, to) {
  const left = new Set(to.terminals);
  const match = /* @__PURE__ */ new Map();
  const passes = [
    (own2, other) => own2.name === other.name && purposeOf(own2) === purposeOf(other),
    (own2, other) => purposeOf(own2) === purposeOf(other) && own2.id === other.id,
    (own2, other) => purposeOf(own2) === purposeOf(other),
    // A supply stays a supply, be it of 5 or of 12 volts.
    (own2, other) => own2.name === other.name && purposeOf(own2) !== "pin" && purposeOf(other) !== "pin"
  ];
  for (const fits of passes)
    for (const own2 of from.terminals) {
      if (match.has(own2)) continue;
      const other = [...left].find((one2) => fits(own2, one2));
      if (!other) continue;
      match.set(own2, other);
      left.delete(other);
    }
  const rows = [
    ...from.terminals.map((own2) => {
      const other = match.get(own2) ?? null;
      return { from: own2, to: other, same: other !== null && other.id === own2.id };
    }),
    ...[...left].map((other) => ({ from: null, to: other, same: false }))
  ];
  const moves = rows.flatMap(
    ({ from: own2, to: other }) => own2 && other && own2.id !== other.id ? [{ from: own2.id, to: other.id }] : []
  );
  const adds = rows.flatMap(({ from: own2, to: other }) => own2 === null && other ? [other] : []);
  const leaves = rows.flatMap(({ from: own2, to: other }) => other === null && own2 ? [own2] : []);
  const otherwise = rows.flatMap(
    ({ from: own2, to: other }) => own2 && other && !sameDestination(own2.destination, other.destination) ? [{ terminal: other, was: own2.destination }] : []
  );
  return {
    rows,
    moves,
    adds,
    leaves,
    otherwise,
    exchangeable: moves.length + adds.length + leaves.length + otherwise.length === 0
  };
}

// core/edits/parts.ts
import { z as z23 } from "zod";

// core/body/signals.ts
var output = (hz = 0) => ({ to: "pin", ask: { kind: "low-side", amps: 0.3, hz } });
var input = { to: "pin", ask: { kind: "switch" } };
var line2 = (name3) => ({ to: "line", line: name3 });
var bodySignals = [
  {
    id: "key-feed",
    name: "Key feed (run)",
    note: "Live with the key in run and while cranking (15 in DIN 72552). The key circuits start here.",
    destination: { to: "source", source: "key-run" },
    inside: { to: "@15", ohms: 0.02 }
  },
  {
    id: "start-signal",
    name: "Start signal",
    note: "Live while the key is turned to start (50 in DIN 72552).",
    destination: { to: "source", source: "key-start" },
    inside: { to: "@50", ohms: 0.02 }
  },
  {
    id: "oil-lamp",
    name: "Oil warning lamp",
    note: "Fed in the dash; the oil switch on the engine takes it to ground.",
    destination: line2("oil-lamp"),
    inside: { to: "@15", ohms: 65 }
  },
  {
    id: "charge-lamp",
    name: "Charge warning lamp",
    note: "Fed in the dash; the alternator takes it to ground and is excited through it. No lamp: about 470 \u03A9.",
    destination: line2("charge-lamp"),
    inside: { to: "@15", ohms: 65 }
  },
  {
    id: "engine-lamp",
    name: "Engine warning lamp",
    note: "Fed in the dash; an ECU output takes it to ground.",
    destination: output(),
    inside: { to: "@15", ohms: 65 }
  },
  {
    id: "tachometer",
    name: "Tachometer",
    note: "Count the pulses it wants a turn, and how it is driven, before it is wired.",
    destination: output(300),
    inside: { to: "@15", ohms: 1e4 }
  },
  {
    id: "temperature-gauge",
    name: "Temperature gauge",
    note: "Needs its own sender: sharing the ECU sensor makes both read wrong.",
    destination: line2("temperature-gauge"),
    inside: { to: "@15", ohms: 120 }
  },
  {
    id: "oil-gauge",
    name: "Oil pressure gauge",
    note: "Needs its own sender.",
    destination: line2("oil-gauge"),
    inside: { to: "@15", ohms: 120 }
  },
  {
    id: "speedometer",
    name: "Speedometer",
    note: "Driven by the ECU, or straight by the speed sensor.",
    destination: output(1e3),
    inside: { to: "@15", ohms: 1e4 }
  },
  {
    id: "speed-from-car",
    name: "Speed signal from the car",
    note: "Pulses the car gives: an input of the ECU.",
    destination: { to: "pin", ask: { kind: "frequency", hz: 1e3 } },
    inside: { to: "@31", ohms: 1e4 }
  },
  {
    id: "reverse-light",
    name: "Reverse light",
    note: "The switch on the gearbox feeds it.",
    destination: line2("reverse-light"),
    inside: { to: "@31", ohms: 7 }
  },
  {
    id: "air-conditioning",
    name: "Air conditioning request",
    note: "Asks for higher idle and the compressor: an input of the ECU.",
    destination: input,
    inside: { to: "@31", ohms: 1e5 }
  },
  {
    id: "clutch-switch",
    name: "Clutch switch",
    note: "Interlock for starting. Wired, never bridged.",
    destination: input,
    inside: { to: "@31", ohms: 1e8 }
  },
  {
    id: "neutral-switch",
    name: "Neutral switch",
    note: "Interlock for starting. Wired, never bridged.",
    destination: input,
    inside: { to: "@31", ohms: 1e8 }
  },
  {
    id: "brake-switch",
    name: "Brake switch",
    note: "For drive-by-wire plausibility and launch control.",
    destination: input,
    inside: { to: "@31", ohms: 1e8 }
  },
  {
    id: "immobiliser",
    name: "Immobiliser",
    note: "Belongs to the car. A standalone ECU does not answer it: note what it still guards.",
    destination: null,
    inside: null
  },
  {
    id: "ground",
    name: "Body ground",
    note: "The car's body.",
    destination: { to: "ground", place: "chassis" },
    inside: null
  },
  { id: "not-used", name: "Not used", note: "Left alone, end sealed.", destination: null, inside: null },
  {
    id: "unknown",
    name: "Not known yet",
    note: "A mystery until it is measured. Never guess a wire.",
    destination: null,
    inside: null
  }
];
var bodySignal = (id3) => bodySignals.find((signal) => signal.id === id3);
var bodyKindId = (deviceId) => `plug-${deviceId}`.slice(0, 40);
var terminalName = (cavity) => bodySignal(cavity.signal).name.slice(0, 40);
function bodyKind(id3, name3, cavities, tachometer) {
  const terminals = cavities.map((cavity) => ({
    id: cavity.cavity,
    name: terminalName(cavity),
    destination: destinationFor(cavity, tachometer.drive) ?? { to: "nothing" }
  }));
  const internals = cavities.flatMap((cavity) => {
    const { inside: inside2 } = bodySignal(cavity.signal);
    return inside2 ? [{ type: "resistor", from: cavity.cavity, to: inside2.to, ohms: inside2.ohms }] : [];
  });
  const has = (signal) => cavities.some((cavity) => cavity.signal === signal);
  const role2 = (name4) => ({ type: "role", role: name4 });
  return {
    id: id3,
    name: name3,
    system: "Body plug",
    note: "A plug of the car, as found. Its own wires are in the car; the engine loom ends at its cavities.",
    terminals,
    internals,
    traits: [
      { type: "body", cavities: [...cavities] },
      ...has("tachometer") ? [{ type: "tachometer", ...tachometer }, role2("tachometer")] : [],
      ...has("clutch-switch") ? [role2("clutch-switch")] : [],
      ...has("neutral-switch") ? [role2("neutral-switch")] : []
    ],
    perCylinder: false,
    shielded: false,
    twisted: false,
    twinRisk: false
  };
}
function destinationFor(cavity, drive) {
  if (cavity.signal !== "tachometer") return bodySignal(cavity.signal).destination;
  return drive === "coil-negative" ? line2("tachometer") : output(300);
}
var unknownCavities = (kind3) => kind3.traits.flatMap(
  (one2) => one2.type === "body" ? one2.cavities.filter((cavity) => cavity.signal === "unknown") : []
);
var isBodyPlug = (device, kind3) => kind3 !== void 0 && kind3.id === bodyKindId(device.id) && kind3.traits.some((one2) => one2.type === "body");

// core/trigger/outputs.ts
function meantWords(engine2, { kind: kind3, wiredTo, means, right }) {
  if (right && wiredTo.cylinders.length > 1) return workWords(engine2, kind3, wiredTo);
  const words3 = workWords(engine2, kind3, means);
  return means && means.cylinders.length > wiredTo.cylinders.length ? `one of ${words3}` : words3;
}
function outputUses(build, needs) {
  const pins = new Map(build.ecu.pins.map((pin2) => [pin2.id, pin2]));
  return needs.flatMap((need) => {
    const pin2 = pins.get(build.assignments[need.id] ?? "");
    const kind3 = workOf(need.ask);
    if (!pin2 || kind3 === null || need.outputs === null) return [];
    const output2 = serve(pin2, need.ask).ability?.output;
    if (output2 === void 0) return [];
    return [
      {
        needId: need.id,
        kind: kind3,
        pinId: pin2.id,
        output: output2,
        wiredTo: { cylinders: need.serves, row: need.row },
        means: workedBy(build.engine, build.outputOrder, kind3, output2),
        right: need.outputs.includes(output2)
      }
    ];
  });
}

// core/data/hash.ts
function hashOf(value) {
  const text3 = JSON.stringify(value);
  let hash = 2166136261;
  for (let i = 0; i < text3.length; i += 1) {
    hash ^= text3.charCodeAt(i);
    hash = Math.imul(hash, 16777619);
  }
  return (hash >>> 0).toString(16).padStart(8, "0");
}

// core/prove/check-id.ts
var SHAPE = /^(sensor|closed|halt|relay|output)-(.+)$/s;
var checkIdOf = (about) => about.of === "output" ? `output-${about.pinId}` : `${about.of}-${about.needId}`;
function checkAbout(checkId) {
  const [, of, id3] = SHAPE.exec(checkId) ?? [];
  if (of === void 0 || id3 === void 0) return null;
  return of === "output" ? { of, pinId: id3 } : { of, needId: id3 };
}

// core/prove/evidence.ts
var stands = (taken, now) => taken.every((fact) => now.includes(fact));
function workedFact({ right, wiredTo, means }) {
  const worked = right ? wiredTo : means;
  return worked ? `cylinder ${Math.min(...worked.cylinders)}${worked.row === 1 ? "" : ", second"}` : "cylinder null";
}
var NO_PIN = "no pin";
var place = (build, needId) => `${needId} on ${build.assignments[needId] ?? NO_PIN}`;
function pinRead(taken, needId) {
  const said = `${needId} on `;
  const pin2 = taken.find((fact) => fact.slice(0, said.length) === said)?.slice(said.length);
  return pin2 === void 0 || pin2 === NO_PIN ? null : pin2;
}
function sensorFacts(build, sensorId) {
  const device = build.devices.find(
    ({ id: id3, kindId }) => build.kinds[kindId]?.terminals.some((terminal) => terminalId(id3, terminal.id) === sensorId)
  );
  return [place(build, sensorId), ...device ? [`part ${device.kindId}`] : []];
}
function standingReading(build, sensorId) {
  const reading2 = build.sensing.readings[sensorId];
  return reading2 && stands(reading2.on, sensorFacts(build, sensorId)) ? reading2 : null;
}
var wheelFact = (shaft, wheel2) => `${shaft} wheel ${wheel2 === null ? "none" : hashOf(wheel2)}`;
function triggerFacts(build, needs = needsOf(build)) {
  const sensors = new Set(
    build.devices.filter((device) => trait(build.kinds[device.kindId], "trigger")).map((device) => device.id)
  );
  return [
    `ECU ${build.ecu.id}`,
    wheelFact("crank", build.trigger.crankWheel),
    wheelFact("cam", build.trigger.camWheel),
    `cycle ${cycleDegrees(build.engine)}`,
    `spark ${build.engine.ignition}`,
    ...needs.filter((need) => sensors.has(need.deviceId ?? "")).map((need) => place(build, need.id))
  ];
}
function offsetConfirmed(build) {
  if (!build.trigger.offsetConfirmed) return false;
  const last = build.trigger.readings[build.trigger.readings.length - 1];
  return last === void 0 || stands(last.on, triggerFacts(build));
}
function checkFacts(build, gateId, checkId) {
  const needs = needsOf(build);
  const about = checkAbout(checkId);
  const placesOf2 = (test) => needs.filter(test).map((need) => place(build, need.id));
  const ofRole = (role2) => {
    const ids = new Set(
      build.devices.filter((device) => hasRole(build.kinds[device.kindId], role2)).map((device) => device.id)
    );
    return (need) => ids.has(need.deviceId ?? "");
  };
  switch (gateId) {
    case "bench": {
      if (checkId !== "locks") return [];
      const placed3 = Object.entries(build.assignments).sort(([one2], [other]) => one2 < other ? -1 : 1);
      return [`pins ${hashOf(placed3)}`];
    }
    case "battery":
    case "key": {
      const bus2 = build.buses.find(({ id: id3 }) => checkId.startsWith(`ohms-${id3}`) || checkId.startsWith(`volts-${id3}-`));
      return [`ECU ${build.ecu.id}`, ...bus2 ? [`${bus2.id} with ${bus2.members.join(" ")}`] : []];
    }
    case "sensors": {
      if (about?.of === "sensor" || about?.of === "closed") return sensorFacts(build, about.needId);
      if (checkId.startsWith("inside-")) return [`ECU ${build.ecu.id}`];
      return placesOf2((need) => ofRole("pedal")(need) || ofRole("throttle")(need));
    }
    case "outputs": {
      if (about?.of === "relay") return [place(build, about.needId)];
      const use = about?.of === "output" && outputUses(build, needs).find((one2) => one2.pinId === about.pinId);
      return use ? [place(build, use.needId), workedFact(use)] : [];
    }
    case "cranking":
      if (about?.of === "halt") return sensorFacts(build, about.needId);
      return checkId === "rpm" || checkId === "losses" ? triggerFacts(build, needs) : [];
    case "timing":
      return [
        ...triggerFacts(build, needs),
        ...placesOf2(({ ask, serves }) => isIgnition(ask.kind) && serves.includes(1))
      ];
    case "first-fire": {
      if (checkId === "again") return triggerFacts(build, needs);
      if (about?.of === "halt") return sensorFacts(build, about.needId);
      if (checkId !== "stops") return [];
      return [
        ...placesOf2(({ winding }) => winding !== null),
        ...pinsOfKind(build.ecu, "main-relay").map((pin2) => `main relay on ${pin2.id}`)
      ];
    }
    default:
      return [];
  }
}

// core/edits/parts.ts
var label = (build, deviceId) => withId(build.devices, deviceId)?.label ?? "device";
function fitted(device, kind3) {
  const terminals = new Set(kind3.terminals.map((terminal) => terminal.id));
  const signals = new Set(sensorsIn(kind3).map((sensor2) => sensor2.terminal));
  return {
    ...device,
    kindId: kind3.id,
    overrides: Object.fromEntries(Object.entries(device.overrides).filter(([id3]) => terminals.has(id3))),
    ecuCurves: Object.fromEntries(Object.entries(device.ecuCurves).filter(([id3]) => signals.has(id3))),
    terminalsConfirmed: false
  };
}
function carried2(build, deviceId, from, to) {
  const ids = new Map(
    compareVariants(from, to).rows.flatMap(
      (row) => row.from && row.to ? [[terminalId(deviceId, row.from.id), terminalId(deviceId, row.to.id)]] : []
    )
  );
  const own2 = new Set(from.terminals.map(({ id: id3 }) => terminalId(deviceId, id3)));
  const moved = (record) => Object.fromEntries(
    Object.entries(record).flatMap(
      ([id3, pin2]) => own2.has(id3) ? ids.has(id3) ? [[ids.get(id3), pin2]] : [] : [[id3, pin2]]
    )
  );
  return {
    assignments: moved(build.assignments),
    shared: moved(build.shared),
    joined: Object.fromEntries(
      Object.entries(moved(build.joined)).flatMap(
        ([id3, lead]) => own2.has(lead) ? ids.has(lead) ? [[id3, ids.get(lead)]] : [] : [[id3, lead]]
      )
    ),
    locked: build.locked.flatMap((id3) => own2.has(id3) ? ids.get(id3) ?? [] : id3)
  };
}
var pruned = (build) => {
  const used = new Set(build.devices.map((device) => device.kindId));
  return { ...build, kinds: Object.fromEntries(Object.entries(build.kinds).filter(([id3]) => used.has(id3))) };
};
function sensorOf(build, sensorId) {
  const dot = sensorId.lastIndexOf(".");
  const device = withId(build.devices, sensorId.slice(0, dot));
  const kind3 = device && build.kinds[device.kindId];
  return kind3 && sensorsIn(kind3).some((one2) => one2.terminal === sensorId.slice(dot + 1)) ? device : null;
}
var partEdits = {
  setBodyPlug: edit(
    z23.object({
      /** Null makes a new plug. */
      deviceId: z23.string().nullable(),
      name: z23.string().trim().min(1).max(60),
      cavities: z23.array(bodyCavitySchema).min(1).max(80),
      pulsesPerTurn: z23.number().positive().max(12),
      drive: z23.enum(tachometerDrives),
      branchMetres: z23.number().min(0).max(30).optional()
    }),
    ({ deviceId, name: name3 }) => deviceId === null ? `Add ${inSentence(name3)}` : `Change ${inSentence(name3)}`,
    (build, { deviceId, name: name3, cavities, pulsesPerTurn, drive, branchMetres }) => {
      const seen = /* @__PURE__ */ new Set();
      for (const [index, { cavity }] of cavities.entries()) {
        if (seen.has(cavity))
          return fail("duplicate", `cavities[${index}]`, `Row ${index + 1}: cavity ${cavity} is on this plug already.`);
        seen.add(cavity);
      }
      const taken = new Set(build.devices.map((device2) => device2.id));
      let number = 1;
      while (taken.has(`body-${number}`)) number += 1;
      const id3 = deviceId ?? `body-${number}`;
      const before = withId(build.devices, deviceId);
      if (deviceId !== null && (!before || !isBodyPlug(before, build.kinds[before.kindId]))) return noDevice(deviceId);
      const made = bodyKind(bodyKindId(id3), name3, cavities, { pulsesPerTurn, drive });
      const face = before && build.kinds[before.kindId]?.face;
      const fits = face !== void 0 && faceMiss(
        face,
        made.terminals.map((terminal) => terminal.id)
      ) === null;
      const kind3 = fits ? { ...made, face } : made;
      const device = before ? { ...fitted(before, kind3), label: name3, branchMetres: branchMetres ?? before.branchMetres } : {
        id: id3,
        kindId: kind3.id,
        label: name3,
        serves: [],
        row: 1,
        bank: null,
        branchMetres: branchMetres ?? 0.9,
        terminalsConfirmed: false,
        shield: "none",
        overrides: {},
        labelled: false,
        pullUpOhms: null,
        leadWire: "copper",
        ecuCurves: {}
      };
      const devices = before ? build.devices.map((one2) => one2.id === id3 ? device : one2) : [...build.devices, device];
      if (devices.length > 300) return fail("too-many", "devices", "A build holds at most 300 devices.");
      return ok(dropStale({ ...build, kinds: { ...build.kinds, [kind3.id]: kind3 }, devices }));
    }
  ),
  editKind: edit(
    z23.object({ kind: kindSchema }),
    ({ kind: kind3 }) => `Change the data of ${inSentence(kind3.name)}`,
    (build, { kind: kind3 }) => {
      const present = build.kinds[kind3.id];
      if (!present) return fail("no-kind", "kind.id", `No device of this build is a ${inSentence(kind3.name)}.`);
      const before = JSON.stringify(present.terminals);
      const same2 = before === JSON.stringify(kind3.terminals);
      const devices = same2 ? build.devices : build.devices.map((device) => device.kindId === kind3.id ? fitted(device, kind3) : device);
      return ok(dropStale({ ...build, kinds: { ...build.kinds, [kind3.id]: kind3 }, devices }));
    }
  ),
  changeKind: edit(
    z23.object({ deviceId: z23.string(), kind: kindSchema }),
    ({ deviceId, kind: kind3 }, build) => `${label(build, deviceId)} is a ${inSentence(kind3.name)}`,
    (build, { deviceId, kind: kind3 }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      const before = build.kinds[device.kindId];
      const next = dropStale(
        pruned({
          ...build,
          kinds: { ...build.kinds, [kind3.id]: kind3 },
          devices: build.devices.map((one2) => one2.id === deviceId ? fitted(device, kind3) : one2),
          ...before ? carried2(build, deviceId, before, kind3) : {}
        })
      );
      const misfits = new Set(
        needsOf(next).flatMap((need) => {
          const pin2 = withId(next.ecu.pins, next.assignments[need.id]);
          return need.deviceId === deviceId && pin2 && serve(pin2, need.ask).miss ? [need.id] : [];
        })
      );
      return ok({
        ...next,
        assignments: Object.fromEntries(Object.entries(next.assignments).filter(([id3]) => !misfits.has(id3))),
        locked: next.locked.filter((id3) => !misfits.has(id3))
      });
    }
  ),
  /** How the speed sensor is geared to the road, and what each gauge wants; null: not told. */
  setSpeed: edit(
    z23.object({ speed: speedSchema.nullable() }),
    ({ speed }) => speed === null ? "Forget the speed gears" : "Change the speed gears",
    (build, { speed }) => ok({ ...build, speed })
  ),
  setPullUp: edit(
    z23.object({ deviceId: z23.string(), ohms: z23.number().positive().max(1e6).nullable() }),
    ({ deviceId, ohms: ohms2 }, build) => `${ohms2 === null ? "Remove" : "Fit"} a pull-up at ${label(build, deviceId)}`,
    (build, { deviceId, ohms: ohms2 }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      return ok({
        ...build,
        devices: build.devices.map((one2) => one2.id === deviceId ? { ...one2, pullUpOhms: ohms2 } : one2)
      });
    }
  ),
  setEcuCurve: edit(
    z23.object({
      sensorId: z23.string(),
      /** Null: the ECU is set to the part's own calibration. */
      setting: z23.object({ name: z23.string().min(1).max(60), curve: checkedCurveSchema }).nullable()
    }),
    ({ setting: setting2 }) => setting2 ? `The ECU is set to ${inSentence(setting2.name)}` : "The ECU is set to the part",
    (build, { sensorId, setting: setting2 }) => {
      const device = sensorOf(build, sensorId);
      if (!device) return fail("no-sensor", "sensorId", `There is no sensor ${sensorId} in this build.`);
      const terminal = sensorId.slice(device.id.length + 1);
      const ecuCurves = { ...device.ecuCurves };
      if (setting2) ecuCurves[terminal] = setting2;
      else delete ecuCurves[terminal];
      return ok({
        ...build,
        devices: build.devices.map((one2) => one2.id === device.id ? { ...one2, ecuCurves } : one2)
      });
    }
  ),
  recordSensing: edit(
    z23.object({ sensorId: z23.string(), reading: sensorReadingSchema.omit({ on: true }).nullable() }),
    ({ sensorId, reading: reading2 }, build) => `${reading2 ? "Read" : "Forget the reading of"} ${label(build, sensorId.slice(0, sensorId.lastIndexOf(".")))}`,
    (build, { sensorId, reading: reading2 }) => {
      if (!sensorOf(build, sensorId))
        return fail("no-sensor", "sensorId", `There is no sensor ${sensorId} in this build.`);
      if (reading2 && reading2.atPin === null && reading2.shown === null)
        return fail("empty", "reading", "Give what the meter reads at the pin, or what the ECU shows.");
      const readings2 = { ...build.sensing.readings };
      if (reading2) readings2[sensorId] = { ...reading2, on: sensorFacts(build, sensorId) };
      else delete readings2[sensorId];
      return ok({ ...build, sensing: { readings: readings2 } });
    }
  )
};

// core/edits/pins.ts
import { z as z24 } from "zod";

// core/netlist/ground-pins.ts
var SENSOR_GROUNDS = 2;
var can2 = (pin2, kind3) => pin2.abilities.some((one2) => one2.kind === kind3);
function groundPins(build) {
  const { ecu, groundUse } = build;
  const grounds = ecu.pins.filter((pin2) => can2(pin2, "power-ground") || can2(pin2, "sensor-ground"));
  const either = grounds.filter((pin2) => can2(pin2, "power-ground") && can2(pin2, "sensor-ground"));
  const uses = /* @__PURE__ */ new Map();
  for (const pin2 of grounds) {
    const chosen = groundUse[pin2.id];
    if (!can2(pin2, "power-ground")) uses.set(pin2.id, "sensors");
    else if (!either.includes(pin2)) uses.set(pin2.id, chosen === "both" ? "both" : "ecu");
    else if (chosen) uses.set(pin2.id, chosen);
  }
  const count2 = (use) => [...uses.values()].filter((one2) => one2 === use || one2 === "both").length;
  const open = either.filter((pin2) => !uses.has(pin2.id));
  const forEcu = Math.min(open.length, Math.max(0, ecu.groundsAsked - count2("ecu")));
  const forSensors = Math.min(open.length - forEcu, Math.max(0, SENSOR_GROUNDS - count2("sensors")));
  open.forEach((pin2, i) => uses.set(pin2.id, i < open.length - forSensors ? "ecu" : "sensors"));
  if (count2("sensors") === 0) {
    const shared = either.findLast((pin2) => groundUse[pin2.id] === void 0) ?? pinsOfKind(ecu, "power-ground")[0];
    if (shared) uses.set(shared.id, "both");
  }
  const used = (use) => grounds.filter((pin2) => uses.get(pin2.id) === use || uses.get(pin2.id) === "both");
  return { power: used("ecu"), sensor: used("sensors"), either };
}
var shieldPins = (build) => {
  const own2 = pinsOfKind(build.ecu, "shield");
  return own2.length > 0 ? own2 : groundPins(build).sensor.slice(0, 1);
};
var isSharedGround = ({ power, sensor: sensor2 }, pinId) => withId(power, pinId) !== void 0 && withId(sensor2, pinId) !== void 0;

// core/edits/pins.ts
var sameNever = (one2, other) => one2.needId === other.needId && one2.pinId === other.pinId;
var groundUseWords = { ecu: "the ECU", sensors: "the sensors", both: "the ECU and the sensors" };
var wireIds = z24.array(z24.string().max(200)).min(1).max(600);
var pinEdits = {
  /** Takes over what the solver found elsewhere; refused when it no longer fits the build it meets. */
  placeAll: edit(
    z24.object({
      assignments: z24.record(z24.string(), z24.string()),
      shared: z24.record(z24.string(), z24.string()),
      label: z24.string().max(60)
    }),
    ({ label: label2 }) => label2,
    (build, { assignments, shared }) => {
      const needs = new Map(needsOf(build).map((need) => [need.id, need]));
      const pins = new Map(build.ecu.pins.map((pin2) => [pin2.id, pin2]));
      const used = /* @__PURE__ */ new Map();
      for (const [needId, pinId] of Object.entries(assignments)) {
        const [need, pin2] = [needs.get(needId), pins.get(pinId)];
        if (!need || !pin2)
          return fail("stale", `assignments.${needId}`, "The plan changed while it was worked out: allot again.");
        const { miss } = serve(pin2, need.ask);
        const stays = build.locked.includes(needId) && build.assignments[needId] === pinId;
        if (miss && !stays)
          return fail(
            "cannot-serve",
            `assignments.${needId}`,
            `${pin2.id} ${missSentence(miss, need.ask)}: ${need.label} cannot go there.`
          );
        const other = used.get(pinId);
        if (other !== void 0)
          return fail(
            "twice",
            `assignments.${needId}`,
            `${pinId} would be used by ${needs.get(other).label} and ${need.label}.`
          );
        used.set(pinId, needId);
      }
      const moved = build.locked.find((id3) => needs.has(id3) && assignments[id3] !== build.assignments[id3]);
      if (moved !== void 0)
        return fail(
          "locked",
          `assignments.${moved}`,
          `${needs.get(moved).label} is locked on ${build.assignments[moved]}.`
        );
      return ok({ ...build, assignments, shared: { ...build.shared, ...shared } });
    }
  ),
  /** 'Never here': for one need, or (`needId` null) for all: the cavity stays empty. */
  setNever: edit(
    z24.object({ needId: z24.string().max(120).nullable(), pinId: z24.string().max(8), never: z24.boolean() }),
    ({ pinId, never }) => never ? `Never on ${pinId}` : `${pinId} may be used again`,
    (build, { needId, pinId, never }) => {
      if (!build.ecu.pins.some((pin2) => pin2.id === pinId))
        return fail("no-pin", "pinId", `${build.ecu.model} has no cavity ${pinId}.`);
      const entry2 = { needId, pinId };
      const rest = build.never.filter((one2) => !sameNever(one2, entry2));
      if (!never) return ok({ ...build, never: rest });
      const held2 = needsOf(build).find(
        (need) => build.assignments[need.id] === pinId && (needId === null || need.id === needId)
      );
      if (held2 && build.locked.includes(held2.id))
        return fail("locked", "pinId", `${pinId} is locked for ${held2.label}: unlock it first.`);
      const assignments = { ...build.assignments };
      if (held2) delete assignments[held2.id];
      return ok({ ...build, assignments, never: [...rest, entry2] });
    }
  ),
  /** Pins of shared 5 V supplies and sensor grounds by `device.terminal`; an empty string goes back to the bank. */
  setShared: edit(
    z24.object({ shared: z24.record(z24.string().max(80), z24.string().max(8)) }),
    () => "Move on the shared supplies",
    (build, { shared }) => {
      const able = new Set([...pinsOfKind(build.ecu, "supply-5v"), ...groundPins(build).sensor].map((pin2) => pin2.id));
      const stray = Object.entries(shared).find(([, pinId]) => pinId !== "" && !able.has(pinId));
      if (stray)
        return fail(
          "no-pin",
          `shared.${stray[0]}`,
          `${stray[1]} is no 5 V supply or sensor ground of ${build.ecu.model}.`
        );
      const merged = Object.entries({ ...build.shared, ...shared }).filter(([, pinId]) => pinId !== "");
      return ok({ ...build, shared: Object.fromEntries(merged) });
    }
  ),
  /** What a ground pin that can be either is wired as; null goes back to Gonyx' own choice. */
  setGroundUse: edit(
    z24.object({ pinId: z24.string().max(8), use: z24.enum(["ecu", "sensors", "both"]).nullable() }),
    ({ pinId, use }) => `Ground ${pinId} ${use === null ? "as proposed" : `for ${groundUseWords[use]}`}`,
    (build, { pinId, use }) => {
      const pin2 = withId(build.ecu.pins, pinId);
      const can3 = (kind3) => pin2?.abilities.some((one2) => one2.kind === kind3) === true;
      if (!can3("power-ground") || use === "sensors" && !can3("sensor-ground"))
        return fail(
          "no-pin",
          "pinId",
          `${pinId} of ${build.ecu.model} cannot be a ground for ${groundUseWords[use ?? "ecu"]}.`
        );
      const groundUse = { ...build.groundUse };
      if (use === null) delete groundUse[pinId];
      else groundUse[pinId] = use;
      return ok({ ...build, groundUse });
    }
  ),
  /** The wire's terminal has been clicked into its cavity and pulled. */
  crimp: edit(
    z24.object({ wireIds, at: z24.iso.datetime(), by: z24.string().max(40) }),
    (args) => `${plural(args.wireIds.length, "wire")} clicked and pulled`,
    (build, { at, by, wireIds: ids }) => {
      const fresh = Object.fromEntries(ids.map((id3) => [id3, { at, by }]));
      return ok({ ...build, pinning: { ...build.pinning, done: { ...build.pinning.done, ...fresh } } });
    }
  ),
  uncrimp: edit(
    z24.object({ wireIds }),
    (args) => `${plural(args.wireIds.length, "wire")} taken out`,
    (build, { wireIds: ids }) => {
      const out = new Set(ids);
      const done = Object.fromEntries(Object.entries(build.pinning.done).filter(([id3]) => !out.has(id3)));
      return ok({ ...build, pinning: { ...build.pinning, done } });
    }
  ),
  setPinningOrder: edit(
    z24.object({ order: z24.enum(pinningOrders), ends: z24.enum(pinningEnds).optional() }),
    () => "Order of pinning",
    (build, fields) => ok({ ...build, pinning: { ...build.pinning, ...fields } })
  ),
  /** A class's own letter, tint and pattern; null goes back to Gonyx' own. */
  setMark: edit(
    z24.object({ signal: z24.enum(signalClassNames), mark: markSchema.nullable() }),
    ({ signal }) => `Mark ${signal} pins`,
    (build, { signal, mark }) => {
      const marks = { ...build.marks };
      if (mark === null) delete marks[signal];
      else marks[signal] = mark;
      return ok({ ...build, marks });
    }
  )
};

// core/edits/plan.ts
import { z as z25 } from "zod";

// core/power/contact.ts
var LARGER = 40;
var LARGEST = 70;
var contactRatings = [USUAL_CONTACT_AMPS, LARGER, LARGEST];
var MAKES_TIMES = 3;
var CLOSE = 1e-9;
var carries = (contactAmps, { rms }) => rms <= contactAmps + CLOSE;
var makes = (contactAmps, rush) => rush === null || rush.amps <= MAKES_TIMES * contactAmps;
var NOTHING2 = { mean: 0, rms: 0, peak: 0 };
function contactsOf(build, plan, flows, rushes2) {
  const found2 = /* @__PURE__ */ new Map();
  for (const { id: id3, name: name3, part: part2, proposed } of plan.parts.values()) {
    if (part2.kind !== "relay") continue;
    const flow = flows.at.get(relayEnd(name3, "87")) ?? NOTHING2;
    const rush = rushes2.find(({ relay: relay2 }) => relay2 === name3) ?? null;
    const byPerson = !proposed || build.feeds.changes[id3]?.contactAmps !== void 0;
    const carrying = contactRatings.find((rating) => carries(rating, flow));
    const making = contactRatings.find((rating) => rating >= (carrying ?? Infinity) && makes(rating, rush));
    const least = making ?? carrying ?? contactRatings[contactRatings.length - 1];
    const reason = least === contactRatings[0] ? "usual" : least === carrying ? "PW-15" : "PW-21";
    found2.set(id3, {
      contactAmps: byPerson ? part2.contactAmps : least,
      byPerson,
      setBy: byPerson ? "person" : reason,
      flow,
      rush
    });
  }
  return found2;
}
function withContacts(plan, relays) {
  const parts3 = new Map(plan.parts);
  for (const [id3, found2] of plan.parts) {
    const contactAmps = relays.get(id3)?.contactAmps;
    if (found2.part.kind === "relay" && contactAmps !== void 0 && contactAmps !== found2.part.contactAmps)
      parts3.set(id3, { ...found2, part: { ...found2.part, contactAmps } });
  }
  return { ...plan, parts: parts3 };
}

// core/power/fuse.ts
var fuseRatings = [3, 5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60, 80];
var CONTINUOUS_SHARE = 0.8;
var fuseFor = (loadAmps) => fuseRatings.find((rating) => rating * CONTINUOUS_SHARE >= loadAmps - 1e-9) ?? null;
var openingTable = [
  [1.35, 0.75, 600],
  [1.6, 0.25, 50],
  [2, 0.15, 5],
  [3.5, 0.04, 0.5],
  [6, 0.02, 0.1]
];
function usualOpeningSeconds(ratingAmps, amps2) {
  const share = Math.log(amps2 / ratingAmps);
  const rows = openingTable.map(([at, least, most2]) => [Math.log(at), Math.log(least * most2) / 2]);
  if (share < rows[0][0]) return Infinity;
  const next = rows.findIndex(([at]) => at > share);
  if (next < 0) return Math.exp(rows[rows.length - 1][1]);
  const [[from, before], [to, after]] = [rows[next - 1], rows[next]];
  return Math.exp(before + (after - before) * (share - from) / (to - from));
}
var opensWithin = (seconds) => openingTable.find(([, , most2]) => most2 <= seconds)?.[0] ?? Infinity;

// core/power/inrush.ts
function rushesOf(plan, flows) {
  const groups = /* @__PURE__ */ new Map();
  for (const { end: end2, load } of flows.draws) {
    if (!load) continue;
    const way = wayTo(flows, end2);
    const relays = way.flatMap(({ part: part2 }) => part2 && plan.parts.get(part2)?.part.kind === "relay" ? [part2] : []);
    const last = relays[relays.length - 1] ?? null;
    const group = groups.get(last ?? end2) ?? { relay: last && readPart(last).name, loads: [], fuses: /* @__PURE__ */ new Set() };
    groups.set(last ?? end2, group);
    group.loads.push(load);
    for (const { part: part2 } of way) if (part2 && plan.parts.get(part2)?.part.kind === "fuse") group.fuses.add(part2);
  }
  const fuses = /* @__PURE__ */ new Map();
  const rushes2 = [...groups.values()].flatMap(({ relay: relay2, loads, fuses: passed }) => {
    if (!loads.some(({ inrush }) => inrush)) return [];
    const rush = {
      relay: relay2,
      loads,
      amps: loads.reduce((sum, { inrush, peak }) => sum + (inrush?.amps ?? peak), 0),
      seconds: Math.max(...loads.map(({ inrush }) => inrush?.seconds ?? 0)),
      settled: loads.reduce((sum, { rms }) => sum + rms, 0)
    };
    for (const fuse of passed) {
      const running = flows.at.get(fuseEnd(readPart(fuse).name, 2))?.rms ?? flows.at.get(fuseEnd(readPart(fuse).name, 1))?.rms ?? 0;
      const amps2 = Math.max(0, running - rush.settled) + rush.amps;
      const known9 = fuses.get(fuse);
      if (!known9 || amps2 > known9.amps) fuses.set(fuse, { amps: amps2, seconds: rush.seconds, rush });
    }
    return [rush];
  });
  return { rushes: rushes2, fuses };
}
var outlasts = (ratingAmps, rush) => rush === null || usualOpeningSeconds(ratingAmps, rush.amps) > rush.seconds;

// core/power/sizes.ts
var CONTACT_OHMS = 5e-3;
var POWER_CONTACT_OHMS = 1e-3;
var LUG_OHMS = 2e-4;
var RELAY_CONTACT_OHMS = 3e-3;
var BUTTON_OHMS = 0.02;
var SWITCH_VOLTS = 0.05;
var switchOhms = (ratingAmps) => SWITCH_VOLTS / ratingAmps;
var LOADED_CELSIUS = 60;
var FUSE_VOLTS = 0.1;
var DIODE_VOLTS = 0.7;
var LIMITS_OHMS = 1;
var fuseOhms = (ratingAmps) => FUSE_VOLTS / ratingAmps;
var bolted = /* @__PURE__ */ new Set(["battery", "busbar", "switch"]);
var terminalOhms = (...ends2) => ends2.reduce((sum, end2) => sum + (bolted.has(endType(end2)) ? LUG_OHMS : POWER_CONTACT_OHMS), 0);
var LEAST_SQUARE_MM = 0.5;
var LEAST_WINDING_SQUARE_MM = 0.35;
var MOST_SQUARE_MM = 10;
var MOST_CABLE_SQUARE_MM = 50;
var BUNCHED = 3;
var POWER_BRANCH_CELSIUS = 60;
var surroundings = (build) => ({
  loadedCircuits: BUNCHED,
  ambientCelsius: Math.min(build.loom.zoneCelsius, POWER_BRANCH_CELSIUS),
  wireCelsius: build.loom.wireCelsius,
  series: build.loom.series
});
var NOTHING3 = { mean: 0, rms: 0, peak: 0 };
var MOST_PLUG_SQUARE_MM = 1.5;
function mostAt(build, end2) {
  const device = withId(build.devices, deviceAt(end2));
  const kind3 = device && build.kinds[device.kindId];
  if (endType(end2) === "switch" || endType(end2) === "busbar") return MOST_CABLE_SQUARE_MM;
  if (kind3 && (trait(kind3, "coil") || trait(kind3, "injector"))) return MOST_PLUG_SQUARE_MM;
  const pin2 = withId(build.ecu.pins, pinAt(end2));
  const connector = withId(build.ecu.connectors, pin2?.connector);
  return pin2 && connector ? cavitySquareMm(connector, pin2.cavity) : MOST_SQUARE_MM;
}
var isWinding = ({ to, link }) => link?.role === "winding" || endOf(to).of === "part" && (portOf(to) === "85" || portOf(to) === "86");
function proposedFuse({ rms }, rush) {
  const least = fuseFor(rms);
  const most2 = fuseRatings[fuseRatings.length - 1];
  return least === null ? most2 : fuseRatings.find((rating) => rating >= least && outlasts(rating, rush)) ?? least;
}
function sizesOf(build, plan, flows) {
  const around2 = surroundings(build);
  const slack = build.loom.slackMetres;
  const flowThrough = (step) => (step.link ? flows.through.get(step.link.id) : flows.at.get(step.to)) ?? NOTHING3;
  const { rushes: rushes2, fuses: rushAt } = rushesOf(plan, flows);
  const fuses = /* @__PURE__ */ new Map();
  for (const { id: id3, name: name3, part: part2 } of plan.parts.values()) {
    if (part2.kind !== "fuse") continue;
    const step = flows.steps.find((one2) => one2.part === id3);
    const flow = (step && flows.at.get(step.to)) ?? NOTHING3;
    const chosen = build.power.circuits[name3]?.fuseAmps ?? part2.amps;
    const rush = rushAt.get(id3) ?? null;
    const amps2 = chosen ?? proposedFuse(flow, rush);
    const setBy = chosen !== void 0 ? "person" : amps2 > (fuseFor(flow.rms) ?? amps2) ? "PW-21" : "PW-2";
    fuses.set(id3, { amps: amps2, byPerson: chosen !== void 0, setBy, flow, rush });
  }
  const aroundOf = surroundingsOf(build, plan, flows, fuses);
  const chainOf = chainsOf(build, flows, fuses, aroundOf);
  const stays = new Map(
    flows.steps.map((step) => [
      step,
      {
        rms: flowThrough(step).rms,
        ends: step.link ? terminalOhms(step.from, step.to) + 2 * POWER_CONTACT_OHMS * (step.link.cuts ?? 0) : 0
      }
    ])
  );
  const ohmsOf2 = (step, squareMm) => {
    if (step.link) return wireOhms(squareMm, laidMetres(step.link, slack), LOADED_CELSIUS) + stays.get(step).ends;
    const part2 = plan.parts.get(step.part).part;
    switch (part2.kind) {
      case "fuse":
        return fuseOhms(fuses.get(step.part).amps);
      case "relay":
        return RELAY_CONTACT_OHMS;
      case "resistor":
        return part2.ohms < LIMITS_OHMS ? part2.ohms : 0;
      case "switch":
        return switchOhms(part2.amps);
      case "button":
        return BUTTON_OHMS;
      default:
        return 0;
    }
  };
  const lost = (step) => stays.get(step).rms * ohmsOf2(step, (step.link && chainOf.get(step.link.id)?.squareMm) ?? 1) + (step.part && plan.parts.get(step.part)?.part.kind === "diode" ? DIODE_VOLTS : 0);
  const loads = flows.draws.flatMap(
    (draw) => draw.load ? [{ draw, limit: draw.load.limitVolts, way: wayTo(flows, draw.end) }] : []
  );
  raise(loads, chainOf, lost, ohmsOf2, (step) => stays.get(step).rms, around2);
  const links = /* @__PURE__ */ new Map();
  for (const step of flows.steps) {
    if (!step.link) continue;
    const chain = chainOf.get(step.link.id);
    links.set(
      step.link.id,
      sizedLink(
        build,
        step.link,
        chain,
        flowThrough(step),
        flows.fuseBefore.get(step.from) ?? null,
        aroundOf(step.link)
      )
    );
  }
  for (const link of plan.links) {
    const flow = flows.through.get(link.id);
    if (links.has(link.id) || !flow) continue;
    const fuse = flows.fuseBefore.get(link.from) ?? flows.fuseBefore.get(link.to) ?? null;
    const rating = fuse ? fuses.get(fuse).amps : flow.rms;
    const chosen = build.loom.wires[link.id]?.squareMm;
    const squareMm = chosen ?? sizeFor(rating, aroundOf(link), LEAST_SQUARE_MM);
    links.set(
      link.id,
      sizedLink(
        build,
        link,
        { squareMm, fixed: chosen !== void 0, setBy: chosen === void 0 ? "PW-1" : "person" },
        flow,
        fuse,
        aroundOf(link)
      )
    );
  }
  return {
    links,
    fuses,
    relays: contactsOf(build, plan, flows, rushes2),
    rushes: rushes2,
    drops: loads.map(({ draw, limit, way }) => {
      const hops = way.map((step) => ({ step, volts: lost(step) }));
      return { draw, limitVolts: limit, hops, volts: hops.reduce((sum, { volts: volts3 }) => sum + volts3, 0) };
    })
  };
}
var laidMetres = ({ metres: metres4, cuts = 0 }, slack) => metres4 + slack * (cuts + 1);
var sizedLink = (build, link, { squareMm, fixed: fixed2, setBy }, flow, fuse, around2) => ({
  id: link.id,
  from: link.from,
  to: link.to,
  squareMm,
  byPerson: fixed2,
  setBy,
  flow,
  metres: Math.round(laidMetres(link, build.loom.slackMetres) * 100) / 100,
  carriesAmps: carriedAmps(squareMm, around2),
  fuse,
  sizedBy: sizedBy(link, fuse)
});
var FUSE_NEAR_METRES = 0.5;
function sizedBy({ to, metres: metres4 }, before) {
  const ahead = endType(to) === "fuse" ? partAt(to) : null;
  return ahead !== null && (before === null || metres4 <= FUSE_NEAR_METRES) ? ahead : before;
}
var COUNTED_FROM = 0.3;
function countLoaded(shares) {
  let count2 = 0;
  for (; ; ) {
    const least = COUNTED_FROM * groupingFactor(Math.max(1, count2));
    const loaded = shares.filter((share) => share >= least).length;
    if (loaded <= count2) return count2;
    count2 = loaded;
  }
}
var LEAST_ROOM_CELSIUS = 20;
function surroundingsOf(build, plan, flows, fuses) {
  const usual = surroundings(build);
  const { segments } = build.tree;
  const shares = /* @__PURE__ */ new Map();
  for (const { id: id3, from, to, route } of plan.links) {
    const flow = flows.through.get(id3);
    if (!route || route.length === 0 || !flow) continue;
    const fuse = flows.fuseBefore.get(from) ?? flows.fuseBefore.get(to) ?? null;
    const rating = fuse ? fuses.get(fuse).amps : flow.rms;
    const alone = { ...usual, loadedCircuits: 1 };
    const share = flow.rms / (wireSize(sizeFor(rating, alone, LEAST_SQUARE_MM))?.amps ?? Infinity);
    for (const segment of route) {
      const at = shares.get(segment);
      if (at) at.push(share);
      else shares.set(segment, [share]);
    }
  }
  const loaded = new Map([...shares].map(([segment, all]) => [segment, countLoaded(all)]));
  return ({ route = [] }) => {
    const pieces = route.flatMap((id3) => segments[id3] ?? []);
    if (pieces.length === 0) return usual;
    return {
      ...usual,
      loadedCircuits: Math.max(1, ...route.map((id3) => loaded.get(id3) ?? 1)),
      // Where it is hotter than the insulation stands no size helps: a rule says so (LO-2).
      ambientCelsius: Math.min(Math.max(...pieces.map(celsiusOf)), usual.wireCelsius - LEAST_ROOM_CELSIUS)
    };
  };
}
function chainsOf(build, flows, fuses, aroundOf) {
  const branches = /* @__PURE__ */ new Map();
  for (const step of flows.steps) if (!isWinding(step)) branches.set(step.from, (branches.get(step.from) ?? 0) + 1);
  const chainOf = /* @__PURE__ */ new Map();
  const chainInto = /* @__PURE__ */ new Map();
  const found2 = [];
  for (const step of flows.steps) {
    const before = chainInto.get(step.from) ?? null;
    const goesOn = before !== null && !isWinding(step) && (branches.get(step.from) ?? 0) === 1;
    if (!step.link) {
      chainInto.set(step.to, goesOn ? before : null);
      continue;
    }
    const chain = goesOn ? before : { steps: [], squareMm: 0, setBy: "strength", fixed: false, most: MOST_CABLE_SQUARE_MM, metres: 0 };
    if (!goesOn) found2.push(chain);
    chain.most = Math.min(chain.most, mostAt(build, step.to));
    chain.metres += step.link.metres;
    chain.steps.push(step);
    chainOf.set(step.link.id, chain);
    chainInto.set(step.to, chain);
  }
  for (const chain of found2) {
    const names = new Set(chain.steps.flatMap(({ link }) => link?.feed ? [link.feed] : []));
    const trunk = chain.steps.some(
      ({ link }) => link?.role === "trunk" || link?.role === "jumper" || link?.role === "source"
    );
    const chosen = [...names].flatMap((name3) => trunk ? build.power.circuits[name3]?.squareMm ?? [] : []);
    const byWire = chain.steps.flatMap(({ link }) => build.loom.wires[link.id]?.squareMm ?? []);
    const winding = chain.steps.every(isWinding);
    const least = chain.steps.map((step) => {
      const fuse = sizedBy({ to: step.to, metres: step.link.metres }, flows.fuseBefore.get(step.from) ?? null);
      const flow = flows.through.get(step.link.id) ?? NOTHING3;
      const amps2 = fuse ? fuses.get(fuse).amps : flow.rms;
      return sizeFor(amps2, aroundOf(step.link), winding ? LEAST_WINDING_SQUARE_MM : LEAST_SQUARE_MM);
    });
    chain.squareMm = byWire[0] ?? chosen[0] ?? Math.max(...least);
    chain.fixed = byWire.length > 0 || chosen.length > 0;
    const strength = winding ? LEAST_WINDING_SQUARE_MM : LEAST_SQUARE_MM;
    chain.setBy = chain.fixed ? "person" : chain.squareMm > strength ? "PW-1" : "strength";
  }
  return chainOf;
}
var MOST_ROUNDS = 1e3;
function raise(loads, chainOf, lost, ohmsOf2, rmsOf, around2) {
  const sizes2 = seriesSizes(around2.series).map(({ squareMm }) => squareMm);
  const above2 = (squareMm) => sizes2.find((one2) => one2 > squareMm);
  const given2 = /* @__PURE__ */ new Set();
  const overOf = ({ limit, way }) => way.reduce((sum, step) => sum + lost(step), 0) - limit;
  const over = loads.map(overOf);
  const behind3 = /* @__PURE__ */ new Map();
  loads.forEach(({ way }, at) => {
    for (const { link } of way) {
      const chain = link && chainOf.get(link.id);
      if (chain) behind3.set(chain, (behind3.get(chain) ?? /* @__PURE__ */ new Set()).add(at));
    }
  });
  for (let round5 = 0; round5 < MOST_ROUNDS; round5 += 1) {
    let worst = -1;
    let most2 = 1e-9;
    for (let at = 0; at < over.length; at += 1) {
      const volts3 = over[at];
      if (volts3 <= most2 || given2.has(at)) continue;
      worst = at;
      most2 = volts3;
    }
    if (worst < 0) return;
    const chains = new Set(loads[worst].way.flatMap(({ link }) => link ? chainOf.get(link.id) ?? [] : []));
    let best = null;
    for (const chain of chains) {
      const next = above2(chain.squareMm);
      if (chain.fixed || next === void 0 || next > chain.most) continue;
      let saved = 0;
      for (const step of chain.steps) saved += rmsOf(step) * (ohmsOf2(step, chain.squareMm) - ohmsOf2(step, next));
      const gain = saved / ((next - chain.squareMm) * chain.metres);
      if (saved > 0 && (best === null || gain > best.gain)) best = { chain, next, gain };
    }
    if (!best) {
      given2.add(worst);
      continue;
    }
    Object.assign(best.chain, { squareMm: best.next, setBy: "PW-3" });
    for (const at of behind3.get(best.chain) ?? []) over[at] = overOf(loads[at]);
  }
}

// core/netlist/wires.ts
var otherEnd = ({ from, to }, end2) => from === end2 ? to : from;
var SPLICE_METRES = 0.3;
var POWER_GROUND_AMPS = 5;
var SIGNAL_AMPS = 0.02;
var MOST_SQUARE_MM2 = 6;
var usualSize = (build, squareMm) => inSeries(squareMm, build.loom.series);
var mostSizeFor = (build, amps2) => Math.min(usualSize(build, MOST_SQUARE_MM2), sizeFor(amps2, surroundings(build)));
var endToEndOhms = ({ ohms: ohms2, from, to, circuitId }) => ohms2 + (circuitId === null ? 2 * CONTACT_OHMS : terminalOhms(from, to));
var WireList = class {
  constructor(build) {
    this.build = build;
    this.loom = build.loom;
  }
  build;
  drafts = [];
  taken = /* @__PURE__ */ new Set();
  sizes = /* @__PURE__ */ new Map();
  loom;
  /** `local`: how long it is hangs on no route. */
  add(from, to, wire) {
    const id3 = wireId(from, to);
    if (this.taken.has(id3)) return;
    this.taken.add(id3);
    const choice = this.loom.wires[id3] ?? {};
    const amps2 = wire.amps ?? SIGNAL_AMPS;
    this.drafts.push({
      id: id3,
      from,
      to,
      squareMm: choice.squareMm ?? wire.squareMm ?? this.sizeOf(amps2),
      colour: choice.colour ?? wire.colour,
      metres: wire.metres,
      local: wire.local ?? false,
      fixed: wire.fixed ?? false,
      amps: amps2,
      signal: wire.signal,
      needId: wire.needId ?? null,
      circuitId: wire.circuitId ?? null,
      deviceId: wire.deviceId ?? null,
      cable: wire.cable ?? null,
      shield: wire.shield ?? null
    });
  }
  /** A wire of the plan of feeds, with the figures it has there: its length is the route's already. */
  addPlanned(link, cuts, wire) {
    if (this.taken.has(link.id)) return;
    this.taken.add(link.id);
    this.drafts.push({
      signal: wire.signal,
      circuitId: wire.circuitId,
      deviceId: wire.deviceId,
      id: link.id,
      from: link.from,
      to: link.to,
      squareMm: link.squareMm,
      colour: this.loom.wires[link.id]?.colour ?? wire.colour,
      metres: link.metres - this.loom.slackMetres * (cuts + 1),
      local: false,
      fixed: true,
      amps: link.flow.rms,
      needId: null,
      cable: null,
      shield: null
    });
  }
  /** Most wires carry one of a few currents. */
  sizeOf(amps2) {
    const known9 = this.sizes.get(amps2) ?? mostSizeFor(this.build, amps2);
    this.sizes.set(amps2, known9);
    return known9;
  }
};

// core/prove/halves.ts
function sectionFrom(net, hold, first2) {
  const ways = /* @__PURE__ */ new Map();
  const wires = /* @__PURE__ */ new Set();
  const walk = (end2, wire, before) => {
    if (wires.has(wire.id)) return;
    wires.add(wire.id);
    const next = otherEnd(wire, end2);
    const way = [...before, wire];
    const type = endType(next);
    if (next !== hold && type !== "splice" && !ways.has(next)) ways.set(next, way);
    if (type === "plug" || isSink(next)) return;
    for (const other of net.wiresAt.get(next) ?? []) walk(next, other, way);
  };
  walk(hold, first2, []);
  return { ways, wires };
}
function halfTests(build, net, which = "asked") {
  const { nodes } = build.tree;
  const asked = Object.keys(nodes).filter((id3) => {
    const plug = nodes[id3].plug;
    return plug !== void 0 && plug.apart === true === (which === "asked");
  });
  const done = /* @__PURE__ */ new Set();
  return asked.flatMap((id3) => {
    const plug = nodes[id3].plug;
    const meetings = meetingsOf(build, net, id3);
    const face = plugConnector(plug);
    return halves.flatMap((half) => testsOfHalf(net, id3, half, meetings, face, done));
  });
}
function testsOfHalf(net, id3, half, meetings, face, done) {
  const byCavity = new Map(meetings.map((one2) => [one2.cavity, one2]));
  const sections = new Map(
    meetings.map((one2) => [one2.cavity, sectionFrom(net, plugEnd(id3, one2.cavity), one2[half])])
  );
  const paired = /* @__PURE__ */ new Set();
  const name3 = (cavity) => `${labelOf(net, plugEnd(id3, cavity))} (${halfWords[half]})`;
  const apart2 = (cavity, touch, to, testId) => ({
    id: testId,
    kind: "isolation",
    hold: plugEnd(id3, cavity),
    touch,
    title: `${name3(cavity)} against ${to}`,
    wireIds: [],
    unit: "ohms",
    expected: null,
    limit: ISOLATED_OHMS,
    half
  });
  return meetings.flatMap(({ cavity, ...meeting }) => {
    const hold = plugEnd(id3, cavity);
    const { ways, wires } = sections.get(cavity);
    const own2 = `${hold}>${otherEnd(meeting[half], hold)}`;
    const tests = [];
    if (!done.has(meeting[half].id))
      for (const [touch, way] of ways) {
        const expected = way.reduce((sum, wire) => sum + endToEndOhms(wire), 0);
        tests.push({
          id: `c|${hold}|${touch}|${half}`,
          kind: "continuity",
          hold,
          touch,
          title: `${name3(cavity)} to ${labelOf(net, touch)}`,
          wireIds: way.map((wire) => wire.id),
          unit: "ohms",
          expected,
          limit: continuityLimit(expected),
          half
        });
      }
    for (const wire of wires) done.add(wire);
    if (![...ways.keys()].some(isSink))
      tests.push(apart2(cavity, groundEnd("chassis"), "chassis ground", `i|${own2}|gnd`));
    for (const other of neighbourCavities(face, cavity)) {
      const beside = byCavity.get(other);
      const pair = [cavity, other].sort((a, b) => a - b).join(" ");
      if (!beside || paired.has(pair) || wires.has(beside[half].id)) continue;
      paired.add(pair);
      const touch = plugEnd(id3, other);
      tests.push(apart2(cavity, touch, labelOf(net, touch), `i|${own2}|${touch}>${otherEnd(beside[half], touch)}`));
    }
    return tests;
  });
}
function failsInPlug(net, test, right) {
  if (test.kind !== "continuity" || !test.wireIds.every((id3) => right.has(id3))) return null;
  const ends2 = test.wireIds.flatMap((id3) => {
    const wire = net.wireById.get(id3);
    return wire ? [wire.from, wire.to] : [];
  });
  const plugs = [...new Set(ends2.filter((end2, i) => endType(end2) === "plug" && ends2.indexOf(end2) < i))];
  if (plugs.length === 0) return null;
  const names = plugs.map((end2) => labelOf(net, end2)).join(" or ");
  return `Each half is whole by itself: look into ${names} for a terminal that was pushed back, or that sits in another cavity of one half.`;
}

// core/prove/verdict.ts
var BAD_CRIMP_OHMS = 12;
function answerWords({ chamber, second }, value) {
  const name3 = chamber === "rotor" ? "Rotor" : "Cylinder";
  if (value === null) return `${name3} none`;
  return value > SECOND_ROW ? `${name3} ${value - SECOND_ROW}, ${second || "second"},` : `${name3} ${value}`;
}
var verdict = (code, sentence) => ({ code, right: code === "right", sentence });
function judge(test, value, leadOhms) {
  if (test.kind === "order") {
    const { answers, words: words3 } = test.works;
    const right = value === null ? answers.length === 0 : answers.includes(value);
    if (right) return verdict("right", `Right. ${answerWords(test.works, value)} answers.`);
    return verdict(
      "wrong-cylinder",
      `${answerWords(test.works, value)} answered, ${words3} ${answers.length > 1 ? "were" : "was"} meant: this output's wire is crossed or in the wrong order.`
    );
  }
  if (test.kind === "isolation") {
    if (value === null || value >= test.limit) return verdict("right", "Right. Nothing joins them.");
    if (value <= 50)
      return verdict(
        "joined",
        `Joined: ${formatOhms(value)}. A bridge, a crossed pin or pinched insulation. Part the halves and test again.`
      );
    return verdict("leak", `A leak of ${formatOhms(value)}: moisture, or a device still plugged in.`);
  }
  if (value === null) return verdict("open", "No connection: wrong cavity, a terminal pushed back, or a broken crimp.");
  const ohms2 = value - leadOhms;
  if (ohms2 < -0.05)
    return verdict(
      "below-leads",
      `Less than the leads alone (${formatOhms(leadOhms)}): touch the probes together and set the leads again.`
    );
  if (ohms2 <= test.limit) return verdict("right", "Right. This wire is whole.");
  if (ohms2 <= BAD_CRIMP_OHMS)
    return verdict(
      "high",
      `High: ${formatOhms(ohms2)} against ${formatOhms(test.expected)}. Press the probe harder; if it stays, look at the crimps.`
    );
  return verdict(
    "high",
    `Far too high: ${formatOhms(ohms2)}. A bad crimp, or the path goes through a device: unplug it.`
  );
}
function wiresOf(net, test) {
  if (test.wireIds.length > 0) return [...test.wireIds];
  return [test.hold, test.touch].flatMap((end2) => {
    const wires = net.wiresAt.get(end2) ?? [];
    return wires.length === 1 ? [wires[0].id] : [];
  });
}
function progressOf(build, net, tests) {
  const proved = /* @__PURE__ */ new Set();
  const known9 = new Set(tests.map((test) => test.id));
  let right = 0;
  const failed = [];
  for (const test of tests) {
    const reading2 = build.prove.readings[test.id];
    if (!reading2) continue;
    const verdict2 = judge(test, reading2.value, build.prove.leadOhms);
    if (verdict2.right) {
      right += 1;
      for (const id3 of test.wireIds) proved.add(id3);
    } else failed.push({ test, verdict: verdict2 });
  }
  const wrongReadings = failed.map(({ test, verdict: verdict2 }) => {
    const wires = wiresOf(net, test);
    const left = test.kind === "continuity" ? wires.filter((id3) => !proved.has(id3)) : wires;
    const where = failsInPlug(net, test, proved);
    const said = where === null ? verdict2 : { ...verdict2, sentence: `${verdict2.sentence} ${where}` };
    return { test, verdict: said, wireIds: left.length > 0 ? left : wires };
  });
  const unknown = Object.entries(build.prove.readings).filter(([testId]) => !known9.has(testId));
  if (unknown.length > 0) for (const { id: id3 } of halfTests(build, net, "kept")) known9.add(id3);
  return {
    tests: tests.length,
    right,
    wrong: failed.length,
    wires: net.wires.length,
    proved,
    wrongReadings,
    wrongWires: new Map(wrongReadings.flatMap(({ wireIds: wireIds2, verdict: verdict2 }) => wireIds2.map((id3) => [id3, verdict2.sentence]))),
    fallen: unknown.flatMap(([testId, reading2]) => known9.has(testId) ? [] : [{ testId, reading: reading2 }])
  };
}

// core/allot/in-place.ts
function readInPlace(build, from, to) {
  const [one2, other] = wholeEnds(build, from, to);
  const reading2 = build.prove.readings[continuityId(one2, other)] ?? build.prove.readings[continuityId(other, one2)];
  return reading2 ? reading2.value !== null && reading2.value - build.prove.leadOhms <= BAD_CRIMP_OHMS : null;
}
function inPlace(build, from, to) {
  const read2 = readInPlace(build, from, to);
  if (read2 !== null) return read2;
  const near = nearPlug(build, wireId(from, to));
  return build.pinning.done[wireId(from, near ?? to)] !== void 0;
}
function wholeEnds({ tree }, from, to) {
  for (const end2 of [from, to]) {
    const ref = endOf(end2);
    if (ref.of !== "part" || ref.kind !== "plug") continue;
    const wires = tree.nodes[ref.part]?.plug?.wires ?? {};
    const [whole2] = Object.entries(wires).find(([, cavity]) => String(cavity) === ref.port) ?? [];
    const ends2 = whole2 === void 0 ? null : endsOfWire(whole2);
    if (ends2) return ends2;
  }
  return [from, to];
}
function nearPlug({ tree }, whole2) {
  const ecu = placesOf(tree).get(ECU_THING);
  const plugs = Object.entries(tree.nodes).flatMap(([id3, { plug }]) => {
    const cavity = plug?.wires[whole2];
    return cavity === void 0 ? [] : [{ id: id3, cavity, metres: ecu === void 0 ? 0 : waysOf(tree).metres(ecu, id3) }];
  });
  const [nearest] = plugs.sort((one2, other) => one2.metres - other.metres);
  return nearest ? plugEnd(nearest.id, nearest.cavity) : null;
}
var isCrimped = (build, need, pinId) => (
  // Where several hang on the output, the wire in the cavity leads to their splice.
  inPlace(build, ecuEnd(pinId), need.joined.length > 0 ? spliceEnd(pinId) : need.end)
);

// core/allot/pairs.ts
var MOST_WAYS = 4e3;
var pairsAt = (pin2, ask) => new Set(pin2.abilities.flatMap(({ pair }) => pair !== void 0 && serve(pin2, ask, pair).ability ? [pair] : []));
var common2 = (sets) => sets.length === 0 ? /* @__PURE__ */ new Set() : new Set([...sets[0]].filter((one2) => sets.every((set) => set.has(one2))));
function pairWays(needs, offersOn, names, bound) {
  const ways = [];
  for (const pair of names) {
    if (bound && !bound.has(pair)) continue;
    const lists = needs.map((need) => offersOn(need, pair));
    const chosen = [];
    const settle2 = (index) => {
      if (index === lists.length) {
        if (ways.length >= MOST_WAYS) return false;
        ways.push({
          pair,
          pins: chosen.map(({ pin: pin2 }) => pin2),
          versatile: chosen.reduce((sum, { versatile }) => sum + versatile, 0)
        });
        return true;
      }
      return lists[index].every((offer) => {
        if (chosen.some((one2) => one2.pin === offer.pin)) return true;
        chosen.push(offer);
        const going = settle2(index + 1);
        chosen.pop();
        return going;
      });
    };
    if (!settle2(0)) return { ways, whole: false };
  }
  return { ways, whole: true };
}

// core/data/remember.ts
function remember(work, most2 = 5e3) {
  const known9 = /* @__PURE__ */ new Map();
  return (text3) => {
    const before = known9.get(text3);
    if (before !== void 0) return before;
    if (known9.size >= most2) known9.clear();
    const found2 = work(text3);
    known9.set(text3, found2);
    return found2;
  };
}

// core/ecu/pinout/glossary.ts
var german2 = [
  ["einspritz(?:ventil|d\xFCse|duese)e?n?|einspritzung|ev(?=\\s*\\d)", "injector"],
  ["z\xFCnd(?:spule|ausgang|endstufe|ung)?n?|zuend(?:spule|ausgang|endstufe|ung)?n?", "ignition coil"],
  ["kurbelwellen?(?:sensor|geber)?|drehzahlgeber|bezugsmarkengeber", "crank sensor"],
  ["nockenwellen?(?:sensor|geber)?|phasengeber", "cam sensor"],
  ["klopfsensor(?:en)?|klopfgeber", "knock sensor"],
  [
    "k\xFChl(?:mittel|wasser)-?temp(?:eratur)?(?:sensor|f\xFChler|geber)?|kuehl(?:mittel|wasser)-?temp(?:eratur)?(?:sensor|fuehler|geber)?|motortemp(?:eratur)?|wassertemp(?:eratur)?(?:sensor|f\xFChler|geber)?",
    "coolant temperature"
  ],
  ["(?:ansaug)?luft-?temp(?:eratur)?(?:sensor|f\xFChler|fuehler|geber)?|ansaugtemp(?:eratur)?", "air temperature"],
  ["\xF6l-?temp(?:eratur)?(?:sensor|f\xFChler|geber)?|oel-?temp(?:eratur)?(?:sensor|geber)?", "oil temperature"],
  ["\xF6ldruck(?:sensor|geber)?|oeldruck(?:sensor|geber)?", "oil pressure sensor"],
  ["kraftstoffdruck(?:sensor|geber)?|benzindruck(?:sensor|geber)?", "fuel pressure sensor"],
  ["saugrohrdruck(?:sensor|geber)?|ladedruck(?:sensor|geber)|druckf\xFChler", "manifold pressure sensor"],
  ["ladedruck(?:regel)?(?:ventil|steuerung|regelung)|taktventil", "boost solenoid"],
  ["ladedruck", "manifold pressure"],
  ["(?:kraftstoff|benzin|sprit)pumpen?-?relais", "fuel pump relay"],
  ["(?:kraftstoff|benzin|sprit)pumpe", "fuel pump"],
  ["haupt-?relais(?:\\s*(?:ansteuerung|steuerung))?", "main relay"],
  ["(?:k\xFChler)?l\xFCfter(?:motor)?-?relais|luefter-?relais|gebl\xE4se-?relais", "fan relay"],
  ["(?:k\xFChler|elektro)?l\xFCfter|luefter|gebl\xE4se", "fan"],
  ["leerlauf(?:regel)?(?:ventil|steller|regler|stellventil)?", "idle valve"],
  ["drosselklappen?-?(?:motor|steller|stellmotor)", "throttle motor"],
  ["drosselklappen?(?:potentiometer|poti|sensor|geber|winkel|stellung)?", "throttle position"],
  ["(?:fahr|gas)pedal(?:geber|sensor|poti|stellung)?", "pedal position"],
  ["lambda-?sonde|breitband-?sonde", "lambda sensor"],
  ["sonden?-?heizung", "lambda heater"],
  ["luftmassen(?:messer|sensor)|lmm", "air mass sensor"],
  ["geschwindigkeit(?:s(?:signal|sensor|geber))?|tacho-?signal|wegstrecke", "vehicle speed"],
  ["drehzahl(?:messer|signal|ausgang)?(?:\\s*(?:ausgang|anzeige))?", "tacho output"],
  ["motor-?(?:kontroll|warn)(?:leuchte|lampe)|kontroll(?:leuchte|lampe)|warn(?:leuchte|lampe)", "warning lamp"],
  ["kupplungs?-?(?:schalter|pedalschalter)?", "clutch switch"],
  ["brems(?:licht)?-?(?:schalter|pedalschalter)", "brake switch"],
  ["leerlaufschalter", "idle switch"],
  ["neutral-?schalter", "neutral switch"],
  ["start(?:er)?-?(?:taster|knopf|signal)", "start button"],
  ["anlasser-?relais|starter-?relais", "starter relay"],
  ["anlasser", "starter"],
  ["lichtmaschine|generator", "alternator"],
  ["klima(?:anlage|kompressor)?(?:-?(?:relais|kupplung))?", "a/c compressor"],
  ["tankentl\xFCftung(?:sventil)?|aktivkohlefilter(?:ventil)?", "purge valve"],
  ["nockenwellen(?:versteller|verstellung)", "vvt solenoid"],
  ["schrittmotor", "stepper motor"],
  ["wasserpumpe", "water pump"],
  ["abgastemp(?:eratur)?(?:sensor|f\xFChler)?", "egt"],
  ["thermoelement", "thermocouple"],
  ["sensor-?masse|geber-?masse|signal-?masse|masse\\s*(?:sensoren|sensorik|geber)|analog-?masse", "sensor ground"],
  [
    "leistungs-?masse|motor-?masse|last-?masse|masse\\s*(?:leistung|motor|endstufen)|batterie\\s*-?minus|batterie\\s*[-\u2013]",
    "power ground"
  ],
  ["masse", "ground"],
  [
    "(?:kl(?:emme)?\\.?\\s*30|dauerplus|dauer-?spannung|dauer-?strom|batterie\\s*-?plus|batterie\\s*\\+|dauer\\s*\\+)",
    "permanent supply"
  ],
  [
    "(?:kl(?:emme)?\\.?\\s*15|z\xFCndungs?-?plus|zuendungs?-?plus|z\xFCndung\\s*(?:ein|an)|geschaltet(?:es)?\\s*plus|schaltplus)",
    "switched supply"
  ],
  [
    "(?:5\\s*v(?:olt)?\\s*)?(?:sensor|geber)-?(?:versorgung|speisung|spannung)|versorgung\\s*(?:sensoren|geber)",
    "5 V sensor supply"
  ],
  ["spannungsversorgung|versorgungsspannung|stromversorgung|versorgung", "supply in"],
  ["hall-?(?:geber|sensor)", "hall sensor"],
  ["induktiv(?:er|es|e)?(?:\\s*(?:geber|sensor))?|induktivgeber", "VR"],
  ["(?:analog|analoger)-?\\s*eing(?:ang|\xE4nge)", "analog input"],
  ["(?:digital|schalt|digitaler)-?\\s*eing(?:ang|\xE4nge)", "switch input"],
  ["frequenz-?\\s*eing(?:ang|\xE4nge)", "frequency input"],
  ["temperatur-?\\s*eing(?:ang|\xE4nge)", "temperature input"],
  ["eing(?:ang|\xE4nge)", "input"],
  ["(?:schalt|digital|universal|leistungs|masse)-?\\s*ausg(?:ang|\xE4nge)", "low side output"],
  ["plus-?ausg(?:ang|\xE4nge)|ausg(?:ang|\xE4nge)\\s*plusschaltend|plusschaltend", "high side output"],
  ["masseschaltend", "low side"],
  ["ausg(?:ang|\xE4nge)", "output"],
  ["endstufe", "driver"],
  ["temperatur", "temperature"],
  ["druck", "pressure"],
  ["schalter", "switch"],
  ["ventil", "valve"],
  ["pumpe", "pump"],
  ["relais", "relay"],
  ["sensor|geber|f\xFChler", "sensor"],
  ["tank(?:f\xFCll)?(?:stand|geber)", "fuel level"],
  ["batterie(?:spannung)?", "battery"],
  ["\xFCber|ueber|vom", "via"],
  ["stecker", "connector"]
];
var french = [
  ["injecteurs?|injection", "injector"],
  ["bobines?(?:\\s*(?:d['\u2019]\\s*)?allumage)?", "ignition coil"],
  ["(?:\\+\\s*)?apr[e\xE8]s[\\s-]*contact|\\+\\s*apc|apc|contact\\s*\\+", "switched supply"],
  [
    "(?:\\+\\s*)?(?:permanent|avant[\\s-]*contact)|\\+\\s*(?:bat|batterie)|batterie\\s*\\+|\\+\\s*avc",
    "permanent supply"
  ],
  ["allumage", "ignition"],
  [
    "(?:capteur\\s*)?(?:de\\s*)?(?:position\\s*)?vilebrequin|capteur\\s*(?:de\\s*)?(?:pmh|r[e\xE9]gime)(?:\\s*moteur)?|(?:capteur\\s*)?pmh",
    "crank sensor"
  ],
  [
    "(?:capteur\\s*)?(?:d['\u2019]\\s*|de\\s*)?(?:position\\s*)?arbre\\s*[\xE0a]\\s*cames?|capteur\\s*(?:de\\s*)?phase",
    "cam sensor"
  ],
  ["(?:capteur\\s*(?:de\\s*)?)?cliquetis", "knock sensor"],
  [
    "(?:sonde\\s*)?temp(?:[e\xE9]rature)?\\s*(?:d['\u2019]\\s*|de\\s*)?(?:liquide(?:\\s*(?:de\\s*)?refroidissement)?|eau|moteur)",
    "coolant temperature"
  ],
  [
    "(?:sonde\\s*)?temp(?:[e\xE9]rature)?\\s*(?:d['\u2019]\\s*|de\\s*l['\u2019]\\s*)?(?:air|admission)(?:\\s*admission)?",
    "air temperature"
  ],
  ["temp(?:[e\xE9]rature)?\\s*(?:d['\u2019]\\s*)?huile", "oil temperature"],
  ["(?:capteur\\s*(?:de\\s*)?)?pression\\s*(?:d['\u2019]\\s*)?huile", "oil pressure sensor"],
  ["(?:capteur\\s*(?:de\\s*)?)?pression\\s*(?:d['\u2019e]?\\s*)?(?:essence|carburant)", "fuel pressure sensor"],
  [
    "(?:capteur\\s*(?:de\\s*)?)?pression\\s*(?:d['\u2019e]?\\s*)?(?:admission|collecteur|tubulure|suralimentation)",
    "manifold pressure sensor"
  ],
  ["(?:relais\\s*(?:de\\s*)?)pompe\\s*(?:[\xE0a]\\s*)?(?:essence|carburant)", "fuel pump relay"],
  ["pompe\\s*(?:[\xE0a]\\s*)?(?:essence|carburant)", "fuel pump"],
  ["pompe\\s*(?:[\xE0a]\\s*)?eau", "water pump"],
  ["relais\\s*principal", "main relay"],
  ["relais\\s*(?:de\\s*|du\\s*)?(?:moto)?ventilateur", "fan relay"],
  ["(?:moto)?ventilateur|gmv", "fan"],
  ["(?:vanne|actuateur|[e\xE9]lectrovanne|r[e\xE9]gulateur)\\s*(?:de\\s*)?ralenti|ralenti", "idle valve"],
  ["(?:[e\xE9]lectrovanne|vanne)\\s*(?:de\\s*)?(?:suralimentation|turbo|wastegate)", "boost solenoid"],
  ["(?:[e\xE9]lectrovanne|vanne)\\s*(?:de\\s*)?(?:purge\\s*)?canister", "purge valve"],
  ["[e\xE9]lectrovanne", "solenoid valve"],
  ["moteur\\s*(?:de\\s*)?papillon|papillon\\s*motoris[e\xE9]", "throttle motor"],
  ["(?:potentiom[e\xE8]tre\\s*|capteur\\s*|position\\s*)?(?:de\\s*|du\\s*)?papillon", "throttle position"],
  ["(?:capteur\\s*)?p[e\xE9]dale(?:\\s*(?:d['\u2019]\\s*)?acc[e\xE9]l[e\xE9]rateur)?", "pedal position"],
  ["sonde\\s*(?:[\xE0a]\\s*)?(?:lambda|oxyg[e\xE8]ne)", "lambda sensor"],
  ["(?:chauffage|r[e\xE9]chauffage)\\s*(?:de\\s*)?(?:sonde|lambda)(?:\\s*lambda)?", "lambda heater"],
  ["d[e\xE9]bitm[e\xE8]tre(?:\\s*(?:d['\u2019]\\s*)?air)?", "air mass sensor"],
  ["vitesse(?:\\s*(?:du\\s*)?v[e\xE9]hicule)?", "vehicle speed"],
  ["compte[\\s-]*tours", "tacho output"],
  ["(?:voyant|t[e\xE9]moin)(?:\\s*(?:de\\s*)?(?:moteur|d[e\xE9]faut|alerte))?", "warning lamp"],
  ["(?:contacteur|capteur)\\s*(?:d['\u2019]\\s*)?embrayage|embrayage", "clutch switch"],
  ["(?:contacteur|capteur)\\s*(?:de\\s*)?frein|frein", "brake switch"],
  ["point\\s*mort", "neutral switch"],
  ["bouton\\s*(?:de\\s*)?d[e\xE9]marr(?:age|eur)", "start button"],
  ["relais\\s*(?:de\\s*|du\\s*)?d[e\xE9]marreur", "starter relay"],
  ["d[e\xE9]marreur", "starter"],
  ["alternateur", "alternator"],
  ["(?:compresseur\\s*(?:de\\s*)?)?clim(?:atisation)?", "a/c compressor"],
  ["moteur\\s*pas[\\s-]*[\xE0a][\\s-]*pas", "stepper motor"],
  ["masse\\s*(?:des?\\s*)?(?:capteurs?|sondes?|signal|analogique)", "sensor ground"],
  ["masse\\s*(?:de\\s*)?(?:puissance|moteur|ch[a\xE2]ssis)|batterie\\s*[-\u2013]", "power ground"],
  ["masse", "ground"],
  [
    "alim(?:entation)?\\s*(?:des?\\s*)?(?:capteurs?|sondes?)(?:\\s*5\\s*v)?|(?:\\+\\s*)?5\\s*v\\s*capteurs?",
    "5 V sensor supply"
  ],
  ["alim(?:entation)?", "supply"],
  ["entr[e\xE9]e\\s*analogique", "analog input"],
  ["entr[e\xE9]e\\s*(?:logique|num[e\xE9]rique|tout[\\s-]*ou[\\s-]*rien|tor)", "switch input"],
  ["entr[e\xE9]e\\s*(?:de\\s*)?fr[e\xE9]quence", "frequency input"],
  ["entr[e\xE9]e", "input"],
  ["sortie\\s*(?:de\\s*)?(?:puissance|commande|auxiliaire|tor)", "low side output"],
  ["sortie", "output"],
  ["thermocouple", "thermocouple"],
  ["temp(?:[e\xE9]rature)?\\s*(?:des?\\s*)?(?:gaz\\s*(?:d['\u2019]\\s*)?)?[e\xE9]chappement", "egt"],
  ["inductif", "VR"],
  ["temp[e\xE9]rature", "temperature"],
  ["pression", "pressure"],
  ["pompe", "pump"],
  ["relais", "relay"],
  ["capteur|sonde", "sensor"],
  ["par(?=\\s+(?:le\\s+)?relais)|depuis", "via"],
  ["connecteur", "connector"]
];
var spanish = [
  ["inyector(?:es)?|inyecci[o\xF3]n", "injector"],
  ["bobinas?(?:\\s*de\\s*encendido)?", "ignition coil"],
  [
    "(?:positivo|alimentaci[o\xF3]n|\\+)\\s*(?:de\\s*|bajo\\s*|con\\s*|por\\s*)?(?:contacto|llave)|contacto",
    "switched supply"
  ],
  [
    "(?:positivo|alimentaci[o\xF3]n|\\+)\\s*(?:permanente|directo|de\\s*bater[i\xED]a)|bater[i\xED]a\\s*\\+|permanente",
    "permanent supply"
  ],
  ["encendido", "ignition"],
  ["(?:sensor\\s*(?:de\\s*)?)?cig[u\xFC]e[\xF1n]al|sensor\\s*(?:de\\s*)?(?:revoluciones|giro|rpm)", "crank sensor"],
  ["(?:sensor\\s*(?:de\\s*)?)?[a\xE1]rbol\\s*de\\s*levas", "cam sensor"],
  ["(?:sensor\\s*(?:de\\s*)?)?(?:detonaci[o\xF3]n|picado)", "knock sensor"],
  ["(?:sensor\\s*(?:de\\s*)?)?temp(?:eratura)?\\s*(?:del?\\s*)?(?:refrigerante|agua|motor)", "coolant temperature"],
  ["(?:sensor\\s*(?:de\\s*)?)?temp(?:eratura)?\\s*(?:del?\\s*)?(?:aire|admisi[o\xF3]n)", "air temperature"],
  ["temp(?:eratura)?\\s*(?:del?\\s*)?aceite", "oil temperature"],
  ["(?:sensor\\s*(?:de\\s*)?)?presi[o\xF3]n\\s*(?:del?\\s*)?aceite", "oil pressure sensor"],
  ["(?:sensor\\s*(?:de\\s*)?)?presi[o\xF3]n\\s*(?:del?\\s*)?(?:combustible|gasolina)", "fuel pressure sensor"],
  [
    "(?:sensor\\s*(?:de\\s*)?)?presi[o\xF3]n\\s*(?:del?\\s*)?(?:colector|admisi[o\xF3]n|m[u\xFA]ltiple|turbo)",
    "manifold pressure sensor"
  ],
  ["rel[e\xE9]\\s*(?:de\\s*(?:la\\s*)?)?bomba\\s*(?:de\\s*)?(?:combustible|gasolina)", "fuel pump relay"],
  ["bomba\\s*(?:de\\s*)?(?:combustible|gasolina)", "fuel pump"],
  ["bomba\\s*(?:de\\s*)?agua", "water pump"],
  ["rel[e\xE9]\\s*principal", "main relay"],
  ["rel[e\xE9]\\s*(?:del?\\s*)?(?:electro)?ventilador", "fan relay"],
  ["(?:electro)?ventilador", "fan"],
  ["(?:v[a\xE1]lvula|motor)?\\s*(?:de\\s*)?ralent[i\xED]", "idle valve"],
  ["motor\\s*(?:de\\s*la\\s*|de\\s*)?mariposa", "throttle motor"],
  ["(?:sensor\\s*|posici[o\xF3]n\\s*)?(?:de\\s*la\\s*|de\\s*)?mariposa", "throttle position"],
  ["pedal(?:\\s*(?:del?\\s*)?acelerador)?", "pedal position"],
  ["sonda\\s*(?:lambda|de\\s*ox[i\xED]geno)", "lambda sensor"],
  ["calefactor\\s*(?:de\\s*(?:la\\s*)?)?(?:sonda|lambda)(?:\\s*lambda)?", "lambda heater"],
  ["caudal[i\xED]metro|(?:sensor\\s*)?masa\\s*de\\s*aire", "air mass sensor"],
  ["velocidad(?:\\s*(?:del?\\s*)?veh[i\xED]culo)?", "vehicle speed"],
  ["cuenta\\s*(?:revoluciones|vueltas)|tac[o\xF3]metro", "tacho output"],
  ["(?:testigo|l[a\xE1]mpara|luz)(?:\\s*(?:de\\s*)?(?:motor|aviso|aver[i\xED]a))?", "warning lamp"],
  ["(?:interruptor\\s*(?:de\\s*)?)?embrague", "clutch switch"],
  ["(?:interruptor\\s*(?:de\\s*)?)?freno", "brake switch"],
  ["punto\\s*muerto", "neutral switch"],
  ["(?:bot[o\xF3]n|pulsador)\\s*(?:de\\s*)?arranque", "start button"],
  ["rel[e\xE9]\\s*(?:de\\s*)?arranque", "starter relay"],
  ["motor\\s*de\\s*arranque", "starter"],
  ["alternador", "alternator"],
  ["(?:compresor\\s*(?:de\\s*)?)?aire\\s*acondicionado", "a/c compressor"],
  ["motor\\s*paso\\s*a\\s*paso", "stepper motor"],
  ["(?:masa|tierra)\\s*(?:de\\s*(?:los\\s*)?)?(?:sensor(?:es)?|se[\xF1n]al|anal[o\xF3]gica)", "sensor ground"],
  ["(?:masa|tierra)\\s*(?:de\\s*)?(?:potencia|motor|chasis)|bater[i\xED]a\\s*[-\u2013]", "power ground"],
  ["masa|tierra", "ground"],
  [
    "alimentaci[o\xF3]n\\s*(?:de\\s*)?(?:5\\s*v\\s*)?(?:de\\s*)?sensor(?:es)?(?:\\s*5\\s*v)?|5\\s*v\\s*sensores",
    "5 V sensor supply"
  ],
  ["alimentaci[o\xF3]n", "supply"],
  ["entrada\\s*anal[o\xF3]gica", "analog input"],
  ["entrada\\s*(?:digital|l[o\xF3]gica)", "switch input"],
  ["entrada\\s*(?:de\\s*)?frecuencia", "frequency input"],
  ["entrada", "input"],
  ["salida\\s*(?:de\\s*)?(?:potencia|rel[e\xE9]|auxiliar|digital)", "low side output"],
  ["salida", "output"],
  ["termopar", "thermocouple"],
  ["temp(?:eratura)?\\s*(?:de(?:l|\\s*gases\\s*de)?\\s*)?escape", "egt"],
  ["inductivo", "VR"],
  [
    "(?:v[a\xE1]lvula|electrov[a\xE1]lvula|solenoide)\\s*(?:de\\s*)?(?:turbo|sobrealimentaci[o\xF3]n|wastegate)",
    "boost solenoid"
  ],
  ["(?:electro)?v[a\xE1]lvula", "valve"],
  ["temperatura", "temperature"],
  ["presi[o\xF3]n", "pressure"],
  ["bomba", "pump"],
  ["bater[i\xED]a", "battery"],
  ["desde|a\\s*trav[e\xE9]s", "via"],
  ["rel[e\xE9]", "relay"],
  ["conector", "connector"]
];
var italian = [
  ["iniettor[ei]|iniezione", "injector"],
  ["bobin[ae](?:\\s*(?:di\\s*)?accensione)?", "ignition coil"],
  ["(?:positivo|alimentazione|\\+)?\\s*(?:sotto\\s*(?:chiave|quadro)|sottochiave|sottoquadro)", "switched supply"],
  ["(?:positivo|alimentazione|\\+)\\s*(?:permanente|diretta|diretto|batteria)|batteria\\s*\\+", "permanent supply"],
  ["accensione", "ignition"],
  ["(?:sensore\\s*(?:di\\s*)?)?(?:giri(?:\\s*motore)?|albero\\s*motore)", "crank sensor"],
  ["(?:sensore\\s*(?:di\\s*)?)?(?:fase|albero\\s*a\\s*camme)", "cam sensor"],
  ["(?:sensore\\s*(?:di\\s*)?)?(?:detonazione|battito)", "knock sensor"],
  [
    "(?:sensore\\s*)?temp(?:eratura)?\\s*(?:dell['\u2019]\\s*|del\\s*)?(?:acqua|liquido(?:\\s*(?:di\\s*)?raffreddamento)?|motore)",
    "coolant temperature"
  ],
  ["(?:sensore\\s*)?temp(?:eratura)?\\s*(?:dell['\u2019]\\s*)?(?:aria|aspirazione)", "air temperature"],
  ["temp(?:eratura)?\\s*(?:dell['\u2019]\\s*)?olio", "oil temperature"],
  ["(?:sensore\\s*)?pressione\\s*(?:dell['\u2019]\\s*)?olio", "oil pressure sensor"],
  ["(?:sensore\\s*)?pressione\\s*(?:del\\s*)?(?:carburante|benzina)", "fuel pressure sensor"],
  ["(?:sensore\\s*)?pressione\\s*(?:del\\s*)?(?:collettore|aspirazione|turbo)", "manifold pressure sensor"],
  ["rel[e\xE8\xE9]\\s*(?:della\\s*)?pompa\\s*(?:della\\s*)?(?:carburante|benzina)", "fuel pump relay"],
  ["pompa\\s*(?:della\\s*)?(?:carburante|benzina)", "fuel pump"],
  ["pompa\\s*(?:dell['\u2019]\\s*)?acqua", "water pump"],
  ["rel[e\xE8\xE9]\\s*principale", "main relay"],
  ["rel[e\xE8\xE9]\\s*(?:della\\s*)?(?:elettro)?ventola", "fan relay"],
  ["(?:elettro)?ventola", "fan"],
  ["(?:valvola|attuatore)?\\s*(?:del\\s*)?minimo", "idle valve"],
  ["motore\\s*(?:della\\s*)?farfalla|farfalla\\s*motorizzata", "throttle motor"],
  ["(?:potenziometro\\s*|sensore\\s*|posizione\\s*)?(?:della\\s*)?farfalla", "throttle position"],
  ["pedale(?:\\s*(?:dell[\u2019']\\s*)?acceleratore)?", "pedal position"],
  ["sonda\\s*(?:lambda|ossigeno)", "lambda sensor"],
  ["riscaldat(?:ore|rice)\\s*(?:della\\s*)?(?:sonda|lambda)(?:\\s*lambda)?", "lambda heater"],
  ["debimetro|misuratore\\s*massa\\s*aria", "air mass sensor"],
  ["velocit[a\xE0](?:\\s*(?:del\\s*)?veicolo)?", "vehicle speed"],
  ["contagiri", "tacho output"],
  ["spia(?:\\s*(?:motore|avaria))?", "warning lamp"],
  ["(?:interruttore\\s*)?(?:della\\s*)?frizione", "clutch switch"],
  ["(?:interruttore\\s*)?(?:del\\s*)?freno", "brake switch"],
  ["(?:interruttore\\s*)?folle", "neutral switch"],
  ["pulsante\\s*(?:di\\s*)?avviamento", "start button"],
  ["rel[e\xE8\xE9]\\s*(?:di\\s*)?avviamento", "starter relay"],
  ["motorino\\s*(?:di\\s*)?avviamento", "starter"],
  ["alternatore", "alternator"],
  ["(?:compressore\\s*)?(?:climatizzatore|condizionatore)", "a/c compressor"],
  ["motore\\s*passo[\\s-]*passo", "stepper motor"],
  ["massa\\s*(?:dei\\s*)?(?:sensor[ei]|segnale|analogica)", "sensor ground"],
  ["massa\\s*(?:di\\s*)?(?:potenza|motore|telaio)|batteria\\s*[-\u2013]", "power ground"],
  ["massa", "ground"],
  ["alimentazione\\s*(?:dei\\s*)?sensor[ei](?:\\s*5\\s*v)?|5\\s*v\\s*sensori", "5 V sensor supply"],
  ["alimentazione", "supply"],
  ["ingresso\\s*analogico", "analog input"],
  ["ingresso\\s*(?:digitale|logico)", "switch input"],
  ["ingresso\\s*(?:di\\s*|in\\s*)?frequenza", "frequency input"],
  ["ingresso", "input"],
  ["uscita\\s*(?:di\\s*)?(?:potenza|ausiliaria|digitale)", "low side output"],
  ["uscita", "output"],
  ["termocoppia", "thermocouple"],
  ["temp(?:eratura)?\\s*(?:gas\\s*(?:di\\s*)?)?scarico", "egt"],
  ["induttivo", "VR"],
  ["(?:elettro)?valvola\\s*(?:wastegate|turbo|sovralimentazione)", "boost solenoid"],
  ["(?:elettro)?valvola", "valve"],
  ["temperatura", "temperature"],
  ["pressione", "pressure"],
  ["pompa", "pump"],
  ["batteria", "battery"],
  ["tramite|dal", "via"],
  ["rel[e\xE8\xE9]", "relay"],
  ["sensore", "sensor"],
  ["connettore", "connector"]
];
var bus = [
  ["(?<=\\bcan\\b[\\s\\d_-]{0,5})(?:alto|alta|haut|hoch)", "H"],
  ["(?<=\\bcan\\b[\\s\\d_-]{0,5})(?:bajo|baja|basso|bassa|bas|tief|niedrig)", "L"]
];
var fillers = "d['\u2019]|de|du|des|della|dello|del|di|la|le|les|il|el|los|las|f\xFCr|fuer|von|der|die|das|pour|para|per";
var letters = "A-Za-z\\u00aa\\u00b5\\u00ba\\u00c0-\\u00d6\\u00d8-\\u00f6\\u00f8-\\u1fff\\u2c00-\\ud7ff";
var whole = (pattern, flags) => new RegExp(`(?<![${letters}])(?:${pattern})(?![${letters}])`, flags);
var entries = [...german2, ...french, ...spanish, ...italian, ...bus].sort(([one2], [other]) => other.length - one2.length).map(([pattern, english2]) => ({
  /** For text in small letters: twice as quick to make ready as one that looks away from the case. */
  sign: whole(pattern, ""),
  pattern: whole(pattern, "gi"),
  english: english2
}));
var filler = whole(fillers, "gi");
function inEnglish(text3) {
  let next = text3.normalize("NFC");
  let small = next.toLowerCase();
  let changed2 = false;
  for (const { sign, pattern, english: english2 } of entries) {
    if (!sign.test(small)) continue;
    const after = next.replace(pattern, () => ` ${english2} `);
    changed2 ||= after.trim().toLowerCase() !== next.trim().toLowerCase();
    next = after;
    small = next.toLowerCase();
  }
  return changed2 ? next.replace(filler, " ").replace(/\s+/g, " ").trim() : text3;
}

// core/allot/words.ts
var topics = [
  ["fuel pump", /\b(fuel|petrol|lift|gas) ?pumps?\b|\bfp\b/g],
  ["fuel pressure", /\bfuel (rail )?press(ure)?\b/g],
  ["fuel level", /\bfuel (level|gauge|sender)\b/g],
  ["fuel temperature", /\bfuel temp(erature)?\b/g],
  ["fuel composition", /\bflex([ -]?fuel)?\b|\bethanol\b|\bfuel composition\b/g],
  ["oil pressure", /\boil press(ure)?\b/g],
  ["oil temperature", /\b(oil|gearbox( oil)?) temp(erature)?\b/g],
  ["exhaust temperature", /\begt\b|\bexhaust (gas )?temp(erature)?\b|\bthermocouple\b/g],
  ["coolant temperature", /\b(coolant|water|engine) temp(erature)?\b|\bclt\b|\bect\b|\bcoolant\b/g],
  ["air temperature", /\b(intake |inlet |manifold |charge )?air temp(erature)?\b|\biat\b|\bmat\b|\bact\b/g],
  ["water pump", /\b(water|coolant) pump\b/g],
  ["fan", /\bfans?\b/g],
  ["tachometer", /\btach(o(meter)?)?\b|\brev counter\b|\brpm out(put)?\b/g],
  ["idle", /\bidle\b|\biac\b|\bisc\b|\biscv\b/g],
  ["boost", /\bboost\b|\bwastegate\b/g],
  ["cam phaser", /\bvvt\b|\bphaser\b|\bcam (control|solenoid|phaser)\b/g],
  ["engine lamp", /\bcheck engine\b|\bmil\b|\bcel\b|\b(engine|warning) (lamp|light)\b/g],
  ["shift light", /\bshift (light|lamp)\b/g],
  ["air conditioning", /\ba\/?c\b|\bair con(ditioning)?\b|\bcompressor\b/g],
  ["main relay", /\b(main|ecu|efi) relay\b/g],
  ["start button", /\bstart (button|signal|request|switch)\b/g],
  ["starter", /\bstarter\b|\bstart relay\b|\bcrank(ing)? relay\b/g],
  ["alternator", /\balternator\b|\bcharge (control|lamp)\b/g],
  ["purge", /\bpurge\b|\bcanister\b|\bevap\b/g],
  ["nitrous", /\bnitrous\b/g],
  ["pedal", /\b(accelerator )?pedal\b|\bapps?\b|\bpps\b/g],
  ["throttle", /\btps\b|\bthrottle\b/g],
  ["manifold pressure", /\bmap\b|\bmanifold\b/g],
  ["barometer", /\bbaro(meter|metric)?\b/g],
  ["air mass", /\bmaf\b|\bair ?(mass|flow)\b/g],
  ["turbine speed", /\bturbo(charger)? speed\b/g],
  ["vehicle speed", /\b(vehicle|road|wheel) speed\b|\bvss\b|\bspeed\b/g],
  ["clutch", /\bclutch\b/g],
  ["brake", /\bbrake\b/g],
  ["neutral", /\bneutral\b/g],
  ["launch", /\blaunch\b/g],
  ["reverse", /\breverse (switch|light)\b/g],
  ["crank", /\bcrank(shaft)?\b|\bckp\b/g],
  ["cam", /\bcam(shaft)?\b|\bcmp\b|\bsync\b|\bhome\b/g],
  ["knock", /\bknock\b/g],
  ["lambda", /\blambda\b|\bo2\b|\boxygen\b|\bwideband\b|\bnarrow-?band\b|\bafr\b/g],
  ["steering", /\b(power )?steering\b/g]
];
function topicsIn(text3) {
  let rest = inEnglish(text3).toLowerCase();
  const found2 = [];
  for (const [name3, pattern] of topics) {
    const next = rest.replace(pattern, " ; ");
    if (next === rest) continue;
    found2.push(name3);
    rest = next;
  }
  return found2;
}
var remembered = remember(topicsIn);
function needWords(build) {
  const nameOf5 = new Map(build.devices.map((device) => [device.id, build.kinds[device.kindId]?.name ?? ""]));
  return (need) => `${need.label}, ${need.deviceId === null ? "" : nameOf5.get(need.deviceId) ?? ""}`;
}
function wordsOf(build, pins) {
  const wordsFor = needWords(build);
  const named3 = pins.map((pin2) => remembered(pin2.label));
  return (need) => {
    const own2 = remembered(wordsFor(need));
    return (pin2) => named3[pin2].length === 0 ? 1 : named3[pin2].some((topic) => own2.includes(topic)) ? 0 : 2;
  };
}

// core/allot/model.ts
var WEIGHT = { unserved: 2 ** 41, crimped: 2 ** 31, output: 2 ** 21, move: 2 ** 11, word: 1 };
var MINOR = { versatile: 2 ** 38, away: 2 ** 28 };
var MOST_VERSATILE = 15;
var pulses = ({ kind: kind3, hz }) => (kind3 === "low-side" || kind3 === "high-side" || kind3 === "half-bridge") && (hz ?? 0) > 0;
function versatility(pin2, ability, ask) {
  let steps3 = (pin2.abilities.length - 1) * 2 + pin2.abilities.indexOf(ability) * 2;
  if (ask.kind === "analog" && ask.pullUp !== true && ability.pullUpOhms !== void 0) steps3 += 2;
  if ((ability.maxHz ?? 0) > (ask.hz ?? 0) && ask.kind === "low-side") steps3 += 1;
  if (ask.kind === "low-side" && (ability.maxAmps ?? 0) > 2.5 * Math.max(0.2, ask.amps ?? 0)) steps3 += 1;
  return Math.min(MOST_VERSATILE, steps3);
}
var shapeKeys = /* @__PURE__ */ new WeakMap();
function shapeKey(pin2) {
  let key = shapeKeys.get(pin2);
  if (key === void 0) shapeKeys.set(pin2, key = JSON.stringify(pin2.abilities));
  return key;
}
function offers(pins) {
  const shapes2 = /* @__PURE__ */ new Map();
  const examples = [];
  const shapeOf = pins.map((pin2) => {
    const key = shapeKey(pin2);
    const known9 = shapes2.get(key);
    if (known9 !== void 0) return known9;
    shapes2.set(key, examples.length);
    examples.push(pin2);
    return examples.length - 1;
  });
  const found2 = /* @__PURE__ */ new Map();
  return (ask, pair) => {
    const key = `${JSON.stringify(ask)}${pair ?? ""}`;
    const before = found2.get(key);
    if (before) return before;
    const served = examples.map((pin2) => {
      const { ability } = serve(pin2, ask, pair);
      return ability && { ability, versatile: versatility(pin2, ability, ask) };
    });
    const list = pins.flatMap((_, pin2) => {
      const one2 = served[shapeOf[pin2]];
      return one2 ? [{ pin: pin2, ...one2 }] : [];
    });
    found2.set(key, list);
    return list;
  };
}
function homes(pins, fixed2, needs, offered) {
  const byDevice = /* @__PURE__ */ new Map();
  for (const need of needs)
    if (need.deviceId) byDevice.set(need.deviceId, [...byDevice.get(need.deviceId) ?? [], need]);
  const connectors = [...new Set(pins.map((pin2) => pin2.connector))];
  const able = /* @__PURE__ */ new Map();
  const connectorsFor = (ask) => {
    const key = JSON.stringify(ask);
    const known9 = able.get(key);
    if (known9) return known9;
    const set = new Set(offered(ask).map(({ pin: pin2 }) => pins[pin2].connector));
    able.set(key, set);
    return set;
  };
  const home = /* @__PURE__ */ new Map();
  for (const [deviceId, own2] of byDevice) {
    if (own2.length < 2 || connectors.length === 0) continue;
    const votes = new Map(connectors.map((id3) => [id3, 0]));
    for (const need of own2) {
      const pin2 = fixed2.get(need.id);
      if (pin2) votes.set(pin2.connector, (votes.get(pin2.connector) ?? 0) + 4);
      else for (const id3 of connectorsFor(need.ask)) votes.set(id3, (votes.get(id3) ?? 0) + 1);
    }
    const [best] = [...votes].reduce((most2, one2) => one2[1] > most2[1] ? one2 : most2);
    home.set(deviceId, best);
  }
  return home;
}
var outputMiss = (need, ability) => need.outputs !== null && ability.output !== void 0 && !need.outputs.includes(ability.output);
function settled(build, needs, pinById, keep) {
  const locked = new Set(build.locked);
  const fixed2 = /* @__PURE__ */ new Map();
  const taken = /* @__PURE__ */ new Set();
  const barred = barredPins(build);
  const take = (need, pin2) => {
    fixed2.set(need.id, pin2);
    taken.add(pin2.id);
  };
  for (const need of needs) {
    const pin2 = pinById.get(build.assignments[need.id] ?? "");
    if (pin2 && locked.has(need.id) && !taken.has(pin2.id)) take(need, pin2);
  }
  if (keep !== "placed") return fixed2;
  const paired = groupBy(
    needs.filter((need) => need.pair !== null),
    (need) => need.pair
  );
  const stays = new Set(
    [...paired].flatMap(([pair, own2]) => {
      const pins = own2.map((need) => pinById.get(build.assignments[need.id] ?? ""));
      if (pins.some((pin2) => !pin2) || new Set(pins).size < pins.length) return [];
      if (own2.some((need, i) => barred(null, pins[i].id) || barred(need.id, pins[i].id))) return [];
      return common2(own2.map((need, i) => pairsAt(pins[i], need.ask))).size > 0 ? [pair] : [];
    })
  );
  for (const need of needs) {
    const pin2 = pinById.get(build.assignments[need.id] ?? "");
    if (!pin2 || fixed2.has(need.id) || taken.has(pin2.id) || serve(pin2, need.ask).miss) continue;
    if (need.pair !== null && !stays.has(need.pair)) continue;
    if (barred(null, pin2.id) || barred(need.id, pin2.id)) continue;
    take(need, pin2);
  }
  return fixed2;
}
function barredPins(build) {
  if (build.never.length === 0) return () => false;
  const set = new Set(build.never.map(({ needId, pinId }) => `${needId ?? ""} ${pinId}`));
  return (needId, pinId) => set.has(`${needId ?? ""} ${pinId}`);
}
function limitsOf(groups, index, fixed2, needs) {
  const usedBy = new Map([...fixed2].map(([needId, pin2]) => [pin2.id, needs.get(needId)]));
  const left = (ids) => new Set(ids.flatMap((id3) => index.get(id3) ?? []));
  return groups.flatMap((group) => {
    if (group.type === "timer") {
      const running = group.pins.map((id3) => usedBy.get(id3)).find((need) => need && pulses(need.ask));
      return [{ type: "timer", name: group.name, pins: left(group.pins), hz: running?.ask.hz ?? null }];
    }
    if (group.type === "budget") {
      const spent = group.pins.reduce((sum, id3) => sum + (usedBy.get(id3)?.ask.amps ?? 0), 0);
      return [{ type: "budget", name: group.name, pins: left(group.pins), amps: Math.max(0, group.amps - spent) }];
    }
    const held2 = group.sides.findIndex((side) => side.some((id3) => usedBy.has(id3)));
    const sides = group.sides.map(left).filter((_, i) => i !== held2);
    return [{ type: "either", name: group.name, sides, shut: held2 >= 0 }];
  });
}
function modelOf(build, options, all = needsOf(build)) {
  const needs = options.only ? all.filter((need) => options.only.has(need.id)) : all;
  const everyPin = build.ecu.pins.filter((pin2) => !isFixedPin(pin2));
  const pinById = new Map(everyPin.map((pin2) => [pin2.id, pin2]));
  const fixed2 = options.locksAsRows ? /* @__PURE__ */ new Map() : settled(build, needs, pinById, options.keep);
  const never = options.ignoreNever ? () => false : barredPins(build);
  const taken = new Set([...fixed2.values()].map((pin2) => pin2.id));
  const locked = new Set(options.locksAsRows ? build.locked : []);
  const pins = everyPin.filter(
    (pin2) => !taken.has(pin2.id) && (!never(null, pin2.id) || locked.size > 0 && build.locked.some((id3) => build.assignments[id3] === pin2.id))
  );
  const index = new Map(pins.map((pin2, i) => [pin2.id, i]));
  const offered = offers(pins);
  const grouped = /* @__PURE__ */ new Map();
  const rows = [];
  for (const need of needs) {
    if (fixed2.has(need.id)) continue;
    const group = need.pair === null ? void 0 : grouped.get(need.pair);
    if (group) group.push(need);
    else {
      const own2 = [need];
      rows.push({ needs: own2 });
      if (need.pair !== null) grouped.set(need.pair, own2);
    }
  }
  for (const row of rows)
    if (row.needs.length > 1 && row.needs[0].ask.kind === "vr")
      row.needs.sort((one2, other) => Number(one2.ask.side === "minus") - Number(other.ask.side === "minus"));
  const home = new Map([...homes(pins, fixed2, needs, offered), ...options.homes ?? []]);
  const words3 = wordsOf(build, pins);
  let whole2 = true;
  const start = new Int32Array(rows.length + 1);
  const columns = [];
  const costs = [];
  const minors = [];
  const members = /* @__PURE__ */ new Map();
  const pricing = (need, rank) => {
    const present = build.assignments[need.id];
    const leaving2 = present === void 0 ? 0 : (isCrimped(build, need, present) ? WEIGHT.crimped : 0) + (options.keep === "locked" ? 0 : WEIGHT.move);
    const wanted = need.deviceId === null ? void 0 : home.get(need.deviceId);
    const wordsAt = words3(need);
    return (pin2, ability, versatile) => {
      const { id: id3, connector } = pins[pin2];
      const cost = (outputMiss(need, ability) ? WEIGHT.output : 0) + wordsAt(pin2) * WEIGHT.word + (present === id3 ? 0 : leaving2);
      const away = wanted !== void 0 && wanted !== connector ? MINOR.away : 0;
      return [cost, versatile * MINOR.versatile + away + (pin2 + 1) * (rows.length - rank)];
    };
  };
  const add2 = (row, at, cost, minor) => {
    if (at.length > 1) members.set(columns.length, Int32Array.from(at));
    columns.push(at[0]);
    costs.push(cost);
    minors.push(minor);
    start[row + 1] += 1;
  };
  const open = (need) => build.never.length === 0 ? offered(need.ask) : offered(need.ask).filter(({ pin: pin2 }) => !never(null, pins[pin2].id) && !never(need.id, pins[pin2].id));
  const lockedPin = (need) => index.get(build.assignments[need.id] ?? "");
  const fixedOf = /* @__PURE__ */ new Map();
  for (const need of needs) {
    const pin2 = fixed2.get(need.id);
    if (pin2 && need.pair !== null) fixedOf.set(need.pair, [...fixedOf.get(need.pair) ?? [], pairsAt(pin2, need.ask)]);
  }
  rows.forEach((row, rank) => {
    const held2 = row.needs.filter((need) => locked.has(need.id));
    if (held2.length === row.needs.length) {
      const at = row.needs.map(lockedPin);
      if (at.every((pin2) => pin2 !== void 0) && new Set(at).size === at.length) add2(rank, at, 0, 0);
      return;
    }
    if (row.needs[0].pair === null) {
      const need = row.needs[0];
      const price = pricing(need, rank);
      for (const { pin: pin2, ability, versatile } of open(need)) {
        const [cost, minor] = price(pin2, ability, versatile);
        add2(rank, [pin2], cost, minor);
      }
      return;
    }
    const offersOn = (need, pair) => {
      if (!locked.has(need.id))
        return offered(need.ask, pair).filter(
          ({ pin: pin3 }) => !never(null, pins[pin3].id) && !never(need.id, pins[pin3].id)
        );
      const pin2 = lockedPin(need);
      const ability = pin2 === void 0 ? null : serve(pins[pin2], need.ask, pair).ability;
      return pin2 === void 0 || !ability ? [] : [{ pin: pin2, ability, versatile: 0 }];
    };
    const names = new Set(
      row.needs.flatMap((need) => offered(need.ask).flatMap(({ pin: pin2 }) => [...pairsAt(pins[pin2], need.ask)]))
    );
    const settledOn = fixedOf.get(row.needs[0].pair);
    const found2 = pairWays(row.needs, offersOn, names, settledOn ? common2(settledOn) : null);
    whole2 &&= found2.whole;
    const prices = row.needs.map((need) => pricing(need, rank));
    for (const way of found2.ways) {
      let [cost, minor] = [0, 0];
      row.needs.forEach((need, i) => {
        if (locked.has(need.id)) return;
        const pin2 = way.pins[i];
        const [one2, two] = prices[i](pin2, serve(pins[pin2], need.ask, way.pair).ability, 0);
        cost += one2;
        minor += two;
      });
      add2(rank, way.pins, cost, minor + Math.min(MOST_VERSATILE, way.versatile) * MINOR.versatile);
    }
    const [signal, ...others] = row.needs;
    if (signal.ask.kind !== "vr" || settledOn || others.some((need) => locked.has(need.id))) return;
    for (const { pin: pin2, ability } of open(signal)) {
      if (ability.pair !== void 0 || locked.has(signal.id) && lockedPin(signal) !== pin2) continue;
      const [cost, minor] = prices[0](pin2, ability, MOST_VERSATILE);
      add2(rank, [pin2], cost + others.length * 2 * WEIGHT.word, minor);
    }
  });
  for (let row = 0; row < rows.length; row += 1) start[row + 1] += start[row];
  const byId = new Map(needs.map((need) => [need.id, need]));
  return {
    pins,
    rows,
    start,
    column: Int32Array.from(columns),
    cost: Float64Array.from(costs),
    minor: Float64Array.from(minors),
    members,
    limits: limitsOf(
      build.ecu.groups.filter((group) => !options.without?.has(group.name)),
      index,
      fixed2,
      byId
    ),
    fixed: fixed2,
    whole: whole2
  };
}

// core/allot/spares.ts
function sparesOf(build, needs = needsOf(build)) {
  const valid = new Set(needs.map((need) => need.id));
  const taken = new Set(
    Object.entries(build.assignments).flatMap(([needId, pinId]) => valid.has(needId) ? [pinId] : [])
  );
  const never = barredPins(build);
  const kinds2 = /* @__PURE__ */ new Map();
  for (const pin2 of build.ecu.pins) {
    if (isFixedPin(pin2) || taken.has(pin2.id) || never(null, pin2.id)) continue;
    const { kind: kind3 } = pin2.abilities[0];
    kinds2.set(kind3, [...kinds2.get(kind3) ?? [], pin2.id]);
  }
  return [...kinds2].map(([kind3, pins]) => ({ kind: kind3, pins, count: unitsOf(build.ecu, kind3, pins) }));
}
function unitsOf(ecu, kind3, pins) {
  const free = new Set(pins);
  if (!pairedKinds.has(kind3)) return free.size;
  const members = /* @__PURE__ */ new Map();
  for (const pin2 of ecu.pins)
    for (const ability of pin2.abilities)
      if (ability.kind === kind3 && ability.pair !== void 0)
        members.set(ability.pair, [...members.get(ability.pair) ?? [], pin2.id]);
  return [...members.values()].filter((ids) => ids.every((id3) => free.has(id3))).length;
}
var spareCount = (spares) => spares.reduce((sum, { pins }) => sum + pins.length, 0);
function shortfalls(build, needs = needsOf(build)) {
  const free = new Set(sparesOf(build, needs).flatMap(({ pins }) => pins));
  return Object.entries(build.reserve).flatMap(([key, asked]) => {
    const kind3 = key;
    const left = kind3 === "any" ? free.size : unitsOf(
      build.ecu,
      kind3,
      build.ecu.pins.filter((pin2) => free.has(pin2.id) && pin2.abilities.some((ability) => ability.kind === kind3)).map((pin2) => pin2.id)
    );
    return left < asked ? [{ kind: kind3, asked, left }] : [];
  });
}
var shortfallWords = (list) => listWords(
  list.map(
    ({ kind: kind3, asked, left }) => kind3 === "any" ? `${plural(asked, "spare")} asked, ${left} left` : `${plural(asked, kindWord(kind3))} asked, ${left} left`
  )
);

// core/allot/assignment.ts
function assign(problem, barred = null) {
  const { rows, columns, start, column, cost, minor, leave, leaveMinor } = problem;
  const rowPrice = new Float64Array(rows);
  const rowMinor = new Float64Array(rows);
  const columnPrice = new Float64Array(columns);
  const columnMinor = new Float64Array(columns);
  const rowOf = new Int32Array(columns).fill(-1);
  const edgeOf = new Int32Array(rows).fill(-1);
  const far2 = new Float64Array(columns);
  const farMinor = new Float64Array(columns);
  const from = new Int32Array(columns);
  const by = new Int32Array(columns);
  const state = new Uint8Array(columns);
  const touched = new Int32Array(columns);
  for (let root = 0; root < rows; root += 1) {
    let count2 = 0;
    let row = root;
    let at = 0;
    let atMinor = 0;
    let endRow = -1;
    let endColumn = -1;
    let end2 = Infinity;
    let endMinor = Infinity;
    let bound = Infinity;
    let boundMinor = Infinity;
    for (; ; ) {
      const stay = at + leave[row] - rowPrice[row];
      const stayMinor = atMinor + leaveMinor[row] - rowMinor[row];
      if (stay < end2 || stay === end2 && stayMinor < endMinor) {
        end2 = stay;
        endMinor = stayMinor;
        endRow = row;
        if (end2 < bound || end2 === bound && endMinor < boundMinor) {
          bound = end2;
          boundMinor = endMinor;
        }
      }
      for (let edge = start[row]; edge < start[row + 1]; edge += 1) {
        if (barred !== null && barred[edge] === 1) continue;
        const j = column[edge];
        if (state[j] === 2) continue;
        const reach = at + cost[edge] - rowPrice[row] - columnPrice[j];
        if (reach > bound) continue;
        const reachMinor = atMinor + minor[edge] - rowMinor[row] - columnMinor[j];
        if (reach === bound && reachMinor > boundMinor) continue;
        if (rowOf[j] < 0) {
          bound = reach;
          boundMinor = reachMinor;
        }
        if (state[j] === 0) {
          state[j] = 1;
          touched[count2] = j;
          count2 += 1;
        } else if (!(reach < far2[j] || reach === far2[j] && reachMinor < farMinor[j])) continue;
        far2[j] = reach;
        farMinor[j] = reachMinor;
        from[j] = row;
        by[j] = edge;
      }
      let next = -1;
      for (let k = 0; k < count2; k += 1) {
        const j = touched[k];
        if (state[j] === 2) continue;
        if (next < 0 || far2[j] < far2[next] || far2[j] === far2[next] && farMinor[j] < farMinor[next]) next = j;
      }
      if (next < 0 || end2 < far2[next] || end2 === far2[next] && endMinor < farMinor[next]) break;
      if (rowOf[next] < 0) {
        end2 = far2[next];
        endMinor = farMinor[next];
        endColumn = next;
        break;
      }
      state[next] = 2;
      row = rowOf[next];
      at = far2[next];
      atMinor = farMinor[next];
    }
    for (let k = 0; k < count2; k += 1) {
      const j = touched[k];
      if (state[j] === 2) {
        const owner = rowOf[j];
        rowPrice[owner] += end2 - far2[j];
        rowMinor[owner] += endMinor - farMinor[j];
        columnPrice[j] += far2[j] - end2;
        columnMinor[j] += farMinor[j] - endMinor;
      }
      state[j] = 0;
    }
    rowPrice[root] += end2;
    rowMinor[root] += endMinor;
    if (endColumn < 0) {
      endColumn = edgeOf[endRow] < 0 ? -1 : column[edgeOf[endRow]];
      edgeOf[endRow] = -1;
    }
    while (endColumn >= 0) {
      const taker = from[endColumn];
      const left = edgeOf[taker] < 0 ? -1 : column[edgeOf[taker]];
      edgeOf[taker] = by[endColumn];
      rowOf[endColumn] = taker;
      endColumn = taker === root ? -1 : left;
    }
  }
  let total = 0;
  let totalMinor = 0;
  for (let row = 0; row < rows; row += 1) {
    if (edgeOf[row] < 0) {
      total += leave[row];
      totalMinor += leaveMinor[row];
    } else {
      total += cost[edgeOf[row]];
      totalMinor += minor[edgeOf[row]];
    }
  }
  return { edgeOf, cost: total, minor: totalMinor };
}

// core/allot/solve.ts
var NODE_LIMIT = 2e4;
var pinsOfEdge = (model, edge) => model.members.get(edge) ?? [model.column[edge]];
var ties = (model) => model.limits.filter(
  (limit) => limit.type === "either" ? limit.sides.some((side) => side.size > 0) : limit.pins.size > 0
);
function parts(model, limits) {
  const parent = Int32Array.from({ length: model.pins.length }, (_, i) => i);
  const find = (pin2) => {
    let root = pin2;
    while (parent[root] !== root) root = parent[root];
    while (parent[pin2] !== root) [parent[pin2], pin2] = [root, parent[pin2]];
    return root;
  };
  const join = (pins) => {
    let first2 = -1;
    for (const pin2 of pins) {
      if (first2 < 0) first2 = find(pin2);
      else parent[find(pin2)] = first2;
    }
  };
  const firstPin = model.rows.map((row, at) => {
    const [from, to] = [model.start[at], model.start[at + 1]];
    if (from === to) return -1;
    const first2 = model.column[from];
    const wide = row.needs.length > 1;
    let root = find(first2);
    for (let edge = from; edge < to; edge += 1) {
      if (parent[model.column[edge]] !== root) parent[find(model.column[edge])] = root = find(root);
      if (wide) for (const pin2 of pinsOfEdge(model, edge)) parent[find(pin2)] = root = find(root);
    }
    return first2;
  });
  for (const limit of limits) join(limit.type === "either" ? limit.sides.flatMap((side) => [...side]) : limit.pins);
  const byRoot = /* @__PURE__ */ new Map();
  firstPin.forEach((pin2, row) => {
    if (pin2 < 0) return;
    const root = find(pin2);
    const list = byRoot.get(root);
    if (list) list.push(row);
    else byRoot.set(root, [row]);
  });
  return [...byRoot.values()];
}
var leaving = (model, row) => ({
  cost: model.rows[row].needs.length * WEIGHT.unserved,
  minor: (model.rows.length - row) * MINOR.away
});
function partOf2(model, rows, limits) {
  const start = new Int32Array(rows.length + 1);
  rows.forEach((row, i) => start[i + 1] = start[i] + model.start[row + 1] - model.start[row]);
  const edges = new Int32Array(start[rows.length]);
  const rowOfEdge = new Int32Array(edges.length);
  const local = new Int32Array(model.pins.length).fill(-1);
  let columns = 0;
  const column = new Int32Array(edges.length);
  const seen = new Uint8Array(model.pins.length);
  rows.forEach((row, i) => {
    const wide = model.rows[row].needs.length > 1;
    for (let k = 0; k < start[i + 1] - start[i]; k += 1) {
      const edge = model.start[row] + k;
      const at = start[i] + k;
      edges[at] = edge;
      rowOfEdge[at] = i;
      const pin2 = model.column[edge];
      if (local[pin2] < 0) {
        local[pin2] = columns;
        columns += 1;
      }
      column[at] = local[pin2];
      seen[pin2] = 1;
      if (wide) for (const one2 of pinsOfEdge(model, edge)) seen[one2] = 1;
    }
  });
  const touches2 = (limit) => (limit.type === "either" ? limit.sides : [limit.pins]).some((pins) => [...pins].some((pin2) => seen[pin2] === 1));
  return {
    model,
    rows,
    edges,
    rowOfEdge,
    limits: limits.filter(touches2),
    problem: {
      rows: rows.length,
      columns,
      start,
      column,
      cost: Float64Array.from(edges, (edge) => model.cost[edge]),
      minor: Float64Array.from(edges, (edge) => model.minor[edge]),
      leave: Float64Array.from(rows, (row) => leaving(model, row).cost),
      leaveMinor: Float64Array.from(rows, (row) => leaving(model, row).minor)
    }
  };
}
function onPins(part2, at, pins) {
  const edge = part2.edges[at];
  const { needs } = part2.model.rows[part2.rows[part2.rowOfEdge[at]]];
  let [amps2, hit] = [0, false];
  const speeds = [];
  const list = pinsOfEdge(part2.model, edge);
  for (let i = 0; i < list.length; i += 1) {
    if (!pins.has(list[i])) continue;
    hit = true;
    const { ask } = needs[i];
    amps2 += ask.amps ?? 0;
    if (pulses(ask)) speeds.push(ask.hz);
  }
  return hit ? { amps: amps2, speeds } : null;
}
function split(part2, answer) {
  const taken = [...answer.edgeOf].filter((at) => at >= 0);
  const overlap = overlapping(part2, taken);
  if (overlap) return overlap;
  for (const limit of part2.limits) {
    if (limit.type === "timer") {
      const speeds = new Set(limit.hz === null ? [] : [limit.hz]);
      for (const at of taken) for (const hz of onPins(part2, at, limit.pins)?.speeds ?? []) speeds.add(hz);
      if (speeds.size < 2) continue;
      const possible = new Set(limit.hz === null ? [] : [limit.hz]);
      if (limit.hz === null)
        for (let at = 0; at < part2.edges.length; at += 1)
          for (const hz of onPins(part2, at, limit.pins)?.speeds ?? []) possible.add(hz);
      return [...possible].map(
        (hz) => (at) => onPins(part2, at, limit.pins)?.speeds.some((other) => other !== hz) ?? false
      );
    }
    if (limit.type === "budget") {
      const uses = taken.flatMap((at) => {
        const use = onPins(part2, at, limit.pins);
        return use && use.amps > 0 ? [{ at, amps: use.amps }] : [];
      }).sort((one2, other) => other.amps - one2.amps || one2.at - other.at);
      const cover = [];
      let sum = 0;
      for (const use of uses) {
        if (sum > limit.amps + 1e-9) break;
        cover.push(use);
        sum += use.amps;
      }
      if (sum <= limit.amps + 1e-9) continue;
      return cover.map((own2, i) => {
        const before = new Map(cover.slice(0, i).map(({ at, amps: amps2 }) => [part2.rowOfEdge[at], amps2]));
        return (at) => {
          const weight2 = onPins(part2, at, limit.pins)?.amps ?? 0;
          if (part2.rowOfEdge[at] === part2.rowOfEdge[own2.at]) return weight2 >= own2.amps;
          const asMuch = before.get(part2.rowOfEdge[at]);
          return asMuch !== void 0 && weight2 < asMuch;
        };
      });
    }
    if (limit.type === "either") {
      const used = limit.sides.filter((side) => taken.some((at) => onPins(part2, at, side)));
      if (used.length < (limit.shut ? 1 : 2)) continue;
      const open = limit.shut ? [null] : [...limit.sides];
      return open.map(
        (side) => (at) => limit.sides.some((other) => other !== side && onPins(part2, at, other) !== null)
      );
    }
  }
  return null;
}
function overlapping(part2, taken) {
  const holder = /* @__PURE__ */ new Map();
  for (const at of taken)
    for (const pin2 of pinsOfEdge(part2.model, part2.edges[at])) {
      const other = holder.get(pin2);
      if (other === void 0) {
        holder.set(pin2, at);
        continue;
      }
      const wide = part2.model.members.has(part2.edges[at]) ? at : other;
      const pins = new Set(pinsOfEdge(part2.model, part2.edges[wide]));
      return [
        (one2) => part2.rowOfEdge[one2] === part2.rowOfEdge[wide] ? one2 !== wide : [...pinsOfEdge(part2.model, part2.edges[one2])].some((own2) => pins.has(own2)),
        (one2) => one2 === wide
      ];
    }
  return null;
}
var less = (one2, other) => one2.cost < other.cost || one2.cost === other.cost && one2.minor < other.minor;
var unserved = (part2) => ({
  edgeOf: new Int32Array(part2.rows.length).fill(-1),
  cost: part2.problem.leave.reduce((sum, one2) => sum + one2, 0),
  minor: part2.problem.leaveMinor.reduce((sum, one2) => sum + one2, 0)
});
function solvePart(part2, nodeLimit) {
  let best = null;
  let nodes = 0;
  let proven = true;
  const walk = (answer, barred) => {
    if (best && !less(answer, best)) return;
    const children = split(part2, answer);
    if (!children) {
      best = answer;
      return;
    }
    if (nodes >= nodeLimit) {
      proven = false;
      if (best) return;
    }
    const solved = children.map((bar) => {
      const next = barred ? Uint8Array.from(barred) : new Uint8Array(part2.edges.length);
      for (let at = 0; at < next.length; at += 1) if (next[at] === 0 && bar(at)) next[at] = 1;
      nodes += 1;
      return { next, answer: assign(part2.problem, next) };
    });
    solved.sort((one2, other) => one2.answer.cost - other.answer.cost || one2.answer.minor - other.answer.minor);
    for (const one2 of solved) walk(one2.answer, one2.next);
  };
  const root = assign(part2.problem);
  walk(root, null);
  return { best: best ?? unserved(part2), proven, nodes };
}
function solve(model, options = {}) {
  const limits = ties(model);
  const edgeOf = new Int32Array(model.rows.length).fill(-1);
  let [cost, minor, nodes, done] = [0, 0, 0, 0];
  let proven = model.whole;
  const list = parts(model, limits);
  const reached = new Set(list.flat());
  model.rows.forEach((_, i) => {
    if (reached.has(i)) return;
    cost += leaving(model, i).cost;
    minor += leaving(model, i).minor;
  });
  for (const rows of list) {
    if (options.onProgress?.(done, model.rows.length)) return null;
    const part2 = partOf2(model, rows, limits);
    const solved = solvePart(part2, options.nodeLimit ?? NODE_LIMIT);
    solved.best.edgeOf.forEach((at, i) => edgeOf[rows[i]] = at < 0 ? -1 : part2.edges[at]);
    cost += solved.best.cost;
    minor += solved.best.minor;
    nodes += solved.nodes;
    proven &&= solved.proven;
    done += rows.length;
  }
  options.onProgress?.(done, model.rows.length);
  return { edgeOf, cost, minor, proven, nodes };
}
function placements(model, solved) {
  const placed3 = new Map([...model.fixed].map(([needId, pin2]) => [needId, pin2.id]));
  model.rows.forEach((row, i) => {
    const edge = solved.edgeOf[i];
    if (edge < 0) return;
    const pins = pinsOfEdge(model, edge);
    pins.forEach((pin2, k) => placed3.set(row.needs[k].id, model.pins[pin2].id));
  });
  return placed3;
}

// core/allot/conflict.ts
function feasible(build, all, ids, options = {}) {
  const model = modelOf(build, { keep: "locked", only: ids, locksAsRows: true, ...options }, all);
  if (model.rows.some((_, row) => model.start[row] === model.start[row + 1])) return false;
  const solved = solve(model);
  return solved.edgeOf.every((edge) => edge >= 0);
}
var sameAsk = (one2, other) => JSON.stringify(one2.ask) === JSON.stringify(other.ask);
function manyWords(ask) {
  const words3 = askWords(ask);
  const at = words3.search(/ (of|with|without) /);
  const [head, tail] = at < 0 ? [words3, ""] : [words3.slice(0, at), words3.slice(at)];
  return `${head}${head.endsWith("s") ? "" : "s"}${tail}`;
}
var unitWord = (kind3) => kind3 === "stepper" || kind3 === "wideband" ? "set" : "pair";
function sentenceOf(build, members, pins, groups, locked, never) {
  const parts3 = [];
  const byAsk = /* @__PURE__ */ new Map();
  for (const need of members) {
    const key = askWords(need.ask);
    byAsk.set(key, [...byAsk.get(key) ?? [], need]);
  }
  if (members.length === 1 || pins.length === 0 && new Set(members.map(({ pair }) => pair)).size === 1) {
    const need = members[0];
    if (pins.length === 0) {
      const near = build.ecu.pins.map((pin2) => ({ pin: pin2, served: serve(pin2, need.ask) })).find(({ served }) => served.miss && served.miss.code !== "kind");
      const hint = near?.served.miss ? `: ${near.pin.id} ${missSentence(near.served.miss, need.ask)}` : "";
      return need.pair === null ? `No pin is ${withArticle(askWords(need.ask))}${hint}.` : `This ECU has no ${askWords(need.ask)}${hint}.`;
    }
    parts3.push(`${need.label} could only go to ${listWords(pins)}.`);
  } else if (byAsk.size === 1) {
    const paired = members.every(({ pair }) => pair !== null);
    const asking = paired ? new Set(members.map(({ pair }) => pair)).size : members.length;
    const able = paired ? plural(unitsOf(build.ecu, members[0].ask.kind, pins), unitWord(members[0].ask.kind)) : plural(pins.length, "pin");
    parts3.push(
      `${plural(asking, paired ? "device" : "need")} ask for ${manyWords(members[0].ask)}; only ${able} can: ${listWords(pins)}.`
    );
  } else
    parts3.push(
      `${plural(members.length, "need")} compete for ${plural(pins.length, "pin")} (${listWords(pins)}): ${listWords(
        [...byAsk.values()].map(
          (own2) => `${own2.length} for ${own2.length === 1 ? askWords(own2[0].ask) : manyWords(own2[0].ask)}`
        )
      )}.`
    );
  for (const group of groups) {
    if (group.type === "timer") {
      const speeds = members.filter((need) => pulses(need.ask)).map((need) => `${need.label} ${need.ask.hz} Hz`);
      parts3.push(`${group.name} (${listWords(group.pins)}) runs at one frequency: ${listWords(speeds)}.`);
    } else if (group.type === "budget")
      parts3.push(
        `${group.name} (${listWords(group.pins)}) carries ${group.amps} A together; ${members.reduce((sum, { ask }) => sum + (ask.amps ?? 0), 0).toFixed(1)} A are asked.`
      );
    else parts3.push(`${group.name}: ${group.sides.map((side) => listWords(side)).join(" or ")}, not both.`);
  }
  if (locked.length > 3) parts3.push(`${locked.length} of them are locked where they are.`);
  else if (locked.length > 0)
    parts3.push(`${listWords(locked.map((need) => `${need.label} is locked on ${build.assignments[need.id]}`))}.`);
  if (never) parts3.push("A pin that would do is marked 'never here'.");
  return parts3.join(" ");
}
var withPairs = (all, ids) => {
  const pairs = new Set(all.flatMap((need) => ids.has(need.id) && need.pair !== null ? [need.pair] : []));
  return new Set(
    all.filter((need) => ids.has(need.id) || need.pair !== null && pairs.has(need.pair)).map(({ id: id3 }) => id3)
  );
};
function describe(build, all, ids, moreIds) {
  const members = all.filter((need) => ids.has(need.id) || moreIds.has(need.id));
  const pins = pinsFor(build, all, ids);
  const groups = build.ecu.groups.filter(
    (group) => pinsOfGroup(group).some((id3) => pins.includes(id3)) && feasible(build, all, ids, { without: /* @__PURE__ */ new Set([group.name]) })
  );
  const locked = members.filter((need) => build.locked.includes(need.id));
  const byNever = build.never.length > 0 && feasible(build, all, ids, { ignoreNever: true });
  return {
    needs: members.filter((need) => ids.has(need.id)).map((need) => need.id),
    more: [...moreIds],
    pins,
    locked: locked.map((need) => need.id),
    groups: groups.map((group) => group.name),
    never: byNever,
    sentence: sentenceOf(build, members, pins, groups, locked, byNever)
  };
}
function pinsFor(build, all, ids) {
  const members = all.filter((need) => ids.has(need.id));
  const never = barredPins(build);
  const lockedPins = new Set(build.locked.flatMap((id3) => ids.has(id3) ? [] : build.assignments[id3] ?? []));
  return build.ecu.pins.filter(
    (pin2) => !isFixedPin(pin2) && !never(null, pin2.id) && !lockedPins.has(pin2.id) && members.some((need) => serve(pin2, need.ask).ability && !never(need.id, pin2.id))
  ).map((pin2) => pin2.id);
}
function minimal(build, all, start) {
  let kept = withPairs(all, start);
  const units = /* @__PURE__ */ new Map();
  for (const need of all)
    if (kept.has(need.id)) units.set(need.pair ?? need.id, [...units.get(need.pair ?? need.id) ?? [], need.id]);
  for (const unit of units.values()) {
    const without3 = new Set([...kept].filter((id3) => !unit.includes(id3)));
    if (without3.size > 0 && !feasible(build, all, without3)) kept = without3;
  }
  return kept;
}
function alternating(model, edgeOf, row) {
  const holder = /* @__PURE__ */ new Map();
  edgeOf.forEach((edge, own2) => {
    if (edge >= 0) for (const pin2 of pinsOfEdge(model, edge)) holder.set(pin2, own2);
  });
  const tied = new Set(
    model.limits.flatMap(
      (limit) => limit.type === "either" ? limit.sides.flatMap((side) => [...side]) : [...limit.pins]
    )
  );
  const rows = [row];
  const seen = new Set(rows);
  for (let head = 0; head < rows.length; head += 1) {
    if (model.rows[rows[head]].needs[0].pair !== null) return null;
    for (let edge = model.start[rows[head]]; edge < model.start[rows[head] + 1]; edge += 1) {
      const pin2 = model.column[edge];
      if (tied.has(pin2)) return null;
      const other = holder.get(pin2);
      if (other === void 0) return null;
      if (seen.has(other)) continue;
      seen.add(other);
      rows.push(other);
    }
  }
  return new Set(rows.map((one2) => model.rows[one2].needs[0].id));
}
function around(build, all, from) {
  const able = new Map(
    all.map((need) => [need.id, build.ecu.pins.filter((pin2) => serve(pin2, need.ask).ability).map((pin2) => pin2.id)])
  );
  const byPin = /* @__PURE__ */ new Map();
  for (const [id3, pins] of able) for (const pin2 of pins) byPin.set(pin2, [...byPin.get(pin2) ?? [], id3]);
  const partners = groupBy(
    all.filter((need) => need.pair !== null),
    (need) => need.pair
  );
  const pairOf = new Map(all.map((need) => [need.id, need.pair]));
  const tied = /* @__PURE__ */ new Map();
  for (const group of build.ecu.groups)
    for (const pin2 of pinsOfGroup(group)) tied.set(pin2, [...tied.get(pin2) ?? [], ...pinsOfGroup(group)]);
  const locked = new Set(build.locked);
  const lockedOn = groupBy(
    [...locked].filter((id3) => build.assignments[id3] !== void 0),
    (id3) => build.assignments[id3]
  );
  const reached = /* @__PURE__ */ new Set([from.id]);
  const queue = [from.id];
  const seen = /* @__PURE__ */ new Set();
  const reach = (id3) => {
    if (reached.has(id3)) return;
    reached.add(id3);
    queue.push(id3);
  };
  const visit = (pin2) => {
    if (seen.has(pin2)) return;
    seen.add(pin2);
    for (const id3 of byPin.get(pin2) ?? []) reach(id3);
    for (const id3 of lockedOn.get(pin2) ?? []) reach(id3);
    for (const other of tied.get(pin2) ?? []) visit(other);
  };
  for (let head = 0; head < queue.length; head += 1) {
    const id3 = queue[head];
    for (const pin2 of able.get(id3) ?? []) visit(pin2);
    if (locked.has(id3) && build.assignments[id3] !== void 0) visit(build.assignments[id3]);
    const pair = pairOf.get(id3) ?? null;
    if (pair !== null) for (const other of partners.get(pair) ?? []) reach(other.id);
  }
  return reached;
}
function conflictsOf(build, all = needsOf(build)) {
  const model = modelOf(build, { keep: "locked", locksAsRows: true }, all);
  const solved = solve(model);
  const open = [...model.rows.keys()].filter((row) => solved.edgeOf[row] < 0);
  const lost = new Set(open.flatMap((row) => model.rows[row].needs.map((need) => need.id)));
  const found2 = [];
  const byId = new Map(all.map((need) => [need.id, need]));
  for (const row of open) {
    const { needs } = model.rows[row];
    const alike = found2.find(
      ({ ids: ids2 }) => [...ids2].some(
        (id3) => byId.get(id3).pair === null && needs[0].pair === null && sameAsk(byId.get(id3), needs[0]) && !build.locked.includes(id3)
      )
    );
    if (alike) {
      alike.more.add(needs[0].id);
      continue;
    }
    const direct = alternating(model, solved.edgeOf, row);
    if (direct) {
      const key2 = pinsFor(build, all, direct).join(" ");
      const same3 = found2.find((one2) => one2.key === key2 && key2 !== "");
      if (same3) same3.more.add(needs[0].id);
      else found2.push({ ids: direct, more: /* @__PURE__ */ new Set(), key: key2 });
      continue;
    }
    const near = around(build, all, needs[0]);
    const start = new Set(all.flatMap(({ id: id3 }) => near.has(id3) && !lost.has(id3) ? [id3] : []));
    for (const need of needs) start.add(need.id);
    const ids = minimal(build, all, start);
    const key = pinsFor(build, all, ids).join(" ");
    const same2 = found2.find((one2) => one2.key === key && key !== "");
    if (same2) for (const need of needs) same2.more.add(need.id);
    else found2.push({ ids, more: /* @__PURE__ */ new Set(), key });
  }
  return found2.map(({ ids, more }) => describe(build, all, ids, more));
}

// core/allot/free.ts
function freeFits(build, need, needs) {
  const used = new Set(needs.flatMap((other) => build.assignments[other.id] ?? []));
  const never = barredPins(build);
  return build.ecu.pins.filter(
    (pin2) => !used.has(pin2.id) && !never(null, pin2.id) && !never(need.id, pin2.id) && serve(pin2, need.ask).ability !== null
  ).map((pin2) => pin2.id);
}
var isFreeToTake = (ecu, need, pinId) => need.pair === null && !ecu.groups.some((group) => pinsOfGroup(group).includes(pinId));

// core/allot/supplies.ts
var supplyUsers = (build) => build.devices.flatMap(
  (device) => (build.kinds[device.kindId]?.terminals ?? []).flatMap((terminal) => {
    const destination = destinationOf(device, terminal);
    return destination.to === "supply-5v" ? [
      {
        id: terminalId(device.id, terminal.id),
        deviceId: device.id,
        bank: destination.bank,
        amps: destination.milliamps / 1e3
      }
    ] : [];
  })
);
var HEADROOM = 0.9;
var TRIES = 2e4;
function allotSupplies(build) {
  const roomy = spread(build, HEADROOM);
  return roomy.fits ? roomy : spread(build, 1);
}
function spread(build, share) {
  const pins = pinsOfKind(build.ecu, "supply-5v");
  const users = [...supplyUsers(build)].sort((one2, other) => other.amps - one2.amps);
  if (pins.length === 0) return { fits: users.length === 0, shared: {}, amps: {} };
  const limit = pins.map((pin2) => pin2.abilities.find(({ kind: kind3 }) => kind3 === "supply-5v")?.maxAmps ?? Infinity).map((amps3) => amps3 * share);
  const budgets = build.ecu.groups.flatMap(
    (group) => group.type === "budget" && group.pins.some((id3) => pins.some((pin2) => pin2.id === id3)) ? [{ amps: group.amps * share, member: pins.map((pin2) => group.pins.includes(pin2.id)) }] : []
  );
  const load = pins.map(() => 0);
  const total = budgets.map(() => 0);
  const at = users.map(() => -1);
  const own2 = users.map((user) => user.bank % pins.length);
  let best = null;
  let tries = 0;
  const over = 1e-9;
  const fits = (user, pin2) => load[pin2] + users[user].amps <= limit[pin2] + over && budgets.every(({ amps: amps3, member }, k) => !member[pin2] || total[k] + users[user].amps <= amps3 + over) && users.every(
    (other, i) => pins.length < 2 || i >= user || other.deviceId !== users[user].deviceId || other.bank === users[user].bank === (at[i] === pin2)
  );
  const put3 = (user, pin2, sign) => {
    load[pin2] += sign * users[user].amps;
    budgets.forEach(({ member }, k) => total[k] += member[pin2] ? sign * users[user].amps : 0);
    at[user] = sign > 0 ? pin2 : -1;
  };
  const walk = (user, moves) => {
    if (tries >= TRIES || best && moves >= best.moves) return;
    if (user === users.length) {
      best = { moves, at: [...at] };
      return;
    }
    tries += 1;
    for (const pin2 of /* @__PURE__ */ new Set([own2[user], ...pins.keys()])) {
      if (!fits(user, pin2)) continue;
      put3(user, pin2, 1);
      walk(user + 1, moves + (pin2 === own2[user] ? 0 : 1));
      put3(user, pin2, -1);
    }
  };
  walk(0, 0);
  const found2 = best;
  const chosen = found2?.at ?? own2;
  const amps2 = Object.fromEntries(pins.map((pin2) => [pin2.id, 0]));
  users.forEach((user, i) => amps2[pins[chosen[i]].id] += user.amps);
  return {
    fits: found2 !== null,
    shared: Object.fromEntries(
      users.flatMap((user, i) => chosen[i] === own2[i] ? [] : [[user.id, pins[chosen[i]].id]])
    ),
    amps: amps2
  };
}

// core/allot/allot.ts
var TOGETHER_ROWS = 120;
var TOGETHER_TRIES = 10;
function split2(plan, needs, connectorOf) {
  const placed3 = placements(plan.model, plan.solved);
  const singles = needs.filter((need) => need.deviceId !== null && need.pair === null && placed3.has(need.id));
  const apart2 = [...groupBy(singles, (need) => need.deviceId)].flatMap(([deviceId, own2]) => {
    const at = [...new Set(own2.map((need) => connectorOf.get(placed3.get(need.id))))];
    return at.length > 1 ? [[deviceId, at]] : [];
  });
  return new Map(apart2);
}
function together(build, needs, keep, first2) {
  if (first2.model.rows.length > TOGETHER_ROWS || build.ecu.connectors.length < 2) return first2;
  const connectorOf = new Map(build.ecu.pins.map((pin2) => [pin2.id, pin2.connector]));
  let best = first2;
  let homes2 = /* @__PURE__ */ new Map();
  let apart2 = split2(best, needs, connectorOf);
  let tries = 0;
  for (const deviceId of [...apart2.keys()])
    for (const { id: id3 } of build.ecu.connectors) {
      if (!apart2.has(deviceId) || tries >= TOGETHER_TRIES) continue;
      tries += 1;
      const tried = new Map(homes2).set(deviceId, id3);
      const model = modelOf(build, { keep, homes: tried }, needs);
      const plan = { model, solved: solve(model) };
      const versatile = (one2) => Math.floor(one2.solved.minor / MINOR.versatile);
      if (plan.solved.cost > best.solved.cost || versatile(plan) > versatile(best)) continue;
      const now = split2(plan, needs, connectorOf);
      if (now.size >= apart2.size) continue;
      [best, homes2, apart2] = [plan, tried, now];
    }
  return best;
}
function allotWith(build, options) {
  const needs = needsOf(build);
  const first2 = modelOf(build, { keep: options.keep }, needs);
  const found2 = solve(first2, options);
  if (!found2) return null;
  const { model, solved } = together(build, needs, options.keep, { model: first2, solved: found2 });
  const placed3 = placements(model, solved);
  const assignments = needs.flatMap((need) => {
    const pinId = placed3.get(need.id);
    return pinId === void 0 ? [] : [{ needId: need.id, pinId }];
  });
  const next = { ...build, assignments: Object.fromEntries(placed3) };
  const asked = needsOf(next);
  const unserved2 = asked.filter((need) => !placed3.has(need.id)).map((need) => need.id);
  const moved = needs.filter((need) => {
    const before = build.assignments[need.id];
    return before !== void 0 && placed3.get(need.id) !== before;
  });
  return {
    status: unserved2.length === 0 ? "solved" : "infeasible",
    assignments,
    unserved: unserved2,
    conflicts: unserved2.length > 0 && options.explain !== false ? conflictsOf(build, needs) : [],
    spares: sparesOf(next, asked),
    moved: moved.map((need) => need.id),
    recrimped: moved.filter((need) => isCrimped(build, need, build.assignments[need.id])).map((need) => need.id),
    shared: allotSupplies(build).shared,
    proven: solved.proven
  };
}
var allot = (build, options) => allotWith(build, options);

// core/trigger/offset.ts
var TOOTH_TO_TDC = -1;
function offsetConventions(beforeTdc, cycleDegrees2) {
  const angle = wrapDegrees(beforeTdc, cycleDegrees2);
  return {
    beforeTdc: angle,
    afterTdc: wrapDegrees(-angle, cycleDegrees2),
    signed: wrapSigned(angle, cycleDegrees2),
    signedOpposite: wrapSigned(-angle, cycleDegrees2)
  };
}
var CONFIRMED_WITHIN = 1;
function newOffset(reading2) {
  const raw = reading2.commandedDegrees - reading2.seenDegrees;
  const errorDegrees = wrapSigned(raw, reading2.cycleDegrees);
  const phaseWrong = reading2.cycleDegrees === 720 && Math.abs(Math.abs(errorDegrees) - 360) <= 20;
  const newDegrees = wrapDegrees(reading2.oldDegrees + reading2.sign * raw, reading2.cycleDegrees);
  const toothToTdc = reading2.sign === TOOTH_TO_TDC ? newDegrees : -newDegrees;
  return { errorDegrees, newDegrees, phaseWrong, conventions: offsetConventions(toothToTdc, reading2.cycleDegrees) };
}
function lastAgrees(readings2, offsetDegrees, cycleDegrees2) {
  const last = readings2[readings2.length - 1];
  if (!last || Math.abs(wrapSigned(last.oldOffset - offsetDegrees, cycleDegrees2)) > 0.05) return false;
  return Math.abs(wrapSigned(last.commandedDegrees - last.seenDegrees, cycleDegrees2)) <= CONFIRMED_WITHIN;
}

// core/edits/plan.ts
var needLabel = (build, needId) => needsOf(build).find((need) => need.id === needId)?.label ?? needId;
var place2 = (build, needId, pinId) => ({
  ...build,
  assignments: { ...build.assignments, [needId]: pinId }
});
var allotWords = {
  placed: "Allot the rest",
  most: "Allot, moving what must move",
  locked: "Allot all anew"
};
function withRelay({ feeds }, circuitId, { relay: relay2, winding, switchedBy }) {
  const id3 = partId("relay", circuitId);
  const own2 = feeds.parts[id3];
  const said = feeds.changes[id3];
  if (own2?.kind === "relay") {
    const suppression2 = relay2 === void 0 ? own2.suppression : relay2 === "diode" ? "diode" : "none";
    const reversed2 = winding === void 0 ? own2.reversed : winding === "reversed";
    const control2 = switchedBy === void 0 ? own2.control : switchedBy === "key" ? "key-run" : "need";
    return { ...feeds, parts: { ...feeds.parts, [id3]: { ...own2, suppression: suppression2, reversed: reversed2, control: control2 } } };
  }
  if (said === void 0) return feeds;
  const { suppression, reversed, control, ...rest } = said;
  const kept = {
    ...relay2 === void 0 && suppression !== void 0 ? { suppression } : {},
    ...winding === void 0 && reversed !== void 0 ? { reversed } : {},
    ...switchedBy === void 0 && control !== void 0 ? { control } : {}
  };
  return { ...feeds, changes: { ...feeds.changes, [id3]: { ...rest, ...kept } } };
}
var planEdits = {
  setOutputOrder: edit(
    z25.object({ outputOrder: z25.enum(["in-turn", "by-cylinder"]) }),
    ({ outputOrder }) => outputOrder === "in-turn" ? "Outputs fire in turn" : "Outputs are numbered by cylinder",
    (build, { outputOrder }) => ok({ ...build, outputOrder })
  ),
  assign: edit(
    z25.object({ needId: z25.string(), pinId: z25.string() }),
    ({ needId, pinId }, build) => `Place ${needLabel(build, needId)} on ${pinId}`,
    (build, { needId, pinId }) => {
      const needs = needsOf(build);
      const need = withId(needs, needId);
      const pin2 = withId(build.ecu.pins, pinId);
      if (!need) return fail("no-need", "needId", `There is no need ${needId} in this build.`);
      if (!pin2) return fail("no-pin", "pinId", `${build.ecu.model} has no cavity ${pinId}.`);
      const served = serve(pin2, need.ask);
      if (served.miss)
        return fail(
          "cannot-serve",
          "pinId",
          `${pin2.id} ${missSentence(served.miss, need.ask)}: ${need.label} cannot go there.`
        );
      const before = build.assignments[needId];
      const holder = needs.find((one2) => one2.id !== needId && build.assignments[one2.id] === pinId);
      if (holder && build.locked.includes(holder.id))
        return fail("locked", "pinId", `${pin2.id} is locked for ${holder.label}.`);
      if (build.locked.includes(needId) && before !== pinId)
        return fail("locked", "needId", `${need.label} is locked on ${before}.`);
      const next = place2(build, needId, pinId);
      if (!holder) return ok(need.ask.kind === "vr" ? dropStale(next) : next);
      const origin = withId(build.ecu.pins, before);
      if (origin && serve(origin, holder.ask).ability) return ok(place2(next, holder.id, origin.id));
      const assignments = { ...next.assignments };
      delete assignments[holder.id];
      return ok({ ...next, assignments });
    }
  ),
  unassign: edit(
    z25.object({ needId: z25.string() }),
    ({ needId }, build) => `Free ${build.assignments[needId] ?? needLabel(build, needId)}`,
    (build, { needId }) => {
      if (build.locked.includes(needId))
        return fail("locked", "needId", `${needLabel(build, needId)} is locked: unlock it first.`);
      const assignments = { ...build.assignments };
      delete assignments[needId];
      return ok({ ...build, assignments });
    }
  ),
  lock: edit(
    z25.object({ needId: z25.string(), locked: z25.boolean() }),
    ({ needId, locked }, build) => `${locked ? "Lock" : "Unlock"} ${needLabel(build, needId)}`,
    (build, { needId, locked }) => {
      if (locked && build.assignments[needId] === void 0)
        return fail("not-placed", "needId", `${needLabel(build, needId)} has no pin to lock.`);
      const rest = build.locked.filter((id3) => id3 !== needId);
      return ok({ ...build, locked: locked ? [...rest, needId] : rest });
    }
  ),
  allotAll: edit(
    z25.object({ keep: z25.enum(["placed", "most", "locked"]) }),
    ({ keep }) => allotWords[keep],
    (build, { keep }) => {
      const { assignments, shared } = allot(build, { keep, explain: false });
      return ok({
        ...build,
        assignments: Object.fromEntries(assignments.map(({ needId, pinId }) => [needId, pinId])),
        shared: { ...build.shared, ...shared }
      });
    }
  ),
  setReserve: edit(
    z25.object({ kind: z25.enum(["any", ...abilityKinds]), count: z25.int().min(0).max(40) }),
    () => "Set spares to keep",
    (build, { kind: kind3, count: count2 }) => {
      const reserve = { ...build.reserve, [kind3]: count2 };
      if (count2 === 0) delete reserve[kind3];
      return ok({ ...build, reserve });
    }
  ),
  setWheel: edit(
    z25.object({ shaft: z25.enum(["crank", "cam"]), wheel: wheelSchema.nullable() }),
    ({ shaft, wheel: wheel2 }) => wheel2 ? `Choose ${shaft} wheel ${wheel2.id}` : `Remove ${shaft} wheel`,
    (build, { shaft, wheel: wheel2 }) => ok({
      ...build,
      trigger: {
        ...build.trigger,
        ...shaft === "crank" ? { crankWheel: wheel2 } : { camWheel: wheel2 },
        offsetConfirmed: false
      }
    })
  ),
  setTrigger: edit(
    z25.object({
      offsetDegrees: z25.number().min(0).lt(720).optional(),
      offsetWay: planSchema.shape.trigger.shape.offsetWay.optional(),
      lockDegrees: z25.union([z25.literal(0), z25.literal(10)]).optional(),
      crankEdge: z25.enum(["rising", "falling"]).nullable().optional(),
      ripple: z25.number().min(0).max(0.6).optional(),
      chartRpm: z25.int().min(100).max(2e4).optional(),
      dwellMilliseconds: z25.number().positive().max(20).optional(),
      injectionMilliseconds: z25.number().positive().max(40).optional(),
      advanceDegrees: z25.number().min(-20).max(60).optional()
    }),
    () => "Change the trigger set-up",
    (build, fields) => ok({
      ...build,
      trigger: {
        ...build.trigger,
        ...fields,
        ...fields.offsetDegrees !== void 0 && fields.offsetDegrees !== build.trigger.offsetDegrees ? { offsetConfirmed: false } : {}
      }
    })
  ),
  readLight: edit(
    z25.object({
      at: z25.iso.datetime(),
      rpm: z25.number().min(0).max(2e4),
      seenDegrees: z25.number().min(-720).max(720),
      /** For a log at several speeds: note it, and leave the offset as it is. */
      keepOffset: z25.boolean().optional()
    }),
    ({ seenDegrees }) => `Light read at ${seenDegrees}\xB0`,
    (build, { at, rpm, seenDegrees, keepOffset = false }) => {
      const { trigger } = build;
      const cycle = cycleDegrees(build.engine);
      const answer = newOffset({
        oldDegrees: trigger.offsetDegrees,
        commandedDegrees: trigger.lockDegrees,
        seenDegrees,
        cycleDegrees: cycle,
        sign: TOOTH_TO_TDC
      });
      const agrees = Math.abs(answer.errorDegrees) <= CONFIRMED_WITHIN;
      return ok({
        ...build,
        trigger: {
          ...trigger,
          offsetDegrees: agrees || keepOffset ? trigger.offsetDegrees : wrapDegrees(answer.newDegrees, cycle),
          offsetConfirmed: agrees,
          readings: [
            ...trigger.readings.slice(-199),
            {
              at,
              rpm,
              commandedDegrees: trigger.lockDegrees,
              seenDegrees,
              oldOffset: trigger.offsetDegrees,
              newOffset: answer.newDegrees,
              on: triggerFacts(build)
            }
          ]
        }
      });
    }
  ),
  dropLight: edit(
    z25.object({ index: z25.int().min(0).max(199) }),
    () => "Strike a reading of the light",
    (build, { index }) => {
      const { readings: readings2 } = build.trigger;
      if (index >= readings2.length) return fail("no-reading", "index", `There is no reading number ${index + 1}.`);
      const left = readings2.filter((_, i) => i !== index);
      const cycle = cycleDegrees(build.engine);
      const now = triggerFacts(build);
      const standing2 = left.filter((reading2) => stands(reading2.on, now));
      const offsetConfirmed2 = lastAgrees(standing2, build.trigger.offsetDegrees, cycle);
      return ok({ ...build, trigger: { ...build.trigger, offsetConfirmed: offsetConfirmed2, readings: left } });
    }
  ),
  clearLights: edit(
    z25.strictObject({}),
    () => "Start a new log of the light",
    (build) => ok({ ...build, trigger: { ...build.trigger, offsetConfirmed: false, readings: [] } })
  ),
  setCircuit: edit(
    z25.object({ circuitId: z25.string(), choice: circuitChoiceSchema.partial() }),
    ({ circuitId }) => `Change the ${circuitId} feed`,
    (build, { circuitId, choice }) => {
      const merged = Object.fromEntries(
        Object.entries({ ...build.power.circuits[circuitId], ...choice }).filter(([, value]) => value !== void 0)
      );
      const circuits = { ...build.power.circuits, [circuitId]: merged };
      return ok(
        dropStale({ ...build, power: { ...build.power, circuits }, feeds: withRelay(build, circuitId, choice) })
      );
    }
  ),
  /** Forgets the person's choice and takes the derived figures again. */
  deriveCircuit: edit(
    z25.object({
      circuitId: z25.string(),
      fields: z25.array(z25.enum(["squareMm", "fuseAmps", "fuseDistanceMetres", "lengthMetres", "winding"]))
    }),
    ({ circuitId }) => `Derive the ${circuitId} feed again`,
    (build, { circuitId, fields }) => {
      const rest = Object.fromEntries(
        Object.entries(build.power.circuits[circuitId] ?? {}).filter(([key]) => !fields.includes(key))
      );
      return ok({ ...build, power: { ...build.power, circuits: { ...build.power.circuits, [circuitId]: rest } } });
    }
  ),
  setPower: edit(
    z25.object({
      ecuGround: z25.enum(["battery", "head"]).optional(),
      strapSquareMm: z25.number().positive().max(95).optional(),
      strapMetres: z25.number().positive().max(30).optional(),
      starting: z25.enum(["key", "button"]).optional(),
      charging: z25.enum(["alternator", "none"]).optional(),
      batteryAh: z25.number().min(1).max(500).optional(),
      /** Null: nobody knows what it is marked with. */
      alternatorAmps: z25.number().min(1).max(500).nullable().optional(),
      groundMetres: z25.object({
        battery: z25.number().min(0).max(30),
        head: z25.number().min(0).max(30),
        chassis: z25.number().min(0).max(30)
      }).optional()
    }),
    () => "Change grounds, starting and charging",
    (build, { alternatorAmps, ...fields }) => {
      const { alternatorAmps: was, ...power } = build.power;
      const marked = alternatorAmps === void 0 ? was : alternatorAmps ?? void 0;
      return ok(
        dropStale({
          ...build,
          power: { ...power, ...fields, ...marked === void 0 ? {} : { alternatorAmps: marked } }
        })
      );
    }
  ),
  setLoom: edit(
    planSchema.shape.loom.omit({ wires: true }).partial(),
    () => "Change the loom",
    (build, fields) => ok({ ...build, loom: { ...build.loom, ...fields } })
  ),
  setWire: edit(
    z25.object({
      wireId: z25.string().max(200),
      /** Null: the derived size again. */
      squareMm: z25.number().positive().max(95).nullable().optional(),
      /** Null: the colour it is given again. */
      colour: z25.string().max(12).nullable().optional()
    }),
    ({ wireId: wireId2 }) => `Change wire ${wireId2}`,
    (build, { wireId: wireId2, squareMm, colour }) => {
      if (typeof colour === "string" && !isColour(colour))
        return fail("colour", "colour", `${colour} is no IEC 60757 colour such as WH or WH/BU.`);
      const was = build.loom.wires[wireId2];
      const size = squareMm === void 0 ? was?.squareMm : squareMm;
      const paint = colour === void 0 ? was?.colour : colour;
      const { [wireId2]: _, ...wires } = build.loom.wires;
      if (typeof size !== "number" && typeof paint !== "string")
        return ok({ ...build, loom: { ...build.loom, wires } });
      const choice = {
        ...typeof size === "number" ? { squareMm: size } : {},
        ...typeof paint === "string" ? { colour: paint } : {}
      };
      return ok({ ...build, loom: { ...build.loom, wires: { ...wires, [wireId2]: choice } } });
    }
  )
};

// core/edits/proof.ts
import { z as z26 } from "zod";

// core/build/binding.ts
var binding = /* @__PURE__ */ new Set(["BB-3", "BB-10", "SE-12"]);
var isBinding = (rule) => binding.has(rule);

// core/power/plan.ts
function wantsEcuFuse(build, plan, sizes2) {
  const main = plan.feeds.find(({ role: role2 }) => role2 === "main");
  if (main && sizes2.fuses.get(partId("fuse", main.id))?.byPerson) return false;
  return pinsOfKind(build.ecu, "switched").some((pin2) => {
    const connector = withId(build.ecu.connectors, pin2.connector);
    const wire = [...sizes2.links.values()].find(({ to }) => to === ecuEnd(pin2.id));
    if (!connector || !wire || wire.byPerson || wire.fuse !== partId("fuse", "main")) return false;
    return wire.squareMm > cavitySquareMm(connector, pin2.cavity);
  });
}
var steps = { plan: feedPlan, flows: flowsOf, sizes: sizesOf };
function powerPlan(build, { plan, flows, sizes: sizes2 } = steps) {
  const made = (ecuFuse) => {
    const bare2 = plan(build, ecuFuse);
    const through3 = flows(build, bare2, ecuFuse);
    return { bare: bare2, through: through3, sized: sizes2(build, bare2, through3, ecuFuse) };
  };
  const first2 = made(false);
  const { bare, through: through2, sized } = wantsEcuFuse(build, first2.bare, first2.sized) ? made(true) : first2;
  return sectioned(build, bare, through2, sized);
}
function sectioned(build, bare, flows, sizes2) {
  const plan = withContacts(bare, sizes2.relays);
  const around2 = surroundings(build);
  const circuits = plan.feeds.map(({ id: id3, role: role2, name: name3, system }) => {
    const fuse = partId("fuse", id3);
    const { amps: amps2, byPerson, setBy, flow, rush } = sizes2.fuses.get(fuse);
    const inSection = (end2) => flows.fuseBefore.get(end2) === fuse;
    const draws = flows.draws.filter(({ end: end2 }) => inSection(end2));
    const loads = draws.flatMap(({ load }) => load ?? []);
    const behind3 = sizes2.drops.filter(({ draw }) => inSection(draw.end));
    const worst = behind3.reduce(
      (most2, drop) => most2 === null || drop.volts - drop.limitVolts > most2.volts - most2.limitVolts ? drop : most2,
      null
    );
    const into = flows.into.get(fuseEnd(id3, 1)) ?? flows.into.get(fuseEnd(id3, 2));
    const own2 = flows.steps.filter(({ from, link }) => link && flows.fuseBefore.get(from) === fuse);
    const trunk = trunkOf(own2, id3) ?? into;
    const trunkWire = trunk?.link && sizes2.links.get(trunk.link.id);
    const branches = own2.filter((step) => step !== trunk && (loads.some(({ end: end2 }) => end2 === step.to) || step.link.role === "branch")).map(({ link }) => sizes2.links.get(link.id).squareMm);
    const squareMm = trunkWire?.squareMm ?? sizeFor(amps2, around2);
    const branchSquareMm = branches.length > 0 ? Math.min(...branches) : squareMm;
    const hop = worst?.hops.reduce(
      (most2, one2) => most2 && most2.volts >= one2.volts ? most2 : one2,
      null
    );
    return {
      id: id3,
      role: role2,
      name: name3,
      system,
      ...sourceOf(flows, id3),
      relay: relayOf(plan, flows, sizes2, id3),
      loads,
      limitVolts: worst?.limitVolts ?? Math.min(MOTOR_DROP, ...loads.map(({ limitVolts }) => limitVolts)),
      flow,
      pulsed: flow.peak > flow.mean ? flow : null,
      loadAmps: flow.rms,
      fuseAmps: amps2,
      fuseByPerson: byPerson,
      fuseSetBy: setBy,
      rush,
      squareMm,
      squareByPerson: trunkWire?.byPerson ?? false,
      squareSetBy: trunkWire?.setBy ?? "strength",
      branchSquareMm,
      carriesAmps: carriedAmps(squareMm, around2),
      branchCarriesAmps: carriedAmps(branchSquareMm, around2),
      lengthMetres: trunk?.link?.metres ?? 0,
      fuseDistanceMetres: into?.link?.metres ?? 0,
      dropVolts: worst?.volts ?? 0,
      worstLoad: worst?.draw.name ?? name3,
      worstHop: hop ? { from: hop.step.from, to: hop.step.to, volts: hop.volts } : null
    };
  });
  return { plan, flows, sizes: sizes2, circuits, boxes: build.feeds.boxes, unfed: flows.unfed };
}
var trunkOf = (own2, id3) => own2.find(({ link }) => link.role === "trunk") ?? own2.find(({ to }) => to === spliceEnd(id3)) ?? own2.find(({ link }) => link.role !== "jumper" && link.role !== "winding") ?? own2[0];
function sourceOf(flows, id3) {
  const end2 = fuseEnd(id3, 1);
  const way = wayTo(flows, flows.into.has(end2) ? end2 : fuseEnd(id3, 2));
  const [first2] = way;
  if (!first2) return { source: "nothing", upstream: null };
  const before = flows.fuseBefore.get(end2);
  const upstream = before && before !== partId("fuse", id3) ? readPart(before).name : null;
  if (upstream) return { source: "main", upstream };
  const ref = endOf(first2.from);
  if (ref.of === "part" && ref.kind === "battery") return { source: "battery", upstream: null };
  return { source: ref.of === "part" && ref.kind === "tap" ? "tap" : "key", upstream: null };
}
function relayOf(plan, flows, sizes2, id3) {
  const fuse = partId("fuse", id3);
  const step = flows.steps.find(
    ({ part: part2, from }) => part2 !== null && plan.parts.get(part2)?.part.kind === "relay" && flows.fuseBefore.get(from) === fuse
  );
  const planned = step && plan.parts.get(step.part);
  if (planned?.part.kind !== "relay") return null;
  const { part: relay2, name: name3 } = planned;
  const { supply, driver } = windingEnds(name3, relay2);
  return {
    name: name3,
    control: relay2.control,
    suppressed: relay2.suppression === "diode",
    reversed: relay2.reversed,
    contactAmps: relay2.contactAmps,
    contactSetBy: sizes2.relays.get(step.part).setBy,
    driverTerminal: portOf(driver),
    supplyTerminal: portOf(supply)
  };
}
function loadsByRelay({ plan, flows }) {
  const found2 = /* @__PURE__ */ new Map();
  for (const { end: end2, load } of flows.draws)
    for (const { part: part2 } of load ? wayTo(flows, end2) : []) {
      const planned = part2 && plan.parts.get(part2);
      if (!planned || planned.part.kind !== "relay") continue;
      const at = found2.get(planned.name);
      if (at) at.push(load);
      else found2.set(planned.name, [load]);
    }
  return found2;
}

// core/data/keep-same.ts
function isSame(one2, other) {
  if (Object.is(one2, other)) return true;
  if (typeof one2 !== "object" || typeof other !== "object" || one2 === null || other === null) return false;
  if (Array.isArray(one2) !== Array.isArray(other)) return false;
  const [first2, second] = [one2, other];
  let left = 0;
  for (const key in first2) {
    const value = first2[key];
    const there = second[key];
    if (value !== there && !isSame(value, there)) return false;
    if (there === void 0 && !Object.hasOwn(second, key)) return false;
    left += 1;
  }
  for (const _ in second) left -= 1;
  return left === 0;
}
var keepSame = (now, before) => now.map((item) => {
  const kept = before(item);
  return kept !== void 0 && isSame(kept, item) ? kept : item;
});
function keepList(now, last, before) {
  const kept = keepSame(now, before);
  return last?.length === kept.length && kept.every((item, i) => item === last[i]) ? last : kept;
}
function keepMap(now, before) {
  const isAsBefore = before?.size === now.size && [...now].every(([key, value]) => before.has(key) && isSame(before.get(key), value));
  return isAsBefore ? before : now;
}
function sameAsBefore(keyOf) {
  let last = [];
  let byKey = /* @__PURE__ */ new Map();
  return (now) => {
    const kept = keepList(now, last, (item) => byKey.get(keyOf(item)));
    if (kept === last) return last;
    byKey = new Map(kept.map((one2) => [keyOf(one2), one2]));
    last = kept;
    return kept;
  };
}

// core/netlist/apart.ts
var TRIES2 = 24;
function tellApart(build, wires, passed, nodeOf) {
  const colours = /* @__PURE__ */ new Map();
  const connectorOf = new Map(build.ecu.pins.map((pin2) => [pin2.id, pin2.connector]));
  const leads = new Set(
    build.loom.origin === "flying-lead" ? build.ecu.pins.flatMap((pin2) => pin2.lead ? [pin2.id] : []) : []
  );
  const plugOf = (end2) => {
    const ref = endOf(end2);
    if (ref.of === "ecu") return `ecu ${connectorOf.get(ref.pin) ?? ""}`;
    return ref.of === "device" ? `device ${ref.device}` : null;
  };
  const seen = /* @__PURE__ */ new Map();
  const clash = (plugs, colour, copper) => plugs.some((plug) => {
    const there = seen.get(plug)?.get(colour);
    return there !== void 0 && there !== copper;
  });
  const plugsOf = (wire) => [
    ...[wire.from, wire.to].flatMap((end2) => plugOf(end2) ?? []),
    ...(passed.get(wire.id) ?? []).map((plug) => `plug ${plug}`)
  ];
  const take = (plugs, colour, copper) => {
    for (const plug of plugs) {
      const own2 = seen.get(plug) ?? /* @__PURE__ */ new Map();
      if (!own2.has(colour)) own2.set(colour, copper);
      seen.set(plug, own2);
    }
  };
  const isSettled = (wire) => build.loom.wires[wire.id]?.colour !== void 0 || [wire.from, wire.to].some((end2) => leads.has(pinAt(end2) ?? ""));
  const settled2 = new Set(wires.filter(isSettled));
  for (const wire of settled2) take(plugsOf(wire), wire.colour, nodeOf(wire.from));
  for (const wire of wires) {
    if (settled2.has(wire)) continue;
    const plugs = plugsOf(wire);
    const copper = nodeOf(wire.from);
    let { colour } = wire;
    if (clash(plugs, colour, copper)) {
      const family = wire.signal === "supply" && colour.startsWith("OG") ? "sensor-supply" : wire.signal;
      for (let index = 0; index < TRIES2; index += 1) {
        const next = classColour(family, index);
        if (clash(plugs, next, copper)) continue;
        colour = next;
        break;
      }
    }
    take(plugs, colour, copper);
    if (colour !== wire.colour) colours.set(wire.id, colour);
  }
  return colours;
}

// core/netlist/ecu-return.ts
var OUTPUT_DUTY = 0.5;
var switching = /* @__PURE__ */ new Set(["injector", "low-side", "ignition-driver", "half-bridge"]);
var ecuReturnAmps = (build, needs) => needs.filter((need) => build.assignments[need.id] !== void 0 && switching.has(need.ask.kind)).reduce((sum, need) => sum + (need.ask.amps ?? 0) * OUTPUT_DUTY, build.ecu.ownAmps);
var groundShareAmps = (build, needs) => Math.max(POWER_GROUND_AMPS, ecuReturnAmps(build, needs) / Math.max(1, groundPins(build).power.length));

// core/netlist/feed-returns.ts
var GROUND_AMPS = 0.2;
var coilsOf = (build, module) => coilsBehind(build, module).map(({ device, kind: kind3 }) => ({
  coil: trait(kind3, "coil"),
  serves: device.serves,
  row: device.row
}));
function returnAmps(build, { flows }, device, kind3) {
  const feeds = kind3.terminals.filter((terminal) => destinationOf(device, terminal).to === "feed");
  const fed = feeds.reduce((sum, { id: id3 }) => sum + (flows.at.get(deviceEnd(device.id, id3))?.rms ?? 0), 0);
  const switched2 = trait(kind3, "igniter") ? pulsesOfCoils(build)(coilsOf(build, { device, kind: kind3 })).rms : 0;
  return feeds.length > 0 || switched2 > 0 ? fed + switched2 : GROUND_AMPS;
}
function fuseBefore({ sizes: sizes2, flows }, device, kind3) {
  const fused = kind3.terminals.map((terminal) => {
    const fuse = flows.fuseBefore.get(deviceEnd(device.id, terminal.id)) ?? null;
    return fuse === null ? 0 : sizes2.fuses.get(fuse)?.amps ?? 0;
  });
  return Math.max(0, ...fused);
}
function returnSquareMm(build, power, device, kind3, amps2) {
  const most2 = mostAt(build, deviceEnd(device.id, kind3.terminals[0]?.id ?? ""));
  return Math.max(mostSizeFor(build, amps2), Math.min(most2, mostSizeFor(build, fuseBefore(power, device, kind3))));
}
function sidesOf({ name: name3, part: part2 }) {
  if (part2.kind === "diode") return [partEnd("diode", name3, "a"), partEnd("diode", name3, "k")];
  return part2.kind === "switch" || part2.kind === "button" || part2.kind === "resistor" ? [partEnd(part2.kind, name3, "1"), partEnd(part2.kind, name3, "2")] : null;
}
function plannedReturns(build, needs, power) {
  const at = /* @__PURE__ */ new Map();
  const add2 = (from, to, link) => {
    const there = at.get(from);
    if (there) there.push({ to, link });
    else at.set(from, [{ to, link }]);
  };
  const join = (one2, other, link) => {
    add2(one2, other, link);
    add2(other, one2, link);
  };
  for (const link of power.plan.links) if (!power.sizes.links.has(link.id)) join(link.from, link.to, link);
  for (const part2 of power.plan.parts.values()) {
    const sides = sidesOf(part2);
    if (sides?.some((side) => at.has(side))) join(...sides, null);
  }
  const towards = /* @__PURE__ */ new Map();
  const order = [...at.keys()].filter((end2) => endType(end2) === "ground");
  for (const ground2 of order) towards.set(ground2, null);
  for (const end2 of order)
    for (const { to, link } of at.get(end2) ?? []) {
      if (towards.has(to)) continue;
      towards.set(to, { to: end2, link });
      order.push(to);
    }
  const devices = new Map(build.devices.map((device) => [device.id, device]));
  const ecuGrounds = new Set(groundPins(build).power.map(({ id: id3 }) => ecuEnd(id3)));
  const ecuShare = groundShareAmps(build, needs);
  const into = /* @__PURE__ */ new Map();
  const carried3 = /* @__PURE__ */ new Map();
  for (let i = order.length - 1; i >= 0; i -= 1) {
    const end2 = order[i];
    const way = towards.get(end2);
    if (!way) continue;
    const device = devices.get(deviceAt(end2) ?? "");
    const kind3 = device && build.kinds[device.kindId];
    const before = into.get(end2) ?? { amps: 0, squareMm: 0 };
    const drawn2 = device && kind3 ? returnAmps(build, power, device, kind3) : ecuGrounds.has(end2) ? ecuShare : endType(end2) === "relay" ? WINDING_AMPS : 0;
    const amps2 = before.amps + drawn2;
    const own2 = device && kind3 ? returnSquareMm(build, power, device, kind3, drawn2) : 0;
    const returned = { amps: amps2, squareMm: Math.max(before.squareMm, own2, mostSizeFor(build, amps2)) };
    if (way.link) carried3.set(way.link.id, returned);
    const next = into.get(way.to) ?? { amps: 0, squareMm: 0 };
    into.set(way.to, { amps: next.amps + amps2, squareMm: Math.max(next.squareMm, returned.squareMm) });
  }
  return carried3;
}

// core/netlist/lines.ts
var KEY_AMPS = 5;
var KEY_SQUARE_MM = 1.5;
function joinKeyFeeds(list, build) {
  const brought = broughtFeeds(build);
  if (brought.length === 0) return;
  const used = new Set(list.drafts.flatMap((wire) => [wire.from, wire.to]));
  for (const { source, end: end2, device } of brought)
    if (used.has(spliceEnd(source)))
      list.add(end2, spliceEnd(source), {
        colour: classColour("supply", source === "key-run" ? 0 : 1),
        metres: SPLICE_METRES,
        signal: "supply",
        amps: KEY_AMPS,
        squareMm: usualSize(build, KEY_SQUARE_MM),
        deviceId: device.id
      });
}
var FIRST_COLOUR = 5;
var LINE_SQUARE_MM = 0.75;
var PRIMARY_SQUARE_MM = 1;
function primaryWire(build, { flows }, users) {
  const amps2 = users.reduce(
    (sum, { device }) => (build.kinds[device.kindId]?.terminals ?? []).reduce(
      (all, terminal) => all + coilRms(build, flows, device, terminal.id),
      sum
    ),
    0
  );
  return { amps: amps2, squareMm: Math.max(usualSize(build, PRIMARY_SQUARE_MM), mostSizeFor(build, amps2)) };
}
var coilRms = (build, flows, device, terminalId2) => trait(build.kinds[device.kindId], "coil") ? flows.at.get(deviceEnd(device.id, terminalId2))?.rms ?? 0 : 0;
function addLines(list, build, power) {
  const ends2 = /* @__PURE__ */ new Map();
  for (const device of build.devices)
    for (const terminal of build.kinds[device.kindId]?.terminals ?? []) {
      const destination = destinationOf(device, terminal);
      if (destination.to !== "line") continue;
      const at = ends2.get(destination.line) ?? [];
      at.push({ end: deviceEnd(device.id, terminal.id), device });
      ends2.set(destination.line, at);
    }
  let order = 0;
  for (const [name3, users] of ends2) {
    if (users.length < 2) continue;
    const look = {
      colour: classColour("output", order + FIRST_COLOUR),
      signal: "output",
      squareMm: usualSize(build, LINE_SQUARE_MM)
    };
    order += 1;
    const heavy = sparkChannel(name3) !== null ? { ...look, ...primaryWire(build, power, users) } : look;
    if (users.length === 2) {
      const [one2, other] = users;
      list.add(one2.end, other.end, {
        ...heavy,
        metres: one2.device.branchMetres + other.device.branchMetres,
        deviceId: one2.device.id
      });
      continue;
    }
    const splice = spliceEnd(`line-${name3}`);
    for (const { end: end2, device } of users)
      list.add(end2, splice, { ...heavy, metres: device.branchMetres, deviceId: device.id });
  }
}

// core/netlist/shared-pins.ts
var SHARED_SQUARE_MM = 0.5;
var POWER_GROUND_SQUARE_MM = 1.5;
var LEAST_TAIL_METRES = 0.1;
var SENSOR_AMPS = 0.01;
var knownDevices = (build) => build.devices.flatMap((device) => {
  const kind3 = build.kinds[device.kindId];
  return kind3 ? [{ device, kind: kind3 }] : [];
});
function addShared(list, build, pin2, users, look, trunk) {
  const tail = (user2, metres4) => ({
    ...look,
    metres: metres4,
    amps: user2.amps,
    deviceId: user2.device.id,
    cable: user2.cable
  });
  const [user] = users;
  if (user && users.length === 1 && trunk === null) {
    list.add(ecuEnd(pin2.id), user.end, tail(user, user.device.branchMetres));
    return;
  }
  const splice = spliceEnd(pin2.id);
  list.add(ecuEnd(pin2.id), splice, {
    ...look,
    metres: SPLICE_METRES,
    local: true,
    amps: users.reduce((sum, user2) => sum + user2.amps, 0),
    squareMm: usualSize(build, SHARED_SQUARE_MM),
    ...trunk
  });
  for (const user2 of users)
    list.add(splice, user2.end, tail(user2, Math.max(LEAST_TAIL_METRES, user2.device.branchMetres - SPLICE_METRES)));
}
var cableOf = (device, kind3) => kind3.shielded ? device.id : null;
function addSupplies(list, build, colours) {
  const pins = pinsOfKind(build.ecu, "supply-5v");
  if (pins.length === 0) return;
  const users = new Map(pins.map((pin2) => [pin2.id, []]));
  for (const { device, kind: kind3 } of knownDevices(build))
    for (const terminal of kind3.terminals) {
      const destination = destinationOf(device, terminal);
      if (destination.to !== "supply-5v") continue;
      const pin2 = sharedPin(build, pins, terminalId(device.id, terminal.id), destination.bank);
      users.get(pin2.id).push({
        end: deviceEnd(device.id, terminal.id),
        device,
        amps: destination.milliamps / 1e3,
        cable: cableOf(device, kind3)
      });
    }
  for (const pin2 of pins)
    if (users.get(pin2.id).length > 0)
      addShared(list, build, pin2, users.get(pin2.id), { colour: colours.get(pin2.id), signal: "supply" }, null);
}
function addEcuGrounds(list, build, needs, colours, planned) {
  const { power, sensor: sensor2 } = groundPins(build);
  const shields = shieldPins(build);
  const users = new Map([...power, ...sensor2, ...shields].map((pin2) => [pin2.id, []]));
  for (const { device, kind: kind3 } of knownDevices(build)) {
    const cable = cableOf(device, kind3);
    for (const terminal of kind3.terminals) {
      const bank = returnBank(build, device, kind3, terminal);
      if (bank === null || sensor2.length === 0) continue;
      const pin2 = sharedPin(build, sensor2, terminalId(device.id, terminal.id), bank);
      users.get(pin2.id).push({ end: deviceEnd(device.id, terminal.id), device, amps: SENSOR_AMPS, cable });
    }
    const [shield] = shields;
    if (kind3.shielded && device.shield !== "none" && shield)
      users.get(shield.id).push({ end: shieldEnd(device.id), device, amps: SENSOR_AMPS, cable });
  }
  const amps2 = groundShareAmps(build, needs);
  const own2 = {
    colour: "BK",
    metres: build.power.groundMetres[build.power.ecuGround] ?? 1,
    squareMm: Math.max(usualSize(build, POWER_GROUND_SQUARE_MM), mostSizeFor(build, amps2)),
    signal: "ground",
    amps: amps2
  };
  const powers = new Set(power);
  for (const pin2 of /* @__PURE__ */ new Set([...power, ...sensor2, ...shields])) {
    const returning = users.get(pin2.id);
    const look = { colour: colours.get(pin2.id), signal: "ground" };
    if (!powers.has(pin2)) {
      if (returning.length > 0) addShared(list, build, pin2, returning, look, null);
    } else if (planned.has(ecuEnd(pin2.id)) && returning.length === 0) continue;
    else if (returning.length === 0) list.add(ecuEnd(pin2.id), groundEnd(build.power.ecuGround), own2);
    else {
      addShared(list, build, pin2, returning, look, { colour: "BK", squareMm: own2.squareMm, amps: own2.amps });
      list.add(spliceEnd(pin2.id), groundEnd(build.power.ecuGround), own2);
    }
  }
}

// core/netlist/laid.ts
function layWires(build, drafts2, boxOf) {
  const { tree, loom } = build;
  const laid2 = layRuns(tree, drafts2, boxOf);
  const passed = /* @__PURE__ */ new Map();
  const made = (draft, id3, from, to, piece2, cutOf) => {
    const squareMm = (cutOf === null ? void 0 : loom.wires[id3]?.squareMm) ?? draft.squareMm;
    const lengthMetres = Math.round((piece2.metres + loom.slackMetres) * 100) / 100;
    return {
      id: id3,
      from,
      to,
      squareMm,
      colour: draft.colour,
      lengthMetres,
      ohms: wireOhms(squareMm, lengthMetres),
      amps: draft.amps,
      signal: draft.signal,
      needId: draft.needId,
      circuitId: draft.circuitId,
      deviceId: draft.deviceId,
      cable: draft.cable,
      shield: draft.shield,
      route: piece2.segments,
      cutOf
    };
  };
  const pieces = drafts2.flatMap((draft) => {
    const at = laid2.get(draft.id);
    if (!at) return [made(draft, draft.id, draft.from, draft.to, { metres: draft.metres, segments: NOWHERE }, null)];
    const cut = cutPieces(tree, draft.id, at);
    if (cut.length === 1) return [made(draft, draft.id, draft.from, draft.to, cut[0], null)];
    passed.set(
      draft.id,
      cut.flatMap(({ into }) => into?.plug ?? [])
    );
    let from = draft.from;
    return cut.map((piece2) => {
      const to = piece2.into ? plugEnd(piece2.into.plug, piece2.into.cavity) : draft.to;
      const wire = made(draft, wireId(from, to), from, to, piece2, draft.id);
      from = to;
      return wire;
    });
  });
  return { pieces, passed };
}
var NOWHERE = [];
function inColour(build, pieces, colours) {
  return pieces.map((wire) => {
    const own2 = wire.cutOf === null ? void 0 : build.loom.wires[wire.id]?.colour;
    const colour = own2 ?? colours.get(wire.cutOf ?? wire.id) ?? wire.colour;
    return colour === wire.colour ? wire : { ...wire, colour };
  });
}

// core/netlist/netlist.ts
function pinColours(ecu, leads) {
  const counts = /* @__PURE__ */ new Map();
  return new Map(
    ecu.pins.map((pin2) => {
      const signal = familyOfPin(pin2);
      const index = counts.get(signal) ?? 0;
      counts.set(signal, index + 1);
      return [pin2.id, leads && pin2.lead ? pin2.lead.colour : classColour(signal, index)];
    })
  );
}
function addNeedWires(list, build, needs, pins, colours) {
  const devices = new Map(build.devices.map((device) => [device.id, device]));
  for (const need of needs) {
    const pin2 = pins.get(build.assignments[need.id] ?? "");
    if (!pin2) continue;
    const device = need.deviceId ? devices.get(need.deviceId) : void 0;
    const kind3 = device ? build.kinds[device.kindId] : void 0;
    const bus2 = need.ask.kind === "can" && device ? busOf(build, device.id) : null;
    if (bus2 && membersOf(build, bus2).length > 1) {
      const look = { colour: colours.get(pin2.id), signal: classOfPin(pin2), needId: need.id };
      addBusLine(list, build, bus2, need.ask.side === "minus" ? "minus" : "plus", pin2.id, look);
      continue;
    }
    if (need.joined.length > 0) {
      addJoined(list, build, need, pin2, colours.get(pin2.id));
      continue;
    }
    list.add(ecuEnd(pin2.id), need.end, {
      colour: colours.get(pin2.id),
      metres: device?.branchMetres ?? TO_BOX_METRES,
      amps: need.ask.amps,
      squareMm: need.ask.kind === "injector" ? usualSize(build, INJECTOR_SQUARE_MM) : void 0,
      signal: classOfPin(pin2),
      needId: need.id,
      deviceId: need.deviceId,
      cable: kind3 && (kind3.shielded || kind3.twisted) ? need.deviceId : null,
      shield: kind3?.shielded ? device?.shield ?? null : null
    });
  }
}
function addJoined(list, build, need, pin2, colour) {
  const injects = need.ask.kind === "injector";
  const all = [{ end: need.end, deviceId: need.deviceId }, ...need.joined];
  const amps2 = need.ask.amps;
  const shared = { colour, signal: classOfPin(pin2), needId: need.id };
  const least = injects ? usualSize(build, INJECTOR_SQUARE_MM) : void 0;
  list.add(ecuEnd(pin2.id), spliceEnd(pin2.id), {
    ...shared,
    metres: SPLICE_METRES,
    local: true,
    amps: amps2,
    squareMm: least && Math.max(least, mostSizeFor(build, amps2 ?? 0)),
    deviceId: need.deviceId
  });
  for (const { end: end2, deviceId } of all)
    list.add(spliceEnd(pin2.id), end2, {
      ...shared,
      metres: Math.max(
        LEAST_BRANCH_METRES,
        (withId(build.devices, deviceId)?.branchMetres ?? TO_BOX_METRES) - SPLICE_METRES
      ),
      amps: amps2 === void 0 ? void 0 : amps2 / all.length,
      squareMm: least,
      deviceId
    });
}
var GROUND_TAIL_METRES = 0.5;
var LEAST_BRANCH_METRES = 0.2;
var INJECTOR_SQUARE_MM = 0.5;
function addGrounds(list, build, power, planned) {
  for (const device of build.devices)
    if (build.kinds[device.kindId]?.shielded && device.shield === "both-ends")
      list.add(shieldEnd(device.id), groundEnd("head"), {
        colour: "BK",
        metres: GROUND_TAIL_METRES,
        signal: "ground",
        amps: SENSOR_AMPS,
        deviceId: device.id
      });
  for (const device of build.devices) {
    const kind3 = build.kinds[device.kindId];
    for (const terminal of kind3?.terminals ?? []) {
      const destination = destinationOf(device, terminal);
      if (destination.to !== "ground" || planned.has(deviceEnd(device.id, terminal.id))) continue;
      const amps2 = returnAmps(build, power, device, kind3);
      list.add(deviceEnd(device.id, terminal.id), groundEnd(destination.place), {
        colour: "BK",
        metres: GROUND_TAIL_METRES,
        signal: "ground",
        amps: amps2,
        squareMm: returnSquareMm(build, power, device, kind3, amps2),
        deviceId: device.id
      });
    }
  }
}
function addFeeds(list, build, needs, power) {
  const { plan, sizes: sizes2, circuits } = power;
  const returns = plannedReturns(build, needs, power);
  const order = new Map(circuits.map(({ id: id3 }, at) => [id3, at]));
  const owner = (link) => {
    const fuse = sizes2.links.get(link.id)?.fuse;
    return link.feed ?? (fuse ? readPart(fuse).name : null);
  };
  for (const link of plan.links) {
    const feed2 = owner(link);
    const sized = sizes2.links.get(link.id);
    const device = deviceAt(link.to) ?? deviceAt(link.from);
    const earthed = returns.has(link.id);
    const alone = circuits.find(({ id: id3 }) => id3 === feed2)?.loads.length === 1;
    if (sized)
      list.addPlanned(sized, link.cuts ?? 0, {
        colour: classColour("supply", (feed2 === null ? 0 : order.get(feed2) ?? 0) + 2),
        signal: "supply",
        circuitId: feed2,
        deviceId: link.role === "trunk" && alone ? null : device
      });
    else
      list.add(link.from, link.to, {
        colour: earthed ? "BK" : classColour("supply", 0),
        metres: link.metres,
        fixed: link.fixed,
        signal: earthed ? "ground" : "supply",
        circuitId: link.role === "return" ? feed2 : null,
        amps: returns.get(link.id)?.amps ?? 0,
        squareMm: returns.get(link.id)?.squareMm,
        deviceId: device
      });
  }
}
function addMainRelayDriver(list, build, parts3) {
  const [pin2] = pinsOfKind(build.ecu, "main-relay");
  const windings = parts3.flatMap(
    ({ name: name3, part: part2 }) => part2.kind === "relay" && part2.control === "main-relay-pin" ? [windingEnds(name3, part2).driver] : []
  );
  if (!pin2 || windings.length === 0) return;
  const wire = {
    signal: "output",
    colour: classColour("output", 0),
    amps: WINDING_AMPS,
    metres: TO_BOX_METRES
  };
  const from = windings.length === 1 ? ecuEnd(pin2.id) : spliceEnd(pin2.id);
  if (windings.length > 1)
    list.add(ecuEnd(pin2.id), from, {
      ...wire,
      metres: SPLICE_METRES,
      local: true,
      amps: WINDING_AMPS * windings.length
    });
  for (const winding of windings) list.add(from, winding, wire);
}
function needsByDevice(needs) {
  const owned = needs.flatMap(
    (need) => [need.deviceId, ...need.joined.map(({ deviceId }) => deviceId)].flatMap(
      (deviceId) => deviceId === null ? [] : [{ deviceId, need }]
    )
  );
  return new Map(
    [...groupBy(owned, ({ deviceId }) => deviceId)].map(([id3, own2]) => [id3, [...new Set(own2.map(({ need }) => need))]])
  );
}
function joinNodes(wires) {
  const parent = /* @__PURE__ */ new Map();
  const find = (end2) => {
    let root = end2;
    while (parent.get(root) !== void 0 && parent.get(root) !== root) root = parent.get(root);
    let walk = end2;
    while (parent.get(walk) !== void 0 && parent.get(walk) !== root) {
      const next = parent.get(walk);
      parent.set(walk, root);
      walk = next;
    }
    return root;
  };
  for (const wire of wires) {
    for (const end2 of [wire.from, wire.to]) if (!parent.has(end2)) parent.set(end2, end2);
    const [a, b] = [find(wire.from), find(wire.to)];
    if (a !== b) parent.set(a < b ? b : a, a < b ? a : b);
  }
  const groups = /* @__PURE__ */ new Map();
  for (const end2 of parent.keys()) {
    const root = find(end2);
    const group = groups.get(root);
    if (group) group.push(end2);
    else groups.set(root, [end2]);
  }
  return [...groups].map(([root, ends2]) => ({ id: root, ends: ends2.sort() }));
}
function wiresByEnd(wires) {
  const byEnd = /* @__PURE__ */ new Map();
  for (const wire of wires)
    for (const end2 of [wire.from, wire.to]) {
      const at = byEnd.get(end2);
      if (at) at.push(wire);
      else byEnd.set(end2, [wire]);
    }
  return byEnd;
}
var isJoinedAlike = (now, before) => now.length === before.length && now.every(({ from, to }, i) => from === before[i].from && to === before[i].to);
function namesOf(build, circuits, parts3, before) {
  const devices = keepMap(new Map(build.devices.map(({ id: id3, label: label2 }) => [id3, label2])), before?.devices);
  const named3 = keepMap(new Map(circuits.map(({ id: id3, name: name3 }) => [id3, name3])), before?.circuits);
  const plugs = Object.entries(build.tree.nodes).flatMap(
    ([id3, { kind: kind3, name: name3 }]) => kind3 === "plug" ? [[partId("plug", id3), name3 || id3]] : []
  );
  const planned = keepMap(new Map([...parts3.map(({ id: id3, part: part2 }) => [id3, part2.name]), ...plugs]), before?.parts);
  if (before && devices === before.devices && named3 === before.circuits && planned === before.parts) return before;
  return { devices, circuits: named3, parts: planned };
}
function netlist(build, needs = needsOf(build), power = powerPlan(build), devices = knownDevices(build), before = null) {
  const pins = new Map(build.ecu.pins.map((pin2) => [pin2.id, pin2]));
  const colours = pinColours(build.ecu, build.loom.origin === "flying-lead");
  const list = new WireList(build);
  addNeedWires(list, build, needs, pins, colours);
  addSupplies(list, build, colours);
  const { circuits } = power;
  const parts3 = [...power.plan.parts.values()];
  const planned = new Set(power.plan.links.flatMap(({ from, to }) => [from, to]));
  addEcuGrounds(list, build, needs, colours, planned);
  addGrounds(list, build, power, planned);
  addFeeds(list, build, needs, power);
  addMainRelayDriver(list, build, parts3);
  joinKeyFeeds(list, build);
  addLines(list, build, power);
  const needOfPin = /* @__PURE__ */ new Map();
  for (const need of needs) {
    const pinId = build.assignments[need.id];
    if (pinId !== void 0) needOfPin.set(pinId, need);
  }
  const cavities = keepList(
    build.ecu.pins.map((pin2) => {
      const need = needOfPin.get(pin2.id);
      return { pin: pin2, needId: need?.id ?? null, label: need?.label ?? "", signal: classOfPin(pin2) };
    }),
    before?.cavities,
    ({ pin: pin2 }) => before?.cavityOf.get(pin2.id)
  );
  const laid2 = layWires(build, list.drafts, (id3) => power.plan.parts.get(id3)?.part.box);
  const nodes = before && isJoinedAlike(laid2.pieces, before.wires) ? before.nodes : keepList(joinNodes(laid2.pieces), before?.nodes, ({ id: id3 }) => before?.nodeOf.get(id3));
  const nodeOf = nodes === before?.nodes ? before.nodeOf : new Map(nodes.flatMap((node) => node.ends.map((end2) => [end2, node])));
  const coloured = tellApart(build, list.drafts, laid2.passed, (end2) => nodeOf.get(end2)?.id ?? end2);
  const wires = keepList(inColour(build, laid2.pieces, coloured), before?.wires, ({ id: id3 }) => before?.wireById.get(id3));
  return {
    needs,
    cavities,
    circuits,
    power,
    parts: parts3,
    relayLoads: keepMap(loadsByRelay(power), before?.relayLoads),
    wires,
    nodes,
    wireById: wires === before?.wires ? before.wireById : new Map(wires.map((wire) => [wire.id, wire])),
    wiresAt: wires === before?.wires ? before.wiresAt : wiresByEnd(wires),
    nodeOf,
    devices,
    cavityOf: cavities === before?.cavities ? before.cavityOf : new Map(cavities.map((cavity) => [cavity.pin.id, cavity])),
    deviceOf: devices === before?.devices ? before.deviceOf : new Map(devices.map((entry2) => [entry2.device.id, entry2])),
    needsOf: needs === before?.needs ? before.needsOf : needsByDevice(needs),
    names: namesOf(build, circuits, parts3, before?.names)
  };
}

// core/units/workshop.ts
var WATTS_PER_HP = 745.6999;
var GRAMS_PER_POUND = 453.59237;
var CC_PER_POUND_HOUR = 10.5;
var scale = (unit, decimals, factor = 1) => ({ unit, factor, shift: 0, decimals });
var scales = {
  displacement: { metric: scale("cc", 0), inch: scale("cu in", 1, 1e3 / MM_PER_INCH ** 3) },
  power: { metric: scale("kW", 0), inch: scale("hp", 0, 1e3 / WATTS_PER_HP) },
  flow: { metric: scale("cc/min", 0), inch: scale("lb/h", 1, 1 / CC_PER_POUND_HOUR) },
  consumption: { metric: scale("g/kWh", 0), inch: scale("lb/hp\xB7h", 3, WATTS_PER_HP / 1e3 / GRAMS_PER_POUND) },
  altitude: { metric: scale("m", 0), inch: scale("ft", 0, 1 / METRES_PER_FOOT) },
  diameter: { metric: scale("mm", 0), inch: scale("in", 2, 1 / MM_PER_INCH) },
  thickness: { metric: scale("mm", 1), inch: scale("in", 2, 1 / MM_PER_INCH) },
  /** Crimp heights are given to the hundredth, or to the thousandth of an inch. */
  crimp: { metric: scale("mm", 2), inch: scale("in", 3, 1 / MM_PER_INCH) },
  /** Inside Gonyx in grams. */
  weight: { metric: scale("kg", 2, 1e-3), inch: scale("lb", 2, 1 / GRAMS_PER_POUND) },
  rolled: { metric: scale("m", 3), inch: scale("in", 1, 1e3 / MM_PER_INCH) },
  "distance-pulses": { metric: scale("a km", 0), inch: scale("a mile", 0, KM_PER_MILE) }
};
var measureScale = (measure, units) => scales[measure][units.workshop];
function readMeasure(measure, inside2, { units }) {
  const { unit, factor, decimals } = measureScale(measure, units);
  return `${Number((inside2 * factor).toFixed(decimals))} ${unit}`;
}
var STEPS_PER_INCH = 2;
var INCHES_PER_FOOT = 12;
function readLength(metres4, { units }) {
  if (units.workshop === "metric") return `${metres4.toFixed(2)} m`;
  const steps3 = Math.round(Math.abs(metres4) * 1e3 / MM_PER_INCH * STEPS_PER_INCH);
  const feet = Math.floor(steps3 / (INCHES_PER_FOOT * STEPS_PER_INCH));
  const left = steps3 - feet * INCHES_PER_FOOT * STEPS_PER_INCH;
  const whole2 = Math.floor(left / STEPS_PER_INCH);
  const inches = `${whole2 > 0 || left === 0 ? whole2 : ""}${left % STEPS_PER_INCH === 0 ? "" : "\xBD"} in`;
  const sign = metres4 < 0 && steps3 > 0 ? "-" : "";
  if (feet === 0) return `${sign}${inches}`;
  return left === 0 ? `${sign}${feet} ft` : `${sign}${feet} ft ${inches}`;
}
var NUMBER = String.raw`(\d{1,6}(?:[.,]\d{1,4})?|[.,]\d{1,4})`;
var FRACTION = String.raw`(?:\s*(½|¼|¾)|[\s-]+(\d{1,2})\/(\d{1,2}))?`;
var FEET = new RegExp(
  String.raw`^${NUMBER}\s*(?:ft|feet|foot|')\.?\s*(?:${NUMBER}${FRACTION}\s*(?:in|inch|inches|")?\.?)?$`
);
var INCHES = new RegExp(
  String.raw`^(?:${NUMBER}${FRACTION}|(½|¼|¾)|(\d{1,2})\/(\d{1,2}))\s*(?:in|inch|inches|")\.?$`
);
var METRIC = new RegExp(String.raw`^${NUMBER}\s*(mm|cm|m|metres?|meters?)\.?$`);
var BARE = new RegExp(String.raw`^${NUMBER}$`);

// core/netlist/revisions.ts
function letterAt(index) {
  const letter = String.fromCharCode(65 + index % 26);
  return index < 26 ? letter : letterAt(Math.floor(index / 26) - 1) + letter;
}
var nextLetter = (build) => letterAt(build.revisions.length);
var revise = (build, note, at) => ({
  ...build,
  revisions: [...build.revisions, { letter: nextLetter(build), at, note, plan: planOf(build) }]
});

// core/edits/proof.ts
var replaceCase = (build, id3, change) => ({
  ...build,
  cases: build.cases.map((one2) => one2.id === id3 ? change(one2) : one2)
});
var proofEdits = {
  recordReading: edit(
    z26.object({ testId: z26.string().min(1).max(200), reading: readingSchema }),
    ({ reading: reading2 }) => `Record ${reading2.title}`,
    (build, { testId, reading: reading2 }) => ok({
      ...build,
      prove: {
        ...build.prove,
        by: reading2.by || build.prove.by,
        readings: { ...build.prove.readings, [testId]: reading2 }
      }
    })
  ),
  clearReading: edit(
    z26.object({ testIds: z26.array(z26.string().max(200)).min(1).max(2e3) }),
    ({ testIds }) => testIds.length === 1 ? "Clear a reading" : `Clear ${testIds.length} readings`,
    (build, { testIds }) => {
      const gone = new Set(testIds);
      const readings2 = Object.fromEntries(Object.entries(build.prove.readings).filter(([id3]) => !gone.has(id3)));
      return ok({ ...build, prove: { ...build.prove, readings: readings2 } });
    }
  ),
  setMeter: edit(
    z26.object({ leadOhms: z26.number().min(0).max(5).optional(), by: z26.string().max(40).optional() }),
    () => "Set the meter leads",
    (build, fields) => ok({ ...build, prove: { ...build.prove, ...fields } })
  ),
  confirmCheck: edit(
    z26.object({
      gateId: z26.string().max(40),
      checkId: z26.string().max(200),
      confirmation: confirmationSchema.omit({ on: true }).nullable()
    }),
    ({ confirmation }) => confirmation ? "Confirm a check" : "Take a check back",
    (build, { gateId, checkId, confirmation }) => {
      const gate = { ...build.fireup[gateId] };
      if (confirmation) gate[checkId] = { ...confirmation, on: checkFacts(build, gateId, checkId) };
      else delete gate[checkId];
      return ok({ ...build, fireup: { ...build.fireup, [gateId]: gate } });
    }
  ),
  setAside: edit(
    asideSchema.extend({ findingId: z26.string().min(1).max(200) }),
    ({ rule }) => `Set ${rule} aside`,
    (build, { findingId, ...aside }) => isBinding(aside.rule) || isBinding(findingId.split(":")[0]) ? fail(
      "binding",
      "rule",
      `${aside.rule} cannot be set aside: it guards people. Mend it, or leave it to a licensed workshop.`
    ) : ok({ ...build, aside: { ...build.aside, [findingId]: aside } })
  ),
  takeUp: edit(
    z26.object({ findingId: z26.string().min(1).max(200) }),
    ({ findingId }) => `Take ${findingId.split(":")[0]} up again`,
    (build, { findingId }) => {
      if (!Object.hasOwn(build.aside, findingId))
        return fail("no-finding", "findingId", `No finding ${findingId} is set aside.`);
      const aside = { ...build.aside };
      delete aside[findingId];
      return ok({ ...build, aside });
    }
  ),
  openCase: edit(
    z26.object({ id: z26.string().min(1).max(120), symptomId: z26.string().max(200), at: z26.iso.datetime() }),
    () => "Open a case",
    (build, { id: id3, symptomId, at }) => {
      if (build.cases.length >= 100)
        return fail("too-many", "cases", "A build keeps at most 100 cases: export it and start a fresh copy.");
      return ok({ ...build, cases: [...build.cases, { id: id3, symptomId, openedAt: at, readings: [], closed: null }] });
    }
  ),
  addCaseReading: edit(
    z26.object({ caseId: z26.string(), testId: z26.string().max(200), value: z26.number().nullable(), at: z26.iso.datetime() }),
    () => "Enter a reading",
    (build, { caseId, testId, value, at }) => ok(
      replaceCase(build, caseId, (one2) => ({
        ...one2,
        readings: [...one2.readings.filter((reading2) => reading2.testId !== testId), { testId, value, at }]
      }))
    )
  ),
  removeCaseReading: edit(
    z26.object({ caseId: z26.string(), testId: z26.string() }),
    () => "Take a reading back",
    (build, { caseId, testId }) => ok(
      replaceCase(build, caseId, (one2) => ({
        ...one2,
        readings: one2.readings.filter((reading2) => reading2.testId !== testId)
      }))
    )
  ),
  closeCase: edit(
    z26.object({
      caseId: z26.string(),
      faultId: z26.string().max(200),
      title: z26.string().max(200),
      note: z26.string().max(400),
      at: z26.iso.datetime()
    }),
    ({ title }) => `Close the case: ${title}`,
    (build, { caseId, ...closed }) => ok(replaceCase(build, caseId, (one2) => ({ ...one2, closed })))
  ),
  saveRevision: edit(
    z26.object({ note: z26.string().max(300), at: z26.iso.datetime() }),
    (_, build) => `Save revision ${nextLetter(build)}`,
    (build, { note, at }) => build.revisions.length >= 52 ? fail("too-many", "revisions", "A build keeps at most 52 revisions.") : ok(revise(build, note, at))
  )
};

// core/prove/tests.ts
function copperFrom(net, from, targets) {
  const wanted = new Set(targets);
  const found2 = /* @__PURE__ */ new Map();
  const seen = /* @__PURE__ */ new Set([from]);
  const way = [];
  const walk = (end2) => {
    if (wanted.delete(end2)) found2.set(end2, [...way]);
    for (const wire of net.wiresAt.get(end2) ?? []) {
      if (wanted.size === 0) return;
      const next = otherEnd(wire, end2);
      if (seen.has(next)) continue;
      seen.add(next);
      way.push(wire);
      walk(next);
      way.pop();
    }
  };
  walk(from);
  return found2;
}
function continuities(net, hold, touches2) {
  const copper = copperFrom(net, hold, touches2);
  return touches2.map((touch) => continuity(net, hold, touch, copper.get(touch) ?? []));
}
function continuity(net, hold, touch, wires) {
  const expected = wires.reduce((sum, wire) => sum + endToEndOhms(wire), 0);
  return {
    id: continuityId(hold, touch),
    kind: "continuity",
    hold,
    touch,
    title: `${labelOf(net, hold)} to ${labelOf(net, touch)}`,
    wireIds: wires.map((wire) => wire.id),
    unit: "ohms",
    expected,
    limit: continuityLimit(expected)
  };
}
function withFar(net, end2) {
  const [wire] = net.wiresAt.get(end2) ?? [];
  if (!wire || endType(end2) !== "ecu") return end2;
  return `${end2}>${otherEnd(wire, end2)}`;
}
var isolation = (net, hold, touch) => ({
  id: `i|${withFar(net, hold)}|${withFar(net, touch)}`,
  kind: "isolation",
  hold,
  touch,
  title: `${labelOf(net, hold)} against ${labelOf(net, touch)}`,
  wireIds: [],
  unit: "ohms",
  expected: null,
  limit: ISOLATED_OHMS
});
var isProbed = (end2) => endType(end2) !== "splice" && endType(end2) !== "plug";
function testsAtCavity(build, net, hold, node, paired) {
  const sink = node.ends.find(isSink);
  const touches2 = sink ? [sink] : node.ends.filter((end2) => end2 !== hold && isProbed(end2));
  const tests = continuities(net, hold, touches2);
  if (!sink) tests.push(isolation(net, hold, groundEnd("chassis")));
  const pin2 = withId(build.ecu.pins, pinAt(hold));
  const connector = withId(build.ecu.connectors, pin2.connector);
  if (!connector) return tests;
  for (const cavity of neighbourCavities(connector, pin2.cavity)) {
    const other = ecuEnd(pinIdOf(pin2.connector, cavity));
    const otherNode = net.nodeOf.get(other);
    if (!otherNode || otherNode === node) continue;
    const key = hold < other ? `${hold}|${other}` : `${other}|${hold}`;
    if (paired.has(key)) continue;
    paired.add(key);
    tests.push(isolation(net, hold, other));
  }
  return tests;
}
function testsAtHub(net, node) {
  const rank = (end2) => ["battery", "key", "ground", "relay", "fuse", "device", "shield"].indexOf(endType(end2));
  const ends2 = node.ends.filter((end2) => isProbed(end2) && endType(end2) !== "ecu").sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : 1));
  const [hub, ...rest] = ends2;
  if (!hub) return [];
  const tests = continuities(net, hub, rest);
  return isSink(hub) || rest.length === 0 ? tests : [...tests, isolation(net, hub, groundEnd("chassis"))];
}
function proveTests(build, net) {
  const paired = /* @__PURE__ */ new Set();
  const tests = halfTests(build, net);
  const shared = /* @__PURE__ */ new Set();
  for (const { pin: pin2 } of net.cavities) {
    const hold = ecuEnd(pin2.id);
    const node = net.nodeOf.get(hold);
    if (!node) continue;
    const sunk = node.ends.some(isSink);
    if (!sunk && shared.has(node)) {
      continue;
    }
    shared.add(node);
    tests.push(...testsAtCavity(build, net, hold, node, paired));
  }
  for (const node of net.nodes) if (!shared.has(node) || node.ends.some(isSink)) tests.push(...testsAtHub(net, node));
  for (const use of outputUses(build, net.needs)) {
    const touch = withId(net.needs, use.needId).end;
    const answers = (use.means?.cylinders ?? []).map((cylinder) => answerOf(cylinder, use.means.row));
    tests.push({
      id: `o|${ecuEnd(use.pinId)}|${touch}`,
      kind: "order",
      hold: ecuEnd(use.pinId),
      touch,
      title: `${use.kind === "injector" ? "Injection" : "Ignition"} output ${use.output}, pin ${use.pinId}`,
      wireIds: [],
      unit: "cylinder",
      expected: answers[0] ?? null,
      works: {
        answers,
        words: meantWords(build.engine, use),
        chamber: build.engine.kind === "rotary" ? "rotor" : "cylinder",
        second: rowWords(build.engine, use.kind, 2)
      },
      limit: 0
    });
  }
  return tests;
}

// core/edits/proofs.ts
var touches = ["feeds", "devices", "kinds", "shared", "power", "groundUse", "tree"];
var looms = /* @__PURE__ */ new WeakMap();
function loomOf(build) {
  const known9 = looms.get(build) ?? netlist(build);
  looms.set(build, known9);
  return known9;
}
var provedBy = (build) => new Map(
  [...proveTests(build, loomOf(build)), ...halfTests(build, loomOf(build), "kept")].map(({ id: id3, wireIds: wireIds2 }) => [
    id3,
    [...wireIds2].sort().join(" ")
  ])
);
function withProofs(before, after) {
  const ids = Object.keys(after.prove.readings);
  if (ids.length === 0 || touches.every((key) => before[key] === after[key])) return after;
  const [was, is] = [loomOf(before), loomOf(after)];
  if (was.wires.every(({ id: id3 }) => is.wireById.has(id3))) return after;
  const [old, now] = [provedBy(before), provedBy(after)];
  const cut = new Set(ids.filter((id3) => old.has(id3) && now.has(id3) && old.get(id3) !== now.get(id3)));
  if (cut.size === 0) return after;
  const readings2 = Object.fromEntries(Object.entries(after.prove.readings).filter(([id3]) => !cut.has(id3)));
  return { ...after, prove: { ...after.prove, readings: readings2 } };
}

// core/edits/stores.ts
import { z as z27 } from "zod";

// core/loom/cutting.ts
var ROUNDING2 = 1e-9;
function cuttingPlan(pieces, stock, spoolMetres) {
  const open = stock.map(({ id: id3, metres: metres4 }) => ({
    stockId: id3,
    metres: metres4,
    pieces: [],
    left: metres4
  }));
  const tooLong = [];
  const longest = [...pieces].sort((one2, other) => other.metres - one2.metres || (one2.id < other.id ? -1 : 1));
  for (const piece2 of longest) {
    let best = null;
    for (const one2 of open) {
      if (one2.left + ROUNDING2 < piece2.metres) continue;
      if (best === null || one2.left < best.left - ROUNDING2) best = one2;
    }
    if (best === null) {
      if (piece2.metres > spoolMetres + ROUNDING2) {
        tooLong.push(piece2);
        continue;
      }
      best = { stockId: null, metres: spoolMetres, pieces: [], left: spoolMetres };
      open.push(best);
    }
    best.pieces.push(piece2);
    best.left = Math.max(0, best.left - piece2.metres);
  }
  const wanted = pieces.reduce((sum, { metres: metres4, id: id3 }) => sum + (tooLong.some((one2) => one2.id === id3) ? 0 : metres4), 0);
  const shelf = stock.reduce((sum, { metres: metres4 }) => sum + metres4, 0);
  return {
    cuts: open.filter((one2) => one2.pieces.length > 0),
    tooLong,
    bought: open.filter(({ stockId }) => stockId === null).length,
    boundBought: Math.max(0, Math.ceil((wanted - shelf) / spoolMetres - ROUNDING2))
  };
}

// core/loom/shelf.ts
function cuttingOf({ stores }, net) {
  const shelf = groupBy(stores.spools, ({ colour, squareMm }) => `${colour} ${squareMm}`);
  return [...groupBy(net.wires, ({ colour, squareMm }) => `${colour} ${squareMm}`)].map(([key, wires]) => {
    const { colour, squareMm } = wires[0];
    const pieces = wires.map(({ id: id3, lengthMetres }) => ({ id: id3, metres: lengthMetres }));
    return { colour, squareMm, plan: cuttingPlan(pieces, shelf.get(key) ?? [], stores.spoolMetres) };
  }).sort((one2, other) => other.squareMm - one2.squareMm || one2.colour.localeCompare(other.colour));
}

// core/edits/stores.ts
var withStores = (build, changes) => ({
  ...build,
  stores: { ...build.stores, ...changes }
});
var nothing = { have: 0, ordered: 0, arrived: 0, price: null, supplier: "" };
var LEAST_LEFTOVER = 0.1;
var storesEdits = {
  putSpool: edit(
    z27.object({ spool: spoolSchema }),
    ({ spool }) => `${spool.metres} m of ${spool.colour} on the shelf`,
    (build, { spool }) => {
      const others = build.stores.spools.filter(({ id: id3 }) => id3 !== spool.id);
      return others.length >= MOST_SPOOLS ? fail("full", "spool", `The shelf holds ${MOST_SPOOLS} spools.`) : ok(withStores(build, { spools: [...others, spool] }));
    }
  ),
  removeSpool: edit(
    z27.object({ id: spoolSchema.shape.id }),
    ({ id: id3 }) => `Take spool ${id3} from the shelf`,
    (build, { id: id3 }) => build.stores.spools.some((spool) => spool.id === id3) ? ok(withStores(build, { spools: build.stores.spools.filter((spool) => spool.id !== id3) })) : fail("no-spool", "id", `There is no spool ${id3} on the shelf.`)
  ),
  setSpoolLength: edit(
    z27.object({ metres: storesSchema.shape.spoolMetres }),
    ({ metres: metres4 }) => `Spools of ${metres4} m`,
    (build, { metres: metres4 }) => ok(withStores(build, { spoolMetres: metres4 }))
  ),
  /** The shelf as it is once the whole loom is cut by the plan. */
  cutFromShelf: edit(
    z27.strictObject({}),
    () => "Cut the loom from the shelf",
    (build) => {
      const spools = new Map(build.stores.spools.map((spool) => [spool.id, spool]));
      let number = 1;
      const freshId = () => {
        while (spools.has(`left-${number}`)) number += 1;
        return `left-${number}`;
      };
      for (const { colour, squareMm, plan } of cuttingOf(build, netlist(build)))
        for (const { stockId, left } of plan.cuts) {
          const was = stockId === null ? void 0 : spools.get(stockId);
          const now = { id: was?.id ?? freshId(), colour, squareMm, metres: Math.round(left * 100) / 100 };
          if (now.metres < LEAST_LEFTOVER) spools.delete(now.id);
          else spools.set(now.id, now);
        }
      return ok(withStores(build, { spools: [...spools.values()].slice(0, MOST_SPOOLS) }));
    }
  ),
  setBought: edit(
    z27.object({ key: z27.string().min(1).max(160), changes: boughtSchema.partial() }),
    ({ key }) => `Note of ${key}`,
    (build, { key, changes }) => ok(
      withStores(build, {
        parts: { ...build.stores.parts, [key]: { ...build.stores.parts[key] ?? nothing, ...changes } }
      })
    )
  )
};

// core/edits/survey.ts
import { z as z28 } from "zod";

// core/devices/name.ts
var apart = /\s+(?:with|without)\s+.*$|\s+in one\b.*$|\s+on\s+(?:CAN|the gearbox)$|\s+straight into\b.*$/i;
function shortKindName(name3) {
  const parts3 = name3.split(",");
  const head = (/^gauge sender$/i.test(parts3[0]) && parts3[1] ? `${parts3[0]}${parts3[1]}` : parts3[0]).replace(apart, "").trim();
  const bare = head.replace(/\s+sensor$/i, "");
  const said = /^(crank|cam|knock|speed|wheel speed|turbocharger speed|position|wideband|oxygen|narrow-band oxygen|fuel composition)$/i.test(
    bare
  ) ? head : bare;
  return said === "" ? name3 : said;
}
function freeLabel(base, taken) {
  if (!taken.has(base)) return base;
  let number = 2;
  while (taken.has(`${base} ${number}`)) number += 1;
  return `${base} ${number}`;
}

// core/edits/places.ts
function placesWithout(build, kind3) {
  const { engine: engine2 } = build;
  const coil = trait(kind3, "coil");
  const rows = coil ? rowsOf(engine2, "ignition") : trait(kind3, "injector") ? rowsOf(engine2, "injector") : 1;
  const sets = coil && coil.serves > 1 ? setsOfTurn(engine2).filter((set) => set.length === coil.serves) : engine2.firingOrder.map((cylinder) => [cylinder]);
  const rising = sets.map((set) => [...set].sort((one2, other) => one2 - other)).sort((one2, other) => one2[0] - other[0]);
  const fitted2 = build.devices.filter((device) => device.kindId === kind3.id);
  return [1, 2].slice(0, rows).flatMap((row) => rising.map((serves) => ({ serves, row }))).filter(
    ({ serves, row }) => !fitted2.some((one2) => one2.row === row && one2.serves.some((at) => serves.includes(at)))
  );
}
function placeLabel(engine2, kind3, { serves, row }) {
  const which = serves.join("+");
  if (trait(kind3, "injector")) return engine2.injectors === 2 ? `${which} ${row === 1 ? "pri" : "sec"}` : which;
  if (!trait(kind3, "coil") || engine2.plugs === 1) return which;
  return engine2.kind === "rotary" ? `${row === 1 ? "L" : "T"}${which}` : `${which}${row === 1 ? "a" : "b"}`;
}

// core/edits/survey.ts
var replaceDevice = (build, device) => ({
  ...build,
  devices: build.devices.map((one2) => one2.id === device.id ? device : one2)
});
function freeId(build, kindId) {
  const taken = new Set(build.devices.map((device) => device.id));
  const windings = new Set([...taken].map(windingOwner));
  let number = 1;
  const id3 = () => `${kindId}-${number}`;
  while (taken.has(id3()) || windings.has(id3()) || taken.has(windingOwner(id3()))) number += 1;
  return id3();
}
var branchDefaults = { Driver: 0.8, "Bus and dash": 0.9, "Start and charge": 1.6 };
var surveyEdits = {
  renameBuild: edit(
    z28.object({
      name: z28.string().trim().min(1).max(80),
      vehicle: z28.string().max(120).optional(),
      notes: z28.string().max(4e3).optional()
    }),
    () => "Name the build",
    (build, args) => ok({ ...build, name: args.name, vehicle: args.vehicle ?? build.vehicle, notes: args.notes ?? build.notes })
  ),
  setEngine: edit(
    z28.object({ engine: engineSchema }),
    () => "Change the engine",
    (build, { engine: engine2 }) => ok(dropStale({ ...build, engine: engine2 }))
  ),
  setSite: edit(
    z28.object({ altitudeMetres: z28.number().min(-430).max(6e3), ambientCelsius: z28.number().min(-40).max(60) }),
    () => "Set altitude and ambient",
    (build, site) => ok({ ...build, site })
  ),
  chooseEcu: edit(
    z28.object({ ecu: ecuSchema }),
    ({ ecu }) => `Choose ${ecu.model}`,
    (build, { ecu }) => ok(
      dropStale({
        ...build,
        ecu,
        outputOrder: ecu.outputOrder,
        assignments: {},
        locked: [],
        never: [],
        shared: {},
        groundUse: {},
        joined: {}
      })
    )
  ),
  addDevice: edit(
    z28.object({
      kind: kindSchema,
      label: z28.string().min(1).max(60).optional(),
      /** One for each cylinder that has none. */
      perCylinder: z28.boolean().optional(),
      branchMetres: z28.number().min(0).max(30).optional()
    }),
    ({ kind: kind3 }) => `Add ${inSentence(kind3.name)}`,
    (build, { kind: kind3, label: label2, perCylinder, branchMetres }) => {
      const places = perCylinder ? placesWithout(build, kind3) : [{ serves: [], row: 1 }];
      if (places.length === 0)
        return trait(kind3, "coil") && trait(kind3, "coil").serves > 1 && !build.devices.some((one2) => one2.kindId === kind3.id) ? fail("no-pairs", "kind", "No two cylinders of this engine fire 360\xB0 apart, so none can share a coil.") : fail("none-missing", "kind", `Every cylinder has its ${inSentence(kind3.name)} already.`);
      let next = { ...build, kinds: { ...build.kinds, [kind3.id]: kind3 } };
      const taken = new Set(build.devices.map((device) => device.label));
      for (const place3 of places) {
        const base = label2 ?? shortKindName(kind3.name);
        const device = {
          id: freeId(next, kind3.id),
          kindId: kind3.id,
          label: (perCylinder ? `${base} ${placeLabel(build.engine, kind3, place3)}` : label2 ? base : freeLabel(base, taken)).slice(0, 60),
          ...place3,
          bank: null,
          branchMetres: branchMetres ?? branchDefaults[kind3.system] ?? 1.5 + (place3.serves[0] ?? 0) * 0.1,
          terminalsConfirmed: false,
          shield: kind3.shielded ? "ecu-end" : "none",
          overrides: {},
          labelled: false,
          pullUpOhms: null,
          leadWire: hasRole(kind3, "thermocouple") ? "type-k" : "copper",
          ecuCurves: {}
        };
        next = { ...next, devices: [...next.devices, device] };
      }
      if (next.devices.length > 300) return fail("too-many", "devices", "A build holds at most 300 devices.");
      return ok(next);
    }
  ),
  editDevice: edit(
    z28.object({
      deviceId: z28.string(),
      label: deviceSchema.shape.label.optional(),
      serves: deviceSchema.shape.serves.optional(),
      row: deviceSchema.shape.row.optional(),
      bank: deviceSchema.shape.bank.optional(),
      branchMetres: deviceSchema.shape.branchMetres.optional(),
      terminalsConfirmed: z28.boolean().optional(),
      shield: deviceSchema.shape.shield.optional(),
      labelled: z28.boolean().optional(),
      leadWire: deviceSchema.shape.leadWire.optional()
    }),
    (args, build) => `Change ${withId(build.devices, args.deviceId)?.label ?? "device"}`,
    (build, { deviceId, ...fields }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      if (fields.serves?.some((cylinder) => cylinder > build.engine.cylinders))
        return fail("range", "serves", `The cylinder must be from 1 to ${build.engine.cylinders}.`);
      const serves = [...new Set(fields.serves ?? device.serves)].sort((one2, other) => one2 - other);
      return ok(replaceDevice(build, { ...device, ...fields, serves }));
    }
  ),
  setDestination: edit(
    z28.object({ deviceId: z28.string(), terminalId: z28.string(), destination: destinationSchema.nullable() }),
    (args, build) => `Rewire ${withId(build.devices, args.deviceId)?.label ?? "device"} ${args.terminalId}`,
    (build, { deviceId, terminalId: terminalId2, destination }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      if (!build.kinds[device.kindId]?.terminals.some((terminal) => terminal.id === terminalId2))
        return fail("no-terminal", "terminalId", `${device.label} has no terminal ${terminalId2}.`);
      const overrides = { ...device.overrides };
      if (destination === null) delete overrides[terminalId2];
      else overrides[terminalId2] = destination;
      const next = replaceDevice(build, { ...device, overrides });
      const feeds = destination === null || destination.to === "feed" || destination.to === "ground" ? build.feeds : withoutWiresTo(build.feeds, deviceEnd(deviceId, terminalId2));
      return ok(dropStale({ ...next, feeds }));
    }
  ),
  removeDevice: edit(
    z28.object({ deviceId: z28.string() }),
    (args, build) => `Remove ${withId(build.devices, args.deviceId)?.label ?? "device"}`,
    (build, { deviceId }) => {
      const device = withId(build.devices, deviceId);
      if (!device) return noDevice(deviceId);
      const devices = build.devices.filter((one2) => one2.id !== deviceId);
      const used = new Set(devices.map((one2) => one2.kindId));
      const kinds2 = Object.fromEntries(Object.entries(build.kinds).filter(([kindId]) => used.has(kindId)));
      return ok(dropStale({ ...build, devices, kinds: kinds2 }));
    }
  )
};

// core/edits/tree.ts
import { z as z29 } from "zod";

// core/loom/names.ts
function placeName({ tree, ecu }, id3) {
  const node = tree.nodes[id3];
  if (node?.name) return node.name;
  return node?.kind === "ecu" ? ecu.model : node?.kind === "box" ? "box" : id3;
}
function segmentName(build, id3) {
  const piece2 = build.tree.segments[id3];
  return piece2 ? `${placeName(build, piece2.a)} to ${placeName(build, piece2.b)}` : id3;
}
var words2 = {
  [ECU_THING]: "the ECU",
  [LOOSE_BOX]: "fuses and relays",
  [BATTERY_THING]: "battery positive",
  [groundThing("battery")]: "battery negative",
  [groundThing("head")]: "engine block",
  [groundThing("chassis")]: "chassis ground",
  [KEY_THINGS[0]]: "key, run",
  [KEY_THINGS[1]]: "key, start"
};

// core/netlist/whole.ts
var known5 = /* @__PURE__ */ new WeakMap();
function wholeWires({ wires }) {
  const before = known5.get(wires);
  if (before) return before;
  const whole2 = /* @__PURE__ */ new Map();
  for (const wire of wires) {
    const id3 = wire.cutOf ?? wire.id;
    const first2 = whole2.get(id3);
    whole2.set(
      id3,
      first2 ? { ...first2, pieces: [...first2.pieces, wire], to: wire.to, route: [...first2.route, ...wire.route] } : { id: id3, pieces: [wire], from: wire.from, to: wire.to, route: wire.route }
    );
  }
  known5.set(wires, whole2);
  return whole2;
}
function asOne({ pieces, to, route }) {
  const [first2] = pieces;
  if (pieces.length === 1) return first2;
  const sum = (of) => pieces.reduce((all, wire) => all + of(wire), 0);
  return {
    ...first2,
    to,
    route,
    lengthMetres: Math.round(sum(({ lengthMetres }) => lengthMetres) * 100) / 100,
    ohms: sum(({ ohms: ohms2 }) => ohms2)
  };
}
function farOf(net, wire, end2) {
  const { from, to } = wholeWires(net).get(wire.cutOf ?? wire.id);
  return from === end2 ? to : to === end2 ? from : wire.from === end2 ? wire.to : wire.from;
}

// core/loom/plug.ts
var usualCounts = [2, 3, 4, 6, 8, 10, 12, 16, 20, 24, 28, 34, 38, 47, 55, 66, 85, 104, 128, 160, 200];
var SPARE_CAVITIES = 2;
var ROWS = [
  [6, 1],
  [16, 2],
  [47, 3],
  [200, 5]
];
function passingWires({ tree }, net, node) {
  const meets = new Set(
    Object.entries(tree.segments).flatMap(([id3, { a, b }]) => a === node || b === node ? [id3] : [])
  );
  return [...wholeWires(net).values()].flatMap(
    ({ id: id3, pieces: [wire], route }) => route.filter((segment) => meets.has(segment)).length > 1 ? [{ id: id3, signal: wire.signal, squareMm: wire.squareMm, amps: wire.amps, cable: wire.cable }] : []
  );
}
function plugFor(wires, shell) {
  const cavities = usualCounts.find((count2) => count2 >= wires.length + SPARE_CAVITIES) ?? usualCounts[usualCounts.length - 1];
  const rows = ROWS.find(([upTo]) => cavities <= upTo)[1];
  return {
    shell,
    cavities,
    columns: Math.ceil(cavities / rows),
    squareMm: Math.max(USUAL_TERMINAL_SQUARE_MM, ...wires.map(({ squareMm }) => squareMm)),
    sealed: shell === "bulkhead",
    shellMillimetres: null,
    bareMillimetres: null,
    wires: {}
  };
}
var USUAL_TERMINAL_SQUARE_MM = 2.5;
var strong = /* @__PURE__ */ new Set(["supply", "ground", "output", "injector", "ignition"]);
var isPower = ({ signal, amps: amps2 }) => strong.has(signal) && amps2 >= POWER_AMPS;
var POWER_AMPS = 0.5;
function allotCavities(plug, wires) {
  const allotted2 = {};
  const taken = /* @__PURE__ */ new Set();
  const passing = new Set(wires.map(({ id: id3 }) => id3));
  for (const [id3, cavity] of Object.entries(plug.wires))
    if (passing.has(id3) && cavity <= plug.cavities && !taken.has(cavity)) {
      allotted2[id3] = cavity;
      taken.add(cavity);
    }
  const groups = /* @__PURE__ */ new Map();
  for (const wire of wires) {
    if (allotted2[wire.id] !== void 0) continue;
    const key = wire.cable ?? wire.id;
    const group = groups.get(key);
    if (group) group.push(wire);
    else groups.set(key, [wire]);
  }
  const amps2 = (group) => Math.max(...group.map((wire) => wire.amps));
  const all = [...groups.values()];
  const powers = all.filter((group) => group.some(isPower)).sort((one2, other) => amps2(other) - amps2(one2));
  const signals = all.filter((group) => !group.some(isPower)).sort((one2, other) => other.length - one2.length);
  const rowOf = (cavity) => Math.floor((cavity - 1) / plug.columns);
  const rising = Array.from({ length: plug.cavities }, (_, at) => at + 1);
  const place3 = (group, order) => {
    const start = order.find((first2) => {
      const span = group.map((_, i) => first2 + i);
      return span.every((cavity) => cavity <= plug.cavities && !taken.has(cavity) && rowOf(cavity) === rowOf(first2));
    });
    group.forEach((wire, i) => {
      const cavity = start === void 0 ? order.find((one2) => !taken.has(one2)) : start + i;
      if (cavity === void 0) return;
      allotted2[wire.id] = cavity;
      taken.add(cavity);
    });
  };
  for (const group of powers) place3(group, rising);
  const falling = [...rising].reverse();
  for (const group of signals) place3(group, falling);
  return allotted2;
}

// core/netlist/short.ts
var phrases = [
  [/\bsensor ground\b/i, "Sgnd"],
  [/\bpower ground\b/i, "Gnd"],
  [/\bbattery permanent\b/i, "Bat +"],
  [/\bsupply switched\b/i, "Key +"],
  [/\binject(or|ion)\b/i, "Inj"],
  [/\bignition\b/i, "Ign"],
  [/\bmanifold pressure\b/i, "Manif. press."],
  [/\bpressure\b/i, "press."],
  [/\btemperature\b/i, "Temp"],
  [/\bthrottle\b/i, "Throt"],
  [/\bwideband\b/i, "Wideb."],
  [/\bsolenoid\b/i, "sol."],
  [/ (relay|sensor|signal|motor|track)\b/gi, ""]
];
var narrow2 = [
  [/\bradiator\b/i, "Rad."],
  [/\bcoolant\b/i, "Cool."],
  [/\bcomposition\b/i, "comp."],
  [/\bcontroller\b/i, "contr."],
  [/\bthermocouple\b/i, "Therm."],
  [/\balternator\b/i, "Altern."],
  [/\btachometer\b/i, "Tacho"],
  [/\bturbocharger\b/i, "Turbo"],
  [/\bfrequency\b/i, "Freq."],
  [/\bposition\b/i, "pos."],
  [/\breference\b/i, "ref."],
  [/\belectric(al)?\b/i, "El."],
  [/\bexhaust\b/i, "Exh."],
  [/\bpermanent\b/i, "perm."],
  [/\bsteering\b/i, "Steer."],
  [/\bnarrow-band\b/i, "Narrow"],
  [/(\d) (m?A|V|kΩ|Ω|Hz)\b/g, "$1$2"]
];
var dragged = /(?:\s+with(?:out)?\s[^,·]*)?,[^·]*?(?=\s\d+(?:\s·|$)|\s·|$)/gi;
var tagOf = remember(
  (label2) => phrases.reduce((text3, [from, to]) => text3.replace(from, to), label2.includes(" \xB7 ") ? label2.replace(dragged, "") : label2).replace(/\s+/g, " ").trim()
);
var LINE = 7;
var shortLabel = remember((label2) => {
  const words3 = [...phrases, ...narrow2].reduce((text3, [from, to]) => text3.replace(from, to), label2).split(/\s+/).filter(Boolean).flatMap(
    (word) => word.length <= LINE ? [word] : [`${word.slice(0, LINE - 1)}-`, word.slice(LINE - 1, 2 * LINE - 1)]
  );
  const lines = [];
  for (const word of words3) {
    const last = lines[lines.length - 1];
    if (last !== void 0 && !last.endsWith("-") && `${last} ${word}`.length <= LINE)
      lines[lines.length - 1] = `${last} ${word}`;
    else if (last?.endsWith("-") === false || last === void 0 || lines.length < 2) lines.push(word);
    else lines[lines.length - 1] = `${last}${word}`;
  }
  if (lines.length <= 2) return lines.join("\n");
  const tail = lines[lines.length - 1];
  return `${lines[0].replace(/-$/, ".")}
${tail}`;
});
function namesTogether(labels) {
  const parts3 = labels.map((label2) => /^(.*?) (\d+)$/.exec(label2));
  const [first2] = parts3;
  if (!first2 || !parts3.every((part2) => part2?.[1] === first2[1])) return `${labels[0]} and ${labels.length - 1} more`;
  const numbers = parts3.map((part2) => Number(part2[2])).sort((one2, other) => one2 - other);
  const run = numbers[numbers.length - 1] - numbers[0] === numbers.length - 1;
  return `${first2[1]} ${run ? `${numbers[0]} to ${numbers[numbers.length - 1]}` : numbers.join(", ")}`;
}
function namesOfPlace(labels) {
  const stems = [...groupBy(labels, (label2) => label2.replace(/ \d+$/, "")).values()];
  const [first2 = [], ...rest] = stems;
  const name3 = first2.length > 1 ? namesTogether(first2) : first2[0] ?? "";
  const more = rest.reduce((sum, like) => sum + like.length, 0);
  return more === 0 ? name3 : `${name3} +${more}`;
}

// core/loom/noise.ts
var loudWords = {
  coil: "the coils",
  injector: "the injectors",
  machine: "starter and alternator"
};
var NEAR_METRES = 0.1;
var HARMLESS_METRES = 0.3;
function loudOf(kind3) {
  if (trait(kind3, "coil") || trait(kind3, "igniter")) return "coil";
  if (trait(kind3, "injector")) return "injector";
  return hasRole(kind3, "starter") || hasRole(kind3, "alternator") ? "machine" : null;
}
function loudSegments(build, net) {
  const loud = /* @__PURE__ */ new Map();
  const add2 = (segment, what) => {
    const at = loud.get(segment);
    if (at) at.add(what);
    else loud.set(segment, /* @__PURE__ */ new Set([what]));
  };
  const places = placesOf(build.tree);
  for (const { device, kind: kind3 } of net.devices) {
    const what = loudOf(kind3);
    const node = places.get(deviceThing(device.id));
    if (what === null || node === void 0) continue;
    for (const [id3, { a, b }] of Object.entries(build.tree.segments)) if (a === node || b === node) add2(id3, what);
  }
  for (const wire of net.wires) {
    const kind3 = net.deviceOf.get(wire.deviceId ?? "")?.kind;
    if (!kind3) continue;
    const isPrimary = trait(kind3, "coil")?.igniter === false || trait(kind3, "igniter") !== null && wire.signal === "output";
    const what = wire.signal === "injector" ? "injector" : isPrimary && wire.signal !== "ground" ? "coil" : null;
    if (what) for (const segment of wire.route) add2(segment, what);
  }
  return loud;
}
function distance(p2, a, b) {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const length = dx * dx + dy * dy;
  const share = length === 0 ? 0 : Math.min(1, Math.max(0, ((p2.x - a.x) * dx + (p2.y - a.y) * dy) / length));
  return Math.hypot(p2.x - a.x - share * dx, p2.y - a.y - share * dy);
}
var STEPS = 40;
function besideMetres(tree, one2, other) {
  const [s, t2] = [tree.segments[one2], tree.segments[other]];
  const at = (id3) => tree.nodes[id3].at;
  const [a, b, c, d] = [at(s.a), at(s.b), at(t2.a), at(t2.b)];
  if ([s.a, s.b].some((id3) => id3 === t2.a || id3 === t2.b)) return 0;
  let near = 0;
  for (let i = 0; i < STEPS; i += 1) {
    const share = (i + 0.5) / STEPS;
    const p2 = { x: a.x + (b.x - a.x) * share, y: a.y + (b.y - a.y) * share };
    if (distance(p2, c, d) < NEAR_METRES) near += 1;
  }
  return near / STEPS * s.metres;
}
var isQuiet = (kind3) => trait(kind3, "trigger") !== null || hasRole(kind3, "knock");
function noiseOf(build, net) {
  const { tree } = build;
  const loud = loudSegments(build, net);
  if (loud.size === 0) return [];
  const ways = waysOf(tree);
  const wholes = wholeWires(net);
  const beside = /* @__PURE__ */ new Map();
  const besideOf2 = (one2, other) => {
    const key = `${one2} ${other}`;
    const known9 = beside.get(key) ?? besideMetres(tree, one2, other);
    beside.set(key, known9);
    return known9;
  };
  const along = (route, what) => {
    let [bundled, near, worst, most2] = [0, 0, "", 0];
    for (const id3 of route) {
      const inBundle = loud.get(id3)?.has(what) ? tree.segments[id3].metres : 0;
      const nearby = inBundle > 0 ? 0 : Math.max(
        0,
        ...[...loud].flatMap(([other, at]) => other !== id3 && at.has(what) ? [besideOf2(id3, other)] : [])
      );
      bundled += inBundle;
      near += nearby;
      if (inBundle + nearby > most2) [worst, most2] = [id3, inBundle + nearby];
    }
    return { bundled, near, worst };
  };
  const found2 = [];
  for (const { device, kind: kind3 } of net.devices) {
    if (!isQuiet(kind3)) continue;
    const whole2 = [...wholes.values()].find(
      ({ pieces: [first2], route: all }) => first2.deviceId === device.id && first2.needId !== null && all.length > 0
    );
    if (!whole2) continue;
    const { route } = whole2;
    const wire = whole2.pieces[0];
    for (const what of ["coil", "injector", "machine"]) {
      const { bundled, near, worst } = along(route, what);
      if (bundled + near === 0) continue;
      const [first2, last] = ends(tree, route);
      const better = Object.keys(tree.segments).find((id3) => {
        if (route.includes(id3)) return false;
        const way = ways.by(first2, last, id3);
        if (!way) return false;
        const other = along(way.segments, what);
        return other.bundled + other.near < bundled + near - NEAR_METRES;
      });
      found2.push({
        deviceId: device.id,
        label: device.label,
        wire,
        screened: kind3.shielded || kind3.twisted,
        loud: what,
        bundledMetres: bundled,
        besideMetres: near,
        segment: worst,
        better: better ?? null
      });
    }
  }
  return found2.sort((one2, other) => other.bundledMetres + other.besideMetres - one2.bundledMetres - one2.besideMetres);
}
function ends({ segments }, route) {
  const [first2, last] = [segments[route[0]], segments[route[route.length - 1]]];
  if (route.length === 1) return [first2.a, first2.b];
  const [second, before] = [segments[route[1]], segments[route[route.length - 2]]];
  const free = (own2, next) => own2.a === next.a || own2.a === next.b ? own2.b : own2.a;
  return [free(first2, second), free(last, before)];
}

// core/loom/regions.ts
var roleRegions = [
  ["pump", "rear"],
  ["fan", "front"],
  ["pedal", "cabin"],
  ["start-button", "cabin"],
  ["clutch-switch", "cabin"],
  ["brake-switch", "cabin"],
  ["kill-switch", "cabin"],
  ["stand-switch", "gearbox"],
  ["tilt-switch", "cabin"],
  ["neutral-switch", "gearbox"],
  ["reverse-switch", "gearbox"],
  ["speed", "gearbox"],
  ["starter", "block"],
  ["alternator", "block"]
];
var systemRegions = {
  Trigger: "block",
  Fuel: "block",
  Ignition: "coils",
  "Air and throttle": "intake",
  Cooling: "block",
  "Oil and knock": "block",
  Exhaust: "exhaust",
  Driver: "cabin",
  "Bus and dash": "cabin",
  "Start and charge": "cabin",
  "Body plug": "cabin"
};
function regionOf(kind3) {
  if (kind3.sits) return kind3.sits;
  const byRole = roleRegions.find(([role2]) => hasRole(kind3, role2));
  if (byRole) return byRole[1];
  if (trait(kind3, "injector")) return "injectors";
  if (trait(kind3, "coil")) return "coils";
  if (kind3.system === "Fuel" && sensorsIn(kind3).some(({ quantity }) => quantity === "level")) return "rear";
  return systemRegions[kind3.system];
}
var regionZones = {
  cabin: "cabin",
  rear: "wet",
  front: "wet",
  intake: "engine",
  coils: "engine",
  injectors: "engine",
  block: "engine",
  exhaust: "engine",
  gearbox: "moving"
};
var p = (x, y) => ({ x, y });
var CAR = { length: 4.5, width: 2.7, wall: 1.95, step: 0.17 };
var engineBox = { x: 0.5, y: 0.78, width: 1.02, height: 1.1 };
var spots = {
  ecu: p(2.35, 0.4),
  inside: p(2.35, 1.3),
  outside: p(1.75, 1.3),
  top: p(1.75, 0.6),
  box: p(2.95, 2.2),
  battery: p(3.7, 2.2),
  cabin: p(2.85, 0.8),
  rear: p(4, 1.75),
  front: p(0.45, 2.35),
  intake: p(1.05, 0.18),
  coils: p(1.3, 0.86),
  injectors: p(1.3, 1.03),
  block: p(0.85, 1.02),
  exhaust: p(1.35, 2.5),
  gearbox: p(1.35, 2.15)
};
var shapes = {
  car: { length: CAR.length, width: CAR.width, hasWall: true, turned: false },
  motorcycle: { length: 2.2, width: 1.3, hasWall: false, turned: false },
  boat: { length: 7, width: 3.6, hasWall: true, turned: true },
  kart: { length: 2, width: 1.5, hasWall: false, turned: true },
  stationary: { length: 2.4, width: 1.5, hasWall: false, turned: false }
};
function layoutOf(vehicle, seat) {
  const { length, width, hasWall, turned } = shapes[vehicle];
  const isTurned = vehicle === "car" ? seat !== "front" : turned;
  const forward = vehicle === "car" && seat === "middle" ? 0.4 : 0;
  const x = (at) => round((isTurned ? CAR.length - forward - at : at) * (length / CAR.length));
  const y = (at) => round(at * (width / CAR.width));
  const box = isTurned ? engineBox.x + engineBox.width : engineBox.x;
  return {
    length,
    width,
    wall: hasWall ? x(CAR.wall) : null,
    step: CAR.step * (width / CAR.width),
    columns: {
      top: { from: y(0.18), depth: y(0.72) },
      outside: { from: y(1.02), depth: y(1.55) },
      inside: { from: y(0.8), depth: y(1.15) }
    },
    at: Object.fromEntries(
      Object.entries(spots).map(([name3, spot]) => [name3, { x: x(spot.x), y: y(spot.y) }])
    ),
    engine: {
      x: x(box),
      y: y(engineBox.y),
      width: round(engineBox.width * (length / CAR.length)),
      height: y(engineBox.height)
    }
  };
}
var round = (value) => Math.round(value * 100) / 100;

// core/loom/propose-tree.ts
var INSIDE_METRES = 0.35;
var WALL_METRES = 0.5;
var ENGINE_METRES = 0.25;
var BOX_METRES = 0.6;
var BATTERY_METRES = 0.2;
var LEAST_TAIL_METRES2 = 0.1;
var ALIKE_METRES = 0.15;
var HOLE_MILLIMETRES = 38;
var hangsOn = {
  cabin: "inside",
  rear: "inside",
  front: "outside",
  intake: "top",
  coils: "top",
  injectors: "top",
  block: "outside",
  exhaust: "outside",
  gearbox: "outside"
};
function tailsOf(build, devices) {
  const found2 = devices.flatMap((device) => {
    const kind3 = build.kinds[device.kindId];
    if (!kind3 || !hasWires(kind3)) return [];
    const keep = isQuiet(kind3) ? "quiet" : loudOf(kind3) === "machine" ? "loud" : "plain";
    return [{ device, region: regionOf(kind3), keep }];
  });
  return [...groupBy(found2, ({ region }) => region)].flatMap(([region, of]) => {
    const rising = [...of].sort((one2, other) => one2.device.branchMetres - other.device.branchMetres);
    const tails = [];
    for (const one2 of rising) {
      const { device, keep } = one2;
      const like = tails.find(
        ([first2]) => first2.keep === keep && device.branchMetres - first2.device.branchMetres <= ALIKE_METRES
      );
      if (like) like.push(one2);
      else tails.push([one2]);
    }
    return tails.map((all) => ({
      region,
      devices: all.map(({ device }) => device),
      metres: all[all.length - 1].device.branchMetres
    }));
  });
}
var hasWires = ({ terminals }) => terminals.some(({ destination }) => destination.to !== "nothing" && destination.to !== "mounted");
var nameOf2 = (devices) => namesOfPlace(devices.map(({ label: label2 }) => label2)).slice(0, 60);
var round2 = (value) => Math.round(value * 100) / 100;
function proposeTree(build, vehicle, seat) {
  const { at, wall, step, columns } = layoutOf(vehicle, seat);
  const tails = tailsOf(build, build.devices);
  const room = (...places) => Math.min(
    ...tails.flatMap(({ region, devices }) => places.includes(hangsOn[region]) ? devices[0].branchMetres : [])
  ) - LEAST_TAIL_METRES2;
  const inside2 = round2(Math.max(LEAST_TAIL_METRES2, Math.min(INSIDE_METRES, room("inside", "outside", "top"))));
  const outside = round2(Math.max(inside2 + LEAST_TAIL_METRES2, Math.min(inside2 + WALL_METRES, room("outside", "top"))));
  const top = round2(Math.max(outside + LEAST_TAIL_METRES2, Math.min(outside + ENGINE_METRES, room("top"))));
  const depth = { inside: inside2, outside, top };
  const nodes = {
    ecu: { kind: "ecu", name: "", at: at.ecu, holds: [ECU_THING] },
    inside: { kind: "branch", name: "cabin branch", at: at.inside, holds: [] },
    outside: { kind: "branch", name: "engine branch", at: at.outside, holds: [groundThing("head")] },
    box: {
      kind: "box",
      name: "",
      at: at.box,
      // The key's feed is taken where the fuses stand: no wire runs far before its fuse.
      holds: [LOOSE_BOX, ...Object.keys(build.feeds.boxes).map(boxThing), ...KEY_THINGS]
    },
    battery: { kind: "ground", name: "Battery", at: at.battery, holds: [BATTERY_THING, groundThing("battery")] }
  };
  const segments = {
    trunk: piece("ecu", "inside", inside2, "cabin"),
    wall: {
      ...piece("inside", "outside", outside - inside2, "cabin"),
      ...wall === null ? {} : { hole: { millimetres: HOLE_MILLIMETRES, grommet: true } }
    },
    box: piece("inside", "box", BOX_METRES, "cabin"),
    battery: piece("box", "battery", BATTERY_METRES, "cabin")
  };
  if (tails.some(({ region }) => hangsOn[region] === "top")) {
    nodes.top = { kind: "branch", name: "top branch", at: at.top, holds: [] };
    segments.top = piece("outside", "top", top - outside, "engine");
  }
  for (const [from, column] of groupBy(
    [...tails].sort((one2, other) => regions.indexOf(one2.region) - regions.indexOf(other.region)),
    ({ region }) => hangsOn[region]
  )) {
    const pitch = Math.min(step, columns[from].depth / column.length);
    column.forEach(({ region, devices, metres: metres4 }, index) => {
      const id3 = freeId2(nodes, segments, region);
      nodes[id3] = {
        kind: "tail",
        name: nameOf2(devices),
        at: { x: at[region].x, y: round2(columns[from].from + index * pitch) },
        holds: devices.map((device) => deviceThing(device.id))
      };
      segments[id3] = piece(from, id3, Math.max(LEAST_TAIL_METRES2, metres4 - depth[from]), regionZones[region]);
    });
  }
  return { ...noTree, vehicle, engine: seat, nodes, segments };
}
var piece = (a, b, metres4, zone) => ({
  a,
  b,
  metres: round2(metres4),
  measured: false,
  zone
});
function nowhere(build) {
  const places = placesOf(build.tree);
  return build.devices.filter(({ id: id3, kindId }) => {
    const kind3 = build.kinds[kindId];
    return kind3 !== void 0 && hasWires(kind3) && !places.has(deviceThing(id3));
  });
}
function withRest(build) {
  const { tree } = build;
  const ways = waysOf(tree);
  const places = placesOf(tree);
  const ecu = places.get(ECU_THING) ?? Object.keys(tree.nodes)[0];
  if (ecu === void 0) return proposeTree(build, tree.vehicle, tree.engine);
  const { at } = layoutOf(tree.vehicle, tree.engine);
  const [nodes, segments] = [{ ...tree.nodes }, { ...tree.segments }];
  const regionAt = (region) => {
    const like = build.devices.find((device) => {
      const kind3 = build.kinds[device.kindId];
      return kind3 && regionOf(kind3) === region && places.has(deviceThing(device.id));
    });
    const tail = like && places.get(deviceThing(like.id));
    const segment = tail === void 0 ? void 0 : Object.values(tree.segments).find(({ a, b }) => a === tail || b === tail);
    return segment && (segment.a === tail ? segment.b : segment.a);
  };
  for (const tail of tailsOf(build, nowhere(build))) {
    const from = regionAt(tail.region) ?? ecu;
    const id3 = freeId2(nodes, segments, tail.region);
    nodes[id3] = {
      kind: "tail",
      name: nameOf2(tail.devices),
      at: { x: round2(at[tail.region].x + 0.1), y: round2(at[tail.region].y + 0.1) },
      holds: tail.devices.map((device) => deviceThing(device.id))
    };
    const before = ways.metres(ecu, from);
    segments[id3] = piece(
      from,
      id3,
      Math.max(LEAST_TAIL_METRES2, tail.metres - (before < Infinity ? before : 0)),
      regionZones[tail.region]
    );
  }
  return { ...tree, nodes, segments };
}
function freeId2(nodes, segments, wanted) {
  let id3 = wanted;
  for (let number = 2; nodes[id3] !== void 0 || segments[id3] !== void 0; number += 1) id3 = `${wanted}-${number}`;
  return id3;
}

// core/edits/tree.ts
var withTree = (build, changes) => ({
  ...build,
  tree: { ...build.tree, ...changes }
});
var without2 = (record, ...ids) => Object.fromEntries(Object.entries(record).filter(([id3]) => !ids.includes(id3)));
var noNode = (id3) => fail("no-node", "node", `There is no place ${id3} in the tree.`);
var noSegment = (id3) => fail("no-segment", "segment", `There is no piece ${id3} in the tree.`);
var named = placeName;
var standing = (build, thing) => build.devices.find(({ id: id3 }) => deviceThing(id3) === thing)?.label ?? thing;
var withNode = (build, id3, changes) => withTree(build, { nodes: { ...build.tree.nodes, [id3]: { ...build.tree.nodes[id3], ...changes } } });
var withPlug = (build, id3, changes) => withNode(build, id3, { plug: { ...build.tree.nodes[id3].plug, ...changes } });
function allotted(build, node) {
  const wires = passingWires(build, netlist(build), node);
  const made = withPlug(build, node, { wires: allotCavities(build.tree.nodes[node].plug, wires) });
  const most2 = Math.max(0, ...passingWires(made, netlist(made), node).map(({ squareMm }) => squareMm));
  return most2 > made.tree.nodes[node].plug.squareMm ? withPlug(made, node, { squareMm: most2 }) : made;
}
function parted2(build, segment, metres4, node, wanted) {
  const { nodes, segments } = build.tree;
  const was = segments[segment];
  const id3 = freeId2(nodes, segments, wanted);
  const rest = freeId2({ ...nodes, [id3]: node }, segments, `${segment}-b`.slice(0, 36));
  const [a, b] = [nodes[was.a].at, nodes[was.b].at];
  const share = was.metres === 0 ? 0.5 : metres4 / was.metres;
  const at = { x: a.x + (b.x - a.x) * share, y: a.y + (b.y - a.y) * share };
  const { hole: _hole, ...plain4 } = was;
  return {
    id: id3,
    build: withTree(build, {
      nodes: { ...nodes, [id3]: { ...node, at } },
      segments: {
        ...segments,
        [segment]: { ...was, b: id3, metres: round3(metres4) },
        [rest]: { ...plain4, a: id3, b: was.b, metres: round3(was.metres - metres4) }
      }
    })
  };
}
var round3 = (value) => Math.round(value * 1e3) / 1e3;
function removed(build, id3) {
  const { nodes, segments, via } = build.tree;
  const node = nodes[id3];
  if (!node) return noNode(id3);
  const at = Object.entries(segments).filter(([, { a, b }]) => a === id3 || b === id3);
  if (at.length > 2)
    return fail("meeting", "node", `${at.length} pieces meet at ${named(build, id3)}: take those away first.`);
  const far2 = ({ a, b }) => a === id3 ? b : a;
  const [first2, second] = at;
  const heir = first2 && far2(first2[1]);
  const kept = without2(nodes, id3);
  if (heir !== void 0 && node.holds.length > 0)
    kept[heir] = { ...kept[heir], holds: [...kept[heir].holds, ...node.holds] };
  const pieces = without2(segments, ...at.map(([one2]) => one2));
  if (first2 && second && heir !== far2(second[1]))
    pieces[first2[0]] = {
      ...first2[1],
      a: far2(first2[1]),
      b: far2(second[1]),
      metres: round3(first2[1].metres + second[1].metres),
      measured: first2[1].measured && second[1].measured,
      hole: first2[1].hole ?? second[1].hole
    };
  const led = Object.fromEntries(Object.entries(via).filter(([, segment]) => pieces[segment] !== void 0));
  return ok(withTree(build, { nodes: kept, segments: pieces, via: led }));
}
var point2 = nodeSchema.shape.at;
var segmentChanges = segmentSchema.pick({ metres: true, zone: true, measured: true }).partial().extend({
  /** Null: the zone's usual heat, as the whole loom is covered, no hole. */
  celsius: z29.number().min(-40).max(400).nullable().optional(),
  covering: z29.enum(coverings).nullable().optional(),
  hole: holeSchema.nullable().optional()
});
var treeEdits = {
  proposeTree: edit(
    z29.object({ vehicle: z29.enum(vehicles), engine: z29.enum(engineSeats) }),
    () => "Lay the loom in a tree",
    (build, { vehicle, engine: engine2 }) => ok(withTree(build, proposeTree(build, vehicle, engine2)))
  ),
  clearTree: edit(
    z29.strictObject({}),
    () => "Take the tree away",
    (build) => ok(withTree(build, { nodes: {}, segments: {}, via: {} }))
  ),
  placeRest: edit(
    z29.strictObject({}),
    () => "Place the rest in the tree",
    (build) => nowhere(build).length === 0 ? ok(build) : ok(withTree(build, withRest(build)))
  ),
  setTreePlan: edit(
    z29.object({ vehicle: z29.enum(vehicles).optional(), engine: z29.enum(engineSeats).optional() }),
    () => "Change what the plan shows",
    (build, changes) => ok(withTree(build, changes))
  ),
  addTreeNode: edit(
    z29.object({
      kind: z29.enum(nodeKinds).exclude(["plug"]),
      name: nodeSchema.shape.name,
      at: point2,
      /** The place it hangs on, and by how many metres; absent: on none yet. */
      from: treeId.optional(),
      metres: segmentSchema.shape.metres.optional(),
      id: treeId.optional()
    }),
    ({ name: name3, kind: kind3 }) => `Add ${name3 || `a ${kind3}`}`,
    (build, { kind: kind3, name: name3, at, from, metres: metres4, id: wanted }) => {
      const { nodes, segments } = build.tree;
      if (from !== void 0 && !nodes[from]) return noNode(from);
      const id3 = freeId2(nodes, segments, wanted ?? kind3);
      const added = { ...nodes, [id3]: { kind: kind3, name: name3, at, holds: [] } };
      if (from === void 0) return ok(withTree(build, { nodes: added }));
      const length = metres4 ?? round3(Math.hypot(at.x - nodes[from].at.x, at.y - nodes[from].at.y));
      const piece2 = {
        a: from,
        b: id3,
        metres: length,
        measured: metres4 !== void 0,
        zone: zoneAt(build, from)
      };
      return ok(withTree(build, { nodes: added, segments: { ...segments, [id3]: piece2 } }));
    }
  ),
  setTreeNode: edit(
    z29.object({ node: treeId, name: nodeSchema.shape.name.optional(), at: point2.optional() }),
    ({ node, at }, build) => `${at ? "Move" : "Name"} ${named(build, node)}`,
    (build, { node, ...changes }) => build.tree.nodes[node] ? ok(withNode(build, node, changes)) : noNode(node)
  ),
  removeTreeNode: edit(
    z29.object({ node: treeId }),
    ({ node }, build) => `Take ${named(build, node)} out of the tree`,
    (build, { node }) => removed(build, node)
  ),
  /** Null: it stands nowhere. */
  standAt: edit(
    z29.object({ thing: z29.string().min(1).max(160), node: treeId.nullable() }),
    ({ thing, node }, build) => node === null ? `Take ${standing(build, thing)} from its place` : `Stand ${standing(build, thing)} at ${named(build, node)}`,
    (build, { thing, node }) => {
      if (node !== null && !build.tree.nodes[node]) return noNode(node);
      const nodes = Object.fromEntries(
        Object.entries(build.tree.nodes).map(([id3, one2]) => {
          if (id3 === node) return [id3, one2.holds.includes(thing) ? one2 : { ...one2, holds: [...one2.holds, thing] }];
          return [
            id3,
            one2.holds.includes(thing) ? { ...one2, holds: one2.holds.filter((other) => other !== thing) } : one2
          ];
        })
      );
      return ok(withTree(build, { nodes }));
    }
  ),
  joinTreeNodes: edit(
    z29.object({ a: treeId, b: treeId, metres: segmentSchema.shape.metres.optional() }),
    ({ a, b }, build) => `Join ${named(build, a)} and ${named(build, b)}`,
    (build, { a, b, metres: metres4 }) => {
      const { nodes, segments } = build.tree;
      const missing = [a, b].find((id4) => !nodes[id4]);
      if (missing !== void 0) return noNode(missing);
      if (a === b) return fail("same-node", "b", "A piece leads from one place to another.");
      const id3 = freeId2(nodes, segments, `${a}-${b}`.slice(0, 36));
      const length = metres4 ?? round3(Math.hypot(nodes[a].at.x - nodes[b].at.x, nodes[a].at.y - nodes[b].at.y));
      const piece2 = { a, b, metres: length, measured: metres4 !== void 0, zone: zoneAt(build, a) };
      return ok(withTree(build, { segments: { ...segments, [id3]: piece2 } }));
    }
  ),
  setSegment: edit(
    z29.object({ segment: treeId, changes: segmentChanges }),
    ({ segment }, build) => `Change ${segmentName(build, segment)}`,
    (build, { segment, changes }) => {
      const was = build.tree.segments[segment];
      if (!was) return noSegment(segment);
      const now = Object.fromEntries(
        Object.entries({ ...was, ...changes }).filter(([, value]) => value !== null && value !== void 0)
      );
      const measured = changes.measured ?? (changes.metres === void 0 ? was.measured : true);
      return ok(withTree(build, { segments: { ...build.tree.segments, [segment]: { ...now, measured } } }));
    }
  ),
  removeSegment: edit(
    z29.object({ segment: treeId }),
    ({ segment }, build) => `Take away ${segmentName(build, segment)}`,
    (build, { segment }) => {
      const { segments, via } = build.tree;
      if (!segments[segment]) return noSegment(segment);
      const led = Object.fromEntries(Object.entries(via).filter(([, one2]) => one2 !== segment));
      return ok(withTree(build, { segments: without2(segments, segment), via: led }));
    }
  ),
  /** A branch within a piece, so many metres from its first end. */
  branchSegment: edit(
    z29.object({
      segment: treeId,
      metres: segmentSchema.shape.metres,
      name: nodeSchema.shape.name,
      id: treeId.optional()
    }),
    ({ segment }, build) => `Branch ${segmentName(build, segment)}`,
    (build, { segment, metres: metres4, name: name3, id: id3 }) => {
      const was = build.tree.segments[segment];
      if (!was) return noSegment(segment);
      if (metres4 > was.metres) return fail("beyond", "metres", `Piece ${segment} is ${was.metres} m long.`);
      const node = { kind: "branch", name: name3, at: { x: 0, y: 0 }, holds: [] };
      return ok(parted2(build, segment, metres4, node, id3 ?? "branch").build);
    }
  ),
  /** A plug within a piece: every wire that passes is parted in a cavity of it. */
  plugSegment: edit(
    z29.object({
      segment: treeId,
      metres: segmentSchema.shape.metres,
      name: nodeSchema.shape.name,
      shell: plugSchema.shape.shell,
      /** Absent: the least that takes every wire with two to spare. */
      cavities: plugSchema.shape.cavities.optional(),
      columns: plugSchema.shape.columns.optional(),
      id: treeId.optional()
    }),
    ({ name: name3, shell }) => `Put ${name3 || "a plug"} ${shell === "bulkhead" ? "on the wall" : "in the line"}`,
    (build, { segment, metres: metres4, name: name3, shell, cavities, columns, id: wanted }) => {
      const was = build.tree.segments[segment];
      if (!was) return noSegment(segment);
      if (metres4 > was.metres) return fail("beyond", "metres", `Piece ${segment} is ${was.metres} m long.`);
      const bare = { kind: "plug", name: name3, at: { x: 0, y: 0 }, holds: [], plug: plugFor([], shell) };
      const { hole: _hole, ...unholed } = was;
      const open = shell === "bulkhead" ? withTree(build, { segments: { ...build.tree.segments, [segment]: unholed } }) : build;
      const { build: made, id: id3 } = parted2(open, segment, metres4, bare, wanted ?? "plug");
      const chosen = plugFor(passingWires(made, netlist(made), id3), shell);
      const plug = cavities === void 0 ? chosen : {
        ...chosen,
        cavities,
        columns: columns ?? Math.min(MOST_COLUMNS, Math.max(1, Math.ceil(cavities * chosen.columns / chosen.cavities)))
      };
      return ok(allotted(withPlug(made, id3, plug), id3));
    }
  ),
  setPlug: edit(
    z29.object({ node: treeId, changes: plugSchema.omit({ wires: true, was: true, terminal: true }).partial() }),
    ({ node }, build) => `Change ${named(build, node)}`,
    (build, { node, changes }) => {
      const plug = build.tree.nodes[node]?.plug;
      if (!plug) return fail("no-plug", "node", `${named(build, node)} is no plug.`);
      const most2 = changes.cavities ?? plug.cavities;
      const over = Object.values(plug.wires).filter((cavity) => cavity > most2).length;
      return over > 0 ? fail(
        "too-few",
        "cavities",
        `${plural(over, "wire")} of ${named(build, node)} ${over === 1 ? "is" : "are"} in a cavity above ${most2}: move them first.`
      ) : ok(withPlug(build, node, changes));
    }
  ),
  /** Cavities for the wires that pass and have none; `anew`: for all of them, whatever they have. */
  allotPlug: edit(
    z29.object({ node: treeId, anew: z29.boolean() }),
    ({ node }, build) => `Allot ${named(build, node)}`,
    (build, { node, anew }) => {
      if (!build.tree.nodes[node]?.plug) return fail("no-plug", "node", `${named(build, node)} is no plug.`);
      return ok(allotted(anew ? withPlug(build, node, { wires: {} }) : build, node));
    }
  ),
  /** A wire into another cavity; two that want one change places. Null: it passes uncut. */
  setCavity: edit(
    z29.object({ node: treeId, wireId: z29.string().max(400), cavity: z29.int().min(1).max(200).nullable() }),
    ({ node, cavity }, build) => cavity === null ? `Lead a wire past ${named(build, node)}` : `${named(build, node)}, cavity ${cavity}`,
    (build, { node, wireId: wireId2, cavity }) => {
      const plug = build.tree.nodes[node]?.plug;
      if (!plug) return fail("no-plug", "node", `${named(build, node)} is no plug.`);
      if (cavity === null) return ok(withPlug(build, node, { wires: without2(plug.wires, wireId2) }));
      if (cavity > plug.cavities)
        return fail("no-cavity", "cavity", `${named(build, node)} has ${plug.cavities} cavities.`);
      const was = plug.wires[wireId2];
      const [other] = Object.entries(plug.wires).find(([id3, at]) => at === cavity && id3 !== wireId2) ?? [];
      const wires = { ...plug.wires, [wireId2]: cavity };
      if (other !== void 0) {
        if (was === void 0) delete wires[other];
        else wires[other] = was;
      }
      return ok(withPlug(build, node, { wires }));
    }
  ),
  /** Where there are two ways: the piece it goes by. Null: the shorter way. */
  leadWire: edit(
    z29.object({ wireId: z29.string().max(400), segment: treeId.nullable() }),
    ({ segment }, build) => segment === null ? "Lead a wire the shorter way" : `Lead a wire by ${segmentName(build, segment)}`,
    (build, { wireId: wireId2, segment }) => {
      if (segment === null) return ok(withTree(build, { via: without2(build.tree.via, wireId2) }));
      return build.tree.segments[segment] ? ok(withTree(build, { via: { ...build.tree.via, [wireId2]: segment } })) : noSegment(segment);
    }
  )
};
var zoneAt = ({ tree }, node) => Object.values(tree.segments).find(({ a, b }) => a === node || b === node)?.zone ?? "engine";

// core/edits/index.ts
var edits = {
  ...surveyEdits,
  ...busEdits,
  ...joinEdits,
  ...feedEdits,
  ...feedBoxEdits,
  ...treeEdits,
  ...storesEdits,
  ...foundEdits,
  ...partEdits,
  ...faceEdits,
  ...planEdits,
  ...pinEdits,
  ...proofEdits
};
var call = (name3, args) => ({ name: name3, args });
function applyEdit(build, name3, args) {
  if (!Object.hasOwn(edits, name3)) return fail("no-edit", "name", `There is no change called ${name3}.`);
  const done = runEdit(edits[name3], build, args);
  if (!done.ok) return done;
  const after = withProofs(build, withJoins(build, withBuses(build, done.value.build)));
  return after === done.value.build ? done : { ok: true, value: { ...done.value, build: dropStale(after) } };
}

// core/loom/packing.ts
var far = (x, y) => Math.sqrt(x * x + y * y);
var TOUCH = 1e-9;
var Grid = class _Grid {
  constructor(spots2, size) {
    this.spots = spots2;
    this.size = size;
  }
  spots;
  size;
  cells = /* @__PURE__ */ new Map();
  /** Cells to either side: a bundle is a few dozen circles wide, and small numbers are found faster. */
  static WIDE = 1 << 10;
  cellOf(column, row) {
    return (column + _Grid.WIDE) * 2 * _Grid.WIDE + row + _Grid.WIDE;
  }
  add(index) {
    const { x, y } = this.spots[index];
    const cell = this.cellOf(Math.floor(x / this.size), Math.floor(y / this.size));
    const at = this.cells.get(cell);
    if (at) at.push(index);
    else this.cells.set(cell, [index]);
  }
  /** Calls for each circle whose middle may lie within `reach` of a place, until one says it is enough. */
  near(x, y, reach, take) {
    const span = Math.ceil(reach / this.size);
    const [column, row] = [Math.floor(x / this.size), Math.floor(y / this.size)];
    for (let dx = -span; dx <= span; dx += 1)
      for (let dy = -span; dy <= span; dy += 1)
        for (const index of this.cells.get(this.cellOf(column + dx, row + dy)) ?? []) if (take(index)) return true;
    return false;
  }
};
function touching(one2, other, r) {
  const [a, b] = [one2.r + r, other.r + r];
  const [dx, dy] = [other.x - one2.x, other.y - one2.y];
  const apart2 = far(dx, dy);
  if (apart2 === 0 || apart2 > a + b) return [];
  const along = (apart2 * apart2 + a * a - b * b) / (2 * apart2);
  const aside = Math.sqrt(Math.max(0, a * a - along * along));
  const [ux, uy] = [dx / apart2, dy / apart2];
  return [
    [one2.x + along * ux - aside * uy, one2.y + along * uy + aside * ux],
    [one2.x + along * ux + aside * uy, one2.y + along * uy - aside * ux]
  ];
}
var Places = class {
  heap = [];
  add(place3) {
    const { heap } = this;
    let at = heap.length;
    heap.push(place3);
    while (at > 0) {
      const up = at - 1 >> 1;
      if (!isNearer(place3, heap[up])) break;
      heap[at] = heap[up];
      at = up;
    }
    heap[at] = place3;
  }
  take() {
    const { heap } = this;
    const [least] = heap;
    const last = heap.pop();
    if (last === void 0 || heap.length === 0) return least;
    let at = 0;
    for (; ; ) {
      let down = 2 * at + 1;
      if (down >= heap.length) break;
      if (down + 1 < heap.length && isNearer(heap[down + 1], heap[down])) down += 1;
      if (!isNearer(heap[down], last)) break;
      heap[at] = heap[down];
      at = down;
    }
    heap[at] = last;
    return least;
  }
};
var isNearer = (one2, other) => Math.abs(one2.far - other.far) <= TOUCH ? Math.atan2(one2.y, one2.x) < Math.atan2(other.y, other.x) : one2.far < other.far;
function laidRound(radii) {
  const spots2 = [];
  if (radii.length === 0) return spots2;
  const most2 = radii[0];
  const grid = new Grid(spots2, 2 * most2);
  const put3 = (x, y, r) => {
    spots2.push({ x, y, r });
    grid.add(spots2.length - 1);
  };
  const isFree = ({ x, y }, r) => !grid.near(x, y, r + most2, (index) => {
    const other = spots2[index];
    return far(other.x - x, other.y - y) < (other.r + r) * (1 - TOUCH);
  });
  put3(0, 0, most2);
  if (radii.length > 1) put3(most2 + radii[1], 0, radii[1]);
  for (let next = 2; next < radii.length; ) {
    const r = radii[next];
    const places = new Places();
    const offer = (index) => {
      const one2 = spots2[index];
      grid.near(one2.x, one2.y, one2.r + 2 * r + most2, (beside) => {
        if (beside !== index)
          for (const [x, y] of touching(one2, spots2[beside], r)) {
            const place3 = { x, y, far: far(x, y) };
            if (isFree(place3, r)) places.add(place3);
          }
        return false;
      });
    };
    spots2.forEach((_, index) => offer(index));
    while (next < radii.length && radii[next] === r) {
      let place3 = places.take();
      while (!isFree(place3, r)) place3 = places.take();
      put3(place3.x, place3.y, r);
      offer(spots2.length - 1);
      next += 1;
    }
  }
  return spots2;
}
var MIDDLE_STEPS = 400;
function centred(spots2) {
  let [x, y] = [0, 0];
  const reachOf = (spot) => far(spot.x - x, spot.y - y) + spot.r;
  let [bestX, bestY, best] = [0, 0, Infinity];
  for (let step = 1; step <= MIDDLE_STEPS; step += 1) {
    let farthest = spots2[0];
    let reach = 0;
    for (const spot of spots2) {
      const own2 = reachOf(spot);
      if (own2 > reach) [farthest, reach] = [spot, own2];
    }
    if (reach < best) [bestX, bestY, best] = [x, y, reach];
    x += (farthest.x - x) / (step + 1);
    y += (farthest.y - y) / (step + 1);
  }
  for (const spot of spots2) {
    spot.x -= bestX;
    spot.y -= bestY;
  }
  return spots2.reduce((most2, spot) => Math.max(most2, far(spot.x, spot.y) + spot.r), 0);
}
function pairsWithin(spots2, margin) {
  const most2 = spots2.reduce((all, { r }) => Math.max(all, r), 0);
  const grid = new Grid(spots2, 2 * most2);
  spots2.forEach((_, index) => grid.add(index));
  const pairs = [];
  spots2.forEach((one2, index) => {
    grid.near(one2.x, one2.y, one2.r + most2 + margin, (beside) => {
      const other = spots2[beside];
      if (beside > index && far(other.x - one2.x, other.y - one2.y) < one2.r + other.r + margin) pairs.push([one2, other]);
      return false;
    });
  });
  return pairs;
}
var allPairs = (spots2) => spots2.flatMap((one2, index) => spots2.slice(index + 1).map((other) => [one2, other]));
var ROUNDS = 240;
var LEFT = 1e-4;
var LOOK_AGAIN = 12;
var GAINS = 0.9;
function pressed(spots2, radius) {
  const most2 = spots2.reduce((all, { r }) => Math.max(all, r), 0);
  const few = spots2.length <= PRESSED;
  let pairs = few ? allPairs(spots2) : [];
  let before = Infinity;
  for (let round5 = 0; round5 < ROUNDS; round5 += 1) {
    if (!few && round5 % LOOK_AGAIN === 0) pairs = pairsWithin(spots2, most2 / 2);
    let worst = 0;
    for (const [one2, other] of pairs) {
      const [dx, dy] = [other.x - one2.x, other.y - one2.y];
      const square2 = dx * dx + dy * dy;
      const reach = one2.r + other.r;
      if (square2 >= reach * reach) continue;
      const apart2 = Math.sqrt(square2);
      const over = reach - apart2;
      if (over > worst) worst = over;
      const [px, py] = apart2 > 0 ? [dx / apart2 * (over / 2), dy / apart2 * (over / 2)] : [over / 2, 0];
      one2.x -= px;
      one2.y -= py;
      other.x += px;
      other.y += py;
    }
    for (const one2 of spots2) {
      const out = far(one2.x, one2.y);
      const over = out + one2.r - radius;
      if (over <= 0) continue;
      if (over > worst) worst = over;
      one2.x -= one2.x / out * over;
      one2.y -= one2.y / out * over;
    }
    if (worst <= LEFT * radius) return true;
    if (round5 % LOOK_AGAIN === LOOK_AGAIN - 1) {
      if (worst > before * GAINS) return false;
      before = worst;
    }
  }
  return false;
}
function spreadOut(spots2) {
  let scale2 = 1;
  for (const [one2, other] of pairsWithin(spots2, 0)) {
    const apart2 = far(other.x - one2.x, other.y - one2.y);
    if (apart2 > 0) scale2 = Math.max(scale2, (one2.r + other.r) / apart2);
  }
  for (const spot of spots2) {
    spot.x *= scale2;
    spot.y *= scale2;
  }
}
var FIRST_PRESS = 0.03;
var LAST_PRESS = 1e-3;
var scaled = (spots2, by) => spots2.map(({ x, y, r }) => ({ x: x * by, y: y * by, r }));
function compacted(start) {
  let spots2 = scaled(start, 1);
  let radius = centred(spots2);
  for (let press = FIRST_PRESS; press >= LAST_PRESS; ) {
    const tried = scaled(spots2, 1 - press);
    if (pressed(tried, radius * (1 - press))) {
      spreadOut(tried);
      const reached = centred(tried);
      if (reached < radius) {
        [spots2, radius] = [tried, reached];
        continue;
      }
    }
    press /= 2;
  }
  return { spots: spots2, radius };
}
var FEW = 12;
var OTHER_STARTS = 4;
var PRESSED = 20;
var GOLDEN_TURN = Math.PI * (3 - Math.sqrt(5));
var LOOSE = 1.4;
function spread2(radii, turn) {
  const wide = Math.sqrt(radii.reduce((sum, r) => sum + r * r, 0)) * LOOSE;
  const spots2 = radii.map((r, at) => {
    const place3 = at * turn % radii.length;
    const out = Math.sqrt((place3 + 1 / 2) / radii.length) * wide;
    return { x: Math.cos(at * GOLDEN_TURN * turn) * out, y: Math.sin(at * GOLDEN_TURN * turn) * out, r };
  });
  pressed(spots2, wide);
  spreadOut(spots2);
  return spots2;
}
function packed(diameters) {
  const order = diameters.map((diameter, at) => ({ r: diameter / 2, at })).sort((a, b) => b.r - a.r || a.at - b.at);
  const radii = order.map(({ r }) => r);
  const laid2 = laidRound(radii);
  let best = radii.length > PRESSED ? { spots: laid2, radius: centred(laid2) } : compacted(laid2);
  if (radii.length > 2 && radii.length <= FEW)
    for (let turn = 1; turn <= OTHER_STARTS; turn += 1) {
      const other = compacted(spread2(radii, turn));
      if (other.radius < best.radius) best = other;
    }
  const circles = [];
  order.forEach(({ at }, index) => circles[at] = best.spots[index]);
  return { circles, diameter: 2 * best.radius };
}
var MOST_KNOWN = 64;
var known6 = /* @__PURE__ */ new Map();
function packCircles(diameters) {
  if (diameters.length === 0) return { circles: [], diameter: 0 };
  const key = diameters.join();
  const found2 = known6.get(key) ?? packed(diameters);
  known6.delete(key);
  known6.set(key, found2);
  for (const old of [...known6.keys()].slice(0, -MOST_KNOWN)) known6.delete(old);
  return found2;
}

// core/loom/bundles.ts
var coveringFactor = {
  none: 1,
  tape: 1.05,
  conduit: 1.25,
  braid: 1.15,
  sealed: 1.12
};
var coveringWords = {
  none: "none",
  tape: "tape",
  conduit: "split conduit",
  braid: "braid",
  sealed: "sealed sleeve"
};
var coveringCelsius = {
  none: Infinity,
  tape: 125,
  conduit: 105,
  braid: 150,
  sealed: 125
};
var sleeveSizes = {
  sealed: [3.2, 4.8, 6.4, 9.5, 12.7, 19, 25.4, 38, 51],
  braid: [3, 4, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50],
  conduit: [4.5, 7.5, 10, 13, 17, 22, 26, 29, 36, 50]
};
var DRAWN_OVER = 1.1;
var outerMillimetres = (squareMm) => wireSize(squareMm)?.outerMm ?? 1.13 * Math.sqrt(squareMm) + 0.7;
var COPPER_DENSITY = 8.89;
var INSULATION_DENSITY = 1.4;
function gramsPerMetre(squareMm) {
  const outer = outerMillimetres(squareMm);
  return squareMm * COPPER_DENSITY + Math.max(0, Math.PI / 4 * outer * outer - squareMm) * INSULATION_DENSITY;
}
function bundleOf(wires, covering) {
  const { circles, diameter } = packCircles(wires.map(({ squareMm }) => outerMillimetres(squareMm)));
  return { wires, laid: circles, bareMillimetres: diameter, millimetres: diameter * coveringFactor[covering] };
}
var trunkOf2 = (build, net) => bundleOf(
  net.wires.filter((wire) => [wire.from, wire.to].some((end2) => pinAt(end2) !== null)),
  build.loom.covering
);
function wiresBySegment(net) {
  const wires = /* @__PURE__ */ new Map();
  for (const wire of net.wires)
    for (const segment of wire.route) {
      const in_ = wires.get(segment);
      if (in_) in_.push(wire);
      else wires.set(segment, [wire]);
    }
  return wires;
}
var coveringOf = (build, segment) => segment.covering ?? build.loom.covering;
var FULL_RISE = 75;
var PULSED_SHARE = 0.7;
var HOLDING_SHARE = 0.3;
function warmAmps({ needs }) {
  const asks = new Map(needs.map(({ id: id3, ask }) => [id3, ask.kind]));
  return ({ needId, amps: amps2 }) => {
    const ask = asks.get(needId ?? "");
    return ask === "half-bridge" ? amps2 * HOLDING_SHARE : ask === "injector" ? amps2 * PULSED_SHARE : amps2;
  };
}
var loadedIn = (wires, warm = (wire) => wire.amps) => countLoaded(wires.map((wire) => warm(wire) / (wireSize(wire.squareMm)?.amps ?? Infinity)));
function hottestIn(wires, ambientCelsius, warm = (wire) => wire.amps) {
  const factor = groupingFactor(Math.max(1, loadedIn(wires, warm)));
  let hottest = null;
  for (const wire of wires) {
    const full = (wireSize(wire.squareMm)?.amps ?? Infinity) * factor;
    const celsius = ambientCelsius + FULL_RISE * (warm(wire) / full) ** 2;
    if (hottest === null || celsius > hottest.celsius) hottest = { wire, celsius };
  }
  return hottest;
}
function sleeveFor(covering, bareMillimetres) {
  if (covering === "none" || covering === "tape") return null;
  return sleeveSizes[covering].find((size) => size >= bareMillimetres * DRAWN_OVER) ?? null;
}
function segmentFigures(build, id3, wires, warm) {
  const segment = build.tree.segments[id3];
  const covering = coveringOf(build, segment);
  const celsius = celsiusOf(segment);
  let laid2 = null;
  const bundle = () => laid2 ??= bundleOf(wires, covering);
  return {
    id: id3,
    segment,
    covering,
    wires,
    celsius,
    get laid() {
      return bundle().laid;
    },
    get bareMillimetres() {
      return bundle().bareMillimetres;
    },
    get millimetres() {
      return bundle().millimetres;
    },
    get sleeveMillimetres() {
      return sleeveFor(covering, bundle().bareMillimetres);
    },
    get fits() {
      return segment.hole ? bundle().millimetres <= segment.hole.millimetres : null;
    },
    roughMillimetres: roughMillimetres(wires),
    grams: segment.metres * wires.reduce((sum, { squareMm }) => sum + gramsPerMetre(squareMm), 0),
    loaded: loadedIn(wires, warm),
    hottest: hottestIn(wires, celsius, warm),
    cables: new Set(wires.flatMap(({ cable }) => cable ?? [])).size
  };
}
var ROUGH = 1.2;
var roughMillimetres = (wires) => ROUGH * Math.sqrt(wires.reduce((sum, { squareMm }) => sum + outerMillimetres(squareMm) ** 2, 0));
function usualPlugMillimetres(cavities) {
  const rows = cavities <= 6 ? 1 : cavities <= 16 ? 2 : cavities <= 47 ? 3 : 5;
  const [wide, high] = [12 + 4 * Math.ceil(cavities / rows), 12 + 5 * rows];
  return Math.round(Math.hypot(wide, high) * 0.85);
}
function pullingOf(build, net, id3) {
  const { tree } = build;
  const segment = tree.segments[id3];
  if (!segment?.hole) return null;
  const beyond = (start) => {
    const seen = /* @__PURE__ */ new Set([start]);
    const queue = [start];
    const found2 = [];
    for (const node of queue) {
      found2.push(...passersAt(build, net, node));
      if (tree.nodes[node].kind === "plug") continue;
      for (const [piece2, { a, b }] of Object.entries(tree.segments)) {
        if (piece2 === id3 || a !== node && b !== node) continue;
        const to = a === node ? b : a;
        if (!seen.has(to)) {
          seen.add(to);
          queue.push(to);
        }
      }
    }
    return found2.sort((one2, other) => other.millimetres - one2.millimetres);
  };
  const wires = wiresBySegment(net).get(id3) ?? [];
  return {
    hole: segment.hole.millimetres,
    bundle: bundleOf(wires, coveringOf(build, segment)).millimetres,
    fromA: beyond(segment.a),
    fromB: beyond(segment.b)
  };
}
function passersAt(build, net, node) {
  const { plug, holds, name: name3 } = build.tree.nodes[node];
  if (plug) {
    const measured = plug.bareMillimetres ?? plug.shellMillimetres;
    return [
      {
        name: name3 || node,
        millimetres: measured ?? usualPlugMillimetres(plug.cavities),
        isGuess: measured === null
      }
    ];
  }
  return holds.flatMap((thing) => {
    if (thing === ECU_THING)
      return build.ecu.connectors.map((connector) => ({
        name: `${build.ecu.model} ${connector.id}`,
        millimetres: usualPlugMillimetres(build.ecu.pins.filter((pin2) => pin2.connector === connector.id).length),
        isGuess: true
      }));
    const device = withId(build.devices, deviceOfThing(thing));
    const kind3 = device && net.deviceOf.get(device.id)?.kind;
    if (!kind3) return [];
    const across = kind3.face?.acrossMillimetres;
    const ways = kind3.face ? cavityCount(kind3.face) : kind3.terminals.length;
    return [{ name: device.label, millimetres: across ?? usualPlugMillimetres(ways), isGuess: across === void 0 }];
  });
}

// core/loom/labels.ts
var USUAL_LABEL = "{number} {from} > {to}";

// core/edits/create.ts
var breathes = { "four-stroke": 1, "two-stroke": 1.4, rotary: 2 };
var startingPower = (engine2) => Math.max(5, Math.round(engine2.displacementCc / 1e3 * 50 * breathes[engine2.kind] * (1 + engine2.boostKpa / 100)));
function createBuild(args) {
  return {
    schemaVersion: BUILD_SCHEMA_VERSION,
    id: args.id,
    name: args.name,
    vehicle: args.vehicle,
    notes: "",
    createdAt: args.now,
    engine: args.engine,
    ecu: args.ecu,
    kinds: {},
    devices: [],
    buses: [],
    outputOrder: args.ecu.outputOrder,
    assignments: {},
    locked: [],
    trigger: {
      crankWheel: null,
      camWheel: null,
      offsetDegrees: 0,
      offsetWay: { counts: "tooth-to-tdc", range: "up" },
      offsetConfirmed: false,
      readings: [],
      lockDegrees: 0,
      ripple: 0.3,
      chartRpm: Math.round(args.engine.maxRpm / 2 / 100) * 100,
      dwellMilliseconds: 3,
      injectionMilliseconds: 6,
      advanceDegrees: 20
    },
    power: {
      circuits: {},
      ecuGround: "head",
      groundMetres: { battery: 1.8, head: 1.2, chassis: 0.6 },
      strapSquareMm: 25,
      strapMetres: 0.6,
      starting: "key",
      charging: "alternator",
      batteryAh: 45
    },
    loom: {
      slackMetres: 0.1,
      covering: "tape",
      origin: "new",
      joining: "crimp",
      holeMillimetres: 38,
      zoneCelsius: 105,
      wireCelsius: 125,
      series: args.units?.workshop === "inch" ? "awg" : "metric",
      blanksFitted: false,
      orderOfWork: "powers-first",
      label: USUAL_LABEL,
      wires: {}
    },
    site: { altitudeMetres: 0, ambientCelsius: 20 },
    reserve: {},
    never: [],
    shared: {},
    groundUse: {},
    joined: {},
    feeds: noFeeds,
    tree: noTree,
    fuel: { fuel: "petrol", railKpa: 300, bsfc: 310, powerKw: startingPower(args.engine), maxDuty: 0.85 },
    speed: null,
    units: args.units ?? defaultUnits,
    stores: { spools: [], spoolMetres: 25, parts: {} },
    survey: emptySurvey,
    sensing: { readings: {} },
    pinning: { order: "connector", done: {} },
    marks: {},
    prove: { leadOhms: 0.1, by: "", readings: {} },
    fireup: {},
    aside: {},
    cases: [],
    revisions: []
  };
}

// scripts/bench-build.ts
function largeBuild(needs, pins) {
  const base = catalog.ecus.find((one2) => one2.id === "orrery-94");
  const plain4 = base.pins.filter((pin2) => !isFixedPin(pin2) && !pin2.abilities[0].pair);
  const letters2 = "ABCDEFGH";
  const share = Math.ceil(pins / letters2.length);
  const made = {
    ...base,
    connectors: [...letters2].map((id3) => ({
      id: id3,
      rows: [40, 40, 40].map((row) => Math.min(row, share)),
      maxSquareMm: 2.5,
      sealed: false
    })),
    groups: [],
    pins: Array.from({ length: pins }, (_, i) => {
      const connector = letters2[Math.floor(i / share)];
      const cavity = i % share + 1;
      return { ...plain4[i * 29 % plain4.length], id: `${connector}${cavity}`, connector, cavity };
    })
  };
  let build = createBuild({
    id: "bench",
    now: "2026-01-01T00:00:00.000Z",
    name: "bench",
    vehicle: "",
    engine: catalog.engines[0],
    ecu: made
  });
  const mix = {
    "injector-high": 6,
    "coil-igniter": 6,
    "boost-solenoid": 4,
    "launch-button": 4,
    "oil-pressure": 5,
    "speed-hall": 2,
    "clt-ntc": 1
  };
  const cycle = Object.entries(mix).flatMap(([id3, share2]) => Array.from({ length: share2 }, () => id3));
  for (const id3 of Object.keys(mix)) {
    const result = applyEdit(build, "addDevice", call("addDevice", { kind: entry(catalog.kinds, id3) }).args);
    if (!result.ok) throw new Error(result.problem.sentence);
    build = result.value.build;
  }
  const models = new Map(build.devices.map((device) => [device.kindId, device]));
  const devices = Array.from({ length: needs }, (_, i) => {
    const device = models.get(cycle[i % cycle.length]);
    return { ...device, id: `${device.kindId}-${i + 1}`, label: `${device.label} ${i + 1}` };
  });
  return { ...build, devices };
}
function largePlaced() {
  const bare = largeBuild(250, 300);
  const fixed2 = catalog.ecus.find((one2) => one2.id === "orrery-94").pins.filter(isFixedPin);
  const connector = { id: "P", rows: [fixed2.length], maxSquareMm: 6, sealed: false };
  const build = {
    ...bare,
    ecu: {
      ...bare.ecu,
      connectors: [...bare.ecu.connectors, connector],
      pins: [...bare.ecu.pins, ...fixed2.map((pin2, i) => ({ ...pin2, id: `P${i + 1}`, connector: "P", cavity: i + 1 }))]
    }
  };
  const placed3 = applyEdit(build, "allotAll", call("allotAll", { keep: "most" }).args);
  if (!placed3.ok) throw new Error(placed3.problem.sentence);
  const { assignments } = placed3.value.build;
  const kept = netlist(build).needs.filter((need) => assignments[need.id] !== void 0);
  return {
    ...placed3.value.build,
    name: "Bench build",
    assignments: Object.fromEntries(kept.slice(0, 237).map((need) => [need.id, assignments[need.id]]))
  };
}

// core/donor/table.ts
import Papa2 from "papaparse";

// core/data/csv.ts
import Papa from "papaparse";

// core/donor/table.ts
var tableFields = [
  "connector",
  "cavity",
  "colour",
  "size",
  "function",
  "condition",
  "splice",
  "decision",
  "group",
  "moveTo",
  "note"
];
var fieldHeadings = {
  connector: "connector",
  cavity: "cavity",
  colour: "colour",
  size: "size",
  function: "function",
  condition: "condition",
  splice: "splice",
  decision: "decision",
  group: "side",
  moveTo: "move to",
  note: "note"
};
var synonyms = {
  connector: /^(connector|conn|plug|housing|harness plug|multiplug)\b/,
  cavity: /^(cavity|cav|pin|position|pos|terminal|way|no|number|#)\b|^#$/,
  colour: /^(colou?r|wire colou?r|insulation|trace)\b/,
  size: /^(size|gauge|awg|mm2|mm²|csa|cross.?section|section|wire size)\b|^mm/,
  function: /^(function|description|circuit|signal|goes to|purpose|what|use|name)\b/,
  condition: /^(condition|state|damage|quality)\b/,
  splice: /^(splice|joint|join|junction|shared)\b/,
  decision: /^(decision|action|do|verdict|fate|keep)\b/,
  group: /^(side|pile|group|set|system|loom)\b/,
  moveTo: /^(move to|new cavity|new pin|to cavity|target|moves to|ecu pin)\b/,
  note: /^(note|notes|remark|remarks|comment|comments)\b/
};
var decisionByWord = {
  "": "open",
  open: "open",
  "?": "mystery",
  keep: "keep",
  stay: "keep",
  yes: "keep",
  extend: "extend",
  lengthen: "extend",
  move: "move",
  repin: "move",
  "re-pin": "move",
  remove: "remove",
  cut: "remove",
  delete: "remove",
  bin: "remove",
  no: "remove",
  unknown: "mystery",
  mystery: "mystery"
};
var groupByWord = {
  "": "none",
  "not sorted": "none",
  "engine side": "engine",
  "runs the engine": "engine",
  engine: "engine",
  "car side": "body",
  car: "body",
  "gauges and body": "body",
  body: "body",
  dash: "body",
  gauges: "body"
};
var plainCell = (cell) => cell.trim().replace(/^'(?=[=+\-@])/, "");
function delimiterOf(text3) {
  const first2 = (text3.split(/\r?\n/).find((line3) => line3.trim() !== "") ?? "").replace(/"[^"]*"/g, "");
  if (first2.includes("	")) return "	";
  const counts = [";", "|", ","].map((sign) => ({ sign, count: first2.split(sign).length - 1 }));
  return counts.reduce((best, one2) => one2.count > best.count ? one2 : best).sign;
}
var matchHeading = (heading) => {
  const clean = heading.trim().toLowerCase().replace(/[_\s]+/g, " ");
  return tableFields.find((field) => fieldHeadings[field] === clean) ?? tableFields.find((field) => synonyms[field].test(clean)) ?? null;
};
function readTable(text3) {
  if (text3.length > 5e6)
    return fail("too-large", "", "The table is larger than 5 MB: paste the sheet with the wires only.");
  const clean = text3.replace(/^\uFEFF/, "");
  const parsed = Papa2.parse(clean, { delimiter: delimiterOf(clean), skipEmptyLines: false });
  const lines = parsed.data.map((cells, index) => ({ line: index + 1, cells: cells.map(plainCell) })).filter(({ cells }) => cells.some((cell) => cell !== ""));
  if (lines.length === 0) return fail("empty", "", "There is no table in the clipboard or file.");
  const unclosed = parsed.errors.find((error) => error.type === "Quotes");
  if (unclosed)
    return fail(
      "quotes",
      `line ${(unclosed.row ?? 0) + 1}`,
      `Line ${(unclosed.row ?? 0) + 1}: a quotation mark is opened and never closed.`
    );
  const matched = lines[0].cells.map(matchHeading);
  const hasHeading = matched.filter((field) => field !== null).length >= 2;
  const width = lines.reduce((most2, { cells }) => Math.max(most2, cells.length), 0);
  const first2 = lines[0].cells;
  const headings = Array.from({ length: width }, (_, i) => hasHeading && first2[i] ? first2[i] : `column ${i + 1}`);
  const taken = /* @__PURE__ */ new Set();
  const uses = Array.from({ length: width }, (_, i) => {
    const field = hasHeading ? matched[i] ?? null : tableFields[i] ?? null;
    if (field === null || taken.has(field)) return "keep";
    taken.add(field);
    return field;
  });
  return ok({
    delimiter: parsed.meta.delimiter,
    headings,
    hasHeading,
    headed: first2.length,
    rows: hasHeading ? lines.slice(1) : lines,
    uses
  });
}
var most = {
  connector: 40,
  cavity: 12,
  colour: 30,
  size: 20,
  function: 120,
  condition: 60,
  splice: 40,
  moveTo: 40,
  note: 200
};
function wiresFrom(table2, uses, existing = [], makeId = (index) => `w${index + 1}`) {
  const issues = [];
  const wires = [];
  const known9 = new Map(existing.map((wire) => [cavityKey(wire), `row ${wire.row + 1} of the list`]));
  const startRow = existing.reduce((top, wire) => Math.max(top, wire.row + 1), 0);
  if (table2.rows.length + existing.length > DONOR_LIMIT)
    return {
      wires: [],
      issues: [
        {
          line: 0,
          severity: "stop",
          sentence: `The list would hold ${table2.rows.length + existing.length} wires; ${DONOR_LIMIT} is the most.`
        }
      ]
    };
  for (const [index, { line: line3, cells }] of table2.rows.entries()) {
    const say = (severity, sentence) => issues.push({ line: line3, severity, sentence: `Line ${line3}: ${sentence}` });
    const wire = {
      id: makeId(index),
      row: startRow + index,
      connector: "",
      cavity: "",
      colour: "",
      size: "",
      function: "",
      condition: "",
      splice: "",
      decision: "open",
      group: "none",
      moveTo: "",
      note: "",
      restraint: false,
      extra: {}
    };
    if (cells.length > table2.headed)
      say("note", `it has ${cells.length} cells, the heading has ${table2.headed}; the rest is kept as its own column.`);
    else if (cells.length < table2.headed)
      say("note", `it has ${cells.length} of ${table2.headed} cells; the rest is taken as empty.`);
    uses.forEach((use, column) => {
      const cell = cells[column] ?? "";
      if (use === "skip") return;
      if (use === "keep") {
        const heading = table2.headings[column] ?? `column ${column + 1}`;
        if (cell !== "") wire.extra[heading.slice(0, 40)] = cell.slice(0, 200);
        if (cell.length > 200) say("stop", `${heading} is longer than 200 characters.`);
        return;
      }
      if (use === "decision") {
        const decision = decisionByWord[cell.toLowerCase()];
        if (decision === void 0)
          say("stop", `'${cell}' is no decision; use keep, extend, move, remove, unknown or leave it empty.`);
        else wire.decision = decision;
        return;
      }
      if (use === "group") {
        const group = groupByWord[cell.toLowerCase()];
        if (group === void 0) say("stop", `'${cell}' is no side; use 'engine side' or 'car side'.`);
        else wire.group = group;
        return;
      }
      const limit = most[use] ?? 200;
      if (cell.length > limit) say("stop", `${fieldHeadings[use]} is longer than ${limit} characters.`);
      wire[use] = cell.slice(0, limit);
    });
    if (wire.size !== "" && sizeSquareMm(wire.size) === null)
      say("note", `size '${wire.size}' is not understood; it is kept as it is.`);
    if (wire.cavity !== "") {
      const before = known9.get(cavityKey(wire));
      if (before !== void 0)
        say("note", `${wire.connector} cavity ${wire.cavity} is listed already (${before}): two wires in one cavity?`);
      else known9.set(cavityKey(wire), `line ${line3}`);
    }
    if (isRestraint(wire) && wire.decision !== "open") {
      say("note", "a restraint wire carries a decision: it is left out, the wire is locked.");
      wire.decision = "open";
    }
    const checked = donorWireSchema.safeParse(wire);
    if (!checked.success) say("stop", `${checked.error.issues[0].path.join(".")} cannot be kept.`);
    wires.push(wire);
  }
  return { wires, issues };
}

// demo/donor.ts
var typed = `connector	cavity	colour	size	function	condition	splice	decision	pile	move to	note	strip
F12	1	GN/YE	0.75	Coolant sensor signal	good		move	runs the engine	B10		3
F12	2	BN	0.75	Coolant sensor return	good	S4	keep	runs the engine			3
F13	1	GN/WH	0.75	Intake air signal	good		keep	runs the engine			4
F13	2	BN	0.75	Intake air return	good	S4	keep	runs the engine			4
F14	1	RD/BU	0.75	Throttle 5 V	good	S5	keep	runs the engine			2
F14	2	BN/GY	0.75	Throttle ground	good	S4	keep	runs the engine			2
F14	3	GN	0.75	Throttle signal	chafed		remove	runs the engine		bare for 20 mm	2
F15	1	RD	1.5	Injector feed 1	good	S1	keep	runs the engine			1
F15	2	YE/BK	0.75	Injector 1	good		extend	runs the engine			1
F16	1	RD	1.5	Injector feed 2	good	S1	keep	runs the engine			1
F16	2	YE/BU	0.75	Injector 2	good		extend	runs the engine			1
F17	1	RD	1.5	Injector feed 3	good	S1	keep	runs the engine			1
F17	2	YE/GN	0.75	Injector 3	good		extend	runs the engine			1
F18	1	RD	1.5	Injector feed 4	good	S1	keep	runs the engine			1
F18	2	YE/RD	0.75	Injector 4	good		extend	runs the engine			1
F19	1	RD	1.5	Injector feed 5	good	S1	keep	runs the engine			1
F19	2	YE/WH	0.75	Injector 5	good		extend	runs the engine			1
F20	1	WH	0.5	Crank sensor	brittle		remove	runs the engine		new shielded pair	5
F20	2	BK	0.5	Crank sensor	brittle		remove	runs the engine		new shielded pair	5
F21	1	BU/RD	1	Distributor coil	good		remove	runs the engine		coils are new	6
F21	2	BK/WH	1.5	Distributor coil feed	good	S2	remove	runs the engine			6
F22	1	GY/BK	0.75	Idle valve	good	S2	remove	runs the engine		motor throttle now	6
F22	2	GY/YE	0.75	Idle valve	good		remove	runs the engine		motor throttle now	6
F23	1	BU	0.75	Oil pressure lamp	good		keep	gauges and body			7
F24	1	YE/VT	0.75	Temperature gauge sender	good		keep	gauges and body			7
F25	1	BU/BK	1	Charge lamp	good		keep	gauges and body			7
F26	1	WH/BK	1	Reverse light	good		keep	gauges and body			8
F26	2	WH/GN	1	Reverse light feed	good	S3	keep	gauges and body			8
F27	1	BK/RD	2.5	Starter solenoid	good		extend	gauges and body			8
F28	3	PK/BK	0.5		good		unknown			12 V with the lights on	8
F28	4	OG	0.5		cut		unknown				8
F28	5	GY	0.5		good						8
F29	1	GN/BK	0.75	Speedometer	good			gauges and body			9
F29	2	BN	0.75	Speedometer ground	good	S6		gauges and body			9
F30	1	BU/YE	0.75	Washer pump	good			gauges and body			9
F30	2	BN	0.75	Washer pump ground	good	S6		gauges and body			9
F31	1	YE/BN	1.5	Horn	good			gauges and body			9
Y1	1	YE/RD	0.5	Airbag squib left +	good						10
Y1	2	YE/BK	0.5	Airbag squib left -	good						10
Y1	3	YE	0.5	Belt tensioner	good						10`;
function donorLoom() {
  const table2 = readTable(typed);
  if (!table2.ok) throw new Error(`demo: ${table2.problem.sentence}`);
  const { wires, issues } = wiresFrom(table2.value, table2.value.uses, [], (index) => `old-${index + 1}`);
  const stop = issues.find((issue) => issue.severity === "stop");
  if (stop) throw new Error(`demo: ${stop.sentence}`);
  return call("addDonorWires", { wires: [...wires] });
}

// demo/script.ts
function play(build, calls) {
  return calls.reduce((current, { name: name3, args }) => {
    const result = applyEdit(current, name3, args);
    if (!result.ok) throw new Error(`demo: ${name3}: ${result.problem.sentence}`);
    return result.value.build;
  }, build);
}

// demo/pellworth.ts
var kind2 = (id3) => entry(catalog.kinds, id3);
var wheel = (id3) => entry(catalog.wheels, id3);
var add = (id3, label2, branchMetres, perCylinder = false) => call("addDevice", { kind: kind2(id3), label: label2, branchMetres, perCylinder });
var START = "2026-09-05T08:30:00.000Z";
var minutesAfter = (minutes) => new Date(Date.parse(START) + minutes * 6e4).toISOString();
var survey = [
  add("crank-vr", "Crank sensor", 2.1),
  add("cam-hall", "Cam sensor", 1.7),
  add("injector-high", "Injector", 1.6, true),
  add("fuel-pump", "Fuel pump", 4.2),
  add("fuel-pressure", "Fuel pressure", 1.5),
  add("flex-fuel", "Flex fuel", 1.4),
  add("coil-igniter", "Coil", 1.62, true),
  add("throttle-motor", "Throttle", 1.4),
  add("pedal", "Pedal", 0.9),
  add("map-3bar", "Manifold pressure", 1.2),
  add("iat-ntc", "Intake air", 1.8),
  add("boost-solenoid", "Boost solenoid", 1.3),
  add("clt-ntc", "Coolant", 1.5),
  add("fan", "Fan 1", 2.4),
  add("fan", "Fan 2", 2.6),
  add("oil-pressure", "Oil pressure", 2),
  add("knock", "Knock", 1.7),
  add("wideband-volts", "Wideband", 2.2),
  add("speed-hall", "Speed", 2.8),
  add("launch-button", "Launch button", 0.8),
  add("clutch-switch", "Clutch switch", 0.9),
  add("start-button", "Start button", 0.8),
  add("starter", "Starter", 2.3),
  add("alternator", "Alternator", 1.9),
  add("can-dash", "Dash", 0.9)
];
var body = [
  call("setBodyPlug", {
    deviceId: null,
    name: "Bulkhead plug",
    cavities: [
      { cavity: "1", colour: "BK/YE", signal: "key-feed", note: "" },
      { cavity: "2", colour: "BU", signal: "oil-lamp", note: "" },
      { cavity: "3", colour: "BU/BK", signal: "charge-lamp", note: "" },
      { cavity: "4", colour: "YE/VT", signal: "temperature-gauge", note: "" },
      { cavity: "5", colour: "WH/BK", signal: "reverse-light", note: "" },
      { cavity: "6", colour: "BN", signal: "ground", note: "" },
      { cavity: "7", colour: "PK", signal: "unknown", note: "5 V with the key on" }
    ],
    pulsesPerTurn: 2.5,
    drive: "low-side",
    branchMetres: 0.7
  }),
  add("oil-switch", "Oil switch", 2),
  add("gauge-sender-temperature", "Gauge sender", 1.6),
  add("reverse-switch", "Reverse switch", 2.4),
  call("setDestination", {
    deviceId: "alternator-1",
    terminalId: "L",
    destination: { to: "line", line: "charge-lamp" }
  })
];
var day2 = (date) => `2026-09-${String(date).padStart(2, "0")}`;
var found = [
  donorLoom(),
  call("setIdentify", {
    crankPlace: "flywheel",
    crankWires: 2,
    crankOhms: 860,
    crankGap: "one",
    crankTeeth: 58,
    crankGapWidth: 2,
    camTerminals: "3",
    camShape: "one",
    camTeeth: 1,
    coilCount: 5,
    coilTowers: 1,
    coilTerminals: 4,
    injectorCount: 5,
    injectorOhms: 12.5,
    headMarks: "cast 5H-7 beside the filler",
    blockMarks: "stamped 23 and a triangle"
  }),
  call("putQuestion", {
    question: {
      id: "q-1",
      text: "Which cavity of the coil plug is the logic trigger?",
      to: "the coil supplier",
      askedOn: day2(1),
      answer: "C, third from the key. B and D are both ground.",
      answeredOn: day2(3),
      about: ""
    }
  }),
  call("putQuestion", {
    question: {
      id: "q-2",
      text: "What is the pink wire at the bulkhead plug, cavity 7?",
      to: "",
      askedOn: day2(4),
      answer: "",
      answeredOn: null,
      about: ""
    }
  }),
  call("putPart", {
    part: {
      id: "p-1",
      item: "Sealed terminals, 0.5 to 1 mm\xB2",
      from: "connector shop",
      count: 80,
      costEach: 0.42,
      state: "here"
    }
  }),
  call("putPart", {
    part: { id: "p-2", item: "Blank plugs", from: "connector shop", count: 12, costEach: 0.2, state: "ordered" }
  }),
  call("putPart", {
    part: { id: "p-3", item: "Shielded pair, 3 m", from: "", count: 1, costEach: null, state: "to-order" }
  }),
  call("putHours", { entry: { id: "h-1", day: day2(1), hours: 3.5, what: "de-loomed, listed the plugs" } }),
  call("putHours", { entry: { id: "h-2", day: day2(3), hours: 2, what: "counted teeth, measured sensors" } }),
  call("putHours", { entry: { id: "h-3", day: day2(5), hours: 4.5, what: "first bench session" } }),
  call("setFuel", { powerKw: 235, bsfc: 330 })
];
var faces = [
  call("setFace", {
    kindId: "crank-vr",
    face: { rows: [2], maxSquareMm: 1, sealed: true, cavities: { 1: 1, 2: 2 }, keys: [{ edge: "top", at: 0.5 }] }
  }),
  call("setFace", {
    kindId: "coil-igniter",
    face: {
      rows: [4],
      numbering: { from: "top-right", along: "rows", turning: false },
      maxSquareMm: 2.5,
      sealed: true,
      cavities: { A: 1, B: 2, C: 3, D: 4 },
      keys: [{ edge: "top", at: 0.25 }]
    }
  }),
  call("setTerminal", {
    plug: "kind",
    id: "coil-igniter",
    terminal: {
      name: "tin, 2.8 mm",
      stripMillimetres: 4.5,
      tool: "ratchet pliers, nest 2",
      crimps: [
        { squareMm: 0.35, heightMillimetres: 0.95 },
        { squareMm: 0.75, heightMillimetres: 1.15 },
        { squareMm: 1.5, heightMillimetres: 1.4 }
      ]
    }
  })
];
var frontBox = [
  call("addFeedBox", { box: { name: "Front box", place: "left inner wing", columns: 6 }, name: "front" }),
  ...["main", "coils", "injectors", "pump", "fan-1", "fan-2"].flatMap(
    (name3) => [partId("fuse", name3), partId("relay", name3)].map(
      (id3) => call("setFeedPart", { partId: id3, changes: { box: "front" } })
    )
  )
];
var readings = [
  call("recordSensing", {
    sensorId: "map-3bar-1.3",
    reading: { atPin: 1.61, shown: 97.2, at: minutesAfter(200), by: "MP" }
  }),
  call("recordSensing", {
    sensorId: "iat-ntc-1.1",
    reading: { atPin: 2.61, shown: 18.4, at: minutesAfter(203), by: "MP" }
  })
];
var laid = [
  call("proposeTree", { vehicle: "car", engine: "front" }),
  ...[
    ["trunk", 0.4],
    ["wall", 0.45],
    ["box", 0.55],
    ["battery", 0.2],
    ["top", 0.26],
    ["coils", 0.52],
    ["injectors", 0.5]
  ].map(([segment, metres4]) => call("setSegment", { segment, changes: { metres: metres4 } })),
  call("plugSegment", { segment: "wall", metres: 0.2, name: "Wall plug", shell: "bulkhead", id: "wall-plug" }),
  call("plugSegment", { segment: "coils", metres: 0.12, name: "Coil plug", shell: "in-line", id: "coil-plug" }),
  call("setPlug", { node: "wall-plug", changes: { shellMillimetres: 46, bareMillimetres: 34 } }),
  call("setSegment", { segment: "coils", changes: { covering: "braid" } })
];
function benchSession(build) {
  const tests = proveTests(build, netlist(build)).filter((test) => test.kind !== "order" && /^ecu:A\d/.test(test.hold));
  const poor = tests.filter((test) => test.kind === "continuity")[9];
  return tests.slice(0, 58).map((test, index) => {
    const value = test.kind === "isolation" ? null : Math.round(((test.expected ?? 0) + build.prove.leadOhms + (test === poor ? 3.4 : 0.02 * (index % 4))) * 100) / 100;
    const reading2 = { value, at: minutesAfter(index), by: "MP", note: "", title: test.title };
    return call("recordReading", { testId: test.id, reading: reading2 });
  });
}
function pellworth({ tree = true } = {}) {
  const engine2 = entry(
    catalog.engines.map((one2) => ({ ...one2, id: one2.name })),
    "Inline five turbo, 2.3 l"
  );
  const { id: _, ...geometry } = engine2;
  const empty = createBuild({
    id: "demo-pellworth",
    now: START,
    name: "Pellworth estate, five-cylinder turbo",
    vehicle: "1968 Pellworth estate, hill climbs",
    engine: { ...geometry, name: "Five-cylinder 2.3 l turbo" },
    ecu: entry(catalog.ecus, "orrery-48")
  });
  const planned = play(empty, [
    ...survey,
    ...body,
    ...found,
    ...faces,
    call("setPower", { starting: "button" }),
    call("setSite", { altitudeMetres: 410, ambientCelsius: 18 }),
    call("setWheel", { shaft: "crank", wheel: wheel("60-2") }),
    call("setWheel", { shaft: "cam", wheel: wheel("cam-1") }),
    call("setTrigger", {
      offsetDegrees: 84,
      lockDegrees: 10,
      ripple: 0.28,
      chartRpm: 3600,
      dwellMilliseconds: 3,
      injectionMilliseconds: 6.5,
      advanceDegrees: 22
    }),
    call("allotAll", { keep: "locked" }),
    call("setReserve", { kind: "any", count: 2 }),
    ...frontBox,
    ...tree ? laid : []
  ]);
  const labelled = play(
    planned,
    planned.devices.filter((device) => device.kindId === "coil-igniter" || device.kindId === "injector-high").map((device) => call("editDevice", { deviceId: device.id, labelled: true }))
  );
  const locked = play(
    labelled,
    Object.keys(labelled.assignments).filter((needId) => needId.startsWith("injector-high") || needId.startsWith("coil-igniter")).map((needId) => call("lock", { needId, locked: true }))
  );
  const revised = play(locked, [
    call("saveRevision", { note: "Pin plan closed, loom on the board", at: minutesAfter(-60) })
  ]);
  return play(play(revised, benchSession(revised)), readings);
}

// core/circuit/figures.ts
var volts2 = (value, spread3, source) => ({ value, unit: "V", spread: spread3, source });
var ohms = (value, spread3, source) => ({ value, unit: "\u03A9", spread: spread3, source });
var amps = (value, spread3, source) => ({ value, unit: "A", spread: spread3, source });
var SWITCH = "common practice: on-resistance of an automotive power switch with its track and pin, 0.1 to 0.3 \u03A9";
var IDLE_OUTPUT = "common practice: an output at rest leaks microamperes at 12 V";
var battery = {
  off: volts2(12.6, 0.15, "common practice: a full lead-acid battery at rest, 2.1 V a cell"),
  empty: volts2(11.8, 0.2, "common practice: a flat one at rest, under 2 V a cell; between them about in proportion"),
  keyOnSag: volts2(0.2, 0.1, "common practice: a rested battery comes down so much at once under a few amperes"),
  outputsOnSag: volts2(0.4, 0.15, "common practice: and so much under pump, fans or a starter"),
  charging: volts2(13.9, 0.35, "common practice: 13.8 to 14.4 V at the posts with the alternator charging"),
  regulated: ohms(2e-3, 0.8, "common practice: a regulator holds its volts within a tenth or two at full load"),
  inside: ohms(0.012, 0.4, "common practice: 45 to 60 Ah, warm and full, 5 to 8 m\u03A9 with its posts and clamps")
};
var charges = { full: 1, half: 0.5, "nearly flat": 0.15 };
var parts2 = {
  pullIn: volts2(7.2, 1, "common practice: a 12 V relay pulls in above about 60 % of its nominal volts"),
  dropOut: volts2(3, 1.5, "common practice: a 12 V relay holds down to 10 to 40 % of its nominal volts"),
  key: ohms(0.03, 0.7, "common practice: a key contact that has been used, with its plug"),
  bodyToBattery: ohms(6e-3, 0.7, "common practice: body sheet, strap and two bolted joints"),
  mounted: ohms(0.01, 0.7, "common practice: a threaded body or a bolted flange on clean metal"),
  shortToBody: ohms(0.05, 0.9, "common practice: a chafed wire that bites into painted sheet"),
  shortedPart: ohms(0.5, 0.8, "common practice: a winding shorted within itself keeps its leads"),
  shortedSensor: ohms(1, 0.8, "common practice: a track shorted within the sensor keeps its leads")
};
var alternator = {
  resting: volts2(1.2, 0.5, "common practice: 1 to 2 V at the lamp terminal with the key on and the engine still"),
  field: ohms(4, 0.25, "common practice: field winding behind the regulator, 3 to 5 \u03A9"),
  lampOut: ohms(10, 0.5, "common practice: the lamp terminal of a charging alternator stands at the battery\u2019s volts")
};
var DRIVER_LIMIT_TIMES = 1.5;
var inside = {
  powerGround: ohms(2e-3, 0.6, "common practice: pin and board track of a power ground"),
  sensorGround: ohms(5e-3, 0.6, "common practice: pin and board track of a signal ground"),
  supplyTrack: ohms(0.05, 0.5, "common practice: pin, board track and protection of a 5 V supply"),
  supplyOpen: volts2(5, 0.05, "common practice: ratiometric sensors are supplied with 5 V"),
  supplySource: ohms(
    0.1,
    0.6,
    "common practice: a regulator holds 5 V within some tens of millivolts at 100 mA and more"
  ),
  supplyLimit: amps(
    0.5,
    0.3,
    "common practice: a 5 V supply for sensors gives some hundreds of milliamperes and no more"
  ),
  supplyOff: ohms(1e3, 0.7, "common practice: the 5 V rail bleeds into the board when it is off"),
  permanent: ohms(4e3, 0.6, "common practice: some milliamperes of standing current"),
  catchVolts: volts2(0.8, 0.15, "common practice: a silicon diode that carries an ampere or less"),
  catchOhms: ohms(0.1, 0.6, "common practice: such a diode with its board track"),
  ownVolts: volts2(12.4, 0.2, "common practice: the draw of an ECU is told at a rested battery with the key on"),
  lowSideOn: ohms(0.15, 0.6, SWITCH),
  mainRelayOn: ohms(0.3, 0.5, SWITCH),
  ignitionDriverOn: ohms(0.2, 0.4, "common practice: a coil driver drops 1 to 1.5 V at 6 to 8 A"),
  outputOff: ohms(1e7, 0.9, IDLE_OUTPUT),
  logicHigh: volts2(5, 0.3, "common practice: igniters are driven at 5 V logic"),
  logicSource: ohms(100, 0.5, "common practice: series resistor of a logic output"),
  logicOff: ohms(1e3, 0.7, "common practice: a logic output pulls its line down at rest"),
  bridgeHigh: volts2(6, 1, "common practice: a half bridge at half duty shows half the battery to a meter"),
  bridgeLow: volts2(0.05, 0.03, SWITCH),
  bridgeSource: ohms(0.2, 0.6, SWITCH),
  bridgeOff: ohms(1e4, 0.8, IDLE_OUTPUT),
  stepperOff: ohms(1e4, 0.8, IDLE_OUTPUT),
  supplyOutVolts: volts2(12, 0.3, "common practice: a switched supply output passes the battery on"),
  supplyOutSource: ohms(0.3, 0.6, SWITCH),
  supplyOutOff: ohms(1e4, 0.8, IDLE_OUTPUT),
  highSideOff: ohms(47e3, 0.5, "common practice: pull-down across a high-side output for open-load detection"),
  vr: ohms(5e4, 0.5, "common practice: input resistance of a VR conditioner to ground"),
  vrPair: ohms(1e4, 0.5, "common practice: input resistance across a differential VR conditioner"),
  input: ohms(1e6, 0.5, "common practice: input of an analog-digital converter with its filter"),
  canRecessive: volts2(2.5, 0.3, "ISO 11898-2: recessive bus voltage, nominal 2.5 V"),
  canInput: ohms(15e3, 0.6, "ISO 11898-2: internal resistance of a node, 5 to 50 k\u03A9 single-ended (from memory)"),
  canTermination: ohms(120, 0.02, "ISO 11898-2: termination, nominal 120 \u03A9")
};
var meter = {
  volts: ohms(1e7, 0.1, "common practice: input resistance of a digital meter on its volts ranges"),
  digit: volts2(0.02, 0.01, "common practice: and two of its last digits"),
  openAbove: ohms(2e6, 0.5, "common practice: the highest range of a plain meter shows no more")
};
var OPEN_CONTACT_OHMS = 1e6;
var OPEN_OHMS = 1e9;
var spreads = {
  wire: { value: 0.2, source: "common practice: copper gains 0.4 % a degree; lengths by string, crimps as they come" },
  joint: { value: 0.6, source: "common practice: a bolted joint is what its surfaces are" },
  fuse: { value: 0.3, source: "common practice: blade fuses of one rating, their clips in" },
  contact: { value: 0.7, source: "common practice: a relay contact from new to used" },
  winding: { value: 0.1, source: "common practice: windings are wound to a tenth, and warm up" },
  marked: { value: 0.05, source: "common practice: resistors of 5 %" },
  load: { value: 0.15, source: "common practice: motors, heaters and filaments by what they are marked with" },
  sensor: { value: 0.05, source: "common practice: sensors within some per cent of their curve" },
  meter: { value: 5e-3, source: "common practice: a plain digital meter on its volts ranges, 0.5 % of what it shows" },
  diode: { value: 0.15, source: "common practice: volts of a diode that conducts, by its current and warmth" }
};

// core/circuit/battery.ts
var KNOWN_AH = 45;
var KNOWN_CELSIUS = 20;
var COLD_A_DEGREE = 0.013;
var EMPTY_MORE = 0.8;
var restingVolts = (charge) => battery.empty.value + charge * (battery.off.value - battery.empty.value);
function insideOhms(batteryAh, celsius, charge) {
  const size = Math.sqrt(KNOWN_AH / batteryAh);
  const cold = 1 + COLD_A_DEGREE * Math.max(0, KNOWN_CELSIUS - celsius);
  return battery.inside.value * size * cold * (1 + EMPTY_MORE * (1 - charge));
}
function starterAmps({ engine: engine2, site }) {
  const litres = engine2.displacementCc / CC_A_LITRE;
  const stiff = 1 + STIFF_A_DEGREE * Math.max(0, KNOWN_CELSIUS - site.ambientCelsius);
  const press = cycleDegrees(engine2) === FOUR_STROKE_DEGREES ? 1 : EASY_SHARE;
  const amps2 = (STARTER_AMPS + STARTER_AMPS_A_LITRE * litres) * stiff * press;
  return Math.round(amps2 / STARTER_STEP) * STARTER_STEP;
}
var CC_A_LITRE = 1e3;
var STARTER_AMPS = 60;
var STARTER_AMPS_A_LITRE = 50;
var STARTER_STEP = 5;
var STIFF_A_DEGREE = 0.0125;
var FOUR_STROKE_DEGREES = 720;
var EASY_SHARE = 0.7;
var STARTER_VOLTS = 10;
var starterOhms = (build) => STARTER_VOLTS / starterAmps(build);
function sourceIn(build, state, charge) {
  if (state === "running" && build.power.charging !== "none")
    return {
      volts: battery.charging.value,
      ohms: battery.regulated.value,
      strays: battery.charging.spread,
      spread: battery.regulated.spread
    };
  const sag = sagIn(state);
  return {
    volts: restingVolts(charge) - (sag?.value ?? 0),
    ohms: insideOhms(build.power.batteryAh, build.site.ambientCelsius, charge),
    strays: Math.hypot((charge > HALF2 ? battery.off : battery.empty).spread, sag?.spread ?? 0),
    spread: battery.inside.spread
  };
}
var HALF2 = 0.5;
function sagIn(state) {
  if (state === "key-off" || state === "unplugged") return null;
  return state === "key-on" || state === "prime" ? battery.keyOnSag : battery.outputsOnSag;
}
var strapOhms = ({ power }) => wireOhms(power.strapSquareMm, power.strapMetres) + 2 * LUG_OHMS;
function crankedBy(build) {
  const { volts: volts3, ohms: ohms2 } = sourceIn(build, "cranking", 1);
  const load = starterOhms(build) + strapOhms(build);
  const amps2 = volts3 / (ohms2 + load);
  return { amps: amps2, volts: amps2 * load };
}
var crankedVolts = (build) => crankedBy(build).volts;

// core/circuit/branching.ts
var moving = /* @__PURE__ */ new Set(["fuse", "contact", "diode", "filament", "rail", "pin", "pull-up"]);
var Branching = class {
  constructor(reference) {
    this.reference = reference;
  }
  reference;
  index = /* @__PURE__ */ new Map();
  laws = [];
  ends = [];
  /** Number of a node, made on first use. */
  node(name3) {
    if (name3 === this.reference) return -1;
    const known9 = this.index.get(name3);
    if (known9 !== void 0) return known9;
    const created = this.index.size;
    this.index.set(name3, created);
    return created;
  }
  /** A branch by its law, volts from `b` to `a`; -1 where it would lead from a node to itself. */
  add(a, b, law) {
    const [i, j] = [this.node(a), this.node(b)];
    if (i === j) return -1;
    this.ends.push(i, j);
    return this.laws.push(law) - 1;
  }
  /** @param spread The share it usually strays by. */
  ohms(a, b, ohms2, spread3) {
    return this.add(a, b, { is: "ohms", ohms: ohms2, spread: spread3 });
  }
  done() {
    return {
      nodes: { reference: this.reference, index: this.index, names: [...this.index.keys()] },
      ends: Int32Array.from(this.ends),
      laws: this.laws,
      moving: Int32Array.from(this.laws.flatMap(({ is }, at) => moving.has(is) ? [at] : []))
    };
  }
};

// core/circuit/nodes.ts
var ECU_GROUND = "the ground of the ECU";
var ECU_FIVE = "the 5 V of the ECU";
var nameOf3 = ({ reference, names }, node) => node < 0 ? reference : names[node];
var numberOf = ({ index }, name3) => index.get(name3) ?? -1;
var hasNode = ({ reference, index }, name3) => name3 === reference || index.has(name3);

// core/circuit/compile-devices.ts
var carPoint = {
  "@15": KEY_RUN,
  "@50": KEY_START,
  "@30": BATTERY,
  "@31": groundEnd("chassis")
};
function drawnAt(device, kind3, inside2) {
  for (const terminal of kind3.terminals) {
    if (terminal.id !== inside2.from && terminal.id !== inside2.to) continue;
    const destination = destinationOf(device, terminal);
    if (destination.to === "feed" && destination.amps > 0 && fedThrough(kind3, terminal.id) === inside2)
      return destination.amps;
  }
  return null;
}
function filamentOf(kind3) {
  if (!hasRole(kind3, "lamp")) return null;
  for (const one2 of kind3.internals) if (one2.type === "resistor") return one2;
  return null;
}
function resistorLaw(build, device, kind3, one2) {
  const plain4 = { is: "ohms", ohms: one2.ohms, spread: spreads.winding.value };
  if (trait(kind3, "coil") || trait(kind3, "injector")) return plain4;
  const amps2 = drawnAt(device, kind3, one2);
  if (amps2 === null || one2.ohms >= OPEN_CONTACT_OHMS || hasRole(kind3, "alternator")) return plain4;
  return {
    is: "load",
    ohms: one2.ohms,
    workingOhms: runningVolts(build) / amps2,
    worked: isWorked(device, kind3, one2)
  };
}
function compileDevices(branching, build, net, diodes) {
  const devices = /* @__PURE__ */ new Map();
  const filaments = [];
  const rests = [];
  for (const { device, kind: kind3 } of net.devices) {
    const at = (terminal) => carPoint[terminal] ?? deviceEnd(device.id, terminal);
    const own2 = [];
    if (hasRole(kind3, "alternator")) compileLampTerminals(branching, build, device, kind3, diodes);
    const sensors = sensorsIn(kind3);
    if (device.pullUpOhms !== null)
      for (const sensor2 of sensors)
        branching.ohms(deviceEnd(device.id, sensor2.terminal), ECU_FIVE, device.pullUpOhms, spreads.marked.value);
    for (const terminal of kind3.terminals) {
      const destination = destinationOf(device, terminal);
      if (destination.to === "mounted")
        branching.ohms(
          deviceEnd(device.id, terminal.id),
          groundEnd(destination.place),
          parts2.mounted.value,
          parts2.mounted.spread
        );
    }
    const filament = filamentOf(kind3);
    kind3.internals.forEach((internal, number) => {
      const sensed = (share) => {
        rests.push({ kind: kind3, internal: number });
        return { is: "sensor", rest: rests.length - 1, share };
      };
      if (internal.type === "divider") {
        own2.push(
          { branch: branching.add(at(internal.supply), at(internal.signal), sensed("supply")), share: "supply" },
          { branch: branching.add(at(internal.signal), at(internal.ground), sensed("ground")), share: "ground" }
        );
        return;
      }
      let law = resistorLaw(build, device, kind3, internal);
      if (internal === filament) {
        law = { is: "filament", filament: filaments.length };
        const amps2 = drawnAt(device, kind3, internal);
        const litVolts = runningVolts(build);
        filaments.push({
          deviceId: device.id,
          i: branching.node(at(internal.from)),
          j: branching.node(at(internal.to)),
          coldOhms: internal.ohms,
          litOhms: amps2 === null ? null : litVolts / amps2,
          litVolts
        });
      } else if (law.is === "ohms" && sensors.length > 0) law = sensed("whole");
      own2.push({ branch: branching.add(at(internal.from), at(internal.to), law), share: "whole" });
    });
    devices.set(device.id, own2);
  }
  return { devices, filaments, rests };
}
function compileLampTerminals(branching, build, device, kind3, diodes) {
  for (const terminal of kind3.terminals) {
    if (terminal.destination.to !== "feed") continue;
    const [end2, ground2] = [deviceEnd(device.id, terminal.id), groundEnd("head")];
    branching.add(end2, ground2, { is: "diode", diode: diodes.length });
    diodes.push({
      id: end2,
      i: branching.node(end2),
      j: branching.node(ground2),
      volts: alternator.resting.value,
      ohms: alternator.field.value,
      when: "resting"
    });
    if (build.power.charging !== "none") branching.add(end2, ground2, { is: "charged" });
  }
}

// core/circuit/pulses-return.ts
function groundedBy({ device, kind: kind3 }) {
  const found2 = kind3.terminals.find(
    (terminal) => ["ground", "sensor-ground", "mounted"].includes(destinationOf(device, terminal).to)
  );
  return found2 ? deviceEnd(device.id, found2.id) : null;
}
function pulsesReturn(build, fitted2) {
  const coil = trait(fitted2.kind, "coil");
  if (!coil) return trait(fitted2.kind, "injector") ? ECU_GROUND : null;
  if (coil.igniter) return groundedBy(fitted2) ?? groundEnd("head");
  const module = igniterOf(build, fitted2);
  return module ? groundedBy(module) ?? groundEnd("head") : ECU_GROUND;
}

// core/circuit/compile-parts.ts
var DIODE_OHMS = 0.02;
var SUPPRESSOR_OHMS = 680;
var HELD_SECONDS = 5;
function compileParts(branching, build, net, diodes) {
  const relays = [];
  const fuses = [];
  const ratings = new Map(net.circuits.map(({ id: id3, fuseAmps }) => [id3, fuseAmps]));
  const node = (name3) => branching.node(name3);
  const diode = (id3, anode, cathode) => {
    const law = { is: "diode", diode: diodes.length };
    diodes.push({
      id: id3,
      i: node(anode),
      j: node(cathode),
      volts: DIODE_VOLTS,
      ohms: DIODE_OHMS,
      when: "always"
    });
    branching.add(anode, cathode, law);
  };
  branching.add(KEY_RUN, BATTERY, { is: "key", live: "run" });
  branching.add(KEY_START, BATTERY, { is: "key", live: "start" });
  for (const { id: id3, name: name3, part: part2 } of net.parts) {
    const [one2, other] = [partEnd(part2.kind, name3, "1"), partEnd(part2.kind, name3, "2")];
    switch (part2.kind) {
      case "fuse": {
        const amps2 = ratings.get(name3);
        const [from, to] = [fuseEnd(name3, 1), fuseEnd(name3, 2)];
        fuses.push({
          name: name3,
          i: node(from),
          j: node(to),
          branch: branching.add(from, to, { is: "fuse", fuse: fuses.length }),
          ohms: fuseOhms(amps2),
          opensVolts: opensWithin(HELD_SECONDS) * amps2 * fuseOhms(amps2)
        });
        break;
      }
      case "relay": {
        const [minus, plus] = [relayEnd(name3, "85"), relayEnd(name3, "86")];
        const common3 = relayEnd(name3, "30");
        const contact = (to, closedWhen) => branching.add(common3, relayEnd(name3, to), { is: "contact", relay: relays.length, closedWhen });
        const winding = branching.ohms(minus, plus, RELAY_WINDING_OHMS, spreads.winding.value);
        if (part2.suppression === "resistor") branching.ohms(minus, plus, SUPPRESSOR_OHMS, spreads.marked.value);
        if (part2.suppression === "diode") diode(id3, minus, plus);
        const made = contact("87", true);
        if (part2.contact === "change-over") contact("87a", false);
        relays.push({ name: name3, i: node(plus), j: node(minus), winding, contact: made });
        break;
      }
      case "diode":
        diode(id3, partEnd("diode", name3, "a"), partEnd("diode", name3, "k"));
        break;
      case "switch":
        branching.ohms(
          one2,
          other,
          part2.resting === "closed" ? switchOhms(part2.amps) : OPEN_OHMS,
          spreads.contact.value
        );
        break;
      case "button":
        branching.add(one2, other, { is: "button", ohms: BUTTON_OHMS });
        break;
      case "resistor":
        branching.ohms(one2, other, part2.ohms, spreads.marked.value);
        break;
      case "ground":
        branching.ohms(
          partEnd("ground", name3),
          groundEnd(part2.on === "body" ? "chassis" : "head"),
          parts2.mounted.value,
          parts2.mounted.spread
        );
        break;
      case "tap":
        branching.add(partEnd("tap", name3), BATTERY, { is: "key", live: part2.live });
        break;
      case "battery":
        branching.add(partEnd("battery", name3), groundEnd("battery"), { is: "battery", clampOhms: 0 });
        break;
      default:
        break;
    }
  }
  for (const { end: end2, load } of net.power.flows.draws) {
    const known9 = net.deviceOf.get(deviceAt(end2) ?? "");
    if (!load || !known9 || load.amps <= 0) continue;
    const returns = pulsesReturn(build, known9);
    if (returns !== null) branching.add(end2, returns, { is: "mean", amps: load.amps });
  }
  return { relays, fuses };
}

// core/circuit/ecu-pins.ts
function useOf(net, pin2) {
  const needId = net.cavityOf.get(pin2.id)?.needId;
  const need = needId ? withId(net.needs, needId) : void 0;
  const ability = (need && serve(pin2, need.ask).ability) ?? pin2.abilities[0];
  const wanted = need?.ask.pullUp ?? (ability.kind === "hall" || ability.kind === "switch" || ability.kind === "frequency");
  const { pullUpOhms } = ability;
  return {
    ability,
    pullUpOhms: pullUpOhms !== void 0 && (wanted || !ability.pullUpSwitchable) ? pullUpOhms : null
  };
}
var inputs = /* @__PURE__ */ new Set([
  "analog",
  "switch",
  "frequency",
  "hall",
  "knock",
  "wideband",
  "thermocouple"
]);
function compilePins(branching, build, net, diodes) {
  const [supply] = pinsOfKind(build.ecu, "switched");
  return build.ecu.pins.map((pin2, number) => {
    const { ability, pullUpOhms } = useOf(net, pin2);
    const end2 = ecuEnd(pin2.id);
    if (ability.catches && supply) {
      const rail = ecuEnd(supply.id);
      branching.add(end2, rail, { is: "diode", diode: diodes.length });
      diodes.push({
        id: end2,
        i: branching.node(end2),
        j: branching.node(rail),
        volts: inside.catchVolts.value,
        ohms: inside.catchOhms.value,
        when: "plugged"
      });
    }
    const to = ability.kind === "supply-5v" ? ECU_FIVE : ECU_GROUND;
    const branch = branching.add(end2, to, { is: "pin", pin: number });
    const pulled = pullUpOhms !== null && inputs.has(ability.kind);
    const pullUp = pulled ? branching.add(end2, ECU_FIVE, { is: "pull-up", ohms: pullUpOhms }) : -1;
    return { id: pin2.id, ability, node: branching.node(end2), pullUp, branch };
  });
}
var isOn = ({ scenario, powered, dead }, pin2, number) => powered && number !== dead && scenario.driven.has(pin2.id);
var plain3 = (ohms2, spread3) => ({ ohms: ohms2, volts: 0, spread: spread3, strays: 0 });
var told = ({ value, spread: spread3 }) => plain3(value, spread3);
var behind = (volts3, ohms2) => ({
  ohms: ohms2.value,
  volts: volts3.value,
  spread: ohms2.spread,
  strays: volts3.spread
});
var HELD_OHMS = 1e4;
var HELD_SPREAD = 0.3;
var held = (amps2) => ({
  volts: amps2 * HELD_OHMS,
  ohms: HELD_OHMS,
  spread: 0,
  strays: HELD_SPREAD * amps2 * HELD_OHMS
});
var heldBy = ({ kind: kind3, drive, maxAmps }) => (kind3 === "low-side" || kind3 === "injector") && drive !== "peak-hold" && maxAmps !== void 0 ? DRIVER_LIMIT_TIMES * maxAmps : Infinity;
function pinValue(pin2, number, doing, limiting, ownOhms) {
  const on = isOn(doing, pin2, number);
  const { scenario, powered } = doing;
  const { ability } = pin2;
  switch (ability.kind) {
    case "power-ground":
      return told(inside.powerGround);
    case "sensor-ground":
    case "shield":
      return told(inside.sensorGround);
    case "supply-5v":
      return told(inside.supplyTrack);
    case "permanent":
      return told(inside.permanent);
    case "switched":
      return plain3(ownOhms, spreads.load.value);
    case "injector":
    case "low-side": {
      if (!on || !limiting) return told(on ? inside.lowSideOn : inside.outputOff);
      const value = held(heldBy(ability));
      return { ...value, volts: -value.volts };
    }
    case "main-relay":
      return told(scenario.key !== "off" && number !== doing.dead ? inside.mainRelayOn : inside.outputOff);
    case "ignition-driver":
      return told(on ? inside.ignitionDriverOn : inside.outputOff);
    case "ignition-logic":
      return on ? behind(inside.logicHigh, inside.logicSource) : told(inside.logicOff);
    case "half-bridge":
      if (!on) return told(inside.bridgeOff);
      return behind(ability.side === "plus" ? inside.bridgeHigh : inside.bridgeLow, inside.bridgeSource);
    case "stepper":
      return told(inside.stepperOff);
    case "supply-out": {
      if (!powered) return told(inside.supplyOutOff);
      const value = behind(inside.supplyOutVolts, inside.supplyOutSource);
      return { ...value, volts: ability.volts ?? value.volts };
    }
    case "high-side":
      return told(inside.highSideOff);
    case "vr":
      return told(ability.pair === void 0 ? inside.vrPair : inside.vr);
    case "can":
      return powered ? behind(inside.canRecessive, inside.canInput) : told(inside.canInput);
    case "analog":
    case "switch":
    case "frequency":
    case "hall":
    case "knock":
    case "wideband":
    case "thermocouple":
      return told(inside.input);
  }
}
function railValue(powered, limiting) {
  if (!powered) return told(inside.supplyOff);
  return limiting ? held(inside.supplyLimit.value) : behind(inside.supplyOpen, inside.supplySource);
}
function pairsOf(build, kind3) {
  const pins = pinsOfKind(build.ecu, kind3);
  const ability = (pin2) => pin2.abilities.find((one2) => one2.kind === kind3);
  return pins.filter((pin2) => ability(pin2).side === "plus").flatMap(
    (plus) => pins.filter((other) => other !== plus && ability(other).pair === ability(plus).pair).map((minus) => [ecuEnd(plus.id), ecuEnd(minus.id)])
  );
}

// core/circuit/compile.ts
function compileCar(branching, build) {
  const clamps = 2 * LUG_OHMS;
  const joint = spreads.joint.value;
  branching.add(PLUS_POST, MINUS_POST, { is: "battery", clampOhms: clamps });
  branching.add(PLUS_POST, groundEnd("head"), { is: "starter", ohms: starterOhms(build) });
  return /* @__PURE__ */ new Map([
    ["battery-plus", branching.ohms(PLUS_POST, BATTERY, LUG_OHMS, joint)],
    ["battery-minus", branching.ohms(MINUS_POST, groundEnd("battery"), LUG_OHMS, joint)],
    ["strap", branching.ohms(groundEnd("head"), groundEnd("battery"), strapOhms(build), joint)],
    [
      "body",
      branching.ohms(groundEnd("chassis"), groundEnd("battery"), parts2.bodyToBattery.value, parts2.bodyToBattery.spread)
    ]
  ]);
}
var plugged = ({ value, spread: spread3 }) => ({ is: "plugged", ohms: value, spread: spread3 });
function compileAnew(build, net) {
  const branching = new Branching(groundEnd("battery"));
  const wires = new Map(
    net.wires.map((wire) => [wire.id, branching.ohms(wire.from, wire.to, endToEndOhms(wire), spreads.wire.value)])
  );
  const joints = compileCar(branching, build);
  const diodes = [];
  const plan = compileParts(branching, build, net, diodes);
  const devices = compileDevices(branching, build, net, diodes);
  branching.add(ECU_FIVE, ECU_GROUND, { is: "rail" });
  const pins = compilePins(branching, build, net, diodes);
  for (const [plus, minus] of pairsOf(build, "can")) branching.add(plus, minus, plugged(inside.canTermination));
  for (const [plus, minus] of pairsOf(build, "vr")) branching.add(plus, minus, plugged(inside.vrPair));
  const feeds = pinsOfKind(build.ecu, "switched").map(({ id: id3 }) => branching.node(ecuEnd(id3)));
  return {
    ...branching.done(),
    wires,
    joints,
    ...plan,
    ...devices,
    diodes,
    pins,
    drivers: pins.flatMap(({ ability, node }, pin2) => {
      const amps2 = heldBy(ability);
      return amps2 === Infinity ? [] : [{ pin: pin2, node, holdsVolts: amps2 * inside.lowSideOn.value }];
    }),
    ecu: {
      ground: branching.node(ECU_GROUND),
      five: branching.node(ECU_FIVE),
      feeds,
      minVolts: build.ecu.minVolts,
      // What the ECU draws by its own definition, through as many pins as it is fed by.
      ownOhms: inside.ownVolts.value / build.ecu.ownAmps * feeds.length
    },
    body: branching.node(groundEnd("chassis"))
  };
}
var known7 = /* @__PURE__ */ new WeakMap();
function compile(build, net) {
  const found2 = known7.get(net);
  return found2?.build === build ? found2.ir : compiled(build, net, compileAnew(build, net));
}
function compiled(build, net, ir) {
  known7.set(net, { build, ir });
  return ir;
}

// core/sensing/atmosphere.ts
var standardBarometerKpa = (altitudeMetres) => 101.325 * (1 - 225577e-10 * altitudeMetres) ** 5.25588;
var SEA_LEVEL_KPA = 101.325;
var altitudeOfKpa = (kpa) => (1 - (kpa / SEA_LEVEL_KPA) ** (1 / 5.25588)) / 225577e-10;

// core/circuit/pulsed.ts
var pulsedKinds = /* @__PURE__ */ new Set(["injector", "ignition-logic", "ignition-driver"]);
var TEST_DUTY = 0.05;
function pulsedOf(net, pins) {
  return new Set(
    [...pins].filter((pin2) => {
      const need = withId(net.needs, net.cavityOf.get(pin2)?.needId);
      return need !== void 0 && pulsedKinds.has(need.ask.kind);
    })
  );
}

// core/circuit/scenario.ts
var NONE = /* @__PURE__ */ new Set();
var drives = (state) => state !== "unplugged" && state !== "key-off" && state !== "key-on";
function scenarioOf(build, net, state, { driven = null, charge = 1, celsius = null, kpa = null } = {}) {
  const { ambientCelsius, altitudeMetres } = build.site;
  const off = state === "unplugged" || state === "key-off";
  const steady2 = state !== "outputs-on" || driven === null || pulsedOf(net, driven).size < driven.size;
  return {
    // What comes in pulses pulls no battery down: it stands as with the key on.
    source: state === "unplugged" ? null : sourceIn(build, steady2 ? state : "key-on", charge),
    key: off ? "off" : state === "cranking" ? "start" : "run",
    engine: state === "cranking" || state === "running" ? state : "still",
    plugged: state !== "unplugged",
    driven: drives(state) ? driven ?? drivenIn(net, state) ?? new Set(build.ecu.pins.map(({ id: id3 }) => id3)) : NONE,
    celsius: celsius ?? ambientCelsius,
    kpa: kpa ?? standardBarometerKpa(altitudeMetres)
  };
}
function isOtherWinding(net, { deviceId, end: end2 }) {
  const ref = endOf(end2);
  const kind3 = net.deviceOf.get(deviceId ?? "")?.kind;
  if (!kind3 || ref.of !== "device") return false;
  const windings = kind3.internals.flatMap((one2) => one2.type === "resistor" ? [[one2.from, one2.to]] : []);
  const others = (at) => windings.flatMap(([from, to]) => from === at ? [to] : to === at ? [from] : []);
  const isFeed = (id3) => withId(kind3.terminals, id3)?.destination.to === "feed";
  const [first2] = others(ref.terminal).filter(isFeed).flatMap(others).filter((id3) => withId(kind3.terminals, id3)?.destination.to === "pin");
  return first2 !== void 0 && first2 !== ref.terminal;
}
function drivenIn(net, state) {
  if (state !== "prime" && state !== "cranking" && state !== "running") return null;
  const works = (need, role2) => {
    const devices = [need.deviceId, ...(net.relayLoads.get(need.winding ?? "") ?? []).map(({ end: end2 }) => deviceAt(end2))];
    return devices.some((id3) => id3 !== null && hasRole(net.deviceOf.get(id3).kind, role2));
  };
  const isOn2 = (need) => {
    if (state === "prime") return works(need, "pump");
    return !pulsedKinds.has(need.ask.kind) && !isOtherWinding(net, need) && !works(need, state === "running" ? "starter" : "fan");
  };
  return new Set(
    net.cavities.flatMap(({ pin: pin2, needId }) => {
      const need = needId === null ? void 0 : withId(net.needs, needId);
      return need && isOn2(need) ? [pin2.id] : [];
    })
  );
}
var isResting = ({ source, key, engine: engine2 }) => source !== null && key !== "off" && engine2 !== "running";
var isThere2 = ({ when }, scenario) => when === "always" || (when === "plugged" ? scenario.plugged : isResting(scenario));

// core/circuit/drive.ts
var restingDrive = (ir) => ({
  relays: new Uint8Array(ir.relays.length),
  fuses: new Uint8Array(ir.fuses.length),
  diodes: new Uint8Array(ir.diodes.length),
  limits: new Uint8Array(ir.pins.length),
  fiveLimits: false,
  filaments: new Float64Array(ir.filaments.length),
  powered: false
});
var nothingStuck = { relay: -1, fuse: -1, pin: -1 };
var CLOSE2 = 1e-6;
var FILAMENT_POWER = 0.45;
var WARM_SHARE = 1e-4;
function warmed({ coldOhms, litOhms, litVolts, i, j }, at) {
  if (litOhms === null) return coldOhms;
  return Math.max(coldOhms, litOhms * (Math.abs(at(i) - at(j)) / litVolts) ** FILAMENT_POWER);
}
var FIVE_LEAST = inside.supplyOpen.value - inside.supplyLimit.value * inside.supplySource.value - CLOSE2;
function driveAt(ir, scenario, before, stuck, at) {
  const { ground: ground2, five: five2, feeds, minVolts } = ir.ecu;
  const { plugged: plugged2, driven } = scenario;
  const drives2 = plugged2 && before.powered;
  const relays = Uint8Array.from(ir.relays, ({ i, j }, one2) => {
    if (one2 === stuck.relay) return 0;
    return Math.abs(at(i) - at(j)) >= (before.relays[one2] === 1 ? parts2.dropOut : parts2.pullIn).value ? 1 : 0;
  });
  const fuses = Uint8Array.from(
    ir.fuses,
    ({ i, j, opensVolts }, one2) => one2 !== stuck.fuse && (before.fuses[one2] === 1 || Math.abs(at(i) - at(j)) >= opensVolts) ? 1 : 0
  );
  const diodes = Uint8Array.from(
    ir.diodes,
    (one2) => isThere2(one2, scenario) && at(one2.i) - at(one2.j) >= one2.volts - CLOSE2 ? 1 : 0
  );
  const limits = new Uint8Array(ir.pins.length);
  for (const { pin: pin2, node, holdsVolts } of ir.drivers)
    if (drives2 && pin2 !== stuck.pin && driven.has(ir.pins[pin2].id) && at(node) - at(ground2) >= holdsVolts + CLOSE2)
      limits[pin2] = 1;
  return {
    relays,
    fuses,
    diodes,
    limits,
    fiveLimits: drives2 && at(five2) - at(ground2) <= FIVE_LEAST,
    filaments: Float64Array.from(ir.filaments, (one2) => warmed(one2, at)),
    powered: plugged2 && feeds.some((feed2) => at(feed2) - at(ground2) >= minVolts)
  };
}
var isAsWarm = (one2, other) => Math.abs(other - one2) <= WARM_SHARE * one2;
var same = (one2, other) => one2.every((on, at) => on === other[at]);
var isSameDrive = (one2, other) => one2.powered === other.powered && one2.fiveLimits === other.fiveLimits && same(one2.relays, other.relays) && same(one2.diodes, other.diodes) && same(one2.fuses, other.fuses) && same(one2.limits, other.limits) && one2.filaments.every((ohms2, at) => isAsWarm(ohms2, other.filaments[at]));

// core/circuit/faults.ts
function crossedEnds(a, b) {
  const deviceFirst = (wire) => deviceAt(wire.from) !== null;
  const far2 = (wire) => deviceFirst(wire) ? wire.from : wire.to;
  const near = (wire) => deviceFirst(wire) ? wire.to : wire.from;
  return [
    { from: near(a), to: far2(b) },
    { from: near(b), to: far2(a) }
  ];
}

// core/circuit/changes.ts
var noChanges = { set: [], extra: [], stuck: nothingStuck };
var ohmsOf = (ir, branch) => {
  const law = ir.laws[branch];
  return law.is === "ohms" ? law.ohms : NaN;
};
var setting = (branch, ohms2) => ({
  ...noChanges,
  set: branch < 0 ? [] : [{ branch, ohms: ohms2 }]
});
function changesOf(ir, fault) {
  switch (fault?.type) {
    case "open":
      return setting(ir.wires.get(fault.wireId) ?? -1, OPEN_OHMS);
    case "resistive": {
      const branch = ir.wires.get(fault.wireId) ?? -1;
      return branch < 0 ? noChanges : setting(branch, ohmsOf(ir, branch) + fault.ohms);
    }
    case "short-to-ground": {
      const branch = ir.wires.get(fault.wireId) ?? -1;
      if (branch < 0) return noChanges;
      const bitten = ir.ends[2 * branch + 1];
      if (bitten === ir.body) return noChanges;
      return { ...noChanges, extra: [{ i: bitten, j: ir.body, ohms: parts2.shortToBody.value, carries: -1 }] };
    }
    case "crossed":
      return crossed(ir, fault.wireIds);
    case "poor-joint": {
      const branch = ir.joints.get(fault.joint);
      return setting(branch, ohmsOf(ir, branch) + fault.ohms);
    }
    case "blown-fuse": {
      const fuse = ir.fuses.findIndex(({ name: name3 }) => name3 === fault.circuitId);
      if (fuse < 0) return noChanges;
      return { ...setting(ir.fuses[fuse].branch, OPEN_OHMS), stuck: { ...nothingStuck, fuse } };
    }
    case "relay-stuck-open": {
      const relay2 = ir.relays.find(({ name: name3 }) => name3 === fault.circuitId);
      return relay2 ? setting(relay2.contact, OPEN_OHMS) : noChanges;
    }
    case "relay-winding-open": {
      const relay2 = ir.relays.findIndex(({ name: name3 }) => name3 === fault.circuitId);
      if (relay2 < 0) return noChanges;
      return { ...setting(ir.relays[relay2].winding, OPEN_OHMS), stuck: { ...nothingStuck, relay: relay2 } };
    }
    case "not-driven": {
      const pin2 = ir.pins.findIndex(({ id: id3 }) => id3 === fault.pinId);
      return { ...noChanges, stuck: { ...nothingStuck, pin: pin2 } };
    }
    case "no-pull-up":
      return setting(ir.pins.find(({ id: id3 }) => id3 === fault.pinId)?.pullUp ?? -1, Infinity);
    case "device-open":
    case "device-shorted":
      return broken(ir, fault.deviceId, fault.type === "device-open");
    default:
      return noChanges;
  }
}
function broken(ir, deviceId, isOpen2) {
  const set = (ir.devices.get(deviceId) ?? []).flatMap(({ branch, share }) => {
    if (branch < 0) return [];
    if (isOpen2) return [{ branch, ohms: share === "whole" ? OPEN_OHMS : Infinity }];
    if (share === "whole") return [{ branch, ohms: parts2.shortedPart.value }];
    return share === "supply" ? [{ branch, ohms: parts2.shortedSensor.value }] : [];
  });
  return { ...noChanges, set };
}
function crossed(ir, wireIds2) {
  const branches = wireIds2.map((id3) => ir.wires.get(id3) ?? -1);
  const [one2, other] = branches.map((branch) => ({
    from: nameOf3(ir.nodes, ir.ends[2 * branch] ?? -1),
    to: nameOf3(ir.nodes, ir.ends[2 * branch + 1] ?? -1)
  }));
  if (!one2 || !other || branches.includes(-1)) return noChanges;
  const ends2 = crossedEnds(one2, other);
  return {
    ...noChanges,
    set: branches.map((branch) => ({ branch, ohms: Infinity })),
    extra: branches.flatMap((branch, at) => {
      const [i, j] = [numberOf(ir.nodes, ends2[at].from), numberOf(ir.nodes, ends2[at].to)];
      return i === j ? [] : [{ i, j, ohms: ohmsOf(ir, branch), carries: branch }];
    })
  };
}

// core/circuit/elimination.ts
function eliminate(nodes, ends2) {
  const rows = Array.from({ length: nodes }, () => /* @__PURE__ */ new Map());
  let slotCount = 0;
  const slotOf = (i, j) => {
    const known9 = rows[i].get(j);
    if (known9 !== void 0) return known9;
    rows[i].set(j, slotCount);
    rows[j].set(i, slotCount);
    return slotCount++;
  };
  const slots2 = new Int32Array(ends2.length / 2);
  for (let at = 0; at < slots2.length; at += 1) {
    const [i, j] = [ends2[2 * at], ends2[2 * at + 1]];
    slots2[at] = i >= 0 && j >= 0 ? slotOf(i, j) : -1;
  }
  const order = new Int32Array(nodes);
  const starts = new Int32Array(nodes + 1);
  const neighbours2 = [];
  const places = [];
  const fills = [];
  const gone = new Uint8Array(nodes);
  const buckets = [];
  const push = (node) => (buckets[rows[node].size] ??= []).push(node);
  for (let node = 0; node < nodes; node += 1) push(node);
  let degree = 0;
  for (let step = 0; step < nodes; step += 1) {
    let node = -1;
    degree = Math.max(0, degree - 1);
    while (node < 0) {
      const candidate = buckets[degree]?.pop();
      if (candidate === void 0) degree += 1;
      else if (gone[candidate] === 0 && rows[candidate].size === degree) node = candidate;
    }
    order[step] = node;
    gone[node] = 1;
    starts[step] = neighbours2.length;
    const touched = [...rows[node]];
    for (const [other, place3] of touched) {
      neighbours2.push(other);
      places.push(place3);
      rows[other].delete(node);
    }
    for (let a = 0; a < touched.length; a += 1)
      for (let b = a + 1; b < touched.length; b += 1) fills.push(slotOf(touched[a][0], touched[b][0]));
    for (const [other] of touched) push(other);
  }
  starts[nodes] = neighbours2.length;
  return {
    nodes,
    ends: ends2,
    slots: slots2,
    slotCount,
    order,
    starts,
    neighbours: Int32Array.from(neighbours2),
    places: Int32Array.from(places),
    fills: Int32Array.from(fills)
  };
}
var MOST_KEPT = 24;
var Eliminations = class {
  kept = [];
  of(nodes, ends2) {
    const at = this.kept.findIndex((one2) => one2.nodes === nodes && isSame2(one2.ends, ends2));
    const found2 = at < 0 ? eliminate(nodes, ends2) : this.kept[at];
    if (at !== 0) this.kept = [found2, ...this.kept.filter((one2) => one2 !== found2)].slice(0, MOST_KEPT);
    return found2;
  }
};
function isSame2(one2, other) {
  if (one2.length !== other.length) return false;
  for (let i = 0; i < one2.length; i += 1) if (one2[i] !== other[i]) return false;
  return true;
}

// core/circuit/network.ts
var LEAK_SIEMENS = 1e-10;
var eliminations = new Eliminations();
var Network = class {
  constructor(nodes, branches) {
    this.nodes = nodes;
    this.branches = branches;
  }
  nodes;
  branches;
  get size() {
    return this.nodes.names.length;
  }
  /** Names of the nodes, in the order of a solution. */
  get names() {
    return this.nodes.names;
  }
  /** What it is made of, for whoever solves it otherwise: but for branches that lead nothing. */
  get elements() {
    const { ends: ends2, siemens, volts: volts3 } = this.branches;
    const name3 = (node) => nameOf3(this.nodes, node);
    return Array.from(
      siemens,
      (lead, at) => lead === 0 ? [] : [{ plus: name3(ends2[2 * at]), minus: name3(ends2[2 * at + 1]), ohms: 1 / lead, volts: volts3[at] }]
    ).flat();
  }
  /**
   * What flows into each node and not out of it in a solution, amperes.
   *
   * @param injected What is pushed into each node, its sources all at rest; null: what its sources push.
   */
  unbalanced(solution, injected2 = null) {
    const sums = injected2 ? injected2.slice() : this.currents();
    const { ends: ends2, siemens } = this.branches;
    for (let at = 0; at < siemens.length; at += 1) {
      const i = ends2[2 * at];
      const j = ends2[2 * at + 1];
      const flow = ((i < 0 ? 0 : solution[i]) - (j < 0 ? 0 : solution[j])) * siemens[at];
      if (i >= 0) sums[i] -= flow;
      if (j >= 0) sums[j] += flow;
    }
    for (let node = 0; node < sums.length; node += 1) sums[node] -= LEAK_SIEMENS * solution[node];
    return sums;
  }
  /** What its sources push into each node, amperes. */
  currents() {
    const injected2 = new Float64Array(this.size);
    const { ends: ends2, siemens, volts: volts3 } = this.branches;
    for (let at = 0; at < volts3.length; at += 1) {
      if (volts3[at] === 0) continue;
      const i = ends2[2 * at];
      const j = ends2[2 * at + 1];
      if (i >= 0) injected2[i] += volts3[at] * siemens[at];
      if (j >= 0) injected2[j] -= volts3[at] * siemens[at];
    }
    return injected2;
  }
  factor() {
    const n = this.size;
    const { ends: ends2, siemens } = this.branches;
    const { slots: slots2, slotCount, order, starts, neighbours: neighbours2, places, fills } = eliminations.of(n, ends2);
    const pivots = new Float64Array(n).fill(LEAK_SIEMENS);
    const values = new Float64Array(slotCount);
    for (let at = 0; at < slots2.length; at += 1) {
      const i = ends2[2 * at];
      const j = ends2[2 * at + 1];
      if (i >= 0) pivots[i] += siemens[at];
      if (j >= 0) pivots[j] += siemens[at];
      if (slots2[at] >= 0) values[slots2[at]] -= siemens[at];
    }
    const factors = new Float64Array(neighbours2.length);
    let [largest2, smallest] = [0, Infinity];
    let fill = 0;
    for (let step = 0; step < n; step += 1) {
      const pivot = pivots[order[step]];
      if (pivot > largest2) largest2 = pivot;
      if (pivot < smallest) smallest = pivot;
      const end2 = starts[step + 1];
      for (let a = starts[step]; a < end2; a += 1) {
        const value = values[places[a]];
        factors[a] = value / pivot;
        pivots[neighbours2[a]] -= value * factors[a];
      }
      for (let a = starts[step]; a < end2; a += 1)
        for (let b = a + 1; b < end2; b += 1) values[fills[fill++]] -= values[places[a]] * factors[b];
    }
    const solve2 = (currents) => {
      const v = Float64Array.from(currents);
      for (let step = 0; step < n; step += 1) {
        const value = v[order[step]];
        if (value !== 0)
          for (let k = starts[step]; k < starts[step + 1]; k += 1) v[neighbours2[k]] -= factors[k] * value;
      }
      for (let node = 0; node < n; node += 1) v[node] /= pivots[node];
      for (let step = n - 1; step >= 0; step -= 1) {
        const node = order[step];
        let sum = v[node];
        for (let k = starts[step]; k < starts[step + 1]; k += 1) sum -= factors[k] * v[neighbours2[k]];
        v[node] = sum;
      }
      return v;
    };
    return { solve: solve2, conditioning: n === 0 ? 1 : smallest / largest2 };
  }
};

// core/sensing/sensor.ts
var REFERENCE_VOLTS = 5;
var parallel = (one2, other) => one2 === null ? other : other === null ? one2 : one2 * other / (one2 + other);
function pullUpOf(build, sensor2, pin2) {
  const ask = { kind: "analog", pullUp: sensor2.signal === "ohms" };
  if (pin2) {
    const ability = serve(pin2, ask).ability ?? pin2.abilities.find((one2) => one2.kind === "analog");
    if (ability?.pullUpOhms === void 0) return null;
    return sensor2.signal === "ohms" || !ability.pullUpSwitchable ? ability.pullUpOhms : null;
  }
  if (sensor2.signal !== "ohms") return null;
  for (const other of build.ecu.pins) {
    const { ability } = serve(other, ask);
    if (ability?.pullUpOhms !== void 0) return ability.pullUpOhms;
  }
  return null;
}
var pullUpsAt = (at) => ({
  inside: at.insideOhms,
  outside: at.device.pullUpOhms
});
function sensorsOf(build, net) {
  const pins = new Map(build.ecu.pins.map((pin2) => [pin2.id, pin2]));
  return net.devices.flatMap(({ device, kind: kind3 }) => {
    const all = sensorsIn(kind3);
    return all.map((sensor2) => {
      const id3 = terminalId(device.id, sensor2.terminal);
      const pin2 = pins.get(build.assignments[id3] ?? "") ?? null;
      const name3 = kind3.terminals.find((terminal) => terminal.id === sensor2.terminal)?.name;
      const insideOhms2 = pullUpOf(build, sensor2, pin2);
      return {
        id: id3,
        label: all.length > 1 ? `${device.label}, ${name3}` : device.label,
        device,
        kind: kind3,
        sensor: sensor2,
        pin: pin2,
        pullUpOhms: parallel(insideOhms2, device.pullUpOhms),
        insideOhms: insideOhms2,
        assumed: pin2 === null
      };
    });
  });
}
var pinUnit = (sensor2) => sensor2.signal === "hertz" ? "Hz" : sensor2.signal === "millivolts" ? "mV" : "V";
var pulledUpVolts = (ohms2, pullUpOhms, reference = REFERENCE_VOLTS) => reference * ohms2 / (ohms2 + pullUpOhms);
var pulledUpOhms = (volts3, pullUpOhms, reference = REFERENCE_VOLTS) => volts3 > 0 && volts3 < reference ? pullUpOhms * volts3 / (reference - volts3) : null;
function signalToPin(at, signal) {
  if (at.sensor.signal !== "ohms") return signal;
  return at.pullUpOhms === null ? null : pulledUpVolts(signal, at.pullUpOhms);
}
function pinToSignal(at, reading2) {
  if (at.sensor.signal !== "ohms") return reading2;
  return at.pullUpOhms === null ? null : pulledUpOhms(reading2, at.pullUpOhms);
}
function pinReading(at, value, curve2 = curveOf(at.sensor.curve)) {
  const signal = curve2.signalOf(value);
  return signal === null ? null : signalToPin(at, signal);
}
function valueAtPin(at, reading2, curve2 = curveOf(at.sensor.curve)) {
  const signal = pinToSignal(at, reading2);
  return signal === null ? null : curve2.valueOf(signal);
}
function restValue(site, kind3, sensor2) {
  if (sensor2.quantity === "temperature") return site.ambientCelsius;
  if (sensor2.quantity !== "pressure") return null;
  const reference = trait(kind3, "pressure")?.reference;
  if (reference === void 0) return null;
  return reference === "absolute" ? standardBarometerKpa(site.altitudeMetres) : 0;
}
var clamp = (value, least, most2) => Math.min(most2, Math.max(least, value));
function restSignal(site, kind3, sensor2) {
  const value = restValue(site, kind3, sensor2);
  return value === null ? null : curveOf(sensor2.curve).signalOf(clamp(value, sensor2.least, sensor2.most));
}
function settingError(site, at, setting2) {
  const [part2, other] = [curveOf(at.sensor.curve), curveOf(setting2)];
  const errorAt = (value) => {
    const reading2 = pinReading(at, value, part2);
    const shown = reading2 === null ? null : valueAtPin(at, reading2, other);
    return shown === null ? null : shown - value;
  };
  const { least, most: most2 } = at.sensor;
  let worst = { error: 0, value: least };
  for (let i = 0; i <= 60; i += 1) {
    const value = least + (most2 - least) * i / 60;
    const error = errorAt(value);
    if (error !== null && Math.abs(error) > Math.abs(worst.error)) worst = { error, value };
  }
  const rest = restValue(site, at.kind, at.sensor);
  return { worst: worst.error, worstAt: worst.value, atRest: rest === null ? null : errorAt(clamp(rest, least, most2)) };
}

// core/circuit/rest.ts
function internalsAtRest(site, kind3) {
  const sensors = sensorsIn(kind3);
  if (sensors.length === 0) return kind3.internals;
  return kind3.internals.map((internal) => {
    if (internal.type === "resistor") {
      const sensor3 = sensors.find(
        (one2) => one2.signal === "ohms" && (one2.terminal === internal.from || one2.terminal === internal.to)
      );
      const ohms2 = sensor3 ? restSignal(site, kind3, sensor3) : null;
      return ohms2 === null ? internal : { ...internal, ohms: ohms2 };
    }
    const sensor2 = sensors.find((one2) => one2.signal === "volts" && one2.terminal === internal.signal);
    const volts3 = sensor2 ? restSignal(site, kind3, sensor2) : null;
    const ratio = volts3 === null ? null : volts3 / REFERENCE_VOLTS;
    return ratio === null || !(ratio > 0 && ratio < 1) ? internal : { ...internal, ratio };
  });
}

// core/circuit/values.ts
var NOTHING4 = plain3(Infinity, 0);
var OPEN = plain3(OPEN_OHMS, 0);
var sourced = ({ volts: volts3, ohms: ohms2, spread: spread3, strays }, clampOhms) => ({
  volts: volts3,
  ohms: ohms2 - clampOhms,
  spread: spread3,
  strays
});
var STARTER_SPREAD = 0.3;
var restsOf = /* @__PURE__ */ new WeakMap();
function sensorOhms(ir, { celsius, kpa }) {
  const air = `${celsius} ${kpa}`;
  const known9 = restsOf.get(ir);
  if (known9?.air === air) return known9.shares;
  const site = { ambientCelsius: celsius, altitudeMetres: altitudeOfKpa(kpa) };
  const shares = ir.rests.map(({ kind: kind3, internal }) => {
    const one2 = internalsAtRest(site, kind3)[internal];
    return one2.type === "divider" ? { whole: one2.ohms, supply: one2.ohms / one2.ratio, ground: one2.ohms / (1 - one2.ratio) } : { whole: one2.ohms, supply: one2.ohms, ground: one2.ohms };
  });
  restsOf.set(ir, { air, shares });
  return shares;
}
var isLive = ({ key }, live) => live === "always" || (live === "run" ? key !== "off" : key === "start");
function valueOf(ir, law, scenario, drive, dead) {
  const { source, engine: engine2, plugged: plugged2 } = scenario;
  const { powered } = drive;
  switch (law.is) {
    case "ohms":
      return plain3(law.ohms, law.spread);
    case "plugged":
      return plugged2 ? plain3(law.ohms, law.spread) : NOTHING4;
    case "battery":
      return source ? sourced(source, law.clampOhms) : NOTHING4;
    case "key":
      if (source === null) return NOTHING4;
      return isLive(scenario, law.live) ? told(parts2.key) : OPEN;
    case "button":
      return engine2 === "cranking" ? plain3(law.ohms, spreads.contact.value) : OPEN;
    case "starter":
      return source && engine2 === "cranking" ? plain3(law.ohms, STARTER_SPREAD) : NOTHING4;
    case "charged":
      return engine2 === "running" ? behind(battery.charging, alternator.lampOut) : NOTHING4;
    case "mean":
      return source && engine2 === "running" ? plain3(source.volts / law.amps, spreads.load.value) : NOTHING4;
    case "load":
      return source === null || law.worked && engine2 === "still" ? plain3(law.ohms, spreads.winding.value) : plain3(law.workingOhms, spreads.load.value);
    case "sensor":
      return plain3(sensorOhms(ir, scenario)[law.rest][law.share], spreads.sensor.value);
    case "fuse":
      return drive.fuses[law.fuse] ? OPEN : plain3(ir.fuses[law.fuse].ohms, spreads.fuse.value);
    case "contact":
      return drive.relays[law.relay] === 1 === law.closedWhen ? plain3(RELAY_CONTACT_OHMS, spreads.contact.value) : OPEN;
    case "diode": {
      const diode = ir.diodes[law.diode];
      if (!isThere2(diode, scenario)) return NOTHING4;
      if (!drive.diodes[law.diode]) return OPEN;
      return { volts: diode.volts, ohms: diode.ohms, spread: spreads.load.value, strays: spreads.diode.value };
    }
    case "filament": {
      const { coldOhms, litOhms } = ir.filaments[law.filament];
      if (source === null) return plain3(coldOhms, spreads.load.value);
      return plain3(drive.filaments[law.filament] || (litOhms ?? coldOhms), spreads.load.value);
    }
    case "rail":
      return plugged2 ? railValue(powered, drive.fiveLimits) : NOTHING4;
    case "pin": {
      if (!plugged2) return NOTHING4;
      const limiting = drive.limits[law.pin] === 1;
      return pinValue(ir.pins[law.pin], law.pin, { scenario, powered, dead }, limiting, ir.ecu.ownOhms);
    }
    case "pull-up":
      return plugged2 ? plain3(law.ohms, spreads.marked.value) : NOTHING4;
  }
}

// core/circuit/watch.ts
function eitherWay(i, j, from, on, now) {
  if (!on) return [i, j, -from, from];
  return now < 0 ? [j, i, from, Infinity] : [i, j, from, Infinity];
}
var oneWay = (i, j, from, on) => on ? [i, j, from, Infinity] : [i, j, -Infinity, from];
var ANY = [-1, -1, -Infinity, Infinity];
function watchesOf(ir, scenario, before, after, voltages) {
  const at = (node) => node < 0 ? 0 : voltages[node];
  const { ground: ground2, five: five2, feeds, minVolts } = ir.ecu;
  const drives2 = scenario.plugged && before.powered;
  const bounds = ir.relays.map(({ i, j }, one2) => {
    const from = (before.relays[one2] === 1 ? parts2.dropOut : parts2.pullIn).value;
    return eitherWay(i, j, from, after.relays[one2] === 1, at(i) - at(j));
  });
  const fuses = bounds.length;
  ir.fuses.forEach(
    ({ i, j, opensVolts }, one2) => bounds.push(before.fuses[one2] === 1 ? ANY : eitherWay(i, j, opensVolts, after.fuses[one2] === 1, at(i) - at(j)))
  );
  const drivers = bounds.length;
  for (const { pin: pin2, node, holdsVolts } of ir.drivers)
    bounds.push(
      drives2 && scenario.driven.has(ir.pins[pin2].id) ? oneWay(node, ground2, holdsVolts + CLOSE2, after.limits[pin2] === 1) : ANY
    );
  ir.diodes.forEach((diode, one2) => {
    const { i, j, volts: volts3 } = diode;
    if (isThere2(diode, scenario)) bounds.push(oneWay(i, j, volts3 - CLOSE2, after.diodes[one2] === 1));
  });
  if (drives2) bounds.push(oneWay(ground2, five2, -FIVE_LEAST, after.fiveLimits));
  if (scenario.plugged) {
    const holding = feeds.filter((feed2) => after.powered && at(feed2) - at(ground2) >= minVolts).slice(0, 1);
    for (const feed2 of after.powered ? holding : feeds) bounds.push(oneWay(feed2, ground2, minVolts, after.powered));
  }
  ir.filaments.forEach(({ i, j, coldOhms, litOhms, litVolts }, one2) => {
    if (litOhms === null) return;
    const voltsAt = (ohms2) => litVolts * (ohms2 / litOhms) ** (1 / FILAMENT_POWER);
    const most2 = voltsAt(after.filaments[one2] * (1 + WARM_SHARE / 2));
    const cold = after.filaments[one2] <= coldOhms;
    const least = cold ? -most2 : voltsAt(after.filaments[one2] * (1 - WARM_SHARE / 2));
    bounds.push(at(i) >= at(j) ? [i, j, least, most2] : [j, i, least, most2]);
  });
  const ends2 = Int32Array.from(bounds.flatMap(([i, j]) => [i, j]));
  const now = watched({ ends: ends2 }, voltages);
  return {
    ends: ends2,
    now,
    margin: bounds.reduce(
      (nearest, [, , least, under], one2) => Math.min(nearest, now.volts[one2] - least, under - now.volts[one2]),
      Infinity
    ),
    least: Float64Array.from(bounds, ([, , least]) => least),
    under: Float64Array.from(bounds, ([, , , under]) => under),
    fuses,
    drivers
  };
}
function watched({ ends: ends2 }, volts3) {
  const found2 = new Float64Array(ends2.length / 2);
  for (let one2 = 0; one2 < found2.length; one2 += 1) {
    const i = ends2[2 * one2];
    const j = ends2[2 * one2 + 1];
    found2[one2] = (i < 0 ? 0 : volts3[i]) - (j < 0 ? 0 : volts3[j]);
  }
  return { volts: found2, most: found2.reduce((most2, one2) => Math.max(most2, Math.abs(one2)), 0) };
}

// core/circuit/solve.ts
var MAX_ROUNDS = 12;
var Column = class {
  constructor(network, unit, volts3) {
    this.network = network;
    this.unit = unit;
    this.volts = volts3;
  }
  network;
  unit;
  volts;
  /** Its volts between what is watched of its round, once they were asked for. */
  watched = null;
  known = null;
  /** What of it does not add up, amperes: asked for where it is added to a solution. */
  get residual() {
    return this.known ??= largest(this.network.unbalanced(this.volts, this.unit));
  }
};
var largest = (sums) => {
  let most2 = 0;
  for (let node = 0; node < sums.length; node += 1) {
    const size = Math.abs(sums[node]);
    if (size > most2) most2 = size;
  }
  return most2;
};
var named2 = (all, on) => new Set(all.flatMap(({ name: name3 }, at) => on[at] === 1 ? [name3] : []));
var Told = class {
  get closedRelays() {
    return named2(this.ir.relays, this.drive.relays);
  }
  get blownFuses() {
    return named2(this.ir.fuses, this.drive.fuses);
  }
  get ecuPowered() {
    return this.drive.powered;
  }
};
var Round = class {
  constructor(network, before) {
    this.network = network;
    this.before = before;
    this.factor = network.factor();
    this.voltages = this.factor.solve(network.currents());
  }
  network;
  before;
  factor;
  voltages;
  /** The same probes are held to many faults. */
  columns = /* @__PURE__ */ new Map();
  known = null;
  seen = null;
  at(node) {
    return node < 0 ? 0 : this.voltages[node];
  }
  get residual() {
    return this.known ??= largest(this.network.unbalanced(this.voltages));
  }
  /** What must hold for it to lead to `after`, which is always the same. */
  watches(ir, scenario, after) {
    return this.seen ??= watchesOf(ir, scenario, this.before, after, this.voltages);
  }
  /** Not to be written to. */
  column(i, j) {
    const { size } = this.network;
    const key = (i + 1) * (size + 1) + j + 1;
    const known9 = this.columns.get(key);
    if (known9) return known9;
    const unit = new Float64Array(size);
    if (i >= 0) unit[i] += 1;
    if (j >= 0) unit[j] -= 1;
    const column = new Column(this.network, unit, this.factor.solve(unit));
    this.columns.set(key, column);
    return column;
  }
};
var Solved = class extends Told {
  constructor(ir, scenario, changes, rounds, drive, settled2) {
    super();
    this.ir = ir;
    this.scenario = scenario;
    this.changes = changes;
    this.rounds = rounds;
    this.drive = drive;
    this.settled = settled2;
    this.last = rounds[rounds.length - 1];
  }
  ir;
  scenario;
  changes;
  rounds;
  drive;
  settled;
  last;
  loose = null;
  at(node) {
    return this.last.at(node);
  }
  behind(i, j) {
    const { volts: volts3 } = this.last.column(i, j);
    return (i < 0 ? 0 : volts3[i]) - (j < 0 ? 0 : volts3[j]);
  }
  /**
   * A branch that is off by a share of its ohms moves the volts between two nodes by that share of its current, times what an ampere
   * between those nodes leaves across it (reciprocity); a source that is off pushes so much more. Parts stray by themselves: by
   * the root of their squares.
   */
  strays(i, j) {
    const { ends: ends2, siemens, volts: volts3 } = this.branches;
    const { spread: spread3, strays } = this.tolerances;
    const column = this.last.column(i, j).volts;
    let squares = 0;
    for (let branch = 0; branch < spread3.length; branch += 1) {
      const a = ends2[2 * branch];
      const b = ends2[2 * branch + 1];
      const across = (a < 0 ? 0 : column[a]) - (b < 0 ? 0 : column[b]);
      const amps2 = (this.at(a) - this.at(b) - volts3[branch]) * siemens[branch];
      squares += (across * amps2 * spread3[branch]) ** 2 + (across * siemens[branch] * strays[branch]) ** 2;
    }
    return Math.sqrt(squares);
  }
  get tolerances() {
    if (this.loose) return this.loose;
    const { ir, scenario, changes } = this;
    const spread3 = new Float64Array(ir.laws.length);
    const strays = new Float64Array(ir.laws.length);
    ir.laws.forEach((law, branch) => {
      const value = valueOf(ir, law, scenario, this.last.before, changes.stuck.pin);
      spread3[branch] = value.spread;
      strays[branch] = value.strays;
    });
    for (const { branch } of changes.set) spread3[branch] = 0;
    this.loose = { spread: spread3, strays };
    return this.loose;
  }
  get network() {
    return this.last.network;
  }
  get voltages() {
    return this.last.voltages;
  }
  get branches() {
    return this.network.branches;
  }
  get conditioning() {
    return this.last.factor.conditioning;
  }
  get residual() {
    return this.last.residual;
  }
};
function started(ir, scenario, changes, drive) {
  const own2 = ir.laws.length;
  const count2 = own2 + changes.extra.length;
  const ends2 = new Int32Array(2 * count2);
  ends2.set(ir.ends);
  const branches = { ends: ends2, siemens: new Float64Array(count2), volts: new Float64Array(count2) };
  put2(branches, ir, scenario, changes, drive, ir.laws.keys());
  changes.extra.forEach(({ i, j, ohms: ohms2 }, at) => {
    ends2.set([i, j], 2 * (own2 + at));
    branches.siemens[own2 + at] = 1 / ohms2;
  });
  return branches;
}
function put2({ siemens, volts: volts3 }, ir, scenario, { stuck }, drive, which) {
  for (const branch of which) {
    const value = valueOf(ir, ir.laws[branch], scenario, drive, stuck.pin);
    siemens[branch] = 1 / value.ohms;
    volts3[branch] = value.volts;
  }
}
function refilled(ir, scenario, changes, drive, first2) {
  const branches = { ends: first2.ends, siemens: first2.siemens.slice(), volts: first2.volts.slice() };
  put2(branches, ir, scenario, changes, drive, ir.moving);
  changeSet(branches, changes);
  return branches;
}
function changeSet({ siemens, volts: volts3 }, { set }) {
  for (const { branch, ohms: ohms2 } of set) {
    siemens[branch] = 1 / ohms2;
    volts3[branch] = 0;
  }
}
function solveIn(ir, scenario, fault = null) {
  const changes = changesOf(ir, fault);
  let drive = restingDrive(ir);
  const first2 = started(ir, scenario, changes, drive);
  const rounds = [];
  for (; ; ) {
    const round5 = new Round(new Network(ir.nodes, refilled(ir, scenario, changes, drive, first2)), drive);
    rounds.push(round5);
    drive = driveAt(ir, scenario, round5.before, changes.stuck, (node) => round5.at(node));
    const settled2 = isSameDrive(drive, round5.before);
    if (settled2 || rounds.length === MAX_ROUNDS) return new Solved(ir, scenario, changes, rounds, drive, settled2);
  }
}
function solveCircuit(build, net, state, fault = null, pins = null, charge = 1) {
  return solveIn(compile(build, net), scenarioOf(build, net, state, { driven: pins, charge }), fault);
}

// core/circuit/reading.ts
function voltsBetween(solution, plus, minus) {
  const { nodes } = solution.ir;
  if (!hasNode(nodes, plus) || !hasNode(nodes, minus)) return null;
  return solution.at(numberOf(nodes, plus)) - solution.at(numberOf(nodes, minus));
}
function wireAmps(solution, net) {
  const { ir, changes, branches } = solution;
  const through2 = (i, j, siemens) => (solution.at(i) - solution.at(j)) * siemens;
  const moved = new Map(changes.extra.map((one2) => [one2.carries, one2]));
  return new Map(
    net.wires.map(({ id: id3 }) => {
      const branch = ir.wires.get(id3) ?? -1;
      if (branch < 0) return [id3, 0];
      const now = moved.get(branch);
      if (now) return [id3, through2(now.i, now.j, 1 / now.ohms)];
      return [id3, through2(ir.ends[2 * branch], ir.ends[2 * branch + 1], branches.siemens[branch])];
    })
  );
}
function meterVolts(solution, plus, minus) {
  const open = voltsBetween(solution, plus, minus);
  if (open === null) return null;
  return open * meter.volts.value / (meter.volts.value + ohmsBehind(solution, plus, minus));
}
var straysBetween = (solution, plus, minus) => solution.strays(numberOf(solution.ir.nodes, plus), numberOf(solution.ir.nodes, minus));
function readVolts(solution, plus, minus) {
  const volts3 = meterVolts(solution, plus, minus);
  if (volts3 === null) return null;
  const parts3 = straysBetween(solution, plus, minus);
  const own2 = spreads.meter.value * Math.abs(volts3) + meter.digit.value;
  return { volts: volts3, strays: Math.hypot(parts3, own2), settled: solution.settled };
}
var ohmsBehind = (solution, plus, minus) => solution.behind(numberOf(solution.ir.nodes, plus), numberOf(solution.ir.nodes, minus));
var OPEN_ABOVE_OHMS = meter.openAbove.value;

// core/trigger/fit.ts
function fitTrigger(ecu, engine2, crank, chosen) {
  const cam = camWheelOf({ crankWheel: crank, camWheel: chosen });
  const none = { decodes: false, knows: "nothing", injection: "none", ignition: "none" };
  if (!crank) return { ...none, reason: "No crank wheel is chosen." };
  const places = crank.places ?? toothIntervals(crank).length;
  const family = ecu.decoders.filter((decoder3) => decoder3.family === crank.family);
  if (family.length === 0) return { ...none, reason: `${ecu.model} has no decoder for ${crank.name}.` };
  const decoder2 = family.find(
    (one2) => places >= one2.minPlaces && places <= one2.maxPlaces && crank.missing <= one2.maxMissing
  );
  if (!decoder2) {
    const one2 = family[0];
    return {
      ...none,
      reason: `${ecu.model} takes ${one2.minPlaces} to ${one2.maxPlaces} places with up to ${one2.maxMissing} missing; this wheel has ${places} with ${crank.missing}.`
    };
  }
  if ((decoder2.needsCam || crank.family === "even") && !cam)
    return { ...none, reason: "Even teeth alone have no reference: this wheel needs a cam signal." };
  const phase = tellsPhase(engine2, crank, cam);
  if (phase)
    return {
      decodes: true,
      reason: `${ecu.model} decodes ${crank.name} and knows the place in the whole cycle.`,
      knows: "cycle",
      injection: "sequential",
      ignition: "direct"
    };
  const shared = setsOfTurn(engine2).some(({ length }) => length > 1);
  return {
    decodes: true,
    reason: `${ecu.model} decodes ${crank.name}; without a cam signal it knows the crank angle but not the stroke.`,
    knows: "angle",
    injection: "semi-sequential",
    ignition: shared || engine2.ignition !== "distributor" ? "wasted" : "distributor"
  };
}
var SAFE_MARGIN = 1.2;
function gapMargin(wheel2, ripple, threshold) {
  if (wheel2.missing === 0) return null;
  const intervals = toothIntervals(wheel2);
  const pitch = Math.min(...intervals);
  const gapRatio = Math.max(...intervals) / pitch;
  const shortestGap = gapRatio / (1 + ripple);
  const longestTooth = 1 + ripple;
  return {
    gapRatio,
    shortestGap,
    longestTooth,
    margin: shortestGap / longestTooth,
    threshold,
    thresholdFits: threshold > longestTooth && threshold < shortestGap
  };
}

// core/trigger/offset-words.ts
var TURN3 = 360;
function offsetCycle(build) {
  const { crankWheel, camWheel } = build.trigger;
  const { knows } = fitTrigger(build.ecu, build.engine, crankWheel, camWheel);
  return knows === "angle" ? TURN3 : cycleDegrees(build.engine);
}
function inOwnWords(kept, { counts, range }, cycle) {
  const angle = counts === "tooth-to-tdc" ? kept : -kept;
  return range === "up" ? wrapDegrees(angle, cycle) : wrapSigned(angle, cycle);
}
var degrees = (value) => `${value < 0 ? "\u2013" : ""}${Math.abs(value).toFixed(1)}\xB0`;
var offsetWords = (build, kept = build.trigger.offsetDegrees) => degrees(inOwnWords(kept, build.trigger.offsetWay, offsetCycle(build)));

// core/trigger/speed.ts
var CRANKING_RPM = 250;

// core/sensing/causes.ts
function othersOf(at, library2) {
  const own2 = JSON.stringify(at.sensor.curve);
  const seen = /* @__PURE__ */ new Set([own2]);
  return library2.flatMap(
    (kind3) => sensorsIn(kind3).flatMap((sensor2) => {
      const text3 = JSON.stringify(sensor2.curve);
      if (sensor2.quantity !== at.sensor.quantity || sensor2.signal !== at.sensor.signal || seen.has(text3)) return [];
      seen.add(text3);
      return [{ name: inSentence(kind3.name), kind: kind3, sensor: sensor2 }];
    })
  );
}
var LEAST_TOLERANCE = { V: 0.06, Hz: 1, mV: 0.1 };
function clampedValue(at, reading2) {
  const value = valueAtPin(at, reading2);
  if (value !== null) return Math.min(at.sensor.most, Math.max(at.sensor.least, value));
  if (at.sensor.signal !== "ohms") return null;
  return reading2 <= 0 ? at.sensor.most : at.sensor.least;
}
var RESISTORS = [680, 1e3, 1500, 2e3, 2200, 2490, 2700, 3e3, 3300, 3900, 4700, 5600, 6800, 8200, 1e4];
var USUAL = /* @__PURE__ */ new Set([1e3, 2200, 2490, 4700, 1e4]);
var SAGS = [0.98, 0.96, 0.94, 0.92, 0.9, 0.88, 0.86, 0.84, 0.82, 0.8];
var unplugged = "Unplug the sensor and read the pin again";
function hypotheses(build, at, expected, others, inside2) {
  const { site } = build;
  const { quantity, signal } = at.sensor;
  const valueSigma = expected.tolerance / 2;
  const pinSigma = expected.pinTolerance / 2;
  const range = at.sensor.most - at.sensor.least;
  const found2 = [];
  const measured = { at: (value) => ({ at: value, sigma: Math.max(valueSigma / 2, 5e-3 * range) }) };
  const follows = (gives, sigma = valueSigma) => (pin2) => {
    const value = pin2 === null ? gives === null ? null : clampedValue(at, gives) : valueAtPin(at, pin2);
    return value === null ? null : pin2 === null ? { at: value, sigma } : measured.at(value);
  };
  const wire = (code, weight2, gives, sentence, check) => found2.push({
    code,
    weight: weight2,
    sentence,
    check,
    pin: gives === null ? null : { at: gives, sigma: LEAST_TOLERANCE[pinUnit(at.sensor)] },
    shows: follows(gives)
  });
  const right = pinReading(at, expected.value);
  found2.push({
    code: "right",
    weight: 8,
    sentence: "",
    check: "",
    pin: right === null ? null : { at: right, sigma: pinSigma },
    shows: follows(right)
  });
  if (signal === "ohms") {
    wire(
      "open",
      3,
      REFERENCE_VOLTS,
      "Open: the sensor or its wire is not there.",
      "Bridge signal and return at the plug: the pin must fall to about 0 V. If it does, the wires are whole and the sensor is open."
    );
    wire(
      "no-pull-up",
      1.2,
      0,
      "No pull-up: nothing lifts the pin.",
      `${unplugged}: still 0 V with the wire clear of ground means the pull-up is off or missing.`
    );
    wire(
      "short-low",
      1,
      0,
      "Shorted: the signal touches its return or the body.",
      `${unplugged}: 5 V means the sensor is shorted, 0 V the wire, or no pull-up.`
    );
    const ohms2 = curveOf(at.sensor.curve).signalOf(expected.value);
    if (ohms2 !== null && at.pullUpOhms !== null) {
      for (const extra of RESISTORS) {
        const both2 = at.pullUpOhms * extra / (at.pullUpOhms + extra);
        found2.push({
          code: "second-pull-up",
          family: "second-pull-up",
          weight: USUAL.has(extra) ? 0.6 : 0.1,
          sentence: `Two pull-ups: a resistor of about ${formatOhms(extra)} lifts the pin beside the ${formatOhms(at.pullUpOhms)} that are known.`,
          check: `Unplugged and key off, measure pin to 5 V: about ${formatOhms(both2)} instead of ${formatOhms(at.pullUpOhms)} means a second resistor.`,
          pin: { at: pulledUpVolts(ohms2, both2), sigma: pinSigma },
          shows: follows(pulledUpVolts(ohms2, both2))
        });
      }
      for (const own2 of RESISTORS) {
        if (inside2 === null || Math.abs(own2 - inside2) < 0.04 * inside2) continue;
        const { pullUpOhms: outside } = at.device;
        const total = outside === null ? own2 : own2 * outside / (own2 + outside);
        found2.push({
          code: "ecu-pull-up",
          family: "ecu-pull-up",
          weight: USUAL.has(own2) ? 0.2 : 0.04,
          sentence: `The pull-up in the ECU is about ${formatOhms(own2)}, not ${formatOhms(inside2)}: then the ECU may well show the right figure.`,
          check: `Unplugged and key on, load the pin with a known resistor: ${formatOhms(own2)} to ground must halve 5 V.`,
          pin: { at: pulledUpVolts(ohms2, total), sigma: pinSigma },
          // The ECU knows its own resistor, or is set to the one the definition names.
          shows: (pin2) => pin2 === null ? null : { at: valueAtPin({ sensor: at.sensor, pullUpOhms: total }, pin2) ?? Number.NaN, sigma: valueSigma }
        });
      }
    }
  } else if (signal === "volts") {
    wire(
      "open",
      3,
      0,
      "Open signal: nothing drives the pin, so it falls to 0 V.",
      "Measure at the sensor's own plug: the right volts there and 0 V at the pin is the wire."
    );
    wire(
      "no-supply",
      1.5,
      0,
      "No 5 V at the sensor.",
      "Measure supply against ground in the sensor's plug: 5 V must be there."
    );
    wire(
      "short-low",
      1,
      0,
      "The signal touches ground.",
      `${unplugged} and measure pin to ground with the key off: no connection must show.`
    );
    wire(
      "short-high",
      0.8,
      REFERENCE_VOLTS,
      "The signal touches the 5 V supply.",
      `${unplugged}: 5 V that stays is the wire.`
    );
    wire(
      "ground-open",
      0.7,
      REFERENCE_VOLTS,
      "The sensor ground is open, so signal follows supply.",
      "Measure ground in the sensor's plug against battery negative: under 10 mV with the key on."
    );
    if (trait(at.kind, "pressure")?.reference === "absolute")
      wire(
        "gauge-sensor",
        1,
        pinReading(at, Math.max(0, at.sensor.least)),
        "A gauge sensor is fitted where an absolute one is meant: it rests at its lowest volts.",
        "Read the marking on the part: absolute or gauge."
      );
  } else if (signal === "hertz") {
    wire(
      "open",
      3,
      0,
      "No pulses: open wire, no supply, or no pull-up.",
      "Measure supply at the plug, then the signal wire for 5 V with the sensor unplugged."
    );
  }
  if (right !== null && at.sensor.ratiometric && pinUnit(at.sensor) === "V")
    for (const share of SAGS)
      for (const byRatio of [true, false])
        found2.push({
          code: "low-supply",
          family: "low-supply",
          weight: 0.1,
          sentence: `The 5 V supply is low, at about ${(REFERENCE_VOLTS * share).toFixed(1)} V: everything that hangs on it reads low by the same share.`,
          check: "Measure 5 V against ground in the sensor's plug, then unplug the other sensors of that supply one by one.",
          pin: { at: right * share, sigma: pinSigma },
          // Most ECUs measure against that same supply, and show what is right; others show what the pin says.
          shows: byRatio ? (pin2) => ({ at: valueAtPin(at, (pin2 ?? right * share) / share) ?? Number.NaN, sigma: valueSigma }) : follows(right * share)
        });
  const { measures } = trait(at.kind, "pressure") ?? { measures: null };
  for (const other of others) {
    if ((trait(other.kind, "pressure")?.measures ?? null) === measures) {
      const value = restValue(site, other.kind, other.sensor);
      const gives = value === null ? null : pinReading({ sensor: other.sensor, pullUpOhms: at.pullUpOhms }, value);
      if (gives !== null)
        found2.push({
          code: "other-part",
          // A coolant sensor is replaced by another coolant sensor before it is by one of the gearbox.
          weight: other.kind.system === at.kind.system ? 1 : 0.2,
          sentence: `Another part is fitted: the reading is that of ${other.name}.`,
          check: signal === "ohms" ? "Unplug it and measure its ohms at a known temperature, then compare both tables." : "Read the marking on the part, or compare at a second pressure.",
          pin: { at: gives, sigma: pinSigma },
          shows: follows(gives)
        });
    }
    const shown = (pin2) => {
      const source = pin2 ?? right;
      const value = source === null ? null : valueAtPin({ sensor: other.sensor, pullUpOhms: at.pullUpOhms }, source);
      return value === null ? null : measured.at(value);
    };
    found2.push({
      code: "ecu-calibration",
      setting: true,
      weight: 1,
      sentence: `The ECU is set to ${other.name}: that calibration makes this figure of the right signal.`,
      check: "Choose the calibration of the fitted part in the ECU, and read again.",
      pin: right === null ? null : { at: right, sigma: pinSigma },
      shows: shown
    });
  }
  const display = (code, weight2, made, sentence, check, share) => found2.push({
    code,
    weight: weight2,
    setting: true,
    sentence,
    check,
    pin: right === null ? null : { at: right, sigma: pinSigma },
    shows: (pin2) => {
      const value = pin2 === null ? expected.value : valueAtPin(at, pin2);
      if (value === null) return null;
      const { sigma } = pin2 === null ? { sigma: valueSigma } : measured.at(value);
      return { at: made(value), sigma: share === void 0 ? sigma : Math.max(0.05, Math.abs(made(value)) * share) };
    }
  });
  if (quantity === "pressure") {
    const here = standardBarometerKpa(site.altitudeMetres);
    const reference = trait(at.kind, "pressure")?.reference;
    if (reference === "gauge") {
      for (const [weight2, plus] of [
        [1, SEA_LEVEL_KPA],
        [0.7, here]
      ])
        display(
          "absolute-table",
          weight2,
          (value) => value + plus,
          `The ECU counts this sensor from vacuum (an absolute table): it adds the barometer, ${readQuantity("pressure", plus, build)}, to a sensor that reads from the barometer.`,
          "Choose a table that shows zero at rest, or take the barometer off its line."
        );
    } else {
      display(
        "gauge-zeroed",
        1,
        (value) => value - SEA_LEVEL_KPA,
        "The display subtracts sea-level pressure: it shows gauge where absolute is meant.",
        "Set the channel to absolute pressure."
      );
      display(
        "gauge-zeroed",
        0.7,
        (value) => value - here,
        "The display was zeroed at the local barometer: it shows gauge where absolute is meant.",
        "Set the channel to absolute pressure."
      );
    }
    for (const [unit, factor] of [
      ["psi", KPA_PER_PSI],
      ["bar", KPA_PER_BAR],
      ["inHg", KPA_PER_INHG]
    ])
      display(
        "other-unit",
        0.8,
        (value) => value / factor,
        `The figure is right in ${unit}, and was read as kPa.`,
        "Look at the unit beside the figure.",
        0.025
      );
  }
  if (quantity === "temperature")
    display(
      "other-unit",
      1,
      celsiusToFahrenheit,
      "The figure is right in \xB0F, and was read as \xB0C.",
      "Look at the unit beside the figure."
    );
  return found2;
}

// core/sensing/place.ts
var SITE_SPREAD = { pressure: 12, temperature: 15 };
var HIGHEST_METRES = 4500;
function siteHypothesis(build, at, value, expected) {
  const { quantity } = at.sensor;
  if (Math.abs(value - expected.value) < expected.tolerance / 2) return null;
  const absolute = quantity === "pressure" && trait(at.kind, "pressure")?.reference === "absolute";
  if (!absolute && quantity !== "temperature") return null;
  const spread3 = SITE_SPREAD[absolute ? "pressure" : "temperature"];
  const away = (value - expected.value) / spread3;
  const near = Math.exp(-0.5 * away * away) / (spread3 * Math.sqrt(2 * Math.PI));
  const base = { code: "site", weight: 8, pin: null, shows: () => null };
  if (absolute) {
    const metres4 = altitudeOfKpa(value);
    if (metres4 < -430 || metres4 > HIGHEST_METRES) return null;
    const rounded = Math.round(metres4 / 10) * 10;
    return {
      ...base,
      metres: rounded,
      density: near,
      sentence: `The place is not at ${readMeasure("altitude", build.site.altitudeMetres, build)}: ${readQuantity("pressure", value, build)} is the barometer at about ${readMeasure("altitude", rounded, build)}.`,
      check: `Look up the height of the place or today's barometer. Set the altitude, and this reading is right.`
    };
  }
  if (value < -40 || value > 115) return null;
  return {
    ...base,
    metres: null,
    density: 0.7 * near + 0.3 / 155,
    sentence: `It is ${readQuantity("temperature", value, build)} there, not ${readQuantity("temperature", build.site.ambientCelsius, build)}: the engine has not cooled down, or the ambient of this build is not today's.`,
    check: "Hold a thermometer to the part. On a cold engine air and coolant read the same within 2 or 3 \xB0C."
  };
}

// core/sensing/judge.ts
function toleranceOf(sensor2) {
  if (sensor2.quantity === "pressure") return 3 + 0.015 * (sensor2.most - sensor2.least);
  return sensor2.quantity === "temperature" ? sensor2.signal === "ohms" ? 5 : 8 : 0.03 * (sensor2.most - sensor2.least);
}
function expectation(site, at) {
  const value = restValue(site, at.kind, at.sensor);
  if (value === null) return null;
  const tolerance = toleranceOf(at.sensor);
  const atPin = pinReading(at, value);
  const [low, high] = [pinReading(at, value - tolerance), pinReading(at, value + tolerance)];
  const span = low !== null && high !== null ? Math.abs(high - low) / 2 : 0;
  return { value, tolerance, atPin, pinTolerance: Math.max(LEAST_TOLERANCE[pinUnit(at.sensor)], span) };
}
var pinText = (at, reading2) => `${reading2.toFixed(pinUnit(at.sensor) === "Hz" ? 0 : 2)} ${pinUnit(at.sensor)}`;
var NAMED_WITHIN = 2;
var DOUBT_FROM = 0.2;
var DOUBT_GAIN = 2;
var DOUBTFUL = /* @__PURE__ */ new Set(["other-part", "ecu-calibration", "second-pull-up", "ecu-pull-up"]);
var UNKNOWN_WEIGHT = 0.2;
var normal = (away, sigma) => Math.exp(-0.5 * away * away) / (sigma * Math.sqrt(2 * Math.PI));
function weigh(cause, reading2) {
  if (cause.setting && reading2.shown === null) return null;
  let [mass, distance2] = [cause.weight, 0];
  if (reading2.atPin !== null) {
    if (!cause.pin) return null;
    const away = (reading2.atPin - cause.pin.at) / cause.pin.sigma;
    mass *= normal(away, cause.pin.sigma);
    distance2 = Math.abs(away);
  }
  if (reading2.shown !== null) {
    const about = cause.shows(reading2.atPin);
    if (!about || !Number.isFinite(about.at)) return null;
    const away = (reading2.shown - about.at) / about.sigma;
    mass *= normal(away, about.sigma);
    distance2 = Math.max(distance2, Math.abs(away));
  }
  return {
    cause,
    mass,
    likelihood: mass / cause.weight,
    distance: distance2 / 2,
    named: distance2 <= NAMED_WITHIN,
    metres: null
  };
}
function asOne2(list) {
  const groups = /* @__PURE__ */ new Map();
  list.forEach((one2, index) => {
    const key = one2.cause.family ?? `${index}`;
    const before = groups.get(key);
    if (!before) groups.set(key, one2);
    else {
      const best = one2.mass > before.mass ? one2 : before;
      groups.set(key, { ...best, mass: one2.mass + before.mass, named: one2.named || before.named });
    }
  });
  return [...groups.values()];
}
function explain(build, at, expected, reading2, library2, inside2) {
  const all = hypotheses(build, at, expected, othersOf(at, library2), inside2).flatMap(
    (cause) => weigh(cause, reading2) ?? []
  );
  const value = reading2.atPin === null ? reading2.shown : valueAtPin(at, reading2.atPin);
  const { faultBelow, faultAbove } = at.sensor;
  const faulty = reading2.atPin !== null && (reading2.atPin < (faultBelow ?? -Infinity) || reading2.atPin > (faultAbove ?? Infinity));
  const site = value === null || faulty ? null : siteHypothesis(build, at, value, expected);
  const range = at.sensor.most - at.sensor.least;
  if (site) {
    const [low, high] = [pinReading(at, value - 0.5), pinReading(at, value + 0.5)];
    const slope = reading2.atPin === null || low === null || high === null ? 1 : Math.abs(high - low);
    let mass = site.weight * site.density / Math.max(1e-9, slope);
    let named3 = true;
    if (reading2.atPin !== null && reading2.shown !== null) {
      const sigma = Math.max(expected.tolerance / 4, 5e-3 * range);
      const away = (reading2.shown - value) / sigma;
      mass *= normal(away, sigma);
      named3 = Math.abs(away) <= NAMED_WITHIN;
    }
    all.push({ cause: site, mass, likelihood: mass / site.weight, distance: 0, named: named3, metres: site.metres });
  }
  const spanOf = (figure, span) => figure === null ? 1 : 1 / span;
  const unknown = UNKNOWN_WEIGHT * spanOf(reading2.atPin, 5) * spanOf(reading2.shown, Math.max(1, range));
  const sum = all.reduce((total, one2) => total + one2.mass, unknown);
  const right = all.find((one2) => one2.cause.code === "right");
  const rightly = right ? right.mass / right.cause.weight : 0;
  const causes = asOne2(all).filter((one2) => one2.named && one2.cause.code !== "right").map((one2) => ({
    code: one2.cause.code,
    sentence: one2.cause.sentence,
    check: one2.cause.check,
    distance: one2.distance,
    odds: one2.mass / sum,
    metres: one2.metres,
    gain: one2.likelihood / rightly
  })).sort((one2, other) => other.odds - one2.odds);
  const told2 = causes.filter(
    (one2, i) => one2.odds >= 0.01 * causes[0].odds && causes.findIndex(({ sentence }) => sentence === one2.sentence) === i
  );
  const doubtful = told2.filter((one2) => DOUBTFUL.has(one2.code) && one2.odds >= DOUBT_FROM / 4 && one2.gain >= DOUBT_GAIN);
  const doubts = doubtful.reduce((total, one2) => total + one2.odds, 0) >= DOUBT_FROM ? doubtful : [];
  const plain4 = (list) => list.map(({ gain: _, ...cause }) => cause);
  return { causes: plain4(told2), doubts: plain4(doubts) };
}
var MOST_CAUSES = 5;
function faultCauses(at, atPin, reader) {
  const anywhere = { site: { altitudeMetres: 0, ambientCelsius: 20 }, units: reader.units, fuel: reader.fuel };
  const tolerance = LEAST_TOLERANCE[pinUnit(at.sensor)] * 4;
  const middle = (at.sensor.least + at.sensor.most) / 2;
  return hypotheses(anywhere, at, { value: middle, tolerance, pinTolerance: tolerance }, [], null).filter(({ code, family }) => code !== "right" && family === void 0).flatMap((cause) => {
    const away = cause.pin === null ? Infinity : Math.abs(atPin - cause.pin.at) / tolerance;
    return away <= 1 ? [{ code: cause.code, sentence: cause.sentence, check: cause.check, distance: away, weight: cause.weight }] : [];
  }).map(({ weight: weight2, ...cause }, _, list) => ({
    ...cause,
    metres: null,
    odds: weight2 / list.reduce((sum, one2) => sum + one2.weight, 0)
  })).sort((one2, other) => other.odds - one2.odds);
}
function judgeUnknown(at, reading2, reader) {
  const { atPin } = reading2;
  if (atPin === null)
    return {
      verdict: "not-known",
      sentence: "Measure at the pin: what it should show here depends on you.",
      causes: [],
      advice: ""
    };
  const { faultBelow, faultAbove } = at.sensor;
  const low = faultBelow !== null && atPin < faultBelow;
  const high = faultAbove !== null && atPin > faultAbove;
  if (low || high)
    return {
      verdict: "wrong",
      sentence: `${pinText(at, atPin)} lies in the fault band ${low ? "below" : "above"} ${pinText(at, low ? faultBelow : faultAbove)}.`,
      causes: faultCauses(at, atPin, reader),
      advice: ""
    };
  const value = valueAtPin(at, atPin);
  return value === null ? {
    verdict: "unexplained",
    sentence: `${pinText(at, atPin)} is outside of what the calibration knows.`,
    causes: [],
    advice: ""
  } : {
    verdict: "not-known",
    sentence: `${pinText(at, atPin)} is ${readQuantity(at.sensor.quantity, value, reader)}: is that what it is set to?`,
    causes: [],
    advice: ""
  };
}
function judgeSensor(build, at, reading2, library2) {
  const expected = expectation(build.site, at);
  if (!expected) return judgeUnknown(at, reading2, build);
  const { quantity } = at.sensor;
  if (reading2.atPin !== null && expected.atPin === null)
    return {
      verdict: "wrong",
      sentence: "This pin has no pull-up, so a resistive sensor reads nothing there.",
      causes: [
        {
          code: "no-pull-up",
          sentence: "No pull-up: nothing lifts the pin.",
          check: "Place it on an input with a pull-up, or fit one.",
          distance: 0,
          odds: 1,
          metres: null
        }
      ],
      advice: ""
    };
  const parts3 = [];
  if (reading2.atPin !== null && expected.atPin !== null)
    parts3.push(
      Math.abs(reading2.atPin - expected.atPin) <= expected.pinTolerance ? {
        wrong: false,
        sentence: `${pinText(at, reading2.atPin)} at the pin is right: ${pinText(at, expected.atPin)} expected, give or take ${pinText(at, expected.pinTolerance)}.`
      } : {
        wrong: true,
        sentence: `${pinText(at, reading2.atPin)} at the pin, ${pinText(at, expected.atPin)} expected.`
      }
    );
  const pinRight = parts3.every((part2) => !part2.wrong);
  if (reading2.shown !== null) {
    const signal = reading2.atPin ?? expected.atPin;
    const should = signal === null ? expected.value : valueAtPin(at, signal) ?? expected.value;
    const tolerance = reading2.atPin === null ? expected.tolerance : Math.max(expected.tolerance / 2, 0.01 * (at.sensor.most - at.sensor.least));
    const shown = readQuantity(quantity, reading2.shown, build);
    const shownRight = Math.abs(reading2.shown - should) <= tolerance;
    parts3.push({
      wrong: !shownRight,
      sentence: shownRight ? `${shown} shown is right${reading2.atPin === null ? `: ${readQuantity(quantity, should, build)} expected, give or take ${readStep(quantity, tolerance, build)}` : pinRight ? "" : " for that"}.` : `${shown} shown, ${readQuantity(quantity, should, build)} ${reading2.atPin === null ? "expected" : `belongs to ${pinText(at, reading2.atPin)}`}${reading2.atPin !== null && pinRight ? ": the sensor and its wires are right, the ECU's setting is not" : ""}.`
    });
  }
  const wrong = parts3.some((part2) => part2.wrong);
  const { causes, doubts } = explain(build, at, expected, reading2, library2, at.insideOhms);
  const sentence = parts3.map((part2) => part2.sentence).join(" ");
  if (!wrong)
    return doubts.length === 0 ? { verdict: "right", sentence, causes: [], advice: "" } : { verdict: "doubtful", sentence, causes: doubts, advice: "Right by its band, but it could as well be this:" };
  const unexplained = causes.length === 0;
  return {
    verdict: unexplained ? "unexplained" : "wrong",
    sentence,
    causes: causes.slice(0, MOST_CAUSES),
    advice: !unexplained ? "" : reading2.atPin !== null && pinRight ? "No calibration of the library makes that figure of the signal: hold the ECU's own table against this part's, row by row." : "Nothing known explains it: measure once more, at the sensor's own plug."
  };
}
var ecuCurveOf = (at) => at.device.ecuCurves[at.sensor.terminal] ?? null;

// core/fireup/checks.ts
var confirm = (id3, text3, hint = "") => ({ id: id3, kind: "confirm", text: text3, hint });
var auto = (id3, text3, met, hint) => ({
  id: id3,
  kind: "auto",
  text: text3,
  met,
  hint
});
var reading = (id3, text3, unit, low, high, hint = "") => ({
  id: id3,
  kind: "reading",
  text: text3,
  unit,
  low,
  high,
  hint
});
var round4 = (value) => Math.round(value * 100) / 100;
function voltsCheck(id3, text3, volts3, tolerance, hint) {
  if (volts3 === null) return [];
  return [reading(id3, text3, "V", round4(Math.max(0, volts3 - tolerance)), round4(volts3 + tolerance), hint)];
}
var SENSOR_TOLERANCE = 0.3;
function sensorChecks(build, net, keyOn) {
  const barometer = standardBarometerKpa(build.site.altitudeMetres);
  const sensors = new Map(sensorsOf(build, net).map((at) => [at.id, at]));
  return net.needs.flatMap((need) => {
    const pinId = build.assignments[need.id];
    if (!pinId || need.ask.kind !== "analog") return [];
    const at = sensors.get(need.id);
    const expected = at && pinUnit(at.sensor) === "V" ? expectation(build.site, at) : null;
    const volts3 = expected?.atPin ?? keyOn(ecuEnd(pinId));
    const tolerance = expected && expected.atPin !== null ? expected.pinTolerance : SENSOR_TOLERANCE;
    const device = net.deviceOf.get(need.deviceId ?? "");
    const measures = device && sensorsIn(device.kind).find(({ terminal }) => need.id === terminalId(device.device.id, terminal));
    const pressure2 = measures?.quantity === "pressure" ? trait(device.kind, "pressure") : null;
    const hint = pressure2?.measures === "manifold" && pressure2.reference === "absolute" ? `Must read the barometer, ${readQuantity("pressure", barometer, build)} at ${readMeasure("altitude", build.site.altitudeMetres, build)}. About 0 is a gauge sensor or the wrong scale.` : measures?.quantity === "temperature" ? `Must read the air around it, ${readQuantity("temperature", build.site.ambientCelsius, build)}.` : "Steady, and no jump when the loom is moved.";
    const read2 = standingReading(build, need.id)?.atPin ?? null;
    if (volts3 !== null && read2 !== null)
      return [
        auto(
          checkIdOf({ of: "sensor", needId: need.id }),
          `${need.label} on ${pinId}: ${read2} V read with the key on, ${volts3.toFixed(2)} V expected`,
          Math.abs(read2 - volts3) <= tolerance,
          hint
        )
      ];
    return voltsCheck(
      checkIdOf({ of: "sensor", needId: need.id }),
      `${need.label} on ${pinId}`,
      volts3,
      tolerance,
      hint
    );
  });
}
function relayHint(net, need) {
  const loads = net.relayLoads.get(need.winding ?? "") ?? [];
  const fed = new Set(loads.flatMap(({ end: end2 }) => deviceAt(end2) ?? []));
  const feeds = (role2) => net.devices.some(({ device, kind: kind3 }) => fed.has(device.id) && hasRole(kind3, role2));
  if (feeds("starter"))
    return "It cranks the engine: out of gear, wheels chocked, plugs out, fuel and coils off. Test first that clutch or neutral switch holds it back.";
  if (feeds("fan")) return "Hands and leads clear of belts and blades: a fan starts without warning.";
  if (feeds("pump")) return "Fuel under pressure: look along every joint first, extinguisher at hand, no flame.";
  return `Listen for the click, and look whether what hangs on it comes alive: ${need.label}.`;
}
function outputChecks(build, net) {
  const uses = outputUses(build, net.needs).map(
    (use) => confirm(
      checkIdOf({ of: "output", pinId: use.pinId }),
      `${use.kind === "injector" ? "Injection" : "Ignition"} output ${use.output} works ${meantWords(build.engine, use)}`,
      use.kind === "injector" ? "Fuel rail empty: listen for the click at that cylinder." : "Plug in this coil only, its spark plug held to the block, away from vapour."
    )
  );
  const relays = net.needs.filter((need) => need.winding !== null && build.assignments[need.id]).map(
    (need) => confirm(
      checkIdOf({ of: "relay", needId: need.id }),
      `${need.label} on ${build.assignments[need.id]} switches`,
      relayHint(net, need)
    )
  );
  return [...uses, ...relays];
}
var WEATHER_KPA = 3;
var SENSOR_SHARE = 0.015;
function insideChecks(build, net) {
  const { inside: inside2 } = build.ecu;
  const barometer = standardBarometerKpa(build.site.altitudeMetres);
  const check = (id3, title, most2, hint) => {
    const off = WEATHER_KPA + SENSOR_SHARE * most2;
    const words3 = `${readQuantity("pressure", barometer - off, build)} to ${readQuantity("pressure", barometer + off, build)}`;
    return reading(id3, title, "kPa", round4(barometer - off), round4(barometer + off), `${words3}. ${hint}`);
  };
  const hose = net.devices.some(({ kind: kind3 }) => hasRole(kind3, "manifold-hose"));
  return [
    ...inside2?.manifoldKpa !== void 0 && hose ? [
      check(
        "inside-manifold",
        "The ECU's own manifold sensor",
        inside2.manifoldKpa,
        "Then draw at the hose: the figure must fall, and hold while the hose is closed by a thumb."
      )
    ] : [],
    ...inside2?.barometer ? [check("inside-barometer", "The ECU's own barometer", barometer, "Its case must breathe.")] : []
  ];
}

// core/fireup/buses.ts
var BUS_SHARE = 0.1;
var BUS_VOLTS = 0.4;
var liveBuses = (build) => build.buses.filter((bus2) => membersOf(build, bus2).length > 0);
var busOhmsChecks = (build) => liveBuses(build).map((bus2) => {
  const { ohms: ohms2, withoutEcu } = busFigures(build, bus2);
  return reading(
    `ohms-${bus2.id}`,
    `${bus2.name}, high against low, battery off and all plugged in`,
    "\u03A9",
    Math.round(ohms2 * (1 - BUS_SHARE)),
    Math.round(ohms2 * (1 + BUS_SHARE)),
    `${ohms2.toFixed(0)} \u03A9; with the ECU unplugged ${withoutEcu === null ? "open" : `${withoutEcu.toFixed(0)} \u03A9`}. 120: one end is missing. 0: the lines touch.`
  );
});
var busVoltsChecks = (build) => liveBuses(build).flatMap(
  (bus2) => ["high", "low"].map(
    (line3) => reading(
      `volts-${bus2.id}-${line3}`,
      `${bus2.name}, ${line3} against ground`,
      "V",
      busFigures(build, bus2).restVolts - BUS_VOLTS,
      busFigures(build, bus2).restVolts + BUS_VOLTS,
      line3 === "high" ? "About 2.5 V at rest, a little more while it talks." : "About 2.5 V at rest, a little less."
    )
  )
);

// core/netlist/twins.ts
var bankOfDevice = (engine2, { bank, serves }) => engine2.banks.length < 2 ? null : bankOfAll(engine2, serves) ?? bank;
function twinsOf(engine2, devices) {
  const byKind = /* @__PURE__ */ new Map();
  for (const entry2 of devices) byKind.set(entry2.kind.id, [...byKind.get(entry2.kind.id) ?? [], entry2]);
  return [...byKind.values()].filter((group) => {
    if (group.length < 2) return false;
    const told2 = group.flatMap(({ device }) => device.bank ?? []);
    return group[0].kind.twinRisk || engine2.banks.length > 1 && new Set(told2).size > 1;
  });
}

// core/fireup/switches.ts
var REST_TOLERANCE = 0.8;
var CLOSED_VOLTS = 0.5;
var LEAST_FED_VOLTS = 11;
var MOST_FED_VOLTS = 15;
var PUSHED_KMH = 5;
function placed2(build, net, kind3) {
  return net.needs.flatMap((need) => {
    const entry2 = net.deviceOf.get(need.deviceId ?? "");
    const pinId = build.assignments[need.id];
    return need.ask.kind === kind3 && entry2 && pinId !== void 0 ? [{ need, pinId, ...entry2 }] : [];
  });
}
function switchChecks(build, net, keyOn) {
  const switches = placed2(build, net, "switch").flatMap(({ need, pinId, device, kind: kind3 }) => {
    const others = kind3.terminals.filter((terminal) => terminalId(device.id, terminal.id) !== need.id);
    const to = others.map((terminal) => destinationOf(device, terminal));
    const fed = others.find((_, i) => to[i].to === "feed");
    const grounded = to.some((one2) => one2.to === "ground" || one2.to === "sensor-ground" || one2.to === "mounted");
    const rest = keyOn(ecuEnd(pinId));
    const [open, closed] = [checkIdOf({ of: "sensor", needId: need.id }), checkIdOf({ of: "closed", needId: need.id })];
    const title = `${need.label} on ${pinId}`;
    if (!fed && !grounded) return [confirm(open, `${title}: the ECU shows it on and off`)];
    return [
      ...voltsCheck(
        open,
        `${title}, at rest`,
        rest,
        REST_TOLERANCE,
        fed ? "Nothing comes through an open contact." : "About 0: shorted to the body, or no pull-up on this pin."
      ),
      fed ? reading(closed, `${title}, held closed`, "V", LEAST_FED_VOLTS, MOST_FED_VOLTS, "The feed comes through.") : reading(
        closed,
        `${title}, held closed`,
        "V",
        0,
        CLOSED_VOLTS,
        "No change: wire open, or its ground is missing."
      )
    ];
  });
  const pulses2 = placed2(build, net, "frequency").flatMap(({ need, pinId, device, kind: kind3 }) => {
    if (trait(kind3, "trigger")) return [];
    const sensor2 = sensorsIn(kind3).find(({ terminal }) => terminalId(device.id, terminal) === need.id);
    const hertz = sensor2?.quantity === "road-speed" ? curveOf(sensor2.curve).signalOf(PUSHED_KMH) : null;
    return [
      reading(
        checkIdOf({ of: "sensor", needId: need.id }),
        `${need.label} on ${pinId}, its shaft turned by hand`,
        "Hz",
        0.2,
        sensor2?.faultAbove ?? 2e3,
        hertz === null ? "Steady 0: no pulses arrive." : `At ${readQuantity("road-speed", PUSHED_KMH, build)} it gives ${hertz.toFixed(0)} Hz.`
      )
    ];
  });
  return [...switches, ...pulses2];
}
var withRole = (build, net, roles) => placed2(build, net, "switch").filter(({ kind: kind3 }) => roles.some((role2) => hasRole(kind3, role2)));
function holdChecks(build, net) {
  const starters = new Set(net.devices.flatMap(({ device, kind: kind3 }) => hasRole(kind3, "starter") ? [device.id] : []));
  const driven = net.needs.some(
    ({ winding }) => net.relayLoads.get(winding ?? "")?.some(({ end: end2 }) => starters.has(deviceAt(end2) ?? ""))
  );
  if (!driven) return [];
  return withRole(build, net, holdRoles).map(
    ({ need, kind: kind3 }) => confirm(
      checkIdOf({ of: "halt", needId: need.id }),
      `${need.label} holds the starter back`,
      hasRole(kind3, "clutch-switch") ? "Clutch up: the starter must not turn." : hasRole(kind3, "stand-switch") ? "Stand down: the starter must not turn." : "In gear, wheels chocked, plugs out: the starter must not turn."
    )
  );
}
var haltChecks = (build, net) => withRole(build, net, haltRoles).map(
  ({ need, kind: kind3 }) => confirm(
    checkIdOf({ of: "halt", needId: need.id }),
    hasRole(kind3, "tilt-switch") ? `${need.label}, laid over, stops engine and pump` : `${need.label} stops the engine`,
    "At idle, at once, every time."
  )
);
function bankChecks(build, net) {
  const { engine: engine2 } = build;
  const oxygen = net.devices.filter(
    ({ kind: kind3 }) => trait(kind3, "wideband") !== null || sensorsIn(kind3).some(({ quantity }) => quantity === "mixture")
  );
  const banks = new Set(oxygen.flatMap(({ device }) => bankOfDevice(engine2, device) ?? []));
  return banks.size < 2 ? [] : [
    confirm(
      "banks",
      "Five per cent more fuel for bank 1 alone: its own oxygen sensor answers, not the other",
      `${bankWords(engine2, 1)}. Were the sensors crossed, each bank would be corrected by the other until both are wrong.`
    )
  ];
}

// core/fireup/findings.ts
var standingOf = (findings, severity) => findings.filter((finding) => finding.severity === severity && finding.aside === null);
var wrongOf = (findings) => findings.filter((finding) => finding.rule === "PL-12" && finding.aside === null).length;
var namesOf2 = (findings) => `${listWords(findings.slice(0, 3).map(({ rule, title }) => `${rule} ${inSentence(title)}`))}${findings.length > 3 ? ` and ${findings.length - 3} more` : ""}`;
var gateOfRule = {
  "BB-1": "key",
  "BB-2": "key",
  "BB-3": "cranking",
  "BB-4": "cranking",
  "BB-5": "key",
  "BB-6": "key",
  "BB-9": "first-fire",
  "BB-15": "first-fire",
  "OE-8": "first-fire",
  "OE-10": "first-fire",
  "PW-10": "first-fire",
  "PW-11": "first-fire"
};
var gateOfFamily = { PW: "battery", SE: "sensors", OE: "outputs", TR: "cranking" };
var gateOfFinding = ({ rule }) => gateOfRule[rule] ?? gateOfFamily[rule.slice(0, 2)] ?? "bench";
function shutBy(net, progress, findings) {
  const standing2 = [];
  const stops = standingOf(findings, "stop").length;
  const wrong = wrongOf(findings);
  if (stops > 0) standing2.push(`${plural(stops, "finding says", "findings say")} stop`);
  if (net.wires.length === 0) standing2.push("nothing is planned yet");
  const unproved2 = progress.wires - progress.proved.size;
  if (unproved2 > 0) standing2.push(`${plural(unproved2, "wire is", "wires are")} not proved`);
  if (wrong > 0) standing2.push(`${plural(wrong, "reading is", "readings are")} wrong`);
  return standing2;
}

// core/fireup/gates.ts
function drafts(build, net, progress, findings, keyOn) {
  const stops = standingOf(findings, "stop");
  const wrong = wrongOf(findings);
  const at = (end2) => meterVolts(keyOn, end2, groundEnd("battery"));
  const pin2 = (kind3) => pinsOfKind(build.ecu, kind3);
  const off = pin2("permanent").length > 0 ? solveIn(keyOn.ir, scenarioOf(build, net, "key-off")) : null;
  const driveByWire = net.devices.some(({ kind: kind3 }) => hasRole(kind3, "pedal"));
  const { crankWheel } = build.trigger;
  return [
    {
      id: "bench",
      title: "Bench done",
      aim: "The loom is what the plan says.",
      cautions: [
        "Battery disconnected before any pin is moved.",
        "Airbag circuits are never probed, cut or tapped. Stop, and a licensed workshop."
      ],
      checks: [
        auto(
          "wires",
          `${progress.proved.size} of ${plural(progress.wires, "wire")} proved`,
          progress.proved.size === progress.wires,
          "Sheet 6 lists what is left."
        ),
        auto(
          "readings",
          "No reading stands wrong",
          wrong === 0,
          `${plural(wrong, "reading")} on sheet 6 not right: mend the wire and read it again, or set the finding aside.`
        ),
        auto(
          "stops",
          "No finding says stop",
          stops.length === 0,
          `${plural(stops.length, "finding")} of severity stop: ${namesOf2(stops)}.`
        ),
        confirm("locks", "Every terminal pulled, every lock closed, every empty cavity plugged"),
        confirm("route", "Loom clear of exhaust, belts and sharp edges, and tied")
      ]
    },
    {
      id: "battery",
      title: "Battery on",
      aim: "Power where it belongs and nowhere else.",
      cautions: [
        "Coils unplugged: a wrong dwell edge or a reversed feed overheats them at once.",
        "Battery in the cabin vented and fastened."
      ],
      checks: [
        ...busOhmsChecks(build),
        confirm("coils-off", "All coils and injectors unplugged"),
        reading(
          "drain",
          "Current with the key off, in series with the battery",
          "A",
          0,
          0.08,
          "More than 0.08 A: pull fuses one by one until it falls."
        ),
        ...pin2("permanent").flatMap(
          (one2) => voltsCheck(
            `permanent-${one2.id}`,
            `Permanent feed at ${one2.id}`,
            off && meterVolts(off, ecuEnd(one2.id), groundEnd("battery")),
            0.5,
            "With the key off."
          )
        )
      ]
    },
    {
      id: "key",
      title: "Key on",
      aim: "The ECU wakes and talks.",
      cautions: ["Late in the day is no time for power: leave it until the morning, with fresh eyes."],
      checks: [
        ...pin2("switched").flatMap(
          (one2) => voltsCheck(
            `switched-${one2.id}`,
            `Switched feed at ${one2.id}`,
            at(ecuEnd(one2.id)),
            0.5,
            "Under load, with the ECU plugged in."
          )
        ),
        ...pin2("supply-5v").filter((one2) => net.nodeOf.has(ecuEnd(one2.id))).flatMap(
          (one2) => voltsCheck(
            `five-${one2.id}`,
            `5 V supply at ${one2.id}`,
            at(ecuEnd(one2.id)),
            0.1,
            "Low: a sensor shorts it. Unplug one after the other."
          )
        ),
        ...busVoltsChecks(build),
        confirm("talks", "The tuning computer talks to the ECU; only one tool is connected")
      ]
    },
    {
      id: "sensors",
      title: "Sensors sane",
      aim: "Every sensor reads what this place and weather say it must.",
      cautions: driveByWire ? ["Drive-by-wire: first motion with hands clear and the plausibility checks active."] : [],
      checks: [
        ...sensorChecks(build, net, at),
        ...insideChecks(build, net),
        ...switchChecks(build, net, at),
        ...driveByWire ? [confirm("pedal", "Pedal and throttle tracks agree over the whole travel; no fault is stored")] : []
      ]
    },
    {
      id: "outputs",
      title: "Outputs tested",
      aim: "Each output moves its own part, by the output order of this ECU.",
      cautions: [
        "No spark tests near fuel vapour.",
        "Moving belts and fans: hands, leads and sleeves clear.",
        "Ignition secondary voltage can stop a heart: never hold a lead."
      ],
      checks: outputChecks(build, net)
    },
    {
      id: "cranking",
      title: "Cranking in sync",
      aim: "The ECU knows its angle, every turn.",
      cautions: [
        "Out of gear, wheels chocked. On stands, never on a jack.",
        "Fuel pump fuse out, injectors unplugged, spark plugs out.",
        "Safety switches (clutch, neutral, stand, tilt) are wired, never defeated."
      ],
      checks: [
        reading(
          "rpm",
          "Speed the ECU shows",
          "rpm",
          120,
          450,
          crankWheel ? `At ${CRANKING_RPM} rpm the crank signal is ${pulseHertz(crankWheel, CRANKING_RPM).toFixed(0)} Hz.` : ""
        ),
        reading(
          "losses",
          "Sync losses counted over ten turns",
          "losses",
          0,
          0,
          "The first and last turn do not count."
        ),
        reading(
          "volts",
          "Battery while cranking",
          "V",
          Math.max(9, build.ecu.minVolts),
          12.6,
          `About ${crankedVolts(build).toFixed(1)} V are usual of a full battery of ${build.power.batteryAh} Ah here. This ECU holds to ${build.ecu.minVolts} V.`
        ),
        confirm("oil", "Oil pressure rises"),
        ...holdChecks(build, net)
      ]
    },
    {
      id: "timing",
      title: "Timing read",
      aim: "The light agrees with the ECU.",
      cautions: ["Light, leads and hair clear of belts and fan.", "Fuel still off."],
      checks: [
        auto(
          "light",
          `Offset ${offsetWords(build)} of ${offsetCycle(build)}\xB0 seen with the light`,
          offsetConfirmed(build),
          `Lock the timing at ${build.trigger.lockDegrees}\xB0, crank, read the mark, and enter it below.`
        ),
        confirm("stroke", "Cylinder 1 is on compression when its coil fires")
      ]
    },
    {
      id: "first-fire",
      title: "First fire",
      aim: "It runs, and you know it is safe to let it.",
      cautions: [
        "Fuel under pressure: extinguisher at hand, no leak at the rail before cranking.",
        "Exhaust gas indoors kills: doors open, extraction on.",
        "Emission, noise and roadworthiness rules are local; licensed practice decides."
      ],
      checks: [
        confirm("leaks", "Fuel pressure up, every joint dry"),
        confirm("extinguisher", "Extinguisher within reach, a second person at the key"),
        reading("oil-time", "Seconds until oil pressure stood", "s", 0, 10, "No pressure after 10 s: stop the engine."),
        confirm("again", "Timing read again at idle and at 3,000 rpm, no drift"),
        confirm("stops", "Key off stops engine and pump"),
        ...haltChecks(build, net),
        ...bankChecks(build, net)
      ]
    }
  ];
}
function settle(build, gateId, draft) {
  const confirmation = build.fireup[gateId]?.[draft.id] ?? null;
  const fallen = confirmation !== null && !stands(confirmation.on, checkFacts(build, gateId, draft.id));
  const base = {
    id: draft.id,
    text: draft.text,
    hint: draft.hint,
    kind: draft.kind,
    unit: "",
    low: null,
    high: null,
    confirmation,
    fallen
  };
  if (draft.kind === "auto") return { ...base, met: draft.met };
  if (draft.kind === "confirm") return { ...base, met: confirmation !== null && !fallen };
  const value = confirmation?.value ?? null;
  return {
    ...base,
    unit: draft.unit,
    low: draft.low,
    high: draft.high,
    met: !fallen && value !== null && value >= draft.low && value <= draft.high
  };
}
var fixChecks = (gateId, findings) => standingOf(findings, "fix").filter((finding) => gateOfFinding(finding) === gateId).map(
  (finding) => auto(
    `fix-${finding.id}`,
    `${finding.rule} ${finding.title}`,
    false,
    `${finding.detail} Mend it, or set it aside with a reason.`
  )
);
function gatesOf(build, net, progress, findings, keyOn = solveCircuit(build, net, "key-on")) {
  const standing2 = shutBy(net, progress, findings);
  let before = null;
  return drafts(build, net, progress, findings, keyOn).map((draft) => {
    const checks = [...fixChecks(draft.id, findings), ...draft.checks].map((check) => settle(build, draft.id, check));
    const blockers = [...standing2];
    if (before && before.status !== "passed") blockers.push(`'${before.title}' has not passed`);
    const status = blockers.length > 0 ? "shut" : checks.every((check) => check.met) ? "passed" : "open";
    before = { id: draft.id, title: draft.title, aim: draft.aim, cautions: draft.cautions, checks, blockers, status };
    return before;
  });
}

// core/rules/beside.ts
var MOST_TOLD = 4;
var groundedApart = (build, device) => (build.kinds[device.kindId]?.terminals ?? []).filter(
  (terminal) => terminal.destination.to === "sensor-ground" && destinationOf(device, terminal).to === "ground"
);

// core/rules/body.ts
function lineEnds({ devices }) {
  const ends2 = devices.flatMap(
    ({ device, kind: kind3 }) => kind3.terminals.flatMap((terminal) => {
      const destination = destinationOf(device, terminal);
      return destination.to === "line" ? [
        {
          line: destination.line,
          deviceId: device.id,
          label: device.label,
          terminalId: terminal.id,
          sensor: sensorsIn(kind3).some((sensor2) => sensor2.terminal === terminal.id),
          sender: hasRole(kind3, "gauge-sender")
        }
      ] : [];
    })
  );
  return groupBy(ends2, (end2) => end2.line);
}
var otherEnd2 = {
  "oil-lamp": "an oil pressure switch takes the lamp to ground",
  "charge-lamp": "the alternator's lamp terminal belongs there, or about 470 \u03A9 to the key feed",
  "temperature-gauge": "the gauge needs a sender of its own",
  "oil-gauge": "the gauge needs a sender of its own",
  "reverse-light": "the reverse switch on the gearbox feeds it",
  tachometer: "a gauge on the coil negative needs a coil without igniter, or an adapter"
};
var bodyRules = [
  {
    id: "BB-7",
    family: "Bus and body",
    severity: "fix",
    title: "Line with one end only",
    source: "Counting",
    sheet: "survey",
    check: (context) => [...lineEnds(context).values()].flatMap((ends2) => {
      const [end2] = ends2;
      if (!end2 || ends2.length > 1) return [];
      const spark = sparkChannel(end2.line) !== null;
      const alternator2 = context.devices.find(({ kind: kind3 }) => hasRole(kind3, "alternator"));
      const lamp = alternator2?.kind.terminals.find((terminal) => terminal.destination.to === "feed");
      return [
        {
          at: end2.line,
          severity: spark ? "stop" : "fix",
          where: { type: "device", deviceId: end2.deviceId },
          detail: `${end2.label} ${end2.terminalId} is the only end of the line ${end2.line.replace(/-/g, " ")}: ${spark ? "no coil, or no igniter channel, stands at the other" : end2.sender ? "no gauge stands at the other; name the cavity of the body plug that leads to it" : otherEnd2[end2.line] ?? "nothing stands at the other"}.`,
          remedy: end2.line === "charge-lamp" && alternator2 && lamp ? {
            label: `Take ${alternator2.device.label} through the lamp`,
            calls: [
              call("setDestination", {
                deviceId: alternator2.device.id,
                terminalId: lamp.id,
                destination: { to: "line", line: "charge-lamp" }
              })
            ]
          } : void 0
        }
      ];
    })
  },
  {
    id: "BB-8",
    family: "Bus and body",
    severity: "stop",
    title: "Gauge hangs on an ECU sensor",
    source: "The gauge feeds current through the sensor: both read wrong; common practice",
    sheet: "survey",
    check: (context) => [...lineEnds(context).values()].flatMap((ends2) => {
      const shared = ends2.find((end2) => end2.sensor);
      const gauge2 = ends2.find((end2) => end2 !== shared);
      if (!shared || !gauge2) return [];
      return [
        {
          at: shared.line,
          where: { type: "device", deviceId: shared.deviceId },
          detail: `${shared.label} is joined to ${gauge2.label}: give the gauge a sender of its own.`,
          remedy: {
            label: `Give ${shared.label} back to the ECU`,
            calls: [
              call("setDestination", { deviceId: shared.deviceId, terminalId: shared.terminalId, destination: null })
            ]
          }
        }
      ];
    })
  },
  {
    id: "BB-9",
    family: "Bus and body",
    severity: "fix",
    title: "Tachometer and output do not match",
    source: "Events of all cylinders in a turn against the pulses the gauge wants; common practice",
    sheet: "survey",
    check: ({ build, devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      const gauge2 = trait(kind3, "tachometer");
      if (!gauge2) return [];
      const where = { type: "device", deviceId: device.id };
      const events = build.engine.cylinders * 360 / cycleDegrees(build.engine);
      const hits = [];
      if (gauge2.drive !== "low-side")
        hits.push({
          at: `${device.id}.drive`,
          where,
          detail: gauge2.drive === "coil-negative" ? `${device.label} listens for the kick of a coil's negative: an ECU output does not give it. Fit an adapter, or change its input.` : `${device.label} wants a 5 V square wave: a low-side output needs a pull-up to 5 V beside it.`
        });
      if (Math.abs(gauge2.pulsesPerTurn - events) > 0.01)
        hits.push({
          at: `${device.id}.pulses`,
          severity: "note",
          where,
          detail: `${device.label} wants ${gauge2.pulsesPerTurn} pulses a turn, this engine fires ${events} times: set the output to ${gauge2.pulsesPerTurn}, or it reads ${(events / gauge2.pulsesPerTurn).toFixed(2)} times the speed.`
        });
      return hits;
    })
  },
  {
    id: "BB-10",
    family: "Bus and body",
    severity: "note",
    title: "Restraint wires in the donor loom",
    source: "Restraint systems belong to a licensed workshop; local rules decide",
    sheet: "survey",
    check: ({ build }) => {
      const restraint = donorList(build.survey.donor).filter(isRestraint);
      if (restraint.length === 0) return [];
      const decided = restraint.filter((wire) => wire.decision !== "open");
      const names = listWords(restraint.slice(0, 3).map((wire) => `${wire.connector} ${wire.cavity}`.trim()));
      if (decided.length > 0)
        return [
          {
            at: "decided",
            severity: "stop",
            title: "Restraint wire in the work list",
            detail: `${names} carries a decision. Stop: airbag circuits are never probed, cut or tapped.`,
            remedy: {
              label: "Take the decision back",
              calls: [call("editDonorWires", { ids: decided.map((wire) => wire.id), fields: { decision: "open" } })]
            }
          }
        ];
      return [
        {
          at: "",
          detail: `${plural(restraint.length, "wire")} (${names}${restraint.length > 3 ? ", \u2026" : ""}) locked: never probed, cut or tapped. A licensed workshop takes them.`
        }
      ];
    }
  },
  {
    id: "BB-11",
    family: "Bus and body",
    severity: "note",
    title: "Immobiliser still in the car",
    source: "A standalone ECU does not answer it; local rules decide",
    sheet: "survey",
    check: ({ devices }) => devices.flatMap(
      ({ device, kind: kind3 }) => trait(kind3, "body")?.cavities.some((cavity) => cavity.signal === "immobiliser") ? [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label} carries an immobiliser line: find out whether it also holds back the starter or the pump, and what local rules ask for.`
        }
      ] : []
    )
  },
  {
    id: "BB-12",
    family: "Bus and body",
    severity: "note",
    title: "Body wire nobody has named",
    source: "Counting",
    sheet: "survey",
    check: ({ devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      const unknown = unknownCavities(kind3);
      if (unknown.length === 0) return [];
      return [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label}: ${plural(unknown.length, "cavity", "cavities")} not known yet (${listWords(unknown.slice(0, 4).map(({ cavity }) => cavity))}). Measure before you join one.`
        }
      ];
    })
  },
  {
    id: "BB-13",
    family: "Bus and body",
    severity: "note",
    title: "Splice with wires that stay and wires that go",
    source: "Counting",
    sheet: "survey",
    check: ({ build }) => splitSplices(donorList(build.survey.donor)).map(({ splice, stay, go }) => ({
      at: splice,
      detail: `Donor splice ${splice}: ${plural(stay.length, "wire")} stay, ${plural(go.length, "wire")} go. Open the joint, or what stays loses its feed.`
    }))
  },
  {
    id: "BB-14",
    family: "Bus and body",
    severity: "fix",
    title: "Two donor wires move to one cavity",
    source: "One cavity takes one wire",
    sheet: "survey",
    check: ({ build }) => {
      const moving2 = donorList(build.survey.donor).filter((wire) => wire.decision === "move" && wire.moveTo.trim());
      return [...groupBy(moving2, (wire) => wire.moveTo.trim().toLowerCase()).values()].flatMap(
        (wires) => wires.length < 2 ? [] : [
          {
            at: wires[0].moveTo.trim().toLowerCase(),
            detail: `${listWords(wires.map((wire) => `${wire.connector} ${wire.cavity}`.trim()))} all move to ${wires[0].moveTo.trim()}.`
          }
        ]
      );
    }
  },
  {
    id: "BB-15",
    family: "Bus and body",
    severity: "fix",
    title: "Alternator lamp terminal left bare",
    source: "Through the warning lamp, or about 470 \u03A9 to the switched feed; common practice",
    sheet: "survey",
    check: ({ devices }) => devices.flatMap(
      ({ device, kind: kind3 }) => hasRole(kind3, "alternator") && kind3.terminals.some(
        (terminal) => terminal.destination.to === "feed" && destinationOf(device, terminal).to === "nothing"
      ) ? [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label} gets no exciting current, so it may never start to charge.`
        }
      ] : []
    )
  }
];

// core/rules/bus.ts
var stubLimitMetres = (kilobits) => 0.3 * (1e3 / kilobits);
var busRules = [
  {
    id: "BB-1",
    family: "Bus and body",
    severity: "fix",
    title: "CAN bus not terminated at both ends",
    source: "ISO 11898-2: 120 \u03A9 at both ends, 60 \u03A9 across the dead bus",
    sheet: "survey",
    check: ({ build }) => build.buses.flatMap((bus2) => {
      const nodes = membersOf(build, bus2);
      if (nodes.length === 0) return [];
      const { ends: ends2, ohms: ohms2 } = busFigures(build, bus2);
      if (ends2 === 2) return [];
      return [
        {
          at: build.buses.length > 1 ? bus2.id : "",
          where: { type: "device", deviceId: nodes[0].device.id },
          detail: `${bus2.name}: the ECU and ${listWords(nodes.map(({ device }) => device.label))} make ${plural(ends2, "termination")}, ${ohms2.toFixed(0)} \u03A9 across the dead bus; exactly two, 60 \u03A9, are wanted${ends2 === 1 ? `: 120 \u03A9 at ${nodes.at(-1).device.label}, the far end` : ""}.`
        }
      ];
    })
  },
  {
    id: "BB-2",
    family: "Bus and body",
    severity: "stop",
    title: "Two bit rates on one bus",
    source: "ISO 11898-2: one bit rate per bus",
    sheet: "survey",
    check: ({ build }) => build.buses.flatMap((bus2) => {
      const nodes = membersOf(build, bus2).map(({ device, kind: kind3 }) => ({
        label: device.label,
        kilobits: trait(kind3, "can").kilobits,
        id: device.id
      }));
      const odd = nodes.find(({ kilobits }) => kilobits !== bus2.kilobits);
      if (!odd) return [];
      return [
        {
          at: build.buses.length > 1 ? bus2.id : "",
          where: { type: "device", deviceId: odd.id },
          detail: `${bus2.name} runs at ${bus2.kilobits} kbit/s; ${listWords(nodes.map((node) => `${node.label} speaks ${node.kilobits}`))}: ${odd.label} will not be heard, and disturbs the others.`
        }
      ];
    })
  },
  {
    id: "BB-3",
    family: "Bus and body",
    severity: "stop",
    title: "Starter without interlock",
    source: "Clutch or neutral must permit starting; common practice, often law",
    sheet: "survey",
    check: ({ build, devices }) => {
      if (build.power.starting !== "button" || !devices.some(({ kind: kind3 }) => hasRole(kind3, "starter"))) return [];
      if (devices.some(({ kind: kind3 }) => holdRoles.some((role2) => hasRole(kind3, role2)))) return [];
      return [
        {
          at: "",
          detail: "A push button drives the starter, and no clutch, neutral or stand switch is on the list: it can leap in gear."
        }
      ];
    }
  },
  {
    id: "BB-4",
    family: "Bus and body",
    severity: "stop",
    title: "Push-button start without a button",
    source: "Counting",
    sheet: "survey",
    check: ({ build, devices }) => build.power.starting === "button" && !devices.some(({ kind: kind3 }) => hasRole(kind3, "start-button")) ? [
      {
        at: "",
        detail: "Starting is set to push button, but no start button is on the list.",
        remedy: { label: "Start by key", calls: [call("setPower", { starting: "key" })] }
      }
    ] : []
  },
  {
    id: "BB-5",
    family: "Bus and body",
    severity: "note",
    title: "CAN termination not at the end of the bus",
    source: "ISO 11898-2: 120 \u03A9 at the two ends of the trunk; stubs short, 0.3 m at 1 Mbit/s",
    sheet: "survey",
    check: ({ build }) => build.buses.flatMap((bus2) => {
      const nodes = membersOf(build, bus2);
      const limit = stubLimitMetres(bus2.kilobits);
      return nodes.slice(0, -1).flatMap(({ device, kind: kind3 }) => {
        if (!trait(kind3, "can").terminated) return [];
        const members = [...bus2.members.filter((id3) => id3 !== device.id), device.id];
        return [
          {
            at: device.id,
            where: { type: "device", deviceId: device.id },
            detail: `${device.label} ends ${bus2.name} by its own 120 \u03A9, and ${nodes.at(-1).device.label} stands beyond it: the rest of the trunk is then a stub, of which ${readLength(limit, build)} is the limit at ${bus2.kilobits} kbit/s.`,
            remedy: {
              label: `${device.label} is the last on the bus`,
              calls: [call("setBus", { bus: { ...bus2, members } })]
            }
          }
        ];
      });
    })
  },
  {
    id: "BB-6",
    family: "Bus and body",
    severity: "fix",
    title: "Twisted pair split over two pairs",
    source: "ISO 11898-2: one twisted pair",
    sheet: "allot",
    check: ({ build, devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      if (!trait(kind3, "can")) return [];
      const pins = kind3.terminals.filter((terminal) => destinationOf(device, terminal).to === "pin").flatMap((terminal) => withId(build.ecu.pins, build.assignments[terminalId(device.id, terminal.id)]) ?? []);
      if (new Set(pins.map((pin2) => pin2.abilities.find(({ kind: can3 }) => can3 === "can")?.pair ?? pin2.id)).size < 2)
        return [];
      return [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label} is on ${listWords(pins.map((pin2) => pin2.id))}, which belong to different CAN pairs.`
        }
      ];
    })
  },
  {
    id: "BB-16",
    family: "Bus and body",
    severity: "fix",
    title: "Stub off the trunk too long",
    source: "ISO 11898-2: 0.3 m at 1 Mbit/s, in proportion below (common practice)",
    sheet: "survey",
    check: ({ build }) => build.buses.flatMap((bus2) => {
      const limit = stubLimitMetres(bus2.kilobits);
      return membersOf(build, bus2).slice(0, -1).flatMap(({ device }) => {
        const stub = stubOf(bus2, device.id);
        if (stub <= limit + 1e-9) return [];
        return [
          {
            at: device.id,
            where: { type: "device", deviceId: device.id },
            detail: `${device.label} hangs ${readLength(stub, build)} off the trunk of ${bus2.name}; ${readLength(limit, build)} is the limit at ${bus2.kilobits} kbit/s. Lead the trunk past it, in and out of its plug.`
          }
        ];
      });
    })
  }
];

// core/rules/calibration.ts
function trackLaw(one2, other) {
  const [a, b] = [curveOf(one2.curve), curveOf(other.curve)];
  const pairs = [0, 25, 50, 75, 100].map((percent) => [a.signalOf(percent), b.signalOf(percent)]);
  if (pairs.some(([x, y]) => x === null || y === null)) return null;
  const spread3 = (values) => Math.max(...values) - Math.min(...values);
  if (spread3(pairs.map(([x, y]) => x + y)) < 0.15) return "sum";
  const ratios = pairs.map(([x, y]) => x / y);
  return spread3(ratios) < 0.05 * ratios[0] ? "ratio" : null;
}
var calibrationRules = [
  {
    id: "SE-8",
    family: "Sensors",
    severity: "fix",
    title: "ECU set to another calibration",
    source: "Both calibrations over the part's range",
    sheet: "survey",
    check: ({ build, net }) => sensorsOf(build, net).flatMap((at) => {
      const setting2 = ecuCurveOf(at);
      if (!setting2) return [];
      const error = settingError(build.site, at, setting2.curve);
      if (Math.abs(error.worst) <= 0.01 * (at.sensor.most - at.sensor.least)) return [];
      const { quantity } = at.sensor;
      return [
        {
          at: at.id,
          where: { type: "device", deviceId: at.device.id },
          detail: `${at.label}: the ECU is set to ${setting2.name}, so it is off by ${signed(readStep(quantity, error.worst, build))} at ${readQuantity(quantity, error.worstAt, build)}${error.atRest === null ? "" : `, and ${signed(readStep(quantity, error.atRest, build))} at key-on`}. A plausible, wrong figure.`,
          remedy: {
            label: "The ECU is set to the part now",
            calls: [call("setEcuCurve", { sensorId: at.id, setting: null })]
          }
        }
      ];
    })
  },
  {
    id: "SE-9",
    family: "Sensors",
    severity: "fix",
    title: "Two pull-ups on one sensor",
    source: "V = Vref R/(R + Rp) with both resistors side by side",
    sheet: "survey",
    check: ({ build, net }) => sensorsOf(build, net).flatMap((at) => {
      const { inside: inside2, outside } = pullUpsAt(at);
      if (at.sensor.signal !== "ohms" || at.pin === null || inside2 === null || outside === null) return [];
      const signal = restSignal(build.site, at.kind, at.sensor);
      const atPin = signal === null ? null : signalToPin(at, signal);
      const shown = atPin === null ? null : valueAtPin({ sensor: at.sensor, pullUpOhms: inside2 }, atPin);
      return [
        {
          at: at.id,
          where: { type: "device", deviceId: at.device.id },
          detail: `${at.label}: ${formatOhms(inside2)} in the ECU and ${formatOhms(outside)} outside make ${formatOhms(at.pullUpOhms)}${shown === null ? "" : `; at ${readQuantity("temperature", build.site.ambientCelsius, build)} the ECU shows ${readQuantity("temperature", shown, build)}`}.`,
          remedy: {
            label: "Remove the outside one",
            calls: [call("setPullUp", { deviceId: at.device.id, ohms: null })]
          }
        }
      ];
    })
  },
  {
    id: "SE-10",
    family: "Sensors",
    severity: "fix",
    title: "Key-on reading not right",
    source: "The part's calibration at this altitude and ambient (ISO 2533)",
    sheet: "survey",
    check: ({ build, net, library: library2 }) => sensorsOf(build, net).flatMap((at) => {
      const reading2 = standingReading(build, at.id);
      if (!reading2) return [];
      const judged2 = judgeSensor(build, at, reading2, library2);
      if (!["wrong", "unexplained", "doubtful"].includes(judged2.verdict)) return [];
      const [first2] = judged2.causes;
      const doubtful = judged2.verdict === "doubtful";
      return [
        {
          at: at.id,
          severity: doubtful ? "note" : void 0,
          title: doubtful ? "Key-on reading right, but not sure" : void 0,
          where: { type: "device", deviceId: at.device.id },
          detail: `${at.label}: ${judged2.sentence}${first2 ? ` ${doubtful ? "It could as well be" : "Most likely"}: ${first2.sentence}` : ""}`,
          remedy: first2 && first2.metres !== null ? {
            label: `Set the altitude to ${readMeasure("altitude", first2.metres, build)}`,
            calls: [
              call("setSite", {
                altitudeMetres: first2.metres,
                ambientCelsius: build.site.ambientCelsius
              })
            ]
          } : void 0
        }
      ];
    })
  },
  {
    id: "SE-14",
    family: "Sensors",
    severity: "note",
    title: "Key-on reading taken before the wire changed",
    source: "A reading belongs to the pin, the wire and the part it was taken on",
    sheet: "survey",
    check: ({ build, net }) => sensorsOf(build, net).flatMap((at) => {
      const reading2 = build.sensing.readings[at.id];
      if (!reading2 || standingReading(build, at.id)) return [];
      return [
        {
          at: at.id,
          where: { type: "device", deviceId: at.device.id },
          detail: `${at.label}: read ${takenWords(reading2.on, at.id)}, now ${at.pin ? `on ${at.pin.id}` : "without a pin"}. Read it again.`,
          remedy: {
            label: "Forget the old reading",
            calls: [call("recordSensing", { sensorId: at.id, reading: null })]
          }
        }
      ];
    })
  },
  {
    id: "SE-11",
    family: "Sensors",
    severity: "fix",
    title: "Copper in a thermocouple lead",
    source: "ITS-90 type K (NIST Monograph 175): copper from a warm plug makes no voltage",
    sheet: "survey",
    check: ({ build, devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      if (!hasRole(kind3, "thermocouple") || device.leadWire === "type-k") return [];
      const error = copperLeadError(800, build.site.ambientCelsius + 60, build.site.ambientCelsius);
      return [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label}: with its plug ${readStep("temperature", 60, build)} warmer than the ECU, ${readQuantity("temperature", 800, build)} reads ${readStep("temperature", Math.abs(error), build)} low. Type K wire and terminals all the way.`,
          remedy: {
            label: "Use type K wire",
            calls: [call("editDevice", { deviceId: device.id, leadWire: "type-k" })]
          }
        }
      ];
    })
  },
  {
    id: "SE-12",
    family: "Sensors",
    severity: "stop",
    title: "Drive-by-wire tracks without a law",
    source: "Two tracks: volts add up, or one is a fixed share of the other; common practice",
    sheet: "survey",
    check: ({ devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      const motor = kind3.terminals.some(
        (terminal) => terminal.destination.to === "pin" && terminal.destination.ask.kind === "half-bridge"
      );
      if (!hasRole(kind3, "pedal") && !(hasRole(kind3, "throttle") && motor)) return [];
      const tracks = sensorsIn(kind3).filter((sensor2) => sensor2.quantity === "position");
      const law = tracks.length >= 2 ? trackLaw(tracks[0], tracks[1]) : null;
      if (law !== null) return [];
      return [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: tracks.length < 2 ? `${device.label} has ${plural(tracks.length, "calibrated track")}: the ECU has nothing to compare, and a stuck track is not seen.` : `The two tracks of ${device.label} neither add up to one voltage nor keep one ratio: a plausibility check cannot hold.`
        }
      ];
    })
  },
  {
    id: "SE-13",
    family: "Sensors",
    severity: "note",
    title: "Sensor terminal order not confirmed",
    source: "Variants exist with supply and ground changed over; common practice",
    sheet: "survey",
    check: ({ devices }) => {
      const open = devices.filter(
        ({ device, kind: kind3 }) => !device.terminalsConfirmed && sensorsIn(kind3).length > 0 && kind3.terminals.some((terminal) => destinationOf(device, terminal).to === "supply-5v")
      );
      if (open.length === 0) return [];
      return [
        {
          at: "",
          where: { type: "device", deviceId: open[0].device.id },
          detail: `${listWords(open.slice(0, 4).map(({ device }) => device.label))}${open.length > 4 ? ` and ${open.length - 4} more` : ""}: read supply, ground and signal off the part in hand before power is put on it.`
        }
      ];
    }
  }
];
var takenWords = (on, sensorId) => {
  const pin2 = pinRead(on, sensorId);
  return pin2 === null ? "without a pin" : `on ${pin2}, or on another part`;
};
var signed = (text3) => text3.startsWith("-") ? text3.replace("-", "\u2212") : `+${text3}`;

// core/rules/coils.ts
var coilRules = [
  {
    id: "OE-3",
    family: "Order",
    severity: "stop",
    title: "Coil shared by cylinders that do not pair",
    source: "Firing angles: a coil of two towers needs two cylinders 360\xB0 apart",
    sheet: "survey",
    check: ({ build, devices }) => {
      const sets = setsOfTurn(build.engine);
      const angles = firingAngleByCylinder(build.engine);
      return devices.flatMap(({ device, kind: kind3 }) => {
        const towers = trait(kind3, "coil")?.serves ?? 1;
        if (towers === 1 || build.engine.ignition === "distributor") return [];
        const at = { at: device.id, where: { type: "device", deviceId: device.id } };
        const free = sets.filter(
          (set) => set.length === towers && !devices.some(
            (one2) => one2.device.id !== device.id && trait(one2.kind, "coil") !== null && one2.device.row === device.row && one2.device.serves.some((cylinder) => set.includes(cylinder))
          )
        );
        const pair = free.find((set) => device.serves.some((one2) => set.includes(one2))) ?? free[0];
        const remedy = pair && {
          label: `It serves ${listWords([...pair].sort((one2, other) => one2 - other).map(String))}`,
          calls: [call("editDevice", { deviceId: device.id, serves: pair })]
        };
        if (device.serves.length !== towers)
          return [
            {
              ...at,
              title: "Coil without its cylinders",
              detail: `${device.label} has ${plural(towers, "tower")}, and ${device.serves.length === 0 ? "no cylinder is" : `${plural(device.serves.length, "cylinder is", "cylinders are")}`} named for them: its output cannot be chosen.`,
              remedy
            }
          ];
        if (sets.some((set) => device.serves.every((cylinder) => set.includes(cylinder)))) return [];
        const fires = device.serves.map((cylinder) => `${cylinder} at ${(angles.get(cylinder) ?? 0).toFixed(0)}\xB0`);
        return [
          {
            ...at,
            detail: `${device.label} sparks in both its cylinders at once, and they fire apart: ${listWords(fires)}. Two that share a coil fire 360\xB0 apart.`,
            remedy
          }
        ];
      });
    }
  },
  {
    id: "OE-4",
    family: "Order",
    severity: "stop",
    title: "Igniter missing or doubled",
    source: "Coil terminals: common practice",
    sheet: "allot",
    check: ({ build, net, devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      const coil = trait(kind3, "coil");
      const need = net.needsOf.get(device.id)?.find((one2) => isIgnition(one2.ask.kind));
      if (!coil || !need) return [];
      const pin2 = withId(build.ecu.pins, build.assignments[need.id]);
      const able = pin2 ? [pin2] : build.ecu.pins;
      const hasDriver = able.some((one2) => one2.abilities.some((ability) => ability.kind === "ignition-driver"));
      const hasLogic = able.some((one2) => one2.abilities.some((ability) => ability.kind === "ignition-logic"));
      const where = { type: "device", deviceId: device.id };
      if (!coil.igniter && !hasDriver)
        return [
          {
            at: device.id,
            where,
            detail: `${device.label} has no igniter and ${pin2 ? pin2.id : build.ecu.model} gives a logic signal only: nothing switches its primary. Fit an igniter module or a coil with one.`
          }
        ];
      if (coil.igniter && !hasLogic)
        return [
          {
            at: device.id,
            where,
            detail: `${device.label} has its own igniter and would hang on a coil driver: it needs a logic output.`
          }
        ];
      return [];
    })
  },
  {
    id: "OE-11",
    family: "Order",
    severity: "fix",
    title: "Coil draws more than its driver stands",
    source: "i = (V/R)(1 \u2212 exp(\u2212tR/L)) against the driver; RL step response",
    sheet: "survey",
    check: ({ build, net, devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      const coil = trait(kind3, "coil");
      if (!coil || coil.igniter) return [];
      const dwell2 = atVolts(coil.dwell, 13.5);
      const amps2 = primaryAmps(coil, 13.5, dwell2);
      const need = net.needsOf.get(device.id)?.[0];
      const pin2 = withId(build.ecu.pins, need ? build.assignments[need.id] : void 0);
      const module = igniterOf(build, { device, kind: kind3 });
      const all = module ? amps2 : amps2 * (1 + (need?.joined.length ?? 0));
      const limit = module ? trait(module.kind, "igniter").maxAmps : pin2?.abilities.find((ability) => ability.kind === "ignition-driver")?.maxAmps;
      if (limit === void 0 || all <= limit) return [];
      const name3 = module ? module.device.label : pin2.id;
      return [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${all > amps2 ? `${need.label} reach ${formatAmps(all)} together` : `${device.label} reaches ${formatAmps(amps2)}`} after ${dwell2} ms at 13.5 V; ${name3} stands ${formatAmps(limit)}. Shorten the dwell, or use another driver.`
        }
      ];
    })
  },
  {
    id: "OE-12",
    family: "Order",
    severity: "fix",
    title: "A spark each without phase",
    source: "Four-stroke cycle geometry: a crank signal alone repeats every 360\xB0",
    sheet: "trigger",
    check: ({ build, devices }) => {
      const { engine: engine2 } = build;
      const fit = fitTrigger(build.ecu, engine2, build.trigger.crankWheel, build.trigger.camWheel);
      if (engine2.ignition !== "direct" || engine2.kind !== "four-stroke" || fit.knows !== "angle") return [];
      if (!devices.some(({ kind: kind3 }) => trait(kind3, "coil"))) return [];
      return [
        {
          at: "",
          detail: `The crank alone does not tell compression from exhaust, so ${engine2.cylinders === 1 ? "the coil fires every turn: it works twice as often, and is fed and given dwell for that" : "the coils fire every turn, each twice a cycle"}.`,
          remedy: {
            label: "Spark every turn",
            calls: [call("setEngine", { engine: { ...engine2, ignition: "wasted" } })]
          }
        }
      ];
    }
  },
  {
    id: "OE-13",
    family: "Order",
    severity: "stop",
    title: "Shared coils, and a spark for each cylinder asked",
    source: "A coil of two towers sparks in both its cylinders at once; common practice",
    sheet: "survey",
    check: ({ build, devices }) => {
      const shared = devices.filter(({ kind: kind3 }) => (trait(kind3, "coil")?.serves ?? 1) > 1);
      if (build.engine.ignition !== "direct" || shared.length === 0) return [];
      return [
        {
          at: "",
          where: { type: "device", deviceId: shared[0].device.id },
          detail: `${listWords(shared.slice(0, 3).map(({ device }) => device.label))} ${shared.length === 1 ? "serves" : "serve"} two cylinders each; set to a coil each, the ECU would fire ${shared.length === 1 ? "it" : "them"} for one of the two only.`,
          remedy: {
            label: "Spark every turn",
            calls: [call("setEngine", { engine: { ...build.engine, ignition: "wasted" } })]
          }
        }
      ];
    }
  }
];

// core/rules/complete.ts
var injected = ({ injection }) => injection !== "none";
var measuresLoad = (kind3) => pressureRange(kind3)?.measures === "manifold" || hasRole(kind3, "throttle") || hasRole(kind3, "air-mass") || hasRole(kind3, "manifold-hose");
var first = [
  { words: "a crank sensor or another trigger reference", is: (kind3) => trait(kind3, "trigger") !== null },
  { words: "a load sensor: manifold pressure, throttle or air mass", is: measuresLoad, of: injected },
  {
    words: "a coolant or head temperature sensor",
    is: (kind3) => thermistorIn(kind3) !== null && kind3.system === "Cooling",
    of: injected
  },
  { words: "a fuel pump", is: (kind3) => hasRole(kind3, "pump"), of: injected }
];
var later = [
  {
    words: "air temperature",
    is: (kind3) => thermistorIn(kind3) !== null && kind3.system === "Air and throttle",
    of: injected
  },
  {
    words: "an oxygen sensor to tune by",
    is: (kind3) => kind3.system === "Exhaust" && (trait(kind3, "wideband") !== null || sensorsIn(kind3).some(({ quantity }) => quantity === "mixture"))
  }
];
var completeRules = [
  {
    id: "PL-13",
    family: "Plan",
    severity: "fix",
    title: "Not whole enough for a first fire",
    source: "A reference, load, temperature, spark and fuel: common practice",
    sheet: "survey",
    check: ({ build, devices }) => {
      if (devices.length === 0) return [];
      const lacks = (parts3) => parts3.filter(({ is, of }) => (of?.(build.engine) ?? true) && !devices.some(({ kind: kind3 }) => is(kind3)));
      const [now, wait] = [lacks(first), lacks(later)];
      if (now.length === 0) return [];
      const inside2 = build.ecu.inside?.manifoldKpa;
      const hose = inside2 !== void 0 && !devices.some(({ kind: kind3 }) => measuresLoad(kind3)) ? ` ${build.ecu.model} has a manifold sensor inside: a hose to it will do.` : "";
      const waiting = wait.length === 0 ? "" : ` ${listWords(wait.map(({ words: words3 }) => words3))} can wait until it runs.`;
      return [
        {
          at: "",
          detail: `The list has no ${listWords(now.map(({ words: words3 }) => words3.replace(/^an? /, "")))}.${hose}${waiting}`.replace(
            /\. ([a-z])/,
            (_, letter) => `. ${letter.toUpperCase()}`
          )
        }
      ];
    }
  }
];

// core/rules/feeds.ts
var CLOSE3 = 1e-9;
function overFused({ build, net }) {
  const { links, fuses } = net.power.sizes;
  return net.circuits.flatMap((circuit) => {
    const id3 = partAt(fuseEnd(circuit.id, 1));
    const thin = [...links.values()].filter(
      (link) => link.sizedBy === id3 && fuses.get(id3).amps > link.carriesAmps + CLOSE3
    );
    const weakest = thin.reduce(
      (least, one2) => least && least.carriesAmps <= one2.carriesAmps ? least : one2,
      null
    );
    if (!weakest) return [];
    const chosen = thin.filter(({ byPerson }) => byPerson).map((link) => link.id).filter((one2) => build.loom.wires[one2]?.squareMm !== void 0);
    return [
      {
        at: circuit.id,
        where: { type: "end", end: fuseEnd(circuit.id, 1) },
        detail: `${circuit.name}: ${circuit.fuseAmps} A fuse, but ${readSize(weakest.squareMm, build)} carries ${formatAmps(weakest.carriesAmps)} in this bundle and heat, on the way to ${labelOf(net, weakest.to)}. The wire would burn before the fuse.`,
        remedy: {
          label: "Derive fuse and wire",
          calls: [
            call("deriveCircuit", { circuitId: circuit.id, fields: ["squareMm", "fuseAmps"] }),
            ...chosen.map((wireId2) => call("setWire", { wireId: wireId2, squareMm: null }))
          ]
        }
      }
    ];
  });
}
function spare({ build, net }, circuit) {
  if (circuit.squareByPerson)
    return {
      label: "Derive the wire",
      calls: [call("deriveCircuit", { circuitId: circuit.id, fields: ["squareMm"] })]
    };
  const behindMain = build.power.circuits[circuit.id]?.feed === "shared" && circuit.upstream !== null;
  if (behindMain && (circuit.role === "injectors" || circuit.role === "coils"))
    return {
      label: "Give it a relay of its own",
      calls: [call("setCircuit", { circuitId: circuit.id, choice: { feed: "own" } })]
    };
  const upstream = withId(net.circuits, circuit.upstream);
  return upstream?.squareByPerson ? spare({ build, net }, upstream) : void 0;
}
var behindFuse = {
  label: "Feed windings behind a fuse",
  calls: [call("setCircuit", { circuitId: "windings", choice: { feed: "own" } })]
};
var feedRules = [
  {
    id: "PW-1",
    family: "Power",
    severity: "stop",
    title: "Fuse above what the wire carries",
    source: "ISO 8820-3; IEC 60364-5-52 grouping; ampacity common practice",
    sheet: "feeds",
    check: overFused
  },
  {
    id: "PW-2",
    family: "Power",
    severity: "fix",
    title: "Load above 80 % of the fuse",
    source: "Continuous load at most 80 % of rating; common practice",
    sheet: "feeds",
    check: ({ net }) => net.circuits.flatMap((circuit) => {
      if (circuit.loadAmps <= circuit.fuseAmps * CONTINUOUS_SHARE + CLOSE3) return [];
      const rating = fuseFor(circuit.loadAmps);
      return [
        {
          at: circuit.id,
          where: { type: "end", end: fuseEnd(circuit.id, 1) },
          detail: `${circuit.name} draws ${formatAmps(circuit.loadAmps)} through a ${circuit.fuseAmps} A fuse, ${(100 * circuit.loadAmps / circuit.fuseAmps).toFixed(0)} % of it.${rating === null ? " No blade fuse is large enough: split the circuit." : ""}`,
          remedy: rating === null ? void 0 : {
            label: `Fit ${rating} A`,
            calls: [call("deriveCircuit", { circuitId: circuit.id, fields: ["fuseAmps", "squareMm"] })]
          }
        }
      ];
    })
  },
  {
    id: "PW-3",
    family: "Power",
    severity: "fix",
    title: "Voltage drop over its limit",
    source: "Feeds 0.3 V, motors 0.5 V, from the source to the load; common practice; copper IEC 60228 at 60 \xB0C",
    sheet: "feeds",
    check: (context) => context.net.circuits.flatMap((circuit) => {
      if (circuit.dropVolts <= circuit.limitVolts + CLOSE3) return [];
      const hop = circuit.worstHop;
      const most2 = hop ? ` Most of it, ${formatVolts(hop.volts)}, between ${labelOf(context.net, hop.from)} and ${labelOf(context.net, hop.to)}.` : "";
      return [
        {
          at: circuit.id,
          where: { type: "end", end: fuseEnd(circuit.id, 1) },
          detail: `${circuit.name}: ${formatVolts(circuit.dropVolts)} are lost from the source to ${circuit.worstLoad} with everything on; ${formatVolts(circuit.limitVolts)} is the limit.${most2}`,
          remedy: spare(context, circuit)
        }
      ];
    })
  },
  {
    id: "PW-4",
    family: "Power",
    severity: "fix",
    title: "Fuse far from its source",
    source: "Close to its source; common practice",
    sheet: "feeds",
    check: ({ build, net }) => net.circuits.flatMap(
      (circuit) => (
        // Behind another fuse that one protects it, and the wire is sized for it.
        circuit.fuseDistanceMetres <= FUSE_NEAR_METRES || circuit.upstream !== null ? [] : [
          {
            at: circuit.id,
            where: { type: "end", end: fuseEnd(circuit.id, 1) },
            detail: `${circuit.name}: ${readLength(circuit.fuseDistanceMetres, build)} of wire before the fuse has no protection at all.`,
            // Where the tree says so, the box has to be moved.
            remedy: build.power.circuits[circuit.id]?.fuseDistanceMetres === void 0 ? void 0 : {
              label: `Move it to ${readLength(FUSE_METRES, build)}`,
              calls: [call("deriveCircuit", { circuitId: circuit.id, fields: ["fuseDistanceMetres"] })]
            }
          }
        ]
      )
    )
  },
  {
    id: "PW-14",
    family: "Power",
    severity: "fix",
    title: "Wire without a fuse",
    source: "Every wire from a source is protected by something it can stand; starter and alternator cables are exempt; common practice",
    sheet: "feeds",
    check: ({ build, net }) => {
      const { plan, sizes: sizes2, flows } = net.power;
      const bare = [...sizes2.links.values()].filter(({ from, to, fuse }) => {
        if (fuse !== null || endType(to) === "fuse" || endType(from) === "fuse") return false;
        const [first3] = wayTo(flows, to);
        const source = first3 ? endOf(first3.from) : null;
        const tap = source?.of === "part" && source.kind === "tap" ? plan.parts.get(partAt(first3.from))?.part : null;
        return tap?.kind === "tap" ? !tap.fused : true;
      });
      const heavy = bare.filter(({ to }) => ["switch", "busbar"].includes(endType(to)));
      const told2 = bare.filter((link) => !heavy.includes(link));
      const byKey = told2.filter(({ to }) => {
        const [first3] = wayTo(flows, to);
        return first3 !== void 0 && endType(first3.from) !== "battery";
      });
      const hits = told2.flatMap((link) => {
        if (byKey.includes(link)) return [];
        const shared = plan.links.some(({ id: id3, proposed }) => id3 === link.id && proposed) && build.power.circuits.windings?.feed === "shared";
        return [
          {
            at: link.id,
            where: { type: "end", end: link.to },
            detail: `${labelOf(net, link.to)} hangs on the battery by ${readSize(link.squareMm, build)} that no fuse protects: rubbed through it burns.`,
            remedy: shared ? behindFuse : void 0
          }
        ];
      });
      const [first2] = byKey;
      if (first2)
        hits.push({
          at: "key",
          severity: "note",
          title: "Protected by the car\u2019s own fuse only",
          where: { type: "wire", wireId: first2.id },
          detail: `${listWords(byKey.map(({ to }) => labelOf(net, to)))}: on the key without a fuse of the loom. The car\u2019s own fuse before the key must not be above ${formatAmps(Math.min(...byKey.map(({ carriesAmps }) => carriesAmps)))}, which is what the thinnest of them carries.`,
          remedy: build.power.circuits.windings?.feed === "shared" ? behindFuse : void 0
        });
      return hits;
    }
  },
  {
    id: "PW-17",
    family: "Power",
    severity: "stop",
    title: "Nothing feeds it",
    source: "A load needs a way from a source; by counting",
    sheet: "feeds",
    check: ({ net }) => {
      const { plan, flows, unfed } = net.power;
      const loads = unfed.map(({ end: end2, name: name3 }) => ({
        at: end2,
        where: net.nodeOf.has(end2) ? { type: "end", end: end2 } : void 0,
        detail: `${name3} has no way from any source: what it hung on was taken out.`,
        remedy: plan.parts.has(partAt(partEnd("splice", "main"))) ? {
          label: "Hang it on the main feed",
          calls: [call("hangLoad", { end: end2, from: partEnd("splice", "main") })]
        } : void 0
      }));
      const fuses = net.circuits.flatMap(
        ({ id: id3, name: name3, source }) => source === "nothing" && flows.into.get(fuseEnd(id3, 1)) === void 0 ? [
          {
            at: `fuse-${id3}`,
            severity: "fix",
            title: "A fuse that nothing feeds",
            where: { type: "end", end: fuseEnd(id3, 1) },
            detail: `${name3} fuse is wired to no source.`
          }
        ] : []
      );
      return [...loads, ...fuses];
    }
  },
  {
    id: "PW-18",
    family: "Power",
    severity: "fix",
    title: "Return thinner than its load asks",
    source: "Ampacity common practice; IEC 60364-5-52 grouping",
    sheet: "feeds",
    check: ({ build, net }) => {
      const around2 = surroundings(build);
      return net.wires.flatMap((wire) => {
        if (wire.signal !== "ground" || wire.amps <= carriedAmps(wire.squareMm, around2) + CLOSE3) return [];
        const chosen = build.loom.wires[wire.id]?.squareMm !== void 0;
        return [
          {
            at: wire.id,
            where: { type: "wire", wireId: wire.id },
            detail: `${labelOf(net, wire.from)} to ${labelOf(net, wire.to)}: ${formatAmps(wire.amps)} return through ${readSize(wire.squareMm, build)}, which carries ${formatAmps(carriedAmps(wire.squareMm, around2))}.`,
            remedy: chosen ? { label: "Derive the wire", calls: [call("setWire", { wireId: wire.id, squareMm: null })] } : void 0
          }
        ];
      });
    }
  },
  {
    id: "PW-19",
    family: "Power",
    severity: "fix",
    title: "More drawn from the car than it can give",
    source: "What a feed of the car can still give, as it was told; by adding up",
    sheet: "feeds",
    check: ({ net }) => net.parts.flatMap(({ name: name3, part: part2 }) => {
      if (part2.kind !== "tap") return [];
      const end2 = partEnd("tap", name3);
      const amps2 = net.power.flows.at.get(end2)?.rms ?? 0;
      if (amps2 <= part2.amps + CLOSE3) return [];
      return [
        {
          at: name3,
          where: net.nodeOf.has(end2) ? { type: "end", end: end2 } : void 0,
          detail: `${part2.name} can still give ${formatAmps(part2.amps)}; ${formatAmps(amps2)} hang on it. Let it pull in a relay, and feed the load from the battery.`
        }
      ];
    })
  },
  {
    id: "PW-20",
    family: "Power",
    severity: "note",
    title: "Left over in the feeds",
    source: "By counting",
    sheet: "feeds",
    check: ({ build, net }) => {
      const wired = new Set(net.power.plan.links.flatMap(({ from, to }) => [partAt(from), partAt(to)]));
      const idle = net.parts.filter(({ id: id3, proposed }) => !proposed && !wired.has(id3));
      const { loose } = net.power.plan;
      const hits = idle.map(({ id: id3, part: part2 }) => ({
        at: id3,
        detail: `${part2.name} stands in the plan with no wire on it.`,
        remedy: { label: "Take it out", calls: [call("removeFeedPart", { partId: id3 })] }
      }));
      if (loose.length > 0)
        hits.push({
          at: "loose",
          title: "Wires that lead nowhere",
          detail: `${plural(loose.length, "wire")} of the feeds ${loose.length === 1 ? "leads" : "lead"} to something that is not in the build any more: ${listWords(loose.slice(0, 3).map((id3) => id3.replace("~", " to ")))}${loose.length > 3 ? " and others" : ""}.`,
          remedy: {
            label: "Forget them",
            calls: loose.filter((id3) => build.feeds.links[id3]).map((linkId) => call("forgetFeedLink", { linkId }))
          }
        });
      return hits;
    }
  }
];

// core/rules/relays.ts
var relaysOn = ({ net }, end2) => wayTo(net.power.flows, end2).flatMap(({ part: part2 }) => {
  const planned = part2 === null ? void 0 : net.power.plan.parts.get(part2);
  return planned?.part.kind === "relay" ? [{ name: planned.name, relay: planned.part }] : [];
});
var relayRules = [
  {
    id: "PW-6",
    family: "Power",
    severity: "stop",
    title: "Suppressed relay reversed",
    source: "DIN 72552: 86 supply, 85 driver when a diode is inside",
    sheet: "feeds",
    check: ({ net }) => net.parts.flatMap(
      ({ name: name3, part: part2 }) => part2.kind === "relay" && part2.suppression === "diode" && part2.reversed ? [
        {
          at: name3,
          where: { type: "end", end: relayEnd(name3, "86") },
          detail: `${part2.name} relay has a diode inside; with 85 on the supply it shorts the driver the moment it switches.`,
          remedy: {
            label: "Wire 86 to supply",
            calls: [call("setCircuit", { circuitId: name3, choice: { winding: "as-marked" } })]
          }
        }
      ] : []
    )
  },
  {
    id: "PW-7",
    family: "Power",
    severity: "note",
    title: "No flyback path on a relay",
    source: "An inductive load needs a diode, a resistor or the driver\u2019s clamp; common practice",
    sheet: "feeds",
    check: ({ net }) => {
      const bare = net.parts.flatMap(
        ({ name: name3, part: part2 }) => part2.kind === "relay" && part2.control === "key-run" && part2.suppression === "none" ? [{ name: name3, title: part2.name }] : []
      );
      if (bare.length === 0) return [];
      return [
        {
          at: "",
          where: { type: "end", end: relayEnd(bare[0].name, "85") },
          detail: `${listWords(bare.map(({ title }) => title))}: the key switches the winding and nothing takes its kick. Relays with a diode spare the key switch and the ECU.`,
          remedy: {
            label: "Use relays with a diode",
            calls: bare.map(
              ({ name: name3 }) => call("setCircuit", { circuitId: name3, choice: { relay: "diode", winding: "as-marked" } })
            )
          }
        }
      ];
    }
  },
  {
    id: "PW-10",
    family: "Power",
    severity: "stop",
    title: "Pump runs on with the engine stopped",
    source: "A pump must stop when the engine stops; common practice, often law",
    sheet: "feeds",
    check: ({ net }) => net.power.flows.draws.flatMap(({ end: end2, load }) => {
      if (load?.feed !== "pump") return [];
      const relays = relaysOn({ net }, end2);
      if (relays.some(({ relay: relay2 }) => relay2.control === "need" || relay2.control === "wired")) return [];
      const proposed = relays.find(({ name: name3 }) => name3 === "pump");
      return [
        {
          at: end2,
          where: { type: "end", end: proposed ? relayEnd("pump", "85") : end2 },
          detail: `${load.name} follows the key: after a crash or a torn line it goes on pumping fuel. Let the ECU drive its relay.`,
          remedy: proposed && {
            label: "Let the ECU switch it",
            calls: [call("setCircuit", { circuitId: "pump", choice: { switchedBy: "ecu" } })]
          }
        }
      ];
    })
  },
  {
    id: "PW-15",
    family: "Power",
    severity: "fix",
    title: "Load above the relay\u2019s contact",
    source: "Continuous load at most what the contact is marked with; motors take several times as much as they start; common practice",
    sheet: "feeds",
    check: ({ net }) => net.parts.flatMap(({ id: id3, name: name3, part: part2 }) => {
      if (part2.kind !== "relay") return [];
      const loads = net.relayLoads.get(name3) ?? [];
      const { flow } = net.power.sizes.relays.get(id3);
      if (carries(part2.contactAmps, flow)) return [];
      return [
        {
          at: name3,
          where: { type: "end", end: relayEnd(name3, "87") },
          detail: `${part2.name} relay: ${formatAmps(flow.rms)} through a contact of ${part2.contactAmps} A, with ${listWords(loads.map((load) => load.name))} behind it. Its contact welds or burns: split the loads between two relays.`
        }
      ];
    })
  },
  {
    id: "PW-16",
    family: "Power",
    severity: "stop",
    title: "The ECU must wake the relay it hangs on",
    source: "An output works when the ECU has its supply; by counting",
    sheet: "feeds",
    check: ({ build, net }) => {
      const pins = pinsOfKind(build.ecu, "switched").map(({ id: id3 }) => ecuEnd(id3));
      const waking = pins.map((end2) => relaysOn({ net }, end2).filter(({ relay: relay3 }) => relay3.control === "need"));
      if (pins.length === 0 || waking.some((relays) => relays.length === 0)) return [];
      const { name: name3, relay: relay2 } = waking[0][0];
      return [
        {
          at: name3,
          where: { type: "end", end: relayEnd(name3, "85") },
          detail: `${relay2.name} relay feeds ${build.ecu.model}, and an output of the ECU is to pull it in: without its supply the ECU never wakes. Let the key pull it in.`,
          remedy: {
            label: "Let the key pull it in",
            calls: [call("setFeedPart", { partId: partAt(relayEnd(name3, "30")), changes: { control: "key-run" } })]
          }
        }
      ];
    }
  }
];

// core/loom/end-places.ts
function endPlace(build, net, end2) {
  const ref = endOf(end2);
  if (ref.of === "ecu") {
    const pin2 = withId(build.ecu.pins, ref.pin);
    const connector = pin2 && withId(build.ecu.connectors, pin2.connector);
    return pin2 && connector ? { plug: connector.id, connector, cavity: pin2.cavity, written: pin2.id } : null;
  }
  if (ref.of === "device") {
    const known9 = net.deviceOf.get(ref.device);
    const cavity = known9?.kind.face?.cavities[ref.terminal];
    return known9?.kind.face && cavity !== void 0 ? { plug: known9.device.label, connector: faceConnector(known9.kind.face), cavity, written: ref.terminal } : null;
  }
  const plug = ref.kind === "plug" ? build.tree.nodes[ref.part]?.plug : void 0;
  return plug ? { plug: placeName(build, ref.part), connector: plugConnector(plug), cavity: Number(ref.port), written: ref.port } : null;
}

// core/loom/leads.ts
var JUMPER_METRES2 = 0.3;
function leadsOf(build, net) {
  const { leadMetres, origin } = build.loom;
  if (origin !== "flying-lead" || leadMetres === void 0) return null;
  return build.ecu.pins.flatMap((pin2) => {
    if (!pin2.lead) return [];
    const [wire] = net.wiresAt.get(ecuEnd(pin2.id)) ?? [];
    const colour = pin2.lead.colour;
    if (!wire)
      return [
        {
          pinId: pin2.id,
          colour,
          neededMetres: null,
          to: "",
          fate: "park",
          metres: leadMetres,
          jumpers: Math.floor(leadMetres / JUMPER_METRES2)
        }
      ];
    const over = leadMetres - wire.lengthMetres;
    return [
      {
        pinId: pin2.id,
        colour,
        neededMetres: wire.lengthMetres,
        to: labelOf(net, wire.from === ecuEnd(pin2.id) ? wire.to : wire.from),
        fate: over < 0 ? "short" : "cut",
        metres: Math.abs(Math.round(over * 100) / 100),
        jumpers: over < 0 ? 0 : Math.floor(over / JUMPER_METRES2)
      }
    ];
  });
}

// core/rules/keep.ts
var MOST_RINGS = 4;
var keepRules = [
  {
    id: "LO-16",
    family: "Loom",
    severity: "fix",
    title: "Too many rings under one bolt",
    source: "Four ring terminals under one bolt at the most; common practice",
    sheet: "feeds",
    check: ({ net }) => {
      const rings = groupBy(
        net.wires.flatMap(({ from, to }) => [from, to]).filter((end2) => endType(end2) === "ground"),
        (end2) => end2
      );
      return [...rings].flatMap(
        ([end2, all]) => (
          // A bolt of one's own is one bolt; the block and the body have as many as are drilled.
          all.length <= MOST_RINGS || !withId(net.parts, partAt(end2)) ? [] : [
            {
              at: end2,
              where: { type: "end", end: end2 },
              detail: `${plural(all.length, "ring")} lie under ${labelOf(net, end2)}: the uppermost hardly touch. Merge returns in a splice, or set a second bolt.`
            }
          ]
        )
      );
    }
  },
  {
    id: "LO-17",
    family: "Loom",
    severity: "fix",
    title: "Lead shorter than its route",
    source: "Route and slack against the lead that came with the ECU",
    sheet: "loom",
    check: ({ build, net }) => {
      const short = (leadsOf(build, net) ?? []).filter(({ fate }) => fate === "short");
      if (short.length === 0) return [];
      const worst = short.reduce((most2, one2) => one2.metres > most2.metres ? one2 : most2);
      return [
        {
          at: "",
          where: { type: "end", end: ecuEnd(worst.pinId) },
          detail: `${plural(short.length, "lead")} of ${readLength(build.loom.leadMetres, build)} ${short.length === 1 ? "is" : "are"} too short: ${listWords(short.slice(0, 4).map(({ pinId }) => pinId))}${short.length > 4 ? " and more" : ""}, the worst by ${readLength(worst.metres, build)} on the way to ${worst.to}. Extend them in the cabin, or take a longer loom.`
        }
      ];
    }
  },
  {
    id: "LO-18",
    family: "Loom",
    severity: "fix",
    title: "Hole with a bare edge",
    source: "A loom through sheet metal goes through a grommet or a plug on the wall; common practice",
    sheet: "loom",
    check: ({ build }) => Object.entries(build.tree.segments).flatMap(
      ([id3, { hole }]) => !hole || hole.grommet ? [] : [
        {
          at: id3,
          detail: `From ${segmentName(build, id3)} the loom passes a hole of ${readMeasure("diameter", hole.millimetres, build)} without a grommet: its edge saws through sleeve and insulation.`,
          remedy: {
            label: "A grommet is in it",
            calls: [call("setSegment", { segment: id3, changes: { hole: { ...hole, grommet: true } } })]
          }
        }
      ]
    )
  },
  {
    id: "LO-19",
    family: "Loom",
    severity: "fix",
    title: "Worn donor wire used again",
    source: "A wire is used again only while its insulation bends and its copper is bright; common practice",
    sheet: "loom",
    check: ({ build, net }) => [...reusedWires(build, net).values()].flatMap(
      ({ donor, wire, worn }) => worn ? [
        {
          at: wire.id,
          where: { type: "wire", wireId: wire.id },
          detail: `${donor.connector} ${donor.cavity} goes on to ${donor.moveTo}, and was found ${[donor.condition, donor.note].filter(Boolean).join(", ")}: cut it back to sound wire, or make it anew.`
        }
      ] : []
    )
  }
];

// core/rules/tree.ts
var HOSE_METRES = 1;
var hasTree = ({ tree }) => Object.keys(tree.nodes).length > 0;
function holesPassed(build, net) {
  const wires = wiresBySegment(net);
  const warm = warmAmps(net);
  return Object.entries(build.tree.segments).flatMap(([id3, { hole }]) => {
    if (!hole) return [];
    const { millimetres } = segmentFigures(build, id3, wires.get(id3) ?? [], warm);
    if (millimetres <= hole.millimetres) return [];
    return [
      {
        at: id3,
        detail: `From ${segmentName(build, id3)} the bundle is about ${readMeasure("thickness", millimetres, build)} in its covering; the hole is ${readMeasure("diameter", hole.millimetres, build)}.`
      }
    ];
  });
}
var insulationClasses = [85, 105, 125, 150, 175, 200, 225, 250];
function tooHot(build) {
  const { segments } = build.tree;
  const at = (id3) => readQuantity("temperature", celsiusOf(segments[id3]), build);
  const ids = Object.keys(segments);
  const bare = ids.filter((id3) => celsiusOf(segments[id3]) >= build.loom.wireCelsius);
  const sleeves = ids.filter((id3) => celsiusOf(segments[id3]) > coveringCelsius[coveringOf(build, segments[id3])]);
  const hottest = Math.max(...bare.map((id3) => celsiusOf(segments[id3])));
  const next = insulationClasses.find((celsius) => celsius > hottest);
  return [
    ...bare.map((id3) => ({
      at: id3,
      detail: `From ${segmentName(build, id3)} it is ${at(id3)}; the insulation is rated ${readQuantity("temperature", build.loom.wireCelsius, build)}.`,
      remedy: next === void 0 ? void 0 : {
        label: `Use ${readQuantity("temperature", next, build)} wire`,
        calls: [call("setLoom", { wireCelsius: next })]
      }
    })),
    ...sleeves.filter((id3) => !bare.includes(id3)).map((id3) => {
      const covering = coveringOf(build, segments[id3]);
      return {
        at: `${id3} covering`,
        title: "Covering under the zone temperature",
        severity: "fix",
        detail: `From ${segmentName(build, id3)} it is ${at(id3)}; ${coveringWords[covering]} stands ${readQuantity("temperature", coveringCelsius[covering], build)}.`,
        remedy: celsiusOf(segments[id3]) <= coveringCelsius.braid ? {
          label: "Use braid there",
          calls: [call("setSegment", { segment: id3, changes: { covering: "braid" } })]
        } : void 0
      };
    })
  ];
}
var STAGGER_MILLIMETRES = 40;
var MOST_SPLICES = 4;
var USUAL_SLACK_METRES = 0.1;
var treeRules = [
  {
    id: "LO-9",
    family: "Loom",
    severity: "fix",
    title: "Trigger cable beside what switches hard",
    source: "Trigger and knock 100 mm clear of coils, starter and alternator; common practice",
    sheet: "loom",
    check: ({ build, net }) => noiseOf(build, net).filter(
      ({ loud, screened, bundledMetres, besideMetres: besideMetres2 }) => (
        // Injectors switch little beside a screened pair: the figure is told, and nothing asked.
        (loud !== "injector" || !screened) && bundledMetres + besideMetres2 > HARMLESS_METRES
      )
    ).map(({ deviceId, label: label2, loud, bundledMetres, besideMetres: besideMetres2, segment, wire, better, screened }) => ({
      at: `${deviceId} ${loud}`,
      where: { type: "device", deviceId },
      severity: screened ? "note" : void 0,
      detail: `${label2} runs ${[
        bundledMetres > 0 ? `${readLength(bundledMetres, build)} in one bundle with` : "",
        besideMetres2 > 0 ? `${readLength(besideMetres2, build)} within ${readMeasure("thickness", 1e3 * NEAR_METRES, build)} of` : ""
      ].filter(Boolean).join(
        " and "
      )} ${loudWords[loud]}, most of it from ${segmentName(build, segment)}. ${better === null ? "Give it a way of its own." : `By ${segmentName(build, better)} it is clear of them.`}`,
      remedy: better === null ? void 0 : {
        label: `Lead it by ${segmentName(build, better)}`,
        calls: [...wholeWires(net).values()].filter(({ pieces: [one2] }) => one2.cable !== null && one2.cable === wire.cable).map(({ id: id3 }) => id3).concat(wire.cable === null ? [wire.cutOf ?? wire.id] : []).map((wireId2) => call("leadWire", { wireId: wireId2, segment: better }))
      }
    }))
  },
  {
    id: "LO-10",
    family: "Loom",
    severity: "fix",
    title: "The tree is not whole",
    source: "A wire follows a path between what it joins",
    sheet: "loom",
    check: ({ build }) => {
      if (!hasTree(build)) return [];
      const { tree } = build;
      const apart2 = piecesOf(tree);
      const rest = nowhere(build);
      const places = placesOf(tree);
      const zero = Object.entries(tree.segments).filter(([, { metres: metres4 }]) => metres4 === 0);
      const selfish = Object.entries(tree.segments).filter(([, { a, b }]) => a === b);
      return [
        ...places.has(ECU_THING) ? [] : [
          {
            at: "ecu",
            title: "The ECU stands nowhere",
            detail: "No place of the tree holds the ECU: no wire of it has a route."
          }
        ],
        ...rest.length === 0 ? [] : [
          {
            at: "nowhere",
            title: `${plural(rest.length, "device")} nowhere in the tree`,
            where: { type: "device", deviceId: rest[0].id },
            detail: `${listWords(rest.slice(0, 3).map(({ label: label2 }) => label2))}${rest.length > 3 ? ` and ${rest.length - 3} more` : ""}: their wires are as long as their branches were typed, and lie in no bundle.`,
            remedy: { label: "Place the rest", calls: [call("placeRest", {})] }
          }
        ],
        ...apart2.slice(1).map((piece2) => ({
          at: `apart ${piece2[0]}`,
          title: "The tree lies in pieces",
          detail: `${listWords(piece2.slice(0, 3).map((id3) => placeName(build, id3)))}${piece2.length > 3 ? " and more" : ""}: no piece leads there from the rest.`,
          remedy: {
            label: `Join ${placeName(build, piece2[0])} to ${placeName(build, apart2[0][0])}`,
            calls: [call("joinTreeNodes", { a: apart2[0][0], b: piece2[0] })]
          }
        })),
        ...zero.map(([id3]) => ({
          at: `zero ${id3}`,
          title: "A piece without a length",
          detail: `From ${segmentName(build, id3)} it is 0 long: measure it with a string.`
        })),
        ...selfish.map(([id3]) => ({
          at: `self ${id3}`,
          title: "A piece that leads nowhere",
          detail: `Piece ${id3} leads from ${placeName(build, tree.segments[id3].a)} back to it.`,
          remedy: { label: "Take it away", calls: [call("removeSegment", { segment: id3 })] }
        })),
        ...ringsOf(tree).filter((id3) => tree.segments[id3].a !== tree.segments[id3].b).map((id3) => ({
          at: `ring ${id3}`,
          severity: "note",
          title: "Two ways to one place",
          detail: `From ${segmentName(build, id3)} a ring is closed: wires go the shorter way round unless they are led the other.`
        }))
      ];
    }
  },
  {
    id: "LO-11",
    family: "Loom",
    severity: "fix",
    title: "Wires past a plug",
    source: "Every wire that passes a plug is parted in a cavity of it",
    sheet: "loom",
    check: ({ build, net }) => Object.entries(build.tree.nodes).flatMap(([id3, { plug }]) => {
      if (!plug) return [];
      const passing = passingWires(build, net, id3);
      const left = passing.filter((wire) => plug.wires[wire.id] === void 0);
      const free = plug.cavities - passing.length + left.length;
      const name3 = placeName(build, id3);
      const thick = net.wires.filter(
        (wire) => wire.cutOf !== null && wire.squareMm > plug.squareMm && plug.wires[wire.cutOf] !== void 0 && [wire.from, wire.to].includes(plugEnd(id3, plug.wires[wire.cutOf]))
      );
      return [
        ...left.length === 0 ? [] : [
          {
            at: id3,
            title: left.length > free ? `${name3} has too few cavities` : void 0,
            detail: left.length > free ? `${plural(passing.length, "wire")} pass ${name3}, which has ${plug.cavities} cavities: ${left.length - free} find none. Take a larger plug, or a second one.` : `${plural(left.length, "wire")} pass${left.length === 1 ? "es" : ""} ${name3} without a cavity: it cannot be unplugged.`,
            remedy: left.length > free ? void 0 : { label: "Give them cavities", calls: [call("allotPlug", { node: id3, anew: false })] }
          }
        ],
        ...thick.map((wire) => ({
          at: `${id3} ${wire.id}`,
          title: "Wire too thick for the plug",
          where: { type: "wire", wireId: wire.id },
          detail: `${name3} takes up to ${readSize(plug.squareMm, build)}; the wire from ${labelOf(net, wire.from)} to ${labelOf(net, wire.to)} is ${readSize(wire.squareMm, build)}.`,
          remedy: {
            label: `Terminals for ${readSize(wire.squareMm, build)}`,
            calls: [call("setPlug", { node: id3, changes: { squareMm: wire.squareMm } })]
          }
        }))
      ];
    })
  },
  {
    id: "LO-12",
    family: "Loom",
    severity: "fix",
    title: "No plug passes the hole",
    source: "The largest plug that must pass against the hole; common practice",
    sheet: "loom",
    check: ({ build, net }) => Object.keys(build.tree.segments).flatMap((id3) => {
      const pulling = pullingOf(build, net, id3);
      if (!pulling) return [];
      const sides = [pulling.fromA, pulling.fromB];
      if (sides.some((side) => side.every(({ millimetres }) => millimetres <= pulling.hole))) return [];
      const worst = sides.map((side) => side[0]).sort((one2, other) => one2.millimetres - other.millimetres)[0];
      return [
        {
          at: id3,
          detail: `From ${segmentName(build, id3)} the hole is ${readMeasure("diameter", pulling.hole, build)}: from neither side everything passes. ${worst.name} is ${worst.isGuess ? "about " : ""}${readMeasure("diameter", worst.millimetres, build)} across. Pull it before that plug is on, or part the loom there with a plug.`
        }
      ];
    })
  },
  {
    id: "LO-13",
    family: "Loom",
    severity: "note",
    title: "Splices at one place",
    source: "Splices 40 mm apart, or the bundle is a lump there; common practice",
    sheet: "loom",
    check: ({ build, net }) => {
      const begins = net.wires.flatMap(
        ({ from, to, route }) => [
          { end: from, segment: route[0] },
          { end: to, segment: route[route.length - 1] }
        ].flatMap(({ end: end2, segment }) => endType(end2) === "splice" && segment !== void 0 ? [{ end: end2, segment }] : [])
      );
      const lies = (segments) => {
        const ends2 = segments.flatMap((id3) => [build.tree.segments[id3].a, build.tree.segments[id3].b]);
        const counted = [...groupBy(ends2, (node) => node)].map(([node, all]) => ({ node, count: all.length }));
        const most2 = Math.max(...counted.map(({ count: count2 }) => count2));
        const [only, other] = counted.filter(({ count: count2 }) => count2 === most2);
        return other === void 0 ? `at ${placeName(build, only.node)}` : `from ${segmentName(build, segments[0])}`;
      };
      const at = [...groupBy(begins, ({ end: end2 }) => end2)].map(([end2, of]) => ({
        end: end2,
        place: lies(of.map(({ segment }) => segment))
      }));
      return [...groupBy(at, ({ place: place3 }) => place3)].flatMap(
        ([place3, all]) => all.length <= MOST_SPLICES ? [] : [
          {
            at: place3,
            where: { type: "end", end: all[0].end },
            detail: `${plural(all.length, "splice")} lie ${place3}: set each ${readMeasure("thickness", STAGGER_MILLIMETRES, build)} from the next.`
          }
        ]
      );
    }
  },
  {
    id: "LO-14",
    family: "Loom",
    severity: "fix",
    title: "No slack at a moving part",
    source: "Engine, gearbox and doors move: the wire between must not; common practice",
    sheet: "loom",
    check: ({ build }) => {
      const moving2 = Object.entries(build.tree.segments).filter(([, { zone }]) => zone === "moving");
      if (moving2.length === 0 || build.loom.slackMetres >= USUAL_SLACK_METRES) return [];
      return [
        {
          at: "",
          detail: `From ${segmentName(build, moving2[0][0])} the loom follows what moves, with ${readLength(build.loom.slackMetres, build)} of slack.`,
          remedy: {
            label: `Allow ${readLength(USUAL_SLACK_METRES, build)}`,
            calls: [call("setLoom", { slackMetres: USUAL_SLACK_METRES })]
          }
        }
      ];
    }
  },
  {
    id: "LO-15",
    family: "Loom",
    severity: "fix",
    title: "The ECU stands badly",
    source: "Dry, cool, within reach of its cable; common practice",
    sheet: "loom",
    check: ({ build, devices }) => {
      const node = placesOf(build.tree).get(ECU_THING);
      const bad = Object.entries(build.tree.segments).filter(
        ([, { a, b, zone }]) => (a === node || b === node) && (zone === "hot" || zone === "moving" || zone === "wet")
      );
      const hoses = devices.flatMap(({ device, kind: kind3 }) => {
        if (!hasRole(kind3, "manifold-hose")) return [];
        const place3 = placesOf(build.tree).get(deviceThing(device.id));
        const metres4 = node === void 0 || place3 === void 0 ? device.branchMetres : waysOf(build.tree).metres(node, place3);
        return metres4 <= HOSE_METRES || metres4 === Infinity ? [] : [
          {
            at: `hose ${device.id}`,
            where: { type: "device", deviceId: device.id },
            detail: `The hose to the ECU's own pressure sensor is ${readLength(metres4, build)} long: over ${readLength(HOSE_METRES, build)} the reading lags behind the throttle. Bring the ECU nearer, or fit a sensor at the manifold.`
          }
        ];
      });
      if (node === void 0 || bad.length === 0) return hoses;
      const [id3, segment] = bad[0];
      return [
        ...hoses,
        {
          at: "",
          detail: `From ${segmentName(build, id3)} the loom runs through ${segment.zone === "hot" ? `${readQuantity("temperature", celsiusOf(segment), build)}` : segment.zone === "wet" ? "the wet" : "what moves"}: the ECU stands in it. Put it where it is dry and cool, its lights in sight and the cable of a laptop within reach.`
        }
      ];
    }
  }
];

// core/rules/loom.ts
var USUAL_SLACK_METRES2 = 0.1;
var loomRules = [
  {
    id: "LO-1",
    family: "Loom",
    severity: "fix",
    title: "Bundle thicker than its hole",
    source: "Circles laid round the thickest; covering by common practice",
    sheet: "loom",
    check: ({ build, net }) => {
      if (hasTree(build)) return holesPassed(build, net);
      const trunk = trunkOf2(build, net).millimetres;
      return trunk <= build.loom.holeMillimetres ? [] : [
        {
          at: "",
          detail: `The trunk is about ${readMeasure("thickness", trunk, build)} in its covering; the hole is ${readMeasure("diameter", build.loom.holeMillimetres, build)}.`
        }
      ];
    }
  },
  {
    id: "LO-2",
    family: "Loom",
    severity: "stop",
    title: "Insulation under the zone temperature",
    source: "Insulation class against ambient; common practice",
    sheet: "loom",
    check: ({ build }) => hasTree(build) ? tooHot(build) : build.loom.wireCelsius > build.loom.zoneCelsius ? [] : [
      {
        at: "",
        detail: `The loom runs through ${readQuantity("temperature", build.loom.zoneCelsius, build)}; its insulation is rated ${readQuantity("temperature", build.loom.wireCelsius, build)}.`,
        remedy: build.loom.zoneCelsius < 150 ? {
          label: `Use ${readQuantity("temperature", 150, build)} wire`,
          calls: [call("setLoom", { wireCelsius: 150 })]
        } : void 0
      }
    ]
  },
  {
    id: "LO-3",
    family: "Loom",
    severity: "fix",
    title: "Sealed sleeve with nothing spare",
    source: "Nothing can be added to a sealed sleeve; common practice",
    sheet: "loom",
    check: ({ build }) => {
      const isSealed = build.loom.covering === "sealed" || Object.values(build.tree.segments).some(({ covering }) => covering === "sealed");
      if (!isSealed) return [];
      const wanted = Object.values(build.reserve).reduce((sum, count2) => sum + count2, 0);
      const spare2 = spareCount(sparesOf(build));
      if (wanted > 0 && spare2 >= wanted) return [];
      return [
        {
          at: "",
          detail: `A sealed sleeve is closed once: lay spare wires first. ${plural(spare2, "cavity", "cavities")} free, ${wanted} asked to keep.`,
          remedy: spare2 > 0 ? {
            label: `Keep ${Math.min(2, spare2)} spare`,
            calls: [call("setReserve", { kind: "any", count: Math.min(2, spare2) })]
          } : void 0
        }
      ];
    }
  },
  {
    id: "LO-4",
    family: "Loom",
    severity: "note",
    title: "Same colour and size twice in one connector",
    source: "Crossed at the bench sooner or later; common practice",
    sheet: "loom",
    check: ({ build, net }) => {
      const seen = /* @__PURE__ */ new Map();
      const connectorOf = new Map(build.ecu.pins.map((pin2) => [pin2.id, pin2.connector]));
      for (const wire of net.wires) {
        if (wire.signal === "ground") continue;
        for (const end2 of [wire.from, wire.to]) {
          const ref = endOf(end2);
          const plug = ref.of === "ecu" ? `Connector ${connectorOf.get(ref.pin)} of ${build.ecu.model}` : ref.of === "part" && ref.kind === "plug" ? placeName(build, ref.part) : null;
          if (plug === null) continue;
          const key = `${plug}|${wire.colour}|${wire.squareMm}`;
          seen.set(key, (seen.get(key) ?? /* @__PURE__ */ new Set()).add(end2));
        }
      }
      return [...seen].flatMap(([key, pins]) => {
        if (pins.size < 2) return [];
        const [plug, colour, size] = key.split("|");
        const cavities = [...pins].map((end2) => pinAt(end2) ?? portOf(end2));
        return [
          {
            at: key,
            where: { type: "end", end: [...pins][0] },
            detail: `${plug}: ${listWords(cavities)} are all ${colour} ${readSize(Number(size), build)}. Change one, or label both ends.`
          }
        ];
      });
    }
  },
  {
    id: "LO-5",
    family: "Loom",
    severity: "note",
    title: "Blank plugs missing",
    source: "Plug every empty cavity of a sealed connector; common practice",
    sheet: "loom",
    check: ({ build, net }) => {
      if (build.loom.blanksFitted) return [];
      const sealed = new Set(
        build.ecu.connectors.filter((connector) => connector.sealed).map((connector) => connector.id)
      );
      const empty = net.cavities.filter(({ pin: pin2 }) => sealed.has(pin2.connector) && !net.wiresAt.has(ecuEnd(pin2.id))).map(({ pin: pin2 }) => pin2.id);
      if (empty.length === 0) return [];
      return [
        {
          at: "",
          detail: `${plural(empty.length, "empty cavity", "empty cavities")} in a sealed connector: ${listWords(empty.slice(0, 6))}${empty.length > 6 ? " and more" : ""}. Each needs a blank plug.`,
          remedy: { label: "Blanks are fitted", calls: [call("setLoom", { blanksFitted: true })] }
        }
      ];
    }
  },
  {
    id: "LO-6",
    family: "Loom",
    severity: "stop",
    title: "Wire too thick for the terminal",
    source: "Crimp range of the connector's terminals",
    sheet: "loom",
    check: ({ build, net }) => net.wires.flatMap(
      (wire) => [wire.from, wire.to].flatMap((end2) => {
        const place3 = endType(end2) === "plug" ? null : endPlace(build, net, end2);
        const most2 = place3 ? cavitySquareMm(place3.connector, place3.cavity) : Infinity;
        if (wire.squareMm <= most2) return [];
        return [
          {
            at: wire.id,
            where: { type: "wire", wireId: wire.id },
            detail: `${labelOf(net, end2)} takes up to ${readSize(most2, build)}; its wire is ${readSize(wire.squareMm, build)}. Step down at a splice close to the plug.`
          }
        ];
      })
    )
  },
  {
    id: "LO-7",
    family: "Loom",
    severity: "note",
    title: "No service slack",
    source: "Length = route + slack + termination; common practice",
    sheet: "loom",
    check: ({ build }) => build.loom.slackMetres >= 0.05 ? [] : [
      {
        at: "",
        detail: `${readLength(build.loom.slackMetres, build)} of slack: no terminal can ever be cut off and crimped again.`,
        remedy: {
          label: `Allow ${readLength(USUAL_SLACK_METRES2, build)}`,
          calls: [call("setLoom", { slackMetres: USUAL_SLACK_METRES2 })]
        }
      }
    ]
  },
  {
    id: "LO-8",
    family: "Loom",
    severity: "fix",
    title: "Twin connectors unlabelled",
    source: "Identical plugs within reach are crossed sooner or later; common practice",
    sheet: "loom",
    check: ({ build, devices }) => twinsOf(build.engine, devices).flatMap((group) => {
      const bare = group.filter(({ device }) => !device.labelled);
      if (bare.length === 0) return [];
      return [
        {
          at: group[0].kind.id,
          where: { type: "device", deviceId: bare[0].device.id },
          detail: `${plural(group.length, "plug")} of one kind (${inSentence(group[0].kind.name)}) fit each other: label both halves, key them, or cut the branches to different lengths.`,
          remedy: {
            label: "They are labelled",
            calls: bare.map(({ device }) => call("editDevice", { deviceId: device.id, labelled: true }))
          }
        }
      ];
    })
  },
  ...treeRules,
  ...keepRules
];

// core/engine/fuel.ts
var fuelDensity = { petrol: 0.745, e85: 0.781, ethanol: 0.789, methanol: 0.791 };
var flowAtPressure = (flowCcPerMinute, atKpa, kpa) => flowCcPerMinute * Math.sqrt(Math.max(0, kpa) / atKpa);
var fuelDemand = (data) => data.powerKw * data.bsfc / fuelDensity[data.fuel] / 60;
var requiredFlow = (data, count2) => fuelDemand(data) / (count2 * data.maxDuty);
var shotsPerCycle = (engine2) => cycleDegrees(engine2) / eventSpan(engine2, "injector");
function meanInjector(fitted2, data) {
  const [first2] = fitted2;
  const flow = fitted2.reduce((sum, one2) => sum + flowAtPressure(one2.flowCcPerMinute, one2.atKpa, data.railKpa), 0) / fitted2.length;
  const slowest = fitted2.reduce(
    (slow, one2) => (atVolts(one2.dead, DEAD_VOLTS) ?? 0) > (atVolts(slow.dead, DEAD_VOLTS) ?? 0) ? one2 : slow
  );
  return { ...first2, flowCcPerMinute: flow, atKpa: data.railKpa, dead: slowest.dead };
}
var DEAD_VOLTS = 13.5;
function injectorFigures(engine2, data, injector3, count2, volts3 = 13.5) {
  const flow = flowAtPressure(injector3.flowCcPerMinute, injector3.atKpa, data.railKpa);
  const demand = fuelDemand(data);
  const dead = atVolts(injector3.dead, volts3);
  const cycleMs = cycleDegrees(engine2) / 360 * 6e4 / engine2.maxRpm / shotsPerCycle(engine2);
  const flowing2 = demand / (count2 * flow) * cycleMs;
  const pulse = flowing2 + (dead ?? 0);
  const open = data.maxDuty * cycleMs - (dead ?? 0);
  const fed = Math.max(0, open / cycleMs * count2 * flow);
  return {
    count: count2,
    acrossKpa: data.railKpa,
    flowCcPerMinute: flow,
    demandCcPerMinute: demand,
    requiredCcPerMinute: requiredFlow(data, count2),
    duty: pulse / cycleMs,
    pulseMilliseconds: pulse,
    deadMilliseconds: dead,
    powerKw: fed * 60 * fuelDensity[data.fuel] / data.bsfc,
    ampsAt13: volts3 / injector3.ohms
  };
}

// core/units/eseries.ts
var E24 = [
  1,
  1.1,
  1.2,
  1.3,
  1.5,
  1.6,
  1.8,
  2,
  2.2,
  2.4,
  2.7,
  3,
  3.3,
  3.6,
  3.9,
  4.3,
  4.7,
  5.1,
  5.6,
  6.2,
  6.8,
  7.5,
  8.2,
  9.1
];
function decade(series) {
  if (series <= 24) return E24.filter((_, index) => index % (24 / series) === 0);
  return Array.from({ length: series }, (_, index) => {
    const value = Math.round(100 * 10 ** (index / series)) / 100;
    return series === 192 && value === 9.19 ? 9.2 : value;
  });
}
function preferredOhms(ohms2, series = 24, rule = "nearest") {
  if (!(ohms2 > 0)) throw new RangeError("preferredOhms: ohms must be above 0");
  const power = 10 ** Math.floor(Math.log10(ohms2) + 1e-12);
  const values = [...decade(series), 10].map((value) => value * power);
  const tolerance = 1e-9 * ohms2;
  const found2 = rule === "at-least" ? values.find((value) => value >= ohms2 - tolerance) : values.reduce(
    (best, value) => Math.abs(Math.log(value / ohms2)) < Math.abs(Math.log(best / ohms2)) ? value : best
  );
  return Number(found2.toPrecision(3));
}

// core/rules/order.ts
var workedApart = (need) => need.joined.length > 0 && need.outputs?.length === 0;
var orderRules = [
  {
    id: "OE-1",
    family: "Order",
    severity: "stop",
    title: "Output works the wrong cylinder",
    source: "ECU maker's output numbering; common practice",
    sheet: "allot",
    check: ({ build, net }) => {
      const apart2 = new Set(net.needs.filter(workedApart).map(({ id: id3 }) => id3));
      const wrong = outputUses(build, net.needs).filter(
        ({ right, wiredTo, needId }) => !right && !apart2.has(needId) && (build.engine.ignition !== "direct" || wiredTo.cylinders.length === 1)
      );
      if (wrong.length === 0) return [];
      const school = build.outputOrder === "in-turn" ? `fires its outputs in turn, so they follow ${build.engine.firingOrder.join("-")}` : "numbers its outputs by cylinder";
      const shown = wrong.slice(0, 3).map(
        (use) => `${use.kind} output ${use.output} is wired to ${workWords(build.engine, use.kind, use.wiredTo)}, meant for ${workWords(build.engine, use.kind, use.means)}`
      );
      return [
        {
          at: "",
          detail: `This ECU ${school}: ${listWords(shown)}${wrong.length > 3 ? `, and ${wrong.length - 3} more` : ""}.`,
          where: { type: "need", needId: wrong[0].needId },
          remedy: {
            label: wrong.some((use) => build.locked.includes(use.needId)) ? "Unlock them and allot by this order" : "Allot by this order",
            calls: [
              ...wrong.filter((use) => build.locked.includes(use.needId)).map((use) => call("lock", { needId: use.needId, locked: false })),
              // Taken off their pins first: what is crimped would else be left where it is.
              ...wrong.map((use) => call("unassign", { needId: use.needId })),
              call("allotAll", { keep: "locked" })
            ]
          }
        }
      ];
    }
  },
  {
    id: "OE-2",
    family: "Order",
    severity: "stop",
    title: "Sequential without phase",
    source: "Four-stroke cycle geometry: a crank signal alone repeats every 360\xB0",
    sheet: "trigger",
    check: ({ build }) => {
      const fit = fitTrigger(build.ecu, build.engine, build.trigger.crankWheel, build.trigger.camWheel);
      if (build.engine.injection !== "sequential" || fit.knows !== "angle") return [];
      return [
        {
          at: "",
          detail: "Sequential injection needs the place in the full cycle, and there is no cam signal that tells it.",
          remedy: {
            label: "Inject in pairs instead",
            calls: [call("setEngine", { engine: { ...build.engine, injection: "semi-sequential" } })]
          }
        }
      ];
    }
  },
  {
    id: "OE-5",
    family: "Order",
    severity: "fix",
    title: "Dwell does not fit at top speed",
    source: "dwell \u2264 event interval \u2212 burn time; burn 1 ms is common practice",
    sheet: "trigger",
    check: ({ build, devices }) => {
      const coils = devices.flatMap(({ kind: kind3 }) => trait(kind3, "coil") ?? []);
      if (coils.length === 0) return [];
      const serves = Math.max(...coils.map((coil) => coil.serves));
      const interval = eventDegrees(sparkedEngine(build), serves) / (build.engine.maxRpm * 6e-3);
      const room = interval - BURN_MILLISECONDS;
      const dwell2 = build.trigger.dwellMilliseconds;
      if (dwell2 <= room) return [];
      return [
        {
          at: "",
          detail: `At ${build.engine.maxRpm} rpm a coil's events are ${interval.toFixed(1)} ms apart; ${dwell2} ms dwell leaves ${(interval - dwell2).toFixed(1)} ms to burn, ${BURN_MILLISECONDS} ms is needed.`,
          remedy: room > 0.5 ? {
            label: `Use ${Math.floor(room * 10) / 10} ms`,
            calls: [call("setTrigger", { dwellMilliseconds: Math.floor(room * 10) / 10 })]
          } : void 0
        }
      ];
    }
  },
  {
    id: "OE-6",
    family: "Order",
    severity: "stop",
    title: "Cylinder without coil or injector",
    source: "Counting",
    sheet: "survey",
    check: ({ build, devices }) => ["coil", "injector"].flatMap((type) => {
      const { engine: engine2 } = build;
      if (type === "injector" && engine2.injection === "none") return [];
      if (type === "coil" && engine2.ignition === "distributor") return [];
      const use = type === "coil" ? "ignition" : "injector";
      const fitted2 = devices.filter(({ kind: kind3 }) => trait(kind3, type));
      const rows = rowsOf(engine2, use);
      const served = (row, cylinder) => fitted2.filter(({ device }) => device.row === row && device.serves.includes(cylinder)).length;
      const places = Array.from({ length: rows }, (_, at) => at + 1).flatMap(
        (row) => engine2.firingOrder.map((cylinder) => ({ row, cylinder, count: served(row, cylinder) }))
      );
      const words3 = (some) => [...new Set(some.map(({ row }) => row))].map(
        (row) => workWords(engine2, use, {
          cylinders: some.filter((one2) => one2.row === row).map(({ cylinder }) => cylinder),
          row
        })
      ).join("; ");
      const without3 = places.filter(({ count: count2 }) => count2 === 0);
      const twice = places.filter(({ count: count2 }) => count2 > 1);
      const beyond = fitted2.filter(
        ({ device }) => device.row > rows || device.serves.some((cylinder) => cylinder > engine2.cylinders)
      );
      const found2 = [];
      if (without3.length > 0)
        found2.push({
          at: type,
          severity: fitted2.length === 0 ? "fix" : "stop",
          title: `Cylinder without ${type}`,
          detail: fitted2.length === 0 ? `No ${type} is on the list yet; ${plural(places.length, "place")} for one.` : `No ${type} serves ${words3(without3)}.`
        });
      if (twice.length > 0)
        found2.push({
          at: `${type} twice`,
          title: `More than one ${type} for a cylinder`,
          detail: `More than one ${type} serves ${words3(twice)}. ${rows === 1 ? `If there are two ${type === "coil" ? "plugs a chamber" : "injectors a cylinder"}, say so of the engine.` : "Name for each which of the two it is."}`,
          where: {
            type: "device",
            deviceId: fitted2.filter(
              ({ device }) => device.row === twice[0].row && device.serves.includes(twice[0].cylinder)
            )[1].device.id
          }
        });
      for (const { device } of beyond)
        found2.push({
          at: device.id,
          title: `More ${type}s than cylinders`,
          detail: `${device.label} serves ${workWords(engine2, use, { cylinders: device.serves, row: 1 })}${device.row > rows ? `, as the second ${type} of it` : ""}; this engine has ${plural(engine2.cylinders, "cylinder")} with ${rows === 1 ? "one" : "two"} each.`,
          where: { type: "device", deviceId: device.id }
        });
      return found2;
    })
  },
  {
    id: "OE-7",
    family: "Order",
    severity: "stop",
    title: "Low-impedance injector on a saturated driver",
    source: "Ohm's law at 13.5 V against the driver's limit",
    sheet: "survey",
    check: ({ build, devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      const injector3 = trait(kind3, "injector");
      if (!injector3) return [];
      const drivers = build.ecu.pins.flatMap((pin2) => pin2.abilities.filter((ability) => ability.kind === "injector"));
      if (drivers.length === 0 || drivers.some((driver) => (driver.minOhms ?? 0) <= injector3.ohms)) return [];
      const least = Math.min(...drivers.map((driver) => driver.minOhms ?? 0));
      return [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label} has ${formatOhms(injector3.ohms)}, so ${(13.5 / injector3.ohms).toFixed(1)} A at 13.5 V; these drivers stand ${formatOhms(least)} and more. A ballast resistor of ${formatOhms(preferredOhms(least - injector3.ohms, 12, "at-least"))} each (E12), or peak-and-hold drivers.`
        }
      ];
    })
  },
  {
    id: "OE-8",
    family: "Order",
    severity: "note",
    title: "Injector data missing",
    source: "Dead time depends on battery voltage; common practice",
    sheet: "survey",
    check: ({ devices }) => {
      const blank = devices.filter(({ kind: kind3 }) => trait(kind3, "injector")?.dead.length === 0);
      if (blank.length === 0) return [];
      return [
        {
          at: "",
          where: { type: "device", deviceId: blank[0].device.id },
          detail: `${listWords(blank.slice(0, 3).map(({ device }) => device.label))}: no dead time known, so fuel at idle and at low battery will be wrong.`
        }
      ];
    }
  },
  {
    id: "OE-14",
    family: "Order",
    severity: "stop",
    title: "On one output, and not worked together",
    source: "Firing angles: one output works all that hangs on it at one time",
    sheet: "allot",
    check: ({ build, net }) => net.needs.filter(workedApart).map((need) => {
      const work = workOf(need.ask);
      const pairs = build.engine.injection === "sequential" && work === "injector";
      const inPairs = { ...build.engine, injection: "semi-sequential" };
      const meet = pairs && firedTogether(inPairs, work).some((set) => need.serves.every((cylinder) => set.includes(cylinder)));
      return {
        at: need.id,
        where: { type: "need", needId: need.id },
        detail: `${need.label} hang on one output, and ${build.engine.name} works them at different times${pairs ? ": sequential injection opens each alone" : ""}.`,
        remedy: meet ? { label: "Inject in pairs", calls: [call("setEngine", { engine: inPairs })] } : {
          label: "Give each an output of its own",
          calls: need.joined.map(({ id: id3 }) => call("joinOutput", { needId: id3, leadId: null }))
        }
      };
    })
  },
  {
    id: "OE-9",
    family: "Order",
    severity: "stop",
    title: "Output number past the last cylinder",
    source: "ECU maker's output numbering",
    sheet: "allot",
    check: ({ build, net }) => net.needs.flatMap((need) => {
      const pin2 = withId(build.ecu.pins, build.assignments[need.id]);
      const output2 = pin2 && serve(pin2, need.ask).ability?.output;
      const work = workOf(need.ask);
      if (work === null || need.outputs === null || output2 === void 0) return [];
      const last = build.engine.cylinders * rowsOf(build.engine, work);
      if (output2 <= last) return [];
      return [
        {
          at: need.id,
          where: { type: "need", needId: need.id },
          detail: `${need.label} is on output ${output2}; an engine of ${plural(build.engine.cylinders, "cylinder")}${last > build.engine.cylinders ? " with two each" : ""} uses outputs 1 to ${last}, so it never fires.`
        }
      ];
    })
  },
  {
    id: "OE-10",
    family: "Order",
    severity: "fix",
    title: "Injectors too small for the power goal",
    source: "power \xD7 BSFC / (count \xD7 duty); flow by the root of the pressure ratio (Bernoulli)",
    sheet: "survey",
    check: ({ build, devices }) => {
      const fitted2 = devices.flatMap(({ kind: kind3 }) => trait(kind3, "injector") ?? []);
      if (fitted2.length === 0 || build.engine.injection === "none") return [];
      const figures = injectorFigures(build.engine, build.fuel, meanInjector(fitted2, build.fuel), fitted2.length);
      if (figures.duty <= build.fuel.maxDuty) return [];
      return [
        {
          at: "",
          detail: `${readMeasure("power", build.fuel.powerKw, build)} ask for ${readMeasure("flow", figures.requiredCcPerMinute, build)} each; these give ${readMeasure("flow", figures.flowCcPerMinute, build)} at the rail's pressure, so they would be open ${(figures.duty * 100).toFixed(0)} % of the time, ${(build.fuel.maxDuty * 100).toFixed(0)} % is the limit. They feed ${readMeasure("power", figures.powerKw, build)}.`,
          remedy: figures.powerKw >= 1 ? {
            label: `Aim for ${readMeasure("power", Math.floor(figures.powerKw), build)}`,
            calls: [call("setFuel", { powerKw: Math.floor(figures.powerKw) })]
          } : void 0
        }
      ];
    }
  }
];

// core/allot/pinning.ts
function staleCrimps(build, net) {
  return Object.keys(build.pinning.done).flatMap((wireId2) => {
    if (net.wireById.has(wireId2) || isFarPin(wireId2)) return [];
    const ends2 = endsOfWire(wireId2);
    const own2 = ends2?.find((end2) => pinAt(end2) !== null);
    const far2 = ends2?.find((end2) => end2 !== own2);
    return own2 === void 0 ? [] : [{ wireId: wireId2, pinId: pinAt(own2), was: far2 === void 0 ? "" : labelOf(net, far2) }];
  });
}

// core/rules/pins.ts
var pinRules = [
  {
    id: "PL-7",
    family: "Plan",
    severity: "stop",
    title: "One timer, two frequencies",
    source: "The ECU's own groups; outputs of one timer pulse at one frequency",
    sheet: "allot",
    check: ({ build, net }) => {
      const holder = new Map(net.needs.map((need) => [build.assignments[need.id], need]));
      return build.ecu.groups.flatMap((group) => {
        if (group.type !== "timer") return [];
        const running = group.pins.flatMap((id3) => {
          const need = holder.get(id3);
          return need && pulses(need.ask) ? [{ id: id3, need }] : [];
        });
        if (new Set(running.map(({ need }) => need.ask.hz)).size < 2) return [];
        return [
          {
            at: group.name,
            where: { type: "end", end: ecuEnd(running[0].id) },
            detail: `${group.name}: ${listWords(running.map(({ id: id3, need }) => `${need.label} on ${id3} asks ${need.ask.hz} Hz`))}.`,
            remedy: {
              label: "Allot them anew",
              calls: [
                ...running.filter(({ need }) => !build.locked.includes(need.id)).map(({ need }) => call("unassign", { needId: need.id })),
                call("allotAll", { keep: "placed" })
              ]
            }
          }
        ];
      });
    }
  },
  {
    id: "PL-8",
    family: "Plan",
    severity: "stop",
    title: "Group of pins over its current",
    source: "The ECU's own groups",
    sheet: "allot",
    check: ({ build, net }) => {
      const holder = new Map(net.needs.map((need) => [build.assignments[need.id], need]));
      return build.ecu.groups.flatMap((group) => {
        if (group.type !== "budget") return [];
        const users = group.pins.flatMap((id3) => holder.get(id3) ?? []);
        const amps2 = users.reduce((sum, { ask }) => sum + (ask.amps ?? 0), 0);
        if (amps2 <= group.amps + 1e-9) return [];
        return [
          {
            at: group.name,
            where: { type: "end", end: ecuEnd(group.pins[0]) },
            detail: `${group.name} carries ${formatAmps(group.amps)} together; ${listWords(users.map((need) => need.label))} ask ${formatAmps(amps2)}.`
          }
        ];
      });
    }
  },
  {
    id: "PL-9",
    family: "Plan",
    severity: "stop",
    title: "Either this or that, not both",
    source: "The ECU's own groups",
    sheet: "allot",
    check: ({ build, net }) => {
      const holder = new Map(net.needs.map((need) => [build.assignments[need.id], need]));
      return build.ecu.groups.flatMap((group) => {
        if (group.type !== "either") return [];
        const used = group.sides.flatMap((side) => {
          const id3 = side.find((one2) => holder.has(one2));
          return id3 === void 0 ? [] : [`${holder.get(id3).label} on ${id3}`];
        });
        if (used.length < 2) return [];
        return [
          {
            at: group.name,
            where: { type: "end", end: ecuEnd(group.sides[0][0]) },
            detail: `${group.name}: ${listWords(used)} exclude one another.`
          }
        ];
      });
    }
  },
  {
    id: "PL-10",
    family: "Plan",
    severity: "fix",
    title: "Placed where you said 'never'",
    source: "The builder's own wish",
    sheet: "allot",
    check: ({ build, net }) => {
      const never = barredPins(build);
      return net.needs.flatMap((need) => {
        const pinId = build.assignments[need.id];
        if (pinId === void 0 || !(never(null, pinId) || never(need.id, pinId))) return [];
        return [
          {
            at: need.id,
            where: { type: "need", needId: need.id },
            detail: `${need.label} is on ${pinId}, which you keep ${never(null, pinId) ? "empty" : "from it"}.`,
            remedy: {
              label: `Free ${pinId}`,
              calls: [call("lock", { needId: need.id, locked: false }), call("unassign", { needId: need.id })]
            }
          }
        ];
      });
    }
  },
  {
    id: "PL-11",
    family: "Plan",
    severity: "fix",
    title: "Crimped wire no longer planned",
    source: "A changed end makes a new wire; what sits in the cavity is the old one",
    sheet: "allot",
    check: ({ build, net }) => {
      const stale = staleCrimps(build, net);
      if (stale.length === 0) return [];
      return [
        {
          at: "",
          where: { type: "end", end: ecuEnd(stale[0].pinId) },
          detail: `${plural(stale.length, "cavity", "cavities")} ${stale.length === 1 ? "holds" : "hold"} a wire that was clicked in and is not in the plan any more: ${listWords(stale.slice(0, 4).map(({ pinId, was }) => `${pinId} (was to ${was})`))}${stale.length > 4 ? " and more" : ""}. Take it out, or put the need back.`,
          remedy: {
            label: "They are taken out",
            calls: [call("uncrimp", { wireIds: stale.map(({ wireId: wireId2 }) => wireId2) })]
          }
        }
      ];
    }
  }
];

// core/rules/plan.ts
var wrongTitles = {
  right: "",
  open: "Wire reads open",
  high: "Wire reads too high",
  joined: "Two wires are joined",
  leak: "Leak between two wires",
  "below-leads": "Reading below the meter leads",
  "wrong-cylinder": "Output works another cylinder"
};
function plainlyOpen(build, net, need) {
  const fits = freeFits(build, need, net.needs);
  const sure = fits.find((pinId) => isFreeToTake(build.ecu, need, pinId));
  return {
    at: need.id,
    title: `${need.label} has no pin`,
    detail: sure !== void 0 ? `Not placed yet: ${listWords(fits)} would do.` : fits.length > 0 ? `Not placed yet: ${listWords(fits)} might do; what their pairs and groups allow is being worked out.` : "No free pin can be it; whether others could make room is being worked out.",
    where: { type: "need", needId: need.id },
    remedy: sure === void 0 ? void 0 : { label: `Place it on ${fits[0]}`, calls: [call("assign", { needId: need.id, pinId: fits[0] })] },
    waits: true
  };
}
var planRules = [
  {
    id: "PL-12",
    family: "Plan",
    severity: "stop",
    title: "Reading on sheet 6 not right",
    source: "A reading stands until the wire reads right; common practice",
    sheet: "prove",
    check: ({ build, proof }) => {
      if (Object.keys(build.prove.readings).length === 0) return [];
      return proof().wrongReadings.map(({ test, verdict: verdict2, wireIds: wireIds2 }) => ({
        at: test.id,
        title: wrongTitles[verdict2.code],
        severity: ["high", "leak", "below-leads"].includes(verdict2.code) ? "fix" : void 0,
        detail: `${test.title}: ${verdict2.sentence}`,
        where: wireIds2[0] === void 0 ? { type: "end", end: test.hold } : { type: "wire", wireId: wireIds2[0] }
      }));
    }
  },
  {
    id: "PL-1",
    family: "Plan",
    severity: "stop",
    title: "Need without a pin",
    source: "Capabilities of the ECU's pins",
    sheet: "allot",
    check: ({ build, net, beside }) => {
      const open = net.needs.filter((need) => build.assignments[need.id] === void 0);
      if (open.length === 0) return [];
      if (open.length > MOST_TOLD)
        return [
          {
            at: "",
            title: `${open.length} needs without a pin`,
            detail: `${listWords(open.slice(0, 3).map((need) => need.label))} and ${open.length - 3} more are not placed yet.`,
            where: { type: "need", needId: open[0].id },
            remedy: { label: "Allot the rest", calls: [call("allotAll", { keep: "placed" })] }
          }
        ];
      return open.map((need) => {
        const why = beside?.open[need.id];
        if (!why) return plainlyOpen(build, net, need);
        return {
          at: need.id,
          title: `${need.label} has no pin`,
          detail: why.reason,
          where: { type: "need", needId: need.id },
          remedy: why.fits.length > 0 && need.pair === null ? {
            label: `Place it on ${why.fits[0]}`,
            calls: [call("assign", { needId: need.id, pinId: why.fits[0] })]
          } : why.conflict === null ? { label: "Make room for it", calls: [call("allotAll", { keep: "most" })] } : void 0
        };
      });
    }
  },
  {
    id: "PL-2",
    family: "Plan",
    severity: "stop",
    title: "Pin cannot serve its need",
    source: "Capabilities of the ECU's pins",
    sheet: "allot",
    check: ({ build, net }) => net.needs.flatMap((need) => {
      const pinId = build.assignments[need.id];
      if (pinId === void 0) return [];
      const pin2 = withId(build.ecu.pins, pinId);
      const miss = pin2 ? serve(pin2, need.ask).miss : null;
      if (pin2 && !miss) return [];
      return [
        {
          at: need.id,
          where: { type: "need", needId: need.id },
          detail: pin2 ? `${need.label}: ${pin2.id} ${missSentence(miss, need.ask)}.` : `${need.label} is on ${pinId}, which ${build.ecu.model} does not have.`,
          remedy: {
            label: `Free ${pinId}`,
            calls: [call("lock", { needId: need.id, locked: false }), call("unassign", { needId: need.id })]
          }
        }
      ];
    })
  },
  {
    id: "PL-3",
    family: "Plan",
    severity: "stop",
    title: "Pin used twice",
    source: "One cavity, one terminal",
    sheet: "allot",
    check: ({ build, net }) => {
      const holders = /* @__PURE__ */ new Map();
      for (const need of net.needs) {
        const pinId = build.assignments[need.id];
        if (pinId !== void 0) holders.set(pinId, [...holders.get(pinId) ?? [], need.id]);
      }
      return [...holders].flatMap(([pinId, ids]) => {
        if (ids.length < 2) return [];
        const labels = ids.map((id3) => withId(net.needs, id3).label);
        return [
          {
            at: pinId,
            where: { type: "end", end: ecuEnd(pinId) },
            detail: `${pinId} is planned for ${listWords(labels)}.`,
            remedy: { label: `Keep ${labels[0]}`, calls: ids.slice(1).map((needId) => call("unassign", { needId })) }
          }
        ];
      });
    }
  },
  {
    id: "PL-4",
    family: "Plan",
    severity: "stop",
    title: "Pair split",
    source: "A half-bridge or differential input works as a pair only",
    sheet: "allot",
    check: ({ build, net }) => {
      const groups = /* @__PURE__ */ new Map();
      for (const need of net.needs) if (need.pair) groups.set(need.pair, [...groups.get(need.pair) ?? [], need]);
      return [...groups].flatMap(([pair, needs]) => {
        const pins = needs.map((need) => withId(build.ecu.pins, build.assignments[need.id]));
        const pairAt = (pin2, need) => serve(pin2, need.ask).ability?.pair ?? pin2.id;
        if (pins.some((pin2) => !pin2) || new Set(pins.map((pin2, i) => pairAt(pin2, needs[i]))).size === 1) return [];
        return [
          {
            at: pair,
            where: { type: "need", needId: needs[0].id },
            detail: `${listWords(needs.map((need) => need.label))} belong on one pair of the ECU; they are on ${listWords(pins.map((pin2) => pin2.id))}.`,
            remedy: {
              label: "Allot them anew",
              calls: [
                ...needs.map((need) => call("unassign", { needId: need.id })),
                call("allotAll", { keep: "placed" })
              ]
            }
          }
        ];
      });
    }
  },
  {
    id: "PL-5",
    family: "Plan",
    severity: "note",
    title: "Fewer spares than you asked for",
    source: "The builder's own wish",
    sheet: "allot",
    check: ({ build, net }) => {
      const short = shortfalls(build, net.needs);
      return short.length === 0 ? [] : [{ at: "", detail: `${shortfallWords(short)}.` }];
    }
  },
  {
    id: "PL-6",
    family: "Plan",
    severity: "fix",
    title: "Wire changed since it was proved",
    source: "A changed end makes a new wire, and no wire is taken on trust: common practice",
    sheet: "prove",
    check: ({ build, proof }) => {
      if (Object.keys(build.prove.readings).length === 0) return [];
      const { fallen } = proof();
      if (fallen.length === 0) return [];
      return [
        {
          at: "",
          detail: `${plural(fallen.length, "reading belongs", "readings belong")} to a wire that is no longer in the plan: ${listWords(fallen.slice(0, 3).map(({ reading: reading2 }) => reading2.title))}${fallen.length > 3 ? " and more" : ""}. Test the new wires.`,
          remedy: {
            label: "Drop the old readings",
            calls: [call("clearReading", { testIds: fallen.map(({ testId }) => testId) })]
          }
        }
      ];
    }
  }
];

// core/power/total.ts
var runningAmps = (net) => net.power.flows.draws.reduce((sum, { end: end2, load }) => {
  const kind3 = net.deviceOf.get(deviceAt(end2) ?? "")?.kind;
  return sum + (kind3 && hasRole(kind3, "starter") ? 0 : load?.amps ?? WINDING_AMPS);
}, 0);
var ALTERNATOR_SHARE = 0.8;
var ALTERNATOR_AT_IDLE = 0.5;
var RATING_STEP = 5;
var alternatorFor = (amps2) => Math.ceil(amps2 / ALTERNATOR_SHARE / RATING_STEP) * RATING_STEP;

// core/rules/power.ts
var USED_SHARE = 0.8;
var powerRules = [
  {
    id: "PW-5",
    family: "Power",
    severity: "stop",
    title: "Output over its current limit",
    source: "ECU maker's limit; relay winding 90 \u03A9 at 13 V",
    sheet: "allot",
    check: ({ build, net }) => net.needs.flatMap((need) => {
      const pin2 = withId(build.ecu.pins, build.assignments[need.id]);
      if (!pin2) return [];
      const winding = need.winding !== null ? 13 / RELAY_WINDING_OHMS : 0;
      const amps2 = Math.max(need.ask.amps ?? 0, winding);
      const limits = pin2.abilities.filter((ability) => ability.kind === need.ask.kind).flatMap((ability) => ability.maxAmps ?? []);
      if (limits.length === 0 || amps2 <= Math.max(...limits)) return [];
      return [
        {
          at: need.id,
          where: { type: "need", needId: need.id },
          detail: `${need.label} draws ${formatAmps(amps2)}; ${pin2.id} stands ${formatAmps(Math.max(...limits))}.`
        }
      ];
    })
  },
  {
    id: "PW-8",
    family: "Power",
    severity: "stop",
    title: "Fewer grounds than the ECU asks for",
    source: "ECU maker's ground count",
    sheet: "feeds",
    check: ({ build }) => {
      const count2 = groundPins(build).power.length;
      return count2 >= build.ecu.groundsAsked ? [] : [
        {
          at: "",
          detail: `${build.ecu.model} asks for ${build.ecu.groundsAsked} power grounds; ${plural(count2, "pin")} ${count2 === 1 ? "is" : "are"} wired as one.`
        }
      ];
    }
  },
  {
    id: "PW-9",
    family: "Power",
    severity: "stop",
    title: "Igniter ground shared with the sensors",
    source: "Coil current in a shared return; common practice",
    sheet: "feeds",
    check: ({ devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      if (!trait(kind3, "coil") && !trait(kind3, "igniter")) return [];
      return kind3.terminals.flatMap(
        (terminal) => destinationOf(device, terminal).to === "sensor-ground" ? [
          {
            at: terminalId(device.id, terminal.id),
            where: { type: "device", deviceId: device.id },
            detail: `${device.label} returns its primary current through the ECU's sensor ground: every spark lands in every reading and in the crank signal.`,
            remedy: {
              label: "Ground it at the engine block",
              calls: [
                call("setDestination", {
                  deviceId: device.id,
                  terminalId: terminal.id,
                  destination: { to: "ground", place: "head" }
                })
              ]
            }
          }
        ] : []
      );
    })
  },
  {
    id: "PW-11",
    family: "Power",
    severity: "note",
    title: "Alternator lamp path missing",
    source: "Through the warning lamp, or about 470 \u03A9 to the switched feed; common practice",
    sheet: "survey",
    check: ({ build, devices }) => build.power.charging === "none" || devices.some(({ kind: kind3 }) => hasRole(kind3, "alternator")) ? [] : [
      {
        at: "",
        detail: "No alternator on the list: its lamp terminal needs the warning lamp, or about 470 \u03A9 to the switched feed, to start charging. An engine that charges nothing is told so on sheet 1."
      }
    ]
  },
  {
    id: "PW-12",
    family: "Power",
    severity: "stop",
    title: "Coil hangs on a supply without a ground",
    source: "A coil with igniter needs its ground at the engine; common practice",
    sheet: "survey",
    check: ({ build, net, devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      const coil = trait(kind3, "coil");
      if (!coil?.igniter) return [];
      const grounded = kind3.terminals.some(
        (terminal) => ["ground", "sensor-ground"].includes(destinationOf(device, terminal).to)
      );
      const fed = kind3.terminals.some((terminal) => destinationOf(device, terminal).to === "feed");
      const need = net.needsOf.get(device.id)?.[0];
      const served = need && build.ecu.pins.some((pin2) => serve(pin2, need.ask).ability);
      if (!served || grounded && fed) return [];
      return [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label} has no ${grounded ? "feed" : "ground"} in the plan: it cannot spark.`
        }
      ];
    })
  },
  {
    id: "PW-13",
    family: "Power",
    severity: "note",
    title: "Nothing charges the battery",
    source: "Capacity \xD7 depth / current; four fifths of it used, without Peukert\u2019s loss: common practice",
    sheet: "feeds",
    check: ({ build, net, devices }) => {
      if (build.power.charging !== "none") return [];
      const charger = devices.find(({ kind: kind3 }) => hasRole(kind3, "alternator"));
      const amps2 = runningAmps(net);
      const minutes = Math.floor(build.power.batteryAh * USED_SHARE / amps2 * 60);
      return [
        charger ? {
          at: "",
          severity: "fix",
          title: "An alternator, and nothing charges",
          where: { type: "device", deviceId: charger.device.id },
          detail: `Sheet 1 says that nothing charges the battery, and ${charger.device.label} is on the list.`,
          remedy: { label: "It charges", calls: [call("setPower", { charging: "alternator" })] }
        } : {
          at: "",
          detail: `With everything on, ${formatAmps(amps2)} of a ${build.power.batteryAh} Ah battery: ${minutes < 120 ? `${minutes} minutes` : `${(minutes / 60).toFixed(1)} hours`} until four fifths are gone. Then spark and injectors weaken first.`
        }
      ];
    }
  }
];

// core/rules/rule.ts
var brokenCheck = (rule, error) => ({
  id: `${rule.id}:broken`,
  rule: rule.id,
  severity: "fix",
  title: "A check could not be made",
  detail: `"${rule.title}" stopped at something it did not expect: ${error instanceof Error ? error.message : String(error)}. What it would have found is not known; look at it by hand.`,
  source: "a fault of Gonyx, not of the build",
  sheet: rule.sheet,
  where: null,
  remedy: null,
  aside: null,
  before: null
});
function runRule(rule, context) {
  let hits;
  try {
    hits = rule.check(context);
  } catch (error) {
    return [brokenCheck(rule, error)];
  }
  return hits.map((hit) => ({
    id: hit.at ? `${rule.id}:${hit.at}` : rule.id,
    rule: rule.id,
    severity: hit.severity ?? rule.severity,
    title: hit.title ?? rule.title,
    detail: hit.detail,
    source: rule.source,
    sheet: rule.sheet,
    where: hit.where ?? null,
    remedy: hit.remedy ?? null,
    aside: null,
    before: null,
    ...hit.waits ? { waits: true } : {}
  }));
}

// core/rules/sensors.ts
var RANGE_RESERVE = 1.1;
var USUAL_PULL_UP_OHMS = 2490;
var hasSide = (kind3) => trait(kind3, "wideband") !== null || sensorsIn(kind3).some(({ quantity }) => quantity === "mixture") || hasRole(kind3, "knock") || trait(kind3, "trigger")?.shaft === "cam";
var sensorRules = [
  {
    id: "SE-1",
    family: "Sensors",
    severity: "stop",
    title: "Temperature sensor without pull-up",
    source: "V = Vref R/(R + Rp): without Rp there is no reading",
    sheet: "allot",
    check: ({ build, net }) => {
      const taken = new Set(Object.values(build.assignments));
      return sensorsOf(build, net).flatMap((at) => {
        if (at.sensor.quantity !== "temperature" || at.sensor.signal !== "ohms") return [];
        if (!at.pin || at.pullUpOhms !== null) return [];
        const free = build.ecu.pins.find(
          (pin2) => !taken.has(pin2.id) && serve(pin2, { kind: "analog", pullUp: true }).ability
        );
        return [
          {
            at: at.id,
            where: { type: "need", needId: at.id },
            detail: `${at.label} is on ${at.pin.id}, which has no pull-up: the reading stays at the end stop.`,
            remedy: free ? { label: `Move it to ${free.id}`, calls: [call("assign", { needId: at.id, pinId: free.id })] } : {
              label: `Fit ${formatOhms(USUAL_PULL_UP_OHMS)} outside`,
              calls: [call("setPullUp", { deviceId: at.device.id, ohms: USUAL_PULL_UP_OHMS })]
            }
          }
        ];
      });
    }
  },
  {
    id: "SE-2",
    family: "Sensors",
    severity: "fix",
    title: "Sensor grounded to the body",
    source: "Sensor grounds 10 mV; common practice",
    sheet: "feeds",
    check: ({ build, devices, beside }) => devices.flatMap(({ device, kind: kind3 }) => {
      if (sensorsIn(kind3).length === 0 && !trait(kind3, "trigger") && !hasRole(kind3, "throttle")) return [];
      return groundedApart(build, device).map((terminal) => {
        const destination = destinationOf(device, terminal);
        const place3 = destination.to === "ground" && destination.place !== "chassis" ? destination.place : "body";
        const shift = beside?.shifts[device.id];
        const error = shift?.error ?? null;
        const figures = shift ? `: with the engine running its ground stands ${formatMillivolts(shift.shiftVolts)} above the ECU\u2019s${error === null ? "" : `, and it reads ${readStep(shift.quantity, Math.abs(error), build)} wrong`}.` : ": what the loads draw shifts its reading.";
        return {
          at: terminalId(device.id, terminal.id),
          where: { type: "device", deviceId: device.id },
          detail: `${device.label} returns to the ${place3}${figures}`,
          waits: beside === null,
          remedy: {
            label: "Use the ECU sensor ground",
            calls: [call("setDestination", { deviceId: device.id, terminalId: terminal.id, destination: null })]
          }
        };
      });
    })
  },
  {
    id: "SE-3",
    family: "Sensors",
    severity: "stop",
    title: "Manifold sensor under the boost target",
    source: "absolute = barometer + boost, 10 % reserve; barometer by ISO 2533",
    sheet: "survey",
    check: ({ build, devices }) => {
      const barometer = standardBarometerKpa(build.site.altitudeMetres);
      const needed = (barometer + build.engine.boostKpa) * RANGE_RESERVE;
      const read2 = (kpa) => readQuantity("pressure", kpa, build);
      return devices.flatMap(({ device, kind: kind3 }) => {
        const inside2 = hasRole(kind3, "manifold-hose") ? build.ecu.inside?.manifoldKpa : void 0;
        const pressure2 = inside2 === void 0 ? pressureRange(kind3) : { measures: "manifold", reference: "absolute", least: 0, most: inside2 };
        if (!pressure2 || pressure2.measures !== "manifold") return [];
        const where = { type: "device", deviceId: device.id };
        if (pressure2.reference === "gauge")
          return [
            {
              at: device.id,
              where,
              title: "Manifold sensor reads gauge pressure",
              detail: `${device.label} reads zero at the barometer: the ECU wants absolute pressure, ${read2(barometer)} at key-on here.`
            }
          ];
        if (build.engine.aspiration === "boosted" && build.engine.boostKpa === 0)
          return [
            {
              at: device.id,
              where,
              severity: "fix",
              title: "Boost wanted is not told",
              detail: `${device.label} ends at ${read2(pressure2.most)}, which leaves ${read2(Math.max(0, pressure2.most / RANGE_RESERVE - barometer))} of boost with 10 % reserve. Say on sheet 1 how much is wanted.`
            }
          ];
        if (build.engine.aspiration === "boosted" && pressure2.most < needed)
          return [
            {
              at: device.id,
              where,
              detail: `${device.label} ends at ${read2(pressure2.most)}; ${read2(barometer)} and ${read2(build.engine.boostKpa)} of boost with 10 % reserve is ${read2(needed)}.`
            }
          ];
        return [];
      });
    }
  },
  {
    id: "SE-4",
    family: "Sensors",
    severity: "stop",
    title: "5 V supply over its budget",
    source: "ECU maker's limit; near the limit from 90 % (common practice)",
    sheet: "feeds",
    check: ({ build, devices, beside }) => {
      const pins = pinsOfKind(build.ecu, "supply-5v");
      const spread3 = beside?.supplies;
      return pins.flatMap((pin2) => {
        const limit = pin2.abilities.find((ability) => ability.kind === "supply-5v")?.maxAmps;
        const users = devices.flatMap(
          ({ device, kind: kind3 }) => kind3.terminals.flatMap((terminal) => {
            const destination = destinationOf(device, terminal);
            return destination.to === "supply-5v" && sharedPin(build, pins, terminalId(device.id, terminal.id), destination.bank) === pin2 ? [{ device, amps: destination.milliamps / 1e3 }] : [];
          })
        );
        const amps2 = users.reduce((sum, user) => sum + user.amps, 0);
        if (limit === void 0 || amps2 <= limit * 0.9) return [];
        const over = amps2 > limit;
        return [
          {
            at: pin2.id,
            severity: over ? "stop" : "fix",
            title: over ? void 0 : "5 V supply near its limit",
            where: { type: "end", end: ecuEnd(pin2.id) },
            detail: `${formatAmps(amps2)} of ${formatAmps(limit)} on ${pin2.id}: ${listWords(users.map((user) => user.device.label))}.`,
            remedy: spread3?.fits && spread3.amps[pin2.id] <= limit * 0.9 && Object.entries(spread3.shared).some(([id3, to]) => build.shared[id3] !== to) ? {
              label: "Spread them over the supplies",
              calls: [call("setShared", { shared: { ...spread3.shared } })]
            } : void 0,
            waits: spread3 === void 0
          }
        ];
      });
    }
  },
  {
    id: "SE-5",
    family: "Sensors",
    severity: "fix",
    title: "Both tracks on one supply",
    source: "Drive-by-wire: separate supplies where possible; common practice",
    sheet: "feeds",
    check: ({ build, devices }) => {
      const pins = pinsOfKind(build.ecu, "supply-5v");
      const count2 = pins.length;
      return devices.flatMap(({ device, kind: kind3 }) => {
        if (!hasRole(kind3, "pedal")) return [];
        const banks = kind3.terminals.flatMap((terminal) => {
          const destination = destinationOf(device, terminal);
          return destination.to === "supply-5v" ? [
            {
              terminal,
              destination,
              pin: count2 === 0 ? "" : sharedPin(build, pins, terminalId(device.id, terminal.id), destination.bank).id
            }
          ] : [];
        });
        if (banks.length < 2 || new Set(banks.map((one2) => one2.pin)).size > 1) return [];
        const other = { ...banks[1].destination, bank: (banks[0].destination.bank + 1) % 4 };
        return [
          {
            at: device.id,
            where: { type: "device", deviceId: device.id },
            detail: `Both tracks of ${device.label} hang on one 5 V supply: one broken wire takes both away at once.${count2 < 2 ? " This ECU has only one." : ""}`,
            remedy: count2 < 2 ? void 0 : {
              label: "Move track 2",
              calls: [
                call("setDestination", {
                  deviceId: device.id,
                  terminalId: banks[1].terminal.id,
                  destination: other
                })
              ]
            }
          }
        ];
      });
    }
  },
  {
    id: "SE-6",
    family: "Sensors",
    severity: "stop",
    title: "Wideband heater fed or grounded wrongly",
    source: "Heater ground to the power ground, heater feed switched; common practice",
    sheet: "feeds",
    check: ({ devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      if (!trait(kind3, "wideband")) return [];
      return kind3.terminals.flatMap((terminal) => {
        const destination = destinationOf(device, terminal);
        const where = { type: "device", deviceId: device.id };
        const remedy = {
          label: "Set it right",
          calls: [call("setDestination", { deviceId: device.id, terminalId: terminal.id, destination: null })]
        };
        if (destination.to === "feed" && destination.feed === "permanent")
          return [
            {
              at: `${device.id}.feed`,
              where,
              remedy,
              detail: `${device.label} is fed permanently: it heats with the engine off, drains the battery and cracks the sensor.`
            }
          ];
        if (destination.to === "sensor-ground" && terminal.destination.to === "ground")
          return [
            {
              at: `${device.id}.ground`,
              where,
              remedy,
              detail: `The heater of ${device.label} returns through the sensor ground: about 1 A through it shifts every sensor.`
            }
          ];
        return [];
      });
    })
  },
  {
    id: "SE-7",
    family: "Sensors",
    severity: "fix",
    title: "Knock sensor unshielded",
    source: "Shielded pair, shield at one end; common practice",
    sheet: "loom",
    check: ({ devices }) => devices.flatMap(
      ({ device, kind: kind3 }) => hasRole(kind3, "knock") && device.shield !== "ecu-end" ? [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label}: millivolts beside coil wires need a shield, earthed at the ECU end only.`,
          remedy: {
            label: "Shield at the ECU end",
            calls: [call("editDevice", { deviceId: device.id, shield: "ecu-end" })]
          }
        }
      ] : []
    )
  },
  {
    id: "SE-15",
    family: "Sensors",
    severity: "note",
    title: "Sensors share a ground of the ECU's",
    source: "The ECU's current times the copper both share; sensor grounds 10 mV, common practice",
    sheet: "feeds",
    check: ({ build, net }) => {
      const grounds = groundPins(build);
      return grounds.sensor.flatMap((pin2) => {
        if (!isSharedGround(grounds, pin2.id)) return [];
        const splice = spliceEnd(pin2.id);
        const trunk = (net.wiresAt.get(ecuEnd(pin2.id)) ?? []).map((wire) => asOne(wholeWires(net).get(wire.cutOf ?? wire.id))).find((wire) => [wire.from, wire.to].includes(splice));
        const returning = (net.nodeOf.get(splice)?.ends ?? []).flatMap((end2) => deviceAt(end2) ?? []);
        if (!trunk || returning.length === 0) return [];
        const none = pinsOfKind(build.ecu, "sensor-ground").length === 0;
        const count2 = plural(new Set(returning).size, "sensor returns", "sensors return");
        return [
          {
            at: pin2.id,
            where: { type: "end", end: ecuEnd(pin2.id) },
            // A definition without any is more often a gap in it than an ECU without one.
            severity: none ? "fix" : void 0,
            title: none ? "ECU without a sensor ground" : void 0,
            detail: `${none ? `${build.ecu.model} lists no sensor-ground pin: look once more in its pinout. ` : ""}${count2} to ${pin2.id}, and so does the ECU's own current: ${formatVolts(trunk.amps * trunk.ohms)} at ${formatAmps(trunk.amps)} over the ${readLength(trunk.lengthMetres, build)} they share. Join them close behind the plug, never at the engine.`
          }
        ];
      });
    }
  },
  {
    id: "SE-16",
    family: "Sensors",
    severity: "fix",
    title: "On which bank is not told",
    source: "Crossed banks correct each other the wrong way; common practice",
    sheet: "survey",
    check: ({ build, devices }) => {
      if (build.engine.banks.length < 2) return [];
      const sided = devices.filter(({ kind: kind3 }) => hasSide(kind3));
      return [...groupBy(sided, ({ kind: kind3 }) => kind3.id).values()].flatMap((group) => {
        const open = group.filter(({ device }) => bankOfDevice(build.engine, device) === null);
        if (group.length < 2 || open.length === 0) return [];
        return [
          {
            at: group[0].kind.id,
            where: { type: "device", deviceId: open[0].device.id },
            detail: `${listWords(open.map(({ device }) => device.label))}: say which bank ${open.length === 1 ? "it stands" : "each stands"} on (${build.engine.banks.map((_, i) => bankWords(build.engine, i + 1)).join("; ")}). Crossed, the ECU corrects one bank by the other.`
          }
        ];
      });
    }
  },
  {
    id: "SE-17",
    family: "Sensors",
    severity: "stop",
    title: "A hose, and no sensor inside the ECU",
    source: "The ECU's definition",
    sheet: "survey",
    check: ({ build, devices }) => build.ecu.inside?.manifoldKpa !== void 0 ? [] : devices.flatMap(
      ({ device, kind: kind3 }) => hasRole(kind3, "manifold-hose") ? [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label} leads to ${build.ecu.model}, which has no manifold sensor inside: fit one of its own, or say in the ECU's definition how far its own reads.`,
          remedy: { label: "Take the hose off", calls: [call("removeDevice", { deviceId: device.id })] }
        }
      ] : []
    )
  }
];

// core/rules/speed.ts
var TOP_KMH = 250;
var AT_KMH = 100;
var FAULT_SHARE = 1.2;
var speedometerTerminals = (kind3) => hasRole(kind3, "speedometer") ? kind3.terminals.filter(({ destination }) => destination.to === "pin").map(({ id: id3 }) => id3) : (trait(kind3, "body")?.cavities ?? []).filter(({ signal }) => signal === "speedometer").map(({ cavity }) => cavity);
var times2 = (factor) => factor >= 10 ? factor.toFixed(0) : factor.toFixed(2);
var speedRules = [
  {
    id: "BB-17",
    family: "Bus and body",
    severity: "fix",
    title: "Speed gauge does not get its pulses",
    source: "Pulses a turn \xD7 gears \xD7 turns of the wheel a kilometre, against what the gauge wants: geometry",
    sheet: "survey",
    check: ({ build, devices }) => {
      const { speed } = build;
      if (!speed) return [];
      const driven = devices.some(({ kind: kind3 }) => speedometerTerminals(kind3).length > 0);
      return speed.gauges.flatMap((gauge2) => {
        const { given: given2, factor } = gaugeReads(speed, gauge2);
        const fed = {
          ...speed,
          gauges: speed.gauges.map((one2) => one2 === gauge2 ? { ...one2, fedBy: "ecu" } : one2)
        };
        if (Math.abs(factor - 1) > SPEED_TOLERANCE)
          return [
            {
              at: gauge2.id,
              detail: `${gauge2.name} hangs on the speed sensor and gets ${readMeasure("distance-pulses", given2, build)}; it wants ${readMeasure("distance-pulses", gauge2.pulsesPerKm, build)}, so it reads ${times2(factor)} times the speed: ${readQuantity("road-speed", AT_KMH / 2, build)} shows as ${readQuantity("road-speed", AT_KMH / 2 * factor, build)}.`,
              remedy: {
                label: "Feed it from an output of the ECU",
                calls: [call("setSpeed", { speed: fed })]
              }
            }
          ];
        if (gauge2.fedBy === "ecu" && !driven)
          return [
            {
              at: `${gauge2.id}.wire`,
              severity: "note",
              title: "Speed gauge without a wire",
              detail: `${gauge2.name} is fed by the ECU, and no speedometer is on the list, nor a cavity of a body plug named so: no output is asked for it.`
            }
          ];
        return [];
      });
    }
  },
  {
    id: "BB-18",
    family: "Bus and body",
    severity: "fix",
    title: "Speed sensor scaled for another shaft",
    source: "Pulses a turn \xD7 gears \xD7 turns of the wheel a kilometre: geometry",
    sheet: "survey",
    check: ({ build, devices }) => {
      const { speed } = build;
      if (!speed) return [];
      const right = hertzAt(pulsesPerKm(speed, speed.tyre), AT_KMH);
      return devices.flatMap(({ device, kind: kind3 }) => {
        const sensor2 = sensorsIn(kind3).find((one2) => one2.quantity === "road-speed" && one2.signal === "hertz");
        const scaled2 = sensor2 && curveOf(sensor2.curve).signalOf(AT_KMH);
        if (!sensor2 || !scaled2 || Math.abs(right / scaled2 - 1) <= SPEED_TOLERANCE) return [];
        const most2 = right * sensor2.most / AT_KMH;
        const own2 = {
          ...sensor2,
          curve: {
            method: "linear",
            points: [
              { signal: 0, value: 0 },
              { signal: most2, value: sensor2.most }
            ]
          },
          faultAbove: sensor2.faultAbove === null ? null : most2 * FAULT_SHARE
        };
        return [
          {
            at: device.id,
            where: { type: "device", deviceId: device.id },
            detail: `${device.label} is scaled to ${scaled2.toFixed(0)} Hz at ${readQuantity("road-speed", AT_KMH, build)}; its gears and tyre give ${right.toFixed(0)} Hz: the ECU would show ${times2(right / scaled2)} times the speed.`,
            remedy: {
              label: `Scale it to ${readMeasure("distance-pulses", pulsesPerKm(speed, speed.tyre), build)}`,
              calls: [
                call("editKind", { kind: { ...kind3, traits: kind3.traits.map((one2) => one2 === sensor2 ? own2 : one2) } })
              ]
            }
          }
        ];
      });
    }
  },
  {
    id: "BB-19",
    family: "Bus and body",
    severity: "fix",
    title: "Speed pulses faster than the pin",
    source: "The ECU's definition; top speed is common practice",
    sheet: "allot",
    check: ({ build, net, devices }) => {
      const { speed } = build;
      if (!speed) return [];
      const atTop = hertzAt(pulsesPerKm(speed, speed.tyre), TOP_KMH);
      const limitOf = (needId) => {
        const need = withId(net.needs, needId);
        const pin2 = need && withId(build.ecu.pins, build.assignments[need.id]);
        const limit = pin2 && serve(pin2, need.ask).ability?.maxHz;
        return need && pin2 && limit !== void 0 ? { need, pin: pin2, limit } : null;
      };
      const counted = devices.filter(({ kind: kind3 }) => hasRole(kind3, "speed")).flatMap(({ device }) => net.needsOf.get(device.id) ?? []).map((need) => ({ needId: need.id, hertz: atTop, does: "counts" }));
      const fastest = Math.max(0, ...speed.gauges.filter(({ fedBy }) => fedBy === "ecu").map((one2) => one2.pulsesPerKm));
      const given2 = devices.flatMap(({ device, kind: kind3 }) => {
        const ends2 = new Set(speedometerTerminals(kind3).map((terminal) => terminalId(device.id, terminal)));
        return (net.needsOf.get(device.id) ?? []).filter(({ id: id3 }) => ends2.has(id3)).map((need) => ({ needId: need.id, hertz: hertzAt(fastest, TOP_KMH), does: "gives" }));
      });
      return [...counted, ...given2].flatMap(({ needId, hertz, does }) => {
        const at = limitOf(needId);
        return at && hertz > at.limit ? [
          {
            at: needId,
            where: { type: "need", needId },
            detail: `${at.need.label} on ${at.pin.id} comes to ${hertz.toFixed(0)} Hz at ${readQuantity("road-speed", TOP_KMH, build)}; this pin ${does} up to ${at.limit} Hz.`
          }
        ] : [];
      });
    }
  }
];

// core/rules/supply.ts
var supplyRules = [
  {
    id: "PW-21",
    family: "Power",
    severity: "fix",
    title: "Inrush above what stands in its way",
    source: "ISO 8820-3, middle of its limits; a contact makes 3 times its rating; inrush by kind: common practice",
    sheet: "feeds",
    check: ({ net }) => {
      const { plan, sizes: sizes2 } = net.power;
      const hits = [];
      for (const { relay: name3, loads, amps: amps2 } of sizes2.rushes) {
        const relay2 = name3 === null ? void 0 : plan.parts.get(partId("relay", name3))?.part;
        if (name3 === null || relay2?.kind !== "relay" || makes(relay2.contactAmps, { amps: amps2 })) continue;
        hits.push({
          at: name3,
          where: { type: "end", end: relayEnd(name3, "87") },
          detail: `${relay2.name} relay: ${listWords(loads.map((load) => load.name))} take about ${formatAmps(amps2)} together as it pulls in, and its contact of ${relay2.contactAmps} A makes ${formatAmps(MAKES_TIMES * relay2.contactAmps)}. It welds: give each a relay of its own.`
        });
      }
      for (const [part2, fuse] of sizes2.fuses) {
        const { rush } = fuse;
        const own2 = plan.parts.get(part2);
        if (!rush || !own2 || outlasts(fuse.amps, rush)) continue;
        const larger = fuseRatings.find((rating) => rating > fuse.amps && outlasts(rating, rush));
        hits.push({
          at: own2.name,
          where: { type: "end", end: fuseEnd(own2.name, 2) },
          detail: `${own2.part.name}: ${listWords(rush.rush.loads.flatMap(({ name: name3, inrush }) => inrush ? [name3] : []))} ${rush.rush.loads.length === 1 ? "takes" : "take"} about ${formatAmps(rush.amps)} for ${rush.seconds} s as it is switched on, which a fuse of ${fuse.amps} A usually does not outlast.${larger === void 0 ? "" : ` One of ${larger} A does.`}`,
          remedy: larger === void 0 ? void 0 : {
            label: `Fit ${larger} A`,
            calls: [call("setCircuit", { circuitId: own2.name, choice: { fuseAmps: larger } })]
          }
        });
      }
      return hits;
    }
  },
  {
    id: "PW-22",
    family: "Power",
    severity: "fix",
    title: "Alternator smaller than the load",
    source: "Load at most 80 % of what it is marked with; about half of it at idle; common practice",
    sheet: "feeds",
    check: ({ build, net }) => {
      const rated = build.power.alternatorAmps;
      if (build.power.charging === "none" || rated === void 0) return [];
      const amps2 = runningAmps(net);
      if (amps2 <= ALTERNATOR_SHARE * rated) return [];
      return [
        {
          at: "",
          detail: `With everything on ${formatAmps(amps2)}, and an alternator of ${rated} A gives ${formatAmps(ALTERNATOR_SHARE * rated)} for good and about ${formatAmps(ALTERNATOR_AT_IDLE * rated)} at idle: the battery makes up the rest until it is flat. ${alternatorFor(amps2)} A and more, or less on at a time.`
        }
      ];
    }
  },
  {
    id: "PW-23",
    family: "Power",
    severity: "fix",
    title: "Too few volts for the ECU while cranking",
    source: "Battery behind its inside, starter by displacement and cold: common practice; the maker\u2019s least volts",
    sheet: "feeds",
    check: ({ build, net }) => {
      if (net.power.circuits.length === 0) return [];
      const { amps: amps2, volts: post } = crankedBy(build);
      const pins = pinsOfKind(build.ecu, "switched").map(({ id: id3 }) => ecuEnd(id3));
      const lost = net.power.sizes.drops.flatMap(({ draw, volts: drop }) => pins.includes(draw.end) ? [drop] : []);
      const ground2 = build.power.ecuGround === "head" ? amps2 * strapOhms(build) : 0;
      const left = post - Math.min(...lost.length > 0 ? lost : [0]) - ground2;
      if (left >= build.ecu.minVolts) return [];
      return [
        {
          at: "",
          detail: `At ${readQuantity("temperature", build.site.ambientCelsius, build)} the starter takes about ${starterAmps(build)} A; a full battery of ${build.power.batteryAh} Ah then has ${formatVolts(post)}, the ECU ${formatVolts(left)}, and it works from ${formatVolts(build.ecu.minVolts)}: it drops out as the engine is cranked. A larger battery, a shorter or thicker feed.`
        }
      ];
    }
  },
  {
    id: "PW-24",
    family: "Power",
    severity: "fix",
    title: "Alternator\u2019s lamp terminal straight on the feed",
    source: "Through the warning lamp, or about 470 \u03A9 to the switched feed; common practice",
    sheet: "feeds",
    check: ({ net }) => net.power.flows.draws.flatMap(({ end: end2, load }) => {
      const at = net.deviceOf.get(deviceAt(end2) ?? "");
      if (!load || !at || !hasRole(at.kind, "alternator")) return [];
      const way = wayTo(net.power.flows, end2);
      const limited = way.some(
        ({ part: part2 }) => part2 !== null && net.power.plan.parts.get(part2)?.part.kind === "resistor"
      );
      const last = [...way].reverse().find(({ link }) => link !== null)?.link;
      if (limited || !last) return [];
      return [
        {
          at: end2,
          where: { type: "end", end: end2 },
          detail: `${load.name}: its regulator at rest draws this terminal down to 1 or 2 V, and nothing stands in the way: amperes where tenths are meant.`,
          remedy: {
            label: `Put ${CHARGE_OHMS} \u03A9 into its wire`,
            calls: [
              call("insertInFeed", {
                linkId: last.id,
                part: { kind: "resistor", name: "Charge resistor", ohms: CHARGE_OHMS }
              })
            ]
          }
        }
      ];
    })
  },
  {
    id: "PW-25",
    family: "Power",
    severity: "fix",
    title: "Output feeds the ECU with the key off",
    source: "A flyback diode to the ECU\u2019s supply asks for a load that is switched with it; common practice",
    sheet: "feeds",
    check: ({ build, net }) => net.needs.flatMap((need) => {
      const pin2 = withId(build.ecu.pins, build.assignments[need.id]);
      if (!pin2 || !serve(pin2, need.ask).ability?.catches) return [];
      const fed = net.power.flows.draws.filter(
        ({ end: end2 }) => need.winding === null ? deviceAt(end2) === need.deviceId : partAt(end2) === partId("relay", need.winding)
      );
      const live = fed.find(({ end: end2 }) => isAlwaysLive(net, end2));
      if (!live) return [];
      return [
        {
          at: need.id,
          where: { type: "end", end: need.end },
          detail: `${need.label} is fed with the key off, and ${pin2.id} has a diode to the ECU's supply: through the load the ECU is fed backwards, stays half awake and may hold its relay. Hang it on a feed that goes off with the ECU.`
        }
      ];
    })
  }
];
function isAlwaysLive({ power: { flows, plan } }, end2) {
  const way = wayTo(flows, end2);
  const [first2] = way;
  return first2 !== void 0 && endType(first2.from) === "battery" && way.every(({ part: part2 }) => {
    const kind3 = part2 === null ? null : plan.parts.get(part2)?.part.kind;
    return kind3 !== "relay" && kind3 !== "switch" && kind3 !== "button";
  });
}

// core/rules/trigger.ts
var triggerRules = [
  {
    id: "TR-1",
    family: "Trigger",
    severity: "stop",
    title: "This ECU does not decode the wheel",
    source: "ECU maker's list of decoders",
    sheet: "trigger",
    check: ({ build }) => {
      const fit = fitTrigger(build.ecu, build.engine, build.trigger.crankWheel, build.trigger.camWheel);
      return fit.decodes ? [] : [
        {
          at: "",
          detail: fit.reason,
          title: build.trigger.crankWheel ? void 0 : "No crank wheel chosen",
          severity: build.trigger.crankWheel ? "stop" : "fix"
        }
      ];
    }
  },
  {
    id: "TR-2",
    family: "Trigger",
    severity: "stop",
    title: "Sensor type and input do not match",
    source: "VR gives an alternating voltage, Hall a switched level; common practice",
    sheet: "allot",
    check: ({ build, net, devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      const trigger = trait(kind3, "trigger");
      if (!trigger) return [];
      const needs = net.needs.filter(
        (need) => need.deviceId === device.id && ["vr", "hall", "frequency"].includes(need.ask.kind)
      );
      const able = needs.every((need) => build.ecu.pins.some((pin2) => serve(pin2, need.ask).ability));
      if (able) return [];
      const sensor2 = trigger.sensor === "vr" ? "a two-wire VR sensor" : "a three-wire square-wave sensor";
      return [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `${device.label} is ${sensor2}; ${build.ecu.model} has no ${trigger.sensor === "vr" ? "VR pair: fit a conditioner or a Hall sensor" : "square-wave trigger input"}.`
        }
      ];
    })
  },
  {
    id: "TR-3",
    family: "Trigger",
    severity: "stop",
    title: "Square-wave sensor without pull-up",
    source: "Open-collector output; common practice",
    sheet: "trigger",
    check: ({ build, net, devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      if (trait(kind3, "trigger")?.sensor !== "hall") return [];
      return net.needs.filter((need) => need.deviceId === device.id && (need.ask.kind === "hall" || need.ask.kind === "frequency")).flatMap((need) => {
        const pin2 = withId(build.ecu.pins, build.assignments[need.id]);
        const ability = pin2 && serve(pin2, need.ask).ability;
        if (!ability || ability.pullUpOhms !== void 0 || device.pullUpOhms !== null) return [];
        return [
          {
            at: need.id,
            where: { type: "need", needId: need.id },
            detail: `${device.label} only pulls its signal down; ${pin2.id} has no pull-up, so the level never rises. Fit 1 to 4.7 k\u03A9 to 5 V at the ECU.`
          }
        ];
      });
    })
  },
  {
    id: "TR-4",
    family: "Trigger",
    severity: "fix",
    title: "Shield earthed wrongly",
    source: "One end only, the ECU\u2019s; common practice",
    sheet: "trigger",
    check: ({ devices }) => devices.flatMap(({ device, kind: kind3 }) => {
      if (!trait(kind3, "trigger") || !kind3.shielded || device.shield === "ecu-end") return [];
      const why = device.shield === "none" ? "has no shield: coil noise gets in" : "is earthed at both ends: ground current flows through the shield";
      return [
        {
          at: device.id,
          where: { type: "device", deviceId: device.id },
          detail: `The cable of ${device.label} ${why}.`,
          remedy: {
            label: "Shield at the ECU end",
            calls: [call("editDevice", { deviceId: device.id, shield: "ecu-end" })]
          }
        }
      ];
    })
  },
  {
    id: "TR-5",
    family: "Trigger",
    severity: "fix",
    title: "Terminal order not confirmed",
    source: "Variants of one sensor exist with reversed terminals; common practice",
    sheet: "survey",
    check: ({ devices }) => {
      const open = devices.filter(({ device, kind: kind3 }) => trait(kind3, "trigger") && !device.terminalsConfirmed);
      if (open.length === 0) return [];
      const has = (sensor2) => open.some(({ kind: kind3 }) => trait(kind3, "trigger")?.sensor === sensor2);
      const swapped = [
        ...has("vr") ? ["Swapped VR leads split the gap and scatter the timing."] : [],
        ...has("hall") ? ["A square-wave sensor with supply and ground swapped gives no signal and may die of it."] : []
      ];
      return [
        {
          at: "",
          where: { type: "device", deviceId: open[0].device.id },
          detail: `${listWords(open.map(({ device }) => device.label))}: read the terminals off the part in hand, not off its family. ${swapped.join(" ")}`,
          remedy: {
            label: "I have read them",
            calls: open.map(({ device }) => call("editDevice", { deviceId: device.id, terminalsConfirmed: true }))
          }
        }
      ];
    }
  },
  {
    id: "TR-6",
    family: "Trigger",
    severity: "note",
    title: "Offset not confirmed by light",
    source: "Always check with the light, whatever a table says; common practice",
    sheet: "trigger",
    check: ({ build }) => build.trigger.crankWheel && !offsetConfirmed(build) ? [
      {
        at: "",
        detail: `The offset of ${offsetWords(build)} has not been seen with a timing light.`
      }
    ] : []
  },
  {
    id: "TR-7",
    family: "Trigger",
    severity: "fix",
    title: "Gap margin too small while cranking",
    source: "Threshold between 1 + r and (M + 1)/(1 + r); ripple 20-40 % is common practice",
    sheet: "trigger",
    check: ({ build }) => {
      const wheel2 = build.trigger.crankWheel;
      const margin = wheel2 && gapMargin(wheel2, build.trigger.ripple, build.ecu.gapThreshold);
      if (!margin || margin.margin >= SAFE_MARGIN && margin.thresholdFits) return [];
      const ripple = `${(build.trigger.ripple * 100).toFixed(0)} %`;
      return [
        {
          at: "",
          detail: margin.thresholdFits ? `At ${ripple} ripple the gap is only ${margin.margin.toFixed(2)} times the longest tooth; ${SAFE_MARGIN} is wanted. Plugs out and a full battery make the crank turn more evenly.` : `This ECU calls a gap at ${margin.threshold} times the tooth before; at ${ripple} ripple it must lie between ${margin.longestTooth.toFixed(2)} and ${margin.shortestGap.toFixed(2)}.`
        }
      ];
    }
  },
  {
    id: "TR-8",
    family: "Trigger",
    severity: "stop",
    title: "Wheel without a sensor",
    source: "Counting",
    sheet: "survey",
    check: ({ build, devices }) => ["crank", "cam"].flatMap((shaft) => {
      const wheel2 = shaft === "crank" ? build.trigger.crankWheel : camWheelOf(build.trigger);
      const fitted2 = devices.filter(({ kind: kind3 }) => trait(kind3, "trigger")?.shaft === shaft);
      if (wheel2 && fitted2.length === 0)
        return [{ at: shaft, detail: `A ${shaft} wheel is chosen, but no ${shaft} sensor is on the list.` }];
      return [];
    })
  }
];

// core/rules/index.ts
var rules = [
  ...planRules,
  ...completeRules,
  ...pinRules,
  ...orderRules,
  ...coilRules,
  ...triggerRules,
  ...sensorRules,
  ...calibrationRules,
  ...feedRules,
  ...relayRules,
  ...powerRules,
  ...supplyRules,
  ...loomRules,
  ...busRules,
  ...bodyRules,
  ...speedRules
];
var weight = { stop: 0, fix: 1, note: 2 };
var inOrder = (aside, findings) => findings.map((finding) => judged(aside, finding)).sort((a, b) => Number(a.aside !== null) - Number(b.aside !== null) || weight[a.severity] - weight[b.severity]);
function judged(set, finding) {
  const aside = Object.hasOwn(set, finding.id) ? set[finding.id] : null;
  if (!aside || isBinding(finding.rule)) return finding;
  return aside.detail === finding.detail ? { ...finding, aside } : { ...finding, before: aside };
}
function countFindings(findings) {
  const standing2 = (severity) => findings.filter((one2) => one2.aside === null && one2.severity === severity).length;
  return {
    stop: standing2("stop"),
    fix: standing2("fix"),
    note: standing2("note"),
    aside: findings.filter((one2) => one2.aside !== null).length
  };
}

// core/derive/sheets.ts
var samePlan = (one2, other) => Object.keys({ ...one2, ...other }).every(
  (key) => one2[key] === other[key] || JSON.stringify(one2[key]) === JSON.stringify(other[key])
);
function sheetProgress(build, net, findings, progress, gates) {
  const share = (part2, whole2) => whole2 === 0 ? 0 : part2 / whole2;
  const clean = (sheet) => findings.some((one2) => one2.sheet === sheet && one2.severity !== "note" && !one2.aside) ? 0 : 1;
  const placed3 = net.needs.filter((need) => build.assignments[need.id] !== void 0).length;
  const fit = fitTrigger(build.ecu, build.engine, build.trigger.crankWheel, build.trigger.camWheel);
  const passed = () => {
    if (shutBy(net, progress, findings).length > 0) return 0;
    const ladder = gates();
    return share(ladder.filter((gate) => gate.status === "passed").length, ladder.length);
  };
  const last = build.revisions[build.revisions.length - 1];
  const current = last !== void 0 && samePlan(last.plan, planOf(build));
  return {
    survey: build.devices.length === 0 ? 0 : 0.6 + 0.4 * clean("survey"),
    allot: share(placed3, net.needs.length),
    trigger: (build.trigger.crankWheel ? 0.35 : 0) + (fit.decodes ? 0.3 : 0) + (offsetConfirmed(build) ? 0.35 : 0),
    feeds: net.circuits.length === 0 ? 0 : 0.6 + 0.4 * clean("feeds"),
    loom: net.wires.length === 0 ? 0 : 0.6 + 0.4 * clean("loom"),
    prove: share(progress.proved.size, progress.wires),
    "fire-up": passed(),
    trace: share(build.cases.filter((one2) => one2.closed).length, build.cases.length),
    book: last ? current ? 1 : 0.5 : 0
  };
}

// core/derive/stage.ts
function watched2(source, target, note) {
  const seen = /* @__PURE__ */ new Set();
  const noted = (key) => {
    const value = Reflect.get(target, key);
    if (!seen.has(key)) {
      seen.add(key);
      note({ source, key, value });
    }
    return value;
  };
  return new Proxy(target, {
    get: (_, key) => noted(key),
    has: (_, key) => {
      noted(key);
      return Reflect.has(target, key);
    },
    ownKeys: () => {
      note({ source, key: null, value: target });
      return Reflect.ownKeys(target);
    }
  });
}
var Stage = class {
  constructor(compute) {
    this.compute = compute;
  }
  compute;
  last = null;
  of(sources) {
    const { last } = this;
    if (last?.reads.every(({ source, key, value: value2 }) => readOf(sources[source], key) === value2)) return last.value;
    const reads = [];
    const note = (read2) => void reads.push(read2);
    const entries2 = Object.entries(sources).map(([source, target]) => [source, watched2(source, target, note)]);
    const value = this.compute(Object.fromEntries(entries2));
    this.last = { reads, value };
    return value;
  }
};
var readOf = (source, key) => key === null ? source : Reflect.get(source, key);

// core/derive/derive.ts
var library = [];
var idOf = ({ id: id3 }) => id3;
var both = (make) => ({ without: make(false), own: make(true) });
var pick = (stages, ecuFuse) => ecuFuse ? stages.own : stages.without;
var Graph = class {
  /** What was derived last: an item that says the same is the very same again, and nothing is drawn anew for it. */
  lastNet = null;
  lastFill = null;
  needsAsBefore = sameAsBefore(idOf);
  circuitsAsBefore = sameAsBefore(idOf);
  testsAsBefore = sameAsBefore(idOf);
  findingsAsBefore = sameAsBefore(idOf);
  needs = new Stage(
    ({ build }) => this.needsAsBefore(needsOf(build))
  );
  feeds = both(
    (ecuFuse) => new Stage(({ build }) => feedPlan(build, ecuFuse))
  );
  currents = both(
    () => new Stage(({ build, made }) => flowsOf(build, made.plan))
  );
  sizes = both(
    () => new Stage(
      ({ build, made }) => sizesOf(build, made.plan, made.flows)
    )
  );
  steps = {
    plan: (build, ecuFuse) => pick(this.feeds, ecuFuse).of({ build }),
    flows: (build, plan, ecuFuse) => pick(this.currents, ecuFuse).of({ build, made: { plan } }),
    sizes: (build, plan, flows, ecuFuse) => pick(this.sizes, ecuFuse).of({ build, made: { plan, flows } })
  };
  power = new Stage(({ build }) => {
    const plan = powerPlan(build, this.steps);
    return { ...plan, circuits: this.circuitsAsBefore(plan.circuits) };
  });
  devices = new Stage(({ build }) => knownDevices(build));
  nets = new Stage(({ build, made }) => this.lastNet = netlist(build, made.needs, made.power, made.devices, this.lastNet));
  tested = new Stage(
    ({ build, net }) => this.testsAsBefore(proveTests(build, net))
  );
  proved = new Stage(
    ({ build, net, made }) => progressOf(build, net, made.tests)
  );
  kinds = new Stage(
    ({ build, told: told2 }) => [...Object.values(build.kinds), ...told2.library]
  );
  checks = rules.map(
    (rule) => new Stage(
      ({ build, net, told: told2 }) => runRule(rule, {
        build,
        net,
        get devices() {
          return net.devices;
        },
        get library() {
          return told2.library;
        },
        proof: () => told2.progress,
        get beside() {
          return told2.beside;
        }
      })
    )
  );
  ordered = new Stage(
    ({ build, made }) => this.findingsAsBefore(
      inOrder(
        build.aside,
        rules.flatMap((_, i) => made[i])
      )
    )
  );
  circuit = new Stage(({ build, net }) => compileAnew(build, net));
  solved = new Stage(
    ({ build, net, made }) => solveIn(made.ir, scenarioOf(build, net, "key-on"))
  );
  gated = new Stage(({ build, net, made }) => gatesOf(build, net, made.progress, made.findings, made.keyOn));
  filled = new Stage(({ build, net, made }) => sheetProgress(build, net, made.findings, made.progress, () => made.gates));
  net(build) {
    const made = {
      needs: this.needs.of({ build }),
      power: this.power.of({ build }),
      devices: this.devices.of({ build })
    };
    return this.nets.of({ build, made });
  }
  tests(build, net) {
    return this.tested.of({ build, net });
  }
  progress(build, { net, tests }) {
    return this.proved.of({ build, net, made: { tests } });
  }
  told(build, derived, beside) {
    return {
      library: this.kinds.of({ build, told: { library } }),
      beside,
      get progress() {
        return derived.progress;
      }
    };
  }
  findings(build, derived, beside) {
    const told2 = this.told(build, derived, beside);
    const made = this.checks.map((check) => check.of({ build, net: derived.net, told: told2 }));
    return this.ordered.of({ build, made });
  }
  /** All of it, one step at a time: what a step works out is remembered, and found by whoever asks for the whole. */
  *inSteps(build, derived, beside) {
    yield void this.needs.of({ build });
    yield void this.power.of({ build });
    yield void derived.net;
    yield void derived.tests;
    const told2 = this.told(build, derived, beside);
    yield void derived.progress;
    for (const check of this.checks) yield void check.of({ build, net: derived.net, told: told2 });
    yield void derived.findings;
    yield void derived.keyOn;
    yield void derived.fill;
  }
  keyOn(build, net) {
    const ir = compiled(build, net, this.circuit.of({ build, net }));
    return this.solved.of({ build, net, made: { ir } });
  }
  gates(build, { net, progress, findings, keyOn }) {
    return this.gated.of({ build, net, made: { progress, findings, keyOn } });
  }
  fill(build, derived) {
    const now = this.filled.of({ build, net: derived.net, made: derived });
    if (this.lastFill === null || !isSame(this.lastFill, now)) this.lastFill = now;
    return this.lastFill;
  }
};
function once(compute) {
  let known9 = null;
  return () => (known9 ??= { value: compute() }).value;
}
function viewOf(graph, build, beside) {
  const parts3 = {
    build: () => build,
    net: once(() => graph.net(build)),
    tests: once(() => graph.tests(build, view.net)),
    progress: once(() => graph.progress(build, view)),
    findings: once(() => graph.findings(build, view, beside)),
    counts: once(() => countFindings(view.findings)),
    keyOn: once(() => graph.keyOn(build, view.net)),
    gates: once(() => graph.gates(build, view)),
    fill: once(() => graph.fill(build, view)),
    waits: once(() => view.findings.some((finding) => finding.waits))
  };
  const view = Object.defineProperties(
    {},
    Object.fromEntries(Object.entries(parts3).map(([name3, get]) => [name3, { get, enumerable: true }]))
  );
  steps2.set(view, () => graph.inSteps(build, view, beside));
  return view;
}
var steps2 = /* @__PURE__ */ new WeakMap();
var MOST_GRAPHS = 3;
var graphs = /* @__PURE__ */ new Map();
function graphOf(id3) {
  const graph = graphs.get(id3) ?? new Graph();
  graphs.delete(id3);
  graphs.set(id3, graph);
  for (const old of [...graphs.keys()].slice(0, -MOST_GRAPHS)) graphs.delete(old);
  return graph;
}
var known8 = /* @__PURE__ */ new WeakMap();
function derive(build, beside = null) {
  const found2 = known8.get(build);
  if (found2 && (beside === null || found2.beside === beside)) return found2.derived;
  const derived = viewOf(graphOf(build.id), build, beside);
  known8.set(build, { beside, derived });
  return derived;
}

// core/circuit/pulses.ts
var Mean = class extends Told {
  constructor(between2, within) {
    super();
    this.between = between2;
    this.within = within;
    const { ir, scenario, changes, drive, branches } = between2;
    this.ir = ir;
    this.scenario = scenario;
    this.changes = changes;
    this.drive = drive;
    this.branches = branches;
  }
  between;
  within;
  ir;
  scenario;
  changes;
  drive;
  branches;
  at(node) {
    return (1 - TEST_DUTY) * this.between.at(node) + TEST_DUTY * this.within.at(node);
  }
  /** A meter is held mostly between two pulses. */
  behind(i, j) {
    return this.between.behind(i, j);
  }
  strays(i, j) {
    return Math.max(this.between.strays(i, j), this.within.strays(i, j));
  }
  get voltages() {
    return this.between.voltages.map((_, node) => this.at(node));
  }
  get settled() {
    return this.between.settled && this.within.settled;
  }
  get residual() {
    return Math.max(this.between.residual, this.within.residual);
  }
  get conditioning() {
    return Math.min(this.between.conditioning, this.within.conditioning);
  }
};
var meanOf = (between2, within) => new Mean(between2, within);
function solveAsShown(net, ir, scenario, fault = null) {
  const within = solveIn(ir, scenario, fault);
  const pulsed = pulsedOf(net, scenario.driven);
  if (scenario.engine !== "still" || pulsed.size === 0) return { shown: within, within: null };
  const driven = new Set([...scenario.driven].filter((pin2) => !pulsed.has(pin2)));
  return { shown: meanOf(solveIn(ir, { ...scenario, driven }, fault), within), within };
}

// core/circuit/car.ts
var drawn = (solution) => (voltsBetween(solution, PLUS_POST, BATTERY) ?? 0) / LUG_OHMS;
function readCar(build, net, state, driven, charge = 1) {
  const tested = state === "key-on" && driven.size > 0;
  const scenario = scenarioOf(build, net, tested ? "outputs-on" : state, { driven, charge });
  const { shown: solution, within } = solveAsShown(net, compile(build, net), scenario);
  const minus = groundEnd("battery");
  return {
    solution,
    tested,
    amps: wireAmps(solution, net),
    total: drawn(solution),
    pulse: within && drawn(within),
    battery: meterVolts(solution, BATTERY, minus),
    reading: (end2) => net.nodeOf.has(end2) ? readVolts(solution, end2, minus) : null,
    volts: (end2) => net.nodeOf.has(end2) ? meterVolts(solution, end2, minus) : null
  };
}

// core/drawing/sketch.ts
var MOST_ALIKE = 3;
var inline = /* @__PURE__ */ new Set(["switch", "button", "resistor", "diode"]);
function kindOf(end2, isSource) {
  if (isSource) return "source";
  const type = endType(end2);
  if (type === "fuse" || type === "relay") return type;
  if (inline.has(type)) return "inline";
  return type === "splice" || type === "busbar" || type === "ground" ? "joint" : "load";
}
function sourceName(net, end2) {
  if (end2 === BATTERY) return "Battery";
  if (end2 === KEY_START || end2 === spliceEnd("key-start")) return "Key, start";
  return end2 === KEY_RUN || end2 === spliceEnd("key-run") ? "Key, run" : labelOf(net, end2);
}
function outOf({ name: name3, part: part2 }) {
  if (part2.kind === "fuse" || inline.has(part2.kind)) return partEnd(part2.kind, name3, part2.kind === "diode" ? "k" : "2");
  return part2.kind === "relay" ? partEnd("relay", name3, "87") : partEnd(part2.kind, name3);
}
var Sketch = class {
  constructor(net, open) {
    this.net = net;
    this.open = open;
  }
  net;
  open;
  roots = [];
  byId = /* @__PURE__ */ new Map();
  skipped = /* @__PURE__ */ new Set();
  add(id3, end2, kind3, parent, link) {
    const partId2 = kind3 === "load" || kind3 === "windings" || kind3 === "source" ? null : partAt(end2);
    const part2 = partId2 === null ? null : withId(this.net.parts, partId2) ?? null;
    const device = this.net.deviceOf.get(deviceAt(end2) ?? "");
    const own2 = kind3 === "load" ? device?.device.label ?? (pinAt(end2) ? `ECU ${pinAt(end2)}` : null) : null;
    const draft = {
      id: id3,
      kind: kind3,
      part: part2,
      end: part2 ? outOf(part2) : end2,
      name: own2 ?? part2?.part.name ?? (kind3 === "source" ? sourceName(this.net, end2) : labelOf(this.net, end2)),
      members: kind3 === "load" || kind3 === "windings" ? [end2] : [],
      kindId: device?.kind.id ?? null,
      isLane: false,
      links: link ? [link] : [],
      through: [],
      parent,
      children: [],
      column: 0,
      row: 0
    };
    this.byId.set(id3, draft);
    (parent ? parent.children : this.roots).push(draft);
    return draft;
  }
  /** Draws what hangs on a joint where the joint was. */
  skip(joint) {
    const { parent, children } = joint;
    for (const child of children) {
      child.parent = parent;
      child.through.push(...joint.links, ...joint.through);
    }
    parent.children.splice(parent.children.indexOf(joint), 1, ...children);
    this.byId.delete(joint.id);
    this.skipped.add(joint.id);
  }
  /** The place a leaf is drawn at: with those alike on the same joint where there are many. */
  leaf(end2, parent, step, alike) {
    const winding = endType(end2) === "relay";
    const kindId = this.net.deviceOf.get(deviceAt(end2) ?? "")?.kind.id;
    const group = winding ? `windings ${parent.id}` : `${kindId} ${parent.id}`;
    if (alike < (winding ? 2 : MOST_ALIKE) || this.open.has(group)) {
      this.add(end2, end2, winding ? "windings" : "load", parent, step);
      return;
    }
    const known9 = this.byId.get(group);
    if (known9) {
      known9.members.push(end2);
      known9.links.push(step);
    } else this.add(group, end2, winding ? "windings" : "load", parent, step);
  }
};
var likeness = (net, end2) => endType(end2) === "relay" ? "winding" : net.deviceOf.get(deviceAt(end2) ?? "")?.kind.id ?? end2;
function sketch(net, open) {
  const { flows, plan } = net.power;
  const made = new Sketch(net, open);
  const idOf2 = (end2) => {
    const ref = endOf(end2);
    return ref.of === "part" && ref.kind !== "key" && ref.kind !== "battery" && ref.kind !== "tap" ? partAt(end2) : end2;
  };
  const leaves = new Set(flows.draws.map(({ end: end2 }) => end2));
  const alike = /* @__PURE__ */ new Map();
  const key = (step) => `${idOf2(step.from)} ${likeness(net, step.to)}`;
  for (const step of flows.steps) if (leaves.has(step.to)) alike.set(key(step), (alike.get(key(step)) ?? 0) + 1);
  const sources = new Set(flows.sources);
  for (const step of flows.steps) {
    if (sources.has(step.from) && !made.byId.has(idOf2(step.from)))
      made.add(idOf2(step.from), step.from, "source", null, null);
    const parent = made.byId.get(idOf2(step.from));
    if (!parent || idOf2(step.to) === parent.id || endType(step.to) === "ground") continue;
    if (leaves.has(step.to)) made.leaf(step.to, parent, step, alike.get(key(step)));
    else if (!made.byId.has(idOf2(step.to))) made.add(idOf2(step.to), step.to, kindOf(step.to, false), parent, step);
  }
  for (const joint of [...made.byId.values()])
    if (joint.kind === "joint" && joint.parent && joint.children.length === 1 && joint.children[0].kind === "windings")
      made.skip(joint);
  for (const planned of plan.parts.values())
    if (planned.part.kind !== "ground" && !made.byId.has(planned.id) && !made.skipped.has(planned.id) && !made.byId.has(partEnd(planned.part.kind, planned.name)))
      made.add(planned.id, outOf(planned), kindOf(outOf(planned), false), null, null);
  for (const { end: end2 } of flows.unfed) made.add(end2, end2, "load", null, null);
  return made;
}
var behind2 = ({ children }) => children.flatMap((child) => [child, ...behind2(child)]);
function fold({ byId }, folded2) {
  for (const id3 of folded2) {
    const fuse = byId.get(id3);
    const all = fuse ? behind2(fuse) : [];
    const loads = all.filter(({ kind: kind3 }) => kind3 === "load");
    const [first2] = loads;
    if (!fuse || !first2 || all.length < 2) continue;
    for (const one2 of all) byId.delete(one2.id);
    const lane = {
      ...first2,
      isLane: true,
      members: loads.flatMap(({ members }) => members),
      links: [...fuse.children[0].links],
      through: [],
      parent: fuse,
      children: []
    };
    byId.set(lane.id, lane);
    fuse.children.splice(0, fuse.children.length, lane);
  }
}

// core/drawing/feeds.ts
var ROW = 46;
var TOP = 30;
var sizes = {
  source: [90, 52],
  fuse: [60, 32],
  relay: [134, 38],
  inline: [84, 32],
  joint: [12, 12],
  load: [190, 34],
  windings: [190, 34]
};
var gaps = {
  source: 0,
  fuse: 32,
  relay: 20,
  inline: 20,
  joint: 76,
  load: 34,
  windings: 34
};
var BRANCH = 128;
var RETURNS = 118;
function placeColumns(made) {
  const all = [...made.byId.values()];
  const depth = (draft) => draft.parent ? depth(draft.parent) + 1 : 0;
  const before = all.filter(({ kind: kind3, parent }) => {
    for (let up = parent; up; up = up.parent) if (up.kind === "fuse") return false;
    return kind3 === "inline" || kind3 === "joint";
  });
  const first2 = Math.max(
    0,
    ...before.filter(({ children }) => children.some(({ kind: kind3 }) => kind3 === "fuse" || kind3 === "joint")).map(depth)
  ) + 1;
  const least = {
    source: 0,
    fuse: first2,
    relay: first2 + 1,
    inline: 1,
    joint: 1,
    load: 0,
    windings: 0
  };
  const leaves = [];
  let most2 = 0;
  const walk = (draft) => {
    const behindFuse2 = (() => {
      for (let up = draft.parent; up; up = up.parent) if (up.kind === "fuse") return true;
      return false;
    })();
    const base = draft.kind === "joint" && behindFuse2 ? first2 + 2 : least[draft.kind];
    draft.column = Math.max(base, draft.parent ? draft.parent.column + 1 : 0);
    if (draft.kind === "load" || draft.kind === "windings") leaves.push(draft);
    else most2 = Math.max(most2, draft.column);
    draft.children.forEach(walk);
  };
  made.roots.forEach(walk);
  for (const leaf of leaves) leaf.column = most2 + 1;
  return most2 + 1;
}
function placeRows(made) {
  let next = 0;
  const walk = (draft) => {
    draft.children.forEach(walk);
    draft.row = draft.children[0]?.row ?? next;
    if (draft.children.length === 0) next += 1;
  };
  made.roots.forEach(walk);
  return next;
}
function returnsOf(net, members) {
  const places = new Set(
    members.flatMap((end2) => {
      if (pinAt(end2) !== null) return ["through the ECU"];
      const entry2 = net.deviceOf.get(deviceAt(end2) ?? "");
      if (!entry2) return [];
      const { device, kind: kind3 } = entry2;
      const others = kind3.terminals.map(({ id: id3 }) => deviceEnd(device.id, id3)).filter((one2) => one2 !== end2);
      const far2 = others.flatMap((one2) => (net.wiresAt.get(one2) ?? []).map((wire) => farOf(net, wire, one2)));
      const ground2 = far2.find((one2) => endType(one2) === "ground");
      if (ground2) return [labelOf(net, ground2)];
      const mounted2 = kind3.terminals.find(({ destination }) => destination.to === "mounted");
      if (mounted2) return ["its own body"];
      return far2.some((one2) => endType(one2) === "ecu" || endType(one2) === "splice") ? ["by the ECU"] : [];
    })
  );
  const [first2] = places;
  return first2 === void 0 ? null : places.size === 1 ? first2 : "several places";
}
var columnTitles = {
  source: "source",
  fuse: "protection",
  relay: "switched by",
  inline: "",
  joint: "shared at",
  load: "load",
  windings: "load"
};
function drawFeeds(net, open = /* @__PURE__ */ new Set(), folded2 = /* @__PURE__ */ new Set()) {
  const made = sketch(net, open);
  fold(made, folded2);
  const last = placeColumns(made);
  const rows = placeRows(made);
  const drafts2 = [...made.byId.values()];
  const lefts = [];
  const widths = [];
  let x = 0;
  let branched = 0;
  for (let column = 0; column <= last; column += 1) {
    const here = drafts2.filter((draft) => draft.column === column);
    widths[column] = Math.max(0, ...here.map(({ kind: kind3 }) => sizes[kind3][0]));
    const gap = here.length === 0 ? 0 : Math.max(...here.map(({ kind: kind3 }) => gaps[kind3]));
    lefts[column] = column === last ? Math.max(x + gap, branched + BRANCH) : x + gap;
    x = lefts[column] + widths[column];
    if (here.some(({ kind: kind3 }) => kind3 === "joint" || kind3 === "relay")) branched = x;
  }
  const yOf = (row) => TOP + row * ROW + ROW / 2;
  const nodes = drafts2.map((draft) => {
    const [width, height] = sizes[draft.kind];
    return {
      id: draft.id,
      kind: draft.kind,
      part: draft.part,
      end: draft.end,
      name: nameOf4(net, draft),
      members: draft.members,
      isLane: draft.isLane,
      returns: draft.kind === "load" ? returnsOf(net, draft.members) : null,
      adrift: draft.parent === null && draft.kind !== "source",
      x: lefts[draft.column],
      y: yOf(draft.row),
      width,
      height
    };
  });
  const wholes = wholeWires(net);
  const nodeById = new Map(nodes.map((node) => [node.id, node]));
  const drawn2 = /* @__PURE__ */ new Set();
  const wires = drafts2.flatMap((draft) => {
    const [step] = draft.links;
    const whole2 = step?.link && wholes.get(step.link.id);
    if (!whole2 || !draft.parent) return [];
    const wire = asOne(whole2);
    for (const { link } of [...draft.links, ...draft.through]) drawn2.add(link.id);
    const [one2, other] = [nodeById.get(draft.parent.id), nodeById.get(draft.id)];
    return [joining(wire, one2, other, draft.links.length, false)];
  });
  for (const { id: id3, from, to, role: role2 } of net.power.plan.links) {
    const whole2 = wholes.get(id3);
    if (drawn2.has(id3) || role2 === "return" || role2 === "winding" || !whole2) continue;
    const wire = asOne(whole2);
    const [one2, other] = [from, to].map((end2) => nodeById.get(partAt(end2) ?? "") ?? nodeById.get(end2));
    if (one2 && other && one2 !== other)
      wires.push(joining(wire, one2.x <= other.x ? one2 : other, one2.x <= other.x ? other : one2, 1, true));
  }
  const titled = /* @__PURE__ */ new Set();
  const columns = lefts.flatMap((left, column) => {
    const kinds2 = drafts2.filter((draft) => draft.column === column).map(({ kind: kind3 }) => columnTitles[kind3]);
    const title = kinds2.find((one2) => one2 !== "" && !titled.has(one2));
    if (title === void 0) return [];
    titled.add(title);
    return [{ title, x: left }];
  });
  return {
    nodes,
    wires,
    buses: busesOf(wires),
    boxes: boxesOf(net, nodes),
    columns: [...columns, { title: "returns at", x: x + 34 }],
    width: x + RETURNS,
    height: TOP + rows * ROW + 8
  };
}
var MOST_NAMED = 12;
function nameOf4(net, draft) {
  if (draft.kind === "windings")
    return `Winding${draft.members.length > 1 ? "s" : ""}: ${draft.members.map((end2) => withId(net.parts, partAt(end2))?.part.name ?? "").join(", ")}`;
  if (draft.isLane) return plural(draft.members.length, "load");
  if (draft.members.length < 2) return draft.name;
  const names = draft.members.map((end2) => net.deviceOf.get(deviceAt(end2) ?? "")?.device.label ?? labelOf(net, end2));
  return names.length > MOST_NAMED ? `${names[0]} and ${names.length - 1} more` : namesTogether(names);
}
function joining(wire, one2, other, count2, second) {
  const shift = second ? 6 : 0;
  const start = one2.x + one2.width / (one2.kind === "joint" ? 2 : 1);
  const bend = one2.kind === "joint" ? start : start + 13 + shift;
  return {
    id: wire.id,
    wire,
    count: count2,
    from: [start, one2.y + shift],
    to: [other.x + (other.kind === "joint" ? other.width / 2 : 0), other.y + shift],
    bend,
    second,
    bus: one2.kind === "source" && !second
  };
}
function busesOf(wires) {
  const found2 = /* @__PURE__ */ new Map();
  for (const { bus: bus2, from, to, bend } of wires) {
    if (!bus2) continue;
    const key = from.join(" ");
    const known9 = found2.get(key);
    found2.set(key, { from: from[0], x: bend, y: from[1], to: Math.max(known9?.to ?? from[1], to[1]) });
  }
  return [...found2.values()];
}
function boxesOf(net, nodes) {
  const found2 = /* @__PURE__ */ new Map();
  for (const node of nodes) {
    const box = node.part?.part.box;
    if (box !== void 0) found2.set(box, [...found2.get(box) ?? [], node]);
  }
  return [...found2].flatMap(([id3, inside2]) => {
    const sorted = [...inside2].sort((one2, other) => one2.y - other.y);
    const runs = [];
    for (const node of sorted) {
      const run = runs[runs.length - 1];
      if (run && node.y - run[run.length - 1].y <= ROW) run.push(node);
      else runs.push([node]);
    }
    return runs.map((run, at) => {
      const left = Math.min(...run.map((node) => node.x)) - 7;
      const right = Math.max(...run.map((node) => node.x + node.width)) + 7;
      const top = run[0].y - 23;
      return {
        id: `${id3} ${at}`,
        name: net.power.boxes[id3]?.name ?? id3,
        x: left,
        y: top,
        width: right - left,
        height: run[run.length - 1].y + 22 - top
      };
    });
  });
}

// scripts/try.ts
for (const [name3, make] of [["demo", pellworth], ["large", largePlaced]]) {
  let build = make();
  const t2 = [[], [], [], []];
  for (let i = 0; i < 40; i++) {
    build = { ...build, loom: { ...build.loom, slackMetres: i % 2 ? 0.21 : 0.22 } };
    const a = performance.now();
    const { net } = derive(build);
    net.wires.length;
    const b = performance.now();
    drawFeeds(net, /* @__PURE__ */ new Set(), /* @__PURE__ */ new Set());
    const c = performance.now();
    const r = readCar(build, net, "running", new Set(drivenIn(net, "running") ?? []), charges.full);
    r.total;
    const d = performance.now();
    for (const w of net.wires) r.amps.get(w.id);
    const e = performance.now();
    t2[0].push(b - a);
    t2[1].push(c - b);
    t2[2].push(d - c);
    t2[3].push(e - d);
  }
  console.log(name3, t2.map((all) => all.sort((x, y) => x - y)[20].toFixed(2)).join(" "));
}
