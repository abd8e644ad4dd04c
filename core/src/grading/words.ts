import type { Grade } from '../catalogue/vocabulary';

/** The four grades as they stand on a button or in a list. */
export const GRADE_WORDS: Readonly<Record<Grade, string>> = {
  sound: 'Sound',
  watch: 'Watch',
  mend: 'Mend',
  stop: 'Stop',
};
