import { runTypeScript } from './setup.mjs';

runTypeScript('tools/pack.ts');
