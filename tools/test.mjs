/**
 * `npm test`: installs what is missing, then lint, types, unit and component tests, server tests on PGlite and on
 * PostgreSQL, and browser tests. The last line is `N passed, N failed`.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bin, ensureBuilt, ensureDebianPackages, ensureInstalled, root, startPostgres } from './setup.mjs';

ensureInstalled();
const total = { passed: 0, failed: 0 };
const folder = mkdtempSync(join(tmpdir(), 'rounds-test-'));

/** A step that passes or fails as a whole. */
function step(name, command, args) {
  console.log(`\n== ${name}`);
  const { status } = spawnSync(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });
  total[status === 0 ? 'passed' : 'failed'] += 1;
}

/** A project of tests, counted test by test; a run that breaks off counts as failed. */
function tests(name, project, environment = {}) {
  console.log(`\n== ${name}`);
  const report = join(folder, `${project}.json`);
  const { status } = spawnSync(
    bin('vitest'),
    ['run', '--project', project, '--reporter=dot', '--reporter=json', `--outputFile.json=${report}`],
    {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...environment },
    },
  );
  let counted = { numPassedTests: 0, numFailedTests: 0 };
  try {
    counted = JSON.parse(readFileSync(report, 'utf8'));
  } catch {
    console.error(`${name}: no report was written`);
  }
  total.passed += counted.numPassedTests;
  total.failed += counted.numFailedTests + (status !== 0 && counted.numFailedTests === 0 ? 1 : 0);
}

step('lint', bin('eslint'), ['.', '--max-warnings', '0']);
step('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
step('unused', bin('knip'), []);
step('types', bin('tsc'), ['-p', 'tsconfig.json']);
step('types of the web app', bin('vue-tsc'), ['-p', 'web/tsconfig.json', '--noEmit']);
step('class packs', process.execPath, [
  '--import',
  'tsx',
  'tools/pack.ts',
  'check',
  ...readdirSync(join(root, 'packs'))
    .filter((name) => name.endsWith('.yaml'))
    .map((name) => `packs/${name}`),
]);
tests('unit tests', 'unit');
tests('component tests', 'web');
ensureBuilt();
try {
  ensureDebianPackages();
  tests('server tests on PGlite', 'server');
  const postgres = startPostgres();
  try {
    tests('server tests on PostgreSQL', 'server', { TEST_DATABASE_URL: postgres.url });
  } finally {
    postgres.stop();
  }
  tests('browser tests', 'browser');
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  total.failed += 1;
}
rmSync(folder, { recursive: true, force: true });
console.log(`\n${total.passed} passed, ${total.failed} failed`);
process.exit(total.failed > 0 ? 1 : 0);
