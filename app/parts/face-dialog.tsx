import { useState } from 'react';
import { faceConnector, faceMiss, firstFace, type DeviceFace } from '~/core/devices/face';
import type { DeviceKind } from '~/core/devices/kind';
import { cavityCount } from '~/core/ecu/face';
import { call } from '~/core/edits';
import { inSentence } from '~/core/units/format';
import { useBuild } from '../build/context';
import { ConnectorFields } from './connector-form';
import { ConnectorFace, type FaceSide } from './connector-face';
import type { FaceCavity } from './face-cavity';
import { Dialog } from '../ui/dialog';
import { KeptOrLeft } from './kept-or-left';
import { Select } from '../ui/select';
import { Bad, FieldGrid, Row, Small } from '../ui/text';
import { MeasureField } from './scale-field';
import { SideChoice } from './side-choice';

const NOWHERE = '';

/** Draws the plug of a kind as it is seen in the hand, and says which terminal sits in which cavity. */
export function FaceDialog({ kind, onClose }: { kind: DeviceKind; onClose: () => void }) {
  const { build, edit } = useBuild();
  const terminals = kind.terminals.map(({ id }) => id);
  const [face, setFace] = useState<DeviceFace>(
    kind.face ?? firstFace(kind.terminals.flatMap(({ id, destination }) => (destination.to === 'mounted' ? [] : id))),
  );
  const [side, setSide] = useState<FaceSide>('wire');
  const miss = faceMiss(face, terminals);
  const first = face.first ?? 1;
  const numbers = Array.from({ length: cavityCount(face) }, (_, i) => first + i);
  const holds = new Map(Object.entries(face.cavities).map(([terminal, cavity]) => [cavity, terminal]));
  const cavities = numbers.map((cavity): FaceCavity => {
    const terminal = kind.terminals.find(({ id }) => id === holds.get(cavity));
    return {
      cavity,
      pinId: String(cavity),
      text: terminal?.id ?? '',
      spoken: `Cavity ${cavity}, ${terminal ? `${terminal.id} ${terminal.name}` : 'empty'}`,
      mark: null,
      state: terminal ? 'wired' : 'empty',
      locked: false,
      movable: terminal?.id ?? null,
    };
  });
  /** A terminal into a cavity; one that was there changes places with it. */
  const put = (terminal: string, cavity: number | null) => {
    const next = { ...face.cavities };
    const was = next[terminal];
    const other = cavity === null ? undefined : holds.get(cavity);
    if (cavity === null) delete next[terminal];
    else next[terminal] = cavity;
    if (other !== undefined && other !== terminal) {
      if (was === undefined) delete next[other];
      else next[other] = was;
    }
    setFace({ ...face, cavities: next });
  };
  return (
    <Dialog title={`The plug of ${inSentence(kind.name)}`} isOpen onClose={onClose} wide>
      <Row $gap={3}>
        <SideChoice value={side} onChange={setSide} />
        <Small>
          Hold the plug by its wires, latch up. Numbers are moulded beside the cavities: read them with a lamp.
        </Small>
      </Row>
      <div style={{ maxWidth: Math.max(...face.rows) * 96 }}>
        <ConnectorFace
          connector={faceConnector(face)}
          cavities={cavities}
          side={side}
          selected={new Set()}
          able={null}
          onPress={() => undefined}
          moves={{
            onLift: () => undefined,
            onEnd: () => undefined,
            onDrop: (cavity, terminal) => put(terminal, Number(cavity)),
          }}
          name="The plug"
        />
      </div>
      <FieldGrid $min={130}>
        {kind.terminals.map(({ id, name }) => (
          <Select
            key={id}
            label={`${id} ${name}`}
            choices={[
              { id: NOWHERE, name: 'not in it' },
              ...numbers.map((cavity) => ({
                id: String(cavity),
                name: `cavity ${cavity}`,
                note: holds.has(cavity) && holds.get(cavity) !== id ? 'changes places' : '',
              })),
            ]}
            value={face.cavities[id] === undefined ? NOWHERE : String(face.cavities[id])}
            onChange={(cavity) => put(id, cavity === NOWHERE ? null : Number(cavity))}
          />
        ))}
      </FieldGrid>
      <ConnectorFields
        connector={faceConnector(face)}
        units={build.units}
        onChange={({ id: _, name: _none, ...changed }) =>
          setFace({ ...changed, cavities: face.cavities, acrossMillimetres: face.acrossMillimetres })
        }
      />
      <FieldGrid $min={130}>
        <MeasureField
          label="Across, to pass a hole"
          measure="diameter"
          units={build.units}
          value={face.acrossMillimetres ?? null}
          minValue={2}
          maxValue={300}
          onChange={(across) => setFace({ ...face, acrossMillimetres: across ?? undefined })}
        />
      </FieldGrid>
      {miss !== null && <Bad role="alert">{`${miss[0]!.toUpperCase()}${miss.slice(1)}.`}</Bad>}
      <KeptOrLeft
        canKeep={miss === null}
        canForget={kind.face !== undefined}
        onEnd={(end) => edit(call('setFace', { kindId: kind.id, face: end === 'keep' ? face : null }))}
        onClose={onClose}
      />
    </Dialog>
  );
}
