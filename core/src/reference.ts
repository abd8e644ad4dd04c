/**
 * Runs reference cases (values from published sources and independent libraries) against the core.
 * A case: { name, kind, inputs, expected, tolerance }. A kind that no calculation here answers is skipped
 * by name, never passed.
 */
import * as calendar from './calendar';
import { loadPeak } from './machine/loadPeak';
import * as measuring from './measuring';
import { conformance } from './procedure';
import * as statistics from './statistics';

export interface ReferenceCase {
  name: string;
  kind: string;
  inputs: Record<string, unknown>;
  expected: Record<string, unknown>;
  tolerance: number;
}

export interface ReferenceResult {
  name: string;
  kind: string;
  outcome: 'passed' | 'failed' | 'skipped';
  differences: string[];
}

// The inputs of a case are plain JSON whose shape its kind fixes.
/* eslint-disable @typescript-eslint/no-explicit-any */
type Calculation = (inputs: any) => Record<string, unknown>;

const cohen: Calculation = ({ table, weights }) => ({ ...statistics.cohenKappa(table, weights) });

const sensitivity = (value: statistics.Sensitivity | null) =>
  value && {
    d_prime: value.dPrime,
    criterion_c: value.criterion,
    ln_beta: value.lnBeta,
    beta: value.beta,
    auc: value.auc,
    hit_rate: value.hitRate,
    false_alarm_rate: value.falseAlarmRate,
  };

const counts = (each: any): statistics.DetectionCounts => ({
  hits: each.hits,
  misses: each.misses,
  falseAlarms: each.false_alarms,
  correctRejections: each.correct_rejections,
});

const hook = (rule: measuring.HookRule, i: any) => {
  const r = measuring.hookThroat(rule, i.original_mm, i.measured_mm, i.twist_degrees);
  return { increase_percent: r.increasePercent, increase_mm: r.increase, remove: r.remove };
};

const conforms: Calculation = ({ steps, before, trace }) => {
  const c = conformance(steps, before, trace);
  return {
    linear_extensions: c.linearExtensions,
    cost: c.cost,
    skips: c.skips,
    extras: c.extras,
    fitness: c.fitness,
    inverted_pairs: c.invertedPairs,
    inverted_pair_count: c.invertedPairs.length,
    comparable_pairs_present: c.comparablePairsPresent,
    inverted_direct_edges: c.invertedDirectEdges,
    missing: c.missing,
    repeats: c.repeats,
    unknown: c.unknown,
    conforms: c.conforms,
    kendall_tau: c.kendallTau,
  };
};

/** Every order of a list. */
const orders = <T>(list: readonly T[]): T[][] =>
  list.length < 2
    ? [[...list]]
    : list.flatMap((each, i) => orders(list.filter((_, k) => k !== i)).map((rest) => [each, ...rest]));

/** Loads put on a generator one after the other and all at once, each order run through the machine at the desk. */
const loadSteps: Calculation = ({ rated_kw, loads }) => {
  const all = loads.map((each: any) => ({ runs: each.running_kw, starts: each.starting_kw }));
  const peaks = orders(all).map((order: any) => loadPeak(order, rated_kw));
  // What takes most more to start than to run comes first.
  const best = [...loads].sort(
    (a: any, b: any) => b.starting_kw - b.running_kw - (a.starting_kw - a.running_kw),
  );
  const own = loadPeak(
    best.map((each: any) => ({ runs: each.running_kw, starts: each.starting_kw })),
    rated_kw,
  );
  const least = Math.min(...peaks);
  return {
    running_total_kw: all.reduce((sum: number, each: any) => sum + each.runs, 0),
    min_peak_kw: least,
    worst_peak_kw: Math.max(...peaks),
    all_at_once_kw: loadPeak(all, rated_kw, { together: true }),
    feasible: least <= rated_kw,
    one_optimal_order: own === least ? best.map((each: any) => each.name) : null,
  };
};

const calculations: Record<string, Calculation> = {
  generator_load_steps: loadSteps,
  wilson: ({ x, n, confidence }) => ({ ...statistics.wilsonInterval(x, n, confidence) }),
  wilson_cc: ({ x, n, confidence }) => ({ ...statistics.wilsonIntervalCorrected(x, n, confidence) }),
  clopper_pearson: ({ x, n, confidence }) => ({ ...statistics.clopperPearsonInterval(x, n, confidence) }),
  binomial_tail: ({ n, p, k, tail }) => ({ probability: statistics.binomialTail(n, p, k, tail) }),
  rule_of_three: ({ n, confidence }) => {
    const { approxUpper, exactUpper } = statistics.ruleOfThree(n, confidence);
    return { approx_upper: approxUpper, exact_upper: exactUpper };
  },
  zero_failure_sample_size: ({ max_failure_rate, confidence }) => ({
    n: statistics.zeroFailureSampleSize(max_failure_rate, confidence),
  }),
  beta_posterior: (i) => {
    const { probAbove, ...rest } = statistics.betaPosterior({
      ...i,
      priorAlpha: i.prior_alpha,
      priorBeta: i.prior_beta,
    });
    return { ...rest, prob_above: probAbove };
  },
  rates: ({ hit_rate, false_alarm_rate }) =>
    sensitivity(statistics.sensitivityFromRates(hit_rate, false_alarm_rate))!,
  loglinear: (i) => sensitivity(statistics.sensitivityLogLinear(counts(i)))!,
  one_over_2n: (i) => sensitivity(statistics.sensitivityOneOver2N(counts(i))) ?? {},
  pooled: ({ inspections }) => {
    const each = inspections.map(
      (one: any) => statistics.sensitivityLogLinear(counts(one)).dPrime,
    ) as number[];
    const pooled = statistics.sensitivityLogLinear(statistics.poolCounts(inspections.map(counts)));
    return {
      pooled_d_prime: pooled.dPrime,
      pooled_criterion_c: pooled.criterion,
      per_inspection_d_prime: each,
      mean_d_prime: each.reduce((sum, d) => sum + d, 0) / each.length,
    };
  },
  cohen_kappa_table: cohen,
  cohen_kappa_degenerate: cohen,
  cohen_kappa_custom: ({ table, agreement_weights, disagreement_weights }) => ({
    kappa: agreement_weights
      ? statistics.cohenKappa(table, agreement_weights).kappa
      : statistics.cohenKappaDisagreement(table, disagreement_weights),
  }),
  cohen_kappa_ci: ({ table, weights, confidence }) => {
    const interval = statistics.cohenKappaInterval(table, weights, confidence)!;
    return {
      kappa: interval.kappa,
      se: interval.se,
      ci95_low: interval.low,
      ci95_high: interval.high,
      se_null: interval.seNull,
      z: interval.z,
    };
  },
  cohen_kappa_raw: ({ rater_a, rater_b, categories, weights }) => ({
    kappa: statistics.cohenKappa(statistics.agreementTable(rater_a, rater_b, categories), weights).kappa,
  }),
  fleiss_kappa: ({ counts: table }) => statistics.fleissKappa(table),
  fleiss_kappa_degenerate: ({ counts: table }) => statistics.fleissKappa(table),
  icc: ({ ratings }) => {
    const r = statistics.intraclassCorrelations(ratings);
    return {
      icc_1_1: r.icc11,
      icc_2_1: r.icc21,
      icc_3_1: r.icc31,
      icc_1_k: r.icc1k,
      icc_2_k: r.icc2k,
      icc_3_k: r.icc3k,
      bms: r.bms,
      wms: r.wms,
      jms: r.jms,
      ems: r.ems,
    };
  },
  krippendorff_alpha: ({ units, level }) => {
    const r = statistics.krippendorffAlpha(units, level);
    return { alpha: r.alpha, pairable_values: r.pairableValues, pairable_units: r.pairableUnits };
  },
  gwet_ac1: ({ units, categories }) => statistics.gwetAc1(units, categories),
  fork_heel_wear: ({ original_mm, measured_mm }) => {
    const r = measuring.forkHeelWear(original_mm, measured_mm);
    return {
      wear_percent: r.wearPercent,
      withdraw: r.withdraw,
      section_strength_ratio: r.sectionStrengthRatio,
    };
  },
  chain_elongation: ({ pitch_mm, pitches, measured_mm }) => {
    const r = measuring.chainElongation(pitch_mm, pitches, measured_mm);
    return { nominal_mm: r.nominal, elongation_percent: r.elongationPercent, replace: r.replace };
  },
  hook_throat_osha: (i) => hook('osha', i),
  hook_throat_asme: (i) => hook('asme', i),
  wire_rope_1926_1413: (i) => {
    const found: measuring.RopeFindings =
      i.rope === 'running'
        ? { rope: i.rope, inOneLay: i.broken_in_one_lay, inOneStrand: i.broken_in_one_strand_one_lay }
        : i.rope === 'standing'
          ? { rope: i.rope, beyondEnds: i.broken_in_one_lay_beyond_ends, atEnd: i.broken_at_end_connection }
          : {
              rope: i.rope,
              inSixDiameters: i.broken_in_6_diameters,
              inThirtyDiameters: i.broken_in_30_diameters,
            };
    const r = measuring.ropeWear(found, i.nominal_mm, i.measured_mm);
    return { diameter_reduction_percent: r.diameterReductionPercent, reasons: r.reasons, remove: r.remove };
  },
  wire_rope_sling_1910_184: (i) => ({
    remove: measuring.ropeSlingBroken(i.broken_in_one_lay, i.broken_in_one_strand_one_lay),
  }),
  item_statistics: ({ responses }) => {
    const items = statistics.itemStatistics(responses);
    return {
      difficulty: items.map((each) => each.difficulty),
      point_biserial: items.map((each) => each.pointBiserial),
      corrected_point_biserial: items.map((each) => each.correctedPointBiserial),
    };
  },
  kr20: ({ responses }) => {
    const r = statistics.kuderRichardson(responses);
    return {
      kr20: r.kr20,
      kr21: r.kr21,
      mean: r.mean,
      variance_population: r.variance,
      sem_population: r.sem,
    };
  },
  cronbach_alpha: ({ scores }) => ({ alpha: statistics.cronbachAlpha(scores) }),
  upper_lower: ({ responses, fraction }) => {
    const r = statistics.upperLower(responses, fraction);
    return { group_size: r.groupSize, d: r.d };
  },
  binomial_error_consistency: ({ true_proportions, n_items, cut_score }) => {
    const r = statistics.binomialConsistency(true_proportions, n_items, cut_score);
    return {
      pass_probability: r.passProbability,
      consistency: r.consistency,
      group_consistency: r.groupConsistency,
    };
  },
  subkoviak: ({ scores, n_items, cut_score, reliability }) => {
    const r = statistics.subkoviak(scores, n_items, cut_score, reliability);
    return {
      regressed_proportion: r.regressed,
      pass_probability: r.passProbability,
      p0: r.p0,
      chance: r.chance,
      kappa: r.kappa,
    };
  },
  huynh: ({ n_items, cut_score, mean, kr21 }) => {
    const r = statistics.huynh(n_items, cut_score, mean, kr21);
    return {
      alpha: r.alpha,
      beta: r.beta,
      pass_rate: r.passRate,
      p0: r.p0,
      p_chance: r.chance,
      kappa: r.kappa,
    };
  },
  livingston_k2: ({ mean, variance, reliability, cut_score }) => ({
    k2: statistics.livingston(mean, variance, reliability, cut_score),
  }),
  angoff: ({ ratings }) => {
    const r = statistics.angoff(ratings);
    return {
      judge_sums: r.judgeSums,
      mean_cut: r.meanCut,
      median_cut: r.medianCut,
      sd_between_judges: r.spread,
      se_of_cut: r.standardError,
      cut_percent: r.cutPercent,
      rounded_up_cut: r.roundedUp,
      trimmed_mean_cut: r.trimmedMean,
      item_means: r.itemMeans,
    };
  },
  edge: conforms,
  named: conforms,
  random: conforms,
  total_order: conforms,
  add_months: ({ date, months }) => ({ date: calendar.addMonths(date, months) }),
  recurrence: ({ start, every_months, count }) => calendar.recurrence(start, every_months, count),
  interval_years: ({ date, years }) => {
    const anniversary = calendar.addMonths(date, 12 * years);
    return {
      anniversary,
      end_of_month_expiry: calendar.endOfMonth(anniversary),
      last_valid_day_if_day_before: calendar.addDays(anniversary, -1),
      days_in_interval: calendar.daysBetween(date, anniversary),
    };
  },
  end_of_month: ({ date }) => ({ date: calendar.endOfMonth(date) }),
  leap_year: ({ year }) => ({
    leap: calendar.isLeapYear(year),
    days: calendar.isLeapYear(year) ? 366 : 365,
    iso_weeks: calendar.isoWeeksInYear(year),
  }),
  iso_week: ({ date }) => {
    const w = calendar.isoWeek(date);
    return {
      iso_year: w.isoYear,
      iso_week: w.isoWeek,
      weekday: w.weekday,
      text: w.text,
      day_of_year: w.dayOfYear,
    };
  },
  days_between: ({ from, to }) => ({ days: calendar.daysBetween(from, to) }),
  days_until_local: ({ now, time_zone, due_date }) => {
    const r = calendar.daysUntilLocal(now, time_zone, due_date);
    return { local_date: r.localDate, days_until: r.daysUntil, overdue: r.overdue };
  },
  elapsed_over_dst: ({ from_local, to_local, time_zone }) => {
    const r = calendar.elapsedHours(from_local, to_local, time_zone);
    return {
      from_utc: r.fromUtc,
      to_utc: r.toUtc,
      elapsed_hours: r.elapsedHours,
      calendar_days: r.calendarDays,
    };
  },
};
/* eslint-enable @typescript-eslint/no-explicit-any */

/** Where `actual` departs from `expected` by more than the tolerance; an empty list means agreement. */
function differences(expected: unknown, actual: unknown, tolerance: number, path: string): string[] {
  if (typeof expected === 'number') {
    if (typeof actual === 'number' && Math.abs(actual - expected) <= tolerance) return [];
    return [`${path}: expected ${expected}, got ${String(actual)}`];
  }
  if (Array.isArray(expected)) {
    if (!Array.isArray(actual) || actual.length !== expected.length)
      return [`${path}: expected ${JSON.stringify(expected)}, got ${JSON.stringify(actual)}`];
    return expected.flatMap((each, i) => differences(each, actual[i], tolerance, `${path}[${i}]`));
  }
  if (expected !== null && typeof expected === 'object')
    return Object.entries(expected).flatMap(([key, each]) =>
      differences(
        each,
        (actual as Record<string, unknown> | undefined)?.[key],
        tolerance,
        path ? `${path}.${key}` : key,
      ),
    );
  return Object.is(expected, actual)
    ? []
    : [`${path}: expected ${JSON.stringify(expected)}, got ${JSON.stringify(actual)}`];
}

/** Runs one case. A calculation that throws has failed. */
export function runReferenceCase(each: ReferenceCase): ReferenceResult {
  const calculation = Object.hasOwn(calculations, each.kind) ? calculations[each.kind] : undefined;
  if (!calculation)
    return {
      name: each.name,
      kind: each.kind,
      outcome: 'skipped',
      differences: [`kind "${each.kind}" is not built`],
    };
  let found: string[];
  try {
    found = differences(each.expected, calculation(each.inputs), each.tolerance, '');
  } catch (error) {
    found = [`threw ${error instanceof Error ? error.message : String(error)}`];
  }
  return {
    name: each.name,
    kind: each.kind,
    outcome: found.length === 0 ? 'passed' : 'failed',
    differences: found,
  };
}
