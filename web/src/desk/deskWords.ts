import type { DeskMode } from '@rounds/contract/desk';
import type { DeskProgram } from '@rounds/core/machine';

/** What can be practised at a desk. */
export const PROGRAM_WORDS: Readonly<Record<DeskProgram, { name: string; says: string }>> = {
  start: { name: 'Start it', says: 'From the round to a machine that is ready' },
  tests: { name: 'Start and test', says: 'Start it, then prove that it works' },
  stop: { name: 'Stop it', says: 'It has worked; leave it as it should be left' },
  whole: { name: 'All of it', says: 'Start, tests and stop, as on a shift' },
  free: { name: 'Try it out', says: 'Nothing is judged' },
};

/** How much of the way is shown. */
export const MODE_WORDS: Readonly<Record<Exclude<DeskMode, 'free'>, { name: string; says: string }>> = {
  guided: { name: 'Guided', says: 'The steps that may come next are shown' },
  test: { name: 'Test', says: 'Nothing is shown. Counts for readiness' },
};
