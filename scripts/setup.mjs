// Installs what is missing, once: npm packages by the committed lock, and Debian's Chromium for the browser tests.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium } from './chromium.mjs';

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const stamp = path.join(root, 'node_modules/.gonyx-lock');

export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (result.error) throw result.error;
  return result.status ?? 1;
}

export function mustRun(command, args, options) {
  const status = run(command, args, options);
  if (status !== 0) {
    console.error(`${command} ${args.join(' ')} ended with ${status}`);
    process.exit(status);
  }
}

const lockHash = () =>
  createHash('sha256')
    .update(readFileSync(path.join(root, 'package-lock.json')))
    .digest('hex');

/** node_modules as the lock says; nothing is done when the lock has not changed since the last time. */
export function ensurePackages() {
  const hash = lockHash();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return;
  console.log('Installing packages…');
  mustRun('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stamp, hash);
}

/** Packages of Debian, by the program each brings; needs root (or sudo) the first time only. */
function ensureDebian(programs) {
  const missing = programs.filter(({ file }) => !existsSync(file)).map(({ name }) => name);
  if (missing.length === 0) return;
  console.log(`Installing ${missing.join(', ')} from Debian…`);
  const prefix = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) =>
    mustRun(...((all) => [all[0], all.slice(1)])([...prefix, 'apt-get', ...args]), {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  apt('update');
  apt('install', '-y', '--no-install-recommends', ...missing);
}

/** The browser of the tests and the pictures. */
export const ensureChromium = () => ensureDebian([{ name: 'chromium-headless-shell', file: chromium }]);

/** What the reference tests measure against: a circuit simulator, a converter of units, and a Verilog simulator that writes dumps. */
export const ensureReferences = () =>
  ensureDebian([
    { name: 'chromium-headless-shell', file: chromium },
    { name: 'ngspice', file: '/usr/bin/ngspice' },
    { name: 'units', file: '/usr/bin/units' },
    { name: 'iverilog', file: '/usr/bin/iverilog' },
  ]);

/** Hash over everything the build is made from, so that it is made again only when that changed. */
function sourceHash() {
  const listed = spawnSync(
    'git',
    [
      'ls-files',
      '-co',
      '--exclude-standard',
      'app',
      'core',
      'catalog',
      'demo',
      'public',
      'scripts',
      'package-lock.json',
      'vite.config.ts',
      'react-router.config.ts',
      'tsconfig.json',
    ],
    { cwd: root, encoding: 'utf8' },
  );
  const files = listed.stdout
    .split('\n')
    .filter((file) => file && existsSync(path.join(root, file)))
    .sort();
  if (files.length === 0) return null;
  const hash = createHash('sha256');
  for (const file of files) hash.update(file).update(readFileSync(path.join(root, file)));
  return hash.digest('hex');
}

/** The production build, made when missing or out of date. */
export function ensureBuild() {
  const mark = path.join(root, 'build/.gonyx-source');
  const hash = sourceHash();
  if (hash && existsSync(mark) && readFileSync(mark, 'utf8') === hash) return;
  console.log('Building…');
  mustRun('npm', ['run', '--silent', 'build']);
  mkdirSync(path.dirname(mark), { recursive: true });
  if (hash) writeFileSync(mark, hash);
}
