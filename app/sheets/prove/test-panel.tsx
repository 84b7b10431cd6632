import { labelOf } from '~/core/netlist/label';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { failsInPlug } from '~/core/prove/halves';
import { BEEP, judge } from '~/core/prove/verdict';
import { answerOf, SECOND_ROW, type ProveTest } from '~/core/prove/prove-test';
import { readLength } from '~/core/units/workshop';
import { shortSize } from '~/core/wire/size';
import { formatAmps, formatOhms, formatVolts } from '~/core/units/format';
import { useBuild, useLater } from '../../build/context';
import { WireLine } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { useStable } from '../../ui/use-stable';
import { useTyped } from '../../ui/typed';
import { Row, Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space } from '../../ui/theme';
import { Keypad } from './keypad';
import { Place } from './place';

const NUMBER = /^\d{0,6}([.,]\d{0,3})?$/;

/** Where a figure typed blind would land somewhere else: other fields, lists that are searched by letters, dialogs. */
const ELSEWHERE =
  'input, textarea, select, [contenteditable], [role="dialog"], [role="listbox"], [role="menu"], [role="radiogroup"]';

/**
 * The box has the focus on arrival and keeps it from test to test; figures, O, B and Enter are taken wherever the focus is on
 * the sheet. On a screen that is touched the keypad stands ready instead of the device's own keyboard.
 */
function useReadingKeys(
  box: RefObject<HTMLInputElement | null>,
  take: (key: string) => boolean,
  figure: (key: string) => void,
): void {
  const now = useRef({ take, figure });
  useEffect(() => {
    now.current = { take, figure };
  });
  useEffect(() => {
    if (!window.matchMedia('(pointer: coarse)').matches) box.current?.focus({ preventScroll: true });
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      const target = event.target instanceof HTMLElement ? event.target : document.body;
      const own = target === box.current;
      if (!own && target.closest(ELSEWHERE)) return;
      // A button keeps its own key; so does the page its arrows, unless a test is in hand in the box.
      if (!own && (event.key === 'Enter' || event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
        if (
          event.key === 'Enter'
            ? target.closest('button, a, [tabindex="0"][role="button"]')
            : !target.closest('[data-tests]')
        )
          return;
      }
      if (now.current.take(event.key)) {
        event.preventDefault();
        if (!own) box.current?.focus({ preventScroll: true });
      } else if (!own && /^[0-9.,]$/.test(event.key)) {
        event.preventDefault();
        now.current.figure(event.key);
        box.current?.focus({ preventScroll: true });
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [box]);
}

/** A cylinder, or its second plug or injector with a `t` behind. */
const ANSWER = /^\d{0,2}t?$/;
const answerIn = (text: string): number => {
  const cylinder = Number(text.replace(/t$/, ''));
  return /t$/.test(text) ? answerOf(cylinder, 2) : cylinder;
};

const how = (test: ProveTest): string => {
  if (test.half)
    return `Battery off. This half by itself, its ${test.kind === 'continuity' ? 'other ends' : 'devices'} unplugged and its rings off their bolts.`;
  if (test.kind === 'continuity') return 'Battery off. Both ends unplugged. One probe here, the other there.';
  if (test.kind === 'isolation') return 'Battery off. Both ends unplugged. The first probe stays where it is.';
  if (test.load)
    return `${test.load.how} Meter on volts, one probe at either end: hands and cloth clear of what turns.`;
  return 'Key on, gate 5. Run this output’s own test and see which cylinder answers.';
};

/** One test, big enough for the bench: where, which wire, what to expect, the reading, the verdict, next. */
export function TestPanel({
  test,
  next,
  by,
  onNext,
  onBack,
}: {
  test: ProveTest;
  next: ProveTest | null;
  /** Who reads. */
  by: string;
  onNext: () => void;
  onBack: () => void;
}) {
  const { build, derived, edit } = useBuild();
  const { progress } = useLater();
  const stored = build.prove.readings[test.id];
  const [typedFor, setTypedFor] = useState({ id: test.id, text: '' });
  // What is typed belongs to its test: the next one starts empty, and the box stays the same box.
  const text = typedFor.id === test.id ? typedFor.text : '';
  const box = useRef<HTMLInputElement>(null);
  const kept = useTyped(`Reading for ${test.title}`, text, box);
  const setText = (next: string | ((now: string) => string)) => {
    kept.onText(typeof next === 'string' ? next : next(text));
    setTypedFor((before) => {
      const own = before.id === test.id ? before.text : '';
      return { id: test.id, text: typeof next === 'string' ? next : next(own) };
    });
  };
  const low = (test.expected ?? 0) + build.prove.leadOhms;
  const cylinder = test.unit === 'cylinder';
  const volts = test.unit === 'volts';
  const typed = text === '' ? null : text === BEEP ? low : cylinder ? answerIn(text) : Number(text.replace(',', '.'));
  const shown =
    text === 'open'
      ? judge(test, null, build.prove.leadOhms)
      : typed !== null && Number.isFinite(typed)
        ? judge(test, typed, build.prove.leadOhms)
        : stored
          ? judge(test, stored.value, build.prove.leadOhms)
          : null;
  const wires = test.wireIds.flatMap((id) => derived.net.wireById.get(id) ?? []);
  const second = test.works?.second ?? '';
  const where = failsInPlug(derived.net, test, progress.proved);

  const record = (value: number | null, note = '') => {
    edit(
      call('recordReading', {
        testId: test.id,
        reading: { value, at: new Date().toISOString(), by, note, title: test.title },
      }),
    );
    setText('');
  };
  const finish = () => {
    if (text === 'open') record(null);
    else if (typed !== null && Number.isFinite(typed)) record(typed, text === BEEP ? BEEP : '');
    onNext();
  };
  const key = useStable((pressed: string) => {
    if (pressed === 'next') finish();
    else if (pressed === 'clear') setText('');
    else if (pressed === 'back') setText((now) => (now === 'open' || now === BEEP ? '' : now.slice(0, -1)));
    else if (pressed === 'open') setText('open');
    // A beep says 'low' and no more: it is kept and shown as a beep, never as a figure.
    else if (pressed === 'beep') setText(test.kind === 'continuity' ? BEEP : '0');
    // The second plug or injector of a cylinder: its number with a t behind it.
    else if (pressed === 'second') setText((now) => (/t$/.test(now) ? now.slice(0, -1) : `${Number(now) || ''}t`));
    else
      setText((now) =>
        NUMBER.test((now === 'open' || now === BEEP ? '' : now) + pressed)
          ? (now === 'open' || now === BEEP ? '' : now) + pressed
          : now,
      );
  });
  /** Keys of a reading; true when the key was one. */
  const take = (pressed: string): boolean => {
    if (pressed === 'Enter') finish();
    else if (/^o$/i.test(pressed) && !volts) setText('open');
    else if (/^b$/i.test(pressed) && !cylinder && !volts) key('beep');
    else if (/^t$/i.test(pressed) && second !== '') key('second');
    else if (pressed === 'ArrowDown') onNext();
    else if (pressed === 'ArrowUp') onBack();
    else return false;
    return true;
  };
  useReadingKeys(box, take, key);
  const expected = cylinder ? test.works!.words : volts ? formatVolts(test.expected ?? 0) : formatOhms(test.expected);
  return (
    <Panel>
      <Stack $gap={3}>
        <Place test={test} />
        {wires.length > 0 && (
          <WireRow>
            <span style={{ width: 150, display: 'inline-flex' }}>
              <WireLine colour={wires[0].colour} />
            </span>
            <strong>
              {wires.map((wire) => `${wire.colour} ${shortSize(wire.squareMm, build)}`).join(' + ')}
              <br />
              <Soft>
                {readLength(
                  wires.reduce((sum, wire) => sum + wire.lengthMetres, 0),
                  build,
                )}
              </Soft>
            </strong>
          </WireRow>
        )}
        <Small>{how(test)}</Small>
        <p>
          Expect <Expected>{expected}</Expected>{' '}
          <Soft>
            {test.kind === 'continuity'
              ? `up to ${formatOhms(test.limit)}, leads of ${formatOhms(build.prove.leadOhms)} taken off`
              : test.kind === 'isolation'
                ? `or more than ${formatOhms(test.limit)}`
                : volts
                  ? `up to ${formatVolts(test.limit)} while ${formatAmps(test.load!.amps)} flow`
                  : 'must answer'}
          </Soft>
        </p>
      </Stack>
      <Stack $gap={3}>
        <Display>
          <input
            ref={box}
            data-undo="sheet"
            aria-label={`Reading for ${test.title}`}
            inputMode="decimal"
            value={text === 'open' ? (cylinder ? 'none' : 'open line') : text}
            placeholder={
              stored
                ? stored.note === BEEP
                  ? BEEP
                  : stored.value === null
                    ? cylinder
                      ? 'none'
                      : 'open line'
                    : cylinder && stored.value > SECOND_ROW
                      ? `${stored.value - SECOND_ROW}t`
                      : String(stored.value)
                : ''
            }
            onChange={(event) => {
              // A figure typed after a word takes its place.
              const value = event.target.value.replace(/^(beep|open line|none)/, '');
              if (NUMBER.test(value) || (second !== '' && ANSWER.test(value))) setText(value);
            }}
          />
          <span aria-hidden>{cylinder ? (test.works!.chamber === 'rotor' ? 'rotor' : 'cyl') : volts ? 'V' : 'Ω'}</span>
        </Display>
        <Verdict role="status" data-right={shown?.right}>
          {shown ? (
            <>
              <strong>
                {shown.right ? '✓ ' : '✗ '}
                {shown.sentence}
                {!shown.right && where !== null && ` ${where}`}
              </strong>
              {text === '' && stored && (
                <Small>
                  {' '}
                  Read {stored.by && `by ${stored.by} `}on{' '}
                  {new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' }).format(
                    new Date(stored.at),
                  )}
                  .
                </Small>
              )}
            </>
          ) : (
            <Small>
              Type the reading anywhere on this sheet; Enter goes on,{' '}
              {cylinder
                ? `O is none${second === '' ? '' : `, T behind the number is ${second}`}.`
                : volts
                  ? 'in volts, with what it works running.'
                  : 'O is an open line, B a beep.'}
            </Small>
          )}
        </Verdict>
        <Keypad onKey={key} cylinder={cylinder} volts={volts} second={second} />
        <Row style={{ justifyContent: 'space-between', maxWidth: 400 }}>
          <Button weight="quiet" onPress={onBack}>
            Back
          </Button>
          {stored && (
            <Button weight="quiet" onPress={() => edit(call('clearReading', { testIds: [test.id] }))}>
              Clear the reading
            </Button>
          )}
          <Small>
            {next
              ? `next: ${next.hold === test.hold ? 'first probe stays' : labelOf(derived.net, next.hold)}`
              : 'the last one'}
          </Small>
        </Row>
      </Stack>
    </Panel>
  );
}

const Panel = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  gap: ${space[3]} ${space[5]};
  align-content: start;
  overflow: auto;
  padding: 2px;
  ${at.tablet} {
    grid-template-columns: 1fr;
  }
`;
const WireRow = styled.div`
  display: flex;
  gap: ${space[4]};
  align-items: center;
`;
const Expected = styled.strong`
  font-size: 24px;
  white-space: nowrap;
`;
const Display = styled.div`
  display: flex;
  align-items: center;
  max-width: 400px;
  border: 2px solid ${color.ink};
  border-radius: ${shape.radius};
  background: ${color.raised};
  padding-right: ${space[4]};
  font-size: 30px;
  font-weight: 700;
  input {
    flex: 1;
    min-width: 0;
    border: 0;
    background: none;
    padding: ${space[1]} ${space[4]};
    font: inherit;
    outline: none;
  }
  &:focus-within {
    outline: 2.5px solid ${color.selection};
    outline-offset: 2px;
  }
  input::placeholder {
    color: ${color.soft};
    opacity: 1;
  }
  span {
    color: ${color.soft};
    font-weight: 400;
  }
`;
const Verdict = styled.div`
  min-height: 46px;
  max-width: 460px;
  &[data-right='true'] strong {
    color: ${color.proved};
  }
  &[data-right='false'] strong {
    color: ${color.stop};
  }
`;
