import type { UntilBound, Use } from '@rounds/core/catalogue';
import type { FinderAct } from '@rounds/core/grading';

/** What to do about a finding, on its button. */
export const ACT_WORDS: Readonly<Record<FinderAct, { name: string; more: string }>> = {
  'go-on': { name: 'Go on', more: 'use it' },
  'top-up': { name: 'Put right', more: 'top up, wipe, tighten' },
  'order-repair': { name: 'Order repair', more: 'use within limits' },
  'stop-and-tag': { name: 'Stop and tag', more: 'key out' },
};

/** By when, on its button. */
export const BY_WORDS: Readonly<Record<UntilBound, string>> = {
  'before-start': 'Before it starts',
  shift: 'This shift',
  today: 'Today',
  hours: 'Within hours',
  days: 'Within days',
  'next-service': 'Next service',
  'only-if': 'Only under a condition',
};

/** Who may put it right, in a sentence. */
export const CLEAR_WORDS = {
  operator: 'The operator may put it right on the spot.',
  competent: 'Only a competent person may clear it.',
  maker: "Only the maker's people may clear it.",
} as const;

/** A use of the day, as it stands above a finding. */
export const TODAY_WORDS: Readonly<Record<Use, string>> = {
  'carries-people': 'Today it carries people, in a cage its maker allows',
  'lifts-over-people': 'Today it lifts where people pass beneath',
  'works-on-road': 'Today it works on a public road',
  'leans-on-device': "Today's work leans on this safety device",
};
