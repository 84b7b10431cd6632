import { call } from '~/core/edits';
import { colourCodes, splitColour, type ColourCode } from '~/core/wire/colours';
import { useBuild } from '../../build/context';
import { SizeField } from '../../parts/size-field';
import { WireLine } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { Select } from '../../ui/select';
import { Row, Small } from '../../ui/text';

const PLAIN = 'plain';
const colourNames: Readonly<Record<ColourCode, string>> = {
  BK: 'black',
  BN: 'brown',
  RD: 'red',
  OG: 'orange',
  YE: 'yellow',
  GN: 'green',
  BU: 'blue',
  VT: 'violet',
  GY: 'grey',
  WH: 'white',
  PK: 'pink',
  TQ: 'turquoise',
};
const colours = colourCodes.map((id) => ({ id, name: id, note: colourNames[id] }));

/** Colour and size of one wire, or of its half on one side of a plug, by the person's own choice. */
export function WireChoice({ wireId }: { wireId: string }) {
  const { build, derived, edit } = useBuild();
  const wire = derived.net.wireById.get(wireId);
  if (!wire) return null;
  const { base, stripe } = splitColour(wire.colour);
  const choice = build.loom.wires[wireId];
  const paint = (one: string, other: string | null) =>
    edit(call('setWire', { wireId, colour: other === null || other === one ? one : `${one}/${other}` }));
  return (
    <Row $gap={3} role="group" aria-label="This wire" style={{ alignItems: 'end', paddingBlock: 6 }}>
      <Select label="Colour" choices={colours} value={base} onChange={(one) => paint(one, stripe)} />
      <Select
        label="Stripe"
        choices={[{ id: PLAIN, name: 'none' }, ...colours.filter(({ id }) => id !== base)]}
        value={stripe ?? PLAIN}
        onChange={(one) => paint(base, one === PLAIN ? null : one)}
      />
      <span style={{ width: 130 }}>
        <SizeField
          label="Size"
          units={build.units}
          value={wire.squareMm}
          minValue={0.05}
          maxValue={95}
          onChange={(squareMm) => edit(call('setWire', { wireId, squareMm }))}
        />
      </span>
      <span style={{ width: 90, display: 'inline-flex', paddingBottom: 12 }}>
        <WireLine colour={wire.colour} />
      </span>
      {choice ? (
        <Button weight="quiet" onPress={() => edit(call('setWire', { wireId, squareMm: null, colour: null }))}>
          As Gonyx has it
        </Button>
      ) : (
        <Small>{wire.cutOf === null ? 'As Gonyx chose it.' : 'As the whole wire is; a half may have its own.'}</Small>
      )}
    </Row>
  );
}
