import { useState, type KeyboardEvent } from 'react';
import { styled } from 'styled-components';
import { call } from '~/core/build/edits';
import { cavityPlace } from '~/core/ecu/face';
import { parseEnd } from '~/core/netlist/ends';
import { BEEP, judge } from '~/core/prove/verdict';
import type { ProveTest } from '~/core/prove/tests';
import { formatMetres, formatOhms } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { ConnectorFace } from '../../parts/connector-face';
import { useFaceCavities } from '../../parts/face-cavities';
import { WireLine } from '../../parts/wire-mark';
import { Button } from '../../ui/button';
import { Row, Small, Soft, Stack } from '../../ui/text';
import { at, color, shape, space, type } from '../../ui/theme';
import { Keypad } from './keypad';

const NUMBER = /^\d{0,6}([.,]\d{0,3})?$/;

function Place({ test }: { test: ProveTest }) {
  const { build, derived, select } = useBuild();
  const faces = useFaceCavities();
  const hold = parseEnd(test.hold);
  const pin = hold.type === 'ecu' ? build.ecu.pins.find((one) => one.id === hold.owner) : undefined;
  const connector = pin && build.ecu.connectors.find((one) => one.id === pin.connector);
  const place = pin && connector ? cavityPlace(connector, pin.cavity) : null;
  return (
    <Stack $gap={2}>
      <Row $gap={4}>
        <Big>{pin ? pin.id : derived.net.labelOf(test.hold)}</Big>
        <div>
          <Lead>
            {test.kind === 'isolation' ? 'against' : 'to'} {derived.net.labelOf(test.touch)}
          </Lead>
          {place && (
            <Soft>
              row {place.row}, number {place.place} from the left, wire side
            </Soft>
          )}
        </div>
      </Row>
      {connector && pin && (
        <div style={{ maxWidth: 420 }}>
          <ConnectorFace
            size="small"
            connector={connector}
            cavities={faces.get(connector.id) ?? []}
            side="wire"
            selected={new Set([pin.id])}
            touched={new Set(parseEnd(test.touch).type === 'ecu' ? [parseEnd(test.touch).owner] : [])}
            able={null}
            onPress={(pinId) => select({ type: 'end', end: `ecu:${pinId}` })}
          />
        </div>
      )}
    </Stack>
  );
}

const how = (test: ProveTest): string => {
  if (test.kind === 'continuity') return 'Battery off. Both ends unplugged. One probe here, the other there.';
  if (test.kind === 'isolation') return 'Battery off. Both ends unplugged. The first probe stays where it is.';
  return 'Key on, gate 5. Run this output’s own test and see which cylinder answers.';
};

/** One test, big enough for the bench: where, which wire, what to expect, the reading, the verdict, next. */
export function TestPanel({
  test,
  next,
  onNext,
  onBack,
}: {
  test: ProveTest;
  next: ProveTest | null;
  onNext: () => void;
  onBack: () => void;
}) {
  const { build, derived, edit } = useBuild();
  const stored = build.prove.readings[test.id];
  const [text, setText] = useState('');
  const low = (test.expected ?? 0) + build.prove.leadOhms;
  const typed = text === '' ? null : text === BEEP ? low : Number(text.replace(',', '.'));
  const shown =
    text === 'open'
      ? judge(test, null, build.prove.leadOhms)
      : typed !== null && Number.isFinite(typed)
        ? judge(test, typed, build.prove.leadOhms)
        : stored
          ? judge(test, stored.value, build.prove.leadOhms)
          : null;
  const wires = test.wireIds.flatMap((id) => derived.net.wireById.get(id) ?? []);
  const cylinder = test.unit === 'cylinder';

  const record = (value: number | null, note = '') => {
    edit(
      call('recordReading', {
        testId: test.id,
        reading: { value, at: new Date().toISOString(), by: build.prove.by, note, title: test.title },
      }),
    );
    setText('');
  };
  const finish = () => {
    if (text === 'open') record(null);
    else if (typed !== null && Number.isFinite(typed)) record(typed, text === BEEP ? BEEP : '');
    onNext();
  };
  const key = (pressed: string) => {
    if (pressed === 'next') finish();
    else if (pressed === 'clear') setText('');
    else if (pressed === 'back') setText((now) => (now === 'open' || now === BEEP ? '' : now.slice(0, -1)));
    else if (pressed === 'open') setText('open');
    // A beep says 'low' and no more: it is kept and shown as a beep, never as a figure.
    else if (pressed === 'beep') setText(test.kind === 'continuity' ? BEEP : '0');
    else
      setText((now) =>
        NUMBER.test((now === 'open' || now === BEEP ? '' : now) + pressed)
          ? (now === 'open' || now === BEEP ? '' : now) + pressed
          : now,
      );
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Enter') {
      event.preventDefault();
      finish();
    } else if (event.key === 'o') {
      event.preventDefault();
      setText('open');
    } else if (event.key === 'b' && !cylinder) {
      event.preventDefault();
      key('beep');
    } else if (event.key === 'ArrowDown') {
      event.preventDefault();
      onNext();
    } else if (event.key === 'ArrowUp') {
      event.preventDefault();
      onBack();
    }
  };
  const expected = cylinder ? `cylinder ${test.expected ?? 'none'}` : formatOhms(test.expected);
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
              {wires.map((wire) => `${wire.colour} ${wire.squareMm}`).join(' + ')}
              <br />
              <Soft>{formatMetres(wires.reduce((sum, wire) => sum + wire.lengthMetres, 0))}</Soft>
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
                : 'must answer'}
          </Soft>
        </p>
      </Stack>
      <Stack $gap={3}>
        <Display>
          <input
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
                    : String(stored.value)
                : ''
            }
            onChange={(event) => {
              // A figure typed after a word takes its place.
              const value = event.target.value.replace(/^(beep|open line|none)/, '');
              if (NUMBER.test(value)) setText(value);
            }}
            onKeyDown={onKeyDown}
          />
          <span aria-hidden>{cylinder ? 'cyl' : 'Ω'}</span>
        </Display>
        <Verdict role="status" data-right={shown?.right}>
          {shown ? (
            <>
              <strong>
                {shown.right ? '✓ ' : '✗ '}
                {shown.sentence}
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
            <Small>Type the reading; Enter goes on, O is an open line, B a beep.</Small>
          )}
        </Verdict>
        <Keypad onKey={key} cylinder={cylinder} />
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
              ? `next: ${next.hold === test.hold ? 'first probe stays' : derived.net.labelOf(next.hold)}`
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
const Big = styled.span`
  font-size: ${type.figure};
  font-weight: 700;
  line-height: 1.05;
  max-width: 280px;
  overflow-wrap: anywhere;
  &:not(:only-child) {
    font-size: clamp(24px, 3.4vw, 44px);
  }
`;
const Lead = styled.p`
  font-size: ${type.lead};
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
