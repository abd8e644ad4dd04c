import { createEmptyCard, fsrs, Rating } from 'ts-fsrs';
import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { caseItem, dealDrill, drillResult, LOOK_ONLY, PERFECT, possibleCases, scriptedDrill } from '../drill';
import { judge, rightRun, stepResults, type Trace } from '../procedure';
import { forkliftPack } from '../testing';
import {
  drillReviews,
  isDue,
  itemStates,
  itemWords,
  numberItem,
  type PracticeOutcome,
  type PracticeReview,
  practiceWeights,
  remembered,
  stepItem,
  stepReviews,
} from './index';

const START = '2026-03-02T08:00:00.000Z';
const DAY = 86_400_000;
const after = (days: number) => new Date(Date.parse(START) + days * DAY).toISOString();
const pack = compose(forkliftPack(), { variant: 'diesel' });

/** Reviews of one item, each when it was due again. */
function whenDue(outcomes: readonly PracticeOutcome[]): { reviews: PracticeReview[]; intervals: number[] } {
  const reviews: PracticeReview[] = [];
  const intervals: number[] = [];
  let at = START;
  for (const outcome of outcomes) {
    reviews.push({ item: 'x', at, outcome });
    const { due } = itemStates(reviews).get('x')!;
    intervals.push(Math.round((Date.parse(due) - Date.parse(at)) / DAY));
    at = due;
  }
  return { reviews, intervals };
}

describe('spacing', () => {
  it('agrees with the published example of the scheduler', () => {
    // FSRS-6, default parameters without fuzz, thirteen reviews each when due: the test history that the
    // implementations of the scheduler publish (open-spaced-repetition), from memory, and computed below by ts-fsrs.
    const right = (n: number): PracticeOutcome[] => Array.from({ length: n }, () => 'right');
    const { intervals } = whenDue([...right(6), 'wrong', 'wrong', ...right(5)]);
    expect(intervals).toEqual([0, 2, 11, 46, 163, 498, 0, 0, 2, 4, 7, 12, 21]);
  });

  it("gives the dates that the package's own scheduler gives", () => {
    const own = fsrs({ enable_fuzz: false });
    const ratings = { right: Rating.Good, nearly: Rating.Hard, wrong: Rating.Again } as const;
    const { reviews } = whenDue(['right', 'nearly', 'right', 'wrong', 'right', 'right', 'nearly', 'right']);
    let card = createEmptyCard(new Date(START));
    for (const [i, { at, outcome }] of reviews.entries()) {
      ({ card } = own.next(card, new Date(at), ratings[outcome]));
      const state = itemStates(reviews.slice(0, i + 1)).get('x')!;
      expect(state).toMatchObject({
        due: card.due.toISOString(),
        stability: card.stability,
        difficulty: card.difficulty,
      });
    }
  });

  it('takes reviews in whatever order they come', () => {
    const { reviews } = whenDue(['right', 'wrong', 'right', 'nearly', 'right']);
    expect(itemStates([...reviews].reverse())).toEqual(itemStates(reviews));
  });

  it('forgets with time, and says when it is due', () => {
    const state = itemStates(whenDue(['right', 'right']).reviews).get('x')!;
    const later = [1, 5, 30, 200].map((days) => remembered(state, after(days)));
    expect(later).toEqual([...later].sort((a, b) => b - a));
    expect(isDue(state, state.last)).toBe(false);
    expect(isDue(state, state.due)).toBe(true);
    expect(remembered(state, state.due)).toBeCloseTo(0.9, 1);
  });
});

describe('what a drill says about memory', () => {
  const deal = dealDrill(pack, { form: 'round', seed: 4 });
  const reviewsOf = (learner: typeof PERFECT) =>
    drillReviews(pack, drillResult(pack, deal, scriptedDrill(pack, deal, learner)).cases, START);

  it('is right of every part for who does all', () => {
    expect(reviewsOf(PERFECT)).toEqual(
      deal.cases.map((each) => ({ item: caseItem(each), at: START, outcome: 'right', mistakenFor: [] })),
    );
  });

  it('is wrong where a look does not show it, and says what it was mistaken for', () => {
    const wrong = reviewsOf(LOOK_ONLY).filter((each) => each.outcome === 'wrong');
    expect(wrong.length).toBeGreaterThan(0);
    for (const { item, mistakenFor } of wrong) expect(mistakenFor).toContain(`${item.split('/')[0]}/sound`);
  });

  it('says nothing of parts that nothing was said of, and counts a guess by half', () => {
    const [first] = deal.cases;
    const fault = pack.faults.find((each) => each.id === first!.fault);
    const acts = [
      { kind: 'call', checkpoint: first!.checkpoint, grade: fault?.grade ?? 'sound' },
      { kind: 'end' },
    ] as const;
    expect(drillReviews(pack, drillResult(pack, deal, acts).cases, START)).toEqual([
      { item: caseItem(first!), at: START, outcome: 'nearly', mistakenFor: [] },
    ]);
  });
});

describe('what a session of start and stop says about memory', () => {
  const procedure = pack.procedures.find((each) => each.kind === 'startup')!;
  const right = rightRun(pack, [procedure.id]);
  const reviewsOf = (trace: Trace) =>
    stepReviews(stepResults(judge(pack, [procedure.id], trace), trace), START);

  it('is right of every step of a right run, and names the one left out', () => {
    expect(new Set(reviewsOf(right).map((each) => each.outcome))).toEqual(new Set(['right']));
    const left = right.events[2]!;
    const step = procedure.steps.find((each) => (each.token ?? each.id) === left.token)!;
    const without = { ...right, events: right.events.filter((each) => each !== left) };
    const wrong = reviewsOf(without).filter((each) => each.outcome === 'wrong');
    expect(wrong.map((each) => each.item)).toEqual([stepItem(step.id)]);
    expect(itemWords(pack, wrong[0]!.item)).toContain(step.do);
  });

  it('counts a step by half that had to be prompted', () => {
    const event = right.events[2]!;
    const prompted = {
      ...right,
      events: right.events.map((each) => (each === event ? { ...each, mark: 'prompted' as const } : each)),
    };
    expect(
      reviewsOf(prompted)
        .filter((each) => each.outcome !== 'right')
        .map((each) => each.outcome),
    ).toEqual(['nearly']);
  });
});

describe('an item in words', () => {
  it('names part and fault, step or number, and nothing of what the class has no more', () => {
    for (const each of possibleCases(pack)) expect(itemWords(pack, caseItem(each))).toMatch(/: /);
    for (const { steps } of pack.procedures)
      for (const { id } of steps) expect(itemWords(pack, stepItem(id))).toMatch(/: /);
    for (const { id, name } of pack.numbers) expect(itemWords(pack, numberItem(id))).toContain(name);
    for (const gone of [stepItem('no'), numberItem('no'), 'no/sound', `${pack.checkpoints[0]!.id}/no`])
      expect(itemWords(pack, gone)).toBeNull();
  });
});

describe('the choice of what comes next', () => {
  const items = possibleCases(pack).map(caseItem);
  const [a, b, c] = items as [string, string, string];
  const review = (item: string, outcome: PracticeOutcome, days: number, mistakenFor: string[] = []) => ({
    item,
    at: after(days),
    outcome,
    mistakenFor,
  });

  it('puts the forgotten, the weak and the never seen before what is well known', () => {
    const known = [0, 1, 5, 20].map((days) => review(a, 'right', days));
    const weak = [0, 1, 5, 20].map((days) => review(b, days === 20 ? 'right' : 'wrong', days));
    const weights = practiceWeights(items, itemStates([...known, ...weak]), after(25));
    expect(weights.get(b)!).toBeGreaterThan(2 * weights.get(a)!);
    expect(weights.get(c)!).toBeGreaterThan(2 * weights.get(a)!);
    const long = practiceWeights(items, itemStates(known), after(400));
    expect(long.get(a)!).toBeGreaterThan(weights.get(a)!);
  });

  it('brings back what was mistaken for what, until it is told apart', () => {
    const right = [a, b].map((item) => review(item, 'right', 0));
    const mistaken = [...right, review(a, 'wrong', 1, [b])];
    const weigh = (reviews: PracticeReview[]) =>
      practiceWeights(items, itemStates(reviews), after(2)).get(b)!;
    expect(weigh(mistaken)).toBeGreaterThan(weigh(right));
    expect(weigh([...mistaken, review(a, 'right', 1.5)])).toBe(weigh(right));
  });
});
