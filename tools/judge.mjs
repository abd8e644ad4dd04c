import { runTypeScript } from './setup.mjs';

runTypeScript('tools/judge.ts');
