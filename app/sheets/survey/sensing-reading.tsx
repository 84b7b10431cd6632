import { useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import type { DeviceKind } from '~/core/devices/kind';
import { judgeSensor } from '~/core/sensing/judge';
import { pinUnit, type SensorAt } from '~/core/sensing/sensor';
import { fromShown, readerScale } from '~/core/units/units';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Callout, FieldGrid, Heading, Row, Small, Stack } from '../../ui/text';
import { FigureField } from '../../ui/text-field';
import { color, space } from '../../ui/theme';

/** A reading typed in, judged at once, with what would explain it and what to measure next. */
export function Reading({ sensor, library }: { sensor: SensorAt; library: readonly DeviceKind[] }) {
  const { build, edit } = useBuild();
  const kept = build.sensing.readings[sensor.id] ?? null;
  const scale = readerScale(sensor.sensor.quantity, build);
  const [pin, setPin] = useState<number | null>(null);
  const [shown, setShown] = useState<number | null>(null);
  const [turn, setTurn] = useState(0);
  const judged = kept ? judgeSensor(build, sensor, kept, library) : null;
  const keep = () => {
    if (pin === null && shown === null) return;
    edit(
      call('recordSensing', {
        sensorId: sensor.id,
        reading: {
          atPin: pin,
          shown: shown === null ? null : fromShown(scale, shown),
          at: new Date().toISOString(),
          by: build.prove.by,
        },
      }),
    );
    setPin(null);
    setShown(null);
    setTurn(turn + 1);
  };
  return (
    <Stack $gap={3}>
      <Heading>What did you read?</Heading>
      <Small>Key on, engine cold and still. Either figure will do; both tell wires from settings.</Small>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <Stack $gap={3}>
          <FieldGrid $min={120} key={`${sensor.id} ${turn}`}>
            <FigureField label="Meter at the pin" unit={pinUnit(sensor.sensor)} onChange={setPin} />
            <FigureField label="The ECU shows" unit={scale.unit} onChange={setShown} />
          </FieldGrid>
          <Row>
            <Button weight="act" type="submit" isDisabled={pin === null && shown === null}>
              Judge it
            </Button>
            {kept && (
              <Button
                weight="quiet"
                onPress={() => edit(call('recordSensing', { sensorId: sensor.id, reading: null }))}
              >
                Forget the reading
              </Button>
            )}
          </Row>
        </Stack>
      </form>
      {judged && (
        <Callout $tone={tones[judged.verdict]} role="status" data-testid="judgement">
          <strong>{words[judged.verdict]}</strong>
          <span>{judged.sentence}</span>
          {judged.advice && <span>{judged.advice}</span>}
        </Callout>
      )}
      {judged && judged.causes.length > 0 && (
        <Causes aria-label="What would explain it">
          {judged.causes.map((cause) => (
            <li key={cause.sentence}>
              <span>
                {cause.sentence} <Odds>{oddsWords(cause.odds)}</Odds>
              </span>
              <Small>{cause.check}</Small>
            </li>
          ))}
          {(judged.none ?? 0) >= 0.05 && (
            <li>
              <span>
                None of these. <Odds>{oddsWords(judged.none!)}</Odds>
              </span>
              <Small>Then measure once more, at the sensor’s own plug.</Small>
            </li>
          )}
        </Causes>
      )}
    </Stack>
  );
}

const tones = { right: 'proved', doubtful: 'fix', wrong: 'stop', unexplained: 'stop', 'not-known': 'note' } as const;
const words = {
  right: 'Right',
  doubtful: 'Right, but not sure',
  wrong: 'Not right',
  unexplained: 'Not right',
  'not-known': 'For you to judge',
} as const;
/** Odds rest on how often a mistake is met: one figure in ten is all that is known. */
const oddsWords = (odds: number): string =>
  odds >= 0.95 ? 'nearly certain' : odds < 0.05 ? 'seldom' : `about ${Math.round(odds * 10)} in 10`;

const Odds = styled.em`
  color: ${color.soft};
  font-style: normal;
  white-space: nowrap;
`;
const Causes = styled.ol`
  padding-left: ${space[5]};
  display: grid;
  gap: ${space[2]};
  li > span {
    display: block;
  }
`;
