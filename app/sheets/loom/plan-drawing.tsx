import { memo, useCallback, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { mergeProps, useMove } from 'react-aria';
import { styled } from 'styled-components';
import type { Build } from '~/core/build/schema';
import { sameAsBefore } from '~/core/data/keep-same';
import { drawPlan, fromPlan, type PlanNode, type PlanSegment, type PlanZone } from '~/core/drawing/plan';
import type { SegmentFigures } from '~/core/loom/bundles';
import { deviceOfThing } from '~/core/tree/things';
import type { Point } from '~/core/tree/tree';
import { plural } from '~/core/units/format';
import { readQuantity } from '~/core/units/units';
import { readLength } from '~/core/units/workshop';
import { FindingMark } from '../../parts/findings/finding-mark';
import { color } from '../../ui/theme';
import { VehicleOutline } from './vehicle';

/** What of the plan is looked at. */
export type Looked = { readonly type: 'piece'; readonly id: string } | { readonly type: 'place'; readonly id: string };

/** A step of an arrow key, pixels: about the grid of the plan. */
const KEY_STEP = 9;
const press = (act: () => void) => (event: KeyboardEvent) => {
  if (event.key !== 'Enter' && event.key !== ' ') return;
  event.preventDefault();
  act();
};

/** The loom on its plan: places that can be taken by the hand or by the arrow keys, pieces that can be looked into. */
export function PlanDrawing({
  build,
  figures,
  looked,
  found,
  onLook,
  onMove,
}: {
  build: Build;
  figures: readonly SegmentFigures[];
  looked: Looked | null;
  /** Pieces that what is selected lies in. */
  found: ReadonlySet<string>;
  onLook: (looked: Looked) => void;
  onMove: (node: string, at: Point) => void;
}) {
  const [held, setHeld] = useState<{ readonly id: string; readonly at: Point } | null>(null);
  const shown = useMemo(() => {
    const node = held && build.tree.nodes[held.id];
    if (!node) return build;
    return { ...build, tree: { ...build.tree, nodes: { ...build.tree.nodes, [held.id]: { ...node, at: held.at } } } };
  }, [build, held]);
  const [asBefore] = useState(() => ({
    nodes: sameAsBefore<PlanNode>(({ id }) => id),
    segments: sameAsBefore<PlanSegment>(({ id }) => id),
  }));
  // What an edit left as it was is not drawn anew.
  const drawing = useMemo(() => {
    const now = drawPlan(shown, figures);
    return { ...now, nodes: asBefore.nodes(now.nodes), segments: asBefore.segments(now.segments) };
  }, [shown, figures, asBefore]);
  const { scale } = drawing;
  const onHeld = useCallback((id: string, point: Point) => setHeld({ id, at: fromPlan(point, scale) }), [scale]);
  const onLet = useCallback(
    (id: string, point: Point) => {
      setHeld(null);
      onMove(id, fromPlan(point, scale));
    },
    [onMove, scale],
  );
  return (
    <Scroll>
      <svg
        width={drawing.width}
        height={drawing.height}
        viewBox={`0 0 ${drawing.width} ${drawing.height}`}
        role="group"
        aria-label="Plan of the loom"
      >
        <VehicleOutline vehicle={build.tree.vehicle} layout={drawing.layout} scale={scale} />
        {drawing.zones.map((zone) => (
          <g key={zoneName(zone, build)} opacity="0.24">
            {zone.paths.map((path, i) => (
              <path
                key={i}
                d={path}
                fill="none"
                stroke={zoneColors[zone.zone]}
                strokeWidth={BAND}
                strokeLinejoin="round"
                {...zoneLines[zone.zone]}
              />
            ))}
          </g>
        ))}
        {drawing.segments.map((segment) => (
          <path key={segment.id} d={segment.path} fill="none" stroke={color.ink} strokeWidth={segment.width + 2} />
        ))}
        {drawing.segments.map((segment) => (
          <Piece
            key={segment.id}
            segment={segment}
            words={readLength(segment.metres, build)}
            isLooked={looked?.type === 'piece' && looked.id === segment.id}
            isFound={found.has(segment.id)}
            onLook={onLook}
          />
        ))}
        {drawing.nodes.map((node) => (
          <Place
            key={node.id}
            node={node}
            name={node.kind === 'ecu' ? build.ecu.model : node.name}
            isLooked={looked?.type === 'place' && looked.id === node.id}
            onLook={onLook}
            onHeld={onHeld}
            onLet={onLet}
          />
        ))}
      </svg>
      {drawing.zones.length > 0 && (
        <Legend aria-label="Surroundings on the plan">
          {drawing.zones.map((zone) => (
            <li key={zoneName(zone, build)}>
              <svg width="46" height="16" aria-hidden>
                <path
                  d="M9 8H37"
                  stroke={zoneColors[zone.zone]}
                  strokeOpacity="0.35"
                  strokeWidth="14"
                  {...zoneLines[zone.zone]}
                />
              </svg>
              {zoneName(zone, build)}
            </li>
          ))}
        </Legend>
      )}
      {drawing.nodes.map((node) => (
        <Marks key={node.id} node={node} holds={build.tree.nodes[node.id]?.holds ?? NOTHING} />
      ))}
    </Scroll>
  );
}

const NOTHING: readonly string[] = [];
/** What is found of the devices that stand at a place. */
const Marks = memo(function Marks({ node: { x, y }, holds }: { node: PlanNode; holds: readonly string[] }) {
  return holds.flatMap((thing) => {
    const deviceId = deviceOfThing(thing);
    return deviceId === null ? (
      []
    ) : (
      <At key={thing} style={{ left: x, top: y }}>
        <FindingMark thing={{ type: 'device', deviceId }} />
      </At>
    );
  });
});

/** As broad as a zone is drawn about its pieces, pixels. */
const BAND = 22;
const zoneName = ({ zone, celsius }: PlanZone, build: Build): string =>
  zone === 'hot' ? `hot, ${readQuantity('temperature', celsius, build)}` : zone;
/** Told apart without their colours too: what is hot is whole, what moves is finely cut, what is wet in longer strokes. */
const zoneLines = {
  cabin: {},
  engine: {},
  hot: { strokeLinecap: 'round' },
  moving: { strokeDasharray: '5 3' },
  wet: { strokeDasharray: '12 3' },
} as const;
const zoneColors = {
  cabin: color.soft,
  engine: color.soft,
  hot: color.stop,
  moving: color.fix,
  wet: color.selection,
} as const;
/** Width of a letter of the plan's words, pixels. */
const LETTER = 7;
/** Below a plug that stands in the line, pixels. */
const BELOW = 29;

const Piece = memo(function Piece({
  segment,
  words,
  isLooked,
  isFound,
  onLook,
}: {
  segment: PlanSegment;
  words: string;
  isLooked: boolean;
  isFound: boolean;
  onLook: (looked: Looked) => void;
}) {
  const { id, path, width, word, upright, below, told, measured, hole, wires } = segment;
  const look = () => onLook({ type: 'piece', id });
  const at = upright
    ? { x: word.x + width / 2 + 5, y: word.y + 4 }
    : { x: word.x - (words.length * LETTER) / 2, y: below ? word.y + BELOW : word.y - width / 2 - 5 };
  return (
    <Pressed
      role="button"
      tabIndex={0}
      aria-pressed={isLooked}
      aria-label={`Piece ${id}, ${words}, ${measured ? 'measured' : 'drawn'}, ${plural(wires, 'wire')}`}
      onClick={look}
      onKeyDown={press(look)}
    >
      <path
        d={path}
        fill="none"
        stroke={isLooked ? color.selection : isFound ? color.pencil : 'var(--loom)'}
        strokeWidth={width}
      />
      <path d={path} fill="none" stroke="transparent" strokeWidth="18" />
      {hole && (
        <path
          d={`M${hole.x - 3} ${hole.y - 13}V${hole.y + 13}M${hole.x + 3} ${hole.y - 13}V${hole.y + 13}`}
          stroke={color.ink}
          strokeWidth="2"
        />
      )}
      {(told || isLooked) && (
        <text
          {...at}
          fontSize="12.5"
          fill={measured ? color.ink : color.soft}
          stroke={color.sheet}
          strokeWidth="4"
          paintOrder="stroke"
        >
          {words}
        </text>
      )}
    </Pressed>
  );
});

const nameAt = ({ side }: PlanNode, half: number) =>
  side === 'left'
    ? { x: -half - 5, y: 4, textAnchor: 'end' as const }
    : side === 'right'
      ? { x: half + 5, y: 4, textAnchor: 'start' as const }
      : { x: 0, y: side === 'above' ? -half - 6 : half + 15, textAnchor: 'middle' as const };

const kindWords = {
  ecu: 'ECU',
  branch: 'branch',
  plug: 'plug',
  splice: 'splice',
  box: 'box',
  ground: 'ground',
  tail: 'tail',
} as const;

const Place = memo(function Place({
  node,
  name,
  isLooked,
  onLook,
  onHeld,
  onLet,
}: {
  node: PlanNode;
  name: string;
  isLooked: boolean;
  onLook: (looked: Looked) => void;
  onHeld: (id: string, at: Point) => void;
  onLet: (id: string, at: Point) => void;
}) {
  const at = useRef<Point | null>(null);
  const look = () => onLook({ type: 'place', id: node.id });
  const { moveProps } = useMove({
    onMoveStart: () => {
      at.current = null;
    },
    onMove: ({ deltaX, deltaY, pointerType }) => {
      const step = pointerType === 'keyboard' ? KEY_STEP : 1;
      const { x, y } = at.current ?? node;
      at.current = { x: x + deltaX * step, y: y + deltaY * step };
      onHeld(node.id, at.current);
    },
    onMoveEnd: () => {
      if (at.current) onLet(node.id, at.current);
    },
  });
  const stroke = isLooked ? color.selection : color.ink;
  return (
    <Pressed
      {...mergeProps(moveProps, { onKeyDown: press(look) })}
      role="button"
      tabIndex={0}
      aria-pressed={isLooked}
      aria-label={`${name || node.id}, ${kindWords[node.kind]}`}
      transform={`translate(${node.x} ${node.y})`}
      onClick={look}
    >
      <Mark node={node} stroke={stroke} name={name} isNamed={isLooked} />
    </Pressed>
  );
});

/** `isNamed`: where the loom only parts its name is told when it is looked at. */
function Mark({ node, stroke, name, isNamed }: { node: PlanNode; stroke: string; name: string; isNamed: boolean }) {
  const words = (half: number, weight?: number) => (
    <text
      {...nameAt(node, half)}
      fontSize="13"
      fontWeight={weight}
      fill={color.ink}
      stroke={color.sheet}
      strokeWidth="4"
      paintOrder="stroke"
    >
      {name}
    </text>
  );
  switch (node.kind) {
    case 'ecu':
      return (
        <>
          <rect x="-52" y="-22" width="104" height="44" rx="4" fill={color.sheet} stroke={stroke} strokeWidth="2.5" />
          <text textAnchor="middle" y="5" fontSize="14" fontWeight="700" fill={color.ink}>
            {name}
          </text>
        </>
      );
    case 'box':
      return (
        <>
          <rect x="-32" y="-19" width="64" height="38" rx="4" fill={color.sheet} stroke={stroke} strokeWidth="1.8" />
          <text textAnchor="middle" y="5" fontSize="13" fill={color.ink}>
            {name || 'box'}
          </text>
        </>
      );
    case 'plug':
      return (
        <>
          <rect x="-11" y="-16" width="22" height="32" rx="3" fill={color.sheet} stroke={stroke} strokeWidth="2" />
          <path d="M0 -16V16" stroke={stroke} strokeWidth="2" />
          <text
            textAnchor="middle"
            y="-22"
            fontSize="13"
            fontWeight="700"
            fill={color.ink}
            stroke={color.sheet}
            strokeWidth="4"
            paintOrder="stroke"
          >
            {name}
          </text>
        </>
      );
    case 'branch':
    case 'splice':
      return (
        <>
          <circle r="12" fill="transparent" />
          <circle
            r={node.kind === 'branch' ? 6.5 : 4.5}
            fill={node.kind === 'branch' ? color.sheet : color.ink}
            stroke={stroke}
            strokeWidth="2"
          />
          {isNamed && words(7)}
        </>
      );
    case 'ground':
    case 'tail':
      return (
        <>
          <circle r="12" fill="transparent" />
          <rect x="-6" y="-6" width="12" height="12" rx={node.kind === 'ground' ? 6 : 0} fill={stroke} />
          {words(6)}
        </>
      );
  }
}

const Legend = styled.ul.attrs({ role: 'list' })`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  font-size: 13px;
  li {
    display: inline-flex;
    align-items: center;
    gap: 5px;
  }
`;
/** What is found of something stands at its place. */
const At = styled.span`
  position: absolute;
  transform: translate(4px, 3px);
  & > button {
    padding: 0;
  }
`;
const Scroll = styled.div`
  position: relative;
  overflow: auto;
  & > svg {
    display: block;
    --loom: color-mix(in srgb, ${color.soft} 72%, ${color.paper});
  }
  @media print {
    overflow: visible;
    & > svg {
      max-width: 100%;
      height: auto;
    }
  }
`;
const Pressed = styled.g`
  cursor: pointer;
  outline: none;
  touch-action: none;
  &:focus-visible > *:first-child {
    stroke: ${color.selection};
    stroke-width: 4px;
  }
`;
