import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { forkliftPack } from '../testing';
import {
  agreementNeeded,
  appraise,
  deviceEventBody,
  drawableSignature,
  type EvaluationEventBody,
  foldEvaluation,
  readStoredEvents,
  type RecordedEvent,
  signatureProblem,
  stillPlanted,
  undoProblem,
} from './index';

const pack = compose(forkliftPack(), { variant: 'diesel' });
const script = (...bodies: EvaluationEventBody[]): RecordedEvent[] =>
  bodies.map((body, i) => ({
    id: `event-${i}`,
    at: new Date(Date.UTC(2026, 2, 2, 9, 0, i)).toISOString(),
    body,
  }));
const fold = (...bodies: EvaluationEventBody[]) => foldEvaluation(script(...bodies));
const planted = (fault: string): EvaluationEventBody => ({ kind: 'planted', fault });
const retrieved = (fault: string): EvaluationEventBody => ({ kind: 'retrieved', fault });
const started: EvaluationEventBody = { kind: 'round-started' };

describe('planted faults', () => {
  it('are in the machine again when planted again after they came out', () => {
    expect(stillPlanted(fold(planted('CF-F10'), retrieved('CF-F10'), planted('CF-F10')))).toEqual(['CF-F10']);
  });
  it('are in the machine when they were ticked out before they were put in', () => {
    expect(stillPlanted(fold(retrieved('CF-F10'), planted('CF-F10')))).toEqual(['CF-F10']);
  });
  it('are not taken off the record by an undo, which is a run act', () => {
    const record = fold(planted('CF-F10'), { kind: 'undone', event: 'event-0' });
    expect(stillPlanted(record)).toEqual(['CF-F10']);
    expect(undoProblem(record, 'event-0')).toMatch(/corrected with a reason/);
    const out = fold(planted('CF-F10'), retrieved('CF-F10'), { kind: 'undone', event: 'event-1' });
    expect(stillPlanted(out)).toEqual([]);
  });
  it('are corrected with a reason: never put in, or still in', () => {
    const correct = (says: 'never-planted' | 'still-in'): EvaluationEventBody => ({
      kind: 'plant-corrected',
      fault: 'CF-F10',
      says,
      reason: 'tapped the wrong line',
    });
    expect(fold(planted('CF-F10'), correct('never-planted'))).toMatchObject({
      planted: [],
      inMachine: [],
      corrections: [{ afterStart: false }],
    });
    expect(fold(planted('CF-F10'), retrieved('CF-F10'), correct('still-in')).inMachine).toEqual(['CF-F10']);
    expect(
      appraise(pack, fold(planted('CF-F10'), started, correct('never-planted')), []).reasons.map(
        (each) => each.text,
      ),
    ).toContainEqual(
      expect.stringMatching(
        /^Corrected after the round had begun: .*never put in \(tapped the wrong line\)$/,
      ),
    );
  });
  it('count for the operator only when they were in the machine as the round began', () => {
    const record = fold(
      planted('CF-F10'),
      planted('CF-F11'),
      retrieved('CF-F11'),
      started,
      planted('CF-F12'),
    );
    expect(record.planted).toEqual(['CF-F10']);
    expect(record.inMachine).toEqual(['CF-F10', 'CF-F12']);
  });
  it('follow a plain list of what was put in and taken out, whatever the order', () => {
    const faults = ['CF-F10', 'CF-F11', 'CF-F12'];
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.boolean(), fc.constantFrom(...faults)), { maxLength: 30 }), (acts) => {
        const inside = new Set<string>();
        for (const [puts, fault] of acts)
          if (puts) inside.add(fault);
          else inside.delete(fault);
        const record = fold(...acts.map(([puts, fault]) => (puts ? planted(fault) : retrieved(fault))));
        expect(new Set(record.inMachine)).toEqual(inside);
      }),
    );
  });
});

describe('undo', () => {
  const check: EvaluationEventBody = { kind: 'checked', checkpoint: 'CF-10', result: 'done' };
  it('takes back what came before it, and nothing that comes later', () => {
    expect(fold(started, check, { kind: 'undone', event: 'event-1' }).round.checks).toEqual([]);
    expect(fold(started, { kind: 'undone', event: 'event-2' }, check).round.checks.length).toBe(1);
  });
  it('of something unknown, taken back already, or decided is refused', () => {
    const record = fold(
      started,
      check,
      { kind: 'undone', event: 'event-1' },
      { kind: 'decided', outcome: 'not-yet' },
    );
    for (const id of ['event-1', 'event-3', 'event-9']) expect(undoProblem(record, id)).not.toBeNull();
  });
  it('of the end of the round opens it again', () => {
    const record = fold(started, check, { kind: 'round-ended' }, { kind: 'undone', event: 'event-2' });
    expect(record).toMatchObject({ endedAt: null, round: { duration: null } });
  });
});

describe('reports of "something else"', () => {
  const at = pack.faults.reduce(
    (by, each) => by.set(each.checkpoint, [...(by.get(each.checkpoint) ?? []), each]),
    new Map<string, typeof pack.faults>(),
  );
  const [checkpoint, faults] = [...at].find(
    ([, list]) => list.filter((each) => each.grade !== 'sound').length >= 2,
  )!;
  const [first, second] = faults.filter((each) => each.grade !== 'sound');
  const other: EvaluationEventBody = {
    kind: 'reported',
    checkpoint,
    fault: null,
    grade: 'stop',
    prompted: false,
    real: false,
  };
  const found = (...reports: EvaluationEventBody[]) => {
    const record = fold(planted(first!.id), planted(second!.id), started, ...reports, {
      kind: 'round-ended',
    });
    return appraise(pack, record, []).analysis.detection.hits;
  };
  it('count for one fault each', () => {
    expect(found(other)).toBe(1);
    expect(found(other, other)).toBe(2);
    expect(found({ ...other, fault: first!.id }, other)).toBe(2);
    expect(found({ ...other, fault: first!.id }, { ...other, fault: first!.id })).toBe(1);
  });
});

describe('a decision of competent', () => {
  const stop = pack.faults.find((each) => each.grade === 'stop' && each.plant)!;
  const needed = (...bodies: EvaluationEventBody[]) => {
    const record = fold(...bodies, { kind: 'round-ended' });
    return agreementNeeded(pack, record, appraise(pack, record, []), 'competent');
  };
  it('needs a second account over a critical error, and a planted stop missed or struck off', () => {
    expect(needed(started)).toEqual([]);
    expect(needed(started, { kind: 'critical-error', error: pack.sheet.criticalErrors[0]!.id })).toEqual([
      expect.stringMatching(/^critical error: /),
    ]);
    expect(needed(planted(stop.id), started)).toEqual([
      expect.stringMatching(/^planted stop not found unprompted: /),
    ]);
    const struck: EvaluationEventBody = {
      kind: 'plant-corrected',
      fault: stop.id,
      says: 'never-planted',
      reason: 'was never in there at all',
    };
    expect(needed(planted(stop.id), started, struck)).toEqual([expect.stringMatching(/^Corrected after/)]);
    expect(needed(planted(stop.id), struck, started)).toEqual([]);
  });
});

describe('signatures', () => {
  it('are drawn on the field and long enough to be one', () => {
    expect(signatureProblem('M10 10L120 60L300 90')).toBeNull();
    for (const path of [
      '',
      'M1 1',
      'M1 1L2 2',
      'M1 1L1e24 2',
      'M1 1L900 2',
      'M1 1L100 201',
      'L',
      'M10 10L120 60Z',
      'M10 10 L120 60',
    ])
      expect(signatureProblem(path)).not.toBeNull();
  });
  it('of an earlier version are drawn within the field whatever is stored', () => {
    expect(drawableSignature('M1 1L999 999L20 30')).toBe('M1 1L600 200L20 30');
    expect(drawableSignature('L1e24 4')).not.toMatch(/e/);
    expect(drawableSignature('nothing')).toBe('');
  });
});

describe('what a device may send', () => {
  it('is neither a take-over nor an agreement nor a typed signature', () => {
    for (const body of [
      { kind: 'taken-over', reason: 'mine now' },
      { kind: 'agreed', outcome: 'competent', words: 'I saw it too, all of it' },
      { kind: 'signed-by-name', role: 'trainer', name: 'Somebody Else' },
    ])
      expect(deviceEventBody.safeParse(body).success).toBe(false);
  });
  it('gives an override a kind and words of substance', () => {
    const decide = (override: unknown) =>
      deviceEventBody.safeParse({ kind: 'decided', outcome: 'competent', override }).success;
    expect(decide({ kind: 'conditions', words: 'ice on the ramp from ten o clock' })).toBe(true);
    expect(decide({ kind: 'conditions', words: '. . . . . . . . . . .' })).toBe(false);
    expect(decide({ kind: 'because', words: 'ice on the ramp from ten o clock' })).toBe(false);
  });
});

describe('events of version 1', () => {
  const stored = (body: unknown, id: string) => ({ id, at: '2026-03-02T09:00:00Z', body, version: 1 });
  it('have undone plants read as corrections, an early undo as a late one, a reason as an override', () => {
    const events = readStoredEvents([
      stored(planted('CF-F10'), 'a'),
      stored({ kind: 'undone', event: 'a' }, 'b'),
      stored({ kind: 'undone', event: 'd' }, 'c'),
      stored({ kind: 'arrived', station: 'st-01' }, 'd'),
      stored({ kind: 'decided', outcome: 'not-yet', reason: 'rushed' }, 'e'),
      stored({ kind: 'signed', role: 'trainer', strokes: 'M1 1L2 2' }, 'f'),
    ]);
    expect(events.map((each) => each.id)).toEqual(['a', 'b', 'd', 'c', 'e', 'f']);
    const record = foldEvaluation(events);
    expect(record).toMatchObject({
      inMachine: [],
      round: { arrivals: [] },
      decision: { override: { kind: 'other', words: 'rushed' } },
    });
  });
  it('that nothing can read are an error, not a guess', () => {
    expect(() => readStoredEvents([stored({ kind: 'danced' }, 'a')])).toThrow();
  });
});
