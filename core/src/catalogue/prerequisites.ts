import type { Step } from './schema';

/** The ids a step waits for, groups flattened. */
export function prerequisites(step: Pick<Step, 'after'>): string[] {
  return step.after.flatMap((each) => (typeof each === 'string' ? [each] : each.anyOf));
}
