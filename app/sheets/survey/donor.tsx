import { ArrowDown, ArrowUp, ClipboardPaste } from 'lucide-react';
import { useMemo, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { FileTrigger, type Selection } from 'react-aria-components';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import {
  allWires,
  countWires,
  donorList,
  filterWires,
  sortWires,
  type DonorFilter,
  type SortColumn,
} from '~/core/donor/sort';
import { donorCsv, donorTsv } from '~/core/donor/table';
import {
  decisions,
  decisionWords,
  donorGroups,
  groupWords,
  type Decision,
  type DonorGroup,
  type DonorWire,
} from '~/core/donor/wire';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { ColourWritingField } from './colour-writing';
import { download, fileName } from '../../storage/files';
import { Button } from '../../ui/button';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Kbd, Row, Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';
import { useNarrow } from '../../ui/use-narrow';
import { usePrinting } from '../../ui/use-printing';
import { DonorImport } from './donor-import';
import { DonorList, PrintedDonor, donorGrid } from './donor-list';
import { DonorWireDialog } from './donor-wire';
import { SheetFrame } from '../../parts/sheet-frame';

/** Keys of the list, live while it has the focus. */
const decisionKeys: Record<string, Decision> = {
  k: 'keep',
  e: 'extend',
  m: 'move',
  r: 'remove',
  u: 'mystery',
  o: 'open',
};
const groupKeys: Record<string, DonorGroup> = { g: 'engine', b: 'body', n: 'none' };
const keyOf = <T,>(keys: Record<string, T>, value: T): string =>
  Object.entries(keys)
    .find(([, one]) => one === value)?.[0]
    .toUpperCase() ?? '';

/** Short for the bench; each is part of the side's full name. */
const sideWords: Record<DonorGroup, string> = { none: 'not sorted', engine: 'engine', body: 'car' };

const headers: { id: SortColumn; name: string }[] = [
  { id: 'connector', name: 'connector, cavity' },
  { id: 'colour', name: 'colour, size' },
  { id: 'function', name: 'function' },
  { id: 'decision', name: 'decision' },
  { id: 'group', name: 'side' },
];

function Teach({ onPaste }: { onPaste: () => void }) {
  return (
    <Stack $gap={3} style={{ maxWidth: 640 }}>
      <p>
        A cut loom is a tangle of colours. List its wires once, by plug and cavity, in any spreadsheet: connector,
        cavity, colour, size, function. Paste the rows here, and decide wire by wire: keep, extend, move to another
        cavity, remove, or unknown until it is traced.
      </p>
      <Row>
        <Button weight="act" onPress={onPaste}>
          <ClipboardPaste size={18} aria-hidden /> Paste from a spreadsheet
        </Button>
      </Row>
      <Small>
        Airbag and belt tensioner wires are locked as soon as their words or your mark say so: they are never probed,
        cut or tapped.
      </Small>
    </Stack>
  );
}

export function Donor() {
  const { build, edit } = useBuild();
  const narrow = useNarrow();
  const printing = usePrinting();
  const all = useMemo(() => donorList(build.survey.donor), [build.survey.donor]);
  const counts = useMemo(() => countWires(all), [all]);
  const [filter, setFilter] = useState<DonorFilter>(allWires);
  const [sort, setSort] = useState<{ column: SortColumn; direction: 'ascending' | 'descending' }>({
    column: 'row',
    direction: 'ascending',
  });
  const [selected, setSelected] = useState<Selection>(new Set());
  const [pasting, setPasting] = useState<string | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [told, setTold] = useState('');
  const shown = useMemo(
    () => sortWires(filterWires(all, filter), sort.column, sort.direction),
    [all, filter, sort.column, sort.direction],
  );
  const chosen = selected === 'all' ? shown : shown.filter((wire) => selected.has(wire.id));
  const ids = chosen.map((wire) => wire.id);
  const decide = (decision: Decision) => ids.length > 0 && edit(call('editDonorWires', { ids, fields: { decision } }));
  const put = (group: DonorGroup) => ids.length > 0 && edit(call('editDonorWires', { ids, fields: { group } }));

  const onKey = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const key = event.key.toLowerCase();
    const act = decisionKeys[key] ? () => decide(decisionKeys[key]) : groupKeys[key] ? () => put(groupKeys[key]) : null;
    if (event.key === 'Delete' && ids.length > 0) {
      event.preventDefault();
      event.stopPropagation();
      edit(call('removeDonorWires', { ids }));
      setSelected(new Set());
    } else if (act) {
      // Before the list takes the letter for its own search.
      event.preventDefault();
      event.stopPropagation();
      act();
    }
  };
  /** Unsorted, the list goes out in the order it came in; on screen, wires of one splice stand together. */
  const outward = (wires: readonly DonorWire[]) =>
    sort.column === 'row' ? [...wires].sort((one, other) => one.row - other.row) : wires;
  const onCopy = (event: ClipboardEvent) => {
    const wires = outward(chosen.length > 0 ? chosen : shown);
    event.clipboardData.setData('text/plain', donorTsv(wires));
    event.preventDefault();
    setTold(`${plural(wires.length, 'wire')} copied.`);
  };
  const onPaste = (event: ClipboardEvent) => {
    event.preventDefault();
    setPasting(event.clipboardData.getData('text/plain'));
  };
  const copyAll = () =>
    navigator.clipboard.writeText(donorTsv(outward(shown))).then(
      () => setTold(`${plural(shown.length, 'wire')} copied.`),
      () => setTold('The browser kept the clipboard closed: select the rows and press Ctrl C.'),
    );
  const column = (id: SortColumn) =>
    setSort(
      sort.column === id
        ? sort.direction === 'ascending'
          ? { column: id, direction: 'descending' }
          : { column: 'row', direction: 'ascending' }
        : { column: id, direction: 'ascending' },
    );
  const openWire = open === null ? undefined : build.survey.donor[open];

  return (
    <SheetFrame
      summary={
        all.length === 0 ? (
          <>The donor loom, wire by wire.</>
        ) : (
          <>
            {plural(all.length, 'wire')}: {counts.byDecision.keep} keep, {counts.byDecision.extend} extend,{' '}
            {counts.byDecision.move} move, {counts.byDecision.remove} remove.
            <br />
            <Soft>
              {counts.open} open, {counts.byDecision.mystery} unknown
              {counts.restraint > 0 && `, ${counts.restraint} locked (restraint)`}.
            </Soft>
          </>
        )
      }
      actions={
        <>
          {all.length > 0 && (
            <>
              <Button onPress={() => void copyAll()}>Copy {shown.length}</Button>
              <Button
                onPress={() =>
                  download(fileName(`${build.name} donor loom`, 'csv'), 'text/csv', donorCsv(outward(shown)))
                }
              >
                CSV
              </Button>
              <FileTrigger
                acceptedFileTypes={['.csv', '.tsv', '.txt', 'text/csv', 'text/plain']}
                onSelect={(files) => void files?.[0]?.text().then(setPasting)}
              >
                <Button>Open a file</Button>
              </FileTrigger>
            </>
          )}
          <Button weight={all.length === 0 ? 'plain' : 'act'} onPress={() => setPasting('')}>
            <ClipboardPaste size={18} aria-hidden /> Paste
          </Button>
        </>
      }
    >
      {all.length === 0 ? (
        <Teach onPaste={() => setPasting('')} />
      ) : (
        <Whole>
          <Filters>
            <TextField
              label="Filter"
              value={filter.text}
              onChange={(text) => setFilter({ ...filter, text })}
              passing
              placeholder="coolant, F12, GN/YE"
            />
            <Select
              label="Decision"
              choices={[
                { id: 'all', name: 'all' },
                ...decisions.map((id) => ({ id, name: decisionWords[id], note: String(counts.byDecision[id]) })),
              ]}
              value={filter.decision}
              onChange={(id) => setFilter({ ...filter, decision: id as DonorFilter['decision'] })}
            />
            <Select
              label="Side"
              choices={[
                { id: 'all', name: 'all' },
                ...donorGroups.map((id) => ({ id, name: groupWords[id], note: String(counts.byGroup[id]) })),
              ]}
              value={filter.group}
              onChange={(id) => setFilter({ ...filter, group: id as DonorFilter['group'] })}
            />
            <ColourWritingField />
          </Filters>
          {!(narrow && chosen.length === 0) && (
            <Bench>
              <strong>{chosen.length === 0 ? `${shown.length} shown` : `${chosen.length} selected`}</strong>
              {decisions.map((id) => (
                <Button key={id} isDisabled={chosen.length === 0} onPress={() => decide(id)}>
                  {decisionWords[id]} <Kbd>{keyOf(decisionKeys, id)}</Kbd>
                </Button>
              ))}
              <Divider aria-hidden />
              {donorGroups.map((id) => (
                <Button
                  key={id}
                  isDisabled={chosen.length === 0}
                  onPress={() => put(id)}
                  aria-label={`${sideWords[id]} ${keyOf(groupKeys, id)}: ${groupWords[id]}`}
                >
                  {sideWords[id]} <Kbd>{keyOf(groupKeys, id)}</Kbd>
                </Button>
              ))}
              <Divider aria-hidden />
              <Button isDisabled={chosen.length !== 1} onPress={() => setOpen(ids[0])}>
                details
              </Button>
            </Bench>
          )}
          <Listed>
            <Heads role="group" aria-label="Sort by">
              {headers.map((header) => (
                <Button
                  key={header.id}
                  weight="quiet"
                  className={header.id === 'group' ? 'side' : undefined}
                  onPress={() => column(header.id)}
                  aria-label={`Sort by ${header.name}${sort.column === header.id ? `, ${sort.direction}` : ''}`}
                >
                  {header.name}
                  {sort.column === header.id &&
                    (sort.direction === 'ascending' ? (
                      <ArrowUp size={14} aria-hidden />
                    ) : (
                      <ArrowDown size={14} aria-hidden />
                    ))}
                </Button>
              ))}
            </Heads>
            {printing && <PrintedDonor wires={shown} />}
            <Hands onKeyDownCapture={onKey} onCopy={onCopy} onPaste={onPaste}>
              <DonorList wires={shown} selected={selected} onSelect={setSelected} onOpen={setOpen} />
            </Hands>
            <Told role="status" aria-live="polite">
              {told ||
                (narrow
                  ? 'Tap a wire to decide on it; hold it to select several.'
                  : 'Arrow keys and Shift select, Enter or a double click opens, Ctrl C and Ctrl V copy and paste.')}
            </Told>
          </Listed>
        </Whole>
      )}
      {pasting !== null && <DonorImport start={pasting} onClose={() => setPasting(null)} />}
      {openWire && <DonorWireDialog key={openWire.id} wire={openWire} onClose={() => setOpen(null)} />}
    </SheetFrame>
  );
}

/** From top to bottom of the pane: the list takes what is left. */
const Whole = styled.div`
  && {
    flex: 1 1 auto;
  }
  display: flex;
  flex-direction: column;
  gap: ${space[2]};
  min-height: 420px;
  ${at.print} {
    display: block;
  }
`;
const Listed = styled.div`
  flex: 1;
  display: flex;
  flex-direction: column;
  min-height: 0;
  ${at.print} {
    display: block;
  }
`;
const Hands = styled.div`
  flex: 1;
  display: flex;
  flex-direction: column;
  min-height: 0;
`;
const Filters = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 0.8fr) minmax(0, 0.8fr) minmax(0, 0.8fr);
  gap: ${space[3]};
  align-items: end;
  ${at.tablet} {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
  ${at.narrow} {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
  ${at.print} {
    display: none;
  }
`;
const Bench = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${space[1]};
  & > strong {
    min-width: 84px;
  }
  & > button {
    padding-inline: ${space[2]};
    font-size: ${type.small};
    min-height: 32px;
    @media (pointer: coarse) {
      min-height: ${shape.target};
      kbd {
        display: none;
      }
    }
  }
  ${at.print} {
    display: none;
  }
`;
const Divider = styled.span`
  width: 1px;
  height: 24px;
  background: ${color.rule};
`;
const Told = styled(Small)`
  ${at.print} {
    display: none;
  }
`;
const Heads = styled.div`
  ${donorGrid}
  padding: 0 ${space[2]} ${space[1]} 18px;
  border-bottom: ${shape.line} solid ${color.ink};
  font-size: ${type.small};
  & > button {
    justify-content: start;
    font-size: ${type.small};
    color: ${color.soft};
    white-space: nowrap;
  }
  ${at.narrow} {
    display: none;
  }
  ${at.print} {
    display: none;
  }
`;
