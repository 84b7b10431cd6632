import { expose } from 'comlink';
import { allotWith, type Allotment } from '~/core/allot/allot';
import { compareEcus, type EcuFit } from '~/core/ways/compare';
import { conflictsOf, type Conflict } from '~/core/allot/conflict';
import type { Keep } from '~/core/allot/model';
import { waysOut, type Help, type WayOut } from '~/core/ways/ways';
import type { Build } from '~/core/build/schema';

type Progress = (done: number, of: number) => void;

const heard = (onProgress: Progress) => (done: number, of: number) => {
  onProgress(done, of);
  return false;
};

/** Solves pin plans off the page's thread. Cancelled by ending the worker. */
const api = {
  allot(build: Build, keep: Keep, onProgress: Progress): Allotment {
    return allotWith(build, { keep, onProgress: heard(onProgress), explain: false })!;
  },
  why(build: Build, help: Help, onProgress: Progress): { conflict: Conflict; ways: WayOut[] }[] {
    const conflicts = conflictsOf(build);
    return conflicts.map((conflict, index) => {
      onProgress(index, conflicts.length);
      return { conflict, ways: waysOut(build, conflict, help) };
    });
  },
  compare(build: Build, ecus: Help['ecus'], onProgress: Progress): EcuFit[] {
    return compareEcus(build, ecus, heard(onProgress))!;
  },
};
export type AllotApi = typeof api;
expose(api);
