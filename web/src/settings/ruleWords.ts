import type { GivenCertificates, RuleSet, Trigger } from '@rounds/core/certification';

/** The figures of a rule set, with how they are asked for. */
export const FIGURES: readonly {
  key: 'validMonths' | 'leadDays' | 'graceDays' | 'keepAnniversaryDays';
  name: string;
  unit: string;
  max: number;
  min: number;
}[] = [
  { key: 'validMonths', name: 'A certificate holds', unit: 'months', min: 1, max: 120 },
  { key: 'leadDays', name: 'Counts as due before its end', unit: 'days', min: 0, max: 365 },
  { key: 'graceDays', name: 'Grace after its end, supervised', unit: 'days', min: 0, max: 365 },
  {
    key: 'keepAnniversaryDays',
    name: 'Renewal keeps the anniversary',
    unit: 'days before',
    min: 0,
    max: 365,
  },
];

/** What becomes of certificates already given when new rules begin. */
export const GIVEN: readonly { value: GivenCertificates; name: string; says: string }[] = [
  {
    value: 'keep',
    name: 'They keep their end',
    says: 'Each runs to the day on its card. Notice, grace, age, medical and hours follow the new rules.',
  },
  {
    value: 'at-renewal',
    name: 'They change at renewal',
    says: 'Everything stays as it was until the person is evaluated again.',
  },
  {
    value: 'at-once',
    name: 'They change at once',
    says: 'Their end is counted anew from their date. Nothing before the new rules begin changes.',
  },
];

/** What a trigger does under a rule set, in words. */
export function effectWords(rules: RuleSet, trigger: Trigger): string {
  const effect = rules.triggers[trigger];
  if (effect === 'suspend') return 'suspends at once';
  if (effect === 'none') return 'changes nothing';
  return `evaluation due within ${effect.dueInDays} days`;
}
