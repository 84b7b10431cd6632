// npm run chaos: the storage and the files, tried as hard as we can. `--short` is what the tests run a part of.
import { chromium as browserType } from '@playwright/test';
import { mutateFiles } from '../tests/chaos/files';
import { killRounds } from '../tests/chaos/kills';
import { tabRounds } from '../tests/chaos/tabs';
import { failingWrites } from '../tests/chaos/writes';
import { chromium } from './chromium.mjs';
import { served } from './served';

const short = process.argv.includes('--short');
const only = process.argv.find((word) => word.startsWith('--only='))?.slice(7);
const seed = Number(process.argv.find((word) => word.startsWith('--seed='))?.slice(7) ?? Date.now() % 1_000_000);
/** Rounds of kills, where fewer than the long form's are wanted. */
const rounds = Number(process.argv.find((word) => word.startsWith('--rounds='))?.slice(9) ?? (short ? 3 : 500));
const wanted = (part: string) => !only || only === part;
const say = (text: string) => void process.stdout.write(`${text}\n`);

let bad = 0;
const count = (name: string, things: readonly string[]) => {
  bad += things.length;
  say(`  ${name}: ${things.length}`);
  for (const thing of things.slice(0, 10)) say(`    ${thing}`);
};

say(`seed ${seed}`);
if (wanted('files')) {
  const files = mutateFiles(
    short ? 2_000 : 100_000,
    seed,
    2,
    (done, wrong) => done % 5_000 === 0 && say(`  ${done} files, ${wrong} gone wrong`),
  );
  say(`damaged files: ${files.files}`);
  count('uncaught exceptions', files.uncaught);
  count('sentences nobody can use', files.unfit);
  count('reads over 2 s', files.slow);
}
if (wanted('kills') || wanted('writes') || wanted('tabs')) {
  const { base, stop } = await served();
  try {
    if (wanted('kills')) {
      let told = 0;
      const kills = await killRounds(base, rounds, seed, ({ kills, lost }) => {
        // As it happens: a long run that is cut short has told what it found.
        for (const one of lost.slice(told)) say(`  lost in ${one}`);
        told = lost.length;
        if (kills % 50 === 0) say(`  ${kills} kills, ${lost.length} lost`);
      });
      say(`kills: ${kills.kills}, with ${kills.edits} edits`);
      count('lost edits', kills.lost);
      count('uncaught exceptions', kills.uncaught);
    }
    const browser = await browserType.launch({
      executablePath: chromium,
      args: ['--no-sandbox', '--disable-gpu'],
    });
    if (wanted('writes')) {
      const numbers = Array.from({ length: Math.min(rounds, short ? 3 : 24) }, (_, i) => i + 1);
      const writes = await failingWrites(browser, base, numbers, seed);
      say(`failing writes: ${writes.failed} in ${writes.tried} sessions`);
      count('lost edits', writes.lost);
      count('uncaught exceptions', writes.uncaught);
    }
    if (wanted('tabs')) {
      const tabs = await tabRounds(browser, base, Math.min(rounds, short ? 1 : 60), seed);
      say(`two tabs and the garage: ${tabs.rounds} rounds, ${tabs.acts} acts`);
      count('lost edits', tabs.lost);
      count('resurrected builds', tabs.resurrected);
      count('uncaught exceptions', tabs.uncaught);
    }
    await browser.close();
  } finally {
    stop();
  }
}
process.exitCode = bad === 0 ? 0 : 1;
