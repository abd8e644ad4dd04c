/** `npm start`: the real thing; no demo accounts, the first visit creates the administrator. */
import { ensureBuilt, ensureInstalled, serve } from './setup.mjs';

ensureInstalled();
ensureBuilt();
serve([]);
