import { useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { vehicles, type EngineSeat, type Vehicle } from '~/core/tree/tree';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Heading, Row, Small, Stack } from '../../ui/text';

export const vehicleWords: Readonly<Record<Vehicle, string>> = {
  car: 'Car',
  motorcycle: 'Motorcycle',
  boat: 'Boat',
  kart: 'Kart',
  stationary: 'Stationary',
};
export const seatWords: Readonly<Record<EngineSeat, string>> = {
  front: 'in front',
  middle: 'in the middle',
  rear: 'behind',
};

/** Before there is a tree: what it lies in, and the first one in one press. */
export function ProposeTree() {
  const { build, edit } = useBuild();
  const [vehicle, setVehicle] = useState<Vehicle>(build.tree.vehicle);
  const [engine, setEngine] = useState<EngineSeat>(build.tree.engine);
  return (
    <First $gap={4}>
      <Heading>Lay the loom in the vehicle</Heading>
      <p>
        So far each device has one typed length. In a tree every wire takes its way: lengths come from pieces you
        measure with a string, bundles and holes from what really lies together.
      </p>
      <Segmented
        label="It lies in"
        choices={vehicles.map((id) => ({ id, name: vehicleWords[id] }))}
        value={vehicle}
        onChange={setVehicle}
      />
      {vehicle === 'car' && (
        <Segmented
          label="The engine is"
          choices={(['front', 'middle', 'rear'] as const).map((id) => ({ id, name: seatWords[id] }))}
          value={engine}
          onChange={setEngine}
        />
      )}
      <Row>
        <Button weight="act" onPress={() => edit(call('proposeTree', { vehicle, engine }))}>
          Propose a tree
        </Button>
        <Small>
          From the devices by system and place; no wire gets shorter than its branch was typed. Undo takes it back.
        </Small>
      </Row>
    </First>
  );
}

const First = styled(Stack)`
  max-width: 620px;
`;
