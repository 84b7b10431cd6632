import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { fuseEnd, relayEnd } from '~/core/ends/ends';
import { boxAmps, inBox } from '~/core/power/boxes';
import type { PlannedPart } from '~/core/power/propose';
import { formatAmps, plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { FindingMark } from '../../parts/findings/finding-mark';
import { SheetFrame } from '../../parts/sheet-frame';
import { Button } from '../../ui/button';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { FieldGrid, Heading, Row, ScreenOnly, Small, Soft, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { at, color, shape, space, type } from '../../ui/theme';

const USUAL_COLUMNS = 4;
const MOST_COLUMNS = 12;

/** One place of a lid: what stands there, and what it is for. */
function Place({ planned }: { planned: PlannedPart }) {
  const { derived, select } = useBuild();
  const { net } = derived;
  const { part, name } = planned;
  const amps = net.circuits.find(({ id }) => id === name)?.fuseAmps;
  const end = part.kind === 'fuse' ? fuseEnd(name, 1) : relayEnd(name, '87');
  return (
    <Slot data-kind={part.kind}>
      <Button weight="quiet" onPress={() => select({ type: 'end', end })}>
        {part.name}
      </Button>
      {part.kind === 'fuse' ? <strong>{amps} A</strong> : <Soft>relay</Soft>}
      <FindingMark thing={{ type: 'end', end }} />
    </Slot>
  );
}

/** A box as it is looked at from above, with the label for its lid. */
function Lid({ id }: { id: string }) {
  const { build, derived, edit } = useBuild();
  const box = build.feeds.boxes[id]!;
  const inside = inBox(derived.net.power, id);
  const change = (changes: Partial<typeof box>) => edit(call('setFeedBox', { name: id, changes }));
  const total = boxAmps(derived.net.power, id);
  return (
    <LidFrame aria-label={box.name}>
      <LidHead>
        <strong>{box.name}</strong>
        <Soft>
          {box.place}
          {box.place && inside.length > 0 ? ', ' : ''}
          {inside.length > 0 && `${formatAmps(total)} with everything on`}
        </Soft>
      </LidHead>
      {inside.length === 0 ? (
        <Small>Nothing stands in it yet: choose the box beside a fuse or relay below.</Small>
      ) : (
        <Grid style={{ gridTemplateColumns: `repeat(${box.columns}, minmax(0, 1fr))` }}>
          {inside.map((planned) => (
            <Place key={planned.id} planned={planned} />
          ))}
        </Grid>
      )}
      <ScreenOnly>
        <FieldGrid $min={130}>
          <TextField
            label="Name"
            value={box.name}
            onChange={(name) => name.trim() !== '' && change({ name: name.trim() })}
          />
          <TextField label="Where it sits" value={box.place} onChange={(place) => change({ place })} />
          <NumberField
            label="Places in a row"
            value={box.columns}
            minValue={1}
            maxValue={MOST_COLUMNS}
            onChange={(columns) => columns !== null && change({ columns: Math.round(columns) })}
          />
        </FieldGrid>
        <Row $gap={2}>
          <Button weight="quiet" onPress={() => edit(call('removeFeedBox', { name: id }))}>
            Take the box away
          </Button>
        </Row>
      </ScreenOnly>
    </LidFrame>
  );
}

/** What stands in no box, each to be put into one. */
function Outside() {
  const { build, derived, edit } = useBuild();
  const rest = inBox(derived.net.power, undefined);
  const boxes = Object.entries(build.feeds.boxes);
  const put = (planned: readonly PlannedPart[], box: string) =>
    edit(...planned.map(({ id }) => call('setFeedPart', { partId: id, changes: { box } })));
  if (rest.length === 0) return <Small>Every fuse and relay stands in a box.</Small>;
  return (
    <Stack $gap={2}>
      <Heading>In no box yet</Heading>
      {boxes.map(([id, { name }]) => (
        <Row key={id}>
          <Button onPress={() => put(rest, id)}>
            Put all {rest.length} into {name}
          </Button>
        </Row>
      ))}
      <Rest>
        {rest.map((planned) => (
          <li key={planned.id}>
            <span>
              {planned.part.name} <Soft>{planned.part.kind}</Soft>
            </span>
            {boxes.length > 0 && (
              <Select
                label={`${planned.part.name} ${planned.part.kind}, box`}
                hideLabel
                choices={[{ id: '', name: 'no box' }, ...boxes.map(([id, { name }]) => ({ id, name }))]}
                value=""
                onChange={(box) => box !== '' && put([planned], box)}
              />
            )}
          </li>
        ))}
      </Rest>
    </Stack>
  );
}

/** Each fuse and relay box as it is looked at from above, its label to print and put into the lid. */
export function Boxes() {
  const { build, derived, edit } = useBuild();
  const ids = Object.keys(build.feeds.boxes);
  const count = (kind: 'fuse' | 'relay') => derived.net.parts.filter(({ part }) => part.kind === kind).length;
  return (
    <SheetFrame
      summary={
        <>
          {plural(ids.length, 'box', 'boxes')}, {plural(count('fuse'), 'fuse')}, {plural(count('relay'), 'relay')}.
          <br />
          <Soft>Print the sheet: the lids are its labels.</Soft>
        </>
      }
      actions={
        <Button
          onPress={() =>
            edit(
              call('addFeedBox', {
                box: { name: ids.length === 0 ? 'Front box' : 'Second box', place: '', columns: USUAL_COLUMNS },
              }),
            )
          }
        >
          Add a box
        </Button>
      }
    >
      <Stack $gap={5}>
        {ids.length === 0 && (
          <p>
            No box yet. <Soft>Add one, say where it sits, and put fuses and relays into it.</Soft>
          </p>
        )}
        {ids.map((id) => (
          <Lid key={id} id={id} />
        ))}
        <ScreenOnly>
          <Outside />
        </ScreenOnly>
      </Stack>
    </SheetFrame>
  );
}

const LidFrame = styled.section`
  display: grid;
  gap: ${space[3]};
  max-width: 820px;
  padding: ${space[3]};
  border: 2px solid ${color.ink};
  border-radius: ${shape.radius};
  break-inside: avoid;
  ${at.print} {
    max-width: 150mm;
  }
`;
const LidHead = styled.header`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: ${space[2]};
  font-size: ${type.lead};
`;
const Grid = styled.div`
  display: grid;
  gap: ${space[2]};
  ${at.phone} {
    grid-template-columns: repeat(2, minmax(0, 1fr)) !important;
  }
`;
const Slot = styled.div`
  display: grid;
  justify-items: start;
  align-content: space-between;
  min-height: 62px;
  padding: ${space[1]} ${space[2]};
  border: 1.5px solid ${color.ink};
  border-radius: 4px;
  overflow: hidden;
  &[data-kind='relay'] {
    background: ${color.raised};
    min-height: 74px;
  }
  button {
    text-align: left;
    text-decoration: none;
  }
`;
const Rest = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 300px), 1fr));
  gap: ${space[1]} ${space[5]};
  li {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: ${space[3]};
    min-height: 40px;
  }
`;
