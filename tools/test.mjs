/**
 * `npm test`: installs what is missing, then lint, types, unit and component tests, server tests on PGlite and on
 * PostgreSQL, and browser tests. The last line is `N passed, N failed`.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bin, ensureBuilt, ensureDebianPackages, ensureInstalled, root, startPostgres } from './setup.mjs';

ensureInstalled();
const total = { passed: 0, failed: 0 };
const folder = mkdtempSync(join(tmpdir(), 'rounds-test-'));
/** Checks that use one core each run so many at once. */
const AT_ONCE = 2;

/** Runs a command to its end; its output is held back until then, unless it is to be seen as it comes. */
function run(name, command, args, { live = false, environment = {} } = {}) {
  const begun = performance.now();
  return new Promise((resolve) => {
    const output = [];
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', live ? 'inherit' : 'pipe', live ? 'inherit' : 'pipe'],
      env: { ...process.env, ...environment },
    });
    child.stdout?.on('data', (chunk) => output.push(chunk));
    child.stderr?.on('data', (chunk) => output.push(chunk));
    const end = (passed) => {
      const seconds = ((performance.now() - begun) / 1000).toFixed(0);
      console.log(`\n== ${name}: ${passed ? 'passed' : 'failed'} in ${seconds} s`);
      if (output.length > 0) process.stdout.write(Buffer.concat(output));
      resolve(passed);
    };
    child.once('error', (error) => {
      output.push(Buffer.from(`${error.message}\n`));
      end(false);
    });
    child.once('close', (status) => end(status === 0));
  });
}

/** Steps that each pass or fail as a whole, some at a time. */
async function steps(list) {
  const waiting = [...list];
  const worker = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift())
      total[(await run(...next)) ? 'passed' : 'failed'] += 1;
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
}

/** A project of tests, counted test by test; a run that breaks off counts as failed. */
async function tests(name, project, environment = {}) {
  const report = join(folder, `${project}.json`);
  rmSync(report, { force: true });
  const args = [
    'run',
    '--project',
    project,
    '--reporter=dot',
    '--reporter=json',
    `--outputFile.json=${report}`,
  ];
  const passed = await run(name, bin('vitest'), args, { live: true, environment });
  let counted = { numPassedTests: 0, numFailedTests: 0 };
  try {
    counted = JSON.parse(readFileSync(report, 'utf8'));
  } catch {
    console.error(`${name}: no report was written`);
  }
  total.passed += counted.numPassedTests;
  total.failed += counted.numFailedTests + (!passed && counted.numFailedTests === 0 ? 1 : 0);
}

const packs = readdirSync(join(root, 'packs')).filter((name) => name.endsWith('.yaml'));
await steps([
  ['lint', bin('eslint'), ['.', '--max-warnings', '0']],
  ['types of the web app', bin('vue-tsc'), ['-p', 'web/tsconfig.json', '--noEmit']],
  ['types', bin('tsc'), ['-p', 'tsconfig.json']],
  ['format', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['unused', bin('knip'), []],
  [
    'class packs',
    process.execPath,
    ['--import', 'tsx', 'tools/pack.ts', 'check', ...packs.map((name) => `packs/${name}`)],
  ],
]);
await tests('unit tests', 'unit');
await tests('component tests', 'web');
ensureBuilt();
try {
  ensureDebianPackages();
  await tests('server tests on PGlite', 'server');
  const postgres = startPostgres();
  try {
    await tests('server tests on PostgreSQL', 'server', { TEST_DATABASE_URL: postgres.url });
  } finally {
    postgres.stop();
  }
  await tests('browser tests', 'browser');
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  total.failed += 1;
}
rmSync(folder, { recursive: true, force: true });
console.log(`\n${total.passed} passed, ${total.failed} failed`);
process.exit(total.failed > 0 ? 1 : 0);
