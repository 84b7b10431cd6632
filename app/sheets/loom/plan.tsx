import { memo, useCallback, useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { allFigures, loomGrams, trunkOf } from '~/core/loom/bundles';
import { vehicles, type EngineSeat, type Point, type Vehicle } from '~/core/tree/tree';
import { plural } from '~/core/units/format';
import { readLength, readMeasure } from '~/core/units/workshop';
import { useBuild } from '../../build/context';
import { SheetFrame } from '../../parts/sheet-frame';
import { Button } from '../../ui/button';
import { Select } from '../../ui/select';
import { Heading, Row, Small, Soft, Stack } from '../../ui/text';
import { at, color, space } from '../../ui/theme';
import { Branches } from './branches';
import { CrossSection } from './cross-section';
import { wiresOf } from './found-wires';
import { PiecePanel } from './piece-panel';
import { PlacePanel } from './place-panel';
import { PlanDrawing, type Looked } from './plan-drawing';
import { ProposeTree, seatWords, vehicleWords } from './propose';

/** What the loom lies in: by itself, so that an edit of the wires leaves the fields alone. */
const LiesIn = memo(function LiesIn() {
  const { build, edit } = useBuild();
  const { tree } = build;
  return (
    <Row $gap={4}>
      <Select
        label="It lies in"
        choices={vehicles.map((id) => ({ id, name: vehicleWords[id] }))}
        value={tree.vehicle}
        onChange={(id) => edit(call('setTreePlan', { vehicle: id as Vehicle }))}
      />
      {tree.vehicle === 'car' && (
        <Select
          label="The engine is"
          choices={(['front', 'middle', 'rear'] as const).map((id) => ({ id, name: seatWords[id] }))}
          value={tree.engine}
          onChange={(id) => edit(call('setTreePlan', { engine: id as EngineSeat }))}
        />
      )}
      <Button weight="quiet" onPress={() => edit(call('proposeTree', { vehicle: tree.vehicle, engine: tree.engine }))}>
        Propose it anew
      </Button>
      <Button weight="quiet" onPress={() => edit(call('clearTree', {}))}>
        Take the tree away
      </Button>
    </Row>
  );
});

/** The loom as it lies in the vehicle; before there is a tree, how to come by one. */
export function LoomPlan() {
  const { build, derived, selection, edit } = useBuild();
  const { net } = derived;
  const { tree } = build;
  const figures = useMemo(() => allFigures(build, net), [build, net]);
  const [looked, setLooked] = useState<Looked | null>(null);
  const chosen = useMemo(() => wiresOf(net, selection), [net, selection]);
  const found = useMemo(
    () => new Set(net.wires.flatMap(({ id, route }) => (chosen.has(id) ? route : []))),
    [net, chosen],
  );
  const onMove = useCallback((node: string, to: Point) => edit(call('setTreeNode', { node, at: to })), [edit]);
  const metres = net.wires.reduce((sum, { lengthMetres }) => sum + lengthMetres, 0);
  const hasTree = Object.keys(tree.nodes).length > 0;
  const drawn = Object.values(tree.segments).filter(({ measured }) => !measured).length;
  // The thickest piece is what is looked at first.
  const first = figures.reduce<(typeof figures)[number] | null>(
    (most, one) => (most && most.wires.length >= one.wires.length ? most : one),
    null,
  );
  const piece =
    looked === null ? first : looked.type === 'piece' ? (figures.find(({ id }) => id === looked.id) ?? first) : null;
  const place = looked?.type === 'place' && tree.nodes[looked.id] ? looked.id : null;
  return (
    <SheetFrame
      summary={
        <>
          {plural(net.wires.length, 'wire')}, {readLength(metres, build)},{' '}
          {readMeasure('weight', loomGrams(net), build)}.
          <br />
          <Soft>
            {hasTree
              ? drawn === 0
                ? 'Every piece is measured.'
                : `${plural(drawn, 'piece')} of ${Object.keys(tree.segments).length} only drawn.`
              : 'Not laid in a tree yet.'}
          </Soft>
        </>
      }
    >
      {hasTree ? (
        <Board>
          <Stack $gap={3}>
            <LiesIn />
            <PlanDrawing
              build={build}
              figures={figures}
              looked={piece ? { type: 'piece', id: piece.id } : looked}
              found={found}
              onLook={setLooked}
              onMove={onMove}
            />
            <Small>
              As wide as the bundle; lengths that were measured in ink, drawn ones in grey. Press a piece to look into
              it, drag a place or move it by the arrow keys.
            </Small>
          </Stack>
          <Side>
            {place !== null ? (
              <PlacePanel id={place} onLook={setLooked} />
            ) : (
              piece && <PiecePanel figures={piece} chosen={chosen} onLook={setLooked} />
            )}
          </Side>
        </Board>
      ) : (
        <Start>
          <Stack $gap={5}>
            <ProposeTree />
            <Stack $gap={2}>
              <Heading>Trunk at the ECU, cut across</Heading>
              <CrossSection
                name="Trunk at the ECU"
                bundle={trunkOf(build, net)}
                holeMillimetres={build.loom.holeMillimetres}
                units={build.units}
                chosen={chosen}
              />
            </Stack>
          </Stack>
          <Branches />
        </Start>
      )}
    </SheetFrame>
  );
}

const Board = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 268px;
  gap: ${space[4]};
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Side = styled.aside`
  border-left: 1px solid ${color.rule};
  padding-left: ${space[3]};
  min-width: 0;
  ${at.tablet} {
    border-left: 0;
    padding-left: 0;
  }
`;
const Start = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  gap: ${space[5]};
  ${at.tablet} {
    grid-template-columns: 1fr;
  }
`;
