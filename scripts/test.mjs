// npm test: installs what is missing, then lint, types, unit and reference tests, build, browser tests.
// The last line is 'N passed, N failed': tests counted one by one, lint and types as one each.
import { readFileSync, mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureBuild, ensurePackages, ensureReferences, root, run } from './setup.mjs';

ensurePackages();
ensureReferences();

const cache = path.join(root, '.cache');
mkdirSync(cache, { recursive: true });
const counts = { passed: 0, failed: 0 };
const add = (name, passed, failed) => {
  counts.passed += passed;
  counts.failed += failed;
  console.log(`\n== ${name}: ${passed} passed, ${failed} failed\n`);
};
const step = (name, script) => {
  const status = run('npm', ['run', '--silent', script]);
  add(name, status === 0 ? 1 : 0, status === 0 ? 0 : 1);
};
const readJson = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
};

step('lint', 'lint');
step('types', 'typecheck');

const unitReport = path.join(cache, 'unit.json');
rmSync(unitReport, { force: true });
const unitStatus = run('npm', ['run', '--silent', 'unit', '--', '--json', `--outputFile=${unitReport}`]);
const unit = readJson(unitReport);
// A suite that does not even load counts as a failure of its own.
add('unit and reference', unit?.numPassedTests ?? 0, unit ? unit.numFailedTests + unit.numRuntimeErrorTestSuites : 1);
if (unitStatus !== 0 && counts.failed === 0) counts.failed += 1;

ensureBuild();
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
