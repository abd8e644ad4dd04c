import { runTypeScript } from './setup.mjs';

runTypeScript('tools/bench.ts');
