import { cpSync } from 'node:fs';
import path from 'node:path';
import { seeded } from '~/core/trigger/synth';
import { MortalBrowser, exported, newProfile, openTwin, pause, savedSince, type Seen } from './browser';
import { differences, enterBroughtBack, goToAct, randomAct, sameSeen, seenBack, takeBack, type Act } from './edits';

export interface KillsAnswer {
  readonly kills: number;
  readonly edits: number;
  /** What was called saved and is gone, or what stands there and was never made. */
  readonly lost: readonly string[];
  readonly uncaught: readonly string[];
}

/**
 * Edits random sheets and kills the browser at random moments, again and again on one profile. What is found afterwards must be
 * a state the person has seen, and none older than the last one the title block called saved.
 */
export async function killRounds(
  base: string,
  kills: number,
  seed: number,
  onRound?: (answer: KillsAnswer) => void,
): Promise<KillsAnswer> {
  const random = seeded(seed);
  const profile = newProfile();
  const answer = { kills: 0, edits: 0, lost: [] as string[], uncaught: [] as string[] };
  let seen: Seen | null = null;
  let buildId = '';
  /** What was typed and neither it nor its undo was said to be saved at the kill: its page may bring it back when it is opened. */
  let typed: Act[] = [];
  try {
    for (let round = 0; round < kills; round += 1) {
      const browser = await MortalBrowser.start(profile.folder);
      const { page } = browser;
      page.on('pageerror', (error) => answer.uncaught.push(`round ${round}: ${error.message}`));
      try {
        if (buildId === '') {
          buildId = await openTwin(page, base);
        }
        const found: Seen = await exported(page, base, /.*Brindle/);
        const states: Seen[] = [found];
        const told: string[] = [];
        if (seen && !sameSeen(seen, found)) answer.lost.push(`round ${round}: ${differences(seen, found).join(', ')}`);
        let saved = 0;
        let unsaved: Act[] = [];
        const edits = 1 + Math.floor(random() * 3);
        for (let i = 0; i < edits; i += 1) {
          answer.edits += 1;
          const act = randomAct(random, answer.edits);
          await goToAct(page, base, buildId, act.on);
          if (await enterBroughtBack(page)) {
            const entered = await exported(page, base, /.*Brindle/);
            const standing = states[states.length - 1];
            if (![standing, ...typed.map((one) => one.after(standing))].some((one) => sameSeen(one, entered)))
              answer.lost.push(`round ${round}: brought back ${differences(standing, entered).join(', ')}`);
            told.push('brought back');
            states.push(entered);
            saved = states.length - 1;
            await goToAct(page, base, buildId, act.on);
          }
          unsaved.push(act);
          let since = Date.now();
          told.push(act.does);
          await act.act(page);
          states.push(act.after(states[states.length - 1]));
          const isBack = random() < 0.2;
          if (isBack) {
            since = Date.now();
            told.push('taken back');
            await takeBack(page);
            states.push(states[states.length - 2]);
          }
          // Half of the time the person waits for the word; else the cut comes at any moment.
          if (random() < 0.5) {
            if (isBack) await seenBack(page);
            await savedSince(page, since);
            told.push('saved');
            saved = states.length - 1;
            unsaved = [];
          } else await pause(random() * 350);
        }
        await browser.kill();
        answer.kills += 1;
        // A new browser on the same profile is asked what is there: it must be one of the states from the saved one on.
        const witness = await MortalBrowser.start(profile.folder);
        try {
          const after = await exported(witness.page, base, /.*Brindle/);
          if (!states.slice(saved).some((one) => sameSeen(one, after)))
            answer.lost.push(
              `round ${round} (${told.join(', ')}): since what was saved, ${differences(states[saved], after).join(', ')}`,
            );
          seen = after;
          typed = [...typed, ...unsaved];
        } finally {
          await witness.kill();
          answer.kills += 1;
        }
      } catch (error) {
        // What cannot be read counts as lost until it is looked at: the profile is kept for that.
        [seen, typed] = [null, []];
        const kept = path.resolve(`.cache/chaos/round-${round}`);
        await browser.kill();
        cpSync(profile.folder, kept, { recursive: true, filter: (name) => !/Singleton|\.lock$/.test(name) });
        answer.lost.push(`round ${round}: ${error instanceof Error ? error.message : String(error)} (kept in ${kept})`);
      } finally {
        await browser.kill();
      }
      onRound?.(answer);
    }
  } finally {
    profile.drop();
  }
  return answer;
}
