/** `npm run demo`: install, build, make the demo organisation if absent, serve. */
import { ensureBuilt, ensureInstalled, serve } from './setup.mjs';

ensureInstalled();
ensureBuilt();
serve(['--demo']);
