import {
  agreementTable,
  cohenKappa,
  cohenKappaInterval,
  type Interval,
  type IntraclassCorrelations,
  intraclassCorrelations,
  type IntraclassIntervals,
  intraclassIntervals,
  mean,
  meanInterval,
  wilsonInterval,
} from '../statistics';

/** A criterion of the round that everybody scored, with what the key gives for it: a credit of 0 to 1. */
export interface CalibrationCriterion {
  id: string;
  section: string;
  key: number;
}

/** What one evaluator gave, a credit of 0 to 1 a criterion in the same order; null where they gave none. */
export interface EvaluatorScores {
  /** Their name, as the sentences have it. */
  evaluator: string;
  credits: readonly (number | null)[];
}

/** How an evaluator stands to the key. */
export interface EvaluatorCalibration {
  evaluator: string;
  /** Criteria scored. */
  n: number;
  /** Mean of the credit given less that of the key: above nothing is mild, below is severe; null for no criteria. */
  severity: number | null;
  interval: Interval | null;
  /** Criteria scored just as the key has them. */
  exact: number;
  exactInterval: Interval | null;
  /** Linear weighted kappa with the key, over the credits that occur. */
  kappa: number | null;
  kappaInterval: Interval | null;
  /** Sections on which they are mildest and most severe, where their interval there leaves out nothing. */
  apart: { section: string; severity: number }[];
}

/** How the evaluators agree on a criterion. */
export interface CriterionAgreement {
  id: string;
  section: string;
  /** How many scored it, and the share of them that gave what most gave. */
  n: number;
  agreed: number;
  /** Mean of what was given less the key. */
  severity: number;
}

export interface Calibration {
  evaluators: EvaluatorCalibration[];
  /** The least agreed first. */
  criteria: CriterionAgreement[];
  /** Over the criteria that everybody scored; null for fewer than two evaluators or criteria. */
  icc: IntraclassCorrelations | null;
  iccIntervals: IntraclassIntervals | null;
  says: string[];
}

/** Criteria from which on an evaluator's severity is spoken of. */
const LEAST_CRITERIA = 8;
/** Criteria of a section from which on a difference in it is spoken of. */
const LEAST_OF_SECTION = 4;

/**
 * How evaluators who scored the same round stand to its key and to each other: severity as the mean signed difference
 * with Student's interval, agreement with the key (weighted kappa) and among themselves (the intraclass correlations of
 * Shrout and Fleiss 1979), and where they are apart. Throws RangeError where somebody's credits are not one a criterion.
 */
export function calibrate(
  criteria: readonly CalibrationCriterion[],
  scores: readonly EvaluatorScores[],
): Calibration {
  for (const each of scores)
    if (each.credits.length !== criteria.length)
      throw new RangeError(
        `${each.evaluator} has ${each.credits.length} credits for ${criteria.length} criteria`,
      );
  const levels = [
    ...new Set([
      ...criteria.map((each) => each.key),
      ...scores.flatMap((each) => each.credits.filter((credit) => credit !== null)),
    ]),
  ].sort((a, b) => a - b);
  const evaluators = scores.map((each) => evaluatorOf(criteria, each, levels));
  const complete = criteria
    .map((_, i) => scores.map((each) => each.credits[i] ?? null))
    .filter((row): row is number[] => row.length > 1 && row.every((each) => each !== null));
  const icc = complete.length > 1 ? intraclassCorrelations(complete) : null;
  return {
    evaluators,
    criteria: criteria
      .flatMap((each, i) =>
        agreementOn(
          each,
          scores.map((one) => one.credits[i] ?? null),
        ),
      )
      .sort((a, b) => a.agreed - b.agreed || Math.abs(b.severity) - Math.abs(a.severity)),
    icc: icc && Number.isFinite(icc.icc21) ? icc : null,
    iccIntervals: complete.length > 1 ? intraclassIntervals(complete) : null,
    says: words(evaluators, icc, complete.length),
  };
}

function evaluatorOf(
  criteria: readonly CalibrationCriterion[],
  { evaluator, credits }: EvaluatorScores,
  levels: readonly number[],
): EvaluatorCalibration {
  const scored = criteria.flatMap((each, i) => {
    const given = credits[i] ?? null;
    return given === null ? [] : [{ ...each, given, apart: given - each.key }];
  });
  const n = scored.length;
  const exact = scored.filter((each) => each.apart === 0).length;
  const table = agreementTable(
    scored.map((each) => each.key),
    scored.map((each) => each.given),
    levels,
  );
  const sections = [...new Set(scored.map((each) => each.section))];
  return {
    evaluator,
    n,
    severity: n === 0 ? null : mean(scored.map((each) => each.apart)),
    interval: meanInterval(scored.map((each) => each.apart)),
    exact,
    exactInterval: n === 0 ? null : wilsonInterval(exact, n),
    kappa: cohenKappa(table, 'linear').kappa,
    kappaInterval: n < 2 ? null : cohenKappaInterval(table, 'linear'),
    apart: sections
      .flatMap((section) => {
        const own = scored.filter((each) => each.section === section).map((each) => each.apart);
        const range = own.length < LEAST_OF_SECTION ? null : meanInterval(own);
        return range && (range.low > 0 || range.high < 0) ? [{ section, severity: mean(own) }] : [];
      })
      .sort((a, b) => Math.abs(b.severity) - Math.abs(a.severity)),
  };
}

function agreementOn(
  { id, section, key }: CalibrationCriterion,
  given: readonly (number | null)[],
): CriterionAgreement[] {
  const credits = given.filter((each): each is number => each !== null);
  if (credits.length === 0) return [];
  const most = Math.max(...credits.map((each) => credits.filter((one) => one === each).length));
  return [
    {
      id,
      section,
      n: credits.length,
      agreed: most / credits.length,
      severity: mean(credits) - key,
    },
  ];
}

/** An evaluator's severity in words, for so many criteria. */
export function severityWords({ n, severity, interval }: EvaluatorCalibration): string {
  if (severity === null || interval === null || n < LEAST_CRITERIA)
    return `${n} ${n === 1 ? 'criterion is' : 'criteria are'} too few to say whether they are mild or severe.`;
  const points = (credit: number) => `${Math.abs(100 * credit).toFixed(0)} points of 100`;
  if (interval.low > 0) return `Mild: gives ${points(severity)} more than the key.`;
  if (interval.high < 0) return `Severe: gives ${points(severity)} less than the key.`;
  return `Neither mild nor severe, as far as ${n} criteria tell.`;
}

function words(
  evaluators: readonly EvaluatorCalibration[],
  icc: IntraclassCorrelations | null,
  criteria: number,
): string[] {
  const told = (apart: (interval: Interval) => boolean) =>
    evaluators
      .filter((each) => each.n >= LEAST_CRITERIA && each.interval !== null && apart(each.interval))
      .map((each) => each.evaluator);
  const mild = told((interval) => interval.low > 0);
  const severe = told((interval) => interval.high < 0);
  const said =
    mild.length + severe.length === 0
      ? ['Nobody is told apart from the key as mild or severe.']
      : [
          ...(mild.length > 0 ? [`Mild, beyond what chance explains: ${mild.join(', ')}.`] : []),
          ...(severe.length > 0 ? [`Severe, beyond what chance explains: ${severe.join(', ')}.`] : []),
        ];
  if (criteria < LEAST_CRITERIA || icc === null || !Number.isFinite(icc.icc21))
    said.push('Too few criteria were scored by everybody to say how far the evaluators agree.');
  else
    said.push(
      `A score would be ${icc.icc21 >= 0.75 ? 'much' : icc.icc21 >= 0.5 ? 'somewhat' : 'little'} the same whoever gave it ` +
        `(ICC 2,1 ${icc.icc21.toFixed(2)}); 1 is wholly, 0 not at all.`,
    );
  return said;
}
