import { Link, useParams } from 'react-router';
import { call } from '~/core/edits';
import { placeName, thingName, thingsToStand } from '~/core/loom/names';
import { passingWires } from '~/core/loom/plug';
import { deviceOfThing, placesOf } from '~/core/tree/things';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Menu } from '../../ui/menu';
import { Select } from '../../ui/select';
import { Heading, Row, Small, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import type { Looked } from './plan-drawing';
import { Facts, Title } from './piece-panel';

/** How far from its place a new tail is drawn, metres of the plan. */
const BESIDE_METRES = 0.4;

/** One place of the tree: its name, what stands there, what hangs on it. */
export function PlacePanel({ id, onLook }: { id: string; onLook: (looked: Looked | null) => void }) {
  const { build, derived, edit, select } = useBuild();
  const { buildId } = useParams();
  const { tree } = build;
  const node = tree.nodes[id]!;
  const places = placesOf(tree);
  const at = Object.values(tree.segments).filter(({ a, b }) => a === id || b === id).length;
  const things = thingsToStand(build, derived.net).filter(({ id: thing }) => !node.holds.includes(thing));
  const others = Object.keys(tree.nodes).filter((other) => other !== id);
  const passing = node.plug ? passingWires(build, derived.net, id) : [];
  // A wire that is gone keeps its cavity until it is allotted anew: it is none of those that pass.
  const parted = passing.filter((wire) => node.plug?.wires[wire.id] !== undefined).length;
  return (
    <Stack $gap={3}>
      <Title>{placeName(build, id)}</Title>
      {node.kind !== 'ecu' && (
        <TextField
          key={id}
          label="Name"
          value={node.name}
          maxLength={60}
          onChange={(name) => edit(call('setTreeNode', { node: id, name }))}
        />
      )}
      {node.plug && (
        <>
          <Facts>
            <div>
              <dt>cavities</dt>
              <dd>{node.plug.cavities}</dd>
            </div>
            <div>
              <dt>wires parted</dt>
              <dd>
                {parted} of {passing.length}
              </dd>
            </div>
          </Facts>
          <Link to={`/build/${buildId}/loom/plugs#${id}`}>Its faces and cavities</Link>
        </>
      )}
      {node.kind !== 'plug' && (
        <Stack $gap={2}>
          <Heading>Stands here</Heading>
          {node.holds.length === 0 && <Small>Nothing: it is where the loom parts.</Small>}
          {node.holds.map((thing) => (
            <Row key={thing} $gap={2} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
              <Button
                weight="quiet"
                onPress={() => {
                  const deviceId = deviceOfThing(thing);
                  if (deviceId !== null) select({ type: 'device', deviceId });
                }}
              >
                {thingName(build, derived.net, thing)}
              </Button>
              <Button
                weight="quiet"
                aria-label={`Take ${thingName(build, derived.net, thing)} from here`}
                onPress={() => edit(call('standAt', { thing, node: null }))}
              >
                take
              </Button>
            </Row>
          ))}
          <Select
            label="Stand here as well"
            choices={things.map(({ id: thing, name }) => ({
              id: thing,
              name,
              note: places.has(thing) ? `now at ${placeName(build, places.get(thing)!)}` : 'nowhere yet',
            }))}
            value={null}
            onChange={(thing) => edit(call('standAt', { thing, node: id }))}
          />
        </Stack>
      )}
      <Row $gap={2}>
        <Button
          onPress={() =>
            edit(
              call('addTreeNode', {
                kind: 'tail',
                name: '',
                at: { x: Math.max(0, node.at.x - BESIDE_METRES), y: node.at.y + BESIDE_METRES / 2 },
                from: id,
              }),
            )
          }
        >
          Tail from here
        </Button>
        <Menu
          label="Join to"
          choices={others.map((other) => ({ id: other, name: placeName(build, other) }))}
          onChoose={(other) => edit(call('joinTreeNodes', { a: id, b: other }))}
        />
        <Button
          weight="quiet"
          onPress={() => {
            onLook(null);
            edit(call('removeTreeNode', { node: id }));
          }}
        >
          Take it out
        </Button>
      </Row>
      <Small>{plural(at, 'piece')} meet here. Drag it, or hold it and use the arrow keys.</Small>
    </Stack>
  );
}
