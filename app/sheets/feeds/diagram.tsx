import { memo, useRef, useState, useEffect, type ReactNode } from 'react';
import { useDrag } from 'react-aria';
import { DropZone } from 'react-aria-components';
import { styled } from 'styled-components';
import { Face, shownOf, type FaceProps, type Figures } from './diagram-face';

import type { DrawnNode, DrawnWire, FeedDrawing } from '~/core/drawing/feeds';
import { endKey, partEnd, readEnd, type EndKey } from '~/core/ends/ends';
import { formatAmps } from '~/core/units/format';
import { readLength } from '~/core/units/workshop';
import type { Units } from '~/core/units/units';
import { shortSize } from '~/core/wire/size';
import { splitColour } from '~/core/wire/colours';
import { FindingMark } from '../../parts/findings/finding-mark';
import { insulationColour } from '../../parts/wire-mark';

import { at, color, shape, space } from '../../ui/theme';

export const LOAD = 'application/x-gonyx-load';
/** Ends that were carried, of what was dropped. */
export const endsOf = (text: string): EndKey[] =>
  text.split('\n').flatMap((one) => {
    const ref = readEnd(one);
    return ref ? [endKey(ref)] : [];
  });

/** Width a wire is drawn with: thicker wires thicker, none too thin to be seen. */
export const strokeOf = (squareMm: number): number => 2.5 + Math.sqrt(squareMm) * 1.3;

function pathOf({ from: [x1, y1], to: [x2, y2], bus, bend }: DrawnWire): string {
  return bus ? `M${bend} ${y2}H${x2}` : `M${x1} ${y1}H${bend}V${y2}H${x2}`;
}
export const WirePath = memo(function WirePath({
  path,
  colour,
  width,
  second,
}: {
  path: string;
  colour: string;
  width: number;
  second: boolean;
}) {
  const { base, stripe } = splitColour(colour);
  return (
    <g fill="none" strokeLinejoin="round" strokeDasharray={second ? '6 3' : undefined}>
      <path d={path} stroke={color.ink} strokeWidth={width + 1.6} />
      <path d={path} stroke={insulationColour(base)} strokeWidth={width} />
      {stripe && <path d={path} stroke={insulationColour(stripe)} strokeWidth={width / 3} />}
    </g>
  );
});

export interface DiagramProps extends Figures {
  readonly drawing: FeedDrawing;
  readonly units: Units;
  readonly selected: string | null;
  readonly onSelect: (node: DrawnNode) => void;
  readonly onHang: (ends: readonly EndKey[], on: DrawnNode) => void;
  /** What it would mean to hang these loads there, while they are held over it. */
  readonly whatIf: (ends: readonly EndKey[], on: DrawnNode) => string;
}

/** The drawing of the feeds: wires below, parts as buttons above them. */
export const Diagram = memo(function Diagram(props: DiagramProps) {
  const { drawing, units, reading, selected, onSelect, onHang, whatIf } = props;
  const [held, setHeld] = useState<readonly EndKey[] | null>(null);
  return (
    <Sheet role="group" aria-label="Drawing of the feeds" style={{ width: drawing.width, height: drawing.height }}>
      {drawing.columns.map(({ title, x }) => (
        <Column key={title} style={{ left: x }}>
          {title}
        </Column>
      ))}
      {drawing.boxes.map(({ id, name, x, y, width, height }) => (
        <Frame key={id} style={{ left: x, top: y, width, height }}>
          <span>{name}</span>
        </Frame>
      ))}
      <svg width={drawing.width} height={drawing.height} aria-hidden focusable="false">
        {[...drawing.wires].reverse().map((wire) => (
          <WirePath
            key={wire.id}
            path={pathOf(wire)}
            colour={wire.wire.colour}
            width={strokeOf(wire.wire.squareMm)}
            second={wire.second}
          />
        ))}
        {drawing.buses.map(({ x, from, to, y }) => (
          <path
            key={`${x} ${y}`}
            d={`M${from} ${y}H${x}M${x} ${y}V${to}`}
            fill="none"
            stroke={color.ink}
            strokeWidth="6"
            strokeLinecap="square"
          />
        ))}
      </svg>
      {drawing.wires.map((wire) => (
        <WireWords key={wire.id} {...wordsOf(wire, units, reading.amps.get(wire.wire.id) ?? 0)} />
      ))}
      {drawing.nodes.map((node) => (
        <Thing
          key={node.id}
          node={node}
          {...shownOf(node, props)}
          isSelected={selected === node.id}
          held={held}
          onHeld={setHeld}
          onSelect={onSelect}
          onHang={onHang}
          whatIf={whatIf}
        />
      ))}
    </Sheet>
  );
});

const LEAST_WORDS = 60;
interface WordsProps {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly text: string;
}
/** Size, length and what flows, over the wire where there is room. */
function wordsOf(wire: DrawnWire, units: Units, amps: number): WordsProps {
  const left = Math.max(wire.bend, wire.from[0]);
  const room = wire.to[0] - left;
  const place = { left: left + 6, width: room - 8, top: wire.to[1] - 20 };
  if (room < LEAST_WORDS || wire.second) return { ...place, text: '' };
  const flows = Math.abs(amps) >= 0.05 ? ` · ${formatAmps(Math.abs(amps))}` : '';
  const length = room > 104 ? ` ${readLength(wire.wire.lengthMetres, { units })}` : '';
  const many = wire.count > 1 ? `${wire.count} × ` : '';
  return { ...place, text: `${many}${shortSize(wire.wire.squareMm, { units })}${length}${room > 150 ? flows : ''}` };
}
const WireWords = memo(function WireWords({ left, top, width, text }: WordsProps) {
  return text === '' ? null : <Words style={{ left, width, top }}>{text}</Words>;
});

interface ThingProps extends FaceProps, Pick<DiagramProps, 'onHang' | 'whatIf'> {
  readonly held: readonly EndKey[] | null;
  readonly onHeld: (ends: readonly EndKey[] | null) => void;
}

const isOutlet = ({ kind }: DrawnNode) => kind !== 'load' && kind !== 'windings';

const controlOf = ({ part }: DrawnNode) => (part?.part.kind === 'relay' ? part.part.control : null);
/** Whether two layouts draw a thing alike: each edit makes the layout anew. */
function drawnAlike(one: DrawnNode, other: DrawnNode): boolean {
  return (
    one.x === other.x &&
    one.y === other.y &&
    one.width === other.width &&
    one.height === other.height &&
    one.name === other.name &&
    one.kind === other.kind &&
    one.end === other.end &&
    one.adrift === other.adrift &&
    one.returns === other.returns &&
    one.part?.id === other.part?.id &&
    controlOf(one) === controlOf(other) &&
    one.members.length === other.members.length &&
    one.members.every((end, i) => end === other.members[i])
  );
}
const sameThing = (one: ThingProps, other: ThingProps): boolean =>
  drawnAlike(one.node, other.node) &&
  (Object.keys(one) as (keyof ThingProps)[]).every((key) => key === 'node' || one[key] === other[key]);

const Thing = memo(function Thing(props: ThingProps) {
  const { node, held, onHang, whatIf } = props;
  const [over, setOver] = useState(false);
  const place = { left: node.x, top: node.y - node.height / 2, width: node.width, height: node.height };
  if (!isOutlet(node))
    return (
      <Place style={place}>
        <Carried ends={node.members} onHeld={props.onHeld} disabled={node.kind === 'windings'}>
          <Face {...props} />
        </Carried>
        <Pips style={{ right: 4 }}>
          {node.members.slice(0, 1).map((end) => (
            <FindingMark key={end} thing={{ type: 'end', end }} />
          ))}
        </Pips>
        {node.returns && <Returns style={{ left: node.width }}>{node.returns}</Returns>}
      </Place>
    );
  return (
    <Place style={place}>
      <Drop
        aria-label={`Hang it on ${node.name}`}
        getDropOperation={(types) => (types.has(LOAD) ? 'move' : 'cancel')}
        onDropEnter={() => setOver(true)}
        onDropExit={() => setOver(false)}
        onDrop={(event) => {
          setOver(false);
          for (const item of event.items)
            if (item.kind === 'text') void item.getText(LOAD).then((text) => onHang(endsOf(text), node));
        }}
      >
        <Face {...props} />
      </Drop>
      {over && held && <WhatIf role="status">{whatIf(held, node)}</WhatIf>}
      <Pips style={{ left: 0, top: node.height - 4 }}>
        {marksOf(node).map((end) => (
          <FindingMark key={end} thing={{ type: 'end', end }} />
        ))}
      </Pips>
    </Place>
  );
}, sameThing);

/** Ends of a part that findings speak of. */
function marksOf({ part, kind }: DrawnNode): EndKey[] {
  if (!part || (kind !== 'fuse' && kind !== 'relay')) return [];
  return (kind === 'fuse' ? ['1'] : ['85', '86', '87']).map((port) => partEnd(kind, part.name, port));
}

/** By pointer; the keyboard's way is 'Hangs on' beside the drawing. */
export function Carried({
  ends,
  onHeld,
  disabled,
  children,
}: {
  ends: readonly EndKey[];
  onHeld: (ends: readonly EndKey[] | null) => void;
  disabled: boolean;
  children: ReactNode;
}) {
  const end = useRef(onHeld);
  useEffect(() => {
    end.current = onHeld;
  });
  const { dragProps, isDragging } = useDrag({
    getItems: () => [{ [LOAD]: ends.join('\n'), 'text/plain': ends.join('\n') }],
    getAllowedDropOperations: () => ['move'],
    hasDragButton: true,
    isDisabled: disabled,
    onDragStart: () => onHeld(ends),
    onDragEnd: () => end.current(null),
  });
  return (
    <div {...dragProps} style={{ opacity: isDragging ? 0.5 : undefined, height: '100%' }}>
      {children}
    </div>
  );
}

/** A drawing that is wider than its place is moved in it. */
export const Scroll = styled.div`
  overflow-x: auto;
  padding-bottom: ${space[2]};
  ${at.print} {
    overflow: visible;
    zoom: 0.66;
  }
`;
const Sheet = styled.div`
  position: relative;
  flex: none;
  font-size: 13px;
  svg {
    display: block;
  }
`;
const Column = styled.span`
  position: absolute;
  top: 0;
  color: ${color.soft};
  white-space: nowrap;
`;
const Frame = styled.div`
  position: absolute;
  border: 1.2px dashed ${color.soft};
  border-radius: ${shape.radius};
  & > span {
    position: absolute;
    top: -9px;
    left: 10px;
    padding: 0 4px;
    background: ${color.sheet};
    color: ${color.soft};
    font-size: 12px;
    white-space: nowrap;
  }
`;
export const Words = styled.span`
  position: absolute;
  overflow: hidden;
  white-space: nowrap;
  color: ${color.soft};
  font-size: 12px;
  line-height: 16px;
  font-variant-numeric: tabular-nums;
`;
export const Place = styled.div`
  position: absolute;
`;
export const Drop = styled(DropZone)`
  height: 100%;
  border-radius: ${shape.radius};
  outline: none;
  &[data-drop-target] {
    box-shadow: 0 0 0 3px ${color.selection};
  }
  &[data-focus-visible] {
    outline: 2.5px solid ${color.selection};
  }
`;
const Pips = styled.span`
  position: absolute;
  z-index: 2;
  display: flex;
  white-space: nowrap;
  & > button {
    background: ${color.sheet};
  }
`;
const WhatIf = styled.div`
  position: absolute;
  z-index: 5;
  top: calc(100% + 6px);
  left: 0;
  width: max-content;
  max-width: 260px;
  padding: ${space[1]} ${space[2]};
  border: 1.5px solid ${color.selection};
  background: ${color.sheet};
  ${at.print} {
    display: none;
  }
`;
/** A ground's sign with its place. */
const Returns = styled.span`
  position: absolute;
  top: 50%;
  translate: 0 -50%;
  padding-left: 34px;
  white-space: nowrap;
  color: ${color.soft};
  &::before {
    content: '';
    position: absolute;
    left: 0;
    top: 50%;
    width: 22px;
    border-top: 2px solid ${color.ink};
  }
  &::after {
    content: '';
    position: absolute;
    left: 22px;
    top: 50%;
    translate: 0 -50%;
    width: 5px;
    height: 14px;
    border-left: 2px solid ${color.ink};
    border-right: 2px solid ${color.soft};
  }
`;
