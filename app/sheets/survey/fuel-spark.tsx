import { useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import type { DeviceKind, TraitOf, VoltsTable } from '~/core/devices/kind';
import { bsfcOn, injectorFigures, type InjectorFigures } from '~/core/engine/fuel';
import { coilFigures, sparkedEngine } from '~/core/power/spark';
import { formatAmps, formatOhms, plural } from '~/core/units/format';
import { fuelWords, fuels, readQuantity, type Fuel } from '~/core/units/units';
import { useBuild } from '../../build/context';
import { QuantityField } from '../../parts/quantity-field';
import { VoltsTableForm } from '../../parts/volts-table-form';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { Table } from '../../ui/table';
import { Callout, FieldGrid, Heading, Row, Small, Soft, Stack, TwoColumns } from '../../ui/text';
import { color, shape, space, type } from '../../ui/theme';
import { SheetFrame } from '../../parts/sheet-frame';
import { useFeeding, useFitted } from './fitted';
import { readMeasure } from '~/core/units/workshop';
import { MeasureField } from '../../parts/scale-field';

type Injector = TraitOf<'injector'>;
type Coil = TraitOf<'coil'>;

function Figure({ name, value, tone }: { name: string; value: string; tone?: 'bad' | 'good' }) {
  return (
    <FigureBox data-tone={tone}>
      <strong>{value}</strong>
      <Small>{name}</Small>
    </FigureBox>
  );
}

function Demand() {
  const { build, edit } = useBuild();
  const { fuel } = build;
  const setFuel = (next: Fuel) =>
    edit(call('setFuel', { fuel: next, bsfc: Math.round(bsfcOn(next, fuel.bsfc / bsfcOn(fuel.fuel, 1))) }));
  return (
    <Stack $gap={3}>
      <Heading>What the engine asks for</Heading>
      <FieldGrid $min={150}>
        <Select
          label="Fuel"
          choices={fuels.map((id) => ({ id, name: fuelWords[id] }))}
          value={fuel.fuel}
          onChange={(id) => setFuel(id as Fuel)}
          hint="Consumption follows its heating value"
        />
        <MeasureField
          label="Power goal at the crank"
          measure="power"
          units={build.units}
          value={fuel.powerKw}
          minValue={1}
          maxValue={3000}
          onChange={(powerKw) => powerKw !== null && edit(call('setFuel', { powerKw }))}
        />
        <MeasureField
          label="Specific consumption"
          measure="consumption"
          units={build.units}
          value={fuel.bsfc}
          minValue={150}
          maxValue={1500}
          hint={`Petrol: about ${readMeasure('consumption', 280, build)} without boost, ${readMeasure('consumption', 330, build)} with (common practice)`}
          onChange={(bsfc) => bsfc !== null && edit(call('setFuel', { bsfc }))}
        />
        <QuantityField
          label="Rail pressure over the manifold"
          quantity="pressure"
          units={build.units}
          value={fuel.railKpa}
          minValue={20}
          maxValue={2000}
          onChange={(railKpa) => railKpa !== null && edit(call('setFuel', { railKpa }))}
        />
        <NumberField
          label="Open at most"
          unit="%"
          value={Math.round(fuel.maxDuty * 1000) / 10}
          minValue={30}
          maxValue={100}
          hint="85 % keeps a reserve"
          onChange={(percent) => percent !== null && edit(call('setFuel', { maxDuty: percent / 100 }))}
        />
      </FieldGrid>
    </Stack>
  );
}

function InjectorData({
  kind,
  injector,
  count,
  all,
}: {
  kind: DeviceKind;
  injector: Injector;
  count: number;
  all: InjectorFigures;
}) {
  const { build } = useBuild();
  const [editing, setEditing] = useState(false);
  const own = injectorFigures(build.engine, build.fuel, injector, count);
  const figures = { ...all, flowCcPerMinute: own.flowCcPerMinute, ampsAt13: own.ampsAt13 };
  const small = figures.duty > build.fuel.maxDuty;
  return (
    <Stack $gap={3}>
      <Row>
        <strong>
          {count} × {kind.name}
        </strong>
        <Button weight="quiet" onPress={() => setEditing(true)}>
          Change its data
        </Button>
      </Row>
      <Figures>
        <Figure
          name={`open at ${readMeasure('power', build.fuel.powerKw, build)}, ${build.engine.maxRpm} rpm`}
          value={`${(figures.duty * 100).toFixed(0)} %`}
          tone={small ? 'bad' : 'good'}
        />
        <Figure
          name="each needs, at this rail pressure"
          value={readMeasure('flow', figures.requiredCcPerMinute, build)}
        />
        <Figure
          name="each gives, by the root of the pressure"
          value={readMeasure('flow', figures.flowCcPerMinute, build)}
          tone={small ? 'bad' : undefined}
        />
        <Figure
          name={`fed at ${(build.fuel.maxDuty * 100).toFixed(0)} %`}
          value={readMeasure('power', figures.powerKw, build)}
        />
        <Figure
          name={`pulse at ${build.engine.maxRpm} rpm, dead time in it`}
          value={`${figures.pulseMilliseconds.toFixed(2)} ms`}
        />
        <Figure name={`${formatOhms(injector.ohms)} at 13.5 V`} value={formatAmps(figures.ampsAt13)} />
      </Figures>
      <VoltsRow
        name="Dead time"
        table={injector.dead}
        empty="No dead time known: fuel at idle and at low battery will be wrong."
      />
      {editing && <InjectorDialog kind={kind} injector={injector} onClose={() => setEditing(false)} />}
    </Stack>
  );
}

function VoltsRow({ name, table, empty }: { name: string; table: VoltsTable; empty: string }) {
  if (table.length === 0) return <Callout $tone="fix">{empty}</Callout>;
  return (
    <p>
      <Soft>{name}</Soft> {table.map((row) => `${row.volts} V ${row.milliseconds} ms`).join(' · ')}
      {table.length === 1 && <Soft> · one voltage only: it grows fast while cranking</Soft>}
    </p>
  );
}

function InjectorDialog({ kind, injector, onClose }: { kind: DeviceKind; injector: Injector; onClose: () => void }) {
  const { build, edit } = useBuild();
  const [draft, setDraft] = useState(injector);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = () => {
    edit(
      call('editKind', {
        kind: { ...kind, traits: kind.traits.map((one) => (one.type === 'injector' ? draft : one)) },
      }),
    );
    onClose();
  };
  return (
    <Dialog title={kind.name} isOpen onClose={onClose}>
      <FieldGrid $min={150}>
        <NumberField
          label="Resistance"
          unit="Ω"
          value={draft.ohms}
          minValue={0.5}
          maxValue={100}
          onChange={(ohms) => ohms !== null && setDraft({ ...draft, ohms })}
        />
        <MeasureField
          label="Flow"
          measure="flow"
          units={build.units}
          value={draft.flowCcPerMinute}
          minValue={10}
          maxValue={5000}
          onChange={(flow) => flow !== null && setDraft({ ...draft, flowCcPerMinute: flow })}
          hint="1 lb/h of petrol is 10.5 cc/min"
        />
        <QuantityField
          label="measured at"
          quantity="pressure"
          units={build.units}
          value={draft.atKpa}
          minValue={20}
          maxValue={2000}
          onChange={(kpa) => kpa !== null && setDraft({ ...draft, atKpa: kpa })}
        />
      </FieldGrid>
      <VoltsTableForm
        label="Dead time"
        table={draft.dead}
        mayBeEmpty
        onChange={(dead, said) => {
          setProblem(said);
          if (said === null) setDraft({ ...draft, dead });
        }}
      />
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button weight="act" isDisabled={problem !== null} onPress={keep}>
          Keep
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function CoilData({ kind, coil, count }: { kind: DeviceKind; coil: Coil; count: number }) {
  const { build } = useBuild();
  const [editing, setEditing] = useState(false);
  const figures = coilFigures(sparkedEngine(build), coil);
  const fits = figures.fitsToRpm >= build.engine.maxRpm;
  return (
    <Stack $gap={3}>
      <Row>
        <strong>
          {count} × {kind.name}
        </strong>
        <Button weight="quiet" onPress={() => setEditing(true)}>
          Change its data
        </Button>
      </Row>
      <Figures>
        <Figure
          name={fits ? `its dwell fits, past ${build.engine.maxRpm} rpm` : 'its dwell fits no further'}
          value={fits ? 'all the way' : `${Math.floor(figures.fitsToRpm / 50) * 50} rpm`}
          tone={fits ? 'good' : 'bad'}
        />
        <Figure
          name={`longest dwell at ${build.engine.maxRpm} rpm`}
          value={`${figures.roomMilliseconds.toFixed(1)} ms`}
        />
        <Figure name="average of one coil there" value={formatAmps(figures.averageAmps)} />
        <Figure name="average of all" value={formatAmps(figures.averageAmps * count)} />
      </Figures>
      <Table>
        <thead>
          <tr>
            <th scope="col">battery</th>
            <th scope="col">dwell</th>
            <th scope="col">primary current</th>
            <th scope="col">energy</th>
          </tr>
        </thead>
        <tbody>
          {figures.rows.map((row) => (
            <tr key={row.volts}>
              <th scope="row">{row.volts} V</th>
              <td>{row.dwellMilliseconds.toFixed(1)} ms</td>
              <td>{formatAmps(row.amps)}</td>
              <td>{row.millijoules.toFixed(0)} mJ</td>
            </tr>
          ))}
        </tbody>
      </Table>
      <Small>
        {formatOhms(coil.primaryOhms)} and {coil.inductanceMillihenry} mH: i = (V/R)(1 − e^(−tR/L)), E = L i²/2.
      </Small>
      {editing && <CoilDialog kind={kind} coil={coil} onClose={() => setEditing(false)} />}
    </Stack>
  );
}

function CoilDialog({ kind, coil, onClose }: { kind: DeviceKind; coil: Coil; onClose: () => void }) {
  const { edit } = useBuild();
  const [draft, setDraft] = useState(coil);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = () => {
    edit(
      call('editKind', { kind: { ...kind, traits: kind.traits.map((one) => (one.type === 'coil' ? draft : one)) } }),
    );
    onClose();
  };
  return (
    <Dialog title={kind.name} isOpen onClose={onClose}>
      <Callout $tone="stop">
        <span>
          Too long a dwell, or the wrong edge, overheats a coil within seconds. Coils stay unplugged at first power-up.
        </span>
      </Callout>
      <FieldGrid $min={150}>
        <NumberField
          label="Primary resistance"
          unit="Ω"
          value={draft.primaryOhms}
          minValue={0.05}
          maxValue={20}
          onChange={(ohms) => ohms !== null && setDraft({ ...draft, primaryOhms: ohms })}
        />
        <NumberField
          label="Primary inductance"
          unit="mH"
          value={draft.inductanceMillihenry}
          minValue={0.1}
          maxValue={50}
          onChange={(mh) => mh !== null && setDraft({ ...draft, inductanceMillihenry: mh })}
        />
      </FieldGrid>
      <VoltsTableForm
        label="Dwell"
        table={draft.dwell}
        onChange={(dwell, said) => {
          setProblem(said);
          if (said === null) setDraft({ ...draft, dwell });
        }}
      />
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button weight="act" isDisabled={problem !== null} onPress={keep}>
          Keep
        </Button>
      </DialogActions>
    </Dialog>
  );
}

export function FuelSpark() {
  const { build } = useBuild();
  const injectors = useFitted('injector');
  const coils = useFitted('coil');
  const figures = useFeeding();
  return (
    <SheetFrame
      summary={
        <>
          {figures
            ? `${plural(figures.count, 'injector')} feed ${readMeasure('power', figures.powerKw, build)}; the goal is ${readMeasure('power', build.fuel.powerKw, build)}.`
            : `The goal is ${readMeasure('power', build.fuel.powerKw, build)}.`}
          <br />
          <Soft>
            {fuelWords[build.fuel.fuel]} at {readQuantity('pressure', build.fuel.railKpa, build)} over the manifold.
          </Soft>
        </>
      }
    >
      <TwoColumns>
        <Stack $gap={5}>
          <Demand />
          <Stack $gap={4}>
            <Heading>Injectors</Heading>
            {injectors.length === 0 && <p>No injector is on the list yet: add them on the page Devices.</p>}
            {figures &&
              injectors.map((one) => (
                <InjectorData key={one.kind.id} kind={one.kind} injector={one.trait} count={one.count} all={figures} />
              ))}
          </Stack>
        </Stack>
        <Stack $gap={4}>
          <Heading>Coils</Heading>
          {coils.length === 0 && <p>No coil is on the list yet: add them on the page Devices.</p>}
          {coils.map((one) => (
            <CoilData key={one.kind.id} kind={one.kind} coil={one.trait} count={one.count} />
          ))}
        </Stack>
      </TwoColumns>
    </SheetFrame>
  );
}

const Figures = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: ${space[3]};
`;
const FigureBox = styled.div`
  display: grid;
  align-content: start;
  border-left: 3px solid ${color.rule};
  padding-left: ${space[2]};
  & > strong {
    font-size: ${type.lead};
  }
  &[data-tone='bad'] {
    border-color: ${color.stop};
    & > strong {
      color: ${color.stop};
    }
  }
  &[data-tone='good'] {
    border-color: ${color.proved};
  }
  border-radius: ${shape.radius};
`;
