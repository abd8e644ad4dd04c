import { z } from 'zod';
import { type EffectivePack, type Grade, GRADES, UNTIL_BOUNDS } from '../catalogue';
import { caseItem, possibleCases } from '../drill';
import {
  compareBounds,
  compareWithKey,
  FINDER_ACTS,
  type FinderAct,
  type Grading,
  type GradingComparison,
  rightActs,
  rightBound,
} from '../grading';
import { type PracticeOutcome, type PracticeReview, worstOfEach } from '../practice';
import { type BenchCase, benchItem, benchKey } from './cases';
import type { BenchDeal } from './deal';

/** What a learner says of a finding: its grade, what to do, and by when where there is something to cure. */
export const benchAnswerSchema = z.strictObject({
  grade: z.enum(GRADES),
  act: z.enum(FINDER_ACTS),
  by: z.enum(UNTIL_BOUNDS).nullable(),
});
export type BenchAnswer = z.infer<typeof benchAnswerSchema>;

/** Why an answer contradicts itself, or null: what goes on has no date, what is cured has one. */
export function answerProblem({ grade, act, by }: BenchAnswer): string | null {
  if (act === 'go-on') return by === null ? null : 'what goes on has nothing to be cured by a time';
  if (act === 'stop-and-tag') return by === null ? null : 'what is tagged waits for whoever may clear it';
  if (by === null) return 'say by when it has to be cured';
  return grade === 'sound' ? 'a sound part needs nothing' : null;
}

/** An answer beside its key. */
export interface JudgedAnswer {
  key: Grading;
  acts: FinderAct[];
  gradeRight: boolean;
  actRight: boolean;
  /** How the time given stands to the right one; null where none was given or none is due. */
  by: 'same' | 'sooner' | 'later' | null;
  /** Grade and act right, and cured in time. */
  wholly: boolean;
}

/** Judges an answer by the key of its case. */
export function judgeAnswer(pack: EffectivePack, dealt: BenchCase, answer: BenchAnswer): JudgedAnswer {
  const key = benchKey(pack, dealt);
  const acts = rightActs(key);
  const bound = rightBound(key);
  const gradeRight = answer.grade === key.grade;
  const actRight = acts.includes(answer.act);
  const by = answer.by && bound ? compareBounds(answer.by, bound) : null;
  return { key, acts, gradeRight, actRight, by, wholly: gradeRight && actRight && by !== 'later' };
}

/** What became of the findings that were answered. */
export interface BenchResult {
  of: number;
  answered: number;
  grading: GradingComparison;
  /** Findings where what to do was right, and where the time given was too late. */
  actsRight: number;
  tooLate: number;
  /** Grade, act and time all right, or sooner than need be. */
  wholly: number;
}

type Answers = readonly (BenchAnswer | null)[];

/** The result of a bench from its answers, one place a case, null where none was given. */
export function benchResult(pack: EffectivePack, { cases }: BenchDeal, answers: Answers): BenchResult {
  const judged = cases.flatMap((dealt, i) => {
    const answer = answers[i];
    return answer ? [{ id: String(i), answer, judged: judgeAnswer(pack, dealt, answer) }] : [];
  });
  return {
    of: cases.length,
    answered: judged.length,
    grading: compareWithKey(
      judged.map(({ id, answer, judged: { key } }) => ({ id, given: answer.grade, key: key.grade })),
    ),
    actsRight: judged.filter((each) => each.judged.actRight).length,
    tooLate: judged.filter((each) => each.judged.by === 'later').length,
    wholly: judged.filter((each) => each.judged.wholly).length,
  };
}

/**
 * What a bench says about the memory of its items: right, right in grade alone, or wrong and mistaken for what. Several
 * readings of one gauge are one item, known as well as the worst of them.
 */
export function benchReviews(
  pack: EffectivePack,
  { cases }: BenchDeal,
  answers: Answers,
  at: string,
): PracticeReview[] {
  const reviews = cases.flatMap((dealt, i): PracticeReview[] => {
    const answer = answers[i];
    if (!answer) return [];
    const { gradeRight, wholly } = judgeAnswer(pack, dealt, answer);
    const outcome: PracticeOutcome = !gradeRight ? 'wrong' : wholly ? 'right' : 'nearly';
    return [
      {
        item: benchItem(dealt),
        at,
        outcome,
        mistakenFor: gradeRight || dealt.reading ? [] : itemsGraded(pack, dealt.checkpoint, answer.grade),
      },
    ];
  });
  return worstOfEach(reviews);
}

/** The cases of a check that have a grade: what a finding was mistaken for. */
const itemsGraded = (pack: EffectivePack, checkpoint: string, grade: Grade): string[] =>
  possibleCases(pack)
    .filter((each) => each.checkpoint === checkpoint && each.grade === grade)
    .map(caseItem);
