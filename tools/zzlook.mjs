import { runTypeScript } from './setup.mjs';

runTypeScript('tools/zzlook.ts');
