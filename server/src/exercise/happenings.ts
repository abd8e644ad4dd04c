import { announce } from '../data/announcements';
import { ProblemError } from '../http/problem';

export const missing = () =>
  new ProblemError('not-found', 'There is no such exercise, or you are not in it.');
export const over = () => new ProblemError('lesson-over', 'This exercise has ended. Nothing was changed.');
export const outOfTurn = (why: string) => new ProblemError('exercise-order', why);

/**
 * The topics under which an exercise tells what happens in it: all of it to whoever leads it, and to the phones where
 * it is, so that an answer does not wake thirty of them.
 */
export const leadTopic = (id: string) => `exercise ${id} lead`;
export const phonesTopic = (id: string) => `exercise ${id}`;

/** What a phone is woken for. */
const FOR_PHONES: readonly Happening['kind'][] = ['moved', 'left', 'ended'];

/** Tells what happened, in the transaction under way. */
export function tell(id: string, happening: Happening): void {
  announce(leadTopic(id), happening);
  if (FOR_PHONES.includes(happening.kind)) announce(phonesTopic(id), happening);
}

/** What happens in a room, as it is announced: the results of everybody are for each their own. */
export type Happening =
  | { kind: 'moved'; n: number | null; revealed: boolean }
  | { kind: 'joined' }
  | { kind: 'left'; seat: string }
  | { kind: 'answered'; participant: string; n: number }
  | { kind: 'ended'; results: Record<string, { right: number; of: number }> };
