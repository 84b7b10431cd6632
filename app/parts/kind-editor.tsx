import { useState } from 'react';
import { zodProblem } from '~/core/data/zod-problem';
import {
  kindSchema,
  regions,
  sensorsIn,
  systems,
  trait,
  type DeviceKind,
  type Region,
  type SensorTrait,
  type Trait,
} from '~/core/devices/kind';
import { regionWords } from '~/core/loom/regions';
import { quantities, scaleOf, type Quantity, type Units } from '~/core/units/units';
import { Button } from '../ui/button';
import { Checkbox } from '../ui/choice';
import { Dialog, DialogActions } from '../ui/dialog';
import { NumberField } from '../ui/number-field';
import { Select } from '../ui/select';
import { Callout, FieldGrid, Heading, Row, Small, Stack } from '../ui/text';
import { TextField } from '../ui/text-field';
import { CurveForm } from './curve-form';
import { KindTraits } from './kind-traits';
import { KindTerminals } from './kind-terminals';
import { QuantityField } from './quantity-field';
import { MeasureField } from './scale-field';

const USUAL = '';
const quantityWords: Record<Quantity, string> = {
  pressure: 'pressure',
  temperature: 'temperature',
  position: 'position',
  mixture: 'mixture',
  ethanol: 'ethanol share',
  'road-speed': 'road speed',
  'shaft-speed': 'shaft speed',
  level: 'level',
};
const signalWords: Record<SensorTrait['signal'], string> = {
  volts: 'volts',
  ohms: 'ohms to its return',
  hertz: 'pulses, hertz',
  millivolts: 'millivolts of a thermocouple',
};
/** The terminal that most likely carries a signal: the first that wants an ECU pin. */
const signalTerminal = (kind: DeviceKind): string =>
  (kind.terminals.find((terminal) => terminal.destination.to === 'pin') ?? kind.terminals[0]).id;
const newSensor = (terminal: string): SensorTrait => ({
  type: 'sensor',
  terminal,
  quantity: 'pressure',
  signal: 'volts',
  curve: {
    method: 'linear',
    points: [
      { signal: 0.5, value: 0 },
      { signal: 4.5, value: 1000 },
    ],
  },
  least: 0,
  most: 1000,
  ratiometric: true,
  faultBelow: 0.25,
  faultAbove: 4.75,
});

function SensorFields({
  kind,
  sensor,
  units,
  onChange,
  onRemove,
}: {
  kind: DeviceKind;
  sensor: SensorTrait;
  units: Units;
  onChange: (sensor: SensorTrait) => void;
  onRemove: () => void;
}) {
  const [editing, setEditing] = useState(false);
  const scale = scaleOf(sensor.quantity, units, 'petrol');
  return (
    <Stack $gap={2}>
      <FieldGrid $min={150}>
        <Select
          label="Signal comes from"
          choices={kind.terminals.map((one) => ({ id: one.id, name: `${one.id} ${one.name}` }))}
          value={sensor.terminal}
          onChange={(terminal) => onChange({ ...sensor, terminal })}
        />
        <Select
          label="It measures"
          choices={quantities.map((id) => ({ id, name: quantityWords[id] }))}
          value={sensor.quantity}
          onChange={(id) => onChange({ ...sensor, quantity: id as Quantity })}
        />
        <Select
          label="Its signal is"
          choices={(Object.keys(signalWords) as SensorTrait['signal'][]).map((id) => ({ id, name: signalWords[id] }))}
          value={sensor.signal}
          onChange={(id) => {
            const signal = id as SensorTrait['signal'];
            const volts = signal === 'volts' || signal === 'ohms';
            onChange({
              ...sensor,
              signal,
              ratiometric: volts,
              faultBelow: volts ? sensor.faultBelow : null,
              faultAbove: volts ? sensor.faultAbove : null,
            });
          }}
        />
        <QuantityField
          label="From"
          quantity={sensor.quantity}
          units={units}
          value={sensor.least}
          onChange={(least) => least !== null && onChange({ ...sensor, least })}
        />
        <QuantityField
          label="to"
          quantity={sensor.quantity}
          units={units}
          value={sensor.most}
          onChange={(most) => most !== null && onChange({ ...sensor, most })}
        />
        <NumberField
          label="Fault below"
          hint="at the pin"
          value={sensor.faultBelow}
          onChange={(faultBelow) => onChange({ ...sensor, faultBelow })}
        />
        <NumberField
          label="Fault above"
          hint="at the pin"
          value={sensor.faultAbove}
          onChange={(faultAbove) => onChange({ ...sensor, faultAbove })}
        />
      </FieldGrid>
      {editing ? (
        <CurveForm
          key={`${sensor.quantity} ${sensor.signal}`}
          start={sensor.curve}
          signal={sensor.signal}
          scale={scale}
          isTemperature={sensor.quantity === 'temperature'}
          keepLabel="Take this calibration"
          onKeep={(curve) => {
            onChange({ ...sensor, curve });
            setEditing(false);
          }}
        />
      ) : (
        <Row>
          <Button onPress={() => setEditing(true)}>Its calibration</Button>
          <Button weight="quiet" onPress={onRemove}>
            Remove this signal
          </Button>
        </Row>
      )}
    </Stack>
  );
}

/** Everything a device kind is: name, terminals, ohms, calibrated signals, injector and coil data. */
export function KindEditor({
  start,
  units,
  title,
  onKeep,
  onClose,
}: {
  start: DeviceKind;
  units: Units;
  title: string;
  onKeep: (kind: DeviceKind) => void;
  onClose: () => void;
}) {
  const [kind, setKind] = useState(start);
  const change = (part: Partial<DeviceKind>) => setKind({ ...kind, ...part });
  const setTrait = (before: Trait | null, after: Trait | null) => {
    const kept = kind.traits.flatMap((one) => (one === before ? (after ? [after] : []) : [one]));
    change({ traits: before === null && after ? [...kept, after] : kept });
  };
  const parsed = kindSchema.safeParse({ ...kind, name: kind.name.trim() });
  const isNameless = kind.name.trim() === '';
  const problem = parsed.success ? null : zodProblem(parsed.error).sentence;
  const injector = trait(kind, 'injector');
  const coil = trait(kind, 'coil');
  return (
    <Dialog title={title} isOpen onClose={onClose} wide>
      <Stack
        $gap={5}
        style={{ maxHeight: '62vh', overflow: 'auto', paddingBlock: 4, borderBlock: 'var(--hair) solid var(--rule)' }}
        tabIndex={0}
        role="group"
        aria-label="The kind"
      >
        <Stack $gap={3}>
          <FieldGrid $min={220}>
            <TextField label="Name" value={kind.name} onChange={(name) => change({ name })} maxLength={60} autoFocus />
            <Select
              label="System"
              choices={systems.filter((one) => one !== 'Body plug').map((id) => ({ id, name: id }))}
              value={kind.system}
              onChange={(id) => change({ system: id as DeviceKind['system'] })}
            />
            <Select
              label="Where it sits"
              choices={[
                { id: USUAL, name: 'where such parts do' },
                ...regions.map((id) => ({ id, name: regionWords[id] })),
              ]}
              value={kind.sits ?? USUAL}
              onChange={(id) => change({ sits: id === USUAL ? undefined : (id as Region) })}
            />
          </FieldGrid>
          <TextField
            label="Note for whoever wires it"
            value={kind.note}
            onChange={(note) => change({ note })}
            maxLength={300}
          />
          <Row>
            <Checkbox isSelected={kind.perCylinder} onChange={(perCylinder) => change({ perCylinder })}>
              one for each cylinder
            </Checkbox>
            <Checkbox isSelected={kind.shielded} onChange={(shielded) => change({ shielded })}>
              shielded
            </Checkbox>
            <Checkbox isSelected={kind.twisted} onChange={(twisted) => change({ twisted })}>
              twisted
            </Checkbox>
            <Checkbox isSelected={kind.twinRisk} onChange={(twinRisk) => change({ twinRisk })}>
              plugs of two fit each other
            </Checkbox>
          </Row>
        </Stack>
        <KindTerminals kind={kind} onChange={change} />
        <Stack $gap={3}>
          <Heading>Calibrated signals</Heading>
          {sensorsIn(kind).map((sensor, index) => (
            <SensorFields
              key={index}
              kind={kind}
              sensor={sensor}
              units={units}
              onChange={(next) => setTrait(sensor, next)}
              onRemove={() => setTrait(sensor, null)}
            />
          ))}
          <Row>
            <Button
              isDisabled={kind.traits.length >= 8}
              onPress={() => setTrait(null, newSensor(signalTerminal(kind)))}
            >
              Add a calibrated signal
            </Button>
          </Row>
        </Stack>
        <KindTraits kind={kind} onChange={(traits) => change({ traits })} />
        {injector && (
          <Stack $gap={3}>
            <Heading>Injector</Heading>
            <FieldGrid $min={150}>
              <NumberField
                label="Resistance"
                unit="Ω"
                value={injector.ohms}
                onChange={(ohms) => ohms !== null && setTrait(injector, { ...injector, ohms })}
              />
              <MeasureField
                label="Flow"
                measure="flow"
                units={units}
                value={injector.flowCcPerMinute}
                onChange={(flow) => flow !== null && setTrait(injector, { ...injector, flowCcPerMinute: flow })}
              />
              <QuantityField
                label="measured at"
                quantity="pressure"
                units={units}
                value={injector.atKpa}
                onChange={(atKpa) => atKpa !== null && setTrait(injector, { ...injector, atKpa })}
              />
            </FieldGrid>
            <Small>Dead time by voltage is set on the page Fuel and spark.</Small>
          </Stack>
        )}
        {coil && (
          <Stack $gap={3}>
            <Heading>Coil</Heading>
            <FieldGrid $min={150}>
              <NumberField
                label="Primary resistance"
                unit="Ω"
                value={coil.primaryOhms}
                onChange={(ohms) => ohms !== null && setTrait(coil, { ...coil, primaryOhms: ohms })}
              />
              <NumberField
                label="Primary inductance"
                unit="mH"
                value={coil.inductanceMillihenry}
                onChange={(mh) => mh !== null && setTrait(coil, { ...coil, inductanceMillihenry: mh })}
              />
              <NumberField
                label="Cylinders it serves"
                value={coil.serves}
                minValue={1}
                maxValue={16}
                onChange={(serves) => serves !== null && setTrait(coil, { ...coil, serves: Math.round(serves) })}
              />
            </FieldGrid>
            <Checkbox isSelected={coil.igniter} onChange={(igniter) => setTrait(coil, { ...coil, igniter })}>
              igniter inside
            </Checkbox>
          </Stack>
        )}
      </Stack>
      {isNameless ? (
        <Small>It is kept once it has a name.</Small>
      ) : (
        problem && (
          <Callout $tone="stop" role="alert">
            {problem}
          </Callout>
        )
      )}
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button weight="act" isDisabled={problem !== null} onPress={() => parsed.success && onKeep(parsed.data)}>
          Keep this kind
        </Button>
      </DialogActions>
    </Dialog>
  );
}
