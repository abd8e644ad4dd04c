import type { Checkpoint, EffectivePack } from '../catalogue';
import { compareWithKey, type GradingComparison } from '../grading';
import { analyseRound, type RoundAnalysis } from '../round';
import { creditOf, type CriterionResult, scoredByTrainer } from './credit';
import { type Decided, OVERRIDE_KINDS, type OverrideKind } from './events';
import { observedRound } from './observedRound';
import { type EvaluationRecord, stillPlanted } from './record';

export interface SectionResult {
  id: string;
  title: string;
  /** Per cent, null when nothing in it applies or is scored. */
  score: number | null;
  minimum: number | null;
  weight: number;
  criteria: CriterionResult[];
}

/** One reason for an outcome. `weighs` says which way it pulls. */
export interface Reason {
  weighs: 'for' | 'against' | 'note';
  text: string;
}

/**
 * Outcome of an evaluation: blocked while a planted fault is still in the machine, incomplete while
 * something is unscored.
 */
export type Outcome = 'blocked' | 'incomplete' | 'competent' | 'not-yet' | 'stopped';

export interface Appraisal {
  analysis: RoundAnalysis;
  grading: GradingComparison;
  sections: SectionResult[];
  /** Weighted per cent, rounded to two decimals; null when nothing is scored. */
  score: number | null;
  /** Standard error of the score over criteria, percentage points. */
  standardError: number | null;
  nearCut: boolean;
  outcome: Outcome;
  reasons: Reason[];
  stillPlanted: string[];
  unscored: string[];
}

const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;

/**
 * Appraises an evaluation: the round's analysis, grading against the key, the sheet's score and the outcome
 * with every reason.
 * Pure, so tablet and server reach the same numbers. Score = sum(weight x credit) / sum(weight of
 * applicable) x 100.
 */
export function appraise(
  pack: EffectivePack,
  record: EvaluationRecord,
  earlierStarts: readonly string[],
): Appraisal {
  const round = observedRound(pack, record);
  const analysis = analyseRound(pack, round, record.planted, earlierStarts);
  const grading = compareWithKey(
    analysis.detection.planted.flatMap((each) =>
      each.found === 'found' && each.grade !== null
        ? [{ id: each.fault.id, given: each.grade, key: each.key }]
        : [],
    ),
  );
  const sections = pack.sheet.sections.map((section): SectionResult => {
    const criteria = section.criteria.map((criterion) =>
      creditOf(criterion, section.id, { pack, record, round, analysis }),
    );
    return {
      id: section.id,
      title: section.title,
      minimum: section.minimum ?? null,
      criteria,
      ...weighted(criteria),
    };
  });
  const all = sections.flatMap((each) => each.criteria);
  const { score } = weighted(all);
  const standardError = errorOfScore(all);
  const unscored = all.filter((each) => each.status === 'unscored').map((each) => each.criterion.id);
  const planted = stillPlanted(record);

  const reasons: Reason[] = [];
  const against = (text: string) => reasons.push({ weighs: 'against', text });
  const note = (text: string) => reasons.push({ weighs: 'note', text });

  for (const each of record.criticalErrors) {
    const says = pack.sheet.criticalErrors.find((e) => e.id === each.error)?.says ?? each.error;
    against(`Critical error: ${says}${each.words ? ` (${each.words})` : ''}`);
  }
  const failedCritical = all.filter(
    (each) => each.criterion.critical && (each.credit === 0 || each.critical),
  );
  for (const each of failedCritical)
    against(`Critical criterion not met: ${each.criterion.says}${each.critical ? ` (${each.because})` : ''}`);
  for (const each of analysis.detection.planted.filter((p) => p.criticalMiss))
    against(
      each.found === 'found'
        ? `A planted stop was called ${each.grade}: ${faultName(each.fault)}`
        : 'A planted stop was ' +
            `${each.found === 'missed' ? 'missed' : 'found only when prompted'}: ` +
            `${faultName(each.fault)}`,
    );
  for (const section of sections)
    if (section.minimum !== null && section.score !== null && section.score < section.minimum)
      against(`${section.title} scored ${section.score} %, below its minimum of ${section.minimum} %`);
  if (score !== null && score < pack.sheet.cut)
    against(`Score ${score} % is below the cut of ${pack.sheet.cut} %`);
  const counted = all.filter(
    (each) => scoredByTrainer(each.criterion, record) || each.status !== 'not-applicable',
  );
  const total = counted.reduce((sum, each) => sum + each.criterion.weight, 0);
  const notApplicable = counted
    .filter((each) => each.status === 'not-applicable')
    .reduce((sum, each) => sum + each.criterion.weight, 0);
  const tooMuchLeftOut = total > 0 && notApplicable / total > pack.sheet.notApplicableMax + 1e-9;
  if (tooMuchLeftOut)
    against(
      `Not applicable covers ${percent(notApplicable / total)} of the weight; at most ` +
        `${percent(pack.sheet.notApplicableMax)} may be left out`,
    );

  if (pack.format > 1 && record.endedAt !== null) {
    if (!analysis.path.closed) against(openRingWords(analysis));
    if (analysis.pace.plausible === false) against(hurryWords(analysis));
  }

  const failing = reasons.length > 0;
  const omitted = analysis.coverage.criticalOmissions;
  if (pack.format > 1 && omitted.length > 0)
    reasons.unshift({ weighs: 'note', text: omissionWords(omitted) });
  if (!failing && score !== null)
    reasons.push({
      weighs: 'for',
      text:
        `Score ${score} % reaches the cut of ${pack.sheet.cut} %, every section minimum is ` +
        'met and there was no critical error',
    });
  for (const each of analysis.detection.planted)
    if (!each.criticalMiss) {
      if (each.found !== 'found')
        note(
          `${each.found === 'missed' ? 'Missed' : 'Found only when prompted'}: ` +
            `${faultName(each.fault)} (${each.key})`,
        );
      else if (each.grade !== each.key)
        note(`Graded ${each.grade}, the key says ${each.key}: ${faultName(each.fault)}`);
    }
  for (const each of record.corrections) note(correctionWords(pack, each));
  if (analysis.coverage.share !== null)
    note(
      `Round coverage ${percent(analysis.coverage.share)}: ${analysis.coverage.done} done, ` +
        `${analysis.coverage.prompted} prompted, ${analysis.coverage.missed} missed`,
    );
  if (pack.format === 1) {
    if (analysis.path.gaps.length > 0) note(openRingWords(analysis));
    if (analysis.pace.plausible === false) note(hurryWords(analysis));
  } else if (analysis.handsOn.blind.length > 0) note(blindWords(analysis));
  const nearCut =
    score !== null && standardError !== null && Math.abs(score - pack.sheet.cut) <= standardError;
  if (nearCut)
    note(
      `Within one standard error (${standardError!.toFixed(1)} points) of the cut: a ` +
        'second evaluator is recommended',
    );

  const outcome: Outcome =
    planted.length > 0
      ? 'blocked'
      : record.criticalErrors.length > 0
        ? 'stopped'
        : unscored.length > 0 || record.startedAt === null || record.endedAt === null
          ? 'incomplete'
          : failing || score === null
            ? 'not-yet'
            : 'competent';
  return {
    analysis,
    grading,
    sections,
    score,
    standardError,
    nearCut,
    outcome,
    reasons,
    stillPlanted: planted,
    unscored,
  };
}

function openRingWords({ path }: RoundAnalysis): string {
  const unreached = path.gaps.flat().length;
  if (unreached === 0) return 'The ring was not closed: the round did not end where it began';
  return `The ring was not closed: ${unreached === 1 ? 'one station' : `${unreached} stations`} never reached`;
}

function hurryWords({ pace }: RoundAnalysis): string {
  return (
    `Faster than honest: ${Math.round(pace.seconds!)} s against a floor of ` +
    `${Math.round(pace.floorSeconds)} s`
  );
}

/** How many of the checks that matter most are named in a sentence. */
const NAMED = 6;

function omissionWords(omitted: readonly Checkpoint[]): string {
  const named = omitted.slice(0, NAMED).map((each) => each.part);
  const more = omitted.length > NAMED ? ` and ${omitted.length - NAMED} more` : '';
  return `Left out, and it matters most: ${named.join('; ')}${more}`;
}

function blindWords({ handsOn }: RoundAnalysis): string {
  const named = handsOn.blind.slice(0, NAMED).map((each) => `${each.checkpoint.part} (${each.method} only)`);
  const more = handsOn.blind.length > NAMED ? ` and ${handsOn.blind.length - NAMED} more` : '';
  return `Checked in a way that finds nothing there: ${named.join('; ')}${more}`;
}

const OVERRIDE_WORDS: Readonly<Record<OverrideKind, string>> = {
  'seen-otherwise': 'seen otherwise than the sheet can say',
  'sheet-does-not-fit': 'the sheet does not fit this machine or site',
  conditions: 'conditions of the day',
  machine: 'the machine itself',
  language: 'language or hearing',
  other: 'another reason',
};

/** The kinds of reason an override may have, with their words. */
export const OVERRIDE_CHOICES = OVERRIDE_KINDS.map((kind) => ({ kind, words: OVERRIDE_WORDS[kind] }));

/** An override's reason in words: its kind, then what was written. */
export function overrideWords(override: { kind: OverrideKind; words: string }): string {
  return `${OVERRIDE_WORDS[override.kind]}: ${override.words}`;
}

/** A stated correction of a plant in words. */
export function correctionWords(
  pack: EffectivePack,
  correction: EvaluationRecord['corrections'][number],
): string {
  const fault = pack.faults.find((each) => each.id === correction.fault);
  const what =
    correction.says === 'never-planted'
      ? 'recorded as planted, was never put in'
      : 'ticked out, was still in the machine';
  return (
    `Corrected${correction.afterStart ? ' after the round had begun' : ''}: ` +
    `${fault ? faultName(fault) : correction.fault} ${what} (${correction.reason})`
  );
}

/**
 * What a decision of `competent` may pass over only with a second account's agreement: each critical error,
 * each planted stop that was missed or graded too low, and each planted stop that was struck from the record
 * once the round had begun. Empty for other decisions.
 */
export function agreementNeeded(
  pack: EffectivePack,
  record: EvaluationRecord,
  appraisal: Appraisal,
  decided: Decided,
): string[] {
  if (decided !== 'competent') return [];
  const stop = (id: string) => pack.faults.find((each) => each.id === id)?.grade === 'stop';
  return [
    ...record.criticalErrors.map(
      (each) =>
        'critical error: ' +
        `${pack.sheet.criticalErrors.find((error) => error.id === each.error)?.says ?? each.error}`,
    ),
    ...appraisal.analysis.detection.planted
      .filter((each) => each.criticalMiss)
      .map(
        (each) =>
          `planted stop ${each.found === 'found' ? 'graded too low' : 'not found unprompted'}: ` +
          `${faultName(each.fault)}`,
      ),
    ...record.corrections
      .filter((each) => each.says === 'never-planted' && each.afterStart && stop(each.fault))
      .map((each) => correctionWords(pack, each)),
  ];
}

/** A few words for a fault: its title, else its first cue. */
export function faultName(fault: {
  title?: string | undefined;
  cues: readonly { shows: string }[];
  id: string;
}): string {
  return fault.title ?? fault.cues[0]?.shows ?? fault.id;
}

function weighted(results: readonly CriterionResult[]): { score: number | null; weight: number } {
  const scored = results.filter((each) => each.credit !== null);
  const weight = scored.reduce((sum, each) => sum + each.criterion.weight, 0);
  if (weight === 0) return { score: null, weight };
  const credit = scored.reduce((sum, each) => sum + each.criterion.weight * each.credit!, 0);
  return { score: Math.round((credit / weight) * 10_000) / 100, weight };
}

/**
 * Standard error of a weighted mean over criteria, the criteria taken as a sample of what could be asked
 * (W. G. Cochran, Sampling Techniques, 1977, ratio form).
 */
function errorOfScore(results: readonly CriterionResult[]): number | null {
  const scored = results.filter((each) => each.credit !== null);
  const k = scored.length;
  if (k < 2) return null;
  const weight = scored.reduce((sum, each) => sum + each.criterion.weight, 0);
  const mean = scored.reduce((sum, each) => sum + each.criterion.weight * each.credit!, 0) / weight;
  const squares = scored.reduce((sum, each) => sum + (each.criterion.weight * (each.credit! - mean)) ** 2, 0);
  return (100 * Math.sqrt((squares * k) / (k - 1))) / weight;
}
