/**
 * What the entry points share: installing, building, and what tests need beside that, on a machine with
 * only Node and npm.
 */
import { createHash } from 'node:crypto';
import { spawn, spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Runs a command with its output shown; exits with its code when it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (result.error) throw result.error;
  if (result.status !== 0) process.exit(result.status ?? 1);
}

/** Path of an installed command. */
export const bin = (name) => join(root, 'node_modules', '.bin', name);

const hashOf = (text) => createHash('sha256').update(text).digest('hex');

/** Installs what package-lock.json asks for, when node_modules is missing or was made from another lock. */
export function ensureInstalled(log = console.log) {
  const stamp = join(root, 'node_modules', '.rounds-lock');
  const lock = hashOf(readFileSync(join(root, 'package-lock.json')));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  log('Installing packages (npm ci) ...');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    stdio: ['ignore', process.stderr, process.stderr],
  });
  writeFileSync(stamp, lock);
}

function* filesIn(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', '.cache'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* filesIn(path);
    else yield path;
  }
}

/** Builds the web app and the server bundle when a source is newer than the last build. */
export function ensureBuilt(log = console.log) {
  const sources = ['core/src', 'contract/src', 'server/src', 'demo/src', 'web/src', 'web/public'].flatMap(
    (folder) => [...filesIn(join(root, folder))],
  );
  sources.push(
    join(root, 'web/index.html'),
    join(root, 'web/vite.config.ts'),
    join(root, 'package-lock.json'),
  );
  const state = hashOf(
    sources
      .map((path) => `${path.slice(root.length)}:${statSync(path).size}:${hashOf(readFileSync(path))}`)
      .join('\n'),
  );
  const stamp = join(root, '.cache', 'build');
  const built = [join(root, 'web/dist/index.html'), join(root, 'server/dist/main.js')];
  if (built.every((path) => existsSync(path)) && existsSync(stamp) && readFileSync(stamp, 'utf8') === state)
    return;
  log('Building ...');
  run(bin('vite'), ['build', '--logLevel', 'warn', '--config', 'web/vite.config.ts']);
  run(process.execPath, [join(root, 'tools/bundle-server.mjs')]);
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, state);
}

/** Starts the built server in this terminal and passes signals on. */
export function serve(args) {
  const child = spawn(process.execPath, [join(root, 'server/dist/main.js'), ...args], {
    cwd: root,
    stdio: 'inherit',
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code) => process.exit(code ?? 1));
}

/** Runs a TypeScript tool with tsx. */
export function runTypeScript(file, args = process.argv.slice(2)) {
  ensureInstalled(console.error);
  const result = spawnSync(process.execPath, ['--import', 'tsx', join(root, file), ...args], {
    cwd: process.cwd(),
    stdio: 'inherit',
    env: { ...process.env, NODE_PATH: join(root, 'node_modules') },
  });
  process.exit(result.status ?? 1);
}

/** Folder of the newest PostgreSQL server that Debian has installed here, or null. */
function postgresFolder() {
  const versions = existsSync('/usr/lib/postgresql') ? readdirSync('/usr/lib/postgresql') : [];
  const newest = versions
    .sort((a, b) => Number(a) - Number(b))
    .findLast((version) => existsSync(`/usr/lib/postgresql/${version}/bin/initdb`));
  return newest ? `/usr/lib/postgresql/${newest}/bin` : null;
}

/**
 * What the tests need from Debian (Chromium, poppler, a PostgreSQL server), installed when missing and
 * allowed. Throws with what to do otherwise.
 */
export function ensureDebianPackages(log = console.log) {
  const wanted = [
    [existsSync('/usr/bin/chromium'), 'chromium'],
    [existsSync('/usr/bin/pdftotext'), 'poppler-utils'],
    [postgresFolder() !== null, 'postgresql'],
  ]
    .filter(([there]) => !there)
    .map(([, name]) => name);
  if (wanted.length === 0) return;
  log(`Installing ${wanted.join(' and ')} from Debian ...`);
  const asRoot = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
  const attempt = (args) =>
    spawnSync([...asRoot, 'apt-get', ...args][0], [...asRoot, 'apt-get', ...args].slice(1), {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  attempt(['update', '-q']);
  if (attempt(['install', '-y', '-q', '--no-install-recommends', ...wanted]).status !== 0)
    throw new Error(
      `The tests need ${wanted.join(' and ')}. Install them as root: apt-get install ${wanted.join(' ')}`,
    );
}

/**
 * Starts a PostgreSQL server of its own in a temporary folder, reached only from this computer. Answers its
 * address and how to end it.
 * The server refuses to run as root, so it runs as the account that Debian made for it.
 */
export function startPostgres() {
  const bin = postgresFolder();
  const folder = mkdtempSync(join(tmpdir(), 'rounds-postgres-'));
  const isRoot = process.getuid?.() === 0;
  if (isRoot) run('chown', ['postgres', folder]);
  const as = (command, args) => {
    const [first, ...rest] = isRoot
      ? ['runuser', '-u', 'postgres', '--', command, ...args]
      : [command, ...args];
    return spawnSync(first, rest, { cwd: folder, stdio: ['ignore', 'ignore', 'inherit'] });
  };
  const data = join(folder, 'data');
  const port = 20_000 + (process.pid % 20_000);
  const settings =
    `-p ${port} -k ${folder} -c listen_addresses=127.0.0.1 -c fsync=off -c ` + 'max_connections=300';
  if (as(join(bin, 'initdb'), ['-D', data, '-A', 'trust', '-U', 'postgres', '-E', 'UTF8']).status !== 0)
    throw new Error('PostgreSQL could not be set up.');
  if (
    as(join(bin, 'pg_ctl'), ['-D', data, '-o', settings, '-l', join(folder, 'log'), '-w', 'start']).status !==
    0
  )
    throw new Error('PostgreSQL did not start.');
  return {
    url: `postgres://postgres@127.0.0.1:${port}/postgres`,
    stop() {
      as(join(bin, 'pg_ctl'), ['-D', data, '-m', 'immediate', 'stop']);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
