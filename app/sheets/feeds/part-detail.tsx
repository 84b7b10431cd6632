import { styled } from 'styled-components';
import type { CarReading } from '~/core/circuit/car';
import { charges, type Charge } from '~/core/circuit/figures';
import { readingWords } from '~/core/circuit/reading';
import type { DrawnNode } from '~/core/drawing/feeds';
import { call } from '~/core/edits';
import { deviceAt, partEnd, type EndKey } from '~/core/ends/ends';
import { withId } from '~/core/data/with-id';
import { labelOf } from '~/core/netlist/label';
import type { Netlist } from '~/core/netlist/netlist';
import type { SizedRelay } from '~/core/power/contact';
import { wayTo } from '~/core/power/flow';
import type { PlannedPart } from '~/core/power/propose';
import type { Part } from '~/core/topology/parts';
import { formatAmps, formatVolts } from '~/core/units/format';
import { hangCalls } from '~/core/ways/hang';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Checkbox, Segmented } from '../../ui/choice';
import { Menu } from '../../ui/menu';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { Heading, Row, Small, Soft, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { at, color, space } from '../../ui/theme';
import { CircuitDetail } from './circuit-detail';

/** Places a load can be hung on: the load side of fuses and relays, joints, sources. */
function outlets(net: Netlist): { id: string; name: string }[] {
  const found = net.parts.flatMap(({ name, part }): { id: string; name: string }[] => {
    switch (part.kind) {
      case 'relay':
        return [
          { id: partEnd('relay', name, '87'), name: `${part.name} relay` },
          ...(part.contact === 'change-over'
            ? [{ id: partEnd('relay', name, '87a'), name: `${part.name} relay, 87a` }]
            : []),
        ];
      case 'fuse':
        return [{ id: partEnd('fuse', name, '2'), name: `${part.name} fuse` }];
      case 'splice':
        return [{ id: partEnd('splice', name), name: `${part.name} splice` }];
      case 'busbar':
      case 'tap':
        return [{ id: partEnd(part.kind, name), name: part.name }];
      case 'switch':
        return part.poles === 2 ? [{ id: partEnd('switch', name, '4'), name: `${part.name}, second contact` }] : [];
      default:
        return [];
    }
  });
  return found.sort((one, other) => one.name.localeCompare(other.name));
}

/** Things that go into a wire, as they are usual. */
const intoWire: readonly { readonly id: string; readonly name: string; readonly part: Part }[] = [
  { id: 'fuse', name: 'In-line fuse', part: { kind: 'fuse', name: 'In-line' } },
  { id: 'splice', name: 'Splice', part: { kind: 'splice', name: 'Own' } },
  { id: 'switch', name: 'Switch', part: { kind: 'switch', name: 'Switch', amps: 30, resting: 'closed' } },
  { id: 'button', name: 'Push button', part: { kind: 'button', name: 'Push button' } },
  { id: 'resistor', name: 'Resistor of 470 Ω', part: { kind: 'resistor', name: '470 Ω', ohms: 470 } },
  { id: 'shunt', name: 'Shunt of 1 mΩ', part: { kind: 'resistor', name: 'Shunt', ohms: 0.001 } },
  { id: 'diode', name: 'Diode', part: { kind: 'diode', name: 'Diode' } },
];

/** What is known of the thing selected in the drawing, and what can be done with it. */
export function PartDetail({
  node,
  reading,
  isFolded,
  onFold,
}: {
  node: DrawnNode;
  reading: CarReading;
  isFolded: boolean;
  onFold: (isFolded: boolean) => void;
}) {
  const { derived } = useBuild();
  const feed =
    node.part?.part.kind === 'fuse' ? derived.net.circuits.find(({ id }) => id === node.part!.name) : undefined;
  return (
    <Box aria-label={node.name}>
      <Heading>
        {node.kind === 'relay' ? `${node.name} relay` : node.kind === 'fuse' ? `${node.name} fuse` : node.name}
      </Heading>
      {feed && (isFolded || feed.loads.length > 1) && (
        <Checkbox isSelected={isFolded} onChange={onFold}>
          Lane drawn as one
        </Checkbox>
      )}
      {node.kind === 'load' && <LoadFacts node={node} reading={reading} />}
      {node.part && <PartFields planned={node.part} />}
      {feed && <CircuitDetail circuit={feed} withRelay={false} />}
      <Into node={node} />
      {node.part && <TakeOut planned={node.part} />}
    </Box>
  );
}

/** A load: what it gets, and where it hangs. */
function LoadFacts({ node, reading }: { node: DrawnNode; reading: CarReading }) {
  const { derived, edit } = useBuild();
  const { net } = derived;
  const [end] = node.members as [EndKey];
  const drop = net.power.sizes.drops.find(({ draw }) => draw.end === end);
  const choices = outlets(net);
  // What stands in its wire is passed: a load hangs on what several can hang on.
  const hung = [...wayTo(net.power.flows, end)].reverse().find(({ from }) => withId(choices, from));
  const worst = drop?.hops.reduce((most, hop) => (hop.volts > most.volts ? hop : most), drop.hops[0]!);
  const volts = reading.reading(end);
  const own = (control: 'need' | null) =>
    edit(
      call('splitFeed', {
        ends: [...node.members],
        name: deviceAt(end) ?? 'own',
        title: node.name.slice(0, 60),
        control,
      }),
    );
  return (
    <Stack $gap={2}>
      {volts !== null && (
        <Small>
          {readingWords(volts)} at it in this state.
          {drop &&
            ` With everything on ${formatVolts(drop.volts)} of ${formatVolts(drop.limitVolts)} are lost on the way${worst ? `, most of it ${formatVolts(worst.volts)} between ${labelOf(net, worst.step.from)} and ${labelOf(net, worst.step.to)}` : ''}.`}
        </Small>
      )}
      <Select
        label="Hangs on"
        choices={choices}
        value={hung?.from ?? null}
        onChange={(from) => edit(...hangCalls(node.members, from as EndKey))}
      />
      <Row $gap={2}>
        <Button weight="quiet" onPress={() => own(null)}>
          Own fuse
        </Button>
        <Button weight="quiet" onPress={() => own('need')}>
          Own fuse and relay
        </Button>
      </Row>
    </Stack>
  );
}

/** Why a contact that is proposed is what it is. */
const contactReason: Record<SizedRelay['setBy'], string> = {
  person: '',
  'PW-15': 'The contact is the smallest that carries it for good (PW-15).',
  'PW-21': 'The contact is the smallest that makes it (PW-21).',
  usual: 'The contact is the smallest that is usual.',
};
/** What runs through a contact for good, and as it makes. */
const contactLoad = ({ flow, rush }: SizedRelay): string =>
  `${formatAmps(flow.rms)} run through it for good${rush ? `, ${formatAmps(rush.amps)} as it makes` : ''}.`;

/** What is the person's to say of a part. */
function PartFields({ planned }: { planned: PlannedPart }) {
  const { build, edit, derived } = useBuild();
  const { id, part } = planned;
  const sized = derived.net.power.sizes.relays.get(id);
  const change = (changes: Record<string, unknown>) => edit(call('setFeedPart', { partId: id, changes }));
  const boxes = Object.entries(build.feeds.boxes);
  return (
    <Stack $gap={2}>
      <TextField
        label="Name"
        value={part.name}
        onChange={(name) => name.trim() !== '' && change({ name: name.trim() })}
      />
      {(part.kind === 'fuse' || part.kind === 'relay') && boxes.length > 0 && (
        <Select
          label="In the box"
          choices={[{ id: '', name: 'none' }, ...boxes.map(([box, { name }]) => ({ id: box, name }))]}
          value={part.box ?? ''}
          onChange={(box) => change({ box: box === '' ? null : box })}
        />
      )}
      {part.kind === 'relay' && (
        <>
          <Select
            label="Pulled in by"
            choices={[
              { id: 'need', name: 'an output of the ECU' },
              { id: 'main-relay-pin', name: 'the ECU’s main relay pin' },
              { id: 'key-run', name: 'the key in run' },
              { id: 'key-start', name: 'the key at start' },
              { id: 'wired', name: 'wires of its own' },
            ]}
            value={part.control}
            onChange={(control) => change({ control })}
          />
          <Select
            label="Takes the winding’s kick"
            choices={[
              { id: 'none', name: 'nothing' },
              { id: 'diode', name: 'a diode inside' },
              { id: 'resistor', name: 'a resistor inside' },
            ]}
            value={part.suppression}
            onChange={(suppression) => change({ suppression })}
          />
          <Segmented
            label="Winding"
            choices={[
              { id: 'as-marked', name: '86 supply' },
              { id: 'reversed', name: '85 supply' },
            ]}
            value={part.reversed ? 'reversed' : 'as-marked'}
            onChange={(way) => change({ reversed: way === 'reversed' })}
          />
          <NumberField
            label="Contact carries"
            unit="A"
            value={part.contactAmps}
            minValue={1}
            maxValue={500}
            onChange={(contactAmps) => contactAmps !== null && change({ contactAmps })}
          />
          {sized && (
            <Small>
              {contactLoad(sized)} {contactReason[sized.setBy]}
            </Small>
          )}
        </>
      )}
      {part.kind === 'resistor' && (
        <NumberField
          label="Resistance"
          unit="Ω"
          value={part.ohms}
          minValue={0.0001}
          maxValue={1e6}
          onChange={(ohms) => ohms !== null && change({ ohms })}
        />
      )}
      {part.kind === 'switch' && (
        <Segmented
          label="Stands"
          choices={[
            { id: 'closed', name: 'closed' },
            { id: 'open', name: 'open' },
          ]}
          value={part.resting}
          onChange={(resting) => change({ resting })}
        />
      )}
      {part.kind === 'switch' && (
        <Checkbox isSelected={part.poles === 2} onChange={(on) => change({ poles: on ? 2 : 1 })}>
          Second contact, 3 and 4
        </Checkbox>
      )}
      {part.kind === 'battery' && (
        <>
          <NumberField
            label="Capacity"
            unit="Ah"
            value={part.ampereHours}
            minValue={1}
            maxValue={500}
            onChange={(ampereHours) => ampereHours !== null && change({ ampereHours })}
          />
          <Segmented
            label="Stands"
            choices={(Object.keys(charges) as Charge[]).map((name) => ({ id: name, name }))}
            value={(Object.keys(charges) as Charge[]).find((name) => charges[name] === (part.charge ?? 1)) ?? 'full'}
            onChange={(name) => change({ charge: charges[name] })}
          />
        </>
      )}
      {(part.kind === 'switch' || part.kind === 'tap') && (
        <NumberField
          label={part.kind === 'tap' ? 'Can still give' : 'Carries'}
          unit="A"
          value={part.amps}
          minValue={0.1}
          maxValue={part.kind === 'tap' ? 500 : 1000}
          onChange={(amps) => amps !== null && change({ amps })}
        />
      )}
      {part.kind === 'tap' && (
        <>
          <Segmented
            label="Live"
            choices={[
              { id: 'always', name: 'always' },
              { id: 'accessory', name: 'accessory' },
              { id: 'run', name: 'run' },
              { id: 'start', name: 'start' },
            ]}
            value={part.live}
            onChange={(live) => change({ live })}
          />
          <Checkbox isSelected={part.fused} onChange={(fused) => change({ fused })}>
            Fused where it comes from
          </Checkbox>
          <Small>Never tap a wire of the airbags, of their igniters or of a belt’s pretensioner.</Small>
        </>
      )}
      {part.kind !== 'fuse' && (
        <Checkbox isSelected={part.existing ?? false} onChange={(existing) => change({ existing })}>
          The car has it already
        </Checkbox>
      )}
    </Stack>
  );
}

/** Puts something into the wire that leads here. */
function Into({ node }: { node: DrawnNode }) {
  const { derived, edit } = useBuild();
  const { flows } = derived.net.power;
  const [first] = node.members;
  const end = first ?? (node.part ? entry(node.part) : node.end);
  const link = flows.into.get(end)?.link;
  if (!link || node.members.length > 1) return null;
  return (
    <Menu
      weight="quiet"
      label="Put into its wire"
      choices={intoWire}
      onChoose={(id) =>
        edit(call('insertInFeed', { linkId: link.id, part: intoWire.find((one) => one.id === id)!.part }))
      }
    />
  );
}

/** The side of a part that its source is on. */
function entry({ name, part }: PlannedPart): EndKey {
  if (part.kind === 'relay') return partEnd('relay', name, '30');
  const port = part.kind === 'diode' ? 'a' : ['fuse', 'switch', 'button', 'resistor'].includes(part.kind) ? '1' : '';
  return partEnd(part.kind, name, port);
}

function TakeOut({ planned }: { planned: PlannedPart }) {
  const { edit } = useBuild();
  return (
    <Row $gap={2}>
      <Button weight="quiet" onPress={() => edit(call('removeFeedPart', { partId: planned.id }))}>
        Take it out
      </Button>
      <Soft>{planned.proposed ? 'as proposed' : 'yours'}</Soft>
    </Row>
  );
}

const Box = styled.section`
  display: grid;
  gap: ${space[3]};
  padding-top: ${space[3]};
  border-top: 1px solid ${color.rule};
  ${at.print} {
    display: none;
  }
`;
