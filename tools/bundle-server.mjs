/**
 * Bundles the server and its worker threads with the workspace packages they use into server/dist; registry
 * packages stay outside.
 */
import { build } from 'esbuild';
import { join } from 'node:path';
import { root } from './setup.mjs';

await build({
  entryPoints: { main: join(root, 'server/src/main.ts'), worker: join(root, 'server/src/jobs/worker.ts') },
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

/** For Vitest, which imports this file before the server's tests so that worker threads have their bundle. */
export default function setup() {}
