/** Bundles the server and the workspace packages it uses into server/dist/main.js; registry packages stay outside. */
import { build } from 'esbuild';
import { join } from 'node:path';
import { root } from './setup.mjs';

await build({
  entryPoints: [join(root, 'server/src/main.ts')],
  outfile: join(root, 'server/dist/main.js'),
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  packages: 'external',
  alias: {
    '@rounds/core': join(root, 'core/src/index.ts'),
    '@rounds/contract/openapi': join(root, 'contract/src/openapi.ts'),
    '@rounds/contract': join(root, 'contract/src/index.ts'),
    '@rounds/demo': join(root, 'demo/src/index.ts'),
  },
  logLevel: 'warning',
});
