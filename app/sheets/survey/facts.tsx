import { coilWords } from '../../parts/engine-sketch';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import type { EcuDefinition } from '~/core/ecu/ecu';
import { cycleDegrees } from '~/core/engine/engine';
import { alternatorFor, runningAmps } from '~/core/power/total';
import { standardBarometerKpa } from '~/core/sensing/atmosphere';
import { formatAmps } from '~/core/units/format';
import { readQuantity, type Units } from '~/core/units/units';
import { useBuild } from '../../build/context';
import { QuantityField } from '../../parts/quantity-field';
import { rememberUnits } from '../../storage/units';
import { Button } from '../../ui/button';
import { useEdited } from '../../ui/edited';
import { Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Heading, OnScreen, Row, Small, Stack } from '../../ui/text';
import { color, space } from '../../ui/theme';
import { MeasureField } from '../../parts/scale-field';

/** By itself: what is drawn with everything on is another figure after every edit of the loom. */
function Alternator() {
  const { build, derived, edit } = useBuild();
  const drawn = runningAmps(derived.net);
  return (
    <NumberField
      label="Alternator is marked"
      unit="A"
      value={build.power.alternatorAmps ?? null}
      minValue={1}
      maxValue={500}
      onChange={(alternatorAmps) => edit(call('setPower', { alternatorAmps }))}
      hint={`${formatAmps(drawn)} with everything on: ${alternatorFor(drawn)} A and more`}
    />
  );
}

export function Facts({ ecus, onEngine }: { ecus: readonly EcuDefinition[]; onEngine: () => void }) {
  const { build, edit } = useBuild();
  const { engine, site, units } = build;
  const [vehicle, setVehicle] = useEdited(build.vehicle);
  const setUnits = (part: Partial<Units>) => {
    edit(call('setUnits', part));
    rememberUnits({ ...units, ...part });
  };
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
          <dd>
            {engine.aspiration === 'boosted'
              ? `${readQuantity('pressure', engine.boostKpa, build)} boost`
              : 'atmospheric'}
          </dd>
          <dt>speed</dt>
          <dd>to {engine.maxRpm} rpm</dd>
          <dt>spark</dt>
          <dd>{coilWords(engine)}</dd>
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
        <MeasureField
          label="Altitude"
          measure="altitude"
          units={units}
          value={site.altitudeMetres}
          minValue={-430}
          maxValue={6000}
          onChange={(value) => value !== null && edit(call('setSite', { ...site, altitudeMetres: value }))}
          hint={`Barometer ${readQuantity('pressure', standardBarometerKpa(site.altitudeMetres), build)} (ISO 2533)`}
        />
        <QuantityField
          label="Ambient"
          quantity="temperature"
          units={units}
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
        <Segmented
          label="Charging"
          choices={[
            { id: 'alternator', name: 'alternator' },
            { id: 'none', name: 'none: total loss' },
          ]}
          value={build.power.charging}
          onChange={(charging) => edit(call('setPower', { charging }))}
        />
        {build.power.charging === 'alternator' && <Alternator />}
        <NumberField
          label="Battery"
          unit="Ah"
          value={build.power.batteryAh}
          minValue={1}
          maxValue={500}
          onChange={(batteryAh) => batteryAh !== null && edit(call('setPower', { batteryAh }))}
        />
      </Stack>
      <OnScreen as="div">
        <Stack $gap={2}>
          <Heading>Read in</Heading>
          <Segmented
            label="Pressure"
            choices={[
              { id: 'kPa', name: 'kPa' },
              { id: 'bar', name: 'bar' },
              { id: 'psi', name: 'psi' },
              { id: 'inHg', name: 'inHg' },
            ]}
            value={units.pressure}
            onChange={(pressure) => setUnits({ pressure })}
          />
          <Segmented
            label="Lengths, wire, displacement, power, flow"
            choices={[
              { id: 'metric', name: 'metric' },
              { id: 'inch', name: 'feet, AWG, hp' },
            ]}
            value={units.workshop}
            onChange={(workshop) => setUnits({ workshop })}
          />
          <Row $gap={3}>
            <Segmented
              label="Temperature"
              choices={[
                { id: 'C', name: '°C' },
                { id: 'F', name: '°F' },
              ]}
              value={units.temperature}
              onChange={(temperature) => setUnits({ temperature })}
            />
            <Segmented
              label="Mixture"
              choices={[
                { id: 'lambda', name: 'λ' },
                { id: 'AFR', name: 'AFR' },
              ]}
              value={units.mixture}
              onChange={(mixture) => setUnits({ mixture })}
            />
          </Row>
          <Small>Everywhere in this build: sheets, checks and print.</Small>
        </Stack>
      </OnScreen>
    </Stack>
  );
}

const FactList = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1px ${space[3]};
  dt {
    color: ${color.soft};
  }
`;
