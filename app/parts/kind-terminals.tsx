import type { DeviceKind, Destination, Internal, Terminal } from '~/core/devices/kind';
import { Button } from '../ui/button';
import { NumberField } from '../ui/number-field';
import { Select } from '../ui/select';
import { Heading, Row, Small, Stack } from '../ui/text';
import { TextField } from '../ui/text-field';
import { destinationWords } from './destination-words';
import { styled } from 'styled-components';
import { at, color, shape, space } from '../ui/theme';

const pin = (ask: Extract<Destination, { to: 'pin' }>['ask'], pair?: string): Destination =>
  pair ? { to: 'pin', ask, pair } : { to: 'pin', ask };

/** Where a terminal can go, as a person picks it; amperes and hertz are set beside it. */
const presets: readonly { name: string; destination: Destination }[] = [
  { name: 'analog input', destination: pin({ kind: 'analog', pullUp: false }) },
  { name: 'analog input with pull-up', destination: pin({ kind: 'analog', pullUp: true }) },
  { name: 'switch input', destination: pin({ kind: 'switch' }) },
  { name: 'frequency input', destination: pin({ kind: 'frequency', hz: 1000 }) },
  { name: 'square-wave trigger input', destination: pin({ kind: 'hall' }) },
  { name: 'VR pair +', destination: pin({ kind: 'vr', side: 'plus' }, 'vr') },
  { name: 'VR pair –', destination: pin({ kind: 'vr', side: 'minus' }, 'vr') },
  { name: 'knock input', destination: pin({ kind: 'knock' }) },
  { name: 'thermocouple +', destination: pin({ kind: 'thermocouple', side: 'plus' }, 'k') },
  { name: 'thermocouple –', destination: pin({ kind: 'thermocouple', side: 'minus' }, 'k') },
  { name: 'injector driver', destination: pin({ kind: 'injector', amps: 1.1 }) },
  { name: 'logic ignition output', destination: pin({ kind: 'ignition-logic' }) },
  { name: 'coil driver', destination: pin({ kind: 'ignition-driver', amps: 7 }) },
  { name: 'low-side output, on and off', destination: pin({ kind: 'low-side', amps: 0.5, hz: 0 }) },
  { name: 'low-side output, PWM', destination: pin({ kind: 'low-side', amps: 1, hz: 100 }) },
  { name: 'half-bridge +', destination: pin({ kind: 'half-bridge', side: 'plus', amps: 4 }, 'motor') },
  { name: 'half-bridge –', destination: pin({ kind: 'half-bridge', side: 'minus', amps: 4 }, 'motor') },
  { name: 'CAN H', destination: pin({ kind: 'can', side: 'plus' }, 'can') },
  { name: 'CAN L', destination: pin({ kind: 'can', side: 'minus' }, 'can') },
  ...[0, 1].map((bank) => ({
    name: `5 V supply ${'ab'[bank]}`,
    destination: { to: 'supply-5v', milliamps: 10, bank } as Destination,
  })),
  ...[0, 1].map((bank) => ({
    name: `sensor ground ${'ab'[bank]}`,
    destination: { to: 'sensor-ground', bank } as Destination,
  })),
  ...(['main', 'key', 'permanent', 'own', 'coils', 'injectors', 'pump'] as const).map((feed) => ({
    name: destinationWords({ to: 'feed', feed, amps: 1 }),
    destination: { to: 'feed', feed, amps: 1 } as Destination,
  })),
  ...(['head', 'chassis', 'battery'] as const).map((place) => ({
    name: destinationWords({ to: 'ground', place }),
    destination: { to: 'ground', place } as Destination,
  })),
  ...['oil-lamp', 'charge-lamp', 'temperature-gauge', 'oil-gauge', 'reverse-light'].map((line) => ({
    name: destinationWords({ to: 'line', line }),
    destination: { to: 'line', line } as Destination,
  })),
  { name: 'left bare', destination: { to: 'nothing' } },
];

/** What a preset fixes, without the figures a person sets beside it. */
function shapeOf(destination: Destination): string {
  switch (destination.to) {
    case 'pin': {
      const { kind, side, pullUp, hz } = destination.ask;
      return JSON.stringify(['pin', kind, side ?? null, pullUp ?? null, kind === 'low-side' ? (hz ?? 0) > 0 : null]);
    }
    case 'feed':
      return `feed ${destination.feed}`;
    case 'supply-5v':
      return `5v ${destination.bank}`;
    default:
      return JSON.stringify(destination);
  }
}

function Figures({
  destination,
  label,
  onChange,
}: {
  destination: Destination;
  label: string;
  onChange: (next: Destination) => void;
}) {
  if (destination.to === 'feed')
    return (
      <NumberField
        label={`${label}, amperes`}
        hideLabel
        unit="A"
        value={destination.amps}
        minValue={0}
        maxValue={300}
        onChange={(amps) => amps !== null && onChange({ ...destination, amps })}
      />
    );
  if (destination.to === 'supply-5v')
    return (
      <NumberField
        label={`${label}, milliamperes`}
        hideLabel
        unit="mA"
        value={destination.milliamps}
        minValue={0}
        maxValue={500}
        onChange={(milliamps) => milliamps !== null && onChange({ ...destination, milliamps })}
      />
    );
  if (destination.to === 'pin' && destination.ask.amps !== undefined)
    return (
      <NumberField
        label={`${label}, amperes`}
        hideLabel
        unit="A"
        value={destination.ask.amps}
        minValue={0}
        maxValue={60}
        onChange={(amps) => amps !== null && onChange({ ...destination, ask: { ...destination.ask, amps } })}
      />
    );
  if (destination.to === 'pin' && destination.ask.hz !== undefined)
    return (
      <NumberField
        label={`${label}, hertz`}
        hideLabel
        unit="Hz"
        value={destination.ask.hz}
        minValue={0}
        maxValue={100000}
        onChange={(hz) => hz !== null && onChange({ ...destination, ask: { ...destination.ask, hz } })}
      />
    );
  return <span />;
}

/** The terminals of a kind and what stands between them inside. */
export function KindTerminals({ kind, onChange }: { kind: DeviceKind; onChange: (part: Partial<DeviceKind>) => void }) {
  const set = (index: number, part: Partial<Terminal>) =>
    onChange({ terminals: kind.terminals.map((one, i) => (i === index ? { ...one, ...part } : one)) });
  const setInternal = (index: number, part: Partial<Extract<Internal, { type: 'resistor' }>>) =>
    onChange({
      internals: kind.internals.map((one, i) => (i === index && one.type === 'resistor' ? { ...one, ...part } : one)),
    });
  const ids = kind.terminals.map((terminal) => ({ id: terminal.id, name: `${terminal.id} ${terminal.name}` }));
  return (
    <Stack $gap={4}>
      <Stack $gap={2}>
        <Heading>Terminals</Heading>
        {kind.terminals.map((terminal, index) => {
          const shape = shapeOf(terminal.destination);
          const known = presets.some((one) => shapeOf(one.destination) === shape);
          const choices = [
            ...(known ? [] : [{ id: shape, name: destinationWords(terminal.destination) }]),
            ...presets.map((one) => ({ id: shapeOf(one.destination), name: one.name })),
          ];
          return (
            <Line key={index}>
              <TextField
                label={`Terminal ${index + 1}, marking`}
                hideLabel
                value={terminal.id}
                maxLength={6}
                onChange={(id) => set(index, { id })}
              />
              <TextField
                label={`Terminal ${index + 1}, name`}
                hideLabel
                value={terminal.name}
                maxLength={40}
                onChange={(name) => set(index, { name })}
              />
              <Select
                label={`Terminal ${index + 1} goes to`}
                hideLabel
                choices={choices}
                value={shape}
                onChange={(id) => {
                  const preset = presets.find((one) => shapeOf(one.destination) === id);
                  if (preset) set(index, { destination: preset.destination });
                }}
              />
              <Figures
                destination={terminal.destination}
                label={`Terminal ${index + 1}`}
                onChange={(destination) => set(index, { destination })}
              />
              <Button
                weight="quiet"
                isDisabled={kind.terminals.length === 1}
                aria-label={`Remove terminal ${index + 1}`}
                onPress={() => onChange({ terminals: kind.terminals.filter((_, i) => i !== index) })}
              >
                remove
              </Button>
            </Line>
          );
        })}
        <Row>
          <Button
            isDisabled={kind.terminals.length >= 80}
            onPress={() =>
              onChange({
                terminals: [
                  ...kind.terminals,
                  { id: String(kind.terminals.length + 1), name: 'signal', destination: presets[0].destination },
                ],
              })
            }
          >
            Add a terminal
          </Button>
        </Row>
      </Stack>
      <Stack $gap={2}>
        <Heading>Ohms between terminals</Heading>
        <Small>What a meter reads on the unplugged part. It makes the expected readings of the test sheet.</Small>
        {kind.internals.map((internal, index) =>
          internal.type === 'resistor' ? (
            <Ohms key={index}>
              <Select
                label={`Resistance ${index + 1}, from`}
                hideLabel
                choices={ids}
                value={internal.from}
                onChange={(from) => setInternal(index, { from })}
              />
              <Select
                label={`Resistance ${index + 1}, to`}
                hideLabel
                choices={ids}
                value={internal.to}
                onChange={(to) => setInternal(index, { to })}
              />
              <NumberField
                label={`Resistance ${index + 1}`}
                hideLabel
                unit="Ω"
                value={internal.ohms}
                onChange={(ohms) => ohms !== null && setInternal(index, { ohms })}
              />
              <Button
                weight="quiet"
                aria-label={`Remove resistance ${index + 1}`}
                onPress={() => onChange({ internals: kind.internals.filter((_, i) => i !== index) })}
              >
                remove
              </Button>
            </Ohms>
          ) : (
            <Small key={index}>
              {internal.signal} divides {internal.supply} against {internal.ground}, {internal.ratio} at rest.
            </Small>
          ),
        )}
        <Row>
          <Button
            isDisabled={kind.terminals.length < 2}
            onPress={() =>
              onChange({
                internals: [
                  ...kind.internals,
                  { type: 'resistor', from: kind.terminals[0].id, to: kind.terminals[1].id, ohms: 1000 },
                ],
              })
            }
          >
            Add a resistance
          </Button>
        </Row>
      </Stack>
    </Stack>
  );
}

const Ohms = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) 150px auto;
  gap: ${space[2]};
  align-items: center;
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
`;
const Line = styled.div`
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr) minmax(0, 1.4fr) 96px auto;
  gap: ${space[2]};
  align-items: center;
  padding-bottom: 2px;
  border-bottom: ${shape.hair} solid ${color.rule};
  ${at.narrow} {
    grid-template-columns: 76px minmax(0, 1fr);
    /* Where it goes has a line of its own: cut off, it says nothing. */
    & > :has([aria-haspopup='listbox']) {
      grid-column: 1 / -1;
    }
  }
`;
