import { keepSame } from '~/core/data/keep-same';
import { withId } from '~/core/data/with-id';
import { GripVertical, Lock } from 'lucide-react';
import { memo, useDeferredValue, useMemo, useState } from 'react';
import {
  Button,
  Collection,
  GridList,
  GridListHeader,
  GridListItem,
  GridListSection,
  ListLayout,
  Virtualizer,
  useDragAndDrop,
} from 'react-aria-components';
import { styled } from 'styled-components';
import { systems } from '~/core/devices/kind';
import { askWords } from '~/core/ecu/ask';
import { isCrimped } from '~/core/allot/in-place';
import type { Need } from '~/core/netlist/needs';
import { find } from '~/core/search/find';
import { useBuild } from '../../build/context';
import { needItem } from '../../parts/cavity-slot';
import { Checkbox } from '../../ui/choice';
import { TextField } from '../../ui/text-field';
import { Small, Stack } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';
import { FindingMark } from '../../parts/findings/finding-mark';
import { useNarrow } from '../../ui/use-narrow';
import { usePrinting } from '../../ui/use-printing';

/** Needs by system, with a search. Drag one to a cavity, or take it in hand with Enter and pick the cavity. */
export const NeedList = memo(function NeedList({
  inHand,
  onTake,
  onLift,
  onLetGo,
}: {
  inHand: string | null;
  onTake: (needId: string | null) => void;
  /** Carried by the pointer, and let go again. */
  onLift: (needId: string) => void;
  onLetGo: () => void;
}) {
  const [text, setText] = useState('');
  const [openOnly, setOpenOnly] = useState(false);
  const rows = useRows();
  // The faces stand first; the list follows in a task of its own, which a key press may come between.
  const isTurn = useDeferredValue(true, false);
  // The letter stands in the field at once; the list follows when there is time.
  const sought = useDeferredValue(text);
  const groups = useMemo(() => {
    const shown = find(sought, openOnly ? rows.filter(({ pinId }) => pinId === undefined) : rows, (row) => [
      row.need.label,
      row.words,
    ]);
    return systems
      .map((system) => ({ system, rows: shown.filter(({ need }) => need.system === system) }))
      .filter((group) => group.rows.length > 0);
  }, [sought, openOnly, rows]);
  return (
    <Pane $gap={2}>
      <Search>
        <TextField
          label="Search needs"
          hideLabel
          value={text}
          onChange={setText}
          passing
          placeholder="Search: coil, PWM, A13"
        />
        <Checkbox isSelected={openOnly} onChange={setOpenOnly}>
          open
        </Checkbox>
      </Search>
      {groups.length === 0 && <Small>{openOnly && text === '' ? 'Nothing is open.' : 'No need of that name.'}</Small>}
      {isTurn && <NeedRows groups={groups} inHand={inHand} onTake={onTake} onLift={onLift} onLetGo={onLetGo} />}
    </Pane>
  );
});

/** Lists longer than this draw only what is in sight, and scroll by themselves. */
const WHOLE = 120;

/** The list itself: not drawn again by a letter in the search until the letter's answer is there. */
const NeedRows = memo(function NeedRows({
  groups,
  inHand,
  onTake,
  onLift,
  onLetGo,
}: {
  groups: readonly { readonly system: string; readonly rows: readonly Row[] }[];
  inHand: string | null;
  onTake: (needId: string | null) => void;
  onLift: (needId: string) => void;
  onLetGo: () => void;
}) {
  const printing = usePrinting();
  const narrow = useNarrow();
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => needItem(String(key))),
    getAllowedDropOperations: () => ['move'],
    onDragStart: ({ keys }) => onLift(String([...keys][0])),
    onDragEnd: onLetGo,
  });
  const count = groups.reduce((sum, { rows }) => sum + rows.length, 0);
  const isLong = count > WHOLE && !printing;
  const list = (
    <List
      aria-label="Needs"
      data-long={isLong}
      selectionMode="single"
      selectionBehavior="replace"
      selectedKeys={inHand ? [inHand] : []}
      onSelectionChange={(keys) => onTake(keys === 'all' ? null : (([...keys][0] as string | undefined) ?? null))}
      dragAndDropHooks={dragAndDropHooks}
    >
      {groups.map((group) => (
        <GridListSection key={group.system} id={group.system}>
          <SectionHead>{group.system}</SectionHead>
          <Collection items={group.rows}>{(row) => <NeedRow {...row} />}</Collection>
        </GridListSection>
      ))}
    </List>
  );
  return isLong ? (
    <Virtualizer layout={ListLayout} layoutOptions={{ rowSize: narrow ? 44 : 30, headingSize: 34 }}>
      {list}
    </Virtualizer>
  ) : (
    list
  );
});

/** What the list shows of one need. */
interface Row {
  readonly id: string;
  readonly need: Need;
  readonly pinId: string | undefined;
  readonly locked: boolean;
  readonly crimped: boolean;
  /** What it is found by, beside its label. */
  readonly words: string;
}

/** What the list showed last: a row that shows what it did before is the same object again, and so is the list while all do. */
class Shown {
  private byId = new Map<string, Row>();
  private rows: readonly Row[] = [];

  settle(now: readonly Row[]): readonly Row[] {
    const rows = keepSame(now, ({ id }) => this.byId.get(id));
    if (rows.length === this.rows.length && rows.every((row, i) => row === this.rows[i])) return this.rows;
    this.rows = rows;
    this.byId = new Map(rows.map((row) => [row.id, row]));
    return rows;
  }
}

/** The needs as rows. */
function useRows(): readonly Row[] {
  const { build, derived } = useBuild();
  const { needs } = derived.net;
  const { assignments, devices, kinds } = build;
  const isLocked = useMemo(() => new Set(build.locked), [build.locked]);
  const [shown] = useState(() => new Shown());
  return useMemo(
    () =>
      shown.settle(
        needs.map((need): Row => {
          const pinId = assignments[need.id];
          const kind = kinds[withId(devices, need.deviceId)?.kindId ?? ''];
          return {
            id: need.id,
            need,
            pinId,
            locked: isLocked.has(need.id),
            crimped: pinId !== undefined && isCrimped(build, need, pinId),
            words: `${need.system} ${askWords(need.ask)} ${pinId ?? 'open'} ${kind?.name ?? ''}`,
          };
        }),
      ),
    [build, needs, assignments, devices, kinds, isLocked, shown],
  );
}

function NeedRow({ need, pinId, locked, crimped }: Row) {
  return (
    <Item id={need.id} textValue={need.label} data-need={need.id}>
      <Grip slot="drag" aria-label={`Move ${need.label}`}>
        <GripVertical size={14} aria-hidden />
      </Grip>
      <span>{need.label}</span>
      <FindingMark thing={{ type: 'need', needId: need.id }} />
      {locked && <Lock size={13} aria-label="locked" />}
      {crimped && <Crimped>crimped</Crimped>}
      {pinId ? <Pin>{pinId}</Pin> : <Open>open</Open>}
    </Item>
  );
}

const Pane = styled(Stack)`
  &:has([data-long='true']) {
    height: 100%;
    grid-template-rows: auto minmax(0, 1fr);
    ${at.tablet} {
      height: auto;
    }
  }
`;
const Search = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: ${space[2]};
  align-items: center;
  position: sticky;
  top: 0;
  z-index: 1;
  background: ${color.sheet};
  padding-bottom: ${space[1]};
  ${at.print} {
    display: none;
  }
`;
const List = styled(GridList)`
  display: grid;
  gap: ${space[3]};
  outline: none;
  &[data-long='true'] {
    display: block;
    height: 100%;
    min-height: 240px;
    overflow: auto;
    ${at.tablet} {
      height: 60vh;
    }
  }
  ${at.print} {
    display: block;
    columns: 2;
    column-gap: ${space[5]};
    [role='rowgroup'] {
      break-inside: avoid;
    }
  }
`;
const SectionHead = styled(GridListHeader)`
  font-weight: 700;
  padding-bottom: 2px;
  border-bottom: ${shape.hair} solid ${color.rule};
  margin-bottom: 2px;
`;
const Grip = styled(Button)`
  display: grid;
  place-items: center;
  width: 18px;
  min-height: 24px;
  border: 0;
  padding: 0;
  background: none;
  color: ${color.soft};
  cursor: grab;
  ${at.print} {
    display: none;
  }
`;
const Item = styled(GridListItem)`
  display: flex;
  align-items: center;
  gap: ${space[1]};
  min-height: 30px;
  padding: 1px ${space[2]} 1px 0;
  border-radius: ${shape.radius};
  cursor: pointer;
  & > div {
    display: contents;
  }
  & span:nth-of-type(1) {
    flex: 1;
    min-width: 0;
  }
  &[data-hovered] {
    background: ${color.raised};
  }
  &[data-selected] {
    background: ${color.selectionWash};
  }
  &[data-dragging] {
    opacity: 0.5;
  }
  ${at.narrow} {
    min-height: ${shape.target};
  }
`;
const Pin = styled.span`
  font-family: ${type.mono};
  font-weight: 700;
`;
const Crimped = styled.span`
  font-size: 12px;
  color: ${color.soft};
`;
const Open = styled.span`
  font-size: ${type.small};
  padding: 0 ${space[3]};
  border: ${shape.line} solid ${color.pencil};
  border-radius: 12px;
  color: ${color.pencil};
`;
