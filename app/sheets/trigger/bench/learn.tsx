import { useState } from 'react';
import { useNavigate } from 'react-router';
import { cycleDegrees } from '~/core/engine/engine';
import type { Result } from '~/core/problem';
import { teachCam, teachCrank, type Taught } from '~/core/trigger/taught';
import { CRANKING_MOST_RPM } from '~/core/trigger/speed';
import { draftOf } from '~/core/trigger/teeth';
import { useBuild } from '../../../build/context';
import { keepWheelDraft } from '../../../storage/library';
import { refusedProblem } from '../../../storage/failure';
import { Button } from '../../../ui/button';
import { NumberField } from '../../../ui/number-field';
import { Callout, Heading, Row, Small, Stack } from '../../../ui/text';
import type { BenchView } from '../../../workers/trigger.worker';

/** Takes the wheel out of the capture itself, for wheels no library has. */
export function Learn({ view }: { view: BenchView }) {
  const { build } = useBuild();
  const navigate = useNavigate();
  const [teeth, setTeeth] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { match } = view.reading;
  const take = async (learned: Result<Taught>) => {
    if (!learned.ok) return setProblem(learned.problem.sentence);
    const { wheel, turns, scatter, notes } = learned.value;
    const from = [
      `Learned from ${view.name}, ${turns} turns${scatter === null ? '' : `, teeth steady to ${scatter.toFixed(1)}°`}.`,
      ...notes,
    ].join(' ');
    try {
      const id = `own-${crypto.randomUUID().slice(0, 8)}`;
      await keepWheelDraft(draftOf(wheel, { id, name: wheel.name, from: from.slice(0, 400) }));
    } catch (error) {
      return setProblem(refusedProblem(error, 'The wheel was not kept').sentence);
    }
    await navigate(`/build/${build.id}/trigger/wheels`);
  };
  const events = build.engine.cylinders / (cycleDegrees(build.engine) / 360);
  return (
    <Stack $gap={2}>
      <Heading>None of these?</Heading>
      <Small>
        Let the capture teach the wheel: it goes to the drawing board with its angles averaged over the turns.
      </Small>
      <NumberField
        label="Teeth a turn, if you counted them"
        value={teeth}
        minValue={1}
        maxValue={200}
        onChange={(value) => setTeeth(value === null ? null : Math.round(value))}
      />
      <Row $gap={2}>
        <Button
          onPress={() =>
            void take(
              teachCrank(match, 'Learned crank wheel', {
                teeth,
                ripple: match.rpm.mean < CRANKING_MOST_RPM ? build.trigger.ripple : 0,
                events,
              }),
            )
          }
        >
          Learn the crank wheel
        </Button>
        {match.cam && (
          <Button onPress={() => void take(teachCam(match, 'Learned cam wheel'))}>Learn the cam wheel</Button>
        )}
      </Row>
      {problem && (
        <Callout $tone="stop" role="alert">
          {problem}
        </Callout>
      )}
    </Stack>
  );
}
