import { useState } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { donorList } from '~/core/donor/sort';
import { partStates, totalsOf, type Part, type Question } from '~/core/survey/records';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { dayWords, today } from '../../parts/dates';
import { money } from '../../parts/money';
import { Photos } from '../../parts/photos';
import { Button } from '../../ui/button';
import { useEdited } from '../../ui/edited';
import { NumberField } from '../../ui/number-field';
import { Select } from '../../ui/select';
import { Table, TableScroll } from '../../ui/table';
import { FieldGrid, Heading, Row, Small, Soft, Stack, VisuallyHidden } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { TypingScope } from '../../ui/typed';
import { at, color, shape, space } from '../../ui/theme';
import { SheetFrame } from '../../parts/sheet-frame';

const stateWords: Record<Part['state'], string> = { 'to-order': 'to order', ordered: 'ordered', here: 'here' };

function QuestionItem({ question }: { question: Question }) {
  const { edit } = useBuild();
  const [answer, setAnswer] = useEdited(question.answer);
  const keep = () => {
    if (answer === question.answer) return;
    edit(
      call('putQuestion', {
        question: { ...question, answer, answeredOn: answer.trim() ? (question.answeredOn ?? today()) : null },
      }),
    );
  };
  return (
    <Item data-done={question.answeredOn !== null}>
      <strong>{question.text}</strong>
      <Small>
        {question.to ? `asked ${question.to}, ` : ''}
        {dayWords(question.askedOn)}
        {question.answeredOn && `, answered ${dayWords(question.answeredOn)}`}
      </Small>
      <Row $gap={3} style={{ alignItems: 'end' }}>
        <div style={{ flex: '1 1 260px' }}>
          <TypingScope value={question.id}>
            <TextField label="Answer" value={answer} onChange={setAnswer} onBlur={keep} maxLength={1000} />
          </TypingScope>
        </div>
        <Button
          weight="quiet"
          onPress={() => edit(call('removeQuestion', { id: question.id }))}
          aria-label={`Remove: ${question.text}`}
        >
          remove
        </Button>
      </Row>
    </Item>
  );
}

function Questions() {
  const { build, edit } = useBuild();
  const [text, setText] = useState('');
  const [to, setTo] = useState('');
  const mystery = donorList(build.survey.donor).filter((wire) => wire.decision === 'mystery');
  const sorted = [...build.survey.questions].sort(
    (one, other) =>
      Number(one.answeredOn !== null) - Number(other.answeredOn !== null) || (one.askedOn < other.askedOn ? 1 : -1),
  );
  return (
    <Stack $gap={3}>
      <Heading>Questions and mysteries</Heading>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!text.trim()) return;
          edit(
            call('putQuestion', {
              question: {
                id: crypto.randomUUID(),
                text: text.trim(),
                to: to.trim(),
                askedOn: today(),
                answer: '',
                answeredOn: null,
                about: '',
              },
            }),
          );
          setText('');
        }}
      >
        <Row $gap={3} style={{ alignItems: 'end' }}>
          <div style={{ flex: '3 1 170px' }}>
            <TextField label="What do you need to know?" value={text} onChange={setText} maxLength={400} />
          </div>
          <div style={{ flex: '1 1 100px' }}>
            <TextField label="Whom to ask" value={to} onChange={setTo} maxLength={80} />
          </div>
          <Button type="submit" isDisabled={!text.trim()}>
            Note it
          </Button>
        </Row>
      </form>
      {sorted.length === 0 && mystery.length === 0 && (
        <Small>Nothing is open. A question noted here is not forgotten when the shop answers a week later.</Small>
      )}
      <ul>
        {sorted.map((question) => (
          <QuestionItem key={question.id} question={question} />
        ))}
      </ul>
      {mystery.length > 0 && (
        <Stack $gap={1}>
          <strong>{plural(mystery.length, 'mystery wire')} of the donor loom</strong>
          <ul>
            {mystery.slice(0, 12).map((wire) => (
              <li key={wire.id}>
                {wire.connector} {wire.cavity}{' '}
                <Soft>{[wire.colour, wire.size, wire.function].filter(Boolean).join(', ')}</Soft>
              </li>
            ))}
          </ul>
          {mystery.length > 12 && <Small>and {mystery.length - 12} more on the page Donor loom</Small>}
        </Stack>
      )}
    </Stack>
  );
}

function Parts() {
  const { build, edit } = useBuild();
  const [item, setItem] = useState('');
  const [from, setFrom] = useState('');
  const [count, setCount] = useState<number | null>(1);
  const [cost, setCost] = useState<number | null>(null);
  const { currency } = build.survey;
  const [code, setCode] = useEdited(currency);
  const put = (part: Part) => edit(call('putPart', { part }));
  return (
    <Stack $gap={3}>
      <Heading>Parts and cost</Heading>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!item.trim() || count === null) return;
          put({
            id: crypto.randomUUID(),
            item: item.trim(),
            from: from.trim(),
            count,
            costEach: cost,
            state: 'to-order',
          });
          setItem('');
          setCost(null);
          setCount(1);
        }}
      >
        <FieldGrid $min={120} style={{ alignItems: 'end' }}>
          <TextField label="Part" value={item} onChange={setItem} maxLength={160} />
          <TextField label="From" value={from} onChange={setFrom} maxLength={80} />
          <NumberField label="How many" value={count} minValue={0.01} maxValue={10000} onChange={setCount} />
          <NumberField
            label="Cost of one"
            unit={currency}
            value={cost}
            minValue={0}
            maxValue={1000000}
            onChange={setCost}
          />
          <Button type="submit" isDisabled={!item.trim() || count === null}>
            Add part
          </Button>
        </FieldGrid>
      </form>
      {build.survey.parts.length > 0 && (
        <TableScroll aria-label="Parts">
          <Table data-stacked="true">
            <thead>
              <tr>
                <th scope="col">Part</th>
                <th scope="col" className="figure">
                  Cost
                </th>
                <th scope="col">State</th>
                <th scope="col">
                  <VisuallyHidden>Remove</VisuallyHidden>
                </th>
              </tr>
            </thead>
            <tbody>
              {build.survey.parts.map((part) => (
                <tr key={part.id}>
                  <th scope="row">
                    {part.count === 1 ? '' : `${part.count} × `}
                    {part.item}
                    {part.from && (
                      <>
                        <br />
                        <Small>{part.from}</Small>
                      </>
                    )}
                  </th>
                  <td className="figure" data-label="Cost">
                    {part.costEach === null ? 'not known' : money(part.count * part.costEach, currency)}
                  </td>
                  <td style={{ minWidth: 132 }}>
                    <Select
                      label={`State of ${part.item}`}
                      hideLabel
                      choices={partStates.map((id) => ({ id, name: stateWords[id] }))}
                      value={part.state}
                      onChange={(state) => put({ ...part, state: state as Part['state'] })}
                    />
                  </td>
                  <td>
                    <Button
                      weight="quiet"
                      onPress={() => edit(call('removePart', { id: part.id }))}
                      aria-label={`Remove ${part.item}`}
                    >
                      remove
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </TableScroll>
      )}
      <div style={{ width: 150 }}>
        <TextField
          label="Currency"
          value={code}
          onChange={(next) => setCode(next.toUpperCase())}
          maxLength={3}
          onBlur={() =>
            code !== currency &&
            (/^[A-Z]{3}$/.test(code) ? edit(call('setCurrency', { currency: code })) : setCode(currency))
          }
          hint="Three letters, ISO 4217"
        />
      </div>
    </Stack>
  );
}

function HoursPanel() {
  const { build, edit } = useBuild();
  const [day, setDay] = useState(today());
  const [hours, setHours] = useState<number | null>(null);
  const [what, setWhat] = useState('');
  const valid = /^\d{4}-\d{2}-\d{2}$/.test(day) && !Number.isNaN(Date.parse(day));
  const entries = [...build.survey.hours].sort((one, other) => (one.day < other.day ? 1 : -1));
  return (
    <Stack $gap={3}>
      <Heading>Hours</Heading>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (hours === null || !valid) return;
          edit(call('putHours', { entry: { id: crypto.randomUUID(), day, hours, what: what.trim() } }));
          setHours(null);
          setWhat('');
        }}
      >
        <FieldGrid $min={110} style={{ alignItems: 'end' }}>
          <TextField
            label="Day"
            value={day}
            onChange={setDay}
            error={valid ? undefined : 'as 2026-03-01'}
            maxLength={10}
          />
          <NumberField label="Hours" unit="h" value={hours} minValue={0.05} maxValue={24} onChange={setHours} />
          <TextField label="What was done" value={what} onChange={setWhat} maxLength={160} />
          <Button type="submit" isDisabled={hours === null || !valid}>
            Add hours
          </Button>
        </FieldGrid>
      </form>
      <ul>
        {entries.map((entry) => (
          <Line key={entry.id}>
            <span>{dayWords(entry.day)}</span>
            <strong>{entry.hours} h</strong>
            <span>{entry.what}</span>
            <Button
              weight="quiet"
              onPress={() => edit(call('removeHours', { id: entry.id }))}
              aria-label={`Remove ${entry.hours} h of ${entry.day}`}
            >
              remove
            </Button>
          </Line>
        ))}
      </ul>
    </Stack>
  );
}

export function Notes() {
  const { build } = useBuild();
  const totals = totalsOf(build.survey);
  return (
    <SheetFrame
      summary={
        <>
          {plural(totals.openQuestions, 'question')} open, {plural(totals.toOrder, 'part')} to order.
          <br />
          <Soft>
            {totals.hours} h, {money(totals.cost, build.survey.currency)}
            {totals.costUnknown > 0 && ` and ${plural(totals.costUnknown, 'part')} without a price`}.
          </Soft>
        </>
      }
    >
      <Columns>
        <Stack $gap={5}>
          <Questions />
          <HoursPanel />
        </Stack>
        <Stack $gap={5}>
          <Parts />
          <Stack $gap={3}>
            <Heading>Photographs of the car</Heading>
            <Small>
              Take each plug before you cut it. Pictures stay on this device and leave it with the build's file.
            </Small>
            <Photos about="" label="the car" />
          </Stack>
        </Stack>
      </Columns>
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: ${space[5]} ${space[6]};
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Item = styled.li`
  display: grid;
  gap: ${space[1]};
  padding: ${space[2]} 0 ${space[3]} ${space[3]};
  border-left: 3px solid ${color.pencil};
  border-bottom: ${shape.hair} solid ${color.rule};
  &[data-done='true'] {
    border-left-color: ${color.proved};
  }
`;
const Line = styled.li`
  display: grid;
  grid-template-columns: 108px 56px minmax(0, 1fr) auto;
  gap: ${space[3]};
  align-items: baseline;
  border-bottom: ${shape.hair} solid ${color.rule};
`;
