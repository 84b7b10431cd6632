import { useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { placesWithout } from '~/core/edits/places';
import { systems, trait, type DeviceKind } from '~/core/devices/kind';
import { find } from '~/core/search/find';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Dialog } from '../../ui/dialog';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { FieldGrid, Row, Small, Soft, Stack } from '../../ui/text';
import { color, shape, space } from '../../ui/theme';
import { kindFacts } from '../../parts/kind-facts';
import { destinationWords } from '../../parts/destination-words';

/** Pick a kind by system, see its terminals, add one or one for each cylinder. */
export function AddDevice({
  kinds,
  own,
  isOpen,
  onClose,
}: {
  kinds: readonly DeviceKind[];
  own: readonly string[];
  isOpen: boolean;
  onClose: () => void;
}) {
  const { build, edit } = useBuild();
  const [system, setSystem] = useState<string>('Trigger');
  const [text, setText] = useState('');
  const [added, setAdded] = useState<string | null>(null);
  const shown =
    text.trim() === ''
      ? kinds.filter((kind) => kind.system === system)
      : find(text, kinds, (kind) => [kind.name, kind.note]);
  const add = (kind: DeviceKind, perCylinder: boolean) => {
    edit(call('addDevice', { kind, perCylinder }));
    setAdded(perCylinder ? `${kind.name}: one for each cylinder added.` : `${kind.name} added.`);
  };
  return (
    <Dialog title="Add a device" isOpen={isOpen} onClose={onClose} wide>
      <FieldGrid $min={220}>
        <Select
          label="System"
          choices={systems
            .filter((name) => name !== 'Body plug')
            .map((name) => ({
              id: name,
              name,
              note: `${kinds.filter((kind) => kind.system === name).length} kinds`,
            }))}
          value={system}
          onChange={setSystem}
        />
        <TextField
          label="Or search all kinds"
          passing
          value={text}
          onChange={setText}
          placeholder="coil, NTC, 10 bar"
        />
      </FieldGrid>
      <div role="status" aria-live="polite">
        {added && <Small>{added}</Small>}
      </div>
      <List>
        {shown.map((kind) => {
          const fitted = build.devices.filter((device) => device.kindId === kind.id).length;
          const missing = kind.perCylinder ? placesWithout(build, kind).length : 0;
          const each = (trait(kind, 'coil')?.serves ?? 1) > 1 ? 'pair' : 'cylinder';
          return (
            <li key={kind.id}>
              <Stack $gap={1}>
                <strong>
                  {kind.name}
                  {own.includes(kind.id) && <Soft> · your own</Soft>}
                </strong>
                <Small>{[...kindFacts(kind, build), kind.note].join('. ')}</Small>
                <Small>
                  {kind.terminals
                    .map((terminal) => `${terminal.id} ${terminal.name} → ${destinationWords(terminal.destination)}`)
                    .join(' · ')}
                </Small>
              </Stack>
              <Row $gap={2}>
                {fitted > 0 && <Soft>{fitted} on the list</Soft>}
                {missing > 0 || (kind.perCylinder && fitted > 0) ? (
                  <Button
                    weight="act"
                    isDisabled={missing === 0}
                    onPress={() => add(kind, true)}
                    aria-label={`Add ${kind.name} for each ${each}`}
                  >
                    {missing > 0 ? `Add ${missing}, one a ${each}` : 'All are on the list'}
                  </Button>
                ) : (
                  <Button onPress={() => add(kind, false)} aria-label={`Add ${kind.name}`}>
                    Add
                  </Button>
                )}
              </Row>
            </li>
          );
        })}
        {shown.length === 0 && <Small>No kind of that name. Make it in the library, from one that is close.</Small>}
      </List>
      <Row style={{ justifyContent: 'flex-end' }}>
        <Button onPress={onClose}>Done</Button>
      </Row>
    </Dialog>
  );
}

const List = styled.ul`
  max-height: 46vh;
  overflow: auto;
  li {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: ${space[2]} ${space[4]};
    padding: ${space[3]} ${space[1]};
    border-bottom: ${shape.hair} solid ${color.rule};
  }
  li > :first-child {
    flex: 1 1 300px;
  }
`;
