import { runTypeScript } from './setup.mjs';

runTypeScript('tools/desk.ts');
