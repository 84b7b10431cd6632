import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { parseArgs } from 'node:util';
import { boardDxf } from '~/core/formats/board-dxf';
import { boardPdf, papers, type Paper } from '~/core/formats/board-pdf';
import { boardSvg } from '~/core/formats/board-svg';
import { labelsCsv, labelsText } from '~/core/formats/loom-lists';
import { layBoard } from '~/core/loom/board';
import { boardProblems } from '~/core/loom/board-shapes';
import { allFigures, loomGrams } from '~/core/loom/bundles';
import { labelsOf } from '~/core/loom/labels';
import { cutList } from '~/core/loom/loom';
import { segmentName } from '~/core/loom/names';
import { noiseOf } from '~/core/loom/noise';
import { partsToBuy } from '~/core/loom/parts';
import { cuttingOf } from '~/core/loom/shelf';
import { netlist } from '~/core/netlist/netlist';
import { fail, ok } from '~/core/problem';
import { answer, textAnswer, withBuild, type Command } from './command';

export const cutlist: Command = ([path]) =>
  withBuild(path, (build) => {
    const net = netlist(build);
    return answer({
      wires: cutList(build, net).map((line) => {
        const { route, cutOf } = net.wireById.get(line.wireId)!;
        return { ...line, route, cutOf };
      }),
      cutting: cuttingOf(build, net).map(({ colour, squareMm, plan }) => ({ colour, squareMm, ...plan })),
    });
  });

export const bundle: Command = ([path]) =>
  withBuild(path, (build) => {
    const net = netlist(build);
    return answer({
      pieces: allFigures(build, net).map((one) => ({
        id: one.id,
        name: segmentName(build, one.id),
        metres: one.segment.metres,
        measured: one.segment.measured,
        celsius: one.celsius,
        wires: one.wires.map(({ id }) => id),
        bareMillimetres: one.bareMillimetres,
        millimetres: one.millimetres,
        covering: one.covering,
        sleeveMillimetres: one.sleeveMillimetres,
        grams: one.grams,
        loaded: one.loaded,
        hottest: one.hottest && { wire: one.hottest.wire.id, celsius: one.hottest.celsius },
        passesHole: one.fits,
      })),
      noise: noiseOf(build, net).map(({ wire, ...one }) => ({ ...one, wire: wire.id })),
      grams: loomGrams(net),
    });
  });

export const labels: Command = ([path, ...rest]) =>
  withBuild(path, (build) => {
    const { values } = parseArgs({ args: [...rest], options: { format: { type: 'string', default: 'json' } } });
    const net = netlist(build);
    switch (values.format) {
      case 'json':
        return answer({ labels: labelsOf(build, net) });
      case 'csv':
        return textAnswer(labelsCsv(build, net));
      case 'text':
        return textAnswer(labelsText(build, net));
      default:
        return fail('usage', '--format', '--format is json, csv or text.');
    }
  });

export const parts: Command = ([path]) =>
  withBuild(path, (build) => answer({ parts: partsToBuy(build, netlist(build)), bought: build.stores.parts }));

const fontFiles = (): Uint8Array[] => {
  const { resolve } = createRequire(import.meta.url);
  return [
    '@fontsource/b612/files/b612-latin-400-normal.woff',
    '@fontsource/fira-sans/files/fira-sans-greek-400-normal.woff',
  ].map((file) => new Uint8Array(readFileSync(resolve(file))));
};
const isPaper = (text: string): text is Paper => Object.hasOwn(papers, text);

export const formboard: Command = ([path, ...rest]) =>
  withBuild(path, (build) => {
    const { values } = parseArgs({
      args: [...rest],
      options: {
        format: { type: 'string', default: 'svg' },
        board: { type: 'string', default: '2400x1200' },
        paper: { type: 'string', default: 'A4' },
      },
    });
    const [, width, height] = /^(\d{2,5})x(\d{2,5})$/.exec(values.board) ?? [];
    if (width === undefined || height === undefined)
      return fail('usage', '--board', '--board is its size in millimetres, such as 2400x1200.');
    if (Object.keys(build.tree.nodes).length === 0)
      return fail('no-tree', 'tree', `${path}: the loom does not lie in a tree yet: nothing can be laid on a board.`);
    const board = layBoard(build, netlist(build), { width: Number(width), height: Number(height) });
    for (const sentence of boardProblems(build, board)) process.stderr.write(`${sentence}\n`);
    const exit = board.problems.some(({ code }) => code === 'too-small') ? 1 : 0;
    const { paper } = values;
    switch (values.format) {
      case 'svg':
      case 'dxf': {
        const text = values.format === 'svg' ? boardSvg(build, board) : boardDxf(build, board);
        return ok({ output: null, exit, bytes: new TextEncoder().encode(text) });
      }
      case 'pdf':
        if (!isPaper(paper)) return fail('usage', '--paper', `--paper is one of ${Object.keys(papers).join(', ')}.`);
        return ok({ output: null, exit, later: () => boardPdf(build, board, paper, { files: fontFiles() }) });
      default:
        return fail('usage', '--format', '--format is svg, dxf or pdf.');
    }
  });
