/**
 * Bundles the server and its worker threads with the workspace packages they use into server/dist; registry
 * packages stay outside.
 */
import { execFileSync } from 'node:child_process';
import { build } from 'esbuild';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { root } from './setup.mjs';

const { outputFiles } = await build({
  write: false,
  entryPoints: {
    main: join(root, 'server/src/main.ts'),
    worker: join(root, 'server/src/jobs/worker.ts'),
    prebuildPacks: join(root, 'server/src/classes/prebuildPacks.ts'),
    prebuildCluster: join(root, 'server/src/data/prebuildCluster.ts'),
  },
  outdir: join(root, 'server/dist'),
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  packages: 'external',
  alias: {
    '@rounds/core': join(root, 'core/src'),

    '@rounds/contract': join(root, 'contract/src'),
    '@rounds/demo': join(root, 'demo/src/index.ts'),
  },
  logLevel: 'warning',
});
// Another run may be reading what is there: it is replaced whole, and only by something else.
for (const { path, contents } of outputFiles) {
  if (existsSync(path) && readFileSync(path).equals(contents)) continue;
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(`${path}.${process.pid}`, contents);
  renameSync(`${path}.${process.pid}`, path);
}

for (const each of ['prebuildPacks', 'prebuildCluster'])
  execFileSync(process.execPath, [join(root, 'server/dist', `${each}.js`)], { stdio: 'inherit' });

/** For Vitest, which imports this file before the server's tests so that worker threads have their bundle. */
export default function setup() {}
