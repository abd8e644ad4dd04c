/** `npm run build` */
import { ensureBuilt, ensureInstalled } from './setup.mjs';

ensureInstalled();
ensureBuilt();
