import { useState } from 'react';
import { addPin, draftPinId, type EcuDraft } from '~/core/ecu/draft';
import { pinIdOf, type Connector } from '~/core/ecu/ecu';
import { cavityCount } from '~/core/ecu/face';
import { classOfPin } from '~/core/wire/colours';
import { shortLabel } from '~/core/netlist/short';
import type { Units } from '~/core/units/units';
import { Heading, Row, Small, Stack } from '../../ui/text';
import { ConnectorFields } from '../connector-form';
import { ConnectorFace, type FaceSide } from '../connector-face';
import type { FaceCavity } from '../face-cavity';
import { defaultMark } from '../marks';
import { SideChoice } from '../side-choice';

/** How each connector looks: rows, numbering, sizes, ribs; drawn at once. */
export function Faces({
  draft,
  units,
  onChange,
  onLook,
}: {
  draft: EcuDraft;
  units: Units;
  onChange: (draft: EcuDraft) => void;
  /** Shows a pin among the others. */
  onLook: (pinId: string) => void;
}) {
  const [side, setSide] = useState<FaceSide>('wire');
  const put = (connector: Connector) =>
    onChange({ ...draft, connectors: draft.connectors.map((one) => (one.id === connector.id ? connector : one)) });
  if (draft.connectors.length === 0) return <Small>Paste the pinout first: its connectors are drawn here.</Small>;
  return (
    <Stack $gap={5}>
      <Row>
        <SideChoice value={side} onChange={setSide} />
        <Small>Everything is put in as seen from the wire side. A drawing of the mating side is its mirror.</Small>
      </Row>
      {draft.connectors.map((connector) => (
        <Face
          key={connector.id}
          draft={draft}
          units={units}
          connector={connector}
          side={side}
          onChange={put}
          onLook={onLook}
          onPlug={(cavity) => {
            onChange(addPin(draft, connector.id, cavity));
            onLook(pinIdOf(connector.id, cavity));
          }}
        />
      ))}
    </Stack>
  );
}

function Face({
  draft,
  units,
  connector,
  side,
  onChange,
  onLook,
  onPlug,
}: {
  draft: EcuDraft;
  units: Units;
  connector: Connector;
  side: FaceSide;
  onChange: (connector: Connector) => void;
  onLook: (pinId: string) => void;
  onPlug: (cavity: number) => void;
}) {
  const own = draft.pins.filter((pin) => pin.connector === connector.id);
  const cavities = own.map((pin): FaceCavity => {
    const signal = pin.abilities.length > 0 ? classOfPin({ abilities: pin.abilities }) : null;
    return {
      cavity: pin.cavity,
      pinId: draftPinId(pin),
      text: shortLabel(pin.label),
      spoken: `${draftPinId(pin)}, ${pin.label}`,
      mark: signal && defaultMark(signal),
      state: pin.abilities.length > 0 ? 'wired' : 'empty',
      locked: false,
    };
  });
  return (
    <Stack $gap={3}>
      <Heading>
        Connector {connector.id}: {cavityCount(connector)} cavities, {own.length} with a pin
      </Heading>
      <ConnectorFace
        connector={connector}
        cavities={cavities}
        side={side}
        selected={new Set()}
        able={null}
        onPress={onLook}
        onPlug={onPlug}
      />
      <ConnectorFields connector={connector} units={units} onChange={onChange} named />
    </Stack>
  );
}
