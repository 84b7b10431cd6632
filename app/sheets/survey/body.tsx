import { aboutDevice, deviceEnd } from '~/core/ends/ends';
import { Plus } from 'lucide-react';
import { styled } from 'styled-components';
import { bodySignal, bodySignals, isBodyPlug, unknownCavities } from '~/core/body/signals';
import { call } from '~/core/edits';
import type { Device } from '~/core/build/schema';
import { trait, type BodyCavity, type BodySignalId, type DeviceKind } from '~/core/devices/kind';
import { colourLetters } from '~/core/donor/colours';
import { destinationOf } from '~/core/build/destination';
import { cycleDegrees } from '~/core/engine/engine';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { useColourWriting } from './colour-writing';
import { destinationWords } from '../../parts/destination-words';
import { landingOf } from '../../parts/landing';
import { Photos } from '../../parts/photos';
import { WireMark } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { useEdited } from '../../ui/edited';
import { Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { Table, TableScroll } from '../../ui/table';
import { Callout, FieldGrid, Heading, Row, Small, Soft, Stack, VisuallyHidden } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { at, color, shape, space } from '../../ui/theme';
import { SheetFrame } from '../../parts/sheet-frame';
import { LengthField } from '../../parts/length-field';

const usual: BodySignalId[] = [
  'key-feed',
  'start-signal',
  'oil-lamp',
  'charge-lamp',
  'tachometer',
  'temperature-gauge',
  'ground',
];
const cavity = (number: number, signal: BodySignalId): BodyCavity => ({
  cavity: String(number),
  colour: '',
  signal,
  note: '',
});

function Plug({ device, kind }: { device: Device; kind: DeviceKind }) {
  const { build, edit, derived, select } = useBuild();
  const body = trait(kind, 'body')!;
  const gauge = trait(kind, 'tachometer');
  const events = (build.engine.cylinders * 360) / cycleDegrees(build.engine);
  const [name, setName] = useEdited(device.label);
  const change = (
    part: Partial<{
      name: string;
      cavities: BodyCavity[];
      pulsesPerTurn: number;
      drive: 'low-side' | 'logic' | 'coil-negative';
      branchMetres: number;
    }>,
  ) =>
    edit(
      call('setBodyPlug', {
        deviceId: device.id,
        name: device.label,
        cavities: body.cavities,
        pulsesPerTurn: gauge?.pulsesPerTurn ?? events,
        drive: gauge?.drive ?? 'low-side',
        ...part,
      }),
    );
  const { writing } = useColourWriting();
  const setCavity = (index: number, part: Partial<BodyCavity>) =>
    change({ cavities: body.cavities.map((one, i) => (i === index ? { ...one, ...part } : one)) });
  const next = body.cavities.reduce((top, one) => Math.max(top, Number(one.cavity) || 0), 0) + 1;
  return (
    <Stack $gap={3}>
      <Heading>{device.label}</Heading>
      <FieldGrid $min={160}>
        <TextField
          label="Name of the plug"
          value={name}
          onChange={setName}
          onBlur={() => name.trim() && name !== device.label && change({ name: name.trim() })}
          maxLength={60}
        />
        <LengthField
          label="Branch from the ECU"
          units={build.units}
          value={device.branchMetres}
          minValue={0}
          maxValue={30}
          onChange={(branchMetres) => change({ branchMetres })}
        />
        {gauge && (
          <NumberField
            label="Tachometer, pulses a turn"
            value={gauge.pulsesPerTurn}
            minValue={0.5}
            maxValue={12}
            hint={`this engine fires ${events} times a turn`}
            onChange={(value) => value !== null && change({ pulsesPerTurn: value })}
          />
        )}
      </FieldGrid>
      {gauge && (
        <Segmented
          label="Tachometer driven by"
          choices={[
            { id: 'low-side', name: 'a line pulled to ground' },
            { id: 'logic', name: 'a 5 V square wave' },
            { id: 'coil-negative', name: 'a coil negative' },
          ]}
          value={gauge.drive}
          onChange={(drive) => change({ drive })}
        />
      )}
      <TableScroll aria-label={`Cavities of ${device.label}`}>
        <Cavities>
          <thead>
            <tr>
              <th scope="col">Cavity</th>
              <th scope="col">Car's wire</th>
              <th scope="col">What it is</th>
              <th scope="col">Goes to</th>
              <th scope="col">Lands on</th>
              <th scope="col">
                <VisuallyHidden>Remove</VisuallyHidden>
              </th>
            </tr>
          </thead>
          <tbody>
            {body.cavities.map((one, index) => {
              const terminal = kind.terminals.find((candidate) => candidate.id === one.cavity)!;
              const letters = colourLetters(one.colour, writing);
              return (
                <tr key={one.cavity}>
                  <th scope="row">{one.cavity}</th>
                  <td>
                    <Colour>
                      <ColourField
                        label={`Colour of the car's wire at ${one.cavity}`}
                        value={one.colour}
                        onKeep={(colour) => setCavity(index, { colour })}
                      />
                      {letters && <WireMark colour={letters} />}
                    </Colour>
                  </td>
                  <td style={{ minWidth: 160 }}>
                    <Select
                      label={`What cavity ${one.cavity} is`}
                      hideLabel
                      choices={bodySignals.map((signal) => ({ id: signal.id, name: signal.name, note: signal.note }))}
                      value={one.signal}
                      onChange={(signal) => setCavity(index, { signal: signal as BodySignalId })}
                    />
                  </td>
                  <td>
                    <Soft>
                      {bodySignal(one.signal).destination === null
                        ? 'left alone'
                        : destinationWords(destinationOf(device, terminal))}
                    </Soft>
                  </td>
                  <td>
                    <Button
                      weight="quiet"
                      isDisabled={!derived.net.nodeOf.has(deviceEnd(device.id, one.cavity))}
                      onPress={() => select({ type: 'end', end: deviceEnd(device.id, one.cavity) })}
                    >
                      {landingOf(derived.net, deviceEnd(device.id, one.cavity))}
                    </Button>
                  </td>
                  <td>
                    <Button
                      weight="quiet"
                      isDisabled={body.cavities.length === 1}
                      aria-label={`Remove cavity ${one.cavity}`}
                      onPress={() => change({ cavities: body.cavities.filter((_, i) => i !== index) })}
                    >
                      remove
                    </Button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Cavities>
      </TableScroll>
      <Photos about={aboutDevice(device.id)} label={device.label} />
      <Row>
        <Button
          isDisabled={body.cavities.length >= 80}
          onPress={() => change({ cavities: [...body.cavities, cavity(next, 'unknown')] })}
        >
          <Plus size={18} aria-hidden /> Add cavity {next}
        </Button>
        <Button weight="quiet" onPress={() => edit(call('removeDevice', { deviceId: device.id }))}>
          Remove {device.label}
        </Button>
      </Row>
    </Stack>
  );
}

function ColourField({ label, value, onKeep }: { label: string; value: string; onKeep: (value: string) => void }) {
  const [text, setText] = useEdited(value);
  return (
    <div style={{ width: 96 }}>
      <TextField
        label={label}
        hideLabel
        value={text}
        onChange={setText}
        maxLength={20}
        placeholder="GN/YE"
        onBlur={() => text !== value && onKeep(text.trim())}
      />
    </div>
  );
}

export function Body() {
  const { build, derived, edit } = useBuild();
  const plugs = derived.net.devices.filter(({ device, kind }) => isBodyPlug(device, kind));
  const unknown = plugs.reduce((sum, { kind }) => sum + unknownCavities(kind).length, 0);
  const events = (build.engine.cylinders * 360) / cycleDegrees(build.engine);
  const add = () =>
    edit(
      call('setBodyPlug', {
        deviceId: null,
        name: plugs.length === 0 ? 'Bulkhead plug' : `Bulkhead plug ${plugs.length + 1}`,
        cavities: usual.map((signal, index) => cavity(index + 1, signal)),
        pulsesPerTurn: events,
        drive: 'low-side',
      }),
    );
  return (
    <SheetFrame
      summary={
        plugs.length === 0 ? (
          <>What the car itself wants and gives: the plugs at the bulkhead or behind the dash.</>
        ) : (
          <>
            {plural(plugs.length, 'plug')} of the car, joined to the engine loom.
            <br />
            <Soft>
              {unknown === 0 ? 'Every cavity has a name.' : `${plural(unknown, 'cavity', 'cavities')} not known yet.`}
            </Soft>
          </>
        )
      }
      actions={
        <Button weight="act" onPress={add}>
          <Plus size={18} aria-hidden /> Add a plug
        </Button>
      }
    >
      <Stack $gap={5}>
        <Callout $tone="stop">
          <span>
            <strong>Yellow plugs and airbag lines stay closed.</strong> They are never probed, cut or tapped: stop, and
            a licensed workshop. Clutch, neutral and brake switches are wired through, never bridged.
          </span>
        </Callout>
        {plugs.length === 0 && (
          <Stack $gap={2} style={{ maxWidth: 640 }}>
            <p>
              Find the plug where the car's own loom meets the engine's. Read key feed, start signal, lamps, tachometer
              and gauges off its cavities with a meter, key off and on. Each cavity you name joins the netlist: it gets
              a wire, a test and a place in the checks. What you cannot name stays 'not known yet' and is joined to
              nothing.
            </p>
            <Row>
              <Button onPress={add}>
                <Plus size={18} aria-hidden /> Add the first plug, with the usual cavities
              </Button>
            </Row>
          </Stack>
        )}
        {plugs.map(({ device, kind }) => (
          <Plug key={device.id} device={device} kind={kind} />
        ))}
        {plugs.length > 0 && (
          <Small>
            Signals and their usual resistances are common practice: measure your own car before you trust one.
          </Small>
        )}
      </Stack>
    </SheetFrame>
  );
}

/** On a phone each cavity is a block of its own. */
const Cavities = styled(Table)`
  ${at.narrow} {
    thead {
      display: none;
    }
    tr {
      display: grid;
      grid-template-columns: 40px minmax(0, 1fr);
      padding: ${space[2]} 0;
      border-bottom: ${shape.hair} solid ${color.rule};
    }
    th {
      grid-row: span 5;
    }
    th,
    td {
      border: 0;
    }
  }
`;
const Colour = styled.span`
  display: inline-flex;
  align-items: center;
  gap: ${space[2]};
`;
