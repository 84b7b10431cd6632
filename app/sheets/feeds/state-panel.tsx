import { memo } from 'react';
import { styled } from 'styled-components';
import { charges, type Charge } from '~/core/circuit/figures';
import { carStates, type CarState, type Drivable } from '~/core/circuit/car';
import { formatAmps, formatVolts } from '~/core/units/format';
import { Checkbox } from '../../ui/choice';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { Small, Soft, Stack } from '../../ui/text';
import { at, type } from '../../ui/theme';
import type { useCarState } from './car-state';

export const carStateWords: Readonly<Record<CarState, string>> = {
  'key-off': 'off',
  accessory: 'accessories',
  'key-on': 'key on',
  prime: 'prime',
  cranking: 'cranking',
  running: 'running',
};

/** Of more outputs than these only those stand there that are not as usual; the others are chosen from a list. */
const MOST_TICKS = 8;

/** What the ECU drives besides; of what comes in pulses one at a time, as it is tested. */
const Outputs = memo(function Outputs({
  outputs,
  usual,
  driven,
  isTest,
  tick,
}: {
  outputs: readonly Drivable[];
  usual: readonly string[];
  driven: ReadonlySet<string>;
  isTest: boolean;
  tick: (pins: Iterable<string>) => void;
}) {
  const steady = outputs.filter(({ pulsed }) => !pulsed);
  const pulsed = outputs.filter((one) => one.pulsed);
  const ticks =
    steady.length > MOST_TICKS ? steady.filter(({ pinId }) => driven.has(pinId) !== usual.includes(pinId)) : steady;
  const others = steady.filter((one) => !ticks.includes(one));
  const pulsing = pulsed.find(({ pinId }) => driven.has(pinId))?.pinId ?? '';
  const without = (gone: (one: Drivable) => boolean) =>
    [...driven].filter((pin) => !outputs.some((one) => one.pinId === pin && gone(one)));
  const listed = (all: readonly Drivable[]) => all.map(({ pinId, name }) => ({ id: pinId, name: `${name} ${pinId}` }));
  return (
    <>
      {steady.length > 0 && (
        <Driven>
          <legend>
            The ECU drives
            {others.length > 0 && ` ${steady.filter(({ pinId }) => driven.has(pinId)).length} of ${steady.length}`}
          </legend>
          {ticks.map(({ pinId, name }) => (
            <Checkbox
              key={pinId}
              isSelected={driven.has(pinId)}
              onChange={(on) => tick(on ? [...driven, pinId] : without((one) => one.pinId === pinId))}
            >
              {name} <Soft>{pinId}</Soft>
            </Checkbox>
          ))}
        </Driven>
      )}
      {others.length > 0 && (
        <Select
          label="Switch an output over"
          choices={[
            { id: '', name: 'none' },
            ...others.map(({ pinId, name }) => ({
              id: pinId,
              name: `${name} ${pinId}, ${driven.has(pinId) ? 'on' : 'off'}`,
            })),
          ]}
          value=""
          onChange={(pinId) => {
            if (driven.has(pinId)) tick(without((one) => one.pinId === pinId));
            else if (pinId !== '') tick([...driven, pinId]);
          }}
        />
      )}
      {isTest && pulsed.length > 0 && (
        <Select
          label="In pulses, by its test"
          choices={[{ id: '', name: 'none' }, ...listed(pulsed)]}
          value={pulsing}
          onChange={(pinId) => tick([...without((one) => one.pulsed), ...(pinId === '' ? [] : [pinId])])}
        />
      )}
    </>
  );
});

/** The state itself, and how full the battery is where that matters. */
const States = memo(function States({
  state,
  setState,
  charge,
  setCharge,
}: Pick<ReturnType<typeof useCarState>, 'state' | 'setState' | 'charge' | 'setCharge'>) {
  return (
    <>
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
    </>
  );
});

/** Switches of the plan, each as it rests or thrown. */
const Switches = memo(function Switches({
  switches,
  thrown,
  setThrown,
}: Pick<ReturnType<typeof useCarState>, 'switches' | 'thrown' | 'setThrown'>) {
  if (switches.length === 0) return null;
  return (
    <Driven>
      <legend>Switches</legend>
      {switches.map(({ name, title, rests }) => {
        const isOver = thrown.has(name);
        return (
          <Checkbox
            key={name}
            isSelected={isOver}
            onChange={(on) => {
              const next = new Set(thrown);
              if (on) next.add(name);
              else next.delete(name);
              setThrown(next);
            }}
          >
            {title} <Soft>{rests === 'closed' ? 'opened' : 'closed'}</Soft>
          </Checkbox>
        );
      })}
    </Driven>
  );
});

/** In which state of the car the drawing is read, and what else is driven. */
export function StatePanel({ car }: { car: ReturnType<typeof useCarState> }) {
  const { state, setState, charge, setCharge, outputs, usual, driven, tick, reading, note } = car;
  const { switches, thrown, setThrown } = car;
  return (
    <Stack $gap={2}>
      <States state={state} setState={setState} charge={charge} setCharge={setCharge} />
      <Switches switches={switches} thrown={thrown} setThrown={setThrown} />
      {state !== 'key-off' && state !== 'accessory' && (
        <Outputs outputs={outputs} usual={usual} driven={driven} isTest={state === 'key-on'} tick={tick} />
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
