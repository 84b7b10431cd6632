import { memo } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { coveringWords, pullingOf, type SegmentFigures } from '~/core/loom/bundles';
import { labelOf } from '~/core/netlist/label';
import { segmentName } from '~/core/loom/names';
import { coverings, usualCelsius, zones, type Covering, type Zone } from '~/core/tree/tree';
import { ringsOf } from '~/core/tree/ways';
import { plural } from '~/core/units/format';
import { readQuantity } from '~/core/units/units';
import { readLength, readMeasure } from '~/core/units/workshop';
import { readSize } from '~/core/wire/size';
import { useBuild } from '../../build/context';
import { LengthField } from '../../parts/length-field';
import { QuantityField } from '../../parts/quantity-field';
import { MeasureField } from '../../parts/scale-field';
import { Button } from '../../ui/button';
import { Checkbox } from '../../ui/choice';
import { Menu } from '../../ui/menu';
import { Select } from '../../ui/select';
import { FieldGrid, Row, Small, Stack } from '../../ui/text';
import { color, space, type } from '../../ui/theme';
import { CrossSection } from './cross-section';

export const zoneWords: Readonly<Record<Zone, string>> = {
  cabin: 'Cabin',
  engine: 'Engine bay',
  hot: 'Hot',
  moving: 'Moving',
  wet: 'Wet',
};
/** A hole with its grommet, mm, where one is first said. */
const HOLE_MILLIMETRES = 38;

/** One piece of the loom: cut across, its figures, what is said of it. */
export function PiecePanel({
  figures,
  chosen,
  onLook,
}: {
  figures: SegmentFigures;
  chosen: ReadonlySet<string>;
  onLook: (looked: { type: 'piece' | 'place'; id: string } | null) => void;
}) {
  const { build, derived } = useBuild();
  const { id, segment, wires, hottest, sleeveMillimetres, covering } = figures;
  const pulling = pullingOf(build, derived.net, id);
  const passes =
    pulling && [pulling.fromA, pulling.fromB].map((side) => side.every((one) => one.millimetres <= pulling.hole));
  const facts: readonly (readonly [string, string])[] = [
    ['covering', coveringWords[covering]],
    ...(sleeveMillimetres === null
      ? []
      : [['sleeve to buy', readMeasure('thickness', sleeveMillimetres, build)] as const]),
    ['weight', readMeasure('weight', figures.grams, build)],
    ...(hottest
      ? [
          [
            'warmest wire',
            `${labelOf(derived.net, hottest.wire.from)}, ${readSize(hottest.wire.squareMm, build)}, ${readQuantity('temperature', hottest.celsius, build)}`,
          ] as const,
        ]
      : []),
    ['loaded wires', String(figures.loaded)],
    ...(figures.cables > 0 ? [['twisted, shielded', `${figures.cables} kept together`] as const] : []),
    ...(pulling && passes
      ? [
          [
            'pull it',
            `${
              passes[0] && passes[1]
                ? 'from either side'
                : passes[0] || passes[1]
                  ? `with ${(passes[0] ? pulling.fromA : pulling.fromB)[0]?.name ?? 'its end'} first`
                  : 'before its plugs are on'
            }${[...pulling.fromA, ...pulling.fromB].some(({ isGuess }) => isGuess) ? ', as far as plugs are as usual' : ''}`,
          ] as const,
        ]
      : []),
  ];
  return (
    <Stack $gap={3}>
      <Title>{segmentName(build, id)}</Title>
      <Small>
        {readLength(segment.metres, build)}, {segment.measured ? 'measured' : 'only drawn'},{' '}
        {plural(wires.length, 'wire')}, {readQuantity('temperature', figures.celsius, build)}
      </Small>
      <CrossSection
        name={segmentName(build, id)}
        bundle={figures}
        holeMillimetres={segment.hole?.millimetres ?? null}
        units={build.units}
        chosen={chosen}
      />
      <Facts>
        {facts.map(([name, value]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </Facts>
      <PieceForm id={id} />
      <PieceActions id={id} onLook={onLook} />
    </Stack>
  );
}

/** What is said of a piece: by itself, so that an edit of the wires in it leaves the fields alone. */
const PieceForm = memo(function PieceForm({ id }: { id: string }) {
  const { build, edit } = useBuild();
  const segment = build.tree.segments[id];
  if (!segment) return null;
  const set = (changes: Parameters<typeof call<'setSegment'>>[1]['changes']) =>
    edit(call('setSegment', { segment: id, changes }));
  return (
    <>
      <FieldGrid $min={120}>
        <LengthField
          label="Length, by string"
          units={build.units}
          value={segment.metres}
          minValue={0}
          maxValue={30}
          onChange={(metres) => set({ metres })}
        />
        <Select
          label="Covering"
          choices={[
            { id: 'loom', name: 'As loom' },
            ...coverings.map((one) => ({ id: one, name: coveringWords[one] })),
          ]}
          value={segment.covering ?? 'loom'}
          onChange={(one) => set({ covering: one === 'loom' ? null : (one as Covering) })}
        />
        <Select
          label="Runs through"
          choices={zones.map((one) => ({ id: one, name: zoneWords[one] }))}
          value={segment.zone}
          onChange={(zone) => set({ zone: zone as Zone, celsius: null })}
        />
        <QuantityField
          quantity="temperature"
          units={build.units}
          label="Hottest there"
          value={segment.celsius ?? usualCelsius[segment.zone]}
          minValue={-40}
          maxValue={400}
          onChange={(celsius) => set({ celsius })}
        />
        {segment.hole && (
          <MeasureField
            label="Hole, across"
            measure="diameter"
            units={build.units}
            value={segment.hole.millimetres}
            minValue={3}
            maxValue={300}
            onChange={(millimetres) => millimetres !== null && set({ hole: { ...segment.hole!, millimetres } })}
          />
        )}
      </FieldGrid>
      <Row $gap={3}>
        <Checkbox
          isSelected={segment.hole !== undefined}
          onChange={(on) => set({ hole: on ? { millimetres: HOLE_MILLIMETRES, grommet: true } : null })}
        >
          Through a hole
        </Checkbox>
        {segment.hole && (
          <Checkbox
            isSelected={segment.hole.grommet}
            onChange={(grommet) => set({ hole: { ...segment.hole!, grommet } })}
          >
            With a grommet
          </Checkbox>
        )}
        {!segment.measured && (
          <Button weight="quiet" onPress={() => set({ measured: true })}>
            It was measured
          </Button>
        )}
      </Row>
    </>
  );
});

/** What can be done to a piece. */
const PieceActions = memo(function PieceActions({
  id,
  onLook,
}: {
  id: string;
  onLook: (looked: { type: 'piece' | 'place'; id: string } | null) => void;
}) {
  const { build, derived, selection, edit } = useBuild();
  const segment = build.tree.segments[id];
  // Where the tree has two ways a wire can be led by either.
  const hasRings = ringsOf(build.tree).length > 0;
  const wire = hasRings && selection?.type === 'wire' ? derived.net.wireById.get(selection.wireId) : undefined;
  const whole = wire && (wire.cutOf ?? wire.id);
  const led = whole === undefined ? null : { whole, isLed: build.tree.via[whole] === id };
  if (!segment) return null;
  return (
    <Row $gap={2}>
      <Button onPress={() => edit(call('branchSegment', { segment: id, metres: segment.metres / 2, name: '' }))}>
        Branch it
      </Button>
      <Menu
        label="Plug"
        choices={[
          { id: 'in-line', name: 'In the line', note: 'A plug on the run: its wires are parted in cavities.' },
          { id: 'bulkhead', name: 'On the wall', note: 'A flanged plug in the hole, sealed.' },
        ]}
        onChoose={(shell) =>
          edit(
            call('plugSegment', {
              segment: id,
              metres: segment.metres / 2,
              name: shell === 'bulkhead' ? 'Bulkhead' : 'Plug',
              shell: shell as 'in-line' | 'bulkhead',
            }),
          )
        }
      />
      {led !== null && (
        <Button onPress={() => edit(call('leadWire', { wireId: led.whole, segment: led.isLed ? null : id }))}>
          {led.isLed ? 'The shorter way for it' : 'Lead the chosen wire by it'}
        </Button>
      )}
      <Button
        weight="quiet"
        onPress={() => {
          onLook(null);
          edit(call('removeSegment', { segment: id }));
        }}
      >
        Take it away
      </Button>
    </Row>
  );
});

export const Title = styled.h2`
  font-size: ${type.lead};
  line-height: 1.25;
  overflow-wrap: anywhere;
`;
export const Facts = styled.dl`
  margin: 0;
  display: grid;
  font-size: ${type.small};
  & > div {
    display: flex;
    justify-content: space-between;
    gap: ${space[3]};
    padding: 3px 0;
    border-bottom: 1px solid ${color.rule};
  }
  dt {
    color: ${color.soft};
    white-space: nowrap;
  }
  dd {
    margin: 0;
    text-align: right;
    font-weight: 700;
    font-variant-numeric: tabular-nums;
  }
`;
