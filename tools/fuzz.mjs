/**
 * `npm run -s fuzz -- N [SEED]`: N malformed requests made from the contract against a server of its own;
 * none may fail, hang or fill the memory.
 */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { root, runTypeScript } from './setup.mjs';

execFileSync(process.execPath, [join(root, 'tools/bundle-server.mjs')]);
runTypeScript('tools/fuzz.ts');
