import type { PlainDate } from '../calendar';
import { DEFAULT_RULES, type RuleSet } from './rules';

/**
 * What new rules do to certificates given before them. `keep`: they run to the end they were given, but the
 * conditions for operating (notice, grace, age, medical, hours) are the new ones. `at-renewal`: everything
 * stays as it was until the person renews. `at-once`: their end is counted anew under the new validity from
 * the date the rules begin; nothing before that date changes.
 */
export const GIVEN_CERTIFICATES = ['keep', 'at-renewal', 'at-once'] as const;
export type GivenCertificates = (typeof GIVEN_CERTIFICATES)[number];

/** Rules from a date on. */
export interface RulesEntry {
  from: PlainDate;
  rules: RuleSet;
  given: GivenCertificates;
}

/**
 * The rules of one site and class through time, oldest first. The first entry holds for all time before it
 * too.
 */
export type RulesHistory = readonly [RulesEntry, ...RulesEntry[]];

/**
 * A rule set as somebody made it: for the whole organisation (both null), a site, a class, or a class at a
 * site. Null rules lift an override.
 */
export interface ScopedRules {
  site: string | null;
  classId: string | null;
  from: PlainDate;
  rules: RuleSet | null;
  given: GivenCertificates;
}

const BEGINNING: PlainDate = '1900-01-01';

/** One rule set for all time. */
export function constantRules(rules: RuleSet): RulesHistory {
  return [{ from: BEGINNING, rules, given: 'keep' }];
}

/**
 * The rules that hold for a site and class through time, out of everything that was ever set (in the order it
 * was set; of two with one scope and date the later holds). The nearest scope decides: class at site, then
 * class, then site, then the organisation.
 */
export function rulesHistory(set: readonly ScopedRules[], site: string, classId: string): RulesHistory {
  const applying = set.filter(
    (each) =>
      (each.site === null || each.site === site) && (each.classId === null || each.classId === classId),
  );
  const nearness = (each: ScopedRules) => (each.classId === null ? 0 : 2) + (each.site === null ? 0 : 1);
  const dates = [...new Set(applying.map((each) => each.from))].sort();
  const entries: [RulesEntry, ...RulesEntry[]] = [{ from: BEGINNING, rules: DEFAULT_RULES, given: 'keep' }];
  for (const from of dates) {
    let deciding: ScopedRules | null = null;
    for (const level of [3, 2, 1, 0]) {
      const latest = applying
        .filter((each) => nearness(each) === level && each.from <= from)
        .reduce<ScopedRules | null>(laterOf, null);
      if (latest === null || latest.rules === null) continue;
      deciding = latest;
      break;
    }
    const rules = deciding?.rules ?? DEFAULT_RULES;
    if (rules === entries.at(-1)!.rules) continue;
    // Lifting an override says by itself what becomes of certificates given under it.
    const begun =
      deciding?.from === from
        ? deciding
        : applying.findLast((each) => each.from === from && each.rules === null);
    entries.push({ from, rules, given: begun?.given ?? 'keep' });
  }
  return entries;
}

function laterOf(one: ScopedRules | null, other: ScopedRules): ScopedRules {
  return one === null || other.from >= one.from ? other : one;
}

/** The rules in force on a date. */
export function rulesOn(history: RulesHistory, on: PlainDate): RuleSet {
  return (history.findLast((each) => each.from <= on) ?? history[0]).rules;
}
