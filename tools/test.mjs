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
/** What uses one core runs so many at once. */
const AT_ONCE = 2;

/** Runs a command to its end; its output is held back until then. */
function run(name, command, args, environment = {}) {
  const begun = performance.now();
  return new Promise((resolve) => {
    const output = [];
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ...environment },
    });
    child.stdout.on('data', (chunk) => output.push(chunk));
    child.stderr.on('data', (chunk) => output.push(chunk));
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

/** A check that passes or fails as a whole. */
const check =
  (name, ...command) =>
  async () => {
    total[(await run(name, ...command)) ? 'passed' : 'failed'] += 1;
  };

/** A project of tests, counted test by test; a run that breaks off counts as failed. */
const tests =
  (name, project, { shard = '1/1', environment = {} } = {}) =>
  async () => {
    const report = join(folder, `${name.replaceAll(' ', '-')}.json`);
    const args = ['run', '--project', project, '--maxWorkers=1', `--shard=${shard}`];
    args.push('--reporter=dot', '--reporter=json', `--outputFile.json=${report}`);
    const passed = await run(name, bin('vitest'), args, environment);
    let counted = { numPassedTests: 0, numFailedTests: 0 };
    try {
      counted = JSON.parse(readFileSync(report, 'utf8'));
    } catch {
      console.error(`${name}: no report was written`);
    }
    total.passed += counted.numPassedTests;
    total.failed += counted.numFailedTests + (!passed && counted.numFailedTests === 0 ? 1 : 0);
  };

/** Runs a list, some at a time, in its order. */
async function all(list) {
  const waiting = [...list];
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await next();
  };
  await Promise.all(Array.from({ length: AT_ONCE }, lane));
}

const packs = readdirSync(join(root, 'packs')).filter((name) => name.endsWith('.yaml'));
const packCheck = ['--import', 'tsx', 'tools/pack.ts', 'check', ...packs.map((name) => `packs/${name}`)];
await all([
  tests('unit tests', 'unit'),
  check('lint', bin('eslint'), ['.', '--max-warnings', '0']),
  check('types of the web app', bin('vue-tsc'), ['-p', 'web/tsconfig.json', '--noEmit']),
  tests('component tests', 'web'),
  check('types', bin('tsc'), ['-p', 'tsconfig.json']),
  check('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']),
  check('unused', bin('knip'), []),
  check('class packs', process.execPath, packCheck),
]);
ensureBuilt();
try {
  ensureDebianPackages();
  const postgres = startPostgres();
  try {
    await all([
      tests('server tests on PGlite', 'server'),
      tests('browser tests, first half', 'browser', { shard: '1/2' }),
      tests('browser tests, second half', 'browser', { shard: '2/2' }),
      tests('server tests on PostgreSQL', 'server', { environment: { TEST_DATABASE_URL: postgres.url } }),
    ]);
  } finally {
    postgres.stop();
  }
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  total.failed += 1;
}
rmSync(folder, { recursive: true, force: true });
console.log(`\n${total.passed} passed, ${total.failed} failed`);
process.exit(total.failed > 0 ? 1 : 0);
