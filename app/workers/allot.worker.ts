import { expose } from 'comlink';
import { allotWith, whyOpen, type Allotment } from '~/core/allot/allot';
import { compareEcus, type EcuFit } from '~/core/ways/compare';
import type { Keep } from '~/core/allot/model';
import { needsOf } from '~/core/netlist/needs';
import { fitsAtStart, type StartAnswers } from '~/core/ways/start';
import { explain, type Explained, type Help } from '~/core/ways/ways';
import type { Build } from '~/core/build/schema';

/** Needs that can simply be placed told by name. */
const EASY_TOLD = 6;

interface Explanation {
  readonly reasons: readonly Explained[];
  /** Open needs that are part of no conflict, with what would do. */
  readonly easy: readonly { readonly needId: string; readonly label: string; readonly reason: string }[];
  readonly easyMore: number;
}

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
  why(build: Build, help: Help, onProgress: Progress): Explanation {
    const needs = needsOf(build);
    const reasons = explain(build, help, heard(onProgress), needs)!;
    const stuck = new Set(reasons.flatMap(({ conflict }) => [...conflict.needs, ...conflict.more]));
    const easy = needs.filter((need) => build.assignments[need.id] === undefined && !stuck.has(need.id));
    return {
      reasons,
      easy: easy.slice(0, EASY_TOLD).map((need) => ({
        needId: need.id,
        label: need.label,
        reason: whyOpen(build, need.id, needs, () => [])!.reason,
      })),
      easyMore: Math.max(0, easy.length - EASY_TOLD),
    };
  },
  compare(build: Build, ecus: Help['ecus'], onProgress: Progress): EcuFit[] {
    return compareEcus(build, ecus, heard(onProgress))!;
  },
  start(answers: StartAnswers, ecus: Help['ecus'], onProgress: Progress): EcuFit[] {
    const fits = fitsAtStart(answers, ecus, heard(onProgress));
    if (!fits.ok) throw new Error(fits.problem.sentence);
    return fits.value;
  },
};
export type AllotApi = typeof api;
expose(api);
