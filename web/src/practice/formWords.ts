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

/** A round to walk, findings to grade, a machine to start and stop, or its controls called out. */
export const WHATS = ['walk', 'bench', 'desk', 'commands'] as const;
export type What = (typeof WHATS)[number];
export const WHAT_WORDS: Readonly<Record<What, { name: string; says: string }>> = {
  walk: {
    name: 'Walk round',
    says: 'A machine with faults nobody has told you of. Walk round, check, call what you find.',
  },
  bench: {
    name: 'Grade findings',
    says: 'Findings one after the other: how bad is it, what do you do, by when? Then the key, and why.',
  },
  desk: {
    name: 'Start and stop',
    says: 'The machine itself, to start, stop and work. Make the expensive mistakes here.',
  },
  commands: {
    name: 'Commands',
    says: 'Controls called out in random order, until the hand finds each one without thinking.',
  },
};

/** What is practised of what can be set to somebody. */
export type SetTask = Pick<PracticeSet, 'form' | 'station' | 'program'>;

/** What is set, in short. */
export function taskWords({ form, program }: SetTask): string {
  if (form === 'bench' || form === 'commands') return WHAT_WORDS[form].name;
  return form === 'desk' ? `${PROGRAM_WORDS[program!].name}, at the desk, as a test` : FORM_WORDS[form].name;
}
