import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { rightRun } from '../procedure';
import { forkliftPack } from '../testing';
import { appraise } from './appraise';
import type { EvaluationEventBody } from './events';
import { foldEvaluation, lastUndoable } from './record';
import { bodiesOfTrace, openSequence, proceduresOf } from './sequences';

const pack = compose(forkliftPack(), { variant: 'diesel', features: {} });
const [START] = pack.procedures.filter((each) => each.kind === 'startup').map((each) => each.id);
const BEGAN = Date.parse('2026-03-02T08:00:00.000Z');
const id = (n: number) => `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`;
interface Given {
  /** Seconds by the clock of the device, since the beginning. */
  wall: number;
  body: EvaluationEventBody;
}
const fold = (given: readonly Given[]) =>
  foldEvaluation(
    given.map(({ wall, body }, n) => ({ id: id(n), at: new Date(BEGAN + wall * 1000).toISOString(), body })),
  );
const ticks = (s: number, run = 'page') => ({ run, s });
const started = (s = 0): EvaluationEventBody => ({
  kind: 'sequence-started',
  procedures: [START!],
  ticks: ticks(s),
});
const act = (token: string, s: number, run = 'page'): EvaluationEventBody => ({
  kind: 'act',
  token,
  ticks: ticks(s, run),
});

describe('a session of start and stop, folded from its events', () => {
  it('counts by the clock that only runs on, when the clock of the device is changed in the middle', () => {
    const { sequences } = fold([
      { wall: 0, body: started(100) },
      { wall: 5, body: act('CF-SU-1', 105) },
      { wall: 3605, body: act('CF-SU-2', 110) },
      { wall: -50, body: act('CF-SU-3', 120) },
    ]);
    expect(sequences[0]!.trace.events.map((each) => [each.at, each.unsure ?? false])).toEqual([
      [5, false],
      [10, false],
      [20, false],
    ]);
  });

  it('goes on by the instants after a reload or on another device, and is unsure where they run back', () => {
    const { sequences } = fold([
      { wall: 0, body: started(100) },
      { wall: 5, body: act('CF-SU-1', 105) },
      { wall: 30, body: act('CF-SU-2', 2, 'after a reload') },
      { wall: 34, body: act('CF-SU-3', 6, 'after a reload') },
      { wall: 20, body: act('CF-SU-4', 1, 'another device') },
    ]);
    expect(sequences[0]!.trace.events.map((each) => [each.at, each.unsure ?? false])).toEqual([
      [5, false],
      [30, false],
      [34, false],
      [34, true],
    ]);
  });

  it('takes marks on and off, ends acts, and takes back what is undone', () => {
    const given: Given[] = [
      { wall: 0, body: started() },
      { wall: 1, body: act('CF-SU-6', 1) },
      { wall: 8, body: { kind: 'act-ended', act: id(1), ticks: ticks(8) } },
      { wall: 9, body: { kind: 'act-marked', act: id(1), mark: 'wrong', failed: ['seated'] } },
      { wall: 10, body: { kind: 'act-marked', act: id(1), mark: 'done' } },
    ];
    const event = (events: readonly Given[]) => fold(events).sequences[0]!.trace.events[0];
    expect(event(given.slice(0, 4))).toMatchObject({ at: 1, end: 8, mark: 'wrong', failed: ['seated'] });
    expect(event(given)!.mark).toBeUndefined();
    const undone = [...given.slice(0, 3), { wall: 11, body: { kind: 'undone', event: id(2) } as const }];
    expect(event(undone)!.end).toBeUndefined();
    expect(lastUndoable(fold(given))!.id).toBe(id(4));
  });

  it('passes over what belongs to no session, and is open until it is ended', () => {
    expect(fold([{ wall: 0, body: act('CF-SU-1', 1) }]).sequences).toEqual([]);
    const open = [{ wall: 0, body: started() }];
    expect(openSequence(fold(open).sequences)).not.toBeNull();
    const over = [...open, { wall: 9, body: { kind: 'sequence-ended', ticks: ticks(9) } as const }];
    expect(openSequence(fold(over).sequences)).toBeNull();
    expect(fold(over).sequences[0]!.trace.ended).toBe(9);
  });

  it('comes back the same from the events that a trace is written as', () => {
    const trace = {
      ...rightRun(pack, [START!]),
      broken: [{ rule: pack.forbidden[0]!.id, at: 3 }],
      conditions: [{ says: 'engine still warm', lifts: ['CF-SU-8'] }],
    };
    let n = 500;
    const events = bodiesOfTrace(trace, [START!], 'start', () => id(n++));
    const { sequences } = foldEvaluation(
      events.map((each) => ({
        id: each.id,
        at: new Date(BEGAN + each.at * 1000).toISOString(),
        body: each.body,
      })),
    );
    const back = sequences[0]!.trace;
    expect(back.events.map(({ id: _, ...each }) => each)).toEqual(trace.events);
    expect(back.ended).toBe(trace.ended);
    expect(back.broken[0]).toMatchObject({ rule: pack.forbidden[0]!.id, at: 3 });
    expect(back.conditions[0]).toMatchObject({ says: 'engine still warm' });
    expect(sequences[0]!.part).toBe('start');
  });
});

describe('the sheet, filled by the judge', () => {
  const procedures = proceduresOf(pack, 'start');
  const stamped = (
    change: (bodies: ReturnType<typeof bodiesOfTrace>) => ReturnType<typeof bodiesOfTrace> = (b) => b,
  ) => {
    let n = 500;
    const bodies = change(bodiesOfTrace(rightRun(pack, procedures), procedures, 'start', () => id(n++)));
    const record = foldEvaluation(
      bodies.map((each) => ({
        id: each.id,
        at: new Date(BEGAN + each.at * 1000).toISOString(),
        body: each.body,
      })),
    );
    const appraisal = appraise(pack, record, []);
    const criterion = appraisal.sections
      .flatMap((each) => each.criteria)
      .find((each) => each.judged !== undefined)!;
    return { appraisal, criterion };
  };

  it('takes the place of the trainer: a right start earns all of it', () => {
    const { criterion, appraisal } = stamped();
    expect(criterion.credit).toBe(1);
    expect(criterion.because).toMatch(/^(\d+) of \1 steps right$/);
    expect(appraisal.unscored).not.toContain(criterion.criterion.id);
  });

  it('a critical step left out fails a critical criterion, and says so', () => {
    const critical = pack.procedures.find((each) => each.id === START)!.steps.find((each) => each.critical)!;
    const { criterion, appraisal } = stamped((bodies) =>
      bodies.filter(({ body }) => !(body.kind === 'act' && body.token === critical.id)),
    );
    expect(criterion.credit).toBeGreaterThan(0);
    expect(criterion.credit).toBeLessThan(1);
    expect(criterion.critical).toBe(true);
    if (criterion.criterion.critical)
      expect(appraisal.reasons.map((each) => each.text).join(' ')).toMatch(
        /Critical criterion not met: .*one critical flaw/,
      );
  });

  it('is asked of the trainer as long as nothing was stamped', () => {
    const appraisal = appraise(pack, foldEvaluation([]), []);
    const asked = pack.sheet.sections
      .flatMap((each) => each.criteria)
      .filter((each) => each.link?.measure === 'procedure');
    expect(asked.length).toBeGreaterThan(0);
    for (const each of asked) expect(appraisal.unscored).toContain(each.id);
  });
});
