import { type Grade, GRADES, severity } from '../catalogue';
import { compareWithKey, comparisonWords, type GradingComparison } from '../grading';
import { bootstrapInterval, type Interval, krippendorffAlpha } from '../statistics';

/** How a room graded one finding: what each who has a place said, and what was counted by show of cards. */
export interface RoomFinding {
  key: Grade;
  answers: readonly { who: string; grade: Grade }[];
  /** Counts in the order of the grades; null where no cards were shown. */
  cards: readonly number[] | null;
}

/** A finding that split the room. */
export interface SplitFinding {
  n: number;
  /** How many said each grade, in the order of the grades. */
  spread: number[];
  /** Share of the room that did not say what most did. */
  apart: number;
}

/** What a room of people grading the same findings shows. */
export interface RoomReport {
  /** Everybody's grades against the key. */
  whole: GradingComparison;
  perPerson: { who: string; comparison: GradingComparison }[];
  /** Krippendorff's alpha of the room, ordinal, whatever the key says; null where nothing can be said. */
  alpha: number | null;
  /** By drawing the findings anew. */
  alphaInterval: Interval | null;
  /** Findings on which less than two thirds agreed, the most divided first. */
  split: SplitFinding[];
  says: string[];
}

/** Answers in a finding from which on a room can be split. */
const LEAST_ANSWERS = 4;
const AGREED = 2 / 3;
/** Findings from which on the agreement of a room is spoken of. */
const LEAST_FINDINGS = 4;
/** The interval is the same whenever it is asked for. */
const SEED = 1971;

/** How many said each grade, in the order of the grades, cards included. */
export function spreadOf({ answers, cards }: Pick<RoomFinding, 'answers' | 'cards'>): number[] {
  return GRADES.map((grade, i) => answers.filter((each) => each.grade === grade).length + (cards?.[i] ?? 0));
}

/** The values of a finding as a coder's unit: the rank of every grade that was said. */
const unitOf = (finding: RoomFinding): number[] =>
  spreadOf(finding).flatMap((count, grade) => Array.from({ length: count }, () => grade));

const ordinalAlpha = (units: readonly number[][]) => krippendorffAlpha(units, 'ordinal').alpha;

/**
 * Everybody against the key, each by themselves, and the room among itself. Findings that nobody graded say nothing.
 * Source of the agreement of the room: K. Krippendorff, Computing Krippendorff's Alpha-Reliability (2011); its interval
 * by drawing the findings anew (A. F. Hayes and K. Krippendorff, Communication Methods and Measures 1, 2007).
 */
export function roomReport(findings: readonly RoomFinding[]): RoomReport {
  const pairsOf = (finding: RoomFinding, n: number) =>
    unitOf(finding).map((grade, i) => ({ id: `${n} ${i}`, given: GRADES[grade]!, key: finding.key }));
  const whole = compareWithKey(findings.flatMap(pairsOf));
  const people = [...new Set(findings.flatMap((each) => each.answers.map(({ who }) => who)))];
  const perPerson = people.map((who) => ({
    who,
    comparison: compareWithKey(
      findings.flatMap((each, n) =>
        each.answers
          .filter((answer) => answer.who === who)
          .map(({ grade }) => ({ id: String(n), given: grade, key: each.key })),
      ),
    ),
  }));
  const units = findings.map(unitOf).filter((each) => each.length > 1);
  const alpha = units.length > 1 ? ordinalAlpha(units) : null;
  const alphaInterval = alpha === null ? null : bootstrapInterval(units, ordinalAlpha, SEED);
  const split = findings
    .map((each, n) => {
      const spread = spreadOf(each);
      const total = spread.reduce((sum, count) => sum + count, 0);
      return { n, spread, total, apart: total === 0 ? 0 : 1 - Math.max(...spread) / total };
    })
    .filter((each) => each.total >= LEAST_ANSWERS && each.apart > 1 - AGREED)
    .sort((a, b) => b.apart - a.apart || a.n - b.n)
    .map(({ n, spread, apart }) => ({ n, spread, apart }));
  return {
    whole,
    perPerson,
    alpha,
    alphaInterval,
    split,
    says: [...comparisonWords(whole), ...roomWords(units.length, alpha, alphaInterval, findings)],
  };
}

function roomWords(
  graded: number,
  alpha: number | null,
  interval: Interval | null,
  findings: readonly RoomFinding[],
): string[] {
  if (graded === 0) return [];
  if (graded < LEAST_FINDINGS)
    return [
      `${graded} ${graded === 1 ? 'finding is' : 'findings are'} too few to say how far the room agrees.`,
    ];
  if (alpha === null)
    return ['Everybody said the same of everything, so agreement beyond chance cannot be said.'];
  const range = interval ? `, between ${interval.low.toFixed(2)} and ${interval.high.toFixed(2)}` : '';
  const against = findings.filter((each) => mostSaid(each) !== null && mostSaid(each) !== each.key);
  const low = against.filter((each) => severity(mostSaid(each)!) < severity(each.key)).length;
  return [
    `The room agrees with itself (Krippendorff's alpha) ${alpha.toFixed(2)}${range}; 1 is as one, 0 is chance.`,
    ...(against.length > 0
      ? [
          `Most said otherwise than the key for ${against.length} of ${graded} findings` +
            `${low > 0 ? `, ${low} of them too low` : ''}: teach these again, or look at the key.`,
        ]
      : []),
  ];
}

/** What most of a room said of a finding; null where nobody or as many said another. */
export function mostSaid(finding: Pick<RoomFinding, 'answers' | 'cards'>): Grade | null {
  const spread = spreadOf(finding);
  const most = Math.max(...spread);
  return most === 0 || spread.filter((each) => each === most).length > 1
    ? null
    : GRADES[spread.indexOf(most)]!;
}
