import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { call } from '~/core/build/edits';
import { systems, type DeviceKind } from '~/core/devices/kind';
import type { EcuDefinition } from '~/core/ecu/ecu';
import { cycleDegrees } from '~/core/engine/engine';
import { standardBarometerKpa } from '~/core/sensing/atmosphere';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { EngineForm, useEngineDraft } from '../../parts/engine-form';
import { SheetFrame } from '../../parts/sheet-frame';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Heading, Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space } from '../../ui/theme';
import { AddDevice } from './add-device';
import { DeviceDetail } from './device-detail';

function EngineDialog({ onClose }: { onClose: () => void }) {
  const { build, edit } = useBuild();
  const { draft, setDraft, result } = useEngineDraft(build.engine);
  return (
    <Dialog title="The engine" isOpen onClose={onClose} wide>
      <EngineForm draft={draft} onChange={setDraft} errors={'errors' in result ? result.errors : {}} />
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button
          weight="act"
          isDisabled={'errors' in result}
          onPress={() => {
            if ('engine' in result) edit(call('setEngine', { engine: result.engine }));
            onClose();
          }}
        >
          Use this engine
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Facts({ ecus, onEngine }: { ecus: readonly EcuDefinition[]; onEngine: () => void }) {
  const { build, edit } = useBuild();
  const { engine, site } = build;
  const [vehicle, setVehicle] = useState(build.vehicle);
  const choices = [...ecus, ...(ecus.some((ecu) => ecu.id === build.ecu.id) ? [] : [build.ecu])];
  return (
    <Stack $gap={4}>
      <Stack $gap={2}>
        <Heading>Engine</Heading>
        <p>
          <strong>{engine.name}</strong>
        </p>
        <FactList>
          <dt>fires</dt>
          <dd>
            {engine.firingOrder.join('-')} over {cycleDegrees(engine)}°
          </dd>
          {engine.firingAngles && (
            <>
              <dt>at</dt>
              <dd>{engine.firingAngles.map((angle) => `${angle}°`).join(', ')}</dd>
            </>
          )}
          <dt>air</dt>
          <dd>{engine.aspiration === 'boosted' ? `${engine.boostKpa} kPa boost` : 'atmospheric'}</dd>
          <dt>speed</dt>
          <dd>to {engine.maxRpm} rpm</dd>
          <dt>spark</dt>
          <dd>{engine.ignition === 'direct' ? 'a coil each' : engine.ignition}</dd>
          <dt>fuel</dt>
          <dd>{engine.injection === 'none' ? 'carburettor' : engine.injection}</dd>
        </FactList>
        <Button onPress={onEngine}>Change the engine</Button>
      </Stack>
      <Stack $gap={2}>
        <Heading>ECU</Heading>
        <Select
          label="Model"
          choices={choices.map((ecu) => ({
            id: ecu.id,
            name: ecu.model,
            note: `${ecu.pins.length} cavities; choosing it clears the pins`,
          }))}
          value={build.ecu.id}
          onChange={(id) => {
            const ecu = choices.find((one) => one.id === id);
            if (ecu && ecu.id !== build.ecu.id) edit(call('chooseEcu', { ecu }));
          }}
        />
        <Segmented
          label="What output 1 means"
          choices={[
            { id: 'by-cylinder', name: 'cylinder 1' },
            { id: 'in-turn', name: 'fires first' },
          ]}
          value={build.outputOrder}
          onChange={(outputOrder) => edit(call('setOutputOrder', { outputOrder }))}
        />
      </Stack>
      <Stack $gap={2}>
        <Heading>Place and vehicle</Heading>
        <TextField
          label="Vehicle or machine"
          value={vehicle}
          onChange={setVehicle}
          maxLength={120}
          onBlur={() => vehicle !== build.vehicle && edit(call('renameBuild', { name: build.name, vehicle }))}
        />
        <NumberField
          label="Altitude"
          unit="m"
          value={site.altitudeMetres}
          minValue={-430}
          maxValue={6000}
          onChange={(value) => value !== null && edit(call('setSite', { ...site, altitudeMetres: value }))}
          hint={`Barometer ${standardBarometerKpa(site.altitudeMetres).toFixed(1)} kPa (ISO 2533)`}
        />
        <NumberField
          label="Ambient"
          unit="°C"
          value={site.ambientCelsius}
          minValue={-40}
          maxValue={60}
          onChange={(value) => value !== null && edit(call('setSite', { ...site, ambientCelsius: value }))}
        />
        <Segmented
          label="Starting"
          choices={[
            { id: 'key', name: 'by key' },
            { id: 'button', name: 'push button' },
          ]}
          value={build.power.starting}
          onChange={(starting) => edit(call('setPower', { starting }))}
        />
      </Stack>
    </Stack>
  );
}

function DeviceList({ onAdd }: { onAdd: () => void }) {
  const { derived, selection, select } = useBuild();
  const selected =
    selection?.type === 'device'
      ? selection.deviceId
      : selection?.type === 'end' && selection.end.startsWith('dev:')
        ? selection.end.slice(4, selection.end.lastIndexOf('.'))
        : null;
  if (derived.net.devices.length === 0)
    return (
      <Stack $gap={3}>
        <Heading>Devices</Heading>
        <p>
          Nothing is on the list yet. Walk round the engine and add each sensor, injector, coil and output you find;
          their terminals come with them.
        </p>
        <Button weight="act" onPress={onAdd}>
          <Plus size={18} aria-hidden /> Add the first device
        </Button>
        <Small>To look around first, open a demo build from the garage.</Small>
      </Stack>
    );
  return (
    <Stack $gap={4}>
      {systems.map((system) => {
        const group = derived.net.devices.filter(({ kind }) => kind.system === system);
        if (group.length === 0) return null;
        return (
          <Stack key={system} $gap={1}>
            <Heading>{system}</Heading>
            <ul>
              {group.map(({ device, kind }) => {
                const open = selected === device.id;
                const needs = derived.net.needs.filter((need) => need.deviceId === device.id);
                return (
                  <li key={device.id}>
                    <DeviceRow
                      aria-expanded={open}
                      data-selected={open}
                      onPress={() => select(open ? null : { type: 'device', deviceId: device.id })}
                    >
                      <strong>{device.label}</strong>
                      <Soft>{kind.name}</Soft>
                      <Soft>{plural(kind.terminals.length, 'terminal')}</Soft>
                      <span>{needs.length > 0 ? plural(needs.length, 'pin') : 'no pin'}</span>
                    </DeviceRow>
                    {open && <DeviceDetail key={`${device.id} ${device.label}`} device={device} kind={kind} />}
                  </li>
                );
              })}
            </ul>
          </Stack>
        );
      })}
    </Stack>
  );
}

export function Survey({ ecus, kinds }: { ecus: readonly EcuDefinition[]; kinds: readonly DeviceKind[] }) {
  const { build, derived } = useBuild();
  const [adding, setAdding] = useState(false);
  const [engineOpen, setEngineOpen] = useState(false);
  const open = derived.net.devices.filter(
    ({ device, kind }) => kind.traits.some((one) => one.type === 'trigger') && !device.terminalsConfirmed,
  ).length;
  return (
    <SheetFrame
      sheet="survey"
      summary={
        <>
          {plural(build.devices.length, 'device')} with {plural(derived.net.needs.length, 'need')} for a pin.
          <br />
          <Soft>
            {open > 0
              ? `${plural(open, 'trigger sensor')} to check in the hand.`
              : build.vehicle || 'Name the vehicle below.'}
          </Soft>
        </>
      }
      actions={
        <Button weight="act" onPress={() => setAdding(true)}>
          <Plus size={18} aria-hidden /> Add a device
        </Button>
      }
    >
      <Columns>
        <Facts key={build.vehicle} ecus={ecus} onEngine={() => setEngineOpen(true)} />
        <DeviceList onAdd={() => setAdding(true)} />
      </Columns>
      <AddDevice kinds={kinds} isOpen={adding} onClose={() => setAdding(false)} />
      {engineOpen && <EngineDialog onClose={() => setEngineOpen(false)} />}
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: 256px minmax(0, 1fr);
  gap: ${space[5]};
  ${at.narrow} {
    grid-template-columns: 1fr;
  }
  ${at.print} {
    grid-template-columns: 1fr;
  }
`;
const FactList = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1px ${space[3]};
  dt {
    color: ${color.soft};
  }
`;
const DeviceRow = styled(AriaButton)`
  display: grid;
  grid-template-columns: minmax(110px, 1.1fr) minmax(0, 2fr) 90px 56px;
  gap: ${space[3]};
  width: 100%;
  padding: 5px ${space[2]};
  border: 0;
  border-radius: ${shape.radius};
  background: none;
  text-align: left;
  cursor: pointer;
  & > :last-child {
    text-align: right;
  }
  & > :nth-child(2) {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &[data-hovered] {
    background: ${color.raised};
  }
  &[data-selected='true'] {
    background: ${color.selectionWash};
  }
  ${at.narrow} {
    grid-template-columns: 1fr auto;
    min-height: ${shape.target};
    & > :nth-child(2),
    & > :nth-child(3) {
      display: none;
    }
  }
`;
