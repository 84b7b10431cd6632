import { aboutDevice, deviceEnd } from '~/core/ends/ends';
import { useState } from 'react';
import { Link } from 'react-router';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import type { Bus, Device } from '~/core/build/schema';
import { canJoin, canShare } from '~/core/netlist/joined';
import { busFigures, busOf, membersOf, stubOf } from '~/core/netlist/bus';
import { isBodyPlug } from '~/core/body/signals';
import { hasRole, trait, type DeviceKind } from '~/core/devices/kind';
import { rowsOf, rowWords, setsOfTurn, type OutputKind } from '~/core/engine/outputs';
import { listWords } from '~/core/units/format';
import { freeKindId } from '~/core/devices/library';
import { useBuild } from '../../build/context';
import { kindFacts } from '../../parts/kind-facts';
import { KindEditor } from '../../parts/kind-editor';
import { landingOf } from '../../parts/landing';
import { Photos } from '../../parts/photos';
import { keepOwnKind, ownKinds } from '../../storage/library';
import { refusedProblem } from '../../storage/failure';
import { Button } from '../../ui/button';
import { useEdited } from '../../ui/edited';
import { Checkbox } from '../../ui/choice';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { FieldGrid, Row, Small, Stack } from '../../ui/text';
import { Table, TableScroll } from '../../ui/table';
import { color, space } from '../../ui/theme';
import { alternatives } from '../../parts/destination-words';
import { Variants } from './variants';
import { LengthField } from '../../parts/length-field';

/** Which cylinders a part serves: one, or for a coil of several towers the set that fires with it; and which of two it is. */
function Serves({
  device,
  kind,
  onChange,
}: {
  device: Device;
  kind: DeviceKind;
  onChange: (fields: Partial<Device>) => void;
}) {
  const { engine } = useBuild().build;
  const coil = trait(kind, 'coil');
  const use: OutputKind = trait(kind, 'injector') ? 'injector' : 'ignition';
  const works = coil ? engine.ignition !== 'distributor' : trait(kind, 'injector') !== null;
  if (!works && !kind.perCylinder) return null;
  const towers = coil?.serves ?? 1;
  const pairs = setsOfTurn(engine).filter((set) => set.length === towers);
  const sets = (towers > 1 ? pairs : engine.firingOrder.map((one) => [one]))
    .map((set) => [...set].sort((one, other) => one - other))
    .sort((one, other) => one[0] - other[0]);
  const own = device.serves.join('+');
  // What it serves now stays to be seen, also where no such set fires together.
  if (own !== '' && !sets.some((set) => set.join('+') === own)) sets.push([...device.serves]);
  const rows = works ? rowsOf(engine, use) : 1;
  return (
    <>
      <Select
        label={engine.kind === 'rotary' ? 'Rotor' : towers > 1 ? 'Cylinders' : 'Cylinder'}
        choices={sets.map((set) => ({
          id: set.join('+'),
          name: listWords(set.map(String)),
          note: towers > 1 && pairs.some((pair) => pair.includes(set[0])) ? 'fire 360° apart' : undefined,
        }))}
        value={own === '' ? null : own}
        onChange={(id) => onChange({ serves: id.split('+').map(Number) })}
      />
      {(rows > 1 || device.row > 1) && (
        <Select
          label={use === 'injector' ? 'Stage' : 'Plug'}
          choices={([1, 2] as const).map((row) => ({
            id: String(row),
            name: rowWords(engine, use, row) || (row === 1 ? 'the only one' : 'second'),
          }))}
          value={String(device.row)}
          onChange={(id) => onChange({ row: id === '2' ? 2 : 1 })}
        />
      )}
    </>
  );
}

/** Which bus a CAN device is on, and after whom on the trunk. */
function OnBus({ device, kind }: { device: Device; kind: DeviceKind }) {
  const { build, edit } = useBuild();
  const can = trait(kind, 'can');
  const bus = busOf(build, device.id);
  if (!can || !bus) return null;
  const members = membersOf(build, bus);
  const names = members.map((one) => one.device.label);
  const others = bus.members.filter((id) => id !== device.id);
  const { ohms, restVolts } = busFigures(build, bus);
  const taken = new Set(build.buses.map(({ id }) => id));
  const number = Array.from({ length: taken.size + 1 }, (_, i) => i + 1).find((one) => !taken.has(`can-${one}`))!;
  const own: Bus = { id: `can-${number}`, name: `CAN ${number}`, kilobits: can.kilobits, members: [device.id] };
  const choices = members.length > 1 ? [...build.buses, own] : build.buses;
  const join = (next: Bus, list: readonly string[]) => edit(call('setBus', { bus: { ...next, members: [...list] } }));
  return (
    <>
      <Select
        label="Bus"
        choices={choices.map((one) => ({
          id: one.id,
          name: one === own ? 'its own' : one.name,
          note: `${one.kilobits} kbit/s${one.id === bus.id ? `: ECU, ${names.join(', ')}` : ''}`,
        }))}
        value={bus.id}
        onChange={(id) => {
          const next = choices.find((one) => one.id === id)!;
          if (id !== bus.id) join(next, [...next.members.filter((one) => one !== device.id), device.id]);
        }}
      />
      {members.length > 1 && (
        <Select
          label="Place on the trunk"
          choices={members.map((_, at) => ({
            id: String(at),
            name: `${at + 1} of ${members.length}`,
            note: at === 0 ? 'next to the ECU' : at === members.length - 1 ? 'the far end' : undefined,
          }))}
          value={String(members.findIndex((one) => one.device.id === device.id))}
          onChange={(at) => join(bus, [...others.slice(0, Number(at)), device.id, ...others.slice(Number(at))])}
        />
      )}
      {members.at(-1)?.device.id !== device.id && (
        <LengthField
          label="Stub off the trunk"
          units={build.units}
          value={stubOf(bus, device.id)}
          minValue={0}
          maxValue={30}
          onChange={(stub) => edit(call('setBus', { bus: { ...bus, stubs: { ...bus.stubs, [device.id]: stub } } }))}
          hint={`${ohms.toFixed(0)} Ω across the dead pair, ${restVolts} V a line at rest`}
        />
      )}
    </>
  );
}

/** Whether a part has its output to itself or shares it, where the ECU has fewer than there are parts. */
function SharedOutput({ device, kind }: { device: Device; kind: DeviceKind }) {
  const { edit, derived } = useBuild();
  const { needs, needsOf } = derived.net;
  const own = (needsOf.get(device.id) ?? [])
    .filter(canJoin)
    .flatMap((need) =>
      [need, ...need.joined]
        .filter(({ deviceId }) => deviceId === device.id)
        .map(({ id, end }) => ({ id, end, need, others: [need, ...need.joined].filter((one) => one.id !== id) })),
    );
  return own.map(({ id, end, need, others }) => {
    const meets = (outputs: readonly number[] | null) => outputs?.some((one) => need.outputs?.includes(one)) ?? false;
    const choices = needs
      .filter((other) => canShare(need, other))
      .map((other) => ({
        id: other.id,
        name: `with ${other.label}`,
        note: need.outputs === null ? undefined : meets(other.outputs) ? 'worked together' : 'at another time',
      }))
      .sort((one, other) => Number(other.note === 'worked together') - Number(one.note === 'worked together'));
    if (choices.length + others.length === 0) return null;
    const terminal = kind.terminals.find((one) => deviceEnd(device.id, one.id) === end);
    return (
      <Select
        key={id}
        label={own.length > 1 ? `Output of ${terminal?.name ?? id}` : 'Output'}
        choices={[
          { id: 'own', name: 'its own' },
          ...(others.length > 0 ? [{ id: need.id, name: `with ${listWords(others.map(({ label }) => label))}` }] : []),
          ...choices,
        ]}
        value={others.length > 0 ? need.id : 'own'}
        onChange={(leadId) => edit(call('joinOutput', { needId: id, leadId: leadId === 'own' ? null : leadId }))}
      />
    );
  });
}

/** One device: name, branch, shield, each terminal with where it goes. */
export function DeviceDetail({
  device,
  kind,
  kinds,
}: {
  device: Device;
  kind: DeviceKind;
  kinds: readonly DeviceKind[];
}) {
  const { build, edit, select, derived } = useBuild();
  const [label, setLabel] = useEdited(device.label);
  const [editing, setEditing] = useState(false);
  const [comparing, setComparing] = useState(false);
  const [told, setTold] = useState('');
  const keepInLibrary = async () => {
    const own = await ownKinds();
    const taken = new Set(own.map((one) => one.id));
    // The catalog's own kinds keep their ids; a changed copy gets one of its own.
    const id = freeKindId(`${kind.name} own`, taken);
    try {
      await keepOwnKind({ ...kind, id });
      setTold('Kept in the library.');
    } catch (error) {
      setTold(refusedProblem(error, 'It was not kept').sentence);
    }
  };
  const change = (fields: Partial<Device>) => edit(call('editDevice', { deviceId: device.id, ...fields }));
  return (
    <Panel>
      <Small>{[...kindFacts(kind, build), kind.note].join('. ')}</Small>
      <FieldGrid $min={140}>
        <TextField
          label="Name"
          value={label}
          onChange={setLabel}
          onBlur={() => label.trim() && label !== device.label && change({ label: label.trim() })}
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
        <Serves device={device} kind={kind} onChange={change} />
        <OnBus device={device} kind={kind} />
        <SharedOutput device={device} kind={kind} />
        {build.engine.banks.length > 1 && device.serves.length === 0 && (
          <Select
            label="Bank"
            choices={[
              { id: '0', name: 'whole engine' },
              ...build.engine.banks.map((bank, i) => ({
                id: String(i + 1),
                name: `bank ${i + 1}`,
                note: bank.join('-'),
              })),
            ]}
            value={String(device.bank ?? 0)}
            onChange={(id) => change({ bank: id === '0' ? null : Number(id) })}
          />
        )}
        {hasRole(kind, 'thermocouple') && (
          <Select
            label="Wire"
            choices={[
              { id: 'type-k', name: 'type K all the way' },
              { id: 'copper', name: 'copper' },
            ]}
            value={device.leadWire}
            onChange={(id) => change({ leadWire: id as Device['leadWire'] })}
          />
        )}
        {kind.shielded && (
          <Select
            label="Shield earthed"
            choices={[
              { id: 'ecu-end', name: 'at the ECU' },
              { id: 'both-ends', name: 'at both ends' },
              { id: 'none', name: 'no shield' },
            ]}
            value={device.shield}
            onChange={(id) => change({ shield: id as Device['shield'] })}
          />
        )}
      </FieldGrid>
      <TableScroll aria-label={`Terminals of ${device.label}`}>
        <Table>
          <thead>
            <tr>
              <th scope="col">Terminal</th>
              <th scope="col">Name</th>
              <th scope="col">Goes to</th>
              <th scope="col">Lands on</th>
            </tr>
          </thead>
          <tbody>
            {kind.terminals.map((terminal) => {
              const choices = alternatives(terminal.destination);
              const override = device.overrides[terminal.id];
              const value = override
                ? (choices.find((one) => one.id === JSON.stringify(override))?.id ?? 'own')
                : 'own';
              return (
                <tr key={terminal.id}>
                  <th scope="row">{terminal.id}</th>
                  <td>{terminal.name}</td>
                  <td style={{ minWidth: 190 }}>
                    <Select
                      label={`Where terminal ${terminal.id} goes`}
                      hideLabel
                      choices={choices.map(({ id, name }) => ({ id, name }))}
                      value={value}
                      onChange={(id) =>
                        edit(
                          call('setDestination', {
                            deviceId: device.id,
                            terminalId: terminal.id,
                            destination: choices.find((one) => one.id === id)?.destination ?? null,
                          }),
                        )
                      }
                    />
                  </td>
                  <td>
                    <Button
                      weight="quiet"
                      isDisabled={!derived.net.nodeOf.has(deviceEnd(device.id, terminal.id))}
                      onPress={() => select({ type: 'end', end: deviceEnd(device.id, terminal.id) })}
                    >
                      {landingOf(derived.net, deviceEnd(device.id, terminal.id))}
                    </Button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Table>
      </TableScroll>
      <Row>
        <Checkbox isSelected={device.terminalsConfirmed} onChange={(value) => change({ terminalsConfirmed: value })}>
          I read the terminal order off the part in hand
        </Checkbox>
        {kind.twinRisk && (
          <Checkbox isSelected={device.labelled} onChange={(value) => change({ labelled: value })}>
            Both plug halves carry a label
          </Checkbox>
        )}
      </Row>
      <Photos about={aboutDevice(device.id)} label={device.label} />
      <Row>
        {isBodyPlug(device, kind) ? (
          <Link to="body">Its cavities are on the page Body plugs</Link>
        ) : (
          <>
            <Button weight="quiet" onPress={() => setComparing(true)}>
              Another variant?
            </Button>
            <Button weight="quiet" onPress={() => setEditing(true)}>
              Change what this part is
            </Button>
            <Button weight="quiet" onPress={() => void keepInLibrary()}>
              Keep the part in my library
            </Button>
          </>
        )}
        {told && <Small role="status">{told}</Small>}
      </Row>
      {comparing && <Variants device={device} kind={kind} kinds={kinds} onClose={() => setComparing(false)} />}
      {editing && (
        <KindEditor
          title={kind.name}
          start={kind}
          units={build.units}
          onKeep={(next) => {
            edit(call('editKind', { kind: next }));
            setEditing(false);
          }}
          onClose={() => setEditing(false)}
        />
      )}
      <Row>
        <Button weight="quiet" onPress={() => edit(call('removeDevice', { deviceId: device.id }))}>
          Remove {device.label}
        </Button>
      </Row>
    </Panel>
  );
}

const Panel = styled(Stack)`
  padding: ${space[3]} ${space[4]} ${space[4]};
  margin-bottom: ${space[3]};
  background: ${color.raised};
`;
