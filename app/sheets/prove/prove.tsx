import { withId } from '~/core/data/with-id';
import { endType } from '~/core/ends/ends';
import { labelOf } from '~/core/netlist/label';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { styled } from 'styled-components';
import type { Reading } from '~/core/build/schema';
import { call } from '~/core/edits';
import { BEEP, judge } from '~/core/prove/verdict';
import { probeMoves } from '~/core/prove/tests';
import { SECOND_ROW, type ProveTest } from '~/core/prove/prove-test';
import { tagOf } from '~/core/netlist/short';
import { formatOhms, formatVolts, plural } from '~/core/units/format';
import { groupBy } from '~/core/data/group';
import type { Derived } from '~/core/derive/derive';
import { placeName } from '~/core/loom/names';
import { halfWords } from '~/core/loom/plug-face';
import { useBuild, useLater } from '../../build/context';
import { InitialsField, useInitials } from '../../parts/initials';
import { SheetFrame } from '../../parts/sheet-frame';
import { Button } from '../../ui/button';
import { Checkbox, Segmented } from '../../ui/choice';
import { Chunks } from '../../ui/chunks';
import { NumberField } from '../../ui/number-field';
import { Callout, FieldGrid, Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';
import { useStable } from '../../ui/use-stable';
import { TestPanel } from './test-panel';

type Filter = 'left' | 'wrong' | 'all';

function Fallen() {
  const { build, edit } = useBuild();
  const { fallen } = useLater().progress;
  if (fallen.length === 0) return null;
  return (
    <Callout $tone="pencil" role="status">
      <strong>{plural(fallen.length, 'reading has', 'readings have')} lost their wire</strong>
      <Small>
        The plan changed after they were taken:{' '}
        {fallen
          .slice(0, 4)
          .map(
            ({ reading }) =>
              `${reading.title} (${formatOhms(reading.value === null ? null : Math.max(0, reading.value - build.prove.leadOhms))})`,
          )
          .join('; ')}
        {fallen.length > 4 && ` and ${fallen.length - 4} more`}. Test the new wires. Undo brings the old ones back.
      </Small>
      <Button
        weight="quiet"
        onPress={() => edit(call('clearReading', { testIds: fallen.map(({ testId }) => testId) }))}
      >
        Drop them
      </Button>
    </Callout>
  );
}

/** What stands in the row of a test, in words: a row whose words stay is not drawn again. */
interface RowWords {
  readonly title: string;
  readonly mark: string;
  readonly name: string;
  readonly figure: string;
  /** Of a reading that was taken. */
  readonly right: boolean | undefined;
}
function rowWords(net: Derived['net'], test: ProveTest, reading: Reading | undefined, leadOhms: number): RowWords {
  const touch = labelOf(net, test.touch);
  const isApart = test.kind === 'isolation';
  // Under load the part is named, and which of its two ways it is.
  const isBack = test.kind === 'load' && endType(test.touch) === 'ground';
  const right = reading && judge(test, reading.value, leadOhms).right;
  return {
    title: `${labelOf(net, test.hold)} to ${touch}`,
    mark: right === undefined ? (isApart ? '∥' : '–') : right ? '✓' : '✗',
    name: isBack ? `${tagOf(labelOf(net, test.hold))}, back` : `${isApart ? 'not ' : ''}${tagOf(touch)}`,
    figure: reading ? readWords(test, reading, leadOhms) : expectedWords(test),
    right,
  };
}
const expectedWords = (test: ProveTest): string =>
  test.unit === 'cylinder'
    ? answersShort(test, test.works!.answers)
    : test.expected === null
      ? 'open'
      : test.unit === 'volts'
        ? formatVolts(test.expected)
        : formatOhms(test.expected);
function readWords(test: ProveTest, { value, note }: Reading, leadOhms: number): string {
  if (note === BEEP) return BEEP;
  if (value === null) return 'open';
  if (test.unit === 'volts') return formatVolts(Math.abs(value));
  return test.unit === 'cylinder' ? answersShort(test, [value]) : formatOhms(Math.max(0, value - leadOhms));
}

const TestRow = memo(function TestRow({
  id,
  kind,
  title,
  mark,
  name,
  figure,
  right,
  chosen,
  onChoose,
}: RowWords & {
  id: string;
  kind: ProveTest['kind'];
  chosen: boolean;
  onChoose: (id: string) => void;
}) {
  // The list follows the test in hand.
  const row = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    // Within its list only: a page would be scrolled away from the test itself, which stands above the list on a phone.
    const list = row.current?.closest('[data-tests]');
    if (!chosen || !list) return;
    const [own, seen] = [row.current!.getBoundingClientRect(), list.getBoundingClientRect()];
    if (own.top < seen.top) list.scrollTop -= seen.top - own.top;
    else if (own.bottom > seen.bottom) list.scrollTop += own.bottom - seen.bottom;
  }, [chosen]);
  return (
    <li>
      <Pick
        ref={row}
        title={title}
        aria-current={chosen ? 'true' : undefined}
        onClick={() => onChoose(id)}
        data-kind={kind}
      >
        <span aria-hidden>{mark}</span>
        <span>{name}</span>
        <Figure data-right={right}>{figure}</Figure>
        <Hidden>{right === undefined ? ', not read' : right ? ', right' : ', wrong'}</Hidden>
      </Pick>
    </li>
  );
});

/** What may answer, shortly: `cyl 1`, `cyl 1+6`, `rotor 1t` for its second plug or injector. */
const answersShort = ({ works }: ProveTest, answers: readonly number[]): string => {
  const which = answers.map((one) => (one > SECOND_ROW ? `${one - SECOND_ROW}t` : String(one))).join('+');
  return `${works!.chamber === 'rotor' ? 'rotor' : 'cyl'} ${which || '–'}`;
};

/** Where the first probe is held, with the half of a plug that is not put together. */
const holdName = (net: Derived['net'], { hold, half }: ProveTest): string =>
  `${labelOf(net, hold)}${half ? `, ${halfWords[half]}` : ''}`;

/** Halves of the loom's plugs: by choice proved before they are put together. */
function Halves() {
  const { build, edit } = useBuild();
  const { nodes } = build.tree;
  const plugs = Object.keys(nodes).filter((id) => nodes[id]!.plug);
  if (plugs.length === 0) return null;
  return (
    <Stack $gap={1}>
      <Small>Each half by itself, before it is put together:</Small>
      {plugs.map((id) => (
        <Checkbox
          key={id}
          isSelected={nodes[id]!.plug!.apart === true}
          onChange={(apart) => edit(call('setPlug', { node: id, changes: { apart } }))}
        >
          {placeName(build, id)}
        </Checkbox>
      ))}
    </Stack>
  );
}

export function Prove() {
  const { build, edit, select } = useBuild();
  // Readings stand at once; the tests themselves, and what they prove, follow a change of the plan once it is painted.
  const { net, tests, progress } = useLater();
  const [filter, setFilter] = useState<Filter>('left');
  const [chosenId, setChosenId] = useState<string | null>(null);
  const [by, setBy] = useInitials();
  const isLeft = (test: ProveTest) => !build.prove.readings[test.id];
  const isWrong = (test: ProveTest) => {
    const reading = build.prove.readings[test.id];
    return reading !== undefined && !judge(test, reading.value, build.prove.leadOhms).right;
  };
  const chosen = withId(tests, chosenId) ?? tests.find(isLeft) ?? tests[0] ?? null;
  const shown = tests.filter(
    (test) => test === chosen || (filter === 'left' ? isLeft(test) : filter === 'wrong' ? isWrong(test) : true),
  );
  const index = chosen ? tests.indexOf(chosen) : -1;
  const following =
    (filter === 'all' ? tests[index + 1] : tests.slice(index + 1).find(filter === 'left' ? isLeft : isWrong)) ?? null;
  const go = useStable((test: ProveTest | null | undefined) => {
    if (!test) return;
    setChosenId(test.id);
    select({ type: 'end', end: test.kind === 'isolation' ? test.hold : test.touch });
  });
  const choose = useStable((id: string) => go(withId(tests, id)));
  const moves = useMemo(() => probeMoves(tests), [tests]);
  const groups = [
    ...groupBy(shown, (test) =>
      test.kind === 'order' ? 'Output order' : test.kind === 'load' ? 'Under load' : holdName(net, test),
    ).entries(),
  ];
  const wrong = progress.wrong;
  return (
    <SheetFrame
      showing={chosen ? { type: 'end', end: chosen.kind === 'isolation' ? chosen.hold : chosen.touch } : undefined}
      summary={
        <div role="status">
          <strong>
            {progress.proved.size} of {plural(progress.wires, 'wire')} proved
          </strong>
          {wrong > 0 && <strong style={{ color: color.stop }}>, {plural(wrong, 'reading')} wrong</strong>}
          <Bar aria-hidden>
            <span style={{ width: `${progress.wires ? (100 * progress.proved.size) / progress.wires : 0}%` }} />
          </Bar>
          <Soft>
            {progress.right + wrong} of {tests.length} readings taken, {moves} probe moves in this order.
          </Soft>
        </div>
      }
    >
      {tests.length === 0 ? (
        <p>
          No wire to test yet. <Soft>Place needs on sheet 2 first.</Soft>
        </p>
      ) : (
        <Columns>
          <Side>
            <Fallen />
            <Segmented
              label="Show"
              hideLabel
              choices={[
                { id: 'left', name: 'left' },
                { id: 'wrong', name: `wrong ${wrong || ''}`.trim() },
                { id: 'all', name: 'all' },
              ]}
              value={filter}
              onChange={setFilter}
            />
            <List tabIndex={0} role="group" aria-label="Tests" data-tests>
              <Chunks
                items={groups}
                rowPixels={84}
                as="div"
                shows={groups.find(([, group]) => chosen !== null && group.includes(chosen))}
              >
                {([hold, group]) => (
                  <section key={hold}>
                    <h2>
                      {group[0].kind === 'order'
                        ? 'Which cylinder answers'
                        : group[0].kind === 'load'
                          ? 'Volts lost under load'
                          : `Hold ${hold}`}
                    </h2>
                    <ul>
                      {group.map((test) => (
                        <TestRow
                          key={test.id}
                          id={test.id}
                          kind={test.kind}
                          {...rowWords(net, test, build.prove.readings[test.id], build.prove.leadOhms)}
                          chosen={test === chosen}
                          onChoose={choose}
                        />
                      ))}
                    </ul>
                  </section>
                )}
              </Chunks>
              {shown.length === 0 && <Small>Nothing here.</Small>}
            </List>
            <Halves />
            <FieldGrid $min={110}>
              <NumberField
                label="Meter leads"
                unit="Ω"
                value={build.prove.leadOhms}
                minValue={0}
                maxValue={5}
                onChange={(value) => value !== null && edit(call('setMeter', { leadOhms: value }))}
              />
              <InitialsField label="Read by" by={by} onBy={setBy} />
            </FieldGrid>
          </Side>
          {chosen && (
            <TestPanel
              test={chosen}
              next={following}
              by={by}
              onNext={() => go(following)}
              onBack={() => go(tests[index - 1])}
            />
          )}
        </Columns>
      )}
    </SheetFrame>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: 252px minmax(0, 1fr);
  gap: ${space[5]};
  && {
    flex: 1 1 0;
  }
  min-height: 420px;
  & > * {
    min-height: 0;
  }
  ${at.narrow} {
    grid-template-columns: 1fr;
    & > :last-child {
      order: -1;
    }
  }
  ${at.print} {
    display: block;
    & > :last-child {
      display: none;
    }
  }
`;
const Side = styled(Stack)`
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  align-content: stretch;
  & > :first-child:last-child {
    min-height: 0;
  }
  display: flex;
  flex-direction: column;
`;
const List = styled.div`
  flex: 1;
  min-height: 120px;
  overflow: auto;
  h2 {
    font-size: ${type.small};
    color: ${color.soft};
    padding-top: ${space[2]};
  }
  ${at.narrow} {
    max-height: 50vh;
  }
  ${at.print} {
    overflow: visible;
    max-height: none;
    columns: 2;
  }
`;
const Pick = styled.button`
  & > span:nth-child(2) {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  position: relative;
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: ${space[2]};
  align-items: baseline;
  width: 100%;
  min-height: 28px;
  padding: 1px ${space[2]} 1px ${space[1]};
  border: 0;
  border-radius: ${shape.radius};
  background: none;
  text-align: left;
  cursor: pointer;
  &[aria-current='true'] {
    background: ${color.selectionWash};
    font-weight: 700;
  }
  &:hover {
    background: ${color.raised};
  }
  &[data-kind='isolation'] {
    color: ${color.soft};
  }
  ${at.narrow} {
    min-height: ${shape.target};
  }
`;
const Figure = styled.span`
  white-space: nowrap;
  &[data-right='true'] {
    color: ${color.proved};
  }
  &[data-right='false'] {
    color: ${color.stop};
    font-weight: 700;
  }
`;
const Hidden = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
`;
const Bar = styled.span`
  display: block;
  max-width: 320px;
  height: 5px;
  margin: 2px 0 2px auto;
  border-radius: 4px;
  background: ${color.raised};
  border: 1px solid ${color.rule};
  overflow: hidden;
  span {
    display: block;
    height: 100%;
    background: ${color.proved};
  }
`;
