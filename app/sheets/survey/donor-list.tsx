import { Lock } from 'lucide-react';
import { useCallback, useMemo } from 'react';
import { GridList, GridListItem, ListLayout, Text, Virtualizer, type Selection } from 'react-aria-components';
import { css, styled } from 'styled-components';
import { spliceKey } from '~/core/donor/sort';
import { colourLetters } from '~/core/donor/colours';
import { decisionWords, groupWords, isRestraint, type DonorWire } from '~/core/donor/wire';
import { useColourWriting } from './colour-writing';
import { WireMark } from '../../parts/wire-mark';
import { Table } from '../../ui/table';
import { Soft } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';
import { useCoarse, useNarrow } from '../../ui/use-narrow';

const ROW = 26;
/** For a finger. */
const ROW_COARSE = 44;
const ROW_NARROW = 84;

/** How a row stands to its neighbours: first, within or last of the wires of one splice. */
type Join = 'none' | 'first' | 'middle' | 'last';

type DonorRow = DonorWire & { join: Join };

function joinAt(wires: readonly DonorWire[], index: number): Join {
  const own = spliceKey(wires[index]);
  if (own === '') return 'none';
  const before = index > 0 && spliceKey(wires[index - 1]) === own;
  const after = index + 1 < wires.length && spliceKey(wires[index + 1]) === own;
  return before ? (after ? 'middle' : 'last') : after ? 'first' : 'none';
}

/** Every donor wire, one row each; only what is in sight is drawn. */
export function DonorList({
  wires,
  selected,
  onSelect,
  onOpen,
}: {
  wires: readonly DonorWire[];
  selected: Selection;
  onSelect: (selection: Selection) => void;
  onOpen: (id: string) => void;
}) {
  const narrow = useNarrow();
  const writing = useColourWriting().writing;
  const coarse = useCoarse();
  const rowSize = narrow ? ROW_NARROW : coarse ? ROW_COARSE : ROW;
  const layoutOptions = useMemo(() => ({ rowSize }), [rowSize]);
  const items = useMemo(() => wires.map((wire, index) => ({ ...wire, join: joinAt(wires, index) })), [wires]);
  const row = useCallback(
    (wire: DonorRow) => {
      const locked = isRestraint(wire);
      const letters = colourLetters(wire.colour, writing);
      const decision = locked ? 'locked' : decisionWords[wire.decision];
      return (
        <Item id={wire.id} textValue={`${wire.connector} ${wire.cavity} ${wire.function}`} data-locked={locked}>
          <Place>
            {wire.join !== 'none' && <Bracket $join={wire.join} aria-hidden />}
            <strong>
              {wire.connector} {wire.cavity}
            </strong>
          </Place>
          <span className="wire">
            {letters ? (
              <>
                <WireMark colour={letters} /> {wire.size}
              </>
            ) : (
              <Soft>
                {wire.colour || 'no colour'} {wire.size}
              </Soft>
            )}
          </span>
          <Text slot="description" className="what">
            {wire.function || <Soft>no function written</Soft>}
            {wire.splice && <Soft> · splice {wire.splice}</Soft>}
            {wire.condition && <Soft> · {wire.condition}</Soft>}
            {wire.group !== 'none' && <Inline> · {groupWords[wire.group]}</Inline>}
          </Text>
          <Verdict data-decision={locked ? 'locked' : wire.decision}>
            {locked && <Lock size={14} aria-hidden />}
            {decision}
            {wire.decision === 'move' && wire.moveTo && ` to ${wire.moveTo}`}
          </Verdict>
          <span className="side">
            {locked ? 'restraint: stop' : wire.group === 'none' ? '' : groupWords[wire.group]}
          </span>
        </Item>
      );
    },
    [writing],
  );
  return (
    <Virtualizer layout={ListLayout} layoutOptions={layoutOptions}>
      <List
        aria-label="Donor wires"
        dependencies={[writing]}
        items={items}
        selectionMode="multiple"
        selectedKeys={selected}
        onSelectionChange={onSelect}
        onAction={(key) => onOpen(String(key))}
        selectionBehavior="replace"
        renderEmptyState={() => <Empty>No wire matches. Clear the filter to see all.</Empty>}
      >
        {row}
      </List>
    </Virtualizer>
  );
}

/** Every wire, with a box to tick: what hangs beside the bench while the loom is stripped. */
export function PrintedDonor({ wires }: { wires: readonly DonorWire[] }) {
  const { writing } = useColourWriting();
  return (
    <Table>
      <thead>
        <tr>
          {['', 'connector, cavity', 'colour, size', 'function', 'splice', 'decision', 'side'].map((name) => (
            <th key={name} scope="col">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {wires.map((wire) => {
          const locked = isRestraint(wire);
          const letters = colourLetters(wire.colour, writing);
          return (
            <tr key={wire.id}>
              <td>{locked ? '' : '☐'}</td>
              <th scope="row">
                {wire.connector} {wire.cavity}
              </th>
              <td>
                {letters ? <WireMark colour={letters} /> : wire.colour} {wire.size}
              </td>
              <td>{[wire.function, wire.condition].filter(Boolean).join(', ')}</td>
              <td>{wire.splice}</td>
              <td>
                {locked ? 'LOCKED: restraint' : decisionWords[wire.decision]}
                {wire.decision === 'move' && wire.moveTo && ` to ${wire.moveTo}`}
              </td>
              <td>{wire.group === 'none' ? '' : groupWords[wire.group]}</td>
            </tr>
          );
        })}
      </tbody>
    </Table>
  );
}

export const donorGrid = css`
  display: grid;
  grid-template-columns: 132px 132px minmax(0, 1fr) 124px 128px;
  gap: 0 ${space[3]};
  align-items: center;
  ${at.tablet} {
    grid-template-columns: 96px 124px minmax(0, 1fr) 116px;
    & .side {
      display: none;
    }
  }
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr) minmax(0, auto);
  }
`;
const List = styled(GridList<DonorRow>)`
  flex: 1 1 0;
  min-height: 280px;
  overflow: auto;
  outline-offset: -2px;
  border-bottom: ${shape.hair} solid ${color.rule};
  ${at.narrow} {
    flex: none;
    height: 62dvh;
  }
  ${at.print} {
    /* The whole list prints as a table of its own. */
    display: none;
  }
`;
const Item = styled(GridListItem)`
  ${donorGrid}
  height: 100%;
  padding: 0 ${space[2]} 0 18px;
  border-bottom: ${shape.hair} solid ${color.rule};
  cursor: default;
  & .what,
  & .side,
  & .wire {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: inherit;
  }
  & .side {
    font-size: ${type.small};
    color: ${color.soft};
  }
  &[data-hovered] {
    background: ${color.raised};
  }
  &[data-selected] {
    background: ${color.selectionWash};
  }
  &[data-focus-visible] {
    outline: 2px solid ${color.selection};
    outline-offset: -2px;
  }
  &[data-locked='true'] {
    color: ${color.stop};
  }
  ${at.narrow} {
    align-content: center;
    & .what {
      grid-column: 1 / -1;
    }
  }
`;
const Place = styled.span`
  position: relative;
  overflow: visible;
  white-space: nowrap;
  & > strong {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;
/** Wires of one splice hang on one bracket. */
const Bracket = styled.span<{ $join: Join }>`
  position: absolute;
  left: -12px;
  top: ${({ $join }) => ($join === 'first' ? '50%' : '-14px')};
  bottom: ${({ $join }) => ($join === 'last' ? '50%' : '-14px')};
  width: 8px;
  border-left: 3px solid ${color.selection};
  border-top: ${({ $join }) => ($join === 'first' ? `3px solid ${color.selection}` : '0')};
  border-bottom: ${({ $join }) => ($join === 'last' ? `3px solid ${color.selection}` : '0')};
`;
const Verdict = styled.span`
  display: inline-flex;
  align-items: center;
  gap: ${space[1]};
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  &[data-decision='open'] {
    color: ${color.soft};
  }
  &[data-decision='keep'],
  &[data-decision='extend'],
  &[data-decision='move'] {
    color: ${color.proved};
    font-weight: 700;
  }
  &[data-decision='mystery'] {
    color: ${color.pencil};
    font-weight: 700;
  }
  &[data-decision='remove'] {
    text-decoration: line-through;
  }
`;
/** Where the list is too narrow for a column of sides. */
const Inline = styled(Soft)`
  display: none;
  ${at.tablet} {
    display: inline;
  }
`;
const Empty = styled.p`
  padding: ${space[4]};
  color: ${color.soft};
`;
