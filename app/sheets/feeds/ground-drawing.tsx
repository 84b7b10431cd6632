import { memo, useCallback, useMemo, useState } from 'react';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { jointAmps } from '~/core/circuit/grounds';
import { groundShifts, type GroundShift } from '~/core/circuit/ground-shift';
import { straysBetween, voltsBetween, wireAmps } from '~/core/circuit/reading';
import type { Solution } from '~/core/circuit/solve';
import { drawGrounds, ROWS_END, type GroundLine, type GroundNode } from '~/core/drawing/grounds';
import { call } from '~/core/edits';
import { endType, groundEnd, type EndKey } from '~/core/ends/ends';
import { formatAmps, formatMillivolts, plural } from '~/core/units/format';
import { readStep } from '~/core/units/units';
import { readLength } from '~/core/units/workshop';
import { shortSize } from '~/core/wire/size';
import type { Build } from '~/core/build/schema';
import { useBuild, useLater } from '../../build/context';
import { FindingMark } from '../../parts/findings/finding-mark';
import { color, space } from '../../ui/theme';
import { Carried, Drop, endsOf, LOAD, Place, Scroll, strokeOf, WirePath, Words } from './diagram';

/** Width of a joint that is no wire of the loom: the strap, the body. */
const JOINT_STROKE = 7;
const jointWords = { inside: 'inside', bolted: 'bolted' } as const;

const pathOf = ({ from: [x1, y1], to: [x2, y2], bend }: GroundLine): string => `M${x1} ${y1}H${bend}V${y2}H${x2}`;

const millivolts = (solution: Solution, node: GroundNode): string => {
  const minus = groundEnd('battery');
  const volts = voltsBetween(solution, node.probe, minus);
  // A pin has no room for how far it may be off: the ECU beside it says so for both.
  const strays = node.kind === 'pin' ? null : straysBetween(solution, node.probe, minus);
  return volts === null ? '' : formatMillivolts(volts, strays);
};

/** What is written over a line and below it: its copper, its length, and what comes back along it. */
function wordsOf(
  line: GroundLine,
  build: Build,
  amps: ReadonlyMap<string, number>,
  joints: { readonly strap: number; readonly body: number } | null,
): readonly string[] {
  const flows = (value: number) => (Math.abs(value) >= LEAST_AMPS ? [formatAmps(Math.abs(value))] : []);
  const [wire] = line.wires;
  if (wire) {
    const many = line.wires.length > 1 ? `${line.wires.length} × ` : '';
    const sum = line.wires.reduce((all, one) => all + (amps.get(one.id) ?? 0), 0);
    return [`${many}${shortSize(wire.squareMm, build)}`, readLength(wire.lengthMetres, build), ...flows(sum)];
  }
  if (line.joint === 'strap')
    return [
      'strap',
      shortSize(build.power.strapSquareMm, build),
      readLength(build.power.strapMetres, build),
      ...flows(joints?.strap ?? 0),
    ];
  if (line.joint === 'body') return ['body', ...flows(joints?.body ?? 0)];
  return line.joint ? [jointWords[line.joint]] : [];
}
/** Less is not worth a word. */
const LEAST_AMPS = 0.05;

/** What the ground of a sensor does to its reading, in a few letters. */
function shiftWords(shift: GroundShift | undefined, build: Build): string {
  if (!shift) return '';
  const volts = formatMillivolts(shift.shiftVolts);
  return shift.error === null ? volts : `${volts}, ${readStep(shift.quantity, Math.abs(shift.error), build)}`;
}

/** The grounds as they run: rows of what returns, the places they meet, and the battery. */
export function GroundDrawing({ solution }: { solution: Solution | null }) {
  const { build, net } = useLater();
  const { select, selection, edit } = useBuild();
  const drawing = useMemo(() => drawGrounds(build, net), [build, net]);
  const amps = useMemo(() => (solution ? wireAmps(solution, net) : new Map<string, number>()), [solution, net]);
  const joints = useMemo(() => solution && jointAmps(build, solution), [build, solution]);
  const shifts = useMemo(
    () => new Map((solution ? groundShifts(build, net, solution) : []).map((one) => [one.ground, one])),
    [build, net, solution],
  );
  const [held, setHeld] = useState<readonly EndKey[] | null>(null);
  const onMove = useCallback(
    (ends: readonly EndKey[], to: EndKey) => edit(...ends.map((end) => call('moveReturn', { end, to }))),
    [edit],
  );
  const chosen = selection?.type === 'end' ? selection.end : null;
  return (
    <Scroll>
      <Plan role="group" aria-label="Drawing of the grounds" style={{ width: drawing.width, height: drawing.height }}>
        <svg width={drawing.width} height={drawing.height} aria-hidden focusable="false">
          {[...drawing.lines].reverse().map((line) => {
            const [wire] = line.wires;
            return wire ? (
              <WirePath
                key={line.id}
                path={pathOf(line)}
                colour={wire.colour}
                width={strokeOf(wire.squareMm)}
                second={line.second}
              />
            ) : (
              <path
                key={line.id}
                d={pathOf(line)}
                fill="none"
                stroke={line.joint === 'inside' ? color.soft : color.ink}
                strokeWidth={line.joint === 'inside' ? 1.5 : JOINT_STROKE}
                strokeDasharray={line.joint === 'body' || line.joint === 'inside' ? '5 4' : undefined}
              />
            );
          })}
        </svg>
        {drawing.lines
          .filter(({ second }) => !second)
          .map((line) => (
            <LineWords key={line.id} line={line} words={wordsOf(line, build, amps, joints)} />
          ))}
        {drawing.nodes.map((node) => (
          <Place
            key={node.id}
            style={{ left: node.x, top: node.y - node.height / 2, width: node.width, height: node.height }}
          >
            <Thing
              node={node}
              volts={
                solution === null || node.kind === 'battery'
                  ? ''
                  : node.kind === 'return'
                    ? shiftWords(node.members.map((end) => shifts.get(end)).find(Boolean), build)
                    : millivolts(solution, node)
              }
              isSelected={chosen !== null && node.members.includes(chosen)}
              isAimed={held !== null}
              onSelect={select}
              onHeld={setHeld}
              onMove={onMove}
            />
          </Place>
        ))}
      </Plan>
    </Scroll>
  );
}

/** A row's words stand on one line over its wire; between two places they stand above and below. */
function LineWords({ line, words }: { line: GroundLine; words: readonly string[] }) {
  const left = line.from[0] + 5;
  const width = line.bend - left - 1;
  const y = line.from[1];
  if (line.from[0] < ROWS_END) {
    const [size, metres, ...flows] = words;
    const all = [`${size} ${metres}`, ...flows].join(' · ');
    return <Words style={{ left, width, top: y - 18 }}>{all}</Words>;
  }
  return words.map((text, i) => (
    <Words key={text} style={{ left, width, top: i === 0 ? y - 20 : y + 4 + (i - 1) * 15 }}>
      {text}
    </Words>
  ));
}

const canGo = (node: GroundNode): boolean =>
  node.kind === 'return' && node.members.every((end) => endType(end) === 'device');

interface ThingProps {
  readonly node: GroundNode;
  readonly volts: string;
  readonly isSelected: boolean;
  readonly isAimed: boolean;
  readonly onSelect: ReturnType<typeof useBuild>['select'];
  readonly onHeld: (ends: readonly EndKey[] | null) => void;
  readonly onMove: (ends: readonly EndKey[], to: EndKey) => void;
}

const Thing = memo(function Thing({ node, volts, isSelected, isAimed, onSelect, onHeld, onMove }: ThingProps) {
  const press = () => onSelect(node.end === null ? null : { type: 'end', end: node.end });
  if (node.kind === 'return')
    return (
      <Carried ends={node.members} onHeld={onHeld} disabled={!canGo(node)}>
        <Row data-selected={isSelected} onPress={press}>
          <span>{node.name}</span>
          <small>{volts}</small>
        </Row>
        <Pips>
          {node.members.slice(0, 1).map((end) => (
            <FindingMark key={end} thing={{ type: 'end', end }} />
          ))}
        </Pips>
      </Carried>
    );
  const face =
    node.kind === 'joint' ? (
      <Joint aria-label={`${node.name}, joint${volts && `, ${volts}`}`} data-selected={isSelected} onPress={press} />
    ) : (
      <Part data-selected={isSelected} data-kind={node.kind} onPress={press} isDisabled={node.end === null}>
        <strong>{node.name}</strong>
        {node.rings > 0 && <span>{plural(node.rings, 'ring')}</span>}
        {volts && <span>{volts}</span>}
      </Part>
    );
  if (!node.takes) return face;
  return (
    <Bolt
      aria-label={`Bolt it at ${node.name}`}
      data-aimed={isAimed}
      getDropOperation={(types) => (types.has(LOAD) ? 'move' : 'cancel')}
      onDrop={(event) => {
        for (const item of event.items)
          if (item.kind === 'text') void item.getText(LOAD).then((text) => onMove(endsOf(text), node.end!));
      }}
    >
      {face}
    </Bolt>
  );
});

const Plan = styled.div`
  position: relative;
  flex: none;
  font-size: 13px;
  svg {
    display: block;
  }
`;
const Bolt = styled(Drop)`
  &[data-aimed='true'] {
    box-shadow: 0 0 0 1.5px ${color.selection};
  }
  &[data-drop-target] {
    box-shadow: 0 0 0 3px ${color.selection};
  }
`;
const plain = `
  width: 100%;
  height: 100%;
  border-radius: 4px;
  cursor: pointer;
`;
const Row = styled(Button)`
  ${plain}
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: ${space[2]};
  padding: 0 ${space[2]};
  border: 1px solid ${color.rule};
  background: ${color.sheet};
  color: ${color.ink};
  font-size: 13px;
  & > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  /* What is found of it stands at its right end. */
  &:has(+ span > button) {
    padding-right: 74px;
  }
  & > small {
    flex: none;
    color: ${color.soft};
    font-size: 12px;
    font-variant-numeric: tabular-nums;
  }
  &[data-hovered] {
    background: ${color.raised};
  }
  &[data-selected='true'] {
    background: ${color.selectionWash};
    border-color: ${color.selection};
  }
`;
const Part = styled(Button)`
  ${plain}
  display: grid;
  align-content: center;
  justify-items: center;
  padding: 0 ${space[1]};
  border: 1.5px solid ${color.ink};
  background: ${color.sheet};
  color: ${color.ink};
  font-size: 13px;
  line-height: 1.25;
  & > span {
    color: ${color.soft};
    font-size: 12px;
    font-variant-numeric: tabular-nums;
    white-space: nowrap;
  }
  &[data-kind='battery'] {
    border-width: 2.5px;
  }
  &[data-kind='ecu'] {
    cursor: default;
  }
  &[data-hovered] {
    background: ${color.raised};
  }
  &[data-selected='true'] {
    background: ${color.selectionWash};
    border-color: ${color.selection};
  }
`;
const Joint = styled(Button)`
  ${plain}
  border: 0;
  border-radius: 50%;
  background: ${color.ink};
  padding: 0;
  &[data-selected='true'] {
    background: ${color.selection};
  }
`;
const Pips = styled.span`
  position: absolute;
  top: 0;
  right: 4px;
  z-index: 2;
  display: flex;
  & > button {
    background: ${color.sheet};
  }
`;
