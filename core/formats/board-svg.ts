import type { Build } from '../build/schema';
import type { Board } from '../loom/board';
import { boardLayers, boardShapes, type Shape } from '../loom/board-shapes';

const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
const figure = (value: number): string => String(Math.round(value * 1000) / 1000);

function shapeSvg(shape: Shape): string {
  switch (shape.is) {
    case 'line': {
      const points = shape.points.map(({ x, y }) => `${figure(x)},${figure(y)}`).join(' ');
      const id = shape.id === undefined ? '' : ` data-piece="${escaped(shape.id)}"`;
      return `<polyline${id} points="${points}" stroke-width="${figure(shape.thick)}"/>`;
    }
    case 'circle':
      return `<circle cx="${figure(shape.at.x)}" cy="${figure(shape.at.y)}" r="${figure(shape.radius)}"/>`;
    case 'text':
      return `<text x="${figure(shape.at.x)}" y="${figure(shape.at.y)}" font-size="${figure(shape.size)}">${escaped(shape.text)}</text>`;
  }
}

/** The board as an SVG at true size: one unit of its drawing is a millimetre. Layers are groups. */
export function boardSvg(build: Build, board: Board): string {
  const shapes = boardShapes(build, board);
  const groups = boardLayers.map((layer) => {
    const own = shapes.filter((shape) => shape.layer === layer).map(shapeSvg);
    return `<g id="${layer}">\n${own.join('\n')}\n</g>`;
  });
  const [width, height] = [figure(board.width), figure(board.height)];
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}">
<title>${escaped(build.name)}, loom at 1:1</title>
<style>polyline{fill:none;stroke:#22262b;stroke-linejoin:round}circle{fill:#fff;stroke:#22262b;stroke-width:.6}text{font-family:sans-serif;fill:#22262b}#LOOM polyline{stroke:#8c8579}</style>
${groups.join('\n')}
</svg>
`;
}
