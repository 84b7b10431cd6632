// npm test: installs what is missing, then lint beside types and build, unit and reference tests, browser tests.
// The last line is 'N passed, N failed': tests counted one by one, lint and types as one each.
import { spawn } from 'node:child_process';
import { closeSync, mkdirSync, openSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureBuild, ensurePackages, root, run } from './setup.mjs';

const cache = path.join(root, '.cache');
mkdirSync(cache, { recursive: true });
const counts = { passed: 0, failed: 0 };
const add = (name, passed, failed) => {
  counts.passed += passed;
  counts.failed += failed;
  console.log(`\n== ${name}: ${passed} passed, ${failed} failed\n`);
};
const step = (name, status) => add(name, status === 0 ? 1 : 0, status === 0 ? 0 : 1);
/** Runs a command beside what follows; its words are told when it has ended, so that they do not mix with the others. */
const beside = (name, command, args) => {
  const log = path.join(cache, `${name}.log`);
  const words = openSync(log, 'w');
  const child = spawn(command, args, { cwd: root, stdio: ['ignore', words, words] });
  closeSync(words);
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (status) => {
      process.stdout.write(readFileSync(log));
      resolve(status ?? 1);
    });
  });
};
const readJson = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
};

// One waits for the registry of npm, the other for Debian's.
const referred = beside('references', process.execPath, ['scripts/references.mjs']);
ensurePackages();

// Each of these keeps one core busy: the rules of lint on one; types, the build and the layout of the files on the other.
const linted = beside('lint', 'npm', ['run', '--silent', 'lint:rules']);
step('types', run('npm', ['run', '--silent', 'typecheck']));
ensureBuild();
const laidOut = run('npm', ['run', '--silent', 'lint:format']);
step('lint', (await linted) || laidOut);
if ((await referred) !== 0) {
  console.error('What the tests measure against could not be installed from Debian.');
  process.exit(1);
}

const unitReport = path.join(cache, 'unit.json');
rmSync(unitReport, { force: true });
const unitStatus = run('npm', ['run', '--silent', 'unit', '--', '--json', `--outputFile=${unitReport}`]);
const unit = readJson(unitReport);
// A suite that does not even load counts as a failure of its own.
add('unit and reference', unit?.numPassedTests ?? 0, unit ? unit.numFailedTests + unit.numRuntimeErrorTestSuites : 1);
if (unitStatus !== 0 && counts.failed === 0) counts.failed += 1;

const browserReport = path.join(cache, 'browser.json');
rmSync(browserReport, { force: true });
const browserStatus = run('npx', ['playwright', 'test', '--reporter=list,json'], {
  env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: browserReport },
});
const stats = readJson(browserReport)?.stats;
add('browser', stats ? stats.expected + stats.flaky : 0, stats ? stats.unexpected + stats.skipped : 1);
if (browserStatus !== 0 && counts.failed === 0) counts.failed += 1;

console.log(`${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed === 0 ? 0 : 1);
