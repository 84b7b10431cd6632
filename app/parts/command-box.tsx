import { labelOf } from '~/core/netlist/label';
import { ecuEnd } from '~/core/ends/ends';
import { Search } from 'lucide-react';
import { memo, useEffect, useMemo, useState } from 'react';
import { Autocomplete, Button as AriaButton, Input, Menu, MenuItem, SearchField, Text } from 'react-aria-components';
import { useNavigate } from 'react-router';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import type { SheetId } from '~/core/rules/rule';
import type { Selection } from '~/core/netlist/run';
import { find } from '~/core/search/find';
import { useBuild } from '../build/context';
import { Dialog } from '../ui/dialog';
import { optionLook } from '../ui/field-look';
import { Kbd, Small } from '../ui/text';
import { applyTheme, at, color, currentTheme, shape, space } from '../ui/theme';
import { exportBuild } from '../storage/export';
import { sheetList } from './sheets';
import { readSize } from '~/core/wire/size';

interface Entry {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly run: () => void;
}

const MOST = 40;

function useEntries(close: () => void): Entry[] {
  const { build, derived, select, goTo, edit, undo, redo, view } = useBuild();
  const { net } = derived;
  const { undoLabel, redoLabel } = view;
  const navigate = useNavigate();
  return useMemo(() => {
    const go = (sheet: SheetId, selection?: Selection) => () => {
      if (selection) select(selection);
      goTo(sheet);
      close();
    };
    const act = (run: () => void) => () => {
      run();
      close();
    };
    return [
      ...sheetList.map((sheet) => ({
        id: `sheet-${sheet.id}`,
        name: `${sheet.number} ${sheet.title}`,
        note: sheet.question,
        run: go(sheet.id),
      })),
      ...net.cavities.map(({ pin, label }) => ({
        id: `pin-${pin.id}`,
        name: `${pin.id} ${label || pin.label}`,
        note: `pin · ${pin.label}`,
        run: go('allot', { type: 'end', end: ecuEnd(pin.id) }),
      })),
      ...net.devices.map(({ device, kind }) => ({
        id: `device-${device.id}`,
        name: device.label,
        note: `device · ${kind.name}`,
        run: go('survey', { type: 'device', deviceId: device.id }),
      })),
      ...net.wires.map((wire) => ({
        id: `wire-${wire.id}`,
        name: `${wire.colour} ${readSize(wire.squareMm, build)}`,
        note: `wire · ${labelOf(net, wire.from)} to ${labelOf(net, wire.to)}`,
        run: go('loom', { type: 'wire', wireId: wire.id }),
      })),
      {
        id: 'do-allot',
        name: 'Allot the rest',
        note: 'action',
        run: act(() => edit(call('allotAll', { keep: 'placed' }))),
      },
      { id: 'do-undo', name: 'Undo', note: undoLabel ?? 'nothing to undo', run: act(undo) },
      { id: 'do-redo', name: 'Redo', note: redoLabel ?? 'nothing to do again', run: act(redo) },
      {
        id: 'do-export',
        name: 'Export this build',
        note: 'action · one file, photographs in it',
        run: act(() => void exportBuild(build)),
      },
      {
        id: 'do-theme',
        name: 'Paper or night',
        note: 'action',
        run: act(() => applyTheme(currentTheme() === 'night' ? 'paper' : 'night')),
      },
      {
        id: 'do-print',
        name: 'Print this sheet',
        note: 'action',
        run: act(() => setTimeout(() => window.print(), 200)),
      },
      { id: 'do-garage', name: 'Garage', note: 'all builds', run: act(() => void navigate('/')) },
    ];
  }, [build, net, select, edit, undo, redo, undoLabel, redoLabel, goTo, navigate, close]);
}

function Box({ close }: { close: () => void }) {
  const entries = useEntries(close);
  const [text, setText] = useState('');
  const found = find(text, entries, (entry) => [entry.name, entry.note]);
  return (
    <Autocomplete inputValue={text} onInputChange={setText}>
      <Field aria-label="Find a pin, wire, device, sheet or action" autoFocus>
        <Search size={18} aria-hidden />
        <Input placeholder="Pin, wire, device, sheet or action" />
      </Field>
      <List
        aria-label="Found"
        items={found.slice(0, MOST)}
        onAction={(key) => entries.find((entry) => entry.id === key)?.run()}
        renderEmptyState={() => <Small>Nothing of that name in this build.</Small>}
      >
        {(entry) => (
          <Item id={entry.id} textValue={entry.name}>
            <Text slot="label">{entry.name}</Text>
            <Small>{entry.note}</Small>
          </Item>
        )}
      </List>
      {found.length > MOST && <Small>{found.length - MOST} more: type on.</Small>}
    </Autocomplete>
  );
}

/** Ctrl K: finds anything in the build and goes there. */
export const CommandBox = memo(function CommandBox() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        setOpen(true);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const close = useMemo(() => () => setOpen(false), []);
  return (
    <>
      <Opener onPress={() => setOpen(true)}>
        <Search size={16} aria-hidden />
        <span>Find anything</span>
        <Kbd>Ctrl K</Kbd>
      </Opener>
      <Dialog title="Find anything" isOpen={open} onClose={close}>
        <Box close={close} />
      </Dialog>
    </>
  );
});

const Opener = styled(AriaButton)`
  display: inline-flex;
  align-items: center;
  justify-content: space-between;
  position: relative;
  gap: ${space[2]};
  min-height: 34px;
  padding: ${space[1]} 10px;
  border: ${shape.hair} solid ${color.rule};
  border-radius: ${shape.radius};
  background: ${color.raised};
  color: ${color.soft};
  cursor: pointer;
  white-space: nowrap;
  kbd {
    border: 0;
    padding: 0;
  }
  /* The glass and the keys say it; the words are for who cannot see them. */
  span {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
  ${at.narrow} {
    min-height: ${shape.target};
    min-width: ${shape.target};
    justify-content: center;
    kbd {
      display: none;
    }
  }
  ${at.print} {
    display: none;
  }
`;
const Field = styled(SearchField)`
  display: flex;
  align-items: center;
  gap: ${space[2]};
  padding: 0 ${space[3]};
  border: ${shape.line} solid ${color.ink};
  border-radius: ${shape.radius};
  input {
    flex: 1;
    min-width: 0;
    border: 0;
    outline: none;
    background: none;
    min-height: 42px;
  }
  input::-webkit-search-cancel-button {
    display: none;
  }
`;
const List = styled(Menu<Entry>)`
  max-height: 50vh;
  overflow: auto;
  outline: none;
`;
const Item = styled(MenuItem)`
  ${optionLook}
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: ${space[3]};
  outline: none;
  & > span:last-child {
    text-align: right;
  }
`;
