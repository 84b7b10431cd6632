import { wrap } from 'comlink';
import { useEffect, useMemo, useRef, useState } from 'react';
import { styled } from 'styled-components';
import { boardDxf } from '~/core/formats/board-dxf';
import type { Paper } from '~/core/formats/board-pdf';
import { boardSvg } from '~/core/formats/board-svg';
import { layBoard } from '~/core/loom/board';
import { boardProblems, boardShapes } from '~/core/loom/board-shapes';
import { plural } from '~/core/units/format';
import { readLength } from '~/core/units/workshop';
import { useBuild, useLater } from '../../build/context';
import { LengthField } from '../../parts/length-field';
import { SheetFrame } from '../../parts/sheet-frame';
import { download, fileName } from '../../storage/files';
import { messageOf } from '../../storage/failure';
import { Button } from '../../ui/button';
import { Menu } from '../../ui/menu';
import { Callout, Row, Small, Soft, Stack } from '../../ui/text';
import { color } from '../../ui/theme';
import type { BoardApi } from '../../workers/board.worker';
import { answerOf } from '../../workers/answer';
import { NoTree } from './no-tree';

const PAPERS: readonly { readonly id: Paper; readonly name: string }[] = [
  { id: 'A4', name: 'PDF on A4' },
  { id: 'A3', name: 'PDF on A3' },
  { id: 'Letter', name: 'PDF on Letter' },
];
/** A board as one is sold, metres. */
const WIDTH = 2.4;
const HEIGHT = 1.2;

/** Makes the sheets in a worker, one asked for at a time; leaving the page ends it. */
function usePdf(onFailure: (sentence: string) => void) {
  const { build } = useBuild();
  const worker = useRef<Worker | null>(null);
  const [making, setMaking] = useState<Paper | null>(null);
  const end = () => {
    worker.current?.terminate();
    worker.current = null;
    setMaking(null);
  };
  useEffect(() => () => worker.current?.terminate(), []);
  const make = (size: { width: number; height: number }, paper: Paper) => {
    end();
    const own = new Worker(new URL('../../workers/board.worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    setMaking(paper);
    answerOf(own, wrap<BoardApi>(own).pdf(build, size, paper)).then(
      (bytes) => {
        if (worker.current !== own) return;
        end();
        download(
          fileName(`${build.name} board ${paper}`, 'pdf'),
          'application/pdf',
          new Blob([bytes as Uint8Array<ArrayBuffer>]),
        );
      },
      (error: unknown) => {
        if (worker.current !== own) return;
        end();
        onFailure(`The sheets could not be made: ${messageOf(error)}.`);
      },
    );
  };
  return { making, make, end };
}

/** The loom laid flat at 1:1, to be printed, plotted or cut. */
export function Formboard() {
  const { build } = useBuild();
  const later = useLater();
  const [width, setWidth] = useState(WIDTH);
  const [height, setHeight] = useState(HEIGHT);
  const [said, setSaid] = useState('');
  const size = useMemo(() => ({ width: width * 1000, height: height * 1000 }), [width, height]);
  const board = useMemo(() => layBoard(later.build, later.net, size), [later, size]);
  const shapes = useMemo(() => boardShapes(later.build, board), [later, board]);
  const { making, make, end } = usePdf(setSaid);
  if (Object.keys(build.tree.nodes).length === 0) return <NoTree />;
  const problems = boardProblems(later.build, board);
  return (
    <SheetFrame
      summary={
        <span role="status">
          {plural(board.lines.length, 'piece')} on {readLength(board.used.width / 1000, build)} by{' '}
          {readLength(board.used.height / 1000, build)}.
          <br />
          <Soft>{said || (making ? `Making the sheets of ${making}.` : 'Every piece as long as it is.')}</Soft>
        </span>
      }
      actions={
        <>
          {making ? (
            <Button onPress={end}>Stop</Button>
          ) : (
            <Menu label="Print" choices={PAPERS} onChoose={(paper) => make(size, paper as Paper)} />
          )}
          <Button
            onPress={() =>
              download(fileName(`${build.name} board`, 'svg'), 'image/svg+xml', boardSvg(later.build, board))
            }
          >
            SVG
          </Button>
          <Button
            onPress={() =>
              download(fileName(`${build.name} board`, 'dxf'), 'image/vnd.dxf', boardDxf(later.build, board))
            }
          >
            DXF
          </Button>
        </>
      }
    >
      <Stack $gap={3}>
        <Row $gap={4}>
          <Short>
            <LengthField
              label="Board, long"
              units={build.units}
              value={width}
              minValue={0.3}
              maxValue={12}
              onChange={setWidth}
            />
          </Short>
          <Short>
            <LengthField
              label="Board, high"
              units={build.units}
              value={height}
              minValue={0.3}
              maxValue={6}
              onChange={setHeight}
            />
          </Short>
          <Small>
            A tick each 100 mm. Sheets are printed at 100 %, after one that shows how they are joined; SVG and DXF are
            true to the millimetre.
          </Small>
        </Row>
        {problems.map((sentence) => (
          <Callout key={sentence} $tone="fix">
            {sentence}
          </Callout>
        ))}
        <Frame>
          <svg viewBox={`-4 -4 ${board.width + 8} ${board.height + 8}`} role="img" aria-label="The loom on its board">
            {shapes.map((shape, i) =>
              shape.is === 'line' ? (
                <polyline
                  key={i}
                  points={shape.points.map(({ x, y }) => `${x},${y}`).join(' ')}
                  fill="none"
                  stroke={shape.layer === 'LOOM' ? 'var(--loom)' : shape.layer === 'BOARD' ? color.rule : color.ink}
                  strokeWidth={shape.layer === 'LOOM' ? Math.max(3, shape.thick) : 0.8}
                  strokeLinejoin="round"
                />
              ) : shape.is === 'circle' ? (
                <circle
                  key={i}
                  cx={shape.at.x}
                  cy={shape.at.y}
                  r={shape.radius + 2}
                  fill={color.sheet}
                  stroke={color.ink}
                  strokeWidth="1.5"
                />
              ) : (
                <text
                  key={i}
                  x={shape.at.x}
                  y={shape.at.y}
                  fontSize={shape.layer === 'NAMES' ? shape.size * 2.6 : shape.size}
                  fill={color.ink}
                >
                  {shape.text}
                </text>
              ),
            )}
          </svg>
        </Frame>
      </Stack>
    </SheetFrame>
  );
}

const Short = styled.div`
  width: 118px;
`;
const Frame = styled.div`
  & > svg {
    width: 100%;
    height: auto;
    --loom: color-mix(in srgb, ${color.soft} 72%, ${color.paper});
  }
`;
