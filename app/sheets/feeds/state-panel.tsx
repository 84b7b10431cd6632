import { styled } from 'styled-components';
import { charges, type Charge } from '~/core/circuit/figures';
import { carStates, type CarState } from '~/core/circuit/car';
import { formatAmps, formatVolts } from '~/core/units/format';
import { Checkbox } from '../../ui/choice';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { Small, Soft, Stack } from '../../ui/text';
import { at, type } from '../../ui/theme';
import type { useCarState } from './car-state';

export const carStateWords: Readonly<Record<CarState, string>> = {
  'key-off': 'off',
  'key-on': 'key on',
  prime: 'prime',
  cranking: 'cranking',
  running: 'running',
};

/** In which state of the car the drawing is read, and what else is driven. */
export function StatePanel({ car }: { car: ReturnType<typeof useCarState> }) {
  const { state, setState, charge, setCharge, outputs, driven, drive, pulsing, pulse, reading, note } = car;
  const steady = outputs.filter(({ pulsed }) => !pulsed);
  const pulsed = outputs.filter((one) => one.pulsed);
  return (
    <Stack $gap={2}>
      <Segmented
        label="The car is"
        stacked
        choices={carStates.map((id) => ({ id, name: carStateWords[id] }))}
        value={state}
        onChange={setState}
      />
      {state !== 'running' && (
        <Segmented
          label="Battery"
          stacked
          choices={(Object.keys(charges) as Charge[]).map((id) => ({ id, name: id }))}
          value={charge}
          onChange={setCharge}
        />
      )}
      {state !== 'key-off' && steady.length > 0 && (
        <Driven>
          <legend>The ECU drives</legend>
          {steady.map(({ pinId, name }) => (
            <Checkbox key={pinId} isSelected={driven.has(pinId)} onChange={(on) => drive(pinId, on)}>
              {name} <Soft>{pinId}</Soft>
            </Checkbox>
          ))}
        </Driven>
      )}
      {state === 'key-on' && pulsed.length > 0 && (
        <Select
          label="In pulses, by its test"
          choices={[
            { id: '', name: 'none' },
            ...pulsed.map(({ pinId, name }) => ({ id: pinId, name: `${name} ${pinId}` })),
          ]}
          value={pulsing ?? ''}
          onChange={(pinId) => pulse(pinId === '' ? null : pinId)}
        />
      )}
      <p>
        <Figure>{formatAmps(reading.total)}</Figure>
        <br />
        <Small>
          {reading.battery === null ? 'no battery' : `battery ${formatVolts(reading.battery)}`}
          {note}
        </Small>
      </p>
    </Stack>
  );
}

const Driven = styled.fieldset`
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  ${at.tablet} {
    display: flex;
    flex-wrap: wrap;
    gap: 0 16px;
    legend {
      width: 100%;
    }
  }
  legend {
    padding: 0;
    margin-bottom: 2px;
  }
  ${at.print} {
    display: none;
  }
`;
const Figure = styled.strong`
  font-size: ${type.title};
`;
