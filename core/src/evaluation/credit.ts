import type { Criterion, EffectivePack } from '../catalogue';
import { earnedShare, isCriticalFlaw, judge, type Judgement } from '../procedure';
import { coverageShare, type RoundAnalysis, type RoundRecord } from '../round';
import type { EvaluationRecord } from './record';
import type { SequenceRecord } from './sequences';

/** How one criterion of the sheet came out. `credit` null while it is not scored or not applicable. */
export interface CriterionResult {
  criterion: Criterion;
  section: string;
  status: 'scored' | 'unscored' | 'not-applicable';
  credit: number | null;
  because: string;
  /** It was met in part, but what was missing is critical. */
  critical?: boolean;
  /** What the judge says of the session that answers it. */
  judged?: JudgedSequence;
}

/** A session of procedures with what the judge says of it. */
export interface JudgedSequence {
  sequence: SequenceRecord;
  judgement: Judgement;
}

/** What the judge says of a session; null where the class has none of its procedures. */
export function judgedSequence(pack: EffectivePack, sequence: SequenceRecord): JudgedSequence | null {
  const known = sequence.procedures.filter((id) => pack.procedures.some((each) => each.id === id));
  return known.length === 0 ? null : { sequence, judgement: judge(pack, known, sequence.trace) };
}

/**
 * The newest ended session that covers a procedure that a criterion asks for. Without one the trainer scores it as
 * done, prompted or not.
 */
function sequenceFor(criterion: Pick<Criterion, 'link'>, record: EvaluationRecord): SequenceRecord | null {
  const asked = criterion.link?.procedures ?? [];
  return (
    record.sequences.findLast(
      (each) => each.endedAt !== null && each.procedures.some((id) => asked.includes(id)),
    ) ?? null
  );
}

/** Whether the trainer scores a criterion: one that the round, or a judged session, answers is filled by that. */
export function scoredByTrainer(
  criterion: Pick<Criterion, 'kind' | 'link'>,
  record?: EvaluationRecord,
): boolean {
  if (criterion.kind !== 'linked') return true;
  return criterion.link?.measure === 'procedure' && !(record && sequenceFor(criterion, record));
}

/** What a criterion is scored from. */
interface Evidence {
  pack: EffectivePack;
  record: EvaluationRecord;
  round: RoundRecord;
  analysis: RoundAnalysis;
}

/** What a criterion earns, with why: from the trainer's scoring, or from the round that answers it. */
export function creditOf(criterion: Criterion, section: string, evidence: Evidence): CriterionResult {
  const { pack, record } = evidence;
  const result = (
    status: CriterionResult['status'],
    credit: number | null,
    because: string,
  ): CriterionResult => ({ criterion, section, status, credit, because });
  const sequence = criterion.link?.measure === 'procedure' ? sequenceFor(criterion, record) : null;
  if (sequence) return { ...result('scored', 0, ''), ...judgedCredit(criterion, sequence, pack) };
  if (!scoredByTrainer(criterion, record)) {
    const { credit, because } = linkedCredit(criterion, evidence);
    return credit === null ? result('not-applicable', null, because) : result('scored', credit, because);
  }
  const score = record.scores.get(criterion.id);
  if (!score) return result('unscored', null, 'not scored yet');
  if (score.result === 'na')
    return score.reason
      ? result('not-applicable', null, `not applicable: ${score.reason}`)
      : result('unscored', null, 'not applicable needs a reason');
  if (criterion.kind === 'levels' && score.value !== undefined)
    return result(
      'scored',
      Math.min(1, score.value / criterion.levels!),
      `level ${score.value} of ${criterion.levels}`,
    );
  if (criterion.kind === 'errors' && score.value !== undefined)
    return result(
      'scored',
      Math.max(0, 1 - score.value * (criterion.perError ?? 0.25)),
      `${score.value} errors`,
    );
  if (criterion.kind === 'timed' && score.value !== undefined)
    return result(
      'scored',
      score.result !== 'not' && score.value <= criterion.seconds! ? 1 : 0,
      `${score.value} s of ${criterion.seconds} s`,
    );
  const seen = criterion.link?.measure === 'procedure' ? ', as the trainer saw it' : '';
  if (score.result === 'done') return result('scored', 1, `done${seen}`);
  if (score.result === 'prompted')
    return result('scored', pack.sheet.promptCredit, `done when prompted${seen}`);
  return result('scored', 0, `not done${seen}`);
}

/** What a judged session earns for the procedures that a criterion asks for. */
function judgedCredit(
  criterion: Criterion,
  sequence: SequenceRecord,
  pack: EffectivePack,
): Pick<CriterionResult, 'credit' | 'because' | 'critical' | 'judged'> {
  const asked = criterion.link!.procedures!;
  const judged = judgedSequence(pack, sequence)!;
  const own = judged.judgement.steps.filter((each) => each.due && asked.includes(each.step.procedure));
  const right = own.filter((each) => each.credit === 1).length;
  const flaws = own.filter(isCriticalFlaw).length + judged.judgement.rules.length;
  return {
    credit: earnedShare(own, judged.judgement.rules),
    because:
      `${right} of ${own.length} steps right` +
      (flaws === 0 ? '' : `, ${flaws === 1 ? 'one critical flaw' : `${flaws} critical flaws`}`),
    critical: flaws > 0,
    judged,
  };
}

function linkedCredit(
  criterion: Criterion,
  { pack, round, analysis }: Evidence,
): { credit: number | null; because: string } {
  const link = criterion.link!;
  switch (link.measure) {
    case 'coverage': {
      const wanted = pack.checkpoints.filter(
        (each) =>
          (link.checkpoints ?? []).includes(each.id) ||
          (link.stations ?? []).includes(each.station) ||
          (!link.checkpoints && !link.stations),
      );
      const share = coverageShare(wanted, round.checks, pack.sheet.promptCredit);
      return {
        credit: share.share,
        because: `${share.done} of ${share.total} checks done, ${share.prompted} prompted`,
      };
    }
    case 'planted-faults-found-and-graded': {
      const { planted } = analysis.detection;
      if (planted.length === 0) return { credit: null, because: 'no fault was planted' };
      const credit = planted.reduce(
        (sum, each) =>
          sum +
          (each.found === 'missed'
            ? 0
            : (each.grade === each.key ? 1 : 0.5) *
              (each.found === 'prompted' ? pack.sheet.promptCredit : 1)),
        0,
      );
      const right = planted.filter((each) => each.found === 'found' && each.grade === each.key).length;
      return {
        credit: credit / planted.length,
        because: `${right} of ${planted.length} found unprompted and graded right`,
      };
    }
    case 'detection':
      return {
        credit: analysis.detection.hitRate,
        because: `${analysis.detection.hits} of ${analysis.detection.planted.length} planted faults found`,
      };
    case 'start-and-closure':
      return {
        credit:
          analysis.path.sequence.length === 0
            ? 0
            : (analysis.path.closed ? 0.5 : 0) + 0.5 * (analysis.start.share ?? 1),
        because: analysis.path.closed ? 'ring closed' : 'ring not closed',
      };
    case 'pace':
      return {
        credit: analysis.pace.plausible === null ? null : analysis.pace.plausible ? 1 : 0,
        because: analysis.pace.plausible ? 'honest pace' : 'faster than honest',
      };
    case 'hands-on':
      return {
        credit: analysis.handsOn.share ?? 0,
        because:
          `${analysis.handsOn.able} of ${analysis.handsOn.made} checks made by a method that can find ` +
          'their faults',
      };
    // Scored by the judge or the trainer: see creditOf.
    case 'procedure':
      return { credit: null, because: 'scored by the trainer' };
  }
}
