import { Check } from 'lucide-react';
import { useState } from 'react';
import { styled } from 'styled-components';
import { call, type EditCall } from '~/core/edits';
import { trait, type DeviceKind } from '~/core/devices/kind';
import { topicTitles, countedWheel, type QuestionId, type Topic } from '~/core/identify/candidates';
import {
  answeredOf,
  identify,
  questions,
  type Question,
  type Ranked,
  type TopicResult,
} from '~/core/identify/identify';
import type { IdentifyAnswers } from '~/core/survey/records';
import type { Wheel } from '~/core/wheels/wheel';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { Button } from '../../ui/button';
import { Segmented } from '../../ui/choice';
import { NumberField } from '../../ui/number-field';
import { Callout, FieldGrid, Heading, Row, Small, Soft, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { at, color, shape, space } from '../../ui/theme';
import { SheetFrame } from '../../parts/sheet-frame';

const toolWords = { torch: 'torch', meter: 'meter', eyes: 'eyes' } as const;

function Ask({ question, isNext }: { question: Question; isNext: boolean }) {
  const { build, edit } = useBuild();
  const value = build.survey.identify[question.id];
  const set = (answer: string | number | null) =>
    edit(call('setIdentify', { [question.id]: answer } as Partial<IdentifyAnswers>));
  return (
    <Item data-next={isNext} data-done={value !== null}>
      <Row $gap={2}>
        <strong>{question.text}</strong>
        <Small>by {toolWords[question.tool]}</Small>
        {isNext && <Next>settles most</Next>}
        {value !== null && <Check size={16} aria-label="answered" color={color.proved} />}
      </Row>
      <Small>{question.how}</Small>
      <Row $gap={2}>
        {question.answer.type === 'choice' ? (
          <Segmented
            label={question.text}
            hideLabel
            choices={question.answer.options}
            value={value === null ? '' : String(value)}
            onChange={(id) => set(id)}
          />
        ) : (
          <div style={{ width: 150 }}>
            <NumberField
              label={question.text}
              hideLabel
              unit={question.answer.type === 'ohms' ? 'Ω' : undefined}
              value={value === null ? null : Number(value)}
              minValue={question.answer.type === 'count' ? question.answer.least : 0}
              maxValue={question.answer.type === 'count' ? question.answer.most : 10_000_000}
              onChange={(next) => set(next)}
            />
          </div>
        )}
        {value !== null && (
          <Button weight="quiet" onPress={() => set(null)} aria-label={`Take back: ${question.text}`}>
            take back
          </Button>
        )}
      </Row>
    </Item>
  );
}

/** What a settled topic becomes in the build, where it becomes something. */
function useApply(wheels: readonly Wheel[], kinds: readonly DeviceKind[]) {
  const { build } = useBuild();
  return (topic: Topic, { candidate }: Ranked): { label: string; calls: EditCall[] } | null => {
    if (topic === 'crank-wheel') {
      const counted = countedWheel(build.survey.identify);
      const wheel = wheels.find((one) => one.id === candidate.id) ?? (counted?.id === candidate.id ? counted : null);
      return wheel && build.trigger.crankWheel?.id !== wheel.id
        ? { label: `Use ${wheel.id} on sheet 3`, calls: [call('setWheel', { shaft: 'crank', wheel })] }
        : null;
    }
    if (topic === 'cam-wheel') {
      const wheel = wheels.find((one) => one.id === candidate.id) ?? null;
      return wheel && build.trigger.camWheel?.id !== wheel.id
        ? { label: 'Use it on sheet 3', calls: [call('setWheel', { shaft: 'cam', wheel })] }
        : null;
    }
    const byTopic: Partial<Record<string, string>> = {
      vr: 'crank-vr',
      'vr-shielded': 'crank-vr',
      hall: 'crank-hall',
      optical: 'distributor-optical',
      'cam-vr': 'cam-vr',
      'cam-hall': 'cam-hall',
      'cam-phaser': 'cam-phaser-plug',
      distributor: 'coil-distributor',
      'coil-bare': 'coil-bare',
      'coil-igniter': 'coil-igniter',
      'wasted-bare': 'coil-wasted-bare',
      'wasted-igniter': 'coil-wasted-igniter',
      high: 'injector-high',
      low: 'injector-low',
    };
    const kind = kinds.find((one) => one.id === byTopic[candidate.id]);
    if (!kind) return null;
    const same = Object.values(build.kinds).some((one) =>
      topic === 'coils'
        ? trait(one, 'coil') !== null
        : topic === 'injectors'
          ? trait(one, 'injector') !== null
          : trait(one, 'trigger')?.shaft === (topic === 'cam' ? 'cam' : 'crank'),
    );
    return same
      ? null
      : {
          label: kind.perCylinder ? 'Add one for each cylinder' : 'Add it to the devices',
          calls: [call('addDevice', { kind, perCylinder: kind.perCylinder })],
        };
  };
}

function TopicView({ result, apply }: { result: TopicResult; apply: ReturnType<typeof useApply> }) {
  const { edit } = useBuild();
  const [all, setAll] = useState(false);
  const out = result.ranked.filter((one) => one.out !== null);
  const action = result.settled ? apply(result.topic, result.settled) : null;
  const shown = result.settled ? [result.settled] : all ? result.open : result.open.slice(0, 5);
  return (
    <Stack $gap={2} data-testid={`topic-${result.topic}`}>
      <Heading>{topicTitles[result.topic]}</Heading>
      {result.open.length === 0 && (
        <Callout $tone="stop">
          <span>Nothing fits all the answers. Look again at the last one; or it is a kind Gonyx does not know.</span>
        </Callout>
      )}
      <ul>
        {shown.map((one) => (
          <Candidate key={one.candidate.id} data-settled={one === result.settled}>
            <strong>{one.candidate.name}</strong>
            <Small>{one.candidate.note}</Small>
            {one.near.map((near) => (
              <Near key={near}>{near}: count again</Near>
            ))}
          </Candidate>
        ))}
      </ul>
      {result.settled && result.open.length > 1 && (
        <Small>{plural(result.open.length - 1, 'other')} would fit if you miscounted by one.</Small>
      )}
      {!result.settled && result.open.length > shown.length && (
        <Row>
          <Button weight="quiet" onPress={() => setAll(true)}>
            and {result.open.length - shown.length} more
          </Button>
        </Row>
      )}
      {action && (
        <Row>
          <Button onPress={() => edit(...action.calls)}>{action.label}</Button>
        </Row>
      )}
      {result.next && !result.settled && (
        <Small>
          What would settle it: <em>{result.next.question.text}</em> leaves {result.next.leaves.toFixed(1)} of{' '}
          {result.open.length} on average.
        </Small>
      )}
      {out.length > 0 && (
        <details>
          <summary>{plural(out.length, 'is', 'are')} out</summary>
          <Outs>
            {out.map((one) => (
              <li key={one.candidate.id}>
                {one.candidate.name}: <Soft>{one.out}</Soft>
              </li>
            ))}
          </Outs>
        </details>
      )}
    </Stack>
  );
}

export function Identify({ wheels, kinds }: { wheels: readonly Wheel[]; kinds: readonly DeviceKind[] }) {
  const { build, edit } = useBuild();
  const answers = build.survey.identify;
  const results = identify(answers, wheels, build.engine.cylinders, build.ecu);
  const apply = useApply(wheels, kinds);
  const asked = answeredOf(answers).length;
  const settled = results.filter((one) => one.settled).length;
  const nextIds = new Set<QuestionId>(
    results.flatMap((one) => (one.settled || !one.next ? [] : [one.next.question.id])),
  );
  const [marks, setMarks] = useState({
    sensorColour: answers.sensorColour,
    headMarks: answers.headMarks,
    blockMarks: answers.blockMarks,
  });
  const mark = (id: keyof typeof marks, label: string, hint: string) => (
    <TextField
      label={label}
      hint={hint}
      value={marks[id]}
      maxLength={id === 'sensorColour' ? 60 : 200}
      onChange={(value) => setMarks({ ...marks, [id]: value })}
      onBlur={() => marks[id] !== answers[id] && edit(call('setIdentify', { [id]: marks[id] }))}
    />
  );
  return (
    <SheetFrame
      summary={
        <>
          {settled} of {results.length} settled by {plural(asked, 'answer')}.
          <br />
          <Soft>Answer what you can see; every answer rules something out.</Soft>
        </>
      }
    >
      <Columns>
        <Stack $gap={4}>
          <Callout $tone="note">
            <span>
              Battery disconnected, out of gear, wheels chocked, plugs out before the crank is turned by hand. Keep
              hands out of belts.
            </span>
          </Callout>
          <ul aria-label="Questions">
            {questions.map((question) => (
              <Ask key={question.id} question={question} isNext={nextIds.has(question.id)} />
            ))}
          </ul>
          <Stack $gap={3}>
            <Heading>Marks, as you find them</Heading>
            <FieldGrid $min={200}>
              {mark('sensorColour', 'Colour of sensors and plugs', 'black plug with a white key')}
              {mark('headMarks', 'Marks on the head', 'cast or stamped')}
              {mark('blockMarks', 'Marks on the block', 'cast or stamped')}
            </FieldGrid>
          </Stack>
        </Stack>
        <Stack $gap={5}>
          {results.map((result) => (
            <TopicView key={result.topic} result={result} apply={apply} />
          ))}
        </Stack>
      </Columns>
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: ${space[5]} ${space[6]};
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 0.9fr);
    gap: ${space[5]};
  }
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Item = styled.li`
  display: grid;
  gap: ${space[1]};
  padding: ${space[3]} 0 ${space[3]} ${space[3]};
  border-left: 3px solid ${color.rule};
  border-bottom: ${shape.hair} solid ${color.rule};
  &[data-next='true'] {
    border-left-color: ${color.pencil};
  }
  &[data-done='true'] {
    border-left-color: ${color.proved};
  }
`;
const Next = styled.span`
  color: ${color.pencil};
  font-weight: 700;
`;
const Candidate = styled.li`
  display: grid;
  padding: 3px 0 3px ${space[3]};
  border-left: 3px solid transparent;
  &[data-settled='true'] {
    border-left-color: ${color.proved};
  }
`;
const Near = styled.span`
  color: ${color.fix};
`;
const Outs = styled.ul`
  padding: ${space[1]} 0 0 ${space[3]};
`;
