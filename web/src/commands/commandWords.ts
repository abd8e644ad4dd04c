import type { CalledAt } from '@rounds/contract/commands';
import type { AnswerKind } from '@rounds/core/commands';

/** Where a set of commands is answered. */
export const CALLED_AT_WORDS: Readonly<Record<CalledAt, { name: string; says: string }>> = {
  machine: { name: 'On the machine', says: 'Engine off. You call, watch the hands, and tap.' },
  desk: { name: 'At the desk', says: 'It sees by itself what was worked, and when.' },
};

/** How a call was answered. */
export const ANSWER_WORDS: Readonly<Record<AnswerKind, string>> = {
  right: 'Right',
  late: 'Late',
  wrong: 'Wrong',
  missed: 'Not answered',
};

/** A reaction as "1.2 s"; a dash where nothing was timed. */
export const tenths = (seconds: number | null): string =>
  seconds === null ? '–' : `${seconds.toFixed(1)} s`;
