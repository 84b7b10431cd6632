import b612 from '@fontsource/b612/files/b612-latin-400-normal.woff?url';
import greek from '@fontsource/fira-sans/files/fira-sans-greek-400-normal.woff?url';
import { expose } from 'comlink';
import type { Build } from '~/core/build/schema';
import { boardPdf, type Paper } from '~/core/formats/board-pdf';
import { layBoard } from '~/core/loom/board';
import { netlist } from '~/core/netlist/netlist';

const fontFile = async (url: string): Promise<Uint8Array> => new Uint8Array(await (await fetch(url)).arrayBuffer());

/** Sheets of the board. Cancelled by ending the worker. */
const api = {
  async pdf(build: Build, size: { width: number; height: number }, paper: Paper): Promise<Uint8Array> {
    const files = await Promise.all([b612, greek].map(fontFile));
    return boardPdf(build, layBoard(build, netlist(build), size), paper, { files });
  },
};
export type BoardApi = typeof api;
expose(api);
