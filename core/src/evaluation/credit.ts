import type { Criterion, EffectivePack } from '../catalogue';
import { coverageShare, type RoundAnalysis, type RoundRecord } from '../round';
import type { EvaluationRecord } from './record';

/** How one criterion of the sheet came out. `credit` null while it is not scored or not applicable. */
export interface CriterionResult {
  criterion: Criterion;
  section: string;
  status: 'scored' | 'unscored' | 'not-applicable';
  credit: number | null;
  because: string;
}

/**
 * Whether the trainer scores a criterion. A link to a procedure is scored by the trainer as done, prompted or
 * not: nothing watches the sequence yet.
 */
export function scoredByTrainer(criterion: Pick<Criterion, 'kind' | 'link'>): boolean {
  return criterion.kind !== 'linked' || criterion.link?.measure === 'procedure';
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
  if (!scoredByTrainer(criterion)) {
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
    // Scored by the trainer: see scoredByTrainer.
    case 'procedure':
      return { credit: null, because: 'scored by the trainer' };
  }
}
