import { deviceAt } from '~/core/ends/ends';
import { Plus } from 'lucide-react';
import { memo, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { systems, type DeviceKind } from '~/core/devices/kind';
import type { Device } from '~/core/build/schema';
import type { EcuDefinition } from '~/core/ecu/ecu';
import type { Selection } from '~/core/netlist/run';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Heading, Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space } from '../../ui/theme';
import { AddDevice } from './add-device';
import { DeviceDetail } from './device-detail';
import { EngineDialog } from './engine-dialog';
import { Facts } from './facts';
import { FindingMark } from '../../parts/findings/finding-mark';
import { SheetFrame } from '../../parts/sheet-frame';

/** One device, drawn again only when something of it is other. */
const DeviceItem = memo(function DeviceItem({
  device,
  kind,
  kinds,
  pins,
  open,
  select,
}: {
  device: Device;
  kind: DeviceKind;
  kinds: readonly DeviceKind[];
  /** How many of its needs take a pin. */
  pins: number;
  open: boolean;
  select: (selection: Selection | null) => void;
}) {
  return (
    <li>
      <Line>
        <DeviceRow
          aria-expanded={open}
          data-selected={open}
          onPress={() => select(open ? null : { type: 'device', deviceId: device.id })}
        >
          <strong>{device.label}</strong>
          <Soft>{kind.name}</Soft>
          <Soft>{plural(kind.terminals.length, 'terminal')}</Soft>
          <span>{pins > 0 ? plural(pins, 'pin') : 'no pin'}</span>
        </DeviceRow>
        <FindingMark thing={{ type: 'device', deviceId: device.id }} />
      </Line>
      {open && <DeviceDetail device={device} kind={kind} kinds={kinds} />}
    </li>
  );
});

function DeviceList({ kinds, onAdd }: { kinds: readonly DeviceKind[]; onAdd: () => void }) {
  const { derived, selection, select } = useBuild();
  const selected =
    selection?.type === 'device' ? selection.deviceId : selection?.type === 'end' ? deviceAt(selection.end) : null;
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
              {group.map(({ device, kind }) => (
                <DeviceItem
                  key={device.id}
                  device={device}
                  kind={kind}
                  kinds={kinds}
                  pins={derived.net.needsOf.get(device.id)?.length ?? 0}
                  open={selected === device.id}
                  select={select}
                />
              ))}
            </ul>
          </Stack>
        );
      })}
    </Stack>
  );
}

export function Survey({
  ecus,
  kinds,
  own,
}: {
  ecus: readonly EcuDefinition[];
  kinds: readonly DeviceKind[];
  /** Ids of the kinds that are the person's own. */
  own: readonly string[];
}) {
  const { build, derived } = useBuild();
  const [adding, setAdding] = useState(false);
  const [engineOpen, setEngineOpen] = useState(false);
  const open = derived.net.devices.filter(
    ({ device, kind }) => kind.traits.some((one) => one.type === 'trigger') && !device.terminalsConfirmed,
  ).length;
  return (
    <SheetFrame
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
        <Facts ecus={ecus} onEngine={() => setEngineOpen(true)} />
        <DeviceList kinds={kinds} onAdd={() => setAdding(true)} />
      </Columns>
      <AddDevice kinds={kinds} own={own} isOpen={adding} onClose={() => setAdding(false)} />
      {engineOpen && <EngineDialog kinds={kinds} onClose={() => setEngineOpen(false)} />}
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
/** A device, and beside it what is found of it. */
const Line = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 64px;
  align-items: center;
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  ${at.print} {
    display: block;
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
