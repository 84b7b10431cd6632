import { labelOf } from '~/core/netlist/label';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { relayEnd, type EndKey } from '~/core/ends/ends';
import { fuseRatings, openingSeconds } from '~/core/power/fuse';
import type { Circuit } from '~/core/power/plan';
import { readSize } from '~/core/wire/size';
import { seriesSizes } from '~/core/wire/wire';
import { formatAmps, formatVolts } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { FieldGrid, Row, Small, Stack } from '../../ui/text';
import { color, space } from '../../ui/theme';
import { LengthField } from '../../parts/length-field';

/** Why a proposal is what it is. */
const fuseReason: Record<Circuit['fuseSetBy'], string> = {
  person: '',
  'PW-2': 'The fuse is the smallest whose 80 % cover the load (PW-2).',
  'PW-21': 'The fuse is the smallest that outlasts that (PW-21).',
};
const wireReason: Record<Circuit['squareSetBy'], string> = {
  person: '',
  'PW-1': 'The wire is the thinnest its fuse protects (PW-1).',
  'PW-3': 'The wire is as thick as the volts at the load ask (PW-3).',
  strength: 'The wire is the thinnest that is laid at all.',
};

/** What is decided of one feed: its fuse, its wire, its relay. */
export function CircuitDetail({ circuit, withRelay = true }: { circuit: Circuit; withRelay?: boolean }) {
  const { build, edit, derived, select } = useBuild();
  // The size in use stays to be seen when it is of the other series.
  const sizes = [...new Set([...seriesSizes(build.loom.series).map((size) => size.squareMm), circuit.squareMm])].sort(
    (one, other) => one - other,
  );
  const set = (choice: Parameters<typeof call<'setCircuit'>>[1]['choice']) =>
    edit(call('setCircuit', { circuitId: circuit.id, choice }));
  const derive = (field: 'squareMm' | 'fuseAmps') =>
    edit(call('deriveCircuit', { circuitId: circuit.id, fields: [field] }));
  const opens = openingSeconds(circuit.fuseAmps, circuit.fuseAmps * 2);
  // In the drawing the relay is a part of its own.
  const relay = withRelay ? circuit.relay : null;
  const far = (end: EndKey) => {
    const wire = derived.net.wiresAt.get(end)?.[0];
    return wire ? labelOf(derived.net, wire.from === end ? wire.to : wire.from) : 'no pin yet';
  };
  return (
    <Detail>
      <FieldGrid $min={150}>
        <Select
          label="Fuse"
          choices={[
            { id: 'auto', name: 'derived' },
            ...fuseRatings.map((rating) => ({ id: String(rating), name: `${rating} A` })),
          ]}
          value={circuit.fuseByPerson ? String(circuit.fuseAmps) : 'auto'}
          onChange={(id) => (id === 'auto' ? derive('fuseAmps') : set({ fuseAmps: Number(id) }))}
        />
        <Select
          label="Trunk wire"
          choices={[
            { id: 'auto', name: 'derived' },
            ...sizes.map((squareMm) => ({ id: String(squareMm), name: readSize(squareMm, build) })),
          ]}
          value={circuit.squareByPerson ? String(circuit.squareMm) : 'auto'}
          onChange={(id) => (id === 'auto' ? derive('squareMm') : set({ squareMm: Number(id) }))}
        />
        <LengthField
          label="Trunk length"
          units={build.units}
          value={circuit.lengthMetres}
          minValue={0}
          maxValue={30}
          onChange={(lengthMetres) => set({ lengthMetres })}
        />
        <LengthField
          label="Fuse from its source"
          units={build.units}
          value={circuit.fuseDistanceMetres}
          minValue={0}
          maxValue={30}
          onChange={(fuseDistanceMetres) => set({ fuseDistanceMetres })}
        />
      </FieldGrid>
      {relay && (
        <Row $gap={4}>
          <Segmented
            label="Relay"
            choices={[
              { id: 'plain', name: 'plain' },
              { id: 'diode', name: 'with diode' },
            ]}
            value={relay.suppressed ? 'diode' : 'plain'}
            onChange={(id) => set({ relay: id })}
          />
          <Segmented
            label="Winding"
            choices={[
              { id: 'as-marked', name: '86 supply, 85 driver' },
              { id: 'reversed', name: 'reversed' },
            ]}
            value={relay.reversed ? 'reversed' : 'as-marked'}
            onChange={(id) => set({ winding: id })}
          />
          {(circuit.role === 'pump' || circuit.role === 'coils') && (
            <Segmented
              label="Switched by"
              choices={[
                { id: 'ecu', name: 'ECU' },
                { id: 'key', name: 'key' },
              ]}
              value={relay.control === 'key-run' ? 'key' : 'ecu'}
              onChange={(id) => set({ switchedBy: id })}
            />
          )}
        </Row>
      )}
      {relay && (
        <Row $gap={3}>
          {(['30', '87', '85', '86'] as const).map((terminal) => (
            <Button
              key={terminal}
              weight="quiet"
              onPress={() => select({ type: 'end', end: relayEnd(circuit.id, terminal) })}
            >
              {terminal}: {far(relayEnd(circuit.id, terminal))}
            </Button>
          ))}
        </Row>
      )}
      <Small>
        Feeds {circuit.loads.map((load) => `${load.name} ${formatAmps(load.amps)}`).join(', ')}.{' '}
        {circuit.pulsed &&
          `In pulses, at top speed: mean ${formatAmps(circuit.pulsed.mean)}, ${formatAmps(circuit.pulsed.rms)} RMS, ${formatAmps(circuit.pulsed.peak)} at the peak. `}
        {circuit.loads.length > 1 &&
          `Branches ${readSize(circuit.branchSquareMm, build)}, carrying ${formatAmps(circuit.branchCarriesAmps)}. `}
        {circuit.rush &&
          `As ${circuit.rush.rush.loads.flatMap(({ name, inrush }) => (inrush ? [name] : [])).join(' and ')} ${circuit.rush.rush.loads.length === 1 ? 'starts' : 'start'}, about ${formatAmps(circuit.rush.amps)} for ${circuit.rush.seconds} s. `}
        {circuit.worstHop &&
          `${circuit.worstLoad} loses ${formatVolts(circuit.dropVolts)} of ${formatVolts(circuit.limitVolts)} on its way out, most of it, ${formatVolts(circuit.worstHop.volts)}, from ${labelOf(derived.net, circuit.worstHop.step.from)} to ${labelOf(derived.net, circuit.worstHop.step.to)}. `}
        {circuit.back &&
          `${circuit.back.name} loses ${formatVolts(circuit.back.volts)} of ${formatVolts(circuit.back.limitVolts)} on its way back: ${formatVolts(circuit.dropVolts + circuit.back.volts)} of the loop. `}
        {fuseReason[circuit.fuseSetBy]} {wireReason[circuit.squareSetBy]}{' '}
        {opens &&
          `A ${circuit.fuseAmps} A blade fuse opens at twice its rating within ${opens.least} to ${opens.most} s (ISO 8820-3).`}
      </Small>
    </Detail>
  );
}

const Detail = styled(Stack)`
  padding: ${space[3]};
  background: ${color.raised};
`;
