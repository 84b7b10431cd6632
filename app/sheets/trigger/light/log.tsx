import { styled } from 'styled-components';
import { call } from '~/core/edits';
import type { OffsetReading } from '~/core/build/schema';
import { cycleDegrees } from '~/core/engine/engine';
import type { LightLog } from '~/core/trigger/light';
import { offsetConventions } from '~/core/trigger/offset';
import { formatDegrees, plural } from '~/core/units/format';
import { useBuild } from '../../../build/context';
import { localTime } from '../../../parts/dates';
import { Button } from '../../../ui/button';
import { Table, TableScroll } from '../../../ui/table';
import { Row, ScreenOnly, Small, Stack, VisuallyHidden } from '../../../ui/text';
import { at, space } from '../../../ui/theme';

/** Every reading, what it asks for, and how far it lies off the line through all. */
export function Log({ log, readings }: { log: LightLog; readings: readonly OffsetReading[] }) {
  const { build, edit } = useBuild();
  // A reading is struck by its place among all that are kept.
  const placeOf = (index: number) => build.trigger.readings.indexOf(readings[index]);
  return (
    <Stack $gap={2}>
      <Row $gap={3} style={{ justifyContent: 'space-between' }}>
        <strong>
          {plural(readings.length, 'reading')}
          {log.scatter !== null && `, scatter ${log.scatter.toFixed(1)}°`}
        </strong>
        <ScreenOnly>
          <Button weight="quiet" onPress={() => edit(call('clearLights', {}))}>
            Start a new log
          </Button>
        </ScreenOnly>
      </Row>
      <TableScroll aria-label="Log of the light">
        <Readings>
          <thead>
            <tr>
              <th scope="col" className="roomy">
                read
              </th>
              <th scope="col" className="figure">
                rpm
              </th>
              <th scope="col" className="figure roomy">
                locked
              </th>
              <th scope="col" className="figure">
                shows
              </th>
              <th scope="col" className="figure roomy">
                offset then
              </th>
              <th scope="col" className="figure">
                asks for
              </th>
              <th scope="col" className="figure">
                off the line
              </th>
              <th scope="col">
                <VisuallyHidden>Strike</VisuallyHidden>
              </th>
            </tr>
          </thead>
          <tbody>
            {log.points.map((point, index) => (
              <tr key={`${readings[index]?.at} ${index}`}>
                <td className="roomy" style={{ whiteSpace: 'nowrap' }}>
                  {readings[index] ? localTime(readings[index].at) : ''}
                </td>
                <td className="figure">
                  {Math.round(point.rpm)}
                  <Small className="close">{readings[index] ? localTime(readings[index].at) : ''}</Small>
                </td>
                <td className="figure roomy">{point.commandedDegrees}°</td>
                <td className="figure">
                  {formatDegrees(point.seenDegrees)}
                  <Small className="close">lock {point.commandedDegrees}°</Small>
                </td>
                <td className="figure roomy">{formatDegrees(point.oldOffset)}</td>
                <td className="figure">
                  <strong>
                    {formatDegrees(offsetConventions(point.asks, cycleDegrees(build.engine) as 360 | 720).beforeTdc)}
                  </strong>
                  <Small className="close">from {formatDegrees(point.oldOffset)}</Small>
                </td>
                <td className="figure">{point.rest === null ? 'apart' : formatDegrees(point.rest)}</td>
                <td>
                  <ScreenOnly>
                    <Button
                      weight="quiet"
                      aria-label={`Strike reading ${index + 1}`}
                      onPress={() => edit(call('dropLight', { index: placeOf(index) }))}
                    >
                      strike
                    </Button>
                  </ScreenOnly>
                </td>
              </tr>
            ))}
          </tbody>
        </Readings>
      </TableScroll>
    </Stack>
  );
}

/** On a phone time, lock and old offset stand under the figures they belong to, so that nothing scrolls sideways. */
const Readings = styled(Table)`
  .close {
    display: none;
  }
  ${at.narrow} {
    && thead th.figure {
      white-space: normal;
      vertical-align: bottom;
    }
    th,
    td {
      padding-right: ${space[1]};
    }
    .roomy {
      display: none;
    }
    .close {
      display: block;
    }
  }
`;
