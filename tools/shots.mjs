import { runTypeScript } from './setup.mjs';

runTypeScript('tools/shots.ts');
