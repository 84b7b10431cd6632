import { withId } from '~/core/data/with-id';
import { Check, Minus, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import type { Candidate, NextTest, TraceAnswer } from '~/core/trace/trace';
import { symptomsOf } from '~/core/trace/symptoms';
import type { TraceTest } from '~/core/trace/tests';
import { formatOhms, formatVolts, plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { SheetFrame } from '../../parts/sheet-frame';
import { newId } from '../../storage/garage';
import { Button } from '../../ui/button';
import { Select } from '../../ui/select';
import { FigureField } from '../../ui/text-field';
import { Callout, Heading, Row, Small, Soft, Stack } from '../../ui/text';
import { at, color, space } from '../../ui/theme';
import { CloseCase } from './close-case';
import { useTrace } from './use-trace';

const now = () => new Date().toISOString();
const valueWords = (test: TraceTest, value: number | null): string =>
  value === null
    ? test.mode === 'ohms'
      ? 'open line'
      : 'no reading'
    : test.mode === 'volts'
      ? formatVolts(value)
      : test.mode === 'ohms'
        ? formatOhms(value)
        : test.mode === 'count'
          ? `${value} teeth`
          : value === 1
            ? 'yes'
            : 'no';

function ReadingForm({
  test,
  onEnter,
  expected,
}: {
  test: TraceTest;
  onEnter: (value: number | null) => void;
  expected?: string;
}) {
  const { select } = useBuild();
  const [value, setValue] = useState<number | null>(null);
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        if (value !== null) onEnter(value);
      }}
    >
      <div>
        <Button weight="quiet" onPress={() => select({ type: 'end', end: test.plus })}>
          {test.title}
        </Button>
        <Small>
          {test.how} {expected && <>Healthy: {expected}. </>}About {test.minutes} min.
        </Small>
      </div>
      {test.mode === 'answer' ? (
        <Row $gap={2} role="group" aria-label={`Answer: ${test.title}`}>
          <Button onPress={() => onEnter(1)}>Yes</Button>
          <Button onPress={() => onEnter(0)}>No</Button>
        </Row>
      ) : (
        <Row $gap={2}>
          <FigureField label={`Reading: ${test.title}`} hideLabel unit={test.unit} onChange={setValue} />
          <Button type="submit" isDisabled={value === null}>
            Enter
          </Button>
          {test.mode === 'ohms' && <Button onPress={() => onEnter(null)}>Open line</Button>}
        </Row>
      )}
    </Form>
  );
}

function CandidateLine({ candidate, rank, onClose }: { candidate: Candidate; rank: number; onClose: () => void }) {
  const { select } = useBuild();
  const [open, setOpen] = useState(rank === 0);
  return (
    <li>
      <Head>
        <strong>{(candidate.probability * 100).toFixed(candidate.probability < 0.1 ? 1 : 0)} %</strong>
        <Track aria-hidden>
          <span style={{ width: `${candidate.probability * 100}%` }} />
        </Track>
        <Button
          weight="quiet"
          aria-expanded={open}
          onPress={() => {
            setOpen(!open);
            if (candidate.where) select({ type: 'end', end: candidate.where });
          }}
        >
          {candidate.title}
        </Button>
      </Head>
      {open && (
        <Reasons>
          {candidate.evidence.length === 0 && (
            <Small>Before any reading: experience says how often this is the cause.</Small>
          )}
          {candidate.evidence.map((one) => (
            <p key={one.sentence}>
              {one.agrees === null ? (
                <Minus size={15} aria-label="says nothing" style={{ color: color.soft }} />
              ) : one.agrees ? (
                <Check size={15} aria-label="agrees" style={{ color: color.proved }} />
              ) : (
                <X size={15} aria-label="speaks against it" style={{ color: color.stop }} />
              )}{' '}
              {one.sentence}
              {one.agrees === null && <Soft> A loom without a fault reads the same.</Soft>}
            </p>
          ))}
          {candidate.tellApart && (
            <p>
              <Soft>Tells it from the next:</Soft> {candidate.tellApart.test.title}: {candidate.tellApart.here} here,{' '}
              {candidate.tellApart.next} there.
            </p>
          )}
          <Button weight="quiet" onPress={onClose}>
            This was it
          </Button>
        </Reasons>
      )}
    </li>
  );
}

function Answer({
  answer,
  caseId,
  onClose,
}: {
  answer: TraceAnswer;
  caseId: string;
  onClose: (candidate: Candidate) => void;
}) {
  const { build, edit } = useBuild();
  const one = build.cases.find((candidate) => candidate.id === caseId)!;
  const [other, setOther] = useState<string | null>(null);
  const enter = (test: TraceTest) => (value: number | null) => {
    edit(call('addCaseReading', { caseId, testId: test.id, value, at: now() }));
    setOther(null);
  };
  const [best, ...rest]: readonly NextTest[] = answer.next;
  const chosen = withId(answer.tests, other);
  return (
    <Columns>
      <Stack $gap={3}>
        <Heading>Measure next</Heading>
        {best ? (
          <Callout $tone="pencil">
            <ReadingForm
              key={best.test.id}
              test={best.test}
              expected={best.expectedHealthy}
              onEnter={enter(best.test)}
            />
          </Callout>
        ) : (
          <Small>No reading left would change the order.</Small>
        )}
        {rest.slice(0, 3).map((next) => (
          <ReadingForm key={next.test.id} test={next.test} expected={next.expectedHealthy} onEnter={enter(next.test)} />
        ))}
        <Select
          label="Another reading"
          choices={answer.tests.map((test) => ({ id: test.id, name: test.title, note: test.how }))}
          value={other}
          onChange={setOther}
        />
        {chosen && <ReadingForm key={chosen.id} test={chosen} onEnter={enter(chosen)} />}
        <Heading>Readings taken</Heading>
        {one.readings.length === 0 && <Small>None yet. The first one above is the cheapest that tells most.</Small>}
        <Stack as="ul" $gap={1}>
          {one.readings.map((reading) => {
            const test = withId(answer.tests, reading.testId);
            return (
              <li key={reading.testId}>
                <Row $gap={2}>
                  <span>
                    {test?.title ?? reading.testId}:{' '}
                    <strong>{test ? valueWords(test, reading.value) : String(reading.value)}</strong>
                  </span>
                  <Button
                    weight="quiet"
                    onPress={() => edit(call('removeCaseReading', { caseId, testId: reading.testId }))}
                  >
                    take back
                  </Button>
                </Row>
              </li>
            );
          })}
        </Stack>
      </Stack>
      <Stack $gap={3}>
        <Heading>Most likely</Heading>
        <Stack as="ol" $gap={2}>
          {answer.candidates.slice(0, 9).map((candidate, index) => (
            <CandidateLine key={candidate.id} candidate={candidate} rank={index} onClose={() => onClose(candidate)} />
          ))}
        </Stack>
        <Small>
          From {answer.solved} solutions of this loom’s circuit, each with one fault in it, weighed against your
          readings. Priors are common practice: fuses and grounds first.
        </Small>
      </Stack>
    </Columns>
  );
}

/** `asked`: the symptom whose case is opened first. */
export function Trace({ asked }: { asked: string | null }) {
  const { build, derived, edit } = useBuild();
  const symptoms = useMemo(() => symptomsOf(derived.net), [derived.net]);
  const [caseId, setCaseId] = useState<string | null>(null);
  const [closing, setClosing] = useState<string | null>(null);
  const open = build.cases.filter((one) => one.closed === null);
  const current =
    open.find((one) => one.id === caseId) ??
    open.find((one) => caseId === null && one.symptomId === asked) ??
    open[open.length - 1] ??
    null;
  const trace = useTrace(build, current);
  const closed = build.cases.filter((one) => one.closed !== null);
  const begin = (symptomId: string) => {
    const known = open.find((one) => one.symptomId === symptomId);
    if (known) {
      setCaseId(known.id);
      return;
    }
    const id = newId();
    edit(call('openCase', { id, symptomId, at: now() }));
    setCaseId(id);
  };
  return (
    <SheetFrame
      summary={
        <span role="status">
          {current
            ? (symptoms.find((one) => one.id === current.symptomId)?.title ?? 'A symptom of an earlier plan')
            : 'What do you see?'}
          <br />
          <Soft>
            {current
              ? `${plural(current.readings.length, 'reading')} taken.`
              : `${plural(closed.length, 'case')} closed.`}
          </Soft>
        </span>
      }
    >
      <Stack $gap={4}>
        <div style={{ maxWidth: 460 }}>
          <Select
            label="Symptom"
            choices={symptoms.map((one) => ({ id: one.id, name: one.title }))}
            value={current?.symptomId ?? null}
            onChange={begin}
            hint="Pick what you see. Each symptom is a case of its own."
          />
        </div>
        <Small>
          Fuel vapour and sparks do not mix; moving belts and fans take fingers; a car stands on stands, never on a
          jack. Airbag wiring is never probed.
        </Small>
        {current && (
          <CloseCase
            key={current.id}
            candidates={trace.answer?.candidates ?? []}
            chosenId={closing}
            onChoose={setClosing}
            onClose={(faultId, title, note) => {
              edit(call('closeCase', { caseId: current.id, faultId, title, note, at: now() }));
              setCaseId(null);
              setClosing(null);
            }}
          />
        )}
        {current && trace.progress !== null && !trace.answer && (
          <p role="status">Solving the faults: {Math.round(trace.progress * 100)} %</p>
        )}
        {trace.failure && <p role="alert">The search stopped: {trace.failure}</p>}
        {current && trace.answer && (
          <Answer answer={trace.answer} caseId={current.id} onClose={(candidate) => setClosing(candidate.id)} />
        )}
        {!current && closed.length === 0 && (
          <p>
            When something does not work, pick it above. Gonyx solves this loom with every likely fault in it and names
            the reading that tells most for the least work.
          </p>
        )}
        {closed.length > 0 && (
          <Stack $gap={2}>
            <Heading>Closed cases</Heading>
            <ul>
              {closed.map((one) => (
                <li key={one.id}>
                  {symptoms.find((symptom) => symptom.id === one.symptomId)?.title ?? one.symptomId}:{' '}
                  <strong>{one.closed!.title}</strong>{' '}
                  <Soft>
                    {new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium' }).format(new Date(one.closed!.at))},{' '}
                    {plural(one.readings.length, 'reading')}
                  </Soft>
                  {one.closed!.note && (
                    <>
                      <br />
                      Mended: {one.closed!.note}
                    </>
                  )}
                </li>
              ))}
            </ul>
          </Stack>
        )}
      </Stack>
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: ${space[5]};
  ${at.tablet} {
    grid-template-columns: 1fr;
  }
`;
const Form = styled.form`
  display: grid;
  gap: ${space[1]};
  width: 100%;
  button {
    text-align: left;
  }
  & > div:first-child > button {
    justify-content: start;
    font-weight: 700;
  }
  & > div:first-child {
    display: grid;
    justify-items: start;
  }
  input {
    max-width: 120px;
  }
`;
const Head = styled.div`
  display: grid;
  grid-template-columns: 52px 70px minmax(0, 1fr);
  gap: ${space[2]};
  align-items: center;
  strong {
    text-align: right;
  }
  button {
    justify-content: start;
    text-align: left;
  }
`;
const Track = styled.span`
  height: 8px;
  border-radius: 4px;
  background: ${color.raised};
  border: 1px solid ${color.rule};
  overflow: hidden;
  span {
    display: block;
    height: 100%;
    background: ${color.ink};
  }
`;
const Reasons = styled.div`
  display: grid;
  gap: ${space[1]};
  justify-items: start;
  padding: ${space[1]} 0 ${space[2]} 60px;
  font-size: 14px;
  svg {
    vertical-align: -2px;
  }
  ${at.narrow} {
    padding-left: ${space[3]};
  }
`;
