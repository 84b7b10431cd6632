import { call } from '~/core/edits';
import { useBuild } from '../../build/context';
import { LengthField } from '../../parts/length-field';
import { QuantityField } from '../../parts/quantity-field';
import { MeasureField } from '../../parts/scale-field';
import { Segmented } from '../../ui/choice';
import { Select } from '../../ui/select';
import { FieldGrid, Heading, Small, Stack } from '../../ui/text';

const joiningNotes = {
  crimp: 'Crimped splice: quick and sure with the right tool; needs the right barrel for the sum of sizes.',
  'solder-sleeve': 'Solder sleeve: joins and seals in one heat; look for a full flow all round.',
  'solder-and-shrink': 'Solder and heat-shrink: cheap and slim; stiff beside the joint, so support it there.',
} as const;

/** What holds for the whole loom. */
export function Choices() {
  const { build, edit } = useBuild();
  const { loom } = build;
  // In a tree holes and heat are said of its pieces.
  const hasTree = Object.keys(build.tree.nodes).length > 0;
  return (
    <Stack $gap={3}>
      <Heading>How it is made</Heading>
      <FieldGrid $min={130}>
        <Select
          label="Order of work"
          choices={[
            { id: 'powers-first', name: 'Powers first' },
            { id: 'engine-side-first', name: 'Engine first' },
            { id: 'shortest-first', name: 'Shortest first' },
          ]}
          value={loom.orderOfWork}
          onChange={(id) => edit(call('setLoom', { orderOfWork: id as typeof loom.orderOfWork }))}
        />
        <Select
          label="Covering"
          choices={[
            { id: 'tape', name: 'Tape' },
            { id: 'conduit', name: 'Conduit' },
            { id: 'braid', name: 'Braid' },
            { id: 'sealed', name: 'Sealed', note: 'nothing can be added later' },
          ]}
          value={loom.covering}
          onChange={(id) => edit(call('setLoom', { covering: id as typeof loom.covering }))}
        />
        <Select
          label="Joining"
          choices={[
            { id: 'crimp', name: 'Crimped' },
            { id: 'solder-sleeve', name: 'Solder sleeve' },
            { id: 'solder-and-shrink', name: 'Soldered' },
          ]}
          value={loom.joining}
          onChange={(id) => edit(call('setLoom', { joining: id as typeof loom.joining }))}
        />
        <Select
          label="Origin"
          choices={[
            { id: 'new', name: 'New wire' },
            { id: 'stripped-donor', name: 'Donor loom' },
            { id: 'adapter', name: 'Adapter' },
            { id: 'flying-lead', name: 'Flying leads' },
          ]}
          value={loom.origin}
          onChange={(id) => edit(call('setLoom', { origin: id as typeof loom.origin }))}
        />
        <Segmented
          label="Wire on the shelf"
          choices={[
            { id: 'metric', name: 'mm²' },
            { id: 'awg', name: 'AWG' },
          ]}
          value={loom.series}
          onChange={(series) => edit(call('setLoom', { series }))}
        />
        <LengthField
          label="Slack on each wire"
          units={build.units}
          value={loom.slackMetres}
          minValue={0}
          maxValue={2}
          onChange={(slackMetres) => edit(call('setLoom', { slackMetres }))}
        />
        {loom.origin === 'flying-lead' && (
          <LengthField
            label="Leads are long"
            units={build.units}
            value={loom.leadMetres ?? 0}
            minValue={0}
            maxValue={30}
            onChange={(leadMetres) => edit(call('setLoom', { leadMetres: leadMetres === 0 ? undefined : leadMetres }))}
          />
        )}
        {!hasTree && (
          <>
            <MeasureField
              label="Hole it goes through"
              measure="diameter"
              units={build.units}
              value={loom.holeMillimetres}
              minValue={5}
              maxValue={200}
              onChange={(value) => value !== null && edit(call('setLoom', { holeMillimetres: value }))}
            />
            <QuantityField
              quantity="temperature"
              units={build.units}
              label="Hottest zone"
              value={loom.zoneCelsius}
              minValue={-40}
              maxValue={250}
              onChange={(value) => value !== null && edit(call('setLoom', { zoneCelsius: value }))}
            />
          </>
        )}
        <QuantityField
          quantity="temperature"
          units={build.units}
          label="Insulation rated"
          value={loom.wireCelsius}
          minValue={60}
          maxValue={250}
          onChange={(value) => value !== null && edit(call('setLoom', { wireCelsius: value }))}
        />
      </FieldGrid>
      <Small>{joiningNotes[loom.joining]}</Small>
    </Stack>
  );
}
