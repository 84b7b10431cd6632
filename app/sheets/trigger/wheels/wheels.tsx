import { useMemo, useState } from 'react';
import { FileTrigger, ListBox, ListBoxItem } from 'react-aria-components';
import { useFetcher } from 'react-router';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import { describeWheel, familyWords } from '~/core/trigger/describe';
import { CRANKING_RPM } from '~/core/trigger/speed';
import { wheelFile } from '~/core/trigger/file';
import { fitTrigger } from '~/core/trigger/fit';
import { byHand, nothingFound, type HandCandidate } from '~/core/trigger/hand';
import { draftOf, type WheelDraft } from '~/core/trigger/teeth';
import { primary } from '~/core/trigger/trials';
import { pulseHertz, type Wheel } from '~/core/wheels/wheel';
import { plural } from '~/core/units/format';
import { useBuild } from '../../../build/context';
import { asJson } from '../../../json-request';
import { download } from '../../../storage/files';
import { importWheels } from '../../../storage/library';
import { Button } from '../../../ui/button';
import { Segmented } from '../../../ui/choice';
import { Callout, Heading, Row, Small, Soft, Stack } from '../../../ui/text';
import { at, color, shape, space } from '../../../ui/theme';
import { Table } from '../../../ui/table';
import { SheetFrame } from '../../../parts/sheet-frame';
import { outline } from '../wheel-path';
import { strokesOfBoard, wheelRequests, type WheelsAction } from './requests';
import { ByHand } from './by-hand';
import { WheelEditor } from './editor';

interface Said {
  readonly done?: string;
  readonly problem?: string;
}

const freshId = () => `own-${crypto.randomUUID().slice(0, 8)}`;

/** Every wheel by geometry, ranked by what was counted; the person's own; and the drawing board. */
export function Wheels({
  wheels,
  own,
  draft,
}: {
  wheels: readonly Wheel[];
  own: readonly string[];
  draft: WheelDraft | null;
}) {
  const { build, edit } = useBuild();
  const [found, setFound] = useState(nothingFound);
  const [shaft, setShaft] = useState<'crank' | 'cam'>('crank');
  const [chosen, setChosen] = useState<string | null>(build.trigger.crankWheel?.id ?? null);
  const [told, setTold] = useState<{ tone: 'stop' | 'note'; text: string } | null>(null);
  // What is on the board follows the hand at once and is stored behind it.
  const [board, setBoard] = useState<WheelDraft | null>(draft);
  // The board is stored at every stroke, beside what is kept and dropped.
  const [shelf, strokes] = [useFetcher<Said>(), useFetcher<Said>()];
  const send = (action: WheelsAction) =>
    void (action.intent === 'draft' ? strokes : shelf).submit(wheelRequests.write(action), asJson);
  const said = { done: shelf.data?.done, problem: shelf.data?.problem ?? strokes.data?.problem };
  const open = (next: WheelDraft) => {
    setBoard(next);
    send({ intent: 'draft', draft: next, number: strokesOfBoard.ask() });
  };
  const answer = useMemo(() => byHand(wheels, found), [wheels, found]);
  const listed: readonly HandCandidate[] =
    shaft === 'crank'
      ? answer.candidates
      : wheels
          .filter((wheel) => !primary(wheel))
          .map((wheel) => ({ wheel, fits: [], against: [], rpm: null, score: 0 }));
  const shown = listed.find(({ wheel }) => wheel.id === chosen) ?? listed[0];
  const onFile = async (file: File | undefined) => {
    if (!file) return;
    const read = await importWheels(await file.text());
    if (!read.ok) return setTold({ tone: 'stop', text: `${file.name}: ${read.problem.sentence} Nothing was changed.` });
    const { fresh, same } = read.value;
    setTold({ tone: 'note', text: `${file.name}: ${plural(fresh.length, 'new wheel')}, ${same} you have already.` });
    if (fresh.length > 0) send({ intent: 'keep', wheels: fresh });
  };
  const counted = Object.values(found).some((one) => one !== null);
  return (
    <SheetFrame
      summary={
        <span role="status">
          {board ? (
            'A wheel is on the drawing board.'
          ) : counted && shown ? (
            <>
              Nearest: {answer.candidates[0].wheel.name.toLowerCase()}.
              <br />
              <Soft>{answer.next ?? 'No other wheel fits as well.'}</Soft>
            </>
          ) : (
            <>
              Which wheel is it?
              <br />
              <Soft>Count, draw, or take a capture.</Soft>
            </>
          )}
        </span>
      }
      actions={
        <>
          <Button
            weight="act"
            onPress={() => open({ id: freshId(), name: 'My wheel', shaft: 'crank', teeth: [], second: null, from: '' })}
          >
            New wheel
          </Button>
          <FileTrigger acceptedFileTypes={['.json', 'application/json']} onSelect={(files) => void onFile(files?.[0])}>
            <Button>Import</Button>
          </FileTrigger>
          <Button
            isDisabled={own.length === 0}
            onPress={() =>
              download(
                'own-wheels.gonyx-wheels.json',
                'application/json',
                wheelFile(wheels.filter(({ id }) => own.includes(id))),
              )
            }
          >
            Export yours
          </Button>
        </>
      }
    >
      <Stack $gap={4}>
        <div role="status" aria-live="polite">
          {said.done && <Small>{said.done}</Small>}
          {said.problem && <Callout $tone="stop">{said.problem}</Callout>}
          {told && <Callout $tone={told.tone}>{told.text}</Callout>}
        </div>
        {board && (
          <WheelEditor
            key={board.id}
            draft={board}
            onChange={open}
            onKeep={(wheel) => {
              send({ intent: 'keep', wheels: [wheel], fromBoard: true });
              setBoard(null);
              setShaft(primary(wheel) ? 'crank' : 'cam');
              setChosen(wheel.id);
            }}
            onDrop={() => {
              setBoard(null);
              send({ intent: 'drop-draft' });
            }}
          />
        )}
        <Columns>
          <ByHand
            found={found}
            answer={answer}
            onChange={(next) => {
              setFound(next);
              // The nearest comes into sight with the count.
              setChosen(null);
              setShaft('crank');
            }}
          />
          <Listed>
            <Row $gap={3} style={{ justifyContent: 'space-between' }}>
              <Heading style={{ border: 'none' }}>{plural(listed.length, 'wheel')} by geometry</Heading>
              <Segmented
                label="Shaft"
                hideLabel
                choices={[
                  { id: 'crank', name: 'crank' },
                  { id: 'cam', name: 'cam' },
                ]}
                value={shaft}
                onChange={setShaft}
              />
            </Row>
            <List
              aria-label="Wheels"
              selectionMode="single"
              disallowEmptySelection
              selectedKeys={shown ? [shown.wheel.id] : []}
              onSelectionChange={(keys) => {
                const [key] = keys === 'all' ? [] : [...keys];
                if (typeof key === 'string') setChosen(key);
              }}
            >
              {listed.map((one) => (
                <Item key={one.wheel.id} id={one.wheel.id} textValue={one.wheel.name}>
                  <Glyph wheel={one.wheel} />
                  <span>
                    <b>{one.wheel.name}</b>
                    {own.includes(one.wheel.id) && <Small> · yours</Small>}
                    <br />
                    <Small>
                      {one.against.length > 0
                        ? `✗ ${one.against.join('; ')}`
                        : one.fits.length > 0
                          ? `✓ ${one.fits.join('; ')}`
                          : describeWheel(one.wheel)}
                    </Small>
                  </span>
                </Item>
              ))}
            </List>
          </Listed>
          {shown && (
            <Stack $gap={2}>
              <Heading>{shown.wheel.name}</Heading>
              <Glyph wheel={shown.wheel} large />
              <p>{describeWheel(shown.wheel)}.</p>
              <Facts wheel={shown.wheel} />
              <Row>
                {primary(shown.wheel) ? (
                  <Button
                    weight="pencil"
                    isDisabled={build.trigger.crankWheel?.id === shown.wheel.id}
                    onPress={() => edit(call('setWheel', { shaft: 'crank', wheel: shown.wheel }))}
                  >
                    {build.trigger.crankWheel?.id === shown.wheel.id ? 'The crank has it' : 'Take for the crank'}
                  </Button>
                ) : (
                  <Button
                    weight="pencil"
                    isDisabled={build.trigger.camWheel?.id === shown.wheel.id}
                    onPress={() => edit(call('setWheel', { shaft: 'cam', wheel: shown.wheel }))}
                  >
                    {build.trigger.camWheel?.id === shown.wheel.id ? 'The cam has it' : 'Take for the cam'}
                  </Button>
                )}
                <Button
                  onPress={() =>
                    open(
                      draftOf(
                        shown.wheel,
                        own.includes(shown.wheel.id)
                          ? { id: shown.wheel.id, name: shown.wheel.name, from: '' }
                          : {
                              id: freshId(),
                              name: `${shown.wheel.name.slice(0, 70)}, own`,
                              from: `Copied from ${shown.wheel.name}.`,
                            },
                      ),
                    )
                  }
                >
                  {own.includes(shown.wheel.id) ? 'Edit' : 'Copy and change'}
                </Button>
                {own.includes(shown.wheel.id) && (
                  <Button weight="quiet" onPress={() => send({ intent: 'drop', id: shown.wheel.id })}>
                    Remove
                  </Button>
                )}
              </Row>
            </Stack>
          )}
        </Columns>
      </Stack>
    </SheetFrame>
  );
}

/** What this ECU makes of a wheel, and what a meter shows of it. */
function Facts({ wheel }: { wheel: Wheel }) {
  const { build } = useBuild();
  const crank = primary(wheel);
  const fit = fitTrigger(
    build.ecu,
    build.engine,
    crank ? wheel : build.trigger.crankWheel,
    crank ? build.trigger.camWheel : wheel,
  );
  return (
    <Table>
      <tbody>
        <tr>
          <td>kind</td>
          <td className="figure" style={{ whiteSpace: 'normal' }}>
            {familyWords(wheel.family)}
          </td>
        </tr>
        <tr>
          <td>at {CRANKING_RPM} rpm</td>
          <td className="figure">{pulseHertz(wheel, CRANKING_RPM).toFixed(1)} Hz</td>
        </tr>
        <tr>
          <td>{build.ecu.model}</td>
          <td className="figure" style={{ whiteSpace: 'normal' }}>
            <strong style={{ color: fit.decodes ? color.proved : color.stop }}>
              {fit.decodes ? `✓ ${fit.knows === 'cycle' ? 'full cycle' : 'angle only'}` : '✗ does not decode it'}
            </strong>
          </td>
        </tr>
      </tbody>
    </Table>
  );
}

/** The wheel's outline, small enough for a line of a list. */
function Glyph({ wheel, large = false }: { wheel: Wheel; large?: boolean }) {
  const frame = { centre: 50 };
  const fine = wheel.edges.length > 160;
  return (
    <Drawing viewBox="0 0 100 100" $large={large} aria-hidden>
      <path
        d={outline(wheel.edges, 0, large ? 40 : 34, 47, frame)}
        fill={color.raised}
        stroke={color.ink}
        strokeWidth={large ? (fine ? 0.5 : 0.8) : fine ? 1 : 2.2}
      />
      {wheel.tracks?.map((track, i) => (
        <path
          key={track.name}
          d={outline(track.edges, 0, 24 - 9 * i, 29 - 9 * i, frame)}
          fill={color.sheet}
          stroke={color.ink}
          strokeWidth={large ? 0.8 : 1.6}
        />
      ))}
      <circle
        cx="50"
        cy="50"
        r={large || wheel.tracks ? 9 : 12}
        fill={color.sheet}
        stroke={color.ink}
        strokeWidth={large ? 0.8 : 2.2}
      />
    </Drawing>
  );
}

const Drawing = styled.svg<{ $large: boolean }>`
  width: ${({ $large }) => ($large ? '190px' : '40px')};
  height: auto;
  flex: none;
  margin-inline: ${({ $large }) => ($large ? 'auto' : '0')};
`;
const Columns = styled.div`
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr) 250px;
  gap: ${space[5]};
  align-items: start;
  ${at.tablet} {
    grid-template-columns: 250px minmax(0, 1fr);
    gap: ${space[4]};
  }
  ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
  ${at.print} {
    grid-template-columns: 270px minmax(0, 1fr);
  }
`;
/** On paper the whole list goes under what was counted and chosen, in two columns. */
const Listed = styled(Stack).attrs({ $gap: 2 as const })`
  ${at.print} {
    grid-column: 1 / -1;
    order: 1;
  }
`;
const List = styled(ListBox)`
  max-height: calc(100dvh - 220px);
  overflow-y: auto;
  border-block: ${shape.hair} solid ${color.rule};
  ${at.narrow} {
    max-height: 46vh;
  }
  ${at.print} {
    max-height: none;
    columns: 2;
    column-gap: ${space[5]};
  }
` as typeof ListBox;
const Item = styled(ListBoxItem)`
  display: flex;
  gap: ${space[3]};
  align-items: center;
  padding: ${space[1]} ${space[2]};
  border-bottom: ${shape.hair} solid ${color.rule};
  cursor: pointer;
  min-height: ${shape.target};
  break-inside: avoid;
  &[data-hovered] {
    background: ${color.raised};
  }
  &[data-selected] {
    background: ${color.selectionWash};
    box-shadow: inset 3px 0 0 ${color.selection};
  }
  &[data-focus-visible] {
    outline: 2px solid ${color.selection};
    outline-offset: -2px;
  }
` as typeof ListBoxItem;
