import { DxfWriter, LWPolylineFlags, Units, point2d, point3d } from '@tarikjabiri/dxf';
import type { Build } from '../build/schema';
import type { Board } from '../loom/board';
import { boardLayers, boardShapes, type BoardLayer } from '../loom/board-shapes';

/** Colours of the layers by their number in the colour index of DXF. */
const layerColours: Readonly<Record<BoardLayer, number>> = {
  BOARD: 8,
  LOOM: 7,
  PLACES: 5,
  TICKS: 8,
  NAMES: 7,
  TABLES: 3,
};

/** The board as DXF, drawing units millimetres, y upwards: for a plotter or a cutter. */
export function boardDxf(build: Build, board: Board): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  for (const layer of boardLayers) dxf.addLayer(layer, layerColours[layer], 'CONTINUOUS');
  const up = (y: number) => board.height - y;
  for (const shape of boardShapes(build, board)) {
    const { layer } = shape;
    if (shape.is === 'line')
      dxf.addLWPolyline(
        shape.points.map(({ x, y }) => ({ point: point2d(x, up(y)) })),
        { layerName: layer, flags: LWPolylineFlags.None },
      );
    else if (shape.is === 'circle')
      dxf.addCircle(point3d(shape.at.x, up(shape.at.y), 0), shape.radius, { layerName: layer });
    else dxf.addText(point3d(shape.at.x, up(shape.at.y), 0), shape.size, plain(shape.text), { layerName: layer });
  }
  return dxf.stringify();
}
/** Text of a DXF as every reader takes it: what is beyond ASCII is written by its number. */
const plain = (text: string): string =>
  [...text]
    .map((letter) =>
      letter.codePointAt(0)! < 127
        ? letter
        : `\\U+${letter.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`,
    )
    .join('');
