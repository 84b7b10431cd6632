import { memo } from 'react';
import { styled } from 'styled-components';
import type { Device } from '~/core/build/schema';
import { call } from '~/core/edits';
import type { Units } from '~/core/units/units';
import { useBuild } from '../../build/context';
import { FindingMark } from '../../parts/findings/finding-mark';
import { LengthField } from '../../parts/length-field';
import { ShortName } from '../../parts/short-name';
import { Button } from '../../ui/button';
import { Chunks } from '../../ui/chunks';
import { Heading, Small, Stack } from '../../ui/text';
import { space } from '../../ui/theme';

const BranchRow = memo(function BranchRow({
  device,
  isKnown,
  units,
}: {
  device: Device;
  isKnown: boolean;
  units: Units;
}) {
  const { edit, select } = useBuild();
  return (
    <Branch>
      <Button weight="quiet" isDisabled={!isKnown} onPress={() => select({ type: 'device', deviceId: device.id })}>
        <ShortName label={device.label} />
      </Button>
      <FindingMark thing={{ type: 'device', deviceId: device.id }} />
      <LengthField
        label={`Branch of ${device.label}`}
        hideLabel
        units={units}
        value={device.branchMetres}
        minValue={0}
        maxValue={30}
        onChange={(branchMetres) => edit(call('editDevice', { deviceId: device.id, branchMetres }))}
      />
    </Branch>
  );
});

/** One typed length for each device: the loom before it lies in a tree. */
export function Branches() {
  const { build } = useBuild();
  const { devices, kinds, units } = build;
  return (
    <Stack $gap={2}>
      <Heading>Branches</Heading>
      <Small>From the ECU plug to the device, along the route.</Small>
      <div role="list">
        <Chunks items={devices} rowPixels={36} as="div">
          {(device) => (
            <BranchRow key={device.id} device={device} isKnown={kinds[device.kindId] !== undefined} units={units} />
          )}
        </Chunks>
      </div>
    </Stack>
  );
}

const Branch = styled.div.attrs({ role: 'listitem' })`
  display: grid;
  grid-template-columns: 1fr auto 110px;
  & > :last-child {
    grid-column: 3;
  }
  gap: ${space[2]};
  align-items: center;
  padding: 1px 0;
  & > button {
    justify-content: start;
    text-align: left;
  }
`;
