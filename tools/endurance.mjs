/**
 * `npm run -s endurance -- appends|first-start|backup|restore N`: kills the built server at N moments and
 * looks what is left.
 */
import { ensureBuilt, runTypeScript } from './setup.mjs';

ensureBuilt(console.error);
runTypeScript('tools/endurance.ts');
