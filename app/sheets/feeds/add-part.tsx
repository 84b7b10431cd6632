import { call, type EditCall } from '~/core/edits';
import { USUAL_CONTACT_AMPS, type Part } from '~/core/topology/parts';
import { useBuild } from '../../build/context';
import { Menu } from '../../ui/menu';
import { Row } from '../../ui/text';

interface Addition {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly call: EditCall;
}
const part = (id: string, name: string, note: string, what: Part): Addition => ({
  id,
  name,
  note,
  call: call('addFeedPart', { part: what }),
});

/** What can be added to the feeds, each as it is usual; its particulars are changed beside the drawing. */
const additions: readonly Addition[] = [
  {
    id: 'master',
    name: 'Master switch',
    note: 'In the battery’s feed; everything then hangs behind it.',
    call: call('fitMasterSwitch', { amps: 300 }),
  },
  part('tap', 'Feed of the car', 'A switched or permanent feed the car has, and what it can still give.', {
    kind: 'tap',
    name: 'Feed of the car',
    live: 'run',
    amps: 10,
    fused: true,
    existing: true,
  }),
  part('relay', 'Relay', 'With no wire on it yet.', {
    kind: 'relay',
    name: 'Own',
    contact: 'make',
    control: 'need',
    suppression: 'none',
    reversed: false,
    contactAmps: USUAL_CONTACT_AMPS,
  }),
  part('car-relay', 'Relay of the car', 'One that is there already, to be pulled in by the ECU.', {
    kind: 'relay',
    name: 'Relay of the car',
    contact: 'make',
    control: 'need',
    suppression: 'none',
    reversed: false,
    contactAmps: USUAL_CONTACT_AMPS,
    existing: true,
  }),
  part('fuse', 'Fuse', 'With no wire on it yet.', { kind: 'fuse', name: 'Own' }),
  part('busbar', 'Busbar', 'Several fuses on one cable.', { kind: 'busbar', name: 'Busbar' }),
  part('splice', 'Splice', 'Where several meet; of returns as well.', { kind: 'splice', name: 'Own' }),
  part('ground', 'Ground bolt', 'A place of its own on the body.', { kind: 'ground', name: 'Own bolt', on: 'body' }),
  part('battery', 'Second battery', 'Its minus on the same body.', {
    kind: 'battery',
    name: 'Second battery',
    ampereHours: 60,
  }),
];
const PROPOSE = 'propose';

export function AddToFeeds() {
  const { build, edit } = useBuild();
  const decided =
    ['parts', 'changes', 'links'].some((key) => Object.keys(build.feeds[key as 'parts']).length > 0) ||
    build.feeds.source !== null;
  return (
    <Row $gap={2}>
      <Menu
        label="Add"
        choices={[
          ...additions,
          ...(decided
            ? [{ id: PROPOSE, name: 'Take the proposal again', note: 'Forgets what you changed in the feeds.' }]
            : []),
        ]}
        onChoose={(id) => {
          const found = additions.find((one) => one.id === id);
          if (found) edit(found.call);
          else if (id === PROPOSE) edit(call('proposeFeeds', {}));
        }}
      />
    </Row>
  );
}
