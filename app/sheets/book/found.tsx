import { countWires, donorList } from '~/core/donor/sort';
import { expectation } from '~/core/sensing/judge';
import { pinUnit, sensorsOf } from '~/core/sensing/sensor';
import { totalsOf } from '~/core/survey/records';
import { formatOhms, plural } from '~/core/units/format';
import { readQuantity } from '~/core/units/units';
import { standingReading } from '~/core/prove/evidence';
import { useBuild, useLater } from '../../build/context';
import { curveWords } from '../../parts/curve-words';
import { dayWords } from '../../parts/dates';
import { money } from '../../parts/money';
import { Table, TableScroll } from '../../ui/table';
import { Heading, Small, Soft, Stack } from '../../ui/text';

/** What the tuner sets in the ECU for each sensor, and what it must read at key-on. */
export function Calibrations() {
  const { build, net } = useLater();
  const sensors = sensorsOf(build, net);
  if (sensors.length === 0) return null;
  return (
    <Stack $gap={2}>
      <Heading>Calibrations</Heading>
      <TableScroll aria-label="Calibrations">
        <Table>
          <thead>
            <tr>
              <th scope="col">sensor</th>
              <th scope="col">pin</th>
              <th scope="col">calibration</th>
              <th scope="col">at key-on</th>
              <th scope="col">read</th>
            </tr>
          </thead>
          <tbody>
            {sensors.map((at) => {
              const expected = expectation(build.site, at);
              const reading = standingReading(build, at.id);
              return (
                <tr key={at.id}>
                  <th scope="row">{at.label}</th>
                  <td>{at.pin?.id ?? '–'}</td>
                  <td>
                    {curveWords(at.sensor.curve, at.sensor.quantity, at.sensor.signal, build)}
                    {at.pullUpOhms !== null && <Soft> pull-up {formatOhms(at.pullUpOhms)}</Soft>}
                  </td>
                  <td>
                    {expected
                      ? `${readQuantity(at.sensor.quantity, expected.value, build)}${expected.atPin === null ? '' : `, ${expected.atPin.toFixed(2)} ${pinUnit(at.sensor)}`}`
                      : '–'}
                  </td>
                  <td>{reading && reading.atPin !== null ? `${reading.atPin} ${pinUnit(at.sensor)}` : ''}</td>
                </tr>
              );
            })}
          </tbody>
        </Table>
      </TableScroll>
    </Stack>
  );
}

/** Hours, cost, questions and the donor loom: the side of the work that is not on the drawing. */
export function TimeAndCost() {
  const { build } = useBuild();
  const { survey } = build;
  const totals = totalsOf(survey);
  const donor = countWires(donorList(survey.donor));
  if (survey.hours.length + survey.parts.length + survey.questions.length + donor.total === 0) return null;
  return (
    <Stack $gap={3}>
      <Heading>Time, cost and questions</Heading>
      <Table>
        <tbody>
          <tr>
            <th scope="row">Hours</th>
            <td>
              {totals.hours} h
              {totals.hoursByDay.length > 0 && (
                <Soft> {totals.hoursByDay.map((one) => `${dayWords(one.day)} ${one.hours} h`).join(' · ')}</Soft>
              )}
            </td>
          </tr>
          <tr>
            <th scope="row">Parts</th>
            <td>
              {money(totals.cost, survey.currency)}
              {totals.costUnknown > 0 && <Soft> and {plural(totals.costUnknown, 'part')} without a price</Soft>}
              {totals.toOrder > 0 && <Soft>, {totals.toOrder} to order</Soft>}
            </td>
          </tr>
          {donor.total > 0 && (
            <tr>
              <th scope="row">Donor loom</th>
              <td>
                {plural(donor.total, 'wire')}: {donor.byDecision.keep + donor.byDecision.extend + donor.byDecision.move}{' '}
                stay, {donor.byDecision.remove} go, {donor.open} open, {donor.byDecision.mystery} unknown
                {donor.restraint > 0 && `, ${donor.restraint} locked`}
              </td>
            </tr>
          )}
        </tbody>
      </Table>
      {survey.questions.length > 0 && (
        <ul>
          {survey.questions.map((question) => (
            <li key={question.id}>
              <strong>{question.text}</strong> {question.answer || <Soft>not answered yet</Soft>}{' '}
              <Small>
                {question.to && `${question.to}, `}
                {dayWords(question.answeredOn ?? question.askedOn)}
              </Small>
            </li>
          ))}
        </ul>
      )}
    </Stack>
  );
}
