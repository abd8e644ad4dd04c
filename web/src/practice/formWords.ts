import type { PracticeSet } from '@rounds/contract/practice';
import { DRILL_PARTS, type DrillForm } from '@rounds/core/drill';
import { PROGRAM_WORDS } from '../desk/deskWords';

/** The forms of a drill, as they are offered. */
export const FORM_WORDS: Readonly<Record<DrillForm, { name: string; more: string }>> = {
  round: { name: 'The whole round', more: `${DRILL_PARTS.round} parts over the ring. Counts for readiness.` },
  weak: { name: 'Five minutes', more: `${DRILL_PARTS.weak} parts: what is due and what goes wrong.` },
  station: { name: 'One station', more: 'All of its parts.' },
  'one-wrong': {
    name: 'The one thing wrong',
    more: `${DRILL_PARTS['one-wrong']} parts, one is bad. Find it.`,
  },
};

/** What is practised of what can be set to somebody. */
export type SetTask = Pick<PracticeSet, 'form' | 'station' | 'program'>;

/** What is set, in short. */
export function taskWords({ form, program }: SetTask): string {
  if (form === 'bench') return 'Grade findings';
  if (form === 'commands') return 'Commands';
  return form === 'desk' ? `${PROGRAM_WORDS[program!].name}, at the desk, as a test` : FORM_WORDS[form].name;
}
