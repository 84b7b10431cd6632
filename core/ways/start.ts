import { startBuild, type Answers } from '../edits/starter';
import type { EcuDefinition } from '../ecu/ecu';
import { fail, ok, type Result } from '../problem';
import { fitOn, type EcuFit } from './compare';

/** The answers of a new build, but for the ECU that is still to be chosen. */
export type StartAnswers = Omit<Answers, 'ecu' | 'name'>;

/**
 * What a new build of these answers would be on each ECU: its own usual parts, the solver's best plan, what is left over.
 * `onProgress` says how many are done and returns true to stop.
 */
export function fitsAtStart(
  answers: StartAnswers,
  ecus: readonly EcuDefinition[],
  onProgress: (done: number, of: number) => boolean = () => false,
): Result<EcuFit[]> {
  const fits: EcuFit[] = [];
  for (const [done, ecu] of ecus.entries()) {
    if (onProgress(done, ecus.length)) return fail('stopped', 'ecu', 'It was stopped.');
    const build = startBuild({ ...answers, name: 'Trial', ecu, id: 'trial', now: '2000-01-01T00:00:00.000Z' });
    if (!build.ok) return build;
    fits.push(fitOn(build.value, build.value.ecu));
  }
  onProgress(ecus.length, ecus.length);
  return ok(fits);
}
