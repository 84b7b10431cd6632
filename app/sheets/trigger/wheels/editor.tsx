import { useEffect, useRef, useState } from 'react';
import { styled } from 'styled-components';
import { describeWheel, familyWords } from '~/core/trigger/describe';
import {
  countedAs,
  countedTeeth,
  listOfTeeth,
  teethFromList,
  wheelOfDraft,
  wheelOfTeeth,
  withChanged,
  withTooth,
  withoutTooth,
  type Tooth,
  type WheelDraft,
} from '~/core/trigger/teeth';
import type { Wheel } from '~/core/wheels/wheel';
import { Button } from '../../../ui/button';
import { Segmented } from '../../../ui/choice';
import { NumberField } from '../../../ui/number-field';
import { Select } from '../../../ui/select';
import { TextAreaField } from '../../../ui/text-area';
import { TextField } from '../../../ui/text-field';
import { Callout, FieldGrid, Heading, Row, Small, Stack } from '../../../ui/text';
import { at, space } from '../../../ui/theme';
import { Ring } from './ring';

const ways = [
  { id: 'count', name: 'by count' },
  { id: 'list', name: 'by angles' },
] as const;
const snaps = [0.5, 1, 2, 5, 6, 10, 15] as const;

/** A wheel on the drawing board: counted, listed, drawn or learned; all four work on the same teeth. */
export function WheelEditor({
  draft,
  onChange,
  onKeep,
  onDrop,
}: {
  draft: WheelDraft;
  onChange: (draft: WheelDraft) => void;
  onKeep: (wheel: Wheel) => void;
  onDrop: () => void;
}) {
  const [track, setTrack] = useState<'first' | 'second'>('first');
  const onSecond = track === 'second' && draft.second !== null;
  const teeth = (onSecond ? draft.second : draft.teeth) ?? [];
  const other = (onSecond ? draft.teeth : draft.second) ?? [];
  const [selected, setSelected] = useState<number | null>(null);
  const [way, setWay] = useState<(typeof ways)[number]['id']>('count');
  // The wheel that was laid on the board is what is counted from.
  const [laid] = useState(() => countedAs(teeth, draft.shaft));
  const [places, setPlaces] = useState(laid.places);
  const [missing, setMissing] = useState(laid.missing);
  const [share, setShare] = useState(50);
  const [text, setText] = useState(() => listOfTeeth(teeth));
  const [wide, setWide] = useState(5);
  const [snap, setSnap] = useState<number>(1);
  const [problem, setProblem] = useState<string | null>(null);
  // A tooth in hand is one that is there.
  const hand = selected !== null && selected < teeth.length ? selected : null;
  const put = (next: readonly Tooth[], index: number | null = null) => {
    setProblem(null);
    setSelected(index);
    setText(listOfTeeth(next));
    onChange({ ...draft, [onSecond ? 'second' : 'teeth']: [...next] });
  };
  const made = wheelOfDraft(draft);
  const show = (next: 'first' | 'second', list: readonly Tooth[]) => {
    setTrack(next);
    setSelected(null);
    setProblem(null);
    setText(listOfTeeth(list));
    const counted = countedAs(list, draft.shaft);
    setPlaces(counted.places);
    setMissing(counted.missing);
  };
  const change = (part: Partial<Tooth>) => {
    if (hand === null) return;
    const changed = withChanged(teeth, hand, part);
    put(changed.teeth, changed.index);
  };
  const addAt = (degrees: number) => {
    const next = withTooth(teeth, degrees, wide);
    if (!next) return setProblem(`There is no room for a tooth at ${degrees}°.`);
    put(
      next,
      next.findIndex((tooth) => !teeth.some(({ at: other }) => other === tooth.at)),
    );
  };
  const remove = (index: number) => put(withoutTooth(teeth, index));
  const takeList = () => {
    const read = teethFromList(text, wide);
    if (!read.ok) return setProblem(read.problem.sentence);
    const wheel = wheelOfTeeth({ ...draft, name: draft.name || 'list' }, read.value);
    if (!wheel.ok) return setProblem(wheel.problem.sentence);
    put([...read.value].sort((one, other) => one.at - other.at));
  };
  // The board opens above what was pressed: it comes into sight.
  const top = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    top.current?.scrollIntoView({ block: 'nearest' });
  }, []);
  return (
    <Stack $gap={4}>
      <Heading ref={top} style={{ scrollMarginTop: 90 }}>
        On the drawing board
      </Heading>
      <Columns>
        <Lay>
          <TextField label="Name" value={draft.name} maxLength={80} onChange={(name) => onChange({ ...draft, name })} />
          <Segmented
            label="It turns with"
            choices={[
              { id: 'crank', name: 'the crank' },
              { id: 'cam', name: 'the cam' },
            ]}
            value={draft.shaft}
            onChange={(shaft) => onChange({ ...draft, shaft })}
          />
          {draft.second === null ? (
            <Row>
              <Button
                onPress={() => {
                  onChange({ ...draft, second: [] });
                  show('second', []);
                }}
              >
                Add a second track
              </Button>
            </Row>
          ) : (
            <Stack $gap={2}>
              <Segmented
                label="Track on the board"
                choices={[
                  { id: 'first', name: 'first' },
                  { id: 'second', name: 'second' },
                ]}
                value={onSecond ? 'second' : 'first'}
                onChange={(next) => show(next, (next === 'second' ? draft.second : draft.teeth) ?? [])}
              />
              <Row>
                <Button
                  weight="quiet"
                  onPress={() => {
                    onChange({ ...draft, second: null });
                    show('first', draft.teeth);
                  }}
                >
                  Take the second track off
                </Button>
              </Row>
            </Stack>
          )}
          <Segmented label="Lay teeth" choices={[...ways]} value={way} onChange={setWay} />
          {way === 'count' ? (
            <Stack $gap={2}>
              <FieldGrid $min={90}>
                <NumberField
                  label="Places"
                  value={places}
                  minValue={1}
                  maxValue={400}
                  onChange={(value) => value !== null && setPlaces(Math.round(value))}
                />
                <NumberField
                  label="Missing"
                  value={missing}
                  minValue={0}
                  maxValue={20}
                  onChange={(value) => value !== null && setMissing(Math.round(value))}
                />
                <NumberField
                  label="Tooth"
                  unit="%"
                  value={share}
                  minValue={5}
                  maxValue={95}
                  onChange={(value) => value !== null && setShare(value)}
                />
              </FieldGrid>
              <Row>
                <Button isDisabled={missing >= places} onPress={() => put(countedTeeth(places, missing, share / 100))}>
                  Lay {Math.max(0, places - missing)} teeth
                </Button>
              </Row>
              <Small>Then take out or move single teeth on the rim, for several gaps or a tooth between.</Small>
            </Stack>
          ) : (
            <Stack $gap={2}>
              <TextAreaField
                label="Angles, in the order they pass the sensor"
                hint="0, 70, 180, 250 for leading edges; 0-10; 70-80 for from and to"
                rows={5}
                value={text}
                onChange={setText}
              />
              <Row>
                <Button onPress={takeList}>Take the list</Button>
              </Row>
            </Stack>
          )}
        </Lay>
        <Stack $gap={2}>
          <Ring
            teeth={teeth}
            other={other}
            selected={hand}
            snap={snap}
            onSelect={setSelected}
            onPut={addAt}
            onMove={(index, to) => {
              const changed = withChanged(teeth, index, { at: to });
              put(changed.teeth, changed.index);
            }}
            onRemove={remove}
          />
          <Small>Press on the rim to put a tooth, drag one to move it. 0° passes the sensor first.</Small>
        </Stack>
        <Stack $gap={3}>
          <FieldGrid $min={110}>
            <Select
              label="Round to"
              choices={snaps.map((one) => ({ id: String(one), name: `${one}°` }))}
              value={String(snap)}
              onChange={(id) => setSnap(Number(id))}
            />
            <NumberField
              label="New teeth"
              unit="° wide"
              value={wide}
              minValue={0.1}
              maxValue={180}
              onChange={(value) => value !== null && setWide(value)}
            />
          </FieldGrid>
          {hand !== null ? (
            <Stack $gap={2}>
              <strong>Tooth {hand + 1}</strong>
              <FieldGrid $min={110}>
                <NumberField
                  label="Leading edge"
                  unit="°"
                  value={teeth[hand].at}
                  minValue={0}
                  maxValue={359.9}
                  onChange={(value) => value !== null && change({ at: value })}
                />
                <NumberField
                  label="Width"
                  unit="°"
                  value={teeth[hand].width}
                  minValue={0.1}
                  maxValue={359.8}
                  onChange={(value) => value !== null && change({ width: value })}
                />
              </FieldGrid>
              <Row>
                <Button onPress={() => remove(hand)}>Take it out</Button>
              </Row>
            </Stack>
          ) : (
            <Small>Choose a tooth to set its angle and width.</Small>
          )}
          {problem && (
            <Callout $tone="stop" role="alert">
              {problem}
            </Callout>
          )}
          <div role="status">
            {made.ok ? (
              <Callout $tone="proved">
                <strong>{familyWords(made.value.family)}</strong>
                <span>{describeWheel(made.value)}</span>
              </Callout>
            ) : (
              <Callout $tone="fix">{made.problem.sentence}</Callout>
            )}
          </div>
          {draft.from && <Small>{draft.from}</Small>}
          <Row>
            <Button weight="act" isDisabled={!made.ok} onPress={() => made.ok && onKeep(made.value)}>
              Keep this wheel
            </Button>
            <Button onPress={onDrop}>Throw it away</Button>
          </Row>
        </Stack>
      </Columns>
    </Stack>
  );
}

/** What is laid stands beside the ring and, where there is less room, beside the single tooth too. */
const Lay = styled(Stack).attrs({ $gap: 3 as const })`
  ${at.tablet} {
    grid-row: span 2;
  }
  ${at.narrow} {
    grid-row: auto;
  }
`;
const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(200px, 1fr) minmax(260px, 1.4fr) minmax(220px, 1fr);
  gap: ${space[5]};
  align-items: start;
  ${at.tablet} {
    grid-template-columns: minmax(200px, 1fr) minmax(260px, 1.4fr);
    gap: ${space[4]};
  }
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
