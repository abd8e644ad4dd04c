import { type EffectivePack, type Grade, GRADES, type Method, severity, faultEvidence } from '../catalogue';
import type { Evidence } from '../drawing/evidence';
import { compareWithKey, type GradingComparison } from '../grading';
import { ableMethodsOf, analyseRound, type RoundAnalysis, type RoundRecord } from '../round';
import {
  type DetectionCounts,
  type Interval,
  type Sensitivity,
  sensitivityInterval,
  sensitivityLogLinear,
  wilsonInterval,
} from '../statistics';
import { type Deal, revealingMethods } from './deal';
import { dealtCheck, dealtFault, type DrillAct, doActs, type DrillState } from './run';

/** What became of a dealt part. */
export type CaseOutcome = 'hit' | 'miss' | 'false-alarm' | 'right-sound';

export interface CaseResult {
  checkpoint: string;
  part: string;
  station: string;
  /** Id and title of the fault or lookalike; null where the part was plainly sound. */
  fault: { id: string; title: string } | null;
  key: Grade;
  /** Null where nothing was called. */
  called: Grade | null;
  right: boolean;
  outcome: CaseOutcome;
  /** Methods used whose reading counted. */
  used: Method[];
  /** Methods that show the fault, with what they show. */
  shownBy: { method: Method; shows: string }[];
  /** The same drawn, by the first method that has a drawing; drills of before drawings have none. */
  drawing?: Evidence | null;
  /** A method that shows it was used, and its reading counted. */
  seen: boolean;
  /** Called without any reading that counted. */
  blind: boolean;
  /** What to do about it, and why; null where it is sound without a lookalike. */
  act: string | null;
  why: string | null;
}

export interface DrillResult {
  /**
   * 0 to 100: the share of cases called with the right grade, the mean over the grades that were dealt, so that one
   * answer for all earns only what chance does.
   */
  score: number;
  /** What always saying the same earns at most. */
  chance: number;
  byGrade: { grade: Grade; cases: number; right: number }[];
  cases: CaseResult[];
  detection: DetectionCounts & {
    hitRate: number | null;
    interval: Interval | null;
    sensitivity: Sensitivity | null;
    sensitivityInterval: Interval | null;
  };
  grading: GradingComparison;
  path: RoundAnalysis['path'];
  start: RoundAnalysis['start'];
  pace: { seconds: number; floorSeconds: number; plausible: boolean; waited: number };
  /** Share of the parts called, by weight, that were examined by a method that can find one of their faults. */
  handsOn: number | null;
  /** Parts dealt of which nothing was said. */
  uncalled: number;
}

function caseResult(pack: EffectivePack, deal: Deal, state: DrillState, checkpoint: string): CaseResult {
  const check = dealtCheck(pack, deal, checkpoint);
  const fault = dealtFault(pack, deal, checkpoint);
  const key = fault?.grade ?? 'sound';
  const called = state.calls.get(checkpoint)?.grade ?? null;
  const used = [
    ...new Set(
      state.readings
        .filter((each) => each.checkpoint === checkpoint && each.counts)
        .map((each) => each.method),
    ),
  ];
  const shows = fault
    ? revealingMethods(check, fault).map((method) => ({
        method,
        shows: fault.cues
          .filter((each) => each.method === method)
          .map((each) => each.shows)
          .join(' '),
      }))
    : [];
  const alarmed = called !== null && called !== 'sound';
  const outcome: CaseOutcome =
    key === 'sound' ? (alarmed ? 'false-alarm' : 'right-sound') : alarmed ? 'hit' : 'miss';
  return {
    checkpoint,
    part: check.part,
    station: check.station,
    fault: fault && { id: fault.id, title: fault.title },
    key,
    called,
    right: called === key,
    outcome,
    used,
    shownBy: shows,
    drawing: fault && (faultEvidence(check, fault)?.evidence ?? null),
    seen: shows.some((each) => used.includes(each.method)),
    blind: called !== null && used.length === 0,
    act: fault?.do ?? null,
    why: fault?.why ?? null,
  };
}

/** The drill as a round: the whole ring is to be walked, though not every station has a part that was dealt. */
function asRound({ arrivals, calls, seconds }: DrillState): RoundRecord {
  const ms = (time: number) => Math.round(time * 1000);
  const called = [...calls];
  return {
    arrivals: arrivals.map(({ station, at }) => ({ station, at: ms(at) })),
    checks: called.map(([checkpoint, { at }]) => ({ checkpoint, result: 'done', at: ms(at) })),
    reports: called.flatMap(([checkpoint, { grade, at }]) =>
      grade === 'sound' ? [] : [{ checkpoint, fault: null, grade, prompted: false, real: false, at: ms(at) }],
    ),
    duration: ms(seconds),
  };
}

/**
 * Judges a drill from its acts: what was found, missed and wrongly called, the grades against the key, the way walked,
 * the pace and the hands-on share. `earlierStarts` are the first stations of the learner's earlier rounds in the class.
 */
export function drillResult(
  pack: EffectivePack,
  deal: Deal,
  acts: readonly DrillAct[],
  earlierStarts: readonly string[] = [],
): DrillResult {
  const state = doActs(pack, deal, acts);
  const cases = deal.cases.map((each) => caseResult(pack, deal, state, each.checkpoint));
  const byGrade = GRADES.map((grade) => {
    const own = cases.filter((each) => each.key === grade);
    return { grade, cases: own.length, right: own.filter((each) => each.right).length };
  }).filter((each) => each.cases > 0);
  const count = (outcome: CaseOutcome) => cases.filter((each) => each.outcome === outcome).length;
  const counts: DetectionCounts = {
    hits: count('hit'),
    misses: count('miss'),
    falseAlarms: count('false-alarm'),
    correctRejections: count('right-sound'),
  };
  const signals = counts.hits + counts.misses;
  const both = signals > 0 && counts.falseAlarms + counts.correctRejections > 0;
  const planted = deal.cases.flatMap((each) => each.fault ?? []);
  const analysis = analyseRound(pack, asRound(state), planted, earlierStarts);
  return {
    score: (100 * byGrade.reduce((sum, each) => sum + each.right / each.cases, 0)) / byGrade.length,
    chance: 100 / byGrade.length,
    byGrade,
    cases,
    detection: {
      ...counts,
      hitRate: signals === 0 ? null : counts.hits / signals,
      interval: signals === 0 ? null : wilsonInterval(counts.hits, signals),
      sensitivity: both ? sensitivityLogLinear(counts) : null,
      sensitivityInterval: both ? sensitivityInterval(counts) : null,
    },
    grading: compareWithKey(
      cases.flatMap(({ checkpoint, called, key }) =>
        called === null ? [] : [{ id: checkpoint, given: called, key }],
      ),
    ),
    path: analysis.path,
    start: analysis.start,
    pace: {
      seconds: state.seconds,
      floorSeconds: analysis.pace.floorSeconds,
      // Seconds are kept to the millisecond.
      plausible: state.calls.size === 0 || state.seconds >= analysis.pace.floorSeconds - 0.01,
      waited: state.waited,
    },
    handsOn: handsOnShare(pack, cases),
    uncalled: cases.filter((each) => each.called === null).length,
  };
}

function handsOnShare(pack: EffectivePack, cases: readonly CaseResult[]): number | null {
  let weight = 0;
  let earned = 0;
  for (const { checkpoint, called, used } of cases) {
    if (called === null) continue;
    const check = pack.checkpoints.find((each) => each.id === checkpoint)!;
    const able = ableMethodsOf(pack, check);
    weight += check.weight;
    if (used.some((each) => able.includes(each))) earned += check.weight;
  }
  return weight === 0 ? null : earned / weight;
}

/** What a class asks of a drill before an assessment; met on two separate days it makes ready. */
export interface DrillCriterion {
  /** Least score, 0 to 100. */
  score: number;
}

/** On so many separate days the criterion must be met before an assessment (common practice). */
export const DAYS_TO_BE_READY = 2;

/** The criterion where a class sets none (common practice). */
export const USUAL_CRITERION: DrillCriterion = { score: 80 };

/** What a class asks of a drill before an assessment. */
export function drillCriterion(pack: Pick<EffectivePack, 'teaching'>): DrillCriterion {
  return pack.teaching.readiness ?? USUAL_CRITERION;
}

/** Why a drill does not meet the criterion, in words; empty where it does. Only a round over the whole ring counts. */
export function unmetCriterion(
  deal: Pick<Deal, 'form'>,
  result: DrillResult,
  criterion: DrillCriterion,
): string[] {
  const grave = result.cases.filter(
    (each) => each.key === 'stop' && (each.called === null || severity(each.called) <= severity('watch')),
  );
  if (deal.form !== 'round') return ['Only a drill over the whole round counts.'];
  return [
    ...(result.score < criterion.score ? [`The score is under ${criterion.score}.`] : []),
    ...(grave.length > 0
      ? [`${grave.length === 1 ? 'One stop was' : `${grave.length} stops were`} missed or graded too low.`]
      : []),
    ...(result.path.closed ? [] : ['The ring was not closed.']),
    ...(result.pace.plausible ? [] : ['It was faster than the checks can be made.']),
  ];
}
