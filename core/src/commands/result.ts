import type { EffectivePack } from '../catalogue/compose';
import { hesitationAbove, median, medianAbsoluteDeviation } from '../statistics';
import type { Call } from './calls';
import { reversalsOf } from './deal';

/** How a call was answered: at once, too late, with something else, or not at all. */
export const ANSWERS = ['right', 'late', 'wrong', 'missed'] as const;
export type AnswerKind = (typeof ANSWERS)[number];

/** A call of a set with its answer. */
export interface Answer {
  call: string;
  kind: AnswerKind;
  /** From the call to the answer; null where nothing was timed. */
  seconds: number | null;
}

/** What a class asks of a set of calls before somebody works the machine. */
export interface CommandStandard {
  /** Calls of a set at least. */
  calls: number;
  /** Answers later than this are late. */
  seconds: number;
  /** Most wrong answers, and most late or missing ones. */
  wrong: number;
  late: number;
}

/** Where a class says nothing (from memory, to be set by the class): two dozen calls, none wrong, two late. */
export const USUAL_STANDARD: CommandStandard = { calls: 24, seconds: 2, wrong: 0, late: 2 };

/** What a class asks of a set of calls. */
export const commandStandard = ({ teaching }: Pick<EffectivePack, 'teaching'>): CommandStandard =>
  teaching.commands ?? USUAL_STANDARD;

/** Sets in a row that must meet the standard. */
export const SETS_TO_BE_READY = 2;

/** How one control was answered. */
export interface ControlAnswers {
  control: string;
  name: string;
  called: number;
  right: number;
  late: number;
  wrong: number;
  missed: number;
  /** Of the right and late answers, in seconds: the middle one, and the robust deviation; null where none was timed. */
  median: number | null;
  spread: number | null;
}

/** What a set of calls came to. */
export interface CommandResult {
  answers: Answer[];
  counts: Record<AnswerKind, number>;
  median: number | null;
  spread: number | null;
  /** The controls, the one with the most wrong and the slowest first. */
  controls: ControlAnswers[];
  /** Answers before which somebody hesitated, by their place in the set. */
  hesitations: number[];
  /** Pairs of opposites that followed one another at once, and how many there are. */
  reversals: { seen: number; of: number };
  /** Why the set does not meet the standard, in sentences; empty where it does. */
  unmet: string[];
}

/** A hesitation is at least this much slower than usual, in seconds, however even somebody is. */
const LEAST_HESITATION = 0.3;

const timed = (answers: readonly Answer[]) =>
  answers.flatMap(({ kind, seconds }) =>
    seconds !== null && (kind === 'right' || kind === 'late') ? [seconds] : [],
  );

const countsOf = (answers: readonly Answer[]): Record<AnswerKind, number> => {
  const counts = { right: 0, late: 0, wrong: 0, missed: 0 };
  for (const { kind } of answers) counts[kind] += 1;
  return counts;
};

const mayBe = (most: number) => (most === 0 ? 'none may be' : `at most ${most} may be`);
const times = (count: number, one: string, more: string) => (count === 1 ? `One ${one}` : `${count} ${more}`);

function unmetBy(answers: readonly Answer[], standard: CommandStandard): string[] {
  const { wrong, late, missed } = countsOf(answers);
  const behind = late + missed;
  return [
    ...(answers.length < standard.calls
      ? [`${times(answers.length, 'call', 'calls')} of the ${standard.calls} that are asked for.`]
      : []),
    ...(wrong > standard.wrong
      ? [`${times(wrong, 'wrong answer', 'wrong answers')}; ${mayBe(standard.wrong)}.`]
      : []),
    ...(behind > standard.late
      ? [`${times(behind, 'late or missing answer', 'late or missing answers')}; ${mayBe(standard.late)}.`]
      : []),
  ];
}

/**
 * What a set of calls came to. Somebody hesitates where an answer takes longer than `hesitationAbove` of their own times
 * in the set.
 */
export function commandResult(
  calls: readonly Call[],
  answers: readonly Answer[],
  standard: CommandStandard,
): CommandResult {
  const known = new Map(calls.map((each) => [each.id, each]));
  const own = timed(answers);
  const [middle, spread] = [median(own), medianAbsoluteDeviation(own)];
  const slow = hesitationAbove(own, LEAST_HESITATION) ?? Infinity;
  const controls = [...new Set(answers.map((each) => known.get(each.call)!.control))].map((control) => {
    const of = answers.filter((each) => known.get(each.call)!.control === control);
    return {
      control,
      name: known.get(of[0]!.call)!.controlName,
      called: of.length,
      ...countsOf(of),
      median: median(timed(of)),
      spread: medianAbsoluteDeviation(timed(of)),
    };
  });
  const followed = new Set(answers.slice(1).map((each, i) => `${answers[i]!.call} ${each.call}`));
  const reversals = reversalsOf(calls);
  return {
    answers: [...answers],
    counts: countsOf(answers),
    median: middle,
    spread,
    controls: controls.sort(
      (a, b) =>
        b.wrong + b.missed - (a.wrong + a.missed) ||
        (b.median ?? 0) - (a.median ?? 0) ||
        a.name.localeCompare(b.name),
    ),
    hesitations: answers.flatMap((each, i) => (each.seconds !== null && each.seconds > slow ? [i] : [])),
    reversals: {
      seen: reversals.filter(([a, b]) => followed.has(`${a} ${b}`)).length,
      of: reversals.length,
    },
    unmet: unmetBy(answers, standard),
  };
}

/** Whether the last sets of somebody, oldest first, make them ready for the machine's controls. */
export const isReadyBy = (sets: readonly Pick<CommandResult, 'unmet'>[]): boolean =>
  sets.length >= SETS_TO_BE_READY && sets.slice(-SETS_TO_BE_READY).every((each) => each.unmet.length === 0);
