import { runTypeScript } from './setup.mjs';

runTypeScript('tools/reference.ts');
