import { runTypeScript } from './setup.mjs';

runTypeScript('tools/store.ts');
